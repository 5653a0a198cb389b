package web_test

import (
	"bytes"
	"encoding/binary"
	"fmt"
	"hash/crc32"
	"image"
	"image/jpeg"
	"net/http"
	"regexp"
	"strings"
	"testing"

	"github.com/go-rod/rod/lib/input"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kolvan/web"
)

// TestStepsOfTheBuild: ticked, moved against what they need, and taken back.
func TestStepsOfTheBuild(t *testing.T) {
	app, _ := bench(t)
	c := newClient(t, app)
	do := func(act string, pairs ...string) string {
		status, page := c.post("/rigs/3/"+act, append([]string{"rev", c.rev(3), "station", "assembly"}, pairs...)...)
		require.Equal(t, http.StatusOK, status, page)
		return page
	}
	_, page := c.get("/rigs/3/assembly")
	assert.Contains(t, page, "The evening of the build")
	assert.Contains(t, page, "7 of ", "six are done in the demo")
	page = do("done", "step", "power-off", "done", "yes", "minutes", "3", "line", "both plugs out")
	assert.Contains(t, page, "step power-off is done")
	assert.Contains(t, do("done", "step", "power-off", "done", "no"), "step power-off is open again")
	status, page := c.post("/rigs/3/done", "rev", c.rev(3), "station", "assembly", "step", "power-off", "done", "yes", "minutes", "soon")
	assert.Equal(t, http.StatusUnprocessableEntity, status)
	assert.Contains(t, page, `name="minutes" value="soon"`, "what was typed is still there")
	assert.Contains(t, do("hand", "tool", "soft cloth"), "soft cloth is at hand")
	for range 4 {
		page = do("step", "step", "power-off", "by", "1")
	}
	assert.Contains(t, page, "There is power at that step", "the host is opened with power there")
	assert.NotContains(t, do("step", "by", "none"), "There is power at that step")
	page = do("need", "step", "photograph-firmware", "after", "fetch-drivers")
	assert.Contains(t, page, "photograph-firmware comes after fetch-drivers")
	assert.Less(
		t, strings.Index(page, "assembly?sel=/build/step/fetch-drivers"),
		strings.Index(page, "assembly?sel=/build/step/photograph-firmware"),
	)
	page = do("need", "step", "fetch-drivers", "after", "photograph-firmware")
	assert.Contains(t, page, "No order works", "each of them after the other")
	do("need", "step", "fetch-drivers", "after", "photograph-firmware")
	status, page = c.post("/rigs/3/need", "rev", c.rev(3), "station", "assembly", "step", "card", "after", "lunch")
	assert.Equal(t, http.StatusUnprocessableEntity, status)
	assert.Contains(t, page, "two steps of this rig")
	assert.NotContains(t, do("hand", "tool", "a test card"), "not at hand")
	_, page = c.get("/rigs/3/assembly")
	assert.Contains(t, page, "Put the cheap test card in first")
	_, page = c.get("/rigs/3/export")
	assert.NotContains(t, page, `"order"`)
}

// TestPicturesOfAStep are made anew: nothing of the camera stays in them, and what is no
// picture is refused.
func TestPicturesOfAStep(t *testing.T) {
	app, s := bench(t)
	c := newClient(t, app)
	var plain, camera bytes.Buffer
	require.NoError(t, jpeg.Encode(&plain, image.NewGray(image.Rect(0, 0, 40, 30)), nil))
	camera.Write(plain.Bytes()[:2])
	camera.WriteString("\xff\xe1\x00\x14Exif\x00\x00 at home, 52N")
	camera.Write(plain.Bytes()[2:])
	status, _ := c.upload("/rigs/3/picture?step=card", "picture", map[string]string{"bench.jpg": camera.String()})
	assert.Equal(t, http.StatusSeeOther, status)
	ids, err := s.PicturesOf(t.Context(), 3, "card")
	require.NoError(t, err)
	require.Len(t, ids, 1)
	status, kept := c.get("/rigs/3/picture/1")
	assert.Equal(t, http.StatusOK, status)
	assert.NotContains(t, kept, "at home")
	size, err := jpeg.DecodeConfig(strings.NewReader(kept))
	require.NoError(t, err)
	assert.Equal(t, 40, size.Width)
	_, page := c.get("/rigs/3/assembly?sel=/build/step/card")
	assert.Contains(t, page, "/rigs/3/picture/1")
	status, _ = c.get("/rigs/2/picture/1")
	assert.Equal(t, http.StatusNotFound, status, "of another rig")
	status, _ = c.upload("/rigs/2/picture?step=run+own+graphics", "picture", map[string]string{"settings.jpg": plain.String()})
	assert.Equal(t, http.StatusSeeOther, status)
	_, page = c.get("/rigs/2/proof?sel=/runs/0")
	assert.Contains(t, page, "/rigs/2/picture/2", "a picture of a run's settings stands with the run")
	_, page = c.get("/rigs/2/proof?sel=/runs/1")
	assert.NotContains(t, page, "/rigs/2/picture/2")
	status, page = c.upload("/rigs/3/picture?step=card", "picture", map[string]string{"notes.txt": "no picture"})
	assert.Equal(t, http.StatusUnprocessableEntity, status)
	assert.Contains(t, page, "PNG, JPEG or WebP")
	spoil(t, s, "UPDATE pictures SET image = x'00' WHERE id = 1")
	app, err = web.New(s, []string{host}, web.Instruments{})
	require.NoError(t, err)
	c = newClient(t, app)
	status, page = c.get("/rigs/3/assembly?sel=/build/step/card")
	assert.Equal(t, http.StatusOK, status)
	assert.Contains(t, page, "This picture is damaged")
	status, _ = c.get("/rigs/3/picture/1")
	assert.Equal(t, http.StatusUnprocessableEntity, status)
	status, _ = c.get("/rigs/3/everything.zip")
	assert.Equal(t, http.StatusOK, status, "the rest of it")
	c.post("/rigs/3/picture/1/drop", "step", "card")
	ids, err = s.PicturesOf(t.Context(), 3, "card")
	require.NoError(t, err)
	assert.Empty(t, ids)
}

// TestPicturesThatAreTooMuch are refused by their heads, each limit said.
func TestPicturesThatAreTooMuch(t *testing.T) {
	app, s := bench(t)
	c := newClient(t, app)
	head := func(w, h uint32, depth, kind byte) string { // of a PNG, whose pixels never come
		chunk := binary.BigEndian.AppendUint32([]byte("IHDR"), w)
		chunk = append(binary.BigEndian.AppendUint32(chunk, h), depth, kind, 0, 0, 0)
		return "\x89PNG\r\n\x1a\n\x00\x00\x00\x0d" + string(binary.BigEndian.AppendUint32(chunk, crc32.ChecksumIEEE(chunk)))
	}
	inPasses := func(w, h uint16) string { // a JPEG of three whole components
		frame := binary.BigEndian.AppendUint16(
			[]byte("\xff\xd8\xff\xe0\x00\x10JFIF\x00\x01\x01\x00\x00\x01\x00\x01\x00\x00\xff\xc2\x00\x11\x08"), h,
		)
		return string(binary.BigEndian.AppendUint16(frame, w)) + "\x03\x01\x11\x00\x02\x11\x00\x03\x11\x00"
	}
	for name, p := range map[string]struct{ step, file, says string }{
		"pixels":      {"card", head(10_000, 5001, 8, 2), "10000 by 5001 pixels are too many"},
		"deep":        {"card", head(7000, 7000, 16, 6), "374 MiB to read, and 200 are given"},
		"in passes":   {"card", inPasses(4000, 3500), "as a plain JPEG"},
		"bytes":       {"card", head(1, 1, 8, 2) + strings.Repeat("x", 16<<20), "has 16 MiB"},
		"a long name": {strings.Repeat("x", 161), head(1, 1, 8, 2), "161 characters"},
		"no name":     {"", head(1, 1, 8, 2), "0 characters"},
		"cut":         {"card", head(5000, 5000, 8, 2), "cannot be read (unexpected EOF)"},
		"cut head":    {"card", inPasses(10, 10)[:9], "cannot be read"},
	} {
		status, page := c.upload("/rigs/3/picture?step="+p.step, "picture", map[string]string{"p": p.file})
		assert.Equal(t, http.StatusUnprocessableEntity, status, name)
		assert.Contains(t, page, p.says, name)
	}
	for range 400 {
		require.NoError(t, s.KeepPicture(t.Context(), 3, "card", []byte("one")))
	}
	_, page := c.upload("/rigs/3/picture?step=card", "picture", map[string]string{"p": head(1, 1, 8, 2)})
	assert.Contains(t, page, "400 pictures")
}

// TestHuntForAFault: what a test showed is kept, moves the weights, and can be forgotten;
// the page for others has no name in it; practice is played from its address alone.
func TestHuntForAFault(t *testing.T) {
	t.Parallel()
	app, _ := bench(t)
	c := newClient(t, app)
	_, page := c.get("/rigs/1/assembly?sel=/build/fault")
	assert.Contains(t, page, "Look at the dock&#39;s lamp")
	status, page := c.post("/rigs/1/try", "rev", c.rev(1), "station", "assembly", "test", "lamp", "outcome", "off")
	require.Equal(t, http.StatusOK, status)
	assert.Contains(t, page, "it is off")
	assert.NotContains(t, page, "Next: Look at the dock&#39;s lamp", "it is not asked again")
	status, _ = c.post("/rigs/1/try", "rev", c.rev(1), "station", "assembly", "test", "lamp", "outcome", "green")
	assert.Equal(t, http.StatusUnprocessableEntity, status)
	_, page = c.post("/rigs/1/try", "rev", c.rev(1), "station", "assembly", "remark", "smelled of dust")
	assert.Contains(t, page, "a remark, which counts for nothing")
	_, page = c.get("/rigs/1/ask")
	assert.Contains(t, page, "It is off")
	for _, name := range []string{"Dome-shed", "Corvane", "Lantern", " kr"} {
		assert.NotContains(t, page[strings.Index(page, "<textarea"):], name)
	}
	_, asked := c.get("/rigs/1/ask.html")
	for _, name := range []string{"Dome-shed", "Corvane", "Lantern", " kr", "&#34;price&#34;"} {
		assert.NotContains(t, asked, name)
	}
	_, bench := c.upload("/import", "files", map[string]string{"asks.html": asked, "none.html": "<p>nothing"})
	assert.Contains(t, bench, "none.html: this page carries no rig")
	assert.Contains(t, bench, "A rig")
	_, page = c.post("/rigs/1/untry", "rev", c.rev(1), "station", "assembly", "n", "0")
	assert.Contains(t, page, "a try is forgotten")

	_, page = c.get("/rigs/1/practice?seed=5&do=lamp+device+nonsense")
	assert.Contains(t, page, "<b>3 min</b> spent", "lamp and list; what is no test is left out")
	_, again := c.get("/rigs/1/practice?seed=5&do=lamp+device+nonsense")
	showed := func(page string) string { return page[strings.Index(page, "<tbody>"):strings.Index(page, "</tbody>")] }
	assert.Equal(t, showed(page), showed(again))
	_, page = c.get("/rigs/1/practice?seed=5&do=lamp&guess=lane-broken")
	assert.Contains(t, page, "What the finder would have done")
	status, _ = c.get("/rigs/1/practice?seed=no")
	assert.Equal(t, http.StatusUnprocessableEntity, status)
}

// TestTriesTravelWithTheirParts: what was tried in another rig with parts that are one's own
// stands beside the tries, and where they worked there they are suspected less.
func TestTriesTravelWithTheirParts(t *testing.T) {
	app, _ := bench(t)
	c := newClient(t, app)
	file := func(name, owned string) string {
		return `{"format":"kolvan-rig/1","name":"` + name +
			`","host":{"kind":"mini-pc","slots":[{"name":"a","form":"m2","key":"M","lanes":4,"generation":4}]},` +
			`"route":{"slot":"a","stages":[{"name":"Otter cable","kind":"cable","lanes":4,"generation":4,"owned":` + owned +
			`,"plug":{"form":"m2","key":"M","lanes":4},"socket":{"form":"card","lanes":16}}]},"card":{"name":"Skua","lanes":16,"generation":4}}`
	}
	c.upload("/import", "files", map[string]string{"a.json": file("shelf box", "true")})
	c.upload("/import", "files", map[string]string{"b.json": file("hall box", "true")})
	c.upload("/import", "files", map[string]string{"c.json": file("their box", "false")})
	hunt := func(id int) string {
		_, page := c.get(fmt.Sprintf("/rigs/%d/assembly?sel=/build/fault", id))
		return saidBy(page)
	}
	suspicion := func() string { return regexp.MustCompile(`(?s)What may be broken.*?\bTries\b`).FindString(hunt(5)) }
	before := suspicion()
	require.Contains(t, before, "%")
	assert.NotContains(t, hunt(5), "Tried elsewhere")

	do := func(id int, act string, pairs ...string) {
		status, page := c.post(fmt.Sprintf("/rigs/%d/%s", id, act), append([]string{"rev", c.rev(id), "station", "assembly"}, pairs...)...)
		require.Equal(t, http.StatusOK, status, page)
	}
	do(7, "try", "test", "device=absent")
	assert.NotContains(t, hunt(5), "Tried elsewhere", "another's part of the same name is another part")
	do(6, "try", "test", "device=absent")
	assert.Contains(t, hunt(5), "Tried elsewhere, with the same parts")
	assert.Contains(t, hunt(5), "hall box")
	assert.Equal(t, before, suspicion(), "what failed elsewhere is told, and weighs nothing here")
	do(6, "patch", "patch", `[{"op":"add","path":"/route/readings","value":[{"width":4,"generation":4,"load":"loaded"}]}]`)
	assert.NotEqual(t, before, suspicion(), "it worked there")
	assert.Contains(t, hunt(5), "it works there")
}

// TestEveningAtTheBench by keyboard and by hand, on a telephone too.
func TestEveningAtTheBench(t *testing.T) {
	t.Parallel()
	p := sitDown(t)
	p.open("/rigs/3/route")
	p.press('g', 'a')
	p.sees(".evening figcaption", "The evening of the build")
	p.page.MustSetViewport(390, 844, 1, true)
	p.open("/rigs/3/assembly")
	first := p.find("#step-do").MustText()
	p.click(".step-acts .press", "done")
	assert.True(t, p.until(`(was) => document.querySelector('#step-do').textContent !== was`, first), "the next step stands there")
	assert.False(t, p.page.MustEval(`() => document.documentElement.scrollWidth > 390`).Bool(), "nothing beside the screen")
	p.page.MustSetViewport(1280, 800, 1, false)
	p.open("/rigs/2/assembly?sel=/build/power-on")
	p.sees(".timeline figcaption", "works as planned")
	p.page.MustEval(
		`() => { const r = document.querySelector('input[type=range]'); r.value = 500; r.dispatchEvent(new Event('input', { bubbles: true })) }`,
	)
	p.sees(".events .past", "The host's button is pressed.")
	p.find("select[name=fault]").MustSelect("driver missing")
	p.click("button", "play it")
	p.sees(".timeline figcaption", "no picture")
	p.click(".order", "host first")
	p.sees(".order.meant", "host first, then dock")
	p.click(".parts-of a", "something is wrong")
	p.find(".outcomes button").MustFocus()
	p.press(input.Enter)
	p.sees(".kept", "tried:")
}

// TestBodyInTheDrawing: a prism is drawn by its outline, a way of a cable by its arcs, the
// turned view has all that stands there, and what is typed into a dimension line is kept.
func TestBodyInTheDrawing(t *testing.T) {
	app, _ := bench(t)
	c := newClient(t, app)
	set := func(path, value string) string {
		status, page := c.post("/rigs/3/set", "rev", c.rev(3), "station", "fit", "path", path, "value", value)
		require.Equal(t, http.StatusOK, status, page)
		return page
	}
	_, page := c.get("/rigs/3/fit")
	assert.Contains(t, page, "turned view")
	assert.Contains(t, page, `aria-label="drive cage, turned view"`)
	assert.NotContains(t, page, `class="fit-box thing "><path`)
	set("/chamber/things/1/profile_axis", "z")
	for i, corner := range [][2]string{{"0", "0"}, {"100", "0"}, {"50", "30"}} {
		status, _ := c.post("/rigs/3/add", "rev", c.rev(3), "station", "fit", "path", "/chamber/things/1/profile")
		require.Equal(t, http.StatusOK, status)
		at := "/chamber/things/1/profile/" + string(rune('0'+i))
		set(at+"/u_mm", corner[0])
		page = set(at+"/v_mm", corner[1])
	}
	thing := page[strings.Index(page, "memory latches"):]
	assert.Contains(t, page, "memory latches")
	assert.Contains(t, thing, "<path d=\"M")
	page = set("/chamber/card_at/x_mm", "-4")
	assert.Contains(t, page, "The card meets the bracket&#39;s wall by 4\u00a0mm")
	assert.Contains(t, page, `id="place-x_mm" name="value" value="−4"`)
}

// TestWhichCardGoesIn for a room that is not known, and with what must come out.
func TestWhichCardGoesIn(t *testing.T) {
	app, _ := bench(t)
	c := newClient(t, app)
	_, page := c.get("/rigs/1/cards")
	assert.Contains(t, page, "no card can be held against it", "it stands in the open")
	_, page = c.get("/rigs/3/cards")
	assert.Contains(t, page, "<b>Skua 20G</b>")
	assert.Contains(t, page, "here now")
	status, page := c.post("/rigs/3/set", "rev", c.rev(3), "station", "fit", "path", "/chamber/box/x_mm", "value", "280")
	require.Equal(t, http.StatusOK, status, page)
	_, page = c.get("/rigs/3/cards")
	assert.Contains(t, page, "does not go in", "a wall does not come out")
}

// TestOrdersOfSwitching: each can be chosen, what none switches on is never found, and
// another evening stands at another address.
func TestOrdersOfSwitching(t *testing.T) {
	app, _ := bench(t)
	c := newClient(t, app)
	_, page := c.get("/rigs/2/assembly?sel=/build/power-on")
	for _, says := range []string{"dock first, then host", "always found", "2.9\u00a0s to spare", "perhaps found", "seed=2", "Dark for"} {
		assert.Contains(t, page, says)
	}
	_, one := c.get("/rigs/2/assembly?sel=/build/power-on&fault=driver-missing&seed=7")
	assert.Contains(t, one, "· no picture</b>")
	assert.Contains(t, one, "<option value=\"driver-missing\" selected>")
	status, page := c.post(
		"/rigs/2/set", "rev", c.rev(2), "station", "assembly", "sel", "/build/power-on", "path", "/sizing/switch_on", "value",
		"host-first",
	)
	require.Equal(t, http.StatusOK, status)
	assert.Contains(t, page, "Rehearsal: host first, then dock")
	_, page = c.get("/rigs/1/assembly?sel=/build/power-on")
	assert.Contains(t, page, "do not switch on")
	_, page = c.get("/rigs/4/assembly?sel=/build/power-on")
	assert.NotContains(t, page, "host first", "a brick for both leaves no choice")
	_, none := c.get("/rigs/2/assembly?sel=/build/power-on&fault=gremlins&seed=x")
	assert.Contains(t, none, "nothing broken")
}

// TestWhatIsMade beside the parts: longer screws, and what a rig that travels weighs.
func TestWhatIsMade(t *testing.T) {
	app, _ := bench(t)
	c := newClient(t, app)
	set := func(path, value string) string {
		status, page := c.post("/rigs/3/set", "rev", c.rev(3), "station", "fit", "path", path, "value", value)
		require.Equal(t, http.StatusOK, status, page)
		return page
	}
	set("/chamber/covers/1/raised_mm", "8")
	set("/chamber/covers/1/screw/thread", "M3")
	page := set("/chamber/covers/1/screw/length_mm", "5")
	for _, says := range []string{"Screws, after stand-offs", "M3 × 5", "M3 × 14", "not told"} {
		assert.Contains(t, page, says, "13 mm are needed, 14 are sold")
	}
	assert.Contains(t, set("/chamber/covers/1/screw/length_mm", "60"), "no such length is sold")
	set("/chamber/opening/width_mm", "40")
	page = set("/chamber/opening/height_mm", "90")
	assert.Contains(t, page, "/rigs/3/made/bracket.3mf")
	status, file := c.get("/rigs/3/made/bracket.dxf")
	assert.Equal(t, http.StatusOK, status)
	assert.Contains(t, file, "POLYLINE")
	_, page = c.get("/rigs/4/fit")
	for _, says := range []string{"of the bag", "2950 g", "12 min", "to set up"} {
		assert.Contains(t, page, says)
	}
}

// TestNewPagesOnATelephone: nothing stands beside the screen, what is pressed is large
// enough for a thumb, and text in the drawings can be read.
func TestNewPagesOnATelephone(t *testing.T) {
	t.Parallel()
	p := sitDown(t)
	p.page.MustSetViewport(390, 844, 1, true)
	for _, path := range []string{
		"/rigs/2/assembly", "/rigs/2/assembly?sel=/build/power-on", "/rigs/2/assembly?sel=/build/fault",
		"/rigs/2/practice?seed=4&do=lamp", "/rigs/2/ask", "/rigs/3/fit",
	} {
		p.open(path)
		assert.LessOrEqual(t, p.page.MustEval(`() => document.documentElement.scrollWidth`).Int(), 390, path)
		small := p.page.MustEval(
			`() => [...document.querySelectorAll('main button, main a.button, main .hand, .outcomes *')].filter((el) => el.getClientRects().length && el.getBoundingClientRect().height < 40).map((el) => el.textContent.trim()).join(', ')`,
		).String()
		assert.Empty(t, small, "%s: too small for a thumb", path)
		tiny := p.page.MustEval(
			`() => [...document.querySelectorAll('main svg text')].filter((el) => { const r = el.getBoundingClientRect(); return r.width && r.height < 8 }).map((el) => el.textContent).slice(0, 3).join(', ')`,
		).String()
		assert.Empty(t, tiny, "%s: too small to read", path)
	}
}

// TestAssemblyByKeyboard: the drawing is walked and a step chosen in it, ticked with its
// minutes, and taken back by undo; the outcomes of a test are reached the same way.
func TestAssemblyByKeyboard(t *testing.T) {
	t.Parallel()
	p := sitDown(t)
	p.open("/rigs/4/assembly")
	p.tabTo(".dot", "12")
	p.press(input.Enter)
	p.sees(".step-at", "12 of ")
	p.tabTo(".step-acts button", "done")
	p.press(input.Enter)
	p.sees(".kept", "is done")
	p.press('z')
	p.sees(".dot.done text", "10")
	assert.False(t, p.page.MustEval(`() => [...document.querySelectorAll('.dot.done text')].some((el) => el.textContent === '12')`).Bool())
	p.open("/rigs/4/assembly?sel=/build/fault")
	p.tabTo(".outcomes button", "")
	p.press(input.Enter)
	p.sees(".kept", "tried:")
	p.sees("#tries-title", "Tries")
}
