package fit

import (
	"math"
	"slices"

	"kolvan/core/units"
)

// MeetsPrism is Meets of a thing that is no box: over which part of its way a cover meets
// any piece of it. Exact, as Meets is: seen along the hinge, or along the rail, a prism is
// either its outline or the box around what of it lies beside the cover.
func (t *Travel) MeetsPrism(p *prism) (s Strike, meets bool) {
	for _, piece := range p.pieces {
		one, hits := t.meetsPiece(p, piece)
		switch {
		case !hits:
		case !meets:
			s, meets = one, true
		default:
			s = Strike{math.Min(s.From, one.From), math.Max(s.To, one.To)}
		}
	}
	return s, meets
}

func (t *Travel) meetsPiece(p *prism, piece []point) (Strike, bool) {
	switch {
	case p.axis != t.Axis && t.Turn != 0:
		return t.meetsPart(p, piece, t.Axis)
	case p.axis != t.Axis:
		return t.meetsPart(p, piece, 3-t.Axis-p.axis)
	case t.Turn != 0:
		return t.turnsInto(p, piece)
	}
	rect := outlineOf(t.Box, p.axis)
	if hullGap(piece, rect) >= 0 {
		return Strike{}, false
	}
	body := t.Box
	body.Min[p.axis], body.Max[p.axis] = p.ends[0], p.ends[1]
	return t.slides(body)
}

// meetsPart holds the cover against the box around what of a piece lies beside it along
// another axis than that of the prism.
func (t *Travel) meetsPart(p *prism, piece []point, along int) (Strike, bool) {
	side := 0
	if (p.axis+2)%3 == along {
		side = 1
	}
	beside := between(piece, side, t.Box.Min[along], t.Box.Max[along])
	if len(beside) == 0 {
		return Strike{}, false
	}
	var body Box
	body.Min[p.axis], body.Max[p.axis] = p.ends[0], p.ends[1]
	for i := range 2 {
		axis := (p.axis + 1 + i) % 3
		body.Min[axis], body.Max[axis] = beside[0][i], beside[0][i]
		for _, corner := range beside {
			body.Min[axis], body.Max[axis] = min(body.Min[axis], corner[i]), max(body.Max[axis], corner[i])
		}
	}
	return t.Meets(body)
}

// between is what of a convex piece lies between two lines across one of its axes.
func between(piece []point, side int, low, high units.Millimetre) []point {
	for _, cut := range [...]struct{ at, sign units.Millimetre }{{low, 1}, {high, -1}} {
		var kept []point
		for i, a := range piece {
			b := piece[(i+1)%len(piece)]
			inA, inB := cut.sign*(a[side]-cut.at), cut.sign*(b[side]-cut.at)
			if inA >= 0 {
				kept = append(kept, a)
			}
			if inA*inB < 0 {
				share := inA / (inA - inB)
				kept = append(kept, point{a[0] + share*(b[0]-a[0]), a[1] + share*(b[1]-a[1])})
			}
		}
		piece = kept
	}
	return piece
}

// outlineOf is a box seen along an axis.
func outlineOf(b Box, axis int) []point {
	u, v := (axis+1)%3, (axis+2)%3
	return []point{{b.Min[u], b.Min[v]}, {b.Max[u], b.Min[v]}, {b.Max[u], b.Max[v]}, {b.Min[u], b.Max[v]}}
}

// turnsInto turns a cover about a hinge that lies along the prism: what meets changes only
// where a corner of one comes to a side of the other.
func (t *Travel) turnsInto(p *prism, piece []point) (s Strike, meets bool) {
	if max(p.ends[0]-t.Box.Max[t.Axis], t.Box.Min[t.Axis]-p.ends[1]) > -touch {
		return s, false
	}
	w := t.across(t.Box)
	standing := make([]flat, len(piece))
	pivot := flat{float64(t.Pivot[(t.Axis+1)%3]), float64(t.Pivot[(t.Axis+2)%3])}
	for i, corner := range piece {
		standing[i] = flatOf(corner).minus(pivot)
	}
	at := []float64{0, w.most}
	w.passes(&at, w.turning[:], standing, w.sense)
	w.passes(&at, standing, w.turning[:], -w.sense)
	slices.Sort(at)
	for i := 1; i < len(at); i++ {
		moved := w.at((at[i-1] + at[i]) / 2)
		if math.Max(beyondOf(moved[:], standing), beyondOf(standing, moved[:])) >= -float64(touch) {
			continue
		}
		if !meets {
			s.From = degrees(at[i-1])
		}
		s.To, meets = degrees(at[i]), true
	}
	return s, meets
}

// passes takes in the angles at which a corner, turned about the hinge, lies on a side.
func (w *wing) passes(at *[]float64, corners, outline []flat, sense float64) {
	for _, corner := range corners {
		from, square := math.Atan2(corner.y, corner.x), corner.x*corner.x+corner.y*corner.y
		for i, a := range outline {
			side := outline[(i+1)%len(outline)].minus(a)
			long, half, off := side.x*side.x+side.y*side.y, a.x*side.x+a.y*side.y, a.x*a.x+a.y*a.y-square
			root := half*half - long*off
			if long == 0 || root < 0 {
				continue
			}
			for _, sign := range [...]float64{-1, 1} {
				if share := (-half + sign*math.Sqrt(root)) / long; share > -hair && share < 1+hair {
					w.keep(at, sense*(math.Atan2(a.y+share*side.y, a.x+share*side.x)-from))
				}
			}
		}
	}
}
