package ledger_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"kolvan/core/brief"
	"kolvan/core/finding"
	"kolvan/core/ledger"
	"kolvan/core/rig"
	"kolvan/core/units"
)

func price(amount float64, owned rig.Fact[bool]) rig.Price {
	return rig.Price{Amount: rig.Of(units.Money(amount)), Owned: owned}
}

func TestToPayCountsWhatIsNotKnownToBeOwned(t *testing.T) {
	r := rig.New("priced")
	r.Host = rig.Host{Name: "host", Price: price(300, rig.Of(true))}
	r.Card = rig.Card{Name: "card", Price: price(200, rig.Of(false))}
	r.Route.Stages = []rig.Stage{{Name: "dock", Price: price(50, rig.Fact[bool]{})}}
	r.Supplies = []rig.Supply{{Name: "supply"}, {Name: "mine", Price: rig.Price{Owned: rig.Of(true)}}}
	r.Leads = []rig.Lead{{Name: "lead", Price: price(5.5, rig.Fact[bool]{})}}
	sum, open := ledger.ToBuy(r)
	assert.Equal(t, units.Exactly[units.Money](255.5), sum)
	assert.Equal(t, []string{"/supplies/0/price"}, open, "a price is missing where something must be bought")
}

// TestPricesAreRanges: a tolerance is how far a price goes either way, never below
// nothing; what is owned costs nothing, and a switch-on board counts where it is told.
func TestPricesAreRanges(t *testing.T) {
	about := func(amount, by float64) rig.Price {
		return rig.Price{Amount: rig.Fact[units.Money]{Known: true, Value: units.Money(amount), Tolerance: by}}
	}
	r := rig.New("priced")
	r.Card = rig.Card{Name: "card", Price: about(100, 20)}
	r.Supplies = []rig.Supply{{
		Name: "supply", Price: about(10, 40), TurnOn: rig.Of(rig.TurnOnSwitch), Board: rig.SwitchBoard{Price: about(9, 4)},
	}}
	ends, open := ledger.ToBuy(r)
	assert.Empty(t, open)
	assert.Equal(t, units.Between[units.Money](85, 183), ends)

	r.Supplies[0].TurnOn = rig.Of(rig.TurnOnDock)
	ends, _ = ledger.ToBuy(r)
	assert.Equal(t, units.Between[units.Money](80, 170), ends, "the dock switches it on: no board is bought")
	r.Supplies[0].Owned = rig.Of(true)
	ends, _ = ledger.ToBuy(r)
	assert.Equal(t, units.Between[units.Money](80, 120), ends)

	says := func(budget float64) (level string) {
		r.Brief.Budget = rig.Of(units.Money(budget))
		var out finding.List
		brief.Judge(r, &out)
		for _, f := range out.Findings {
			level += f.Level.String() + " " + f.Where
		}
		return level
	}
	assert.Empty(t, says(120))
	assert.Equal(t, "unknown /card/price", says(119), "it hangs on the price that is known least")
	assert.Equal(t, "unknown /card/price", says(80))
	assert.Equal(t, "risk /brief/budget", says(79))
}
