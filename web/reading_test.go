package web_test

import (
	"net"
	"net/http"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kolvan/instruments"
	"kolvan/web"
)

// TestReadingAgainstThePlan: what the system lists is held against the plan stage by
// stage, kept with the route as measured, and refused where it is no listing.
func TestReadingAgainstThePlan(t *testing.T) {
	on, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	go func() { _ = instruments.Serve(t.Context(), on) }()
	app, _ := benchWith(t, web.Instruments{Probe: on.Addr().String()})
	c := newClient(t, app)
	_, page := c.post("/rigs/1/reading/probe", "load", "loaded", "fault", "one-lane")
	for _, wanted := range []string{
		"x1 Gen 3", "runs, under load", "link.measured", "The port can do x4 Gen 3, as surveyed", "less width",
		"taken under load",
	} {
		assert.Contains(t, page, wanted)
	}
	_, page = c.post("/rigs/1/reading/probe", "load", "idle", "fault", "none")
	assert.Contains(t, page, "runs, at idle")

	var listing strings.Builder
	bus := instruments.Bus{PortLanes: 4, PortGen: 3, CardLanes: 8, CardGen: 5, Lanes: 4, Gen: 3, Payload: 256}
	require.NoError(t, instruments.WriteListing(&listing, bus, "loaded", "errors"))
	_, page = c.post("/rigs/1/reading", "text", listing.String(), "errors", "12", "over", "10 min")
	assert.Contains(t, page, "256 bytes")
	assert.Contains(t, page, "of the bits wrong")

	_, page = c.post("/rigs/1/reading", "text", "nothing <b>of</b> the sort")
	assert.Contains(t, page, "No device of the bus and no link was found")
	assert.Contains(t, page, "nothing &lt;b&gt;of&lt;/b&gt; the sort", "what was pasted stays")
	_, page = c.post("/rigs/1/reading", "text", "x16 4.0 @ x4 3.0", "load", "loaded")
	assert.Contains(t, page, "x4 Gen 3, as planned")
	assert.Contains(t, page, `value="x4 Gen 3"`, "two presses: under load, and which")
	_, page = c.post("/rigs/1/reading", "text", listing.String(), "over", "a while")
	assert.Contains(t, page, "a while")
	status, page := c.upload(
		"/rigs/1/reading", "files", map[string]string{"current_link_width": "2\n", "current_link_speed": "8.0 GT/s PCIe\n"},
	)
	assert.Equal(t, http.StatusOK, status)
	assert.Contains(t, page, "x2 Gen 3")

	status, _ = c.post("/rigs/1/reading/keep", "width", "1", "generation", "3", "load", "loaded", "payload", "256")
	assert.Equal(t, http.StatusSeeOther, status)
	_, page = c.get("/rigs/1/route?sel=/route/readings/0")
	assert.Contains(t, page, "The link was read at x1; x4 is planned")
	status, _ = c.post("/rigs/1/reading/keep", "width", "nine")
	assert.Equal(t, http.StatusUnprocessableEntity, status)
}
