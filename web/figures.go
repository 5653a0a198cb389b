package web

import (
	"strings"

	"kolvan/core/assess"
	"kolvan/core/fit"
	"kolvan/core/power"
	"kolvan/core/rig"
	"kolvan/core/units"
)

// figure is one of a station's figures; Of names it where it can be opened into its sum.
func briefFigures(r *rig.Rig, report *assess.Report) []figure {
	return []figure{
		{
			figureOf(
				report, "brief.to_buy",
				func(v float64) string { return strings.TrimSpace(units.Money(v).String() + " " + r.Brief.Currency) },
			),
			"still to buy", "brief.to_buy",
		},
		{budgetWords(r), "of the budget", ""},
		{plural(len(r.Brief.Works), "use"), "it is for", ""},
	}
}

func routeFigures(report *assess.Report) []figure {
	pinch := unknown
	if report.Figures.Pinch != nil {
		pinch = *report.Figures.Pinch
	}
	return []figure{
		{figureOf(report, "link.net_gb_s", printRate), "net, each way", "link.net_gb_s"},
		{figureOf(report, "link.fill_s", printTime), "to fill the card's memory", "link.fill_s"},
		{marginFigure(report.Link), "of margin at the planned speed", "link.margin_db"},
		{pinch, "is the pinch", "link.pinch"},
	}
}

func powerFigures(r *rig.Rig, report *assess.Report) []figure {
	card := report.Power.CardSupply()
	if card < 0 {
		return []figure{{"no supply", "feeds the card yet", ""}}
	}
	list := []figure{
		{figureOf(report, "power.sustained_w", printWatts), "sustained, on " + r.Supplies[card].Name, "power.sustained_w"},
		{figureOf(report, "power.supply_share", power.Percent), "of its rating; it is judged for " + judgedFor(r, report.Power), "power.supply_share"},
	}
	for i := range report.Power.Supplies {
		if share := shareWords(&report.Power.Supplies[i]); share != unknown && i != card && len(list) < 4 {
			list = append(list, figure{share, "of " + r.Supplies[i].Name, "power.supplies/" + r.Supplies[i].Name + "/share"})
		}
	}
	return list
}

// freeBox is the room to shop with: how far a card may grow each way where this one
// stands.
func freeBox(c *fit.Chamber, mm func(units.Millimetre) string) (string, bool) {
	var ways [3]string
	for i := range ways {
		most, known := c.Largest(i)
		if !known {
			return "", false
		}
		ways[i] = strings.TrimSuffix(mm(most), " mm")
	}
	text := strings.Join(ways[:], " × ")
	if !strings.HasSuffix(text, " in") {
		text += " mm"
	}
	return text, true
}

// packedFigures are of a rig that travels: its bag, its weight, how long it takes.
func packedFigures(r *rig.Rig) (list []figure) {
	p, travels := fit.Pack(r)
	if !travels {
		return nil
	}
	if p.Share > 0 {
		list = append(list, figure{Value: power.Percent(p.Share), Label: "of the bag"})
	}
	if p.Mass > 0 {
		list = append(list, figure{Value: p.Mass.String(), Label: "to carry, as far as told"})
	}
	if r.Brief.Travel.Minutes.Known {
		list = append(list, figure{Value: units.Trim(r.Brief.Travel.Minutes.Value, 0) + " min", Label: "to set up"})
	}
	return list
}

func fitFigures(r *rig.Rig, report *assess.Report, inches bool) []figure {
	mm := func(v units.Millimetre) string { return length(v.Ruled(), inches) }
	list := append([]figure{{gapWords(r, &report.Figures, inches), "smallest gap", "fit.gap_mm"}}, packedFigures(r)...)
	if gap, known := report.Chamber.Gap(); known {
		list = append(list, figure{Value: gap.Name, Label: "is nearest"}, figure{Value: "±" + mm(gap.Tolerance), Label: gap.Measured()})
	}
	// Of a card that meets something, only how long it may be says anything: its height
	// and thickness reach into what it meets, however small they are.
	most, known := freeBox(report.Chamber, mm)
	longest, some := report.Chamber.Largest(0)
	switch gap, measured := report.Chamber.Gap(); {
	case measured && gap.Ends.Low >= 0 && known:
		list = append(list, figure{Value: most, Label: "longest, highest, thickest card there, the rest as it is"})
	case some:
		list = append(list, figure{Value: mm(longest), Label: "longest card there"})
	}
	if needed, watts, _ := report.Chamber.AirNeeded(); watts.Known() && !report.Chamber.Open() {
		list = append(list, figure{Value: needed.High.String(), Label: "of air for the " + watts.High.String() + " in it: " + fit.AirWord(needed.High)})
	}
	return list
}
