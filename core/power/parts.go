// Package power works out who feeds whom and judges it. It is laid out as the
// way of the data, each file looking only back: what the parts are (parts.go),
// what is joined with what (nets.go), how the card divides its watts (card.go),
// what every end carries (currents.go), what the joints allow (fed.go, volts.go, backfeed.go, contract.go, pins.go,
// switching.go), what that means for connectors and supplies (limits.go,
// supplies.go), and the table of all rules (rules.go).
//
// Every load is a range: what is known has both ends alike, a missing fact the
// ends its kind allows. A rule that holds over the whole range is certain.
package power

import (
	"strconv"

	"kolvan/core/reference"
	"kolvan/core/rig"
	"kolvan/core/units"
)

// Watts is a power, as far as it is known.
type Watts = units.Range[units.Watt]

// Amps is a current, as far as it is known.
type Amps = units.Range[units.Amp]

// mostCard and mostHost bound what nobody told.
const (
	mostCard units.Watt = 675 // the slot and one card 16-pin
	mostHost units.Watt = 500
	mostAmps units.Amp  = 200
)

// kind says what an end of a lead is plugged into.
type kind uint8

const (
	nothing kind = iota // a free end, or one that nobody told
	aSupply
	aStage
	aLead
	theCard
	theHost
)

// port is a place of a part where a plug goes in; at is −1 where only the part
// is told.
type port struct {
	kind     kind
	part, at int
}

// maybe is what the netlist keeps of a fact: many are looked at for every end.
type maybe[T any] struct {
	Value T
	Known bool
}

func maybeOf[T any](f *rig.Fact[T]) maybe[T] { return maybe[T]{f.Value, f.Known} }

// socket is what stands at a port.
type socket struct {
	connector maybe[rig.Connector]
	current   maybe[units.Amp]
	sense     maybe[units.Watt]
	voltage   maybe[units.Volt]
	off       units.Volt // the tolerance of that
	barrel    maybe[rig.Barrel]
	negative  bool                 // of a round plug: its centre is ground
	shell     maybe[rig.Connector] // of a kind of its own: the kind that it looks like
	pins      []rig.Pin
}

// partNamed finds a part by its name. Rigs have few parts: looking through them is
// quicker than keeping an index of every rig that is judged.
func (n *Network) partNamed(name string) port {
	if name == "" {
		return port{nothing, 0, -1}
	}
	r := n.rig
	for i := range r.Supplies {
		if r.Supplies[i].Name == name {
			return port{aSupply, i, -1}
		}
	}
	switch name {
	case rig.CardPart:
		return port{theCard, 0, -1}
	case rig.HostPart:
		return port{theHost, 0, -1}
	}
	for i := range r.Route.Stages {
		if r.Route.Stages[i].Name == name {
			return port{aStage, i, -1}
		}
	}
	for i := range r.Leads {
		if r.Leads[i].Name == name {
			return port{aLead, i, -1}
		}
	}
	return port{nothing, 0, -1}
}

// source finds the port a source end comes from.
func (n *Network) source(end *rig.LeadEnd) port {
	p := n.partNamed(end.Part)
	switch p.kind {
	case aSupply:
		p.at = outletAt(n.rig.Supplies[p.part].Outlets, end.At)
	case aStage:
		p.at = outletAt(n.rig.Route.Stages[p.part].Outlets, end.At)
	case theHost:
		p.at = outletAt(n.rig.Host.Outlets, end.At)
	case aLead:
		for j, free := range n.rig.Leads[p.part].To {
			if free.Part == "" && free.At == end.At {
				p.at = j
			}
		}
	}
	return p
}

// load finds the port a load end goes to. A card with one plug has no other.
func (n *Network) load(end *rig.LeadEnd) port {
	p := n.partNamed(end.Part)
	switch p.kind {
	case aStage:
		p.at = inletAt(n.rig.Route.Stages[p.part].Inlets, end.At)
	case aSupply:
		p.at = inletAt(n.rig.Supplies[p.part].Inlets, end.At)
	case theHost:
		p.at = inletAt(n.rig.Host.Inlets, end.At)
	case theCard:
		for i := range n.rig.Card.Plugs {
			if n.rig.Card.Plugs[i].Name == end.At || end.At == "" && len(n.rig.Card.Plugs) == 1 {
				p.at = i
			}
		}
	}
	return p
}

func outletAt(outlets []rig.Outlet, name string) int {
	for i := range outlets {
		if outlets[i].Name == name && name != "" {
			return i
		}
	}
	return -1
}

func inletAt(inlets []rig.Inlet, name string) int {
	if name == "" && len(inlets) == 1 {
		return 0
	}
	for i := range inlets {
		if inlets[i].Name == name && name != "" {
			return i
		}
	}
	return -1
}

// outletSocket is what a source end is plugged into.
func (n *Network) outletSocket(p port) socket {
	if p.at < 0 {
		return socket{}
	}
	switch p.kind {
	case aSupply:
		return outletOf(&n.rig.Supplies[p.part].Outlets[p.at])
	case aStage:
		return outletOf(&n.rig.Route.Stages[p.part].Outlets[p.at])
	case theHost:
		return outletOf(&n.rig.Host.Outlets[p.at])
	case aLead:
		free := &n.rig.Leads[p.part].To[p.at]
		return socket{
			connector: maybeOf(&free.Connector), current: maybeOf(&free.Current), sense: maybeOf(&free.SenseW),
			voltage: maybeOf(&free.Voltage), off: units.Volt(free.Voltage.Tolerance), shell: maybeOf(&free.Shell), pins: free.Pins,
		}
	}
	return socket{}
}

func outletOf(o *rig.Outlet) socket {
	return socket{
		maybeOf(&o.Connector), maybeOf(&o.Current), maybeOf(&o.SenseW), maybeOf(&o.Voltage), units.Volt(o.Voltage.Tolerance),
		maybeOf(&o.Barrel), o.Negative.Value, maybeOf(&o.Shell), o.Pins,
	}
}

// inletSocket is what a load end is plugged into.
func (n *Network) inletSocket(p port) socket {
	if p.at < 0 {
		return socket{}
	}
	switch p.kind {
	case aStage:
		return inletOf(&n.rig.Route.Stages[p.part].Inlets[p.at])
	case theHost:
		return inletOf(&n.rig.Host.Inlets[p.at])
	case aSupply:
		return inletOf(&n.rig.Supplies[p.part].Inlets[p.at])
	case theCard:
		plug := &n.rig.Card.Plugs[p.at]
		return socket{connector: maybeOf(&plug.Connector), sense: maybeOf(&plug.SenseW)}
	}
	return socket{}
}

func inletOf(in *rig.Inlet) socket {
	return socket{
		connector: maybeOf(&in.Connector), current: maybeOf(&in.Current), voltage: maybeOf(&in.Voltage),
		off: units.Volt(in.Voltage.Tolerance), barrel: maybeOf(&in.Barrel), negative: in.Negative.Value,
		shell: maybeOf(&in.Shell), pins: in.Pins,
	}
}

// pathOf writes where a port is in the rig file.
func (n *Network) pathOf(p port, list string) string {
	at := ""
	switch p.kind {
	case aSupply:
		at = rig.SupplyPath(p.part)
	case aStage:
		at = rig.StagePath(p.part)
	case aLead:
		at, list = rig.LeadPath(p.part), "to"
	case theHost:
		at = "/host"
	case theCard:
		at, list = "/card", "plugs"
	}
	if p.at < 0 {
		return at
	}
	return at + "/" + list + "/" + itoa(p.at)
}

func itoa(i int) string { return strconv.Itoa(i) }

// row is the reference's row of a connector; nil while it is not known.
func (n *Network) row(c rig.Connector) *reference.Connector { return n.ref.Connector(c) }

// fixed reports a connector whose kind fixes the voltage of its pins.
func fixed(row *reference.Connector) bool { return row != nil && !row.OpenVoltage }

// Pins is the pin map of a connector, pin 1 first; nil where it is the part's
// own.
func (n *Network) Pins(c rig.Connector) []string {
	if row := n.row(c); row != nil {
		return row.Pins
	}
	return nil
}

// WaitsToBeSwitched reports a supply that stays off until its turn-on contact is
// pulled: every kind but a sealed brick, USB-C and a converter board.
func WaitsToBeSwitched(s *rig.Supply) bool {
	return s.Kind.Known && s.Kind.Value != rig.Brick && s.Kind.Value != rig.USBC && !converts(s)
}

// converts reports a converter board: it makes its rails from what a lead brings.
func converts(s *rig.Supply) bool { return rig.Is(s.Kind, rig.Converter) || len(s.Inlets) > 0 }

// railOf returns the place of the rail behind an outlet: the one it names, else
// the only 12 V rail, else the only rail; −1 where that is open.
func railOf(s *rig.Supply, outlet int) int {
	if outlet >= 0 && s.Outlets[outlet].Rail != "" {
		for j := range s.Rails {
			if s.Rails[j].Name == s.Outlets[outlet].Rail {
				return j
			}
		}
	}
	if len(s.Rails) == 1 && !(WaitsToBeSwitched(s) && isOther(s.Rails[0].Voltage.Value)) {
		return 0 // the label of an ATX-style supply may list one rail of several
	}
	return onlyRail(s, 12)
}

// railBehind is railOf the outlet that a source end is plugged into: where its lead asks for a
// voltage, the rail of that contract.
func (n *Network) railBehind(e *EndLoad) int {
	s := &n.rig.Supplies[e.port.part]
	if e.port.at >= 0 && s.Outlets[e.port.at].Rail == "" {
		if rail := n.contractRail(e.lead, e.port, &e.into); rail >= 0 {
			return rail
		}
	}
	return railOf(s, e.port.at)
}

// onlyRail is the place of the only rail of that voltage, −1 where there is none
// or more than one.
func onlyRail(s *rig.Supply, volts units.Volt) int {
	found := -1
	for j := range s.Rails {
		if !rig.Is(s.Rails[j].Voltage, volts) {
			continue
		}
		if found >= 0 {
			return -1
		}
		found = j
	}
	return found
}

// straight reports a lead with one end each side: it brings the sense pins of
// one end to the other, so that either tells what they announce.
func straight(lead *rig.Lead) bool { return len(lead.From) == 1 && len(lead.To) == 1 }
