package main

import (
	"bytes"
	"context"
	_ "embed"
	"fmt"
	"io/fs"
	"os"
	"os/signal"
	"strings"
	"syscall"
	"time"

	"kolvan/core/probe"
	"kolvan/core/units"
	"kolvan/internal/whole"
)

//go:embed collect.sh
var collector string

type probeCommand struct {
	Root   string        `help:"A folder with copies of a host's files, in place of this machine." default:"/"`
	To     string        `help:"Put what the host tells into the bins of the Kolvan on this machine, host:port, in place of printing it."`
	Watch  time.Duration `help:"For so long, read the card's link, its errors, heat and power, such as 10m; ended early by an interrupt."`
	Every  time.Duration `help:"How often." default:"1s"`
	Log    string        `help:"Keep what was read while watching as a table, CSV."`
	JSON   bool          `name:"json" help:"Print what was read while watching as kolvan-watch/1."`
	Script bool          `help:"Print a small script of shell that collects those files, for a host where nothing may be installed."`
}

// Run prints what the host tells of itself, kolvan-part/1. Links are followed only inside the
// folder.
func (c *probeCommand) Run() error {
	if c.Script {
		_, err := fmt.Fprint(stdout, collector)
		return err
	}
	root, err := os.OpenRoot(c.Root)
	if err != nil {
		return fmt.Errorf("--root %s: accepted: a folder: %w", c.Root, err)
	}
	defer root.Close()
	if c.Watch != 0 {
		return c.watch(root.FS())
	}
	part, err := probe.Read(root.FS())
	if err != nil {
		return fmt.Errorf("--root %s: %w", c.Root, err)
	}
	if c.To == "" {
		return printJSON(stdout, []*probe.Part{part}, 1)
	}
	var text strings.Builder
	if err := printJSON(&text, []*probe.Part{part}, 1); err != nil {
		return err
	}
	at, err := sendPart(c.To, text.String())
	if err == nil {
		_, err = fmt.Fprintln(stdout, at)
	}
	return err
}

// watched is what a watch came to.
type watched struct {
	Format  string        `json:"format"`
	Card    string        `json:"card"`
	Samples int           `json:"samples"`
	Found   probe.Found   `json:"found"`
	Ranges  []probe.Range `json:"ranges"`
}

// The bounds of a watch.
const (
	oftenest = 50 * time.Millisecond
	longest  = 24 * time.Hour
)

// watch reads again and again, and prints what it came to: a small drawing of each figure, then
// the link as the kernel's files would say it, which kolvan read and the reading page take.
func (c *probeCommand) watch(tree fs.FS) error {
	if c.Every < oftenest || c.Watch < c.Every || c.Watch > longest {
		return fmt.Errorf("--watch %v --every %v: accepted: from 50ms on, for as long at least, up to 24h", c.Watch, c.Every)
	}
	w, err := probe.NewWatch(tree)
	if err != nil {
		return err
	}
	ctx, stop := signal.NotifyContext(context.Background(), os.Interrupt, syscall.SIGTERM)
	defer stop()
	begun := time.Now()
	again := time.NewTicker(c.Every)
	defer again.Stop()
	for end := time.After(c.Watch); ; {
		w.Look(units.Second(units.Round(time.Since(begun).Seconds(), 1)))
		select {
		case <-again.C:
			continue
		case <-ctx.Done():
		case <-end:
		}
		break
	}
	if c.Log != "" {
		var log bytes.Buffer
		if err := w.WriteCSV(&log); err != nil {
			return err
		}
		if err := whole.Write(c.Log, log.Bytes(), 0o644); err != nil {
			return fmt.Errorf("--log: %w", err)
		}
	}
	if c.JSON {
		return printJSON(stdout, []*watched{{"kolvan-watch/1", w.Card, len(w.Samples), w.Found(), w.Ranges()}}, 1)
	}
	return sayWatched(w)
}

func sayWatched(w *probe.Watch) error {
	p, f := &printer{w: stdout}, w.Found()
	p.line("# %s: %d looks in %.0f s", w.Card, len(w.Samples), f.Over)
	for _, r := range w.Ranges() {
		p.line("# %-10s %s  %s to %s %s", r.What, r.Drawn, units.Trim(r.Least, 1), units.Trim(r.Most, 1), r.Unit)
	}
	if f.Fell > 0 {
		p.line("# its width fell %d times", f.Fell)
	}
	if !f.Loaded && f.Gen > 0 {
		p.line("# its speed did not change: whether that was under load, only you know")
	}
	p.line("%s", strings.TrimSuffix(f.Read, "\n"))
	return p.err
}
