package route

import (
	"fmt"
	"strings"

	"kolvan/core/assess"
	"kolvan/core/finding"
	"kolvan/core/link"
	"kolvan/core/rig"
	"kolvan/web/draw"
	"kolvan/web/phrase"
)

// Drawing is the way of the lanes: sixteen strands from the processor to
// the card, cut where an element does not wire them.
type Drawing struct {
	Title  string
	Aside  string
	Height float64
	Boxes  []draw.Box
	Lines  []draw.Line
	Cuts   string    // path of the rings where strands end
	Twins  string    // paths of what lies side by side behind a box
	Frame  *draw.Box // round what came as one: a box with its supply and the card in it
	Pinch  *callout
	Empty  string
	Starts string // the slot it starts from
	Reads  string // what the system was read to say
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
	routeBox     = 152.0 // the height of a box: its strands, and what it carries
	calloutWidth = 300.0
	mostBox      = 104.0 // the width of a box with room to spare
	leastGap     = 16.0
	letterWidth  = 7.6
)

// Draw draws the route from slot to card, its lanes as strands.
func Draw(r *rig.Rig, report *assess.Report, sel string, inches bool) *Drawing {
	d := &Drawing{Title: routeTitle(r, report), Aside: routeAside(report), Starts: "no slot yet", Reads: "nothing yet"}
	if r.Route.Slot != "" {
		d.Starts = "slot " + draw.Clip(r.Route.Slot, 18)
	}
	if n := len(r.Route.Readings); n > 0 {
		d.Reads = phrase.Counted(n, "reading", "readings")
	}
	if len(report.Link.Elements) == 0 {
		d.Height = routeBox + 84
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

// routeTitle says what the route does to the lanes.
func routeTitle(r *rig.Rig, report *assess.Report) string {
	f := &report.Figures
	if f.Width != nil && *f.Width == 0 {
		return "No lane reaches the card"
	}
	if f.Width == nil || f.Gen == nil {
		return "Not all of the way is known"
	}
	lanes := laneCount(*f.Width)
	pinch, known := report.Link.Pinch()
	switch {
	case !known || pinch.Where == "/card":
		return lanes + " all the way, at all that the card can do"
	case r.Card.Lanes.Known && r.Card.Lanes.Value > *f.Width:
		return fmt.Sprintf("%s of the card's %d: %s has no more", lanes, r.Card.Lanes.Value, draw.Clip(pinch.Name, 24))
	default:
		return lanes + " all the way; " + draw.Clip(pinch.Name, 24) + " sets the speed"
	}
}

// laneCount is a count of lanes in words.
func laneCount(n int) string {
	_, lanes, _ := strings.Cut(phrase.Counted(n, "lane", "lanes"), " ")
	return finding.Begin(phrase.Many(n)) + " " + lanes
}

func routeAside(report *assess.Report) string {
	net := phrase.Figure(report, "link.net_gb_s", phrase.Rate)
	if net == phrase.Unknown {
		return ""
	}
	return fmt.Sprintf("%s raw, %s net each way", phrase.Figure(report, "link.raw_gb_s", phrase.Rate), net)
}

// boxes places the processor and every element of the route in a row: in a box what passes,
// below it what it is called.
func (d *Drawing) boxes(r *rig.Rig, elements []link.Element, sel string, inches bool) {
	n := float64(len(elements) + 1)
	pitch := (draw.Width - 2*routeMargin) / n
	width := min(mostBox, pitch-leastGap)
	gap := (draw.Width - 2*routeMargin - n*width) / (n - 1)
	chars := int((width + gap - 6) / letterWidth)
	name := phrase.Or(r.Host.Proc.Name, "Processor")
	at := func(i int, class, sel string) draw.Box {
		return draw.Box{X: routeMargin + float64(i)*(width+gap), Y: strandTop - 14, W: width, H: routeBox, Sel: sel, Class: class}
	}
	first := at(0, "source", "/host")
	first.Letter(draw.Wrap(name, chars, 3), []string{"16 lanes"}, nil)
	d.Boxes = append(d.Boxes, first)
	for i, e := range elements {
		b := at(i+1, "element", e.Where)
		spec := phrase.Lanes(e)
		if float64(len(spec[0])+len(spec[1])+1)*8 < width {
			spec = []string{strings.Join(spec, " ")}
		}
		b.Letter(draw.Wrap(e.Name, chars, 3), spec, under(r, i, inches, chars))
		d.Boxes = append(d.Boxes, b)
		d.twins(r, i, &b)
	}
	d.framed(r, 6)
	for i := range d.Boxes {
		d.Boxes[i].Chosen = d.Boxes[i].Sel == sel
		for _, line := range d.Boxes[i].Texts {
			d.Height = max(d.Height, float64(line.Y)+14)
		}
	}
}

// twins draws behind the box of an element what lies side by side with it.
func (d *Drawing) twins(r *rig.Rig, i int, b *draw.Box) {
	if i == 0 || i > len(r.Route.Stages) {
		return
	}
	for k := 1; k < r.Beside(&r.Route.Stages[i-1]); k++ {
		off := 4 * float64(k)
		d.Twins += fmt.Sprintf("M%.1f %.1fV%.1fH%.1fV%.1f", b.X+off, b.Y, b.Y-off, b.X+b.W+off, b.Y+b.H-off)
	}
}

// framed puts a frame round the last stage and the card where they came as one box.
func (d *Drawing) framed(r *rig.Rig, by float64) {
	n := len(d.Boxes)
	if !rig.Is(r.Card.BuiltIn, true) || len(r.Route.Stages) == 0 {
		return
	}
	from, to := &d.Boxes[n-2], &d.Boxes[n-1]
	d.Frame = &draw.Box{X: from.X - by, Y: from.Y - by, W: to.X + to.W - from.X + 2*by, H: to.Y + to.H - from.Y + 2*by}
}

// builtAs says what else a stage is.
func builtAs(r *rig.Rig, s *rig.Stage) (list []string) {
	if n := r.Beside(s); n > 1 {
		list = append(list, fmt.Sprintf("%d side by side", n))
	}
	if rig.Is(s.Switches, true) {
		list = append(list, "packet switch")
	}
	if split, told := s.Needs.Get(); told && split != rig.SplitNone {
		list = append(list, fmt.Sprintf("part %d of %s", s.Takes.Or(1), rig.Spoken(split)))
	}
	if s.Panel.In != "" {
		list = append(list, "in "+s.Panel.In)
	}
	return list
}

// under is what stands below element i: slot first, card last.
func under(r *rig.Rig, i int, inches bool, chars int) []string {
	if i == 0 {
		slot := r.Slot(r.Route.Slot)
		lines := []string{draw.Clip(phrase.Form(slot), chars+3)}
		if slot.Occupant.Known && slot.Occupant.Value != rig.NoOccupant {
			lines = append(lines, draw.Clip("held "+slot.Occupant.Value, chars+4))
		}
		return lines
	}
	if i <= len(r.Route.Stages) {
		s := &r.Route.Stages[i-1]
		size := "? long"
		if s.Length.Known {
			size = phrase.Length(s.Length.Value, inches)
		}
		lines := []string{phrase.Of(s.Kind), size}
		for _, more := range builtAs(r, s) {
			lines = append(lines, draw.Clip(more, chars+4))
		}
		return lines
	}
	if rig.Is(r.Card.BuiltIn, true) {
		says := map[bool]string{true: "its box opens", false: "in its box"}[rig.Is(r.Card.Opens, true)]
		return []string{says, phrase.Of(r.Card.Memory)}
	}
	if form := r.Card.EdgeForm(); form != rig.CardSlot {
		return []string{rig.Spoken(form) + " module", phrase.Of(r.Card.Memory)}
	}
	return []string{"card edge x" + phrase.Of(r.Card.Edge), phrase.Of(r.Card.Memory)}
}

// strands draws each of the sixteen strands as far as it is wired.
func (d *Drawing) strands(report *assess.Report) {
	eachStrand(report.Link, func(i, s int, class string, cut, last bool) {
		left, right := d.Boxes[i], d.Boxes[i+1]
		y := strandTop + float64(s)*strandPitch
		d.strand(class, fmt.Sprintf("M%.1f %.1fH%.1f", left.X+10*first(i), y, right.X))
		switch {
		case cut:
			d.Cuts += fmt.Sprintf("M%.1f %.1fa2.2 2.2 0 1 0 4.4 0a2.2 2.2 0 1 0 -4.4 0", right.X-5.2, y)
		case last:
			d.strand(class, fmt.Sprintf("M%.1f %.1fH%.1f", right.X, y, right.X+right.W-10))
		}
	})
}

// eachStrand walks the strands that reach each element of a route. Their ink is the generation
// reached so far; strands that are cut before the card are pale. The last element is the card.
func eachStrand(p *link.Plan, draw func(i, s int, class string, cut, last bool)) {
	wired, gen := strands, 6
	for i, e := range p.Elements {
		for s := range wired {
			cut := e.Lanes.Known && s >= e.Lanes.Value
			class := fmt.Sprintf("strand gen%d", inkOf(gen, e.Gen, i))
			if cut || p.WidthKnown && s >= p.Width {
				class = "strand spare"
			}
			if e.Open(e.Lanes) {
				class += " open"
			}
			draw(i, s, class, cut, i == len(p.Elements)-1)
		}
		if e.Lanes.Known {
			wired = min(wired, e.Lanes.Value)
		}
		if e.Gen.Known {
			gen = min(gen, e.Gen.Value)
		}
	}
}

// first is 1 for the first of a row.
func first(i int) float64 {
	if i == 0 {
		return 1
	}
	return 0
}

// strand adds a strand to the line of its ink.
func (d *Drawing) strand(class, path string) {
	for i := range d.Lines {
		if d.Lines[i].Class == class {
			d.Lines[i].Path += path
			return
		}
	}
	d.Lines = append(d.Lines, draw.Line{Path: path, Class: class})
}

// inkOf: from the processor to the slot the slot's own generation holds.
func inkOf(sofar int, own rig.Fact[int], i int) int {
	if i == 0 && own.Known {
		return own.Value
	}
	return sofar
}

func (d *Drawing) pinch(report *assess.Report) {
	e, known := report.Link.Pinch()
	if !known {
		return
	}
	for i, at := range report.Link.Elements {
		if at.Where != e.Where {
			continue
		}
		b := d.Boxes[i+1]
		x := min(max(b.X+b.W/2-calloutWidth/2, routeMargin), draw.Width-routeMargin-calloutWidth)
		y := d.Height + 6
		d.Height = y + 54
		d.Pinch = &callout{X: x, Y: y, W: calloutWidth, Head: "Pinch: " + draw.Clip(e.Name, 34), Text: pinchWords(report.Link, e),
			From: fmt.Sprintf("M%.1f %.1fV%.1f", b.X, b.Y+b.H, y)}
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
		return fmt.Sprintf("x%d Gen %d, as all behind it", link.Legal(lanes), gen)
	}
	return fmt.Sprintf("x%d Gen %d here; all else could do x%d Gen %d", link.Legal(e.Lanes.Value), e.Gen.Value, link.Legal(lanes), gen)
}

// tallStrands runs the strands down, each as far as it is wired.
func (d *Drawing) tallStrands(p *link.Plan) {
	eachStrand(p, func(i, s int, class string, cut, last bool) {
		above, below := &d.Boxes[i], &d.Boxes[i+1]
		x, end := draw.TallLeft+float64(s)*draw.TallStrand, below.Y
		switch {
		case cut:
			d.Cuts += fmt.Sprintf("M%.1f %.1fa2 2 0 1 0 4 0a2 2 0 1 0 -4 0", x-2, below.Y-3)
		case last:
			end = below.Y + below.H - 10
		}
		d.strand(class, fmt.Sprintf("M%.1f %.1fV%.1f", x, above.Y+10*first(i), end))
	})
}
