package proof

import (
	"math"
	"math/rand/v2"
	"runtime"
	"slices"
	"sync"
)

// A Digest is what is kept of frames in constant memory. Below a million frames the
// figures are exact; beyond, percentiles and tail means are within 0.05 % of the value, by
// counting in steps that each grow by a tenth of a per cent.
type Digest struct {
	frames   int
	sum      kahan // of all, ms
	times    kept
	moves    kept // absolute differences of neighbours
	previous float64

	blocks []block // one second each, or more where they are many
	open   tally
	long   float64 // length of a block, ms
}

// kept is values in order of size: exactly while there is room, else counted in steps.
type kept struct {
	exact []float64
	steps []int64 // from lowest; nil while all is exact
}

// block is the frames of a second, counted in steps.
type block struct {
	frames int
	ms     float64
	steps  []count
}

type count struct {
	step  int32
	times int32
}

// tally counts the frames of the second at hand.
type tally struct {
	frames int
	ms     float64
	steps  []int32
	used   []int32 // the steps that are not zero
}

const (
	mostExact  = 1_000_000
	mostBlocks = 600 // of a second each; a longer capture has longer ones
	stepGrows  = 0.001
	// The steps there are: from a nanosecond to a day, and one for nothing at all.
	lowest  = -13820
	highest = 18300
	still   = lowest - 1
)

var perStep = 1 / math.Log1p(stepGrows)

// stepOf is the step a time falls into; valueOf the middle of a step.
func stepOf(ms float64) int32 {
	if ms <= 0 {
		return still
	}
	return int32(min(max(math.Floor(math.Log(ms)*perStep), lowest), highest))
}

func valueOf(step int32) float64 {
	if step == still {
		return 0
	}
	return math.Exp((float64(step) + 0.5) / perStep)
}

// kahan adds up without losing what is small.
type kahan struct{ sum, lost float64 }

func (k *kahan) add(v float64) {
	y := v - k.lost
	t := k.sum + y
	k.lost = (t - k.sum) - y
	k.sum = t
}

// Frames is how many frames were counted.
func (d *Digest) Frames() int { return d.frames }

// Seconds is how long they took together.
func (d *Digest) Seconds() float64 { return d.sum.sum / 1000 }

// Add counts a frame in, ms.
func (d *Digest) Add(ms float64) {
	step := stepOf(ms)
	d.times.take(ms, step)
	if move := math.Abs(ms - d.previous); d.frames > 0 {
		if d.moves.steps == nil {
			d.moves.take(move, still)
		} else {
			d.moves.take(move, stepOf(move))
		}
	}
	d.previous = ms
	d.frames++
	d.sum.add(ms)
	if d.long == 0 {
		d.long = 1000
	}
	d.open.take(step, ms)
	if d.open.ms >= d.long {
		d.blocks = append(d.blocks, d.open.block())
		d.open.clear()
		d.pair()
	}
}

// take keeps a value, of which the step is known.
func (k *kept) take(v float64, step int32) {
	if k.steps == nil {
		if len(k.exact) < mostExact {
			k.exact = append(k.exact, v)
			return
		}
		k.steps = make([]int64, highest-still+1)
		for _, was := range k.exact {
			k.steps[stepOf(was)-still]++
		}
		k.exact, step = nil, stepOf(v)
	}
	k.steps[step-still]++
}

func (t *tally) take(step int32, ms float64) {
	if t.steps == nil {
		t.steps = make([]int32, highest-still+1)
	}
	if t.steps[step-still]++; t.steps[step-still] == 1 {
		t.used = append(t.used, step)
	}
	t.frames++
	t.ms += ms
}

func (t *tally) block() block {
	slices.Sort(t.used)
	b := block{t.frames, t.ms, make([]count, len(t.used))}
	for i, step := range t.used {
		b.steps[i] = count{step, t.steps[step-still]}
	}
	return b
}

func (t *tally) clear() {
	for _, step := range t.used {
		t.steps[step-still] = 0
	}
	t.frames, t.ms, t.used = 0, 0, t.used[:0]
}

// pair makes blocks twice as long where there are too many.
func (d *Digest) pair() {
	if len(d.blocks) < mostBlocks {
		return
	}
	for i := range mostBlocks / 2 {
		a, b := d.blocks[2*i], d.blocks[2*i+1]
		for _, c := range b.steps {
			a.take(c)
		}
		a.frames, a.ms = a.frames+b.frames, a.ms+b.ms
		d.blocks[i] = a
	}
	d.blocks, d.long = d.blocks[:mostBlocks/2], 2*d.long
}

func (b *block) take(c count) {
	i, found := slices.BinarySearchFunc(b.steps, c.step, func(c count, step int32) int { return int(c.step) - int(step) })
	if found {
		b.steps[i].times += c.times
		return
	}
	b.steps = slices.Insert(b.steps, i, c)
}

// ranked are values in order, to take percentiles and tails of.
type ranked struct {
	exact []float64
	steps []int32
	times []int64
	n     int
}

func (k *kept) rank() ranked {
	if k.steps == nil {
		sorted := slices.Clone(k.exact)
		slices.Sort(sorted)
		return ranked{exact: sorted, n: len(sorted)}
	}
	r := ranked{}
	for i, times := range k.steps {
		if times > 0 {
			r.steps, r.times, r.n = append(r.steps, int32(i)+still), append(r.times, times), r.n+int(times)
		}
	}
	return r
}

// at is the value of an order from 0.
func (r *ranked) at(order int) float64 {
	if r.exact != nil {
		return r.exact[order]
	}
	for i, step := range r.steps {
		if order -= int(r.times[i]); order < 0 {
			return valueOf(step)
		}
	}
	return math.NaN()
}

// percentile is linear between order statistics.
func (r *ranked) percentile(p float64) float64 {
	if r.n == 0 {
		return math.NaN()
	}
	at := p * float64(r.n-1)
	low := int(at)
	high := min(low+1, r.n-1)
	a := r.at(low)
	return a + (at-float64(low))*(r.at(high)-a)
}

// tail is the mean of the slowest share: ceil(n · share) values.
func (r *ranked) tail(share float64) float64 {
	left := int(math.Ceil(float64(r.n)*share - 1e-9))
	count, sum := left, kahan{}
	if r.exact != nil {
		for _, v := range r.exact[r.n-left:] {
			sum.add(v)
		}
		return sum.sum / float64(count)
	}
	for i := len(r.steps) - 1; i >= 0 && left > 0; i-- {
		take := min(left, int(r.times[i]))
		sum.add(float64(take) * valueOf(r.steps[i]))
		left -= take
	}
	return sum.sum / float64(count)
}

// above counts the values over a limit.
func (r *ranked) above(limit float64) (n int) {
	if r.exact != nil {
		at, _ := slices.BinarySearch(r.exact, math.Nextafter(limit, math.Inf(1)))
		return r.n - at
	}
	for i, step := range r.steps {
		if valueOf(step) > limit {
			n += int(r.times[i])
		}
	}
	return n
}

// draws of a bootstrap.
const draws = 2000

// resampled are the figures of frames drawn anew from blocks, by name.
type resampled map[string][]float64

// bootstrap draws blocks with replacement and works the figures out of each draw.
func (d *Digest) bootstrap(seed uint64) resampled {
	blocks := d.allBlocks()
	if len(blocks) < 2 {
		return nil
	}
	low, high := int32(math.MaxInt32), int32(math.MinInt32)
	for i := range blocks {
		low, high = min(low, blocks[i].steps[0].step), max(high, blocks[i].steps[len(blocks[i].steps)-1].step)
	}
	few := thinned(blocks, low, high)
	found := make([]map[string]float64, draws)
	var all sync.WaitGroup
	workers := runtime.GOMAXPROCS(0)
	for w := range workers {
		all.Go(func() {
			times, picked := make([]int64, int(high-low)+1), make([]int64, len(blocks))
			for i := w; i < draws; i += workers {
				r, average := draw(few.blocks, rand.New(rand.NewPCG(seed, uint64(i))), times, picked, low)
				if !few.holds(&r) { // its figures lie where few has no steps
					r, average = draw(blocks, rand.New(rand.NewPCG(seed, uint64(i))), times, picked, low)
				}
				found[i] = figuresOf(&r, average)
			}
		})
	}
	all.Wait()
	out := resampled{}
	for _, figures := range found {
		for name, v := range figures {
			out[name] = append(out[name], v)
		}
	}
	return out
}

// few are blocks without the steps that no figure is taken from: all that lies below the middle
// of the frames stands at one step, and so does all between the middle and the slowest.
type few struct {
	blocks                   []block
	middle, ceiling, slowest int32 // the steps from middle to ceiling, and from slowest, are kept
}

// The shares of all frames between which a draw's middle lies nearly always, and above which
// its slowest hundredth does (P): a draw for which they do not is made of all steps.
const (
	middleFrom, middleTo, slowestFrom = 0.42, 0.58, 0.97
)

func thinned(blocks []block, low, high int32) *few {
	times := make([]int64, int(high-low)+1)
	n := 0
	for i := range blocks {
		n += blocks[i].frames
		for _, c := range blocks[i].steps {
			times[c.step-low] += int64(c.times)
		}
	}
	stepAt := func(share float64) int32 {
		left := int64(share * float64(n))
		for i, count := range times {
			if left -= count; left < 0 {
				return low + int32(i)
			}
		}
		return high
	}
	f := &few{blocks: make([]block, len(blocks)), middle: stepAt(middleFrom), ceiling: stepAt(middleTo), slowest: stepAt(slowestFrom)}
	for i, b := range blocks {
		f.blocks[i] = block{b.frames, b.ms, make([]count, 0, len(b.steps)/3+2)}
		for _, c := range b.steps {
			f.blocks[i].add(count{f.stands(c.step, low), c.times})
		}
	}
	return f
}

// stands is the step at which a step is counted.
func (f *few) stands(step, low int32) int32 {
	switch {
	case step < f.middle:
		return max(low, f.middle-1)
	case step > f.ceiling && step < f.slowest:
		return f.slowest - 1
	default:
		return step
	}
}

// add counts a step in that is not below those before.
func (b *block) add(c count) {
	if last := len(b.steps) - 1; last >= 0 && b.steps[last].step == c.step {
		b.steps[last].times += c.times
		return
	}
	b.steps = append(b.steps, c)
}

// holds reports a draw whose middle and whose slowest hundredth lie among the steps that are
// kept.
func (f *few) holds(r *ranked) bool {
	if r.n == 0 {
		return true
	}
	step := func(order int) int32 {
		for i, step := range r.steps {
			if order -= int(r.times[i]); order < 0 {
				return step
			}
		}
		return highest
	}
	middle, slow := (r.n-1)/2, r.n-int(math.Ceil(float64(r.n)*0.01))-1
	return step(middle) >= f.middle && step(min(middle+1, r.n-1)) <= f.ceiling && step(max(0, slow)) >= f.slowest
}

// draw counts the frames of as many blocks as there are, drawn anew, with their mean rate, Hz.
// The same draw is the same whoever makes it.
func draw(blocks []block, rng *rand.Rand, times, picked []int64, low int32) (ranked, float64) {
	clear(times)
	clear(picked)
	ms, r := 0.0, ranked{}
	for range blocks {
		at := rng.IntN(len(blocks))
		picked[at]++
		r.n, ms = r.n+blocks[at].frames, ms+blocks[at].ms
	}
	for at, often := range picked { // a block that was drawn again is counted once, so many times
		if often == 0 {
			continue
		}
		for _, c := range blocks[at].steps {
			times[c.step-low] += often * int64(c.times)
		}
	}
	for i, n := range times {
		if n > 0 {
			r.steps, r.times = append(r.steps, low+int32(i)), append(r.times, n)
		}
	}
	return r, float64(r.n) / (ms / 1000)
}

func (d *Digest) allBlocks() []block {
	blocks := d.blocks
	if d.open.ms > d.long/2 || len(blocks) == 0 && d.open.frames > 0 {
		blocks = append(slices.Clone(blocks), d.open.block())
	}
	return blocks
}

// figuresOf are the figures that intervals are given of.
func figuresOf(r *ranked, average float64) map[string]float64 {
	return map[string]float64{
		"average_hz": average, "median_ms": r.percentile(0.5), "p99_ms": r.percentile(0.99), "p999_ms": r.percentile(0.999),
		"low1_p99_hz": 1000 / r.percentile(
			0.99,
		), "low1_mean_hz": 1000 / r.tail(0.01), "low01_p99_hz": 1000 / r.percentile(0.999), "low01_mean_hz": 1000 / r.tail(0.001),
	}
}

// middle95 is the range between the 2.5th and the 97.5th per cent.
func middle95(values []float64) [2]float64 {
	r := ranked{exact: slices.Sorted(slices.Values(values)), n: len(values)}
	return [2]float64{r.percentile(0.025), r.percentile(0.975)}
}
