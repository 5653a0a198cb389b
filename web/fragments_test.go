package web

import (
	"html/template"
	"reflect"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kolvan/core/assess"
	"kolvan/core/rig"
	"kolvan/web/fields"
	"kolvan/web/roomtest"
	"kolvan/web/route"
)

// TestContentTellsEverythingApart that a template can see, and nothing else.
func TestContentTellsEverythingApart(t *testing.T) {
	type inner struct{ A, B string }
	type outer struct {
		Text   string
		Yes    bool
		Count  int
		Share  float64
		List   []string
		Inner  *inner
		Any    any
		Bytes  []byte
		hidden string
	}
	text := func(v outer) string {
		b, err := content(nil, reflect.ValueOf(v))
		require.NoError(t, err)
		return string(b)
	}
	base := outer{Text: "a", List: []string{"x", "y"}, Inner: &inner{A: "p", B: "q"}, Any: "z", Bytes: []byte("b")}
	same := outer{Text: "a", List: []string{"x", "y"}, Inner: &inner{A: "p", B: "q"}, Any: "z", Bytes: []byte("b"), hidden: "not seen"}
	assert.Equal(t, text(base), text(same), "by what it holds, not by where it lies")
	for name, change := range map[string]func(*outer){
		"text": func(o *outer) { o.Text = "b" }, "flag": func(o *outer) { o.Yes = true }, "count": func(o *outer) { o.Count = 1 },
		"share":                  func(o *outer) { o.Share = 1e-9 },
		"where a list is parted": func(o *outer) { o.List = []string{"xy"} }, "a longer list": func(o *outer) { o.List = append(o.List, "") },
		"behind a pointer":  func(o *outer) { o.Inner = &inner{A: "p", B: "r"} },
		"between two texts": func(o *outer) { o.Inner = &inner{A: "pq", B: ""} }, "no pointer": func(o *outer) { o.Inner = nil },
		"another sort": func(o *outer) { o.Any = 1 }, "bytes": func(o *outer) { o.Bytes = []byte("c") },
	} {
		other := base
		other.List = append([]string{}, base.List...)
		change(&other)
		assert.NotEqual(t, text(base), text(other), name)
	}
	_, err := content(nil, reflect.ValueOf(struct{ M map[string]int }{map[string]int{}}))
	assert.ErrorContains(t, err, "is not kept")
}

// TestFragmentsAreWhatTheTemplateMakes: asked for again they are the same, and a change
// of what is shown is seen.
func TestFragmentsAreWhatTheTemplateMakes(t *testing.T) {
	views, err := engine()
	require.NoError(t, err)
	kept, err := newFragments(views)
	require.NoError(t, err)
	r, report, ref := roomtest.Demo(t, "Dome-shed stacker")
	made := func(f fields.Field) template.HTML {
		text, err := kept.of("field", f, "/rigs/1")
		require.NoError(t, err)
		return text
	}
	form := fields.For(r, &r.Card, "/card", false, nil)
	for _, f := range form.Fields {
		var plain strings.Builder
		require.NoError(t, views.Templates.ExecuteTemplate(&plain, "field", fragment{f, "/rigs/1"}))
		assert.Equal(t, plain.String(), string(made(f)))
		assert.Equal(t, plain.String(), string(made(f)), "kept")
		other := f
		other.Fault = "too much"
		assert.Contains(t, made(other), "too much")
	}
	assert.Equal(t, 2*len(form.Fields), kept.made.Len())
	require.NoError(t, rig.Set(r, "/route/stages/1/generation", "6"))
	again := assess.Rig(r, ref)
	before, err := kept.of("carried", route.CarriedBy(r, report, ref), int64(1))
	require.NoError(t, err)
	after, err := kept.of("carried", route.CarriedBy(r, &again, ref), int64(1))
	require.NoError(t, err)
	assert.NotEqual(t, before, after)
	assert.Contains(t, after, "said to be")
	_, err = kept.of("no such template", form.Fields[0], "")
	assert.Error(t, err)
}
