package desk

import (
	"errors"
	"net/http"
	"time"

	"harbour.example/quayside/domain"
)

var errTooLong = errors.New("longer than the harbour allows")

func parseStay(r *http.Request) (domain.Stay, error) {
	from, err := time.Parse(time.DateOnly, r.FormValue("arrival"))
	if err != nil {
		return domain.Stay{}, err
	}
	to, err := time.Parse(time.DateOnly, r.FormValue("departure"))
	return domain.Stay{Arrival: from, Departure: to}, err
}
