// Package tides has handler, service and table of the tides side by side, as
// many services do.
package tides

import (
	"fmt"
	"net/http"
	"time"
)

// Handler shows the day's tides.
type Handler struct {
	table *table
}

// NewHandler returns the handler of the tide board.
func NewHandler() *Handler { return &Handler{table: openTable()} }

// ServeHTTP shows the tides of today.
func (h *Handler) ServeHTTP(w http.ResponseWriter, _ *http.Request) {
	for _, t := range h.table.on(time.Now()) {
		fmt.Fprintln(w, t.At.Format(time.Kitchen), t.Level)
	}
}
