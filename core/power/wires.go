package power

import (
	"slices"

	"kolvan/core/finding"
	"kolvan/core/reference"
	"kolvan/core/rig"
	"kolvan/core/units"
)

// pinWords are the names of the pin maps for what a person says a pin carries.
var pinWords = map[rig.Plane]string{
	"ground": "GND", "standby": "+5 standby", "turn-on": "turn-on", "power-good": "power-good", "sense": "sense",
	"data": "data", "none": "none",
}

// ownMap is a map that a person read from a label or with a meter, by the names of
// the connector table; "" is a pin that nobody knows. own is the plug's own
// voltage, 0 while that is not known: what shows it is the plug's live pin.
func ownMap(pins []rig.Pin, own units.Volt) []string {
	if pins == nil {
		return nil
	}
	names := make([]string, len(pins))
	for i, p := range pins {
		switch carries, known := p.Carries.Get(); {
		case known && carries == rig.PlaneSupply && p.Reads.Known:
			names[i] = supplyName(p.Reads.Value, own)
		case known && carries == rig.PlaneSupply:
			names[i] = "+12" // its plug's own voltage
		case known && carries == rig.PlaneStandby && p.Reads.Known:
			names[i] = supplyName(p.Reads.Value, 0) + " standby"
		case known:
			names[i] = pinWords[carries]
		}
	}
	return names
}

// supplyName is the name of a supply pin that shows so many volts.
func supplyName(reads, own units.Volt) string {
	if own != 0 && same(reads, own) {
		return "+12"
	}
	for _, rail := range []units.Volt{12, 5, 3.3} {
		if same(reads, rail) {
			return "+" + units.Trim(float64(rail), 1)
		}
	}
	return "+" + units.Trim(float64(reads), 1)
}

// ownVolts is the voltage of a plug, by what it comes from or goes into; 0 while
// unknown.
func (n *Network) ownVolts(e *EndLoad) units.Volt {
	if e.source {
		return n.endVolts(e, 0)
	}
	if e.port.kind == nothing {
		return 0
	}
	want, _ := n.wanted(e)
	return want.at
}

// plugPins is the pin map of a lead's own plug, nil while nobody knows it; "" is a
// pin that nobody knows.
func (n *Network) plugPins(e *EndLoad) []string { return e.plugMap }

// socketPins is the pin map of what a plug goes into.
func (n *Network) socketPins(e *EndLoad) []string { return e.socketMap }

// readPlug is the map of a plug: of the table, its own, or its socket's where nobody
// told the plug's.
func (n *Network) readPlug(e *EndLoad) []string {
	if row := e.plugRow; row != nil && len(row.Pins) > 0 {
		return e.turned(row)
	}
	ends := n.rig.Leads[e.lead].To
	if e.source {
		ends = n.rig.Leads[e.lead].From
	}
	if pins := ends[e.at].Pins; pins != nil {
		return ownMap(pins, n.ownVolts(e))
	}
	return ownMap(e.into.pins, n.ownVolts(e))
}

// readSocket is the map of what a plug goes into, its plug's where nobody told it.
func (n *Network) readSocket(e *EndLoad) []string {
	if row := e.socketRow; row != nil && len(row.Pins) > 0 {
		return e.turned(row)
	}
	if pins := e.into.pins; pins != nil {
		return ownMap(pins, n.ownVolts(e))
	}
	return e.plugMap
}

// centreNegative is the map of a round plug whose centre is ground.
var centreNegative = []string{"GND", "+12"}

// turned is the map of a connector, turned round for a round plug whose part says
// that its centre is ground.
func (e *EndLoad) turned(row *reference.Connector) []string {
	if e.into.negative && row.Coaxial {
		return centreNegative
	}
	return row.Pins
}

// PlugPins is the pin map of the plug at an end; "" for a pin that nobody knows.
func (n *Network) PlugPins(e *EndLoad) []string { return e.plugMap }

// OwnPlug reports a plug of which its part says what its pins carry.
func (n *Network) OwnPlug(e *EndLoad) bool { return e.plugRow.OrNone().OwnMap }

// OwnMap reports a pair of which one half says itself what its pins carry.
func (n *Network) OwnMap(e *EndLoad) bool { return n.OwnPlug(e) || e.socketRow.OrNone().OwnMap }

// MapOf is where the pin map of a proprietary plug is kept in the rig file: with
// what it goes into, else with the lead's own end.
func (n *Network) MapOf(e *EndLoad) string {
	list := "inlets"
	if e.source {
		list = "outlets"
	}
	if e.port.at >= 0 && (e.port.kind == aSupply || e.port.kind == aStage || e.port.kind == theHost) && e.socketRow.OrNone().OwnMap {
		return n.pathOf(e.port, list) + "/pins"
	}
	return e.Where() + "/pins"
}

// touched is what a pin of a plug touches in its socket: "" while that is not
// known, "open" where it is nothing.
func (n *Network) touched(e *EndLoad, pin int) string {
	pins := n.socketPins(e)
	if e.port.kind == nothing {
		pins = n.plugPins(e)
	}
	if m := n.pair(e); m.Pins != nil && pin <= len(m.Pins) {
		if pin = m.Pins[pin-1]; pin == 0 {
			return "open"
		}
	}
	switch {
	case pins == nil:
		return ""
	case pin > len(pins):
		return "open"
	default:
		return pins[pin-1]
	}
}

// given and taken are what the two pins of a wire of lead i touch.
func (n *Network) given(i int, w *rig.Conductor) string {
	return n.touched(&n.Leads[i].From[w.FromEnd-1], w.FromPin)
}

func (n *Network) taken(i int, w *rig.Conductor) string {
	return n.touched(&n.Leads[i].To[w.ToEnd-1], w.ToPin)
}

// isLive reports a pin of the lead's own voltage: +12 of the table, or what its plug
// states.
func isLive(pin string) bool { return pin == "+12" }

// wiredThrough is what of a net passes the wires of a lead made by oneself: a line
// that no wire carries does not.
func (n *Network) wiredThrough(i int, t net) net {
	live, open := false, false
	on, v33 := false, false
	wires := n.rig.Leads[i].Wires
	for k := range wires {
		a, b := n.given(i, &wires[k]), n.taken(i, &wires[k])
		open = open || a == "" || b == ""
		live = live || isSupply(a) && isSupply(b)
		on = on || a == "turn-on" && b == "turn-on"
		v33 = v33 || a == "+3.3" && b == "+3.3"
	}
	kept := net{live: t.live, fed: t.fed && (live || open)}
	if !live && !open {
		kept.live = 0
	}
	switch {
	case on:
		kept.on = t.on | t.mayOn
	case open:
		kept.mayOn = t.on | t.mayOn
	}
	switch {
	case v33:
		kept.v33 = t.v33 | t.mayV33
	case open:
		kept.mayV33 = t.v33 | t.mayV33
	}
	return kept
}

// wiresAt counts the wires of a lead at one of its ends that carry such a pin; 0
// for a lead whose wires are its maker's.
func (n *Network) wiresAt(e *EndLoad, carries func(string) bool) (count int) {
	wires := n.rig.Leads[e.lead].Wires
	for k := range wires {
		if e.source && wires[k].FromEnd == e.at+1 && carries(n.given(e.lead, &wires[k])) ||
			!e.source && wires[k].ToEnd == e.at+1 && carries(n.taken(e.lead, &wires[k])) {
			count++
		}
	}
	return count
}

func isGround(pin string) bool { return pin == "GND" }

// wiredContacts holds a pair to the contacts that wires are joined to: the fewer of
// supply and ground.
func (n *Network) wiredContacts(e *EndLoad) {
	if n.rig.Leads[e.lead].Wires == nil || e.Fit != Mates || e.Cap.Contacts < 2 {
		return
	}
	used := min(n.wiresAt(e, isLive), n.wiresAt(e, isGround))
	if used == 0 || used >= e.Cap.Contacts {
		return
	}
	share := units.Amp(float64(used) / float64(e.Cap.Contacts))
	e.Cap.Plan, e.Cap.Rating, e.Cap.Contacts = e.Cap.Plan*share, e.Cap.Rating*share, used
}

// judgeWires holds every wire of a lead made by oneself against the two pins it
// joins, and looks for pins that want one and have none.
func (n *Network) judgeWires(r *finding.Rule, i int, out *finding.List) {
	lead := &n.rig.Leads[i]
	for k := range lead.Wires {
		w := &lead.Wires[k]
		at := rig.LeadPath(i) + "/wires/" + itoa(k)
		a, b := n.given(i, w), n.taken(i, w)
		switch {
		case a == "" || b == "":
			n.needPins(r, i, w, a == "", out)
		case a == "open" || b == "open":
			out.Add(r, finding.Blocked, at, nil, "Wire %d of %s ends at a pin that touches nothing.", k+1, lead.Name)
		case clashes(a, b):
			out.Add(
				r, finding.Danger, at, nil, "Wire %d of %s joins %s with %s. Take it off before anything is plugged in.", k+1,
				lead.Name, a, b,
			)
		}
	}
	for j := range n.Leads[i].To {
		e := &n.Leads[i].To[j]
		if e.port.kind == nothing || e.Fit == NoEntry {
			continue
		}
		if open := n.unwired(e); open != "" {
			out.Add(r, finding.Blocked, e.Where(), nil, "%s has no wire to %s of %s.", lead.Name, open, n.loadWords(e))
		}
	}
}

// unread reports a wire that ends at a pin nobody knows.
func (n *Network) unread(i int) bool {
	wires := n.rig.Leads[i].Wires
	for k := range wires {
		if n.given(i, &wires[k]) == "" || n.taken(i, &wires[k]) == "" {
			return true
		}
	}
	return false
}

// unwired is a kind of pin that a load needs and no wire of its lead reaches.
func (n *Network) unwired(e *EndLoad) string {
	for _, pin := range n.socketPins(e) {
		if isNeeded(pin) && pin != "" && n.wiresAt(e, func(p string) bool { return p == pin }) == 0 {
			return pin
		}
	}
	return ""
}

// needPins asks for the map of the plug whose pins nobody knows.
func (n *Network) needPins(r *finding.Rule, i int, w *rig.Conductor, source bool, out *finding.List) {
	e := &n.Leads[i].To[w.ToEnd-1]
	if source {
		e = &n.Leads[i].From[w.FromEnd-1]
	}
	out.Need(
		r,
		n.MapOf(e),
		"which pin of the "+rig.Spoken(e.Socket)+" at "+n.rig.Leads[i].Name+" carries what",
		"Read its label, or measure it with its supply on and nothing else plugged in, black probe on bare metal of the case, and never "+
			"bridge two pins.",
		"whether a wire of it puts supply where it must not be",
	)
}

// judgeWireVolts holds what every wire brings against what its pin wants.
func (n *Network) judgeWireVolts(r *finding.Rule, i int, out *finding.List) {
	lead := &n.rig.Leads[i]
	for k := range lead.Wires {
		w := &lead.Wires[k]
		a, b := n.given(i, w), n.taken(i, w)
		if !isLive(a) || !isLive(b) {
			continue // other voltages are in the names, and judged with the pins
		}
		brings := n.endVoltage(&n.Leads[i].From[w.FromEnd-1], 0)
		to := &n.Leads[i].To[w.ToEnd-1]
		wants, told := n.wanted(to)
		if to.port.kind == nothing {
			continue
		}
		if brings.at == 0 || told && brings.within(wants) == units.Sometimes {
			n.needSame(r, i, to, wants, out)
		}
		if !told {
			out.Need(
				r, n.voltageField(to), "the voltage "+n.loadWords(to)+" takes there", "Read the mark beside its socket.",
				"whether "+lead.Name+" brings the right one",
			)
		}
		if told && brings.at != 0 && brings.within(wants) == units.Never {
			out.Add(
				r,
				finding.Danger,
				rig.LeadPath(i)+"/wires/"+itoa(k),
				finding.Numbers{
					{Name: "brings_v", Value: float64(brings.at)}, {Name: "wants_v", Value: float64(wants.at)},
				},
				"Wire %d of %s brings %v to %s, which takes %v there. Never join them.",
				k+1,
				lead.Name,
				brings.at,
				n.loadWords(&n.Leads[i].To[w.ToEnd-1]),
				wants.at,
			)
		}
	}
}

// thinnest is the gauge of the thinnest supply wire of a lead; false where one is
// not told.
func (n *Network) thinnest(i int) (gauge int, known bool) {
	lead := &n.rig.Leads[i]
	if len(lead.Wires) == 0 {
		return lead.Gauge.Get()
	}
	for k := range lead.Wires {
		own := lead.Wires[k].Gauge
		if !own.Known {
			own = lead.Gauge
		}
		if a := n.given(i, &lead.Wires[k]); !own.Known && (isSupply(a) || isGround(a)) {
			return 0, false
		}
		gauge = max(gauge, own.Value)
	}
	return gauge, gauge > 0
}

// judgeFuse: a lead that somebody made has a fuse at its source that gives way
// before its wires do.
func judgeFuse(r *finding.Rule, n *Network, out *finding.List) {
	for i := range n.rig.Leads {
		lead := &n.rig.Leads[i]
		if len(lead.Wires) == 0 || !n.Leads[i].net.fed || len(n.Leads[i].From) == 0 {
			continue
		}
		flows := n.ampsOf(i, n.Leads[i].Load)
		asked := flows.Low
		carries := n.wiresCarry(i)
		numbers := finding.Numbers{{Name: "load_a", Value: float64(asked)}, {Name: "wires_a", Value: float64(carries)}}
		switch fuse, fitted := lead.Fuse.Get(); {
		case !fitted:
			out.Add(
				r, finding.Risk, rig.LeadPath(i)+"/fuse_a", numbers,
				"%s is made by oneself and has no fuse: where its insulation wears through, all that its source gives flows there.",
				lead.Name,
			)
		case carries > 0 && over(fuse, carries):
			out.Add(
				r, finding.Risk, rig.LeadPath(i)+"/fuse_a", numbers,
				"The fuse of %s, %v, holds longer than its wires, which carry %v.", lead.Name, fuse, carries,
			)
		case flows.Over(rig.Span(lead.Fuse)) == units.Sometimes:
			n.needLoads(r, i, out)
		case over(asked, fuse):
			out.Add(
				r, finding.Risk, rig.LeadPath(i)+"/fuse_a", numbers, "The fuse of %s, %v, is below the %v that flow through it.",
				lead.Name, fuse, asked,
			)
		}
	}
}

// wiresCarry is what the supply wires of a lead carry together; 0 while a gauge is
// not known.
func (n *Network) wiresCarry(i int) (sum units.Amp) {
	lead := &n.rig.Leads[i]
	for k := range lead.Wires {
		if !isLive(n.given(i, &lead.Wires[k])) {
			continue
		}
		gauge := lead.Wires[k].Gauge
		if !gauge.Known {
			gauge = lead.Gauge
		}
		if !gauge.Known {
			return 0
		}
		sum += n.gaugeLimit(&n.Leads[i].From[lead.Wires[k].FromEnd-1], gauge.Value)
	}
	return sum
}

// gaugeLimit is what a wire of that gauge carries: more in the two-wire lead of a
// brick than in a loom.
func (n *Network) gaugeLimit(e *EndLoad, gauge int) units.Amp {
	row := n.ref.Wire(gauge)
	if p := e.plugRow; p == nil || p.OpenVoltage {
		return row.Pair
	}
	return row.Loom
}

// judgeHarness: a lead that somebody made is measured before it is joined.
func judgeHarness(r *finding.Rule, n *Network, out *finding.List) {
	for i := range n.rig.Leads {
		lines := n.meterLines(i)
		if lines == 0 || n.unread(i) {
			continue // the list is whole once the pins are told
		}
		done := 0
		if len(n.rig.Leads[i].Ticked) > 0 { // else there is no need to write it
			for _, line := range n.MeterList(i) {
				if slices.Contains(n.rig.Leads[i].Ticked, line.ID) {
					done++
				}
			}
		}
		if done < lines {
			out.Add(r, finding.Note, rig.LeadPath(i)+"/meter_ticked", finding.Numbers{
				{Name: "lines", Value: float64(lines)}, {Name: "done", Value: float64(done)},
			},
				"%s is made by oneself: %d of %d lines of its meter list are ticked. Join it to nothing before all are.", n.rig.Leads[i].Name, done,
				lines)
		}
	}
}
