package plan

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strings"

	"kolvan/core/assess"
	"kolvan/core/units"
)

// alikeBy is the share within which two figures of plans count as the same: nobody chooses by
// less (P).
const alikeBy = 0.02

// merits are what plans are held against each other by, more of each being better.
func (p *Plan) merits() [7]float64 {
	return [7]float64{ // what a year costs goes by the watts
		p.middle(),
		p.Certainty,
		-p.spend(),
		-p.watts,
		-(p.Noise[0] + p.Noise[1]) / 2,
		-float64(p.Moves + 2*p.Alterations),
		-(p.Minutes[0] + p.Minutes[1]) / 2,
	}
}

// beats reports a plan that is as good in everything, and better in something.
func (p *Plan) beats(o *Plan) bool {
	better := false
	a, b := p.merits(), o.merits()
	for i := range a {
		slack := alikeBy * math.Max(math.Abs(a[i]), math.Abs(b[i]))
		if a[i] < b[i]-slack {
			return false
		}
		better = better || a[i] > b[i]+slack
	}
	return better || p.spend() < o.spend()
}

// same reports a plan of the same parts in the same places.
func (p *Plan) same(o *Plan) bool {
	return p.Host == o.Host && p.Card == o.Card && p.From == o.From && p.Supply == o.Supply && slices.Equal(p.Stages, o.Stages) &&
		p.spend() == o.spend()
}

// front keeps the plans that none beats, and some of those that one does, folded behind it. A
// plan that stands is told whether or not it is beaten.
func (s *search) front() {
	all := s.answer.Plans
	slices.SortStableFunc(all, func(a, b Plan) int {
		return cmp.Or(cmp.Compare(b.middle(), a.middle()), cmp.Compare(a.spend(), b.spend()))
	})
	all = slices.DeleteFunc(all, func(p Plan) bool { // the way it goes was found too
		return !p.Here && slices.ContainsFunc(all, func(o Plan) bool { return o.Here && o.same(&p) })
	})
	var kept, beaten []Plan
	for i := range all {
		if slices.ContainsFunc(all, func(o Plan) bool { return o.beats(&all[i]) && !all[i].beats(&o) }) {
			beaten = append(beaten, all[i])
		} else {
			kept = append(kept, all[i])
		}
	}
	kept = spread(kept)
	for i := range beaten {
		if len(kept) < mostPlans+mostBeaten || beaten[i].Here {
			kept = append(kept, beaten[i])
		}
	}
	slices.SortStableFunc(kept, func(a, b Plan) int { return cmp.Compare(a.spend(), b.spend()) })
	for i := range kept {
		kept[i].BeatenBy = nil
		for j := range kept {
			if kept[j].beats(&kept[i]) && !kept[i].beats(&kept[j]) {
				kept[i].BeatenBy = &j
				break
			}
		}
	}
	s.answer.Plans = kept
}

// spread keeps so many plans of a long frontier that what they cost and what is expected of
// them is spread over all of it: of two to one card by like ways, the one that costs less.
func spread(kept []Plan) []Plan {
	for len(kept) > mostPlans {
		drop, least := -1, math.Inf(1)
		for i := range kept {
			for j := range kept {
				if i == j || kept[i].Here || kept[i].spend() < kept[j].spend() {
					continue
				}
				if d := apart(&kept[i], &kept[j]); d < least {
					drop, least = i, d
				}
			}
		}
		if drop < 0 {
			return kept[:mostPlans]
		}
		kept = slices.Delete(kept, drop, drop+1)
	}
	return kept
}

// apart is how far two plans lie from each other.
func apart(a, b *Plan) (d float64) {
	if a.Card != b.Card {
		d = 0.3
	}
	x, y := a.merits(), b.merits()
	for i := range x {
		if most := math.Max(math.Abs(x[i]), math.Abs(y[i])); most > 0 {
			d += math.Abs(x[i]-y[i]) / most
		}
	}
	return d
}

// first is the plan the others are told against: the one that stands, else of those that none
// beats the one that brings most for sure, of two alike the cheaper.
func (s *search) first() int {
	best, most := -1, math.Inf(-1)
	for i := range s.answer.Plans {
		p := &s.answer.Plans[i]
		if p.Here {
			return i
		}
		if v := p.middle() * p.Certainty; p.BeatenBy == nil && v > most*(1+alikeBy) {
			best, most = i, v
		}
	}
	return best
}

// compare tells each plan as an exchange for the first, and what to find out before anything is
// bought.
func (s *search) compare() {
	i := s.first()
	if i < 0 {
		return
	}
	first := &s.answer.Plans[i]
	for k := range s.answer.Plans {
		if k != i {
			s.answer.Plans[k].Exchange = exchange(first, &s.answer.Plans[k], s.answer.Unit, s.Rig.Brief.Currency)
		}
	}
	s.answer.FindOut, s.answer.Purchases, s.answer.Stages = s.findOut(), s.purchases(), s.stages(i)
}

// exchange says what one plan has instead of another.
func exchange(a, b *Plan, unit, currency string) string {
	money := b.spend() - a.spend()
	words := []string{}
	if b.Card != a.Card {
		words = append(words, b.Card+" instead of "+a.Card)
	}
	if b.From != a.From {
		words = append(words, "from "+b.From+" instead of "+a.From)
	}
	if b.Supply != a.Supply && b.Supply != "" {
		words = append(words, "fed by "+b.Supply)
	}
	if len(words) == 0 {
		words = append(words, b.Says)
	}
	switch by := b.middle() - a.middle(); {
	case math.Abs(by) <= alikeBy*a.middle():
	case unit == inHz && by > 0:
		words = append(words, units.Trim(by, 0)+" Hz more")
	case unit == inHz:
		words = append(words, units.Trim(-by, 0)+" Hz less")
	case a.middle() > 0:
		words = append(words, units.Trim(b.middle()/a.middle(), 2)+" times the first use")
	}
	if moves := b.Moves - a.Moves; moves > 0 {
		words = append(words, fmt.Sprintf("%d more to move", moves))
	} else if moves < 0 {
		words = append(words, fmt.Sprintf("%d fewer to move", -moves))
	}
	if by := (b.Certainty - a.Certainty) * 100; math.Abs(by) >= 1 {
		word := "more"
		if by < 0 {
			word = "less"
		}
		words = append(words, fmt.Sprintf("%.0f %% %s certain", math.Abs(by), word))
	}
	return strings.TrimSpace(fmt.Sprintf("%+.0f %s", money, currency)) + ": " + strings.Join(words, ", ")
}

// A FindOut is a fact worth finding out first: so many minutes, worth so much of the brief's
// currency.
type FindOut struct {
	Fact    string  `json:"fact"`
	Asks    string  `json:"asks"`
	How     string  `json:"how"`
	Minutes float64 `json:"minutes"`
	Worth   float64 `json:"worth"`
	Between string  `json:"between"` // what it decides
}

// Minutes that finding something out takes, by how it is found (P).
var minutesOf = []struct {
	word    string
	minutes float64
}{{"Try", 12}, {"Start", 12}, {"Measure", 5}, {"Ask", 5}, {"Read", 2}, {"Look", 1}, {"", 5}}

// findOut is, of all facts that plans leave open, by how much the regret to be expected falls
// with each of them known: what the best plan is then worth, over all its answers, less what the
// best one is worth now. Every answer counts as likely as another; a plan that an answer stops
// is worth nothing, and what was bought for it is spent.
func (s *search) findOut() []FindOut {
	list := []FindOut{}
	now := s.bestWorth("", false)
	for i := range s.answer.Plans {
		for k := range s.answer.Plans[i].Report.Questions {
			q := &s.answer.Plans[i].Report.Questions[k]
			bad := stopping(q)
			if bad == 0 || slices.ContainsFunc(list, func(f FindOut) bool { return f.Fact == q.Fact }) {
				continue
			}
			stopped, goes := s.bestWorth(q.Fact, true), s.bestWorth(q.Fact, false)
			f := FindOut{Fact: q.Fact, Asks: q.Asks, How: q.How, Minutes: minutesFor(q.How),
				Worth: bad*stopped.worth + (1-bad)*goes.worth - now.worth}
			f.Between = stopped.name() + ", or " + goes.name()
			if f.Worth = units.Round(f.Worth, 3); f.Worth > 0.5 && stopped.name() != goes.name() {
				list = append(list, f)
			}
		}
	}
	slices.SortStableFunc(list, func(a, b FindOut) int { return cmp.Compare(b.Worth/b.Minutes, a.Worth/a.Minutes) })
	return list
}

func minutesFor(how string) float64 {
	for _, m := range minutesOf {
		if strings.HasPrefix(how, m.word) {
			return m.minutes
		}
	}
	return 0
}

// candidate is a plan with what it is worth.
type candidate struct {
	plan  *Plan
	worth float64
}

func (c candidate) name() string {
	if c.plan == nil {
		return "none of them"
	}
	return c.plan.Card + " from " + c.plan.From
}

// bestWorth is the plan worth most once a fact is known: to stop the plans that hang on it, or
// to let them go. What a plan brings counts as money by what the whole budget would bring at
// the best.
func (s *search) bestWorth(fact string, stops bool) (best candidate) {
	most, money := 0.0, 0.0
	for i := range s.answer.Plans {
		most, money = max(most, s.answer.Plans[i].middle()), max(money, s.answer.Plans[i].spend())
	}
	if !math.IsInf(s.budget, 1) {
		money = max(money, s.budget)
	}
	best = candidate{nil, 0}
	for i := range s.answer.Plans {
		p := &s.answer.Plans[i]
		certainty := p.Certainty
		if k := slices.IndexFunc(p.Report.Questions, func(q assess.Question) bool { return fact != "" && q.Fact == fact }); k >= 0 {
			if certainty /= 1 - stopping(&p.Report.Questions[k]); stops {
				continue
			}
		}
		if worth := p.middle()/most*money*certainty - p.spend(); best.plan == nil || worth > best.worth {
			best = candidate{p, worth}
		}
	}
	return best
}
