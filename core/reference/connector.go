package reference

import (
	"cmp"
	"slices"

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
	OpenVoltage bool `json:"open_voltage"`
	// Host marks a kind that computers take their power by, Processor one that feeds the
	// processor alone, the first of them the usual one.
	Host bool `json:"host"`
	// Card marks one that cards take their power by.
	Card      bool `json:"card"`
	Processor bool `json:"processor"`
	// Negotiates marks a kind whose two sides agree on the voltage, OwnMap one of which
	// every part says for itself what its pins carry, Coaxial a round one whose parts say
	// its size and which contact is ground.
	Negotiates bool `json:"negotiates"`
	OwnMap     bool `json:"own_map"`
	Coaxial    bool `json:"coaxial"`
	// Unstated are the amps of a plug that states none: quiet up to the first, dangerous
	// above the second. Zero for the figures that hold for every other kind.
	Unstated [2]units.Amp `json:"unstated_a"`
	// Bend is how far its lead stays straight behind the plug; 0 for the usual.
	Bend units.Millimetre `json:"bend_mm"`
	Pins []string         `json:"pins"` // pin 1 first, facing the socket
	Rows []int            `json:"rows"` // pins in each row, the latch beside the last; none for one row
	// Shell is its outline as one sees it: latch, bevelled, l-key, round; none for a
	// plain box.
	Shell string `json:"shell"`
	Origin

	place, live, grounds int
}

// Live counts the contacts at 12 V.
func (c *Connector) Live() int { return c.live }

// Grounds counts the contacts of ground.
func (c *Connector) Grounds() int { return c.grounds }

// A Pair is a plug of one kind at a socket of another.
type Pair struct {
	Mating
	Enters  bool
	Listed  bool // the table says what it carries: neither half has to
	Carries Capacity
	By      *Connector // the half that decides what it carries
	// Mapped says that the table has the pins of both halves; V33 and TurnOn, that both
	// have those.
	Mapped, V33, TurnOn bool
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
	Stated   bool // a half says so itself, in a figure that is rounded
}

// twelve is the voltage the capacities of the connector table are given at.
const twelve units.Volt = 12

// Kind is the row of a connector; an empty one for a kind nobody knows.
func (t *Tables) Kind(name rig.Connector) *Connector { return t.byName[name].OrNone() }

// OrNone is the row, or an empty one for none.
func (c *Connector) OrNone() *Connector {
	if c == nil {
		return &noConnector
	}
	return c
}

var noConnector Connector

// BendOf is how far a lead stays straight behind its plug.
func (t *Tables) BendOf(name rig.Connector) units.Millimetre {
	return cmp.Or(t.Kind(name).Bend, t.PlugBend)
}

// ProcessorPlug is the usual plug of a processor.
func (t *Tables) ProcessorPlug() rig.Connector {
	return t.Connectors[slices.IndexFunc(t.Connectors, func(c Connector) bool { return c.Processor })].Connector
}

// Connector returns the row of a connector, or nil.
func (t *Tables) Connector(name rig.Connector) *Connector {
	return t.byName[name]
}

// Pair returns a plug at a socket, of which either may be of no known kind.
func (t *Tables) Pair(plug, socket *Connector) *Pair {
	if plug == nil || socket == nil {
		return &Pair{}
	}
	return &t.pairs[plug.place*len(t.Connectors)+socket.place]
}

// Enters returns how the plug enters the socket; false when it does not.
func (t *Tables) Enters(plug, socket rig.Connector) (Mating, bool) {
	if plug == socket {
		return Mating{Plug: plug, Socket: socket}, true
	}
	pair := t.Pair(t.Connector(plug), t.Connector(socket))
	return pair.Mating, pair.Enters
}

// pairUp numbers the connectors and works out every pair of them once: rigs are
// judged many thousands of times.
func (t *Tables) pairUp() {
	t.byName = make(map[rig.Connector]*Connector, len(t.Connectors))
	for i := range t.Connectors {
		c := &t.Connectors[i]
		c.place, c.live, c.grounds = i, count(c.Pins, "+12"), count(c.Pins, "GND")
		t.byName[c.Connector] = c
	}
	for i := range t.Connectors {
		for j := range t.Connectors {
			t.pairs = append(t.pairs, t.pair(&t.Connectors[i], &t.Connectors[j]))
		}
	}
}

func count(pins []string, name string) (n int) {
	for _, pin := range pins {
		if pin == name {
			n++
		}
	}
	return n
}

func (t *Tables) pair(plug, socket *Connector) Pair {
	p := Pair{Mating: Mating{Plug: plug.Connector, Socket: socket.Connector}, Enters: plug == socket}
	for _, m := range t.Matings {
		if !p.Enters && m.Plug == plug.Connector && m.Socket == socket.Connector {
			p.Mating, p.Enters = m, true
		}
	}
	p.Mapped = len(plug.Pins) > 0 && len(socket.Pins) > 0
	both := func(pin string) bool { return slices.Contains(plug.Pins, pin) && slices.Contains(socket.Pins, pin) }
	p.V33, p.TurnOn = both("+3.3"), both("turn-on")
	if p.Enters && !plug.Stated && !socket.Stated {
		p.Listed, p.By = true, plug
		if s := socket; s.Live() < plug.Live() || s.Live() == plug.Live() && s.Rating < plug.Rating {
			p.By = s
		}
		p.Carries = mated(plug, socket, p.By, p.Mating)
	}
	return p
}

// mated is what the pair carries with the contacts actually mated. The side with
// fewer contacts at 12 V decides, the lesser rating where they are equal.
func mated(plug, socket, by *Connector, m Mating) Capacity {
	mated := matedAt12(plug, socket, m)
	if mated == 0 {
		return Capacity{By: by.Connector}
	}
	share := float64(mated) / float64(by.Live())
	return Capacity{
		Plan:     units.Watt(share * float64(by.Plan)).Over(twelve),
		Rating:   units.Watt(share * float64(by.Rating)).Over(twelve),
		Contacts: mated,
		By:       by.Connector,
	}
}

func matedAt12(plug, socket *Connector, m Mating) int {
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
