package assembly

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"github.com/gofiber/fiber/v3"

	"kolvan/core/bringup"
	"kolvan/core/reference"
	"kolvan/core/rig"
	"kolvan/core/units"
	"kolvan/web/draw"
	"kolvan/web/phrase"
	"kolvan/web/room"
)

// The three things that are worked on at Assembly, by what is chosen.
const (
	BuildSel   = "/build"
	StepSel    = "/build/step/"
	powerOnSel = "/build/power-on"
	FaultSel   = "/build/fault"
)

// View is the evening of the build: its steps, the power-on, or the hunt for a
// fault.
type View struct {
	Part    string // steps, power-on, fault
	Steps   *stepsView
	PowerOn *powerOnView
	Fault   *FaultView
}

// stepsView is the steps as a drawing, and the one at hand.
type stepsView struct {
	Title, Aside string
	Height       float64
	Lanes        []stepLane
	Dots         []stepDot
	Done, Rest   string // the way through the dots
	Here         *stepView
	Screws       []drawnScrew
	Tools        []tickBox
	Back         []string
	Stays        int // of the way back, what cannot be undone
	Says         []builtFinding
	Needs        []rig.Need
}

type stepLane struct {
	Name string
	Y    float64
}

type stepDot struct {
	X, Y   float64
	N      int
	ID, Do string
	Class  string
	Power  bool // power is switched on there
}

type stepView struct {
	ID, Do, Where, Minutes string
	N, Of                  int
	RightWhen              string
	Before, Cautions       []string
	Standing               []string // cautions of the stretch that the step lies in
	Screws, Tools, Parts   string
	Done                   bool
	Line                   string
	Next, Previous         string
	Permanent              bool
	Stake                  string // what a slip costs, in words
	Pictures               []room.Picture
}

// drawnScrew is one size of screw, true to size on paper.
type drawnScrew struct {
	Letter, Text string
	Long         float64 // mm
}

type tickBox struct {
	Name string
	On   bool
}

// builtFinding is what the rules say of the build.
type builtFinding struct{ Level, Rule, Title, Says string }

var placeNames = []struct {
	place bringup.Place
	name  string
}{
	{bringup.Firmware, "firmware"}, {bringup.Table, "table"}, {bringup.Top, "host, top"},
	{bringup.Underside, "host, underside"}, {bringup.Dock, "dock"}, {bringup.System, "system"},
}

func placeName(p bringup.Place) string {
	for _, n := range placeNames {
		if n.place == p {
			return n.name
		}
	}
	return string(p)
}

// assemblyOf makes the view of the build by what is chosen.
func assemblyOf(d *room.Desk) (v *View, err error) {
	v = &View{Part: "steps"}
	switch {
	case d.Sel == powerOnSel:
		v.Part = "power-on"
		v.PowerOn, err = powerOn(d)
	case d.Sel == FaultSel:
		v.Part = "fault"
		v.Fault, err = suspects(d)
	default:
		v.Steps = stepsOf(d.Rig, d.Ref, strings.TrimPrefix(d.Sel, StepSel))
		if s := v.Steps.Here; s != nil {
			s.Pictures, err = d.Pictures(s.ID)
		}
	}
	return v, err
}

const (
	stepsTop  = 34.0
	lanePitch = 38.0
)

// stepsOf draws the steps, the chosen one at hand, else the first that is not done.
func stepsOf(r *rig.Rig, ref *reference.Tables, chosen string) *stepsView {
	report := bringup.ReportOf(r, ref)
	v := &stepsView{Height: stepsTop + lanePitch*float64(len(placeNames)) + 14}
	for i, n := range placeNames {
		v.Lanes = append(v.Lanes, stepLane{n.name, stepsTop + lanePitch*float64(i) + 12})
	}
	here := slices.IndexFunc(report.Steps, func(s bringup.Step) bool { return s.ID == chosen })
	if here < 0 {
		here = slices.IndexFunc(report.Steps, func(s bringup.Step) bool { return !bringup.Done(r, s.ID) })
	}
	v.dots(r, report, here)
	turned := map[int]string{0: "the host is never turned over", 1: "host turned over once", 2: "host turned over twice"}[report.Turns]
	if turned == "" {
		turned = fmt.Sprintf("host turned over %d times", report.Turns)
	}
	v.Title = fmt.Sprintf("The evening of the build: %d steps, %s", len(report.Steps), turned)
	v.Aside = fmt.Sprintf("%.0f to %.0f min left%s", report.Left[0], report.Left[1], stopsWords(report))
	if here < 0 {
		v.Aside = "all done"
	} else {
		v.Here = stepViewOf(r, report, here)
		v.Screws = drawnScrews(report)
	}
	v.tools(r, report)
	v.Needs = r.Build.Needs
	for i := range report.Back {
		v.Back = append(v.Back, report.Back[i].Do)
		if report.Back[i].Permanent {
			v.Stays++
		}
	}
	for i := range report.Findings {
		if f := &report.Findings[i]; f.Rule != bringup.RuleTool {
			v.Says = append(v.Says, builtFinding{f.Level.String(), f.Rule, f.Title, f.Says})
		}
	}
	return v
}

// stopsWords names the steps after which it can be left for another day.
func stopsWords(report *bringup.Report) string {
	var at []string
	for i := range report.Steps[:max(0, len(report.Steps)-1)] {
		if slices.Contains(report.Stops, report.Steps[i].ID) {
			at = append(at, strconv.Itoa(i+1))
		}
	}
	if at == nil {
		return ""
	}
	if len(at) == 1 {
		return "; a good place to stop: after step " + at[0]
	}
	return "; good places to stop: after step " + phrase.List(at, "or")
}

func (v *stepsView) dots(r *rig.Rig, report *bringup.Report, here int) {
	left, right := 150.0, draw.Width-24.0
	pitch := (right - left) / float64(max(1, len(report.Steps)-1))
	for i := range report.Steps {
		s := &report.Steps[i]
		lane := slices.IndexFunc(placeNames, func(n struct {
			place bringup.Place
			name  string
		}) bool {
			return n.place == s.Place
		})
		d := stepDot{X: left + pitch*float64(i), Y: v.Lanes[lane].Y, N: i + 1, ID: s.ID, Do: s.Do, Power: s.ID == "first-start"}
		done := bringup.Done(r, s.ID)
		switch {
		case i == here:
			d.Class = "here"
		case done:
			d.Class = "done"
		}
		if i > 0 {
			from := v.Dots[i-1]
			curve := fmt.Sprintf(
				"M%.1f %.1fC%.1f %.1f %.1f %.1f %.1f %.1f", from.X, from.Y, from.X+pitch/2, from.Y, d.X-pitch/2, d.Y, d.X, d.Y,
			)
			if done || i == here && (i == 0 || bringup.Done(r, report.Steps[i-1].ID)) {
				v.Done += curve
			} else {
				v.Rest += curve
			}
		}
		v.Dots = append(v.Dots, d)
	}
}

// stakeWords say what a slip at a step costs.
var stakeWords = map[string]string{"you": "at stake: you", "hardware": "at stake: hardware", "data": "at stake: data"}

func stepViewOf(r *rig.Rig, report *bringup.Report, i int) *stepView {
	s := &report.Steps[i]
	h := &stepView{
		ID:        s.ID,
		Do:        s.Do,
		Where:     placeName(s.Place),
		N:         i + 1,
		Of:        len(report.Steps),
		RightWhen: s.RightWhen,
		Cautions:  s.Cautions,
		Standing:  report.Holding(s.ID),
		Stake:     stakeWords[s.Stake],
		Permanent: s.Permanent,
		Done:      bringup.Done(r, s.ID),
		Minutes: fmt.Sprintf(
			"%.0f to %.0f minutes",
			s.Minutes[0],
			s.Minutes[1],
		),
		Screws: strings.Join(s.Screws, "; "),
		Tools:  strings.Join(s.Tools, ", "),
		Parts:  strings.Join(s.Parts, ", "),
	}
	for k := range report.Steps {
		if slices.Contains(s.After, report.Steps[k].ID) && !bringup.Done(r, report.Steps[k].ID) {
			h.Before = append(h.Before, fmt.Sprintf("step %d", k+1))
		}
	}
	if i > 0 {
		h.Previous = report.Steps[i-1].ID
	}
	if i+1 < len(report.Steps) {
		h.Next = report.Steps[i+1].ID
	}
	for _, d := range r.Build.Done {
		if d.Step == s.ID {
			h.Line = d.Line
		}
	}
	return h
}

// drawnScrews are the screws of all steps, one of a size.
func drawnScrews(report *bringup.Report) (list []drawnScrew) {
	for i := range report.Steps {
		for _, text := range report.Steps[i].Screws {
			size, _, _ := strings.Cut(text, ",")
			if slices.ContainsFunc(list, func(d drawnScrew) bool { return d.Text == size }) {
				continue
			}
			_, long, _ := strings.Cut(size, "× ")
			mm, err := strconv.ParseFloat(long, 64)
			if err == nil && len(list) < 26 {
				list = append(list, drawnScrew{string(rune('A' + len(list))), size, mm})
			}
		}
	}
	return list
}

func (v *stepsView) tools(r *rig.Rig, report *bringup.Report) {
	s := bringup.Sequence{Steps: report.Steps}
	for _, tool := range s.Tools() {
		v.Tools = append(v.Tools, tickBox{tool, slices.Contains(r.Build.AtHand, tool)})
	}
}

// assemblyFigure is what the line of stations says of the build.
func assemblyFigure(r *rig.Rig) string {
	switch n := len(r.Build.Done); {
	case len(r.Build.Tries) > 0:
		return phrase.Counted(len(r.Build.Tries), "try", "tries")
	case n > 0:
		return phrase.Counted(n, "step", "steps") + " done"
	default:
		return "not begun"
	}
}

// tickStep ticks a step, with what it took and a line, or takes the tick back.
func tickStep(c fiber.Ctx, r *rig.Rig, _ *reference.Tables) (string, string, error) {
	id := c.FormValue("step")
	r.Build.Done = slices.DeleteFunc(slices.Clone(r.Build.Done), func(d rig.DoneStep) bool { return d.Step == id })
	if c.FormValue("done") != "yes" {
		return "step " + id + " is open again", StepSel + id, nil
	}
	done := rig.DoneStep{Step: id, When: room.When(c), Line: c.FormValue("line")}
	if typed := strings.TrimSpace(c.FormValue("minutes")); typed != "" {
		minutes, err := strconv.ParseFloat(typed, 64)
		if err != nil || minutes < 0 || minutes > 10000 {
			return "", "", &rig.FieldError{Path: "/build/done/minutes", Value: typed, Accepts: "0 to 10000"}
		}
		done.Minutes = rig.Of(minutes)
	}
	r.Build.Done = append(r.Build.Done, done)
	return "step " + id + " is done", BuildSel, nil
}

// tickTool says that a tool is at hand, or is not.
func tickTool(c fiber.Ctx, r *rig.Rig, _ *reference.Tables) (string, string, error) {
	tool := c.FormValue("tool")
	if i := slices.Index(r.Build.AtHand, tool); i >= 0 {
		r.Build.AtHand = slices.Delete(slices.Clone(r.Build.AtHand), i, i+1)
		return tool + " is not at hand", "", nil
	}
	r.Build.AtHand = append(slices.Clone(r.Build.AtHand), tool)
	return tool + " is at hand", "", nil
}

func minutesOf(v float64) string { return units.Trim(v, 0) + " min" }

// needStep says that a step comes after another, or takes that back.
func needStep(c fiber.Ctx, r *rig.Rig, ref *reference.Tables) (string, string, error) {
	need := rig.Need{Step: c.FormValue("step"), After: c.FormValue("after")}
	if i := slices.Index(r.Build.Needs, need); i >= 0 {
		r.Build.Needs = slices.Delete(slices.Clone(r.Build.Needs), i, i+1)
		return need.Step + " need not follow " + need.After, "", nil
	}
	steps := bringup.StepsOf(r, ref)
	known := func(id string) bool {
		return slices.ContainsFunc(steps, func(s bringup.Step) bool { return s.ID == id })
	}
	if !known(need.Step) || !known(need.After) || need.Step == need.After {
		return "", "", &rig.FieldError{Path: "/build/needs", Value: need.Step + " after " + need.After, Accepts: "two steps of this rig"}
	}
	r.Build.Needs = append(slices.Clone(r.Build.Needs), need)
	return need.Step + " comes after " + need.After, "", nil
}

// moveStep puts a step one earlier or later, whatever that breaks; "as it was" forgets the
// person's own order.
func moveStep(c fiber.Ctx, r *rig.Rig, ref *reference.Tables) (string, string, error) {
	if c.FormValue("by") == "none" {
		r.Build.Order = nil
		return "the steps in their own order", BuildSel, nil
	}
	steps := bringup.ReportOf(r, ref).Steps
	order := make([]string, len(steps))
	for i := range steps {
		order[i] = steps[i].ID
	}
	id := c.FormValue("step")
	at := slices.Index(order, id)
	by, err := strconv.Atoi(c.FormValue("by"))
	if err != nil || at < 0 || at+by < 0 || at+by >= len(order) {
		return "", "", fiber.NewError(fiber.StatusUnprocessableEntity, "by: how many places earlier or later a step of this rig goes.")
	}
	order = slices.Insert(slices.Delete(order, at, at+1), at+by, id)
	r.Build.Order = order
	return "step " + id + " moved", StepSel + id, nil
}
