package web_test

import (
	"bytes"
	"fmt"
	"mime/multipart"
	"net/http"
	"net/http/httptest"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// addRun sends the form of a run, with a capture where there is one.
func (c *client) addRun(id int, capture string, values ...string) (int, string) {
	var body bytes.Buffer
	form := multipart.NewWriter(&body)
	for i := 0; i < len(values); i += 2 {
		require.NoError(c.t, form.WriteField(values[i], values[i+1]))
	}
	require.NoError(c.t, form.WriteField("rev", c.rev(id)))
	require.NoError(c.t, form.WriteField("station", "proof"))
	if capture != "" {
		part, err := form.CreateFormFile("capture", "evening.csv")
		require.NoError(c.t, err)
		_, err = part.Write([]byte(capture))
		require.NoError(c.t, err)
	}
	require.NoError(c.t, form.Close())
	r := httptest.NewRequest(http.MethodPost, fmt.Sprintf("/rigs/%d/run", id), &body)
	r.Header.Set("Content-Type", form.FormDataContentType())
	r.Header.Set("HX-Request", "true")
	answer, page := c.send(r)
	return answer.StatusCode, page
}

// captureOf is a table of frames of one length, but for a little.
func captureOf(head string, ms float64) string {
	var b strings.Builder
	b.WriteString(head + "\n")
	for i := range 2000 {
		fmt.Fprintf(&b, "%.3f\n", ms+float64(i%5)/10)
	}
	return b.String()
}

func TestRunsBeforeAndAfter(t *testing.T) {
	app, _ := bench(t)
	c := newClient(t, app)
	_, page := c.get("/rigs/2/proof")
	for _, says := range []string{"No run with the card yet.", "29.8", "on another machine", `class="run thick elsewhere"`} {
		assert.Contains(t, page, says, "the demo's runs")
	}
	_, page = c.get("/rigs/1/proof")
	assert.Contains(t, page, "No capture is here yet")
	assert.Contains(t, page, "not proven")

	status, page := c.addRun(1, captureOf("frame_time_ms", 40), "side", "before", "use", "live stacking", "name", "own graphics")
	require.Equal(t, http.StatusOK, status)
	assert.Contains(t, saidBy(page), "kept, change 2: run own graphics")
	assert.NotContains(t, page, "No capture is here yet")
	status, page = c.addRun(1, captureOf("frame_time_ms", 10), "side", "after", "use", "live stacking")
	require.Equal(t, http.StatusOK, status)
	for _, says := range []string{"×3.94", "+294\u00a0%", "24.9\u00a0Hz", "98\u00a0Hz", "It cannot be told yet", "No reading under load shows the link as planned"} {
		assert.Contains(t, saidBy(page), says)
	}
	assert.Equal(t, 4, strings.Count(page, `<path class="run`)-3, "both runs, over time and sorted")

	_, sheet := c.get("/rigs/1/sheet.md")
	assert.Contains(t, sheet, "| live stacking: average | 24.9 Hz | 98 Hz | +294 % (294 to 294) | ×3.94 |")

	c.post("/rigs/1/set", "rev", c.rev(1), "station", "proof", "path", "/runs/1/width_px", "value", "1280")
	status, page = c.post("/rigs/1/set", "rev", c.rev(1), "station", "proof", "path", "/runs/1/height_px", "value", "720")
	require.Equal(t, http.StatusOK, status)
	assert.Contains(t, saidBy(page), "They differ in resolution: not told by not told against 1280 by 720: no per cent is given.")
	assert.NotContains(t, saidBy(page), "×3.94")
	assert.Contains(t, saidBy(page), "What would tell it: a run with the link forced a generation down")

	_, page = c.post("/rigs/1/remove", "rev", c.rev(1), "station", "proof", "path", "/runs/0")
	assert.Contains(t, saidBy(page), "No run from before the card: nothing to hold it against.")
	_, page = c.post("/rigs/1/undo", "rev", c.rev(1), "station", "proof")
	assert.Contains(t, saidBy(page), "own graphics")
}

func TestRunsThatAreTypedAndOnesThatAreWrong(t *testing.T) {
	app, _ := bench(t)
	c := newClient(t, app)
	before := c.rev(1)
	for says, form := range map[string][]string{
		"a capture of frame times, or an average in Hz": {"side", "before"},
		"rather quick": {"average", "rather quick"},
		"pixels across and down, such as 1920 x 1080": {"average", "60", "size", "1920"},
		"evening.csv":                 {"capture", "name,colour\na,green\nb,red\n"},
		"column pace is not accepted": {"capture", captureOf("frame_time_ms", 40), "column", "pace"},
	} {
		capture := ""
		if form[0] == "capture" {
			capture, form = form[1], form[2:]
		}
		status, page := c.addRun(1, capture, form...)
		assert.Equal(t, http.StatusUnprocessableEntity, status, says)
		assert.Contains(t, saidBy(page), says)
	}
	assert.Equal(t, before, c.rev(1), "nothing is half-written")

	status, page := c.addRun(1, "", "average", "31.5", "side", "before", "name", "read off the screen")
	require.Equal(t, http.StatusOK, status)
	assert.Contains(t, saidBy(page), "31.5\u00a0Hz")
	assert.Contains(t, saidBy(page), "read off the screen")
	_, page = c.addRun(1, "", "average", "60", "side", "before", "name", "read off the screen", "size", "1920 × 1080")
	assert.Contains(t, saidBy(page), "read off the screen 2")
	_, file := c.get("/rigs/1/export")
	assert.Regexp(t, `"width_px": ?1920,\s*"height_px": ?1080`, file)
	status, page = c.addRun(1, captureOf("frame", 0.040), "unit", "s", "column", "frame", "side", "elsewhere")
	require.Equal(t, http.StatusOK, status, saidBy(page))
	assert.Contains(t, saidBy(page), "on another machine")
	for range 61 {
		status, _ = c.addRun(1, "", "average", "60")
		require.Equal(t, http.StatusOK, status)
	}
	status, page = c.addRun(1, "", "average", "60")
	assert.Equal(t, http.StatusUnprocessableEntity, status, "a list holds sixty-four")
	assert.Contains(t, saidBy(page), "at most 64 entries")
}

// TestProofByHand: captures are chosen, held together, taken back and brought again; what
// was refused stays as it was typed.
func TestProofByHand(t *testing.T) {
	p := sitDown(t)
	capture := func(name string, ms float64) string {
		path := filepath.Join(t.TempDir(), name)
		require.NoError(t, os.WriteFile(path, []byte(captureOf("frame_time_ms", ms)), 0o600))
		return path
	}
	p.open("/rigs/3/route")
	p.press('g', 'o')
	p.sees(".mat-empty", "No capture is here yet")

	p.find("input[name=average]").MustInput("rather quick")
	p.click("button", "^add the run$")
	p.sees("[role=alert]", "rather quick")
	assert.Equal(t, "rather quick", p.find("input[name=average]").MustProperty("value").String(), "what was typed is still there")
	p.fill("input[name=average]", "")

	add := func(path, side, size string) {
		p.find("input[name=capture]").MustSetFiles(path)
		p.choose("select[name=side]", side)
		p.find("input[name=size]").MustSelectAllText().MustInput(size)
		p.click("button", "^add the run$")
	}
	add(capture("own graphics.csv", 40), "before the card", "1920 x 1080")
	p.sees("th", "own graphics")
	add(capture("evening.csv", 12), "with the card", "1920 x 1080")
	p.sees(".gain td", "×3.3")
	p.sees("nav", "×3.3")
	add(capture("evening, held down.csv", 24), "with the card", "1920 x 1080")
	p.sees(".gain h2", "1920 by 1080")
	assert.Len(t, p.exported().Runs, 3)

	p.click("button", "^undo$")
	assert.Len(t, p.exported().Runs, 2)
	p.click("button", "^redo$")
	p.click("th a", "held down")
	p.page.MustWaitLoad()
	p.sees("h2", "evening, held down")
	p.fill("#f-runs-2-generation", "1")
	p.page.MustReload().MustWaitLoad()
	p.settle()
	assert.Equal(t, 1, p.exported().Runs[2].Gen.Value, "kept, and read anew")
	p.sees(".gain td", "×3.3")
	p.click("button", "^remove evening$")
	p.sees(".caution", "They differ in link held to generation: as planned against 1")
}
