package web

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kolvan/core/assess"
	"kolvan/core/parts"
)

// TestVerdictByCause: what one change clears stands together under it, other
// stations are folded to a line, and nothing is lost on the way.
func TestVerdictByCause(t *testing.T) {
	r, report, ref := demoRig(t, "Dome-shed stacker")
	list, err := parts.Builtin()
	require.NoError(t, err)
	bins, err := parts.Bins(list)
	require.NoError(t, err)
	require.NoError(t, assess.Clear(t.Context(), report, r, ref, bins, assess.UsualEffort))
	v := verdictOf(report, r, "power")
	require.NotEmpty(t, v.Here)
	first := v.Here[0]
	assert.Equal(t, "power.slot-limit", first.Worst().Rule)
	assert.Contains(t, first.First()[0].Change.Change, "from outlet peripheral 1")
	assert.Equal(t, 2, first.First()[0].Clears)
	assert.Equal(t, "power.connector", first.Findings[1].Rule)
	require.Len(t, v.Others, 2)
	assert.Equal(t, "1 risk, 1 note", v.Others[0].Counts)
	assert.Equal(t, "Not as listed", v.Others[0].Title)
	assert.Equal(t, "1 blocked, 3 notes", v.Others[1].Counts)
	assert.Equal(t, "Nothing left to start from", v.Others[1].Title)
	for _, here := range []string{"brief", "survey", "route", "power", "fit", "sheet"} {
		v, shown := verdictOf(report, r, here), 0
		count := func(causes []cause, notes []findingView) {
			shown += len(notes)
			for _, c := range causes {
				shown += len(c.Findings)
			}
		}
		count(v.Here, v.Notes)
		for _, o := range v.Others {
			count(o.Causes, o.Notes)
		}
		assert.Equal(t, len(report.Findings), shown, here)
	}
}
