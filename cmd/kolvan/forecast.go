package main

import (
	"errors"
	"fmt"
	"io"
	"strings"

	jsonpatch "github.com/evanphx/json-patch/v5"

	"kolvan/core/finding"
	"kolvan/core/link"
	"kolvan/core/proof"
	"kolvan/core/reference"
	"kolvan/core/rig"
	"kolvan/core/units"
)

type forecastCommand struct {
	File      string   `arg:"" name:"rig" help:"A rig file; - for standard input."`
	Change    string   `help:"A JSON Patch of the rig: a file, or the patch itself."`
	Card      string   `name:"card-ratio" help:"How many times as fast the card is with the change: 1.5 or 1.3,1.7; or the name of a card that made runs in this host." default:"1"`
	Processor string   `name:"processor-ratio" help:"How many times as fast the processor is with the change; or the name of a machine in which this card made runs." default:"1"`
	Pixels    string   `name:"pixels-ratio" help:"How many times as many pixels there are with the change." default:"1"`
	Log       string   `help:"A log, kolvan-log/1: its runs count as the rig's."`
	Learn     []string `sep:"none" help:"A rig file whose runs teach what its sorts of use do; may be given more than once."`
	JSON      bool     `name:"json" help:"Print kolvan-forecast/1."`
}

// Run prints what is expected of each use, and what a change would bring.
func (c *forecastCommand) Run() error {
	ref, err := reference.Load()
	if err != nil {
		return err
	}
	now, err := readRig(c.File)
	if err != nil {
		return fmt.Errorf("%s: %w", c.File, err)
	}
	if c.Log != "" {
		text, err := readAll(c.Log, rig.MaxFile)
		if err != nil {
			return fmt.Errorf("--log %s: %w", shown(c.Log), err)
		}
		runs, err := proof.RunsOfLog(text)
		if err != nil {
			return fmt.Errorf("--log %s: %w", shown(c.Log), err)
		}
		now.Runs = runs
	}
	lessons, err := c.lessons(ref)
	if err != nil {
		return err
	}
	proof.Teach(now, lessons)
	held := proof.LinkOf(now, ref).Keeping()
	ratios, err := c.ratios(now, held)
	if err != nil {
		return err
	}
	var then *rig.Rig
	if c.Change != "" || ratios != proof.Same {
		if then, err = c.changed(now); err != nil {
			return err
		}
		proof.Teach(then, lessons)
	}
	plan, judged := link.For(now, ref), now
	net := plan.NetEnds
	if then != nil {
		net, judged = link.For(then, ref).NetEnds, then
	}
	forecast := proof.Make(now, held, then, net, ratios)
	out := finding.List{}
	proof.Judge(judged, proof.Link{Net: net, Ref: ref}, &out)
	forecast.Findings = append(forecast.Findings, out.Sorted()...)
	for i := range forecast.Findings {
		forecast.Findings[i].Clear = []finding.Change{}
	}
	if c.JSON {
		return printJSON(stdout, []*proof.Forecast{forecast}, 1)
	}
	return writeForecast(stdout, forecast)
}

// lessons are what the runs of other rigs teach.
func (c *forecastCommand) lessons(ref *reference.Tables) (list []proof.Lesson, err error) {
	for _, file := range c.Learn {
		r, err := readRig(file)
		if err != nil {
			return nil, fmt.Errorf("--learn %s: %w", shown(file), err)
		}
		list = append(list, proof.LessonsOf(r, proof.LinkOf(r, ref))...)
	}
	return list, nil
}

// ratios are those that are typed, or come from runs by the name of a card or a machine.
func (c *forecastCommand) ratios(now *rig.Rig, held proof.Link) (ratios proof.Ratios, err error) {
	ratios = proof.Same
	for _, r := range []struct {
		flag, text string
		into       *[2]float64
		by         func(*rig.Rig, proof.Link, string) ([2]float64, bool)
	}{
		{"--card-ratio", c.Card, &ratios.Card, proof.CardRatio},
		{"--processor-ratio", c.Processor, &ratios.Processor, proof.ProcessorRatio},
		{"--pixels-ratio", c.Pixels, &ratios.Pixels, nil},
	} {
		told := false
		if r.by != nil {
			*r.into, told = r.by(now, held, r.text)
		}
		if told {
			continue
		}
		if *r.into, err = proof.RatioOf(r.text); err != nil {
			return ratios, fmt.Errorf("%s: %w", r.flag, err)
		}
	}
	return ratios, nil
}

// changed is the rig with the patch made.
func (c *forecastCommand) changed(now *rig.Rig) (*rig.Rig, error) {
	doc, err := rig.Encode(now)
	if err != nil || c.Change == "" {
		return now, err
	}
	text := []byte(c.Change)
	if !strings.HasPrefix(strings.TrimSpace(c.Change), "[") {
		if text, err = readAll(c.Change, rig.MaxFile); err != nil {
			return nil, fmt.Errorf("--change %s: %w", shown(c.Change), err)
		}
	}
	patch, err := jsonpatch.DecodePatch(text)
	if err != nil {
		return nil, errors.New("--change: it is not accepted; accepted: a JSON Patch (RFC 6902) of the rig file")
	}
	if doc, err = patch.Apply(doc); err != nil {
		return nil, fmt.Errorf("--change: %w", err)
	}
	then, err := rig.Decode(doc)
	if err != nil {
		return nil, fmt.Errorf("--change: the rig with it: %w", err)
	}
	return then, nil
}

func writeForecast(w io.Writer, f *proof.Forecast) error {
	if len(f.Uses) == 0 {
		fmt.Fprintln(w, "The brief names no use: there is nothing to forecast.")
	}
	var silent []string
	for i := range f.Uses {
		u := &f.Uses[i]
		if !u.Tells() {
			silent = append(silent, u.Use)
			continue
		}
		fmt.Fprintf(w, "%s: %s%s\n", u.Use, u.Now.Words(), map[string]string{"runs": ", as its runs show"}[u.From])
		if u.Taught != nil {
			fmt.Fprintf(w, "  %s\n", u.Taught.Words())
		}
		if u.Then != nil {
			fmt.Fprintf(w, "  with the change: %s", u.Then.Words())
			if u.Change != nil {
				fmt.Fprintf(
					w, "; %s to %s %%, at the utmost %s to %s", units.Signed(u.ChangeLikely[0]), units.Signed(u.ChangeLikely[1]),
					units.Signed(u.Change[0]), units.Signed(u.Change[1]),
				)
			}
			fmt.Fprintln(w)
		}
		if p := u.Pinch; p != nil {
			fmt.Fprintf(w, "  held back by: %s\n", heldWords(p))
		}
		if u.Enough != "" {
			fmt.Fprintf(w, "  enough: %s\n", u.Enough)
		}
		for _, open := range u.Narrow {
			fmt.Fprintf(w, "  would narrow it: %s\n", open)
		}
	}
	if len(silent) > 0 {
		names := strings.Join(silent[:min(3, len(silent))], ", ")
		if more := len(silent) - 3; more > 0 {
			names += fmt.Sprintf(" and %d more", more)
		}
		fmt.Fprintf(w, "%s: nothing to go by yet; what sort of use it is, and the card's own rate for it, found elsewhere, would tell most\n",
			names)
	}
	for i := range f.Promised {
		fmt.Fprintln(w, promisedWords(&f.Promised[i]))
	}
	return writeFindings(w, f.Findings)
}

func promisedWords(p *proof.Promised) string {
	text := fmt.Sprintf("%s: expected %.0f to %.0f Hz, at the utmost %.0f to %.0f", p.Use, p.Likely[0], p.Likely[1], p.Utmost[0], p.Utmost[1])
	if p.Found != nil {
		text += fmt.Sprintf("; found %.1f Hz", *p.Found)
	}
	return text
}

func heldWords(p *proof.PinchTold) string {
	switch {
	case p.Name != "":
		return "the " + p.Name
	case p.Likely != "" && p.PartedBy != "":
		return fmt.Sprintf("perhaps the %s, %d in 10; %s would tell more", p.Likely, p.InTen, p.PartedBy)
	case p.Likely != "":
		return fmt.Sprintf("perhaps the %s, %d in 10", p.Likely, p.InTen)
	default:
		return "it cannot be told yet"
	}
}

// readAll reads a file of at most so many bytes.
func readAll(name string, most int64) ([]byte, error) {
	from, err := open(name)
	if err != nil {
		return nil, err
	}
	defer from.Close()
	return io.ReadAll(io.LimitReader(from, most+1))
}
