package web

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"kolvan/core/assess"
	"kolvan/core/power"
	"kolvan/core/rig"
	"kolvan/demo"
	_ "kolvan/internal/oneseed"
	"kolvan/web/phrase"
	powerroom "kolvan/web/power"
	"kolvan/web/room"
	"kolvan/web/roomtest"
	"kolvan/web/route"
	"kolvan/web/sheet"
)

// TestOneFigureForOneThing: whatever of a rig is told, what limits it reads alike in the
// line of stations, the figures of a station, its drawing, the comparison and the sheet.
func TestOneFigureForOneThing(t *testing.T) {
	t.Parallel()
	ref := roomtest.Tables(t)
	rigs, err := demo.Rigs()
	require.NoError(t, err)
	rapid.Check(t, func(rt *rapid.T) {
		drawn := rapid.SampledFrom(rigs).Draw(rt, "rig")
		doc, err := rig.Encode(drawn)
		require.NoError(rt, err)
		r, err := rig.Decode(doc)
		require.NoError(rt, err)
		for range rapid.IntRange(0, 3).Draw(rt, "forgets") {
			var told []string
			rig.Walk(r, func(n rig.Node) {
				if n.Spec.Fact && n.Known() && !n.List {
					told = append(told, n.Path())
				}
			})
			require.NoError(rt, rig.Set(r, rapid.SampledFrom(told).Draw(rt, "forgotten"), ""))
		}
		report := assess.Rig(r, ref)
		net, share := phrase.Figure(&report, "link.net_gb_s", phrase.Rate), phrase.Figure(&report, "power.supply_share", power.Percent)
		s, compared := sheet.Make(r, &report, ref, false), (&App{ref: ref}).comparedCells(r, &report)
		if net != phrase.Unknown && !report.Link.None {
			assert.Equal(rt, net, route.Figures(&report)[0].Value)
			assert.Contains(rt, route.Draw(r, &report, "", false).Aside, net)
			assert.Contains(rt, strings.Join(s.Lanes, " "), net)
			assert.Equal(rt, net, compared[4].Text)
			assert.Contains(rt, strings.Join(s.Lanes, " "), strings.TrimPrefix(phrase.Link(&report), "x")[:1])
		}
		i := report.Power.CardSupply()
		if i < 0 {
			return
		}
		load, drawing := phrase.Watts(report.Power.Supplies[i].Load), drawnWords(powerroom.Draw(r, &report, ""))
		assert.Equal(rt, []string{load, share}, []string{powerroom.Figures(r, &report)[0].Value, powerroom.Figures(r, &report)[1].Value})
		assert.Equal(rt, []string{load, share}, []string{s.Supplies[i][1], s.Supplies[i][3]})
		assert.Equal(rt, share, powerroom.Room.Figure(&room.Desk{Rig: r, Report: &report}))
		assert.Equal(rt, share, compared[7].Text)
		assert.Contains(rt, drawing, load)
	})
}

// drawnWords are all the words of the power drawing.
func drawnWords(d *powerroom.Drawing) string {
	words := d.Title
	for _, b := range d.Boxes {
		for _, line := range b.Texts {
			words += " | " + line.Text
		}
	}
	return words
}
