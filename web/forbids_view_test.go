package web

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"kolvan/core/assess"
	"kolvan/core/rig"
	"kolvan/core/units"
)

// TestWhatIsNotToBeSwitchedOn: no order of switching stands on the sheet of a plan that
// harms for certain.
func TestWhatIsNotToBeSwitchedOn(t *testing.T) {
	r, report, ref := demoRig(t, "Dome-shed stacker, built")
	assert.NotContains(t, makeSheet(r, report, ref, false).Orders[0][1], "do not switch on")
	for i := range r.Supplies {
		for k := range r.Supplies[i].Outlets {
			r.Supplies[i].Outlets[k].Voltage = rig.Of[units.Volt](19)
		}
	}
	harmed := assess.Rig(r, ref)
	for _, order := range makeSheet(r, &harmed, ref, false).Orders {
		assert.Equal(t, "do not switch on", order[1])
	}
}
