package power

import (
	"kolvan/core/assess"
	"kolvan/core/power"
	"kolvan/core/rig"
	"kolvan/web/phrase"
	"kolvan/web/room"
)

// Figures are what stands below the drawing.
func Figures(r *rig.Rig, report *assess.Report) []room.Figure {
	card := report.Power.CardSupply()
	if card < 0 {
		return []room.Figure{{Value: "no supply", Label: "feeds the card yet", Of: ""}}
	}
	list := []room.Figure{
		{Value: phrase.Figure(report, "power.sustained_w", phrase.PrintWatts), Label: "sustained, on " + r.Supplies[card].Name,
			Of: "power.sustained_w"},
		{Value: phrase.Figure(report, "power.supply_share", power.Percent), Label: "of its rating; it is judged for " +
			phrase.JudgedFor(r, report.Power), Of: "power.supply_share"},
	}
	for i := range report.Power.Supplies {
		if share := phrase.Share(&report.Power.Supplies[i]); share != phrase.Unknown && i != card && len(list) < 4 {
			list = append(list, room.Figure{Value: share, Label: "of " + r.Supplies[i].Name, Of: "power.supplies/" + r.Supplies[i].Name + "/share"})
		}
	}
	return list
}
