package proof

import (
	"math"
	"slices"

	"kolvan/core/units"
)

// Terms are what a frame waits for, ms: the processor, the card, the link; and what holds
// it up, if anything does.
type Terms struct{ C, G, L, Cap float64 }

// pixelsPower is how a card's time grows with the pixels (P); it lies between 0.6 and 1.
const pixelsPower = 0.85

// Frame is the time of a frame: the power mean of its terms without its n, so that a term
// alone is itself, and no less than the cap.
func (t Terms) Frame(p float64) float64 {
	most := max(t.C, t.G, t.L)
	if most == 0 {
		return t.Cap
	}
	sum := 0.0
	for _, term := range [...]float64{t.C, t.G, t.L} {
		sum += math.Pow(term/most, p)
	}
	return max(t.Cap, most*math.Pow(sum, 1/p))
}

// Added is the time of a frame whose link adds to it: processor and card overlap, and wait for
// what the link takes that nothing hides; no less than the cap.
func (t Terms) Added(p float64) float64 {
	rest := Terms{C: t.C, G: t.G}
	return max(t.Cap, rest.Frame(p)+t.L)
}

// Greatest is the name of the greatest term, and by how many times it is the next.
func (t Terms) Greatest() (name string, times float64) {
	terms := [...]struct {
		name string
		ms   float64
	}{{"processor", t.C}, {"card", t.G}, {"link", t.L}}
	best, next := 0, -1
	for i := 1; i < len(terms); i++ {
		if terms[i].ms > terms[best].ms {
			best = i
		}
	}
	for i := range terms {
		if i != best && (next < 0 || terms[i].ms > terms[next].ms) {
			next = i
		}
	}
	return terms[best].name, terms[best].ms / max(terms[next].ms, 1e-9)
}

// A Point is one run as the fit sees it: its pixels against those of the first, the net
// rate of its link, and the mean time of its frames with a deviation.
type Point struct {
	Pixels float64
	Net    units.GigabytePerSecond
	Frame  float64 // ms
	Sigma  float64 // ms
}

// Fitted are the terms that runs allow, as ranges at the conditions of the first, and what
// of them holds it back.
type Fitted struct {
	C, G, L  [2]float64 // ms
	Pinch    string     // processor, card, link; empty where they cannot be parted
	PartedBy string     // the run that would part them best
	fits     []fit
	shares   map[string]float64 // of all that explains the runs, by its greatest term
}

// fit is one set of terms that explains the runs.
type fit struct {
	Terms
	p, a, off float64
	adds      bool    // the link adds to a frame; else it overlaps as the others do
	weight    float64 // how well it explains the runs, by usual exponents
}

// frame is the time of a frame of these terms, as the fit has them meet.
func (f *fit) frame(t Terms) float64 {
	if f.adds {
		return t.Added(f.p)
	}
	return t.Frame(f.p)
}

// A grid is the exponents that are tried: of the mean by which the terms overlap in part
// (between 2 and 6, usually 4), and of how a card's time grows with the pixels (P).
type grid struct{ overlaps, powers []float64 }

var (
	fine   = grid{steps(2, 6, 0.5), steps(0.6, 1, 0.025)}
	coarse = grid{[]float64{2, 3, 4, 5, 6}, []float64{0.6, 0.7, 0.85, 1}}
)

func steps(from, to, by float64) (list []float64) {
	for v := from; v <= to+by/10; v += by {
		list = append(list, v)
	}
	return list
}

// The ends of the overlap, and how sure the usual exponents are: deviations (P).
const (
	leastOverlap, mostOverlap    = 2.0, 6.0
	usualOverlap, overlapDiffers = 4.0, 1.2
	powerDiffers                 = 0.12
)

// fits well enough: within three deviations of every run.
const enoughOff = 3.0

// Fit finds all terms that explain runs: for every exponent, the frame's time to that power
// is a sum of the processor's, of the card's by the pixels, and of the link's by the net
// rate, none below zero. Which of the three there are is tried one by one, so that what the
// runs leave open comes out as a range.
func Fit(points []Point) Fitted {
	f := Fitted{fits: fine.fits(points)}
	for i, one := range f.fits {
		for k, v := range [...]float64{one.C, one.G, one.L} {
			r := [...]*[2]float64{&f.C, &f.G, &f.L}[k]
			if i == 0 {
				*r = [2]float64{v, v}
			}
			r[0], r[1] = min(r[0], v), max(r[1], v)
		}
	}
	if len(points) > 0 {
		f.name(points)
	}
	return f
}

func (g *grid) fits(points []Point) (list []fit) {
	if len(points) == 0 {
		return nil
	}
	for _, p := range g.overlaps {
		for _, a := range g.powers {
			for mask := 1; mask < 8; mask++ {
				if one, is := solve(points, p, a, mask); is {
					list = append(list, one)
				}
			}
		}
	}
	for _, p := range []float64{leastOverlap, usualOverlap, mostOverlap} {
		for _, a := range []float64{0.6, pixelsPower, 1} {
			for mask := 1; mask < 4; mask++ {
				list = append(list, adding(points, p, a, mask)...)
			}
		}
	}
	return list
}

// parts of the shortest frame that a link is tried at that adds to them.
var linkParts = []float64{0.1, 0.25, 0.4, 0.55, 0.7, 0.85, 0.95}

// adding are the fits with a link that adds to each frame: what is left of the frames is a
// matter of the processor and the card. The link is tried at parts of a frame, and where it
// explains the runs best.
func adding(points []Point, p, a float64, mask int) (list []fit) {
	left := make([]Point, len(points))
	at := func(link float64) (fit, bool) {
		for i, run := range points {
			left[i] = run
			left[i].Frame -= link * float64(points[0].Net/run.Net)
		}
		one, is := solve(left, p, a, mask)
		one.L, one.adds = link, true
		return one, is
	}
	most := math.Inf(1)
	for _, run := range points {
		most = min(most, run.Frame*float64(run.Net/points[0].Net))
	}
	for _, part := range linkParts {
		if one, is := at(part * most); is {
			list = append(list, one)
		}
	}
	if ratesDiffer(points) {
		if one, is := at(leastOff(0, 0.98*most, func(link float64) float64 { one, _ := at(link); return one.off })); is {
			list = append(list, one)
		}
	}
	return list
}

// ratesDiffer reports runs over links of more than one rate.
func ratesDiffer(points []Point) bool {
	return slices.ContainsFunc(points, func(run Point) bool { return math.Abs(float64(run.Net/points[0].Net)-1) > 0.2 })
}

// leastOff is where a figure with one valley is least, to a thousandth of the way.
func leastOff(low, high float64, of func(float64) float64) float64 {
	for range 18 {
		a, b := low+(high-low)/3, high-(high-low)/3
		if of(a) <= of(b) {
			high = b
		} else {
			low = a
		}
	}
	return (low + high) / 2
}

// solve is the least squares of the terms of a mask; false where one comes out below zero,
// or a run is not explained.
func solve(points []Point, p, a float64, mask int) (fit, bool) {
	var at [3]int
	n := 0
	for k := range 3 {
		if mask>>k&1 == 1 {
			at[n] = k
			n++
		}
	}
	if n > len(points) {
		return fit{}, false
	}
	var m [3][4]float64
	for _, run := range points {
		x := features(run, points[0], p, a)
		y := math.Pow(run.Frame, p)
		weight := 1 / math.Pow(p*math.Pow(run.Frame, p-1)*run.Sigma, 2)
		for i := range n {
			for j := range n {
				m[i][j] += weight * x[at[i]] * x[at[j]]
			}
			m[i][3] += weight * x[at[i]] * y
		}
	}
	sol, regular := gauss(&m, n)
	if !regular {
		return fit{off: math.Inf(1)}, false
	}
	var terms [3]float64
	for i := range n {
		if sol[i] < 0 {
			return fit{off: math.Inf(1)}, false
		}
		terms[at[i]] = math.Pow(sol[i], 1/p)
	}
	one := fit{Terms: Terms{C: terms[0], G: terms[1], L: terms[2]}, p: p, a: a}
	squares := 0.0
	for _, run := range points {
		x := features(run, points[0], p, a)
		sum := 0.0
		for i := range n {
			sum += sol[i] * x[at[i]]
		}
		off := math.Abs(math.Pow(sum, 1/p)-run.Frame) / run.Sigma
		one.off, squares = max(one.off, off), squares+off*off
	}
	unusual := math.Pow((p-usualOverlap)/overlapDiffers, 2) + math.Pow((a-pixelsPower)/powerDiffers, 2)
	one.weight = math.Exp(-(squares + unusual) / 2)
	return one, one.off <= enoughOff
}

// features are how the powers of the three terms weigh in a run, against the first.
func features(run, first Point, p, a float64) [3]float64 {
	return [3]float64{1, math.Pow(run.Pixels/first.Pixels, a*p), math.Pow(float64(first.Net/run.Net), p)}
}

// gauss solves a small system with pivots; false for one that has no single solution.
func gauss(m *[3][4]float64, n int) (sol [3]float64, regular bool) {
	scale := 0.0
	for i := range n {
		scale = max(scale, math.Abs(m[i][i]))
	}
	for i := range n {
		best := i
		for k := i + 1; k < n; k++ {
			if math.Abs(m[k][i]) > math.Abs(m[best][i]) {
				best = k
			}
		}
		m[i], m[best] = m[best], m[i]
		if math.Abs(m[i][i]) <= 1e-9*scale {
			return sol, false
		}
		for k := i + 1; k < n; k++ {
			by := m[k][i] / m[i][i]
			for j := i; j < n; j++ {
				m[k][j] -= by * m[i][j]
			}
			m[k][3] -= by * m[i][3]
		}
	}
	for i := n - 1; i >= 0; i-- {
		sol[i] = m[i][3]
		for j := i + 1; j < n; j++ {
			sol[i] -= m[i][j] * sol[j]
		}
		sol[i] /= m[i][i]
	}
	return sol, true
}

// surely is the share of all that explains the runs, weighed, from which its greatest term
// is named (P): of simulated rigs it is right in more than 95 of 100.
const surely = 0.97

// name says which term is the greatest in nearly all that explains the runs; where that
// disagrees, which run would part it best.
func (f *Fitted) name(points []Point) {
	sizes, rates := map[float64]bool{}, ratesDiffer(points)
	for _, run := range points {
		sizes[math.Round(10*run.Pixels/points[0].Pixels)] = true
	}
	f.shares = map[string]float64{}
	sum := 0.0
	for i := range f.fits {
		name, _ := f.fits[i].Greatest()
		f.shares[name] += f.fits[i].weight
		sum += f.fits[i].weight
	}
	for name := range f.shares {
		if f.shares[name] /= sum; f.shares[name] >= surely && (len(sizes) > 1 || rates) {
			f.Pinch = name
		}
	}
	switch {
	case f.Pinch != "":
	case len(f.fits) == 0:
		f.PartedBy = "a repeat of each run: no one set of terms explains them"
	case !rates:
		f.PartedBy = "a run with the link forced a generation down"
	case len(sizes) == 1:
		f.PartedBy = "a run at a second resolution"
	case len(sizes) == 2:
		f.PartedBy = "a run at a third resolution, as low as it goes"
	default:
		f.PartedBy = "a repeat of each run: the terms lie too close"
	}
}
