package rig

import (
	"go/ast"
	"go/parser"
	"go/token"
	"reflect"
	"strconv"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// worded are the tables of all types that fields have, by the names of the types.
func worded() map[string]*Words {
	all := map[string]*Words{}
	var walk func(t reflect.Type, seen map[reflect.Type]bool)
	walk = func(t reflect.Type, seen map[reflect.Type]bool) {
		if seen[t] {
			return
		}
		seen[t] = true
		if w, is := reflect.Zero(t).Interface().(Worded); is {
			all[t.Name()] = w.Words()
			return
		}
		switch t.Kind() {
		case reflect.Struct:
			for i := range t.NumField() {
				if t.Field(i).IsExported() {
					walk(t.Field(i).Type, seen)
				}
			}
		case reflect.Slice, reflect.Pointer, reflect.Array:
			walk(t.Elem(), seen)
		}
	}
	walk(reflect.TypeFor[Rig](), map[reflect.Type]bool{})
	return all
}

// TestWords: each type has its own, none is spoken as another of it, and every word that the
// code asks for by name is one of them.
func TestWords(t *testing.T) {
	tables := worded()
	assert.Greater(t, len(tables), 50)
	for name, words := range tables {
		said := map[string]string{}
		for _, word := range words.All() {
			assert.True(t, words.Has(word))
			as := words.Spoken(word)
			assert.NotEmpty(t, as)
			assert.Empty(t, said[as], "%s: %s and %s are both %q", name, said[as], word, as)
			said[as] = word
		}
		for word := range words.spoken {
			assert.True(t, words.Has(word), "%s speaks %s", name, word)
		}
	}
	for _, file := range []string{"choices.go", "fact.go"} {
		parsed, err := parser.ParseFile(token.NewFileSet(), file, nil, 0)
		require.NoError(t, err)
		ast.Inspect(parsed, func(n ast.Node) bool {
			spec, is := n.(*ast.ValueSpec)
			if !is || spec.Type == nil || len(spec.Values) != 1 {
				return true
			}
			of, literal := spec.Type.(*ast.Ident), spec.Values[0].(*ast.BasicLit)
			word, err := strconv.Unquote(literal.Value)
			require.NoError(t, err)
			require.Contains(t, tables, of.Name)
			assert.True(t, tables[of.Name].Has(word), "%s is no %s", word, of.Name)
			return true
		})
	}
	assert.Equal(t, "top", Spoken(Side("top")), "of the board")
	assert.Equal(t, "over its upper edge", Spoken(PlugSide("top")), "of a card")
	assert.Equal(t, "board", Spoken(Touches("board")), "that is altered")
	assert.Equal(t, "board trace", Spoken(LineBoard))
	assert.Equal(t, "its maker's own", Spoken(Proprietary))
	assert.Equal(t, "proprietary plug", Spoken(Connector("proprietary")))
}
