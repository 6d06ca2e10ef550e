// Package settings reads the settings with which the office is put together.
package settings

import (
	"os"
	"strconv"
)

// MaxNights is the longest stay.
func MaxNights() int {
	if n, err := strconv.Atoi(os.Getenv("QUAYSIDE_MAX_NIGHTS")); err == nil {
		return n
	}
	return 30
}
