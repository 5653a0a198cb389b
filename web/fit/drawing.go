package fit

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"kolvan/core/assess"
	"kolvan/core/fit"
	"kolvan/core/reference"
	"kolvan/core/rig"
	"kolvan/core/units"
	"kolvan/web/draw"
	"kolvan/web/phrase"
)

// Drawing is the chamber in three views on a cutting mat: from the side, from
// above and from the end.
type Drawing struct {
	Title  string
	Aside  string
	Width  float64
	Height float64
	ID     string  // parts the fields of one drawing from those of the other
	Square float64 // drawn length of 10 mm
	Views  []fitView
	Turned *turnedView
	Places []placeInput
	Slacks []slack
	SlackX float64
	Scale  float64 // drawn length of 1 mm
	Empty  string  // why there is nothing to draw
	Open   bool    // nothing is about it
	Note   string  // beneath what stands free
}

// fitView shows two of the chamber's axes.
type fitView struct {
	Name       string
	X, Y, W, H float64
	Across     string // axis to the right
	Down       string // axis up or down the drawing
	Up         bool   // the second axis grows upward
	Boxes      []fitBox
	Ways       []wayMark
	Card       *fitBox
	Gap        *gapMark
	Guessed    string // path of the walls that nobody measured
}

type fitBox struct {
	draw.Box
	Name string
	Path string // of a prism, seen along its axis
	Gap  string // how the card stands to it, for who does not see it
}

// wayMark is a cover on its way: where it ends, what it passes over, where it meets
// something.
type wayMark struct{ Path, Class string }

type gapMark struct {
	X1, Y1, X2, Y2 float64
	Label          draw.Mark
	Class          string
}

const (
	fitMargin = 24.0
	fitTop    = 22.0
	fitDepth  = 390.0 // least height of the drawing's field
	viewGap   = 54.0
)

// Draw draws the card in its chamber, from three sides; cards are those it could be.
func Draw(r *rig.Rig, report *assess.Report, cards []rig.Card, ref *reference.Tables, sel string, inches bool) *Drawing {
	d := &Drawing{Title: fitTitle(r, report, inches), Aside: "1 square = 10 mm", Width: draw.Width, Height: fitTop + fitDepth}
	extent, guessed := chamberExtent(r, report.Chamber)
	if rig.Is(r.Card.BuiltIn, true) {
		d.Empty = "The card came built into its box, fitted by the box's maker."
	} else if r.Chamber.Open {
		return d.free(r, sel, inches)
	} else if guessed != [3]bool{} {
		d.Note = "Power off and unplugged, cover off: measure inside. Each field stands on the edge that it measures; a dashed wall is not " +
			"measured yet."
	}
	if d.Empty != "" {
		d.Height = 200
		return d
	}
	d.views(d.lay(extent, fitDepth), guessed, r, report, ref, sel, inches)
	end, plan := d.Views[1], d.Views[2]
	d.SlackX = draw.Width - slackWidth
	d.Turned = drawTurned(
		r, report.Chamber, extent, plan.X+plan.W+viewGap, plan.Y, min(end.X+end.W, d.SlackX-20)-plan.X-plan.W-viewGap, plan.H,
	)
	if d.SlackX > end.X+end.W+20 {
		d.slacks(r, cards, ref, inches)
	}
	return d
}

// DrawTall is the same for a telephone: one view below the other; nil where none is drawn.
func DrawTall(r *rig.Rig, report *assess.Report, ref *reference.Tables, sel string, inches bool) *Drawing {
	if rig.Is(r.Card.BuiltIn, true) {
		return nil
	}
	d := &Drawing{Title: fitTitle(r, report, inches), Width: draw.TallWidth, ID: "tall-"}
	if r.Chamber.Open {
		return d.free(r, sel, inches)
	}
	extent, guessed := chamberExtent(r, report.Chamber)
	d.views(d.lay(extent, fitDepth), guessed, r, report, ref, sel, inches)
	return d
}

// lay scales an extent and lays out its views: in a field of a depth, or upright for a
// telephone, one below the other.
func (d *Drawing) lay(extent fit.Vec, depth float64) []fitView {
	if d.Width != draw.TallWidth {
		d.scale(extent, depth)
		return d.triple(extent)
	}
	d.Scale = (draw.TallWidth - fitMargin - tallFields) / float64(max(extent[0], extent[2]))
	d.Square = 10 * d.Scale
	views := d.triple(extent)
	end, plan := &views[1], views[2]
	end.X, end.Y = fitMargin, plan.Y+plan.H+viewGap
	d.Height = end.Y + end.H + fitTop
	return views
}

// tallFields is the room for the fields beside the views.
const tallFields = 56.0

// views fills the views in, with the fields of the case and of the card's place on them.
func (d *Drawing) views(
	views []fitView, guessed [3]bool, r *rig.Rig, report *assess.Report, ref *reference.Tables, sel string, inches bool,
) {
	for _, v := range views {
		d.fill(&v, r, report, ref, sel, inches)
		v.walls(guessed)
		d.Views = append(d.Views, v)
	}
	d.measures(r, inches)
	d.places(r, inches)
}

// openAir is said of a card that stands free.
const openAir = "The card stands in the open: there is nothing to meet. Mind loose cables, coins and tools near live contacts."

// freeRoom is what is drawn about a card that stands free.
const freeRoom units.Millimetre = 30

// free draws a card that stands in the open: as large as it is, and no walls.
func (d *Drawing) free(r *rig.Rig, sel string, inches bool) *Drawing {
	d.Open = true
	size := fit.Vec{r.Card.Length.Value, r.Card.Height.Value, r.Card.Thickness.Value}
	if size[0] <= 0 || size[1] <= 0 || size[2] <= 0 {
		d.Empty, d.Height = openAir, 200
		return d
	}
	d.Note = openAir
	card := fit.Box{Min: fit.Vec{freeRoom, 0, freeRoom}}
	var extent fit.Vec
	for i := range size {
		card.Max[i] = card.Min[i] + size[i]
		extent[i] = card.Max[i] + freeRoom
	}
	for _, v := range d.lay(extent, freeDepth) {
		v.Boxes = append(v.Boxes, d.cardBox(&v, r, card, sel, inches))
		d.Views = append(d.Views, v)
	}
	return d
}

// freeDepth is the height of the field for a card that stands free.
const freeDepth = 270.0

// scale is what an extent is drawn to, in a field of a depth.
func (d *Drawing) scale(extent fit.Vec, depth float64) {
	wide, tall := float64(extent[0]+extent[2]), float64(extent[1]+extent[2])
	d.Scale = min((draw.Width-2*fitMargin-viewGap)/wide, (depth-viewGap)/tall)
	d.Square = 10 * d.Scale
}

// triple are the views of an extent: from the side, from the end and from above.
func (d *Drawing) triple(extent fit.Vec) []fitView {
	s := func(v units.Millimetre) float64 { return float64(v) * d.Scale }
	side := fitView{Name: "side", X: fitMargin, Y: fitTop, W: s(extent[0]), H: s(extent[1]), Across: "x", Down: "y", Up: true}
	end := fitView{
		Name: "end", X: fitMargin + s(extent[0]) + viewGap, Y: fitTop, W: s(extent[2]), H: s(extent[1]), Across: "z",
		Down: "y", Up: true,
	}
	plan := fitView{
		Name: "plan", X: fitMargin, Y: fitTop + s(extent[1]) + viewGap, W: s(extent[0]), H: s(extent[2]), Across: "x",
		Down: "z",
	}
	d.Height = plan.Y + plan.H + 26
	return []fitView{side, end, plan}
}

func fitTitle(r *rig.Rig, report *assess.Report, inches bool) string {
	name := phrase.Or(r.Chamber.Name, "The room for the card")
	gap, known := report.Chamber.Gap()
	switch {
	case r.Chamber.Open:
		return name
	case !known:
		return name + ": the gap is not known yet"
	case gap.Ends.Low < 0:
		return name + ": the card meets " + gap.Name + " by " + phrase.Length(-gap.Ends.Low.Ruled(), inches)
	default:
		return name + ": the card clears " + gap.Name + " by " + phrase.Length(gap.Ends.Low.Ruled(), inches)
	}
}

// chamberExtent is the chamber's size as it is drawn; a side that nobody measured is taken to
// be a little more than the card, and is drawn as guessed.
func chamberExtent(r *rig.Rig, c *fit.Chamber) (size fit.Vec, guessed [3]bool) {
	card := fit.Vec{r.Card.Length.Or(240), r.Card.Height.Or(110), r.Card.Thickness.Or(40)}
	for i, f := range []fit.Fact{r.Chamber.Box.X, r.Chamber.Box.Y, r.Chamber.Box.Z} {
		size[i] = f.Value
		if guessed[i] = !f.Known || f.Value <= 0; guessed[i] {
			size[i] = card[i] + roomToSpare
		}
		if c.Placed {
			size[i] = max(size[i], c.Card.Max[i])
		}
	}
	return size, guessed
}

// roomToSpare is how much further than the card a wall is drawn that nobody measured.
const roomToSpare units.Millimetre = 40

// walls are the sides of a view: dashed where they were not measured.
func (v *fitView) walls(guessed [3]bool) {
	far := fmt.Sprintf("M%.1f %.1fv%.1f", v.X+v.W, v.Y, v.H)
	edge := fmt.Sprintf("M%.1f %.1fh%.1f", v.X, v.Y, v.W)
	if !v.Up {
		edge = fmt.Sprintf("M%.1f %.1fh%.1f", v.X, v.Y+v.H, v.W)
	}
	for axis, wall := range map[string]string{v.Across: far, v.Down: edge} {
		if guessed[axisIndex(axis)] {
			v.Guessed += wall
		}
	}
}

// measures are the fields of the case's size, each on the edge that it measures, one after the
// other by Tab.
func (d *Drawing) measures(r *rig.Rig, inches bool) {
	side, plan := &d.Views[0], &d.Views[2]
	for _, m := range []struct {
		axis, label string
		fact        fit.Fact
		x, y        float64
	}{
		{"x_mm", "along the slots", r.Chamber.Box.X, side.X + side.W*0.62, side.Y - 12},
		{"y_mm", "up from the board", r.Chamber.Box.Y, side.X + side.W + viewGap/2, side.Y + side.H*0.3},
		{"z_mm", "across the slots", r.Chamber.Box.Z, plan.X + plan.W + viewGap/2 - 4, plan.Y + plan.H*0.3},
	} {
		value := ""
		if m.fact.Known {
			value = strings.TrimSuffix(phrase.Length(m.fact.Value, inches), " mm")
		}
		d.Places = append(
			d.Places,
			placeInput{
				X:     m.x - placeWidth/2,
				Y:     m.y - placeHeight/2,
				Axis:  "box-" + m.axis,
				Path:  "/chamber/box/" + m.axis,
				Value: value,
				Label: "the case, " + m.label,
				Open:  !m.fact.Known,
			},
		)
	}
}

func axisIndex(name string) int { return int(name[0] - 'x') }

// rect projects a box into a view.
func (d *Drawing) rect(v *fitView, b fit.Box) fitBox {
	a, o := axisIndex(v.Across), axisIndex(v.Down)
	size := b.Size()
	f := fitBox{Box: draw.Box{X: v.X + float64(b.Min[a])*d.Scale, W: max(1, float64(size[a])*d.Scale), H: max(1, float64(size[o])*d.Scale)}}
	f.Y = v.Y + float64(b.Min[o])*d.Scale
	if v.Up {
		f.Y = v.Y + v.H - float64(b.Max[o])*d.Scale
	}
	return f
}

func (d *Drawing) fill(v *fitView, r *rig.Rig, report *assess.Report, ref *reference.Tables, sel string, inches bool) {
	for i := range r.Chamber.Things {
		t := &r.Chamber.Things[i]
		class := "thing"
		if t.Holds {
			class = "thing holds"
		}
		if t.Out {
			class = "thing out"
		}
		d.thing(v, t.Name, class, rig.ThingPath(i), &t.At, &t.Size, sel)
		d.profile(v, t)
	}
	for i := range r.Chamber.Covers {
		t := &r.Chamber.Covers[i]
		d.thing(v, t.Name, "cover", rig.CoverPath(i), &t.At, &t.Size, sel)
		d.way(v, t, report, rig.CoverPath(i))
	}
	for i := range v.Boxes {
		v.Boxes[i].Gap = gapToCard(report.Chamber, v.Boxes[i].Sel, inches)
	}
	for i := range r.Route.Stages {
		if path := d.cable(v, &r.Route.Stages[i], ref); path != "" {
			v.Ways = append(v.Ways, wayMark{path, "cable"})
		}
	}
	if !report.Chamber.Placed {
		return
	}
	card := d.cardBox(v, r, report.Chamber.Card, sel, inches)
	dropHidden(v.Boxes, card)
	v.Card = &card
	v.Gap = d.gap(v, report.Chamber, inches)
}

// gapToCard says how far the card is from a thing; nothing where that is not known.
func gapToCard(c *fit.Chamber, thing string, inches bool) string {
	for i := range c.Gaps {
		gap := &c.Gaps[i]
		switch {
		case gap.Where != thing || !gap.Ends.Known():
		case gap.Ends.Low < 0:
			return ", the card meets it by " + phrase.Length(-gap.Ends.Low.Ruled(), inches)
		default:
			return ", " + phrase.Length(gap.Ends.Low.Ruled(), inches) + " from the card"
		}
	}
	return ""
}

// cardBox is the card in a view, with its name and its measures where they find room.
func (d *Drawing) cardBox(v *fitView, r *rig.Rig, at fit.Box, sel string, inches bool) fitBox {
	card := d.rect(v, at)
	card.Sel, card.Chosen, card.Class = "/card", sel == "/card", "card"
	size := at.Size()
	card.Name = phrase.Or(r.Card.Name, "card")
	var lines []string
	if card.W > 70 && card.H > 20 {
		lines = draw.Wrap(card.Name, int(card.W/8), 2)
	}
	if measure := fmt.Sprintf(
		"%s × %s", phrase.Length(size[axisIndex(v.Across)], inches), phrase.Length(size[axisIndex(v.Down)], inches),
	); card.H > 38 && card.W > float64(len(measure))*8 {
		lines = append(lines, measure)
	}
	card.Write("", card.X+card.W/2, card.Y+card.H/2+4-float64(len(lines)-1)*8, 16, lines...)
	return card
}

func (d *Drawing) thing(v *fitView, name, class, sel string, at *rig.Place, size *rig.Extent, chosen string) {
	b, known := fit.BoxOf(at, size)
	if !known {
		return
	}
	f := d.rect(v, b)
	f.Name, f.Class, f.Sel, f.Chosen = name, class, sel, sel == chosen
	if f.W > 46 && f.H > 16 {
		f.Write("", f.X+f.W/2, f.Y+f.H/2+4, 14, draw.Wrap(name, int(f.W/7), max(1, min(2, int(f.H/16))))...)
	}
	v.Boxes = append(v.Boxes, f)
}

// profile draws a prism by its outline, in the view that is along its axis.
func (d *Drawing) profile(v *fitView, t *rig.Thing) {
	axis, hull, is := fit.ProfileOf(t)
	if !is || len(v.Boxes) == 0 || v.Boxes[len(v.Boxes)-1].Name != t.Name || axis == axisIndex(v.Across) || axis == axisIndex(v.Down) {
		return
	}
	path := ""
	for i, h := range hull {
		var p fit.Vec
		p[(axis+1)%3], p[(axis+2)%3] = h[0], h[1]
		x, y := d.point(v, p)
		path += fmt.Sprintf("%c%.1f %.1f", "ML"[min(1, i)], x, y)
	}
	v.Boxes[len(v.Boxes)-1].Path = path + "z"
}

// way draws what a cover does on its way, in the view that shows it.
func (d *Drawing) way(v *fitView, cover *rig.Cover, report *assess.Report, at string) {
	t, known := fit.WayOf(cover)
	a, o := axisIndex(v.Across), axisIndex(v.Down)
	switch {
	case !known:
	case t.Turn == 0 && (t.Axis == a || t.Axis == o):
		end := d.rect(v, t.Open())
		v.Ways = append(v.Ways, wayMark{fmt.Sprintf("M%.1f %.1fh%.1fv%.1fh%.1fz", end.X, end.Y, end.W, end.H, -end.W), "way"})
	case t.Turn != 0 && t.Axis != a && t.Axis != o:
		turn := math.Abs(float64(t.Turn))
		v.Ways = append(v.Ways, wayMark{d.outline(v, t.Outline(turn)), "way"}, wayMark{d.arcs(v, &t, turn), "arc"})
		for i := range report.Findings {
			if f := &report.Findings[i]; f.Rule == fit.RuleLid && f.Where == at && len(f.Numbers) == 2 {
				v.Ways = append(v.Ways, wayMark{d.outline(v, t.Outline((f.Numbers[0].Value+f.Numbers[1].Value)/2)), "strikes"})
			}
		}
	}
}

// point is where a point of the chamber stands in a view.
func (d *Drawing) point(v *fitView, p fit.Vec) (x, y float64) {
	a, o := axisIndex(v.Across), axisIndex(v.Down)
	x, y = v.X+float64(p[a])*d.Scale, v.Y+float64(p[o])*d.Scale
	if v.Up {
		y = v.Y + v.H - float64(p[o])*d.Scale
	}
	return x, y
}

// cable is the way of a cable in a view; empty while a point is not told.
func (d *Drawing) cable(v *fitView, s *rig.Stage, ref *reference.Tables) (line string) {
	bow, _ := fit.BowOf(s, ref)
	for i, p := range bow.Line {
		x, y := d.point(v, p)
		line += fmt.Sprintf("%c%.1f %.1f", "ML"[min(1, i)], x, y)
	}
	return line
}

func (d *Drawing) outline(v *fitView, corners [4]fit.Vec) string {
	path := ""
	for i, c := range corners {
		x, y := d.point(v, c)
		path += fmt.Sprintf("%c%.1f %.1f", "MLLL"[i], x, y)
	}
	return path + "z"
}

// arcs are the ways of the four corners, drawn through a point every few degrees.
func (d *Drawing) arcs(v *fitView, t *fit.Travel, turn float64) string {
	var paths [4]string
	const step = 4
	for at := 0.0; ; at += step {
		for i, c := range t.Outline(min(at, turn)) {
			x, y := d.point(v, c)
			paths[i] += fmt.Sprintf("%c%.1f %.1f", "ML"[min(1, len(paths[i]))], x, y)
		}
		if at >= turn {
			return strings.Join(paths[:], "")
		}
	}
}

// dropHidden takes the names off boxes whose name would stand on the card.
func dropHidden(boxes []fitBox, card fitBox) {
	onCard := func(t draw.Text) bool {
		x, y := float64(t.X), float64(t.Y)
		return x > card.X-20 && x < card.X+card.W+20 && y > card.Y-4 && y < card.Y+card.H+10
	}
	for i := range boxes {
		if slices.ContainsFunc(boxes[i].Texts, onCard) {
			boxes[i].Texts = nil
		}
	}
}

// placeInput is a dimension line of the card's place, and the field one types it into.
type placeInput struct {
	X, Y       float64
	Line       string
	Axis, Path string
	Value      string
	Label      string
	Open       bool // not told yet
}

// places draws where the card stands as dimension lines: along and upward in the side
// view, along the row of slots in the plan.
func (d *Drawing) places(r *rig.Rig, inches bool) {
	side, plan := &d.Views[0], &d.Views[2]
	if side.Card == nil || plan.Card == nil {
		return
	}
	at := &r.Chamber.CardAt
	up := side.Card.X + side.Card.W*side.freeAcross((side.Y+side.H+side.Card.Y+side.Card.H)/2)
	for _, p := range []struct {
		axis, label    string
		fact           fit.Fact
		x1, y1, x2, y2 float64
	}{
		{"x_mm", "from the bracket's wall", at.X, side.X, side.Card.Y + side.Card.H*0.8, side.Card.X, side.Card.Y + side.Card.H*0.8},
		{"y_mm", "up from the slot", at.Y, up, side.Y + side.H, up, side.Card.Y + side.Card.H},
		{"z_mm", "along the row of slots", at.Z, plan.Card.X + plan.Card.W*0.3, plan.Y, plan.Card.X + plan.Card.W*0.3, plan.Card.Y},
	} {
		value := phrase.Length(p.fact.Value, inches)
		if !inches {
			value = strings.TrimSuffix(value, " mm")
		}
		d.Places = append(
			d.Places,
			placeInput{
				X:     max(2, (p.x1+p.x2)/2-placeWidth/2),
				Y:     (p.y1+p.y2)/2 - placeHeight/2,
				Line:  fmt.Sprintf("M%.1f %.1fL%.1f %.1f", p.x1, p.y1, p.x2, p.y2),
				Axis:  p.axis,
				Path:  "/chamber/card_at/" + p.axis,
				Value: value,
				Label: "card, " + p.label,
			},
		)
	}
}

const placeWidth, placeHeight = 46.0, 20.0

// freeAcross is how far along the card a dimension may stand at this height and hide no
// name of an obstacle: where it stands best, or beside that.
func (v *fitView) freeAcross(y float64) float64 {
	best := []float64{0.3, 0.15, 0.5, 0.65, 0.8}
	for _, share := range best {
		x := v.Card.X + v.Card.W*share
		hides := func(t draw.Text) bool {
			return math.Abs(float64(t.X)-x) < placeWidth/2+4*float64(len(t.Text)) && math.Abs(float64(t.Y)-4-y) < placeHeight
		}
		if !slices.ContainsFunc(v.Boxes, func(b fitBox) bool { return slices.ContainsFunc(b.Texts, hides) }) {
			return share
		}
	}
	return best[0]
}

// slack is one card of the list with the room it would have here.
type slack struct {
	Y        float64
	Name     string
	Text     string
	Meets    string // what it meets first, if it meets anything
	Here, No bool
}

// slackFrom and slackRow place the list beside the views.
const (
	slackWidth = 230.0
	slackRow   = 21.0
	slackMost  = 14
)

// slacks sorts the cards by the gap they would have where the card stands; those
// nearest to just fitting are shown.
func (d *Drawing) slacks(r *rig.Rig, cards []rig.Card, ref *reference.Tables, inches bool) {
	all := fit.Slacks(r, cards, ref)
	fits := slices.IndexFunc(all, func(t fit.Slack) bool { return t.Gap.Ends.Low < 0 })
	from := max(0, min(fits-slackMost/2, len(all)-slackMost))
	for i, t := range all[from:min(len(all), from+slackMost)] {
		name := cards[t.Card].Name
		s := slack{
			Y: fitTop + 30 + float64(i)*slackRow, Name: draw.Clip(name, 18), Text: phrase.Length(t.Gap.Ends.Low.Ruled(), inches),
			Here: name == r.Card.Name, No: t.Gap.Ends.Low < 0,
		}
		if s.No {
			s.Meets = name + " meets " + t.Gap.Name + " first"
		}
		d.Slacks = append(d.Slacks, s)
	}
}

// gap draws the smallest gap in the views that show the axis it lies along.
func (d *Drawing) gap(v *fitView, c *fit.Chamber, inches bool) *gapMark {
	g, known := c.Gap()
	if !known {
		return nil
	}
	axis, from, to := c.Span(g)
	a, o := axisIndex(v.Across), axisIndex(v.Down)
	if axis != a && axis != o {
		return nil
	}
	card := d.rect(v, c.Card)
	class := "ok"
	if g.Ends.Low < g.Tolerance {
		class = "tight"
	}
	if g.Ends.Low < 0 {
		class = "over"
	}
	m := &gapMark{Class: class}
	m.Label.Text = phrase.Length(g.Ends.Low.Ruled(), inches) + " ±" + units.Trim(float64(g.Tolerance), 1)
	if axis == a {
		m.X1, m.X2 = v.X+float64(from)*d.Scale, v.X+float64(to)*d.Scale
		m.Y1 = card.Y + card.H*0.3
		m.Y2 = m.Y1
	} else {
		m.X1 = card.X + card.W*0.7
		m.X2 = m.X1
		m.Y1, m.Y2 = v.Y+float64(from)*d.Scale, v.Y+float64(to)*d.Scale
		if v.Up {
			m.Y1, m.Y2 = v.Y+v.H-float64(from)*d.Scale, v.Y+v.H-float64(to)*d.Scale
		}
	}
	m.Label.W = float64(len([]rune(m.Label.Text)))*8 + 12
	m.Label.X = min(max((m.X1+m.X2)/2, m.Label.W/2+4), d.Width-m.Label.W/2-4)
	m.Label.Y = (m.Y1 + m.Y2) / 2
	return m
}
