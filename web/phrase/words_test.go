package phrase

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kolvan/core/assess"
	"kolvan/core/rig"
	"kolvan/core/units"
	"kolvan/web/roomtest"
)

// TestFiguresSayWhatIsKnownOfThem: a figure, its two ends, the one that is certain,
// or that nothing is.
func TestFiguresSayWhatIsKnownOfThem(t *testing.T) {
	report := &assess.Report{Bounds: assess.Bounds{
		{Name: "a", Low: 5, High: 5}, {Name: "b", Low: 2, High: 4}, {Name: "c", Low: 0, High: 4},
		{Name: "d", Low: 3, Open: true}, {Name: "e", Open: true},
	}}
	for name, want := range map[string]string{
		"a": "5 W", "b": "2–4 W", "c": "at most 4 W", "d": "at least 3 W", "e": "not known", "f": "not known",
	} {
		assert.Equal(t, want, Figure(report, name, PrintWatts), name)
	}
	r, known, ref := roomtest.Demo(t, "Dome-shed stacker")
	assert.Equal(t, "x4 Gen 3", Link(known))
	without, err := rig.With(r, "/host/slots/0/generation", "")
	require.NoError(t, err)
	open := assess.Rig(without, ref)
	assert.Equal(t, "x4 Gen 1–4", Link(&open))
	assert.Equal(t, "80 % sustained, and the card's millisecond spikes", JudgedFor(r, known.Power))
	r.Sizing = rig.Sizing{Policy: rig.Of(rig.Share), Share: rig.Of(units.Share(0.7))}
	again := assess.Rig(r, ref)
	assert.Equal(t, "70 % sustained", JudgedFor(r, again.Power))
}
