package plan

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"

	"kolvan/core/coretest"
)

// TestRatio: a card of the same power is as fast; of another one by the power of the reference,
// give or take its spread.
func TestRatio(t *testing.T) {
	s := &search{ref: coretest.Tables(t)}
	assert.Equal(t, [2]float64{1, 1}, s.ratio(150, 150))
	middle, spread := math.Pow(2, s.ref.CardSpeedPower), s.ref.CardSpeedSpread
	got := s.ratio(200, 100)
	assert.InDeltaSlice(t, []float64{middle * (1 - spread), middle * (1 + spread)}, got[:], 1e-12)
	assert.Less(t, got[0], got[1])
}
