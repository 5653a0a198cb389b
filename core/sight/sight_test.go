package sight_test

import (
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kolvan/core/rig"
	"kolvan/core/sight"
	"kolvan/core/units"
)

func span(ax, ay, bx, by float64) sight.Span {
	return sight.Span{From: sight.Point{X: ax, Y: ay}, To: sight.Point{X: bx, Y: by}}
}

// TestMeasureOffAPicture: by proportion, with what presses, the known length and the lens leave open.
func TestMeasureOffAPicture(t *testing.T) {
	known := rig.Of(units.Millimetre(100))
	m, err := sight.Measure(known, span(0, 0, 400, 0), span(0, 0, 0, 800), 0)
	require.NoError(t, err)
	assert.InDelta(t, 200, float64(m.Value), 1e-9)
	assert.InDelta(t, 2, m.Tolerance, 1e-9, "a hundredth for the lens")
	known.Tolerance = 5
	m, err = sight.Measure(known, span(0, 0, 300, 400), span(100, 100, 100, 350), 2)
	require.NoError(t, err)
	assert.InDelta(t, 50, float64(m.Value), 1e-9)
	press := 2 * math.Sqrt2
	want := 2 * 50 * math.Sqrt(math.Pow(press/500, 2)+math.Pow(press/250, 2)+math.Pow(0.025, 2)+math.Pow(0.005, 2))
	assert.InDelta(t, want, m.Tolerance, 0.1)
	for says, try := range map[string]func() error{
		"above 0": func() error {
			_, err := sight.Measure(rig.Of(units.Millimetre(0)), span(0, 0, 40, 0), span(0, 0, 40, 0), 1)
			return err
		},
		"0 to 100 pixels": func() error {
			_, err := sight.Measure(known, span(0, 0, 40, 0), span(0, 0, 40, 0), math.NaN())
			return err
		},
		"/known: 20 pixels": func() error { _, err := sight.Measure(known, span(0, 0, 19.9, 0), span(0, 0, 40, 0), 1); return err },
		"a length of":       func() error { _, err := sight.Measure(known, span(0, 0, 20, 0), span(5, 5, 5, 5), 1); return err },
		"picture larger": func() error {
			_, err := sight.Measure(known, span(0, 0, 20, 0), span(0, 0, math.Inf(1), 0), 1)
			return err
		},
	} {
		assert.ErrorContains(t, try(), says)
	}
}

// TestToleranceHolds: of many who press as well as that, 95 of 100 find the true length in it.
func TestToleranceHolds(t *testing.T) {
	draw := rand.New(rand.NewPCG(7, 7))
	held := 0
	const times = 2000
	for range times {
		off := func() float64 { return 1.5 * draw.NormFloat64() }
		scale := 1 + 0.005*draw.NormFloat64() // what the lens does between the two
		m, err := sight.Measure(rig.Of(units.Millimetre(90)), span(off(), off(), 180+off(), off()), span(10+off(), 20+off(), 10+off(),
			20+560*scale+off()), 1.5)
		require.NoError(t, err)
		if math.Abs(float64(m.Value)-280) <= m.Tolerance {
			held++
		}
	}
	assert.InDelta(t, 0.955, float64(held)/times, 0.02)
}
