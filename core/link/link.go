// Package link works out the lanes a card really gets: width and speed by the
// least stage of the route, throughput, and what limits them.
package link

import (
	"math"
	"slices"

	"kolvan/core/reference"
	"kolvan/core/rig"
	"kolvan/core/units"
)

// legalWidths are the widths a link can train to.
var legalWidths = [...]int{16, 8, 4, 2, 1}

// An Element is one thing the lanes pass: the slot, a stage, or the card.
type Element struct {
	Name  string
	Where string        // JSON Pointer
	Lanes rig.Fact[int] // as told, or the lesser that its form can carry
	Gen   rig.Fact[int]
	// LaneEnds and GenEnds are what is known of them in spite of what is missing.
	LaneEnds, GenEnds units.Range[int]
	// Claimed says that more was told than the form can carry.
	Claimed Claim
	// Tunnel marks a tunnelled port: what its tunnel leaves is what limits, its
	// lanes and generation only where they are told.
	Tunnel bool
}

// A Claim is what was told of an element beyond what its form can carry; 0 where
// it was not.
type Claim struct{ Lanes, Gen, MostLanes, MostGen int }

// Open reports lanes or a generation of the element that nobody knows, and that
// may be what limits.
func (e *Element) Open(fact rig.Fact[int]) bool { return !fact.Known && !e.Tunnel }

// Plan is what the route will carry when it works as planned.
type Plan struct {
	Elements []Element // slot first, card last; empty without a slot
	None     bool      // the slot carries no PCIe at all

	Width      int // 0 while unknown, or when None
	WidthKnown bool
	Narrowest  int  // place in Elements of the first with the least lanes
	Gen        int  // 0 while unknown
	Slowest    int  // place in Elements of the first with the least generation
	Forced     bool // a forced generation is what limits

	Raw  units.GigabytePerSecond // 0 while unknown
	Net  units.GigabytePerSecond
	Fill units.Second // time to fill the card's memory; 0 while unknown

	// What is certain of width, generation and rates in spite of what is missing.
	WidthEnds, GenEnds units.Range[int]
	RawEnds, NetEnds   units.Range[units.GigabytePerSecond]

	rig     *rig.Rig
	ref     *reference.Tables
	margins [7]Margin // by generation, as far as they were asked for
}

// Known reports whether throughput is known.
func (p *Plan) Known() bool { return p.None || p.Net > 0 }

// HeldTo gives what the link of a rig carries when it is held to a generation, 0 for as it
// is.
func HeldTo(r *rig.Rig, ref *reference.Tables) func(gen int) units.Range[units.GigabytePerSecond] {
	return func(gen int) units.Range[units.GigabytePerSecond] {
		held := *r
		if gen > 0 {
			held.Route.ForcedGen = rig.Of(gen)
		}
		return For(&held, ref).NetEnds
	}
}

// For works out the plan of a rig.
func For(r *rig.Rig, ref *reference.Tables) *Plan {
	p := new(Plan)
	p.Work(r, ref)
	return p
}

// Work works out the plan of a rig in the room of the one before, which is lost.
func (p *Plan) Work(r *rig.Rig, ref *reference.Tables) {
	*p = Plan{rig: r, ref: ref, Elements: p.Elements[:0]}
	slot := r.Slot(r.Route.Slot)
	if slot == nil {
		return
	}
	p.None = carriesNone(slot) || unwired(r) >= 0
	p.gather(slot)
	p.bound(slot)
	p.width()
	p.speed()
	p.throughput(slot)
	p.ends(slot)
}

// Tables are those by which the plan was worked out.
func (p *Plan) Tables() *reference.Tables { return p.ref }

// unwired is the first stage of which it is told that it wires no lane, −1 for none.
func unwired(r *rig.Rig) int {
	return slices.IndexFunc(r.Route.Stages, func(s rig.Stage) bool { return rig.Is(s.Lanes, 0) })
}

func carriesNone(slot *rig.Slot) bool {
	if rig.Is(slot.Form, rig.MSATA) || rig.Is(slot.Lanes, 0) {
		return true
	}
	carries, known := slot.Carries.Get()
	if !known {
		return false
	}
	for _, c := range carries {
		if c == rig.PCIe {
			return false
		}
	}
	return true
}

func (p *Plan) gather(slot *rig.Slot) {
	r := p.rig
	at := rig.SlotPath(rig.IndexOf(r.Host.Slots, slot))
	p.Elements = slices.Grow(p.Elements, len(r.Route.Stages)+2)
	p.Elements = append(
		p.Elements,
		Element{Name: slot.Name, Where: at, Lanes: slot.Lanes, Gen: slot.Gen, Tunnel: rig.Is(slot.Form, rig.Tunnel)},
	)
	for i := range r.Route.Stages {
		s := &r.Route.Stages[i]
		p.Elements = append(p.Elements, Element{Name: s.Name, Where: rig.StagePath(i), Lanes: s.Lanes, Gen: s.Gen})
	}
	name := r.Card.Name
	if name == "" {
		name = "the card"
	}
	p.Elements = append(p.Elements, Element{Name: name, Where: "/card", Lanes: r.Card.Lanes, Gen: r.Card.Gen})
}

// bound holds every element to what its form can carry, and gives what nobody
// told the ends that leaves.
func (p *Plan) bound(slot *rig.Slot) {
	for i := range p.Elements {
		e := &p.Elements[i]
		most := carries{lanes: 16, gen: len(p.ref.Generations)}
		switch {
		case i == 0:
			most = most.and(p.carried(&slot.Form, &slot.Key, slot.Body()))
		case i == len(p.Elements)-1:
			most.lanes = min(most.lanes, p.rig.Card.EdgeLength().Or(most.lanes))
		default:
			s := &p.rig.Route.Stages[i-1]
			most = most.and(p.carried(&s.Plug.Form, &s.Plug.Key, s.Plug.Lanes)).and(p.carried(&s.Socket.Form, &s.Socket.Key, s.Socket.Lanes))
			if parts := s.Needs.Or(rig.SplitNone).Parts(); len(parts) > 1 {
				most.lanes = min(most.lanes, parts[min(s.Takes.Or(1), len(parts))-1])
			}
			if beside := p.rig.Beside(s); beside > 1 {
				most.lanes = p.sideBySide(slot, most.lanes, beside)
			}
		}
		least := 1
		if i == 0 && !slot.Carries.Known && mayLackPCIe(slot) {
			least = 0
		}
		e.LaneEnds, e.Claimed.Lanes = hold(&e.Lanes, least, most.lanes)
		e.GenEnds, e.Claimed.Gen = hold(&e.Gen, 1, most.gen)
		e.Claimed.MostLanes, e.Claimed.MostGen = most.lanes, most.gen
		if e.Tunnel {
			e.LaneEnds, e.GenEnds = open(e.Lanes, 16), open(e.Gen, len(p.ref.Generations))
		}
	}
}

// open: what a tunnelled port does not tell does not limit.
func open(f rig.Fact[int], most int) units.Range[int] { return units.Exactly(f.Or(most)) }

// hold keeps a told figure to the most there can be; claimed is what was told
// beyond it.
func hold(f *rig.Fact[int], least, most int) (ends units.Range[int], claimed int) {
	switch {
	case !f.Known:
		return units.Between(min(least, most), most), 0
	case f.Value > most:
		claimed, f.Value = f.Value, most
	}
	return units.Exactly(f.Value), claimed
}

// carries is what a body can carry at most.
type carries struct{ lanes, gen int }

func (c carries) and(o carries) carries {
	return carries{min(c.lanes, o.lanes), min(c.gen, o.gen)}
}

// carried is what a form can carry (reference, section 2).
func (p *Plan) carried(form *rig.Fact[rig.Form], key *rig.Fact[rig.Key], body rig.Fact[int]) carries {
	row := p.ref.Form(form.Value, key.Value)
	switch {
	case row == nil:
		return carries{16, len(p.ref.Generations)}
	case row.Body:
		return carries{min(row.Lanes, body.Or(row.Lanes)), row.Gen}
	default:
		return carries{row.Lanes, row.Gen}
	}
}

// sideBySide is what cables beside one another carry: all of them together, but no
// more than four lanes each way where the host is split into fours.
func (p *Plan) sideBySide(slot *rig.Slot, each, beside int) int {
	if rig.Is(slot.Split, true) {
		return min(4, each*beside)
	}
	return min(16, each*beside)
}

// ends works out what is certain of the whole in spite of what is missing.
func (p *Plan) ends(slot *rig.Slot) {
	if p.None {
		return
	}
	lanes, gen := p.Elements[0].LaneEnds, p.Elements[0].GenEnds
	for _, e := range p.Elements[1:] {
		lanes, gen = lanes.AtMost(e.LaneEnds), gen.AtMost(e.GenEnds)
	}
	if forced, told := p.rig.Route.ForcedGen.Get(); told {
		gen = gen.AtMost(units.Exactly(forced))
	}
	width := units.Between(Legal(lanes.Low), Legal(lanes.High))
	if trains := p.rig.Card.TrainsX2; !trains.Value {
		if width.Low == 2 {
			width.Low = 1
		}
		if width.High == 2 && trains.Known {
			width.High = 1
		}
	}
	p.WidthEnds, p.GenEnds = width, gen
	tunnel := p.tunnelEnds(slot)
	low, high := Raw(p.ref, width.Low, gen.Low), Raw(p.ref, width.High, gen.High)
	p.RawEnds = units.Between(low, high).AtMost(tunnel)
	p.NetEnds = units.Between(
		low*units.GigabytePerSecond(Efficiency(p.ref, gen.Low, p.rig.Route.Payload)),
		high*units.GigabytePerSecond(Efficiency(p.ref, gen.High, p.rig.Route.Payload)),
	).AtMost(tunnel)
}

// tunnelEnds is what the slot's tunnel may leave.
func (p *Plan) tunnelEnds(slot *rig.Slot) units.Range[units.GigabytePerSecond] {
	low, known := p.tunnelled(slot)
	if !rig.Is(slot.Form, rig.Tunnel) {
		return units.Exactly(low)
	}
	if !known {
		low = 0
	}
	high := units.GigabitPerSecond(0)
	for _, row := range p.ref.Tunnels {
		if (!slot.TunnelRate.Known || row.Class == slot.TunnelRate.Value) && (!row.Newer || !rig.Is(slot.TunnelNew, false)) {
			high = max(high, row.Payload)
		}
	}
	return units.Between(low, units.GigabytePerSecond(high/8))
}

// least returns the place of the first element that decides: with the least
// value, and of those one that is known; known is false while another may be
// less.
func least(elements []Element, of func(*Element) (told bool, ends units.Range[int])) (place int, known bool) {
	toldBest, best := of(&elements[0])
	for i := range elements {
		if told, ends := of(&elements[i]); ends.High < best.High || ends.High == best.High && told && !toldBest {
			place, toldBest, best = i, told, ends
		}
	}
	for i := range elements {
		if _, ends := of(&elements[i]); ends.Low < best.High {
			return place, false
		}
	}
	return place, true
}

func lanesOf(e *Element) (bool, units.Range[int]) { return e.Lanes.Known, e.LaneEnds }
func genOf(e *Element) (bool, units.Range[int])   { return e.Gen.Known, e.GenEnds }

func (p *Plan) width() {
	p.Narrowest, p.WidthKnown = least(p.Elements, lanesOf)
	if p.None || !p.WidthKnown {
		return
	}
	p.Width = Legal(p.Elements[p.Narrowest].LaneEnds.High)
	if p.Width == 2 && rig.Is(p.rig.Card.TrainsX2, false) {
		p.Width = 1
	}
}

// Legal is the widest legal width not above the wired lanes; 0 for none.
func Legal(wired int) int {
	for _, w := range legalWidths {
		if w <= wired {
			return w
		}
	}
	return 0
}

func (p *Plan) speed() {
	slowest, known := least(p.Elements, genOf)
	p.Slowest = slowest
	if forced, told := p.rig.Route.ForcedGen.Get(); told && !p.None && !known {
		for i := range p.Elements {
			e := &p.Elements[i]
			if e.GenEnds.Low < forced {
				return
			}
		}
		p.Gen, p.Forced = forced, true
		return
	}
	if p.None || !known {
		return
	}
	p.Gen = p.Elements[slowest].GenEnds.High
	if forced, ok := p.rig.Route.ForcedGen.Get(); ok && forced < p.Gen {
		p.Gen, p.Forced = forced, true
	}
}

func (p *Plan) throughput(slot *rig.Slot) {
	tunnel, known := p.tunnelled(slot)
	if p.None || !p.WidthKnown || p.Gen == 0 || !known {
		return
	}
	p.Raw = min(Raw(p.ref, p.Width, p.Gen), tunnel)
	p.Net = min(Raw(p.ref, p.Width, p.Gen)*units.GigabytePerSecond(Efficiency(p.ref, p.Gen, p.rig.Route.Payload)), tunnel)
	if memory, ok := p.rig.Card.Memory.Get(); ok && p.Net > 0 {
		p.Fill = units.Second(float64(memory) * units.BytesPerGibibyte / 1e9 / float64(p.Net))
	}
}

// tunnelled is what the slot's tunnel leaves for payload, no end of it where
// there is no tunnel; false while its class is unknown. An unknown controller
// counts as an older one.
func (p *Plan) tunnelled(slot *rig.Slot) (units.GigabytePerSecond, bool) {
	if !rig.Is(slot.Form, rig.Tunnel) {
		return units.GigabytePerSecond(math.Inf(1)), true
	}
	payload, known := p.ref.TunnelPayload(slot.TunnelRate.Value, rig.Is(slot.TunnelNew, true))
	return units.GigabytePerSecond(payload / 8), known
}

// Raw is the rate of that many lanes of a generation, one direction, before
// packets: lanes × the rate of one lane.
func Raw(ref *reference.Tables, lanes, gen int) units.GigabytePerSecond {
	row, ok := ref.Generation(gen)
	if !ok {
		return 0
	}
	return units.GigabytePerSecond(float64(lanes) * row.MBPerLane / 1000)
}

// Efficiency is the share of the raw rate left for payload: MPS/(MPS+24) with
// 64-bit addresses, times what acknowledgements leave. Gen 6 has its packets'
// share in the raw rate already.
func Efficiency(ref *reference.Tables, gen int, payload rig.Fact[int]) float64 {
	if row, ok := ref.Generation(gen); ok && row.Flits {
		return ref.PacketTraffic
	}
	mps := float64(payload.Or(int(ref.PacketPayload)))
	return mps / (mps + ref.PacketOverhead) * ref.PacketTraffic
}

// Pinch is the first element whose own lanes at its own speed, or own tunnel,
// carry least, and false while another may carry less.
func (p *Plan) Pinch() (Element, bool) {
	if p.None || len(p.Elements) == 0 {
		return Element{}, false
	}
	best, least := 0, p.own(&p.Elements[0])
	for i := range p.Elements {
		if own := p.own(&p.Elements[i]); own.High < least.High {
			best, least = i, own
		}
	}
	for i := range p.Elements {
		e := &p.Elements[i]
		if p.own(e).Low < least.High {
			return Element{}, false
		}
	}
	return p.Elements[best], true
}

// own is what an element carries by itself.
func (p *Plan) own(e *Element) units.Range[units.GigabytePerSecond] {
	own := units.Between(Raw(p.ref, Legal(e.LaneEnds.Low), e.GenEnds.Low), Raw(p.ref, Legal(e.LaneEnds.High), e.GenEnds.High))
	if e.Tunnel {
		own = own.AtMost(p.tunnelEnds(p.rig.Slot(p.rig.Route.Slot)))
	}
	return own
}
