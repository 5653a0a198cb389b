package power_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kolvan/core/coretest"
	"kolvan/core/finding"
	"kolvan/core/power"
	"kolvan/core/rig"
	"kolvan/core/units"
)

// said are the findings of one rule, as "level place".
func said(t *testing.T, r *rig.Rig, rule string) (list []string) {
	require.NoError(t, rig.Validate(withNames(r)))
	out := finding.List{}
	power.For(r, coretest.Tables(t)).Judge(&out)
	for _, f := range out.Findings {
		if f.Rule == rule {
			list = append(list, f.Level.String()+" "+f.Where)
		}
	}
	return list
}

// round adds a brick with a round plug of so many volts, 0 for one without a
// label.
func round(r *rig.Rig, name string, volts units.Volt) {
	rail := rig.Rail{Name: "out", Current: rig.Of(units.Amp(10))}
	if volts > 0 {
		rail.Voltage = rig.Of(volts)
	}
	r.Supplies = append(r.Supplies, rig.Supply{Name: name, Kind: rig.Of(rig.Brick), Rating: w(120), Rails: []rig.Rail{rail},
		Outlets: []rig.Outlet{{Name: "plug", Connector: rig.Of(rig.Connector("barrel")), Current: rig.Of(units.Amp(10))}}})
}

func free(name string, c rig.Connector) rig.LeadEnd {
	return rig.LeadEnd{At: name, Connector: rig.Of(c)}
}

// TestVoltageIsFollowedThroughChains: whatever stands between, a brick's voltage
// arrives where its lead ends.
func TestVoltageIsFollowedThroughChains(t *testing.T) {
	chained := func(volts units.Volt) *rig.Rig {
		r := docked(60)
		r.Route.Stages[0].Makes3V3 = rig.Of(true)
		r.Route.Stages[0].Inlets = append(
			r.Route.Stages[0].Inlets,
			rig.Inlet{Name: "round", Connector: rig.Of(rig.Connector("barrel")), Current: rig.Of(units.Amp(10))},
		)
		round(r, "brick", volts)
		r.Leads = []rig.Lead{
			lead("first", ends(end("brick", "plug", "barrel")), ends(free("tail", "barrel"))),
			lead("second", ends(end("first", "tail", "barrel")), ends(free("tail", "barrel"))),
			lead("third", ends(end("second", "tail", "barrel")), ends(end("dock", "round", "barrel"))),
		}
		return r
	}
	assert.Equal(t, []string{"danger /leads/2/to/0"}, said(t, chained(19), "power.voltage"))
	assert.Equal(t, []string{"danger /leads/2/to/0"}, said(t, chained(5), "power.voltage"))
	assert.Empty(t, said(t, chained(12), "power.voltage"))
	assert.Equal(t, []string{"unknown /supplies/1/rails/0/voltage_v"}, said(t, chained(0), "power.voltage"))

	told := chained(19)
	told.Route.Stages[0].Inlets[3].Voltage = rig.Of(units.Volt(19))
	assert.Empty(t, said(t, told, "power.voltage"), "a dock that takes 19 V says so")
	told = chained(12)
	told.Route.Stages[0].Inlets[3].Voltage = rig.Of(units.Volt(19))
	assert.Equal(t, []string{"danger /leads/2/to/0"}, said(t, told, "power.voltage"), "too little is wrong too")
}

// TestTurnOnIsFollowedByItsContact: a dock switches a supply on through plugs that
// carry the contact, direct or extended.
func TestTurnOnIsFollowedByItsContact(t *testing.T) {
	waits := func(leads ...rig.Lead) *rig.Rig {
		r := docked(60)
		r.Supplies[0].TurnOn = rig.Of(rig.TurnOnDock)
		r.Route.Stages[0].TurnsOn = rig.Of(true)
		r.Leads = leads
		return r
	}
	direct := lead("main", ends(end("psu", "main", "main-24")), ends(end("dock", "main", "main-24")))
	assert.Empty(t, said(t, waits(direct), "power.turn-on"))
	extended := []rig.Lead{
		lead("ext", ends(end("psu", "main", "main-24")), ends(free("tail", "main-24"))),
		lead("main", ends(end("ext", "tail", "main-24")), ends(end("dock", "main", "main-24"))),
	}
	assert.Empty(t, said(t, waits(extended...), "power.turn-on"))
	broken := []rig.Lead{
		lead("ext", ends(end("psu", "main", "main-24")), ends(free("tail", "card-6"))),
		lead("six", ends(end("ext", "tail", "card-6")), ends(end("dock", "six", "card-6"))),
	}
	assert.Equal(t, []string{"blocked /supplies/0"}, said(t, waits(broken...), "power.turn-on"), "a six-pin carries no turn-on contact")
	disk := lead("disk", ends(end("psu", "d1", "disk-15")), ends(end("dock", "disk", "disk-15")))
	assert.Equal(t, []string{"blocked /supplies/0"}, said(t, waits(disk), "power.turn-on"))
	deaf := waits(direct)
	deaf.Route.Stages[0].TurnsOn = rig.Fact[bool]{}
	assert.Equal(t, []string{"unknown /route/stages/0/turns_on"}, said(t, deaf, "power.turn-on"))
}

// TestSlotNeedsItsLowVoltage: a dock that makes no 3.3 V has it from a lead that
// brings it, also through an adapter, or not at all.
func TestSlotNeedsItsLowVoltage(t *testing.T) {
	fed := func(leads ...rig.Lead) *rig.Rig {
		r := docked(50)
		r.Leads = leads
		return r
	}
	assert.Empty(
		t,
		said(t, fed(lead("disk", ends(end("psu", "d1", "disk-15")), ends(end("dock", "disk", "disk-15")))), "power.unfed")[1:],
		"only the host is unfed",
	)
	adapter := lead("adapter", ends(end("psu", "p1", "peripheral-4")), ends(end("dock", "disk", "disk-15")))
	assert.Contains(t, said(t, fed(adapter), "power.unfed"), "blocked /route/stages/0", "an adapter from a plug without it brings none")
	open := fed(adapter)
	open.Route.Stages[0].Makes3V3 = rig.Fact[bool]{}
	assert.Contains(t, said(t, open, "power.unfed"), "unknown /route/stages/0/makes_3v3_from_12v")
}

// TestWhatStandsBehindTheDockPassesPowerOn: a passive riser changes nothing, a
// powered one with a feed of its own feeds the slot.
func TestWhatStandsBehindTheDockPassesPowerOn(t *testing.T) {
	r := docked(60)
	r.Leads = []rig.Lead{lead("six", ends(end("psu", "c6", "card-6")), ends(end("dock", "six", "card-6")))}
	riser := rig.Stage{
		Name: "riser", Kind: rig.Of(rig.StageKind("riser")), Plug: rig.Joint{Form: rig.Of(rig.CardSlot)},
		Socket: rig.Joint{Form: rig.Of(rig.CardSlot)},
	}
	r.Route.Stages[0].Socket.Form = rig.Of(rig.CardSlot)
	r.Route.Stages = append(r.Route.Stages, riser)
	n := power.For(r, coretest.Tables(t))
	assert.Equal(t, 0, n.Slot.Stage)
	assert.InDelta(t, 60, float64(n.Supplies[0].Load.High), 1e-9)

	r.Route.Stages[1].Inlets = []rig.Inlet{{Name: "in", Connector: rig.Of(rig.Connector("card-6"))}}
	assert.Contains(t, said(t, r, "power.unfed"), "unknown /route/stages/1/passes_power", "its own inlet is left open")
	r.Route.Stages[1].Passes = rig.Of(true)
	assert.Equal(t, 0, power.For(r, coretest.Tables(t)).Slot.Stage)
}

func TestHostSharesByWhatItsPlugsAreFor(t *testing.T) {
	r := docked(60)
	r.Host.Power, r.Host.Proc.Power = w(200), w(95)
	r.Supplies[0].Outlets = append(r.Supplies[0].Outlets, outlet("cpu", "cpu-8"))
	r.Leads = []rig.Lead{
		lead("main", ends(end("psu", "main", "main-24")), ends(end("host", "", "main-24"))),
		lead("cpu", ends(end("psu", "cpu", "cpu-8")), ends(end("host", "", "cpu-8"))),
	}
	n := power.For(r, coretest.Tables(t))
	assert.InDelta(t, 105, float64(n.Leads[0].Load.High), 1e-9)
	assert.InDelta(t, 95, float64(n.Leads[1].Load.High), 1e-9, "the processor's watts through its own plug")
	r.Host.Proc.Power = rig.Fact[units.Watt]{}
	n = power.For(r, coretest.Tables(t))
	assert.InDelta(t, 200*2.0/6, float64(n.Leads[0].Load.High), 1e-9, "by contacts while they are unknown")
}

// TestContactsOfALookAlike: the faces mark every pin that would meet what it must
// not.
func TestContactsOfALookAlike(t *testing.T) {
	r := docked(120, "card-8")
	r.Supplies[0].Outlets = append(r.Supplies[0].Outlets, outlet("cpu", "cpu-8"))
	r.Leads = []rig.Lead{lead("wrong", ends(end("psu", "cpu", "card-8")), ends(end("card", "A", "card-8")))}
	n := power.For(r, coretest.Tables(t))
	bad := 0
	for _, c := range n.Contacts(&n.Leads[0].From[0]) {
		if c.Bad {
			bad++
		}
	}
	assert.Equal(t, 6, bad)
	assert.Equal(t, []string{"danger /leads/0/from/0"}, said(t, r, "power.pins"))
	for _, c := range n.Contacts(&n.Leads[0].To[0]) {
		assert.False(t, c.Bad)
	}
	assert.Equal(t, []int{12, 12}, n.Rows("main-24"))
	assert.Nil(t, n.Rows("proprietary"))
}

// TestMeasuredDrawsStand: what was measured on all is what the card takes.
func TestMeasuredDrawsStand(t *testing.T) {
	r := docked(120, "card-8")
	r.Card.Power = rig.Fact[units.Watt]{}
	r.Card.SlotShare, r.Card.Plugs[0].Power = w(80), w(160)
	r.Leads = []rig.Lead{
		lead("slot", ends(end("psu", "main", "main-24")), ends(end("dock", "main", "main-24"))),
		lead("card lead", ends(end("psu", "c1", "card-8")), ends(end("card", "A", "card-8"))),
	}
	n := power.For(r, coretest.Tables(t))
	assert.True(t, n.Supplies[0].Load.Known())
	assert.InDelta(t, 240, float64(n.Supplies[0].Load.High), 1e-9)
	assert.Equal(t, []string{"blocked /route/stages/0"}, said(t, r, "power.slot-limit"), "80 W from 75")
	assert.Equal(t, []string{"risk /leads/1/from/0"}, said(t, r, "power.connector"), "160 W through 150")
}

// TestProprietaryPlugsAreNeverQuiet: joined with another kind nobody can tell by
// their look what they put where; among themselves they are their maker's.
func TestProprietaryPlugsAreNeverQuiet(t *testing.T) {
	r := docked(120, "card-8")
	r.Supplies[0].Outlets = append(
		r.Supplies[0].Outlets,
		rig.Outlet{Name: "own", Connector: rig.Of(rig.Connector("proprietary")), Current: rig.Of(units.Amp(18))},
	)
	r.Host.Inlets = []rig.Inlet{{
		Name: "own", Connector: rig.Of(rig.Connector("proprietary")), Voltage: rig.Of(units.Volt(12)),
		Current: rig.Of(units.Amp(18)),
	}}
	r.Leads = []rig.Lead{lead("board", ends(end("psu", "own", "proprietary")), ends(end("host", "own", "proprietary")))}
	assert.Empty(t, said(t, r, "power.pins"))
	r.Leads = []rig.Lead{lead("made", ends(rig.LeadEnd{Part: "psu", At: "own"}), ends(end("card", "A", "card-8")))}
	assert.Equal(t, []string{"unknown /supplies/0/outlets/7/pins"}, said(t, r, "power.pins"))
}

// TestWhatIsCertainIsSaidAsSuch: of a range the sure end stands in the sentence.
func TestWhatIsCertainIsSaidAsSuch(t *testing.T) {
	r := docked(120)
	r.Card.Plugs = nil
	r.Route.Stages[0].Makes3V3 = rig.Of(true)
	r.Leads = []rig.Lead{lead("disk", ends(end("psu", "d1", "disk-15")), ends(end("dock", "disk", "disk-15")))}
	out := finding.List{}
	power.For(r, coretest.Tables(t)).Judge(&out)
	for _, f := range out.Findings {
		if f.Rule == "power.slot-limit" {
			assert.Equal(t, finding.Danger, f.Level)
			assert.Contains(t, f.Says, "at least 66 W")
			return
		}
	}
	assert.Fail(t, "nothing is said of the slot")
}
