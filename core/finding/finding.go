// Package finding is what Kolvan says about a rig: findings at a level, each of
// a named rule, with the numbers behind it, where it applies and what would
// clear it.
package finding

import (
	"fmt"
	"strings"
	"unicode"
	"unicode/utf8"

	"github.com/go-json-experiment/json"
	"github.com/go-json-experiment/json/jsontext"

	"kolvan/core/units"
)

// Level is how bad a finding is.
type Level int

// The levels, mildest first.
const (
	Note Level = iota
	Risk
	Unknown
	Blocked
	Danger
)

var levelNames = [...]string{"note", "risk", "unknown", "blocked", "danger"}

func (l Level) String() string { return levelNames[l] }

// MarshalText writes the level's word.
func (l Level) MarshalText() ([]byte, error) { return []byte(l.String()), nil }

// Number is one figure behind a finding; the name carries the unit.
type Number struct {
	Name  string
	Value float64
}

// Numbers are written as one JSON object, in their order.
type Numbers []Number

// MarshalJSONTo writes {"name": value, …}.
func (n Numbers) MarshalJSONTo(enc *jsontext.Encoder) error {
	if err := enc.WriteToken(jsontext.BeginObject); err != nil {
		return err
	}
	for _, number := range n {
		if err := enc.WriteToken(jsontext.String(number.Name)); err != nil {
			return err
		}
		if err := json.MarshalEncode(enc, units.Round(number.Value, units.ReportDigits)); err != nil {
			return err
		}
	}
	return enc.WriteToken(jsontext.EndObject)
}

// A Change is one way to clear a finding: in words with the new figure, and as a
// JSON Patch (RFC 6902) of the rig file.
type Change struct {
	Change  string         `json:"change"`
	Patch   jsontext.Value `json:"patch"`
	Costs   float64        `json:"costs,omitzero"`   // more to buy than before, as far as prices are told
	Worsens []string       `json:"worsens,omitzero"` // titles of what it brings in or makes worse, less than what it clears
}

// A Finding is one rule that fired.
type Finding struct {
	row          *Rule
	Rule         string    `json:"rule"`
	Title        string    `json:"title"`
	Level        Level     `json:"level"`
	Where        string    `json:"where"` // JSON Pointer into the rig
	Says         string    `json:"says"`
	Numbers      Numbers   `json:"numbers"`
	Clear        []Change  `json:"clear"`
	Acknowledged string    `json:"acknowledged,omitzero"` // the reason somebody gave
	Find         string    `json:"-"`                     // how to find the missing fact of an unknown one
	Around       []float64 `json:"-"`                     // figures at which that fact changes something
}

// Row is the row of its rule.
func (f *Finding) Row() *Rule { return f.row }

// List gathers findings. A silent list leaves out the sentences and the rules that
// only ever say a note, for searches that ask what speaks against a rig.
type List struct {
	Silent   bool
	Findings []Finding

	numbers Numbers // of all findings
}

// Add records that the rule fired; format and args make its sentence.
func (l *List) Add(r *Rule, level Level, where string, numbers Numbers, format string, args ...any) {
	if l.Fires(r, level, where, numbers) {
		l.Say(format, args...)
	}
}

// Fires records that the rule fired, and reports whether its sentence is wanted: what
// rules say most often is put together only then.
func (l *List) Fires(r *Rule, level Level, where string, numbers Numbers) bool {
	f := Finding{row: r, Rule: r.Name, Title: r.Title, Level: level, Where: where}
	if len(numbers) > 0 {
		first := len(l.numbers)
		l.numbers = append(l.numbers, numbers...)
		f.Numbers = l.numbers[first:len(l.numbers):len(l.numbers)]
	}
	l.Findings = append(l.Findings, f)
	return !l.Silent
}

// Say makes the sentence of the finding that was recorded last.
func (l *List) Say(format string, args ...any) {
	l.Findings[len(l.Findings)-1].Says = Sentence(fmt.Sprintf(format, args...))
}

// Part makes a part of a sentence; nothing for a silent list.
func (l *List) Part(format string, args ...any) string {
	if l.Silent {
		return ""
	}
	return fmt.Sprintf(format, args...)
}

// Sentence is a text with its capital, unless its first word is a name with figures or signs
// in it, which is written as it is.
func Sentence(text string) string {
	first, _, _ := strings.Cut(text, " ")
	if first == "" || first[0] < 'a' || first[0] > 'z' || strings.ContainsAny(first, "0123456789-_./") {
		return text
	}
	return Begin(text)
}

// Need records that a fact the rule hangs on is unknown: which fact, how to
// find it, and what it decides. A figure that is missing may change something around
// the figures that are told here.
func (l *List) Need(r *Rule, where, fact, find, decides string, around ...float64) {
	for i := range l.Findings {
		if f := &l.Findings[i]; f.Rule == r.Name && f.Where == where {
			return
		}
	}
	l.Add(r, Unknown, where, nil, "Not known: %s. %s It decides %s.", fact, find, decides)
	if f := &l.Findings[len(l.Findings)-1]; !l.Silent {
		f.Title, f.Find, f.Around = Begin(fact), find, around
	}
}

// Empty leaves the list with the room it has, for another rig: what was in it, its
// numbers too, is lost.
func (l *List) Empty() { l.Findings, l.numbers = l.Findings[:0], l.numbers[:0] }

// Sorted copies the findings, the worst first, in the order of the rules within a
// level.
func (l *List) Sorted() []Finding {
	sorted, numbers := make([]Finding, 0, len(l.Findings)), make(Numbers, 0, len(l.numbers))
	for level := Danger; level >= Note; level-- {
		for i := range l.Findings {
			if l.Findings[i].Level != level {
				continue
			}
			sorted = append(sorted, l.Findings[i])
			if f := &sorted[len(sorted)-1]; f.Numbers != nil {
				first := len(numbers)
				numbers = append(numbers, f.Numbers...)
				f.Numbers = numbers[first:len(numbers):len(numbers)]
			}
		}
	}
	return sorted
}

// An Entry is a rule beside the function that judges a subject by it.
type Entry[S any] struct {
	Rule
	Judge func(r *Rule, subject S, out *List)
}

// A Table holds the rules of one part of the job.
type Table[S any] []Entry[S]

// Rules lists the rules of the table.
func (t Table[S]) Rules() []Rule {
	all := make([]Rule, len(t))
	for i := range t {
		all[i] = t[i].Rule
	}
	return all
}

// Of is the rule of a name; nil for none of this table.
func (t Table[S]) Of(name string) *Rule {
	for i := range t {
		if t[i].Name == name {
			return &t[i].Rule
		}
	}
	return nil
}

// Judge adds what the rules say about the subject.
func (t Table[S]) Judge(subject S, out *List) {
	for i := range t {
		if !out.Silent || !t[i].Notes {
			t[i].Judge(&t[i].Rule, subject, out)
		}
	}
}

// Phrase is a text as it stands inside a sentence; what begins with several capitals keeps them.
func Phrase(s string) string {
	if len(s) > 1 && s[1] >= 'a' && s[1] <= 'z' {
		return strings.ToLower(s[:1]) + s[1:]
	}
	return s
}

// Begin is a sentence with its first letter large.
func Begin(s string) string {
	first, long := utf8.DecodeRuneInString(s)
	if first == utf8.RuneError {
		return s
	}
	return string(unicode.ToUpper(first)) + s[long:]
}
