package power

import (
	"strconv"

	"kolvan/core/finding"
	"kolvan/core/rig"
	"kolvan/core/units"
)

var rules = finding.Table[*Network]{
	{Rule: finding.Rule{Name: "power.unfed", Title: "Nothing feeds it", Levels: "blocked",
		Fires: "a load has no feed: the card's slot, a plug of the card, the host"}, Judge: judgeUnfed},
	{Rule: finding.Rule{Name: "power.pins", Title: "Plugs that mate but are wired differently", Levels: "blocked; danger; risk",
		Fires: "mated pin maps put supply on ground, on another voltage or on sense (danger), leave a needed pin open (blocked), or leave a sense pin open (risk, with the reduced rating)"}, Judge: judgePins},
	{Rule: finding.Rule{Name: "power.card", Title: "Card beyond its own plugs", Levels: "danger",
		Fires: "the card's board power exceeds 75 W from the slot plus the ratings of its plugs"}, Judge: judgeCard},
	{Rule: finding.Rule{Name: "power.slot-limit", Title: "Slot asked for more than it may give", Levels: "blocked; danger; unknown",
		Fires: "the card's slot share exceeds what the slot may give: the host's stated limit or the standard's for the slot's length; on a dock the lesser of 75 W and what its feed carries. Danger over 1.2 times; unknown when a long slot's limit is not known and the card takes over 25 W from it"}, Judge: judgeSlotLimit},
	{Rule: finding.Rule{Name: "power.connector", Title: "Connector carries more than it may", Levels: "risk; danger",
		Fires: "a connector carries more than the contacts actually mated are planned for (risk) or rated for (danger)"}, Judge: judgeConnector},
	{Rule: finding.Rule{Name: "power.lead", Title: "Lead promises more than its source", Levels: "danger; risk",
		Fires: "on an adapter lead, splitter or chain, the load exceeds what the source ends together carry (danger), or only the load end's rating does (risk)"}, Judge: judgeLead},
	{Rule: finding.Rule{Name: "power.rail", Title: "Rail overloaded", Levels: "blocked",
		Fires: "sustained load above a rail's rating"}, Judge: judgeRail},
	{Rule: finding.Rule{Name: "power.total", Title: "Supply overloaded", Levels: "blocked",
		Fires: "sustained load above the supply's rating"}, Judge: judgeTotal},
	{Rule: finding.Rule{Name: "power.headroom", Title: "Little left of the supply", Levels: "risk",
		Fires: "sustained load above the policy's share of the supply's rating, or of a rail's"}, Judge: judgeHeadroom},
	{Rule: finding.Rule{Name: "power.turn-on", Title: "Nothing turns the supply on", Levels: "blocked",
		Fires: "a board-type supply with nothing to turn it on"}, Judge: judgeTurnOn},
}

// Rules lists the rules of this package.
func Rules() []finding.Rule { return rules.Rules() }

// Judge adds what the rules say about the network.
func (n *Network) Judge(out *finding.List) { rules.Judge(n, out) }

// over reports a load above a limit, a hair's breadth of rounding aside.
func over[T ~float64](load, limit T) bool { return load > limit*(1+1e-9) }

// described reports whether the rig says anything about its feeds at all.
func (n *Network) described() bool { return n.rig.Supplies != nil || n.rig.Leads != nil }

func judgeUnfed(r *finding.Rule, n *Network, out *finding.List) {
	if !n.described() {
		out.Need(r, "/supplies", "which supplies there are and what they feed",
			"Add the host's own supply and the one meant for the card.", "whether anything is fed")
		return
	}
	unfed := func(where, what string) {
		out.Add(r, finding.Blocked, where, nil, "%s has no feed.", what)
	}
	if n.rig.Host.Supply == "" && !n.feeds(rig.HostPart, "") {
		unfed("/host", "The host")
	}
	if n.rig.Route.Slot != "" {
		n.judgeSlotFed(r, out, unfed)
	}
	if n.rig.Card.Plugs == nil {
		out.Need(r, "/card/plugs", "the power plugs of the card", "Look at its upper edge, or read its papers.", "what has to be fed")
	}
	for i := range n.rig.Card.Plugs {
		plug := &n.rig.Card.Plugs[i]
		n.Plugs[i].Fed = n.feeds(rig.CardPart, plug.Name)
		if !n.Plugs[i].Fed {
			unfed("/card/plugs/"+strconv.Itoa(i), "Card plug "+plug.Name)
		}
	}
	n.judgeEntry(r, out)
}

func (n *Network) judgeSlotFed(r *finding.Rule, out *finding.List, unfed func(where, what string)) {
	if n.Slot.Stage >= 0 {
		if !n.feeds(n.Slot.Name, "") {
			unfed(n.Slot.Where, "The card slot of "+n.Slot.Name)
		}
		return
	}
	if last := len(n.rig.Route.Stages) - 1; last >= 0 && !n.rig.Route.Stages[last].Kind.Known && n.rig.Route.Stages[last].Inlets == nil {
		s := &n.rig.Route.Stages[last]
		out.Need(r, "/route/stages/"+itoa(last)+"/kind", "whether "+s.Name+" feeds the card's slot itself", "Look for power sockets on it.", "what feeds the card's slot")
		return
	}
	slot := n.rig.Slot(n.rig.Route.Slot)
	switch slot.Form.Or("") {
	case rig.CardSlot, "module":
	case "":
		out.Need(r, n.Slot.Where+"/form", "the form of "+slot.Name, "Look at the slot.", "whether it gives a card power")
	default:
		unfed(n.Slot.Where, "The card's slot ("+slot.Name+" is of the form "+rig.Spoken(slot.Form.Value)+", which feeds no card)")
	}
}

// feeds reports a lead with sources that enters the part there.
func (n *Network) feeds(part, at string) bool {
	for i := range n.rig.Leads {
		for j, end := range n.rig.Leads[i].To {
			if end.Part == part && (at == "" || end.At == at || end.At == "") && n.Leads[i].To[j].Fit != NoEntry && n.sourced(i) {
				return true
			}
		}
	}
	return false
}

// sourced reports a lead that comes from somewhere and enters there.
func (n *Network) sourced(i int) bool {
	for j, end := range n.rig.Leads[i].From {
		if end.Part != "" && n.Leads[i].From[j].Fit != NoEntry {
			return true
		}
	}
	return false
}

// judgeEntry reports ends that do not go into what they are meant for.
func (n *Network) judgeEntry(r *finding.Rule, out *finding.List) {
	n.eachEnd(func(lead int, e *EndLoad) {
		if e.Fit == NoEntry {
			out.Add(r, finding.Blocked, e.Where, nil, "A %s plug does not enter a %s socket (%s).",
				rig.Spoken(e.Plug), rig.Spoken(e.Socket), n.rig.Leads[lead].Name)
		}
	})
}

func (n *Network) eachEnd(visit func(lead int, e *EndLoad)) {
	for i := range n.Leads {
		for j := range n.Leads[i].From {
			visit(i, &n.Leads[i].From[j])
		}
		for j := range n.Leads[i].To {
			visit(i, &n.Leads[i].To[j])
		}
	}
}

// judgeCard: P > 75 W + ΣR.
func judgeCard(r *finding.Rule, n *Network, out *finding.List) {
	card := &n.rig.Card
	sum := n.plugRatings()
	if card.Plugs == nil || !card.Power.Known || !sum.Known {
		return // power.slot-limit and power.connector ask for these
	}
	if limit := n.ref.SlotTotal + sum.Watt; over(card.Power.Value, limit) {
		out.Add(r, finding.Danger, "/card/power_w", finding.Numbers{{Name: "power_w", Value: float64(card.Power.Value)}, {Name: "limit_w", Value: float64(limit)}},
			"%v of board power against %v from slot and plugs together.", card.Power.Value, limit)
	}
}

func judgeSlotLimit(r *finding.Rule, n *Network, out *finding.List) {
	if n.rig.Route.Slot == "" {
		return
	}
	if !n.Slot.At12.Known {
		n.needShare(r, out)
		return
	}
	if n.Slot.Stage >= 0 {
		n.judgeDockSlot(r, out)
		return
	}
	n.judgeHostSlot(r, out)
}

func (n *Network) needShare(r *finding.Rule, out *finding.List) {
	if n.rig.Card.Plugs == nil {
		out.Need(r, "/card/plugs", "the power plugs of the card", "Look at its upper edge, or read its papers.", "how much it takes through the slot")
		return
	}
	out.Need(r, "/card/power_w", "the card's board power", "Read its papers, or measure it.", "how much it takes through the slot")
}

// slotOverDanger is the excess over a slot's limit from which it is dangerous.
const slotOverDanger = 1.2

func (n *Network) addSlotLimit(r *finding.Rule, out *finding.List, asked, limit units.Watt, of string) {
	if !over(asked, limit) {
		return
	}
	level := finding.Blocked
	if over(asked, limit*slotOverDanger) {
		level = finding.Danger
	}
	out.Add(r, level, n.Slot.Where, finding.Numbers{
		{Name: "asked_w", Value: float64(asked)}, {Name: "limit_w", Value: float64(limit)}, {Name: "times", Value: ratio(asked, limit)},
	}, "The card may take %v through %s; %s %v (%s times).", asked, n.Slot.Name, of, limit, units.Trim(ratio(asked, limit), 2))
}

func ratio(a, b units.Watt) float64 {
	if b <= 0 {
		return 0
	}
	return float64(a / b)
}

// judgeDockSlot: the lesser of 75 W, what the dock states, and what the feed
// carries at 12 V.
func (n *Network) judgeDockSlot(r *finding.Rule, out *finding.List) {
	stage := &n.rig.Route.Stages[n.Slot.Stage]
	whole := min(n.Slot.Total().Watt, max(n.Slot.At12.Watt, n.ref.SlotTotal))
	limit := min(n.ref.SlotTotal, stage.SlotLimit.Or(n.ref.SlotTotal))
	if len(n.rig.Card.Plugs) == 0 {
		whole = n.Slot.Total().Watt
	}
	feed, certain, fed := n.dockFeed(stage.Name)
	if fed && certain && over(n.Slot.At12.Watt, feed) && feed < limit {
		n.addSlotLimit(r, out, n.Slot.At12.Watt, feed, "what feeds it at 12 V carries")
		return
	}
	n.addSlotLimit(r, out, whole, limit, "it may give")
}

// dockFeed is what the leads at a dock's inlets carry together at 12 V.
func (n *Network) dockFeed(name string) (feed units.Watt, certain, fed bool) {
	certain = true
	for i := range n.rig.Leads {
		for j, end := range n.rig.Leads[i].To {
			if end.Part != name || n.Leads[i].To[j].Fit == NoEntry {
				continue
			}
			fed = true
			certain = certain && n.Leads[i].Certain && n.Leads[i].Volts != 0 && n.Leads[i].To[j].Fit == Mates
			carried := min(n.Leads[i].Carries, n.Leads[i].To[j].Cap.Rating).At(n.Leads[i].Volts)
			if n.converts(i) {
				carried *= units.Watt(n.ref.ConversionShare)
			}
			feed += carried
		}
	}
	return feed, certain, fed
}

func (n *Network) judgeHostSlot(r *finding.Rule, out *finding.List) {
	slot := n.rig.Slot(n.rig.Route.Slot)
	if !rig.Is(slot.Form, rig.CardSlot) && !slot.PowerLimit.Known {
		return // power.unfed speaks of slots that feed no card
	}
	share := n.Slot.Total().Watt
	if len(n.rig.Card.Plugs) > 0 && !n.rig.Card.SlotShare.Known {
		share = min(share, n.ref.SlotTotal)
	}
	if limit, stated := slot.PowerLimit.Get(); stated {
		n.addSlotLimit(r, out, share, limit, "the host's papers allow")
		return
	}
	body, known := slot.Body().Get()
	if !known {
		if over(share, n.ref.SlotSmall) {
			out.Need(r, n.Slot.Where+"/lanes_mechanical", "the length of "+slot.Name, "Look at the slot.", "what it may give a card")
		}
		return
	}
	limit, ok := n.ref.SlotPower(body)
	if !ok {
		limit = n.ref.SlotSmall // two lanes: no standard slot, so the least of its neighbours that fits
	}
	if limit == n.ref.SlotTotal && over(share, n.ref.SlotSmall) && !over(share, limit) {
		out.Need(r, n.Slot.Where+"/power_limit_w", "what "+slot.Name+" lets a card take",
			"Read the host's service papers: some office hosts hold their long slot to 25, 35 or 50 W.", "whether the "+share.String()+" the card may take are there")
		return
	}
	n.addSlotLimit(r, out, share, limit, "the standard allows an x"+strconv.Itoa(body)+" slot")
}
