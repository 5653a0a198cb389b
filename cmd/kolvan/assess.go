package main

import (
	"context"
	"errors"
	"fmt"
	"io"
	"os"
	"strings"
	"unicode/utf8"

	"github.com/go-json-experiment/json"
	"github.com/go-json-experiment/json/jsontext"

	"kolvan/core/assess"
	"kolvan/core/finding"
	"kolvan/core/parts"
	"kolvan/core/power"
	"kolvan/core/reference"
	"kolvan/core/rig"
	"kolvan/core/units"
)

type assessCommand struct {
	Files []string `arg:"" name:"file" help:"Rig files; - for standard input."`
	JSON  bool     `name:"json" help:"Print kolvan-report/1; an array where several files are given."`
	Tries int      `default:"1200" help:"Effort for the search of changes that clear something; more finds more where the report says so."`
}

// Run prints a report for every file it can read. A file that is wrong does not
// keep the others from being assessed.
func (c *assessCommand) Run() error {
	ref, bins, err := tables()
	if err != nil {
		return err
	}
	var wrong []error
	var reports []*assess.Report
	stops := false
	for _, name := range c.Files {
		report, err := assessFile(name, ref, bins, assess.Effort(c.Tries))
		if err != nil {
			wrong = append(wrong, fmt.Errorf("%s: %w", name, err))
			continue
		}
		stops = stops || report.Stops()
		reports = append(reports, report)
	}
	if err := c.print(stdout, reports); err != nil {
		return fmt.Errorf("printing the verdict: %w", err)
	}
	if wrong != nil {
		return errors.Join(wrong...)
	}
	if stops {
		return &exitError{code: exitStops}
	}
	return nil
}

func tables() (*reference.Tables, *assess.Bins, error) {
	ref, err := reference.Load()
	if err != nil {
		return nil, nil, err
	}
	list, err := parts.Builtin()
	if err != nil {
		return nil, nil, err
	}
	bins, err := parts.Bins(list)
	return ref, bins, err
}

func assessFile(name string, ref *reference.Tables, bins *assess.Bins, effort assess.Effort) (*assess.Report, error) {
	r, err := readRig(name)
	if err != nil {
		return nil, err
	}
	report := assess.Rig(r, ref)
	if err := assess.Ask(context.Background(), &report, r, ref); err != nil {
		return nil, err
	}
	if err := assess.Clear(context.Background(), &report, r, ref, bins, effort); err != nil {
		return nil, err
	}
	return &report, nil
}

func readRig(name string) (*rig.Rig, error) {
	if name == "-" {
		return rig.Read(os.Stdin)
	}
	file, err := os.Open(name)
	if err != nil {
		return nil, errors.Unwrap(err)
	}
	defer file.Close()
	return rig.Read(file)
}

func (c *assessCommand) print(w io.Writer, reports []*assess.Report) error {
	if c.JSON {
		return printJSON(w, reports, len(c.Files))
	}
	for _, report := range reports {
		if _, err := io.WriteString(w, verdict(report)); err != nil {
			return err
		}
	}
	return nil
}

// printJSON prints what was made of files: one document for one file, an array for
// several, nothing where none could be read.
func printJSON[T any](w io.Writer, docs []T, files int) error {
	var all any = docs
	switch {
	case len(docs) == 0:
		return nil
	case files == 1:
		all = docs[0]
	}
	data, err := json.Marshal(all, jsontext.WithIndent("  "), json.Deterministic(true))
	if err != nil {
		return err
	}
	_, err = fmt.Fprintf(w, "%s\n", data)
	return err
}

// verdict is the report for a person.
func verdict(report *assess.Report) string {
	var b strings.Builder
	fmt.Fprintf(&b, "%s\n%s\n\n", report.Rig, strings.Repeat("=", utf8.RuneCountInString(report.Rig)))
	for _, line := range figureLines(report) {
		fmt.Fprintf(&b, "  %-24s %s\n", line[0], line[1])
	}
	b.WriteString("\n")
	if len(report.Findings) == 0 {
		b.WriteString("Nothing found against it.\n\n")
	}
	for i := range report.Findings {
		writeFinding(&b, &report.Findings[i])
	}
	writeQuestions(&b, report)
	if report.Untried {
		b.WriteString("Not every change was tried: call again with a larger --tries.\n\n")
	}
	return b.String()
}

// writeQuestions lists what to find out, with what each answer would bring.
func writeQuestions(b *strings.Builder, report *assess.Report) {
	if len(report.Questions) == 0 {
		return
	}
	b.WriteString("To find out\n-----------\n")
	for _, q := range report.Questions {
		fmt.Fprintf(b, "  %s  [%s]\n    %s\n", q.Asks, q.Fact, q.How)
		for _, a := range q.Answers {
			words := "nothing against it"
			if len(a.Then) > 0 {
				words = fmt.Sprintf("%s %s: %s", a.Then[0].Level, a.Then[0].Rule, a.Then[0].Says)
			}
			fmt.Fprintf(b, "    %s → %s\n", a.If, words)
		}
	}
	b.WriteString("\n")
}

func writeFinding(b *strings.Builder, f *finding.Finding) {
	fmt.Fprintf(b, "%-8s %s  [%s at %s]\n         %s\n", strings.ToUpper(f.Level.String()), f.Title, f.Rule, f.Where, f.Says)
	for _, change := range f.Clear {
		fmt.Fprintf(b, "         → %s\n", change.Change)
		if len(change.Worsens) > 0 {
			fmt.Fprintf(b, "           worse then: %s\n", strings.Join(change.Worsens, "; "))
		}
	}
	if f.Acknowledged != "" {
		fmt.Fprintf(b, "         acknowledged: %s\n", f.Acknowledged)
	}
	b.WriteString("\n")
}

func figureLines(report *assess.Report) [][2]string {
	f := &report.Figures
	gap := "open air"
	if !report.Chamber.Open() {
		gap = orUnknown(f.Gap, func(v float64) string { return units.Millimetre(v).String() })
	}
	return [][2]string{
		{"link", linkWords(f)},
		{"pinch", orUnknown(f.Pinch, func(s string) string { return s })},
		{"to fill the card", orUnknown(f.Fill, func(v float64) string { return units.Second(v).String() })},
		{"sustained, card's supply", orUnknown(f.Sustained, func(v float64) string { return units.Watt(v).String() })},
		{"share of its rating", orUnknown(f.SupplyShare, power.Percent)},
		{"smallest gap", gap},
	}
}

func linkWords(f *assess.Figures) string {
	if f.Width != nil && *f.Width == 0 {
		return "none: no PCIe reaches the card"
	}
	width := orUnknown(f.Width, func(w int) string { return fmt.Sprintf("x%d", w) })
	gen := orUnknown(f.Gen, func(g int) string { return fmt.Sprintf("Gen %d", g) })
	net := orUnknown(f.Net, func(v float64) string { return units.GigabytePerSecond(v).String() + " net" })
	return width + ", " + gen + ", " + net
}

func orUnknown[T any](v *T, words func(T) string) string {
	if v == nil {
		return "unknown"
	}
	return words(*v)
}
