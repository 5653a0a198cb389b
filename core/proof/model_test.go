package proof

import (
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"kolvan/core/coretest"
	"kolvan/core/reference"
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
func runsOf(rng *rand.Rand, terms Terms, p, a float64, at [][2]float64) []Point {
	return runsWith(Terms.Frame, rng, terms, p, a, at)
}

// runsWith makes them by a model, in which the link overlaps or adds.
func runsWith(model func(Terms, float64) float64, rng *rand.Rand, terms Terms, p, a float64, at [][2]float64) (points []Point) {
	for _, one := range at { // pixels, net against the first
		frame := model(Terms{C: terms.C, G: terms.G * math.Pow(one[0], a), L: terms.L / one[1]}, p)
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
		f := Fit(runsWith([...]func(Terms, float64) float64{Terms.Frame, Terms.Added}[i/3%2], rng, terms, p, a, [][2]float64{{1, 1}, {0.4, 1},
			{1, 0.5}, {0.4, 0.5}}))
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

// drawnUse is a use of any sort with true figures within what its sort spans at the utmost, of
// which any part is told.
func drawnUse(t *rapid.T, ref *reference.Tables) (w rig.Work, truth truly) {
	at := func(name string, r [2]float64) float64 {
		if r[1] <= r[0] {
			return r[0]
		}
		return rapid.Float64Range(r[0], r[1]).Draw(t, name)
	}
	row := rapid.SampledFrom(ref.Uses).Draw(t, "sort")
	for row.OverGiB[1] > 0 || row.Per == "job" {
		row = ref.Uses[0]
	}
	if row.Kind != "" {
		w.Kind = rig.Of(row.Kind)
	}
	w.Name = "use"
	truth = truly{c: at("c", row.ProcessorMSMost), g: at("g", row.CardMSMost), mb: at("mb", row.MBMost),
		p: at("p", utmostOpen.overlap), shown: at("shown", utmostOpen.shown), a: at("a", utmostOpen.pixels), b: at("b", utmostOpen.bytes)}
	if row.PixelBytes[1] > 0 {
		truth.mb = at("bytes", row.PixelBytesMost) * usualWide * usualHigh / 1e6
	}
	tell := func(name string, f *rig.Fact[float64], v float64) {
		if rapid.Bool().Draw(t, name) {
			*f = rig.Of(v)
			f.Exact = true
		}
	}
	truth.c = max(truth.c, 0.1)
	tell("tells mb", &w.FrameMB, truth.mb)
	tell("tells card", &w.CardHz, 1000/truth.g)
	tell("tells processor", &w.ProcHz, 1000/truth.c)
	return w, truth
}

// truly are the true figures of a use.
type truly struct{ c, g, mb, p, shown, a, b float64 }

func (w truly) frame(net, card, processor, pixels float64) float64 {
	t := Terms{C: w.c / processor, G: w.g / card * math.Pow(pixels, w.a), L: w.shown * w.mb * math.Pow(pixels, w.b) / net}
	return t.Added(w.p)
}

func exactly(v float64) units.Range[units.GigabytePerSecond] {
	return units.Exactly(units.GigabytePerSecond(v))
}

// TestForecastsHoldTheTruth: a use of any sort with any true figures; the forecast of it, and of a
// change of card, link and pixels, holds what comes of them, and what is expected most often lies
// within.
func TestForecastsHoldTheTruth(t *testing.T) {
	ref := coretest.Tables(t)
	rapid.Check(t, func(t *rapid.T) {
		w, truth := drawnUse(t, ref)
		at := func(name string, low, high float64) float64 { return rapid.Float64Range(low, high).Draw(t, name) }
		net, thenNet, card, pixels := at("net", 0.2, 7), at("then", 0.2, 7), at("card", 0.5, 2), at("pixels", 0.25, 4)
		r := rig.New("rig")
		r.Brief.Works = []rig.Work{w}
		link := Link{Net: exactly(net), Ref: ref}
		u := Make(r, link, r, exactly(thenNet), Ratios{Card: [2]float64{card, card}, Processor: [2]float64{1, 1},
			Pixels: [2]float64{pixels, pixels}}).Uses[0]
		before, with := truth.frame(net, 1, 1, 1), truth.frame(thenNet, card, 1, pixels)
		holds := func(what string, r [2]float64, v float64) {
			require.True(t, r[0]-1e-3*(1+math.Abs(v)) <= v && v <= r[1]+1e-3*(1+math.Abs(v)), "%s: %v of %v", what, r, v)
		}
		if !streams(&w) {
			holds("share", u.Now.Share, truth.g/before)
			holds("change", *u.Change, before/with-1)
			if u.Now.Rate != nil {
				holds("rate", *u.Now.Rate, 1000/before)
				holds("rate then", *u.Then.Rate, 1000/with)
			}
		}
		for _, e := range []*Expected{&u.Now, u.Then} {
			holds("likely, low", e.Share, e.Likely.Share[0])
			holds("likely, high", e.Share, e.Likely.Share[1])
		}
		holds("likely change, low", *u.Change, u.ChangeLikely[0])
		holds("likely change, high", *u.Change, u.ChangeLikely[1])
		same := Make(r, link, r, exactly(net), Same)
		require.InDelta(t, 0, same.Uses[0].Change[0], 1e-12, "no change brings nothing")
		require.InDelta(t, 0, same.Uses[0].Change[1], 1e-12)
	})
}

// TestForecastsAreMonotone in what the link carries, in pixels, processor, card and the cap on its
// power: more of what is quicker never gives a slower rate, nor more pixels a quicker one.
func TestForecastsAreMonotone(t *testing.T) {
	ref := coretest.Tables(t)
	rapid.Check(t, func(t *rapid.T) {
		w, truth := drawnUse(t, ref)
		w.CardHz = rig.Of(1000 / truth.g)
		r := rig.New("rig")
		r.Card.Power = rig.Of[units.Watt](200)
		if rapid.Bool().Draw(t, "on its own panel") {
			r.Brief.Screen = rig.Screen{Kind: rig.Of(rig.OwnPanel)}
		}
		net := rapid.Float64Range(0.2, 7).Draw(t, "net")
		up := rapid.Float64Range(1, 3).Draw(t, "by")
		cap := rapid.Float64Range(80, 199).Draw(t, "cap")
		expect := func(net, card, processor, pixels float64, cap units.Watt) Expected {
			r.Card.Cap = rig.Of(cap)
			return ExpectOf(r, &w, Link{Net: exactly(net), Ref: ref}, Ratios{[2]float64{card, card}, [2]float64{processor, processor},
				[2]float64{pixels, pixels}})
		}
		base := expect(net, 1, 1, 1, units.Watt(cap))
		for what, more := range map[string]Expected{
			"link": expect(net*up, 1, 1, 1, units.Watt(cap)), "card": expect(net, up, 1, 1, units.Watt(cap)), "processor": expect(net, 1, up, 1,
				units.Watt(cap)),
			"fewer pixels": expect(net, 1, 1, 1/up, units.Watt(cap)), "a higher cap": expect(net, 1, 1, 1, min(200, units.Watt(cap*up))),
		} {
			for i := range 2 {
				require.GreaterOrEqual(t, more.Rate[i], base.Rate[i]*(1-1e-9), what)
				require.GreaterOrEqual(t, more.Likely.Rate[i], base.Likely.Rate[i]*(1-1e-9), "%s, most often", what)
			}
		}
	})
}

// TestWhatOverflowsLosesItsSpeed: a use that needs more than the card's memory loses most of it over
// few lanes, and nothing where it fits.
func TestWhatOverflowsLosesItsSpeed(t *testing.T) {
	ref := coretest.Tables(t)
	r := rig.New("rig")
	r.Card.Memory = rig.Of[units.Gibibyte](8)
	share := func(kind rig.UseKind, need units.Gibibyte, net float64) Ends {
		w := rig.Work{Name: "use", Kind: rig.Of(kind), Memory: rig.Of(need)}
		return ExpectOf(r, &w, Link{Net: exactly(net), Ref: ref}, Same).Likely
	}
	assert.Greater(t, share("game-stream", 8, 3.22).Share[0], 0.6, "exactly what there is")
	assert.Less(t, share("game-stream", 10, 0.8).Share[1], 0.6)
	assert.Less(t, share(rig.UseModel, 12, 3.22).Share[1], 0.1, "once a token")
	assert.Equal(t, filled, share(rig.UseRender, 8, 0.2).Share)
	assert.Less(t, share(rig.UseRender, 24, 0.2).Share[0], filled[0])
	over := rig.Work{Name: "use", Kind: rig.Of[rig.UseKind]("model-over"), Memory: rig.Of[units.Gibibyte](48)}
	assert.Equal(t, 0.3, ExpectOf(r, &over, Link{Net: exactly(0.8), Ref: ref}, Same).Share[1], "the processor works the rest")
}

// TestSharesAreThoseOfTheReference: a card that does 120 Hz by itself, with 4 MB a frame, over links
// of 12.9 to 0.2 GB/s.
func TestSharesAreThoseOfTheReference(t *testing.T) {
	for net, share := range map[float64]float64{12.9: 0.96, 3.22: 0.87, 1.6: 0.77, 0.8: 0.62, 0.2: 0.29} {
		frame := Terms{G: 1000.0 / 120, L: 4 / net}
		assert.InDelta(t, share, frame.G/frame.Added(4), 0.006, net)
	}
}

// TestACapIsForecast: watts against speed, as the table has it, and less of a loss where the link
// holds the use back too.
func TestACapIsForecast(t *testing.T) {
	ref := coretest.Tables(t)
	r := rig.New("rig")
	r.Card.Power = rig.Of[units.Watt](200)
	w := rig.Work{Name: "use", Kind: rig.Of(rig.UseRender)}
	r.Brief.Works = []rig.Work{w}
	capped := *r
	capped.Card.Cap = rig.Of[units.Watt](140)
	link := Link{Net: exactly(3), Ref: ref}
	u := Make(r, link, &capped, link.Net, Same).Uses[0]
	assert.InDelta(t, 0.97*0.86, u.Then.Likely.Share[0], 0.02)
	assert.Less(t, u.ChangeLikely[1], 0.0)
	w.Kind = rig.Of[rig.UseKind]("game-stream")
	r.Brief.Works = []rig.Work{w}
	slow := Make(r, Link{Net: exactly(0.4), Ref: ref}, &capped, exactly(0.4), Same).Uses[0]
	quick := Make(r, Link{Net: exactly(12), Ref: ref}, &capped, exactly(12), Same).Uses[0]
	assert.Greater(t, slow.ChangeLikely[0], quick.ChangeLikely[0])
	capped.Card.Cap = rig.Of[units.Watt](200)
	assert.InDelta(t, 0, Make(r, link, &capped, link.Net, Same).Uses[0].Change[0], 1e-12, "a cap at its power is none")
}

// TestEnoughAndWhatNarrows: yes, perhaps and no; work that fills the card once, and a
// stream; what would narrow the range is what is not told.
func TestEnoughAndWhatNarrows(t *testing.T) {
	r, ref := rig.New("rig"), coretest.Tables(t)
	exact := func(v float64) rig.Fact[float64] { f := rig.Of(v); f.Exact = true; return f }
	use := func(w rig.Work, net float64) UseForecast {
		w.Name = "use"
		r.Brief.Works = []rig.Work{w}
		return Make(r, Link{Net: exactly(net), Ref: ref}, nil, units.Range[units.GigabytePerSecond]{}, Same).Uses[0]
	}
	told := rig.Work{Kind: rig.Of[rig.UseKind]("game-rate"), FrameMB: exact(10), CardHz: exact(100), ProcHz: exact(200), TodayHz: exact(20)}
	for enough, want := range map[float64]string{10: "yes", 80: "perhaps", 400: "no"} {
		w := told
		w.EnoughHz = exact(enough)
		assert.Equal(t, want, use(w, 3).Enough)
	}
	assert.Empty(t, use(told, 3).Narrow)
	assert.Empty(t, use(told, 3).Enough, "nothing says what is enough")
	assert.Len(t, use(rig.Work{}, 3).Narrow, 5)
	assert.Equal(t, filled, use(rig.Work{Fills: rig.Of(true)}, 0.2).Now.Likely.Share)
	stream := rig.Work{Encoder: rig.Of("hevc"), Stream: rig.Of(true)}
	assert.Equal(t, encoding, use(stream, 0.5).Now.Likely.Share)
	assert.Less(t, use(stream, 0.1).Now.Share[0], encoding[0], "below 0.4 GB/s its raw frames count")
	panel := use(told, 0.4).Now.Share
	r.Brief.Screen = rig.Screen{Kind: rig.Of(rig.ScreenKind("own-panel")), Width: rig.Of(1920), Height: rig.Of(1080)}
	assert.Less(t, use(told, 0.4).Now.Share[1], panel[1], "the host's own panel takes its frames back over the link")
	gain := use(told, 3).Now.Gain
	assert.InDelta(t, use(told, 3).Now.Rate[0]/20, gain[0], 1e-12)
}

// TestMostOftenIsEightInTen: of uses drawn over the likely ranges of their sort, in programs whose
// exponents are anybody's, what comes lies where it is expected most often in eight of ten or more.
func TestMostOftenIsEightInTen(t *testing.T) {
	ref := coretest.Tables(t)
	draw := rand.New(rand.NewPCG(11, 13))
	between := func(r [2]float64) float64 { return r[0] * math.Pow(r[1]/r[0], draw.Float64()) }
	held, all := [2]int{}, 0
	for _, kind := range []rig.UseKind{"game-light", "game-rate", "game-stream"} {
		row := ref.Use(kind)
		for range 400 {
			net := 0.4 + 6*draw.Float64()
			own := truly{
				c: between(row.ProcessorMS), g: between(row.CardMS), mb: between(row.MB), p: between(utmostOpen.overlap),
				shown: between(utmostOpen.shown),
			}
			w := rig.Work{Name: "use", Kind: rig.Of(kind)}
			r := rig.New("rig")
			link := Link{Net: exactly(net), Ref: ref}
			share, ms := ExpectOf(r, &w, link, Same).Likely.Share, own.frame(net, 1, 1, 1)
			w.CardHz = rig.Of(1000 / own.g)
			rate := ExpectOf(r, &w, link, Same).Likely.Rate
			all++
			if share[0] <= own.g/ms && own.g/ms <= share[1] {
				held[0]++
			}
			if rate[0] <= 1000/ms && 1000/ms <= rate[1] {
				held[1]++
			}
		}
	}
	for _, of := range held {
		assert.Greater(t, float64(of)/float64(all), 0.75)
	}
}
