package why

import (
	"fmt"

	"kolvan/core/ledger"
	"kolvan/core/proof"
	"kolvan/core/units"
)

// toBuy is what is still to be paid, a term a part.
func toBuy(d *desk, high bool) (Term, bool) {
	ends, open := ledger.ToBuy(d.r)
	if len(open) > 0 {
		return Term{}, false
	}
	var terms []Term
	ledger.EachToBuy(d.r, func(where string, cost units.Range[units.Money]) {
		_, name := d.r.Subject(where)
		terms = append(terms, d.of(where, name, pick(float64(cost.Low), float64(cost.High), high)))
	})
	t := join(Sum, "still to buy", d.r.Brief.Currency, "What is not owned yet, by its price, postage and fees.", orNothing(terms)...)
	return settle(t, pick(float64(ends.Low), float64(ends.High), high), "rounding of the lines"), true
}

func orNothing(terms []Term) []Term {
	if len(terms) == 0 {
		return []Term{{Name: "nothing", Op: Fact}}
	}
	return terms
}

// totals are the sums of the ledger, each as a person calls it, with how to take it out of them.
var totals = map[string]struct {
	called string
	take   func(*ledger.Totals) ledger.Amount
}{
	"all":     {"all that the rig cost", func(t *ledger.Totals) ledger.Amount { return t.All }},
	"to_pay":  {"still to be paid", func(t *ledger.Totals) ledger.Amount { return t.ToPay }},
	"forced":  {"forced by the route", func(t *ledger.Totals) ledger.Amount { return t.Forced }},
	"chosen":  {"chosen freely", func(t *ledger.Totals) ledger.Amount { return t.Chosen }},
	"owned":   {"worth of what was owned before", func(t *ledger.Totals) ledger.Amount { return t.Owned }},
	"spared":  {"spared by what was reused or sold", func(t *ledger.Totals) ledger.Amount { return t.Spared }},
	"without": {"all, without what was owned before", func(t *ledger.Totals) ledger.Amount { return t.WithoutOwned }},
}

func (d *desk) totals(all map[string]maker) {
	for key, of := range totals {
		all["ledger."+key] = maker{of.called, d.r.Brief.Currency, func(d *desk, high bool) (Term, bool) {
			return d.total(of.called, of.take, high)
		}, false}
	}
}

// total is a sum of the ledger, a term a line: what the line alone would come to in it, which
// is below zero for what was sold.
func (d *desk) total(called string, take func(*ledger.Totals) ledger.Amount, high bool) (Term, bool) {
	lines := ledger.Lines(d.r)
	sums := ledger.TotalsOf(d.r, lines)
	if whole := take(&sums); !whole.Known() {
		return Term{}, false
	}
	var terms []Term
	for i := range lines {
		alone := ledger.TotalsOf(d.r, lines[i:i+1])
		cost := take(&alone).Money()
		if cost == (units.Range[units.Money]{}) {
			continue
		}
		terms = append(terms, Term{
			Name: lines[i].Name, Unit: d.r.Brief.Currency, Value: pick(float64(cost.Low), float64(cost.High), high), At: lines[i].Where, Op: Fact,
			Trust: string(lines[i].State),
		})
	}
	return join(
		Sum,
		called,
		d.r.Brief.Currency,
		"The lines that count in it, each by its price with postage, tax and fees.",
		orNothing(terms)...), true
}

// forecasts are what is expected of each use.
func (d *desk) forecasts(all map[string]maker) {
	for i := range d.r.Brief.Works {
		use := d.r.Brief.Works[i].Name
		all["forecast/"+use] = maker{"what is expected of " + use, "Hz", expected(use, i), true}
		all["forecast/"+use+"/share"] = maker{"share of the card's own speed in " + use, "", through(use, i), true}
	}
}

// howItGoes says how a forecast is made.
const howItGoes = "A frame takes what processor and card take, which overlap, and what of the link is not hidden behind them; " +
	"the utmost range of the sort of use, or of the runs."

// forecast is what is expected of one use; nil for one without.
func (d *desk) forecast(use string) *proof.UseForecast {
	held := proof.LinkCarrying(d.r, d.ref, d.report.Link.NetEnds).Keeping()
	forecast := proof.Make(d.r, held, nil, d.report.Link.NetEnds, proof.Same)
	for k := range forecast.Uses {
		if f := &forecast.Uses[k]; f.Use == use {
			return f
		}
	}
	return nil
}

// expected is the rate of a use, as far as anything tells it.
func expected(use string, i int) func(d *desk, high bool) (Term, bool) {
	return func(d *desk, high bool) (Term, bool) {
		f := d.forecast(use)
		if f == nil || f.Now.Rate == nil {
			return Term{}, false
		}
		return Term{Name: "rate", Unit: "Hz", Value: pick(f.Now.Rate[0], f.Now.Rate[1], high), Op: Formula, Source: "from " + f.From,
			Formula: howItGoes + " 1000 ms over that.", Terms: d.frame(f, i, high)}, true
	}
}

// through is the share of the card's own speed that the rig lets through.
func through(use string, i int) func(d *desk, high bool) (Term, bool) {
	return func(d *desk, high bool) (Term, bool) {
		f := d.forecast(use)
		if f == nil {
			return Term{}, false
		}
		return Term{Name: "share", Value: pick(f.Now.Share[0], f.Now.Share[1], high), Op: Formula, Source: "from " + f.From, Formula: howItGoes,
			Terms: d.frame(f, i, high)}, true
	}
}

// frame are the terms of a frame, ms, where runs tell them, and the facts beside them.
func (d *desk) frame(f *proof.UseForecast, i int, high bool) (terms []Term) {
	if f.Pinch != nil && f.Pinch.Terms != nil {
		for _, of := range []struct {
			name string
			ends [2]float64
		}{{"processor, a frame", f.Pinch.Terms.Processor}, {"card, a frame", f.Pinch.Terms.Card}, {"link, a frame", f.Pinch.Terms.Link}} {
			terms = append(
				terms,
				Term{Name: of.name, Unit: "ms", Value: pick(of.ends[1], of.ends[0], high), Op: Formula, Trust: "measured", Source: "by the runs"},
			)
		}
	}
	work := fmt.Sprintf("/brief/works/%d", i)
	if rate, told := d.r.Brief.Works[i].CardHz.Get(); told {
		terms = append(terms, d.of(work+"/card_hz", "the card's own rate", rate))
	}
	if rate, told := net(d, high); told {
		terms = append(terms, rate)
	}
	return terms
}
