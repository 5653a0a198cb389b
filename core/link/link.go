// Package link works out the lanes a card really gets: width and speed by the
// least stage of the route, throughput, and what limits them.
package link

import (
	"math"
	"strconv"

	"kolvan/core/reference"
	"kolvan/core/rig"
	"kolvan/core/units"
)

// legalWidths are the widths a link can train to.
var legalWidths = [...]int{16, 8, 4, 2, 1}

// An Element is one thing the lanes pass: the slot, a stage, or the card.
type Element struct {
	Name  string
	Where string // JSON Pointer
	Lanes rig.Fact[int]
	Gen   rig.Fact[int]
	// Tunnel marks a tunnelled port: what its tunnel leaves is what limits, its
	// lanes and generation only where they are told.
	Tunnel bool
}

// Open reports lanes or a generation of the element that nobody knows, and that
// may be what limits.
func (e Element) Open(fact rig.Fact[int]) bool { return !fact.Known && !e.Tunnel }

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

	rig *rig.Rig
	ref *reference.Tables
}

// Known reports whether throughput is known.
func (p *Plan) Known() bool { return p.None || p.Net > 0 }

// For works out the plan of a rig.
func For(r *rig.Rig, ref *reference.Tables) *Plan {
	p := &Plan{rig: r, ref: ref}
	slot := r.Slot(r.Route.Slot)
	if slot == nil {
		return p
	}
	p.None = carriesNone(slot)
	p.gather(slot)
	p.width()
	p.speed()
	p.throughput(slot)
	return p
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
	at := "/host/slots/" + strconv.Itoa(rig.IndexOf(r.Host.Slots, slot))
	p.Elements = make([]Element, 0, len(r.Route.Stages)+2)
	p.Elements = append(p.Elements, Element{Name: slot.Name, Where: at, Lanes: slot.Lanes, Gen: slot.Gen, Tunnel: rig.Is(slot.Form, rig.Tunnel)})
	for i := range r.Route.Stages {
		s := &r.Route.Stages[i]
		p.Elements = append(p.Elements, Element{Name: s.Name, Where: "/route/stages/" + strconv.Itoa(i), Lanes: s.Lanes, Gen: s.Gen})
	}
	name := r.Card.Name
	if name == "" {
		name = "the card"
	}
	p.Elements = append(p.Elements, Element{Name: name, Where: "/card", Lanes: r.Card.Lanes, Gen: r.Card.Gen})
}

// least returns the place of the first element with the least value; known is
// false while any is open.
func least(elements []Element, value func(Element) rig.Fact[int]) (place int, known bool) {
	known = true
	for i, e := range elements {
		v := value(e)
		if !v.Known {
			known = known && !e.Open(v)
			continue
		}
		if best := value(elements[place]); !best.Known || v.Value < best.Value {
			place = i
		}
	}
	return place, known
}

func lanesOf(e Element) rig.Fact[int] { return e.Lanes }
func genOf(e Element) rig.Fact[int]   { return e.Gen }

func (p *Plan) width() {
	p.Narrowest, p.WidthKnown = least(p.Elements, lanesOf)
	if p.None || !p.WidthKnown {
		return
	}
	p.Width = Legal(p.Elements[p.Narrowest].Lanes.Value)
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
	if p.None || !known {
		return
	}
	p.Gen = p.Elements[slowest].Gen.Value
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
// carry least, and false while any is unknown.
func (p *Plan) Pinch() (Element, bool) {
	best, least, found := Element{}, units.GigabytePerSecond(0), false
	for _, e := range p.Elements {
		own, known := p.carries(e)
		if !known {
			return Element{}, false
		}
		if !found || own < least {
			best, least, found = e, own, true
		}
	}
	return best, found
}

// carries is what an element carries by itself.
func (p *Plan) carries(e Element) (own units.GigabytePerSecond, known bool) {
	own, known = units.GigabytePerSecond(math.Inf(1)), true
	if e.Tunnel {
		own, known = p.tunnelled(p.rig.Slot(p.rig.Route.Slot))
	}
	if e.Lanes.Known && e.Gen.Known {
		return min(own, Raw(p.ref, Legal(e.Lanes.Value), e.Gen.Value)), known
	}
	return own, known && e.Tunnel
}

// onRoute returns the least lanes and generation of slot and stages, the card
// left aside; 0 while any is open.
func (p *Plan) onRoute() (lanes, gen int) {
	route := p.Elements[:len(p.Elements)-1]
	if i, known := least(route, lanesOf); known {
		lanes = Legal(route[i].Lanes.Value)
	}
	if i, known := least(route, genOf); known {
		gen = min(route[i].Gen.Value, p.rig.Route.ForcedGen.Or(len(p.ref.Generations)))
	}
	return lanes, gen
}
