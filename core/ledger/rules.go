package ledger

import (
	"math"
	"math/big"

	"kolvan/core/finding"
	"kolvan/core/proof"
	"kolvan/core/rig"
	"kolvan/core/units"
)

// Subject is what the rules judge: a rig, and what its link carries.
type Subject struct {
	Rig *rig.Rig
	Net units.Range[units.GigabytePerSecond]
}

var rules = finding.Table[*Subject]{
	{Rule: finding.Rule{Name: "ledger.worse", Title: "Something else gives more for less", Levels: "risk",
		Fires: "an alternative that is listed gives more gain for less money over the whole of both ranges, after what each is worth later"}, Judge: judgeWorse},
	{Rule: finding.Rule{Name: "ledger.unpriced", Title: "A line without a price", Levels: "unknown",
		Fires: "the ledger is kept, and a line still to pay has no price, or none in the brief's currency"}, Judge: judgeUnpriced},
	{Rule: finding.Rule{Name: "ledger.forced", Title: "The route costs as much as half the card", Levels: "note", Notes: true,
		Fires: "what the route made necessary (adapter, cable, dock, supply, leads; not what was owned) comes to more than half of the card's price"}, Judge: judgeForced},
}

// Rules lists the rules of this package.
func Rules() []finding.Rule { return rules.Rules() }

// Judge adds what the rules say.
func Judge(r *rig.Rig, net units.Range[units.GigabytePerSecond], out *finding.List) {
	rules.Judge(&Subject{r, net}, out)
}

func judgeForced(r *finding.Rule, s *Subject, out *finding.List) {
	forced, card, known := forcedOf(s.Rig)
	if !known || forced <= card/2 {
		return
	}
	out.Add(r, finding.Note, "/ledger", finding.Numbers{{Name: "forced", Value: float64(forced)}, {Name: "card", Value: float64(card)}},
		"The route forces at least %s of parts on a card of %s.", forced, card)
}

// forcedOf is what is surely forced, and the most the card costs. Most rigs keep no ledger,
// and are judged often: theirs is added up without fractions.
func forcedOf(r *rig.Rig) (forced, card units.Money, known bool) {
	if len(r.Ledger.Lines) == 0 {
		EachPart(r, func(p Part) {
			v, told := p.Price.Amount.Get()
			switch {
			case p.Name == "" || !told:
			case p.list == "/card":
				card, known = v+units.Money(p.Price.Amount.Tolerance), v > 0
			case needOfPart(&p) == rig.Forced:
				forced += max(0, v-units.Money(p.Price.Amount.Tolerance))
			}
		})
		return forced, card, known
	}
	lines := Lines(r)
	t := TotalsOf(r, lines)
	for i := range lines {
		if lines[i].Where == "/card" && lines[i].Cost.Known() {
			card, known = lines[i].Cost.Money().High, true
		}
	}
	if t.Forced.Low == nil {
		return 0, card, false
	}
	return t.Forced.Money().Low, card, known
}

func judgeWorse(r *finding.Rule, s *Subject, out *finding.List) {
	if len(s.Rig.Ledger.Others) == 0 {
		return
	}
	t := TotalsOf(s.Rig, Lines(s.Rig))
	gain := RigGain(s.Rig, proof.Link{Net: s.Net})
	for i, a := range AgainstOthers(s.Rig, &t, gain) {
		if a.Better {
			out.Add(r, finding.Risk, at("/ledger/alternatives", i), nil, "%s gives %s times today's speed for %s; this rig %s times for %s.", a.Name, a.Gain, a.Net, gain, RigNet(s.Rig, &t))
		}
	}
}

func judgeUnpriced(r *finding.Rule, s *Subject, out *finding.List) {
	if len(s.Rig.Ledger.Lines)+len(s.Rig.Ledger.Others) == 0 {
		return // nobody keeps a ledger
	}
	lines := Lines(s.Rig)
	for i := range lines {
		if l := &lines[i]; l.pays() && l.Open != "" {
			out.Need(r, l.Open, "what "+l.Name+" costs", "Look it up, or mark it as owned, or as coming with another part.", "what is still to pay")
		}
	}
}

// RigGain is how many times as fast as today the rig runs, all uses together as the
// geometric mean of theirs: as measured, else as forecast; nil while nothing tells.
func RigGain(r *rig.Rig, link proof.Link) *Amount {
	low, high, uses := 0.0, 0.0, 0
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
				add(*f.Ratio, *f.Ratio)
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
		return nil
	}
	mean := func(sum float64) *big.Rat { return exactly(math.Exp(sum / float64(uses))) }
	return &Amount{mean(low), mean(high)}
}
