package rig

import (
	"slices"
	"strconv"
)

// Supply returns the supply of that name, or nil.
func (r *Rig) Supply(name string) *Supply {
	return byName(r.Supplies, func(s *Supply) bool { return s.Name == name })
}

// Stage returns the stage of that name, or nil.
func (r *Rig) Stage(name string) *Stage {
	return byName(r.Route.Stages, func(s *Stage) bool { return s.Name == name })
}

// Lead returns the lead of that name, or nil.
func (r *Rig) Lead(name string) *Lead {
	return byName(r.Leads, func(l *Lead) bool { return l.Name == name })
}

// Slot returns the slot of that name, or nil.
func (r *Rig) Slot(name string) *Slot {
	return byName(r.Host.Slots, func(s *Slot) bool { return s.Name == name })
}

// Beside is how many of a stage are used side by side: as it tells itself, else what the route
// says of its cables and adapters.
func (r *Rig) Beside(s *Stage) int {
	if n, told := s.Parallel.Get(); told {
		return n
	}
	if Is(s.Kind, Cable) || Is(s.Kind, Adapter) {
		return r.Route.SideBySide.Or(1)
	}
	return 1
}

// CaseOpening returns the opening of the host's case of that name, or nil.
func (r *Rig) CaseOpening(name string) *CaseOpening {
	return byName(r.Host.Openings, func(o *CaseOpening) bool { return o.Name == name })
}

// Drive returns the drive of that name, or nil.
func (r *Rig) Drive(name string) *Drive {
	return byName(r.Host.Drives, func(d *Drive) bool { return d.Name == name })
}

// Network returns the network of that name, or nil.
func (r *Rig) Network(name string) *Network {
	return byName(r.Host.Networks, func(n *Network) bool { return n.Name == name })
}

// NewHome returns where the occupant of that name goes, or nil.
func (r *Rig) NewHome(occupant string) *Displaced {
	return byName(r.Route.Displaced, func(d *Displaced) bool { return d.Occupant == occupant })
}

func byName[T any](list []T, is func(*T) bool) *T {
	for i := range list {
		if is(&list[i]) {
			return &list[i]
		}
	}
	return nil
}

// IndexOf returns the place of p, which points into list, or −1.
func IndexOf[T any](list []T, p *T) int {
	for i := range list {
		if &list[i] == p {
			return i
		}
	}
	return -1
}

// CloneLeads copies leads so far that moving their ends leaves the originals
// alone.
func CloneLeads(leads []Lead) []Lead {
	copies := slices.Clone(leads)
	for i := range copies {
		copies[i].From = slices.Clone(copies[i].From)
		copies[i].To = slices.Clone(copies[i].To)
		copies[i].Wires = slices.Clone(copies[i].Wires)
	}
	return copies
}

// DropEnds takes source or load ends off a lead, with the wires that end there;
// the numbers of the other wires follow. drop may change the end it is asked for.
func (l *Lead) DropEnds(source bool, drop func(j int) bool) {
	ends := &l.To
	number := func(w *Conductor) *int { return &w.ToEnd }
	if source {
		ends, number = &l.From, func(w *Conductor) *int { return &w.FromEnd }
	}
	kept := make([]LeadEnd, 0, len(*ends))
	now := make([]int, len(*ends))
	for j := range *ends {
		if drop(j) {
			now[j] = -1
			continue
		}
		now[j] = len(kept)
		kept = append(kept, (*ends)[j])
	}
	*ends = kept
	l.Wires = slices.DeleteFunc(l.Wires, func(w Conductor) bool { return now[*number(&w)-1] < 0 })
	for i := range l.Wires {
		*number(&l.Wires[i]) = now[*number(&l.Wires[i])-1] + 1
	}
}

// Draws reports a lead that comes from the part's outlet, from any for an empty
// name.
func (r *Rig) Draws(part, outlet string) bool {
	for i := range r.Leads {
		for _, end := range r.Leads[i].From {
			if end.Part == part && (outlet == "" || end.At == outlet) {
				return true
			}
		}
	}
	return false
}

// longest is the longest a card slot or a card's edge gets, in lanes.
const longest = 16

// Body is the length of a card slot, in lanes; one with all lanes wired can only
// be the longest.
func (s *Slot) Body() Fact[int] { return longestOr(s.Mechanical, s.Lanes) }

// EdgeLength is the length of the card's edge, in lanes.
func (c *Card) EdgeLength() Fact[int] { return longestOr(c.Edge, c.Lanes) }

// HasLamp reports a dock whose lamp tells that it has power.
func (s *Stage) HasLamp() bool { return Is(s.Kind, Dock) && s.Lamp.Or(true) }

// EdgeForm is the form of slot that the card's own edge goes into.
func (c *Card) EdgeForm() Form { return c.Form.Or(CardSlot) }

func longestOr(body, lanes Fact[int]) Fact[int] {
	if !body.Known && Is(lanes, longest) {
		return lanes
	}
	return body
}

// paths are the JSON Pointers of the entries of a list, made once.
type paths struct {
	list string
	made [maxItems]string
}

func pathsOf(list string) *paths {
	p := &paths{list: list}
	for i := range p.made {
		p.made[i] = list + strconv.Itoa(i)
	}
	return p
}

// at is the pointer of an entry; beyond what a list holds, as of a rig that a change
// is tried on, it is made when asked for.
func (p *paths) at(i int) string {
	if i >= 0 && i < len(p.made) {
		return p.made[i]
	}
	return p.list + strconv.Itoa(i)
}

var (
	stagePaths  = pathsOf("/route/stages/")
	slotPaths   = pathsOf("/host/slots/")
	supplyPaths = pathsOf("/supplies/")
	leadPaths   = pathsOf("/leads/")
	thingPaths  = pathsOf("/chamber/things/")
	coverPaths  = pathsOf("/chamber/covers/")
	fanPaths    = pathsOf("/chamber/fans/")
	holePaths   = pathsOf("/host/openings/")
)

// StagePath is the JSON Pointer of a stage of the route.
func StagePath(i int) string { return stagePaths.at(i) }

// SlotPath is the JSON Pointer of a slot of the host.
func SlotPath(i int) string { return slotPaths.at(i) }

// SupplyPath is the JSON Pointer of a supply.
func SupplyPath(i int) string { return supplyPaths.at(i) }

// LeadPath is the JSON Pointer of a lead.
func LeadPath(i int) string { return leadPaths.at(i) }

// ThingPath is the JSON Pointer of a thing in the case.
func ThingPath(i int) string { return thingPaths.at(i) }

// CoverPath is the JSON Pointer of a cover of the case.
func CoverPath(i int) string { return coverPaths.at(i) }

// FanPath is the JSON Pointer of a fan of the case.
func FanPath(i int) string { return fanPaths.at(i) }

// OpeningPath is the JSON Pointer of an opening of the host's case.
func OpeningPath(i int) string { return holePaths.at(i) }

// OfCard reports a run or a reading that was made with the rig's own card.
func (r *Rig) OfCard(name string) bool { return name == "" || name == r.Card.Name }
