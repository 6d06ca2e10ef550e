package desk

import (
	"fmt"
	"net/http"

	"harbour.example/quayside/booking"
	"harbour.example/quayside/domain"
	"harbour.example/quayside/dues"
)

func (d *Desk) book(w http.ResponseWriter, r *http.Request) {
	stay, err := parseStay(r)
	if err == nil && booking.TooLong(stay) {
		err = errTooLong
	}
	if err != nil {
		http.Error(w, err.Error(), http.StatusBadRequest)
		return
	}
	v := domain.Vessel{CallSign: r.FormValue("vessel"), Class: domain.Yacht, Draught: 180}
	b, err := d.Booking.Book(v, stay, d.Tides.Lowest(stay.Arrival))
	if err != nil {
		http.Error(w, err.Error(), http.StatusConflict)
		return
	}
	due, err := d.Dues.Charge(b)
	if err != nil {
		http.Error(w, err.Error(), http.StatusInternalServerError)
		return
	}
	fmt.Fprintln(w, b.Berth, dues.Reminder(due))
}
