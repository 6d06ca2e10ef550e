package domain

import (
	"harbour.example/quayside/calendar"
)

// Plan says which berths are free.
type Plan struct {
	Bookings []Booking
}

// Free reports whether a berth is free for a stay.
func (p Plan) Free(id BerthID, s Stay) bool {
	if calendar.Closed(s.Arrival) {
		return false
	}
	for _, b := range p.Bookings {
		if b.Berth == id && b.State != Cancelled && b.Stay.Overlaps(s) {
			return false
		}
	}
	return true
}
