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
