package web_test

import (
	"encoding/xml"
	"fmt"
	"net/http"
	"os"
	"path/filepath"
	"regexp"
	"strings"
	"testing"

	"kolvan/store"

	"github.com/go-rod/rod/lib/input"
	"github.com/go-rod/rod/lib/proto"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// TestSideBySide: what differs is said in words; one rig, or seven, are no comparison.
func TestSideBySide(t *testing.T) {
	app, _ := bench(t)
	c := newClient(t, app)
	_, page := c.get("/compare?rig=1&rig=4")
	for _, wanted := range []string{
		"They differ in the host, the slot, the card", "x4 Gen 3", "danger: Slot asked for more than it may give",
	} {
		assert.Contains(t, page, wanted)
	}
	assert.Contains(t, page, "2.7\u00a0s <span class=\"better\">▲ better</span>")
	assert.Contains(t, page, "overloaded without them")
	assert.Equal(t, 1, strings.Count(page, `93 kr <span class="better">`)-1, "cost, and what is still to buy")
	_, page = c.get("/compare?rig=1&rig=1")
	assert.NotContains(t, page, "better</span>", "of two alike none is better")
	assert.Contains(t, page, "They come to the same")
	for path, want := range map[string]int{"/compare": http.StatusUnprocessableEntity, "/compare?rig=1": http.StatusUnprocessableEntity,
		"/compare?rig=1&rig=x":  http.StatusUnprocessableEntity,
		"/compare?rig=1&rig=99": http.StatusNotFound, "/compare?rig=1&rig=2&rig=3&rig=4&rig=1&rig=2&rig=3": http.StatusUnprocessableEntity} {
		status, _ := c.get(path)
		assert.Equal(t, want, status, path)
	}
}

func TestTheBenchShowsRouteTroubleAndWhatIsNext(t *testing.T) {
	app, _ := bench(t)
	_, page := newClient(t, app).get("/")
	for _, wanted := range []string{`class="mini gen3"`, "disk lead to the dock carries 6.4 of its 4.5 A.", "Card plug B has no feed.",
		"Two must not be switched on yet"} {
		assert.Contains(t, page, wanted)
	}
}

// TestRigsAreFoundByTheirTags, set in the brief; what is no JSON any more has none
// and harms no search.
func TestRigsAreFoundByTheirTags(t *testing.T) {
	app, _ := bench(t)
	c := newClient(t, app)
	found := func(q string) (names []string) {
		_, page := c.get("/?q=" + q)
		for _, m := range regexp.MustCompile(`<div class="rig-name">\s*<h2><a href="[^"]*">([^<]*)</a>`).FindAllStringSubmatch(page, -1) {
			names = append(names, m[1])
		}
		return names
	}
	assert.Equal(t, []string{"Dome-shed stacker", "Field kit"}, found("dome"))
	assert.Equal(t, []string{"Field kit"}, found("travels"))
	assert.Empty(t, found("100%25"), "a sign of the search's own is a sign")
	status, _ := c.post("/rigs/3/set", "rev", c.rev(3), "station", "brief", "path", "/tags", "value", "travels, loud")
	assert.Equal(t, http.StatusOK, status)
	assert.Equal(t, []string{"Projector tower", "Field kit"}, found("travels"))
	assert.Equal(t, []string{"Projector tower"}, found("projector+loud"))
}

// TestKeys: stations, questions, changes and lists without a mouse; one search for
// parts, findings, rules and rigs.
func TestKeys(t *testing.T) {
	p := sitDown(t)
	p.open("/rigs/1/route")
	p.press('g', 'p')
	p.sees(".here", "Power")
	p.press('c')
	assert.Contains(t, p.page.MustEval(`() => document.activeElement.textContent`).String(), "from outlet peripheral 1")
	p.press(input.Enter)
	p.sees(".kept", "Change 2")
	assert.True(
		t, p.until(`() => document.activeElement?.closest('.answer, .verdict, .start') !== null`),
		"the focus stands where the work goes on",
	)
	p.press('/')
	p.page.MustInsertText("switches the supply")
	p.sees("#parts-found", "power.turn-on")
	p.press(input.ArrowDown)
	assert.Equal(
		t, "Nothing switches the supply on",
		p.page.MustEval(`() => document.activeElement.querySelector('b').textContent`).String(),
	)
	p.press(input.Enter)
	p.page.MustWaitLoad()
	p.sees(".editor h2", "Lantern 550")
}

// TestOnATelephone: nothing overlaps or falls out at the sides, the verdict stays in
// sight, and what is pressed is large enough.
func TestOnATelephone(t *testing.T) {
	t.Parallel()
	p := sitDown(t)
	p.page.MustSetViewport(390, 844, 1, true)
	for _, path := range []string{
		"/", "/rigs/1/brief", "/rigs/1/survey", "/rigs/1/route", "/rigs/1/power", "/rigs/1/power?sel=/leads/0", "/rigs/3/fit",
		"/rigs/2/proof", "/rigs/5/proof", "/rigs/5/ledger", "/rigs/1/sheet", "/rigs/1/meter",
	} {
		p.open(path)
		assert.LessOrEqual(t, p.page.MustEval(`() => document.documentElement.scrollWidth`).Int(), 390, path)
		small := p.page.MustEval(
			`() => [...document.querySelectorAll('a[href], button, summary, select, textarea, input:not([type=hidden])')].filter(e => !e.closest('svg') || e.closest('foreignObject')).map(e => /checkbox|radio/.test(e.type) ? e.closest('label') : e).filter(e => e.getClientRects().length && e.getBoundingClientRect().height && e.getBoundingClientRect().height < 43.5).map(e => e.className + ' ' + e.textContent.trim().slice(0, 20)).join('; ')`,
		).String()
		assert.Empty(t, small, path)
		overlap := p.page.MustEval(
			`() => { const r = [...document.querySelectorAll('.stop')].map(e => e.getBoundingClientRect()); return r.some((a, i) => r.some((b, j) => j > i && a.left < b.right - 1 && b.left < a.right - 1 && a.top < b.bottom - 1 && b.top < a.bottom - 1)) }`,
		).Bool()
		assert.False(t, overlap, "stations overlap at %s", path)
	}
	p.open("/rigs/1/power")
	p.page.MustEval(`() => window.scrollTo(0, 1500)`)
	assert.True(
		t,
		p.until(`() => { const r = document.querySelector('.answer [role=status]').getBoundingClientRect(); return r.top >= 0 && r.bottom < 120 }`),
		"the verdict's first line stays in sight",
	)
}

// TestALineFromAnywhere: l opens it at any station, what is typed is kept, and one stays where
// one was; a refused one keeps the dialog and what was typed in it.
func TestALineFromAnywhere(t *testing.T) {
	t.Parallel()
	p := sitDown(t)
	p.open("/rigs/5/power")
	p.press(input.KeyL)
	p.sees("#dialog-line h2", "A line in the log")
	p.page.MustInsertText("the dock hums at night")
	p.press(input.Enter)
	p.sees(".here", "Power")
	assert.False(t, p.page.MustEval(`() => document.getElementById('dialog-line').open`).Bool())
	p.open("/rigs/5/proof")
	p.sees(".gain td", "the dock hums at night")
	p.page.MustEval(`() => document.activeElement.blur()`)
	p.press(input.KeyL)
	p.page.MustEval(`() => { document.querySelector('#dialog-line details').open = true }`)
	p.fill("#dialog-line input[name=plug_c]", "rather warm")
	p.click("#dialog-line button", "add it")
	p.sees(".trouble", `Its heat: "rather warm" is not accepted`)
	p.open("/rigs/5/proof")
	assert.NotContains(t, p.find(".proof-side").MustText(), "rather warm")
	p.press(input.KeyL)
	p.page.MustEval(`() => { document.querySelector('#dialog-line details').open = true }`)
	p.fill("#dialog-line input[name=plug]", "card 8-pin")
	p.fill("#dialog-line input[name=plug_c]", "61")
	p.click("#dialog-line button", "add it")
	p.sees(".verdict", "Card 8-pin reached 61")
}

// TestSheetByItsBoxes: what is ticked stands on it, and in the files it goes out as.
func TestSheetByItsBoxes(t *testing.T) {
	p := sitDown(t)
	p.open("/rigs/5/sheet")
	p.sees(".sheet h3", "Steps")
	p.page.MustElementX(`//form[contains(@class, "parts-of")]//label[contains(., "costs")]/input`).MustClick()
	p.settle()
	p.sees(".sheet h3", "Costs")
	p.page.MustElementX(`//form[contains(@class, "parts-of")]//label[contains(., "steps")]/input`).MustClick()
	p.settle()
	assert.NotContains(t, p.find(".sheet").MustText(), "The way back")
	href := *p.page.MustElementR(".sheet a", "as Markdown").MustAttribute("href")
	assert.Contains(t, href, "part=costs")
	assert.NotContains(t, href, "part=steps")
	p.page.MustReload().MustWaitLoad()
	p.sees(".sheet h3", "Costs")
	assert.NotContains(t, p.find(".sheet").MustText(), "The way back", "a reload shows the same")
	p.open("/notices")
	p.sees(".notices", "htmx.org")
}

// TestCaptureIsDroppedAndLookedAt: what is found in a table stands there before it is taken.
func TestCaptureIsDroppedAndLookedAt(t *testing.T) {
	p := sitDown(t)
	p.open("/rigs/5/proof")
	file := filepath.Join(t.TempDir(), "evening.csv")
	require.NoError(
		t,
		os.WriteFile(file, []byte("program,frame time [ms]\n"+strings.Repeat("viewer,16\nviewer,17\noverlay,40\n", 400)), 0o600),
	)
	p.find("input[name=capture]").MustSetFiles(file)
	p.sees("#capture-look", "Frame times in ms, from column 2")
	p.choose("#capture-look select", "overlay")
	p.choose("select[name=side]", "with the card")
	p.click(".try-form button", "add the run")
	p.sees("td", "25 Hz")
	runs := p.exported().Runs
	last := runs[len(runs)-1]
	drawn := p.page.MustEval(`async () => (await fetch('/rigs/5/runs.svg')).text()`).String()
	require.NoError(t, xml.Unmarshal([]byte(drawn), new(struct{})))
	assert.Equal(t, 2*len(runs), strings.Count(drawn, "<title>")-1, "over time, and sorted")
	p.click(".runs button", "look closer")
	assert.True(t, p.until(`() => document.querySelector('.closer canvas')?.width > 300`))
	p.sees(".closer .u-legend", "with the card, third")
	p.click(".runs button", "look closer")
	assert.True(t, p.until(`() => !document.querySelector('.closer canvas')`), "and away again")
	p.page.MustEval(`() => { HTMLAnchorElement.prototype.click = function () { window.saved = [this.download, this.href.slice(0, 22)] } }`)
	p.click(".held-by button", "as PNG")
	assert.True(t, p.until(`() => window.saved?.[0] === 'held-back.png' && window.saved[1] === 'data:image/png;base64,'`))
	p.click(".held-by button", "as SVG")
	assert.True(t, p.until(`() => window.saved?.[0] === 'held-back.svg'`))
	p.click("button", "drawing as PNG")
	assert.True(t, p.until(`() => window.saved?.[0] === 'runs.png' && window.saved[1] === 'data:image/png;base64,'`))
	assert.Equal(t, "Corvane 16G", last.Card)
	assert.InDelta(t, 3.217, float64(last.Net.Value), 0.001, "over which link it was made")
}

// TestSheetOnPaper: nothing on it is cut off at the sides, plugs least of all.
func TestSheetOnPaper(t *testing.T) {
	t.Parallel()
	p := sitDown(t)
	p.open("/rigs/1/sheet")
	p.click(".parts-of label", "plugs, face to face")
	p.sees(".plugs", "Lantern 550 disk 1; marked contacts decide: Connector carries more than it may")
	for _, id := range []int{1, 2, 3, 5} {
		p.open(fmt.Sprintf("/rigs/%d/sheet", id))
		require.NoError(t, proto.EmulationSetEmulatedMedia{Media: "print"}.Call(p.page))
		p.page.MustSetViewport(700, 1000, 1, false) // what a page of paper leaves between its margins
		cut := p.page.MustEval(
			`() => [...document.querySelectorAll('.sheet .draw, .sheet .scroll, .sheet svg, .sheet table')].filter(e => e.scrollWidth > e.clientWidth + 1 && getComputedStyle(e).overflowX !== 'visible' || e.getBoundingClientRect().right > innerWidth + 1).map(e => e.outerHTML.slice(0, 90)).join()`,
		).String()
		assert.Empty(t, cut, "rig %d", id)
	}
}

// TestGuideIsThePagesOfTheDocuments: each has its question and its picture; there is no other.
func TestGuideIsThePagesOfTheDocuments(t *testing.T) {
	app, _ := bench(t)
	c := newClient(t, app)
	for _, page := range []string{"", "/start", "/brief", "/survey", "/route", "/power", "/fit", "/assembly", "/proof", "/ledger", "/sheet"} {
		status, text := c.get("/guide" + page)
		require.Equal(t, http.StatusOK, status, page)
		assert.Contains(t, text, "?</em>", "%s: the question it answers", page)
		assert.NotContains(t, text, ".md", page)
		picture := regexp.MustCompile(`src="(/guide-pictures/[a-z-]+\.png)"`).FindStringSubmatch(text)
		require.NotNil(t, picture, page)
		status, _ = c.get(picture[1])
		assert.Equal(t, http.StatusOK, status, picture[1])
	}
	for _, not := range []string{"/guide/soup", "/guide/..%2f..%2fgo.mod", "/guide-pictures/none.png",
		"/guide-pictures/..%2fguide%2fpower.md"} {
		status, _ := c.get(not)
		assert.Equal(t, http.StatusNotFound, status, not)
	}
}

// TestTheFirstBench: an empty bench shows how it begins, and the Fernhill rigs at a press.
func TestTheFirstBench(t *testing.T) {
	app, s := bench(t)
	c := newClient(t, app)
	for id := 1; id <= 5; id++ {
		if _, err := s.Load(t.Context(), store.RigKind, int64(id)); err == nil {
			c.post(fmt.Sprintf("/rigs/%d/delete", id))
		}
	}
	_, page := c.get("/")
	assert.Contains(t, page, "The bench is empty.")
	assert.Contains(t, page, "look at the Fernhill rigs")
	status, _ := c.post("/fernhill")
	require.Equal(t, http.StatusSeeOther, status)
	_, page = c.get("/")
	assert.Contains(t, page, "Six rigs.")
}

// TestNoPlaceOfTheFileInAMessage: what is refused is said by the names of the fields.
func TestNoPlaceOfTheFileInAMessage(t *testing.T) {
	app, _ := bench(t)
	c := newClient(t, app)
	pointer := regexp.MustCompile(`(^|[\s>"])/(host|card|route|supplies|leads|chamber|brief|sizing|build|runs|ledger|diary)(/[a-z0-9_]+)*`)
	says := func(page string) string { return saidBy(page) }
	for _, wrong := range [][]string{
		{"set", "path", "/chamber/box/z_mm", "value", "banana"}, {"set", "path", "/host/slots/0/lanes", "value", "many"},
		{"set", "path", "/card/plugs/0/connector", "value", "round"}, {"set", "path", "/supplies/1/rating_w", "value", "-3"},
		{"add", "path", "/host/drawers"}, {"remove", "path", "/leads/9"}, {"lead", "ends", "x"}, {"patch", "patch", "[]x"},
		{"acknowledge", "rule", "power.rail", "where", "/", "reason", " "}, {"ledger-line", "name", "", "price", "dear"},
		{"line", "text", ""},
	} {
		status, page := c.post("/rigs/1/"+wrong[0], append(wrong[1:], "rev", c.rev(1))...)
		assert.Equal(t, http.StatusUnprocessableEntity, status, wrong)
		assert.NotRegexp(t, pointer, says(page), wrong)
		assert.NotContains(t, says(page), "accepted:", wrong)
	}
	_, page := c.upload(
		"/import",
		"files",
		map[string]string{"a.json": `{"format":"kolvan-rig/1","name":"x","host":{"slots":[{"name":"s","lanes":99}]}}`},
	)
	assert.Contains(t, page, "a.json: lanes wired, slot 1: 99 is not accepted. Write")
}
