package parts_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kolvan/core/parts"
	"kolvan/core/rig"
)

func card(t *testing.T, doc string) *rig.Card {
	part, err := parts.Decode(parts.Card, []byte(doc))
	require.NoError(t, err)
	return part.(*rig.Card)
}

// What is missing is taken, what was measured here stays, two figures make a range with both
// named, and money is nobody else's.
func TestWhatAnotherLearnedIsTakenIn(t *testing.T) {
	mine := card(t, `{"name": "Skua", "lanes": 16, "power_w": {"value": 150, "source": "measured"}, "length_mm": {"value": 280, "source": "papers"},`+
		` "price": 90, "bracket": {"height": "full"}}`)
	theirs := card(t, `{"name": "Skua of a friend", "lanes": 8, "power_w": 170, "length_mm": {"value": 284, "source": "listing"}, "mass_g": 900,`+
		` "plugs": [{"name": "A", "connector": "card-8"}], "price": 50, "owned": true, "bracket": {"height": "half"}}`)
	list, err := parts.Merge(mine, theirs)
	require.NoError(t, err)
	assert.Equal(t, "Skua", mine.Name)
	assert.InDelta(t, 150, float64(mine.Power.Value), 0, "measured here")
	assert.InDelta(t, 282, float64(mine.Length.Value), 0)
	assert.InDelta(t, 2, mine.Length.Tolerance, 1e-9)
	assert.Equal(t, "280 mm (papers) here, 284 mm (listing) elsewhere", mine.Length.Remark)
	assert.InDelta(t, 900, float64(mine.Mass.Value), 0)
	assert.Equal(t, rig.Connector("card-8"), mine.Plugs[0].Connector.Value)
	assert.Equal(t, 16, mine.Lanes.Value, "sizes do not lie between each other")
	assert.Equal(t, rig.Height("full"), mine.Bracket.Height.Value)
	assert.InDelta(t, 90, float64(mine.Amount.Value), 0)
	assert.False(t, mine.Owned.Known)
	taken := map[string]string{}
	for _, d := range list {
		taken[d.At] = d.Taken
	}
	assert.Equal(t, map[string]string{
		"/lanes": parts.Mine, "/power_w": parts.Mine, "/length_mm": parts.Both, "/mass_g": parts.Theirs, "/plugs": parts.Theirs,
		"/bracket/height": parts.Mine,
	}, taken)
	again, err := parts.Merge(mine, card(t, `{"name": "x", "plugs": [{"name": "A", "connector": "card-6"}]}`))
	require.NoError(t, err)
	assert.Equal(t, "/plugs/0/connector", again[0].At, "entry by entry, where both lists are as long")
	_, err = parts.Merge(mine, new(rig.Lead))
	assert.Error(t, err)
}

// A part in a file of its own is read whole or refused with a word.
func TestAPartInAFileOfItsOwn(t *testing.T) {
	file, err := parts.ReadFile([]byte(`{"format": "kolvan-part/1", "kind": "card", "part": {"name": "Skua"}, "by": "me"}`))
	require.NoError(t, err)
	assert.Equal(t, parts.Card, file.Kind)
	for text, says := range map[string]string{
		`{"format": "kolvan-part/2"}`:                                                           "kolvan-part/1",
		`{"format": "kolvan-part/1", "kind": "tower", "part": {}}`:                              "host, card, stage, supply or lead",
		`{"format": "kolvan-part/1", "kind": "card", "part": {"name": "x"}, "more": 1}`:         "more",
		`{"format": "kolvan-part/1", "kind": "card", "part": {"name": "x", "power_w": -1}}`:     "power_w",
		`{"format": "kolvan-part/1", "kind": "card", "part": {"name": "x", "nothing": "here"}}`: "nothing",
		`no json`: "kolvan-part/1",
	} {
		_, err := parts.ReadFile([]byte(text))
		assert.ErrorContains(t, err, says, text)
	}
}
