package fit

import (
	"math"
	"slices"

	"kolvan/core/rig"
	"kolvan/core/units"
)

// What a cut in a cover keeps clear of, mm (P).
const (
	cutRim    units.Millimetre = 8  // the cover's edge: its fold and its screws
	cutBehind units.Millimetre = 15 // what stands so near behind the cover
	cutClear  units.Millimetre = 2  // around that
)

// A Cut is where an opening goes in a cover: seen from outside, from the cover's corner
// nearest the origin.
type Cut struct {
	Across, Up int                 // the axes of the cover's face
	Face       [2]rig.Axis         // their names
	Size       [2]units.Millimetre // of the cover, along them
	X, Y       units.Millimetre    // of the opening's middle
	Wide, High units.Millimetre
}

// CutIn places an opening for a cable's connector in a cover: as near as can be to where
// the cable passes it, clear of the rim and of what stands behind. False where the cover
// is not described, or has no such place.
func CutIn(r *rig.Rig, cover int, s *rig.Stage) (cut Cut, ok bool) {
	v := &r.Chamber.Covers[cover]
	box, known := BoxOf(&v.At, &v.Size)
	if !known || !s.Shell.Width.Known || !s.Shell.Height.Known {
		return cut, false
	}
	size := box.Size()
	thin := 0
	for i := range size {
		if size[i] < size[thin] {
			thin = i
		}
	}
	a, b := (thin+1)%3, (thin+2)%3
	if a > b {
		a, b = b, a
	}
	cut = Cut{Across: a, Up: b, Face: [2]rig.Axis{axisOfFace[a], axisOfFace[b]}, Size: [2]units.Millimetre{size[a], size[b]}}
	near := nearestOn(box, a, b, s)
	wide, high := s.Shell.Width.Value+2*AroundShell, s.Shell.Height.Value+2*AroundShell
	blocked := behind(r, box, thin)
	for _, way := range [][2]units.Millimetre{{wide, high}, {high, wide}} {
		if x, y, free := freePlace(box, a, b, way, near, blocked); free {
			cut.X, cut.Y, cut.Wide, cut.High = x-box.Min[a], y-box.Min[b], way[0], way[1]
			return cut, true
		}
	}
	return cut, false
}

var axisOfFace = [3]rig.Axis{"x", "y", "z"}

// nearestOn is the point of a cover's face nearest to the way of the cable; its middle
// where that is not told.
func nearestOn(box Box, a, b int, s *rig.Stage) [2]units.Millimetre {
	at := [2]units.Millimetre{(box.Min[a] + box.Max[a]) / 2, (box.Min[b] + box.Max[b]) / 2}
	points, known := pointsOf(s.Path)
	if !known {
		return at
	}
	least := units.Millimetre(math.Inf(1))
	for i := 1; i < len(points); i++ {
		for k := range 101 { // a hundredth of a straight is near enough for where to look first
			p := toward(points[i-1], points[i], distanceOf(points[i-1], points[i])*float64(k)/100)
			if d := ClearOf([]Vec{p, p}, box); d < least {
				least, at = d, [2]units.Millimetre{p[a], p[b]}
			}
		}
	}
	return at
}

// behind lists what stands close to a cover on either side of it, the card included.
func behind(r *rig.Rig, cover Box, thin int) (boxes []Box) {
	see := func(b Box) {
		if max(b.Min[thin]-cover.Max[thin], cover.Min[thin]-b.Max[thin]) <= cutBehind {
			boxes = append(boxes, b)
		}
	}
	for i := range r.Chamber.Things {
		t := &r.Chamber.Things[i]
		if b, known := BoxOf(&t.At, &t.Size); known && !t.Out {
			see(b)
		}
	}
	c := Chamber{rig: r, axes: axesOf(r.Chamber.Axes.Or("xyz"))}
	if c.place(); c.Placed {
		see(c.Card)
	}
	return boxes
}

// freePlace is the middle of a rectangle nearest to a point that is clear of all: a side
// of it lies at the point, at the rim, or against something.
func freePlace(box Box, a, b int, size, near [2]units.Millimetre, blocked []Box) (x, y units.Millimetre, free bool) {
	edges := func(axis int, half, at units.Millimetre) []units.Millimetre {
		low, high := box.Min[axis]+cutRim+half, box.Max[axis]-cutRim-half
		list := []units.Millimetre{low, high, min(max(at, low), high)}
		for _, k := range blocked {
			list = append(list, k.Min[axis]-cutClear-half, k.Max[axis]+cutClear+half)
		}
		return slices.DeleteFunc(list, func(v units.Millimetre) bool { return low > high || v < low-touch || v > high+touch })
	}
	least := math.Inf(1)
	half := [2]units.Millimetre{size[0] / 2, size[1] / 2}
	for _, u := range edges(a, half[0], near[0]) {
		for _, v := range edges(b, half[1], near[1]) {
			off := math.Hypot(float64(u-near[0]), float64(v-near[1]))
			hits := func(k Box) bool {
				return u+half[0] > k.Min[a]-cutClear+touch && u-half[0] < k.Max[a]+cutClear-touch && v+half[1] > k.Min[b]-cutClear+touch &&
					v-half[1] < k.Max[b]+cutClear-touch
			}
			if off < least && !slices.ContainsFunc(blocked, hits) {
				least, x, y, free = off, u, v, true
			}
		}
	}
	return x, y, free
}
