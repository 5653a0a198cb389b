package power

import "kolvan/core/finding"

// The names of the rules, as reports and files have them.
const (
	RuleUnfed     = "power.unfed"
	RuleVoltage   = "power.voltage"
	RuleContract  = "power.contract"
	RuleBarrel    = "power.barrel"
	RuleBackfeed  = "power.backfeed"
	RuleSocket    = "power.socket"
	RulePins      = "power.pins"
	RuleCard      = "power.card"
	RuleNameplate = "power.nameplate"
	RuleSlotLimit = "power.slot-limit"
	RuleConnector = "power.connector"
	RuleLead      = "power.lead"
	RuleOneCable  = "power.one-cable"
	RuleWire      = "power.wire"
	RuleFuse      = "power.fuse"
	RuleHarness   = "power.harness"
	RuleDrop      = "power.drop"
	RuleRail      = "power.rail"
	RuleTotal     = "power.total"
	RuleHeadroom  = "power.headroom"
	RuleSpike     = "power.spike"
	RuleGroup     = "power.group"
	RuleHostBrick = "power.host-brick"
	RuleTurnOn    = "power.turn-on"
	RuleOrder     = "power.order"
	RuleHeat      = "power.heat"
	RuleWall      = "power.wall"
	RuleGround    = "power.ground"
	RuleCap       = "power.cap"
	RuleHeader    = "power.header"
	RuleStrip     = "power.strip"
	RuleBoard     = "power.board"
)

var rules = finding.Table[*Network]{
	{Rule: finding.Rule{
		Name: RuleUnfed, Station: finding.Power, Title: "Nothing feeds it", Levels: finding.Levels{finding.Blocked},
		Tag:     "{thing} unfed",
		Would:   "a lead from a free outlet that goes into it, or a supply that has one",
		Evening: finding.Evening{finding.Blocked: finding.Stops("feed=off")},
		Cures:   []finding.Cure{finding.Slot, finding.Outlet, finding.Supply},
		Fires:   "a load has no feed: the card's slot at 12 V or at 3.3 V, a plug of the card, the host; or a plug does not enter its socket",
		Example: "Card plug A has no feed.",
	}, Judge: judgeUnfed},
	{Rule: finding.Rule{
		Name: RuleVoltage, Station: finding.Power, Title: "Another voltage than it takes", Levels: finding.Levels{finding.Danger},
		Line: "{thing} brings {brings_v} to what takes {wants_v}|{thing} brings another voltage than it meets", Tag: "wrong voltage",
		Would:   "a lead, or a supply, that brings {wants_v}|a lead, or a supply, of the voltage it takes",
		Evening: finding.Evening{finding.Danger: finding.Harms()},
		Figures: finding.Figures{"brings_v": finding.MoreIsWorse},
		Fires: "a load or a contact meant for one voltage is reached by another; unknown where a plug whose kind does not fix its voltage " +
			"states none",
		Example: "Other lead brings 19 V to dock, which takes 12 V. Never join them.",
	}, Judge: judgeVoltage},
	{Rule: finding.Rule{
		Name: RuleContract, Station: finding.Power, Title: "USB-C without the contract it takes", Levels: finding.Levels{finding.Blocked,
			finding.Danger},
		Line: "the USB-C supply does not agree to what the host takes", Tag: "USB-C contract",
		Would:   "a USB-C supply that offers {load_w} or more|a USB-C supply that negotiates the voltage",
		Evening: finding.Evening{finding.Blocked: finding.Stops("load=trips"), finding.Danger: finding.Harms()},
		Figures: finding.Figures{"brings_v": finding.MoreIsWorse, "load_w": finding.MoreIsWorse, "asks_v": finding.MoreIsWorse},
		Fires: "a USB-C contract gives less than what hangs on it draws, or what asks for a voltage meets a source that does not offer it " +
			"(blocked); a USB-C plug carries a voltage that nobody negotiated (danger)",
		Example: "Host lead has a USB-C plug with a voltage on it that nobody negotiated: it would destroy whatever else it is plugged into.",
	}, Judge: judgeContract},
	{Rule: finding.Rule{
		Name: RuleBarrel, Station: finding.Power, Title: "Round plugs that do not match", Levels: finding.Levels{finding.Blocked, finding.Danger},
		Line: "{thing}: the round plugs do not match", Tag: "round plugs",
		Would:   "a lead or a tip of the socket's own size, with the plus on the same contact",
		Evening: finding.Evening{finding.Blocked: finding.Apart(), finding.Danger: finding.Harms()},
		Fires: "a round plug of another size than its socket (blocked), or with the other contact as ground (danger); its voltage and " +
			"current are judged by power.voltage and power.connector",
		Example: "Other lead: a plug of 5.5x2.5 mm goes to a socket of 5.5x2.1 mm.",
	}, Judge: judgeBarrel},
	{Rule: finding.Rule{
		Name: RuleBackfeed, Station: finding.Power, Title: "Two supplies feed into each other", Levels: finding.Levels{finding.Danger},
		Line: "two supplies feed into each other", Tag: "two sources",
		Would:   "one of the two feeds left off",
		Evening: finding.Evening{finding.Danger: finding.Harms()},
		Figures: finding.Figures{"sources": finding.MoreIsWorse},
		Fires: "two sources meet on one net, whatever their voltage: on a lead, a dock, the host, or a powered riser that passes its " +
			"slot's power on",
		Example: "Brick and main meet on dock: each feeds into the other, whatever their voltage. Leave one of them off.",
	}, Judge: judgeBackfeed},
	{Rule: finding.Rule{
		Name: RuleSocket, Station: finding.Power, Title: "Two plugs in one socket", Levels: finding.Levels{finding.Blocked},
		Line: "two leads want one socket", Tag: "one socket, two leads",
		Would:   "another free outlet, or a splitter made for the load",
		Evening: finding.Evening{finding.Blocked: finding.Apart()},
		Fires:   "two leads are plugged into one outlet, one inlet, or one plug of the card",
		Example: "Dock lead and r are plugged into one socket, which holds one plug.",
	}, Judge: judgeSocket},
	{Rule: finding.Rule{
		Name: RulePins, Station: finding.Power, Title: "Plugs that mate but are wired differently",
		Levels: finding.Levels{finding.Blocked, finding.Danger, finding.Risk},
		Line:   "{thing} fits and is wired differently", Tag: "wired differently",
		Would: "a lead made for these two plugs, pin by pin",
		Evening: finding.Evening{
			finding.Blocked: finding.Stops("feed=off"), finding.Danger: finding.Harms(), finding.Risk: finding.Weakens(),
		},
		Figures: finding.Figures{"limit_w": finding.LessIsWorse},
		Cures:   []finding.Cure{finding.Outlet},
		Fires: "mated pin maps put supply on ground, on another voltage or on sense (danger), leave a needed pin open (blocked), or leave " +
			"a sense pin open (risk, with the reduced rating); unknown where a proprietary plug is joined with another kind",
		Example: "Wire 4 of of my own joins +12 with GND. Take it off before anything is plugged in.",
	}, Judge: judgePins},
	{Rule: finding.Rule{
		Name: RuleCard, Station: finding.Power, Title: "Card beyond its own plugs", Levels: finding.Levels{finding.Danger},
		Line: "the card draws {power_w}; slot and plugs give {limit_w}", Tag: "card {power_w/limit_w}",
		Would:   "a card with enough plugs, or its power set lower in software",
		Evening: finding.Evening{finding.Danger: finding.Burns()},
		Figures: finding.Figures{"power_w": finding.MoreIsWorse},
		Cures:   []finding.Cure{finding.AnotherCard, finding.CardCap},
		Fires:   "the card's board power exceeds 75 W from the slot plus what its plugs announce",
		Example: "226 W of board power against 225 W from slot and plugs together.",
	}, Judge: judgeCard},
	{Rule: finding.Rule{
		Name: RuleNameplate, Station: finding.Power, Title: "Altered, and not measured", Levels: finding.Levels{finding.Unknown},
		Fires: "an altered or raised card or processor whose real draw is not entered",
		Example: "Not known: what the host really draws with its altered processor. Measure it under load, without the card, and mark the " +
			"figure as measured. It decides everything that feeds the host: the figure entered counts until then, and it is not what flows.",
	}, Judge: judgeNameplate},
	{Rule: finding.Rule{
		Name: RuleSlotLimit, Station: finding.Power, Flows: true, Title: "Slot asked for more than it may give",
		Levels: finding.Levels{finding.Blocked, finding.Danger},
		Line:   "the slot is asked for {asked_w} of its {limit_w}", Tag: "slot {asked_w/limit_w}",
		Would:   "a feed of {asked_w} or more for the slot{or card}",
		Evening: finding.Evening{finding.Blocked: finding.Stops("load=trips"), finding.Danger: finding.Burns()},
		Figures: finding.Figures{"asked_w": finding.MoreIsWorse},
		Cures:   []finding.Cure{finding.Slot, finding.Outlet, finding.AnotherCard, finding.CardCap},
		Fires: "the card's slot share exceeds what the slot may give: the host's stated limit or the standard's for the slot's length; on " +
			"a dock the lesser of 75 W and what its feed carries. Danger over 1.2 times; unknown when a long slot's limit is not known and the " +
			"card takes over 25 W from it",
		Example: "The card may take 66 W through dock; what feeds it at 12 V carries 54 W (1.22 times).",
	}, Judge: judgeSlotLimit},
	{Rule: finding.Rule{
		Name: RuleConnector, Station: finding.Power, Flows: true, Title: "Connector carries more than it may",
		Levels: finding.Levels{finding.Risk, finding.Danger},
		Line:   "{thing} carries {load_a#} of its {limit_a}|{thing} carries {load_w#} of its {limit_w}",
		Tag:    "{thing} {load_a/limit_a}|{thing} {load_w/limit_w}",
		Would: "any feed whose plug and socket carry {load_a}: a peripheral 4-pin carries 11 A, a card 8-pin 12.5 A{or card}|any feed " +
			"whose plug and socket carry {load_w}{or card}",
		Evening: finding.Evening{finding.Risk: finding.Weakens(), finding.Danger: finding.Burns()},
		Figures: finding.Figures{"load_w": finding.MoreIsWorse},
		Cures:   []finding.Cure{finding.Outlet, finding.AnotherCard, finding.CardCap},
		Fires:   "a connector carries more than the contacts actually mated are planned for (risk) or rated for (danger)",
		Example: "Other lead: 76.3 W asked of a disk 15-pin (SATA power) rated for 54 W (6.36 A of 4.5 A).",
	}, Judge: judgeConnector},
	{Rule: finding.Rule{
		Name: RuleLead, Station: finding.Power, Flows: true, Title: "Lead promises more than its source", Levels: finding.Levels{finding.Danger,
			finding.Risk},
		Line:    "{thing} carries {load_w#} of its source's {carries_w}|{thing} promises more than its source",
		Tag:     "{thing} {load_w/carries_w}|{thing}",
		Would:   "a lead whose source ends together carry {load_w}{or card}",
		Evening: finding.Evening{finding.Risk: finding.Weakens(), finding.Danger: finding.Burns()},
		Figures: finding.Figures{"load_w": finding.MoreIsWorse},
		Cures:   []finding.Cure{finding.Outlet, finding.AnotherCard, finding.CardCap},
		Fires: "on an adapter lead, splitter or chain, the load exceeds what the source ends together carry (danger), or only what its " +
			"load ends announce does (risk)",
		Example: "Card lead: 115 W asked, its source ends together carry 54 W.",
	}, Judge: judgeLead},
	{Rule: finding.Rule{
		Name: RuleOneCable, Station: finding.Power, Flows: true, Title: "Two plugs on one cable", Levels: finding.Levels{finding.Risk,
			finding.Danger},
		Line: "{thing} feeds two plugs from one end: {load_w#} of {limit_w}", Tag: "{thing} {load_w/limit_w}",
		Would:   "a cable of its own for each plug",
		Evening: finding.Evening{finding.Risk: finding.Weakens(), finding.Danger: finding.Burns()},
		Figures: finding.Figures{"load_w": finding.MoreIsWorse},
		Fires:   "two card plugs on one cable carry more than its source end is planned for (risk) or rated for (danger)",
		Example: "Card lead feeds 2 plugs of the card with 205 W through a source end for 150 W. Give each plug a cable of its own.",
	}, Judge: judgeOneCable},
	{Rule: finding.Rule{
		Name: RuleWire, Station: finding.Power, Flows: true, Title: "Wire too thin", Levels: finding.Levels{finding.Danger},
		Line: "each wire of {thing} carries {load_a#} of {limit_a}|{thing} is too thin", Tag: "{thing} {load_a/limit_a}|thin wire",
		Would:   "a lead of thicker wire, or of more wires{or card}",
		Evening: finding.Evening{finding.Danger: finding.Burns()},
		Figures: finding.Figures{"load_a": finding.MoreIsWorse},
		Cures:   []finding.Cure{finding.CardCap},
		Fires: "the current of each wire is above the figure for its gauge; unknown for an adapter whose gauge is not told and that " +
			"carries much",
		Example: "Card lead: 2.08 A through each of 3 wires of AWG 24, which carry 2 A.",
	}, Judge: judgeWire},
	{Rule: finding.Rule{
		Name: RuleFuse, Station: finding.Power, Title: "A lead of one's own without its fuse", Levels: finding.Levels{finding.Risk},
		Line: "{thing} has no fuse that fits", Tag: "no fuse",
		Would:   "a fuse above {load_a} and below what its wires carry|a fuse that goes before its wires do",
		Evening: finding.Evening{finding.Risk: finding.Unseen()},
		Figures: finding.Figures{"load_a": finding.MoreIsWorse},
		Fires:   "a lead whose wires are told, one by one, has no fuse, one that holds longer than its wires, or one below what flows",
		Example: "Of my own is made by oneself and has no fuse: where its insulation wears through, all that its source gives flows there.",
	}, Judge: judgeFuse},
	{Rule: finding.Rule{
		Name: RuleHarness, Station: finding.Power, Title: "A lead of one's own, not measured", Levels: finding.Levels{finding.Note}, Notes: true,
		Figures: finding.Figures{"lines": finding.MoreIsWorse},
		Fires:   "a lead whose wires are told, one by one, and not every line of its meter list is ticked",
		Example: "Of my own is made by oneself: 0 of 10 lines of its meter list are ticked. Join it to nothing before all are.",
	}, Judge: judgeHarness},
	{Rule: finding.Rule{
		Name: RuleDrop, Station: finding.Power, Flows: true, Title: "Voltage lost on the way", Levels: finding.Levels{finding.Risk},
		Line: "{thing} loses {drop_v} on the way; {limit_v} may be lost", Tag: "{drop_v} lost",
		Would:   "a shorter lead, or one of thicker wire, that loses {limit_v} or less{or card}",
		Evening: finding.Evening{finding.Risk: finding.Weakens("volts=low load=drops|holds")},
		Figures: finding.Figures{"drop_v": finding.MoreIsWorse},
		Cures:   []finding.Cure{finding.CardCap},
		Fires:   "more than 5 % of the voltage is lost on the way to the load, where gauge and length are told",
		Example: "Dock lead: 1.72 V of 12 V are lost on the way to dock; 0.6 V are allowed.",
	}, Judge: judgeDrop},
	{Rule: finding.Rule{
		Name: RuleRail, Station: finding.Power, Flows: true, Title: "Rail overloaded", Levels: finding.Levels{finding.Blocked},
		Line: "{thing} is asked for {load_w#} of its {rating_w}", Tag: "{thing} {load_w/rating_w}",
		Would:   "a supply whose 12 V rail gives {load_w} or more{or card}",
		Evening: finding.Evening{finding.Blocked: finding.Stops("load=trips")},
		Figures: finding.Figures{"load_w": finding.MoreIsWorse},
		Cures:   []finding.Cure{finding.Supply, finding.AnotherCard, finding.CardCap},
		Fires:   "sustained load above a rail's rating",
		Example: "Main, its 12 V rails together: 121.3 W sustained against 100 W (10.11 A of 8.33 A).",
	}, Judge: judgeRail},
	{Rule: finding.Rule{
		Name: RuleTotal, Station: finding.Power, Flows: true, Title: "Supply overloaded", Levels: finding.Levels{finding.Blocked},
		Line: "{thing} is asked for {sustained_w#} of its {rating_w}", Tag: "{thing} {sustained_w/rating_w}",
		Would:   "a supply of {sustained_w:plan} or more, with the plugs for it{or card}",
		Evening: finding.Evening{finding.Blocked: finding.Stops("load=trips")},
		Figures: finding.Figures{"sustained_w": finding.MoreIsWorse},
		Cures:   []finding.Cure{finding.Supply, finding.AnotherCard, finding.CardCap},
		Fires:   "sustained load above the supply's rating",
		Example: "Main: 121.3 W sustained against a rating of 121 W.",
	}, Judge: judgeTotal},
	{Rule: finding.Rule{
		Name: RuleHeadroom, Station: finding.Power, Flows: true, Title: "Little left of the supply", Levels: finding.Levels{finding.Risk},
		Line: "{thing} runs at {share} of its rating", Tag: "{thing} {share}",
		Would:   "a supply of {sustained_w:plan} or more{or card}|a supply whose rail gives {load_w:plan} or more{or card}",
		Evening: finding.Evening{finding.Risk: finding.Weakens()},
		Figures: finding.Figures{"sustained_w": finding.MoreIsWorse, "load_w": finding.MoreIsWorse},
		Cures:   []finding.Cure{finding.Supply, finding.AnotherCard, finding.CardCap},
		Fires:   "sustained load above the planned share of the supply's rating, or of a rail's",
		Example: "Brick: 70 W sustained is 93.3 % of its 75 W; the plan allows 80 %.",
	}, Judge: judgeHeadroom},
	{Rule: finding.Rule{
		Name: RuleSpike, Station: finding.Power, Flows: true, Title: "Spikes beyond the supply", Levels: finding.Levels{finding.Risk},
		Line: "{thing} may trip: spikes of {spike_w}, {rides_w} ridden out", Tag: "spikes {spike_w/rides_w}",
		Would:   "a supply that rides out {spike_w} for {band_ms}{or card}",
		Evening: finding.Evening{finding.Risk: finding.Weakens("load=trips|holds")},
		Figures: finding.Figures{"spike_w": finding.MoreIsWorse},
		Cures:   []finding.Cure{finding.CardCap},
		Fires:   "a time band of the card's spikes that the supply or its 12 V rail does not ride out, naming the band",
		Example: "Main: for 0.1 ms the card and the rest may take 241.3 W; it rides out 240 W.",
	}, Judge: judgeSpike},
	{Rule: finding.Rule{
		Name: RuleGroup, Station: finding.Power, Title: "Loaded at 12 V alone", Levels: finding.Levels{finding.Risk},
		Line: "{thing} is loaded at 12 V alone", Tag: "12 V alone",
		Would:   "a load on 5 V, such as an old drive, or a supply with rails of their own",
		Evening: finding.Evening{finding.Risk: finding.Weakens()},
		Fires:   "a supply that regulates its rails as a group is loaded at 12 V alone",
		Example: "Main regulates its rails as a group and is loaded at 12 V alone: its voltages may leave their tolerance. A load on 5 V " +
			"steadies it.",
	}, Judge: judgeGroup},
	{Rule: finding.Rule{
		Name: RuleHostBrick, Station: finding.Power, Flows: true, Title: "The host's brick feeds the card too",
		Levels: finding.Levels{finding.Blocked, finding.Risk},
		Line:   "the host's brick gives {sustained_w#} of {rating_w}, with the card", Tag: "brick {sustained_w/rating_w}|host's brick",
		Would:   "a supply of its own for the card, or a brick of {sustained_w} and more{or card}",
		Evening: finding.Evening{finding.Blocked: finding.Stops("load=trips"), finding.Risk: finding.Weakens()},
		Figures: finding.Figures{"sustained_w": finding.MoreIsWorse},
		Cures:   []finding.Cure{finding.CardCap},
		Fires: "the host's own brick also feeds the card's slot: a risk over the planned share, blocked over its rating; conversion " +
			"losses counted",
		Example: "Brick feeds the host and the card's slot, with what converting loses: 115.5 W of its 120 W.",
	}, Judge: judgeHostBrick},
	{Rule: finding.Rule{
		Name: RuleTurnOn, Station: finding.Power, Title: "Nothing switches the supply on", Levels: finding.Levels{finding.Blocked},
		Line: "nothing switches {thing} on", Tag: "no switch-on",
		Would:   "a board that pulls PS_ON to ground with the host, or a switch made for it",
		Evening: finding.Evening{finding.Blocked: finding.Stops("supply=off")},
		Cures:   []finding.Cure{finding.TurnOn},
		Fires: "a supply that waits to be switched on, and nothing reaches its turn-on contact (PS_ON): a dock that does it must be joined " +
			"to the supply by a lead, direct or extended, that carries that contact",
		Example: "Main is an ATX-style supply: it stays off until its turn-on contact (PS_ON) is pulled to ground, and nothing does that.",
	}, Judge: judgeTurnOn},
	{Rule: finding.Rule{
		Name: RuleOrder, Station: finding.Power, Title: "The card may be up too late", Levels: finding.Levels{finding.Risk},
		Line: "the card is up too late for the host", Tag: "up too late",
		Would:   "switching the card's supply on first, or both by one signal",
		Evening: finding.Evening{finding.Risk: finding.Weakens()},
		Figures: finding.Figures{"ready_ms": finding.MoreIsWorse},
		Cures:   []finding.Cure{finding.Order},
		Fires: "the card's 12 V may come later than the host looks for the card: the host is switched on first, or a switch follows the " +
			"host and the dock does not hold its reset until its own 12 V is good",
		Example: "Main is switched on after the host: the card is up 1050 ms or more after the host's button, and the host may look for it " +
			"from 1300 ms on. Switch the dock on first, or restart the host once the dock is up.",
	}, Judge: judgeOrder},
	{Rule: finding.Rule{
		Name: RuleHeat, Station: finding.Power, Title: "A plug grows hot", Levels: finding.Levels{finding.Risk, finding.Danger},
		Line: "a plug reached {plug_c}", Tag: "plug {plug_c}",
		Would:   "the plug seated anew, and its load shared over another lead",
		Evening: finding.Evening{finding.Risk: finding.Weakens(), finding.Danger: finding.Burns()},
		Figures: finding.Figures{"plug_c": finding.MoreIsWorse},
		Fires:   "a power plug was read at more than 55 °C (risk) or 75 °C (danger) after ten minutes under load",
		Example: "Card 8-pin reached 56 °C: seat it anew, look for a loose or dark contact, and share its load over another lead.",
	}, Judge: judgeHeat},
	{Rule: finding.Rule{
		Name: RuleWall, Station: finding.Power, Title: "Watts at the wall", Levels: finding.Levels{finding.Note}, Notes: true,
		Figures: finding.Figures{"loaded_low_w": finding.MoreIsWorse},
		Fires: "the load of a supply the plan hangs on is known: what a meter at the wall should show under load, and what a reading told " +
			"comes to behind the supply",
		Example: "A meter at the wall should show 131 to 152 W for main under load, at the most, and 10 to 26 W with nothing to do.",
	}, Judge: judgeWall},
	{Rule: finding.Rule{
		Name: RuleGround, Station: finding.Power, Title: "Two supplies, one ground", Levels: finding.Levels{finding.Note}, Notes: true,
		Figures: finding.Figures{"supplies": finding.MoreIsWorse},
		Fires:   "more than one supply is in use",
		Example: "2 supplies share one ground, through the shield of the cable: plug them into one outlet strip.",
	}, Judge: judgeGround},
	{Rule: finding.Rule{
		Name: RuleStrip, Station: finding.Power, Title: "Outlet strip asked for more than it carries", Levels: finding.Levels{finding.Risk,
			finding.Danger},
		Line: "{thing} carries {most_w}; {load_w} hang on it", Tag: "strip {load_w/most_w}",
		Would:   "some of it plugged into another wall socket",
		Evening: finding.Evening{finding.Risk: finding.Unseen(), finding.Danger: finding.Burns()},
		Figures: finding.Figures{"load_w": finding.MoreIsWorse},
		Fires: "the supplies whose mains plugs hang on a strip or socket, by way of other strips too, take more than it carries (danger), " +
			"or may (risk); a strip that is plugged into another strip (risk); asked while what a supply takes, or whether it is a wall " +
			"socket, is not told",
		Example: "Strip carries 100 W; 131 to 152 W hang on it. Plug some of it into another socket.",
	}, Judge: judgeStrip},
	{Rule: finding.Rule{
		Name: RuleHeader, Station: finding.Power, Title: "Nothing feeds a fan or a drive", Levels: finding.Levels{finding.Blocked},
		Tag:     "{thing} unfed",
		Would:   "a free header, a free disk plug, or a lead that carries two",
		Evening: finding.Evening{finding.Blocked: finding.Apart()},
		Figures: finding.Figures{"free": finding.LessIsWorse},
		Fires:   "a fan that is put in, or a drive that moves, has no header, plug or lead left to feed it; asked while nobody looked",
		Example: "Nothing is left to feed side fan.",
	}, Judge: judgeHeader},
	{Rule: finding.Rule{
		Name: RuleBoard, Station: finding.Power, Title: "The board takes a proprietary plug", Levels: finding.Levels{finding.Blocked,
			finding.Note},
		Tag:     "proprietary plug",
		Would:   "a bought lead that is made for this board, with its standby voltage, or the host's own supply kept",
		Evening: finding.Evening{finding.Blocked: finding.Apart()},
		Figures: finding.Figures{"gives_v": finding.LessIsWorse},
		Fires: "a supply takes the place of the host's own, and the board has a proprietary plug: no lead turns into it, or the lead is " +
			"made for another board, or gives another standby voltage; asked while what the lead is made for or the standby voltage is not told",
		Example: "Board main has a proprietary plug of six contacts (mostly: 12 V alone on two or three contacts, mostly 12 V standby): no " +
			"lead of the new supply goes into it. A bought lead that is made for this board turns into it.",
	}, Judge: judgeBoard},
}

// capRule stands apart: it asks the others what they would say without the cap.
var capRule = finding.Table[*Network]{
	{Rule: finding.Rule{
		Name: RuleCap, Station: finding.Power, Title: "The card's power is capped", Levels: finding.Levels{finding.Note, finding.Risk},
		Line: "the plan holds only while the card is capped to {cap_w}", Tag: "holds by a cap",
		Would:   "a supply and leads that carry the card without its cap",
		Evening: finding.Evening{finding.Risk: finding.Unseen()},
		Figures: finding.Figures{"cap_w": finding.LessIsWorse},
		Fires: "a cap on the card's power is set by software; a risk where something would be blocked or a danger without it: it holds " +
			"from the driver on, not at the start, in another system or after a driver is installed anew, and spikes shrink by half alone",
		Example: "The card is capped to 96 W of its 120 W: from the driver on, not at the start, when it may take up to 72 W. Its spikes " +
			"shrink by half of what they exceed its power by.",
	}, Judge: judgeCap},
}

// Rules lists the rules of this package.
func Rules() []finding.Rule { return append(rules.Rules(), capRule.Rules()...) }

// Judge adds what the rules say about the network.
func (n *Network) Judge(out *finding.List) {
	rules.Judge(n, out)
	capRule.Judge(n, out)
}
