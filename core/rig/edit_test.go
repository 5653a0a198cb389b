package rig

import (
	"fmt"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kolvan/core/units"
)

func sample(t testing.TB) *Rig {
	r, err := Decode(samples(t)[len(samples(t))-1])
	require.NoError(t, err)
	require.Equal(t, "whole", r.Name)
	return r
}

func TestSetTakesWhatAPersonTypes(t *testing.T) {
	r := sample(t)
	for path, typed := range map[string]string{
		"/card/length_mm": "9 1/8 in", "/card/power_w": "12 V 6.2 A", "/card/lanes": "8", "/card/encoders": "none", "/host/kind": "notebook",
		"/host/slots/0/carries": "pcie, usb", "/card/altered": "yes", "/brief/budget": "1200.5", "/host/memory_gib": "",
		"/card/memory_gib": "unknown",
	} {
		require.NoError(t, Set(r, path, typed), path)
	}
	assert.InDelta(t, 231.775, float64(r.Card.Length.Value), 1e-9)
	assert.InDelta(t, 74.4, float64(r.Card.Power.Value), 1e-9)
	assert.Equal(t, Of(8), r.Card.Lanes)
	assert.Equal(t, Of([]string{}), r.Card.Encoders)
	assert.Equal(t, Of([]Carried{"pcie", "usb"}), r.Host.Slots[0].Carries)
	assert.Equal(t, Of(true), r.Card.Altered)
	assert.False(t, r.Card.Memory.Known)

	require.NoError(t, Set(r, "/card/length_mm/tolerance", "1/16 in"))
	require.NoError(t, Set(r, "/card/length_mm/source", "measured"))
	assert.InDelta(t, 1.5875, r.Card.Length.Tolerance, 1e-9)
	assert.Equal(t, Measured, r.Card.Length.Source)
}

func TestSetRefusesAndChangesNothing(t *testing.T) {
	for _, c := range []struct{ path, typed, says string }{
		{"/card/lanes", "three", "one of 1, 2, 4, 8, 16"}, {"/card/lanes", "3", "one of 1, 2, 4, 8, 16"},
		{"/card/length_mm", "long", "9 1/8 in"}, {"/card/length_mm", "-1", "from 0 to 1000"},
		{"/host/kind", "toaster", "mini-pc"}, {"/host/slots/0/carries", "pcie,water", "pcie"}, {"/host/slots/9/lanes", "4", "a list of 4"},
		{"/card/wings", "2", "length_mm"},
		{"/host/slots", "4", "holds a value"}, {"/name", " ", "not empty"}, {"/card/length_mm/source", "dream", "hearsay"},
		{"/card/length_mm/tolerance", "-2", "0 or more"}, {"/host/memory_gib/source", "papers", "unknown"},
		{"/card/altered", "perhaps", "true or false"},
	} {
		r := sample(t)
		before, err := Encode(r)
		require.NoError(t, err)
		err = Set(r, c.path, c.typed)
		var fault *FieldError
		require.ErrorAs(t, err, &fault, c.path)
		assert.Equal(t, c.path, fault.Path)
		assert.Contains(t, err.Error(), c.says)
		after, err := Encode(r)
		require.NoError(t, err)
		assert.Equal(t, string(before), string(after), c.path)
	}
}

func TestReferencesFollowANewName(t *testing.T) {
	r := sample(t)
	for path, name := range map[string]string{
		"/host/slots/0/name": "first slot", "/host/drives/0/name": "old disk", "/supplies/1/name": "big supply",
		"/supplies/1/outlets/0/name": "yellow",
		"/route/stages/2/name":       "open dock", "/route/stages/2/inlets/0/name": "left", "/card/plugs/0/name": "front",
		"/leads/0/name": "first lead",
	} {
		require.NoError(t, Set(r, path, name), path)
		require.NoError(t, Validate(r), path)
	}
	assert.Equal(t, "first slot", r.Route.Slot)
	assert.Equal(t, Of("old disk"), r.Host.Slots[1].Occupant)
	assert.Equal(t, LeadEnd{Part: "big supply", At: "yellow", Connector: Of(Connector("peripheral-4"))}, r.Leads[0].From[0])
	assert.Equal(t, "left", r.Leads[0].To[0].At)
	assert.Equal(t, "front", r.Leads[1].To[0].At)
}

func TestRemoveLeavesNothingDangling(t *testing.T) {
	for _, path := range []string{
		"/host/slots/0", "/host/drives/0", "/supplies/1", "/supplies/1/outlets/0", "/supplies/1/rails/0", "/route/stages/2",
		"/route/stages/2/inlets/0", "/card/plugs/0", "/leads/0", "/chamber/covers/0",
	} {
		r := sample(t)
		r.Brief.CoversOff = []string{"lid"}
		require.NoError(t, Remove(r, path), path)
		assert.NoError(t, Validate(r), path)
	}
	r := sample(t)
	require.NoError(t, Remove(r, "/supplies/1"))
	assert.Empty(t, r.Leads[0].From, "the lead is not connected")
	assert.Error(t, Remove(r, "/supplies/7"))
	assert.Error(t, Remove(r, "/card"))
}

func TestAppendMakesAFreeName(t *testing.T) {
	r := New("empty")
	for range 3 {
		for _, list := range []string{
			"/host/slots", "/route/stages", "/supplies", "/leads", "/chamber/things", "/brief/works", "/card/plugs",
		} {
			at, err := Append(r, list)
			require.NoError(t, err)
			require.NoError(t, Validate(r), at)
		}
		require.NoError(t, Remove(r, "/supplies/0"))
	}
	assert.Equal(t, "slot 3", r.Host.Slots[2].Name)
	_, err := Append(r, "/card/length_mm")
	assert.Error(t, err)
}

func TestMoveStopsAtTheEnds(t *testing.T) {
	r := sample(t)
	at, err := Move(r, "/route/stages/0", 5)
	require.NoError(t, err)
	assert.Equal(t, "/route/stages/2", at)
	assert.Equal(t, []string{"cable", "dock", "adapter"}, names(r.Route.Stages, stageName))
}

func TestOptionsAreTheNamesThatMayStandThere(t *testing.T) {
	r := sample(t)
	assert.Equal(t, []string{"none", "boot drive", "data drive", "wireless card", "wire"}, Options(r, "/host/slots/0/occupant"))
	assert.Equal(t, []string{"card", "host", "adapter", "cable", "dock"}, Options(r, "/leads/0/to/0/part"))
	assert.Equal(t, []string{"in", "in 2", "in 6", "round"}, Options(r, "/leads/0/to/0/at"))
	assert.Nil(t, Options(r, "/card/lanes"))
	assert.Equal(t, units.Watt(120), r.Card.Power.Value)
}

func TestWithLeavesTheRigAlone(t *testing.T) {
	r := New("one")
	r.Route.Stages = []Stage{{Name: "dock", Inlets: []Inlet{{Name: "in"}}}}
	c, err := With(r, "/route/stages/0/inlets/0/current_a", "8 A")
	require.NoError(t, err)
	assert.InDelta(t, 8, float64(c.Route.Stages[0].Inlets[0].Current.Value), 1e-9)
	assert.False(t, r.Route.Stages[0].Inlets[0].Current.Known)
	_, err = With(r, "/route/stages/7/name", "x")
	assert.Error(t, err)
}

// TestKeepFormer: runs without a result are still being told, a new run and one that goes
// change nothing, and what is kept of corrections is bounded, the latest staying.
func TestKeepFormer(t *testing.T) {
	r := New("one")
	r.Runs = []Run{{Name: "a", Preset: "high"}, {Name: "b", Preset: "high", Felt: Of(Felt("smooth"))}}
	edit := func(by func()) {
		before := slices.Clone(r.Runs)
		by()
		KeepFormer(before, r, "then")
	}
	edit(func() { r.Runs[0].Preset, r.Runs[1].Preset = "low", "" })
	assert.Empty(t, r.Runs[0].Former)
	assert.Equal(t, []Former{{"preset", "high", "then"}}, r.Runs[1].Former)
	edit(func() { r.Runs = append([]Run{{Name: "c", Preset: "x", Outcome: "crashed"}}, r.Runs...) })
	edit(func() { r.Runs = r.Runs[1:] })
	assert.Len(t, r.Runs[1].Former, 1)
	for i := range 70 {
		edit(func() { r.Runs[1].Scene = fmt.Sprint(i) })
	}
	assert.Len(t, r.Runs[1].Former, mostFormer)
	assert.Equal(t, "68", r.Runs[1].Former[mostFormer-1].Was)
	require.NoError(t, Validate(r))
}

func TestEmpty(t *testing.T) {
	r := New("r")
	require.NoError(t, Empty(r, "/card/plugs"))
	doc, err := Encode(r)
	require.NoError(t, err)
	assert.Contains(t, string(doc), `"plugs": []`)
	_, err = Append(r, "/card/plugs")
	require.NoError(t, err)
	assert.Error(t, Empty(r, "/card/plugs"), "one is there")
	assert.Error(t, Empty(r, "/card/power_w"), "no list")
}

func TestEntryAt(t *testing.T) {
	for pointer, want := range map[string]int{
		"/leads/0": 0, "/leads/12": 12, "/leads": -1, "/leads/-1": -1, "/leads/x": -1, "/leads/1/to": -1, "/leadsome/1": -1,
		"": -1,
	} {
		assert.Equal(t, want, EntryAt(pointer, "/leads"), pointer)
	}
}

// TestAFieldShowsWhatWasTyped: a length keeps how it was typed, through the file too, for as
// long as that is its value; a plain number keeps nothing more.
func TestAFieldShowsWhatWasTyped(t *testing.T) {
	shown := func(r *Rig) (as string) {
		WalkShallow(&r.Card, func(n Node) {
			if n.Path() == "/length_mm" {
				as = n.As()
			}
		})
		return as
	}
	r := New("typed")
	require.NoError(t, Set(r, "/card/length_mm", "9 1/8 in"))
	assert.InDelta(t, 231.775, float64(r.Card.Length.Value), 1e-9)
	assert.Equal(t, "9 1/8 in", shown(r))
	doc, err := Encode(r)
	require.NoError(t, err)
	assert.Contains(t, string(doc), `"as": "9 1/8 in"`)
	back, err := Decode(doc)
	require.NoError(t, err)
	assert.Equal(t, "9 1/8 in", shown(back))
	back.Card.Length.Value = 230 // by a patch, or dragged
	assert.Empty(t, shown(back), "it is not that any more")
	require.NoError(t, Set(r, "/card/length_mm", "230"))
	assert.Empty(t, r.Card.Length.As)
	require.NoError(t, Set(r, "/card/power_w", "12 V 6.2 A"))
	assert.Equal(t, "12 V 6.2 A", r.Card.Power.As)
	require.NoError(t, Set(r, "/chamber/card_at/x_mm", "−4"))
	assert.InDelta(t, -4, float64(r.Chamber.CardAt.X.Value), 1e-9, "the minus sign of print")
	require.Error(t, Set(r, "/card/length_mm", "long"))
	assert.InDelta(t, 230, float64(r.Card.Length.Value), 1e-9)
}
