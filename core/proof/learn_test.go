package proof

import (
	"math"
	"math/rand/v2"
	"strings"
	"testing"

	"github.com/go-json-experiment/json"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kolvan/core/coretest"
	"kolvan/core/finding"
	"kolvan/core/rig"
	"kolvan/core/units"
)

// madeBy are runs of terms with noise, at two resolutions or two generations or one of each.
func madeBy(terms Terms, p, a float64, draw *rand.Rand, sizes, gens []int) []rig.Run {
	return madeWith(Terms.Frame, terms, p, a, draw, sizes, gens)
}

// madeWith makes them by a model, in which the link overlaps or adds.
func madeWith(frame func(Terms, float64) float64, terms Terms, p, a float64, draw *rand.Rand, sizes, gens []int) (runs []rig.Run) {
	for _, gen := range gens {
		for _, size := range sizes {
			now := terms
			now.G *= math.Pow(float64(size*size), a)
			now.L *= 3 / float64(carried(gen).High)
			hz := 1000 / frame(now, p) * (1 + 0.01*draw.NormFloat64())
			run := rated("after", hz, at(1000*size, 1000*size))
			run.Least, run.Most = rig.Of(0.98*hz), rig.Of(1.02*hz)
			if gen > 0 {
				run.Gen = rig.Of(gen)
			}
			runs = append(runs, run)
		}
	}
	return runs
}

func carried(gen int) units.Range[units.GigabytePerSecond] {
	return units.Exactly([]units.GigabytePerSecond{3, 0.8, 1.6}[gen])
}

// TestForecastsFromRunsHoldTheTruth: whatever a use is made of and whichever runs of it
// there are, and whether its link overlaps or adds, what a change brings lies in what was forecast, in 90 of 100 at the least; and
// with more runs the range is no wider on the average.
func TestForecastsFromRunsHoldTheTruth(t *testing.T) {
	draw := rand.New(rand.NewPCG(7, 7))
	held, all := 0, 0
	wide := map[int]float64{}
	for i := range 60 {
		frame := [...]func(Terms, float64) float64{Terms.Frame, Terms.Added}[i%2]
		terms := Terms{C: 2 + 28*draw.Float64(), G: 2 + 28*draw.Float64(), L: 1 + 20*draw.Float64()}
		p, a := 2+4*draw.Float64(), 0.6+0.4*draw.Float64()
		card, then := 0.6+1.4*draw.Float64(), 0.5+5*draw.Float64()
		with := terms
		with.G, with.L = with.G/card, with.L*3/then
		truth := frame(terms, p)/frame(with, p) - 1
		for n, of := range [][2][]int{{{1}, {0}}, {{1, 2}, {0}}, {{1, 2}, {0, 1}}} {
			r := rig.New("rig")
			r.Brief.Works = []rig.Work{{Name: "stacking"}}
			r.Runs = madeWith(frame, terms, p, a, draw, of[0], of[1])
			f := Make(
				r, Link{Net: carried(0), At: carried, Ref: coretest.Tables(t)}, r, units.Exactly(units.GigabytePerSecond(then)),
				Ratios{Card: [2]float64{card, card}, Processor: [2]float64{1, 1}, Pixels: [2]float64{1, 1}},
			)
			u := f.Uses[0]
			require.Equal(t, "runs", u.From)
			all++
			if u.Change[0]-0.01 <= truth && truth <= u.Change[1]+0.01 {
				held++
			}
			wide[n] += u.Change[1] - u.Change[0]
		}
	}
	assert.Greater(t, float64(held), 0.9*float64(all))
	assert.Less(t, wide[2], wide[0])
}

// TestPinchByWhatWasSeen: what was read beside the runs speaks where their terms do not part;
// what proves nothing moves nothing, and a cap that is reached is what holds.
func TestPinchByWhatWasSeen(t *testing.T) {
	with := func(change func(*rig.Run)) Pinch {
		r := rig.New("rig")
		r.Card.Power = rig.Of[units.Watt](100)
		r.Brief.Screen.Rate = rig.Of(60.0)
		run := rated("after", 60, at(1920, 1080))
		change(&run)
		r.Runs = []rig.Run{run}
		return PinchOf(r, "stacking", carried)
	}
	bare := with(func(*rig.Run) {})
	assert.Empty(t, bare.Name+bare.Likely, "one run parts nothing")
	for name, c := range map[string]struct {
		seen   func(*rig.Run)
		likely string
		held   string
	}{
		"board power near its limit":  {func(r *rig.Run) { r.Board = rig.Of[units.Watt](96) }, "card", ""},
		"board power far below":       {func(r *rig.Run) { r.Board = rig.Of[units.Watt](60) }, "", ""},
		"98 % busy":                   {func(r *rig.Run) { r.Busy = rig.Of[units.Share](0.98) }, "", ""},
		"a high clock":                {func(r *rig.Run) { r.Clock = rig.Of(2400.0) }, "", ""},
		"one core full":               {func(r *rig.Run) { r.Core = rig.Of(true) }, "processor", ""},
		"moves what the link carries": {func(r *rig.Run) { r.Copies = rig.Of(2.8) }, "link", ""},
		"within 1 % of its cap":       {func(r *rig.Run) { r.Cap = rig.Of(60.4) }, "", "cap"},
		"below its cap":               {func(r *rig.Run) { r.Cap = rig.Of(75.0) }, "", ""},
		"held to the screen":          {func(r *rig.Run) { r.Sync = rig.Of(true) }, "", "cap"},
	} {
		p := with(c.seen)
		assert.Equal(t, c.held, p.Name, name)
		if c.held == "" {
			assert.Equal(t, c.likely, p.Likely, name)
		}
	}
	r := rig.New("rig")
	r.Runs = []rig.Run{rated("before", 30, at(1920, 1080)), rated("after", 30.2, at(1920, 1080))}
	assert.Contains(t, PinchOf(r, "stacking", carried).Evidence[0].Says, "perhaps the host's own graphics")
}

// TestProtocolTicksItself: what was made is done, what tells most comes first, and what does
// not fit into the minutes is left.
func TestProtocolTicksItself(t *testing.T) {
	r := rig.New("rig")
	r.Brief.Works = []rig.Work{{Name: "stacking", TodayHz: rig.Of(30.0), CardHz: rig.Of(100.0)}}
	p := ProtocolFor(r, 20, carried)
	left := func(p *Protocol) (todo []string) {
		for _, run := range p.Runs {
			if !run.Done && !run.Left {
				todo = append(todo, run.Side+" "+run.Do)
			}
		}
		return todo
	}
	assert.LessOrEqual(t, p.Takes, 20.0)
	assert.Equal(
		t,
		[]string{
			"before stacking before the card, a first time", "before stacking before the card, run 1",
			"after stacking with the card, a first time", "after stacking with the card, run 1",
		},
		left(p)[:4],
	)
	assert.Less(t, len(left(p)), len(p.Runs))
	assert.Less(t, len(left(ProtocolFor(r, 5, carried))), len(left(p)))
	five := ProtocolFor(&rig.Rig{Brief: rig.Brief{Works: []rig.Work{{Name: "new"}}}}, 5, carried)
	assert.Equal(t, []string{"before new before the card, run 1", "after new with the card, run 1"}, left(five),
		"no time to warm up: one run of each side")
	assert.Equal(t, five.Short, 2*2.5+linkMinutes+copyMinutes)
	assert.Greater(t, five.Long, five.Short)

	r.Runs = []rig.Run{
		rated("before", 30, first), rated("before", 30), rated("after", 90, at(1920, 1080)),
		rated("after", 91, at(1920, 1080)), rated("after", 92, at(1920, 1080)),
	}
	p = ProtocolFor(r, 60, carried)
	assert.NotContains(t, left(p), "before stacking before the card, run 1")
	assert.Contains(t, left(p), "before stacking before the card, run 2")
	assert.NotContains(t, strings.Join(left(p), "; "), "with the card, run", "three that lie close are enough")
	assert.Contains(t, left(p), "after "+copyTest, "no generation can be forced here")
	two := *r
	two.Runs = append(append([]rig.Run(nil), r.Runs...), rated("after", 95, at(1280, 720)))
	assert.Contains(
		t, left(ProtocolFor(&two, 60, carried)), "after stacking with the card, at a third resolution, as low as it goes",
		"two part little",
	)
	r.Route.ForcedGen = rig.Of(3)
	assert.Contains(t, left(ProtocolFor(r, 60, carried)), "after stacking with the card, the link held a generation down")
	r.Runs = append(r.Runs, rated("after", 40), rated("after", 160))
	assert.Contains(t, left(ProtocolFor(r, 60, carried)), "after stacking with the card, run 6", "the change is not known well")
}

// TestCombinedUses: the geometric mean, each use by its own figure; what became possible has
// no ratio, a duration counts by how many times as fast it is.
func TestCombinedUses(t *testing.T) {
	took := func(side rig.RunSide, s float64) rig.Run {
		return rig.Run{Name: string(side), Use: "render", Side: rig.Of(side), Took: rig.Of(s)}
	}
	r := &rig.Rig{Runs: []rig.Run{rated("before", 30), rated("after", 60), took("before", 80), took("after", 10),
		{
			Name: "c", Use: "model", Side: rig.Of[rig.RunSide]("before"), Outcome: "would not start",
		}, {Name: "d", Use: "model", Side: rig.Of[rig.RunSide]("after"), Score: rig.Of(5.0)}}}
	gains := GainsOf(r)
	require.Len(t, gains, 3)
	ratio, uses := Combined(gains)
	assert.InDelta(t, 4, ratio, 1e-9)
	assert.Equal(t, 2, uses)
	assert.InDelta(t, 0.875, *gains[1].Figures[0].Change, 1e-9, "the time that is saved")
	assert.True(t, gains[2].Possible)
	assert.Empty(t, gains[2].Figures)
}

// TestLogReadsBack: in the order of time, each kind as the file has it; runs come back as they
// were, and what is no log is refused by name.
func TestLogReadsBack(t *testing.T) {
	r := rig.New("rig")
	r.Runs = []rig.Run{rated("after", 60, at(1920, 1080))}
	r.Runs[0].When = "2026-05-02T10:00:00Z"
	r.Diary = []rig.DiaryLine{{When: "2026-05-01T10:00:00Z", Text: "hums"}}
	r.LoadReadings = []rig.LoadReading{{When: "2026-05-03T10:00:00Z", Board: rig.Of[units.Watt](90)}}
	r.Build.Tries = []rig.Try{{Remark: "no time told"}}
	l, err := LogOf(r)
	require.NoError(t, err)
	var kinds []string
	for _, e := range l.Entries {
		kinds = append(kinds, e.Kind)
	}
	assert.Equal(t, []string{"try", "diary", "run", "reading"}, kinds)
	text, err := json.Marshal(l)
	require.NoError(t, err)
	runs, err := RunsOfLog(text)
	require.NoError(t, err)
	assert.Equal(t, r.Runs, runs)
	for wrong, says := range map[string]string{
		`{"format":"kolvan-log/2","rig":"","entries":[]}`:                                             "kolvan-log/1",
		`{"format":"kolvan-log/1","rig":"","entries":[{"when":"","kind":"run","name":"a","fast":1}]}`: "/entries/0",
		`[]`: "a log",
	} {
		_, err := RunsOfLog([]byte(wrong))
		assert.ErrorContains(t, err, says)
	}
}

// TestRunsSpeakOfWhatTheyWereMadeWith: runs of another card, or over another link, are kept
// and say nothing of this one.
func TestRunsSpeakOfWhatTheyWereMadeWith(t *testing.T) {
	r := rig.New("rig")
	r.Card.Name = "new"
	r.Brief.Works = []rig.Work{{Name: "stacking", CardHz: rig.Of(100.0)}}
	r.Runs = []rig.Run{rated("before", 30, at(1920, 1080)), rated("after", 90, at(1920, 1080))}
	gain := func() string {
		var out finding.List
		Judge(r, Link{Net: carried(0), Ref: coretest.Tables(t)}, &out)
		for _, f := range out.Findings {
			if f.Rule == "work.gain" {
				return f.Says
			}
		}
		return ""
	}
	assert.Contains(t, gain(), "was measured")
	r.Runs[1].Card = "old"
	assert.Empty(t, gain())
	assert.Empty(t, WithCard(r, "stacking"))
	r.Runs[1].Card, r.Runs[1].Net = "new", rig.Of(units.GigabytePerSecond(3))
	assert.Contains(t, gain(), "was measured")
	r.Runs[1].Net.Value = 0.8
	assert.Empty(t, gain(), "the link is another now")
	assert.InDelta(t, 0.8, float64(pointsOf(WithCard(r, "stacking"), carried)[0].Net), 1e-9, "what it was made over is what is fitted")
}

// TestPinchIsNamedRightly: from noisy runs of known terms, over exponents that are anything
// they can be, what is named is the greatest in 95 of 100 at the least; the more the runs
// part, the more often it is named; runs that part nothing name nothing.
func TestPinchIsNamedRightly(t *testing.T) {
	for _, c := range []struct {
		sizes, gens []int
		told        float64 // of those that are twice the next, named
	}{{[]int{1, 2}, []int{0, 1}, 0.6}, {[]int{1, 2, 3}, []int{0, 1}, 0.95}} {
		draw := rand.New(rand.NewPCG(11, 3))
		named, right, free, told := 0, 0, 0, 0
		for range 150 {
			terms := Terms{C: 2 + 28*draw.Float64(), G: 2 + 28*draw.Float64(), L: 1 + 28*draw.Float64()}
			p, a := 2+4*draw.Float64(), 0.6+0.4*draw.Float64()
			greatest, times := terms.Greatest()
			r := rig.New("rig")
			r.Runs = madeBy(terms, p, a, draw, c.sizes, c.gens)
			pinch := PinchOf(r, "stacking", carried)
			if pinch.Name != "" {
				named++
				assert.Empty(t, pinch.PartedBy)
				assert.NotEmpty(t, pinch.Knob)
			} else {
				assert.NotEmpty(t, pinch.PartedBy, "the run that would tell more")
			}
			if pinch.Name == greatest {
				right++
			}
			if times > 2 {
				free++
				if pinch.Name == greatest {
					told++
				}
			}
			r.Runs = r.Runs[:1]
			require.Empty(t, PinchOf(r, "stacking", carried).Name, "one run parts nothing")
		}
		assert.GreaterOrEqual(t, float64(right), 0.95*float64(named), "%v", c)
		assert.GreaterOrEqual(t, float64(told), c.told*float64(free), "%v: %d of %d", c, told, free)
	}
}
