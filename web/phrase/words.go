// Package phrase is how pages write facts, figures, places and times.
package phrase

import (
	"fmt"
	"regexp"
	"strconv"
	"strings"

	"kolvan/core/assess"
	"kolvan/core/finding"
	"kolvan/core/link"
	"kolvan/core/power"
	"kolvan/core/proof"
	"kolvan/core/rig"
	"kolvan/core/units"
)

// Station is a station's name on a page.
func Station(station string) string { return finding.Begin(station) }

// Counted is a number with its noun.
func Counted(n int, one, more string) string {
	if n == 1 {
		return "1 " + one
	}
	return fmt.Sprintf("%d %s", n, more)
}

// Many is a small number in words.
func Many(n int) string {
	words := [...]string{
		"no",
		"one",
		"two",
		"three",
		"four",
		"five",
		"six",
		"seven",
		"eight",
		"nine",
		"ten",
		"eleven",
		"twelve",
		"thirteen",
		"fourteen",
		"fifteen",
		"sixteen",
	}
	if n < len(words) {
		return words[n]
	}
	return strconv.Itoa(n)
}

// List lists things in a sentence, the last after a word.
func List(list []string, before string) string {
	last := len(list) - 1
	if last < 1 {
		return strings.Join(list, "")
	}
	return strings.Join(list[:last], ", ") + " " + before + " " + list[last]
}

// Or is the text, or what stands in its place where there is none.
func Or(s, other string) string {
	if s == "" {
		return other
	}
	return s
}

// Nearest is the end of the lead that carries most of what it is planned for, with
// its current and its plan; the plan is 0 while all are open.
func Nearest(load *power.LeadLoad) (amps, plan units.Amp) {
	amps = load.Amps()
	share := -1.0
	for _, ends := range [][]power.EndLoad{load.From, load.To} {
		for _, e := range ends {
			if e.Fit != power.Mates || e.Cap.Plan <= 0 {
				continue
			}
			carried := e.Load.High.Over(load.Volts)
			if part := float64(carried / e.Cap.Plan); part > share {
				share, amps, plan = part, carried, e.Cap.Plan
			}
		}
	}
	return amps, plan
}

// Amps is what a lead's nearest end carries, of what it is planned for.
func Amps(load *power.LeadLoad) string {
	asked, may := "", ""
	amps, plan := Nearest(load)
	if load.Load.Known() && load.Volts > 0 {
		asked = units.Trim(float64(amps), 1)
	}
	if plan > 0 {
		may = units.Trim(float64(plan), 1)
	}
	switch {
	case asked == "" && may == "":
		return "current not known"
	case asked == "":
		return "of " + may + " A"
	case may == "":
		return asked + " A, limit not known"
	}
	return asked + " of " + may + " A"
}

// Lanes are the lanes and the generation of an element; of a tunnelled port
// nobody counts lanes.
func Lanes(e link.Element) []string {
	if e.Tunnel && !e.Lanes.Known {
		return []string{"tunnel", ""}
	}
	return []string{"x" + Of(e.Lanes), "Gen " + Of(e.Gen)}
}

// Pointers are places of a rig in a text.
var Pointers = regexp.MustCompile(`(^|\s)(/[a-z][a-z0-9_]*)(/[a-z0-9_-]+)*`)

// Place is the place that a pointer names: the field, and what it is a field of.
func Place(pointer string) string {
	at := strings.Index(pointer, "/")
	if at < 0 || at+1 == len(pointer) {
		return pointer
	}
	space := pointer[:at]
	pointer = pointer[len(space):]
	whole := &rig.Rig{}
	field := rig.Called(whole, pointer)
	tokens := strings.Split(pointer, "/")
	for i := len(tokens) - 1; i > 1; i-- {
		if n, err := strconv.Atoi(tokens[i]); err == nil {
			thing := fmt.Sprintf("%s %d", rig.Called(whole, strings.Join(tokens[:i+1], "/")), n+1)
			if i == len(tokens)-1 {
				return space + thing
			}
			return space + field + ", " + thing
		}
	}
	if of := rig.Called(whole, "/"+tokens[1]); len(tokens) > 2 && of != field {
		return space + field + ", " + of
	}
	return space + field
}

// Last is the place of the last of n entries of a list.
func Last(list string, n int) string { return list + "/" + strconv.Itoa(n-1) }

// Of prints a fact, and says so when it is unknown.
func Of[T any](f rig.Fact[T]) string {
	if !f.Known {
		return Unknown
	}
	if word, listed := any(f.Value).(rig.Worded); listed {
		return word.Words().Spoken(fmt.Sprint(word))
	}
	return fmt.Sprint(f.Value)
}

// Form is a slot's form with its key.
func Form(s *rig.Slot) string {
	if rig.Is(s.Form, rig.M2) {
		return "M.2 key " + Of(s.Key)
	}
	if rig.Is(s.Form, rig.CardSlot) {
		return "card slot x" + Of(s.Mechanical)
	}
	return Of(s.Form)
}

// Lead is a lead from end to end, with its length.
func Lead(l *rig.Lead) string {
	return endWords(l.From) + " to " + endWords(l.To) + ", " + Of(l.Length)
}

func endWords(ends []rig.LeadEnd) string {
	list := make([]string, len(ends))
	for i, e := range ends {
		list[i] = Of(e.Connector)
		if !e.Connector.Known && e.Part != "" {
			list[i] = e.Part
		}
	}
	if len(list) == 0 {
		return "nothing"
	}
	return strings.Join(list, " + ")
}

// Plugs are a card's plugs.
func Plugs(plugs []rig.CardPlug) string {
	if plugs == nil {
		return "plugs not known"
	}
	if len(plugs) == 0 {
		return "no plug"
	}
	list := make([]string, len(plugs))
	for i, p := range plugs {
		list[i] = Of(p.Connector)
	}
	return strings.Join(list, " + ")
}

// Plural is a number with its noun, in the plural where it is not one.
func Plural(n int, word string) string {
	if n == 1 {
		return "1 " + word
	}
	return strconv.Itoa(n) + " " + word + "s"
}

// When is a time as a person writes it, to the minute.
func When(when string) string {
	return Or(strings.Replace(when[:min(len(when), len("2006-01-02T15:04"))], "T", " ", 1), "not told")
}

// Plain is a fact as a number alone; empty where it is not known.
func Plain[T ~int | ~float64](f rig.Fact[T]) string {
	if !f.Known {
		return ""
	}
	return strconv.FormatFloat(float64(f.Value), 'f', -1, 64)
}

// Cost are what is still to buy, between its two ends.
func Cost(ends [2]*float64, currency string) string {
	cost := units.Money(*ends[0]).String()
	switch {
	case ends[1] == nil:
		cost = "from " + cost
	case *ends[1] > *ends[0]:
		cost += "–" + units.Money(*ends[1]).String()
	}
	return strings.TrimSpace(cost + " " + currency)
}

// Gained is how many times as fast the first use is that was run before and with the card.
func Gained(r *rig.Rig) (ratio float64, shown bool) {
	for _, g := range proof.GainsOf(r) {
		for _, f := range g.Figures {
			if f.Main() && f.Ratio != nil {
				return *f.Ratio, true
			}
		}
	}
	return 0, false
}

// OfBool is 1 for what is true, so that it can be counted.
func OfBool(b bool) int {
	if b {
		return 1
	}
	return 0
}

// SlotLanes are a slot's lanes and their generation.
func SlotLanes(s *rig.Slot) string {
	switch {
	case s.Lanes.Known && s.Gen.Known:
		return fmt.Sprintf("x%d Gen %d", s.Lanes.Value, s.Gen.Value)
	case s.Lanes.Known:
		return fmt.Sprintf("x%d, generation not known", s.Lanes.Value)
	default:
		return "lanes not known"
	}
}

// Length prints a length as the setting wants it.
func Length(l units.Millimetre, inches bool) string {
	words := l.String()
	if inches {
		words = l.Inches()
	}
	return MinusSigns(words)
}

// MinusSigns writes what is below zero as print does.
func MinusSigns(figure string) string {
	if rest, below := strings.CutPrefix(figure, "-"); below {
		return "\u2212" + rest
	}
	return figure
}

// Unknown is what a page says where a figure or a fact cannot be told at all.
const Unknown = "not known"

// Figure prints a figure of a report by its name: the figure, its two ends, the
// one end that is certain, or that it is not known.
func Figure(report *assess.Report, name string, as func(float64) string) string {
	b, known := report.Bounds.Of(name)
	switch {
	case !known, b.Open && b.Low == 0:
		return Unknown
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

// Share is how much of its rating a supply gives.
func Share(load *power.SupplyLoad) string {
	ends, told := load.Shares()
	if !told {
		return Unknown
	}
	return endsWords(ends.Low, ends.High, power.Percent)
}

// Watts is a load as it is known, a range where it is one.
func Watts(w power.Watts) string { return endsWords(float64(w.Low), float64(w.High), PrintWatts) }

// PrintWatts prints a figure of the report that is in watts.
func PrintWatts(v float64) string { return units.Watt(v).String() }

// Rate prints a figure of the report that is in GB/s.
func Rate(v float64) string { return units.GigabytePerSecond(v).String() }

// Time prints a figure of the report that is in seconds.
func Time(v float64) string       { return units.Second(v).String() }
func printPlain(v float64) string { return units.Trim(v, 0) }

// Link is the link in two words, each a range where it is one.
func Link(report *assess.Report) string {
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

// JudgedFor is how the supply is judged, in a person's words.
func JudgedFor(r *rig.Rig, n *power.Network) string {
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

// FileName keeps letters and digits of a name, and joins the rest by dashes.
func FileName(name string) string {
	words := strings.FieldsFunc(strings.ToLower(name), func(r rune) bool {
		return (r < 'a' || r > 'z') && (r < '0' || r > '9')
	})
	if len(words) == 0 {
		return "rig"
	}
	return strings.Join(words, "-")
}

// Cell keeps a text from breaking a table.
func Cell(s string) string {
	return strings.NewReplacer("|", `\|`, "\n", " ", "*", `\*`, "_", `\_`, "<", `\<`, "#", `\#`, "[", `\[`).Replace(s)
}
