package instruments_test

import (
	"net"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kolvan/core/meter"
	"kolvan/core/units"
	"kolvan/instruments"
)

var draw = instruments.Draw{Idle: 40, Loaded: 160, Spike: 300, Trips: 400, Seed: 7}

func played(p *instruments.Player, figures int) (sum units.Watt, peak units.Watt) {
	for range figures {
		w := p.Next()
		sum, peak = sum+w, max(peak, w)
	}
	return sum / units.Watt(figures), peak
}

func TestPlayerFollowsTheLoad(t *testing.T) {
	p := instruments.NewPlayer(draw)
	mean, _ := played(p, 200)
	assert.InDelta(t, 40, float64(mean), 1)
	require.NoError(t, p.Set("full"))
	played(p, 20)
	mean, _ = played(p, 200)
	assert.InDelta(t, 160, float64(mean), 4)
	require.NoError(t, p.Set("heaviest"))
	_, peak := played(p, 200)
	assert.Greater(t, float64(peak), 210.0, "half of a spike shows in a figure of a fifth of a second")
	require.ErrorContains(t, p.Set("harder"), "idle, half, full, heaviest")

	again, other := instruments.NewPlayer(draw), instruments.NewPlayer(draw)
	for range 50 {
		require.Equal(t, again.Next(), other.Next(), "the same seed shows the same")
	}
}

func TestPlayerTripsOnASpikeBeyondTheSupply(t *testing.T) {
	weak := draw
	weak.Trips = 280
	p := instruments.NewPlayer(weak)
	require.NoError(t, p.Set("heaviest"))
	played(p, 200)
	mean, _ := played(p, 20)
	assert.Less(t, float64(mean), 2.0, "it is off")
	p.Reset()
	mean, _ = played(p, 20)
	assert.InDelta(t, 40, float64(mean), 2)
}

func TestWallMeterOverLoopback(t *testing.T) {
	on, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	ended := make(chan error)
	go func() { ended <- instruments.Serve(t.Context(), on) }()
	m, err := instruments.CallWallMeter(t.Context(), on.Addr().String())
	require.NoError(t, err)
	require.NoError(t, m.Play(draw))
	record := meter.Record{}
	for range 5 {
		s, err := m.Next()
		require.NoError(t, err)
		record.Samples = append(record.Samples, s)
	}
	assert.InDelta(t, 40, float64(record.Figures().Mean), 3)
	assert.InDelta(t, 0.8, float64(record.Figures().Seconds), 1e-9)
	for command, says := range map[string]string{"load harder": "no load", "dance": "no command", "play idle=9": "play wants idle"} {
		require.NoError(t, m.Tell(command))
		for err = nil; err == nil; _, err = m.Next() {
		}
		assert.ErrorContains(t, err, says)
	}
	require.NoError(t, m.Close())
	require.NoError(t, on.Close())
	require.NoError(t, <-ended)

	_, err = instruments.CallWallMeter(t.Context(), on.Addr().String())
	require.ErrorContains(t, err, "calling the wall meter")
}
