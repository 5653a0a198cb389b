package main

import (
	"errors"
	"fmt"
	"io"
	"text/tabwriter"

	"kolvan/core/ledger"
	"kolvan/core/proof"
	"kolvan/core/reference"
	"kolvan/core/rig"
)

type ledgerCommand struct {
	Files []string `arg:"" name:"file" help:"Rig files; - for standard input."`
	JSON  bool     `name:"json" help:"Print kolvan-ledger/1."`
	CSV   bool     `name:"csv" help:"Print the lines as a table, of one rig."`
}

// Run prints what a rig cost, what a gain cost, what it is held against, and in which order
// to buy.
func (c *ledgerCommand) Run() error {
	if c.CSV {
		if c.JSON || len(c.Files) != 1 {
			return errors.New("--csv is for one rig, without --json")
		}
		r, err := readRig(c.Files[0])
		if err != nil {
			return fmt.Errorf("%s: %w", c.Files[0], err)
		}
		return ledger.WriteCSV(stdout, r)
	}
	return each(c.Files, c.JSON, func(r *rig.Rig, ref *reference.Tables) (*ledger.Report, error) {
		return ledger.ReportOf(r, proof.LinkOf(r, ref)), nil
	}, writeLedger, func(*ledger.Report) bool { return false })
}

func writeLedger(w io.Writer, l *ledger.Report) error {
	money := func(a fmt.Stringer) string {
		if l.Currency == "" {
			return a.String()
		}
		return a.String() + " " + l.Currency
	}
	fmt.Fprintf(w, "%s\n\n", l.Rig)
	t := tabwriter.NewWriter(w, 0, 4, 2, ' ', 0)
	for i := range l.Lines {
		line := &l.Lines[i]
		cost := money(line.Cost)
		if line.Kind == rig.LineHours {
			cost = line.Worth.String() + " h"
		}
		fmt.Fprintf(t, "%s\t%s\t%s\t%s\n", line.Name, rig.Spoken(line.Need), rig.Spoken(line.State), cost)
	}
	if err := t.Flush(); err != nil {
		return err
	}
	fmt.Fprintf(
		w, "\nstill to pay %s; all %s, without what was owned %s; forced by the route %s\n", money(l.Totals.ToPay),
		money(l.Totals.All), money(l.Totals.WithoutOwned), money(l.Totals.Forced),
	)
	for i := range l.Gains {
		if g := &l.Gains[i]; g.Each != nil {
			fmt.Fprintf(w, "%s: %s for each %s gained\n", g.Use, money(g.Each), g.Unit)
		}
	}
	for i := range l.Against {
		a := &l.Against[i]
		fmt.Fprintf(w, "against %s: cheaper by %s", a.Name, money(a.Cheaper))
		if a.TurnPrice != nil {
			fmt.Fprintf(w, "; it turns at a price of %s", money(a.TurnPrice))
		}
		if a.TurnHours != nil {
			fmt.Fprintf(w, "; it turns at %s hours", a.TurnHours)
		}
		fmt.Fprintln(w)
	}
	if s := l.Sale; s != nil && s.Profit != nil {
		fmt.Fprintf(w, "sold at %s: left %s", money(s.Price), money(s.Profit))
		if s.BreakEven != nil {
			fmt.Fprintf(w, ", even at %s", money(s.BreakEven))
		}
		fmt.Fprintln(w)
	}
	for i := range l.Order {
		p := &l.Order[i]
		text := fmt.Sprintf("%d. %s, %s", i+1, p.Name, money(p.Cost))
		if p.ReturnBy != "" {
			text += ", can go back until " + p.ReturnBy
		}
		if p.Stop != "" {
			text += ": " + p.Stop
		}
		fmt.Fprintln(w, text)
	}
	return nil
}
