package web

import (
	"archive/zip"
	"bytes"
	"encoding/csv"
	"errors"
	"fmt"
	"slices"
	"strconv"
	"strings"

	"github.com/go-json-experiment/json"
	"github.com/go-json-experiment/json/jsontext"
	"github.com/gofiber/fiber/v3"

	"kolvan/core/bringup"
	"kolvan/core/cells"
	"kolvan/core/proof"
	"kolvan/core/rig"
	"kolvan/core/units"
)

// logView is what happened with a rig, the newest first.
type logView struct {
	Kinds []logKind
	Rows  []logRow
}

type logKind struct {
	Key, Label string
	Count      int
	Here       bool
}

type logRow struct{ When, Kind, Says, Sel string }

var logKinds = []struct{ key, label string }{{"reading", "readings"}, {"try", "tries"}, {"run", "runs"}, {"diary", "diary"}}

// logOf gathers the log, of one kind where one is asked for.
func logOf(r *rig.Rig, kind string) (*logView, error) {
	log, err := proof.LogOf(r)
	if err != nil {
		return nil, err
	}
	v := &logView{}
	for _, k := range logKinds {
		count := 0
		for i := range log.Entries {
			if log.Entries[i].Kind == k.key {
				count++
			}
		}
		v.Kinds = append(v.Kinds, logKind{k.key, k.label, count, k.key == kind})
	}
	for _, e := range slices.Backward(log.Entries) {
		if kind != "" && e.Kind != kind && slices.ContainsFunc(
			logKinds, func(k struct{ key, label string }) bool { return k.key == kind },
		) {
			continue
		}
		row := logRow{When: whenWords(e.When), Kind: e.Kind, Says: entryWords(r, &e), Sel: e.Where}
		if rig.Within(e.Where, "/build") {
			row.Sel = "" // tries stand at the finder
		}
		v.Rows = append(v.Rows, row)
	}
	return v, nil
}

func whenWords(when string) string {
	return orText(strings.Replace(when[:min(len(when), len("2006-01-02T15:04"))], "T", " ", 1), "not told")
}

// entryWords say what an entry of the log tells.
func entryWords(r *rig.Rig, e *proof.Entry) string {
	list, number, _ := strings.Cut(strings.TrimPrefix(e.Where, "/"), "/")
	at := number[strings.LastIndex(number, "/")+1:]
	i, err := strconv.Atoi(at)
	if err != nil {
		return ""
	}
	switch {
	case list == "runs":
		return r.Runs[i].Name + ": " + resultWords(&r.Runs[i])
	case list == "route":
		reading := &r.Route.Readings[i]
		return strings.TrimSuffix("x"+words(reading.Width)+" Gen "+words(reading.Gen)+", "+words(reading.Load)+", "+reading.Tool, ", ")
	case list == "load_readings":
		return loadWords(&r.LoadReadings[i])
	case list == "build":
		return tryWords(&r.Build.Tries[i])
	default:
		return diaryWords(&r.Diary[i])
	}
}

func loadWords(l *rig.LoadReading) string {
	var said []string
	if l.To.Known {
		said = append(said, l.To.Value.String()+" copied to the card")
	}
	if l.From.Known {
		said = append(said, l.From.Value.String()+" copied from the card")
	}
	if l.Board.Known {
		said = append(said, l.Board.Value.String()+" of board power")
	}
	if l.Heat.Known {
		said = append(said, orText(l.Plug, "a plug")+" at "+units.Trim(l.Heat.Value, 0)+" °C")
	}
	if l.Noise.Known {
		said = append(said, units.Trim(l.Noise.Value, 0)+" dB at the seat")
	}
	if l.Tool != "" {
		said = append(said, "read with "+l.Tool)
	}
	return orText(strings.Join(said, ", "), "nothing told")
}

func tryWords(t *rig.Try) string {
	if t.Test == "" {
		return orText(t.Remark, "a remark")
	}
	said := t.Test + ": " + t.Outcome
	if cat, err := bringup.Load(); err == nil {
		if k := cat.Test(t.Test); k >= 0 {
			said = cat.Tests[k].Do + " " + outcomeOf(&cat.Tests[k], t.Outcome)
		}
	}
	return strings.TrimSuffix(said+", "+t.Remark, ", ")
}

func diaryWords(l *rig.DiaryLine) string {
	said := []string{}
	add := func(known bool, says string) {
		if known {
			said = append(said, says)
		}
	}
	add(l.Text != "", l.Text)
	add(rig.Is(l.Apart, true), "It was taken apart.")
	add(l.Plugs.Known, fmt.Sprintf("Mains plugs: %d.", l.Plugs.Value))
	add(l.Noise != "", "Noise: "+l.Noise+".")
	add(l.Stands != "", "It stands "+strings.TrimPrefix(l.Stands, "it stands ")+".")
	add(l.Household != "", "The household says: "+l.Household+".")
	add(l.Again.Known, map[bool]string{true: "Would be built again.", false: "Would not be built again."}[l.Again.Value])
	return orText(strings.Join(said, " "), "nothing told")
}

// addLine adds a line to the log: of the diary, or a reading taken under load.
func addLine(c fiber.Ctx, r *rig.Rig) (string, string, error) {
	typed := rig.New("typed")
	typed.Diary, typed.LoadReadings = []rig.DiaryLine{{When: now()}}, []rig.LoadReading{{When: now()}}
	var some [2]bool
	for k, list := range [][]string{
		{"text", "mains_plugs", "noise", "stands", "household", "build_again", "taken_apart"},
		{"copied_to_card_gb_s", "copied_from_card_gb_s", "card_w", "plug", "plug_c", "noise_db", "tool"},
	} {
		for _, field := range list {
			text := strings.TrimSpace(c.FormValue(field))
			if text == "" {
				continue
			}
			some[k] = true
			if err := setTyped(typed, []string{"/diary/0/", "/load_readings/0/"}[k]+field, text); err != nil {
				return "", "", err
			}
		}
	}
	if !some[0] && !some[1] {
		return "", "", &rig.FieldError{Path: "/diary", Accepts: "what happened, in a few words, or a reading"}
	}
	if some[1] {
		typed.LoadReadings[0].Card = r.Card.Name
		r.LoadReadings = append(slices.Clone(r.LoadReadings), typed.LoadReadings[0])
	}
	if some[0] {
		r.Diary = append(slices.Clone(r.Diary), typed.Diary[0])
	}
	return "a line in the log", "", nil
}

// setTyped sets a field of what a form makes, which has no place in the rig yet: what it
// refuses is called by its name.
func setTyped(typed *rig.Rig, where, text string) error {
	err := rig.Set(typed, where, text)
	if wrong, is := errors.AsType[*rig.FieldError](err); is {
		return &rig.FieldError{Path: rig.Called(typed, where), Value: wrong.Value, Accepts: wrong.Accepts}
	}
	return err
}

// logJSON answers with the log as kolvan-log/1.
func (a *App) logJSON(c fiber.Ctx) error {
	l, err := a.load(c)
	if err != nil {
		return err
	}
	text, err := logText(l.rig)
	if err != nil {
		return err
	}
	c.Attachment(fileName(l.rig.Name) + "-log.json")
	c.Set(fiber.HeaderContentType, fiber.MIMEApplicationJSONCharsetUTF8)
	return c.Send(text)
}

func logText(r *rig.Rig) ([]byte, error) {
	log, err := proof.LogOf(r)
	if err != nil {
		return nil, err
	}
	text, err := json.Marshal(log, jsontext.WithIndent("  "))
	if err != nil {
		return nil, fmt.Errorf("writing the log: %w", err)
	}
	return append(text, '\n'), nil
}

// runsCSV answers with the figures of all runs as a table.
func (a *App) runsCSV(c fiber.Ctx) error {
	l, err := a.load(c)
	if err != nil {
		return err
	}
	var out bytes.Buffer
	w := csv.NewWriter(&out)
	if err := w.WriteAll(cells.Rows(runsTable(l.rig))); err != nil {
		return fmt.Errorf("writing the runs: %w", err)
	}
	c.Attachment(fileName(l.rig.Name) + "-runs.csv")
	c.Set(fiber.HeaderContentType, "text/csv; charset=utf-8")
	return c.Send(out.Bytes())
}

// runsSVG answers with the drawing of the runs as a picture of its own.
func (a *App) runsSVG(c fiber.Ctx) error {
	l, err := a.load(c)
	if err != nil {
		return err
	}
	v := proofView{Height: runsTop + runsHigh + 40}
	if v.draw(l.rig); v.Empty != "" {
		return fiber.NewError(fiber.StatusNotFound, "No run of this rig has frames to draw.")
	}
	if err := c.Render("runs_svg", v); err != nil {
		return err
	}
	c.Attachment(fileName(l.rig.Name) + "-runs.svg")
	c.Set(fiber.HeaderContentType, "image/svg+xml")
	return nil
}

// drawnRun is what is drawn of a run: its thinned trace and its sorted curve, ms.
type drawnRun struct {
	Name  string      `json:"name"`
	Side  rig.RunSide `json:"side"`
	Trace []float64   `json:"trace_ms"`
	Curve []float64   `json:"curve_ms"`
}

// runsJSON answers with what is drawn of the runs.
func (a *App) runsJSON(c fiber.Ctx) error {
	l, err := a.load(c)
	if err != nil {
		return err
	}
	drawn := []drawnRun{}
	for i := range l.rig.Runs {
		run := &l.rig.Runs[i]
		if trace := proof.Values(run.Trace); len(trace) > 1 {
			drawn = append(drawn, drawnRun{run.Name, run.Side.Value, trace, proof.Values(run.Curve)})
		}
	}
	return c.JSON(fiber.Map{"runs": drawn})
}

// plain is a fact as a number alone; empty where it is not known.
func plain[T ~int | ~float64](f rig.Fact[T]) string {
	if !f.Known {
		return ""
	}
	return strconv.FormatFloat(float64(f.Value), 'f', -1, 64)
}

// everything answers with one archive of a rig: its file, its log, its sheet, its figures,
// and the pictures of its steps.
func (a *App) everything(c fiber.Ctx) error {
	l, err := a.load(c)
	if err != nil {
		return err
	}
	doc, err := rig.Encode(l.rig)
	if err != nil {
		return err
	}
	log, err := logText(l.rig)
	if err != nil {
		return err
	}
	var markdown, page bytes.Buffer
	if err := WriteSheet(&markdown, l.rig, a.ref, "markdown", nil, nil); err != nil {
		return err
	}
	if err := WriteSheet(&page, l.rig, a.ref, "html", nil, nil); err != nil {
		return err
	}
	files := []archived{{"rig.json", doc}, {"log.json", log}, {"sheet.md", markdown.Bytes()}, {"sheet.html", page.Bytes()}}
	pictures, err := a.pictureFiles(c, l.ID)
	if err != nil {
		return err
	}
	text, err := archiveOf(append(files, pictures...))
	if err != nil {
		return err
	}
	c.Attachment(fileName(l.rig.Name) + ".zip")
	c.Set(fiber.HeaderContentType, "application/zip")
	return c.Send(text)
}

// pictureFiles are the pictures of a rig's steps, as files.
func (a *App) pictureFiles(c fiber.Ctx, rig int64) (files []archived, err error) {
	pictures, err := a.store.PicturesOfRig(c.Context(), rig)
	if err != nil {
		return nil, err
	}
	for _, p := range pictures {
		name := fmt.Sprintf("pictures/%s-%d", fileName(p.Step), p.ID)
		made, err := a.store.Picture(c.Context(), rig, p.ID)
		switch {
		case isBroken(err):
			files = append(files, archived{name + ".txt", []byte("This picture is damaged: it is not what was kept.\n")})
		case err != nil:
			return nil, err
		default:
			files = append(files, archived{name + ".jpg", made})
		}
	}
	return files, nil
}

type archived struct {
	name string
	text []byte
}

func archiveOf(files []archived) ([]byte, error) {
	var out bytes.Buffer
	z := zip.NewWriter(&out)
	for _, f := range files {
		w, err := z.Create(f.name)
		if err == nil {
			_, err = w.Write(f.text)
		}
		if err != nil {
			return nil, fmt.Errorf("packing %s: %w", f.name, err)
		}
	}
	if err := z.Close(); err != nil {
		return nil, fmt.Errorf("packing: %w", err)
	}
	return out.Bytes(), nil
}
