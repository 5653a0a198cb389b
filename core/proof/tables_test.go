package proof

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// rows makes a table of sixty rows, about 60 Hz.
func sixty(head string, line func(i int, ms float64) string) string {
	return frames(head, func(i int, ms, _ float64) string { return line(i, ms+4) })
}

// TestTakenForWhatItIs: rates as rates, stamps as stamps, whatever the language; the middle of
// the frames is 17 ms in each.
func TestTakenForWhatItIs(t *testing.T) {
	comma := func(v float64) string { return strings.Replace(fmt.Sprintf("%.3f", v), ".", ",", 1) }
	for name, c := range map[string]struct {
		text, as string
		o        Options
		frames   int
	}{
		"a column of rates": {sixty("fps", func(_ int, ms float64) string { return fmt.Sprintf("%.4f", 1000/ms) }), "rates", Options{}, 60},
		"rates, unit told": {sixty("", func(_ int, ms float64) string { return fmt.Sprintf("%.4f", 1000/ms) }), "rates", Options{Unit: "Hz"},
			60},
		"another language": {sixty("Prozess-ID;Nr;Bildzeit [ms]",
			func(i int, ms float64) string { return fmt.Sprintf("4321;%d;%s", i, comma(ms)) }), "frame times", Options{}, 60},
		"quoted commas": {sixty(`"frame time (ms)",x`, func(_ int, ms float64) string { return `"` + comma(ms) + `",1` }), "frame times",
			Options{}, 60},
		"ms per frame": {sixty("ms per frame", func(_ int, ms float64) string { return fmt.Sprint(ms) }), "frame times", Options{}, 60},
		"a unit alone": {sixty("ms", func(_ int, ms float64) string { return fmt.Sprint(ms) }), "frame times", Options{}, 60},
		"all there is": {sixty("blorp (ms)", func(_ int, ms float64) string { return fmt.Sprint(ms) }), "frame times", Options{}, 60},
		"a line end in it": {sixty("note,frametime_ms", func(_ int, ms float64) string { return fmt.Sprintf("\"a\nb\",%v", ms) }),
			"frame times", Options{}, 60},
		"a count before": {sixty("", func(i int, ms float64) string { return fmt.Sprintf("%d,%v", i, ms) }), "frame times", Options{}, 60},
		"an unknown head": {sixty("pid,n,blorp", func(i int, ms float64) string { return fmt.Sprintf("4321,%d,%v", i, ms) }), "frame times",
			Options{Unit: "ms"}, 60},
		"by its number": {sixty("blip,blorp", func(i int, ms float64) string { return fmt.Sprintf("%d,%v", 900-i, ms) }), "frame times",
			Options{Column: "2", Unit: "ms"}, 60},
		"times of day": {sixty("Uhrzeit;x", func(i int, _ float64) string { return fmt.Sprintf("12:00:%06.3f;9", 0.017*float64(i)) }),
			"time stamps", Options{}, 59},
		"frames before power": {sixty("time (s),MsBetweenPresents,power (W)",
			func(i int, ms float64) string { return fmt.Sprintf("%d,%v,160", i, ms) }), "frame times", Options{}, 60},
	} {
		c2 := read(t, c.text, c.o)
		require.Len(t, c2.Series, 1, name)
		s := c2.Series[0].Stats(1)
		assert.Equal(t, c.frames, s.Frames, name)
		assert.Zero(t, s.Dropped, name)
		assert.InDelta(t, 17, s.Median, 0.01, name)
		assert.Equal(t, c.as, c2.Taken[c2.Column.Index].As, name)
	}
}

// TestNothingIsGuessed: what no head tells is asked for, with what the columns look like.
func TestNothingIsGuessed(t *testing.T) {
	for text, says := range map[string]string{
		sixty("", func(_ int, ms float64) string { return fmt.Sprint(1000 / ms) }): "column 1: 50 to 71.429, " +
			"up and down",
		sixty("", func(i int, ms float64) string {
			return fmt.Sprintf("%d,%v", i,
				180+ms)
		}): "column 1: whole numbers growing by one",
		sixty("pid,n,blorp", func(i int, ms float64) string { return fmt.Sprintf("4321,%d,%v", i, ms) }):         `1 "pid": always 4321`,
		sixty("time", func(i int, _ float64) string { return fmt.Sprint(i) }):                                    "a count of rows",
		sixty("frame", func(i int, _ float64) string { return fmt.Sprint(i) }):                                   "a count of rows",
		sixty("voltage (V)", func(_ int, ms float64) string { return fmt.Sprint(ms) }):                           "up and down",
		sixty("time,card use (%)", func(i int, ms float64) string { return fmt.Sprintf("%d,%v", i, ms) }):        `2 "card use (%)"`,
		sixty("who;what", func(_ int, ms float64) string { return fmt.Sprintf("word;%v", ms) }):                  `words, like "word"`,
		sixty("run 1,run 2", func(_ int, ms float64) string { return fmt.Sprintf("%v,%v", ms, ms) }):             `1 "run 1"`,
		sixty("core 1 (ms),core 2 (ms)", func(_ int, ms float64) string { return fmt.Sprintf("%v,%v", ms, ms) }): `1 "core 1 (ms)"`,
	} {
		_, err := Read(strings.NewReader(text), Options{})
		require.Error(t, err, text[:40])
		assert.ErrorContains(t, err, says)
	}
	volts := sixty("voltage (V)", func(_ int, ms float64) string { return fmt.Sprint(ms) })
	_, err := Read(strings.NewReader(volts), Options{Column: "voltage (V)"})
	assert.ErrorContains(t, err, "this one is in v")
}

// TestPassesStandBesideEachOther: a column a pass, each its own series, one of them shorter.
func TestPassesStandBesideEachOther(t *testing.T) {
	text := sixty("Run 1 (ms);Run 2 (ms)", func(i int, ms float64) string {
		if i >= 40 {
			return fmt.Sprintf("%v;", ms)
		}
		return fmt.Sprintf("%v;%v", ms, 2*ms)
	})
	c := read(t, text, Options{})
	require.Len(t, c.Series, 2)
	assert.Equal(t, 60, c.Of("Run 1 (ms)").Frames())
	assert.Equal(t, 40, c.Of("Run 2 (ms)").Frames())
	assert.Zero(t, c.Of("Run 2 (ms)").Dropped, "it ended before")
}

// TestRatesBesideTimes: a row a second stands for as many frames as went by; none is no frame.
func TestRatesBesideTimes(t *testing.T) {
	s := read(t, "Time (s),FPS\n0,60\n1,30\n2,90\n3,0\n", Options{}).Series[0]
	assert.Equal(t, 1+30+90, s.Frames())
	assert.Equal(t, 1, s.Dropped)
}

// TestPausesAreSaid: a step of a second and more between stamps, thirty times the usual one.
func TestPausesAreSaid(t *testing.T) {
	stamps := func(pause float64) *Stats {
		at := 0.0
		text := frames("time_s", func(i int, _, _ float64) string {
			if at += 0.02; i == 30 {
				at += pause - 0.02
			}
			return fmt.Sprintf("%.4f", at)
		})
		return read(t, text, Options{}).Series[0].Stats(1)
	}
	assert.Zero(t, stamps(0.999).Pauses)
	assert.Equal(t, 1, stamps(1.001).Pauses)
	assert.InDelta(t, 1001, stamps(1.001).Longest, 0.01)
	times := read(t, "frametime_ms\n"+strings.Repeat("20\n", 40)+"5000\n", Options{}).Series[0].Stats(1)
	assert.Zero(t, times.Pauses, "a frame time was measured")
}
