package ledger

import (
	"math/big"
	"strconv"

	"kolvan/core/rig"
	"kolvan/core/units"
)

// A Line is one line of the ledger: a part of the rig with what is told of it, or a line of
// its own.
type Line struct {
	Name    string        `json:"name"`
	Part    string        `json:"part,omitzero"`
	Kind    rig.LineKind  `json:"kind"`
	Need    rig.LineNeed  `json:"need"`
	State   rig.LineState `json:"state"`
	Cost    Amount        `json:"cost"` // with tax and postage, of the units used, in the brief's currency
	Worth   Amount        `json:"-"`    // what an hour's line takes, h
	Sent    Amount        `json:"-"`    // its postage
	Brought Amount        `json:"-"`    // what it was sold for, where that is told beside its price
	Where   string        `json:"where"`
	Index   int           `json:"-"` // of the ledger's own line; −1 for a part nothing more is told of
	Open    string        `json:"-"` // the fact whose lack leaves the cost open, as a JSON Pointer
	Gone    bool          `json:"-"` // it is of a part that the plan does not have any more

	told rig.LedgerLine
	part Part // of the rig, for a line that is one
}

// Entry is what the ledger has of the line.
func (l *Line) Entry() *rig.LedgerLine { return &l.told }

// A Part is a part of a rig that has a price: what a line of the ledger calls it, its name,
// and its price.
type Part struct {
	Called, Name string
	Price        *rig.Price
	list         string
	i            int                    // −1 for what stands in no list
	usual        *rig.Fact[units.Money] // what such a thing costs, where nothing is told of it
}

// Amount is its price as told, else as such things cost.
func (p *Part) Amount() rig.Fact[units.Money] {
	if p.usual != nil && !p.Price.Amount.Known && !p.Price.Owned.Known {
		return *p.usual
	}
	return p.Price.Amount
}

// Where is its place in the rig, a JSON Pointer.
func (p *Part) Where() string {
	if p.i < 0 {
		return p.list
	}
	return at(p.list, p.i)
}

// EachPart visits all parts of a rig that have a price.
func EachPart(r *rig.Rig, visit func(Part)) {
	visit(Part{r.Host.Name, r.Host.Name, &r.Host.Price, "/host", -1, nil})
	visit(Part{r.Card.Name, r.Card.Name, &r.Card.Price, "/card", -1, nil})
	for i := range r.Route.Stages {
		s := &r.Route.Stages[i]
		visit(Part{s.Name, s.Name, &s.Price, "/route/stages", i, nil})
	}
	for i := range r.Route.Displaced {
		d, where := &r.Route.Displaced[i], at("/route/displaced", i)
		if d.NeedsEnclosure() && r.Drive(d.Occupant) != nil {
			visit(Part{
				"enclosure for " + d.Occupant, "enclosure for " + d.Occupant, &d.Enclosed.Price, where + "/enclosure", -1,
				&enclosureCosts,
			})
		}
		if d.NeedsStick() && r.Drive(d.Occupant) != nil {
			visit(Part{"stick of 16 GB for " + d.Occupant, "stick of 16 GB", &d.Stick.Price, where + "/stick", -1, &stickCosts})
		}
	}
	for i := range r.Supplies {
		s := &r.Supplies[i]
		visit(Part{s.Name, s.Name, &s.Price, "/supplies", i, nil})
		if rig.Is(s.TurnOn, rig.TurnOnSwitch) && s.Board.Amount.Known {
			visit(Part{s.Name + ", switch-on board", "switch-on board", &s.Board.Price, at("/supplies", i) + "/switch_board", -1, nil})
		}
	}
	for i := range r.Chamber.Fans {
		if f := &r.Chamber.Fans[i]; f.Amount.Known {
			visit(Part{f.Name, f.Name, &f.Price, "/chamber/fans", i, nil})
		}
	}
	if h := &r.Chamber.Stand.Holder; rig.Is(h.Wanted, true) && h.Amount.Known {
		visit(Part{"holder", "holder", &h.Price, "/chamber/stand/holder", -1, nil})
	}
	for i := range r.Leads {
		l := &r.Leads[i]
		visit(Part{l.Name, l.Name, &l.Price, "/leads", i, nil})
	}
}

// What a move needs usually costs, give or take, in the brief's currency (P).
var (
	enclosureCosts = rig.Fact[units.Money]{Known: true, Value: 25, Tolerance: 15, Remark: "as such enclosures cost"}
	stickCosts     = rig.Fact[units.Money]{Known: true, Value: 8, Tolerance: 4, Remark: "as such sticks cost"}
)

// Lines lists the parts of a rig that have a name, then the lines of their own.
func Lines(r *rig.Rig) []Line {
	told := linesByPart(r)
	var list []Line
	of, there := map[int]bool{}, map[string]bool{}
	EachPart(r, func(p Part) {
		if p.Name == "" {
			return
		}
		there[p.Called] = true
		l := Line{
			Name: p.Name, Part: p.Called, Kind: "part", Where: p.Where(), Index: -1, part: p,
			told: rig.LedgerLine{Name: p.Name, Part: p.Called},
		}
		if i, is := told[p.Called]; is {
			l.Index, l.told = i, r.Ledger.Lines[i]
			l.Name, of[i] = l.told.Name, true
		}
		if !l.told.Price.Known {
			l.told.Price = p.Amount()
		}
		l.State, l.Need = stateOfPart(p.Price), needOfPart(&p)
		l.work(r)
		list = append(list, l)
	})
	for i := range r.Ledger.Lines {
		if of[i] {
			continue
		}
		l := Line{
			Name: r.Ledger.Lines[i].Name, Kind: "part", State: rig.LineToBuy, Need: rig.Chosen, Where: at("/ledger/lines", i),
			Index: i, told: r.Ledger.Lines[i],
		}
		l.Gone = l.told.Part != "" && !there[l.told.Part]
		l.work(r)
		list = append(list, l)
	}
	return list
}

// linesByPart are the lines that name a part, by its name; nil where there is none.
func linesByPart(r *rig.Rig) map[string]int {
	if len(r.Ledger.Lines) == 0 {
		return nil
	}
	told := make(map[string]int, len(r.Ledger.Lines))
	for i := range r.Ledger.Lines {
		if part := r.Ledger.Lines[i].Part; part != "" {
			told[part] = i
		}
	}
	return told
}

func stateOfPart(p *rig.Price) rig.LineState {
	if rig.Is(p.Owned, true) {
		return rig.LineOwned
	}
	return rig.LineToBuy
}

// needOfPart: what stands between host and card, feeds it or leads to it was forced by the
// route; the host and the card are chosen, and so is what was there already.
func needOfPart(p *Part) rig.LineNeed {
	if p.list == "/host" || p.list == "/card" || rig.Is(p.Price.Owned, true) {
		return rig.Chosen
	}
	return rig.Forced
}

// work fills in what the ledger tells of a line, and what it costs.
func (l *Line) work(r *rig.Rig) {
	l.say()
	t := &l.told
	l.Worth, l.Sent, l.Brought = None(), None(), None()
	switch {
	case l.Kind == rig.LineHours:
		l.Worth = ofFact(t.Hours)
		l.Cost = None()
		if r.Ledger.Rate.Known {
			l.Cost = l.Worth.Each(ofFact(r.Ledger.Rate))
		}
		if !t.Hours.Known {
			l.Open = l.own("hours")
		}
	case t.With != "", l.State == rig.LineOwned && !t.Price.Known:
		l.Cost = None() // what came with another costs nothing, what was there is not asked for
	case !t.Price.Known:
		l.Cost, l.Open = Amount{new(big.Rat), nil}, l.own("price")
	default:
		l.price(r)
	}
}

// say takes what the ledger says of a line's sort, state and need.
func (l *Line) say() {
	t := &l.told
	l.Kind, l.State, l.Need = t.Kind.Or(l.Kind), t.State.Or(l.State), t.Need.Or(l.Need)
}

// own is the place of a field of the line: the part's own price where nothing more is told.
func (l *Line) own(field string) string {
	if l.Index < 0 {
		return l.part.Where() + "/" + field
	}
	return at("/ledger/lines", l.Index) + "/" + field
}

// price is (price with tax + postage) × used ÷ units of the lot, in the brief's currency.
func (l *Line) price(r *rig.Rig) {
	t := &l.told
	tax := new(big.Rat).Add(big.NewRat(1, 1), exactly(float64(t.TaxOn.Value)))
	l.Cost, l.Sent, l.Brought = ofFact(t.Price).Times(tax).Plus(orNone(t.Postage)), orNone(t.Postage), orNone(t.Brought)
	if t.Lot.Known || t.Used.Known {
		l.Cost = l.Cost.Times(big.NewRat(int64(t.Used.Or(1)), int64(max(1, t.Lot.Or(1)))))
	}
	if t.Currency == "" || t.Currency == r.Brief.Currency {
		return
	}
	for i := range r.Ledger.Rates {
		if e := &r.Ledger.Rates[i]; e.Currency == t.Currency && e.Rate.Known {
			rate := ofFact(e.Rate)
			l.Cost, l.Sent, l.Brought = l.Cost.Each(rate), l.Sent.Each(rate), l.Brought.Each(rate)
			return
		}
	}
	open := Amount{new(big.Rat), nil}
	l.Cost, l.Sent, l.Brought, l.Open = open, open, open, l.own("currency")
}

// Totals are what lines come to. What was returned counts with its postage alone, what was
// sold with what it brought, taken off; what was spared and not sold counts for nothing.
type Totals struct {
	All          Amount `json:"all"`
	ToPay        Amount `json:"to_pay"` // to buy and ordered
	Forced       Amount `json:"forced"` // by the route, without hours and without what was owned
	Chosen       Amount `json:"chosen"`
	Owned        Amount `json:"owned"`
	Spared       Amount `json:"spared"`
	WithoutOwned Amount `json:"without_owned"`
	WithHours    Amount `json:"with_hours"`
	Energy       Amount `json:"energy_a_year"`
	FirstYear    Amount `json:"first_year"` // all, with a year of energy
	Hours        Amount `json:"hours"`
}

// TotalsOf adds up.
func TotalsOf(r *rig.Rig, lines []Line) Totals {
	t := Totals{None(), None(), None(), None(), None(), None(), None(), None(), Energy(r), None(), None()}
	hours := None()
	for i := range lines {
		l := &lines[i]
		if l.Kind == rig.LineHours {
			hours, t.Hours = hours.Plus(l.Cost), t.Hours.Plus(l.Worth)
			continue
		}
		t.add(l)
	}
	t.WithHours, t.FirstYear = t.All.Plus(hours), t.All.Plus(t.Energy)
	return t
}

func (t *Totals) add(l *Line) {
	cost := l.Cost
	switch {
	case l.Gone && l.State == rig.LineToBuy:
		return // nobody buys what the plan does not have any more
	case l.State == rig.LineSold:
		brought := cost
		if l.told.Brought.Known { // and its price was paid before
			brought, t.All, t.WithoutOwned = l.Brought, t.All.Plus(cost), t.WithoutOwned.Plus(cost)
		}
		t.All, t.WithoutOwned, t.Spared = t.All.Minus(brought), t.WithoutOwned.Minus(brought), t.Spared.Plus(brought)
		return
	case l.Need == rig.Spared:
		t.Spared = t.Spared.Plus(cost)
		return
	case l.State == rig.LineReturned:
		cost = l.Sent
	}
	t.All = t.All.Plus(cost)
	if l.State == rig.LineOwned {
		t.Owned = t.Owned.Plus(cost)
		return
	}
	t.WithoutOwned = t.WithoutOwned.Plus(cost)
	if l.State == rig.LineToBuy || l.State == rig.LineOrdered {
		t.ToPay = t.ToPay.Plus(cost)
	}
	if l.Need == rig.Forced {
		t.Forced = t.Forced.Plus(cost)
	} else {
		t.Chosen = t.Chosen.Plus(cost)
	}
}

// Energy is what a year of energy costs: Σ hours a day × watts at the wall × 365 × tariff.
// Nothing, while no state of a day is told; open, where one of a told state's facts is not.
func Energy(r *rig.Rig) Amount {
	sum := None()
	for i := range r.Ledger.Day {
		d := &r.Ledger.Day[i]
		sum = sum.Plus(ofFact(d.Hours).Each(ofFact(d.Wall)))
	}
	if len(r.Ledger.Day) == 0 {
		return sum
	}
	return sum.Times(big.NewRat(365, 1000)).Each(ofFact(r.Brief.Energy))
}

// EnergyAnHour is what an hour at work costs at the wall: by the state of a day that takes most.
// Nothing, while none is told.
func EnergyAnHour(r *rig.Rig) Amount {
	most := None()
	for i := range r.Ledger.Day {
		if wall := ofFact(r.Ledger.Day[i].Wall); wall.Known() && wall.High.Cmp(most.High) > 0 {
			most = wall
		}
	}
	return most.Times(big.NewRat(1, 1000)).Each(orNone(r.Brief.Energy))
}

// buys reports a line that is still to be bought: what the plan does not have any more is
// not.
func (l *Line) buys() bool {
	return !l.Gone && l.Kind != rig.LineHours && l.Need != rig.Spared && l.State == rig.LineToBuy
}

// pays reports a line that is still to be paid with money.
func (l *Line) pays() bool {
	return l.buys() || l.Kind != rig.LineHours && l.Need != rig.Spared && l.State == rig.LineOrdered
}

func at(list string, i int) string { return list + "/" + strconv.Itoa(i) }
