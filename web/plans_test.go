package web_test

import (
	"html"
	"net/http"
	"regexp"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// read is what a person reads of a page: spaces that do not break are spaces.
func read(page string) string { return strings.ReplaceAll(html.UnescapeString(page), "\u00a0", " ") }

// A figure opens into its sum, in one line and term by term, with what it is held against and
// links to the facts; what is no figure says so.
func TestAFigureOpensIntoItsSum(t *testing.T) {
	app, _ := bench(t)
	c := newClient(t, app)
	for path, sees := range map[string][]string{
		"/rigs/1/why": {"160 + 9.9 × (1 ÷ 0.88 − 1) = 161.35 W", "board power of the Corvane 16G",
			"shared, in one state", `/rigs/1/route?sel=/card"`},
		"/rigs/1/why?of=power.connector":                      {"Danger:", "75 + 1.35 = 76.35 W", "54 W", "Held against"},
		"/rigs/1/why?of=fit.gap_mm":                           {"Nothing is known of fit.gap_mm", "Pick another figure"},
		"/rigs/4/why?of=power.supplies/Brick 12 V 10 A/share": {"Brick 12 V 10 A"},
	} {
		status, page := c.get(strings.ReplaceAll(path, " ", "%20"))
		require.Equal(t, http.StatusOK, status, path)
		for _, text := range sees {
			assert.Contains(t, read(page), text, path)
		}
	}
	_, page := c.get("/rigs/1/power?sel=/leads/0")
	assert.Contains(t, page, "/rigs/1/why?of=power.connector", "a finding opens")
	assert.Contains(t, page, "/rigs/1/why?of=power.supply_share", "a station's figure opens")
}

// What would do stands under each trouble; a candidate is held against a part's conditions.
func TestACandidateIsHeldAgainstWhatThePlanAsks(t *testing.T) {
	app, _ := bench(t)
	c := newClient(t, app)
	_, page := c.get("/rigs/4/need")
	for _, text := range []string{"rating 163 W or more", "outlet plug: states 10.9 A or more", "board power 64 W or less"} {
		assert.Contains(t, read(page), text)
	}
	_, page = c.get("/rigs/1/need?is4=SFX+300+W,+12+V+24+A,+one+card+8-pin")
	assert.Contains(t, page, "This one does not do: 1 condition not met.")
	assert.Contains(t, read(page), "✓ 300 W")
	status, table := c.get("/rigs/1/need.csv")
	assert.Equal(t, http.StatusOK, status)
	assert.Contains(t, table, "Lantern 550,supply,rating,rating 215 W or more,")
	_, sheet := c.get("/rigs/1/sheet.md?chosen=1&part=shopping&part=sums")
	assert.Contains(t, sheet, "- [ ] Lantern 550, supply: rating 215 W or more")
	assert.Contains(t, sheet, "160 + 9.9 × (1 ÷ 0.88 − 1) = 161.35 W")
	_, sheet = c.get("/rigs/1/sheet.md")
	assert.NotContains(t, sheet, "rating 215 W or more", "the list is a search, made where it is asked for")
}

// The plans come while they are looked for; at the end one can be taken, and so can a mending.
func TestPlansComeAndAreTaken(t *testing.T) {
	app, _ := bench(t)
	c := newClient(t, app)
	_, page := c.get("/rigs/4/brief?sel=/plans")
	assert.Contains(t, page, `hx-get="/rigs/4/plans"`, "it is still being looked for")
	require.Eventually(t, func() bool {
		_, page = c.get("/rigs/4/plans")
		return !strings.Contains(page, `hx-get="/rigs/4/plans"`)
	}, 60*time.Second, 200*time.Millisecond)
	for _, text := range []string{"plans by cost and by what is expected of them", "budget", "Find out first", "worse in every way"} {
		assert.Contains(t, read(page), text)
	}
	assert.Contains(t, page, "Press a plan to see it, two to see what differs.")
	dots := regexp.MustCompile(`href="(/rigs/4/brief\?sel=/plans&amp;pick=\d+)" hx-get`).FindAllStringSubmatch(page, -1)
	require.Greater(t, len(dots), 1)
	_, one := c.get(html.UnescapeString(dots[0][1]))
	assert.Equal(t, 1, strings.Count(one, "plan  picked")+strings.Count(one, "plan stands picked"))
	assert.NotContains(t, one, "What differs")
	_, second, _ := strings.Cut(html.UnescapeString(dots[1][1]), "pick=")
	_, two := c.get(html.UnescapeString(dots[0][1]) + "," + second)
	assert.Contains(t, two, "What differs")
	assert.Contains(t, two, `<th scope="row">still to buy</th>`)
	assert.Contains(t, two, html.EscapeString(html.UnescapeString(dots[0][1]))+`" hx-get`, "pressed again, the other alone is left")
	_, none := c.get("/rigs/4/brief?sel=/plans&pick=99,x,-1")
	assert.NotContains(t, none, "What differs")
	patch := page[strings.Index(page, `hx-vals='`)+len(`hx-vals='`):]
	assert.Contains(t, read(patch), `"take":"yes"`)
}

// A pasted page is shown fact by fact, and what is ticked becomes a part in the bins.
func TestAPastedPageBecomesAPart(t *testing.T) {
	app, _ := bench(t)
	c := newClient(t, app)
	text := "Skua 9G graphics card\nTGP 115 W, 1x 8-pin\n2.5-slot\n<b>RGB</b>"
	_, page := c.post("/paste", "text", text)
	for _, sees := range []string{`value="/power_w" checked`, "115 W", "TGP 115 W, 1x 8-pin", "may be read otherwise",
		"&lt;b&gt;RGB&lt;/b&gt;"} {
		assert.Contains(t, page, sees)
	}
	assert.NotContains(t, page, `value="/bracket/slots" checked`)
	status, _ := c.post("/bins", "pasted", text, "kind", "card", "name", "my Skua", "fact", "/power_w")
	assert.Less(t, status, http.StatusBadRequest)
	_, page = c.get("/bins")
	assert.Contains(t, page, "my Skua")
}

// What the host told itself is taken whole; a file of a newer Kolvan is refused with a word.
func TestAHostThatToldItselfIsTaken(t *testing.T) {
	app, _ := bench(t)
	c := newClient(t, app)
	file := `{"format": "kolvan-part/1", "kind": "host", "part": {"name": "Shed box", "memory_gib": {"value": 16, "source": "system"}}, "notes": ["It has a battery."]}`
	_, page := c.post("/paste", "text", file)
	for _, sees := range []string{"Shed box", "16 GiB", "read by the system", "It has a battery.", "all of it is taken"} {
		assert.Contains(t, page, sees)
	}
	status, _ := c.post("/bins", "pasted", file, "kind", "host")
	assert.Less(t, status, http.StatusBadRequest)
	_, page = c.get("/bins")
	assert.Contains(t, page, "Shed box")
	_, page = c.post("/paste", "text", strings.Replace(file, "part/1", "part/2", 1))
	assert.Contains(t, page, "kolvan-part/1")
	assert.NotContains(t, page, "put it into the bins")
	status, _ = c.post("/bins", "pasted", `{"format": "kolvan-part/1", "kind": "tower", "part": {}}`)
	assert.Equal(t, http.StatusUnprocessableEntity, status)
}
