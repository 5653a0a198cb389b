package power

import (
	"fmt"
	"slices"

	"kolvan/core/finding"
	"kolvan/core/rig"
)

// judgeHeader looks for what feeds the fans that are put in and the drives that move: a part
// for which no header, plug or lead is left stands still.
func judgeHeader(r *finding.Rule, n *Network, out *finding.List) {
	free, looked := n.freeHeaders()
	for i := range n.rig.Chamber.Fans {
		f := &n.rig.Chamber.Fans[i]
		at := fmt.Sprintf("/chamber/fans/%d/fed_by", i)
		switch fed, told := f.Fed.Get(); {
		case rig.Is(f.Fed, rig.FedByNothing):
			out.Add(r, finding.Blocked, at, nil, "Nothing is left to feed %s.", f.Name)
		case told && fed != rig.FedByHeader, n.hangs(f.Name):
		case f.At != "" && n.headerTaken(f.At, i):
			out.Add(r, finding.Blocked, at, nil, "%s is to hang on %s, which is taken.", f.Name, f.At)
		case !looked && !told:
			out.Need(r, at, "what feeds "+f.Name, "Look for a free header on the board, or a free disk plug.", "whether it turns at all")
		case looked && free == 0 && told:
			out.Add(r, finding.Blocked, at, finding.Numbers{{Name: "free", Value: 0}}, "%s wants a header of the board, and none is free.", f.Name)
		case looked && free == 0:
			out.Need(
				r,
				at,
				"what feeds "+f.Name+", since no header is free",
				"Look for a free disk plug, or a lead that carries two fans.",
				"whether it turns at all",
			)
		default:
			free--
		}
	}
	for i := range n.rig.Route.Displaced {
		d := &n.rig.Route.Displaced[i]
		if rig.Is(d.Fed, rig.FedByNothing) {
			out.Add(r, finding.Blocked, fmt.Sprintf("/route/displaced/%d/fed_by", i), nil, "Nothing is left to feed %s in its new place.",
				d.Occupant)
		}
	}
}

// freeHeaders counts the headers that nothing hangs on; false where nobody looked.
func (n *Network) freeHeaders() (free int, looked bool) {
	for i := range n.rig.Host.Headers {
		if n.rig.Host.Headers[i].Used == "" {
			free++
		}
	}
	return free, n.rig.Host.Headers != nil
}

// hangs reports a fan that a header names as what hangs on it.
func (n *Network) hangs(fan string) bool {
	return slices.ContainsFunc(n.rig.Host.Headers, func(h rig.Header) bool { return h.Used == fan })
}

// headerTaken reports a header on which something hangs, or a fan before this one.
func (n *Network) headerTaken(header string, fan int) bool {
	for i := range n.rig.Host.Headers {
		if h := &n.rig.Host.Headers[i]; h.Name == header && h.Used != "" && h.Used != n.rig.Chamber.Fans[fan].Name {
			return true
		}
	}
	for i := range fan {
		if n.rig.Chamber.Fans[i].At == header {
			return true
		}
	}
	return false
}
