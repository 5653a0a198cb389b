package carry_test

import (
	"html"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kolvan/core/carry"
	"kolvan/core/rig"
	"kolvan/core/units"
	"kolvan/demo"
)

func page(doc, lacks string) string {
	return "<!DOCTYPE html><html><body><p>x</p><template id=other>{}</template><template data-without=\"" + lacks + "\" id=\"" + carry.ID +
		"\">" +
		html.EscapeString(doc) + "</template><p>y</p></body></html>"
}

// TestARigComesBackOutOfAPage whole, whatever its texts hold.
func TestARigComesBackOutOfAPage(t *testing.T) {
	rigs, err := demo.Rigs()
	require.NoError(t, err)
	for _, r := range rigs {
		r.Name = `</template><script>alert("1")</script>&amp; ` + r.Name
		doc, lacks, err := carry.Of(r, nil)
		require.NoError(t, err)
		assert.Empty(t, lacks)
		back, lacks, err := carry.ReadAny(strings.NewReader(page(string(doc), "")))
		require.NoError(t, err)
		assert.Empty(t, lacks)
		assert.Equal(t, r, back)
		plain, _, err := carry.ReadAny(strings.NewReader("\ufeff \n" + string(doc)))
		if assert.NoError(t, err) {
			assert.Equal(t, r, plain, "a rig file is read as it is")
		}
	}
}

// TestWhatIsLeftOutIsGone: each part of a sheet takes its facts with it, and what is left is a
// rig that can be read.
func TestWhatIsLeftOutIsGone(t *testing.T) {
	whole := func() *rig.Rig {
		rigs, err := demo.Rigs()
		require.NoError(t, err)
		r := rigs[4] // as built: it has runs, readings, a diary
		r.Brief.Living.Agree = []rig.Agreement{{Name: "Ada"}}
		r.Route.Readings = append(r.Route.Readings, rig.Reading{By: "Ada"})
		r.LoadReadings = append(r.LoadReadings, rig.LoadReading{By: "Ada"})
		r.Build.Tries, r.Diary = []rig.Try{{Remark: "it was dark"}}, []rig.DiaryLine{{Text: "warm"}}
		r.Acknowledged = []rig.Acknowledgement{{Rule: "power.wall", Where: "/supplies/0", Reason: "read"}}
		r.Supplies[0].Board.Amount = rig.Of(units.Money(4))
		return r
	}
	has := func(doc []byte, word string) bool { return strings.Contains(string(doc), word) }
	for part, words := range map[string][]string{
		"costs": {`"price"`, `"owned"`, `"budget"`, `"ledger"`, `"energy_price_kwh"`}, "names": {"Ada"}, "diary": {"warm"},
		"tries": {"it was dark"},
		"runs":  {`"runs"`}, "found": {`"readings"`}, "steps": {`"done"`}, "open": {`"acknowledged"`}, "power": {`"supplies"`, `"leads"`},
		"fit": {`"box"`},
	} {
		before, _, err := carry.Of(whole(), nil)
		require.NoError(t, err)
		doc, lacks, err := carry.Of(whole(), []string{part, "plugs", part})
		require.NoError(t, err)
		assert.Equal(t, []string{part}, lacks)
		for _, word := range words {
			assert.True(t, part == "fit" || has(before, word), "%s had %s", part, word)
			assert.False(t, has(doc, word), "%s takes %s", part, word)
		}
		back, told, err := carry.Read(strings.NewReader(page(string(doc), part+" nonsense")))
		require.NoError(t, err, part)
		assert.Equal(t, []string{part}, told)
		assert.Equal(t, whole().Card.Name, back.Card.Name)
	}
	assert.Equal(t, ", without costs, names", carry.LacksWords([]string{"costs", "names"}))
}

// TestUnnamed: parts go by what they are, and every lead still joins what it joined.
func TestUnnamed(t *testing.T) {
	rigs, err := demo.Rigs()
	require.NoError(t, err)
	for _, r := range rigs {
		own, err := carry.Unnamed(r)
		require.NoError(t, err)
		require.NoError(t, rig.Validate(own))
		doc, _, err := carry.Of(own, []string{carry.Costs, carry.Names, "diary"})
		require.NoError(t, err)
		for _, name := range []string{r.Host.Name, r.Card.Name, r.Supplies[0].Name} {
			assert.False(t, strings.Contains(string(doc), name), name)
		}
		for i := range r.Leads {
			assert.Len(t, own.Leads[i].To, len(r.Leads[i].To))
		}
	}
}

// TestPagesWithoutARig are refused, and so is what stands in the template and is none.
func TestPagesWithoutARig(t *testing.T) {
	for text, says := range map[string]string{
		"<p>nothing": "carries no rig", page("{", ""): "", page(`{"format":"kolvan-rig/9","name":"x"}`, ""): "kolvan-rig/1",
		"<template id=kolvan-rig>{}": "carries no rig", "<" + strings.Repeat("a", 17<<20): "carries no rig",
	} {
		_, _, err := carry.ReadAny(strings.NewReader(text))
		if assert.Error(t, err) {
			assert.Contains(t, err.Error(), says)
		}
	}
}
