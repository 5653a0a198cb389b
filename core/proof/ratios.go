package proof

import (
	"math"

	"kolvan/core/rig"
	"kolvan/core/units"
)

// mostRatio is as much as a ratio is told for: beyond it the part does not count any more.
const mostRatio = 1000

// CardRatio is how many times as fast as this card another one is that made runs in this
// host, over all sets of terms that explain the runs with this one: what is left of its
// frames when processor and link have had theirs. False where no run tells.
func CardRatio(r *rig.Rig, link Link, card string) ([2]float64, bool) {
	return ratioBy(r, link, func(run *rig.Run) bool {
		return rig.Is(run.Side, "after") && run.Card == card && !r.OfCard(card)
	}, func(one fit, g, l, frame float64) float64 { return g / one.leftOf(frame, one.C, l) })
}

// ProcessorRatio is how many times as fast as this host's the processor of a machine is in
// which this card made runs, over a link that is told. False where no run tells.
func ProcessorRatio(r *rig.Rig, link Link, machine string) ([2]float64, bool) {
	return ratioBy(r, link, func(run *rig.Run) bool {
		return rig.Is(run.Side, "elsewhere") && run.Machine == machine && machine != "" && run.Net.Known && r.OfCard(run.Card)
	}, func(one fit, g, l, frame float64) float64 { return one.C / one.leftOf(frame, g, l) })
}

// leftOf is what is left of a frame for the processor or the card when the other of them and the
// link are told: the model the other way round; not a number where they alone take longer.
func (f *fit) leftOf(frame, other, link float64) float64 {
	if f.adds {
		frame, link = max(0, frame-link), 0
	}
	return math.Pow(math.Pow(frame, f.p)-math.Pow(other, f.p)-math.Pow(link, f.p), 1/f.p)
}

// ratioBy solves the runs that are asked for by every set of terms their use allows.
func ratioBy(r *rig.Rig, link Link, asked func(*rig.Run) bool, solve func(one fit, g, l, frame float64) float64) (ratio [2]float64,
	told bool) {
	ratio = [2]float64{math.Inf(1), 0}
	for i := range r.Brief.Works {
		w := &r.Brief.Works[i]
		known := learnt(r, w, link)
		for k := range r.Runs {
			run := &r.Runs[k]
			if len(known.fits) == 0 || run.Use != w.Name || !asked(run) || !known.comparable(r, run) {
				continue
			}
			net := linkOf(run, link.At)
			for _, one := range known.fits {
				g := one.G * math.Pow(float64(run.Width.Value*run.Height.Value)/known.pixels, one.a)
				for _, l := range linkTerms(one, known.net, net) {
					for _, frame := range framesOf(run) {
						if v := solve(one, g, l, frame); v > 0 {
							ratio, told = [2]float64{min(ratio[0], v), min(max(ratio[1], v), mostRatio)}, true
						}
					}
				}
			}
		}
	}
	return ratio, told && ratio[0] <= ratio[1]
}

// comparable reports a run that nothing held up, made as those that were learnt from, but
// for its resolution and the generation of its link.
func (l *lessons) comparable(r *rig.Rig, run *rig.Run) bool {
	if run.Average.Value <= 0 || !run.Width.Known || !run.Height.Known || run.Cap.Known || rig.Is(run.Sync, true) {
		return false
	}
	alike := func(of *rig.Run) setup {
		key := setupOf(of)
		key.width, key.height, key.gen = 0, 0, 0
		return key
	}
	with := mostAlike(WithCard(r, run.Use))
	return len(with) > 0 && alike(with[0]) == alike(run)
}

// linkTerms are what the link takes of a frame over one that carries that.
func linkTerms(one fit, was units.GigabytePerSecond, net units.Range[units.GigabytePerSecond]) (list []float64) {
	for _, v := range ends(float64(net.Low), float64(net.High)) {
		list = append(list, one.L*float64(was)/max(v, leastNet))
	}
	return list
}

// framesOf are the ends of how long a frame of a run took, ms: its interval, or two
// hundredths either way where it tells none.
func framesOf(run *rig.Run) []float64 {
	low, high := 0.98*run.Average.Value, 1.02*run.Average.Value
	if run.Least.Known && run.Most.Known && run.Least.Value > 0 {
		low, high = min(low, run.Least.Value), max(high, run.Most.Value)
	}
	return []float64{1000 / high, 1000 / low}
}
