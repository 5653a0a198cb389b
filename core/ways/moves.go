package ways

import (
	"slices"
	"strings"

	"kolvan/core/gate"
	"kolvan/core/rig"
)

// moves are the choices for what has to leave a slot: the places that were planned,
// no place at all, USB, and every slot it goes into, whose own occupant then moves on.
// What was told of a planned place is kept.
func moves(r *rig.Rig, slot *rig.Slot, planned []rig.Displaced) (all [][]rig.Displaced) {
	all = append(all, nil)
	occupant, known := slot.Occupant.Get()
	if !known || occupant == rig.NoOccupant {
		return all
	}
	found := false
	for _, list := range onward(r, slot, occupant, nil) {
		for i := range list {
			for _, p := range planned {
				if p.Occupant == list[i].Occupant && p.Home == list[i].Home && p.Slot == list[i].Slot {
					list[i], found = p, true
				}
			}
		}
		all = append(all, list)
	}
	if !found && slices.ContainsFunc(planned, func(p rig.Displaced) bool { return p.Occupant == occupant && p.Slot != slot.Name }) {
		all = append(all, planned)
	}
	return all
}

// onward are the new places of an occupant of a slot, after others that have theirs.
func onward(r *rig.Rig, from *rig.Slot, occupant string, before []rig.Displaced) (all [][]rig.Displaced) {
	usb := append(slices.Clone(before), rig.Displaced{Occupant: occupant, Home: rig.Of(rig.HomeUSB)})
	all = append(all, usb)
	if len(before) == mostOnward {
		return all
	}
	for i := range r.Host.Slots {
		if len(all) >= mostMoves {
			break // a host with more slots than any has
		}
		to := &r.Host.Slots[i]
		if to == from || to.Name == r.Route.Slot || slices.ContainsFunc(before, func(d rig.Displaced) bool { return d.Slot == to.Name }) {
			continue
		}
		home := rig.Displaced{Occupant: occupant, Home: rig.Of(rig.HomeSlot), Slot: to.Name}
		if !gate.Takes(r, &home) {
			continue
		}
		moved := append(slices.Clone(before), home)
		if to.Occupant.Known && to.Occupant.Value != rig.NoOccupant {
			all = append(all, onward(r, to, to.Occupant.Value, moved)...)
			continue
		}
		all = append(all, moved)
	}
	return all
}

// mostMoves are the choices of new places, at the most.
const mostMoves = 64

// mostOnward are the devices that move on in turn, at the most.
const mostOnward = 2

// MovesWords says what leaves its place, and where it goes.
func MovesWords(list []rig.Displaced) string {
	if len(list) == 0 {
		return "nothing moves"
	}
	words := make([]string, len(list))
	for i := range list {
		to := "away"
		switch d := &list[i]; {
		case d.Slot != "":
			to = d.Slot
		case d.Home.Known && d.Home.Value != rig.HomeNone:
			to = rig.Spoken(d.Home.Value)
		}
		words[i] = list[i].Occupant + " → " + to
	}
	return strings.Join(words, ", ")
}
