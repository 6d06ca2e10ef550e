// Command quayside runs the harbour office.
package main

import (
	"log"
	"net/http"
	"os"

	"harbour.example/quayside/booking"
	"harbour.example/quayside/desk"
	"harbour.example/quayside/domain"
	"harbour.example/quayside/dues"
	"harbour.example/quayside/radio"
	"harbour.example/quayside/store"
	"harbour.example/quayside/tides"
)

func main() {
	r := &radio.Radio{Channel: 12, Log: log.Default()}
	s, err := store.Open("postgres", os.Getenv("QUAYSIDE_DB"), r)
	if err != nil {
		log.Fatal(err)
	}
	d := &desk.Desk{
		Booking: booking.New(s, r),
		Dues:    dues.New(s, domain.Tariff(1250)),
		Tides:   tides.NewService(),
	}
	log.Fatal(http.ListenAndServe(":8080", d.Routes()))
}
