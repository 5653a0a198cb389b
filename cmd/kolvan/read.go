package main

import (
	"errors"
	"fmt"
	"io"
	"os"
	"text/tabwriter"

	"kolvan/core/finding"
	"kolvan/core/reading"
	"kolvan/core/reference"
	"kolvan/core/rig"
	"kolvan/core/units"
)

type readCommand struct {
	Files  []string `arg:"" name:"file" help:"Listings of the bus (lspci -vv) or files of a link; - for standard input."`
	Rig    string   `help:"Rig file to hold the readings against."`
	Load   string   `enum:"idle,loaded,unknown" default:"unknown" help:"Whether they were taken at idle or under load."`
	Errors int      `default:"-1" help:"Correctable errors counted; by default those of the text, and of several texts the last less the first."`
	Over   string   `help:"Over how long errors were counted under load: 10 min, 94 s."`
	JSON   bool     `name:"json" help:"Print kolvan-reading/1; an array where several files are given."`
}

// Run prints what every text says, and how it stands with the plan.
func (c *readCommand) Run() error {
	ref, err := reference.Load()
	if err != nil {
		return err
	}
	var plan *rig.Rig
	if c.Rig != "" {
		if plan, err = readRig(c.Rig); err != nil {
			return fmt.Errorf("%s: %w", c.Rig, err)
		}
	}
	var over units.Second
	if c.Over != "" {
		if err := over.Parse(c.Over); err != nil {
			return fmt.Errorf("--over: %w", err)
		}
	}
	var wrong []error
	var all []*reading.Reading
	for _, name := range c.Files {
		r, err := c.read(name)
		if err != nil {
			wrong = append(wrong, fmt.Errorf("%s: %w", name, err))
			continue
		}
		all = append(all, r)
	}
	for i, r := range all {
		if over > 0 && i == len(all)-1 {
			r.Count(c.counted(all), over, ref)
		}
		r.Hold(plan, ref)
	}
	if err := c.print(stdout, all); err != nil {
		return fmt.Errorf("printing the reading: %w", err)
	}
	if wrong != nil {
		return errors.Join(wrong...)
	}
	return stops(all)
}

// counted is how many errors came in: as told, else the last text's count, less the
// first's where there are several.
func (c *readCommand) counted(all []*reading.Reading) int {
	last := all[len(all)-1].Correctable()
	switch {
	case c.Errors >= 0:
		return c.Errors
	case len(all) > 1:
		return max(0, last-all[0].Correctable())
	default:
		return last
	}
}

func (c *readCommand) read(name string) (*reading.Reading, error) {
	from := io.Reader(os.Stdin)
	if name != "-" {
		file, err := os.Open(name)
		if err != nil {
			return nil, errors.New("it cannot be read: it is not there, or not for you")
		}
		defer file.Close()
		from = file
	}
	r, err := reading.Read(from, name)
	if err == nil && c.Load != string(reading.Unknown) {
		r.Load = reading.Load(c.Load)
	}
	return r, err
}

// stops is the exit code of what was found.
func stops(all []*reading.Reading) error {
	for _, r := range all {
		for _, f := range r.Findings {
			if f.Level >= finding.Blocked {
				return &exitError{code: exitStops}
			}
		}
	}
	return nil
}

func (c *readCommand) print(to io.Writer, all []*reading.Reading) error {
	if c.JSON {
		return printJSON(to, all, len(c.Files))
	}
	for i, r := range all {
		if len(all) > 1 {
			fmt.Fprintf(to, "%s\n", c.Files[i])
		}
		if err := printReading(to, r); err != nil {
			return err
		}
	}
	return nil
}

func printReading(to io.Writer, r *reading.Reading) error {
	table := tabwriter.NewWriter(to, 0, 0, 2, ' ', 0)
	for _, d := range r.Chain() {
		fmt.Fprintf(
			table, "%s\t%s\tcan do %v\truns %v\t%d correctable errors\t\n", d.Address, d.Class, d.Capable, d.Now,
			d.Errors.Correctable,
		)
	}
	if err := table.Flush(); err != nil {
		return err
	}
	if r.Card == "" {
		fmt.Fprintln(to, "No graphics card is in the text.")
	}
	for _, a := range r.Against {
		fmt.Fprintf(to, "  %s: %s\n", a.Element, a.Says)
	}
	if r.Rate != nil && r.Rate.Errors == 0 {
		fmt.Fprintf(to, "  No error in %v: under %.1e of a bit with 95 %%.\n", r.Rate.Seconds, r.Rate.Below)
	}
	if r.Rate != nil {
		fmt.Fprintf(
			to,
			"  %d errors in %v: %.1e of a bit, between %.1e and %.1e with 95 %%. To show it to be under 1e-12, run %v clean.\n",
			r.Rate.Errors, r.Rate.Seconds, r.Rate.BER, r.Rate.Interval95[0], r.Rate.Interval95[1], r.Rate.ClaimAfter,
		)
	}
	for _, f := range r.Findings {
		fmt.Fprintf(to, "%s  %s [%s]\n", f.Level, f.Says, f.Rule)
	}
	return nil
}
