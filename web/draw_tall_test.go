package web

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kolvan/web/draw"
	"kolvan/web/power"
	"kolvan/web/roomtest"
	"kolvan/web/route"
)

// TestUprightDrawingsSayWhatTheOthersSay: every thing and every lead stands in both, and
// nothing leaves a telephone's width.
func TestUprightDrawingsSayWhatTheOthersSay(t *testing.T) {
	for _, name := range []string{"Dome-shed stacker", "Ticket-desk all-in-one", "Projector tower", "Field kit"} {
		r, report, _ := roomtest.Demo(t, name)
		wide, tall := power.Draw(r, report, "/leads/0"), power.DrawTall(r, report, "/leads/0")
		things := func(d *power.Drawing) (list []string) {
			for _, b := range d.Boxes {
				list = append(list, b.Sel)
				assert.LessOrEqual(t, b.X+b.W, 872.0)
			}
			return list
		}
		assert.ElementsMatch(t, things(wide), things(tall), name)
		assert.Equal(t, len(wide.Bands), len(tall.Bands), "%s: leads, and what needs none", name)
		for _, b := range tall.Boxes {
			assert.LessOrEqual(t, b.X+b.W, draw.TallWidth)
			assert.LessOrEqual(t, b.Y+b.H, tall.Height)
		}
		for _, l := range tall.Labels {
			assert.LessOrEqual(t, l.X+l.W/2, draw.TallWidth+1, l.Text)
		}
		across, down := route.Draw(r, report, "/card", false), route.DrawTall(r, report, "/card", false)
		assert.Equal(t, strings.Count(across.Cuts, "M"), strings.Count(down.Cuts, "M"), name)
		require.Len(t, down.Boxes, len(across.Boxes))
		assert.True(t, down.Boxes[len(down.Boxes)-1].Chosen)
	}
	r, report, _ := roomtest.Demo(t, "Dome-shed stacker")
	r.Supplies = nil
	assert.Nil(t, power.DrawTall(r, report, ""))
	report.Link.Elements = nil
	assert.Nil(t, route.DrawTall(r, report, "", false))
}

// TestGuideStandsInTheApplication: each page with its question and its picture, no link into
// documents that are not there, and no other file.
func TestGuideStandsInTheApplication(t *testing.T) {
	assert.Equal(t, "see [x](y) the words", string(documentLinks.ReplaceAll([]byte("see [x](y) [the words](../instruments.md#a)"),
		[]byte("$1"))))
}
