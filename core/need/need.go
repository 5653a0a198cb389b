// Package need works out what a part would have to be like. For every certain trouble of a
// plan it looks for the figures of one part at which the trouble ends, by moving those
// figures and judging the plan anew: no list says which figure cures which rule. The bounds
// of all parts that are still to be had make a shopping list by specification.
//
// A figure is moved between what it is and what ends the trouble, which is halved down to
// the steps it is sold in: a bound is the first step at which the trouble is gone and
// nothing certain is new, and one step less it is there.
package need

import (
	"context"
	"slices"

	"kolvan/core/assess"
	"kolvan/core/finding"
	"kolvan/core/reference"
	"kolvan/core/rig"
)

// Format is the format word of a list of needs.
const Format = "kolvan-need/1"

// A List is what a plan needs.
type List struct {
	Format     string    `json:"format"`
	Rig        string    `json:"rig"`
	Needs      []Need    `json:"needs"`
	Unanswered []Trouble `json:"unanswered"` // what no figure of one part ends
	Shopping   []Item    `json:"shopping"`   // each part still to be had, with all that the plan asks of it
	Untried    bool      `json:"more_to_try,omitzero"`
}

// A Need is what one part would have to be like for some troubles to end.
type Need struct {
	Part   string    `json:"part"`
	Where  string    `json:"where"` // its JSON Pointer
	For    []Trouble `json:"for"`
	Bounds []Bound   `json:"bounds"` // all of them together
	Or     []Corner  `json:"or,omitzero"`

	does *rig.Rig // the plan with a part at the bounds
}

// A Corner is another set of bounds that does as well: less of one, more of another.
type Corner struct {
	Bounds []Bound `json:"bounds"`

	left    []setting
	instead []Trouble // what comes in the place of what it ends, a step before it
}

// A Trouble is a certain danger, something blocked, or a certain risk.
type Trouble struct {
	Rule  string        `json:"rule"`
	Where string        `json:"where"`
	Level finding.Level `json:"level"`
	Title string        `json:"title"`
	// Instead says that the plan does not have it: it would come in the place of another, a
	// step before the bound.
	Instead bool `json:"instead,omitzero"`
}

// A Bound is what one fact of a part may be: a number at least or at most so much, a range
// where what is not known leaves open from where on, or one of some words. The range begins
// where the trouble is certain no more, and ends where it is certainly gone, nil for nowhere.
type Bound struct {
	At      string `json:"at"`
	Fact    string `json:"fact"`
	AtLeast any    `json:"at_least,omitzero"`
	AtMost  any    `json:"at_most,omitzero"`
	OneOf   []any  `json:"one_of,omitzero"`
	Unit    string `json:"unit,omitzero"`
	Because string `json:"because"` // the troubles that are there without it
	Says    string `json:"says"`    // on one line, to read in a shop
}

// Of works out what a plan needs. It ends with the context, whose error it returns.
func Of(ctx context.Context, r *rig.Rig, ref *reference.Tables) (*List, error) {
	s := searchOf(ctx, r, ref)
	list := &List{Format: Format, Rig: r.Name, Needs: []Need{}, Unanswered: []Trouble{}}
	answered := map[place]bool{}
	for _, levers := range s.byPart() {
		if need, some := s.needOf(levers); some {
			list.Needs = append(list.Needs, need)
		}
	}
	list.Needs = append(list.Needs, s.feeds()...)
	for _, need := range list.Needs {
		for _, t := range need.For {
			answered[place{t.Rule, t.Where}] = true
		}
	}
	for _, t := range s.base.order {
		if !answered[place{t.Rule, t.Where}] {
			list.Unanswered = append(list.Unanswered, t)
		}
	}
	list.Shopping = s.shopping(list.Needs)
	list.Untried = *s.left <= 0
	return list, ctx.Err()
}

// place is a rule at a place of the rig.
type place struct{ rule, where string }

// said is what is said of a rig: its certain troubles with how bad each is, and how often
// each rule asks for a fact.
type said struct {
	order    []Trouble
	troubles map[place]finding.Level
	bad      map[place]float64
	asks     map[string]int
}

func saidOf(found []finding.Finding) said {
	s := said{troubles: make(map[place]finding.Level, len(found)), bad: map[place]float64{}, asks: map[string]int{}}
	for i := range found {
		f := &found[i]
		switch f.Level {
		case finding.Note:
		case finding.Unknown:
			s.asks[f.Rule]++
		default:
			at := place{f.Rule, f.Where}
			if level, there := s.troubles[at]; !there {
				s.order = append(s.order, Trouble{Rule: f.Rule, Where: f.Where, Level: f.Level, Title: f.Title})
			} else if level > f.Level {
				continue
			}
			s.troubles[at], s.bad[at] = f.Level, f.Bad()
		}
	}
	slices.SortStableFunc(s.order, func(a, b Trouble) int { return int(b.Level) - int(a.Level) })
	return s
}

// effort bounds a search: an ordinary plan takes a sixth of it.
const effort assess.Effort = 12000

// search moves the figures of one plan.
type search struct {
	ctx    context.Context
	rig    *rig.Rig
	ref    *reference.Tables
	judge  func(*rig.Rig) []finding.Finding
	base   said
	levers []*lever

	cost    assess.Effort  // of one try
	left    *assess.Effort // for the whole search; a part that is not reached has no bound
	feeding int            // the supply that feeds the card; −1 for none
}

func searchOf(ctx context.Context, r *rig.Rig, ref *reference.Tables) *search {
	s := &search{ctx: ctx, rig: r, judge: assess.Silently(ref), ref: ref, levers: leversOf(r, ref)}
	s.base = saidOf(s.judge(r))
	plan := assess.Rig(r, ref)
	s.feeding = plan.Power.CardSupply()
	s.cost, s.left = assess.TryCost(r, len(plan.Findings)), new(assess.Effort)
	*s.left = effort
	return s
}

// byPart are the levers, those of a part together.
func (s *search) byPart() (parts [][]*lever) {
	for i, l := range s.levers {
		if i == 0 || s.levers[i-1].part != l.part {
			parts = append(parts, nil)
		}
		parts[len(parts)-1] = append(parts[len(parts)-1], l)
	}
	return parts
}

// outcome is what becomes of the plan's troubles.
type outcome struct {
	gone   []Trouble
	comes  []Trouble // certain, and new or worse than before
	asks   []string  // rules that ask for more than before
	better bool      // none got worse by its figure, and some got better
}

// try judges the plan with levers moved.
func (s *search) try(settings ...setting) outcome {
	*s.left -= s.cost
	c, goes := s.moved(settings)
	if !goes || *s.left <= 0 || s.ctx.Err() != nil {
		return outcome{comes: []Trouble{{}}} // it cannot be told so: as good as broken
	}
	return s.outcomeOf(saidOf(s.judge(c)))
}

func (s *search) moved(settings []setting) (c *rig.Rig, goes bool) {
	c = s.rig
	for _, set := range settings {
		if c, goes = set.lever.with(c, set.typed); !goes {
			return nil, false
		}
	}
	return c, true
}

func (s *search) outcomeOf(now said) (o outcome) {
	worse := false
	for _, t := range s.base.order {
		at := place{t.Rule, t.Where}
		if _, still := now.troubles[at]; !still {
			o.gone = append(o.gone, t)
			continue
		}
		worse = worse || now.bad[at] > s.base.bad[at]
		o.better = o.better || now.bad[at] < s.base.bad[at]
	}
	o.better = o.better && !worse
	for _, t := range now.order {
		if was, there := s.base.troubles[place{t.Rule, t.Where}]; !there || was < t.Level {
			o.comes = append(o.comes, t)
		}
	}
	for rule, n := range now.asks {
		if n > s.base.asks[rule] {
			o.asks = append(o.asks, rule)
		}
	}
	return o
}

// ends reports that all of them are gone and nothing certain is new.
func (o *outcome) ends(all []Trouble) bool {
	return len(o.comes) == 0 && len(missing(all, o.gone)) == 0
}
