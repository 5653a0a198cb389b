package fit

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"kolvan/core/reference"
	"kolvan/core/rig"
	"kolvan/core/units"
	_ "kolvan/internal/oneseed"
)

// TestPassesAtASlant: the formula against turning the shell a little at a time.
func TestPassesAtASlant(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		side := rapid.Float64Range(1, 60)
		w, h, ow, oh := side.Draw(t, "w"), side.Draw(t, "h"), side.Draw(t, "ow"), side.Draw(t, "oh")
		over := math.Inf(1) // the least it is too large by, over all slants
		for angle := 0.0; angle <= math.Pi/2; angle += 0.0005 {
			sin, cos := math.Sincos(angle)
			over = math.Min(over, math.Max(w*cos+h*sin-ow, w*sin+h*cos-oh))
		}
		passes := Passes(units.Millimetre(w), units.Millimetre(h), units.Millimetre(ow), units.Millimetre(oh))
		switch {
		case over < -0.001:
			assert.True(t, passes)
		case over > 0.05:
			assert.False(t, passes)
		}
	})
}

// TestLaidIsTheLengthOfItsPieces: straights and arcs added up one by one.
func TestLaidIsTheLengthOfItsPieces(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		points := []Vec{{}}
		at := rapid.Float64Range(-200, 200)
		for range rapid.IntRange(1, 5).Draw(t, "corners") {
			points = append(
				points, Vec{units.Millimetre(at.Draw(t, "x")), units.Millimetre(at.Draw(t, "y")), units.Millimetre(at.Draw(t, "z"))},
			)
		}
		radius := rapid.Float64Range(0, 40).Draw(t, "radius")
		length, most := laid(points, radius)
		radius = math.Min(radius, most)
		pieces, cut := 0.0, make([]float64, len(points))
		for i := 1; i+1 < len(points); i++ {
			turn := turnAt(points[i-1], points[i], points[i+1])
			cut[i] = radius * math.Tan(turn/2)
			pieces += radius * turn
		}
		for i := 1; i < len(points); i++ {
			straight := distanceOf(points[i-1], points[i]) - cut[i-1] - cut[i]
			assert.GreaterOrEqual(t, straight, -1e-6, "its corners have room")
			pieces += straight
		}
		assert.InDelta(t, pieces, length, 1e-6)
	})
}

// TestTips: by hand; and a pull toward the edge never makes it stand more firmly;
// what a base is made for is what it holds.
func TestTips(t *testing.T) {
	assert.InDelta(t, 26.565, float64(Tips(200, 200, 2000, 0, 0)), 0.001)
	assert.InDelta(t, 5.962, float64(Tips(200, 200, 2000, 5, 300)), 0.001)
	rapid.Check(t, func(t *rapid.T) {
		size, force := rapid.Float64Range(10, 500), rapid.Float64Range(0, 30)
		base, height, at := units.Millimetre(size.Draw(t, "base")), units.Millimetre(size.Draw(t, "height")), units.Millimetre(size.Draw(t, "at"))
		mass, pull := units.Gram(size.Draw(t, "mass")*10), units.Newton(force.Draw(t, "pull"))
		assert.LessOrEqual(t, float64(Tips(base, height, mass, pull+1, at)), float64(Tips(base, height, mass, pull, at)))
		if wide, stands := BaseFor(20, height, mass, pull, at); stands {
			assert.InDelta(t, 20, float64(Tips(wide, height, mass, pull, at)), 1e-6, "a base made for an angle tips at it")
		}
	})
}

// TestWayIsHeldAgainstBodies: the distance of a way with one corner from a box is that of
// its two straights and its arc, walked in ten thousand steps.
func TestWayIsHeldAgainstBodies(t *testing.T) {
	ref, err := reference.Load()
	require.NoError(t, err)
	of := func(v float64) Fact { return rig.Of(units.Millimetre(v)) }
	rapid.Check(t, func(t *rapid.T) {
		at := func(name string) float64 { return rapid.Float64Range(-200, 200).Draw(t, name) }
		angle, side := rapid.Float64Range(0.2, 2.6).Draw(t, "turn"), 400.0
		s := rig.Stage{Kind: rig.Of(rig.Cable), Line: rig.Of(rig.LineFlat), Diameter: rig.Of(units.Millimetre(2))}
		sin, cos := math.Sincos(angle)
		for _, p := range [][2]float64{{-side, 0}, {0, 0}, {side * cos, side * sin}} {
			s.Path = append(s.Path, rig.Corner{Place: rig.Place{X: of(p[0]), Y: of(p[1]), Z: of(0)}})
		}
		bow, known := BowOf(&s, ref)
		require.True(t, known)
		body := Box{Min: Vec{units.Millimetre(at("x")), units.Millimetre(at("y")), units.Millimetre(at("z"))}}
		for i, name := range []string{"wide", "high", "deep"} {
			body.Max[i] = body.Min[i] + units.Millimetre(rapid.Float64Range(1, 80).Draw(t, name))
		}
		const radius = 6 // 5 mm inside, 1 to the centre line
		cut, least := radius*math.Tan(angle/2), math.Inf(1)
		see := func(x, y float64) {
			off := [3]float64{}
			for i, v := range [3]float64{x, y, 0} {
				off[i] = math.Max(0, math.Max(float64(body.Min[i])-v, v-float64(body.Max[i])))
			}
			least = math.Min(least, math.Hypot(math.Hypot(off[0], off[1]), off[2]))
		}
		for i := range 10001 {
			share := float64(i) / 10000
			see(-side+share*(side-cut), 0)
			see((cut+share*(side-cut))*cos, (cut+share*(side-cut))*sin)
			up, in := math.Sincos(share*angle - math.Pi/2)
			see(-cut+radius*in, radius+radius*up)
		}
		assert.InDelta(t, least, float64(ClearOf(bow.Line, body)), 0.13)
	})
}

// TestWayIsHeldAgainstAPrism: from an angle bracket a way is as far as from the nearer of the
// two boxes it is made of, and runs free through its notch.
func TestWayIsHeldAgainstAPrism(t *testing.T) {
	of := func(v float64) Fact { return rig.Of(units.Millimetre(v)) }
	rapid.Check(t, func(t *rapid.T) {
		at := func(name string, low, high float64) float64 { return rapid.Float64Range(low, high).Draw(t, name) }
		long, high, deep, arm := at("long", 20, 80), at("high", 20, 80), at("deep", 5, 60), at("arm", 1, 15)
		axis := rapid.IntRange(0, 2).Draw(t, "axis")
		o := rig.Thing{Along: rig.Of([]rig.Axis{"x", "y", "z"}[axis]), At: rig.Place{X: of(0), Y: of(0), Z: of(0)}}
		for _, p := range [][2]float64{{0, 0}, {long, 0}, {long, arm}, {arm, arm}, {arm, high}, {0, high}} {
			o.Profile = append(o.Profile, rig.ProfilePoint{U: of(p[0]), V: of(p[1])})
		}
		box := func(u, v float64) (b Box) {
			b.Max[axis], b.Max[(axis+1)%3], b.Max[(axis+2)%3] = units.Millimetre(deep), units.Millimetre(u), units.Millimetre(v)
			return b
		}
		p, is := prismOf(&o, box(long, high))
		require.True(t, is)
		var line []Vec
		for range 4 {
			line = append(
				line,
				Vec{units.Millimetre(at("x", -50, 120)), units.Millimetre(at("y", -50, 120)), units.Millimetre(at("z", -50, 120))},
			)
		}
		want := min(ClearOf(line, box(long, arm)), ClearOf(line, box(arm, high)))
		assert.InDelta(t, float64(want), float64(p.clearOf(line)), 1e-3)
	})
}
