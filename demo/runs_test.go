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
	"kolvan/core/units"
	"kolvan/demo"
	"kolvan/instruments"
)

// played is a run of the demo, and what the frame source played for it.
type played struct {
	name          string
	side          rig.RunSide
	width, height int
	terms         proof.Terms
	seconds       float64
	seed          uint64
	when          string
	told          func(*rig.Run)
}

var plays = map[string]struct {
	use  string
	runs []played
}{
	"Ticket-desk all-in-one": {"ticket films on the hall screen", []played{
		{"own graphics", "before", 1920, 1080, proof.Terms{C: 14, G: 33}, 60, 11, "2026-10-02T18:10:00Z", nil},
		{"the card in the workshop's tower", "elsewhere", 1920, 1080, proof.Terms{C: 9, G: 10, L: 2}, 60, 11, "2026-10-02T19:25:00Z", nil},
	}},
	"Dome-shed stacker, built": {"live stacking", []played{
		{
			"host alone, first", "before", 1920, 1080, proof.Terms{C: 12, G: 31}, 120, 20, "2026-10-16T19:02:00Z",
			func(r *rig.Run) { r.First = rig.Of(true) },
		},
		{"host alone, second", "before", 1920, 1080, proof.Terms{C: 12, G: 30}, 120, 21, "2026-10-16T19:06:00Z", nil},
		{
			"host alone, third", "before", 1920, 1080, proof.Terms{C: 12, G: 30}, 120, 22, "2026-10-16T19:10:00Z",
			func(r *rig.Run) { r.Wall = rig.Of[units.Watt](74) },
		},
		{
			"with the card, first", "after", 1920, 1080, proof.Terms{C: 8, G: 9.6, L: 4.2}, 120, 23, "2026-10-23T20:31:00Z",
			func(r *rig.Run) { r.First = rig.Of(true) },
		},
		{"with the card, second", "after", 1920, 1080, proof.Terms{C: 8, G: 9.1, L: 4.2}, 120, 24, "2026-10-23T20:35:00Z", nil},
		{
			"with the card, third", "after", 1920, 1080, proof.Terms{C: 8, G: 9.1, L: 4.2}, 120, 25, "2026-10-23T20:39:00Z",
			func(r *rig.Run) { r.Wall, r.Board = rig.Of[units.Watt](241), rig.Of[units.Watt](154) },
		},
		{"with the card, at 720 lines", "after", 1280, 720, proof.Terms{C: 8, G: 4.6, L: 4.2}, 120, 26, "2026-10-23T20:44:00Z", nil},
	}},
}

// run plays a run and reads it as a person's own would be.
func (p *played) run(t *testing.T, use string) rig.Run {
	var table bytes.Buffer
	require.NoError(t, instruments.WriteFrames(&table, instruments.FrameSource{Terms: p.terms, Seconds: p.seconds, Seed: p.seed}, "stamps"))
	sum := sha256.Sum256(table.Bytes())
	capture, err := proof.Read(&table, proof.Options{})
	require.NoError(t, err)
	when, err := time.Parse(time.RFC3339, p.when)
	require.NoError(t, err)
	run := proof.RunOf(capture.Of(""), hex.EncodeToString(sum[:]), when, 1)
	run.Name, run.Side, run.Use = p.name, rig.Of(p.side), use
	run.Width, run.Height = rig.Of(p.width), rig.Of(p.height)
	if p.told != nil {
		p.told(&run)
	}
	return run
}

// TestRunsComeFromTheInstruments: the runs of the demo are what the simulated frame source
// plays.
func TestRunsComeFromTheInstruments(t *testing.T) {
	rigs, err := demo.Rigs()
	require.NoError(t, err)
	for _, r := range rigs {
		of := plays[r.Name]
		require.Len(t, r.Runs, len(of.runs), r.Name)
		for i := range of.runs {
			assert.Equal(t, of.runs[i].run(t, of.use), r.Runs[i])
		}
	}
}
