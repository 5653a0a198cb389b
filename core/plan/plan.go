// Package plan goes from what a rig is for to whole plans: card, slot, way, supply and leads,
// new places of what has to move, and what it all costs. Ways are looked for to every card
// that the budget reaches, each plan is judged by what is expected of the uses, how certain
// it is, what it costs, its noise, what it moves and the minutes it takes, and those that are
// worse in every way are folded. It is a frontier, not a ranking.
//
// What stops a plan that is there already is mended in several steps, and of all open facts
// those are told that would keep something from being bought in vain.
package plan

import (
	"cmp"
	"context"
	"math"
	"slices"
	"time"

	"github.com/go-json-experiment/json/jsontext"

	"kolvan/core/assess"
	"kolvan/core/ledger"
	"kolvan/core/reference"
	"kolvan/core/rig"
	"kolvan/core/units"
	"kolvan/core/ways"
)

// Format is the format word of an answer.
const Format = "kolvan-plan/1"

// A Question is a rig whose brief is told and whose rest may be empty.
type Question struct {
	Rig    *rig.Rig
	Parts  *assess.Bins
	Hosts  []rig.Host              // beside the rig's own; of a rig without one, those of the parts
	Own    bool                    // only with what is owned
	Budget *units.Money            // instead of the brief's
	Told   func(done, of int) bool // told after each card; false ends the search with what there is
	Found  func(sofar []Plan)      // told the frontier so far, where it is not nil
}

// An Answer is the frontier.
type Answer struct {
	Format   string    `json:"format"`
	Rig      string    `json:"rig"`
	Use      string    `json:"use"`  // the use that plans are held against each other by: the first
	Unit     string    `json:"unit"` // of what is expected of it
	Enough   float64   `json:"enough,omitzero"`
	Budget   *float64  `json:"budget"`
	Tried    int       `json:"tried"`
	Seconds  float64   `json:"seconds"`
	Complete bool      `json:"complete"`
	Plans    []Plan    `json:"plans"`
	FindOut  []FindOut `json:"find_out"`
	Mending  []Mending `json:"mending"`

	Purchases []Purchase `json:"purchases"`
	Stages    []Stage    `json:"stages"`
}

// A Plan is one whole plan.
type Plan struct {
	Patch       jsontext.Value      `json:"patch"`
	Says        string              `json:"says"`
	Host        string              `json:"host"`
	Card        string              `json:"card"`
	From        string              `json:"from"`
	Stages      []string            `json:"stages"`
	Supply      string              `json:"supply"`
	Figures     assess.Figures      `json:"figures"`
	Expected    map[string]Expected `json:"expected"`
	Certainty   float64             `json:"certainty"` // 0 to 1
	Cost        [2]*float64         `json:"cost"`      // still to buy; the far end is null where a price is not told
	CostYear    *float64            `json:"cost_year"` // of energy; null where no tariff is told
	Noise       [2]float64          `json:"noise_db"`
	Moves       int                 `json:"moves"`       // devices that leave their places
	Alterations int                 `json:"alterations"` // for good
	Minutes     [2]float64          `json:"minutes"`     // of work
	Worst       *ways.Worst         `json:"worst"`
	BeatenBy    *int                `json:"beaten_by"`
	Here        bool                `json:"here,omitzero"`     // the plan as it stands
	Exchange    string              `json:"exchange,omitzero"` // against the plan that stands first

	Rig    *rig.Rig       `json:"-"`
	Report *assess.Report `json:"-"`
	value  [2]float64     // of the first use, most often
	watts  float64        // under load, in the middle
}

// So many plans of the frontier are told, and so many that are beaten.
const (
	mostPlans  = 24
	mostBeaten = 12
)

// Search finds the plans. It ends with the context, whose error it returns.
func Search(ctx context.Context, q Question, ref *reference.Tables) (*Answer, error) {
	began := time.Now()
	s := &search{
		Question: q,
		ref:      ref,
		answer: &Answer{
			Format:    Format,
			Rig:       q.Rig.Name,
			Complete:  true,
			Plans:     []Plan{},
			FindOut:   []FindOut{},
			Mending:   []Mending{},
			Purchases: []Purchase{},
			Stages:    []Stage{},
		},
	}
	s.aim()
	var err error
	if s.answer.Mending, err = Mend(ctx, q.Rig, ref, q.Parts); err != nil {
		return nil, err
	}
	if err := s.standing(); err != nil {
		return nil, err
	}
	if err := s.plans(ctx); err != nil {
		return nil, err
	}
	s.front()
	if err := s.certain(ctx); err != nil {
		return nil, err
	}
	s.compare()
	s.answer.Seconds = units.Round(time.Since(began).Seconds(), units.ReportDigits)
	return s.answer, nil
}

// search gathers the plans of one question.
type search struct {
	Question
	ref    *reference.Tables
	answer *Answer
	budget float64 // +Inf for none
}

// aim is what the plans are held against: the budget, and the first use.
func (s *search) aim() {
	a := s.answer
	s.budget = math.Inf(1)
	budget, told := s.Rig.Brief.Budget.Get()
	if s.Budget != nil {
		budget, told = *s.Budget, true
	}
	if told {
		paid, _ := ledger.Committed(s.Rig)
		left := float64(budget - paid.Low)
		s.budget, a.Budget = left, &left
	}
	if works := s.Rig.Brief.Works; len(works) > 0 {
		a.Use, a.Enough = works[0].Name, works[0].EnoughHz.Value
	}
}

// standing is the plan as it stands, mended where something stops it: it is told whatever the
// others do.
func (s *search) standing() error {
	r := s.Rig
	if len(s.answer.Mending) > 0 {
		r = s.answer.Mending[0].rig
	}
	report := assess.Rig(r, s.ref)
	if report.Stops() || r.Card.Name == "" || len(report.Link.Elements) == 0 {
		return nil
	}
	w := ways.Of(r, &report)
	if *w.ToBuy[0] > s.budget {
		return nil
	}
	s.judge(&w)
	s.answer.Plans[0].Here = true
	return nil
}

// hosts are the rig with each host that is asked for.
func (s *search) hosts() (all []*rig.Rig) {
	own := s.Rig.Host.Name != "" || len(s.Rig.Host.Slots) > 0
	if own {
		all = append(all, s.Rig)
	}
	hosts := s.Hosts
	if !own && len(hosts) == 0 {
		hosts = s.Parts.Hosts
	}
	for _, h := range hosts {
		if h.Name != s.Rig.Host.Name {
			all = append(all, assess.WithHost(s.Rig, h, s.Parts.Supplies))
		}
	}
	return all
}

// cards are those that the budget reaches, the rig's own first, then the cheapest.
func (s *search) cards() (cards []rig.Card) {
	own := s.Rig.Card
	there := own.Name != "" || own.Power.Known
	if there {
		cards = append(cards, own)
	}
	for _, c := range s.Parts.Cards {
		owned := rig.Is(c.Owned, true)
		if c.Name == own.Name || s.Own && !owned {
			continue
		}
		cards = append(cards, c)
	}
	others := cards
	if there {
		others = cards[1:]
	}
	slices.SortStableFunc(others, func(a, b rig.Card) int { return cmp.Compare(least(&a.Price), least(&b.Price)) })
	return cards
}

// least is the least a part adds to what is still to buy: nothing for what is owned, or for what
// has no price.
func least(p *rig.Price) float64 {
	if rig.Is(p.Owned, true) {
		return 0
	}
	return max(0, float64(p.Amount.Value)-p.Amount.Tolerance)
}

// plans looks for the ways from every host to every card, and judges each.
func (s *search) plans(ctx context.Context) error {
	hosts, cards := s.hosts(), s.cards()
	done, of := 0, len(hosts)*len(cards)
	for _, card := range cards {
		for _, host := range hosts {
			done++
			if least(&host.Host.Price)+least(&card.Price) > s.budget {
				continue // whatever else the plan has adds to it
			}
			base := host
			if card.Name != host.Card.Name {
				base = assess.WithCard(host, card)
			}
			found, err := ways.Search(ctx, ways.Question{Rig: base, Parts: s.Parts, Weights: ways.Usual, Own: s.Own}, s.ref)
			if err != nil {
				return err
			}
			s.answer.Tried += found.Tried
			s.answer.Complete = s.answer.Complete && !found.Untried
			for i := range found.Ways {
				if w := &found.Ways[i]; w.BeatenBy == nil && *w.ToBuy[0] <= s.budget {
					s.judge(w)
				}
			}
			if s.Found != nil {
				s.front()
				s.Found(s.answer.Plans)
			}
			if s.Told != nil && !s.Told(done, of) {
				s.answer.Complete = false
				return nil
			}
		}
	}
	return nil
}
