package need

import (
	"math"
	"regexp"
	"strconv"
	"strings"

	"kolvan/core/rig"
)

// A Tick is one condition held against a candidate.
type Tick struct {
	Says  string `json:"says"`
	Holds *bool  `json:"holds"` // nil where the candidate does not tell
	Found string `json:"found,omitzero"`
}

// figurePattern is a number with its unit, as pages and labels write them.
var figurePattern = regexp.MustCompile(`(?i)(AWG\s*)?(\d+(?:[.,]\d+)?)\s*(mm|cm|kg|g|GiB|GB|W|V|A|dB|m³/h|AWG)?\b`)

// words of numbers, as people count sockets.
var counts = map[string]int{"one": 1, "two": 2, "three": 3, "four": 4, "a": 1, "no": 0}

// socketPattern is so many plugs of a kind: "two card 8-pins", "1 x 8-pin", "disk 15-pin".
var socketPattern = regexp.MustCompile(
	`(?i)(?:\b(\d+|one|two|three|four|no)\s*[x×]?\s+)?(card|disk|peripheral|processor|main)?\s*\b(\d+)[- ]?pins?\b`,
)

// A figure is a number that was found in a text.
type figure struct {
	value float64
	unit  string
	text  string
	after string // what stands before it
}

// Against holds a candidate's figures, as its page or its label writes them, against what is
// asked of an item, one tick for each. What the text does not tell is neither.
func (i *Item) Against(text string) (ticks []Tick) {
	found := figuresIn(socketPattern.ReplaceAllString(text, " "))
	for n := range i.Conditions {
		ticks = append(ticks, i.Conditions[n].against(found, text))
	}
	for n := range i.Sockets {
		ticks = append(ticks, i.Sockets[n].against(text))
	}
	return ticks
}

func figuresIn(text string) (list []figure) {
	for _, at := range figurePattern.FindAllStringSubmatchIndex(text, -1) {
		value, err := strconv.ParseFloat(strings.ReplaceAll(text[at[4]:at[5]], ",", "."), 64)
		if err != nil {
			continue
		}
		f := figure{value: value, text: text[at[0]:at[1]], after: strings.ToLower(text[max(0, at[0]-24):at[0]])}
		switch {
		case at[2] >= 0:
			f.unit = "AWG"
		case at[6] >= 0:
			f.unit = text[at[6]:at[7]]
		}
		list = append(list, f.usual())
	}
	return list
}

// usual is the figure in the unit that the conditions are in.
func (f figure) usual() figure {
	switch strings.ToLower(f.unit) {
	case "cm":
		f.value, f.unit = f.value*10, "mm"
	case "kg":
		f.value, f.unit = f.value*1000, "g"
	case "gb":
		f.unit = "GiB"
	default:
		for _, unit := range []string{"W", "V", "A", "mm", "g", "AWG", "dB"} {
			if strings.EqualFold(unit, f.unit) {
				f.unit = unit
			}
		}
	}
	return f
}

// against looks for the condition's own figure: one of its unit, the one behind its word
// where there are several.
func (b *Bound) against(found []figure, text string) Tick {
	tick := Tick{Says: b.Says}
	if b.OneOf != nil && b.Unit == "" {
		return b.namedIn(tick, text)
	}
	of, told := b.figureOf(found)
	if !told {
		return tick
	}
	holds := true
	if least, some := number(b.AtLeast); some {
		holds = of.value >= least-slack
	}
	if most, some := number(b.AtMost); some {
		holds = holds && of.value <= most+slack
	}
	if b.OneOf != nil {
		holds = false
		for _, v := range b.OneOf {
			is, some := number(v)
			holds = holds || some && math.Abs(is-of.value) < slack
		}
	}
	tick.Holds, tick.Found = &holds, strings.TrimSpace(of.text)
	return tick
}

func (b *Bound) figureOf(found []figure) (best figure, told bool) {
	for _, f := range found {
		if f.unit != b.Unit {
			continue
		}
		for word := range strings.FieldsSeq(strings.ToLower(b.Fact)) {
			if strings.Contains(f.after, word) {
				return f, true
			}
		}
		if !told {
			best, told = f, b.Unit != ""
		}
	}
	return best, told
}

// namedIn looks for one of the words: none there tells nothing.
func (b *Bound) namedIn(tick Tick, text string) Tick {
	for _, v := range b.OneOf {
		word, isWord := v.(string)
		if isWord && word != "" && strings.Contains(strings.ToLower(text), strings.ToLower(word)) {
			holds := true
			tick.Holds, tick.Found = &holds, word
		}
	}
	return tick
}

func number(v any) (float64, bool) {
	switch v := v.(type) {
	case float64:
		return v, true
	case []any:
		return number(v[0])
	}
	return 0, false
}

// against counts the sockets of the kind that a text tells; a text without any tells nothing.
func (p *Plug) against(text string) Tick {
	tick, told, n, found := Tick{Says: p.Says}, false, 0, []string{}
	spoken := strings.ToLower(rig.Connector("").Words().Spoken(p.Connector))
	for _, m := range socketPattern.FindAllStringSubmatch(text, -1) {
		told = true
		kind := strings.TrimSpace(strings.ToLower(m[2]) + " " + m[3] + "-pin")
		if m[2] == "" {
			kind = "card " + m[3] + "-pin"
		}
		if !strings.HasPrefix(spoken, kind) {
			continue
		}
		found = append(found, strings.TrimSpace(m[0]))
		n += countOf(m[1])
	}
	if told {
		holds := n >= p.Count
		tick.Holds, tick.Found = &holds, strings.Join(found, ", ")
	}
	return tick
}

func countOf(word string) int {
	if n, err := strconv.Atoi(word); err == nil {
		return n
	}
	if n, there := counts[strings.ToLower(word)]; there {
		return n
	}
	return 1
}

// slack is how far a figure may lie beside a bound by rounding alone.
const slack = 1e-9
