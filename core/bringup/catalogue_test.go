package bringup_test

import (
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kolvan/core/assess"
	"kolvan/core/bringup"
	"kolvan/core/coretest"
	"kolvan/core/finding"
	"kolvan/demo"
)

// TestCatalogueIsWhole: names are there once, every figure is in its bounds, every fault
// says how it is mended, and every part that a fault is of is replaced by some test, or is
// one that only its own mending reaches.
func TestCatalogueIsWhole(t *testing.T) {
	cat, err := bringup.Load()
	require.NoError(t, err)
	assert.GreaterOrEqual(t, len(cat.Faults), 31)
	assert.GreaterOrEqual(t, len(cat.Tests), 25)
	names, replaced := map[string]bool{}, map[string]bool{
		"plan": true, "none": true, "host": true, "screen": true, "seat": true, "port": true, "slot": true,
	}
	for _, test := range cat.Tests {
		assert.False(t, names[test.Name], test.Name)
		names[test.Name] = true
		assert.True(t, strings.HasSuffix(test.Do, ".") || test.First, test.Do)
		assert.Positive(t, test.Minutes, test.Name)
		assert.True(t, test.Slip >= 0.03 && test.Slip <= 0.1, test.Name)
		assert.GreaterOrEqual(t, len(test.Outcomes), 2, test.Name)
		assert.Equal(t, len(test.Outcomes), len(slices.Compact(slices.Sorted(slices.Values(test.Outcomes)))), test.Name)
		assert.NotEmpty(t, test.When, test.Name)
		assert.False(t, test.Price > 0 && test.Needs == "", "%s has a price of nothing", test.Name)
		for _, part := range slices.Concat(test.Replaces, test.Also) {
			replaced[part] = true
		}
	}
	for _, fault := range cat.Faults {
		assert.False(t, names[fault.Name], fault.Name)
		names[fault.Name] = true
		assert.Positive(t, fault.Weight, fault.Name)
		assert.Positive(t, fault.Minutes, fault.Name)
		assert.True(t, strings.HasSuffix(fault.Mend, "."), fault.Mend)
		assert.NotEmpty(t, fault.Does, fault.Name)
		assert.True(t, replaced[fault.Part] || replaced[fault.Name], "no test replaces %s of %s", fault.Part, fault.Name)
	}
	for _, test := range cat.Tests {
		for _, name := range slices.Concat(test.Replaces, test.Also) {
			known := slices.ContainsFunc(cat.Faults, func(f bringup.Fault) bool { return f.Name == name || f.Part == name })
			assert.True(t, known, "%s replaces %s, of which no fault is", test.Name, name)
		}
	}
}

// TestEveryEveningOfTheDemo: each rig in every order it has, with every fault it can have,
// plays to one of the ends, and what bites is said of it.
func TestEveryEveningOfTheDemo(t *testing.T) {
	ref := coretest.Tables(t)
	cat, err := bringup.Load()
	require.NoError(t, err)
	rigs, err := demo.Rigs()
	require.NoError(t, err)
	ends := map[string]bool{}
	for _, r := range rigs {
		report := assess.Rig(r, ref)
		w := bringup.Of(r, ref, report.Findings)
		for _, order := range bringup.OrdersOf(r, ref) {
			for i := -1; i < len(cat.Faults); i++ {
				var fault *bringup.Fault
				if i >= 0 {
					fault = &cat.Faults[i]
				}
				played, err := w.Play(order.Order, uint64(i+7), fault)
				if err != nil {
					assert.ErrorContains(t, err, "this rig cannot have it")
					continue
				}
				ends[played.End] = true
				assert.NotEmpty(t, played.Says)
				assert.NotEmpty(t, played.Events)
				for _, e := range played.Events {
					assert.NotEmpty(t, e.What)
					assert.NotEmpty(t, e.Seen)
					if e.Rule != "" && slices.ContainsFunc(report.Findings, func(f finding.Finding) bool { return f.Rule == e.Rule }) {
						assert.True(
							t, slices.ContainsFunc(played.Findings, func(f finding.Finding) bool { return f.Rule == e.Rule }), e.Rule,
						)
					}
				}
			}
		}
	}
	for end := range ends {
		assert.Contains(
			t,
			[]string{
				bringup.DoNot, bringup.Apart, bringup.AsPlanned, bringup.BelowPlan, bringup.NoLink, bringup.NoStart, bringup.NoPicture,
				bringup.Trips, bringup.IsHot,
			},
			end,
		)
	}
	assert.GreaterOrEqual(t, len(ends), 5, "%v", ends)
}

// TestTheWayBackTakesEverythingBack: what a step put in comes out, the last first, what is
// for good is marked, and nothing is taken out while it is running.
func TestTheWayBackTakesEverythingBack(t *testing.T) {
	ref := coretest.Tables(t)
	rigs, err := demo.Rigs()
	require.NoError(t, err)
	for _, r := range rigs {
		report := bringup.ReportOf(r, ref)
		back := map[string]int{}
		for i, s := range report.Back {
			back[s.ID] = i
			assert.Equal(t, s.Permanent, strings.HasPrefix(s.Do, "Cannot be undone: "), s.Do)
		}
		off, some := back["back-power-off"]
		require.True(t, some, r.Name)
		last := len(report.Back)
		for _, s := range report.Steps {
			switch at, there := back["back-"+s.ID]; {
			case s.Permanent:
				assert.Contains(t, back, "stays-"+s.ID, r.Name)
			case s.Undo == "":
			case s.ID == "install-driver":
				assert.Less(t, at, off, "while it still runs")
			default:
				require.True(t, there, "%s: %s is not taken back", r.Name, s.ID)
				assert.Greater(t, at, off, s.ID)
				if s.Place != bringup.System && s.Place != bringup.Firmware {
					assert.Less(t, at, last, "%s: %s", r.Name, s.ID)
					last = at
				}
			}
		}
	}
}
