package web_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kolvan/core/parts"
)

// TestTheShelf lies between one's own and the list: it is found, taken from and used, stays where
// the list is put away, and says what it has otherwise of one's own.
func TestTheShelf(t *testing.T) {
	t.Parallel()
	app, _ := bench(t)
	require.NoError(t, app.UseShelf([]parts.Part{
		{Kind: parts.Card, Name: "Gannet 12G", Doc: []byte(`{"name":"Gannet 12G","length_mm":201,"lanes":8,"power_w":90,"plugs":[]}`)},
	}))
	c := newClient(t, app)
	_, page := c.get("/bins")
	assert.Contains(t, page, `<span class="found-kind">shelf</span><b>Gannet 12G</b>`)
	_, page = c.get("/rigs/1/parts?kind=card&q=gannet")
	assert.Contains(t, page, "shelf: card")
	_, page = c.post("/rigs/1/use", "rev", c.rev(1), "station", "route", "part", "shelf:0")
	assert.Contains(t, page, "Gannet 12G")
	for _, none := range []string{"shelf:1", "shelf:-1", "shelf:x"} {
		_, page = c.post("/rigs/1/use", "rev", c.rev(1), "station", "route", "part", none)
		assert.Contains(t, page, "a part of the list or the bins")
	}
	c.post("/bins", "kind", "card", "part", "shelf:0")
	require.NoError(t, app.UseShelf([]parts.Part{{Kind: parts.Card, Name: "Gannet 12G",
		Doc: []byte(`{"name":"Gannet 12G","length_mm":207}`)}}))
	_, page = c.get("/bins")
	assert.Contains(t, page, "the shelf says: length 207\u00a0mm")
	assert.Error(t, app.UseShelf([]parts.Part{{Kind: parts.Card, Name: "x", Doc: []byte(`{"nonsense":1}`)}}))
}
