package proof

import (
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"kolvan/core/rig"
	"kolvan/core/units"
	_ "kolvan/internal/oneseed"
)

// TestFramesOverlapInPart: a frame takes no less than its greatest term and no more than
// their sum, more where a term grows, and a term alone is itself.
func TestFramesOverlapInPart(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		at := func(name string) float64 { return rapid.Float64Range(0, 100).Draw(t, name) }
		p := rapid.Float64Range(2, 6).Draw(t, "p")
		terms := Terms{C: at("c"), G: at("g"), L: at("l")}
		frame := terms.Frame(p)
		require.GreaterOrEqual(t, frame, max(terms.C, terms.G, terms.L)-1e-9)
		require.LessOrEqual(t, frame, terms.C+terms.G+terms.L+1e-9)
		more := terms
		more.L += 1
		require.GreaterOrEqual(t, more.Frame(p), frame-1e-9)
		capped := terms
		capped.Cap = frame + 5
		require.Equal(t, frame+5, capped.Frame(p))
		alone := Terms{G: terms.G}
		require.InDelta(t, terms.G, alone.Frame(p), 1e-9)
	})
	name, times := Terms{C: 4, G: 10, L: 5}.Greatest()
	assert.Equal(t, "card", name)
	assert.InDelta(t, 2, times, 1e-9)
}

// runsOf makes runs by a model of known terms, with noise.
func runsOf(rng *rand.Rand, terms Terms, p, a float64, at [][2]float64) (points []Point) {
	for _, one := range at { // pixels, net against the first
		frame := Terms{C: terms.C, G: terms.G * math.Pow(one[0], a), L: terms.L / one[1]}.Frame(p)
		points = append(
			points,
			Point{
				Pixels: one[0], Net: units.GigabytePerSecond(3.2 * one[1]), Frame: frame * (1 + 0.004*rng.NormFloat64()),
				Sigma: frame * 0.005,
			},
		)
	}
	return points
}

// TestPinchIsNamedWhereItCanBe: over models with known terms, of which one is clearly the
// greatest, and runs at two resolutions and two rates, what is named is right; a name is
// given in most; and of runs that part nothing none is given.
func TestPinchIsNamedWhereItCanBe(t *testing.T) {
	rng := rand.New(rand.NewPCG(1, 2))
	named, right, models := 0, 0, 300
	for i := range models {
		terms := Terms{C: 2 + 6*rng.Float64(), G: 2 + 6*rng.Float64(), L: 2 + 6*rng.Float64()}
		greatest := [...]*float64{&terms.C, &terms.G, &terms.L}[i%3]
		*greatest = 2.2 * max(terms.C, terms.G, terms.L)
		p, a := 2+4*rng.Float64(), 0.6+0.4*rng.Float64()
		want, _ := terms.Greatest()
		f := Fit(runsOf(rng, terms, p, a, [][2]float64{{1, 1}, {0.4, 1}, {1, 0.5}, {0.4, 0.5}}))
		if f.Pinch == "" {
			continue
		}
		named++
		if f.Pinch == want {
			right++
		}
		blind := Fit(runsOf(rng, terms, p, a, [][2]float64{{1, 1}, {1, 1}}))
		require.Empty(t, blind.Pinch, "runs at one resolution and one rate part nothing")
		require.Contains(t, blind.PartedBy, "forced a generation down")
	}
	assert.GreaterOrEqual(t, float64(right)/float64(named), 0.95, "%d right of %d named", right, named)
	assert.Greater(t, named, models*3/4)

	half := Fit(runsOf(rng, Terms{C: 4, G: 3, L: 12}, 4, 0.85, [][2]float64{{1, 1}, {1, 0.5}}))
	assert.Contains(t, []string{"link", ""}, half.Pinch)
	pixels := Fit(runsOf(rng, Terms{C: 12, G: 3, L: 11}, 4, 0.85, [][2]float64{{1, 1}, {0.4, 1}}))
	assert.Empty(t, pixels.Pinch, "a rate that resolution does not move is processor or link")
	assert.Equal(t, Fitted{}, Fit(nil))
}

// TestTermsHoldTheTruth: the ranges that runs allow hold the terms they were made of.
func TestTermsHoldTheTruth(t *testing.T) {
	rng := rand.New(rand.NewPCG(3, 4))
	held, models := 0, 200
	for range models {
		terms := Terms{C: 2 + 8*rng.Float64(), G: 2 + 8*rng.Float64(), L: 2 + 8*rng.Float64()}
		f := Fit(runsOf(rng, terms, 4, 0.85, [][2]float64{{1, 1}, {0.4, 1}, {1, 0.5}, {0.4, 0.5}}))
		slack := 0.15 * max(terms.C, terms.G, terms.L)
		within := func(r [2]float64, v float64) bool { return r[0]-slack <= v && v <= r[1]+slack }
		if within(f.C, terms.C) && within(f.G, terms.G) && within(f.L, terms.L) {
			held++
		}
	}
	assert.Greater(t, float64(held)/float64(models), 0.9)
}

// TestForecastsHoldTheTruth: a rig and a use with any true figures within what is told;
// the forecast of the use, and of a change, holds what comes of them.
func TestForecastsHoldTheTruth(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		at := func(name string, low, high float64) float64 { return rapid.Float64Range(low, high).Draw(t, name) }
		mb, g, c, p := at("mb", frameMB[0], frameMB[1]), at("g", cardMS[0], cardMS[1]), at("c", 0, cardMS[1]), at("p", 2, 6)
		net, thenNet := at("net", 0.2, 7), at("then", 0.2, 7)
		ratio := at("ratio", 0.5, 2)
		r := rig.New("rig")
		w := rig.Work{Name: "use"}
		tell := func(name string, f *rig.Fact[float64], v float64) {
			if rapid.Bool().Draw(t, name) {
				*f = rig.Of(v)
				f.Exact = true
			}
		}
		tell("tells mb", &w.FrameMB, mb)
		tell("tells card", &w.CardHz, 1000/g)
		tell("tells processor", &w.ProcHz, 1000/max(c, 0.1))
		if w.ProcHz.Known {
			c = max(c, 0.1)
		}
		r.Brief.Works = []rig.Work{w}
		truth := Terms{C: c, G: g, L: mb / net}.Frame(p)
		with := Terms{C: c, G: g / ratio, L: mb / thenNet}.Frame(p)
		exactly := func(v float64) units.Range[units.GigabytePerSecond] {
			return units.Exactly(units.GigabytePerSecond(v))
		}
		f := Make(
			r, Link{Net: exactly(net)}, r, exactly(thenNet),
			Ratios{Card: [2]float64{ratio, ratio}, Processor: [2]float64{1, 1}, Pixels: [2]float64{1, 1}},
		)
		u := f.Uses[0]
		holds := func(r [2]float64, v float64) bool { return r[0]-1e-4 <= v && v <= r[1]+1e-4*(1+v) }
		require.True(t, holds(u.Now.Share, g/truth), "%v of %v", u.Now.Share, g/truth)
		require.True(t, holds(*u.Change, truth/with-1), "%v of %v", *u.Change, truth/with-1)
		if u.Now.Rate != nil {
			require.True(t, holds(*u.Now.Rate, 1000/truth), "%v of %v", *u.Now.Rate, 1000/truth)
		}
		same := Make(r, Link{Net: exactly(net)}, r, exactly(net), Same)
		require.InDelta(t, 0, same.Uses[0].Change[0], 1e-12, "no change brings nothing")
		require.InDelta(t, 0, same.Uses[0].Change[1], 1e-12)
	})
}

// TestEnoughAndWhatNarrows: yes, perhaps and no; work that fills the card once, and a
// stream; what would narrow the range is what is not told.
func TestEnoughAndWhatNarrows(t *testing.T) {
	r := rig.New("rig")
	exact := func(v float64) rig.Fact[float64] { f := rig.Of(v); f.Exact = true; return f }
	use := func(w rig.Work, net float64) UseForecast {
		w.Name = "use"
		r.Brief.Works = []rig.Work{w}
		return Make(r, Link{Net: units.Exactly(units.GigabytePerSecond(net))}, nil, units.Range[units.GigabytePerSecond]{}, Same).Uses[0]
	}
	told := rig.Work{FrameMB: exact(10), CardHz: exact(100), ProcHz: exact(200), TodayHz: exact(20)}
	for enough, want := range map[float64]string{10: "yes", 95: "perhaps", 400: "no"} {
		w := told
		w.EnoughHz = exact(enough)
		assert.Equal(t, want, use(w, 3).Enough)
	}
	assert.Empty(t, use(told, 3).Narrow)
	assert.Empty(t, use(told, 3).Enough, "nothing says what is enough")
	assert.Len(t, use(rig.Work{}, 3).Narrow, 4)
	assert.Equal(t, filled, use(rig.Work{Fills: rig.Of(true)}, 0.2).Now.Share)
	stream := rig.Work{Encoder: rig.Of("hevc"), Stream: rig.Of(true)}
	assert.Equal(t, encoding, use(stream, 0.5).Now.Share)
	assert.Less(t, use(stream, 0.1).Now.Share[0], encoding[0], "below 0.4 GB/s its raw frames count")
	panel := use(told, 0.4).Now.Share
	r.Brief.Screen = rig.Screen{Kind: rig.Of(rig.ScreenKind("own-panel")), Width: rig.Of(1920), Height: rig.Of(1080)}
	assert.Less(t, use(told, 0.4).Now.Share[1], panel[1], "the host's own panel takes its frames back over the link")
	gain := use(told, 3).Now.Gain
	assert.InDelta(t, use(told, 3).Now.Rate[0]/20, gain[0], 1e-12)
}
