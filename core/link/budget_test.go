package link

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kolvan/core/coretest"
	"kolvan/core/odds"
	"kolvan/core/rig"
	"kolvan/core/units"
)

// piece is a stage of a length between two forms, by its line.
func piece(kind rig.StageKind, from, to rig.Form, mm float64, line rig.Line) rig.Stage {
	s := rig.Stage{Name: fmt.Sprintf("%s %v", kind, mm), Kind: rig.Of(kind), Lanes: rig.Of(4), Gen: rig.Of(4),
		Length: rig.Of(units.Millimetre(mm)),
		Plug:   rig.Joint{Form: rig.Of(from)}, Socket: rig.Joint{Form: rig.Of(to)}}
	if line != "" {
		s.Line = rig.Of(line)
	}
	return s
}

// TestMarginsByHand: routes worked out by hand from the tables of loss, at Gen 1 to 4.
func TestMarginsByHand(t *testing.T) {
	soldered := piece(rig.Riser, rig.M2, rig.CardSlot, 180, rig.LineFlat)
	soldered.Soldered = rig.Of(rig.SolderedBoth)
	mismatched := piece(rig.Cable, rig.M2, rig.CardSlot, 250, rig.LineTwinax)
	mismatched.Ohm = rig.Of(100)
	for _, c := range []struct {
		name    string
		slot    rig.Form
		trace   float64
		stages  []rig.Stage
		margins [4]float64
	}{
		{"straight into a slot", rig.CardSlot, 100, nil, [4]float64{11.562, 12.053, 12.752, 11.294}},
		{"adapter, cable of half a metre, dock", rig.M2, 70, []rig.Stage{
			piece(rig.Adapter, rig.M2, rig.OCuLink, 15, ""), piece(rig.Cable, rig.OCuLink, rig.OCuLink, 500, ""), piece(rig.Dock, rig.OCuLink,
				rig.CardSlot, 40, "")},
			[4]float64{9.467, 8.418, 7.265, 1.969}},
		{
			"flat ribbon", rig.M2, 50, []rig.Stage{piece(rig.Riser, rig.M2, rig.CardSlot, 200, rig.LineFlat)},
			[4]float64{11.044, 10.817, 10.426, 5.191},
		},
		{"video-style cable", rig.M2, 60, []rig.Stage{
			piece(rig.Adapter, rig.M2, rig.Video, 25, ""), piece(rig.Cable, rig.Video, rig.Video, 600, ""),
			piece(rig.Dock, rig.Video, rig.CardSlot, 45, "")},
			[4]float64{8.722, 6.606, 2.708}},
		{"100 ohms in a channel of 85", rig.M2, 50, []rig.Stage{mismatched}, [4]float64{11.094, 11.588, 12.126, 10.448}},
		{"soldered at both ends", rig.M2, 50, []rig.Stage{soldered}, [4]float64{10.942, 10.616, 10.166, 4.596}},
	} {
		t.Run(c.name, func(t *testing.T) {
			r := rig.New("by hand")
			r.Host.Slots = []rig.Slot{{
				Name: "s", Form: rig.Of(c.slot), Lanes: rig.Of(4), Gen: rig.Of(4), Carries: rig.Of([]rig.Carried{rig.PCIe}),
				Trace: rig.Of(units.Millimetre(c.trace)),
			}}
			r.Route = rig.Route{Slot: "s", Stages: c.stages}
			r.Card.Lanes, r.Card.Gen = rig.Of(16), rig.Of(4)
			p := For(r, coretest.Tables(t))
			last := p.GenEnds.High // a video-style cable carries no Gen 4
			for gen := 1; gen <= last; gen++ {
				m := p.Margin(gen)
				require.True(t, m.Ends.Known(), "all of it is told")
				want := c.margins[gen-1]
				assert.InDelta(t, want, float64(m.Ends.High), 0.002, "Gen %d", gen)
				assert.InDelta(t, odds.Below(want/3), float64(m.Chance().High), 0.001)
				word := map[bool]string{true: "unlikely", false: "marginal"}[want < 0]
				if want >= 4.5 {
					word = "comfortable"
				} else if want >= 3 {
					word = "likely"
				}
				assert.Equal(t, word, p.Word(m))
			}
			likely := 0
			for gen := 1; gen <= last; gen++ {
				if c.margins[gen-1] >= 3 {
					likely = gen
				}
			}
			assert.Equal(t, units.Exactly(likely), p.Likely())
		})
	}
}

// TestRepeatersByHand: half the cable before a retimer and half behind it, each with the
// whole budget; a redriver gives back what was lost, 8 dB at the most, and adds 1.
func TestRepeatersByHand(t *testing.T) {
	route := func(repeats rig.Repeater) *Plan {
		cable := piece(rig.Cable, rig.M2, rig.CardSlot, 1000, rig.LineTwinax)
		cable.Repeats = rig.Of(repeats)
		r := rig.New("repeats")
		r.Host.Slots = []rig.Slot{{
			Name: "s", Form: rig.Of(rig.M2), Lanes: rig.Of(4), Gen: rig.Of(3), Carries: rig.Of([]rig.Carried{rig.PCIe}),
			Trace: rig.Of[units.Millimetre](100),
		}}
		r.Route = rig.Route{Slot: "s", Stages: []rig.Stage{cable}}
		r.Card.Lanes, r.Card.Gen = rig.Of(16), rig.Of(4)
		return For(r, coretest.Tables(t))
	}
	const before, cable, behind = 2.0 + 3.148 + 0.5, 4.8, 0.6 + 3.5 // package, board and joint; twinax; slot and card
	for repeats, margin := range map[rig.Repeater]float64{
		"none":       22 - before - cable - behind,
		rig.Retimer:  22 - max(before+cable/2, cable/2+behind),
		rig.Redriver: 22 - (before + cable - 8 + 1 + behind) - max(0, 8-(before+cable/2)),
	} {
		m := route(repeats).Margin(3)
		assert.InDelta(t, margin, float64(m.Ends.High), 0.005, repeats)
	}
}
