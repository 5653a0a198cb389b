package ledger

import (
	"math/big"

	"kolvan/core/proof"
	"kolvan/core/rig"
)

// A Gain is what a use gained, and what each unit of it cost.
type Gain struct {
	Use      string  `json:"use"`
	Unit     string  `json:"unit"`     // Hz, s saved, or the score's own
	Measured bool    `json:"measured"` // else forecast
	Gained   Amount  `json:"gained"`
	Each     *Amount `json:"cost_for_each"` // no upper end where the gain reaches nought; null where it is below
}

// GainsOf holds what was paid, without what was owned, against what each use gained: as
// measured, else as forecast over a link.
func GainsOf(r *rig.Rig, cost Amount, link proof.Link) (list []Gain) {
	measured := map[string]bool{}
	for _, g := range proof.GainsOf(r) {
		for _, f := range g.Figures {
			if !f.Main() || f.Change == nil || measured[g.Use] {
				continue
			}
			measured[g.Use] = true
			list = append(list, measuredGain(r, g.Use, &f, cost))
		}
	}
	if link.Net.High <= 0 {
		return list
	}
	for i, u := range proof.Make(r, link, nil, link.Net, proof.Same).Uses {
		today, told := r.Brief.Works[i].TodayHz.Get()
		if measured[u.Use] || u.Now.Rate == nil || !told {
			continue
		}
		g := Gain{Use: u.Use, Unit: "Hz", Gained: Amount{exactly(u.Now.Rate[0] - today), exactly(u.Now.Rate[1] - today)}}
		g.Each = each(cost, g.Gained)
		list = append(list, g)
	}
	return list
}

func measuredGain(r *rig.Rig, use string, f *proof.Compared, cost Amount) Gain {
	g := Gain{Use: use, Unit: map[string]string{"average_hz": "Hz", "duration_s": "s saved", "score": "point"}[f.Name], Measured: true}
	low, high := *f.Change, *f.Change
	if f.Interval != nil {
		low, high = f.Interval[0], f.Interval[1]
	}
	g.Gained = Amount{exactly(low * f.Before), exactly(high * f.Before)}
	g.Each = each(cost, g.Gained)
	return g
}

// each is a cost over a gain; nil where there is none to gain.
func each(cost, gain Amount) *Amount {
	if gain.High.Sign() <= 0 {
		return nil
	}
	e := cost.Over(gain)
	return &e
}

// An Against is the rig held against something else.
type Against struct {
	Name      string  `json:"name"`
	Cost      Amount  `json:"cost"`              // price and hours
	Net       Amount  `json:"net"`               // after what it is worth later
	Mine      Amount  `json:"rig_costs"`         // beside it: after resale where its own is told, with its energy where it is rented
	Cheaper   Amount  `json:"rig_is_cheaper_by"` // by the net; below nought where it is dearer
	Gain      *Amount `json:"gain"`              // times as fast as today; null while not told
	TurnPrice *Amount `json:"turns_at_price"`    // its price at which both cost the same; null for what is only rented
	TurnHours *Amount `json:"turns_at_hours"`    // its hours at which they do; null where it has none
	Better    bool    `json:"gives_more_for_less"`
}

// RigNet is what the rig costs after its resale, without what was owned before.
func RigNet(r *rig.Rig, t *Totals) Amount {
	return t.WithoutOwned.Minus(orNone(r.Ledger.Sale.Price))
}

// AgainstOthers holds the rig against each alternative; gain is how many times as fast as
// today it runs, nil while nothing tells.
func AgainstOthers(r *rig.Rig, t *Totals, gain *Amount) (list []Against) {
	for i := range r.Ledger.Others {
		o := &r.Ledger.Others[i]
		// What the rig would bring counts only beside something that tells its own.
		mine := t.WithoutOwned
		if o.Resale.Known {
			mine = RigNet(r, t)
		}
		hourly := None() // of one's own: its energy, beside what is rented
		if o.Hourly.Known {
			hourly = EnergyAnHour(r)
			mine = mine.Plus(hourly.Each(orNone(o.Hours)))
		}
		a := Against{Name: o.Name, Cost: priceOf(o), Mine: mine}
		a.Net = a.Cost.Minus(orNone(o.Resale))
		a.Cheaper = a.Net.Minus(mine)
		if o.Gain.Known {
			of := ofFact(o.Gain)
			a.Gain = &of
		}
		a.turn(o, mine, hourly)
		a.Better = gain != nil && a.Gain != nil && gain.Under(*a.Gain) && a.Net.Under(mine)
		list = append(list, a)
	}
	return list
}

func priceOf(o *rig.Alternative) Amount {
	cost := orNone(o.Price)
	if !o.Price.Known && !o.Hourly.Known {
		cost = ofFact(o.Price) // nobody knows
	}
	if o.Hourly.Known {
		cost = cost.Plus(ofFact(o.Hourly).Each(ofFact(o.Hours)))
	}
	return cost
}

// turn finds where the choice turns: by its price, all else as it is, and by its hours.
func (a *Against) turn(o *rig.Alternative, mine, hourly Amount) {
	rest := None()
	if o.Hourly.Known {
		rest = ofFact(o.Hourly).Each(ofFact(o.Hours))
	}
	if o.Price.Known || !o.Hourly.Known {
		price := mine.Plus(orNone(o.Resale)).Minus(rest)
		a.TurnPrice = &price
	}
	if rent := ofFact(o.Hourly).Minus(hourly); o.Hourly.Known && rent.Low != nil && rent.Low.Sign() > 0 {
		bought := mine.Minus(hourly.Each(orNone(o.Hours)))
		hours := bought.Plus(orNone(o.Resale)).Minus(orNone(o.Price)).Over(rent)
		a.TurnHours = &hours
	}
}

// A Sale is what would be left of one.
type Sale struct {
	Price     Amount  `json:"price"`
	Profit    *Amount `json:"profit"`   // null while the own cost is open
	OfPrice   *Amount `json:"of_price"` // as a share of the selling price
	OfCost    *Amount `json:"of_cost"`  // as a share of the own cost
	BreakEven *Amount `json:"break_even"`
}

// SaleOf is profit = S − f·B − fixed − postage − reserve·S − K − tax, with B the chosen base
// of the fee and tax = max(0, S − K)·t/(1 + t) where the margin is taxed. Nil without a
// price.
func SaleOf(r *rig.Rig, t *Totals) *Sale {
	s := &r.Ledger.Sale
	if !s.Price.Known {
		return nil
	}
	cost := t.WithoutOwned
	if s.Cost.Known {
		cost = ofFact(s.Cost)
	}
	f := saleTerms(s)
	out := &Sale{Price: ofFact(s.Price), BreakEven: f.breakEven(cost)}
	if cost.Known() {
		out.Profit = &Amount{f.profit(out.Price.Low, cost.High), f.profit(out.Price.High, cost.Low)}
		out.OfPrice = f.shareOf(out.Price, cost, func(price, _ *big.Rat) *big.Rat { return price })
		out.OfCost = f.shareOf(out.Price, cost, func(_, cost *big.Rat) *big.Rat { return cost })
	}
	return out
}

// terms are the parts of a sale that do not hang on its price.
type terms struct {
	ofPrice *big.Rat // share of S that goes: fee and reserve
	fixed   *big.Rat // what goes whatever the price: fixed fee, postage, fee on postage
	margin  *big.Rat // t/(1+t), nought where the margin is not taxed
}

func saleTerms(s *rig.Sale) terms {
	fee, base := exactly(float64(s.Fee.Value)), big.NewRat(1, 1)
	t := terms{fixed: exactly(float64(s.Fixed.Value)), margin: new(big.Rat)}
	postage, rate := exactly(float64(s.Postage.Value)), exactly(float64(s.Tax.Value))
	whole := new(big.Rat).Add(big.NewRat(1, 1), rate)
	switch s.FeeOf.Value {
	case rig.FeeWithPostage:
		t.fixed.Add(t.fixed, new(big.Rat).Mul(fee, postage))
	case rig.FeeWithTax:
		base = whole
	}
	if s.Paid.Or(true) {
		t.fixed.Add(t.fixed, postage)
	}
	t.ofPrice = new(big.Rat).Add(new(big.Rat).Mul(fee, base), exactly(float64(s.Reserve.Value)))
	if rig.Is(s.Taxed, true) {
		t.margin.Quo(rate, whole)
	}
	return t
}

func (t terms) profit(price, cost *big.Rat) *big.Rat {
	left := new(big.Rat).Sub(price, new(big.Rat).Mul(t.ofPrice, price))
	left.Sub(left, t.fixed)
	left.Sub(left, cost)
	if over := new(big.Rat).Sub(price, cost); over.Sign() > 0 {
		left.Sub(left, over.Mul(over, t.margin))
	}
	return left
}

// breakEven is the price at which nothing is left: above the cost, since fees are no less
// than nought; nil where no price is high enough.
func (t terms) breakEven(cost Amount) *Amount {
	share := new(big.Rat).Sub(new(big.Rat).Sub(big.NewRat(1, 1), t.ofPrice), t.margin)
	if share.Sign() <= 0 {
		return nil
	}
	at := func(k *big.Rat) *big.Rat {
		if k == nil {
			return nil
		}
		sum := new(big.Rat).Add(t.fixed, new(big.Rat).Mul(k, new(big.Rat).Sub(big.NewRat(1, 1), t.margin)))
		return sum.Quo(sum, share)
	}
	return &Amount{at(cost.Low), at(cost.High)}
}

// shareOf is the profit as a share of the price, or of the cost: each profit belongs to its own
// price and cost. Nil where what it is a share of may be nought.
func (t terms) shareOf(price, cost Amount, of func(price, cost *big.Rat) *big.Rat) *Amount {
	var share *Amount
	for _, p := range [...]*big.Rat{price.Low, price.High} {
		for _, k := range [...]*big.Rat{cost.Low, cost.High} {
			whole := of(p, k)
			if whole == nil || whole.Sign() <= 0 {
				return nil
			}
			s := new(big.Rat).Quo(t.profit(p, k), whole)
			if share == nil {
				share = &Amount{s, s}
			}
			if s.Cmp(share.Low) < 0 {
				share.Low = s
			}
			if s.Cmp(share.High) > 0 {
				share.High = s
			}
		}
	}
	return share
}
