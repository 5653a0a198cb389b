package assess_test

import (
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/go-json-experiment/json"
	"github.com/go-json-experiment/json/jsontext"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kolvan/core/assess"
	"kolvan/core/bringup"
	"kolvan/core/coretest"
	"kolvan/core/ledger"
	madeparts "kolvan/core/made"
	"kolvan/core/parts"
	"kolvan/core/proof"
	"kolvan/core/rig"
	"kolvan/core/ways"
	"kolvan/demo"
)

// TestWholeDemo holds all that is said and worked out of each demo rig, at every station, to
// testdata/demo, which KOLVAN_UPDATE=1 writes anew, to be read before it is kept.
func TestWholeDemo(t *testing.T) {
	rigs, err := demo.Rigs()
	require.NoError(t, err)
	for _, r := range rigs {
		t.Run(r.Name, func(t *testing.T) {
			got, err := json.Marshal(wholeOf(t, r), jsontext.WithIndent(" "), json.Deterministic(true))
			require.NoError(t, err)
			golden := filepath.Join("testdata", "demo", strings.ReplaceAll(strings.ToLower(r.Name), " ", "_")+".json")
			if os.Getenv("KOLVAN_UPDATE") != "" {
				require.NoError(t, os.WriteFile(golden, append(got, '\n'), 0o600))
			}
			want, err := os.ReadFile(golden)
			require.NoError(t, err)
			assert.Equal(t, strings.Split(string(want), "\n"), strings.Split(string(got)+"\n", "\n"))
		})
	}
}

// wholeOf is what each station says of a rig, by its name.
func wholeOf(t *testing.T, r *rig.Rig) map[string]any {
	ref := coretest.Tables(t)
	list, err := parts.Builtin()
	require.NoError(t, err)
	bins, err := parts.Bins(list)
	require.NoError(t, err)
	report := assess.Rig(r, ref)
	net := report.Link.NetEnds
	whole := map[string]any{
		"loads": loadsOf(&report), "steps": bringup.ReportOf(r, ref), "ledger": ledger.ReportOf(r, proof.Link{Net: net, Ref: ref}),
	}
	require.NoError(t, assess.Ask(t.Context(), &report, r, ref))
	require.NoError(t, assess.Clear(t.Context(), &report, r, ref, bins, assess.UsualEffort))
	whole["report"] = report
	places, err := assess.Places(r, ref)
	require.NoError(t, err)
	whole["places"] = places
	w := bringup.Of(r, ref, report.Findings)
	orders := bringup.OrdersOf(r, ref)
	for seed := range uint64(3) {
		whole[fmt.Sprint("evening ", seed)] = bringup.Rehearse(w, bringup.MeantOrder(r, orders), seed, nil)
	}
	cat, err := bringup.Load()
	require.NoError(t, err)
	whole["search"] = bringup.NewFinder(w, cat, 1).Search(bringup.SeenOf(r, cat))
	things, err := madeparts.For(r, ref)
	require.NoError(t, err)
	whole["made"] = things
	for i := range r.Brief.Works {
		whole["expects "+r.Brief.Works[i].Name] = proof.ExpectOf(
			r, &r.Brief.Works[i], proof.Link{Net: net, Ref: ref},
			proof.Ratios{Card: [2]float64{1.5, 2}, Processor: [2]float64{0.9, 1.1}, Pixels: [2]float64{1, 2}},
		)
	}
	answer, err := ways.Search(t.Context(), ways.Question{Rig: r, Parts: bins, Effort: 2_000_000}, ref)
	require.NoError(t, err)
	answer.Seconds = 0
	whole["ways"] = answer
	return whole
}

// loadsOf are the currents and the losses behind the verdict.
func loadsOf(report *assess.Report) (lines []string) {
	for i := range report.Power.Leads {
		lead := &report.Power.Leads[i]
		lines = append(lines, fmt.Sprintf("lead %d: %.4g at %.3g V, carries %.4g", i, lead.Load, float64(lead.Volts), lead.Carries))
		for _, ends := range [][]int{{0, len(lead.From)}, {1, len(lead.To)}} {
			for j := range ends[1] {
				e := &lead.To[min(j, len(lead.To)-1)]
				if ends[0] == 0 {
					e = &lead.From[j]
				}
				contact, _ := report.Power.Contact(e)
				lines = append(
					lines, fmt.Sprintf(" %s: %.4g, fit %d, cap %.4g, contacts %v", e.Where(), e.Load, e.Fit, e.Cap.Rating, contact),
				)
			}
		}
	}
	for i := range report.Power.Supplies {
		s := &report.Power.Supplies[i]
		lines = append(
			lines,
			fmt.Sprintf(
				"supply %d: %.4g, card %.4g, idle %.4g, rails %.4g, bands %v", i, s.Load, s.Card, s.Idle, s.Rails,
				report.Power.Bands(i),
			),
		)
	}
	for g := 1; g <= 5; g++ {
		if m := report.Link.Margin(g); m != nil {
			lines = append(lines, fmt.Sprintf("gen %d: margin %.4g", g, m.Ends))
		}
	}
	return lines
}
