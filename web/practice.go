package web

import (
	"fmt"
	"net/url"
	"slices"
	"strconv"
	"strings"

	"github.com/gofiber/fiber/v3"

	"kolvan/core/assess"
	"kolvan/core/bringup"
	"kolvan/core/carry"
	"kolvan/core/finding"
	"kolvan/core/rig"
)

// askView is the page to ask others with: the rig, what was tried, what that excludes, and
// the one question.
type askView struct {
	Title string
	Text  string
	Back  string
	Page  string // the same, with the rig in it
}

// askOthers writes the page: names and prices stay out of it.
func (a *App) askOthers(c fiber.Ctx) error {
	l, text, err := a.asking(c)
	if err != nil {
		return err
	}
	at := fmt.Sprintf("/rigs/%d/", l.ID)
	return a.page(c, "ask", fiber.Map{"Title": "Ask others", "Ask": askView{"Ask others", text, at + "assembly?sel=" + faultSel, at + "ask.html"}})
}

// askPage is the same as a page of its own, with the rig in it: without prices and names.
func (a *App) askPage(c fiber.Ctx) error {
	l, text, err := a.asking(c)
	if err != nil {
		return err
	}
	plain, err := carry.Unnamed(l.rig)
	if err != nil {
		return err
	}
	inside, err := within(plain, []string{carry.Costs, carry.Names, "diary"})
	if err != nil {
		return err
	}
	c.Attachment(fileName(l.rig.Name) + " asks.html")
	return c.Render("ask_alone", fiber.Map{"Title": "Asked of others", "Text": text, "Within": inside})
}

// asking is the rig of the address, and the text that asks others about its fault.
func (a *App) asking(c fiber.Ctx) (*loaded, string, error) {
	l, err := a.load(c)
	if err != nil {
		return nil, "", err
	}
	cat, err := bringup.Load()
	if err != nil {
		return nil, "", err
	}
	report := assess.Rig(l.rig, a.ref)
	told, _, err := toldElsewhere(c.Context(), a.store, l.rig, l.ID, cat)
	if err != nil {
		return nil, "", err
	}
	finder := bringup.NewFinder(bringup.Of(told, a.ref, report.Findings), cat, 1)
	finder.Leave("see") // others can't see it
	return l, askText(l.rig, &report, cat, finder.Search(bringup.SeenOf(l.rig, cat))), nil
}

// askText is plain text to paste anywhere.
func askText(r *rig.Rig, report *assess.Report, cat *bringup.Catalogue, s *bringup.Search) string {
	var b strings.Builder
	fmt.Fprintf(&b, "A graphics card on a %s\n\nThe rig\n", orText(rig.Spoken(r.Host.Kind.Value), "small host"))
	fmt.Fprintf(&b, "- slot: %s\n", slotText(r))
	for i := range r.Route.Stages {
		stage := &r.Route.Stages[i]
		fmt.Fprintf(&b, "- %s: x%s, Gen %s\n", orText(rig.Spoken(stage.Kind.Value), "stage"), factText(stage.Lanes), factText(stage.Gen))
	}
	fmt.Fprintf(
		&b, "- card: %s lanes, Gen %s, %s\n", factText(r.Card.Lanes), factText(r.Card.Gen),
		orText(wattText(r), "board power not known"),
	)
	fmt.Fprintf(&b, "- planned: %s\n", linkWords(report))
	if len(r.Build.Tries) > 0 {
		fmt.Fprintf(&b, "\nTried\n")
		for i := range r.Build.Tries {
			t := &r.Build.Tries[i]
			if k := cat.Test(t.Test); k >= 0 {
				fmt.Fprintf(&b, "- %s %s.\n", cat.Tests[k].Do, finding.Begin(outcomeOf(&cat.Tests[k], t.Outcome)))
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
		list = append(list, outcomeOf(t, o))
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

// practiceView is a hunt for a hidden fault: all of it stands in the address, nothing is
// kept.
type practiceView struct {
	Rig     string
	ID      int64
	Seed    uint64
	Done    []practiceTry
	Tests   []practiceTest
	Minutes string
	Guesses []option
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

// practice plays a fault drawn by seed and weight: the person chooses tests, and at the end
// sees what the finder would have done.
func (a *App) practice(c fiber.Ctx) error {
	l, err := a.load(c)
	if err != nil {
		return err
	}
	cat, err := bringup.Load()
	if err != nil {
		return err
	}
	report := assess.Rig(l.rig, a.ref)
	seed, err := strconv.ParseUint(c.Query("seed", "1"), 10, 32)
	if err != nil {
		return fiber.NewError(
			fiber.StatusUnprocessableEntity, fmt.Sprintf("seed: %q is not accepted; accepted: a whole number.", c.Query("seed")),
		)
	}
	p, some := bringup.NewFinder(bringup.Of(l.rig, a.ref, report.Findings), cat, 1).Practice(seed)
	if !some {
		return fiber.NewError(fiber.StatusNotFound, "This rig can have no fault yet: describe its route first.")
	}
	v := &practiceView{Rig: l.rig.Name, ID: l.ID, Seed: seed, Another: fmt.Sprintf("/rigs/%d/practice?seed=%d", l.ID, seed+1)}
	done := v.play(p, cat, strings.Fields(c.Query("do")))
	if guess := c.Query("guess"); guess != "" {
		v.end(p, cat, guess)
	}
	return a.page(c, "practice", fiber.Map{"Title": "Practice", "Practice": v, "Do": strings.Join(done, " ")})
}

// play does the tests that were chosen, and lists those that are left.
func (v *practiceView) play(p *bringup.Practice, cat *bringup.Catalogue, chosen []string) (done []string) {
	minutes := 0.0
	for _, name := range chosen {
		if !p.Has(name) || slices.Contains(done, name) {
			continue
		}
		t := &cat.Tests[cat.Test(name)]
		done, minutes = append(done, name), minutes+t.Minutes
		v.Done = append(v.Done, practiceTry{t.Do, outcomeOf(t, p.Shows(name))})
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
		v.Guesses = append(v.Guesses, option{f.Name, f.Says, false})
	}
	return done
}

// end shows what it was, and how the finder would have found it.
func (v *practiceView) end(p *bringup.Practice, cat *bringup.Catalogue, guess string) {
	v.Over, v.Right, v.Was, v.Mend = true, guess == p.Fault.Name, p.Fault.Says, p.Fault.Mend
	minutes := 0.0
	for _, s := range p.Solve() {
		t := &cat.Tests[cat.Test(s.Test)]
		minutes += t.Minutes
		v.Finder = append(v.Finder, practiceTry{t.Do, outcomeOf(t, s.Outcome)})
	}
	v.FinderM = minutesOf(minutes)
}
