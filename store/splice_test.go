package store

import (
	"bytes"
	"fmt"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"kolvan/core/rig"
	"kolvan/internal/oneseed"
)

// TestSplices: a splice makes the one document of the other, and one that does not fit is
// an error.
func TestSplices(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		text := rapid.SliceOfN(rapid.SampledFrom([]byte("ab")), 0, 12)
		from, to := text.Draw(t, "from"), text.Draw(t, "to")
		made, err := spliced(from, spliceOf(from, to))
		require.NoError(t, err)
		assert.True(t, bytes.Equal(to, made))
	})
	for _, wrong := range []string{"", "\x02", "\x03\x02x", "\x05\x00", "\x00\x05"} {
		_, err := spliced([]byte("four"), []byte(wrong))
		assert.ErrorIs(t, err, errSplice, "%q", wrong)
	}
}

// TestAChainOfSplicesEnds: the next one is whole after so many, and where it says no less.
func TestAChainOfSplicesEnds(t *testing.T) {
	doc := []byte(strings.Repeat("a long document ", 20))
	for depth, want := range map[int]int{0: 1, 7: 8, splicesToWhole - 1: splicesToWhole, splicesToWhole: 0} {
		splice, deep := spliceFrom(&revision{doc: doc, depth: depth}, append(doc, '!'))
		assert.Equal(t, want, deep, depth)
		assert.Equal(t, want != 0, splice != nil, depth)
	}
	_, deep := spliceFrom(&revision{doc: doc}, bytes.Repeat([]byte("x"), len(doc)))
	assert.Zero(t, deep, "another document altogether")
	_, deep = spliceFrom(nil, doc)
	assert.Zero(t, deep)
}

// TestManyEditsKeepLittle: an edit keeps what it changed, however long the document is, and
// any change is gone back to at once, over branches and restarts.
func TestManyEditsKeepLittle(t *testing.T) {
	ctx, path := t.Context(), filepath.Join(t.TempDir(), "k.db")
	file, err := os.ReadFile("../demo/rigs/projector_tower.json")
	require.NoError(t, err)
	r, err := rig.Decode(file)
	require.NoError(t, err)
	r.Brief.Currency = strings.Repeat("k", 1500) // a page of the data file takes what it leaves over badly
	doc, err := rig.Encode(r)
	require.NoError(t, err)
	s := open(t, path)
	id, err := s.Create(ctx, RigKind, r.Name, doc, "started")
	require.NoError(t, err)
	h, err := s.Load(ctx, RigKind, id)
	require.NoError(t, err)
	before := sizeOf(t, s)
	edits := oneseed.Hard(1000, 10)
	heads, docs := []int64{h.Revision}, [][]byte{h.Doc}
	for i := range edits {
		at := []string{"/card/power_w", "/supplies/0/rating_w", "/card/length_mm", "/name"}[i%4]
		require.NoError(t, rig.Set(r, at, fmt.Sprint(100+i%200)))
		doc, err := rig.Encode(r)
		require.NoError(t, err)
		h, err = s.Write(ctx, id, h.Revision, r.Name, doc, "set the board power to "+fmt.Sprint(100+i%200)+" W")
		require.NoError(t, err)
		heads, docs = append(heads, h.Revision), append(docs, doc)
	}
	each := (sizeOf(t, s) - before) / int64(edits)
	assert.Less(t, each, int64(1000), "bytes an edit, of a rig of %d", len(doc))
	require.NoError(t, s.Close())
	s = open(t, path)
	longest := time.Duration(0)
	for i := 0; i < edits; i += 7 {
		began := time.Now()
		back, err := s.Revision(ctx, id, heads[i])
		longest = max(longest, time.Since(began))
		require.NoError(t, err)
		require.Equal(t, docs[i], back)
	}
	t.Logf("%d edits of %d bytes: %d bytes each; going back %v at the longest", edits, len(doc), each, longest)
	for range 120 { // past two whole documents
		require.NoError(t, s.Undo(ctx, id, h.Revision))
		h, err = s.Load(ctx, RigKind, id)
		require.NoError(t, err)
	}
	assert.Equal(t, docs[edits-120], h.Doc)
	h, err = s.Write(ctx, id, h.Revision, "other", []byte(`{"name":"another way"}`), "another way")
	require.NoError(t, err)
	h, err = s.Write(ctx, id, h.Revision, "other", []byte(`{"name":"another way, on"}`), "on")
	require.NoError(t, err)
	back, err := s.Revision(ctx, id, slices.Max(heads))
	require.NoError(t, err)
	assert.Equal(t, docs[edits], back, "the way that was left is whole")
	faults, err := s.Check(ctx, func(string, []byte) error { return nil })
	require.NoError(t, err)
	assert.Empty(t, faults)
}

func sizeOf(t *testing.T, s *Store) (size int64) {
	require.NoError(t, s.read.db.QueryRow("SELECT page_count * page_size FROM pragma_page_count, pragma_page_size").Scan(&size))
	return size
}

// TestCheckLooksAtAllOfIt: each piece that is spoiled is named.
func TestCheckLooksAtAllOfIt(t *testing.T) {
	ctx, fine := t.Context(), func(string, []byte) error { return nil }
	for spoil, says := range map[string]string{
		"SELECT 1": "",
		"UPDATE pictures SET image = x'00' WHERE thing = 1":                                                            "picture 1 of rig 1 is damaged",
		"UPDATE captures SET file = substr(file, 1, 20) WHERE thing = 2":                                               "capture evening.csv of rig 2 is damaged",
		"UPDATE recordings SET packed = x'1f8b' WHERE thing = 1":                                                       "the recording of rig 1 is damaged",
		"UPDATE things SET head = 7 WHERE id = 2":                                                                      "it is missing",
		"UPDATE things SET head = (SELECT head FROM things WHERE id = 1) WHERE id = 2":                                 "it is of another thing",
		"UPDATE revisions SET parent = id WHERE thing = 1 AND number = 2":                                              "made from itself",
		"UPDATE revisions SET parent = 8 WHERE thing = 1 AND number = 2":                                               "which is missing",
		"UPDATE revisions SET parent = (SELECT MIN(id) FROM revisions) WHERE thing = 2 AND number = 2":                 "one of another thing",
		"UPDATE revisions SET doc = replace(doc, 'format', 'tamrof') WHERE thing = 1 AND number = 1":                   "checksum differs",
		"INSERT INTO shown SELECT id, head, 'x' FROM things WHERE id = 1":                                              "checksum differs",
		"UPDATE revisions SET label = 'x' WHERE thing = 3":                                                             "card 3",
		"DELETE FROM things WHERE id = 2":                                                                              "is of thing 2, which is missing",
		"UPDATE revisions SET splice = x'ffffff7f00', depth = 1, doc = '' WHERE thing = 1 AND parent IS NOT NULL":      "it cannot be read",
		"UPDATE revisions SET splice = x'0000', depth = 1, doc = '' WHERE id = (SELECT head FROM things WHERE id = 2)": "checksum differs",
	} {
		path := filepath.Join(t.TempDir(), "k.db")
		copyOf(t, "testdata/00-before.sqlite", path)
		s := open(t, path)
		_, err := s.write.db.Exec("PRAGMA foreign_keys = OFF; " + spoil)
		require.NoError(t, err, spoil)
		faults, err := s.Check(ctx, fine)
		require.NoError(t, err)
		if says == "" {
			assert.Empty(t, faults)
			continue
		}
		assert.Contains(t, fmt.Sprint(faults), says, spoil)
		require.NoError(t, s.Close())
	}
}

func copyOf(t *testing.T, from, to string) {
	text, err := os.ReadFile(from)
	require.NoError(t, err)
	require.NoError(t, os.WriteFile(to, text, 0o600))
}

// TestFilesOfEveryVersion that landed open, whole, with all they held.
func TestFilesOfEveryVersion(t *testing.T) {
	ctx := t.Context()
	files, err := filepath.Glob("testdata/*.sqlite")
	require.NoError(t, err)
	require.NotEmpty(t, files)
	for _, file := range files {
		path := filepath.Join(t.TempDir(), "k.db")
		copyOf(t, file, path)
		s := open(t, path)
		faults, err := s.Check(ctx, func(string, []byte) error { return nil })
		require.NoError(t, err)
		assert.Empty(t, faults, file)
		rigs, _, err := s.List(ctx, Query{Kind: RigKind, Text: "field 1"})
		require.NoError(t, err)
		require.Len(t, rigs, 1, file)
		h, err := s.Load(ctx, RigKind, rigs[0].ID)
		require.NoError(t, err)
		assert.True(t, h.CanUndo && h.CanRedo)
		require.NoError(t, s.Redo(ctx, h.ID, h.Revision))
		h, err = s.Load(ctx, RigKind, h.ID)
		require.NoError(t, err)
		h, err = s.Write(ctx, h.ID, h.Revision, "on", h.Doc, "on")
		require.NoError(t, err, "and goes on")
		pictures, err := s.PicturesOfRig(ctx, h.ID)
		require.NoError(t, err)
		assert.Len(t, pictures, 1)
		assert.Contains(t, recording(t, s, h.ID), "1,20")
		name, _, err := s.ColumnOf(ctx, "a")
		require.NoError(t, err)
		assert.Equal(t, "b", name)
	}
	rigs, err := filepath.Glob("testdata/*.kolvan.json")
	require.NoError(t, err)
	require.Len(t, rigs, len(files))
	for _, file := range rigs {
		text, err := os.ReadFile(file)
		require.NoError(t, err)
		_, err = rig.Decode(text)
		assert.NoError(t, err, file)
	}
}
