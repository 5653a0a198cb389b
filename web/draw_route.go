package web

import (
	"fmt"
	"strings"

	"kolvan/core/assess"
	"kolvan/core/link"
	"kolvan/core/rig"
)

// routeDrawing is the way of the lanes: sixteen strands from the processor to
// the card, cut where an element does not wire them.
type routeDrawing struct {
	Title  string
	Aside  string
	Height float64
	Boxes  []box
	Lines  []line
	Cuts   string // path of the rings where strands end
	Pinch  *callout
	Empty  string
}

// callout names the pinch on the drawing.
type callout struct {
	X, Y, W float64
	From    string // path of the line to what it speaks of
	Head    string
	Text    string
}

const (
	strands      = 16
	strandPitch  = 6.0
	strandTop    = 24.0
	routeMargin  = 24.0
	routeHeight  = 236.0
	calloutWidth = 300.0
)

func drawRoute(r *rig.Rig, report *assess.Report, sel string, inches bool) *routeDrawing {
	d := &routeDrawing{Height: routeHeight, Title: routeTitle(r, report), Aside: routeAside(report)}
	if len(report.Link.Elements) == 0 {
		d.Empty = "No slot is chosen yet. Choose one below: the lanes start there."
		if len(r.Host.Slots) == 0 {
			d.Empty = "The host has no slots yet. Add them at the survey, or take a host from the list."
		}
		return d
	}
	d.boxes(r, report.Link.Elements, sel, inches)
	d.strands(report)
	d.pinch(report)
	return d
}

func routeTitle(r *rig.Rig, report *assess.Report) string {
	f := &report.Figures
	switch {
	case f.Width != nil && *f.Width == 0:
		return "Processor to card: no link"
	case f.Width == nil || f.Gen == nil:
		return "Processor to card: not all is known"
	default:
		return fmt.Sprintf("Processor to card: %s, Gen %d", plural(*f.Width, "lane"), *f.Gen)
	}
}

func routeAside(report *assess.Report) string {
	net := figureOf(report, "link.net_gb_s", printRate)
	if net == unknown {
		return ""
	}
	return fmt.Sprintf("%s raw, %s net each way", figureOf(report, "link.raw_gb_s", printRate), net)
}

// boxes places the processor and every element of the route in a row.
func (d *routeDrawing) boxes(r *rig.Rig, elements []link.Element, sel string, inches bool) {
	n := float64(len(elements) + 1)
	width := min(108, (drawingWidth-2*routeMargin-(n-1)*36)/n)
	gap := (drawingWidth - 2*routeMargin - n*width) / (n - 1)
	chars := int((width - 10) / 7.4)
	processor := box{X: routeMargin, Y: strandTop - 14, W: width, H: (strands-1)*strandPitch + 28, Sel: "/host", Class: "source"}
	name := r.Host.Proc.Name
	if name == "" {
		name = "Processor"
	}
	d.Boxes = append(d.Boxes, processor)
	d.Boxes[0].letter(wrap(name, chars, 3), nil, []string{"16 strands"})
	for i, e := range elements {
		b := processor
		b.X = routeMargin + float64(i+1)*(width+gap)
		b.Class = "element"
		b.Sel = e.Where
		b.letter(wrap(e.Name, chars, 4), []string{strings.Join(laneWords(e), " ")}, under(r, i, inches, chars))
		d.Boxes = append(d.Boxes, b)
	}
	for i := range d.Boxes {
		d.Boxes[i].Chosen = d.Boxes[i].Sel == sel
	}
}

// laneWords are the lanes and the generation of an element; of a tunnelled port
// nobody counts lanes.
func laneWords(e link.Element) []string {
	if e.Tunnel && !e.Lanes.Known {
		return []string{"tunnel", ""}
	}
	return []string{"x" + words(e.Lanes), "Gen " + words(e.Gen)}
}

// letter writes the name and lines into the middle of the box, the rest below it.
func (b *box) letter(name, lines, under []string) {
	middle := b.X + b.W/2
	b.write("name", middle, b.Y+24, 16, name...)
	b.write("sub", middle, b.Y+27+16*float64(len(name)), 18, lines...)
	b.write("under", middle, b.Y+b.H+18, 16, under...)
}

// under is what stands below element i: slot first, card last.
func under(r *rig.Rig, i int, inches bool, chars int) []string {
	if i == 0 {
		slot := r.Slot(r.Route.Slot)
		lines := []string{clip(formWords(slot), chars+3)}
		if slot.Occupant.Known && slot.Occupant.Value != rig.NoOccupant {
			lines = append(lines, clip("held "+slot.Occupant.Value, chars+4))
		}
		return lines
	}
	if i <= len(r.Route.Stages) {
		s := &r.Route.Stages[i-1]
		size := "? long"
		if s.Length.Known {
			size = length(s.Length.Value, inches)
		}
		return []string{words(s.Kind), size}
	}
	return []string{"card edge x" + words(r.Card.Edge), words(r.Card.Memory)}
}

// strands draws each of the sixteen strands as far as it is wired. Its ink is
// the generation reached so far; strands that are cut before the card are pale.
func (d *routeDrawing) strands(report *assess.Report) {
	p := report.Link
	wired, gen := strands, 6
	for i, e := range p.Elements {
		left, right := d.Boxes[i], d.Boxes[i+1]
		for s := range wired {
			y := strandTop + float64(s)*strandPitch
			cut := e.Lanes.Known && s >= e.Lanes.Value
			class := fmt.Sprintf("strand gen%d", inkOf(gen, e.Gen, i))
			if cut || p.WidthKnown && s >= p.Width {
				class = "strand spare"
			}
			if e.Open(e.Lanes) {
				class += " open"
			}
			d.strand(class, fmt.Sprintf("M%.1f %.1fH%.1f", left.X+left.W, y, right.X))
			if cut {
				d.Cuts += fmt.Sprintf("M%.1f %.1fa2.2 2.2 0 1 0 4.4 0a2.2 2.2 0 1 0 -4.4 0", right.X-5.2, y)
			}
		}
		if e.Lanes.Known {
			wired = min(wired, e.Lanes.Value)
		}
		if e.Gen.Known {
			gen = min(gen, e.Gen.Value)
		}
	}
}

// strand adds a strand to the line of its ink.
func (d *routeDrawing) strand(class, path string) {
	for i := range d.Lines {
		if d.Lines[i].Class == class {
			d.Lines[i].Path += path
			return
		}
	}
	d.Lines = append(d.Lines, line{Path: path, Class: class})
}

// inkOf: from the processor to the slot the slot's own generation holds.
func inkOf(sofar int, own rig.Fact[int], i int) int {
	if i == 0 && own.Known {
		return own.Value
	}
	return sofar
}

func (d *routeDrawing) pinch(report *assess.Report) {
	e, known := report.Link.Pinch()
	if !known {
		return
	}
	for i, at := range report.Link.Elements {
		if at.Where != e.Where {
			continue
		}
		b := d.Boxes[i+1]
		x := min(max(b.X+b.W/2-calloutWidth/2, routeMargin), drawingWidth-routeMargin-calloutWidth)
		y := routeHeight - 52
		d.Pinch = &callout{X: x, Y: y, W: calloutWidth, Head: "Pinch: " + clip(e.Name, 34), Text: pinchWords(report.Link, e),
			From: fmt.Sprintf("M%.1f %.1fV%.1f", b.X+1, b.Y+b.H, y)}
	}
}

// pinchWords says what the pinch does to the rest of the route.
func pinchWords(p *link.Plan, e link.Element) string {
	if e.Where == "/card" {
		return "the card itself is the least of the route"
	}
	if e.Tunnel {
		return fmt.Sprintf("its tunnel leaves %s for the card", p.Net)
	}
	lanes, gen := 16, 6
	for _, other := range p.Elements {
		if other.Where != e.Where && !other.Tunnel {
			lanes, gen = min(lanes, other.Lanes.Value), min(gen, other.Gen.Value)
		}
	}
	if link.Legal(lanes) == link.Legal(e.Lanes.Value) && gen == e.Gen.Value {
		return fmt.Sprintf("x%d Gen %d, and nothing behind it does more", link.Legal(lanes), gen)
	}
	return fmt.Sprintf("x%d Gen %d here; all else could do x%d Gen %d", link.Legal(e.Lanes.Value), e.Gen.Value, link.Legal(lanes), gen)
}
