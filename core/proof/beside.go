package proof

import (
	"cmp"
	"fmt"
	"math"
	"strings"

	"kolvan/core/rig"
	"kolvan/core/units"
)

// A Built is a rig that was run, and its link.
type Built struct {
	Rig  *rig.Rig
	Link Link
}

// Measured is what a use runs at in a rig with the card, at one resolution: in words and in Hz; ""
// where no run tells.
func (b *Built) Measured(use string) (says string, hz float64) {
	runs := asUsed(WithCard(b.Rig, use))
	mean, _, known := meanOf(runs, measures[0].of)
	if !known {
		return "", 0
	}
	return strings.TrimSuffix(fmt.Sprintf("%s Hz, %s", units.Trim(mean, 1), toldSettings(runs[0])), ", "), mean
}

// Beside holds what was measured in two rigs against each other, use by use: where both were made
// alike by how much, what changed between them, and where that is more than one thing, that this
// cannot part them and the run that could.
func Beside(a, b Built) (says []string) {
	for i := range a.Rig.Brief.Works {
		use := a.Rig.Brief.Works[i].Name
		here, there := asUsed(WithCard(a.Rig, use)), asUsed(WithCard(b.Rig, use))
		_, first := a.Measured(use)
		_, second := b.Measured(use)
		if first <= 0 || second <= 0 {
			continue
		}
		if differs := settingsDiffer(here, there); len(differs) > 0 {
			says = append(says, fmt.Sprintf("%s was made otherwise in %s and %s: %s", use, a.Rig.Name, b.Rig.Name, strings.Join(differs, "; ")))
			continue
		}
		says = append(says, fmt.Sprintf(
			"%s runs ×%s in %s against %s. %s", use, units.Trim(second/first, 2), b.Rig.Name, a.Rig.Name, parted(&a, &b),
		))
	}
	return says
}

// linksAlike is the share by which two links may differ and count as one.
const linksAlike = 0.2

// parted says what changed between two rigs, and what would part it.
func parted(a, b *Built) string {
	var changed []string
	if a.Rig.Card.Name != b.Rig.Card.Name {
		changed = append(changed, "card")
	}
	if cmp.Or(a.Rig.Host.Proc.Name, a.Rig.Host.Name) != cmp.Or(b.Rig.Host.Proc.Name, b.Rig.Host.Name) {
		changed = append(changed, "processor")
	}
	link := math.Abs(float64(a.Link.Net.High/max(b.Link.Net.High, leastNet))-1) > linksAlike
	if link {
		changed = append(changed, "slot")
	}
	switch len(changed) {
	case 0:
		return "Card, processor and slot are the same: look at drivers, drives and heat"
	case 1:
		return "Only the " + changed[0] + " changed"
	}
	what := strings.Join(changed[:len(changed)-1], ", ") + " and " + changed[len(changed)-1]
	run := "A run in each at a resolution as low as it goes, which shows the processors alone, would"
	if link {
		if held := heldAlike(a, b); held != "" {
			run = held
		}
	}
	return strings.ToUpper(what[:1]) + what[1:] + " changed together: this cannot part them. " + run
}

// heldAlike is the run that lets both links carry as much: the faster one forced down.
func heldAlike(a, b *Built) string {
	quick, slow := a, b
	if quick.Link.Net.High < slow.Link.Net.High {
		quick, slow = slow, quick
	}
	if quick.Link.At == nil {
		return ""
	}
	for gen := 1; gen <= 5; gen++ {
		net := quick.Link.At(gen)
		if net.High > 0 && math.Abs(float64(net.High/max(slow.Link.Net.High, leastNet))-1) <= linksAlike {
			return fmt.Sprintf("A run in %s with its link held to Gen %d, which then carries what that of %s does, would", quick.Rig.Name, gen,
				slow.Rig.Name)
		}
	}
	return ""
}
