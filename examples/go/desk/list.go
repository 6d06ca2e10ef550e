package desk

import (
	"fmt"
	"net/http"
)

func (d *Desk) list(w http.ResponseWriter, _ *http.Request) {
	all, err := d.Booking.All()
	if err != nil {
		http.Error(w, err.Error(), http.StatusInternalServerError)
		return
	}
	for _, b := range all {
		fmt.Fprintln(w, b.CallSign, b.Berth)
	}
}
