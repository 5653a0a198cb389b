package proof

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"kolvan/core/rig"
	"kolvan/core/units"
)

// A Lesson is how well a run of a use with its card agrees with all that its sort may be: with
// every pair of what moves and of what the processor takes, as ways lists them.
type Lesson struct {
	Rig, Use string
	Kind     rig.UseKind
	agrees   []float64 // by the pairs of ways
}

// How uses of one sort differ (P). From person to person eight in ten lie in what is likely; from
// rig to rig of one person what moves and what the processor takes differ by an eighth; a rate
// is known to two in a hundred.
const (
	eightInTen = 1.2816 // deviations either side
	rigsDiffer = 1.0 / 8
	rateOff    = 0.02
)

// wayStep and waysEnd lay out what is tried of what a sort may be, in deviations from its middle.
const wayStep, waysEnd = 0.4, 2.4

// A way is one pair of what may be: what moves, and what the processor takes, each as deviations
// from the middle of what is likely of the sort.
type way struct{ mb, c float64 }

var ways = func() (list []way) {
	for mb := -waysEnd; mb <= waysEnd+wayStep/2; mb += wayStep {
		for c := -waysEnd; c <= waysEnd+wayStep/2; c += wayStep {
			list = append(list, way{mb, c})
		}
	}
	return list
}()

// LessonsOf are what the runs of a rig with its card teach of the sorts of its uses: of each whose
// sort and card's own rate are told, and which was run over a link whose rate is known.
func LessonsOf(r *rig.Rig, l Link) (list []Lesson) {
	for i := range r.Brief.Works {
		w := r.Brief.Works[i]
		runs := asUsed(WithCard(r, w.Name))
		if !w.Kind.Known || !w.CardHz.Known || len(runs) == 0 || l.Net.High <= 0 {
			continue
		}
		rate, off, known := meanOf(runs, measures[0].of)
		if !known || rate <= 0 {
			continue
		}
		w.TodayHz = rig.Fact[float64]{} // a host's own rate bounds its processor, not the sort of use
		x := expect(r, &w, carriedBy(runs, l), Same)
		if _, hardly := x.shares(filled, encoding); hardly {
			continue
		}
		one := Lesson{Rig: r.Name, Use: w.Name, Kind: w.Kind.Value, agrees: make([]float64, len(ways))}
		for k, at := range ways {
			e := x.along(at, float64(x.l.Net.Low), x.termsAt(way{}).g, 1, 1, 1)
			one.agrees[k] = x.toldAgrees(at) * student4(math.Log(rate/e.rate), math.Hypot(math.Hypot(e.off, rateOff), off/rate))
		}
		list = append(list, one)
	}
	return list
}

// carriedBy is the link that runs were made over: what was kept with them, else the middle of what
// it is planned to carry.
func carriedBy(runs []*rig.Run, l Link) Link {
	net := (l.Net.Low + l.Net.High) / 2
	if told, known := runs[0].Net.Get(); known {
		net = units.GigabytePerSecond(told)
	}
	l.Net = units.Exactly(net)
	return l
}

// terms of one way, ms and MB; capped is what a cap leaves of the card's speed.
type terms struct{ c, g, mb, capped float64 }

// termsAt are the terms of a way. What is told of the use itself is no matter of its sort.
func (x *expecting) termsAt(at way) terms {
	likely, utmost := x.sortSpans()
	t := terms{
		c: deviated(likely.c, utmost.c, at.c), mb: deviated(likely.mb, utmost.mb, at.mb),
		g: deviated(likely.g, utmost.g, 0), capped: deviated(likely.capped, utmost.capped, 0),
	}
	told := x.toldOf(likely)
	if told.c != likely.c {
		t.c = middleOf(told.c)
	}
	if today, known := x.w.TodayHz.Get(); known && today > 0 {
		t.c = min(t.c, 1000/today) // it feeds what runs today
	}
	if told.mb != likely.mb {
		t.mb = middleOf(told.mb)
	}
	if told.g != likely.g {
		t.g = middleOf(told.g)
	}
	return t
}

// toldAgrees is how well what is told of a use agrees with a way of its sort.
func (x *expecting) toldAgrees(at way) float64 {
	likely, utmost := x.sortSpans()
	told, agrees := x.toldOf(likely), 1.0
	for _, one := range []struct {
		told, likely, utmost [2]float64
		at                   float64
	}{
		{told.c, likely.c, utmost.c, at.c}, {told.mb, likely.mb, utmost.mb, at.mb},
	} {
		if one.told != one.likely {
			agrees *= student4(math.Log(max(middleOf(one.told), leastMS)/max(deviated(one.likely, one.utmost, one.at), leastMS)), rigsDiffer)
		}
	}
	return agrees
}

// toldOf are the terms with what is told of the use itself in their place.
func (x *expecting) toldOf(s span) span {
	w := *x.w
	w.TodayHz = rig.Fact[float64]{} // which is a bound, and no term
	y := *x
	y.w = &w
	y.tell(&s)
	return s
}

// leastMS keeps what takes no time, or moves nothing, from being infinitely many times less.
const leastMS = 1e-3

// student4 is how well a difference agrees with a deviation, by Student's t with four degrees of
// freedom: one odd evening does not undo the others.
func student4(differs, off float64) float64 { return math.Pow(1+differs*differs/(4*off*off), -2.5) }

// deviated is a value so many deviations from the middle of what is likely, within the utmost; by
// factors where it has no zero.
func deviated(likely, utmost [2]float64, by float64) float64 {
	v := (likely[0]+likely[1])/2 + by/eightInTen*(likely[1]-likely[0])/2
	if likely[0] > 0 {
		v = math.Sqrt(likely[0]*likely[1]) * math.Pow(likely[1]/likely[0], by/eightInTen/2)
	}
	return min(max(v, min(utmost[0], likely[0])), max(utmost[1], likely[1]))
}

// ran is a rate of a way, Hz, its share of the card's own speed, and by how much both may be off
// one rig from another: a deviation of their logarithms.
type ran struct{ rate, share, off float64 }

// along is how a use runs in a way over a link, with the card's own time for it, and with card,
// processor and pixels that many times as fast and as many.
func (x *expecting) along(at way, net, g, card, processor, pixels float64) ran {
	t := x.termsAt(at)
	grows, bytes := middleOf(likelyOpen.pixels), middleOf(likelyOpen.bytes)
	alone := g / card * math.Pow(pixels, grows)
	frame := func(c, mb, overlap, shown float64) float64 {
		moved := mb*math.Pow(pixels, bytes) + ownMB(x.r)*pixels
		return Terms{C: c / processor, G: alone / t.capped, L: shown * moved / max(net, leastNet)}.Added(overlap)
	}
	overlap, shown := middleOf(likelyOpen.overlap), middleOf(likelyOpen.shown)
	ms := frame(t.c, t.mb, overlap, shown)
	up := math.Exp(rigsDiffer)
	off := 0.0
	for _, ends := range []struct{ slow, quick, deviations float64 }{
		{frame(t.c*up, t.mb, overlap, shown), frame(t.c/up, t.mb, overlap, shown), 2},
		{frame(t.c, t.mb*up, overlap, shown), frame(t.c, t.mb/up, overlap, shown), 2},
		{frame(t.c, t.mb, likelyOpen.overlap[0], shown), frame(t.c, t.mb, likelyOpen.overlap[1], shown), 2 * eightInTen},
		{frame(t.c, t.mb, overlap, likelyOpen.shown[1]), frame(t.c, t.mb, overlap, likelyOpen.shown[0]), 2 * eightInTen},
	} {
		one := math.Log(ends.slow/ends.quick) / ends.deviations
		off += one * one
	}
	return ran{rate: 1000 / ms, share: alone / ms, off: math.Sqrt(off)}
}

func middleOf(r [2]float64) float64 { return (r[0] + r[1]) / 2 }

// Teach tells the uses of a rig what other rigs taught of their sorts.
func Teach(r *rig.Rig, lessons []Lesson) {
	for i := range r.Brief.Works {
		w := &r.Brief.Works[i]
		var t rig.Taught
		for _, one := range lessons {
			if !w.Kind.Known || one.Kind != w.Kind.Value {
				continue
			}
			if t.Ways == nil {
				t.Ways = priorWays()
			}
			for k := range t.Ways {
				t.Ways[k] *= one.agrees[k]
			}
			if !slices.Contains(t.Rigs, one.Rig) {
				t.Rigs = append(t.Rigs, one.Rig)
			}
		}
		w.Teach(t)
	}
}

// TaughtBy is what other rigs taught of a use's sort: which they are, what was likely without them,
// as a share of the card's own speed, and how many times as wide that was.
type TaughtBy struct {
	Rigs     []string   `json:"rigs"`
	Without  [2]float64 `json:"without"`
	Narrower float64    `json:"narrower"`
}

// taughtBy says what was taught of a use; nil where nothing was, or nothing that tells more.
func taughtBy(r *rig.Rig, w *rig.Work, l Link, now Expected) *TaughtBy {
	by := w.Taught().Rigs
	if len(by) == 0 {
		return nil
	}
	alone := *w
	alone.Teach(rig.Taught{})
	without := ExpectOf(r, &alone, l, Same).Likely.Share
	if without == now.Likely.Share {
		return nil
	}
	wide := func(share [2]float64) float64 { return max(share[1]-share[0], 0.01) }
	return &TaughtBy{Rigs: by, Without: without, Narrower: units.Round(wide(without)/wide(now.Likely.Share), 2)}
}

// Words say by which rigs it is narrowed, and what was likely without them.
func (t *TaughtBy) Words() string {
	names := t.Rigs[0]
	switch n := len(t.Rigs); {
	case n == 2:
		names += " and " + t.Rigs[1]
	case n > 2:
		names = fmt.Sprintf("%d of your own rigs (%s …)", n, strings.Join(t.Rigs[:2], ", "))
	}
	return "by what " + names + " ran at; " + percentSpan(t.Without) + " without"
}

// priorWays are how likely the ways are before anything was taught.
func priorWays() []float64 {
	list := make([]float64, len(ways))
	for k, at := range ways {
		list[k] = math.Exp(-(at.mb*at.mb + at.c*at.c) / 2)
	}
	return list
}

// fifths are where a normal spread stands by fifths, in deviations.
var fifths = [...]float64{-eightInTen, -0.5244, 0, 0.5244, eightInTen}

// leastWay is the weight against the likeliest below which a way is not followed.
const leastWay = 1e-4

// taught is what is likely of a use by what its sort was seen to do, within the utmost; false where
// nothing was taught.
func (x *expecting) taught(utmost Ends) (Ends, bool) {
	weights := x.w.Taught().Ways
	if _, hardly := x.shares(filled, encoding); len(weights) != len(ways) || hardly {
		return Ends{}, false
	}
	likely, _ := x.spans()
	card := likely.likelier().g
	var rates, shares, each []float64
	most := slices.Max(weights)
	for k, at := range ways {
		if weights[k] < leastWay*most {
			continue
		}
		for _, net := range ends(float64(x.l.Net.Low), float64(x.l.Net.High)) {
			for _, g := range ends(card[0], card[1]) {
				x.ratios.each(func(card, processor, pixels float64) {
					e := x.along(at, net, g, card, processor, pixels)
					for _, at := range fifths {
						by := math.Exp(at * e.off)
						rates, shares, each = append(rates, e.rate*by), append(shares, min(1, e.share*by)), append(each, weights[k])
					}
				})
			}
		}
	}
	e := Ends{Share: within(middle(shares, each), utmost.Share)}
	if utmost.Rate != nil {
		rate := within(middle(rates, each), *utmost.Rate)
		e.Rate = &rate
		if today, told := x.w.TodayHz.Get(); told && today > 0 {
			e.Gain = &[2]float64{rate[0] / today, rate[1] / today}
		}
	}
	return e, true
}

// taughtChange is by what a change alters a rate most often, by what the use's sort was seen to do:
// the same in both.
func (x *expecting) taughtChange(to *expecting) [2]float64 {
	weights := x.w.Taught().Ways
	likely, _ := x.spans()
	card := likely.likelier().g
	nets, thens := netEnds(x.l.Net), netEnds(to.l.Net)
	var changes, each []float64
	most := slices.Max(weights)
	for k, at := range ways {
		if weights[k] < leastWay*most {
			continue
		}
		for _, g := range ends(card[0], card[1]) {
			for i := range nets {
				before := x.along(at, nets[i], g, 1, 1, 1)
				to.ratios.each(func(card, processor, pixels float64) {
					after := to.along(at, thens[i], g, card, processor, pixels)
					changes, each = append(changes, after.rate/before.rate-1), append(each, weights[k])
				})
			}
		}
	}
	return middle(changes, each)
}

// tells reports a range that is narrower than another, or whose middle lies outside it.
func (e Ends) tells(than Ends) bool {
	middle := (e.Share[0] + e.Share[1]) / 2
	return e.Share[1]-e.Share[0] < than.Share[1]-than.Share[0] || middle < than.Share[0] || middle > than.Share[1]
}

// within is a range held to another.
func within(r, most [2]float64) [2]float64 {
	return [2]float64{min(max(r[0], most[0]), most[1]), min(max(r[1], most[0]), most[1])}
}
