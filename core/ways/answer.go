package ways

import (
	"cmp"
	"slices"
	"strings"

	"kolvan/core/assess"
	"kolvan/core/finding"
	"kolvan/core/ledger"
	"kolvan/core/rig"
	"kolvan/core/units"
)

// answer assesses what is worth telling as whole rigs, and puts it in order.
func (s *search) answer(a *Answer) error {
	works, fails := s.split()
	for i := range works {
		w, err := s.way(&works[i])
		if err != nil {
			return err
		}
		if w.Report.Stops() {
			fails = append(fails, works[i])
			continue
		}
		a.Ways = append(a.Ways, w)
	}
	measure := scaleOf(a.Ways, fails)
	for i := range a.Ways {
		a.Ways[i].Score = units.Round(a.Ways[i].merit.score(s.Weights, measure), units.ReportDigits)
	}
	slices.SortStableFunc(a.Ways, func(x, y Way) int { return cmp.Compare(y.Score, x.Score) })
	markBeaten(a.Ways)
	return s.fail(a, fails, measure)
}

// split takes apart the plans that nothing forbids, those that none beats and the
// best of the others, and the plans that fail. Plans are held against others to the
// same card: which card is to be had is for its uses to say.
func (s *search) split() (works, fails []plan) {
	var beaten []plan
	fronts := map[string]*front[plan]{}
	for _, p := range s.plans {
		if p.merit.stops > 0 {
			continue
		}
		f := fronts[p.base.Card.Name]
		if f == nil {
			f = &front[plan]{}
			fronts[p.base.Card.Name] = f
		}
		f.add(p, ofPlan)
	}
	for _, p := range s.plans {
		switch f := fronts[p.base.Card.Name]; {
		case p.merit.stops > 0:
			fails = append(fails, p)
		case slices.ContainsFunc(f.kept, func(k plan) bool { return k.merit.beats(&p.merit) }):
			beaten = append(beaten, p)
		default:
			works = append(works, p)
		}
	}
	measure := scaleOf(nil, s.plans)
	better := func(x, y plan) int {
		return cmp.Compare(y.merit.score(s.Weights, measure), x.merit.score(s.Weights, measure))
	}
	slices.SortStableFunc(beaten, better)
	beaten = s.ofEachDock(beaten)
	slices.SortStableFunc(fails, func(x, y plan) int { return cmp.Or(cmp.Compare(x.merit.stops, y.merit.stops), better(x, y)) })
	slices.SortStableFunc(works, better)
	return append(works[:min(len(works), mostUnbeaten)], beaten[:min(len(beaten), mostBeaten)]...), fails
}

// ofEachDock keeps the best plan from each slot to each dock.
func (s *search) ofEachDock(plans []plan) []plan {
	type end struct {
		base *rig.Rig
		dock int
	}
	seen := map[end]bool{}
	return slices.DeleteFunc(plans, func(p plan) bool {
		e := end{p.base, s.dockOf(&p)}
		was := seen[e]
		seen[e] = true
		return was
	})
}

// dockOf is the last stage of a plan that takes power; −1 for none.
func (s *search) dockOf(p *plan) int {
	for i := len(p.stages) - 1; i >= 0; i-- {
		if st := &s.parts.Stages[p.stages[i]]; len(st.Inlets) > 0 || st.Supply != "" {
			return p.stages[i]
		}
	}
	return -1
}

// way assesses a plan as a whole rig.
func (s *search) way(p *plan) (Way, error) {
	r := s.whole(p)
	report := assess.Rig(r, s.ref)
	w := Of(r, &report)
	patch, err := rig.PatchOf("", s.Rig, r)
	w.Patch = patch
	return w, err
}

// Of is the way that a rig goes as it stands, without a patch.
func Of(r *rig.Rig, report *assess.Report) Way {
	w := Way{
		Says: says(r), From: r.Route.Slot, Host: r.Host.Name, Card: r.Card.Name, Figures: report.Figures, Bounds: report.Bounds,
		Displaced: displaced(r),
		Stages:    names(r.Route.Stages, func(s *rig.Stage) string { return s.Name }),
		Leads:     names(r.Leads, func(l *rig.Lead) string { return l.Name }),
		Rig:       r, Report: report, merit: meritOf(r, report),
	}
	if i := report.Power.CardSupply(); i >= 0 {
		w.Supply = r.Supplies[i].Name
	}
	if level, some := report.Worst(); some && level > finding.Note {
		f := &report.Findings[0]
		w.Worst = &Worst{f.Rule, f.Level, f.Says}
	}
	cost, _ := ledger.ToBuy(r)
	low, high := float64(cost.Low), float64(cost.High)
	w.ToBuy[0] = &low
	if w.merit.open == 0 {
		w.ToBuy[1] = &high
	}
	return w
}

// meritOf is the merit of a whole rig.
func meritOf(r *rig.Rig, report *assess.Report) merit {
	var along, others []finding.Finding
	for i := range report.Findings {
		if f := &report.Findings[i]; ofLink(f) {
			along = append(along, *f)
		} else {
			others = append(others, *f)
		}
	}
	m := linkMerit(report.Link).counting(along).seen(r).with(sound().counting(others))
	m.priced(r)
	m.moved, m.fans = movedOf(r), fansOf(r)
	return m
}

// says names a way by where it begins and what it goes through.
func says(r *rig.Rig) string {
	through := "straight into it"
	if len(r.Route.Stages) > 0 {
		through = "by " + strings.Join(names(r.Route.Stages, func(s *rig.Stage) string { return s.Name }), ", ")
	}
	if r.Route.ForcedGen.Known {
		through += ", held to Gen " + units.Trim(float64(r.Route.ForcedGen.Value), 0)
	}
	return r.Route.Slot + " " + through
}

func names[T any](list []T, name func(*T) string) []string {
	all := make([]string, len(list))
	for i := range list {
		all[i] = name(&list[i])
	}
	return all
}

// displaced lists what leaves its place; what has no new place too.
func displaced(r *rig.Rig) []rig.Displaced {
	all := append([]rig.Displaced{}, r.Route.Displaced...)
	if slot := r.Slot(r.Route.Slot); len(all) < movedOf(r) && slot != nil {
		all = append(all, rig.Displaced{Occupant: slot.Occupant.Value, Home: rig.Of(rig.HomeNone)})
	}
	return all
}

// markBeaten names for each way the first that beats it, of those to the same card.
func markBeaten(ways []Way) {
	for i := range ways {
		for j := range ways {
			if ways[j].Card == ways[i].Card && ways[j].merit.beats(&ways[i].merit) {
				ways[i].BeatenBy = &j
				break
			}
		}
	}
}

// fail tells of the plans that fail and look better than the best that works, one
// for each slot and rule; of a slot that no way leads from, the best in any case.
func (s *search) fail(a *Answer, fails []plan, measure scale) error {
	best := 0.0
	served := map[string]bool{}
	for i := range a.Ways {
		best = max(best, a.Ways[i].Score)
		served[a.Ways[i].From] = true
	}
	type of struct{ from, rule string }
	told := map[of]bool{}
	for i := range fails {
		p := &fails[i]
		better := p.merit.score(s.Weights, measure) > best
		wanted := better && len(a.Failed) < mostFailed || !served[p.base.Route.Slot] || len(a.Ways) == 0 && len(a.Failed) < leastFail
		if !wanted {
			continue
		}
		w, err := s.way(p)
		if err != nil {
			return err
		}
		if w.Worst == nil || w.Worst.Level < finding.Blocked || told[of{w.From, w.Worst.Rule}] {
			continue
		}
		told[of{w.From, w.Worst.Rule}], served[w.From] = true, true
		a.Failed = append(
			a.Failed,
			Failure{
				Patch: w.Patch, Says: w.Worst.Says, Way: w.Says, Supply: w.Supply, From: w.From, Rule: w.Worst.Rule,
				Level: w.Worst.Level, Rig: w.Rig,
			},
		)
	}
	return nil
}
