package pasted

import (
	"fmt"
	"reflect"
	"strconv"
	"strings"

	"kolvan/core/parts"
	"kolvan/core/rig"
)

// Part makes a part of the facts that are chosen, by their pointers, told by a listing; of a name
// where one is given. The error is a *rig.FieldError.
func (r *Reading) Part(name string, chosen func(at string) bool) (any, error) {
	part := parts.New(r.Kind)
	if part == nil {
		return nil, &rig.FieldError{Path: "/kind", Value: strconv.Quote(string(r.Kind)), Accepts: "host, card, stage, supply or lead"}
	}
	if name == "" {
		name = "pasted " + string(r.Kind)
	}
	if err := rig.Set(part, "/name", name); err != nil {
		return nil, err
	}
	for i := range r.Facts {
		f := &r.Facts[i]
		if f.At == "/name" || !chosen(f.At) {
			continue
		}
		if err := f.tell(part); err != nil {
			return nil, err
		}
	}
	return part, rig.ValidatePart(part)
}

// tell writes a fact into a part, making the entries of lists it stands in.
func (f *Fact) tell(part any) error {
	tokens := strings.Split(strings.TrimPrefix(f.At, "/"), "/")
	for i, token := range tokens {
		place, err := strconv.Atoi(token)
		if err != nil {
			continue
		}
		list := "/" + strings.Join(tokens[:i], "/")
		for {
			value, _, err := rig.At(part, list)
			if err != nil {
				return err
			}
			if value.Kind() != reflect.Slice || value.Len() > place {
				break
			}
			if _, err := rig.Append(part, list); err != nil {
				return err
			}
		}
	}
	if none, is := f.Value.([]any); is && len(none) == 0 {
		return rig.Empty(part, f.At)
	}
	if err := rig.Set(part, f.At, f.Shown()); err != nil {
		return err
	}
	_ = rig.Set(part, f.At+"/source", string(rig.Listing)) // a name has no source
	return nil
}

// Shown is the value as a person types it, and reads it.
func (f *Fact) Shown() string {
	switch v := f.Value.(type) {
	case []any:
		return "none"
	case []string:
		return strings.Join(v, ", ")
	case float64:
		return strconv.FormatFloat(v, 'f', -1, 64)
	default:
		return fmt.Sprint(v)
	}
}
