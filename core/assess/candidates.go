package assess

import (
	"fmt"
	"strings"

	"kolvan/core/brief"
	"kolvan/core/finding"
	"kolvan/core/fit"
	"kolvan/core/gate"
	"kolvan/core/link"
	"kolvan/core/power"
	"kolvan/core/reference"
	"kolvan/core/rig"
	"kolvan/core/units"
)

// sources make the changes worth trying one after another, the cheapest kind
// first, until try has had enough and answers false.
var sources = []struct {
	kind finding.Cure
	each func(g *given, try func(candidate) bool)
}{
	{finding.Outlet, outletCandidates},
	{finding.Outlet, leadCandidates},
	{finding.TurnOn, turnOnCandidates},
	{finding.Order, orderCandidates},
	{finding.Home, homeCandidates},
	{finding.Stage, stageCandidates},
	{finding.Force, forceCandidates},
	{finding.Slot, slotCandidates},
	{finding.StandOff, outCandidates},
	{finding.StandOff, shiftCandidates},
	{finding.StandOff, turnCandidates},
	{finding.Exit, exitCandidates},
	{finding.Extension, extensionCandidates},
	{finding.Supply, supplyCandidates},
	{finding.Supply, addedSupplyCandidates},
	{finding.CardCap, capCandidates},
	{finding.AnotherCard, cardCandidates},
}

// given is what changes are looked for with: the rig, and its power as it was
// assessed.
type given struct {
	rig   *rig.Rig
	ref   *reference.Tables
	bins  *Bins
	power *power.Network
	link  *link.Plan
	room  *fit.Chamber
}

// copyOf copies a rig without its lists: who changes one copies it first.
func copyOf(r *rig.Rig) *rig.Rig {
	c := *r
	return &c
}

// figureWords gives the figure that bears on what a change clears: what the new
// lead carries, what is left of a supply, or the figure of the rule's family.
func (c *candidate) figureWords(ref *reference.Tables, rule string) string {
	family, _, _ := strings.Cut(rule, ".")
	f := &c.after.Figures
	switch {
	case c.kind == finding.CardCap && f.SupplyShare == nil:
		return ""
	case c.kind == finding.CardCap:
		return ": sustained load at " + power.Percent(*f.SupplyShare) + " of the supply"
	case c.kind == finding.Outlet && rule == power.RuleSlotLimit:
		return ": the slot's feed, " + c.leadWords()
	case c.kind == finding.Outlet:
		return ": the lead, " + c.leadWords()
	case (rule == power.RuleTotal || rule == power.RuleRail || rule == power.RuleHeadroom) && f.SupplyShare != nil:
		return ": sustained load at " + power.Percent(*f.SupplyShare) + " of its rating"
	case rule == link.RuleMargin && f.Margin != nil && f.Net != nil:
		return fmt.Sprintf(": %s at Gen %d, %s GB/s net", units.Decibel(*f.Margin).Signed(), *f.Gen, units.Trim(*f.Net, 2))
	case c.kind == finding.Home && family == "boot":
		if reads, known := gate.BootReads(c.rig, ref); known {
			return ": it reads " + reads.String() + " there"
		}
		return ""
	case c.kind == finding.Home && family == "net":
		return ""
	case (family == "link" || family == "boot" || family == "net") && f.Width != nil && f.Gen != nil && f.Net != nil:
		return fmt.Sprintf(": x%d, Gen %d, %s GB/s net", *f.Width, *f.Gen, units.Trim(*f.Net, 2))
	case rule == power.RuleSlotLimit || rule == power.RuleConnector || rule == power.RuleLead || rule == power.RuleCard:
		return fmt.Sprintf(": %v of board power, %v of it through the slot", c.rig.Card.Power.Value, c.after.Power.Slot.Both.High)
	case (rule == fit.RuleCard || rule == fit.RuleTight) && f.Gap != nil:
		return ": smallest gap " + units.Millimetre(*f.Gap).String()
	case rule == brief.RuleMemory:
		return ": " + c.rig.Card.Memory.Value.String() + " of memory"
	case rule == brief.RuleEncoder:
		return ": it encodes " + strings.Join(c.rig.Card.Encoders.Value, ", ")
	case family == "brief" && f.ToBuy != nil:
		return ": " + units.Money(*f.ToBuy).String() + " to buy"
	default:
		return ""
	}
}

func (c *candidate) leadWords() string {
	load := c.after.Power.Leads[c.lead]
	if !load.Carries.Known() || load.Volts == 0 {
		return load.Load.High.String()
	}
	return fmt.Sprintf("%s of %v", strings.TrimSuffix(load.Load.High.String(), " W"), load.Carries.Low.At(load.Volts))
}
