package power

import (
	"slices"
	"strconv"

	"kolvan/core/finding"
	"kolvan/core/rig"
	"kolvan/core/units"
)

// over reports a load above a limit, a hair's breadth of rounding aside.
func over[T ~float64](load, limit T) bool {
	return units.Exactly(load).Over(units.Exactly(limit)) == units.Always
}

// atLeast words a load that is not known exactly by its sure end.
type atLeast Watts

func (load atLeast) String() string {
	if load.Low == load.High {
		return load.High.String()
	}
	return "at least " + load.Low.String()
}

// needCard names the facts without which the card's load is open.
func (n *Network) needCard(r *finding.Rule, decides string, out *finding.List) {
	card := &n.rig.Card
	if card.Plugs == nil {
		out.Need(r, "/card/plugs", "the power plugs of the card", "Look at its upper edge, or read its papers.", decides)
	}
	needWatts(r, card.Power, "/card/power_w", "the card's board power", "Read its papers, or measure it.", decides, out)
	for i := range n.Plugs {
		if n.Plugs[i].Announced.Known() || card.Plugs[i].Power.Known {
			continue
		}
		at := "/card/plugs/" + itoa(i)
		if n.ref.Kind(card.Plugs[i].Connector.Value).Sensed {
			out.Need(r, at+"/sense_w", "what the sense pins of card plug "+card.Plugs[i].Name+" announce", "Read the label of the lead or of the card.", decides)
		} else if !card.Plugs[i].Connector.Known {
			out.Need(r, at+"/connector", "the connector of card plug "+card.Plugs[i].Name, "Count its pins.", decides)
		}
	}
}

// needHost names what the host draws.
func (n *Network) needHost(r *finding.Rule, decides string, out *finding.List) {
	needWatts(r, n.rig.Host.Power, "/host/power_w", "what the host draws under load", "Read a wall meter while it works, or its brick's label as the most it can be.", decides, out)
}

// needWatts asks for a power that is not told, or not as closely as it decides.
func needWatts(r *finding.Rule, told rig.Fact[units.Watt], where, what, how, decides string, out *finding.List) {
	switch ends := rig.Span(told); {
	case !told.Known:
		out.Need(r, where, what, how, decides)
	case told.Tolerance > 0:
		out.Need(r, where, what+" more closely than "+told.Value.String()+" ± "+units.Watt(told.Tolerance).String(), how, decides, float64(ends.Low), float64(ends.High))
	}
}

// needLoads names the facts without which what passes a lead is open.
func (n *Network) needLoads(r *finding.Rule, lead int, out *finding.List) {
	f, decides := &n.Leads[lead].flow, "how much "+n.rig.Leads[lead].Name+" carries"
	if !n.card(f).Known() {
		n.needCard(r, decides, out)
		n.needMaking(r, decides, out)
	}
	if !f.host.Known() {
		n.needHost(r, decides, out)
	}
	for j := range n.Leads[lead].To {
		if e := &n.Leads[lead].To[j]; e.port.kind == theCard && e.port.at < 0 && len(n.Plugs) > 1 {
			out.Need(r, e.Where()+"/at", "which plug of the card "+n.rig.Leads[lead].Name+" goes to", "Look at the card's upper edge.", decides)
		}
	}
	n.needVolts(r, lead, out)
}

func (n *Network) needMaking(r *finding.Rule, decides string, out *finding.List) {
	if n.Slot.Stage >= 0 && !n.rig.Route.Stages[n.Slot.Stage].Makes3V3.Known {
		out.Need(r, n.Slot.where+"/makes_3v3_from_12v", "whether "+n.Slot.Name+" makes its 3.3 V from 12 V", "Look for a converter beside the slot, or ask its papers.", decides)
	}
}

// needVolts asks for the voltage of the supply a lead comes from: without it its
// watts say nothing of its amps.
func (n *Network) needVolts(r *finding.Rule, lead int, out *finding.List) {
	if n.Leads[lead].Volts == 0 && n.Leads[lead].net.fed {
		where, of := n.voltsFact(lead)
		out.Need(r, where, "the voltage that "+of+" gives", "Read its label.", "how many amps "+n.rig.Leads[lead].Name+" carries")
	}
}

// ampsOf is the current of a load on a lead, over all voltages it may have.
func (n *Network) ampsOf(lead int, load Watts) Amps {
	if v := n.Leads[lead].Volts; v != 0 {
		return Amps{Low: load.Low.Over(v), High: load.High.Over(v)}
	}
	return Amps{Low: load.Low.Over(60), High: load.High.Over(5)}
}

// voltsOr12 is a lead's voltage for figures in watts.
func (n *Network) voltsOr12(lead int) units.Volt {
	if v := n.Leads[lead].Volts; v != 0 {
		return v
	}
	return twelve
}

// judgeCard: P > 75 W + ΣR.
func judgeCard(r *finding.Rule, n *Network, out *finding.List) {
	if n.rig.Card.Plugs == nil || !n.rig.Card.Power.Known && n.sensed().High == 0 || rig.Is(n.rig.Card.BuiltIn, true) {
		return // what is open there is asked for by the rules of the feeds
	}
	limit := n.announced(false).Plus(units.Exactly(n.ref.SlotTotal))
	switch n.board().Over(limit) {
	case units.Always:
		out.Add(r, finding.Danger, "/card/power_w", finding.Numbers{{Name: "power_w", Value: float64(n.board().High)}, {Name: "limit_w", Value: float64(limit.High)}},
			"%v of board power against %v from slot and plugs together.", n.board().High, limit.High)
	case units.Sometimes:
		n.needCard(r, "whether the card takes more than its plugs give", out)
	}
}

func judgeNameplate(r *finding.Rule, n *Network, out *finding.List) {
	card := &n.rig.Card
	_, open := n.measured()
	measured := card.Power.Source == rig.Measured || card.Plugs != nil && open == 0 && card.SlotShare.Known
	if rig.Is(card.Altered, true) && !measured {
		out.Need(r, "/card/power_w", "what the altered card really draws", "Measure it under load, and mark the figure as measured.", "everything its feed carries: the nameplate counts until then, and it is not what flows")
	}
	host := &n.rig.Host
	if rig.Is(host.Proc.Altered, true) && host.Power.Source != rig.Measured {
		out.Need(r, "/host/power_w", "what the host really draws with its altered processor", "Measure it under load, without the card, and mark the figure as measured.", "everything that feeds the host: the figure entered counts until then, and it is not what flows")
	}
}

// slotOverDanger is the excess over a slot's limit from which it is dangerous.
const slotOverDanger = 1.2

// slotOver adds an excess of the slot, as far as it is certain.
func (n *Network) slotOver(r *finding.Rule, out *finding.List, asked, limit Watts, of string) (open bool) {
	certain := asked.Over(limit)
	if certain != units.Always {
		return certain == units.Sometimes
	}
	level := finding.Blocked
	if asked.Over(limit.Times(slotOverDanger)) == units.Always {
		level = finding.Danger
	}
	times := ratio(asked.Low, limit.High)
	if out.Fires(r, level, n.Slot.where, finding.Numbers{
		{Name: "asked_w", Value: float64(asked.Low)}, {Name: "limit_w", Value: float64(limit.High)}, {Name: "times", Value: times},
	}) {
		out.Say("The card may take %s through %s; %s %v (%s times).", atLeast(asked), n.Slot.Name, of, limit.High, multiple(times))
	}
	return false
}

// multiple is how many times as much.
type multiple float64

func (m multiple) String() string { return units.Trim(float64(m), 2) }

func ratio(a, b units.Watt) float64 {
	if b <= 0 {
		return 0
	}
	return float64(a / b)
}

func judgeSlotLimit(r *finding.Rule, n *Network, out *finding.List) {
	switch {
	case n.rig.Route.Slot == "" || rig.Is(n.rig.Card.BuiltIn, true):
	case n.Slot.Stage >= 0:
		n.judgeDockSlot(r, out)
	default:
		n.judgeHostSlot(r, out)
	}
}

// judgeDockSlot: the lesser of 75 W, what the dock states, and what the feed
// carries at 12 V.
func (n *Network) judgeDockSlot(r *finding.Rule, out *finding.List) {
	const decides = "whether the slot gives what the card takes through it"
	stage := &n.rig.Route.Stages[n.Slot.Stage]
	limit := units.Exactly(min(n.ref.SlotTotal, stage.SlotLimit.Or(n.ref.SlotTotal)))
	if feed, volts := n.dockFeed(); stage.Supply == "" && n.stages[n.Slot.Stage].fed && volts && feed.High < limit.High {
		asked := n.Slot.At12
		if asked.Over(feed.Times(1+rounding)) != units.Never {
			if n.slotOver(r, out, asked, feed, "what feeds it at 12 V carries") {
				n.needCard(r, decides, out)
			}
			return
		}
	} else if stage.Supply == "" && volts && n.Slot.At12.Over(feed) == units.Sometimes && feed.Low < limit.Low && !feed.Known() {
		n.needCapacity(r, out)
	}
	if n.slotOver(r, out, n.Slot.Both, limit, "it may give") {
		n.needCard(r, decides, out)
	}
}

// dockFeed is what the leads at the dock's inlets carry together; false while a
// voltage among them is not known.
func (n *Network) dockFeed() (feed Watts, known bool) {
	known = true
	n.eachLoad(func(lead int, e *EndLoad) {
		if e.port.kind != aStage || e.port.part != n.Slot.Stage {
			return
		}
		v := n.Leads[lead].Volts
		known = known && v != 0
		carries := n.Leads[lead].Carries.AtMost(n.rating(e))
		carried := Watts{Low: carries.Low.At(v), High: carries.High.At(v)}
		if isOther(e.into.voltage.Value) {
			carried = carried.Times(n.ref.ConversionShare)
		}
		feed = feed.Plus(carried)
	})
	if back := n.stages[n.Slot.Stage].back; back > 0 {
		by := &n.Leads[back-1]
		return Watts{Low: by.Carries.Low.At(by.Volts), High: by.Carries.High.At(by.Volts)}, by.Volts != 0
	}
	return feed, known
}

// needCapacity asks for the ends on the way to the dock that state nothing.
func (n *Network) needCapacity(r *finding.Rule, out *finding.List) {
	n.eachEnd(func(lead int, e *EndLoad) {
		onTheWay := e.source && n.reaches(lead, aStage) || e.port.kind == aStage
		if (e.Fit == Unknown || e.Fit == Unstated) && onTheWay {
			n.needEnd(r, lead, e, out)
		}
	})
}

// needEnd asks what a pair carries: for its connector, or for what it states.
func (n *Network) needEnd(r *finding.Rule, lead int, e *EndLoad, out *finding.List) {
	name := n.rig.Leads[lead].Name
	if e.Fit == Unknown && e.plugRow != nil {
		n.needSocket(r, e, out)
		return
	}
	if e.Fit == Unknown {
		out.Need(r, e.Where()+"/connector", "the connector of "+name, "Look at the lead.", "what it carries")
		return
	}
	list, field := "inlets", "/current_a"
	if e.source {
		list = "outlets"
	}
	if e.sensed() {
		field = "/sense_w"
	}
	if e.port.at < 0 {
		field, list = "", ""
	}
	where := n.pathOf(e.port, list) + field
	if e.into.current.Known && !e.sensed() {
		where = e.Where() + "/current_a" // the other half is told
	}
	out.Need(r, where, "what the "+rig.Spoken(e.Socket)+" of "+name+" carries", "Read the part's label or papers.", "whether it carries its load", n.around(lead, e)...)
}

// around are the figures at which what a pair states changes something: amps, or the watts
// that sense pins announce.
func (n *Network) around(lead int, e *EndLoad) []float64 {
	if e.sensed() {
		return nil // they announce one of four
	}
	amps := n.ampsOf(lead, e.Load)
	return []float64{float64(amps.Low), float64(amps.High)}
}

// needSocket asks what a plug that is told goes into.
func (n *Network) needSocket(r *finding.Rule, e *EndLoad, out *finding.List) {
	out.Need(r, n.pathOf(e.port, "inlets")+"/connector", "the connector of "+n.loadWords(e), "Count its pins, and compare its face with the plug's.", "whether "+n.rig.Leads[e.lead].Name+" puts supply on ground there")
}

func (n *Network) judgeHostSlot(r *finding.Rule, out *finding.List) {
	slot := n.rig.Slot(n.rig.Route.Slot)
	if !rig.Is(slot.Form, rig.CardSlot) && !slot.PowerLimit.Known {
		return // power.unfed speaks of slots that feed no card
	}
	const decides = "whether the slot gives what the card takes through it"
	share := n.Slot.Both
	if limit, stated := slot.PowerLimit.Get(); stated {
		if n.slotOver(r, out, share, units.Exactly(limit), "the host's papers allow") {
			n.needCard(r, decides, out)
		}
		return
	}
	body, known := slot.Body().Get()
	limit, of := units.Between(n.ref.SlotSmall, n.ref.SlotTotal), "the standard allows the longest slot"
	if known {
		standard, ok := n.ref.SlotPower(body)
		if !ok {
			standard = n.ref.SlotSmall // two lanes: no standard slot, so the least of its neighbours that fits
		}
		limit, of = units.Exactly(standard), "the standard allows an x"+itoa(body)+" slot"
	}
	if n.slotOver(r, out, share, limit, of) {
		if !known {
			out.Need(r, n.Slot.where+"/lanes_mechanical", "how many lanes "+slot.Name+" has room for", "Look at the slot.", "what it may give a card")
		}
		n.needCard(r, decides, out)
	}
	long := !known || limit.Low == n.ref.SlotTotal
	if long && share.Over(units.Exactly(n.ref.SlotSmall)) != units.Never && share.Over(units.Exactly(n.ref.SlotTotal)) != units.Always {
		out.Need(r, n.Slot.where+"/power_limit_w", "what "+slot.Name+" lets a card take",
			"Read the host's service papers: some office hosts hold their long slot to 25, 35 or 50 W.", "whether the "+share.High.String()+" the card may take are there", float64(share.High), float64(share.High/slotOverDanger))
	}
}

// Without a stated current a plug is quiet to 5 A, unknown and a risk to 10 A,
// dangerous above (T), where the row of its kind has no others.
const (
	unstatedQuiet units.Amp = 5
	unstatedMost  units.Amp = 10
)

func judgeConnector(r *finding.Rule, n *Network, out *finding.List) {
	for i := range n.Leads {
		load := &n.Leads[i]
		if n.hostOnly(i) && n.ownBrick(i) && len(load.To) == 1 {
			continue // the host's own, untouched by the plan
		}
		for j := range load.From {
			if e := &load.From[j]; e.port.kind != nothing {
				n.judgeEnd(r, i, e, out)
			}
		}
		like := load.Plain() && load.To[0].Socket == load.From[0].Socket && load.To[0].Cap.Plan >= load.From[0].Cap.Plan && load.To[0].Fit == load.From[0].Fit
		for j := range load.To {
			if e := &load.To[j]; e.port.kind != nothing && !like {
				n.judgeEnd(r, i, e, out)
			}
		}
	}
}

func (n *Network) judgeEnd(r *finding.Rule, lead int, e *EndLoad, out *finding.List) {
	amps := n.ampsOf(lead, e.Load)
	switch e.Fit {
	case Mates:
		n.judgeAmps(r, lead, e, amps, e.Cap.Plan, e.Cap.Rating, rig.Spoken(e.Cap.By), out)
	case Unstated:
		if e.sensed() {
			n.judgeSensed(r, lead, e, amps, out)
			return
		}
		plan, most := unstatedQuiet, unstatedMost
		if own := e.socketRow.OrNone().Unstated; own[1] > 0 {
			plan, most = own[0], own[1]
		}
		half := rig.Spoken(e.Socket) + " that states no current,"
		if e.Cap.By != "" && e.Cap.Plan <= most { // the other half states less than it could be
			plan, most, half = min(plan, e.Cap.Plan), e.Cap.Rating, rig.Spoken(e.Socket)+" of which one half states no current,"
		}
		if most < mostAmps {
			n.judgeAmps(r, lead, e, amps, plan, most, half, out)
		}
		if amps.High > plan && amps.Low <= most {
			n.needEnd(r, lead, e, out)
		}
	case Unknown:
		if e.Load.High > 0 {
			n.needEnd(r, lead, e, out)
		}
	}
}

// judgeSensed: a card 16-pin whose sense pins nobody read may be for 150 W, or for
// 600.
func (n *Network) judgeSensed(r *finding.Rule, lead int, e *EndLoad, amps Amps, out *finding.List) {
	least, most := units.Watt(150).Over(twelve), units.Watt(600).Over(twelve)
	switch amps.Over(units.Between(least, most)) {
	case units.Always:
		n.judgeAmps(r, lead, e, amps, most, most, rig.Spoken(e.Socket)+", whatever it announces,", out)
	case units.Sometimes:
		n.needEnd(r, lead, e, out)
	}
}

func (n *Network) judgeAmps(r *finding.Rule, lead int, e *EndLoad, amps Amps, plan, rating units.Amp, of string, out *finding.List) {
	planned, most := plan, rating
	if e.Cap.Stated && rating == e.Cap.Rating {
		planned, most = printed(plan), printed(rating)
	}
	overPlan, overRating := amps.Over(units.Exactly(planned)), amps.Over(units.Exactly(most))
	if overPlan == units.Sometimes || overRating == units.Sometimes {
		n.needLoads(r, lead, out)
	}
	if overPlan != units.Always {
		return
	}
	level, limit, word := finding.Risk, plan, "planned for"
	if overRating == units.Always {
		level, limit, word = finding.Danger, rating, "rated for"
	}
	volts := n.voltsOr12(lead)
	if out.Fires(r, level, e.Where(), finding.Numbers{
		{Name: "load_w", Value: float64(e.Load.Low)}, {Name: "limit_w", Value: float64(limit.At(volts))},
		{Name: "load_a", Value: float64(amps.Low)}, {Name: "limit_a", Value: float64(limit)}, {Name: "contacts", Value: float64(e.Cap.Contacts)},
	}) {
		out.Say("%s: %s asked of a %s %s %v (%v of %v).", n.rig.Leads[lead].Name, atLeast(e.Load), of, word, limit.At(volts), amps.Low, limit)
	}
}

// judgeLead follows adapters, splitters and chains to their source.
func judgeLead(r *finding.Rule, n *Network, out *finding.List) {
	for i := range n.Leads {
		load := &n.Leads[i]
		if len(load.From) == 0 || len(load.To) == 0 || !load.net.fed || load.Plain() && load.From[0].port.kind == aSupply {
			continue // power.connector says it all
		}
		n.judgeCarries(r, i, out)
	}
}

func (n *Network) judgeCarries(r *finding.Rule, i int, out *finding.List) {
	load, name, volts := &n.Leads[i], n.rig.Leads[i].Name, n.voltsOr12(i)
	carries, amps := load.Carries, n.ampsOf(i, load.Load)
	numbers := finding.Numbers{{Name: "load_w", Value: float64(load.Load.Low)}, {Name: "carries_w", Value: float64(carries.High.At(volts))}, {Name: "promised_w", Value: float64(n.promised(i).At(volts))}}
	most := carries
	if load.stated() {
		most.High = printed(carries.High)
	}
	switch amps.Over(most) {
	case units.Always:
		if out.Fires(r, finding.Danger, rig.LeadPath(i), numbers) {
			out.Say("%s: %s asked, its source ends together carry %v.", name, atLeast(load.Load), carries.High.At(volts))
		}
		return
	case units.Sometimes:
		n.needLoads(r, i, out)
	}
	if promised := n.promised(i); over(promised, carries.High) {
		out.Add(r, finding.Risk, rig.LeadPath(i), numbers, "%s ends in plugs for %v; its source ends together carry %v.", name, promised.At(volts), carries.High.At(volts))
	}
}

// promised is what the lead's own load ends announce, as anybody reading the
// plugs would take it.
func (n *Network) promised(i int) (sum units.Amp) {
	for j := range n.Leads[i].To {
		e := &n.Leads[i].To[j]
		row := e.plugRow
		switch {
		case row == nil || row.Stated:
		case row.Sensed && e.Fit == Mates:
			sum += e.Cap.Plan
		case !row.Sensed:
			sum += row.Plan.Over(twelve)
		}
	}
	return sum
}

// judgeOneCable: two card plugs on one cable, further leads plugged into it
// counted, against its source end.
func judgeOneCable(r *finding.Rule, n *Network, out *finding.List) {
	for i := range n.Leads {
		load := &n.Leads[i]
		if len(load.From) == 0 || load.From[0].port.kind == aLead {
			continue // the cable begins further up
		}
		plugs := n.plugsBehind(i, 0)
		if plugs < 2 {
			continue
		}
		var plan, rating units.Amp
		for j := range load.From {
			plan, rating = plan+load.From[j].Cap.Plan, rating+load.From[j].Cap.Rating
		}
		amps, volts := n.ampsOf(i, load.Load), n.voltsOr12(i)
		if plan == 0 || amps.Over(units.Exactly(plan)) != units.Always {
			continue // an end that says nothing is asked for by power.connector
		}
		level, limit := finding.Risk, plan
		if amps.Over(units.Exactly(rating)) == units.Always {
			level, limit = finding.Danger, rating
		}
		out.Add(r, level, rig.LeadPath(i), finding.Numbers{{Name: "load_w", Value: float64(load.Load.Low)}, {Name: "limit_w", Value: float64(limit.At(volts))}},
			"%s feeds %d plugs of the card with %s through a source end for %v. Give each plug a cable of its own.", n.rig.Leads[i].Name, plugs, atLeast(load.Load), limit.At(volts))
	}
}

// plugsBehind counts the card plugs that hang on a lead.
func (n *Network) plugsBehind(i, depth int) (plugs int) {
	if depth > len(n.Leads) {
		return 0
	}
	for j := range n.Leads[i].To {
		if n.Leads[i].To[j].port.kind == theCard {
			plugs++
		}
	}
	for k := range n.Leads {
		for j := range n.Leads[k].From {
			if e := &n.Leads[k].From[j]; e.port.kind == aLead && e.port.part == i {
				plugs += n.plugsBehind(k, depth+1)
				break
			}
		}
	}
	return plugs
}

// adapterGauge is the thinnest wire that adapters have (T).
const adapterGauge = 24

// judgeWire holds the current of every wire against the figure for its gauge. A
// supply's own leads are inside its rating.
func judgeWire(r *finding.Rule, n *Network, out *finding.List) {
	n.eachEnd(func(lead int, e *EndLoad) {
		l := &n.rig.Leads[lead]
		gauge, told := n.thinnest(lead)
		if e.Fit == NoEntry || e.port.kind == nothing || !told && n.Leads[lead].Plain() {
			return
		}
		if !told {
			gauge = adapterGauge
		}
		wires := n.liveWires(e)
		if l.Wires != nil {
			wires = min(wires, n.grounds(e)) // all that goes comes back
		}
		amps := n.ampsOf(lead, e.Load).Times(1 / float64(wires))
		limit := n.gaugeLimit(e, gauge)
		if amps.Over(units.Exactly(limit)) != units.Always {
			return
		}
		if !told {
			out.Need(r, rig.LeadPath(lead)+"/gauge_awg", "the gauge of the wires of "+l.Name, "Read the print on them.", "whether each carries its "+amps.Low.String())
			return
		}
		out.Add(r, finding.Danger, e.Where(), finding.Numbers{{Name: "load_a", Value: float64(amps.Low)}, {Name: "limit_a", Value: float64(limit)}, {Name: "wires", Value: float64(wires)}},
			"%s: %v through each of %d wires of AWG %d, which carry %v.", l.Name, amps.Low, wires, gauge, limit)
	})
}

// liveWires counts the wires at 12 V of a lead's end, at least one.
func (n *Network) liveWires(e *EndLoad) int {
	if n.rig.Leads[e.lead].Wires != nil {
		return max(1, n.wiresAt(e, isLive))
	}
	if told := count(e.plugMap, isLive); told > 0 && e.plugRow.OrNone().OwnMap {
		return told
	}
	if e.Cap.Contacts > 0 {
		return e.Cap.Contacts
	}
	if e.plugRow != nil && e.plugRow.Live() > 0 {
		return e.plugRow.Live()
	}
	return 1
}

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
			if out.Fires(r, finding.Risk, e.Where(), finding.Numbers{{Name: "drop_v", Value: float64(drop.Low)}, {Name: "limit_v", Value: float64(limit)}}) {
				out.Say("%s: %v of %v are lost on the way to %s; %v are allowed.", n.rig.Leads[lead].Name, drop.Low, volts, n.loadWords(e), limit)
			}
		case units.Sometimes:
			if ungauged >= 0 {
				out.Need(r, rig.LeadPath(ungauged)+"/gauge_awg", "the gauge of the wires of "+n.rig.Leads[ungauged].Name, "Read the print on them.", "whether "+n.loadWords(e)+" gets its voltage")
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

// dropAbove is what is lost before the source end of a lead: on the lead that it hangs on, or
// on the one that loses least of those that feed the dock it comes from.
func (n *Network) dropAbove(lead, depth int) (least Volts, ungauged int) {
	if len(n.Leads[lead].From) != 1 {
		return Volts{}, -1
	}
	up := n.Leads[lead].From[0].port
	if up.kind == aLead {
		return n.drop(up.part, depth+1)
	}
	ungauged = -1
	if up.kind != aStage {
		return Volts{}, ungauged
	}
	first := true
	n.eachLoad(func(feeds int, e *EndLoad) {
		if e.port.kind != aStage || e.port.part != up.part {
			return
		}
		if fall, open := n.drop(feeds, depth+1); first || fall.Low < least.Low {
			least, ungauged, first = fall, open, false
		}
	})
	return least, ungauged
}

// grounds counts the ground contacts of an end, at least one.
func (n *Network) grounds(e *EndLoad) int {
	if n.rig.Leads[e.lead].Wires != nil {
		return max(1, n.wiresAt(e, isGround))
	}
	if told := count(e.plugMap, isGround); told > 0 && e.plugRow.OrNone().OwnMap {
		return told
	}
	return max(1, e.plugRow.OrNone().Grounds())
}

// count is how many pins of a map are of a kind.
func count(pins []string, is func(string) bool) (found int) {
	for _, pin := range pins {
		if is(pin) {
			found++
		}
	}
	return found
}

// From which heat a plug is warned of, °C (P): 30 K over a warm room is what contacts are
// made for, and a plug that gains 50 K has a contact that is failing.
const (
	hotPlug     = 55
	burningPlug = 75
)

// judgeHeat looks at the heat of plugs, as read.
func judgeHeat(r *finding.Rule, n *Network, out *finding.List) {
	for i := range n.rig.LoadReadings {
		l := &n.rig.LoadReadings[i]
		heat, told := l.Heat.Get()
		if !told || heat <= hotPlug {
			continue
		}
		plug := l.Plug
		if plug == "" {
			plug = "a plug"
		}
		at, numbers := "/load_readings/"+strconv.Itoa(i)+"/plug_c", finding.Numbers{{Name: "plug_c", Value: heat}, {Name: "most_c", Value: hotPlug}}
		if heat > burningPlug {
			out.Add(r, finding.Danger, at, numbers, "%s reached %.0f °C: a contact in it is failing. Switch off, let it cool, and replace plug and lead before anything is run again.", plug, heat)
			continue
		}
		out.Add(r, finding.Risk, at, numbers, "%s reached %.0f °C: seat it anew, look for a loose or dark contact, and share its load over another lead.", plug, heat)
	}
}
