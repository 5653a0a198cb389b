package assess

import (
	"fmt"
	"math"
	"slices"

	"kolvan/core/finding"
	"kolvan/core/fit"
	"kolvan/core/rig"
	"kolvan/core/units"
)

// slotPitch is how far the slots of a row are apart.
const slotPitch units.Millimetre = 20.32

// mostSlots is how many places along the row a card is tried at, either way.
const mostSlots = 3

// outCandidates: what swings or slides out of the way, and has the card in it when it is back,
// stays out. Lids are not offered: they keep fingers from blades and air where it belongs.
func outCandidates(g *given, try func(candidate) bool) {
	for i := range g.room.Gaps {
		gap := &g.room.Gaps[i]
		at := rig.EntryAt(gap.Where, "/chamber/covers")
		if gap.Off || gap.Ends.Low >= 0 || at < 0 || at >= len(g.rig.Chamber.Covers) {
			continue
		}
		cover := &g.rig.Chamber.Covers[at]
		if !rig.Is(cover.Kind, "swing") && !rig.Is(cover.Kind, "slide") {
			continue
		}
		c := copyOf(g.rig)
		c.Brief.CoversOff = append(slices.Clone(c.Brief.CoversOff), cover.Name)
		if !try(candidate{kind: finding.StandOff, rig: c, says: "Let " + cover.Name + " stay out"}) {
			return
		}
	}
}

// shiftCandidates: the card stands somewhere else. One on a cable is moved, with what
// holds it, out of a gap that is too small; one behind an opening for its bracket goes
// along the row, slot by slot.
func shiftCandidates(g *given, try func(candidate) bool) {
	if !g.room.Placed || !standsFree(g.rig) {
		return
	}
	if o := g.rig.Chamber.Opening.Height; o.Known && o.Value != rig.NoBracket {
		axis := int(g.rig.Chamber.Axes.Or("xyz")[2] - 'x')
		for slot := 1; slot <= mostSlots; slot++ {
			for _, by := range [...]units.Millimetre{slotPitch, -slotPitch} {
				if !try(moved(g.rig, axis, by*units.Millimetre(slot))) {
					return
				}
			}
		}
		return
	}
	for i := range g.room.Gaps {
		gap := &g.room.Gaps[i]
		if gap.Off || !gap.Ends.Known() || gap.Ends.Low >= gap.Tolerance {
			continue
		}
		axis, from, _ := g.room.Span(gap)
		by := units.Millimetre(math.Ceil(float64(gap.Tolerance - gap.Ends.Low)))
		if from == g.room.Card.Max[axis] {
			by = -by
		}
		if !try(moved(g.rig, axis, by)) {
			return
		}
	}
}

// standsFree reports a card that hangs on a cable: its place is where a person puts it.
func standsFree(r *rig.Rig) bool {
	return slices.ContainsFunc(r.Route.Stages, func(s rig.Stage) bool { return rig.Is(s.Kind, rig.Cable) })
}

var axisWords = [3]string{"along the length", "upward from the slot", "along the row of slots"}

// moved puts the card, what holds it, and the end of the cable to it somewhere else.
func moved(r *rig.Rig, axis int, by units.Millimetre) candidate {
	c := copyOf(r)
	c.Chamber.Things = slices.Clone(c.Chamber.Things)
	shift(&c.Chamber.CardAt, axis, by)
	for i := range c.Chamber.Things {
		if t := &c.Chamber.Things[i]; t.Holds {
			shift(&t.At, axis, by)
		}
	}
	c.Route.Stages = slices.Clone(c.Route.Stages)
	for i := len(c.Route.Stages) - 1; i >= 0; i-- {
		s := &c.Route.Stages[i]
		if !rig.Is(s.Kind, rig.Cable) {
			continue
		}
		if s.Path = slices.Clone(s.Path); len(s.Path) > 0 {
			shift(&s.Path[len(s.Path)-1].Place, axis, by)
		}
		break
	}
	way := "further"
	if by < 0 {
		way = "back"
	}
	return candidate{
		kind: finding.StandOff, rig: c,
		says: fmt.Sprintf("Stand the card, and what holds it, %v %s %s", max(by, -by), way, axisWords[axis]),
	}
}

func shift(p *rig.Place, axis int, by units.Millimetre) {
	if f := [3]*fit.Fact{&p.X, &p.Y, &p.Z}[axis]; f.Known {
		f.Value += by
	}
}

// turnCandidates: a card that stands free, without an opening for its bracket, is laid
// another way, with what holds it.
func turnCandidates(g *given, try func(candidate) bool) {
	r := g.rig
	if o := r.Chamber.Opening.Height; !g.room.Placed || !standsFree(r) || o.Known && o.Value != rig.NoBracket {
		return
	}
	for _, axes := range rig.Axes("").Words().All() {
		if c, turns := turned(r, rig.Axes(axes)); turns && !try(c) {
			return
		}
	}
}

// turned lays the card along other axes, its corner where it was or as near to it as
// the walls let it; false where what holds it is not known well enough to go along, or
// a cable's way ends at it.
func turned(r *rig.Rig, axes rig.Axes) (candidate, bool) {
	was := r.Chamber.Axes.Or("xyz")
	if was == axes || slices.ContainsFunc(r.Route.Stages, func(s rig.Stage) bool { return len(s.Path) > 0 }) {
		return candidate{}, false
	}
	c := copyOf(r)
	c.Chamber.Axes = rig.Of(axes)
	c.Chamber.Things = slices.Clone(c.Chamber.Things)
	at, box := facts(&c.Chamber.CardAt), extents(&c.Chamber.Box)
	corner := *at[0]
	old := [3]units.Millimetre{corner.Value, at[1].Value, at[2].Value}
	for i, size := range fit.CardSizes(&c.Card) {
		axis := int(axes[i] - 'x')
		if box[axis].Known {
			at[axis].Value = max(0, min(at[axis].Value, box[axis].Value-size.Value))
		}
	}
	for i := range c.Chamber.Things {
		t := &c.Chamber.Things[i]
		if !t.Holds {
			continue
		}
		if _, known := fit.BoxOf(&t.At, &t.Size); !known {
			return candidate{}, false
		}
		from, size := *t, [3]units.Millimetre{}
		for k := range axes {
			a, b := int(was[k]-'x'), int(axes[k]-'x')
			facts(&t.At)[b].Value = at[b].Value + facts(&from.At)[a].Value - old[a]
			size[b] = extents(&from.Size)[a].Value
		}
		for axis, f := range extents(&t.Size) {
			f.Value = size[axis]
		}
	}
	return candidate{kind: finding.StandOff, rig: c, says: "Turn the card, and what holds it: " + rig.Spoken(axes)}, true
}

func facts(p *rig.Place) [3]*fit.Fact    { return [3]*fit.Fact{&p.X, &p.Y, &p.Z} }
func extents(e *rig.Extent) [3]*fit.Fact { return [3]*fit.Fact{&e.X, &e.Y, &e.Z} }
func thickness(s *rig.Stage) (float64, bool) {
	return math.Ceil(float64(s.Diameter.Value) + fit.UnderCover), s.Diameter.Known
}

// exitCandidates: a cable leaves another way: under a cover raised on stand-offs, or on
// taller ones; where a cover stays off; through openings cut as large as its connector.
func exitCandidates(g *given, try func(candidate) bool) {
	r := g.rig
	for i := range r.Route.Stages {
		s := &r.Route.Stages[i]
		if s.Kind.Known && s.Kind.Value != rig.Cable || !s.Exit.Known && len(s.Openings) == 0 {
			continue
		}
		for k := range r.Chamber.Covers {
			if high, known := thickness(s); known && !try(raised(r, i, k, units.Millimetre(high))) {
				return
			}
		}
		for _, cover := range r.Brief.CoversOff {
			if !try(leaves(r, i, "cover-off", cover, "Let "+cover+" stay off where "+s.Name+" leaves")) {
				return
			}
		}
		if c, cuts := cut(r, i); cuts && !try(c) {
			return
		}
	}
}

// leaves lets cable i leave by an exit; the opening in the cover it no longer passes goes.
func leaves(r *rig.Rig, i int, exit rig.Exit, cover, says string) candidate {
	c := copyOf(r)
	c.Route.Stages = slices.Clone(c.Route.Stages)
	s := &c.Route.Stages[i]
	s.Exit = rig.Of(exit)
	s.Openings = slices.DeleteFunc(slices.Clone(s.Openings), func(l rig.Layer) bool { return l.Name == cover })
	return candidate{kind: finding.Exit, rig: c, says: says}
}

func raised(r *rig.Rig, i, cover int, high units.Millimetre) candidate {
	v := &r.Chamber.Covers[cover]
	more := high - v.Raised.Value
	c := leaves(r, i, "raised-cover", v.Name, fmt.Sprintf("Raise %s on stand-offs of %v, with screws %v longer", v.Name, high, more))
	c.rig.Chamber.Covers = slices.Clone(r.Chamber.Covers)
	c.rig.Chamber.Covers[cover].Raised = rig.Of(high)
	return c
}

// cut widens the openings that the cable's connector does not pass; false where there is
// none, or the connector was not measured.
func cut(r *rig.Rig, i int) (candidate, bool) {
	s := &r.Route.Stages[i]
	if !s.Shell.Width.Known || !s.Shell.Height.Known {
		return candidate{}, false
	}
	c := leaves(r, i, "cut", "", "")
	c.rig.Alterations = slices.Clone(r.Alterations)
	wide, high := s.Shell.Width.Value+2*fit.AroundShell, s.Shell.Height.Value+2*fit.AroundShell
	for k := range c.rig.Route.Stages[i].Openings {
		o := &c.rig.Route.Stages[i].Openings[k]
		if fit.Passes(s.Shell.Width.Value, s.Shell.Height.Value, o.Width.Value, o.Height.Value) {
			continue
		}
		o.Width, o.Height = rig.Of(wide), rig.Of(high)
		c.rig.Alterations = append(
			c.rig.Alterations,
			rig.Alteration{Name: fmt.Sprintf("an opening of %v by %v in %s", wide, high, o.Name), Touches: rig.Of(touched(r, o.Name))},
		)
		if c.says != "" {
			c.says += ", and "
		}
		c.says += fmt.Sprintf("in %s of %v by %v", o.Name, wide, high)
	}
	c.says = "Cut an opening " + c.says + ": for good"
	return c, len(c.rig.Alterations) > len(r.Alterations)
}

// touched is what is cut with a layer: a cover of the case, else the case.
func touched(r *rig.Rig, layer string) rig.Touches {
	if slices.ContainsFunc(r.Chamber.Covers, func(v rig.Cover) bool { return v.Name == layer }) {
		return rig.TouchesCover
	}
	return rig.TouchesCase
}

// extensionCandidates: a lead that is too short for its way is made longer by one of the
// bins that has the same plug at both ends.
func extensionCandidates(g *given, try func(candidate) bool) {
	r := g.rig
	for i := range r.Leads {
		l := &r.Leads[i]
		if len(l.Path) == 0 || len(l.To) != 1 {
			continue
		}
		for j := range g.bins.Leads {
			if b := &g.bins.Leads[j]; extends(b, l.To[0].Connector) && !try(extended(r, i, *b)) {
				return
			}
		}
	}
}

func extends(l *rig.Lead, plug rig.Fact[rig.Connector]) bool {
	return plug.Known && l.Length.Known && len(l.From) == 1 && len(l.To) == 1 && rig.Is(l.From[0].Connector, plug.Value) &&
		rig.Is(l.To[0].Connector, plug.Value)
}

// extended puts a lead between lead i and what it ended at.
func extended(r *rig.Rig, i int, by rig.Lead) candidate {
	c := copyOf(r)
	c.Leads = rig.CloneLeads(r.Leads)
	end := c.Leads[i].To[0]
	says := fmt.Sprintf("Put %s of %v on %s", by.Name, by.Length.Value, r.Leads[i].Name)
	by.Name = FreeName(r, by.Name)
	by.From = []rig.LeadEnd{{Part: r.Leads[i].Name, At: "its end", Connector: end.Connector}}
	by.To = []rig.LeadEnd{end}
	c.Leads[i].To[0] = rig.LeadEnd{At: "its end", Connector: end.Connector}
	c.Leads = append(c.Leads, by)
	return candidate{kind: finding.Extension, rig: c, says: says}
}
