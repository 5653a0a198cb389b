package assess_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"kolvan/core/assess"
	"kolvan/core/coretest"
	"kolvan/core/finding"
	"kolvan/core/rig"
)

// TestTheTruthEndsNothingCertain: whatever is certain while facts are missing is so when all
// are told, of the same rule and part or worse in its family, which may say it elsewhere.
func TestTheTruthEndsNothingCertain(t *testing.T) {
	ref := coretest.Tables(t)
	rapid.Check(t, func(rt *rapid.T) {
		r := anyCase(rt, t)
		full := assess.Rig(r, ref)
		told := map[[2]string]finding.Level{}
		for _, f := range full.Findings {
			if f.Level != finding.Unknown {
				told[[2]string{f.Rule, f.Where}] = max(told[[2]string{f.Rule, f.Where}], f.Level)
			}
		}
		var gone []string
		for range rapid.IntRange(1, 5).Draw(rt, "n") {
			path := rapid.SampledFrom(forgettable(r)).Draw(rt, "forgotten")
			if rig.Set(r, path, "") != nil {
				return
			}
			gone = append(gone, path)
		}
		if !r.Holds() {
			return
		}
		partial := assess.Rig(r, ref)
		for _, f := range partial.Findings {
			if f.Level == finding.Unknown || f.Level == finding.Note {
				continue
			}
			worst := finding.Note
			for at, level := range told {
				same := at[0] == f.Rule && (rig.Within(f.Where, at[1]) || rig.Within(at[1], f.Where) || f.Rule == "link.width")
				if same || level > f.Level && family(at[0]) == family(f.Rule) {
					worst = max(worst, level)
				}
			}
			if worst < f.Level {
				rt.Fatalf("without %v: %s %s at %s: %s\nwith them: %v", gone, f.Rule, f.Level, f.Where, f.Says, told)
			}
		}
	})
}

func family(rule string) string { name, _, _ := strings.Cut(rule, "."); return name }

// TestAnAnswerEndsItsQuestion: whatever is answered, as measured, is not asked for again.
func TestAnAnswerEndsItsQuestion(t *testing.T) {
	ref := coretest.Tables(t)
	rapid.Check(t, func(rt *rapid.T) {
		r := anyCase(rt, t)
		report := assess.Rig(r, ref)
		require.NoError(rt, assess.Ask(t.Context(), &report, r, ref))
		for _, q := range report.Questions {
			for _, a := range q.Answers {
				first, _, _ := strings.Cut(a.If, ", ")
				told, err := rig.With(r, q.Fact, first)
				if err != nil || !told.Holds() || a.If == "it is told" {
					continue
				}
				_ = rig.Set(told, q.Fact+"/source", string(rig.Measured)) // where it has one
				_ = rig.Set(told, q.Fact+"/tolerance", "0")
				after := assess.Rig(told, ref)
				for _, f := range after.Findings {
					if f.Level == finding.Unknown && f.Where == q.Fact {
						rt.Fatalf("%s is %s, and asked for again: %s", q.Fact, first, f.Says)
					}
				}
			}
		}
	})
}
