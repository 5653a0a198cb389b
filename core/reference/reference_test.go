package reference

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kolvan/core/rig"
)

func load(t *testing.T) *Tables {
	ref, err := Load()
	require.NoError(t, err)
	return ref
}

func TestEveryRowHasItsTrustAndSource(t *testing.T) {
	ref := load(t)
	var origins []Origin
	for _, r := range ref.Generations {
		origins = append(origins, r.Origin)
	}
	for _, r := range ref.Connectors {
		origins = append(origins, r.Origin)
	}
	for _, r := range ref.Matings {
		origins = append(origins, r.Origin)
	}
	for _, r := range ref.Planning {
		origins = append(origins, r.Origin)
	}
	for _, o := range origins {
		assert.Contains(t, []Trust{"S", "T", "P"}, o.Trust)
		assert.NotEmpty(t, o.Source)
	}
	for _, word := range rig.Connector("").Choices() {
		assert.NotNil(t, ref.Connector(rig.Connector(word)), word)
	}
}

func TestMateCountsTheContactsActuallyMated(t *testing.T) {
	ref := load(t)
	for _, c := range []struct {
		plug, socket rig.Connector
		plan, rating float64 // W at 12 V
		contacts     int
	}{
		{"card-6", "card-6", 75, 75, 3}, {"card-8", "card-8", 150, 150, 3}, {"card-6", "card-8", 75, 75, 3}, {"card-8", "card-6", 75, 75, 3}, {"cpu-8", "cpu-8", 235, 336, 4},
		{"cpu-4", "cpu-8", 130, 168, 2}, {"main-24", "main-24", 144, 144, 2}, {"main-20", "main-24", 72, 72, 1}, {"main-24", "main-20", 72, 72, 1}, {"disk-15", "disk-15", 54, 54, 3},
		{"peripheral-4", "peripheral-4", 84, 132, 1}, {"small-disk-4", "small-disk-4", 24, 24, 1}, {"card-16", "card-16", 600, 600, 6}, {"cpu-8", "card-8", 0, 0, 0},
	} {
		cap, ok := ref.Mate(c.plug, c.socket)
		require.True(t, ok, "%s in %s", c.plug, c.socket)
		assert.InDelta(t, c.plan, float64(cap.Plan.At(12)), 1e-9, "%s in %s", c.plug, c.socket)
		assert.InDelta(t, c.rating, float64(cap.Rating.At(12)), 1e-9, "%s in %s", c.plug, c.socket)
		assert.Equal(t, c.contacts, cap.Contacts, "%s in %s", c.plug, c.socket)
	}
	_, ok := ref.Enters("disk-15", "card-8")
	assert.False(t, ok)
}
