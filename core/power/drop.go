package power

import (
	"slices"

	"kolvan/core/finding"
	"kolvan/core/rig"
	"kolvan/core/units"
)

// contactOhm and barrelOhm are the resistance of a mated contact (T).
const (
	contactOhm = 0.006
	barrelOhm  = 0.020
)

// dropShare is how far a 12 V rail may fall at the load.
const dropShare = 0.05

// judgeDrop adds up the fall of voltage from the supply to every load, piece by piece, as
// far as gauge and length are told. A gauge that is not told may be as thin as leads have it.
func judgeDrop(r *finding.Rule, n *Network, out *finding.List) {
	if !slices.ContainsFunc(n.rig.Leads, func(l rig.Lead) bool { return l.Length.Known }) {
		return // nothing is known of any
	}
	n.eachLoad(func(lead int, e *EndLoad) {
		volts := n.Leads[lead].Volts
		if volts == 0 {
			return
		}
		drop, ungauged := n.drop(lead, 0)
		limit := units.Volt(dropShare) * volts
		switch drop.Over(units.Exactly(limit)) {
		case units.Always:
			if out.Fires(
				r, finding.Risk, e.Where(),
				finding.Numbers{{Name: "drop_v", Value: float64(drop.Low)}, {Name: "limit_v", Value: float64(limit)}},
			) {
				out.Say(
					"%s: %v of %v are lost on the way to %s; %v are allowed.", n.rig.Leads[lead].Name, drop.Low, volts, n.loadWords(e),
					limit,
				)
			}
		case units.Sometimes:
			if ungauged >= 0 {
				out.Need(
					r, rig.LeadPath(ungauged)+"/gauge_awg", "the gauge of the wires of "+n.rig.Leads[ungauged].Name,
					"Read the print on them.", "whether "+n.loadWords(e)+" gets its voltage",
				)
			}
		}
	})
}

// Volts is a fall of voltage, as far as it is known.
type Volts = units.Range[units.Volt]

// drop is I · [length · ρ · (1/n₊ + 1/n₋) + Σ r · (1/m₊ + 1/m₋)] of a lead, and of what is
// above it: through a lead, or through the plane of a dock. ungauged is the first lead on the
// way whose gauge it hangs on, −1 for none.
func (n *Network) drop(lead, depth int) (fall Volts, ungauged int) {
	if depth > len(n.Leads) {
		return Volts{}, -1
	}
	fall, gauged := n.pieceDrop(lead)
	above, open := n.dropAbove(lead, depth)
	if !gauged {
		open = lead
	}
	return fall.Plus(above), open
}

// pieceDrop is that of a lead itself: nothing is known of it without its length, and little
// without its gauge, which may be as thin as adapters have it.
func (n *Network) pieceDrop(lead int) (fall Volts, gauged bool) {
	l, load := &n.rig.Leads[lead], &n.Leads[lead]
	if !l.Length.Known || len(load.From) != 1 || len(load.To) == 0 || load.Volts == 0 {
		return Volts{}, true
	}
	from := &load.From[0]
	ways := 1/float64(n.liveWires(from)) + 1/float64(n.grounds(from))
	contacts := n.contactsOhm(from) + n.contactsOhm(&load.To[0])
	amps := n.ampsOf(lead, load.Load)
	volts := func(amps units.Amp, wire float64) units.Volt { return units.Volt(float64(amps) * (wire + contacts)) }
	wire := func(gauge int) float64 { return n.ref.Wire(gauge).OhmPerM * float64(l.Length.Value) / 1000 * ways }
	if gauge, told := n.thinnest(lead); told {
		return Volts{Low: volts(amps.Low, wire(gauge)), High: volts(amps.High, wire(gauge))}, true
	}
	return Volts{Low: volts(amps.Low, 0), High: volts(amps.High, wire(adapterGauge))}, false
}

// hostMakesItsOwn reports a host that is fed at another voltage than it gives: what was lost
// before it is made good.
func (n *Network) hostMakesItsOwn() bool {
	return slices.ContainsFunc(n.rig.Host.Inlets, func(in rig.Inlet) bool { return isOther(in.Voltage.Value) })
}

// dropAbove is what is lost before the source end of a lead: on the lead that it hangs on, or
// on the one that loses least of those that feed the dock, or the host, it comes from.
func (n *Network) dropAbove(lead, depth int) (least Volts, ungauged int) {
	if len(n.Leads[lead].From) != 1 {
		return Volts{}, -1
	}
	up := n.Leads[lead].From[0].port
	if up.kind == aLead {
		return n.drop(up.part, depth+1)
	}
	ungauged = -1
	if up.kind != aStage && (up.kind != theHost || n.hostMakesItsOwn()) {
		return Volts{}, ungauged
	}
	first := true
	n.eachLoad(func(feeds int, e *EndLoad) {
		if e.port.kind != up.kind || e.port.part != up.part {
			return
		}
		if fall, open := n.drop(feeds, depth+1); first || fall.Low < least.Low {
			least, ungauged, first = fall, open, false
		}
	})
	return least, ungauged
}
