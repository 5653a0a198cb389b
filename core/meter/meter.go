// Package meter is the record of a meter at the wall: watts over time, read from
// the tables that meters write or from one that is live, and the figures of it.
package meter

import (
	"encoding/csv"
	"fmt"
	"io"
	"strconv"

	"kolvan/core/tables"
	"kolvan/core/units"
)

// A Sample is what the meter showed at a moment, counted from the first one.
type Sample struct {
	At    units.Second
	Power units.Watt
}

// A Record is what a meter showed, in the order of time. Of one with very many samples only
// those are kept that it is drawn from; its figures are of all.
type Record struct {
	Column  Column
	Taken   []tables.Taken // what each column was taken for
	Samples []Sample
	whole   *summary // of the samples that are not kept; nil where all are
}

// summary is what is known of a record of which not all samples are kept.
type summary struct {
	tally   Tally
	pace    units.Second // between two samples
	spread  units.Second // between two of those that are kept, at the most
	highest units.Watt   // mean over readingOver
}

// readingOver is how long a reading under load is taken over.
const readingOver units.Second = 10

// Whole reports a record of which all samples are kept.
func (r *Record) Whole() bool { return r.whole == nil }

// Column says where in its table the power was found, and in which unit.
type Column struct {
	Name  string `json:"name"`
	Index int    `json:"index"` // from 0
	Unit  string `json:"unit"`
}

// Figures are the figures of a record. Over a gap, where the meter wrote nothing
// for more than five times its median step, nothing is taken to have flowed: the
// mean is over the time that was measured, and so is the energy.
type Figures struct {
	Samples int            `json:"samples"`
	Seconds units.Second   `json:"seconds"` // measured, gaps left out
	Mean    units.Watt     `json:"mean_w"`
	Peak    units.Watt     `json:"peak_w"`
	Least   units.Watt     `json:"least_w"`
	Energy  units.WattHour `json:"energy_wh"`
	Gaps    int            `json:"gaps"`
	Missing units.Second   `json:"missing_s"` // time in the gaps
}

// gapTimes is how many times its median step a meter may wait before that is a gap.
const gapTimes = 5

// Figures works out the figures of a record, by trapezoids between its samples.
func (r *Record) Figures() Figures {
	t := r.Tally()
	return t.Figures()
}

// Tally counts a record at the pace its samples have.
func (r *Record) Tally() Tally {
	if r.whole != nil {
		return r.whole.tally
	}
	t := TallyAt(r.pace())
	for _, s := range r.Samples {
		t.Add(s)
	}
	return t
}

// A Tally works the figures out while samples come in, at a pace that is known.
type Tally struct {
	longest units.Second
	figures Figures
	joules  float64
	last    Sample
}

// TallyAt is an empty tally of a meter that shows a figure every pace.
func TallyAt(pace units.Second) Tally { return Tally{longest: gapTimes * pace} }

// Add counts the next sample in.
func (t *Tally) Add(s Sample) {
	f := &t.figures
	step := s.At - t.last.At
	switch f.Samples++; {
	case f.Samples == 1:
		f.Mean, f.Peak, f.Least = s.Power, s.Power, s.Power
	case step > t.longest:
		f.Gaps++
		f.Missing += step
	default:
		f.Seconds += step
		t.joules += float64(t.last.Power+s.Power) / 2 * float64(step)
	}
	f.Peak, f.Least = max(f.Peak, s.Power), min(f.Least, s.Power)
	t.last = s
}

// Figures are the figures of what was counted so far.
func (t *Tally) Figures() Figures {
	f := t.figures
	f.Energy = units.WattHour(t.joules / 3600)
	if f.Seconds > 0 {
		f.Mean = units.Watt(t.joules / float64(f.Seconds))
	}
	return f
}

// Highest is the highest mean over ten seconds anywhere in the record; of a shorter one the
// mean of all.
func (r *Record) Highest() units.Watt {
	if r.whole != nil {
		return r.whole.highest
	}
	h := highest{longest: r.Gap()}
	for _, s := range r.Samples {
		h.add(s)
	}
	return h.mean(r.Figures())
}

// Gap is how long a meter of the record's pace may say nothing before that is a gap.
func (r *Record) Gap() units.Second {
	if r.whole != nil {
		return gapTimes*r.whole.pace + r.whole.spread
	}
	return gapTimes * r.pace()
}

func (r *Record) pace() units.Second {
	p := pace{}
	for _, s := range r.Samples {
		p.add(s)
	}
	return p.middle()
}

// WriteCSV writes the samples as a table of seconds and watts, which Read takes.
func (r *Record) WriteCSV(to io.Writer) error {
	w, err := newWriter(to)
	for i := 0; err == nil && i < len(r.Samples); i++ {
		err = w.write(r.Samples[i])
	}
	if err != nil {
		return fmt.Errorf("writing the table: %w", err)
	}
	return w.end()
}

// writer writes samples as a table.
type writer struct{ rows *csv.Writer }

func newWriter(to io.Writer) (writer, error) {
	w := writer{csv.NewWriter(to)}
	return w, w.rows.Write([]string{"time_s", "power_w"})
}

func (w writer) write(s Sample) error {
	figure := func(v float64) string { return strconv.FormatFloat(v, 'f', -1, 64) }
	return w.rows.Write([]string{figure(float64(s.At)), figure(float64(s.Power))})
}

func (w writer) end() error {
	w.rows.Flush()
	return w.rows.Error()
}
