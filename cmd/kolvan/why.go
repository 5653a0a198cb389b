package main

import (
	"errors"
	"fmt"
	"io"
	"strings"

	"kolvan/core/units"
	"kolvan/core/why"
)

type whyCommand struct {
	File   string `arg:"" name:"rig" help:"A rig file; - for standard input."`
	Figure string `arg:"" optional:"" name:"figure" help:"A figure of the report, power.supplies/NAME/share, a rule, RULE@PATH, or the path of a fact; without one, all there are."`
	JSON   bool   `name:"json" help:"Print kolvan-why/1."`
}

// Run opens a figure into its sum.
func (c *whyCommand) Run() error {
	r, ref, err := opened(c.File)
	if err != nil {
		return err
	}
	if c.Figure == "" {
		_, err := fmt.Fprintln(stdout, strings.Join(why.Keys(r, ref), "\n"))
		return err
	}
	tree, err := why.Of(r, ref, c.Figure)
	if none := (*why.NoFigure)(nil); errors.As(err, &none) {
		return fmt.Errorf("%s: %w", shown(c.File), err)
	} else if err != nil {
		return err
	}
	if c.JSON {
		return printJSON(stdout, []*why.Tree{tree}, 1)
	}
	return writeWhy(stdout, tree)
}

func writeWhy(w io.Writer, t *why.Tree) error {
	p := &printer{w: w}
	switch {
	case t.Value != nil:
		p.line("%s: %s", t.Name, strings.TrimSpace(units.Trim(*t.Value, 3)+" "+t.Unit))
	case t.Range != nil:
		p.line("%s: %s to %s %s", t.Name, units.Trim(*t.Range[0], 3), units.Trim(*t.Range[1], 3), t.Unit)
	default:
		p.line("%s", t.Name)
	}
	if t.Low != nil {
		p.line("at its least: %s", t.Low.Line())
		writeTerms(p, t.Low.Terms, 1)
		p.line("at its most: %s", t.High.Line())
		writeTerms(p, t.High.Terms, 1)
	} else if len(t.Terms) > 0 {
		whole := why.Term{Op: t.Op, Terms: t.Terms}
		if t.Op != why.Formula {
			p.line("  = %s", whole.Line())
		}
		writeTerms(p, t.Terms, 1)
	}
	p.line("%s", t.Formula)
	if t.Threshold != nil {
		p.line("%s, %s: %s", t.Threshold.Rule, t.Threshold.Level, t.Threshold.Why)
	}
	for _, weight := range t.Weighs {
		of := "of a change"
		if weight.Open {
			of = "of the range, not told"
		}
		p.line("  %3.0f %% %s: %s (%s)", weight.Share*100, of, weight.Name, weight.At)
	}
	return p.err
}

func writeTerms(p *printer, terms []why.Term, deep int) {
	for i := range terms {
		t := &terms[i]
		from := ""
		for _, word := range []string{t.Trust, t.Source, t.At} {
			if word != "" {
				from += "; " + word
			}
		}
		if from != "" {
			from = "  [" + from[2:] + "]"
		}
		p.line("%s%s %s%s", strings.Repeat("  ", deep), t.String(), t.Name, from)
		writeTerms(p, t.Terms, deep+1)
	}
}
