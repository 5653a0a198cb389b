package proof

import (
	"bufio"
	"bytes"
	"cmp"
	"fmt"
	"io"
	"slices"
	"strconv"
	"strings"
	"unicode"

	"kolvan/core/tables"
)

// Options say which column of a table holds the frame times, and in which unit, where the
// table does not.
type Options struct {
	Column string // its name, or its number from 1 in a table without such a name
	Unit   string // ms, s, us, ns; Hz for a column of rates
	Most   int64  // bytes that are read, after inflating; 0 for MaxTable
	// Progress hears how many bytes are read, now and then; nil for nobody.
	Progress func(read int64)
}

// A Capture is a table of frame times: its series, one a process and a pass.
type Capture struct {
	Column Column
	Taken  []tables.Taken // what each column was taken for
	Series []*Series
	Head   []string   // the names of the columns; nil without a head
	First  [][]string // the first rows, to see that it is the right column
}

// Column says where the frame times were found.
type Column struct {
	Name   string `json:"name"`
	Index  int    `json:"index"` // from 0
	Unit   string `json:"unit"`
	Stamps bool   `json:"stamps"`        // time stamps, of which the differences are taken
	Rate   bool   `json:"rate,omitzero"` // frames a second, each row as many frames as its time holds
}

// A Series is the frames of one process in one pass.
type Series struct {
	Name    string
	Dropped int // rows that are no number, or no time after the one before
	Digest
	last   float64 // the last stamp, ms
	after  bool    // there is one
	stamps bool
}

const (
	headLines  = 60  // so many lines may stand before the head
	firstRows  = 6   // shown
	looked     = 400 // rows by which the column is found
	mostSeries = 200
)

// Read reads a capture in one pass and in constant memory.
func Read(from io.Reader, o Options) (*Capture, error) {
	text, err := plainText(from)
	if err != nil {
		return nil, err
	}
	r := &reader{
		rows: rows{lines: bufio.NewReaderSize(text, longestLine), most: cmp.Or(o.Most, MaxTable)}, o: o, out: &Capture{},
		process: -1, byName: map[string]*Series{},
	}
	if err := r.begin(); err != nil {
		return nil, err
	}
	r.need = r.wanted()
	for {
		line, err := r.rows.next()
		if err != nil {
			return nil, err
		}
		if line == nil {
			return r.end()
		}
		if err := r.row(line); err != nil {
			return nil, err
		}
	}
}

type reader struct {
	rows
	o       Options
	out     *Capture
	heads   []tables.Head
	comma   bool    // numbers have a decimal comma
	times   float64 // to milliseconds
	head    string  // the head as it stands, to know it again
	process int     // the column that tells processes apart; −1 for none
	passes  []int   // columns that are a pass each; none where there is one
	pacer   *pacer  // of a column of rates beside time stamps; nil without
	clock   *tables.Clock
	pass    int
	byName  map[string]*Series
	name    []byte // of the series at hand
	now     *Series
	split   [][]byte
	told    int64
}

// begin finds the head and the column by the first lines, and takes those in.
func (r *reader) begin() error {
	var lines [][]byte
	for len(lines) < looked {
		line, err := r.rows.next()
		if err != nil {
			return err
		}
		if line == nil {
			break
		}
		lines = append(lines, slices.Clone(line))
	}
	if len(lines) == 0 {
		return &Error{What: "table", Accepts: "a table of frame times; this one is empty"}
	}
	at := r.findHead(lines)
	for i, line := range lines {
		if n := len(r.fields(line, nil)); n > mostColumns {
			return &Error{
				Line: i + 1, What: "line", Value: fmt.Sprintf("%d columns", n), Accepts: fmt.Sprintf("%d columns at most", mostColumns),
			}
		}
	}
	body := lines
	if at >= 0 {
		r.head = string(lines[at])
		r.out.Head = named(r.fields(lines[at], nil))
		body = lines[at+1:]
	}
	for _, name := range r.out.Head {
		r.heads = append(r.heads, tables.HeadOf(name))
	}
	r.findComma(body)
	if err := r.findColumn(body); err != nil {
		return err
	}
	for _, line := range body {
		if err := r.row(line); err != nil {
			return err
		}
	}
	return nil
}

// findHead finds the line that names the columns: the first that has a name we know, or the
// name asked for, and no number; else the first line, where it holds words and the next
// numbers. −1 for a table without one.
func (r *reader) findHead(lines [][]byte) int {
	for i, line := range lines[:min(len(lines), headLines)] {
		r.sign = signOf(line)
		names := named(r.fields(line, nil))
		if slices.ContainsFunc(names, r.isNumber) {
			continue
		}
		for _, name := range names {
			head := tables.HeadOf(name)
			frames := head.Quantity == tables.FrameTime || head.Quantity == tables.Rate
			if r.o.Column != "" && strings.EqualFold(name, r.o.Column) || frames || r.o.Column == "" && head.Quantity == tables.Stamp {
				return i
			}
		}
	}
	for i := range min(len(lines)-1, headLines) {
		r.sign = signOf(lines[i])
		names, next := named(r.fields(lines[i], nil)), named(r.fields(lines[i+1], nil))
		words := slices.ContainsFunc(names, func(name string) bool { return strings.ContainsFunc(name, unicode.IsLetter) })
		if words && len(names) == len(next) && !slices.ContainsFunc(names, r.isNumber) && slices.ContainsFunc(next, r.isNumber) {
			return i
		}
	}
	r.sign = signOf(lines[0])
	return -1
}

// isNumber reports a field that is a number, with a point or a comma.
func (r *reader) isNumber(field string) bool {
	if _, is := number([]byte(field), false); is {
		return true
	}
	_, is := number([]byte(field), true)
	return is
}

// findComma tells a decimal comma from one that parts: with another sign, or in quotes, where
// commas stand in numbers; without a head of as many names, where every row has just one.
func (r *reader) findComma(body [][]byte) {
	if r.sign == ',' || r.sign == 0 {
		one := 0
		for _, line := range body {
			if strings.Count(string(line), ",") == 1 && bytes.IndexByte(line, '"') < 0 {
				one++
			}
		}
		if columns := len(r.out.Head); one == len(body) && one > 0 && (r.sign == 0 || columns == 1) {
			r.sign, r.comma = 0, true
			return
		}
	}
	commas, points := 0, 0
	for _, line := range body {
		for _, field := range r.fields(line, nil) {
			if _, is := number(field, true); is && bytes.IndexByte(field, ',') >= 0 {
				commas++
			}
			if _, is := number(field, false); is && bytes.IndexByte(field, '.') >= 0 {
				points++
			}
		}
	}
	r.comma = commas > points
}

// findColumn chooses the column of the frame times, else of the rates, else of the time
// stamps. What nothing tells is asked for: nothing is guessed.
func (r *reader) findColumn(body [][]byte) error {
	r.process = slices.IndexFunc(r.heads, func(h tables.Head) bool { return h.Quantity == tables.Process })
	columns := r.columnsOf(body)
	at := r.named(columns)
	if at < 0 && r.o.Column == "" {
		at = r.best(columns)
	}
	if at < 0 {
		return r.ask("column", columns)
	}
	c := Column{Index: at}
	if at < len(r.out.Head) {
		c.Name = r.out.Head[at]
	}
	if err := r.unit(&c, columns); err != nil {
		return err
	}
	if c.Rate {
		r.paced(columns)
	}
	r.findPasses(c, columns)
	r.out.Column = c
	r.out.Taken = r.taken(c, columns)
	return nil
}

// named is the column that was asked for: by its name, else by its number from 1; −1 for none.
func (r *reader) named(columns []look) int {
	if r.o.Column == "" {
		return -1
	}
	at := slices.IndexFunc(r.out.Head, func(name string) bool { return strings.EqualFold(name, r.o.Column) })
	if n, err := strconv.Atoi(r.o.Column); at < 0 && err == nil && n >= 1 && n <= len(columns) {
		at = n - 1
	}
	return at
}

// best is the column that holds frames by its head, frame times before rates, rates before
// time stamps; of a table without a head the one column that can hold frame times. −1 where
// none does.
func (r *reader) best(columns []look) int {
	if r.out.Head == nil {
		if r.o.Unit != "" {
			return alone(columns)
		}
		return bare(columns)
	}
	best, sure := -1, 0
	for i, head := range r.heads {
		score := 0
		switch head.Quantity {
		case tables.FrameTime:
			score = 20 + 2*head.Sure
			if head.Unit != "" {
				score++
			}
			if head.Stem == "frame" && head.Unit == "" {
				score = 0 // counts them
			}
		case tables.Rate:
			score = 10 + head.Sure
		case tables.Stamp:
			score = 1
		case tables.Unknown: // the unit alone, or all there is
			if toMillis[head.Unit] > 0 && (head.Stem == "" || len(r.heads) == 1) {
				score = 2
			}
		}
		if i < len(columns) && columns[i].index && head.Quantity != tables.Rate {
			score = 0
		}
		if score > sure {
			best, sure = i, score
		}
	}
	if best < 0 {
		best = r.passColumn()
	}
	if best < 0 && r.o.Unit != "" {
		best = alone(columns)
	}
	return best
}

// unit is what the numbers are in, and whether they are moments: as told, as the head says, or
// the only unit in which times of frames can be. Two that they can be are asked for, and so is
// what the head calls by no name we know.
func (r *reader) unit(c *Column, columns []look) error {
	seen, head := &columns[c.Index], tables.Head{}
	if c.Index < len(r.heads) {
		head = r.heads[c.Index]
	}
	c.Unit = cmp.Or(r.o.Unit, head.Unit)
	switch {
	case c.Unit == "Hz", r.o.Unit == "" && head.Quantity == tables.Rate:
		c.Unit, c.Rate, r.times = "Hz", true, 1
		return nil
	case r.o.Unit == "" && (head.Quantity == tables.Power || head.Quantity == tables.Other):
		return &Error{
			What: "column", Value: c.Name, Head: r.out.Head, Asks: r.asks(columns),
			Accepts: "a column of frame times, rates or time stamps; this one is in " + orNo(head.Unit),
		}
	case r.out.Head != nil && c.Unit == "" && head.Quantity != tables.FrameTime && head.Quantity != tables.Stamp:
		return r.ask("unit", columns)
	}
	if head.Quantity != tables.FrameTime { // a column named time holds moments, unless it falls and can be durations
		often := 0.02
		if head.Quantity == tables.Stamp {
			often = 0.25
		}
		c.Stamps = rising(seen.values, often) || head.Quantity == tables.Stamp && len(plausible(seen.values, false)) == 0
	}
	if seen.clock != nil {
		c.Unit, c.Stamps, r.clock, r.times = "s", true, seen.clock, toMillis["s"]
		return nil
	}
	if c.Unit == "" {
		switch can := plausible(seen.values, c.Stamps); len(can) {
		case 1:
			c.Unit = can[0]
		case 0:
			return &Error{What: "column", Value: c.Name, Head: r.out.Head, Accepts: "numbers that are frame times or time stamps in ms, s, us or ns"}
		default:
			return &Error{
				What: "unit", Value: c.Name, Head: r.out.Head,
				Accepts: fmt.Sprintf("the unit its numbers are in, which nothing declares: %s", strings.Join(can, " or ")),
			}
		}
	}
	times, known := toMillis[c.Unit]
	if !known {
		return &Error{What: "unit", Value: c.Unit, Head: r.out.Head, Accepts: "ms, s, us or ns; Hz for rates"}
	}
	r.times = times
	return nil
}

func orNo(unit string) string {
	if unit == "" {
		return "no unit of time"
	}
	return unit
}

// ask is the question about what a table's columns hold.
func (r *reader) ask(what string, columns []look) error {
	value := cmp.Or(r.o.Column, strings.Join(r.out.Head, ", "))
	return &Error{
		What: what, Value: value, Head: r.out.Head, Asks: r.asks(columns),
		Accepts: "the column of the frame times, rates or time stamps, by its name or number, and its unit (ms, s, us, ns; Hz for rates; W " +
			"for a meter), since its head does not tell",
	}
}

func (r *reader) asks(columns []look) (list []string) {
	for i := range columns {
		name := fmt.Sprintf("column %d", i+1)
		if i < len(r.out.Head) {
			name = fmt.Sprintf("%d %q", i+1, r.out.Head[i])
		}
		list = append(list, name+": "+columns[i].says())
		if len(list) == mostAsked {
			return append(list, fmt.Sprintf("%d more", len(columns)-mostAsked))
		}
	}
	return list
}

// mostAsked columns are described in a question.
const mostAsked = 12

// taken says what each column was taken for.
func (r *reader) taken(c Column, columns []look) (list []tables.Taken) {
	for i := range columns {
		t := tables.Taken{Index: i, As: "not read"}
		if i < len(r.out.Head) {
			t.Name = r.out.Head[i]
		}
		switch {
		case i == c.Index || slices.Contains(r.passes, i):
			t.Unit, t.As = c.Unit, tables.FrameTime.String()
			if c.Stamps {
				t.As = tables.Stamp.String()
			}
			if c.Rate {
				t.As = tables.Rate.String()
			}
		case i == r.process:
			t.As = tables.Process.String()
		case r.pacer != nil && i == r.pacer.column:
			t.As = tables.Stamp.String()
		}
		list = append(list, t)
	}
	return list
}

// row takes one row in.
func (r *reader) row(line []byte) error {
	if r.o.Progress != nil && r.read-r.told > 1<<24 {
		r.told = r.read
		r.o.Progress(r.read)
	}
	if r.head != "" && string(line) == r.head {
		r.pass++
		r.now = nil
		return nil
	}
	r.split = r.fields(line, r.split)
	if len(r.out.First) < firstRows {
		r.out.First = append(r.out.First, named(r.split))
	}
	if len(r.passes) > 0 {
		return r.rowOfPasses()
	}
	if err := r.series(); err != nil {
		return err
	}
	if r.out.Column.Index >= len(r.split) {
		r.now.miss()
		return nil
	}
	r.take(r.now, r.split[r.out.Column.Index])
	return nil
}

// wanted is how many fields of a row are read, once its first rows have been shown.
func (r *reader) wanted() int {
	last := max(r.out.Column.Index, r.process)
	if r.pacer != nil {
		last = max(last, r.pacer.column)
	}
	for _, at := range r.passes {
		last = max(last, at)
	}
	return last + 1
}

// take counts a field in.
func (r *reader) take(s *Series, field []byte) {
	v, is := r.value(field)
	switch {
	case !is:
		s.miss()
	case r.out.Column.Rate:
		s.takeRate(v, r.pacer.frames(v, r))
	default:
		s.take(v*r.times, r.out.Column.Stamps)
	}
}

// value is a field as a number, or as a moment in seconds where the column holds times of day.
func (r *reader) value(field []byte) (float64, bool) {
	if r.clock != nil {
		v, _, is := r.clock.Seconds(strings.Trim(string(field), " \""))
		return v, is
	}
	return number(field, r.comma)
}

// series is that of the row at hand, by its process and its pass.
func (r *reader) series() error {
	var name []byte
	if r.process >= 0 && r.process < len(r.split) {
		name = r.split[r.process]
	}
	if r.now != nil && string(name) == string(r.name) {
		return nil
	}
	r.name = append(r.name[:0], name...)
	var err error
	r.now, err = r.seriesOf(strings.Trim(string(name), "\" "))
	return err
}

// seriesOf is the series of a name, in the pass at hand.
func (r *reader) seriesOf(key string) (*Series, error) {
	if r.pass > 0 {
		key = strings.TrimSpace(fmt.Sprintf("%s pass %d", key, r.pass+1))
	}
	if s := r.byName[key]; s != nil {
		return s, nil
	}
	if len(r.byName) == mostSeries {
		return nil, &Error{Line: r.line, What: "process", Value: key, Accepts: fmt.Sprintf("%d processes and passes at most", mostSeries)}
	}
	s := &Series{Name: key}
	r.byName[key] = s
	r.out.Series = append(r.out.Series, s)
	return s, nil
}

// miss counts a row that cannot be read: no difference of stamps spans it.
func (s *Series) miss() {
	s.Dropped++
	s.after = false
}

// take counts a value in: a frame time, or a stamp whose way from the one before is one.
func (s *Series) take(ms float64, stamp bool) {
	if stamp {
		was, some := s.last, s.after
		s.last, s.after = ms, true
		if !some {
			return
		}
		ms -= was
		s.stamps = true
	}
	if ms <= 0 {
		s.Dropped++
		return
	}
	s.Add(ms)
}

// end gives the capture, without series in which nothing was.
func (r *reader) end() (*Capture, error) {
	r.out.Series = slices.DeleteFunc(r.out.Series, func(s *Series) bool { return s.Frames() == 0 && s.Dropped == 0 })
	if !slices.ContainsFunc(r.out.Series, func(s *Series) bool { return s.Frames() > 0 }) {
		return nil, &Error{What: "table", Value: r.out.Column.Name, Accepts: "at least one row with a frame time"}
	}
	return r.out, nil
}

// Of is the series of a name; the one with most frames for an empty name, nil for none.
func (c *Capture) Of(name string) (found *Series) {
	for _, s := range c.Series {
		if name != "" && s.Name == name || name == "" && (found == nil || s.Frames() > found.Frames()) {
			found = s
		}
	}
	return found
}
