package why

import (
	"math"

	"kolvan/core/link"
	"kolvan/core/units"
)

// gap is the smallest gap: the two faces it lies between, along its axis.
func gap(d *desk, high bool) (Term, bool) {
	c := d.report.Chamber
	ends, some := c.GapEnds()
	if !some || c.Least < 0 {
		return Term{}, false
	}
	g := &c.Gaps[c.Least]
	is := pick(float64(ends.Low), float64(ends.High), high)
	axis, from, to := c.Span(g)
	along := "along " + string("xyz"[axis])
	near := Term{Name: "near face of " + g.Name + ", " + along, Unit: "mm", Value: float64(to), At: g.Where, Op: Fact, Trust: "told"}
	far := Term{Name: "face of the card towards it, " + along, Unit: "mm", Value: float64(from), At: "/chamber/card_at", Op: Fact,
		Trust: "told"}
	if units.Millimetre(math.Abs(float64(from-to)-is)) < units.Millimetre(math.Abs(float64(to-from)-is)) {
		near, far = far, near // it stands before the card
	}
	t := join(
		Difference,
		"smallest gap",
		"mm",
		"Between the card and what stands nearest to it, along one axis; across a corner the root of the squares.",
		near,
		far,
	)
	return settle(t, is, "what lies across the corner, or is not told"), true
}

// figures are the figures of the report that can be opened, by their names in it.
func (d *desk) figures() map[string]maker {
	all := map[string]maker{
		"link.width":     {"lanes the card gets", "", width, false},
		"link.gen":       {"generation of the link", "", generation, false},
		"link.raw_gb_s":  {"raw rate", "GB/s", raw, false},
		"link.net_gb_s":  {"net rate", "GB/s", net, false},
		"link.fill_s":    {"time to fill the card's memory", "s", fill, false},
		"link.margin_db": {"margin of the route", "dB", margin, false},
		"link.chance":    {"chance of a stable link", "", chance, false},
		"link.likely_gen": {"fastest speed that is likely", "",
			reached("fastest likely speed", (*link.Plan).Likely, func(d *desk) units.Decibel { return d.ref.MarginLikely }), false},
		"link.comfortable_gen": {"fastest speed that is comfortable", "",
			reached("fastest comfortable speed", (*link.Plan).Comfortable, func(d *desk) units.Decibel { return d.ref.MarginComfortable }), false},
		"link.pinch":   {"what limits the link", "GB/s", pinch, false},
		"fit.gap_mm":   {"smallest gap", "mm", gap, false},
		"brief.to_buy": {"still to buy", d.r.Brief.Currency, toBuy, false},
	}
	d.supplies(all)
	d.totals(all)
	d.forecasts(all)
	return all
}

// pinch is what the element that limits carries by itself, against all others.
func pinch(d *desk, high bool) (Term, bool) {
	p := d.report.Link
	limits, known := p.Pinch()
	if !known {
		return Term{}, false
	}
	t := Term{
		Name:    limits.Name + " limits",
		Unit:    "GB/s",
		Op:      Min,
		Formula: "The first that carries least by itself: its own lanes at its own generation.",
	}
	for i := range p.Elements {
		e := &p.Elements[i]
		lanes, gen := e.LaneEnds.High, e.GenEnds.High
		if !high {
			lanes, gen = e.LaneEnds.Low, e.GenEnds.Low
		}
		t.Terms = append(
			t.Terms,
			Term{Name: e.Name, Unit: "GB/s", Value: float64(link.Raw(d.ref, link.Legal(lanes), gen)), At: e.Where, Op: Product,
				Terms: []Term{d.of(e.Where+"/lanes", "lanes", float64(link.Legal(lanes))), lane(d, gen)}},
		)
	}
	t.Value = t.Worked()
	return t, true
}
