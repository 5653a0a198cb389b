// Package power works out who feeds whom: the sustained load of every load,
// lead, connector, rail and supply of a rig, and judges it.
//
// Loads come from the card's board power by the worst case for each question
// (see Slot and Plugs); they are followed upstream through leads and docks to
// the supplies. Contacts in parallel on one plane share evenly.
package power

import (
	"slices"
	"strconv"

	"kolvan/core/reference"
	"kolvan/core/rig"
	"kolvan/core/units"
)

// Watts is a power that may be unknown.
type Watts struct {
	units.Watt
	Known bool
}

func known(w units.Watt) Watts { return Watts{w, true} }

func (w Watts) plus(o Watts) Watts { return Watts{w.Watt + o.Watt, w.Known && o.Known} }

func (w Watts) times(share float64) Watts { return Watts{w.Watt * units.Watt(share), w.Known} }

// flow is what passes a place, the card's part kept apart so that it can be held
// to what the card takes in all.
type flow struct{ card, host Watts }

func (f flow) plus(o flow) flow         { return flow{f.card.plus(o.card), f.host.plus(o.host)} }
func (f flow) times(share float64) flow { return flow{f.card.times(share), f.host.times(share)} }
func (f flow) sum() Watts               { return f.card.plus(f.host) }

var nothing = flow{known(0), known(0)}

// SlotLoad is what the card takes through its slot, worst case unless measured.
type SlotLoad struct {
	At12  Watts
	At3V3 Watts
	// Stage is the place of the stage that feeds the slot itself, or −1 when the
	// host's slot does.
	Stage int
	Where string // JSON Pointer of what feeds it
	Name  string
}

// Total is the whole share of the slot.
func (s SlotLoad) Total() Watts { return s.At12.plus(s.At3V3) }

// PlugLoad is what one of the card's plugs takes.
type PlugLoad struct {
	Load Watts
	Fed  bool
}

// Fit says what is known of how two connectors go together.
type Fit int

// The cases of two connectors.
const (
	Mates    Fit = iota // they mate and the capacity is known
	Clashes             // the shells mate, but supply meets ground or another voltage
	Unstated            // only the part could say what it carries, and does not
	Unknown             // a connector is not known
	NoEntry             // the plug does not enter
)

// EndLoad is one mated end of a lead.
type EndLoad struct {
	Load   Watts
	Fit    Fit
	Cap    reference.Capacity
	Plug   rig.Connector // the plug that enters
	Socket rig.Connector
	Where  string // JSON Pointer of the end
	Needs  string // JSON Pointer of the fact that is missing
}

// LeadLoad is one lead.
type LeadLoad struct {
	Load    Watts
	Volts   units.Volt // 0 while unknown
	From    []EndLoad
	To      []EndLoad
	Carries units.Amp // what its source ends together carry, followed to the source
	Certain bool      // Carries is known

	flow    flow
	reached bool
}

// Amps is the lead's current; 0 while unknown.
func (l LeadLoad) Amps() units.Amp { return l.Load.Over(l.Volts) }

// Plain reports a straight lead with the same connector on both ends.
func (l *LeadLoad) Plain() bool {
	return len(l.From) == 1 && len(l.To) == 1 && l.From[0].Plug == l.To[0].Plug
}

// SupplyLoad is one supply.
type SupplyLoad struct {
	Load      Watts
	Rating    Watts
	Rails     []units.Watt // load on each rail
	FeedsCard bool
	Used      bool
}

// Share is load over rating; false while either is unknown.
func (s SupplyLoad) Share() (float64, bool) {
	if !s.Load.Known || !s.Rating.Known || s.Rating.Watt <= 0 {
		return 0, false
	}
	return float64(s.Load.Watt) / float64(s.Rating.Watt), true
}

// Network is the feed network of a rig with all its loads.
type Network struct {
	Slot     SlotLoad
	Plugs    []PlugLoad
	Host     Watts
	Leads    []LeadLoad
	Supplies []SupplyLoad

	rig  *rig.Rig
	ref  *reference.Tables
	most Watts // what the card takes in all, conversions included
}

// For works out the network of a rig that has passed rig.Validate.
func For(r *rig.Rig, ref *reference.Tables) *Network {
	n := &Network{rig: r, ref: ref}
	n.Leads = make([]LeadLoad, len(r.Leads))
	for i := range r.Leads {
		n.mateEnds(i)
	}
	n.Slot = n.slotLoad()
	n.Plugs = n.plugLoads()
	n.Host = factWatts(r.Host.Power)
	n.most = factWatts(r.Card.Power).plus(n.conversion())
	for i := range r.Leads {
		n.carry(i)
	}
	for i := range r.Leads {
		n.demand(i)
	}
	for i := range r.Leads {
		n.loadSources(i)
	}
	n.Supplies = make([]SupplyLoad, len(r.Supplies))
	for i := range r.Supplies {
		n.supply(i)
	}
	return n
}

func factWatts(f rig.Fact[units.Watt]) Watts { return Watts{f.Value, f.Known} }

// slotLoad: a card without plugs takes min(P, 66 W) at 12 V and the rest at
// 3.3 V; one with plugs may take all the standard allows. A measured share goes
// before both.
func (n *Network) slotLoad() SlotLoad {
	s := n.slotFeeder()
	card := &n.rig.Card
	whole := factWatts(card.SlotShare)
	switch {
	case whole.Known:
	case len(card.Plugs) > 0:
		s.At12, s.At3V3 = known(n.ref.Slot12V), known(n.ref.Slot3V3)
		return s
	case card.Plugs != nil:
		whole = factWatts(card.Power)
	}
	s.At12 = Watts{min(whole.Watt, n.ref.Slot12V), whole.Known}
	s.At3V3 = Watts{max(0, whole.Watt-n.ref.Slot12V), whole.Known}
	return s
}

// slotFeeder finds what feeds the card's slot: the last stage, when it is a dock
// or has inlets, else the host's slot.
func (n *Network) slotFeeder() SlotLoad {
	stages := n.rig.Route.Stages
	if last := len(stages) - 1; last >= 0 {
		s := &stages[last]
		if rig.Is(s.Kind, rig.Dock) || len(s.Inlets) > 0 {
			return SlotLoad{Stage: last, Where: "/route/stages/" + strconv.Itoa(last), Name: s.Name}
		}
	}
	slot := n.rig.Slot(n.rig.Route.Slot)
	if slot == nil {
		return SlotLoad{Stage: -1, Where: "/route/slot", Name: "the slot"}
	}
	return SlotLoad{Stage: -1, Where: "/host/slots/" + strconv.Itoa(rig.IndexOf(n.rig.Host.Slots, slot)), Name: slot.Name}
}

// conversion is the loss of making the card's tensions from another one, at the
// most.
func (n *Network) conversion() Watts {
	loss := 1/n.ref.ConversionShare - 1
	switch {
	case n.dockConverts():
		return factWatts(n.rig.Card.Power).times(loss)
	case n.makes3V3():
		return n.Slot.At3V3.times(loss)
	case n.Slot.Stage < 0 && n.hostConverts():
		return n.Slot.Total().times(loss)
	default:
		return known(0)
	}
}

// makes3V3 reports a dock that makes the slot's 3.3 V from what feeds it.
func (n *Network) makes3V3() bool {
	return n.Slot.Stage >= 0 && rig.Is(n.rig.Route.Stages[n.Slot.Stage].Makes3V3, true)
}

// dockConverts reports a dock fed at another tension than 12 V, which has to make
// its 12 V itself.
func (n *Network) dockConverts() bool {
	if n.Slot.Stage < 0 {
		return false
	}
	for i := range n.rig.Leads {
		if n.rig.Leads[i].EndsAt(n.Slot.Name) && n.converts(i) {
			return true
		}
	}
	return false
}

// converts reports a lead known to bring another tension than the card's.
func (n *Network) converts(lead int) bool { return isOther(n.Leads[lead].Volts) }

// isOther reports a tension that is known and from which a card's 12 V must be
// made.
func isOther(v units.Volt) bool { return v != 0 && v != 12 }

// hostConverts reports a host fed at another tension than 12 V, which has to
// make the slot's 12 V itself.
func (n *Network) hostConverts() bool {
	s := n.rig.Supply(n.rig.Host.Supply)
	return s != nil && len(s.Rails) == 1 && isOther(s.Rails[0].Voltage.Value)
}

// plugLoads: plug i takes Rᵢ · min(1, (P − 45 W)/ΣR), unless measured.
func (n *Network) plugLoads() []PlugLoad {
	card := &n.rig.Card
	loads := make([]PlugLoad, len(card.Plugs))
	sum := n.plugRatings()
	for i := range card.Plugs {
		plug := &card.Plugs[i]
		if plug.Power.Known {
			loads[i].Load = known(plug.Power.Value)
			continue
		}
		if !sum.Known || !card.Power.Known || sum.Watt <= 0 {
			continue
		}
		share := min(1, max(0, float64((card.Power.Value-n.ref.SlotLeast)/sum.Watt)))
		loads[i].Load = n.plugRating(plug).times(share)
	}
	return loads
}

func (n *Network) plugRatings() Watts {
	sum := known(0)
	for i := range n.rig.Card.Plugs {
		sum = sum.plus(n.plugRating(&n.rig.Card.Plugs[i]))
	}
	return sum
}

func (n *Network) plugRating(plug *rig.CardPlug) Watts {
	c := n.ref.Connector(plug.Connector.Value)
	switch {
	case c == nil || c.Stated:
		return Watts{}
	case c.Sensed:
		return factWatts(n.announced(plug))
	default:
		return known(c.Rating)
	}
}

// demand works out the load of lead i from everything downstream of it, once.
func (n *Network) demand(i int) flow {
	lead, load := &n.rig.Leads[i], &n.Leads[i]
	if load.reached {
		return load.flow
	}
	load.reached = true
	total := nothing
	for j := range lead.To {
		f := n.endDemand(i, j)
		load.To[j].Load = f.sum()
		total = total.plus(f)
	}
	load.flow = n.capped(total)
	load.Load = load.flow.sum()
	return load.flow
}

// loadSources gives the source ends of lead i their loads: all that hangs on the
// outlet they are plugged into, by whatever leads, where that is told.
func (n *Network) loadSources(i int) {
	for j, end := range n.rig.Leads[i].From {
		f := n.Leads[i].flow.times(n.fromPart(i, j))
		if end.At != "" {
			f = n.capped(n.drawnFrom(end.Part, end.At))
		}
		n.Leads[i].From[j].Load = f.sum()
	}
}

// fromPart is the share of source end j among all source ends of lead i.
func (n *Network) fromPart(i, j int) float64 {
	contacts := 0
	for _, end := range n.Leads[i].From {
		contacts += weight(end)
	}
	return float64(weight(n.Leads[i].From[j])) / float64(contacts)
}

// weight is an end's part in an even sharing among contacts.
func weight(end EndLoad) int { return max(1, end.Cap.Contacts) }

// capped holds the card's part to what the card takes in all.
func (n *Network) capped(f flow) flow {
	if n.most.Known && f.card.Watt > n.most.Watt {
		f.card.Watt = n.most.Watt
	}
	return f
}

// endDemand is what end j of lead i has to deliver.
func (n *Network) endDemand(i, j int) flow {
	lead := &n.rig.Leads[i]
	end := &lead.To[j]
	if n.Leads[i].To[j].Fit == NoEntry {
		return nothing
	}
	switch end.Part {
	case "":
		return n.drawnFrom(lead.Name, end.At)
	case rig.HostPart:
		return n.hostDraw().times(n.partOf(i, j))
	case rig.CardPart:
		return flow{n.plugDraw(end.At), known(0)}.times(n.partOf(i, j))
	default:
		return n.dockDraw(end.Part).times(n.partOf(i, j))
	}
}

// partOf is the share of end j of lead i among all ends at the same load. The
// inlets of a dock are one plane; a plug of the card is a load of its own.
func (n *Network) partOf(i, j int) float64 {
	at := n.rig.Leads[i].To[j]
	all := 0
	for k := range n.rig.Leads {
		for m, end := range n.rig.Leads[k].To {
			same := end.Part == at.Part && (at.Part != rig.CardPart || end.At == at.At)
			if same && n.Leads[k].To[m].Fit != NoEntry {
				all += weight(n.Leads[k].To[m])
			}
		}
	}
	return float64(weight(n.Leads[i].To[j])) / float64(all)
}

func (n *Network) plugDraw(name string) Watts {
	for i := range n.rig.Card.Plugs {
		if n.rig.Card.Plugs[i].Name == name || name == "" && len(n.rig.Card.Plugs) == 1 {
			return n.Plugs[i].Load
		}
	}
	return Watts{}
}

// dockDraw is what a dock takes at its inlets: the slot, and what its outlets
// pass on.
func (n *Network) dockDraw(name string) flow {
	f := n.capped(n.drawnFrom(name, ""))
	if n.Slot.Stage < 0 || n.rig.Route.Stages[n.Slot.Stage].Name != name {
		return f
	}
	f.card = f.card.plus(n.Slot.At12)
	switch {
	case n.dockConverts():
		if n.makes3V3() {
			f.card = f.card.plus(n.Slot.At3V3)
		}
		f = f.times(1 / n.ref.ConversionShare)
	case n.makes3V3():
		f.card = f.card.plus(n.Slot.At3V3.times(1 / n.ref.ConversionShare))
	}
	return n.capped(f)
}

// hostDraw is the host's own load and, in one of its own slots, the card's.
func (n *Network) hostDraw() flow {
	f := flow{known(0), n.Host}
	if n.Slot.Stage < 0 && n.rig.Route.Slot != "" {
		f.card = n.Slot.Total().plus(n.conversion())
	}
	return f
}

// drawnFrom sums the leads plugged into an outlet of a part; every outlet for
// an empty name.
func (n *Network) drawnFrom(part, outlet string) flow {
	f := nothing
	for i := range n.rig.Leads {
		for j, end := range n.rig.Leads[i].From {
			if end.Part == part && (outlet == "" || end.At == outlet) {
				f = f.plus(n.demand(i).times(n.fromPart(i, j)))
			}
		}
	}
	return f
}

func (n *Network) supply(i int) {
	s := &n.rig.Supplies[i]
	load := &n.Supplies[i]
	load.Rating = factWatts(s.Rating)
	load.Rails = make([]units.Watt, len(s.Rails))
	total := nothing
	for k := range n.rig.Leads {
		for j, end := range n.rig.Leads[k].From {
			if end.Part != s.Name {
				continue
			}
			f := n.demand(k).times(n.fromPart(k, j))
			total = total.plus(f)
			load.FeedsCard = load.FeedsCard || f.card.Watt > 0 || !f.card.Known
			load.Used = true
			if rail := railOf(s, end.At); rail >= 0 {
				load.Rails[rail] += f.sum().Watt
			}
		}
	}
	if n.rig.Host.Supply == s.Name {
		f := n.hostDraw()
		total = total.plus(f)
		load.Used = true
		load.FeedsCard = load.FeedsCard || f.card.Watt > 0
		if rail := railOf(s, ""); rail >= 0 {
			load.Rails[rail] += f.sum().Watt
		}
	}
	if n.gives3V3(s.Name) {
		total.card = total.card.plus(n.Slot.At3V3)
		if rail := slices.IndexFunc(s.Rails, func(r rig.Rail) bool { return rig.Is(r.Voltage, 3.3) }); rail >= 0 {
			load.Rails[rail] += n.Slot.At3V3.Watt
		}
	}
	total = n.capped(total)
	load.Load = total.sum()
	for rail := range load.Rails {
		load.Rails[rail] = min(load.Rails[rail], load.Load.Watt)
	}
}

// gives3V3 reports a supply that feeds the card's dock through a connector with
// 3.3 V on it, where the dock does not make its own.
func (n *Network) gives3V3(supply string) bool {
	if n.Slot.Stage < 0 || !rig.Is(n.rig.Route.Stages[n.Slot.Stage].Makes3V3, false) {
		return false
	}
	for i := range n.rig.Leads {
		lead := &n.rig.Leads[i]
		if !lead.EndsAt(n.Slot.Name) || len(lead.From) == 0 || lead.From[0].Part != supply {
			continue
		}
		if slices.Contains(n.Pins(n.Leads[i].To[0].Plug), "+3.3") {
			return true
		}
	}
	return false
}

// railOf returns the place of the rail behind an outlet: the one it names, else
// the only 12 V rail, else the only rail; −1 where that is open.
func railOf(s *rig.Supply, outlet string) int {
	for i := range s.Outlets {
		if s.Outlets[i].Name == outlet && s.Outlets[i].Rail != "" {
			for j := range s.Rails {
				if s.Rails[j].Name == s.Outlets[i].Rail {
					return j
				}
			}
		}
	}
	if len(s.Rails) == 1 {
		return 0
	}
	twelve := -1
	for j := range s.Rails {
		if !rig.Is(s.Rails[j].Voltage, 12) {
			continue
		}
		if twelve >= 0 {
			return -1
		}
		twelve = j
	}
	return twelve
}
