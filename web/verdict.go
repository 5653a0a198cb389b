package web

import (
	"fmt"
	"hash/fnv"
	"slices"
	"strings"

	"kolvan/core/assess"
	"kolvan/core/finding"
	"kolvan/core/rig"
	"kolvan/core/units"
)

// verdictView is the verdict by cause: the findings that one change would clear
// stand together under it, those of the station on hand first, the other stations
// folded to a line each.
type verdictView struct {
	Here   []cause
	Notes  []findingView
	Others []elsewhereView
}

// cause is findings that go together: by the change that clears them, or one that
// nothing clears.
type cause struct {
	Changes  []changeView // the one that clears most first
	Findings []findingView
}

// Worst is the worst finding, which heads the cause.
func (c cause) Worst() findingView { return c.Findings[0] }

// First is the change that clears most, none where nothing does; Others are the
// other ways to clear the worst finding.
func (c cause) First() []changeView { return c.Changes[:min(1, len(c.Changes))] }

// Others are the changes beside the first.
func (c cause) Others() []changeView { return c.Changes[min(1, len(c.Changes)):] }

type changeView struct {
	finding.Change
	ID      string // its own as long as it is the same change
	Price   string // what it costs more, or less
	Worsens string // what it brings in or makes worse, less than what it clears
	First   bool   // the one that clears most
	Clears  int    // how many findings of the cause, where it is more than one
}

// elsewhereView is another station's part of the verdict, folded.
type elsewhereView struct {
	Key, Label    string
	Level, Counts string
	Title         string // of its worst finding
	Causes        []cause
	Notes         []findingView
}

// findingView is a finding with where to go for it.
type findingView struct {
	finding.Finding
	ID      string
	Station string
	Sel     string
}

// CanAcknowledge reports a finding that a person may answer for: a missing fact
// is to be found instead, a note asks for nothing.
func (f findingView) CanAcknowledge() bool {
	return f.Level == finding.Danger || f.Level == finding.Blocked || f.Level == finding.Risk
}

func verdictOf(report *assess.Report, r *rig.Rig, here string) verdictView {
	causes, notes := causesOf(report, r)
	v := verdictView{}
	for _, c := range causes {
		if c.at(here) {
			v.Here = append(v.Here, c)
		}
	}
	for _, n := range notes {
		if n.Station == here {
			v.Notes = append(v.Notes, n)
		}
	}
	for _, k := range stationKeys {
		if k.key == here || k.later {
			continue
		}
		if e := folded(k.key, k.label, here, causes, notes); e.Counts != "" {
			v.Others = append(v.Others, e)
		}
	}
	return v
}

// at reports a cause with a finding at a station.
func (c cause) at(station string) bool {
	return slices.ContainsFunc(c.Findings, func(f findingView) bool { return f.Station == station })
}

// folded is what stands at another station and not at the one on hand.
func folded(key, label, here string, causes []cause, notes []findingView) elsewhereView {
	e := elsewhereView{Key: key, Label: label}
	counts := map[finding.Level]int{}
	for _, c := range causes {
		if c.Worst().Station != key || c.at(here) {
			continue
		}
		e.Causes = append(e.Causes, c)
		for _, f := range c.Findings {
			counts[f.Level]++
		}
	}
	for _, n := range notes {
		if n.Station == key {
			e.Notes = append(e.Notes, n)
			counts[n.Level]++
		}
	}
	var words []string
	for level := finding.Danger; level >= finding.Note; level-- {
		if n := counts[level]; n > 0 {
			if e.Level == "" {
				e.Level = level.String()
			}
			words = append(words, countOf(n, level))
		}
	}
	e.Counts = strings.Join(words, ", ")
	if len(e.Causes) > 0 {
		e.Title = e.Causes[0].Worst().Title
	}
	return e
}

func countOf(n int, level finding.Level) string {
	switch level {
	case finding.Blocked:
		return fmt.Sprintf("%d blocked", n)
	case finding.Unknown:
		return fmt.Sprintf("%d unknown", n)
	default:
		return plural(n, level.String())
	}
}

// causesOf gathers findings under the change that clears most of them, the worst
// first; missing facts stand among the questions, notes apart.
func causesOf(report *assess.Report, r *rig.Rig) (causes []cause, notes []findingView) {
	var open []findingView
	for i := range report.Findings {
		f := report.Findings[i]
		v := findingView{Finding: f, ID: fmt.Sprintf("finding-%d", i), Station: stationOf(&f), Sel: thingOf(f.Where)}
		switch f.Level {
		case finding.Unknown:
		case finding.Note:
			notes = append(notes, v)
		default:
			open = append(open, v)
		}
	}
	for len(open) > 0 {
		c := causeOf(open, r.Brief.Currency)
		causes = append(causes, c)
		open = slices.DeleteFunc(open, func(f findingView) bool {
			return slices.ContainsFunc(c.Findings, func(g findingView) bool { return g.ID == f.ID })
		})
	}
	return causes, notes
}

// causeOf is the worst finding left, with those that the change clearing most
// beside it clears too; of such the one that makes least worse.
func causeOf(open []findingView, currency string) cause {
	first := open[0]
	clears := func(f *findingView, patch string) bool {
		return slices.ContainsFunc(f.Clear, func(c finding.Change) bool { return string(c.Patch) == patch })
	}
	best, most := -1, 0
	for i, change := range first.Clear {
		n := 0
		for j := range open {
			if clears(&open[j], string(change.Patch)) {
				n++
			}
		}
		if n > most || n == most && len(change.Worsens) < len(first.Clear[best].Worsens) {
			best, most = i, n
		}
	}
	c := cause{Findings: []findingView{first}}
	if best < 0 {
		return c
	}
	patch := string(first.Clear[best].Patch)
	for j := range open[1:] {
		if clears(&open[1+j], patch) {
			c.Findings = append(c.Findings, open[1+j])
		}
	}
	top := viewOf(first.Clear[best], currency)
	if top.First = true; len(c.Findings) > 1 {
		top.Clears = len(c.Findings)
	}
	c.Changes = append(c.Changes, top)
	for i, change := range first.Clear {
		if i != best {
			c.Changes = append(c.Changes, viewOf(change, currency))
		}
	}
	return c
}

func viewOf(change finding.Change, currency string) changeView {
	sum := fnv.New64a()
	sum.Write(change.Patch)
	v := changeView{Change: change, ID: fmt.Sprintf("fix-%x", sum.Sum64())}
	switch price := units.Money(change.Costs); {
	case price > 0:
		v.Price = strings.TrimSpace(price.String()+" "+currency) + " more to buy"
	case price < 0:
		v.Price = strings.TrimSpace((-price).String()+" "+currency) + " less to buy"
	}
	if len(change.Worsens) > 0 {
		v.Worsens = "worse then: " + strings.Join(change.Worsens, "; ")
	}
	return v
}
