package ways

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kolvan/core/coretest"
	"kolvan/core/finding"
	"kolvan/core/power"
	"kolvan/core/reference"
	"kolvan/core/rig"
	"kolvan/core/units"
	"kolvan/demo"
)

// TestElectricHoldsAllThatPowerReads: each field of a stage is flipped in turn; where the rules
// of power then say something else, the two are not one kind.
func TestElectricHoldsAllThatPowerReads(t *testing.T) {
	ref := coretest.Tables(t)
	rigs, err := demo.Rigs()
	require.NoError(t, err)
	deciding := 0
	for _, r := range append(rigs, riser()) {
		for i := range r.Route.Stages {
			rig.Walk(r, func(n rig.Node) {
				if n.List || n.Spec.Fixed || !rig.Within(n.Path(), rig.StagePath(i)) || n.Spec.Name == "name" {
					return
				}
				for _, value := range valuesOf(n) {
					flipped, err := rig.With(r, n.Path(), value)
					if err != nil || !flipped.Holds() || said(ref, flipped) == said(ref, r) {
						continue
					}
					deciding++
					ids := electricOf([]rig.Stage{r.Route.Stages[i], flipped.Route.Stages[i]})
					assert.NotEqual(t, ids[0], ids[1], "%s: %s", n.Path(), value)
				}
			})
		}
	}
	assert.Greater(t, deciding, 20, "fields that power reads")
}

// riser is a card on a powered riser, in a card slot of the host.
func riser() *rig.Rig {
	r := desk()
	r.Host.Slots = []rig.Slot{{Name: "long", Form: rig.Of(rig.CardSlot), Mechanical: rig.Of(16)}}
	slot, six := rig.Joint{Form: rig.Of(rig.CardSlot)}, rig.Of(rig.Connector("card-6"))
	r.Route = rig.Route{
		Slot: "long",
		Stages: []rig.Stage{{
			Name: "riser", Kind: rig.Of(rig.Riser), Plug: slot, Socket: slot, Makes3V3: rig.Of(false),
			Inlets: []rig.Inlet{{Name: "six", Connector: six}},
		}},
	}
	r.Supplies = append(
		r.Supplies,
		rig.Supply{
			Name: "main", Kind: rig.Of(rig.SupplyKind("atx")), Rating: rig.Of[units.Watt](400),
			Outlets: []rig.Outlet{{Name: "c", Connector: six}},
		},
	)
	r.Leads = []rig.Lead{{Name: "lead", From: []rig.LeadEnd{{Part: "main", At: "c"}}, To: []rig.LeadEnd{{Part: "riser", At: "six"}}}}
	return r
}

func valuesOf(n rig.Node) []string {
	switch n.Spec.Kind {
	case rig.Flag:
		return []string{"yes", "no"}
	case rig.Choice:
		return n.Spec.Choices
	case rig.Whole, rig.Number:
		return []string{units.Trim(n.Spec.Min, 2), units.Trim(n.Spec.Max, 2)}
	default:
		return nil
	}
}

// said is all that the rules of power say of a rig.
func said(ref *reference.Tables, r *rig.Rig) string {
	out := finding.List{Silent: true}
	power.For(r, ref).Judge(&out)
	text := ""
	for _, f := range out.Findings {
		text += fmt.Sprintln(f.Rule, f.Level, f.Where, f.Numbers)
	}
	return text
}
