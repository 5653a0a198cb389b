package web

import (
	"io/fs"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kolvan/core/assess"
	"kolvan/core/rig"
)

// TestRoomsHaveAllThatAStationNeeds: a template by its name, a guide, places that a rig has, and
// addresses that no other station takes.
func TestRoomsHaveAllThatAStationNeeds(t *testing.T) {
	taken, homes := (&App{}).edits(), map[string]string{}
	for _, at := range rooms {
		_, err := fs.Stat(at.Pages, at.Key+".html")
		assert.NoError(t, err, at.Key)
		assert.True(t, slices.Contains(guidePages, at.Key), at.Key)
		assert.Same(t, at, roomAt(at.Key))
		for name, edit := range at.Edits {
			assert.Nil(t, taken[name], name)
			taken[name] = edit
		}
		for _, place := range slices.Concat(at.Home, at.Shows, at.Card) {
			_, _, err := rig.At(rig.New("r"), place)
			if place[len(place)-1] != '/' {
				assert.NoError(t, err, place)
			}
		}
		for _, place := range at.Home {
			assert.Empty(t, homes[place], place)
			homes[place] = at.Key
		}
	}
	for _, row := range assess.Rules() {
		require.NotNil(t, roomAt(string(row.Station)), row.Name)
	}
	assert.Nil(t, roomAt("later"))
	for _, c := range [][3]string{
		{"/leads/0", "fit", "power"}, {"/card", "fit", "fit"}, {"/card", "ledger", "route"}, {"/host/slots/1", "power", "power"},
		{"/runs/0", "power", "proof"}, {"/brief", "route", "route"},
	} {
		assert.Equal(t, c[2], homeOf(c[0], c[1]), c)
	}
}
