package rig_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"kolvan/core/rig"
	"kolvan/internal/mutants"
	"kolvan/internal/oneseed"
)

func TestMerge(t *testing.T) {
	for name, c := range map[string]struct {
		base, mine, theirs, want string
		clashes                  []string
	}{
		"different members":        {`{"a":1,"b":1}`, `{"a":2,"b":1}`, `{"a":1,"b":3}`, `{"a":2,"b":3}`, nil},
		"the same change":          {`{"a":1}`, `{"a":2}`, `{"a":2}`, `{"a":2}`, nil},
		"different changes of one": {`{"a":1}`, `{"a":2}`, `{"a":3}`, "", []string{"/a"}},
		"taken out and changed":    {`{"x":{"a":1}}`, `{"x":{}}`, `{"x":{"a":3}}`, "", []string{"/x/a"}},
		"taken out and left":       {`{"x":{"a":1},"b":1}`, `{"b":1}`, `{"x":{"a":1},"b":2}`, `{"b":2}`, nil},
		"a fact is whole":          {`{"f":1}`, `{"f":{"value":2,"source":"papers"}}`, `{"f":{"value":3}}`, "", []string{"/f"}},
		"of one fact each":         {`{"f":{"value":1}}`, `{"f":{"value":1,"source":"papers"}}`, `{"f":{"value":2}}`, "", []string{"/f"}},
		"both begin a list":        {`{}`, `{"l":[{"step":"card"}]}`, `{"l":[{"step":"dock"}]}`, `{"l":[{"step":"dock"},{"step":"card"}]}`, nil},
		"both add":                 {`{"l":["x"]}`, `{"l":["x","m"]}`, `{"l":["x","t"]}`, `{"l":["x","t","m"]}`, nil},
		"both add one name": {`{"l":[]}`, `{"l":[{"name":"n","v":1}]}`, `{"l":[{"name":"n","v":2}]}`, "",
			[]string{"/l/0/v"}},
		"out of one, into another": {
			`{"l":[{"name":"a"},{"name":"b"}]}`, `{"l":[{"name":"b"}]}`, `{"l":[{"name":"a"},{"name":"b","v":1}]}`, `{"l":[{"name":"b","v":1}]}`, nil,
		},
		"out, and changed there": {`{"l":[{"name":"a"}]}`, `{"l":[]}`, `{"l":[{"name":"a","v":1}]}`, "", []string{"/l/0"}},
		"another order, and more": {
			`{"l":["a","b"]}`, `{"l":["b","a"]}`, `{"l":["a","b","c"]}`, "", []string{"/l"},
		},
		"two of one name": {`{"l":["a","a"]}`, `{"l":["a"]}`, `{"l":["a","a","b"]}`, "", []string{"/l"}},
		"another kind":    {`{"a":1}`, `{"a":[1]}`, `{"a":{"b":1}}`, "", []string{"/a"}},
	} {
		merged, clashes, err := rig.Merge([]byte(c.base), []byte(c.mine), []byte(c.theirs))
		require.NoError(t, err, name)
		assert.Equal(t, c.clashes, clashes, name)
		if c.want != "" {
			assert.JSONEq(t, c.want, string(merged), name)
			continue
		}
		assert.Nil(t, merged, name)
	}
	_, _, err := rig.Merge([]byte("{}"), []byte("{"), []byte("{}"))
	assert.ErrorContains(t, err, "merging")
}

// TestMergeWithNothingIsTheChange: where one side changed nothing the other's change is all there
// is, and a change merged with itself is itself.
func TestMergeWithNothingIsTheChange(t *testing.T) {
	maker, err := mutants.OfDemo(oneseed.Seed())
	require.NoError(t, err)
	rapid.Check(t, func(rt *rapid.T) {
		var docs [2]string
		for i := range docs {
			doc, err := rig.Encode(maker.Next())
			require.NoError(rt, err)
			docs[i] = string(doc)
		}
		for _, c := range [][3]string{{docs[0], docs[1], docs[0]}, {docs[0], docs[0], docs[1]}, {docs[0], docs[1], docs[1]}} {
			merged, clashes, err := rig.Merge([]byte(c[0]), []byte(c[1]), []byte(c[2]))
			require.NoError(rt, err)
			require.Empty(rt, clashes)
			require.JSONEq(rt, docs[1], string(merged))
		}
	})
}
