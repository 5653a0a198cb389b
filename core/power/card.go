package power

import (
	"kolvan/core/rig"
	"kolvan/core/units"
)

// announce fills in what each plug of the card is planned for as it is mated.
func (n *Network) announce() {
	for i := range n.Plugs {
		plug := &n.rig.Card.Plugs[i]
		n.Plugs[i].Announced = n.rowPlan(plug.Connector, plug.SenseW)
	}
	for i := range n.Leads {
		for j := range n.Leads[i].To {
			e := &n.Leads[i].To[j]
			if e.port.kind != theCard || e.port.at < 0 {
				continue
			}
			p := &n.Plugs[e.port.at]
			p.leads++
			if e.Fit == Mates && e.Cap.Contacts > 0 {
				p.Announced = units.Exactly(min(e.Cap.Plan.At(twelve), n.pair(e).By.Plan))
				if e.open() {
					p.Announced.Low = min(p.Announced.Low, e.least.At(twelve))
				}
			}
			if e.Fit != NoEntry && n.Leads[i].net.fed {
				p.Fed = true
			}
		}
	}
}

// rowPlan is what a plug of that kind announces by itself.
func (n *Network) rowPlan(c rig.Fact[rig.Connector], sense rig.Fact[units.Watt]) Watts {
	row := n.row(c.Value)
	switch {
	case row == nil || row.Stated:
		return units.Between[units.Watt](0, 600)
	case row.Sensed:
		return orRange(sense, 150, 600)
	default:
		return units.Exactly(row.Plan)
	}
}

// announced is what all plugs announce together; of those not measured alone
// where open is set.
func (n *Network) announced(open bool) (sum Watts) {
	for i := range n.Plugs {
		if !open || !n.rig.Card.Plugs[i].Power.Known {
			sum = sum.Plus(n.Plugs[i].Announced)
		}
	}
	return sum
}

// board is the card's board power: as told, and no less than what was measured.
// A card of which all was measured takes just that, when nothing else is told.
func (n *Network) board() Watts {
	card := &n.rig.Card
	most := mostCard
	if card.Plugs != nil {
		most = n.ref.SlotTotal + n.announced(false).High
	}
	measured, open := n.measured()
	measured = measured.Plus(orRange(card.SlotShare, 0, 0)).AtLeast(n.sensed())
	if !card.Power.Known && card.Plugs != nil && open == 0 && card.SlotShare.Known {
		return measured
	}
	return n.capped(orRange(card.Power, 0, most)).AtLeast(measured)
}

// capped is the board power as a cap leaves it: what it lasts at is the cap, and before the
// driver runs no more than a share of the whole (reference, section 8a).
func (n *Network) capped(board Watts) Watts {
	limit, told := n.rig.Card.Cap.Get()
	if !told {
		return board
	}
	least := min(board.Low, limit)
	return Watts{Low: least, High: max(least, min(board.High, max(limit, units.Watt(n.ref.CardStart)*board.High)))}
}

// uncapped is the board power without its cap.
func (n *Network) uncapped() Watts { return rig.Span(n.rig.Card.Power) }

// sensed is the most that a sensor showed of the card's board power.
func (n *Network) sensed() (most Watts) {
	for i := range n.rig.LoadReadings {
		if w, told := n.rig.LoadReadings[i].Board.Get(); told && n.rig.OfCard(n.rig.LoadReadings[i].Card) {
			most = most.AtLeast(units.Exactly(w))
		}
	}
	for i := range n.rig.Runs {
		if w, told := n.rig.Runs[i].Board.Get(); told && rig.Is(n.rig.Runs[i].Side, "after") && n.rig.OfCard(n.rig.Runs[i].Card) {
			most = most.AtLeast(units.Exactly(w))
		}
	}
	return most
}

// slotFeeder finds what feeds the card's slot: the last stage that is a dock or
// has inlets, since what stands behind it only passes power on; else the host's
// slot.
func (n *Network) slotFeeder() {
	stages := n.rig.Route.Stages
	for i := len(stages) - 1; i >= 0; i-- {
		s := &stages[i]
		if rig.Is(s.Passes, true) && !n.stages[i].fed && n.mayPass(i) {
			continue // its own inlets are left open
		}
		if rig.Is(s.Kind, rig.Dock) || len(s.Inlets) > 0 || s.Supply != "" {
			n.Slot.Stage, n.Slot.Name, n.Slot.where = i, s.Name, rig.StagePath(i)
			return
		}
	}
	n.Slot.Stage, n.Slot.Name, n.Slot.where = -1, "the slot", "/route/slot"
	if slot := n.rig.Slot(n.rig.Route.Slot); slot != nil {
		n.Slot.Name, n.Slot.where = slot.Name, rig.SlotPath(rig.IndexOf(n.rig.Host.Slots, slot))
	}
}

// mayPass reports a stage between two card slots, which can pass power on.
func (n *Network) mayPass(i int) bool {
	s := &n.rig.Route.Stages[i]
	return rig.Is(s.Plug.Form, rig.CardSlot) && rig.Is(s.Socket.Form, rig.CardSlot)
}

// splitCard divides the card's watts among slot and plugs, each at its own worst
// case (reference, section 4).
func (n *Network) splitCard() {
	card, board := &n.rig.Card, n.board()
	measured, open := n.measured()
	switch {
	case card.SlotShare.Known:
		n.wholeSlot(rig.Span(card.SlotShare))
	case card.Plugs != nil && open == 0:
		n.wholeSlot(board.Sub(measured)) // all plugs measured, or none there
	case card.Plugs != nil:
		n.partSlot(board.Sub(measured))
	default:
		n.partSlot(board)
		part := n.Slot
		n.wholeSlot(board)
		n.Slot.At12, n.Slot.At3V3, n.Slot.Both = n.Slot.At12.Hull(part.At12), n.Slot.At3V3.Hull(part.At3V3), n.Slot.Both.Hull(part.Both)
	}
	n.splitPlugs(board, measured)
}

// measured sums what was measured on plugs, and counts the others.
func (n *Network) measured() (sum Watts, open int) {
	for i := range n.rig.Card.Plugs {
		if p := n.rig.Card.Plugs[i].Power; p.Known {
			sum = sum.Plus(rig.Span(p))
		} else {
			open++
		}
	}
	return sum, open
}

// wholeSlot: all of it comes through the slot, at most 9.9 W of it at 3.3 V.
func (n *Network) wholeSlot(whole Watts) {
	t33, t12 := units.Exactly(n.ref.Slot3V3), units.Exactly(n.ref.Slot12V)
	n.Slot.Both = whole
	n.Slot.At3V3 = whole.AtMost(t33)
	n.Slot.At12 = whole.AtMost(t12).AtLeast(whole.Sub(t33))
}

// partSlot: the slot of a card with plugs gives at most what the standard says.
func (n *Network) partSlot(whole Watts) {
	n.Slot.At12, n.Slot.At3V3 = whole.AtMost(units.Exactly(n.ref.Slot12V)), whole.AtMost(units.Exactly(n.ref.Slot3V3))
	n.Slot.Both = whole.AtMost(units.Exactly(n.ref.SlotTotal))
}

// splitPlugs: what the slot is expected to give at least, and what was measured,
// taken off, the rest goes through the other plugs by what they announce.
func (n *Network) splitPlugs(board, measured Watts) {
	least := board.Sub(n.announced(false)).AtLeast(units.Exactly(n.ref.SlotLeast)).AtMost(units.Exactly(n.ref.SlotTotal)).AtMost(board)
	if n.rig.Card.SlotShare.Known {
		least = rig.Span(n.rig.Card.SlotShare)
	}
	residual, open := board.Sub(least).Sub(measured), n.announced(true)
	beside := board.Sub(n.Slot.Both).Sub(measured) // what is left with the slot at its most
	n.left = Watts{Low: part(beside.Low, residual.Low), High: part(beside.High, residual.High)}
	whole := n.Slot.Both
	if n.Slot.Stage >= 0 && !rig.Is(n.rig.Route.Stages[n.Slot.Stage].Makes3V3, true) {
		whole = n.Slot.At12 // what it takes at its least may all be at 12 V
	}
	n.least = Watts{Low: part(least.Low, whole.Low), High: part(least.High, whole.High)}
	for i := range n.Plugs {
		p := &n.Plugs[i]
		if told := n.rig.Card.Plugs[i].Power; told.Known {
			p.Load = rig.Span(told)
			continue
		}
		p.Load = units.Between(residual.Low.Share(p.Announced.Low, open.High), residual.High.Share(p.Announced.High, open.High))
		if open.Known() {
			p.Load = units.Between(residual.Low.Share(p.Announced.Low, open.Low), residual.High.Share(p.Announced.High, open.Low))
		} else if len(n.Plugs) == 1 {
			p.Load = residual
		}
	}
}

// part is a share of the whole, all of it where there is none.
func part(of, whole units.Watt) units.Watt {
	if whole <= 0 {
		return 1
	}
	return min(1, of/whole)
}

// loss is what making a power with the planned efficiency costs beside it.
func (n *Network) loss() float64 { return 1/n.ref.ConversionShare - 1 }

// conversion is the loss of making the card's voltages from another one.
func (n *Network) conversion() Watts {
	switch {
	case n.Slot.Stage >= 0 && n.dockConverts():
		return n.board().Times(n.loss())
	case n.Slot.Stage >= 0:
		return n.making()
	default:
		return n.hostMakes()
	}
}

// making is the loss of a dock that makes 3.3 V from what feeds it.
func (n *Network) making() Watts {
	cost := n.Slot.At3V3.Times(n.loss())
	switch makes := n.rig.Route.Stages[n.Slot.Stage].Makes3V3; {
	case rig.Is(makes, true):
		return cost
	case !makes.Known:
		return units.Between(0, cost.High)
	default:
		return Watts{}
	}
}

// dockConverts reports a dock that takes another voltage than 12 V and says so.
func (n *Network) dockConverts() bool {
	if n.Slot.Stage < 0 {
		return false
	}
	for i := range n.Leads {
		for j := range n.Leads[i].To {
			e := &n.Leads[i].To[j]
			if e.port.kind == aStage && e.port.part == n.Slot.Stage && isOther(e.into.voltage.Value) {
				return true
			}
		}
	}
	return false
}

// isOther reports a voltage that is told and from which a card's 12 V is made.
func isOther(v units.Volt) bool { return v != 0 && v != twelve }

// v33ByEdge reports a riser whose 3.3 V comes from the card slot that it stands in.
func (n *Network) v33ByEdge() bool {
	if n.Slot.Stage < 0 || !rig.Is(n.rig.Route.Stages[n.Slot.Stage].Passes3V3, true) {
		return false
	}
	if n.Slot.Stage > 0 {
		before := &n.rig.Route.Stages[n.Slot.Stage-1]
		return rig.Is(before.Socket.Form, rig.CardSlot) && n.stages[n.Slot.Stage-1].fed
	}
	slot := n.rig.Slot(n.rig.Route.Slot)
	return slot != nil && rig.Is(slot.Form, rig.CardSlot)
}

// hostMakes is what a host loses that is fed at another voltage than 12 V, and has to make
// the slot's 12 V itself: none to that while its voltage is not told.
func (n *Network) hostMakes() Watts {
	loss := n.Slot.Both.Times(n.loss())
	volts, fed := n.hostVolts()
	switch {
	case !fed || same(volts, twelve):
		return Watts{}
	case volts == 0:
		return units.Between(0, loss.High)
	default:
		return loss
	}
}

// hostVolts is the one voltage that feeds the host, 0 while it is not told; false where it
// is fed by a supply of several rails, which has 12 V, or by nothing.
func (n *Network) hostVolts() (units.Volt, bool) {
	if n.hostSupply < 0 {
		return 0, false
	}
	s := &n.rig.Supplies[n.hostSupply]
	switch {
	case len(s.Rails) > 1 || WaitsToBeSwitched(s) && (len(s.Rails) == 0 || !s.Rails[0].Voltage.Known):
		return 0, false
	case len(s.Rails) == 0:
		return 0, true
	default:
		return s.Rails[0].Voltage.Value, true
	}
}
