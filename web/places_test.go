package web_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kolvan/core/rig"
)

// TestANewPlaceIsChosen where the route is worked on, and is gone from the choices.
func TestANewPlaceIsChosen(t *testing.T) {
	p := sitDown(t)
	p.open("/rigs/1/route?sel=/route")
	p.sees("#places-title", "Where boot drive can go")
	p.click(".choices button", "choose slot m2-b")
	p.sees(".choices tr", "slot m2-b")
	p.sees(".choices td", "planned")
	moved := p.exported().Route.Displaced
	require.Len(t, moved, 1)
	assert.Equal(t, rig.Of(rig.HomeSlot), moved[0].Home)
	assert.False(t, p.page.MustHas(".finding.blocked [data-rule='boot.displaced']"))
	p.click("[data-undo]", "undo")
	p.sees(".choices button", "choose slot m2-b")
	p.open("/rigs/3/route")
	assert.False(t, p.page.MustHas("#places-title"), "nothing sits in the long slot")
}
