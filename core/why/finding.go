package why

import (
	"math"
	"slices"
	"strings"

	"kolvan/core/assess"
	"kolvan/core/finding"
)

// rules are those that speak of the rig; RULE@PATH where one does more than once.
func (d *desk) rules() (keys []string) {
	for i := range d.report.Findings {
		f := &d.report.Findings[i]
		if f.Level == finding.Unknown {
			continue
		}
		key := f.Rule
		if d.times(f.Rule) > 1 {
			key += "@" + f.Where
		}
		if !slices.Contains(keys, key) {
			keys = append(keys, key)
		}
	}
	return keys
}

func (d *desk) times(rule string) (n int) {
	for i := range d.report.Findings {
		if f := &d.report.Findings[i]; f.Rule == rule && f.Level != finding.Unknown {
			n++
		}
	}
	return n
}

// finding is the one that a rule, or RULE@PATH, asks for; nil for none.
func (d *desk) finding(asked string) *finding.Finding {
	rule, where, _ := strings.Cut(asked, "@")
	for i := range d.report.Findings {
		if f := &d.report.Findings[i]; f.Rule == rule && (where == "" || f.Where == where) && f.Level != finding.Unknown {
			return f
		}
	}
	return nil
}

// opened is what a rule says: its first figure, of the others beside it, of the plan's own
// sums where they are the same.
func (d *desk) opened(asked string, f *finding.Finding) *Tree {
	t := &Tree{Format: Format, Figure: asked, Name: f.Title, At: f.Where, Op: Formula, Formula: "It speaks when " + f.Row().Fires + "."}
	t.Threshold = &Threshold{Rule: f.Rule, Level: f.Level.String(), Why: f.Says}
	if len(f.Numbers) == 0 {
		return t
	}
	first := f.Numbers[0]
	t.Name, t.Unit = spoken(first.Name)+": "+finding.Phrase(f.Title), unitOf(first.Name)
	t.Value = rounded(first.Value)
	if limit, some := limitOf(f); some {
		t.Threshold.Value, t.Threshold.Unit = rounded(limit.Value), unitOf(limit.Name)
	}
	t.Op, t.Terms = d.madeOf(f)
	return t
}

// limits are the beginnings of the names of figures that another is held against.
var limits = []string{"limit", "rating", "carries", "budget", "rides", "allows", "plan", "has", "gives", "most", "tolerance"}

// limitOf is the figure a finding's first is held against: of its unit, by its name.
func limitOf(f *finding.Finding) (finding.Number, bool) {
	unit := unitOf(f.Numbers[0].Name)
	for _, n := range f.Numbers[1:] {
		if unitOf(n.Name) == unit && slices.ContainsFunc(limits, func(word string) bool { return strings.HasPrefix(n.Name, word) }) {
			return n, true
		}
	}
	return finding.Number{}, false
}

// madeOf are the terms of a finding's first figure: a quotient or a difference of two beside
// it, the plan's own sum of the same watts, or the figures beside it as they are.
func (d *desk) madeOf(f *finding.Finding) (Op, []Term) {
	is := f.Numbers[0].Value
	if sum, same := d.sumOf(f.Numbers[0]); same {
		return sum.Op, sum.Terms
	}
	for _, op := range []Op{Quotient, Difference} {
		for i := 1; i < len(f.Numbers); i++ {
			for j := 1; j < len(f.Numbers); j++ {
				terms := []Term{d.number(f, i), d.number(f, j)}
				if i != j && math.Abs(join(op, "", "", "", terms...).Value-is) < 1e-9*math.Max(1, math.Abs(is)) && terms[1].Value != 0 {
					return op, terms
				}
			}
		}
	}
	terms := []Term{}
	for i := 1; i < len(f.Numbers); i++ {
		terms = append(terms, d.number(f, i))
	}
	return Formula, terms
}

// number is a figure beside a finding's first, opened where the plan has its sum.
func (d *desk) number(f *finding.Finding, i int) Term {
	n := f.Numbers[i]
	t := Term{Name: spoken(n.Name), Unit: unitOf(n.Name), Value: n.Value, Op: Formula, At: f.Where, Trust: "worked out"}
	if sum, same := d.sumOf(n); same {
		sum.Name = t.Name
		return sum
	}
	return t
}

// sumOf is the plan's own sum of just these watts: through the slot, along a lead, of a supply.
func (d *desk) sumOf(n finding.Number) (Term, bool) {
	if unitOf(n.Name) != "W" || n.Value == 0 {
		return Term{}, false
	}
	if t, is := d.slotOf(n.Value); is {
		return t, true
	}
	for i := range d.report.Power.Leads {
		for _, high := range []bool{false, true} {
			if t := d.along(i, high); math.Abs(t.Value-n.Value) < 1e-6 {
				return t, true
			}
		}
	}
	for i := range d.report.Power.Supplies {
		for _, high := range []bool{false, true} {
			if t, known := sustained(i)(d, high); known && math.Abs(t.Value-n.Value) < 1e-6 {
				return t, true
			}
		}
	}
	return Term{}, false
}

// slotOf is what the card takes through its slot at 12 V, where that is just these watts.
func (d *desk) slotOf(watts float64) (Term, bool) {
	slot, most := &d.report.Power.Slot, float64(d.ref.Slot12V)
	if math.Abs(float64(slot.At12.High)-watts) > 1e-6 && math.Abs(float64(slot.At12.Low)-watts) > 1e-6 {
		return Term{}, false
	}
	board := d.told("/card/power_w")
	board.Name = "board power of the card"
	t := join(Min, "through the slot at 12 V", "W", "All the card takes, but no more than the standard lets a slot give.", board,
		row("what a card may take through a slot at 12 V", "W", most, "S", "the card standard: 5.5 A"))
	return t, math.Abs(t.Value-watts) < 1e-6 // a cap may hold the card below it
}

// spoken is a figure's name as words, without its unit.
func spoken(name string) string {
	if i := strings.LastIndex(name, "_"); i > 0 && unitOf(name) != "" {
		name = strings.TrimSuffix(strings.TrimSuffix(name, "_s"), name[strings.LastIndex(strings.TrimSuffix(name, "_s"), "_"):])
	}
	return strings.ReplaceAll(name, "_", " ")
}

// unitsByEnd are the units that the names of figures end in.
var unitsByEnd = []struct{ end, unit string }{
	{"_gb_s", "GB/s"}, {"_m3_h", "m³/h"}, {"_w", "W"}, {"_v", "V"}, {"_a", "A"}, {"_mm", "mm"}, {"_db", "dB"}, {"_ms", "ms"}, {"_gib", "GiB"},
	{"_hz", "Hz"}, {"_g", "g"}, {"_c", "°C"}, {"_k", "K"}, {"_deg", "°"}, {"_s", "s"}, {"_n", "N"}, {"_min", "min"},
}

func unitOf(name string) string {
	for _, u := range unitsByEnd {
		if strings.HasSuffix(name, u.end) {
			return u.unit
		}
	}
	return ""
}

// facts are the facts of the rig on which a finding's first figure, or whether it is there,
// hangs: each is moved a little, and the rig judged again.
func (d *desk) facts(f *finding.Finding) []Weight {
	judge := assess.Silently(d.ref)
	was := 0.0
	if len(f.Numbers) > 0 {
		was = f.Numbers[0].Value
	}
	list := d.moved(func(m *moved) float64 {
		if m.open {
			return 0
		}
		for _, now := range judge(m.rig) {
			if now.Rule == f.Rule && now.Where == f.Where && now.Level != finding.Unknown {
				if len(now.Numbers) == 0 {
					return 0
				}
				return math.Abs(now.Numbers[0].Value - was)
			}
		}
		return math.Abs(was) * nudge // it is gone: it hangs on this
	})
	return heaviest(list, 0)
}
