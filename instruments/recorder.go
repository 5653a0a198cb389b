package instruments

import (
	"context"
	"math"
	"sync"

	"kolvan/core/meter"
	"kolvan/core/units"
)

// mostSamples bounds a recording: a day of samples at a meter's pace.
const mostSamples = 24 * 60 * 60 * 5

// moreSamples is the room that is made at a time: doubling would take it twice.
const moreSamples = 1 << 14

// Bytes is how much memory a recording that goes on may come to.
const Bytes = mostSamples * sampleBytes

const sampleBytes = 16

// Held is the memory that a recording takes now.
func (r *Recorder) Held() int {
	r.mu.Lock()
	defer r.mu.Unlock()
	if r.running {
		return Bytes
	}
	return len(r.record.Samples) * sampleBytes
}

// A Recorder keeps what a wall meter shows, and lets any number of readers follow.
type Recorder struct {
	mu      sync.Mutex
	record  meter.Record
	tally   meter.Tally
	refused int // figures that no meter can have measured
	load    string
	running bool
	ended   string        // why it ended, where not by a person
	more    chan struct{} // closed when there is more to read
	done    chan struct{} // closed at the end
	meter   *WallMeter
}

// Record starts to keep what the meter shows, until Stop, an error, or ctx is done.
func Record(ctx context.Context, m *WallMeter) *Recorder {
	r := &Recorder{
		tally: meter.TallyAt(units.Second(Pace.Seconds())), running: true, load: Loads[0], more: make(chan struct{}),
		done: make(chan struct{}), meter: m,
	}
	stop := context.AfterFunc(ctx, func() { r.end("") })
	go func() {
		defer stop()
		for r.keep(m.Next()) {
		}
	}()
	return r
}

// Hold is a recorder of what was read from a table.
func Hold(record *meter.Record) *Recorder {
	return &Recorder{record: *record, tally: record.Tally(), more: make(chan struct{})}
}

// keep adds a sample and reports whether to wait for another. What cannot have been
// measured, or is of a time before the last, is refused and counted.
func (r *Recorder) keep(s meter.Sample, err error) bool {
	if err != nil {
		r.end(err.Error())
		return false
	}
	r.mu.Lock()
	if !r.running {
		r.mu.Unlock()
		return false
	}
	watts, can := meter.Shown(s.Power)
	if !can || !r.follows(s.At) {
		r.refused++
		r.mu.Unlock()
		return true
	}
	s.Power = watts
	if len(r.record.Samples) == cap(r.record.Samples) {
		more := make([]meter.Sample, len(r.record.Samples), len(r.record.Samples)+moreSamples)
		copy(more, r.record.Samples)
		r.record.Samples = more
	}
	r.record.Samples = append(r.record.Samples, s)
	r.tally.Add(s)
	full := len(r.record.Samples) >= mostSamples
	r.wake()
	r.mu.Unlock()
	if full {
		r.end("a day is recorded; that is as much as one recording holds")
	}
	return !full
}

// follows reports a time that is not before the last, and no longer after it than a day.
func (r *Recorder) follows(at units.Second) bool {
	n := len(r.record.Samples)
	if n == 0 {
		return math.Abs(float64(at)) < 1e12 // s: whatever its clock counts from
	}
	last := r.record.Samples[n-1].At
	return at >= last && at <= last+24*3600
}

func (r *Recorder) wake() {
	close(r.more)
	r.more = make(chan struct{})
}

// end ends the recording once; what is kept stays.
func (r *Recorder) end(why string) {
	r.mu.Lock()
	defer r.mu.Unlock()
	if !r.running {
		return
	}
	r.running, r.ended = false, why
	_ = r.meter.Close()
	r.wake()
	close(r.done)
}

// Done is closed at the end of a recording that was begun with Record.
func (r *Recorder) Done() <-chan struct{} { return r.done }

// Stop ends the recording.
func (r *Recorder) Stop() { r.end("") }

// Tell sends the meter's stand-in a command.
func (r *Recorder) Tell(command string) error { return r.meter.Tell(command) }

// SetLoad tells the stand-in how hard the rig works.
func (r *Recorder) SetLoad(load string) error {
	r.mu.Lock()
	r.load = load
	r.mu.Unlock()
	return r.meter.Tell("load " + load)
}

// State is how a recording stands.
type State struct {
	Running bool
	Load    string
	Ended   string
	Samples int
	Refused int // figures that no meter can have measured, or of a time before the last
}

// State tells how the recording stands.
func (r *Recorder) State() State {
	r.mu.Lock()
	defer r.mu.Unlock()
	return State{r.running, r.load, r.ended, r.tally.Figures().Samples, r.refused}
}

// From gives the samples from place i on, whether more are to come, and what will
// be closed when they have.
func (r *Recorder) From(i int) (samples []meter.Sample, running bool, more <-chan struct{}) {
	r.mu.Lock()
	defer r.mu.Unlock()
	return r.record.Samples[min(i, len(r.record.Samples)):], r.running, r.more
}

// Figures are the figures of all that is kept.
func (r *Recorder) Figures() meter.Figures {
	r.mu.Lock()
	defer r.mu.Unlock()
	return r.tally.Figures()
}

// Record is what is kept so far.
func (r *Recorder) Record() meter.Record {
	r.mu.Lock()
	defer r.mu.Unlock()
	return r.record
}

// Lately is the mean of the last so many seconds.
func (r *Recorder) Lately(seconds units.Second) units.Watt {
	samples, _, _ := r.From(0)
	if len(samples) == 0 {
		return 0
	}
	first := len(samples) - 1
	for first > 0 && samples[len(samples)-1].At-samples[first-1].At <= seconds {
		first--
	}
	return (&meter.Record{Samples: samples[first:]}).Figures().Mean
}
