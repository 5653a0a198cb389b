package bringup

import (
	"slices"
)

// A Sequence is steps in an order, with what is wrong with it.
type Sequence struct {
	Steps  []Step
	Turns  int      // how often the host is turned over
	Cycle  []string // steps of which each needs another one done before; nil where an order exists
	Breaks []Break  // preconditions that a person's order breaks
}

// A Break is a step that stands before one it needs.
type Break struct{ Step, Needs string }

// Arrange puts steps in an order that heeds all preconditions and turns the host over as
// seldom as can be; of equals the one of the earlier row comes first. The steps a person
// named come in the person's order, whatever that breaks.
//
// Of two sides, doing all that can be done before turning over is never worse: what is
// done now bars nothing later. The host starts top up.
func Arrange(steps []Step, own []string) Sequence {
	a := arranger{steps: steps, done: make([]bool, len(steps)), own: places(steps, own), side: Top}
	for len(a.order) < len(steps) {
		i := a.next()
		if i < 0 {
			i = a.stuck()
		}
		a.take(i)
	}
	s := Sequence{Steps: make([]Step, len(steps)), Turns: a.turns, Cycle: a.cycle}
	at := make([]int, len(steps))
	for k, i := range a.order {
		s.Steps[k], at[i] = steps[i], k
	}
	for k, i := range a.order {
		for _, j := range steps[i].needs {
			if at[j] > k && a.cycle == nil {
				s.Breaks = append(s.Breaks, Break{steps[i].ID, steps[j].ID})
			}
		}
	}
	return s
}

// places are where the named steps stand; what is no step is left out.
func places(steps []Step, names []string) (list []int) {
	for _, name := range names {
		if i := slices.IndexFunc(steps, func(s Step) bool { return s.ID == name }); i >= 0 && !slices.Contains(list, i) {
			list = append(list, i)
		}
	}
	return list
}

type arranger struct {
	steps []Step
	done  []bool
	own   []int // what is left of a person's order
	order []int
	side  Place
	turns int
	cycle []string
}

// next is the first step that may be done on this side, or on the other where none is;
// −1 where nothing may be done.
func (a *arranger) next() int {
	other := -1
	for i := range a.steps {
		if a.done[i] || !a.ready(i) {
			continue
		}
		if at := a.steps[i].Place; at != Top && at != Underside || at == a.side {
			return i
		}
		if other < 0 {
			other = i
		}
	}
	return other
}

// ready reports a step whose needs are done; one of a person's order waits for its turn,
// and what it needs of later ones of that order does not count.
func (a *arranger) ready(i int) bool {
	if k := slices.Index(a.own, i); k > 0 {
		return false
	}
	for _, j := range a.steps[i].needs {
		if !a.done[j] && !(slices.Contains(a.own, i) && slices.Contains(a.own, j)) {
			return false
		}
	}
	return true
}

// stuck breaks what keeps all steps waiting: the next of a person's order is done all the
// same; else there is a cycle, and its first step is.
func (a *arranger) stuck() int {
	if len(a.own) > 0 {
		return a.own[0]
	}
	cycle := a.onCycle()
	if a.cycle == nil {
		for _, i := range cycle {
			a.cycle = append(a.cycle, a.steps[i].ID)
		}
	}
	return cycle[0]
}

// onCycle lists the steps on one cycle of those that are left: from any of them, going
// back to what it waits for comes round.
func (a *arranger) onCycle() []int {
	seen := map[int]int{}
	var way []int
	for i := slices.Index(a.done, false); ; {
		if at, again := seen[i]; again {
			list := slices.Clone(way[at:])
			slices.Sort(list)
			return list
		}
		seen[i] = len(way)
		way = append(way, i)
		for _, j := range a.steps[i].needs {
			if !a.done[j] {
				i = j
				break
			}
		}
	}
}

func (a *arranger) take(i int) {
	a.done[i] = true
	a.order = append(a.order, i)
	if k := slices.Index(a.own, i); k >= 0 {
		a.own = slices.Delete(a.own, k, k+1)
	}
	if at := a.steps[i].Place; (at == Top || at == Underside) && at != a.side {
		a.side, a.turns = at, a.turns+1
	}
}

// Back is the way back to the host as bought: what was done, taken back in the other
// order, and what cannot be.
func (s *Sequence) Back() []Step {
	var back []Step
	for i := range s.Steps { // while it still runs
		if f := &s.Steps[i]; f.tagged("driver-in") {
			back = append(back, Step{ID: "back-" + f.ID, Do: f.Undo, Place: f.Place, Parts: f.Parts, Minutes: f.Minutes})
		}
	}
	back = append(
		back,
		Step{
			ID: "back-power-off", Do: "Switch off and pull the mains plugs; hold the power button for ten seconds.", Place: Table,
			Minutes: [2]float64{2, 4}, RightWhen: "No lamp is on anywhere.",
		},
	)
	for i := len(s.Steps) - 1; i >= 0; i-- {
		f := &s.Steps[i]
		switch {
		case f.tagged("driver-in"):
		case f.Permanent:
			back = append(back, Step{ID: "stays-" + f.ID, Do: "Cannot be undone: " + f.Do, Place: f.Place, Permanent: true, Parts: f.Parts})
		case f.tagged("covers-on") || f.tagged("closing"):
			back = append(
				back,
				Step{
					ID: "back-" + f.ID, Do: "Take off what this put on: " + f.Do, Place: f.Place, Parts: f.Parts, Tools: f.Tools,
					Minutes: f.Minutes, Screws: f.Screws,
				},
			)
		case f.Undo != "":
			back = append(
				back,
				Step{
					ID: "back-" + f.ID, Do: f.Undo, Place: f.Place, Parts: f.Parts, Tools: f.Tools, Minutes: f.Minutes, Screws: f.Screws,
					Cautions: f.Cautions,
				},
			)
		}
	}
	return back
}
