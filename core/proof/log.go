package proof

import (
	"bytes"
	"fmt"
	"slices"
	"strings"

	"github.com/go-json-experiment/json"
	"github.com/go-json-experiment/json/jsontext"

	"kolvan/core/rig"
)

// LogFormat is the format word of a rig's log.
const LogFormat = "kolvan-log/1"

// A Log is what happened with a rig, in the order of time: readings, tries, runs, and lines
// of its diary. What has no time stands first.
type Log struct {
	Format  string  `json:"format"`
	Rig     string  `json:"rig"`
	Entries []Entry `json:"entries"`
}

// Entry is one entry of a log; what it tells is as the rig file has it.
type Entry struct {
	When  string         `json:"when"`
	Kind  string         `json:"kind"` // reading, try, run, diary
	Where string         `json:"-"`    // JSON Pointer into the rig
	Told  jsontext.Value `json:",embed"`
}

// LogOf gathers the log of a rig.
func LogOf(r *rig.Rig) (*Log, error) {
	l := &Log{Format: LogFormat, Rig: r.Name, Entries: []Entry{}}
	var err error
	add := func(kind, list string, i int, when string, told any) {
		text, fault := json.Marshal(told)
		if fault != nil {
			err = fmt.Errorf("%s %d of the log: %w", kind, i+1, fault)
			return
		}
		l.Entries = append(l.Entries, Entry{When: when, Kind: kind, Where: fmt.Sprintf("%s/%d", list, i), Told: text})
	}
	for i, reading := range r.Route.Readings {
		when := reading.When
		reading.When = ""
		add("reading", "/route/readings", i, when, reading)
	}
	for i, reading := range r.LoadReadings {
		when := reading.When
		reading.When = ""
		add("reading", "/load_readings", i, when, reading)
	}
	for i, try := range r.Build.Tries {
		when := try.When
		try.When = ""
		add("try", "/build/tries", i, when, try)
	}
	for i, run := range r.Runs {
		when := run.When
		run.When = ""
		add("run", "/runs", i, when, run)
	}
	for i, line := range r.Diary {
		when := line.When
		line.When = ""
		add("diary", "/diary", i, when, line)
	}
	slices.SortStableFunc(l.Entries, func(a, b Entry) int { return strings.Compare(a.When, b.When) })
	return l, err
}

// RunsOfLog are the runs that a log tells.
func RunsOfLog(text []byte) (runs []rig.Run, err error) {
	var l Log
	if err := json.Unmarshal(text, &l, json.RejectUnknownMembers(true)); err != nil {
		return nil, fmt.Errorf("it is not accepted; accepted: a log, %s (%w)", LogFormat, err)
	}
	if l.Format != LogFormat {
		return nil, fmt.Errorf("%q is not accepted; accepted: %q at its head", l.Format, LogFormat)
	}
	bare := rig.New("log")
	for i := range l.Entries {
		e := &l.Entries[i]
		if e.Kind != "run" {
			continue
		}
		var run rig.Run
		if err := json.Unmarshal(bytes.TrimSpace(e.Told), &run, json.RejectUnknownMembers(true)); err != nil {
			return nil, fmt.Errorf("/entries/%d: it is not accepted; accepted: a run as the rig file has it (%w)", i, err)
		}
		run.When = e.When
		bare.Runs = append(bare.Runs, run)
	}
	if err := rig.Validate(bare); err != nil {
		return nil, err
	}
	return bare.Runs, nil
}
