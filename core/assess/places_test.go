package assess_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kolvan/core/assess"
	"kolvan/core/coretest"
	"kolvan/core/finding"
	"kolvan/core/rig"
	"kolvan/demo"
)

// TestPlacesForWhatLeaves: every legal place of a boot drive and of a radio, with its
// traps, the one with the least against it first; a press makes it the plan.
func TestPlacesForWhatLeaves(t *testing.T) {
	ref := coretest.Tables(t)
	rigs, err := demo.Rigs()
	require.NoError(t, err)
	name := func(p *assess.Place) string {
		if p.Home.Slot != "" {
			return p.Home.Slot
		}
		return string(p.Home.Home.Value)
	}
	says := func(p *assess.Place, rule string) (level finding.Level, some bool) {
		for _, f := range p.Traps {
			if f.Rule == rule {
				return f.Level, true
			}
		}
		return 0, false
	}
	stacker := rigs[0]
	places, err := assess.Places(stacker, ref)
	require.NoError(t, err)
	var names []string
	for i := range places {
		p := &places[i]
		names = append(names, name(p))
		assert.False(t, p.Now)
		changed, _ := patched(t, stacker, p.Change.Patch)
		require.Len(t, changed.Route.Displaced, 1, name(p))
		assert.Equal(t, p.Home, changed.Route.Displaced[0])
		_, displaced := says(p, "boot.displaced")
		assert.Equal(t, name(p) != "m2-b", displaced, "%s: only of the slot is it told that it starts a system", name(p))
	}
	assert.Equal(t, "m2-b", names[0], "a step to take in its time does not count against it")
	assert.ElementsMatch(t, []string{"m2-b", "sata-bay", "usb", "memory-card", "network"}, names, "no wireless slot, no Ethernet socket")
	for i := range places {
		if name(&places[i]) == "memory-card" {
			level, _ := says(&places[i], "boot.slow")
			assert.Equal(t, finding.Risk, level)
		}
	}

	stacker.Route.Displaced = []rig.Displaced{{Occupant: "boot drive", Home: rig.Of(rig.HomeSlot), Slot: "m2-b", Proven: rig.Of(true)}}
	places, err = assess.Places(stacker, ref)
	require.NoError(t, err)
	assert.True(t, places[0].Now)
	_, asked := says(&places[0], "boot.proven")
	assert.False(t, asked, "what was told of the planned place stands")

	places, err = assess.Places(rigs[1], ref)
	require.NoError(t, err)
	require.NotEmpty(t, places)
	assert.Equal(t, "wireless card", places[0].Home.Occupant)
	for i := range places {
		assert.NotContains(t, []string{"sata-bay", "memory-card"}, name(&places[i]))
	}

	stacker.Host.Slots[0].Occupant = rig.Of(rig.NoOccupant)
	places, err = assess.Places(stacker, ref)
	require.NoError(t, err)
	assert.Empty(t, places, "nothing has to leave")
}
