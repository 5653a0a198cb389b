package fit

import (
	"math"
	"slices"
	"strconv"

	"kolvan/core/finding"
	"kolvan/core/reference"
	"kolvan/core/rig"
	"kolvan/core/units"
)

// A Bow is a cable laid along its way: the length that takes, along its centre line
// with every corner rounded as tightly as the cable allows, and how tightly the
// straights between its corners make it bend.
type Bow struct {
	Needed  units.Range[units.Millimetre] // most with sharp corners, least with wide ones
	Allowed units.Range[units.Millimetre] // the inside radius it may be bent to
	Room    units.Range[units.Millimetre] // the inside radius that there is room for; no end of it without corners
	Line    []Vec                         // its centre line, bent as tightly as it may be; arcs as chords off by no more than 0.1 mm
}

// BowOf lays a cable along its way; false without two points, or while one is not told.
func BowOf(s *rig.Stage, ref *reference.Tables) (b Bow, known bool) {
	points, known := pointsOf(s.Path)
	if !known {
		return b, false
	}
	thick := units.Between(ref.CableThinnest, ref.CableThickest)
	if s.Diameter.Known {
		thick = units.Exactly(s.Diameter.Value)
	}
	b.Allowed = bendOf(s, ref, thick)
	wide, _ := laid(points, float64(b.Allowed.High+thick.High/2))
	sharp, most := laid(points, float64(b.Allowed.Low+thick.Low/2))
	b.Needed = units.Between(units.Millimetre(min(wide, sharp)), units.Millimetre(max(wide, sharp)))
	b.Room = units.Between(units.Millimetre(most)-thick.High/2, units.Millimetre(most)-thick.Low/2)
	b.Line = rounded(points, math.Min(float64(b.Allowed.Low+thick.Low/2), most))
	return b, true
}

// pointsOf are the points of a way; false for fewer than two, or while one is not told.
func pointsOf(path []rig.Corner) (points []Vec, known bool) {
	for i := range path {
		var p Vec
		for axis, at := range place3(&path[i].Place) {
			if !at.Known {
				return nil, false
			}
			p[axis] = at.Value
		}
		points = append(points, p)
	}
	return points, len(points) >= 2
}

// bendOf is the inside radius a cable may be bent to (reference, section 8), over all
// that it may be.
func bendOf(s *rig.Stage, ref *reference.Tables, thick units.Range[units.Millimetre]) units.Range[units.Millimetre] {
	switch {
	case rig.Is(s.Line, rig.LineFlat):
		return units.Exactly(ref.BendFlat)
	case rig.Is(s.Line, rig.LineVideo) || !s.Line.Known && (rig.Is(s.Plug.Form, rig.Video) || rig.Is(s.Socket.Form, rig.Video)):
		return thick.Times(ref.BendVideo)
	case s.Line.Known || rig.Is(s.Plug.Form, rig.OCuLink) || rig.Is(s.Socket.Form, rig.OCuLink):
		return thick.Times(ref.BendTwinax)
	default:
		return units.Exactly(ref.BendFlat).Hull(thick.Times(ref.BendTwinax))
	}
}

// laid is the length of a way whose corners are arcs of a radius of the centre line,
// as far as there is room for it, and the greatest radius that all its corners have
// room for at once.
func laid(points []Vec, radius float64) (length, most float64) {
	most = math.Inf(1)
	before, saved := 0.0, 0.0 // what corners take of a straight, and save of the length, for a radius of one
	for i := 1; i < len(points); i++ {
		straight, here := distanceOf(points[i-1], points[i]), 0.0
		length += straight
		if i+1 < len(points) {
			turn := turnAt(points[i-1], points[i], points[i+1])
			here = math.Tan(turn / 2)
			saved += 2*here - turn
		}
		if before+here > 1e-9 {
			most = math.Min(most, straight/(before+here))
		}
		before = here
	}
	return length - math.Min(radius, most)*saved, most
}

func distanceOf(a, b Vec) float64 {
	return math.Hypot(math.Hypot(float64(b[0]-a[0]), float64(b[1]-a[1])), float64(b[2]-a[2]))
}

// turnAt is by how much a way turns at a corner, in radians; just short of back on
// itself where it does that, which no radius makes.
func turnAt(a, b, c Vec) float64 {
	in, out := distanceOf(a, b), distanceOf(b, c)
	if in == 0 || out == 0 {
		return 0
	}
	dot := 0.0
	for i := range a {
		dot += float64(b[i]-a[i]) * float64(c[i]-b[i])
	}
	return math.Min(math.Acos(math.Max(-1, math.Min(1, dot/(in*out)))), math.Pi-1e-6)
}

// Passes tells whether a rectangle goes through an opening, straight or at a slant.
func Passes(width, height, openWidth, openHeight units.Millimetre) bool {
	p, q := float64(max(width, height)), float64(min(width, height))
	a, b := float64(max(openWidth, openHeight)), float64(min(openWidth, openHeight))
	switch {
	case q > b+float64(touch):
		return false
	case p <= a+float64(touch):
		return true
	default: // it is longer than the opening, and may go through at a slant
		return b >= (2*p*q*a+(p*p-q*q)*math.Sqrt(p*p+q*q-a*a))/(p*p+q*q)-float64(touch)
	}
}

// cable is one cable of the route, for the rules.
type cable struct {
	*rig.Stage
	at string
}

// untold is the first coordinate of its way that is not told.
func (s cable) untold() string {
	for i := range s.Path {
		if axis := firstOpen(place3(&s.Path[i].Place)); axis >= 0 {
			return s.at + "/path/" + strconv.Itoa(i) + "/" + axisName(axis)
		}
	}
	return s.at + "/path" // it has one point only
}

// opens is the fact that leaves open how tightly a cable may be bent.
func (s cable) opens() (where, fact, find string) {
	if s.Diameter.Known {
		return s.at + "/line", "what " + s.Name + " is made of", "Read its papers: a flat ribbon bends more tightly than round twinax."
	}
	return s.at + "/thickness_mm", "how thick " + s.Name + " is", "Measure it with a calliper."
}

func (c *Chamber) eachCable(visit func(cable)) {
	for i := range c.rig.Route.Stages {
		if s := &c.rig.Route.Stages[i]; !s.Kind.Known || s.Kind.Value == rig.Cable {
			visit(cable{s, rig.StagePath(i)})
		}
	}
	for i := range c.rig.Leads {
		if len(c.rig.Leads[i].Path) > 0 {
			s := loom(c.rig, i)
			visit(cable{&s, rig.LeadPath(i)})
		}
	}
}

func judgeCable(r *finding.Rule, c *Chamber, out *finding.List) {
	c.eachCable(func(s cable) {
		if len(s.Path) == 0 {
			return // nobody has laid it out
		}
		b, known := BowOf(s.Stage, c.ref)
		if !known {
			out.Need(r, s.untold(), "where every corner of "+s.Name+" is, and both its ends", ruler, "whether it reaches")
			return
		}
		c.judgeThrough(r, s, &b, out)
		if !s.Length.Known {
			out.Need(r, s.at+"/length_mm", "the length of "+s.Name, "Measure it from contact to contact.", "whether it reaches")
			return
		}
		spare := units.Between(s.Length.Value-b.Needed.High, s.Length.Value-b.Needed.Low)
		numbers := finding.Numbers{
			{Name: "needed_mm", Value: float64(b.Needed.Low)}, {Name: "length_mm", Value: float64(s.Length.Value)},
			{Name: "spare_mm", Value: float64(spare.High)},
		}
		switch {
		case spare.High < 0:
			out.Add(
				r, finding.Blocked, s.at+"/length_mm", numbers, "%s is %v long; its way takes at least %v.", s.Name, s.Length.Value,
				b.Needed.Low,
			)
		case spare.Low < 0:
			where, fact, find := s.opens()
			out.Need(r, where, fact, find, "how tightly it may be bent, and so whether it reaches")
		case spare.High < c.ref.CableSpare:
			out.Add(
				r, finding.Risk, s.at+"/length_mm", numbers,
				"%s has %v to spare on its way; under %v it is taut and pulls at its connectors.", s.Name, spare.High,
				c.ref.CableSpare,
			)
		}
	})
}

func judgeBend(r *finding.Rule, c *Chamber, out *finding.List) {
	c.eachCable(func(s cable) {
		b, known := BowOf(s.Stage, c.ref)
		if !known {
			return // fit.cable asks
		}
		switch b.Allowed.Over(b.Room) {
		case units.Always:
			out.Add(r, finding.Risk, s.at+"/path", finding.Numbers{
				{Name: "room_mm", Value: float64(b.Room.High)}, {Name: "allowed_mm", Value: float64(b.Allowed.Low)},
			},
				"Between its corners %s has room for an inside radius of %v; it may be bent to %v.", s.Name, max(0, b.Room.High), b.Allowed.Low)
		case units.Sometimes:
			where, fact, find := s.opens()
			out.Need(r, where, fact, find, "how tightly it may be bent")
		}
	})
}

func judgeOpening(r *finding.Rule, c *Chamber, out *finding.List) {
	judgePanel(r, c, out)
	c.eachCable(func(s cable) {
		for i := range s.Openings {
			o := &s.Openings[i]
			at := s.at + "/openings/" + strconv.Itoa(i)
			width, height := lengthOf(&s.Shell.Width, 0, longest).ends, lengthOf(&s.Shell.Height, 0, longest).ends
			wide, tall := lengthOf(&o.Width, 0, longest).ends, lengthOf(&o.Height, 0, longest).ends
			switch {
			case !Passes(width.Low, height.Low, wide.High, tall.High):
				out.Add(r, finding.Blocked, at, finding.Numbers{
					{Name: "shell_width_mm", Value: float64(width.Low)}, {Name: "shell_height_mm", Value: float64(height.Low)},
					{Name: "opening_width_mm", Value: float64(wide.High)}, {Name: "opening_height_mm", Value: float64(tall.High)},
				},
					"The connector of %s, %v by %v, does not pass %s, which is open %v by %v.", s.Name, width.Low, height.Low, o.Name, wide.High,
					tall.High)
			case !Passes(width.High, height.High, wide.Low, tall.Low):
				where, fact := at+"/width_mm", "how large the opening of "+o.Name+" is"
				if o.Width.Known && o.Height.Known {
					where, fact = s.at+"/shell/width_mm", "how large the connector of "+s.Name+" is"
				} else if o.Width.Known {
					where = at + "/height_mm"
				}
				out.Need(r, where, fact, "Measure it with a calliper.", "whether the cable gets out")
			}
		}
	})
}

// cuts reports something that is cut or drilled for the cable, by what the plan lists.
func (c *Chamber) cuts() (cuts []*rig.Alteration) {
	for i := range c.rig.Alterations {
		switch a := &c.rig.Alterations[i]; a.Touches.Value {
		case rig.TouchesCover, rig.TouchesSpare, rig.TouchesCase:
			cuts = append(cuts, a)
		}
	}
	return cuts
}

func judgeExit(r *finding.Rule, c *Chamber, out *finding.List) {
	c.eachCable(func(s cable) {
		switch s.Exit.Value {
		case "none":
			out.Add(
				r,
				finding.Blocked,
				s.at+"/exit",
				nil,
				"%s has no way out of the host: look for a vent or a port that may come out, raise a cover on stand-offs, let it stay off, or cut "+
					"where that is allowed.",
				s.Name,
			)
		case "cover-off":
			if len(c.rig.Brief.CoversOff) == 0 {
				out.Add(
					r, finding.Blocked, s.at+"/exit", nil, "%s leaves where a cover stays off, and the brief lets none stay off.", s.Name,
				)
			}
		case "opening":
			if len(s.Openings) == 0 {
				out.Need(
					r, s.at+"/openings", "the openings that "+s.Name+" passes", "Measure each layer: cover, shield, frame.",
					"whether its connector gets out",
				)
			}
		case "cut":
			cuts := c.cuts()
			mayCut := func(a *rig.Alteration) bool { return c.rig.Brief.Protects(a) != rig.Protected }
			if len(cuts) > 0 && !slices.ContainsFunc(cuts, mayCut) {
				out.Add(
					r, finding.Blocked, s.at+"/exit", nil, "%s leaves through a cut, and the brief protects what would be cut: %s.",
					s.Name, cuts[0].Name,
				)
			}
			if len(cuts) == 0 {
				out.Need(
					r, "/alterations", "what is cut for "+s.Name, "List the cover, shield or frame it goes through.",
					"whether that may be altered",
				)
			}
		}
	})
}

// UnderCover is what a cable wants beside its thickness under a raised cover, and
// AroundShell what an opening wants around a connector's shell, each side; mm.
const (
	UnderCover  = 1
	AroundShell = 0.5
)

func judgeRaised(r *finding.Rule, c *Chamber, out *finding.List) {
	c.eachCable(func(s cable) {
		if !rig.Is(s.Exit, "raised-cover") {
			return
		}
		highest := -1
		for i := range c.rig.Chamber.Covers {
			v := &c.rig.Chamber.Covers[i]
			if v.Raised.Known && (highest < 0 || v.Raised.Value > c.rig.Chamber.Covers[highest].Raised.Value) {
				highest = i
			}
		}
		if highest < 0 {
			out.Need(
				r, s.at+"/exit", "by how much the cover over "+s.Name+" is raised",
				"Add the cover to the case, with the height of its stand-offs.", "whether the cable is squeezed",
			)
			return
		}
		v := &c.rig.Chamber.Covers[highest]
		thick := lengthOf(&s.Diameter, c.ref.CableThinnest, c.ref.CableThickest).ends
		wants := thick.Plus(units.Exactly(units.Millimetre(UnderCover)))
		switch wants.Over(units.Exactly(v.Raised.Value)) {
		case units.Always:
			out.Add(r, finding.Risk, rig.CoverPath(highest)+"/raised_mm", finding.Numbers{
				{Name: "gap_mm", Value: float64(v.Raised.Value)}, {Name: "wanted_mm", Value: float64(wants.Low)},
			},
				"%s is raised by %v; %s wants %v under it. Taller stand-offs take screws longer by as much.", v.Name, v.Raised.Value, s.Name, wants.Low)
		case units.Sometimes:
			out.Need(r, s.at+"/thickness_mm", "how thick "+s.Name+" is", "Measure it with a calliper.", "whether it passes under the cover")
		}
	})
}
