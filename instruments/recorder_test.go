package instruments_test

import (
	"context"
	"net"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kolvan/core/meter"
	"kolvan/instruments"
)

// TestRecorder: readers follow from any sample on, the load is passed on, and what
// was kept stays when the meter goes away, with the reason.
func TestRecorder(t *testing.T) {
	on, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	ctx, away := context.WithCancel(t.Context())
	go func() { _ = instruments.Serve(ctx, on) }()
	m, err := instruments.CallWallMeter(ctx, on.Addr().String())
	require.NoError(t, err)
	require.NoError(t, m.Play(draw))
	r := instruments.Record(t.Context(), m)
	assert.Equal(t, instruments.State{Running: true, Load: "idle"}, r.State())

	samples, running, more := r.From(0)
	for seen := len(samples); seen < 3; seen += len(samples) {
		require.True(t, running)
		<-more
		samples, running, more = r.From(seen)
	}
	assert.InDelta(t, 40, float64(r.Figures().Mean), 3)
	assert.InDelta(t, 40, float64(r.Lately(10)), 3)
	require.NoError(t, r.SetLoad("full"))
	assert.Equal(t, "full", r.State().Load)
	assert.Eventually(t, func() bool { return r.Lately(0) > 80 }, time.Minute, 20*time.Millisecond)

	away()
	assert.Eventually(t, func() bool { return !r.State().Running }, time.Minute, 20*time.Millisecond)
	assert.NotEmpty(t, r.State().Ended, "it says why")
	kept := r.State().Samples
	assert.Len(t, r.Record().Samples, kept)
	r.Stop()
	assert.Equal(t, kept, r.State().Samples)
}

func TestHoldOfATable(t *testing.T) {
	record, err := meter.Read(strings.NewReader("0,10\n1,30\n2,10\n"), "")
	require.NoError(t, err)
	r := instruments.Hold(record)
	assert.False(t, r.State().Running)
	assert.InDelta(t, 20, float64(r.Figures().Mean), 1e-9)
	samples, running, _ := r.From(99)
	assert.Empty(t, samples)
	assert.False(t, running)
}
