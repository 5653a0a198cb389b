package web_test

import (
	"net/http"
	"testing"

	"github.com/go-rod/rod/lib/input"
	"github.com/go-rod/rod/lib/proto"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kolvan/core/rig"
)

// TestSlotsArePlacedOnTheBoard by the pointer, on either side, and by the arrow keys;
// a press without moving chooses one.
func TestSlotsArePlacedOnTheBoard(t *testing.T) {
	p := sitDown(t)
	p.open("/rigs/1/survey")
	p.click(".board .node", "m2-b")
	p.sees(".editor h2", "slot: m2-b")
	before := p.exported().Host.Slots[1]
	box := p.find("#board-1 rect").MustShape().Box()
	mouse := p.page.Mouse
	mouse.MustMoveTo(box.X+20, box.Y+20)
	mouse.MustDown(proto.InputMouseButtonLeft)
	mouse.MustMoveTo(box.X-200, box.Y+30)
	mouse.MustMoveTo(box.X-300, box.Y+60)
	mouse.MustUp(proto.InputMouseButtonLeft)
	p.sees(".kept", "place m2-b on the board")
	slot := p.exported().Host.Slots[1]
	assert.Equal(t, rig.Side("underside"), before.Side.Value)
	assert.Equal(t, rig.Side("top"), slot.Side.Value)
	assert.NotEqual(t, before.BoardX, slot.BoardX)

	require.NoError(t, p.find("#board-1").Focus())
	p.press(input.ArrowRight)
	require.True(t, p.until(`() => document.querySelector('.kept').textContent.includes('Change 3')`))
	assert.Greater(t, p.exported().Host.Slots[1].BoardX.Value, slot.BoardX.Value)

	p.click("#condition-fold summary", "Condition")
	p.click(".survey .button", "what to look at on a used machine")
	p.sees("#condition-fold ul", "not swollen")
	p.click("#listed-fold summary", "Listed")
	p.sees("#listed-fold table", "Gen 4")

	app, _ := bench(t)
	c := newClient(t, app)
	for _, wrong := range [][]string{
		{"slot", "9", "x", "1", "y", "1"}, {"slot", "0", "x", "NaN", "y", "1"}, {"slot", "0", "x", "1e99", "y", "1"},
	} {
		status, page := c.post("/rigs/1/board", append(wrong, "rev", c.rev(1))...)
		assert.Equal(t, http.StatusUnprocessableEntity, status)
		assert.Contains(t, page, "is not accepted")
	}
}

// TestHostsTriedWithTheSameParts: one is set aside and comes back whole; what another has is
// not lost either.
func TestHostsTriedWithTheSameParts(t *testing.T) {
	app, s := bench(t)
	c := newClient(t, app)
	first := kept(t, s, 1).Host
	page := c.edit(1, "host-aside")
	assert.Contains(t, page, "Which host is it")
	assert.Len(t, kept(t, s, 1).Tried, 1)
	c.edit(1, "set", "path", "/tried_hosts/0/outcome", "value", "limits")
	c.edit(1, "describe", "name", "another", "kind", "mini-pc", "see-m2-long", "yes")
	_, page = c.get("/rigs/1/survey")
	assert.Contains(t, saidBy(page), "it works within limits")
	c.edit(1, "host-plan", "tried", "0")
	r := kept(t, s, 1)
	assert.Equal(t, first, r.Host)
	require.Len(t, r.Tried, 1)
	assert.Equal(t, "another", r.Tried[0].Host.Name)
	status, _ := c.post("/rigs/1/host-plan", "tried", "7", "rev", c.rev(1))
	assert.Equal(t, http.StatusUnprocessableEntity, status)
}

// TestPageToTheSeller: what is worse than listed, and what was found broken; nothing else of
// the rig.
func TestPageToTheSeller(t *testing.T) {
	app, _ := bench(t)
	c := newClient(t, app)
	c.edit(
		1,
		"patch",
		"patch",
		`[{"op":"add","path":"/host/condition","value":[{"name":"lid","state":"broken"},{"name":"fans","state":"fine"}]},
		 {"op":"add","path":"/host/listed","value":{"panel":"works","screens":9}},{"op":"add","path":"/host/panel","value":"dead"}]`,
		"says",
		"looked",
	)
	status, page := c.get("/rigs/1/claim.md")
	assert.Equal(t, http.StatusOK, status)
	assert.Contains(t, page, "| m2-a, generation | Gen 4 | Gen 3 |")
	assert.Contains(t, page, "| lid |")
	assert.Contains(t, page, "| its panel | works | dead |")
	assert.Contains(t, page, "| video outputs | 9 |")
	assert.NotContains(t, page, "fans")
	assert.NotContains(t, page, "Corvane")
	_, page = c.get("/rigs/3/claim.md")
	assert.Contains(t, page, "Nothing that was found is worse")
}
