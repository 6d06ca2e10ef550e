package tides

import (
	"time"

	"harbour.example/quayside/domain"
)

// Service answers for the tides.
type Service struct {
	table *table
}

// NewService returns the service.
func NewService() *Service { return &Service{table: openTable()} }

// Lowest returns the lowest tide of a day.
func (s *Service) Lowest(day time.Time) domain.Tide {
	lowest := domain.Tide{At: day, Level: 1 << 30}
	for _, t := range s.table.on(day) {
		if t.Level < lowest.Level {
			lowest = t
		}
	}
	return lowest
}
