package web

import (
	"fmt"
	"strconv"
	"strings"
)

// drawingWidth is the width of every drawing, in the units of its view box.
const drawingWidth = 872

// box is a rectangle of a drawing with text in it, to be chosen by a click.
type box struct {
	X, Y, W, H float64
	Texts      []text
	Sel        string
	Chosen     bool
	Class      string
}

// text is one line of text at its place.
type text struct {
	X, Y  px
	Class string
	Text  string
}

// px is a length in a drawing, printed as SVG wants it.
type px float64

func (v px) String() string { return strconv.FormatFloat(float64(v), 'f', 1, 64) }

// write adds lines of one look to the box, from x and y downward.
func (b *box) write(class string, x, y, pitch float64, lines ...string) {
	for i, line := range lines {
		b.Texts = append(b.Texts, text{px(x), px(y + float64(i)*pitch), class, line})
	}
}

// line is one or more lines of a drawing of the same look.
type line struct {
	Path  string // SVG path data
	Class string
}

// mark is a short text in a drawing.
type mark struct {
	X, Y   float64
	W      float64 // of its ground
	Text   string
	Anchor string
	Class  string
	Sel    string
}

// Left is where the mark's ground begins, from its middle.
func (m mark) Left() px { return px(-m.W / 2) }

// wrap breaks a text into at most lines of about width characters; what does not
// fit ends in an ellipsis.
func wrap(text string, width, lines int) []string {
	var out []string
	row := ""
	for word := range strings.FieldsSeq(text) {
		switch {
		case row == "":
			row = word
		case len([]rune(row))+1+len([]rune(word)) <= width:
			row += " " + word
		default:
			out = append(out, clip(row, width))
			row = word
		}
	}
	out = append(out, clip(row, width))
	if len(out) > lines {
		out = out[:lines]
		out[lines-1] = clip(out[lines-1]+" …", width)
	}
	return out
}

// clip shortens a text in its middle: names that begin alike often end differently.
func clip(s string, width int) string {
	r := []rune(s)
	if len(r) <= width {
		return s
	}
	tail := max(0, width-1) / 3
	return string(r[:max(1, width-1-tail)]) + "…" + string(r[len(r)-tail:])
}

// clipTo shortens a name to what a width holds, in the drawings' bold face.
func clipTo(s string, width float64) string {
	for n := len([]rune(s)); n > 1; n-- {
		if short := clip(s, n); boldWidth(short) <= width {
			return short
		}
	}
	return clip(s, 1)
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

// curve joins two points by a line that leaves and enters level.
func curve(x1, y1, x2, y2 float64) string {
	mid := (x1 + x2) / 2
	return fmt.Sprintf("M%.1f %.1fC%.1f %.1f %.1f %.1f %.1f %.1f", x1, y1, mid, y1, mid, y2, x2, y2)
}
