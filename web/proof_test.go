package web_test

import (
	"archive/zip"
	"bytes"
	"encoding/csv"
	"fmt"
	"mime/multipart"
	"net/http"
	"net/http/httptest"
	"os"
	"path/filepath"
	"regexp"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kolvan/core/proof"
	"kolvan/core/rig"
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
	assert.Contains(t, saidBy(page), "Kept. Change 2: run own graphics")
	assert.NotContains(t, page, "No capture is here yet")
	status, page = c.addRun(1, captureOf("frame_time_ms", 10), "side", "after", "use", "live stacking")
	require.Equal(t, http.StatusOK, status)
	for _, says := range []string{
		"×3.94", "+294\u00a0%", "24.9\u00a0Hz", "98\u00a0Hz", "It cannot be told yet",
		"No reading under load shows the link as planned",
	} {
		assert.Contains(t, saidBy(page), says)
	}
	assert.Equal(t, 4, strings.Count(page, `<path class="run`)-2, "both runs, over time and sorted, beside the two of the key")

	_, sheet := c.get("/rigs/1/sheet.md")
	assert.Contains(t, sheet, "| live stacking: average | 24.9 Hz | 98 Hz | +294 % (290 to 298) | ×3.94 |")

	c.post("/rigs/1/set", "rev", c.rev(1), "station", "proof", "path", "/runs/1/width_px", "value", "1280")
	status, page = c.post("/rigs/1/set", "rev", c.rev(1), "station", "proof", "path", "/runs/1/height_px", "value", "720")
	require.Equal(t, http.StatusOK, status)
	assert.Contains(t, saidBy(page), "They differ in resolution: not told by not told against 1280 by 720: no per cent is given.")
	assert.NotContains(t, saidBy(page), "×3.94")
	assert.Contains(t, saidBy(page), "One run would tell more: a run with the link forced a generation down")

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
		"a capture of frame times, or a result that was read": {"side", "before"},
		"rather quick": {"average_hz", "rather quick"},
		"pixels across and down, such as 1920 x 1080": {"average_hz", "60", "size", "1920"},
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

	status, page := c.addRun(1, "", "average_hz", "31.5", "side", "before", "name", "read off the screen")
	require.Equal(t, http.StatusOK, status)
	assert.Contains(t, saidBy(page), "31.5\u00a0Hz")
	assert.Contains(t, saidBy(page), "read off the screen")
	_, page = c.addRun(1, "", "average_hz", "60", "side", "before", "name", "read off the screen", "size", "1920 × 1080")
	assert.Contains(t, saidBy(page), "read off the screen 2")
	_, file := c.get("/rigs/1/export")
	assert.Regexp(t, `"width_px": ?1920,\s*"height_px": ?1080`, file)
	status, page = c.addRun(1, captureOf("frame", 0.040), "unit", "s", "column", "frame", "side", "elsewhere")
	require.Equal(t, http.StatusOK, status, saidBy(page))
	assert.Contains(t, saidBy(page), "on another machine")
}

// TestProofByHand: captures are chosen, held together, taken back and brought again; what
// was refused stays as it was typed.
func TestProofByHand(t *testing.T) {
	t.Parallel()
	p := sitDown(t)
	capture := func(name string, ms float64) string {
		path := filepath.Join(t.TempDir(), name)
		require.NoError(t, os.WriteFile(path, []byte(captureOf("frame_time_ms", ms)), 0o600))
		return path
	}
	p.open("/rigs/3/route")
	p.press('g', 'o')
	p.sees(".mat-empty", "No capture is here yet")

	p.find("input[name=average_hz]").MustInput("rather quick")
	p.click("button", "^add the run$")
	p.sees("[role=alert]", "rather quick")
	assert.Equal(t, "rather quick", p.find("input[name=average_hz]").MustProperty("value").String(), "what was typed is still there")
	p.fill("input[name=average_hz]", "")

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

// TestTableIsShownBeforeItIsTaken: the column that was found, the first rows, and what is
// told apart; the process that is chosen is taken, each of its passes as a run.
func TestTableIsShownBeforeItIsTaken(t *testing.T) {
	app, s := bench(t)
	c := newClient(t, app)
	table := "program,frame time [ms]\n" + strings.Repeat(
		"viewer,16\nviewer,17\noverlay,40\n",
		30,
	) + "program,frame time [ms]\n" + strings.Repeat(
		"viewer,20\n",
		50,
	)
	status, look := c.upload("/rigs/1/look", "capture", map[string]string{"evening.csv": table})
	require.Equal(t, http.StatusOK, status)
	for _, says := range []string{
		"Frame times in ms, from column 2", `<td class="taken">16</td>`, "overlay: 30 frames", `<option value="overlay">`,
	} {
		assert.Contains(t, look, says)
	}
	_, look = c.upload("/rigs/1/look", "capture", map[string]string{"evening.csv": "name,colour\na,red\n"})
	assert.Contains(t, look, "column is not accepted. Write the column of the frame times")

	status, _ = c.addRun(1, table, "side", "after", "use", "live stacking")
	require.Equal(t, http.StatusOK, status)
	assert.Len(t, kept(t, s, 1).Runs, 2, "both passes of the process with the most frames")
	c.addRun(1, table, "side", "after", "process", "overlay", "name", "over")
	runs := kept(t, s, 1).Runs
	require.Len(t, runs, 3)
	assert.InDelta(t, 25, runs[2].Average.Value, 1e-9)
	status, page := c.addRun(1, table, "side", "after", "process", "nobody")
	assert.Equal(t, http.StatusUnprocessableEntity, status)
	assert.Contains(t, saidBy(page), "one of viewer, overlay")

	status, page = c.addRun(1, "", "side", "before", "duration_s", "80", "use", "live stacking")
	require.Equal(t, http.StatusOK, status)
	assert.Contains(t, saidBy(page), "80\u00a0s")
	status, page = c.addRun(1, "", "duration_s", "soon", "score", "12")
	assert.Equal(t, http.StatusUnprocessableEntity, status)
	assert.Contains(t, page, `name="score" value="12"`, "what else was typed stays")
}

// TestLogHoldsAllThatHappened: readings, tries, runs and diary by their time; a line is added
// from anywhere, a wrong one keeps nothing; all of it leaves as one archive.
func TestLogHoldsAllThatHappened(t *testing.T) {
	app, s := bench(t)
	c := newClient(t, app)
	keepDemo(t, s, plans)
	_, page := c.get("/rigs/5/proof")
	for _, says := range []string{
		"Would be built again.", "3.05\u00a0GB/s copied to the card", "diary: 2", "Perhaps the card, 9 in 10",
		"board power at 96\u00a0%", "card 8-pin at 38",
	} {
		assert.Contains(t, saidBy(page), says)
	}
	_, only := c.get("/rigs/5/proof?log=diary")
	assert.NotContains(t, only, "copied to the card, 3")
	_, longer := c.get("/rigs/5/proof?minutes=90")
	assert.Greater(t, strings.Count(longer, "to make:"), strings.Count(page, "to make:"))

	status, page := c.post("/rigs/1/line", "rev", c.rev(1), "station", "power", "text", "the dock hums", "card_w", "150")
	require.Equal(t, http.StatusOK, status)
	assert.Contains(t, page, `name="station" value="power"`, "one stays where one was")
	assert.Equal(t, "the dock hums", kept(t, s, 1).Diary[0].Text)
	assert.InDelta(t, 150, float64(kept(t, s, 1).LoadReadings[0].Board.Value), 1e-9)
	status, page = c.post("/rigs/1/line", "rev", c.rev(1), "station", "power", "text", "and buzzes", "plug_c", "hot")
	assert.Equal(t, http.StatusUnprocessableEntity, status)
	assert.Contains(t, saidBy(page), "hot")
	assert.Len(t, kept(t, s, 1).Diary, 1, "nothing is half kept")

	require.NoError(t, s.KeepPicture(t.Context(), 5, "seat-card", []byte("picture")))
	_, packed := c.get("/rigs/5/everything.zip")
	z, err := zip.NewReader(strings.NewReader(packed), int64(len(packed)))
	require.NoError(t, err)
	var names []string
	for _, f := range z.File {
		names = append(names, f.Name)
	}
	assert.Equal(t, []string{"rig.json", "log.json", "sheet.md", "sheet.html", "pictures/seat-card-1.jpg"}, names)
	_, table := c.get("/rigs/5/runs.csv")
	rows, err := csv.NewReader(strings.NewReader(table)).ReadAll()
	require.NoError(t, err)
	assert.Len(t, rows, 8)
	assert.Equal(t, "host alone, first", rows[1][0])
	_, log := c.get("/rigs/5/log.json")
	runs, err := proof.RunsOfLog([]byte(log))
	require.NoError(t, err)
	assert.Equal(t, kept(t, s, 5).Runs, runs)
}

// TestTheChangeOneThinksOf: another slot, a held link, a cable and a card are forecast from
// the runs, a card only with its speed; the plan and what was found stand side by side along
// the route, with what read it, and what was typed says so.
func TestTheChangeOneThinksOf(t *testing.T) {
	app, s := bench(t)
	c := newClient(t, app)
	keepDemo(t, s, plans)
	said := func(page string) string { return strings.Join(strings.Fields(saidBy(page)), " ") }
	brings := func(query string) string {
		_, page := c.get("/rigs/5/proof?" + query)
		_, row, _ := strings.Cut(said(page), "and at the utmost from live stacking ")
		row, _, _ = strings.Cut(row, " by its runs")
		return row
	}
	assert.Regexp(t, `^link held to Gen 1 −6\d to [+−]?\d+ %: \d+ to \d+ Hz$`, brings("change=gen+1"))
	_, page := c.get("/rigs/5/proof?change=gen+1")
	bar := regexp.MustCompile(`<path d="M([\d.]+) 0V18"/><path class="utmost" d="M([\d.]+) 5V13M[\d.]+ 9H([\d.]+)M`).FindStringSubmatch(page)
	require.NotNil(t, bar)
	assert.Equal(t, "50.0", bar[1], "no change")
	assert.Regexp(t, `^1\d\.\d$`, bar[2], "from more than −70 %% of a bar that begins at −100 %%")
	assert.Regexp(t, `^[45]\d\.\d$`, bar[3], "to about nothing")
	assert.Contains(t, brings("change=cable+1+Link+cable+250"), "Link cable 250 for Link cable 500 0 to 0")
	assert.Contains(
		t, brings("change=card+Auk+24G&faster_card=1.3+to+1.7&more_pixels=2"),
		"the card Auk 24G, card × 1.3 to 1.7, pixels × 2 ",
	)
	for query, says := range map[string]string{
		"change=card+Auk+24G": "times as fast as Corvane 16G", "faster_processor=fast": "a ratio like 1.5",
		"faster_card=2,1": "the lower end first",
	} {
		_, page := c.get("/rigs/5/proof?" + query)
		assert.Contains(t, said(page), says, query)
	}
	for _, act := range []string{
		`[{"op":"add","path":"/runs/-","value":{"name":"swapped","side":"after","use":"live stacking","width_px":1920,"height_px":1080,"average_hz":60,"card":"Tern 8G"}}]`,
		`[{"op":"add","path":"/runs/-","value":{"name":"there","side":"elsewhere","machine":"the hall's tower","use":"live stacking","width_px":1920,"height_px":1080,"average_hz":97}}]`,
	} {
		status, page := c.post("/rigs/5/patch", "rev", c.rev(5), "patch", act)
		require.Equal(t, http.StatusOK, status, page)
	}
	assert.Regexp(
		t, `^the card Tern 8G, 0\.\d+ to 0\.\d+ times as fast, by runs in this host −\d+ to −\d+ %: [2-5]\d to [67]\d Hz$`,
		brings("change=card+Tern+8G"),
	)
	_, page = c.get("/rigs/5/proof?change=machine+the+hall%27s+tower")
	assert.Contains(t, said(page), "with what the link carried, would tell too")
	_, page = c.get("/rigs/5/proof")
	assert.Contains(t, said(page), "m2-a x4 Gen 3 x4 Gen 3 what the plan lets the link run at")
	assert.Contains(t, said(page), "under load; read with bus listing; 2026-10-23 20:20")
	_, page = c.get("/rigs/5/proof?run=4&run=5&run=6&run=6&run=99&run=x")
	assert.Contains(
		t, said(page),
		"with the card, second, compared with with the card, third One run each: what differs from run to run is not in it. first other "+
			"change, 95 % sure between ratio average 96.2 Hz 96.4 Hz no difference seen",
	)
	assert.Contains(
		t, said(page),
		"compared with with the card, at 720 lines They differ in resolution: 1920 by 1080 against 1280 by 720: no per cent is given.",
	)
	assert.Equal(t, 2, strings.Count(said(page), ", compared with "))
	status, page := c.post(
		"/rigs/5/run", "rev", c.rev(5), "side", "after", "use", "live stacking", "typed_minimum_hz", "70", "typed_minimum_is",
		"low1-p99", "typed_maximum_hz", "140", "average_hz", "95",
	)
	require.Equal(t, http.StatusOK, status)
	assert.Contains(t, said(page), "70 Hz as its minimum, which is worst 1 %, 99th percentile, 140 Hz as its maximum, typed")
	run := kept(t, s, 5).Runs[9]
	assert.Equal(t, rig.Of(3), run.Change)
	assert.InDelta(t, 70, run.Low(rig.MinimumLow1).Value, 1e-9)
}

// TestASettingThatIsCorrectedKeepsBoth: by a field or by a patch what it was stands beside
// it, in the form, with the run and in the log; a result is only changed, what nobody had
// told is only told, pictures follow a new name, and undo takes all of it back.
func TestASettingThatIsCorrectedKeepsBoth(t *testing.T) {
	app, s := bench(t)
	c := newClient(t, app)
	keepDemo(t, s, plans)
	do := func(act string, pairs ...string) {
		status, page := c.post("/rigs/5/"+act, append([]string{"rev", c.rev(5)}, pairs...)...)
		require.Equal(t, http.StatusOK, status, page)
	}
	require.NoError(t, s.KeepPicture(t.Context(), 5, "run host alone, second", []byte("picture")))
	as := kept(t, s, 5).Runs
	do("set", "path", "/runs/1/preset", "value", "high")
	do("set", "path", "/runs/1/average_hz", "value", "33")
	assert.Empty(t, kept(t, s, 5).Runs[1].Former, "told, and a result")
	do("set", "path", "/runs/1/preset", "value", "low")
	do(
		"patch", "patch",
		`[{"op":"replace","path":"/runs/1/width_px","value":1280},{"op":"add","path":"/runs/1/ray_tracing","value":false}]`,
	)
	do("set", "path", "/runs/1/name", "value", "corrected one")
	do("remove", "path", "/runs/0")
	run := kept(t, s, 5).Runs[0]
	require.Len(t, run.Former, 2)
	assert.Equal(t, [2]string{"preset", "high"}, [2]string{run.Former[0].Field, run.Former[0].Was})
	assert.Equal(t, [2]string{"width_px", "1920"}, [2]string{run.Former[1].Field, run.Former[1].Was})
	_, page := c.get("/rigs/5/proof?sel=/runs/0")
	assert.Contains(t, saidBy(page), "was high until")
	assert.Contains(t, saidBy(page), "corrected: pixels across was 1920 until")
	assert.Contains(t, page, "/rigs/5/picture/", "the picture is still the run's")
	assert.NotContains(t, page, "curve_ms", "what no person may change is no field")
	_, log := c.get("/rigs/5/log.json")
	assert.Contains(t, log, `"was": "high"`)
	for range 6 {
		do("undo")
	}
	assert.Equal(t, as, kept(t, s, 5).Runs)
}

// TestAColumnIsRemembered for tables of the same head, and for no other; one that is found by
// itself needs no memory.
func TestAColumnIsRemembered(t *testing.T) {
	app, s := bench(t)
	c := newClient(t, app)
	table := "shown_ms,drawn_ms\n" + strings.Repeat("10,20\n", 40)
	average := func() float64 {
		runs := kept(t, s, 1).Runs
		return runs[len(runs)-1].Average.Value
	}
	status, _ := c.addRun(1, table, "side", "after")
	assert.Equal(t, http.StatusUnprocessableEntity, status, "two columns of which neither is called frame time: it is asked")
	other := "drawn_ms"
	status, _ = c.addRun(1, table, "side", "after", "column", other)
	require.Equal(t, http.StatusOK, status)
	second := average()
	assert.InDelta(t, 50, second, 1e-9)
	c.addRun(1, table, "side", "after")
	assert.InDelta(t, second, average(), 1e-9, "as it was named before")
	_, look := c.upload("/rigs/1/look", "capture", map[string]string{"evening.csv": table})
	assert.Contains(t, look, other)
	c.addRun(1, "drawn_ms,shown_ms,more\n"+strings.Repeat("20,10,1\n", 40), "side", "after")
	c.addRun(1, table, "side", "after", "keep", "yes")
	last := kept(t, s, 1).Runs
	_, page := c.get("/rigs/1/proof")
	address := "/rigs/1/capture/" + last[len(last)-1].Sum
	assert.Contains(t, page, address, "the file itself is kept where that is wanted")
	_, file := c.get(address)
	assert.Equal(t, table, file)
	status, _ = c.get(strings.Replace(address, "/rigs/1/", "/rigs/2/", 1))
	assert.Equal(t, http.StatusNotFound, status)
	name, _, err := s.ColumnOf(t.Context(), "drawn_ms\x1fshown_ms\x1fmore")
	require.NoError(t, err)
	assert.Empty(t, name)
	status, _ = c.addRun(1, table, "side", "after", "column", "nothing")
	assert.Equal(t, http.StatusUnprocessableEntity, status)
	name, _, err = s.ColumnOf(t.Context(), "shown_ms\x1fdrawn_ms")
	require.NoError(t, err)
	assert.Equal(t, other, name, "what was refused is not remembered")
}

// TestWhatWasExpectedIsKept by the first run with the card, or by a press, and stands beside what
// came; the bench counts it.
func TestWhatWasExpectedIsKept(t *testing.T) {
	app, s := bench(t)
	c := newClient(t, app)
	keepDemo(t, s, plans)
	_, page := c.get("/rigs/5/proof")
	assert.Contains(t, page, "Expected, and found")
	assert.Contains(t, page, "One of one came as most often expected.")
	_, page = c.get("/")
	assert.Contains(t, page, "1 of 1 came as most often expected")
	status, page := c.post("/rigs/1/keep-expected", "rev", c.rev(1))
	assert.Equal(t, http.StatusUnprocessableEntity, status)
	assert.Contains(t, page, "own rate for it", "of what nobody told the rate nothing can be kept")
	c.edit(1, "set", "path", "/brief/works/0/card_hz", "value", "120")
	_, page = c.get("/rigs/1/proof")
	assert.Contains(t, page, "keep what is expected")
	c.edit(1, "run", "average_hz", "80", "side", "after", "use", "live stacking")
	first := kept(t, s, 1).Brief.Works[0].Kept
	assert.True(t, first.Low.Known && first.Low.Value < first.High.Value && first.When != "")
	_, page = c.get("/rigs/1/proof")
	assert.NotContains(t, page, "keep what is expected")
}

// TestATableOfResults: pasted, it becomes runs of the use, each as it is; what cannot be read says
// where, and nothing is kept of it.
func TestATableOfResults(t *testing.T) {
	app, s := bench(t)
	c := newClient(t, app)
	c.edit(1, "results", "table", "program; resolution; before; with\nDome stack; 1440p; 31; 96\nStar film; 4K; 34–48; 71–90\n", "use",
		"live stacking")
	runs := kept(t, s, 1).Runs
	require.Len(t, runs, 4)
	assert.Equal(t, "live stacking", runs[0].Use)
	assert.Equal(t, "Corvane 16G", runs[1].Card, "one with the card tells which")
	_, page := c.get("/rigs/1/proof")
	assert.Contains(t, saidBy(page), "faster, by 1.5 to 2.6")
	status, page := c.post("/rigs/1/results", "rev", c.rev(1), "table", "program,before\nDome stack,31\nStar film,quick\n")
	assert.Equal(t, http.StatusUnprocessableEntity, status)
	assert.Contains(t, saidBy(page), "line 3")
	assert.Len(t, kept(t, s, 1).Runs, 4)
}

// TestWhatWasMeasuredSideBySide: two rigs show what was measured in them, and what parts them.
func TestWhatWasMeasuredSideBySide(t *testing.T) {
	app, s := bench(t)
	c := newClient(t, app)
	keepDemo(t, s, plans)
	c.edit(1, "results", "table", "use,resolution,with\nlive stacking,1080p,60\n")
	_, page := c.get("/compare?rig=5&rig=1")
	said := strings.Join(strings.Fields(saidBy(page)), " ")
	assert.Contains(t, said, "live stacking: 96.3 Hz")
	assert.Contains(t, said, "live stacking: 60 Hz")
}

// TestTheCardsOwnRateIsAskedFor beside the uses, until it is told; what is not accepted stays typed.
func TestTheCardsOwnRateIsAskedFor(t *testing.T) {
	app, _ := bench(t)
	c := newClient(t, app)
	status, page := c.post("/rigs/1/set", "rev", c.rev(1), "station", "brief", "path", "/brief/works/0/card_hz", "value", "fast")
	assert.Equal(t, http.StatusUnprocessableEntity, status)
	assert.Contains(t, page, `value="fast"`)
	c.edit(1, "set", "path", "/brief/works/0/card_hz", "value", "118")
	_, page = c.get("/rigs/1/brief")
	assert.NotContains(t, saidBy(page), "live stacking on a Corvane 16G elsewhere")
	assert.Contains(t, saidBy(page), "streaming the dome camera on a Corvane 16G elsewhere")
}

// TestRunsOfOneRigTeachAnother, and a press leaves that out again.
func TestRunsOfOneRigTeachAnother(t *testing.T) {
	app, s := bench(t)
	c := newClient(t, app)
	expected := func() string {
		_, page := c.get("/rigs/1/proof")
		return regexp.MustCompile(`(?s)Expected of each use</h2>.*?</section>`).FindString(page)
	}
	assert.NotContains(t, expected(), "by what")
	keepDemo(t, s, plans)
	require.Eventually(t, func() bool { return strings.Contains(expected(), "by what Dome-shed stacker, built ran at;") }, 10*time.Second,
		200*time.Millisecond)
	_, brief := c.get("/rigs/1/brief")
	assert.Contains(t, brief, "by what Dome-shed stacker, built ran at;", "one forecast on every page")
	_, own := c.get(fmt.Sprintf("/rigs/%d/proof", plans+1))
	assert.NotContains(t, own, "by what Dome-shed", "nobody teaches himself")
	assert.Contains(t, expected(), "leave out what your other rigs taught")
	status, _ := c.post("/lessons")
	assert.Equal(t, http.StatusNoContent, status)
	c.cookie += "; kolvan_lessons=away"
	assert.NotContains(t, expected(), "by what Dome-shed")
	assert.Contains(t, expected(), "take in what your other rigs taught")
}

// TestALongTableOfResultsIsTakenWhole, up to what a file holds; beyond that nothing of it is.
func TestALongTableOfResultsIsTakenWhole(t *testing.T) {
	app, _ := bench(t)
	c := newClient(t, app)
	table := func(lines int) string {
		text := "use,resolution,before\n"
		for i := range lines {
			text += fmt.Sprintf("live stacking,%dx1080,%d\n", 1000+i, 20+i%30)
		}
		return text
	}
	c.edit(1, "results", "table", table(300), "station", "proof")
	_, csv := c.get("/rigs/1/runs.csv")
	assert.Equal(t, 301, strings.Count(csv, "\n"))
	status, page := c.post("/rigs/1/results", "rev", c.rev(1), "table", table(300), "station", "proof")
	assert.Equal(t, http.StatusUnprocessableEntity, status)
	assert.Contains(t, page, "512")
	_, csv = c.get("/rigs/1/runs.csv")
	assert.Equal(t, 301, strings.Count(csv, "\n"))
}
