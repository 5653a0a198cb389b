package power

import (
	"kolvan/core/reference"
	"kolvan/core/rig"
	"kolvan/core/units"
)

func (n *Network) mateEnds(i int) {
	lead, load := &n.rig.Leads[i], &n.Leads[i]
	for j := range lead.To {
		p := n.load(&lead.To[j])
		load.To[j] = EndLoad{port: p, lead: i, at: j, into: n.inletSocket(p)}
	}
	for j := range lead.From {
		p := n.source(&lead.From[j])
		into := n.outletSocket(p)
		if !into.sense.Known && straight(lead) {
			into.sense = load.To[0].into.sense
		}
		if rail := n.contractRail(i, p, &into); rail >= 0 && !into.current.Known {
			into.current = maybeOf(&n.rig.Supplies[p.part].Rails[rail].Current)
		}
		load.From[j] = EndLoad{port: p, lead: i, at: j, source: true, into: into}
		n.mate(&load.From[j], into, maybeOf(&lead.From[j].Connector), maybeOf(&lead.From[j].Current))
	}
	for j := range lead.To {
		into := &load.To[j].into
		if p := load.To[j].port; p.kind == theCard && p.at >= 0 {
			into.sense = n.sense(i, p.at)
		}
		plug, states := maybeOf(&lead.To[j].Connector), maybeOf(&lead.To[j].Current)
		if straight(lead) && load.From[0].port.kind == aSupply {
			// A supply's own lead: what the outlet is, its plug is, where nobody
			// says otherwise.
			outlet := &load.From[0].into
			if like := !plug.Known || outlet.connector.Known && plug.Value == outlet.connector.Value; like && !states.Known {
				states = outlet.current
			}
			if !plug.Known && outlet.connector.Known && !into.connector.Known {
				plug = outlet.connector
			}
		}
		n.mate(&load.To[j], *into, plug, states)
	}
}

// sense is what the sense pins of a card 16-pin announce: the least that the
// plug, and the outlet at the other end of its straight lead, state.
func (n *Network) sense(lead, plug int) maybe[units.Watt] {
	least := maybeOf(&n.rig.Card.Plugs[plug].SenseW)
	l := &n.rig.Leads[lead]
	if !straight(l) {
		return least
	}
	for _, half := range [...]maybe[units.Watt]{n.Leads[lead].From[0].into.sense, maybeOf(&l.From[0].SenseW), maybeOf(&l.To[0].SenseW)} {
		if half.Known && (!least.Known || half.Value < least.Value) {
			least = half
		}
	}
	return least
}

// mate joins a plug with what it is plugged into. Power connectors have the
// socket at the part; the lead has the plug. Where only one side is told, the
// other is taken to be its like.
func (n *Network) mate(e *EndLoad, into socket, plug maybe[rig.Connector], states maybe[units.Amp]) {
	e.told = plug.Known
	alike := e.port.kind == theCard && (!plug.Known || !into.connector.Known)
	if !plug.Known {
		plug = into.connector
	}
	if !into.connector.Known {
		into.connector = n.socketFor(e, plug)
	}
	e.Plug, e.Socket = plug.Value, into.connector.Value
	e.plugRow = n.row(e.Plug)
	if !plug.Known || !into.connector.Known {
		e.Fit = Unknown
		return
	}
	if e.socketRow = e.plugRow; e.Socket != e.Plug {
		e.socketRow = n.row(e.Socket)
	}
	e.shape = n.shapeOf(e)
	switch m := n.pair(e); {
	case e.shape != m && e.shape.Enters:
		e.Fit = Unstated // another map in a shell that goes in
	case !m.Enters:
		e.Fit = NoEntry
	case m.Lookalike:
		e.Fit = Clashes
	default:
		n.capacity(e, m, into, states)
		if alike {
			e.least = n.smallest(e, into, states)
		}
	}
}

// smallest is what the smallest pair is planned for that an end at the card may be of which
// one half is not told: a plug of eight enters a socket of six with its two spare pins left
// off, and a plug of six a socket of eight.
func (n *Network) smallest(e *EndLoad, into socket, states maybe[units.Amp]) units.Amp {
	least := e.Cap.Plan
	for i := range n.ref.Connectors {
		plug, at := e.plugRow, &n.ref.Connectors[i]
		if !at.Card {
			continue
		}
		if !e.told {
			plug, at = at, e.socketRow
		}
		if pair := n.ref.Pair(plug, at); pair.Enters && pair.Listed && !pair.Lookalike && !pair.By.Sensed {
			least = min(least, held(pair, into, states).Plan)
		}
	}
	return least
}

// held is what a pair of the table carries, and less where a half states less.
func held(pair *reference.Pair, halves socket, states maybe[units.Amp]) reference.Capacity {
	carries := pair.Carries
	for _, stated := range [...]maybe[units.Amp]{halves.current, states} {
		if stated.Known && stated.Value < carries.Rating {
			carries.Plan, carries.Rating, carries.Stated = min(carries.Plan, stated.Value), stated.Value, true
		}
	}
	return carries
}

// shapeOf is how the shells of an end go together. A plug or a socket of its maker's own
// kind has the shell that is told, else that of what it meets where somebody read its pins.
func (n *Network) shapeOf(e *EndLoad) *reference.Pair {
	plug, socket := e.plugRow, e.socketRow
	if plug == nil || socket == nil || plug.OwnMap == socket.OwnMap {
		return n.pair(e)
	}
	own := n.ownEnd(e)
	switch {
	case plug.OwnMap && own.Shell.Known:
		plug = n.row(own.Shell.Value)
	case plug.OwnMap && (own.Pins != nil || e.source && e.into.pins != nil):
		plug = socket
	case socket.OwnMap && e.into.shell.Known:
		socket = n.row(e.into.shell.Value)
	case socket.OwnMap && e.into.pins != nil:
		socket = plug
	}
	return n.ref.Pair(plug, socket)
}

// ownEnd is an end as it is told.
func (n *Network) ownEnd(e *EndLoad) *rig.LeadEnd {
	if e.source {
		return &n.rig.Leads[e.lead].From[e.at]
	}
	return &n.rig.Leads[e.lead].To[e.at]
}

// socketFor is the socket nobody described. At the host it is one that computers
// have: a card's plug would go into the processor's, which looks like it.
func (n *Network) socketFor(e *EndLoad, plug maybe[rig.Connector]) maybe[rig.Connector] {
	if !e.source && e.port.kind == theCard && plug.Known && !n.ref.Kind(plug.Value).Card {
		return maybe[rig.Connector]{} // it is one of those that cards have, and that is asked
	}
	if e.source || !plug.Known {
		return plug
	}
	if inlet := e.port.kind == aStage || e.port.kind == aSupply; inlet && e.port.at >= 0 && n.lookalike(
		plug.Value, func(*reference.Connector) bool { return true },
	) != nil {
		return maybe[rig.Connector]{} // the two look alike, and that is asked
	}
	if e.port.kind != theHost {
		return plug
	}
	if n.ref.Kind(plug.Value).Host {
		return plug
	}
	if like := n.lookalike(plug.Value, func(s *reference.Connector) bool { return s.Host }); like != nil {
		return maybe[rig.Connector]{like.Connector, true}
	}
	return maybe[rig.Connector]{n.ref.ProcessorPlug(), true}
}

// lookalike is a socket of such a kind that a plug enters and is not made for; nil for none.
func (n *Network) lookalike(plug rig.Connector, such func(*reference.Connector) bool) *reference.Connector {
	for i := range n.ref.Connectors {
		s := &n.ref.Connectors[i]
		if m, enters := n.ref.Enters(plug, s.Connector); enters && m.Lookalike && such(s) {
			return s
		}
	}
	return nil
}

// capacity of a pair: a table connector carries what its row says for the
// contacts mated, and less where a half states less; another kind the lesser of
// what its two halves state.
func (n *Network) capacity(e *EndLoad, pair *reference.Pair, into socket, states maybe[units.Amp]) {
	if pair.Listed {
		if !pair.By.Sensed {
			e.Cap = held(pair, into, states)
			return
		}
		if !into.sense.Known {
			e.Fit = Unstated
			return
		}
		announced := *pair
		announced.Carries.Plan = into.sense.Value.Over(twelve)
		announced.Carries.Rating = announced.Carries.Plan
		e.Cap = held(&announced, into, states)
		return
	}
	if e.source && !into.current.Known && e.port.kind == aSupply {
		into.current = n.labelled(e.port) // its own lead is inside its rating
	}
	if e.source || e.port.kind == aLead {
		states = into.current
	}
	if !into.current.Known || !states.Known {
		e.Fit = Unstated
	}
	for _, half := range [...]maybe[units.Amp]{into.current, states} { // what one half states holds for the pair
		if half.Known && (e.Cap.By == "" || half.Value < e.Cap.Plan) {
			e.Cap = reference.Capacity{Plan: half.Value, Rating: half.Value, Contacts: 1, By: e.Socket, Stated: true}
		}
	}
}

// printed is the most that a current may be that is printed as it is told: what would be
// printed so is no excess.
func printed(amps units.Amp) units.Amp {
	return min(amps*(1+rounding), amps+units.Amp(units.LastDigit(float64(amps))/2))
}

// rounding is the most that a printed figure is rounded by, as a share.
const rounding = 0.005

// labelled is what the label of a supply with one rail gives for its outlets.
func (n *Network) labelled(p port) maybe[units.Amp] {
	if s := &n.rig.Supplies[p.part]; len(s.Rails) == 1 {
		return maybeOf(&s.Rails[0].Current)
	}
	return maybe[units.Amp]{}
}
