package main

import (
	"context"
	"fmt"
	"io"

	"kolvan/core/need"
	"kolvan/core/reference"
	"kolvan/core/rig"
)

type needCommand struct {
	File string `arg:"" name:"rig" help:"A rig file; - for standard input."`
	CSV  bool   `name:"csv" xor:"as" help:"Print the shopping list by specification as a table, CSV."`
	JSON bool   `name:"json" xor:"as" help:"Print kolvan-need/1."`
}

// Run prints the bound of every trouble, and what to ask of the parts still to be had.
func (c *needCommand) Run() error {
	r, ref, err := opened(c.File)
	if err != nil {
		return err
	}
	list, err := need.Of(context.Background(), r, ref)
	if err != nil {
		return err
	}
	switch {
	case c.JSON:
		err = printJSON(stdout, []*need.List{list}, 1)
	case c.CSV:
		err = list.WriteCSV(stdout)
	default:
		err = writeNeeds(stdout, list)
	}
	if err != nil {
		return fmt.Errorf("printing what is needed: %w", err)
	}
	if len(list.Needs)+len(list.Unanswered) > 0 {
		return &exitError{code: exitStops}
	}
	return nil
}

// opened is a rig file, and the reference it is judged by.
func opened(file string) (*rig.Rig, *reference.Tables, error) {
	ref, err := reference.Load()
	if err != nil {
		return nil, nil, err
	}
	r, err := readRig(file)
	if err != nil {
		return nil, nil, fmt.Errorf("%s: %w", shown(file), err)
	}
	return r, ref, nil
}

func writeNeeds(w io.Writer, list *need.List) error {
	p := &printer{w: w}
	for i := range list.Needs {
		n := &list.Needs[i]
		p.line("%s", n.Part)
		for _, t := range n.For {
			verb := "ends"
			if t.Instead {
				verb = "leaves no"
			}
			p.line("  %s %s: %s (%s %s)", verb, t.Level, t.Title, t.Rule, t.Where)
		}
		writeBounds(p, n.Bounds)
		for _, or := range n.Or {
			p.line("  or")
			writeBounds(p, or.Bounds)
		}
	}
	for _, t := range list.Unanswered {
		p.line("No figure of one part ends %s: %s (%s %s)", t.Level, t.Title, t.Rule, t.Where)
	}
	if len(list.Shopping) > 0 {
		p.line("Still to be had:")
	}
	for i := range list.Shopping {
		p.line("[ ] %s", list.Shopping[i].Line)
	}
	return p.err
}

func writeBounds(p *printer, bounds []need.Bound) {
	for _, b := range bounds {
		p.line("  [ ] %s", b.Says)
	}
}

// printer writes lines until one fails.
type printer struct {
	w   io.Writer
	err error
}

func (p *printer) line(format string, args ...any) {
	if p.err == nil {
		_, p.err = fmt.Fprintf(p.w, format+"\n", args...)
	}
}
