package fit

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"kolvan/core/units"
)

// TestTravelByHand: ways whose answers were worked out on paper.
func TestTravelByHand(t *testing.T) {
	// A bar 100 by 10 lying along x from the hinge, and a post of 10 at 60 out, 60 up:
	// its far corner is reached, the ends of the turn are clear.
	cage := Travel{Box: Box{Vec{0, 0, 0}, Vec{100, 10, 50}}, Axis: 2, Turn: 90}
	post := Box{Vec{50, 50, 10}, Vec{60, 60, 40}}
	s, meets := cage.Meets(post)
	require.True(t, meets)
	from := degrees(math.Atan2(50, 60) - math.Asin(10/math.Hypot(60, 50))) // the bar's upper side comes to the near corner
	to := degrees(math.Atan2(60, 50))                                      // its lower side leaves the far one
	assert.InDelta(t, from, s.From, 1e-6)
	assert.InDelta(t, to, s.To, 1e-6)

	_, meets = cage.Meets(Box{Vec{50, 50, 50}, Vec{60, 60, 90}})
	assert.False(t, meets, "past it along the hinge")
	far := Box{Vec{80, 80, 10}, Vec{90, 90, 40}}
	_, meets = cage.Meets(far)
	assert.False(t, meets, "out of reach")
	assert.InDelta(t, math.Hypot(80, 80)-math.Hypot(100, 10), float64(cage.Clear(far, 50)), 1e-6)

	tray := Travel{Box: Box{Vec{0, 0, 0}, Vec{40, 10, 10}}, Axis: 0, Slide: 100}
	s, meets = tray.Meets(Box{Vec{90, 5, 5}, Vec{95, 20, 20}})
	require.True(t, meets)
	assert.Equal(t, Strike{50, 95}, s)
	assert.InDelta(t, 3, float64(tray.Clear(Box{Vec{90, 13, 0}, Vec{95, 20, 20}}, 50)), 1e-9)
	tray.Slide = -100
	_, meets = tray.Meets(Box{Vec{90, 5, 5}, Vec{95, 20, 20}})
	assert.False(t, meets)
}

// TestTravelIsWhatSmallStepsSee: the exact answer against a thousand steps of the turn.
func TestTravelIsWhatSmallStepsSee(t *testing.T) {
	side := rapid.Float64Range(1, 120)
	at := rapid.Float64Range(-150, 150)
	boxOf := func(t *rapid.T, name string) (b Box) {
		for i := range b.Min {
			b.Min[i] = units.Millimetre(at.Draw(t, name))
			b.Max[i] = b.Min[i] + units.Millimetre(side.Draw(t, name))
		}
		return b
	}
	rapid.Check(t, func(t *rapid.T) {
		way := Travel{Box: boxOf(t, "cover"), Axis: rapid.IntRange(0, 2).Draw(t, "axis"), Turn: units.Degree(rapid.Float64Range(-300, 300).Draw(t, "turn"))}
		for i := range way.Pivot {
			way.Pivot[i] = units.Millimetre(at.Draw(t, "hinge"))
		}
		body := boxOf(t, "body")
		if way.Turn == 0 {
			return
		}
		const steps = 1000
		w := way.across(body)
		aside := apartAlong(way.Axis, way.Box, body)
		deepest, nearest, first := math.Inf(-1), math.Inf(1), math.Inf(1)
		for i := range steps + 1 {
			angle := w.most * float64(i) / steps
			depth := w.depth(angle)
			if deepest = math.Max(deepest, depth); depth > 0.01 {
				first = math.Min(first, degrees(angle))
			}
			nearest = math.Min(nearest, w.distance(angle))
		}
		s, meets := way.Meets(body)
		switch {
		case aside > -touch:
			assert.False(t, meets)
		case deepest > 0.01:
			require.True(t, meets, "a step meets it")
			assert.LessOrEqual(t, s.From, first+1e-9)
		}
		if !meets && aside <= 0 {
			clear := float64(way.Clear(body, 1000))
			reach := 0.0
			for _, c := range w.turning {
				reach = math.Max(reach, math.Hypot(c.x, c.y))
			}
			assert.LessOrEqual(t, clear, nearest+1e-6, "no step is nearer")
			assert.GreaterOrEqual(t, clear, nearest-reach*w.most/steps, "and none is much further")
		}
	})
}

func BenchmarkTravel(b *testing.B) {
	cage := Travel{Box: Box{Vec{0, 0, 0}, Vec{100, 10, 50}}, Axis: 2, Turn: 90}
	post := Box{Vec{72, 72, 10}, Vec{82, 82, 40}}
	for b.Loop() {
		cage.Meets(post)
		cage.Clear(post, 1.5)
	}
}
