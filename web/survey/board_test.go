package survey

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"kolvan/core/rig"
	_ "kolvan/internal/oneseed"
)

// TestNothingOnTheBoardCoversAnother: wherever slots were put, while there is room on their
// side; processor and chipset are not covered either.
func TestNothingOnTheBoardCoversAnother(t *testing.T) {
	rapid.Check(t, func(rt *rapid.T) {
		r := rig.New("board")
		forms := []rig.Form{rig.M2, rig.MiniPCIe, rig.CardSlot, rig.OCuLink, rig.Tunnel}
		for range rapid.IntRange(1, 7).Draw(rt, "slots") {
			s := rig.Slot{
				Name: "s",
				Form: rig.Of(rapid.SampledFrom(forms).Draw(rt, "form")),
				Side: rig.Of(rapid.SampledFrom([]rig.Side{"top", "underside"}).Draw(rt, "side")),
			}
			if rapid.Bool().Draw(rt, "placed") {
				s.BoardX, s.BoardY = rig.Of(rapid.Float64Range(0, 100).Draw(rt, "x")), rig.Of(rapid.Float64Range(0, 100).Draw(rt, "y"))
			}
			if rapid.Bool().Draw(rt, "behind") {
				s.Behind = rig.Of(rig.Chipset)
			}
			r.Host.Slots = append(r.Host.Slots, s)
		}
		d := drawBoard(r, rapid.SampledFrom([]*boardPlan{boardWide, boardTall}).Draw(rt, "plan"), "")
		sides := map[rig.Side]int{}
		for i := range d.Slots {
			a := &d.Slots[i]
			if sides[sideOf(&r.Host.Slots[i])]++; sides[sideOf(&r.Host.Slots[i])] > 2 {
				continue // the side may be full
			}
			for _, fixed := range d.Fixed {
				assert.False(rt, meets(a.X, a.Y, &a.Box, &fixed, nameOver), "%v covers %v", a.Box, fixed)
			}
			for j := range d.Slots[:i] {
				assert.False(rt, meets(a.X, a.Y, &a.Box, &d.Slots[j].Box, 0), "%d covers %d", i, j)
			}
		}
	})
}

// TestSlotsAreDrawnAsTheyAre: by form, by what is in them, by their key and their room.
func TestSlotsAreDrawnAsTheyAre(t *testing.T) {
	classes := func(s rig.Slot) (list string) {
		for _, shape := range slotShapes(&s, 0, 0) {
			list += shape.Class + " "
		}
		return list
	}
	m2 := rig.Slot{Form: rig.Of(rig.M2), Occupant: rig.Of("drive")}
	assert.NotContains(t, classes(m2), "board-notch", "its key is not told")
	m2.Key = rig.Of[rig.Key]("M")
	assert.Contains(t, classes(m2), "board-module board-chip board-metal board-dark board-teeth board-notch")
	m2.Occupant = rig.Of(rig.NoOccupant)
	assert.Contains(t, classes(m2), "board-open")
	card := rig.Slot{Form: rig.Of(rig.CardSlot), Mechanical: rig.Of(4)}
	assert.Contains(t, classes(card), "board-metal", "closed at its end")
	card.OpenEnd = rig.Of(true)
	assert.NotContains(t, classes(card), "board-metal")
	assert.Equal(t, "board-open ", classes(rig.Slot{}), "nobody said what it is")
	for _, kind := range []rig.HostKind{rig.Notebook, rig.Desktop, rig.AllInOne, rig.SingleBoard} {
		r := rig.New("host")
		r.Host.Kind = rig.Of(kind)
		without := rig.New("host")
		assert.NotEqual(t, drawBoard(without, boardWide, "").Lines, drawBoard(r, boardWide, "").Lines, kind)
	}
}

// TestSlotsStayWhereTheyArePut: what is placed is drawn there, on the side it was put.
func TestSlotsStayWhereTheyArePut(t *testing.T) {
	rapid.Check(t, func(rt *rapid.T) {
		r := rig.New("board")
		r.Host.Slots = []rig.Slot{{Name: "s", Form: rig.Of(rig.M2)}, {Name: "other", Form: rig.Of(rig.Tunnel)}}
		side := rapid.SampledFrom([]rig.Side{"top", "underside", "outside"}).Draw(rt, "side")
		plan := rapid.SampledFrom([]*boardPlan{boardWide, boardTall}).Draw(rt, "plan")
		area := plan.of(side)
		if side == "top" { // clear of processor and corner
			area.W = area.W/2 - 2
		}
		x := rapid.Float64Range(area.X+8+slotWide/2, area.X+area.W-slotWide/2).Draw(rt, "x")
		y := rapid.Float64Range(area.Y+min(slotHigh, area.H)/2, area.Y+area.H-min(slotHigh, area.H)/2).Draw(rt, "y")
		s := &r.Host.Slots[0]
		s.Side = rig.Of(plan.sideAt(x, y, sideOf(s)))
		s.BoardX, s.BoardY = hundredth(x, plan.of(side).X, plan.of(side).W), hundredth(y, area.Y, area.H)
		b := drawBoard(r, plan, "").Slots[0]
		if s.Side.Value != side || b.X+b.W/2-x > 1 || x-b.X-b.W/2 > 1 || b.Y+b.H/2-y > 1 || y-b.Y-b.H/2 > 1 {
			rt.Fatalf("put at %.1f, %.1f on the %s; drawn at %.1f, %.1f on the %s", x, y, side, b.X+b.W/2, b.Y+b.H/2, s.Side.Value)
		}
	})
}
