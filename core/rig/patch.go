package rig

import (
	"fmt"
	"reflect"
	"strconv"

	"github.com/go-json-experiment/json"
)

// operation is one operation of a JSON Patch.
type operation struct {
	Op    string `json:"op"`
	Path  string `json:"path"`
	Value any    `json:"value,omitzero"`
}

// PatchOf is the JSON Patch (RFC 6902) that makes one struct of this package the other,
// where it stands in its file; "" is a rig itself. It goes member by member; entries of
// lists are whole.
func PatchOf[T any](at string, from, to *T) ([]byte, error) {
	text, err := json.Marshal(differences(nil, at, reflect.ValueOf(from).Elem(), reflect.ValueOf(to).Elem()))
	if err != nil {
		return nil, fmt.Errorf("making the patch of a change: %w", err)
	}
	return text, nil
}

// differences are those of two structs of one type, whose members a file leaves out where
// they are not known.
func differences(patch []operation, at string, from, to reflect.Value) []operation {
	list := membersOf(from.Type())
	for i := range list {
		m, from, to := &list[i], from.Field(i), to.Field(i)
		path := at + "/" + m.Name
		switch {
		case m.hidden:
		case m.embedded:
			patch = differences(patch, at, from, to)
		case reflect.DeepEqual(from.Addr().Interface(), to.Addr().Interface()), m.leftOut(from) && m.leftOut(to):
		case m.leftOut(from):
			patch = append(patch, operation{"add", path, to.Interface()})
		case m.leftOut(to):
			patch = append(patch, operation{Op: "remove", Path: path})
		case m.list:
			patch = entries(patch, path, from, to)
		case !m.leaf:
			patch = differences(patch, path, from, to)
		default:
			patch = append(patch, operation{"replace", path, to.Interface()})
		}
	}
	return patch
}

func (m *member) leftOut(v reflect.Value) bool {
	if fact := factOf(m, v); fact != nil {
		return !fact.known()
	}
	return v.IsZero()
}

// entries are the differences of two lists, but for what both begin and end with: an entry
// gives way to another, comes in or leaves.
func entries(patch []operation, path string, from, to reflect.Value) []operation {
	same := func(i, j int) bool {
		return reflect.DeepEqual(from.Index(i).Addr().Interface(), to.Index(j).Addr().Interface())
	}
	start, was, is := 0, from.Len(), to.Len()
	for start < min(was, is) && same(start, start) {
		start++
	}
	for min(was, is) > start && same(was-1, is-1) {
		was, is = was-1, is-1
	}
	at := func(i int) string { return path + "/" + strconv.Itoa(i) }
	for i := start; i < is; i++ {
		op := "replace"
		if i >= was {
			op = "add"
		}
		patch = append(patch, operation{op, at(i), to.Index(i).Interface()})
	}
	for i := was - 1; i >= max(is, start); i-- {
		patch = append(patch, operation{Op: "remove", Path: at(i)})
	}
	return patch
}
