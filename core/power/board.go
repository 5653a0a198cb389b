package power

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"kolvan/core/finding"
	"kolvan/core/reference"
	"kolvan/core/rig"
)

// judgeBoard looks at a supply that takes the place of the host's own: where the board has its
// maker's own plug, the lead that turns into it is a bought one, made for it, and the standby
// voltage is the board's (reference, section 2a: never certain without a label or a meter).
func judgeBoard(r *finding.Rule, n *Network, out *finding.List) {
	for i := range n.rig.Host.Inlets {
		inlet := &n.rig.Host.Inlets[i]
		kind, told := inlet.Board.Get()
		if !told || kind == rig.StandardPlug {
			continue
		}
		at := fmt.Sprintf("/host/inlets/%d", i)
		lead, supply := n.turnsInto(inlet.Name)
		switch {
		case lead >= 0 && supply >= 0 && WaitsToBeSwitched(&n.rig.Supplies[supply]) && !rig.Is(n.rig.Supplies[supply].Kind, rig.Proprietary):
			n.judgeTurned(r, at, inlet, lead, out)
		case lead < 0 && n.exchanged():
			row := n.ref.BoardPlug(string(kind))
			out.Add(
				r, finding.Blocked, at, nil, "%s has a %s%s: no lead of the new supply goes into it. A bought lead that is made for this board "+
					"turns into it.",
				inlet.Name, rig.Spoken(kind), boardWords(row),
			)
		}
	}
}

// boardWords says what such plugs mostly are.
func boardWords(row *reference.BoardPlug) string {
	if row == nil {
		return ""
	}
	return fmt.Sprintf(" (mostly: %s)", row.Says)
}

// judgeTurned looks at the lead that turns into the board's plug.
func (n *Network) judgeTurned(r *finding.Rule, at string, inlet *rig.Inlet, lead int, out *finding.List) {
	l, path := &n.rig.Leads[lead], rig.LeadPath(lead)
	hosts, told := l.MadeFor.Get()
	switch {
	case len(l.Wires) > 0:
	case !told:
		out.Need(
			r,
			path+"/made_for",
			"which board "+l.Name+" is made for",
			"Read its papers, or the seller's words.",
			"whether it turns into the board's plug pin by pin",
		)
	case !slices.ContainsFunc(hosts, func(h string) bool { return strings.EqualFold(h, n.rig.Host.Name) || strings.EqualFold(h, inlet.Name) }):
		out.Add(
			r,
			finding.Blocked,
			path,
			nil,
			"%s is made for %s, and not for %s.",
			l.Name,
			strings.Join(hosts, ", "),
			cmp.Or(n.rig.Host.Name, "this host"),
		)
		return
	}
	gives := float64(l.Standby.Or(supplyStandby))
	wants, known := inlet.Standby.Get()
	switch {
	case !known:
		out.Need(
			r,
			at+"/standby_v",
			"the standby voltage that "+inlet.Name+" wants",
			"Read the label of the host's own supply, or meter its plug while the host is off.",
			"whether the board wakes, and whether it survives",
		)
	case wants > 0 && !same(wants, l.Standby.Or(supplyStandby)):
		out.Add(
			r, finding.Blocked, at+"/standby_v", finding.Numbers{{Name: "gives_v", Value: gives}, {Name: "wants_v", Value: float64(wants)}},
			"%s wants %v standby; %s gives %v. A lead that makes it, or a converter in it, is needed.", inlet.Name, wants, l.Name,
			l.Standby.Or(supplyStandby),
		)
	}
	if rig.Is(inlet.Clips, true) {
		out.Add(
			r,
			finding.Note,
			at,
			nil,
			"The clip of %s is on the other side than on the standard plug: never force it; the pins decide, not the clip.",
			inlet.Name,
		)
	}
}

// supplyStandby is what an ATX-style supply gives while it is off (S).
const supplyStandby = 5

// turnsInto is the lead that ends in an inlet of the host, and the supply it comes from; −1 for
// none.
func (n *Network) turnsInto(inlet string) (lead, supply int) {
	for i := range n.rig.Leads {
		l := &n.rig.Leads[i]
		for _, to := range l.To {
			if to.Part != rig.HostPart || to.At != inlet {
				continue
			}
			for _, from := range l.From {
				for s := range n.rig.Supplies {
					if n.rig.Supplies[s].Name == from.Part {
						return i, s
					}
				}
			}
			return i, -1
		}
	}
	return -1, -1
}

// exchanged reports a supply that goes into the host's bay in place of its own.
func (n *Network) exchanged() bool {
	return slices.ContainsFunc(n.rig.Supplies, func(s rig.Supply) bool { return rig.Is(s.InBay, true) })
}
