package web_test

import (
	"net/http"
	"testing"

	"github.com/go-rod/rod"
	"github.com/go-rod/rod/lib/input"
	"github.com/go-rod/rod/lib/proto"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kolvan/core/rig"
)

// TestFromNothingToAVerdict: a host of the list, and Enter on what stands first,
// lead to a rig that is whole, by the keyboard alone.
func TestFromNothingToAVerdict(t *testing.T) {
	p := sitDown(t)
	p.fill("#new-name", "attic box")
	p.press(input.Enter)
	for step, sees := range []string{"Which host is it", "Which card", "Which way onto the bus", "Where does the card stand"} {
		p.sees(".start h2", sees)
		require.True(
			t, p.until(`() => document.activeElement?.matches('[data-first]')`),
			"the focus stands where the work goes on: step %d", step,
		)
		p.press(input.Enter)
	}
	p.sees(".mat figcaption", "lanes")
	assert.False(t, p.page.MustHas("section.start"))
	r := p.exported()
	assert.NotEmpty(t, r.Supplies)
	assert.True(t, r.Chamber.Open)
	for _, f := range p.page.MustElements(".finding .rule") {
		assert.NotEqual(t, "power.unfed", f.MustText())
	}
}

// TestHostThatIsNotInTheList is described by what is seen of it; nothing else is
// made up.
func TestHostThatIsNotInTheList(t *testing.T) {
	p := sitDown(t)
	p.fill("#new-name", "from the skip")
	p.press(input.Enter)
	p.sees(".start h2", "Which host is it")
	p.click(".use", "a model held in memory")
	p.click(".use.on", "a model held in memory")
	p.click(".use", "stacking pictures")
	p.sees(".use.on", "stacking pictures")
	p.click(".describe .button", "that is my host")
	p.sees(".describe .fault", "one at least")
	p.find("input[name=kind][value=mini-pc]").MustClick()
	p.find("input[name=see-m2-long]").MustClick()
	p.find("input[name=see-m2-short]").MustClick()
	p.find(".describe input[name=name]").MustInput("skip box")
	p.find(".describe input[name=brick]").MustInput("19V")
	p.click(".describe .button", "that is my host")
	p.sees(".describe .fault", "Write the amps too, which stand beside the volts")
	typed := `() => ['kind', 'see-m2-long', 'see-m2-short'].map(n => document.querySelector('.describe [name=' + n + ']:checked')?.value ?? '').join() + document.querySelector('.describe [name=name]').value`
	assert.Equal(t, "mini-pc,yes,yesskip box", p.page.MustEval(typed).String(), "all else stands as it was entered")
	assert.Zero(t, len(p.page.MustElements(".trouble")), "it is said once")
	p.find(".describe input[name=brick]").MustSelectAllText().MustInput("19 V 6.3 A")
	p.click(".describe .button", "that is my host")
	p.sees(".start h2", "Which card")
	r := p.exported()
	assert.Equal(t, rig.HostKind("mini-pc"), r.Host.Kind.Value)
	require.Len(t, r.Host.Slots, 2)
	assert.False(t, r.Host.Slots[0].Lanes.Known, "nobody can see lanes")
	assert.Equal(t, "wireless card", r.Host.Slots[1].Occupant.Value)
	require.Len(t, r.Brief.Works, 1, "a use pressed twice is none")
	assert.Equal(t, rig.UseKind("stack"), r.Brief.Works[0].Kind.Value)
	assert.InDelta(t, 119.7, float64(r.Supply(r.Host.Supply).Rating.Value), 1e-6)

	p.click(".start .found button", "Tern 8G")
	p.sees(".notch-asked h3", "M.2 slot: which notch")
	assert.False(t, p.page.MustHas(".ways"), "what goes in is not known before its key is")
	p.click(".notch-asked .keys-seen button", "key M$")
	p.click(".notch-asked .keys-seen button", "key A and E")
	p.sees(".ways", "combinations")
	p.click(".notch-asked .button", "the drive the system starts from")
	p.settle()
	assert.False(t, p.page.MustHas(".notch-asked"))
	r = p.exported()
	assert.Equal(t, rig.Key("M"), r.Host.Slots[0].Key.Value)
	assert.Equal(t, "boot drive", r.Host.Slots[0].Occupant.Value)
	assert.True(t, r.Host.Drives[0].Boots.Value)
}

// TestTheListIsPutAway: its invented parts are then neither found, offered nor tried.
func TestTheListIsPutAway(t *testing.T) {
	app, _ := bench(t)
	c := newClient(t, app)
	_, page := c.get("/bins")
	assert.Contains(t, page, "Moraine 5")
	status, _ := c.post("/list")
	require.Equal(t, http.StatusNoContent, status)
	c.cookie += "; kolvan_list=away"
	for _, at := range []string{"/bins", "/rigs/1/parts?q=moraine&kind=host", "/rigs/1/cards"} {
		_, page = c.get(at)
		assert.NotContains(t, page, "Moraine 5")
		assert.NotContains(t, page, "Wagtail 8G")
	}
	_, page = c.get("/bins")
	assert.Contains(t, page, "None of your own yet.")
	_, page = c.get("/rigs/1/route?sel=/ways")
	assert.NotContains(t, page, "Link cable 300", "of the list; the plan's own is Link cable 500")
}

// TestWhatIsLookedUpCanBeStopped: the page stays as it is.
func TestWhatIsLookedUpCanBeStopped(t *testing.T) {
	p := sitDown(t)
	p.open("/rigs/1/route")
	router := p.page.HijackRequests()
	defer router.MustStop()
	held := make(chan struct{})
	defer close(held)
	router.MustAdd("*sel=/ways*", func(h *rod.Hijack) {
		<-held
		h.ContinueRequest(&proto.FetchContinueRequest{})
	})
	go router.Run()
	p.named(".ctl", "all ways from here").MustClick()
	require.True(t, p.until(`() => document.getElementById('stop').hidden === false`))
	p.find("#stop").MustClick()
	require.True(t, p.until(`() => document.getElementById('stop').hidden`))
	p.settle()
	assert.False(t, p.page.MustHas(".ways"))
	assert.Contains(t, p.page.MustInfo().URL, "/rigs/1/route")
}
