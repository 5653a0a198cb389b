package power

import (
	"kolvan/core/finding"
	"kolvan/core/rig"
	"kolvan/core/units"
)

// judgeContract: a USB-C plug carries what its two sides have agreed on. One that
// is only soldered to a supply agrees on nothing, and a contract gives no more than
// its source has.
func judgeContract(r *finding.Rule, n *Network, out *finding.List) {
	n.eachLoad(func(lead int, e *EndLoad) {
		from := n.Leads[lead].From
		if e.port.kind != theHost || !e.plugRow.OrNone().Negotiates || len(from) != 1 || from[0].port.kind != aSupply {
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
				"The host draws %s; the USB-C contract of %s gives %v.", atLeast(e.Load), s.Name, contract)
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
					"%s has a USB-C plug with a voltage on it that nobody negotiated: it would destroy whatever else it is plugged into.", n.rig.Leads[i].Name)
			}
			if fromUSB && !e.plugRow.OrNone().Negotiates && load.net.fed && e.port.kind != nothing && load.Volts != 5 && load.Volts != 0 &&
				!n.readAt(load.From[0].port) {
				out.Need(
					r, n.pathOf(load.From[0].port, "outlets")+"/voltage_v", "what makes "+n.rig.Leads[i].Name+" ask for its voltage",
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
