package bringup

import (
	"fmt"
	"slices"
	"strings"

	"kolvan/core/finding"
	"kolvan/core/fit"
	"kolvan/core/reference"
	"kolvan/core/rig"
	"kolvan/core/units"
)

// Evening is a rig's steps in the order they are done, for the rules.
type Evening struct {
	Sequence
	rig *rig.Rig
	ref *reference.Tables
}

// EveningOf puts a rig's steps into order: the person's own, where there is one.
func EveningOf(r *rig.Rig, ref *reference.Tables) *Evening {
	return &Evening{Arrange(StepsOf(r, ref), r.Build.Order), r, ref}
}

// The names of the rules, as reports and files have them.
const (
	RuleLive       = "build.live"
	RuleCycle      = "build.cycle"
	RuleOrder      = "build.order"
	RuleProveFirst = "bringup.prove-first"
	RuleScrew      = "build.screw"
	RulePermanent  = "build.permanent"
	RuleTool       = "build.tool"
	RuleDark       = "bringup.dark"
)

var rules = finding.Table[*Evening]{
	{Rule: finding.Rule{
		Name: RuleLive, Station: finding.Assembly, Title: "Power is there", Levels: finding.Levels{finding.Danger},
		Line: "there is power where hands are", Tag: "power is there",
		Would:   "mains off and the plug pulled before that step",
		Evening: finding.Evening{finding.Danger: finding.Harms()},
		Fires:   "a step would join or part the link, or open the host, with power there; a tunnelled port is made for it",
		Example: "Put card into its slot, straight down, and set its bracket screw. There is power at that step of the order. Switch off, " +
			"pull the mains plugs and wait until no lamp is on.",
	}, Judge: judgeLive},
	{Rule: finding.Rule{
		Name: RuleCycle, Station: finding.Assembly, Title: "No order works", Levels: finding.Levels{finding.Blocked},
		Line: "no order of the steps works", Tag: "no order",
		Would:   "one of the parts taken out of the other's way",
		Evening: finding.Evening{finding.Blocked: finding.Apart()},
		Fires:   "no order of steps exists: each of them needs another one of them done before",
		Example: "No order works: off-outer, off-inner each need another of them done before. Look at what lies under what.",
	}, Judge: judgeCycle},
	{Rule: finding.Rule{
		Name: RuleOrder, Station: finding.Assembly, Title: "A step before what it needs", Levels: finding.Levels{finding.Risk},
		Line: "a step stands before what it needs", Tag: "order of steps",
		Would:   "the usual order of the steps",
		Evening: finding.Evening{finding.Risk: finding.Unseen()},
		Fires:   "a person's own order puts a step before one that it needs",
		Example: "Card stands before seat-adapter, which it needs.",
	}, Judge: judgeBuildOrder},
	{Rule: finding.Rule{
		Name: RuleProveFirst, Station: finding.Assembly, Title: "Closed before the link is proven", Levels: finding.Levels{finding.Risk},
		Line: "it is closed before the link is proven", Tag: "closed early",
		Would:   "proving the link before the case is closed",
		Evening: finding.Evening{finding.Risk: finding.Unseen()},
		Fires:   "a cover goes on, or cables are tied, before the link was proven; a cover that carries the host's fan or presses its switch may",
		Example: "Tie the cables down within a hand's breadth of their plugs, and note what it took. That stands before the link is proven: " +
			"what is wrong then is under it.",
	}, Judge: judgeProveFirst},
	{Rule: finding.Rule{
		Name: RuleScrew, Station: finding.Assembly, Title: "A screw of the wrong length", Levels: finding.Levels{finding.Risk},
		Line: "screws of {length_mm} where {needed_mm} are wanted", Tag: "screws {length_mm}",
		Would:   "screws of {needed_mm}",
		Evening: finding.Evening{finding.Risk: finding.Weakens()},
		Fires:   "a cover's screw is too short, or over 2 mm too long, after stand-offs",
		Example: "The screws of lid are 11.9 mm long; on stand-offs of 6 mm they take 12 mm.",
	}, Judge: judgeScrew},
	{Rule: finding.Rule{
		Name: RulePermanent, Station: finding.Assembly, Title: "It cannot be undone", Levels: finding.Levels{finding.Note}, Notes: true,
		Fires:   "a step cannot be undone; it is held to what may be altered",
		Example: "Notch: mark it by its template, cut it, and file its edges. That cannot be undone.",
	}, Judge: judgePermanent},
	{Rule: finding.Rule{
		Name: RuleTool, Station: finding.Assembly, Title: "Not at hand", Levels: finding.Levels{finding.Note}, Notes: true,
		Fires:   "a step needs a tool or a consumable that is not ticked as at hand",
		Example: "Have at hand: a drive for the copy.",
	}, Judge: judgeTool},
	{Rule: finding.Rule{
		Name: RuleDark, Station: finding.Assembly, Title: "Dark for a while", Levels: finding.Levels{finding.Note}, Notes: true,
		Fires: "how long the screen may stay dark after switching on, and why",
		Example: "The screen may stay dark for 11 s to 3 min: the firmware looks for devices and the system starts; the first start after " +
			"mains was off, or after defaults, may take three minutes by itself.",
	}, Judge: judgeDark},
}

// Rules lists the rules of assembly and power-on.
func Rules() []finding.Rule { return rules.Rules() }

// Findings are what the rules say of an evening, the worst first.
func (e *Evening) Findings() []finding.Finding {
	out := finding.List{}
	rules.Judge(e, &out)
	list := out.Sorted()
	for i := range list {
		if list[i].Clear == nil {
			list[i].Clear = []finding.Change{}
		}
	}
	return list
}

// at is the place of a step in the order; −1 for none.
func (e *Evening) at(tag string) int {
	return slices.IndexFunc(e.Steps, func(s Step) bool { return s.tagged(tag) })
}

// judgeLive follows the power through the order: on before it is switched off, on again
// from the first start and at every step that works on a running host.
func judgeLive(r *finding.Rule, e *Evening, out *finding.List) {
	tunnel := false
	if slot := e.rig.Slot(e.rig.Route.Slot); slot != nil {
		tunnel = rig.Is(slot.Form, rig.Tunnel)
	}
	on := true
	for i := range e.Steps {
		switch s := &e.Steps[i]; {
		case s.tagged("off") || s.tagged("off-again"):
			on = false
		case s.tagged("on") || s.Place == Firmware || s.Place == System:
			on = true
		case on && s.tagged("open"), on && s.tagged("link") && !tunnel, on && s.tagged("left"):
			out.Add(
				r, finding.Danger, whereOf(s), nil,
				"%s There is power at that step of the order. Switch off, pull the mains plugs and wait until no lamp is on.", s.Do,
			)
		}
	}
}

func whereOf(s *Step) string {
	if s.where != "" {
		return s.where
	}
	return "/build/order"
}

func judgeCycle(r *finding.Rule, e *Evening, out *finding.List) {
	if e.Cycle != nil {
		out.Add(
			r, finding.Blocked, "/build/needs", finding.Numbers{{Name: "steps", Value: float64(len(e.Cycle))}},
			"No order works: %s each need another of them done before. Look at what lies under what.", strings.Join(e.Cycle, ", "),
		)
	}
}

func judgeBuildOrder(r *finding.Rule, e *Evening, out *finding.List) {
	for i := range e.Breaks {
		out.Add(r, finding.Risk, "/build/order", nil, "%s stands before %s, which it needs.", e.Breaks[i].Step, e.Breaks[i].Needs)
	}
}

func judgeProveFirst(r *finding.Rule, e *Evening, out *finding.List) {
	proven := e.at("prove-link")
	for i := range e.Steps {
		if s := &e.Steps[i]; (s.tagged("covers-on") || s.tagged("tidy")) && i < proven {
			out.Add(r, finding.Risk, whereOf(s), nil, "%s That stands before the link is proven: what is wrong then is under it.", s.Do)
		}
	}
}

// tooLong is how much longer than needed a screw may be, mm (P).
const tooLong units.Millimetre = 2

func judgeScrew(r *finding.Rule, e *Evening, out *finding.List) {
	for _, l := range fit.ScrewsOf(e.rig) {
		v := &e.rig.Chamber.Covers[l.Cover]
		used := v.Screw.Used.Or(l.Was)
		numbers := finding.Numbers{{Name: "length_mm", Value: float64(used)}, {Name: "needed_mm", Value: float64(l.Needed)}}
		at := rig.CoverPath(l.Cover) + "/screw"
		switch {
		case used < l.Needed:
			out.Add(
				r, finding.Risk, at, numbers, "The screws of %s are %v long; on stand-offs of %v they take %v.", v.Name, used,
				v.Raised.Value, l.Needed,
			)
		case used > l.Needed+tooLong:
			out.Add(
				r, finding.Risk, at, numbers,
				"The screws of %s are %v long; on stand-offs of %v they take %v, and a longer one may reach the board.", v.Name, used,
				v.Raised.Value, l.Needed,
			)
		}
	}
}

func judgePermanent(r *finding.Rule, e *Evening, out *finding.List) {
	for i := range e.Steps {
		if s := &e.Steps[i]; s.Permanent {
			out.Add(r, finding.Note, whereOf(s), nil, "%s That cannot be undone.", s.Do)
		}
	}
}

// Tools are all that the steps need at hand, in the order they are first needed.
func (s *Sequence) Tools() (tools []string) {
	for i := range s.Steps {
		for _, tool := range s.Steps[i].Tools {
			if !slices.Contains(tools, tool) {
				tools = append(tools, tool)
			}
		}
	}
	return tools
}

func judgeTool(r *finding.Rule, e *Evening, out *finding.List) {
	for _, tool := range e.Tools() {
		if !slices.Contains(e.rig.Build.AtHand, tool) {
			out.Add(r, finding.Note, "/build/at_hand", nil, "Have at hand: %s.", tool)
		}
	}
}

func judgeDark(r *finding.Rule, e *Evening, out *finding.List) {
	if e.at("first-start") < 0 {
		return
	}
	low, high, why := Dark(e.rig, e.ref)
	out.Add(
		r, finding.Note, "/card", finding.Numbers{{Name: "dark_low_s", Value: low}, {Name: "dark_high_s", Value: high}},
		"The screen may stay dark for %.0f s to %.0f min: %s.", low, high/60, why,
	)
}

// StopsWell reports a step after which one can leave it for another day: nothing is open,
// or nothing is switched on that waits.
func (s *Sequence) StopsWell(i int) bool {
	if i+1 >= len(s.Steps) {
		return true
	}
	this, next := &s.Steps[i], &s.Steps[i+1]
	return this.tagged("prepare") && !next.tagged("prepare") || next.tagged("first-start") || this.ID == "prove-power"
}

// StepsFormat is the format word of a list of steps.
const StepsFormat = "kolvan-steps/1"

// Report is the steps of a rig as they are written.
type Report struct {
	Format   string            `json:"format"`
	Rig      string            `json:"rig"`
	Steps    []Step            `json:"steps"`
	Turns    int               `json:"turns"`
	Minutes  [2]float64        `json:"minutes"` // of all of them
	Left     [2]float64        `json:"minutes_left"`
	Sitting  [2]float64        `json:"minutes_next_sitting"` // to the next place to stop
	Stops    []string          `json:"stop_well_after"`
	Done     []string          `json:"done"`
	Standing []Standing        `json:"standing"` // cautions that hold over a stretch
	Off      []Left            `json:"left_off"` // what was parted and stays off
	Back     []Step            `json:"back"`
	Findings []finding.Finding `json:"findings"`
}

// ReportOf lists the steps of a rig with what is done, the way back, and what the rules
// say.
func ReportOf(r *rig.Rig, ref *reference.Tables) *Report {
	e := EveningOf(r, ref)
	report := &Report{
		Format: StepsFormat, Rig: r.Name, Steps: e.Steps, Turns: e.Turns, Done: []string{}, Stops: []string{},
		Standing: e.standing(), Off: []Left{}, Back: e.Back(), Findings: e.Findings(),
	}
	sitting := true
	for i := range report.Steps {
		s := &report.Steps[i]
		report.Off = append(report.Off, s.left...)
		done := Done(r, s.ID)
		if !done && sitting {
			report.Sitting[0] += s.Minutes[0]
			report.Sitting[1] += s.Minutes[1]
		}
		if e.StopsWell(i) {
			report.Stops = append(report.Stops, s.ID)
			sitting = sitting && report.Sitting[1] == 0
		}
		for k := range s.Minutes {
			report.Minutes[k] += s.Minutes[k]
			if !done {
				report.Left[k] += s.Minutes[k]
			}
		}
		if done {
			report.Done = append(report.Done, s.ID)
		}
		s.fill()
	}
	for i := range report.Back {
		report.Back[i].fill()
	}
	return report
}

// fill leaves no list of a step without its brackets in JSON.
func (s *Step) fill() {
	for _, list := range []*[]string{&s.Parts, &s.Tools, &s.After, &s.Screws, &s.Cautions} {
		if *list == nil {
			*list = []string{}
		}
	}
}

// Done reports a step that is ticked and that no measurement contradicts: a link that
// reads less under load than planned is not proven, whatever was ticked.
func Done(r *rig.Rig, step string) bool {
	ticked := slices.ContainsFunc(r.Build.Done, func(d rig.DoneStep) bool { return d.Step == step })
	return ticked && !(step == "prove-link" && Contradicted(r))
}

// Contradicted reports a reading under load that is below what was reached before: fewer
// lanes or a lower generation than the last element of the route is said to have.
func Contradicted(r *rig.Rig) bool {
	width, gen := 16, 6
	for i := range r.Route.Stages {
		width, gen = min(width, r.Route.Stages[i].Lanes.Or(width)), min(gen, r.Route.Stages[i].Gen.Or(gen))
	}
	if slot := r.Slot(r.Route.Slot); slot != nil {
		width, gen = min(width, slot.Lanes.Or(width)), min(gen, slot.Gen.Or(gen))
	}
	width, gen = min(width, r.Card.Lanes.Or(width)), min(gen, r.Card.Gen.Or(gen), r.Route.ForcedGen.Or(gen))
	for i := range r.Route.Readings {
		read := &r.Route.Readings[i]
		if rig.Is(read.Load, "loaded") && (read.Width.Known && read.Width.Value < width || read.Gen.Known && read.Gen.Value < gen) {
			return true
		}
	}
	return false
}

// Seen is what a rig's tries say: what was tried with more than one change parts nothing,
// and of a test done twice the last one counts.
func SeenOf(r *rig.Rig, cat *Catalogue) (seen []Seen) {
	for i := range r.Build.Tries {
		t := &r.Build.Tries[i]
		if t.Test == "" || rig.Is(t.Together, true) || cat.Check(t.Test, t.Outcome) != nil {
			continue
		}
		seen = slices.DeleteFunc(seen, func(s Seen) bool { return s.Test == t.Test })
		seen = append(seen, Seen{t.Test, t.Outcome})
	}
	return seen
}

// ParseSeen reads test=outcome.
func ParseSeen(text string, cat *Catalogue) (Seen, error) {
	test, outcome, _ := strings.Cut(text, "=")
	if err := cat.Check(test, outcome); err != nil {
		return Seen{}, fmt.Errorf("--seen %s: %w", text, err)
	}
	return Seen{test, outcome}, nil
}
