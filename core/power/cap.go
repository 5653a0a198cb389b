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
	capped := finding.List{Silent: true}
	rules.Judge(n, &capped)
	free, whole, uncapped := *n.rig, new(Network), finding.List{Silent: true}
	free.Card.Cap = rig.Fact[units.Watt]{}
	whole.Work(&free, n.ref)
	rules.Judge(whole, &uncapped)
	worst := finding.Risk
	for i := range uncapped.Findings {
		f := &uncapped.Findings[i]
		if f.Level >= finding.Blocked && f.Level > worst && !holds(capped.Findings, f) {
			title, worst = f.Title, f.Level
		}
	}
	return title
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
