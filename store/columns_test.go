package store_test

import (
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kolvan/store"
)

// TestColumnsAreRemembered by their head, the last word counting, over a restart; what is
// read only remembers nothing new, and says so.
func TestColumnsAreRemembered(t *testing.T) {
	path := filepath.Join(t.TempDir(), "k.db")
	s, err := store.Open(t.Context(), path)
	require.NoError(t, err)
	name, unit, err := s.ColumnOf(t.Context(), "a\x1fb")
	require.NoError(t, err)
	assert.Empty(t, name+unit, "nobody named one yet")
	require.NoError(t, s.KeepColumn(t.Context(), "a\x1fb", "a", "ms"))
	require.NoError(t, s.KeepColumn(t.Context(), "a\x1fb", "b", "s"))
	require.NoError(t, s.KeepColumn(t.Context(), "other", "a", ""))
	require.NoError(t, s.Close())
	again, err := store.Open(t.Context(), path)
	require.NoError(t, err)
	defer again.Close()
	name, unit, err = again.ColumnOf(t.Context(), "a\x1fb")
	require.NoError(t, err)
	assert.Equal(t, [2]string{"b", "s"}, [2]string{name, unit})
	faults, err := again.CheckQuickly(t.Context())
	require.NoError(t, err)
	assert.Empty(t, faults)
}
