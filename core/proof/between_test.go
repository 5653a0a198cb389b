package proof

import (
	"fmt"
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"

	"kolvan/core/rig"
)

// TestIntervalsBetweenRunsHold: of evenings that differ by a hundredth, and drift by as much
// from the first run to the last, 95 of 100 intervals hold the true change, for any number of
// runs; more where the floor rules.
func TestIntervalsBetweenRunsHold(t *testing.T) {
	const evening, tries = 0.01, 4000
	for _, runs := range []int{2, 3, 5, 10} {
		for _, drift := range []float64{0, 0.005} {
			held := 0
			rng := rand.New(rand.NewPCG(uint64(runs), 11))
			side := func(rate float64) (each []float64, mean float64) {
				for i := range runs {
					off := evening*rng.NormFloat64() + drift*(float64(i)/float64(runs-1)-0.5)
					each = append(each, rate*math.Exp(off))
				}
				mean, _ = meanLog(each)
				return each, mean
			}
			for range tries {
				before, a := side(60)
				after, b := side(75)
				half, ok := between(before, after)
				assert.True(t, ok)
				if ends := changes(math.Exp(b-a), half); ends[0] <= 0.25 && 0.25 <= ends[1] {
					held++
				}
			}
			share := float64(held) / tries
			assert.GreaterOrEqual(t, share, 0.93, "%d runs, drift %v", runs, drift)
			assert.LessOrEqual(t, share, 0.99, "%d runs, drift %v", runs, drift)
		}
	}
}

// TestOneRunEach says what is not in its interval, and is never narrower than evenings differ.
func TestOneRunEach(t *testing.T) {
	_, ok := between([]float64{60}, []float64{75})
	assert.False(t, ok)
	_, ok = between([]float64{60, 0}, []float64{75})
	assert.False(t, ok, "what did not run has no logarithm")
	half, ok := between([]float64{60, 60}, []float64{75})
	assert.True(t, ok)
	assert.InDelta(t, evenings, half, 1e-12, "the floor")

	steady := func(ms float64) Run {
		s := &Series{Name: "a"}
		for range 3000 {
			s.Add(ms)
		}
		return Run{File: fmt.Sprint(ms), Series: s}
	}
	c := Compare([]Run{steady(10)}, []Run{steady(8)}, 1)
	assert.Contains(t, c.Warned, oneEach)
	assert.InDelta(t, 1.25*math.Exp(-evenings)-1, c.Figures[0].Interval[0], 1e-9)
	c = Compare([]Run{steady(10), steady(10)}, []Run{steady(8)}, 1)
	assert.NotContains(t, c.Warned, oneEach)

	run := func(hz float64) *rig.Run {
		return &rig.Run{Use: "u", Average: rig.Of(hz), Least: rig.Of(hz - 0.1), Most: rig.Of(hz + 0.1)}
	}
	g := Gain{Use: "u", Before: []*rig.Run{run(60)}, After: []*rig.Run{run(75)}}
	g.figures()
	assert.Contains(t, g.Warned, oneEach)
	g = Gain{Use: "u", Before: []*rig.Run{run(60), run(61)}, After: []*rig.Run{run(75)}}
	g.figures()
	assert.Empty(t, g.Warned)
}
