package ledger_test

import (
	"bytes"
	"fmt"
	"math"
	"slices"
	"strings"
	"testing"

	"github.com/go-json-experiment/json"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"kolvan/core/coretest"
	"kolvan/core/ledger"
	"kolvan/core/proof"
	"kolvan/core/rig"
	"kolvan/core/units"
)

func about(v, by float64) rig.Fact[units.Money] {
	return rig.Fact[units.Money]{Known: true, Value: units.Money(v), Tolerance: by}
}

// kept is a rig whose ledger has one of everything.
func kept() *rig.Rig {
	r := rig.New("kept")
	r.Brief.Currency = "kr"
	r.Card = rig.Card{Name: "Corvane 16G", Price: rig.Price{Amount: about(435, 15)}}
	r.Route.Stages = []rig.Stage{
		{Name: "dock", Price: rig.Price{Amount: about(38, 0)}}, {Name: "cable", Price: rig.Price{Amount: about(23, 0)}},
	}
	r.Supplies = []rig.Supply{{Name: "Lantern", Price: rig.Price{Amount: about(40, 0), Owned: rig.Of(true)}}}
	r.Leads = []rig.Lead{{Name: "its lead"}}
	r.Ledger.Lines = []rig.LedgerLine{
		{Name: "dock, ordered", Part: "dock", State: rig.Of(rig.LineOrdered), Postage: about(5.5, 0), TaxOn: rig.Of[units.Share](0.25)},
		{Name: "it came with the supply", Part: "its lead", With: "Lantern"},
		{
			Name: "ten clips", Kind: rig.Of[rig.LineKind]("consumable"), Price: about(10, 0), Lot: rig.Of(10), Used: rig.Of(3),
			State: rig.Of(rig.LinePaid), Need: rig.Of(rig.Forced),
		},
		{Name: "shield, from abroad", Price: about(4, 0), Currency: "dal"},
		{Name: "the old card", Price: about(60, 0), State: rig.Of(rig.LineSold), Need: rig.Of(rig.Spared)},
		{Name: "the old drive, used again", Price: about(80, 0), Need: rig.Of(rig.Spared)},
		{Name: "wrong cable", Price: about(19, 0), Postage: about(3, 0), State: rig.Of(rig.LineReturned), Need: rig.Of(rig.Forced)},
		{Name: "evening", Kind: rig.Of(rig.LineHours), Hours: rig.Fact[float64]{Known: true, Value: 4, Tolerance: 1}},
	}
	r.Ledger.Rates = []rig.ExchangeRate{{Currency: "dal", Rate: rig.Of(2.5)}}
	r.Ledger.Rate = about(12, 0)
	r.Ledger.Day = []rig.DayState{
		{Name: "at work", Hours: rig.Of(2.0), Wall: rig.Of[units.Watt](250)},
		{Name: "idle", Hours: rig.Of(4.0), Wall: rig.Of[units.Watt](40)},
	}
	r.Brief.Energy = about(0.31, 0)
	return r
}

// TestTotals by hand: 435 ± 15 for the card, 38 × 1.25 + 5.5 = 53 for the dock, 23 for the
// cable, 3 for three of ten clips, 10 for the shield, 60 off for what was sold, the postage
// of what went back.
func TestTotals(t *testing.T) {
	r := kept()
	lines := ledger.Lines(r)
	totals := ledger.TotalsOf(r, lines)
	for name, c := range map[string]struct {
		of   ledger.Amount
		want string
	}{
		"all": {totals.All, "492 to 522"}, "to pay": {totals.ToPay, "506 to 536"}, "forced": {totals.Forced, "82"},
		"owned": {totals.Owned, "40"}, "without owned": {totals.WithoutOwned, "452 to 482"}, "spared": {totals.Spared, "140"},
		"hours": {totals.WithHours, "528 to 582"}, "energy": {totals.Energy, "74.68"}, "first year": {totals.FirstYear, "566.68 to 596.68"},
	} {
		assert.Equal(t, c.want, c.of.String(), name)
	}
	ends, open := ledger.ToBuy(r)
	assert.Equal(t, units.Between[units.Money](453, 483), ends, "the dock is on its way")
	assert.Empty(t, open)
	r.Route.Stages = r.Route.Stages[:1]
	ends, _ = ledger.ToBuy(r)
	assert.Equal(t, units.Between[units.Money](430, 460), ends, "what the plan does not have any more is no matter of the plan")
	r.Ledger.Rates = nil
	assert.Equal(t, "473 or more", ledger.TotalsOf(r, ledger.Lines(r)).ToPay.String(), "without a rate nobody knows what the shield costs")
}

// TestRounding: halves of a cent go away from nought, in the last step only.
func TestRounding(t *testing.T) {
	r := rig.New("r")
	for i := range 3 {
		r.Ledger.Lines = append(r.Ledger.Lines, rig.LedgerLine{Name: fmt.Sprint(i), Price: about(0.01, 0), Lot: rig.Of(2)})
	}
	total := ledger.TotalsOf(r, ledger.Lines(r)).All
	assert.Equal(t, "0.02", total.String(), "three halves of a cent are 1.5 cents")
	assert.Equal(t, "-0.02", ledger.None().Minus(total).String())
	text, err := json.Marshal(total)
	require.NoError(t, err)
	assert.Equal(t, "[0.02,0.02]", string(text))
}

// TestSaleIsItsFormula, whatever the terms; at its break-even nothing is left.
func TestSaleIsItsFormula(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		cents := func(name string, most int) float64 { return float64(rapid.IntRange(0, most).Draw(t, name)) / 100 }
		share := func(name string, most int) float64 { return float64(rapid.IntRange(0, most).Draw(t, name)) / 1000 }
		price, cost, fixed, postage := cents("price", 200000), cents("cost", 200000), cents("fixed", 500), cents("postage", 5000)
		fee, reserve, tax := share("fee", 200), share("reserve", 100), share("tax", 300)
		base := rapid.SampledFrom([]rig.FeeBase{"price", rig.FeeWithPostage, rig.FeeWithTax}).Draw(t, "base")
		pays, taxed := rapid.Bool().Draw(t, "pays"), rapid.Bool().Draw(t, "taxed")
		r := rig.New("r")
		r.Ledger.Sale = rig.Sale{
			Price:   about(price, 0),
			Cost:    about(cost, 0),
			Fixed:   about(fixed, 0),
			Postage: about(postage, 0),
			FeeOf:   rig.Of(base),
			Paid:    rig.Of(pays),
			Taxed:   rig.Of(taxed),
			Fee:     rig.Of(units.Share(fee)),
			Reserve: rig.Of(units.Share(reserve)),
			Tax:     rig.Of(units.Share(tax)),
		}
		left := func(s float64) float64 {
			b := map[rig.FeeBase]float64{"price": s, rig.FeeWithPostage: s + postage, rig.FeeWithTax: s * (1 + tax)}[base]
			p := s - fee*b - fixed - reserve*s - cost
			if pays {
				p -= postage
			}
			if taxed {
				p -= max(0, s-cost) * tax / (1 + tax)
			}
			return p
		}
		totals := ledger.TotalsOf(r, nil)
		sale := ledger.SaleOf(r, &totals)
		got, _ := sale.Profit.Low.Float64()
		assert.InDelta(t, left(price), got, 1e-9)
		if sale.BreakEven == nil {
			assert.LessOrEqual(t, left(1e9), left(1e8), "no price is high enough")
			return
		}
		even, _ := sale.BreakEven.Low.Float64()
		assert.InDelta(t, 0, left(even), 1e-6*(1+even))
	})
}

// TestWhereTheChoiceTurns: at the price it turns at, or the hours, both cost the same;
// cheaper by less than nothing is dearer; what would be had later counts on both sides.
func TestWhereTheChoiceTurns(t *testing.T) {
	r := kept()
	r.Ledger.Sale.Price = about(300, 0)
	r.Ledger.Others = []rig.Alternative{
		{Name: "desktop", Price: about(640, 60), Gain: rig.Of(4.0), Resale: about(250, 0)},
		{Name: "rented", Hourly: about(0.9, 0), Hours: rig.Of(500.0)},
		{Name: "unpriced"},
	}
	totals := ledger.TotalsOf(r, ledger.Lines(r))
	against := ledger.AgainstOthers(r, &totals, nil)
	require.Len(t, against, 3)
	assert.Equal(t, "148 to 298", against[0].Cheaper.String(), "330 to 450 against 152 to 182")
	assert.Equal(t, "402 to 432", against[0].TurnPrice.String())
	assert.Nil(t, against[0].TurnHours)
	assert.Equal(t, "-70.75 to -40.75", against[1].Cheaper.String(),
		"450 against 452 to 482 and 38.75 of energy: nothing of it is worth anything later")
	assert.Equal(t, "549.54 to 586.02", against[1].TurnHours.String())
	assert.Equal(t, "-482 or more", against[2].Cheaper.String())
	at := 452 / (0.9 - 0.0775)
	r.Ledger.Others[1].Hours = rig.Of(math.Round(at*1e6) / 1e6)
	assert.Equal(t, "-30 to 0", ledger.AgainstOthers(r, &totals, nil)[1].Cheaper.String())
	assert.False(t, against[0].Better)
	gain := *against[0].Gain
	r.Ledger.Others[0].Gain, r.Ledger.Others[0].Price = rig.Of(9.0), about(10, 0)
	assert.True(t, ledger.AgainstOthers(r, &totals, &gain)[0].Better)
}

// TestGainsHaveTheirPrice: in the use's own unit, as measured where it was; a gain that
// reaches nought has no upper cost, one below it none at all.
func TestGainsHaveTheirPrice(t *testing.T) {
	r := kept()
	run := func(side rig.RunSide, hz, least, most float64) rig.Run {
		return rig.Run{
			Name: fmt.Sprint(side, hz), Use: "stacking", Side: rig.Of(side), Average: rig.Of(hz), Least: rig.Of(least),
			Most: rig.Of(most),
		}
	}
	each := func(before, after rig.Run) []ledger.Gain {
		r.Runs = []rig.Run{before, after}
		totals := ledger.TotalsOf(r, ledger.Lines(r))
		return ledger.GainsOf(r, totals.WithoutOwned, proof.Link{Ref: coretest.Tables(t)})
	}
	sure := each(run("before", 30, 29, 31), run("after", 90, 89, 91))
	require.Len(t, sure, 1)
	assert.Equal(t, "Hz", sure[0].Unit)
	low, _ := sure[0].Each.Low.Float64()
	high, _ := sure[0].Each.High.Float64()
	assert.Less(t, low, 452/60.0)
	assert.Greater(t, high, 482/60.0)
	open := each(run("before", 30, 20, 40), run("after", 32, 22, 42))
	assert.Nil(t, open[0].Each.High)
	assert.Nil(t, each(run("before", 90, 89, 91), run("after", 30, 29, 31))[0].Each)
}

// TestTableOutAndInIsTheSame, whatever the lines; a wrong row changes nothing and is named.
func TestTableOutAndInIsTheSame(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		r := kept()
		names := []string{"Corvane 16G", "dock", "cable", "Lantern", "its lead", "", ""}
		r.Ledger.Lines = nil
		for i := range rapid.IntRange(0, 6).Draw(t, "lines") {
			l := rig.LedgerLine{Name: rapid.StringMatching(`[a-z][a-z"';, ]{0,8}[a-z]`).Draw(t, "what"), Part: names[i]}
			if rapid.Bool().Draw(t, "priced") {
				l.Price = about(float64(rapid.IntRange(0, 99999).Draw(t, "price"))/100, float64(rapid.IntRange(0, 9).Draw(t, "by")))
			}
			if rapid.Bool().Draw(t, "told") {
				l.State, l.Need = rig.Of(
					rapid.SampledFrom([]rig.LineState{"owned", "to-buy", "ordered", "paid", "returned", "sold"}).Draw(t, "state"),
				), rig.Of(
					rapid.SampledFrom([]rig.LineNeed{"forced", "chosen", "spared"}).Draw(t, "need"),
				)
				l.Outside, l.TaxOn, l.Lot, l.ReturnBy = rig.Of(
					rapid.Bool().Draw(t, "outside"),
				), rig.Of[units.Share](
					0.25,
				), rig.Of(
					rapid.IntRange(1, 20).Draw(t, "lot"),
				), "2026-06-09"
			}
			r.Ledger.Lines = append(r.Ledger.Lines, l)
		}
		before := slices.Clone(r.Ledger.Lines)
		totals := ledger.TotalsOf(r, ledger.Lines(r))
		var table bytes.Buffer
		require.NoError(t, ledger.WriteCSV(&table, r))
		require.NoError(t, ledger.ReadCSV(bytes.NewReader(table.Bytes()), r), table.String())
		assert.ElementsMatch(t, before, r.Ledger.Lines)
		again := ledger.TotalsOf(r, ledger.Lines(r))
		assert.Equal(t, totals.All.String(), again.All.String())
	})
	r := kept()
	before := slices.Clone(r.Ledger.Lines)
	for wrong, says := range map[string]string{
		"":                        "what, part",
		"what,colour\na,red\n":    "column colour",
		"price\n4\n":              "without the column what",
		"what,price\na,4\nb,dear": "row 3",
		"what,state\na,lost\n":    "lost",
	} {
		err := ledger.ReadCSV(strings.NewReader(wrong), r)
		require.Error(t, err, wrong)
		assert.Contains(t, err.Error(), says)
		assert.Equal(t, before, r.Ledger.Lines)
	}
}

// TestWhatAMoveNeeds: a drive's enclosure and the stick of a fresh system stand in costs and
// buying order, as such things cost until told, and not once they are owned or done with.
func TestWhatAMoveNeeds(t *testing.T) {
	r := rig.New("move")
	r.Host.Drives = []rig.Drive{{Name: "boot"}}
	names := func() (list []string) {
		for _, p := range ledger.Order(r) {
			list = append(list, p.Name)
		}
		return list
	}
	move := func(home rig.Home, method rig.Carryover) *rig.Displaced {
		r.Route.Displaced = []rig.Displaced{{Occupant: "boot", Home: rig.Of(home), Method: rig.Of(method)}}
		return &r.Route.Displaced[0]
	}
	d := move(rig.HomeUSB, rig.Installed)
	assert.Equal(t, []string{"stick of 16 GB", "enclosure for boot"}, names())
	sum, open := ledger.ToBuy(r)
	assert.Equal(t, units.Between[units.Money](14, 52), sum)
	assert.Empty(t, open)
	d.Proven = rig.Of(true)
	assert.Equal(t, []string{"enclosure for boot"}, names())
	d.Enclosed.Amount = rig.Of[units.Money](31)
	sum, _ = ledger.ToBuy(r)
	assert.Equal(t, units.Exactly[units.Money](31), sum)
	d.Enclosed.Price = rig.Price{Owned: rig.Of(true)}
	assert.Empty(t, names())
	move(rig.HomeSlot, rig.Cloned)
	assert.Equal(t, []string{"enclosure for boot"}, names(), "the new drive is written through one")
	move(rig.HomeSlot, rig.CarriedOver)
	assert.Empty(t, names())
}

// TestBuyingOrder: what could end the plan first, the cheapest before the dearer, the card
// last; what came with another part is not bought; each says what must be seen, and what is
// taken for it.
func TestBuyingOrder(t *testing.T) {
	r := kept()
	r.Route.Stages[0].Kind, r.Route.Stages[1].Kind = rig.Of[rig.StageKind]("dock"), rig.Of[rig.StageKind]("cable")
	r.Route.Stages[1].Length = rig.Of[units.Millimetre](500)
	r.Card.Plugs = []rig.CardPlug{{Name: "A", Connector: rig.Of[rig.Connector]("card-8")}}
	r.Ledger.Lines = append(
		r.Ledger.Lines, rig.LedgerLine{Name: "card, used", Part: "Corvane 16G", ReturnBy: "2026-06-09", Not: "the Slim"},
	)
	order := ledger.Order(r)
	var names []string
	for _, p := range order {
		names = append(names, p.Name)
		assert.NotEmpty(t, p.Stop+p.State)
	}
	assert.Equal(t, []string{"cable", "dock, ordered", "card, used", "shield, from abroad"}, names)
	assert.Contains(t, order[0].Variant, "500 mm long")
	assert.Contains(t, order[1].Stop, "the cheapest there is, is found through it")
	assert.Contains(t, order[2].Variant, "power by card 8-pin")
	assert.Equal(t, [2]string{"the Slim", "2026-06-09"}, [2]string{order[2].Not, order[2].ReturnBy})
}

// TestWhatHangsTogether: a profit belongs to its own price; an hour at work costs energy beside
// a rented one; a tolerance wider than its price keeps its upper end; what was sold was paid for
// before; what went back costs its postage in its own currency.
func TestWhatHangsTogether(t *testing.T) {
	r := rig.New("sums")
	r.Brief.Currency, r.Brief.Energy = "kr", about(0.34, 0)
	r.Ledger.Sale = rig.Sale{Price: about(110, 20), Cost: about(111, 8)}
	totals := ledger.TotalsOf(r, nil)
	sale := ledger.SaleOf(r, &totals)
	assert.Equal(t, "-0.32 to 0.21", sale.OfPrice.String())
	assert.Equal(t, "-0.24 to 0.26", sale.OfCost.String())

	r.Ledger.Sale = rig.Sale{}
	r.Ledger.Lines = []rig.LedgerLine{{Name: "all of it", Price: about(389, 0), State: rig.Of(rig.LinePaid)}}
	r.Ledger.Day = []rig.DayState{{Name: "idle", Wall: rig.Of[units.Watt](20)}, {Name: "at work", Wall: rig.Of[units.Watt](214)}}
	r.Ledger.Others = []rig.Alternative{{Name: "rented", Hourly: about(0.6, 0), Hours: rig.Of(100.0)}}
	totals = ledger.TotalsOf(r, ledger.Lines(r))
	assert.Equal(t, "737.8", ledger.AgainstOthers(r, &totals, nil)[0].TurnHours.String()[:5])
	r.Ledger.Others[0].Hourly = about(0.07, 0)
	assert.Nil(t, ledger.AgainstOthers(r, &totals, nil)[0].TurnHours, "its own energy costs more")

	all := func(lines ...rig.LedgerLine) string {
		r.Ledger.Lines = lines
		totals := ledger.TotalsOf(r, ledger.Lines(r))
		return totals.All.String()
	}
	assert.Equal(t, "0 to 25", all(rig.LedgerLine{Name: "guess", Price: about(10, 15), State: rig.Of(rig.LinePaid)}))
	assert.Equal(t, "30", all(rig.LedgerLine{Name: "old card", Price: about(100, 0), Brought: about(70, 0), State: rig.Of(rig.LineSold)}))
	assert.Equal(t, "-70", all(rig.LedgerLine{Name: "old card", Price: about(70, 0), State: rig.Of(rig.LineSold)}))
	r.Ledger.Rates = []rig.ExchangeRate{{Currency: "dal", Rate: rig.Of(3.0)}}
	assert.Equal(t, "12", all(rig.LedgerLine{Name: "back", Price: about(50, 0), Postage: about(4, 0), Currency: "dal",
		State: rig.Of(rig.LineReturned)}))
	ends, open := ledger.Spent(r)
	assert.False(t, open)
	assert.Zero(t, ends.High, "what went back is not spent, roughly")
}

// TestWhatWasPaidOutlivesItsPart: its price stood with the part, and is written down when that
// leaves the plan; a price of its own, a part still there and what is to buy stay as they are.
func TestWhatWasPaidOutlivesItsPart(t *testing.T) {
	was := &rig.Rig{}
	price := func(amount units.Money) rig.Price { return rig.Price{Amount: rig.Of(amount)} }
	was.Route.Stages = []rig.Stage{
		{Name: "dock", Price: price(39)}, {Name: "cable", Price: price(23)}, {Name: "free"}, {Name: "wish", Price: price(5)},
		{Name: "box", Price: price(41)},
	}
	line := func(part string, state rig.LineState) rig.LedgerLine {
		return rig.LedgerLine{Name: part, Part: part, State: rig.Of(state)}
	}
	was.Ledger.Lines = []rig.LedgerLine{
		line("dock", rig.LinePaid), line("cable", rig.LineOrdered), line("free", rig.LinePaid), line("wish", rig.LineToBuy), line("box", rig.LineOrdered),
	}
	was.Ledger.Lines[4].Price = rig.Of(units.Money(40))
	now := *was
	now.Route.Stages = was.Route.Stages[1:2]
	ledger.KeepPaid(was, &now)
	var amounts []units.Money
	for _, l := range now.Ledger.Lines {
		amounts = append(amounts, l.Price.Value)
	}
	assert.Equal(t, []units.Money{39, 0, 0, 0, 40}, amounts)
	assert.False(t, was.Ledger.Lines[0].Price.Known, "the plan that was is not touched")
	before, _ := ledger.Committed(was)
	after, _ := ledger.Committed(&now)
	assert.Equal(t, before, after)
}
