package main

import (
	"encoding/json"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kolvan/instruments"
)

// TestRead holds listings against a plan, and refuses what is none.
func TestRead(t *testing.T) {
	var listing strings.Builder
	bus := instruments.Bus{PortLanes: 4, PortGen: 3, CardLanes: 8, CardGen: 5, Lanes: 4, Gen: 3, Payload: 128}
	require.NoError(t, instruments.WriteListing(&listing, bus, "loaded", "one-lane"))
	file := filepath.Join(t.TempDir(), "listing.txt")
	require.NoError(t, os.WriteFile(file, []byte(listing.String()), 0o600))
	bin := built(t)
	out, _, code := kolvan(t, bin, "", "read", "--json", "--rig", "../../demo/rigs/dome_shed_stacker.json", file)
	assert.Equal(t, 0, code)
	var got struct {
		Format, Card, Load string
		Against            []struct {
			Element string
			Differs bool
		}
		Findings []struct{ Rule, Level string }
	}
	require.NoError(t, json.Unmarshal([]byte(out), &got))
	assert.Equal(t, "kolvan-reading/1", got.Format)
	assert.Equal(t, "01:00.0", got.Card)
	assert.Equal(t, "loaded", got.Load, "the listing says so")
	require.Len(t, got.Against, 6, "slot, three stages, card and the whole")
	assert.False(t, got.Against[0].Differs, "the port is as surveyed")
	assert.True(t, got.Against[5].Differs)
	require.NotEmpty(t, got.Findings)
	assert.Equal(t, "link.measured", got.Findings[0].Rule)
	require.NoError(t, os.WriteFile(file, []byte{0, 1, 2}, 0o600))
	_, _, code = kolvan(t, bin, "", "read", file)
	assert.Equal(t, 2, code)
}
