package route

import (
	"kolvan/core/assess"
	"kolvan/core/link"
	"kolvan/web/phrase"
	"kolvan/web/room"
)

// Figures are what stands below the drawing.
func Figures(report *assess.Report) []room.Figure {
	pinch := phrase.Unknown
	if report.Figures.Pinch != nil {
		pinch = *report.Figures.Pinch
	}
	return []room.Figure{
		{Value: phrase.Figure(report, "link.net_gb_s", phrase.Rate), Label: "net, each way", Of: "link.net_gb_s"},
		{Value: phrase.Figure(report, "link.fill_s", phrase.Time), Label: "to fill the card's memory", Of: "link.fill_s"},
		{Value: MarginFigure(report.Link), Label: "of margin at the planned speed", Of: "link.margin_db"},
		{Value: pinch, Label: "is the pinch", Of: "link.pinch"},
	}
}

// MarginFigure is the margin at the planned speed, and how it stands.
func MarginFigure(p *link.Plan) string {
	if m, known := p.Planned(); known {
		return m.Words()
	}
	if len(p.Elements) > 0 && p.Elements[0].Tunnel {
		return "its tunnel's own"
	}
	return phrase.Unknown
}
