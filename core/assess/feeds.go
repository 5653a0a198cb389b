package assess

import (
	"slices"

	"kolvan/core/power"
	"kolvan/core/reference"
	"kolvan/core/rig"
)

// Feeds makes every way to feed the card and the last stage that takes power of a rig whose leads
// feed neither: from a supply the rig has, from one of the parts in the place of the
// one that feeds where it is larger, or goes into the bay that the other has to leave, or
// from one more; into one inlet of the stage or all of them, the
// card's plugs from the supply or from the stage's own outlets; by leads of the
// part's own, or by adapters of the parts. Where nothing wants a lead it makes the rig
// as it is. yield answers false where it has enough.
func Feeds(r *rig.Rig, ref *reference.Tables, parts *Bins, yield func(*rig.Rig) bool) {
	if len(unfed(r)) == 0 {
		yield(r)
		return
	}
	f := feeder{ref, parts, yield}
	if s := lastFed(r); s != nil && s.Supply != "" && !f.from(r, "") {
		return
	}
	for i := range r.Supplies {
		if !f.switched(r, i) {
			return
		}
		for j := range parts.Supplies {
			s := &parts.Supplies[j]
			if s.Rating.Value <= r.Supplies[i].Rating.Value && !entersInstead(r, &r.Supplies[i], s) {
				continue
			}
			if c, goes := exchanged(r, ref, i, *s); goes && !f.switched(c, i) {
				return
			}
		}
	}
	for _, s := range parts.Supplies {
		c := copyOf(r)
		s.Name = FreeName(r, s.Name)
		c.Supplies = append(slices.Clone(r.Supplies), s)
		if !f.switched(c, len(c.Supplies)-1) || !f.forAll(c, len(c.Supplies)-1) {
			return
		}
	}
	for i := range r.Supplies {
		if r.Supplies[i].Name != r.Host.Supply && !f.forAll(r, i) {
			return
		}
	}
}

// forAll feeds host and stage from one brick by a lead of two ends, in place of the host's own
// supply; the card's plugs hang on the stage.
func (f *feeder) forAll(r *rig.Rig, i int) bool {
	s, dock := &r.Supplies[i], lastFed(r)
	if !rig.Is(s.Kind, rig.Brick) || len(s.Outlets) != 1 || len(s.Rails) != 1 || dock == nil {
		return true
	}
	r = withoutHostLeads(r)
	if r.Draws(s.Name, "") {
		return true
	}
	outlet := &s.Outlets[0]
	for h := range r.Host.Inlets {
		inlet := &r.Host.Inlets[h]
		if !f.takes(outlet, &s.Rails[0], inlet) {
			continue
		}
		for d := range dock.Inlets {
			if !f.takes(outlet, &s.Rails[0], &dock.Inlets[d]) {
				continue
			}
			c := copyOf(r)
			c.Host.Supply = ""
			c.Leads = append(rig.CloneLeads(r.Leads), f.twoEnds(c, s.Name, outlet, dock.Name, dock.Inlets[d].Name, inlet.Name))
			plugs := slices.DeleteFunc(unfed(c), func(to load) bool { return to.part != rig.CardPart })
			if whole, fed := f.join(c, dock.Name, plugs); fed && !f.yield(whole) {
				return false
			}
		}
	}
	return true
}

// withoutHostLeads takes out the leads that feed the host alone: one brick for all takes their
// place.
func withoutHostLeads(r *rig.Rig) *rig.Rig {
	c := copyOf(r)
	c.Leads = slices.DeleteFunc(rig.CloneLeads(r.Leads), func(l rig.Lead) bool {
		return len(l.To) > 0 && !slices.ContainsFunc(l.To, func(e rig.LeadEnd) bool { return e.Part != rig.HostPart })
	})
	return c
}

// takes reports an inlet that a brick's plug enters, made for what the brick brings: 12 V on a
// stage unless it tells another voltage.
func (f *feeder) takes(outlet *rig.Outlet, rail *rig.Rail, inlet *rig.Inlet) bool {
	if !outlet.Connector.Known || !inlet.Connector.Known || !rail.Voltage.Known {
		return false
	}
	mating, enters := f.ref.Enters(outlet.Connector.Value, inlet.Connector.Value)
	return enters && !mating.Lookalike && inlet.Voltage.Or(12) == rail.Voltage.Value
}

// twoEnds is a lead from a brick to a stage and to the host: one of the parts, else one to get.
func (f *feeder) twoEnds(r *rig.Rig, brick string, outlet *rig.Outlet, stage, at, host string) rig.Lead {
	lead := rig.Lead{Name: "Y lead"}
	for i := range f.parts.Leads {
		l := &f.parts.Leads[i]
		if len(l.From) == 1 && len(l.To) == 2 && l.From[0].Connector == outlet.Connector && l.To[0].Connector == outlet.Connector &&
			l.To[1].Connector == outlet.Connector {
			lead = *l
			break
		}
	}
	lead.Name = FreeName(r, lead.Name)
	lead.From = []rig.LeadEnd{{Part: brick, At: outlet.Name, Connector: outlet.Connector}}
	lead.To = []rig.LeadEnd{{Part: stage, At: at, Connector: outlet.Connector}, {Part: rig.HostPart, At: host, Connector: outlet.Connector}}
	return lead
}

// A feeder joins loads to one supply after another.
type feeder struct {
	ref   *reference.Tables
	parts *Bins
	yield func(*rig.Rig) bool
}

// switched feeds all loads from a supply, switched on as it is, by the dock where that
// does it, and by a board that follows the host: which of them reaches its turn-on
// contact hangs on the leads.
func (f *feeder) switched(r *rig.Rig, i int) bool {
	s := &r.Supplies[i]
	if !power.WaitsToBeSwitched(s) || r.Host.Supply == s.Name || ownedByStage(r, s.Name) {
		return f.from(r, s.Name)
	}
	ways := make([]rig.TurnOn, 0, 3)
	if dock := lastFed(r); dock != nil && rig.Is(dock.TurnsOn, true) {
		ways = append(ways, rig.TurnOnDock)
	}
	ways = append(ways, rig.TurnOnSwitch)
	if s.TurnOn.Known && !slices.Contains(ways, s.TurnOn.Value) && s.TurnOn.Value != noTurnOn {
		ways = append([]rig.TurnOn{s.TurnOn.Value}, ways...)
	}
	for _, how := range ways {
		c := copyOf(r)
		c.Supplies = slices.Clone(r.Supplies)
		if how == rig.TurnOnSwitch {
			withBoard(c, f.ref, i)
		}
		c.Supplies[i].TurnOn = rig.Of(how)
		if !f.from(c, s.Name) {
			return false
		}
	}
	return true
}

// noTurnOn is a supply that nothing switches on yet.
const noTurnOn rig.TurnOn = "none"

func ownedByStage(r *rig.Rig, supply string) bool {
	return slices.ContainsFunc(r.Route.Stages, func(s rig.Stage) bool { return s.Supply == supply })
}

// from feeds all loads from one supply, in each way there is; no name for the supply
// stands for that of the last stage.
func (f *feeder) from(r *rig.Rig, supply string) bool {
	plugs, inlets := []load(nil), []load(nil)
	for _, to := range unfed(r) {
		if to.part == rig.CardPart {
			plugs = append(plugs, to)
		} else {
			inlets = append(inlets, to)
		}
	}
	sets := [][]load{nil}
	if len(inlets) > 0 {
		sets = sets[:0]
		for i := range inlets {
			sets = append(sets, inlets[i:i+1])
		}
		if len(inlets) > 1 {
			sets = append(sets, inlets)
		}
	}
	for _, set := range sets {
		c, fed := f.join(r, supply, set)
		if !fed {
			continue
		}
		for _, source := range plugSources(r, supply, len(inlets) > 0, len(plugs)) {
			if whole, fed := f.join(c, source, plugs); fed && !f.yield(whole) {
				return false
			}
		}
	}
	return true
}

// plugSources are what the card's plugs can be fed from: the supply, and the last
// stage where it has outlets and is fed.
func plugSources(r *rig.Rig, supply string, stageFed bool, plugs int) (sources []string) {
	if supply != "" {
		sources = append(sources, supply)
	}
	if s := lastFed(r); s != nil && plugs > 0 && (stageFed || supply == "") && len(s.Outlets) > 0 {
		sources = append(sources, s.Name)
	}
	return sources
}

func (f *feeder) join(r *rig.Rig, part string, loads []load) (*rig.Rig, bool) {
	for _, to := range loads {
		next, joined := f.joinOne(r, part, to)
		if !joined {
			return nil, false
		}
		r = next
	}
	return r, true
}

// joinOne gives a load a lead of the part's own, else the first adapter of the parts
// whose source ends find free outlets.
func (f *feeder) joinOne(r *rig.Rig, part string, to load) (*rig.Rig, bool) {
	if from, free := freeOutlet(r, f.ref, part, to.port.connector); free {
		return withLead(r, plainLead(to), from, to, from.Connector.Value).rig, true
	}
	for i := range f.parts.Leads {
		if c, joined := withAdapter(r, f.ref, &f.parts.Leads[i], part, to); joined {
			return c, true
		}
	}
	return nil, false
}

// withAdapter joins a load by an adapter with one load end and as many source ends
// as there are free outlets for.
func withAdapter(r *rig.Rig, ref *reference.Tables, lead *rig.Lead, part string, to load) (*rig.Rig, bool) {
	if len(lead.To) != 1 || !lead.To[0].Connector.Known {
		return nil, false
	}
	mating, enters := ref.Enters(lead.To[0].Connector.Value, to.port.connector)
	if !enters || mating.Lookalike {
		return nil, false
	}
	c := copyOf(r)
	made := *lead
	made.Name = FreeName(r, lead.Name)
	made.To = []rig.LeadEnd{{Part: to.part, At: to.port.name, Connector: lead.To[0].Connector}}
	made.From = make([]rig.LeadEnd, 0, len(lead.From))
	c.Leads = append(rig.CloneLeads(r.Leads), made)
	for i := range lead.From {
		from, free := freeOutlet(c, ref, part, lead.From[i].Connector.Value)
		if !free {
			return nil, false
		}
		from.Connector = lead.From[i].Connector
		last := &c.Leads[len(c.Leads)-1]
		last.From = append(last.From, from)
	}
	return c, true
}

// WithoutFeeds takes out the leads that end at the card or at a stage, and the
// supplies that then feed nothing and are not there yet.
func WithoutFeeds(r *rig.Rig) *rig.Rig {
	c := copyOf(r)
	c.Leads = rig.CloneLeads(r.Leads)
	for i := range c.Leads {
		c.Leads[i].DropEnds(false, func(j int) bool {
			part := c.Leads[i].To[j].Part
			return part == rig.CardPart || r.Stage(part) != nil
		})
	}
	c.Leads = slices.DeleteFunc(c.Leads, func(l rig.Lead) bool { return len(l.To) == 0 || len(l.From) == 0 })
	c.Supplies = slices.DeleteFunc(slices.Clone(r.Supplies), func(s rig.Supply) bool {
		return s.Name != r.Host.Supply && !rig.Is(s.Owned, true) && !c.Draws(s.Name, "")
	})
	return c
}
