package proof

import (
	"bufio"
	"cmp"
	"fmt"
	"io"
	"slices"
	"strings"
)

// Options say which column of a table holds the frame times, and in which unit, where the
// table does not.
type Options struct {
	Column string
	Unit   string // ms, s, us, ns
	Most   int64  // bytes that are read, after inflating; 0 for MaxTable
	// Progress hears how many bytes are read, now and then; nil for nobody.
	Progress func(read int64)
}

// A Capture is a table of frame times: its series, one a process and a pass.
type Capture struct {
	Column Column
	Series []*Series
	Head   []string   // the names of the columns; nil without a head
	First  [][]string // the first rows, to see that it is the right column
	Maybe  []string   // its first line, where that may be a head that nobody knows
}

// Column says where the frame times were found.
type Column struct {
	Name   string `json:"name"`
	Index  int    `json:"index"` // from 0
	Unit   string `json:"unit"`
	Stamps bool   `json:"stamps"` // time stamps, of which the differences are taken
}

// A Series is the frames of one process in one pass.
type Series struct {
	Name    string
	Dropped int // rows that are no number, or no time after the one before
	Digest
	last  float64 // the last stamp, ms
	after bool    // there is one
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
	comma   bool    // numbers have a decimal comma
	times   float64 // to milliseconds
	head    string  // the head as it stands, to know it again
	process int     // the column that tells processes apart; −1 for none
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
		return &Error{0, "table", "", "a table of frame times; this one is empty"}
	}
	at := r.findHead(lines)
	for i, line := range lines {
		if n := len(r.fields(line, nil)); n > mostColumns {
			return &Error{i + 1, "line", fmt.Sprintf("%d columns", n), fmt.Sprintf("%d columns at most", mostColumns)}
		}
	}
	body := lines
	if at >= 0 {
		r.head = string(lines[at])
		r.out.Head = named(r.fields(lines[at], nil))
		body = lines[at+1:]
	} else {
		r.out.Maybe = r.maybeHead(lines[0])
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

// findHead finds the line that names the columns: the first that has a name we know, or
// the name asked for, in a table whose sign it decides; −1 for a table without one.
func (r *reader) findHead(lines [][]byte) int {
	for i, line := range lines[:min(len(lines), headLines)] {
		r.sign = signOf(line)
		for _, name := range named(r.fields(line, nil)) {
			words, _ := partsOf(name)
			if r.o.Column != "" && strings.EqualFold(name, r.o.Column) || frameWords(words) > 0 || r.o.Column == "" && stampWords(words) {
				return i
			}
		}
	}
	r.sign = signOf(lines[0])
	return -1
}

// maybeHead is a line in which nothing is a number.
func (r *reader) maybeHead(line []byte) []string {
	fields := r.fields(line, nil)
	for _, field := range fields {
		if _, is := number(field, false); is {
			return nil
		}
	}
	return named(fields)
}

// findComma tells a decimal comma from one that parts: with another sign, where commas
// stand in numbers; without a head of as many names, where every row has just one.
func (r *reader) findComma(body [][]byte) {
	if r.sign == ',' || r.sign == 0 {
		one := 0
		for _, line := range body {
			if strings.Count(string(line), ",") == 1 {
				one++
			}
		}
		if columns := len(r.out.Head); one == len(body) && one > 0 && (r.sign == 0 || columns == 1) {
			r.sign, r.comma = 0, true
		}
		return
	}
	commas, points := 0, 0
	for _, line := range body {
		for _, field := range r.fields(line, nil) {
			if _, is := number(field, true); is && strings.Contains(string(field), ",") {
				commas++
			}
			if _, is := number(field, false); is && strings.Contains(string(field), ".") {
				points++
			}
		}
	}
	r.comma = commas > points
}

// frameWords is how surely words name a frame time: 0 for not at all.
func frameWords(words []string) int {
	all := strings.Join(words, "")
	has := func(list ...string) bool {
		return slices.ContainsFunc(list, func(w string) bool { return slices.Contains(words, w) })
	}
	switch {
	case all == "frametime" || all == "frametimes" || all == "framems" || all == "frameduration" || all == "frame":
		return 3
	case strings.Contains(all, "frametime") || strings.Contains(all, "frameduration") || has("frame") && has("time", "duration", "interval", "delta"):
		return 2
	case has("between") || all == "dt" || all == "delta" || all == "deltatime" || all == "interval" || all == "presentinterval":
		return 1
	default:
		return 0
	}
}

// stampWords name the moment of a frame.
func stampWords(words []string) bool {
	all := strings.Join(words, "")
	return slices.Contains(
		[]string{"time", "timestamp", "timeinseconds", "elapsed", "elapsedtime", "presenttime", "t", "clock", "timestart", "start"},
		all,
	)
}

var processWords = []string{
	"process", "processname", "application", "app", "program", "executable", "pid", "processid", "pass", "run", "session",
}

// findColumn chooses the column of the frame times, else of the time stamps.
func (r *reader) findColumn(body [][]byte) error {
	best, sure, stamps, frames := -1, 0, false, false
	for i, name := range r.out.Head {
		words, unit := partsOf(name)
		if slices.Contains(processWords, strings.Join(words, "")) && r.process < 0 {
			r.process = i
		}
		score := 0
		switch {
		case r.o.Column != "":
			if strings.EqualFold(name, r.o.Column) {
				score = 10
			}
		case frameWords(words) > 0 && !(words[0] == "frame" && len(words) == 1 && unit == ""):
			score = 2 + 2*frameWords(words)
			if unit != "" {
				score++
			}
		case stampWords(words):
			score = 1
		}
		if score > sure {
			best, sure, stamps, frames = i, score, score == 1, frameWords(words) > 0
		}
	}
	if r.out.Head == nil && r.o.Column == "" {
		best = r.byNumbers(body)
	}
	if best < 0 {
		what := r.o.Column
		if what == "" {
			what = strings.Join(r.out.Head, ", ")
		}
		return &Error{0, "column", what, "a column of frame times or of time stamps, found by its head or named"}
	}
	values := r.values(body, best)
	if !frames { // a column named time holds moments, unless it falls and can be durations
		often := 0.02
		if stamps {
			often = 0.25
		}
		stamps = rising(values, often) || stamps && len(plausible(values, false)) == 0
	}
	c := Column{Index: best, Stamps: stamps}
	if r.out.Head != nil {
		c.Name = r.out.Head[best]
	}
	return r.unit(c, values)
}

// byNumbers is the one column of a table without a head that can hold frame times: the
// first whose numbers could be that.
func (r *reader) byNumbers(body [][]byte) int {
	columns := make([][]float64, len(r.fields(body[0], nil)))
	for _, line := range body {
		r.split = r.fields(line, r.split)
		for i, field := range r.split[:min(len(r.split), len(columns))] {
			if v, is := number(field, r.comma); is {
				columns[i] = append(columns[i], v)
			}
		}
	}
	return slices.IndexFunc(columns, func(values []float64) bool {
		return len(values)*2 >= len(body) && len(plausible(values, rising(values, 0.02))) > 0
	})
}

// values are the numbers of a column in the first rows.
func (r *reader) values(body [][]byte, column int) (list []float64) {
	for _, line := range body {
		fields := r.fields(line, r.split)
		if column < len(fields) {
			if v, is := number(fields[column], r.comma); is {
				list = append(list, v)
			}
		}
	}
	return list
}

// rising reports numbers that hardly ever fall, and rise in all: moments, not durations,
// which fall every other time.
func rising(values []float64, often float64) bool {
	falls := 0
	for i := 1; i < len(values); i++ {
		if values[i] < values[i-1] {
			falls++
		}
	}
	return len(values) > 2 && float64(falls) <= often*float64(len(values)-1) && slices.Max(values) > 3*values[1]-2*values[0]
}

// The rates between which a frame can be one, Hz: outside them a unit is wrong.
const (
	slowestRate = 1.5
	fastestRate = 2500.0
)

// plausible lists the units in which the middle of some values is a frame.
func plausible(values []float64, stamps bool) (list []string) {
	if stamps {
		steps := make([]float64, 0, len(values))
		for i := 1; i < len(values); i++ {
			if d := values[i] - values[i-1]; d > 0 {
				steps = append(steps, d)
			}
		}
		values = steps
	}
	if len(values) == 0 {
		return nil
	}
	sorted := slices.Sorted(slices.Values(values))
	middle := sorted[len(sorted)/2]
	for _, unit := range []string{"ms", "s", "us", "ns"} {
		if ms := middle * toMillis[unit]; ms > 1000/fastestRate && ms < 1000/slowestRate {
			list = append(list, unit)
		}
	}
	return list
}

// unit is what the numbers are in: as told, as the head says, or the only one in which
// they can be frames. Two that they can be is asked for.
func (r *reader) unit(c Column, values []float64) error {
	_, c.Unit = partsOf(c.Name)
	if r.o.Unit != "" {
		c.Unit = r.o.Unit
	}
	if c.Unit == "" {
		switch can := plausible(values, c.Stamps); len(can) {
		case 1:
			c.Unit = can[0]
		case 0:
			return &Error{0, "column", c.Name, "numbers that are frame times or time stamps in ms, s, us or ns"}
		default:
			return &Error{
				0, "unit", c.Name, fmt.Sprintf("the unit its numbers are in, which nothing declares: %s", strings.Join(can, " or ")),
			}
		}
	}
	times, known := toMillis[strings.ToLower(c.Unit)]
	if !known {
		return &Error{0, "unit", c.Unit, "ms, s, us or ns"}
	}
	r.times, r.out.Column = times, c
	return nil
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
	if err := r.series(); err != nil {
		return err
	}
	if r.out.Column.Index >= len(r.split) {
		r.now.miss()
		return nil
	}
	v, is := number(r.split[r.out.Column.Index], r.comma)
	if !is {
		r.now.miss()
		return nil
	}
	r.now.take(v*r.times, r.out.Column.Stamps)
	return nil
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
	key := strings.Trim(string(name), "\" ")
	if r.pass > 0 {
		key = strings.TrimSpace(fmt.Sprintf("%s pass %d", key, r.pass+1))
	}
	if r.now = r.byName[key]; r.now != nil {
		return nil
	}
	if len(r.byName) == mostSeries {
		return &Error{r.line, "process", key, fmt.Sprintf("%d processes and passes at most", mostSeries)}
	}
	r.now = &Series{Name: key}
	r.byName[key] = r.now
	r.out.Series = append(r.out.Series, r.now)
	return nil
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
		return nil, &Error{0, "table", r.out.Column.Name, "at least one row with a frame time"}
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
