package reading

import (
	"regexp"
	"strconv"
	"strings"
)

// Plain is a text that tells one link in plain words: a window's line, a sensor's, a note.
const Plain = "plain"

var (
	plainWidth = regexp.MustCompile(`(?i)(?:\bx|×|width[^0-9x×]{0,4}[x×]?)(1|2|4|8|16)\b|\b(1|2|4|8|16)\s*(?:[x×]\b|lanes?\b|-lane\b)`)
	plainRate  = regexp.MustCompile(`(?i)\b([0-9.]+)\s*GT/?s`)
	plainGen   = regexp.MustCompile(`(?i)(?:\bgen(?:eration)?\.?\s*|\bpcie?\s*(?:gen\s*)?)([1-6])\b(?:\.0)?`)
	plainPoint = regexp.MustCompile(`\b([1-6])\.[01]\b`)
	ofALink    = regexp.MustCompile(`(?i)GT/?s|\bgen|\bpcie?\b|@|\blink\b|width|\blanes?\b|^\W*[x×][0-9]+\W*$`)
	plainLoad  = regexp.MustCompile(`(?i)\b(under load|loaded)\b|\b(idle|at rest)\b`)
)

// plainly reads a text that tells a link without naming a device: "x4", "8.0 GT/s", "4.0 @ x4",
// "x16 4.0 @ x4 3.0". What stands behind an @ runs, what stands before it could; false where no
// width and no generation is told. Where several lines tell a link, the last of each counts.
func plainly(lines []string) (d Device, load Load, told bool) {
	load = Unknown
	for _, line := range lines {
		if !ofALink.MatchString(line) {
			continue // "2 x 8 GB", "USB 3.0" and the like speak of something else
		}
		could, now, at := strings.Cut(line, "@")
		if !at {
			could, now = "", line
		}
		link, most := plainLink(now), plainLink(could)
		if link.Gen == 0 && most.Width == 0 {
			link.Gen, most.Gen = most.Gen, 0 // "4.0 @ x4" tells one link in two halves
		}
		take(&d.Now, link)
		take(&d.Capable, most)
		if m := plainLoad.FindStringSubmatch(line); m != nil {
			load = Idle
			if m[1] != "" {
				load = Loaded
			}
		}
	}
	return d, load, d.Now != Link{}
}

func take(into *Link, told Link) {
	if told.Width > 0 {
		into.Width = told.Width
	}
	if told.Gen > 0 {
		into.Gen = told.Gen
	}
}

// plainLink is the link that a piece of text tells.
func plainLink(text string) (l Link) {
	if m := plainWidth.FindStringSubmatch(text); m != nil {
		l.Width, _ = strconv.Atoi(m[1] + m[2])
	}
	if m := plainRate.FindStringSubmatch(text); m != nil {
		l.Gen = GenOf(m[1])
		return l
	}
	for _, told := range []*regexp.Regexp{plainGen, plainPoint} {
		if m := told.FindStringSubmatch(text); m != nil {
			l.Gen, _ = strconv.Atoi(m[1])
			return l
		}
	}
	return l
}
