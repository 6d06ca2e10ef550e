// Package dues charges harbour dues.
package dues

import (
	"harbour.example/quayside/domain"
	"harbour.example/quayside/store"
)

// Service charges harbour dues.
type Service struct {
	store  *store.Store
	tariff domain.Tariff
}

// New returns a service.
func New(s *store.Store, t domain.Tariff) *Service { return &Service{store: s, tariff: t} }

// Charge charges a stay.
func (s *Service) Charge(b domain.Booking) (domain.Due, error) {
	due := s.tariff.Due(b.Vessel, b.Stay)
	return due, s.store.EnterDue(due)
}
