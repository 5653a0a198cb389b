package whole_test

import (
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kolvan/internal/whole"
)

// TestWrite: the new text in the old one's place, for whom it is; what cannot be written leaves
// what was there.
func TestWrite(t *testing.T) {
	dir := t.TempDir()
	file := filepath.Join(dir, "k")
	for _, text := range []string{"one", "two"} {
		require.NoError(t, whole.Write(file, []byte(text), 0o600))
		raw, err := os.ReadFile(file)
		require.NoError(t, err)
		assert.Equal(t, text, string(raw))
	}
	info, err := os.Stat(file)
	require.NoError(t, err)
	assert.Equal(t, os.FileMode(0o600), info.Mode().Perm())
	require.NoError(t, os.Mkdir(file+".new", 0o700))
	require.Error(t, whole.Write(file, []byte("three"), 0o600))
	raw, err := os.ReadFile(file)
	require.NoError(t, err)
	assert.Equal(t, "two", string(raw))
	left, err := os.ReadDir(dir)
	require.NoError(t, err)
	assert.Len(t, left, 2, "nothing else lies there")
}
