package route

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kolvan/core/assess"
	"kolvan/core/rig"
	"kolvan/core/units"
	_ "kolvan/internal/oneseed"
	"kolvan/web/phrase"
	"kolvan/web/roomtest"
)

// TestLossIsDrawnAsItIsWorkedOut: a row for every speed up to the planned one, pieces in
// a row without a gap, the budget where it ends, and nothing through a tunnel.
func TestLossIsDrawnAsItIsWorkedOut(t *testing.T) {
	r, report, ref := roomtest.Demo(t, "Dome-shed stacker")
	d := drawLoss(report, "/route/stages/1")
	require.Len(t, d.Rows, 3)
	assert.Equal(t, []string{"Gen 3", "Gen 2", "Gen 1"}, []string{d.Rows[0].Label, d.Rows[1].Label, d.Rows[2].Label})
	assert.True(t, d.Rows[0].Planned)
	chosen := 0
	for _, row := range d.Rows {
		x := lossLeft
		for _, b := range row.Bars {
			assert.InDelta(t, x, b.X, 0.01, b.Title)
			x = b.X + b.W
			chosen += phrase.OfBool(b.Chosen)
		}
		assert.Less(t, x, row.Budget, "%s is comfortable", row.Label)
		assert.Contains(t, row.Words, "comfortable")
	}
	assert.Positive(t, chosen, "the stage that is chosen is marked")
	assert.Empty(t, d.Aside, "all of it is known")

	r.Route.Stages[1].Length = rig.Fact[units.Millimetre]{}
	r.Route.Stages[1].Repeats = rig.Of(rig.Retimer)
	again := assess.Rig(r, ref)
	d = drawLoss(&again, "")
	starts := 0
	for _, b := range d.Rows[0].Bars {
		starts += phrase.OfBool(b.X == lossLeft)
	}
	assert.Equal(t, 2, starts, "behind a retimer the loss begins anew")
	assert.NotEmpty(t, d.Rows[0].Open)
	assert.Equal(t, "hatched: may be lost too", d.Aside)

	r.Host.Slots[0].Form = rig.Of(rig.Tunnel)
	again = assess.Rig(r, ref)
	assert.Nil(t, drawLoss(&again, ""))
	assert.Equal(t, "its tunnel's own", MarginFigure(again.Link))
}

func TestStrandsAreCutWhereTheyAreNotWired(t *testing.T) {
	r, report, _ := roomtest.Demo(t, "Ticket-desk all-in-one")
	d := Draw(r, report, "/route/stages/1", false)
	assert.Equal(t, 15, strings.Count(d.Cuts, "M"), "fifteen of sixteen end at the wireless slot")
	live := 0
	for _, l := range d.Lines {
		if strings.HasPrefix(l.Class, "strand gen2") {
			live += strings.Count(l.Path, "M")
		}
	}
	assert.Equal(t, 6, live, "one strand through five gaps, and the card")
	assert.Equal(t, "One lane of the card's 16: wireless slot has no more", d.Title)
	chosen := 0
	for _, b := range d.Boxes {
		if b.Chosen {
			chosen++
		}
	}
	assert.Equal(t, 1, chosen)
	for i := range d.Boxes[1:] {
		assert.Greater(t, d.Boxes[i+1].X, d.Boxes[i].X+d.Boxes[i].W, "boxes stand clear of each other")
	}
}
