package main

import (
	"fmt"
	"io"
	"text/tabwriter"

	"kolvan/core/proof"
	"kolvan/core/units"
)

type compareCommand struct {
	Files  []string `arg:"" name:"file" help:"Captures of what was."`
	With   []string `required:"" help:"Captures of what is; again for more." sep:"none"`
	Column string   `help:"The column with the frame times, where it is not found."`
	Unit   string   `help:"The unit of the times, where nothing declares it." enum:",ms,s,us,ns,Hz" default:""`
	Series string   `help:"The process, where there are several; else the one with most frames."`
	Most   size     `help:"How much of a table is read, after inflating: 500MiB, 8GiB." default:"2GiB"`
	Seed   uint64   `help:"Of what is drawn for the intervals." default:"1"`
	JSON   bool     `name:"json" help:"Print kolvan-comparison/1."`
}

// Run holds captures against others.
func (c *compareCommand) Run() error {
	before, err := c.runs(c.Files)
	if err != nil {
		return err
	}
	after, err := c.runs(c.With)
	if err != nil {
		return err
	}
	out := proof.Compare(before, after, c.Seed)
	if c.JSON {
		return printJSON(stdout, []*proof.Comparison{out}, 1)
	}
	return writeComparison(stdout, out)
}

// runs reads the runs of one side: a run a file and a pass.
func (c *compareCommand) runs(files []string) (runs []proof.Run, err error) {
	for _, name := range files {
		s, err := statsOf(name, proof.Options{Column: c.Column, Unit: c.Unit, Most: int64(c.Most), Progress: bytesRead()}, c.Seed)
		switch {
		case err != nil:
			return nil, fmt.Errorf("%s: %w", shown(name), err)
		case s.capture == nil:
			return nil, fmt.Errorf("%s: it is a meter's table, in watts; only captures of frames are held against each other", shown(name))
		}
		series := s.capture.Of(c.Series)
		if series == nil {
			return nil, fmt.Errorf("%s: no frames of %q are in it", shown(name), c.Series)
		}
		runs = append(runs, proof.Run{File: name, Series: series})
	}
	return runs, nil
}

func writeComparison(w io.Writer, c *proof.Comparison) error {
	t := tabwriter.NewWriter(w, 0, 0, 2, ' ', 0)
	fmt.Fprintf(t, "\tbefore\tafter\tchange, 95 %% sure between\tratio\t\n")
	for i := range c.Figures {
		f := &c.Figures[i]
		change, ratio := "", ""
		if f.Change != nil {
			change, ratio = fmt.Sprintf("%+.1f %%", 100**f.Change), "×"+units.Trim(*f.Ratio, 2)
		}
		if f.Interval != nil {
			change += fmt.Sprintf(" (%+.1f to %+.1f)", 100*f.Interval[0], 100*f.Interval[1])
		}
		fmt.Fprintf(
			t, "%s\t%s\t%s\t%s\t%s\t%s\n", figureNames[f.Name], units.Trim(f.Before, 2), units.Trim(f.After, 2), change, ratio,
			f.Says,
		)
	}
	if err := t.Flush(); err != nil {
		return err
	}
	for _, d := range c.Differs {
		fmt.Fprintf(w, "They differ in %s: no per cent is given.\n", d)
	}
	for _, warned := range c.Warned {
		fmt.Fprintln(w, warned)
	}
	return nil
}

// figureNames are the figures as a person reads them.
var figureNames = map[string]string{
	"average_hz": "average, Hz", "low1_p99_hz": "worst 1 %, 99th percentile, Hz",
	"low1_mean_hz": "worst 1 %, mean of slowest, Hz", "low01_p99_hz": "worst 0.1 %, 99.9th percentile, Hz",
	"low01_mean_hz": "worst 0.1 %, mean of slowest, Hz", "median_ms": "median frame, ms",
}
