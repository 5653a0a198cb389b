package power

import (
	"fmt"
	"math"

	"kolvan/core/finding"
	"kolvan/core/rig"
	"kolvan/core/units"
)

// judgeCap says what a cap on the card's power is worth, and what holds only by it.
func judgeCap(r *finding.Rule, n *Network, out *finding.List) {
	limit, told := n.rig.Card.Cap.Get()
	power, known := n.rig.Card.Power.Get()
	if !told || known && power <= limit {
		return
	}
	numbers := finding.Numbers{{Name: "cap_w", Value: float64(limit)}}
	says := fmt.Sprintf("The card is capped to %v", limit)
	if known {
		numbers = append(numbers, finding.Number{Name: "power_w", Value: float64(power)})
		says += fmt.Sprintf(" of its %v", power)
	}
	says += ": from the driver on, not at the start"
	if known {
		says += fmt.Sprintf(", when it may take up to %v", units.Watt(math.Round(n.ref.CardStart*float64(power))))
	}
	if only := n.onlyByCap(); only != "" {
		out.Add(
			r, finding.Risk, "/card/cap_w", numbers, "%s. Without it: %s. Set it again after every change of driver or system, before anything runs.",
			says, finding.Phrase(only),
		)
		return
	}
	out.Add(r, finding.Note, "/card/cap_w", numbers, "%s. Its spikes shrink by half of what they exceed its power by.", says)
}

// onlyByCap is the title of the worst that is certain without the cap and is not with it; ""
// for nothing.
func (n *Network) onlyByCap() (title string) {
	free := *n.rig
	free.Card.Cap = rig.Fact[units.Watt]{}
	with, without := finding.List{Silent: true}, finding.List{Silent: true}
	worst := finding.Risk
	new(Network).judged(n.rig, n, &with)
	new(Network).judged(&free, n, &without)
	for i := range without.Findings {
		f := &without.Findings[i]
		if f.Level >= finding.Blocked && f.Level > worst && !holds(with.Findings, f) {
			title, worst = f.Title, f.Level
		}
	}
	return title
}

// judged judges a rig by the rules but the one of the cap.
func (n *Network) judged(r *rig.Rig, of *Network, out *finding.List) {
	n.Work(r, of.ref)
	rules.Judge(n, out)
}

// holds reports that as bad a finding of the same rule is there at the same place.
func holds(list []finding.Finding, f *finding.Finding) bool {
	for i := range list {
		if list[i].Rule == f.Rule && list[i].Where == f.Where && list[i].Level >= f.Level {
			return true
		}
	}
	return false
}
