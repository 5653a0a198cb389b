package instruments

import (
	"net"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kolvan/core/reading"
)

// TestProbeListsWhatRunsOnTheBus: what the stand-in lists is read as what it was
// told to play, idle and loaded, healthy and with faults.
func TestProbeListsWhatRunsOnTheBus(t *testing.T) {
	on, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	go func() { _ = Serve(t.Context(), on) }()
	bus := Bus{PortLanes: 4, PortGen: 3, CardLanes: 8, CardGen: 4, Lanes: 4, Gen: 3, Payload: 256}
	for _, c := range []struct {
		load, fault string
		now         reading.Link
		errors      int
		card        string
	}{
		{"loaded", "none", reading.Link{Width: 4, Gen: 3}, 0, "01:00.0"},
		{"idle", "none", reading.Link{Width: 4, Gen: 1}, 0, "01:00.0"},
		{"loaded", "one-lane", reading.Link{Width: 1, Gen: 3}, 0, "01:00.0"},
		{"loaded", "fallback", reading.Link{Width: 4, Gen: 2}, 0, "01:00.0"},
		{"loaded", "errors", reading.Link{Width: 4, Gen: 3}, 3, "01:00.0"},
		{"loaded", "absent", reading.Link{}, 0, ""},
	} {
		text, err := ReadLinkProbe(t.Context(), on.Addr().String(), bus, c.load, c.fault)
		require.NoError(t, err)
		r, err := reading.Read(strings.NewReader(text), "")
		require.NoError(t, err, text)
		assert.Equal(t, c.now, r.Now(), "%s, %s", c.load, c.fault)
		assert.Equal(t, c.errors, r.Correctable(), c.fault)
		assert.Equal(t, c.card, r.Card, c.fault)
		assert.Equal(t, reading.Load(c.load), r.Load)
	}
	_, err = ReadLinkProbe(t.Context(), on.Addr().String(), Bus{}, "idle", "none")
	assert.ErrorContains(t, err, "no generation 0")
}
