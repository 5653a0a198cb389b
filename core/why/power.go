package why

import (
	"fmt"

	"kolvan/core/power"
	"kolvan/core/rig"
)

// sustained is what a supply gives for long, in one state.
func sustained(i int) func(d *desk, high bool) (Term, bool) {
	return func(d *desk, high bool) (Term, bool) {
		load := &d.report.Power.Supplies[i]
		m := d.report.Power.MakeupOf(i, high)
		terms := d.cardTerms(&m)
		if m.Host != 0 {
			terms = append(terms, d.of("/host/power_w", "the host under load", float64(m.Host)))
		}
		for _, s := range m.Stages {
			terms = append(
				terms,
				d.of(rig.StagePath(s.Stage)+"/power_w", "what "+d.r.Route.Stages[s.Stage].Name+" takes for itself", float64(s.Watts)),
			)
		}
		if m.Rest != 0 {
			terms = append(
				terms,
				Term{
					Name:   "lost in converters, or shared with another supply",
					Unit:   "W",
					Value:  float64(m.Rest),
					Op:     Formula,
					Trust:  "P",
					Source: "worked out along the leads",
				},
			)
		}
		if len(terms) == 0 {
			terms = []Term{{Name: "nothing hangs on it", Unit: "W", Op: Fact, At: rig.SupplyPath(i)}}
		}
		planned := join(Sum, "lasting load", "W", "All that hangs on it in one state: of the card never more than its board power.", terms...)
		planned = settle(planned, pick(float64(load.Planned.Low), float64(load.Planned.High), high), "shared with another supply")
		if m.Metered == 0 {
			return planned, true
		}
		wall := d.of(rig.SupplyPath(i)+"/wall_w", "behind it, by the meter at the wall", float64(m.Metered))
		return join(Max, "lasting load", "W", "The plan's sum, or what the meter tells where that is more.", planned, wall), true
	}
}

// cardTerms are the card's part of a load: its board power, opened into how it comes in, and
// what is lost in making the slot's voltages.
func (d *desk) cardTerms(m *power.Makeup) (terms []Term) {
	if m.Board == 0 {
		return nil
	}
	name := "board power of the card"
	if d.r.Card.Name != "" {
		name = "board power of the " + d.r.Card.Name
	}
	board := d.of("/card/power_w", name, float64(m.Board))
	if !m.Whole {
		board.Name, board.Trust, board.Source = "of the card, what flows here", "worked out", "the card's watts are shared between its feeds"
	}
	through := Term{
		Name:   "through the slot, at its most",
		Unit:   "W",
		Value:  float64(m.Slot),
		Op:     Table,
		Trust:  "S",
		Source: "the card standard: 75 W at most with plugs",
	}
	plugs := Term{Name: "through its plugs, what is left", Unit: "W", Value: float64(m.Plugs), Op: Formula, Trust: "worked out"}
	board.Op, board.Terms = Share, []Term{through, plugs}
	terms = []Term{board}
	if m.Lost != 0 {
		made := Term{
			Name:   "made from another voltage, for the slot",
			Unit:   "W",
			Value:  float64(m.Converted),
			Op:     Table,
			Trust:  "S",
			Source: "the card standard: 3 A at 3.3 V",
		}
		passes := row("what a small converter passes on", "", m.Passes, "P", "0.80 to 0.92")
		one := Term{Name: "all", Value: 1, Op: Table}
		lost := join(Product, "lost in making the slot's voltages", "W", "watts × (1 ÷ what passes − 1)", made,
			join(Difference, "lost of each watt", "", "", join(Quotient, "taken for each watt", "", "", one, passes), one))
		terms = append(terms, lost)
	}
	return terms
}

// along is what flows along a lead, in one state.
func (d *desk) along(lead int, high bool) Term {
	p := d.report.Power.PathOf(lead, high)
	all := []Term{
		{
			Name:   "through the card's slot",
			Unit:   "W",
			Value:  float64(p.Slot),
			Op:     Table,
			At:     "/card/power_w",
			Trust:  "S",
			Source: "the card standard: 75 W at most with plugs, 66 of them at 12 V",
		},
		{
			Name:   "lost in making the slot's voltages",
			Unit:   "W",
			Value:  float64(p.Lost),
			Op:     Formula,
			Trust:  "P",
			Source: "watts × (1 ÷ what passes − 1)",
		},
		{Name: "through the card's plugs", Unit: "W", Value: float64(p.Plugs), Op: Formula, At: "/card/power_w", Trust: "worked out"},
		{Name: "for the host, and for stages themselves", Unit: "W", Value: float64(p.Other), Op: Formula, Trust: "worked out"},
	}
	terms := []Term{}
	for _, t := range all {
		if t.Value != 0 {
			terms = append(terms, t)
		}
	}
	return join(Sum, "along "+d.r.Leads[lead].Name, "W", "All that the lead brings, in one state.", orNothing(terms)...)
}

func rating(i int) func(d *desk, high bool) (Term, bool) {
	return func(d *desk, high bool) (Term, bool) {
		rated, told := d.r.Supplies[i].Rating.Get()
		return d.of(rig.SupplyPath(i)+"/rating_w", "rating of "+d.r.Supplies[i].Name, float64(rated)), told
	}
}

func share(i int) func(d *desk, high bool) (Term, bool) {
	return func(d *desk, high bool) (Term, bool) {
		load, _ := sustained(i)(d, high)
		rated, told := rating(i)(d, high)
		if !told || rated.Value == 0 {
			return Term{}, false
		}
		return join(
			Quotient,
			"share of its rating",
			"",
			"The lasting load over the rating; the plan allows "+power.Percent(d.report.Power.Share())+".",
			load,
			rated,
		), true
	}
}

// supplies are the figures of each supply, by its name, and of the one that feeds the card.
func (d *desk) supplies(all map[string]maker) {
	for i := range d.r.Supplies {
		name := d.r.Supplies[i].Name
		key := "power.supplies/" + name + "/"
		all[key+"sustained_w"] = maker{"lasting load on " + name, "W", sustained(i), false}
		all[key+"rating_w"] = maker{"rating of " + name, "W", rating(i), false}
		all[key+"share"] = maker{"share of the rating of " + name, "", share(i), false}
	}
	if i := d.report.Power.CardSupply(); i >= 0 {
		name := d.r.Supplies[i].Name
		all["power.sustained_w"] = maker{fmt.Sprintf("lasting load on %s, which feeds the card", name), "W", sustained(i), false}
		all["power.supply_share"] = maker{fmt.Sprintf("share of the rating of %s, which feeds the card", name), "", share(i), false}
	}
}
