package assess

import (
	"cmp"
	"fmt"
	"math"
	"slices"
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
	{finding.Outlet, outletCandidates}, {finding.Outlet, leadCandidates}, {finding.TurnOn, turnOnCandidates}, {finding.Order, orderCandidates}, {finding.Home, homeCandidates},
	{finding.Stage, stageCandidates}, {finding.Force, forceCandidates}, {finding.Slot, slotCandidates}, {finding.StandOff, outCandidates}, {finding.StandOff, shiftCandidates}, {finding.StandOff, turnCandidates}, {finding.Exit, exitCandidates}, {finding.Extension, extensionCandidates}, {finding.Supply, supplyCandidates}, {finding.Supply, addedSupplyCandidates}, {finding.CardCap, capCandidates}, {finding.AnotherCard, cardCandidates},
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

// outletCandidates: what a lead ends at is fed from another free outlet, into any
// inlet of the same load that takes its plug.
func outletCandidates(g *given, try func(candidate) bool) {
	r := g.rig
	outlets := freeOutlets(r)
	for i := range r.Leads {
		for j := range r.Leads[i].To {
			for _, inlet := range inletsOf(r, r.Leads[i].To[j]) {
				for _, from := range outlets {
					if _, enters := g.ref.Enters(from.Connector.Value, inlet.connector); enters &&
						!try(rewired(r, i, j, g.power.Leads[i].Plain(), from, inlet)) {
						return
					}
				}
			}
		}
	}
}

// rewired feeds what end j of lead i ends at from another outlet. A plain lead
// is plugged over, an adapter gives way to a plain lead, and a splitter keeps
// its other ends.
func rewired(r *rig.Rig, i, j int, plain bool, from rig.LeadEnd, inlet port) candidate {
	c, to := copyOf(r), load{r.Leads[i].To[j].Part, inlet}
	c.Leads = rig.CloneLeads(c.Leads)
	if len(c.Leads[i].To) > 1 {
		c.Leads[i].DropEnds(false, func(k int) bool { return k == j })
		return withLead(c, plainLead(to), from, to, from.Connector.Value)
	}
	if !plain || r.Leads[i].From[0].Connector.Value != from.Connector.Value {
		c.Leads[i] = plainLead(to) // another kind of plug is another lead
		c.Leads[i].Name = FreeName(r, c.Leads[i].Name)
	}
	return plugged(c, i, from, to, from.Connector.Value)
}

func portWords(part, name string) string {
	switch part {
	case rig.CardPart:
		return "card plug " + name
	case rig.HostPart:
		return "the host"
	default:
		return part + " (" + name + ")"
	}
}

// port is a place where a plug goes in.
type port struct {
	name      string
	connector rig.Connector
}

// inletsOf lists where a lead to the same load may be plugged in: the same plug
// of a card, or any inlet of a dock that no other lead uses.
func inletsOf(r *rig.Rig, end rig.LeadEnd) []port {
	var list []port
	for i := range r.Card.Plugs {
		if p := &r.Card.Plugs[i]; end.Part == rig.CardPart && p.Name == end.At && p.Connector.Known {
			list = append(list, port{p.Name, p.Connector.Value})
		}
	}
	if s := r.Stage(end.Part); s != nil {
		for i := range s.Inlets {
			in := &s.Inlets[i]
			if in.Connector.Known && (in.Name == end.At || !inletUsed(r, s.Name, in.Name)) {
				list = append(list, port{in.Name, in.Connector.Value})
			}
		}
	}
	return list
}

func inletUsed(r *rig.Rig, part, at string) bool {
	for i := range r.Leads {
		for _, end := range r.Leads[i].To {
			if end.Part == part && end.At == at {
				return true
			}
		}
	}
	return false
}

// freeOutlets lists the first free outlet of every known connector of every
// supply, as the end of a lead plugged into it.
func freeOutlets(r *rig.Rig) (list []rig.LeadEnd) {
	for i := range r.Supplies {
		s := &r.Supplies[i]
		var seen []rig.Connector
		for j := range s.Outlets {
			o := &s.Outlets[j]
			if !o.Connector.Known || slices.Contains(seen, o.Connector.Value) || r.Draws(s.Name, o.Name) {
				continue
			}
			seen = append(seen, o.Connector.Value)
			list = append(list, rig.LeadEnd{Part: s.Name, At: o.Name, Connector: o.Connector})
		}
	}
	return list
}

// load is a place that wants a lead.
type load struct {
	part string
	port port
}

// leadCandidates: a first lead for a load that has none, plain or an adapter
// from the bins, from any free outlet.
func leadCandidates(g *given, try func(candidate) bool) {
	r := g.rig
	outlets := freeOutlets(r)
	for _, to := range unfed(r) {
		for _, from := range outlets {
			if _, enters := g.ref.Enters(from.Connector.Value, to.port.connector); enters && !try(withLead(r, plainLead(to), from, to, from.Connector.Value)) {
				return
			}
			for i := range g.bins.Leads {
				if plug, ok := adapts(
					&g.bins.Leads[i], g.ref, from.Connector.Value, to.port.connector,
				); ok && !try(withLead(r, g.bins.Leads[i], from, to, plug)) {
					return
				}
			}
		}
	}
}

// adapts reports a lead with one end each side that joins the two connectors,
// and the plug it brings to the load.
func adapts(l *rig.Lead, ref *reference.Tables, outlet, inlet rig.Connector) (rig.Connector, bool) {
	if len(l.From) != 1 || len(l.To) != 1 || !rig.Is(l.From[0].Connector, outlet) || !l.To[0].Connector.Known || rig.Is(l.To[0].Connector, outlet) {
		return "", false
	}
	_, enters := ref.Enters(l.To[0].Connector.Value, inlet)
	return l.To[0].Connector.Value, enters
}

func withLead(r *rig.Rig, lead rig.Lead, from rig.LeadEnd, to load, plug rig.Connector) candidate {
	c := copyOf(r)
	lead.Name = FreeName(r, lead.Name)
	c.Leads = append(rig.CloneLeads(c.Leads), lead)
	return plugged(c, len(c.Leads)-1, from, to, plug)
}

// plugged joins an outlet and a load by lead i of c.
func plugged(c *rig.Rig, i int, from rig.LeadEnd, to load, plug rig.Connector) candidate {
	c.Leads[i].From = []rig.LeadEnd{from}
	c.Leads[i].To = []rig.LeadEnd{{Part: to.part, At: to.port.name, Connector: rig.Of(plug)}}
	return candidate{
		kind: finding.Outlet, rig: c, lead: i,
		says: fmt.Sprintf(
			"Feed %s from outlet %s of %s, a %s", portWords(to.part, to.port.name), from.At, from.Part,
			rig.Spoken(from.Connector.Value),
		),
	}
}

// unfed lists the plugs of the card without a lead, and the inlets of the last
// stage that has any when none of them has one. A card built into a box is fed in there,
// and by the supply that the box has of its own.
func unfed(r *rig.Rig) []load {
	var list []load
	inBox := rig.Is(r.Card.BuiltIn, true)
	for i := range r.Card.Plugs {
		if p := &r.Card.Plugs[i]; !inBox && p.Connector.Known && !inletUsed(r, rig.CardPart, p.Name) {
			list = append(list, load{rig.CardPart, port{p.Name, p.Connector.Value}})
		}
	}
	s := lastFed(r)
	if s == nil || inBox && s.Supply != "" {
		return list
	}
	for i := range s.Inlets {
		if inletUsed(r, s.Name, s.Inlets[i].Name) {
			return list
		}
	}
	for i := range s.Inlets {
		if in := &s.Inlets[i]; in.Connector.Known {
			list = append(list, load{s.Name, port{in.Name, in.Connector.Value}})
		}
	}
	return list
}

// lastFed is the last stage that takes power, or brings its own; nil for none.
func lastFed(r *rig.Rig) *rig.Stage {
	for i := len(r.Route.Stages) - 1; i >= 0; i-- {
		if s := &r.Route.Stages[i]; len(s.Inlets) > 0 || s.Supply != "" {
			return s
		}
	}
	return nil
}

func turnOnCandidates(g *given, try func(candidate) bool) {
	r := g.rig
	for i := range r.Supplies {
		if how, known := r.Supplies[i].TurnOn.Get(); !known || how == rig.TurnOnSwitch {
			continue
		}
		c := copyOf(r)
		c.Supplies = slices.Clone(c.Supplies)
		withBoard(c, g.ref, i)
		if !try(candidate{
			kind: finding.TurnOn, rig: c, says: "Add a switch-on board to " + r.Supplies[i].Name + " that follows the host",
		}) {
			return
		}
	}
}

// orderCandidates: the dock is switched on first, by a switch of its own where
// one followed the host.
func orderCandidates(g *given, try func(candidate) bool) {
	c := copyOf(g.rig)
	c.Sizing.Order = rig.Of(rig.DockFirst)
	if rig.Is(g.rig.Sizing.Order, rig.HostFirst) && !try(candidate{kind: finding.Order, rig: c, says: "Switch the dock on first"}) {
		return
	}
	for i := range c.Supplies {
		if !rig.Is(c.Supplies[i].TurnOn, rig.TurnOnSwitch) {
			continue
		}
		j := copyOf(c)
		j.Supplies = slices.Clone(c.Supplies)
		j.Supplies[i].TurnOn = rig.Of(rig.TurnOnJumper)
		if !try(candidate{
			kind: finding.Order, rig: j, says: "Give " + c.Supplies[i].Name + " a made jumper plug and switch the dock on first",
		}) {
			return
		}
	}
}

// supplyCandidates: a supply in use is exchanged for one from the bins, each
// lead moved to an outlet of the same connector.
func supplyCandidates(g *given, try func(candidate) bool) {
	r := g.rig
	for i := range r.Supplies {
		for j := range g.bins.Supplies {
			if c, ok := withSupply(r, g.ref, i, g.bins.Supplies[j]); ok &&
				!try(candidate{
					kind: finding.Supply, supply: i, rig: c, says: "Use supply " + g.bins.Supplies[j].Name + " for " + r.Supplies[i].Name,
				}) {
				return
			}
		}
	}
}

// addedSupplyCandidates: one more supply from the bins, the smallest first, turned
// on by a board that follows the host, with leads to all that has none.
func addedSupplyCandidates(g *given, try func(candidate) bool) {
	r := g.rig
	loads := unfed(r)
	if len(loads) == 0 {
		return
	}
	slices.SortStableFunc(loads, func(a, b load) int {
		return cmp.Compare(g.ref.Connector(b.port.connector).Rating, g.ref.Connector(a.port.connector).Rating)
	})
	supplies := slices.Clone(g.bins.Supplies)
	slices.SortStableFunc(supplies, func(a, b rig.Supply) int { return cmp.Compare(a.Rating.Value, b.Rating.Value) })
	for _, s := range supplies {
		if !power.WaitsToBeSwitched(&s) || s.Kind.Value == rig.Proprietary {
			continue
		}
		s.Name = FreeName(r, s.Name)
		c := copyOf(r)
		c.Supplies = append(slices.Clone(r.Supplies), s)
		withBoard(c, g.ref, len(c.Supplies)-1)
		if !try(candidate{
			kind: finding.Supply, supply: len(r.Supplies), rig: feed(c, g.ref, s.Name, loads),
			says: "Add supply " + s.Name + " with a switch-on board",
		}) {
			return
		}
	}
}

// feed gives plain leads from free outlets of the supply, of any for an empty
// name, to the loads: one to each plug of the card, and one to a dock.
func feed(r *rig.Rig, ref *reference.Tables, supply string, loads []load) *rig.Rig {
	fed := map[string]bool{}
	for _, to := range loads {
		from, free := freeOutlet(r, ref, supply, to.port.connector)
		if fed[to.part] || !free {
			continue
		}
		fed[to.part] = to.part != rig.CardPart
		r = withLead(r, plainLead(to), from, to, from.Connector.Value).rig
	}
	return r
}

// freeOutlet is the first free outlet of a supply or a stage, of any supply for an
// empty name, with that connector; else the first whose plug enters it and is wired
// alike, as a 6+2 enters a 6-pin.
func freeOutlet(r *rig.Rig, ref *reference.Tables, part string, c rig.Connector) (found rig.LeadEnd, free bool) {
	if s := r.Stage(part); s != nil {
		return freeOf(r, ref, s.Name, s.Outlets, c)
	}
	for i := range r.Supplies {
		s := &r.Supplies[i]
		if part != "" && part != s.Name {
			continue
		}
		if end, goes := freeOf(r, ref, s.Name, s.Outlets, c); goes && (!free || end.Connector.Value == c) {
			found, free = end, true
		}
		if free && found.Connector.Value == c {
			break
		}
	}
	return found, free
}

func freeOf(r *rig.Rig, ref *reference.Tables, part string, outlets []rig.Outlet, c rig.Connector) (found rig.LeadEnd, free bool) {
	for i := range outlets {
		o := &outlets[i]
		mating, enters := ref.Enters(o.Connector.Value, c)
		if !o.Connector.Known || !enters || mating.Lookalike || r.Draws(part, o.Name) {
			continue
		}
		if exact := o.Connector.Value == c; exact || !free {
			found, free = rig.LeadEnd{Part: part, At: o.Name, Connector: o.Connector}, true
			if exact {
				break
			}
		}
	}
	return found, free
}

// feedPlugs gives plugs of the card that have no lead a plain one.
func feedPlugs(r *rig.Rig, ref *reference.Tables) *rig.Rig {
	plugs := slices.DeleteFunc(unfed(r), func(to load) bool { return to.part != rig.CardPart })
	return feed(r, ref, "", plugs)
}

// withSupply exchanges a supply for a larger one of its form, or one that does not enter
// the host's bay for one of a form that does.
func withSupply(r *rig.Rig, ref *reference.Tables, i int, s rig.Supply) (*rig.Rig, bool) {
	old := &r.Supplies[i]
	larger := s.Kind.Value == old.Kind.Value && s.Rating.Value > old.Rating.Value
	if !larger && !entersInstead(r, old, &s) {
		return nil, false
	}
	return exchanged(r, ref, i, s)
}

// entersInstead reports a supply that goes into the host's bay where the other is to stand
// and does not.
func entersInstead(r *rig.Rig, old, s *rig.Supply) bool {
	bay, told := r.Host.Bay.Get()
	was, known := old.Kind.Get()
	return told && known && rig.Is(old.InBay, true) && !fit.EntersBay(was, bay) && s.Kind.Known && fit.EntersBay(s.Kind.Value, bay)
}

// exchanged puts another supply in the place of one, each lead moved to an outlet
// of the same connector; false where one finds none, or where a voltage would be
// missing.
func exchanged(r *rig.Rig, ref *reference.Tables, i int, s rig.Supply) (*rig.Rig, bool) {
	old := &r.Supplies[i]
	if s.Name == old.Name || !sameVoltages(old, &s) || r.Host.Supply == old.Name && !takesItsPlace(old, &s) {
		return nil, false
	}
	c := copyOf(r)
	c.Supplies = slices.Clone(c.Supplies)
	c.Leads = rig.CloneLeads(c.Leads)
	s.Name = FreeName(r, s.Name)
	s.TurnOn, s.InBay = old.TurnOn, old.InBay
	c.Supplies[i] = s
	if c.Host.Supply == old.Name {
		c.Host.Supply = s.Name
	}
	c.Route.Stages = slices.Clone(c.Route.Stages)
	for k := range c.Route.Stages {
		if c.Route.Stages[k].Supply == old.Name {
			c.Route.Stages[k].Supply = s.Name
		}
	}
	used := map[string]bool{}
	for l := range c.Leads {
		for j := range c.Leads[l].From {
			end := &c.Leads[l].From[j]
			if end.Part != old.Name {
				continue
			}
			outlet := like(outletPorts(old), outletPorts(&s), end.At, used)
			if outlet == "" {
				return nil, false
			}
			used[outlet] = true
			end.Part, end.At = s.Name, outlet
		}
	}
	return feedPlugs(c, ref), true
}

// takesItsPlace reports a supply that feeds a host's board as the old one did and goes
// into its bay: one of its form, or a smaller one of the ATX family. A proprietary one
// has plugs of its own.
func takesItsPlace(old, s *rig.Supply) bool {
	was, known := old.Kind.Get()
	now, told := s.Kind.Get()
	return known && told && was != rig.Proprietary && fit.EntersBay(now, was)
}

// sameVoltages reports that every voltage of the old supply is there again: a
// host made for 19 V is never offered 12.
func sameVoltages(old, s *rig.Supply) bool {
	for i := range old.Rails {
		like := func(rail rig.Rail) bool {
			return rail.Voltage.Known && rig.Is(old.Rails[i].Voltage, rail.Voltage.Value)
		}
		if !slices.ContainsFunc(s.Rails, like) {
			return false
		}
	}
	return true
}

// plainLead is a lead of the supply's own, which comes with it.
func plainLead(to load) rig.Lead {
	return rig.Lead{Name: "lead to " + portWords(to.part, to.port.name), Price: rig.Price{Owned: rig.Of(true)}}
}

// like finds an unused port of the new part with the connector that the port at
// had on the old one; empty when there is none.
func like(old, next []port, at string, used map[string]bool) string {
	i := slices.IndexFunc(old, func(p port) bool { return p.name == at })
	if i < 0 {
		return ""
	}
	for _, p := range next {
		if !used[p.name] && p.connector != "" && p.connector == old[i].connector {
			return p.name
		}
	}
	return ""
}

func outletPorts(s *rig.Supply) []port {
	ports := make([]port, len(s.Outlets))
	for i, o := range s.Outlets {
		ports[i] = port{o.Name, o.Connector.Value}
	}
	return ports
}

func plugPorts(card *rig.Card) []port {
	ports := make([]port, len(card.Plugs))
	for i, p := range card.Plugs {
		ports[i] = port{p.Name, p.Connector.Value}
	}
	return ports
}

// capCandidates: the card's power capped by software, the highest cap first.
func capCandidates(g *given, try func(candidate) bool) {
	power, known := g.rig.Card.Power.Get()
	if !known || rig.Is(g.rig.Card.BuiltIn, true) {
		return
	}
	power = max(power, leastCard)
	for _, at := range g.ref.Caps {
		watts := units.Watt(math.Round(float64(power) * at.Share))
		if now, told := g.rig.Card.Cap.Get(); told && watts >= now {
			continue
		}
		c := copyOf(g.rig)
		c.Card.Cap = rig.Of(watts)
		says := fmt.Sprintf(
			"Cap the card's power at %v by software: most often %.0f to %.0f %% of its speed", watts, 100*at.Low, 100*at.High,
		)
		if !try(candidate{kind: finding.CardCap, rig: c, says: says}) {
			return
		}
	}
}

// cardCandidates: another card from the bins, with the leads its plugs want as
// far as free outlets have them.
func cardCandidates(g *given, try func(candidate) bool) {
	r := g.rig
	room := new(rig.Rig) // of one card after another: a change that is offered keeps its patch alone
	for _, i := range nearestFirst(g.bins.Cards, &r.Card) {
		if g.bins.Cards[i].Name == r.Card.Name {
			continue
		}
		c, says := feedPlugs(withCard(room, r, g.bins.Cards[i]), g.ref), "Use card "+g.bins.Cards[i].Name
		if len(c.Leads) > len(r.Leads) {
			says += ", with another lead"
		}
		says += givesUp(&r.Card, &c.Card)
		if !try(candidate{kind: finding.AnotherCard, rig: c, says: says}) {
			return
		}
	}
}

// givesUp says what another card lacks that the present one has.
func givesUp(now, next *rig.Card) string {
	var lost []string
	if less := now.Memory.Value - next.Memory.Value; now.Memory.Known && next.Memory.Known && less > 0 {
		lost = append(lost, less.String()+" of memory")
	}
	if less := now.Lanes.Value - next.Lanes.Value; now.Lanes.Known && next.Lanes.Known && less > 0 {
		lost = append(lost, fmt.Sprintf("%d lanes", less))
	}
	for _, e := range now.Encoders.Value {
		if next.Encoders.Known && !slices.Contains(next.Encoders.Value, e) {
			lost = append(lost, "the encoder "+e)
		}
	}
	if lost == nil {
		return ""
	}
	return ", giving up " + strings.Join(lost, ", ")
}

// nearestFirst orders cards by how far their board power is from the present
// card's, so that the first that clears a finding changes least of the plan; as
// they are listed where the present one's is not known.
func nearestFirst(cards []rig.Card, now *rig.Card) []int {
	order := make([]int, len(cards))
	for i := range order {
		order[i] = i
	}
	wanted := float64(now.Power.Or(units.Watt(math.Inf(1))))
	off := func(i int) float64 { return math.Abs(float64(cards[i].Power.Value) - wanted) }
	slices.SortStableFunc(order, func(a, b int) int { return cmp.Compare(off(a), off(b)) })
	return order
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
