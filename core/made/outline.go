// Package made writes parts that a person makes: templates to cut and drill by, as
// SVG and DXF outlines in millimetres, and parts to print, as STL and 3MF solids. It
// is tested by reading back what it wrote.
package made

import (
	"bufio"
	"encoding/xml"
	"fmt"
	"io"
	"strings"

	"kolvan/core/units"
)

// Point is a point of an outline.
type Point struct{ X, Y units.Millimetre }

// An Outline is closed loops in a plane; the last point of a loop is joined with its
// first.
type Outline struct {
	Name  string
	Loops [][]Point
	Edge  []Point    // of what it is cut in: to lay it on, not to cut
	Folds [][2]Point // where sheet is folded
}

// drawn are all the loops that are seen.
func (o *Outline) drawn() [][]Point {
	if o.Edge == nil {
		return o.Loops
	}
	return append([][]Point{o.Edge}, o.Loops...)
}

// Rectangle is a loop of four points, its middle at the origin.
func Rectangle(width, height units.Millimetre) []Point {
	w, h := width/2, height/2
	return []Point{{-w, -h}, {w, -h}, {w, h}, {-w, h}}
}

// Bounds are the least and the greatest corner of all loops.
func (o *Outline) Bounds() (low, high Point) {
	first := true
	for _, loop := range o.drawn() {
		for _, p := range loop {
			if first {
				low, high, first = p, p, false
			}
			low, high = Point{min(low.X, p.X), min(low.Y, p.Y)}, Point{max(high.X, p.X), max(high.Y, p.Y)}
		}
	}
	return low, high
}

// The sheet an outline is drawn on: its edge, and the line that a ruler is held to.
const (
	sheetEdge = 12
	checkLine = 100
)

// WriteSVG writes the outline at its true size, with centre lines and a line of
// 100 mm to hold a ruler to before cutting.
func (o *Outline) WriteSVG(to io.Writer) error {
	low, high := o.Bounds()
	width := max(float64(high.X-low.X), checkLine) + 2*sheetEdge
	height := float64(high.Y-low.Y) + 4*sheetEdge
	x := func(v units.Millimetre) float64 { return float64(v-low.X) + (width-float64(high.X-low.X))/2 }
	y := func(v units.Millimetre) float64 { return float64(high.Y-v) + sheetEdge }
	w := bufio.NewWriter(to)
	fmt.Fprintf(
		w,
		`<svg xmlns="http://www.w3.org/2000/svg" width="%.3fmm" height="%.3fmm" viewBox="0 0 %.3f %.3f" fill="none" stroke="#000" stroke-width="0.2">`+"\n",
		width, height, width, height,
	)
	fmt.Fprintf(w, "<title>%s</title>\n", escaped(o.Name))
	for n, loop := range o.drawn() {
		class := "cut"
		if o.Edge != nil && n == 0 {
			class = "edge"
		}
		fmt.Fprintf(w, `<path class="%s" d="`, class)
		for i, p := range loop {
			fmt.Fprintf(w, "%c%.3f %.3f", "ML"[min(1, i)], x(p.X), y(p.Y))
		}
		fmt.Fprintln(w, `Z"/>`)
	}
	for _, f := range o.Folds {
		fmt.Fprintf(
			w, `<path class="fold" stroke-dasharray="4 2" d="M%.3f %.3fL%.3f %.3f"/>`+"\n", x(f[0].X), y(f[0].Y), x(f[1].X),
			y(f[1].Y),
		)
	}
	middleX, middleY := o.middle()
	middleX, middleY = units.Millimetre(x(middleX)), units.Millimetre(y(middleY))
	fmt.Fprintf(
		w, `<path class="centre" stroke-dasharray="3 1 0.5 1" stroke-width="0.1" d="M%.3f 4V%.3fM4 %.3fH%.3f"/>`+"\n", middleX,
		height-2*sheetEdge, middleY, width-4,
	)
	below := height - sheetEdge
	fmt.Fprintf(
		w, `<path class="check" d="M%.3f %.3fh%d m-%d -2v4m%d -4v4"/>`+"\n", (width-checkLine)/2, below, checkLine, checkLine,
		checkLine,
	)
	for i, line := range []string{o.Name, "The line is 100 mm: print at full size and measure it."} {
		fmt.Fprintf(
			w,
			`<text x="%.3f" y="%.3f" font-family="sans-serif" font-size="3" fill="#000" stroke="none" text-anchor="middle">%s</text>`+"\n",
			width/2, below+5+float64(i)*4, escaped(line),
		)
	}
	fmt.Fprintln(w, "</svg>")
	return w.Flush()
}

// middle is where the centre lines cross: in the middle of what is cut.
func (o *Outline) middle() (x, y units.Millimetre) {
	cut := Outline{Loops: o.Loops}
	low, high := cut.Bounds()
	return (low.X + high.X) / 2, (low.Y + high.Y) / 2
}

func escaped(text string) string {
	var b strings.Builder
	_ = xml.EscapeText(&b, []byte(text)) // a builder takes all
	return b.String()
}

// WriteDXF writes the loops as closed polylines in millimetres, on a layer of their
// own.
func (o *Outline) WriteDXF(to io.Writer) error {
	w := bufio.NewWriter(to)
	put := func(code int, value any) { fmt.Fprintf(w, "%d\n%v\n", code, value) }
	for _, line := range [][2]any{
		{0, "SECTION"}, {2, "HEADER"}, {9, "$ACADVER"}, {1, "AC1009"}, {9, "$INSUNITS"}, {70, 4}, {0, "ENDSEC"},
		{0, "SECTION"}, {2, "ENTITIES"},
	} {
		put(line[0].(int), line[1])
	}
	for n, loop := range o.drawn() {
		layer := "CUT"
		if o.Edge != nil && n == 0 {
			layer = "EDGE"
		}
		put(0, "POLYLINE")
		put(8, layer)
		put(66, 1)
		put(70, 1) // closed
		for _, p := range loop {
			put(0, "VERTEX")
			put(8, layer)
			put(10, fmt.Sprintf("%.3f", float64(p.X)))
			put(20, fmt.Sprintf("%.3f", float64(p.Y)))
			put(30, "0.0")
		}
		put(0, "SEQEND")
	}
	put(0, "ENDSEC")
	put(0, "EOF")
	return w.Flush()
}
