package route

import (
	"strings"

	"kolvan/core/assess"
	"kolvan/core/rig"
	"kolvan/web/draw"
	"kolvan/web/phrase"
)

// DrawTall is the route from above: strands run down, cut where an element does not wire
// them, names beside them.
func DrawTall(r *rig.Rig, report *assess.Report, sel string, inches bool) *Drawing {
	d := &Drawing{Title: routeTitle(r, report)}
	elements := report.Link.Elements
	if len(elements) == 0 {
		return nil
	}
	at := func(i int, class, where string) draw.Box {
		return draw.Box{X: 6, Y: 6 + float64(i)*(draw.TallRow+12), W: draw.TallWidth - 12, H: draw.TallRow, Sel: where, Class: class,
			Chosen: where == sel}
	}
	first := at(0, "source", "/host")
	first.Write("name left", draw.TallNames, first.Y+30, 17, draw.Clip(phrase.Or(r.Host.Proc.Name, "Processor"), 26))
	first.Write("sub left", draw.TallNames, first.Y+52, 17, "16 lanes")
	d.Boxes = append(d.Boxes, first)
	for i, e := range elements {
		b := at(i+1, "element", e.Where)
		b.Write("name left", draw.TallNames, b.Y+24, 17, draw.ClipTo(e.Name, draw.TallWidth-draw.TallNames-14))
		b.Write("sub left", draw.TallNames, b.Y+44, 17, strings.Join(phrase.Lanes(e), " "))
		b.Write("under left", draw.TallNames, b.Y+62, 16, draw.Clip(strings.Join(under(r, i, inches, 22), ", "), 32))
		d.Boxes = append(d.Boxes, b)
		d.twins(r, i, &b)
	}
	d.framed(r, 4)
	d.tallStrands(report.Link)
	d.Height = 6 + float64(len(d.Boxes))*(draw.TallRow+12)
	if e, known := report.Link.Pinch(); known {
		d.Height += 50
		d.Pinch = &callout{X: 6, Y: d.Height - 50, W: draw.TallWidth - 12, Head: "Pinch: " + draw.Clip(e.Name, 34),
			Text: pinchWords(report.Link, e)}
	}
	return d
}
