package web_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"kolvan/core/rig"
)

// TestAWholeWayIsTakenAtOnce: what counts decides what stands first, one press brings
// stages, new places, supply and leads, and one takes them back.
func TestAWholeWayIsTakenAtOnce(t *testing.T) {
	p := sitDown(t)
	p.open("/rigs/1/route")
	before := p.exported()
	p.click(".mat-acts .button", "all ways from here")
	p.sees(".ways h2", "Ways from Cairn Small Desk to Corvane 16G")
	p.sees(".way:first-of-type .way-name", "m2-a")
	p.sees(".fails", "which takes 12 V")

	p.click("#weigh-lanes", "lanes")
	p.sees("#weigh-lanes", "weighs 0 of 3")
	p.sees(".way:first-of-type .way-name", "m2-b")
	p.settle()
	p.page.MustReload()
	p.sees(".way:first-of-type .way-feed", "nothing moves")

	p.click(".way:first-of-type .button", "take")
	p.sees(".mat figcaption", "Processor to card")
	r := p.exported()
	assert.Equal(t, "m2-b", r.Route.Slot)
	assert.Empty(t, r.Route.Displaced)
	assert.NotEmpty(t, r.Leads)
	assert.Equal(t, rig.Of(rig.Dock).Value, r.Route.Stages[0].Kind.Value)
	p.click("[data-undo]", "undo")
	p.sees(".mat figcaption", "4 lanes, Gen 3")
	assert.Equal(t, before.Route, p.exported().Route)
}
