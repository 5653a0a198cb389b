package bringup

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strings"
)

// tellsMost is what a test is expected to tell, in bits, and how likely its outcomes are.
func (f *Finder) tellsMost(weights []float64, test int) (bits float64, outcomes []float64) {
	outcomes = make([]float64, len(f.tests[test].Outcomes))
	for o := range outcomes {
		for i := range f.hyps {
			outcomes[o] += weights[i] * f.chance(&f.hyps[i], test, o)
		}
	}
	for o, p := range outcomes {
		if p <= 0 {
			continue
		}
		for i := range f.hyps {
			if q := f.chance(&f.hyps[i], test, o); weights[i] > 0 && q > 0 {
				bits += weights[i] * q * math.Log2(q/p)
			}
		}
	}
	return max(0, bits), outcomes
}

// rank sorts the tests that are left by what they tell a minute: those for which all is
// at hand, and those for which something has to be bought or borrowed. Where a person has
// told nothing yet, what is seen comes before all of them.
func (f *Finder) rank(seen []Seen, weights []float64, fresh bool) (near, far []Next) {
	harmless, harm := map[string]bool{}, map[string]float64{}
	dark := isDark(seen)
	for i, t := range f.tests {
		if slices.Contains(f.without, t.Name) || dark && t.Picture || t.First && !fresh ||
			slices.ContainsFunc(seen, func(s Seen) bool { return s.Test == t.Name }) {
			continue
		}
		bits, outcomes := f.tellsMost(weights, i)
		if bits < tells {
			continue
		}
		n := Next{
			Test: t.Name, Do: t.Do, Minutes: t.Minutes, Bits: bits, Outcomes: map[string]float64{}, Needs: t.Needs, Price: t.Price,
			Caution: t.Caution,
		}
		for o, p := range outcomes {
			n.Outcomes[t.Outcomes[o]] = p
		}
		n.Why = fmt.Sprintf("%.2f bit in %.0f min", bits, t.Minutes)
		harmless[t.Name], harm[t.Name] = t.Harmless, t.Harm
		if t.First {
			return []Next{n}, nil
		}
		if t.Needs == "" || slices.Contains(f.hands, t.Needs) {
			near = append(near, n)
		} else {
			far = append(far, n)
		}
	}
	better := func(a, b Next) int {
		rate := func(n *Next) float64 { return math.Round(n.Bits/(n.Minutes+harm[n.Test])*1e9) / 1e9 }
		first := cmp.Compare(rate(&b), rate(&a))
		if first == 0 && harmless[a.Test] != harmless[b.Test] {
			if harmless[a.Test] {
				return -1
			}
			return 1
		}
		return first
	}
	slices.SortStableFunc(near, better)
	slices.SortStableFunc(far, better)
	return near, far
}

// isDark reports that nothing can be read on a screen: no picture was seen, and none since.
func isDark(seen []Seen) bool {
	dark := false
	for _, one := range seen {
		switch one.Test {
		case "see":
			dark = slices.Contains([]string{"nothing", "twitch", "no-picture"}, one.Outcome)
		case "start":
			dark = one.Outcome == "stops" || one.Outcome == "hangs"
		case "screens":
			dark = one.Outcome == "none"
		}
	}
	return dark
}

// cannotPart says which suspects stay, and what would part them.
func (f *Finder) cannotPart(suspects []Suspect, far []Next) *Stop {
	stop := &Stop{Why: "cannot-part", Together: []string{}, PartedBy: append([]Next{}, far...)}
	said := []string{}
	sum := 0.0
	for _, s := range suspects {
		if sum >= named {
			break
		}
		sum += s.Weight
		stop.Together, said = append(stop.Together, s.Fault), append(said, s.Says)
	}
	stop.Says = "These can't be parted with what is at hand: " + strings.Join(said, "; ") + "."
	switch {
	case len(said) == 0:
		stop.Says = "There is no suspect for this rig."
	case len(far) > 0:
		stop.Says += " What would part them: " + far[0].Needs + "."
	default:
		stop.Says += " A second card or a second host would."
	}
	if slices.Contains(stop.Together, Unlisted) {
		stop.Says += " What was seen may be nothing of what Kolvan knows."
	}
	return stop
}

// left is what it would take to go on, and when that is more than it is worth.
func left(s *Search, near, far []Next) string {
	if len(s.Suspects) == 0 {
		return ""
	}
	top := s.Suspects[0]
	spent := fmt.Sprintf("%.0f min", s.Spent)
	if s.Money > 0 {
		spent += fmt.Sprintf(" and about %.0f of money", s.Money)
	}
	text := fmt.Sprintf("%s spent; the likeliest has %.0f %%.", spent, 100*top.Weight)
	switch {
	case s.Stop != nil && s.Stop.Why == "named":
		return text + fmt.Sprintf(" Mending it takes about %.0f min.", top.Minutes)
	case len(near) > 0:
		text += fmt.Sprintf(" The next test takes %.0f min.", near[0].Minutes)
	}
	if len(far) > 0 && far[0].Price > 0 {
		text += fmt.Sprintf(" After what is at hand, %s (about %.0f) tells most.", far[0].Needs, far[0].Price)
	}
	if s.Spent > stopAfter || s.Money > stopMoney {
		text += " That is much: another host, or stopping here, may be cheaper than what is left."
	}
	return text
}

// stopAfter is when stopping is worth a thought, min (P).
const stopAfter = 180

// stopMoney is when it is so for what was bought to find out, in the money of the tests'
// prices (P).
const stopMoney = 100
