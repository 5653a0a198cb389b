package web_test

import (
	"net/http"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/go-rod/rod/lib/input"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kolvan/core/rig"
	"kolvan/instruments"
)

// TestAWholeWayIsTakenAtOnce: what counts decides what stands first, one press brings
// stages, new places, supply and leads, and one takes them back.
func TestAWholeWayIsTakenAtOnce(t *testing.T) {
	p := sitDown(t)
	p.open("/rigs/1/route")
	before := p.exported()
	p.click(".controls a", "all ways from here")
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
	p.sees(".mat figcaption", "lanes")
	r := p.exported()
	assert.Equal(t, "m2-b", r.Route.Slot)
	assert.Empty(t, r.Route.Displaced)
	assert.NotEmpty(t, r.Leads)
	assert.Equal(t, rig.Of(rig.Dock).Value, r.Route.Stages[0].Kind.Value)
	p.click("[data-undo]", "undo")
	p.sees(".mat figcaption", "Four lanes")
	assert.Equal(t, before.Route, p.exported().Route)
}

// TestWaysByKeyboardAlone: what counts is changed, another host looked at, a way taken,
// without a mouse; a stranger's weights in the address are refused with a word.
func TestWaysByKeyboardAlone(t *testing.T) {
	p := sitDown(t)
	p.open("/rigs/1/route?sel=/ways")
	p.tabTo("#weigh-cost", "cost")
	p.press(input.Enter)
	p.sees("#weigh-cost", "weighs 2 of 3")
	p.tabTo("#weigh-hosts", "other hosts too")
	p.press(input.Enter)
	p.sees("#weigh-hosts.strong", "other hosts too")
	p.sees(".way-name", "Twig Board 8")
	p.tabTo(".way .button", "Twig Board 8")
	p.press(input.Enter)
	p.sees(".mat figcaption", "lanes")
	r := p.exported()
	assert.Equal(t, "Twig Board 8", r.Host.Name)
	assert.Equal(t, "Brick 12 V 10 A", r.Host.Supply, "a host brings its own supply")

	app, _ := bench(t)
	c := newClient(t, app)
	for address, says := range map[string]string{
		"weigh=speed%3D3": "lanes, certainty, cost, reversible or noise", "weigh=lanes%3D99": "a number from 0 to 10",
	} {
		status, page := c.get("/rigs/1/route?sel=/ways&" + address)
		assert.Equal(t, http.StatusUnprocessableEntity, status)
		assert.Contains(t, page, says)
	}
	_, page := c.get("/rigs/1/route?sel=/ways&own=yes")
	assert.Contains(t, page, "of what you own")
	assert.Contains(t, page, "none works")
	assert.Contains(t, page, "The best that fail, and why")
}

// TestAListingIsPasted by hand, and dropped as a file.
func TestAListingIsPasted(t *testing.T) {
	var listing strings.Builder
	bus := instruments.Bus{PortLanes: 4, PortGen: 3, CardLanes: 8, CardGen: 5, Lanes: 2, Gen: 3, Payload: 128}
	require.NoError(t, instruments.WriteListing(&listing, bus, "loaded", "none"))
	p := sitDown(t)
	p.open("/rigs/1/route")
	p.click(".controls a", "System reads")
	p.find("#reading-text").MustInput(listing.String())
	p.click(".paste .button", "read it")
	p.sees(".figures", "x2 Gen 3")
	p.sees(".read-says", "read at x2; x4 is planned")
	p.click(".feed .button", "keep it with the route")
	p.sees(".editor h2", "reading")
	readings := p.exported().Route.Readings
	require.Len(t, readings, 1)
	assert.Equal(t, rig.Fact[int]{Known: true, Value: 2, Source: rig.Measured}, readings[0].Width)

	file := filepath.Join(t.TempDir(), "current_link_width")
	require.NoError(t, os.WriteFile(file, []byte("1\n"), 0o600))
	p.open("/rigs/1/reading")
	p.find(".paste input[type=file]").MustSetFiles(file)
	p.click(".paste .button", "read it")
	p.sees(".figures", "x1")
}
