// Package draw is what the drawings of all stations are made of: boxes, lines, texts that keep within
// their room, and the route as small as a line.
package draw

import (
	"fmt"
	"strconv"
	"strings"
)

// Letter writes what passes to the foot of the box, the name and the rest below it.
func (b *Box) Letter(name, spec, under []string) {
	middle := b.X + b.W/2
	b.Write("sub", middle, b.Y+b.H-12-float64(len(spec)-1)*16, 16, spec...)
	b.Write("name", middle, b.Y+b.H+20, 17, name...)
	b.Write("under", middle, b.Y+b.H+20+17*float64(len(name)), 16, under...)
}

// On a telephone the drawings of Route and Power stand upright: from the processor down to the
// card, from the supplies down to the loads.
const (
	TallWidth  = 366.0
	TallRow    = 74.0 // an element of the route
	TallStrand = 5.0
	TallLeft   = 16.0
	TallNames  = 116.0
	TallBox    = 62.0 // a box of the power drawing
	TallGap    = 96.0 // between the rows of boxes
)

// Width is the width of every drawing, in the units of its view box.
const Width = 872

// Box is a rectangle of a drawing with text in it, to be chosen by a click.
type Box struct {
	X, Y, W, H float64
	Texts      []Text
	Sel        string
	Chosen     bool
	Class      string
}

// Text is one line of text at its place.
type Text struct {
	X, Y  Px
	Class string
	Text  string
}

// Px is a length in a drawing, printed as SVG wants it.
type Px float64

// String writes a place of a drawing, to a tenth of its unit.
func (v Px) String() string { return strconv.FormatFloat(float64(v), 'f', 1, 64) }

// Write adds lines of one look to the box, from x and y downward.
func (b *Box) Write(class string, x, y, pitch float64, lines ...string) {
	for i, line := range lines {
		b.Texts = append(b.Texts, Text{Px(x), Px(y + float64(i)*pitch), class, line})
	}
}

// Line is one or more lines of a drawing of the same look.
type Line struct {
	Path  string // SVG path data
	Class string
}

// Mark is a short text in a drawing.
type Mark struct {
	X, Y   float64
	W      float64 // of its ground
	Text   string
	Anchor string
	Class  string
	Sel    string
}

// Left is where the mark's ground begins, from its middle.
func (m Mark) Left() Px { return Px(-m.W / 2) }

// Wrap breaks a text into at most lines of about width characters; what does not
// fit ends in an ellipsis.
func Wrap(text string, width, lines int) []string {
	var out []string
	row := ""
	for word := range strings.FieldsSeq(text) {
		switch {
		case row == "":
			row = word
		case len([]rune(row))+1+len([]rune(word)) <= width:
			row += " " + word
		default:
			out = append(out, Clip(row, width))
			row = word
		}
	}
	out = append(out, Clip(row, width))
	if len(out) > lines {
		out = out[:lines]
		out[lines-1] = Clip(out[lines-1]+" …", width)
	}
	return out
}

// Clip shortens a text in its middle: names that begin alike often end differently.
func Clip(s string, width int) string {
	r := []rune(s)
	if len(r) <= width {
		return s
	}
	tail := max(0, width-1) / 3
	return string(r[:max(1, width-1-tail)]) + "…" + string(r[len(r)-tail:])
}

// ClipTo shortens a name to what a width holds, in the drawings' bold face.
func ClipTo(s string, width float64) string {
	for n := len([]rune(s)); n > 1; n-- {
		if short := Clip(s, n); boldWidth(short) <= width {
			return short
		}
	}
	return Clip(s, 1)
}

// boldWidth is about how wide a name is drawn.
func boldWidth(s string) (w float64) {
	for _, r := range s {
		switch {
		case strings.ContainsRune("ijlt.,:;'|!fr -()", r):
			w += 4.6
		case strings.ContainsRune("mwMW", r):
			w += 11.6
		case r >= 'A' && r <= 'Z':
			w += 9.4
		default:
			w += 8.1
		}
	}
	return w
}

// Curve joins two points by a line that leaves and enters level.
func Curve(x1, y1, x2, y2 float64) string {
	mid := (x1 + x2) / 2
	return fmt.Sprintf("M%.1f %.1fC%.1f %.1f %.1f %.1f %.1f %.1f", x1, y1, mid, y1, mid, y2, x2, y2)
}
