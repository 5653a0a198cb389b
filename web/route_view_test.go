package web

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"kolvan/core/assess"
	"kolvan/core/rig"
	"kolvan/core/units"
	_ "kolvan/internal/oneseed"
)

// TestLossIsDrawnAsItIsWorkedOut: a row for every speed up to the planned one, pieces in
// a row without a gap, the budget where it ends, and nothing through a tunnel.
func TestLossIsDrawnAsItIsWorkedOut(t *testing.T) {
	r, report, ref := demoRig(t, "Dome-shed stacker")
	d := drawLoss(report, "/route/stages/1")
	require.Len(t, d.Rows, 3)
	assert.Equal(t, []string{"Gen 3", "Gen 2", "Gen 1"}, []string{d.Rows[0].Label, d.Rows[1].Label, d.Rows[2].Label})
	assert.True(t, d.Rows[0].Planned)
	chosen := 0
	for _, row := range d.Rows {
		x := lossLeft
		for _, b := range row.Bars {
			assert.InDelta(t, x, b.X, 0.01, b.Title)
			x = b.X + b.W
			chosen += ofBool(b.Chosen)
		}
		assert.Less(t, x, row.Budget, "%s is comfortable", row.Label)
		assert.Contains(t, row.Words, "comfortable")
	}
	assert.Positive(t, chosen, "the stage that is chosen is marked")
	assert.Empty(t, d.Aside, "all of it is known")

	r.Route.Stages[1].Length = rig.Fact[units.Millimetre]{}
	r.Route.Stages[1].Repeats = rig.Of(rig.Retimer)
	again := assess.Rig(r, ref)
	d = drawLoss(&again, "")
	starts := 0
	for _, b := range d.Rows[0].Bars {
		starts += ofBool(b.X == lossLeft)
	}
	assert.Equal(t, 2, starts, "behind a retimer the loss begins anew")
	assert.NotEmpty(t, d.Rows[0].Open)
	assert.Equal(t, "hatched: may be lost too", d.Aside)

	r.Host.Slots[0].Form = rig.Of(rig.Tunnel)
	again = assess.Rig(r, ref)
	assert.Nil(t, drawLoss(&again, ""))
	assert.Equal(t, "its tunnel's own", marginFigure(again.Link))
}

// TestLanesOnPaper: what is drawn as live is what the plan gives, on the sheet and in
// the stamp.
func TestLanesOnPaper(t *testing.T) {
	_, report, _ := demoRig(t, "Ticket-desk all-in-one")
	paper := drawPaper(report)
	require.Len(t, paper.Posts, len(report.Link.Elements))
	assert.Equal(t, "Effective lanes: x1 Gen 2", paper.Label)
	for _, lit := range []string{paper.Lit, drawMini(report).Lit} {
		segments := 0
		for i := range lit {
			segments += ofBool(lit[i] == 'M')
		}
		assert.Equal(t, len(report.Link.Elements), segments, "one live strand to every post")
	}
	report.Link.Elements = nil
	assert.Nil(t, drawPaper(report))
}

// TestSettingsForTheHost: what has to be set is said where it applies, and not else.
func TestSettingsForTheHost(t *testing.T) {
	r, report, ref := demoRig(t, "Dome-shed stacker")
	assert.Equal(t, []string{"Sound may move with the picture to the card's output: choose it again in the system."}, settings(r, report))
	r.Route.ForcedGen = rig.Of(2)
	r.Host.Kind = rig.Of(rig.HostKind("notebook"))
	r.Host.Panel = rig.Of(rig.PanelDead)
	r.Host.Slots[0].Form = rig.Of(rig.Tunnel)
	again := assess.Rig(r, ref)
	list := settings(r, &again)
	for _, want := range []string{"Hold the slot to Gen 2", "Gadgets chained behind the box share its rate", "lid closed", "touch layer"} {
		assert.Contains(t, strings.Join(list, "\n"), want)
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

// TestWhereToLook: each place says what is open there, and leads to it.
func TestWhereToLook(t *testing.T) {
	r := rig.New("seen")
	states := func() (list []string) {
		for _, at := range walkOf(r, "") {
			list = append(list, at.State)
		}
		return list
	}
	assert.Equal(t, []string{"no slot yet", "no slot yet", "no slot yet", "3 to find", "3 to find"}, states())
	r.Host.Slots = []rig.Slot{
		{Name: "port", Form: rig.Of(rig.Tunnel)}, {Name: "below", Side: rig.Of(rig.Side("underside")), Form: rig.Of(rig.M2)},
	}
	r.Host.Memory, r.Host.System, r.Host.Proc.Name = rig.Of(units.Gibibyte(8)), rig.Of("any"), "Finch 4"
	assert.Equal(t, []string{"5 to find", "no slot yet", "6 to find", "3 to find", "seen"}, states())
	assert.Equal(t, "/host/slots/1", walkOf(r, "")[2].Sel)
}

// TestListedBesideFound: each row with its verdict; what was not listed has none.
func TestListedBesideFound(t *testing.T) {
	r, report, ref := demoRig(t, "Dome-shed stacker")
	rows := listedRows(r, report)
	require.Len(t, rows, 2)
	assert.Equal(
		t,
		listedRow{
			What: "m2-a, generation", Listed: "Gen 4", Found: "Gen 3", Source: "papers", Level: "risk", Says: rows[0].Says,
			Sel: "/host/slots/0",
		},
		rows[0],
	)
	assert.Equal(t, "m2-a runs at Gen 3; the listing promised Gen 4.", rows[0].Says)
	assert.Equal(t, "note", rows[1].Level, "more memory than was sold")
	r.Host.Listed = rig.Listed{Processor: rig.Of("Finch 6")}
	r.Host.Slots[0].SaidGen = rig.Fact[int]{}
	again := assess.Rig(r, ref)
	rows = listedRows(r, &again)
	require.Len(t, rows, 1)
	assert.Equal(t, "risk", rows[0].Level)
}
