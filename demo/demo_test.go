package demo_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kolvan/core/assess"
	"kolvan/core/reference"
	"kolvan/demo"
)

// TestEachRigHasItsOwnTrouble: the four Fernhill rigs show what they are there
// to show.
func TestEachRigHasItsOwnTrouble(t *testing.T) {
	ref, err := reference.Load()
	require.NoError(t, err)
	rigs, err := demo.Rigs()
	require.NoError(t, err)
	troubles := map[string][]string{
		"Dome-shed stacker": {
			"danger power.connector", "danger power.slot-limit", "blocked boot.displaced", "blocked power.turn-on",
		},
		"Ticket-desk all-in-one":   {"risk link.width", "risk net.displaced", "risk work.memory"},
		"Projector tower":          {"blocked fit.card", "blocked power.unfed", "risk power.headroom"},
		"Field kit":                {"danger power.connector", "danger power.lead", "blocked power.total", "blocked power.rail"},
		"Dome-shed stacker, built": {"risk gate.listing", "note work.gain"},
		"Archive desk":             {"unknown power.board", "note power.board"},
	}
	assert.Len(t, rigs, len(troubles))
	for _, r := range rigs {
		report := assess.Rig(r, ref)
		var said []string
		for _, f := range report.Findings {
			said = append(said, f.Level.String()+" "+f.Rule)
		}
		assert.Subset(t, said, troubles[r.Name], r.Name)
	}
}
