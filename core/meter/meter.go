// Package meter is the record of a meter at the wall: watts over time, read from
// the tables that meters write or from one that is live, and the figures of it.
package meter

import (
	"encoding/csv"
	"fmt"
	"io"
	"slices"
	"strconv"

	"kolvan/core/units"
)

// A Sample is what the meter showed at a moment, counted from the first one.
type Sample struct {
	At    units.Second
	Power units.Watt
}

// A Record is what a meter showed, in the order of time.
type Record struct {
	Column  Column
	Samples []Sample
}

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

// Highest is the highest mean over so many seconds anywhere in the record; of a
// shorter record the mean of all.
func (r *Record) Highest(over units.Second) units.Watt {
	whole := r.Figures()
	if whole.Seconds <= over {
		return whole.Mean
	}
	longest, highest := r.Gap(), units.Watt(0)
	first, joules := 0, 0.0
	area := func(i int) float64 {
		a, b := r.Samples[i-1], r.Samples[i]
		return float64(a.Power+b.Power) / 2 * float64(b.At-a.At)
	}
	for i := 1; i < len(r.Samples); i++ {
		if r.Samples[i].At-r.Samples[i-1].At > longest {
			first, joules = i, 0 // nothing is known of a gap
			continue
		}
		joules += area(i)
		for first+1 < i && r.Samples[i].At-r.Samples[first+1].At >= over {
			first++
			joules -= area(first)
		}
		if span := r.Samples[i].At - r.Samples[first].At; span >= over {
			highest = max(highest, units.Watt(joules/float64(span)))
		}
	}
	return highest
}

// Gap is how long a meter of the record's pace may say nothing before that is a gap.
func (r *Record) Gap() units.Second { return gapTimes * r.pace() }

// pace is the usual time between two samples: the middle one of all. Samples that
// a meter wrote at one moment, its clock being coarse, count for none.
func (r *Record) pace() units.Second {
	steps := make([]units.Second, 0, len(r.Samples))
	for i := 1; i < len(r.Samples); i++ {
		if step := r.Samples[i].At - r.Samples[i-1].At; step > 0 {
			steps = append(steps, step)
		}
	}
	if len(steps) == 0 {
		return 0
	}
	slices.Sort(steps)
	return steps[len(steps)/2]
}

// WriteCSV writes the samples as a table of seconds and watts, which Read takes.
func (r *Record) WriteCSV(to io.Writer) error {
	rows := csv.NewWriter(to)
	figure := func(v float64) string { return strconv.FormatFloat(v, 'f', -1, 64) }
	if err := rows.Write([]string{"time_s", "power_w"}); err != nil {
		return fmt.Errorf("writing the table: %w", err)
	}
	for _, s := range r.Samples {
		if err := rows.Write([]string{figure(float64(s.At)), figure(float64(s.Power))}); err != nil {
			return fmt.Errorf("writing the table: %w", err)
		}
	}
	rows.Flush()
	return rows.Error()
}
