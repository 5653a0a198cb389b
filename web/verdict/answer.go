// Package verdict is what is said of a rig on its pages: the answer, the findings by subject, and what
// would do.
package verdict

import (
	"fmt"

	"kolvan/core/assess"
	"kolvan/core/finding"
	"kolvan/core/rig"
	"kolvan/core/units"
	"kolvan/web/phrase"
	"kolvan/web/room"
)

// Answer is the line under the stations: what one gets, the worst of it, and the one press
// that helps most. Nothing else on a page gives advice.
type Answer struct {
	Gets, Measured string // what one gets as planned; in its place what was measured
	Level, At      string // the worst's level, and its station where that is another
	Says           string // the worst, or what is next, in a sentence
	Answered       string // the reason somebody gave for it
	Graver         *graver
	Press          *changeView // clears it
	Next           *nextStep   // leads on, where nothing is there to be cleared yet
	Would          string      // what would do about it
	Look           string      // where to go for what no change clears
	LookAt         string      // the thing to choose there
	LookWords      string
}

// graver is what stands at another station and is worse than the worst on hand.
type graver struct{ Level, Label, Tag, Station string }

// AnswerOf speaks of the worst at the station on hand, or of the rig's where nothing stands
// there.
func AnswerOf(report *assess.Report, r *rig.Rig, subjects []Subject, station string) *Answer {
	a := &Answer{Gets: getsWords(report), Measured: measuredWords(r)}
	worst, here := WorstOf(subjects, ""), WorstOf(subjects, station)
	if here == nil {
		here = worst
	}
	switch {
	case len(r.Host.Slots) == 0 || here == nil && next(r, report) != nil:
		a.Next = next(r, report)
		a.Says = a.Next.Says
		return a
	case here == nil:
		a.calm(report, station)
		return a
	}
	a.Level, a.Says, a.Answered, a.Would = here.Level.String(), here.Line+".", here.Answered(), here.Would
	if here.Station != station {
		a.At = phrase.Station(here.Station)
	}
	if worst.Level > here.Level {
		a.Graver = &graver{worst.Level.String(), phrase.Station(worst.Station), worst.Tag, worst.Station}
	}
	switch {
	case a.Answered != "":
	case len(here.Changes) > 0:
		a.Press = &here.Changes[0]
	case here.Station != station:
		a.Look, a.LookAt, a.LookWords = here.Station, here.Sel, "Show what would do"
	}
	return a
}

// calm is what stands where nothing is wrong: what is still to be found out, or nothing.
func (a *Answer) calm(report *assess.Report, station string) {
	for i := range report.Findings {
		f := &report.Findings[i]
		if f.Level != finding.Unknown {
			continue
		}
		a.Level, a.Says = f.Level.String(), "not known: "+finding.Phrase(f.Title)+"."
		if at := StationOf(f); at != station {
			a.At, a.Look, a.LookAt, a.LookWords = phrase.Station(at), at, room.ThingOf(f.Where), "Find out"
		}
		return
	}
	a.Says = "Nothing is against it, as far as it was worked out. Look at every plug before power comes on."
}

// WorstOf is the worst subject of a station, of any with "": one that nobody has answered for
// before one that somebody has.
func WorstOf(subjects []Subject, station string) (worst *Subject) {
	for i := range subjects {
		s := &subjects[i]
		if s.Level < finding.Risk || station != "" && s.Station != station {
			continue
		}
		if worst == nil || graverThan(s, worst) {
			worst = s
		}
	}
	return worst
}

func graverThan(a, b *Subject) bool {
	if open, other := a.Answered() == "", b.Answered() == ""; open != other {
		return open
	}
	return a.Level > b.Level
}

// getsWords is the link that one gets, and what it carries.
func getsWords(report *assess.Report) string {
	if report.Link.None || len(report.Link.Elements) == 0 {
		return ""
	}
	words := phrase.Link(report)
	if net := report.Figures.Net; net != nil {
		words += ", " + units.Trim(*net, 1+twoBelowOne(*net)) + " GB/s each way"
	}
	return words + "."
}

func twoBelowOne(v float64) int {
	if v < 1 {
		return 1
	}
	return 0
}

// measuredWords is what the first use that was measured both ways gained.
func measuredWords(r *rig.Rig) string {
	if gain, shown := phrase.Gained(r); shown {
		return fmt.Sprintf("%.2f times as fast.", gain)
	}
	return ""
}
