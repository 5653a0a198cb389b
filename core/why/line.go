package why

import (
	"fmt"
	"strings"

	"kolvan/core/assess"
	"kolvan/core/reference"
	"kolvan/core/rig"
	"kolvan/core/units"
)

// Lines are the sums of some figures, each on one line as it is written on paper; those that
// cannot be known, and those without a sum, are left out.
func Lines(r *rig.Rig, ref *reference.Tables, report *assess.Report, keys ...string) (lines []string) {
	d := &desk{r, ref, *report}
	all := d.figures()
	for _, key := range keys {
		figure, is := all[key]
		if !is {
			continue
		}
		low, known := figure.of(d, false)
		high, _ := figure.of(d, true)
		if !known || len(high.Terms) < 2 {
			continue
		}
		line := figure.name + ": " + high.Line() + " = " + high.String()
		if low.String() != high.String() {
			line = figure.name + ": " + low.Line() + " = " + low.String() + ", to " + high.Line() + " = " + high.String()
		}
		lines = append(lines, strings.ReplaceAll(line, "-", "\u2212"))
	}
	return lines
}

// String prints a term as a person writes it on paper.
func (t *Term) String() string { return strings.TrimSpace(units.Trim(t.Value, 2) + " " + t.Unit) }

// Line is a term's own terms in one line, with what they come to.
func (t *Term) Line() string {
	if len(t.Terms) == 0 || t.Op == Formula || t.Op == Table || t.Op == Fact {
		return units.Trim(t.Value, 3)
	}
	signs := map[Op]string{Sum: " + ", Share: " + ", Difference: " − ", Product: " × ", Quotient: " ÷ "}
	words := make([]string, len(t.Terms))
	for i := range t.Terms {
		words[i] = t.Terms[i].Line()
		if op := t.Terms[i].Op; len(t.Terms[i].Terms) > 1 && op != Formula && op != Table && op != Fact && op != Share &&
			(t.Op == Product || t.Op == Quotient || t.Op == Difference && i > 0) {
			words[i] = "(" + words[i] + ")"
		}
		if t.Terms[i].Op == Share {
			words[i] = units.Trim(t.Terms[i].Value, 3)
		}
	}
	if sign, plain := signs[t.Op]; plain {
		return strings.Join(words, sign)
	}
	return fmt.Sprintf("%s of %s", map[Op]string{Min: "the least", Max: "the most"}[t.Op], strings.Join(words, ", "))
}
