package assembly

import (
	"fmt"
	"math"
	"slices"
	"strconv"
	"strings"

	"github.com/gofiber/fiber/v3"

	"kolvan/core/bringup"
	"kolvan/core/finding"
	"kolvan/core/reference"
	"kolvan/core/rig"
	"kolvan/web/draw"
	"kolvan/web/phrase"
	"kolvan/web/room"
)

// FaultView is the hunt for a fault: suspects as a drawing, the next test, the tries.
type FaultView struct {
	Title     string
	Height    float64
	Suspects  []suspectBar
	Rest      string // the share of all others, in words
	Evidence  []string
	Forbids   string // that the plan is not to be switched on, and why
	Next      *testView
	Then      []string
	Stop      string
	PartedBy  []string
	Left      string
	Odd       []string
	Tries     []tryRow
	Elsewhere []elsewhereRow
	Tests     []testOption
	Skip      string // what is skipped, for the address of skipping one more
	At        []tickBox
}

type suspectBar struct {
	Says, Mend, Share string
	Speaks            string // what speaks for it, and against
	Y, W              float64
	First             bool
}

type testView struct {
	Name, Do, Why, Caution string
	First                  bool // what is seen, before any test
	Outcomes               []outcomeView
	Skip                   string // the address that leaves it out
}

type outcomeView struct{ Value, Label, Chance string }

type tryRow struct {
	N                        int
	When, Did, Saw, Says, At string
}

type testOption struct {
	Name, Do string
	Outcomes []string
}

const (
	barTop, barPitch = 36.0, 74.0
	mostSuspects     = 6
	barWidth         = 330.0
)

// outcomeWords are outcomes as a person says them.
var outcomeWords = map[string]string{
	"on": "it is on", "off": "it is off", "twitch": "they turn once, then rest", "none": "none", "full": "full, and staying",
	"starts": "it starts", "stops": "it stops at a message", "no-drive": "no drive to start from", "hangs": "dark, for good",
	"there": "it is there", "marked": "it is there, with a mark", "absent": "it is not there", "half": "half of the lanes", "x1": "x1",
	"planned": "as planned", "lower": "lower than planned", "many": "many", "card": "on the card", "host-only": "on the host only",
	"nothing": "nothing at all", "no-picture": "fans run, no picture", "no-device": "the system runs, the card is not in its list",
	"slow": "it works, but slow, or with fewer lanes", "goes-away": "it goes away under load", "hot": "too hot",
	"cool": "cool enough to hold", "fewer": "fewer than planned", "listed": "it is in the list", "missing": "it is not in the list",
	"holds": "it holds", "trips": "a click, all dark", "drops": "the card drops out", "crashes": "the use crashes", "good": "within 5 %",
	"low": "too low", "own": "the host's own", "faster": "the card is faster", "same": "no difference", "cured": "it works now",
	"works": "it works there", "fails": "it fails there too",
}

func outcomeWord(o string) string { return phrase.Or(outcomeWords[o], o) }

// OutcomeOf is an outcome of a test, said so that it fits what was looked at.
func OutcomeOf(t *bringup.Test, o string) string {
	switch {
	case t.Reads == "width" && o == "full" || t.Reads == "slot" && o == "full":
		return "all lanes"
	case t.Reads == "sight" && o == "twitch":
		return "fans twitch and stop"
	case t.Reads == "sight" && o == "marked":
		return "the card is listed, with a mark"
	case t.Reads == "sight" && o == "hot":
		return "noise or heat"
	case t.Reads == "most" && o == "full":
		return "all lanes"
	case t.Reads == "volts" && o == "none":
		return "no voltage"
	case t.Reads == "screens" && o == "none":
		return "on no output"
	case t.Reads == "fans" && o == "none":
		return "they do not turn"
	case t.Reads == "use" && o == "card":
		return "the card"
	case o == "same" && t.Reads == "works":
		return "no change"
	default:
		return outcomeWord(o)
	}
}

// suspects weighs what may be broken by the rig's tries.
func suspects(d *room.Desk) (*FaultView, error) {
	cat, err := bringup.Load()
	if err != nil {
		return nil, err
	}
	skipped := strings.Fields(d.Query("skip"))
	r, elsewhere, err := ToldElsewhere(d.Context, d.Store, d.Rig, d.ID, cat)
	if err != nil {
		return nil, err
	}
	finder := bringup.NewFinder(bringup.Of(r, d.Ref, d.Report.Findings), cat, 1)
	finder.Leave(skipped...)
	s := finder.Search(bringup.SeenOf(r, cat))
	v := &FaultView{
		Title: "What may be broken", Left: s.Left, Odd: s.Odd, Forbids: s.Forbids, Elsewhere: elsewhere,
		Skip: strings.Join(skipped, " "),
	}
	v.bars(s, cat)
	for _, e := range s.Evidence {
		v.Evidence = append(v.Evidence, seenWords(cat, e.Test+"="+e.Outcome)+" ("+e.From+")")
	}
	if s.Next != nil {
		v.Next = v.testOf(cat, s.Next)
	}
	for i := range s.Then {
		v.Then = append(v.Then, fmt.Sprintf("%s (%s)", strings.TrimSuffix(s.Then[i].Do, "."), minutesOf(s.Then[i].Minutes)))
	}
	if s.Stop != nil {
		v.Stop = s.Stop.Says
		for i := range s.Stop.PartedBy {
			p := &s.Stop.PartedBy[i]
			v.PartedBy = append(v.PartedBy, fmt.Sprintf("%s: %s", p.Needs, p.Do))
		}
	}
	v.ListTries(r, cat)
	for _, t := range finder.Tests() {
		v.Tests = append(v.Tests, testOption{Name: t.Name, Do: t.Do, Outcomes: t.Outcomes})
		if t.Needs != "" && !slices.ContainsFunc(v.At, func(b tickBox) bool { return b.Name == t.Needs }) {
			v.At = append(v.At, tickBox{t.Needs, slices.Contains(r.Build.AtHand, t.Needs)})
		}
	}
	return v, nil
}

// seenWords are a test and its outcome, in two words.
func seenWords(cat *bringup.Catalogue, seen string) string {
	test, outcome, _ := strings.Cut(seen, "=")
	if i := cat.Test(test); i >= 0 {
		return strings.ReplaceAll(test, "-", " ") + ": " + OutcomeOf(&cat.Tests[i], outcome)
	}
	return seen
}

// speakWords are what speaks for a suspect and against it, the two strongest of each.
func speakWords(cat *bringup.Catalogue, f *bringup.Suspect) string {
	list := func(word string, seen []string) string {
		var said []string
		for _, one := range seen[:min(2, len(seen))] {
			said = append(said, seenWords(cat, one))
		}
		if len(said) == 0 {
			return ""
		}
		return word + " " + strings.Join(said, ", ")
	}
	return strings.TrimPrefix(strings.TrimSuffix(list("for it", f.For)+"; "+list("against it", f.Against), "; "), "; ")
}

func mendWords(f *bringup.Suspect) string {
	if f.Minutes == 0 {
		return draw.Clip(f.Mend, 60)
	}
	return draw.Clip(f.Mend, 50) + " " + finding.Begin(minutesOf(f.Minutes))
}

// bars are drawn on one scale, a whole width for a certain one; what is left is a line.
func (v *FaultView) bars(s *bringup.Search, cat *bringup.Catalogue) {
	shown := s.Suspects[:min(mostSuspects, len(s.Suspects))]
	rest := 1.0
	for i := range shown {
		f := &shown[i]
		rest -= f.Weight
		v.Suspects = append(
			v.Suspects,
			suspectBar{
				Says: f.Says, Mend: mendWords(f), Share: fmt.Sprintf("%.0f %%", 100*f.Weight), Y: barTop + barPitch*float64(i),
				W: max(2, barWidth*f.Weight), First: i == 0, Speaks: draw.Clip(speakWords(cat, f), 62),
			},
		)
	}
	if others := len(s.Suspects) - len(shown); others > 0 {
		v.Rest = fmt.Sprintf("and %d others with %.0f %% between them", others, 100*math.Max(0, rest))
	}
	v.Height = barTop + barPitch*float64(len(v.Suspects)) + 16
	if len(shown) > 0 && shown[0].Weight > 0.5 {
		v.Title = finding.Begin(shown[0].Says)
	}
}

func (v *FaultView) testOf(cat *bringup.Catalogue, n *bringup.Next) *testView {
	test := &cat.Tests[cat.Test(n.Test)]
	t := &testView{
		Name: n.Test, Do: n.Do, First: test.First, Caution: n.Caution,
		Why:  finding.Begin(minutesOf(n.Minutes)) + ". Of all you can do now it tells most for its minutes.",
		Skip: strings.TrimSpace(v.Skip + " " + n.Test),
	}
	if test.Harmless {
		t.Why = finding.Begin(minutesOf(n.Minutes)) + ", harmless. Of all you can do now it tells most for its minutes."
	}
	if test.First {
		t.Why = "Press what comes nearest. Then comes the test that tells most for its minutes."
	}
	for _, o := range test.Outcomes {
		t.Outcomes = append(t.Outcomes, outcomeView{o, OutcomeOf(test, o), fmt.Sprintf("%.0f %%", 100*n.Outcomes[o])})
	}
	return t
}

// ListTries lists what was tried, the last one first.
func (v *FaultView) ListTries(r *rig.Rig, cat *bringup.Catalogue) {
	for i := len(r.Build.Tries) - 1; i >= 0; i-- {
		t := &r.Build.Tries[i]
		row := tryRow{N: i, When: clockOf(t.When), Did: t.Remark, Saw: "", Says: "a remark, which counts for nothing", At: t.At}
		if k := cat.Test(t.Test); k >= 0 {
			row.Did, row.Saw, row.Says = cat.Tests[k].Do, OutcomeOf(&cat.Tests[k], t.Outcome), ""
			if t.Remark != "" {
				row.Says = t.Remark
			}
		}
		if rig.Is(t.Together, true) {
			row.Says = "two changes at once: parts nothing"
		}
		v.Tries = append(v.Tries, row)
	}
}

// clockOf is the hour and minute of a moment.
func clockOf(when string) string {
	if len(when) < len("2006-01-02T15:04") {
		return ""
	}
	return when[11:16]
}

// addTry keeps a try: a test with its outcome, or a remark.
func addTry(c fiber.Ctx, r *rig.Rig, _ *reference.Tables) (string, string, error) {
	cat, err := bringup.Load()
	if err != nil {
		return "", "", err
	}
	t := rig.Try{
		Test: c.FormValue("test"), Outcome: c.FormValue("outcome"), Remark: strings.TrimSpace(c.FormValue("remark")),
		At: strings.TrimSpace(c.FormValue("at")), When: room.When(c),
	}
	if test, outcome, both := strings.Cut(t.Test, "="); both {
		t.Test, t.Outcome = test, outcome
	}
	if c.FormValue("together") == "yes" {
		t.Together = rig.Of(true)
	}
	if t.Test == "" && t.Remark == "" {
		return "", "", &rig.FieldError{Path: "/build/tries/remark", Accepts: "what was done, or what happened"}
	}
	if t.Test != "" {
		if err := cat.Check(t.Test, t.Outcome); err != nil {
			return "", "", &rig.FieldError{
				Path: "/build/tries/test", Value: t.Test + "=" + t.Outcome, Accepts: "a test and one of its outcomes",
			}
		}
	}
	r.Build.Tries = append(slices.Clone(r.Build.Tries), t)
	return "tried: " + phrase.Or(t.Test, t.Remark), FaultSel, nil
}

// dropTry forgets a try.
func dropTry(c fiber.Ctx, r *rig.Rig, _ *reference.Tables) (string, string, error) {
	i, err := strconv.Atoi(c.FormValue("n"))
	if err != nil || i < 0 || i >= len(r.Build.Tries) {
		return "", "", fiber.NewError(fiber.StatusUnprocessableEntity, "n: the number of a try of this rig.")
	}
	r.Build.Tries = slices.Delete(slices.Clone(r.Build.Tries), i, i+1)
	return "a try is forgotten", FaultSel, nil
}
