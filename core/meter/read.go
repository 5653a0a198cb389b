package meter

import (
	"bufio"
	"bytes"
	"encoding/csv"
	"errors"
	"fmt"
	"io"
	"math"
	"slices"
	"strings"

	"kolvan/core/tables"
	"kolvan/core/units"
)

// MaxFile bounds a table: more than a day of samples ten times a second.
const MaxFile = 48 << 20

// An Error is what is wrong with a table: at which line, in which column, what
// stands there and what would be accepted.
type Error struct {
	Line                   int
	Column, Value, Accepts string
}

func (e *Error) Error() string {
	return fmt.Sprintf("line %d, %s: %q is not accepted; accepted: %s", e.Line, e.Column, e.Value, e.Accepts)
}

// Read reads a table of time and power as meters write it: columns parted by
// commas, semicolons or tabs, numbers with a point or a comma, a head that names
// the columns and their units in one of many ways, or none. column names the one
// with the power where there are several; "" takes the first that is one. A row
// without a power is a sample that is missing.
func Read(from io.Reader, column string) (*Record, error) {
	raw, err := io.ReadAll(io.LimitReader(from, MaxFile+1))
	if err != nil {
		return nil, fmt.Errorf("reading the table: %w", err)
	}
	if len(raw) > MaxFile {
		return nil, fmt.Errorf("the table is too large: at most %d MB are read", MaxFile>>20)
	}
	return ReadAgain(func() (io.Reader, error) { return bytes.NewReader(raw), nil }, column, io.Discard)
}

// ReadAgain is Read of a table of any length that can be opened again: a long one is read
// twice. All its samples are written to keep, as WriteCSV writes them.
func ReadAgain(open func() (io.Reader, error), column string, keep io.Writer) (*Record, error) {
	record, count, pace := &Record{}, 0, pace{}
	all, err := newWriter(keep)
	if err != nil {
		return nil, fmt.Errorf("keeping the table: %w", err)
	}
	of, err := walk(open, column, func(s Sample) error {
		pace.add(s)
		if count++; count <= mostWhole {
			record.Samples = append(record.Samples, s)
		}
		if keep == io.Discard {
			return nil
		}
		return all.write(s)
	})
	if err == nil {
		err = all.end()
	}
	if err != nil {
		return nil, err
	}
	record.Column, record.Taken = of.column, of.taken
	if count <= mostWhole {
		return record, nil
	}
	return record, record.summarize(open, column, count, pace.middle())
}

// summarize takes in a record that is too long to be held.
func (r *Record) summarize(open func() (io.Reader, error), column string, count int, pace units.Second) error {
	draw := drawn{each: (2*count + mostDrawn - 1) / mostDrawn, list: make([]Sample, 0, mostDrawn+2)}
	r.whole = &summary{tally: TallyAt(pace), pace: pace, spread: units.Second(2*draw.each) * pace}
	best := highest{longest: gapTimes * pace}
	_, err := walk(open, column, func(s Sample) error {
		r.whole.tally.Add(s)
		best.add(s)
		draw.add(s)
		return nil
	})
	draw.flush()
	r.Samples, r.whole.highest = draw.list, best.mean(r.whole.tally.Figures())
	return err
}

// walk takes the samples of a table one after another.
func walk(open func() (io.Reader, error), column string, take func(Sample) error) (*table, error) {
	from, err := open()
	if err != nil {
		return nil, fmt.Errorf("reading the table: %w", err)
	}
	plain, err := tables.Open(from)
	if err != nil {
		return nil, fmt.Errorf("reading the table: %w", err)
	}
	text := bufio.NewReaderSize(plain, peeked)
	start, _ := text.Peek(peeked)
	rows := csv.NewReader(text)
	rows.Comma, rows.Comment = parter(start), '#'
	rows.FieldsPerRecord, rows.TrimLeadingSpace, rows.LazyQuotes, rows.ReuseRecord = -1, true, true, true
	t := &table{rows: rows, take: take}
	err = t.read(column)
	return t, err
}

// peeked is how much of a table tells its sign.
const peeked = 1 << 16

func (t *table) read(column string) error {
	first, err := t.next()
	if err != nil {
		return err
	}
	if first == nil {
		return &Error{1, "head", "", "a table with a column of time and one of power"}
	}
	if t.bare(first) && column == "" {
		err = t.sample(first)
	} else {
		err = t.head(first, column)
	}
	for err == nil {
		var row []string
		if row, err = t.next(); row == nil {
			break
		}
		if err == nil {
			err = t.sample(row)
		}
	}
	if err == nil && t.count == 0 {
		err = &Error{t.line, "power", "", "at least one row with a time and a power"}
	}
	return err
}

// parter is the sign that parts the columns, by the first line that has any. A
// comma counts last, since numbers may have one.
func parter(raw []byte) rune {
	for line := range bytes.Lines(raw) {
		for _, sign := range "\t;," {
			if line[0] != '#' && bytes.ContainsRune(line, sign) {
				return sign
			}
		}
	}
	return ','
}

// table reads the rows of a file one after another.
type table struct {
	rows        *csv.Reader
	line, width int
	time, power col
	clock       int // where the time of day stands beside a date; else −1
	times       clock
	column      Column
	taken       []tables.Taken
	count       int
	take        func(Sample) error
}

// next is the next row with anything in it; nil at the end.
func (t *table) next() ([]string, error) {
	for {
		row, err := t.rows.Read()
		if errors.Is(err, io.EOF) {
			return nil, nil
		}
		if err != nil {
			return nil, fmt.Errorf("reading the table: %w", err)
		}
		t.line, _ = t.rows.FieldPos(0)
		if len(row) > mostColumns {
			return nil, &Error{t.line, "row", fmt.Sprintf("%d columns", len(row)), fmt.Sprintf("%d columns at most", mostColumns)}
		}
		if strings.TrimSpace(strings.Join(row, "")) != "" {
			return row, nil
		}
	}
}

// bare reports a table without a head: its first row is a time and a power.
func (t *table) bare(row []string) bool {
	if len(row) < 2 {
		return false
	}
	t.time, t.power, t.clock, t.width = col{0, "time", "s", 1}, col{1, "power", "W", 1}, -1, len(row)
	t.column = Column{"", 1, "W"}
	_, _, isTime := t.times.parse(row[0], 1)
	_, isPower := number(row[1])
	t.times = clock{}
	return isTime && isPower
}

// head finds the columns by their names.
func (t *table) head(names []string, column string) error {
	t.width, t.clock = len(names), -1
	t.time, t.power = timeColumn(names), powerColumn(names)
	if column != "" {
		t.power = named(names, column)
	}
	if date, hour := holding(names, tables.Date), holding(names, tables.Stamp); date >= 0 && hour >= 0 {
		t.time.index, t.clock = date, hour
	}
	all := strings.Join(names, ", ")
	switch {
	case t.time.index < 0:
		return &Error{t.line, "head", all, "a column named time, timestamp, date, seconds, elapsed [ms] or the like"}
	case t.power.index < 0 && column != "":
		return &Error{t.line, "head", column, "one of the columns " + all + ", in W, kW or mW"}
	case t.power.index < 0:
		return &Error{t.line, "head", all, "a column named power, watts, W, active power [W], kW or the like"}
	}
	t.column = Column{strings.TrimSpace(names[t.power.index]), t.power.index, t.power.unit}
	t.taken = []tables.Taken{
		{Name: t.time.name, Index: t.time.index, As: tables.Stamp.String()},
		{Name: t.power.name, Index: t.power.index, As: tables.Power.String(), Unit: t.power.unit},
	}
	return nil
}

// holding is the first column that holds a quantity by its head; −1 for none.
func holding(names []string, quantity tables.Quantity) int {
	return slices.IndexFunc(names, func(name string) bool { return tables.HeadOf(name).Quantity == quantity })
}

// noPower are the words for a sample that is missing, beside dashes.
var noPower = []string{"", "nan", "n/a", "na", "null", "none", "err", "error", "ol"}

func (t *table) sample(row []string) error {
	if len(row) > t.width {
		return &Error{
			t.line, "row", strings.Join(row, string(t.rows.Comma)),
			fmt.Sprintf("%d columns; numbers with a decimal comma in a table parted by commas stand in quotes", t.width),
		}
	}
	last := max(t.time.index, t.power.index, t.clock)
	if len(row) <= last {
		return &Error{t.line, "row", strings.Join(row, string(t.rows.Comma)), fmt.Sprintf("%d columns at least", last+1)}
	}
	if slices.Contains(noPower, strings.ToLower(strings.Trim(row[t.power.index], " \u00a0-–—"))) {
		return nil
	}
	when := row[t.time.index]
	if t.clock >= 0 {
		when += " " + row[t.clock]
	}
	at, back, ok := t.times.parse(when, t.time.times)
	if !ok {
		return &Error{t.line, t.time.name, when, "seconds, a time like 14:03:59, or a date and time like 2026-03-01 14:03:59"}
	}
	if back {
		return &Error{t.line, t.time.name, when, "a time not before the row above"}
	}
	watts, ok := number(row[t.power.index])
	power, can := Shown(units.Watt(watts * t.power.times))
	if !ok || !can {
		return &Error{t.line, t.power.name, row[t.power.index], "a power of 0 to 100 kW, like 183.4"}
	}
	t.count++
	return t.take(Sample{at, power})
}

// The bounds of what a meter can have shown: more than any wall gives, and what one drifts to
// with nothing at it.
const (
	mostWatts   units.Watt = 100e3
	drift       units.Watt = 1
	mostColumns            = 512
)

// Shown is what a meter's figure is taken for: a drift below nothing is nothing. False for
// what no meter at a wall can have measured.
func Shown(w units.Watt) (units.Watt, bool) {
	if !(w >= -drift && w <= mostWatts) { // nor what is no number
		return 0, false
	}
	return max(0, w), true
}

// number reads a number with a point or a comma, thousands parted by the other
// sign or by spaces, and a unit of power behind it or not.
func number(s string) (float64, bool) {
	s = strings.Map(func(r rune) rune {
		if r == ' ' || r == '\u00a0' || r == '\u202f' || r == '\'' {
			return -1
		}
		return r
	}, s)
	times := 1.0
	cut := strings.TrimRight(s, "kmWwatsAT")
	if unit := strings.ToLower(s[len(cut):]); unit != "" {
		factor, known := powerUnits[unit]
		if !known {
			return 0, false
		}
		s, times = cut, factor
	}
	point, comma := strings.LastIndex(s, "."), strings.LastIndex(s, ",")
	switch {
	case comma > point:
		s = strings.Replace(strings.ReplaceAll(s, ".", ""), ",", ".", 1)
	case comma >= 0:
		s = strings.ReplaceAll(s, ",", "")
	}
	v, ok := plain(s)
	return v * times, ok && !math.IsInf(v, 0)
}

// Meters reports a table of a meter by how it begins, as plain text: its head names a power and
// a time, and no frames. A column that is asked for says which it is; a table without a head is
// nobody's.
func Meters(start []byte, column string) bool {
	rows := csv.NewReader(bytes.NewReader(start))
	rows.Comma, rows.Comment = parter(start), '#'
	rows.FieldsPerRecord, rows.TrimLeadingSpace, rows.LazyQuotes = -1, true, true
	t := &table{rows: rows}
	first, err := t.next()
	if err != nil || first == nil {
		return false
	}
	if column != "" && named(first, column).index >= 0 && tables.HeadOf(column).Quantity == tables.Power {
		return true
	}
	frames := slices.ContainsFunc(first, func(name string) bool {
		head := tables.HeadOf(name)
		return head.Quantity == tables.Rate || head.Quantity == tables.FrameTime && (head.Sure > 1 || head.Unit != "")
	})
	return !frames && powerColumn(first).index >= 0 && timeColumn(first).index >= 0
}
