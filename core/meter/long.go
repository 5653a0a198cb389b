package meter

import (
	"math"
	"slices"

	"kolvan/core/units"
)

// A table may have more samples than are to be held. What is held of it then is what a
// drawing needs; the rest is counted as it goes by, in two passes: the first finds the pace,
// by which the second knows a gap.

const (
	mostWhole = 1 << 18 // samples that are held as they are: a day each third of a second
	mostDrawn = 1 << 16 // of a longer record
)

// pace is the usual time between two samples: the middle one of all. Samples that a meter
// wrote at one moment, its clock being coarse, count for none. Times that are alike are
// counted together, the more coarsely the more there are: within a millionth where there are
// not very many.
type pace struct {
	last   units.Second
	begun  bool
	counts map[uint64]*alike
	coarse int
}

type alike struct {
	least units.Second
	count int
}

const (
	mostAlike  = 1 << 16
	exactShift = 32 // bits of a time that are not looked at
)

func (p *pace) add(s Sample) {
	step := s.At - p.last
	begun := p.begun
	p.last, p.begun = s.At, true
	if !begun || step <= 0 {
		return
	}
	if p.counts == nil {
		p.counts = map[uint64]*alike{}
	}
	p.count(step, 1)
	for len(p.counts) > mostAlike {
		finer := p.counts
		p.counts = map[uint64]*alike{}
		p.coarse += 4
		for _, a := range finer {
			p.count(a.least, a.count)
		}
	}
}

func (p *pace) count(step units.Second, times int) {
	key := math.Float64bits(float64(step)) >> (exactShift + p.coarse)
	if a := p.counts[key]; a != nil {
		a.least, a.count = min(a.least, step), a.count+times
		return
	}
	p.counts[key] = &alike{step, times}
}

func (p *pace) middle() units.Second {
	keys, all := make([]uint64, 0, len(p.counts)), 0
	for key, a := range p.counts {
		keys, all = append(keys, key), all+a.count
	}
	slices.Sort(keys)
	before := 0
	for _, key := range keys {
		if before += p.counts[key].count; before > all/2 {
			return p.counts[key].least
		}
	}
	return 0
}

// highest is the highest mean over readingOver, between gaps.
type highest struct {
	longest      units.Second // without a sample before that is a gap
	last         Sample
	begun        bool
	window       []stretch
	first        int // of the window; what stands before it has left it
	span, joules float64
	best         units.Watt
}

// stretch is the time between two samples, and what flowed in it.
type stretch struct{ span, joules float64 }

// mostStretches bounds the window of a table with very many samples in ten seconds.
const mostStretches = 1 << 14

func (h *highest) add(s Sample) {
	last, begun := h.last, h.begun
	h.last, h.begun = s, true
	if !begun {
		return
	}
	span := float64(s.At - last.At)
	if s.At-last.At > h.longest {
		h.window, h.first, h.span, h.joules = h.window[:0], 0, 0, 0 // nothing is known of a gap
		return
	}
	h.window = append(h.window, stretch{span, float64(last.Power+s.Power) / 2 * span})
	h.span += span
	h.joules += h.window[len(h.window)-1].joules
	for h.first+1 < len(h.window) && h.span-h.window[h.first].span >= float64(readingOver) {
		h.span -= h.window[h.first].span
		h.joules -= h.window[h.first].joules
		h.first++
	}
	if h.span >= float64(readingOver) {
		h.best = max(h.best, units.Watt(h.joules/h.span))
	}
	if h.first > mostStretches {
		h.window, h.first = slices.Delete(h.window, 0, h.first), 0
	}
	if len(h.window)-h.first > mostStretches {
		h.join()
	}
}

// join makes one stretch of each two.
func (h *highest) join() {
	h.window, h.first = slices.Delete(h.window, 0, h.first), 0
	if len(h.window)%2 == 1 {
		h.window = append(h.window, stretch{})
	}
	for i := 0; i < len(h.window); i += 2 {
		a, b := h.window[i], h.window[i+1]
		h.window[i/2] = stretch{a.span + b.span, a.joules + b.joules}
	}
	h.window = h.window[:len(h.window)/2]
}

// mean is the highest mean; of a record that is shorter the mean of all.
func (h *highest) mean(whole Figures) units.Watt {
	if whole.Seconds <= readingOver {
		return whole.Mean
	}
	return h.best
}

// drawn keeps the lowest and the highest sample of every stretch.
type drawn struct {
	each      int // samples a stretch
	seen      int
	low, high Sample
	first     bool // the low one came first
	list      []Sample
}

func (d *drawn) add(s Sample) {
	if d.seen%d.each == 0 {
		d.flush()
		d.low, d.high, d.first = s, s, true
	}
	d.seen++
	if s.Power < d.low.Power {
		d.low, d.first = s, false
	}
	if s.Power > d.high.Power {
		d.high, d.first = s, true
	}
}

func (d *drawn) flush() {
	if d.seen == 0 {
		return
	}
	pair := []Sample{d.low, d.high}
	switch {
	case d.low == d.high:
		pair = pair[:1]
	case !d.first:
		pair[0], pair[1] = pair[1], pair[0]
	}
	d.list = append(d.list, pair...)
}
