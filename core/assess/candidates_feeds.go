package assess

import (
	"fmt"
	"kolvan/core/finding"
	"kolvan/core/reference"
	"kolvan/core/rig"
	"slices"
)

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
			if _, enters := g.ref.Enters(from.Connector.Value, to.port.connector); enters &&
				!try(withLead(r, plainLead(to), from, to, from.Connector.Value)) {
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
	if len(l.From) != 1 || len(l.To) != 1 || !rig.Is(l.From[0].Connector, outlet) || !l.To[0].Connector.Known ||
		rig.Is(l.To[0].Connector, outlet) {
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
