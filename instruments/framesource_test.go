package instruments

import (
	"bytes"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kolvan/core/proof"
)

// TestFrameSource: every style of table reads back to what the terms say, the same seed
// plays the same frames, a cap holds, and what is no run is refused.
func TestFrameSource(t *testing.T) {
	source := FrameSource{Terms: proof.Terms{C: 12, G: 8, L: 3}, Seconds: 40, Seed: 7}
	play := func(s FrameSource, style string) (*proof.Series, string) {
		var table bytes.Buffer
		require.NoError(t, WriteFrames(&table, s, style))
		text := table.String()
		capture, err := proof.Read(&table, proof.Options{})
		require.NoError(t, err, style)
		return capture.Of(""), text
	}
	for _, style := range FrameStyles {
		run, text := play(source, style)
		_, again := play(source, style)
		assert.Equal(t, text, again, style)
		stats := run.Stats(1)
		assert.InDelta(t, source.Frame(overlap), stats.Median, 0.1, style)
		assert.Less(t, *stats.Low1Mean, *stats.Low1P99+1e-9, "stalls weigh in the mean of the slowest")
		assert.Zero(t, stats.Dropped, style)
	}
	held := source
	held.Cap = 20
	capped, _ := play(held, "times")
	assert.InDelta(t, 20, capped.Stats(1).Median, 1e-9)
	warm := source
	warm.Terms, warm.Soak, warm.Seconds = proof.Terms{G: 10}, 0.3, 300
	soaked, _ := play(warm, "times")
	assert.Greater(t, soaked.Stats(1).Median, 12.0, "a warm card is slower")

	assert.ErrorContains(t, WriteFrames(&bytes.Buffer{}, source, "pie"), "times, stamps, passes")
	for _, wrong := range []FrameSource{
		{Seconds: 10}, {Terms: proof.Terms{C: 10}}, {Terms: proof.Terms{C: -10}, Seconds: 10},
		{Terms: proof.Terms{C: 10}, Seconds: 4000},
	} {
		assert.Error(t, WriteFrames(&bytes.Buffer{}, wrong, "times"))
	}
}
