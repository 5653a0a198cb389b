package assess_test

import (
	"encoding/json"
	"os"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"kolvan/core/assess"
	"kolvan/core/coretest"
	"kolvan/core/finding"
	"kolvan/core/rig"
)

// leaves lists the pointers of all facts of the whole rig that may be unknown.
func leaves(t testing.TB) []string {
	var list []string
	rig.Walk(whole(t, ""), func(n rig.Node) {
		if n.Spec.Fact && n.Known() {
			list = append(list, n.Path())
		}
	})
	require.Greater(t, len(list), 80)
	return list
}

// TestWhatIsForgottenIsUnknown forgets any facts of the whole rig. Nothing
// breaks; a figure is a number just where its two ends agree; what was quiet does
// not turn into a claim; every finding points into the file.
func TestWhatIsForgottenIsUnknown(t *testing.T) {
	ref, facts := coretest.Tables(t), leaves(t)
	doc, err := os.ReadFile("testdata/whole.json")
	require.NoError(t, err)
	rapid.Check(t, func(t *rapid.T) {
		r, err := rig.Decode(doc)
		require.NoError(t, err)
		forgotten := rapid.SliceOfNDistinct(rapid.SampledFrom(facts), 1, 12, rapid.ID).Draw(t, "forgotten")
		for _, path := range forgotten {
			require.NoError(t, rig.Set(r, path, ""))
		}
		report := assess.Rig(r, ref)
		for _, f := range report.Findings {
			if f.Level >= finding.Blocked {
				t.Fatalf("nothing is known to be wrong, yet: %+v", f)
			}
			parent := f.Where[:strings.LastIndex(f.Where, "/")]
			if _, _, err := rig.At(r, parent); err != nil {
				t.Fatalf("%s points outside the file: %s", f.Rule, f.Where)
			}
		}
		for name, figure := range figuresOf(t, report.Figures) {
			ends, there := report.Bounds.Of(name)
			agree := !ends.Open && ends.Low == ends.High
			if there && agree != (figure != nil) {
				t.Fatalf("%s is %v, its ends %v; forgotten: %v", name, figure, ends, forgotten)
			}
		}
	})
}

// figuresOf are the figures by name; nil for one that is not known.
func figuresOf(t *rapid.T, figures assess.Figures) map[string]any {
	text, err := json.Marshal(figures)
	require.NoError(t, err)
	var values map[string]any
	require.NoError(t, json.Unmarshal(text, &values))
	return values
}

func TestAcknowledgedStaysInView(t *testing.T) {
	ref := coretest.Tables(t)
	trouble := set("/supplies/1/turn_on", `"none"`)
	answer := set("/acknowledged", `[{"rule":"power.turn-on","where":"/supplies/1","reason":"a friend brings the board"}]`)
	report := assess.Rig(whole(t, "["+trouble+","+answer+"]"), ref)
	require.NotEmpty(t, report.Findings)
	assert.Equal(t, "a friend brings the board", report.Findings[0].Acknowledged)
	assert.True(t, report.Stops(), "answered for, not gone")
}

func TestWorstStandsFirst(t *testing.T) {
	report := assess.Rig(whole(t, "["+all(
		set("/card/lanes", "16"), set("/supplies/1/turn_on", `"none"`), drop("/card/encoders"), set("/brief/budget", "1"), boardPower("300"),
	)+"]"), coretest.Tables(t))
	var levels []finding.Level
	for _, f := range report.Findings {
		levels = append(levels, f.Level)
	}
	assert.IsNonIncreasing(t, levels)
	assert.Equal(t, finding.Danger, levels[0])
	assert.Equal(t, finding.Note, levels[len(levels)-1])
}
