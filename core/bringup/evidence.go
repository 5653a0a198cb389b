package bringup

import (
	"fmt"

	"kolvan/core/rig"
)

// Evidence is what the file says that a test would show: a reading of the link, a run.
type Evidence struct {
	Test    string `json:"test"`
	Outcome string `json:"outcome"`
	From    string `json:"from"`
}

// evidence reads the rig for what its readings and runs of this card say. Of several the
// last one counts; what a person tried says more, and stands before it.
func (w *World) evidence(cat *Catalogue) (list []Evidence) {
	add := func(test, outcome, from string) {
		if cat.Check(test, outcome) != nil {
			return
		}
		for i := range list {
			if list[i].Test == test {
				list[i] = Evidence{test, outcome, from}
				return
			}
		}
		list = append(list, Evidence{test, outcome, from})
	}
	for i := range w.Rig.Route.Readings {
		r := &w.Rig.Route.Readings[i]
		from := fmt.Sprintf("reading %d of the link", i+1)
		if width, told := r.Width.Get(); told && w.plan.WidthKnown {
			add("device", choose(width > 0, "there", "absent"), from)
			add("width", w.widthWord(width), from)
		}
		if most, told := r.MostW.Get(); told && w.plan.WidthKnown {
			add("could-do", choose(most < w.width, "fewer", "full"), from)
		}
		if gen, told := r.Gen.Get(); told && w.plan.Gen > 0 {
			test := "idle-speed"
			if rig.Is(r.Load, "loaded") {
				test = "speed"
			}
			if rig.Is(r.Load, "loaded") || rig.Is(r.Load, "idle") {
				add(test, choose(gen < w.gen, "lower", "planned"), from)
			}
		}
		if errors, told := r.Errors.Get(); told && r.Seconds.Value >= 60 {
			add("errors", choose(errors > 0, "many", "none"), from)
		}
	}
	for i := range w.Rig.Runs {
		if run := &w.Rig.Runs[i]; rig.Is(run.Side, "after") && run.Average.Value > 0 && w.Rig.OfCard(run.Card) {
			add("device", "there", "the run "+run.Name)
		}
	}
	return list
}

// widthWord is what a width reads as beside the plan.
func (w *World) widthWord(width int) string {
	switch {
	case width <= 0:
		return "absent"
	case width >= w.width:
		return "full"
	case width > 1:
		return "half"
	default:
		return "x1"
	}
}
