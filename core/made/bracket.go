package made

import (
	"fmt"
	"math"

	"kolvan/core/reference"
	"kolvan/core/rig"
	"kolvan/core/units"
)

// The measures of a bracket that is made, mm (P).
const (
	flange      units.Millimetre = 10  // beyond the opening, each side, with a screw in every corner
	window      units.Millimetre = 4   // between the opening's edge and the cut-out for the card's sockets
	tabHigh     units.Millimetre = 14  // beyond the flange: the card's bracket is screwed to it
	tabBore     units.Millimetre = 4.0 // for a brass insert of M3
	bracketDeep units.Millimetre = 3
	boreSides                    = 32
)

// bracketOf is a bracket for an opening that no stock bracket matches; nil while its
// opening is not measured, or where that is too small for one.
func bracketOf(r *rig.Rig, _ *reference.Tables) (*Part, error) {
	o := &r.Chamber.Opening
	wide, high := o.Wide.Value, o.High.Value
	if !o.Wide.Known || !o.High.Known || wide <= 2*window+2 || high <= 2*window+2 {
		return nil, nil
	}
	w, h := wide/2+flange, high/2+flange
	tab := wide / 2
	plate := []Point{{-w, -h}, {w, -h}, {w, h}, {tab, h}, {tab, h + tabHigh}, {-tab, h + tabHigh}, {-tab, h}, {-w, h}}
	loops := [][]Point{plate, Rectangle(wide-2*window, high-2*window)}
	corner := flange / 2
	for _, p := range []Point{{-w + corner, -h + corner}, {w - corner, -h + corner}, {w - corner, h - corner}, {-w + corner, h - corner}} {
		loops = append(loops, circle(p, boreM3))
	}
	loops = append(loops, circle(Point{0, h + tabHigh/2}, tabBore))
	solid, err := ExtrudeRound("bracket", loops[0], loops[1:], bracketDeep)
	if err != nil {
		return nil, err
	}
	return &Part{Key: "bracket", Name: "bracket", Solid: solid, Outline: &Outline{
		Name: "bracket for an opening", Loops: loops, Folds: [][2]Point{{{-tab, h}, {tab, h}}},
	},
		Says: fmt.Sprintf(
			"For an opening of %v by %v: four bores for M3 in its flange, a cut-out for the card's sockets, and a tab with a bore of %v for a "+
				"brass insert that takes the card's screw. Of sheet, fold the tab at the dashed line.",
			wide, high, tabBore,
		)}, nil
}

// circle is a loop around a point, counter-clockwise.
func circle(at Point, diameter units.Millimetre) []Point {
	loop := make([]Point, boreSides)
	for i := range loop {
		sin, cos := math.Sincos(2 * math.Pi * float64(i) / boreSides)
		loop[i] = Point{at.X + diameter/2*units.Millimetre(cos), at.Y + diameter/2*units.Millimetre(sin)}
	}
	return loop
}
