package reference

import (
	"kolvan/core/rig"
	"kolvan/core/units"
)

// Connector is one power connector with its 12 V capacity and its pin map.
type Connector struct {
	Connector rig.Connector `json:"connector"`
	Plan      units.Watt    `json:"plan_w"`
	Rating    units.Watt    `json:"rating_w"`
	Stated    bool          `json:"stated"` // only the part itself can say what it carries
	Sensed    bool          `json:"sensed"` // its sense pins lower what it carries
	// OpenVoltage marks a kind that does not fix its voltage: it is a fact of
	// both halves.
	OpenVoltage bool     `json:"open_voltage"`
	Pins        []string `json:"pins"` // pin 1 first, facing the socket
	Rows        []int    `json:"rows"` // pins in each row, the latch beside the last; none for one row
	Origin
}

// Live counts the contacts at 12 V.
func (c Connector) Live() int {
	n := 0
	for _, pin := range c.Pins {
		if pin == "+12" {
			n++
		}
	}
	return n
}

// Mating is how a plug of one kind enters a socket of another: for each pin of
// the plug the pin of the socket, 0 for none.
type Mating struct {
	Plug      rig.Connector `json:"plug"`
	Socket    rig.Connector `json:"socket"`
	Pins      []int         `json:"pins"`
	Lookalike bool          `json:"lookalike"`
	Origin
}

// Capacity is what a mated pair carries at 12 V.
type Capacity struct {
	Plan     units.Amp // planned for; a risk above it
	Rating   units.Amp // danger above it
	Contacts int       // mated at 12 V
	By       rig.Connector
}

// twelve is the voltage the capacities of the connector table are given at.
const twelve units.Volt = 12

// Connector returns the row of a connector, or nil.
func (t *Tables) Connector(name rig.Connector) *Connector {
	return t.byName[name]
}

// Enters returns how the plug enters the socket; false when it does not.
func (t *Tables) Enters(plug, socket rig.Connector) (Mating, bool) {
	if plug == socket {
		return Mating{Plug: plug, Socket: socket}, true
	}
	for _, m := range t.Matings {
		if m.Plug == plug && m.Socket == socket {
			return m, true
		}
	}
	return Mating{}, false
}

// Mate returns what the pair carries with the contacts actually mated. The side
// with fewer contacts at 12 V decides, the lesser rating where they are equal.
// It is false when the two do not mate, or only the part itself can say.
func (t *Tables) Mate(plug, socket rig.Connector) (Capacity, bool) {
	m, ok := t.Enters(plug, socket)
	p, s := t.Connector(plug), t.Connector(socket)
	if !ok || p == nil || s == nil || p.Stated || s.Stated {
		return Capacity{}, false
	}
	mated := t.matedAt12(p, s, m)
	by := p
	if s.Live() < p.Live() || s.Live() == p.Live() && s.Rating < p.Rating {
		by = s
	}
	if mated == 0 {
		return Capacity{By: by.Connector}, true
	}
	share := float64(mated) / float64(by.Live())
	return Capacity{
		Plan:     units.Watt(share * float64(by.Plan)).Over(twelve),
		Rating:   units.Watt(share * float64(by.Rating)).Over(twelve),
		Contacts: mated,
		By:       by.Connector,
	}, true
}

func (t *Tables) matedAt12(plug, socket *Connector, m Mating) int {
	if m.Pins == nil {
		return plug.Live()
	}
	n := 0
	for i, to := range m.Pins {
		if to > 0 && plug.Pins[i] == "+12" && socket.Pins[to-1] == "+12" {
			n++
		}
	}
	return n
}
