package ledger_test

import (
	"fmt"
	"math"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"kolvan/core/coretest"
	"kolvan/core/finding"
	"kolvan/core/ledger"
	"kolvan/core/proof"
	"kolvan/core/rig"
	"kolvan/core/units"
	_ "kolvan/internal/oneseed"
)

// anyLedger is a rig with parts and lines that may say anything of them.
func anyLedger(t *rapid.T) *rig.Rig {
	r := rig.New("any")
	r.Brief.Currency = "kr"
	price := func(name string) rig.Fact[units.Money] {
		if rapid.IntRange(0, 3).Draw(t, name+" told") == 0 {
			return rig.Fact[units.Money]{}
		}
		return about(float64(rapid.IntRange(0, 90000).Draw(t, name))/100, float64(rapid.IntRange(0, 3000).Draw(t, name+" by"))/100)
	}
	owned := func(name string) rig.Fact[bool] {
		return rapid.SampledFrom([]rig.Fact[bool]{{}, rig.Of(true), rig.Of(false)}).Draw(t, name)
	}
	r.Host = rig.Host{Name: "host", Price: rig.Price{Amount: price("host"), Owned: owned("host owned")}}
	r.Card = rig.Card{Name: "card", Price: rig.Price{Amount: price("card"), Owned: owned("card owned")}}
	r.Route.Stages = []rig.Stage{{Name: "dock", Price: rig.Price{Amount: price("dock"), Owned: owned("dock owned")}}}
	r.Supplies = []rig.Supply{{Name: "supply", Price: rig.Price{Amount: price("supply"), Owned: owned("supply owned")}}}
	for i := range rapid.IntRange(0, 5).Draw(t, "lines") {
		l := rig.LedgerLine{
			Name:  fmt.Sprint("line ", i),
			Part:  rapid.SampledFrom([]string{"", "", "card", "dock", "supply", "what was here once"}).Draw(t, "part"),
			Price: price("line"),
		}
		if rapid.Bool().Draw(t, "stated") {
			l.State = rig.Of(rapid.SampledFrom([]rig.LineState{"owned", "to-buy", "ordered", "paid", "returned", "sold"}).Draw(t, "state"))
		}
		if rapid.Bool().Draw(t, "needed") {
			l.Need = rig.Of(rapid.SampledFrom([]rig.LineNeed{"forced", "chosen", "spared"}).Draw(t, "need"))
		}
		if rapid.IntRange(0, 4).Draw(t, "abroad") == 0 {
			l.Currency = "dal"
		}
		if rapid.Bool().Draw(t, "more") {
			l.TaxOn, l.Postage, l.Lot, l.Used = rig.Of[units.Share](
				0.19,
			), about(
				4.9,
				0,
			), rig.Of(
				rapid.IntRange(1, 9).Draw(t, "lot"),
			), rig.Of(
				rapid.IntRange(0, 9).Draw(t, "used"),
			)
		}
		r.Ledger.Lines = append(r.Ledger.Lines, l)
	}
	if rapid.Bool().Draw(t, "rate") {
		r.Ledger.Rates = []rig.ExchangeRate{{Currency: "dal", Rate: rig.Of(1.7)}}
	}
	return r
}

// TestWhatIsShownIsWhatIsSearched: the sums of searches, worked out roughly, are those of the
// ledger to the cent, and open where it is open.
func TestWhatIsShownIsWhatIsSearched(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		r := anyLedger(t)
		totals := ledger.TotalsOf(r, ledger.Lines(r))
		ends, open := ledger.ToBuy(r)
		committed, ordered := ledger.Committed(r)
		open = append(open, ordered...)
		assert.Equal(t, !totals.ToPay.Known(), len(open) > 0)
		for _, where := range open {
			_, _, err := rig.At(r, where)
			require.NoError(t, err, "what is open is a field to be filled in")
		}
		if len(open) == 0 {
			exact := totals.ToPay.Money()
			onTheWay := exact.High - ends.High
			assert.GreaterOrEqual(t, float64(onTheWay), -0.005, "what is ordered is still to pay, and bought")
			if onTheWay < 0.005 {
				assert.InDelta(t, float64(exact.Low), float64(ends.Low), 0.005)
			} else if !sold(r) {
				assert.LessOrEqual(t, float64(onTheWay), float64(committed.High)+0.005)
			}
		}
		spent, unknown := ledger.Spent(r)
		if !unknown && totals.WithoutOwned.Known() && !returned(r) {
			exact := totals.WithoutOwned.Money()
			assert.InDelta(t, float64(exact.Low), float64(spent.Low), 0.005)
			assert.InDelta(t, float64(exact.High), float64(spent.High), 0.005)
		}
	})
}

func returned(r *rig.Rig) bool { return anyOf(r, rig.LineReturned) }

func sold(r *rig.Rig) bool { return anyOf(r, rig.LineSold) }

func anyOf(r *rig.Rig, state rig.LineState) bool {
	return slices.ContainsFunc(r.Ledger.Lines, func(l rig.LedgerLine) bool { return rig.Is(l.State, state) })
}

// TestSumsOfTheLedger: all is what was owned and what was not; forced and chosen are what was
// not owned, but for what was sold; another line to buy adds just what it costs, to all it
// belongs to.
func TestSumsOfTheLedger(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		r := anyLedger(t)
		before := ledger.TotalsOf(r, ledger.Lines(r))
		assert.Equal(t, before.Owned.Plus(before.WithoutOwned).String(), before.All.String())
		if before.Spared.Known() && before.Spared.High.Sign() == 0 {
			assert.Equal(t, before.Forced.Plus(before.Chosen).String(), before.WithoutOwned.String())
		}
		r.Ledger.Lines = append(r.Ledger.Lines, rig.LedgerLine{Name: "one more", Price: about(12.34, 0), Need: rig.Of(rig.Forced)})
		after := ledger.TotalsOf(r, ledger.Lines(r))
		for name, c := range map[string][2]ledger.Amount{
			"all": {before.All, after.All}, "to pay": {before.ToPay, after.ToPay}, "forced": {before.Forced, after.Forced},
			"without owned": {before.WithoutOwned, after.WithoutOwned},
		} {
			if c[0].Known() {
				assert.Equal(t, c[1].String(), c[0].Plus(line(12.34)).String(), name)
			}
		}
		assert.Equal(t, before.Chosen.String(), after.Chosen.String())
		assert.Equal(t, before.Owned.String(), after.Owned.String())
	})
}

// line is an amount that is known.
func line(v float64) ledger.Amount {
	r := &rig.Rig{Ledger: rig.Ledger{Lines: []rig.LedgerLine{{Name: "x", Price: about(v, 0)}}}}
	return ledger.TotalsOf(r, ledger.Lines(r)).All
}

// TestALineFollowsItsPart: a new name is followed; the card that takes another's place is to
// buy, and what was paid for the other stays paid.
func TestALineFollowsItsPart(t *testing.T) {
	r := kept()
	r.Ledger.Lines = append(r.Ledger.Lines, rig.LedgerLine{Name: "card, paid", Part: "Corvane 16G", State: rig.Of(rig.LinePaid)})
	last := len(r.Ledger.Lines) - 1
	require.NoError(t, rig.Set(r, "/card/name", "Corvane"))
	assert.Equal(t, "Corvane", r.Ledger.Lines[last].Part)
	require.NoError(t, rig.Set(r, "/route/stages/0/name", "the dock"))
	assert.Equal(t, "the dock", r.Ledger.Lines[0].Part)
	require.NoError(t, rig.Set(r, "/supplies/0/name", "Lantern 550"))
	assert.Equal(t, "Lantern 550", r.Ledger.Lines[1].With)

	paid := ledger.TotalsOf(r, ledger.Lines(r))
	r.Ledger.Lines[last].Price = about(435, 15)
	r.Card = rig.Card{Name: "Skua", Price: rig.Price{Amount: about(300, 0)}}
	swapped := ledger.TotalsOf(r, ledger.Lines(r))
	assert.Equal(t, "300", swapped.ToPay.Minus(paid.ToPay).String())
	assert.Equal(t, paid.WithoutOwned.Plus(line(300)).String(), swapped.WithoutOwned.String(), "what was paid stays paid")
	require.NoError(t, rig.Remove(r, "/route/stages/0"))
	assert.Empty(t, r.Ledger.Lines[0].Part)
}

// TestMoreForLess is said only where it is so over the whole of both ranges: never when the
// other may cost more, or may give less.
func TestMoreForLess(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		r := rig.New("rig")
		r.Card = rig.Card{
			Name:  "card",
			Price: rig.Price{Amount: about(float64(rapid.IntRange(1, 500).Draw(t, "card")), float64(rapid.IntRange(0, 50).Draw(t, "by")))},
		}
		hz := rapid.Float64Range(20, 200).Draw(t, "after")
		r.Runs = []rig.Run{
			{Name: "a", Side: rig.Of[rig.RunSide]("before"), Average: rig.Of(30.0)},
			{Name: "b", Side: rig.Of[rig.RunSide]("after"), Average: rig.Of(hz)},
		}
		price, off := float64(rapid.IntRange(1, 600).Draw(t, "price")), float64(rapid.IntRange(0, 60).Draw(t, "off"))
		gain := rig.Fact[float64]{
			Known: true, Value: rapid.Float64Range(0.2, 9).Draw(t, "gain"), Tolerance: rapid.Float64Range(0, 1).Draw(t, "gain by"),
		}
		r.Ledger.Others = []rig.Alternative{{Name: "other", Price: about(price, off), Gain: gain}}
		var out finding.List
		ledger.Judge(r, proof.Link{}, &out)
		said := false
		for _, f := range out.Findings {
			said = said || f.Rule == "ledger.worse"
		}
		card := r.Card.Amount
		cheaper := price+off < float64(card.Value)-math.Min(card.Tolerance, float64(card.Value))
		better := gain.Value-math.Min(gain.Tolerance, gain.Value) > hz/30
		if math.Abs(gain.Value-math.Min(gain.Tolerance, gain.Value)-hz/30) > 1e-6 && gain.Value > 1 {
			assert.Equal(t, cheaper && better, said)
		}
		if gain.Value <= 1 {
			assert.False(t, said && hz >= 30, "what gains nothing is not better than what does")
		}
	})
	assert.Nil(t, ledger.RigGain(rig.New("nothing told"), proof.Link{Ref: coretest.Tables(t)}))
}
