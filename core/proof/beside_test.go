package proof

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"kolvan/core/rig"
	"kolvan/core/units"
)

// TestTwoRigsBesideEachOther: what changed between them, and where that is more than one thing the
// run that would part it.
func TestTwoRigsBesideEachOther(t *testing.T) {
	built := func(name, processor, card string, net, hz float64, changes ...func(*rig.Run)) Built {
		r := rig.New(name)
		r.Host.Proc.Name, r.Card.Name = processor, card
		r.Brief.Works = []rig.Work{{Name: "stacking"}}
		run := rated("after", hz, append(changes, at(1920, 1080))...)
		run.Use = "stacking"
		r.Runs = []rig.Run{run}
		return Built{r, Link{Net: exactly(net), At: func(gen int) units.Range[units.GigabytePerSecond] { return carried(gen % 3) }}}
	}
	base := built("shed", "Finch 4", "Corvane 16G", 3, 96)
	for _, c := range []struct {
		other Built
		says  string
	}{
		{built("hall", "Finch 4", "Corvane 16G", 0.8, 60), "stacking runs ×0.62 in hall against shed. Only the slot changed"},
		{built("hall", "Wren 8", "Corvane 16G", 3, 120), "Only the processor changed"},
		{built("hall", "Finch 4", "Corvane 16G", 3.5, 97), "Card, processor and slot are the same"},
		{
			built("hall", "Wren 8", "Corvane 16G", 0.8, 60),
			"Processor and slot changed together: this cannot part them. A run in shed with its link held to Gen 1, which then carries what " +
				"that of hall does, would",
		},
		{built("hall", "Wren 8", "Corvane 16G", 0.3, 60), "A run in each at a resolution as low as it goes"},
		{built("hall", "Wren 8", "Auk 24G", 3, 160), "Card and processor changed together"},
		{built("hall", "Finch 4", "Corvane 16G", 0.8, 60, func(r *rig.Run) { r.Preset = "low" }), "was made otherwise in shed and hall"},
	} {
		says := Beside(base, c.other)
		if assert.Len(t, says, 1, c.says) {
			assert.Contains(t, says[0], c.says)
		}
	}
	none := built("hall", "Finch 4", "Corvane 16G", 3, 0)
	none.Rig.Runs = nil
	assert.Empty(t, Beside(base, none))
	words, hz := base.Measured("stacking")
	assert.Equal(t, "96 Hz, 1920 by 1080", words)
	assert.InDelta(t, 96, hz, 0)
}
