package pasted

import (
	"fmt"
	"regexp"
	"strings"
)

// What is read anywhere in a line of a supply, a lead, a stage or a host.
var (
	railPattern = regexp.MustCompile(
		`(?i)(?:^|[\s,;+|:=/])\+?\s?(12|5|3[.,]3|19(?:[.,]\d)?|20|24|48|15|9)\s?v(\d)?\s*(?:dc\s*)?(?:[:=@,|/-]|` +
			`\s)*\s*` + number + `\s?(?:a|amps?)\b`,
	)
	ratingOf = regexp.MustCompile(`(?i)\b(\d{2,4})\s?(?:w|watts?)\b`)
	eighty   = regexp.MustCompile(
		`(?i)80\s?(?:plus\b|\+)\s*(bronze|silver|gold|platinum|titanium|silber|platin|titan|argent|or|platine|` +
			`titane|plata|oro|platino|titanio|z[lł]oty|srebrny|br[aą]zowy|goud|zilver|ouro|prata|guld)?`,
	)
	formOf  = regexp.MustCompile(`(?i)\b(sfx-l|sfx|tfx|flex(?:[- ]?atx)?|atx)\b`)
	brickOf = regexp.MustCompile(
		`(?i)ac adapt[eo]r|power brick|netzadapter|steckernetzteil|tischnetzteil|adaptateur secteur|chargeur|cargador|` +
			`adaptador de corriente|zasilacz (?:sieciowy|do laptopa)|adattatore|netadapter|carregador|n[aä]tadapter`,
	)
	outletOf  = regexp.MustCompile(`(?i)(\d+)\s*x\s*((?:pcie?|pci express|vga|gpu|eps|cpu|sata|peripheral|atx)[^,;|+]*)`)
	sixAndTwo = regexp.MustCompile(`6\s?\+\s?2`)
	roundPlug = regexp.MustCompile(`(?i)\b5[.,]5\s*(?:mm)?\s*[x*/]\s*(2[.,][15])\s*(?:mm)?`)
	gaugeOf   = regexp.MustCompile(`(?i)\b(?:awg\s*(\d{1,2})|(\d{1,2})\s*awg)\b`)
	lanesOf   = regexp.MustCompile(
		`(?i)\bx\s?(1|2|4|8|16)\b|\b(4|8)i\b|\b(1|2|4|8|16)\s*(?:lanes?|bahnen|voies|carriles|linii|linie|banen|vias|banor)\b`,
	)
	between = regexp.MustCompile(
		`(?i)\b(m\.2|oculink|mini[- ]?pcie|pcie? x?16|pcie?|sff-8654|sff-861[12])\b[^,.;]{0,30}?\b(?:to|zu|auf|` +
			`vers|a|do|na|naar|para|till|->|>)\b\s*[^,.;]{0,12}?\b(m\.2|oculink|mini[- ]?pcie|pcie? x?16|pcie?|sff-8654|` +
			`sff-861[12])\b`,
	)
	keyOf    = regexp.MustCompile(`(?i)\b(?:m\.2[^,.;]{0,20}?)?\b(b\+m|a\+e|m|b|e|a)[- ]key\b`)
	hostSlot = regexp.MustCompile(`(?i)m\.2[^,.;|]{0,40}?pci(?:e| express)\s*(?:gen\s*)?(\d)(?:\.\d)?\s*x\s?(\d)`)
)

// metals are the classes of efficiency, by their words in every language.
var metals = map[string]string{
	"bronze":   "bronze",
	"brązowy":  "bronze",
	"brazowy":  "bronze",
	"silver":   "silver",
	"silber":   "silver",
	"argent":   "silver",
	"plata":    "silver",
	"srebrny":  "silver",
	"zilver":   "silver",
	"prata":    "silver",
	"gold":     "gold",
	"or":       "gold",
	"oro":      "gold",
	"złoty":    "gold",
	"zloty":    "gold",
	"goud":     "gold",
	"ouro":     "gold",
	"guld":     "gold",
	"platinum": "platinum",
	"platin":   "platinum",
	"platine":  "platinum",
	"platino":  "platinum",
	"titanium": "titanium",
	"titan":    "titanium",
	"titane":   "titanium",
	"titanio":  "titanium",
}

// supply reads a line of a supply's page or label.
func (r *reader) supply(label, value, line string) {
	if words := brickOf.FindString(line); words != "" {
		r.add("/kind", "brick", true, words)
	} else if m := formOf.FindStringSubmatch(line); m != nil {
		form := strings.ToLower(m[1])
		if strings.HasPrefix(form, "flex") {
			form = "flex"
		}
		// A page for ATX boards may be of any form.
		r.add("/kind", form, form != "atx" || strings.Contains(strings.ToLower(line), "form"), m[0])
	}
	rails := r.rails(line)
	if isRating.MatchString(label) {
		r.one("/rating_w", "W", value, line)
	} else if m := ratingOf.FindStringSubmatch(line); m != nil && (label == "" || isOutput.MatchString(label) || rails > 0) {
		r.whole("/rating_w", m[1], true, m[0])
	}
	if m := eighty.FindStringSubmatch(line); m != nil {
		class := "plain"
		if m[1] != "" {
			class = metals[strings.ToLower(m[1])]
		}
		if class != "" {
			r.add("/efficiency", class, m[1] != "", m[0])
		}
	}
	if isDepth.MatchString(label) {
		r.one("/depth_mm", "mm", value, line)
	}
	r.decibels(label, value, line)
	r.outlets(line)
	if m := roundPlug.FindStringSubmatch(line); m != nil {
		r.add("/outlets/0/name", "plug", true, m[0])
		r.add("/outlets/0/connector", "barrel", true, m[0])
		r.add("/outlets/0/barrel_mm", "5.5x"+strings.Replace(m[1], ",", ".", 1), true, m[0])
	}
}

// rails reads volts with their amps; it tells how many there were.
func (r *reader) rails(line string) (n int) {
	for _, m := range railPattern.FindAllStringSubmatch(" "+line, -1) {
		amps, clear, ok := valueOf(m[3])
		volts, _, _ := valueOf(strings.Replace(m[1], ",", ".", 1))
		if !ok {
			continue
		}
		at := fmt.Sprintf("/rails/%d", r.railCount())
		name := strings.Replace(m[1], ",", ".", 1) + "V" + m[2]
		words := strings.TrimSpace(m[0])
		r.add(at+"/name", name, true, words)
		r.add(at+"/voltage_v", volts, true, words)
		r.add(at+"/current_a", amps, clear, words)
		n++
	}
	return n
}

func (r *reader) railCount() (n int) {
	for _, f := range r.Facts {
		if strings.HasPrefix(f.At, "/rails/") && strings.HasSuffix(f.At, "/voltage_v") {
			n++
		}
	}
	return n
}

// outlets reads how many plugs of which kind a supply has.
func (r *reader) outlets(line string) {
	for _, m := range outletOf.FindAllStringSubmatch(sixAndTwo.ReplaceAllString(line, "8"), -1) {
		words := strings.ToLower(m[2])
		kind := ""
		switch {
		case strings.HasPrefix(words, "sata"):
			kind = "disk-15"
		case strings.HasPrefix(words, "peripheral"):
			kind = "peripheral-4"
		case strings.HasPrefix(words, "eps"), strings.HasPrefix(words, "cpu"):
			kind = "cpu-8"
			if !strings.Contains(words, "8") && strings.Contains(words, "4") {
				kind = "cpu-4"
			}
		case sixteenPlug.MatchString(words) || strings.Contains(words, "16"):
			kind = "card-16"
		case strings.Contains(words, "8"):
			kind = "card-8"
		case strings.Contains(words, "6"):
			kind = "card-6"
		}
		count := countIn(m[1])
		for i := 0; kind != "" && i < count && count <= 16; i++ {
			at := fmt.Sprintf("/outlets/%d", r.outletCount())
			r.add(at+"/name", fmt.Sprintf("%s %d", strings.SplitN(kind, "-", 2)[0], i+1), true, m[0])
			r.add(at+"/connector", kind, true, m[0])
		}
	}
}

func (r *reader) outletCount() (n int) {
	for _, f := range r.Facts {
		if strings.HasPrefix(f.At, "/outlets/") && strings.HasSuffix(f.At, "/connector") {
			n++
		}
	}
	return n
}

// lead reads a line of a lead's page.
func (r *reader) lead(label, value, line string) {
	if m := gaugeOf.FindStringSubmatch(line); m != nil {
		r.whole("/gauge_awg", m[1]+m[2], true, m[0])
	}
	r.lengthOf(label, value, line)
}

// lengthOf reads a length by its label, or the only one of a line.
func (r *reader) lengthOf(label, value, line string) {
	if label != "" && !isLength.MatchString(label) && !isDimensions.MatchString(label) && !isGauge.MatchString(label) {
		return
	}
	if threeSizes.MatchString(line) {
		return
	}
	r.one("/length_mm", "mm", value, line)
}

// formNames are the forms by the words of pages.
var formNames = map[string]string{
	"m.2":       "m2",
	"oculink":   "oculink",
	"sff-8611":  "oculink",
	"sff-8612":  "oculink",
	"sff-8654":  "sff-8654",
	"mini pcie": "mini-pcie",
	"mini-pcie": "mini-pcie",
	"minipcie":  "mini-pcie",
}

func formNamed(word string) string {
	word = strings.ToLower(word)
	if form := formNames[word]; form != "" {
		return form
	}
	return "card"
}

// stageWords are the sorts of stage by their words.
var stageWords = []struct{ words, kind string }{
	{"dock", "dock"}, {"riser", "riser"}, {"adapter", "adapter"},
	{"cable", "cable"}, {"kabel", "cable"}, {"câble", "cable"}, {"przewód", "cable"}, {"cavo", "cable"},
}

// stage reads a line of an adapter's, a cable's, a dock's or a riser's page.
func (r *reader) stage(label, value, line string) {
	lower := strings.ToLower(line)
	for _, of := range stageWords {
		if strings.Contains(lower, of.words) {
			r.add("/kind", of.kind, label == "", of.words)
			break
		}
	}
	r.bus(line, "")
	if m := lanesOf.FindStringSubmatch(line); m != nil && !longPattern.MatchString(line) {
		r.whole("/lanes", m[1]+m[2]+m[3], true, m[0])
	}
	if m := between.FindStringSubmatch(line); m != nil {
		r.add("/plug/form", formNamed(m[1]), true, m[0])
		r.add("/socket/form", formNamed(m[2]), true, m[0])
	}
	if m := keyOf.FindStringSubmatch(line); m != nil {
		r.add("/plug/key", strings.ToUpper(m[1]), true, m[0])
	}
	r.lengthOf(label, value, line)
}

// host reads a line of a host's page: memory, the processor's power, and its M.2 slots.
func (r *reader) host(label, value, line string) {
	if isRAM.MatchString(label) {
		r.one("/memory_gib", "GiB", value, line)
	}
	if isProcessor.MatchString(label) || isPower.MatchString(label) && strings.HasPrefix(label, "t") {
		for _, q := range quantities(value) {
			if q.unit == "W" {
				r.add("/processor/power_w", q.value, q.clear, line)
			}
		}
		if isProcessor.MatchString(label) {
			r.add("/processor/name", strings.TrimSpace(value), true, line)
		}
	}
	for _, m := range hostSlot.FindAllStringSubmatch(line, -1) {
		at := fmt.Sprintf("/slots/%d", r.slotCount())
		r.add(at+"/form", "m2", true, m[0])
		r.whole(at+"/generation", m[1], true, m[0])
		r.whole(at+"/lanes", m[2], true, m[0])
	}
}

func (r *reader) slotCount() (n int) {
	for _, f := range r.Facts {
		if strings.HasPrefix(f.At, "/slots/") && strings.HasSuffix(f.At, "/form") {
			n++
		}
	}
	return n
}
