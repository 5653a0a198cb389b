package units

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	_ "kolvan/internal/oneseed"
)

func TestParse(t *testing.T) {
	for typed, want := range map[string]Millimetre{
		"230 mm": 230, "230": 230, "23 cm": 230, "0,5 m": 500, "9 1/8 in": 231.775, `9"`: 228.6, "1/2 in": 12.7, " 12.5MM ": 12.5, "-3": -3,
	} {
		var got Millimetre
		require.NoError(t, got.Parse(typed), typed)
		assert.InDelta(t, float64(want), float64(got), 1e-9, typed)
	}
	for typed, want := range map[string]Watt{"300 W": 300, "1.2 kW": 1200, "12 V 6.2 A": 74.4, "19V × 3.42A": 64.98, "12v*2a": 24} {
		var got Watt
		require.NoError(t, got.Parse(typed), typed)
		assert.InDelta(t, float64(want), float64(got), 1e-9, typed)
	}
}

func TestParseRefuses(t *testing.T) {
	for _, typed := range []string{
		"", "mm", "long", "1,000", "9 1/0 in", "9 8 in", "9 -1/8 in", "NaN", "Inf mm", "1e999", "3 W", "1/2/3", "--4",
	} {
		got := Millimetre(7)
		err := got.Parse(typed)
		var refused *ParseError
		require.ErrorAs(t, err, &refused, typed)
		assert.Equal(t, typed, refused.Input)
		assert.Contains(t, err.Error(), "9 1/8 in")
		assert.Equal(t, Millimetre(7), got, "left alone")
	}
}

// TestFiguresAreTrimmed, and nothing has a sign.
func TestFiguresAreTrimmed(t *testing.T) {
	assert.Equal(t, "100 W", Watt(99.96).String())
	assert.Equal(t, "0 W", Watt(-0.01).String())
}

// TestPrintAndParseRoundTrip: what is printed is read back as the same.
func TestPrintAndParseRoundTrip(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		tenths := rapid.IntRange(0, 100000).Draw(t, "tenths")
		var l Millimetre
		var w Watt
		if err := l.Parse(Millimetre(float64(tenths) / 10).String()); err != nil {
			t.Fatal(err)
		}
		if err := w.Parse(Watt(float64(tenths) / 10).String()); err != nil {
			t.Fatal(err)
		}
		if float64(l) != float64(tenths)/10 || float64(w) != float64(tenths)/10 {
			t.Fatalf("%v, %v of %d tenths", l, w, tenths)
		}
	})
}

func TestPowerTensionCurrent(t *testing.T) {
	assert.Equal(t, Amp(5.5), Watt(66).Over(12))
	assert.Equal(t, Watt(66), Amp(5.5).At(12))
	assert.Equal(t, Amp(0), Watt(66).Over(0))
	for mm, shown := range map[Millimetre]string{
		230: "9 1/16 in", 228.6: "9 in", 12.7: "1/2 in", -6.4: "-1/4 in", -3: "-0.12 in", 0: "0 in", 25.3: "1 in",
		180: "7 3/32 in",
	} {
		assert.Equal(t, shown, mm.Inches())
	}
}

func TestRoundKeepsWhatAFigureMeans(t *testing.T) {
	for v, want := range map[float64]float64{
		-14.050000000000011: -14.05, 0.1 + 0.2: 0.3, 241.29999999999998: 241.3, 1234567: 1234570, 0: 0, 3.2174e-9: 3.2174e-9,
	} {
		assert.Equal(t, want, Round(v, ReportDigits))
	}
}

// TestParseAngleForceAirAndWarmth: as people write them.
func TestParseAngleForceAirAndWarmth(t *testing.T) {
	var turn Degree
	require.NoError(t, turn.Parse("-110°"))
	assert.Equal(t, "-110°", turn.String())
	var pull Newton
	require.NoError(t, pull.Parse("4,5 N"))
	assert.Equal(t, "4.5 N", pull.String())
	var air CubicMetrePerHour
	require.NoError(t, air.Parse("60 m³/h"))
	assert.Equal(t, "60 m³/h", air.String())
	var rise Kelvin
	require.NoError(t, rise.Parse("12"))
	assert.Equal(t, "12 K", rise.String())
	for _, parse := range []func(string) error{turn.Parse, pull.Parse, air.Parse, rise.Parse} {
		assert.ErrorContains(t, parse("much"), `"much" is not accepted here`)
	}
}

func TestSigned(t *testing.T) {
	for share, says := range map[float64]string{-0.001: "0", 0.004: "0", 0.38: "+38", -0.7: "-70", 0: "0", 0.0051: "+1"} {
		assert.Equal(t, says, Signed(share))
	}
}
