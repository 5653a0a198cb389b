package assess_test

import (
	"maps"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"kolvan/core/assess"
	"kolvan/core/coretest"
	"kolvan/core/finding"
	"kolvan/core/rig"
	"kolvan/core/units"
)

// TestCardUpTo: with a card at the bound the trouble is gone and nothing certain is new; with
// one watt more it is there.
func TestCardUpTo(t *testing.T) {
	ref := coretest.Tables(t)
	bounded := 0
	rapid.Check(t, func(rt *rapid.T) {
		r := anyCase(rt, t)
		report := assess.Rig(r, ref)
		flows := func(f finding.Finding) bool {
			return f.Row().Flows && f.Level >= finding.Risk && f.Level != finding.Unknown
		}
		i := slices.IndexFunc(report.Findings, flows)
		if i < 0 {
			return
		}
		f := report.Findings[i]
		watts, some := assess.CardUpTo([]*finding.Finding{&f}, r, ref)
		if !some {
			return
		}
		bounded++
		there := func(w units.Watt) bool {
			with := *r
			with.Card.Power = rig.Of(w)
			after := assess.Rig(&with, ref)
			if w == watts {
				assert.Subset(rt, slices.Collect(maps.Keys(badAt(&report))), slices.Collect(maps.Keys(badAt(&after))))
			}
			return slices.ContainsFunc(after.Findings, func(a finding.Finding) bool {
				return a.Rule == f.Rule && a.Where == f.Where && a.Level >= finding.Risk
			})
		}
		assert.False(rt, there(watts), "%s %s at %v", f.Rule, f.Where, watts)
		assert.True(rt, there(watts+1) || watts+1 >= r.Card.Power.Value, "%s %s above %v", f.Rule, f.Where, watts)
	})
	assert.Positive(t, bounded)

	r := whole(t, `[{"op":"remove","path":"/card/power_w"}]`)
	_, some := assess.CardUpTo([]*finding.Finding{{}}, r, ref)
	assert.False(t, some, "a power that is not told has no bound")
}
