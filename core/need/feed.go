package need

import (
	"fmt"

	"kolvan/core/power"
	"kolvan/core/rig"
)

// feeds are the needs of loads that nothing feeds: no figure of a part ends that, but an
// outlet of the load's kind does, and a lead from it.
func (s *search) feeds() (needs []Need) {
	for _, t := range s.base.order {
		if t.Rule != power.RuleUnfed {
			continue
		}
		for i := range s.rig.Supplies {
			i = (i + max(0, s.feeding)) % len(s.rig.Supplies) // what feeds the card first
			if need, some := s.feed(t, i); some {
				needs = append(needs, need)
				break
			}
		}
	}
	return needs
}

// feed tries one more outlet of a supply, with its lead, for what is not fed.
func (s *search) feed(t Trouble, supply int) (Need, bool) {
	end, kind, known := loadAt(s.rig, t.Where)
	if !known {
		return Need{}, false
	}
	c := *s.rig
	c.Supplies = append([]rig.Supply{}, c.Supplies...)
	from := &c.Supplies[supply]
	outlet := rig.Outlet{Name: freeOutlet(from), Connector: rig.Of(kind)}
	at := fmt.Sprintf("%s/outlets/%d", rig.SupplyPath(supply), len(from.Outlets))
	from.Outlets = append(append([]rig.Outlet{}, from.Outlets...), outlet)
	lead := rig.Lead{
		Name: "lead to " + end.Part + " " + end.At, To: []rig.LeadEnd{end},
		From: []rig.LeadEnd{{Part: from.Name, At: outlet.Name, Connector: rig.Of(kind)}},
	}
	c.Leads = append(append([]rig.Lead{}, c.Leads...), lead)
	spoken := kind.Words().Spoken(string(kind))
	need := Need{Part: from.Name, Where: rig.SupplyPath(supply), For: []Trouble{t}, does: &c, Bounds: []Bound{
		{At: at, Fact: "outlet", OneOf: []any{outlet}, Because: t.Title, Says: "one more outlet, " + spoken},
		{
			At: rig.LeadPath(len(s.rig.Leads)), Fact: "lead", OneOf: []any{lead}, Because: t.Title,
			Says: "a lead from it to " + end.Part + " " + end.At + ", " + spoken + " at both ends",
		},
	}}
	return need, s.carries(&need, t)
}

// carries reports a supply that, with one more load, ends the trouble: as it is, or as what
// then comes in asks it to be, which joins the bounds.
func (s *search) carries(need *Need, t Trouble) bool {
	fed := s.of(need.does)
	o := s.outcomeOf(fed.base)
	if o.ends([]Trouble{t}) || len(missing([]Trouble{t}, o.gone)) > 0 {
		return o.ends([]Trouble{t})
	}
	for _, levers := range fed.byPart() {
		if levers[0].part != need.Where {
			continue
		}
		more, some := fed.needOf(levers)
		if some && len(missing(o.comes, more.For)) == 0 {
			need.Bounds, need.does = append(need.Bounds, more.Bounds...), more.does
			for _, t := range more.For {
				_, planned := s.base.troubles[place{t.Rule, t.Where}]
				t.Instead = !planned
				need.For = append(need.For, t)
			}
			return true
		}
	}
	return false
}

// loadAt is the end a lead needs that feeds what stands at a pointer, and its kind of plug; of
// a stage, its first inlet.
func loadAt(r *rig.Rig, where string) (rig.LeadEnd, rig.Connector, bool) {
	if i := rig.EntryAt(where, "/card/plugs"); i >= 0 && i < len(r.Card.Plugs) {
		p := &r.Card.Plugs[i]
		return rig.LeadEnd{Part: "card", At: p.Name, Connector: p.Connector}, p.Connector.Value, p.Connector.Known
	}
	if i := rig.EntryAt(where, "/route/stages"); i >= 0 && i < len(r.Route.Stages) && len(r.Route.Stages[i].Inlets) > 0 {
		in := &r.Route.Stages[i].Inlets[0]
		return rig.LeadEnd{Part: r.Route.Stages[i].Name, At: in.Name, Connector: in.Connector}, in.Connector.Value, in.Connector.Known
	}
	return rig.LeadEnd{}, "", false
}

func freeOutlet(s *rig.Supply) string {
	for n := len(s.Outlets) + 1; ; n++ {
		name, used := fmt.Sprintf("outlet %d", n), false
		for i := range s.Outlets {
			used = used || s.Outlets[i].Name == name
		}
		if !used {
			return name
		}
	}
}
