package web

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kolvan/core/reference"
	"kolvan/core/rig"
)

// TestUprightDrawingsSayWhatTheOthersSay: every thing and every lead stands in both, and
// nothing leaves a telephone's width.
func TestUprightDrawingsSayWhatTheOthersSay(t *testing.T) {
	for _, name := range []string{"Dome-shed stacker", "Ticket-desk all-in-one", "Projector tower", "Field kit"} {
		r, report, _ := demoRig(t, name)
		wide, tall := drawPower(r, report, "/leads/0"), drawPowerTall(r, report, "/leads/0")
		things := func(d *powerDrawing) (list []string) {
			for _, b := range d.Boxes {
				list = append(list, b.Sel)
				assert.LessOrEqual(t, b.X+b.W, 872.0)
			}
			return list
		}
		assert.ElementsMatch(t, things(wide), things(tall), name)
		assert.Equal(t, len(wide.Bands), len(tall.Bands), "%s: leads, and what needs none", name)
		for _, b := range tall.Boxes {
			assert.LessOrEqual(t, b.X+b.W, tallWidth)
			assert.LessOrEqual(t, b.Y+b.H, tall.Height)
		}
		for _, l := range tall.Labels {
			assert.LessOrEqual(t, l.X+l.W/2, tallWidth+1, l.Text)
		}
		across, down := drawRoute(r, report, "/card", false), drawRouteTall(r, report, "/card", false)
		assert.Equal(t, strings.Count(across.Cuts, "M"), strings.Count(down.Cuts, "M"), name)
		require.Len(t, down.Boxes, len(across.Boxes))
		assert.True(t, down.Boxes[len(down.Boxes)-1].Chosen)
	}
	r, report, _ := demoRig(t, "Dome-shed stacker")
	r.Supplies = nil
	assert.Nil(t, drawPowerTall(r, report, ""))
	report.Link.Elements = nil
	assert.Nil(t, drawRouteTall(r, report, "", false))
}

// TestFitStandsUpright: the views of a case, and of a card that stands free, one below the other
// within a telephone's width, as large as it allows; a card that came in its box has none.
func TestFitStandsUpright(t *testing.T) {
	ref, err := reference.Load()
	require.NoError(t, err)
	for _, name := range []string{"Dome-shed stacker", "Projector tower"} {
		r, report, _ := demoRig(t, name)
		wide, tall := drawFit(r, report, nil, ref, "/card", false), drawFitTall(r, report, ref, "/card", false)
		require.Len(t, tall.Views, len(wide.Views))
		assert.Equal(t, wide.Title, tall.Title)
		assert.Equal(t, wide.Open, tall.Open)
		for i, v := range tall.Views {
			assert.Len(t, v.Boxes, len(wide.Views[i].Boxes), "%s: %s", name, v.Name)
			assert.LessOrEqual(t, v.X+v.W, tallWidth, "%s: %s", name, v.Name)
			assert.LessOrEqual(t, v.Y+v.H, tall.Height, "%s: %s", name, v.Name)
			assert.InDelta(t, fitMargin, v.X, 1, "%s: %s", name, v.Name)
		}
		assert.Greater(t, tall.Views[0].W, tallWidth/2)
	}
	r, report, _ := demoRig(t, "Dome-shed stacker")
	r.Card.BuiltIn = rig.Of(true)
	assert.Nil(t, drawFitTall(r, report, ref, "", false))
}

// TestManyLeadsAreLabelledWhereItMatters: of more than a few only those near their limit, and
// the chosen one, bear their figure.
func TestManyLeadsAreLabelledWhereItMatters(t *testing.T) {
	r, report, _ := demoRig(t, "Dome-shed stacker")
	assert.Len(t, drawPower(r, report, "").Labels, 2)
	for len(r.Leads) <= fewLeads {
		r.Leads, report.Power.Leads = append(r.Leads, r.Leads[1]), append(report.Power.Leads, report.Power.Leads[1])
	}
	texts := func(sel string) (list []string) {
		for _, l := range drawPower(r, report, sel).Labels {
			list = append(list, l.Text)
		}
		return list
	}
	assert.Equal(t, []string{"6.4 of 4.5 A"}, texts(""))
	assert.Equal(t, []string{"6.4 of 4.5 A", "9.6 of 12.5 A"}, texts("/leads/1"))
}

// TestGuideStandsInTheApplication: each page with its question and its picture, no link into
// documents that are not there, and no other file.
func TestGuideStandsInTheApplication(t *testing.T) {
	assert.Equal(t, "see [x](y) the words", string(documentLinks.ReplaceAll([]byte("see [x](y) [the words](../instruments.md#a)"), []byte("$1"))))
}
