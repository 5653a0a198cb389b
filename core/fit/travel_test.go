package fit

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"kolvan/core/coretest"
	"kolvan/core/rig"
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
		way := Travel{
			Box: boxOf(t, "cover"), Axis: rapid.IntRange(0, 2).Draw(t, "axis"),
			Turn: units.Degree(rapid.Float64Range(-300, 300).Draw(t, "turn")),
		}
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
			free := float64(way.Clear(body, 1000))
			reach := 0.0
			for _, c := range w.turning {
				reach = math.Max(reach, math.Hypot(c.x, c.y))
			}
			assert.LessOrEqual(t, free, nearest+1e-6, "no step is nearer")
			assert.GreaterOrEqual(t, free, nearest-reach*w.most/steps, "and none is much further")
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

// TestTravelHasNoHandedness: the mirror image, turned the other way, meets over the
// same part; and what is met on a way is met on a longer one.
func TestTravelHasNoHandedness(t *testing.T) {
	size := rapid.Float64Range(5, 100)
	at := rapid.Float64Range(-120, 120)
	rapid.Check(t, func(t *rapid.T) {
		boxOf := func(name string) (b Box) {
			for i := range b.Min {
				b.Min[i] = units.Millimetre(at.Draw(t, name))
				b.Max[i] = b.Min[i] + units.Millimetre(size.Draw(t, name))
			}
			return b
		}
		turn := units.Degree(rapid.Float64Range(1, 170).Draw(t, "turn"))
		way := Travel{Box: boxOf("cover"), Axis: 2, Turn: turn}
		body := boxOf("body")
		mirrored := func(b Box) Box {
			b.Min[1], b.Max[1] = -b.Max[1], -b.Min[1]
			return b
		}
		s, meets := way.Meets(body)
		other := Travel{Box: mirrored(way.Box), Axis: 2, Turn: -turn}
		o, also := other.Meets(mirrored(body))
		assert.Equal(t, meets, also)
		if meets {
			assert.InDelta(t, s.From, o.From, 1e-6)
			assert.InDelta(t, s.To, o.To, 1e-6)
			assert.GreaterOrEqual(t, float64(turn), s.To-1e-9, "within its way")
		}
		way.Turn = turn + 20
		longer, still := way.Meets(body)
		if meets {
			assert.True(t, still)
			assert.InDelta(t, s.From, longer.From, 1e-6)
		}
	})
}

// TestLargestGoesIn: a card grown to what is said to go in fits, and half a millimetre
// more meets something.
func TestLargestGoesIn(t *testing.T) {
	ref := coretest.Tables(t)
	rapid.Check(t, func(t *rapid.T) {
		mm := func(name string, least, most float64) rig.Fact[units.Millimetre] {
			f := rig.Of(units.Millimetre(rapid.Float64Range(least, most).Draw(t, name)))
			f.Exact = true
			return f
		}
		r := rig.New("grown")
		r.Card.Length, r.Card.Height, r.Card.Thickness = mm("length", 50, 200), mm("height", 50, 100), mm("thickness", 10, 50)
		r.Chamber.Box = rig.Extent{X: mm("box", 250, 300), Y: mm("box", 150, 200), Z: mm("box", 100, 150)}
		r.Chamber.CardAt = rig.Place{X: mm("at", 0, 10), Y: mm("at", 0, 10), Z: mm("at", 0, 30)}
		for range rapid.IntRange(0, 3).Draw(t, "things") {
			r.Chamber.Things = append(r.Chamber.Things, rig.Thing{Name: "thing", At: rig.Place{X: mm("x", 0, 250), Y: mm("y", 0, 150),
				Z: mm("z", 0, 100)},
				Size: rig.Extent{X: mm("w", 5, 80), Y: mm("h", 5, 80), Z: mm("d", 5, 80)}})
		}
		c := For(r, ref)
		if gap, known := c.Gap(); !known || gap.Ends.Low < 0 {
			return
		}
		for way, size := range CardSizes(&r.Card) {
			most, known := c.Largest(way)
			require.True(t, known)
			was := size.Value
			size.Value = most
			gap, known := For(r, ref).Gap()
			require.True(t, known)
			assert.GreaterOrEqual(t, float64(gap.Ends.Low), 0.0, "it goes in")
			size.Value = most + 0.5
			gap, _ = For(r, ref).Gap()
			assert.Less(t, float64(gap.Ends.Low), 0.0, "and no larger one")
			size.Value = was
		}
	})
}

// TestTravelPastAPrism: an angle bracket is met where the one or the other of the boxes it is
// made of is, whichever way it and the cover lie; a wedge where small steps see it.
func TestTravelPastAPrism(t *testing.T) {
	of := func(v float64) Fact { return rig.Of(units.Millimetre(v)) }
	rapid.Check(t, func(t *rapid.T) {
		at := func(name string, low, high float64) float64 { return rapid.Float64Range(low, high).Draw(t, name) }
		var way Travel
		for i := range way.Box.Min {
			way.Box.Min[i] = units.Millimetre(at("cover", -150, 150))
			way.Box.Max[i] = way.Box.Min[i] + units.Millimetre(at("size", 1, 120))
			way.Pivot[i] = units.Millimetre(at("hinge", -150, 150))
		}
		way.Axis = rapid.IntRange(0, 2).Draw(t, "way along")
		if rapid.Bool().Draw(t, "turns") {
			way.Turn = units.Degree(at("turn", -300, 300))
		} else {
			way.Slide = units.Millimetre(at("slide", -300, 300))
		}
		axis, long, high, deep, arm := rapid.IntRange(
			0,
			2,
		).Draw(
			t,
			"prism along",
		), at(
			"long",
			20,
			120,
		), at(
			"high",
			20,
			120,
		), at(
			"deep",
			5,
			120,
		), at(
			"arm",
			1,
			18,
		)
		corner := Vec{units.Millimetre(at("x", -150, 150)), units.Millimetre(at("y", -150, 150)), units.Millimetre(at("z", -150, 150))}
		box := func(u, v float64) Box {
			b := Box{Min: corner, Max: corner}
			b.Max[axis] += units.Millimetre(deep)
			b.Max[(axis+1)%3] += units.Millimetre(u)
			b.Max[(axis+2)%3] += units.Millimetre(v)
			return b
		}
		o := rig.Thing{
			Along: rig.Of([]rig.Axis{"x", "y", "z"}[axis]),
			At:    rig.Place{X: of(float64(corner[0])), Y: of(float64(corner[1])), Z: of(float64(corner[2]))},
		}
		for _, p := range [][2]float64{{0, 0}, {long, 0}, {long, arm}, {arm, arm}, {arm, high}, {0, high}} {
			o.Profile = append(o.Profile, rig.ProfilePoint{U: of(p[0]), V: of(p[1])})
		}
		p, is := prismOf(&o, box(long, high))
		require.True(t, is)
		got, meets := way.MeetsPrism(&p)
		a, first := way.Meets(box(long, arm))
		b, second := way.Meets(box(arm, high))
		require.Equal(t, first || second, meets)
		want := a
		switch {
		case first && second:
			want = Strike{math.Min(a.From, b.From), math.Max(a.To, b.To)}
		case second:
			want = b
		}
		assert.InDelta(t, want.From, got.From, 0.01)
		assert.InDelta(t, want.To, got.To, 0.01)
	})
	wedge := prism{axis: 2, pieces: [][]point{{{60, 20}, {100, 20}, {100, 60}}}, ends: [2]units.Millimetre{0, 50}}
	bar := Travel{Box: Box{Vec{0, 0, 0}, Vec{110, 10, 50}}, Axis: 2, Turn: 90}
	s, meets := bar.MeetsPrism(&wedge)
	require.True(t, meets)
	seen := Strike{From: math.Inf(1)}
	for degree := 0.0; degree <= 90; degree += 0.01 {
		w := bar.across(bar.Box)
		moved := w.at(degree * math.Pi / 180)
		if math.Max(beyondOf(moved[:], flatsOf(wedge.pieces[0])), beyondOf(flatsOf(wedge.pieces[0]), moved[:])) < 0 {
			seen = Strike{math.Min(seen.From, degree), degree}
		}
	}
	assert.InDelta(t, seen.From, s.From, 0.02)
	assert.InDelta(t, seen.To, s.To, 0.02)
}
