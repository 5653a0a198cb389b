package store

import (
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// TestPictures stay with their step and their rig, in order, and one that is damaged is
// told from one that is not there.
func TestPictures(t *testing.T) {
	s := open(t, filepath.Join(t.TempDir(), "k.db"))
	for range 2 {
		_, err := s.Create(t.Context(), RigKind, "rig", []byte(`{}`), "made")
		require.NoError(t, err)
	}
	for _, image := range []string{"one", "two"} {
		require.NoError(t, s.KeepPicture(t.Context(), 1, "card", []byte(image)))
	}
	require.NoError(t, s.KeepPicture(t.Context(), 2, "card", []byte("other")))
	ids, err := s.PicturesOf(t.Context(), 1, "card")
	require.NoError(t, err)
	require.Len(t, ids, 2)
	image, err := s.Picture(t.Context(), 1, ids[1])
	require.NoError(t, err)
	assert.Equal(t, "two", string(image))
	_, err = s.Picture(t.Context(), 2, ids[1])
	assert.ErrorIs(t, err, ErrNotFound)
	none, err := s.PicturesOf(t.Context(), 1, "first-start")
	require.NoError(t, err)
	assert.Empty(t, none)

	require.NoError(t, s.inTx(t.Context(), func(tx *transaction) error {
		_, err := tx.ExecContext(t.Context(), "UPDATE pictures SET image = 'changed' WHERE id = ?", ids[0])
		return err
	}))
	_, err = s.Picture(t.Context(), 1, ids[0])
	assert.ErrorContains(t, err, "damaged")
	require.NoError(t, s.DropPicture(t.Context(), 1, ids[0]))
	_, err = s.Picture(t.Context(), 1, ids[0])
	assert.ErrorIs(t, err, ErrNotFound)
}
