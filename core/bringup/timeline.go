package bringup

import (
	"cmp"
	"math"
	"slices"

	"kolvan/core/power"
	"kolvan/core/reference"
	"kolvan/core/rig"
	"kolvan/core/units"
)

// Millis is a range of moments or of times, ms.
type Millis = units.Range[units.Millisecond]

// An Order is one order of switching, and whether the card is found in it.
type Order struct {
	Order string      `json:"order"` // dock-first, together, host-first
	Found string      `json:"found"` // never, perhaps, always
	Spare [2]*float64 `json:"spare_ms"`
	spare Millis      // by how much the card is there before the firmware looks
	found units.Certainty
}

// The orders of switching.
const (
	DockFirst = "dock-first"
	Together  = "together"
	HostFirst = "host-first"
)

var orderWords = map[string]string{DockFirst: "the dock first, then the host", Together: "both at once", HostFirst: "the host first, then the dock"}

// training is the time a link is given to train, ms: the card counts as there after it.
const training units.Millisecond = 100

// moments are the ranges a switching is made of, ms.
type moments struct {
	up, buttonToReset, goodToReset, resetToLook, hand Millis
	holds, never                                      bool
	by                                                power.Switched
}

// OrdersOf lists the orders of switching that are possible with what switches the card's
// supplies on, each with whether the firmware finds the card. Without a supply that feeds
// the card there is none.
func OrdersOf(r *rig.Rig, ref *reference.Tables) []Order {
	n := power.For(r, ref)
	var fed []moments
	for i := range r.Supplies {
		by, feeds := n.SwitchedBy(i)
		if !feeds {
			continue
		}
		never := rig.Is(r.Supplies[i].TurnOn, rig.TurnOnNone) && by == power.ByHand && power.WaitsToBeSwitched(&r.Supplies[i])
		m := moments{upOf(&r.Supplies[i], ref), ref.Takes("button_to_reset"), ref.Takes("good_to_reset"), ref.Takes("reset_to_look"), ref.Takes("second_hand"), n.HoldsReset(), never, by}
		fed = append(fed, m)
	}
	if len(fed) == 0 {
		return nil
	}
	names := []string{Together}
	if slices.ContainsFunc(fed, func(m moments) bool { return m.by == power.ByHand }) {
		names = []string{DockFirst, Together, HostFirst}
	}
	orders := make([]Order, len(names))
	for i, name := range names {
		spare := fed[0].spare(name)
		for _, m := range fed[1:] {
			spare = spare.Most(m.spare(name))
		}
		orders[i] = orderOf(name, spare)
		if slices.ContainsFunc(fed, func(m moments) bool { return m.never }) {
			orders[i] = Order{Order: name, Found: "never"} // nothing ever switches it on
		}
	}
	return orders
}

// upOf is the time from a supply's switch to its 12 V, as told or as the standard has it.
func upOf(s *rig.Supply, ref *reference.Tables) Millis {
	if s.UpMS.Known {
		return units.Exactly(units.Millisecond(s.UpMS.Value))
	}
	return ref.Takes("supply_up")
}

func orderOf(name string, spare Millis) Order {
	o := Order{Order: name, spare: spare, found: units.Sometimes}
	switch {
	case spare.Low >= 0:
		o.found = units.Always
	case spare.High < 0:
		o.found = units.Never
	}
	o.Found = map[units.Certainty]string{units.Never: "never", units.Sometimes: "perhaps", units.Always: "always"}[o.found]
	low, high := float64(spare.Low), float64(spare.High)
	o.Spare = [2]*float64{&low, &high}
	return o
}

// minus is a difference that may be below zero.
func minus(a, b Millis) Millis { return units.Between(a.Low-b.High, a.High-b.Low) }

// spare is by how much the card is there before the firmware looks. The look is one
// moment after the host's reset, so that what both hang on cancels: after its own reset
// the card only trains, and of its 12 V what counts is from where the two part.
func (m *moments) spare(order string) Millis {
	afterReset := m.resetToLook.Plus(units.Exactly(-training))
	if m.by == power.WithHost {
		// Its 12 V is the host's, whose reset waits for it.
		return afterReset
	}
	toReset := m.lead(order) // from its switch to the host's reset
	power := minus(toReset.Plus(m.resetToLook), m.up).Plus(units.Exactly(-training))
	spare := afterReset.Most(power)
	if !m.holds {
		// Nothing keeps the card in reset: its power is there when the host lets go of it.
		spare = spare.Most(minus(toReset, m.up))
	}
	return spare
}

// lead is the time from the moment the supply is switched on to the host's reset.
func (m *moments) lead(order string) Millis {
	switch {
	case m.by == power.Follows:
		return m.goodToReset // it is pulled when the host's power is good
	case order == DockFirst:
		return m.hand.Plus(m.buttonToReset)
	case order == HostFirst:
		return minus(m.buttonToReset, m.hand)
	default:
		return m.buttonToReset
	}
}

// safest is the order in which the card is found most surely: of those that are as sure,
// the one with most to spare at the worst.
func safest(orders []Order) (best Order, found bool) {
	if len(orders) == 0 {
		return best, false
	}
	return slices.MaxFunc(orders, func(a, b Order) int {
		return cmp.Or(cmp.Compare(a.found, b.found), cmp.Compare(a.spare.Low, b.spare.Low), cmp.Compare(b.spare.High, a.spare.High))
	}), true
}

// MeantOrder is the order a person means to follow, else the safest there is.
func MeantOrder(r *rig.Rig, orders []Order) string {
	if told, known := r.Sizing.Order.Get(); known {
		if slices.ContainsFunc(orders, func(o Order) bool { return o.Order == string(told) }) {
			return string(told)
		}
	}
	if best, found := safest(orders); found {
		return best.Order
	}
	return Together
}

// Dark is how long the screen may stay dark after switching on, in seconds, and why.
func Dark(r *rig.Rig, ref *reference.Tables) (low, high float64, why string) {
	look := ref.Takes("button_to_reset").Plus(ref.Takes("reset_to_look"))
	low, high = math.Round(float64(look.Low)/1000)+10, math.Round(float64(look.High)/1000)+90
	why = "the firmware looks for devices and the system starts"
	if !rig.Is(r.Card.Driver, "fine") {
		low, high, why = low+30, high+300, why+", then it may fetch a driver"
	}
	return low, max(high, 180), why + "; the first start after mains was off, or after defaults, may take three minutes by itself"
}
