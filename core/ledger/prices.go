package ledger

import (
	"slices"

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

// Of is what a part has still to be bought for, and how far that goes either way; false where its price
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
	l.say()
	if !l.buys() {
		return 0, 0, true
	}
	ends, known := roughly(p.rig, &l)
	return (ends.Low + ends.High) / 2, (ends.High - ends.Low) / 2, known
}

// roughly is what a line costs, worked out as searches do: what is shown is worked out in
// fractions. False where it is not known.
func roughly(r *rig.Rig, l *Line) (ends units.Range[units.Money], known bool) {
	t := &l.told
	if l.Kind == rig.LineHours || t.With != "" {
		return ends, true
	}
	price, told := t.Price.Get()
	rate, worth := rateOf(r, t.Currency)
	if !told || !worth {
		return ends, false
	}
	by := units.Money(t.Price.Tolerance)
	share := float64(rate) * float64(t.Used.Or(1)) / float64(max(1, t.Lot.Or(1)))
	with := func(p units.Money) units.Money {
		return units.Money(share) * (p*units.Money(1+t.TaxOn.Value) + t.Postage.Value)
	}
	return units.Between(with(max(0, price-by)), with(price+by)), true
}

// rateOf is what one unit of a line's currency is worth in the brief's; false where nobody
// told.
func rateOf(r *rig.Rig, currency string) (float64, bool) {
	if currency == "" || currency == r.Brief.Currency {
		return 1, true
	}
	for i := range r.Ledger.Rates {
		if e := &r.Ledger.Rates[i]; e.Currency == currency && e.Rate.Known {
			return e.Rate.Value, true
		}
	}
	return 0, false
}

// eachRoughly visits all lines of the ledger with what they cost, roughly.
func eachRoughly(r *rig.Rig, visit func(l *Line, ends units.Range[units.Money], known bool)) {
	prices := PricesOf(r)
	var used map[int]bool
	var there map[string]bool
	if len(r.Ledger.Lines) > 0 {
		used, there = map[int]bool{}, map[string]bool{}
	}
	var l Line // one, for all: it is large
	see := func() {
		l.say()
		ends, known := roughly(r, &l)
		visit(&l, ends, known)
	}
	EachPart(r, func(p Part) {
		if p.Name == "" {
			return
		}
		l = Line{Kind: "part", State: stateOfPart(p.Price), Need: needOfPart(&p), Index: -1, part: p}
		if there != nil {
			there[p.Called] = true
		}
		if i, is := prices.lines[p.Called]; is {
			used[i], l.told, l.Index = true, r.Ledger.Lines[i], i
		}
		if !l.told.Price.Known {
			l.told.Price = p.Amount()
		}
		see()
	})
	for i := range r.Ledger.Lines {
		if !used[i] {
			l = Line{Kind: "part", State: rig.LineToBuy, Need: rig.Chosen, Index: i, told: r.Ledger.Lines[i]}
			l.Gone = l.told.Part != "" && !there[l.told.Part]
			see()
		}
	}
}

// KeepPaid writes into a plan's ledger what parts cost that were paid or ordered and have left the
// plan: their prices stood with them, and what was paid counts whatever becomes of the plan.
func KeepPaid(was, now *rig.Rig) {
	if !slices.ContainsFunc(now.Ledger.Lines, leansOnPart) {
		return
	}
	left := map[string]rig.Fact[units.Money]{}
	EachPart(was, func(p Part) { left[p.Called] = p.Amount() })
	EachPart(now, func(p Part) { delete(left, p.Called) })
	lines := slices.Clone(now.Ledger.Lines)
	for i := range lines {
		if price := left[lines[i].Part]; price.Known && leansOnPart(lines[i]) {
			lines[i].Price = price
		}
	}
	now.Ledger.Lines = lines
}

// leansOnPart reports a line of something paid or ordered whose price stands with its part.
func leansOnPart(l rig.LedgerLine) bool {
	return l.Part != "" && !l.Price.Known && (rig.Is(l.State, rig.LinePaid) || rig.Is(l.State, rig.LineOrdered))
}

// Committed is what was paid already or is ordered, and counts against a budget whatever
// becomes of the plan, less what was sold, roughly; open lists the places of the facts that
// leave it open.
func Committed(r *rig.Rig) (sum units.Range[units.Money], open []string) {
	if len(r.Ledger.Lines) == 0 {
		return sum, nil
	}
	eachRoughly(r, func(l *Line, cost units.Range[units.Money], known bool) {
		switch {
		case l.Kind == rig.LineHours || l.Need == rig.Spared && l.State != rig.LineSold:
		case l.State == rig.LineOrdered && !known:
			open = append(open, l.opens())
		case !known:
		case l.State == rig.LinePaid || l.State == rig.LineOrdered:
			sum = sum.Plus(cost)
		case l.State == rig.LineSold:
			sum = less(sum, cost, &l.told)
		}
	})
	return sum, open
}

// less takes off what a line that was sold brought: where that is told beside its price, the
// price was paid before.
func less(sum, price units.Range[units.Money], t *rig.LedgerLine) units.Range[units.Money] {
	brought := price
	if t.Brought.Known {
		by := units.Money(t.Brought.Tolerance)
		brought = units.Between(max(0, t.Brought.Value-by), t.Brought.Value+by)
		sum = sum.Plus(price)
	}
	return units.Between(sum.Low-brought.High, sum.High-brought.Low)
}

// Spent is what a rig costs without what was owned before, roughly, and whether a price of
// it is not known.
func Spent(r *rig.Rig) (ends units.Range[units.Money], open bool) {
	eachRoughly(r, func(l *Line, cost units.Range[units.Money], known bool) {
		switch {
		case l.State == rig.LineOwned || l.State == rig.LineReturned || l.Gone && l.State == rig.LineToBuy:
		case !known:
			open = true
		case l.State == rig.LineSold:
			ends = less(ends, cost, &l.told)
		case l.Need != rig.Spared:
			ends = ends.Plus(cost)
		}
	})
	return ends, open
}

// ToBuy sums what a plan has still to buy: its parts, and the lines of their own; open lists
// the places of the facts that leave a cost open.
func ToBuy(r *rig.Rig) (ends units.Range[units.Money], open []string) {
	eachRoughly(r, func(l *Line, cost units.Range[units.Money], known bool) {
		switch {
		case !l.buys():
		case known:
			ends = ends.Plus(cost)
		default:
			open = append(open, l.opens())
		}
	})
	return ends, open
}

// EachToBuy visits what a plan has still to buy of which the cost is known.
func EachToBuy(r *rig.Rig, visit func(where string, cost units.Range[units.Money])) {
	eachRoughly(r, func(l *Line, cost units.Range[units.Money], known bool) {
		if l.buys() && known {
			visit(l.own("price"), cost)
		}
	})
}

// opens is the fact that leaves a line's cost open: its price, or what its currency is worth.
func (l *Line) opens() string {
	if l.told.Price.Known {
		return l.own("currency")
	}
	return l.own("price")
}

// Expected is what a plan has still to buy, in the middle of its range.
func Expected(r *rig.Rig) units.Money {
	ends, _ := ToBuy(r)
	return (ends.Low + ends.High) / 2
}

func lineAt(i int) string { return at("/ledger/lines", i) }
