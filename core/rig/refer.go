package rig

import (
	"slices"
	"strconv"
)

// A space is a set of names that references point into.
type space struct{ kind, owner string }

// Kinds of name spaces. Outlets, inlets and rails belong to an owner.
const (
	slotSpace     = "slot"
	occupantSpace = "occupant"
	powerSpace    = "power"  // supplies, stages and leads
	pricedSpace   = "priced" // the host and the card, to which ledger, runs and readings refer
	outletSpace   = "outlet"
	inletSpace    = "inlet"
	railSpace     = "rail"
	coverSpace    = "cover"
	openingSpace  = "opening"
)

// eachReference visits every reference of the rig with the space it points into.
func eachReference(r *Rig, visit func(in space, ref *string)) {
	visit(space{powerSpace, ""}, &r.Host.Supply)
	for i := range r.Route.Stages {
		visit(space{powerSpace, ""}, &r.Route.Stages[i].Supply)
		visit(space{openingSpace, ""}, &r.Route.Stages[i].Panel.In)
	}
	visit(space{slotSpace, ""}, &r.Route.Slot)
	for i := range r.Host.Slots {
		if o := &r.Host.Slots[i].Occupant; o.Known && o.Value != NoOccupant {
			visit(space{occupantSpace, ""}, &o.Value)
		}
	}
	for i := range r.Route.Displaced {
		visit(space{occupantSpace, ""}, &r.Route.Displaced[i].Occupant)
		visit(space{slotSpace, ""}, &r.Route.Displaced[i].Slot)
	}
	for i := range r.Brief.Works {
		visit(space{occupantSpace, ""}, &r.Brief.Works[i].On)
	}
	for i := range r.Brief.CoversOff {
		visit(space{coverSpace, ""}, &r.Brief.CoversOff[i])
	}
	for i := range r.Supplies {
		for j := range r.Supplies[i].Outlets {
			visit(space{railSpace, r.Supplies[i].Name}, &r.Supplies[i].Outlets[j].Rail)
		}
	}
	for i := range r.Runs {
		visit(space{pricedSpace, ""}, &r.Runs[i].Card)
	}
	for i := range r.LoadReadings {
		visit(space{pricedSpace, ""}, &r.LoadReadings[i].Card)
	}
	for i := range r.Ledger.Lines {
		for _, ref := range []*string{&r.Ledger.Lines[i].Part, &r.Ledger.Lines[i].With} {
			visit(space{powerSpace, ""}, ref)
			visit(space{pricedSpace, ""}, ref)
		}
	}
	for i := range r.Leads {
		for j := range r.Leads[i].From {
			end := &r.Leads[i].From[j]
			visit(space{outletSpace, end.Part}, &end.At)
			visit(space{powerSpace, ""}, &end.Part)
		}
		for j := range r.Leads[i].To {
			end := &r.Leads[i].To[j]
			if end.Part == "" {
				continue // a free end has a name of its own
			}
			visit(space{inletSpace, end.Part}, &end.At)
			visit(space{powerSpace, ""}, &end.Part)
		}
	}
}

// spaceOf returns the space that the name of the thing at pointer lives in, and
// the name; false for things nothing refers to.
func spaceOf(r *Rig, pointer string) (space, string, bool) {
	list, owner := splitPointer(pointer)
	value, _, err := At(r, pointer)
	if err != nil || !value.CanAddr() {
		return space{}, "", false
	}
	switch v := value.Addr().Interface().(type) {
	case *Host:
		return space{pricedSpace, ""}, v.Name, true
	case *Card:
		return space{pricedSpace, ""}, v.Name, true
	case *Slot:
		return space{slotSpace, ""}, v.Name, true
	case *Drive:
		return space{occupantSpace, ""}, v.Name, true
	case *Network:
		return space{occupantSpace, ""}, v.Name, true
	case *Supply:
		return space{powerSpace, ""}, v.Name, true
	case *Stage:
		return space{powerSpace, ""}, v.Name, true
	case *Lead:
		return space{powerSpace, ""}, v.Name, true
	case *Cover:
		return space{coverSpace, ""}, v.Name, true
	case *CaseOpening:
		return space{openingSpace, ""}, v.Name, true
	case *CardPlug:
		return space{inletSpace, CardPart}, v.Name, true
	case *Inlet:
		return space{inletSpace, partName(r, owner)}, v.Name, true
	case *Outlet:
		return space{outletSpace, partName(r, owner)}, v.Name, true
	case *Rail:
		return space{railSpace, partName(r, owner)}, v.Name, true
	case *LeadEnd:
		if list == "to" && v.Part == "" {
			return space{outletSpace, partName(r, owner)}, v.At, true
		}
	}
	return space{}, "", false
}

// splitPointer parts "/supplies/0/outlets/2" into "outlets" and "/supplies/0".
func splitPointer(pointer string) (list, owner string) {
	parts := splitTokens(pointer)
	if len(parts) < 2 {
		return "", ""
	}
	return parts[len(parts)-2], joinTokens(parts[:len(parts)-2])
}

func partName(r *Rig, pointer string) string {
	value, _, err := At(r, pointer)
	if err != nil || !value.CanAddr() {
		return ""
	}
	switch v := value.Addr().Interface().(type) {
	case *Supply:
		return v.Name
	case *Stage:
		return v.Name
	case *Lead:
		return v.Name
	case *Host:
		return HostPart
	default:
		return ""
	}
}

// rename lets every reference follow a new name.
func rename(r *Rig, in space, old, name string) {
	eachReference(r, func(at space, ref *string) {
		if at == in && *ref == old && old != "" {
			*ref = name
		}
	})
}

// forget takes out what refers to a name that is gone: leads lose the ends that
// were plugged into it, the rest becomes open.
func forget(r *Rig, in space, name string) {
	if in.kind == powerSpace || in.kind == outletSpace || in.kind == inletSpace {
		gone := func(end LeadEnd) bool {
			return in.kind == powerSpace && end.Part == name || in.kind != powerSpace && end.Part == in.owner && end.At == name
		}
		for i := range r.Leads {
			l := &r.Leads[i]
			l.DropEnds(true, func(j int) bool { return gone(l.From[j]) })
			l.DropEnds(false, func(j int) bool { return gone(l.To[j]) })
		}
	}
	r.Route.Displaced = slices.DeleteFunc(r.Route.Displaced, func(d Displaced) bool {
		return in.kind == occupantSpace && d.Occupant == name
	})
	r.Brief.CoversOff = slices.DeleteFunc(r.Brief.CoversOff, func(c string) bool { return in.kind == coverSpace && c == name })
	for i := range r.Host.Slots {
		if o := &r.Host.Slots[i].Occupant; in.kind == occupantSpace && Is(*o, name) {
			*o = Of(NoOccupant)
		}
	}
	rename(r, in, name, "")
}

// Options lists the names a reference field may hold; nil for other fields.
func Options(r *Rig, pointer string) []string {
	tokens := splitTokens(pointer)
	switch tokens[len(tokens)-1] {
	case "supply":
		return names(r.Supplies, func(s *Supply) string { return s.Name })
	case "slot":
		return names(r.Host.Slots, func(s *Slot) string { return s.Name })
	case "occupant":
		return occupantOptions(r, tokens[0] == "host")
	case "opening":
		if tokens[0] == "route" {
			return names(r.Host.Openings, func(o *CaseOpening) string { return o.Name })
		}
	case "on":
		return names(r.Host.Drives, func(d *Drive) string { return d.Name })
	case "rail":
		if s, ok := structAt[Supply](r, joinTokens(tokens[:2])); ok {
			return names(s.Rails, func(r *Rail) string { return r.Name })
		}
	case "comes_with":
		return partNames(r)
	case "part", "at":
		if tokens[0] == "ledger" {
			return partNames(r)
		}
		if end, ok := structAt[LeadEnd](r, joinTokens(tokens[:len(tokens)-1])); ok {
			return endOptions(r, tokens, end)
		}
	}
	return nil
}

// occupantOptions: a slot may also be known to be empty.
func occupantOptions(r *Rig, slot bool) []string {
	all := append(
		names(r.Host.Drives, func(d *Drive) string { return d.Name }),
		names(r.Host.Networks, func(n *Network) string { return n.Name })...,
	)
	if slot {
		return append([]string{NoOccupant}, all...)
	}
	return all
}

// endOptions lists what an end of a lead may be plugged into, and where there.
func endOptions(r *Rig, tokens []string, end *LeadEnd) []string {
	source := tokens[2] == "from"
	if tokens[len(tokens)-1] == "at" {
		places := inletsOf(r, end.Part)
		if source {
			places = outletsOf(r, end.Part)
		}
		return names(places, func(p *place) string { return p.name })
	}
	stages := names(r.Route.Stages, stageName)
	if !source {
		return append(append([]string{CardPart, HostPart}, stages...), names(converters(r), func(s *Supply) string { return s.Name })...)
	}
	self := tokens[1]
	leads := names(r.Leads, func(l *Lead) string { return l.Name })
	if i, err := strconv.Atoi(self); err == nil && i < len(leads) {
		leads = slices.Delete(leads, i, i+1)
	}
	sources := append(append(names(r.Supplies, func(s *Supply) string { return s.Name }), stages...), leads...)
	if len(r.Host.Outlets) > 0 {
		sources = append(sources, HostPart)
	}
	return sources
}

// partNames are the parts of a rig that a line of the ledger may be of.
func partNames(r *Rig) []string {
	all := append([]string{r.Host.Name, r.Card.Name}, names(r.Route.Stages, stageName)...)
	all = append(all, names(r.Supplies, func(s *Supply) string { return s.Name })...)
	all = append(all, names(r.Leads, func(l *Lead) string { return l.Name })...)
	return slices.DeleteFunc(all, func(name string) bool { return name == "" })
}

// converters are the supplies that take their power from a lead.
func converters(r *Rig) []Supply {
	return slices.DeleteFunc(slices.Clone(r.Supplies), func(s Supply) bool { return len(s.Inlets) == 0 })
}

func names[T any](list []T, name func(*T) string) []string {
	all := make([]string, len(list))
	for i := range list {
		all[i] = name(&list[i])
	}
	return all
}

func structAt[T any](r *Rig, pointer string) (*T, bool) {
	value, _, err := At(r, pointer)
	if err != nil || !value.CanAddr() {
		return nil, false
	}
	v, ok := value.Addr().Interface().(*T)
	return v, ok
}
