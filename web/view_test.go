package web

import (
	"os"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kolvan/core/assess"
	"kolvan/core/reference"
	"kolvan/core/rig"
	"kolvan/core/units"
	"kolvan/demo"
)

func demoRig(t *testing.T, name string) (*rig.Rig, *assess.Report, *reference.Tables) {
	ref, err := reference.Load()
	require.NoError(t, err)
	rigs, err := demo.Rigs()
	require.NoError(t, err)
	for _, r := range rigs {
		if r.Name == name {
			report := assess.Rig(r, ref)
			return r, &report, ref
		}
	}
	require.Fail(t, "no such rig", name)
	return nil, nil, nil
}

func fieldAt(t *testing.T, f *form, path string) field {
	for _, field := range f.Fields {
		if field.Path == path {
			return field
		}
	}
	require.Fail(t, "no such field", path)
	return field{}
}

func TestFormOfASlot(t *testing.T) {
	r, _, _ := demoRig(t, "Dome-shed stacker")
	f := formFor(r, &r.Host.Slots[0], "/host/slots/0", false, nil)
	gen := fieldAt(t, f, "/host/slots/0/generation")
	assert.Equal(t, "papers", gen.Source)
	assert.True(t, gen.Numeric && gen.Known && gen.Fact)
	occupant := fieldAt(t, f, "/host/slots/0/occupant")
	assert.Equal(t, "select", occupant.Input)
	assert.Equal(t, choice{"boot drive", "boot drive", true}, occupant.Choices[2])
	carries := fieldAt(t, f, "/host/slots/0/carries")
	assert.Equal(
		t,
		[]choice{
			{"pcie", "PCIe", true}, {"sata", "SATA", true}, {"usb", "USB", false}, {"video", "video", false},
			{"radio", "radio", false},
		},
		carries.Choices,
	)
	for _, field := range f.Fields {
		assert.NotContains(t, field.Path, "tunnel", "an M.2 slot has no tunnel")
	}
}

func TestFieldsSayWhatCountsUnlessTold(t *testing.T) {
	r := rig.New("settings")
	form := formFor(r, &r.Sizing, "/sizing", false, nil)
	assert.Equal(t, "spikes, unless told", form.Fields[0].Choices[0].Label)
	assert.False(t, form.Fields[1].Open())
	assert.True(t, formFor(r, &r.Brief, "/brief", false, nil).Fields[0].Open(), "a budget that is not told is unknown")
}

// TestFieldsStandWhereTheyMeanSomething: what a key, a length in lanes or sense
// pins would say of this form, nobody is asked.
func TestFieldsStandWhereTheyMeanSomething(t *testing.T) {
	r, _, _ := demoRig(t, "Dome-shed stacker")
	shown := func(form rig.Form) (paths []string) {
		r.Host.Slots[0].Form = rig.Of(form)
		r.Host.Slots[0].Key = rig.Fact[rig.Key]{}
		for _, f := range formFor(r, &r.Host.Slots[0], "/s", false, nil).Fields {
			paths = append(paths, strings.TrimPrefix(f.Path, "/s/"))
		}
		return paths
	}
	assert.Contains(t, shown(rig.M2), "key")
	assert.NotContains(t, shown(rig.M2), "lanes_mechanical")
	assert.Subset(t, shown(rig.CardSlot), []string{"lanes_mechanical", "open_end", "power_limit_w"})
	assert.NotContains(t, shown(rig.CardSlot), "key")
	assert.Contains(t, shown(rig.Tunnel), "tunnel_gbit_s")
}

func TestFiguresKeepTheirUnits(t *testing.T) {
	assert.Equal(
		t, "66\u00a0W of 54\u00a0W (5.5\u00a0A), 80\u00a0%, Gen 3 where 4 lanes",
		glue("66 W of 54 W (5.5 A), 80 %, Gen 3 where 4 lanes"),
	)
}

// TestNamesAreEscapedInOptions: a slot may be called anything.
func TestNamesAreEscapedInOptions(t *testing.T) {
	f := field{Choices: []choice{{`"><script>`, "<b>", true}, {"x", "x", false}}}
	assert.Equal(t, `<option value="&#34;&gt;&lt;script&gt;" selected>&lt;b&gt;</option><option value="x">x</option>`, string(f.Options()))
}

func TestFormShowsInchesAndTakesThemBack(t *testing.T) {
	r, _, _ := demoRig(t, "Projector tower")
	shown := fieldAt(t, formFor(r, &r.Card, "/card", true, nil), "/card/length_mm")
	assert.Equal(t, "11.102 in", shown.Value)
	assert.Equal(t, "0.039 in", shown.Tolerance)
	require.NoError(t, rig.Set(r, "/card/length_mm", shown.Value))
	assert.InDelta(t, 282, float64(r.Card.Length.Value), 0.02)
}

func TestFormKeepsWhatWasRefused(t *testing.T) {
	r, _, _ := demoRig(t, "Field kit")
	f := formFor(r, &r.Card, "/card", false, &trouble{Path: "/card/mass_g", Typed: "heavy", Says: "no"})
	mass := fieldAt(t, f, "/card/mass_g")
	assert.Equal(t, "heavy", mass.Value)
	assert.Equal(t, "no", mass.Fault)
	assert.Empty(t, fieldAt(t, f, "/card/lanes").Fault)
}

// TestChangesAreNamedInWords: the line above says what was changed, not where in
// the file.
func TestChangesAreNamedInWords(t *testing.T) {
	r, _, _ := demoRig(t, "Dome-shed stacker")
	r.Host.Slots[1].Name = "slot 2"
	for path, want := range map[string]string{
		"/host/slots/1/lanes": "lanes wired of slot 2", "/host/slots/0/lanes": "lanes wired of slot m2-a", "/host/slots/0": "slot m2-a",
		"/card/bracket/height":      "bracket fitted of bracket",
		"/card/length_mm/tolerance": "tolerance of length", "/name": "name",
	} {
		assert.Equal(t, want, placeWords(r, path))
	}
	assert.Equal(t, "M.2", valueWords(r, "/host/slots/0/form", "m2"))
	assert.Equal(t, "unknown", valueWords(r, "/host/slots/0/form", ""))
}

func TestEveryThingHasAForm(t *testing.T) {
	r, _, _ := demoRig(t, "Projector tower")
	for path, title := range map[string]string{
		"/host": "host: Menhir Tower", "/card": "card: Skua 16G", "/supplies/0": "supply: Lantern 400", "/leads/0/from/0": "source end",
		"/chamber/things/1": "obstacle: memory latches", "/brief": "what it is for",
	} {
		thing, _, err := rig.At(r, path)
		require.NoError(t, err)
		assert.Equal(t, title, titleOf(thing, path))
		assert.NotEmpty(t, formFor(r, thing.Addr().Interface(), path, false, nil).Fields, path)
	}
}

func TestStrandsAreCutWhereTheyAreNotWired(t *testing.T) {
	r, report, _ := demoRig(t, "Ticket-desk all-in-one")
	d := drawRoute(r, report, "/route/stages/1", false)
	assert.Equal(t, 15, strings.Count(d.Cuts, "M"), "fifteen of sixteen end at the wireless slot")
	live := 0
	for _, l := range d.Lines {
		if strings.HasPrefix(l.Class, "strand gen2") {
			live += strings.Count(l.Path, "M")
		}
	}
	assert.Equal(t, 6, live, "one strand through five gaps, and the card")
	assert.Equal(t, "One lane of the card's 16: wireless slot has no more", d.Title)
	chosen := 0
	for _, b := range d.Boxes {
		if b.Chosen {
			chosen++
		}
	}
	assert.Equal(t, 1, chosen)
	for i := range d.Boxes[1:] {
		assert.Greater(t, d.Boxes[i+1].X, d.Boxes[i].X+d.Boxes[i].W, "boxes stand clear of each other")
	}
}

func TestSlotWithoutPCIeIsDrawnAsNoLink(t *testing.T) {
	r, _, ref := demoRig(t, "Dome-shed stacker")
	r.Host.Slots[0].Carries = rig.Of([]rig.Carried{"sata"})
	report := assess.Rig(r, ref)
	assert.Equal(t, "No lane reaches the card", drawRoute(r, &report, "", false).Title)
	assert.Contains(t, laneStatement(&report), "The slot carries no PCIe: there will be no link.")
	for _, s := range stations(&Desk{Rig: r, Report: &report, Station: "route"}, subjectsOf(&report, r, false)) {
		if s.Key == "route" {
			assert.Equal(t, "no PCIe", s.Figure)
		}
	}
}

func TestRouteOfNothingSaysWhatToDo(t *testing.T) {
	r := rig.New("new")
	ref, err := reference.Load()
	require.NoError(t, err)
	report := assess.Rig(r, ref)
	assert.Contains(t, drawRoute(r, &report, "", false).Empty, "no slots yet")
	assert.Contains(t, drawPower(r, &report, "").Empty, "No supply yet")
	room := drawFit(r, &report, nil, ref, "", false)
	assert.Contains(t, room.Note, "a dashed wall is not measured yet")
	assert.Len(t, room.Places, 3, "each edge has its field")
	assert.NotEmpty(t, room.Views[0].Guessed)
	assert.Equal(t, hostStep, stepOf(r, &report))
}

func TestBandsAreAsThickAsTheirAmps(t *testing.T) {
	r, report, _ := demoRig(t, "Dome-shed stacker")
	d := drawPower(r, report, "/leads/0")
	bands := map[string]band{}
	for _, b := range d.Bands {
		bands[b.Name] = b
	}
	disk, card := bands["disk lead to the dock"], bands["card lead"]
	assert.Equal(t, "over", disk.Class)
	assert.True(t, disk.Chosen)
	assert.Greater(t, disk.Load, disk.May, "more than it may carry")
	assert.Equal(t, "live", card.Class)
	assert.InDelta(t, card.Load/card.May, 115.0/150, 1e-6)
	assert.Contains(t, bands, "through the slot")
	for i, a := range d.Labels {
		for _, b := range d.Labels[:i] {
			apart := a.X-b.X >= 90 || b.X-a.X >= 90 || a.Y-b.Y >= 20 || b.Y-a.Y >= 20
			assert.True(t, apart, "%s stands on %s", a.Text, b.Text)
		}
	}
}

func TestFacesOpenPinOnPin(t *testing.T) {
	r, report, _ := demoRig(t, "Dome-shed stacker")
	opened := joints(r, report, "/leads/1")
	require.Len(t, opened, 2)
	socket, plug := opened[0].Faces[0], opened[0].Faces[1]
	assert.Equal(t, pin{Number: 1, Name: "+12", Class: "yellow", Touches: 1}, socket.Rows[1][0], "the first row is below")
	assert.Equal(t, pin{Number: 5, Name: "GND", Class: "black", Touches: 5}, socket.Rows[0][0], "the latch is beside the last")
	assert.Equal(t, 4, plug.Rows[1][0].Number, "the plug is the mirror of its socket")
	assert.Nil(t, joints(r, report, "/card"))

	r.Leads[1].From[0].At, r.Leads[1].From[0].Connector = "processor", rig.Of(rig.Connector("card-8"))
	again := assess.Rig(r, tables(t))
	wrong := joints(r, &again, "/leads/1")[0]
	assert.Contains(t, wrong.Says, "6 contacts")
	assert.True(t, wrong.Faces[0].Rows[1][0].Bad)
	require.Len(t, wrong.Drawn.Joins, 8, "every contact is joined with the one it touches")
	bad := 0
	for _, j := range wrong.Drawn.Joins {
		if j.Bad {
			bad++
		}
	}
	assert.Equal(t, 6, bad)
	assert.True(t, wrong.Faces[0].Rows[1][0].Decides, "what meets the wrong thing decides")

	overloaded := joints(r, report, "/leads/0")[0]
	assert.Equal(t, "Connector carries more than it may", overloaded.Rules)
	for _, f := range overloaded.Faces {
		for _, p := range f.Rows[0] {
			assert.Equal(t, p.Name == "+12", p.Decides, "contact %d", p.Number)
		}
	}
	below := overloaded.Drawn.Pins[len(overloaded.Faces[0].Rows[0]):]
	assert.Equal(t, overloaded.Drawn.Pins[0].X, below[0].X, "a long row stands under the one it touches")
	assert.Equal(t, overloaded.Drawn.Pins[0].Number, below[0].Number)
}

// TestFacesOfEveryKind: whatever goes into itself is drawn, every contact inside its
// shell and joined with the one it touches, the ways nested and not crossed.
func TestFacesOfEveryKind(t *testing.T) {
	r, _, ref := demoRig(t, "Dome-shed stacker")
	for _, word := range rig.Connector("").Words().All() {
		c := rig.Connector(word)
		r.Leads = []rig.Lead{{
			Name: "lead", From: []rig.LeadEnd{{Part: r.Supplies[1].Name, Connector: rig.Of(c)}},
			To: []rig.LeadEnd{{At: "free", Connector: rig.Of(c)}},
		}}
		report := assess.Rig(r, ref)
		opened := joints(r, &report, "/leads/0")
		require.Len(t, opened, 2)
		if word == "proprietary" {
			assert.Nil(t, opened[0].Drawn)
			continue
		}
		d, pins := opened[0].Drawn, len(report.Power.Pins(c))
		require.NotNil(t, d, word)
		assert.LessOrEqual(t, d.Width, 870.0, "%s is seen whole", word)
		assert.Len(t, d.Pins, 2*pins, word)
		assert.Len(t, d.Shells, 2)
		assert.NotEmpty(t, d.Joins)
		rows := report.Power.Rows(c)
		if len(rows) <= 2 {
			assert.Len(t, d.Joins, pins, word)
		} else {
			assert.Len(t, d.Joins, pins-rows[1]+1, "one line for the row in the middle")
		}
		for _, p := range d.Pins {
			assert.Positive(t, p.X)
			assert.LessOrEqual(t, p.X+p.W, d.Width, word)
			assert.LessOrEqual(t, p.Y+p.H, d.Height, word)
		}
		assert.Len(t, opened[1].Drawn.Joins, 0, "a free end touches nothing")
	}
}

// TestACardInTheOpenIsDrawn as large as it is, with no walls and nothing to drag it against.
func TestACardInTheOpenIsDrawn(t *testing.T) {
	r, report, ref := demoRig(t, "Dome-shed stacker")
	d := drawFit(r, report, nil, ref, "", false)
	require.Len(t, d.Views, 3)
	for k, wanted := range [][2]float64{{238, 98}, {41, 98}, {238, 41}} {
		v := d.Views[k]
		require.Len(t, v.Boxes, 1)
		assert.InDelta(t, wanted[0]*d.Scale, v.Boxes[0].W, 0.01, v.Name)
		assert.InDelta(t, wanted[1]*d.Scale, v.Boxes[0].H, 0.01, v.Name)
		assert.Nil(t, v.Card, "it stands nowhere")
	}
	assert.Contains(t, d.Note, "nothing to meet")
	r.Card.Thickness = rig.Fact[units.Millimetre]{}
	assert.Contains(t, drawFit(r, report, nil, ref, "", false).Empty, "nothing to meet", "its size is not known")
}

// TestWaysOnTheFitDrawing: a hinge shows in the view along it, a rail in those beside
// it, a strike where it is found, and a cable as it runs.
func TestWaysOnTheFitDrawing(t *testing.T) {
	r, _, ref := demoRig(t, "Projector tower")
	for path, value := range map[string]string{
		"/card/length_mm": "240", "/chamber/covers/0/hinge/axis": "z", "/chamber/covers/0/hinge/at/x_mm": "334",
		"/chamber/covers/0/hinge/at/y_mm": "170", "/chamber/covers/0/hinge/opens_deg": "-100",
		"/chamber/covers/1/kind": "slide", "/chamber/covers/1/slide/axis": "x", "/chamber/covers/1/slide/by_mm": "-340",
	} {
		require.NoError(t, rig.Set(r, path, value), path)
	}
	at := func(x, y, z units.Millimetre) rig.Corner {
		return rig.Corner{Place: rig.Place{X: rig.Of(x), Y: rig.Of(y), Z: rig.Of(z)}}
	}
	r.Route.Stages = []rig.Stage{{Name: "riser", Kind: rig.Of(rig.Cable), Path: []rig.Corner{at(0, 0, 0), at(50, 0, 0), at(50, 60, 0)}}}
	report := assess.Rig(r, ref)
	classes := map[string][]string{}
	for _, v := range drawFit(r, &report, nil, ref, "", false).Views {
		for _, w := range v.Ways {
			classes[v.Name] = append(classes[v.Name], w.Class)
			assert.NotContains(t, w.Path, "NaN")
		}
	}
	assert.Equal(
		t, map[string][]string{"side": {"way", "arc", "strikes", "way", "cable"}, "end": {"cable"}, "plan": {"way", "cable"}},
		classes,
	)
	r.Route.Stages[0].Path[1].X = rig.Fact[units.Millimetre]{}
	for _, v := range drawFit(r, &report, nil, ref, "", false).Views {
		for _, w := range v.Ways {
			assert.NotEqual(t, "cable", w.Class, "not while a corner is not told")
		}
	}
}

func tables(t *testing.T) *reference.Tables {
	ref, err := reference.Load()
	require.NoError(t, err)
	return ref
}

// TestLoadStepsLoadTheDrawing: a band of the card's spikes makes the leads of the
// card thicker and says what the supply rides out.
func TestLoadStepsLoadTheDrawing(t *testing.T) {
	r, report, _ := demoRig(t, "Dome-shed stacker")
	sustained, spike := drawPower(r, report, ""), drawPower(r, report, "")
	spike.load(r, report, "0.1")
	assert.Equal(t, "sustained", sustained.Steps[0].Label)
	assert.True(t, spike.Steps[4].Here)
	assert.Contains(t, spike.Rides, "rides out 715–825 W")
	for i := range sustained.Bands {
		if sustained.Bands[i].Name == "card lead" {
			assert.Greater(t, spike.Bands[i].Load, sustained.Bands[i].Load)
		}
	}
}

// TestFeedsOfferOnlyWhatGoesIn: the look-alike eight-pin is not among them.
func TestFeedsOfferOnlyWhatGoesIn(t *testing.T) {
	r, _, ref := demoRig(t, "Projector tower")
	d := &Desk{Rig: r, Ref: ref, Sel: "/card/plugs/1"}
	r.Supplies[0].Outlets = append(r.Supplies[0].Outlets, rig.Outlet{Name: "second", Connector: rig.Of(rig.Connector("card-8"))})
	feeds, _ := feedOptions(d)
	assert.Equal(t, []feedOption{{"Lantern 400\nsecond\ncard\nB", "Lantern 400, second, a card 8-pin"}}, feeds)

	r, _, ref = demoRig(t, "Dome-shed stacker")
	feeds, _ = feedOptions(&Desk{Rig: r, Ref: ref, Sel: "/route/stages/2"})
	var labels []string
	for _, f := range feeds {
		labels = append(labels, f.Label)
	}
	assert.Contains(t, labels, "Lantern 550, peripheral 1, a peripheral 4-pin (old disk drives), into peripheral")
	assert.Contains(t, labels, "Lantern 550, disk 2, a disk 15-pin (SATA power), into disk")
	assert.NotContains(t, labels, "Lantern 550, disk 1, a disk 15-pin (SATA power), into disk", "in use")
}

func TestFitViewsShareOneScale(t *testing.T) {
	r, report, ref := demoRig(t, "Projector tower")
	d := drawFit(r, report, []rig.Card{r.Card}, ref, "/card", false)
	require.Len(t, d.Views, 3)
	side, end, plan := d.Views[0], d.Views[1], d.Views[2]
	assert.InDelta(t, 282*d.Scale, side.Card.W, 1e-6)
	assert.InDelta(t, 282*d.Scale, plan.Card.W, 1e-6)
	assert.InDelta(t, side.Card.H, end.Card.H, 1e-6)
	assert.InDelta(t, end.Card.W, plan.Card.H, 1e-6)
	assert.Equal(t, "over", side.Gap.Class)
	assert.Nil(t, end.Gap, "the end view does not show the length")
	for _, v := range d.Views {
		assert.LessOrEqual(t, v.X+v.W, float64(drawingWidth))
		assert.LessOrEqual(t, v.Y+v.H, d.Height)
	}
	assert.Equal(
		t,
		[]slack{{Y: fitTop + 30, Name: "Skua 16G", Text: "−3 mm", Meets: "Skua 16G meets drive cage first", Here: true, No: true}},
		d.Slacks,
	)
}

func TestStationsShowTheirWorstAndTheirFigure(t *testing.T) {
	r, report, _ := demoRig(t, "Dome-shed stacker")
	byKey := map[string]station{}
	for _, s := range stations(&Desk{Rig: r, Report: report, Station: "power"}, subjectsOf(report, r, false)) {
		byKey[s.Key] = s
	}
	assert.Equal(t, station{Key: "route", Label: "Route", Figure: "no boot drive", Level: "blocked"}, byKey["route"])
	assert.Equal(t, station{Key: "power", Label: "Power", Figure: "disk lead 141 %", Level: "danger", Here: true}, byKey["power"])
	assert.Equal(t, "104 kr left", byKey["brief"].Figure)
	assert.Equal(t, "not proven", byKey["proof"].Figure)
	assert.Equal(t, "596 kr", byKey["ledger"].Figure)
}

func TestUnknownFactsOfTheHostBelongToTheSurvey(t *testing.T) {
	r, _, ref := demoRig(t, "Dome-shed stacker")
	r.Host.Slots[0].Lanes = rig.Fact[int]{}
	report := assess.Rig(r, ref)
	for _, s := range stations(&Desk{Rig: r, Report: &report, Station: "survey"}, subjectsOf(&report, r, false)) {
		if s.Key == "survey" {
			assert.Equal(t, "1 to find", s.Figure)
			assert.Equal(t, "unknown", s.Level)
		}
	}
	assert.Contains(t, laneStatement(&report)[1], "are known: the link may be x1–4")
}

func TestWrapKeepsWithinWidthAndLines(t *testing.T) {
	assert.Equal(t, []string{"M.2 to", "link", "socket"}, wrap("M.2 to link socket", 7, 3))
	assert.Equal(t, []string{"M.2 to", "link …"}, wrap("M.2 to link socket", 7, 2))
	assert.Equal(t, []string{"unbr…le"}, wrap("unbreakable", 7, 2))
	assert.Equal(t, []string{""}, wrap("", 7, 2))
}

// TestTemplatesHoldNothingInline: the content policy allows no inline script or
// style, and forms carry the token.
func TestTemplatesHoldNothingInline(t *testing.T) {
	entries, err := os.ReadDir("templates")
	require.NoError(t, err)
	for _, e := range entries {
		text, err := os.ReadFile("templates/" + e.Name())
		require.NoError(t, err)
		page := string(text)
		if e.Name() != "sheet_alone.html" { // a file of its own, which nobody serves
			assert.NotRegexp(t, `\sstyle=|\son[a-z]+=|<style|<script>`, page, e.Name())
		}
		assert.Equal(t, strings.Count(page, `method="post"`), strings.Count(page, `name="_csrf"`), e.Name())
	}
}
