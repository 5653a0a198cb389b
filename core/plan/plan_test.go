package plan_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kolvan/core/assess"
	"kolvan/core/coretest"
	"kolvan/core/finding"
	"kolvan/core/parts"
	"kolvan/core/plan"
	"kolvan/core/reference"
	"kolvan/core/rig"
	"kolvan/core/units"
)

func tables(t testing.TB) (*reference.Tables, *assess.Bins) {
	ref := coretest.Tables(t)
	list, err := parts.Builtin()
	require.NoError(t, err)
	bins, err := parts.Bins(list)
	require.NoError(t, err)
	return ref, bins
}

func search(t testing.TB, q plan.Question) *plan.Answer {
	ref, bins := tables(t)
	if q.Parts == nil {
		q.Parts = bins
	}
	a, err := plan.Search(t.Context(), q, ref)
	require.NoError(t, err)
	return a
}

// some are a few cards of the list, for searches that are to be quick.
func some(bins *assess.Bins, names ...string) *assess.Bins {
	few := *bins
	few.Cards = slices.DeleteFunc(slices.Clone(bins.Cards), func(c rig.Card) bool { return !slices.Contains(names, c.Name) })
	return &few
}

// 700 kr, live stacking, what the list has: several plans that none beats, one of them the
// stacker as it stands, mended.
func TestTheStackersBriefHasPlans(t *testing.T) {
	ref, bins := tables(t)
	budget := units.Money(700)
	r := coretest.Demo(t, "dome_shed_stacker")
	a := search(t, plan.Question{Rig: r, Budget: &budget, Parts: some(bins, "Tern 8G", "Auk 16G", "Wagtail 8G", "Corvane 8G", "Skua 20G")})
	assert.True(t, a.Complete)
	assert.Equal(t, "live stacking", a.Use)
	unbeaten, stands := 0, 0
	for i := range a.Plans {
		p := &a.Plans[i]
		assert.LessOrEqual(t, *p.Cost[0], 700.0, p.Card)
		assert.NotEqual(t, "Skua 20G", p.Card, "it alone costs more than the budget")
		assert.InDelta(t, 0.5, p.Certainty, 0.5, p.Card)
		assert.LessOrEqual(t, p.Expected[a.Use].Utmost[0], p.Expected[a.Use].Likely[0])
		assert.GreaterOrEqual(t, p.Expected[a.Use].Utmost[1], p.Expected[a.Use].Likely[1])
		report := assess.Rig(coretest.Patched(t, r, p.Patch), ref)
		assert.False(t, report.Stops(), "%s from %s", p.Card, p.From)
		assert.Equal(t, *p.Figures.Net, *report.Figures.Net, "the patch makes the plan that was judged")
		if p.BeatenBy == nil {
			unbeaten++
		}
		if p.Here {
			stands++
			assert.Equal(t, "Corvane 16G", p.Card)
			assert.Equal(t, "m2-a", p.From)
			assert.Empty(t, p.Exchange)
		} else {
			assert.NotEmpty(t, p.Exchange)
		}
	}
	require.NotEmpty(t, a.Stages)
	first := a.Stages[0]
	assert.Equal(t, "Corvane 8G", first.Card, "the cheapest that shows four lanes of Gen 3")
	assert.InDelta(t, 450, first.Then, 1e-9)
	begun := coretest.Patched(t, r, first.Patch)
	assert.Equal(t, a.Plans[first.For].Stages[0], begun.Route.Stages[0].Name, "the very same way")
	for _, p := range a.Purchases {
		assert.Positive(t, p.Price, p.Part)
		for _, i := range p.Plans {
			assert.Nil(t, a.Plans[i].BeatenBy)
		}
		assert.Subset(t, p.Plans, p.Alone)
	}
	assert.GreaterOrEqual(t, unbeaten, 5)
	assert.Equal(t, 1, stands)
}

// The bound that is used to leave cards out: with a budget there are just those plans of the
// search without one that it reaches.
func TestABudgetLeavesOutOnlyWhatItDoesNotReach(t *testing.T) {
	_, bins := tables(t)
	few := some(bins, "Tern 8G", "Wagtail 8G")
	r := coretest.Demo(t, "field_kit")
	r.Brief.Budget = rig.Fact[units.Money]{}
	best := func(a *plan.Answer, within float64) (most float64) {
		for i := range a.Plans {
			if p := &a.Plans[i]; *p.Cost[0] <= within {
				most = max(most, p.Expected[a.Use].Likely[1])
			}
		}
		return most
	}
	all := search(t, plan.Question{Rig: r, Parts: few})
	for _, budget := range []units.Money{100, 150, 250, 400} {
		a := search(t, plan.Question{Rig: r, Parts: few, Budget: &budget})
		assert.InDelta(t, best(all, float64(budget)), best(a, float64(budget)), 1e-9, "%v", budget)
	}
}

// A rig of which nothing but the brief is told takes the hosts that are given.
func TestABriefAloneIsPlannedWithTheHostsThatAreGiven(t *testing.T) {
	_, bins := tables(t)
	r := rig.New("Nothing yet")
	r.Brief.Works = []rig.Work{{Name: "live stacking", Kind: rig.Of(rig.UseKind("stack"))}}
	kinds := 0
	a := search(t, plan.Question{Rig: r, Hosts: []rig.Host{coretest.Demo(t, "dome_shed_stacker").Host}, Parts: some(bins, "Tern 8G",
		"Auk 16G"),
		Found: func([]plan.Plan) { kinds++ }})
	assert.Equal(t, 2, kinds, "the best so far is told after each card")
	require.NotEmpty(t, a.Plans)
	for i := range a.Plans {
		assert.Equal(t, "Cairn Small Desk", a.Plans[i].Host)
		assert.False(t, a.Plans[i].Here)
	}
	ended := search(t, plan.Question{Rig: r, Parts: some(bins, "Tern 8G", "Auk 16G"), Told: func(int, int) bool { return false }})
	assert.False(t, ended.Complete, "a search that is left ends with what there is")
	none := search(t, plan.Question{Rig: r, Parts: bins, Own: true})
	assert.Empty(t, none.Plans)
}

// What a fact decides is worth what is then expected, less what is expected now: of one card,
// whether the host starts from where its drive goes decides between four lanes and one.
func TestAFactThatDecidesIsFoundOutFirst(t *testing.T) {
	_, bins := tables(t)
	r := coretest.Demo(t, "dome_shed_stacker")
	r.Host.Slots[1].Lanes = rig.Of(1)
	a := search(t, plan.Question{Rig: r, Parts: some(bins)})
	require.NotEmpty(t, a.FindOut)
	f := a.FindOut[0]
	assert.Equal(t, "/route/displaced/0/proven", f.Fact)
	assert.Positive(t, f.Worth)
	assert.Positive(t, f.Minutes)
	assert.Equal(t, "Corvane 16G from m2-b, or Corvane 16G from m2-a", f.Between)
}

// The law of a mending: step after step nothing comes in that the end does not clear, and at
// the end nothing stops the plan and nothing certain is new.
func TestAMendingLeavesNothingThatStops(t *testing.T) {
	ref, bins := tables(t)
	for name, steps := range map[string]int{"dome_shed_stacker": 3, "projector_tower": 1, "stacker_built": 0} {
		r := coretest.Demo(t, name)
		before := assess.Rig(r, ref)
		list, err := plan.Mend(t.Context(), r, ref, bins)
		require.NoError(t, err)
		if steps == 0 {
			assert.Empty(t, list, name)
			continue
		}
		require.NotEmpty(t, list, name)
		for _, m := range list {
			assert.Len(t, m.Steps, steps, name)
			each := r
			for _, s := range m.Steps {
				each = coretest.Patched(t, each, s.Patch)
				assert.NotEmpty(t, s.Clears)
			}
			whole, err := rig.Encode(coretest.Patched(t, r, m.Patch))
			require.NoError(t, err)
			last, err := rig.Encode(each)
			require.NoError(t, err)
			assert.JSONEq(t, string(last), string(whole), "the steps come to the whole")
			after := assess.Rig(each, ref)
			assert.False(t, after.Stops(), name)
			for _, f := range after.Findings {
				if f.Level == finding.Risk {
					assert.True(
						t,
						slices.ContainsFunc(before.Findings, func(b finding.Finding) bool { return b.Rule == f.Rule }),
						"%s: %s came in",
						name,
						f.Rule,
					)
				}
			}
		}
	}
}

func BenchmarkPlan(b *testing.B) {
	ref, bins := tables(b)
	r := coretest.Demo(b, "dome_shed_stacker")
	for b.Loop() {
		if _, err := plan.Search(b.Context(), plan.Question{Rig: r, Parts: bins}, ref); err != nil {
			b.Fatal(err)
		}
	}
}
