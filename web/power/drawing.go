package power

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"kolvan/core/assess"
	"kolvan/core/power"
	"kolvan/core/rig"
	"kolvan/core/units"
	"kolvan/web/draw"
	"kolvan/web/fields"
	"kolvan/web/phrase"
)

// Drawing is the feed network: supplies at the left, what passes power on
// in the middle, the card at the right; every lead is a band as thick as its
// amps on a pale one of what it may carry.
type Drawing struct {
	Title  string
	Aside  string
	Height float64
	Boxes  []draw.Box
	Rows   []draw.Mark // outlets and inlets at the boxes' edges
	Bands  []band
	Labels []draw.Mark
	Empty  string

	Nets  []netChip
	Loose []fields.Choice // leads with an end that goes nowhere yet

	upright bool // supplies stand above, loads below

	floor float64 // where the middle column ends
	under float64 // where the next band passes below the middle column
	Steps []loadStep
	Rides string // what the card's supply rides out at the step shown
}

// band is one lead, or the way through a board, from left to right.
type band struct {
	Path    string
	Load    float64 // width of the live band
	May     float64 // width of the pale band behind it
	Class   string
	Sel     string
	Chosen  bool
	Through bool // no lead: a board or a lead of the part's own
	Name    string
	Ear     string // the lead with its ends, its figures and its level, for who does not see it
}

const (
	leftX, leftW   = 24.0, 190.0
	midX, midW     = 338.0, 188.0
	rightX, rightW = 680.0, 168.0
	rowHeight      = 22.0
	boxHead        = 48.0
	boxGap         = 16.0
	powerTop       = 12.0
	pixelsPerAmp   = 1.5
	thickest       = 26.0
)

// anchors give the place of every port by part and port name.
type anchors map[[2]string][2]float64

// Draw draws supplies, leads and loads, each lead as thick as its amps.
func Draw(r *rig.Rig, report *assess.Report, sel string) *Drawing {
	d := &Drawing{Title: powerTitle(r, report), Aside: "light: what it can carry"}
	if len(r.Supplies) == 0 {
		d.Empty, d.Height = "No supply yet. Add the host's own and the one that feeds the card.", 180
		return d
	}
	from, to := anchors{}, anchors{}
	left := d.supplies(r, report, sel, from, to)
	middle := d.passing(r, report, sel, from, to)
	right := d.card(r, report, sel, to)
	d.under, d.floor = middle+2, middle
	d.Height = max(left, middle, right) + 12
	for _, i := range downstream(r) {
		d.lead(r, report, i, sel, from, to)
	}
	d.ownLeads(r, report, from, to)
	d.spread()
	d.load(r, report, "")
	return d
}

// loadStep is one load the drawing can be shown at.
type loadStep struct {
	Key, Label string
	Here       bool
}

// load shows the drawing at a step: sustained, or for the milliseconds of a band of
// the card's spikes, when everything that feeds the card carries more.
func (d *Drawing) load(r *rig.Rig, report *assess.Report, step string) {
	i := report.Power.CardSupply()
	if i < 0 || !report.Power.Supplies[i].Rating.Known {
		return
	}
	d.Steps = []loadStep{{"", "sustained", step == ""}}
	bands := report.Power.Bands(i)
	for b := len(bands) - 1; b >= 0; b-- {
		key := units.Trim(bands[b].Milliseconds, 1)
		d.Steps = append(d.Steps, loadStep{key, key + " ms", key == step})
		if key == step {
			d.Rides = r.Supplies[i].Name + ": up to " + bands[b].Takes.High.String() + ", rides out " + phrase.Watts(bands[b].Rides)
			d.thicken(r, report, bands[b].Times)
		}
	}
	if d.Rides == "" {
		d.Steps[0].Here = true
	}
}

// thicken loads the bands with the card's part of them so many times.
func (d *Drawing) thicken(r *rig.Rig, report *assess.Report, times float64) {
	for i := range r.Leads {
		more := 1 + report.Power.CardPart(i)*(times-1)
		load := &report.Power.Leads[i]
		at := "/leads/" + strconv.Itoa(i)
		for b := range d.Bands {
			if d.Bands[b].Sel == at && !d.Bands[b].Through {
				d.Bands[b].Load = min(thickest, d.Bands[b].Load*more)
			}
		}
		for l := range d.Labels {
			if d.Labels[l].Sel == at && load.Load.Known() && load.Volts > 0 {
				d.Labels[l].Text = units.Trim(float64(load.Amps())*more, 1) + " A"
			}
		}
	}
}

// add places a box with its name and one line below it.
func (d *Drawing) add(b draw.Box, sel, name, line string) {
	b.Chosen = b.Sel == sel
	b.Write("name left", b.X+12, b.Y+21, 0, name)
	b.Write("sub left", b.X+12, b.Y+40, 0, line)
	d.Boxes = append(d.Boxes, b)
}

func (d *Drawing) row(x, y float64, anchor, text, sel string) {
	d.Rows = append(d.Rows, draw.Mark{X: x, Y: y + 4, Text: draw.Clip(text, 22), Anchor: anchor, Sel: sel})
}

func (d *Drawing) supplies(r *rig.Rig, report *assess.Report, sel string, from, to anchors) float64 {
	y := powerTop
	for i := range r.Supplies {
		s := &r.Supplies[i]
		used := usedOutlets(r, s)
		rows := max(1, len(used)+len(s.Inlets))
		b := draw.Box{X: leftX, Y: y, W: leftW, H: boxHead + float64(rows)*rowHeight, Sel: "/supplies/" + strconv.Itoa(i), Class: "element"}
		for j, name := range used {
			at := y + boxHead + (float64(j)+0.3)*rowHeight
			d.row(leftX+leftW-12, at, "end", name, b.Sel)
			from[[2]string{s.Name, name}] = [2]float64{leftX + leftW, at}
		}
		for j, in := range s.Inlets { // of a converter board
			at := y + boxHead + (float64(len(used)+j)+0.3)*rowHeight
			d.row(leftX+leftW-12, at, "end", in.Name+", in", b.Sel)
			to[[2]string{s.Name, in.Name}] = [2]float64{leftX + leftW, at}
		}
		from[[2]string{s.Name, ""}] = [2]float64{leftX + leftW, y + 24}
		if free := len(s.Outlets) - len(used); free > 0 && len(used) == 0 {
			d.row(leftX+12, y+boxHead+0.3*rowHeight, "start", phrase.Plural(free, "outlet")+" free", b.Sel)
		}
		d.add(b, sel, draw.ClipTo(s.Name, leftW-22), phrase.Watts(report.Power.Supplies[i].Load)+" of "+phrase.Of(s.Rating))
		y += b.H + boxGap
	}
	return y
}

func usedOutlets(r *rig.Rig, s *rig.Supply) []string {
	var used []string
	for i := range s.Outlets {
		if r.Draws(s.Name, s.Outlets[i].Name) {
			used = append(used, s.Outlets[i].Name)
		}
	}
	return used
}

// passing places the host and every stage that takes or gives power.
func (d *Drawing) passing(r *rig.Rig, report *assess.Report, sel string, from, to anchors) float64 {
	y := powerTop
	sockets := hostSockets(r)
	rows := max(len(sockets), len(r.Host.Outlets))
	host := draw.Box{X: midX, Y: y, W: midW, H: boxHead + 8 + float64(rows)*rowHeight, Sel: "/host", Class: hostClass(r)}
	for j, out := range r.Host.Outlets {
		at := y + boxHead + (float64(j)+0.3)*rowHeight
		d.row(midX+midW-10, at, "end", out.Name, host.Sel)
		from[[2]string{rig.HostPart, out.Name}] = [2]float64{midX + midW, at}
	}
	for j, name := range sockets {
		at := y + boxHead + (float64(j)+0.3)*rowHeight
		d.row(midX+10, at, "start", name, host.Sel)
		to[[2]string{rig.HostPart, name}] = [2]float64{midX, at}
	}
	to[[2]string{rig.HostPart, ""}] = [2]float64{midX, y + boxHead/2 + 4}
	from[[2]string{rig.HostPart, ""}] = [2]float64{midX + midW, y + host.H/2}
	d.add(host, sel, draw.ClipTo(phrase.Or(r.Host.Name, "Host"), midW-22), phrase.Watts(report.Power.Host)+" loaded")
	y += host.H + boxGap
	for i := range r.Route.Stages {
		s := &r.Route.Stages[i]
		if !passesPower(s) {
			continue
		}
		rows := max(1, len(s.Inlets), len(s.Outlets)+1)
		b := draw.Box{X: midX, Y: y, W: midW, H: boxHead + float64(rows)*rowHeight, Sel: "/route/stages/" + strconv.Itoa(i), Class: "element"}
		class, line := stageClass(r, s)
		b.Class = class
		for j, in := range s.Inlets {
			at := y + boxHead + (float64(j)+0.3)*rowHeight
			d.row(midX+10, at, "start", in.Name, b.Sel)
			to[[2]string{s.Name, in.Name}] = [2]float64{midX, at}
		}
		to[[2]string{s.Name, ""}] = [2]float64{midX, y + 24}
		from[[2]string{s.Name, ""}] = [2]float64{midX + midW, y + 24}
		for j, out := range s.Outlets {
			at := y + boxHead + (float64(j)+0.3)*rowHeight
			d.row(midX+midW-10, at, "end", out.Name, b.Sel)
			from[[2]string{s.Name, out.Name}] = [2]float64{midX + midW, at}
		}
		d.add(b, sel, draw.ClipTo(s.Name, midW-22), line)
		y += b.H + boxGap
	}
	return y
}

// passesPower reports a stage that takes or gives power.
func passesPower(s *rig.Stage) bool {
	return len(s.Inlets) > 0 || len(s.Outlets) > 0 || rig.Is(s.Kind, rig.Dock)
}

// hostClass and stageClass say how a box stands: fed, or not.
func hostClass(r *rig.Rig) string {
	if r.Host.Supply == "" && !fed(r, rig.HostPart) {
		return "unfed"
	}
	return "element"
}

func stageClass(r *rig.Rig, s *rig.Stage) (class, line string) {
	if !fed(r, s.Name) {
		return "unfed", "no feed"
	}
	return "element", "passes power on"
}

// hostSockets are the power sockets of the host that leads go to by name.
func hostSockets(r *rig.Rig) (names []string) {
	for i := range r.Leads {
		for _, end := range r.Leads[i].To {
			if end.Part == rig.HostPart && end.At != "" && !slices.Contains(names, end.At) {
				names = append(names, end.At)
			}
		}
	}
	return names
}

func fed(r *rig.Rig, part string) bool {
	return slices.ContainsFunc(r.Leads, func(l rig.Lead) bool { return l.EndsAt(part) })
}

// slotPort is the name the card's slot has among the anchors.
const slotPort = "\x00slot"

func (d *Drawing) card(r *rig.Rig, report *assess.Report, sel string, to anchors) float64 {
	y := powerTop
	n := report.Power
	slot := draw.Box{X: rightX, Y: y, W: rightW, H: boxHead + 8, Sel: "/card", Class: "element"}
	line := phrase.Watts(n.Slot.Both)
	if n.Slot.At3V3.Known() && n.Slot.At3V3.High > 0 {
		line = phrase.Watts(n.Slot.At12) + " + " + units.Trim(float64(n.Slot.At3V3.High), 1) + " at 3.3 V"
	}
	to[[2]string{rig.CardPart, slotPort}] = [2]float64{rightX, y + slot.H/2}
	d.add(slot, "", "Card slot", line)
	y += slot.H + boxGap
	for i := range r.Card.Plugs {
		p := &r.Card.Plugs[i]
		b := draw.Box{X: rightX, Y: y, W: rightW, H: boxHead + 8, Sel: "/card/plugs/" + strconv.Itoa(i), Class: "element"}
		line := phrase.Of(p.Connector) + ", " + phrase.Watts(n.Plugs[i].Load)
		if !n.Plugs[i].Fed {
			b.Class, line = "unfed", phrase.Of(p.Connector)+", no feed"
		}
		to[[2]string{rig.CardPart, p.Name}] = [2]float64{rightX, y + b.H/2}
		d.add(b, sel, "Card plug "+p.Name, line)
		y += b.H + boxGap
	}
	return y
}

// downstream orders the leads so that each comes after those it is plugged into.
func downstream(r *rig.Rig) (order []int) {
	drawn := map[string]bool{}
	for len(order) < len(r.Leads) {
		before := len(order)
		for i := range r.Leads {
			waits := slices.Contains(order, i) || slices.ContainsFunc(
				r.Leads[i].From, func(e rig.LeadEnd) bool { return r.Lead(e.Part) != nil && !drawn[e.Part] },
			)
			if !waits {
				order = append(order, i)
				drawn[r.Leads[i].Name] = true
			}
		}
		if len(order) == before {
			break // leads never come back to themselves
		}
	}
	return order
}

// goesOn reports a lead with a free end that another lead is plugged into.
func goesOn(r *rig.Rig, name string) bool {
	return slices.ContainsFunc(r.Leads, func(l rig.Lead) bool {
		return slices.ContainsFunc(l.From, func(e rig.LeadEnd) bool { return e.Part == name })
	})
}

// lead draws one lead: a band, or several that meet in a knot.
func (d *Drawing) lead(r *rig.Rig, report *assess.Report, i int, sel string, from, to anchors) {
	lead, load := &r.Leads[i], &report.Power.Leads[i]
	var starts, ends [][2]float64
	for _, e := range lead.From {
		if at, ok := anchorOf(from, e); ok {
			starts = append(starts, at)
		}
	}
	for _, e := range lead.To {
		if at, ok := anchorOf(to, e); ok {
			ends = append(ends, at)
		}
	}
	if len(starts) == 1 && len(ends) == 1 && starts[0][0] > midX && ends[0][0] == midX {
		ends[0][0] = starts[0][0] // within the column: round its right side
	}
	met := len(ends) == 0 && len(starts) > 0 && goesOn(r, lead.Name)
	if met {
		ends = append(ends, d.meeting())
	}
	if len(starts) == 0 || len(ends) == 0 {
		d.Loose = append(d.Loose, fields.Choice{Value: "/leads/" + strconv.Itoa(i), Label: lead.Name, On: sel == "/leads/"+strconv.Itoa(i)})
		return
	}
	_, planned := phrase.Nearest(load)
	b := band{
		Sel: "/leads/" + strconv.Itoa(i), Name: lead.Name, Class: bandClass(load), Load: thickness(load.Amps()),
		May: thickness(planned),
	}
	b.Chosen, b.Ear = b.Sel == sel, leadInWords(lead, load, b.Class)
	var knot [2]float64
	if len(starts) == 1 && len(ends) == 1 {
		b.Path, knot = d.way(starts[0], ends[0])
		d.Bands = append(d.Bands, b)
	} else {
		knot = d.knot(b, starts, ends)
	}
	next := knot // where a lead that is plugged into this one begins
	if met {
		next, knot = ends[0], [2]float64{midX + midW/2, ends[0][1]}
	}
	for _, e := range lead.To {
		if e.Part == "" {
			from[[2]string{lead.Name, e.At}] = next
		}
	}
	if len(r.Leads) <= fewLeads || b.Chosen || b.Class != "live" || full(load) {
		d.Labels = append(d.Labels, draw.Mark{X: knot[0], Y: knot[1], Text: phrase.Amps(load), Class: b.Class, Sel: b.Sel})
	}
}

// leadInWords is a lead with its ends, what it carries and how that stands.
func leadInWords(lead *rig.Lead, load *power.LeadLoad, class string) string {
	ends := func(list []rig.LeadEnd) string {
		words := make([]string, len(list))
		for i, e := range list {
			words[i] = strings.TrimSpace(e.Part + " " + e.At)
		}
		return strings.Join(words, " and ")
	}
	stands := map[string]string{"over": "more than it can", "tight": "more than is planned", "open": "not all known",
		"live": "within its limit"}
	return fmt.Sprintf("Lead %s, from %s to %s: %s, %s", lead.Name, ends(lead.From), ends(lead.To), phrase.Amps(load), stands[class])
}

// fewLeads all have their figures; of more, those that are near their limit.
const fewLeads = 6

// full reports a lead with less than a fifth of its plan to spare.
func full(load *power.LeadLoad) bool {
	amps, plan := phrase.Nearest(load)
	return plan > 0 && float64(amps) > 0.8*float64(plan)
}

// powerTitle says how supplies and leads stand.
func powerTitle(r *rig.Rig, report *assess.Report) string {
	n := report.Power
	over := 0
	for i := range n.Leads {
		if bandClass(&n.Leads[i]) == "over" {
			over++
		}
	}
	for i := range n.Supplies {
		s := &n.Supplies[i]
		if s.Rating.Known && s.Load.Low > s.Rating.Value {
			return draw.Clip(r.Supplies[i].Name, 30) + " is asked for more than it gives"
		}
	}
	i := n.CardSupply()
	switch {
	case len(r.Supplies) == 0 || i < 0:
		return "Who feeds whom"
	case over == 1:
		return "One lead carries more than it can"
	case over > 1:
		return fmt.Sprintf("%d leads carry more than they can", over)
	case phrase.Share(&n.Supplies[i]) == phrase.Unknown:
		return "Who feeds whom"
	default:
		return fmt.Sprintf("%s gives %s, %s of its rating", draw.Clip(r.Supplies[i].Name, 30), phrase.Watts(n.Supplies[i].Load),
			phrase.Share(&n.Supplies[i]))
	}
}

// meeting is where a lead meets the next one that is plugged into it, below the
// middle column.
func (d *Drawing) meeting() [2]float64 {
	y := d.under + thickest/2
	d.under += thickest + 4
	d.Height = max(d.Height, d.under+8)
	return [2]float64{midX - 30, y}
}

// bulge is how far a band swings out that ends at the side where it began.
const bulge = 70.0

// way leads from one port to another, below the middle column where it would
// pass behind it, and returns the place for its label.
func (d *Drawing) way(from, to [2]float64) (path string, label [2]float64) {
	if from[0] == to[0] { // from one supply into a board below it
		return fmt.Sprintf(
				"M%.1f %.1fC%.1f %.1f %.1f %.1f %.1f %.1f",
				from[0],
				from[1],
				from[0]+bulge,
				from[1],
				to[0]+bulge,
				to[1],
				to[0],
				to[1],
			), [2]float64{
				from[0] + 0.75*bulge,
				(from[1] + to[1]) / 2,
			}
	}
	if from[0] > midX || to[0] <= midX {
		return draw.Curve(from[0], from[1], to[0], to[1]), [2]float64{(from[0] + to[0]) / 2, (from[1] + to[1]) / 2}
	}
	if from[0] == midX-30 && from[1] > d.floor { // it is below the column already
		path = fmt.Sprintf("M%.1f %.1fH%.1f", from[0], from[1], midX+midW+10) + strings.Replace(draw.Curve(midX+midW+10, from[1], to[0], to[1]),
			"M", "L", 1)
		return path, [2]float64{midX + midW/2, from[1]}
	}
	y := d.under + thickest/2
	d.under += thickest + 4
	d.Height = max(d.Height, d.under+8)
	label = [2]float64{midX + midW/2, y}
	path = draw.Curve(from[0], from[1], midX-10, y) + fmt.Sprintf("H%.1f", midX+midW+10) + strings.Replace(draw.Curve(midX+midW+10, y, to[0],
		to[1]), "M", "L", 1)
	return path, label
}

func anchorOf(all anchors, e rig.LeadEnd) ([2]float64, bool) {
	if at, ok := all[[2]string{e.Part, e.At}]; ok {
		return at, true
	}
	at, ok := all[[2]string{e.Part, ""}]
	return at, ok
}

// knot joins several ends in the middle.
func (d *Drawing) knot(b band, starts, ends [][2]float64) [2]float64 {
	var knot [2]float64
	all := append(slices.Clone(starts), ends...)
	for _, at := range all {
		knot[1] += at[1] / float64(len(all))
	}
	least := ends[0][0]
	for _, at := range ends {
		least = min(least, at[0])
	}
	knot[0] = (starts[0][0] + least) / 2
	for _, at := range starts {
		b.Path += draw.Curve(at[0], at[1], knot[0], knot[1])
	}
	for _, at := range ends {
		b.Path += draw.Curve(knot[0], knot[1], at[0], at[1])
	}
	b.Load, b.May = b.Load/2, b.May/2
	d.Bands = append(d.Bands, b)
	return knot
}

func thickness(a units.Amp) float64 { return min(thickest, max(2, float64(a)*pixelsPerAmp)) }

func bandClass(load *power.LeadLoad) string {
	class := "live"
	for _, ends := range [][]power.EndLoad{load.From, load.To} {
		for _, e := range ends {
			amps := e.Load.High.Over(load.Volts)
			switch {
			case e.Fit == power.NoEntry || e.Fit == power.Clashes:
				return "over"
			case !e.Load.Known() || e.Fit != power.Mates:
				class = "open"
			case amps > e.Cap.Rating:
				return "over"
			case amps > e.Cap.Plan:
				class = "tight"
			}
		}
	}
	return class
}

// bend joins two ports, from left to right or from above.
func (d *Drawing) bend(a, b [2]float64) string {
	if d.upright {
		half := (a[1] + b[1]) / 2
		return fmt.Sprintf("M%.1f %.1fC%.1f %.1f %.1f %.1f %.1f %.1f", a[0], a[1], a[0], half, b[0], half, b[0], b[1])
	}
	return draw.Curve(a[0], a[1], b[0], b[1])
}

// ownLeads draws what needs no lead of the list: the host's own supply, and the
// board from the host or the dock to the card's slot.
func (d *Drawing) ownLeads(r *rig.Rig, report *assess.Report, from, to anchors) {
	if s := r.Supply(r.Host.Supply); s != nil {
		a, b := from[[2]string{s.Name, ""}], to[[2]string{rig.HostPart, ""}]
		d.Bands = append(
			d.Bands,
			band{
				Path: d.bend(a, b), Load: 3, May: 6, Class: "live", Through: true, Sel: "/host",
				Name: "the host's own lead",
			},
		)
	}
	if r.Route.Slot == "" {
		return
	}
	source := [2]string{rig.HostPart, ""}
	if report.Power.Slot.Stage >= 0 {
		source = [2]string{report.Power.Slot.Name, ""}
	}
	a, ok := from[source]
	if !ok {
		return
	}
	b := to[[2]string{rig.CardPart, slotPort}]
	d.Bands = append(
		d.Bands,
		band{
			Path: d.bend(a, b), Load: thickness(report.Power.Slot.At12.High.Over(12)), May: 10, Class: "live",
			Through: true, Sel: "/card", Name: "through the slot",
		},
	)
}

// spread moves labels apart that would stand on each other.
func (d *Drawing) spread() {
	const height, width = 22.0, 96.0
	slices.SortStableFunc(d.Labels, func(a, b draw.Mark) int { return int(a.Y - b.Y) })
	for i := range d.Labels {
		d.Labels[i].W = max(width, float64(len(d.Labels[i].Text))*7.6+12)
		for _, other := range d.Labels[:i] {
			apart := d.Labels[i].X - other.X
			if apart < width && apart > -width && d.Labels[i].Y < other.Y+height {
				d.Labels[i].Y = other.Y + height
			}
		}
		d.Height = max(d.Height, d.Labels[i].Y+20)
	}
}
