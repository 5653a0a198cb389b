package power

import (
	"math/bits"
	"slices"
	"strings"

	"kolvan/core/finding"
	"kolvan/core/rig"
	"kolvan/core/units"
)

// described reports whether the rig says anything about its feeds at all.
func (n *Network) described() bool { return n.rig.Supplies != nil || n.rig.Leads != nil }

// eachEnd visits every end of every lead.
func (n *Network) eachEnd(visit func(lead int, e *EndLoad)) {
	for i := range n.Leads {
		for j := range n.Leads[i].From {
			visit(i, &n.Leads[i].From[j])
		}
		for j := range n.Leads[i].To {
			visit(i, &n.Leads[i].To[j])
		}
	}
}

// eachLoad visits the load ends that are plugged into something and go in.
func (n *Network) eachLoad(visit func(lead int, e *EndLoad)) {
	for i := range n.Leads {
		for j := range n.Leads[i].To {
			if e := &n.Leads[i].To[j]; e.port.kind != nothing && e.Fit != NoEntry {
				visit(i, e)
			}
		}
	}
}

func judgeUnfed(r *finding.Rule, n *Network, out *finding.List) {
	if !n.described() {
		out.Need(r, "/supplies", "which supplies there are and what they feed",
			"Add the host's own supply and the one meant for the card.", "whether anything is fed")
		return
	}
	n.judgeHostFed(r, out)
	slotFed := true
	if n.rig.Route.Slot != "" {
		slotFed = n.judgeSlotFed(r, out)
	}
	n.judgePlugsFed(r, out, slotFed)
	n.judgeConvertersFed(r, out)
	n.eachEnd(func(lead int, e *EndLoad) {
		if e.Fit == NoEntry {
			out.Add(r, finding.Blocked, e.Where(), nil, "A %s plug does not enter a %s socket (%s).",
				rig.Spoken(e.Plug), rig.Spoken(e.Socket), n.rig.Leads[lead].Name)
		}
	})
}

// judgeConvertersFed: a converter board that something hangs on needs a feed.
func (n *Network) judgeConvertersFed(r *finding.Rule, out *finding.List) {
	for i := range n.rig.Supplies {
		if n.Supplies[i].Used && !n.converterFed(i) {
			out.Add(r, finding.Blocked, rig.SupplyPath(i), nil, "%s is a converter board and has no feed.", n.rig.Supplies[i].Name)
		}
	}
}

func (n *Network) judgeHostFed(r *finding.Rule, out *finding.List) {
	fed := n.rig.Host.Supply != ""
	n.eachLoad(func(lead int, e *EndLoad) {
		fed = fed || e.port.kind == theHost && n.Leads[lead].net.fed
	})
	if !fed {
		out.Add(r, finding.Blocked, "/host", nil, "The host has no feed.")
	}
}

// judgeSlotFed asks what brings the slot its 12 V, and its 3.3 V. It answers
// false for a dock without a feed: its outlets are not spoken of then.
func (n *Network) judgeSlotFed(r *finding.Rule, out *finding.List) bool {
	if n.Slot.Stage >= 0 {
		if !n.stages[n.Slot.Stage].fed {
			if s := &n.rig.Route.Stages[n.Slot.Stage]; n.mayPass(n.Slot.Stage) && !s.Passes.Known {
				out.Need(
					r, n.Slot.where+"/passes_power", "whether "+s.Name+" passes on the power of what it stands in",
					"Look whether its edge has the power contacts joined, or read its papers.",
					"whether the card's slot has a feed: nothing else feeds it",
				)
				return false
			}
			out.Add(r, finding.Blocked, n.Slot.where, nil, "The card slot of %s has no feed.", n.Slot.Name)
			return false
		}
		n.judge3V3(r, out)
		return true
	}
	if last := len(n.rig.Route.Stages) - 1; last >= 0 && !n.rig.Route.Stages[last].Kind.Known && n.rig.Route.Stages[last].Inlets == nil {
		s := &n.rig.Route.Stages[last]
		out.Need(
			r, rig.StagePath(last)+"/kind", "whether "+s.Name+" feeds the card's slot itself", "Look for power sockets on it.",
			"what feeds the card's slot",
		)
		return true
	}
	slot := n.rig.Slot(n.rig.Route.Slot)
	switch {
	case !slot.Form.Known:
		out.Need(r, n.Slot.where+"/form", "the form of "+slot.Name, "Look at the slot.", "whether it gives a card power")
	case !n.feedsCard(slot):
		out.Add(
			r, finding.Blocked, n.Slot.where, nil, "The card's slot has no feed: %s is of the form %s, which feeds no card.",
			slot.Name, rig.Spoken(slot.Form.Value),
		)
	}
	return true
}

// judge3V3: a dock that makes no 3.3 V needs it from a lead.
func (n *Network) judge3V3(r *finding.Rule, out *finding.List) {
	makes := n.rig.Route.Stages[n.Slot.Stage].Makes3V3
	if rig.Is(makes, true) || n.stages[n.Slot.Stage].v33 != 0 || n.v33ByEdge() {
		return
	}
	if !makes.Known {
		out.Need(
			r, n.Slot.where+"/makes_3v3_from_12v", "whether "+n.Slot.Name+" makes the slot's 3.3 V itself",
			"Look for a converter beside the slot, or read its papers.", "whether the slot has its 3.3 V: no lead brings any",
		)
		return
	}
	if n.stages[n.Slot.Stage].mayV33 != 0 {
		n.needOpaque(r, aStage, func(t net) bool { return t.mayV33 != 0 }, "whether the slot has its 3.3 V", out)
		return
	}
	out.Add(r, finding.Blocked, n.Slot.where, nil, "The card slot of %s has no 3.3 V: it makes none, and no lead brings it.", n.Slot.Name)
}

// needOpaque asks for the connector of the first lead to such a part whose pins
// nobody knows and that may bring what is looked for.
func (n *Network) needOpaque(r *finding.Rule, to kind, may func(net) bool, decides string, out *finding.List) {
	asked := false
	n.eachLoad(func(lead int, e *EndLoad) {
		if !asked && e.port.kind == to && may(n.Leads[lead].net) {
			asked = true
			out.Need(r, e.Where()+"/connector", "the connectors of "+n.rig.Leads[lead].Name, "Look at both its ends.", decides)
		}
	})
}

func (n *Network) judgePlugsFed(r *finding.Rule, out *finding.List, slotFed bool) {
	if rig.Is(n.rig.Card.BuiltIn, true) {
		return // its box's maker has fed it
	}
	if n.rig.Card.Plugs == nil {
		out.Need(r, "/card/plugs", "the power plugs of the card", "Look at its upper edge, or read its papers.", "what has to be fed")
		return
	}
	loose := 0 // leads at the card, at a plug nobody told
	n.eachLoad(func(_ int, e *EndLoad) {
		if e.port.kind == theCard && e.port.at < 0 {
			loose++
		}
	})
	for i := range n.Plugs {
		switch {
		case n.Plugs[i].Fed:
		case loose > 0:
			loose--
		case !slotFed && n.Plugs[i].leads > 0: // the dock has no feed, and that is said
		default:
			out.Add(r, finding.Blocked, "/card/plugs/"+itoa(i), nil, "Card plug %s has no feed.", n.rig.Card.Plugs[i].Name)
		}
	}
}

// judgeSocket: a socket holds one plug. A rig has few ends, so that each is held
// against those before it.
func judgeSocket(r *finding.Rule, n *Network, out *finding.List) {
	n.eachEnd(func(lead int, e *EndLoad) {
		if e.port.kind == nothing || e.port.at < 0 {
			return
		}
		first := n.firstIn(e)
		if first == e {
			return
		}
		list := "inlets"
		if e.source {
			list = "outlets"
		}
		out.Add(r, finding.Blocked, n.pathOf(e.port, list), nil, "%s and %s are plugged into one socket, which holds one plug.",
			n.rig.Leads[first.lead].Name, n.rig.Leads[lead].Name)
	})
}

// firstIn is the first end that is plugged into the socket an end goes into.
func (n *Network) firstIn(e *EndLoad) *EndLoad {
	for i := range n.Leads {
		ends := n.Leads[i].To
		if e.source {
			ends = n.Leads[i].From
		}
		for j := range ends {
			if ends[j].port == e.port {
				return &ends[j]
			}
		}
	}
	return e
}

// judgeBackfeed: two supplies whose lines meet feed into each other.
func judgeBackfeed(r *finding.Rule, n *Network, out *finding.List) {
	meet := func(where, what string, supplies uint64) {
		out.Add(r, finding.Danger, where, finding.Numbers{{Name: "sources", Value: float64(bits.OnesCount64(supplies))}},
			"%s meet on %s: each feeds into the other, whatever their voltage. Leave one of them off.", n.supplyNames(supplies), what)
	}
	for i := range n.Leads {
		if live := n.merged(i); bits.OnesCount64(live) > 1 {
			meet(rig.LeadPath(i), n.rig.Leads[i].Name, live)
		}
	}
	for s := range n.stages {
		if live := uint64(n.stages[s].live | n.stages[s].v33); bits.OnesCount64(live) > 1 {
			meet(rig.StagePath(s), n.rig.Route.Stages[s].Name, live)
		}
	}
	n.judgePlugsMeet(meet)
	n.judgeHostMeets(meet)
	n.judgeRiser(r, out)
}

// judgePlugsMeet: supplies at one plug of the card.
func (n *Network) judgePlugsMeet(meet func(where, what string, supplies uint64)) {
	for p := range n.Plugs {
		if n.Plugs[p].leads < 2 {
			continue
		}
		live := uint64(0)
		before := false // they met further up, and that is said
		n.atPlug(p, func(lead int) {
			own := uint64(n.Leads[lead].net.live)
			live |= own
			before = before || bits.OnesCount64(own) > 1
		})
		if bits.OnesCount64(live) > 1 && !before {
			meet("/card/plugs/"+itoa(p), "card plug "+n.rig.Card.Plugs[p].Name, live)
		}
	}
}

// atPlug visits the leads that go into a plug of the card.
func (n *Network) atPlug(plug int, visit func(lead int)) {
	n.eachLoad(func(lead int, e *EndLoad) {
		if e.port.kind == theCard && e.port.at == plug {
			visit(lead)
		}
	})
}

// merged is the supplies that meet on lead i itself, not further up.
func (n *Network) merged(i int) (live uint64) {
	for j := range n.Leads[i].From {
		e := &n.Leads[i].From[j]
		if e.Fit == NoEntry {
			continue
		}
		from := uint64(n.behind(e).live)
		if bits.OnesCount64(from) > 1 {
			return 0 // they met before, and that is said
		}
		live |= from
	}
	return live
}

func (n *Network) supplyNames(set uint64) string {
	var names []string
	for i := range n.rig.Supplies {
		if set&(1<<i) != 0 {
			names = append(names, n.rig.Supplies[i].Name)
		}
	}
	return strings.Join(names, " and ")
}

// judgeHostMeets: the host's own supply and another one at the host.
func (n *Network) judgeHostMeets(meet func(where, what string, supplies uint64)) {
	var live uint64
	if n.hostSupply >= 0 {
		live = uint64(bit(n.hostSupply))
	}
	n.eachLoad(func(lead int, e *EndLoad) {
		if e.port.kind == theHost {
			live |= uint64(n.Leads[lead].net.live)
		}
	})
	if bits.OnesCount64(live) > 1 {
		meet("/host", "the host", live)
	}
}

// judgeRiser: a powered riser in a card slot that passes that slot's power on
// too joins it with its own feed.
func (n *Network) judgeRiser(r *finding.Rule, out *finding.List) {
	upstream := false // the end of the route so far is a card slot with power
	if slot := n.rig.Slot(n.rig.Route.Slot); slot != nil {
		upstream = rig.Is(slot.Form, rig.CardSlot)
	}
	for i := range n.rig.Route.Stages {
		s := &n.rig.Route.Stages[i]
		if upstream && rig.Is(s.Plug.Form, rig.CardSlot) && n.stages[i].fed && rig.Is(s.Socket.Form, rig.CardSlot) {
			switch passes, known := s.Passes.Get(); {
			case !known:
				out.Need(
					r, rig.StagePath(i)+"/passes_power", "whether "+s.Name+" also passes on the power of the slot it stands in",
					"Look whether its edge has the power contacts joined, or read its papers.", "whether two supplies meet on it",
				)
			case passes:
				out.Add(r, finding.Danger, rig.StagePath(i), finding.Numbers{{Name: "sources", Value: 2}},
					"%s passes on the power of the slot it stands in and has a feed of its own: the two feed into each other.", s.Name)
			}
		}
		if rig.Is(s.Socket.Form, rig.CardSlot) {
			upstream = n.stages[i].fed || upstream && rig.Is(s.Plug.Form, rig.CardSlot)
		}
	}
}

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
				if e.port.at >= 0 {
					return n.pathOf(e.port, "outlets") + "/voltage_v", s.Name
				}
				return rig.SupplyPath(e.port.part) + "/rails", s.Name
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
		out.Add(r, finding.Danger, n.pathOf(e.port, "outlets"), finding.Numbers{
			{Name: "brings_v", Value: float64(v)}, {Name: "wants_v", Value: float64(twelve)},
		},
			"%s of %s is a %s, whose live contacts are for 12 V, and has %v behind it.", outletWords(n, e), n.rig.Supplies[e.port.part].Name, rig.Spoken(e.Socket), v)
	}
}

func outletWords(n *Network, e *EndLoad) string {
	if e.port.at < 0 {
		return "The outlet"
	}
	return "Outlet " + n.rig.Supplies[e.port.part].Outlets[e.port.at].Name
}

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
			if fromUSB && !e.plugRow.OrNone().Negotiates && load.net.fed && e.port.kind != nothing && load.Volts != 5 && load.Volts != 0 && !n.readAt(load.From[0].port) {
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
