package why_test

import (
	"math"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kolvan/core/assess"
	"kolvan/core/coretest"
	"kolvan/core/finding"
	"kolvan/core/rig"
	"kolvan/core/units"
	"kolvan/core/why"
)

// plans are the demo's, and the same with facts told only roughly or not at all.
func plans(t testing.TB) map[string]*rig.Rig {
	files, err := filepath.Glob("../../demo/rigs/*.json")
	require.NoError(t, err)
	all := map[string]*rig.Rig{}
	for _, name := range files {
		short := strings.TrimSuffix(filepath.Base(name), ".json")
		r := coretest.Demo(t, short)
		all[short] = r
		for at, typed := range map[string]string{
			"/card/power_w": "", "/host/power_w": "", "/card/power_w/tolerance": "15", "/route/stages/0/length_mm": "", "/supplies/0/wall_w": "400",
			"/route/stages/2/makes_3v3_from_12v": "", "/card/cap_w": "60",
		} {
			if changed, err := rig.With(r, at, typed); err == nil {
				all[short+" "+at+" "+typed] = changed
			}
		}
	}
	return all
}

// The law: the terms of a figure, worked out unrounded, come to what the report prints.
func TestTheTermsComeToTheFigure(t *testing.T) {
	ref := coretest.Tables(t)
	opened := 0
	for name, r := range plans(t) {
		report, open := assess.Rig(r, ref), why.Opener(r, ref)
		for _, key := range why.Keys(r, ref) {
			tree, err := open(key)
			require.NoError(t, err, "%s: %s", name, key)
			whole := why.Term{Op: tree.Op, Terms: tree.Terms}
			switch {
			case tree.Low != nil:
				holds(t, name+": "+key, tree.Low)
				holds(t, name+": "+key, tree.High)
				assert.InDelta(t, *tree.Range[0], tree.Low.Worked(), within(*tree.Range[0]), "%s: %s", name, key)
				assert.InDelta(t, *tree.Range[1], tree.High.Worked(), within(*tree.Range[1]), "%s: %s", name, key)
			case tree.Value != nil && plain(tree.Op) && len(tree.Terms) > 0:
				assert.InDelta(t, *tree.Value, whole.Worked(), within(*tree.Value), "%s: %s", name, key)
			}
			for i := range tree.Terms {
				holds(t, name+": "+key, &tree.Terms[i])
			}
			if b, told := report.Bounds.Of(key); told && !b.Open && !b.Below {
				opened++
				low, high := ends(tree)
				assert.InDelta(t, b.Low, low, within(b.Low), "%s: %s", name, key)
				assert.InDelta(t, b.High, high, within(b.High), "%s: %s", name, key)
			}
		}
	}
	assert.Greater(t, opened, 200)
}

func plain(op why.Op) bool { return op != why.Formula && op != why.Table && op != why.Fact }

// within is what rounding to the digits of a report may make of a figure.
func within(v float64) float64 {
	return math.Max(1e-9, math.Abs(v)*math.Pow10(1-units.ReportDigits))
}

func ends(t *why.Tree) (low, high float64) {
	if t.Range != nil {
		return *t.Range[0], *t.Range[1]
	}
	return *t.Value, *t.Value
}

// holds checks a term and all below it.
func holds(t *testing.T, name string, term *why.Term) {
	if plain(term.Op) && len(term.Terms) > 0 {
		assert.InDelta(t, term.Value, term.Worked(), math.Max(1e-6, math.Abs(term.Value)*1e-9), "%s: %s", name, term.Name)
	}
	for i := range term.Terms {
		holds(t, name, &term.Terms[i])
	}
}

func of(t *testing.T, rigName, key string) *why.Tree {
	tree, err := why.Of(plans(t)[rigName], coretest.Tables(t), key)
	require.NoError(t, err)
	return tree
}

// The stacker's load as it is written by hand beside it.
func TestTheStackersLoadIsCardAndWhatTheDockLoses(t *testing.T) {
	tree := of(t, "dome_shed_stacker", "power.sustained_w")
	whole := why.Term{Op: tree.Op, Terms: tree.Terms}
	assert.Equal(t, "160 + 9.9 × (1 ÷ 0.88 − 1)", whole.Line())
	board := tree.Terms[0]
	assert.Equal(t, why.Share, board.Op)
	assert.Equal(t, []float64{75, 85}, []float64{board.Terms[0].Value, board.Terms[1].Value}, "one state, never 75 with 115")
	require.NotEmpty(t, tree.Weighs)
	assert.Equal(t, "/card/power_w", tree.Weighs[0].At)
}

func TestAFindingOpensIntoThePlansOwnSum(t *testing.T) {
	for key, line := range map[string]string{
		"power.slot-limit": "the least of 160, 66", "power.connector": "75 + 1.35",
	} {
		tree := of(t, "dome_shed_stacker", key)
		whole := why.Term{Op: tree.Op, Terms: tree.Terms}
		assert.Equal(t, line, whole.Line(), key)
		assert.InDelta(t, 54, *tree.Threshold.Value, 1e-9, key)
		assert.Equal(t, "danger", tree.Threshold.Level)
	}
}

func TestARangeSaysWhatItHangsOn(t *testing.T) {
	tree := of(t, "dome_shed_stacker /route/stages/0/length_mm ", "link.margin_db")
	require.NotNil(t, tree.Range)
	assert.Less(t, *tree.Range[0], *tree.Range[1])
	assert.Greater(t, len(tree.Low.Terms), 5)
}

func TestAFactIsItsOwn(t *testing.T) {
	tree := of(t, "dome_shed_stacker", "/card/power_w")
	assert.Equal(t, why.Fact, tree.Op)
	assert.InDelta(t, 160, *tree.Value, 1e-9)
}

func TestWhatIsNoFigureIsSaid(t *testing.T) {
	for _, asked := range []string{"power.nothing", "/card/nothing", "power.supplies/Nobody/share", "fit.gap_mm"} {
		_, err := why.Of(plans(t)["dome_shed_stacker"], coretest.Tables(t), asked)
		var none *why.NoFigure
		require.ErrorAs(t, err, &none, asked)
		assert.Contains(t, err.Error(), asked)
		assert.Contains(t, err.Error(), "power.sustained_w")
	}
}

// Every rule that says a figure opens, wherever it fires.
func TestEveryFindingOpens(t *testing.T) {
	ref := coretest.Tables(t)
	for name, r := range plans(t) {
		report, open := assess.Rig(r, ref), why.Opener(r, ref)
		for _, f := range report.Findings {
			if f.Level == finding.Unknown || len(f.Numbers) == 0 {
				continue
			}
			tree, err := open(f.Rule + "@" + f.Where)
			require.NoError(t, err, name)
			assert.InDelta(t, f.Numbers[0].Value, *tree.Value, within(f.Numbers[0].Value), "%s: %s", name, f.Rule)
		}
	}
}

func BenchmarkWhy(b *testing.B) {
	r, ref := plans(b)["stacker_built"], coretest.Tables(b)
	for b.Loop() {
		if _, err := why.Of(r, ref, "power.sustained_w"); err != nil {
			b.Fatal(err)
		}
	}
}
