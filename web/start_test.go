package web_test

import (
	"testing"

	"github.com/go-rod/rod/lib/input"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kolvan/core/rig"
)

// TestFromNothingToAVerdict: a host of the list, and Enter on what stands first,
// lead to a rig that is whole, by the keyboard alone.
func TestFromNothingToAVerdict(t *testing.T) {
	p := sitDown(t)
	p.fill("#new-name", "attic box")
	p.press(input.Enter)
	for step, sees := range []string{"Which host is it", "Which card", "Which way onto the bus", "Where does the card stand"} {
		p.sees(".start h2", sees)
		require.True(
			t, p.until(`() => document.activeElement?.matches('[data-first]')`),
			"the focus stands where the work goes on: step %d", step,
		)
		p.press(input.Enter)
	}
	p.sees(".mat figcaption", "lanes")
	assert.False(t, p.page.MustHas("section.start"))
	r := p.exported()
	assert.NotEmpty(t, r.Supplies)
	assert.True(t, r.Chamber.Open)
	for _, f := range p.page.MustElements(".finding .rule") {
		assert.NotEqual(t, "power.unfed", f.MustText())
	}
}

// TestHostThatIsNotInTheList is described by what is seen of it; nothing else is
// made up.
func TestHostThatIsNotInTheList(t *testing.T) {
	p := sitDown(t)
	p.fill("#new-name", "from the skip")
	p.press(input.Enter)
	p.sees(".start h2", "Which host is it")
	p.click(".describe .button", "that is my host")
	p.sees(".describe .fault", "one at least")
	p.find("input[name=kind][value=mini-pc]").MustClick()
	p.find("input[name=see-m2-long]").MustClick()
	p.find("input[name=see-m2-short]").MustClick()
	p.find(".describe input[name=name]").MustInput("skip box")
	p.find(".describe input[name=brick]").MustInput("19V")
	p.click(".describe .button", "that is my host")
	p.sees(".describe .fault", "Write the amps too, which stand beside the volts")
	typed := `() => ['kind', 'see-m2-long', 'see-m2-short'].map(n => document.querySelector('.describe [name=' + n + ']:checked')?.value ?? '').join() + document.querySelector('.describe [name=name]').value`
	assert.Equal(t, "mini-pc,yes,yesskip box", p.page.MustEval(typed).String(), "all else stands as it was entered")
	assert.Zero(t, len(p.page.MustElements(".trouble")), "it is said once")
	p.find(".describe input[name=brick]").MustSelectAllText().MustInput("19 V 6.3 A")
	p.click(".describe .button", "that is my host")
	p.sees(".start h2", "Which card")
	r := p.exported()
	assert.Equal(t, rig.HostKind("mini-pc"), r.Host.Kind.Value)
	require.Len(t, r.Host.Slots, 2)
	assert.False(t, r.Host.Slots[0].Lanes.Known, "nobody can see lanes")
	assert.Equal(t, "wireless card", r.Host.Slots[1].Occupant.Value)
	assert.InDelta(t, 119.7, float64(r.Supply(r.Host.Supply).Rating.Value), 1e-6)
}
