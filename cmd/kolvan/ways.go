package main

import (
	"context"
	"errors"
	"fmt"
	"io"
	"os"
	"os/signal"
	"text/tabwriter"
	"time"

	"kolvan/core/assess"
	"kolvan/core/power"
	"kolvan/core/reference"
	"kolvan/core/units"
	"kolvan/core/ways"
)

type waysCommand struct {
	Files []string `arg:"" name:"file" help:"Rig files; - for standard input."`
	Own   bool     `help:"Only with parts that are owned."`
	Hosts bool     `help:"Also from every other host of the list."`
	Cards bool     `help:"Also to every other card of the list."`
	Weigh string   `help:"What counts how much, each 0 to 10: lanes=3,certainty=2,cost=1,reversible=2,noise=1."`
	JSON  bool     `name:"json" help:"Print kolvan-ways/1; an array where several files are given."`
}

// Run prints the ways of every file it can read. It exits as assess does where one of
// them has none.
func (c *waysCommand) Run() error {
	weights := ways.Usual
	if err := weights.Parse(c.Weigh); err != nil {
		return fmt.Errorf("--weigh: %w", err)
	}
	ref, bins, err := tables()
	if err != nil {
		return err
	}
	ctx, stop := signal.NotifyContext(context.Background(), os.Interrupt)
	defer stop()
	var wrong []error
	var answers []*ways.Answer
	none := false
	for _, name := range c.Files {
		answer, err := c.search(ctx, name, ref, bins, weights)
		if err != nil {
			wrong = append(wrong, fmt.Errorf("%s: %w", name, err))
			continue
		}
		none = none || len(answer.Ways) == 0
		answers = append(answers, answer)
	}
	if err := c.print(stdout, answers); err != nil {
		return fmt.Errorf("printing the ways: %w", err)
	}
	if wrong != nil {
		return errors.Join(wrong...)
	}
	if none {
		return &exitError{code: exitStops}
	}
	return nil
}

func (c *waysCommand) search(ctx context.Context, name string, ref *reference.Tables, bins *assess.Bins,
	weights ways.Weights) (*ways.Answer, error) {
	r, err := readRig(name)
	if err != nil {
		return nil, err
	}
	return ways.Search(
		ctx,
		ways.Question{Rig: r, Parts: bins, Weights: weights, Own: c.Own, AnyHost: c.Hosts, AnyCard: c.Cards, Progress: progress()},
		ref,
	)
}

// progress writes over one line of the terminal once a search takes longer than a
// second.
func progress() func(done, of int) {
	began, told := time.Now(), false
	at, err := os.Stderr.Stat()
	terminal := err == nil && at.Mode()&os.ModeCharDevice != 0
	return func(done, of int) {
		if !terminal || time.Since(began) < time.Second {
			return
		}
		if told = told || done < of; told {
			fmt.Fprintf(os.Stderr, "\r%d of %d slots and cards", done, of)
		}
		if told && done == of {
			fmt.Fprintln(os.Stderr)
		}
	}
}

func (c *waysCommand) print(w io.Writer, answers []*ways.Answer) error {
	if c.JSON {
		return printJSON(w, answers, len(c.Files))
	}
	for _, a := range answers {
		if err := writeWays(w, a); err != nil {
			return err
		}
	}
	return nil
}

// writeWays is the answer for a person.
func writeWays(to io.Writer, a *ways.Answer) error {
	beaten := 0
	for i := range a.Ways {
		if a.Ways[i].BeatenBy != nil {
			beaten++
		}
	}
	fmt.Fprintf(
		to, "%s\n%d combinations judged in %s; %d ways, %d of them not beaten by another\n\n", a.Rig, a.Tried,
		units.Second(a.Seconds), len(a.Ways), len(a.Ways)-beaten,
	)
	t := tabwriter.NewWriter(to, 0, 0, 2, ' ', 0)
	for i := range a.Ways {
		w := &a.Ways[i]
		worst, mark := "", ""
		if w.Worst != nil {
			worst = w.Worst.Level.String() + ": " + w.Worst.Rule
		}
		if w.BeatenBy != nil {
			mark = fmt.Sprintf("beaten by %d", *w.BeatenBy+1)
		}
		fmt.Fprintf(
			t, "%d\t%s\t%s\t%s\t%s\t%s\t%s\t%s\n", i+1, w.Says, linkWords(&w.Figures), feedWords(w), ways.MovesWords(w.Displaced),
			units.Money(*w.ToBuy[0]), worst, mark,
		)
	}
	if err := t.Flush(); err != nil {
		return err
	}
	if a.Untried {
		fmt.Fprintln(to, "\nMore could be tried than was: with these parts there are too many combinations.")
	}
	if len(a.Failed) == 0 {
		return nil
	}
	fmt.Fprintf(to, "\nBetter on paper, and why they fail\n")
	for _, f := range a.Failed {
		fmt.Fprintf(to, "  %s\n    %s  [%s]\n", f.Way, f.Says, f.Rule)
	}
	return nil
}

func feedWords(w *ways.Way) string {
	if w.Supply == "" {
		return "fed by nothing of its own"
	}
	return orUnknown(w.Figures.SupplyShare, power.Percent) + " of " + w.Supply
}
