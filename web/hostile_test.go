package web_test

import (
	"bytes"
	"context"
	"database/sql"
	"fmt"
	"math/rand/v2"
	"mime/multipart"
	"net/http"
	"net/http/httptest"
	"os"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kolvan/core/rig"
	"kolvan/internal/oneseed"
	"kolvan/store"
	"kolvan/web"
)

// post sends a form of a page, with further headers.
func form(path, body string, headers ...string) *http.Request {
	r := httptest.NewRequest(http.MethodPost, path, strings.NewReader(body))
	r.Header.Set("Content-Type", "application/x-www-form-urlencoded")
	for i := 0; i < len(headers); i += 2 {
		r.Header.Set(headers[i], headers[i+1])
	}
	return r
}

func TestForeignRequestsAreRefused(t *testing.T) {
	app, s := bench(t)
	c := newClient(t, app)
	r := httptest.NewRequest(http.MethodGet, "/", nil)
	r.Host = "evil.example:8788"
	answer, _ := c.send(r)
	assert.Equal(t, http.StatusMisdirectedRequest, answer.StatusCode, "a foreign name pointed at this address")
	for _, answer := range []*http.Response{answer, first(c.send(httptest.NewRequest(http.MethodGet, "/", nil)))} {
		policy := answer.Header.Get("Content-Security-Policy")
		assert.Contains(t, policy, "default-src 'none'")
		assert.NotContains(t, policy, "unsafe")
		assert.Equal(t, "nosniff", answer.Header.Get("X-Content-Type-Options"))
	}
	for name, r := range map[string]*http.Request{
		"no origin that can be told": form("/rigs", "name=x", "Origin", "null"),
		"another port":               form("/rigs", "name=x", "Origin", "http://127.0.0.1:9999"),
		"another site":               form("/rigs", "name=x", "Sec-Fetch-Site", "same-site"),
	} {
		answer, _ := c.send(r)
		assert.Equal(t, http.StatusForbidden, answer.StatusCode, name)
	}
	answer, _ = c.send(form("/rigs", "name=fine", "Origin", "http://"+host, "Sec-Fetch-Site", "same-origin"))
	assert.Equal(t, http.StatusSeeOther, answer.StatusCode)

	token := c.token
	c.token = ""
	answer, _ = c.send(form("/rigs?_csrf="+token, "name=x"))
	assert.Equal(t, http.StatusForbidden, answer.StatusCode, "a token in an address is none")
	answer, page := c.send(form("/rigs", "name=what+I+typed&_csrf=forgotten"))
	assert.Equal(t, http.StatusForbidden, answer.StatusCode)
	assert.Contains(t, page, `name="name" value="what I typed"`, "the form is shown again as it was typed")
	_, all, err := s.List(context.Background(), store.Query{Kind: store.RigKind})
	require.NoError(t, err)
	assert.Equal(t, 5, all)

	c.cookie = ""
	answer, _ = c.send(httptest.NewRequest(http.MethodGet, "/static/app.js", nil))
	assert.Empty(t, answer.Header.Get("Set-Cookie"), "a static file needs no token")
	answer, _ = c.send(httptest.NewRequest(http.MethodGet, "/", nil))
	assert.Contains(t, answer.Header.Get("Set-Cookie"), "kolvan_csrf_8788=")
}

func first(answer *http.Response, _ string) *http.Response { return answer }

// TestWhatMayNotBeEntered: each is refused with what would be taken, and the rig
// stays as it was.
func TestWhatMayNotBeEntered(t *testing.T) {
	app, s := bench(t)
	c := newClient(t, app)
	copies := `{"op":"add","path":"/brief/works/0/often","value":"` + strings.Repeat("x", 400) + `"}`
	for range 20 {
		copies += `,{"op":"copy","from":"/brief","path":"/brief/works/0"}`
	}
	for name, form := range map[string][]string{
		"the format":          {"set", "path", "/format", "value", "kolvan-rig/2"},
		"no UTF-8":            {"set", "path", "/name", "value", "\xff\xfe"},
		"a control character": {"set", "path", "/name", "value", "red\x1b[31m"},
		"text that runs back": {"set", "path", "/name", "value", "gpj\u202eexe"},
		"copies of copies":    {"patch", "patch", "[" + copies + "]", "says", "x"},
		"very many operations": {
			"patch", "patch",
			"[" + strings.Repeat(`{"op":"test","path":"/name","value":"x"},`, 500) + `{"op":"remove","path":"/card"}]`, "says",
			"x",
		},
		"a patch of the format":    {"patch", "patch", `[{"op":"replace","path":"/format","value":"x"}]`, "says", "x"},
		"a reason that is no text": {"acknowledge", "rule", "power.rail", "where", "/", "reason", "\xff"},
	} {
		status, region := c.post("/rigs/1/"+form[0], append(form[1:], "rev", c.rev(1), "station", "route")...)
		assert.Equal(t, http.StatusUnprocessableEntity, status, name)
		assert.Contains(t, strings.ToLower(region), "write ", name)
	}
	c.edit(1, "patch", "patch", `[{"op":"replace","path":"/name","value":"short"}]`, "says", strings.Repeat("long ", 200000))
	h, err := s.Load(context.Background(), store.RigKind, 1)
	require.NoError(t, err)
	assert.Less(t, len(h.Label), 1000)
	assert.Equal(t, 2, h.Number, "nothing else was kept")
}

func TestVeryManyFiles(t *testing.T) {
	app, s := bench(t)
	c := newClient(t, app)
	var body bytes.Buffer
	files := multipart.NewWriter(&body)
	for i := range 201 {
		part, err := files.CreateFormFile("files", fmt.Sprint(i))
		require.NoError(t, err)
		_, err = part.Write([]byte(`{"format":"kolvan-rig/1","name":"n"}`))
		require.NoError(t, err)
	}
	require.NoError(t, files.Close())
	r := httptest.NewRequest(http.MethodPost, "/import", &body)
	r.Header.Set("Content-Type", files.FormDataContentType())
	answer, page := c.send(r)
	assert.Equal(t, http.StatusUnprocessableEntity, answer.StatusCode)
	assert.Contains(t, page, "at most 200 are taken")
	_, all, err := s.List(context.Background(), store.Query{Kind: store.RigKind})
	require.NoError(t, err)
	assert.Equal(t, 4, all)
}

// spoil changes what is kept without Kolvan.
func spoil(t testing.TB, s *store.Store, statement string, args ...any) {
	db, err := sql.Open("sqlite", "file:"+s.Path())
	require.NoError(t, err)
	defer db.Close()
	_, err = db.Exec(statement, args...)
	require.NoError(t, err)
}

func TestOneDamagedRigHidesNoOther(t *testing.T) {
	app, s := bench(t)
	c := newClient(t, app)
	c.edit(2, "set", "path", "/brief/budget", "value", "99")
	spoil(t, s, "UPDATE shown SET doc = substr(doc, 1, 200) WHERE thing = 2")
	spoil(t, s, "UPDATE revisions SET doc = '{}' WHERE id = (SELECT head FROM things WHERE id = 4)")
	status, page := c.get("/")
	assert.Equal(t, http.StatusOK, status)
	assert.Contains(t, page, "Dome-shed stacker")
	assert.Contains(t, page, `action="/rigs/2/recover"`)
	status, page = c.get("/rigs/2/route")
	assert.Equal(t, http.StatusUnprocessableEntity, status)
	assert.Contains(t, page, "checksum differs")
	status, doc := c.get("/rigs/2/as-it-lies")
	assert.Equal(t, http.StatusOK, status)
	assert.Len(t, doc, 200)
	status, _ = c.get("/rigs/2/export")
	assert.Equal(t, http.StatusUnprocessableEntity, status, "what fails its check is handed out as it lies only")
	status, _ = c.post("/rigs/2/recover")
	assert.Equal(t, http.StatusSeeOther, status)
	assert.NotEqual(t, 99, int(kept(t, s, 2).Brief.Budget.Value), "back before the damaged change")
	status, told := c.post("/rigs/4/recover")
	assert.Equal(t, http.StatusConflict, status)
	assert.Contains(t, told, "restore a backup")
	status, _ = c.post("/rigs/4/delete")
	assert.Equal(t, http.StatusSeeOther, status)
}

// TestDataFileGoneUnderThePage: an edit is refused with the reason and taken
// when the file is back; a page from before a restore is not taken for current.
func TestDataFileGoneUnderThePage(t *testing.T) {
	app, s := bench(t)
	c := newClient(t, app)
	rev := c.rev(1)
	require.NoError(t, os.Rename(s.Path(), s.Path()+".away"))
	status, says := c.post("/rigs/1/set", "rev", rev, "path", "/name", "value", "two")
	assert.Equal(t, http.StatusServiceUnavailable, status)
	assert.Contains(t, says, "moved or deleted")
	require.NoError(t, os.Rename(s.Path()+".away", s.Path()))
	c.edit(1, "set", "path", "/name", "value", "two")

	status, region := c.post("/rigs/1/set", "rev", "00000001-"+strings.Split(c.rev(1), "-")[1], "path", "/name", "value", "three")
	assert.Equal(t, http.StatusConflict, status)
	assert.Contains(t, region, "another data file")
}

func TestRigTakenOffTheBenchUnderThePage(t *testing.T) {
	app, s := bench(t)
	c := newClient(t, app)
	rev := c.rev(1)
	c.post("/rigs/1/delete")
	status, page := c.get("/rigs/1/route")
	assert.Equal(t, http.StatusOK, status)
	assert.Contains(t, page, "Put it back on the bench")
	status, region := c.post("/rigs/1/set", "rev", rev, "path", "/name", "value", "two")
	assert.Equal(t, http.StatusConflict, status)
	assert.Contains(t, region, "your change is not kept")
	c.post("/rigs/1/restore", "back", "here")
	h, err := s.Load(context.Background(), store.RigKind, 1)
	require.NoError(t, err)
	assert.False(t, h.Deleted)
}

func TestBenchOfVeryManyRigs(t *testing.T) {
	app, s := bench(t)
	h, err := s.Load(context.Background(), store.RigKind, 1)
	require.NoError(t, err)
	var many []store.New
	for i := range 100 {
		many = append(
			many,
			store.New{
				Kind: store.RigKind, Name: fmt.Sprintf("copy %03d", i),
				Doc: bytes.Replace(h.Doc, []byte("Dome-shed stacker"), fmt.Appendf(nil, "copy %03d", i), 1), Label: "made",
			},
		)
	}
	_, err = s.CreateAll(context.Background(), many)
	require.NoError(t, err)
	c := newClient(t, app)
	_, page := c.get("/")
	assert.Equal(t, 24, strings.Count(page, `class="rig-line"`))
	assert.Contains(t, page, "page=5")
	_, page = c.get("/?q=copy+01&sort=changed")
	assert.Equal(t, 11, strings.Count(page, `class="rig-line"`))
	assert.Less(t, strings.Index(page, "copy 019"), strings.Index(page, "copy 010"))
	_, page = c.get("/?q=zeppelin")
	assert.Contains(t, page, "No rig on the bench")
}

func TestDamagedPartOfTheBins(t *testing.T) {
	app, s := bench(t)
	c := newClient(t, app)
	c.post("/bins", "rig", "1", "kind", "card", "path", "/card")
	_, page := c.get("/bins/5")
	c.post("/bins/5/set", "rev", revision.FindStringSubmatch(page)[1], "path", "/name", "value", "measured")
	spoil(t, s, "UPDATE shown SET doc = 'x' || doc WHERE thing = 5")
	status, page := c.get("/bins")
	assert.Equal(t, http.StatusOK, status)
	assert.Contains(t, page, `action="/bins/5/recover"`)
	_, found := c.get("/rigs/1/parts?q=measured")
	assert.NotContains(t, found, "my card", "what cannot be read is not offered")
	status, _ = c.get("/rigs/1/route")
	assert.Equal(t, http.StatusOK, status, "and harms no rig")
	status, doc := c.get("/bins/5/export")
	assert.Equal(t, http.StatusOK, status)
	assert.True(t, strings.HasPrefix(doc, "x{"))
	status, _ = c.post("/bins/5/recover")
	assert.Equal(t, http.StatusSeeOther, status)
	_, page = c.get("/bins/5")
	assert.Contains(t, page, "Corvane 16G")
}

// TestNoAddressIsAFault: whatever a person types after our name, it is answered.
func TestNoAddressIsAFault(t *testing.T) {
	t.Parallel()
	app, _ := bench(t)
	c := newClient(t, app)
	odd := []string{
		"", "x", "-1", "0", "99999999999999999999", "1e9", "%00", "%ff", "'", "%22", "..", "/", "/card", "/leads/-1",
		"/leads/99", "/leads/x/y", "/route/stages/0/nothing", "/build/step/none", "[]", strings.Repeat("a+", 1900),
	}
	var paths []string
	for _, value := range odd {
		for _, key := range []string{"q", "sort", "page"} {
			paths = append(paths, "/?"+key+"="+value, "/bins?"+key+"="+value)
		}
		for _, page := range append(
			web.Stations(), "meter", "reading", "parts", "cards", "practice", "ask", "meter/live", "sheet.md", "power/verdict",
		) {
			for _, key := range []string{
				"sel", "q", "kind", "supply", "from", "net", "load", "held", "effort", "ways", "without", "with", "minutes", "seed",
				"station", "turned",
			} {
				paths = append(paths, "/rigs/1/"+page+"?"+key+"="+value)
			}
		}
		if !strings.Contains(value, "+") {
			paths = append(
				paths,
				"/rigs/"+value,
				"/rigs/1/"+value,
				"/rigs/1/picture/"+value,
				"/rigs/1/capture/"+value,
				"/rigs/1/made/"+value+".svg",
				"/rigs/1/made/holder."+value,
				"/rigs/1/harness/"+value+".svg",
				"/rigs/1/sheet."+value,
				"/bins/"+value,
				"/compare?rig="+value,
				"/compare?rig=1&rig="+value,
				"/static/"+value,
				"/"+value,
				"/events?seen="+value+"&x",
			)
		}
	}
	dice := rand.New(rand.NewPCG(oneseed.Seed(), 2))
	dice.Shuffle(len(paths), func(i, k int) { paths[i], paths[k] = paths[k], paths[i] })
	for _, path := range append([]string{"/?sort=x", "/?q=" + odd[len(odd)-1]}, paths[:min(len(paths), oneseed.Hard(400, 20))]...) {
		if strings.HasPrefix(path, "/events") || strings.Contains(path, "/live") {
			continue // streams, which end with who listens
		}
		status, _ := c.get(path)
		assert.Less(t, status, http.StatusInternalServerError, path[:min(len(path), 80)])
	}
}

// TestReadOnlyDataFile: everything can be looked at, and every page says that
// nothing can be changed.
func TestReadOnlyDataFile(t *testing.T) {
	_, made := bench(t)
	path := made.Path()
	require.NoError(t, made.Close())
	require.NoError(t, os.Chmod(path, 0o400))
	s, err := store.Open(context.Background(), path, store.Serving)
	require.NoError(t, err)
	defer s.Close()
	app, err := web.New(s, []string{host}, web.Instruments{})
	require.NoError(t, err)
	app.Tell([]string{"a page is torn"})
	c := newClient(t, app)
	status, page := c.get("/rigs/1/power")
	assert.Equal(t, http.StatusOK, status)
	assert.Contains(t, page, "nothing can be changed")
	assert.Contains(t, page, "a page is torn")
	status, says := c.post("/rigs/1/set", "rev", c.rev(1), "path", "/name", "value", "x")
	assert.Equal(t, http.StatusServiceUnavailable, status)
	assert.Contains(t, says, "read-only")
}

// TestMoreCanBeTried: a rig with more to try than the usual effort says so, with
// a way to go on.
func TestMoreCanBeTried(t *testing.T) {
	app, s := bench(t)
	r := kept(t, s, 3)
	r.Supplies[0].Rating.Value = 100
	for i := range 60 {
		lead := rig.Lead{
			Name: fmt.Sprint("more ", i), From: []rig.LeadEnd{{Part: r.Supplies[0].Name}},
			To: []rig.LeadEnd{{Part: rig.CardPart}, {Part: rig.HostPart}},
		}
		r.Leads = append(r.Leads, lead)
	}
	doc, err := rig.Encode(r)
	require.NoError(t, err)
	id, err := s.Create(context.Background(), store.RigKind, r.Name, doc, "made")
	require.NoError(t, err)
	c := newClient(t, app)
	_, page := c.get(fmt.Sprintf("/rigs/%d/power", id))
	assert.Contains(t, page, "search longer for changes")
	_, page = c.get(fmt.Sprintf("/rigs/%d/power?effort=more", id))
	assert.NotContains(t, page, "search longer for changes")
}
