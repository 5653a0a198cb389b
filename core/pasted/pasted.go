// Package pasted reads what the page of a part, a listing or a label says into facts: text of
// any sort, in nine languages, with commas or points, inches or millimetres. Each fact stands
// beside the words it came from. It is sure where the words can be read one way only; where
// two are possible, or the figure is one that no such part has, it is not, and a person is
// asked. Nothing is taken that was not seen, and what is not understood stays as text.
package pasted

import (
	"regexp"
	"slices"
	"strings"

	"kolvan/core/parts"
	"kolvan/core/rig"
)

// Format is the format word of a reading.
const Format = "kolvan-facts/1"

// A Reading is what a text says of one part.
type Reading struct {
	Format string     `json:"format"`
	Kind   parts.Kind `json:"kind"`
	Facts  []Fact     `json:"facts"`
	Rest   []string   `json:"rest"` // lines of which nothing was understood
}

// A Fact is one value, at its JSON Pointer inside the part.
type Fact struct {
	At    string `json:"at"`
	Value any    `json:"value"`
	Sure  bool   `json:"sure"`
	Words string `json:"words"`
}

// mostText bounds a pasted text, in bytes.
const mostText = 1 << 16

// Read reads a text as a part of a kind; an empty kind is guessed from the words.
func Read(text string, kind parts.Kind) *Reading {
	text = plain(text)
	if kind == "" {
		kind = guess(text)
	}
	r := &reader{Reading: Reading{Format: Format, Kind: kind, Facts: []Fact{}, Rest: []string{}}, part: parts.New(kind)}
	for line := range strings.Lines(text) {
		if line = strings.TrimSpace(line); line != "" {
			r.line(line)
		}
	}
	return &r.Reading
}

// plain is a text with one sort of dash, space, cross and quote, cut where it is too long.
func plain(text string) string {
	if len(text) > mostText {
		text = text[:mostText]
	}
	return strings.NewReplacer(
		"\r\n",
		"\n",
		"\r",
		"\n",
		"\u00a0",
		" ",
		"\u202f",
		" ",
		"\u2009",
		" ",
		"×",
		"x",
		"✕",
		"x",
		"–",
		"-",
		"—",
		"-",
		"−",
		"-",
		"″",
		`"`,
		"”",
		`"`,
		"“",
		`"`,
		"Ø",
		"",
		"⎓",
		" = ",
		"⎓",
		" = ",
		"═",
		" = ",
		"\u2393",
		" = ",
	).Replace(strings.ToValidUTF8(text, ""))
}

// kindWords are those by which a page tells what it sells, the most telling first.
var kindWords = []struct {
	kind  parts.Kind
	words *regexp.Regexp
}{
	{
		parts.Card,
		regexp.MustCompile(
			`(?i)\bgddr\d|\bvram\b|\bt[gb]p\b|graphics? card|grafikkarte|carte graphique|tarjeta gr[aá]fica|karta graficzna|` +
				`scheda (video|grafica)|videokaart|placa (de v[ií]deo|gr[aá]fica)|grafikkort`,
		),
	},
	{
		parts.Supply,
		regexp.MustCompile(
			`(?i)80\s?(plus\b|\+)|power supply|\bpsu\b|netzteil|netzadapter|bloc d'alimentation|\balimentation\b|fuente de alimentaci[oó]n|` +
				`zasilacz|alimentatore|\bvoeding\b|fonte de alimenta[cç][aã]o|n[aä]taggregat|ac adapt[eo]r|\boutput\s*:?.*\d\s*v\b|` +
				`\bausgang\s*:?.*\d\s*v\b|\bsortie\s*:?.*\d\s*v\b|\bsalida\s*:?.*\d\s*v\b|\bwyj[sś]cie\s*:?.*\d\s*v\b`,
		),
	},
	{
		parts.Stage,
		regexp.MustCompile(`(?i)oculink|sff-\d|riser|\bdock\b|m\.2 (to|zu|auf|vers|a|do|naar|para|till)\b|pcie? (cable|kabel|extension)`),
	},
	{parts.Lead, regexp.MustCompile(`(?i)\bawg\b`)},
	{
		parts.Host,
		regexp.MustCompile(
			`(?i)mini[- ]?pc|notebook|laptop|desktop|all-in-one|\bcpu\b|processor|prozessor|processeur|procesador|procesor|processore`,
		),
	},
}

// guess is the kind whose words stand in the text; a card where none do.
func guess(text string) parts.Kind {
	best, most := parts.Card, 0
	for _, k := range kindWords {
		if n := len(k.words.FindAllString(text, -1)); n > most {
			best, most = k.kind, n
		}
	}
	return best
}

type reader struct {
	Reading
	part any
}

// line reads one line, its label apart where it has one.
func (r *reader) line(line string) {
	before := len(r.Facts)
	label, value := labelled(line)
	if ignored.MatchString(label) || label == "" && ignored.MatchString(line) {
		r.Rest = append(r.Rest, line)
		return
	}
	switch r.Kind {
	case parts.Card:
		r.card(label, value, line)
	case parts.Supply:
		r.supply(label, value, line)
	case parts.Stage:
		r.stage(label, value, line)
	case parts.Lead:
		r.lead(label, value, line)
	case parts.Host:
		r.host(label, value, line)
	}
	if len(r.Facts) > before {
		return
	}
	if label == "" && len(r.Rest) == 0 && before == 0 && len(line) <= mostName {
		r.add("/name", line, false, line) // what a page begins with may be its name
	}
	r.Rest = append(r.Rest, line)
}

// mostName is how long a line may be that is taken for a name, in bytes.
const mostName = 60

// parted finds the end of a label: a colon, a tab, a bar, or a wide gap.
var parted = regexp.MustCompile(`^\s*([^:|\t\d]{2,60}?)\s*(?::|\t|\||\s{3,}|\s-\s)\s*(.+)$`)

func labelled(line string) (label, value string) {
	if m := parted.FindStringSubmatch(line); m != nil {
		return strings.ToLower(strings.TrimSpace(m[1])), m[2]
	}
	if m := begun.FindStringSubmatch(line); m != nil && isLabel(strings.ToLower(m[1])) {
		return strings.ToLower(m[1]), m[2]
	}
	return "", line
}

// begun is a line that begins with words, and goes on with a number.
var begun = regexp.MustCompile(`^\s*([^:|\t\d]{2,40}?)[\s.=]+(\d.*)$`)

// ignored are lines of what is advised, of the mains, or of another thing than the part.
var ignored = regexp.MustCompile(
	`(?i)recommend|minimum (psu|system|power)|empf(ohlen|iehlt)|recommand|recomend|zalecan|consigliat|aanbevolen|` +
		`rekommender|warranty|garantie|garant[ií]a|gwarancj|garanzia|^\s*(input|eingang|entr[eé]e|entrada|wej[sś]cie|` +
		`ingresso|ingang|in-)\b|package|verpackung|emballage|embalaje|opakowani`,
)

// add takes a fact, the first of each place: sure unless doubt is told, or no such part has
// such a figure.
func (r *reader) add(at string, value any, sure bool, words string) {
	if slices.ContainsFunc(r.Facts, func(f Fact) bool { return f.At == at }) {
		return
	}
	if v, is := value.(float64); is {
		sure = sure && r.sold(at, v)
		if !r.holds(at, v) {
			return
		}
	}
	r.Facts = append(r.Facts, Fact{At: at, Value: value, Sure: sure, Words: strings.TrimSpace(words)})
}

// spec describes the field at a pointer, whose entries of lists need not be there yet.
func (r *reader) spec(at string) (rig.Spec, bool) { return rig.SpecAt(r.part, at) }

// sold reports a figure that such parts have.
func (r *reader) sold(at string, v float64) bool {
	spec, known := r.spec(at)
	return !known || spec.Sold.Max == 0 || v >= spec.Sold.Min && v <= spec.Sold.Max
}

func (r *reader) holds(at string, v float64) bool {
	spec, known := r.spec(at)
	return !known || spec.Holds(v)
}
