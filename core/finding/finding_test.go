package finding_test

import (
	"fmt"
	"testing"

	"github.com/go-json-experiment/json"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kolvan/core/finding"
	"kolvan/core/units"
)

var rule = &finding.Rule{Name: "power.rail", Title: "Rail overloaded"}

func TestListSortsWorstFirstAndKeepsTheOrderWithin(t *testing.T) {
	var out finding.List
	for _, f := range []struct {
		level finding.Level
		where string
	}{
		{finding.Note, "/a"}, {finding.Risk, "/b"}, {finding.Danger, "/c"}, {finding.Risk, "/d"}, {finding.Blocked, "/e"},
		{finding.Unknown, "/f"},
	} {
		out.Add(rule, f.level, f.where, nil, "at %s", f.where)
	}
	var order string
	for _, f := range out.Sorted() {
		order += f.Where
	}
	assert.Equal(t, "/c/e/f/b/d/a", order)
}

// TestSentencesAreFmts: what is written by hand reads as fmt would have it.
func TestSentencesAreFmts(t *testing.T) {
	for _, c := range []struct {
		format string
		args   []any
	}{
		{
			"%s takes %v, %d of %v", []any{"It", units.Watt(74.25), 3, 4},
		}, {"a %.1f and %s", []any{1.25, "b"}}, {"100 %% of %s", []any{"it"}}, {"%v", []any{units.Money(4.5)}},
		{"plain", nil}, {"the last %s", []any{units.Share(0.5)}}, {"%s%s", []any{"a", units.Decibel(-3)}},
	} {
		var out finding.List
		out.Add(rule, finding.Note, "/", nil, "X: "+c.format, c.args...)
		assert.Equal(t, fmt.Sprintf("X: "+c.format, c.args...), out.Findings[0].Says)
	}
}

func TestNeedNamesFactWayAndStake(t *testing.T) {
	var out finding.List
	for range 3 {
		out.Need(rule, "/supplies/0/rails", "the rails", "Read its label.", "whether it carries its loads")
	}
	require.Len(t, out.Findings, 1, "one fact is asked for once by a rule")
	assert.Equal(t, "Not known: the rails. Read its label. It decides whether it carries its loads.", out.Findings[0].Says)
	assert.Equal(t, "The rails", out.Findings[0].Title)
}

func TestSilentListLeavesTheSentencesOut(t *testing.T) {
	out := finding.List{Silent: true}
	out.Add(rule, finding.Risk, "/a", nil, "%d W", 5)
	f := &out.Findings[0]
	assert.Equal(t, [4]any{"power.rail", finding.Risk, "/a", ""}, [4]any{f.Rule, f.Level, f.Where, f.Says})
	assert.Same(t, rule, f.Row())
}

func TestFindingAsJSON(t *testing.T) {
	var out finding.List
	out.Add(rule, finding.Blocked, "/supplies/0", finding.Numbers{{Name: "load_w", Value: 66}, {Name: "limit_w", Value: 54.5}}, "too much")
	text, err := json.Marshal(out.Findings[0])
	require.NoError(t, err)
	assert.Equal(
		t,
		`{"rule":"power.rail","title":"Rail overloaded","level":"blocked","where":"/supplies/0","says":"Too much","numbers":{"load_w":66,"limit_w":54.5},"clear":[]}`,
		string(text),
	)
}

// TestSentencesBeginWithACapital, save where a name that is written as it is begins
// them.
func TestSentencesBeginWithACapital(t *testing.T) {
	r := &finding.Rule{Name: "r"}
	for says, want := range map[string]string{
		"boot drive leaves": "Boot drive leaves", "m2-a is soldered": "m2-a is soldered", "x": "X", "": "", "4 of 8": "4 of 8",
		"Ünder": "Ünder",
	} {
		var l finding.List
		l.Add(r, finding.Note, "/", nil, "%s", says)
		assert.Equal(t, want, l.Findings[0].Says)
	}
}

// TestSortedStandsAlone: what is sorted out of a list is not touched when the list is
// emptied and used again.
func TestSortedStandsAlone(t *testing.T) {
	var out finding.List
	out.Add(rule, finding.Note, "/a", finding.Numbers{{Name: "x", Value: 1}}, "one")
	out.Add(rule, finding.Risk, "/b", finding.Numbers{{Name: "y", Value: 2}, {Name: "z", Value: 3}}, "two")
	out.Add(rule, finding.Risk, "/c", nil, "three")
	kept := out.Sorted()
	out.Empty()
	for range 3 {
		out.Add(rule, finding.Danger, "/d", finding.Numbers{{Name: "w", Value: 9}}, "four")
	}
	require.Len(t, kept, 3)
	assert.Equal(t, "/b/c/a", kept[0].Where+kept[1].Where+kept[2].Where)
	assert.Equal(t, finding.Numbers{{Name: "y", Value: 2}, {Name: "z", Value: 3}}, kept[0].Numbers)
	assert.Nil(t, kept[1].Numbers)
	assert.Equal(t, finding.Numbers{{Name: "x", Value: 1}}, kept[2].Numbers)
	assert.Equal(t, "Two", kept[0].Says)
}

// TestBad: of two findings of a rule the larger is the worse, whichever way its figure goes.
func TestBad(t *testing.T) {
	row := &finding.Rule{Name: "link.margin", Figures: finding.Figures{"margin_db": finding.LessIsWorse, "load_w": finding.MoreIsWorse}}
	bad := func(name string, value float64) float64 {
		var out finding.List
		out.Add(row, finding.Risk, "/", finding.Numbers{{Name: name, Value: value}, {Name: "other", Value: 99}}, "")
		return out.Findings[0].Bad()
	}
	assert.Greater(t, bad("margin_db", 1), bad("margin_db", 2))
	assert.Greater(t, bad("load_w", 2), bad("load_w", 1))
	var out finding.List
	out.Add(row, finding.Risk, "/", nil, "")
	assert.Zero(t, out.Findings[0].Bad())
	assert.Equal(t, "blocked; danger", finding.Levels{finding.Blocked, finding.Danger}.String())
}
