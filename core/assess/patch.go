package assess

import (
	"fmt"
	"reflect"
	"strconv"
	"strings"
	"sync"

	"github.com/go-json-experiment/json"

	"kolvan/core/rig"
)

// operation is one operation of a JSON Patch.
type operation struct {
	Op    string `json:"op"`
	Path  string `json:"path"`
	Value any    `json:"value,omitzero"`
}

// PatchOf is the JSON Patch (RFC 6902) from one rig file to the other: members one by
// one, entries of lists whole.
func PatchOf(from, to *rig.Rig) ([]byte, error) {
	return encoded(members(nil, "", reflect.ValueOf(from).Elem(), reflect.ValueOf(to).Elem()))
}

// patchOfMoves is PatchOf for two rigs that differ in what has moved out of the slot.
func patchOfMoves(from, to *rig.Rig) ([]byte, error) {
	return encoded(members(nil, "/route", reflect.ValueOf(&from.Route).Elem(), reflect.ValueOf(&to.Route).Elem()))
}

func encoded(patch []operation) ([]byte, error) {
	text, err := json.Marshal(patch)
	if err != nil {
		return nil, fmt.Errorf("making the patch of a change: %w", err)
	}
	return text, nil
}

// A field is what a patch has to know of a member of a struct.
type field struct {
	name     string
	embedded bool // its members are written as the struct's own
	whole    bool // a file holds it as one value
	facts    bool // its zero is what its own IsZero says
}

// fields are known once for each struct: looking them up takes longer than comparing them.
var fields sync.Map // of reflect.Type to []field

func fieldsOf(t reflect.Type) []field {
	if known, is := fields.Load(t); is {
		return known.([]field)
	}
	list := make([]field, t.NumField())
	for i := range list {
		f := t.Field(i)
		name, _, _ := strings.Cut(f.Tag.Get("json"), ",")
		list[i] = field{"/" + name, f.Anonymous, f.Type.Kind() != reflect.Struct || reflect.PointerTo(f.Type).Implements(reflect.TypeFor[json.MarshalerTo]()),
			f.Type.Implements(reflect.TypeFor[interface{ IsZero() bool }]())}
	}
	fields.Store(t, list)
	return list
}

// left reports a value that a file leaves out.
func (f *field) left(v reflect.Value) bool {
	if f.facts {
		return v.Interface().(interface{ IsZero() bool }).IsZero()
	}
	return v.IsZero()
}

// members makes what differs between two values of the same struct, of members that a
// file leaves out where they are zero.
func members(patch []operation, path string, from, to reflect.Value) []operation {
	for i, f := range fieldsOf(from.Type()) {
		from, to := from.Field(i), to.Field(i)
		if reflect.DeepEqual(from.Addr().Interface(), to.Addr().Interface()) {
			continue
		}
		path := path + f.name
		switch was, is := f.left(from), f.left(to); {
		case f.embedded:
			patch = members(patch, strings.TrimSuffix(path, f.name), from, to)
		case was && is:
		case was:
			patch = append(patch, operation{"add", path, to.Interface()})
		case is:
			patch = append(patch, operation{Op: "remove", Path: path})
		case to.Kind() == reflect.Slice:
			patch = entries(patch, path, from, to)
		case !f.whole:
			patch = members(patch, path, from, to)
		default:
			patch = append(patch, operation{"replace", path, to.Interface()})
		}
	}
	return patch
}

// entries makes what differs between two lists, but for what both begin and end with:
// an entry gives way to another, comes in or leaves.
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
