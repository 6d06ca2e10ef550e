package booking

import (
	"harbour.example/quayside/store/rows"
)

// All returns the bookings as the table has them.
func (s *Service) All() ([]rows.Booking, error) { return s.store.Bookings() }
