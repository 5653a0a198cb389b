package fit

import (
	"strings"

	"kolvan/core/assess"
	"kolvan/core/fit"
	"kolvan/core/power"
	"kolvan/core/rig"
	"kolvan/core/units"
	"kolvan/web/phrase"
	"kolvan/web/room"
)

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

// PackedFigures are of a rig that travels: its bag, its weight, how long it takes.
func PackedFigures(r *rig.Rig) (list []room.Figure) {
	p, travels := fit.Pack(r)
	if !travels {
		return nil
	}
	if p.Share > 0 {
		list = append(list, room.Figure{Value: power.Percent(p.Share), Label: "of the bag"})
	}
	if p.Mass > 0 {
		list = append(list, room.Figure{Value: p.Mass.String(), Label: "to carry, as far as told"})
	}
	if r.Brief.Travel.Minutes.Known {
		list = append(list, room.Figure{Value: units.Trim(r.Brief.Travel.Minutes.Value, 0) + " min", Label: "to set up"})
	}
	return list
}

// Figures are what stands below the drawing.
func Figures(r *rig.Rig, report *assess.Report, inches bool) []room.Figure {
	mm := func(v units.Millimetre) string { return phrase.Length(v.Ruled(), inches) }
	list := append([]room.Figure{{Value: GapWords(r, &report.Figures, inches), Label: "smallest gap", Of: "fit.gap_mm"}}, PackedFigures(r)...)
	if gap, known := report.Chamber.Gap(); known {
		list = append(list, room.Figure{Value: gap.Name, Label: "is nearest"}, room.Figure{Value: "±" + mm(gap.Tolerance),
			Label: gap.Measured()})
	}
	// Of a card that meets something, only how long it may be says anything: its height
	// and thickness reach into what it meets, however small they are.
	most, known := freeBox(report.Chamber, mm)
	longest, some := report.Chamber.Largest(0)
	switch gap, measured := report.Chamber.Gap(); {
	case measured && gap.Ends.Low >= 0 && known:
		list = append(list, room.Figure{Value: most, Label: "longest, highest, thickest card there, the rest as it is"})
	case some:
		list = append(list, room.Figure{Value: mm(longest), Label: "longest card there"})
	}
	if needed, watts, _ := report.Chamber.AirNeeded(); watts.Known() && !report.Chamber.Open() {
		list = append(list, room.Figure{Value: needed.High.String(), Label: "of air for the " + watts.High.String() + " in it: " +
			fit.AirWord(needed.High)})
	}
	return list
}

// GapWords is the smallest gap, or why there is none.
func GapWords(r *rig.Rig, f *assess.Figures, inches bool) string {
	switch {
	case rig.Is(r.Card.BuiltIn, true):
		return "in its box"
	case r.Chamber.Open:
		return "open air"
	case f.Gap == nil:
		return phrase.Unknown
	default:
		return phrase.Length(units.Millimetre(*f.Gap).Ruled(), inches)
	}
}
