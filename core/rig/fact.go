package rig

import (
	"github.com/go-json-experiment/json"
	"github.com/go-json-experiment/json/jsontext"

	"kolvan/core/units"
)

// A Source says where a fact comes from.
type Source string

// The sources of a fact, best first.
const (
	Measured Source = "measured"
	Papers   Source = "papers"
	Picture  Source = "picture"
	Hearsay  Source = "hearsay"
	Listing  Source = "listing"
	System   Source = "system"
)

var sourceWords = words(word{"measured", ""}, word{"papers", ""}, word{"picture", ""}, word{"hearsay", ""}, word{"listing", ""},
	word{"system", "read by the system"})

// Words are the accepted sources.
func (Source) Words() *Words { return sourceWords }

// A Fact is a value that may be unknown. The zero Fact is unknown: what nobody
// entered is never zero and never fine.
//
// In the file a fact is left out, "unknown", the plain value, or an object with
// the value, its tolerance (same unit), its source, a remark, and as what it was typed.
type Fact[T any] struct {
	Known     bool
	Exact     bool // a tolerance of 0 was told, which is not the same as none told
	Value     T
	Tolerance float64
	Source    Source
	Remark    string
	As        string // the value as it was typed, where that is more than a number
}

// Of makes a known fact.
func Of[T any](v T) Fact[T] { return Fact[T]{Known: true, Value: v} }

// Get returns the value and whether it is known.
func (f Fact[T]) Get() (T, bool) { return f.Value, f.Known }

// Or returns the value, or other where it is unknown.
func (f Fact[T]) Or(other T) T {
	if f.Known {
		return f.Value
	}
	return other
}

// Spread is the tolerance, and whether one was told.
func (f Fact[T]) Spread() (float64, bool) { return f.Tolerance, f.Exact || f.Tolerance > 0 }

// Span is what a known figure may be: its value, its tolerance both ways.
func Span[T ~float64](f Fact[T]) units.Range[T] {
	return units.Between(f.Value-T(f.Tolerance), f.Value+T(f.Tolerance))
}

// IsZero reports an unknown fact, which the file leaves out.
func (f Fact[T]) IsZero() bool { return !f.Known }

// Is reports a known fact of that value.
func Is[T comparable](f Fact[T], v T) bool { return f.Known && f.Value == v }

// factObject is the long form of a fact in the file.
type factObject[T any] struct {
	Value     T        `json:"value"`
	Tolerance *float64 `json:"tolerance,omitzero"`
	Source    Source   `json:"source,omitzero"`
	Remark    string   `json:"remark,omitzero"`
	As        string   `json:"as,omitzero"`
}

const unknownWord = "unknown"

// MarshalJSONTo writes the plain value, or the object where there is more to say.
func (f Fact[T]) MarshalJSONTo(enc *jsontext.Encoder) error {
	if !f.Known {
		return enc.WriteToken(jsontext.String(unknownWord))
	}
	told := f.Exact || f.Tolerance != 0
	if !told && f.Source == "" && f.Remark == "" && f.As == "" {
		return json.MarshalEncode(enc, f.Value)
	}
	object := factObject[T]{Value: f.Value, Source: f.Source, Remark: f.Remark, As: f.As}
	if told {
		object.Tolerance = &f.Tolerance
	}
	return json.MarshalEncode(enc, object)
}

// UnmarshalJSONFrom reads any of the forms of a fact.
func (f *Fact[T]) UnmarshalJSONFrom(dec *jsontext.Decoder) error {
	*f = Fact[T]{}
	kind := dec.PeekKind()
	if kind == '{' {
		return f.readObject(dec)
	}
	if kind != '"' {
		f.Known = true
		return json.UnmarshalDecode(dec, &f.Value)
	}
	raw, err := dec.ReadValue()
	if err != nil || string(raw) == `"`+unknownWord+`"` {
		return err
	}
	f.Known = true
	return json.Unmarshal(raw, &f.Value)
}

func (f *Fact[T]) readObject(dec *jsontext.Decoder) error {
	var object struct {
		Value     jsontext.Value `json:"value"`
		Tolerance *float64       `json:"tolerance"`
		Source    Source         `json:"source"`
		Remark    string         `json:"remark"`
		As        string         `json:"as"`
	}
	if err := json.UnmarshalDecode(dec, &object); err != nil {
		return err
	}
	if len(object.Value) == 0 || object.Value.Kind() == '{' {
		return errNoValue
	}
	if err := json.Unmarshal(object.Value, f); err != nil {
		return err
	}
	if !f.Known {
		return nil
	}
	f.Source, f.Remark, f.As = object.Source, object.Remark, object.As
	if object.Tolerance != nil {
		f.Tolerance, f.Exact = *object.Tolerance, *object.Tolerance == 0
	}
	return nil
}
