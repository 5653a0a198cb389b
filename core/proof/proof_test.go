package proof

import (
	"bytes"
	"compress/gzip"
	"errors"
	"fmt"
	"math"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/text/encoding/unicode"
	"pgregory.net/rapid"
)

func read(t *testing.T, text string, o Options) *Capture {
	c, err := Read(strings.NewReader(text), o)
	require.NoError(t, err, text[:min(len(text), 200)])
	return c
}

// frames makes a table of lines, with a head or none.
func frames(head string, line func(i int, ms, at float64) string) string {
	var b strings.Builder
	if head != "" {
		b.WriteString(head + "\n")
	}
	at := 0.0
	for i := range 60 {
		ms := 10 + float64(i%7)
		b.WriteString(line(i, ms, at) + "\n")
		at += ms
	}
	return b.String()
}

// TestTableStyles: the column and its unit are found by head and numbers, whatever the
// table looks like.
func TestTableStyles(t *testing.T) {
	comma := func(format string, v ...any) string { return strings.ReplaceAll(fmt.Sprintf(format, v...), ".", ",") }
	mean, all := 0.0, 0
	for i := range 60 {
		mean += 10 + float64(i%7)
	}
	mean /= 60
	for name, c := range map[string]struct {
		text   string
		column Column
		frames int
	}{
		"comma, ms in brackets": {
			frames("n,Frame Time (ms),busy", func(i int, ms, _ float64) string { return fmt.Sprintf("%d,%.3f,9.9", i, ms) }),
			Column{"Frame Time (ms)", 1, "ms", false, false}, 60,
		},
		"semicolon, decimal comma": {
			frames("frametime_ms;busy", func(_ int, ms, _ float64) string { return comma("%.3f;%.3f", ms, 1.5) }),
			Column{"frametime_ms", 0, "ms", false, false}, 60,
		},
		"tab, seconds": {
			frames("scene\tframe_time_s", func(_ int, ms, _ float64) string { return fmt.Sprintf("a\t%.6f", ms/1000) }),
			Column{"frame_time_s", 1, "s", false, false}, 60,
		},
		"bar, microseconds": {
			frames("FrameDuration[us]|x", func(_ int, ms, _ float64) string { return fmt.Sprintf("%.0f|1", ms*1000) }),
			Column{"FrameDuration[us]", 0, "us", false, false}, 60,
		},
		"camel, between": {
			frames("App,MsBetweenFrames", func(_ int, ms, _ float64) string { return fmt.Sprintf("x,%.3f", ms) }),
			Column{"MsBetweenFrames", 1, "ms", false, false}, 60,
		},
		"stamps in seconds": {
			frames("TimeInSeconds,x", func(_ int, _, at float64) string { return fmt.Sprintf("%.6f,1", at/1000) }),
			Column{"TimeInSeconds", 0, "s", true, false}, 59,
		},
		"stamps in ms, a count first": {
			frames("frame,time (ms)", func(i int, _, at float64) string { return fmt.Sprintf("%d,%.3f", i, at) }),
			Column{"time (ms)", 1, "ms", true, false}, 59,
		},
		"stamps in ns": {
			frames("timestamp", func(_ int, _, at float64) string { return fmt.Sprintf("%.0f", 5e9+at*1e6) }),
			Column{"timestamp", 0, "ns", true, false}, 59,
		},
		"no head, one column": {
			frames("", func(_ int, ms, _ float64) string { return fmt.Sprintf("%.3f", ms) }), Column{"", 0, "ms", false, false}, 60,
		},
		"one column, decimal comma": {
			frames("frametime", func(_ int, ms, _ float64) string { return comma("%.2f", ms) }),
			Column{"frametime", 0, "ms", false, false}, 60,
		},
		"quoted": {
			frames(`"app, long","frame time, ms"`, func(_ int, ms, _ float64) string { return fmt.Sprintf(`"a, b","%.3f"`, ms) }),
			Column{"frame time, ms", 1, "ms", false, false}, 60,
		},
		"words before the head": {
			"captured on a bench\nversion 3\n\n" + frames(
				"frame time [ms],x", func(_ int, ms, _ float64) string { return fmt.Sprintf("%.3f,2", ms) },
			),
			Column{"frame time [ms]", 0, "ms", false, false}, 60,
		},
		"a line that says what it is": {
			"# a comment\n" + frames("dt_ms", func(_ int, ms, _ float64) string { return fmt.Sprintf("%.3f", ms) }),
			Column{"dt_ms", 0, "ms", false, false}, 60,
		},
		"carriage returns": {
			strings.ReplaceAll(
				frames("frametime_ms,x", func(_ int, ms, _ float64) string { return fmt.Sprintf("%.3f,0", ms) }), "\n", "\r\n",
			),
			Column{"frametime_ms", 0, "ms", false, false}, 60,
		},
	} {
		for _, wrapped := range []func(string) string{
			func(s string) string { return s }, func(s string) string { return "\ufeff" + s },
			func(s string) string {
				out, err := unicode.UTF16(unicode.LittleEndian, unicode.UseBOM).NewEncoder().String(s)
				require.NoError(t, err)
				return out
			},
			func(s string) string {
				out, err := unicode.UTF16(unicode.BigEndian, unicode.IgnoreBOM).NewEncoder().String(s)
				require.NoError(t, err)
				return out
			},
			func(s string) string {
				var b bytes.Buffer
				z := gzip.NewWriter(&b)
				_, err := z.Write([]byte(s))
				require.NoError(t, errors.Join(err, z.Close()))
				return b.String()
			},
		} {
			all++
			capture := read(t, wrapped(c.text), Options{})
			require.Equal(t, c.column, capture.Column, name)
			require.Len(t, capture.Series, 1, name)
			s := capture.Series[0].Stats(1)
			assert.Equal(t, c.frames, s.Frames, name)
			assert.Zero(t, s.Dropped, name)
			if c.frames == 60 {
				assert.InDelta(t, 1000/mean, s.Average, 1e-9*1000/mean, name)
			}
		}
	}
	assert.Equal(t, 70, all)
}

// TestRowsThatAreNoFrames are dropped and counted; no difference spans them, a head that
// comes again begins a pass, and processes are told apart.
func TestRowsThatAreNoFrames(t *testing.T) {
	stamps := read(t, "time_s\n0.00\n0.01\nlost\n0.05\n0.06\n0.02\n0.03\n", Options{})
	s := stamps.Series[0]
	assert.Equal(t, 3, s.Frames(), "0 to 10, 50 to 60 and 20 to 30 ms")
	assert.Equal(t, 2, s.Dropped, "a word, and a clock that went back")
	assert.InDelta(t, 0.03, s.Seconds(), 1e-12)

	body := "frametime_ms,dropped\n10,0\n-3,0\n0,0\n12,1\nnan,0\n\n11,0\n"
	again := read(t, body+body, Options{})
	require.Len(t, again.Series, 2)
	assert.Equal(t, "pass 2", again.Series[1].Name)
	for _, one := range again.Series {
		assert.Equal(t, 3, one.Frames(), "one that another column flags counts")
		assert.Equal(t, 3, one.Dropped)
	}
	apps := read(t, "process,frame time ms\na,10\nb,20\na,11\nb,21\nb,22\n", Options{})
	require.Len(t, apps.Series, 2)
	assert.Equal(t, 3, apps.Of("").Frames(), "the one with most")
	assert.Equal(t, 2, apps.Of("a").Frames())
	assert.Nil(t, apps.Of("c"))
	assert.Equal(t, []string{"process", "frame time ms"}, apps.Head)
	assert.Equal(t, []string{"a", "10"}, apps.First[0])
}

// TestWhatIsNoCapture is refused with what would be accepted; a unit that nothing declares
// is asked for where two are possible.
func TestWhatIsNoCapture(t *testing.T) {
	lines := func(head, v string) string { return head + "\n" + strings.Repeat(v+"\n", 30) }
	for text, says := range map[string]string{
		"":                              "empty",
		"colour,taste\nred,sweet\n":     "its head does not tell",
		"frametime_ms\nall\nof\nthem\n": "at least one row",
		lines("frametime", "0.5"):       "declares: ms or s",
		lines("frametime", "500000"):    "declares: us or ns",
		lines("frametime", "1e12"):      "numbers that are frame times",
		"\x1f\x8bnot really":            "gzip",

		strings.Repeat("x,", 512) + "x\n" + strings.Repeat("1,", 512) + "1\n": "513 columns",
		lines("frametime_ms", strings.Repeat("1", 64<<10)):                    "64 KiB",
	} {
		_, err := Read(strings.NewReader(text), Options{})
		require.Error(t, err, text[:min(len(text), 20)])
		var wrong *Error
		require.True(t, errors.As(err, &wrong), "%v", err)
		assert.Contains(t, err.Error(), says)
	}
	told := read(t, lines("frametime", "0.5"), Options{Unit: "s"})
	assert.InDelta(t, 2, told.Series[0].Stats(1).Average, 1e-9)
	chosen := read(t, lines("busy,frametime_ms", "7,9"), Options{Column: "BUSY", Unit: "ms"})
	assert.InDelta(t, 7, chosen.Series[0].Stats(1).Median, 1e-9)
	wide := strings.Repeat(strings.Repeat("7e9,", 511)+"x\n", 400) // nothing in it is a frame
	_, err := Read(strings.NewReader(wide), Options{})
	require.Error(t, err)
	atLimit := lines("a,frametime_ms"+strings.Repeat(",a", 510), "x,9"+strings.Repeat(",x", 510))
	assert.InDelta(t, 9, read(t, atLimit, Options{}).Series[0].Stats(1).Median, 1e-9, "512 columns")
	_, err = Read(strings.NewReader(lines("frametime_ms", "10.000")), Options{Most: 100})
	assert.ErrorContains(t, err, "0 MiB at most, after inflating")
	var cut bytes.Buffer
	z := gzip.NewWriter(&cut)
	_, err = z.Write([]byte(lines("frametime_ms", "10")))
	require.NoError(t, errors.Join(err, z.Close()))
	_, err = Read(bytes.NewReader(cut.Bytes()[:cut.Len()-12]), Options{})
	require.Error(t, err, "damaged")
}

// naive works the figures out as the reference says, over all frames at once.
func naive(all []float64) map[string]float64 {
	sorted := slices.Sorted(slices.Values(all))
	sum := 0.0
	for _, v := range all {
		sum += v
	}
	percentile := func(p float64) float64 {
		at := p * float64(len(sorted)-1)
		low := int(math.Floor(at))
		return sorted[low] + (at-float64(low))*(sorted[min(low+1, len(sorted)-1)]-sorted[low])
	}
	tail := func(share float64) (mean float64) {
		n := int(math.Ceil(share * float64(len(sorted))))
		for _, v := range sorted[len(sorted)-n:] {
			mean += v / float64(n)
		}
		return mean
	}
	return map[string]float64{
		"average_hz": float64(len(all)) / (sum / 1000),
		"median_ms":  percentile(0.5),
		"p99_ms":     percentile(0.99),
		"p999_ms":    percentile(0.999),
		"low1_p99_hz": 1000 / percentile(
			0.99,
		),
		"low1_mean_hz":  1000 / tail(0.01),
		"low01_p99_hz":  1000 / percentile(0.999),
		"low01_mean_hz": 1000 / tail(0.001),
	}
}

func (s *Stats) byName() map[string]float64 {
	out := map[string]float64{"average_hz": s.Average, "median_ms": s.Median, "p99_ms": s.P99, "p999_ms": s.P999}
	for name, v := range map[string]*float64{
		"low1_p99_hz": s.Low1P99, "low1_mean_hz": s.Low1Mean, "low01_p99_hz": s.Low01P99, "low01_mean_hz": s.Low01Mean,
	} {
		if v != nil {
			out[name] = *v
		}
	}
	return out
}

// TestFiguresAreThoseOfTheReference: exact below a million frames, within a tenth of a per
// cent beyond; each interval holds its figure; lows are withheld below a thousand frames.
func TestFiguresAreThoseOfTheReference(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		rng := rand.New(rand.NewPCG(rapid.Uint64().Draw(t, "seed"), 1))
		s := &Series{}
		all := make([]float64, rapid.IntRange(1, 1500).Draw(t, "frames"))
		for i := range all {
			all[i] = math.Exp(rng.NormFloat64()*0.4 + 2.5)
			s.Add(all[i])
		}
		got := s.Stats(1)
		for name, v := range got.byName() {
			require.InEpsilon(t, naive(all)[name], v, 1e-9, name)
		}
		require.Equal(t, len(all) < 1000, got.Low1Mean == nil)
		require.Equal(t, len(all) < 1000, slices.Contains(got.Withheld, "low1_p99_hz"))
		require.Equal(t, len(all) >= 1000, slices.Contains(got.Warned, "low01_p99_hz"), "below ten thousand it is warned of")
		for name, ends := range got.Interval {
			require.LessOrEqual(t, ends[0], ends[1])
			if name == "average_hz" && got.Seconds > 10 {
				require.True(t, ends[0] <= got.Average && got.Average <= ends[1], "%v of %v", ends, got.Average)
			}
		}
	})
	s, all := &Series{}, make([]float64, 0, 1_200_000)
	rng := rand.New(rand.NewPCG(3, 4))
	stalls := 0
	for i := range cap(all) {
		ms := 8 + rng.NormFloat64()
		if i%5000 == 0 {
			ms, stalls = 80, stalls+1
		}
		all = append(all, ms)
		s.Add(ms)
	}
	got := s.Stats(1)
	assert.Equal(t, "within 0.05 %", got.Digest)
	for name, v := range got.byName() {
		bound := 0.001
		if name == "average_hz" {
			bound = 1e-9
		}
		assert.InEpsilon(t, naive(all)[name], v, bound, name)
	}
	assert.Equal(t, stalls, got.Stalls)
	assert.LessOrEqual(t, len(s.blocks), mostBlocks, "no more is kept of a longer capture")
	assert.Nil(t, s.times.exact)
}

// TestIntervalsHoldTheTruth in about nineteen of twenty captures of a known rate.
func TestIntervalsHoldTheTruth(t *testing.T) {
	held, captures := 0, 60
	for seed := range captures {
		rng := rand.New(rand.NewPCG(uint64(seed), 9))
		s := &Series{}
		for range 1200 {
			s.Add(10 + 2*rng.NormFloat64())
		}
		ends := s.Stats(uint64(seed)).Interval["average_hz"]
		if ends[0] <= 100 && 100 <= ends[1] {
			held++
		}
	}
	assert.InDelta(t, 0.95, float64(held)/float64(captures), 0.1)
}

// TestComparisons: a run against itself shows no difference; one a quarter faster shows
// that and no more; both ways round they are each other's ratio; unlike runs get no per
// cent.
func TestComparisons(t *testing.T) {
	run := func(name string, seed uint64, ms float64) Run {
		rng := rand.New(rand.NewPCG(seed, 5))
		s := &Series{Name: name}
		for range 12000 {
			s.Add(max(1, ms*(1+0.1*rng.NormFloat64())))
		}
		return Run{File: fmt.Sprint(name, seed), Series: s}
	}
	figure := func(c *Comparison, name string) Compared {
		i := slices.IndexFunc(c.Figures, func(f Compared) bool { return f.Name == name })
		require.GreaterOrEqual(t, i, 0, name)
		return c.Figures[i]
	}
	same := Compare([]Run{run("a", 1, 10)}, []Run{run("a", 2, 10)}, 1)
	for _, f := range same.Figures {
		assert.Equal(t, "no difference seen", f.Says, f.Name)
	}
	for _, runs := range []int{1, 4} {
		var before, after []Run
		for i := range runs {
			before, after = append(before, run("a", uint64(10+i), 10)), append(after, run("a", uint64(20+i), 8))
		}
		there, back := Compare(before, after, 1), Compare(after, before, 1)
		f := figure(there, "average_hz")
		assert.InDelta(t, 1.25, *f.Ratio, 0.01)
		assert.InDelta(t, 0.25, *f.Change, 0.01)
		assert.True(t, f.Interval[0] < *f.Change && *f.Change < f.Interval[1])
		assert.Equal(t, "better", f.Says)
		assert.Equal(t, "better", figure(there, "median_ms").Says, "less time a frame")
		assert.Equal(t, "worse", figure(back, "average_hz").Says)
		assert.InDelta(t, 1, *f.Ratio**figure(back, "average_hz").Ratio, 1e-12)
		assert.Equal(t, runs, there.Before.Runs)
	}
	unlike := Compare([]Run{run("a", 1, 10)}, []Run{run("b", 2, 8)}, 1)
	assert.Equal(t, []string{"process: a against b"}, unlike.Differs)
	assert.Nil(t, figure(unlike, "average_hz").Change)
	few := Run{File: "few", Series: &Series{}}
	for range 500 {
		few.Add(10)
	}
	short := Compare([]Run{few}, []Run{few}, 1)
	assert.Len(t, short.Figures, 2, "average and median; no lows of 500 frames")
	assert.InDelta(t, 0.2, Saved(10, 8), 1e-12)
	assert.InDelta(t, 1.25, Speedup(10, 8), 1e-12)
}

// TestNumbersAreReadExactly: as the standard reads them, in any spelling a table has.
func TestNumbersAreReadExactly(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		v := rapid.Float64Range(1e-6, 1e9).Draw(t, "v")
		text := rapid.SampledFrom([]string{"%.0f", "%.3f", "%.9f", "%g", " %.4f ", `"%.2f"`, "%e"}).Draw(t, "spelling")
		field := fmt.Sprintf(text, v)
		var want float64
		_, err := fmt.Sscan(strings.Trim(field, ` "`), &want)
		require.NoError(t, err)
		got, is := number([]byte(field), false)
		require.True(t, is, field)
		require.Equal(t, want, got, field)
		withComma, is := number([]byte(strings.Replace(field, ".", ",", 1)), true)
		require.True(t, is)
		require.Equal(t, want, withComma)
	})
	for _, none := range []string{"", " ", ".", "ten", "1.2.3", "NaN", "+Inf", "1e999", "12 ms", strings.Repeat("9", 50)} {
		_, is := number([]byte(none), false)
		assert.False(t, is, none)
	}
}

// BenchmarkWide reads a table of 512 columns in none of which a frame can be: 400 lines in
// which everything is looked at, and no more.
func BenchmarkWide(b *testing.B) {
	wide := strings.Repeat(strings.Repeat("7e9,", 511)+"x\n", 400)
	b.SetBytes(int64(len(wide)))
	for b.Loop() {
		_, err := Read(strings.NewReader(wide), Options{})
		require.Error(b, err)
	}
}
