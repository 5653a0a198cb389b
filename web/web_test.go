package web_test

import (
	"bytes"
	"context"
	"fmt"
	"io"
	"mime/multipart"
	"net/http"
	"net/http/httptest"
	"net/url"
	"path/filepath"
	"regexp"
	"strings"
	"testing"
	"time"

	"github.com/gofiber/fiber/v3"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kolvan/core/rig"
	"kolvan/demo"
	"kolvan/store"
	"kolvan/web"
)

const host = "127.0.0.1:8788"

// bench is an interface over a data file of its own, with the demo rigs 1 to 4.
func bench(t testing.TB, hosts ...string) (*web.App, *store.Store) {
	return benchWith(t, web.Instruments{}, hosts...)
}

func benchWith(t testing.TB, at web.Instruments, hosts ...string) (*web.App, *store.Store) {
	ctx := context.Background()
	s, err := store.Open(ctx, filepath.Join(t.TempDir(), "k.db"), store.Serving)
	require.NoError(t, err)
	t.Cleanup(func() { _ = s.Close() })
	for i := range plans {
		keepDemo(t, s, i)
	}
	app, err := web.New(s, append(hosts, host), at)
	require.NoError(t, err)
	return app, s
}

// plans are how many of the demo's rigs are on each bench; the one after them is built.
const (
	plans    = 4
	demoRigs = 6
)

// keepDemo puts a rig of the demo on the bench.
func keepDemo(t testing.TB, s *store.Store, i int) {
	rigs, err := demo.Rigs()
	require.NoError(t, err)
	doc, err := rig.Encode(rigs[i])
	require.NoError(t, err)
	_, err = s.Create(context.Background(), store.RigKind, rigs[i].Name, doc, "demo")
	require.NoError(t, err)
}

// client is a browser without a window: it keeps cookies and the page's token.
type client struct {
	t      testing.TB
	app    *web.App
	cookie string
	token  string
	later  bool   // it asks for the verdict by itself, as a page does
	waited string // what it sends lay so long, in seconds, on a device that was not connected
}

func newClient(t testing.TB, app *web.App) *client {
	c := &client{t: t, app: app}
	answer, page := c.send(httptest.NewRequest(http.MethodGet, "/", nil))
	require.Equal(t, http.StatusOK, answer.StatusCode)
	c.cookie = strings.Split(answer.Header.Get("Set-Cookie"), ";")[0]
	c.token = regexp.MustCompile(`X-Csrf-Token":"([^"]+)"`).FindStringSubmatch(page)[1]
	return c
}

func (c *client) send(r *http.Request) (*http.Response, string) {
	if r.Host == "example.com" {
		r.Host = host
	}
	r.Header.Set("Cookie", c.cookie)
	if c.token != "" {
		r.Header.Set("X-Csrf-Token", c.token)
	}
	answer, err := c.app.Test(r, fiber.TestConfig{Timeout: 2 * time.Minute})
	require.NoError(c.t, err)
	body, err := io.ReadAll(answer.Body)
	require.NoError(c.t, err)
	return answer, string(body)
}

func (c *client) get(path string) (int, string) {
	answer, body := c.send(httptest.NewRequest(http.MethodGet, path, nil))
	return answer.StatusCode, body
}

// post sends a form as htmx does.
func (c *client) post(path string, values ...string) (int, string) {
	form := url.Values{}
	for i := 0; i < len(values); i += 2 {
		form.Add(values[i], values[i+1])
	}
	r := httptest.NewRequest(http.MethodPost, path, strings.NewReader(form.Encode()))
	r.Header.Set("Content-Type", "application/x-www-form-urlencoded")
	r.Header.Set("HX-Request", "true")
	if c.later {
		r.Header.Set("Kolvan-Verdict", "later")
	}
	if c.waited != "" {
		r.Header.Set("Kolvan-Waited", c.waited)
	}
	answer, body := c.send(r)
	return answer.StatusCode, body
}

// upload sends files, by name, in one field of a form.
func (c *client) upload(path, field string, files map[string]string, values ...string) (int, string) {
	var body bytes.Buffer
	form := multipart.NewWriter(&body)
	for i := 0; i < len(values); i += 2 {
		require.NoError(c.t, form.WriteField(values[i], values[i+1]))
	}
	for name, doc := range files {
		part, err := form.CreateFormFile(field, name)
		require.NoError(c.t, err)
		_, err = part.Write([]byte(doc))
		require.NoError(c.t, err)
	}
	require.NoError(c.t, form.Close())
	r := httptest.NewRequest(http.MethodPost, path, &body)
	r.Header.Set("Content-Type", form.FormDataContentType())
	answer, page := c.send(r)
	return answer.StatusCode, page
}

// rev is the revision that a page of the rig shows.
func (c *client) rev(id int) string {
	_, page := c.get(fmt.Sprintf("/rigs/%d/route", id))
	return regexp.MustCompile(`name="rev" value="([^"]+)"`).FindStringSubmatch(page)[1]
}

func TestEveryPageOfEveryDemoRig(t *testing.T) {
	app, s := bench(t)
	c := newClient(t, app)
	keepDemo(t, s, plans)
	for id := 1; id <= plans+1; id++ {
		for _, station := range web.Stations() {
			status, page := c.get(fmt.Sprintf("/rigs/%d/%s", id, station))
			assert.Equal(t, http.StatusOK, status)
			assert.Regexp(t, `id="answer"|class="start"`, page)
			assert.NotRegexp(t, `(?i)<script>|style="|onclick=`, page, "nothing inline")
			assert.NotContains(t, page, "No slot yet")
		}
	}
	for path, want := range map[string]int{
		"/rigs/99/route": 404, "/rigs/x/route": 404, "/nowhere": 404, "/bins": 200, "/static/app.js": 200,
	} {
		status, _ := c.get(path)
		assert.Equal(t, want, status, path)
	}
}

// TestThereAreNone is said of a list by one press, and is not the same as not known.
func TestThereAreNone(t *testing.T) {
	app, s := bench(t)
	c := newClient(t, app)
	for range kept(t, s, 1).Card.Plugs {
		c.edit(1, "remove", "path", "/card/plugs/0")
	}
	c.edit(1, "none", "path", "/card/plugs")
	assert.NotNil(t, kept(t, s, 1).Card.Plugs)
	_, page := c.get("/rigs/1/route?sel=/card")
	assert.Contains(t, page, "add<span class=\"away\"> to power plugs</span></button> none")
	status, _ := c.post("/rigs/1/none", "rev", c.rev(1), "path", "/host/slots")
	assert.Equal(t, http.StatusUnprocessableEntity, status, "there are some")
}

func TestEditIsKeptAndWrongOnesAreNot(t *testing.T) {
	app, s := bench(t)
	c := newClient(t, app)
	status, region := c.post("/rigs/1/set", "rev", c.rev(1), "station", "route", "sel", "/card", "path", "/card/lanes", "value", "4")
	assert.Equal(t, http.StatusOK, status)
	assert.Contains(t, region, "Kept. Change 2")
	assert.NotContains(t, region, "<html")

	before, err := s.Load(context.Background(), store.RigKind, 1)
	require.NoError(t, err)
	status, region = c.post(
		"/rigs/1/set", "rev", c.rev(1), "station", "route", "sel", "/card", "path", "/card/length_mm", "value", "rather long",
	)
	assert.Equal(t, http.StatusUnprocessableEntity, status)
	assert.Contains(t, region, `value="rather long"`, "what was typed is still there")
	assert.Contains(t, region, "9 1/8 in", "what would be accepted")
	for _, form := range [][]string{{"set", "path", "/nowhere", "value", "1"}, {"remove", "path", "/card"}, {"add", "path", "/card/lanes"},
		{"patch", "patch", "[{]"}, {
			"patch", "patch", `[{"op":"add","path":"/wings","value":2}]`,
		},
		{"use", "part", "list:9999"}, {"place", "x", "far"}, {
			"acknowledge", "rule", "power.rail", "where", "/", "reason", " ",
		}, {"move", "path", "/route/stages/0", "by", "some"}, {"lead", "ends", "x"}} {
		status, _ := c.post("/rigs/1/"+form[0], append(form[1:], "rev", c.rev(1), "station", "route")...)
		assert.Equal(t, http.StatusUnprocessableEntity, status, "%v", form)
	}
	after, err := s.Load(context.Background(), store.RigKind, 1)
	require.NoError(t, err)
	assert.Equal(t, before, after)
}

func TestSecondWriterSeesWhatChanged(t *testing.T) {
	app, s := bench(t)
	c := newClient(t, app)
	base := c.rev(2)
	status, _ := c.post("/rigs/2/set", "rev", base, "path", "/brief/budget", "value", "99")
	require.Equal(t, http.StatusOK, status)
	status, region := c.post("/rigs/2/set", "rev", base, "station", "brief", "path", "/brief/currency", "value", "gold")
	assert.Equal(t, http.StatusConflict, status)
	assert.Contains(t, region, "/brief/budget")
	assert.Contains(t, region, "gold")
	h, err := s.Load(context.Background(), store.RigKind, 2)
	require.NoError(t, err)
	assert.NotContains(t, string(h.Doc), "gold")
}

func TestImportNamesFaultsAndKeepsTheRest(t *testing.T) {
	app, s := bench(t)
	c := newClient(t, app)
	status, page := c.upload(
		"/import", "files",
		map[string]string{
			"good.json": `{"format":"kolvan-rig/1","name":"from a file"}`,
			"bad.json":  `{"format":"kolvan-rig/1","name":"x","card":{"lanes":3}}`,
		},
	)
	assert.Equal(t, http.StatusUnprocessableEntity, status)
	assert.Contains(t, page, "bad.json: lanes, card: 3 is not accepted")
	rigs, _, err := s.List(context.Background(), store.Query{Kind: store.RigKind})
	require.NoError(t, err)
	assert.Equal(t, "from a file", rigs[4].Name)

	_, exported := c.get("/rigs/5/export")
	back, err := rig.Decode([]byte(exported))
	require.NoError(t, err)
	assert.Equal(t, "from a file", back.Name)
}

func TestSheetAsMarkdown(t *testing.T) {
	app, _ := bench(t)
	_, sheet := newClient(t, app).get("/rigs/1/sheet.md")
	for _, wanted := range []string{"# Dome-shed stacker", "The host wires 4 lanes of generation 3 to m2-a", "What limits the link is m2-a",
		"4 lanes wide at generation 3", "idle reading proves the width, not the speed",
		"| Lantern 550 | 161.3 W |", "**danger** Connector carries more than it may", "never opened"} {
		assert.Contains(t, sheet, wanted)
	}
}

// TestWhatIsInTheBinsIsOwned: it stands first among what would do.
func TestWhatIsInTheBinsIsOwned(t *testing.T) {
	app, _ := bench(t)
	c := newClient(t, app)
	_, page := c.get("/bins")
	own := regexp.MustCompile(`name="part" value="([^"]+)"><button><span class="found-kind">list</span><b>Beacon 750<`).FindStringSubmatch(page)
	require.NotNil(t, own)
	status, _ := c.post("/bins", "part", own[1])
	require.Equal(t, http.StatusSeeOther, status)
	_, page = c.get("/rigs/3/power?sel=/sizing")
	assert.Regexp(t, `(?s)What supply would do.*?<tbody><tr><th scope="row">Beacon 750 <small>750 W, owned<`, page)
}

func TestBinsHoldWhatIsMeasured(t *testing.T) {
	app, _ := bench(t)
	c := newClient(t, app)
	status, _ := c.post("/bins", "rig", "1", "kind", "card", "path", "/card")
	require.Equal(t, http.StatusSeeOther, status)
	revOf := func(page string) string { return revision.FindStringSubmatch(page)[1] }
	_, page := c.get("/bins/5")
	stale := revOf(page)
	status, region := c.post("/bins/5/set", "rev", stale, "path", "/length_mm", "value", "9 1/2 in")
	assert.Equal(t, http.StatusOK, status)
	assert.Contains(t, region, `value="9 1/2 in"`)
	status, _ = c.post("/bins/5/set", "rev", revOf(region), "path", "/lanes", "value", "3")
	assert.Equal(t, http.StatusUnprocessableEntity, status)
	_, found := c.get("/rigs/1/parts?q=241.3")
	assert.Contains(t, found, "my card")
	_, route := c.get("/rigs/1/route")
	assert.NotContains(t, route, "241.3", "an old record does not change")

	status, told := c.post("/bins/5/remove", "rev", stale, "path", "/plugs/0")
	assert.Equal(t, http.StatusConflict, status, "a stale tab takes nothing out")
	assert.Contains(t, told, "is now 241.3")
	status, region = c.post("/bins/5/undo", "rev", revOf(region))
	assert.Equal(t, http.StatusOK, status)
	assert.NotContains(t, region, "9 1/2 in")
	status, region = c.post("/bins/5/redo", "rev", revOf(region))
	assert.Equal(t, http.StatusOK, status)
	assert.Contains(t, region, "9 1/2 in")
}
