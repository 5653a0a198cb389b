package rig

import (
	"reflect"
	"strconv"
	"strings"
)

// Called is what a person calls what a JSON Pointer names in v, a rig or a part: a
// field by its name, an entry of a list by what the list holds.
func Called(v any, pointer string) string {
	t, name := reflect.Indirect(reflect.ValueOf(v)).Type(), ""
	for token := range strings.SplitSeq(strings.Trim(pointer, "/"), "/") {
		if t.Kind() == reflect.Slice {
			if _, err := strconv.Atoi(token); err == nil {
				t, name = t.Elem(), Singular(name)
				continue
			}
		}
		if t.Kind() != reflect.Struct || t.Implements(factualType) {
			return token // a part of a fact: its tolerance, its source
		}
		field, found := fieldNamed(t, token)
		if !found {
			return strings.ReplaceAll(token, "_", " ")
		}
		t, name = field.Type, field.Tag.Get("name")
		if name == "" {
			name = strings.ReplaceAll(token, "_", " ")
		}
	}
	return name
}

func fieldNamed(t reflect.Type, name string) (reflect.StructField, bool) {
	for _, field := range fileFields(t) {
		if jsonName(field) == name {
			return field, true
		}
	}
	return reflect.StructField{}, false
}
