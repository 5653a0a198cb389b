package proof

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kolvan/core/coretest"
	"kolvan/core/rig"
)

// TestWhatWasExpectedStaysBesideWhatCame: kept before the first run, it does not move with the plan
// any more; each end of a range belongs to it.
func TestWhatWasExpectedStaysBesideWhatCame(t *testing.T) {
	r := rig.New("rig")
	r.Brief.Works = []rig.Work{
		{Name: "stacking", CardHz: rig.Of(120.0), TodayHz: rig.Of(31.0)}, {Name: "nobody knows"},
	}
	l := Link{Net: exactly(3.2), Ref: coretest.Tables(t)}
	planned := PromisedOf(r, l)
	require.Len(t, planned, 1, "of what tells no rate nothing is promised")
	assert.Nil(t, planned[0].Found)
	assert.Empty(t, planned[0].Kept+planned[0].Lies)
	assert.InDelta(t, 31, *planned[0].Before, 0)
	require.True(t, Keep(r, l, "2026-11-02"))
	assert.False(t, Keep(r, l, "2026-11-09"), "once")
	l.Net = exactly(0.2)
	kept := PromisedOf(r, l)[0]
	assert.Equal(t, "2026-11-02", kept.Kept)
	assert.InDelta(t, planned[0].Likely[0], kept.Likely[0], 0.06)
	r.Brief.Works[0].Kept = rig.Kept{Low: rig.Of(80.0), High: rig.Of(100.0), Least: rig.Of(60.0), Most: rig.Of(110.0)}
	for found, lies := range map[float64]string{80: "likely", 100: "likely", 79: "utmost", 60: "utmost", 110: "utmost", 59: "outside",
		111: "outside"} {
		r.Runs = []rig.Run{rated("after", found)}
		r.Runs[0].Use = "stacking"
		assert.Equal(t, lies, PromisedOf(r, l)[0].Lies, found)
	}
	r.Brief.Works[0].Kept = rig.Kept{}
	assert.False(t, Keep(r, l, "later"), "it was run already")
}
