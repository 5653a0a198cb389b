package plan

import (
	"context"
	"fmt"
	"math"
	"strings"

	"kolvan/core/assess"
	"kolvan/core/brief"
	"kolvan/core/bringup"
	"kolvan/core/finding"
	"kolvan/core/proof"
	"kolvan/core/rig"
	"kolvan/core/units"
	"kolvan/core/ways"
)

// Expected is what a use may be expected to do on a plan, most often and at the utmost: Hz, as
// soon as the rate of one card for it is told, else times the speed of a card of 100 W.
type Expected struct {
	Likely [2]float64 `json:"likely"`
	Utmost [2]float64 `json:"utmost"`
	Unit   string     `json:"unit"`
	Enough string     `json:"enough,omitzero"` // yes, perhaps, no
}

// The two units of what is expected.
const (
	inHz    = "Hz"
	inCards = "× a card of 100 W"
)

// plainCard is the board power that speeds are told by while no rate is, W.
const plainCard units.Watt = 100

// ratio is how many times as fast a card is as one of another board power (P).
func (s *search) ratio(power, as units.Watt) [2]float64 {
	if power == as {
		return [2]float64{1, 1}
	}
	r := math.Pow(float64(power/as), s.ref.CardSpeedPower)
	return [2]float64{r * (1 - s.ref.CardSpeedSpread), r * (1 + s.ref.CardSpeedSpread)}
}

// judge makes a plan of a way.
func (s *search) judge(w *ways.Way) {
	p := Plan{
		Says:     w.Says,
		Host:     w.Host,
		Card:     w.Card,
		From:     w.From,
		Stages:   w.Stages,
		Supply:   w.Supply,
		Figures:  w.Figures,
		Cost:     w.ToBuy,
		Worst:    w.Worst,
		Rig:      w.Rig,
		Report:   w.Report,
		Moves:    len(w.Displaced),
		Expected: map[string]Expected{},
	}
	for i := range w.Rig.Alterations {
		if w.Rig.Alterations[i].Permanent.Or(true) {
			p.Alterations++
		}
	}
	p.Noise[0], p.Noise[1] = brief.Noise(w.Rig)
	s.expect(&p)
	p.Certainty = chances(w.Report) * math.Pow(openChance, float64(open(w.Report)))
	p.run(s.Rig)
	s.answer.Plans = append(s.answer.Plans, p)
}

// hoursAYear is how long a rig runs under load in a year, where no day is told: two hours a
// day (P).
const hoursAYear = 730

// run is what the plan takes while it runs, and what that costs in a year.
func (p *Plan) run(r *rig.Rig) {
	for i := range p.Report.Power.Supplies {
		if load := p.Report.Power.Supplies[i].Load; p.Report.Power.Supplies[i].Used {
			p.watts += float64(load.Low+load.High) / 2
		}
	}
	hours := 0.0
	for i := range r.Ledger.Day {
		if d := &r.Ledger.Day[i]; d.Hours.Known && float64(d.Wall.Value) >= p.watts/2 {
			hours += d.Hours.Value * 365
		}
	}
	if hours == 0 {
		hours = hoursAYear
	}
	if tariff, told := r.Brief.Energy.Get(); told {
		year := units.Round(p.watts/1000*hours*float64(tariff), 3)
		p.CostYear = &year
	}
}

// openChance is what an open fact leaves of certainty until its answers are gone through (P).
const openChance = 0.85

// open counts the facts that are asked for, steps to take in their time left out.
func open(report *assess.Report) (n int) {
	for i := range report.Findings {
		if f := &report.Findings[i]; f.Level == finding.Unknown && !f.Row().Step {
			n++
		}
	}
	return n
}

// chances are those that are independent of each other and told: that the link is stable at its
// speed, and that the card goes in.
func chances(report *assess.Report) float64 {
	chance := 1.0
	if m, known := report.Link.Planned(); known {
		ends := m.Chance()
		chance *= float64(ends.Low+ends.High) / 2
	}
	if gap, known := report.Chamber.Gap(); known && !report.Chamber.Open() {
		chance *= float64(gap.Chance())
	}
	return chance
}

// expect is what each use may be expected to do.
func (s *search) expect(p *Plan) {
	r := p.Rig
	held := proof.LinkCarrying(r, s.ref, p.Report.Link.NetEnds).Keeping()
	ratios := proof.Same
	base := s.Rig.Card
	if power, told := r.Card.Power.Get(); told && base.Power.Known && r.Card.Name != base.Name {
		ratios.Card = s.ratio(power, base.Power.Value)
	}
	// A rate that is told is the rate of the rig's own card: another's is in proportion.
	from := *r
	if r.Card.Name != base.Name {
		from.Runs = nil
	}
	forecast := proof.Make(&from, held, r, p.Report.Link.NetEnds, ratios)
	for i := range forecast.Uses {
		u := &forecast.Uses[i]
		e := Expected{Unit: inHz, Enough: u.Enough}
		if u.Then != nil && u.Then.Rate != nil {
			e.Likely, e.Utmost = *u.Then.Likely.Rate, *u.Then.Rate
		} else {
			e = s.inCards(p, u)
		}
		e.Likely, e.Utmost = rounded(e.Likely), rounded(e.Utmost)
		p.Expected[u.Use] = e
		if u.Use == s.answer.Use {
			p.value, s.answer.Unit = e.Likely, e.Unit
		}
	}
	if s.answer.Use == "" { // nothing it is for is told: what the link carries is what there is
		p.value, s.answer.Unit = [2]float64{float64(p.Report.Link.NetEnds.Low), float64(p.Report.Link.NetEnds.High)}, "GB/s"
	}
}

// inCards is a share of the card's own speed, times that speed as its board power has it.
func (s *search) inCards(p *Plan, u *proof.UseForecast) Expected {
	speed := s.ratio(p.Rig.Card.Power.Or(plainCard), plainCard)
	now := u.Now
	if u.Then != nil {
		now = *u.Then
	}
	times := func(share [2]float64) [2]float64 { return [2]float64{share[0] * speed[0], share[1] * speed[1]} }
	return Expected{Likely: times(now.Likely.Share), Utmost: times(now.Share), Unit: inCards}
}

func rounded(v [2]float64) [2]float64 {
	return [2]float64{units.Round(v[0], units.ReportDigits), units.Round(v[1], units.ReportDigits)}
}

// middle is the one figure plans are held against each other by.
func (p *Plan) middle() float64 { return (p.value[0] + p.value[1]) / 2 }

// spend is what is still to buy, in the middle.
func (p *Plan) spend() float64 {
	if p.Cost[1] == nil {
		return *p.Cost[0]
	}
	return (*p.Cost[0] + *p.Cost[1]) / 2
}

// certain works out the minutes of the plans that are told, and their certainty once more with
// every open fact weighing its answers equally.
func (s *search) certain(ctx context.Context) error {
	for i := range s.answer.Plans {
		p := &s.answer.Plans[i]
		evening := bringup.ReportOf(p.Rig, s.ref)
		p.Minutes = evening.Minutes
		if err := assess.Ask(ctx, p.Report, p.Rig, s.ref); err != nil {
			return err
		}
		p.Certainty = chances(p.Report)
		for k := range p.Report.Questions {
			p.Certainty *= 1 - stopping(&p.Report.Questions[k])
		}
		p.Certainty = units.Round(p.Certainty, 3)
		patch, err := rig.PatchOf("", s.Rig, p.Rig)
		if err != nil {
			return fmt.Errorf("the patch of a plan: %w", err)
		}
		p.Patch = patch
	}
	return nil
}

// stopping is the share of a question's answers that would stop a plan, each as likely.
func stopping(q *assess.Question) float64 {
	bad, all := 0, 0
	for _, a := range q.Answers {
		n := 1 + strings.Count(a.If, ", ")
		all += n
		for _, t := range a.Then {
			if t.Level == finding.Danger || t.Level == finding.Blocked {
				bad += n
				break
			}
		}
	}
	if all == 0 {
		return 1 - openChance
	}
	if bad == all {
		return 1 - openChance // every answer says something: which it is stays open
	}
	return float64(bad) / float64(all)
}
