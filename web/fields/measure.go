package fields

import (
	"kolvan/core/units"
)

// measuredWith is what lengths are taken with, each with its tolerance (P).
var measuredWith = []struct {
	name      string
	tolerance units.Millimetre
}{{"a rule", 1.5}, {"a calliper", 0.2}, {"its papers", 0.5}}

// instrumentsOf are the choices of an instrument for a length of that tolerance.
func instrumentsOf(tolerance float64) []Choice {
	list := []Choice{{"", "measured with", false}}
	for _, i := range measuredWith {
		list = append(list, Choice{i.tolerance.String(), i.name + ", ±" + i.tolerance.String(), tolerance == float64(i.tolerance)})
	}
	return list
}
