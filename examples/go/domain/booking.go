package domain

// State is where a booking stands.
type State int

// The states of a booking.
const (
	Asked State = iota
	Confirmed
	Cancelled
)

// Booking is a berth taken by a vessel for a stay.
type Booking struct {
	Vessel Vessel
	Berth  BerthID
	Stay   Stay
	State  State
}
