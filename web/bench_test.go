package web_test

import (
	"context"
	"fmt"
	"io"
	"math/rand/v2"
	"net"
	"net/http"
	"net/http/cookiejar"
	"net/url"
	"regexp"
	"slices"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/gofiber/fiber/v3"
	"github.com/stretchr/testify/require"

	"kolvan/store"
)

var revision = regexp.MustCompile(`name="rev" value="([^"]+)"`)

// BenchmarkEdit is the server's time for one edit as a page asks for it: assessed, drawn
// and kept on the disk; and for the verdict that the page asks for behind it, with the
// changes that were tried.
func BenchmarkEdit(b *testing.B) {
	app, _ := bench(b)
	c := newClient(b, app)
	c.later = true
	rev := c.rev(1)
	b.ReportAllocs()
	var took, verdict []time.Duration
	for i := 0; b.Loop(); i++ {
		start := time.Now()
		status, region := c.post(
			"/rigs/1/set", "rev", rev, "station", "route", "sel", "/card", "path", "/card/power_w", "value", fmt.Sprint(100+i%50),
		)
		require.Equal(b, http.StatusOK, status)
		took = append(took, time.Since(start))
		rev = revision.FindStringSubmatch(region)[1]
		start = time.Now()
		status, _ = c.get("/rigs/1/route/verdict?sel=/card")
		require.Equal(b, http.StatusOK, status)
		verdict = append(verdict, time.Since(start))
	}
	report(b, took)
	slices.Sort(verdict)
	b.ReportMetric(float64(verdict[len(verdict)/2].Microseconds())/1000, "verdict-p50-ms")
}

func report(b *testing.B, took []time.Duration) {
	slices.Sort(took)
	b.ReportMetric(float64(took[len(took)/2].Microseconds())/1000, "p50-ms")
	b.ReportMetric(float64(took[len(took)*99/100].Microseconds())/1000, "p99-ms")
}

// BenchmarkDrag drags the card of the tower about for a second a round, and reports how
// long its frames are on the screen.
func BenchmarkDrag(b *testing.B) {
	p := sitDown(b)
	p.open("/rigs/3/fit")
	card := p.find("#card-side").MustShape().Box()
	var frames []time.Duration
	for b.Loop() {
		p.page.MustEval(
			`() => { window.frames = []; let last; const see = (now) => { if (last) window.frames.push(now - last); last = now; window.seeing = requestAnimationFrame(see) }; see(0) }`,
		)
		p.page.Mouse.MustMoveTo(card.X+40, card.Y+40).MustDown("left")
		for i := range 60 {
			p.page.Mouse.MustMoveTo(card.X+40+float64(i%30), card.Y+40+float64(i%7))
		}
		for _, ms := range p.page.MustEval(`() => { cancelAnimationFrame(window.seeing); return window.frames }`).Arr() {
			frames = append(frames, time.Duration(ms.Num()*float64(time.Millisecond)))
		}
		p.page.Mouse.MustMoveTo(card.X+40, card.Y+40).MustUp("left")
		p.settle()
	}
	report(b, frames)
}

// BenchmarkFiftyEditors: fifty people, a rig each, an edit a second each, for
// one second a round. It reports the server's own time from request to answer, and what
// the person sees of it: with the wait for a processor before, and the way there and back.
func BenchmarkFiftyEditors(b *testing.B) {
	const people = 50
	listener, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(b, err)
	app, s := bench(b, listener.Addr().String())
	go func() { _ = app.Listener(listener, fiber.ListenConfig{DisableStartupMessage: true}) }()
	defer func() { _ = app.ShutdownWithTimeout(time.Second) }()
	demo, err := s.Load(context.Background(), store.RigKind, 1)
	require.NoError(b, err)

	var mu sync.Mutex
	var took, seen []time.Duration
	editors := make([]*editor, people)
	for i := range editors {
		id, err := s.Create(context.Background(), store.RigKind, "rig", demo.Doc, "copied")
		require.NoError(b, err)
		editors[i] = newEditor(b, "http://"+listener.Addr().String(), id)
	}
	for b.Loop() {
		var all sync.WaitGroup
		for _, e := range editors {
			all.Go(func() {
				wait := time.Duration(rand.Int64N(int64(time.Second)))
				time.Sleep(wait)
				own, all := e.edit()
				mu.Lock()
				took, seen = append(took, own), append(seen, all)
				mu.Unlock()
				time.Sleep(time.Second - wait)
			})
		}
		all.Wait()
	}
	report(b, took)
	slices.Sort(seen)
	b.ReportMetric(float64(seen[len(seen)*99/100].Microseconds())/1000, "seen-p99-ms")
}

// editor is one of the people: a browser's connection, without the browser.
type editor struct {
	b      *testing.B
	client *http.Client
	base   string
	token  string
	rev    string
	n      int
}

func newEditor(b *testing.B, base string, id int64) *editor {
	jar, err := cookiejar.New(nil)
	require.NoError(b, err)
	e := &editor{b: b, client: &http.Client{Jar: jar}, base: fmt.Sprintf("%s/rigs/%d", base, id)}
	answer, err := e.client.Get(e.base + "/route")
	require.NoError(b, err)
	page, err := io.ReadAll(answer.Body)
	require.NoError(b, err)
	e.rev = revision.FindStringSubmatch(string(page))[1]
	e.token = regexp.MustCompile(`X-Csrf-Token":"([^"]+)"`).FindStringSubmatch(string(page))[1]
	return e
}

func (e *editor) edit() (own, seen time.Duration) {
	e.n++
	form := url.Values{"rev": {e.rev}, "station": {"route"}, "path": {"/card/power_w"}, "value": {fmt.Sprint(100 + e.n%50)}}
	r, err := http.NewRequest(http.MethodPost, e.base+"/set", strings.NewReader(form.Encode()))
	require.NoError(e.b, err)
	r.Header.Set("Content-Type", "application/x-www-form-urlencoded")
	r.Header.Set("HX-Request", "true")
	r.Header.Set("Kolvan-Verdict", "later")
	r.Header.Set("X-Csrf-Token", e.token)
	start := time.Now()
	answer, err := e.client.Do(r)
	require.NoError(e.b, err)
	region, err := io.ReadAll(answer.Body)
	require.NoError(e.b, err)
	seen = time.Since(start)
	own, err = time.ParseDuration(strings.TrimPrefix(answer.Header.Get("Server-Timing"), "app;dur=") + "ms")
	require.NoError(e.b, err)
	require.Equal(e.b, http.StatusOK, answer.StatusCode)
	e.rev = revision.FindStringSubmatch(string(region))[1]
	behind, err := e.client.Get(e.base + "/route/verdict")
	require.NoError(e.b, err)
	_, err = io.Copy(io.Discard, behind.Body)
	require.NoError(e.b, err)
	return own, seen
}
