package pasted

import (
	"regexp"
	"strconv"
	"strings"
)

// number is the pattern of a number, with points or commas.
const number = `(\d{1,3}(?:[ .,]\d{3})+(?:[.,]\d+)?|\d+(?:[.,]\d+)?)`

// amount finds numbers with their unit.
var amount = regexp.MustCompile(
	`(?i)` + number + `\s*(mm|cm|m\b|in(?:ch(?:es)?)?\b|zoll|"|kg|g\b|grams?|lbs?\b|gib|gb|mib|mb|kw|watts?\b|w\b|volts?\b|v\b|` +
		`amps?\b|amp[eè]res?\b|ma\b|a\b|db(?:\(a\)|a)?\b)`,
)

// A quantity is a number that was read, in the unit the facts are in.
type quantity struct {
	value float64
	unit  string // mm, g, GiB, W, V, A, dB
	clear bool   // it can be read one way only
	words string
}

// quantities are the numbers of a text with units.
func quantities(text string) (list []quantity) {
	for _, m := range amount.FindAllStringSubmatch(text, -1) {
		if q, ok := quantityOf(m[1], m[2]); ok {
			q.words = m[0]
			list = append(list, q)
		}
	}
	return list
}

// units are those that are understood, with what they are in the unit of the facts.
var units = map[string]struct {
	unit  string
	times float64
}{
	"mm": {
		"mm",
		1,
	},
	"cm":     {"mm", 10},
	"m":      {"mm", 1000},
	"in":     {"mm", 25.4},
	"inch":   {"mm", 25.4},
	"inches": {"mm", 25.4},
	"zoll":   {"mm", 25.4},
	`"`:      {"mm", 25.4},
	"kg":     {"g", 1000},
	"g":      {"g", 1},
	"gram":   {"g", 1},
	"grams":  {"g", 1},
	"lb":     {"g", 453.6},
	"lbs":    {"g", 453.6},
	"gib":    {"GiB", 1},
	"gb":     {"GiB", 1},
	"mib":    {"GiB", 1.0 / 1024},
	"mb":     {"GiB", 1.0 / 1024},
	"kw":     {"W", 1000},
	"w":      {"W", 1},
	"watt":   {"W", 1},
	"watts":  {"W", 1},
	"v":      {"V", 1},
	"volt":   {"V", 1},
	"volts":  {"V", 1},
	"a": {
		"A",
		1,
	},
	"amp":     {"A", 1},
	"amps":    {"A", 1},
	"ampere":  {"A", 1},
	"ampères": {"A", 1},
	"ampère":  {"A", 1},
	"amperes": {"A", 1},
	"ma":      {"A", 0.001},
	"db":      {"dB", 1},
	"dba":     {"dB", 1},
	"db(a)":   {"dB", 1},
}

func quantityOf(digits, unit string) (quantity, bool) {
	u, known := units[strings.ToLower(unit)]
	if !known {
		return quantity{}, false
	}
	value, clear, ok := valueOf(digits)
	return quantity{value: rounded(value * u.times), unit: u.unit, clear: clear, words: digits + " " + unit}, ok
}

// rounded keeps a converted figure from trailing nines.
func rounded(v float64) float64 {
	v, _ = strconv.ParseFloat(strconv.FormatFloat(v, 'g', 9, 64), 64)
	return v
}

// valueOf reads a number with points or commas: the last of two sorts parts the decimals; one
// sort alone before just three digits may be either, and is no clear number.
func valueOf(digits string) (v float64, clear, ok bool) {
	digits = strings.ReplaceAll(digits, " ", "")
	point, comma := strings.LastIndex(digits, "."), strings.LastIndex(digits, ",")
	clear = true
	switch {
	case point >= 0 && comma >= 0:
		thousands := ","
		if comma > point {
			thousands = "."
		}
		digits = strings.ReplaceAll(strings.ReplaceAll(digits, thousands, ""), ",", ".")
	case comma >= 0 || point >= 0:
		at := max(point, comma)
		many := strings.Count(digits, digits[at:at+1]) > 1
		three := len(digits)-at-1 == 3 && digits[0] != '0'
		if many {
			digits = strings.ReplaceAll(digits, digits[at:at+1], "")
			break
		}
		clear = !three
		digits = strings.Replace(digits, ",", ".", 1)
	}
	v, err := strconv.ParseFloat(digits, 64)
	return v, clear, err == nil
}
