package proof

import (
	"cmp"
	"fmt"
	"math"
	"strconv"
	"strings"

	"kolvan/core/finding"
	"kolvan/core/link"
	"kolvan/core/reference"
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
	Promised []Promised        `json:"promised"` // what was expected, beside what came
	Findings []finding.Finding `json:"findings"`
}

// Link is what the link of a rig carries, and at a generation it is held to; At is nil
// where nobody can say.
type Link struct {
	Net units.Range[units.GigabytePerSecond]
	At  func(gen int) units.Range[units.GigabytePerSecond]
	Ref *reference.Tables

	kept map[string]lessons // of the uses of one rig; nil where none are kept
}

// LinkOf is what forecasts need of a rig's link.
func LinkOf(r *rig.Rig, ref *reference.Tables) Link {
	return LinkCarrying(r, ref, link.For(r, ref).NetEnds)
}

// LinkCarrying is the same of a link whose rate was worked out already.
func LinkCarrying(r *rig.Rig, ref *reference.Tables, net units.Range[units.GigabytePerSecond]) Link {
	return Link{Net: net, At: link.HeldTo(r, ref), Ref: ref}
}

// Keeping keeps what the runs of a rig teach, for many forecasts of that rig.
func (l Link) Keeping() Link {
	l.kept = map[string]lessons{}
	return l
}

// UseForecast is one use now, and with the change.
type UseForecast struct {
	Use    string      `json:"use"`
	From   string      `json:"from"`   // runs, where they explain it; else planning ranges
	Taught *TaughtBy   `json:"taught"` // what other rigs of one's own taught of its sort; null where nothing
	Now    Expected    `json:"now"`
	Then   *Expected   `json:"then"`   // null without a change
	Change *[2]float64 `json:"change"` // then / now − 1; null while it is open
	// The same, most often.
	ChangeLikely *[2]float64 `json:"change_likely"`
	Enough       string      `json:"enough"` // yes, perhaps, no; empty where nothing says what is enough
	Narrow       []string    `json:"narrow"` // what would narrow it
	Pinch        *PinchTold  `json:"pinch"`  // what holds it back; null without a run with the card

	sorted bool // its sort is told
}

// Tells reports a forecast that has something to go by: runs, the card's own rate, or the sort of
// the use.
func (u *UseForecast) Tells() bool { return u.From == "runs" || u.Now.Rate != nil || u.sorted }

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

// Make forecasts every use of a rig, and with a change made to it: from its runs with the
// card where they tell something, else from what is told of the use.
func Make(now *rig.Rig, link Link, then *rig.Rig, thenNet units.Range[units.GigabytePerSecond], ratios Ratios) *Forecast {
	f := &Forecast{Format: ForecastFormat, Rig: now.Name, Uses: []UseForecast{}, Promised: PromisedOf(now, link),
		Findings: []finding.Finding{}}
	after := link
	after.Net = thenNet
	for i := range now.Brief.Works {
		w := &now.Brief.Works[i]
		u := UseForecast{
			Use: w.Name, From: "planning", Now: ExpectOf(now, w, link, Same), Narrow: narrowing(w),
			sorted: w.Kind.Known || w.FillsOnce() || w.Encodes() || w.FrameMB.Known,
		}
		judged, atWanted := &u.Now, (*Expected)(nil)
		if then != nil {
			e := ExpectOf(then, w, after, ratios)
			u.Then, judged = &e, &e
		}
		if runs := learnt(now, w, link); len(runs.fits) > 0 {
			u.learn(now, then, runs, link.Net, thenNet, ratios)
			atWanted = runs.atWanted(w, judged, thenNet, ratios, ownMB(cmp.Or(then, now))-ownMB(now))
		} else if u.Taught = taughtBy(now, w, link, u.Now); then != nil {
			u.Change, u.ChangeLikely = changeOf(now, then, w, link, after, ratios)
		}
		u.Pinch = pinchTold(now, w, link)
		u.Enough = enough(w, cmp.Or(atWanted, judged))
		f.Uses = append(f.Uses, u)
	}
	return f
}

// narrowing is what would narrow the forecast of a use, what tells most first.
func narrowing(w *rig.Work) []string {
	list := []string{}
	for _, open := range []struct {
		told bool
		says string
	}{
		{w.Kind.Known || w.FillsOnce() || w.Encodes(), "what sort of use it is"},
		{w.CardHz.Known, "the card's own rate for it, found elsewhere"},
		{w.FrameMB.Known || w.FillsOnce(), "what moves for each frame: the copy rate beside the frame rate of a run"},
		{w.ProcHz.Known, "the rate the processor alone could feed: a run at a low resolution"},
		{w.TodayHz.Known, "what the host does today"},
	} {
		if !open.told {
			list = append(list, open.says)
		}
	}
	return list
}

// changeOf is by what the rate of a use changes, at the utmost and most often: what is open in
// both is the same in both.
func changeOf(now, then *rig.Rig, w *rig.Work, before, after Link, ratios Ratios) (utmost, likely *[2]float64) {
	x, to := expect(now, w, before, Same), expect(then, w, after, ratios)
	_, hardly := x.shares(filled, encoding)
	if _, still := to.shares(filled, encoding); hardly && still {
		by := func(shares [2]float64) *[2]float64 {
			was, _ := cappedOf(now, before.Ref)
			is, _ := cappedOf(then, before.Ref)
			return &[2]float64{
				ratios.Card[0]*is[0]/was[1]*shares[0]/shares[1] - 1, ratios.Card[1]*is[1]/was[0]*shares[1]/shares[0] - 1,
			}
		}
		return by(filledUtmost), by(filled)
	}
	likelySpan, utmostSpan := x.spans()
	likelyThen, utmostThen := to.spans()
	most := x.change(&to, utmostSpan, utmostThen, utmostOpen)
	often := x.change(&to, likelySpan.likelier(), likelyThen.likelier(), likelyOpen).ends
	if taughtBy(now, w, before, ExpectOf(now, w, before, Same)) != nil {
		often = x.taughtChange(&to)
	}
	return most.beside(often), &often
}

// missed is the part of a change's range that its steps and ends may miss.
const missed = 0.06

// change walks all ends of what is open, the same in both: of the terms, of the links, of the
// ratios, and of the powers. Along the overlap, and along the processor's time, a change may have
// its most within: they are walked in steps.
func (x *expecting) change(to *expecting, s, then span, o open) changing {
	nets, thens := netEnds(x.l.Net), netEnds(to.l.Net)
	oneLink := x.l.Net == to.l.Net
	opens := [...][2]float64{{0, 0}, s.g, {0, 1}, nets, thens, to.ratios.Processor, to.ratios.Card, to.ratios.Pixels, o.shown, o.pixels,
		o.bytes, {0, 1}}
	same := 0 // the bits of what has one end: their other side is the same corner again
	for bit, r := range opens {
		if r[0] == r[1] || bit == 4 && oneLink || bit >= 9 && bit <= 10 && to.ratios.Pixels == Same.Pixels ||
			bit == 2 && s.mb[0] == s.mb[1] && then.mb[0] == then.mb[1] || bit == 11 && s.capped == then.capped {
			same |= 1 << bit
		}
	}
	out := changing{ends: [2]float64{math.Inf(1), math.Inf(-1)}, terms: [2]float64{math.Inf(1), math.Inf(-1)}}
	for _, at := range processorSteps(s.c, o.overlap) {
		c, p := at[0], at[1]
		for i := range 1 << len(opens) {
			if i&same != 0 {
				continue
			}
			end := func(bit int) float64 { return opens[bit][i>>bit&1] }
			net, thenNet := end(3), end(4)
			if oneLink {
				thenNet = net // however fast it is
			}
			mb, cap := i>>2&1, i>>11&1
			pixels := end(7)
			before := Terms{C: c, G: end(1) / s.capped[cap], L: end(8) * (s.mb[mb] + ownMB(x.r)) / max(net, leastNet)}
			with := Terms{
				C: c / end(5), G: end(1) / end(6) * math.Pow(pixels, end(9)) / then.capped[cap],
				L: end(8) * (then.mb[mb]*math.Pow(pixels, end(10)) + ownMB(to.r)*pixels) / max(thenNet, leastNet),
			}
			by := before.Added(p)/with.Added(p) - 1
			out.ends = [2]float64{min(out.ends[0], by), max(out.ends[1], by)}
			for _, term := range [...][2]float64{{before.C, with.C}, {before.G, with.G}, {before.L, with.L}} {
				if term[1] > 0 {
					by := term[0]/term[1] - 1
					out.terms = [2]float64{min(out.terms[0], by), max(out.terms[1], by)}
				}
			}
		}
	}
	return out
}

// changing is by what a rate changes, and by what each of its terms does: no frame changes by more
// than all of its terms do.
type changing struct{ ends, terms [2]float64 }

// beside is a change at the utmost: with what the steps missed, within what the terms allow, and
// around what is likely.
func (c changing) beside(likely [2]float64) *[2]float64 {
	between := missed * (c.ends[1] - c.ends[0])
	return &[2]float64{
		min(max(c.ends[0]-between, c.terms[0]), c.ends[0], likely[0]), max(min(c.ends[1]+between, c.terms[1]), c.ends[1], likely[1]),
	}
}

// processorSteps are the processor's times and the overlaps that a change is tried at.
func processorSteps(c, overlap [2]float64) (list [][2]float64) {
	const parts = 8
	for p := overlap[0]; p <= overlap[1]; p += 0.1 {
		for k := range parts + 1 {
			if part := float64(k) / parts; k == 0 || c[0] < c[1] {
				list = append(list, [2]float64{c[0] + (c[1]-c[0])*part*part, p}) // close together where it is short
			}
		}
	}
	return list
}

func netEnds(net units.Range[units.GigabytePerSecond]) [2]float64 {
	return [2]float64{float64(net.Low), float64(net.High)}
}
