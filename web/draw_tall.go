package web

import (
	"fmt"
	"strings"

	"kolvan/core/assess"
	"kolvan/core/link"
	"kolvan/core/power"
	"kolvan/core/rig"
)

// On a telephone the drawings of Route and Power stand upright: from the processor down to the
// card, from the supplies down to the loads.
const (
	tallWidth  = 366.0
	tallRow    = 74.0 // an element of the route
	tallStrand = 5.0
	tallLeft   = 16.0
	tallNames  = 116.0
	tallBox    = 62.0 // a box of the power drawing
	tallGap    = 96.0 // between the rows of boxes
)

// drawRouteTall is the route from above: strands run down, cut where an element does not wire
// them, names beside them.
func drawRouteTall(r *rig.Rig, report *assess.Report, sel string, inches bool) *routeDrawing {
	d := &routeDrawing{Title: routeTitle(r, report)}
	elements := report.Link.Elements
	if len(elements) == 0 {
		return nil
	}
	at := func(i int, class, where string) box {
		return box{X: 6, Y: 6 + float64(i)*(tallRow+12), W: tallWidth - 12, H: tallRow, Sel: where, Class: class, Chosen: where == sel}
	}
	first := at(0, "source", "/host")
	first.write("name left", tallNames, first.Y+30, 17, clip(orText(r.Host.Proc.Name, "Processor"), 26))
	first.write("sub left", tallNames, first.Y+52, 17, "16 lanes")
	d.Boxes = append(d.Boxes, first)
	for i, e := range elements {
		b := at(i+1, "element", e.Where)
		b.write("name left", tallNames, b.Y+24, 17, clipTo(e.Name, tallWidth-tallNames-14))
		b.write("sub left", tallNames, b.Y+44, 17, strings.Join(laneWords(e), " "))
		b.write("under left", tallNames, b.Y+62, 16, clip(strings.Join(under(r, i, inches, 22), ", "), 32))
		d.Boxes = append(d.Boxes, b)
		d.twins(r, i, &b)
	}
	d.framed(r, 4)
	d.tallStrands(report.Link)
	d.Height = 6 + float64(len(d.Boxes))*(tallRow+12)
	if e, known := report.Link.Pinch(); known {
		d.Height += 50
		d.Pinch = &callout{X: 6, Y: d.Height - 50, W: tallWidth - 12, Head: "Pinch: " + clip(e.Name, 34), Text: pinchWords(report.Link, e)}
	}
	return d
}

// tallStrands runs the strands down, each as far as it is wired.
func (d *routeDrawing) tallStrands(p *link.Plan) {
	eachStrand(p, func(i, s int, class string, cut, last bool) {
		above, below := &d.Boxes[i], &d.Boxes[i+1]
		x, end := tallLeft+float64(s)*tallStrand, below.Y
		switch {
		case cut:
			d.Cuts += fmt.Sprintf("M%.1f %.1fa2 2 0 1 0 4 0a2 2 0 1 0 -4 0", x-2, below.Y-3)
		case last:
			end = below.Y + below.H - 10
		}
		d.strand(class, fmt.Sprintf("M%.1f %.1fV%.1f", x, above.Y+10*first(i), end))
	})
}

// drawPowerTall is the feed network from above: supplies, what passes power on, loads.
func drawPowerTall(r *rig.Rig, report *assess.Report, sel string) *powerDrawing {
	if len(r.Supplies) == 0 {
		return nil
	}
	d := &powerDrawing{Title: powerTitle(r, report), upright: true}
	from, to := anchors{}, anchors{}
	y := 8.0
	var supplies, passing, loads []tallPart
	for i := range r.Supplies {
		s := &r.Supplies[i]
		supplies = append(
			supplies,
			tallPart{rig.SupplyPath(i), s.Name, wattWords(report.Power.Supplies[i].Load) + " of " + words(s.Rating), s.Name, "element"},
		)
	}
	passing = append(passing, tallPart{"/host", orText(r.Host.Name, "Host"), wattWords(report.Power.Host), rig.HostPart, hostClass(r)})
	for i := range r.Route.Stages {
		s := &r.Route.Stages[i]
		if passesPower(s) {
			class, line := stageClass(r, s)
			passing = append(passing, tallPart{rig.StagePath(i), s.Name, line, s.Name, class})
		}
	}
	loads = append(loads, tallPart{"/card", "Card slot", wattWords(report.Power.Slot.Both), slotPort, "element"})
	for i := range r.Card.Plugs {
		class, line := "element", wattWords(report.Power.Plugs[i].Load)
		if !report.Power.Plugs[i].Fed {
			class, line = "unfed", "no feed"
		}
		loads = append(loads, tallPart{fmt.Sprintf("/card/plugs/%d", i), "Plug " + r.Card.Plugs[i].Name, line, r.Card.Plugs[i].Name, class})
	}
	y = d.tallBoxes(supplies, y, sel, func(p tallPart, b box) { from[[2]string{p.part, ""}] = [2]float64{b.X + b.W/2, b.Y + b.H} }) + tallGap
	y = d.tallBoxes(passing, y, sel, func(p tallPart, b box) {
		to[[2]string{p.part, ""}], from[[2]string{p.part, ""}] = [2]float64{b.X + b.W/2, b.Y}, [2]float64{b.X + b.W/2, b.Y + b.H}
	}) + tallGap
	d.Height = 8 + d.tallBoxes(loads, y, sel, func(p tallPart, b box) { to[[2]string{rig.CardPart, p.part}] = [2]float64{b.X + b.W/2, b.Y} })
	for i := range r.Supplies { // a board that a supply feeds
		if at, board := from[[2]string{r.Supplies[i].Name, ""}]; board {
			to[[2]string{r.Supplies[i].Name, ""}] = at
		}
	}
	for _, i := range downstream(r) {
		d.tallLead(r, &report.Power.Leads[i], i, sel, from, to)
	}
	d.ownLeads(r, report, from, to)
	d.spread()
	return d
}

type tallPart struct{ sel, name, line, part, class string }

// tallBoxes places parts in rows of two, and returns where they end.
func (d *powerDrawing) tallBoxes(parts []tallPart, y float64, sel string, placed func(tallPart, box)) float64 {
	const across = 2
	for i, p := range parts {
		in := min(across, len(parts)-i/across*across)
		wide := (tallWidth - 12 - float64(in-1)*8) / float64(in)
		b := box{
			X:      6 + float64(i%across)*(wide+8),
			Y:      y + float64(i/across)*(tallBox+8),
			W:      wide,
			H:      tallBox,
			Sel:    p.sel,
			Class:  p.class,
			Chosen: p.sel == sel,
		}
		b.write("name left", b.X+10, b.Y+25, 0, clipTo(p.name, wide-18))
		b.write("sub left", b.X+10, b.Y+46, 0, clip(p.line, int((wide-16)/8)))
		d.Boxes = append(d.Boxes, b)
		placed(p, b)
	}
	return y + float64((len(parts)+across-1)/across)*(tallBox+8) - 8
}

// tallLead draws a lead down from what it is plugged into to what it feeds, side by side with
// the others that go there.
func (d *powerDrawing) tallLead(r *rig.Rig, load *power.LeadLoad, i int, sel string, from, to anchors) {
	lead := &r.Leads[i]
	_, planned := nearest(load)
	b := band{Sel: rig.LeadPath(i), Name: lead.Name, Class: bandClass(load), Load: thickness(load.Amps()), May: thickness(planned)}
	b.Chosen, b.Ear = b.Sel == sel, leadInWords(lead, load, b.Class)
	aside := 26 * (float64(i%3) - 1)
	var middle [2]float64
	for _, start := range lead.From {
		a, ok := anchorOf(from, start)
		if !ok {
			continue
		}
		for _, end := range lead.To {
			z, ok := anchorOf(to, end)
			if !ok {
				continue
			}
			b.Path += d.bend([2]float64{a[0] + aside, a[1]}, [2]float64{z[0] + aside, z[1]})
			middle = [2]float64{(a[0]+z[0])/2 + aside, a[1] + 30}
		}
	}
	if b.Path == "" {
		return
	}
	d.Bands = append(d.Bands, b)
	if len(r.Leads) <= fewLeads || b.Chosen || b.Class != "live" || full(load) {
		d.Labels = append(d.Labels, mark{X: min(max(middle[0], 56), tallWidth-56), Y: middle[1], Text: ampWords(load), Class: b.Class, Sel: b.Sel})
	}
}
