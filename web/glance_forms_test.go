package web

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kolvan/core/reference"
	"kolvan/core/rig"
	"kolvan/web/fields"
	"kolvan/web/survey"
)

// TestKeysAreSeenByTheirNotches: one key more, one notch more.
func TestKeysAreSeenByTheirNotches(t *testing.T) {
	pictures := fields.KeyPictures([]string{"M", "B+M"}, "M")
	require.Len(t, pictures, 2)
	assert.True(t, pictures[0].On)
	assert.Equal(t, "key B and M", pictures[1].Label)
	assert.Greater(t, strings.Count(pictures[0].Teeth, "M"), strings.Count(pictures[1].Teeth, "M"))
	assert.Greater(t, survey.NotchOf("M"), survey.NotchOf("E"))
	assert.Negative(t, survey.NotchOf(""))
}

// TestEveryFormHasItsPicture, and what looks like something else says so beside it.
func TestEveryFormHasItsPicture(t *testing.T) {
	pictures, err := templates.ReadFile("templates/pictures.html")
	require.NoError(t, err)
	ref, err := reference.Load()
	require.NoError(t, err)
	for _, word := range rig.Form("").Words().All() {
		face := fields.FormFaceOf(rig.Form(word))
		assert.Contains(t, string(pictures), `<symbol id="`+face.Symbol+`"`)
		if row := ref.Form(rig.Form(word), ""); row != nil && row.Looks != "" {
			assert.Contains(t, face.Mind, "never", word)
		}
	}
	r := rig.New("x")
	r.Host.Slots = []rig.Slot{{Name: "a", Form: rig.Of(rig.Form("usb3-lane"))}, {Name: "b"}}
	faces := map[string]*fields.FormFace{}
	for i := range r.Host.Slots {
		for _, f := range fields.For(r, &r.Host.Slots[i], rig.SlotPath(i), false, nil).Fields {
			if f.Label == "form" || f.Label == "Form" {
				faces[r.Host.Slots[i].Name] = f.Face
			}
		}
	}
	require.NotNil(t, faces["a"])
	assert.Contains(t, faces["a"].Mind, "never into a USB port")
	assert.Nil(t, faces["b"], "not told yet")
}
