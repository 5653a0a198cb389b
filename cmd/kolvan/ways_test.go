package main

import (
	"encoding/json"
	"os"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// TestWays prints whole ways, the best by the weights first, and says why none works.
func TestWays(t *testing.T) {
	bin := built(t)
	type way struct {
		From  string
		Worst *struct{ Level string }
		ToBuy []*float64 `json:"to_buy"`
		Patch []struct{ Op, Path string }
	}
	var got struct {
		Format string
		Tried  int
		Ways   []way
		Failed []struct{ Rule, Says string }
	}
	ask := func(wantCode int, args ...string) {
		out, _, code := kolvan(t, bin, "", append([]string{"ways", "--json"}, args...)...)
		require.Equal(t, wantCode, code)
		got.Ways, got.Failed = nil, nil
		require.NoError(t, json.Unmarshal([]byte(out), &got))
	}
	ask(0, "../../demo/rigs/dome_shed_stacker.json")
	assert.Equal(t, "kolvan-ways/1", got.Format)
	assert.Greater(t, got.Tried, 1000)
	require.NotEmpty(t, got.Ways)
	assert.Equal(t, "m2-a", got.Ways[0].From)
	assert.NotEmpty(t, got.Ways[0].Patch)
	assert.Len(t, got.Ways[0].ToBuy, 2)

	ask(0, "--weigh", "lanes=0,reversible=10", "../../demo/rigs/dome_shed_stacker.json")
	assert.Equal(t, "m2-b", got.Ways[0].From, "nothing has to move from there")

	ask(1, "../../demo/rigs/projector_tower.json")
	assert.Empty(t, got.Ways)
	require.GreaterOrEqual(t, len(got.Failed), 3)
	assert.Equal(t, "fit.card", got.Failed[0].Rule, "what stops the best of them")

	_, errs, code := kolvan(t, bin, "", "ways", "--weigh", "speed=1", "../../demo/rigs/field_kit.json")
	assert.Equal(t, 2, code)
	assert.Contains(t, errs, "lanes, certainty, cost, reversible or noise")
}

// TestWaysInWords: the same for a person, of several hosts, and of a file that is none.
func TestWaysInWords(t *testing.T) {
	bin := built(t)
	out, errs, code := kolvan(
		t, bin, "", "ways", "--hosts", "../../demo/rigs/ticket_desk.json", "../../demo/rigs/projector_tower.json",
		"no-such-file.json",
	)
	assert.Equal(t, 2, code)
	assert.Contains(t, errs, "no-such-file.json")
	for _, wanted := range []string{
		"Ticket-desk all-in-one", "combinations judged in", "not beaten by another", "wireless card → USB", "Projector tower",
		"Better on paper, and why they fail", "beaten by",
	} {
		assert.Contains(t, out, wanted)
	}
	rig, err := os.ReadFile("../../demo/rigs/field_kit.json")
	require.NoError(t, err)
	out, _, code = kolvan(t, bin, string(rig), "ways", "--own", "-")
	assert.Contains(t, []int{0, 1}, code)
	assert.Contains(t, out, "Field kit")
	out, _, code = kolvan(t, bin, "", "rules")
	assert.Equal(t, 0, code)
	assert.Contains(t, out, "link.no-pcie         route   blocked")
	assert.Contains(t, out, "e.g. m2-a carries SATA only, no PCIe.")
}
