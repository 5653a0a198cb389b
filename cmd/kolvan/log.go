package main

import (
	"bytes"
	"cmp"
	"fmt"
	"io"

	"kolvan/core/link"
	"kolvan/core/proof"
	"kolvan/core/reference"
	"kolvan/core/rig"
)

type protocolCommand struct {
	Files   []string `arg:"" name:"file" help:"Rig files; - for standard input."`
	Minutes float64  `help:"How many minutes there are." default:"20"`
	JSON    bool     `name:"json" help:"Print kolvan-protocol/1."`
}

// Run prints which runs tell most in the minutes there are, ticked as far as they were made.
func (c *protocolCommand) Run() error {
	if !(c.Minutes > 0 && c.Minutes <= 10000) {
		return fmt.Errorf("--minutes: %v is not accepted; accepted: more than 0, up to 10000", c.Minutes)
	}
	return each(c.Files, c.JSON, func(r *rig.Rig, ref *reference.Tables) (*proof.Protocol, error) {
		return proof.ProtocolFor(r, c.Minutes, link.HeldTo(r, ref)), nil
	}, writeProtocol, func(*proof.Protocol) bool { return false })
}

func writeProtocol(w io.Writer, p *proof.Protocol) error {
	if len(p.Runs) == 0 {
		_, err := fmt.Fprintln(w, "The brief names no use: there is nothing to measure.")
		return err
	}
	for i := range p.Runs {
		run := &p.Runs[i]
		mark := " "
		switch {
		case run.Done:
			mark = "x"
		case run.Left:
			mark = "-"
		}
		if _, err := fmt.Fprintf(w, "[%s] %s, %g min: %s\n", mark, run.Do, run.Minutes, run.Why); err != nil {
			return err
		}
	}
	_, err := fmt.Fprintf(w, "To make now: %g of %g minutes. x is done, - does not fit any more.\n", p.Takes, p.Minutes)
	return err
}

type resultsCommand struct {
	File string `arg:"" name:"table" help:"A table: program, resolution, settings, before, with, elsewhere …; - for standard input."`
	Use  string `help:"The use they are of, where a row names none."`
}

// Run prints the runs of a table of results as a log, which forecast --log reads.
func (c *resultsCommand) Run() error {
	text, err := readAll(c.File, rig.MaxFile)
	if err != nil {
		return fmt.Errorf("%s: %w", shown(c.File), err)
	}
	runs, err := proof.Results(bytes.NewReader(text))
	if err != nil {
		return fmt.Errorf("%s: %w", shown(c.File), err)
	}
	r := rig.New("")
	for i := range runs {
		runs[i].Use = cmp.Or(runs[i].Use, c.Use)
	}
	r.Runs = runs
	log, err := proof.LogOf(r)
	if err != nil {
		return err
	}
	return printJSON(stdout, []*proof.Log{log}, 1)
}

type logCommand struct {
	Files []string `arg:"" name:"file" help:"Rig files; - for standard input."`
}

// Run prints what happened with a rig, in the order of time, as kolvan-log/1.
func (c *logCommand) Run() error {
	return each(
		c.Files, true, func(r *rig.Rig, _ *reference.Tables) (*proof.Log, error) { return proof.LogOf(r) }, nil,
		func(*proof.Log) bool { return false },
	)
}
