package made

import (
	"fmt"
	"math"

	"kolvan/core/fit"
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
	hole := fit.OutlineOf(&r.Chamber.Opening.Hole)
	if hole == nil {
		return nil, nil
	}
	hole, wide, high := centred(hole)
	cut, open := inset(loopOf(hole), window)
	if !open {
		return nil, nil
	}
	w, h := wide/2+flange, high/2+flange
	tab := wide / 2
	plate := []Point{{-w, -h}, {w, -h}, {w, h}, {tab, h}, {tab, h + tabHigh}, {-tab, h + tabHigh}, {-tab, h}, {-w, h}}
	loops := append([][]Point{plate, cut}, corners(w, h)...)
	loops = append(loops, circle(Point{0, h + tabHigh/2}, tabBore))
	solid, err := ExtrudeRound("bracket", loops[0], loops[1:], bracketDeep)
	if err != nil {
		return nil, err
	}
	return &Part{Key: "bracket", Name: "bracket", Solid: solid, Outline: &Outline{
		Name: "bracket for an opening", Loops: loops, Folds: [][2]Point{{{-tab, h}, {tab, h}}},
	},
		Planned: true, Inserts: 1,
		Says: fmt.Sprintf(
			"For an opening of %v by %v: four bores for M3 in its flange, a cut-out for the card's sockets, and a tab with a bore of %v for a "+
				"brass insert that takes the card's screw. Of sheet, fold the tab at the dashed line, and tap it in place of the insert.",
			wide, high, tabBore,
		)}, nil
}

// corners are the bores for M3 in the corners of a flange that reaches as far from the middle.
func corners(w, h units.Millimetre) (loops [][]Point) {
	x, y := w-flange/2, h-flange/2
	for _, p := range []Point{{-x, -y}, {x, -y}, {x, y}, {-x, y}} {
		loops = append(loops, circle(p, boreM3))
	}
	return loops
}

// centred is an outline with the middle of its bounds at the origin, and how wide and high it is.
func centred(outline [][2]units.Millimetre) (moved [][2]units.Millimetre, wide, high units.Millimetre) {
	low, top := fit.Bounds(outline)
	for _, p := range outline {
		moved = append(moved, [2]units.Millimetre{p[0] - (low[0]+top[0])/2, p[1] - (low[1]+top[1])/2})
	}
	return moved, top[0] - low[0], top[1] - low[1]
}

func loopOf(outline [][2]units.Millimetre) []Point {
	loop := make([]Point, len(outline))
	for i, p := range outline {
		loop[i] = Point{p[0], p[1]}
	}
	return loop
}

// inset is a counter-clockwise loop with each side moved inward; false where nothing is left of
// it: where a side would run the other way, be shorter than can be cut, or meet another.
func inset(loop []Point, by units.Millimetre) ([]Point, bool) {
	n := len(loop)
	moved := make([]Point, n)
	for i, b := range loop {
		in, out := unit(loop[(i+n-1)%n], b), unit(b, loop[(i+1)%n])
		straight := 1 + in.X*out.X + in.Y*out.Y // 0 where the outline turns back on itself
		if straight < 0.1 {
			return nil, false
		}
		moved[i] = Point{b.X - by*(in.Y+out.Y)/straight, b.Y + by*(in.X+out.X)/straight}
	}
	for i, a := range moved {
		b, was := moved[(i+1)%n], unit(loop[i], loop[(i+1)%n])
		if (b.X-a.X)*was.X+(b.Y-a.Y)*was.Y < leastCut {
			return nil, false
		}
	}
	_, err := Extrude("window", moved, 1)
	return moved, err == nil
}

// leastCut is the shortest side a window is cut with, mm (P).
const leastCut units.Millimetre = 2

// unit is the way from one point to another, of length one.
func unit(a, b Point) Point {
	long := units.Millimetre(math.Hypot(float64(b.X-a.X), float64(b.Y-a.Y)))
	return Point{(b.X - a.X) / long, (b.Y - a.Y) / long}
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
