package made_test

import (
	"archive/zip"
	"bytes"
	"encoding/binary"
	"encoding/xml"
	"math"
	"slices"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"kolvan/core/coretest"
	"kolvan/core/made"
	"kolvan/core/rig"
	"kolvan/core/units"
	_ "kolvan/internal/oneseed"
)

func mm(v float64) rig.Fact[units.Millimetre] { return rig.Of(units.Millimetre(v)) }

// parts are of a rig with one of everything.
func parts(t *testing.T) map[string]made.Part {
	r := rig.New("made")
	r.Route.Stages = []rig.Stage{{
		Name: "cable", Shell: rig.Shell{Width: mm(30), Height: mm(12)}, Openings: []rig.Layer{{Name: "cover & <frame>"}},
	}}
	r.Chamber.Covers = []rig.Cover{{Name: "lid", Raised: mm(8)}}
	r.Chamber.Opening = rig.Opening{Hole: rig.Hole{Wide: mm(40), High: mm(90)}}
	r.Chamber.Stand = rig.Stand{
		Base: mm(60), Height: mm(150), Edge: mm(70), Lifted: mm(25), Mass: rig.Of[units.Gram](4000),
		Pull: rig.Of[units.Newton](3), PullAt: mm(100),
	}
	list, err := made.For(r, coretest.Tables(t))
	require.NoError(t, err)
	byKey := map[string]made.Part{}
	for _, p := range list {
		byKey[p.Key] = p
	}
	require.Len(t, byKey, 5)
	return byKey
}

// TestSolidsAreClosed, right side out, and hold what their measures say.
func TestSolidsAreClosed(t *testing.T) {
	all := parts(t)
	tan, weighs := math.Tan(20*math.Pi/180), 4*9.81
	base := func(floor float64) float64 { return 2 * (weighs*(150+floor)*tan + 3*(100+floor)) / (weighs - 3*tan) }
	for key, volume := range map[string]float64{
		"stand-off-1": 64 / 2 * math.Sin(2*math.Pi/64) * (3.5*3.5 - 1.7*1.7) * 8, // of a ring of 64 sides
		"foot":        (base(6)*6 + 2*6*30) * 120,
		"cradle":      (base(31)*6 + (71+2*6)*25 + 2*6*30) * 40,
		"bracket":     (60*110 + 40*14 - 32*82 - 32/2*math.Sin(2*math.Pi/32)*(4*1.7*1.7+2*2)) * 3,
	} {
		s := all[key].Solid
		require.NoError(t, s.Fault())
		assert.InDelta(t, volume, s.Volume(), volume*1e-9, key)
		var stl, mf bytes.Buffer
		require.NoError(t, s.WriteSTL(&stl))
		assert.InDelta(t, volume, volumeOfSTL(t, stl.Bytes()), volume*1e-4, "read back")
		require.NoError(t, s.Write3MF(&mf))
		assert.InDelta(t, volume, volumeOf3MF(t, mf.Bytes()), volume*1e-4, "read back")
	}
	open := made.Solid{At: [][3]float64{{0, 0, 0}, {1, 0, 0}, {0, 1, 0}}, Triangles: [][3]int{{0, 1, 2}}}
	require.Error(t, open.Fault())
	_, err := made.Extrude("bow", []made.Point{{X: 0, Y: 0}, {X: 10, Y: 10}, {X: 10, Y: 0}, {X: 0, Y: 10}}, 5)
	assert.ErrorContains(t, err, "crosses itself")
}

func volumeOfSTL(t *testing.T, raw []byte) (sum float64) {
	count := binary.LittleEndian.Uint32(raw[80:])
	require.Len(t, raw, 84+50*int(count))
	for i := range int(count) {
		var f [12]float32
		require.NoError(t, binary.Read(bytes.NewReader(raw[84+50*i:]), binary.LittleEndian, &f))
		a, b, c := f[3:6], f[6:9], f[9:12]
		sum += float64(a[0]*(b[1]*c[2]-b[2]*c[1])+a[1]*(b[2]*c[0]-b[0]*c[2])+a[2]*(b[0]*c[1]-b[1]*c[0])) / 6
		n := f[0:3]
		assert.InDelta(t, 1, float64(n[0]*n[0]+n[1]*n[1]+n[2]*n[2]), 1e-4, "a normal of length one")
	}
	return sum
}

func volumeOf3MF(t *testing.T, raw []byte) float64 {
	z, err := zip.NewReader(bytes.NewReader(raw), int64(len(raw)))
	require.NoError(t, err)
	f, err := z.Open("3D/3dmodel.model")
	require.NoError(t, err)
	var model struct {
		Unit     string `xml:"unit,attr"`
		Vertices []struct {
			X float64 `xml:"x,attr"`
			Y float64 `xml:"y,attr"`
			Z float64 `xml:"z,attr"`
		} `xml:"resources>object>mesh>vertices>vertex"`
		Triangles []struct {
			A int `xml:"v1,attr"`
			B int `xml:"v2,attr"`
			C int `xml:"v3,attr"`
		} `xml:"resources>object>mesh>triangles>triangle"`
	}
	require.NoError(t, xml.NewDecoder(f).Decode(&model))
	assert.Equal(t, "millimeter", model.Unit)
	s := made.Solid{Name: "read back"}
	for _, v := range model.Vertices {
		s.At = append(s.At, [3]float64{v.X, v.Y, v.Z})
	}
	for _, f := range model.Triangles {
		s.Triangles = append(s.Triangles, [3]int{f.A, f.B, f.C})
	}
	require.NoError(t, s.Fault())
	return s.Volume()
}

// TestOutlinesMeasureRight: the loop is closed and as large as the shell with its
// clearance, and the line to check is 100 mm.
func TestOutlinesMeasureRight(t *testing.T) {
	p := parts(t)["opening-1-1"]
	assert.True(t, p.Permanent)
	low, high := p.Outline.Bounds()
	assert.Equal(t, [2]units.Millimetre{31, 13}, [2]units.Millimetre{high.X - low.X, high.Y - low.Y})
	var svg, dxf bytes.Buffer
	require.NoError(t, p.Outline.WriteSVG(&svg))
	require.NoError(t, p.Outline.WriteDXF(&dxf))
	var drawn struct {
		Width string `xml:"width,attr"`
		View  string `xml:"viewBox,attr"`
		Paths []struct {
			Class string `xml:"class,attr"`
			D     string `xml:"d,attr"`
		} `xml:"path"`
	}
	require.NoError(t, xml.Unmarshal(svg.Bytes(), &drawn))
	assert.Equal(t, strings.TrimSuffix(drawn.Width, "mm"), strings.Fields(drawn.View)[2], "a unit is a millimetre")
	for _, path := range drawn.Paths {
		switch path.Class {
		case "cut":
			assert.True(t, strings.HasSuffix(path.D, "Z"))
		case "check":
			assert.Contains(t, path.D, "h100")
		}
	}
	lines := strings.Split(strings.TrimSpace(dxf.String()), "\n")
	require.Zero(t, len(lines)%2, "code and value in pairs")
	var xs []float64
	closed := false
	for i := 0; i < len(lines); i += 2 {
		if lines[i] == "10" {
			x, err := strconv.ParseFloat(lines[i+1], 64)
			require.NoError(t, err)
			xs = append(xs, x)
		}
		closed = closed || lines[i] == "70" && lines[i+1] == "1"
	}
	assert.True(t, closed)
	assert.Equal(t, []float64{-15.5, 15.5, 15.5, -15.5}, xs)
	assert.Equal(t, "EOF", lines[len(lines)-1])
}

// TestWhatHoldsAHostUp: lying, it wants props where there is to be room beneath it; on
// its side a cradle, whose width asks for what a pull of cables hangs on, and which no
// width makes good where the pull turns it over anyhow.
func TestWhatHoldsAHostUp(t *testing.T) {
	only := func(s rig.Stand) made.Part {
		r := rig.New("made")
		r.Chamber.Stand = s
		list, err := made.For(r, coretest.Tables(t))
		require.NoError(t, err)
		require.Len(t, list, 1)
		return list[0]
	}
	prop := only(rig.Stand{Lifted: mm(20)})
	require.NoError(t, prop.Solid.Fault())
	assert.InEpsilon(t, (25*20.0+6*28)*40, prop.Solid.Volume(), 1e-9)
	upright := rig.Stand{Edge: mm(40), Height: mm(120), Pull: rig.Of[units.Newton](20)}
	assert.Contains(t, only(upright).Says, "tell both")
	upright.Mass, upright.PullAt = rig.Of[units.Gram](700), mm(150)
	assert.Nil(t, only(upright).Solid, "7 N of weight against 20 N of pull")
	upright.Mass.Value = 3000
	assert.NotNil(t, only(upright).Solid)
}

// TestPlatesWithHoles: whatever round holes a plate has, it is closed and as heavy as what
// is left of it.
func TestPlatesWithHoles(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		holes := [][]made.Point{}
		area := 80.0 * 60
		for x := range 4 {
			for y := range 3 {
				if !rapid.Bool().Draw(t, "hole") {
					continue
				}
				wide := units.Millimetre(rapid.Float64Range(1, 18).Draw(t, "wide"))
				hole := made.Rectangle(wide, wide/2)
				for i := range hole {
					hole[i].X, hole[i].Y = hole[i].X+units.Millimetre(20*x-30), hole[i].Y+units.Millimetre(20*y-20)
				}
				holes, area = append(holes, hole), area-float64(wide*wide/2)
			}
		}
		s, err := made.ExtrudeRound("plate", made.Rectangle(80, 60), holes, 3)
		require.NoError(t, err)
		require.NoError(t, s.Fault())
		assert.InEpsilon(t, area*3, s.Volume(), 1e-9)
	})
}

// TestExtrusionsOfAnyOutline: whatever simple outline is lifted gives a closed surface,
// right side out, that holds its area times its height.
func TestExtrusionsOfAnyOutline(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		count := rapid.IntRange(3, 24).Draw(t, "corners")
		loop := make([]made.Point, count)
		for i := range loop { // seen from the middle each corner lies further round
			sin, cos := math.Sincos(2 * math.Pi * float64(i) / float64(count))
			far := rapid.Float64Range(3, 90).Draw(t, "far")
			loop[i] = made.Point{X: units.Millimetre(far * cos), Y: units.Millimetre(far * sin)}
		}
		height := units.Millimetre(rapid.Float64Range(0.5, 50).Draw(t, "height"))
		area := 0.0
		for i, p := range loop {
			q := loop[(i+1)%count]
			area += float64(p.X*q.Y-q.X*p.Y) / 2
		}
		s, err := made.Extrude("any", loop, height)
		require.NoError(t, err)
		require.NoError(t, s.Fault())
		assert.InEpsilon(t, area*float64(height), s.Volume(), 1e-9)
		slices.Reverse(loop)
		_, err = made.Extrude("clockwise", loop, height)
		assert.Error(t, err)
	})
}

// TestCutLiesInItsCover: a template of an opening in a cover that is described shows the
// cover's edge to lay it on, on a layer of its own, and the cut where it clears all.
func TestCutLiesInItsCover(t *testing.T) {
	r := rig.New("made")
	r.Route.Stages = []rig.Stage{{Name: "cable", Shell: rig.Shell{Width: mm(30), Height: mm(12)}, Openings: []rig.Layer{{Name: "lid"}}}}
	r.Chamber.Covers = []rig.Cover{{
		Name: "lid", At: rig.Place{X: mm(0), Y: mm(100), Z: mm(0)}, Size: rig.Extent{X: mm(200), Y: mm(2), Z: mm(90)},
	}}
	only := func() made.Part {
		list, err := made.For(r, coretest.Tables(t))
		require.NoError(t, err)
		require.Len(t, list, 1)
		return list[0]
	}
	p := only()
	low, high := p.Outline.Bounds()
	assert.Equal(t, [2]units.Millimetre{200, 90}, [2]units.Millimetre{high.X - low.X, high.Y - low.Y}, "of the cover")
	assert.Contains(t, p.Says, "100 mm along x and 45 mm along z")
	var svg, dxf bytes.Buffer
	require.NoError(t, p.Outline.WriteSVG(&svg))
	require.NoError(t, p.Outline.WriteDXF(&dxf))
	assert.Contains(t, svg.String(), `class="edge"`)
	assert.Equal(t, 1, strings.Count(dxf.String(), "POLYLINE\n8\nEDGE"))
	assert.Equal(t, 1, strings.Count(dxf.String(), "POLYLINE\n8\nCUT"))

	r.Chamber.Things = []rig.Thing{{
		Name: "board", At: rig.Place{X: mm(0), Y: mm(90), Z: mm(0)}, Size: rig.Extent{X: mm(200), Y: mm(5), Z: mm(90)},
	}}
	p = only()
	assert.Contains(t, p.Says, "No place in lid is clear")
	assert.Nil(t, p.Outline.Edge, "the bare opening is still there to cut by")
}

// inCase is a rig with a socket of 20 by 10, its screws 30 apart, set into an opening.
func inCase(o rig.CaseOpening, s rig.PanelSocket) *rig.Rig {
	r := rig.New("made")
	o.Name, s.In, s.Wide, s.High = "rear plate", "rear plate", mm(20), mm(10)
	r.Host.Openings = []rig.CaseOpening{o}
	r.Route.Stages = []rig.Stage{{Name: "short cable", Panel: s}}
	return r
}

func only(t *testing.T, r *rig.Rig) made.Part {
	list, err := made.For(r, coretest.Tables(t))
	require.NoError(t, err)
	require.Len(t, list, 1)
	if list[0].Solid != nil {
		require.NoError(t, list[0].Solid.Fault())
	}
	return list[0]
}

func corners(at ...[2]float64) (list []rig.OutlinePoint) {
	for _, p := range at {
		list = append(list, rig.OutlinePoint{Across: mm(p[0]), Up: mm(p[1])})
	}
	return list
}

// TestPlatesForSockets: a plate covers its opening, holds the socket by its screws where it has
// some, and is screwed where what was there was, else in its corners.
func TestPlatesForSockets(t *testing.T) {
	disc := func(bore float64) float64 { return 32 / 2 * math.Sin(2*math.Pi/32) * bore * bore / 4 }
	cut := 20.6 * 10.6
	opening := rig.Hole{Wide: mm(24), High: mm(12)}
	p := only(t, inCase(rig.CaseOpening{Hole: opening, Holes: mm(40)}, rig.PanelSocket{Holes: mm(30), Thread: rig.Of(rig.Thread("M2.5"))}))
	assert.InEpsilon(t, 3*(2*23.4*32-cut-2*disc(2.9)-2*disc(3.4)), p.Solid.Volume(), 1e-9)
	assert.False(t, p.Permanent)
	p = only(t, inCase(rig.CaseOpening{Hole: opening}, rig.PanelSocket{}))
	assert.InEpsilon(t, 3*(44*32-cut-4*disc(3.4)), p.Solid.Volume(), 1e-9)
	assert.Contains(t, p.Says, "clamp or glue")
	assert.True(t, p.Permanent, "four holes are drilled")
	upright := rig.Hole{Wide: mm(12), High: mm(24)}
	p = only(t, inCase(rig.CaseOpening{Hole: upright}, rig.PanelSocket{Holes: mm(30)}))
	low, high := p.Outline.Bounds()
	assert.InDelta(t, 36, float64(high.Y-low.Y)-2*3.4, 10, "turned, with its screws above and below")
	legs := rig.Hole{Outline: corners([2]float64{0, 0}, [2]float64{0, 40}, [2]float64{12, 40}, [2]float64{12, 12}, [2]float64{40, 12},
		[2]float64{40, 0})}
	p = only(t, inCase(rig.CaseOpening{Hole: legs}, rig.PanelSocket{}))
	assert.InEpsilon(t, 3*(60*60-cut-4*disc(3.4)), p.Solid.Volume(), 1e-9, "told clockwise")
	assert.Nil(t, only(t, inCase(rig.CaseOpening{Hole: opening, Holes: mm(24)}, rig.PanelSocket{Holes: mm(24)})).Solid, "screws that meet")
	list, err := made.For(inCase(rig.CaseOpening{Hole: rig.Hole{Wide: mm(19), High: mm(40)}}, rig.PanelSocket{}), coretest.Tables(t))
	require.NoError(t, err)
	assert.Len(t, list, 1, "20 by 10 goes in upright")
	list, err = made.For(inCase(rig.CaseOpening{Hole: rig.Hole{Wide: mm(19), High: mm(19)}}, rig.PanelSocket{}), coretest.Tables(t))
	require.NoError(t, err)
	assert.Empty(t, list, "it does not go in")
}

// TestBracketOfAnyOutline: the window keeps its distance from an opening of its maker's own shape.
func TestBracketOfAnyOutline(t *testing.T) {
	of := func(at ...[2]float64) *rig.Rig {
		r := rig.New("made")
		r.Chamber.Opening.Outline = corners(at...)
		return r
	}
	p := only(t, of([2]float64{0, 0}, [2]float64{40, 0}, [2]float64{40, 20}, [2]float64{20, 20}, [2]float64{20, 40}, [2]float64{0, 40}))
	window := p.Outline.Loops[1]
	assert.Equal(t, []made.Point{{X: -16, Y: -16}, {X: 16, Y: -16}, {X: 16, Y: -4}, {X: -4, Y: -4}, {X: -4, Y: 16}, {X: -16, Y: 16}}, window)
	for _, none := range []*rig.Rig{
		of([2]float64{0, 0}, [2]float64{40, 0}, [2]float64{40, 9}, [2]float64{0, 9}),   // too low for a window
		of([2]float64{0, 0}, [2]float64{40, 40}, [2]float64{40, 0}, [2]float64{0, 40}), // its sides cross
		of([2]float64{0, 0}, [2]float64{60, 0}, [2]float64{30, 0}, [2]float64{30, 40}), // it turns back on itself
	} {
		list, err := made.For(none, coretest.Tables(t))
		require.NoError(t, err)
		assert.Empty(t, list)
	}
}

// TestHolderForAll: one plate under dock and supply, and an upright for the card's bracket; what
// is missing is asked for by its name.
func TestHolderForAll(t *testing.T) {
	r := rig.New("made")
	r.Chamber.Stand.Holder.Wanted = rig.Of(true)
	r.Route.Stages = []rig.Stage{{Name: "dock"}}
	r.Supplies = []rig.Supply{{Name: "brick of the host"}, {Name: "supply", Kind: rig.Of(rig.SupplyKind("sfx"))}}
	r.Host.Supply = "brick of the host"
	foot := &r.Route.Stages[0].Foot
	for _, missing := range []struct {
		says string
		tell func()
	}{
		{"length and width of the board of dock", func() { foot.Length, foot.Width = mm(100), mm(70) }},
		{"how far apart the holes of dock", func() { foot.Along, foot.Across = mm(90), mm(60) }},
		{"the depth of supply", func() { r.Supplies[1].Depth = mm(130) }},
	} {
		assert.Contains(t, only(t, r).Says, missing.says)
		missing.tell()
	}
	p := only(t, r)
	require.NotNil(t, p.Solid)
	assert.Equal(t, 4, p.Inserts)
	low, high := p.Outline.Bounds()
	assert.InDelta(t, 10+70+15+125+4+10, float64(high.Y-low.Y), 1e-9, "dock, supply, straps and rims")
	r.Card.Bracket.Height = rig.Of(rig.FullHeight)
	list, err := made.For(r, coretest.Tables(t))
	require.NoError(t, err)
	require.Len(t, list, 2)
	assert.InEpsilon(t, (120-14+8)*(25*25-32/2*math.Sin(2*math.Pi/32)*4), list[1].Solid.Volume(), 1e-2)
	foot.Along = mm(140)
	assert.Contains(t, only(t, func() *rig.Rig { c := *r; c.Card = rig.Card{}; return &c }()).Says, "cannot lie beyond its board")
}
