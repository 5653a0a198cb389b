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
	Format  string    `json:"format"`
	Rig     string    `json:"rig"`
	Minutes float64   `json:"minutes"` // there are
	Takes   float64   `json:"takes"`   // what is not done yet, and fits
	Runs    []RunToDo `json:"runs"`
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
	// What tells most first, of the first use before the others.
	use := func(run *RunToDo) int {
		return slices.IndexFunc(r.Brief.Works, func(w rig.Work) bool { return w.Name == run.Use })
	}
	slices.SortStableFunc(p.Runs, func(a, b RunToDo) int { return rankOf(&a) + use(&a) - rankOf(&b) - use(&b) })
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

// Why a run is worth making.
const (
	whyWarm   = "the first after a start: it is left out"
	whyFirst  = "what the other side is held against"
	whyParts  = "it parts what may hold it back"
	whyRepeat = "three of a side tell how far they lie apart"
	whyNarrow = "the change is not known to 5 % yet"
)

// rankOf is how soon a run is worth making: one run of each side, then what parts, then
// repeats.
func rankOf(r *RunToDo) int {
	return map[string]int{whyWarm: 0, whyFirst: 0, whyParts: 1, whyRepeat: 2, whyNarrow: 3}[r.Why]
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

// Where no generation can be forced the copy rate proves the link.
const (
	copyTest    = "copy to the card and back, in large pieces"
	copyMinutes = 2.0
)

// runMinutes is what a run at a rate takes, the pause before it too, to the half minute.
func runMinutes(rate float64) float64 {
	seconds := min(max(leastSeconds, framesWanted/rate), mostSeconds)
	return pauseMinutes + math.Ceil(seconds/30)/2
}
