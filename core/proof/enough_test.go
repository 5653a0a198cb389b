package proof

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"kolvan/core/coretest"
	"kolvan/core/rig"
)

// TestEnough: a rate, a worst 1 % and a time are each met, perhaps, or not; together as the
// worst of them, at the resolution that is told; what no run tells is perhaps, and a typed
// minimum counts once it is stated to be that.
func TestEnough(t *testing.T) {
	low := func(hz float64) func(*rig.Run) { return func(r *rig.Run) { r.Low1 = rig.Of(hz) } }
	minimum := func(hz float64, is rig.Minimum) func(*rig.Run) {
		return func(r *rig.Run) { r.Minimum, r.MinIs = rig.Of(hz), rig.Fact[rig.Minimum]{Value: is, Known: is != ""} }
	}
	took := func(s float64) func(*rig.Run) { return func(r *rig.Run) { r.Took = rig.Of(s) } }
	rate, both, time := rig.Work{EnoughHz: rig.Of(60.0)}, rig.Work{EnoughHz: rig.Of(60.0), EnoughLow: rig.Of(40.0)},
		rig.Work{EnoughS: rig.Of(300.0)}
	there := both
	there.EnoughWide, there.EnoughHigh = rig.Of(2560), rig.Of(1440)
	for name, c := range map[string]struct {
		w    rig.Work
		runs []rig.Run
		met  string
	}{
		"nothing is wanted":           {rig.Work{}, []rig.Run{rated("after", 60)}, ""},
		"all fast enough":             {rate, []rig.Run{rated("after", 61), rated("after", 60)}, "yes"},
		"one of two":                  {rate, []rig.Run{rated("after", 61), rated("after", 59)}, "perhaps"},
		"none":                        {rate, []rig.Run{rated("after", 59)}, "no"},
		"no run tells the worst":      {both, []rig.Run{rated("after", 80)}, "perhaps"},
		"fast, and its worst is not":  {both, []rig.Run{rated("after", 80, low(30))}, "no"},
		"both":                        {both, []rig.Run{rated("after", 80, low(41))}, "yes"},
		"a minimum of what":           {both, []rig.Run{rated("after", 80, minimum(50, ""))}, "perhaps"},
		"a minimum that is stated":    {both, []rig.Run{rated("after", 80, minimum(50, rig.MinimumLow1))}, "yes"},
		"stated to be something else": {both, []rig.Run{rated("after", 80, minimum(50, "slowest-second"))}, "perhaps"},
		"at another resolution":       {there, []rig.Run{rated("after", 80, low(60), at(1920, 1080))}, "perhaps"},
		"at the one that is wanted": {
			there, []rig.Run{rated("after", 80, low(60), at(1920, 1080)), rated("after", 50, low(30), at(2560, 1440))}, "no",
		},
		"done in time":  {time, []rig.Run{rated("after", 0, took(300))}, "yes"},
		"done too late": {time, []rig.Run{rated("after", 0, took(301))}, "no"},
	} {
		met, _ := EnoughOf(&c.w, pointersTo(c.runs))
		assert.Equal(t, c.met, met, name)
	}
	_, wants := EnoughOf(&there, nil)
	assert.Equal(t, "60 Hz and a worst 1 % of 40 Hz at 2560 × 1440", wants)

	rates := Expected{Ends: Ends{Rate: &[2]float64{50, 90}}}
	for want, w := range map[string]rig.Work{
		"perhaps": rate, "no": {EnoughHz: rig.Of(40.0), EnoughLow: rig.Of(95.0)}, "yes": {EnoughHz: rig.Of(50.0)},
	} {
		assert.Equal(t, want, enough(&w, &rates))
	}
	assert.Equal(t, "perhaps", enough(&time, &Expected{}), "no time is forecast")

	r := rig.New("rig")
	r.Runs = []rig.Run{rated("after", 60, at(1920, 1080)), rated("after", 20, at(3840, 2160))}
	r.Brief.Works = []rig.Work{{Name: "stacking", EnoughHz: rig.Of(55.0)}}
	link := Link{Net: carried(0), At: carried, Ref: coretest.Tables(t)}
	assert.Equal(t, "yes", Make(r, link, nil, link.Net, Same).Uses[0].Enough)
	r.Brief.Works[0].EnoughWide, r.Brief.Works[0].EnoughHigh = rig.Of(3840), rig.Of(2160)
	assert.Equal(t, "no", Make(r, link, nil, link.Net, Same).Uses[0].Enough, "at four times the pixels")
}
