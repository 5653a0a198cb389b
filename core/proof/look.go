package proof

import (
	"bytes"
	"fmt"
	"math"
	"slices"
	"strings"

	"kolvan/core/tables"
	"kolvan/core/units"
)

// A look is what the first rows of a column look like.
type look struct {
	values []float64
	clock  *tables.Clock // where it holds times of day or dates; values are seconds then
	index  bool          // whole numbers that grow by one: it counts the rows
	same   bool          // one whole number all along: what something is called
	sample string        // one that is no number
	filled int
}

// fewLooked rows tell a count from moments.
const fewLooked = 3

// columnsOf looks at the columns of the first rows.
func (r *reader) columnsOf(body [][]byte) []look {
	columns := make([]look, max(len(r.out.Head), 1))
	if r.out.Head == nil && len(body) > 0 {
		columns = make([]look, len(r.fields(body[0], nil)))
	}
	for _, line := range body {
		r.split = r.fields(line, r.split)
		for i, field := range r.split[:min(len(r.split), len(columns))] {
			columns[i].see(field, r.comma)
		}
	}
	for i := range columns {
		c := &columns[i]
		whole := !slices.ContainsFunc(c.values, func(v float64) bool { return v != math.Trunc(v) })
		c.index = whole && c.clock == nil && len(c.values) >= fewLooked && counts(c.values)
		c.same = whole && c.clock == nil && len(c.values) >= fewLooked && slices.Min(c.values) == slices.Max(c.values)
	}
	return columns
}

func (c *look) see(field []byte, comma bool) {
	if v, is := number(field, comma); is {
		c.values = append(c.values, v)
		c.filled++
		return
	}
	text := string(bytes.Trim(field, " \t\"'\u00a0"))
	if text == "" {
		return
	}
	c.filled++
	if c.clock != nil || len(c.values) == 0 {
		clock := c.clock
		if clock == nil {
			clock = &tables.Clock{}
		}
		if v, _, is := clock.Seconds(text); is {
			c.clock = clock
			c.values = append(c.values, v)
			return
		}
	}
	c.sample = text
}

// counts reports numbers that grow by one nearly all along: rows, never moments.
func counts(values []float64) bool {
	steps := 0
	for i := 1; i < len(values); i++ {
		if values[i] == values[i-1]+1 {
			steps++
		}
	}
	return float64(steps) >= 0.95*float64(len(values)-1)
}

// says describes a column to who is asked about it.
func (c *look) says() string {
	if len(c.values) == 0 {
		if c.sample == "" {
			return "empty"
		}
		return fmt.Sprintf("words, like %q", c.sample)
	}
	least, most := slices.Min(c.values), slices.Max(c.values)
	ends := units.Trim(least, 3) + " to " + units.Trim(most, 3)
	switch {
	case c.clock != nil:
		return "times of day or dates"
	case c.index:
		return "whole numbers growing by one, a count of rows"
	case c.same:
		return "always " + units.Trim(least, 0)
	case rising(c.values, 0.02):
		return ends + ", rising"
	default:
		return ends + ", up and down"
	}
}

// surelyTimes is the number of milliseconds below which the middle of numbers in a table
// without a head is taken for frame times and not for rates (P): nobody logs rates so low.
const surelyTimes = 24

// bare is the one column of a table without a head that can hold frame times in ms, or, where
// there is one column alone, time stamps; −1 where none can, or two.
func bare(columns []look) int {
	at := -1
	for i := range columns {
		c := &columns[i]
		if len(c.values) < fewLooked || c.index || c.same && len(columns) > 1 || c.clock != nil || rising(c.values, 0.02) {
			continue
		}
		middle := slices.Sorted(slices.Values(c.values))[len(c.values)/2]
		if can := plausible(c.values, false); len(can) != 1 || can[0] != "ms" || middle >= surelyTimes || c.filled > 2*len(c.values) {
			continue
		}
		if at >= 0 {
			return -1
		}
		at = i
	}
	if at < 0 && len(columns) == 1 && !columns[0].index && rising(columns[0].values, 0.02) {
		return 0
	}
	return at
}

// alone is the one column that holds numbers, and neither counts the rows nor names something;
// −1 for none, or more.
func alone(columns []look) int {
	at := -1
	for i := range columns {
		if c := &columns[i]; len(c.values) == 0 || c.index || c.same && len(columns) > 1 {
			continue
		}
		if at >= 0 {
			return -1
		}
		at = i
	}
	return at
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
	middle := slices.Sorted(slices.Values(values))[len(values)/2]
	for _, unit := range []string{"ms", "s", "us", "ns"} {
		if ms := middle * toMillis[unit]; ms > 1000/fastestRate && ms < 1000/slowestRate {
			list = append(list, unit)
		}
	}
	return list
}

// A pacer tells how many frames a row of rates stands for, by the time stamps beside them.
type pacer struct {
	column int
	times  float64 // to milliseconds
	clock  *tables.Clock
	last   float64
	begun  bool
}

// paced finds the time stamps beside rates, where their unit is told.
func (r *reader) paced(columns []look) {
	for i, head := range r.heads {
		if head.Quantity != tables.Stamp || i >= len(columns) {
			continue
		}
		p := &pacer{column: i, times: toMillis[head.Unit], clock: columns[i].clock}
		if p.clock != nil {
			p.times = toMillis["s"]
		}
		if p.times > 0 {
			r.pacer = p
			return
		}
	}
}

// mostPaced bounds what one row stands for.
const mostPaced = 100_000

// frames is how many frames of a rate went by since the row before; one where nothing tells.
func (p *pacer) frames(rate float64, r *reader) int {
	if p == nil || p.column >= len(r.split) {
		return 1
	}
	field := r.split[p.column]
	at, is := number(field, r.comma)
	if p.clock != nil {
		at, _, is = p.clock.Seconds(strings.Trim(string(field), " \""))
	}
	was, begun := p.last, p.begun
	if p.last, p.begun = at, is; !is || !begun {
		return 1
	}
	return int(min(max(1, math.Round(rate*(at-was)*p.times/1000)), mostPaced))
}

// takeRate counts a rate in, as so many frames; none at all is no frame, and is counted out.
func (s *Series) takeRate(rate float64, frames int) {
	if rate <= 0 {
		s.Dropped++
		return
	}
	for range frames {
		s.Add(1000 / rate)
	}
}

// passWords are what a pass is called at the head of its column, with its number.
var passWords = map[string]bool{
	"run": true, "pass": true, "lauf": true, "durchgang": true, "durchlauf": true, "messung": true, "test": true, "try": true,
	"trial": true, "take": true, "passage": true, "essai": true, "prueba": true, "prova": true, "próba": true, "przebieg": true,
	"omgang": true, "körning": true, "attempt": true, "": true,
}

// numberless is a head's stem without the digits in it.
func numberless(stem string) string {
	return strings.Map(func(c rune) rune {
		if c >= '0' && c <= '9' {
			return -1
		}
		return c
	}, stem)
}

// alike are the columns whose heads differ from this one's by a number alone, itself among
// them.
func (r *reader) alike(at int) (list []int) {
	head := r.heads[at]
	if numberless(head.Stem) == head.Stem {
		return nil
	}
	for i, other := range r.heads {
		if other.Unit == head.Unit && numberless(other.Stem) == numberless(head.Stem) && numberless(other.Stem) != other.Stem {
			list = append(list, i)
		}
	}
	return list
}

// passColumn is the first of several columns that are a pass each, by their heads and a unit of
// time or of rates; −1 for none.
func (r *reader) passColumn() int {
	for at, h := range r.heads {
		if passWords[numberless(h.Stem)] && (h.Unit == "Hz" || toMillis[h.Unit] > 0) && len(r.alike(at)) > 1 {
			return at
		}
	}
	return -1
}

// findPasses finds the columns that are a pass each, the chosen one among them.
func (r *reader) findPasses(c Column, columns []look) {
	if r.o.Column != "" || c.Index >= len(r.heads) {
		return
	}
	if list := r.alike(c.Index); len(list) > 1 && !c.Stamps {
		r.passes = slices.DeleteFunc(list, func(i int) bool { return i >= len(columns) || len(columns[i].values) == 0 })
	}
}

// rowOfPasses takes in one row of columns that are a pass each; a pass that ended before has
// nothing there.
func (r *reader) rowOfPasses() error {
	for _, at := range r.passes {
		if at >= len(r.split) || len(bytes.TrimSpace(r.split[at])) == 0 {
			continue
		}
		s, err := r.seriesOf(r.out.Head[at])
		if err != nil {
			return err
		}
		r.take(s, r.split[at])
	}
	return nil
}
