package draw

import (
	"fmt"
	"strings"

	"kolvan/core/assess"
	"kolvan/core/link"
	"kolvan/web/phrase"
)

// MiniRoute is a rig's route as small as a stamp: sixteen strands from the
// processor, each as far as it is wired.
type MiniRoute struct {
	Lit, Open, Dim string // SVG path data: live, perhaps live, not wired
	Posts          []Px   // where an element stands
	Ink            int    // generation, for the ink of the strands
	Label          string
	Tag, Level     string // the worst that was found
}

// The stamp, in the units of its view box.
const (
	miniWidth  = 260.0
	miniTop    = 5.0
	miniPitch  = 2.5
	miniStrand = 16
)

// Mini draws a rig's route as small as a line of a list.
func Mini(report *assess.Report) *MiniRoute {
	if len(report.Link.Elements) == 0 {
		return nil
	}
	m := &MiniRoute{Label: phrase.Link(report), Ink: max(1, report.Link.GenEnds.High)}
	m.Lit, m.Open, m.Dim, m.Posts = effectiveLanes(report.Link, miniWidth, miniTop, miniPitch, 7)
	return m
}

// effectiveLanes draws sixteen strands from the processor as far as each is wired:
// those that are live for certain, that may be, and that are not; posts are where an
// element stands, short the gap before one where a strand ends.
func effectiveLanes(p *link.Plan, width, top, pitch, short float64) (lit, open, dim string, posts []Px) {
	var paths [3]strings.Builder // live, perhaps live, not wired
	step := width / float64(len(p.Elements))
	sure, perhaps := miniStrand, miniStrand
	for i := range p.Elements {
		from, to := float64(i)*step, float64(i+1)*step
		posts = append(posts, Px(to))
		least, most := min(sure, p.Elements[i].LaneEnds.Low), min(perhaps, p.Elements[i].LaneEnds.High)
		if p.None {
			least, most = 0, 0
		}
		for s := range perhaps {
			y := top + float64(s)*pitch
			end, into := to, &paths[2]
			switch {
			case s < least:
				into = &paths[0]
			case s < most:
				into = &paths[1]
			default:
				end = to - short
			}
			fmt.Fprintf(into, "M%.1f %.1fH%.1f", from, y, end)
		}
		sure, perhaps = least, most
	}
	return paths[0].String(), paths[1].String(), paths[2].String(), posts
}

// PaperLanes is the picture of the effective lanes for the sheet: black on white, with
// what stands at each post.
type PaperLanes struct {
	Lit, Open, Dim string
	Posts          []paperPost
	Label          string
	Tag, Level     string // the worst that was found
}

type paperPost struct {
	X     Px
	Lines []Text
}

// The picture on paper, in the units of its view box.
const (
	paperWidth = 700.0
	paperTop   = 10.0
	paperPitch = 5.0
)

// Paper draws the lanes for the sheet; nil where there is no link to draw.
func Paper(report *assess.Report) *PaperLanes {
	p := report.Link
	if len(p.Elements) == 0 {
		return nil
	}
	d := &PaperLanes{Label: "Effective lanes: " + phrase.Link(report)}
	var posts []Px
	d.Lit, d.Open, d.Dim, posts = effectiveLanes(p, paperWidth, paperTop, paperPitch, 12)
	step := paperWidth / float64(len(p.Elements))
	for i, x := range posts {
		post := paperPost{X: x}
		y := paperTop + paperPitch*miniStrand + 14
		for _, says := range append(Wrap(p.Elements[i].Name, int(step/6.4), 3), strings.Join(phrase.Lanes(p.Elements[i]), " ")) {
			post.Lines = append(post.Lines, Text{x - 2, Px(y), "", says})
			y += 13
		}
		d.Posts = append(d.Posts, post)
	}
	return d
}
