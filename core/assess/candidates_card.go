package assess

import (
	"cmp"
	"fmt"
	"kolvan/core/finding"
	"kolvan/core/rig"
	"kolvan/core/units"
	"math"
	"slices"
	"strings"
)

// capCandidates: the card's power capped by software, the highest cap first.
func capCandidates(g *given, try func(candidate) bool) {
	power, known := g.rig.Card.Power.Get()
	if !known || rig.Is(g.rig.Card.BuiltIn, true) {
		return
	}
	power = max(power, leastCard)
	for _, at := range g.ref.Caps {
		watts := units.Watt(math.Round(float64(power) * at.Share))
		if now, told := g.rig.Card.Cap.Get(); told && watts >= now {
			continue
		}
		c := copyOf(g.rig)
		c.Card.Cap = rig.Of(watts)
		says := fmt.Sprintf(
			"Cap the card's power at %v by software: most often %.0f to %.0f %% of its speed", watts, 100*at.Low, 100*at.High,
		)
		if !try(candidate{kind: finding.CardCap, rig: c, says: says}) {
			return
		}
	}
}

// cardCandidates: another card from the bins, with the leads its plugs want as
// far as free outlets have them.
func cardCandidates(g *given, try func(candidate) bool) {
	r := g.rig
	if rig.Is(r.Card.BuiltIn, true) && !rig.Is(r.Card.Opens, true) {
		return // it does not leave its box, and no other goes in
	}
	room := new(rig.Rig) // of one card after another: a change that is offered keeps its patch alone
	for _, i := range nearestFirst(g.bins.Cards, &r.Card) {
		if g.bins.Cards[i].Name == r.Card.Name {
			continue
		}
		c, says := feedPlugs(withCard(room, r, g.bins.Cards[i]), g.ref), "Use card "+g.bins.Cards[i].Name
		if len(c.Leads) > len(r.Leads) {
			says += ", with another lead"
		}
		says += givesUp(&r.Card, &c.Card)
		if !try(candidate{kind: finding.AnotherCard, rig: c, says: says}) {
			return
		}
	}
}

// givesUp says what another card lacks that the present one has.
func givesUp(now, next *rig.Card) string {
	var lost []string
	if less := now.Memory.Value - next.Memory.Value; now.Memory.Known && next.Memory.Known && less > 0 {
		lost = append(lost, less.String()+" of memory")
	}
	if less := now.Lanes.Value - next.Lanes.Value; now.Lanes.Known && next.Lanes.Known && less > 0 {
		lost = append(lost, fmt.Sprintf("%d lanes", less))
	}
	for _, e := range now.Encoders.Value {
		if next.Encoders.Known && !slices.Contains(next.Encoders.Value, e) {
			lost = append(lost, "the encoder "+e)
		}
	}
	if lost == nil {
		return ""
	}
	return ", giving up " + strings.Join(lost, ", ")
}

// nearestFirst orders cards by how far their board power is from the present
// card's, so that the first that clears a finding changes least of the plan; as
// they are listed where the present one's is not known.
func nearestFirst(cards []rig.Card, now *rig.Card) []int {
	order := make([]int, len(cards))
	for i := range order {
		order[i] = i
	}
	wanted := float64(now.Power.Or(units.Watt(math.Inf(1))))
	off := func(i int) float64 { return math.Abs(float64(cards[i].Power.Value) - wanted) }
	slices.SortStableFunc(order, func(a, b int) int { return cmp.Compare(off(a), off(b)) })
	return order
}
