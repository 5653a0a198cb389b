package verdict

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"kolvan/core/assess"
	"kolvan/core/finding"
	"kolvan/core/power"
	"kolvan/core/reference"
	"kolvan/core/rig"
	"kolvan/core/units"
	"kolvan/web/phrase"
	"kolvan/web/room"
)

// Subject is what is said of one thing and one cause: the finding that heads it, the others
// as what is so besides, what clears the worst, and what would do where nothing at hand does.
type Subject struct {
	ID, Name     string
	Station, Sel string
	Level        finding.Level // the worst of its findings
	Line, Tag    string        // of the head: a sentence without its full stop, two or three words
	Would        string        // what would do
	Head         FindingView
	Also         []FindingView
	Changes      []changeView // the one to press first
	Led          bool         // the answer is about it
	Pressed      bool         // its first change stands in the answer
}

// First is the change to press first, none where nothing is offered or the answer has it; Others are the rest.
func (s Subject) First() []changeView {
	if s.Pressed {
		return nil
	}
	return s.Changes[:min(1, len(s.Changes))]
}

// Others are the changes beside the first.
func (s Subject) Others() []changeView { return s.Changes[min(1, len(s.Changes)):] }

// AlsoLines are what is so besides, each once, with how often where that is more than once.
func (s Subject) AlsoLines() (lines []string) {
	times := map[string]int{}
	for _, f := range s.Also {
		if times[f.Line]++; times[f.Line] == 1 && f.Line != s.Line {
			lines = append(lines, f.Line)
		}
	}
	for i, line := range lines {
		if n := times[line]; n > 1 {
			lines[i] = fmt.Sprintf("%s, %d times", line, n)
		}
	}
	return lines
}

// Says is what its head says, where the answer does not say that already.
func (s Subject) Says() string {
	if s.Led && strings.EqualFold(s.Head.Says, s.Line+".") {
		return ""
	}
	return s.Head.Says
}

// All are its findings, the head first.
func (s Subject) All() []FindingView { return append([]FindingView{s.Head}, s.Also...) }

// Answered is the reason that somebody gave for all of it that asks for one; "" while any of
// that is open.
func (s Subject) Answered() string {
	reason := ""
	for _, f := range s.All() {
		if !f.CanAcknowledge() {
			continue
		}
		if f.Acknowledged == "" {
			return ""
		}
		reason = cmp.Or(reason, f.Acknowledged)
	}
	return reason
}

// FindingView is a finding with where to go for it.
type FindingView struct {
	finding.Finding
	Line    string // in a sentence without its full stop
	Station string
	Sel     string
}

// Fires says when its rule speaks.
func (f FindingView) Fires() string { return f.Row().Fires }

// Opens reports a finding with a figure that can be opened into its sum.
func (f FindingView) Opens() bool { return f.Level != finding.Unknown && len(f.Numbers) > 0 }

// CanAcknowledge reports a finding that a person may answer for: a missing fact
// is to be found instead, a note asks for nothing.
func (f FindingView) CanAcknowledge() bool {
	return f.Level == finding.Danger || f.Level == finding.Blocked || f.Level == finding.Risk
}

// SubjectsOf gathers findings by the thing they are about, and along a feed by what flows in
// it; missing facts stand among the questions. The worst comes first, as the report has it.
func SubjectsOf(report *assess.Report, r *rig.Rig, inches bool) []Subject {
	things := make([]string, len(report.Findings))
	root := map[string]string{} // a thing of a feed → the first of its cause
	for i := range report.Findings {
		f := &report.Findings[i]
		things[i], _ = r.Subject(f.Where)
		if f.Row().Flows && f.Level != finding.Unknown {
			root[things[i]] = things[i]
		}
	}
	join(root, r)
	var order []string
	groups := map[string][]*finding.Finding{}
	for i := range report.Findings {
		f := &report.Findings[i]
		if f.Level == finding.Unknown {
			continue
		}
		key := things[i] + " " + string(f.Row().Station)
		if f.Row().Flows {
			key = "feed " + rootOf(root, things[i])
		}
		if groups[key] == nil {
			order = append(order, key)
		}
		groups[key] = append(groups[key], f)
	}
	list := make([]Subject, len(order))
	for i, key := range order {
		list[i] = subjectOf(groups[key], report, r, inches)
	}
	return list
}

// join makes one cause of what hangs on one feed: a lead, what it is plugged into at either
// end, each as far as something flows wrongly there too.
func join(root map[string]string, r *rig.Rig) {
	for i := range r.Leads {
		lead := rig.LeadPath(i)
		if root[lead] == "" {
			continue
		}
		for _, end := range slices.Concat(r.Leads[i].From, r.Leads[i].To) {
			for _, other := range partPaths(r, end.Part) {
				if root[other] != "" {
					root[rootOf(root, other)] = rootOf(root, lead)
				}
			}
		}
		for j := range r.Leads {
			if other := rig.LeadPath(j); root[other] != "" && goesOnTo(r, &r.Leads[j], &r.Leads[i]) {
				root[rootOf(root, other)] = rootOf(root, lead)
			}
		}
	}
}

// goesOnTo reports that what one lead brings goes on over another, through a stage between.
func goesOnTo(r *rig.Rig, brings, takes *rig.Lead) bool {
	return slices.ContainsFunc(takes.From, func(e rig.LeadEnd) bool { return r.Stage(e.Part) != nil && brings.EndsAt(e.Part) })
}

// rootOf follows a thing to the first of its cause.
func rootOf(root map[string]string, thing string) string {
	for root[thing] != "" && root[thing] != thing {
		thing = root[thing]
	}
	return thing
}

// partPaths are the pointers of the parts of a rig that a lead's end names.
func partPaths(r *rig.Rig, name string) (paths []string) {
	for i := range r.Supplies {
		if r.Supplies[i].Name == name {
			paths = append(paths, rig.SupplyPath(i))
		}
	}
	for i := range r.Route.Stages {
		if r.Route.Stages[i].Name == name {
			paths = append(paths, rig.StagePath(i))
		}
	}
	for i := range r.Leads {
		if r.Leads[i].Name == name {
			paths = append(paths, rig.LeadPath(i))
		}
	}
	return paths
}

// subjectOf puts the head first: the supply that is asked for too much where that is the
// cause, else the worst by level and then by how far its figure is over.
func subjectOf(found []*finding.Finding, report *assess.Report, r *rig.Rig, inches bool) Subject {
	level := found[0].Level
	slices.SortStableFunc(found, func(a, b *finding.Finding) int {
		return cmp.Or(cmp.Compare(causes(b), causes(a)), cmp.Compare(b.Level, a.Level), cmp.Compare(over(b), over(a)))
	})
	s := Subject{Level: level, Head: viewOfFinding(found[0], report, r, inches)}
	for _, f := range found[1:] {
		s.Also = append(s.Also, viewOfFinding(f, report, r, inches))
	}
	first := found[0]
	speaker := speakerOf(first, report, r, inches)
	thing, name := r.Subject(first.Where)
	s.ID = "about-" + strings.NewReplacer("/", "-", " ", "-").Replace(strings.TrimPrefix(thing, "/")) + "-" + s.Head.Station
	s.Name, s.Station, s.Sel, s.Line = finding.Sentence(name), s.Head.Station, s.Head.Sel, s.Head.Line
	s.Tag = speaker.Tag(first)
	s.Changes = changesOf(found, report, r.Brief.Currency)
	if level >= finding.Risk {
		s.Would = speaker.Would(first)
	}
	return s
}

// BoundCard says again what would do where too much flows, with how much a card may draw.
func BoundCard(subjects []Subject, report *assess.Report, r *rig.Rig, ref *reference.Tables, inches bool) {
	for i := range subjects {
		s := &subjects[i]
		if s.Would == "" || !s.Head.Row().Flows || s.Answered() != "" {
			continue
		}
		var over []*finding.Finding
		for _, f := range s.All() {
			if f.Row().Flows && f.Level >= finding.Risk {
				over = append(over, &f.Finding)
			}
		}
		speaker, some := speakerOf(&s.Head.Finding, report, r, inches), false
		if speaker.Card, some = assess.CardUpTo(over, r, ref); !some {
			speaker.Card = finding.NoCard
		}
		s.Would = speaker.Would(&s.Head.Finding)
	}
}

// causes says that a finding is the cause of what flows wrongly behind it: a supply that is
// asked for more than it gives, its whole before one of its rails.
func causes(f *finding.Finding) int {
	switch {
	case f.Level < finding.Blocked:
		return 0
	case f.Rule == power.RuleTotal:
		return 2
	case f.Rule == power.RuleRail:
		return 1
	default:
		return 0
	}
}

// over is how many times its limit a finding's figure is; 0 where it has no two figures.
func over(f *finding.Finding) float64 {
	if !f.Row().Flows || len(f.Numbers) < 2 || f.Numbers[1].Value <= 0 {
		return 0
	}
	return f.Numbers[0].Value / f.Numbers[1].Value
}

func viewOfFinding(f *finding.Finding, report *assess.Report, r *rig.Rig, inches bool) FindingView {
	speaker := speakerOf(f, report, r, inches)
	return FindingView{Finding: *f, Line: speaker.Line(f), Station: StationOf(f), Sel: room.ThingOf(f.Where)}
}

// speakerOf says findings with the names of this rig, at its planned share.
func speakerOf(f *finding.Finding, report *assess.Report, r *rig.Rig, inches bool) finding.Speaker {
	thing, name := r.Subject(f.Where)
	s := finding.Speaker{Thing: name, Short: shortName(thing, name), Long: func(l units.Millimetre) string {
		return phrase.Length(l.Ruled(),
			inches)
	}}
	if report.Power != nil {
		s.Plan = float64(report.Power.Share())
	}
	return s
}

// shortName is a thing in a word or two: its name before what parts it from others of its
// kind, or what it is.
func shortName(thing, name string) string {
	for _, cut := range []string{" to ", ",", " ("} {
		name, _, _ = strings.Cut(name, cut)
	}
	if len(name) <= mostShort {
		return name
	}
	return KindOf(thing)
}

// mostShort is how long a name may be in the figure of a station.
const mostShort = 12

// changesOf are the changes that clear the worst of a subject, the one that clears most of
// the whole report first; of two such the one that makes least worse. Another card comes last.
func changesOf(found []*finding.Finding, report *assess.Report, currency string) []changeView {
	var offered []finding.Change
	for _, f := range found {
		if f.Level >= finding.Risk && len(f.Clear) > 0 {
			offered = f.Clear
			break
		}
	}
	list := make([]changeView, len(offered))
	for i, change := range offered {
		list[i] = viewOf(change, currency)
		list[i].Clears = clearsOf(report, change)
	}
	slices.SortStableFunc(list, func(a, b changeView) int {
		return cmp.Or(cmp.Compare(a.takesCard(), b.takesCard()), cmp.Compare(b.Clears, a.Clears), cmp.Compare(len(a.Change.Worsens),
			len(b.Change.Worsens)))
	})
	if len(list) > 0 {
		list[0].First = true
	}
	return list
}

// clearsOf is how many findings a change clears.
func clearsOf(report *assess.Report, change finding.Change) (n int) {
	for i := range report.Findings {
		if slices.ContainsFunc(report.Findings[i].Clear, func(c finding.Change) bool { return string(c.Patch) == string(change.Patch) }) {
			n++
		}
	}
	return n
}
