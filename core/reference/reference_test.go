package reference

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kolvan/core/rig"
	"kolvan/core/units"
)

func load(t *testing.T) *Tables {
	ref, err := Load()
	require.NoError(t, err)
	return ref
}

func TestEveryRowHasItsTrustAndSource(t *testing.T) {
	ref := load(t)
	var origins []Origin
	for _, r := range ref.Generations {
		origins = append(origins, r.Origin)
	}
	for _, r := range ref.Connectors {
		origins = append(origins, r.Origin)
	}
	for _, r := range ref.Matings {
		origins = append(origins, r.Origin)
	}
	for _, r := range ref.Planning {
		origins = append(origins, r.Origin)
	}
	for _, r := range ref.Wires {
		origins = append(origins, r.Origin)
	}
	for _, r := range ref.Spikes {
		origins = append(origins, r.Origin)
	}
	for _, r := range ref.Forms {
		origins = append(origins, r.Origin)
		assert.NotEmpty(t, r.Name)
	}
	for _, r := range ref.SupplyForms {
		origins = append(origins, r.Origin)
	}
	for _, o := range origins {
		assert.Contains(t, []Trust{"S", "T", "P"}, o.Trust)
		assert.NotEmpty(t, o.Source)
	}
	for _, word := range rig.Connector("").Words().All() {
		assert.NotNil(t, ref.Connector(rig.Connector(word)), word)
	}
}

func TestMateCountsTheContactsActuallyMated(t *testing.T) {
	ref := load(t)
	for _, c := range []struct {
		plug, socket rig.Connector
		plan, rating float64 // W at 12 V
		contacts     int
	}{
		{"card-6", "card-6", 75, 168, 3}, {"card-8", "card-8", 150, 252, 3}, {"card-6", "card-8", 75, 168, 3}, {"card-8", "card-6", 75, 168, 3},
		{"cpu-8", "cpu-8", 235, 336, 4},
		{"cpu-4", "cpu-8", 130, 168, 2}, {"main-24", "main-24", 144, 144, 2}, {"main-20", "main-24", 72, 72, 1},
		{"main-24", "main-20", 72, 72, 1}, {"disk-15", "disk-15", 54, 54, 3},
		{"peripheral-4", "peripheral-4", 84, 132, 1}, {"small-disk-4", "small-disk-4", 24, 24, 1}, {"card-16", "card-16", 600, 600, 6},
		{"cpu-8", "card-8", 0, 0, 0},
	} {
		pair := ref.Pair(ref.Connector(c.plug), ref.Connector(c.socket))
		require.True(t, pair.Listed, "%s in %s", c.plug, c.socket)
		carries := pair.Carries
		assert.InDelta(t, c.plan, float64(carries.Plan.At(12)), 1e-9, "%s in %s", c.plug, c.socket)
		assert.InDelta(t, c.rating, float64(carries.Rating.At(12)), 1e-9, "%s in %s", c.plug, c.socket)
		assert.Equal(t, c.contacts, carries.Contacts, "%s in %s", c.plug, c.socket)
	}
	_, ok := ref.Enters("disk-15", "card-8")
	assert.False(t, ok)
}

// TestFiguresOfTheStandard holds the tables against what the standards fix.
func TestFiguresOfTheStandard(t *testing.T) {
	ref := load(t)
	for lanes, watts := range map[int]float64{1: 10, 4: 25, 8: 25, 16: 75} {
		power, ok := ref.SlotPower(lanes)
		require.True(t, ok)
		assert.InDelta(t, watts, float64(power), 1e-9, "slot of %d lanes", lanes)
	}
	_, ok := ref.SlotPower(2)
	assert.False(t, ok, "there is no slot of two lanes")

	for height, mm := range map[rig.Height]float64{rig.FullHeight: 120, rig.HalfHeight: 79.2, rig.NoBracket: 0} {
		assert.InDelta(t, mm, float64(ref.BracketHeight(height)), 1e-9)
	}
	_, ok = ref.TunnelPayload(30, true)
	assert.False(t, ok, "no such class")
	_, ok = ref.Generation(7)
	assert.False(t, ok)
	assert.InDelta(t, 66, float64(ref.Slot12V), 1e-9)
	assert.InDelta(t, 9.9, float64(ref.Slot3V3), 1e-9)
}

// TestPinMapsByNumber holds the maps against the reference, pin by pin where it
// names them.
func TestPinMapsByNumber(t *testing.T) {
	ref := load(t)
	for connector, pins := range map[rig.Connector]map[int]string{
		"card-8":  {1: "+12", 3: "+12", 4: "sense1", 5: "GND", 6: "sense0", 8: "GND"},
		"card-6":  {3: "+12", 4: "GND", 5: "sense", 6: "GND"},
		"card-16": {6: "+12", 7: "GND", 13: "power-stable", 14: "present", 15: "sense0", 16: "sense1"},
		"cpu-8":   {4: "GND", 5: "+12"},
		"main-24": {
			1: "+3.3", 4: "+5", 8: "power-good", 9: "+5 standby", 10: "+12", 11: "+12", 14: "-12", 16: "turn-on", 20: "none",
			23: "+5", 24: "GND",
		},
		"main-20":      {1: "+3.3", 10: "+12", 12: "-12", 14: "turn-on", 18: "none", 20: "+5"},
		"disk-15":      {3: "+3.3", 9: "+5", 11: "activity", 13: "+12", 15: "+12"},
		"peripheral-4": {1: "+12", 4: "+5"},
		"small-disk-4": {1: "+5", 4: "+12"},
	} {
		row := ref.Connector(connector)
		require.NotNil(t, row)
		for number, want := range pins {
			assert.Equal(t, want, row.Pins[number-1], "%s, pin %d", connector, number)
		}
	}
	for _, m := range ref.Matings {
		assert.Len(t, m.Pins, len(ref.Connector(m.Plug).Pins), "%s in %s", m.Plug, m.Socket)
		for _, to := range m.Pins {
			assert.LessOrEqual(t, to, len(ref.Connector(m.Socket).Pins), "%s in %s", m.Plug, m.Socket)
		}
	}
}

func TestWallIsWhatTheMainsGive(t *testing.T) {
	ref := load(t)
	for _, c := range []struct {
		class              string
		load, rating, want float64
	}{
		{"gold", 250, 500, 277.78}, {"gold", 500, 500, 574.71}, {"gold", 175, 500, 197.74}, {"plain", 100, 500, 125}, {"gold", 0, 500, 6},
		{"gold", 50, 500, 60.47}, {"brick", 60, 120, 67.42},
	} {
		got, ok := ref.Wall(c.class, units.Watt(c.load), units.Watt(c.rating))
		require.True(t, ok)
		assert.InDelta(t, c.want, float64(got), 0.01, "%s %v of %v", c.class, c.load, c.rating)
		back, ok := ref.FromWall(c.class, got, units.Watt(c.rating))
		require.True(t, ok)
		assert.InDelta(t, c.load, float64(back), 1e-6, "and back")
	}
	_, ok := ref.Wall("steam", 1, 1)
	assert.False(t, ok)
}

// TestNoPairCarriesMoreThanItsHalves: what a pair is planned for and rated at is no more
// than either half alone, a half that says so itself lists nothing, and what may enter
// is the same by name.
func TestNoPairCarriesMoreThanItsHalves(t *testing.T) {
	ref := load(t)
	for i := range ref.Connectors {
		for j := range ref.Connectors {
			plug, socket := &ref.Connectors[i], &ref.Connectors[j]
			pair := ref.Pair(plug, socket)
			name := string(plug.Connector + " in " + socket.Connector)
			_, enters := ref.Enters(plug.Connector, socket.Connector)
			assert.Equal(t, enters, pair.Enters, name)
			assert.Equal(t, pair.Enters && !plug.Stated && !socket.Stated, pair.Listed, name)
			if !pair.Listed {
				continue
			}
			for _, half := range []*Connector{plug, socket} {
				assert.LessOrEqual(t, float64(pair.Carries.Plan.At(12)), float64(half.Plan)+1e-9, name)
				assert.LessOrEqual(t, float64(pair.Carries.Rating.At(12)), float64(half.Rating)+1e-9, name)
				assert.LessOrEqual(t, pair.Carries.Contacts, half.Live(), name)
			}
			assert.Contains(t, []*Connector{plug, socket}, pair.By)
		}
	}
	assert.False(t, ref.Pair(nil, &ref.Connectors[0]).Enters)
}

// TestLossGrows with length and with speed, of every line and joint.
func TestLossGrows(t *testing.T) {
	ref := load(t)
	for i := range ref.Lines {
		l := &ref.Lines[i]
		for gen := 2; gen <= 5; gen++ {
			assert.Greater(t, float64(l.Loss(gen, 100)), float64(l.Loss(gen-1, 100)), l.Line)
		}
		assert.InDelta(t, 2*float64(l.Loss(4, 100)), float64(l.Loss(4, 200)), 1e-9, l.Line)
	}
	for i := range ref.Joints {
		for gen := 2; gen <= 5; gen++ {
			assert.Greater(t, float64(ref.Joints[i].Loss(gen)), float64(ref.Joints[i].Loss(gen-1)), ref.Joints[i].Joint)
		}
	}
	assert.InDelta(t, 0.00504*2.8284+0.00535*8, float64(ref.Line("board").Loss(4, 1)), 1e-5)
}
