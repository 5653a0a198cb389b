package finding_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"kolvan/core/finding"
	"kolvan/core/units"
)

// spoken is a finding of a row at a level with figures, and what it says.
func spoken(row finding.Rule, level finding.Level, says string, numbers ...finding.Number) *finding.Finding {
	var l finding.List
	l.Add(&row, level, "/leads/0", numbers, "%s", says)
	return &l.Findings[0]
}

// TestSpeakerFillsInFigures: with their units, without, as a share, as what the plan wants, with
// the sign turned; the first text whose figures are all there.
func TestSpeakerFillsInFigures(t *testing.T) {
	s := finding.Speaker{Thing: "disk lead to the dock", Short: "disk lead", Plan: 0.8}
	row := finding.Rule{
		Title: "Too much",
		Line:  "{thing} carries {load_a#} of its {limit_a}|{thing} carries {load_w}",
		Tag:   "{thing} {load_a/limit_a}",
		Would: "a supply of {load_w:plan} or more",
	}
	f := spoken(
		row,
		finding.Danger,
		"long",
		finding.Number{Name: "load_w", Value: 76.35},
		finding.Number{Name: "load_a", Value: 6.3625},
		finding.Number{Name: "limit_a", Value: 4.5},
	)
	assert.Equal(
		t,
		[]string{"disk lead to the dock carries 6.4 of its 4.5 A", "disk lead 141 %", "a supply of 95 W or more"},
		[]string{s.Line(f), s.Tag(f), s.Would(f)},
	)
	f = spoken(row, finding.Danger, "long", finding.Number{Name: "load_w", Value: 7.31})
	assert.Equal(t, "disk lead to the dock carries 7.3 W", s.Line(f), "the amps are not told")
	assert.Equal(t, "too much", s.Tag(f), "its title, where a figure is missing")
	s.Plan = 0
	assert.Empty(t, s.Would(f), "no plan is told")

	gap := finding.Rule{Title: "Meets", Line: "by {-gap_mm}", Tag: "{share}; {band_ms}; {x_gb_s}; {p_c}; {t_min}"}
	f = spoken(
		gap,
		finding.Blocked,
		"",
		finding.Number{Name: "gap_mm", Value: -3},
		finding.Number{Name: "share", Value: 0.933},
		finding.Number{Name: "band_ms", Value: 0.1},
		finding.Number{Name: "x_gb_s", Value: 3.217},
		finding.Number{Name: "p_c", Value: 56},
		finding.Number{Name: "t_min", Value: 12},
	)
	assert.Equal(t, "by 3 mm", s.Line(f))
	assert.Equal(t, "93 %; 0.1 ms; 3.22 GB/s; 56 °C; 12 min", s.Tag(f))
	s.Long = func(l units.Millimetre) string { return l.Inches() }
	assert.Equal(t, "by 0.12 in", s.Line(f))
	f = spoken(gap, finding.Blocked, "It clears. More", finding.Number{Name: "gap_mm", Value: 3})
	assert.Equal(t, "It clears", s.Line(f), "nothing is below zero: its own first sentence")

	over := finding.Rule{Title: "Card", Tag: "{a/b}"}
	at := func(a, b float64) string {
		return s.Tag(spoken(over, finding.Danger, "", finding.Number{Name: "a", Value: a}, finding.Number{Name: "b", Value: b}))
	}
	assert.Equal(
		t,
		[]string{"101 %", "100 %", "99 %", "card"},
		[]string{at(226, 225), at(225, 225), at(99.4, 100), at(5, 0)},
		"what is over never reads as just at it",
	)
}

// TestSpeakerWithoutALine: a short sentence serves, a long one does not; what is only asked
// never reads as what is so.
func TestSpeakerWithoutALine(t *testing.T) {
	s := finding.Speaker{Thing: "it"}
	row := finding.Rule{Title: "Nothing feeds it", Tag: "{thing}", Would: "a lead"}
	assert.Equal(t, "Card plug A has no feed", s.Line(spoken(row, finding.Blocked, "Card plug A has no feed.")))
	long := "it is said at such length, with so many words and figures and cautions, that nobody reads it at a glance"
	assert.Equal(t, "nothing feeds it", s.Line(spoken(row, finding.Blocked, long+".")))
	asked := spoken(row, finding.Unknown, "Not known: the feed.")
	assert.Equal(t, []string{"nothing feeds it", "nothing feeds it", ""}, []string{s.Line(asked), s.Tag(asked), s.Would(asked)})
}
