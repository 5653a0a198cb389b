package fit

import (
	"cmp"
	"math"
	"slices"

	"kolvan/core/rig"
	"kolvan/core/units"
)

// point is one point of an outline: along the two axes after the one it is seen along.
type point = [2]units.Millimetre

// ProfileOf is the outline of a thing that is no box, seen along an axis, in the two axes
// after it (y and z along x, z and x along y, x and y along z), which are U and V: its
// points as they are told, or the hull around them, counter-clockwise, where it has no notch
// or its sides cross. False for a box, or while a point is open.
func ProfileOf(t *rig.Thing) (axis int, outline [][2]units.Millimetre, is bool) {
	if len(t.Profile) < 3 || !t.Along.Known {
		return 0, nil, false
	}
	axis = axisOf(t.Along)
	at := place3(&t.At)
	u, v := at[(axis+1)%3], at[(axis+2)%3]
	points := make([]point, len(t.Profile))
	for i, p := range t.Profile {
		if !p.U.Known || !p.V.Known || !u.Known || !v.Known {
			return 0, nil, false
		}
		points[i] = point{u.Value + p.U.Value, v.Value + p.V.Value}
	}
	if notched(points) && !crossed(points) {
		return axis, points, true
	}
	outline = hullOf(points)
	return axis, outline, len(outline) >= 2
}

// straight is how far a corner may be off the line of its neighbours and be none: what is
// less is rounding. An outline of no area would turn both ways by it.
const straight units.Millimetre = 1e-6

// notched reports an outline that turns both ways.
func notched(points []point) bool {
	left, right := false, false
	for i, a := range points {
		b, c := points[(i+1)%len(points)], points[(i+2)%len(points)]
		off := straight * units.Millimetre(math.Hypot(float64(c[0]-a[0]), float64(c[1]-a[1])))
		turn := turns(a, b, c)
		left, right = left || turn > off, right || turn < -off
	}
	return left && right
}

// crossed reports sides of an outline that meet anywhere but at the corner they share.
func crossed(points []point) bool {
	n := len(points)
	for i := range points {
		a, b := points[i], points[(i+1)%n]
		if a == b || turns(a, b, points[(i+2)%n]) == 0 && backward(a, b, points[(i+2)%n]) {
			return true
		}
		for j := i + 2; j < n; j++ {
			if (j+1)%n != i && meet(a, b, points[j], points[(j+1)%n]) {
				return true
			}
		}
	}
	return false
}

func backward(a, b, c point) bool {
	return (b[0]-a[0])*(c[0]-b[0])+(b[1]-a[1])*(c[1]-b[1]) < 0
}

// meet reports two straights that have a point in common.
func meet(a, b, c, d point) bool {
	for i := range a {
		if max(a[i], b[i]) < min(c[i], d[i]) || max(c[i], d[i]) < min(a[i], b[i]) {
			return false
		}
	}
	return turns(a, b, c)*turns(a, b, d) <= 0 && turns(c, d, a)*turns(c, d, b) <= 0
}

// pieces parts an outline whose sides do not cross into convex ones: between each two
// heights at which it has corners, what lies between its first and second side there, its
// third and fourth, and so on.
func pieces(outline []point) (list [][]point) {
	heights := make([]units.Millimetre, len(outline))
	for i, p := range outline {
		heights[i] = p[1]
	}
	slices.Sort(heights)
	heights = slices.Compact(heights)
	for k := 1; k < len(heights); k++ {
		list = append(list, slab(outline, heights[k-1], heights[k])...)
	}
	return list
}

// slab are the pieces of an outline between two heights with no corner between them.
func slab(outline []point, low, high units.Millimetre) (list [][]point) {
	var sides [][2]units.Millimetre // where each side is at either height
	for i, a := range outline {
		b := outline[(i+1)%len(outline)]
		if min(a[1], b[1]) <= low && max(a[1], b[1]) >= high && a[1] != b[1] {
			at := func(v units.Millimetre) units.Millimetre { return a[0] + (v-a[1])/(b[1]-a[1])*(b[0]-a[0]) }
			sides = append(sides, [2]units.Millimetre{at(low), at(high)})
		}
	}
	slices.SortFunc(sides, func(a, b [2]units.Millimetre) int { return cmp.Compare(a[0]+a[1], b[0]+b[1]) })
	for i := 1; i < len(sides); i += 2 {
		l, r := sides[i-1], sides[i]
		list = append(list, slices.Compact([]point{{l[0], low}, {r[0], low}, {r[1], high}, {l[1], high}}))
	}
	return list
}

// hullOf is the hull around points, counter-clockwise, by going round from the left.
func hullOf(points []point) (hull []point) {
	points = slices.Clone(points)
	slices.SortFunc(points, func(a, b [2]units.Millimetre) int { return cmp.Or(cmp.Compare(a[0], b[0]), cmp.Compare(a[1], b[1])) })
	for range 2 { // below, and back above
		from := len(hull)
		for _, p := range points {
			for len(hull) >= from+2 && turns(hull[len(hull)-2], hull[len(hull)-1], p) <= 0 {
				hull = hull[:len(hull)-1]
			}
			hull = append(hull, p)
		}
		hull = hull[:len(hull)-1]
		slices.Reverse(points)
	}
	return hull
}

func turns(a, b, c point) units.Millimetre {
	return (b[0]-a[0])*(c[1]-b[1]) - (b[1]-a[1])*(c[0]-b[0])
}

// prismGap is the gap between a box and a prism: along its axis, and across it; negative
// by the least way to move them apart.
func prismGap(axis int, outline []point, along units.Millimetre, card Box) units.Millimetre {
	return distance([3]units.Millimetre{along, outlineGap(outline, outlineOf(card, axis)), -longest})
}

// mostPieces bounds the outlines whose least way out of a notch is looked for; of one with
// more it is the way out of its hull.
const mostPieces = 12

func outlineGap(outline, rect []point) units.Millimetre {
	if !notched(outline) {
		return hullGap(outline, rect)
	}
	parts := pieces(outline)
	gap := longest
	for _, piece := range parts {
		gap = min(gap, hullGap(piece, rect))
	}
	if gap > 0 {
		return gap
	}
	out := hullGap(hullOf(outline), rect)
	if len(parts) <= mostPieces {
		out = max(out, -leastWay(parts, rect))
	}
	return out
}

// leastWay is the least way that brings a rectangle clear of pieces that touch each other. The
// ways that leave it in a piece are those within the sum of the piece and the rectangle
// turned about: the least of the others ends on a side of such a sum, where it is nearest
// or where two sides cross.
func leastWay(parts [][]point, rect []point) units.Millimetre {
	sums := make([][]point, len(parts))
	var sides [][2]point
	for i, piece := range parts {
		var all []point
		for _, p := range piece {
			for _, q := range rect {
				all = append(all, point{p[0] - q[0], p[1] - q[1]})
			}
		}
		sums[i] = hullOf(all)
		for k, p := range sums[i] {
			sides = append(sides, [2]point{p, sums[i][(k+1)%len(sums[i])]})
		}
	}
	least := math.Inf(1)
	try := func(way point) {
		if long := math.Hypot(float64(way[0]), float64(way[1])); long < least &&
			!slices.ContainsFunc(sums, func(sum []point) bool { return within(way, sum) }) {
			least = long
		}
	}
	for i, side := range sides {
		try(nearest(side))
		for _, other := range sides[:i] {
			if way, crosses := crossing(side, other); crosses {
				try(way)
			}
		}
	}
	return units.Millimetre(least)
}

// within reports a point in an outline without notches, and not at its sides.
func within(p point, hull []point) bool {
	for i, a := range hull {
		b := hull[(i+1)%len(hull)]
		long := math.Hypot(float64(b[0]-a[0]), float64(b[1]-a[1]))
		if float64(turns(a, b, p)) <= float64(touch)*long {
			return false
		}
	}
	return true
}

// nearest is the point of a straight that is nearest to the origin.
func nearest(side [2]point) point {
	a, b := side[0], side[1]
	along := point{b[0] - a[0], b[1] - a[1]}
	share := -(a[0]*along[0] + a[1]*along[1]) / (along[0]*along[0] + along[1]*along[1])
	share = max(0, min(1, share))
	return point{a[0] + share*along[0], a[1] + share*along[1]}
}

// crossing is where two straights cross; false where they do not, or lie alike.
func crossing(s, o [2]point) (at point, crosses bool) {
	a, b, c, d := s[0], s[1], o[0], o[1]
	across := (b[0]-a[0])*(d[1]-c[1]) - (b[1]-a[1])*(d[0]-c[0])
	if across == 0 || !meet(a, b, c, d) {
		return at, false
	}
	share := ((c[0]-a[0])*(d[1]-c[1]) - (c[1]-a[1])*(d[0]-c[0])) / across
	return point{a[0] + share*(b[0]-a[0]), a[1] + share*(b[1]-a[1])}, true
}

// prism is what an outline takes of the case: convex pieces between two ends of an axis.
type prism struct {
	axis    int
	outline []point
	pieces  [][]point
	ends    [2]units.Millimetre
	around  Box
}

// prismOf is a thing that is no box; false for a box.
func prismOf(t *rig.Thing, body Box) (p prism, is bool) {
	axis, outline, is := ProfileOf(t)
	if !is {
		return p, false
	}
	p = prism{axis: axis, outline: outline, pieces: [][]point{outline}, ends: [2]units.Millimetre{body.Min[axis], body.Max[axis]}}
	if notched(outline) {
		p.pieces = pieces(outline)
	}
	p.around = body
	for _, corner := range outline { // that may lie beyond its box
		u, v := (axis+1)%3, (axis+2)%3
		p.around.Min[u], p.around.Max[u] = min(p.around.Min[u], corner[0]), max(p.around.Max[u], corner[0])
		p.around.Min[v], p.around.Max[v] = min(p.around.Min[v], corner[1]), max(p.around.Max[v], corner[1])
	}
	return p, len(p.pieces) <= mostPieces
}

// clearOf is the distance of a line from the prism, zero where it enters: along a straight
// the distance from a convex piece falls and then rises.
func (p *prism) clearOf(line []Vec) units.Millimetre {
	const golden, steps = 0.6180339887, 30
	least := math.Inf(1)
	for i := 1; i < len(line) && least > 0; i++ {
		if apartAtLeast(line[i-1], line[i], p.around) >= least {
			continue
		}
		for _, piece := range p.pieces {
			at := func(share float64) float64 { return p.from(piece, line[i-1], line[i], share) }
			low, high := 0.0, 1.0
			a, b := 1-golden, golden
			atA, atB := at(a), at(b)
			for range steps {
				if atA < atB {
					high, b, atB = b, a, atA
					a = high - golden*(high-low)
					atA = at(a)
				} else {
					low, a, atA = a, b, atB
					b = low + golden*(high-low)
					atB = at(b)
				}
			}
			least = math.Min(least, math.Min(math.Min(at(0), at(1)), math.Min(atA, atB)))
		}
	}
	return units.Millimetre(least)
}

// from is how far a point of a straight is from a piece.
func (p *prism) from(piece []point, a, b Vec, share float64) float64 {
	var at Vec
	for i := range at {
		at[i] = a[i] + units.Millimetre(share)*(b[i]-a[i])
	}
	flat := point{at[(p.axis+1)%3], at[(p.axis+2)%3]}
	across, inside := math.Inf(1), true
	for i := range piece {
		q, r := piece[i], piece[(i+1)%len(piece)]
		inside = inside && turns(q, r, flat) >= 0
		across = math.Min(across, fromSide(flatOf(flat), flatOf(q), flatOf(r)))
	}
	if inside {
		across = 0
	}
	return math.Hypot(across, math.Max(0, math.Max(float64(p.ends[0]-at[p.axis]), float64(at[p.axis]-p.ends[1]))))
}

// hullGap is the distance between two convex outlines, or how deep they are in each other:
// the least over the sides of either, seen square to the side.
func hullGap(a, b []point) units.Millimetre {
	apart := math.Max(beyond(a, b), beyond(b, a))
	if apart <= 0 {
		return units.Millimetre(apart)
	}
	least := math.Inf(1)
	for _, pair := range [][2][]point{{a, b}, {b, a}} {
		for _, p := range pair[0] {
			for i := range pair[1] {
				q, r := pair[1][i], pair[1][(i+1)%len(pair[1])]
				least = math.Min(least, fromSide(flatOf(p), flatOf(q), flatOf(r)))
			}
		}
	}
	return units.Millimetre(least)
}

func flatOf(p point) flat { return flat{float64(p[0]), float64(p[1])} }

func flatsOf(outline []point) []flat {
	list := make([]flat, len(outline))
	for i, p := range outline {
		list[i] = flatOf(p)
	}
	return list
}

// beyond is beyondOf of outlines in the case.
func beyond(a, b []point) float64 { return beyondOf(flatsOf(a), flatsOf(b)) }

// beyondOf is the most that all of b lies beyond a side of a; below zero where it lies
// beyond none.
func beyondOf(a, b []flat) float64 {
	most := math.Inf(-1)
	for i, p := range a {
		side := a[(i+1)%len(a)].minus(p)
		long := math.Hypot(side.x, side.y)
		least := math.Inf(1)
		for _, c := range b {
			to := c.minus(p)
			least = math.Min(least, (to.x*side.y-to.y*side.x)/long)
		}
		most = math.Max(most, least)
	}
	return most
}
