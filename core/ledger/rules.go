package ledger

import (
	"math"

	"kolvan/core/finding"
	"kolvan/core/proof"
	"kolvan/core/rig"
	"kolvan/core/units"
)

// Subject is what the rules judge: a rig, and what its link carries.
type Subject struct {
	Rig  *rig.Rig
	Link proof.Link
}

// The names of the rules, as reports and files have them.
const (
	RuleWorse    = "ledger.worse"
	RuleUnpriced = "ledger.unpriced"
	RuleForced   = "ledger.forced"
	RuleDay      = "ledger.day"
	RuleTwice    = "ledger.twice"
)

var rules = finding.Table[*Subject]{
	{Rule: finding.Rule{
		Name: RuleWorse, Station: finding.Ledger, Title: "Something else gives more for less", Levels: finding.Levels{finding.Risk},
		Line: "something else gives more for less", Tag: "better elsewhere",
		Would:   "the other plan, or cheaper parts",
		Evening: finding.Evening{finding.Risk: finding.Unseen()},
		Fires:   "an alternative that is listed gives more gain for less money over the whole of both ranges, after what each is worth later",
		Example: "A used desktop gives 4 times today's speed for 390; this rig 3 times for 400.",
	}, Judge: judgeWorse},
	{Rule: finding.Rule{
		Name: RuleUnpriced, Station: finding.Ledger, Title: "A line without a price", Levels: finding.Levels{finding.Unknown},
		Fires:   "the ledger is kept, and a line still to pay has no price, or none in the brief's currency",
		Example: "Not known: what paste costs. Look it up, or mark it as owned, or as coming with another part. It decides what is still to pay.",
	}, Judge: judgeUnpriced},
	{Rule: finding.Rule{
		Name: RuleForced, Station: finding.Ledger, Title: "The route costs as much as half the card", Levels: finding.Levels{finding.Note},
		Notes:   true,
		Figures: finding.Figures{"forced": finding.MoreIsWorse},
		Fires: "what the route made necessary (adapter, cable, dock, supply, leads; not what was owned) comes to more than half of the " +
			"card's price",
		Example: "The route forces at least 130 of parts on a card of 200.",
	}, Judge: judgeForced},
	{Rule: finding.Rule{
		Name: RuleDay, Station: finding.Ledger, Title: "A day has 24 hours", Levels: finding.Levels{finding.Risk},
		Line: "the states of a day come to {hours#} hours", Tag: "{hours#} hours a day",
		Would:   "the hours of each state, 24 in all",
		Evening: finding.Evening{finding.Risk: finding.Unseen()},
		Figures: finding.Figures{"hours": finding.MoreIsWorse},
		Fires:   "the states that a rig spends its day in come to more than 24 hours",
		Example: "The states of a day come to 26 hours: a year of energy is too much by that.",
	}, Judge: judgeDay},
	{Rule: finding.Rule{
		Name: RuleTwice, Station: finding.Ledger, Title: "Two lines for one part", Levels: finding.Levels{finding.Unknown},
		Fires:   "two lines of the ledger name one part: both are counted, until one of them is taken out or names another",
		Example: "Not known: whether both lines for dock count. Take one out, or let it name what it is. It decides what it cost.",
	}, Judge: judgeTwice},
}

// Rules lists the rules of this package.
func Rules() []finding.Rule { return rules.Rules() }

// Judge adds what the rules say.
func Judge(r *rig.Rig, link proof.Link, out *finding.List) {
	rules.Judge(&Subject{r, link}, out)
}

func judgeForced(r *finding.Rule, s *Subject, out *finding.List) {
	forced, card, known := forcedOf(s.Rig)
	if !known || forced <= card/2 {
		return
	}
	out.Add(r, finding.Note, "/ledger", finding.Numbers{{Name: "forced", Value: float64(forced)}, {Name: "card", Value: float64(card)}},
		"The route forces at least %s of parts on a card of %s.", forced, card)
}

// forcedOf is what is surely forced, and the most the card costs.
func forcedOf(r *rig.Rig) (forced, card units.Money, known bool) {
	eachRoughly(r, func(l *Line, ends units.Range[units.Money], priced bool) {
		switch {
		case !priced:
		case l.part.list == "/card":
			card, known = ends.High, ends.High > 0
		case l.Need == rig.Forced && l.Kind != rig.LineHours && (l.State == rig.LineToBuy || l.State == rig.LineOrdered ||
			l.State == rig.LinePaid):
			forced += ends.Low
		}
	})
	return forced, card, known
}

func judgeWorse(r *finding.Rule, s *Subject, out *finding.List) {
	link := s.Link
	if !mayBeWorse(s.Rig, link) {
		return
	}
	t, gain := TotalsOf(s.Rig, Lines(s.Rig)), RigGain(s.Rig, link)
	for i, a := range AgainstOthers(s.Rig, &t, gain) {
		if a.Better {
			out.Add(
				r, finding.Risk, at("/ledger/alternatives", i), nil,
				"%s gives %s times today's speed for %s; this rig %s times for %s.", a.Name, a.Gain, a.Net, gain, a.Mine,
			)
		}
	}
}

// mayBeWorse reports an alternative that may give more for less, roughly: most do not, and
// need not be worked out in fractions.
func mayBeWorse(r *rig.Rig, link proof.Link) bool {
	paid, gain, told := units.Money(0), 0.0, false
	for i := range r.Ledger.Others {
		o := &r.Ledger.Others[i]
		if o.Gain.Value <= 1 {
			continue // it gains nothing over today, or nobody knows
		}
		if !told {
			ends, _ := Spent(r)
			if paid, told = ends.Low, true; paid <= 0 {
				return false
			}
			_, gain, _ = rigGain(r, link)
		}
		least := o.Price.Value + units.Money(o.Price.Tolerance) + o.Hourly.Value*units.Money(o.Hours.Value) - o.Resale.Value
		if least < paid+1 && o.Gain.Value-o.Gain.Tolerance > gain*0.999 {
			return true
		}
	}
	return false
}

func judgeDay(r *finding.Rule, s *Subject, out *finding.List) {
	hours := 0.0
	for i := range s.Rig.Ledger.Day {
		hours += max(0, s.Rig.Ledger.Day[i].Hours.Value-s.Rig.Ledger.Day[i].Hours.Tolerance)
	}
	if hours > hoursOfDay {
		out.Add(
			r, finding.Risk, "/ledger/day", finding.Numbers{{Name: "hours", Value: hours}},
			"The states of a day come to %s hours: a year of energy is too much by that.", units.Trim(hours, 1),
		)
	}
}

const hoursOfDay = 24

func judgeTwice(r *finding.Rule, s *Subject, out *finding.List) {
	named := map[string]bool{}
	for i := range s.Rig.Ledger.Lines {
		part := s.Rig.Ledger.Lines[i].Part
		if part == "" {
			continue
		}
		if named[part] {
			out.Need(r, lineAt(i)+"/part", "whether both lines for "+part+" count", "Take one out, or let it name what it is.", "what it cost")
		}
		named[part] = true
	}
}

func judgeUnpriced(r *finding.Rule, s *Subject, out *finding.List) {
	if len(s.Rig.Ledger.Lines)+len(s.Rig.Ledger.Others) == 0 {
		return // nobody keeps a ledger
	}
	_, open := ToBuy(s.Rig)
	_, ordered := Committed(s.Rig)
	for _, where := range append(open, ordered...) {
		out.Need(
			r, where, "what "+nameAt(s.Rig, where)+" costs", "Look it up, or mark it as owned, or as coming with another part.",
			"what is still to pay",
		)
	}
}

// nameAt is the name of what has its price at a place.
func nameAt(r *rig.Rig, where string) (name string) {
	EachPart(r, func(p Part) {
		if p.Where()+"/price" == where || p.Where()+"/currency" == where {
			name = p.Name
		}
	})
	for i := range r.Ledger.Lines {
		if rig.Within(where, lineAt(i)) {
			name = r.Ledger.Lines[i].Name
		}
	}
	return name
}

// RigGain is how many times as fast as today the rig runs, all uses together as the
// geometric mean of theirs: as measured, else as forecast; nil while nothing tells.
func RigGain(r *rig.Rig, link proof.Link) *Amount {
	low, high, told := rigGain(r, link)
	if !told {
		return nil
	}
	return &Amount{exactly(low), exactly(high)}
}

func rigGain(r *rig.Rig, link proof.Link) (low, high float64, told bool) {
	uses := 0
	add := func(a, b float64) {
		low, high, uses = low+math.Log(math.Max(a, 1e-6)), high+math.Log(math.Max(b, 1e-6)), uses+1
	}
	measured := map[string]bool{}
	for _, g := range proof.GainsOf(r) {
		for _, f := range g.Figures {
			if !f.Main() || f.Ratio == nil || measured[g.Use] {
				continue
			}
			measured[g.Use] = true
			if f.Interval == nil || f.Name == "duration_s" {
				add(*f.Ratio, *f.Ratio) // of a bound the end that is known
				continue
			}
			add(1+f.Interval[0], 1+f.Interval[1])
		}
	}
	if link.Net.High > 0 {
		for _, u := range proof.Make(r, link, nil, link.Net, proof.Same).Uses {
			if !measured[u.Use] && u.Now.Gain != nil {
				add(u.Now.Gain[0], u.Now.Gain[1])
			}
		}
	}
	if uses == 0 {
		return 0, 0, false
	}
	return math.Exp(low / float64(uses)), math.Exp(high / float64(uses)), true
}
