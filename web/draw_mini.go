package web

import (
	"fmt"
	"strings"

	"kolvan/core/assess"
)

// miniRoute is a rig's route as small as a stamp: sixteen strands from the
// processor, each as far as it is wired.
type miniRoute struct {
	Lit, Open, Dim string // SVG path data: live, perhaps live, not wired
	Posts          []px   // where an element stands
	Ink            int    // generation, for the ink of the strands
	Label          string
}

// The stamp, in the units of its view box.
const (
	miniWidth  = 260.0
	miniTop    = 5.0
	miniPitch  = 2.5
	miniStrand = 16
)

func drawMini(report *assess.Report) *miniRoute {
	elements := report.Link.Elements
	if len(elements) == 0 {
		return nil
	}
	m := &miniRoute{Label: linkWords(report), Ink: max(1, report.Link.GenEnds.High)}
	var lit, open, dim strings.Builder
	step := miniWidth / float64(len(elements))
	sure, perhaps := miniStrand, miniStrand
	for i := range elements {
		from, to := float64(i)*step, float64(i+1)*step
		m.Posts = append(m.Posts, px(to))
		least, most := min(sure, elements[i].LaneEnds.Low), min(perhaps, elements[i].LaneEnds.High)
		if report.Link.None {
			least, most = 0, 0
		}
		for s := range perhaps {
			y := miniTop + float64(s)*miniPitch
			end := to
			into := &dim
			switch {
			case s < least:
				into = &lit
			case s < most:
				into = &open
			default:
				end = to - 7 // it ends before the post
			}
			fmt.Fprintf(into, "M%.1f %.1fH%.1f", from, y, end)
		}
		sure, perhaps = least, most
	}
	m.Lit, m.Open, m.Dim = lit.String(), open.String(), dim.String()
	return m
}
