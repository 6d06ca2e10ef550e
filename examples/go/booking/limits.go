package booking

import (
	"harbour.example/quayside/app/settings"
	"harbour.example/quayside/domain"
)

// TooLong reports whether a stay is longer than the harbour allows.
func TooLong(s domain.Stay) bool { return s.Nights() > settings.MaxNights() }
