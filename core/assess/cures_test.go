package assess_test

import (
	"slices"
	"testing"

	jsonpatch "github.com/evanphx/json-patch/v5"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"kolvan/core/assess"
	"kolvan/core/coretest"
	"kolvan/core/finding"
	"kolvan/core/rig"
	"kolvan/demo"
	_ "kolvan/internal/oneseed"
)

// count counts what a report says at a level or worse, steps aside.
func count(report *assess.Report, level finding.Level) (n int) {
	for _, f := range report.Findings {
		if f.Level >= level && f.Level != finding.Unknown && !f.Row().Step {
			n++
		}
	}
	return n
}

// TestEveryCureCures: each change that is offered for any of the rule cases, applied to
// the file and judged again, ends what it was offered for, brings in nothing as bad, and
// leaves no more of anything that forbids going on.
func TestEveryCureCures(t *testing.T) {
	ref, bins := coretest.Tables(t), stock(t)
	offered := 0
	rapid.Check(t, func(rt *rapid.T) {
		r := anyCase(rt, t)
		report := assess.Rig(r, ref)
		require.NoError(t, assess.Clear(t.Context(), &report, r, ref, bins, assess.UsualEffort))
		before := badAt(&report)
		for _, f := range report.Findings {
			for _, change := range f.Clear {
				offered++
				changed, after := patched(t, r, change.Patch)
				if !changed.Holds() {
					rt.Fatalf("%s is no rig file any more", change.Change)
				}
				for at, level := range badAt(&after) {
					if was, known := before[at]; (!known || was < level) && level >= f.Level {
						rt.Fatalf("%s, offered for %s (%v), brings in %v at %v", change.Change, f.Rule, f.Level, level, at)
					}
				}
				for _, a := range after.Findings {
					had := slices.ContainsFunc(report.Findings, func(b finding.Finding) bool { return b.Rule == a.Rule })
					if !had && a.Level >= finding.Risk && a.Level != finding.Unknown && !a.Row().Step && !slices.Contains(change.Worsens, a.Title) {
						rt.Fatalf("%s, offered for %s, does not tell that it brings in %s", change.Change, f.Rule, a.Title)
					}
				}
				same := 0
				for _, a := range after.Findings {
					if a.Rule == f.Rule && a.Level >= f.Level && a.Where == f.Where {
						same++
					}
				}
				if same > 0 {
					rt.Fatalf("%s does not end %s at %s", change.Change, f.Rule, f.Where)
				}
				if count(&after, finding.Blocked) > count(&report, finding.Blocked) {
					rt.Fatalf("%s leaves more that forbids going on", change.Change)
				}
			}
		}
	})
	require.Positive(t, offered, "some draw has a change to offer")
}

// TestPatchIsTheDifference: of any two rigs, the patch makes the one file of the other.
func TestPatchIsTheDifference(t *testing.T) {
	rapid.Check(t, func(rt *rapid.T) {
		from, to := anyCase(rt, t), anyCase(rt, t)
		patch, err := rig.PatchOf("", from, to)
		require.NoError(rt, err)
		was, err := rig.Encode(from)
		require.NoError(rt, err)
		wanted, err := rig.Encode(to)
		require.NoError(rt, err)
		is, err := jsonpatch.DecodePatch(patch)
		require.NoError(rt, err)
		made, err := is.Apply(was)
		require.NoError(rt, err, "%s", patch)
		require.JSONEq(rt, string(wanted), string(made), "%s", patch)
	})
}

// TestChoicesAreRigFiles: every supply, card and place that is offered for any case is
// a rig file still, and a place is where it says.
func TestChoicesAreRigFiles(t *testing.T) {
	ref, bins := coretest.Tables(t), stock(t)
	rapid.Check(t, func(rt *rapid.T) {
		r := anyCase(rt, t)
		report := assess.Rig(r, ref)
		supplies, err := assess.SupplyChoices(t.Context(), &report, r, ref, bins, 6)
		require.NoError(t, err)
		cards, err := assess.CardChoices(t.Context(), &report, r, ref, bins, 6)
		require.NoError(t, err)
		for _, c := range append(supplies, cards...) {
			if changed, after := patched(t, r, c.Change.Patch); c.Free() {
				for _, f := range after.Findings {
					if f.Level >= finding.Blocked && f.Rule == "power.total" && changed.Card.Name == r.Card.Name {
						rt.Fatalf("%s is said to carry the plan: %s", c.Name, f.Says)
					}
				}
			}
		}
		places, err := assess.Places(r, ref)
		require.NoError(t, err)
		for i := range places {
			changed, _ := patched(t, r, places[i].Change.Patch)
			if d := changed.NewHome(places[i].Home.Occupant); d == nil || d.Home != places[i].Home.Home || d.Slot != places[i].Home.Slot {
				rt.Fatalf("%v was to go to %v", d, places[i].Home)
			}
		}
	})
}

// TestASoundRigAsksLittle: of a rig whose decisive facts are told at most three are
// asked, none twice, and each says what its answers bring.
func TestASoundRigAsksLittle(t *testing.T) {
	ref := coretest.Tables(t)
	rigs, err := demo.Rigs()
	require.NoError(t, err)
	for _, r := range append(rigs, whole(t, "[]")) {
		report := assess.Rig(r, ref)
		require.NoError(t, assess.Ask(t.Context(), &report, r, ref))
		require.LessOrEqual(t, len(report.Questions), 3, r.Name)
		seen := map[string]bool{}
		for _, q := range report.Questions {
			require.False(t, seen[q.Fact], q.Fact)
			seen[q.Fact] = true
			require.NotEmpty(t, q.Answers, q.Fact)
			require.NotEmpty(t, q.How, q.Fact)
			_, _, err := rig.At(r, q.Fact)
			require.NoError(t, err, "a question points at a field of the file")
		}
	}
}
