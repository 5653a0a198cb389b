package finding

import (
	"fmt"
	"math"
	"strings"

	"kolvan/core/units"
)

// Speaker says a finding in few words: what its row has of it, with the name of the thing it
// is about and its figures put in.
type Speaker struct {
	Thing, Short string // what the finding is about, as a person calls it, and in a word or two
	// the most a card may draw for it to be gone; 0 where that was not worked out, NoCard where none does
	Card units.Watt
	Plan float64                         // the share of a rating that the plan allows; 0 where none is told
	Long func(l units.Millimetre) string // writes a length; nil for millimetres
}

// NoCard is a Speaker's Card where no card, however little it draws, would do.
const NoCard units.Watt = -1

// Line is a finding in one sentence without its full stop: of the row, else the first
// sentence of what it says where that is short, else its title.
func (s Speaker) Line(f *Finding) string {
	if text, ok := s.say(f, f.row.Line); ok {
		return text
	}
	if f.Level == Unknown {
		return Phrase(f.Title)
	}
	first, _, _ := strings.Cut(f.Says, ". ")
	if first = strings.TrimSuffix(first, "."); first != "" && len(first) <= shortLine {
		return first
	}
	return Phrase(f.Title)
}

// shortLine is how long a sentence may be, to stand where one reads at a glance.
const shortLine = 90

// Tag is a finding in two or three words, for the figure of a station.
func (s Speaker) Tag(f *Finding) string {
	s.Thing = s.Short
	if text, ok := s.say(f, f.row.Tag); ok {
		return text
	}
	return Phrase(f.Title)
}

// Would is what would do about a finding, whether or not a part at hand does it; nothing for
// a rule that only notes.
func (s Speaker) Would(f *Finding) string {
	text, _ := s.say(f, f.row.Would)
	return text
}

// say fills in the first of the texts, parted by "|", whose figures are all there.
func (s Speaker) say(f *Finding, texts string) (string, bool) {
	if f.Level == Unknown {
		return "", false // it says what is missing, not what is so
	}
	for text := range strings.SplitSeq(texts, "|") {
		if said, ok := s.fill(f, text); ok && said != "" {
			return said, true
		}
	}
	return "", false
}

// fill puts a text's figures in: {thing}; {load_w} with its unit, {load_w#} without;
// {-gap_mm} with its sign turned; {load_w/limit_w} as a share; {load_w:plan} as the rating at
// which it is the planned share; {or card} for a card that asks for less. False where a figure is missing.
func (s Speaker) fill(f *Finding, text string) (string, bool) {
	var b strings.Builder
	for {
		before, rest, more := strings.Cut(text, "{")
		b.WriteString(before)
		if !more {
			return b.String(), true
		}
		var name string
		name, text, _ = strings.Cut(rest, "}")
		figure, ok := s.figure(f, name)
		if !ok {
			return "", false
		}
		b.WriteString(figure)
	}
}

func (s Speaker) figure(f *Finding, name string) (string, bool) {
	if name == "thing" {
		return s.Thing, s.Thing != ""
	}
	if name == "or card" {
		return s.orCard(), true
	}
	if over, under, share := strings.Cut(name, "/"); share {
		a, first := f.Number(over)
		b, second := f.Number(under)
		return percentOf(a, b), first && second && b > 0
	}
	if of, _, planned := strings.Cut(name, ":"); planned {
		a, ok := f.Number(of)
		return s.written(of, a/s.Plan), ok && s.Plan > 0
	}
	bare := strings.TrimSuffix(name, "#")
	value, ok := f.Number(strings.TrimPrefix(bare, "-"))
	if strings.HasPrefix(bare, "-") {
		value, ok = -value, ok && value < 0
	}
	written := s.written(bare, value)
	if bare != name {
		written, _, _ = strings.Cut(written, " ")
	}
	return written, ok
}

// orCard is the other thing that would do where too much flows: to ask for less. A cap on the
// card is not said here: it does not hold before the driver runs, and is offered as a change
// where it does.
func (s Speaker) orCard() string {
	switch s.Card {
	case NoCard:
		return ""
	case 0:
		return ", or a card that draws less"
	default:
		return fmt.Sprintf(", or a card of %v at most", s.Card)
	}
}

// percentOf is a share in whole per cent; what is over its limit never reads as just at it.
func percentOf(a, b float64) string {
	share := math.Round(100 * a / b)
	if a > b && share <= 100 {
		share = 101
	}
	return units.Trim(share, 0) + " %"
}

// written is a figure with the unit that its name carries.
func (s Speaker) written(name string, v float64) string {
	for _, u := range spokenUnits {
		if strings.HasSuffix(name, u.suffix) {
			return u.write(v)
		}
	}
	if strings.HasSuffix(name, "_mm") {
		if s.Long != nil {
			return s.Long(units.Millimetre(v))
		}
		return units.Millimetre(v).String()
	}
	return units.Trim(v, 1)
}

// spokenUnits are the units of figures by the ends of their names; a length is written as it
// is set.
var spokenUnits = []struct {
	suffix string
	write  func(v float64) string
}{
	{"_gb_s", func(v float64) string { return units.GigabytePerSecond(v).String() }},
	{"_m3_h", func(v float64) string { return units.CubicMetrePerHour(v).String() }},
	{"_gib", func(v float64) string { return units.Gibibyte(v).String() }},
	{"_gb", func(v float64) string { return units.GB(v).String() }},
	{"_ms", func(v float64) string { return units.Trim(v, 1) + " ms" }},
	{"_min", func(v float64) string { return units.Trim(v, 0) + " min" }},
	{"_deg", func(v float64) string { return units.Degree(v).String() }},
	{"_db", func(v float64) string { return units.Decibel(v).String() }},
	{"_hz", func(v float64) string { return units.Trim(v, 0) + " Hz" }},
	{"_w", func(v float64) string { return units.Trim(v, wholeAbove(v, 20)) + " W" }},
	{"_a", func(v float64) string { return units.Trim(v, 1) + " A" }},
	{"_v", func(v float64) string { return units.Volt(v).String() }},
	{"_g", func(v float64) string { return units.Gram(v).String() }},
	{"_c", func(v float64) string { return units.Trim(v, 0) + " °C" }},
	{"share", func(v float64) string { return units.Trim(100*v, 0) + " %" }},
}

// wholeAbove is the digits after the point: none from a figure on, one below.
func wholeAbove(v, from float64) int {
	if v >= from {
		return 0
	}
	return 1
}

// Number is a figure of the finding by its name.
func (f *Finding) Number(name string) (float64, bool) {
	for _, n := range f.Numbers {
		if n.Name == name {
			return n.Value, true
		}
	}
	return 0, false
}
