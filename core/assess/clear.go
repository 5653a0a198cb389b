package assess

import (
	"fmt"
	"reflect"
	"slices"
	"strconv"

	"github.com/go-json-experiment/json"

	"kolvan/core/finding"
	"kolvan/core/reference"
	"kolvan/core/rig"
)

// Bins are the parts at hand: changes are tried with them.
type Bins struct {
	Cards    []rig.Card
	Supplies []rig.Supply
	Leads    []rig.Lead
}

// A candidate is one change that might clear something: the rig with the change
// made, and the change in words.
type candidate struct {
	says   string
	kind   kind
	lead   int // the lead an outletKind changes
	supply int // the supply a supplyKind brings
	rig    *rig.Rig
	after  Report // what is found with the change made

	patch []byte // made when first wanted
}

// kind sorts the candidates; rules name the kinds that can cure them.
type kind int

const (
	slotKind kind = iota
	homeKind
	outletKind
	cardKind
	supplyKind
	turnOnKind
	kinds
)

// So many changes are offered for one finding, and so many of one kind.
const (
	mostChanges = 3
	mostOfAKind = 2
)

// Clear fills in, for every finding of the report that is more than a note, the
// changes that clear it. Each change is tried on a copy of the rig and kept only
// when the finding is gone and nothing as bad, or worse, has come in.
func Clear(report *Report, r *rig.Rig, ref *reference.Tables, bins *Bins) error {
	s := &search{given: given{r, ref, bins, report.Power}, findings: report.Findings, offered: make([][kinds]int, len(report.Findings))}
	for _, source := range sources {
		if !s.wants(source.kind) {
			continue
		}
		for _, c := range source.list(&s.given) {
			if err := s.try(&c); err != nil {
				return err
			}
		}
	}
	return nil
}

// A search tries changes one after another.
type search struct {
	given
	findings []finding.Finding
	offered  [][kinds]int // to each finding, by kind
	scratch  []finding.Finding
}

// wants reports a finding that has not enough changes of the kind yet.
func (s *search) wants(k kind) bool {
	for i := range s.findings {
		if s.wantsFor(i, k) {
			return true
		}
	}
	return false
}

func (s *search) wantsFor(i int, k kind) bool {
	f := &s.findings[i]
	return len(f.Clear) < mostChanges && s.offered[i][k] < mostOfAKind && cures(f, k)
}

// try makes the change on its copy and offers it to every finding it clears.
func (s *search) try(c *candidate) error {
	if !s.wants(c.kind) {
		return nil
	}
	c.after = judge(c.rig, s.ref, &finding.List{Silent: true, Findings: s.scratch[:0]})
	s.scratch = c.after.Findings
	for i := range s.findings {
		f := &s.findings[i]
		if !s.wantsFor(i, c.kind) || !clears(f, s.findings, c.after.Findings) {
			continue
		}
		if err := c.finish(s.rig); err != nil {
			return err
		}
		s.offered[i][c.kind]++
		f.Clear = append(f.Clear, finding.Change{Change: c.says + c.figureWords(f.Rule), Patch: c.patch})
	}
	return nil
}

// cures keeps senseless offers away: another card is no cure for a slow slot,
// and a new supply none for a slot. A note asks for nothing, and a missing fact
// is to be found.
func cures(f *finding.Finding, k kind) bool {
	return f.Level != finding.Note && f.Level != finding.Unknown && slices.Contains(curable[k], f.Rule)
}

var (
	linkRules   = []string{"link.no-pcie", "link.form-mismatch", "link.width", "link.narrow-card", "boot.displaced", "net.displaced"}
	supplyRules = []string{"power.total", "power.rail", "power.headroom"}
	loadRules   = []string{"power.slot-limit", "power.connector", "power.lead"}
)

// curable lists the rules each kind of change may clear.
var curable = map[kind][]string{
	slotKind:   append([]string{"power.slot-limit", "power.unfed"}, linkRules...),
	homeKind:   linkRules,
	outletKind: append([]string{"power.unfed", "power.pins"}, loadRules...),
	supplyKind: append([]string{"power.unfed"}, supplyRules...),
	turnOnKind: {"power.turn-on"},
	cardKind: slices.Concat([]string{"work.memory", "work.encoder", "fit.card", "fit.tight", "fit.bracket", "link.narrow-card", "link.form-mismatch", "power.card", "brief.budget"},
		loadRules, supplyRules),
}

// clears reports that the finding is gone and that nothing has come in that
// forbids going on, leaves a fact open, or is as bad as what was cleared.
func clears(f *finding.Finding, before, after []finding.Finding) bool {
	for i := range after {
		a := &after[i]
		if a.Rule == f.Rule && (a.Where == f.Where || a.Level >= f.Level && countOf(after, f) >= countOf(before, f)) {
			return false
		}
		if (a.Level >= f.Level || a.Level >= finding.Unknown) && !contains(before, a) {
			return false
		}
	}
	return true
}

// countOf counts the findings of f's rule that are as bad as f.
func countOf(findings []finding.Finding, f *finding.Finding) (n int) {
	for i := range findings {
		if findings[i].Rule == f.Rule && findings[i].Level >= f.Level {
			n++
		}
	}
	return n
}

// contains reports a finding that was there before and was as bad.
func contains(findings []finding.Finding, f *finding.Finding) bool {
	for i := range findings {
		if b := &findings[i]; b.Rule == f.Rule && b.Where == f.Where && b.Level >= f.Level {
			return true
		}
	}
	return false
}

// finish makes the patch and the new figures of a change that is offered.
func (c *candidate) finish(r *rig.Rig) (err error) {
	if c.patch != nil {
		return nil
	}
	c.after.Figures = figures(c.rig, &c.after)
	c.patch, err = patchOf(r, c.rig)
	return err
}

// operation is one operation of a JSON Patch.
type operation struct {
	Op    string `json:"op"`
	Path  string `json:"path"`
	Value any    `json:"value,omitzero"`
}

// patchOf is the JSON Patch from one rig file to the other, for all that the
// candidates change: the host's supply, the route, the card, supplies and leads.
func patchOf(from, to *rig.Rig) ([]byte, error) {
	var patch []operation
	patch = put(patch, "/host/supply", &from.Host.Supply, &to.Host.Supply)
	patch = put(patch, "/route", &from.Route, &to.Route)
	patch = put(patch, "/card", &from.Card, &to.Card)
	patch = putEach(patch, "/supplies", from.Supplies, to.Supplies)
	patch = putEach(patch, "/leads", from.Leads, to.Leads)
	text, err := json.Marshal(patch)
	if err != nil {
		return nil, fmt.Errorf("making the patch of a change: %w", err)
	}
	return text, nil
}

// put replaces a member that differs; adding a member that is there replaces it.
func put[T any](patch []operation, path string, from, to *T) []operation {
	if reflect.DeepEqual(from, to) {
		return patch
	}
	return append(patch, operation{"add", path, to})
}

// putEach replaces the entries of a list that differ, adds those behind its end
// and removes those no longer there, last first.
func putEach[T any](patch []operation, path string, from, to []T) []operation {
	if from == nil && to != nil {
		return append(patch, operation{"add", path, to})
	}
	for i := range to {
		switch {
		case i >= len(from):
			patch = append(patch, operation{"add", path + "/-", &to[i]})
		case !reflect.DeepEqual(&from[i], &to[i]):
			patch = append(patch, operation{"replace", path + "/" + strconv.Itoa(i), &to[i]})
		}
	}
	for i := len(from) - 1; i >= len(to); i-- {
		patch = append(patch, operation{Op: "remove", Path: path + "/" + strconv.Itoa(i)})
	}
	return patch
}
