package web_test

import (
	"fmt"
	"net/http"
	"testing"

	"github.com/stretchr/testify/require"

	"kolvan/core/rig"
	"kolvan/demo"
	"kolvan/store"
)

// BenchmarkManyRigs shows the bench, its last page, and a search, of 3,000 rigs with 51,000
// changes.
func BenchmarkManyRigs(b *testing.B) {
	app, s := bench(b)
	demos, err := demo.Rigs()
	require.NoError(b, err)
	var things []store.New
	for i := range 3000 {
		r := *demos[i%len(demos)]
		r.Name = fmt.Sprintf("%s %d", r.Name, i)
		r.Tags = []string{fmt.Sprint("shelf ", i%40)}
		doc, err := rig.Encode(&r)
		require.NoError(b, err)
		things = append(things, store.New{Kind: store.RigKind, Name: r.Name, Doc: doc, Label: "made"})
	}
	_, err = s.CreateAll(b.Context(), things)
	require.NoError(b, err)
	for n := 2; n <= 17; n++ { // as many changes each, quicker than one after another
		spoil(b, s, `INSERT INTO revisions (id, thing, parent, number, label, doc, name, sum, splice, depth)
			SELECT (SELECT MAX(id) FROM revisions) + t.id, t.id, v.id, v.number + 1, v.label, v.doc, v.name, v.sum, x'', 1 FROM things t JOIN revisions v ON v.id = t.head`)
		spoil(b, s, "UPDATE revisions SET doc = '' WHERE splice IS NOT NULL AND id IN (SELECT head FROM things)")
		spoil(b, s, "UPDATE things SET head = (SELECT MAX(id) FROM revisions WHERE thing = things.id)")
	}
	c := newClient(b, app)
	for name, path := range map[string]string{
		"bench": "/", "last": "/?page=125", "changed": "/?sort=changed", "by name": "/?sort=name",
		"search": "/?q=shelf+17+field", "nothing": "/?q=zeppelin",
	} {
		b.Run(name, func(b *testing.B) {
			for b.Loop() {
				status, _ := c.get(path)
				require.Equal(b, http.StatusOK, status)
			}
		})
	}
}
