package fit

import (
	"fmt"
	"strings"

	"kolvan/core/finding"
	"kolvan/core/rig"
)

// judgeMakeshift names what is held otherwise than it was made to be. It may do: then its
// reason stands there, and what is risked; that is another thing than what cannot work.
func judgeMakeshift(r *finding.Rule, c *Chamber, out *finding.List) {
	say := func(name, where string, h *rig.Held) {
		words, numbers := heldWords(h)
		if words == "" {
			return
		}
		out.Add(r, finding.Risk, where, numbers, "%s is held by %s. %s", finding.Begin(name), words, doesWords(h))
	}
	for i := range c.rig.Chamber.Fans {
		f := &c.rig.Chamber.Fans[i]
		say(f.Name, fmt.Sprintf("/chamber/fans/%d", i), &f.Held)
	}
	for i := range c.rig.Route.Displaced {
		d := &c.rig.Route.Displaced[i]
		say(d.Occupant, fmt.Sprintf("/route/displaced/%d", i), &d.Held)
	}
	for i := range c.rig.Supplies {
		say(c.rig.Supplies[i].Name, rig.SupplyPath(i), &c.rig.Supplies[i].Held)
	}
}

// heldWords is what holds a part; nothing where all its screws do, or nobody told otherwise.
func heldWords(h *rig.Held) (string, finding.Numbers) {
	in, all := h.In.Value, h.Of.Value
	switch by := h.By.Or(rig.HeldByScrews); {
	case by != rig.HeldByScrews:
		return rig.Spoken(by), nil
	case h.In.Known && h.Of.Known && in < all:
		return fmt.Sprintf("%d of %d screws", in, all), finding.Numbers{{Name: "screws_in", Value: float64(in)},
			{Name: "screws_of", Value: float64(all)}}
	default:
		return "", nil
	}
}

// doesWords is whether it will do, and why.
func doesWords(h *rig.Held) string {
	why := ""
	if h.Why != "" {
		why = ": " + strings.TrimSuffix(h.Why, ".")
	}
	switch {
	case !h.Does.Known:
		return "Whether it will do nobody has said" + why + ": pull at it, and think of what it falls into."
	case h.Does.Value:
		return "It will do" + why + ". Look at it again after a week, and after it was carried."
	default:
		return "It will not do" + why + "."
	}
}
