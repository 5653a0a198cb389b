package fit

import (
	"math"
	"slices"

	"kolvan/core/rig"
	"kolvan/core/units"
)

// A Travel is the way of a cover from closed to open: a turn about a hinge along an
// axis, or a slide along one.
type Travel struct {
	Box   Box // closed
	Axis  int // of the hinge, or of the rail
	Pivot Vec // any point of the hinge
	Turn  units.Degree
	Slide units.Millimetre
}

// A Strike is where a cover meets a body on its way, from closed: part of its turn in
// degrees or of its slide in millimetres.
type Strike struct{ From, To float64 }

// Of is what is known of a cover's way; false while anything it hangs on is not told,
// or it has none.
func (t *Travel) of(v *rig.Cover) bool {
	box, known := BoxOf(&v.At, &v.Size)
	t.Box = box
	switch v.Kind.Value {
	case "slide":
		by, told := v.Slide.By.Get()
		t.Axis, t.Slide = axisOf(v.Slide.Axis), by
		return known && told && v.Slide.Axis.Known
	default:
		turn, told := v.Hinge.Opens.Get()
		t.Axis, t.Turn = axisOf(v.Hinge.Axis), turn
		for i, at := range place3(&v.Hinge.At) {
			known = known && (at.Known || i == t.Axis)
			t.Pivot[i] = at.Value
		}
		return known && told && v.Hinge.Axis.Known
	}
}

// WayOf is the way of a cover, for a drawing; false while it is not known.
func WayOf(v *rig.Cover) (t Travel, known bool) {
	known = moves(v) && t.of(v)
	return t, known
}

// Outline is a turning cover as seen along its hinge after so many degrees: four
// corners, of which the coordinate along the hinge means nothing.
func (t *Travel) Outline(at float64) (c [4]Vec) {
	u, v := (t.Axis+1)%3, (t.Axis+2)%3
	w := t.across(t.Box)
	for i, p := range w.at(at * math.Pi / 180) {
		c[i][u], c[i][v] = t.Pivot[u]+units.Millimetre(p.x), t.Pivot[v]+units.Millimetre(p.y)
	}
	return c
}

func axisOf(f rig.Fact[rig.Axis]) int {
	if !f.Known {
		return 0
	}
	return int(f.Value[0] - 'x')
}

// Meets works out, exactly, over which part of its way a cover meets a body; false
// for none. Touching is not meeting.
func (t *Travel) Meets(body Box) (s Strike, meets bool) {
	if t.Turn == 0 {
		return t.slides(body)
	}
	if apartAlong(t.Axis, t.Box, body) > -touch {
		return s, false // past each other along the hinge
	}
	w := t.across(body)
	if !w.reaches(0) {
		return s, false
	}
	at := w.contacts()
	for i := 1; i < len(at); i++ {
		if w.depth((at[i-1]+at[i])/2) <= float64(touch) {
			continue
		}
		if !meets {
			s.From = degrees(at[i-1])
		}
		s.To, meets = degrees(at[i]), true
	}
	return s, meets
}

// Clear is the least distance between a cover that meets nothing and a body, over all
// of its way; no end of it where that is as much as the limit.
func (t *Travel) Clear(body Box, limit units.Millimetre) units.Millimetre {
	if t.Turn == 0 {
		return t.swept().Gap(body)
	}
	along, least := math.Max(0, float64(apartAlong(t.Axis, t.Box, body))), float64(limit)
	w := t.across(body)
	if along >= least || !w.reaches(least) {
		return units.Millimetre(math.Inf(1))
	}
	for _, angle := range append(w.nearest(), w.contacts()...) {
		if -w.depth(angle) < least {
			least = math.Min(least, w.distance(angle))
		}
	}
	if least >= float64(limit) {
		return units.Millimetre(math.Inf(1))
	}
	return units.Millimetre(math.Hypot(least, along))
}

// slides: what a box passes over along an axis is the box around both its ends.
func (t *Travel) slides(body Box) (s Strike, meets bool) {
	if t.Slide == 0 || t.swept().Gap(body) >= 0 {
		return s, false
	}
	// The way from the front of the box to the body, and to where it has passed.
	a, by := t.Axis, float64(t.Slide)
	enter, leave := float64(body.Min[a]-t.Box.Max[a]), float64(body.Max[a]-t.Box.Min[a])
	if by < 0 {
		enter, leave = float64(t.Box.Min[a]-body.Max[a]), float64(t.Box.Max[a]-body.Min[a])
	}
	return Strike{math.Max(0, enter), math.Min(math.Abs(by), leave)}, true
}

// Open is a sliding cover at the end of its way.
func (t *Travel) Open() Box {
	b := t.Box
	b.Min[t.Axis] += t.Slide
	b.Max[t.Axis] += t.Slide
	return b
}

func (t *Travel) swept() Box {
	b := t.Box
	if t.Slide > 0 {
		b.Max[t.Axis] += t.Slide
	} else {
		b.Min[t.Axis] += t.Slide
	}
	return b
}

func apartAlong(axis int, a, b Box) units.Millimetre {
	return max(b.Min[axis]-a.Max[axis], a.Min[axis]-b.Max[axis])
}

func degrees(radians float64) float64 { return radians * 180 / math.Pi }

// flat is a point across the hinge.
type flat struct{ x, y float64 }

func (p flat) minus(o flat) flat { return flat{p.x - o.x, p.y - o.y} }

// turned turns a point about the origin, by an angle of which sine and cosine are known.
func (p flat) turned(sin, cos float64) flat {
	return flat{p.x*cos - p.y*sin, p.x*sin + p.y*cos}
}

// wing is a turning box and a standing one, seen along the hinge, which is the origin.
type wing struct {
	turning, standing [4]flat
	sense             float64 // +1 from the second axis to the third
	most              float64 // how far it turns, in radians
}

// across looks at a body along the hinge.
func (t *Travel) across(body Box) wing {
	u, v := (t.Axis+1)%3, (t.Axis+2)%3
	corners := func(b Box) (c [4]flat) {
		x0, x1 := float64(b.Min[u]-t.Pivot[u]), float64(b.Max[u]-t.Pivot[u])
		y0, y1 := float64(b.Min[v]-t.Pivot[v]), float64(b.Max[v]-t.Pivot[v])
		return [4]flat{{x0, y0}, {x1, y0}, {x1, y1}, {x0, y1}}
	}
	w := wing{turning: corners(t.Box), standing: corners(body), sense: 1, most: math.Abs(float64(t.Turn)) * math.Pi / 180}
	if t.Turn < 0 {
		w.sense = -1
	}
	return w
}

// contacts lists the ends of the turn and every angle at which a corner of one box
// lies on a side of the other: between two of them, what meets goes on to.
func (w *wing) contacts() []float64 {
	at := []float64{0, w.most}
	add := func(corner flat, box *[4]flat, sense float64) {
		square, from := corner.x*corner.x+corner.y*corner.y, math.Inf(1)
		touches := func(x, y float64) {
			if x < box[0].x-hair || x > box[2].x+hair || y < box[0].y-hair || y > box[2].y+hair {
				return
			}
			if math.IsInf(from, 1) {
				from = math.Atan2(corner.y, corner.x)
			}
			w.keep(&at, sense*(math.Atan2(y, x)-from))
		}
		for _, side := range [...]int{0, 2} {
			x, y := box[side].x, box[side].y
			if up := square - x*x; up >= 0 {
				touches(x, math.Sqrt(up))
				touches(x, -math.Sqrt(up))
			}
			if out := square - y*y; out >= 0 {
				touches(math.Sqrt(out), y)
				touches(-math.Sqrt(out), y)
			}
		}
	}
	for i := range w.turning {
		add(w.turning[i], &w.standing, w.sense)
		add(w.standing[i], &w.turning, -w.sense)
	}
	slices.Sort(at)
	return at
}

// hair is the breadth of rounding within which a corner is on a side, mm.
const hair = 1e-7

// reaches reports a standing box that the turning one may come as near to as that:
// what is nearer to the hinge, or further out, than all of it never is.
func (w *wing) reaches(near float64) bool {
	turningLow, turningHigh := fromHinge(&w.turning)
	standingLow, standingHigh := fromHinge(&w.standing)
	return standingLow < turningHigh+near && standingHigh > turningLow-near
}

// fromHinge is how near a box comes to the hinge, and how far it is off at most.
func fromHinge(c *[4]flat) (low, high float64) {
	x := math.Max(0, math.Max(c[0].x, -c[2].x))
	y := math.Max(0, math.Max(c[0].y, -c[2].y))
	return math.Hypot(x, y), math.Hypot(math.Max(-c[0].x, c[2].x), math.Max(-c[0].y, c[2].y))
}

// nearest lists the angles at which a corner of one box may be nearest to the other:
// where it moves along a side, or passes a corner.
func (w *wing) nearest() (at []float64) {
	add := func(corner flat, others [4]flat, sense float64) {
		from := math.Atan2(corner.y, corner.x)
		for _, quarter := range []float64{0, math.Pi / 2, math.Pi, -math.Pi / 2} {
			w.keep(&at, sense*(quarter-from))
		}
		for _, o := range others {
			w.keep(&at, sense*(math.Atan2(o.y, o.x)-from), sense*(math.Atan2(-o.y, -o.x)-from))
		}
	}
	for i := range w.turning {
		add(w.turning[i], w.standing, w.sense)
		add(w.standing[i], w.turning, -w.sense)
	}
	return at
}

// keep takes in angles of the turn, counted from closed; a turn of more than once
// round passes them again.
func (w *wing) keep(at *[]float64, angles ...float64) {
	for _, a := range angles {
		a = math.Mod(a, 2*math.Pi)
		if a < 0 {
			a += 2 * math.Pi
		}
		if a <= w.most {
			*at = append(*at, a)
		}
	}
}

// at is the turning box after an angle.
func (w *wing) at(angle float64) (c [4]flat) {
	sin, cos := math.Sincos(w.sense * angle)
	for i := range c {
		c[i] = w.turning[i].turned(sin, cos)
	}
	return c
}

// depth is how deep the boxes are in each other at an angle, zero or below for not at
// all: along the sides of either.
func (w *wing) depth(angle float64) float64 {
	moved := w.at(angle)
	sin, cos := math.Sincos(w.sense * angle)
	least := math.Inf(1)
	for _, side := range [...]flat{{1, 0}, {0, 1}, {cos, sin}, {-sin, cos}} {
		a0, a1 := shadow(&moved, side)
		b0, b1 := shadow(&w.standing, side)
		least = min(least, a1-b0, b1-a0)
	}
	return least
}

// shadow is what a box covers along a direction.
func shadow(c *[4]flat, along flat) (low, high float64) {
	low, high = math.Inf(1), math.Inf(-1)
	for i := range c {
		d := c[i].x*along.x + c[i].y*along.y
		low, high = min(low, d), max(high, d)
	}
	return low, high
}

// distance is how far the boxes are apart at an angle: from a corner of one to a side
// of the other.
func (w *wing) distance(angle float64) float64 {
	if w.depth(angle) >= 0 {
		return 0
	}
	moved := w.at(angle)
	least := math.Inf(1)
	for i := range moved {
		for j := range moved {
			least = math.Min(least, fromSide(moved[i], w.standing[j], w.standing[(j+1)%4]))
			least = math.Min(least, fromSide(w.standing[i], moved[j], moved[(j+1)%4]))
		}
	}
	return least
}

// fromSide is the distance of a point from a side.
func fromSide(p, a, b flat) float64 {
	side, to := b.minus(a), p.minus(a)
	share := 0.0
	if long := side.x*side.x + side.y*side.y; long > 0 {
		share = math.Max(0, math.Min(1, (to.x*side.x+to.y*side.y)/long))
	}
	return math.Hypot(to.x-share*side.x, to.y-share*side.y)
}
