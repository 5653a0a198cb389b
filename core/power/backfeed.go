package power

import (
	"kolvan/core/finding"
	"kolvan/core/rig"
	"math/bits"
	"strings"
)

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
