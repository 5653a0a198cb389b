package power

import (
	"fmt"
	"slices"

	"kolvan/core/rig"
	"kolvan/core/units"
)

// WirePlan is one wire of a lead made by oneself, worked out.
type WirePlan struct {
	rig.Conductor
	Gives, Wants string // what its two pins carry; "" while nobody knows
	Bad          bool   // they must not be joined
	Flows        bool   // it carries a load, or its return
	Amps         Amps
	Limit        units.Amp // of its gauge; 0 while that is not known
}

// HarnessPlan is a lead made by oneself, worked out.
type HarnessPlan struct {
	Wires []WirePlan
	// Gauge is the thinnest that carries the current and holds the drop; 0 where
	// none of the table does.
	Gauge   int
	Drop    units.Volt // at the gauge told, else at the one chosen
	Volts   units.Volt
	Dropped bool      // the drop is known
	Fuse    units.Amp // 0 where none goes between load and wire
	Amps    Amps      // through the source ends together
}

// fuses are the sizes fuses are sold in.
var fuses = []units.Amp{1, 2, 3, 4, 5, 7.5, 10, 15, 20, 25, 30, 40}

// Of the current a fuse is meant to hold for good, and of the voltage a wire of
// one's own should lose (P).
const (
	fuseTimes  = 1.25
	ownDrop    = 0.03
	ownLength  = units.Millimetre(500) // while the length is not told
	thinnestOf = 24
)

// Harness works out a lead made by oneself.
func (n *Network) Harness(i int) HarnessPlan {
	lead, load := &n.rig.Leads[i], &n.Leads[i]
	p := HarnessPlan{Volts: load.Volts}
	for j := range load.To {
		p.Amps = p.Amps.Plus(n.meantFor(&load.To[j]))
	}
	for k := range lead.Wires {
		p.Wires = append(p.Wires, n.wirePlan(i, &lead.Wires[k]))
	}
	p.Gauge = n.chosenGauge(i, p)
	gauge, told := n.thinnest(i)
	if !told {
		gauge = p.Gauge
	}
	if gauge > 0 && load.Volts > 0 && len(load.From) > 0 && len(load.To) > 0 {
		p.Drop, p.Dropped = n.ownDrop(i, gauge), true
	}
	p.Fuse = n.chosenFuse(i, p, gauge)
	return p
}

// meantFor is what an end of a lead of one's own has to carry: its load, or what
// its plug promises while it goes nowhere yet.
func (n *Network) meantFor(e *EndLoad) Amps {
	if row := e.plugRow; e.port.kind == nothing && e.Load.High == 0 && row != nil {
		return units.Exactly(row.Plan.Over(twelve))
	}
	return n.ampsOf(e.lead, e.Load)
}

func (n *Network) wirePlan(i int, w *rig.Conductor) WirePlan {
	p := WirePlan{Conductor: *w, Gives: n.given(i, w), Wants: n.taken(i, w)}
	p.Bad = p.Gives != "" && p.Wants != "" && (p.Gives == "open" || p.Wants == "open" || clashes(p.Gives, p.Wants))
	to := &n.Leads[i].To[w.ToEnd-1]
	for _, carries := range []func(string) bool{isLive, isGround} {
		if carries(p.Gives) && carries(p.Wants) {
			p.Flows = true
			p.Amps = n.meantFor(to).Times(1 / float64(max(1, n.wiresAt(to, carries))))
		}
	}
	gauge := w.Gauge
	if !gauge.Known {
		gauge = n.rig.Leads[i].Gauge
	}
	if gauge.Known {
		p.Limit = n.gaugeLimit(to, gauge.Value)
	}
	return p
}

// chosenGauge is the thinnest of the table, from AWG 24 on, that carries the
// current of every wire and loses no more than it should.
func (n *Network) chosenGauge(i int, p HarnessPlan) int {
	for k := range slices.Backward(n.ref.Wires) {
		gauge := n.ref.Wires[k].Gauge
		if gauge > thinnestOf {
			continue
		}
		carries := true
		for _, w := range p.Wires {
			carries = carries && !over(w.Amps.High, n.gaugeLimit(&n.Leads[i].To[w.ToEnd-1], gauge))
		}
		if carries && (p.Volts == 0 || !over(n.ownDrop(i, gauge), p.Volts*ownDrop)) {
			return gauge
		}
	}
	return 0
}

// ownDrop is what the lead loses at a gauge, there and back, its contacts counted.
func (n *Network) ownDrop(i, gauge int) units.Volt {
	load := &n.Leads[i]
	length := n.rig.Leads[i].Length.Or(ownLength)
	worst := units.Volt(0)
	for j := range load.To {
		to := &load.To[j]
		ohm := n.ref.Wire(gauge).OhmPerM * float64(length) / 1000 * (1/float64(n.liveWires(to)) + 1/float64(n.grounds(to)))
		ohm += n.contactsOhm(to) + n.contactsOhm(&load.From[0])
		worst = max(worst, units.Volt(float64(n.meantFor(to).High)*ohm))
	}
	return worst
}

// contactsOhm is the resistance of a mated pair, there and back.
func (n *Network) contactsOhm(e *EndLoad) float64 {
	r := contactOhm
	if e.plugRow.OrNone().Coaxial {
		r = barrelOhm
	}
	return r * (1/float64(n.liveWires(e)) + 1/float64(n.grounds(e)))
}

// chosenFuse is the smallest fuse that holds the load for good and gives way
// before the wires.
func (n *Network) chosenFuse(i int, p HarnessPlan, gauge int) units.Amp {
	carries := units.Amp(0)
	for k := range p.Wires {
		if isLive(p.Wires[k].Gives) && gauge > 0 {
			carries += n.gaugeLimit(&n.Leads[i].From[p.Wires[k].FromEnd-1], gauge)
		}
	}
	for _, fuse := range fuses {
		if float64(fuse) >= fuseTimes*float64(p.Amps.High) && fuse <= carries {
			return fuse
		}
	}
	return 0
}

// MeterLine is one thing to measure on a harness before it is joined to anything.
type MeterLine struct {
	ID, Do, Shows string
	Live          bool // its supply is on
}

// MeterList is what to measure on a lead made by oneself, in order: every wire,
// then that nothing else is joined, then what comes out of it.
func (n *Network) MeterList(i int) (list []MeterLine) {
	lead, load := &n.rig.Leads[i], &n.Leads[i]
	if len(lead.Wires) == 0 {
		return nil
	}
	for _, w := range lead.Wires {
		list = append(list, MeterLine{ID: fmt.Sprintf("wire %d/%d %d/%d", w.FromEnd, w.FromPin, w.ToEnd, w.ToPin),
			Do: fmt.Sprintf(
				"Both ends unplugged, probes on pin %d of %s and pin %d of %s", w.FromPin, n.endWords(&load.From[w.FromEnd-1]),
				w.ToPin, n.endWords(&load.To[w.ToEnd-1]),
			),
			Shows: "it beeps, under 1 Ω, and stays so when the lead is bent"})
	}
	for j := range load.To {
		list = append(list, MeterLine{ID: fmt.Sprintf("short %d", j+1),
			Do: "Both ends unplugged, one probe on each supply pin of " + n.endWords(
				&load.To[j],
			) + ", the other on ground and then on every other pin it does not share a wire with",
			Shows: "no beep anywhere"})
	}
	for j := range load.To {
		e := &load.To[j]
		for _, w := range lead.Wires {
			if w.ToEnd == j+1 && n.mayBeLive(i, &w) {
				list = append(list, MeterLine{ID: fmt.Sprintf("volts %d/%d", j+1, w.ToPin), Live: true,
					Do: fmt.Sprintf(
						"Only the source plugged in and on, red probe on pin %d of %s, black on one of its ground pins", w.ToPin,
						n.endWords(e),
					),
					Shows: n.readsWords(i, &w)})
			}
		}
	}
	return list
}

// mayBeLive reports a wire with supply on one of its pins.
func (n *Network) mayBeLive(i int, w *rig.Conductor) bool {
	return isSupply(n.taken(i, w)) || isSupply(n.given(i, w))
}

// meterLines counts the lines of MeterList without writing them.
func (n *Network) meterLines(i int) int {
	wires := n.rig.Leads[i].Wires
	if len(wires) == 0 {
		return 0
	}
	lines := len(wires) + len(n.rig.Leads[i].To)
	for k := range wires {
		if n.mayBeLive(i, &wires[k]) {
			lines++
		}
	}
	return lines
}

// readsWords is what a meter should show at the load pin of a wire.
func (n *Network) readsWords(i int, w *rig.Conductor) string {
	name := n.given(i, w)
	if isLive(name) {
		v := n.Leads[i].Volts
		if v == 0 {
			return "the voltage of the source, and no minus sign"
		}
		return fmt.Sprintf("%v to %v, and no minus sign", v*0.95, v*1.05)
	}
	return name + " V within 5 %, and no minus sign"
}

// endWords names an end of a lead by its plug and what it goes into.
func (n *Network) endWords(e *EndLoad) string {
	plug := rig.Spoken(e.Plug)
	if plug == "" {
		plug = "the plug"
	}
	ends := n.rig.Leads[e.lead].To
	if e.source {
		ends = n.rig.Leads[e.lead].From
	}
	if part := ends[e.at].Part; part != "" {
		return "the " + plug + " for " + part
	}
	return "the free " + plug
}

// Alike proposes the wires of a lead that join what carries the same, each pin
// once: what the load's pins want, from the first free pin of a source that has it.
func (n *Network) Alike(i int) (wires []rig.Conductor) {
	load := &n.Leads[i]
	type place struct{ end, pin int }
	used := map[place]bool{}
	for k := range load.To {
		for pin, wants := range n.plugPins(&load.To[k]) {
			if name := n.touched(&load.To[k], pin+1); name != "" && name != "open" {
				wants = name
			}
			if wants == "" || wants == "none" {
				continue
			}
			if end, at, found := n.freePin(i, wants, func(end, pin int) bool { return used[place{end, pin}] }); found {
				used[place{end, at}] = true
				wires = append(wires, rig.Conductor{FromEnd: end + 1, FromPin: at, ToEnd: k + 1, ToPin: pin + 1})
			}
		}
	}
	return wires
}

// freePin is the first pin of a source end that carries such a thing and has no
// wire yet.
func (n *Network) freePin(i int, carries string, used func(end, pin int) bool) (end, pin int, found bool) {
	for j := range n.Leads[i].From {
		for k := range n.plugPins(&n.Leads[i].From[j]) {
			if n.touched(&n.Leads[i].From[j], k+1) == carries && !used(j, k+1) {
				return j, k + 1, true
			}
		}
	}
	return 0, 0, false
}
