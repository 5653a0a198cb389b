package demo_test

import (
	"bytes"
	"crypto/sha256"
	"encoding/hex"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kolvan/core/proof"
	"kolvan/core/rig"
	"kolvan/demo"
	"kolvan/instruments"
)

// TestRunsComeFromTheInstruments: the runs of the ticket desk are what the simulated frame
// source plays.
func TestRunsComeFromTheInstruments(t *testing.T) {
	rigs, err := demo.Rigs()
	require.NoError(t, err)
	desk := rigs[1]
	for i, played := range []struct {
		name  string
		side  rig.RunSide
		terms proof.Terms
		when  string
	}{
		{"own graphics", "before", proof.Terms{C: 14, G: 33}, "2026-10-02T18:10:00Z"},
		{"the card in the workshop's tower", "elsewhere", proof.Terms{C: 9, G: 10, L: 2}, "2026-10-02T19:25:00Z"},
	} {
		var table bytes.Buffer
		require.NoError(t, instruments.WriteFrames(&table, instruments.FrameSource{Terms: played.terms, Seconds: 60, Seed: 11}, "stamps"))
		sum := sha256.Sum256(table.Bytes())
		capture, err := proof.Read(&table, proof.Options{})
		require.NoError(t, err)
		when, err := time.Parse(time.RFC3339, played.when)
		require.NoError(t, err)
		run := proof.RunOf(capture.Of(""), hex.EncodeToString(sum[:]), when, 1)
		run.Name, run.Side, run.Use = played.name, rig.Of(played.side), "ticket films on the hall screen"
		run.Width, run.Height = rig.Of(1920), rig.Of(1080)
		require.Greater(t, len(desk.Runs), i)
		assert.Equal(t, run, desk.Runs[i])
	}
}
