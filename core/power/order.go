package power

import (
	"kolvan/core/finding"
	"kolvan/core/rig"
	"kolvan/core/units"
)

// judgeOrder holds the moment the card is up against the moment the host's
// firmware looks for it, both counted from where the two part ways. Which supply
// comes first is a person's to choose, so an order nobody told is no fault.
func judgeOrder(r *finding.Rule, n *Network, out *finding.List) {
	for i := range n.rig.Supplies {
		if !n.Supplies[i].FeedsCard || n.feedsHost(i) || n.onAtHost(i) {
			continue // up with the host, or before it
		}
		switch {
		case rig.Is(n.rig.Supplies[i].TurnOn, rig.TurnOnSwitch) && WaitsToBeSwitched(&n.rig.Supplies[i]):
			n.judgeFollowing(r, i, out)
		case rig.Is(n.rig.Sizing.Order, rig.HostFirst):
			ready := n.ref.Takes("second_hand").Plus(n.ref.Takes("supply_up")).Plus(n.ref.Takes("training"))
			looks := n.ref.Takes("button_to_reset").Plus(n.ref.Takes("reset_to_look"))
			late(r, "/sizing/switch_on", ready, looks, out, "%s is switched on after the host: the card is up %v or more after the host's button, and the host may look for it from %v on. Switch the dock on first, or restart the host once the dock is up.",
				n.rig.Supplies[i].Name, ready.Low, looks.Low)
		}
	}
}

// judgeFollowing: a switch that follows the host acts when the host's power is
// good. A dock that holds the reset has until the host looks; one that does not,
// until the host lets go of it.
func (n *Network) judgeFollowing(r *finding.Rule, i int, out *finding.List) {
	up := n.ref.Takes("supply_up")
	reset := n.ref.Takes("good_to_reset")
	name := n.rig.Supplies[i].Name
	if stage := n.Slot.Stage; stage >= 0 && rig.Is(n.rig.Route.Stages[stage].Holds, false) {
		late(r, rig.SupplyPath(i), up, reset, out, "%s follows the host and has its 12 V up to %v later; %s does not hold the card's reset until then, and the host lets go of it from %v on. Switch the dock on first, or restart the host once the dock is up.",
			name, up.High, n.rig.Route.Stages[stage].Name, reset.Low)
		return
	}
	ready, looks := up.Plus(n.ref.Takes("training")), reset.Plus(n.ref.Takes("reset_to_look"))
	late(r, rig.SupplyPath(i), ready, looks, out, "%s follows the host and the card is up to %v later; the host may look for it from %v on.", name, ready.High, looks.Low)
}

// late adds a risk where the card may be ready only after it is looked for. The
// same moment is not late.
func late(r *finding.Rule, where string, ready, looks units.Range[units.Millisecond], out *finding.List, format string, args ...any) {
	if ready.Over(looks) == units.Never {
		return
	}
	out.Add(r, finding.Risk, where, finding.Numbers{{Name: "ready_ms", Value: float64(ready.High)}, {Name: "looks_ms", Value: float64(looks.Low)}}, format, args...)
}
