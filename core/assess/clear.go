package assess

import (
	"context"
	"runtime"
	"slices"

	"kolvan/core/finding"
	"kolvan/core/ledger"
	"kolvan/core/reference"
	"kolvan/core/rig"
	"kolvan/core/units"
)

// Bins are the parts at hand: changes are tried with them.
type Bins struct {
	Hosts    []rig.Host
	Stages   []rig.Stage
	Cards    []rig.Card
	Supplies []rig.Supply
	Leads    []rig.Lead
}

// A candidate is one change that might clear something: the rig with the change
// made, and the change in words.
type candidate struct {
	says   string
	kind   finding.Cure
	lead   int // the lead that another outlet feeds
	supply int // the supply that comes
	rig    *rig.Rig
	after  Report // what is found with the change made

	patch   []byte // made when first wanted
	costs   float64
	worsens []string // titles of what it brings in or makes worse
}

// So many changes are offered for one finding, and so many of one kind.
const (
	mostChanges = 3
	mostOfAKind = 2
)

// Effort bounds a search for changes. A try of an ordinary rig costs one; of a
// rig with very many parts, more, so that the time of a search is bounded too.
type Effort int

// UsualEffort finds all there is to find for an ordinary rig.
const UsualEffort Effort = 1200

// TryCost is the cost of trying one change of a rig, in efforts: judging takes
// time by the ends of its leads, its sockets, and what was found.
func TryCost(r *rig.Rig, findings int) Effort {
	weight := findings + 2*len(r.Chamber.Things) + 2*len(r.Chamber.Covers)
	for i := range r.Leads {
		weight += 2*(len(r.Leads[i].From)+len(r.Leads[i].To)) + len(r.Leads[i].Wires)/4
	}
	for i := range r.Supplies {
		weight += 1 + len(r.Supplies[i].Outlets)/4
	}
	return Effort(1 + weight*weight/4000)
}

// Clear fills in, for every finding of the report that is more than a note, the
// changes that clear it. Each change is tried on a copy of the rig and kept only
// when the finding is gone and nothing as bad, or worse, has come in. The search
// makes one change at a time and ends with the effort or with the context, whose
// error it returns; the report's Untried says when more could be tried.
func Clear(ctx context.Context, report *Report, r *rig.Rig, ref *reference.Tables, bins *Bins, effort Effort) error {
	s := &search{given: given{r, ref, bins, report.Power, report.Link, report.Chamber}, findings: report.Findings,
		before:  levelsOf(report.Findings),
		offered: make([][finding.AllCures]int, len(report.Findings)), cost: TryCost(r, len(report.Findings)), out: finding.List{Silent: true}}
	for i, source := range sources {
		// Each source has its share of what is left, so that one with very many
		// changes keeps none of the others from being tried.
		s.left = effort / Effort(len(sources)-i)
		effort -= s.left
		if !s.wants(source.kind) {
			effort += s.left
			continue
		}
		source.each(&s.given, func(c candidate) bool { return s.goesOn(ctx, &c) })
		effort += max(0, s.left)
		if s.err != nil {
			return s.err
		}
	}
	report.Untried = s.untried
	return nil
}

// A search tries changes one after another.
type search struct {
	given
	findings []finding.Finding
	before   levels
	offered  [][finding.AllCures]int // to each finding, by kind
	desk     desk                    // where the changes are judged
	out      finding.List            // what is found there
	cost     Effort                  // of one try
	left     Effort                  // for the source on hand
	untried  bool                    // effort ended before the changes did
	err      error
}

// goesOn tries a change and tells whether another may be tried.
func (s *search) goesOn(ctx context.Context, c *candidate) bool {
	if s.err = ctx.Err(); s.err != nil || !s.wants(c.kind) {
		return false
	}
	if s.left <= 0 {
		s.untried = true
		return false
	}
	s.left -= s.cost
	runtime.Gosched() // a search may take long: whoever waits for less goes first
	s.err = s.try(c)
	return s.err == nil
}

// wants reports a finding that has not enough changes of the kind yet.
func (s *search) wants(k finding.Cure) bool {
	for i := range s.findings {
		if s.wantsFor(i, k) {
			return true
		}
	}
	return false
}

func (s *search) wantsFor(i int, k finding.Cure) bool {
	f := &s.findings[i]
	return len(f.Clear) < mostChanges && s.offered[i][k] < mostOfAKind && cures(f, k)
}

// try makes the change on its copy and offers it to every finding it clears.
func (s *search) try(c *candidate) error {
	if !c.rig.Holds() {
		return nil
	}
	s.out.Empty()
	c.after = s.desk.judge(c.rig, s.ref, &s.out)
	came, some := s.before.worstNew(c.after.Findings)
	after := levels(nil)
	for i := range s.findings {
		f := &s.findings[i]
		if !s.wantsFor(i, c.kind) || some && (came >= f.Level || came >= finding.Unknown) {
			continue
		}
		if after == nil {
			after = levelsOf(c.after.Findings)
		}
		if !s.before.cleared(f, after) {
			continue
		}
		if err := c.finish(s); err != nil {
			return err
		}
		s.offered[i][c.kind]++
		f.Clear = append(
			f.Clear,
			finding.Change{Change: c.says + c.figureWords(s.ref, f.Rule), Patch: c.patch, Costs: c.costs, Worsens: c.worsens},
		)
	}
	return nil
}

// cures keeps senseless offers away, by the rule's row: another card is no cure for a slow
// slot, and a new supply none for a slot. A note asks for nothing, and a missing fact is to
// be found.
func cures(f *finding.Finding, k finding.Cure) bool {
	return f.Level != finding.Note && f.Level != finding.Unknown && slices.Contains(f.Row().Cures, k)
}

// place is a rule at a place of the rig; where is empty for the rule anywhere.
type place struct{ rule, where string }

// levels holds how bad each rule is at each place, and how often a rule fires at
// each level anywhere.
type levels map[place]*level

type level struct {
	worst  finding.Level
	counts [finding.Danger + 1]int
	bad    float64 // how bad the worst figure is; larger is worse
}

// worseBy is how much worse a figure may get by rounding alone.
const worseBy = 1e-6

func levelsOf(findings []finding.Finding) levels {
	all := make(levels, 2*len(findings))
	for i := range findings {
		f := &findings[i]
		for _, p := range []place{{f.Rule, f.Where}, {f.Rule, ""}} {
			l := all[p]
			if l == nil {
				l = &level{bad: f.Bad()}
				all[p] = l
			}
			l.bad = max(l.bad, f.Bad())
			l.worst = max(l.worst, f.Level)
			l.counts[f.Level]++
		}
	}
	return all
}

// worstNew is the worst level among findings that are new.
func (before levels) worstNew(after []finding.Finding) (worst finding.Level, some bool) {
	before.eachNew(after, func(a *finding.Finding) { worst, some = max(worst, a.Level), true })
	return worst, some
}

// eachNew visits the findings that were not there before, or not as bad, or with a better
// figure. A step to take in its time is none of them, nor is a question that was asked of
// another place before.
func (before levels) eachNew(after []finding.Finding, visit func(*finding.Finding)) {
	asked := map[string]int(nil)
	for i := range after {
		a := &after[i]
		if a.Level == finding.Unknown {
			if asked == nil {
				asked = map[string]int{}
			}
			asked[a.Rule]++
			if l := before[place{a.Rule, ""}]; a.Row().Step || l != nil && asked[a.Rule] <= l.counts[finding.Unknown] {
				continue
			}
		}
		if l := before[place{a.Rule, a.Where}]; l != nil && l.worst >= a.Level && a.Bad() <= l.bad+worseBy {
			continue
		}
		visit(a)
	}
}

// cleared reports that the finding is gone, and has not come back at another
// place.
func (before levels) cleared(f *finding.Finding, after levels) bool {
	if after[place{f.Rule, f.Where}] != nil {
		return false
	}
	return after.countOf(f) == 0 || after.countOf(f) < before.countOf(f)
}

// countOf counts the findings of f's rule that are as bad as f.
func (l levels) countOf(f *finding.Finding) (n int) {
	if at := l[place{f.Rule, ""}]; at != nil {
		for _, count := range at.counts[f.Level:] {
			n += count
		}
	}
	return n
}

// finish makes the patch and the new figures of a change that is offered, and what it
// brings in that is less than what it clears.
func (c *candidate) finish(s *search) (err error) {
	if c.patch != nil {
		return nil
	}
	s.before.eachNew(c.after.Findings, func(a *finding.Finding) {
		if !a.Row().Step && !slices.Contains(c.worsens, a.Title) {
			c.worsens = append(c.worsens, a.Title)
		}
	})
	c.after.Figures = figures(c.rig, &c.after)
	c.costs = units.Round(float64(ledger.Expected(c.rig)-ledger.Expected(s.rig)), units.ReportDigits)
	c.patch, err = rig.PatchOf("", s.rig, c.rig)
	return err
}
