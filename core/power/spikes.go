package power

import (
	"kolvan/core/finding"
	"kolvan/core/reference"
	"kolvan/core/rig"
	"kolvan/core/units"
)

// judgeSpike holds what the card takes for milliseconds against what the supply,
// and its 12 V rail, ride out.
func judgeSpike(r *finding.Rule, n *Network, out *finding.List) {
	if policy, told := n.rig.Sizing.Policy.Get(); told && policy != rig.Spikes {
		return
	}
	for i := range n.Supplies {
		load := &n.Supplies[i]
		if !load.FeedsCard {
			continue
		}
		said, open := false, false
		if load.Rating.Known {
			if load.Load.Over(load.limit()) != units.Never {
				continue // power.total speaks
			}
			said, open = n.judgeBands(r, i, load.Load, load.Rating.Value, func() string { return rig.SupplyPath(i) }, out)
		}
		n.eachRail(i, func(l railLimit) {
			if !said && same(l.volts, twelve) {
				var unsure bool
				said, unsure = n.judgeBands(r, i, l.load, l.rating, l.where, out)
				open = open || unsure
			}
		})
		if s := &n.rig.Supplies[i]; open && !said && !s.Class.Known && WaitsToBeSwitched(s) {
			out.Need(
				r, rig.SupplyPath(i)+"/class", "how modern "+s.Name+" is",
				"Look on its label for the year, and for a card 16-pin (12V-2x6) outlet.", "whether it rides out the card's spikes",
			)
		}
	}
}

// judgeBands holds a supply, or a rail of it, with its load and its rating against
// the card's spikes and adds the first band that is not ridden out; open says that
// one may not be.
func (n *Network) judgeBands(r *finding.Rule, i int, load Watts, most units.Watt, where func() string, out *finding.List) (said,
	open bool) {
	takes := n.cardSpike()
	low, high := n.rides(i)
	for b, ms := range reference.Bands {
		spike := n.spiked(i, load, takes, b)
		ability := units.Between(most*units.Watt(low[b]), most*units.Watt(high[b]))
		switch spike.Over(ability) {
		case units.Always:
			out.Add(r, finding.Risk, where(), finding.Numbers{
				{Name: "spike_w", Value: float64(spike.Low)}, {Name: "rides_w", Value: float64(ability.High)},
				{Name: "band_ms", Value: ms},
			},
				"%s: for %s ms the card and the rest may take %v; it rides out %v.", n.rig.Supplies[i].Name, units.Trim(ms, 1), spike.Low, ability.High)
			return true, false
		case units.Sometimes:
			open = true
		}
	}
	return false, open
}

// Band is one length of spikes: what a supply's loads may then take, and what it
// rides out.
type Band struct {
	Milliseconds float64
	Takes, Rides Watts
	Times        float64 // the card's multiple of its board power, at the most
}

// Bands are the card's spikes on a supply, shortest first.
func (n *Network) Bands(i int) (list []Band) {
	load, most := n.Supplies[i].Load, n.Supplies[i].Rating.Value
	takes := n.cardSpike()
	low, high := n.rides(i)
	for b, ms := range reference.Bands {
		list = append(
			list,
			Band{ms, n.spiked(i, load, takes, b), units.Between(most*units.Watt(low[b]), most*units.Watt(high[b])), takes[1][b]},
		)
	}
	return list
}

// spiked is a load of a supply, or of a rail of it, with the card's part at a spike.
func (n *Network) spiked(i int, load Watts, takes [2][4]float64, b int) Watts {
	card := n.Supplies[i].Card.AtMost(n.board()).AtMost(load)
	others := Watts{Low: max(0, load.Low-card.Low), High: max(0, load.High-card.High)}
	return others.Plus(Watts{Low: card.Low * units.Watt(takes[0][b]), High: card.High * units.Watt(takes[1][b])})
}

// cardSpike is what the card takes for each band, at least and at most, as a
// multiple of its board power.
func (n *Network) cardSpike() [2][4]float64 {
	times := n.spikeTimes()
	limit, told := n.rig.Card.Cap.Get()
	if !told || !n.rig.Card.Power.Known || limit <= 0 {
		return times
	}
	// A capped card's spike is the cap and half of what the uncapped one exceeds its power by
	// (reference, section 8a).
	whole := n.uncapped()
	for b := range times[0] {
		for end, power := range [2]units.Watt{whole.Low, whole.High} {
			over := n.ref.CappedSpike * (times[end][b] - 1) * float64(max(power, limit)/limit)
			if power > limit {
				times[end][b] = 1 + over
			}
		}
	}
	return times
}

// spikeTimes are the multiples of a card's board power for each band, at least and at most.
func (n *Network) spikeTimes() [2][4]float64 {
	plugs, slot := n.ref.SpikeTimes("card with plugs"), n.ref.SpikeTimes("card by the slot")
	switch {
	case n.rig.Card.Plugs == nil:
		return [2][4]float64{slot, plugs}
	case len(n.rig.Card.Plugs) == 0:
		return [2][4]float64{slot, slot}
	default:
		return [2][4]float64{plugs, plugs}
	}
}

// rides is what a supply rides out for each band, at least and at most, as a
// multiple of its rating.
func (n *Network) rides(i int) (low, high [4]float64) {
	s := &n.rig.Supplies[i]
	low, high = n.ridesByClass(i)
	peak, told := s.Peak.Get()
	if !told || s.Rating.Value <= 0 {
		return low, high // a peak says nothing of a rating that is not told
	}
	for b, ms := range reference.Bands { // its label says more
		if ms <= s.PeakMS.Or(usualPeak) {
			low[b], high[b] = max(low[b], ratio(peak, s.Rating.Value)), max(high[b], ratio(peak, s.Rating.Value))
		}
	}
	return low, high
}

// usualPeak is how long a label's peak lasts where it does not say, ms (P).
const usualPeak = 10

func (n *Network) ridesByClass(i int) (low, high [4]float64) {
	s := &n.rig.Supplies[i]
	if !WaitsToBeSwitched(s) && s.Kind.Known {
		brick := n.ref.SpikeTimes("sealed brick")
		return brick, brick
	}
	current := n.ref.SpikeTimes("current supply")
	for j := range s.Outlets {
		if n.ref.Kind(s.Outlets[j].Connector.Value).Sensed && s.Rating.Value > 450 {
			current = n.ref.SpikeTimes("current supply with 16-pin")
		}
	}
	older := n.ref.SpikeTimes("older supply")
	switch {
	case rig.Is(s.Class, rig.ClassCurrent):
		return current, current
	case rig.Is(s.Class, rig.ClassOlder):
		return older, older
	default:
		return older, current
	}
}
