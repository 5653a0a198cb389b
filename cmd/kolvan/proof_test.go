package main

import (
	"encoding/json"
	"fmt"
	"math/rand/v2"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"kolvan/core/proof"
	"kolvan/core/rig"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// capture writes a capture of so many frames of about that many ms.
func capture(t *testing.T, dir, name string, frames int, ms float64) string {
	rng := rand.New(rand.NewPCG(uint64(frames), uint64(ms*100)))
	var b strings.Builder
	b.WriteString("program;frame time [ms]\n")
	for range frames {
		fmt.Fprintf(&b, "stack;%s\n", strings.ReplaceAll(fmt.Sprintf("%.4f", ms*(1+0.05*rng.NormFloat64())), ".", ","))
	}
	path := filepath.Join(dir, name)
	require.NoError(t, os.WriteFile(path, []byte(b.String()), 0o600))
	return path
}

// TestCapturesOnTheCommandLine: figures of a capture and of a meter beside each other, a
// comparison, and what is wrong named.
func TestCapturesOnTheCommandLine(t *testing.T) {
	bin, dir := built(t), t.TempDir()
	before, after := capture(t, dir, "before.csv", 4000, 20), capture(t, dir, "after.csv", 4000, 10)
	wall := filepath.Join(dir, "wall.csv")
	require.NoError(t, os.WriteFile(wall, []byte("time_s,power_w\n0,100\n1,100\n"), 0o600))
	out, errs, code := kolvan(t, bin, "", "stats", "--json", before, wall)
	require.Zero(t, code, errs)
	var all []struct {
		Column struct{ Name, Unit string }
		Series []struct {
			Name       string
			Frames     int
			Average    float64              `json:"average_hz"`
			Mean       float64              `json:"mean_w"`
			Low        *float64             `json:"low1_mean_hz"`
			Interval95 map[string][]float64 `json:"interval95"`
			Warned     []string
		}
	}
	require.NoError(t, json.Unmarshal([]byte(out), &all))
	frames := all[0].Series[0]
	assert.Equal(t, "frame time [ms]", all[0].Column.Name)
	assert.Equal(t, 4000, frames.Frames)
	assert.InDelta(t, 50, frames.Average, 0.5)
	assert.NotNil(t, frames.Low)
	assert.Less(t, frames.Interval95["average_hz"][0], frames.Average)
	assert.Equal(t, []string{"low01_p99_hz", "low01_mean_hz"}, frames.Warned)
	assert.InDelta(t, 100, all[1].Series[0].Mean, 1e-9)

	out, errs, code = kolvan(t, bin, "", "compare", "--json", before, "--with", after)
	require.Zero(t, code, errs)
	var compared struct {
		Format  string
		Figures []struct {
			Name, Says string
			Ratio      float64
		}
	}
	require.NoError(t, json.Unmarshal([]byte(out), &compared))
	assert.Equal(t, "kolvan-comparison/1", compared.Format)
	assert.Equal(t, "average_hz", compared.Figures[0].Name)
	assert.InDelta(t, 2, compared.Figures[0].Ratio, 0.02)
	out, _, _ = kolvan(t, bin, "", "compare", before, "--with", before)
	assert.Contains(t, out, "no difference seen")
	for wrong, args := range map[string][]string{
		"a meter's table":     {"compare", before, "--with", wall},
		`no frames of "game"`: {"compare", before, "--with", after, "--series", "game"},
		"not there":           {"compare", before, "--with", filepath.Join(dir, "none.csv")},
		"--column NAME":       {"stats", "--column", "nothing", before},
	} {
		_, errs, code := kolvan(t, bin, "", args...)
		assert.Equal(t, 2, code, args)
		assert.Contains(t, errs, wrong)
	}
}

// TestForecastOnTheCommandLine: each use as a range, a change by patch and by ratio, and
// nothing done where the call is wrong.
func TestForecastOnTheCommandLine(t *testing.T) {
	bin, rig := built(t), "../../demo/rigs/dome_shed_stacker.json"
	ask := func(args ...string) (f struct {
		Format string
		Uses   []struct {
			Now    struct{ Share []float64 }
			Then   *struct{ Share []float64 }
			Change []float64
			Narrow []string
		}
	}) {
		out, errs, code := kolvan(t, bin, "", append([]string{"forecast", "--json", rig}, args...)...)
		require.Zero(t, code, errs)
		require.NoError(t, json.Unmarshal([]byte(out), &f))
		return f
	}
	now := ask()
	assert.Equal(t, "kolvan-forecast/1", now.Format)
	require.Len(t, now.Uses, 2)
	assert.Nil(t, now.Uses[0].Then)
	assert.Len(t, now.Uses[0].Narrow, 4)
	slower := ask("--change", `[{"op":"add","path":"/route/forced_generation","value":1}]`)
	assert.Less(t, slower.Uses[0].Then.Share[0], slower.Uses[0].Now.Share[0])
	assert.Less(t, slower.Uses[0].Change[0], 0.0)
	assert.LessOrEqual(t, slower.Uses[0].Change[1], 1e-9, "no use gains by a slower link")
	card := ask("--card-ratio", "1.5,2")
	assert.GreaterOrEqual(t, card.Uses[0].Change[0], 0.0)
	assert.LessOrEqual(t, card.Uses[0].Change[1], 1.0+1e-9)
	out, _, _ := kolvan(t, bin, "", "forecast", rig, "--learn", "../../demo/rigs/stacker_built.json", "--pixels-ratio", "1.2")
	assert.Regexp(t, `live stacking: most often (\d+) to \d+ % .*\n  by what Dome-shed stacker, built ran at; \d+ to \d+ % without\n  with the change`, out)
	out, _, _ = kolvan(t, bin, "", "forecast", rig, "--pixels-ratio", "4")
	assert.Contains(t, out, "with the change:")
	for wrong, args := range map[string][]string{
		"JSON Patch":      {"--change", "[nonsense"},
		"the lower end":   {"--card-ratio", "2,1"},
		"a ratio like":    {"--card-ratio", "fast"},
		"the rig with it": {"--change", `[{"op":"add","path":"/card/lanes","value":"many"}]`},
		"--learn":         {"--learn", "no-such.json"},
	} {
		_, errs, code := kolvan(t, bin, "", append([]string{"forecast", rig}, args...)...)
		assert.Equal(t, 2, code, args)
		assert.Contains(t, errs, wrong)
	}
}

// TestRunsNarrowAForecast: a rig's own runs, or those of a log, take the place of what was
// planned; the protocol has them ticked.
func TestRunsNarrowAForecast(t *testing.T) {
	bin, desk := built(t), "../../demo/rigs/stacker_built.json"
	type forecast struct {
		Uses []struct {
			Use, From string
			Change    []float64
		}
	}
	ask := func(args ...string) (f forecast) {
		out, errs, code := kolvan(t, bin, "", append([]string{"forecast", "--json", "--card-ratio", "1.5"}, args...)...)
		require.Zero(t, code, errs)
		require.NoError(t, json.Unmarshal([]byte(out), &f))
		return f
	}
	log, errs, code := kolvan(t, bin, "", "log", desk)
	require.Zero(t, code, errs)
	assert.Contains(t, log, `"format": "kolvan-log/1"`)
	file := filepath.Join(t.TempDir(), "log.json")
	require.NoError(t, os.WriteFile(file, []byte(log), 0o600))
	own, logged := ask(desk), ask(desk, "--log", file)
	assert.Equal(t, "runs", own.Uses[0].From)
	assert.Equal(t, own, logged)
	require.NoError(t, os.WriteFile(file, []byte(`{"format":"kolvan-log/1","rig":"","entries":[]}`), 0o600))
	planned := ask(desk, "--log", file)
	assert.Equal(t, "planning", planned.Uses[0].From)
	assert.Less(t, own.Uses[0].Change[1]-own.Uses[0].Change[0], planned.Uses[0].Change[1]-planned.Uses[0].Change[0])
	out, _, _ := kolvan(t, bin, "", "protocol", desk)
	assert.Contains(t, out, "[x]")
	_, errs, code = kolvan(t, bin, "", "forecast", desk, "--log", desk)
	assert.Equal(t, 2, code)
	assert.Contains(t, errs, "kolvan-log/1")
}

// TestPlayedFramesAreRead: what the frame source writes is what stats reads, in every style;
// a cap holds, the seed decides, and a wrong call writes nothing.
func TestPlayedFramesAreRead(t *testing.T) {
	bin := built(t)
	play := func(args ...string) string {
		out, errs, code := kolvan(
			t, bin, "",
			append(
				[]string{"instruments", "--seconds", "20", "--processor-ms", "20", "--card-ms", "5", "--link-ms", "1", "--play"},
				args...,
			)...,
		)
		require.Zero(t, code, errs)
		return out
	}
	for _, style := range []string{"times", "stamps", "passes"} {
		out, errs, code := kolvan(t, bin, play(style), "stats", "--json", "-")
		require.Zero(t, code, errs)
		var told []struct {
			Series []struct {
				Average float64 `json:"average_hz"`
				Dropped int     `json:"dropped"`
			} `json:"series"`
		}
		require.NoError(t, json.Unmarshal([]byte(strings.TrimSpace("["+strings.Trim(strings.TrimSpace(out), "[]")+"]")), &told), out)
		assert.InDelta(t, 49.5, told[0].Series[0].Average, 0.8, style)
		assert.Zero(t, told[0].Series[0].Dropped, style)
	}
	assert.Equal(t, play("times", "--seed", "4"), play("times", "--seed", "4"))
	assert.NotEqual(t, play("times", "--seed", "4"), play("times", "--seed", "5"))
	assert.Contains(t, play("times", "--cap-hz", "25"), ",40.000\n")
	for _, wrong := range [][]string{
		{"--play", "pie"}, {"--play", "times", "--seconds", "0"},
		{"--play", "times", "--card-ms", "-4", "--processor-ms", "0", "--link-ms", "0"},
	} {
		out, errs, code := kolvan(t, bin, "", append([]string{"instruments"}, wrong...)...)
		assert.NotZero(t, code, wrong)
		assert.Empty(t, out, wrong)
		assert.NotEmpty(t, errs, wrong)
	}
}

// TestLedgerOnTheCommandLine: totals, gains and what it is held against; a table of one rig.
func TestLedgerOnTheCommandLine(t *testing.T) {
	bin, rig := built(t), "../../demo/rigs/stacker_built.json"
	out, errs, code := kolvan(t, bin, "", "ledger", "--json", rig)
	require.Zero(t, code, errs)
	var told struct {
		Format  string
		Totals  map[string][2]*float64
		Against []struct {
			Name           string
			TurnsAtPrice   [2]*float64 `json:"turns_at_price"`
			RigIsCheaperBy [2]*float64 `json:"rig_is_cheaper_by"`
		}
		Sale struct{ Profit [2]*float64 }
	}
	require.NoError(t, json.Unmarshal([]byte(out), &told))
	assert.Equal(t, "kolvan-ledger/1", told.Format)
	// 420 to 450 for the card, 19 + 23 + 39 for the way, 9 + 12 beside it, 24 for the board,
	// the lead and what was owned at nothing more.
	assert.InDelta(t, *told.Totals["without_owned"][1]-30, *told.Totals["without_owned"][0], 1e-9)
	require.Len(t, told.Against, 3)
	out, _, code = kolvan(t, bin, "", "ledger", rig)
	assert.Zero(t, code)
	assert.Contains(t, out, "forced by the route")
	table, _, code := kolvan(t, bin, "", "ledger", "--csv", rig)
	assert.Zero(t, code)
	assert.True(t, strings.HasPrefix(table, "what,part,kind,price,price_tolerance,"))
	_, errs, code = kolvan(t, bin, "", "ledger", "--csv", rig, rig)
	assert.Equal(t, 2, code)
	assert.Contains(t, errs, "one rig")
}

// TestProtocolAndLogRefuseByName: a wrong call does nothing and says what would be accepted;
// of several files those that can be read are answered.
func TestProtocolAndLogRefuseByName(t *testing.T) {
	bin, desk := built(t), "../../demo/rigs/ticket_desk.json"
	for wrong, args := range map[string][]string{
		"--minutes":    {"protocol", desk, "--minutes", "0"},
		"nowhere":      {"log", "nowhere.json"},
		"go.mod":       {"ledger", "../../go.mod"},
		"forecast":     {"forecast", desk, "--nonsense"},
		"kolvan-log":   {"forecast", desk, "--log", "../../demo/rigs/field_kit.json"},
		"part \"cat\"": {"sheet", desk, "--with", "cat"},
	} {
		out, errs, code := kolvan(t, bin, "", args...)
		assert.Equal(t, 2, code, args)
		assert.Empty(t, out, args)
		assert.Contains(t, errs, strings.TrimPrefix(wrong, "forecast"), args)
	}
	out, _, code := kolvan(t, bin, "", "protocol", "--json", "--minutes", "5", desk, "nowhere.json")
	assert.Equal(t, 2, code)
	var told []struct {
		Minutes, Takes float64
		Runs           []struct{ Done, LeftForLater bool }
	}
	require.NoError(t, json.Unmarshal([]byte(out), &told))
	require.Len(t, told, 1)
	assert.LessOrEqual(t, told[0].Takes, 5.0)
	assert.NotEmpty(t, told[0].Runs)
}

// TestResultsBecomeALog that a forecast reads.
func TestResultsBecomeALog(t *testing.T) {
	bin := built(t)
	out, errs, code := kolvan(t, bin, "use,resolution,before,with\nlive stacking,1080p,31,96\n", "results", "-")
	require.Zero(t, code, errs)
	runs, err := proof.RunsOfLog([]byte(out))
	require.NoError(t, err)
	require.Len(t, runs, 2)
	assert.InDelta(t, 96, runs[1].Average.Value, 0)
	_, errs, code = kolvan(t, bin, "program,before\nx,quick\n", "results", "-")
	assert.Equal(t, 2, code)
	assert.Contains(t, errs, "line 2")
}

// TestUsesOfWhichNothingIsKnownShareOneLine: thirty uses of no sort are one line, not thirty.
func TestUsesOfWhichNothingIsKnownShareOneLine(t *testing.T) {
	r := rig.New("many")
	for i := range 30 {
		r.Brief.Works = append(r.Brief.Works, rig.Work{Name: fmt.Sprintf("use %d", i+1)})
	}
	doc, err := rig.Encode(r)
	require.NoError(t, err)
	out, errs, code := kolvan(t, built(t), string(doc), "forecast", "-")
	require.Zero(t, code, errs)
	assert.Equal(t, 1, strings.Count(out, "nothing to go by yet"))
	assert.Contains(t, out, "use 1, use 2, use 3 and 27 more:")
}
