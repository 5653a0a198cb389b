package power

import (
	"kolvan/core/finding"
	"kolvan/core/rig"
	"kolvan/core/units"
	"slices"
)

// wanted is the voltage a load end is made for; unknown where nobody tells.
func (n *Network) wanted(e *EndLoad) (voltage, bool) {
	switch {
	case e.into.voltage.Known:
		return voltage{e.into.voltage.Value, e.into.off}, true
	case e.port.kind == theCard || e.port.kind == aStage || fixed(e.socketRow):
		return voltage{twelve, 0}, true // nothing converts unless the part says so
	default:
		return voltage{}, false
	}
}

// judgeVoltage holds what every load end brings against what is wanted there.
func judgeVoltage(r *finding.Rule, n *Network, out *finding.List) {
	n.eachEnd(func(lead int, e *EndLoad) {
		if e.source && e.Fit != NoEntry {
			n.judgeSourceVolts(r, lead, e, out)
		}
	})
	for i := range n.Leads {
		n.judgeWireVolts(r, i, out)
	}
	n.judgeBuiltInVolts(r, out)
	n.eachLoad(func(lead int, e *EndLoad) {
		if !n.Leads[lead].net.fed || e.Fit == Clashes || n.rig.Leads[lead].Wires != nil {
			return
		}
		want, told := n.wanted(e)
		if !told {
			if !n.ownBrick(lead) {
				out.Need(
					r, n.voltageField(e), "the voltage "+n.loadWords(e)+" takes there",
					"Read the mark beside its socket, or the label of its own supply.",
					"whether "+n.rig.Leads[lead].Name+" brings the right one",
				)
			}
			return
		}
		n.judgeLoadVolts(r, lead, e, want, out)
	})
}

// judgeBuiltInVolts: the supply built into a dock feeds its plane, which is 12 V
// unless the dock says what it converts.
func (n *Network) judgeBuiltInVolts(r *finding.Rule, out *finding.List) {
	for i := range n.rig.Route.Stages {
		own := n.partNamed(n.rig.Route.Stages[i].Supply)
		if own.kind != aSupply {
			continue
		}
		s, at := &n.rig.Supplies[own.part], rig.StagePath(i)+"/supply"
		switch volts, known := onlyVolts(s); {
		case known && !same(volts, twelve):
			out.Add(r, finding.Danger, at, finding.Numbers{
				{Name: "brings_v", Value: float64(volts)}, {Name: "wants_v", Value: float64(twelve)},
			},
				"%s gives %v, and is said to feed %s, whose plane is 12 V. Never join them.", s.Name, volts, n.rig.Route.Stages[i].Name)
		case !known && !WaitsToBeSwitched(s):
			out.Need(
				r, rig.SupplyPath(own.part)+"/rails", "the voltage that "+s.Name+" gives", "Read its label.",
				"whether "+n.rig.Route.Stages[i].Name+" gets its 12 V",
			)
		}
	}
}

// onlyVolts is the voltage of a supply that gives none of 12 V; 12 V where it does;
// false while its rails are not told.
func onlyVolts(s *rig.Supply) (volts units.Volt, known bool) {
	for _, rail := range s.Rails {
		if rail.Voltage.Known && (!known || same(rail.Voltage.Value, twelve)) {
			volts, known = rail.Voltage.Value, true
		}
	}
	return volts, known
}

// voltageField is where the voltage of a load end's socket is to be told.
func (n *Network) voltageField(e *EndLoad) string {
	if e.port.at < 0 {
		return n.pathOf(e.port, "inlets") + "/inlets"
	}
	return n.pathOf(e.port, "inlets") + "/voltage_v"
}

// ownBrick reports a lead of the host's own supply.
func (n *Network) ownBrick(lead int) bool {
	return n.hostSupply >= 0 && n.Leads[lead].net.live == bit(n.hostSupply)
}

func (n *Network) judgeLoadVolts(r *finding.Rule, lead int, e *EndLoad, want voltage, out *finding.List) {
	var seen []units.Volt
	open := false
	for j := range n.Leads[lead].From {
		from := &n.Leads[lead].From[j]
		if from.Fit == NoEntry {
			continue
		}
		brings := n.endVoltage(from, 0)
		v := brings.at
		open = open || v == 0 || brings.within(want) == units.Sometimes
		if v == 0 || brings.within(want) != units.Never || slices.Contains(seen, v) {
			continue
		}
		seen = append(seen, v)
		out.Add(r, finding.Danger, e.Where(), finding.Numbers{
			{Name: "brings_v", Value: float64(v)}, {Name: "wants_v", Value: float64(want.at)},
		},
			"%s brings %v to %s, which takes %v. Never join them.", n.rig.Leads[lead].Name, v, n.loadWords(e), want.at)
	}
	if open && len(seen) == 0 {
		n.needSame(r, lead, e, want, out)
	}
}

// needSame asks for what leaves open whether a load gets its voltage.
func (n *Network) needSame(r *finding.Rule, lead int, e *EndLoad, want voltage, out *finding.List) {
	decides := "whether " + n.loadWords(e) + " gets what it takes"
	if l := &n.Leads[lead]; l.Volts == 0 || l.off > 0 || want.off == 0 {
		n.needVoltage(r, lead, decides, out)
		return
	}
	span := want.span()
	out.Need(
		r, n.voltageField(e),
		"the voltage "+n.loadWords(e)+" takes there more closely than "+want.at.String()+" ± "+want.off.String(),
		"Read the mark beside its socket.", decides, float64(span.Low), float64(span.High),
	)
}

// within reports whether a voltage is the one that is wanted, over all that both may be.
func (v voltage) within(want voltage) units.Certainty {
	brings, wants := v.span(), want.span()
	switch {
	case same(brings.Low, wants.High) && same(brings.High, wants.Low):
		return units.Always
	case brings.Low >= wants.High*mostOfRail || brings.High <= wants.Low*leastOfRail:
		return units.Never
	}
	return units.Sometimes
}

// same reports voltages within the tolerance of a rail: 12 and 12.1 V are one.
func same(a, b units.Volt) bool { return a > leastOfRail*b && a < mostOfRail*b }

// What a rail may be off its name, as shares (T).
const (
	leastOfRail = 0.92
	mostOfRail  = 1.08
)

func (n *Network) loadWords(e *EndLoad) string {
	switch e.port.kind {
	case theCard:
		if e.port.at >= 0 {
			return "card plug " + n.rig.Card.Plugs[e.port.at].Name
		}
		return "the card"
	case theHost:
		return "the host"
	case aSupply:
		return n.rig.Supplies[e.port.part].Name
	default:
		return n.rig.Route.Stages[e.port.part].Name
	}
}

// voltsFact is the fact that would tell a lead's voltage.
func (n *Network) voltsFact(lead int) (where, of string) {
	for depth := 0; depth <= len(n.Leads); depth++ {
		next := -1
		for j := range n.Leads[lead].From {
			e := &n.Leads[lead].From[j]
			switch {
			case e.port.kind == aSupply && (n.endVolts(e, 0) == 0 || n.endVoltage(e, 0).off > 0):
				s := &n.rig.Supplies[e.port.part]
				if e.port.at >= 0 && s.Outlets[e.port.at].Voltage.Known {
					return n.pathOf(e.port, "outlets") + "/voltage_v", s.Name
				}
				if n.endVolts(e, 0) == 0 && !s.Kind.Known && len(s.Rails) == 1 && s.Rails[0].Voltage.Known {
					return rig.SupplyPath(e.port.part) + "/kind", s.Name
				}
				if len(s.Rails) == 1 && (e.port.at < 0 || s.Outlets[e.port.at].Rail == "") {
					return rig.SupplyPath(e.port.part) + "/rails/0/voltage_v", s.Name
				}
				if e.socketRow.OrNone().Negotiates {
					return rig.LeadPath(lead) + "/asks_v", n.rig.Leads[lead].Name
				}
				if e.port.at >= 0 {
					return n.pathOf(e.port, "outlets") + "/voltage_v", s.Name
				}
				return rig.SupplyPath(e.port.part) + "/rails", s.Name
			case e.port.kind == theHost && e.port.at >= 0:
				return n.pathOf(e.port, "outlets") + "/voltage_v", "the host's " + n.rig.Host.Outlets[e.port.at].Name
			case e.port.kind == aLead:
				next = e.port.part
			}
		}
		if next < 0 {
			break
		}
		lead = next
	}
	return rig.LeadPath(lead), n.rig.Leads[lead].Name
}

// judgeSourceVolts: a rail of another voltage behind a connector whose kind fixes
// 12 V, and what nobody negotiated on a USB-C plug.
func (n *Network) judgeSourceVolts(r *finding.Rule, lead int, e *EndLoad, out *finding.List) {
	if e.port.kind != aSupply || !fixed(e.socketRow) || e.Fit == Unknown {
		return
	}
	if v := n.supplyVolts(e).at; v != 0 && !same(v, twelve) {
		out.Add(
			r,
			finding.Danger,
			n.pathOf(e.port, "outlets"),
			finding.Numbers{
				{Name: "brings_v", Value: float64(v)}, {Name: "wants_v", Value: float64(twelve)},
			},
			"%s of %s is a %s, whose live contacts are for 12 V, and has %v behind it.",
			outletWords(n, e),
			n.rig.Supplies[e.port.part].Name,
			rig.Spoken(e.Socket),
			v,
		)
	}
}

func outletWords(n *Network, e *EndLoad) string {
	if e.port.at < 0 {
		return "The outlet"
	}
	return "Outlet " + n.rig.Supplies[e.port.part].Outlets[e.port.at].Name
}
