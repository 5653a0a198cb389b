package proof

import (
	"encoding/csv"
	"errors"
	"fmt"
	"io"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"kolvan/core/rig"
	"kolvan/core/tables"
	"kolvan/core/units"
)

// mostResults bounds a table of results.
const mostResults = 2000

// A ResultsError is what is wrong with a table of results: the line, the column, the value, and
// what would be accepted.
type ResultsError struct {
	Line                   int // from 1; 0 for the whole
	Column, Value, Accepts string
}

func (e *ResultsError) Error() string {
	text := "the table of results"
	if e.Line > 0 {
		text = fmt.Sprintf("line %d of the table of results", e.Line)
	}
	if e.Column != "" {
		text += ", " + e.Column
	}
	if e.Value != "" {
		text += fmt.Sprintf(": %q is not accepted", e.Value)
	} else {
		text += ": something is missing"
	}
	return text + "; accepted: " + e.Accepts
}

// resultColumns are the columns of a table of results, by the words people head them with.
var resultColumns = []struct {
	words []string
	into  string // a field of a run, or a sort of column of its own
}{
	{[]string{"use", "what for", "zweck", "usage"}, "use"},
	{[]string{
		"program", "programme", "game", "work", "application", "app", "title", "programm", "spiel", "jeu", "logiciel", "juego", "programa", "gra",
	}, "program"},
	{[]string{"resolution", "size", "drawn at", "auflösung", "aufloesung", "résolution", "resolución", "rozdzielczość"}, "size"},
	{[]string{"settings", "preset", "setting", "quality", "einstellungen", "qualität", "réglages", "ajustes", "ustawienia"}, "preset"},
	{[]string{"scene", "mode", "szene", "scène", "escena", "scena"}, "scene"},
	{[]string{"made", "side", "when made", "card"}, "side"},
	{[]string{"before", "without", "before the card", "vorher", "ohne karte", "avant", "antes", "przed"}, "before"},
	{[]string{"with", "after", "with the card", "nachher", "mit karte", "après", "apres", "con", "después", "po"}, "after"},
	{[]string{"elsewhere", "desktop", "in a desktop", "other machine", "anderswo", "ailleurs"}, "elsewhere"},
	{[]string{"average", "average hz", "avg", "rate", "mean", "hz", "fps", "avg fps", "mittel", "moyenne", "media", "średnia"}, "average_hz"},
	{[]string{"worst 1 %", "1 % low", "1% low", "1% lows", "low 1 %", "p1", "1 %"}, "low1_p99_hz"},
	{[]string{"worst 0.1 %", "0.1 % low", "0.1% low", "0.1% lows", "0.1 %"}, "low01_p99_hz"},
	{[]string{"seconds", "time", "s", "it took", "duration", "took", "dauer", "sekunden", "durée", "tiempo", "czas"}, "duration_s"},
	{[]string{"score", "points", "punkte"}, "score"},
	{[]string{"unit", "unit of the score"}, "score_unit"},
	{[]string{"felt", "feel", "it felt"}, "felt"},
	{[]string{"by eye", "read by eye", "range"}, "read_by_eye"},
	{[]string{"watts", "wall", "w", "watts at the wall"}, "wall_w"},
	{[]string{"machine", "where"}, "machine"},
	{[]string{"cap", "held to"}, "cap_hz"},
	{[]string{"name", "run", "called"}, "name"},
	{[]string{"outcome"}, "outcome"},
}

// perSide are the columns whose cells are results of a side.
var perSide = []string{"before", "after", "elsewhere"}

// A result column is a field, and what its head says of the unit of what is in it.
type resultColumn struct{ head, into, unit string }

// Results reads a table of results as people keep them: a row a result, or a row with a column for
// before, with and elsewhere; typed, pasted from a sheet, or as CSV. Nothing is averaged, and
// nothing left out in silence: what cannot be read is an error that names line and column.
func Results(from io.Reader) ([]rig.Run, error) {
	opened, err := tables.Open(from)
	if err != nil {
		return nil, fmt.Errorf("reading the table of results: %w", err)
	}
	raw, err := io.ReadAll(io.LimitReader(opened, rig.MaxFile))
	if err != nil {
		return nil, fmt.Errorf("reading the table of results: %w", err)
	}
	rows, err := rowsOf(string(raw))
	if err != nil {
		return nil, err
	}
	if len(rows) < 2 {
		return nil, &ResultsError{Accepts: "a row of heads, such as program, resolution, settings, before, with; and a row for each result"}
	}
	if len(rows) > mostResults {
		return nil, &ResultsError{Value: strconv.Itoa(len(rows)) + " rows", Accepts: fmt.Sprintf("up to %d", mostResults)}
	}
	columns, err := resultHeads(rows[0].cells)
	if err != nil {
		return nil, err
	}
	var runs []rig.Run
	for _, row := range rows[1:] {
		of, err := resultsOf(row, columns)
		if err != nil {
			return nil, err
		}
		runs = append(runs, of...)
	}
	if len(runs) == 0 {
		return nil, &ResultsError{Accepts: "at least one row with a result in it"}
	}
	return runs, nil
}

// resultRow is a row of a table with its line.
type resultRow struct {
	line  int
	cells []string
}

// rowsOf splits a table by the mark that parts its first row best: tab, semicolon, bar or comma.
func rowsOf(text string) (rows []resultRow, err error) {
	first, _, _ := strings.Cut(strings.TrimLeft(text, "\r\n"), "\n")
	comma := ','
	for _, mark := range []rune{'\t', ';', '|'} {
		if strings.ContainsRune(first, mark) {
			comma = mark
			break
		}
	}
	read := csv.NewReader(strings.NewReader(text))
	read.Comma, read.FieldsPerRecord, read.LazyQuotes, read.TrimLeadingSpace = comma, -1, true, true
	for {
		cells, err := read.Read()
		if errors.Is(err, io.EOF) {
			return rows, nil
		}
		if err != nil {
			return nil, &ResultsError{Value: err.Error(), Accepts: "a table parted by tabs, semicolons or commas"}
		}
		line, _ := read.FieldPos(0)
		for i := range cells {
			cells[i] = strings.TrimSpace(cells[i])
		}
		if strings.Trim(strings.Join(cells, ""), "-: ") != "" {
			rows = append(rows, resultRow{line, cells})
		}
	}
}

// resultHeads finds what each column is.
func resultHeads(heads []string) (columns []resultColumn, err error) {
	for _, head := range heads {
		name, unit := plainHead(head)
		into := ""
		for _, column := range resultColumns {
			if slices.Contains(column.words, name) {
				into = column.into
			}
		}
		if into == "" && name != "" {
			return nil, &ResultsError{Line: 1, Value: head,
				Accepts: "heads such as use, program, resolution, settings, scene, made, before, with, elsewhere, " +
					"average, worst 1 %, seconds, score, felt, by eye"}
		}
		columns = append(columns, resultColumn{head, into, unit})
	}
	if !slices.ContainsFunc(columns, func(c resultColumn) bool { return isResult(c.into) || slices.Contains(perSide, c.into) }) {
		return nil, &ResultsError{Line: 1, Accepts: "a column with results: average, before, with, elsewhere, seconds, score, felt or by eye"}
	}
	return columns, nil
}

// headUnit is a unit at the end of a head, in brackets or not.
var headUnit = regexp.MustCompile(`(?i)[\s,]*[\[(]?\b(hz|fps|s|sec|seconds)\b[\])]?$`)

// plainHead is a head without its unit.
func plainHead(head string) (name, unit string) {
	name = strings.ToLower(strings.TrimSpace(head))
	if at := headUnit.FindStringSubmatchIndex(name); at != nil && at[0] > 0 {
		unit, name = name[at[2]:at[3]], strings.TrimSpace(name[:at[0]])
	}
	return name, unit
}

// isResult reports a field that is a result and no setting.
func isResult(into string) bool {
	return slices.Contains([]string{"average_hz", "low1_p99_hz", "low01_p99_hz", "duration_s", "score", "felt", "read_by_eye", "outcome"},
		into)
}

// resultsOf are the runs of a row: one, or one for each side that has a cell.
func resultsOf(row resultRow, columns []resultColumn) (runs []rig.Run, err error) {
	typed := rig.New("typed")
	typed.Runs = []rig.Run{{Name: "typed"}}
	some, sides := false, map[string]resultColumn{}
	cells := map[string]string{}
	for i, column := range columns {
		if i >= len(row.cells) || row.cells[i] == "" || column.into == "" || noResult(row.cells[i]) {
			continue
		}
		text := row.cells[i]
		if slices.Contains(perSide, column.into) {
			sides[column.into], cells[column.into] = column, text
			continue
		}
		some = some || isResult(column.into)
		if err := setResult(typed, column.into, text); err != nil {
			return nil, &ResultsError{row.line, column.head, text, acceptedBy(err)}
		}
	}
	if len(sides) == 0 {
		if !some {
			return nil, nil
		}
		run := typed.Runs[0]
		if !run.Side.Known {
			run.Side = rig.Of[rig.RunSide]("after")
		}
		return []rig.Run{entitled(run)}, nil
	}
	for _, side := range perSide {
		column, told := sides[side]
		if !told {
			continue
		}
		one := rig.New("typed")
		one.Runs = []rig.Run{typed.Runs[0]}
		one.Runs[0].Side = rig.Of(rig.RunSide(side))
		if err := setCell(one, cells[side], column.unit); err != nil {
			return nil, &ResultsError{row.line, column.head, cells[side], acceptedBy(err)}
		}
		runs = append(runs, entitled(one.Runs[0]))
	}
	return runs, nil
}

// noResult reports a cell in which nothing stands.
func noResult(text string) bool {
	return strings.Trim(text, "-–—/. ") == "" || strings.EqualFold(text, "n/a")
}

// entitled gives a run a name of what it was.
func entitled(run rig.Run) rig.Run {
	if run.Name != "typed" {
		return run
	}
	parts := slices.DeleteFunc([]string{toldSettings(&run), run.Scene, string(run.Side.Value)}, func(part string) bool { return part == "" })
	if run.Program == "" && run.Use != "" {
		parts = slices.Insert(parts, 0, run.Use)
	}
	run.Name = strings.Join(parts, ", ")
	return run
}

// sideWords are the sides of a run as people call them.
var sideWords = map[string]rig.RunSide{
	"before": "before", "without": "before", "before the card": "before", "with": "after", "after": "after", "with the card": "after",
	"elsewhere": "elsewhere", "desktop": "elsewhere", "on another machine": "elsewhere",
}

// sizeNames are resolutions that have a name.
var sizeNames = map[string]string{
	"720p": "1280x720", "1080p": "1920x1080", "1440p": "2560x1440", "4k": "3840x2160", "2160p": "3840x2160", "uhd": "3840x2160",
}

// SetSize reads a resolution into a run: 1920 x 1080, or by its name, 1440p.
func SetSize(run *rig.Run, text string) error {
	plain := strings.ToLower(strings.TrimSpace(text))
	if full, named := sizeNames[plain]; named {
		plain = full
	}
	across, down, _ := strings.Cut(strings.NewReplacer("×", "x", " by ", "x", " ", "").Replace(plain), "x")
	typed := rig.New("typed")
	typed.Runs = []rig.Run{{Name: "typed"}}
	for field, pixels := range map[string]string{"width_px": across, "height_px": down} {
		if pixels == "" || rig.Set(typed, "/runs/0/"+field, pixels) != nil {
			return &rig.FieldError{Path: "/runs", Value: text, Accepts: "pixels across and down, such as 1920 x 1080, or 1440p"}
		}
	}
	run.Width, run.Height = typed.Runs[0].Width, typed.Runs[0].Height
	return nil
}

// setResult puts a cell into the field its head names.
func setResult(typed *rig.Rig, into, text string) error {
	run := &typed.Runs[0]
	switch into {
	case "use":
		run.Use = text
	case "program":
		run.Program = text
	case "name":
		run.Name = text
	case "side":
		side, known := sideWords[strings.ToLower(text)]
		if !known {
			return &rig.FieldError{Accepts: "before, with or elsewhere"}
		}
		run.Side = rig.Of(side)
	case "size":
		return SetSize(run, text)
	case "average_hz", "duration_s":
		return setCell(typed, text, map[string]string{"average_hz": "hz", "duration_s": "s"}[into])
	case "felt":
		return rig.Set(typed, "/runs/0/felt", strings.ToLower(text))
	default:
		return rig.Set(typed, "/runs/0/"+into, text)
	}
	return nil
}

// A range by eye, and a number with its unit.
var (
	eyeRange = regexp.MustCompile(`^(?i)([\d.,]+)\s*(?:-|–|—|to|bis|à)\s*([\d.,]+)\s*(?:hz|fps)?$`)
	oneValue = regexp.MustCompile(`^(?i)([\d.,]+)\s*(hz|fps|s|sec|seconds|min)?$`)
)

// setCell puts a result into a run as what it is: a range by eye, seconds, a rate, or a word.
func setCell(typed *rig.Rig, text, unit string) error {
	run := &typed.Runs[0]
	if eye := eyeRange.FindStringSubmatch(text); eye != nil {
		run.Eye = text
		_, _, ok := eyeOf(text)
		if !ok {
			return &rig.FieldError{Accepts: "the lower end first, such as 34–48"}
		}
		return nil
	}
	if one := oneValue.FindStringSubmatch(text); one != nil {
		value, err := numberOf(one[1])
		if err != nil {
			return err
		}
		switch told := strings.ToLower(one[2]); {
		case told == "min":
			run.Took = rig.Of(60 * value)
		case told == "s" || strings.HasPrefix(told, "sec") || told == "" && (unit == "s" || strings.HasPrefix(unit, "sec")):
			run.Took = rig.Of(value)
		default:
			run.Average = rig.Of(value)
		}
		return nil
	}
	if rig.Set(typed, "/runs/0/felt", strings.ToLower(text)) == nil {
		return nil
	}
	return &rig.FieldError{Accepts: "a rate such as 59.4, a time such as 305 s, a range by eye such as 34–48, or a word: smooth, " +
		"stutters, lags, tears"}
}

func numberOf(text string) (float64, error) {
	value, err := strconv.ParseFloat(strings.Replace(text, ",", ".", 1), 64)
	if err != nil || value <= 0 {
		return 0, &rig.FieldError{Accepts: "a number above 0"}
	}
	return value, nil
}

// eyeOf are the ends of a range that was read by eye; false where it is none.
func eyeOf(text string) (low, high float64, ok bool) {
	eye := eyeRange.FindStringSubmatch(strings.TrimSpace(text))
	if eye == nil {
		return 0, 0, false
	}
	low, errLow := numberOf(eye[1])
	high, errHigh := numberOf(eye[2])
	return low, high, errLow == nil && errHigh == nil && low <= high
}

func acceptedBy(err error) string {
	if field, is := errors.AsType[*rig.FieldError](err); is {
		return field.Accepts
	}
	return err.Error()
}

// seen compares what was read by eye, and what was felt, as what they are.
func (g *Gain) seen() {
	if len(g.Differs) > 0 {
		return
	}
	a, b := g.Before[0], g.After[0]
	if low, high, told := eyeOf(a.Eye); told {
		if from, to, too := eyeOf(b.Eye); too {
			g.Seen = append(g.Seen, fmt.Sprintf("by eye %s against %s: %s", a.Eye, b.Eye, byEye(from/high, to/low)))
		}
	}
	if a.Felt.Known && b.Felt.Known {
		g.Seen = append(g.Seen, fmt.Sprintf("it felt: %s against %s", rig.Spoken(a.Felt.Value), rig.Spoken(b.Felt.Value)))
	}
}

// byEye says by how much a rate changed that lies between two ratios.
func byEye(low, high float64) string {
	by := units.Trim(low, 1) + " to " + units.Trim(high, 1)
	switch {
	case low > 1:
		return "faster, by " + by
	case high < 1:
		return "slower, by " + by
	default:
		return "no difference that the eye can tell, " + by
	}
}
