package power

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kolvan/core/assess"
	"kolvan/core/rig"
	"kolvan/web/room"
	"kolvan/web/roomtest"
)

func TestFacesOpenPinOnPin(t *testing.T) {
	r, report, _ := roomtest.Demo(t, "Dome-shed stacker")
	opened := joints(r, report, "/leads/1")
	require.Len(t, opened, 2)
	socket, plug := opened[0].Faces[0], opened[0].Faces[1]
	assert.Equal(t, pin{Number: 1, Name: "+12", Class: "yellow", Touches: 1}, socket.Rows[1][0], "the first row is below")
	assert.Equal(t, pin{Number: 5, Name: "GND", Class: "black", Touches: 5}, socket.Rows[0][0], "the latch is beside the last")
	assert.Equal(t, 4, plug.Rows[1][0].Number, "the plug is the mirror of its socket")
	assert.Nil(t, joints(r, report, "/card"))

	r.Leads[1].From[0].At, r.Leads[1].From[0].Connector = "processor", rig.Of(rig.Connector("card-8"))
	again := assess.Rig(r, roomtest.Tables(t))
	wrong := joints(r, &again, "/leads/1")[0]
	assert.Contains(t, wrong.Says, "6 contacts")
	assert.True(t, wrong.Faces[0].Rows[1][0].Bad)
	require.Len(t, wrong.Drawn.Joins, 8, "every contact is joined with the one it touches")
	bad := 0
	for _, j := range wrong.Drawn.Joins {
		if j.Bad {
			bad++
		}
	}
	assert.Equal(t, 6, bad)
	assert.True(t, wrong.Faces[0].Rows[1][0].Decides, "what meets the wrong thing decides")

	overloaded := joints(r, report, "/leads/0")[0]
	assert.Equal(t, "Connector carries more than it may", overloaded.Rules)
	for _, f := range overloaded.Faces {
		for _, p := range f.Rows[0] {
			assert.Equal(t, p.Name == "+12", p.Decides, "contact %d", p.Number)
		}
	}
	below := overloaded.Drawn.Pins[len(overloaded.Faces[0].Rows[0]):]
	assert.Equal(t, overloaded.Drawn.Pins[0].X, below[0].X, "a long row stands under the one it touches")
	assert.Equal(t, overloaded.Drawn.Pins[0].Number, below[0].Number)
}

// TestFacesOfEveryKind: whatever goes into itself is drawn, every contact inside its
// shell and joined with the one it touches, the ways nested and not crossed.
func TestFacesOfEveryKind(t *testing.T) {
	r, _, ref := roomtest.Demo(t, "Dome-shed stacker")
	for _, word := range rig.Connector("").Words().All() {
		c := rig.Connector(word)
		r.Leads = []rig.Lead{{
			Name: "lead", From: []rig.LeadEnd{{Part: r.Supplies[1].Name, Connector: rig.Of(c)}},
			To: []rig.LeadEnd{{At: "free", Connector: rig.Of(c)}},
		}}
		report := assess.Rig(r, ref)
		opened := joints(r, &report, "/leads/0")
		require.Len(t, opened, 2)
		if word == "proprietary" {
			assert.Nil(t, opened[0].Drawn)
			continue
		}
		d, pins := opened[0].Drawn, len(report.Power.Pins(c))
		require.NotNil(t, d, word)
		assert.LessOrEqual(t, d.Width, 870.0, "%s is seen whole", word)
		assert.Len(t, d.Pins, 2*pins, word)
		assert.Len(t, d.Shells, 2)
		assert.NotEmpty(t, d.Joins)
		rows := report.Power.Rows(c)
		if len(rows) <= 2 {
			assert.Len(t, d.Joins, pins, word)
		} else {
			assert.Len(t, d.Joins, pins-rows[1]+1, "one line for the row in the middle")
		}
		for _, p := range d.Pins {
			assert.Positive(t, p.X)
			assert.LessOrEqual(t, p.X+p.W, d.Width, word)
			assert.LessOrEqual(t, p.Y+p.H, d.Height, word)
		}
		assert.Len(t, opened[1].Drawn.Joins, 0, "a free end touches nothing")
	}
}

// TestFeedsOfferOnlyWhatGoesIn: the look-alike eight-pin is not among them.
func TestFeedsOfferOnlyWhatGoesIn(t *testing.T) {
	r, _, ref := roomtest.Demo(t, "Projector tower")
	d := &room.Desk{Rig: r, Ref: ref, Sel: "/card/plugs/1"}
	r.Supplies[0].Outlets = append(r.Supplies[0].Outlets, rig.Outlet{Name: "second", Connector: rig.Of(rig.Connector("card-8"))})
	feeds, _ := feedOptions(d)
	assert.Equal(t, []feedOption{{"Lantern 400\nsecond\ncard\nB", "Lantern 400, second, a card 8-pin"}}, feeds)

	r, _, ref = roomtest.Demo(t, "Dome-shed stacker")
	feeds, _ = feedOptions(&room.Desk{Rig: r, Ref: ref, Sel: "/route/stages/2"})
	var labels []string
	for _, f := range feeds {
		labels = append(labels, f.Label)
	}
	assert.Contains(t, labels, "Lantern 550, peripheral 1, a peripheral 4-pin (old disk drives), into peripheral")
	assert.Contains(t, labels, "Lantern 550, disk 2, a disk 15-pin (SATA power), into disk")
	assert.NotContains(t, labels, "Lantern 550, disk 1, a disk 15-pin (SATA power), into disk", "in use")
}

// TestEveryInletIsFedAsItsOwn: what is chosen is the inlet of the part that has it, be that the
// host, a stage or a converter board.
func TestEveryInletIsFedAsItsOwn(t *testing.T) {
	r, _, ref := roomtest.Demo(t, "Field kit")
	r.Leads = nil
	barrel := []rig.Inlet{{Name: "in", Connector: rig.Of(rig.Connector("barrel"))}}
	r.Supplies = append(r.Supplies, rig.Supply{Name: "Step-down", Kind: rig.Of(rig.Converter), Inlets: barrel,
		Outlets: []rig.Outlet{{Name: "out", Connector: rig.Of(rig.Connector("barrel"))}}})
	for sel, want := range map[string][]string{
		"/host/inlets/0":           {"Brick 12 V 10 A plug host round", "Step-down out host round"},
		"/host":                    {"Brick 12 V 10 A plug host round", "Step-down out host round"},
		"/route/stages/0/inlets/0": {"Brick 12 V 10 A plug Field dock, M.2, barrel-fed barrel", "Step-down out Field dock, M.2, barrel-fed barrel"},
		"/supplies/1/inlets/0":     {"Brick 12 V 10 A plug Step-down in"},
		"/supplies/1":              {"Brick 12 V 10 A plug Step-down in"},
		"/supplies/0":              nil,
	} {
		feeds, feedable := feedOptions(&room.Desk{Rig: r, Ref: ref, Sel: sel})
		var ends []string
		for _, f := range feeds {
			ends = append(ends, strings.ReplaceAll(f.Value, "\n", " "))
		}
		assert.Equal(t, want, ends, sel)
		assert.Equal(t, want != nil, feedable, sel)
	}
	r.Host.Inlets = nil
	feeds, _ := feedOptions(&room.Desk{Rig: r, Ref: ref, Sel: "/host"})
	assert.Equal(t, "Brick 12 V 10 A\nplug\nhost\n", feeds[0].Value, "sockets nobody looked at")
}
