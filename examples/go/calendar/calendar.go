// Package calendar knows on which days the harbour is closed.
package calendar

import (
	"time"

	"harbour.example/quayside/store/holidays"
)

// Closed reports whether the harbour is closed on a day.
func Closed(day time.Time) bool {
	return holidays.Load()[day.Format("01-02")]
}
