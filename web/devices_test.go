package web_test

import (
	"fmt"
	"io"
	"net"
	"net/http"
	"net/http/cookiejar"
	"net/url"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
	"testing"

	"github.com/gofiber/fiber/v3"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kolvan/pairing"
	"kolvan/web"
)

// A device is a browser on another machine: it comes from an address of its own, by the name
// that leads here from the network.
type device struct {
	t      *testing.T
	client *http.Client
	at     string // where Kolvan listens
	name   string // by which it is asked
}

// away is the name by which a device of the network reaches Kolvan.
const away = "192.0.2.7"

func deviceFrom(t *testing.T, at, from string) *device {
	jar, err := cookiejar.New(nil)
	require.NoError(t, err)
	dialer := &net.Dialer{LocalAddr: &net.TCPAddr{IP: net.ParseIP(from)}}
	_, port, err := net.SplitHostPort(at)
	require.NoError(t, err)
	return &device{t, &http.Client{
		Jar: jar, Transport: &http.Transport{DialContext: dialer.DialContext, Proxy: nil, DisableKeepAlives: true},
		CheckRedirect: func(*http.Request, []*http.Request) error { return http.ErrUseLastResponse },
	}, at, net.JoinHostPort(away, port)}
}

// ask asks as a browser does; nil for a page that is looked at.
func (d *device) ask(path string, form url.Values, headers ...string) (int, string) {
	method, body := http.MethodGet, io.Reader(nil)
	if form != nil {
		method, body = http.MethodPost, strings.NewReader(form.Encode())
	}
	r, err := http.NewRequest(method, "http://"+d.at+path, body)
	require.NoError(d.t, err)
	r.Host = d.name
	if form != nil {
		r.Header.Set("Content-Type", "application/x-www-form-urlencoded")
	}
	for i := 0; i < len(headers); i += 2 {
		r.Header.Set(headers[i], headers[i+1])
	}
	answer, err := d.client.Do(r)
	require.NoError(d.t, err)
	defer answer.Body.Close()
	text, err := io.ReadAll(answer.Body)
	require.NoError(d.t, err)
	return answer.StatusCode, string(text)
}

var pageToken = regexp.MustCompile(`name="_csrf" value="([^"]+)"`)

// pair takes an invitation as a person does.
func (d *device) pair(token, name string) (int, string) {
	status, page := d.ask("/pair?invitation="+token, nil)
	require.Equal(d.t, http.StatusOK, status)
	return d.ask("/pair", url.Values{"_csrf": {pageToken.FindStringSubmatch(page)[1]}, "invitation": {token}, "name": {name}})
}

// change sends a change with the token of a page it is shown.
func (d *device) change(path string, form url.Values) (int, string) {
	_, page := d.ask("/rigs/1/route", nil)
	found := regexp.MustCompile(`X-Csrf-Token":"([^"]+)"`).FindStringSubmatch(page)
	token := ""
	if found != nil {
		token = found[1]
	}
	return d.ask(path, form, "X-Csrf-Token", token, "HX-Request", "true")
}

// served is a Kolvan that lets devices in, and what it is served at.
func served(t *testing.T) (*web.App, *pairing.Book, string) {
	listener, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	at := listener.Addr().String()
	_, port, _ := net.SplitHostPort(at)
	app, _ := bench(t, at)
	book, err := pairing.Open(filepath.Join(t.TempDir(), "devices"))
	require.NoError(t, err)
	app.Admit(web.Network{Devices: book, Open: func() ([]string, error) { return []string{net.JoinHostPort(away, port)}, nil }})
	go func() { _ = app.Listener(listener, fiber.ListenConfig{DisableStartupMessage: true}) }()
	t.Cleanup(func() { _ = app.Shutdown() })
	return app, book, at
}

// TestADeviceIsLetIn by an invitation that is made at this machine, does what it may, and is
// ended there.
func TestADeviceIsLetIn(t *testing.T) {
	t.Parallel()
	_, book, at := served(t)
	here := deviceFrom(t, at, "127.0.0.1")
	here.name = at
	phone := deviceFrom(t, at, "127.0.0.2")
	status, _ := phone.ask("/", nil)
	assert.Equal(t, http.StatusMisdirectedRequest, status, "the network is not open yet")
	_, page := here.ask("/devices", nil)
	assert.Contains(t, page, "Kolvan answers this machine alone.")
	token := url.Values{"_csrf": {pageToken.FindStringSubmatch(page)[1]}}
	status, _ = here.ask("/devices/open", token)
	require.Equal(t, http.StatusSeeOther, status)

	status, page = phone.ask("/rigs/1/power", nil)
	assert.Equal(t, http.StatusUnauthorized, status)
	assert.Contains(t, page, "This device is not paired.")
	assert.Contains(t, page, "Point this device’s camera at the code")
	assert.NotContains(t, page, "Lantern")
	token.Set("rights", "bench")
	status, page = here.ask("/devices/invite", token)
	require.Equal(t, http.StatusOK, status)
	assert.Contains(t, page, `aria-label="Code for http://192.0.2.7:`)
	token.Set("rights", "everything")
	status, page = here.ask("/devices/invite", token)
	assert.Equal(t, http.StatusUnprocessableEntity, status)
	assert.Contains(t, page, "accepted: all, bench or look")

	invitation, _, err := book.Invite(pairing.Bench)
	require.NoError(t, err)
	status, _ = phone.pair(invitation, "telephone at the bench")
	require.Equal(t, http.StatusSeeOther, status)
	status, page = phone.ask("/rigs/1/power", nil)
	assert.Equal(t, http.StatusOK, status)
	assert.Contains(t, page, "Lantern")
	status, page = phone.change("/rigs/1/line", url.Values{"station": {"assembly"}, "text": {"smelled of dust"}, "rev": {"x"}})
	assert.NotContains(t, []int{http.StatusForbidden, http.StatusUnauthorized}, status, page)
	status, page = phone.change("/rigs/1/delete", url.Values{})
	assert.Equal(t, http.StatusForbidden, status)
	assert.Contains(t, page, "for the bench")
	for _, path := range []string{"/devices", "/DEVICES", "/devices/"} {
		status, _ = phone.ask(path, nil)
		assert.Equal(t, http.StatusForbidden, status, path)
	}

	token.Set("rig", "1")
	for days, says := range map[string]string{"0": "1 to 365 days", "x": "1 to 365 days"} {
		token.Set("days", days)
		status, page = here.ask("/devices/share", token)
		assert.Equal(t, http.StatusUnprocessableEntity, status)
		assert.Contains(t, page, says)
	}
	token.Set("days", "2")
	_, page = here.ask("/devices/share", token)
	link := regexp.MustCompile(`/shared/[0-9a-f]{64}`).FindString(page)
	stranger := deviceFrom(t, at, "127.0.0.9")
	status, page = stranger.ask(link, nil)
	assert.Equal(t, http.StatusOK, status)
	assert.Contains(t, page, "Lantern 550")
	assert.NotContains(t, page, " kr<")
	status, _ = stranger.ask("/rigs/1/sheet", nil)
	assert.Equal(t, http.StatusUnauthorized, status, "that sheet alone")
	status, _ = stranger.ask("/shared/"+strings.Repeat("0", 64), nil)
	assert.Equal(t, http.StatusNotFound, status)
	require.NoError(t, book.End(book.Links()[0].ID))
	status, page = stranger.ask(link, nil)
	assert.Equal(t, http.StatusNotFound, status)
	assert.Contains(t, page, "This link has run out")
	_, page = here.ask("/devices", nil)
	assert.Contains(t, page, "telephone at the bench")
	status, _ = here.ask("/devices/"+book.Devices()[0].ID+"/end", token)
	require.Equal(t, http.StatusSeeOther, status)
	status, _ = phone.ask("/rigs/1/power", nil)
	assert.Equal(t, http.StatusUnauthorized, status, "ended")
	status, page = phone.ask("/rigs/1/power", nil, "HX-Request", "true")
	assert.Equal(t, http.StatusUnauthorized, status)
	assert.Equal(t, "This device is not paired, or not any more.", page)
}

// TestWhoIsKeptOut: guesses, a replayed invitation, a stolen cookie, a foreign page, a name that
// was pointed here.
func TestWhoIsKeptOut(t *testing.T) {
	t.Parallel()
	app, book, at := served(t)
	require.NoError(t, app.OpenNetwork())
	phone := deviceFrom(t, at, "127.0.0.2")
	links, _, err := app.Invitation(pairing.All)
	require.NoError(t, err)
	require.Len(t, links, 1)
	invitation := links[0][strings.LastIndex(links[0], "=")+1:]
	status, _ := phone.pair(invitation, "telephone")
	require.Equal(t, http.StatusSeeOther, status)
	status, page := deviceFrom(t, at, "127.0.0.3").pair(invitation, "another")
	assert.Equal(t, http.StatusUnprocessableEntity, status)
	assert.Contains(t, page, "This invitation was used")

	thief := deviceFrom(t, at, "127.0.0.3")
	thief.client.Jar = phone.client.Jar
	status, page = thief.ask("/rigs/1/power", nil)
	assert.Equal(t, http.StatusUnauthorized, status)
	assert.Contains(t, page, "paired from another address")
	status, _ = phone.ask("/rigs/1/delete", url.Values{}, "Origin", "http://evil.example")
	assert.Equal(t, http.StatusForbidden, status)
	nameless := deviceFrom(t, at, "127.0.0.9")
	nameless.name = "whoever.example"
	status, page = nameless.ask("/healthz", nil)
	assert.Equal(t, http.StatusOK, status)
	assert.Equal(t, "ok\n", page)
	rebound := *phone
	for _, name := range []string{"evil.example", "0.0.0.0:1", "*"} {
		rebound.name = name
		status, _ = rebound.ask("/", nil)
		assert.Equal(t, http.StatusMisdirectedRequest, status, name)
	}
	fooled := deviceFrom(t, at, "127.0.0.2") // by this machine's own name, from its own address
	fooled.name = at
	status, _ = fooled.ask("/", nil)
	assert.Equal(t, http.StatusOK, status)
	status, _ = phone.ask("/", nil)
	assert.Equal(t, http.StatusOK, status)
	guesser := deviceFrom(t, at, "127.0.0.4")
	for range 12 {
		status, page = guesser.pair("guess", "x")
	}
	assert.Equal(t, http.StatusTooManyRequests, status)
	assert.Contains(t, page, "Too many tries")
	assert.Len(t, book.Devices(), 1)
}

// TestMetrics are there where they are asked for, and for who sits at this machine alone.
func TestMetrics(t *testing.T) {
	t.Parallel()
	app, book, at := served(t)
	require.NoError(t, app.OpenNetwork())
	here := deviceFrom(t, at, "127.0.0.1")
	here.name = at
	status, _ := here.ask("/metrics", nil)
	assert.Equal(t, http.StatusNotFound, status)
	require.NoError(t, app.Measure())
	here.ask("/bins", nil)
	here.ask("/nowhere", nil)
	status, text := here.ask("/metrics", nil)
	assert.Equal(t, http.StatusOK, status)
	assert.Contains(t, text, `kolvan_request_seconds_count{method="GET",status="2xx"} 1`)
	assert.Contains(t, text, `kolvan_request_seconds_count{method="GET",status="4xx"} 1`)
	assert.Contains(t, text, "kolvan_paired_devices 0")
	phone := deviceFrom(t, at, "127.0.0.2")
	token, _, err := book.Invite(pairing.All)
	require.NoError(t, err)
	phone.pair(token, "telephone")
	status, _ = phone.ask("/metrics", nil)
	assert.Equal(t, http.StatusNotFound, status)
}

// TestWhatDevicesMay walks all routes that change something: what each device may is decided in
// one place, and none that is new is open by accident.
func TestWhatDevicesMay(t *testing.T) {
	t.Parallel()
	app, book, at := served(t)
	require.NoError(t, app.OpenNetwork())
	devices := map[pairing.Rights]*device{}
	for i, r := range pairing.Known {
		token, _, err := book.Invite(r)
		require.NoError(t, err)
		devices[r] = deviceFrom(t, at, fmt.Sprintf("127.0.0.%d", i+5))
		status, _ := devices[r].pair(token, string(r))
		require.Equal(t, http.StatusSeeOther, status)
	}
	bench := []string{
		"/rigs/:rig/done", "/rigs/:rig/hand", "/rigs/:rig/step", "/rigs/:rig/need", "/rigs/:rig/try", "/rigs/:rig/untry", "/rigs/:rig/tick",
		"/rigs/:rig/line", "/rigs/:rig/run", "/rigs/:rig/results", "/rigs/:rig/keep-expected", "/rigs/:rig/look", "/rigs/:rig/picture",
		"/rigs/:rig/reading", "/rigs/:rig/reading/probe", "/rigs/:rig/reading/keep", "/rigs/:rig/meter/start", "/rigs/:rig/meter/tell",
		"/rigs/:rig/meter/import", "/rigs/:rig/meter/take", "/units", "/list", "/lessons", "/pair",
	}
	var allowed []string
	for _, routes := range app.Stack() {
		for _, route := range routes {
			if route.Method != http.MethodPost || strings.Contains(route.Path, "*") || route.Path == "/" {
				continue
			}
			path := regexp.MustCompile(`:[a-z]+`).ReplaceAllString(route.Path, "99")
			refused := map[pairing.Rights]bool{}
			for r, d := range devices { // without a page's token: what is let in stops there
				_, text := d.ask(path, url.Values{"x": {"y"}})
				refused[r] = strings.Contains(text, "This device may not do that")
			}
			about := strings.HasPrefix(route.Path, "/devices")
			assert.Equal(t, about, refused[pairing.All], route.Path)
			if !refused[pairing.Bench] {
				allowed = append(allowed, route.Path)
			}
			own := slices.Contains([]string{"/units", "/list", "/lessons", "/pair"}, route.Path)
			assert.Equal(t, !own, refused[pairing.Look], route.Path)
		}
	}
	assert.ElementsMatch(t, bench, allowed)
}
