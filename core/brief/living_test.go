package brief_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"kolvan/core/brief"
	"kolvan/core/finding"
	"kolvan/core/rig"
	"kolvan/core/units"
	_ "kolvan/internal/oneseed"
)

// loudness is how badly a rule of living speaks of a rig: 0 for silence.
func loudness(r *rig.Rig, rule string) int {
	var out finding.List
	brief.Judge(r, &out)
	worst := 0
	for _, f := range out.Findings {
		if f.Rule == rule {
			worst = max(worst, 1+int(f.Level))
		}
	}
	return worst
}

// TestLouderIsNeverQuieter: more noise, more supplies, fewer plugs, longer to set up: none of
// it lets a rule fall silent; and what is not told is never better than the best it may be.
func TestLouderIsNeverQuieter(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		db := func(name string) rig.Fact[float64] {
			if rapid.IntRange(0, 2).Draw(t, name+" told") == 0 {
				return rig.Fact[float64]{}
			}
			return rig.Of(rapid.Float64Range(0, 70).Draw(t, name))
		}
		r := rig.New("rig")
		r.Host, r.Card = rig.Host{Name: "host", Noise: db("host")}, rig.Card{Name: "card", Noise: db("card")}
		r.Supplies = []rig.Supply{{Name: "supply", Kind: rig.Of(rig.SupplyKind("atx")), Noise: db("supply")}}
		r.Brief.Living = rig.Living{
			Noise: rig.Of(rapid.Float64Range(20, 60).Draw(t, "allowed")), Plugs: rig.Of(rapid.IntRange(0, 4).Draw(t, "plugs")),
			Carried: rig.Of(true), SetUp: rig.Of(rapid.Float64Range(1, 20).Draw(t, "most")),
		}
		r.Brief.Travel.Minutes = rig.Of(rapid.Float64Range(1, 20).Draw(t, "takes"))
		was := map[string]int{}
		for _, rule := range []string{"live.noise", "live.plugs", "live.carry"} {
			was[rule] = loudness(r, rule)
		}
		if r.Card.Noise.Known {
			louder := *r
			louder.Card.Noise.Value += rapid.Float64Range(0, 30).Draw(t, "louder")
			assert.GreaterOrEqual(t, loudness(&louder, "live.noise"), was["live.noise"])
		}
		more := *r
		more.Supplies = append(append([]rig.Supply(nil), r.Supplies...), rig.Supply{Name: "another", Kind: rig.Of(rig.Brick)})
		assert.GreaterOrEqual(t, loudness(&more, "live.plugs"), was["live.plugs"])
		fewer := *r
		fewer.Brief.Living.Plugs.Value--
		assert.GreaterOrEqual(t, loudness(&fewer, "live.plugs"), was["live.plugs"])
		slower := *r
		slower.Brief.Travel.Minutes.Value += 5
		assert.GreaterOrEqual(t, loudness(&slower, "live.carry"), was["live.carry"])
		quiet := *r
		quiet.Card.Noise = rig.Of(0.0)
		unknown := *r
		unknown.Card.Noise = rig.Fact[float64]{}
		assert.GreaterOrEqual(t, loudness(&unknown, "live.noise"), loudness(&quiet, "live.noise"), "not told is never fine")
	})
}

// TestPaidCountsAgainstTheBudget: what was owned before does not, what was sold gives some of
// it back.
func TestPaidCountsAgainstTheBudget(t *testing.T) {
	r := rig.New("rig")
	price := func(v float64) rig.Fact[units.Money] { return rig.Of(units.Money(v)) }
	r.Card = rig.Card{Name: "card", Price: rig.Price{Amount: price(100)}}
	r.Brief.Budget = price(130)
	assert.Zero(t, loudness(r, "brief.budget"))
	r.Ledger.Lines = []rig.LedgerLine{{Name: "paste", Price: price(31), State: rig.Of(rig.LinePaid)}}
	assert.NotZero(t, loudness(r, "brief.budget"))
	r.Ledger.Lines[0].State = rig.Of(rig.LineOwned)
	assert.Zero(t, loudness(r, "brief.budget"))
	r.Ledger.Lines[0].State = rig.Of(rig.LinePaid)
	r.Ledger.Lines = append(r.Ledger.Lines, rig.LedgerLine{Name: "the old card", Price: price(40), State: rig.Of(rig.LineSold)})
	assert.Zero(t, loudness(r, "brief.budget"))
	r.Ledger.Lines = append(r.Ledger.Lines, rig.LedgerLine{Name: "card", Part: "card", State: rig.Of(rig.LinePaid)})
	assert.Zero(t, loudness(r, "brief.budget"), "paid or to pay, it is one card")
	r.Ledger.Lines[1].State = rig.Of(rig.LineReturned)
	assert.NotZero(t, loudness(r, "brief.budget"))
}
