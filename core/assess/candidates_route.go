package assess

import (
	"fmt"
	"slices"

	"kolvan/core/finding"
	"kolvan/core/rig"
)

// slotCandidates: the route starts from another slot, whose occupant stays where
// it can or changes places with what was displaced.
func slotCandidates(g *given, try func(candidate) bool) {
	r := g.rig
	for i := range r.Host.Slots {
		slot := &r.Host.Slots[i]
		if slot.Name == r.Route.Slot {
			continue
		}
		c := copyOf(r)
		c.Route.Slot = slot.Name
		c.Route.Displaced = keepDisplaced(r, slot, true)
		if !try(candidate{says: "Use slot " + slot.Name, kind: finding.Slot, rig: c}) {
			return
		}
		if old := r.Slot(r.Route.Slot); old != nil && movable(slot) {
			s := copyOf(c)
			s.Route.Displaced = append(
				keepDisplaced(r, slot, false),
				rig.Displaced{Occupant: slot.Occupant.Value, Home: rig.Of(rig.HomeSlot), Slot: old.Name},
			)
			if !try(candidate{
				says: "Use slot " + slot.Name + " and move " + slot.Occupant.Value + " to " + old.Name, kind: finding.Slot, rig: s,
			}) {
				return
			}
		}
	}
}

func movable(slot *rig.Slot) bool {
	return slot.Occupant.Known && slot.Occupant.Value != rig.NoOccupant
}

// keepDisplaced drops the new homes in the slot that is now used and, when the
// old slot's occupant stays, the home it was given.
func keepDisplaced(r *rig.Rig, used *rig.Slot, stays bool) []rig.Displaced {
	old := r.Slot(r.Route.Slot)
	return slices.DeleteFunc(slices.Clone(r.Route.Displaced), func(d rig.Displaced) bool {
		return d.Slot == used.Name || stays && old != nil && rig.Is(old.Occupant, d.Occupant)
	})
}

// homeCandidates: what sits in the route's slot goes to a free slot of a like
// form; a wireless card may also be replaced by one on USB.
func homeCandidates(g *given, try func(candidate) bool) {
	r := g.rig
	old := r.Slot(r.Route.Slot)
	if old == nil || !movable(old) {
		return
	}
	if r.Network(old.Occupant.Value) != nil &&
		!try(withHome(r, old, rig.Displaced{Home: rig.Of(rig.HomeUSB)}, "Replace "+old.Occupant.Value+" by one on USB")) {
		return
	}
	for i := range r.Host.Slots {
		slot := &r.Host.Slots[i]
		if slot == old || !rig.Is(slot.Occupant, rig.NoOccupant) || !old.Form.Known || !rig.Is(slot.Form, old.Form.Value) ||
			slot.Key != old.Key && slot.Key.Value != old.Key.Value {
			continue
		}
		if !try(withHome(
			r, old, rig.Displaced{Home: rig.Of(rig.HomeSlot), Slot: slot.Name}, "Move "+old.Occupant.Value+" to slot "+slot.Name,
		)) {
			return
		}
	}
}

// withHome gives the occupant of a slot a new home, in place of any it had.
func withHome(r *rig.Rig, old *rig.Slot, home rig.Displaced, says string) candidate {
	home.Occupant = old.Occupant.Value
	c := copyOf(r)
	c.Route.Displaced = slices.DeleteFunc(
		slices.Clone(r.Route.Displaced), func(d rig.Displaced) bool { return d.Occupant == home.Occupant },
	)
	c.Route.Displaced = append(c.Route.Displaced, home)
	return candidate{says: says, kind: finding.Home, rig: c}
}

// forceCandidates: the link is held to a lower generation in the firmware, the
// fastest first.
func forceCandidates(g *given, try func(candidate) bool) {
	planned := g.link.GenEnds.High
	for gen := planned - 1; gen >= 1; gen-- {
		c := copyOf(g.rig)
		c.Route.ForcedGen = rig.Of(gen)
		if !try(candidate{says: fmt.Sprintf("Force Gen %d in the firmware", gen), kind: finding.Force, rig: c}) {
			return
		}
	}
}

// stageCandidates: a stage gives way to another of the bins that joins the same two
// ends.
func stageCandidates(g *given, try func(candidate) bool) {
	for i := range g.rig.Route.Stages {
		was := &g.rig.Route.Stages[i]
		for j := range g.bins.Stages {
			now := &g.bins.Stages[j]
			if now.Name == was.Name || now.Kind.Value != was.Kind.Value || !sameEnds(was, now) || g.rig.Stage(now.Name) != nil {
				continue
			}
			if c, joined := exchangedStage(g.rig, i, now); joined && !try(candidate{
				says: "Use " + now.Name + " for " + was.Name, kind: finding.Stage, rig: c,
			}) {
				return
			}
		}
	}
}

func sameEnds(a, b *rig.Stage) bool {
	same := func(a, b *rig.Joint) bool {
		return a.Form.Known && b.Form.Known && a.Form.Value == b.Form.Value && a.Key.Value == b.Key.Value && a.Lanes.Value == b.Lanes.Value
	}
	return same(&a.Plug, &b.Plug) && same(&a.Socket, &b.Socket)
}

// exchangedStage puts a part in the place of a stage; joined is false where a lead would
// end nowhere. What was tried with the old one says nothing of the new;
// the way it takes does.
func exchangedStage(r *rig.Rig, i int, part *rig.Stage) (c *rig.Rig, joined bool) {
	c = copyOf(r)
	c.Route.Stages = slices.Clone(r.Route.Stages)
	old := &r.Route.Stages[i]
	was := old.Name
	c.Route.Stages[i] = *part
	laidLike(&c.Route.Stages[i], old)
	c.Route.Tried, c.Route.Readings = nil, nil
	c.Leads = rig.CloneLeads(r.Leads)
	for j := range c.Leads {
		l := &c.Leads[j]
		for k := range l.From {
			if end := &l.From[k]; end.Part == was {
				end.Part = part.Name
				if !slices.ContainsFunc(part.Outlets, func(o rig.Outlet) bool { return o.Name == end.At }) {
					return nil, false
				}
			}
		}
		for k := range l.To {
			if end := &l.To[k]; end.Part == was {
				end.Part = part.Name
				if !slices.ContainsFunc(part.Inlets, func(in rig.Inlet) bool { return in.Name == end.At }) {
					return nil, false
				}
			}
		}
	}
	return c, true
}

// laidLike lays a cable as another was: its way, its exit, what holds and turns it, and the
// walls before its plugs are of the place, not of the part.
func laidLike(s *rig.Stage, old *rig.Stage) {
	s.Path, s.Openings, s.Exit = old.Path, old.Openings, old.Exit
	s.Free, s.Twist, s.AtPlug, s.AtSocket = old.Free, old.Twist, old.AtPlug, old.AtSocket
}
