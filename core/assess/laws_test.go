package assess_test

import (
	"slices"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"kolvan/core/assess"
	"kolvan/core/bringup"
	"kolvan/core/coretest"
	"kolvan/core/finding"
	"kolvan/core/rig"
)

// The laws hold for every rig; they are tried on the rigs of the rule cases,
// changed at random.

// badAt are the dangers and blocks of a report by rule and place.
func badAt(report *assess.Report) map[[2]string]finding.Level {
	bad := map[[2]string]finding.Level{}
	for _, f := range report.Findings {
		if f.Level >= finding.Blocked {
			bad[[2]string{f.Rule, f.Where}] = f.Level
		}
	}
	return bad
}

// anyCase draws one of the rigs of the rule cases.
func anyCase(t *rapid.T, tt *testing.T) *rig.Rig {
	of := rapid.SampledFrom(ruleCases).Draw(t, "rule")
	c := rapid.SampledFrom(of.cases).Draw(t, "case")
	return whole(tt, "["+c.patch+"]")
}

// forgettable lists the told facts of a rig whose absence stands for nothing but
// not knowing: a fact that counts as something unless told, and a measured draw,
// which may end a worst case, are left aside.
func forgettable(r *rig.Rig) (paths []string) {
	rig.Walk(r, func(n rig.Node) {
		measured := strings.HasSuffix(n.Path(), "/slot_w") || strings.Contains(n.Path(), "/plugs/") && strings.HasSuffix(n.Path(), "power_w")
		// Where a lead's own connector is not told it is taken to be its socket's like.
		connector := strings.HasPrefix(n.Path(), "/leads/") && strings.HasSuffix(n.Path(), "/connector")
		if !n.List && n.Spec.Fact && n.Known() && n.Spec.Else == "" && !measured && !connector {
			paths = append(paths, n.Path())
		}
	})
	return paths
}

// TestTheTruthSilencesNoCertainDanger: what is dangerous or impossible while a
// fact is missing is so when the fact is told.
func TestTheTruthSilencesNoCertainDanger(t *testing.T) {
	ref := coretest.Tables(t)
	rapid.Check(t, func(rt *rapid.T) {
		r := anyCase(rt, t)
		full := assess.Rig(r, ref)
		told := badAt(&full)
		paths := forgettable(r)
		path := rapid.SampledFrom(paths).Draw(rt, "forgotten")
		if err := rig.Set(r, path, ""); err != nil {
			return
		}
		partial := assess.Rig(r, ref)
		for at, level := range badAt(&partial) {
			if was, said := told[at]; !said || was < level {
				rt.Fatalf("without %s, %v is %v; with it, %v", path, at, level, full.Findings)
			}
		}
	})
}

// TestOneMoreLeadEndsNoDanger: a lead from another supply into what is in danger
// never leaves the rig without a danger.
func TestOneMoreLeadEndsNoDanger(t *testing.T) {
	ref := coretest.Tables(t)
	rapid.Check(t, func(rt *rapid.T) {
		r := anyCase(rt, t)
		report := assess.Rig(r, ref)
		worst, _ := report.Worst()
		if worst != finding.Danger || len(r.Route.Stages) == 0 {
			return
		}
		stage := &r.Route.Stages[len(r.Route.Stages)-1]
		connector := rapid.SampledFrom([]rig.Connector{
			"barrel", "card-8", "card-6", "peripheral-4", "disk-15", "main-24", "cpu-8",
		}).Draw(rt, "plug")
		more := rig.Supply{Name: "one more", Kind: rig.Of(rig.Brick), Outlets: []rig.Outlet{{Name: "out", Connector: rig.Of(connector)}}}
		stage.Inlets = append(stage.Inlets, rig.Inlet{Name: "one more", Connector: rig.Of(connector)})
		to := rig.LeadEnd{Part: stage.Name, At: "one more"}
		if len(r.Card.Plugs) > 0 && rapid.Bool().Draw(rt, "card") {
			to = rig.LeadEnd{Part: rig.CardPart, At: r.Card.Plugs[0].Name}
		}
		r.Supplies = append(r.Supplies, more)
		r.Leads = append(
			r.Leads, rig.Lead{Name: "one more lead", From: []rig.LeadEnd{{Part: "one more", At: "out"}}, To: []rig.LeadEnd{to}},
		)
		require.NoError(t, rig.Validate(r))
		after := assess.Rig(r, ref)
		if worst, _ := after.Worst(); worst < finding.Blocked {
			rt.Fatalf("one more lead leaves %v of %v", after.Findings, report.Findings)
		}
	})
}

// TestWhatWasMeasuredChangesNoPhysics: runs are held against each other and against the plan;
// whatever they say, nothing moves in the verdict but what is said of uses and of the runs
// themselves, and that stops nothing.
func TestWhatWasMeasuredChangesNoPhysics(t *testing.T) {
	ref := coretest.Tables(t)
	rapid.Check(t, func(rt *rapid.T) {
		r := anyCase(rt, t)
		r.Runs = nil
		without := assess.Rig(r, ref)
		for i := range rapid.IntRange(1, 6).Draw(rt, "runs") {
			run := rig.Run{Name: strconv.Itoa(i), Use: rapid.SampledFrom([]string{"", "stacking"}).Draw(rt, "use")}
			if rapid.Bool().Draw(rt, "told") {
				run.Side = rig.Of(rapid.SampledFrom([]rig.RunSide{"before", "after", "elsewhere"}).Draw(rt, "side"))
				run.Average, run.Frames = rig.Of(rapid.Float64Range(0, 1000).Draw(rt, "hz")), rig.Of(rapid.IntRange(0, 5000).Draw(rt, "frames"))
			}
			if rapid.Bool().Draw(rt, "sized") {
				run.Width, run.Cap, run.Gen = rig.Of(rapid.IntRange(1, 4).Draw(rt, "width")), rig.Of(60.0), rig.Of(rapid.IntRange(1, 6).Draw(rt, "gen"))
			}
			r.Runs = append(r.Runs, run)
		}
		with := assess.Rig(r, ref)
		spoken := func(f finding.Finding) bool {
			return strings.HasPrefix(f.Rule, "proof.") || f.Rule == "work.gain" || f.Rule == "brief.matched"
		}
		physics, before := slices.DeleteFunc(slices.Clone(with.Findings), spoken), slices.DeleteFunc(slices.Clone(without.Findings), spoken)
		require.Equal(rt, len(before), len(physics))
		for i := range physics {
			require.Equal(
				rt, [3]any{before[i].Rule, before[i].Level, before[i].Says},
				[3]any{physics[i].Rule, physics[i].Level, physics[i].Says},
			)
		}
		for _, f := range with.Findings {
			require.True(rt, !spoken(f) || f.Level <= finding.Risk, f.Rule)
		}
	})
}

// TestTheEveningIsTheVerdictPlayed: what harms or stops for certain never rehearses as
// working, and an evening that always fails has its finding in the verdict.
func TestTheEveningIsTheVerdictPlayed(t *testing.T) {
	ref := coretest.Tables(t)
	ends := map[string]bool{}
	for _, of := range ruleCases {
		for _, c := range of.cases {
			r := whole(t, "["+c.patch+"]")
			report := assess.Rig(r, ref)
			w := bringup.Of(r, ref, report.Findings)
			worst, weak := finding.Nothing, false
			for i := range report.Findings {
				worst = max(worst, report.Findings[i].Bite().Effect)
				weak = weak || report.Findings[i].Level >= finding.Risk
			}
			works := 0
			for seed := range uint64(5) {
				played := bringup.Rehearse(w, bringup.MeantOrder(r, bringup.OrdersOf(r, ref)), seed, nil)
				ends[played.End] = true
				if played.Works() {
					works++
				}
				assert.Equal(t, worst >= finding.Burn, played.End == bringup.DoNot, "%s: %s: %s", of.rule, c.why, played.End)
				assert.Equal(t, worst == finding.StayApart, played.End == bringup.Apart, "%s: %s: %s", of.rule, c.why, played.End)
				end, _ := w.Forbids() // what clock, finder and sheet say
				assert.Equal(t, end != "", played.End == bringup.DoNot || played.End == bringup.Apart, "%s: %s: %s", of.rule, c.why, end)
				assert.True(t, end == "" || end == played.End, "%s: %s: %s", of.rule, c.why, end)
			}
			assert.False(t, worst >= finding.Stop && works > 0, "%s: %s", of.rule, c.why)
			assert.True(t, works > 0 || weak, "%s: %s fails and nothing says why", of.rule, c.why)
		}
	}
	assert.Len(t, ends, 9, "every end there is: %v", ends)
}

// TestNoEveningContradictsItsVerdict, whatever of a plan is forgotten and whatever the dice.
func TestNoEveningContradictsItsVerdict(t *testing.T) {
	ref := coretest.Tables(t)
	rapid.Check(t, func(rt *rapid.T) {
		r := anyCase(rt, t)
		for range rapid.IntRange(0, 4).Draw(rt, "forgets") {
			_ = rig.Set(r, rapid.SampledFrom(forgettable(r)).Draw(rt, "forgotten"), "") // what a rig cannot do without stays
		}
		report := assess.Rig(r, ref)
		w := bringup.Of(r, ref, report.Findings)
		worst := finding.Nothing
		for i := range report.Findings {
			worst = max(worst, report.Findings[i].Bite().Effect)
		}
		order := bringup.MeantOrder(r, bringup.OrdersOf(r, ref))
		played := bringup.Rehearse(w, order, rapid.Uint64().Draw(rt, "seed"), nil)
		if worst >= finding.Burn != (played.End == bringup.DoNot) || worst == finding.StayApart != (played.End == bringup.Apart) ||
			worst >= finding.Stop && played.Works() {
			rt.Fatalf("%v is played as %q", report.Findings, played.End)
		}
	})
}

// TestEveryLevelSaysWhatItDoes to the evening, save a note and a question, in words that the
// model of the evening knows.
func TestEveryLevelSaysWhatItDoes(t *testing.T) {
	for _, r := range append(assess.Rules(), bringup.Rules()...) {
		for _, level := range r.Levels {
			bite, told := r.Evening[level]
			assert.Equal(t, level != finding.Note && level != finding.Unknown, told, "%s %s", r.Name, level)
			assert.Equal(t, level == finding.Danger, bite.Effect >= finding.Burn, "%s %s: a danger harms", r.Name, level)
			assert.NoError(t, bringup.Known(bite.Plays), r.Name)
		}
		for level := range r.Evening {
			assert.True(t, r.Levels.Has(level), "%s %s", r.Name, level)
		}
	}
}
