package main

import (
	"errors"
	"fmt"
	"io"
	"strings"
	"text/tabwriter"

	"kolvan/core/assess"
	"kolvan/core/bringup"
	"kolvan/core/finding"
	"kolvan/core/reference"
	"kolvan/core/rig"
	"kolvan/core/units"
)

// each runs a call on every file it can read, prints what came of it, and exits as assess
// does where stops says so.
func each[T any](
	files []string,
	asJSON bool,
	call func(*rig.Rig, *reference.Tables) (T, error),
	write func(io.Writer, T) error,
	stops func(T) bool,
) error {
	ref, err := reference.Load()
	if err != nil {
		return err
	}
	var wrong []error
	var answers []T
	stop := false
	for _, name := range files {
		r, err := readRig(name)
		if err == nil {
			var answer T
			if answer, err = call(r, ref); err == nil {
				stop = stop || stops(answer)
				answers = append(answers, answer)
				continue
			}
		}
		wrong = append(wrong, fmt.Errorf("%s: %w", name, err))
	}
	if asJSON {
		err = printJSON(stdout, answers, len(files))
	} else {
		for _, a := range answers {
			err = errors.Join(err, write(stdout, a))
		}
	}
	switch {
	case err != nil:
		return fmt.Errorf("printing: %w", err)
	case wrong != nil:
		return errors.Join(wrong...)
	case stop:
		return &exitError{code: exitStops}
	}
	return nil
}

// forbids reports a finding that forbids going on.
func forbids(findings []finding.Finding) bool {
	for i := range findings {
		if findings[i].Level >= finding.Blocked {
			return true
		}
	}
	return false
}

type stepsCommand struct {
	Files []string `arg:"" name:"file" help:"Rig files; - for standard input."`
	JSON  bool     `name:"json" help:"Print kolvan-steps/1; an array where several files are given."`
}

// Run prints the steps of assembly in order, and the way back.
func (c *stepsCommand) Run() error {
	call := func(r *rig.Rig, ref *reference.Tables) (*bringup.Report, error) { return bringup.ReportOf(r, ref), nil }
	return each(c.Files, c.JSON, call, writeSteps, func(r *bringup.Report) bool { return forbids(r.Findings) })
}

func writeSteps(w io.Writer, r *bringup.Report) error {
	fmt.Fprintf(
		w, "%s\n%d steps, %.0f to %.0f min, the host turned over %s\n\n", r.Rig, len(r.Steps), r.Minutes[0], r.Minutes[1],
		times(r.Turns),
	)
	for i := range r.Steps {
		s := &r.Steps[i]
		for _, standing := range r.Standing {
			if standing.From == s.ID {
				fmt.Fprintf(w, "    !! from here to %s: %s\n", standing.To, standing.Says)
			}
		}
		fmt.Fprintf(w, "%2d  %s  [%s, %s, %.0f to %.0f min]\n", i+1, s.Do, s.ID, placeWords(s.Place), s.Minutes[0], s.Minutes[1])
		for _, caution := range s.Cautions {
			fmt.Fprintf(w, "    ! %s\n", caution)
		}
		if s.RightWhen != "" {
			fmt.Fprintf(w, "    right when: %s\n", s.RightWhen)
		}
	}
	fmt.Fprintf(w, "\nThe way back\n")
	for i := range r.Back {
		fmt.Fprintf(w, "%2d  %s\n", i+1, r.Back[i].Do)
	}
	return writeFindings(w, r.Findings)
}

func times(n int) string {
	return map[int]string{0: "never", 1: "once", 2: "twice"}[n] + map[bool]string{true: fmt.Sprintf("%d times", n)}[n > 2]
}

func placeWords(p bringup.Place) string { return strings.Replace(string(p), "-", ", ", 1) }

// writeFindings lists findings after what was asked for.
func writeFindings(w io.Writer, findings []finding.Finding) error {
	for i := range findings {
		f := &findings[i]
		if i == 0 {
			fmt.Fprintln(w)
		}
		if _, err := fmt.Fprintf(w, "%-8s %s  [%s]\n", f.Level, f.Says, f.Rule); err != nil {
			return err
		}
	}
	return nil
}

type rehearseCommand struct {
	Files []string `arg:"" name:"file" help:"Rig files; - for standard input."`
	Order string   `help:"Order of switching: dock-first, together or host-first; the one that is meant unless told." enum:",dock-first,together,host-first" default:""`
	Seed  uint64   `help:"Another evening." default:"1"`
	Fault string   `help:"With a fault of the catalogue, by its name."`
	JSON  bool     `name:"json" help:"Print kolvan-rehearsal/1; an array where several files are given."`
}

// Run plays the power-on of every file.
func (c *rehearseCommand) Run() error {
	cat, err := bringup.Load()
	if err != nil {
		return err
	}
	var fault *bringup.Fault
	if c.Fault != "" {
		i := cat.Fault(c.Fault)
		if i < 0 {
			names := make([]string, len(cat.Faults))
			for k := range cat.Faults {
				names[k] = cat.Faults[k].Name
			}
			return fmt.Errorf("--fault %q is not accepted; accepted: %s", c.Fault, strings.Join(names, ", "))
		}
		fault = &cat.Faults[i]
	}
	call := func(r *rig.Rig, ref *reference.Tables) (*bringup.Rehearsal, error) {
		w := worldOf(r, ref)
		order := c.Order
		if order == "" {
			order = bringup.MeantOrder(r, bringup.OrdersOf(r, ref))
		}
		return w.Play(order, c.Seed, fault)
	}
	stops := func(r *bringup.Rehearsal) bool { return !r.Works() }
	return each(c.Files, c.JSON, call, writeRehearsal, stops)
}

// worldOf is the world of a rig with all that is found of it.
func worldOf(r *rig.Rig, ref *reference.Tables) *bringup.World {
	report := assess.Rig(r, ref)
	return bringup.Of(r, ref, report.Findings)
}

func writeRehearsal(w io.Writer, r *bringup.Rehearsal) error {
	fmt.Fprintf(w, "Switched on: %s%s. It %s.\n", r.Order, map[bool]string{true: ", with the fault " + r.Fault}[r.Fault != ""], endWords(r))
	for _, o := range r.Orders {
		fmt.Fprintf(w, "  %-10s found %s%s\n", o.Order, o.Found, spareWords(o))
	}
	fmt.Fprintln(w)
	t := tabwriter.NewWriter(w, 0, 0, 2, ' ', 0)
	for i := range r.Events {
		e := &r.Events[i]
		fmt.Fprintf(t, "%s\t%s\t%s\t%s\n", units.Trim(e.At/1000, 2)+" s", e.What, e.Seen, e.Rule)
	}
	if err := t.Flush(); err != nil {
		return err
	}
	fmt.Fprintf(w, "\n%s\n", r.Says)
	return writeFindings(w, r.Findings)
}

func spareWords(o bringup.Order) string {
	if o.Spare[0] == nil {
		return ": nothing switches its supply on"
	}
	return fmt.Sprintf(", %.0f to %.0f ms to spare", *o.Spare[0], *o.Spare[1])
}

func endWords(r *bringup.Rehearsal) string {
	if r.Works() || r.End == bringup.Trips || r.End == bringup.Apart {
		return r.End
	}
	return "ends: " + r.End
}

type findCommand struct {
	Files []string `arg:"" name:"file" help:"Rig files; - for standard input."`
	Seen  []string `help:"What a test showed: test=outcome; again for more. The rig's own tries count too." sep:"none"`
	Hands []string `name:"at-hand" help:"Something that is at hand for a test; again for more." sep:"none"`
	Seed  uint64   `help:"Of the evenings that are played." default:"1"`
	JSON  bool     `name:"json" help:"Print kolvan-find/1; an array where several files are given."`
}

// Run weighs what may be broken and names the next test.
func (c *findCommand) Run() error {
	cat, err := bringup.Load()
	if err != nil {
		return err
	}
	var told []bringup.Seen
	for _, text := range c.Seen {
		seen, err := bringup.ParseSeen(text, cat)
		if err != nil {
			return err
		}
		told = append(told, seen)
	}
	call := func(r *rig.Rig, ref *reference.Tables) (*bringup.Search, error) {
		r.Build.AtHand = append(r.Build.AtHand, c.Hands...)
		finder := bringup.NewFinder(worldOf(r, ref), cat, c.Seed)
		seen := append(bringup.SeenOf(r, cat), told...)
		if err := finder.Asked(seen); err != nil {
			return nil, err
		}
		return finder.Search(seen), nil
	}
	return each(c.Files, c.JSON, call, writeSearch, func(*bringup.Search) bool { return false })
}

// fewSuspects are printed for a person.
const fewSuspects = 8

func writeSearch(w io.Writer, s *bringup.Search) error {
	if s.Forbids != "" {
		fmt.Fprintf(w, "%s\n\n", s.Forbids)
	}
	for i := range s.Suspects[:min(fewSuspects, len(s.Suspects))] {
		f := &s.Suspects[i]
		fmt.Fprintf(w, "%5.1f %%  %s  [%s]: %s %.0f min\n", 100*f.Weight, f.Says, f.Fault, f.Mend, f.Minutes)
	}
	for _, e := range s.Evidence {
		fmt.Fprintf(w, "seen: %s=%s, from %s\n", e.Test, e.Outcome, e.From)
	}
	for _, odd := range s.Odd {
		fmt.Fprintf(w, "\n%s\n", odd)
	}
	if s.Next != nil {
		fmt.Fprintf(w, "\nNext: %s  [%s] %.0f min, %.2f bit\n", s.Next.Do, s.Next.Test, s.Next.Minutes, s.Next.Bits)
		for i := range s.Then {
			fmt.Fprintf(w, "then: %s  [%s] %.0f min\n", s.Then[i].Do, s.Then[i].Test, s.Then[i].Minutes)
		}
	}
	if s.Stop != nil {
		fmt.Fprintf(w, "\n%s\n", s.Stop.Says)
	}
	_, err := fmt.Fprintf(w, "\n%s\n", s.Left)
	return err
}
