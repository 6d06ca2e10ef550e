// Package holidays reads the table of closed days.
package holidays

// Load returns the closed days as month-day.
func Load() map[string]bool {
	return map[string]bool{"12-25": true, "01-01": true}
}
