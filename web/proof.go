package web

import (
	"bytes"
	"crypto/sha256"
	"encoding/hex"
	"errors"
	"fmt"
	"io"
	"math"
	"path/filepath"
	"slices"
	"strings"
	"time"

	"github.com/gofiber/fiber/v3"

	"kolvan/core/assess"
	"kolvan/core/link"
	"kolvan/core/proof"
	"kolvan/core/reference"
	"kolvan/core/rig"
	"kolvan/core/units"
)

// proofView is what a rig really does: its runs drawn, before and after, what holds it
// back, and what is expected of each use.
type proofView struct {
	Title, Aside string
	Height       float64
	Traces       []runLine
	Curves       []runLine
	Marks        []timeMark // of the ms axis
	Empty        string
	Gains        []gainView
	Terms        []termBar
	Pinch        string
	Expected     []effect
	Found        []foundRow
	Runs         []runRow
	Uses         []option
	Sides        []option
}

// runLine is one run as a line of the drawing.
type runLine struct {
	Name, Class, Path string
	Y                 float64
}

type timeMark struct {
	Y    float64
	Text string
}

type gainView struct {
	Use, Says string
	Differs   []string
	Rows      [][5]string // figure, before, after, change, ratio
	Enough    string
}

type termBar struct {
	Name, Range string
	X, W, From  float64 // the bar to its middle, and its range
	To          float64
	First       bool
}

type foundRow struct{ Planned, Found, Says string }

type runRow struct {
	N                               int
	Name, Side, Average, Lows, When string
	Sel                             string
}

const (
	traceLeft, traceWide = 60.0, 500.0
	curveLeft, curveWide = 610.0, 240.0
	runsTop, runsHigh    = 44.0, 190.0
)

// proof makes the view of the station.
func (a *App) proofOf(r *rig.Rig, report *assess.Report) *proofView {
	v := &proofView{Height: runsTop + runsHigh + 40}
	v.draw(r)
	for _, g := range proof.GainsOf(r) {
		v.Gains = append(v.Gains, gainOf(r, &g))
		if v.Pinch == "" && len(g.After) > 0 {
			v.terms(proof.WithCard(r, g.Use), r, a.ref)
		}
	}
	v.Expected = expectedEffects(r, report)
	v.found(r, report)
	v.Runs = runRows(r)
	for _, w := range r.Brief.Works {
		v.Uses = append(v.Uses, option{Value: w.Name, Label: w.Name})
	}
	for _, side := range rig.RunSide("").Choices() {
		v.Sides = append(v.Sides, option{Value: side, Label: sideNames[rig.RunSide(side)]})
	}
	return v
}

// runRows are the runs of a rig in words.
func runRows(r *rig.Rig) (rows []runRow) {
	for i := range r.Runs {
		run := &r.Runs[i]
		rows = append(rows, runRow{N: i, Name: run.Name, Side: orText(sideNames[run.Side.Value], "not told"), Average: hertzWords(run.Average), Lows: hertzWords(run.Low1) + ", " + hertzWords(run.Low1M), When: strings.Replace(run.When, "T", " ", 1), Sel: fmt.Sprintf("/runs/%d", i)})
	}
	return rows
}

var sideNames = map[rig.RunSide]string{"before": "before the card", "after": "with the card", "elsewhere": "on another machine"}

func hertzWords(f rig.Fact[float64]) string {
	if !f.Known {
		return "not given"
	}
	return units.Trim(f.Value, 1) + " Hz"
}

// draw draws the traces and the sorted curves of all runs on one scale.
func (v *proofView) draw(r *rig.Rig) {
	most := 0.0
	for i := range r.Runs {
		if curve := proof.Values(r.Runs[i].Curve); len(curve) > 2 {
			most = max(most, 1.15*curve[len(curve)-2])
		}
	}
	v.Title, v.Aside = "What it really does", "ms a frame"
	if most == 0 {
		v.Empty, v.Height = "No capture is here yet. Drop one below: a table of frame times from any tool; or type what was read.", 150
		return
	}
	most = 2 * roundUp(most/2)
	y := func(ms float64) float64 { return runsTop + runsHigh*(1-min(1, ms/most)) }
	for _, share := range []float64{0, 0.5, 1} {
		v.Marks = append(v.Marks, timeMark{runsTop + runsHigh*(1-share), units.Trim(share*most, 1)})
	}
	for i := range r.Runs {
		run := &r.Runs[i]
		class := orText(string(run.Side.Value), "elsewhere")
		for _, line := range []struct {
			text       string
			left, wide float64
			into       *[]runLine
		}{{run.Trace, traceLeft, traceWide, &v.Traces}, {run.Curve, curveLeft, curveWide, &v.Curves}} {
			values := proof.Values(line.text)
			if len(values) < 2 {
				continue
			}
			path := ""
			for k, ms := range values {
				path += fmt.Sprintf("%c%.1f %.1f", "ML"[min(1, k)], line.left+line.wide*float64(k)/float64(len(values)-1), y(ms))
			}
			*line.into = append(*line.into, runLine{Name: run.Name + ", " + orText(sideNames[run.Side.Value], "side not told"), Class: class, Path: path, Y: y(values[len(values)-1])})
		}
	}
}

// roundUp is the next round number: 1, 2, 3, 4, 5, 6, 8 or 10 times a power of ten.
func roundUp(v float64) float64 {
	unit := math.Pow(10, math.Floor(math.Log10(v)))
	for _, n := range []float64{1, 2, 3, 4, 5, 6, 8} {
		if n*unit >= v {
			return n * unit
		}
	}
	return 10 * unit
}

// gainOf puts what changed into words.
func gainOf(r *rig.Rig, g *proof.Gain) gainView {
	v := gainView{Use: orText(g.Use, "a use that is not named"), Differs: g.Differs}
	if g.How != "" {
		v.Use += ", " + g.How
	}
	switch {
	case len(g.Before) == 0:
		v.Says = "No run from before the card: nothing to hold it against."
	case len(g.After) == 0:
		v.Says = "No run with the card yet."
	}
	names := map[string]string{"average_hz": "average", "low1_p99_hz": "worst 1 %, 99th percentile", "low1_mean_hz": "worst 1 %, mean of slowest"}
	for _, f := range g.Figures {
		row := [5]string{names[f.Name], units.Trim(f.Before, 1) + " Hz", units.Trim(f.After, 1) + " Hz", f.Says, ""}
		if f.Change != nil {
			row[3] = fmt.Sprintf("%+.0f %%", 100**f.Change)
			if f.Interval != nil {
				row[3] += fmt.Sprintf(" (%.0f to %.0f)", 100*f.Interval[0], 100*f.Interval[1])
			}
			if f.Says == "no difference seen" {
				row[3] = f.Says
			}
			row[4] = "×" + units.Trim(*f.Ratio, 2)
		}
		v.Rows = append(v.Rows, row)
	}
	v.Enough = enoughWords(r, g)
	return v
}

// enoughWords hold the runs with the card against what the use says is enough.
func enoughWords(r *rig.Rig, g *proof.Gain) string {
	i := slices.IndexFunc(r.Brief.Works, func(w rig.Work) bool { return w.Name == g.Use })
	if i < 0 || len(g.After) == 0 || !r.Brief.Works[i].EnoughHz.Known {
		return ""
	}
	wanted, low, high := r.Brief.Works[i].EnoughHz.Value, math.Inf(1), 0.0
	for _, run := range g.After {
		low, high = min(low, run.Average.Value), max(high, run.Average.Value)
	}
	switch {
	case low >= wanted:
		return fmt.Sprintf("Enough: yes, %s Hz are wanted.", units.Trim(wanted, 1))
	case high < wanted:
		return fmt.Sprintf("Enough: no, %s Hz are wanted.", units.Trim(wanted, 1))
	default:
		return fmt.Sprintf("Enough: perhaps, %s Hz are wanted.", units.Trim(wanted, 1))
	}
}

// terms draws what a frame waits for, as far as the runs with the card tell.
func (v *proofView) terms(runs []*rig.Run, r *rig.Rig, ref *reference.Tables) {
	f := proof.TermsOf(runs, link.HeldTo(r, ref))
	v.Pinch = "It cannot be told from these runs. What would tell it: " + f.PartedBy + "."
	if f.PartedBy == "" {
		v.Pinch = "It cannot be told yet: no run with the card tells its resolution, over a link that is known, without a cap."
	}
	if f.Pinch != "" {
		v.Pinch = "The " + f.Pinch + " holds it back."
	}
	most := max(f.C[1], f.G[1], f.L[1])
	if most == 0 {
		return
	}
	for _, t := range []struct {
		name string
		ends [2]float64
	}{{"card", f.G}, {"processor", f.C}, {"link", f.L}} {
		x := func(ms float64) float64 { return 92 + 230*ms/most }
		v.Terms = append(v.Terms, termBar{Name: t.name, Range: units.Trim(t.ends[0], 1) + " to " + units.Trim(t.ends[1], 1) + " ms", X: 92, W: max(1, x((t.ends[0]+t.ends[1])/2)-92), From: x(t.ends[0]), To: x(t.ends[1]), First: t.name == f.Pinch})
	}
}

// found holds readings of the link against the plan.
func (v *proofView) found(r *rig.Rig, report *assess.Report) {
	planned := linkWords(report)
	for i := range r.Route.Readings {
		reading := &r.Route.Readings[i]
		row := foundRow{Planned: planned, Found: "x" + words(reading.Width) + " Gen " + words(reading.Gen), Says: "under load"}
		if !rig.Is(reading.Load, "loaded") {
			row.Says = "not under load: it proves the width alone"
		}
		v.Found = append(v.Found, row)
	}
}

// proofFigure is what the line of stations says of the proof.
func proofFigure(r *rig.Rig) string {
	for _, g := range proof.GainsOf(r) {
		for _, f := range g.Figures {
			if f.Name == "average_hz" && f.Ratio != nil {
				return "×" + units.Trim(*f.Ratio, 2)
			}
		}
	}
	switch {
	case len(r.Runs) > 0:
		return counted(len(r.Runs), "run", "runs")
	case len(r.Route.Readings) > 0:
		return "link read"
	default:
		return "not proven"
	}
}

// addRun takes a capture in as a run, or a run that is typed.
func addRun(c fiber.Ctx, r *rig.Rig) (string, string, error) {
	run := rig.Run{When: now()}
	if file, err := c.FormFile("capture"); err == nil {
		from, err := file.Open()
		if err != nil {
			return "", "", fmt.Errorf("reading the capture: %w", err)
		}
		defer from.Close()
		raw, err := io.ReadAll(from)
		if err != nil {
			return "", "", fmt.Errorf("reading the capture: %w", err)
		}
		capture, err := proof.Read(bytes.NewReader(raw), proof.Options{Column: strings.TrimSpace(c.FormValue("column")), Unit: c.FormValue("unit")})
		if wrong, is := errors.AsType[*proof.Error](err); is {
			return "", "", &rig.FieldError{Path: "/runs", Value: file.Filename + ", " + orText(strings.TrimSuffix(wrong.What+" "+wrong.Value, " "), "table"), Accepts: wrong.Accepts}
		}
		if err != nil {
			return "", "", &rig.FieldError{Path: "/runs", Value: file.Filename, Accepts: err.Error()}
		}
		sum := sha256.Sum256(raw)
		run = proof.RunOf(capture.Of(""), hex.EncodeToString(sum[:]), time.Now(), 1)
		series := capture.Of("") // the one with the most frames
		run.Name = strings.TrimSuffix(file.Filename, filepath.Ext(file.Filename))
		if len(capture.Series) > 1 {
			run.Name += ", " + series.Name
		}
	} else if rate := strings.TrimSpace(c.FormValue("average")); rate != "" {
		typed := rig.New("typed")
		typed.Runs = []rig.Run{{Name: "typed"}}
		if err := rig.Set(typed, "/runs/0/average_hz", rate); err != nil {
			return "", "", err
		}
		run.Average = typed.Runs[0].Average
	} else {
		return "", "", &rig.FieldError{Path: "/runs", Accepts: "a capture of frame times, or an average in Hz"}
	}
	if size := strings.TrimSpace(c.FormValue("size")); size != "" {
		if err := setSize(&run, size); err != nil {
			return "", "", err
		}
	}
	run.Use = c.FormValue("use")
	if side := rig.RunSide(c.FormValue("side")); slices.Contains(side.Choices(), string(side)) {
		run.Side = rig.Of(side)
	}
	if name := strings.TrimSpace(c.FormValue("name")); name != "" {
		run.Name = name
	}
	run.Name = freeRun(r, orText(run.Name, "run"))
	r.Runs = append(slices.Clone(r.Runs), run)
	return "run " + run.Name, last("/runs", len(r.Runs)), nil
}

// setSize reads what was drawn, in pixels across and down: 1920 x 1080.
func setSize(run *rig.Run, size string) error {
	across, down, _ := strings.Cut(strings.NewReplacer("×", "x", " by ", "x", "X", "x").Replace(size), "x")
	typed := rig.New("typed")
	typed.Runs = []rig.Run{{Name: "typed"}}
	for field, text := range map[string]string{"width_px": across, "height_px": down} {
		if text = strings.TrimSpace(text); text == "" || rig.Set(typed, "/runs/0/"+field, text) != nil {
			return &rig.FieldError{Path: "/runs", Value: size, Accepts: "pixels across and down, such as 1920 x 1080"}
		}
	}
	run.Width, run.Height = typed.Runs[0].Width, typed.Runs[0].Height
	return nil
}

// freeRun is a name that no other run has.
func freeRun(r *rig.Rig, name string) string {
	taken := func(name string) bool {
		return slices.ContainsFunc(r.Runs, func(run rig.Run) bool { return run.Name == name })
	}
	free := name
	for n := 2; taken(free); n++ {
		free = fmt.Sprintf("%s %d", name, n)
	}
	return free
}
