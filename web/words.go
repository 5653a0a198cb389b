package web

import (
	"strings"

	"kolvan/core/assess"
	"kolvan/core/link"
	"kolvan/core/power"
	"kolvan/core/rig"
	"kolvan/core/units"
)

// unknown is what a page says where a figure or a fact cannot be told at all.
const unknown = "not known"

// figureOf prints a figure of a report by its name: the figure, its two ends, the
// one end that is certain, or that it is not known.
func figureOf(report *assess.Report, name string, as func(float64) string) string {
	b, known := report.Bounds.Of(name)
	switch {
	case !known, b.Open && b.Low == 0:
		return unknown
	case b.Open:
		return "at least " + as(b.Low)
	default:
		return endsWords(b.Low, b.High, as)
	}
}

// endsWords prints what is between two ends; nothing is no end to speak of.
func endsWords(low, high float64, as func(float64) string) string {
	if low == 0 && as(low) != as(high) {
		return "at most " + as(high)
	}
	return spread(as(low), as(high))
}

// spread prints two ends, their unit once; one figure where they print alike.
func spread(low, high string) string {
	if low == high {
		return high
	}
	if i := strings.LastIndexByte(high, ' '); i > 0 {
		low = strings.TrimSuffix(low, high[i:])
	}
	return low + "–" + high
}

// shareWords is how much of its rating a supply gives.
func shareWords(load *power.SupplyLoad) string {
	ends, told := load.Shares()
	if !told {
		return unknown
	}
	return endsWords(ends.Low, ends.High, power.Percent)
}

func wattWords(w power.Watts) string { return endsWords(float64(w.Low), float64(w.High), printWatts) }

func printWatts(v float64) string { return units.Watt(v).String() }
func printRate(v float64) string  { return units.GigabytePerSecond(v).String() }
func printTime(v float64) string  { return units.Second(v).String() }
func printPlain(v float64) string { return units.Trim(v, 0) }

// linkWords is the link in two words, each a range where it is one.
func linkWords(report *assess.Report) string {
	width, gen := report.Link.WidthEnds, report.Link.GenEnds
	switch {
	case report.Link.None:
		return "no link"
	case len(report.Link.Elements) == 0:
		return "no route yet"
	}
	return "x" + spanOf(link.Legal(width.Low), link.Legal(width.High)) + " Gen " + spanOf(gen.Low, gen.High)
}

func spanOf(low, high int) string {
	return spread(printPlain(float64(low)), printPlain(float64(high)))
}

// judgedFor is how the supply is judged, in a person's words.
func judgedFor(r *rig.Rig, n *power.Network) string {
	share := power.Percent(n.Share()) + " sustained"
	switch r.Sizing.Policy.Or(rig.Spikes) {
	case rig.Nameplate:
		return "its full rating"
	case rig.Share:
		return share
	default:
		return share + ", and the card's millisecond spikes"
	}
}
