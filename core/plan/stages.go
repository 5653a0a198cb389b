package plan

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"kolvan/core/assess"
	"kolvan/core/ledger"
	"kolvan/core/rig"
	"kolvan/core/units"

	"github.com/go-json-experiment/json/jsontext"
)

// A Purchase is one part that plans hang on: to be bought, and what it opens; or one's own, and
// what selling or returning it would close.
type Purchase struct {
	Part  string  `json:"part"`
	Price float64 `json:"price"`
	Owned bool    `json:"owned,omitzero"`
	Plans []int   `json:"plans"` // places of the plans, of those that none beats
	Alone []int   `json:"alone"` // those that want nothing else to be bought
	Says  string  `json:"says"`
}

// A Stage is a plan bought in two steps: a cheaper card in the very same way first, and the
// card that is meant once the link was read.
type Stage struct {
	Now   float64        `json:"now"`  // to buy first
	Then  float64        `json:"then"` // and later
	Card  string         `json:"card"` // that is bought first
	For   int            `json:"for"`  // the plan that is meant
	Patch jsontext.Value `json:"patch"`
	Says  string         `json:"says"`
}

// purchases are the parts that the plans hang on, those that open most first.
func (s *search) purchases() []Purchase {
	list := []Purchase{}
	for i := range s.answer.Plans {
		p := &s.answer.Plans[i]
		if p.BeatenBy != nil {
			continue
		}
		toBuy := bought(p.Rig)
		for _, part := range toBuy {
			of := purchaseOf(&list, part, false)
			of.Plans = append(of.Plans, i)
			if len(toBuy) == 1 {
				of.Alone = append(of.Alone, i)
			}
		}
		for _, part := range ownedParts(p.Rig) {
			of := purchaseOf(&list, part, true)
			of.Plans = append(of.Plans, i)
		}
	}
	unbeaten := 0
	for i := range s.answer.Plans {
		if s.answer.Plans[i].BeatenBy == nil {
			unbeaten++
		}
	}
	list = slices.DeleteFunc(list, func(p Purchase) bool { return p.Price == 0 || p.Owned && len(p.Plans) == unbeaten })
	for i := range list {
		list[i].Says = list[i].says(s.answer.Plans, s.Rig.Brief.Currency)
	}
	slices.SortStableFunc(list, func(a, b Purchase) int { return len(b.Plans) - len(a.Plans) })
	return list
}

func purchaseOf(list *[]Purchase, part purchase, owned bool) *Purchase {
	for i := range *list {
		if p := &(*list)[i]; p.Part == part.what && p.Owned == owned {
			return p
		}
	}
	*list = append(*list, Purchase{Part: part.what, Price: part.price, Owned: owned, Plans: []int{}, Alone: []int{}})
	return &(*list)[len(*list)-1]
}

func (p *Purchase) says(plans []Plan, currency string) string {
	cards := []string{}
	for _, i := range p.Plans {
		if !slices.Contains(cards, plans[i].Card) {
			cards = append(cards, plans[i].Card)
		}
	}
	many := strings.Join(cards[:min(len(cards), 3)], ", ")
	if more := len(cards) - 3; more > 0 {
		many += fmt.Sprintf(" and %d more", more)
	}
	if p.Owned {
		return fmt.Sprintf("Without %s %s would go: those with %s.", p.Part, plansWords(len(p.Plans)), many)
	}
	return fmt.Sprintf(
		"%s for %s opens %s: with %s.",
		p.Part,
		strings.TrimSpace(units.Money(p.Price).String()+" "+currency),
		plansWords(len(p.Plans)),
		many,
	)
}

func plansWords(n int) string {
	if n == 1 {
		return "one plan"
	}
	return fmt.Sprintf("%d plans", n)
}

// ownedParts are the parts of a plan that are one's own.
func ownedParts(r *rig.Rig) (list []purchase) {
	eachPart(r, func(name string, p *rig.Price) {
		if rig.Is(p.Owned, true) && name != "" {
			list = append(list, purchase{name, float64(p.Amount.Value)})
		}
	})
	return list
}

// stages are the ways to buy the plan that stands first in two steps: the very same way with a
// cheaper card that shows as many lanes at the same speed, before the dear one is paid.
func (s *search) stages(first int) []Stage {
	list := []Stage{}
	meant := &s.answer.Plans[first]
	then := least(&meant.Rig.Card.Price)
	if then == 0 || meant.Figures.Width == nil {
		return list
	}
	cards := slices.Clone(s.Parts.Cards)
	slices.SortStableFunc(cards, func(a, b rig.Card) int { return cmp.Compare(least(&a.Price), least(&b.Price)) })
	for _, card := range cards {
		if len(list) == mostStages || least(&card.Price) >= then {
			break
		}
		r := assess.WithCard(meant.Rig, card)
		report := assess.Rig(r, s.ref)
		f := &report.Figures
		if report.Stops() || f.Width == nil || *f.Width < *meant.Figures.Width || f.Gen == nil || meant.Figures.Gen == nil ||
			*f.Gen < *meant.Figures.Gen {
			continue
		}
		now := float64(ledger.Expected(r))
		patch, err := rig.PatchOf("", s.Rig, r)
		if err != nil {
			continue // a plan that cannot be written cannot be taken
		}
		list = append(list, Stage{Now: now, Then: then, Card: card.Name, For: first, Patch: patch, Says: fmt.Sprintf(
			"%s now: the same way, with a %s. If x%d is read under load, then the %s for %s. Else stop there.",
			s.money(now), card.Name, *f.Width, meant.Card, s.money(then),
		)})
	}
	return list
}

func (s *search) money(v float64) string {
	return strings.TrimSpace(units.Money(v).String() + " " + s.Rig.Brief.Currency)
}

// mostStages is how many ways to buy in two steps are told.
const mostStages = 2

// purchase is a part of a plan, with its price; 0 for one that is not told.
type purchase struct {
	what  string
	price float64
}

// bought are the parts of a plan that are still to be paid.
func bought(r *rig.Rig) (list []purchase) {
	eachPart(r, func(name string, p *rig.Price) {
		if !rig.Is(p.Owned, true) && name != "" {
			list = append(list, purchase{name, float64(p.Amount.Value)})
		}
	})
	return list
}

func eachPart(r *rig.Rig, visit func(name string, p *rig.Price)) {
	ledger.EachPart(r, func(p ledger.Part) { visit(p.Name, p.Price) })
}
