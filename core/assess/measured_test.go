package assess_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"kolvan/core/assess"
	"kolvan/core/coretest"
	"kolvan/core/finding"
	"kolvan/core/rig"
	"kolvan/core/units"
)

// worstOf is the worst a report says of a family of rules.
func worstOf(report *assess.Report, family string) finding.Level {
	worst := finding.Note
	for i := range report.Findings {
		if f := &report.Findings[i]; strings.HasPrefix(f.Rule, family) && f.Level != finding.Unknown {
			worst = max(worst, f.Level)
		}
	}
	return worst
}

// TestASensorNeverCalms: whatever a sensor showed of the card, no supply, plug or wire is
// judged more mildly than without it: it shows what was drawn, not what may be.
func TestASensorNeverCalms(t *testing.T) {
	ref := coretest.Tables(t)
	rapid.Check(t, func(rt *rapid.T) {
		r := anyCase(rt, t)
		without := assess.Rig(r, ref)
		bad := badAt(&without)
		watts := rig.Of(units.Watt(rapid.Float64Range(0, 700).Draw(rt, "watts")))
		if rapid.Bool().Draw(rt, "in a run") {
			r.Runs = append(r.Runs, rig.Run{Name: "seen", Side: rig.Of[rig.RunSide]("after"), Board: watts})
		} else {
			r.LoadReadings = append(r.LoadReadings, rig.LoadReading{Board: watts})
		}
		with := assess.Rig(r, ref)
		require.GreaterOrEqual(rt, worstOf(&with, "power."), worstOf(&without, "power."))
		for at, level := range badAt(&with) {
			if was, there := bad[at]; there {
				require.GreaterOrEqual(rt, level, was)
			}
			delete(bad, at)
		}
		for at := range bad {
			require.False(rt, strings.HasPrefix(at[0], "power."), "%v is silenced by a sensor", at)
		}
	})
}

// TestAnotherCardsSensorSaysNothing of this one: a smaller card that takes a larger one's
// place is not judged by what that one drew, and its runs are no measure of this one's gain.
func TestAnotherCardsSensorSaysNothing(t *testing.T) {
	ref := coretest.Tables(t)
	rapid.Check(t, func(rt *rapid.T) {
		r := anyCase(rt, t)
		r.Runs, r.LoadReadings = nil, nil
		without := assess.Rig(r, ref)
		watts := rig.Of(units.Watt(rapid.Float64Range(0, 2000).Draw(rt, "watts")))
		r.LoadReadings = []rig.LoadReading{{Card: "another card", Board: watts}}
		r.Runs = []rig.Run{{Name: "a", Side: rig.Of[rig.RunSide]("before"), Average: rig.Of(30.0), Use: "stacking"},
			{Name: "b", Side: rig.Of[rig.RunSide]("after"), Card: "another card", Board: watts, Average: rig.Of(90.0), Use: "stacking"}}
		with := assess.Rig(r, ref)
		require.Equal(rt, badAt(&without), badAt(&with))
		for _, f := range with.Findings {
			require.NotContains(rt, f.Says, "was measured")
		}
	})
}

// TestAHotPlugIsNeverSilent: above its limit it speaks whatever else is told, the hotter the
// worse, and it stops the rig where a contact is failing.
func TestAHotPlugIsNeverSilent(t *testing.T) {
	ref := coretest.Tables(t)
	rapid.Check(t, func(rt *rapid.T) {
		r := anyCase(rt, t)
		heat := rapid.Float64Range(0, 120).Draw(rt, "heat")
		r.LoadReadings = []rig.LoadReading{{Plug: "card 8-pin", Heat: rig.Of(heat)}}
		report := assess.Rig(r, ref)
		said := finding.Note
		for _, f := range report.Findings {
			if f.Rule == "power.heat" {
				said = f.Level
			}
		}
		switch {
		case heat > 75:
			assert.Equal(rt, finding.Danger, said)
		case heat > 55:
			assert.Equal(rt, finding.Risk, said)
		default:
			assert.Equal(rt, finding.Note, said)
		}
	})
}
