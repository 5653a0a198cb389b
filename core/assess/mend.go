package assess

import (
	"cmp"
	"context"
	"slices"

	"kolvan/core/finding"
	"kolvan/core/ledger"
	"kolvan/core/reference"
	"kolvan/core/rig"
	"kolvan/core/units"
)

// A Mending is a row of changes that together leave nothing dangerous and nothing blocked.
type Mending struct {
	Steps []MendingStep
	Costs float64 // more to buy than before
}

// A MendingStep is one change, made after those before it.
type MendingStep struct {
	Says   string
	Rig    *rig.Rig
	Clears []string // titles
	Brings []string // what a later step clears again
	Costs  float64  // more to buy than before it
}

// So far a mending is looked for: so many changes one after another, so many plans kept after
// each, so many tries in all, and so many mendings told.
const (
	mostSteps           = 4
	mostKept            = 6
	mendEffort   Effort = 6000
	mostMendings        = 3
)

// Mend searches for mendings, the fewest changes first and of these the cheapest: from the plan
// as it stands every change is tried that may cure what stops it, the plans that come nearest
// are kept, and from these on again. What a step brings in a later one has to clear. It ends
// with the context, whose error it returns; without anything where nothing stops the plan.
func Mend(ctx context.Context, r *rig.Rig, ref *reference.Tables, bins *Bins) (list []Mending, err error) {
	report := Rig(r, ref)
	m := &mender{ref: ref, bins: bins, before: levelsOf(report.Findings), left: mendEffort, cost: TryCost(r, len(report.Findings))}
	kept := []halfMended{{rig: r, stops: stopsOf(report.Findings)}}
	for step := 0; step < mostSteps && len(list) == 0 && kept[0].stops.harm() > 0; step++ {
		var next []halfMended
		for i := range kept {
			if err := ctx.Err(); err != nil {
				return nil, err
			}
			next = append(next, m.further(ctx, &kept[i])...)
		}
		slices.SortStableFunc(next, func(a, b halfMended) int {
			return cmp.Or(a.stops.harm()-b.stops.harm(), a.others-b.others, cmp.Compare(a.Costs, b.Costs))
		})
		kept = kept[:0]
		for i := range next {
			switch h := &next[i]; {
			case h.stops.harm() > 0 && len(kept) < mostKept && !slices.ContainsFunc(kept, func(k halfMended) bool { return h.sameAs(k.Mending) }):
				kept = append(kept, *h)
			case h.stops.harm() == 0 && h.sound && len(list) < mostMendings && !slices.ContainsFunc(list, h.sameAs):
				list = append(list, h.Mending)
			}
		}
		if len(kept) == 0 {
			break
		}
	}
	return list, ctx.Err()
}

// stops are what stops a plan, with the titles.
type stops map[place]stop

type stop struct {
	level finding.Level
	title string
}

func stopsOf(findings []finding.Finding) stops {
	all := stops{}
	for i := range findings {
		if f := &findings[i]; f.Level >= finding.Blocked {
			all[place{f.Rule, f.Where}] = stop{f.Level, f.Title}
		}
	}
	return all
}

// harm weighs what stops a plan: a danger more than what is blocked.
func (s stops) harm() (harm int) {
	for _, one := range s {
		harm += int(one.level) - int(finding.Unknown)
	}
	return harm
}

// without lists the titles of those that others do not have.
func (s stops) without(others stops) (titles []string) {
	for at, one := range s {
		if _, there := others[at]; !there && !slices.Contains(titles, one.title) {
			titles = append(titles, one.title)
		}
	}
	slices.Sort(titles)
	return titles
}

// halfMended is a plan on the way.
type halfMended struct {
	Mending
	rig    *rig.Rig
	stops  stops
	sound  bool // nothing certain has come in that the plan as it stood did not have
	others int  // changes to another card, which is what the plan is about
}

// sameAs reports a mending of the same changes, made in another order.
func (h *halfMended) sameAs(other Mending) bool {
	return !slices.ContainsFunc(h.Steps, func(s MendingStep) bool {
		return !slices.ContainsFunc(other.Steps, func(o MendingStep) bool { return o.Says == s.Says })
	})
}

type mender struct {
	ref    *reference.Tables
	bins   *Bins
	before levels // of the plan as it stands
	left   Effort
	cost   Effort
	desk   desk
}

// further makes every change to a plan that clears something of what stops it, and leaves no
// more than there was.
func (m *mender) further(ctx context.Context, h *halfMended) (next []halfMended) {
	report := Rig(h.rig, m.ref)
	g := given{h.rig, m.ref, m.bins, report.Power, report.Link, report.Chamber}
	out := finding.List{Silent: true}
	for _, source := range sources {
		if !slices.ContainsFunc(report.Findings, func(f finding.Finding) bool { return f.Level >= finding.Blocked && cures(&f, source.kind) }) {
			continue
		}
		source.each(&g, func(c candidate) bool {
			m.left -= m.cost
			if m.left <= 0 || ctx.Err() != nil {
				return false
			}
			if !c.rig.Holds() {
				return true
			}
			out.Empty()
			after := m.desk.judge(c.rig, m.ref, &out).Findings
			left := stopsOf(after)
			clears := h.stops.without(left)
			if len(clears) == 0 || left.harm() > h.stops.harm() {
				return true
			}
			next = append(next, m.step(h, &c, left, clears, after))
			return true
		})
	}
	return next
}

func (m *mender) step(h *halfMended, c *candidate, left stops, clears []string, after []finding.Finding) halfMended {
	s := MendingStep{Says: c.says, Rig: copyOf(c.rig), Clears: clears, Brings: left.without(h.stops)}
	s.Costs = units.Round(float64(ledger.Expected(c.rig)-ledger.Expected(h.rig)), units.ReportDigits)
	n := halfMended{rig: s.Rig, stops: left, others: h.others}
	if c.kind == finding.AnotherCard {
		n.others++
	}
	n.Steps = append(slices.Clone(h.Steps), s)
	n.Costs = units.Round(h.Costs+s.Costs, units.ReportDigits)
	came, some := m.before.worstNew(after)
	n.sound = !some || came < finding.Risk
	return n
}
