package fit

import (
	"fmt"

	"kolvan/core/finding"
	"kolvan/core/rig"
	"kolvan/core/units"
)

// judgeLid looks at what covers meet: closed, where the brief lets them stay off, and
// on their way from closed to open.
func judgeLid(r *finding.Rule, c *Chamber, out *finding.List) {
	if c.Open() {
		return
	}
	for i := range c.Gaps {
		if g := &c.Gaps[i]; g.Off && g.Meets() == units.Always {
			out.Add(r, finding.Note, g.Where, finding.Numbers{{Name: "gap_mm", Value: float64(g.Ends.High)}},
				"The card reaches %v into %s, which the brief lets stay off. Keep fingers and metal away from the open case.", -g.Ends.High, g.Name)
		}
	}
	for i := range c.rig.Chamber.Covers {
		v := &c.rig.Chamber.Covers[i]
		if rig.Is(v.Switch, true) && (v.Raised.Value > 0 || c.mayStayOff(v.Name)) {
			out.Add(
				r,
				finding.Note,
				rig.CoverPath(i)+"/intrusion_switch",
				nil,
				"%s presses an intrusion switch: raised or off, the host may stop at a message, or not start. Set the firmware to ignore it, or "+
					"hold the switch down.",
				v.Name,
			)
		}
		if !moves(v) {
			continue
		}
		if where, fact, find := untoldOf(v, rig.CoverPath(i)); where != "" {
			out.Need(r, where, fact, find, "whether "+v.Name+" clears all on its way")
			continue
		}
		c.judgeWay(r, v, rig.CoverPath(i), out)
	}
}

// moves reports a cover of whose way something is told.
func moves(v *rig.Cover) bool {
	return v.Hinge != (rig.Hinge{}) && !rig.Is(v.Kind, "slide") || rig.Is(v.Kind, "slide") && v.Slide != (rig.Slide{})
}

// untoldOf is the first fact that a cover's way still wants; empty when all is told.
func untoldOf(v *rig.Cover, at string) (where, fact, find string) {
	for i := range 3 {
		if !place3(&v.At)[i].Known {
			return at + "/at/" + axisName(i), "where " + v.Name + " is when closed", ruler
		}
		if !extent3(&v.Size)[i].Known {
			return at + "/size/" + axisName(i), "the size of " + v.Name, ruler
		}
	}
	if rig.Is(v.Kind, "slide") {
		switch {
		case !v.Slide.Axis.Known:
			return at + "/slide/axis", "which way " + v.Name + " slides", "Look along its rail."
		case !v.Slide.By.Known:
			return at + "/slide/by_mm", "how far " + v.Name + " slides", "Measure from closed to open."
		}
		return "", "", ""
	}
	switch {
	case !v.Hinge.Axis.Known:
		return at + "/hinge/axis", "which way the hinge of " + v.Name + " lies", "Look along its pin."
	case !v.Hinge.Opens.Known:
		return at + "/hinge/opens_deg", "how far " + v.Name + " turns", "Open it and hold an angle beside it."
	}
	for i := range 3 {
		if i != axisOf(v.Hinge.Axis) && !place3(&v.Hinge.At)[i].Known {
			return at + "/hinge/at/" + axisName(i), "where the hinge of " + v.Name + " is", ruler
		}
	}
	return "", "", ""
}

// judgeWay holds the way of a cover against the card and the things that stand in the
// case; what it touches or meets closed goes with it, or is said already.
func (c *Chamber) judgeWay(r *finding.Rule, v *rig.Cover, at string, out *finding.List) {
	var t Travel
	if !t.of(v) {
		return
	}
	level := finding.Blocked
	if c.mayStayOff(v.Name) {
		level = finding.Note
	}
	c.inTheCase(func(name string, body Box, thing *rig.Thing) {
		if s, meets := t.strikes(body, thing); meets {
			from, to, numbers := t.words(s)
			out.Add(
				r, level, at, numbers, "%s meets %s on its way: from %s to %s of its %s. %s", v.Name, name, from, to, t.whole(),
				wayOut(level),
			)
		}
	})
}

// strikes is over which part of its way a cover meets what stands in the case and what it
// does not touch when it is closed.
func (t *Travel) strikes(body Box, thing *rig.Thing) (s Strike, meets bool) {
	if thing != nil {
		if p, is := prismOf(thing, body); is {
			if prismGap(p.axis, p.outline, apartAlong(p.axis, t.Box, body), t.Box) <= 0 {
				return s, false
			}
			return t.MeetsPrism(&p)
		}
	}
	if t.Box.Gap(body) <= 0 {
		return s, false
	}
	return t.Meets(body)
}

func wayOut(level finding.Level) string {
	if level == finding.Note {
		return "The brief lets it stay off."
	}
	return "It clears it closed, and cannot be moved past it."
}

// inTheCase visits the card, where it is placed, and what stands in the case and does
// not hold it.
func (c *Chamber) inTheCase(visit func(name string, body Box, thing *rig.Thing)) {
	if c.Placed {
		visit("the card", c.Card, nil)
	}
	for i := range c.rig.Chamber.Things {
		t := &c.rig.Chamber.Things[i]
		if box, known := BoxOf(&t.At, &t.Size); known && !t.Holds && !t.Out {
			visit(t.Name, box, t)
		}
	}
}

// words are the ends of a strike, and its numbers.
func (t *Travel) words(s Strike) (from, to string, n finding.Numbers) {
	if t.Turn == 0 {
		return units.Millimetre(s.From).String(), units.Millimetre(s.To).String(), finding.Numbers{
			{Name: "from_mm", Value: s.From}, {Name: "to_mm", Value: s.To},
		}
	}
	return units.Degree(s.From).String(), units.Degree(s.To).String(), finding.Numbers{
		{Name: "from_deg", Value: s.From}, {Name: "to_deg", Value: s.To},
	}
}

// whole is how far it moves in all.
func (t *Travel) whole() string {
	if t.Turn == 0 {
		return fmt.Sprint(max(t.Slide, -t.Slide))
	}
	return fmt.Sprint(max(t.Turn, -t.Turn))
}

// judgePassing: a cover that passes the card more closely than it was measured.
func (c *Chamber) judgePassing(r *finding.Rule, out *finding.List) {
	for i := range c.rig.Chamber.Covers {
		v := &c.rig.Chamber.Covers[i]
		var t Travel
		if !c.Placed || !moves(v) || c.mayStayOff(v.Name) || !t.of(v) || t.Box.Gap(c.Card) <= c.ref.GapTolerance {
			continue // a gap that is narrow when closed is said as that
		}
		if _, meets := t.Meets(c.Card); meets {
			continue
		}
		if gap := t.Clear(c.Card, c.ref.GapTolerance); gap < c.ref.GapTolerance {
			out.Add(r, finding.Risk, rig.CoverPath(i), finding.Numbers{
				{Name: "gap_mm", Value: float64(gap)}, {Name: "tolerance_mm", Value: float64(c.ref.GapTolerance)},
			},
				"%s passes the card at %v on its way, within the %v that it was measured to.", v.Name, gap, c.ref.GapTolerance)
		}
	}
}
