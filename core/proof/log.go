package proof

import (
	"bytes"
	"errors"
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
	err := errors.Join(
		gather(l, "reading", "/route/readings", r.Route.Readings, func(e *rig.Reading) *string { return &e.When }),
		gather(l, "reading", "/load_readings", r.LoadReadings, func(e *rig.LoadReading) *string { return &e.When }),
		gather(l, "try", "/build/tries", r.Build.Tries, func(e *rig.Try) *string { return &e.When }),
		gather(l, "run", "/runs", r.Runs, func(e *rig.Run) *string { return &e.When }),
		gather(l, "diary", "/diary", r.Diary, func(e *rig.DiaryLine) *string { return &e.When }),
	)
	slices.SortStableFunc(l.Entries, func(a, b Entry) int { return strings.Compare(a.When, b.When) })
	return l, err
}

// gather puts a list of the rig into its log: an entry's time stands at its head and not
// again in what it tells.
func gather[T any](l *Log, kind, list string, told []T, when func(*T) *string) error {
	for i, one := range told {
		e := Entry{When: *when(&one), Kind: kind, Where: fmt.Sprintf("%s/%d", list, i)}
		*when(&one) = ""
		text, err := json.Marshal(one)
		if err != nil {
			return fmt.Errorf("%s %d of the log: %w", kind, i+1, err)
		}
		e.Told = text
		l.Entries = append(l.Entries, e)
	}
	return nil
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
