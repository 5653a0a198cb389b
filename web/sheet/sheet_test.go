package sheet

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"kolvan/core/assess"
	"kolvan/core/rig"
	"kolvan/core/units"
	_ "kolvan/internal/oneseed"
	"kolvan/web/roomtest"
)

// TestWhatIsNotToBeSwitchedOn: no order of switching stands on the sheet of a plan that
// harms for certain.
func TestWhatIsNotToBeSwitchedOn(t *testing.T) {
	r, report, ref := roomtest.Demo(t, "Dome-shed stacker, built")
	assert.NotContains(t, Make(r, report, ref, false).Orders[0][1], "do not switch on")
	for i := range r.Supplies {
		for k := range r.Supplies[i].Outlets {
			r.Supplies[i].Outlets[k].Voltage = rig.Of[units.Volt](19)
		}
	}
	harmed := assess.Rig(r, ref)
	for _, order := range Make(r, &harmed, ref, false).Orders {
		assert.Equal(t, "do not switch on", order[1])
	}
}

// TestSettingsForTheHost: what has to be set is said where it applies, and not else.
func TestSettingsForTheHost(t *testing.T) {
	r, report, ref := roomtest.Demo(t, "Dome-shed stacker")
	assert.Equal(t, []string{"Sound may move with the picture to the card's output: choose it again in the system."}, settings(r, report))
	r.Route.ForcedGen = rig.Of(2)
	r.Host.Kind = rig.Of(rig.HostKind("notebook"))
	r.Host.Panel = rig.Of(rig.PanelDead)
	r.Host.Slots[0].Form = rig.Of(rig.Tunnel)
	again := assess.Rig(r, ref)
	list := settings(r, &again)
	for _, want := range []string{"Hold the slot to Gen 2", "Gadgets chained behind the box share its rate", "lid closed", "touch layer"} {
		assert.Contains(t, strings.Join(list, "\n"), want)
	}
}
