package main

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kolvan/core/assess"
)

// TestVerdictForAPerson reads as a person at the bench would want it: the
// figures, the worst first, what clears it.
func TestVerdictForAPerson(t *testing.T) {
	ref, bins, err := tables()
	require.NoError(t, err)
	report, err := assessFile("../../demo/rigs/projector_tower.json", ref, bins, assess.UsualEffort)
	require.NoError(t, err)
	text := verdict(report)
	for _, line := range []string{
		"Projector tower\n===============",
		"  link                     x16, Gen 3, 12.87 GB/s net",
		"  pinch                    long slot",
		"  share of its rating      73.1 %",
		"  smallest gap             -3 mm",
		"BLOCKED  The card meets something  [fit.card at /chamber/covers/0]\n         The card meets drive cage by 3 mm.",
		"         → Use card Corvane 16G",
	} {
		assert.Contains(t, text, line)
	}
	assert.Less(t, strings.Index(text, "BLOCKED"), strings.Index(text, "RISK"))
	assert.Less(t, strings.Index(text, "RISK"), strings.Index(text, "NOTE"))
}

func TestVerdictSaysUnknown(t *testing.T) {
	ref, bins, err := tables()
	require.NoError(t, err)
	report, err := assessFile("testdata/bare.json", ref, bins, assess.UsualEffort)
	require.NoError(t, err)
	text := verdict(report)
	assert.Contains(t, text, "link                     unknown, unknown, unknown")
	assert.Contains(t, text, "UNKNOWN  The slot the route starts from")
	assert.NotContains(t, text, "BLOCKED")

	none := 0
	assert.Equal(t, "none: no PCIe reaches the card", linkWords(&assess.Figures{Width: &none}))
}

func TestRulesAreListed(t *testing.T) {
	list := rulesMarkdown()
	for _, name := range []string{"link.no-pcie", "link.form-mismatch", "link.width", "link.speed", "link.narrow-card", "boot.displaced",
		"net.displaced",
		"power.unfed", "power.slot-limit", "power.connector", "power.lead", "power.total", "power.rail", "power.headroom", "power.turn-on",
		"fit.card", "fit.tight", "fit.bracket", "brief.budget", "brief.stance", "work.memory", "work.encoder"} {
		assert.Contains(t, list, "| "+name+" |")
	}
}
