package power

import (
	"cmp"
	"kolvan/core/finding"
	"kolvan/core/rig"
	"slices"
)

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
	n.judgeHost3V3(r, out)
}

// judgeHost3V3: a host with a standard main plug wants its 5 and 3.3 V too, which a supply of 12 V
// alone does not bring.
func (n *Network) judgeHost3V3(r *finding.Rule, out *finding.List) {
	n.eachLoad(func(lead int, e *EndLoad) {
		load, row := &n.Leads[lead].net, cmp.Or(e.socketRow, e.plugRow)
		if e.port.kind != theHost || !load.fed || row == nil || !slices.Contains(row.Pins, "+3.3") {
			return
		}
		if i := n.firstWithout3V3(load.live); i >= 0 && load.v33|load.mayV33 == 0 {
			out.Add(
				r, finding.Blocked, e.Where(), nil, "The host's main plug wants 5 and 3.3 V; %s has no rail of them: it does not start.",
				n.rig.Supplies[i].Name,
			)
		}
	})
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
	if i := n.firstWithout3V3(n.stages[n.Slot.Stage].live); i >= 0 {
		out.Add(
			r, finding.Blocked, n.Slot.where, nil, "The card slot of %s has no 3.3 V: it makes none, and %s has no rail of it.", n.Slot.Name,
			n.rig.Supplies[i].Name,
		)
		return
	}
	out.Add(r, finding.Blocked, n.Slot.where, nil, "The card slot of %s has no 3.3 V: it makes none, and no lead brings it.", n.Slot.Name)
}

// firstWithout3V3 is the first of some supplies that has no 3.3 V; -1 for none.
func (n *Network) firstWithout3V3(of supplySet) int {
	for i := range n.rig.Supplies {
		if of&bit(i) != 0 && without3V3(&n.rig.Supplies[i]) {
			return i
		}
	}
	return -1
}

// needOpaque asks for the connector of the first lead to such a part whose pins
// nobody knows and that may bring what is looked for.
func (n *Network) needOpaque(r *finding.Rule, to kind, may func(net) bool, decides string, out *finding.List) {
	asked := false
	n.eachLoad(func(lead int, e *EndLoad) {
		if !asked && e.port.kind == to && may(n.Leads[lead].net) {
			asked = true
			out.Need(r, n.untoldEnd(lead, e).Where()+"/connector", "the connectors of "+n.rig.Leads[lead].Name, "Look at both its ends.", decides)
		}
	})
}

// untoldEnd is the end of a lead whose plug nobody told: this one, else one at its source.
func (n *Network) untoldEnd(lead int, e *EndLoad) *EndLoad {
	from := n.Leads[lead].From
	if i := slices.IndexFunc(from, func(f EndLoad) bool { return !f.told }); e.told && i >= 0 {
		return &from[i]
	}
	return e
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
