package web

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kolvan/core/parts"
	"kolvan/core/rig"
	"kolvan/core/units"
	"kolvan/web/fields"
	"kolvan/web/fit"
	"kolvan/web/room"
	"kolvan/web/roomtest"
)

// TestStepsOfferTheBestFirst: slots by what they give, cards by what the uses need,
// stages by how soon they end in a card slot.
func TestStepsOfferTheBestFirst(t *testing.T) {
	r, report, _ := roomtest.Demo(t, "Dome-shed stacker")
	builtin, err := parts.Builtin()
	require.NoError(t, err)
	list, err := listParts(builtin)
	require.NoError(t, err)
	r.Route = rig.Route{}
	slots := starting(wayStep, r, report, list).Choices
	assert.Equal(t, "m2-a", slots[0].Name)
	assert.Contains(t, slots[0].About, "x4 Gen 3, holds boot drive, which would have to move")

	r.Brief.Works = []rig.Work{{Name: "large", Memory: rig.Of[units.Gibibyte](14)}}
	mine := list[0]
	for _, f := range list {
		if f.Kind == "card" {
			mine = f
		}
	}
	mine.Mine, mine.Name = true, "my own"
	cards := starting(cardStep, r, report, append([]found{mine}, list...)).Choices
	assert.Equal(t, "my own", cards[0].Name)
	assert.Contains(t, cards[1].About, "16 GiB", "the cheapest that is large enough")

	r.Route.Slot = "m2-a"
	for _, choice := range starting(wayStep, r, report, list).Choices[:2] {
		assert.Contains(t, choice.About, "dock", "%s ends in a card slot", choice.Name)
	}
	r.Chamber = rig.Chamber{}
	assert.Len(t, starting(roomStep, r, report, nil).Choices, 2)
}

// TestFieldsMeanSomethingWhereTheyStand: what means nothing beside what is told is
// not shown, nor what means nothing at the station.
func TestFieldsMeanSomethingWhereTheyStand(t *testing.T) {
	r := rig.New("r")
	shown := func(v any, at string) (paths string) {
		f := fields.For(r, v, at, false, nil)
		for _, field := range f.Fields {
			paths += field.Path + " "
		}
		for _, list := range f.Lists {
			paths += list.Path + " "
		}
		return paths
	}
	slot := &rig.Slot{Name: "s", Form: rig.Of(rig.CardSlot)}
	assert.NotContains(t, shown(slot, "/s"), "/s/key")
	slot.Form = rig.Of(rig.M2)
	assert.Contains(t, shown(slot, "/s"), "/s/key")
	slot.Form, slot.Key = rig.Of(rig.CardSlot), rig.Of[rig.Key]("M")
	assert.Contains(t, shown(slot, "/s"), "/s/key", "what was entered is shown, whatever it means")
	assert.NotContains(t, shown(&rig.Chamber{Open: true}, "/chamber"), "box")
	assert.Contains(t, shown(&rig.Chamber{}, "/chamber"), "/chamber/box/x_mm")
	assert.Contains(t, shown(&rig.Chamber{}, "/chamber"), "/chamber/things")
	assert.NotContains(t, shown(&rig.Outlet{Connector: rig.Of[rig.Connector]("card-8")}, "/o"), "/o/pins")
	assert.Contains(t, shown(&rig.Outlet{Connector: rig.Of[rig.Connector]("proprietary")}, "/o"), "/o/pins")

	tower, report, ref := roomtest.Demo(t, "Projector tower")
	v := &region{Desk: &room.Desk{ID: 1, Station: "fit", Sel: "/card", Rig: tower, Report: report, Ref: ref}}
	v.edit(&fit.Room)
	for _, f := range v.Form.Fields {
		assert.NotContains(t, f.Path, "encoders")
	}
	at := slices.IndexFunc(v.Form.Fields, func(f fields.Field) bool { return f.Path == "/card/length_mm" })
	require.GreaterOrEqual(t, at, 0)
	length := v.Form.Fields[at]
	assert.Equal(t, "card-length", length.Picture)
	assert.Len(t, length.With, 4)
}
