// Package booking takes bookings of berths.
package booking

import (
	"errors"

	"harbour.example/quayside/domain"
	"harbour.example/quayside/radio"
	"harbour.example/quayside/store"
)

// ErrNoBerth tells that every berth is taken.
var ErrNoBerth = errors.New("no berth is free")

// Service takes and cancels bookings.
type Service struct {
	store *store.Store
	radio *radio.Radio
}

// New returns a service.
func New(s *store.Store, r *radio.Radio) *Service { return &Service{store: s, radio: r} }

// Book finds a berth and takes it.
func (s *Service) Book(v domain.Vessel, stay domain.Stay, t domain.Tide) (domain.Booking, error) {
	if err := stay.Check(); err != nil {
		return domain.Booking{}, err
	}
	berths, err := s.store.Berths()
	if err != nil {
		return domain.Booking{}, err
	}
	plan := domain.Plan{}
	for _, b := range berths {
		if !b.Takes(v, t) || !plan.Free(b.ID, stay) {
			continue
		}
		booking := domain.Booking{Vessel: v, Berth: b.ID, Stay: stay, State: domain.Confirmed}
		if err := s.store.Save(booking); err != nil {
			return booking, err
		}
		s.radio.Say(v.CallSign, "welcome")
		return booking, nil
	}
	return domain.Booking{}, ErrNoBerth
}
