package web_test

import (
	"bufio"
	"context"
	"fmt"
	"net"
	"net/http"
	"os"
	"path/filepath"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/go-rod/rod/lib/input"
	"github.com/go-rod/rod/lib/proto"
	"github.com/gofiber/fiber/v3"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kolvan/core/rig"
	"kolvan/demo"
	"kolvan/store"
	"kolvan/web"
)

// service is a Kolvan that can be stopped and started at one address.
type service struct {
	t    *testing.T
	path string
	addr string
	app  *web.App
	s    *store.Store
	open *connections
}

// serve starts a Kolvan with the first of the demo rigs.
func serve(t *testing.T) (*service, *rig.Rig) {
	free, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	v := &service{t: t, path: filepath.Join(t.TempDir(), "k.db"), addr: free.Addr().String()}
	require.NoError(t, free.Close())
	v.start()
	rigs, err := demo.Rigs()
	require.NoError(t, err)
	doc, err := rig.Encode(rigs[0])
	require.NoError(t, err)
	_, err = v.s.Create(context.Background(), store.RigKind, rigs[0].Name, doc, "demo")
	require.NoError(t, err)
	return v, rigs[0]
}

// connections are a listener that can cut what it has accepted, as the end of a
// process does.
type connections struct {
	net.Listener
	mu  sync.Mutex
	all []net.Conn
}

func (c *connections) Accept() (net.Conn, error) {
	conn, err := c.Listener.Accept()
	c.mu.Lock()
	defer c.mu.Unlock()
	c.all = append(c.all, conn)
	return conn, err
}

func (c *connections) cut() {
	c.mu.Lock()
	defer c.mu.Unlock()
	for _, conn := range c.all {
		if conn != nil {
			_ = conn.Close()
		}
	}
}

func (v *service) start() {
	s, err := store.Open(context.Background(), v.path)
	require.NoError(v.t, err)
	app, err := web.New(s, []string{v.addr}, web.Instruments{})
	require.NoError(v.t, err)
	listener, err := net.Listen("tcp", v.addr)
	require.NoError(v.t, err)
	v.app, v.s, v.open = app, s, &connections{Listener: listener}
	go func() { _ = app.Listener(v.open, fiber.ListenConfig{DisableStartupMessage: true}) }()
}

func (v *service) stop() {
	stopped := make(chan error, 1)
	go func() { stopped <- v.app.ShutdownWithTimeout(5 * time.Second) }()
	for {
		v.open.cut()
		select {
		case err := <-stopped:
			require.NoError(v.t, err)
			require.NoError(v.t, v.s.Close())
			return
		case <-time.After(20 * time.Millisecond):
		}
	}
}

// TestTheBenchIsOneForAll: what another process imports, or another person changes, stands
// on a bench that is open, without a touch; what was ticked and typed there stays.
func TestTheBenchIsOneForAll(t *testing.T) {
	v, first := serve(t)
	defer v.stop()
	p := somebody(t, "http://"+v.addr)
	p.open("/")
	p.find(".compare-tick input").MustClick()
	for i := range 5 { // so many that one can be looked for
		first.Name = fmt.Sprint("more ", i)
		doc, err := rig.Encode(first)
		require.NoError(t, err)
		_, err = v.s.Create(t.Context(), store.RigKind, first.Name, doc, "more")
		require.NoError(t, err)
	}
	p.sees(".rig-name", "more 4")
	p.find("#bench-q").MustInput("half a wo")
	p.find("#new-name").MustInput("half a na")
	other, err := store.Open(t.Context(), v.path)
	require.NoError(t, err)
	defer other.Close()
	first.Name = "Brought in from elsewhere"
	doc, err := rig.Encode(first)
	require.NoError(t, err)
	id, err := other.Create(t.Context(), store.RigKind, first.Name, doc, "imported")
	require.NoError(t, err)
	p.sees(".rig-name", "Brought in from elsewhere")
	require.NoError(t, other.SetDeleted(t.Context(), id, true))
	p.sees(".gone", "Brought in from elsewhere")
	assert.True(t, p.find(".compare-tick input").MustProperty("checked").Bool())
	assert.Equal(t, "half a na", p.find("#new-name").MustProperty("value").String())
	assert.Equal(t, "half a wo", p.find("#bench-q").MustProperty("value").String())
	assert.Equal(t, "new-name", p.page.MustEval(`() => document.activeElement.id`).String())
}

// TestRestartUnderAnOpenPage: while Kolvan is down the page says that nothing is
// kept and what was typed stays; after a restart the same page sends it again,
// though its token is forgotten, and undo reaches back before the restart.
func TestRestartUnderAnOpenPage(t *testing.T) {
	v, first := serve(t)
	p := somebody(t, "http://"+v.addr)
	p.open("/rigs/1/route?sel=/card")
	p.fill("#f-card-power_w", "150 W")
	p.sees(".kept", "Change 2")

	v.stop()
	p.fill("#f-card-memory_gib", "12")
	p.sees("#notice", "Not kept")
	assert.Equal(t, "12", p.find("#f-card-memory_gib").MustProperty("value").String())

	v.start()
	defer v.stop()
	p.sees(".kept", "Change 3")
	p.page.MustReload().MustWaitLoad()
	assert.InDelta(t, 12, float64(p.exported().Card.Memory.Value), 1e-9, "sent again by itself")
	for p.page.MustEval(`() => !document.querySelector('[data-undo]').disabled`).Bool() {
		p.click("[data-undo]", "undo")
	}
	back := p.exported()
	assert.Equal(t, first.Card.Power, back.Card.Power, "undone to before the restart")
}

func TestAcknowledgeAndGoToTheThing(t *testing.T) {
	p := sitDown(t)
	p.open("/rigs/2/power")
	p.click(".finding h3 a", "[Ww]ireless card")
	p.sees(".here", "Route")
	p.sees(".editor", "wireless slot")
	p.named(".finding.risk details summary", "note why it may stay").MustClick()
	p.find(".acknowledge[open] input[name=reason]").MustInput("one lane will do for films")
	p.press(input.Enter)
	p.sees(".answer-given", "one lane will do for films")
	p.click("[data-undo]", "undo")
	assert.False(t, p.page.MustHas(".answer-given"))
}

func TestBackAndForwardThroughTheStations(t *testing.T) {
	t.Parallel()
	p := sitDown(t)
	p.open("/rigs/1/route")
	p.click(".stations a", "Power")
	p.click(".mat a", "Lantern 550")
	p.sees(".editor", "Lantern 550")
	require.NoError(t, p.page.NavigateBack())
	require.True(t, p.until(`() => location.pathname.endsWith('/power') && location.search === ''`), "back at the station, nothing chosen")
	p.settle()
	p.sees(".controls", "Judged for")
	require.NoError(t, p.page.NavigateBack())
	p.sees(".here", "Route")
	p.settle()
	require.NoError(t, p.page.NavigateForward())
	p.sees(".here", "Power")
	p.settle()
	p.press(input.ArrowLeft)
	p.sees(".here", "Route")
	p.press(input.ArrowLeft, input.ArrowLeft, input.ArrowRight, input.ArrowRight, input.ArrowRight, input.ArrowRight)
	p.sees(".here", "Fit")
	p.press(input.ArrowRight, input.ArrowRight, input.ArrowRight, input.ArrowRight)
	p.sees(".here", "Sheet")

	p.open("/rigs/5/proof")
	p.page.MustEval(`() => scrollTo(0, 900)`)
	require.True(t, p.until(`() => scrollY > 800`))
	p.press(input.ArrowRight)
	p.sees(".here", "Ledger")
	require.NoError(t, p.page.NavigateBack())
	p.sees(".here", "Proof")
	assert.True(t, p.until(`() => scrollY > 800`), "back at the place in a long page")
}

func TestInchesAreOneSetting(t *testing.T) {
	p := sitDown(t)
	p.open("/rigs/3/fit?sel=/card")
	p.click(".tools button", "^mm$")
	p.page.MustWaitLoad()
	p.sees(".mat figcaption", "by 0.12 in")
	assert.Equal(t, "11.102 in", p.find("#f-card-length_mm").MustProperty("value").String())
	p.fill("#f-card-length_mm", "10.9")
	p.sees(".mat figcaption", "clears")
	assert.InDelta(t, 276.86, float64(p.exported().Card.Length.Value), 1e-9)
	p.open("/")
	p.sees(".rigs", "in")
}

func TestRenameEverywhere(t *testing.T) {
	p := sitDown(t)
	p.open("/rigs/1/survey?sel=/host/slots/0")
	p.fill("#f-host-slots-0-name", "slot by the fan")
	p.fill("#rig-name", "Shed, second try")
	assert.Equal(t, "slot by the fan", p.exported().Route.Slot)
	p.click(".stations a", "Route")
	p.sees(".callout", "slot by the fan")
	p.open("/")
	p.sees(".rigs", "Shed, second try")
}

func TestListsGrowAndShrinkByHand(t *testing.T) {
	p := sitDown(t)
	p.open("/rigs/2/brief")
	p.click(".entries button", "add to uses")
	p.fill("#f-brief-works-2-name", "read the seismograph")
	p.fill("#f-brief-works-2-memory_gib", "9 GiB")
	p.sees(".finding.risk", "Read the seismograph needs 9 GiB")
	p.click(".editor button", "^remove$")
	p.sees(".entries", "ticket films")
	assert.Len(t, p.exported().Brief.Works, 2)
	p.click(".entries button", "add to alterations")
	p.fill("#f-alterations-0-name", "saw the back cover")
	p.choose("#f-alterations-0-touches", "cover")
	p.sees(".finding.blocked", "The plan says: saw the back cover. The brief allows: nothing permanent.")
}

func TestOwnPartsComeFirst(t *testing.T) {
	p := sitDown(t)
	p.open("/bins")
	p.click(".found button", "Wagtail 8G")
	p.page.MustWaitLoad()
	p.fill("#f-name", "my old Wagtail")
	p.fill("#f-length_mm", "7 1/2 in")
	p.click(".list button", "add to power plugs")
	p.fill("#f-plugs-1-name", "soldered on")
	p.choose("#f-plugs-1-connector", "card 8-pin")
	p.click(".button", "back to the card")
	p.page.MustWaitLoad()
	p.sees(".list", "soldered on")
	p.open("/rigs/1/route")
	p.press('/')
	p.take("my old Wagtail")
	p.sees(".mat", "Wagtail")
	assert.InDelta(t, 190.5, float64(p.exported().Card.Length.Value), 1e-9)
	assert.Equal(t, "soldered on", p.exported().Card.Plugs[1].Name)
	p.click(".editor button", "into my bins")
	p.page.MustWaitLoad()
	p.open("/bins")
	p.sees(".found", "my old Wagtail")
}

// TestEditWaitsForTheDataFile: while the data file is away the page says so and
// keeps the edit, and sends it when the file is back.
func TestEditWaitsForTheDataFile(t *testing.T) {
	v, _ := serve(t)
	defer v.stop()
	p := somebody(t, "http://"+v.addr)
	p.open("/rigs/1/route?sel=/card")
	require.NoError(t, os.Rename(v.path, v.path+".away"))
	p.fill("#f-card-power_w", "151 W")
	p.sees("#notice", "moved or deleted")
	require.NoError(t, os.Rename(v.path+".away", v.path))
	p.sees(".kept", "Change 2")
	assert.InDelta(t, 151, float64(p.exported().Card.Power.Value), 1e-9)
	assert.True(t, p.until(`() => document.getElementById('notice').hidden`))
}

// TestFormOfTheBenchAfterARestart: its token is forgotten, what was typed is not.
func TestFormOfTheBenchAfterARestart(t *testing.T) {
	v, _ := serve(t)
	p := somebody(t, "http://"+v.addr)
	p.open("/")
	v.stop()
	v.start()
	defer v.stop()
	p.fill("#new-name", "typed before the restart")
	p.click("button", "Start a rig")
	p.page.MustWaitLoad()
	p.sees("main", "You typed typed before the restart")
	require.True(t, p.until(`() => document.querySelector('.again [name=_csrf]').value !== ''`))
	p.click("button", "Send it again")
	p.page.MustWaitLoad()
	p.sees(".here", "Survey")
	assert.Equal(t, "typed before the restart", p.find("#rig-name").MustProperty("value").String())
}

// TestQuestionIsAnsweredWhereItStands: a missing fact is asked once, says what each
// answer brings, and goes with its answer.
func TestQuestionIsAnsweredWhereItStands(t *testing.T) {
	p := sitDown(t)
	p.open("/rigs/4/route?sel=/route/stages/0")
	p.fill("#f-route-stages-0-generation", "")
	p.sees(".question", "The generation of Field dock")
	assert.Len(t, p.page.MustElements(".question"), 1)
	p.click(".question summary", "what each answer brings")
	p.sees(".question dd", "0.82 GB/s net")
	p.fill("#ask-f-route-stages-0-generation", "3")
	assert.True(t, p.until(`() => !document.querySelector('.question')`))
	assert.Equal(t, 3, p.exported().Route.Stages[0].Gen.Value)
}

// TestDoneThereIsDoneHere: a page hears of what is done on another one of the same rig, without
// being loaded anew, and keeps what is being typed into it; another rig's changes leave it alone.
func TestDoneThereIsDoneHere(t *testing.T) {
	t.Parallel()
	bench := sitDown(t)
	phone := somebody(t, bench.base)
	bench.open("/rigs/1/assembly")
	phone.open("/rigs/1/assembly")
	phone.page.MustEval(`() => { window.same = true; document.getElementById('step-remember').open = true }`)
	phone.find(`input[name=line]`).MustInput("the clip is stiff")
	phone.page.MustEval(`() => document.activeElement.blur()`)
	bench.click(".step-acts button", "done")
	require.True(t, phone.until(`() => document.querySelector('.kept')?.textContent.includes('step')`), "it does not hear")
	require.True(t, phone.until(`() => window.same === true`), "the page was loaded anew")
	assert.Equal(t, "the clip is stiff", phone.page.MustEval(`() => document.querySelector('input[name=line]').value`).Str())
	kept := phone.page.MustEval(`() => document.querySelector('.kept').textContent`).Str()
	bench.open("/rigs/2/assembly")
	bench.click(".step-acts button", "done")
	time.Sleep(time.Second)
	assert.Equal(t, kept, phone.page.MustEval(`() => document.querySelector('.kept').textContent`).Str())
}

// TestADeviceFollowsTheBench: it goes where this machine's own screen goes, until it is told not to;
// a page that follows leads nobody.
func TestADeviceFollowsTheBench(t *testing.T) {
	t.Parallel()
	bench := sitDown(t)
	phone := somebody(t, bench.base)
	phone.open("/rigs/1/route")
	phone.page.MustEval(`() => document.body.insertAdjacentHTML('beforeend', '<button id="follows" x-data="follow" x-on:click="turn">follow the bench</button>')`)
	bench.open("/rigs/1/fit")
	time.Sleep(300 * time.Millisecond)
	assert.Contains(t, phone.page.MustInfo().URL, "/rigs/1/route", "it goes its own way")
	phone.click("#follows", "follow")
	at := func(station string) bool {
		return phone.until(`(s) => location.pathname === s && document.querySelector('a.stop[aria-current]')?.textContent.includes('`+station+`')`,
			"/rigs/1/"+strings.ToLower(station))
	}
	require.True(t, at("Fit"), "where the bench is already")
	bench.click("a.stop", "Power")
	require.True(t, at("Power"))
	bench.open("/rigs/2/survey")
	require.True(t, phone.until(`() => location.pathname === '/rigs/2/survey'`), "another rig")
	answer, err := http.Get(bench.base + "/events")
	require.NoError(t, err)
	defer answer.Body.Close()
	lines := bufio.NewScanner(answer.Body)
	for lines.Scan() && lines.Text() != "event: shown" {
	}
	require.True(t, lines.Scan())
	assert.Equal(t, "data: /rigs/2/survey?sel=", lines.Text())
}

// TestHandsFull: the step by itself, to be read from a metre away, worked by the keys of a remote.
func TestHandsFull(t *testing.T) {
	t.Parallel()
	p := sitDown(t)
	p.open("/rigs/2/assembly")
	step := func() string { return p.page.MustEval(`() => document.querySelector('input[name=step]').value`).Str() }
	first := step()
	p.press(input.PageDown)
	assert.Equal(t, first, step(), "not before it is asked for")
	p.click(".hands", "hands full")
	assert.Greater(t, p.page.MustEval(`() => parseFloat(getComputedStyle(document.querySelector('.step h2')).fontSize)`).Num(), 40.0)
	assert.False(t, p.find(".stations").MustVisible())
	area := p.page.MustEval(`() => document.querySelector('[name=done]').getBoundingClientRect().height`).Num()
	assert.Greater(t, area, 200.0)
	read := func() { p.page.MustEval(`() => scrollTo(0, document.documentElement.scrollHeight)`) }
	p.page.MustEval(`() => {
		document.querySelector('.step').insertAdjacentHTML('beforeend', '<p id="long"></p>')
		document.getElementById('long').style.height = '2000px'
	}`)
	p.press(input.Enter)
	require.True(t, p.until(`() => scrollY > 0`), "what is not on the screen yet comes first")
	assert.Equal(t, first, step())
	read()
	p.press(input.ArrowRight)
	require.True(t, p.until(`(s) => document.querySelector('input[name=step]').value !== s`, first))
	p.press(input.PageUp)
	require.True(t, p.until(`(s) => document.querySelector('input[name=step]').value === s`, first))
	read()
	p.press(input.Enter)
	require.True(t, p.until(`() => document.querySelector('.kept').textContent.includes('Change 2')`), "done by a key")
	assert.True(t, p.page.MustEval(`() => document.documentElement.classList.contains('hands-full')`).Bool(), "it stays through the steps")
	p.press(input.Escape)
	require.True(t, p.until(`() => !document.documentElement.classList.contains('hands-full')`))
	assert.True(t, p.find(".stations").MustVisible())
}

// TestWithOneHand, at a telephone: large figures for what is typed in its unit, a watch that fills
// in the minutes, and a picture that is no larger than it is looked at.
func TestWithOneHand(t *testing.T) {
	t.Parallel()
	p := sitDown(t)
	p.page.MustSetViewport(390, 844, 1, true)
	require.NoError(t, proto.EmulationSetTouchEmulationEnabled{Enabled: true}.Call(p.page))
	p.open("/rigs/2/assembly")
	p.reveal("input[name=minutes]")
	p.page.MustEval(`() => sessionStorage.setItem('kolvan-watch ' + location.pathname + ' ' + document.querySelector('[data-step]').dataset.step, Date.now() - 150000)`)
	require.True(t, p.until(`() => document.querySelector('[data-step]').textContent.startsWith('stop at 2:3')`))
	p.click("[data-step]", "stop at")
	minutes := func() string { return p.find("input[name=minutes]").MustProperty("value").String() }
	assert.Regexp(t, `^2\.[56]$`, minutes())
	p.find("[data-step]").MustWaitStable()
	p.sees("[data-step]", "start the watch")

	p.page.MustEval(`() => { const at = document.querySelector('input[name=minutes]'); at.focus(); at.select() }`)
	require.True(t, p.until(`() => !document.getElementById('keypad').hidden && document.querySelector('#keypad output').textContent.endsWith(' min')`))
	for _, key := range []string{"1", "2", ".", "5", "back", "7"} {
		p.page.MustEval(`(k) => document.querySelector('#keypad [data-key="' + k + '"]').dispatchEvent(new PointerEvent('pointerdown', { bubbles: true, cancelable: true }))`, key)
	}
	assert.Equal(t, "12.7", minutes())
	p.page.MustEval(`() => document.querySelector('#keypad [data-key=done]').dispatchEvent(new PointerEvent('pointerdown', { bubbles: true, cancelable: true }))`)
	require.True(t, p.until(`() => document.getElementById('keypad').hidden`))

	size := p.page.MustEval(`async () => {
		const canvas = document.createElement('canvas')
		canvas.width = 4000
		canvas.height = 3000
		const file = new File([await new Promise((made) => canvas.toBlob(made, 'image/png'))], 'clip.png', { type: 'image/png' })
		const input = document.querySelector('input[name=picture]')
		const list = new DataTransfer()
		list.items.add(file)
		input.files = list.files
		input.dispatchEvent(new Event('change', { bubbles: true }))
		for (let i = 0; i < 100 && input.files[0] === file; i++) await new Promise((go) => setTimeout(go, 50))
		const made = await createImageBitmap(input.files[0])
		return input.files[0].name + ' ' + made.width + 'x' + made.height
	}`).Str()
	assert.Equal(t, "clip.jpg 2048x1536", size)
}
