package web_test

import (
	"io"
	"net"
	"net/http"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kolvan/core/meter"
	"kolvan/instruments"
	"kolvan/store"
	"kolvan/web"
)

// TestTableOfAMeter: what a meter wrote is read, shown with its figures, given
// back, and kept as a reading; a faulty one is refused by line and column.
func TestTableOfAMeter(t *testing.T) {
	app, s := bench(t)
	c := newClient(t, app)
	status, page := c.upload("/rigs/1/meter/import", "table", map[string]string{"m.csv": "Farbe;W\n0;100\n"})
	assert.Equal(t, http.StatusOK, status)
	assert.Contains(t, page, "m.csv: line 1, head: &#34;Farbe, W&#34; is not accepted; accepted: a column named time")

	table := "Date;Time;Active Power [kW]\n"
	for second := range 40 {
		table += "01.03.2026;12:00:" + string(rune('0'+second/10)) + string(rune('0'+second%10)) + ";0,18\n"
	}
	_, page = c.upload("/rigs/1/meter/import", "table", map[string]string{"m.csv": table})
	for _, wanted := range []string{">180 W<", ">1.9 Wh<", ">39 s<", "highest mean of ten seconds"} {
		assert.Contains(t, page, wanted)
	}
	_, given := c.get("/rigs/1/meter.csv")
	record, err := meter.Read(strings.NewReader(given), "")
	require.NoError(t, err)
	assert.InDelta(t, 180, float64(record.Figures().Mean), 1e-9)

	again, err := web.New(s, []string{host}, web.Instruments{}) // Kolvan is started anew
	require.NoError(t, err)
	_, kept := newClient(t, again).get("/rigs/1/meter.csv")
	assert.Equal(t, given, kept)

	status, _ = c.post("/rigs/1/meter/take", "supply", "1", "reading", "180")
	assert.Equal(t, http.StatusSeeOther, status)
	_, page = c.get("/rigs/1/power?sel=/supplies/1")
	assert.Contains(t, page, "It showed 180\u00a0W")
	_, page = c.post("/rigs/1/meter/take", "supply", "1", "reading", "much")
	assert.Contains(t, page, "&#34;much&#34; is not accepted")
	for path, want := range map[string]int{
		"/rigs/2/meter.csv": 404, "/rigs/2/meter/live": 404, "/rigs/9/meter": 404, "/rigs/2/meter": 200,
	} {
		status, _ = c.get(path)
		assert.Equal(t, want, status, path)
	}
	status, _ = c.post("/rigs/2/meter/start")
	assert.Equal(t, http.StatusConflict, status, "no meter is set up")
	status, _ = c.post("/rigs/1/meter/drop")
	assert.Equal(t, http.StatusOK, status)
	_, err = s.Recording(t.Context(), 1)
	assert.ErrorIs(t, err, store.ErrNotFound)
}

// TestRecordingIsKept: what a meter shows is kept when its recording ends, with
// Kolvan too.
func TestRecordingIsKept(t *testing.T) {
	on, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	defer on.Close()
	go func() { _ = instruments.Serve(t.Context(), on) }()
	app, s := benchWith(t, web.Instruments{Meter: on.Addr().String()})
	c := newClient(t, app)
	status, _ := c.post("/rigs/1/meter/start")
	require.Equal(t, http.StatusOK, status)
	require.Eventually(t, func() bool {
		_, page := c.get("/rigs/1/meter")
		return !strings.Contains(page, "nothing recorded yet")
	}, time.Minute, instruments.Pace)
	require.NoError(t, app.Shutdown())
	table, err := s.Recording(t.Context(), 1)
	require.NoError(t, err)
	record, err := meter.ReadAgain(table, "", io.Discard)
	require.NoError(t, err)
	assert.NotEmpty(t, record.Samples)
}

// TestWallMeterLive: the trace goes on by itself, the load changes it, a trip is
// seen, and the recording stays when it is stopped.
func TestWallMeterLive(t *testing.T) {
	on, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	go func() { _ = instruments.Serve(t.Context(), on) }()
	p := sitDownWith(t, web.Instruments{Meter: on.Addr().String()})
	p.open("/rigs/1/meter")
	p.click(".mat-acts .strong", "start")
	watts := func(js string) bool {
		return p.until(`(want) => { const w = parseFloat(document.querySelector('[data-latest]').textContent); return ` + js + ` }`)
	}
	assert.True(t, watts("w > 10 && w < 40"), "idle")
	p.click(".mat-acts button", "full")
	assert.True(t, watts("w > 170 && w < 210"), "loaded")
	p.click(".mat-acts button", "trip")
	assert.True(t, watts("w < 2"), "tripped")
	p.click(".mat-acts .strong", "stop")
	time.Sleep(3 * instruments.Pace)
	p.page.MustReload().MustWaitLoad()
	p.sees("[data-latest]", "samples")
	require.NoError(t, on.Close())
	p.click(".mat-acts .strong", "record anew")
	p.sees(".trouble", "does not answer")
}
