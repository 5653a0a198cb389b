package fit

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"kolvan/core/fit"
	"kolvan/core/rig"
	"kolvan/web/phrase"
)

// turnedView shows the room for the card from a corner, to see what lies where; nothing
// is measured in it.
type turnedView struct {
	Name, Frame string
	X, Y        float64
	Solids      []turnedBox
}

// turnedBox is the three sides of a box that are seen.
type turnedBox struct {
	Name, Class, Sel string
	Sides            [3]string // its top, and the sides at the end of x and of z
	depth            float64
}

// turner turns a room by an eighth and tips it toward the eye.
type turner struct{ x, y, scale float64 }

var turnedIn, turnedOver = math.Cos(math.Pi / 6), math.Sin(math.Pi / 6)

func (t *turner) at(p fit.Vec) (x, y float64) {
	return t.x + (float64(p[0])-float64(p[2]))*turnedIn*t.scale, t.y + ((float64(p[0])+float64(p[2]))*turnedOver-float64(p[1]))*t.scale
}

func (t *turner) side(corners ...fit.Vec) (path string) {
	for i, c := range corners {
		x, y := t.at(c)
		path += fmt.Sprintf("%c%.1f %.1f", "ML"[min(1, i)], x, y)
	}
	return path + "z"
}

// box draws a box by its visible sides.
func (t *turner) box(b fit.Box) (sides [3]string) {
	l, h := b.Min, b.Max
	return [3]string{
		t.side(fit.Vec{l[0], h[1], l[2]}, fit.Vec{h[0], h[1], l[2]}, h, fit.Vec{l[0], h[1], h[2]}),
		t.side(fit.Vec{h[0], l[1], l[2]}, fit.Vec{h[0], h[1], l[2]}, h, fit.Vec{h[0], l[1], h[2]}),
		t.side(fit.Vec{l[0], l[1], h[2]}, fit.Vec{h[0], l[1], h[2]}, h, fit.Vec{l[0], h[1], h[2]}),
	}
}

// drawTurned draws the room into a field of the drawing; nil where there is no place for it.
func drawTurned(r *rig.Rig, c *fit.Chamber, size fit.Vec, left, top, wide, high float64) *turnedView {
	if wide < 110 || high < 90 {
		return nil
	}
	span := float64(size[0] + size[2])
	t := turner{scale: min(wide/(span*turnedIn), high/(span*turnedOver+float64(size[1])))}
	t.x = left + float64(size[2])*turnedIn*t.scale + (wide-span*turnedIn*t.scale)/2
	t.y = top + float64(size[1])*t.scale
	v := &turnedView{Name: "turned view", X: left, Y: top}
	for _, i := range []int{0, 1, 2} { // the three walls at the back, and no more, so that one looks in
		low, high := fit.Vec{}, size
		high[i] = 0
		v.Frame += t.box(fit.Box{Min: low, Max: high})[[3]int{1, 0, 2}[i]]
	}
	add := func(name, class, sel string, b fit.Box) {
		v.Solids = append(
			v.Solids,
			turnedBox{name, class, sel, t.box(b), float64(b.Min[0] + b.Max[0] + b.Min[1] + b.Max[1] + b.Min[2] + b.Max[2])},
		)
	}
	for i := range r.Chamber.Things {
		o := &r.Chamber.Things[i]
		if b, known := fit.BoxOf(&o.At, &o.Size); known && !o.Out {
			add(o.Name, "thing", rig.ThingPath(i), b)
		}
	}
	for i := range r.Chamber.Covers {
		o := &r.Chamber.Covers[i]
		if b, known := fit.BoxOf(&o.At, &o.Size); known {
			add(o.Name, "cover", rig.CoverPath(i), b)
		}
	}
	if c.Placed {
		add(phrase.Or(r.Card.Name, "card"), "card", "/card", c.Card)
	}
	// What is nearer to the eye stands before what is further off.
	slices.SortStableFunc(v.Solids, func(a, b turnedBox) int { return cmp.Compare(a.depth, b.depth) })
	return v
}
