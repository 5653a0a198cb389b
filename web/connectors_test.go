package web_test

import (
	"fmt"
	"net/http"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kolvan/core/assess"
	"kolvan/core/reference"
	"kolvan/core/rig"
	"kolvan/core/units"
	"kolvan/store"
)

// TestAConnectorIsOneRow: each row of the table can be chosen in the forms, is drawn as a
// face, is offered as a feed, and is judged.
func TestAConnectorIsOneRow(t *testing.T) {
	ref, err := reference.Load()
	require.NoError(t, err)
	app, s := bench(t)
	c := newClient(t, app)
	for i := range ref.Connectors {
		row := &ref.Connectors[i]
		name := string(row.Connector)
		r := rig.New("with " + name)
		r.Host.Slots = []rig.Slot{{Name: "long", Form: rig.Of(rig.CardSlot), Lanes: rig.Of(16)}}
		r.Route = rig.Route{
			Slot: "long",
			Stages: []rig.Stage{{
				Name: "dock", Kind: rig.Of(rig.Dock), Power: rig.Of[units.Watt](1000),
				Inlets: []rig.Inlet{{Name: "in", Connector: rig.Of(row.Connector)}},
			}},
		}
		r.Supplies = []rig.Supply{{
			Name: "main", Outlets: []rig.Outlet{{Name: "out", Connector: rig.Of(row.Connector), Voltage: rig.Of[units.Volt](12)}},
		}}
		unfed, err := rig.Encode(r)
		require.NoError(t, err)
		loose, err := s.Create(t.Context(), store.RigKind, r.Name, unfed, "")
		require.NoError(t, err)
		_, page := c.get(fmt.Sprintf("/rigs/%d/power?sel=/route/stages/0", loose))
		assert.Contains(t, page, "add the lead", "%s: its outlet is offered", name)
		assert.Contains(t, page, rig.Spoken(row.Connector), name)

		r.Leads = []rig.Lead{{Name: "lead", From: []rig.LeadEnd{{Part: "main", At: "out"}}, To: []rig.LeadEnd{{Part: "dock", At: "in"}}}}
		doc, err := rig.Encode(r)
		require.NoError(t, err)
		id, err := s.Create(t.Context(), store.RigKind, r.Name, doc, "")
		require.NoError(t, err)
		_, page = c.get(fmt.Sprintf("/rigs/%d/power?sel=/supplies/0/outlets/0", id))
		assert.Contains(t, page, `<option value="`+name+`" selected`, "%s: the forms have it", name)
		status, page := c.get(fmt.Sprintf("/rigs/%d/power?sel=/leads/0", id))
		require.Equal(t, http.StatusOK, status, name)
		if len(row.Pins) > 0 {
			assert.Contains(t, page, `class="shell-line"`, "%s: its face is drawn", name)
		}
		report := assess.Rig(r, ref)
		judged := map[string]bool{}
		for _, f := range report.Findings {
			judged[f.Rule] = true
			assert.False(t, f.Rule == "power.unfed" && rig.Within(f.Where, "/leads"), "%s goes into its like", name)
		}
		assert.True(t, judged["power.connector"], "%s: a thousand watts are too much, or asked for", name)
	}
}
