package web

import (
	"fmt"
	"hash/fnv"
	"strings"

	"kolvan/core/finding"
	"kolvan/core/units"
)

// verdictView is the verdict by subject: that of the station on hand, the other stations
// folded to a line each.
type verdictView struct {
	Here   []subject
	Notes  []subject
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
	Subjects      []subject
	Notes         []subject
}

// verdictOf parts the subjects by their stations, in the order of the work.
func verdictOf(subjects []subject, here string, stations []string) verdictView {
	v := verdictView{}
	for _, key := range stations {
		var open, notes []subject
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
func folded(key string, open, notes []subject) elsewhereView {
	e := elsewhereView{Key: key, Label: labelOf(key), Subjects: open, Notes: notes}
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
		return plural(n, level.String())
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
