package power

import (
	"kolvan/core/finding"
	"kolvan/core/reference"
	"kolvan/core/rig"
	"kolvan/core/units"
)

// Millis is a range of moments or of times, ms.
type Millis = units.Range[units.Millisecond]

// Training is the time a link is given to train, ms: the card counts as there after it.
const Training units.Millisecond = 100

// UpOf is the time from a supply's switch to its 12 V, as told or as the standard has it.
func UpOf(s *rig.Supply, ref *reference.Tables) Millis {
	if s.UpMS.Known {
		ends := rig.Span(s.UpMS)
		return units.Between(units.Millisecond(max(0, ends.Low)), units.Millisecond(ends.High))
	}
	return ref.Takes("supply_up")
}

// minus is a difference that may be below zero.
func minus(a, b Millis) Millis { return units.Between(a.Low-b.High, a.High-b.Low) }

// Spare is by how much the card is there before the firmware looks, where supply i feeds it
// and things are switched on in that order. The look is one moment after the host's reset, so
// that what both hang on cancels: after its own reset the card only trains, and of its 12 V
// what counts is from where the two part.
func (n *Network) Spare(i int, order rig.SwitchOn) Millis {
	looks := n.ref.Takes("reset_to_look")
	afterReset := looks.Plus(units.Exactly(-Training))
	by, _ := n.SwitchedBy(i)
	if by == WithHost {
		return afterReset // its 12 V is the host's, whose reset waits for it
	}
	up, toReset := UpOf(&n.rig.Supplies[i], n.ref), n.toReset(by, order)
	spare := afterReset.AtMost(minus(toReset.Plus(looks), up).Plus(units.Exactly(-Training)))
	if !n.HoldsReset() {
		// Nothing keeps the card in reset: its power is there when the host lets go of it.
		spare = spare.AtMost(minus(toReset, up))
	}
	return spare
}

// toReset is the time from the moment a supply is switched on to the host's reset.
func (n *Network) toReset(by Switched, order rig.SwitchOn) Millis {
	button, hand := n.ref.Takes("button_to_reset"), n.ref.Takes("second_hand")
	switch {
	case by == Follows:
		return n.ref.Takes("good_to_reset") // it is pulled when the host's power is good
	case order == rig.DockFirst:
		return hand.Plus(button)
	case order == rig.HostFirst:
		return minus(button, hand)
	default:
		return button
	}
}

// judgeOrder asks whether the card may be ready only after the firmware has looked for it, in
// the order that is meant. Which supply comes first is a person's to choose, so an order
// nobody told is no fault.
func judgeOrder(r *finding.Rule, n *Network, out *finding.List) {
	for i := range n.rig.Supplies {
		by, feeds := n.SwitchedBy(i)
		order, told := n.rig.Sizing.Order.Get()
		if !feeds || by == WithHost || by == ByHand && !told || n.Spare(i, order).Low >= 0 {
			continue
		}
		n.late(r, i, by, order, out)
	}
}

// late says what comes too late, and for what.
func (n *Network) late(r *finding.Rule, i int, by Switched, order rig.SwitchOn, out *finding.List) {
	s := &n.rig.Supplies[i]
	up, looks := UpOf(s, n.ref), n.ref.Takes("reset_to_look")
	ready := up.Plus(n.ref.Takes("training"))
	numbers := func(looks Millis) finding.Numbers {
		return finding.Numbers{{Name: "ready_ms", Value: float64(ready.High)}, {Name: "looks_ms", Value: float64(looks.Low)}}
	}
	reset := n.ref.Takes("good_to_reset")
	switch {
	case by == Follows && !n.HoldsReset():
		ready = up
		out.Add(
			r,
			finding.Risk,
			rig.SupplyPath(i),
			numbers(reset),
			"%s follows the host and has its 12 V up to %v later; %s does not hold the card's reset until then, and the host lets go of it from "+
				"%v on. Switch the dock on first, or restart the host once the dock is up.",
			s.Name,
			up.High,
			n.rig.Route.Stages[n.Slot.Stage].Name,
			reset.Low,
		)
	case by == Follows:
		looks = reset.Plus(looks)
		out.Add(
			r, finding.Risk, rig.SupplyPath(i), numbers(looks),
			"%s follows the host and the card is up to %v later; the host may look for it from %v on.", s.Name, ready.High,
			looks.Low,
		)
	case order == rig.HostFirst:
		ready, looks = n.ref.Takes("second_hand").Plus(ready), n.ref.Takes("button_to_reset").Plus(looks)
		out.Add(
			r,
			finding.Risk,
			"/sizing/switch_on",
			numbers(looks),
			"%s is switched on after the host: the card is up %v or more after the host's button, and the host may look for it from %v on. "+
				"Switch the dock on first, or restart the host once the dock is up.",
			s.Name,
			ready.Low,
			looks.Low,
		)
	default:
		looks = n.ref.Takes("button_to_reset").Plus(looks)
		out.Add(
			r,
			finding.Risk,
			"/sizing/switch_on",
			numbers(looks),
			"%s takes up to %v to its 12 V: switched on with the host, the card may be up only after the host has looked, from %v on. Switch "+
				"the dock on first.",
			s.Name,
			up.High,
			looks.Low,
		)
	}
}
