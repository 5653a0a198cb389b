package power

import (
	"strconv"

	"kolvan/core/finding"
	"kolvan/core/rig"
	"kolvan/core/units"
)

func itoa(i int) string { return strconv.Itoa(i) }

// BoardType reports a supply that stays off until it is told.
func BoardType(s *rig.Supply) bool {
	return s.Kind.Known && s.Kind.Value != rig.Brick && s.Kind.Value != rig.USBC
}

// Share is the share of a rating the rig's policy lets sustained load reach.
func (n *Network) Share() float64 {
	if rig.Is(n.rig.Sizing.Policy, rig.Nameplate) {
		return 1
	}
	return n.rig.Sizing.Share.Or(n.ref.SupplyShare)
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

func judgeTotal(r *finding.Rule, n *Network, out *finding.List) {
	for i := range n.Supplies {
		load, at := &n.Supplies[i], "/supplies/"+itoa(i)
		if !load.Used {
			continue
		}
		n.needSupplyFacts(r, i, out)
		if load.Load.Known && load.Rating.Known && over(load.Load.Watt, load.Rating.Watt) {
			out.Add(r, finding.Blocked, at, n.supplyNumbers(i), "%s: %v sustained against a rating of %v.",
				n.rig.Supplies[i].Name, load.Load.Watt, load.Rating.Watt)
		}
	}
}

func (n *Network) supplyNumbers(i int) finding.Numbers {
	share, _ := n.Supplies[i].Share()
	return finding.Numbers{{Name: "sustained_w", Value: float64(n.Supplies[i].Load.Watt)}, {Name: "rating_w", Value: float64(n.Supplies[i].Rating.Watt)}, {Name: "share", Value: share}}
}

func (n *Network) needSupplyFacts(r *finding.Rule, i int, out *finding.List) {
	name, at := n.rig.Supplies[i].Name, "/supplies/"+itoa(i)
	if !n.Supplies[i].Rating.Known {
		out.Need(r, at+"/rating_w", "the rating of "+name, "Read its label.", "whether it carries its loads")
	}
	if n.Supplies[i].Load.Known {
		return
	}
	if n.feedsHost(i) && !n.Host.Known {
		out.Need(r, "/host/power_w", "what the host draws under load", "Read a wall meter while it works, or its brick's label as the most it can be.", "how much "+name+" has to deliver")
	}
	if n.Supplies[i].FeedsCard {
		where, fact, find := n.missingCardLoad()
		out.Need(r, where, fact, find, "how much "+name+" has to deliver")
	}
}

func (n *Network) feedsHost(i int) bool {
	name := n.rig.Supplies[i].Name
	return n.rig.Host.Supply == name || n.feedsPart(name, rig.HostPart)
}

// eachRail visits the rails in use whose load and rating are known.
func (n *Network) eachRail(i int, visit func(rail int, load, rating units.Watt)) {
	s := &n.rig.Supplies[i]
	for j := range s.Rails {
		rail := &s.Rails[j]
		if n.Supplies[i].Load.Known && rail.Voltage.Known && rail.Current.Known {
			visit(j, n.Supplies[i].Rails[j], rail.Current.Value.At(rail.Voltage.Value))
		}
	}
}

func judgeRail(r *finding.Rule, n *Network, out *finding.List) {
	for i := range n.Supplies {
		if !n.Supplies[i].Used {
			continue
		}
		n.needRailFacts(r, i, out)
		n.eachRail(i, func(j int, load, rating units.Watt) {
			if over(load, rating) {
				rail := &n.rig.Supplies[i].Rails[j]
				out.Add(r, finding.Blocked, "/supplies/"+itoa(i)+"/rails/"+itoa(j), railNumbers(load, rating, rail.Voltage.Value),
					"%s, rail %s: %v sustained against %v (%v of %v).", n.rig.Supplies[i].Name, rail.Name, load, rating, load.Over(rail.Voltage.Value), rail.Current.Value)
			}
		})
	}
}

func railNumbers(load, rating units.Watt, volts units.Volt) finding.Numbers {
	return finding.Numbers{{Name: "load_w", Value: float64(load)}, {Name: "rating_w", Value: float64(rating)}, {Name: "load_a", Value: float64(load.Over(volts))}, {Name: "share", Value: ratio(load, rating)}}
}

func (n *Network) needRailFacts(r *finding.Rule, i int, out *finding.List) {
	s, at := &n.rig.Supplies[i], "/supplies/"+itoa(i)
	if len(s.Rails) == 0 && BoardType(s) {
		out.Need(r, at+"/rails", "the rails of "+s.Name, "Read the table on its label.", "whether the 12 V rail carries its loads")
	}
	for j := range s.Rails {
		loaded := n.Supplies[i].Rails[j] > 0
		if loaded && !s.Rails[j].Current.Known {
			out.Need(r, at+"/rails/"+itoa(j)+"/current_a", "what rail "+s.Rails[j].Name+" of "+s.Name+" may deliver", "Read its label.", "whether the rail carries its loads")
		}
	}
	n.needRailChoice(r, i, out)
}

// needRailChoice asks which of several 12 V rails is behind an outlet in use.
func (n *Network) needRailChoice(r *finding.Rule, i int, out *finding.List) {
	s := &n.rig.Supplies[i]
	for k := range n.rig.Leads {
		for _, end := range n.rig.Leads[k].From {
			if end.Part != s.Name || len(s.Rails) == 0 || railOf(s, end.At) >= 0 {
				continue
			}
			for o := range s.Outlets {
				if s.Outlets[o].Name == end.At {
					out.Need(r, "/supplies/"+itoa(i)+"/outlets/"+itoa(o)+"/rail", "which rail is behind outlet "+end.At+" of "+s.Name, "Read its papers.", "whether the rail carries its loads")
				}
			}
		}
	}
}

func judgeHeadroom(r *finding.Rule, n *Network, out *finding.List) {
	policy := n.Share()
	for i := range n.Supplies {
		load := &n.Supplies[i]
		if !load.Used || load.Load.Known && load.Rating.Known && over(load.Load.Watt, load.Rating.Watt) {
			continue // power.total speaks
		}
		name := n.rig.Supplies[i].Name
		share, known := load.Share()
		if !known {
			n.needSupplyFacts(r, i, out)
			continue
		}
		if over(share, policy) {
			out.Add(r, finding.Risk, "/supplies/"+itoa(i), n.supplyNumbers(i), "%s: %v sustained is %s of its %v; the policy allows %s.",
				name, load.Load.Watt, Percent(share), load.Rating.Watt, Percent(policy))
			continue
		}
		n.eachRail(i, func(j int, load, rating units.Watt) {
			if over(ratio(load, rating), policy) && !over(load, rating) {
				rail := &n.rig.Supplies[i].Rails[j]
				out.Add(r, finding.Risk, "/supplies/"+itoa(i)+"/rails/"+itoa(j), railNumbers(load, rating, rail.Voltage.Value),
					"%s, rail %s: %v sustained is %s of its %v; the policy allows %s.", name, rail.Name, load, Percent(ratio(load, rating)), rating, Percent(policy))
			}
		})
	}
}

// Percent prints a share.
func Percent(share float64) string { return units.Trim(share*100, 1) + " %" }

func judgeTurnOn(r *finding.Rule, n *Network, out *finding.List) {
	for i := range n.rig.Supplies {
		s, at := &n.rig.Supplies[i], "/supplies/"+itoa(i)
		if !s.Kind.Known {
			out.Need(r, at+"/kind", "the kind of "+s.Name, "A sealed brick is on when plugged in; all others wait to be turned on.", "whether anything turns it on")
			continue
		}
		if BoardType(s) {
			n.judgeBoardType(r, s, at, out)
		}
	}
}

func (n *Network) judgeBoardType(r *finding.Rule, s *rig.Supply, at string, out *finding.List) {
	switch how, known := s.TurnOn.Get(); {
	case !known && n.rig.Host.Supply == s.Name:
		return // the host's board turns its own supply on
	case !known:
		out.Need(r, at+"/turn_on", "what turns "+s.Name+" on", "Look for a switch-on board, a made jumper plug, or a dock that does it.", "whether it ever starts")
	case how == rig.TurnOnNone:
		out.Add(r, finding.Blocked, at, nil, "%s is a board-type supply: it stays off until its turn-on contact is pulled to ground, and nothing does that.", s.Name)
	case how == rig.TurnOnHost && n.rig.Host.Supply != s.Name && !n.feedsPart(s.Name, rig.HostPart):
		out.Add(r, finding.Blocked, at, nil, "%s waits for the host's board, but does not feed the host.", s.Name)
	case how == rig.TurnOnDock:
		n.judgeDockTurnsOn(r, s, at, out)
	}
}

func (n *Network) judgeDockTurnsOn(r *finding.Rule, s *rig.Supply, at string, out *finding.List) {
	for i := range n.rig.Route.Stages {
		stage := &n.rig.Route.Stages[i]
		if !n.feedsPart(s.Name, stage.Name) {
			continue
		}
		turns, known := stage.TurnsOn.Get()
		if !known {
			out.Need(r, "/route/stages/"+itoa(i)+"/turns_on", "whether "+stage.Name+" turns the supply on", "Read its papers.", "whether "+s.Name+" ever starts")
			return
		}
		if turns {
			return
		}
	}
	out.Add(r, finding.Blocked, at, nil, "%s waits for the dock, but no dock on its leads turns a supply on.", s.Name)
}

// feedsPart reports a lead straight from the supply to the part.
func (n *Network) feedsPart(supply, part string) bool {
	for i := range n.rig.Leads {
		if !n.rig.Leads[i].EndsAt(part) {
			continue
		}
		for _, from := range n.rig.Leads[i].From {
			if from.Part == supply {
				return true
			}
		}
	}
	return false
}
