package power

import (
	"fmt"

	"kolvan/core/finding"
	"kolvan/core/rig"
	"kolvan/core/units"
)

// asksFor is the voltage that something at the load side of lead i negotiates for: a board in
// it, or what its USB-C plug goes into; 0 V while nobody tells.
func (n *Network) asksFor(i int) voltage {
	if lead := &n.rig.Leads[i]; lead.Asks.Known {
		return voltageOf(&lead.Asks)
	}
	for j := range n.Leads[i].To {
		if e := &n.Leads[i].To[j]; e.into.voltage.Known && n.negotiates(e.into.connector) {
			return voltage{e.into.voltage.Value, e.into.off}
		}
	}
	return voltage{}
}

func (n *Network) negotiates(c maybe[rig.Connector]) bool {
	return c.Known && n.row(c.Value).OrNone().Negotiates
}

// contractRail is the rail of a supply that is in force at an outlet whose lead asks for a
// voltage: its label lists a rail a contract; −1 for none.
func (n *Network) contractRail(lead int, p port, into *socket) int {
	if p.kind != aSupply || !n.negotiates(into.connector) {
		return -1
	}
	if ask := n.asksFor(lead); ask.at != 0 {
		return onlyRail(&n.rig.Supplies[p.part], ask.at)
	}
	return -1
}

// offers tells whether a supply has a USB-C contract of that voltage: by the rails on its
// label where there are several, else by the standard's steps of power (S).
func offers(s *rig.Supply, at units.Volt) units.Certainty {
	listed := len(s.Rails) > 1
	for i := range s.Rails {
		if rig.Is(s.Rails[i].Voltage, at) {
			return units.Always
		}
		listed = listed && s.Rails[i].Voltage.Known
	}
	if listed {
		return units.Never
	}
	for _, step := range contractSteps {
		if same(at, step.volts) && s.Rating.Known && s.Rating.Value > step.above {
			return units.Always
		}
	}
	return units.Sometimes
}

// contractSteps are the voltages a USB-C source has by its standard from a power on (S); all
// others, 12 V among them, are its own choice.
var contractSteps = []struct {
	volts units.Volt
	above units.Watt
}{{5, 0}, {9, 15}, {15, 27}, {20, 45}}

// judgeOffer: what asks for a voltage that its source does not have gets 9 or 5 V.
func (n *Network) judgeOffer(r *finding.Rule, out *finding.List) {
	for i := range n.Leads {
		ask := n.asksFor(i)
		if ask.at == 0 {
			continue
		}
		for j := range n.Leads[i].From {
			e := &n.Leads[i].From[j]
			if e.port.kind != aSupply || !e.socketRow.OrNone().Negotiates || n.outletTells(e) {
				continue
			}
			s, where := &n.rig.Supplies[e.port.part], rig.SupplyPath(e.port.part)+"/rails"
			switch offers(s, ask.at) {
			case units.Never:
				out.Add(
					r, finding.Blocked, where, finding.Numbers{{Name: "asks_v", Value: float64(ask.at)}},
					"%s asks for %v, which %s does not offer: it gets 9 or 5 V, and what hangs on it does not run.", n.rig.Leads[i].Name, ask.at, s.Name,
				)
			case units.Sometimes:
				out.Need(
					r, where, fmt.Sprintf("whether %s offers %v", s.Name, ask.at),
					"Read the voltages on its label, with their currents: 12 V is not on every one.",
					"whether "+n.rig.Leads[i].Name+" gets it, or 9 or 5 V",
				)
			}
		}
	}
}

// outletTells reports a supply's outlet whose own voltage is told.
func (n *Network) outletTells(e *EndLoad) bool {
	return e.port.at >= 0 && n.rig.Supplies[e.port.part].Outlets[e.port.at].Voltage.Known
}

// judgeContract: a USB-C plug carries what its two sides have agreed on. One that
// is only soldered to a supply agrees on nothing, and a contract gives no more than
// its source has.
func judgeContract(r *finding.Rule, n *Network, out *finding.List) {
	n.judgeOffer(r, out)
	n.eachLoad(func(lead int, e *EndLoad) {
		from := n.Leads[lead].From
		negotiated := e.plugRow.OrNone().Negotiates || n.rig.Leads[lead].Asks.Known
		if e.port.kind == theCard || !negotiated || len(from) != 1 || from[0].port.kind != aSupply || !from[0].socketRow.OrNone().Negotiates {
			return
		}
		s := &n.rig.Supplies[from[0].port.part]
		contract, known := s.Rating.Get()
		if current := from[0].into.current; current.Known && n.Leads[lead].Volts != 0 {
			if by := current.Value.At(n.Leads[lead].Volts); !known || by < contract {
				contract, known = by, true
			}
		}
		if known && e.Load.Over(units.Exactly(contract)) == units.Always {
			out.Add(r, finding.Blocked, e.Where(), finding.Numbers{
				{Name: "load_w", Value: float64(e.Load.Low)}, {Name: "contract_w", Value: float64(contract)},
			},
				"%s draws %s; the USB-C contract of %s gives %v.", finding.Begin(n.loadWords(e)), atLeast(e.Load), s.Name, contract)
		}
	})
	for i := range n.Leads {
		load := &n.Leads[i]
		fromUSB := false
		for j := range load.From {
			fromUSB = fromUSB || load.From[j].plugRow.OrNone().Negotiates
		}
		for j := range load.To {
			e := &load.To[j]
			if e.plugRow.OrNone().Negotiates && !fromUSB && load.net.fed && (load.Volts == 0 || load.Volts > 5.5) {
				out.Add(r, finding.Danger, e.Where(), finding.Numbers{{Name: "brings_v", Value: float64(load.Volts)}},
					"%s has a USB-C plug with a voltage on it that nobody negotiated: it would destroy whatever else it is plugged into.",
					n.rig.Leads[i].Name)
			}
			if fromUSB && !e.plugRow.OrNone().Negotiates && load.net.fed && e.port.kind != nothing && load.Volts != 5 && load.Volts != 0 &&
				!n.rig.Leads[i].Asks.Known && !n.readAt(load.From[0].port) {
				out.Need(
					r, rig.LeadPath(i)+"/asks_v", "what makes "+n.rig.Leads[i].Name+" ask for its voltage",
					"Look for a board in the lead that negotiates, and what it is set to.", "whether more than 5 V ever comes",
				)
			}
		}
	}
}

// readAt reports an outlet whose voltage somebody measured.
func (n *Network) readAt(p port) bool {
	return p.kind == aSupply && p.at >= 0 && n.rig.Supplies[p.part].Outlets[p.at].Voltage.Source == rig.Measured
}

// judgeBarrel holds the round plug of a supply against the socket it is led to: its
// size, and which contact is ground.
func judgeBarrel(r *finding.Rule, n *Network, out *finding.List) {
	n.eachLoad(func(lead int, e *EndLoad) {
		load := &n.Leads[lead]
		if !straight(&n.rig.Leads[lead]) || !e.socketRow.OrNone().Coaxial || !load.From[0].socketRow.OrNone().Coaxial {
			return
		}
		plug, into := &load.From[0].into, &e.into
		name := n.rig.Leads[lead].Name
		if plug.negative != into.negative && n.rig.Leads[lead].Wires == nil { // else its wires are judged one by one
			out.Add(
				r, finding.Danger, e.Where(), nil,
				"%s: the centre of one plug is ground where the other's carries the supply: it turns the voltage round at %s.", name,
				n.loadWords(e),
			)
		}
		switch {
		case plug.barrel.Known && into.barrel.Known && plug.barrel.Value != into.barrel.Value:
			out.Add(
				r, finding.Blocked, e.Where(), nil, "%s: a plug of %s mm goes to a socket of %s mm.", name, plug.barrel.Value,
				into.barrel.Value,
			)
		case plug.barrel.Known && !into.barrel.Known && e.port.at >= 0:
			out.Need(
				r, n.pathOf(e.port, "inlets")+"/barrel_mm", "the size of the round socket of "+n.loadWords(e),
				"Measure its pin: 2.1 and 2.5 mm look alike.", "whether the plug holds",
			)
		}
	})
}
