package bringup

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strings"
)

// suspects lists the weights, the likeliest first.
func (s *Search) suspects(f *Finder, weights []float64, seen []Seen) {
	shown := f.shown(seen)
	for i := range f.hyps {
		var names, says, mends []string
		minutes := 0.0
		for _, fault := range f.hyps[i].faults {
			mend := fault.Mend
			if len(f.hyps[i].faults) == 1 { // of two, one hides what the mend of the other does
				mend = f.mend(fault, seen)
			}
			names, says, mends = append(names, fault.Name), append(says, fault.Says), append(mends, mend)
			minutes += fault.Minutes
		}
		one := Suspect{
			Fault: strings.Join(names, "+"), Says: strings.Join(says, " and "), Weight: weights[i], Mend: strings.Join(mends, " "),
			Minutes: minutes,
		}
		one.For, one.Against = f.speak(i, shown)
		s.Suspects = append(s.Suspects, one)
	}
	slices.SortStableFunc(s.Suspects, func(a, b Suspect) int { return cmp.Compare(b.Weight, a.Weight) })
}

// mend is what mends a fault. What was tried without effect is not proposed again.
func (f *Finder) mend(fault *Fault, seen []Seen) string {
	for _, one := range seen {
		t := f.test(one.Test)
		if t < 0 || one.Outcome != "same" {
			continue
		}
		test := f.tests[t]
		reseated := fault.Reseats && slices.Contains(test.Changes, "reseat")
		if !reseated && !test.cures(fault) {
			continue
		}
		if fault.Again != "" {
			return fault.Again
		}
		return "What mends it was tried and changed nothing: look at the next suspect first."
	}
	return fault.Mend
}

// cures reports a test that puts another in the place of what is broken.
func (t *Test) cures(fault *Fault) bool {
	return slices.Contains(t.Replaces, fault.Part) || slices.Contains(t.Replaces, fault.Name) || slices.Contains(t.Also, fault.Name)
}

// shown is an outcome that was seen, with its chance over all suspects before anything was.
type shown struct {
	says          string
	test, outcome int
	chance        float64
}

func (f *Finder) shown(seen []Seen) (list []shown) {
	priors := f.posterior(nil)
	for _, one := range seen {
		t := f.test(one.Test)
		if t < 0 {
			continue
		}
		s := shown{one.Test + "=" + one.Outcome, t, slices.Index(f.tests[t].Outcomes, one.Outcome), 0}
		for i := range f.hyps {
			s.chance += priors[i] * f.chance(&f.hyps[i], t, s.outcome)
		}
		list = append(list, s)
	}
	return list
}

// speak lists what the file says for a suspect and against it, then what was seen, the
// strongest first.
func (f *Finder) speak(suspect int, seen []shown) (in, against []string) {
	type voice struct {
		says string
		by   float64
	}
	var voices []voice
	for _, one := range seen {
		voices = append(voices, voice{one.says, f.chance(&f.hyps[suspect], one.test, one.outcome) / one.chance})
	}
	slices.SortStableFunc(voices, func(a, b voice) int { return cmp.Compare(math.Abs(math.Log(b.by)), math.Abs(math.Log(a.by))) })
	in, against = []string{}, []string{}
	for _, fault := range f.hyps[suspect].faults {
		leans, speaks := f.w.leans(fault)
		in, against = append(in, leans...), append(against, speaks...)
	}
	for _, v := range voices {
		switch {
		case v.by >= speaks:
			in = append(in, v.says)
		case v.by <= 1/speaks:
			against = append(against, v.says)
		}
	}
	return in, against
}

// odd lists outcomes that no listed suspect shows but by a slip, and says how likely it is
// that the list does not have what is wrong.
func (f *Finder) odd(seen []Seen, weights []float64) (list []string) {
	nobody := slices.IndexFunc(f.hyps, func(h hypothesis) bool { return h.faults[0].Name == Unlisted })
	for _, one := range seen {
		t := f.test(one.Test)
		if t < 0 {
			continue
		}
		o := slices.Index(f.tests[t].Outcomes, one.Outcome)
		if !slices.ContainsFunc(f.hyps, func(h hypothesis) bool { return h.faults[0].Name != Unlisted && h.shows[t][o] > 0 }) {
			list = append(
				list,
				fmt.Sprintf(
					"Nothing on the list shows %s=%s: look again. If it is so, it is something that Kolvan does not know, with %.0f %%.",
					one.Test, one.Outcome, 100*weights[nobody],
				),
			)
		}
	}
	return list
}
