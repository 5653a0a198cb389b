package fit_test

import (
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"kolvan/core/coretest"
	"kolvan/core/finding"
	"kolvan/core/fit"
	"kolvan/core/rig"
	"kolvan/core/units"
)

func mm(v float64) fit.Fact { return rig.Of(units.Millimetre(v)) }

func place(x, y, z float64) rig.Place   { return rig.Place{X: mm(x), Y: mm(y), Z: mm(z)} }
func extent(x, y, z float64) rig.Extent { return rig.Extent{X: mm(x), Y: mm(y), Z: mm(z)} }

// chamber is a box of 300 × 150 × 100 mm with a card of 200 × 100 × 40 mm in it.
func chamber(things ...rig.Thing) *rig.Rig {
	r := rig.New("chamber")
	r.Chamber = rig.Chamber{Name: "case", Box: extent(300, 150, 100), CardAt: place(0, 10, 20), Things: things}
	r.Card = rig.Card{Length: mm(200), Height: mm(100), Thickness: mm(40)}
	return r
}

func thing(x, y, z, dx, dy, dz float64) rig.Thing {
	return rig.Thing{Name: "thing", At: place(x, y, z), Size: extent(dx, dy, dz)}
}

func TestSmallestGap(t *testing.T) {
	for _, c := range []struct {
		name  string
		rig   *rig.Rig
		gap   float64
		where string
	}{
		{"nothing in it: the wall at the board's side", chamber(), 20, "/chamber/box"},
		{"a thing ahead", chamber(thing(206, 0, 0, 50, 150, 100)), 6, "/chamber/things/0"},
		{"a thing above the card", chamber(thing(0, 113, 0, 300, 10, 100)), 3, "/chamber/things/0"},
		{"a thing ahead and above, across the corner", chamber(thing(203, 114, 20, 10, 10, 10)), 5, "/chamber/things/0"},
		{"a thing it reaches into, by the least way out", chamber(thing(190, 50, 30, 50, 20, 100)), -10, "/chamber/things/0"},
		{"a thing it only touches", chamber(thing(200, 0, 0, 10, 150, 100)), 0, "/chamber/things/0"},
		{
			"what holds the card does not count",
			chamber(rig.Thing{Name: "slot", At: place(50, 0, 20), Size: extent(90, 12, 10), Holds: true}), 20, "/chamber/box",
		},
	} {
		t.Run(c.name, func(t *testing.T) {
			gap, known := fit.For(c.rig, coretest.Tables(t)).Gap()
			require.True(t, known)
			assert.InDelta(t, c.gap, float64(gap.Ends.Low), 1e-9)
			assert.Equal(t, c.where, gap.Where)
		})
	}
}

func TestWalls(t *testing.T) {
	ref := coretest.Tables(t)
	r := chamber()
	r.Card.Length = mm(301)
	gap, _ := fit.For(r, ref).Gap()
	assert.Equal(t, "the far wall", gap.Name)
	assert.InDelta(t, -1, float64(gap.Ends.Low), 1e-9)

	r = chamber()
	r.Chamber.CardAt = place(-2, 10, 20)
	gap, _ = fit.For(r, ref).Gap()
	assert.Equal(t, "the bracket's wall", gap.Name, "beyond the wall it is held at")
	r.Chamber.CardAt = place(0, 0, 20)
	gap, _ = fit.For(r, ref).Gap()
	assert.InDelta(t, 20, float64(gap.Ends.Low), 1e-9, "held at bracket and slot: touching there is meant")
}

func TestAxesTurnTheCard(t *testing.T) {
	ref := coretest.Tables(t)
	for axes, want := range map[rig.Axes]fit.Vec{
		"xyz": {200, 100, 40}, "xzy": {200, 40, 100}, "yxz": {100, 200, 40}, "yzx": {40, 200, 100}, "zxy": {100, 40, 200}, "zyx": {40, 100, 200},
	} {
		r := chamber()
		r.Chamber.Axes = rig.Of(axes)
		assert.Equal(t, want, fit.For(r, ref).Card.Size(), axes)
	}
}

func TestLongestCardThatStillGoesIn(t *testing.T) {
	ref := coretest.Tables(t)
	longest := func(r *rig.Rig) float64 {
		l, known := fit.For(r, ref).Largest(0)
		require.True(t, known)
		return float64(l)
	}
	assert.InDelta(t, 300, longest(chamber()), 1e-9)
	assert.InDelta(t, 260, longest(chamber(thing(260, 0, 0, 10, 150, 100))), 1e-9)
	assert.InDelta(t, 300, longest(chamber(thing(260, 120, 0, 10, 30, 100))), 1e-9, "a thing above the card is passed")
	r := chamber()
	r.Chamber.Covers = []rig.Cover{{Name: "cage", At: place(250, 0, 0), Size: extent(20, 150, 100)}}
	assert.InDelta(t, 250, longest(r), 1e-9)
	r.Brief.CoversOff = []string{"cage"}
	assert.InDelta(t, 300, longest(r), 1e-9, "it may stay off")
}

func TestSpanTellsWhereTheGapLies(t *testing.T) {
	ref := coretest.Tables(t)
	for _, c := range []struct {
		rig      *rig.Rig
		axis     int
		from, to units.Millimetre
	}{
		{chamber(thing(206, 0, 0, 50, 150, 100)), 0, 200, 206},
		{chamber(thing(0, 113, 0, 300, 10, 100)), 1, 110, 113},
		{chamber(), 2, 20, 0},
		{chamber(thing(190, 0, 0, 50, 150, 100)), 0, 200, 190},
	} {
		ch := fit.For(c.rig, ref)
		gap, known := ch.Gap()
		require.True(t, known)
		axis, from, to := ch.Span(gap)
		assert.Equal(t, []any{c.axis, c.from, c.to}, []any{axis, from, to})
	}
}

func TestGapIsUnknownWhileAnythingIs(t *testing.T) {
	ref := coretest.Tables(t)
	for name, forget := range map[string]func(*rig.Rig){
		"card length":   func(r *rig.Rig) { r.Card.Length = fit.Fact{} },
		"where it is":   func(r *rig.Rig) { r.Chamber.CardAt.Z = fit.Fact{} },
		"chamber depth": func(r *rig.Rig) { r.Chamber.Box.Z = fit.Fact{} },
		"thing's place": func(r *rig.Rig) { r.Chamber.Things[0].At.X = fit.Fact{} },
		"thing's size":  func(r *rig.Rig) { r.Chamber.Things[0].Size.Y = fit.Fact{} },
	} {
		r := chamber(thing(206, 0, 0, 50, 150, 100))
		forget(r)
		_, known := fit.For(r, ref).Gap()
		assert.False(t, known, name)
	}
	open := rig.New("open")
	open.Chamber.Open = true
	_, known := fit.For(open, ref).Gap()
	assert.False(t, known, "in the open there is nothing to measure")
}

// TestToleranceIsOfWhatMakesTheGap: a gap knows only the lengths between its two
// faces; across a corner each axis counts by its share of the way.
func TestToleranceIsOfWhatMakesTheGap(t *testing.T) {
	told := func(v, tolerance float64) fit.Fact {
		return fit.Fact{Known: true, Exact: tolerance == 0, Value: units.Millimetre(v), Tolerance: tolerance}
	}
	exact := func(things ...rig.Thing) *rig.Rig {
		r := chamber(things...)
		r.Chamber.CardAt = rig.Place{X: told(50, 0), Y: told(10, 0), Z: told(20, 0)}
		r.Card.Length, r.Card.Height, r.Card.Thickness = told(200, 6), told(100, 0), told(40, 0)
		return r
	}
	near := exact(rig.Thing{
		Name: "behind", At: rig.Place{X: told(0, 0.3), Y: told(0, 0), Z: told(0, 0)},
		Size: rig.Extent{X: told(48, 0.4), Y: told(150, 0), Z: told(100, 0)},
	})
	corner := exact(rig.Thing{
		Name: "corner", At: rig.Place{X: told(253, 0), Y: told(114, 2), Z: told(20, 0)},
		Size: rig.Extent{X: told(10, 0), Y: told(10, 0), Z: told(10, 0)},
	})
	for _, c := range []struct {
		rig                 *rig.Rig
		gap, within, chance float64
	}{
		{near, 2, 0.5, 1},           // √(0.3² + 0.4²): the card's ±6 is on its other side
		{corner, 5, 3.9395, 0.9944}, // √((3/5·6)² + (4/5·2)²), Φ(2·5/3.94)
	} {
		gap, known := fit.For(c.rig, coretest.Tables(t)).Gap()
		require.True(t, known)
		assert.InDelta(t, c.gap, float64(gap.Ends.Low), 1e-9)
		assert.InDelta(t, c.within, float64(gap.Tolerance), 1e-3)
		assert.InDelta(t, c.chance, float64(gap.Chance()), 1e-4)
	}
}

// TestCertainInSpiteOfWhatIsMissing: whatever a length that is not told may be, the
// gap lies between the ends given for it.
func TestCertainInSpiteOfWhatIsMissing(t *testing.T) {
	ref := coretest.Tables(t)
	forget := []func(*rig.Rig) *fit.Fact{
		func(r *rig.Rig) *fit.Fact { return &r.Card.Length }, func(r *rig.Rig) *fit.Fact { return &r.Card.Thickness },
		func(r *rig.Rig) *fit.Fact { return &r.Chamber.CardAt.Y }, func(r *rig.Rig) *fit.Fact { return &r.Chamber.Box.Z },
		func(r *rig.Rig) *fit.Fact { return &r.Chamber.Things[0].At.X }, func(r *rig.Rig) *fit.Fact { return &r.Chamber.Things[0].Size.Z },
	}
	rapid.Check(t, func(t *rapid.T) {
		at := func(name string, low, high int) float64 { return float64(rapid.IntRange(low, high).Draw(t, name)) }
		r := chamber(thing(at("x", 0, 300), at("y", 0, 150), at("z", 0, 100), at("dx", 1, 200), at("dy", 1, 100), at("dz", 1, 100)))
		whole, _ := fit.For(r, ref).GapEnds()
		*forget[rapid.IntRange(0, len(forget)-1).Draw(t, "forgotten")](r) = fit.Fact{}
		ends, some := fit.For(r, ref).GapEnds()
		if !some || whole.Low < ends.Low || whole.High > ends.High {
			t.Fatalf("%v was said to lie within %v", whole, ends)
		}
	})
}

// TestGapOfBoxes: it is the same from both sides, does not change when both are
// moved, and moving them apart by an overlap makes them touch.
func TestGapOfBoxes(t *testing.T) {
	anyBox := rapid.Custom(func(t *rapid.T) fit.Box {
		var b fit.Box
		for i := range b.Min {
			b.Min[i] = units.Millimetre(rapid.IntRange(-100, 100).Draw(t, "at"))
			b.Max[i] = b.Min[i] + units.Millimetre(rapid.IntRange(1, 100).Draw(t, "size"))
		}
		return b
	})
	shift := func(b fit.Box, axis int, by units.Millimetre) fit.Box {
		b.Min[axis] += by
		b.Max[axis] += by
		return b
	}
	rapid.Check(t, func(t *rapid.T) {
		a, b := anyBox.Draw(t, "a"), anyBox.Draw(t, "b")
		gap := a.Gap(b)
		if gap != b.Gap(a) {
			t.Fatalf("%v one way, %v the other", gap, b.Gap(a))
		}
		axis := rapid.IntRange(0, 2).Draw(t, "axis")
		if moved := shift(a, axis, 7).Gap(shift(b, axis, 7)); moved != gap {
			t.Fatalf("%v, moved together %v", gap, moved)
		}
		if gap >= 0 {
			return
		}
		freed := false
		for i := range 3 {
			freed = freed || shift(a, i, -gap).Gap(b) == 0 || shift(a, i, gap).Gap(b) == 0
		}
		if !freed {
			t.Fatalf("moving by %v along one axis does not free them", gap)
		}
	})
}

// TestSlacksOfCards: the widest first; what a card meets has to come out, with what is
// lost, but a wall or the papers do not give way.
func TestSlacksOfCards(t *testing.T) {
	r := chamber(thing(240, 0, 0, 30, 150, 100))
	r.Chamber.Things[0].Loses = "the drive"
	card := func(name string, long float64) rig.Card {
		return rig.Card{Name: name, Length: mm(long), Height: mm(100), Thickness: mm(40)}
	}
	cards := []rig.Card{card("too long", 320), card("short", 150), {Name: "nobody measured it"}, card("long", 280), card("just", 238)}
	list := fit.Slacks(r, cards, coretest.Tables(t))
	require.Len(t, list, 4)
	for i, want := range []fit.Slack{
		{Card: 1, Goes: true}, {Card: 4, Goes: true}, {Card: 3, Out: []int{0}, Goes: true}, {Card: 0, Out: []int{0}},
	} {
		list[i].Gap = nil
		assert.Equal(t, want, list[i])
	}
	list = fit.Slacks(r, cards, coretest.Tables(t))
	assert.Equal(t, 1, fit.LargestOf(list, cards), "the one of 238 mm")
}

// TestPrismsAreMetAtTheirSides: a wedge that leaves a corner of its box free is met later
// than the box; a prism with the corners of a box is met as that; and the gap is that of
// the nearest of many points of its outline.
func TestPrismsAreMetAtTheirSides(t *testing.T) {
	ref := coretest.Tables(t)
	gapOf := func(o rig.Thing) float64 {
		r := chamber(o)
		for _, g := range fit.For(r, ref).Gaps {
			if g.Where == "/chamber/things/0" {
				return float64(g.Ends.Low)
			}
		}
		return 1e9
	}
	corner := func(u, v float64) rig.ProfilePoint { return rig.ProfilePoint{U: mm(u), V: mm(v)} }
	wedge := thing(190, 100, 0, 60, 60, 100) // the card ends at 200, 110
	assert.InDelta(t, -10, gapOf(wedge), 1e-9, "its box")
	wedge.Along, wedge.Profile = rig.Of(rig.Axis("z")), []rig.ProfilePoint{corner(0, 60), corner(60, 0), corner(60, 60)}
	assert.InDelta(t, 40/math.Sqrt2, gapOf(wedge), 1e-9, "its slope")
	wedge.Profile = []rig.ProfilePoint{corner(0, 0), corner(60, 0), corner(0, 60), corner(60, 60)}
	assert.InDelta(t, -10, gapOf(wedge), 1e-9, "sides that cross: the hull around its corners")
	wedge.Profile = []rig.ProfilePoint{corner(0, 12), corner(0, 60), corner(60, 60), corner(60, 0), corner(12, 0), corner(12, 12)}
	assert.InDelta(t, 2, gapOf(wedge), 1e-9, "the card's corner stands in its notch")
	wedge.Profile[0], wedge.Profile[4], wedge.Profile[5] = corner(0, 7), corner(7, 0), corner(7, 7)
	assert.InDelta(t, -3*math.Sqrt2, gapOf(wedge), 1e-6, "3 mm too far in it, both ways")

	rapid.Check(t, func(t *rapid.T) {
		at := func(name string, low, high float64) float64 { return rapid.Float64Range(low, high).Draw(t, name) }
		x, y, long, high := at("x", 120, 230), at("y", 20, 140), at("long", 20, 80), at("high", 20, 80)
		armU, armV := at("arm u", 2, 18), at("arm v", 2, 18)
		bent := thing(x, y, 0, long, high, 100)
		bent.Along = rig.Of(rig.Axis("z"))
		bent.Profile = []rig.ProfilePoint{
			corner(0, 0), corner(long, 0), corner(long, armV), corner(armU, armV), corner(armU, high), corner(0, high),
		}
		arms := min(gapOf(thing(x, y, 0, long, armV, 100)), gapOf(thing(x, y, 0, armU, high, 100)))
		gap := gapOf(bent)
		if arms >= 0 {
			assert.InDelta(t, arms, gap, 1e-6, "two boxes that touch")
			return
		}
		assert.LessOrEqual(t, gap, arms+1e-6, "no nearer a way out than of each by itself")
		free, least := false, math.Inf(1)
		for k := range 120 { // ways out of it, three degrees apart
			sin, cos := math.Sincos(float64(k) * math.Pi / 60)
			by := func(far float64) bool {
				moved := bent
				moved.At = place(x-far*cos, y-far*sin, 0)
				return gapOf(moved) >= -0.001
			}
			free = free || by(-gap*1.002)
			for far := -gap / 8; far < min(-gap, least); far -= gap / 8 {
				if by(far) {
					least = far
				}
			}
		}
		assert.GreaterOrEqual(t, least, -gap-0.01, "no way is shorter")
		assert.True(t, free || gap < -59, "and one is as short")
	})

	rapid.Check(t, func(t *rapid.T) {
		at := func(name string, low, high float64) float64 { return rapid.Float64Range(low, high).Draw(t, name) }
		o := thing(at("x", 150, 260), at("y", 60, 160), 0, 80, 80, 100)
		o.Along = rig.Of(rig.Axis("z"))
		points := [][2]float64{}
		for range 3 {
			u, v := at("u", 0, 80), at("v", 0, 80)
			o.Profile, points = append(o.Profile, corner(u, v)), append(
				points, [2]float64{float64(o.At.X.Value) + u, float64(o.At.Y.Value) + v},
			)
		}
		least := math.Inf(1)
		for i := range points {
			for k := range 2001 {
				share, q := float64(k)/2000, points[(i+1)%3]
				x, y := points[i][0]+share*(q[0]-points[i][0]), points[i][1]+share*(q[1]-points[i][1])
				least = math.Min(least, math.Hypot(math.Max(0, math.Max(-x, x-200)), math.Max(0, math.Max(10-y, y-110))))
			}
		}
		if gap := gapOf(o); gap > 0 || least > 0.1 {
			assert.InDelta(t, least, gap, 0.1)
		}
	})

	draw := rand.New(rand.NewPCG(1, 1))
	for range 5000 { // rounding makes some of them turn both ways, which is no notch
		o := thing(120, 2, 0, 160, 140, 100)
		o.Along = rig.Of(rig.Axis("z"))
		u, v, share := 100+60*draw.Float64(), 120+20*draw.Float64(), draw.Float64()
		o.Profile = []rig.ProfilePoint{corner(0, 0), corner(share*u, share*v), corner(u, v)}
		require.Less(t, gapOf(o), 0.0, "a sliver across the card is in it: %g, %g, %g", u, v, share)
	}
}

// TestTurningBeforeAWall: the outside of the tightest bend a cable makes, walked in a
// thousand steps, reaches the wall or does not; a thinner cable, or more room, never
// makes it worse, and neither does an untold thickness hide what is certain.
func TestTurningBeforeAWall(t *testing.T) {
	tables := coretest.Tables(t)
	speaks := func(ahead float64, thick fit.Fact) finding.Level {
		r := chamber()
		r.Route.Stages = []rig.Stage{{
			Name: "cable", Kind: rig.Of(rig.Cable), Line: rig.Of(rig.LineTwinax), Diameter: thick,
			AtSocket: rig.Mouth{Wall: mm(ahead)},
		}}
		var out finding.List
		fit.For(r, tables).Judge(&out)
		for _, f := range out.Findings {
			if f.Rule == "fit.strain" {
				return f.Level
			}
		}
		return finding.Note
	}
	rapid.Check(t, func(t *rapid.T) {
		room, thick := rapid.Float64Range(0, 200).Draw(t, "room"), rapid.Float64Range(1, 12).Draw(t, "thick")
		deepest := 0.0
		for i := range 1001 {
			deepest = math.Max(deepest, 10+9*thick*math.Sin(float64(i)/1000*math.Pi/2))
		}
		if math.Abs(deepest-room) < 0.01 {
			return
		}
		assert.Equal(t, deepest > room, speaks(room, mm(thick)) == finding.Risk, "%v wanted", deepest)
		if told := speaks(room, mm(thick)); told == finding.Risk {
			assert.NotEqual(t, finding.Note, speaks(room, fit.Fact{}), "what nobody told is not fine")
			assert.Equal(t, finding.Risk, speaks(room*0.9, mm(thick)), "nearer")
		}
	})
}
