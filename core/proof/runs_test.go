package proof

import (
	"fmt"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"kolvan/core/rig"
	"kolvan/core/units"
)

// TestRunKeepsTheShapeOfACapture: a run holds little of a long capture, and the stall in it
// is still to be seen.
func TestRunKeepsTheShapeOfACapture(t *testing.T) {
	var table strings.Builder
	table.WriteString("frame_time_ms\n")
	for i := range 5000 {
		ms := 10 + float64(i%9)/10
		if i == 3210 {
			ms = 90
		}
		fmt.Fprintf(&table, "%.3f\n", ms)
	}
	run := RunOf(read(t, table.String(), Options{}).Of(""), "sum", time.Unix(0, 0), 1)
	curve, trace := Values(run.Curve), Values(run.Trace)
	assert.Len(t, curve, curvePlaces)
	assert.Len(t, trace, tracePoints)
	assert.True(t, slices.IsSorted(curve))
	assert.Equal(t, []float64{10, 90}, []float64{curve[0], curve[curvePlaces-1]})
	assert.Contains(t, trace, 90.0)
	assert.InDelta(t, 1000/10.4156, run.Average.Value, 0.1)
	assert.True(t, run.Least.Value <= run.Average.Value && run.Average.Value <= run.Most.Value)
	assert.Equal(t, 5000, run.Frames.Value)

	_, err := rig.Encode(&rig.Rig{Name: "r", Runs: []rig.Run{run}})
	require.NoError(t, err)
	short := RunOf(
		read(t, frames("ms", func(_ int, ms, _ float64) string { return fmt.Sprint(ms) }), Options{}).Of(""), "",
		time.Unix(0, 0), 1,
	)
	assert.False(t, short.Low1.Known, "sixty frames have no slowest hundredth")
	assert.Len(t, Values(short.Trace), 60)
}

// rated is a run of a rate, made in a way.
func rated(side rig.RunSide, hz float64, how ...func(*rig.Run)) rig.Run {
	r := rig.Run{Name: fmt.Sprint(side, hz), Use: "stacking", Side: rig.Of(side), Average: rig.Of(hz)}
	for _, f := range how {
		f(&r)
	}
	return r
}

func only(run rig.Run) []*rig.Run { return []*rig.Run{&run} }

func at(width, height int) func(*rig.Run) {
	return func(r *rig.Run) { r.Width, r.Height = rig.Of(width), rig.Of(height) }
}

func held(r *rig.Run) { r.Gen = rig.Of(1) }

func capped(r *rig.Run) { r.Cap = rig.Of(60.0) }

func first(r *rig.Run) { r.First = rig.Of(true) }

func TestGainsOf(t *testing.T) {
	for name, c := range map[string]struct {
		runs    []rig.Run
		ratio   float64 // zero: none is given
		says    string
		differs string
	}{
		"one each": {[]rig.Run{rated("before", 30), rated("after", 60)}, 2, "too few runs for an interval", ""},
		"three each": {
			[]rig.Run{
				rated("before", 29), rated("before", 30), rated("before", 31), rated("after", 59), rated("after", 60),
				rated("after", 61),
			},
			2, "better", "",
		},
		"three each, within spread": {
			[]rig.Run{
				rated("before", 20), rated("before", 30), rated("before", 40), rated("after", 21), rated("after", 31),
				rated("after", 41),
			},
			31.0 / 30, "no difference seen", "",
		},
		"a first run is left out": {
			[]rig.Run{rated("before", 30), rated("after", 10, first), rated("after", 60)}, 2, "too few runs for an interval", "",
		},
		"a first run is all": {[]rig.Run{rated("before", 30), rated("after", 60, first)}, 2, "too few runs for an interval", ""},
		"two resolutions": {
			[]rig.Run{rated("before", 30, at(1920, 1080)), rated("after", 60, at(1280, 720))}, 0, "",
			"resolution: 1920 by 1080 against 1280 by 720",
		},
		"one tells its resolution": {
			[]rig.Run{rated("before", 30), rated("after", 60, at(1280, 720))}, 0, "",
			"resolution: not told by not told against 1280 by 720",
		},
		"the capped one is capped": {[]rig.Run{rated("before", 30), rated("after", 60, capped)}, 2,
			"at least: a cap or the screen held one side up", ""},
		"those made alike compare": {
			[]rig.Run{
				rated("before", 30, at(1920, 1080)), rated("after", 20, at(3840, 2160)), rated("after", 10, at(1920, 1080), held),
				rated("after", 60, at(1920, 1080)),
			},
			2, "too few runs for an interval", "",
		},
		"held to a generation": {
			[]rig.Run{rated("before", 30), rated("after", 60, held)}, 0, "", "link held to generation: as planned against 1",
		},
	} {
		gains := GainsOf(&rig.Rig{Runs: c.runs})
		require.Len(t, gains, 1, name)
		figure := gains[0].Figures[0]
		if c.differs != "" {
			assert.Equal(t, []string{c.differs}, gains[0].Differs, name)
			assert.Nil(t, figure.Ratio, name)
			assert.Nil(t, figure.Change, name)
			continue
		}
		assert.InDelta(t, c.ratio, *figure.Ratio, 1e-9, name)
		assert.Equal(t, c.says, figure.Says, name)
	}
	both := GainsOf(&rig.Rig{Runs: []rig.Run{
		rated("before", 30, at(1920, 1080)), rated("before", 10, at(3840, 2160)), rated("after", 20, at(3840, 2160)),
		rated("after", 60, at(1920, 1080)),
	}})
	require.Len(t, both, 2, "one for each way they were made")
	assert.Equal(t, []string{"1920 by 1080", "3840 by 2160"}, []string{both[0].How, both[1].How})
	alone := GainsOf(&rig.Rig{Runs: []rig.Run{rated("after", 60), rated("elsewhere", 90)}})
	assert.Empty(t, alone[0].Figures, "nothing to hold it against")
}

// TestTermsOfRuns: runs made from terms are explained by them; what a run does not tell is
// never made up.
func TestTermsOfRuns(t *testing.T) {
	link := func(gen int) units.Range[units.GigabytePerSecond] {
		v := []units.GigabytePerSecond{3, 0.8, 1.6}[gen]
		return units.Range[units.GigabytePerSecond]{Low: v, High: v}
	}
	rapid.Check(t, func(t *rapid.T) {
		draw := func(name string) float64 { return rapid.Float64Range(1, 30).Draw(t, name) }
		terms, p := Terms{C: draw("c"), G: draw("g"), L: draw("l")}, float64(rapid.IntRange(2, 6).Draw(t, "p"))
		var runs []rig.Run
		for _, gen := range []int{0, 1, 2} {
			for _, size := range [][2]int{{1920, 1080}, {3840, 2160}} {
				now := terms
				now.L *= 3 / float64(link(gen).High)
				if size[0] == 3840 {
					now.G *= 3.249 // four times the pixels, to the power 0.85
				}
				run := rated("after", 1000/now.Frame(p), at(size[0], size[1]))
				if gen > 0 {
					run.Gen = rig.Of(gen)
				}
				runs = append(runs, run)
			}
		}
		fitted := TermsOf(pointersTo(runs), link)
		require.NotEmpty(t, fitted.fits)
		name, times := terms.Greatest()
		if fitted.Pinch != "" && times > 1.3 {
			assert.Equal(t, name, fitted.Pinch)
		}
		for i, ends := range [][2]float64{fitted.C, fitted.G, fitted.L} {
			assert.LessOrEqual(t, ends[0]*0.98, []float64{terms.C, terms.G, terms.L}[i])
			assert.GreaterOrEqual(t, ends[1]*1.02, []float64{terms.C, terms.G, terms.L}[i])
		}
	})
	unsure := func(int) units.Range[units.GigabytePerSecond] {
		return units.Range[units.GigabytePerSecond]{Low: 0.8, High: 3}
	}
	for name, f := range map[string]Fitted{
		"no resolution":   TermsOf(only(rated("after", 60)), link),
		"capped":          TermsOf(only(rated("after", 60, at(1920, 1080), capped)), link),
		"link not known":  TermsOf(only(rated("after", 60, at(1920, 1080))), unsure),
		"nothing at all":  TermsOf(nil, link),
		"crashed at once": TermsOf(only(rated("after", 0, at(1920, 1080))), link),
	} {
		assert.Zero(t, f, name)
	}
	repeats := []rig.Run{rated("after", 60, at(1920, 1080)), rated("after", 63, at(1920, 1080)), rated("after", 66, at(1920, 1080))}
	assert.NotEmpty(t, TermsOf(pointersTo(repeats), link).fits, "runs made alike lie apart, and are one point")
	assert.Equal(t, "a run with the link forced a generation down", TermsOf(pointersTo(repeats), link).PartedBy)
}

// TestHeld: any two runs stand side by side; of another use or made otherwise without a per
// cent, of other circumstances with a warning, and the other way round it is the inverse.
func TestHeld(t *testing.T) {
	a, b := rated("before", 40, at(1920, 1080)), rated("elsewhere", 50, at(1920, 1080))
	b.Machine = "the hall's tower"
	g := Held(&a, &b)
	assert.InDelta(t, 1.25, *g.Figures[0].Ratio, 1e-9)
	assert.Empty(t, g.Differs)
	assert.Equal(t, []string{"made: before against elsewhere", "machine: this one against the hall's tower"}, g.Warned)
	assert.InDelta(t, 0.8, *Held(&b, &a).Figures[0].Ratio, 1e-9)
	b.Use = "streaming"
	g = Held(&a, &b)
	assert.Nil(t, g.Figures[0].Ratio)
	assert.Nil(t, g.Figures[0].Change)
	assert.Equal(t, []string{"use: stacking against streaming"}, g.Differs)
}

// TestACapHoldsOnlyWhereItIsReached: a run under its cap, or under the rate of the screen, is as one
// without; one that reaches it gives a bound.
func TestACapHoldsOnlyWhereItIsReached(t *testing.T) {
	capped := func(side rig.RunSide, hz, cap float64) rig.Run {
		run := rated(side, hz, at(1920, 1080))
		run.Cap = rig.Of(cap)
		return run
	}
	synced := func(side rig.RunSide, hz float64) rig.Run {
		run := rated(side, hz, at(1920, 1080))
		run.Sync = rig.Of(true)
		return run
	}
	free := rated("before", 30, at(1920, 1080))
	for _, c := range []struct {
		name        string
		before, now rig.Run
		screen      float64
		bound       string
	}{
		{"60 under a cap of 144", free, capped("after", 60, 144), 0, ""},
		{"exactly at the edge of a cap", free, capped("after", 59.4, 60), 0, "at least"},
		{"a hair under it", free, capped("after", 59.3, 60), 0, ""},
		{"over its cap by the meter", free, capped("after", 60.2, 60), 0, "at least"},
		{"at half the screen's rate", free, synced("after", 72), 144, "at least"},
		{"a variable rate", free, synced("after", 101), 144, ""},
		{"a screen nobody told", free, synced("after", 101), 0, "at least"},
		{"before was held up", capped("before", 30, 30), rated("after", 60, at(1920, 1080)), 0, "at most"},
	} {
		r := rig.New("rig")
		if c.screen > 0 {
			r.Brief.Screen.Rate = rig.Of(c.screen)
		}
		c.before.Use, c.now.Use = "stacking", "stacking"
		r.Runs = []rig.Run{c.before, c.now}
		gains := GainsOf(r)
		require.Len(t, gains, 1, c.name)
		require.Empty(t, gains[0].Differs, c.name)
		figure := gains[0].Figures[0]
		assert.Equal(t, c.bound, figure.Bound, c.name)
		assert.InDelta(t, c.now.Average.Value/c.before.Average.Value, *figure.Ratio, 1e-9, c.name)
		if c.bound != "" {
			assert.Nil(t, figure.Interval, c.name)
		}
	}
	both := rig.New("rig")
	both.Runs = []rig.Run{capped("before", 30, 30), capped("after", 60, 60)}
	assert.NotEmpty(t, GainsOf(both)[0].Differs, "both held up, by other caps")
}
