// Package rows has the rows of the tables as Go types.
package rows

// Berth is a row of the table berth.
type Berth struct {
	Number  int
	DepthCM int
}

// Booking is a row of the table booking.
type Booking struct {
	CallSign string
	Berth    int
}
