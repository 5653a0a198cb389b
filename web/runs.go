package web

import (
	"cmp"
	"context"
	"crypto/sha256"
	"encoding/hex"
	"errors"
	"fmt"
	"io"
	"mime/multipart"
	"path/filepath"
	"slices"
	"strconv"
	"strings"
	"time"

	"github.com/gofiber/fiber/v3"

	"kolvan/core/link"
	"kolvan/core/proof"
	"kolvan/core/reference"
	"kolvan/core/rig"
	"kolvan/core/units"
	"kolvan/web/phrase"
	proofroom "kolvan/web/proof"
	"kolvan/web/room"
)

// addRun takes a capture in as a run for each of its passes, or a run that is typed.
func (a *App) addRun(c fiber.Ctx, r *rig.Rig, _ *reference.Tables) (string, string, error) {
	l, err := a.load(c)
	if err != nil {
		return "", "", err
	}
	runs, err := a.capturedRuns(c)
	if err == nil && runs == nil {
		var run rig.Run
		if run, err = proofroom.TypedRun(c); err == nil {
			runs = []rig.Run{run}
		}
	}
	if err != nil {
		return "", "", err
	}
	proof.Keep(r, proof.LinkOf(r, a.ref), room.When(c)) // before the first run with the card it is still a forecast
	kept := slices.Clone(r.Runs)
	for i := range runs {
		run := &runs[i]
		if err := a.tellRun(c, r, run, l.Number); err != nil {
			return "", "", err
		}
		if c.FormValue("first") == "yes" && i == 0 {
			run.First = rig.Of(true)
		}
		if name := strings.TrimSpace(c.FormValue("name")); name != "" {
			run.Name = name
		}
		r.Runs = kept
		run.Name = proofroom.FreeRun(r, phrase.Or(run.Name, "run"))
		kept = append(kept, *run)
	}
	r.Runs = kept
	if len(runs) > 1 {
		return phrase.Counted(len(runs), "run", "runs") + " of " + runs[0].Name, phrase.Last("/runs", len(r.Runs)), nil
	}
	return "run " + runs[0].Name, phrase.Last("/runs", len(r.Runs)), nil
}

// addResults takes in a table of results, typed, pasted or from a file: each as a run of its own.
func (a *App) addResults(c fiber.Ctx, r *rig.Rig, _ *reference.Tables) (string, string, error) {
	l, err := a.load(c)
	if err != nil {
		return "", "", err
	}
	var from io.Reader = strings.NewReader(c.FormValue("table"))
	if file, err := c.FormFile("results"); err == nil && file.Size > 0 {
		opened, err := file.Open()
		if err != nil {
			return "", "", fmt.Errorf("reading the table of results: %w", err)
		}
		defer opened.Close()
		from = opened
	}
	runs, err := proof.Results(from)
	if wrong, is := errors.AsType[*proof.ResultsError](err); is {
		return "", "", &rig.FieldError{Path: "/runs", Value: wrong.Error(), Accepts: wrong.Accepts}
	}
	if err != nil {
		return "", "", err
	}
	proof.Keep(r, proof.LinkOf(r, a.ref), room.When(c))
	for i := range runs {
		run := &runs[i]
		run.Use, run.When = cmp.Or(run.Use, c.FormValue("use")), room.When(c)
		if rig.Is(run.Side, "after") {
			a.stamp(r, run)
			run.Change = rig.Of(l.Number)
		}
		run.Name = proofroom.FreeRun(r, run.Name)
		r.Runs = append(r.Runs, *run)
	}
	return phrase.Counted(len(runs), "result", "results") + " of a table", phrase.Last("/runs", len(r.Runs)), nil
}

// keepExpected keeps what is expected of the uses, to be held against what comes.
func keepExpected(c fiber.Ctx, r *rig.Rig, ref *reference.Tables) (string, string, error) {
	if !proof.Keep(r, proof.LinkOf(r, ref), room.When(c)) {
		return "", "", &rig.FieldError{
			Path: "/brief/works", Value: "what is expected", Accepts: "a use with the card's own rate for it, that was not run with the card yet",
		}
	}
	return "what is expected was kept", "/brief/works", nil
}

// tellRun puts into a run what the form says of how it was made, and what it was made with.
func (a *App) tellRun(c fiber.Ctx, r *rig.Rig, run *rig.Run, change int) error {
	if size := strings.TrimSpace(c.FormValue("size")); size != "" {
		if err := proof.SetSize(run, size); err != nil {
			return err
		}
	}
	run.Use, run.Preset = c.FormValue("use"), strings.TrimSpace(c.FormValue("preset"))
	run.Program, run.Scene = strings.TrimSpace(c.FormValue("program")), strings.TrimSpace(c.FormValue("scene"))
	if side := rig.RunSide(c.FormValue("side")); side.Words().Has(string(side)) {
		run.Side = rig.Of(side)
	}
	if rig.Is(run.Side, "after") {
		a.stamp(r, run)
		run.Change = rig.Of(change)
	}
	return nil
}

// stamp keeps with a run what it was made with: it says nothing of another card, or of
// another link, that the rig may get.
func (a *App) stamp(r *rig.Rig, run *rig.Run) {
	run.Card = r.Card.Name
	if net := link.For(r, a.ref).NetEnds; net.Low > 0 && net.Low >= 0.8*net.High {
		run.Net = rig.Of(units.Round(net.High, 4))
	}
}

// readCapture reads the table that a form brought, by the column that is named, or was for
// a table of the same head; nil where it brought none.
func (a *App) readCapture(c fiber.Ctx) (capture *proof.Capture, name, sum string, err error) {
	file, err := c.FormFile("capture")
	if err != nil {
		return nil, "", "", nil //nolint:nilerr // a form without a file is a run that is typed
	}
	name = strings.TrimSuffix(file.Filename, filepath.Ext(file.Filename))
	o := proof.Options{Column: strings.TrimSpace(c.FormValue("column")), Unit: c.FormValue("unit"), Most: mostUnpacked}
	ctx, done := whileThere(c.Context(), c.RequestCtx().Conn())
	defer done()
	capture, sum, err = readTable(ctx, file, o)
	var head []string
	if asked, is := errors.AsType[*proof.Error](err); is {
		head = asked.Head
	} else if err == nil {
		head = capture.Head
	}
	if o.Column == "" && head != nil {
		remembered, unit, missing := a.store.ColumnOf(c.Context(), proofroom.HeadOf(head))
		if missing != nil {
			return nil, "", "", missing
		}
		if remembered != "" && (err != nil || remembered != capture.Column.Name) {
			o.Column, o.Unit = remembered, cmp.Or(o.Unit, unit)
			capture, sum, err = readTable(ctx, file, o)
		}
	}
	if ctx.Err() != nil {
		return nil, "", "", ctx.Err()
	}
	if wrong, is := errors.AsType[*proof.Error](err); is {
		accepts := wrong.Accepts
		if len(wrong.Asks) > 0 {
			accepts += ". Its columns: " + strings.Join(wrong.Asks, "; ")
		}
		return nil, "", "", &rig.FieldError{
			Path: "/runs", Value: file.Filename + ", " + phrase.Or(strings.TrimSuffix(wrong.What+" "+wrong.Value, " "), "table"),
			Accepts: accepts,
		}
	}
	if err != nil {
		return nil, "", "", &rig.FieldError{Path: "/runs", Value: file.Filename, Accepts: err.Error()}
	}
	return capture, name, sum, nil
}

// mostUnpacked bounds a capture that a form brings, after inflating.
const mostUnpacked = 256 << 20

// readTable reads a capture, with the checksum of all of its file, while somebody waits.
func readTable(ctx context.Context, file *multipart.FileHeader, o proof.Options) (*proof.Capture, string, error) {
	from, err := file.Open()
	if err != nil {
		return nil, "", fmt.Errorf("reading the capture: %w", err)
	}
	defer from.Close()
	hash := sha256.New()
	capture, err := proof.Read(io.TeeReader(leaving{ctx, from}, hash), o)
	if err != nil {
		return nil, "", err
	}
	if _, err := io.Copy(hash, from); err != nil {
		return nil, "", fmt.Errorf("reading the capture: %w", err)
	}
	return capture, hex.EncodeToString(hash.Sum(nil)), nil
}

// keepCapture keeps the file itself with the rig, where a person wants that.
func (a *App) keepCapture(c fiber.Ctx, sum string) error {
	if c.FormValue("keep") != "yes" {
		return nil
	}
	id, err := idAt(c)
	if err != nil {
		return err
	}
	file, err := c.FormFile("capture")
	if err != nil {
		return fmt.Errorf("reading the capture: %w", err)
	}
	from, err := file.Open()
	if err != nil {
		return fmt.Errorf("reading the capture: %w", err)
	}
	defer from.Close()
	text, err := io.ReadAll(from)
	if err != nil {
		return fmt.Errorf("reading the capture: %w", err)
	}
	return a.store.KeepCapture(c.Context(), id, sum, file.Filename, text)
}

// capture answers with a capture as it came.
func (a *App) capture(c fiber.Ctx) error {
	l, err := a.load(c)
	if err != nil {
		return err
	}
	name, file, err := a.store.Capture(c.Context(), l.ID, c.Params("sum"))
	if err != nil {
		return err
	}
	c.Attachment(name)
	c.Set(fiber.HeaderContentType, fiber.MIMEOctetStream)
	return c.Send(file)
}

// rememberColumn keeps the column that a person named for tables of this head.
func (a *App) rememberColumn(c fiber.Ctx, capture *proof.Capture) error {
	column, head := strings.TrimSpace(c.FormValue("column")), proofroom.HeadOf(capture.Head)
	if column == "" || head == "" {
		return nil
	}
	return a.store.KeepColumn(c.Context(), head, column, c.FormValue("unit"))
}

// capturedRuns are the passes of the process that is asked for, or of the one with the
// most frames.
func (a *App) capturedRuns(c fiber.Ctx) (runs []rig.Run, err error) {
	capture, name, sum, err := a.readCapture(c)
	if err != nil || capture == nil {
		return nil, err
	}
	wanted := c.FormValue("process")
	if wanted == "" {
		wanted = proofroom.ProcessOf(capture.Of(""))
	}
	several := len(proofroom.ProcessesOf(capture)) > 1
	for _, series := range capture.Series {
		if proofroom.ProcessOf(series) != wanted || series.Frames() == 0 {
			continue
		}
		run := proof.RunOf(series, sum, time.Now(), 1)
		run.Name = name
		if several && wanted != "" {
			run.Name += ", " + wanted
		}
		runs = append(runs, run)
	}
	if runs == nil {
		return nil, &rig.FieldError{
			Path: "/runs", Value: name + ", process " + wanted, Accepts: "one of " + strings.Join(proofroom.ProcessesOf(capture), ", "),
		}
	}
	if err := a.keepCapture(c, sum); err != nil {
		return nil, err
	}
	return runs, a.rememberColumn(c, capture)
}

// lookAtCapture shows what would be taken in of a table: its column, first rows, and what
// is told apart in it.
func (a *App) lookAtCapture(c fiber.Ctx) error {
	capture, _, _, err := a.readCapture(c)
	v := proofroom.CaptureView{}
	switch {
	case err != nil:
		v.Fault = plainly(err.Error())
	case capture == nil:
		return c.SendString("")
	default:
		v.Column, v.Head = capture.Column, capture.Head
		v.Rows = capture.First[:min(len(capture.First), 4)]
		for _, s := range capture.Series[:min(len(capture.Series), 12)] {
			v.Series = append(
				v.Series,
				proofroom.CaptureSeries{Name: phrase.Or(s.Name, "all of it"), Frames: strconv.Itoa(s.Frames()), Dropped: strconv.Itoa(s.Dropped),
					Seconds: units.Trim(s.Seconds(), 1), Pauses: proofroom.PauseWords(s)},
			)
		}
		most := proofroom.ProcessOf(capture.Of(""))
		for _, name := range proofroom.ProcessesOf(capture) {
			if name == most {
				v.Processes = append([]room.Option{{Value: name, Label: name}}, v.Processes...)
				continue
			}
			v.Processes = append(v.Processes, room.Option{Value: name, Label: name})
		}
	}
	return c.Render("capture", v)
}
