package assembly

import (
	"fmt"
	"net/url"
	"slices"
	"strconv"
	"strings"

	"kolvan/core/assess"
	"kolvan/core/bringup"
	"kolvan/core/finding"
	"kolvan/core/rig"
	"kolvan/web/phrase"
	"kolvan/web/room"
)

// AskView is the page to ask others with: the rig, what was tried, what that excludes, and
// the one question.
type AskView struct {
	Title string
	Text  string
	Back  string
	Page  string // the same, with the rig in it
}

// AskText is plain text to paste anywhere.
func AskText(r *rig.Rig, report *assess.Report, cat *bringup.Catalogue, s *bringup.Search) string {
	var b strings.Builder
	fmt.Fprintf(&b, "A graphics card on a %s\n\nThe rig\n", phrase.Or(rig.Spoken(r.Host.Kind.Value), "small host"))
	fmt.Fprintf(&b, "- slot: %s\n", slotText(r))
	for i := range r.Route.Stages {
		stage := &r.Route.Stages[i]
		fmt.Fprintf(&b, "- %s: x%s, Gen %s\n", phrase.Or(rig.Spoken(stage.Kind.Value), "stage"), factText(stage.Lanes), factText(stage.Gen))
	}
	fmt.Fprintf(
		&b, "- card: %s lanes, Gen %s, %s\n", factText(r.Card.Lanes), factText(r.Card.Gen),
		phrase.Or(wattText(r), "board power not known"),
	)
	fmt.Fprintf(&b, "- planned: %s\n", phrase.Link(report))
	if len(r.Build.Tries) > 0 {
		fmt.Fprintf(&b, "\nTried\n")
		for i := range r.Build.Tries {
			t := &r.Build.Tries[i]
			if k := cat.Test(t.Test); k >= 0 {
				fmt.Fprintf(&b, "- %s %s.\n", cat.Tests[k].Do, finding.Begin(OutcomeOf(&cat.Tests[k], t.Outcome)))
			}
		}
	}
	fmt.Fprintf(&b, "\nThat leaves\n")
	for i := range s.Suspects[:min(5, len(s.Suspects))] {
		fmt.Fprintf(&b, "- %s (%.0f %%)\n", s.Suspects[i].Says, 100*s.Suspects[i].Weight)
	}
	var out []string
	for i := range s.Suspects {
		if s.Suspects[i].Weight < 0.005 && !strings.Contains(s.Suspects[i].Fault, "+") {
			out = append(out, s.Suspects[i].Says)
		}
	}
	if out != nil && len(s.Seen) > 0 {
		fmt.Fprintf(&b, "\nAs good as excluded: %s.\n", strings.Join(out, "; "))
	}
	switch {
	case s.Next != nil:
		fmt.Fprintf(
			&b, "\nThe question: who has done this on a rig like it, and what did it show? %s (It can show: %s.)\n", s.Next.Do,
			strings.Join(outcomesOf(cat, s.Next.Test), "; "),
		)
	case s.Stop != nil:
		fmt.Fprintf(&b, "\nThe question: %s Who can part them?\n", s.Stop.Says)
	}
	return b.String()
}

func outcomesOf(cat *bringup.Catalogue, test string) (list []string) {
	t := &cat.Tests[cat.Test(test)]
	for _, o := range t.Outcomes {
		list = append(list, OutcomeOf(t, o))
	}
	return list
}

func slotText(r *rig.Rig) string {
	slot := r.Slot(r.Route.Slot)
	if slot == nil {
		return "not chosen"
	}
	return fmt.Sprintf("%s %s, x%s, Gen %s", rig.Spoken(slot.Form.Value), slot.Key.Value, factText(slot.Lanes), factText(slot.Gen))
}

func factText[T any](f rig.Fact[T]) string {
	if !f.Known {
		return "not known"
	}
	return fmt.Sprint(f.Value)
}

func wattText(r *rig.Rig) string {
	if !r.Card.Power.Known {
		return ""
	}
	return r.Card.Power.Value.String()
}

// PracticeView is a hunt for a hidden fault: all of it stands in the address, nothing is
// kept.
type PracticeView struct {
	Rig     string
	ID      int64
	Seed    uint64
	Done    []practiceTry
	Tests   []practiceTest
	Minutes string
	Guesses []room.Option
	Over    bool
	Right   bool
	Was     string
	Mend    string
	Finder  []practiceTry
	FinderM string
	Another string
}

type practiceTry struct{ Do, Saw string }

type practiceTest struct{ Name, Do, Minutes, Address string }

// Play does the tests that were chosen, and lists those that are left.
func (v *PracticeView) Play(p *bringup.Practice, cat *bringup.Catalogue, chosen []string) (done []string) {
	minutes := 0.0
	for _, name := range chosen {
		if !p.Has(name) || slices.Contains(done, name) {
			continue
		}
		t := &cat.Tests[cat.Test(name)]
		done, minutes = append(done, name), minutes+t.Minutes
		v.Done = append(v.Done, practiceTry{t.Do, OutcomeOf(t, p.Shows(name))})
	}
	v.Minutes = minutesOf(minutes)
	for _, t := range p.Finder.Tests() {
		if !slices.Contains(done, t.Name) {
			with := url.Values{"seed": {strconv.FormatUint(v.Seed, 10)}, "do": {strings.Join(append(slices.Clone(done), t.Name), " ")}}
			v.Tests = append(
				v.Tests, practiceTest{t.Name, t.Do, minutesOf(t.Minutes), fmt.Sprintf("/rigs/%d/practice?%s", v.ID, with.Encode())},
			)
		}
	}
	for _, f := range p.Faults() {
		v.Guesses = append(v.Guesses, room.Option{Value: f.Name, Label: f.Says, On: false})
	}
	return done
}

// End shows what it was, and how the finder would have found it.
func (v *PracticeView) End(p *bringup.Practice, cat *bringup.Catalogue, guess string) {
	v.Over, v.Right, v.Was, v.Mend = true, guess == p.Fault.Name, p.Fault.Says, p.Fault.Mend
	minutes := 0.0
	for _, s := range p.Solve() {
		t := &cat.Tests[cat.Test(s.Test)]
		minutes += t.Minutes
		v.Finder = append(v.Finder, practiceTry{t.Do, OutcomeOf(t, s.Outcome)})
	}
	v.FinderM = minutesOf(minutes)
}
