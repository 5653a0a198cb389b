package web_test

import (
	"bytes"
	"image"
	"image/jpeg"
	"image/png"
	"net/http"
	"strings"
	"testing"

	"github.com/go-rod/rod/lib/input"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
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
	assert.Contains(t, page, "soon")
	assert.Contains(t, do("hand", "tool", "soft cloth"), "soft cloth is at hand")
	for range 4 {
		page = do("step", "step", "power-off", "by", "1")
	}
	assert.Contains(t, page, "build.live", "the host is opened with power there")
	assert.NotContains(t, do("step", "by", "none"), "build.live")
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
	status, page = c.upload("/rigs/3/picture?step=card", "picture", map[string]string{"notes.txt": "no picture"})
	assert.Equal(t, http.StatusUnprocessableEntity, status)
	assert.Contains(t, page, "PNG, JPEG or WebP")
	var wide bytes.Buffer
	require.NoError(t, png.Encode(&wide, image.NewGray(image.Rect(0, 0, 1, 1))))
	status, _ = c.upload("/rigs/3/picture?step=card", "picture", map[string]string{"large.png": wide.String() + strings.Repeat("x", 8<<20)})
	assert.GreaterOrEqual(t, status, 400)
	c.post("/rigs/3/picture/1/drop", "step", "card")
	ids, err = s.PicturesOf(t.Context(), 3, "card")
	require.NoError(t, err)
	assert.Empty(t, ids)
}

// TestHuntForAFault: what a test showed is kept, moves the weights, and can be forgotten;
// the page for others has no name in it; practice is played from its address alone.
func TestHuntForAFault(t *testing.T) {
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

// TestEveningAtTheBench by keyboard and by hand, on a telephone too.
func TestEveningAtTheBench(t *testing.T) {
	p := sitDown(t)
	p.open("/rigs/3/route")
	p.press('g', 'a')
	p.sees(".evening figcaption", "The evening of the build")
	p.page.MustSetViewport(390, 844, 1, true)
	p.open("/rigs/3/assembly")
	first := p.find("#step-do").MustText()
	p.click(".step-acts .strong", "done")
	assert.True(t, p.until(`(was) => document.querySelector('#step-do').textContent !== was`, first), "the next step stands there")
	assert.False(t, p.page.MustEval(`() => document.documentElement.scrollWidth > 390`).Bool(), "nothing beside the screen")
	p.page.MustSetViewport(1280, 800, 1, false)
	p.open("/rigs/2/assembly?sel=/build/power-on")
	p.sees(".timeline figcaption", "works as planned")
	p.page.MustEval(`() => { const r = document.querySelector('input[type=range]'); r.value = 500; r.dispatchEvent(new Event('input', { bubbles: true })) }`)
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
