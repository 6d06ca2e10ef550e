package domain

// Draught is how deep a hull or a berth is, in centimetres.
type Draught int

// Class is what a vessel is, for the tariff.
type Class int

// The classes of vessels.
const (
	Dinghy Class = iota + 1
	Yacht
	Trawler
	Coaster
)

// Vessel is a vessel that calls at the harbour.
type Vessel struct {
	CallSign string
	Class    Class
	Draught  Draught
}
