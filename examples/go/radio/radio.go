// Package radio speaks to vessels.
package radio

import (
	"log"
)

// Radio speaks on a channel.
type Radio struct {
	Channel int
	Log     *log.Logger
}

// Say speaks to a vessel.
func (r *Radio) Say(callSign, text string) {
	r.Log.Printf("VHF %d: %s, %s", r.Channel, callSign, text)
}
