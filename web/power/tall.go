package power

import (
	"fmt"

	"kolvan/core/assess"
	"kolvan/core/power"
	"kolvan/core/rig"
	"kolvan/web/draw"
	"kolvan/web/phrase"
)

// DrawTall is the feed network from above: supplies, what passes power on, loads.
func DrawTall(r *rig.Rig, report *assess.Report, sel string) *Drawing {
	if len(r.Supplies) == 0 {
		return nil
	}
	d := &Drawing{Title: powerTitle(r, report), upright: true}
	from, to := anchors{}, anchors{}
	y := 8.0
	var supplies, passing, loads []tallPart
	for i := range r.Supplies {
		s := &r.Supplies[i]
		supplies = append(
			supplies,
			tallPart{rig.SupplyPath(i), s.Name, phrase.Watts(report.Power.Supplies[i].Load) + " of " + phrase.Of(s.Rating), s.Name, "element"},
		)
	}
	passing = append(passing, tallPart{"/host", phrase.Or(r.Host.Name, "Host"), phrase.Watts(report.Power.Host), rig.HostPart, hostClass(r)})
	for i := range r.Route.Stages {
		s := &r.Route.Stages[i]
		if passesPower(s) {
			class, line := stageClass(r, s)
			passing = append(passing, tallPart{rig.StagePath(i), s.Name, line, s.Name, class})
		}
	}
	loads = append(loads, tallPart{"/card", "Card slot", phrase.Watts(report.Power.Slot.Both), slotPort, "element"})
	for i := range r.Card.Plugs {
		class, line := "element", phrase.Watts(report.Power.Plugs[i].Load)
		if !report.Power.Plugs[i].Fed {
			class, line = "unfed", "no feed"
		}
		loads = append(loads, tallPart{fmt.Sprintf("/card/plugs/%d", i), "Plug " + r.Card.Plugs[i].Name, line, r.Card.Plugs[i].Name, class})
	}
	y = d.tallBoxes(supplies, y, sel, func(p tallPart, b draw.Box) {
		from[[2]string{p.part, ""}] = [2]float64{b.X + b.W/2,
			b.Y + b.H}
	}) + draw.TallGap
	y = d.tallBoxes(passing, y, sel, func(p tallPart, b draw.Box) {
		to[[2]string{p.part, ""}], from[[2]string{p.part, ""}] = [2]float64{b.X + b.W/2, b.Y}, [2]float64{b.X + b.W/2, b.Y + b.H}
	}) + draw.TallGap
	d.Height = 8 + d.tallBoxes(loads, y, sel, func(p tallPart, b draw.Box) {
		to[[2]string{rig.CardPart, p.part}] = [2]float64{b.X + b.W/2,
			b.Y}
	})
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
func (d *Drawing) tallBoxes(parts []tallPart, y float64, sel string, placed func(tallPart, draw.Box)) float64 {
	const across = 2
	for i, p := range parts {
		in := min(across, len(parts)-i/across*across)
		wide := (draw.TallWidth - 12 - float64(in-1)*8) / float64(in)
		b := draw.Box{
			X:      6 + float64(i%across)*(wide+8),
			Y:      y + float64(i/across)*(draw.TallBox+8),
			W:      wide,
			H:      draw.TallBox,
			Sel:    p.sel,
			Class:  p.class,
			Chosen: p.sel == sel,
		}
		b.Write("name left", b.X+10, b.Y+25, 0, draw.ClipTo(p.name, wide-18))
		b.Write("sub left", b.X+10, b.Y+46, 0, draw.Clip(p.line, int((wide-16)/8)))
		d.Boxes = append(d.Boxes, b)
		placed(p, b)
	}
	return y + float64((len(parts)+across-1)/across)*(draw.TallBox+8) - 8
}

// tallLead draws a lead down from what it is plugged into to what it feeds, side by side with
// the others that go there.
func (d *Drawing) tallLead(r *rig.Rig, load *power.LeadLoad, i int, sel string, from, to anchors) {
	lead := &r.Leads[i]
	_, planned := phrase.Nearest(load)
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
		d.Labels = append(d.Labels, draw.Mark{X: min(max(middle[0], 56), draw.TallWidth-56), Y: middle[1], Text: phrase.Amps(load),
			Class: b.Class, Sel: b.Sel})
	}
}
