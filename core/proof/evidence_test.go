package proof

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"kolvan/core/rig"
	"kolvan/core/units"
)

// TestEvidenceSpeaksForWhatItShows: what other machines, other resolutions, generations and
// drives show, each for what it speaks for; what proves nothing says so and weighs nothing.
func TestEvidenceSpeaksForWhatItShows(t *testing.T) {
	with := func(hz float64, how ...func(*rig.Run)) rig.Run { return rated("after", hz, how...) }
	there := func(hz float64, how ...func(*rig.Run)) rig.Run {
		r := rated("elsewhere", hz, append(how, at(1920, 1080))...)
		r.Machine = "the hall's tower"
		return r
	}
	parts := func(processor, card float64) func(*rig.Run) {
		return func(r *rig.Run) { r.ProcSub, r.CardSub = rig.Of(processor), rig.Of(card) }
	}
	on := func(drive string, low float64) func(*rig.Run) {
		return func(r *rig.Run) { r.Drive, r.Low01 = drive, rig.Of(low) }
	}
	onMean := func(drive string, low float64) func(*rig.Run) {
		return func(r *rig.Run) { r.Drive, r.Low01M = drive, rig.Of(low) }
	}
	busy := func(card, processor units.Share) func(*rig.Run) {
		return func(r *rig.Run) { r.Busy, r.ProcUse = rig.Of(card), rig.Of(processor) }
	}
	held := func(gen int) func(*rig.Run) { return func(r *rig.Run) { r.Gen = rig.Of(gen) } }
	ofCard := func(name string) func(*rig.Run) { return func(r *rig.Run) { r.Card = name } }
	base := at(1920, 1080)
	for name, c := range map[string]struct {
		runs []rig.Run
		says string
		of   string
	}{
		"as fast elsewhere": {[]rig.Run{with(60, base), there(61)}, "the same rate as on the hall's tower", "card"},
		"faster elsewhere": {
			[]rig.Run{with(60, base), there(120)}, "50 % of its rate on the hall's tower: it is not the card", "",
		},
		"elsewhere made otherwise": {[]rig.Run{with(60, base), there(60, func(r *rig.Run) { r.Preset = "low" })}, "", ""},
		"processor's part lower": {
			[]rig.Run{with(60, base, parts(500, 900)), there(60, parts(900, 900))}, "the processor's part of the score is lower",
			"processor",
		},
		"card's part lower": {
			[]rig.Run{with(60, base, parts(900, 500)), there(60, parts(900, 900))}, "the card's part of the score is lower",
			"link",
		},
		"unmoved by the resolution": {
			[]rig.Run{with(60, base), with(59.5, at(3840, 2160))}, "the rate is unmoved by the resolution", "",
		},
		"falls with the pixels": {
			[]rig.Run{with(60, base), with(18, at(3840, 2160))}, "with 4 times the pixels the rate falls to 30 %", "card",
		},
		"told the other way round": {
			[]rig.Run{with(18, at(3840, 2160)), with(60, base)}, "with 4 times the pixels the rate falls to 30 %", "card",
		},
		"follows the generation":         {[]rig.Run{with(60, base), with(30, base, held(1))}, "the rate follows the generation", "link"},
		"hardly moved by the generation": {[]rig.Run{with(60, base), with(58, base, held(1))}, "", ""},
		"stalls follow the drive": {
			[]rig.Run{with(60, base, on("USB drive", 12)), with(60, base, on("m2-b", 40))}, "its stalls follow the drive", "drive",
		},
		"stalls the same on either drive": {[]rig.Run{with(60, base, on("USB drive", 39)), with(60, base, on("m2-b", 40))}, "", ""},
		"stalls follow the drive, by the other school": {
			[]rig.Run{with(60, base, onMean("USB drive", 12)), with(60, base, onMean("m2-b", 40))}, "its stalls follow the drive", "drive",
		},
		"the processor is full and the card waits": {
			[]rig.Run{with(60, base, busy(0.33, 1))}, "the processor is 100 % busy and the card 33 %", "processor",
		},
		"exactly as busy as a waiting card may be": {[]rig.Run{with(60, base, busy(0.6, 1))}, "", ""},
		"a processor that is nearly full":          {[]rig.Run{with(60, base, busy(0.33, 0.94))}, "", ""},
		"another card, as fast": {
			[]rig.Run{with(60, base), with(61, base, ofCard("Tern 8G"))},
			"as fast as with Tern 8G in this host: it is not the card", "",
		},
		"another card, slower": {
			[]rig.Run{with(60, base), with(30, base, ofCard("Tern 8G"))}, "2 times as fast as with Tern 8G", "card",
		},
		"another card, made otherwise": {[]rig.Run{with(60, base), with(60, at(1280, 720), ofCard("Tern 8G"))}, "", ""},
		"an overall score": {
			[]rig.Run{{Name: "s", Use: "stacking", Side: rig.Of[rig.RunSide]("after"), Score: rig.Of(5000.0)}},
			"an overall score does not tell", "",
		},
	} {
		r := rig.New("rig")
		r.Runs = c.runs
		p := PinchOf(r, "stacking", carried)
		found := ""
		for _, e := range p.Evidence {
			if c.says != "" && strings.HasPrefix(e.Says, c.says) || c.says == "" {
				found = e.Says
				assert.Equal(t, c.of, e.For, name)
				assert.Equal(t, e.For == "" && e.Not == "", e.Weight == 1, name)
			}
		}
		if c.says == "" {
			assert.Empty(t, found, name)
		} else {
			assert.NotEmpty(t, found, "%s: %v", name, p.Evidence)
		}
	}
}

// TestOnlyRunsMadeAlikeAreFitted: a run with another setting is no point of the same curve,
// nor one that the screen held up; what most of them agree in is taken.
func TestOnlyRunsMadeAlikeAreFitted(t *testing.T) {
	low := func(r *rig.Run) { r.Preset = "low" }
	synced := func(r *rig.Run) { r.Sync = rig.Of(true) }
	runs := []rig.Run{
		rated("after", 60, at(1920, 1080)), rated("after", 200, at(1280, 720), low), rated("after", 30, at(3840, 2160)),
		rated("after", 59, at(2560, 1440), synced),
	}
	points := pointsOf(pointersTo(runs), carried)
	assert.Len(t, points, 2)
	assert.InDelta(t, 4, points[1].Pixels/points[0].Pixels, 1e-9)
	runs = append(runs, rated("after", 190, at(1280, 720), low, held), rated("after", 90, at(1920, 1080), low))
	assert.Len(t, pointsOf(pointersTo(runs), carried), 3, "now most are made at low")
}

// TestMeasuredShareStaysWithinWhatIsPossible: a rate with the card over its own rate elsewhere
// narrows what was planned, and never leaves it.
func TestMeasuredShareStaysWithinWhatIsPossible(t *testing.T) {
	w := &rig.Work{Name: "stacking", CardHz: rig.Of(100.0)}
	share := func(planned [2]float64, hz ...float64) [2]float64 {
		var runs []*rig.Run
		for _, v := range hz {
			run := rated("after", v)
			runs = append(runs, &run)
		}
		return measuredShare(runs, w, planned)
	}
	assert.Equal(t, [2]float64{0.1, 1}, share([2]float64{0.1, 1}), "nothing was measured")
	narrowed := share([2]float64{0.1, 1}, 50)
	assert.InDelta(t, 0.45, narrowed[0], 1e-9)
	assert.InDelta(t, 0.55, narrowed[1], 1e-9)
	assert.Equal(t, [2]float64{0.7, 0.9}, share([2]float64{0.7, 0.9}, 20), "where both have nothing in common what was planned stands")
	wide := share([2]float64{0, 1}, 20, 50, 80)
	assert.Less(t, wide[0], 0.35)
	assert.Greater(t, wide[1], 0.65, "runs that lie apart tell less")
	w.CardHz = rig.Fact[float64]{}
	assert.Equal(t, [2]float64{0.1, 1}, share([2]float64{0.1, 1}, 50))
}
