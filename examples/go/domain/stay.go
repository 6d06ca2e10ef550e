package domain

import (
	"errors"
	"time"
)

// ErrBackwards tells a stay that ends before it begins.
var ErrBackwards = errors.New("departure before arrival")

// Stay is the time from arrival to departure.
type Stay struct {
	Arrival, Departure time.Time
}

// Check reports what is wrong with a stay.
func (s Stay) Check() error {
	if s.Departure.Before(s.Arrival) {
		return ErrBackwards
	}
	return nil
}

// Nights is how many nights the stay has.
func (s Stay) Nights() int { return int(s.Departure.Sub(s.Arrival).Hours() / 24) }

// Overlaps reports whether two stays share a night.
func (s Stay) Overlaps(o Stay) bool {
	return s.Arrival.Before(o.Departure) && o.Arrival.Before(s.Departure)
}
