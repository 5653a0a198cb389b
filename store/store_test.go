package store

import (
	"context"
	"path/filepath"
	"sync"
	"testing"
	"testing/fstest"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func open(t testing.TB, path string) *Store {
	s, err := Open(context.Background(), path)
	require.NoError(t, err)
	t.Cleanup(func() { _ = s.Close() })
	return s
}

func TestUndoAndRedoSurviveARestart(t *testing.T) {
	ctx, path := context.Background(), filepath.Join(t.TempDir(), "k.db")
	s := open(t, path)
	id, err := s.Create(ctx, "one", []byte(`{"name":"one"}`), "started")
	require.NoError(t, err)
	load := func() Head {
		h, err := s.Load(ctx, id)
		require.NoError(t, err)
		return h
	}
	for _, name := range []string{"two", "three"} {
		written, err := s.Write(ctx, id, load().Revision, name, []byte(`{"name":"`+name+`"}`), "rename")
		require.NoError(t, err)
		assert.Equal(t, load(), written, "what is written is what is loaded")
	}
	require.NoError(t, s.Undo(ctx, id, load().Revision))
	require.NoError(t, s.Close())

	s = open(t, path)
	h := load()
	assert.JSONEq(t, `{"name":"two"}`, string(h.Doc))
	assert.True(t, h.CanUndo && h.CanRedo)
	require.NoError(t, s.Redo(ctx, id, h.Revision))
	assert.JSONEq(t, `{"name":"three"}`, string(load().Doc))
	assert.ErrorIs(t, s.Redo(ctx, id, load().Revision), ErrNothing)
	rigs, err := s.Rigs(ctx, false)
	require.NoError(t, err)
	assert.Equal(t, "three", rigs[0].Name, "lists follow undo and redo")

	require.NoError(t, s.Undo(ctx, id, load().Revision))
	_, err = s.Write(ctx, id, load().Revision, "other", []byte(`{"name":"other"}`), "another way")
	require.NoError(t, err)
	assert.False(t, load().CanRedo, "a new change after undo is the newest")
	assert.Equal(t, 4, load().Number)
}

// TestOneOfManyWritersWins: of changes made from the same revision one is kept,
// the others hear of it.
func TestOneOfManyWritersWins(t *testing.T) {
	ctx, s := context.Background(), open(t, filepath.Join(t.TempDir(), "k.db"))
	id, err := s.Create(ctx, "one", []byte(`{"name":"one"}`), "started")
	require.NoError(t, err)
	base, err := s.Load(ctx, id)
	require.NoError(t, err)
	results := make([]error, 16)
	var all sync.WaitGroup
	for i := range results {
		all.Go(func() { _, results[i] = s.Write(ctx, id, base.Revision, "n", []byte(`{"name":"n"}`), "change") })
	}
	all.Wait()
	kept := 0
	for _, err := range results {
		var conflict *Conflict
		if err == nil {
			kept++
		} else {
			assert.ErrorAs(t, err, &conflict)
		}
	}
	assert.Equal(t, 1, kept)
}

func TestDeleteIsUndone(t *testing.T) {
	ctx, s := context.Background(), open(t, filepath.Join(t.TempDir(), "k.db"))
	id, err := s.Create(ctx, "one", []byte(`{"name":"one"}`), "started")
	require.NoError(t, err)
	require.NoError(t, s.SetDeleted(ctx, id, true))
	h, err := s.Load(ctx, id)
	require.NoError(t, err)
	_, err = s.Write(ctx, id, h.Revision, "x", []byte(`{}`), "x")
	assert.ErrorIs(t, err, ErrNotFound, "a deleted rig does not change")
	gone, err := s.Rigs(ctx, true)
	require.NoError(t, err)
	assert.Len(t, gone, 1)
	require.NoError(t, s.SetDeleted(ctx, id, false))
	_, err = s.Write(ctx, id, h.Revision, "x", []byte(`{}`), "x")
	assert.NoError(t, err)
	assert.ErrorIs(t, s.SetDeleted(ctx, 99, true), ErrNotFound)
}

func TestCopyBeforeMigration(t *testing.T) {
	ctx, path := context.Background(), filepath.Join(t.TempDir(), "k.db")
	s := open(t, path)
	_, err := s.Create(ctx, "kept", []byte(`{"name":"kept"}`), "started")
	require.NoError(t, err)
	require.NoError(t, s.Close())
	assert.NoFileExists(t, path+".before-1", "a new file has nothing to copy")

	first, err := migrations.ReadFile("migrations/00001_start.sql")
	require.NoError(t, err)
	newer, err := openWith(ctx, path, fstest.MapFS{"00001_start.sql": {Data: first}, "00002_more.sql": {Data: []byte("-- +goose Up\nUPDATE rigs SET name = 'lost';\n")}})
	require.NoError(t, err)
	require.NoError(t, newer.Close())

	copied, err := Open(ctx, path+".before-2")
	require.NoError(t, err)
	defer copied.Close()
	rigs, err := copied.Rigs(ctx, false)
	require.NoError(t, err)
	assert.Equal(t, "kept", rigs[0].Name)
	assert.Error(t, copied.Backup(ctx, path), "a copy never goes over another file")
}

func TestBins(t *testing.T) {
	ctx, s := context.Background(), open(t, filepath.Join(t.TempDir(), "k.db"))
	id, err := s.AddPart(ctx, BinPart{Kind: "card", Name: "mine", Doc: []byte(`{"name":"mine"}`)})
	require.NoError(t, err)
	require.NoError(t, s.WritePart(ctx, BinPart{ID: id, Name: "measured", Doc: []byte(`{"name":"measured"}`)}))
	require.NoError(t, s.SetPartDeleted(ctx, id, true))
	list, err := s.Bins(ctx, false)
	require.NoError(t, err)
	assert.Empty(t, list)
	require.NoError(t, s.SetPartDeleted(ctx, id, false))
	p, err := s.BinPart(ctx, id)
	require.NoError(t, err)
	assert.Equal(t, "measured", p.Name)
}
