package power

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"kolvan/web/draw"
)

// facesDrawing shows both faces of a joint like the pages of an open book: the
// socket as one looks into it, the plug beside it mirrored, and a line from every
// contact to the one it touches.
type facesDrawing struct {
	Width, Height float64
	Label         string
	Shells        []shellView
	Pins          []contactView
	Joins         []joinView
}

type shellView struct {
	Title  []string
	X, Y   float64 // of the shell
	Path   string
	TitleY float64
}

type contactView struct {
	pin
	X, Y, W, H float64
	Lines      []string
}

// Upright reports a contact too narrow for words along it.
func (p contactView) Upright() bool { return p.W < upright }

// Name is what an upright contact carries, in one line.
func (p contactView) Name() string { return strings.Join(p.Lines, "") }

// Middle is where its words stand.
func (p contactView) Middle() float64 { return p.W / 2 }

type joinView struct {
	Path string
	Bad  bool
	Of   string // how many, where one line stands for a row
	X, Y float64
}

// The drawing of faces, in the units of its view box.
const (
	pinHeight   = 37.0
	pinGap      = 3.0
	shellEdge   = 8.0
	latchHeight = 9.0
	latchWidth  = 44.0
	keyHeight   = 14.0
	betweenFace = 40.0
	facesTop    = 22.0
	arcLeast    = 22.0
	arcMore     = 9.0
	beneath     = 34.0  // between faces that stand one under the other
	column      = 318.0 // the width beside a drawing: what goes in is laid out for it
	tallPin     = 62.0  // the height of contacts whose words stand upright
	leastPin    = 17.0
	upright     = 30.0 // contacts narrower than this have their words upright
)

// pinWidth is as wide as two faces beside each other leave, within reason.
func pinWidth(faces []face) float64 {
	longest := longestRow(faces)
	switch fits := (column-betweenFace-4)/2 - 2*shellEdge + pinGap; {
	case fits/float64(longest)-pinGap >= upright:
		return min(40, fits/float64(longest)-pinGap)
	case longest > manyPins:
		return 29
	default:
		return 40
	}
}

func longestRow(faces []face) (longest int) {
	for _, f := range faces {
		for _, row := range f.Rows {
			longest = max(longest, len(row))
		}
	}
	return max(1, longest)
}

// drawFaces lays a joint's faces out; nil where there are no pins to show.
func drawFaces(faces []face) *facesDrawing {
	d := &facesDrawing{}
	wide := pinWidth(faces)
	if len(faces) == 2 && len(faces[0].Rows) == 1 && len(faces[1].Rows) == 1 && 2*rowWidth(faces[0].Rows[0], wide) > column {
		fits := (column-4-2*shellEdge+pinGap)/float64(longestRow(faces)) - pinGap
		return d.under(faces, max(leastPin, min(40, fits)))
	}
	over := arcRoom(faces)
	x := 2.0
	for i := range faces {
		if len(faces[i].Rows) == 0 {
			return nil
		}
		x = d.face(&faces[i], x, facesTop+over, wide, false) + betweenFace
	}
	d.Width = x - betweenFace + 2
	d.join(faces)
	if len(faces[0].Rows) == 1 {
		over = 0 // no line runs under a single row
	}
	d.finish(faces, over)
	return d
}

// under lays two long rows out one under the other: the plug is turned up about its length,
// so that every contact stands beneath the one it touches.
func (d *facesDrawing) under(faces []face, wide float64) *facesDrawing {
	tall := pinTall(wide)
	d.Width = d.face(&faces[0], 2, facesTop, wide, false) + 2
	plug := faces[1]
	plug.Title += ", turned up"
	row := slices.Clone(plug.Rows[0])
	slices.Reverse(row)
	plug.Rows = [][]pin{row}
	d.face(&plug, 2, facesTop+latchHeight+2*shellEdge+tall+beneath, wide, true)
	socket, mate := d.placed(faces[0], 0), d.placed(plug, count(faces[0]))
	for _, p := range faces[0].Rows[0] {
		if to, touches := mate[p.Touches]; touches && !p.Open {
			from := socket[p.Number]
			d.Joins = append(
				d.Joins,
				joinView{Path: fmt.Sprintf("M%.1f %.1fL%.1f %.1f", from.X+from.W/2, from.Y+from.H, to.X+to.W/2, to.Y), Bad: p.Bad},
			)
		}
	}
	d.finish(faces, 0)
	return d
}

func (d *facesDrawing) finish(faces []face, below float64) {
	for _, p := range d.Pins {
		d.Height = max(d.Height, p.Y+p.H+shellEdge+max(below, keyHeight))
	}
	d.Height += 6
	d.Label = faces[0].Title
	if len(faces) > 1 {
		d.Label = "What touches what: " + faces[0].Title + " and " + faces[1].Title
	}
}

// Tight reports cells with little room for words.
func (d *facesDrawing) Tight() bool { return d.Pins[0].W < upright }

// Wide reports a drawing that does not go beside another.
func (d *facesDrawing) Wide() bool { return d.Width > column }

// pinTall is how high contacts are that are so wide.
func pinTall(wide float64) float64 {
	if wide < upright {
		return tallPin
	}
	return pinHeight
}

// arcRoom is how high the lines reach over the faces.
func arcRoom(faces []face) float64 {
	if len(faces) < 2 {
		return 0
	}
	most := 0
	for _, row := range faces[0].Rows {
		most = max(most, len(row))
	}
	return 0.75 * (arcLeast + arcMore*float64(most-1))
}

// rowWidth is what a row of contacts takes, with its shell and the room beside it.
func rowWidth(row []pin, wide float64) float64 {
	return float64(len(row))*(wide+pinGap) - pinGap + 2*shellEdge + betweenFace/2
}

// face adds one face with its left edge at x, and returns its right edge; one that is
// turned up shows its key above.
func (d *facesDrawing) face(f *face, x, y, wide float64, turned bool) float64 {
	longest := 0
	for _, row := range f.Rows {
		longest = max(longest, len(row))
	}
	tall := pinTall(wide)
	inside := float64(longest)*(wide+pinGap) - pinGap
	top := y + latchHeight
	for r, row := range f.Rows {
		start := x + shellEdge + (inside-float64(len(row))*(wide+pinGap)+pinGap)/2
		for k, p := range row {
			d.Pins = append(
				d.Pins,
				contactView{
					p, start + float64(k)*(wide+pinGap), top + shellEdge + float64(r)*(tall+pinGap), wide, tall,
					pinLines(p.Name, wide),
				},
			)
		}
	}
	w, h := inside+2*shellEdge, float64(len(f.Rows))*(tall+pinGap)-pinGap+2*shellEdge
	shell := shellView{Title: draw.Wrap(f.Title, int(w/6.4)+4, 2), X: x, Y: top, Path: shellPath(f, turned, x, top, w, h)}
	if turned {
		shell.TitleY = top + h + 3
	}
	d.Shells = append(d.Shells, shell)
	return x + w
}

// pinLines breaks what a pin carries into what a cell holds.
func pinLines(name string, wide float64) []string {
	if float64(len(name))*5 <= wide || wide < upright {
		return []string{name}
	}
	if before, behind, parted := strings.Cut(name, "-"); parted && before != "" {
		return []string{before + "-", behind}
	}
	return draw.Wrap(name, 8, 2)
}

// shellPath is the outline of a shell: with a latch, two corners bevelled, a key at
// one end, or round ends. The key is at the same contact in the socket and in the plug that
// is seen mirrored.
func shellPath(f *face, turned bool, x, y, w, h float64) string {
	box := fmt.Sprintf("M%.1f %.1fh%.1fv%.1fh%.1fz", x, y, w, h, -w)
	switch f.Shell {
	case "latch":
		return box + fmt.Sprintf("M%.1f %.1fv%.1fh%.1fv%.1f", x+w/2-latchWidth/2, y, -latchHeight, latchWidth, latchHeight)
	case "bevelled":
		return fmt.Sprintf("M%.1f %.1fl12 -12h%.1fl12 12v%.1fh%.1fz", x, y+12, w-24, h-12, -w)
	case "l-key":
		at := x + w - 12
		if f.Plug && !turned {
			at = x + 4
		}
		if turned {
			return box + fmt.Sprintf("M%.1f %.1fv%.0fh8v%.0f", at, y, -keyHeight, keyHeight)
		}
		return box + fmt.Sprintf("M%.1f %.1fv%.0fh8v%.0f", at, y+h, keyHeight, -keyHeight)
	case "round":
		r := math.Min(h/2, 22)
		return fmt.Sprintf(
			"M%.1f %.1fh%.1fa%.1f %.1f 0 0 1 0 %.1fh%.1fa%.1f %.1f 0 0 1 0 %.1fz", x+r, y, w-2*r, r, h/2, h, -(w - 2*r), r, h/2,
			-h,
		)
	default:
		return box
	}
}

// join draws a line between the contacts that touch: over the faces for the upper
// row, under them for the lower one, nested as the pages close on each other; across
// for a row in the middle, one line for all of it.
func (d *facesDrawing) join(faces []face) {
	if len(faces) < 2 {
		return
	}
	socket, plug := d.placed(faces[0], 0), d.placed(faces[1], count(faces[0]))
	last := len(faces[0].Rows) - 1
	for r, row := range faces[0].Rows {
		across := 0
		for k, p := range row {
			from := socket[p.Number]
			to, touches := plug[p.Touches]
			switch {
			case !touches || p.Open:
			case r > 0 && r < last:
				across++
			default:
				rank := float64(len(row) - 1 - k)
				d.Joins = append(d.Joins, joinView{Path: arc(from, to, r == 0, rank), Bad: p.Bad})
			}
		}
		if across > 0 {
			end, begin := socket[row[len(row)-1].Number], plug[row[len(row)-1].Touches]
			y := end.Y + end.H/2
			d.Joins = append(
				d.Joins,
				joinView{
					Path: fmt.Sprintf("M%.1f %.1fH%.1f", end.X+end.W, y, begin.X), Of: fmt.Sprintf("all %d", across),
					X: (end.X + end.W + begin.X) / 2, Y: y - 5,
				},
			)
		}
	}
}

// arc bends from one pin to the other, higher for those further out.
func arc(from, to contactView, over bool, rank float64) string {
	rise, y1, y2 := -(arcLeast + arcMore*rank), from.Y, to.Y
	if !over {
		rise, y1, y2 = -rise, from.Y+from.H, to.Y+to.H
	}
	x1, x2 := from.X+from.W/2, to.X+to.W/2
	return fmt.Sprintf("M%.1f %.1fC%.1f %.1f %.1f %.1f %.1f %.1f", x1, y1, x1, y1+rise, x2, y2+rise, x2, y2)
}

// placed are the pins of a face as they were laid out, by their numbers.
func (d *facesDrawing) placed(f face, first int) map[int]contactView {
	at := map[int]contactView{}
	for i := range count(f) {
		at[d.Pins[first+i].Number] = d.Pins[first+i]
	}
	return at
}

func count(f face) (n int) {
	for _, row := range f.Rows {
		n += len(row)
	}
	return n
}
