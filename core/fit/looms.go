package fit

import (
	"slices"

	"kolvan/core/finding"
	"kolvan/core/rig"
	"kolvan/core/units"
)

// loomThick is how thick the loom of a power lead is taken for, mm (P).
const loomThick units.Millimetre = 8

// loom is a power lead as a cable, with all that it is made longer by.
func loom(r *rig.Rig, i int) rig.Stage {
	l := &r.Leads[i]
	return rig.Stage{Name: l.Name, Path: l.Path, Length: Reach(r, i), Line: rig.Of(rig.LineFlat), Diameter: rig.Of(loomThick)}
}

// Reach is how far a lead reaches: its own length, and that of the leads that are
// plugged into its free ends one after another.
func Reach(r *rig.Rig, i int) Fact {
	whole, seen := r.Leads[i].Length, []int{i}
	for whole.Known {
		next := slices.IndexFunc(r.Leads, func(l rig.Lead) bool {
			return slices.ContainsFunc(l.From, func(e rig.LeadEnd) bool { return e.Part == r.Leads[seen[len(seen)-1]].Name })
		})
		if next < 0 || slices.Contains(seen, next) {
			break
		}
		seen = append(seen, next)
		whole.Value += r.Leads[next].Length.Value
		whole.Known = r.Leads[next].Length.Known
	}
	return whole
}

// judgeBehindPlug: the loom of a lead runs straight for a while behind the plug at its
// far end, further behind a 16-pin.
func (c *Chamber) judgeBehindPlug(r *finding.Rule, i int, out *finding.List) {
	l := &c.rig.Leads[i]
	points, known := pointsOf(l.Path)
	if !known || len(points) < 3 {
		return
	}
	wants := c.ref.PlugBend
	for i := range l.To {
		wants = max(wants, c.ref.BendOf(l.To[i].Connector.Value))
	}
	n := len(points)
	if straight := units.Millimetre(distanceOf(points[n-1], points[n-2])); straight < wants-touch {
		out.Add(r, finding.Risk, rig.LeadPath(i)+"/path", finding.Numbers{
			{Name: "straight_mm", Value: float64(straight)}, {Name: "least_mm", Value: float64(wants)},
		},
			"%s bends %v behind its plug, which wants %v straight, or it levers on the plug.", l.Name, straight, wants)
	}
}

// holesApart is where the holes of fans are, from middle to middle, by the size of the
// frame (S).
var holesApart = map[units.Millimetre]units.Millimetre{40: 32, 50: 40, 60: 50, 70: 60, 80: 71.5, 92: 82.5, 120: 105, 140: 124.5, 200: 154}

// judgeFan holds the holes of fans against those of the case.
func judgeFan(r *finding.Rule, c *Chamber, out *finding.List) {
	for i := range c.rig.Chamber.Fans {
		f := &c.rig.Chamber.Fans[i]
		at := rig.FanPath(i)
		size, told := f.Size.Get()
		holes, measured := f.Holes.Get()
		switch {
		case c.Open():
		case !told:
			out.Need(
				r, at+"/size_mm", "the size of fan "+f.Name, "Measure its frame, edge to edge.",
				"whether it meets the holes in the case",
			)
		case !measured:
			out.Need(
				r, at+"/holes_apart_mm", "how far apart the holes for fan "+f.Name+" are",
				"Measure from middle to middle along one edge.", "whether its screws meet them",
			)
		case max(holes-holesApart[size], holesApart[size]-holes) > 1:
			out.Add(r, finding.Blocked, at, finding.Numbers{
				{Name: "holes_mm", Value: float64(holes)}, {Name: "wanted_mm", Value: float64(holesApart[size])},
			},
				"The screws of fan %s, of %v, are %v apart; the holes in the case are %v apart.", f.Name, size, holesApart[size], holes)
		}
	}
}

// judgeWayUp: a supply that runs one way up only stands that way.
func (c *Chamber) judgeWayUp(r *finding.Rule, i int, out *finding.List) {
	s := &c.rig.Supplies[i]
	switch at := rig.SupplyPath(i) + "/stands_that_way"; {
	case !rig.Is(s.WayUp, true) || rig.Is(s.Stands, true):
	case !s.Stands.Known:
		out.Need(
			r, at, "whether "+s.Name+" stands the way up it is made for", "Look at its papers, and at how the rig will stand.",
			"whether it stays cool",
		)
	default:
		out.Add(r, finding.Risk, at, nil, "%s runs one way up only, and does not stand that way: turn it, or the rig.", s.Name)
	}
}
