package ledger

import (
	"encoding/csv"
	"errors"
	"fmt"
	"io"
	"slices"
	"strconv"
	"strings"

	"kolvan/core/cells"
	"kolvan/core/rig"
)

// columns of a ledger as a table, each with what it reads and writes of a line.
var columns = []struct {
	name string
	of   func(*rig.LedgerLine) string
	path string // of the line's field
}{
	{"what", func(l *rig.LedgerLine) string { return l.Name }, "name"},
	{"part", func(l *rig.LedgerLine) string { return l.Part }, "part"},
	{"kind", func(l *rig.LedgerLine) string { return string(l.Kind.Value) }, "kind"},
	{"price", func(l *rig.LedgerLine) string { return number(l.Price) }, "price"},
	{"price_tolerance", func(l *rig.LedgerLine) string { return tolerance(l.Price) }, "price/tolerance"},
	{"currency", func(l *rig.LedgerLine) string { return l.Currency }, "currency"},
	{"tax_on_top", func(l *rig.LedgerLine) string { return number(l.TaxOn) }, "tax_on_top"},
	{"postage", func(l *rig.LedgerLine) string { return number(l.Postage) }, "postage"},
	{"postage_tolerance", func(l *rig.LedgerLine) string { return tolerance(l.Postage) }, "postage/tolerance"},
	{"hours", func(l *rig.LedgerLine) string { return number(l.Hours) }, "hours"},
	{"hours_tolerance", func(l *rig.LedgerLine) string { return tolerance(l.Hours) }, "hours/tolerance"},
	{"lot_units", func(l *rig.LedgerLine) string { return whole(l.Lot) }, "lot_units"},
	{"lot_used", func(l *rig.LedgerLine) string { return whole(l.Used) }, "lot_used"},
	{"state", func(l *rig.LedgerLine) string { return string(l.State.Value) }, "state"},
	{"need", func(l *rig.LedgerLine) string { return string(l.Need.Value) }, "need"},
	{"outside", func(l *rig.LedgerLine) string { return flag(l.Outside) }, "outside"},
	{"comes_with", func(l *rig.LedgerLine) string { return l.With }, "comes_with"},
	{"from", func(l *rig.LedgerLine) string { return l.From }, "from"},
	{"when", func(l *rig.LedgerLine) string { return l.When }, "when"},
	{"return_by", func(l *rig.LedgerLine) string { return l.ReturnBy }, "return_by"},
	{"variant", func(l *rig.LedgerLine) string { return l.Variant }, "variant"},
	{"not_to_buy", func(l *rig.LedgerLine) string { return l.Not }, "not_to_buy"},
}

func number[T ~float64](f rig.Fact[T]) string {
	if !f.Known {
		return ""
	}
	return strconv.FormatFloat(float64(f.Value), 'f', -1, 64)
}

func tolerance[T ~float64](f rig.Fact[T]) string {
	if t, told := f.Spread(); told {
		return strconv.FormatFloat(t, 'f', -1, 64)
	}
	return ""
}

func whole(f rig.Fact[int]) string {
	if !f.Known {
		return ""
	}
	return strconv.Itoa(f.Value)
}

func flag(f rig.Fact[bool]) string {
	if !f.Known {
		return ""
	}
	return map[bool]string{true: "yes", false: "no"}[f.Value]
}

// WriteCSV writes the ledger as a table: every part of the rig and every line of its own,
// with what is told of it.
func WriteCSV(to io.Writer, r *rig.Rig) error {
	w := csv.NewWriter(to)
	head := make([]string, len(columns))
	for i := range columns {
		head[i] = columns[i].name
	}
	rows := [][]string{head}
	lines := Lines(r)
	for i := range lines {
		l := asTold(r, &lines[i])
		row := make([]string, len(columns))
		for k := range columns {
			row[k] = columns[k].of(&l)
		}
		rows = append(rows, cells.Row(row))
	}
	if err := w.WriteAll(rows); err != nil {
		return fmt.Errorf("writing the ledger: %w", err)
	}
	return nil
}

// asTold is a line as a table has it: a part of which the ledger says nothing comes with
// its own price and state.
func asTold(r *rig.Rig, l *Line) rig.LedgerLine {
	if l.Index >= 0 {
		return r.Ledger.Lines[l.Index]
	}
	told := l.told
	told.State = rig.Of(l.State)
	told.Price.Source, told.Price.Remark = "", "" // no table tells them
	return told
}

// mostRows of a table that is read; a rig holds fewer lines.
const mostRows = 1000

// ReadCSV puts the lines of a table in the place of the ledger's. Columns go by their names
// and may come in any order; a row that says no more of a part than the part itself does
// makes no line. Nothing is changed where a row is wrong.
func ReadCSV(from io.Reader, r *rig.Rig) error {
	rows := csv.NewReader(from)
	rows.FieldsPerRecord = -1
	head, err := rows.Read()
	if err != nil {
		return &rig.FieldError{Path: "/ledger/lines", Value: "an empty table", Accepts: "a table with the columns " + columnNames()}
	}
	at, err := places(head)
	if err != nil {
		return err
	}
	said := map[string]rig.LedgerLine{}
	lines := Lines(r)
	for i := range lines {
		if l := asTold(r, &lines[i]); lines[i].Index < 0 {
			said[l.Part] = l
		}
	}
	// A part that has a line already says less by itself than its line does.
	for i := range lines {
		if lines[i].Index >= 0 && lines[i].Part != "" {
			delete(said, lines[i].Part)
		}
	}
	read := rig.New("read")
	for n := 2; ; n++ {
		row, err := rows.Read()
		if errors.Is(err, io.EOF) {
			break
		}
		if err != nil || n > mostRows {
			return &rig.FieldError{
				Path: "/ledger/lines", Value: fmt.Sprintf("row %d", n),
				Accepts: fmt.Sprintf("a table parted by commas, of at most %d rows", mostRows),
			}
		}
		for i := range row {
			row[i] = cells.Text(row[i])
		}
		line, err := lineOf(row, at)
		if err != nil {
			return fmt.Errorf("row %d: %w", n, err)
		}
		if own, is := said[line.Part]; !is || own != *line {
			read.Ledger.Lines = append(read.Ledger.Lines, *line)
		}
	}
	if err := rig.Validate(read); err != nil {
		return err
	}
	r.Ledger.Lines = read.Ledger.Lines
	return nil
}

func columnNames() string {
	var names []string
	for i := range columns {
		names = append(names, columns[i].name)
	}
	return strings.Join(names, ", ")
}

// places are the columns of a table by their place in a row.
func places(head []string) ([]int, error) {
	at := make([]int, len(head))
	for i, name := range head {
		name = strings.TrimSpace(strings.TrimPrefix(name, "\ufeff"))
		at[i] = slices.IndexFunc(columns, func(c struct {
			name string
			of   func(*rig.LedgerLine) string
			path string
		}) bool {
			return c.name == name
		})
		if at[i] < 0 {
			return nil, &rig.FieldError{Path: "/ledger/lines", Value: "column " + name, Accepts: "the columns " + columnNames()}
		}
	}
	if !slices.Contains(at, 0) {
		return nil, &rig.FieldError{
			Path: "/ledger/lines", Value: "a table without the column what", Accepts: "the columns " + columnNames(),
		}
	}
	return at, nil
}

// lineOf reads a row; a tolerance comes after what it is of.
func lineOf(row []string, at []int) (*rig.LedgerLine, error) {
	one := rig.New("row")
	one.Ledger.Lines = []rig.LedgerLine{{Name: "row"}}
	for _, late := range []bool{false, true} {
		for i, text := range row {
			if text = strings.TrimSpace(text); text == "" || i >= len(at) {
				continue
			}
			field := columns[at[i]].path
			if strings.HasSuffix(field, "/tolerance") != late {
				continue
			}
			if err := rig.Set(one, "/ledger/lines/0/"+field, text); err != nil {
				return nil, err
			}
		}
	}
	return &one.Ledger.Lines[0], nil
}

// Money is the currency of a rig behind an amount.
func Money(a fmt.Stringer, r *rig.Rig) string {
	return strings.TrimSpace(a.String() + " " + r.Brief.Currency)
}
