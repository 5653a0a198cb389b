package web

import (
	"regexp"

	"kolvan/core/units"
)

// measures are the small pictures that say what to measure, from where to where,
// by the place of the field.
var measures = []struct {
	at      *regexp.Regexp
	picture string
}{
	{regexp.MustCompile(`^/card/length_mm$|^/length_mm$`), "card-length"},
	{regexp.MustCompile(`^(/card)?/height_mm$`), "card-height"},
	{regexp.MustCompile(`^(/card)?/thickness_mm$`), "card-thickness"},
	{regexp.MustCompile(`^/host/slots/\d+/length_mm$`), "module"},
	{regexp.MustCompile(`^/(route/stages|leads)/\d+/length_mm$`), "cable"},
	{regexp.MustCompile(`/at_(plug|socket)/wall_mm$`), "wall-ahead"},
	{regexp.MustCompile(`(box|size)/x_mm$`), "along-x"},
	{regexp.MustCompile(`(box|size)/y_mm$`), "along-y"},
	{regexp.MustCompile(`(box|size)/z_mm$`), "along-z"},
	{regexp.MustCompile(`(card_at|at)/x_mm$`), "from-x"},
	{regexp.MustCompile(`(card_at|at)/y_mm$`), "from-y"},
	{regexp.MustCompile(`(card_at|at)/z_mm$`), "from-z"},
}

// measureOf is the picture of a length; "" for what is no length or needs none.
func measureOf(path string) string {
	for _, m := range measures {
		if m.at.MatchString(path) {
			return m.picture
		}
	}
	return ""
}

// measuredWith is what lengths are taken with, each with its tolerance (P).
var measuredWith = []struct {
	name      string
	tolerance units.Millimetre
}{{"a rule", 1.5}, {"a calliper", 0.2}, {"its papers", 0.5}}

// instrumentsOf are the choices of an instrument for a length of that tolerance.
func instrumentsOf(tolerance float64) []choice {
	list := []choice{{"", "measured with", false}}
	for _, i := range measuredWith {
		list = append(list, choice{i.tolerance.String(), i.name + ", ±" + i.tolerance.String(), tolerance == float64(i.tolerance)})
	}
	return list
}
