package ways

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kolvan/core/assess"
	"kolvan/core/coretest"
	"kolvan/core/rig"
	"kolvan/core/units"
)

// desk is a small host with one slot for a drive, one for a radio and a tunnelled port.
func desk() *rig.Rig {
	r := rig.New("desk")
	r.Host = rig.Host{Name: "desk", Supply: "brick", Power: rig.Of[units.Watt](60),
		Drives: []rig.Drive{{Name: "boot", Boots: rig.Of(true)}},
		Networks: []rig.Network{
			{Name: "radio", Kind: rig.Of(rig.Wireless), Used: rig.Of(true)},
			{Name: "wire", Kind: rig.Of(rig.Wire), Used: rig.Of(true)},
		},
		Firmware: rig.Firmware{AllowList: rig.Of(false), DiskMode: rig.Of(rig.DiskMode("plain"))},
		Slots: []rig.Slot{
			{
				Name: "m", Form: rig.Of(rig.M2), Key: rig.Of(rig.Key("M")), Lanes: rig.Of(4), Gen: rig.Of(4),
				Carries: rig.Of([]rig.Carried{rig.PCIe}), Behind: rig.Of(rig.Behind("processor")), Occupant: rig.Of("boot"),
				Length: rig.Of[units.Millimetre](80),
			},
			{
				Name: "e", Form: rig.Of(rig.M2), Key: rig.Of(rig.Key("E")), Lanes: rig.Of(1), Gen: rig.Of(3),
				Carries: rig.Of([]rig.Carried{rig.PCIe}), Behind: rig.Of(rig.Behind("processor")), Occupant: rig.Of("radio"),
				Length: rig.Of[units.Millimetre](30),
			},
			{
				Name: "port", Form: rig.Of(rig.Tunnel), Lanes: rig.Of(4), Gen: rig.Of(3), Carries: rig.Of([]rig.Carried{rig.PCIe}),
				TunnelRate: rig.Of[units.GigabitPerSecond](40), TunnelNew: rig.Of(false), Occupant: rig.Of(rig.NoOccupant),
			},
		}}
	r.Supplies = []rig.Supply{{
		Name: "brick", Kind: rig.Of(rig.Brick), Rating: rig.Of[units.Watt](120),
		Rails: []rig.Rail{{Name: "out", Voltage: rig.Of[units.Volt](19)}}, Price: rig.Price{Owned: rig.Of(true)},
	}}
	r.Card = rig.Card{
		Name: "card", Lanes: rig.Of(8), Edge: rig.Of(16), Gen: rig.Of(4), Power: rig.Of[units.Watt](60),
		Plugs: []rig.CardPlug{}, Altered: rig.Of(false),
	}
	r.Chamber.Open = true
	return r
}

// of is the first way from a slot through a stage; it must be there.
func of(t *testing.T, a *Answer, slot, through string) *Way {
	t.Helper()
	for i := range a.Ways {
		for _, s := range a.Ways[i].Stages {
			if a.Ways[i].From == slot && s == through {
				return &a.Ways[i]
			}
		}
	}
	require.Fail(t, "no such way", "from %s through %s", slot, through)
	return nil
}

// TestWaysOfEverySort: each kind of way is found where its parts are there, with the
// link it gives, what it moves and what feeds it.
func TestWaysOfEverySort(t *testing.T) {
	a := ask(t, desk(), stock(t))

	ribbon := of(t, a, "m", "Ribbon dock, M.2")
	assert.Equal(t, 3, *ribbon.Figures.Gen, "the dock is of Gen 3")
	require.Len(t, ribbon.Displaced, 1)
	assert.Equal(t, rig.Of(rig.HomeUSB), ribbon.Displaced[0].Home, "no slot takes the drive")

	radio := of(t, a, "e", "Wireless-slot to video socket")
	assert.Equal(t, 1, *radio.Figures.Width)
	assert.Equal(t, []string{"Wireless-slot to video socket", "Video-style cable 400", "Bench dock, video cable"}, radio.Stages)

	box := of(t, a, "port", "Boxed dock, own supply")
	assert.Equal(t, "Tunnel cable 700", box.Stages[0], "a cable goes between two sockets")
	assert.Empty(t, box.Displaced)
	assert.NotEmpty(t, box.Rig.Supply(box.Rig.Route.Stages[1].Supply), "the box brings its supply")

	for i := range a.Ways {
		cables := 0
		for _, s := range a.Ways[i].Rig.Route.Stages {
			cables += int(ofBool(rig.Is(s.Kind, rig.Cable)))
		}
		assert.LessOrEqual(t, cables, 2, a.Ways[i].Says)
	}
}

func ofBool(b bool) float64 {
	if b {
		return 1
	}
	return 0
}

// TestALossyChainIsHeldToALowerSpeed: where the loss is what speaks against a chain it
// is tried at lower speeds too.
func TestALossyChainIsHeldToALowerSpeed(t *testing.T) {
	r := desk()
	r.Host.Slots[0].Trace = rig.Of[units.Millimetre](150)
	long := rig.Stage{
		Name:     "long ribbon",
		Kind:     rig.Of(rig.Dock),
		Lanes:    rig.Of(4),
		Gen:      rig.Of(4),
		Length:   rig.Of[units.Millimetre](800),
		Line:     rig.Of(rig.LineTwinax),
		Module:   rig.Of[units.Millimetre](80),
		Plug:     rig.Joint{Form: rig.Of(rig.M2), Key: rig.Of(rig.Key("M"))},
		Socket:   rig.Joint{Form: rig.Of(rig.CardSlot), Lanes: rig.Of(16)},
		Inlets:   []rig.Inlet{{Name: "in", Connector: rig.Of[rig.Connector]("cpu-8")}},
		Makes3V3: rig.Of(true),
		TurnsOn:  rig.Of(true),
	}
	bins := stock(t)
	bins.Stages = []rig.Stage{long}
	a := ask(t, r, bins)
	speeds := map[int]bool{}
	for i := range a.Ways {
		speeds[*a.Ways[i].Figures.Gen] = true
		if g := a.Ways[i].Rig.Route.ForcedGen; g.Known {
			assert.Contains(t, a.Ways[i].Says, "held to Gen")
		}
	}
	assert.True(t, speeds[4] && speeds[3], "%v", speeds)
}

// TestWhatFailsSaysWhy: a slot that carries nothing, a drive that cannot leave, and a
// search with no part at all.
func TestWhatFailsSaysWhy(t *testing.T) {
	r := desk()
	r.Host.Slots[0].Fixed = rig.Of(rig.Fixing("soldered"))
	r.Host.Slots[1].Carries = rig.Of([]rig.Carried{"radio"})
	r.Host.Slots[2].Carries = rig.Of([]rig.Carried{"usb"})
	a := ask(t, r, stock(t))
	assert.Empty(t, a.Ways)
	rules := map[string]string{}
	for _, f := range a.Failed {
		if rules[f.From] == "" {
			rules[f.From] = f.Rule
		}
	}
	assert.Equal(t, map[string]string{"m": "gate.soldered", "e": "link.no-pcie", "port": "link.no-pcie"}, rules)

	a = ask(t, desk(), &assess.Bins{})
	assert.Empty(t, a.Ways)
	require.Len(t, a.Failed, 3)
	assert.Equal(t, "link.form-mismatch", a.Failed[0].Rule, "nothing stands between slot and card")
}

// TestEffortBoundsASearch: it ends, says so, and what it found stands.
func TestEffortBoundsASearch(t *testing.T) {
	a, err := Search(t.Context(), Question{Rig: desk(), Parts: stock(t), Weights: Usual, Effort: 20_000}, coretest.Tables(t))
	require.NoError(t, err)
	assert.True(t, a.Untried)
	whole := ask(t, desk(), stock(t))
	assert.False(t, whole.Untried)
	assert.Less(t, a.Tried, whole.Tried)
}

// TestScoreFollowsTheWeights, each of them alone.
func TestScoreFollowsTheWeights(t *testing.T) {
	fast := merit{least: 4, most: 4, sure: 0.5, cost: 100, moved: 1, fans: 1}
	plain := merit{least: 2, most: 2, sure: 1, cost: 50}
	s := scale{net: 4, cost: 100}
	for weigh, first := range map[string]*merit{
		"lanes=1": &fast, "certainty=1": &plain, "cost=1": &plain, "reversible=1": &plain, "noise=1": &plain,
	} {
		w := Weights{}
		require.NoError(t, w.Parse(weigh))
		best := &fast
		if plain.score(w, s) > fast.score(w, s) {
			best = &plain
		}
		assert.Same(t, first, best, weigh)
	}
	assert.False(t, fast.beats(&plain))
	assert.False(t, plain.beats(&fast))
	slower := plain
	slower.least = 1
	assert.True(t, plain.beats(&slower), "as good in all, and better in what is certain")
	assert.InDelta(t, 0, plain.score(Weights{}, s), 1e-12, "nothing weighs anything")
}
