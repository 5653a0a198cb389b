package sheet

import (
	"context"
	"fmt"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"kolvan/core/assess"
	"kolvan/core/bringup"
	"kolvan/core/carry"
	"kolvan/core/finding"
	"kolvan/core/link"
	"kolvan/core/need"
	"kolvan/core/power"
	"kolvan/core/proof"
	"kolvan/core/reference"
	"kolvan/core/rig"
	"kolvan/core/why"
	"kolvan/web/assembly"
	"kolvan/web/draw"
	"kolvan/web/fit"
	"kolvan/web/ledger"
	"kolvan/web/phrase"
	powerroom "kolvan/web/power"
	proofroom "kolvan/web/proof"
	"kolvan/web/verdict"
)

// View is the page for the workshop wall.
type View struct {
	Answer   *verdict.Answer
	About    []verdict.Subject // what is open, by subject
	Name     string
	Verdict  string
	Host     string
	Card     string
	Lanes    []string // the lane-limit statement, a sentence each
	Stages   [][]string
	Supplies [][]string
	Leads    [][]string
	Plugs    []powerroom.Joint // of the leads' load ends, as one sees them
	Fit      [][2]string
	Open     []finding.Finding
	NoOpen   bool // they are left out, which is not that there are none
	Works    []string
	Settings []string
	Cautions []string
	Picture  *draw.PaperLanes

	Orders   [][]string // of switching, the one that is meant first
	Steps    []sheetStep
	Standing []string // cautions over a stretch of steps, a line each
	Back     []string
	Tries    [][]string
	Runs     [][4]string // run, made, average, worst 1 %
	Gains    [][5]string // figure of a use, before, after, change, ratio
	Found    [][3]string // of the plan, as found, what it says
	Costs    *sheetCosts
	Diary    [][2]string
	Sums     []string // of what matters, each on a line
	Shopping []string // what is still to be had, by specification; made where it is asked for
	Alone    bool     // in a file of its own, without the page around it

	Chosen []sheetPart // what is on it, for the page around it
	Query  string      // the same, for the addresses of its files
}

// sheetCosts are what it cost, where that is wanted.
type sheetCosts struct {
	Lines  [][4]string // what, why, state, comes to
	Totals [][2]string
	Worth  []string
}

// sheetColumns head the tables of the sheet, on its page, on paper and in Markdown.
var sheetColumns = map[string][]string{
	"Lanes":               {"element", "lanes", "speed"},
	"Supplies":            {"supply", "sustained", "rating", "share", "switched on by"},
	"Leads":               {"lead", "from", "to", "load", "amps", "AWG"},
	"Orders of switching": {"order", "the card is", "to spare"},
	"Plan, and found":     {"planned", "found", "what it is"},
	"Tries":               {"when", "what was done", "what happened", "what it says"},
	"Measured":            {"run", "made", "average", "worst 1 %: 99th percentile, mean of slowest"},
	"Compared":            {"use", "before", "after", "change, 95 % sure between", "ratio"},
	"Costs":               {"what", "why", "state", "comes to"},
}

// sheetTable is one of them with its rows, a list of lists of texts.
type sheetTable struct {
	Label   string
	Columns []string
	Rows    any
}

// TableOf is a part of the sheet as a table.
func TableOf(label string, rows any) sheetTable { return sheetTable{label, sheetColumns[label], rows} }

// sheetPart is a part of the sheet that can be left out.
type sheetPart struct {
	Key, Label string
	On         bool
}

// sheetStep is one step of the build on paper.
type sheetStep struct {
	Do, With string
	Mind     []string
	Done     bool
}

// sheetParts are what can be left out of a sheet; money and diary are a person's own, and
// stand on it only where they are asked for.
var sheetParts = []struct {
	key, label string
	asked      bool
}{
	{
		"found",
		"plan and found",
		false,
	}, {"power", "power", false}, {"fit", "fit", false}, {"steps", "steps", false}, {"tries", "tries", false}, {"runs", "runs", false},
	{
		"open",
		"open findings",
		false,
	}, {"settings", "settings", false}, {"costs", "costs", true}, {"diary", "diary", true}, {"plugs", "plugs, face to face", false},
	{"back", "the way back", false}, {"sums", "sums", false}, {"shopping", "shopping list", true},
	{carriedRig, "the rig itself, in a page that is saved", false}, {carry.Names, "names of people, in that", true},
}

// carriedRig is the rig that stands in a page of its sheet, to be read back.
const carriedRig = "rig"

// rigWithin is a rig as it stands in a page, and what was left out of it.
type rigWithin struct{ Doc, Without string }

// Within is the rig for a page from which those parts are left out; nil where it is one of them.
func Within(r *rig.Rig, out []string) (*rigWithin, error) {
	if slices.Contains(out, carriedRig) {
		return nil, nil
	}
	doc, lacks, err := carry.Of(r, out)
	if err != nil {
		return nil, fmt.Errorf("the rig in its sheet: %w", err)
	}
	return &rigWithin{string(doc), strings.Join(lacks, " ")}, nil
}

func sheetPartNames() string {
	var names []string
	for _, p := range sheetParts {
		names = append(names, p.key)
	}
	return strings.Join(names, ", ")
}

// LeftOut are the parts that do not stand on a sheet with these, and without those.
func LeftOut(with, without []string) (names []string, err error) {
	for _, name := range slices.Concat(with, without) {
		if !slices.ContainsFunc(sheetParts, func(p struct {
			key, label string
			asked      bool
		}) bool {
			return p.key == name
		}) {
			return nil, fmt.Errorf("part %q is not accepted; accepted: %s", name, sheetPartNames())
		}
	}
	for _, p := range sheetParts {
		if slices.Contains(without, p.key) || p.asked && !slices.Contains(with, p.key) {
			names = append(names, p.key)
		}
	}
	return names, nil
}

// Without leaves parts out.
func (s *View) Without(names []string) {
	for _, name := range names {
		switch name {
		case "power":
			s.Supplies, s.Leads, s.Plugs, s.Orders = nil, nil, nil, nil
		case "plugs":
			s.Plugs = nil
		case "back":
			s.Back = nil
		case "fit":
			s.Fit = nil
		case "steps":
			s.Steps, s.Back = nil, nil
		case "tries":
			s.Tries = nil
		case "runs":
			s.Runs, s.Gains = nil, nil
		case "open":
			s.Open, s.NoOpen = nil, true
		case "settings":
			s.Settings = nil
		case "found":
			s.Found = nil
		case "costs":
			s.Costs = nil
		case "diary":
			s.Diary = nil
		case "sums":
			s.Sums = nil
		}
	}
}

// build puts the evening on paper: the order of switching, the steps, the way back, and
// what was tried.
func (s *View) build(r *rig.Rig, report *assess.Report, ref *reference.Tables) {
	end, says := bringup.Of(r, ref, report.Findings).Forbids()
	orders := bringup.OrdersOf(r, ref)
	meant := bringup.MeantOrder(r, orders)
	slices.SortStableFunc(orders, func(a, b bringup.Order) int { return boolOrder(b.Order == meant) - boolOrder(a.Order == meant) })
	for i := range orders {
		o := assembly.OrderOf(&orders[i], meant)
		if end != "" { // whichever way it is switched on
			s.Orders = [][]string{{"any order", end, says}}
			break
		}
		s.Orders = append(s.Orders, []string{o.Name, o.Found, o.Spare})
	}
	evening := bringup.ReportOf(r, ref)
	for i := range evening.Steps {
		step := &evening.Steps[i]
		with := strings.Join(step.Tools, ", ")
		if len(step.Screws) > 0 {
			with = strings.TrimPrefix(with+"; screws "+strings.Join(step.Screws, ", "), "; ")
		}
		s.Steps = append(s.Steps, sheetStep{Do: step.Do, With: with, Mind: step.Cautions, Done: bringup.Done(r, step.ID)})
	}
	s.Standing = standingWords(evening)
	s.sayOnce()
	for i := range evening.Back {
		s.Back = append(s.Back, evening.Back[i].Do)
	}
	cat, err := bringup.Load()
	if err != nil {
		return // the catalogue is part of the program: its tests read it
	}
	var v assembly.FaultView
	v.ListTries(r, cat)
	for i := len(v.Tries) - 1; i >= 0; i-- {
		t := &v.Tries[i]
		s.Tries = append(s.Tries, []string{t.When, t.Did, t.Saw, t.Says})
	}
}

// oftenSaid is how many steps may say one caution before it is said once for all of them.
const oftenSaid = 3

// sayOnce lifts what many steps say to the head of them, with their numbers.
func (s *View) sayOnce() {
	steps := map[string][]string{}
	for i, step := range s.Steps {
		for _, caution := range step.Mind {
			steps[caution] = append(steps[caution], strconv.Itoa(i+1))
		}
	}
	for i := range s.Steps {
		s.Steps[i].Mind = slices.DeleteFunc(slices.Clone(s.Steps[i].Mind), func(caution string) bool {
			at := steps[caution]
			if len(at) > oftenSaid && at[0] == strconv.Itoa(i+1) {
				s.Standing = append(s.Standing, "Steps "+phrase.List(at, "and")+": "+caution)
			}
			return len(at) > oftenSaid
		})
	}
}

// standingWords are the cautions that hold over a stretch, with the numbers of its steps.
func standingWords(report *bringup.Report) (list []string) {
	number := func(id string) int {
		return 1 + slices.IndexFunc(report.Steps, func(s bringup.Step) bool { return s.ID == id })
	}
	for _, c := range report.Standing {
		from, to := number(c.From), number(c.To)
		switch {
		case from == 1 && to == len(report.Steps):
			list = append(list, c.Says)
		case from == to:
			list = append(list, fmt.Sprintf("Step %d: %s", from, c.Says))
		default:
			list = append(list, fmt.Sprintf("Steps %d to %d: %s", from, to, c.Says))
		}
	}
	return list
}

// measured puts runs on paper, and what changed between those made alike.
func (s *View) measured(r *rig.Rig) {
	for _, run := range proofroom.RunRows(r) {
		s.Runs = append(s.Runs, [4]string{run.Name, run.Side, run.Average, run.Lows})
	}
	for _, g := range proof.GainsOf(r) {
		v := proofroom.GainOf(r, &g)
		for _, row := range v.Rows {
			row[0] = v.Use + ": " + row[0]
			s.Gains = append(s.Gains, row)
		}
	}
}

// found holds the plan against what was read.
func (s *View) found(r *rig.Rig, report *assess.Report) {
	var v proofroom.View
	v.FindAll(r, report)
	for _, f := range v.Found {
		s.Found = append(s.Found, [3]string{f.Planned, f.Found, f.Says})
	}
}

// costs puts the ledger on paper.
func (s *View) costs(r *rig.Rig, report *assess.Report, ref *reference.Tables) {
	v := ledger.Of(r, report, ref)
	c := &sheetCosts{Totals: v.Totals, Worth: v.Gains}
	for _, row := range v.Rows {
		c.Lines = append(c.Lines, [4]string{row.Name, rig.Spoken(rig.LineNeed(row.Need)), rig.Spoken(rig.LineState(row.State)), row.Cost})
	}
	for _, a := range v.Against {
		c.Worth = append(c.Worth, a.Name+": "+a.Says)
	}
	s.Costs = c
}

// FontFaces are what the style fetches: a page of its own has none.
var FontFaces = regexp.MustCompile(`@font-face\s*\{[^}]*\}`)

func boolOrder(b bool) int {
	if b {
		return 1
	}
	return 0
}

// Make makes the sheet of a rig.
func Make(r *rig.Rig, report *assess.Report, ref *reference.Tables, inches bool) *View {
	s := &View{
		Name: r.Name, Host: phrase.Or(r.Host.Name, "host not named"), Card: phrase.Or(r.Card.Name, "no card chosen"),
		Lanes: LaneStatement(report),
	}
	s.Verdict, _ = verdict.VerdictWords(report)
	subjects := verdict.SubjectsOf(report, r, inches)
	verdict.BoundCard(subjects, report, r, ref, inches)
	s.Answer = verdict.AnswerOf(report, r, subjects, string(finding.Power))
	for _, about := range subjects {
		if about.Level >= finding.Risk {
			s.About = append(s.About, about)
		}
	}
	for _, e := range report.Link.Elements {
		s.Stages = append(s.Stages, append([]string{e.Name}, phrase.Lanes(e)...))
	}
	s.power(r, report)
	for _, f := range fit.Figures(r, report, inches) {
		s.Fit = append(s.Fit, [2]string{f.Label, f.Value})
	}
	for _, f := range report.Findings {
		if f.Level > finding.Note {
			s.Open = append(s.Open, f)
		}
	}
	for _, w := range r.Brief.Works {
		s.Works = append(s.Works, strings.TrimSuffix(w.Name+", "+w.Often, ", "))
	}
	s.Settings, s.Cautions, s.Picture = settings(r, report), cautions(r), draw.Paper(report)
	s.build(r, report, ref)
	s.measured(r)
	s.found(r, report)
	s.costs(r, report, ref)
	for i := range r.Diary {
		s.Diary = append(s.Diary, [2]string{phrase.When(r.Diary[i].When), proofroom.DiaryWords(&r.Diary[i])})
	}
	s.Sums = why.Lines(r, ref, report, "power.sustained_w", "power.supply_share", "link.margin_db", "fit.gap_mm")
	return s
}

// Shop puts the shopping list by specification on paper, which takes a search; not where it is
// left out.
func (s *View) Shop(ctx context.Context, r *rig.Rig, ref *reference.Tables, out []string) error {
	if slices.Contains(out, "shopping") {
		return nil
	}
	list, err := need.Of(ctx, r, ref)
	if err != nil {
		return err
	}
	for i := range list.Shopping {
		s.Shopping = append(s.Shopping, list.Shopping[i].Part+", "+list.Shopping[i].Line)
	}
	return nil
}

// Unknown are the open findings that only ask.
func (s *View) Unknown() (list []finding.Finding) {
	for _, f := range s.Open {
		if f.Level == finding.Unknown {
			list = append(list, f)
		}
	}
	return list
}

// LaneStatement says in plain words what is wired, what limits, what the link
// will be, and that an idle reading proves nothing about speed.
func LaneStatement(report *assess.Report) []string {
	p := report.Link
	if len(p.Elements) == 0 {
		return []string{"No slot is chosen yet, so nothing can be said of the lanes."}
	}
	slot, card := p.Elements[0], p.Elements[len(p.Elements)-1]
	wired := fmt.Sprintf("The host wires %s of generation %s to %s", countWords(slot.Lanes), phrase.Of(slot.Gen), slot.Name)
	if slot.Tunnel {
		wired = "The host tunnels PCIe through " + slot.Name + ", among other traffic"
	}
	list := []string{fmt.Sprintf(
		"%s; the card, %s, could use %s of generation %s.", wired, card.Name, countWords(card.Lanes), phrase.Of(card.Gen),
	)}
	switch pinch, known := p.Pinch(); {
	case p.None:
		return append(list, "The slot carries no PCIe: there will be no link.")
	case !p.Known():
		return append(
			list,
			fmt.Sprintf(
				"Not every part's lanes and generation are known: the link may be %s, with %s each way after packets.",
				phrase.Link(report), phrase.Figure(report, "link.net_gb_s", phrase.Rate),
			),
		)
	case known && pinch.Where == "/card":
		list = append(list, "The card itself is what limits the link.")
	case known && pinch.Tunnel:
		list = append(list, fmt.Sprintf("What limits the link is the tunnel of %s.", pinch.Name))
	case known:
		list = append(
			list,
			fmt.Sprintf(
				"What limits the link is %s: %s of generation %d.", pinch.Name, phrase.Plural(link.Legal(pinch.Lanes.Value), "lane"),
				pinch.Gen.Value,
			),
		)
	}
	list = append(list, fmt.Sprintf("The link will be %s wide at generation %d: %s each way after packets, %s before.",
		phrase.Plural(p.Width, "lane"), p.Gen, phrase.Figure(report, "link.net_gb_s", phrase.Rate), phrase.Figure(report, "link.raw_gb_s",
			phrase.Rate)))
	if m, known := p.Planned(); known {
		list = append(
			list,
			fmt.Sprintf("By its loss the link is %s at that speed: %s of margin, %s to be stable.", p.Word(m), m.Words(), m.ChanceWords()),
		)
	}
	if p.Fill > 0 {
		list = append(list, fmt.Sprintf("Filling the card's memory takes %v at best.", p.Fill))
	}
	return append(
		list,
		"Read width and speed under load. At idle a card rests at a lower speed: an idle reading proves the width, not the speed.",
	)
}

func countWords(lanes rig.Fact[int]) string {
	if !lanes.Known {
		return "an unknown number of lanes"
	}
	return phrase.Plural(lanes.Value, "lane")
}

func (s *View) power(r *rig.Rig, report *assess.Report) {
	for i := range r.Supplies {
		load := &report.Power.Supplies[i]
		s.Supplies = append(
			s.Supplies,
			[]string{
				r.Supplies[i].Name, phrase.Watts(load.Load), phrase.Of(r.Supplies[i].Rating), phrase.Share(load),
				turnOnWords(&r.Supplies[i], r),
			},
		)
	}
	for i := range r.Leads {
		load := &report.Power.Leads[i]
		s.Leads = append(
			s.Leads,
			[]string{
				r.Leads[i].Name, wireEnds(r.Leads[i].From), wireEnds(r.Leads[i].To), phrase.Watts(load.Load), phrase.Amps(load),
				phrase.Of(r.Leads[i].Gauge),
			},
		)
		s.plugs(r, report, i)
	}
}

// mostPlugs are drawn: a sheet is read at the bench.
const mostPlugs = 12

// plugs draws the ends of a lead that go into a part, and those at its source that decide
// a finding.
func (s *View) plugs(r *rig.Rig, report *assess.Report, lead int) {
	load := &report.Power.Leads[lead]
	draw := func(e *power.EndLoad, end rig.LeadEnd, wanted func(*powerroom.Joint) bool) {
		if end.Part == "" || len(s.Plugs) >= mostPlugs {
			return
		}
		if one := powerroom.JointOf(r, report, load, e, end); one.Drawn != nil && wanted(&one) {
			one.Title = finding.Begin(r.Leads[lead].Name) + ", " + strings.TrimSpace(end.Part+" "+end.At)
			s.Plugs = append(s.Plugs, one)
		}
	}
	for j := range load.From {
		draw(&load.From[j], r.Leads[lead].From[j], func(one *powerroom.Joint) bool { return one.Rules != "" })
	}
	for j := range load.To {
		draw(&load.To[j], r.Leads[lead].To[j], func(*powerroom.Joint) bool { return true })
	}
}

func turnOnWords(s *rig.Supply, r *rig.Rig) string {
	switch {
	case rig.Is(s.Kind, rig.Brick) || rig.Is(s.Kind, rig.USBC):
		return "its mains plug"
	case !s.TurnOn.Known && r.Host.Supply == s.Name:
		return "the host's board"
	case rig.Is(s.TurnOn, rig.TurnOnDock):
		return "the dock"
	default:
		return phrase.Of(s.TurnOn)
	}
}

func wireEnds(ends []rig.LeadEnd) string {
	list := make([]string, len(ends))
	for i, e := range ends {
		list[i] = strings.TrimSpace(e.Part + " " + e.At)
	}
	return strings.Join(list, " + ")
}

// settings are what has to be set on the host for this rig to work.
func settings(r *rig.Rig, report *assess.Report) (list []string) {
	if r.Route.ForcedGen.Known {
		list = append(list, fmt.Sprintf("Hold the slot to Gen %d in the firmware.", r.Route.ForcedGen.Value))
	}
	if rig.Is(r.Host.Graphics, "discrete") {
		list = append(list, "Switch the host's own card off in the firmware.")
	}
	if r.Card.Window.Value > 0.25 {
		list = append(list, "Switch large address decoding on in the firmware.")
	}
	if p := report.Link; len(p.Elements) > 0 && p.Elements[0].Tunnel {
		list = append(list, "Gadgets chained behind the box share its rate: leave them off while it works.")
	}
	dead := rig.Is(r.Host.Panel, rig.PanelDead)
	if kind, told := r.Brief.Screen.Kind.Get(); told && kind != rig.OwnPanel && kind != rig.NoScreen {
		list = append(list, "Sound may move with the picture to the card's output: choose it again in the system.")
		if rig.Is(r.Host.Kind, "notebook") {
			list = append(list, "Keep the host awake with its lid closed.")
		}
	}
	if dead {
		list = append(list, "Switch the dead panel off as a screen, and its touch layer too, so that it presses nothing by itself.")
	}
	return list
}

// cautions are the usual ones for what the rig has.
func cautions(r *rig.Rig) []string {
	list := []string{
		"Mains and battery off, and a minute's wait, before a cover comes off or a plug is moved. Local electrical rules and licensed hands " +
			"come first.",
		"A supply is never opened: what is inside stays charged after the plug is out.",
		"Connect and disconnect the link only with both sides off.",
	}
	for i := range r.Supplies {
		if how, known := r.Supplies[i].TurnOn.Get(); known && (how == rig.TurnOnSwitch || how == "jumper" || how == "wire") {
			return append(
				list,
				"Turning "+r.Supplies[i].Name+" on joins turn-on (green) and ground (black) at its main plug, and no other two pins: prefer a made "+
					"jumper plug or a switch-on board that follows the host. Never bridge any other pair.",
			)
		}
	}
	return list
}
