package survey

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kolvan/core/assess"
	"kolvan/core/rig"
	"kolvan/core/units"
	_ "kolvan/internal/oneseed"
	"kolvan/web/roomtest"
)

// TestWhereToLook: each place says what is open there, and leads to it.
func TestWhereToLook(t *testing.T) {
	r := rig.New("seen")
	states := func() (list []string) {
		for _, at := range walkOf(r, "") {
			list = append(list, at.State)
		}
		return list
	}
	assert.Equal(t, []string{"no slot yet", "no slot yet", "no slot yet", "3 to find", "3 to find"}, states())
	r.Host.Slots = []rig.Slot{
		{Name: "port", Form: rig.Of(rig.Tunnel)}, {Name: "below", Side: rig.Of(rig.Side("underside")), Form: rig.Of(rig.M2)},
	}
	r.Host.Memory, r.Host.System, r.Host.Proc.Name = rig.Of(units.Gibibyte(8)), rig.Of("any"), "Finch 4"
	assert.Equal(t, []string{"5 to find", "no slot yet", "6 to find", "3 to find", "seen"}, states())
	assert.Equal(t, "/host/slots/1", walkOf(r, "")[2].Sel)
}

// TestListedBesideFound: each row with its verdict; what was not listed has none.
func TestListedBesideFound(t *testing.T) {
	r, report, ref := roomtest.Demo(t, "Dome-shed stacker")
	rows := listedRows(r, report)
	require.Len(t, rows, 2)
	assert.Equal(
		t,
		listedRow{
			What: "m2-a, generation", Listed: "Gen 4", Found: "Gen 3", Source: "papers", Level: "risk", Says: rows[0].Says,
			Sel: "/host/slots/0",
		},
		rows[0],
	)
	assert.Equal(t, "m2-a runs at Gen 3; the listing promised Gen 4.", rows[0].Says)
	assert.Equal(t, "note", rows[1].Level, "more memory than was sold")
	r.Host.Listed = rig.Listed{Processor: rig.Of("Finch 6")}
	r.Host.Slots[0].SaidGen = rig.Fact[int]{}
	again := assess.Rig(r, ref)
	rows = listedRows(r, &again)
	require.Len(t, rows, 1)
	assert.Equal(t, "risk", rows[0].Level)
}
