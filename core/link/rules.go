package link

import (
	"fmt"
	"slices"

	"kolvan/core/finding"
	"kolvan/core/rig"
	"kolvan/core/units"
)

// The names of the rules, as reports and files have them.
const (
	RuleNoPCIe       = "link.no-pcie"
	RuleFormMismatch = "link.form-mismatch"
	RuleModuleLength = "link.module-length"
	RuleSideband     = "link.sideband"
	RuleWidth        = "link.width"
	RuleSpeed        = "link.speed"
	RuleNarrowCard   = "link.narrow-card"
	RuleMargin       = "link.margin"
	RuleSharedLanes  = "link.shared-lanes"
	RuleSharedUplink = "link.shared-uplink"
	RuleClaim        = "link.claim"
	RuleTwoLanes     = "link.two-lanes"
	RuleTunnel       = "link.tunnel"
	RuleLoopback     = "link.loopback"
	RuleMeasured     = "link.measured"
	RuleErrors       = "link.errors"
	RuleColdPlug     = "link.cold-plug"
	RuleLookAlike    = "link.look-alike"
)

var rules = finding.Table[*Plan]{
	{Rule: finding.Rule{
		Name: RuleNoPCIe, Station: finding.Route, Title: "The slot carries no PCIe", Levels: finding.Levels{finding.Blocked},
		Line: "{thing} carries no PCIe", Tag: "no PCIe",
		Would:   "a slot that carries PCIe: most M.2 slots of key M, most mini PCIe slots, any card slot",
		Evening: finding.Evening{finding.Blocked: finding.Stops("lanes=none")},
		Cures:   []finding.Cure{finding.Slot, finding.Home},
		Fires: "the slot, or the module form in it, carries no PCIe (SATA-only, video-only look-alike, USB-only, radio-only), or no lane " +
			"is wired to it, or through a stage",
		Example: "m2-a carries SATA only, no PCIe.",
	}, Judge: judgeNoPCIe},
	{Rule: finding.Rule{
		Name: RuleFormMismatch, Station: finding.Route, Title: "It does not plug in", Levels: finding.Levels{finding.Blocked},
		Line: "{thing} does not go into its socket", Tag: "wrong plug",
		Would:   "an adapter made for the very form and key of the slot, or another slot",
		Evening: finding.Evening{finding.Blocked: finding.Apart()},
		Figures: finding.Figures{"edge_lanes": finding.MoreIsWorse},
		Cures:   []finding.Cure{finding.Slot, finding.Home, finding.Stage, finding.AnotherCard},
		Fires: "a plug does not enter its slot: another form or key, a closed card slot shorter than the edge that should go in, or a part " +
			"made for other hosts alone",
		Example: "Adapter has key M; m2-a has key E.",
	}, Judge: judgeForm},
	{Rule: finding.Rule{
		Name: RuleModuleLength, Station: finding.Route, Title: "The module does not lie on a stand-off", Levels: finding.Levels{finding.Blocked,
			finding.Risk},
		Line: "the module does not end at a stand-off", Tag: "module {module_mm}|module length",
		Would:   "a module as long as one of the slot's stand-offs, or an extender for it",
		Evening: finding.Evening{finding.Blocked: finding.Apart(), finding.Risk: finding.Weakens()},
		Figures: finding.Figures{"module_mm": finding.MoreIsWorse},
		Cures:   []finding.Cure{finding.Stage},
		Fires: "the adapter is longer than the slot's last stand-off, or no stand-off is there for a shorter one; a risk when the adapter " +
			"may be cut",
		Example: "The module of adapter is 80 mm long; the last stand-off of m2-a is at 60 mm. It cannot be fastened there. Ask its maker " +
			"whether it may be shortened.",
	}, Judge: judgeModuleLength},
	{Rule: finding.Rule{
		Name: RuleSideband, Station: finding.Route, Title: "No clock, or no reset", Levels: finding.Levels{finding.Blocked},
		Line: "no reference clock, or no reset, reaches the card", Tag: "no clock",
		Would:   "a part that carries clock and reset, which sound adapters do",
		Evening: finding.Evening{finding.Blocked: finding.Stops("sideband=off")},
		Cures:   []finding.Cure{finding.Stage},
		Fires:   "a stage lacks the reference clock or reset, or nothing straps clock-request",
		Example: "Cable does not carry the reference clock: there is no link over it at any speed.",
	}, Judge: judgeSideband},
	{Rule: finding.Rule{
		Name: RuleWidth, Station: finding.Route, Title: "Link narrower than the card", Levels: finding.Levels{finding.Note, finding.Risk},
		Line:    "the card gets {width} of its {card_lanes} lanes, {net_gb_s}|the card gets {width} of its {card_lanes} lanes",
		Tag:     "{width} of {card_lanes} lanes",
		Would:   "a slot with more lanes; no slot of this host has them unless one is offered here",
		Evening: finding.Evening{finding.Risk: finding.Weakens()},
		Figures: finding.Figures{"width": finding.LessIsWorse},
		Cures:   []finding.Cure{finding.Slot, finding.Home, finding.Stage},
		Fires: "the link is narrower than the card; a risk when the route loses lanes the slot wires, or a card of eight or more lanes " +
			"gets under 1.6 GB/s net",
		Example: "4 of the card's 16 lanes, set by m2-a.",
	}, Judge: judgeWidth},
	{Rule: finding.Rule{
		Name: RuleSpeed, Station: finding.Route, Title: "Link slower than the card", Levels: finding.Levels{finding.Note},
		Figures: finding.Figures{"generation": finding.LessIsWorse},
		Fires:   "the planned generation is below the card's",
		Example: "Gen 3 where the card could do Gen 4, set by m2-a.",
	}, Judge: judgeSpeed},
	{Rule: finding.Rule{
		Name: RuleNarrowCard, Station: finding.Route, Title: "Narrow card on an older link", Levels: finding.Levels{finding.Note, finding.Risk},
		Line: "the card uses {card_lanes} of {wired} lanes, on an older link", Tag: "{card_lanes} of {wired} lanes",
		Would:   "a card with more lanes, or a slot of a later generation",
		Evening: finding.Evening{finding.Risk: finding.Weakens()},
		Figures: finding.Figures{"card_lanes": finding.LessIsWorse},
		Cures:   []finding.Cure{finding.Slot, finding.Home, finding.AnotherCard},
		Fires: "the card has fewer lanes than are wired along the route and the route is of an older generation than the card; a risk " +
			"under 2 GB/s net",
		Example: "The card uses 4 of 16 wired lanes, and they run at Gen 3 where the card was made for Gen 4: 3.22 GB/s net.",
	}, Judge: judgeNarrowCard},
	{Rule: finding.Rule{
		Name: RuleMargin, Station: finding.Route, Title: "Loss against the budget", Levels: finding.Levels{finding.Note, finding.Risk,
			finding.Blocked},
		Line: "the route loses {loss_db} of the {budget_db} it may", Tag: "{margin_db} of margin",
		Would:   "a shorter or better cable, fewer joints, or a lower generation",
		Evening: finding.Evening{finding.Risk: finding.Weakens(), finding.Blocked: finding.Stops("lanes=none")},
		Figures: finding.Figures{"margin_db": finding.LessIsWorse},
		Cures:   []finding.Cure{finding.Stage, finding.Force},
		Fires: "the loss margin at the planned speed is under +4.5 dB (note) or +3 dB (risk); blocked when no generation, Gen 1 included, " +
			"reaches 0 dB, or a forced one is under −6 dB",
		Example: "At Gen 4 the route loses 24.8 dB of 28.0 dB: a margin of +3.2 dB, likely. A stable link has a chance of 86 %. Comfortable " +
			"up to Gen 3.",
	}, Judge: judgeMargin},
	{Rule: finding.Rule{
		Name: RuleSharedLanes, Station: finding.Route, Title: "Lanes shared with another slot", Levels: finding.Levels{finding.Note,
			finding.Risk},
		Line: "{thing} shares its lanes with another slot", Tag: "shared lanes",
		Would:   "leaving the other slot empty, or a slot with lanes of its own",
		Evening: finding.Evening{finding.Risk: finding.Weakens()},
		Cures:   []finding.Cure{finding.Slot, finding.Home},
		Fires: "the slot takes its lanes from another slot or port: what hangs there stops (note), and where something sits or will sit " +
			"there, one of the two loses lanes or is switched off (risk)",
		Example: "m2-a takes its lanes from the drive bay: what hangs there stops.",
	}, Judge: judgeSharedLanes},
	{Rule: finding.Rule{
		Name: RuleSharedUplink, Station: finding.Route, Title: "The chipset's uplink is shared", Levels: finding.Levels{finding.Note,
			finding.Risk},
		Line: "the card shares an uplink of {uplink_gb_s}|the card shares the chipset's uplink", Tag: "shared uplink",
		Would:   "a slot at the processor, where the host has one",
		Evening: finding.Evening{finding.Risk: finding.Weakens()},
		Figures: finding.Figures{"asked_gb_s": finding.MoreIsWorse},
		Fires: "the slot is behind the chipset; a risk when the card and the displaced drive ask for more than its uplink carries; a stage " +
			"with a packet switch, which shares the rate of its plug (note)",
		Example: "m2-a is behind the chipset: the card shares its uplink with all else there.",
	}, Judge: judgeUplink},
	{Rule: finding.Rule{
		Name: RuleClaim, Station: finding.Route, Title: "More than it can carry", Levels: finding.Levels{finding.Risk},
		Line: "{thing} is said to carry more than it can", Tag: "told too much",
		Would:   "the figure of its papers, or one that was read",
		Evening: finding.Evening{finding.Risk: finding.Unseen()},
		Figures: finding.Figures{"told": finding.MoreIsWorse},
		Fires:   "a stated lane count or generation is more than its form or body can carry; the figures use the lesser",
		Example: "m2-a is said to have 8 lanes; its form carries at most 4, and that is what counts here.",
	}, Judge: judgeClaim},
	{Rule: finding.Rule{
		Name: RuleTwoLanes, Station: finding.Route, Title: "Two lanes, or one", Levels: finding.Levels{finding.Note}, Notes: true,
		Fires:   "the link is two lanes wide and it is not known that the card trains on two, which the standard leaves optional",
		Example: "2 lanes, or 1 if the card does not do two.",
	}, Judge: judgeTwoLanes},
	{Rule: finding.Rule{
		Name: RuleTunnel, Station: finding.Route, Title: "Through a tunnelled port", Levels: finding.Levels{finding.Note},
		Figures: finding.Figures{"class_gbit_s": finding.LessIsWorse},
		Fires:   "the route runs through a tunnelled port; says what that leaves for payload",
		Example: "m2-a tunnels PCIe among other traffic: of its 20 Gb/s, 2.00 GB/s are left for the card.",
	}, Judge: judgeTunnel},
	{Rule: finding.Rule{
		Name: RuleLoopback, Station: finding.Route, Title: "Frames come back over the link", Levels: finding.Levels{finding.Note, finding.Risk},
		Line: "frames come back over the link: {return_gb_s}", Tag: "frames come back",
		Would:   "a screen at the card's own output",
		Evening: finding.Evening{finding.Risk: finding.Weakens()},
		Figures: finding.Figures{"return_gb_s": finding.MoreIsWorse},
		Fires:   "the host's own panel is used; gives the frame ceiling; a risk when the frames take over 40 % of what the link carries upstream",
		Example: "Every frame of the host's own panel comes back over the link: 0.50 GB/s of 6.43 GB/s. It carries 776 frames a second at " +
			"the most.",
	}, Judge: judgeLoopback},
	{Rule: finding.Rule{
		Name: RuleMeasured, Station: finding.Route, Title: "The link was read below the plan", Levels: finding.Levels{finding.Risk, finding.Note},
		Line: "the link ran slower than planned", Tag: "slower than planned",
		Would:   "the card seated anew, then another cable, then a lower generation set in the firmware",
		Evening: finding.Evening{finding.Risk: finding.Weakens()},
		Figures: finding.Figures{"generation": finding.LessIsWorse, "width": finding.LessIsWorse},
		Fires:   "a reading under load is below the plan; a reading at idle says only that it was idle (note), save for the width",
		Example: "Under load the link ran at Gen 2; Gen 4 is planned.",
	}, Judge: judgeMeasured},
	{Rule: finding.Rule{
		Name: RuleErrors, Station: finding.Route, Title: "Errors on the link", Levels: finding.Levels{finding.Risk, finding.Note},
		Line: "the link shows errors", Tag: "link errors",
		Would:   "every plug of the link seated anew, a shorter cable, or a lower generation",
		Evening: finding.Evening{finding.Risk: finding.Weakens()},
		Figures: finding.Figures{"ber": finding.MoreIsWorse},
		Cures:   []finding.Cure{finding.Stage, finding.Force},
		Fires:   "the lower 95 % bound of the error rate exceeds 1e-12 (risk), or only the estimate does (note)",
		Example: "3 errors in 6.4e+10 bits: 4.7e-11 of a bit, between 9.7e-12 and 1.4e-10 with 95 %; more than a sound link has, for " +
			"certain. Counters are sticky, so the truth is no less. Force a lower generation, or mend the path.",
	}, Judge: judgeErrors},
	{Rule: finding.Rule{
		Name: RuleColdPlug, Station: finding.Route, Title: "Plug only with both sides off", Levels: finding.Levels{finding.Note}, Notes: true,
		Fires:   "the route has no hot-plug: connect and disconnect only with both sides off",
		Example: "This route is not made for plugging while running: connect and disconnect only with both sides off, and the mains plug drawn.",
	}, Judge: judgeColdPlug},
	{Rule: finding.Rule{
		Name: RuleLookAlike, Station: finding.Route, Title: "Its plug enters what it must never", Levels: finding.Levels{finding.Note},
		Notes:   true,
		Fires:   "a stage carries the link through plugs made for a screen or for USB: they enter a screen's socket or a USB port, and must never",
		Example: "The plug of cable enters the socket of a screen, and is not for one: never into a screen, nor a cable of a screen's into it.",
	}, Judge: judgeLookAlike},
}

// Rules lists the rules of this package.
func Rules() []finding.Rule { return rules.Rules() }

// Judge adds what the rules say about the plan.
func (p *Plan) Judge(out *finding.List) { rules.Judge(p, out) }

func judgeNoPCIe(r *finding.Rule, p *Plan, out *finding.List) {
	slot := p.rig.Slot(p.rig.Route.Slot)
	if slot == nil {
		out.Need(r, "/route/slot", "the slot the route starts from", "Choose one of the host's slots.", "whether there is a link at all")
		return
	}
	at := p.Elements[0].Where
	switch {
	case rig.Is(slot.Form, rig.MSATA):
		out.Add(r, finding.Blocked, at, nil, "%s is an mSATA slot. It looks like mini PCIe and carries no PCIe.", slot.Name)
	case rig.Is(slot.Lanes, 0):
		out.Add(r, finding.Blocked, at, nil, "No lane is wired to %s.", slot.Name)
	case !carriesNone(slot) && p.None:
		i := unwired(p.rig)
		out.Add(r, finding.Blocked, rig.StagePath(i)+"/lanes", nil, "No lane is wired through %s.", p.rig.Route.Stages[i].Name)
	case p.None:
		out.Add(r, finding.Blocked, at, nil, "%s carries %s, no PCIe.", slot.Name, words(slot.Carries.Value))
	case !slot.Carries.Known && mayLackPCIe(slot):
		out.Need(r, at+"/carries", "what the contacts of "+slot.Name+" carry",
			"Read the host's service papers or the label beside the slot.", "between a link and none")
	case !slot.Form.Known:
		out.Need(r, at+"/form", "the form of "+slot.Name, "Look at the slot with the cover off.", "between a link and none")
	}
}

func words(carried []rig.Carried) string {
	if len(carried) == 0 {
		return "nothing"
	}
	return rig.SpokenList(carried, " and ") + " only"
}

// mayLackPCIe: card slots and OCuLink ports are there for PCIe; the others have
// look-alikes without it. A tunnelled port whose class is told has been looked
// at, save in the 10 Gb/s class, where a plain port has the same mark.
func mayLackPCIe(slot *rig.Slot) bool {
	if rig.Is(slot.Form, rig.Tunnel) && slot.TunnelRate.Value > plainPort {
		return false
	}
	return !slices.ContainsFunc(
		[]rig.Form{rig.CardSlot, rig.OCuLink, rig.SFF8654, rig.SFFTA1016, "mxm", "expresscard"},
		func(f rig.Form) bool { return rig.Is(slot.Form, f) },
	)
}

// plainPort is the rate of a port that may tunnel nothing.
const plainPort units.GigabitPerSecond = 10

// judgeWidth holds what is certain of the width against the card's lanes.
func judgeWidth(r *finding.Rule, p *Plan, out *finding.List) {
	if p.None {
		return
	}
	if len(p.Elements) == 0 {
		return
	}
	p.needLanes(r, out)
	card, width := p.Elements[len(p.Elements)-1].LaneEnds, p.WidthEnds
	if width.High >= card.Low || len(p.Elements) < 2 {
		return
	}
	pinch := &p.Elements[p.Narrowest]
	level, why := finding.Note, ""
	wired, slot := p.routeLanes()
	if wired.High < slot.Low {
		level, why = finding.Risk, out.Part(" The slot wires %d: the route loses %d.", slot.Low, slot.Low-wired.High)
	}
	if card.Low >= 8 && p.NetEnds.High < p.ref.WideCardNet {
		level, why = finding.Risk, why+out.Part(" A card this wide disappoints under %v: it gets %s.", p.ref.WideCardNet, atMost(p.NetEnds))
	}
	if out.Fires(r, level, pinch.Where, finding.Numbers{
		{Name: "width", Value: float64(width.High)}, {Name: "card_lanes", Value: float64(card.Low)},
		{Name: "net_gb_s", Value: float64(p.NetEnds.High)},
	}) {
		out.Say("%s of the card's %d lanes, set by %s.%s", upTo(width), card.Low, pinch.Name, why)
	}
}

// needLanes asks for lanes nobody told where they may be what limits.
func (p *Plan) needLanes(r *finding.Rule, out *finding.List) {
	lanes := p.Elements[0].LaneEnds
	for i := range p.Elements {
		e := &p.Elements[i]
		lanes = lanes.AtMost(e.LaneEnds)
	}
	for i := range p.Elements {
		e := &p.Elements[i]
		if e.Open(e.Lanes) && Legal(e.LaneEnds.Low) < Legal(lanes.High) {
			out.Need(r, e.Where+"/lanes", "how many lanes "+e.Name+" has", howLanes(e), "the width of the link")
		}
	}
}

// routeLanes are the legal lanes of the route without the card, and of its slot.
func (p *Plan) routeLanes() (route, slot units.Range[int]) {
	lanes := p.Elements[0].LaneEnds
	slot = units.Between(Legal(lanes.Low), Legal(lanes.High))
	for _, e := range p.Elements[1 : len(p.Elements)-1] {
		lanes = lanes.AtMost(e.LaneEnds)
	}
	return units.Between(Legal(lanes.Low), Legal(lanes.High)), slot
}

// upTo words a width by its sure end.
type upTo units.Range[int]

func (width upTo) String() string {
	if width.Low == width.High {
		return fmt.Sprint(width.High)
	}
	return fmt.Sprintf("At most %d", width.High)
}

// atMost words a rate by its sure end.
type atMost units.Range[units.GigabytePerSecond]

func (rate atMost) String() string {
	if rate.Low == rate.High {
		return rate.High.String()
	}
	return "at most " + rate.High.String()
}

// judgeClaim says where a file contradicts what its forms can carry.
func judgeClaim(r *finding.Rule, p *Plan, out *finding.List) {
	for i := range p.Elements {
		e := &p.Elements[i]
		if c := e.Claimed; c.Lanes > 0 {
			out.Add(r, finding.Risk, e.Where+"/lanes", finding.Numbers{
				{Name: "told", Value: float64(c.Lanes)}, {Name: "most", Value: float64(c.MostLanes)},
			},
				"%s is said to have %d lanes; its form carries at most %d, and that is what counts here.", e.Name, c.Lanes, c.MostLanes)
		}
		if c := e.Claimed; c.Gen > 0 {
			out.Add(r, finding.Risk, e.Where+"/generation", finding.Numbers{
				{Name: "told", Value: float64(c.Gen)}, {Name: "most", Value: float64(c.MostGen)},
			},
				"%s is said to do Gen %d; its form does at most Gen %d, and that is what counts here.", e.Name, c.Gen, c.MostGen)
		}
	}
	retimers := 0
	for i := range p.rig.Route.Stages {
		if rig.Is(p.rig.Route.Stages[i].Repeats, rig.Retimer) {
			if retimers++; retimers == mostRetimers+1 {
				out.Add(r, finding.Risk, rig.StagePath(i)+"/repeats", finding.Numbers{
					{Name: "told", Value: float64(retimers)}, {Name: "most", Value: mostRetimers},
				},
					"The standard allows %d retimers on one route; this is one more.", mostRetimers)
			}
		}
	}
}

// mostRetimers is how many retimers a route may have (standard).
const mostRetimers = 2

func howLanes(e *Element) string {
	switch {
	case e.Where == "/card":
		return "Read the card's papers: the edge may be longer than its lanes."
	case rig.Within(e.Where, "/host"):
		return "Read the board's papers, or the width of a card known to use more, under load."
	default:
		return "Count the pairs on the part, or read its papers."
	}
}

func judgeSpeed(r *finding.Rule, p *Plan, out *finding.List) {
	if p.None || len(p.Elements) == 0 {
		return
	}
	for i := range p.Elements {
		e := &p.Elements[i]
		if e.Open(e.Gen) && e.GenEnds.Low < p.GenEnds.High {
			out.Need(r, e.Where+"/generation", "the generation of "+e.Name,
				"Read its papers; a slot's depends on the processor fitted too, and cannot be seen.", "the speed of the link")
		}
	}
	card := p.Elements[len(p.Elements)-1].GenEnds
	if p.GenEnds.High >= card.Low {
		return
	}
	where, by := p.Elements[p.Slowest].Where, p.Elements[p.Slowest].Name
	if p.Forced {
		where, by = "/route/forced_generation", "the forced generation"
	}
	atMost := ""
	if !p.GenEnds.Known() {
		atMost = "At most "
	}
	out.Add(r, finding.Note, where, finding.Numbers{
		{Name: "generation", Value: float64(p.GenEnds.High)}, {Name: "card_generation", Value: float64(card.Low)},
	}, "%sGen %d where the card could do Gen %d, set by %s.", atMost, p.GenEnds.High, card.Low, by)
}

func judgeNarrowCard(r *finding.Rule, p *Plan, out *finding.List) {
	if p.None || len(p.Elements) < 2 {
		return // link.width, link.speed and link.tunnel ask
	}
	card := &p.Elements[len(p.Elements)-1]
	wired, _ := p.routeLanes()
	gen := units.Exactly(len(p.ref.Generations))
	for _, e := range p.Elements[:len(p.Elements)-1] {
		gen = gen.AtMost(e.GenEnds)
	}
	if forced, told := p.rig.Route.ForcedGen.Get(); told {
		gen = gen.AtMost(units.Exactly(forced))
	}
	if wired.Low <= card.LaneEnds.High || gen.High >= card.GenEnds.Low {
		return
	}
	level := finding.Note
	if p.NetEnds.High < p.ref.NarrowCardNet {
		level = finding.Risk
	}
	out.Add(r, level, "/card/lanes", finding.Numbers{
		{
			Name:  "card_lanes",
			Value: float64(card.LaneEnds.High),
		}, {Name: "wired", Value: float64(wired.Low)}, {Name: "net_gb_s", Value: float64(p.NetEnds.High)},
	}, "The card uses %d of %d wired lanes, and they run at Gen %d where the card was made for Gen %d: %s net.",
		card.LaneEnds.High, wired.Low, gen.High, card.GenEnds.Low, atMost(p.NetEnds))
}

func judgeTwoLanes(r *finding.Rule, p *Plan, out *finding.List) {
	if p.Width != 2 || p.rig.Card.TrainsX2.Known || rig.Is(p.rig.Card.Lanes, 2) {
		return
	}
	out.Add(r, finding.Note, "/card/trains_x2", nil, "2 lanes, or 1 if the card does not do two.")
}

func judgeTunnel(r *finding.Rule, p *Plan, out *finding.List) {
	slot := p.rig.Slot(p.rig.Route.Slot)
	if slot == nil || p.None || !rig.Is(slot.Form, rig.Tunnel) {
		return
	}
	at := p.Elements[0].Where
	leaves, known := p.tunnelled(slot)
	if !known {
		out.Need(
			r, at+"/tunnel_gbit_s", "the class of "+slot.Name,
			"Read the mark beside the port and the host's papers; one for pictures alone looks the same.",
			"how much the tunnel leaves for the card",
		)
		return
	}
	out.Add(r, finding.Note, at, finding.Numbers{
		{Name: "class_gbit_s", Value: float64(slot.TunnelRate.Value)}, {Name: "leaves_gb_s", Value: float64(leaves)},
	},
		"%s tunnels PCIe among other traffic: of its %v, %v are left for the card.", slot.Name, slot.TunnelRate.Value, leaves)
	if newer, _ := p.ref.TunnelPayload(slot.TunnelRate.Value, true); !slot.TunnelNew.Known && newer/8 > units.GigabitPerSecond(leaves) {
		out.Need(
			r, at+"/tunnel_newer", "whether "+slot.Name+" is on a newer controller", "Read the host's papers.",
			"whether the tunnel leaves up to "+units.GigabytePerSecond(newer/8).String()+" instead of "+leaves.String(),
		)
	}
}

// Has reports a rule of this package.
func Has(name string) bool { return rules.Of(name) != nil }
