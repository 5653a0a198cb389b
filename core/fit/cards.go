package fit

import (
	"cmp"
	"slices"

	"kolvan/core/reference"
	"kolvan/core/rig"
	"kolvan/core/units"
)

// A Slack is one card of a list in the place of the rig's own: its smallest gap, and
// what it takes to get it in.
type Slack struct {
	Card int // in the list
	Gap  *Gap
	Out  []int    // things that must come out for it
	Off  []string // covers that would have to stay off for it
	Goes bool     // it goes in, once those are out and off
}

// Slacks sorts cards by the gap they would have where the rig's own stands, the widest
// first; those of which it cannot be known are left out.
func Slacks(r *rig.Rig, cards []rig.Card, ref *reference.Tables) []Slack {
	var list []Slack
	tried := *r
	for i := range cards {
		tried.Card = cards[i]
		c := For(&tried, ref)
		if gap, known := c.Gap(); known {
			s := Slack{Card: i, Gap: gap}
			s.makeRoom(c)
			list = append(list, s)
		}
	}
	slices.SortStableFunc(list, func(a, b Slack) int { return cmp.Compare(b.Gap.Ends.Low, a.Gap.Ends.Low) })
	return list
}

// makeRoom takes out what the card meets. All it meets has to go, and nothing else; a
// wall, or what the papers say, does not.
func (s *Slack) makeRoom(c *Chamber) {
	s.Goes = true
	for i := range c.Gaps {
		g := &c.Gaps[i]
		if g.Off || g.Ends.Low >= 0 {
			continue
		}
		switch thing, cover := c.thingAt(g.Where), c.coverAt(g.Where); {
		case thing >= 0 && !c.rig.Chamber.Things[thing].Holds:
			s.Out = append(s.Out, thing)
		case cover >= 0:
			s.Off = append(s.Off, g.Name)
		default:
			s.Goes = false
		}
	}
}

// LargestOf is the place in a list of slacks of the card with the most volume that goes
// in while everything still closes; −1 for none.
func LargestOf(list []Slack, cards []rig.Card) int {
	largest, most := -1, units.Millimetre(0)
	for i := range list {
		card := &cards[list[i].Card]
		volume := card.Length.Value * card.Height.Value * card.Thickness.Value
		if list[i].Gap.Ends.Low >= 0 && volume > most {
			largest, most = i, volume
		}
	}
	return largest
}
