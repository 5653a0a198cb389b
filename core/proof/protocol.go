package proof

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"kolvan/core/rig"
	"kolvan/core/units"
)

// ProtocolFormat is the format word of a protocol.
const ProtocolFormat = "kolvan-protocol/1"

// A Protocol is the runs that tell most in the minutes there are, in their order.
type Protocol struct {
	Format  string  `json:"format"`
	Rig     string  `json:"rig"`
	Minutes float64 `json:"minutes"` // there are
	Takes   float64 `json:"takes"`   // what is not done yet, and fits
	// What a short proof takes of what is not done yet (the link read under load, a copy, one run
	// of each side of the first use), and all of it.
	Short float64   `json:"short_minutes"`
	Long  float64   `json:"long_minutes"`
	Runs  []RunToDo `json:"runs"`
}

// RunToDo is one run that is worth making, or was made.
type RunToDo struct {
	Use     string  `json:"use"`
	Side    string  `json:"side"` // before, after
	Do      string  `json:"do"`
	Why     string  `json:"why"`
	Minutes float64 `json:"minutes"` // with the pause before it
	Done    bool    `json:"done"`
	Left    bool    `json:"left_for_later"` // it does not fit into the minutes there are
}

// What a run takes (P): frames enough for the slowest hundredth, and a minute at the least;
// a pause to cool before it, and what it takes to set it up.
const (
	framesWanted = 2 * fewFrames
	leastSeconds = 60.0
	mostSeconds  = 300.0
	usualHz      = 30.0
	pauseMinutes = 1.0
	forceMinutes = 3.0 // into the firmware and back
	repeatsWant  = 3
	mostRepeats  = 6
	narrowEnough = 0.05 // half the interval of a change
)

// ProtocolFor proposes the runs of a rig: of each use before and with the card, then what
// parts what holds it back, then repeats until the change is known well enough.
func ProtocolFor(r *rig.Rig, minutes float64, netAt func(gen int) units.Range[units.GigabytePerSecond]) *Protocol {
	p := &Protocol{Format: ProtocolFormat, Rig: r.Name, Minutes: minutes, Runs: []RunToDo{}}
	for i := range r.Brief.Works {
		p.use(r, &r.Brief.Works[i], netAt)
	}
	if len(r.Brief.Works) > 0 {
		p.Runs = slices.Insert(p.Runs, 0, RunToDo{
			Use: r.Brief.Works[0].Name, Side: "after", Do: linkRead, Why: whyLink, Minutes: linkMinutes,
			Done: slices.ContainsFunc(r.Route.Readings, func(read rig.Reading) bool { return rig.Is(read.Load, rig.Loaded) }),
		})
	}
	// What tells most first, of the first use before the others.
	use := func(run *RunToDo) int {
		return slices.IndexFunc(r.Brief.Works, func(w rig.Work) bool { return w.Name == run.Use })
	}
	cold := p.tooShortToWarm(use, minutes)
	rank := func(run *RunToDo) int { return rankOf(run, cold) + use(run) }
	slices.SortStableFunc(p.Runs, func(a, b RunToDo) int { return rank(&a) - rank(&b) })
	p.sum(use)
	for i := range p.Runs {
		run := &p.Runs[i]
		if run.Done {
			continue
		}
		if run.Left = p.Takes+run.Minutes > minutes+1e-9; !run.Left {
			p.Takes += run.Minutes
		}
	}
	return p
}

// tooShortToWarm reports minutes that do not hold a first run that is left out and one that counts,
// of each side of the first use: then the first counts.
func (p *Protocol) tooShortToWarm(use func(*RunToDo) int, minutes float64) bool {
	both := 0.0
	for i := range p.Runs {
		if run := &p.Runs[i]; use(run) == 0 && !run.Done && (run.Why == whyWarm || run.Why == whyFirst) {
			both += run.Minutes
		}
	}
	return both > minutes
}

// sum adds up what a short proof takes, and a long one.
func (p *Protocol) sum(use func(*RunToDo) int) {
	for i := range p.Runs {
		run := &p.Runs[i]
		if run.Done {
			continue
		}
		p.Long += run.Minutes
		if use(run) == 0 && (run.Why == whyFirst || run.Why == whyLink || run.Do == copyTest) {
			p.Short += run.Minutes
		}
	}
}

// Why a run is worth making.
const (
	whyLink   = "it proves lanes and generation"
	whyWarm   = "the first after a start: it is left out"
	whyFirst  = "what the other side is held against"
	whyParts  = "it parts what may hold it back"
	whyRepeat = "three of a side tell how far they lie apart"
	whyNarrow = "the change is not known to 5 % yet"
)

// rankOf is how soon a run is worth making: one run of each side, then the link read and what
// parts, then repeats; where there is no time to warm up, that comes last.
func rankOf(r *RunToDo, cold bool) int {
	if cold && r.Why == whyWarm {
		return 4
	}
	return map[string]int{whyWarm: 0, whyFirst: 0, whyLink: 1, whyParts: 1, whyRepeat: 2, whyNarrow: 3}[r.Why]
}

func (p *Protocol) use(r *rig.Rig, w *rig.Work, netAt func(gen int) units.Range[units.GigabytePerSecond]) {
	uses, _ := groups(ofThisCard(r), useOf)
	made := sides{}
	if uses[w.Name] != nil {
		made = *uses[w.Name]
	}
	p.side(w, "before", made.before, cmp.Or(w.TodayHz.Value, usualHz))
	p.side(w, "after", made.after, cmp.Or(w.CardHz.Value, w.TodayHz.Value, usualHz))
	p.parting(r, w, made.warm().after, PinchOf(r, w.Name, netAt).Name != "")
}

// side asks for a first run that is left out, and three more.
func (p *Protocol) side(w *rig.Work, side string, made []*rig.Run, rate float64) {
	minutes := runMinutes(rate)
	warm := len(made)
	first := slices.ContainsFunc(made, func(run *rig.Run) bool { return rig.Is(run.First, true) })
	if first {
		warm--
	}
	name := map[string]string{"before": "before the card", "after": "with the card"}[side]
	p.Runs = append(
		p.Runs,
		RunToDo{
			Use: w.Name, Side: side, Do: fmt.Sprintf("%s %s, a first time", w.Name, name), Why: whyWarm, Minutes: minutes,
			Done: first || warm > 0,
		},
	)
	repeats := repeatsWant
	if warm >= repeatsWant && warm < mostRepeats && !narrow(made) {
		repeats = warm + 1
	}
	for k := range repeats {
		todo := RunToDo{
			Use: w.Name, Side: side, Do: fmt.Sprintf("%s %s, run %d", w.Name, name, k+1), Why: whyRepeat, Minutes: minutes,
			Done: k < warm,
		}
		switch {
		case k == 0:
			todo.Why = whyFirst
		case k >= repeatsWant:
			todo.Why = whyNarrow
		}
		p.Runs = append(p.Runs, todo)
	}
}

// narrow reports runs whose mean is known well enough.
func narrow(runs []*rig.Run) bool {
	mean, off, known := meanOf(runs, measures[0].of)
	return !known || off <= narrowEnough*mean
}

// parting asks for the run that would part what holds a use back.
func (p *Protocol) parting(r *rig.Rig, w *rig.Work, made []*rig.Run, told bool) {
	rate := cmp.Or(w.CardHz.Value, w.TodayHz.Value, usualHz)
	sizes, gens := map[int]bool{}, map[int]bool{}
	for i := range made {
		if made[i].Width.Known && made[i].Height.Known {
			sizes[made[i].Width.Value*made[i].Height.Value] = true
		}
		gens[made[i].Gen.Or(0)] = true
	}
	add := func(do string, minutes float64, done bool) {
		if told && !done {
			return // what holds it back is known already
		}
		p.Runs = append(p.Runs, RunToDo{Use: w.Name, Side: "after", Do: do, Why: whyParts, Minutes: minutes, Done: done})
	}
	if w.FillsOnce() {
		return // nothing moves while it computes
	}
	add(w.Name+" with the card, at half the pixels or fewer", runMinutes(rate), len(sizes) > 1)
	if len(sizes) > 1 {
		add(w.Name+" with the card, at a third resolution, as low as it goes", runMinutes(rate), len(sizes) > 2)
	}
	if r.Route.ForcedGen.Known || len(gens) > 1 {
		add(w.Name+" with the card, the link held a generation down", runMinutes(rate)+forceMinutes, len(gens) > 1)
		return
	}
	copied := slices.ContainsFunc(r.LoadReadings, func(l rig.LoadReading) bool { return l.To.Known && l.From.Known })
	if !slices.ContainsFunc(p.Runs, func(run RunToDo) bool { return run.Do == copyTest }) {
		add(copyTest, copyMinutes, copied)
	}
}

// What proves the link: a reading under load, and where no generation can be forced the copy rate.
const (
	linkRead    = "read the link under load"
	linkMinutes = 1.0
	copyTest    = "copy to the card and back, in large pieces"
	copyMinutes = 2.0
)

// runMinutes is what a run at a rate takes, the pause before it too, to the half minute.
func runMinutes(rate float64) float64 {
	seconds := min(max(leastSeconds, framesWanted/rate), mostSeconds)
	return pauseMinutes + math.Ceil(seconds/30)/2
}
