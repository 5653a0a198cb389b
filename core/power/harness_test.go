package power_test

import (
	"fmt"
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"kolvan/core/coretest"
	"kolvan/core/power"
	"kolvan/core/rig"
	"kolvan/core/units"
	_ "kolvan/internal/oneseed"
)

// ownLead is a rig whose card of 150 W with one 8-pin hangs on a lead of one's own,
// from a proprietary plug of a 12 V brick with the given map.
func ownLead(t require.TestingT, pins ...rig.Pin) *rig.Rig {
	r := rig.New("own")
	r.Host = rig.Host{
		Name:  "host",
		Slots: []rig.Slot{{Name: "slot", Form: rig.Of(rig.CardSlot), Mechanical: rig.Of(16), Lanes: rig.Of(16), Gen: rig.Of(3)}},
	}
	r.Route.Slot = "slot"
	r.Card = rig.Card{
		Name: "card", Power: rig.Of[units.Watt](150), SlotShare: rig.Of[units.Watt](30),
		Plugs: []rig.CardPlug{{Name: "A", Connector: rig.Of[rig.Connector]("card-8")}},
	}
	r.Supplies = []rig.Supply{{Name: "brick", Kind: rig.Of(rig.Brick), Rating: rig.Of[units.Watt](240), Rails: []rig.Rail{{
		Name: "12", Voltage: rig.Of[units.Volt](12), Current: rig.Of[units.Amp](20),
	}},
		Outlets: []rig.Outlet{{Name: "plug", Connector: rig.Of[rig.Connector]("proprietary"), Current: rig.Of[units.Amp](20), Pins: pins}}}}
	r.Leads = []rig.Lead{{Name: "own", Length: rig.Of[units.Millimetre](700), From: []rig.LeadEnd{{
		Part: "brick", At: "plug", Connector: rig.Of[rig.Connector]("proprietary"), Current: rig.Of[units.Amp](20),
	}},
		To: []rig.LeadEnd{{Part: rig.CardPart, At: "A", Connector: rig.Of[rig.Connector]("card-8")}}}}
	require.NoError(t, rig.Validate(r))
	return r
}

var (
	supplyPin = rig.Pin{Carries: rig.Of(rig.PlaneSupply), Reads: rig.Of[units.Volt](12.1)}
	groundPin = rig.Pin{Carries: rig.Of(rig.PlaneGround)}
)

// TestHarness: 120 W over three wires are 3.33 A each, for which AWG 20 is enough
// and AWG 22, at 3 A, is not; 12.5 A are the least a fuse holds, and the three
// wires carry 15.
func TestHarness(t *testing.T) {
	r := ownLead(t, supplyPin, supplyPin, supplyPin, groundPin, groundPin, groundPin)
	r.Leads[0].Wires = power.For(r, coretest.Tables(t)).Alike(0)
	assert.Equal(
		t,
		[]rig.Conductor{
			{FromEnd: 1, FromPin: 1, ToEnd: 1, ToPin: 1},
			{FromEnd: 1, FromPin: 2, ToEnd: 1, ToPin: 2},
			{FromEnd: 1, FromPin: 3, ToEnd: 1, ToPin: 3},
			{
				FromEnd: 1,
				FromPin: 4,
				ToEnd:   1,
				ToPin:   5,
			},
			{FromEnd: 1, FromPin: 5, ToEnd: 1, ToPin: 7},
			{FromEnd: 1, FromPin: 6, ToEnd: 1, ToPin: 8},
		},
		r.Leads[0].Wires,
	)
	n := power.For(r, coretest.Tables(t))
	plan := n.Harness(0)
	assert.Equal(t, 20, plan.Gauge)
	assert.InDelta(t, 120.0/12/3, float64(plan.Wires[0].Amps.High), 1e-9)
	assert.Equal(t, plan.Wires[0].Amps, plan.Wires[3].Amps, "what goes comes back")
	assert.InDelta(t, 10*(0.7*0.03331+2*0.006)*(2.0/3), float64(plan.Drop), 1e-9)
	assert.Equal(t, units.Amp(15), plan.Fuse)
	assert.Len(t, n.MeterList(0), 6+1+3)
	assert.Empty(t, said(t, r, "power.pins"))

	r.Leads[0].Wires = r.Leads[0].Wires[1:]
	n = power.For(r, coretest.Tables(t))
	assert.Equal(t, 2, n.Leads[0].To[0].Cap.Contacts, "a contact without a wire carries nothing")
	assert.InDelta(t, 252.0/3*2/12, float64(n.Leads[0].To[0].Cap.Rating), 1e-9)
}

// TestWiresCutNets: what no wire carries does not arrive.
func TestWiresCutNets(t *testing.T) {
	r := ownLead(t, supplyPin, groundPin)
	r.Leads[0].Wires = []rig.Conductor{{FromEnd: 1, FromPin: 2, ToEnd: 1, ToPin: 5}}
	assert.Contains(t, said(t, r, "power.unfed"), "blocked /card/plugs/0")
	r.Leads[0].Wires = append(r.Leads[0].Wires, rig.Conductor{FromEnd: 1, FromPin: 1, ToEnd: 1, ToPin: 1})
	assert.NotContains(t, said(t, r, "power.unfed"), "blocked /card/plugs/0")
	r.Supplies[0].Outlets[0].Pins[0].Reads = rig.Of[units.Volt](19)
	assert.Equal(t, []string{"danger /leads/0/wires/1"}, said(t, r, "power.pins"), "19 V measured on a pin for 12")
}

// TestAnyWireThatShorts: whatever the map, a wire is a danger exactly where it
// joins supply with what is not that supply.
func TestAnyWireThatShorts(t *testing.T) {
	rapid.Check(t, func(rt *rapid.T) {
		pins := rapid.SliceOfN(rapid.SampledFrom([]rig.Pin{supplyPin, groundPin}), 2, 8).Draw(rt, "pins")
		from, to := rapid.IntRange(1, len(pins)).Draw(rt, "from"), rapid.IntRange(1, 8).Draw(rt, "to")
		r := ownLead(rt, pins...)
		r.Leads[0].Wires = []rig.Conductor{{FromEnd: 1, FromPin: from, ToEnd: 1, ToPin: to}}
		live := pins[from-1].Carries.Value == rig.PlaneSupply
		shorts := live && to > 3 || !live && to <= 3
		assert.Equal(
			rt, shorts, len(said(t, r, "power.pins")) > 0 && said(t, r, "power.pins")[0] == "danger /leads/0/wires/0",
			fmt.Sprint(from, to),
		)
	})
}

// TestCurrentsOfWiresComeToTheLoad: however many wires are taken off a lead of one's
// own, what is left carries the whole load, there and back, and each contact is held
// to what is joined to it.
func TestCurrentsOfWiresComeToTheLoad(t *testing.T) {
	ref := coretest.Tables(t)
	rapid.Check(t, func(rt *rapid.T) {
		r := ownLead(rt, supplyPin, supplyPin, supplyPin, groundPin, groundPin, groundPin)
		all := power.For(r, ref).Alike(0)
		for _, w := range all {
			if rapid.Bool().Draw(rt, "kept") {
				r.Leads[0].Wires = append(r.Leads[0].Wires, w)
			}
		}
		if len(r.Leads[0].Wires) == 0 {
			return
		}
		n := power.For(r, ref)
		there, back := units.Amp(0), units.Amp(0)
		for _, w := range n.Harness(0).Wires {
			if w.Gives == "GND" {
				back += w.Amps.High
			} else {
				there += w.Amps.High
			}
		}
		whole := n.Leads[0].To[0].Load.High.Over(12)
		for _, flows := range []units.Amp{there, back} {
			assert.True(rt, flows == 0 || math.Abs(float64(flows-whole)) < 1e-9, "%v of %v", flows, whole)
		}
		if contacts := n.Leads[0].To[0].Cap.Contacts; there > 0 && back > 0 {
			assert.LessOrEqual(rt, contacts, len(r.Leads[0].Wires))
			assert.InDelta(rt, float64(contacts)*84, float64(n.Leads[0].To[0].Cap.Rating)*12, 1e-6, "84 W a contact of a card 8-pin")
		}
	})
}

// TestOneThinWireForAll: a single wire of AWG 24 for 10 A is a danger, whatever the
// plug would carry, and the gauge and the fuse proposed are none that hide it.
func TestOneThinWireForAll(t *testing.T) {
	r := ownLead(t, supplyPin, groundPin)
	r.Leads[0].Gauge = rig.Of(24)
	r.Leads[0].Wires = []rig.Conductor{{FromEnd: 1, FromPin: 1, ToEnd: 1, ToPin: 1}, {FromEnd: 1, FromPin: 2, ToEnd: 1, ToPin: 5}}
	assert.Contains(t, said(t, r, "power.wire"), "danger /leads/0/to/0")
	assert.Contains(t, said(t, r, "power.connector"), "danger /leads/0/to/0", "one contact of three")
	plan := power.For(r, coretest.Tables(t)).Harness(0)
	assert.Zero(t, plan.Gauge, "the contacts alone lose too much: more pins side by side")
	assert.Zero(t, plan.Fuse, "no fuse holds 10 A and gives way before a wire for 2")
	r.Leads[0].Fuse = rig.Of[units.Amp](15)
	assert.Equal(t, []string{"risk /leads/0/fuse_a"}, said(t, r, "power.fuse"))
}

// TestCentreOfARoundPlugMayBeGround: pins 1 and 2 change places, and a lead made for
// the other kind turns the voltage round.
func TestCentreOfARoundPlugMayBeGround(t *testing.T) {
	r := ownLead(t)
	barrel := rig.Of(rig.Connector("barrel"))
	r.Supplies[0].Outlets[0].Connector, r.Leads[0].From[0].Connector = barrel, barrel
	r.Leads[0].Wires = power.For(r, coretest.Tables(t)).Alike(0)
	assert.Equal(
		t, []rig.Conductor{{FromEnd: 1, FromPin: 1, ToEnd: 1, ToPin: 1}, {FromEnd: 1, FromPin: 2, ToEnd: 1, ToPin: 5}},
		r.Leads[0].Wires,
	)
	assert.Empty(t, said(t, r, "power.pins"))
	r.Supplies[0].Outlets[0].Negative = rig.Of(true)
	assert.Equal(t, []string{"danger /leads/0/wires/0", "danger /leads/0/wires/1"}, said(t, r, "power.pins")[:2])
	r.Leads[0].Wires = power.For(r, coretest.Tables(t)).Alike(0)
	assert.Equal(t, 2, r.Leads[0].Wires[0].FromPin, "the sleeve carries the supply")
	assert.Empty(t, said(t, r, "power.pins"))
}

// TestTurnOnGoesOnlyWhereAWireGoes: a main lead of one's own without wire 16 leaves
// the supply off, and with it, on.
func TestTurnOnGoesOnlyWhereAWireGoes(t *testing.T) {
	r := docked(60)
	r.Route.Stages[0].TurnsOn, r.Supplies[0].TurnOn = rig.Of(true), rig.Of(rig.TurnOnDock)
	r.Leads = []rig.Lead{lead("own main", ends(end("psu", "main", "main-24")), ends(end("dock", "main", "main-24")))}
	assert.Empty(t, said(t, r, "power.turn-on"))
	for pin := 1; pin <= 24; pin++ {
		if pin != 16 && pin != 20 {
			r.Leads[0].Wires = append(r.Leads[0].Wires, rig.Conductor{FromEnd: 1, FromPin: pin, ToEnd: 1, ToPin: pin})
		}
	}
	assert.Equal(t, []string{"blocked /supplies/0"}, said(t, r, "power.turn-on"))
	r.Leads[0].Wires = append(r.Leads[0].Wires, rig.Conductor{FromEnd: 1, FromPin: 16, ToEnd: 1, ToPin: 16})
	assert.Empty(t, said(t, r, "power.turn-on"))
	assert.Empty(t, said(t, r, "power.pins"))
	r.Leads[0].Wires[0] = rig.Conductor{FromEnd: 1, FromPin: 10, ToEnd: 1, ToPin: 16}
	assert.Contains(t, said(t, r, "power.pins"), "danger /leads/0/wires/0", "12 V on the turn-on contact")
}
