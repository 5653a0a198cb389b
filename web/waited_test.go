package web_test

import (
	"net/http"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kolvan/core/rig"
	"kolvan/store"
)

// TestWhatWaitedIsMerged: an entry of a device that was not connected goes on what was changed
// meanwhile, at the moment it was made; where both changed one thing it is told, and nothing is
// kept.
func TestWhatWaitedIsMerged(t *testing.T) {
	t.Parallel()
	app, s := bench(t)
	c := newClient(t, app)
	late := func(waited, path string, values ...string) (int, string) {
		c.waited = waited
		defer func() { c.waited = "" }()
		return c.post(path, values...)
	}
	shown := c.rev(1)
	c.edit(1, "set", "path", "/card/memory_gib", "value", "9 GiB")
	c.edit(1, "line", "text", "said at the bench")

	before := time.Now()
	for _, entry := range [][]string{{"done", "step", "card", "done", "yes"}, {"line", "text", "said in the cellar"}, {"hand", "tool", "a long screwdriver"}} {
		status, answer := late("3600", "/rigs/1/"+entry[0], append([]string{"rev", shown}, entry[1:]...)...)
		require.Equal(t, http.StatusOK, status, answer)
	}
	head, err := s.Load(t.Context(), store.RigKind, 1)
	require.NoError(t, err)
	r, err := rig.Decode(head.Doc)
	require.NoError(t, err)
	assert.InDelta(t, 9, float64(r.Card.Memory.Value), 0)
	assert.Contains(t, r.Build.AtHand, "a long screwdriver")
	done := r.Build.Done[len(r.Build.Done)-1]
	assert.Equal(t, "card", done.Step)
	when, err := time.Parse(time.RFC3339, done.When)
	require.NoError(t, err)
	assert.WithinDuration(t, before.Add(-time.Hour), when, 20*time.Second, "as it was done, not as it was sent")
	var said []string
	for _, line := range r.Diary[len(r.Diary)-2:] {
		said = append(said, line.Text)
	}
	assert.Equal(t, []string{"said at the bench", "said in the cellar"}, said)

	for says, entry := range map[string][]string{
		"changed in another place meanwhile": {"3600", shown, "set", "path", "/card/memory_gib", "value", "12 GiB"},
		"another data file":                  {"3600", "0-1", "line", "text", "x"},
		"what happened":                      {"3600", shown, "line", "text", ""},
	} {
		status, answer := late(entry[0], "/rigs/1/"+entry[2], append([]string{"rev", entry[1]}, entry[3:]...)...)
		assert.GreaterOrEqual(t, status, 400, says)
		assert.Contains(t, answer, says)
		assert.NotContains(t, answer, "<div", "nobody looks at its page")
	}
	for _, odd := range []string{"-5", "soon", "999999999999999999"} {
		status, _ := late(odd, "/rigs/1/line", "rev", c.rev(1), "text", "odd "+odd)
		assert.Equal(t, http.StatusOK, status, odd)
	}
	after, err := s.Load(t.Context(), store.RigKind, 1)
	require.NoError(t, err)
	r, err = rig.Decode(after.Doc)
	require.NoError(t, err)
	assert.InDelta(t, 9, float64(r.Card.Memory.Value), 0)
	when, err = time.Parse(time.RFC3339, r.Diary[len(r.Diary)-1].When)
	require.NoError(t, err)
	assert.WithinDuration(t, time.Now(), when, 20*time.Second)
}

// TestNotConnectedAtTheBench: with nothing to answer the pages of the rig can be walked, what is
// done waits through a reload, and is kept once Kolvan is there again, beside what was changed
// meanwhile; what cannot be is shown until somebody lets it go.
func TestNotConnectedAtTheBench(t *testing.T) {
	t.Parallel()
	v, _ := serve(t)
	p := somebody(t, "http://"+v.addr)
	p.open("/rigs/1/assembly")
	kept := `async () => (await (await caches.open('kolvan-pages-1')).keys()).filter((page) => page.url.includes('/rigs/1/')).length`
	require.Eventually(t, func() bool { return p.page.MustEval(kept).Int() > 12 }, 40*time.Second, 200*time.Millisecond)
	step := p.page.MustEval(`() => document.querySelector('.step-acts [name=step]').value`).String()

	p.open("/devices")
	p.open("/rigs/1/assembly")
	other := `async () => (await (await caches.open('kolvan-pages-1')).keys()).some((page) => page.url.includes('/devices'))`
	assert.False(t, p.page.MustEval(other).Bool(), "what is about devices is not kept")

	v.stop()
	p.click(".step-acts .press", "done")
	p.sees("#waiting", "One entry waits on this device")
	p.page.MustReload().MustWaitLoad()
	p.sees("#waiting", "Kolvan does not answer. This page is as it was at")
	p.click(".stations a", "Power")
	p.sees(".here", "Power")
	p.press('l')
	p.find("#dialog-line input[name=text]").MustInput("the lamp is green")
	p.click("#dialog-line button", "add it")
	p.sees("#waiting", "2 entries wait")
	p.page.MustNavigate("http://" + v.addr + "/rigs/7/power").MustWaitLoad()
	p.sees("main", "this page was not looked at on this device before")
	p.click("main a", "stacker")
	p.sees(".here", "Brief")
	p.sees("#waiting", "2 entries wait")
	elsewhere(t, v, func(r *rig.Rig) { r.Card.Memory = rig.Of(r.Card.Memory.Value + 1) })

	v.start()
	require.True(t, p.until(`() => document.getElementById('waiting').hidden`))
	r := p.exported()
	require.NotEmpty(t, r.Diary)
	assert.Equal(t, step, r.Build.Done[len(r.Build.Done)-1].Step)
	assert.Equal(t, "the lamp is green", r.Diary[len(r.Diary)-1].Text)

	p.open("/rigs/1/assembly?sel=/build/step/" + step)
	v.stop()
	p.click(".step-acts button", "not done after all")
	p.sees("#waiting", "One entry waits on this device")
	elsewhere(t, v, func(r *rig.Rig) { r.Build.Done[len(r.Build.Done)-1].Line = "with the short screws" })
	v.start()
	defer v.stop()
	p.sees("#waiting", "This was changed in another place meanwhile")
	p.click("#waiting button", "let it go")
	require.True(t, p.until(`() => document.getElementById('waiting').hidden`))
	r = p.exported()
	assert.Equal(t, "with the short screws", r.Build.Done[len(r.Build.Done)-1].Line)
}

// elsewhere changes the first rig of a Kolvan that is stopped.
func elsewhere(t *testing.T, v *service, change func(*rig.Rig)) {
	s, err := store.Open(t.Context(), v.path)
	require.NoError(t, err)
	defer s.Close()
	head, err := s.Load(t.Context(), store.RigKind, 1)
	require.NoError(t, err)
	r, err := rig.Decode(head.Doc)
	require.NoError(t, err)
	change(r)
	doc, err := rig.Encode(r)
	require.NoError(t, err)
	_, err = s.Write(t.Context(), 1, head.Revision, strings.TrimSpace(r.Name), doc, "elsewhere")
	require.NoError(t, err)
}
