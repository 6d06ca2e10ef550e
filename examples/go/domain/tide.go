package domain

import (
	"time"
)

// Tide is the water's level above chart datum at a time.
type Tide struct {
	At    time.Time
	Level int
}
