package fit

import (
	"fmt"
	"slices"

	"kolvan/core/finding"
	"kolvan/core/rig"
	"kolvan/core/units"
)

// The names of the rules, as reports and files have them.
const (
	RuleCard      = "fit.card"
	RuleLid       = "fit.lid"
	RuleTight     = "fit.tight"
	RuleBracket   = "fit.bracket"
	RulePlug      = "fit.plug"
	RuleSupply    = "fit.supply"
	RuleDisplaced = "fit.displaced"
	RuleCaddy     = "fit.caddy"
	RuleExit      = "fit.exit"
	RuleGap       = "fit.gap"
	RuleOpening   = "fit.opening"
	RuleCable     = "fit.cable"
	RuleBend      = "fit.bend"
	RuleStrain    = "fit.strain"
	RuleFan       = "fit.fan"
	RulePacked    = "fit.packed"
	RuleIntake    = "fit.intake"
	RuleSag       = "fit.sag"
	RuleTip       = "fit.tip"
	RuleCase      = "heat.case"
	RuleHeatCard  = "heat.card"
	RuleHeatHost  = "heat.host"
	RuleMakeshift = "fit.makeshift"
	RuleCooler    = "fit.cooler"
)

var rules = finding.Table[*Chamber]{
	{Rule: finding.Rule{
		Name: RuleCard, Station: finding.Fit, Title: "The card meets something", Levels: finding.Levels{finding.Blocked},
		Line: "the card meets {thing} by {-gap_mm}|the card meets {thing}", Tag: "{-gap_mm} in the way|card meets {thing}",
		Would: "{-gap_mm} more room: what is in the way taken out or swung away, or a shorter card|what is in the way taken out, or a " +
			"smaller card",
		Evening: finding.Evening{finding.Blocked: finding.Apart()},
		Figures: finding.Figures{"gap_mm": finding.LessIsWorse},
		Cures:   []finding.Cure{finding.StandOff, finding.AnotherCard},
		Fires:   "the card meets something in the case or a wall; names it and by how much",
		Example: "The card meets cage by 1 mm.",
	}, Judge: judgeCard},
	{Rule: finding.Rule{
		Name: RuleLid, Station: finding.Fit, Title: "A cover is in the way", Levels: finding.Levels{finding.Blocked, finding.Note},
		Line: "{thing} is in the way", Tag: "cover in the way",
		Would:   "the cover left off or raised, as far as what is in the way asks",
		Evening: finding.Evening{finding.Blocked: finding.Weakens()},
		Figures: finding.Figures{"gap_mm": finding.LessIsWorse, "from_deg": finding.LessIsWorse, "from_mm": finding.LessIsWorse},
		Cures:   []finding.Cure{finding.StandOff},
		Fires: "a lid, a part that swings out or a tray meets the card, or what stands in the case, along its travel; a note when the " +
			"brief lets it stay off, when the card reaches into it closed, or when it presses an intrusion switch and is raised or off",
		Example: "Lid presses an intrusion switch: raised or off, the host may stop at a message, or not start. Set the firmware to ignore " +
			"it, or hold the switch down.",
	}, Judge: judgeLid},
	{Rule: finding.Rule{
		Name: RuleTight, Station: finding.Fit, Title: "Gap within the measuring tolerance", Levels: finding.Levels{finding.Risk},
		Line: "only {gap_mm} to {thing}, within what a ruler can tell", Tag: "{gap_mm} of room",
		Would:   "measuring that gap again, with a caliper",
		Evening: finding.Evening{finding.Risk: finding.Weakens()},
		Figures: finding.Figures{"gap_mm": finding.LessIsWorse},
		Cures:   []finding.Cure{finding.StandOff, finding.AnotherCard},
		Fires:   "a gap is below the measuring tolerance, 1.5 mm unless the facts state theirs",
		Example: "1.4 mm to cage, taken as ±1.5 mm (±1.5 mm if all of it errs one way): it goes in with a chance of 96.9 %.",
	}, Judge: judgeTight},
	{Rule: finding.Rule{
		Name: RuleBracket, Station: finding.Fit, Title: "Bracket does not match", Levels: finding.Levels{finding.Blocked, finding.Risk,
			finding.Note},
		Line: "the card's bracket does not match the opening", Tag: "bracket",
		Would:   "the other bracket, if the card has one, or none and a holder",
		Evening: finding.Evening{finding.Blocked: finding.Apart(), finding.Risk: finding.Weakens()},
		Figures: finding.Figures{"bracket_mm": finding.MoreIsWorse, "bracket_slots": finding.MoreIsWorse},
		Cures:   []finding.Cure{finding.AnotherCard},
		Fires: "bracket height or width does not match the opening; a risk when the bracket that would match means dismantling the cooler, " +
			"a note when the swap is free",
		Example: "The card has a full-height bracket (120 mm), the opening takes low-profile (half-height) bracket (79.2 mm). No other " +
			"bracket is there.",
	}, Judge: judgeBracket},
	{Rule: finding.Rule{
		Name: RulePlug, Station: finding.Fit, Title: "No room for the plug", Levels: finding.Levels{finding.Blocked},
		Line: "{thing} has {room_mm} for its plug; {wanted_mm} are wanted", Tag: "plug {room_mm}",
		Would:   "an angled plug, a raised cover, or {wanted_mm} of room",
		Evening: finding.Evening{finding.Blocked: finding.Apart()},
		Figures: finding.Figures{"room_mm": finding.LessIsWorse},
		Cures:   []finding.Cure{finding.StandOff},
		Fires:   "where a plug's lead leaves the card there is no room for plug and bend: 25 mm behind the plug, 35 mm behind a 16-pin",
		Example: "Plug A has 23 mm to lid; the plug and the bend of its lead want 25 mm.",
	}, Judge: judgePlug},
	{Rule: finding.Rule{
		Name: RuleSupply, Station: finding.Fit, Title: "The supply does not enter the bay", Levels: finding.Levels{finding.Blocked, finding.Risk},
		Line: "the supply does not go into its bay", Tag: "supply's bay",
		Would:   "a supply of the bay's form and depth, or one that stands outside",
		Figures: finding.Figures{"depth_mm": finding.MoreIsWorse},
		Evening: finding.Evening{finding.Blocked: finding.Apart(), finding.Risk: finding.Weakens()},
		Cures:   []finding.Cure{finding.Supply},
		Fires: "a supply that goes into the host's bay is of a form the bay does not take, or deeper than the bay; a risk when one that " +
			"runs one way up only does not stand that way",
		Example: "Main runs one way up only, and does not stand that way: turn it, or the rig.",
	}, Judge: judgeSupply},
	{Rule: finding.Rule{
		Name: RuleDisplaced, Station: finding.Fit, Title: "Something comes out", Levels: finding.Levels{finding.Note}, Notes: true,
		Fires:   "a bay or a module comes out for the card; says what is lost with it",
		Example: "Cage comes out for the card, and with it the optical drive.",
	}, Judge: judgeDisplaced},
	{Rule: finding.Rule{
		Name: RuleCaddy, Station: finding.Fit, Title: "Nothing holds the drive in its bay", Levels: finding.Levels{finding.Risk},
		Line: "nothing holds the drive in its bay", Tag: "no caddy",
		Would:   "the caddy of this host, with its screws",
		Evening: finding.Evening{finding.Risk: finding.Weakens()},
		Fires:   "a drive moves into a bay whose caddy is missing or broken, as told of it or found on the host",
		Example: "Nothing holds data drive in its bay: its caddy, with the screws, is missing. Get one for this very host, or a holder that " +
			"is made for it; a loose drive tears at its connector.",
	}, Judge: judgeCaddy},
	{Rule: finding.Rule{
		Name: RuleExit, Station: finding.Fit, Title: "No way out for the cable", Levels: finding.Levels{finding.Blocked},
		Line: "{thing} has no way out of the case", Tag: "no way out",
		Would:   "a vent or port that may come out, or a cover left off",
		Evening: finding.Evening{finding.Blocked: finding.Apart()},
		Cures:   []finding.Cure{finding.Exit},
		Fires: "no way for the cable from the slot to the outside: none there is, a cover that the brief does not let stay off, a cut in " +
			"what may not be altered",
		Example: "Cable has no way out of the host: look for a vent or a port that may come out, raise a cover on stand-offs, let it stay " +
			"off, or cut where that is allowed.",
	}, Judge: judgeExit},
	{Rule: finding.Rule{
		Name: RuleGap, Station: finding.Fit, Title: "Cover not raised enough", Levels: finding.Levels{finding.Risk},
		Line: "the cover is raised {gap_mm}; {wanted_mm} are wanted", Tag: "cover {gap_mm}",
		Would:   "stand-offs of {wanted_mm} or more",
		Evening: finding.Evening{finding.Risk: finding.Weakens()},
		Figures: finding.Figures{"gap_mm": finding.LessIsWorse},
		Cures:   []finding.Cure{finding.Exit},
		Fires:   "the gap under a raised cover is below the cable's thickness and 1 mm",
		Example: "Lid is raised by 5 mm; cable wants 6 mm under it. Taller stand-offs take screws longer by as much.",
	}, Judge: judgeRaised},
	{Rule: finding.Rule{
		Name: RuleOpening, Station: finding.Fit, Title: "The connector does not get through", Levels: finding.Levels{finding.Blocked},
		Line: "the plug of {thing} does not pass the opening", Tag: "opening",
		Would:   "an opening larger than the plug, or a cable whose plug is smaller",
		Evening: finding.Evening{finding.Blocked: finding.Apart()},
		Figures: finding.Figures{"shell_width_mm": finding.MoreIsWorse},
		Cures:   []finding.Cure{finding.Exit},
		Fires: "a cable's connector shell is larger than an opening it has to pass, straight or at a slant, in any of the layers; " +
			"or a socket that is set into the case is larger than its opening",
		Example: "The connector of cable, 30 mm by 12 mm, does not pass cover, which is open 32 mm by 10 mm.",
	}, Judge: judgeOpening},
	{Rule: finding.Rule{
		Name: RuleCable, Station: finding.Fit, Title: "Cable short or taut", Levels: finding.Levels{finding.Blocked, finding.Risk},
		Line: "{thing} is {length_mm} long; its way takes {needed_mm}", Tag: "cable {length_mm}",
		Would:   "a cable of {needed_mm} or more|laying it round what it meets",
		Evening: finding.Evening{finding.Blocked: finding.Apart(), finding.Risk: finding.Weakens()},
		Figures: finding.Figures{"needed_mm": finding.MoreIsWorse, "gap_mm": finding.LessIsWorse},
		Cures:   []finding.Cure{finding.Stage, finding.StandOff, finding.Extension},
		Fires: "the way a cable is laid is longer than the cable, on its centre line with its corners rounded, or runs through something; " +
			"a risk with under 30 mm to spare, or pressed against something",
		Example: "Cable is 250 mm long; its way takes at least 281.8 mm.",
	}, Judge: judgeCable},
	{Rule: finding.Rule{
		Name: RuleBend, Station: finding.Fit, Title: "Bent too tightly", Levels: finding.Levels{finding.Risk},
		Line: "{thing} bends to {room_mm}; it may bend to {allowed_mm}", Tag: "bend {room_mm}",
		Would:   "a wider way, or a cable that bends more tightly",
		Evening: finding.Evening{finding.Risk: finding.Weakens()},
		Figures: finding.Figures{"room_mm": finding.LessIsWorse},
		Cures:   []finding.Cure{finding.Stage},
		Fires: "the straights between a cable's corners leave no room for the inside radius it may be bent to: flat ribbon 5 mm, twinax 8 " +
			"and video-style 6 times its thickness",
		Example: "Between its corners cable has room for an inside radius of 22.5 mm; it may be bent to 40 mm.",
	}, Judge: judgeBend},
	{Rule: finding.Rule{
		Name: RuleStrain, Station: finding.Fit, Title: "The cable levers on its connector", Levels: finding.Levels{finding.Risk},
		Line: "{thing} pulls at its connector", Tag: "cable pulls",
		Would:   "tying it down near its plug",
		Evening: finding.Evening{finding.Risk: finding.Weakens()},
		Figures: finding.Figures{
			"free_mm": finding.MoreIsWorse, "twisted_deg": finding.MoreIsWorse, "straight_mm": finding.LessIsWorse,
			"room_mm": finding.LessIsWorse, "off_deg": finding.MoreIsWorse,
		},
		Cures: []finding.Cure{finding.Stage},
		Fires: "a stiff cable hangs free for more than 150 mm from its connector, bends within 10 mm of it, turns before a wall with less " +
			"room than straight, bend and thickness take, or leaves its plug more than 15° aside of where that faces; any cable is twisted by " +
			"more than 90° in 100 mm; a power lead bends within 25 mm of its plug, 35 mm of a 16-pin",
		Example: "Cable hangs free for 200 mm from its connector and levers on it: tie it down within 150 mm.",
	}, Judge: judgeStrain},
	{Rule: finding.Rule{
		Name: RuleFan, Station: finding.Fit, Title: "The fan does not meet its holes", Levels: finding.Levels{finding.Blocked},
		Line: "the fan's holes do not meet the case's", Tag: "fan holes",
		Would:   "a fan whose screws are {holes_mm} apart",
		Evening: finding.Evening{finding.Blocked: finding.Apart()},
		Figures: finding.Figures{"holes_mm": finding.MoreIsWorse},
		Fires:   "the screws of a fan that is put into the case are apart by more or less than the holes there",
		Example: "The screws of fan front, of 120 mm, are 105 mm apart; the holes in the case are 82.5 mm apart.",
	}, Judge: judgeFan},
	{Rule: finding.Rule{
		Name: RulePacked, Station: finding.Fit, Title: "It does not travel as meant", Levels: finding.Levels{finding.Risk},
		Line: "it does not travel as meant", Tag: "does not pack",
		Would:   "a larger bag, or the parts carried apart",
		Evening: finding.Evening{finding.Risk: finding.Unseen()},
		Figures: finding.Figures{"mass_g": finding.MoreIsWorse, "share": finding.MoreIsWorse},
		Fires: "a piece of a rig that travels goes into its bag no way round, all of them take more than 80 % of its room, or weigh more " +
			"than somebody is ready to carry",
		Example: "Dock does not go into the bag, any way round.",
	}, Judge: judgePacked},
	{Rule: finding.Rule{
		Name: RuleIntake, Station: finding.Fit, Title: "Its fans have no air", Levels: finding.Levels{finding.Risk},
		Line: "the card's fans have {room_mm} before them; {least_mm} are wanted", Tag: "fans {room_mm}",
		Would:   "{least_mm} of room before the fans",
		Evening: finding.Evening{finding.Risk: finding.Weakens()},
		Figures: finding.Figures{"room_mm": finding.LessIsWorse},
		Cures:   []finding.Cure{finding.StandOff},
		Fires:   "the side a card's fans draw from, or the case's inlet, is closer than 10 mm to a wall or a thing",
		Example: "The card's fans have 8 mm before them, to the wall at the end of the slots; they want 10 mm.",
	}, Judge: judgeIntake},
	{Rule: finding.Rule{
		Name: RuleSag, Station: finding.Fit, Title: "The card hangs on its connector", Levels: finding.Levels{finding.Note, finding.Risk},
		Line: "the card of {mass_g} hangs on its connector", Tag: "card hangs",
		Would:   "a support under its far end",
		Evening: finding.Evening{finding.Risk: finding.Weakens()},
		Figures: finding.Figures{"mass_g": finding.MoreIsWorse},
		Fires:   "a card of over 800 g (note) or 1,200 g (risk) lies flat in the case and nothing holds its far end",
		Example: "The card weighs 1300 g, 90 mm from its bracket, and hangs on connector and bracket: hold it up there, or further out.",
	}, Judge: judgeSag},
	{Rule: finding.Rule{
		Name: RuleTip, Station: finding.Fit, Title: "It tips over", Levels: finding.Levels{finding.Risk},
		Line: "it tips over at {tip_deg}", Tag: "tips at {tip_deg}",
		Would:   "a wider base, or the cables tied down",
		Evening: finding.Evening{finding.Risk: finding.Weakens()},
		Figures: finding.Figures{"tip_deg": finding.LessIsWorse},
		Fires:   "the rig stands on a base so narrow, or is so top-heavy, that it tips at under 15°, the pull of its cables counted",
		Example: "It tips over at 14°; under 15° a snagged cable is enough. Widen its base, or tie the cables down.",
	}, Judge: judgeTip},
	{Rule: finding.Rule{
		Name: RuleCase, Station: finding.Fit, Title: "Too little air through the case", Levels: finding.Levels{finding.Risk},
		Line: "the case moves {airflow_m3_h} of air; {needed_m3_h} are wanted", Tag: "little air",
		Would:   "fans that move {needed_m3_h} or more",
		Evening: finding.Evening{finding.Risk: finding.Weakens()},
		Figures: finding.Figures{"needed_m3_h": finding.MoreIsWorse},
		Cures:   []finding.Cure{finding.CardCap},
		Fires: "the fans and vents of the case move less air than the watts in it need: 3 m³/h for a watt and a kelvin, 12 K unless told; " +
			"more under a desk or in a cupboard, where warm air comes back",
		Example: "120 W in the case need 30 m³/h of air to leave it 12 K warmer; its fans move 25 m³/h.",
	}, Judge: judgeAir},
	{Rule: finding.Rule{
		Name: RuleHeatCard, Station: finding.Fit, Title: "The card grows hot", Levels: finding.Levels{finding.Risk, finding.Blocked},
		Line: "the card reached {read_c#} °C", Tag: "card {read_c#} °C",
		Would:   "more air, cleaner or faster fans, or a cap on its power",
		Evening: finding.Evening{finding.Risk: finding.Unseen(), finding.Blocked: finding.Unseen()},
		Figures: finding.Figures{"read_c": finding.MoreIsWorse},
		Cures:   []finding.Cure{},
		Fires: "the core or the memory of the card reached a temperature at which it slows down (risk) or stops (blocked): as told, else " +
			"as usual for such parts (P)",
		Example: "The card's core reached 91 °C: from 90 °C on it slows down. Give it air, clean its fans, let them run faster, or cap " +
			"its power.",
	}, Judge: judgeHeatOfCard},
	{Rule: finding.Rule{
		Name: RuleHeatHost, Station: finding.Fit, Title: "The host grows hot", Levels: finding.Levels{finding.Risk},
		Line: "the processor reached {read_c#} °C", Tag: "processor {read_c#} °C",
		Would:   "fresh paste, a clean cooler, and the card's warm air kept from it",
		Evening: finding.Evening{finding.Risk: finding.Unseen()},
		Figures: finding.Figures{"read_c": finding.MoreIsWorse},
		Fires:   "the processor reached a temperature at which it slows down: as told, else as usual (P)",
		Example: "The processor reached 101 °C: from 100 °C on it slows down. Renew the paste, clean the cooler, and keep the card's warm " +
			"air from it.",
	}, Judge: judgeHeatOfHost},
	{Rule: finding.Rule{
		Name: RuleMakeshift, Station: finding.Fit, Title: "Held by a makeshift", Levels: finding.Levels{finding.Risk},
		Line: "{thing} is held by a makeshift", Tag: "makeshift",
		Would:   "the screws it was made for, or a holder",
		Evening: finding.Evening{finding.Risk: finding.Unseen()},
		Figures: finding.Figures{"screws_in": finding.LessIsWorse},
		Fires: "a fan, a drive or a supply is held by fewer screws than it has holes for, by tape, ties, glue, or what it is jammed " +
			"between; with whether somebody says that it will do, and why",
		Example: "Side fan is held by 2 of 4 screws. Whether it will do nobody has said: pull at it, and think of what it falls into.",
	}, Judge: judgeMakeshift},
	{Rule: finding.Rule{
		Name: RuleCooler, Station: finding.Fit, Title: "The cooler does not go with it", Levels: finding.Levels{finding.Blocked, finding.Risk},
		Line: "the cooler does not go with board, case or card", Tag: "cooler",
		Would:   "a cooler for this mount, low enough, with its back plate",
		Evening: finding.Evening{finding.Blocked: finding.Apart(), finding.Risk: finding.Unseen()},
		Figures: finding.Figures{"height_mm": finding.MoreIsWorse},
		Fires: "a cooler that is put in does not go on the board's mount, is higher than the room there is, or stands over the card's slot " +
			"(blocked); a card that is a module has nothing that cools it (blocked); the board must come out for it (risk)",
		Example: "Tower cooler is 70 mm high; there are 60 mm above the board.",
	}, Judge: judgeCooler},
}

// Rules lists the rules of this package.
func Rules() []finding.Rule { return rules.Rules() }

// Judge adds what the rules say about the chamber.
func (c *Chamber) Judge(out *finding.List) { rules.Judge(c, out) }

func judgeCard(r *finding.Rule, c *Chamber, out *finding.List) {
	if c.Open() {
		return
	}
	if c.undescribed() {
		out.Need(
			r, "/chamber", "the room the card stands in", "Measure it, or say that the card stands in the open.",
			"whether the card goes in",
		)
		return
	}
	for _, m := range c.missing() {
		out.Need(r, m.where, m.fact, m.find, "whether the card goes in")
	}
	for i := range c.Gaps {
		g := &c.Gaps[i]
		if g.Meets() != units.Always || g.Off {
			continue
		}
		atLeast, numbers := "", finding.Numbers{{Name: "gap_mm", Value: float64(g.Ends.High)}}
		if !g.Ends.Known() {
			atLeast = "at least "
		}
		meets := "meets"
		if slices.Contains(limitPaths[:], g.Where) {
			meets = "is larger than"
		}
		out.Add(r, finding.Blocked, g.Where, numbers, "The card %s %s by %s%v.", meets, g.Name, atLeast, -g.Ends.High.Ruled())
	}
}

func (c *Chamber) undescribed() bool {
	ch := &c.rig.Chamber
	return ch.Name == "" && ch.Box == (rig.Extent{}) && ch.Takes == (rig.Takes{}) && ch.CardAt == (rig.Place{}) && ch.Things == nil &&
		ch.Covers == nil
}

func judgeTight(r *finding.Rule, c *Chamber, out *finding.List) {
	if c.Open() {
		return
	}
	for i := range c.Gaps {
		g := &c.Gaps[i]
		if g.Off || !g.Ends.Known() || g.Ends.Low < 0 || g.Ends.Low >= g.Tolerance {
			continue
		}
		if out.Fires(
			r, finding.Risk, g.Where,
			finding.Numbers{
				{Name: "gap_mm", Value: float64(g.Ends.Low)}, {Name: "tolerance_mm", Value: float64(g.Tolerance)},
				{Name: "worst_mm", Value: float64(g.Worst)}, {Name: "chance", Value: float64(g.Chance())},
			},
		) {
			out.Say(
				"%v to %s, %s ±%v (±%v if all of it errs one way): it goes in with a chance of %v.", g.Ends.Low, g.Name, g.Measured(),
				g.Tolerance, g.Worst, g.Chance(),
			)
		}
	}
	c.judgePassing(r, out)
}

// Measured says whether somebody told how finely a gap was measured, or whether
// that is taken for it.
func (g *Gap) Measured() string {
	if g.Told {
		return "measured to"
	}
	return "taken as"
}

func judgeBracket(r *finding.Rule, c *Chamber, out *finding.List) {
	judgeAdapterBracket(r, c.rig, out)
	if c.Open() || c.undescribed() || c.rig.Card.EdgeForm() != rig.CardSlot {
		return // fit.card asks for the chamber; a module has no bracket
	}
	if c.judgeWidth(r, out) && !(c.rig.Card.Bracket.Height.Known && c.rig.Chamber.Opening.Height.Known) {
		return // it does not go in, whatever its height
	}
	if !c.judgeTaller(r, out) {
		c.judgeHeight(r, out)
	}
}

// judgeAdapterBracket: an adapter in a card slot of the host has a bracket too, which
// meets the opening beside that slot.
func judgeAdapterBracket(r *finding.Rule, rg *rig.Rig, out *finding.List) {
	slot := rg.Slot(rg.Route.Slot)
	at := slices.IndexFunc(rg.Route.Stages, func(s rig.Stage) bool { return !rig.Is(s.Kind, rig.Riser) }) // it may stand on risers
	if slot == nil || at < 0 || rg.Route.Stages[at].Bracket.Or(rig.NoBracket) == rig.NoBracket {
		return
	}
	s := &rg.Route.Stages[at]
	if !slot.Opening.Known {
		if s.Spare.Or(rig.NoBracket) == rig.NoBracket || s.Spare.Value == s.Bracket.Value {
			out.Need(
				r, rig.SlotPath(rig.IndexOf(rg.Host.Slots, slot))+"/opening", "which bracket the opening beside "+slot.Name+" takes",
				"Measure it: 120 mm is full height, 79 mm half.", "whether "+s.Name+" goes in with its bracket",
			)
		}
		return
	}
	if level, why, some := (bracketCase{s.Bracket.Value, slot.Opening.Value, s.Spare.Or(rig.NoBracket), rig.SwapFree}).verdict(); some {
		out.Add(
			r, level, rig.StagePath(at)+"/bracket", nil, "%s has a %s bracket, the opening beside %s takes %s. %s", s.Name,
			rig.Spoken(s.Bracket.Value), slot.Name, rig.Spoken(slot.Opening.Value), why,
		)
	}
}

// JudgeAdapter adds what is said of the bracket of an adapter in a card slot: of all
// that fits, it alone hangs on the route.
func JudgeAdapter(r *rig.Rig, out *finding.List) { judgeAdapterBracket(rules.Of(RuleBracket), r, out) }

// JudgeSupplies adds what is said of supplies in the host's bay: of all that fits, it alone
// hangs on what feeds the card.
func JudgeSupplies(r *rig.Rig, out *finding.List) {
	judgeSupply(rules.Of(RuleSupply), &Chamber{rig: r}, out)
}

// judgeTaller reports a bracket taller than the case while nobody has measured the
// opening.
func (c *Chamber) judgeTaller(r *finding.Rule, out *finding.List) bool {
	room := extent3(&c.rig.Chamber.Box)[c.axes[1]]
	tall := c.ref.BracketHeight(c.rig.Card.Bracket.Height.Or(rig.NoBracket))
	if c.rig.Chamber.Opening.Height.Known || !room.Known || tall <= room.Value {
		return false
	}
	out.Add(r, finding.Blocked, "/card/bracket", finding.Numbers{
		{Name: "bracket_mm", Value: float64(tall)}, {Name: "room_mm", Value: float64(room.Value)},
	},
		"The bracket is %v tall, the case %v.", tall, room.Value)
	return true
}

// bracketCase is what decides whether a bracket's height goes: the one fitted, the
// opening, the spare one, and what changing them takes.
type bracketCase struct {
	fitted, opening, spare rig.Height
	swap                   rig.Swap
}

// verdict of a case; none where the bracket fits.
func (b bracketCase) verdict() (level finding.Level, why string, some bool) {
	switch {
	case b.fitted == b.opening || b.fitted == rig.NoBracket:
		return 0, "", false
	case b.opening != rig.NoBracket && b.spare != b.opening:
		return finding.Blocked, "No other bracket is there.", true
	case b.swap == rig.SwapImpossible:
		return finding.Blocked, "It cannot be changed.", true
	case b.swap == rig.SwapDismantles:
		return finding.Risk, "The swap dismantles the cooler and may break its seal.", true
	default:
		return finding.Note, "The right one is screwed on in its place; the cooler stays as it is.", true
	}
}

// judgeHeight puts in all that the facts not told may be: what every case brings is
// certain, and a fact is asked for where the cases differ.
func (c *Chamber) judgeHeight(r *finding.Rule, out *finding.List) {
	bracket, opening := &c.rig.Card.Bracket, c.rig.Chamber.Opening.Height
	level, says, first, certain := finding.Note, "", true, true
	for _, fitted := range heights(bracket.Height) {
		for _, opens := range heights(opening) {
			for _, spare := range heights(bracket.Spare) {
				for _, swap := range swaps(bracket.Swap) {
					l, why, some := bracketCase{fitted, opens, spare, swap}.verdict()
					if !some {
						why = ""
					}
					if first {
						level, says, first = l, why, false
					}
					certain = certain && l == level && some == (says != "")
				}
			}
		}
	}
	if !certain {
		c.askHeight(r, out)
		return
	}
	if says == "" {
		return
	}
	numbers := finding.Numbers{}
	if bracket.Height.Known {
		numbers = append(numbers, finding.Number{Name: "bracket_mm", Value: float64(c.ref.BracketHeight(bracket.Height.Value))})
	}
	if opening.Known {
		numbers = append(numbers, finding.Number{Name: "opening_mm", Value: float64(c.ref.BracketHeight(opening.Value))})
	}
	out.Add(r, level, "/card/bracket", numbers, "The card has a %s, the opening takes %s. %s",
		c.bracketWords(bracket.Height), c.bracketWords(opening), says)
}

// askHeight asks for what decides, the first of them first.
func (c *Chamber) askHeight(r *finding.Rule, out *finding.List) {
	bracket, opening := &c.rig.Card.Bracket, c.rig.Chamber.Opening.Height
	switch {
	case !bracket.Height.Known || !opening.Known:
		if !bracket.Height.Known {
			out.Need(
				r, "/card/bracket/height", "the height of the card's bracket",
				"Hold a ruler beside it: 120 mm is full height, 79 mm low-profile (half-height).", "whether it matches the opening",
			)
		}
		if !opening.Known {
			out.Need(
				r, "/chamber/opening/height", "the opening for the bracket",
				"Measure it: 120 mm is full height, 79 mm low-profile (half-height).", "whether the card's bracket matches",
			)
		}
	case opening.Value != rig.NoBracket && !bracket.Spare.Known:
		out.Need(
			r, "/card/bracket/spare", "whether a second bracket came with the card", "Look in its box.",
			"between a swap and a card that does not go in",
		)
	default:
		out.Need(
			r, "/card/bracket/swap", "what changing the bracket takes", "Look which screws hold it: some hold the cooler too.",
			"whether the swap is safe",
		)
	}
}

func heights(f rig.Fact[rig.Height]) []rig.Height {
	if f.Known {
		return []rig.Height{f.Value}
	}
	return []rig.Height{rig.FullHeight, rig.HalfHeight, rig.NoBracket}
}

func swaps(f rig.Fact[rig.Swap]) []rig.Swap {
	if f.Known {
		return []rig.Swap{f.Value}
	}
	return []rig.Swap{rig.SwapFree, rig.SwapDismantles, rig.SwapImpossible}
}

func (c *Chamber) bracketWords(f rig.Fact[rig.Height]) string {
	h, known := f.Get()
	switch {
	case !known:
		return "bracket that nobody has measured"
	case h == rig.NoBracket:
		return "no bracket"
	case h == rig.HalfHeight:
		return "low-profile (half-height) bracket (" + c.ref.BracketHeight(h).String() + ")"
	default:
		return "full-height bracket (" + c.ref.BracketHeight(h).String() + ")"
	}
}

// judgeWidth reports a bracket that is wider than its opening.
func (c *Chamber) judgeWidth(r *finding.Rule, out *finding.List) (tooWide bool) {
	bracket, opening := &c.rig.Card.Bracket, &c.rig.Chamber.Opening
	if rig.Is(bracket.Height, rig.NoBracket) || rig.Is(opening.Height, rig.NoBracket) {
		return false
	}
	wide, free := slotsOf(bracket.Slots, 1, 5), slotsOf(opening.Slots, 0, 8)
	switch wide.Over(free) {
	case units.Always:
		out.Add(r, finding.Blocked, "/card/bracket/slots", finding.Numbers{
			{Name: "bracket_slots", Value: float64(wide.Low)}, {Name: "opening_slots", Value: float64(free.High)},
		},
			"The bracket is %s slots wide, the opening %s.", atLeast(wide), atMost(free))
		return true
	case units.Sometimes:
		if !bracket.Slots.Known {
			out.Need(r, "/card/bracket/slots", "how many slots wide the card's bracket is", "Count them.", "whether the bracket goes in")
		}
		if !opening.Slots.Known {
			out.Need(r, "/chamber/opening/slots", "how many slots are free at the opening", "Count them.", "whether the bracket goes in")
		}
	}
	return false
}

func slotsOf(f rig.Fact[int], least, most int) units.Range[int] {
	if f.Known {
		return units.Exactly(f.Value)
	}
	return units.Between(least, most)
}

func atLeast(r units.Range[int]) string {
	if r.Known() {
		return fmt.Sprint(r.Low)
	}
	return fmt.Sprintf("at least %d", r.Low)
}

func atMost(r units.Range[int]) string {
	if r.Known() {
		return fmt.Sprint(r.High)
	}
	return fmt.Sprintf("at most %d", r.High)
}
