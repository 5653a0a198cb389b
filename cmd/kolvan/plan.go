package main

import (
	"context"
	"fmt"
	"io"
	"math"
	"os"
	"os/signal"
	"strings"
	"text/tabwriter"

	"kolvan/core/plan"
	"kolvan/core/rig"
	"kolvan/core/units"
)

type planCommand struct {
	File   string   `arg:"" name:"rig" help:"A rig file whose brief is told and whose rest may be empty; - for standard input."`
	Hosts  []string `name:"host" help:"A rig file whose host is tried too; again for more."`
	Own    bool     `help:"Only with parts that are owned."`
	Budget *float64 `help:"Instead of the brief's."`
	JSON   bool     `name:"json" help:"Print kolvan-plan/1."`
}

// Run prints the plans that none beats, and how to mend the one that stands.
func (c *planCommand) Run() error {
	ref, bins, err := tables()
	if err != nil {
		return err
	}
	q := plan.Question{Parts: bins, Own: c.Own}
	if q.Rig, err = readRig(c.File); err != nil {
		return fmt.Errorf("%s: %w", shown(c.File), err)
	}
	if c.Budget != nil {
		if *c.Budget < 0 {
			return fmt.Errorf("--budget %v: accepted: an amount of 0 or more, in the brief's currency", *c.Budget)
		}
		budget := units.Money(*c.Budget)
		q.Budget = &budget
	}
	for _, name := range c.Hosts {
		r, err := readRig(name)
		if err != nil {
			return fmt.Errorf("--host %s: %w", shown(name), err)
		}
		q.Hosts = append(q.Hosts, r.Host)
	}
	ctx, stop := signal.NotifyContext(context.Background(), os.Interrupt)
	defer stop()
	told := progress()
	q.Told = func(done, of int) bool {
		told(done, of)
		return true
	}
	answer, err := plan.Search(ctx, q, ref)
	if err != nil {
		return err
	}
	if c.JSON {
		err = printJSON(stdout, []*plan.Answer{answer}, 1)
	} else {
		err = writePlans(stdout, answer, q.Rig)
	}
	if err != nil {
		return fmt.Errorf("printing the plans: %w", err)
	}
	if len(answer.Plans) == 0 {
		return &exitError{code: exitStops}
	}
	return nil
}

// mostOpens is how many parts are told with what they open.
const mostOpens = 6

func writePlans(w io.Writer, a *plan.Answer, r *rig.Rig) error {
	p := &printer{w: w}
	p.line("%s: %d combinations in %s", a.Rig, a.Tried, units.Second(a.Seconds))
	table := tabwriter.NewWriter(w, 0, 0, 2, ' ', 0)
	rows := &printer{w: table}
	beaten := 0
	rows.line("to buy %s\t%s\tcertain\tnoise\tminutes\tcard\tfrom\tfed by", r.Brief.Currency, strings.TrimSpace(a.Use+", "+a.Unit))
	for i := range a.Plans {
		pl := &a.Plans[i]
		if pl.BeatenBy != nil && !pl.Here {
			beaten++
			continue
		}
		here := ""
		if pl.Here {
			here = " (the plan as it stands)"
		}
		e := pl.Expected[a.Use]
		rows.line("%s\t%s to %s\t%.0f %%\t%.0f to %.0f dB\t%.0f to %.0f\t%s\t%s\t%s%s", units.Trim(*pl.Cost[0], 0), units.Trim(e.Likely[0], 1),
			units.Trim(e.Likely[1], 1), pl.Certainty*100, pl.Noise[0], pl.Noise[1], pl.Minutes[0], pl.Minutes[1], pl.Card, pl.From, pl.Supply, here)
	}
	if rows.err == nil {
		rows.err = table.Flush()
	}
	if rows.err != nil {
		return rows.err
	}
	p.line("%d more are worse in every way.", beaten)
	for _, f := range a.FindOut {
		p.line(
			"Find out first, %s: %s. %.0f min, worth %s %s; it decides %s.",
			f.Asks,
			f.How,
			f.Minutes,
			units.Trim(f.Worth, 0),
			r.Brief.Currency,
			f.Between,
		)
	}
	for _, s := range a.Stages {
		p.line("In stages: %s", s.Says)
	}
	for _, part := range a.Purchases[:min(len(a.Purchases), mostOpens)] {
		p.line("%s", part.Says)
	}
	for i, m := range a.Mending {
		word := "more"
		if m.Costs < 0 {
			word = "less"
		}
		p.line("Mending %d, %s %s to buy:", i+1, strings.TrimSpace(units.Trim(math.Abs(m.Costs), 0)+" "+r.Brief.Currency), word)
		for k, s := range m.Steps {
			p.line("  %d. %s. Clears: %s.", k+1, s.Change, strings.Join(s.Clears, "; "))
		}
	}
	return p.err
}
