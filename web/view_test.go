package web

import (
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kolvan/core/assess"
	"kolvan/core/reference"
	"kolvan/core/rig"
	"kolvan/web/fields"
	"kolvan/web/fit"
	"kolvan/web/power"
	"kolvan/web/room"
	"kolvan/web/roomtest"
	"kolvan/web/route"
	"kolvan/web/sheet"
	"kolvan/web/verdict"
)

func TestFiguresKeepTheirUnits(t *testing.T) {
	assert.Equal(
		t, "66\u00a0W of 54\u00a0W (5.5\u00a0A), 80\u00a0%, Gen 3 where 4 lanes",
		glue("66 W of 54 W (5.5 A), 80 %, Gen 3 where 4 lanes"),
	)
}

// TestChangesAreNamedInWords: the line above says what was changed, not where in
// the file.
func TestChangesAreNamedInWords(t *testing.T) {
	r, _, _ := roomtest.Demo(t, "Dome-shed stacker")
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
	r, _, _ := roomtest.Demo(t, "Projector tower")
	for path, title := range map[string]string{
		"/host": "host: Menhir Tower", "/card": "card: Skua 16G", "/supplies/0": "supply: Lantern 400", "/leads/0/from/0": "source end",
		"/chamber/things/1": "obstacle: memory latches", "/brief": "what it is for",
	} {
		thing, _, err := rig.At(r, path)
		require.NoError(t, err)
		assert.Equal(t, title, titleOf(thing, path))
		assert.NotEmpty(t, fields.For(r, thing.Addr().Interface(), path, false, nil).Fields, path)
	}
}

func TestSlotWithoutPCIeIsDrawnAsNoLink(t *testing.T) {
	r, _, ref := roomtest.Demo(t, "Dome-shed stacker")
	r.Host.Slots[0].Carries = rig.Of([]rig.Carried{"sata"})
	report := assess.Rig(r, ref)
	assert.Equal(t, "No lane reaches the card", route.Draw(r, &report, "", false).Title)
	assert.Contains(t, sheet.LaneStatement(&report), "The slot carries no PCIe: there will be no link.")
	for _, s := range stations(&room.Desk{Rig: r, Report: &report, Station: "route"}, verdict.SubjectsOf(&report, r, false)) {
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
	assert.Contains(t, route.Draw(r, &report, "", false).Empty, "no slots yet")
	assert.Contains(t, power.Draw(r, &report, "").Empty, "No supply yet")
	room := fit.Draw(r, &report, nil, ref, "", false)
	assert.Contains(t, room.Note, "a dashed wall is not measured yet")
	assert.Len(t, room.Places, 3, "each edge has its field")
	assert.NotEmpty(t, room.Views[0].Guessed)
	assert.Equal(t, hostStep, stepOf(r, &report))
}

func TestStationsShowTheirWorstAndTheirFigure(t *testing.T) {
	r, report, _ := roomtest.Demo(t, "Dome-shed stacker")
	byKey := map[string]station{}
	for _, s := range stations(&room.Desk{Rig: r, Report: report, Station: "power"}, verdict.SubjectsOf(report, r, false)) {
		byKey[s.Key] = s
	}
	assert.Equal(t, station{Key: "route", Label: "Route", Figure: "no boot drive", Level: "blocked"}, byKey["route"])
	assert.Equal(t, station{Key: "power", Label: "Power", Figure: "disk lead 141 %", Level: "danger", Here: true}, byKey["power"])
	assert.Equal(t, "104 kr left", byKey["brief"].Figure)
	assert.Equal(t, "not proven", byKey["proof"].Figure)
	assert.Equal(t, "596 kr", byKey["ledger"].Figure)
}

func TestUnknownFactsOfTheHostBelongToTheSurvey(t *testing.T) {
	r, _, ref := roomtest.Demo(t, "Dome-shed stacker")
	r.Host.Slots[0].Lanes = rig.Fact[int]{}
	report := assess.Rig(r, ref)
	for _, s := range stations(&room.Desk{Rig: r, Report: &report, Station: "survey"}, verdict.SubjectsOf(&report, r, false)) {
		if s.Key == "survey" {
			assert.Equal(t, "1 to find", s.Figure)
			assert.Equal(t, "unknown", s.Level)
		}
	}
	assert.Contains(t, sheet.LaneStatement(&report)[1], "are known: the link may be x1–4")
}

// TestTemplatesHoldNothingInline: the content policy allows no inline script or
// style, and forms carry the token.
func TestTemplatesHoldNothingInline(t *testing.T) {
	files, err := filepath.Glob("*/*.html")
	require.NoError(t, err)
	for _, file := range files {
		text, err := os.ReadFile(file)
		require.NoError(t, err)
		page := string(text)
		if file != "sheet/sheet_alone.html" { // a file of its own, which nobody serves
			assert.NotRegexp(t, `\sstyle=|\son[a-z]+=|<style|<script>`, page, file)
		}
		assert.Equal(t, strings.Count(page, `method="post"`), strings.Count(page, `name="_csrf"`), file)
	}
}
