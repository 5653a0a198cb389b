package brief

import (
	"testing"

	jsonpatch "github.com/evanphx/json-patch/v5"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kolvan/core/assess"
	"kolvan/core/rig"
	"kolvan/core/units"
	"kolvan/web/room"
	"kolvan/web/roomtest"
)

// TestBriefIsReadThenAnswered: what is told stands in a line with its units; usual screens are a
// press; a refused field opens its question.
func TestBriefIsReadThenAnswered(t *testing.T) {
	r, report, ref := roomtest.Demo(t, "Ticket-desk all-in-one")
	by := map[string]briefQuestion{}
	for _, q := range briefQuestions(&room.Desk{ID: 2, Rig: r, Report: report, Ref: ref}) {
		by[q.ID] = q
	}
	assert.Equal(t, "external, 1920 px, 1080 px, 60 Hz, port 1", by["screen"].Answer())
	assert.Equal(t, "150, kr", by["budget"].Answer())
	assert.False(t, by["budget"].Bad())
	for _, press := range by["screen"].Quick {
		doc, err := rig.Encode(r)
		require.NoError(t, err)
		patch, err := jsonpatch.DecodePatch(press.Patch)
		require.NoError(t, err)
		doc, err = patch.Apply(doc)
		require.NoError(t, err, press.Change)
		_, err = rig.Decode(doc)
		require.NoError(t, err, press.Change)
	}
	for _, q := range briefQuestions(&room.Desk{ID: 2, Rig: r, Report: report, Ref: ref, Trouble: &room.Trouble{Path: "/brief/budget",
		Typed: "much", Says: "no"}}) {
		assert.Equal(t, q.ID == "budget", q.Bad(), q.ID)
	}
}

// TestBriefSaysWhatAnAnswerDoes beside each question.
func TestBriefSaysWhatAnAnswerDoes(t *testing.T) {
	r, report, ref := roomtest.Demo(t, "Ticket-desk all-in-one")
	effects := func(id string) (all string) {
		for _, q := range briefQuestions(&room.Desk{ID: 1, Rig: r, Report: report, Ref: ref}) {
			for _, e := range q.Effects {
				if q.ID == id {
					all += e.Level + " " + e.Says + "\n"
				}
			}
		}
		return all
	}
	assert.Contains(t, effects("uses"), "risk Denoising model, after hours needs 10 GiB of card memory; the card has 8 GiB.")
	assert.Contains(t, effects("uses"), "Ticket films on the hall screen has the 2 GiB it needs: the card has 8 GiB.")
	assert.Contains(t, effects("budget"), "Still to buy: 107 kr, 43 kr left.")
	assert.Contains(t, effects("screen"), "No frame comes back")
	assert.Contains(t, effects("altered"), "alters nothing so far")
	r.Brief.Budget, r.Brief.Energy = rig.Of[units.Money](50), rig.Of[units.Money](2)
	r.Brief.Screen.Kind = rig.Of[rig.ScreenKind]("own-panel")
	r.Alterations = []rig.Alteration{{Name: "cut the back", Touches: rig.Of[rig.Touches]("cover")}}
	again := assess.Rig(r, ref)
	report = &again
	assert.Contains(t, effects("budget"), "risk Still to buy: 107 kr, 57 kr over.")
	assert.Contains(t, effects("screen"), "comes back over the link: 0.50 GB/s.")
	assert.Contains(t, effects("altered"), "The plan says: cut the back.")
	assert.Regexp(t, `An hour under load comes to 0\.\d+ to 0\.\d+ kr`, effects("energy"))
}
