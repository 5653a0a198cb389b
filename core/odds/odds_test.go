package odds_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"kolvan/core/odds"
)

// TestCountInterval: the table of the reference, section 1.
func TestCountInterval(t *testing.T) {
	for events, want := range [][2]float64{{0, 3.69}, {0.025, 5.57}, {0.242, 7.22}, {0.619, 8.77}} {
		low, high := odds.CountInterval(events)
		assert.InDelta(t, want[0], low, 0.0006, events)
		assert.InDelta(t, want[1], high, 0.006, events)
	}
	assert.InDelta(t, 3, odds.NoneSeen, 0.005)
}

func TestNormal(t *testing.T) {
	assert.InDelta(t, 0.5, odds.Below(0), 1e-12)
	assert.InDelta(t, 0.9332, odds.Below(1.5), 1e-4)
	assert.InDelta(t, 0.3989, odds.Density(0), 1e-4)
}
