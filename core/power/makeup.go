package power

import (
	"math"

	"kolvan/core/units"
)

// Makeup is what a supply's load is made of, in one state of the rig: at the low end of its
// range or at the high one. Board, Lost, Host, Stages and Rest add up to what the plan asks.
type Makeup struct {
	Whole     bool       // all of the card hangs on the supply
	Board     units.Watt // of the card, what flows here
	Slot      units.Watt // of it, through the slot, which is at its most
	Plugs     units.Watt // of it, through its plugs, which have the rest
	Lost      units.Watt // in making the slot's voltages
	Converted units.Watt // what is made so; 0 where nothing is
	Passes    float64    // the share that making it passes on
	Host      units.Watt
	Stages    []StageWatts // what stages take for themselves
	Rest      units.Watt   // lost in converter boards, and what is shared with other supplies
	Metered   units.Watt   // what a meter at the wall tells instead, where that is more
}

// StageWatts is what a stage takes for itself.
type StageWatts struct {
	Stage int
	Watts units.Watt
}

// MakeupOf takes a supply's load apart.
func (n *Network) MakeupOf(i int, high bool) (m Makeup) {
	end := func(w Watts) units.Watt {
		if high {
			return w.High
		}
		return w.Low
	}
	load := &n.Supplies[i]
	card := end(load.Card)
	m.Passes = n.ref.ConversionShare
	m.Whole = card > 0 && alike(card, end(n.most))
	if m.Whole {
		m.Board, m.Lost = end(n.board()), end(n.conversion())
		m.Slot = min(m.Board, end(n.Slot.Both))
		m.Plugs = m.Board - m.Slot
		if m.Lost > 0 {
			m.Converted = m.Lost / units.Watt(n.loss())
		}
	} else {
		m.Board = card
		m.Slot = min(card, end(load.flow.slot))
		m.Plugs = card - m.Slot
	}
	host := end(load.flow.host)
	if n.feedsHost(i) {
		m.Host = min(host, end(n.Host))
	}
	m.Rest = host - m.Host
	for s := range n.rig.Route.Stages {
		own := end(n.ref.StageDraw(&n.rig.Route.Stages[s]))
		if own <= 0 || own > m.Rest+hair {
			continue
		}
		m.Stages = append(m.Stages, StageWatts{s, own})
		m.Rest -= own
	}
	if math.Abs(float64(m.Rest)) < hair {
		m.Rest = 0
	}
	if metered := end(load.Metered); metered > end(load.Planned) {
		m.Metered = metered
	}
	return m
}

// Path is what flows along a lead in one state, by where it goes: it adds up to the lead's load.
type Path struct {
	Slot  units.Watt // through the card's slot, what making its voltages loses left out
	Lost  units.Watt // in making them
	Plugs units.Watt // through the card's plugs
	Other units.Watt // the host's, and what stages take for themselves
}

// PathOf takes a lead's load apart.
func (n *Network) PathOf(lead int, high bool) (p Path) {
	end := func(w Watts) units.Watt {
		if high {
			return w.High
		}
		return w.Low
	}
	f := &n.Leads[lead].flow
	card := end(n.card(f))
	p.Other = end(n.live(f)) - card
	p.Slot = min(card, end(f.slot))
	if n.Slot.Stage >= 0 && !n.dockConverts() {
		p.Lost = min(max(0, p.Slot-end(n.Slot.Both)), end(n.making()))
	}
	p.Slot -= p.Lost
	p.Plugs = card - p.Slot - p.Lost
	return p
}

// hair is how little two watts may differ and be the same.
const hair = 1e-9

func alike(a, b units.Watt) bool { return math.Abs(float64(a-b)) < hair }
