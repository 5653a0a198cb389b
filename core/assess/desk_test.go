package assess_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kolvan/core/assess"
	"kolvan/core/coretest"
	"kolvan/core/finding"
	"kolvan/core/rig"
	"kolvan/demo"
)

// fires are the rules that speak against a rig, with their places and figures.
func fires(findings []finding.Finding) (list []finding.Finding) {
	for _, f := range findings {
		if f.Level != finding.Note {
			list = append(list, finding.Finding{Rule: f.Rule, Level: f.Level, Where: f.Where, Numbers: slices.Clone(f.Numbers)})
		}
	}
	return list
}

// TestOneDeskForManyRigs: what the rig before has left behind changes no verdict, in
// whichever order rigs come, and a search hears of all that speaks against them.
func TestOneDeskForManyRigs(t *testing.T) {
	ref := coretest.Tables(t)
	rigs, err := demo.Rigs()
	require.NoError(t, err)
	for _, of := range ruleCases {
		for _, c := range of.cases {
			rigs = append(rigs, whole(t, "["+c.patch+"]"))
		}
	}
	judge := assess.Silently(ref)
	back := slices.Clone(rigs)
	slices.Reverse(back)
	for _, order := range [][]*rig.Rig{rigs, back} {
		for _, r := range order {
			want := fires(assess.Rig(r, ref).Findings)
			got := fires(judge(r))
			slices.SortStableFunc(got, func(a, b finding.Finding) int { return int(b.Level) - int(a.Level) })
			assert.Equal(t, want, got, r.Name)
		}
	}
}

// TestReportsStandAlone: a report is not touched by the rigs that are judged after it.
func TestReportsStandAlone(t *testing.T) {
	ref := coretest.Tables(t)
	rigs, err := demo.Rigs()
	require.NoError(t, err)
	var reports []assess.Report
	var before [][]finding.Finding
	for _, r := range rigs {
		report := assess.Rig(r, ref)
		reports = append(reports, report)
		kept := slices.Clone(report.Findings)
		for i := range kept {
			kept[i].Numbers = slices.Clone(kept[i].Numbers)
		}
		before = append(before, kept)
	}
	for _, r := range rigs {
		assess.Rig(r, ref)
	}
	for i := range reports {
		assert.Equal(t, before[i], reports[i].Findings)
		assert.Equal(t, assess.Rig(rigs[i], ref).Figures, reports[i].Figures)
	}
}
