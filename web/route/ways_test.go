package route

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kolvan/core/parts"
	"kolvan/core/ways"
	"kolvan/web/roomtest"
)

// TestRowsOfWays say what a way gives, what it moves, feeds and costs, and which is the
// plan as it stands.
func TestRowsOfWays(t *testing.T) {
	r, _, ref := roomtest.Demo(t, "Dome-shed stacker")
	list, err := parts.Builtin()
	require.NoError(t, err)
	bins, err := parts.Bins(list)
	require.NoError(t, err)
	answer, err := ways.Search(t.Context(), ways.Question{Rig: r, Parts: bins, Weights: ways.Usual}, ref)
	require.NoError(t, err)
	first := rowOf(&answer.Ways[0], r)
	assert.Equal(t, "m2-a", first.Name, "the host is not named where there is one")
	assert.Equal(t, "3.22", first.Net)
	assert.Contains(t, first.Link, "x4 Gen 3, comfortable +")
	assert.Equal(t, "boot drive → m2-b", first.Moves)
	assert.Contains(t, first.Power, "% of Lantern")
	assert.Contains(t, first.Cost, "kr")
	assert.False(t, first.Here)

	way := answer.Ways[0]
	assert.True(t, rowOf(&way, way.Rig).Here)
	low, high := 80.0, 90.0
	way.ToBuy = [2]*float64{&low, &high}
	assert.Equal(t, "80–90 kr", rowOf(&way, r).Cost)
	way.ToBuy[1] = nil
	assert.Equal(t, "from 80 kr", rowOf(&way, r).Cost)
	way.Host = "another"
	assert.Equal(t, "another, m2-a", rowOf(&way, r).Name)
}

// TestWeightsGoRound: a press makes a weight one more, and nothing after the most; the
// others and what else is looked at stay.
func TestWeightsGoRound(t *testing.T) {
	buttons := weightButtons(ways.Usual, func(w ways.Weights) string { return waysURL(7, w, waysAlso{own: true}) })
	require.Len(t, buttons, 5)
	assert.Equal(t, "lanes", buttons[0].Label)
	assert.Equal(t, [mostBars]bool{true, true, true}, buttons[0].Bars)
	assert.Equal(
		t, "/rigs/7/route?sel=/ways&weigh=lanes%3D0%2Ccertainty%3D2%2Ccost%3D1%2Creversible%3D2%2Cnoise%3D1&own=yes",
		buttons[0].URL,
	)
	assert.Contains(t, buttons[2].URL, "cost%3D2")
	assert.Equal(t, "1,234,567 and 12 and 100", grouped(1234567)+" and "+grouped(12)+" and "+grouped(100))
}
