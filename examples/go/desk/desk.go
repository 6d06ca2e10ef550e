// Package desk is the web front end.
package desk

import (
	"net/http"

	"harbour.example/quayside/booking"
	"harbour.example/quayside/dues"
	"harbour.example/quayside/tides"
)

// Desk has the pages of the front desk.
type Desk struct {
	Booking *booking.Service
	Dues    *dues.Service
	Tides   *tides.Service
}

// Routes returns the pages by their paths.
func (d *Desk) Routes() http.Handler {
	mux := http.NewServeMux()
	mux.HandleFunc("POST /bookings", d.book)
	mux.HandleFunc("GET /bookings", d.list)
	mux.Handle("GET /tides", tides.NewHandler())
	return mux
}
