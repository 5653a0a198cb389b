package web_test

import (
	"context"
	"encoding/json"
	"fmt"
	"html"
	"net/http"
	"regexp"
	"strconv"
	"strings"
	"sync"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kolvan/core/rig"
	"kolvan/core/units"
	"kolvan/store"
)

// edit sends one edit of a rig and returns the region; it must be kept.
func (c *client) edit(id int, name string, values ...string) string {
	c.t.Helper()
	status, region := c.post(fmt.Sprintf("/rigs/%d/%s", id, name), append(values, "rev", c.rev(id))...)
	require.Equal(c.t, http.StatusOK, status, "%s %v: %s", name, values, region)
	return region
}

func kept(t *testing.T, s *store.Store, id int64) *rig.Rig {
	h, err := s.Load(context.Background(), store.RigKind, id)
	require.NoError(t, err)
	r, err := rig.Decode(h.Doc)
	require.NoError(t, err)
	return r
}

// partID finds a part of the list by its name, as the dialog offers it.
func (c *client) partID(id int, name string) string {
	_, found := c.get(fmt.Sprintf("/rigs/%d/parts?q=%s", id, strings.ReplaceAll(name, " ", "+")))
	at := strings.Index(found, ">"+name+"<")
	require.Positive(c.t, at, name)
	before := found[:at]
	start := strings.LastIndex(before, "{&#34;part&#34;:&#34;") + len("{&#34;part&#34;:&#34;")
	return before[start : start+strings.Index(before[start:], "&#34;")]
}

func TestPartsAreCopiedIntoTheRig(t *testing.T) {
	app, s := bench(t)
	c := newClient(t, app)
	c.edit(1, "use", "part", c.partID(1, "Link cable 250"))
	r := kept(t, s, 1)
	assert.Equal(t, "Link cable 250", r.Route.Stages[3].Name)

	region := c.edit(1, "move", "path", "/route/stages/3", "by", "-2")
	assert.Contains(t, region, "stage: Link cable 250")
	assert.Equal(t, "Link cable 250", kept(t, s, 1).Route.Stages[1].Name)

	c.edit(1, "use", "part", c.partID(1, "Link cable 250"))
	assert.Equal(t, "Link cable 250 2", kept(t, s, 1).Route.Stages[4].Name, "no name stands twice in the network")

	c.edit(1, "use", "part", c.partID(1, "Halden 12G"))
	r = kept(t, s, 1)
	assert.Equal(t, "Halden 12G", r.Card.Name)
	assert.Equal(t, "A", r.Leads[1].To[0].At, "the lead goes to the like plug of the new card")

	c.edit(1, "use", "part", c.partID(1, "Brisling LP 4G"))
	assert.Len(t, kept(t, s, 1).Leads, 1, "a card without plugs needs no lead")

	c.edit(1, "use", "part", c.partID(1, "Moraine 7 Twin"))
	r = kept(t, s, 1)
	assert.Equal(t, "Brick 19 V 6.3 A", r.Host.Supply, "its own supply is there already")
	assert.Equal(t, "m2-a", r.Route.Slot, "a slot of the same name is kept")
	c.edit(1, "use", "part", c.partID(1, "Menhir Tower"))
	r = kept(t, s, 1)
	assert.Equal(t, "Menhir stock 240", r.Host.Supply)
	assert.Nil(t, r.Supply("Brick 19 V 6.3 A"), "the host's own supply goes with it")
	assert.Equal(t, rig.Fact[units.Money]{Known: true, Remark: "comes with the host"}, r.Supply("Menhir stock 240").Amount)
	c.edit(1, "use", "part", c.partID(1, "Ledge Link Mini"))
	c.edit(1, "set", "path", "/route/slot", "value", "link port")
	c.edit(1, "use", "part", c.partID(1, "Menhir Tower"))
	assert.Empty(t, kept(t, s, 1).Route.Slot, "one that is gone is let go")
}

func TestFeedRemoveAndPlace(t *testing.T) {
	app, s := bench(t)
	c := newClient(t, app)
	region := c.edit(3, "remove", "path", "/leads/0", "station", "power")
	assert.Contains(t, region, "Card plug A has no feed")
	c.edit(3, "lead", "ends", "Lantern 400\ncard\ncard\nA", "station", "power")
	r := kept(t, s, 3)
	assert.Equal(t, rig.LeadEnd{Part: "Lantern 400", At: "card"}, r.Leads[0].From[0])
	c.edit(3, "remove", "path", "/supplies/0")
	r = kept(t, s, 3)
	assert.Empty(t, r.Host.Supply)
	assert.Empty(t, r.Leads[0].From, "what was plugged into it is not connected")

	c.edit(3, "place", "x", "-3", "y", "0")
	assert.InDelta(t, -3, float64(kept(t, s, 3).Chamber.CardAt.X.Value), 1e-9)
	assert.Equal(t, rig.Measured, kept(t, s, 3).Chamber.CardAt.X.Source, "it is still said where it comes from")
}

func TestChangeThatClearsIsMadeByItsButton(t *testing.T) {
	app, s := bench(t)
	c := newClient(t, app)
	_, page := c.get("/rigs/1/power")
	button := regexp.MustCompile(`press fix" hx-post="/rigs/1/patch" hx-vals='(.*?)'`).FindStringSubmatch(page)
	require.NotNil(t, button)
	var values struct{ Patch, Says string }
	require.NoError(t, json.Unmarshal([]byte(html.UnescapeString(button[1])), &values))
	assert.Contains(t, values.Says, "peripheral 1")
	c.edit(1, "patch", "patch", values.Patch, "says", values.Says)
	assert.Equal(t, "peripheral 1", kept(t, s, 1).Leads[0].From[0].At)
	h, err := s.Load(context.Background(), store.RigKind, 1)
	require.NoError(t, err)
	assert.Equal(t, values.Says, h.Label)

	_, page = c.get("/rigs/2/power?sel=/sizing")
	button = regexp.MustCompile(`(?s)What card this supply carries.*?hx-post="/rigs/2/patch" hx-vals='(.*?)'`).FindStringSubmatch(page)
	require.NotNil(t, button, "the table of cards")
	require.NoError(t, json.Unmarshal([]byte(html.UnescapeString(button[1])), &values))
	c.edit(2, "patch", "patch", values.Patch, "says", values.Says)
	assert.Equal(t, "Kittiwake 2G Bench", kept(t, s, 2).Card.Name)
}

func TestInchesAreTypedWhereInchesAreShown(t *testing.T) {
	app, s := bench(t)
	c := newClient(t, app)
	status, _ := c.post("/units")
	require.Equal(t, http.StatusNoContent, status)
	c.cookie += "; kolvan_units=in"
	c.edit(1, "set", "path", "/card/length_mm", "value", "10")
	assert.InDelta(t, 254, float64(kept(t, s, 1).Card.Length.Value), 1e-9)
	c.edit(1, "set", "path", "/card/length_mm", "value", "240 mm")
	assert.InDelta(t, 240, float64(kept(t, s, 1).Card.Length.Value), 1e-9)
	c.edit(1, "set", "path", "/card/power_w", "value", "150")
	assert.InDelta(t, 150, float64(kept(t, s, 1).Card.Power.Value), 1e-9, "watts have no inches")
	_, page := c.get("/rigs/3/fit")
	assert.Contains(t, page, "the card meets drive cage by 0.12 in")
}

func TestAcknowledgedWithAReason(t *testing.T) {
	app, s := bench(t)
	c := newClient(t, app)
	region := c.edit(2, "acknowledge", "rule", "net.displaced", "where", "/host/slots/0/occupant", "reason", "the desk has a wire")
	assert.Contains(t, region, "Noted: the desk has a wire")
	c.edit(2, "acknowledge", "rule", "net.displaced", "where", "/host/slots/0/occupant", "reason", "since spring")
	assert.Len(t, kept(t, s, 2).Acknowledged, 1, "a later answer takes the place of the first")
}

func TestUndoRedoCopyDelete(t *testing.T) {
	app, s := bench(t)
	c := newClient(t, app)
	c.edit(4, "set", "path", "/name", "value", "Hill kit")
	c.edit(4, "undo")
	assert.Equal(t, "Field kit", kept(t, s, 4).Name)
	region := c.edit(4, "undo")
	assert.Contains(t, region, "nothing to undo")
	c.edit(4, "redo")
	assert.Equal(t, "Hill kit", kept(t, s, 4).Name)
	status, _ := c.post("/rigs/4/undo", "rev", "0-4")
	assert.Equal(t, http.StatusConflict, status, "undo of what another has changed since")

	status, _ = c.post("/rigs/4/copy")
	assert.Equal(t, http.StatusSeeOther, status)
	assert.Equal(t, "Copy of Hill kit", kept(t, s, 5).Name)
	status, _ = c.post("/rigs/5/delete")
	assert.Equal(t, http.StatusSeeOther, status)
	_, page := c.get("/")
	assert.Contains(t, page, "put back<span class=\"away\"> Copy of Hill kit")
	status, _ = c.post("/rigs/5/restore")
	assert.Equal(t, http.StatusSeeOther, status)
	assert.Equal(t, "Copy of Hill kit", kept(t, s, 5).Name)
}

// TestManyEditorsLoseNothing: twenty people change twenty fields of one rig at
// once, each trying again on what the other has kept.
func TestManyEditorsLoseNothing(t *testing.T) {
	app, s := bench(t)
	const people = 20
	var all sync.WaitGroup
	for i := range people {
		all.Go(func() {
			c := newClient(t, app)
			for {
				status, _ := c.post("/rigs/1/add", "rev", c.rev(1), "path", "/brief/works")
				if status == http.StatusOK {
					return
				}
				assert.Equal(t, http.StatusConflict, status, "person "+strconv.Itoa(i))
			}
		})
	}
	all.Wait()
	assert.Len(t, kept(t, s, 1).Brief.Works, 2+people)
}

func TestSearchFindsByWordsOfNameAndFigures(t *testing.T) {
	app, _ := bench(t)
	c := newClient(t, app)
	for query, want := range map[string]string{
		"q=halden+short": "Halden 8G Short", "q=450+W&kind=supply": "Ember 450 Small", "q=x8+gen+5": "Corvane 8G",
		"kind=lead": "Disk to card 6-pin",
	} {
		_, found := c.get("/rigs/1/parts?" + query)
		assert.Contains(t, found, want, query)
	}
	_, found := c.get("/rigs/1/parts?kind=stage&q=cable+500")
	assert.NotContains(t, found, "goes in next", "the route ends in a card slot")
	c.post("/rigs/1/remove", "rev", c.rev(1), "path", "/route/stages/2")
	c.post("/rigs/1/remove", "rev", c.rev(1), "path", "/route/stages/1")
	_, found = c.get("/rigs/1/parts?kind=stage")
	assert.Regexp(t, `(?s)^\s*<ul class="found">\s*<li>.{0,400}Link cable 250.{0,80}goes in next`, found, "it ends in a four-lane OCuLink")
	_, found = c.get("/rigs/1/parts?q=zeppelin")
	assert.Contains(t, found, "Enter it by hand")
}

// TestFormsOfTheRoute: what is claimed beyond a form stands beside what it carries.
func TestFormsOfTheRoute(t *testing.T) {
	app, _ := bench(t)
	c := newClient(t, app)
	_, page := c.get("/rigs/1/route")
	assert.Regexp(t, `(?s)M\.2 key M</th><td>x4, Gen.6</td>.*?m2-a: x4 Gen.3`, page)
	assert.NotContains(t, page, "said to be")
	_, page = c.post("/rigs/1/set", "rev", c.rev(1), "station", "route", "path", "/route/stages/1/generation", "value", "5")
	assert.Regexp(t, `(?s)OCuLink</th>.*?<b class="no">[^<]*: said to be Gen.5</b>`, page)
}

// TestPartsToMake: what can be made for a rig is offered on Fit and goes out as files.
func TestPartsToMake(t *testing.T) {
	app, _ := bench(t)
	c := newClient(t, app)
	_, page := c.get("/rigs/3/fit")
	assert.NotContains(t, page, "To make")
	c.post("/rigs/3/set", "rev", c.rev(3), "station", "fit", "path", "/chamber/covers/1/raised_mm", "value", "8")
	_, page = c.get("/rigs/3/fit")
	assert.Contains(t, page, "/rigs/3/made/stand-off-2.stl")
	status, file := c.get("/rigs/3/made/stand-off-2.stl")
	assert.Equal(t, http.StatusOK, status)
	assert.Len(t, file, 84+50*4*2*64, "binary STL of a ring of 64 sides")
	for _, none := range []string{"stand-off-2.dxf", "stand-off-9.stl", "foot.stl"} {
		status, _ = c.get("/rigs/3/made/" + none)
		assert.Equal(t, http.StatusNotFound, status, none)
	}
}

// TestCableLaidByHand: a way is entered corner by corner, and what it brings is said at
// once.
func TestCableLaidByHand(t *testing.T) {
	app, _ := bench(t)
	c := newClient(t, app)
	do := func(act string, pairs ...string) string {
		status, page := c.post("/rigs/1/"+act, append([]string{"rev", c.rev(1), "station", "route", "sel", "/route/stages/1"}, pairs...)...)
		require.Equal(t, http.StatusOK, status)
		return page
	}
	do("set", "path", "/route/stages/1/thickness_mm", "value", "5 mm")
	for i, x := range []string{"0", "600"} {
		do("add", "path", "/route/stages/1/path")
		for axis, v := range map[string]string{"x": x, "y": "0", "z": "0"} {
			do("set", "path", fmt.Sprintf("/route/stages/1/path/%d/%s_mm", i, axis), "value", v)
		}
	}
	_, page := c.get("/rigs/1/fit")
	assert.Contains(t, page, "fit.cable")
	assert.Contains(t, page, "its way takes at least 600")
	status, page := c.post("/rigs/1/set", "rev", c.rev(1), "station", "fit", "path", "/chamber/stand/base_mm", "value", "wide")
	assert.Equal(t, http.StatusUnprocessableEntity, status)
	assert.Contains(t, page, "&#34;wide&#34; is not accepted. Write a length, such as 230 mm, 23 cm or 9 1/8 in, from 0 to")
	assert.Equal(t, 1, strings.Count(page, "is not accepted"), "once, at its field")
	assert.NotContains(t, page, "/chamber/stand/base_mm:", "no place of the file stands in a sentence")
}

// TestVerdictComesBehindAnEdit: a page is answered at once and asks for the verdict by
// itself, which is the one a whole page shows; who does not ask so, and whoever was refused
// something, has all of it in one answer.
func TestVerdictComesBehindAnEdit(t *testing.T) {
	app, _ := bench(t)
	c := newClient(t, app)
	c.later = true
	status, region := c.post("/rigs/1/set", "rev", c.rev(1), "station", "route", "path", "/card/power_w", "value", "400")
	require.Equal(t, http.StatusOK, status)
	assert.Contains(t, region, `hx-get="/rigs/1/route/verdict"`)
	assert.Contains(t, region, "Danger at Power", "what it comes to is said at once")
	assert.NotContains(t, region, `class="finding`)
	status, verdict := c.get("/rigs/1/route/verdict")
	require.Equal(t, http.StatusOK, status)
	_, page := c.get("/rigs/1/route")
	_, whole, _ := strings.Cut(page, `<div class="verdict-slot"`)
	whole, _, _ = strings.Cut(whole, "</aside>")
	assert.Contains(t, verdict, whole)
	assert.Contains(t, verdict, `class="button fix first"`)
	status, region = c.post("/rigs/1/set", "rev", c.rev(1), "station", "route", "path", "/card/power_w", "value", "much")
	assert.Equal(t, http.StatusUnprocessableEntity, status)
	assert.Contains(t, region, `class="finding`)
	status, _ = c.get("/rigs/99/route/verdict")
	assert.Equal(t, http.StatusNotFound, status)
}

// TestNobodyKnows: a question that is put aside is not asked again until all are; the fact stays
// missing.
func TestNobodyKnows(t *testing.T) {
	app, s := bench(t)
	c := newClient(t, app)
	c.edit(3, "set", "path", "/card/length_mm", "value", "")
	ask := regexp.MustCompile(`put-aside" hx-vals='\{&#34;fact&#34;:&#34;([^&]+)&#34;\}'`)
	_, page := c.get("/rigs/3/fit")
	asked := ask.FindStringSubmatch(page)
	require.NotNil(t, asked)
	c.edit(3, "put-aside", "fact", asked[1])
	assert.Equal(t, []string{asked[1]}, kept(t, s, 3).PutAside)
	_, page = c.get("/rigs/3/fit")
	assert.NotContains(t, page, `{&#34;fact&#34;:&#34;`+asked[1]+`&#34;}`)
	assert.Contains(t, saidBy(page), "Put aside, since nobody knows: 1.")
	status, _ := c.post("/rigs/3/put-aside", "fact", "/host/nothing", "rev", c.rev(3))
	assert.Equal(t, http.StatusUnprocessableEntity, status)
	c.edit(3, "put-aside")
	assert.Empty(t, kept(t, s, 3).PutAside)
}
