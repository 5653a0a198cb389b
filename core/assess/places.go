package assess

import (
	"cmp"
	"slices"

	"kolvan/core/brief"
	"kolvan/core/finding"
	"kolvan/core/gate"
	"kolvan/core/link"
	"kolvan/core/reference"
	"kolvan/core/rig"
)

// A Place is where what has to leave the route's slot could go, tried as a change is.
type Place struct {
	Home   rig.Displaced
	Now    bool // it is planned
	Change finding.Change
	Traps  []finding.Finding // what is said of it there, worst first
}

// weight is how much speaks against a place: by the worst, then by how many; a step to
// take in its time is no more than a note.
func (p *Place) weight() (worst finding.Level, traps int) {
	for i := range p.Traps {
		if f := &p.Traps[i]; !f.Row().Step && f.Level != finding.Note {
			worst, traps = max(worst, f.Level), traps+1
		}
	}
	return worst, traps
}

// Places lists every legal new place of what sits in the route's slot, those with the
// least against them first; none where nothing sits there or nobody looked.
func Places(r *rig.Rig, ref *reference.Tables) ([]Place, error) {
	slot := r.Slot(r.Route.Slot)
	if slot == nil || !movable(slot) {
		return nil, nil
	}
	occupant := slot.Occupant.Value
	homes := []rig.Displaced{}
	for i := range r.Host.Slots {
		home := rig.Displaced{Occupant: occupant, Home: rig.Of(rig.HomeSlot), Slot: r.Host.Slots[i].Name}
		if &r.Host.Slots[i] != slot && gate.Takes(r, &home) {
			homes = append(homes, home)
		}
	}
	for _, home := range gate.Homes(r, occupant) {
		if home == rig.HomeSlot {
			continue // each slot is a place of its own
		}
		homes = append(homes, rig.Displaced{Occupant: occupant, Home: rig.Of(home)})
	}
	var places []Place
	d := new(desk)
	for _, home := range homes {
		p, err := d.placeOf(r, ref, slot, home)
		if err != nil {
			return nil, err
		}
		places = append(places, p)
	}
	slices.SortStableFunc(places, func(a, b Place) int {
		x, many := a.weight()
		y, others := b.weight()
		return cmp.Or(cmp.Compare(x, y), cmp.Compare(many, others))
	})
	return places, nil
}

// ofThePlace are the rules that speak of where something goes.
var (
	ofThePlace = []string{
		gate.RuleBootDisplaced, gate.RuleSlow, gate.RuleCapacity, gate.RuleProven, gate.RuleShared, gate.RuleNetDisplaced,
		brief.RuleRefused,
	}
	ofItsLanes = []string{link.RuleSharedLanes, link.RuleSharedUplink} // which note what is so in every place
)

// placeOf tries one place, with what was told of it where it is the planned one.
func (d *desk) placeOf(r *rig.Rig, ref *reference.Tables, slot *rig.Slot, home rig.Displaced) (Place, error) {
	p := Place{Home: home}
	if planned := r.NewHome(home.Occupant); planned != nil && planned.Home == home.Home && planned.Slot == home.Slot {
		p.Home, p.Now = *planned, true
	}
	c := withHome(r, slot, p.Home, "")
	for _, f := range d.moves(c.rig, ref) {
		if slices.Contains(ofThePlace, f.Rule) || slices.Contains(ofItsLanes, f.Rule) && f.Level != finding.Note {
			p.Traps = append(p.Traps, f)
		}
	}
	patch, err := rig.PatchOf("/route", &r.Route, &c.rig.Route)
	p.Change = finding.Change{Patch: patch}
	return p, err
}
