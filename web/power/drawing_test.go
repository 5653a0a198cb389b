package power

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"kolvan/core/assess"
	"kolvan/core/rig"
	"kolvan/web/roomtest"
)

// TestManyLeadsAreLabelledWhereItMatters: of more than a few only those near their limit, and
// the chosen one, bear their figure.
func TestManyLeadsAreLabelledWhereItMatters(t *testing.T) {
	r, report, _ := roomtest.Demo(t, "Dome-shed stacker")
	assert.Len(t, Draw(r, report, "").Labels, 2)
	for len(r.Leads) <= fewLeads {
		r.Leads, report.Power.Leads = append(r.Leads, r.Leads[1]), append(report.Power.Leads, report.Power.Leads[1])
	}
	texts := func(sel string) (list []string) {
		for _, l := range Draw(r, report, sel).Labels {
			list = append(list, l.Text)
		}
		return list
	}
	assert.Equal(t, []string{"6.4 of 4.5 A"}, texts(""))
	assert.Equal(t, []string{"6.4 of 4.5 A", "9.6 of 12.5 A"}, texts("/leads/1"))
}

func TestNetsAreLitOneAtATime(t *testing.T) {
	r, report, _ := roomtest.Demo(t, "Dome-shed stacker")
	d := Draw(r, report, "")
	d.nets(r, report.Power, "live/1")
	labels := map[string]bool{}
	for _, chip := range d.Nets {
		labels[chip.Label] = chip.Here
	}
	assert.Equal(t, map[string]bool{"supply of Lantern 550": true, "3.3 V of Lantern 550": false, "ground, one for all": false}, labels)
	for _, b := range d.Boxes {
		lit := b.Sel != "/supplies/0" && b.Sel != "/host"
		assert.Equal(t, lit, strings.HasSuffix(b.Class, " lit"), "%s is %s", b.Sel, b.Class)
	}
	for _, b := range d.Bands {
		assert.Equal(t, b.Sel != "/host", strings.HasSuffix(b.Class, " lit"), b.Name)
	}
}

// TestChainsAreDrawnJoined: a lead that goes on in another is no loose end.
func TestChainsAreDrawnJoined(t *testing.T) {
	r, _, ref := roomtest.Demo(t, "Dome-shed stacker")
	r.Leads[1].To = []rig.LeadEnd{{At: "x", Connector: rig.Of[rig.Connector]("card-8")}}
	report := assess.Rig(r, ref)
	assert.Len(t, Draw(r, &report, "").Loose, 1)
	r.Leads = append(
		r.Leads,
		rig.Lead{
			Name: "on", From: []rig.LeadEnd{{Part: r.Leads[1].Name, At: "x", Connector: rig.Of[rig.Connector]("card-8")}},
			To: []rig.LeadEnd{{Part: rig.CardPart, At: "A", Connector: rig.Of[rig.Connector]("card-8")}},
		},
	)
	report = assess.Rig(r, ref)
	d := Draw(r, &report, "")
	assert.Empty(t, d.Loose)
	for i, a := range d.Labels {
		for _, b := range d.Labels[:i] {
			assert.False(t, a.X-b.X < 90 && b.X-a.X < 90 && a.Y-b.Y < 20 && b.Y-a.Y < 20, "%q stands on %q", a.Text, b.Text)
		}
	}
}

func TestBandsAreAsThickAsTheirAmps(t *testing.T) {
	r, report, _ := roomtest.Demo(t, "Dome-shed stacker")
	d := Draw(r, report, "/leads/0")
	bands := map[string]band{}
	for _, b := range d.Bands {
		bands[b.Name] = b
	}
	disk, card := bands["disk lead to the dock"], bands["card lead"]
	assert.Equal(t, "over", disk.Class)
	assert.True(t, disk.Chosen)
	assert.Greater(t, disk.Load, disk.May, "more than it may carry")
	assert.Equal(t, "live", card.Class)
	assert.InDelta(t, card.Load/card.May, 115.0/150, 1e-6)
	assert.Contains(t, bands, "through the slot")
	for i, a := range d.Labels {
		for _, b := range d.Labels[:i] {
			apart := a.X-b.X >= 90 || b.X-a.X >= 90 || a.Y-b.Y >= 20 || b.Y-a.Y >= 20
			assert.True(t, apart, "%s stands on %s", a.Text, b.Text)
		}
	}
}

// TestLoadStepsLoadTheDrawing: a band of the card's spikes makes the leads of the
// card thicker and says what the supply rides out.
func TestLoadStepsLoadTheDrawing(t *testing.T) {
	r, report, _ := roomtest.Demo(t, "Dome-shed stacker")
	sustained, spike := Draw(r, report, ""), Draw(r, report, "")
	spike.load(r, report, "0.1")
	assert.Equal(t, "sustained", sustained.Steps[0].Label)
	assert.True(t, spike.Steps[4].Here)
	assert.Contains(t, spike.Rides, "rides out 715–825 W")
	for i := range sustained.Bands {
		if sustained.Bands[i].Name == "card lead" {
			assert.Greater(t, spike.Bands[i].Load, sustained.Bands[i].Load)
		}
	}
}
