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
	after  []finding.Finding

	patch   []byte // made when first wanted
	figures Report
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
)

// mostChanges is how many changes are offered for one finding.
const mostChanges = 3

// Clear fills in, for every finding of the report that is more than a note, the
// changes that clear it. Each change is tried on a copy of the rig and kept only
// when the finding is gone and nothing as bad, or worse, has come in.
func Clear(report *Report, r *rig.Rig, ref *reference.Tables, bins *Bins) error {
	tried := candidates(r, ref, bins, func(k kind) bool { return wanted(report.Findings, k) })
	for i := range tried {
		tried[i].after = judge(tried[i].rig, ref, true).Findings
	}
	for i := range report.Findings {
		if err := clearOne(&report.Findings[i], report.Findings, r, ref, tried); err != nil {
			return err
		}
	}
	return nil
}

// wanted reports a finding that a kind of change may clear.
func wanted(findings []finding.Finding, k kind) bool {
	return slices.ContainsFunc(findings, func(f finding.Finding) bool { return cures(&f, k) })
}

func clearOne(f *finding.Finding, before []finding.Finding, r *rig.Rig, ref *reference.Tables, tried []candidate) error {
	perKind := map[kind]int{}
	for i := range tried {
		c := &tried[i]
		if len(f.Clear) == mostChanges {
			return nil
		}
		if perKind[c.kind] == 2 || !cures(f, c.kind) || !clears(f, before, c.after) {
			continue
		}
		if err := c.finish(r, ref); err != nil {
			return err
		}
		perKind[c.kind]++
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
	cardKind: slices.Concat([]string{"work.memory", "work.encoder", "fit.card", "fit.tight", "fit.bracket", "link.narrow-card", "link.form-mismatch", "power.card"},
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
func (c *candidate) finish(r *rig.Rig, ref *reference.Tables) (err error) {
	if c.patch != nil {
		return nil
	}
	c.figures = Rig(c.rig, ref)
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
