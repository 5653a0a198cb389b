package web_test

import (
	"encoding/json"
	"fmt"
	"net"
	"os"
	"path/filepath"
	"sync"
	"testing"
	"time"

	"github.com/go-rod/rod"
	"github.com/go-rod/rod/lib/input"
	"github.com/go-rod/rod/lib/launcher"
	"github.com/go-rod/rod/lib/proto"
	"github.com/go-rod/rod/lib/utils"
	"github.com/gofiber/fiber/v3"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kolvan/core/rig"
	"kolvan/instruments"
	"kolvan/web"
)

var (
	shared   *rod.Browser
	starting sync.Mutex
)

// patience is for a machine that does much else; nobody waits it out on a quiet one.
const patience = 15 * time.Minute

// waits is how long one thing is waited for.
const waits = 2 * time.Minute

// TestMain starts one browser for all tests of the package that want one. The
// long ones run in parallel, each in a window and on a store of its own.
func TestMain(m *testing.M) {
	code := m.Run()
	if shared != nil {
		shared.MustClose()
	}
	os.Exit(code)
}

func chromium(t testing.TB) *rod.Browser {
	starting.Lock()
	defer starting.Unlock()
	if shared != nil {
		return shared
	}
	bin, found := os.Getenv("KOLVAN_CHROMIUM"), true
	if bin == "" {
		bin, found = launcher.LookPath()
	}
	require.True(t, found, "the browser tests want Debian's chromium: make test installs it")
	control, err := launcher.New().Bin(
		bin,
	).NoSandbox(
		true,
	).Set(
		"disable-gpu",
	).Set(
		"disable-background-networking",
	).Set(
		"disable-component-update",
	).Set(
		"disable-sync",
	).Launch()
	require.NoError(t, err)
	shared = rod.New().ControlURL(control).Sleeper(func() utils.Sleeper {
		return utils.BackoffSleeper(10*time.Millisecond,
			100*time.Millisecond, nil)
	})
	require.NoError(t, shared.Connect())
	return shared
}

// person is somebody at a browser in front of a running Kolvan.
type person struct {
	t    testing.TB
	page *rod.Page
	base string
}

// sitDown starts Kolvan with the demo rigs and opens the bench.
func sitDown(t testing.TB) *person { return sitDownWith(t, web.Instruments{}) }

func sitDownWith(t testing.TB, at web.Instruments) *person {
	listener, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	app, s := benchWith(t, at, listener.Addr().String())
	for i := range demoRigs - plans {
		keepDemo(t, s, plans+i)
	}
	go func() { _ = app.Listener(listener, fiber.ListenConfig{DisableStartupMessage: true}) }()
	t.Cleanup(func() { _ = app.ShutdownWithTimeout(time.Second) })
	p := somebody(t, "http://"+listener.Addr().String())
	p.open("/")
	return p
}

// somebody has a browser window to themselves: a page in the background of
// another's window is not drawn, so nothing in it would ever stand still.
func somebody(t testing.TB, base string) *person {
	window := chromium(t).MustIncognito()
	t.Cleanup(func() { _ = window.Close() })
	p := &person{t: t, base: base, page: window.MustPage().Timeout(patience)}
	p.page.MustSetViewport(1280, 800, 1, false)
	require.NoError(t, proto.EmulationSetFocusEmulationEnabled{Enabled: true}.Call(p.page))
	return p
}

func (p *person) open(path string) {
	p.page.Timeout(waits).MustNavigate(p.base + path).MustWaitLoad()
	p.settle()
}

// settle waits until no answer is awaited and the page stands still.
func (p *person) settle() {
	require.True(
		p.t,
		p.until(`() => document.readyState === 'complete' && !document.querySelector('.htmx-request, .htmx-swapping, .htmx-settling')`),
		"the page does not come to rest",
	)
	time.Sleep(40 * time.Millisecond)
}

// until asks the page again and again; one on its way to another page answers
// nothing yet.
func (p *person) until(js string, args ...any) bool {
	for deadline := time.Now().Add(waits); time.Now().Before(deadline); time.Sleep(20 * time.Millisecond) {
		if answer, err := p.page.Eval(js, args...); err == nil && answer.Value.Bool() {
			return true
		}
	}
	return false
}

func (p *person) find(selector string) *rod.Element {
	e, err := p.page.Timeout(waits).Element(selector)
	require.NoError(p.t, err, selector)
	return e
}

// named finds the element whose text, drawings' included, matches.
func (p *person) named(selector, text string) *rod.Element {
	p.t.Helper()
	e, err := p.page.Timeout(waits).ElementByJS(rod.Eval(
		`(s, re) => [...document.querySelectorAll(s)].find(e => new RegExp(re).test(e.textContent.trim().replace(/\s+/g, ' '))) ?? null`,
		selector, text,
	))
	require.NoError(p.t, err, "%s with %q", selector, text)
	return e
}

// click presses what bears the text, unfolding what it is folded away in.
func (p *person) click(selector, text string) {
	press := func() error {
		e := p.named(selector, text).Timeout(10 * time.Second)
		if _, err := e.Eval(`() => { for (let d = this.closest('details'); d; d = d.parentElement.closest('details')) d.open = true }`); err != nil {
			return err
		}
		return e.Click(proto.InputMouseButtonLeft, 1)
	}
	err := press()
	for range 11 { // what was found may be exchanged for its like before it is pressed
		if err == nil {
			break
		}
		err = press()
	}
	require.NoError(p.t, err, "%s with %q", selector, text)
	p.settle()
}

// fill types into a field and leaves it.
// reveal unfolds what an element is folded away in, as one who looks for it does.
func (p *person) reveal(selector string) {
	p.page.MustEval(`(s) => {
		const at = document.querySelector(s)
		for (let d = at?.closest('details'); d; d = d.parentElement.closest('details')) d.open = true
		const fold = at?.closest('.fields')?.querySelector('.fold')
		if (fold && !fold.checked && at.closest('.untold')) fold.click()
	}`, selector)
}

func (p *person) fill(selector, text string) {
	field := p.find(selector)
	p.reveal(selector)
	field.MustSelectAllText()
	if text == "" {
		p.press(input.Delete)
	}
	p.page.MustInsertText(text)
	p.press(input.Tab)
}

// choose takes an option of a select, as a person does.
func (p *person) choose(selector, option string) {
	field := p.find(selector)
	p.reveal(selector)
	field.MustSelect(option)
	p.settle()
}

func (p *person) press(keys ...input.Key) {
	require.NoError(p.t, p.page.Keyboard.Type(keys...))
	p.settle()
}

// sees waits until an element shows the text.
func (p *person) sees(selector, text string) {
	p.t.Helper()
	assert.True(
		p.t,
		p.until(`(s, t) => [...document.querySelectorAll(s)].some(e => e.textContent.replace(/\s+/g, ' ').includes(t))`, selector, text),
		"%s should show %q", selector, text,
	)
}

// take uses a part of the list, from the dialog that is open.
func (p *person) take(name string) {
	p.page.MustElement("#dialog-parts input[type=search]").MustSelectAllText().MustInput(name)
	// The answer to what was typed, not the list from before it, which is about to be exchanged.
	require.True(
		p.t,
		p.until(
			`name => { const found = [...document.querySelectorAll('#parts-found li')]; return found.length > 0 && found.every(e => name.toLowerCase().split(' ').every(word => e.textContent.toLowerCase().includes(word))) }`,
			name,
		),
		name,
	)
	p.settle()
	p.click("#parts-found button", name)
}

// exported is the rig file as the export button gives it.
func (p *person) exported() *rig.Rig {
	doc := p.page.MustEval(`async () => (await fetch(document.querySelector('a[href$="/export"]').href)).text()`).String()
	r, err := rig.Decode([]byte(doc))
	require.NoError(p.t, err)
	return r
}

// TestBuildARigByMouse starts from nothing, for a host that is not in the list.
func TestBuildARigByMouse(t *testing.T) {
	t.Parallel()
	p := sitDown(t)
	p.page.MustElement("#new-name").MustInput("Library box")
	p.click("button", "Start a rig")
	p.click(".start a", "enter it by hand")
	p.fill("#f-host-name", "Unlisted mini")
	p.click(".controls button", "a slot you see")
	p.fill("#f-host-slots-0-name", "m2 under the fan")
	p.choose("#f-host-slots-0-form", "M.2")
	p.choose("#f-host-slots-0-key", "M")
	p.fill("#f-host-slots-0-lanes", "4")
	p.fill("#f-host-slots-0-generation", "3")
	p.find("#f-host-slots-0-carries-pcie").MustClick()
	p.settle()
	p.choose("#f-host-slots-0-occupant", "none")
	p.click(".editor-acts button", "start the route here")
	for _, part := range []string{"Halden 8G Short", "M.2 to link socket, straight", "Link cable 500", "Open dock, link"} {
		p.click(".tools button", "find a part")
		p.take(part)
	}
	p.sees(".mat figcaption", "Four lanes")
	p.sees(".mat figcaption", "3.22 GB/s net")
	p.sees(".callout", "m2 under the fan")

	p.click(".tools button", "find a part")
	p.take("Lantern 550")
	p.choose("#f-supplies-0-turn_on", "switch-on board")
	p.click("#power-add summary", "supply, lead")
	p.click(".menu-list button", "add a supply")
	p.take("Brick 19 V 6.3 A")
	p.sees(".start", "The host has no feed")
	p.click(".mat a.node", "Unlisted mini")
	p.choose("#f-host-supply", "Brick 19 V 6.3 A")
	for _, load := range []string{"Open dock, link", "Card plug A"} {
		p.click(".mat a.node", load)
		p.click(".feed button", "add the lead")
	}
	assert.False(t, p.page.MustHas(".finding.blocked"), "all is fed")
	p.click(".stations a", "Fit")
	p.click(".controls button", "in the open")
	p.click(".stations a", "Sheet")
	p.sees(".sheet", "What limits the link is m2 under the fan")
	assert.Equal(t, "Unlisted mini", p.exported().Host.Name)
	assert.Len(t, p.exported().Leads, 2)
}

// tabTo walks by the tab key alone until the focus stands on the element.
func (p *person) tabTo(selector, text string) {
	for range 260 {
		p.page.Keyboard.MustType(input.Tab)
		there := p.page.MustEval(
			`(s, t) => document.activeElement.matches(s) && (document.activeElement.textContent.replace(/\s+/g, ' ') + document.activeElement.value).includes(t)`,
			selector,
			text,
		).Bool()
		if there {
			outline := p.page.MustEval(`() => getComputedStyle(document.activeElement).outlineStyle`).String()
			assert.NotEqual(p.t, "none", outline, "the focus on %s is seen", selector)
			return
		}
	}
	require.Fail(p.t, "not reached by the keyboard", "%s %q", selector, text)
}

// keyIn walks to a field, types, and walks on.
func (p *person) keyIn(selector, text string) {
	p.tabTo(selector, "")
	p.page.MustInsertText(text)
	p.press(input.Tab)
}

// TestBuildARigByKeyboard does without the mouse.
func TestBuildARigByKeyboard(t *testing.T) {
	t.Parallel()
	p := sitDown(t)
	p.keyIn("#new-name", "Keyboard box")
	p.press(input.Enter)
	p.page.MustWaitLoad()
	p.tabTo(".start a", "enter it by hand")
	p.press(input.Enter)
	p.keyIn("#f-host-name", "Board with one slot")
	p.tabTo("button", "add to slots")
	p.press(input.Enter)
	p.keyIn("#f-host-slots-0-name", "long")
	p.tabTo("#f-host-slots-0-form", "")
	p.page.MustInsertText("") // a select takes letters as keys
	p.press('c', 'a')
	p.tabTo("#f-host-slots-0-lanes", "")
	p.page.MustInsertText("16")
	p.press(input.Tab)
	p.keyIn("#f-host-slots-0-generation", "4")
	p.tabTo(".editor-acts button", "start the route here")
	p.press(input.Enter)
	p.press('/')
	p.page.MustInsertText("Halden 12G")
	require.True(t, p.until(`() => document.querySelectorAll('#parts-found button').length === 1`))
	p.settle()
	p.tabTo("#parts-found button", "Halden 12G")
	p.page.MustEval(`() => { document.querySelector('#dialog-parts input').dispatchEvent(new Event('search')) }`) // an answer that comes late
	p.settle()
	p.press(input.Enter)
	p.sees(".mat figcaption", "Sixteen lanes")
	p.page.MustEval(`() => document.activeElement.blur()`)
	p.press(input.ArrowRight)
	p.sees(".here", "Power")
	assert.True(t, p.until(`() => document.title === 'Power: Keyboard box · Kolvan'`), "the title names the station and the rig")
	p.press('z')
	assert.Empty(t, p.exported().Card.Name, "z undoes the card")
	p.page.Keyboard.Press(input.ShiftLeft)
	p.press('Z')
	p.page.Keyboard.Release(input.ShiftLeft)
	assert.Equal(t, "Halden 12G", p.exported().Card.Name)
	p.press('?')
	p.sees("#dialog-keys", "undo")
}

// TestChangeInTheDrawing chooses in each drawing, changes, drags, undoes and
// reloads.
func TestChangeInTheDrawing(t *testing.T) {
	t.Parallel()
	p := sitDown(t)
	p.open("/rigs/1/route")
	p.click(".mat a", "angled")
	p.fill("#f-route-stages-0-lanes", "2")
	p.sees(".mat figcaption", "Two lanes")
	p.sees(".finding", "the route loses 2")
	p.page.MustReload().MustWaitLoad()
	p.sees(".editor", "angled")
	p.click("[data-undo]", "undo")
	p.sees(".mat figcaption", "Four lanes")

	p.click(".stations a", "Power")
	p.click(".press", "from outlet peripheral 1")
	p.sees(".kept", "Change")
	assert.True(t, p.until(`() => document.activeElement?.id === 'answer'`), "after a remedy the focus is on the answer")
	p.find("a.band[aria-label^='Lead card lead']").MustEval(`() => this.dispatchEvent(new MouseEvent('click', {bubbles: true, cancelable: true}))`)
	p.sees(".faces-drawn", "GND")
	p.click(".editor button", "^remove$")
	p.sees(".finding.blocked", "Card plug A has no feed")

	p.open("/rigs/3/fit")
	p.sees(".mat figcaption", "meets drive cage by 3 mm")
	card := p.find("#card-side").MustShape().Box()
	mouse := p.page.Mouse
	mouse.MustMoveTo(card.X+40, card.Y+40)
	mouse.MustDown(proto.InputMouseButtonLeft)
	mouse.MustMoveTo(card.X+30, card.Y+40)
	mouse.MustMoveTo(card.X+20, card.Y+40)
	mouse.MustUp(proto.InputMouseButtonLeft)
	p.settle()
	moved := p.exported().Chamber.CardAt.X.Value
	assert.Negative(t, float64(moved), "dragged 20 px toward the bracket's wall")
	p.find("#card-plan").MustFocus()
	p.press(input.ArrowRight, input.ArrowDown)
	assert.Equal(t, moved+1, p.exported().Chamber.CardAt.X.Value)
	assert.InDelta(t, 63, float64(p.exported().Chamber.CardAt.Z.Value), 1e-9)
}

// TestFitByHand: measuring in a drawing, typing a dimension line, and taking the largest
// card that goes in.
func TestFitByHand(t *testing.T) {
	t.Parallel()
	p := sitDown(t)
	p.open("/rigs/3/fit")
	p.click("[data-measure]", "measure")
	wall := p.find("[data-view] .ground").MustShape().Box()
	card := p.find("#card-side").MustShape().Box()
	for _, x := range []float64{wall.X, card.X + card.Width - 1} { // a pixel short of its end: it snaps
		p.page.Mouse.MustMoveTo(x, card.Y+30).MustDown("left").MustUp("left")
	}
	p.sees("[data-rule] text", "282.0 mm (282.0 mm across, 0.0 mm up or down)")
	p.click("[data-measure]", "measure")
	p.fill("#place-x_mm", "-4")
	p.sees(".finding.blocked", "The card meets the bracket's wall by 4 mm")
	p.click("[data-undo]", "undo")
	p.click(".controls button", "which card goes in")
	p.sees("#dialog-cards", "The largest that goes in while everything closes: Skua 20G")
	p.sees("#dialog-cards tr", "drive cage stays off")
	p.click("#dialog-cards button", "use Skua 20G")
	p.sees(".mat figcaption", "the card clears drive cage by 3 mm")
}

// TestWhatIsRefusedStaysInItsField also while other fields are changed.
func TestWhatIsRefusedStaysInItsField(t *testing.T) {
	p := sitDown(t)
	p.open("/rigs/1/fit?sel=/card")
	p.fill("#f-card-length_mm", "rather long")
	p.sees(".fault", "9 1/8 in")
	p.fill("#f-card-height_mm", "4 in")
	assert.Equal(t, "rather long", p.find("#f-card-length_mm").MustProperty("value").String())
	assert.Equal(t, "4 in", p.find("#f-card-height_mm").MustProperty("value").String())
	p.fill("#f-card-length_mm", "9 1/8 in")
	assert.False(t, p.page.MustHas(".fault"))
	p.page.MustReload().MustWaitLoad()
	assert.Equal(t, "9 1/8 in", p.find("#f-card-length_mm").MustProperty("value").String())
}

// TestTwoTabs: the second to write sees what changed and chooses.
func TestTwoTabs(t *testing.T) {
	p := sitDown(t)
	p.open("/rigs/2/brief")
	p.page.MustEval(`() => document.getElementById('ear').remove()`) // it does not hear of it
	other := somebody(t, p.base)
	other.open("/rigs/2/brief")
	other.fill("#f-brief-budget", "90")
	p.fill("#f-brief-currency", "gold")
	p.sees(".trouble", "Budget")
	assert.Equal(t, "kr", p.exported().Brief.Currency)
	p.click(".trouble button", "all the same")
	assert.Equal(t, "gold", p.exported().Brief.Currency)
	assert.InDelta(t, 90, float64(p.exported().Brief.Budget.Value), 1e-9)
}

func TestImportByChoosingAndByDropping(t *testing.T) {
	t.Parallel()
	p := sitDown(t)
	name := filepath.Join(t.TempDir(), "one.json")
	require.NoError(t, os.WriteFile(name, []byte(`{"format":"kolvan-rig/1","name":"chosen"}`), 0o600))
	p.find("#import-files").MustSetFiles(name)
	p.sees("#rig", "Kept. Change 1")
	p.open("/")
	p.page.MustEval(`() => {
		const data = new DataTransfer()
		data.items.add(new File(['{"format":"kolvan-rig/1","name":"dropped","card":{"lanes":5}}'], 'dropped.json'))
		document.querySelector('.page').dispatchEvent(new DragEvent('drop', {dataTransfer: data, bubbles: true, cancelable: true}))
	}`)
	p.sees(".trouble", "dropped.json: lanes, card: 5 is not accepted")
	p.click(".rig-more summary", "2 more")
	p.click(".rig-acts button", "delete Field kit")
	p.sees(".gone", "Field kit")
	p.click(".gone button", "put back Field kit")
	p.sees(".rigs", "Field kit")
}

func TestPrintShowsTheSheetAlone(t *testing.T) {
	p := sitDown(t)
	p.open("/rigs/1/sheet")
	require.NoError(t, proto.EmulationSetEmulatedMedia{Media: "print"}.Call(p.page))
	for selector, visible := range map[string]bool{".sheet": true, ".answer": false, ".stations": false, ".top": false} {
		assert.Equal(t, visible, p.find(selector).MustVisible(), selector)
	}
}

// TestNothingSeriousForAccessibility runs axe on every station, light and dark; only the
// contrast differs between the two, and the same colours stand on a narrow page.
func TestNothingSeriousForAccessibility(t *testing.T) {
	t.Parallel()
	axe, err := os.ReadFile("testdata/axe.min.js")
	require.NoError(t, err)
	bench := sitDown(t)
	bench.open("/bins")
	bench.click(".found button", "Halden 8G Short")
	bench.page.MustWaitLoad()
	at := func(list ...string) (pages []string) {
		for _, page := range list {
			pages = append(pages, "/rigs/1/"+page)
		}
		return pages
	}
	for name, walk := range map[string]struct {
		pages   []string
		width   int
		schemes []string
	}{
		"stations": {
			at(append(web.Stations(), "assembly?sel=/build/power-on", "assembly?sel=/build/fault", "ask", "practice")...), 1280, []string{"light", "dark"},
		},
		"pages": {append(
			at("power?sel=/leads/0", "route?sel=/ways", "meter", "why", "reading"), "/", "/paste", "/off-picture", "/bins/1", "/rigs/99/route", "/notices",
			"/rigs/3/fit", "/rigs/4/power", "/rigs/2/route?sel=/route/stages/1", "/compare?rig=1&rig=2", "/rigs/3/need", "/rigs/5/proof", "/rigs/5/ledger",
		), 1280, []string{"light", "dark"}},
		"narrow": {append(
			at("route?sel=/ways", "brief"), "/", "/rigs/3/power", "/rigs/3/fit", "/rigs/2/assembly", "/rigs/2/assembly?sel=/build/fault", "/rigs/5/proof",
			"/rigs/5/ledger",
		), 390, []string{"light"}},
	} {
		t.Run(name, func(t *testing.T) {
			t.Parallel()
			p := somebody(t, bench.base)
			p.page.MustSetViewport(walk.width, 844, 1, walk.width == 390)
			for _, path := range walk.pages {
				p.open(path)
				_, err := proto.RuntimeEvaluate{Expression: string(axe)}.Call(p.page)
				require.NoError(t, err)
				for _, scheme := range walk.schemes {
					assert.Empty(t, p.violations(scheme), "%s, %s", path, scheme)
				}
			}
		})
	}
}

// violations are what axe finds serious on a page, in a colour scheme; in the dark its contrast alone.
func (p *person) violations(scheme string) (list []string) {
	rules := map[string]string{"light": `{}`, "dark": `{runOnly: ['color-contrast']}`}[scheme]
	require.NoError(
		p.t,
		proto.EmulationSetEmulatedMedia{Features: []*proto.EmulationMediaFeature{{Name: "prefers-color-scheme", Value: scheme}}}.Call(p.page),
	)
	found := p.page.MustEval(
		`async () => JSON.stringify((await axe.run(` + rules +
			`)).violations.filter(v => v.impact === 'serious' || v.impact === 'critical').map(v => v.id + ': ' + v.nodes.slice(0, 3).map(n => n.target + ' ' + n.failureSummary).join(' | ')))`,
	).String()
	require.NoError(p.t, json.Unmarshal([]byte(found), &list))
	return list
}

// views are the main views, for docs/screenshots.
var views = map[string]string{
	"bench": "/", "why": "/rigs/1/why", "need": "/rigs/4/need", "brief": "/rigs/2/brief", "survey": "/rigs/1/survey?sel=/host/slots/0",
	"route": "/rigs/1/route?sel=/route/stages/2",
	"power": "/rigs/1/power?sel=/leads/0", "fit": "/rigs/3/fit?sel=/card", "sheet": "/rigs/1/sheet",
	"ways": "/rigs/1/route?sel=/ways", "side-by-side": "/compare?rig=1&rig=2&rig=4", "assembly": "/rigs/1/assembly",
	"finder": "/rigs/2/assembly?sel=/build/fault", "proof": "/rigs/5/proof", "ledger": "/rigs/5/ledger",
}

// TestScreenshots makes docs/screenshots anew when KOLVAN_SCREENSHOTS is set.
func TestScreenshots(t *testing.T) {
	if os.Getenv("KOLVAN_SCREENSHOTS") == "" {
		t.Skip("set KOLVAN_SCREENSHOTS=1, or run make screenshots")
	}
	on, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	go func() { _ = instruments.Serve(t.Context(), on) }()
	p := sitDownWith(t, web.Instruments{Meter: on.Addr().String(), Probe: on.Addr().String()})
	for name, path := range views {
		p.open(path)
		p.page.MustScreenshot(fmt.Sprintf("../docs/screenshots/%s.png", name))
	}
	p.open("/rigs/1/reading")
	p.click("button", "ask the probe")
	p.sees("h2", "Plan against found")
	p.page.MustEval(`() => scrollTo(0, 0)`)
	p.page.MustScreenshot("../docs/screenshots/reading.png")
	p.open("/")
	p.fill("#new-name", "Library box")
	p.press(input.Enter)
	p.sees(".start h2", "Which host is it")
	p.page.MustScreenshot("../docs/screenshots/start.png")
	p.page.MustSetViewport(390, 844, 1, true)
	p.open("/rigs/1/power")
	p.page.MustScreenshot("../docs/screenshots/telephone.png")
	p.page.MustSetViewport(1280, 800, 1, false)
	p.open("/rigs/1/brief?sel=/plans")
	p.sees(".plans-work h2", "Find out first")
	p.page.MustEval(`() => document.querySelector('#plans').scrollIntoView()`)
	p.page.MustScreenshot("../docs/screenshots/plans.png")
}
