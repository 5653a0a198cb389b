package fit

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kolvan/core/assess"
	"kolvan/core/reference"
	"kolvan/core/rig"
	"kolvan/core/units"
	"kolvan/web/draw"
	"kolvan/web/roomtest"
)

// TestFitStandsUpright: the views of a case, and of a card that stands free, one below the other
// within a telephone's width, as large as it allows; a card that came in its box has none.
func TestFitStandsUpright(t *testing.T) {
	ref, err := reference.Load()
	require.NoError(t, err)
	for _, name := range []string{"Dome-shed stacker", "Projector tower"} {
		r, report, _ := roomtest.Demo(t, name)
		wide, tall := Draw(r, report, nil, ref, "/card", false), DrawTall(r, report, ref, "/card", false)
		require.Len(t, tall.Views, len(wide.Views))
		assert.Equal(t, wide.Title, tall.Title)
		assert.Equal(t, wide.Open, tall.Open)
		for i, v := range tall.Views {
			assert.Len(t, v.Boxes, len(wide.Views[i].Boxes), "%s: %s", name, v.Name)
			assert.LessOrEqual(t, v.X+v.W, draw.TallWidth, "%s: %s", name, v.Name)
			assert.LessOrEqual(t, v.Y+v.H, tall.Height, "%s: %s", name, v.Name)
			assert.InDelta(t, fitMargin, v.X, 1, "%s: %s", name, v.Name)
		}
		assert.Greater(t, tall.Views[0].W, draw.TallWidth/2)
	}
	r, report, _ := roomtest.Demo(t, "Dome-shed stacker")
	r.Card.BuiltIn = rig.Of(true)
	assert.Nil(t, DrawTall(r, report, ref, "", false))
}

// TestACardInTheOpenIsDrawn as large as it is, with no walls and nothing to drag it against.
func TestACardInTheOpenIsDrawn(t *testing.T) {
	r, report, ref := roomtest.Demo(t, "Dome-shed stacker")
	d := Draw(r, report, nil, ref, "", false)
	require.Len(t, d.Views, 3)
	for k, wanted := range [][2]float64{{238, 98}, {41, 98}, {238, 41}} {
		v := d.Views[k]
		require.Len(t, v.Boxes, 1)
		assert.InDelta(t, wanted[0]*d.Scale, v.Boxes[0].W, 0.01, v.Name)
		assert.InDelta(t, wanted[1]*d.Scale, v.Boxes[0].H, 0.01, v.Name)
		assert.Nil(t, v.Card, "it stands nowhere")
	}
	assert.Contains(t, d.Note, "nothing to meet")
	r.Card.Thickness = rig.Fact[units.Millimetre]{}
	assert.Contains(t, Draw(r, report, nil, ref, "", false).Empty, "nothing to meet", "its size is not known")
}

// TestWaysOnTheFitDrawing: a hinge shows in the view along it, a rail in those beside
// it, a strike where it is found, and a cable as it runs.
func TestWaysOnTheFitDrawing(t *testing.T) {
	r, _, ref := roomtest.Demo(t, "Projector tower")
	for path, value := range map[string]string{
		"/card/length_mm": "240", "/chamber/covers/0/hinge/axis": "z", "/chamber/covers/0/hinge/at/x_mm": "334",
		"/chamber/covers/0/hinge/at/y_mm": "170", "/chamber/covers/0/hinge/opens_deg": "-100",
		"/chamber/covers/1/kind": "slide", "/chamber/covers/1/slide/axis": "x", "/chamber/covers/1/slide/by_mm": "-340",
	} {
		require.NoError(t, rig.Set(r, path, value), path)
	}
	at := func(x, y, z units.Millimetre) rig.Corner {
		return rig.Corner{Place: rig.Place{X: rig.Of(x), Y: rig.Of(y), Z: rig.Of(z)}}
	}
	r.Route.Stages = []rig.Stage{{Name: "riser", Kind: rig.Of(rig.Cable), Path: []rig.Corner{at(0, 0, 0), at(50, 0, 0), at(50, 60, 0)}}}
	report := assess.Rig(r, ref)
	classes := map[string][]string{}
	for _, v := range Draw(r, &report, nil, ref, "", false).Views {
		for _, w := range v.Ways {
			classes[v.Name] = append(classes[v.Name], w.Class)
			assert.NotContains(t, w.Path, "NaN")
		}
	}
	assert.Equal(
		t, map[string][]string{"side": {"way", "arc", "strikes", "way", "cable"}, "end": {"cable"}, "plan": {"way", "cable"}},
		classes,
	)
	r.Route.Stages[0].Path[1].X = rig.Fact[units.Millimetre]{}
	for _, v := range Draw(r, &report, nil, ref, "", false).Views {
		for _, w := range v.Ways {
			assert.NotEqual(t, "cable", w.Class, "not while a corner is not told")
		}
	}
}

func TestFitViewsShareOneScale(t *testing.T) {
	r, report, ref := roomtest.Demo(t, "Projector tower")
	d := Draw(r, report, []rig.Card{r.Card}, ref, "/card", false)
	require.Len(t, d.Views, 3)
	side, end, plan := d.Views[0], d.Views[1], d.Views[2]
	assert.InDelta(t, 282*d.Scale, side.Card.W, 1e-6)
	assert.InDelta(t, 282*d.Scale, plan.Card.W, 1e-6)
	assert.InDelta(t, side.Card.H, end.Card.H, 1e-6)
	assert.InDelta(t, end.Card.W, plan.Card.H, 1e-6)
	assert.Equal(t, "over", side.Gap.Class)
	assert.Nil(t, end.Gap, "the end view does not show the length")
	for _, v := range d.Views {
		assert.LessOrEqual(t, v.X+v.W, float64(draw.Width))
		assert.LessOrEqual(t, v.Y+v.H, d.Height)
	}
	assert.Equal(
		t,
		[]slack{{Y: fitTop + 30, Name: "Skua 16G", Text: "−3 mm", Meets: "Skua 16G meets drive cage first", Here: true, No: true}},
		d.Slacks,
	)
}
