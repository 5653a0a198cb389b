package assess

import (
	"math"
	"slices"

	"kolvan/core/finding"
	"kolvan/core/reference"
	"kolvan/core/rig"
	"kolvan/core/units"
)

// CardUpTo is the most board power, in whole watts, of a card that is otherwise like the
// planned one and with which the first of the findings is gone, and of the others all that
// any lower power clears; false where the card's power is not told, or where no lower one
// clears the first. What a card draws flows through one model, which asks for less of
// everything with less of it: the bound is found by halving.
func CardUpTo(found []*finding.Finding, r *rig.Rig, ref *reference.Tables) (units.Watt, bool) {
	power, told := r.Card.Power.Get()
	if !told || len(found) == 0 {
		return 0, false
	}
	t := trial{rig: *r, ref: ref, out: finding.List{Silent: true}}
	stays := t.stay(found, leastCard)
	if slices.Contains(stays, found[0]) {
		return 0, false
	}
	low, high := leastCard, int(math.Ceil(float64(power)))
	for high-low > 1 {
		if middle := (low + high) / 2; len(t.stay(found, middle)) <= len(stays) {
			low = middle
		} else {
			high = middle
		}
	}
	return units.Watt(low), true
}

// leastCard is the least a graphics card draws, W (P).
const leastCard = 15

// A trial judges a rig with cards of other power.
type trial struct {
	rig  rig.Rig
	ref  *reference.Tables
	desk desk
	out  finding.List
}

// stay are the findings that are there with a card of that power too.
func (t *trial) stay(found []*finding.Finding, watts int) (list []*finding.Finding) {
	t.rig.Card.Power = rig.Of(units.Watt(watts))
	t.out.Empty()
	after := t.desk.judge(&t.rig, t.ref, &t.out).Findings
	for _, f := range found {
		if slices.ContainsFunc(after, func(a finding.Finding) bool {
			return a.Rule == f.Rule && a.Where == f.Where && a.Level >= finding.Risk
		}) {
			list = append(list, f)
		}
	}
	return list
}
