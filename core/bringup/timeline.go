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
type Millis = power.Millis

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

var orderWords = map[string]string{
	DockFirst: "the dock first, then the host", Together: "both at once", HostFirst: "the host first, then the dock",
}

// OrdersOf lists the orders of switching that are possible with what switches the card's
// supplies on, each with whether the firmware finds the card. Without a supply that feeds
// the card there is none.
func OrdersOf(r *rig.Rig, ref *reference.Tables) []Order {
	n := power.For(r, ref)
	var fed []int
	never, byHand := false, false
	for i := range r.Supplies {
		by, feeds := n.SwitchedBy(i)
		if !feeds {
			continue
		}
		fed = append(fed, i)
		byHand = byHand || by == power.ByHand
		never = never || by == power.ByHand && n.NeverOn(i)
	}
	if len(fed) == 0 {
		return nil
	}
	names := []string{Together}
	if byHand {
		names = []string{DockFirst, Together, HostFirst}
	}
	orders := make([]Order, len(names))
	for k, name := range names {
		spare := n.Spare(fed[0], rig.SwitchOn(name))
		for _, i := range fed[1:] {
			spare = spare.AtMost(n.Spare(i, rig.SwitchOn(name)))
		}
		orders[k] = orderOf(name, spare)
		if never {
			orders[k] = Order{Order: name, Found: "never"} // nothing ever switches it on
		}
	}
	return orders
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
