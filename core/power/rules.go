package power

import "kolvan/core/finding"

var rules = finding.Table[*Network]{
	{Rule: finding.Rule{Name: "power.unfed", Title: "Nothing feeds it", Levels: "blocked",
		Fires: "a load has no feed: the card's slot at 12 V or at 3.3 V, a plug of the card, the host; or a plug does not enter its socket"}, Judge: judgeUnfed},
	{Rule: finding.Rule{Name: "power.voltage", Title: "Another voltage than it takes", Levels: "danger",
		Fires: "a load or a contact meant for one voltage is reached by another; unknown where a plug whose kind does not fix its voltage states none"}, Judge: judgeVoltage},
	{Rule: finding.Rule{Name: "power.contract", Title: "USB-C without the contract it takes", Levels: "blocked; danger",
		Fires: "a USB-C contract gives less than the host draws (blocked), or a USB-C plug carries a voltage that nobody negotiated (danger)"}, Judge: judgeContract},
	{Rule: finding.Rule{Name: "power.barrel", Title: "Round plugs that do not match", Levels: "blocked; danger",
		Fires: "a round plug of another size than its socket (blocked), or with the other contact as ground (danger); its voltage and current are judged by power.voltage and power.connector"}, Judge: judgeBarrel},
	{Rule: finding.Rule{Name: "power.backfeed", Title: "Two supplies feed into each other", Levels: "danger",
		Fires: "two sources meet on one net, whatever their voltage: on a lead, a dock, the host, or a powered riser that passes its slot's power on"}, Judge: judgeBackfeed},
	{Rule: finding.Rule{Name: "power.socket", Title: "Two plugs in one socket", Levels: "blocked",
		Fires: "two leads are plugged into one outlet, one inlet, or one plug of the card"}, Judge: judgeSocket},
	{Rule: finding.Rule{Name: "power.pins", Title: "Plugs that mate but are wired differently", Levels: "blocked; danger; risk",
		Fires: "mated pin maps put supply on ground, on another voltage or on sense (danger), leave a needed pin open (blocked), or leave a sense pin open (risk, with the reduced rating); unknown where a proprietary plug is joined with another kind"}, Judge: judgePins},
	{Rule: finding.Rule{Name: "power.card", Title: "Card beyond its own plugs", Levels: "danger",
		Fires: "the card's board power exceeds 75 W from the slot plus what its plugs announce"}, Judge: judgeCard},
	{Rule: finding.Rule{Name: "power.nameplate", Title: "Altered, and not measured", Levels: "unknown",
		Fires: "an altered or raised card or processor whose real draw is not entered"}, Judge: judgeNameplate},
	{Rule: finding.Rule{Name: "power.slot-limit", Title: "Slot asked for more than it may give", Levels: "blocked; danger",
		Fires: "the card's slot share exceeds what the slot may give: the host's stated limit or the standard's for the slot's length; on a dock the lesser of 75 W and what its feed carries. Danger over 1.2 times; unknown when a long slot's limit is not known and the card takes over 25 W from it"}, Judge: judgeSlotLimit},
	{Rule: finding.Rule{Name: "power.connector", Title: "Connector carries more than it may", Levels: "risk; danger",
		Fires: "a connector carries more than the contacts actually mated are planned for (risk) or rated for (danger)"}, Judge: judgeConnector},
	{Rule: finding.Rule{Name: "power.lead", Title: "Lead promises more than its source", Levels: "danger; risk",
		Fires: "on an adapter lead, splitter or chain, the load exceeds what the source ends together carry (danger), or only what its load ends announce does (risk)"}, Judge: judgeLead},
	{Rule: finding.Rule{Name: "power.one-cable", Title: "Two plugs on one cable", Levels: "risk; danger",
		Fires: "two card plugs on one cable carry more than its source end is planned for (risk) or rated for (danger)"}, Judge: judgeOneCable},
	{Rule: finding.Rule{Name: "power.wire", Title: "Wire too thin", Levels: "danger",
		Fires: "the current of each wire is above the figure for its gauge; unknown for an adapter whose gauge is not told and that carries much"}, Judge: judgeWire},
	{Rule: finding.Rule{Name: "power.drop", Title: "Voltage lost on the way", Levels: "risk",
		Fires: "more than 5 % of the voltage is lost on the way to the load, where gauge and length are told"}, Judge: judgeDrop},
	{Rule: finding.Rule{Name: "power.rail", Title: "Rail overloaded", Levels: "blocked",
		Fires: "sustained load above a rail's rating"}, Judge: judgeRail},
	{Rule: finding.Rule{Name: "power.total", Title: "Supply overloaded", Levels: "blocked",
		Fires: "sustained load above the supply's rating"}, Judge: judgeTotal},
	{Rule: finding.Rule{Name: "power.headroom", Title: "Little left of the supply", Levels: "risk",
		Fires: "sustained load above the planned share of the supply's rating, or of a rail's"}, Judge: judgeHeadroom},
	{Rule: finding.Rule{Name: "power.spike", Title: "Spikes beyond the supply", Levels: "risk",
		Fires: "a time band of the card's spikes that the supply or its 12 V rail does not ride out, naming the band"}, Judge: judgeSpike},
	{Rule: finding.Rule{Name: "power.group", Title: "Loaded at 12 V alone", Levels: "risk",
		Fires: "a supply that regulates its rails as a group is loaded at 12 V alone"}, Judge: judgeGroup},
	{Rule: finding.Rule{Name: "power.host-brick", Title: "The host's brick feeds the card too", Levels: "blocked; risk",
		Fires: "the host's own brick also feeds the card's slot: a risk over the planned share, blocked over its rating; conversion losses counted"}, Judge: judgeHostBrick},
	{Rule: finding.Rule{Name: "power.turn-on", Title: "Nothing switches the supply on", Levels: "blocked",
		Fires: "a supply that waits to be switched on, and nothing reaches its turn-on contact (PS_ON): a dock that does it must be joined to the supply by a lead, direct or extended, that carries that contact"}, Judge: judgeTurnOn},
	{Rule: finding.Rule{Name: "power.order", Title: "The card may be up too late", Levels: "risk",
		Fires: "the card's 12 V may come later than the host looks for the card: the host is switched on first, or a switch follows the host and the dock does not hold its reset until its own 12 V is good"}, Judge: judgeOrder},
	{Rule: finding.Rule{Name: "power.wall", Title: "Watts at the wall", Levels: "note",
		Fires: "the load of a supply the plan hangs on is known: what a meter at the wall should show under load, and what a reading told comes to behind the supply"}, Judge: judgeWall},
	{Rule: finding.Rule{Name: "power.ground", Title: "Two supplies, one ground", Levels: "note",
		Fires: "more than one supply is in use"}, Judge: judgeGround},
}

// Rules lists the rules of this package.
func Rules() []finding.Rule { return rules.Rules() }

// Judge adds what the rules say about the network.
func (n *Network) Judge(out *finding.List) { rules.Judge(n, out) }
