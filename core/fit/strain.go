package fit

import (
	"math"

	"kolvan/core/finding"
	"kolvan/core/rig"
	"kolvan/core/units"
)

// judgeStrain looks for what a cable does to its connectors: hanging free it levers on
// them, bent right behind them, pressed against a wall or pulled toward one too, and
// twisted it turns them.
func judgeStrain(r *finding.Rule, c *Chamber, out *finding.List) {
	c.eachCable(func(s cable) {
		stiff := !rig.Is(s.Line, rig.LineFlat)
		if s.Free.Known && stiff && s.Free.Value > c.ref.StrainFree {
			out.Add(r, finding.Risk, s.at+"/hangs_free_mm", finding.Numbers{
				{Name: "free_mm", Value: float64(s.Free.Value)}, {Name: "most_mm", Value: float64(c.ref.StrainFree)},
			},
				"%s hangs free for %v from its connector and levers on it: tie it down within %v.", s.Name, s.Free.Value, c.ref.StrainFree)
		}
		c.judgeTwist(r, s, out)
		if stiff {
			c.judgeStraight(r, s, out)
			for _, m := range mouthsOf(s) {
				c.judgeAhead(r, s, &m, out)
				c.judgeAside(r, s, &m, out)
			}
		}
	})
	for i := range c.rig.Leads {
		c.judgeBehindPlug(r, i, out)
	}
}

func (c *Chamber) judgeTwist(r *finding.Rule, s cable, out *finding.List) {
	twist, told := s.Twist.Get()
	if !told || twist == 0 {
		return
	}
	if !s.Length.Known {
		out.Need(r, s.at+"/length_mm", "the length of "+s.Name, "Measure it from contact to contact.", "over what length it is twisted")
		return
	}
	if most := units.Degree(float64(c.ref.StrainTwist) * float64(s.Length.Value) / 100); max(twist, -twist) > most {
		out.Add(r, finding.Risk, s.at+"/twisted_deg", finding.Numbers{
			{Name: "twisted_deg", Value: float64(max(twist, -twist))}, {Name: "most_deg", Value: float64(most)},
		},
			"%s is twisted by %v over its %v; more than %v turns its connectors out of their sockets.", s.Name, max(twist, -twist), s.Length.Value,
			most)
	}
}

// judgeStraight: at either end a stiff cable runs straight for a little before it bends.
func (c *Chamber) judgeStraight(r *finding.Rule, s cable, out *finding.List) {
	points, known := pointsOf(s.Path)
	if !known || len(points) < 3 {
		return
	}
	bow, _ := BowOf(s.Stage, c.ref)
	thick := lengthOf(&s.Diameter, c.ref.CableThinnest, c.ref.CableThickest).ends
	centre := bow.Allowed.Plus(thick.Times(0.5))
	n := len(points)
	for _, end := range [...]struct {
		called string
		a, b   Vec
		next   Vec
	}{{"its plug", points[0], points[1], points[2]}, {"its far end", points[n-1], points[n-2], points[n-3]}} {
		takes := centre.Times(math.Tan(turnAt(end.a, end.b, end.next) / 2))
		long := units.Millimetre(distanceOf(end.a, end.b))
		straight := units.Between(long-takes.High, long-takes.Low)
		switch {
		case straight.High < c.ref.StrainStraight-touch:
			out.Add(
				r,
				finding.Risk,
				s.at+"/path",
				finding.Numbers{
					{Name: "straight_mm", Value: float64(straight.High)}, {Name: "least_mm", Value: float64(c.ref.StrainStraight)},
				},
				"%s bends %v behind %s; stiff as it is, it wants %v straight, or it levers on the connector.",
				s.Name,
				max(0, straight.High),
				end.called,
				c.ref.StrainStraight,
			)
		case straight.Low < c.ref.StrainStraight-touch:
			where, fact, find := s.opens()
			out.Need(r, where, fact, find, "whether it levers on its connectors")
		}
	}
}

// judgeThrough holds the way of a cable, its corners rounded as tightly as it may be
// bent, against what stands in the case; what one of its ends lies at is meant.
func (c *Chamber) judgeThrough(r *finding.Rule, s cable, b *Bow, out *finding.List) {
	thick := lengthOf(&s.Diameter, c.ref.CableThinnest, c.ref.CableThickest).ends
	line := b.Line
	c.inTheCase(func(name string, body Box, thing *rig.Thing) {
		if near(line[0], body) || near(line[len(line)-1], body) {
			return
		}
		apart := ClearOf(line, body)
		if thing != nil {
			if p, is := prismOf(thing, body); is {
				apart = p.clearOf(line)
			}
		}
		room := units.Between(apart-thick.High/2, apart-thick.Low/2)
		numbers := finding.Numbers{{Name: "gap_mm", Value: float64(room.High)}}
		switch {
		case apart <= touch:
			out.Add(r, finding.Blocked, s.at+"/path", numbers, "%s runs through %s as it is laid: lay it round.", s.Name, name)
		case room.High < -sag:
			out.Add(r, finding.Risk, s.at+"/path", numbers, "%s is pressed by %v against %s as it is laid.", s.Name, -room.High, name)
		case room.Low < -sag:
			where, fact, find := s.opens()
			out.Need(r, where, fact, find, "whether it clears "+name)
		}
	})
}

// sag is how far a rounded corner may be off its arc, mm.
const sag = 0.1

// near reports a point at a body, or in it.
func near(p Vec, body Box) bool { return ClearOf([]Vec{p, p}, body) <= 1 }

// rounded is a way with its corners as arcs of a radius, as chords that are off by no
// more than sag.
func rounded(points []Vec, radius float64) []Vec {
	line := []Vec{points[0]}
	for i := 1; i+1 < len(points); i++ {
		turn := turnAt(points[i-1], points[i], points[i+1])
		from, to := toward(points[i], points[i-1], radius*math.Tan(turn/2)), toward(points[i], points[i+1], radius*math.Tan(turn/2))
		steps := 1
		if radius > sag && turn > 1e-6 {
			steps = int(math.Ceil(turn / (2 * math.Acos(1-sag/radius))))
		}
		for k := 0; k <= steps; k++ {
			line = append(line, onArc(from, points[i], to, turn, float64(k)/float64(steps)))
		}
	}
	return append(line, points[len(points)-1])
}

// toward is the point so far from a corner on the way to another.
func toward(corner, other Vec, by float64) (p Vec) {
	share := 0.0
	if far := distanceOf(corner, other); far > 0 {
		share = by / far
	}
	for i := range p {
		p[i] = corner[i] + units.Millimetre(share)*(other[i]-corner[i])
	}
	return p
}

// onArc is a point of the arc that leaves one side of a corner and meets the other, a
// share of its turn on: the conic of both tangents, which is the circle when its middle
// weighs cos(turn/2).
func onArc(from, corner, to Vec, turn, share float64) (p Vec) {
	if share <= 0 || share >= 1 || turn < 1e-6 {
		return [...]Vec{from, to}[int(math.Round(share))]
	}
	// The parameter at which the circle has turned by that share.
	a := math.Sin(share * turn / 2)
	t := a / (a + math.Sin((1-share)*turn/2))
	w := math.Cos(turn / 2)
	all := (1-t)*(1-t) + 2*w*t*(1-t) + t*t
	for i := range p {
		p[i] = units.Millimetre(((1-t)*(1-t)*float64(from[i]) + 2*w*t*(1-t)*float64(corner[i]) + t*t*float64(to[i])) / all)
	}
	return p
}

// ClearOf is the distance of a line from a box, zero where it enters.
func ClearOf(line []Vec, body Box) units.Millimetre {
	least := math.Inf(1)
	for i := 1; i < len(line) && least > 0; i++ {
		if apartAtLeast(line[i-1], line[i], body) < least {
			least = math.Min(least, fromBox(line[i-1], line[i], body))
		}
	}
	return units.Millimetre(least)
}

// apartAtLeast is how far the box around a straight is from another: no less than that of
// the straight.
func apartAtLeast(a, b Vec, body Box) float64 {
	sum := 0.0
	for i := range a {
		off := math.Max(0, math.Max(float64(body.Min[i]-max(a[i], b[i])), float64(min(a[i], b[i])-body.Max[i])))
		sum += off * off
	}
	return math.Sqrt(sum)
}

// fromBox is the distance of a straight from a box: its square is convex along the
// straight, so that the least is where its slope changes its sign.
func fromBox(a, b Vec, body Box) float64 {
	square := func(t float64) (sum, slope float64) {
		for i := range a {
			d := float64(b[i] - a[i])
			at := float64(a[i]) + t*d
			off := math.Max(0, float64(body.Min[i])-at) - math.Max(0, at-float64(body.Max[i]))
			sum, slope = sum+off*off, slope-2*off*d
		}
		return sum, slope
	}
	low, high := 0.0, 1.0
	for range 60 {
		if _, slope := square((low + high) / 2); slope > 0 {
			high = (low + high) / 2
		} else {
			low = (low + high) / 2
		}
	}
	at0, _ := square(0)
	at1, _ := square(1)
	middle, _ := square((low + high) / 2)
	return math.Sqrt(math.Min(math.Min(at0, at1), middle))
}
