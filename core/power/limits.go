package power

import (
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

// ampsOf is the current of a load on a lead, over all voltages it may have.
func (n *Network) ampsOf(lead int, load Watts) Amps {
	if l := &n.Leads[lead]; l.Volts != 0 {
		span := voltage{l.Volts, l.off}.span()
		return Amps{Low: load.Low.Over(span.High), High: load.High.Over(span.Low)}
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
		out.Add(r, finding.Danger, "/card/power_w", finding.Numbers{
			{Name: "power_w", Value: float64(n.board().High)}, {Name: "limit_w", Value: float64(limit.High)},
		},
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
		out.Need(
			r, "/card/power_w", "what the altered card really draws", "Measure it under load, and mark the figure as measured.",
			"everything its feed carries: the nameplate counts until then, and it is not what flows",
		)
	}
	host := &n.rig.Host
	if rig.Is(host.Proc.Altered, true) && host.Power.Source != rig.Measured {
		out.Need(
			r, "/host/power_w", "what the host really draws with its altered processor",
			"Measure it under load, without the card, and mark the figure as measured.",
			"everything that feeds the host: the figure entered counts until then, and it is not what flows",
		)
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
			out.Need(
				r, n.Slot.where+"/lanes_mechanical", "how many lanes "+slot.Name+" has room for", "Look at the slot.",
				"what it may give a card",
			)
		}
		n.needCard(r, decides, out)
	}
	long := !known || limit.Low == n.ref.SlotTotal
	if long && share.Over(units.Exactly(n.ref.SlotSmall)) != units.Never && share.Over(units.Exactly(n.ref.SlotTotal)) != units.Always {
		out.Need(
			r,
			n.Slot.where+"/power_limit_w",
			"what "+slot.Name+" lets a card take",
			"Read the host's service papers: some office hosts hold their long slot to 25, 35 or 50 W.",
			"whether the "+share.High.String()+" the card may take are there",
			float64(share.High),
			float64(share.High/slotOverDanger),
		)
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
		like := load.Plain() && load.To[0].Socket == load.From[0].Socket && load.To[0].Cap.Plan >= load.From[0].Cap.Plan &&
			load.To[0].Fit == load.From[0].Fit
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
		if e.open() && amps.High > e.least && amps.Low <= e.Cap.Rating {
			n.needHalf(r, e, "whether it is made for what it carries", out)
		}
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
		out.Say(
			"%s: %s asked of a %s %s %v (%v of %v).", n.rig.Leads[lead].Name, atLeast(e.Load), of, word, limit.At(volts), amps.Low,
			limit,
		)
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
	numbers := finding.Numbers{
		{Name: "load_w", Value: float64(load.Load.Low)}, {Name: "carries_w", Value: float64(carries.High.At(volts))},
		{Name: "promised_w", Value: float64(n.promised(i).At(volts))},
	}
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
		out.Add(
			r, finding.Risk, rig.LeadPath(i), numbers, "%s ends in plugs for %v; its source ends together carry %v.", name,
			promised.At(volts), carries.High.At(volts),
		)
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
		out.Add(
			r,
			level,
			rig.LeadPath(i),
			finding.Numbers{
				{Name: "load_w", Value: float64(load.Load.Low)}, {Name: "limit_w", Value: float64(limit.At(volts))},
			},
			"%s feeds %d plugs of the card with %s through a source end for %v. Give each plug a cable of its own.",
			n.rig.Leads[i].Name,
			plugs,
			atLeast(load.Load),
			limit.At(volts),
		)
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
			out.Need(
				r, rig.LeadPath(lead)+"/gauge_awg", "the gauge of the wires of "+l.Name, "Read the print on them.",
				"whether each carries its "+amps.Low.String(),
			)
			return
		}
		out.Add(r, finding.Danger, e.Where(), finding.Numbers{
			{Name: "load_a", Value: float64(amps.Low)}, {Name: "limit_a", Value: float64(limit)},
			{Name: "wires", Value: float64(wires)},
		},
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
		at, numbers := "/load_readings/"+strconv.Itoa(i)+"/plug_c", finding.Numbers{
			{Name: "plug_c", Value: heat}, {Name: "most_c", Value: hotPlug},
		}
		if heat > burningPlug {
			out.Add(
				r, finding.Danger, at, numbers,
				"%s reached %.0f °C: a contact in it is failing. Switch off, let it cool, and replace plug and lead before anything is run again.",
				plug, heat,
			)
			continue
		}
		out.Add(
			r, finding.Risk, at, numbers,
			"%s reached %.0f °C: seat it anew, look for a loose or dark contact, and share its load over another lead.", plug,
			heat,
		)
	}
}
