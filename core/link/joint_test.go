package link

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"kolvan/core/rig"
)

// TestWhatGoesIntoWhat: forms, keys, lengths and sizes, and one cable between two
// sockets that are alike.
func TestWhatGoesIntoWhat(t *testing.T) {
	joint := func(form rig.Form, key rig.Key, lanes int) rig.Joint {
		j := rig.Joint{Form: rig.Of(form)}
		if key != "" {
			j.Key = rig.Of(key)
		}
		if lanes > 0 {
			j.Lanes = rig.Of(lanes)
		}
		return j
	}
	stage := func(kind rig.StageKind, plug, socket rig.Joint) *rig.Stage {
		return &rig.Stage{Kind: rig.Of(kind), Plug: plug, Socket: socket}
	}
	link4, link8, card16 := joint(rig.OCuLink, "", 4), joint(rig.OCuLink, "", 8), joint(rig.CardSlot, "", 16)
	adapter := stage(rig.Adapter, joint(rig.M2, "M", 0), link4)
	cable := stage(rig.Cable, link4, link4)
	wide := stage(rig.Cable, link8, link8)
	dock := stage(rig.Dock, link4, card16)
	riser := stage(rig.Riser, card16, card16)
	for _, c := range []struct {
		name          string
		before, after *rig.Stage
		goes          bool
	}{
		{"a cable into an adapter", adapter, cable, true},
		{"a dock onto a cable", cable, dock, true},
		{"a dock onto an adapter: two sockets", adapter, dock, false},
		{"a cable onto a cable: two plugs", cable, cable, false},
		{"a wide cable into a small socket", adapter, wide, false},
		{"a small dock onto a wide cable", wide, dock, false},
		{"a riser behind a dock", dock, riser, true},
		{"a cable into a card slot", dock, cable, false},
	} {
		assert.Equal(t, c.goes, Follows(c.before, c.after), c.name)
	}
	slot := func(form rig.Form, key rig.Key, lanes int) *rig.Slot {
		s := &rig.Slot{Form: rig.Of(form)}
		if key != "" {
			s.Key = rig.Of(key)
		}
		if lanes > 0 {
			s.Mechanical = rig.Of(lanes)
		}
		return s
	}
	open := slot(rig.CardSlot, "", 4)
	open.OpenEnd = rig.Of(true)
	closed := slot(rig.CardSlot, "", 4)
	closed.OpenEnd = rig.Of(false)
	both := stage(rig.Adapter, joint(rig.M2, "B+M", 0), link4)
	for _, c := range []struct {
		name string
		slot *rig.Slot
		part *rig.Stage
		goes bool
	}{
		{"key M into key M", slot(rig.M2, "M", 0), adapter, true},
		{"key M into key E", slot(rig.M2, "E", 0), adapter, false},
		{"both notches into key M", slot(rig.M2, "M", 0), both, true},
		{"both notches into key B", slot(rig.M2, "B", 0), both, true},
		{"a key nobody saw", slot(rig.M2, "", 0), adapter, false},
		{"a long edge into a short open slot", open, riser, true},
		{"a long edge into a short closed slot", closed, riser, false},
		{"a cable into a port", slot(rig.OCuLink, "", 4), cable, true},
		{"a dock into a port: two sockets", slot(rig.OCuLink, "", 4), dock, false},
		{"an adapter into a port", slot(rig.OCuLink, "", 4), adapter, false},
	} {
		assert.Equal(t, c.goes, Begins(c.slot, c.part), c.name)
	}
}
