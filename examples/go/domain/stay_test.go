package domain

import (
	"testing"
	"time"
)

func TestNights(t *testing.T) {
	day := time.Date(2026, 5, 1, 12, 0, 0, 0, time.UTC)
	if n := (Stay{day, day.AddDate(0, 0, 3)}).Nights(); n != 3 {
		t.Errorf("%d nights, want 3", n)
	}
}
