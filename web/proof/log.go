package proof

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
	"kolvan/core/reference"
	"kolvan/core/rig"
	"kolvan/core/units"
	"kolvan/web/assembly"
	"kolvan/web/phrase"
	"kolvan/web/room"
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
		row := logRow{When: phrase.When(e.When), Kind: e.Kind, Says: entryWords(r, &e), Sel: e.Where}
		if rig.Within(e.Where, "/build") {
			row.Sel = "" // tries stand at the finder
		}
		v.Rows = append(v.Rows, row)
	}
	return v, nil
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
		return strings.TrimSuffix("x"+phrase.Of(reading.Width)+" Gen "+phrase.Of(reading.Gen)+", "+phrase.Of(reading.Load)+", "+reading.Tool,
			", ")
	case list == "load_readings":
		return loadWords(&r.LoadReadings[i])
	case list == "build":
		return tryWords(&r.Build.Tries[i])
	default:
		return DiaryWords(&r.Diary[i])
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
		said = append(said, phrase.Or(l.Plug, "a plug")+" at "+units.Trim(l.Heat.Value, 0)+" °C")
	}
	if l.Noise.Known {
		said = append(said, units.Trim(l.Noise.Value, 0)+" dB at the seat")
	}
	if l.Tool != "" {
		said = append(said, "read with "+l.Tool)
	}
	return phrase.Or(strings.Join(said, ", "), "nothing told")
}

func tryWords(t *rig.Try) string {
	if t.Test == "" {
		return phrase.Or(t.Remark, "a remark")
	}
	said := t.Test + ": " + t.Outcome
	if cat, err := bringup.Load(); err == nil {
		if k := cat.Test(t.Test); k >= 0 {
			said = cat.Tests[k].Do + " " + assembly.OutcomeOf(&cat.Tests[k], t.Outcome)
		}
	}
	return strings.TrimSuffix(said+", "+t.Remark, ", ")
}

// DiaryWords is a line of the diary.
func DiaryWords(l *rig.DiaryLine) string {
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
	return phrase.Or(strings.Join(said, " "), "nothing told")
}

// addLine adds a line to the log: of the diary, or a reading taken under load.
func addLine(c fiber.Ctx, r *rig.Rig, _ *reference.Tables) (string, string, error) {
	typed := rig.New("typed")
	typed.Diary, typed.LoadReadings = []rig.DiaryLine{{When: room.When(c)}}, []rig.LoadReading{{When: room.When(c)}}
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

// LogText is the log of a rig as kolvan-log/1.
func LogText(r *rig.Rig) ([]byte, error) {
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

// drawnRun is what is drawn of a run: its thinned trace and its sorted curve, ms.
type drawnRun struct {
	Name  string      `json:"name"`
	Side  rig.RunSide `json:"side"`
	Trace []float64   `json:"trace_ms"`
	Curve []float64   `json:"curve_ms"`
}

// Archived is one file of an archive.
type Archived struct {
	Name string
	Text []byte
}

// ArchiveOf packs files into a zip.
func ArchiveOf(files []Archived) ([]byte, error) {
	var out bytes.Buffer
	z := zip.NewWriter(&out)
	for _, f := range files {
		w, err := z.Create(f.Name)
		if err == nil {
			_, err = w.Write(f.Text)
		}
		if err != nil {
			return nil, fmt.Errorf("packing %s: %w", f.Name, err)
		}
	}
	if err := z.Close(); err != nil {
		return nil, fmt.Errorf("packing: %w", err)
	}
	return out.Bytes(), nil
}

// logJSON answers with the log as kolvan-log/1.
func logJSON(c fiber.Ctx, d *room.Desk) error {
	text, err := LogText(d.Rig)
	if err != nil {
		return err
	}
	c.Attachment(phrase.FileName(d.Rig.Name) + "-log.json")
	c.Set(fiber.HeaderContentType, fiber.MIMEApplicationJSONCharsetUTF8)
	return c.Send(text)
}

// runsCSV answers with the figures of all runs as a table.
func runsCSV(c fiber.Ctx, d *room.Desk) error {
	var out bytes.Buffer
	w := csv.NewWriter(&out)
	if err := w.WriteAll(cells.Rows(runsTable(d.Rig))); err != nil {
		return fmt.Errorf("writing the runs: %w", err)
	}
	c.Attachment(phrase.FileName(d.Rig.Name) + "-runs.csv")
	c.Set(fiber.HeaderContentType, "text/csv; charset=utf-8")
	return c.Send(out.Bytes())
}

// runsSVG answers with the drawing of the runs as a picture of its own.
func runsSVG(c fiber.Ctx, d *room.Desk) error {
	v := View{Height: runsTop + runsHigh + 40}
	if v.Draw(d.Rig); v.Empty != "" {
		return fiber.NewError(fiber.StatusNotFound, "No run of this rig has frames to draw.")
	}
	if err := c.Render("runs_svg", v); err != nil {
		return err
	}
	c.Attachment(phrase.FileName(d.Rig.Name) + "-runs.svg")
	c.Set(fiber.HeaderContentType, "image/svg+xml")
	return nil
}

// runsJSON answers with what is drawn of the runs.
func runsJSON(c fiber.Ctx, d *room.Desk) error {
	drawn := []drawnRun{}
	for i := range d.Rig.Runs {
		run := &d.Rig.Runs[i]
		if trace := proof.Values(run.Trace); len(trace) > 1 {
			drawn = append(drawn, drawnRun{Name: run.Name, Side: run.Side.Value, Trace: trace, Curve: proof.Values(run.Curve)})
		}
	}
	return c.JSON(fiber.Map{"runs": drawn})
}
