package assess_test

import (
	"maps"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"kolvan/core/assess"
	"kolvan/core/coretest"
	"kolvan/core/finding"
	"kolvan/core/rig"
	"kolvan/core/units"
	"kolvan/demo"
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

// TestOneBrickForAll: a brick whose plug goes into the host and into the dock carries both by a
// lead of two ends, the card's plugs behind the dock; one of another voltage never does.
func TestOneBrickForAll(t *testing.T) {
	ref := coretest.Tables(t)
	rigs, err := demo.Rigs()
	require.NoError(t, err)
	r := rigs[slices.IndexFunc(rigs, func(r *rig.Rig) bool { return r.Name == "Field kit" })]
	brick := func(volts units.Volt) rig.Supply {
		barrel := rig.Of(rig.Connector("barrel"))
		return rig.Supply{
			Name: "large brick", Kind: rig.Of(rig.Brick), Rating: rig.Of[units.Watt](300),
			Rails:   []rig.Rail{{Name: "out", Voltage: rig.Of(volts), Current: rig.Of[units.Amp](25)}},
			Outlets: []rig.Outlet{{Name: "plug", Connector: barrel, Current: rig.Of[units.Amp](25)}},
		}
	}
	carries := func(volts units.Volt) (found bool) {
		assess.Feeds(assess.WithoutFeeds(r), ref, &assess.Bins{Supplies: []rig.Supply{brick(volts)}}, func(c *rig.Rig) bool {
			for _, l := range c.Leads {
				if len(l.To) == 2 && l.To[1].Part == rig.HostPart && l.From[0].Part == "large brick" {
					found = true
					assert.Empty(t, c.Host.Supply)
					report := assess.Rig(c, ref)
					for _, f := range report.Findings {
						assert.NotEqual(t, "power.unfed", f.Rule, f.Says)
					}
				}
			}
			return true
		})
		return found
	}
	assert.True(t, carries(12))
	assert.False(t, carries(19))
}
