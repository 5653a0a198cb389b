package power

import (
	"fmt"
	"slices"

	"kolvan/core/finding"
	"kolvan/core/reference"
	"kolvan/core/rig"
	"kolvan/core/units"
)

// Share is the share of a rating the rig's policy lets sustained load reach.
func (n *Network) Share() float64 {
	if rig.Is(n.rig.Sizing.Policy, rig.Nameplate) {
		return 1
	}
	return float64(n.rig.Sizing.Share.Or(n.ref.SupplyShare))
}

// Percent prints a share.
func Percent(share float64) string { return units.Trim(share*100, 1) + " %" }

// asked reports a supply whose open facts are worth a question: one the plan
// hangs something on. The host's own, untouched by the plan, is left alone.
func (n *Network) asked(i int) bool { return n.Supplies[i].Used && n.Supplies[i].FeedsPlan }

func (n *Network) needSupplyLoads(r *finding.Rule, i int, out *finding.List) {
	decides := "how much " + n.rig.Supplies[i].Name + " has to deliver"
	if n.Supplies[i].FeedsCard {
		n.needCard(r, decides, out)
		n.needMaking(r, decides, out)
	}
	if n.feedsHost(i) {
		n.needHost(r, decides, out)
		if volts, fed := n.hostVolts(); fed && volts == 0 && n.Slot.Stage < 0 && n.hostSupply == i {
			n.needHostVolts(r, i, decides, out)
		}
	}
	s, load := &n.rig.Supplies[i], &n.Supplies[i]
	if least, most := efficiency(s); least != most && load.Metered.High > load.Planned.High {
		out.Need(
			r, rig.SupplyPath(i)+"/efficiency", "the efficiency class of "+s.Name, "Read its label.",
			"what the reading at the wall comes to behind it",
		)
	}
}

// needHostVolts asks for the voltage of the host's brick: from another than 12 V the host
// has to make what the slot takes, and loses some of it.
func (n *Network) needHostVolts(r *finding.Rule, i int, decides string, out *finding.List) {
	at := rig.SupplyPath(i) + "/rails"
	if len(n.rig.Supplies[i].Rails) == 1 {
		at += "/0/voltage_v"
	}
	out.Need(r, at, "the voltage that "+n.rig.Supplies[i].Name+" gives", "Read its label.", decides)
}

func (n *Network) feedsHost(i int) bool {
	if n.hostSupply == i {
		return true
	}
	for k := range n.Leads {
		if n.Leads[k].net.live&bit(i) != 0 && n.reaches(k, theHost) {
			return true
		}
	}
	return false
}

func (n *Network) needRating(r *finding.Rule, i int, out *finding.List) {
	out.Need(
		r, rig.SupplyPath(i)+"/rating_w", "the rating of "+n.rig.Supplies[i].Name, "Read its label.",
		"whether it carries its loads", float64(n.Supplies[i].Load.Low), float64(n.Supplies[i].Load.High),
	)
}

func judgeTotal(r *finding.Rule, n *Network, out *finding.List) {
	for i := range n.Supplies {
		load := &n.Supplies[i]
		switch {
		case !load.Used:
		case !load.Rating.Known:
			if n.asked(i) {
				n.needRating(r, i, out)
			}
		default:
			switch load.Load.Over(load.limit()) {
			case units.Always:
				out.Add(r, finding.Blocked, rig.SupplyPath(i), n.supplyNumbers(i), "%s: %s sustained against a rating of %v.",
					n.rig.Supplies[i].Name, atLeast(load.Load), load.Rating.Value)
			case units.Sometimes:
				if n.asked(i) {
					n.needSupplyLoads(r, i, out)
				}
			}
		}
	}
}

func (n *Network) supplyNumbers(i int) finding.Numbers {
	load := &n.Supplies[i]
	return finding.Numbers{
		{Name: "sustained_w", Value: float64(load.Load.Low)}, {Name: "rating_w", Value: float64(load.Rating.Value)},
		{Name: "share", Value: ratio(load.Load.Low, load.Rating.Value)},
	}
}

// A railLimit is a rail, or rails together, with what flows and what may.
type railLimit struct {
	supply, rail int // rail may be one of the two below
	volts        units.Volt
	load         Watts
	rating       units.Watt
	limit        Watts // the rating as exactly as it is told
}

// Rails together.
const (
	all12V = -1
	all5V  = -2
)

func (l *railLimit) where() string {
	switch l.rail {
	case all12V:
		return rig.SupplyPath(l.supply) + "/combined_12v_w"
	case all5V:
		return rig.SupplyPath(l.supply) + "/combined_5v_3v3_w"
	}
	return rig.SupplyPath(l.supply) + "/rails/" + itoa(l.rail)
}

func (l *railLimit) name(n *Network) string {
	switch l.rail {
	case all12V:
		return "its 12 V rails together"
	case all5V:
		return "its 5 V and 3.3 V rails together"
	}
	return "rail " + n.rig.Supplies[l.supply].Rails[l.rail].Name
}

// eachRail visits the rails whose rating is told, and the 12 V rails together where
// the label tells what they may deliver so.
func (n *Network) eachRail(i int, visit func(railLimit)) {
	s := &n.rig.Supplies[i]
	if !n.Supplies[i].Used {
		return
	}
	var all Watts
	if len(s.Rails) == 0 {
		all = n.Supplies[i].Load
	}
	for j := range s.Rails {
		rail, load := &s.Rails[j], n.Supplies[i].Rails[j]
		if !rail.Voltage.Known {
			continue
		}
		if same(rail.Voltage.Value, twelve) {
			all = all.Plus(load)
		}
		if rail.Current.Known {
			visit(railLimit{i, j, rail.Voltage.Value, load, rail.Current.Value.At(rail.Voltage.Value), railRating(rail)})
		}
	}
	if together, told := s.All12V.Get(); told {
		visit(railLimit{i, all12V, twelve, all.AtMost(n.Supplies[i].Load), together, rig.Span(s.All12V)})
	}
	if together, told := s.All5V.Get(); told {
		var small Watts
		for j := range s.Rails {
			if v := s.Rails[j].Voltage.Value; same(v, 5) || same(v, 3.3) {
				small = small.Plus(n.Supplies[i].Rails[j])
			}
		}
		visit(railLimit{i, all5V, 5, small, together, rig.Span(s.All5V)})
	}
}

// railRating is what a rail is rated for, as exactly as it is told.
func railRating(rail *rig.Rail) Watts {
	amps := rig.Span(rail.Current)
	if _, told := rail.Current.Spread(); !told {
		amps = units.Exactly(printed(amps.High))
	}
	return Watts{Low: amps.Low.At(rail.Voltage.Value), High: amps.High.At(rail.Voltage.Value)}
}

func judgeRail(r *finding.Rule, n *Network, out *finding.List) {
	for i := range n.Supplies {
		if n.asked(i) {
			n.needRailFacts(r, i, out)
		}
		n.eachRail(i, func(l railLimit) {
			switch l.load.Over(l.limit) {
			case units.Always:
				if out.Fires(r, finding.Blocked, l.where(), l.numbers()) {
					out.Say(
						"%s, %s: %s sustained against %v (%v of %v).", n.rig.Supplies[i].Name, l.name(n), atLeast(l.load), l.rating,
						l.load.Low.Over(l.volts), l.rating.Over(l.volts),
					)
				}
			case units.Sometimes:
				if n.asked(i) {
					n.needSupplyLoads(r, i, out)
				}
			}
		})
	}
}

func (l *railLimit) numbers() finding.Numbers {
	return finding.Numbers{
		{Name: "load_w", Value: float64(l.load.Low)}, {Name: "rating_w", Value: float64(l.rating)},
		{Name: "load_a", Value: float64(l.load.Low.Over(l.volts))}, {Name: "share", Value: ratio(l.load.Low, l.rating)},
	}
}

func (n *Network) needRailFacts(r *finding.Rule, i int, out *finding.List) {
	s := &n.rig.Supplies[i]
	at := rig.SupplyPath(i)
	if len(s.Rails) == 0 && WaitsToBeSwitched(s) {
		out.Need(r, at+"/rails", "the rails of "+s.Name, "Read the table on its label.", "whether the 12 V rail carries its loads")
	}
	if WaitsToBeSwitched(s) && len(s.Rails) > 0 && !slices.ContainsFunc(
		s.Rails, func(r rig.Rail) bool { return !r.Voltage.Known || same(r.Voltage.Value, twelve) },
	) {
		out.Need(
			r, at+"/rails", "the 12 V rail of "+s.Name, "Read the table on its label: none of 12 V is listed.",
			"whether the 12 V rail carries its loads",
		)
	}
	for j := range s.Rails {
		if n.Supplies[i].Rails[j].High > 0 && !s.Rails[j].Current.Known {
			out.Need(
				r,
				at+"/rails/"+itoa(j)+"/current_a",
				"what rail "+s.Rails[j].Name+" of "+s.Name+" may deliver",
				"Read its label.",
				"whether the rail carries its loads",
				float64(n.Supplies[i].Rails[j].High.Over(s.Rails[j].Voltage.Or(twelve))),
			)
		}
	}
	for k := range n.Leads {
		for j := range n.Leads[k].From {
			e := &n.Leads[k].From[j]
			if e.port.kind == aSupply && e.port.part == i && e.port.at >= 0 && len(s.Rails) > 0 && n.railBehind(e) < 0 {
				if rail := slices.IndexFunc(s.Rails, func(r rig.Rail) bool { return !r.Voltage.Known }); rail >= 0 {
					out.Need(
						r, at+"/rails/"+itoa(rail)+"/voltage_v", "the voltage of rail "+s.Rails[rail].Name+" of "+s.Name, "Read its label.",
						"which rail is behind the outlets, and whether it carries its loads",
					)
					return
				}
				out.Need(
					r, n.pathOf(e.port, "outlets")+"/rail", "which rail is behind outlet "+s.Outlets[e.port.at].Name+" of "+s.Name,
					"Read its papers.", "whether the rail carries its loads",
				)
			}
		}
	}
}

// asDelivered reports the supply that came with the host and feeds nothing else:
// its maker chose how much it leaves over. A raised processor is not what he chose
// it for.
func (n *Network) asDelivered(i int) bool {
	return n.hostSupply == i && !rig.Is(n.rig.Supplies[i].InBay, true) && !n.Supplies[i].FeedsPlan && !rig.Is(n.rig.Host.Proc.Altered, true)
}

func judgeHeadroom(r *finding.Rule, n *Network, out *finding.List) {
	policy := n.Share()
	for i := range n.Supplies {
		load := &n.Supplies[i]
		over := load.Load.Over(load.limit())
		if !load.Used || n.asDelivered(i) || load.Rating.Known && over == units.Always {
			continue // power.total speaks
		}
		name := n.rig.Supplies[i].Name
		switch share := load.Load.Over(load.limit().Times(policy)); {
		case !load.Rating.Known: // the rails say what they may
		case share == units.Always:
			out.Add(r, finding.Risk, rig.SupplyPath(i), n.supplyNumbers(i), "%s: %s sustained is %s of its %v; the plan allows %s.",
				name, atLeast(load.Load), units.Share(ratio(load.Load.Low, load.Rating.Value)), load.Rating.Value, units.Share(policy))
			continue
		case share == units.Sometimes:
			if n.asked(i) {
				n.needSupplyLoads(r, i, out)
			}
		}
		n.eachRail(i, func(l railLimit) {
			switch share := l.load.Over(l.limit.Times(policy)); {
			case l.load.Over(l.limit) == units.Always: // power.rail speaks
			case share == units.Always:
				out.Add(r, finding.Risk, l.where(), l.numbers(), "%s, %s: %s sustained is %s of its %v; the plan allows %s.",
					name, l.name(n), atLeast(l.load), units.Share(ratio(l.load.Low, l.rating)), l.rating, units.Share(policy))
			case share == units.Sometimes && n.asked(i):
				n.needSupplyLoads(r, i, out)
			}
		})
	}
}

// CardPart is the share of a lead's load that is the card's.
func (n *Network) CardPart(lead int) float64 {
	f := &n.Leads[lead].flow
	if all := n.live(f).High; all > 0 {
		return float64(n.card(f).High / all)
	}
	return 0
}

// Allowed is whether a supply carries its loads by each policy, surely.
type Allowed struct{ Nameplate, Share, Spikes bool }

// Allows judges a supply by every policy, whichever is in force.
func (n *Network) Allows(i int) (a Allowed) {
	load := &n.Supplies[i]
	if !load.Rating.Known {
		return a
	}
	share := float64(n.rig.Sizing.Share.Or(n.ref.SupplyShare))
	within := func(carries Watts, rating units.Watt) {
		whole := units.Exactly(rating)
		a.Nameplate = a.Nameplate && carries.Over(whole) == units.Never
		a.Share = a.Share && carries.Over(whole.Times(share)) == units.Never
		takes := n.cardSpike()
		low, _ := n.rides(i)
		for b := range reference.Bands {
			a.Spikes = a.Spikes && n.spiked(i, carries, takes, b).Over(whole.Times(low[b])) == units.Never
		}
	}
	a = Allowed{true, true, true}
	within(load.Load, load.Rating.Value)
	n.eachRail(i, func(l railLimit) {
		if same(l.volts, twelve) {
			within(l.load, l.rating)
		}
	})
	a.Spikes = a.Spikes && a.Share
	return a
}

// judgeGroup: rails regulated together, loaded at 12 V alone, leave tolerance.
func judgeGroup(r *finding.Rule, n *Network, out *finding.List) {
	for i := range n.rig.Supplies {
		s := &n.rig.Supplies[i]
		if !rig.Is(s.Grouped, true) || !n.Supplies[i].FeedsPlan || n.feedsHost(i) {
			continue
		}
		if rail := onlyRail(s, 3.3); rail >= 0 && n.Supplies[i].Rails[rail].High > 0 {
			if n.Supplies[i].Rails[rail].Low == 0 {
				n.needMaking(r, "whether "+s.Name+" is loaded at 3.3 V too, which steadies it", out)
			}
			continue
		}
		if j := slices.IndexFunc(s.Rails, func(r rig.Rail) bool { return !r.Voltage.Known }); j >= 0 {
			out.Need(
				r, rig.SupplyPath(i)+"/rails/"+itoa(j)+"/voltage_v", "the voltage of rail "+s.Rails[j].Name+" of "+s.Name,
				"Read its label.", "whether it is loaded at 12 V alone",
			)
			continue
		}
		out.Add(
			r, finding.Risk, rig.SupplyPath(i), nil,
			"%s regulates its rails as a group and is loaded at 12 V alone: its voltages may leave their tolerance. A load on 5 V steadies it.",
			s.Name,
		)
	}
}

// judgeHostBrick: the host's own brick feeds the slot too.
func judgeHostBrick(r *finding.Rule, n *Network, out *finding.List) {
	if n.Slot.Stage >= 0 || n.hostSupply < 0 || !rig.Is(n.rig.Supplies[n.hostSupply].Kind, rig.Brick) {
		return
	}
	load := &n.Supplies[n.hostSupply]
	if !load.FeedsCard || !load.Rating.Known {
		return // power.total asks
	}
	rating := units.Exactly(load.Rating.Value)
	level := finding.Risk
	switch {
	case load.Load.Over(rating) == units.Always:
		level = finding.Blocked
	case load.Load.Over(rating.Times(n.Share())) != units.Always:
		return
	}
	out.Add(
		r,
		level,
		rig.SupplyPath(n.hostSupply),
		n.supplyNumbers(n.hostSupply),
		"%s feeds the host and the card's slot, with what converting loses: %s of its %v.",
		n.rig.Supplies[n.hostSupply].Name,
		atLeast(load.Load),
		load.Rating.Value,
	)
}

// judgeGround: two supplies want one ground.
func judgeGround(r *finding.Rule, n *Network, out *finding.List) {
	used := 0
	for i := range n.Supplies {
		if n.Supplies[i].Used && !converts(&n.rig.Supplies[i]) {
			used++
		}
	}
	if used > 1 {
		out.Add(r, finding.Note, "/supplies", finding.Numbers{{Name: "supplies", Value: float64(used)}},
			"%d supplies share one ground, through the shield of the cable: plug them into one outlet strip.", used)
	}
}

// efficiency gives the least and the most efficient class a supply may be of.
func efficiency(s *rig.Supply) (least, most string) {
	switch {
	case s.Kind.Known && !WaitsToBeSwitched(s):
		return "brick", "brick"
	case s.Effic.Known:
		return string(s.Effic.Value), string(s.Effic.Value)
	default:
		return "plain", "titanium"
	}
}

// idle is what is left of a load with nothing to do: what was measured of card and
// host, else a share of what they draw under load (P).
func (n *Network) idle(f *flow) Watts { return n.idleOf(n.all(f), f.host) }

func (n *Network) idleOf(card, host Watts) Watts {
	share := func(told rig.Fact[units.Watt], all rig.Fact[units.Watt], least, most float64) (low, high float64) {
		if told.Known && all.Known && all.Value > 0 {
			part := min(1, ratio(told.Value, all.Value))
			return part, part
		}
		return least, most
	}
	low, high := share(n.rig.Card.Idle, n.rig.Card.Power, n.ref.CardIdleLeast, n.ref.CardIdleMost)
	idle := Watts{Low: card.Low * units.Watt(low), High: card.High * units.Watt(high)}
	low, high = share(n.rig.Host.Idle, n.rig.Host.Power, n.ref.HostIdleLeast, n.ref.HostIdleMost)
	return idle.Plus(Watts{Low: host.Low * units.Watt(low), High: host.High * units.Watt(high)})
}

// WallIdle is what the supply takes from the mains with nothing to do.
func (n *Network) WallIdle(i int) (Watts, bool) { return n.atWall(i, n.Supplies[i].Idle) }

// Wall is what the plan makes the supply take from the mains under load, by the
// class of its efficiency; over all classes while that is not told.
func (n *Network) Wall(i int) (Watts, bool) { return n.atWall(i, n.Supplies[i].Planned) }

func (n *Network) atWall(i int, load Watts) (Watts, bool) {
	s := &n.rig.Supplies[i]
	least, most := efficiency(s)
	high, ok := n.ref.Wall(least, load.High, s.Rating.Value)
	low, _ := n.ref.Wall(most, load.Low, s.Rating.Value)
	return Watts{Low: low, High: high}, ok && s.Rating.Known
}

// meter turns a reading at the wall back into what flows behind the supply. Where
// that is more than the plan asks, it stands: something draws it. Less proves
// nothing, since the reading may not be of the worst moment.
func (n *Network) meter(i int) {
	s, load := &n.rig.Supplies[i], &n.Supplies[i]
	load.Planned = load.Load
	if !s.Wall.Known || !s.Rating.Known {
		return
	}
	load.Metered, _ = n.BehindSupply(i, s.Wall.Value)
	load.Load = load.Load.AtLeast(load.Metered)
	if len(load.Rails) == 1 {
		load.Rails[0] = load.Rails[0].AtLeast(load.Metered)
	}
}

// BehindSupply is what flows behind a supply that takes so much from the mains;
// false while its rating is not known.
func (n *Network) BehindSupply(i int, mains units.Watt) (Watts, bool) {
	s := &n.rig.Supplies[i]
	least, most := efficiency(s)
	low, ok := n.ref.FromWall(least, mains, s.Rating.Value)
	high, _ := n.ref.FromWall(most, mains, s.Rating.Value)
	return Watts{Low: low, High: high}, ok && s.Rating.Known
}

// judgeWall gives what a meter at the wall should show, and compares what it did.
func judgeWall(r *finding.Rule, n *Network, out *finding.List) {
	for i := range n.Supplies {
		if !n.Supplies[i].FeedsPlan || !n.Supplies[i].Planned.Known() || converts(&n.rig.Supplies[i]) {
			continue
		}
		if wall, ok := n.Wall(i); ok {
			idle, _ := n.WallIdle(i)
			numbers, read := n.reading(i)
			out.Add(
				r,
				finding.Note,
				rig.SupplyPath(i),
				append(finding.Numbers{{Name: "loaded_low_w", Value: float64(wall.Low)}, {Name: "loaded_high_w", Value: float64(wall.High)},
					{Name: "idle_low_w", Value: float64(idle.Low)}, {Name: "idle_high_w", Value: float64(idle.High)}}, numbers...),
				"A meter at the wall should show %s for %s under load, at the most, and %s with nothing to do.%s",
				words(wall),
				n.rig.Supplies[i].Name,
				words(idle),
				read,
			)
		}
	}
	if wall, idle, plugs, open := n.wholeWall(func(*rig.Supply) bool { return true }); plugs > 1 && open < 0 {
		out.Add(
			r,
			finding.Note,
			"/supplies",
			finding.Numbers{{Name: "loaded_low_w", Value: float64(wall.Low)}, {Name: "loaded_high_w", Value: float64(wall.High)},
				{Name: "idle_low_w", Value: float64(idle.Low)}, {Name: "idle_high_w", Value: float64(idle.High)}},
			"All %d mains plugs together: %s under load, at the most, and %s with nothing to do.",
			plugs,
			words(wall),
			words(idle),
		)
	}
}

// wholeWall is what the supplies that are plugged in take from the mains together, as far as
// it is known, how many they are, and the first of which it is not known; −1 for none.
func (n *Network) wholeWall(of func(*rig.Supply) bool) (wall, idle Watts, plugs, open int) {
	open = -1
	for i := range n.Supplies {
		s := &n.rig.Supplies[i]
		if !n.Supplies[i].Used || converts(s) || !of(s) {
			continue
		}
		plugs++
		at, known := n.Wall(i)
		rest, resting := n.WallIdle(i)
		if known && resting && n.Supplies[i].Planned.Known() {
			wall, idle = wall.Plus(at), idle.Plus(rest)
		} else if open < 0 {
			open = i
		}
	}
	return wall, idle, plugs, open
}

// judgeStrip holds what hangs on an outlet strip, or on strips that are plugged into it,
// against what it carries.
func judgeStrip(r *finding.Rule, n *Network, out *finding.List) {
	strips := n.rig.Brief.Living.Strips
	for i := range strips {
		strip, at := &strips[i], "/brief/living/strips/"+itoa(i)
		n.judgePlugsOn(r, strip, at, out)
		if on := n.stripNamed(strip.On); on >= 0 {
			judgeChained(r, strip, &strips[on], at, on, out)
		}
	}
}

// judgePlugsOn holds the plugs on one strip against what it carries: what is known of them
// counts, also where another's is not.
func (n *Network) judgePlugsOn(r *finding.Rule, strip *rig.Strip, at string, out *finding.List) {
	most, told := strip.Most.Get()
	wall, _, plugs, open := n.wholeWall(func(s *rig.Supply) bool { return n.hangsOn(s.Strip, strip.Name) })
	hang := fmt.Sprint(words(wall))
	if open >= 0 {
		hang = wall.Low.String() + " at least"
	}
	numbers := finding.Numbers{{Name: "load_w", Value: float64(wall.Low)}, {Name: "most_w", Value: float64(most)}}
	switch {
	case plugs == 0:
	case !told:
		out.Need(r, at+"/most_w", "what "+strip.Name+" carries", "Read it on the strip.", "whether it carries what hangs on it")
	case wall.Low > most:
		out.Add(r, finding.Danger, at, numbers, "%s carries %v; %s hang on it. Plug some of it into another socket.", strip.Name, most, hang)
	case wall.High > most:
		out.Add(r, finding.Risk, at, numbers, "%s carries %v; up to %v may hang on it.", strip.Name, most, wall.High)
	case open >= 0:
		out.Need(
			r, rig.SupplyPath(open)+"/wall_w", "what "+n.rig.Supplies[open].Name+" takes at the wall",
			"Hold a meter between plug and strip, with everything under load.", "whether "+strip.Name+" carries what hangs on it",
		)
	}
}

// judgeChained judges what a strip is plugged into: a wall socket, or another strip, which it
// must not be.
func judgeChained(r *finding.Rule, strip, on *rig.Strip, at string, index int, out *finding.List) {
	switch wall, told := on.Wall.Get(); {
	case told && wall:
	case told || on.On != "":
		out.Add(r, finding.Risk, at+"/on", nil, "%s is plugged into another strip: each strip goes into a wall socket of its own.", strip.Name)
	default:
		out.Need(
			r, "/brief/living/strips/"+itoa(index)+"/wall_socket", "whether "+on.Name+" is a wall socket or another strip", "Look at it.",
			"whether "+strip.Name+" may be plugged into it",
		)
	}
}

// hangsOn reports a plug that ends at a strip, itself or by way of others.
func (n *Network) hangsOn(plugged, strip string) bool {
	for range len(n.rig.Brief.Living.Strips) + 1 { // strips may be told to hang on each other
		if plugged == strip {
			return true
		}
		at := n.stripNamed(plugged)
		if at < 0 {
			return false
		}
		plugged = n.rig.Brief.Living.Strips[at].On
	}
	return false
}

// stripNamed is where a strip or a wall socket is told; −1 for one that is not.
func (n *Network) stripNamed(name string) int {
	return slices.IndexFunc(n.rig.Brief.Living.Strips, func(s rig.Strip) bool { return name != "" && s.Name == name })
}

// reading says what the meter showed, what that comes to, and how it compares.
func (n *Network) reading(i int) (finding.Numbers, string) {
	s, load := &n.rig.Supplies[i], &n.Supplies[i]
	if !s.Wall.Known {
		return nil, ""
	}
	numbers := finding.Numbers{
		{Name: "read_w", Value: float64(s.Wall.Value)}, {Name: "metered_low_w", Value: float64(load.Metered.Low)},
		{Name: "metered_high_w", Value: float64(load.Metered.High)},
	}
	says := " It showed " + s.Wall.Value.String() + ", which is " + words(load.Metered).String() + " behind the supply"
	if more := load.Metered.Sub(load.Planned).Low; more > 0 {
		return numbers, says + ", at least " + more.String() + " more than the plan counts with: find what draws it."
	}
	return numbers, says + "."
}

// words are a power, or its two ends.
type words Watts

func (w words) String() string {
	if w.High-w.Low < 1 && w.High.String() == w.Low.String() {
		return w.High.String()
	}
	return units.Trim(float64(w.Low), 0) + " to " + units.Trim(float64(w.High), 0) + " W"
}
