package power

import (
	"slices"

	"kolvan/core/reference"
	"kolvan/core/rig"
	"kolvan/core/units"
)

// flow is what passes a place, each part at its own worst: of the card what its slot
// takes, what its plugs take, and what was measured of plugs; what goes at 3.3 V; and what
// is not the card's. The card's watts are shared, not added: Network.card says what of
// them flows in one state.
type flow struct{ slot, plugs, fixed, v33, host Watts }

func (f flow) plus(o flow) flow {
	return flow{f.slot.Plus(o.slot), f.plugs.Plus(o.plugs), f.fixed.Plus(o.fixed), f.v33.Plus(o.v33), f.host.Plus(o.host)}
}

func (f flow) times(share float64) flow {
	return flow{f.slot.Times(share), f.plugs.Times(share), f.fixed.Times(share), f.v33.Times(share), f.host.Times(share)}
}

// card is what of a flow is the card's, in the worst of its two states: its slot at its
// most and its plugs at what is then left, or its plugs at their most and its slot at its
// least. It is never more than the card takes in all.
func (n *Network) card(f *flow) Watts {
	inSlot := f.slot.Plus(Watts{Low: f.plugs.Low * n.left.Low, High: f.plugs.High * n.left.High})
	inPlugs := f.plugs.Plus(Watts{Low: f.slot.Low * n.least.Low, High: f.slot.High * n.least.High})
	return inSlot.AtLeast(inPlugs).Plus(f.fixed).AtMost(n.most)
}

// all is the card's part with its 3.3 V, which is never at its worst together with all else.
func (n *Network) all(f *flow) Watts {
	inSlot := f.slot.Plus(n.beside(f.v33)).Plus(Watts{Low: f.plugs.Low * n.left.Low, High: f.plugs.High * n.left.High})
	inPlugs := f.plugs.Plus(f.v33).Plus(Watts{Low: f.slot.Low * n.least.Low, High: f.slot.High * n.least.High})
	return inSlot.AtLeast(inPlugs).Plus(f.fixed).AtMost(n.most)
}

// live is what goes through the 12 V contacts, or the others that are live.
func (n *Network) live(f *flow) Watts { return n.card(f).Plus(f.host) }

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
	Load      Watts // what the plan asks, or what the meter at the wall tells where that is more
	Planned   Watts // what the plan asks
	Card      Watts // of it, what is the card's
	Idle      Watts // of it, what flows with nothing to do
	Metered   Watts // what a reading at the wall comes to behind the supply; zero without one
	Rating    rig.Fact[units.Watt]
	Rails     []Watts // load on each rail
	FeedsCard bool
	FeedsPlan bool // more than the host's own needs hang on it
	Used      bool

	flow flow // of what Planned is made
}

// limit is what the supply is rated for, as exactly as it is told.
func (s *SupplyLoad) limit() Watts { return rig.Span(s.Rating) }

// Share is load over rating; false while either is open.
func (s *SupplyLoad) Share() (float64, bool) {
	ends, told := s.Shares()
	return ends.High, told && ends.Known()
}

// Shares is load over rating from the least to the most that the load may be; false while
// the rating is not told.
func (s *SupplyLoad) Shares() (units.Range[float64], bool) {
	rating, told := s.Rating.Get()
	if !told || rating <= 0 {
		return units.Range[float64]{}, false
	}
	return units.Between(float64(s.Load.Low)/float64(rating), float64(s.Load.High)/float64(rating)), true
}

// Network is the feed network of a rig with all its loads.
type Network struct {
	Slot     SlotLoad
	Plugs    []PlugLoad
	Host     Watts
	Leads    []LeadLoad
	Supplies []SupplyLoad

	rig        *rig.Rig
	ref        *reference.Tables
	hostSupply int // the supply that feeds the host without a lead, −1 for none
	stages     []net
	ends       []EndLoad // of all leads
	rails      []Watts   // of all supplies
	most       Watts     // what the card takes in all, conversions included
	left       Watts     // with the slot at its most, so much of its plugs' most flows, as shares
	least      Watts     // with the plugs at their most, so much of the slot's
	byRail     []flow    // of one supply
	// weights of all ends at each stage, each plug of the card, each supply, and the host
	weights                             []int
	stageWeight, plugWeight, convWeight []int
	hostWeight, procWeight              int
}

// For works out the network of a rig that has passed rig.Validate.
func For(r *rig.Rig, ref *reference.Tables) *Network {
	n := new(Network)
	n.Work(r, ref)
	return n
}

// Work works out the network of a rig in the room of the one before, which is lost.
func (n *Network) Work(r *rig.Rig, ref *reference.Tables) {
	*n = Network{
		rig: r, ref: ref, Leads: n.Leads, Plugs: n.Plugs, Supplies: n.Supplies, ends: n.ends, rails: n.rails, stages: n.stages,
		weights: n.weights, byRail: n.byRail,
	}
	n.hostSupply = hostSupplyOf(r)
	n.join()
	for i := range n.stages {
		n.stages[i] = n.stage(i)
	}
	n.feedBack()
	n.weigh()
	n.Plugs = room(n.Plugs, len(r.Card.Plugs))
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
			f := n.Leads[i].flow.times(n.fromPart(i, j))
			e.Load = n.live(&f)
		}
	}
	n.shareOutlets()
	n.Supplies = room(n.Supplies, len(r.Supplies))
	rails := 0
	for i := range r.Supplies {
		rails += len(r.Supplies[i].Rails)
	}
	n.rails = room(n.rails, rails)
	rails = 0
	for i := range r.Supplies {
		last := rails + len(r.Supplies[i].Rails)
		n.Supplies[i].Rails = n.rails[rails:last:last]
		n.supply(i)
		rails = last
	}
}

// hostSupplyOf is the place of the supply that feeds the host without a lead: its own, or the
// one that goes into its bay and takes its place; −1 for none.
func hostSupplyOf(r *rig.Rig) int {
	own := -1
	for i := range r.Supplies {
		if rig.Is(r.Supplies[i].InBay, true) {
			return i
		}
		if r.Supplies[i].Name == r.Host.Supply {
			own = i
		}
	}
	return own
}

// room is a list of so many empty things, in the room there is where it is enough.
func room[T any](list []T, count int) []T {
	if count > cap(list) {
		return make([]T, count)
	}
	list = list[:count]
	clear(list)
	return list
}

// orRange is a told power, or what its kind allows.
func orRange(f rig.Fact[units.Watt], low, high units.Watt) Watts {
	if f.Known {
		return rig.Span(f).AtLeast(Watts{})
	}
	return units.Between(low, high)
}

// weigh counts the contacts that meet at each load, for even sharing.
func (n *Network) weigh() {
	stages, plugs := len(n.rig.Route.Stages), len(n.rig.Card.Plugs)
	n.weights = room(n.weights, stages+plugs+len(n.rig.Supplies))
	n.stageWeight, n.plugWeight, n.convWeight = n.weights[:stages], n.weights[stages:stages+plugs], n.weights[stages+plugs:]
	for i := range n.Leads {
		for j := range n.Leads[i].To {
			e := &n.Leads[i].To[j]
			if e.Fit == NoEntry {
				continue
			}
			switch e.port.kind {
			case aStage:
				n.stageWeight[e.port.part] += weight(e)
			case aSupply:
				n.convWeight[e.port.part] += weight(e)
			case theHost:
				n.hostWeight += weight(e)
				if e.atProcessor() {
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

func (e *EndLoad) atProcessor() bool { return e.socketRow != nil && e.socketRow.Processor }

// weight is an end's part in an even sharing among contacts.
func weight(e *EndLoad) int { return max(1, e.Cap.Contacts) }

// demand works out the load of lead i from everything downstream of it, once.
func (n *Network) demand(i int) flow {
	lead, load := &n.rig.Leads[i], &n.Leads[i]
	if load.demanded {
		return load.flow
	}
	load.demanded = true
	var total flow
	for j := range lead.To {
		f := n.endDemand(i, j)
		load.To[j].Load = n.live(&f)
		total = total.plus(f)
	}
	for s := range n.stages {
		if n.stages[s].back == i+1 {
			total = total.plus(n.stageOwn(s))
		}
	}
	load.flow = total
	load.Load = n.live(&total)
	return total
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
			return flow{plugs: units.Between(0, n.plugsLoad().High)}
		}
		f := flow{plugs: n.Plugs[e.port.at].Load}
		if n.rig.Card.Plugs[e.port.at].Power.Known {
			f = flow{fixed: f.plugs}
		}
		return f.times(float64(weight(e)) / float64(n.plugWeight[e.port.at]))
	case aStage:
		return n.stageDraw(e.port.part).times(float64(weight(e)) / float64(n.stageWeight[e.port.part]))
	case aSupply:
		return n.converterDraw(e.port.part).times(float64(weight(e)) / float64(n.convWeight[e.port.part]))
	}
	return n.drawnFrom(port{aLead, i, j})
}

// converterDraw is what a converter board takes for what hangs on it. What it loses
// is no part of what the card takes, which counts once.
func (n *Network) converterDraw(s int) flow {
	f := n.drawnFrom(port{aSupply, s, -1})
	f.slot, f.v33 = f.slot.Plus(n.beside(f.v33)), Watts{}
	if !n.passesOn(s) {
		f.host = f.host.Plus(n.live(&f).Times(n.loss()))
	}
	return f
}

// passesOn reports a converter board that hands on the 12 V it is fed with.
func (n *Network) passesOn(s int) bool {
	board := &n.rig.Supplies[s]
	fed := func(in rig.Inlet) bool { return !in.Voltage.Known || same(in.Voltage.Value, twelve) }
	return rig.Is(board.Passes, true) && slices.ContainsFunc(board.Inlets, fed)
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
	if e.atProcessor() {
		return flow{host: units.Exactly(own)}.times(float64(weight(e)) / float64(n.procWeight))
	}
	draw.host = draw.host.Sub(units.Exactly(own))
	return draw.times(float64(weight(e)) / float64(others))
}

// stageDraw is what a stage takes at its inlets: its own, the slot where it feeds
// it, and what its outlets pass on.
func (n *Network) stageDraw(s int) flow {
	return n.stageTakes(s, n.drawnFrom(port{aStage, s, -1}))
}

// stageOwn is what a stage takes for itself and the slot.
func (n *Network) stageOwn(s int) flow { return n.stageTakes(s, flow{}) }

// stageTakes is what a stage takes to pass a flow on.
func (n *Network) stageTakes(s int, f flow) flow {
	f = f.plus(flow{host: n.ref.StageDraw(&n.rig.Route.Stages[s])})
	if s != n.Slot.Stage {
		return f
	}
	makes := n.rig.Route.Stages[s].Makes3V3
	made, straight := n.Slot.Both.Plus(n.making()), n.Slot.At12
	switch {
	case n.dockConverts():
		own := f.host
		f.slot = f.slot.Plus(n.Slot.Both)
		f = f.times(1 / n.ref.ConversionShare)
		f.host = own
	case n.v33ByEdge():
		f.slot = f.slot.Plus(straight)
	case rig.Is(makes, true):
		f.slot = f.slot.Plus(made)
	case rig.Is(makes, false):
		f.slot, f.v33 = f.slot.Plus(straight), f.v33.Plus(n.Slot.At3V3)
	default:
		f.slot, f.v33 = f.slot.Plus(straight.Hull(made)), f.v33.Plus(units.Between(0, n.Slot.At3V3.High))
	}
	return f
}

// beside is what of the slot's 3.3 V flows while its 12 V is at its worst.
func (n *Network) beside(v33 Watts) Watts {
	if v33.High == 0 {
		return v33
	}
	return v33.AtMost(units.Exactly(n.Slot.Both.High - n.Slot.At12.High))
}

// hostDraw is the host's own load and, in one of its own slots, the card's.
func (n *Network) hostDraw() flow {
	f := flow{host: n.Host.Plus(n.throughSlot())}.plus(n.fromBoard())
	if n.Slot.Stage == 0 && n.v33ByEdge() {
		f.v33 = n.Slot.At3V3
	}
	if n.Slot.Stage < 0 && n.rig.Route.Slot != "" {
		if slot := n.rig.Slot(n.rig.Route.Slot); slot != nil && n.feedsCard(slot) {
			f.slot = n.Slot.Both.Plus(n.conversion())
			if !slot.Form.Known {
				f.slot.Low = 0 // it may be of a form that feeds no card
			}
		}
	}
	return f
}

// fromBoard is what flows out of the plugs of the host's board, with what making it costs where
// the host is fed at another voltage.
func (n *Network) fromBoard() flow {
	if len(n.rig.Host.Outlets) == 0 {
		return flow{}
	}
	f := n.drawnFrom(port{theHost, 0, -1})
	f.slot, f.v33 = f.slot.Plus(n.beside(f.v33)), Watts{}
	lost := n.live(&f).Times(n.loss())
	for _, in := range n.rig.Host.Inlets {
		switch v, told := in.Voltage.Get(); {
		case !told:
			lost.Low = 0
		case same(v, twelve):
			return f
		}
	}
	if len(n.rig.Host.Inlets) == 0 {
		lost.Low = 0
	}
	f.host = f.host.Plus(lost)
	return f
}

// feedsFrom reports that something hangs on the plugs of the host's board.
func (n *Network) feedsFrom() bool {
	for i := range n.Leads {
		for j := range n.Leads[i].From {
			if n.Leads[i].From[j].port.kind == theHost {
				return true
			}
		}
	}
	return false
}

// throughSlot is what the stages before the card's slot take for themselves that have no
// inlet: the host's slot feeds them.
func (n *Network) throughSlot() (sum Watts) {
	for i := range n.rig.Route.Stages {
		if s := &n.rig.Route.Stages[i]; i != n.Slot.Stage && len(s.Inlets) == 0 && s.Supply == "" {
			sum = sum.Plus(n.ref.StageDraw(s))
		}
	}
	return sum
}

// feedsCard: a slot feeds what its own form is for. M.2 and wireless slots, ports and
// look-alikes feed no card that stands behind an adapter.
func (n *Network) feedsCard(slot *rig.Slot) bool {
	form, known := slot.Form.Get()
	return !known || form == rig.CardSlot || form == rig.Module || form == n.rig.Card.EdgeForm() && len(n.rig.Route.Stages) == 0
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
				f := n.drawnFrom(e.port)
				e.Load = n.live(&f)
			}
		}
	}
}

// supply sums what hangs on a supply, in all and on each of its rails.
func (n *Network) supply(i int) {
	s, load := &n.rig.Supplies[i], &n.Supplies[i]
	load.Rating = s.Rating
	n.byRail = room(n.byRail, len(s.Rails))
	var total flow
	hostByLead := false
	for k := range n.Leads {
		for j := range n.Leads[k].From {
			e := &n.Leads[k].From[j]
			if e.port.kind != aSupply || e.port.part != i {
				continue
			}
			total = total.plus(n.take(i, n.demand(k).times(n.fromPart(k, j)), n.railBehind(e)))
			load.FeedsPlan = load.FeedsPlan || !n.hostOnly(k)
			hostByLead = hostByLead || n.reaches(k, theHost)
		}
	}
	if n.hostSupply == i && !hostByLead {
		f := n.hostDraw()
		load.FeedsPlan = load.FeedsPlan || n.card(&f).High > 0
		total = total.plus(n.take(i, f, railOf(s, -1)))
	}
	for k := range n.rig.Route.Stages {
		if n.rig.Route.Stages[k].Supply == s.Name && s.Name != "" {
			load.FeedsPlan = true
			total = total.plus(n.take(i, n.stageDraw(k), railOf(s, -1)))
		}
	}
	load.flow = total
	load.Card = n.all(&total)
	load.Load = load.Card.Plus(total.host)
	load.Idle = n.idle(&total)
	for rail := range load.Rails {
		f := &n.byRail[rail]
		load.Rails[rail] = n.live(f).Plus(f.v33).AtMost(load.Load)
	}
	n.meter(i)
}

// take puts what flows out of a supply onto the rail behind it, and its 3.3 V onto theirs.
func (n *Network) take(i int, f flow, rail int) flow {
	s, load := &n.rig.Supplies[i], &n.Supplies[i]
	load.Used = true
	load.FeedsCard = load.FeedsCard || n.card(&f).High > 0
	at12 := f
	at12.v33 = Watts{}
	if rail >= 0 {
		n.byRail[rail] = n.byRail[rail].plus(at12)
	}
	if rail := onlyRail(s, 3.3); rail >= 0 {
		n.byRail[rail] = n.byRail[rail].plus(flow{v33: f.v33})
	}
	return f
}

// hostOnly reports a lead that ends at the host alone.
func (n *Network) hostOnly(i int) bool {
	for j := range n.Leads[i].To {
		if n.Leads[i].To[j].port.kind != theHost {
			return false
		}
	}
	return n.Slot.Stage >= 0 && !n.feedsFrom()
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

// ContactLoad is what goes through each contact of a mated end.
type ContactLoad struct {
	Live, Grounds                int // contacts of supply and of ground
	Lasting, Idle, Spike, Return Amps
}

// Contact works out the contacts of a mated end; false while nothing is known of
// them or nothing flows.
func (n *Network) Contact(e *EndLoad) (ContactLoad, bool) {
	if e.Fit == NoEntry || e.Fit == Unknown || e.Fit == Clashes || e.Load.High == 0 || n.Leads[e.lead].Volts == 0 {
		return ContactLoad{}, false
	}
	c := ContactLoad{Live: n.liveWires(e), Grounds: n.grounds(e)}
	amps := n.ampsOf(e.lead, e.Load)
	each := 1 / float64(c.Live)
	c.Lasting = amps.Times(each)
	c.Return = amps.Times(1 / float64(c.Grounds))
	card := n.CardPart(e.lead)
	c.Idle = n.ampsOf(e.lead, n.idleOf(e.Load.Times(card), e.Load.Times(1-card))).Times(each)
	takes := n.cardSpike()
	c.Spike = Amps{Low: amps.Low * units.Amp(1+card*(takes[0][0]-1)), High: amps.High * units.Amp(1+card*(takes[1][0]-1))}.Times(each)
	return c, true
}
