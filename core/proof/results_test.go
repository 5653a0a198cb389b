package proof

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kolvan/core/rig"
)

// TestResultsAsPeopleHaveThem: nine results in a few lines, each what it is: a rate, a time, a range
// by eye, a word; a row a result, or a column a side; tabs, semicolons and commas.
func TestResultsAsPeopleHaveThem(t *testing.T) {
	runs, err := Results(strings.NewReader("program; resolution; settings; scene; before; with; elsewhere s\n" +
		"Dome stack; 1440p; high; zenith; 31; 96,5 Hz; -\n\nHill solver; 1920 x 1080; ; ; 305 s; 1.5 min; 88\n" +
		"Star film; 4K; low; ; 34–48; 71 to 90; \nTicket film;;;;lags;smooth;\n"))
	require.NoError(t, err)
	require.Len(t, runs, 9)
	first, with := runs[0], runs[1]
	assert.Equal(t, rig.RunSide("before"), first.Side.Value)
	assert.Equal(t, []any{"Dome stack", 2560, 1440, "high", "zenith", 31.0}, []any{
		first.Program, first.Width.Value, first.Height.Value, first.Preset, first.Scene, first.Average.Value,
	})
	assert.InDelta(t, 96.5, with.Average.Value, 0)
	assert.Equal(t, "Dome stack, 2560 by 1440, high, zenith, after", with.Name)
	assert.InDelta(t, 305, runs[2].Took.Value, 0)
	assert.InDelta(t, 90, runs[3].Took.Value, 0)
	assert.InDelta(t, 88, runs[4].Took.Value, 0, "its head says seconds")
	assert.Equal(t, "34–48", runs[5].Eye)
	assert.False(t, runs[5].Average.Known)
	assert.Equal(t, rig.Felt("smooth"), runs[8].Felt.Value)

	runs, err = Results(strings.NewReader("use\tmade\taverage (fps)\tworst 1 " +
		"%\tscore\nstacking\twith\t96\t52\t9000\nstacking\tbefore\t33\t\tn/a\n"))
	require.NoError(t, err)
	assert.Equal(t, []any{"stacking", 96.0, 52.0, 9000.0}, []any{runs[0].Use, runs[0].Average.Value, runs[0].Low1.Value, runs[0].Score.Value})
	assert.Equal(t, rig.RunSide("before"), runs[1].Side.Value)

	for table, says := range map[string]string{
		"":                               "a row of heads",
		"program,colour\nx,red\n":        "colour",
		"program,resolution\nx,1080p\n":  "a column with results",
		"program,before\nx,48-34\n":      "the lower end first",
		"program,before\nx,0\n":          "a number above 0",
		"program,with\n\nx,quick\n":      "line 3",
		"made,average\nsometimes,30\n":   "before, with or elsewhere",
		"resolution,average\nlarge,30\n": "1920 x 1080",
		"program,before\nx,-\n":          "at least one row",
	} {
		_, err := Results(strings.NewReader(table))
		assert.ErrorContains(t, err, says, table)
	}
}

// TestWhatIsUnlikeIsNeverAveraged: programs and scenes under one use stand apart; a range by eye is
// held against a range.
func TestWhatIsUnlikeIsNeverAveraged(t *testing.T) {
	runs, err := Results(strings.NewReader("use,program,scene,before,with\nnight,one,,305 s,93 s\nnight,two,,60 s,30 s\n" +
		"night,three,a,34–48,71–90\nnight,four,,40–50,45–60\nnight,five,,40–50,30–39\n"))
	require.NoError(t, err)
	gains := GainsOf(&rig.Rig{Runs: runs})
	require.Len(t, gains, 5)
	assert.InDelta(t, 305.0/93, *gains[0].Figures[0].Ratio, 1e-9)
	assert.InDelta(t, 2, *gains[1].Figures[0].Ratio, 1e-9)
	assert.Equal(t, []string{"by eye 34–48 against 71–90: faster, by 1.5 to 2.6"}, gains[2].Seen)
	assert.Contains(t, gains[3].Seen[0], "no difference that the eye can tell")
	assert.Contains(t, gains[4].Seen[0], "slower, by 0.6 to 1")
}
