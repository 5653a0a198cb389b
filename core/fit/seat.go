package fit

import (
	"math"
	"slices"

	"kolvan/core/finding"
	"kolvan/core/rig"
	"kolvan/core/units"
)

// OutlineOf is the outline of a measured hole, its lower left corner at the origin and
// counter-clockwise: as its corners tell it, else the rectangle of its width and height. None
// while that is not told, or where its sides cross.
func OutlineOf(h *rig.Hole) []point {
	if len(h.Outline) < 3 {
		if !h.Wide.Known || !h.High.Known {
			return nil
		}
		w, t := h.Wide.Value, h.High.Value
		return []point{{0, 0}, {w, 0}, {w, t}, {0, t}}
	}
	outline := make([]point, len(h.Outline))
	for i, p := range h.Outline {
		if !p.Across.Known || !p.Up.Known {
			return nil
		}
		outline[i] = point{p.Across.Value, p.Up.Value}
	}
	if crossed(outline) {
		return nil
	}
	if area(outline) < 0 {
		slices.Reverse(outline)
	}
	return outline
}

// area of an outline, above zero where it runs counter-clockwise.
func area(outline []point) (sum units.Millimetre) {
	for i, a := range outline {
		b := outline[(i+1)%len(outline)]
		sum += (a[0]*b[1] - b[0]*a[1]) / 2
	}
	return sum
}

// Bounds are the least and the greatest corner of an outline.
func Bounds(outline []point) (low, high point) {
	low, high = outline[0], outline[0]
	for _, p := range outline {
		for k := range p {
			low[k], high[k] = min(low[k], p[k]), max(high[k], p[k])
		}
	}
	return low, high
}

// A Seat is where a body sits in an opening: its middle, and its size as it stands there.
type Seat struct{ At, Size [2]units.Millimetre }

// SeatIn is a place for a body in an opening, as near the opening's middle as there is one, and
// turned by a quarter only where it goes in no other way; false where none was found. In a rectangle none is missed;
// in another outline places are tried at its corners and on a grid of a fortieth of its size.
func SeatIn(outline []point, wide, high units.Millimetre) (Seat, bool) {
	low, top := Bounds(outline)
	middle := point{(low[0] + top[0]) / 2, (low[1] + top[1]) / 2}
	best, far := Seat{}, math.Inf(1)
	for _, size := range [][2]units.Millimetre{{wide, high}, {high, wide}} {
		for _, x := range places(outline, 0, low[0], top[0], size[0]) {
			for _, y := range places(outline, 1, low[1], top[1], size[1]) {
				away := math.Hypot(float64(x-middle[0]), float64(y-middle[1]))
				if away < far-1e-9 && holds(outline, point{x, y}, size) {
					best, far = Seat{point{x, y}, size}, away
				}
			}
		}
		if !math.IsInf(far, 1) {
			return best, true
		}
	}
	return best, false
}

// places are the middles tried along an axis: those at which a side lies on a corner of the
// outline, and a grid between the ends.
func places(outline []point, axis int, low, high, size units.Millimetre) []units.Millimetre {
	first, last := low+size/2, high-size/2
	if first > last+touch {
		return nil
	}
	const steps = 40 // an even number: the middle is among them
	var list []units.Millimetre
	for i := range steps + 1 {
		list = append(list, first+(last-first)*units.Millimetre(i)/steps)
	}
	for _, p := range outline {
		list = append(list, p[axis]-size/2, p[axis]+size/2)
	}
	return list
}

// holds reports a body that lies in an outline, at its sides at most: none of the outline's
// corners and none of its sides lies within the body, and the body's middle lies in the outline.
func holds(outline []point, at point, size [2]units.Millimetre) bool {
	if !inside(outline, at) {
		return false
	}
	low := point{at[0] - size[0]/2 + touch, at[1] - size[1]/2 + touch}
	high := point{at[0] + size[0]/2 - touch, at[1] + size[1]/2 - touch}
	for i, a := range outline {
		if enters(a, outline[(i+1)%len(outline)], low, high) {
			return false
		}
	}
	return true
}

// enters reports a straight that has a point within a rectangle, by cutting it down to what
// lies between its sides.
func enters(a, b, low, high point) bool {
	from, to := units.Millimetre(0), units.Millimetre(1)
	for k := range a {
		run := b[k] - a[k]
		if run == 0 {
			if a[k] <= low[k] || a[k] >= high[k] {
				return false
			}
			continue
		}
		in, out := (low[k]-a[k])/run, (high[k]-a[k])/run
		from, to = max(from, min(in, out)), min(to, max(in, out))
	}
	return from < to
}

// inside reports a point in an outline, by the sides a ray from it meets.
func inside(outline []point, p point) (in bool) {
	for i, a := range outline {
		b := outline[(i+1)%len(outline)]
		if (a[1] > p[1]) != (b[1] > p[1]) && p[0] < a[0]+(p[1]-a[1])/(b[1]-a[1])*(b[0]-a[0]) {
			in = !in
		}
	}
	return in
}

// judgePanel holds the sockets that are set into the host's case against their openings.
func judgePanel(r *finding.Rule, c *Chamber, out *finding.List) {
	for i := range c.rig.Route.Stages {
		s := &c.rig.Route.Stages[i]
		at := rig.StagePath(i) + "/panel_socket"
		switch o := c.rig.CaseOpening(s.Panel.In); {
		case s.Panel.In == "":
		case o == nil:
			out.Need(r, at+"/opening", "which opening of the case the socket of "+s.Name+" is set in", "Look round the case for a blind plate.",
				"whether it goes in")
		default:
			c.judgeSocketIn(r, s, at, o, out)
		}
	}
}

func (c *Chamber) judgeSocketIn(r *finding.Rule, s *rig.Stage, at string, o *rig.CaseOpening, out *finding.List) {
	width, height := lengthOf(&s.Panel.Wide, 0, longest).ends, lengthOf(&s.Panel.High, 0, longest).ends
	wide, tall := lengthOf(&o.Wide, 0, longest).ends, lengthOf(&o.High, 0, longest).ends
	hole, opening := OutlineOf(&o.Hole), rig.IndexOf(c.rig.Host.Openings, o)
	if hole != nil {
		low, high := Bounds(hole)
		wide, tall = units.Exactly(high[0]-low[0]), units.Exactly(high[1]-low[1])
	}
	seated := func(w, h units.Millimetre) bool {
		if len(o.Outline) < 3 || hole == nil {
			return true
		}
		_, found := SeatIn(hole, w, h)
		return found
	}
	numbers := finding.Numbers{
		{Name: "shell_width_mm", Value: float64(width.Low)}, {Name: "shell_height_mm", Value: float64(height.Low)},
		{Name: "opening_width_mm", Value: float64(wide.High)}, {Name: "opening_height_mm", Value: float64(tall.High)},
	}
	size := rig.OpeningPath(opening)
	switch {
	case !goesIn(width.Low, height.Low, wide.High, tall.High) || !seated(width.Low, height.Low):
		out.Add(r, finding.Blocked, at, numbers, "The socket of %s does not go into %s of the case: set it elsewhere, or file the opening.",
			s.Name, o.Name)
	case (hole != nil || len(o.Outline) < 3) && goesIn(width.High, height.High, wide.Low, tall.Low) && seated(width.High, height.High):
	case !s.Panel.Wide.Known:
		out.Need(r, at+"/width_mm", "how wide the socket of "+s.Name+" is", "Measure its body with a calliper.", "whether it goes into "+o.Name)
	case !s.Panel.High.Known:
		out.Need(r, at+"/height_mm", "how high the socket of "+s.Name+" is", "Measure its body with a calliper.", "whether it goes into "+o.Name)
	case !o.Wide.Known && hole == nil:
		out.Need(r, size+"/width_mm", "how wide "+o.Name+" is open", "Measure it with a calliper.", "whether the socket goes in")
	case !o.High.Known && hole == nil:
		out.Need(r, size+"/height_mm", "how high "+o.Name+" is open", "Measure it with a calliper.", "whether the socket goes in")
	default:
		out.Need(r, size+"/outline", "the corners of "+o.Name, "Measure each from its lower left corner.", "whether the socket goes in")
	}
}

// goesIn reports a body that goes straight into a rectangle, upright or turned by a quarter.
func goesIn(wide, high, opening, tall units.Millimetre) bool {
	opening, tall = opening+touch, tall+touch
	return wide <= opening && high <= tall || high <= opening && wide <= tall
}
