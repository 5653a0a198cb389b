package rig

import (
	"reflect"
	"strconv"
	"strings"
)

// Subject is the thing a pointer stands at or in, a part of the rig or an entry of one of its
// lists, by its pointer and by what a person calls it. What sits in a slot is a thing beside it.
func (r *Rig) Subject(pointer string) (thing, name string) {
	tokens := strings.Split(strings.TrimPrefix(pointer, "/"), "/")
	thing = "/" + tokens[0]
	for i, token := range tokens {
		if _, err := strconv.Atoi(token); err == nil && i > 0 {
			thing = joinTokens(tokens[:i+1])
			if slot := EntryAt(thing, "/host/slots"); len(tokens) == i+2 && tokens[i+1] == "occupant" && slot >= 0 && slot < len(r.Host.Slots) {
				if what := r.Host.Slots[slot].Occupant.Value; what != "" {
					return joinTokens(tokens), what
				}
			}
			break
		}
	}
	return thing, r.calledAt(thing)
}

// calledAt is what a person calls a part, or an entry of a list.
func (r *Rig) calledAt(thing string) string {
	switch thing {
	case "/card":
		return "the card"
	case "/host":
		return "the host"
	case "/chamber":
		return "the case"
	case "/brief":
		return "the plan"
	}
	called := Called(r, thing)
	v, _, err := At(r, thing)
	if err != nil || v.Kind() != reflect.Struct {
		return "the " + called
	}
	if name := v.FieldByName("Name"); name.IsValid() && name.String() != "" {
		name := name.String()
		if Within(thing, "/card/plugs") {
			return "card plug " + name
		}
		return name
	}
	return "the " + called
}
