// Package domain holds the rules of the harbour.
package domain

import (
	"harbour.example/quayside/store/rows"
)

// BerthID is the painted number of a berth.
type BerthID int

// Berth is a place to lie at the quay.
type Berth struct {
	ID    BerthID
	Depth Draught
}

// FromRow builds a berth straight from a row of the table.
func FromRow(r rows.Berth) Berth {
	return Berth{ID: BerthID(r.Number), Depth: Draught(r.DepthCM)}
}

// Takes reports whether a vessel can lie here at a tide.
func (b Berth) Takes(v Vessel, t Tide) bool {
	return v.Draught < b.Depth+Draught(t.Level)
}
