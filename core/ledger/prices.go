package ledger

import (
	"kolvan/core/rig"
	"kolvan/core/units"
)

// Prices tell what parts cost a plan: what the ledger says of a part by its name goes
// before what the part says itself. Most rigs keep no ledger, and are judged often.
type Prices struct {
	rig   *rig.Rig
	lines map[string]int
}

// PricesOf are the prices by a rig's ledger.
func PricesOf(r *rig.Rig) Prices { return Prices{r, linesByPart(r)} }

// Of is what a part still costs, and how far that goes either way; false where its price
// is not known.
func (p Prices) Of(name string, price *rig.Price) (cost, by units.Money, known bool) {
	if i, is := p.lines[name]; is {
		return p.line(i, price)
	}
	switch {
	case rig.Is(price.Owned, true):
		return 0, 0, true
	case price.Amount.Known:
		cost = price.Amount.Value
		return cost, units.Money(min(price.Amount.Tolerance, float64(cost))), true
	default:
		return 0, 0, false
	}
}

func (p Prices) line(i int, price *rig.Price) (cost, by units.Money, known bool) {
	l := Line{Kind: "part", State: stateOfPart(price), Index: i, told: p.rig.Ledger.Lines[i]}
	if !l.told.Price.Known {
		l.told.Price = price.Amount
	}
	l.work(p.rig)
	if !l.pays() {
		return 0, 0, true
	}
	if !l.Cost.Known() {
		return 0, 0, false
	}
	ends := l.Cost.Money()
	return (ends.Low + ends.High) / 2, (ends.High - ends.Low) / 2, true
}

// ToPay sums what a plan still costs: its parts, and the lines of the ledger that name
// none; open lists the places of the prices that are not told. A line of a part that the
// plan does not have any more is no matter of the plan.
func ToPay(r *rig.Rig) (ends units.Range[units.Money], open []string) {
	prices := PricesOf(r)
	EachPart(r, func(p Part) {
		if p.Name == "" {
			return
		}
		cost, by, known := prices.Of(p.Called, p.Price)
		if !known {
			at := p.Where()
			if i, is := prices.lines[p.Called]; is {
				at = lineAt(i)
			}
			open = append(open, at+"/price")
			return
		}
		ends.Low, ends.High = ends.Low+cost-by, ends.High+cost+by
	})
	for i := range r.Ledger.Lines {
		if r.Ledger.Lines[i].Part != "" {
			continue
		}
		cost, by, known := prices.line(i, &rig.Price{})
		if !known {
			open = append(open, lineAt(i)+"/price")
			continue
		}
		ends.Low, ends.High = ends.Low+cost-by, ends.High+cost+by
	}
	return ends, open
}

// Expected is what a plan still costs, in the middle of its range.
func Expected(r *rig.Rig) units.Money {
	ends, _ := ToPay(r)
	return (ends.Low + ends.High) / 2
}

func lineAt(i int) string { return at("/ledger/lines", i) }
