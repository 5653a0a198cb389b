package power

import (
	"kolvan/core/reference"
	"kolvan/core/rig"
	"kolvan/core/units"
)

// flow is what passes a place: the card's part, and of it what goes at 3.3 V,
// kept apart so that it can be held to what the card takes in all.
type flow struct{ card, v33, host Watts }

func (f flow) plus(o flow) flow {
	return flow{f.card.Plus(o.card), f.v33.Plus(o.v33), f.host.Plus(o.host)}
}
func (f flow) times(share float64) flow {
	return flow{f.card.Times(share), f.v33.Times(share), f.host.Times(share)}
}

// live is what goes through the 12 V contacts, or the others that are live.
func (f flow) live() Watts { return f.card.Plus(f.host) }

// SlotLoad is what the card takes through its slot, worst case unless measured.
type SlotLoad struct {
	At12  Watts
	At3V3 Watts
	Both  Watts // together, which is less than both worst cases
	// Stage is the place of the stage that feeds the slot itself, or −1 when the
	// host's slot does.
	Stage int
	Name  string

	where string
}

// Where is the JSON Pointer of what feeds the slot.
func (s *SlotLoad) Where() string { return s.where }

// PlugLoad is what one of the card's plugs takes.
type PlugLoad struct {
	Load      Watts
	Announced Watts // what the mated plug announces
	Fed       bool
	leads     int // ends of leads at it
}

// SupplyLoad is one supply.
type SupplyLoad struct {
	Load      Watts
	Rating    rig.Fact[units.Watt]
	Rails     []Watts // load on each rail
	FeedsCard bool
	FeedsPlan bool // more than the host's own needs hang on it
	Used      bool
}

// Share is load over rating, at the most; false while either is unknown.
func (s SupplyLoad) Share() (float64, bool) {
	if !s.Load.Known() || !s.Rating.Known || s.Rating.Value <= 0 {
		return 0, false
	}
	return float64(s.Load.High) / float64(s.Rating.Value), true
}

// Network is the feed network of a rig with all its loads.
type Network struct {
	Slot     SlotLoad
	Plugs    []PlugLoad
	Host     Watts
	Leads    []LeadLoad
	Supplies []SupplyLoad

	rig    *rig.Rig
	ref    *reference.Tables
	index  index
	stages []net
	most   Watts // what the card takes in all, conversions included
	// weights of all ends at each stage, each plug of the card, and the host
	stageWeight, plugWeight []int
	hostWeight, procWeight  int
}

// For works out the network of a rig that has passed rig.Validate.
func For(r *rig.Rig, ref *reference.Tables) *Network {
	n := &Network{rig: r, ref: ref, index: indexOf(r)}
	n.join()
	for i := range n.stages {
		n.stages[i] = n.stage(i)
	}
	n.weigh()
	n.Plugs = make([]PlugLoad, len(r.Card.Plugs))
	n.announce()
	n.slotFeeder()
	n.splitCard()
	n.Host = orRange(r.Host.Power, 0, mostHost)
	n.most = n.board().Plus(n.conversion())
	for i := range r.Leads {
		n.carry(i)
	}
	for i := range r.Leads {
		n.demand(i)
	}
	for i := range r.Leads {
		for j := range n.Leads[i].From {
			e := &n.Leads[i].From[j]
			e.Load = n.Leads[i].flow.times(n.fromPart(i, j)).live()
		}
	}
	n.shareOutlets()
	n.Supplies = make([]SupplyLoad, len(r.Supplies))
	for i := range r.Supplies {
		n.supply(i)
	}
	return n
}

// orRange is a told power, or what its kind allows.
func orRange(f rig.Fact[units.Watt], low, high units.Watt) Watts {
	if f.Known {
		return units.Exactly(f.Value)
	}
	return units.Between(low, high)
}

// weigh counts the contacts that meet at each load, for even sharing.
func (n *Network) weigh() {
	n.stageWeight, n.plugWeight = make([]int, len(n.rig.Route.Stages)), make([]int, len(n.rig.Card.Plugs))
	for i := range n.Leads {
		for j := range n.Leads[i].To {
			e := &n.Leads[i].To[j]
			if e.Fit == NoEntry {
				continue
			}
			switch e.port.kind {
			case aStage:
				n.stageWeight[e.port.part] += weight(e)
			case theHost:
				n.hostWeight += weight(e)
				if isProcessor(e.Socket) {
					n.procWeight += weight(e)
				}
			case theCard:
				if e.port.at >= 0 {
					n.plugWeight[e.port.at] += weight(e)
				}
			}
		}
	}
}

func isProcessor(c rig.Connector) bool { return c == "cpu-8" || c == "cpu-4" }

// weight is an end's part in an even sharing among contacts.
func weight(e *EndLoad) int { return max(1, e.Cap.Contacts) }

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
				if row := n.row(e.Cap.By); row != nil {
					p.Announced = units.Exactly(min(e.Cap.Plan.At(twelve), row.Plan))
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
	measured = measured.Plus(orRange(card.SlotShare, 0, 0))
	if !card.Power.Known && card.Plugs != nil && open == 0 && card.SlotShare.Known {
		return measured
	}
	return orRange(card.Power, 0, most).Least(measured)
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
		if rig.Is(s.Kind, rig.Dock) || len(s.Inlets) > 0 {
			n.Slot.Stage, n.Slot.Name, n.Slot.where = i, s.Name, "/route/stages/"+itoa(i)
			return
		}
	}
	n.Slot.Stage, n.Slot.Name, n.Slot.where = -1, "the slot", "/route/slot"
	if slot := n.rig.Slot(n.rig.Route.Slot); slot != nil {
		n.Slot.Name, n.Slot.where = slot.Name, "/host/slots/"+itoa(rig.IndexOf(n.rig.Host.Slots, slot))
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
		n.wholeSlot(units.Exactly(card.SlotShare.Value))
	case card.Plugs != nil && open == 0:
		n.wholeSlot(board.Less(measured)) // all plugs measured, or none there
	case card.Plugs != nil:
		n.partSlot(board.Less(measured))
	default:
		n.partSlot(board)
		part := n.Slot
		n.wholeSlot(board)
		n.Slot.At12, n.Slot.At3V3, n.Slot.Both = n.Slot.At12.Join(part.At12), n.Slot.At3V3.Join(part.At3V3), n.Slot.Both.Join(part.Both)
	}
	n.splitPlugs(board, measured)
}

// measured sums what was measured on plugs, and counts the others.
func (n *Network) measured() (sum Watts, open int) {
	for i := range n.rig.Card.Plugs {
		if p := n.rig.Card.Plugs[i].Power; p.Known {
			sum = sum.Plus(units.Exactly(p.Value))
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
	n.Slot.At3V3 = whole.Most(t33)
	n.Slot.At12 = whole.Most(t12).Least(whole.Less(t33))
}

// partSlot: the slot of a card with plugs gives at most what the standard says.
func (n *Network) partSlot(whole Watts) {
	n.Slot.At12, n.Slot.At3V3 = whole.Most(units.Exactly(n.ref.Slot12V)), whole.Most(units.Exactly(n.ref.Slot3V3))
	n.Slot.Both = whole.Most(units.Exactly(n.ref.SlotTotal))
}

// splitPlugs: what the slot is expected to give at least, and what was measured,
// taken off, the rest goes through the other plugs by what they announce.
func (n *Network) splitPlugs(board, measured Watts) {
	least := board.Less(n.announced(false)).Least(units.Exactly(n.ref.SlotLeast)).Most(units.Exactly(n.ref.SlotTotal)).Most(board)
	if n.rig.Card.SlotShare.Known {
		least = units.Exactly(n.rig.Card.SlotShare.Value)
	}
	residual, open := board.Less(least).Less(measured), n.announced(true)
	for i := range n.Plugs {
		p := &n.Plugs[i]
		if told := n.rig.Card.Plugs[i].Power; told.Known {
			p.Load = units.Exactly(told.Value)
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

// loss is what making a power with the planned efficiency costs beside it.
func (n *Network) loss() float64 { return 1/n.ref.ConversionShare - 1 }

// conversion is the loss of making the card's voltages from another one.
func (n *Network) conversion() Watts {
	switch {
	case n.Slot.Stage >= 0 && n.dockConverts():
		return n.board().Times(n.loss())
	case n.Slot.Stage >= 0:
		return n.making()
	case n.hostConverts():
		return n.Slot.Both.Times(n.loss())
	default:
		return Watts{}
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
			if e.port.kind == aStage && e.port.part == n.Slot.Stage && isOther(n.inletSocket(e.port).voltage.Value) {
				return true
			}
		}
	}
	return false
}

// isOther reports a voltage that is told and from which a card's 12 V is made.
func isOther(v units.Volt) bool { return v != 0 && v != twelve }

// hostConverts reports a host fed at another voltage than 12 V, which has to
// make the slot's 12 V itself.
func (n *Network) hostConverts() bool {
	s := n.rig.Supply(n.rig.Host.Supply)
	return s != nil && len(s.Rails) == 1 && isOther(s.Rails[0].Voltage.Value)
}

// demand works out the load of lead i from everything downstream of it, once.
func (n *Network) demand(i int) flow {
	lead, load := &n.rig.Leads[i], &n.Leads[i]
	if load.demand_ {
		return load.flow
	}
	load.demand_ = true
	var total flow
	for j := range lead.To {
		f := n.endDemand(i, j)
		load.To[j].Load = f.live()
		total = total.plus(f)
	}
	load.flow = n.capped(total)
	load.Load = load.flow.live()
	return load.flow
}

// capped holds the card's part to what the card takes in all: its watts count
// once, whatever the split.
func (n *Network) capped(f flow) flow {
	f.card = f.card.Most(n.most)
	if f.card.High+f.v33.High > n.most.High {
		f.v33.High = max(0, n.most.High-f.card.High)
		f.v33.Low = min(f.v33.Low, f.v33.High)
	}
	return f
}

// endDemand is what end j of lead i has to deliver.
func (n *Network) endDemand(i, j int) flow {
	e := &n.Leads[i].To[j]
	if e.Fit == NoEntry {
		return flow{}
	}
	switch e.port.kind {
	case theHost:
		return n.hostPart(e)
	case theCard:
		if e.port.at < 0 {
			return flow{card: units.Between(0, n.plugsLoad().High)}
		}
		return flow{card: n.Plugs[e.port.at].Load}.times(float64(weight(e)) / float64(n.plugWeight[e.port.at]))
	case aStage:
		return n.stageDraw(e.port.part).times(float64(weight(e)) / float64(n.stageWeight[e.port.part]))
	}
	return n.drawnFrom(port{aLead, i, j})
}

func (n *Network) plugsLoad() (sum Watts) {
	for i := range n.Plugs {
		sum = sum.Plus(n.Plugs[i].Load)
	}
	return sum
}

// hostPart is what one of the host's plugs carries: the processor's watts go
// through the processor's plugs and the rest through the others; while they are
// unknown, all share by their contacts.
func (n *Network) hostPart(e *EndLoad) flow {
	draw := n.hostDraw()
	proc := n.rig.Host.Proc.Power
	others := n.hostWeight - n.procWeight
	if !proc.Known || n.procWeight == 0 || others == 0 || !n.rig.Host.Power.Known {
		return draw.times(float64(weight(e)) / float64(n.hostWeight))
	}
	own := min(proc.Value, n.rig.Host.Power.Value)
	if isProcessor(e.Socket) {
		return flow{host: units.Exactly(own)}.times(float64(weight(e)) / float64(n.procWeight))
	}
	draw.host = draw.host.Less(units.Exactly(own))
	return draw.times(float64(weight(e)) / float64(others))
}

// stageDraw is what a stage takes at its inlets: its own, the slot where it feeds
// it, and what its outlets pass on.
func (n *Network) stageDraw(s int) flow {
	f := flow{host: orRange(n.rig.Route.Stages[s].Power, 0, 0)}
	f = f.plus(n.drawnFrom(port{aStage, s, -1}))
	if s != n.Slot.Stage {
		return n.capped(f)
	}
	makes := n.rig.Route.Stages[s].Makes3V3
	made, straight := n.Slot.Both.Plus(n.making()), n.Slot.At12
	switch {
	case n.dockConverts():
		f.card = f.card.Plus(n.Slot.Both).Times(1 / n.ref.ConversionShare)
	case rig.Is(makes, true):
		f.card = f.card.Plus(made)
	case rig.Is(makes, false):
		f.card, f.v33 = f.card.Plus(straight), f.v33.Plus(n.Slot.At3V3)
	default:
		f.card, f.v33 = f.card.Plus(straight.Join(made)), f.v33.Plus(units.Between(0, n.Slot.At3V3.High))
	}
	return n.capped(f)
}

// hostDraw is the host's own load and, in one of its own slots, the card's.
func (n *Network) hostDraw() flow {
	f := flow{host: n.Host}
	if n.Slot.Stage < 0 && n.rig.Route.Slot != "" {
		if slot := n.rig.Slot(n.rig.Route.Slot); slot != nil && feedsCards(slot) {
			f.card = n.Slot.Both.Plus(n.conversion())
			if !slot.Form.Known {
				f.card.Low = 0 // it may be of a form that feeds no card
			}
		}
	}
	return f
}

// feedsCards: M.2 and wireless slots, ports and look-alikes feed no card.
func feedsCards(slot *rig.Slot) bool {
	form, known := slot.Form.Get()
	return !known || form == rig.CardSlot || form == "module"
}

// drawnFrom sums the leads plugged into a port; all of the part's for at −1.
func (n *Network) drawnFrom(p port) (f flow) {
	for i := range n.Leads {
		for j := range n.Leads[i].From {
			e := &n.Leads[i].From[j]
			if e.port.kind == p.kind && e.port.part == p.part && (p.at < 0 || e.port.at == p.at) {
				f = f.plus(n.demand(i).times(n.fromPart(i, j)))
			}
		}
	}
	return f
}

// fromPart is the share of source end j among all source ends of lead i.
func (n *Network) fromPart(i, j int) float64 {
	contacts := 0
	for k := range n.Leads[i].From {
		contacts += weight(&n.Leads[i].From[k])
	}
	return float64(weight(&n.Leads[i].From[j])) / float64(contacts)
}

// shareOutlets gives source ends that are plugged into one outlet what all of
// them draw from it.
func (n *Network) shareOutlets() {
	for i := range n.Leads {
		for j := range n.Leads[i].From {
			e := &n.Leads[i].From[j]
			if e.port.at >= 0 && e.port.kind != nothing {
				e.Load = n.capped(n.drawnFrom(e.port)).live()
			}
		}
	}
}

func (n *Network) supply(i int) {
	s, load := &n.rig.Supplies[i], &n.Supplies[i]
	load.Rating = s.Rating
	load.Rails = make([]Watts, len(s.Rails))
	var total flow
	take := func(f flow, outlet int) {
		total = total.plus(f)
		load.Used = true
		load.FeedsCard = load.FeedsCard || f.card.High > 0
		if rail := railOf(s, outlet); rail >= 0 {
			load.Rails[rail] = load.Rails[rail].Plus(f.live())
		}
		if rail := onlyRail(s, 3.3); rail >= 0 {
			load.Rails[rail] = load.Rails[rail].Plus(f.v33)
		}
	}
	hostByLead := false
	for k := range n.Leads {
		for j := range n.Leads[k].From {
			e := &n.Leads[k].From[j]
			if e.port.kind != aSupply || e.port.part != i {
				continue
			}
			take(n.demand(k).times(n.fromPart(k, j)), e.port.at)
			load.FeedsPlan = load.FeedsPlan || !n.hostOnly(k)
			hostByLead = hostByLead || n.reaches(k, theHost)
		}
	}
	if n.rig.Host.Supply == s.Name && !hostByLead {
		f := n.hostDraw()
		load.FeedsPlan = load.FeedsPlan || f.card.High > 0
		take(f, -1)
	}
	if total.v33.High > 0 { // 12 V and 3.3 V of the slot are not both at their worst
		total.v33 = total.v33.Most(units.Exactly(n.Slot.Both.High - n.Slot.At12.High))
	}
	total = n.capped(total)
	load.Load = total.live().Plus(total.v33)
	for rail := range load.Rails {
		load.Rails[rail] = load.Rails[rail].Most(load.Load)
	}
}

// hostOnly reports a lead that ends at the host alone.
func (n *Network) hostOnly(i int) bool {
	for j := range n.Leads[i].To {
		if n.Leads[i].To[j].port.kind != theHost {
			return false
		}
	}
	return n.Slot.Stage >= 0
}

// reaches reports a lead with an end at that part.
func (n *Network) reaches(i int, k kind) bool {
	for j := range n.Leads[i].To {
		if n.Leads[i].To[j].port.kind == k {
			return true
		}
	}
	return false
}

// CardSupply is the supply that feeds the card; of several the one with the
// highest share. It is −1 when none does.
func (n *Network) CardSupply() int {
	best, bestShare := -1, -1.0
	for i := range n.Supplies {
		if !n.Supplies[i].FeedsCard {
			continue
		}
		share, known := n.Supplies[i].Share()
		if !known {
			return i
		}
		if share > bestShare {
			best, bestShare = i, share
		}
	}
	return best
}
