package proof

import (
	"cmp"
	"math"
	"slices"

	"kolvan/core/rig"
	"kolvan/core/units"
)

// lessons are what the runs of a use teach: all sets of terms that explain them, at the net
// rate and the resolution of the first, and what the use ran at before the card.
type lessons struct {
	fits   []fit
	net    units.GigabytePerSecond
	pixels float64
	before [2]float64 // Hz; zero while nothing tells it
}

// learnt fits the runs of a use with the card. Work that fills the card once is no matter
// of frames.
func learnt(r *rig.Rig, w *rig.Work, link Link) (l lessons) {
	if link.At == nil || w.FillsOnce() {
		return l
	}
	if kept, is := link.kept[w.Name]; is {
		return kept
	}
	if link.kept != nil {
		defer func() { link.kept[w.Name] = l }()
	}
	points := pointsOf(WithCard(r, w.Name), link.At)
	if len(points) == 0 {
		return l
	}
	l.fits, l.net, l.pixels = spread(points), points[0].Net, points[0].Pixels
	if today, told := w.TodayHz.Get(); told {
		l.before = [2]float64{today, today}
	}
	for _, g := range GainsOf(r) {
		for _, f := range g.Figures {
			if g.Use == w.Name && f.Name == "average_hz" && f.Ratio != nil {
				l.before = [2]float64{f.Before, f.Before}
			}
		}
	}
	return l
}

// Runs may be off by so many deviations in a forecast, each on its own while there are few.
const (
	offBy    = 2.0
	fewRuns  = 4
	oneOfMix = 2 // beside all of them alike
)

// spread are the fits of runs, and of what they would be with their noise the other way.
func spread(points []Point) (fits []fit) {
	fits = fine.fits(points)
	moved := make([]Point, len(points))
	n := min(len(points), fewRuns)
	for mix := range 1 << n {
		for i := range points {
			moved[i] = points[i]
			side := 1.0
			if mix>>(i%n)&1 == 1 {
				side = -1
			}
			moved[i].Frame = math.Max(points[i].Frame/oneOfMix, points[i].Frame+side*offBy*points[i].Sigma)
		}
		fits = append(fits, coarse.fits(moved)...)
	}
	return fits
}

// frame is the time of a frame of a fit over a link, with a change; own is what goes back
// over the link beside what did when it was measured, MB.
func (l *lessons) frame(one fit, net units.GigabytePerSecond, card, processor, pixels, own float64) (ms, g float64) {
	net = max(net, leastNet)
	g = one.G / card * math.Pow(pixels, one.a)
	t := Terms{C: one.C / processor, G: g, L: max(0, one.L*float64(l.net/net)+own/float64(net))}
	return one.frame(t), g
}

// learn puts what the runs teach in the place of what was planned; the card's own speed
// stays within what is told of it.
func (u *UseForecast) learn(now, then *rig.Rig, l lessons, net, thenNet units.Range[units.GigabytePerSecond], ratios Ratios) {
	u.From = "runs"
	u.Now = l.expect(u.Now, l.each(net, Same, 0))
	if u.Then == nil {
		return
	}
	own := ownMB(then) - ownMB(now)
	*u.Then = l.expect(*u.Then, l.each(thenNet, ratios, own))
	var changes, weights []float64
	l.pairs(net, thenNet, ratios, own, func(before, after, weight float64) {
		changes, weights = append(changes, before/after-1), append(weights, weight)
	})
	likely := middle(changes, weights)
	u.Change, u.ChangeLikely = &[2]float64{slices.Min(changes), slices.Max(changes)}, &likely
}

// atWanted is what is expected at the resolution at which a use is to be enough; nil where
// none is told.
func (l *lessons) atWanted(w *rig.Work, planned *Expected, net units.Range[units.GigabytePerSecond], ratios Ratios, own float64) *Expected {
	wanted := enoughPixels(w)
	if wanted <= 0 || l.pixels <= 0 {
		return nil
	}
	ratios.Pixels = [2]float64{wanted / l.pixels, wanted / l.pixels}
	e := l.expect(*planned, l.each(net, ratios, own))
	return &e
}

// ends are the two ends of a range, or the one where they are the same.
func ends(low, high float64) []float64 {
	if low == high {
		return []float64{low}
	}
	return []float64{low, high}
}

// each gives every frame that may be, and its card's part.
func (l *lessons) each(net units.Range[units.GigabytePerSecond], r Ratios, own float64) func(yield func(ms, g, weight float64)) {
	return func(yield func(ms, g, weight float64)) {
		for _, one := range l.fits {
			r.each(func(card, processor, pixels float64) {
				for _, v := range ends(float64(net.Low), float64(net.High)) {
					ms, g := l.frame(one, units.GigabytePerSecond(v), card, processor, pixels, own)
					yield(ms, g, one.weight)
				}
			})
		}
	}
}

// each gives every combination of the ends of the ratios.
func (r Ratios) each(yield func(card, processor, pixels float64)) {
	for _, card := range ends(r.Card[0], r.Card[1]) {
		for _, processor := range ends(r.Processor[0], r.Processor[1]) {
			for _, pixels := range ends(r.Pixels[0], r.Pixels[1]) {
				yield(card, processor, pixels)
			}
		}
	}
}

// pairs gives every frame now, with the frame it becomes.
func (l *lessons) pairs(net, then units.Range[units.GigabytePerSecond], r Ratios, own float64, yield func(before, after, weight float64)) {
	for _, one := range l.fits {
		for _, now := range ends(float64(net.Low), float64(net.High)) {
			before, _ := l.frame(one, units.GigabytePerSecond(now), 1, 1, 1, 0)
			links := ends(float64(then.Low), float64(then.High))
			if net == then {
				links = []float64{now} // one link, however fast it is
			}
			for _, link := range links {
				r.each(func(card, processor, pixels float64) {
					after, _ := l.frame(one, units.GigabytePerSecond(link), card, processor, pixels, own)
					yield(before, after, one.weight)
				})
			}
		}
	}
}

// expect is what is expected from all frames that may be: at the utmost any of them, most often
// those that explain the runs best. A share stays within what was planned, where both are
// possible.
func (l *lessons) expect(planned Expected, each func(yield func(ms, g, weight float64))) Expected {
	var rates, shares, weights []float64
	each(func(ms, g, weight float64) {
		rates, shares, weights = append(rates, 1000/ms), append(shares, g/ms), append(weights, weight)
	})
	var e Expected
	e.Ends = l.ends(planned.Share, [2]float64{slices.Min(rates), slices.Max(rates)}, [2]float64{slices.Min(shares), slices.Max(shares)})
	e.Likely = l.ends(e.Share, middle(rates, weights), middle(shares, weights))
	return e
}

func (l *lessons) ends(within, rate, share [2]float64) Ends {
	e := Ends{Share: share, Rate: &rate}
	if low, high := max(share[0], within[0]), min(share[1], within[1]); low <= high {
		e.Share = [2]float64{low, high}
	}
	if l.before[0] > 0 {
		e.Gain = &[2]float64{rate[0] / l.before[1], rate[1] / l.before[0]}
	}
	return e
}

// likelyPart of what may be, by its weight, is told as most often: eight in ten (P).
const likelyPart = 0.8

// middle are the ends of the middle eight in ten of values, by their weights.
func middle(values, weights []float64) [2]float64 {
	order := make([]int, len(values))
	sum := 0.0
	for i := range order {
		order[i] = i
		sum += weights[i]
	}
	slices.SortFunc(order, func(a, b int) int { return cmp.Compare(values[a], values[b]) })
	ends := [2]float64{values[order[0]], values[order[len(order)-1]]}
	seen := 0.0
	for _, i := range order {
		if seen < (1-likelyPart)/2*sum {
			ends[0] = values[i]
		}
		if seen < (1+likelyPart)/2*sum {
			ends[1] = values[i]
		}
		seen += weights[i]
	}
	return ends
}
