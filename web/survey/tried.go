package survey

import (
	"fmt"
	"strconv"

	"github.com/gofiber/fiber/v3"

	"kolvan/core/assess"
	"kolvan/core/reference"
	"kolvan/core/rig"
	"kolvan/web/phrase"
	"kolvan/web/room"
)

// triedRow is a host that was tried with the parts of the rig.
type triedRow struct {
	At                 int
	Name, Outcome, Why string
	Slots              string
	Sel                string
}

func triedRows(r *rig.Rig) (rows []triedRow) {
	for i := range r.Tried {
		t := &r.Tried[i]
		outcome := rig.Spoken(t.Outcome.Or("not-yet"))
		rows = append(rows, triedRow{
			At: i, Name: phrase.Or(t.Host.Name, "a host without a name"), Outcome: outcome, Why: t.Why,
			Slots: phrase.Plural(len(t.Host.Slots), "slot"), Sel: fmt.Sprintf("/tried_hosts/%d", i),
		})
	}
	return rows
}

// setHostAside keeps the host among those tried, and leaves its place to another.
func setHostAside(c fiber.Ctx, r *rig.Rig, _ *reference.Tables) (string, string, error) {
	if r.Host.Name == "" && len(r.Host.Slots) == 0 {
		return "", "", &rig.FieldError{Path: "/host", Accepts: "a host that is told, to be set aside"}
	}
	r.Tried = append(r.Tried, rig.TriedHost{Host: r.Host, When: room.When(c)})
	name := r.Host.Name
	*r = *assess.WithHost(r, rig.Host{}, nil)
	return "set " + phrase.Or(name, "the host") + " aside", "/host", nil
}

// planHost makes a host that was tried the one of the plan; the one of the plan takes its place
// among those tried.
func planHost(c fiber.Ctx, r *rig.Rig, _ *reference.Tables) (string, string, error) {
	at, err := strconv.Atoi(c.FormValue("tried"))
	if err != nil || at < 0 || at >= len(r.Tried) {
		return "", "", &rig.FieldError{Path: "tried", Value: strconv.Quote(c.FormValue("tried")), Accepts: "one of the hosts that were tried"}
	}
	next, before := r.Tried[at].Host, r.Host
	*r = *assess.WithHost(r, next, r.Supplies)
	if before.Name == "" && len(before.Slots) == 0 {
		r.Tried = append(r.Tried[:at:at], r.Tried[at+1:]...)
	} else {
		r.Tried[at] = rig.TriedHost{Host: before, When: room.When(c)}
	}
	return "plan with " + phrase.Or(next.Name, "the other host"), "/host", nil
}
