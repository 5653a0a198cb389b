package web_test

import (
	"archive/zip"
	"encoding/xml"
	"io"
	"net/http"
	"regexp"
	"strings"
	"testing"

	"github.com/go-rod/rod/lib/input"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kolvan/core/rig"
	"kolvan/core/units"
)

// TestLedgerIsEditedInPlace: a part nothing was told of gets its line, a price is a number or
// a range, what is paid is owned; a wrong one keeps nothing.
func TestLedgerIsEditedInPlace(t *testing.T) {
	app, s := bench(t)
	c := newClient(t, app)
	_, page := c.get("/rigs/1/ledger")
	for _, says := range []string{
		"596 kr to pay", "146 kr forced by the route", "stop unless any card", "module 42\u00a0mm long", "596 kr",
	} {
		assert.Contains(t, saidBy(page), says)
	}
	set := func(field, value string) (int, string) {
		return c.post(
			"/rigs/1/ledger", "rev", c.rev(1), "station", "ledger", "index", "-1", "part", "Corvane 16G", "field", field, "value",
			value,
		)
	}
	status, page := set("price", "420-450")
	require.Equal(t, http.StatusOK, status)
	assert.Contains(t, saidBy(page), "566 to 596 kr to pay")
	line := kept(t, s, 1).Ledger.Lines[0]
	assert.Equal(t, [3]any{"Corvane 16G", units.Money(435), 15.0}, [3]any{line.Part, line.Price.Value, line.Price.Tolerance})

	at := func(field, value string) (int, string) {
		return c.post(
			"/rigs/1/ledger", "rev", c.rev(1), "station", "ledger", "index", "0", "part", "Corvane 16G", "field", field, "value",
			value,
		)
	}
	for value, says := range map[string]string{"450-420": "lower end first", "dear": "dear"} {
		status, page = at("price", value)
		assert.Equal(t, http.StatusUnprocessableEntity, status)
		assert.Contains(t, saidBy(page), says)
	}
	assert.Equal(t, units.Money(435), kept(t, s, 1).Ledger.Lines[0].Price.Value)
	status, page = at("return_by", "tomorrow")
	assert.Equal(t, http.StatusUnprocessableEntity, status)
	assert.Contains(t, saidBy(page), "Can go back until: tomorrow is not accepted")
	status, _ = at("return_by", "2026-06-09")
	assert.Equal(t, http.StatusOK, status)
	status, page = at("state", "paid")
	require.Equal(t, http.StatusOK, status)
	assert.True(t, rig.Is(kept(t, s, 1).Card.Owned, true))
	assert.Contains(t, saidBy(page), "146 kr to pay")
	assert.Contains(t, saidBy(page), "119 kr left", "what is paid counts against the budget")
	for _, wrong := range [][2]string{{"7", "price"}, {"x", "price"}, {"0", "part"}} {
		status, _ = c.post("/rigs/1/ledger", "rev", c.rev(1), "station", "ledger", "index", wrong[0], "field", wrong[1], "value", "3")
		assert.NotEqual(t, http.StatusOK, status)
	}

	status, page = c.post(
		"/rigs/1/ledger-line", "rev", c.rev(1), "station", "ledger", "name", "evening", "kind", "hours", "price", "3-5",
		"need", "chosen", "state", "paid",
	)
	require.Equal(t, http.StatusOK, status)
	assert.Contains(t, saidBy(page), "3 to 5 h")
	status, page = c.post("/rigs/1/ledger-line", "rev", c.rev(1), "station", "ledger", "name", "", "price", "12")
	assert.Equal(t, http.StatusUnprocessableEntity, status)
	assert.Contains(t, page, `name="price" value="12"`, "what was typed stays")

	_, table := c.get("/rigs/1/ledger.csv")
	before := kept(t, s, 1).Ledger.Lines
	status, _ = c.upload("/rigs/1/ledger-table", "table", map[string]string{"ledger.csv": table}, "rev", c.rev(1), "station", "ledger")
	require.Equal(t, http.StatusOK, status)
	assert.ElementsMatch(t, before, kept(t, s, 1).Ledger.Lines, "out and in again is the same")
	status, page = c.upload(
		"/rigs/1/ledger-table", "table", map[string]string{"ledger.csv": "what,colour\na,red\n"}, "rev", c.rev(1), "station",
		"ledger",
	)
	assert.Equal(t, http.StatusUnprocessableEntity, status)
	assert.Contains(t, saidBy(page), "column colour")
	assert.ElementsMatch(t, before, kept(t, s, 1).Ledger.Lines)
}

// TestLedgerByKeyboard: to the station by its letter, down a column by the arrows, typed,
// undone.
func TestLedgerByKeyboard(t *testing.T) {
	t.Parallel()
	p := sitDown(t)
	p.open("/rigs/1/route")
	p.press(input.KeyG, input.KeyD)
	p.sees(".here", "Ledger")
	p.find(".ledger-lines .read.num").MustFocus()
	p.press(input.ArrowDown)
	assert.Equal(t, "price, Corvane 16G: 450; change it", p.page.MustEval(`() => document.activeElement.getAttribute('aria-label')`).String())
	p.press(input.Enter)
	p.page.MustInsertText("400-430")
	p.press(input.Tab)
	p.sees(".money figcaption", "546 to 576")
	p.page.MustEval(`() => document.activeElement.blur()`)
	p.press(input.KeyZ)
	p.sees(".money figcaption", "596")
	p.fill(".ledger-add input[name=name]", "postage")
	p.fill(".ledger-add input[name=price]", "12")
	p.choose(".ledger-add select[name=state]", "to buy")
	p.click(".ledger-add button", "add it")
	p.sees(".money figcaption", "608")
	p.page.MustReload().MustWaitLoad()
	p.sees(".ledger-lines", "postage")
	require.NotEmpty(t, strings.TrimSpace(p.find(".buy").MustText()))
}

// TestSheetStandsAsChosen: each part can be left out, money and diary stand on it only where
// they are asked for; its archive holds the pictures it names.
func TestSheetStandsAsChosen(t *testing.T) {
	app, s := bench(t)
	c := newClient(t, app)
	keepDemo(t, s, plans)
	_, usual := c.get("/rigs/5/sheet")
	_, chosen := c.get("/rigs/5/sheet?chosen=1&part=costs&part=diary&part=fit")
	for part, of := range map[string]string{
		"<h3>Costs</h3>": chosen, "<h3>Diary</h3>": chosen, "<h3>Power</h3>": usual, "<h3>Open</h3>": usual,
		"<h3>Plan, and found</h3>": usual,
	} {
		other := usual
		if of == usual {
			other = chosen
		}
		assert.Contains(t, of, part)
		assert.NotContains(t, other, part)
	}
	assert.Contains(t, chosen, `href="/rigs/5/sheet.md?chosen=1&amp;part=fit&amp;part=costs&amp;part=diary"`)
	_, text := c.get("/rigs/5/sheet.md?chosen=1&part=costs")
	assert.Contains(t, text, "## Costs")
	assert.NotContains(t, text, "## Power")
	_, page := c.get("/rigs/5/sheet.html")
	assert.NotContains(t, page, "<script")

	require.NoError(t, s.KeepPicture(t.Context(), 5, "seat-card", []byte("picture")))
	_, packed := c.get("/rigs/5/sheet.zip")
	z, err := zip.NewReader(strings.NewReader(packed), int64(len(packed)))
	require.NoError(t, err)
	held := map[string]string{}
	for _, f := range z.File {
		r, err := f.Open()
		require.NoError(t, err)
		text, err := io.ReadAll(r)
		require.NoError(t, err)
		held[f.Name] = string(text)
	}
	for _, m := range regexp.MustCompile(`!\[[^\]]*\]\(([^)]*)\)`).FindAllStringSubmatch(held["sheet.md"], -1) {
		assert.NotEmpty(t, held[m[1]], m[1])
	}
	assert.Len(t, held, 3)
	require.NoError(t, xml.Unmarshal([]byte(held["pictures/lanes.svg"]), new(struct{})))
	status, _ := c.get("/rigs/5/sheet.pdf")
	assert.Equal(t, http.StatusNotFound, status)
}
