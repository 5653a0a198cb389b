package verdict

import (
	"fmt"
	"hash/fnv"
	"strings"

	"kolvan/core/assess"
	"kolvan/core/finding"
	"kolvan/core/rig"
	"kolvan/core/units"
	"kolvan/web/phrase"
)

// KindOf says what stands at a place of a rig.
func KindOf(path string) string { return rig.Called(&rig.Rig{}, path) }

// nextStep is the next thing to do on a rig that is not whole yet.
type nextStep struct {
	Says    string
	Station string
	Sel     string
	Kind    string // opens the parts dialog for that kind
	Add     string // adds to that list
}

func next(r *rig.Rig, report *assess.Report) *nextStep {
	switch {
	case len(r.Host.Slots) == 0:
		return &nextStep{Says: "Add the slots the host has, seen with the cover off.", Station: "survey", Sel: "/host", Add: "/host/slots"}
	case !report.Chamber.Open() && !r.Chamber.Box.X.Known && !r.Chamber.Takes.Length.Known:
		return &nextStep{Says: "Measure the room the card stands in, or say that it stands in the open.", Station: "fit", Sel: "/chamber"}
	default:
		return nil
	}
}

// StationOf is the station a finding belongs to: facts of the host are asked for
// at the survey, the rest where the rule's family is worked on.
func StationOf(f *finding.Finding) string {
	if f.Level == finding.Unknown && rig.Within(f.Where, "/host") {
		return string(finding.Survey)
	}
	return string(f.Row().Station)
}

// VerdictWords is the verdict in a few words, and its level.
func VerdictWords(report *assess.Report) (text, level string) {
	worst, some := report.Worst()
	if !some {
		return "nothing against it", ""
	}
	return map[finding.Level]string{
		finding.Danger: "stop before power-on", finding.Blocked: "does not work as planned", finding.Unknown: "facts are missing",
		finding.Risk: "may disappoint", finding.Note: "goes as planned",
	}[worst], worst.String()
}

// View is the verdict by subject: that of the station on hand, the other stations
// folded to a line each.
type View struct {
	Here   []Subject
	Notes  []Subject
	Others []elsewhereView
}

type changeView struct {
	finding.Change
	ID      string // its own as long as it is the same change
	Price   string // what it costs more, or less
	Worsens string // what it brings in or makes worse, less than what it clears
	First   bool   // the one that clears most
	Clears  int    // how many findings of the rig
}

// takesCard is 1 for a change to another card, which gives up what the plan is about.
func (v changeView) takesCard() int {
	if strings.Contains(string(v.Patch), `"/card"`) {
		return 1
	}
	return 0
}

// Heads is the change in a few words: without what kind of plug it is, and what it brings.
func (v changeView) Heads() string {
	text, _, _ := strings.Cut(v.Change.Change, ": ")
	text, _, _ = strings.Cut(text, ", a ")
	text, _, _ = strings.Cut(text, ", giving up")
	return text
}

// Rest is what the change brings, or what it gives up, and what it costs, in a line.
func (v changeView) Rest() string {
	_, rest, _ := strings.Cut(v.Change.Change, ": ")
	if _, gives, givesUp := strings.Cut(v.Change.Change, ", giving up"); givesUp {
		rest = "giving up" + gives
	}
	var parts []string
	for _, part := range []string{rest, v.Price, v.Worsens} {
		if part != "" {
			parts = append(parts, part)
		}
	}
	if v.Clears > 1 {
		parts = append(parts, fmt.Sprintf("clears %d findings", v.Clears))
	}
	return finding.Begin(strings.Join(parts, "; "))
}

// elsewhereView is another station's part of the verdict, folded.
type elsewhereView struct {
	Key, Label    string
	Level, Counts string
	Title         string // its worst, in two or three words
	Subjects      []Subject
	Notes         []Subject
}

// Of parts the subjects by their stations, in the order of the work.
func Of(subjects []Subject, here string, stations []string) View {
	v := View{}
	for _, key := range stations {
		var open, notes []Subject
		for _, s := range subjects {
			switch {
			case s.Station != key:
			case s.Level == finding.Note:
				notes = append(notes, s)
			default:
				open = append(open, s)
			}
		}
		if key == here {
			v.Here, v.Notes = open, notes
		} else if len(open)+len(notes) > 0 {
			v.Others = append(v.Others, folded(key, open, notes))
		}
	}
	return v
}

// folded is another station's part in a line.
func folded(key string, open, notes []Subject) elsewhereView {
	e := elsewhereView{Key: key, Label: phrase.Station(key), Subjects: open, Notes: notes}
	counts := map[finding.Level]int{finding.Note: len(notes)}
	for _, s := range open {
		counts[s.Level]++
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
	if len(open) > 0 {
		e.Title = open[0].Tag
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
		return phrase.Plural(n, level.String())
	}
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
