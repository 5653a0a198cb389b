package link_test

import (
	"fmt"
	"testing"

	"kolvan/core/finding"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"kolvan/core/coretest"
	"kolvan/core/link"
	"kolvan/core/rig"
	"kolvan/core/units"
	_ "kolvan/internal/oneseed"
)

// element is lanes and generation of a slot, a stage or the card.
type element struct{ lanes, gen int }

// route joins a slot, stages and a card.
func route(slot element, stages []element, card element) *rig.Rig {
	r := rig.New("route")
	r.Host.Slots = []rig.Slot{{Name: "slot", Lanes: rig.Of(slot.lanes), Gen: rig.Of(slot.gen), Carries: rig.Of([]rig.Carried{rig.PCIe})}}
	r.Route.Slot = "slot"
	for i, s := range stages {
		r.Route.Stages = append(r.Route.Stages, rig.Stage{Name: fmt.Sprintf("stage %d", i), Lanes: rig.Of(s.lanes), Gen: rig.Of(s.gen)})
	}
	r.Card = rig.Card{Name: "card", Lanes: rig.Of(card.lanes), Gen: rig.Of(card.gen)}
	return r
}

// TestThroughputOfEveryGeneration holds the rates against the reference's table:
// one lane raw, and what is left of sixteen after packets.
func TestThroughputOfEveryGeneration(t *testing.T) {
	ref := coretest.Tables(t)
	for _, c := range []struct {
		gen               int
		raw               float64
		net128, net256    float64 // share of raw
		net512            float64
		fillEightGiBSecs4 float64 // four lanes, payload 128
	}{
		{1, 0.25, 0.81684, 0.88686, 0.92657, 10.516},
		{2, 0.5, 0.81684, 0.88686, 0.92657, 5.258},
		{3, 0.9846, 0.81684, 0.88686, 0.92657, 2.670},
		{4, 1.9692, 0.81684, 0.88686, 0.92657, 1.335},
		{5, 3.9385, 0.81684, 0.88686, 0.92657, 0.6675},
		{6, 7.375, 0.97, 0.97, 0.97, 0.3002},
	} {
		t.Run(fmt.Sprintf("generation %d", c.gen), func(t *testing.T) {
			assert.InDelta(t, c.raw, float64(link.Raw(ref, 1, c.gen)), 1e-9)
			for payload, share := range map[int]float64{128: c.net128, 256: c.net256, 512: c.net512} {
				assert.InDelta(t, share, link.Efficiency(ref, c.gen, rig.Of(payload)), 1e-5)
			}
			assert.InDelta(t, c.net128, link.Efficiency(ref, c.gen, rig.Fact[int]{}), 1e-5, "128 unless told")

			r := route(element{4, c.gen}, nil, element{16, c.gen})
			r.Card.Memory = rig.Of(units.Gibibyte(8))
			assert.InDelta(t, c.fillEightGiBSecs4, float64(link.For(r, ref).Fill), 0.001)
		})
	}
}

func TestWidestLegalWidth(t *testing.T) {
	for wired, want := range map[int]int{0: 0, 1: 1, 2: 2, 3: 2, 4: 4, 7: 4, 8: 8, 15: 8, 16: 16} {
		assert.Equal(t, want, link.Legal(wired), "%d wired", wired)
	}
}

func TestTunnelLeavesItsPayload(t *testing.T) {
	ref := coretest.Tables(t)
	for _, c := range []struct {
		class units.GigabitPerSecond
		newer rig.Fact[bool]
		want  float64 // GB/s
	}{
		{10, rig.Fact[bool]{}, 1},
		{20, rig.Fact[bool]{}, 2},
		{40, rig.Fact[bool]{}, 2.75},
		{40, rig.Of(false), 2.75},
		{40, rig.Of(true), 4},
		{80, rig.Fact[bool]{}, 8},
	} {
		r := route(element{4, 5}, nil, element{16, 5})
		r.Host.Slots[0].Form = rig.Of(rig.Tunnel)
		r.Host.Slots[0].TunnelRate, r.Host.Slots[0].TunnelNew = rig.Of(c.class), c.newer
		assert.InDelta(t, c.want, float64(link.For(r, ref).Net), 1e-9, "%v, newer %v", c.class, c.newer)
	}
}

func TestPinchIsTheElementThatCarriesLeast(t *testing.T) {
	ref := coretest.Tables(t)
	for _, c := range []struct {
		name   string
		rig    *rig.Rig
		pinch  string
		width  int
		gen    int
		forced int
	}{
		{"an older slot", route(element{4, 3}, []element{{4, 4}, {4, 4}}, element{8, 5}), "slot", 4, 3, 0},
		{"one lane of a fast adapter", route(element{4, 3}, []element{{1, 4}, {4, 4}}, element{8, 4}), "stage 0", 1, 3, 0},
		{"the first of equals", route(element{4, 4}, []element{{4, 4}}, element{4, 4}), "slot", 4, 4, 0},
		{"the card itself", route(element{16, 4}, []element{{16, 4}}, element{4, 4}), "card", 4, 4, 0},
		{"narrow beats old", route(element{8, 3}, []element{{2, 4}}, element{16, 4}), "stage 0", 2, 3, 0},
		{"forced down", route(element{4, 4}, nil, element{4, 4}), "slot", 4, 2, 2},
		{"forced up changes nothing", route(element{4, 3}, nil, element{4, 4}), "slot", 4, 3, 5},
	} {
		t.Run(c.name, func(t *testing.T) {
			if c.forced > 0 {
				c.rig.Route.ForcedGen = rig.Of(c.forced)
			}
			p := link.For(c.rig, ref)
			pinch, known := p.Pinch()
			require.True(t, known)
			assert.Equal(t, c.pinch, pinch.Name)
			assert.Equal(t, c.width, p.Width)
			assert.Equal(t, c.gen, p.Gen)
		})
	}
}

// TestLinkIsTheLeastOfTheRoute holds for every route: no wider and no faster than
// any element, a legal width, and never better for one more stage.
func TestLinkIsTheLeastOfTheRoute(t *testing.T) {
	ref := coretest.Tables(t)
	anyElement := rapid.Custom(func(t *rapid.T) element {
		return element{rapid.IntRange(1, 16).Draw(t, "lanes"), rapid.IntRange(1, 6).Draw(t, "generation")}
	})
	rapid.Check(t, func(t *rapid.T) {
		slot, stages, card := anyElement.Draw(t, "slot"), rapid.SliceOfN(anyElement, 0, 5).Draw(t, "stages"), anyElement.Draw(t, "card")
		p := link.For(route(slot, stages, card), ref)
		least := element{16, 6}
		for _, e := range append([]element{slot, card}, stages...) {
			least = element{min(least.lanes, e.lanes), min(least.gen, e.gen)}
		}
		if p.Width != link.Legal(least.lanes) || p.Gen != least.gen {
			t.Fatalf("x%d Gen %d of a route whose least is %+v", p.Width, p.Gen, least)
		}
		if p.Net >= p.Raw || p.Net <= 0 {
			t.Fatalf("net %v of raw %v", p.Net, p.Raw)
		}
		more := link.For(route(slot, append(stages, anyElement.Draw(t, "one more")), card), ref)
		if more.Raw > p.Raw {
			t.Fatalf("one more stage made it faster: %v, then %v", p.Raw, more.Raw)
		}
	})
}

// TestUnknownIsNotGuessed: with any lane count or generation unknown, so is the
// throughput.
func TestUnknownIsNotGuessed(t *testing.T) {
	ref := coretest.Tables(t)
	for name, forget := range map[string]func(*rig.Rig){
		"slot lanes":       func(r *rig.Rig) { r.Host.Slots[0].Lanes = rig.Fact[int]{} },
		"slot generation":  func(r *rig.Rig) { r.Host.Slots[0].Gen = rig.Fact[int]{} },
		"stage lanes":      func(r *rig.Rig) { r.Route.Stages[0].Lanes = rig.Fact[int]{} },
		"stage generation": func(r *rig.Rig) { r.Route.Stages[0].Gen = rig.Fact[int]{} },
		"card lanes":       func(r *rig.Rig) { r.Card.Lanes = rig.Fact[int]{} },
		"card generation":  func(r *rig.Rig) { r.Card.Gen = rig.Fact[int]{} },
		"slot not chosen":  func(r *rig.Rig) { r.Route.Slot = "" },
	} {
		r := route(element{4, 4}, []element{{4, 4}}, element{4, 4})
		forget(r)
		p := link.For(r, ref)
		assert.False(t, p.Known(), name)
		assert.Zero(t, p.Net, name)
		_, known := p.Pinch()
		assert.False(t, known, name)
	}
}

// TestFormsCarryNoMoreThanTheyCan: what is told beyond what a form carries counts
// as the form, and is said.
func TestFormsCarryNoMoreThanTheyCan(t *testing.T) {
	ref := coretest.Tables(t)
	for _, c := range []struct {
		name       string
		slot       rig.Slot
		width, gen int
		claims     int
	}{
		{"M.2 key M of eight lanes", rig.Slot{Form: rig.Of(rig.M2), Key: rig.Of(rig.Key("M")), Lanes: rig.Of(8), Gen: rig.Of(4)}, 4, 4, 1},
		{"M.2 key B of four", rig.Slot{Form: rig.Of(rig.M2), Key: rig.Of(rig.Key("B")), Lanes: rig.Of(4), Gen: rig.Of(3)}, 2, 3, 1},
		{"key E of two", rig.Slot{Form: rig.Of(rig.M2), Key: rig.Of(rig.Key("E")), Lanes: rig.Of(2), Gen: rig.Of(3)}, 1, 3, 1},
		{"mini PCIe of the third generation", rig.Slot{Form: rig.Of(rig.MiniPCIe), Lanes: rig.Of(1), Gen: rig.Of(3)}, 1, 2, 1},
		{"OCuLink of the fifth", rig.Slot{Form: rig.Of(rig.OCuLink), Mechanical: rig.Of(4), Lanes: rig.Of(8), Gen: rig.Of(5)}, 4, 4, 2},
		{
			"a short card slot of sixteen",
			rig.Slot{Form: rig.Of(rig.CardSlot), Mechanical: rig.Of(4), OpenEnd: rig.Of(true), Lanes: rig.Of(16), Gen: rig.Of(3)},
			4, 3, 1,
		},
		{
			"a card slot that is what it says",
			rig.Slot{Form: rig.Of(rig.CardSlot), Mechanical: rig.Of(16), Lanes: rig.Of(8), Gen: rig.Of(3)}, 8, 3, 0,
		},
	} {
		r := rig.New("claims")
		c.slot.Name, r.Route.Slot = "s", "s"
		c.slot.Carries = rig.Of([]rig.Carried{rig.PCIe})
		r.Host.Slots = []rig.Slot{c.slot}
		r.Card = rig.Card{Lanes: rig.Of(16), Edge: rig.Of(16), Gen: rig.Of(6), TrainsX2: rig.Of(true)}
		p := link.For(r, ref)
		out := finding.List{}
		p.Judge(&out)
		claims := 0
		for _, f := range out.Findings {
			if f.Rule == "link.claim" {
				claims++
			}
		}
		assert.Equal(t, c.width, p.Width, c.name)
		assert.Equal(t, c.gen, p.Gen, c.name)
		assert.Equal(t, c.claims, claims, c.name)
	}
}

// TestSideBySideIsSaidOnce on the route: its cables and adapters follow, a part that tells its
// own does not; a riser that parts the slot gives the lanes of its part.
func TestSideBySideIsSaidOnce(t *testing.T) {
	ref := coretest.Tables(t)
	width := func(change func(*rig.Rig)) int {
		r := rig.New("two cables")
		video := rig.Joint{Form: rig.Of(rig.Video)}
		r.Host.Slots = []rig.Slot{{
			Name: "s", Form: rig.Of(rig.CardSlot), Mechanical: rig.Of(16), Lanes: rig.Of(16), Gen: rig.Of(3),
			Carries: rig.Of([]rig.Carried{rig.PCIe}),
		}}
		r.Route.Slot = "s"
		slot := rig.Joint{Form: rig.Of(rig.CardSlot)}
		r.Route.Stages = []rig.Stage{
			{Name: "adapter", Kind: rig.Of(rig.Adapter), Lanes: rig.Of(16), Gen: rig.Of(3), Plug: slot, Socket: video},
			{Name: "cable", Kind: rig.Of(rig.Cable), Lanes: rig.Of(16), Gen: rig.Of(3), Plug: video, Socket: video},
			{Name: "dock", Kind: rig.Of(rig.Dock), Lanes: rig.Of(16), Gen: rig.Of(3), Plug: slot, Socket: slot},
		}
		r.Card = rig.Card{Lanes: rig.Of(16), Edge: rig.Of(16), Gen: rig.Of(3), TrainsX2: rig.Of(true)}
		change(r)
		return link.For(r, ref).Width
	}
	assert.Equal(t, 2, width(func(*rig.Rig) {}))
	assert.Equal(t, 4, width(func(r *rig.Rig) { r.Route.SideBySide = rig.Of(2) }))
	assert.Equal(t, 2, width(func(r *rig.Rig) { r.Route.SideBySide, r.Route.Stages[1].Parallel = rig.Of(2), rig.Of(1) }))

	split := func(needs rig.SplitKind, part int) int {
		return width(func(r *rig.Rig) {
			r.Route.Stages = []rig.Stage{{
				Name: "riser", Kind: rig.Of(rig.Riser), Lanes: rig.Of(16), Gen: rig.Of(3), Needs: rig.Of(needs), Takes: rig.Of(part),
				Plug: rig.Joint{Form: rig.Of(rig.CardSlot)}, Socket: rig.Joint{Form: rig.Of(rig.CardSlot)},
			}}
		})
	}
	assert.Equal(t, [4]int{8, 8, 4, 4}, [4]int{split("8+8", 1), split("8+4+4", 1), split("8+4+4", 3), split("4+4+4+4", 4)})
	assert.Equal(t, 16, split("none", 1))
}
