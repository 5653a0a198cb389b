package store

import (
	"crypto/sha256"
	"encoding/hex"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// TestCapturesComeBackAsTheyCame: packed in the data file, by rig and checksum; kept once,
// however often; one that is not what was kept any more is said to be so.
func TestCapturesComeBackAsTheyCame(t *testing.T) {
	ctx := t.Context()
	s := open(t, filepath.Join(t.TempDir(), "k.db"))
	one, err := s.Create(ctx, RigKind, "one", []byte(`{"format":"kolvan-rig/1","name":"one"}`), "new")
	require.NoError(t, err)
	file := []byte("frame_time_ms\n" + strings.Repeat("16.7\n", 20000))
	is := sha256.Sum256(file)
	sum := hex.EncodeToString(is[:])
	require.NoError(t, s.KeepCapture(ctx, one, sum, "evening.csv", file))
	require.NoError(t, s.KeepCapture(ctx, one, sum, "again.csv", file))
	names, err := s.CapturesOf(ctx, one)
	require.NoError(t, err)
	assert.Equal(t, map[string]string{sum: "evening.csv"}, names)
	name, back, err := s.Capture(ctx, one, sum)
	require.NoError(t, err)
	assert.Equal(t, "evening.csv", name)
	assert.Equal(t, file, back)
	_, _, err = s.Capture(ctx, one+1, sum)
	require.ErrorIs(t, err, ErrNotFound)
	_, err = s.write.ExecContext(ctx, "UPDATE captures SET file = x'1f8b0800'")
	require.NoError(t, err)
	_, _, err = s.Capture(ctx, one, sum)
	assert.ErrorContains(t, err, "damaged")
}
