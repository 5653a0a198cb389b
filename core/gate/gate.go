// Package gate asks, before money is spent, what taking a slot costs: the
// occupants that must leave and what becomes of them.
package gate

import (
	"slices"
	"strconv"

	"kolvan/core/finding"
	"kolvan/core/reference"
	"kolvan/core/rig"
)

// A Gate is a rig before money is spent on it.
type Gate struct {
	*rig.Rig
	ref *reference.Tables
}

// The names of the rules, as reports and files have them.
const (
	RuleSoldered       = "gate.soldered"
	RuleAllowList      = "gate.allow-list"
	RuleDiscreteActive = "gate.discrete-active"
	RuleAddressSpace   = "gate.address-space"
	RuleDiskMode       = "gate.disk-mode"
	RuleLegacyStart    = "gate.legacy-start"
	RuleDriver         = "gate.driver"
	RuleFirmwareChange = "gate.firmware-change"
	RuleListing        = "gate.listing"
	RuleKnown          = "gate.known"
	RuleSplit          = "gate.split"
	RuleBootDisplaced  = "boot.displaced"
	RuleSlow           = "boot.slow"
	RuleCapacity       = "boot.capacity"
	RuleProven         = "boot.proven"
	RuleShared         = "boot.shared"
	RuleNetDisplaced   = "net.displaced"
	RulePath           = "screen.path"
)

var rules = finding.Table[*Gate]{
	{Rule: finding.Rule{
		Name: RuleSoldered, Station: finding.Survey, Title: "What sits there is soldered", Levels: finding.Levels{finding.Blocked},
		Line: "what sits in {thing} is soldered", Tag: "soldered",
		Would:   "another slot: nothing can be put into this one",
		Evening: finding.Evening{finding.Blocked: finding.Apart()},
		Fires:   "what sits in the wanted slot is soldered",
		Example: "What sits in m2-e is soldered to the board: nothing can be put in its place.",
	}, Judge: judgeSoldered},
	{Rule: finding.Rule{
		Name: RuleAllowList, Station: finding.Survey, Title: "Only its own wireless cards", Levels: finding.Levels{finding.Blocked},
		Line: "the firmware takes only its own cards in that slot", Tag: "allow list",
		Would:   "another slot; this one refuses every other card",
		Evening: finding.Evening{finding.Blocked: finding.Stops("starts=refuses")},
		Fires:   "the firmware accepts only its own cards in a wireless slot; unknown while nobody has looked",
		Example: "The firmware refuses to start with anything but its own cards in m2-e.",
	}, Judge: judgeAllowList},
	{Rule: finding.Rule{
		Name: RuleDiscreteActive, Station: finding.Survey, Title: "The host's own card is on", Levels: finding.Levels{finding.Risk},
		Line: "the host's own graphics card is still on", Tag: "own card on",
		Would:   "switching the host's own card off in the firmware",
		Evening: finding.Evening{finding.Risk: finding.Weakens("picture=own")},
		Fires:   "the host has discrete graphics of its own and they are not switched off",
		Example: "The host's own graphics card stays on beside the new one: drivers and addresses may collide. Switch it off in the firmware.",
	}, Judge: judgeDiscrete},
	{Rule: finding.Rule{
		Name: RuleAddressSpace, Station: finding.Survey, Title: "No room for the card's memory window", Levels: finding.Levels{finding.Risk},
		Line: "the host has no room for the card's {window_gib} window", Tag: "address space",
		Would:   "large addresses switched on in the firmware, or a smaller window set on the card",
		Evening: finding.Evening{finding.Risk: finding.Weakens("driver=no-room")},
		Figures: finding.Figures{"window_gib": finding.MoreIsWorse},
		Fires:   "the card's memory window needs large address decoding, which the host lacks",
		Example: "The card wants a memory window of 16 GiB, and the host places none above 4 GiB. Make the window smaller in the card's " +
			"settings, where it has any.",
	}, Judge: judgeAddresses},
	{Rule: finding.Rule{
		Name: RuleDiskMode, Station: finding.Survey, Title: "The disk mode hides the slot", Levels: finding.Levels{finding.Risk},
		Line: "the firmware bundles the disks", Tag: "disk mode",
		Would:   "disks set to plain (AHCI) before the system is installed",
		Evening: finding.Evening{finding.Risk: finding.Weakens("seen=hidden")},
		Fires:   "disks are bundled, which hides the slot from plain PCIe",
		Example: "The firmware bundles disks, which may hide m2-a from plain PCIe. Set disks to plain; a system installed under the other " +
			"mode may then not start.",
	}, Judge: judgeDiskMode},
	{Rule: finding.Rule{
		Name: RuleLegacyStart, Station: finding.Survey, Title: "No start mode in common", Levels: finding.Levels{finding.Risk},
		Line: "host and card share no way to start", Tag: "start mode",
		Would:   "one start mode for both, set in the firmware",
		Evening: finding.Evening{finding.Risk: finding.Weakens("picture=system-only")},
		Fires:   "the host's firmware and the card's share no start mode",
		Example: "The host starts in UEFI, the card's firmware in legacy: there is no picture from it before the system's driver runs.",
	}, Judge: judgeStartModes},
	{Rule: finding.Rule{
		Name: RuleDriver, Station: finding.Survey, Title: "No driver that works", Levels: finding.Levels{finding.Risk},
		Line: "no driver works for this card and system", Tag: "no driver",
		Would:   "a driver that still knows the card, or another system",
		Evening: finding.Evening{finding.Risk: finding.Weakens("driver=marked")},
		Fires: "there is no driver for this card and system, it is too old or the card too old for it, it is known to fail this way, or " +
			"another of the same maker is still installed",
		Example: "The system's drivers have dropped this family of cards: an older one has to be kept.",
	}, Judge: judgeDriver},
	{Rule: finding.Rule{
		Name: RuleFirmwareChange, Station: finding.Survey, Title: "Needs modified firmware", Levels: finding.Levels{finding.Risk,
			finding.Blocked},
		Line: "the route needs modified firmware", Tag: "modified firmware",
		Would:   "another slot or card that runs with the firmware as it is",
		Evening: finding.Evening{finding.Risk: finding.Unseen(), finding.Blocked: finding.Unseen()},
		Fires:   "the route needs modified firmware; blocked where nothing permanent may be altered",
		Example: "The route needs a host firmware that somebody has changed. Keep a copy of the old one and a way to write it back. A host " +
			"that does not start any more may be the price.",
	}, Judge: judgeFirmware},
	{Rule: finding.Rule{
		Name: RuleListing, Station: finding.Survey, Title: "Not as listed", Levels: finding.Levels{finding.Risk, finding.Note},
		Tag:     "not as listed",
		Would:   "asking the seller, with what was listed and what was found",
		Evening: finding.Evening{finding.Risk: finding.Unseen()},
		Figures: finding.Figures{"found": finding.LessIsWorse},
		Fires:   "what was found is worse than the seller's listing (risk) or better (note); unknown where a fact that decides is only believed",
		Example: "m2-b runs at Gen 3; the listing promised Gen 4.",
	}, Judge: judgeListing},
	{Rule: finding.Rule{
		Name: RuleKnown, Station: finding.Survey, Title: "Seen on this host before", Levels: finding.Levels{finding.Note, finding.Risk},
		Line: "{thing} was seen to fail on this host", Tag: "seen to fail",
		Would:   "the firmware, driver or system with which it was seen to work, or another part",
		Evening: finding.Evening{finding.Risk: finding.Unseen()},
		Figures: finding.Figures{"failed": finding.MoreIsWorse},
		Fires: "the card, or a stage of the route, was seen to work on this host or one like it (note), or to fail (risk); where both were " +
			"seen both are told, with firmware, driver and system",
		Example: "Card one worked: on this host, seen by oneself, firmware 1.12.",
	}, Judge: judgeKnown},
	{Rule: finding.Rule{
		Name: RuleSplit, Station: finding.Survey, Title: "The slot is not split for the riser", Levels: finding.Levels{finding.Risk,
			finding.Blocked},
		Line: "{thing} needs its slot split in the firmware", Tag: "slot not split",
		Would:   "the split set in the firmware, or a riser with a packet switch of its own",
		Evening: finding.Evening{finding.Risk: finding.Unseen(), finding.Blocked: finding.Stops("lanes=none")},
		Figures: finding.Figures{"part": finding.MoreIsWorse},
		Fires: "a riser that parts a slot's lanes needs the firmware to split them: it offers no such split, or it is not set and the card " +
			"is on another part than the first (blocked); not set, the card on the first part (risk); asked while nobody looked",
		Example: "Adapter needs m2-a split into 8 and 8, which its firmware does not offer.",
	}, Judge: judgeSplit},
	{Rule: finding.Rule{
		Name: RuleBootDisplaced, Station: finding.Route, Title: "Nothing left to start from", Levels: finding.Levels{finding.Blocked},
		Line: "nothing is left to start the host from", Tag: "no boot drive",
		Would:   "any place the firmware starts from: another M.2 slot, a SATA bay, USB, the network",
		Evening: finding.Evening{finding.Blocked: finding.Stops("starts=no-drive")},
		Cures:   []finding.Cure{finding.Slot, finding.Home},
		Fires:   "the boot drive leaves and nothing bootable replaces it",
		Example: "Boot drive leaves m2-b and nothing bootable replaces it.",
	}, Judge: judgeBoot},
	{Rule: finding.Rule{
		Name: RuleSlow, Station: finding.Route, Title: "The system starts from something slower", Levels: finding.Levels{finding.Note,
			finding.Risk},
		Line: "the system starts from something slower, {reads_gb_s}", Tag: "slower drive",
		Would:   "a place on PCIe for the drive, or a USB port of 10 Gb/s",
		Evening: finding.Evening{finding.Risk: finding.Weakens()},
		Figures: finding.Figures{"reads_gb_s": finding.LessIsWorse},
		Fires:   "what replaces the boot drive is slower, with the ratio; a risk on a memory card, on USB 2, or under 200 MB/s",
		Example: "Boot drive in its new place reads 1.00 GB/s at the most; before it was 2.90 GB/s, 2.9 times as much.",
	}, Judge: judgeSlow},
	{Rule: finding.Rule{
		Name: RuleCapacity, Station: finding.Route, Title: "Too small for the system and what it is for", Levels: finding.Levels{finding.Risk},
		Line: "the drive's new place holds {holds_gb}; {needs_gb} are needed", Tag: "too small a drive",
		Would:   "a drive of {needs_gb} or more",
		Evening: finding.Evening{finding.Risk: finding.Weakens()},
		Figures: finding.Figures{"holds_gb": finding.LessIsWorse},
		Fires:   "what replaces the boot drive holds less than the system and the uses kept on it need",
		Example: "The new place of boot drive holds 64 GB; the system and what is kept beside it need 100 GB.",
	}, Judge: judgeCapacity},
	{Rule: finding.Rule{
		Name: RuleProven, Station: finding.Route, Title: "Not yet seen to start there", Levels: finding.Levels{}, Step: true,
		Fires: "the boot drive's new place has not yet been seen to start on the port it will use; always unknown",
		Example: "Not known: whether the host was seen to start from boot drive in its new place. Start from it on the very port it will " +
			"use, before the old drive is pulled. It decides whether the host still starts on the day.",
	}, Judge: judgeProven},
	{Rule: finding.Rule{
		Name: RuleShared, Station: finding.Route, Title: "System and work on one USB device", Levels: finding.Levels{finding.Risk},
		Line: "system and work share one USB device", Tag: "one USB device",
		Would:   "a second device for the work",
		Evening: finding.Evening{finding.Risk: finding.Weakens()},
		Fires:   "the system and what a use works on share one USB device",
		Example: "The system and stacking would share one USB device: both stall whenever one of them writes. Keep one of them elsewhere.",
	}, Judge: judgeShared},
	{Rule: finding.Rule{
		Name: RuleNetDisplaced, Station: finding.Route, Title: "The wireless card leaves", Levels: finding.Levels{finding.Risk},
		Line: "the wireless card leaves, and nothing replaces it", Tag: "no network",
		Would:   "a network cable, or a wireless stick on USB",
		Evening: finding.Evening{finding.Risk: finding.Weakens()},
		Cures:   []finding.Cure{finding.Slot, finding.Home},
		Fires:   "the wireless card leaves and nothing replaces it; quiet when a wire or another radio is used",
		Example: "Wireless card leaves m2-e and nothing replaces it.",
	}, Judge: judgeNet},
	{Rule: finding.Rule{
		Name: RulePath, Station: finding.Route, Title: "No way for the picture", Levels: finding.Levels{finding.Blocked},
		Line: "the picture has no way to the screen", Tag: "no picture",
		Would:   "a screen at the card's own output, or an adapter to it",
		Evening: finding.Evening{finding.Blocked: finding.Stops("picture=none")},
		Fires: "the picture has no way to the screen: own panel without own graphics or a driver that copies frames back, no matching " +
			"socket or adapter, a dead panel and nothing else to see the firmware on",
		Example: "The host's own panel hangs on graphics of its own, and it has none: frames have no way back. Use a screen on the card's output.",
	}, Judge: judgeScreen},
}

// Rules lists the rules of this package.
func Rules() []finding.Rule { return rules.Rules() }

// Judge adds what the rules say about the rig.
func Judge(r *rig.Rig, ref *reference.Tables, out *finding.List) { rules.Judge(&Gate{r, ref}, out) }

// occupied returns the slot of the route and its pointer, nil when none is
// chosen or it is known to be empty.
func occupied(r *rig.Rig) (*rig.Slot, string) {
	slot := r.Slot(r.Route.Slot)
	if slot == nil || rig.Is(slot.Occupant, rig.NoOccupant) {
		return nil, ""
	}
	return slot, rig.SlotPath(rig.IndexOf(r.Host.Slots, slot))
}

// home is what becomes of an occupant.
type home int

const (
	nowhere home = iota
	taken        // its new slot is in use by something that stays
	unfit        // it does not go there
	unseen       // nobody looked what sits in its new slot
	settled
	open // not said
)

// homeOf tells where an occupant of the slot goes.
func homeOf(r *rig.Rig, occupant string) home {
	d := r.NewHome(occupant)
	switch {
	case d == nil:
		return nowhere
	case !d.Home.Known:
		return open
	case d.Home.Value == rig.HomeNone:
		return nowhere
	case d.Home.Value == rig.HomeSlot && d.Slot == "":
		return open
	case d.Home.Value == rig.HomeSlot && d.Slot == r.Route.Slot:
		return taken
	default:
		if f := fits(r, d); f != settled || d.Home.Value != rig.HomeSlot {
			return f
		}
		return free(r, r.Slot(d.Slot), occupant)
	}
}

// driveHomes and radioHomes are where drives and radios can go.
var (
	driveHomes = []rig.Home{rig.HomeSlot, rig.HomeUSB, "sata-bay", "memory-card", "network"}
	radioHomes = []rig.Home{rig.HomeSlot, rig.HomeUSB, "ethernet", "network"}
)

// Homes lists the kinds of new place that an occupant may have.
func Homes(r *rig.Rig, occupant string) []rig.Home {
	if r.Drive(occupant) != nil {
		return driveHomes
	}
	return radioHomes
}

// fits tells whether an occupant goes to its new place: a drive into an M.2 slot
// of key M that carries its protocol, or into a card slot through an adapter that is
// named; a radio into a wireless slot.
func fits(r *rig.Rig, d *rig.Displaced) home {
	drive := r.Drive(d.Occupant) != nil
	slot := r.Slot(d.Slot)
	switch {
	case !slices.Contains(Homes(r, d.Occupant), d.Home.Value):
		return unfit
	case d.Home.Value != rig.HomeSlot:
		return settled
	case !slot.Form.Known || slot.Form.Value == rig.M2 && !slot.Key.Known:
		return open
	case drive && (slot.Form.Value == rig.CardSlot && d.Adapter != "" || slot.Form.Value == rig.M2 && slot.Key.Value == "M") &&
		carriesData(slot, r.Drive(d.Occupant)):
		return settled
	case !drive && (slot.Form.Value == rig.MiniPCIe || slot.Form.Value == rig.M2 && slot.Key.Value != "M" && slot.Key.Value != "B" &&
		slot.Key.Value != "B+M"):
		return settled
	default:
		return unfit
	}
}

// carriesData reports a slot whose contacts may carry what the drive speaks.
func carriesData(slot *rig.Slot, drive *rig.Drive) bool {
	carries, known := slot.Carries.Get()
	if speaks, told := drive.Speaks.Get(); known && told {
		return slices.Contains(carries, speaks)
	}
	return !known || slices.Contains(carries, rig.PCIe) || slices.Contains(carries, rig.SATA)
}

// free tells whether a slot can take the occupant: it is empty, or left by what
// is in it.
func free(r *rig.Rig, slot *rig.Slot, occupant string) home {
	switch now, known := slot.Occupant.Get(); {
	case !known:
		return unseen
	case promised(r, slot, occupant):
		return taken
	case now == rig.NoOccupant || now == occupant || homeOfOther(r, now):
		return settled
	default:
		return taken
	}
}

// promised reports a slot that something else, named before, is to move to.
func promised(r *rig.Rig, slot *rig.Slot, occupant string) bool {
	for i := range r.Route.Displaced {
		switch d := &r.Route.Displaced[i]; {
		case d.Occupant == occupant:
			return false
		case d.Slot == slot.Name && rig.Is(d.Home, rig.HomeSlot):
			return true
		}
	}
	return false
}

// homeOfOther reports an occupant that leaves its slot for a home of its own.
func homeOfOther(r *rig.Rig, occupant string) bool {
	d := r.NewHome(occupant)
	return d != nil && d.Home.Known
}

// leaves reports a drive that leaves its place: it sits in the route's slot, or the plan
// says where it goes.
func leaves(r *rig.Rig, drive *rig.Drive) bool {
	if slot, _ := occupied(r); slot != nil && rig.Is(slot.Occupant, drive.Name) {
		return true
	}
	to := r.NewHome(drive.Name)
	return to != nil && to.Home.Known
}

// stays is the place of a drive that the host starts from and that stays where it is, −1
// where there is none.
func stays(r *rig.Rig) int {
	for i := range r.Host.Drives {
		if d := &r.Host.Drives[i]; rig.Is(d.Boots, true) && !leaves(r, d) {
			return i
		}
	}
	return -1
}

func driveAt(i int) string { return "/host/drives/" + strconv.Itoa(i) }

func judgeBoot(r *finding.Rule, rg *Gate, out *finding.List) {
	if slot, at := occupied(rg.Rig); slot != nil && !slot.Occupant.Known {
		if holdsDrives(slot) {
			out.Need(
				r, at+"/occupant", "what sits in "+slot.Name+" now", "Take the cover off and look.",
				"whether the host can still start",
			)
		}
		return
	}
	if stays(rg.Rig) >= 0 {
		return
	}
	var room [4]lostDrive
	lost := room[:0]
	for i := range rg.Host.Drives {
		drive := &rg.Host.Drives[i]
		switch {
		case !leaves(rg.Rig, drive):
		case !drive.Boots.Known:
			out.Need(
				r, driveAt(i)+"/boots", "whether the host starts from "+drive.Name, "Look at the firmware's boot list.",
				"whether taking it leaves the host without a system",
			)
			return
		case drive.Boots.Value:
			why, asks := afterwards(rg, drive)
			if why == "" && asks == nothing {
				return // it starts the system from its new place
			}
			lost = append(lost, lostDrive{drive, why, asks})
		}
	}
	judgeLost(r, rg, lost, out)
}

// A lostDrive held the system and does not start it afterwards, for what reason; or that
// hangs on a fact that is asked for.
type lostDrive struct {
	*rig.Drive
	why  string
	asks asked
}

// asked is the fact on which it hangs whether a drive starts the system afterwards.
type asked int

const (
	nothing  asked = iota
	itsHome        // where it goes
	itsSlot        // what sits where it goes
	bootable       // whether the host starts from it there
)

// ask asks for it.
func (d *lostDrive) ask(r *finding.Rule, rg *Gate, out *finding.List) {
	const decides = "whether the host can still start"
	switch d.asks {
	case itsHome:
		out.Need(r, displacedAt(rg.Rig, d.Name)+"/home", "where "+d.Name+" goes", "Choose a slot, a bay or an enclosure.", decides)
	case itsSlot:
		needSeen(r, rg, d.Name, decides, out)
	case bootable:
		out.Need(
			r, displacedAt(rg.Rig, d.Name)+"/bootable", "whether the host starts from "+d.Name+" in its new place",
			"Try it there before anything is pulled.", decides,
		)
	}
}

// judgeLost says that nothing starts the system, unless a fact is missing that may say else.
func judgeLost(r *finding.Rule, rg *Gate, lost []lostDrive, out *finding.List) {
	open := false
	for i := range lost {
		lost[i].ask(r, rg, out)
		open = open || lost[i].asks != nothing
	}
	if open || len(lost) == 0 {
		return
	}
	if i := unsureBoots(rg.Rig); i >= 0 {
		out.Need(
			r, driveAt(i)+"/boots", "whether the host could start from "+rg.Host.Drives[i].Name,
			"Look at the firmware's boot list.", "whether it can still start without "+lost[0].Name,
		)
		return
	}
	slot, at := occupied(rg.Rig)
	for _, d := range lost {
		from, where := "its place", displacedAt(rg.Rig, d.Name)
		if slot != nil && slot.Occupant.Value == d.Name {
			from, where = slot.Name, at+"/occupant"
		}
		out.Add(r, finding.Blocked, where, nil, "%s leaves %s and %s.", d.Name, from, d.why)
	}
}

// holdsDrives: wireless slots and ports hold no boot drive.
func holdsDrives(slot *rig.Slot) bool {
	if key, known := slot.Key.Get(); known && (key == "E" || key == "A" || key == "A+E") {
		return false
	}
	form := slot.Form.Or(rig.M2)
	return form == rig.M2 || form == rig.MSATA || form == rig.MiniPCIe
}

// unsureBoots is the place of a drive that stays and of which nobody knows whether the host
// could start from it, −1 where there is none.
func unsureBoots(r *rig.Rig) int {
	for i := range r.Host.Drives {
		if d := &r.Host.Drives[i]; !d.Boots.Known && !leaves(r, d) {
			return i
		}
	}
	return -1
}

// afterwards says why a drive that leaves does not start the system, or what has to be
// asked; neither where it does.
func afterwards(rg *Gate, drive *rig.Drive) (why string, asks asked) {
	switch homeOf(rg.Rig, drive.Name) {
	case nowhere:
		return "nothing bootable replaces it", nothing
	case taken:
		return "the slot it should go to is in use", nothing
	case unfit:
		return "it does not go where it should", nothing
	case unseen:
		return "", itsSlot
	case open:
		return "", itsHome
	}
	switch starts, known := bootableAt(rg.Rig, rg.NewHome(drive.Name)); {
	case !known:
		return "", bootable
	case !starts:
		return "the host cannot start from its new place", nothing
	}
	return "", nothing
}

// needSeen asks what sits in the slot an occupant is to move to.
func needSeen(r *finding.Rule, rg *Gate, occupant, decides string, out *finding.List) {
	slot := rg.Slot(rg.NewHome(occupant).Slot)
	at := rig.SlotPath(rig.IndexOf(rg.Host.Slots, slot))
	out.Need(r, at+"/occupant", "what sits in "+slot.Name+" now", "Take the cover off and look.", decides)
}

func displacedAt(r *rig.Rig, occupant string) string {
	return "/route/displaced/" + strconv.Itoa(rig.IndexOf(r.Route.Displaced, r.NewHome(occupant)))
}

// bootableAt tells whether the host starts from a drive in its new home: as the
// entry says, else as the slot says.
func bootableAt(r *rig.Rig, d *rig.Displaced) (bootable, known bool) {
	if d.Proven.Known {
		return d.Proven.Value, true // it was tried
	}
	if d.Bootable.Known {
		return d.Bootable.Value, true
	}
	if slot := r.Slot(d.Slot); slot != nil {
		return slot.Bootable.Get()
	}
	return false, false
}

func judgeNet(r *finding.Rule, rg *Gate, out *finding.List) {
	slot, at := occupied(rg.Rig)
	if slot == nil {
		return
	}
	if !slot.Occupant.Known {
		if !holdsDrives(slot) && rig.Is(slot.Form, rig.M2) || rig.Is(slot.Form, rig.MiniPCIe) {
			out.Need(
				r, at+"/occupant", "what sits in "+slot.Name+" now", "Take the cover off and look.",
				"whether the host loses its network",
			)
		}
		return
	}
	network := rg.Network(slot.Occupant.Value)
	if network == nil || rig.Is(network.Kind, rig.Wire) || homeOf(rg.Rig, network.Name) == settled {
		return
	}
	used, unsure := otherNetwork(rg.Rig, network)
	if used {
		return
	}
	switch homeOf(rg.Rig, network.Name) {
	case unseen:
		needSeen(r, rg, network.Name, "whether the host keeps its network", out)
		return
	case open:
		out.Need(
			r, displacedAt(rg.Rig, network.Name)+"/home", "where "+network.Name+" goes", "Choose a slot, or USB.",
			"whether the host keeps its network",
		)
		return
	}
	if unsure >= 0 {
		other := &rg.Host.Networks[unsure]
		out.Need(
			r, "/host/networks/"+strconv.Itoa(unsure)+"/used", "whether the rig can rely on "+other.Name,
			"Ask where it will stand.", "whether losing "+network.Name+" leaves it without a network",
		)
		return
	}
	why := "nothing replaces it"
	if homeOf(rg.Rig, network.Name) == unfit {
		why = "it does not go where it should"
	}
	out.Add(r, finding.Risk, at+"/occupant", nil, "%s leaves %s and %s.", network.Name, slot.Name, why)
}

// otherNetwork looks for a network in use besides the one that leaves; unsure is
// the place of one of which that is not known, or −1.
func otherNetwork(r *rig.Rig, leaving *rig.Network) (used bool, unsure int) {
	unsure = -1
	for i := range r.Host.Networks {
		n := &r.Host.Networks[i]
		if n == leaving {
			continue
		}
		if rig.Is(n.Used, true) {
			return true, -1
		}
		if !n.Used.Known {
			unsure = i
		}
	}
	return false, unsure
}

// Takes reports a new place that takes the occupant, or may, by its form and what it
// carries; what sits there now is another matter.
func Takes(r *rig.Rig, d *rig.Displaced) bool {
	f := fits(r, d)
	return f == settled || f == open
}
