package power

import (
	"strconv"

	"kolvan/core/reference"
	"kolvan/core/rig"
	"kolvan/core/units"
)

// contact is one side of a mated end: a socket with what it states of itself.
type contact struct {
	connector rig.Fact[rig.Connector]
	current   rig.Fact[units.Amp]
	sense     rig.Fact[units.Watt]
	where     string // JSON Pointer of the part's own entry; empty for the host
}

// mateEnds fills in how both sides of every end of lead i go together.
func (n *Network) mateEnds(i int) {
	lead, load := &n.rig.Leads[i], &n.Leads[i]
	ends := make([]EndLoad, len(lead.From)+len(lead.To))
	load.From, load.To = ends[:len(lead.From)], ends[len(lead.From):]
	at := "/leads/" + strconv.Itoa(i)
	for j := range lead.From {
		outlet := n.outlet(&lead.From[j])
		if !outlet.sense.Known && straight(lead) {
			outlet.sense = n.inlet(&lead.To[0]).sense
		}
		load.From[j] = n.mate(outlet, &lead.From[j], at+"/from/"+strconv.Itoa(j))
	}
	for j := range lead.To {
		load.To[j] = n.mate(n.inlet(&lead.To[j]), &lead.To[j], at+"/to/"+strconv.Itoa(j))
	}
	if len(lead.From) > 0 {
		load.Volts = n.volts(&lead.From[0], 0)
	}
}

// straight reports a lead with one end each side: it brings the sense pins of
// one end to the other, so that either tells what they announce.
func straight(lead *rig.Lead) bool { return len(lead.From) == 1 && len(lead.To) == 1 }

// announced is what the sense pins of a card-16 of the card announce: what the
// plug states, else the outlet at the other end of its straight lead.
func (n *Network) announced(plug *rig.CardPlug) rig.Fact[units.Watt] {
	if plug.SenseW.Known {
		return plug.SenseW
	}
	for i := range n.rig.Leads {
		lead := &n.rig.Leads[i]
		if straight(lead) && lead.To[0].Part == rig.CardPart && lead.To[0].At == plug.Name {
			return n.outlet(&lead.From[0]).sense
		}
	}
	return plug.SenseW
}

// mate joins an end of a lead to what it is plugged into. Power connectors have
// the socket at the supply's outlet or the load; the lead has the plug.
func (n *Network) mate(into contact, end *rig.LeadEnd, where string) EndLoad {
	e := EndLoad{Where: where}
	plug := end.Connector
	if !plug.Known {
		plug = into.connector
	}
	if !into.connector.Known {
		into.connector = plug
	}
	e.Plug, e.Socket = plug.Value, into.connector.Value
	if !plug.Known {
		e.Fit, e.Needs = Unknown, where+"/connector"
		return e
	}
	switch m, enters := n.ref.Enters(e.Plug, e.Socket); {
	case !enters:
		e.Fit = NoEntry
	case m.Lookalike:
		e.Fit = Clashes
	default:
		n.capacity(&e, into)
	}
	return e
}

func (n *Network) capacity(e *EndLoad, into contact) {
	if current, stated := into.current.Get(); stated {
		e.Cap = reference.Capacity{Plan: current, Rating: current, Contacts: 1, By: e.Socket}
		return
	}
	cap, ok := n.ref.Mate(e.Plug, e.Socket)
	if !ok {
		e.Fit, e.Needs = Unstated, into.where+"/current_a"
		return
	}
	e.Cap = cap
	if row := n.ref.Connector(e.Socket); row.Sensed {
		if !into.sense.Known {
			e.Fit, e.Needs = Unstated, into.where+"/sense_w"
			return
		}
		held := into.sense.Value.Over(12)
		e.Cap.Plan, e.Cap.Rating = min(cap.Plan, held), min(cap.Rating, held)
	}
}

func (n *Network) outlet(end *rig.LeadEnd) contact {
	if s := n.rig.Supply(end.Part); s != nil {
		return outletContact(s.Outlets, end.At, "/supplies/"+strconv.Itoa(rig.IndexOf(n.rig.Supplies, s)))
	}
	if s := n.rig.Stage(end.Part); s != nil {
		return outletContact(s.Outlets, end.At, "/route/stages/"+strconv.Itoa(rig.IndexOf(n.rig.Route.Stages, s)))
	}
	if up := n.rig.Lead(end.Part); up != nil {
		for j := range up.To {
			if up.To[j].Part == "" && up.To[j].At == end.At {
				return contact{connector: up.To[j].Connector}
			}
		}
	}
	return contact{}
}

func outletContact(outlets []rig.Outlet, name, where string) contact {
	for i := range outlets {
		if o := &outlets[i]; o.Name == name {
			return contact{o.Connector, o.Current, o.SenseW, where + "/outlets/" + strconv.Itoa(i)}
		}
	}
	return contact{where: where}
}

func (n *Network) inlet(end *rig.LeadEnd) contact {
	if end.Part == rig.CardPart {
		for i := range n.rig.Card.Plugs {
			if p := &n.rig.Card.Plugs[i]; p.Name == end.At {
				return contact{connector: p.Connector, sense: n.announced(p), where: "/card/plugs/" + strconv.Itoa(i)}
			}
		}
	}
	if s := n.rig.Stage(end.Part); s != nil {
		for i := range s.Inlets {
			if in := &s.Inlets[i]; in.Name == end.At {
				at := "/route/stages/" + strconv.Itoa(rig.IndexOf(n.rig.Route.Stages, s))
				return contact{connector: in.Connector, current: in.Current, where: at + "/inlets/" + strconv.Itoa(i)}
			}
		}
	}
	return contact{}
}

// volts follows an end to its supply and returns the tension there; 12 V for a
// board-type supply that does not list its rails and for a dock's outlet with a
// contact for it, 0 where it is not known.
func (n *Network) volts(end *rig.LeadEnd, depth int) units.Volt {
	s := n.rig.Supply(end.Part)
	if s == nil {
		if n.rig.Stage(end.Part) != nil && n.at12(n.outlet(end).connector.Value) {
			return 12
		}
		return n.voltsBehind(end.Part, depth)
	}
	if rail := railOf(s, end.At); rail >= 0 && s.Rails[rail].Voltage.Known {
		return s.Rails[rail].Voltage.Value
	}
	if BoardType(s) {
		return 12
	}
	return 0
}

// at12 reports a connector whose map has 12 V on it, whatever part it is on.
func (n *Network) at12(c rig.Connector) bool {
	row := n.ref.Connector(c)
	return row != nil && !row.Stated && row.Live() > 0
}

func (n *Network) voltsBehind(part string, depth int) units.Volt {
	if depth > len(n.rig.Leads) {
		return 0
	}
	if up := n.rig.Lead(part); up != nil && len(up.From) > 0 {
		return n.volts(&up.From[0], depth+1)
	}
	for i := range n.rig.Leads {
		for _, to := range n.rig.Leads[i].To {
			if to.Part == part && part != "" && len(n.rig.Leads[i].From) > 0 {
				return n.volts(&n.rig.Leads[i].From[0], depth+1)
			}
		}
	}
	return 0
}

// carry works out what the source ends of lead i carry together, followed to
// the source: ends that come from one outlet carry no more than that outlet.
func (n *Network) carry(i int) {
	load := &n.Leads[i]
	roots := make([]root, 0, len(load.From))
	load.Certain = len(load.From) > 0
	for j := range load.From {
		end := &load.From[j]
		if end.Fit != Mates {
			load.Certain = load.Certain && end.Fit == NoEntry
			continue
		}
		r := n.rootOf(&n.rig.Leads[i].From[j], end.Cap.Rating, 0)
		load.Certain = load.Certain && r.certain
		roots = addRoot(roots, r, end.Cap.Rating)
	}
	for _, r := range roots {
		load.Carries += r.carries
	}
}

// root is the outlet an end comes from, and what reaches the end from there.
type root struct {
	part, at string
	carries  units.Amp
	outlet   units.Amp
	certain  bool
}

// addRoot adds what an end carries; ends behind one outlet share it.
func addRoot(roots []root, r root, rating units.Amp) []root {
	r.carries = min(r.carries, rating)
	for i := range roots {
		if roots[i].part == r.part && roots[i].at == r.at {
			roots[i].carries = min(roots[i].outlet, roots[i].carries+r.carries)
			return roots
		}
	}
	return append(roots, r)
}

// rootOf follows an end through the leads above it. The least rating on the way
// is what it carries.
func (n *Network) rootOf(end *rig.LeadEnd, rating units.Amp, depth int) root {
	up := n.rig.Lead(end.Part)
	if up == nil || depth > len(n.rig.Leads) || len(up.From) == 0 {
		return root{end.Part, end.At, rating, rating, true}
	}
	i := rig.IndexOf(n.rig.Leads, up)
	if len(up.From) > 1 {
		return root{up.Name, "", min(rating, n.sumOf(i)), n.sumOf(i), n.allMate(i)}
	}
	above := n.Leads[i].From[0]
	if above.Fit != Mates {
		return root{up.From[0].Part, up.From[0].At, rating, rating, false}
	}
	r := n.rootOf(&up.From[0], above.Cap.Rating, depth+1)
	r.carries = min(r.carries, rating)
	return r
}

func (n *Network) sumOf(i int) (sum units.Amp) {
	for _, end := range n.Leads[i].From {
		sum += end.Cap.Rating
	}
	return sum
}

func (n *Network) allMate(i int) bool {
	for _, end := range n.Leads[i].From {
		if end.Fit != Mates {
			return false
		}
	}
	return true
}

// Pins is the pin map of a connector, pin 1 first; nil where it is the part's
// own.
func (n *Network) Pins(c rig.Connector) []string {
	if row := n.ref.Connector(c); row != nil {
		return row.Pins
	}
	return nil
}
