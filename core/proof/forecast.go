package proof

import (
	"cmp"
	"fmt"
	"math"
	"strconv"
	"strings"

	"kolvan/core/finding"
	"kolvan/core/rig"
	"kolvan/core/units"
)

// ForecastFormat is the format word of a forecast.
const ForecastFormat = "kolvan-forecast/1"

// A Forecast is what a change would bring to each use, as ranges.
type Forecast struct {
	Format   string            `json:"format"`
	Rig      string            `json:"rig"`
	Uses     []UseForecast     `json:"uses"`
	Findings []finding.Finding `json:"findings"`
}

// Link is what the link of a rig carries, and at a generation it is held to; At is nil
// where nobody can say.
type Link struct {
	Net units.Range[units.GigabytePerSecond]
	At  func(gen int) units.Range[units.GigabytePerSecond]

	kept map[string]lessons // of the uses of one rig; nil where none are kept
}

// Keeping keeps what the runs of a rig teach, for many forecasts of that rig.
func (l Link) Keeping() Link {
	l.kept = map[string]lessons{}
	return l
}

// UseForecast is one use now, and with the change.
type UseForecast struct {
	Use    string      `json:"use"`
	From   string      `json:"from"` // runs, where they explain it; else planning ranges
	Now    Expected    `json:"now"`
	Then   *Expected   `json:"then"`   // null without a change
	Change *[2]float64 `json:"change"` // then / now − 1; null while it is open
	Enough string      `json:"enough"` // yes, perhaps, no; empty where nothing says what is enough
	Narrow []string    `json:"narrow"` // what would narrow it
	Pinch  *PinchTold  `json:"pinch"`  // what holds it back; null without a run with the card
}

// Expected is what is expected of a use.
type Expected struct {
	Share [2]float64  `json:"share"`   // of the card's own speed that the rig lets through
	Rate  *[2]float64 `json:"rate_hz"` // null while the card's own rate is not told
	Gain  *[2]float64 `json:"gain"`    // over what the host does today; null while that is not told
}

// The planning ranges of a use of which nothing is told (P).
var (
	frameMB  = [2]float64{2, 15}
	cardMS   = [2]float64{4, 33}
	encodes  = 0.4 // GB/s from which a hardware encode of a stream is not held up
	filled   = [2]float64{0.97, 1}
	encoding = [2]float64{0.9, 1}
)

// bytesPerPixel of a frame that goes back over the link.
const bytesPerPixel = 4

// Ratios are how a change scales the card's and the processor's speed, as told or from
// runs; one for no change.
type Ratios struct{ Card, Processor, Pixels [2]float64 }

// Same is no change of either.
var Same = Ratios{[2]float64{1, 1}, [2]float64{1, 1}, [2]float64{1, 1}}

// RatioOf reads a ratio, or a range of it: 1.5; 1.3,1.7; 1.3 to 1.7.
func RatioOf(text string) (r [2]float64, err error) {
	low, high, two := strings.Cut(strings.Replace(text, " to ", ",", 1), ",")
	if !two {
		high = low
	}
	for i, part := range []string{low, high} {
		if r[i], err = strconv.ParseFloat(strings.TrimSpace(part), 64); err != nil || !(r[i] > 0 && r[i] <= 1000) {
			return r, fmt.Errorf("%q is not accepted; accepted: a ratio like 1.5, or a range like 1.3,1.7", text)
		}
	}
	if r[0] > r[1] {
		return r, fmt.Errorf("%q is not accepted; accepted: the lower end first", text)
	}
	return r, nil
}

// span is the ranges of the terms of a use.
type span struct{ c, g, mb [2]float64 }

// ExpectOf is what is expected of a use over a link of that net rate.
func ExpectOf(r *rig.Rig, w *rig.Work, net units.Range[units.GigabytePerSecond], ratios Ratios) Expected {
	var e Expected
	s := spanOf(w, ratios)
	switch {
	case w.FillsOnce():
		e.Share = filled
	case streams(w) && float64(net.Low) >= encodes:
		e.Share = encoding
	default:
		e.Share = shareOf(s, net, ownMB(r))
	}
	if rate, told := w.CardHz.Get(); told {
		tolerance, _ := w.CardHz.Spread()
		low, high := (rate-tolerance)*ratios.Card[0]*e.Share[0], (rate+tolerance)*ratios.Card[1]*e.Share[1]
		e.Rate = &[2]float64{low, high}
		if today, told := w.TodayHz.Get(); told && today > 0 {
			e.Gain = &[2]float64{low / today, high / today}
		}
	}
	return e
}

// streams reports a use that encodes a stream in hardware.
func streams(w *rig.Work) bool {
	encoder, told := w.Encoder.Get()
	return told && encoder != "none" && w.Encodes()
}

func spanOf(w *rig.Work, ratios Ratios) span {
	s := span{c: [2]float64{0, cardMS[1]}, g: cardMS, mb: frameMB}
	if today, told := w.TodayHz.Get(); told && today > 0 {
		s.c[1] = min(s.c[1], 1000/today) // it feeds what runs today
	}
	if mb, told := w.FrameMB.Get(); told {
		tolerance, _ := w.FrameMB.Spread()
		s.mb = [2]float64{max(0, mb-tolerance), mb + tolerance}
	}
	if rate, told := w.CardHz.Get(); told && rate > 0 {
		tolerance, _ := w.CardHz.Spread()
		s.g = [2]float64{1000 / (rate + tolerance), 1000 / max(0.01, rate-tolerance)}
	}
	if rate, told := w.ProcHz.Get(); told && rate > 0 {
		tolerance, _ := w.ProcHz.Spread()
		s.c = [2]float64{1000 / (rate + tolerance), 1000 / max(0.01, rate-tolerance)}
	}
	grown := [2]float64{math.Pow(ratios.Pixels[0], pixelsPower), math.Pow(ratios.Pixels[1], pixelsPower)}
	s.g = [2]float64{s.g[0] / ratios.Card[1] * grown[0], s.g[1] / ratios.Card[0] * grown[1]}
	s.c = [2]float64{s.c[0] / ratios.Processor[1], s.c[1] / ratios.Processor[0]}
	return s
}

// ownMB is what a frame sends back to the host's own panel, MB.
func ownMB(r *rig.Rig) float64 {
	screen := &r.Brief.Screen
	if !rig.Is(screen.Kind, "own-panel") {
		return 0
	}
	return float64(screen.Width.Or(1920)) * float64(screen.Height.Or(1080)) * bytesPerPixel / 1e6
}

// shareOf is the share of the card's own speed that a rig lets through. It falls with what
// the processor and the link take, and rises with what the card takes by itself and with
// how sharply the terms part, so that its ends stand at the ends of these.
func shareOf(s span, net units.Range[units.GigabytePerSecond], own float64) [2]float64 {
	low := Terms{C: s.c[1], G: s.g[0], L: (s.mb[1] + own) / max(float64(net.Low), leastNet)}
	return [2]float64{low.G / low.Frame(leastOverlap), most(s, net, own)}
}

// most is the upper end of shareOf.
func most(s span, net units.Range[units.GigabytePerSecond], own float64) float64 {
	high := Terms{C: s.c[0], G: s.g[1], L: (s.mb[0] + own) / max(float64(net.High), leastNet)}
	return high.G / high.Frame(mostOverlap)
}

// leastNet keeps a link that carries nothing from dividing by it, GB/s.
const leastNet = 1e-3

// Make forecasts every use of a rig, and with a change made to it: from its runs with the
// card where they tell something, else from what is told of the use.
func Make(now *rig.Rig, link Link, then *rig.Rig, thenNet units.Range[units.GigabytePerSecond], ratios Ratios) *Forecast {
	f := &Forecast{Format: ForecastFormat, Rig: now.Name, Uses: []UseForecast{}, Findings: []finding.Finding{}}
	for i := range now.Brief.Works {
		w := &now.Brief.Works[i]
		u := UseForecast{Use: w.Name, From: "planning", Now: ExpectOf(now, w, link.Net, Same), Narrow: []string{}}
		judged, atWanted := &u.Now, (*Expected)(nil)
		if then != nil {
			e := ExpectOf(then, w, thenNet, ratios)
			u.Then, judged = &e, &e
		}
		if runs := learnt(now, w, link); len(runs.fits) > 0 {
			u.learn(now, then, runs, link.Net, thenNet, ratios)
			atWanted = runs.atWanted(w, judged, thenNet, ratios, ownMB(cmp.Or(then, now))-ownMB(now))
		} else if then != nil {
			u.Change = changeOf(now, then, w, link.Net, thenNet, ratios)
		}
		u.Pinch = pinchTold(now, w, link)
		u.Enough = enough(w, cmp.Or(atWanted, judged))
		for _, open := range []struct {
			told bool
			says string
		}{
			{w.FrameMB.Known || w.FillsOnce(), "what moves for each frame: the copy rate beside the frame rate of a run"},
			{w.CardHz.Known, "the card's own rate for it, found elsewhere"},
			{w.ProcHz.Known, "the rate the processor alone could feed: a run at a low resolution"},
			{w.TodayHz.Known, "what the host does today"},
		} {
			if !open.told {
				u.Narrow = append(u.Narrow, open.says)
			}
		}
		f.Uses = append(f.Uses, u)
	}
	return f
}

// changeOf is by what the rate of a use changes: what is open in both is the same in both.
func changeOf(now, then *rig.Rig, w *rig.Work, net, thenNet units.Range[units.GigabytePerSecond], ratios Ratios) *[2]float64 {
	if w.FillsOnce() {
		return &[2]float64{ratios.Card[0]*filled[0]/filled[1] - 1, ratios.Card[1]*filled[1]/filled[0] - 1}
	}
	var out [2]float64
	some := false
	s := spanOf(w, Same)
	same := 0 // the bits of what has one end: their other side is the same corner again
	for bit, r := range [...][2]float64{
		s.c, s.g, s.mb, {float64(net.Low), float64(net.High)}, ratios.Processor, ratios.Card, ratios.Pixels,
		{float64(thenNet.Low), float64(thenNet.High)},
	} {
		if r[0] == r[1] || bit == 7 && net == thenNet {
			same |= 1 << bit
		}
	}
	// Along the exponent a change may have its most within: it is walked in steps so short
	// that what they miss is less than a hundredth of a per cent.
	for p := leastOverlap; p <= mostOverlap; p += 0.05 {
		for i := range 1 << 8 {
			if i&same != 0 {
				continue
			}
			end := func(bit int, r [2]float64) float64 { return r[i>>bit&1] }
			after := 7
			if net == thenNet {
				after = 3 // one link, however fast it is
			}
			c, g, mb := end(0, s.c), end(1, s.g), end(2, s.mb)
			before := Terms{C: c, G: g, L: (mb + ownMB(now)) / max(leastNet, end(3, [2]float64{float64(net.Low), float64(net.High)}))}
			with := Terms{
				C: c / end(4, ratios.Processor), G: g / end(5, ratios.Card) * math.Pow(end(6, ratios.Pixels), pixelsPower),
				L: (mb + ownMB(then)) / max(leastNet, end(after, [2]float64{float64(thenNet.Low), float64(thenNet.High)})),
			}
			change := before.Frame(p)/with.Frame(p) - 1
			if !some {
				out, some = [2]float64{change, change}, true
			}
			out[0], out[1] = min(out[0], change), max(out[1], change)
		}
	}
	return &out
}
