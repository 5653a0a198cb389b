package pasted

import (
	"fmt"
	"math"
	"regexp"
	"strconv"
	"strings"
)

// What is read anywhere in a line.
var (
	busPattern  = regexp.MustCompile(`(?i)\bpci(?:e| express|-e|-express)\s*(?:gen(?:eration)?\.?\s*)?(\d)(?:\.\d)?\s*[,/]?\s*x\s?(\d{1,2})\b`)
	busReversed = regexp.MustCompile(`(?i)\bpci(?:e| express|-e)\s*x\s?(\d{1,2})\s+(?:gen(?:eration)?\.?\s*(\d)|(\d)\.\d)\b`)
	busOnly     = regexp.MustCompile(`(?i)\bpci(?:e| express|-e)\s*(?:gen(?:eration)?\.?\s*)?(\d)(?:\.\d)?\b`)
	longPattern = regexp.MustCompile(
		`(?i)x\s?(\d{1,2})\s*(?:physical|mechanical|slot size|connector|mechanisch|physisch|m[eé]canique|physique|` +
			`mec[aá]nic[oa]|f[ií]sic[oa]|mechaniczn\w+|fizyczn\w+|meccanic[oa]|fisic[oa]|fysiek|mekanisk\w*|fysisk\w*)`,
	)
	threeSizes = regexp.MustCompile(
		`(?i)` + number + `\s*(mm|cm|in|")?\s*x\s*` + number + `\s*(mm|cm|in|")?\s*x\s*` + number + `\s*(mm|cm|in\b|inch(?:es)?|zoll|")?`,
	)
	slotsWide = regexp.MustCompile(
		`(?i)\b(\d(?:[.,]\d+)?|single|dual|double|triple|zwei|drei|deux|doble|triple|dwa|doppi[oa])[- ]?(?:slots?|steckpl[aä]tze)\b`,
	)
	lowProfile = regexp.MustCompile(
		`(?i)low[- ]?profile|half[- ]?height|halbe bauh[oö]he|demi[- ]hauteur|perfil bajo|niskoprofilow|basso profilo|l[aå]gprofil`,
	)
	memoryOf = regexp.MustCompile(
		`(?i)` + number + `\s*(gib|gb|go|mb|mo)\s*(?:of\s*)?(?:gddr\d\w*|hbm\d?\w*|vram|ddr\d\s*(?:grafik|graphics))`,
	)
	cardPlug = regexp.MustCompile(
		`(?i)(?:(\d|one|two|three|ein|zwei|une?|deux|dos|un[oa]?|due|jeden|dwa|een|twee|um|dois|en|ett|tv[aå])\s*(?:x|` +
			`mal|fois|×)?\s*)?(?:pcie?\s*)?(\d{1,2})(?:\s?\(\s?6\s?\+\s?2\s?\))?[- ]?(?:pins?|pol(?:ig|e)?|broches?|` +
			`pines|pinos?|piny|pinowe|poli|polig\w*|stift)\b`,
	)
	sixteenPlug  = regexp.MustCompile(`(?i)\b12v-?2x6\b|\b12vhpwr\b`)
	encoderNames = regexp.MustCompile(`(?i)\b(h\.?264|avc|h\.?265|hevc|av1)\b`)
)

// card reads a line of a card's page.
func (r *reader) card(label, value, line string) {
	r.bus(line, "")
	r.sizes(label, value, line)
	r.weight(label, value, line)
	r.decibels(label, value, line)
	if isPower.MatchString(label) {
		r.one("/power_w", "W", value, line)
	}
	if m := memoryOf.FindStringSubmatch(line); m != nil {
		unit := strings.Replace(strings.ToLower(m[2]), "o", "b", 1)
		if q, ok := quantityOf(m[1], unit); ok {
			r.add("/memory_gib", q.value, q.clear, m[0])
		}
	} else if isMemory.MatchString(label) {
		r.one("/memory_gib", "GiB", value, line)
	}
	r.cardPlugs(label, value, line)
	if m := slotsWide.FindStringSubmatch(line); m != nil {
		r.slots(m)
	}
	if words := lowProfile.FindString(line); words != "" {
		r.add("/bracket/height", "half", true, words)
	}
	if isEncoder.MatchString(label) {
		r.encoders(value)
	}
}

// one takes the only quantity of a unit in a value; of several the first, and asks.
func (r *reader) one(at, unit, value, line string) {
	var found []quantity
	for _, q := range quantities(value) {
		if q.unit == unit {
			found = append(found, q)
		}
	}
	if len(found) > 0 {
		r.add(at, r.likely(at, found[0]), len(found) == 1 && r.clear(at, found[0]), line)
	}
}

// likely is a number that may be read two ways, as the one that such parts have.
func (r *reader) likely(at string, q quantity) float64 {
	if !q.clear && !r.sold(at, q.value) && r.sold(at, q.value*1000) {
		return q.value * 1000
	}
	return q.value
}

// clear reports a number that can be read one way only, or of which one way is none that such
// parts have.
func (r *reader) clear(at string, q quantity) bool {
	spec, known := r.spec(at)
	return q.clear || known && spec.Sold.Max > 0 && r.sold(at, q.value) != r.sold(at, q.value*1000)
}

// bus reads generation and lanes, and how long the edge is.
func (r *reader) bus(line, at string) {
	long := longPattern.FindStringSubmatch(line)
	if long != nil && at == "" && r.Kind == "card" {
		r.whole("/edge_lanes", long[1], true, long[0])
	}
	electrical := line
	if long != nil {
		electrical = strings.Replace(line, long[0], "", 1)
	}
	if m := busPattern.FindStringSubmatch(electrical); m != nil {
		r.whole(at+"/generation", m[1], true, m[0])
		r.whole(at+"/lanes", m[2], true, m[0])
	} else if m := busReversed.FindStringSubmatch(electrical); m != nil {
		r.whole(at+"/lanes", m[1], true, m[0])
		r.whole(at+"/generation", m[2]+m[3], true, m[0])
	} else if m := busOnly.FindStringSubmatch(electrical); m != nil {
		r.whole(at+"/generation", m[1], true, m[0])
	}
}

func (r *reader) whole(at, digits string, sure bool, words string) {
	if n, err := strconv.Atoi(digits); err == nil {
		r.add(at, float64(n), sure, words)
	}
}

// sizes reads three sizes in a row, the longest first as a card lies, or one by its label.
func (r *reader) sizes(label, value, line string) {
	if m := threeSizes.FindStringSubmatch(line); m != nil && (label == "" || isDimensions.MatchString(label)) {
		r.three(label, m)
		return
	}
	for _, of := range []struct {
		is bool
		at string
	}{
		{isLength.MatchString(label), "/length_mm"}, {isHeight.MatchString(label), "/height_mm"}, {isThickness.MatchString(label),
			"/thickness_mm"},
	} {
		if of.is {
			r.one(of.at, "mm", value, line)
		}
	}
}

// orderIn finds the order of three sizes in brackets: (L x W x H).
var orderIn = regexp.MustCompile(`(?i)\(?\b([lbhwdtpgs])\s*x\s*([lbhwdtpgs])\s*x\s*([lbhwdtpgs])\b\)?`)

func (r *reader) three(label string, m []string) {
	unit := m[6]
	for _, u := range []string{m[2], m[4]} {
		if unit == "" {
			unit = u
		}
	}
	if unit == "" {
		unit = "mm"
	}
	var mm [3]float64
	clear := m[6] != "" || m[2] != ""
	for i, digits := range []string{m[1], m[3], m[5]} {
		q, ok := quantityOf(digits, unit)
		if !ok {
			return
		}
		mm[i] = q.value
		clear = clear && (q.clear || q.value < 1000)
	}
	// A page may give the sizes in another order; a card is longest, then high, then thick.
	falls := mm[0] > mm[1] && mm[1] > mm[2]
	if order := orderIn.FindStringSubmatch(label); order != nil && !strings.EqualFold(order[1], "l") {
		falls = false
	}
	for i, at := range []string{"/length_mm", "/height_mm", "/thickness_mm"} {
		r.add(at, mm[i], clear && falls, m[0])
	}
}

func (r *reader) weight(label, value, line string) {
	if isWeight.MatchString(label) {
		r.one("/mass_g", "g", value, line)
	}
}

func (r *reader) decibels(label, value, line string) {
	if isNoise.MatchString(label) {
		r.one("/noise_db", "dB", value, line)
	}
}

// wordNumbers are the small numbers that people write out.
var wordNumbers = map[string]int{
	"one":    1,
	"two":    2,
	"three":  3,
	"ein":    1,
	"zwei":   2,
	"drei":   3,
	"un":     1,
	"une":    1,
	"deux":   2,
	"dos":    2,
	"uno":    1,
	"una":    1,
	"due":    2,
	"jeden":  1,
	"dwa":    2,
	"een":    1,
	"twee":   2,
	"um":     1,
	"dois":   2,
	"en":     1,
	"ett":    1,
	"två":    2,
	"tva":    2,
	"single": 1,
	"dual":   2,
	"double": 2,
	"triple": 3,
	"doble":  2,
	"doppio": 2,
	"doppia": 2,
}

func countIn(word string) int {
	if n, err := strconv.Atoi(word); err == nil {
		return n
	}
	if n, told := wordNumbers[strings.ToLower(word)]; told {
		return n
	}
	return 1
}

// cardPlugs reads the power sockets of a card, or that it has none.
func (r *reader) cardPlugs(label, value, line string) {
	if isPlugs.MatchString(label) && isNone.MatchString(value) {
		r.add("/plugs", []any{}, true, line)
		return
	}
	n := 0
	put := func(kind string, count int, words string) {
		for range count {
			r.add(fmt.Sprintf("/plugs/%d/connector", n), kind, true, words)
			n++
		}
	}
	if words := sixteenPlug.FindString(line); words != "" {
		put("card-16", 1, words)
		return
	}
	for _, m := range cardPlug.FindAllStringSubmatch(line, -1) {
		kind := map[string]string{"6": "card-6", "8": "card-8", "16": "card-16"}[m[2]]
		if kind != "" && countIn(m[1]) <= 4 {
			put(kind, countIn(m[1]), m[0])
		}
	}
}

func (r *reader) slots(m []string) {
	digits := strings.Replace(m[1], ",", ".", 1)
	if v, err := strconv.ParseFloat(digits, 64); err == nil {
		r.add("/bracket/slots", math.Ceil(v), v == math.Trunc(v), m[0]) // 2.5 slots take three, of a bracket of two
		return
	}
	r.add("/bracket/slots", float64(countIn(m[1])), true, m[0])
}

func (r *reader) encoders(value string) {
	codes := map[string]string{"h264": "h264", "avc": "h264", "h265": "hevc", "hevc": "hevc", "av1": "av1"}
	var list []string
	seen := map[string]bool{}
	for _, word := range encoderNames.FindAllString(value, -1) {
		code := codes[strings.ToLower(strings.ReplaceAll(word, ".", ""))]
		if !seen[code] {
			seen[code] = true
			list = append(list, code)
		}
	}
	if list != nil {
		r.add("/encoders", list, true, value)
	}
}
