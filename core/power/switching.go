package power

import (
	"slices"

	"kolvan/core/finding"
	"kolvan/core/rig"
	"kolvan/core/units"
)

// judgeTurnOn asks of every supply that waits who pulls its turn-on contact.
func judgeTurnOn(r *finding.Rule, n *Network, out *finding.List) {
	for i := range n.rig.Supplies {
		s, at := &n.rig.Supplies[i], rig.SupplyPath(i)
		if !s.Kind.Known {
			out.Need(
				r, at+"/kind", "the kind of "+s.Name, "A sealed brick is on when plugged in; all others wait to be switched on.",
				"whether anything switches it on",
			)
			continue
		}
		if WaitsToBeSwitched(s) {
			n.judgeWaiting(r, i, at, out)
		}
	}
}

func (n *Network) judgeWaiting(r *finding.Rule, i int, at string, out *finding.List) {
	s := &n.rig.Supplies[i]
	switch how, known := s.TurnOn.Get(); {
	case !known && (n.hostSupply == i || n.onAtHost(i) || n.builtIn(i)):
		return // what it is built into switches it on
	case (!known || how == rig.TurnOnNone) && (n.pulledByDock(i) || n.onAtHost(i)):
		return // what is joined pulls it, whatever was told
	case !known:
		out.Need(
			r, at+"/turn_on", "what switches "+s.Name+" on",
			"Look for a switch-on board, a made jumper plug, or a dock that does it.", "whether it ever starts",
		)
	case how == rig.TurnOnNone && n.mayReach(i, theHost):
		n.needOpaque(r, theHost, func(t net) bool { return t.mayOn&bit(i) != 0 }, "whether "+s.Name+" ever starts", out)
	case how == rig.TurnOnNone && n.mayReach(i, aStage):
		n.needOpaque(r, aStage, func(t net) bool { return t.mayOn&bit(i) != 0 }, "whether "+s.Name+" ever starts", out)
	case how == rig.TurnOnNone:
		none, unsure := n.hasNoContact(s)
		if none == units.Always {
			return
		}
		if none == units.Sometimes {
			out.Need(
				r, at+"/outlets/"+itoa(unsure)+"/connector", "the connector of outlet "+s.Outlets[unsure].Name+" of "+s.Name,
				"Look at it.", "whether it has a turn-on contact at all",
			)
			return
		}
		out.Add(
			r, finding.Blocked, at, nil,
			"%s is an ATX-style supply: it stays off until its turn-on contact (PS_ON) is pulled to ground, and nothing does that.",
			s.Name,
		)
	case how == rig.TurnOnHost && n.hostSupply != i && !n.onAtHost(i) && n.mayReach(i, theHost):
		n.needOpaque(r, theHost, func(t net) bool { return t.mayOn&bit(i) != 0 }, "whether "+s.Name+" ever starts", out)
	case how == rig.TurnOnHost && n.hostSupply != i && !n.onAtHost(i):
		out.Add(
			r, finding.Blocked, at, nil, "%s waits for the host's board, but no lead with its turn-on contact reaches the host.",
			s.Name,
		)
	case how == rig.TurnOnDock:
		n.judgeDockSwitches(r, i, at, out)
	}
}

// NeverOn reports a supply that nothing switches on.
func (n *Network) NeverOn(i int) bool {
	s := &n.rig.Supplies[i]
	none, _ := n.hasNoContact(s)
	return rig.Is(s.TurnOn, rig.TurnOnNone) && WaitsToBeSwitched(s) && !n.pulledByDock(i) && !n.onAtHost(i) && none != units.Always
}

// hasNoContact tells whether a supply of its maker's own kind has no outlet with a turn-on
// contact, and so needs none; unsure is the first outlet that nobody described.
func (n *Network) hasNoContact(s *rig.Supply) (none units.Certainty, unsure int) {
	if !rig.Is(s.Kind, rig.Proprietary) || len(s.Outlets) == 0 {
		return units.Never, 0
	}
	none = units.Always
	for i := range s.Outlets {
		switch row := n.row(s.Outlets[i].Connector.Value); {
		case row == nil && none == units.Always:
			none, unsure = units.Sometimes, i
		case row != nil && (row.OwnMap || slices.Contains(row.Pins, "turn-on")):
			return units.Never, i
		}
	}
	return none, unsure
}

// onAtHost reports a lead that carries the supply's turn-on contact to the host,
// or a proprietary one, which does what its maker had in mind.
func (n *Network) onAtHost(i int) (on bool) {
	own := bit(i)
	n.eachLoad(func(lead int, e *EndLoad) {
		t := n.Leads[lead].net
		if e.port.kind == theHost && (t.on&own != 0 && e.turnOn == crosses || t.live&own != 0 && e.plugRow.OrNone().OwnMap &&
			n.plugPins(e) == nil) {
			on = true
		}
	})
	return on
}

// builtIn reports a supply that came in a box of the route.
func (n *Network) builtIn(i int) bool {
	for k := range n.rig.Route.Stages {
		if n.rig.Route.Stages[k].Supply == n.rig.Supplies[i].Name {
			return true
		}
	}
	return false
}

func bit(i int) supplySet { return 1 << i }

// mayReach reports a lead to such a part that may carry the supply's turn-on
// contact, through a connector that nobody knows.
func (n *Network) mayReach(i int, to kind) (may bool) {
	n.eachLoad(func(lead int, e *EndLoad) {
		may = may || e.port.kind == to && n.Leads[lead].net.mayOn&bit(i) != 0
	})
	return may
}

func (n *Network) pulledByDock(i int) bool {
	for s := range n.stages {
		if n.stages[s].on&bit(i) != 0 && rig.Is(n.rig.Route.Stages[s].TurnsOn, true) {
			return true
		}
	}
	return false
}

func (n *Network) judgeDockSwitches(r *finding.Rule, i int, at string, out *finding.List) {
	s, joined := &n.rig.Supplies[i], false
	for k := range n.stages {
		if n.stages[k].on&bit(i) == 0 {
			continue
		}
		stage := &n.rig.Route.Stages[k]
		switch turns, known := stage.TurnsOn.Get(); {
		case !known:
			out.Need(
				r, rig.StagePath(k)+"/turns_on", "whether "+stage.Name+" switches the supply on", "Read its papers.",
				"whether "+s.Name+" ever starts",
			)
			return
		case turns:
			return
		}
		joined = true
	}
	if n.mayReach(i, aStage) {
		n.needOpaque(r, aStage, func(t net) bool { return t.mayOn&bit(i) != 0 }, "whether "+s.Name+" ever starts", out)
		return
	}
	if joined {
		out.Add(r, finding.Blocked, at, nil, "%s waits for the dock, but no dock on its leads switches a supply on.", s.Name)
		return
	}
	out.Add(
		r, finding.Blocked, at, nil,
		"%s waits for the dock, but no lead carries its turn-on contact (PS_ON) there: that takes a main 24-pin or 20-pin plug, direct or "+
			"extended.",
		s.Name,
	)
}

// How a supply that feeds the card is switched on.
type Switched int

// The ways a supply comes on: with the host, by a switch or a plug of its own, or by a
// board that follows the host.
const (
	WithHost Switched = iota
	ByHand
	Follows
)

// SwitchedBy tells how supply i comes on; feeds is false for one that does not feed the
// card.
func (n *Network) SwitchedBy(i int) (by Switched, feeds bool) {
	switch s := &n.rig.Supplies[i]; {
	case !n.Supplies[i].FeedsCard:
		return 0, false
	case n.feedsHost(i) || n.onAtHost(i):
		return WithHost, true
	case (rig.Is(s.TurnOn, rig.TurnOnSwitch) || rig.Is(s.TurnOn, rig.TurnOnSplitter)) && WaitsToBeSwitched(s):
		return Follows, true
	default:
		return ByHand, true
	}
}

// HoldsReset reports that what carries the card holds it in reset until its own power is
// good; a slot of the host does not have to.
func (n *Network) HoldsReset() bool {
	return n.Slot.Stage < 0 || !rig.Is(n.rig.Route.Stages[n.Slot.Stage].Holds, false)
}
