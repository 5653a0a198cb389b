package assess_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kolvan/core/assess"
	"kolvan/core/coretest"
	"kolvan/core/finding"
	"kolvan/core/rig"
	"kolvan/core/units"
	"kolvan/demo"
)

// fromTheBoard is the field kit with its dock on a plug of the host's board: the host is fed by
// one lead, and passes on what the dock takes.
func fromTheBoard(t *testing.T) *rig.Rig {
	rigs, err := demo.Rigs()
	require.NoError(t, err)
	r := rigs[3]
	barrel := rig.Of(rig.Connector("barrel"))
	r.Host.Outlets = []rig.Outlet{{Name: "12 V header", Connector: barrel, Voltage: rig.Of(units.Volt(12)), Current: rig.Of(units.Amp(3))}}
	r.Card.Power, r.Card.Plugs = rig.Of(units.Watt(20)), []rig.CardPlug{}
	r.Leads = []rig.Lead{
		{
			Name: "brick lead", Gauge: rig.Of(16), Length: rig.Of(units.Millimetre(300)),
			From: []rig.LeadEnd{{Part: "Brick 12 V 10 A", At: "plug", Connector: barrel}},
			To:   []rig.LeadEnd{{Part: rig.HostPart, At: "round", Connector: barrel}},
		},
		{
			Name: "board lead", Gauge: rig.Of(18), Length: rig.Of(units.Millimetre(200)),
			From: []rig.LeadEnd{{Part: rig.HostPart, At: "12 V header", Connector: barrel}},
			To:   []rig.LeadEnd{{Part: "Field dock, M.2, barrel-fed", At: "barrel", Connector: barrel}},
		},
	}
	require.NoError(t, rig.Validate(r))
	return r
}

// TestAPlugOfTheHostsBoard feeds a dock: its current, its voltage and what it costs at the host's
// own supply are those of any feed, and what is lost on the way adds up.
func TestAPlugOfTheHostsBoard(t *testing.T) {
	ref := coretest.Tables(t)
	sustained := func(r *rig.Rig) (float64, map[string]finding.Level) {
		report := assess.Rig(r, ref)
		said := map[string]finding.Level{}
		for _, f := range report.Findings {
			said[f.Rule+" "+f.Where] = f.Level
		}
		return *report.Figures.Supplies[0].Sustained, said
	}
	r := fromTheBoard(t)
	host, made := float64(r.Host.Power.Value), 9.9*(1/0.88-1)
	load, said := sustained(r)
	assert.InDelta(t, host+20+made, load, 0.01)
	for at := range said {
		assert.NotContains(t, at, "power.connector")
	}
	r.Host.Outlets[0].Current = rig.Of(units.Amp(1.5))
	_, said = sustained(r)
	assert.Equal(t, finding.Danger, said["power.connector /leads/1/from/0"], "20 W and more of 18")
	r.Host.Outlets[0].Current, r.Host.Outlets[0].Voltage = rig.Of(units.Amp(3)), rig.Fact[units.Volt]{}
	_, said = sustained(r)
	assert.Equal(t, finding.Unknown, said["power.voltage /host/outlets/0/voltage_v"])
	r.Host.Outlets[0].Voltage = rig.Of(units.Volt(5))
	_, said = sustained(r)
	assert.Equal(t, finding.Danger, said["power.voltage /leads/1/to/0"], "5 V into a dock for 12")

	r = fromTheBoard(t)
	r.Leads[0].Length = rig.Of(units.Millimetre(4000))
	r.Host.Power = rig.Of(units.Watt(40))
	_, said = sustained(r)
	assert.Equal(t, finding.Risk, said["power.drop /leads/1/to/0"], "what is lost before the host is lost for the dock too")
	r.Host.Inlets[0].Voltage, r.Supplies[0].Rails[0].Voltage = rig.Of(units.Volt(19)), rig.Of(units.Volt(19))
	load, said = sustained(r)
	assert.InDelta(t, 40+(20+made)/0.88, load, 0.01, "the board makes 12 V of 19")
	assert.NotContains(t, said, "power.drop /leads/1/to/0")
	r.Host.Inlets[0].Voltage = rig.Fact[units.Volt]{}
	report := assess.Rig(r, ref)
	assert.Nil(t, report.Figures.Supplies[0].Sustained, "with the loss or without")

	r = fromTheBoard(t)
	r.Leads[0].From = []rig.LeadEnd{{Part: rig.HostPart, At: "12 V header"}}
	assert.ErrorContains(t, rig.Validate(r), "does not come back to itself")
	r.Leads[0].From = []rig.LeadEnd{{Part: rig.HostPart, At: "another"}}
	assert.ErrorContains(t, rig.Validate(r), "12 V header")
}
