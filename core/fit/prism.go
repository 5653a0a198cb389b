package fit

import (
	"cmp"
	"math"
	"slices"

	"kolvan/core/rig"
	"kolvan/core/units"
)

// ProfileOf is the outline of a thing that is no box: the hull around its points, seen
// along an axis, counter-clockwise in the two axes after it (y and z along x, z and x
// along y, x and y along z), which are U and V. False for a box, or while a point is open.
func ProfileOf(t *rig.Thing) (axis int, hull [][2]units.Millimetre, is bool) {
	if len(t.Profile) < 3 || !t.Along.Known {
		return 0, nil, false
	}
	axis = axisOf(t.Along)
	at := place3(&t.At)
	u, v := at[(axis+1)%3], at[(axis+2)%3]
	points := make([][2]units.Millimetre, len(t.Profile))
	for i, p := range t.Profile {
		if !p.U.Known || !p.V.Known || !u.Known || !v.Known {
			return 0, nil, false
		}
		points[i] = [2]units.Millimetre{u.Value + p.U.Value, v.Value + p.V.Value}
	}
	hull = hullOf(points)
	return axis, hull, len(hull) >= 2
}

// hullOf is the hull around points, counter-clockwise, by going round from the left.
func hullOf(points [][2]units.Millimetre) (hull [][2]units.Millimetre) {
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

func turns(a, b, c [2]units.Millimetre) units.Millimetre {
	return (b[0]-a[0])*(c[1]-b[1]) - (b[1]-a[1])*(c[0]-b[0])
}

// prismGap is the gap between a box and a prism: along its axis, and across it; negative
// by the least way to move them apart.
func prismGap(axis int, hull [][2]units.Millimetre, along units.Millimetre, card Box) units.Millimetre {
	u, v := (axis+1)%3, (axis+2)%3
	rect := [][2]units.Millimetre{{card.Min[u], card.Min[v]}, {card.Max[u], card.Min[v]}, {card.Max[u], card.Max[v]}, {card.Min[u], card.Max[v]}}
	return distance([3]units.Millimetre{along, hullGap(hull, rect), -longest})
}

// hullGap is the distance between two convex outlines, or how deep they are in each other:
// the least over the sides of either, seen square to the side.
func hullGap(a, b [][2]units.Millimetre) units.Millimetre {
	apart := math.Max(beyond(a, b), beyond(b, a))
	if apart <= 0 {
		return units.Millimetre(apart)
	}
	least := math.Inf(1)
	for _, pair := range [][2][][2]units.Millimetre{{a, b}, {b, a}} {
		for _, p := range pair[0] {
			for i := range pair[1] {
				q, r := pair[1][i], pair[1][(i+1)%len(pair[1])]
				least = math.Min(least, fromSide(flatOf(p), flatOf(q), flatOf(r)))
			}
		}
	}
	return units.Millimetre(least)
}

func flatOf(p [2]units.Millimetre) flat { return flat{float64(p[0]), float64(p[1])} }

// beyond is the most that all of b lies beyond a side of a; below zero where it lies
// beyond none.
func beyond(a, b [][2]units.Millimetre) float64 {
	most := math.Inf(-1)
	for i := range a {
		p, q := flatOf(a[i]), flatOf(a[(i+1)%len(a)])
		side := q.minus(p)
		long := math.Hypot(side.x, side.y)
		least := math.Inf(1)
		for _, c := range b {
			to := flatOf(c).minus(p)
			least = math.Min(least, (to.x*side.y-to.y*side.x)/long)
		}
		most = math.Max(most, least)
	}
	return most
}
