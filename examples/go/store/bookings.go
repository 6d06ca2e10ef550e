package store

import (
	"harbour.example/quayside/domain"
	"harbour.example/quayside/store/rows"
)

// Bookings returns the rows of all bookings.
func (s *Store) Bookings() ([]rows.Booking, error) {
	return query(s.db, "SELECT call_sign, berth FROM booking", func(scan scanner) (rows.Booking, error) {
		var b rows.Booking
		return b, scan(&b.CallSign, &b.Berth)
	})
}

// Save writes a booking.
func (s *Store) Save(b domain.Booking) error {
	_, err := s.db.Exec("INSERT INTO booking VALUES (?, ?)", b.Vessel.CallSign, int(b.Berth))
	return err
}
