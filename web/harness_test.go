package web_test

import (
	"net/http"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
)

// TestHarnessByHand: a lead is joined pin by pin, gets its gauge and fuse, its
// meter list is ticked, and it goes out as a drawing and a table.
func TestHarnessByHand(t *testing.T) {
	t.Parallel()
	p := sitDown(t)
	p.open("/rigs/1/power?sel=/leads/1")
	p.click(".harness .button", "join what carries the same")
	assert.Len(t, p.exported().Leads[1].Wires, 8)
	p.find("a.wire").MustClick()
	p.settle()
	assert.Len(t, p.exported().Leads[1].Wires, 7, "a wire that is pressed comes off")
	p.find("a.post[aria-label^='pin 1,']").MustClick()
	p.settle()
	p.find("a.post.ready[aria-label^='join with pin 5,']").MustClick()
	p.settle()
	p.sees(".finding.danger", "joins +12 with GND")
	p.click("[data-undo]", "undo")
	p.find("a.post[aria-label^='pin 1,']").MustClick()
	p.settle()
	p.find("a.post.ready[aria-label^='join with pin 1,']").MustClick()
	p.settle()
	p.click(".harness .button", "take the 15 A fuse")
	p.click(".line-tick", "pin 2")
	lead := p.exported().Leads[1]
	assert.InDelta(t, 15, float64(lead.Fuse.Value), 1e-9)
	assert.Equal(t, []string{"wire 1/2 1/2"}, lead.Ticked)
	p.sees(".finding", "1 of 12 lines of its meter list")
}

func TestHarnessAsFiles(t *testing.T) {
	app, _ := bench(t)
	c := newClient(t, app)
	status, _ := c.post("/rigs/1/alike", "rev", c.rev(1), "station", "power", "sel", "/leads/1")
	assert.Equal(t, http.StatusOK, status)
	_, drawing := c.get("/rigs/1/harness/1.svg")
	assert.True(t, strings.HasPrefix(drawing, "<svg xmlns="))
	assert.Equal(t, 16, strings.Count(drawing, "<path"), "each wire has an edge and a core")
	_, table := c.get("/rigs/1/harness/1.csv")
	assert.Contains(t, table, "1,1,1,+12,1,1,AWG 18,3.19 A,7 A,600")
	for path, want := range map[string]int{"/rigs/1/harness/9.svg": 404, "/rigs/1/harness/x.csv": 404} {
		status, _ = c.get(path)
		assert.Equal(t, want, status)
	}
	for _, form := range [][]string{{"wire", "off", "99"}, {"wire", "from", "1/1"}, {"wire", "from", "9/1", "to", "1/1"}} {
		status, _ = c.post("/rigs/1/"+form[0], append([]string{"rev", c.rev(1), "station", "power", "sel", "/leads/1"}, form[1:]...)...)
		assert.Equal(t, http.StatusUnprocessableEntity, status, "%v", form)
	}
}
