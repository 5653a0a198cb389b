package assess

import (
	"cmp"
	"kolvan/core/finding"
	"kolvan/core/fit"
	"kolvan/core/power"
	"kolvan/core/reference"
	"kolvan/core/rig"
	"slices"
)

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
