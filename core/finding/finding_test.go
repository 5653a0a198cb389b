package finding_test

import (
	"testing"

	"github.com/go-json-experiment/json"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kolvan/core/finding"
)

var rule = &finding.Rule{Name: "power.rail", Title: "Rail overloaded"}

func TestListSortsWorstFirstAndKeepsTheOrderWithin(t *testing.T) {
	var out finding.List
	for _, f := range []struct {
		level finding.Level
		where string
	}{{finding.Note, "/a"}, {finding.Risk, "/b"}, {finding.Danger, "/c"}, {finding.Risk, "/d"}, {finding.Blocked, "/e"}, {finding.Unknown, "/f"}} {
		out.Add(rule, f.level, f.where, nil, "at %s", f.where)
	}
	out.Sort()
	var order string
	for _, f := range out.Findings {
		order += f.Where
	}
	assert.Equal(t, "/c/e/f/b/d/a", order)
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
	assert.Equal(t, finding.Finding{Rule: "power.rail", Title: "Rail overloaded", Level: finding.Risk, Where: "/a"}, out.Findings[0])
}

func TestFindingAsJSON(t *testing.T) {
	var out finding.List
	out.Add(rule, finding.Blocked, "/supplies/0", finding.Numbers{{Name: "load_w", Value: 66}, {Name: "limit_w", Value: 54.5}}, "too much")
	text, err := json.Marshal(out.Findings[0])
	require.NoError(t, err)
	assert.Equal(t, `{"rule":"power.rail","title":"Rail overloaded","level":"blocked","where":"/supplies/0","says":"Too much","numbers":{"load_w":66,"limit_w":54.5},"clear":[]}`, string(text))
}

// TestSentencesBeginWithACapital, save where a name that is written as it is begins
// them.
func TestSentencesBeginWithACapital(t *testing.T) {
	r := &finding.Rule{Name: "r"}
	for says, want := range map[string]string{"boot drive leaves": "Boot drive leaves", "m2-a is soldered": "m2-a is soldered", "x": "X", "": "", "4 of 8": "4 of 8", "Ünder": "Ünder"} {
		var l finding.List
		l.Add(r, finding.Note, "/", nil, "%s", says)
		assert.Equal(t, want, l.Findings[0].Says)
	}
}
