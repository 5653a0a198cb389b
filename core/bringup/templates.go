package bringup

import (
	"fmt"
	"slices"
	"strings"

	"kolvan/core/finding"
	"kolvan/core/fit"
	"kolvan/core/power"
	"kolvan/core/rig"
	"kolvan/core/units"
)

// templates make the rows of a rig, one entry a kind of thing. What comes first here
// comes first where nothing else decides.
var templates = []struct {
	kind string
	make func(*maker)
}{
	{"data", data}, {"new place of a drive, before", provenDrives}, {"firmware", photographs}, {"driver", drivers}, {"setting", settings},
	{"listing", listing}, {"cut", cuts}, {"print", prints}, {"mains", mains}, {"cover", covers}, {"battery", battery}, {"used host", served},
	{"obstacle", obstacles}, {"slot occupant", occupants}, {"bracket", brackets}, {"adapter", adapters}, {"cable", cables}, {"dock", docks},
	{"supply", supplies}, {"harness", harnesses}, {"lead", leads}, {"card", card}, {"first start", firstStart}, {"proof", proofs}, {"closing", closing},
	{"what stays off", layAside},
}

const (
	crossDriver = "small cross driver"
	cloth       = "soft cloth"
	meter       = "meter"
)

// short reports an evening at which nothing is opened, moved or altered: a box on a port.
func (m *maker) short() bool {
	return !m.opens() && len(m.r.Alterations) == 0 && len(m.r.Route.Displaced) == 0
}

func data(m *maker) {
	if m.short() {
		return
	}
	m.add(row{Step: Step{ID: "save-data", Do: "Copy what is on the host's drives to somewhere else, and open one file of the copy.", Place: System, Tools: []string{"a drive for the copy"}, Minutes: [2]float64{15, 60},
		RightWhen: "A file opens from the copy."}, tags: "prepare data"})
	if !rig.Is(m.r.Host.Locked, false) {
		m.add(row{Step: Step{ID: "suspend-encryption", Do: "Suspend the disk's encryption, and write its recovery key down on paper.", Place: System, Minutes: [2]float64{3, 10}, where: "/host/disk_encrypted",
			Cautions: []string{"A changed firmware setting or a new card can make the system ask for the key."}, RightWhen: "The system says that protection is suspended, and the key lies on the table.", Undo: "Resume the disk's encryption."}, tags: "prepare data", follows: "save-data"})
	}
}

// provenDrives: what starts the system afterwards is seen to start before anything else.
func provenDrives(m *maker) {
	for i := range m.r.Route.Displaced {
		d := &m.r.Route.Displaced[i]
		drive := m.r.Drive(d.Occupant)
		if drive == nil || !d.Home.Known || d.Home.Value == rig.HomeNone {
			continue
		}
		switch d.Method.Value {
		case rig.Cloned:
			m.add(row{Step: Step{ID: "clone-" + slug(drive.Name), Do: "Clone the system of " + drive.Name + ", bit for bit, onto the drive that takes its place.", Place: System, Parts: []string{drive.Name}, Tools: []string{newDriveIn}, Minutes: [2]float64{20, 90},
				RightWhen: "The clone ends without an error."}, tags: "prepare clone", follows: "save-data suspend-encryption"})
		case rig.Copied:
			m.add(row{Step: Step{ID: "copy-" + slug(drive.Name), Do: "Copy all that is on " + drive.Name + " onto the drive that takes its place, and make that one able to start.", Place: System, Parts: []string{drive.Name}, Tools: []string{newDriveIn}, Minutes: [2]float64{20, 120},
				RightWhen: "A file opens from the copy, and the firmware lists the new drive among those to start from."}, tags: "prepare clone", follows: "save-data suspend-encryption"})
		}
		if !twoDrives(d) || rig.Is(d.Proven, true) || rig.Is(drive.Boots, false) {
			continue
		}
		m.add(row{Step: Step{ID: "prove-" + slug(drive.Name), Do: "See the system start from the new drive at the " + rig.Spoken(d.Home.Value) + " it will use, with the old one still in.", Place: System, Parts: []string{drive.Name}, Minutes: [2]float64{5, 15}, where: fmt.Sprintf("/route/displaced/%d/proven", i),
			Cautions: []string{"On the very port it will use: another port may not start."}, RightWhen: "The system is up, and says that it started from the new drive."}, tags: "prepare", follows: "save-data clone"})
	}
}

// newDriveIn is what a new drive is written through before it has its place.
const newDriveIn = "an enclosure for the new drive"

// twoDrives reports a move to another drive than the one that leaves: only then can the new
// one be started with the old one still in.
func twoDrives(d *rig.Displaced) bool {
	if method, told := d.Method.Get(); told {
		return method != rig.CarriedOver
	}
	return d.Home.Value != rig.HomeSlot || d.Capacity.Known
}

func photographs(m *maker) {
	if m.short() {
		return
	}
	m.add(row{Step: Step{ID: "photograph-firmware", Do: "Photograph every page of the firmware.", Place: Firmware, Tools: []string{"a camera"}, Minutes: [2]float64{5, 10},
		Cautions: []string{"Setting defaults later may flip the disk mode, and the system no longer starts."}, RightWhen: "Every page can be read in the pictures."}, tags: "prepare photographs"})
}

func drivers(m *maker) {
	m.add(row{Step: Step{ID: "fetch-drivers", Do: "Fetch the card's driver and what reads the link, and lay them on the host's drive.", Place: System, Parts: []string{quoted(m.r.Card.Name, "card")}, Minutes: [2]float64{5, 20}, where: "/card/driver",
		RightWhen: "Both are there without a network."}, tags: "prepare"})
	if rig.Is(m.r.Card.Driver, "conflict") {
		m.add(row{Step: Step{ID: "remove-old-driver", Do: "Take the other driver of the same maker off the system.", Place: System, Minutes: [2]float64{5, 15}, where: "/card/driver", RightWhen: "The system starts without it."}, tags: "prepare", follows: "fetch-drivers"})
	}
}

// settings are those that need a picture, made while there is one.
func settings(m *maker) {
	set := func(id, do, undo, where string, place Place) {
		m.add(row{Step: Step{ID: id, Do: do, Undo: undo, Place: place, Minutes: [2]float64{1, 5}, where: where, RightWhen: "It is still set after a restart."}, tags: "prepare setting", follows: "photographs suspend-encryption"})
	}
	if m.short() {
		return
	}
	set("fast-start-off", "Switch the system's fast start off, so that a start looks for what is new.", "Switch fast start on again.", "/host/system", System)
	if window, known := m.r.Card.Window.Get(); known && window > 0.25 && !rig.Is(m.r.Host.Firmware.LargeWindow, false) {
		set("large-addresses", "Switch large address decoding on in the firmware.", "Switch large address decoding off again.", "/host/firmware/large_addresses", Firmware)
	}
	if rig.Is(m.r.Host.Firmware.DiskMode, "bundled") {
		set("disk-mode", "Set the disk mode to plain in the firmware, once the system is ready for it.", "Set the disk mode to bundled again.", "/host/firmware/disk_mode", Firmware)
	}
	if rig.Is(m.r.Host.Graphics, rig.Discrete) && !rig.Is(m.r.Host.Firmware.DiscreteOff, true) {
		set("own-card-off", "Switch the host's own card off in the firmware.", "Switch the host's own card on again.", "/host/firmware/discrete_off", Firmware)
	}
	if gen, forced := m.r.Route.ForcedGen.Get(); forced {
		set("force-generation", fmt.Sprintf("Force the slot to Gen %d in the firmware.", gen), "Let the slot choose its generation again.", "/route/forced_generation", Firmware)
	}
	if m.battery() != rig.NoBattery && m.opens() {
		m.add(row{Step: Step{ID: "battery-off", Do: "Switch the battery off in the firmware, where it has a page for that.", Place: Firmware, Minutes: [2]float64{1, 3}, where: "/host/kind",
			RightWhen: "The host goes dark and starts only with the mains brick.", Undo: "Plug the mains brick in: that wakes the battery."}, tags: "prepare battery-off", follows: "save-data suspend-encryption photographs fetch-drivers setting clone compare-listing"})
	}
}

// battery is the host's: as told, else one that unplugs in a notebook and none elsewhere.
func (m *maker) battery() rig.Battery {
	if rig.Is(m.r.Host.Kind, rig.Notebook) {
		return m.r.Host.Battery.Or(rig.BatteryUnplugs)
	}
	return m.r.Host.Battery.Or(rig.NoBattery)
}

func (m *maker) usedHost() bool { return m.r.Host.Listed.Said() || len(m.r.Host.Checks) > 0 }

func listing(m *maker) {
	if m.usedHost() {
		m.add(row{Step: Step{ID: "compare-listing", Do: "Hold the host against the seller's listing: processor, memory, slots, caddies and screws.", Place: Table, Parts: []string{quoted(m.r.Host.Name, "host")}, Minutes: [2]float64{5, 15}, where: "/host/listed",
			RightWhen: "What differs is written down, and asked about while it can be sent back."}, tags: "prepare"})
	}
}

// cuts and prints are made on the table before the host is open.
func cuts(m *maker) {
	for i := range m.r.Alterations {
		a := &m.r.Alterations[i]
		permanent := !rig.Is(a.Permanent, false)
		m.add(row{Step: Step{ID: "cut-" + slug(a.Name), Do: finding.Begin(a.Name) + ": mark it by its template, cut it, and file its edges.", Place: Table, Tools: []string{"saw or rotary tool", "file", "safety glasses", "template, printed at full size"}, Minutes: [2]float64{20, 60}, Permanent: permanent, where: fmt.Sprintf("/alterations/%d", i),
			Cautions: []string{"Take out what is behind first; no filings near a board. Glasses on, cut away from the hand."}, RightWhen: "The connector passes, and no edge is sharp."}, tags: "cut", follows: "covers-off served bare", precedes: "route closing"})
	}
}

func prints(m *maker) {
	for i := range m.r.Chamber.Covers {
		if v := &m.r.Chamber.Covers[i]; v.Raised.Value > 0 {
			m.add(row{Step: Step{ID: "print-stand-offs-" + slug(v.Name), Do: fmt.Sprintf("Print the stand-offs of %s, %v high, and try one on.", v.Name, v.Raised.Value), Place: Table, Tools: []string{"printer"}, Parts: []string{v.Name}, Minutes: [2]float64{40, 150}, where: rig.CoverPath(i) + "/raised_mm",
				Cautions: []string{"Where an insert is pressed in hot: iron and insert burn, and stay hot for a minute."}, RightWhen: "A screw runs through it, and it stands even. There is time to print it once more."}, tags: "print", precedes: "closing"})
		}
	}
}

func mains(m *maker) {
	if m.short() && m.tunnelled() && rig.Is(m.r.Card.BuiltIn, true) {
		return // the port is made for it, and nothing is opened
	}
	m.add(row{Step: Step{ID: "power-off", Do: "Switch off and pull the mains plug of host and dock; hold the power button for ten seconds; touch bare metal that is earthed.", Place: Table, Minutes: [2]float64{2, 4},
		Cautions: []string{"A lamp on the board glows while standby is there."}, RightWhen: "No lamp is on anywhere."}, tags: "off", follows: "prepare"})
}

// side is where something is worked on: a notebook opens from below unless told otherwise,
// all else from the top.
func (m *maker) side(f rig.Fact[rig.Side]) Place {
	if rig.Is(f, rig.SideUnder) || !f.Known && rig.Is(m.r.Host.Kind, rig.Notebook) {
		return Underside
	}
	return Top
}

// covers come off from the outside in.
func covers(m *maker) {
	if !m.opens() {
		return
	}
	if len(m.r.Chamber.Covers) == 0 || m.outside() {
		if m.bare() {
			return
		}
		place := m.startSide()
		m.add(row{Step: Step{ID: "open-host", Do: "Take the host's cover off.", Place: place, Tools: []string{crossDriver, cloth}, Minutes: [2]float64{2, 10}, where: "/host",
			Cautions: []string{"Lift it a little first: a ribbon or a lead may hold it."}, RightWhen: "The slot lies bare.", Undo: "Put the host's cover back on.", parted: []string{hostCover}}, tags: "covers-off open", follows: "off"})
		return
	}
	for i := range m.r.Chamber.Covers {
		v := &m.r.Chamber.Covers[i]
		cautions, parted := []string{"Lift it a little first: a ribbon or a lead may hold it."}, []string{v.Name}
		if tie := tieOf(v); tie != "" {
			cautions, parted = []string{finding.Begin(tie) + " ties it: part that first, and mark which way round it goes."}, append(parted, tie+" of "+v.Name)
		}
		m.add(row{Step: Step{ID: "off-" + slug(v.Name), Do: "Take " + v.Name + " off.", Place: m.side(v.Side), Parts: []string{v.Name}, Tools: []string{crossDriver, cloth}, Minutes: [2]float64{1, 5}, Screws: screwsOf(v), Cautions: cautions, where: rig.CoverPath(i),
			RightWhen: "It lies beside the host, with its screws in a cup.", Undo: "Put " + v.Name + " back on.", parted: parted}, tags: "covers-off open lifted-" + slug(v.Name), follows: "off " + lifted(v.Under)})
	}
}

// hostCover is the cover of a host of which no covers are told.
const hostCover = "the host's cover"

// bare reports a host without a case: a board that lies open.
func (m *maker) bare() bool {
	return rig.Is(m.r.Host.Kind, rig.SingleBoard) && len(m.r.Chamber.Covers) == 0
}

// tieOf is what hangs between a cover and the board; empty where nothing does.
func tieOf(v *rig.Cover) string {
	switch {
	case rig.Is(v.Tether, true):
		return "the ribbon or lead"
	case rig.Is(v.Cools, true):
		return "its fan's lead"
	}
	return ""
}

func lifted(names []string) string {
	var b strings.Builder
	for _, name := range names {
		b.WriteString(" lifted-" + slug(name))
	}
	return b.String()
}

func screwsOf(v *rig.Cover) []string {
	if !v.Screw.Length.Known {
		return nil
	}
	text := fmt.Sprintf("%s × %s", quoted(string(v.Screw.Thread.Value), "screw"), units.Trim(float64(v.Screw.Length.Value), 1))
	if v.Screw.Count.Known {
		text += fmt.Sprintf(", %d", v.Screw.Count.Value)
	}
	return []string{text}
}

// outside reports a room for the card that is not the host's case.
func (m *maker) outside() bool { return m.r.Chamber.Open || m.hasDock() }

func (m *maker) hasDock() bool {
	for i := range m.r.Route.Stages {
		if rig.Is(m.r.Route.Stages[i].Kind, rig.Dock) {
			return true
		}
	}
	return false
}

// opens reports a host that is opened: its slot is no port on its outside.
func (m *maker) opens() bool {
	slot := m.r.Slot(m.r.Route.Slot)
	return slot == nil || !m.tunnelled() && !rig.Is(slot.Side, rig.SideOutside)
}

func (m *maker) tunnelled() bool {
	slot := m.r.Slot(m.r.Route.Slot)
	return slot != nil && rig.Is(slot.Form, rig.Tunnel)
}

// battery: it is parted first of all inside, and joined last before any cover goes on.
func battery(m *maker) {
	if !m.opens() {
		return
	}
	switch m.battery() {
	case rig.BatteryFixed:
		m.add(row{Step: Step{ID: "live-battery", Do: "Run the battery down to a few percent, then switch it off in the firmware or hold the power button until all is dark: it cannot be parted from the board.", Place: m.side(rig.Fact[rig.Side]{}), Tools: []string{"plastic pick", "insulating tape"}, Minutes: [2]float64{2, 120}, where: "/host/battery",
			Cautions: []string{"The board keeps power all the while: tools of plastic, tape over what is bare, nothing metal on it, and one hand where one will do.", "A battery that is bent or pierced burns."}, RightWhen: "No lamp lights when the power button is pressed."}, tags: "bare", follows: "covers-off", precedes: inside})
	case rig.BatteryUnplugs:
		m.add(row{Step: Step{ID: "unplug-battery", Do: "Part the battery's plug from the board, the first thing once the cover is off.", Place: m.side(rig.Fact[rig.Side]{}), Tools: []string{"plastic pick"}, Minutes: [2]float64{1, 3}, where: "/host/battery",
			Cautions: []string{"Pull at the plug and never at its wires; a battery that is bent or pierced burns."}, RightWhen: "The plug is free and cannot touch the board.", Undo: "Plug the battery in, the last thing before the cover.", parted: []string{"the battery"}}, tags: "bare", follows: "covers-off", precedes: inside})
		follows := "bare homes " + inside
		if !slices.ContainsFunc(m.r.Chamber.Covers, func(v rig.Cover) bool { return m.closesFirst(&v) }) {
			follows += " proven off-again"
		}
		m.add(row{Step: Step{ID: "plug-battery", Do: "Plug the battery in again, the last thing before the cover goes on.", Place: m.side(rig.Fact[rig.Side]{}), Minutes: [2]float64{1, 2}, where: "/host/battery",
			Cautions: []string{"The mains brick is out, and nothing metal lies on the board: from here on it has power."}, RightWhen: "The plug is home, and no wire lies under a screw.", Undo: "Part the battery's plug, the first thing once the cover is off.", joined: []string{"the battery"}}, tags: "battery-in", follows: follows, precedes: "closing"})
	}
}

// inside is all that the battery is parted before.
const inside = "inside cut supplies leads cables route card served"

func served(m *maker) {
	if !m.usedHost() || !m.opens() {
		return
	}
	do := "Serve the used host: dust out, new paste, the cooler's screws crosswise, bent panels straight, the intrusion switch and the caddies there."
	for i := range m.r.Host.Checks {
		if state := m.r.Host.Checks[i].State; rig.Is(state, "missing") || rig.Is(state, "broken") {
			do += fmt.Sprintf(" %s is %s: replace it.", finding.Begin(m.r.Host.Checks[i].Name), state.Value)
		}
	}
	m.add(row{Step: Step{ID: "serve-host", Do: do, Place: Top, Tools: []string{"brush", "thermal paste", crossDriver}, Minutes: [2]float64{15, 45}, where: "/host/condition",
		RightWhen: "Its fan turns freely and nothing is loose."}, tags: "served", follows: "covers-off bare", precedes: "inside"})
}

func obstacles(m *maker) {
	for i := range m.r.Chamber.Things {
		t := &m.r.Chamber.Things[i]
		if !t.Out {
			continue
		}
		m.leaves(t.Name, "the card stands in its place")
		m.add(row{Step: Step{ID: "out-" + slug(t.Name), Do: "Take " + t.Name + " out.", Place: Top, Parts: []string{t.Name}, Tools: []string{crossDriver}, Minutes: [2]float64{2, 10}, where: rig.ThingPath(i),
			RightWhen: "Its place is free, and its leads cannot touch anything.", Undo: "Put " + t.Name + " back.", parted: []string{t.Name}}, tags: "inside cleared lifted-" + slug(t.Name), follows: "covers-off bare" + lifted(t.Under), precedes: "card"})
	}
}

// occupants leave their slots and go to their new places.
func occupants(m *maker) {
	slot := m.r.Slot(m.r.Route.Slot)
	leaves := map[string]bool{}
	leave := func(s *rig.Slot, name string) {
		if s == nil || name == "" || leaves[name] {
			return
		}
		leaves[name] = true
		tools, screws, parted, cautions := []string{crossDriver}, []string(nil), []string{name}, []string(nil)
		undo := fmt.Sprintf("Put %s back into %s.", name, s.Name)
		if rig.Is(s.Form, rig.M2) {
			screws = []string{"M2 × 3, 1"}
		}
		if m.wireless(name) {
			cautions = []string{"Park its antenna leads and tape their ends: bare, they short what they touch."}
			tools, parted = append(tools, "insulating tape"), append(parted, antennas(name))
			undo += " Press its antenna leads on again, each where it was."
		}
		m.homeless(name, s)
		m.add(row{Step: Step{ID: "leave-" + slug(name), Do: fmt.Sprintf("Take %s out of %s.", name, s.Name), Place: m.side(s.Side), Parts: []string{name, s.Name}, Tools: tools, Minutes: [2]float64{2, 6}, Screws: screws, Cautions: cautions, where: rig.SlotPath(rig.IndexOf(m.r.Host.Slots, s)),
			RightWhen: "The slot is empty and its screw lies in the cup.", Undo: undo, parted: parted}, tags: "inside left left-" + slug(s.Name), follows: "covers-off bare cleared"})
	}
	if slot != nil && slot.Occupant.Known && slot.Occupant.Value != rig.NoOccupant {
		leave(slot, slot.Occupant.Value)
	}
	for i := range m.r.Route.Displaced {
		d := &m.r.Route.Displaced[i]
		for k := range m.r.Host.Slots {
			if rig.Is(m.r.Host.Slots[k].Occupant, d.Occupant) {
				leave(&m.r.Host.Slots[k], d.Occupant)
			}
		}
		m.home(i)
	}
}

// wireless reports an occupant with antennas.
func (m *maker) wireless(name string) bool {
	n := m.r.Network(name)
	return n != nil && !rig.Is(n.Kind, rig.Wire)
}

func antennas(name string) string { return "the antenna leads of " + name }

// moves reports an occupant that goes to its new place itself: in a slot of the host, or a
// drive that no other takes the place of.
func (m *maker) moves(d *rig.Displaced) bool {
	switch {
	case !d.Home.Known || d.Home.Value == rig.HomeNone:
		return false
	case m.r.Network(d.Occupant) != nil:
		return d.Home.Value == rig.HomeSlot
	}
	return !twoDrives(d)
}

// homeless tells what leaves a slot and finds no other place itself.
func (m *maker) homeless(name string, from *rig.Slot) {
	i := slices.IndexFunc(m.r.Route.Displaced, func(d rig.Displaced) bool { return d.Occupant == name })
	if i >= 0 && m.moves(&m.r.Route.Displaced[i]) {
		return
	}
	why := "the card's way begins in " + from.Name
	if i >= 0 && m.r.Drive(name) != nil && m.r.Route.Displaced[i].Home.Value != rig.HomeNone {
		why = "another drive takes its place; keep it as it is until all works"
	}
	m.leaves(name, why)
	if m.wireless(name) {
		m.leaves(antennas(name), name+" does not go back in; parked, with tape over their ends")
	}
}

// home puts what was displaced into its new place.
func (m *maker) home(i int) {
	d := &m.r.Route.Displaced[i]
	where, joined, what := fmt.Sprintf("/route/displaced/%d", i), []string{d.Occupant}, d.Occupant
	if !m.moves(d) {
		joined, what = nil, "the drive that takes the place of "+d.Occupant
	}
	switch {
	case !d.Home.Known || d.Home.Value == rig.HomeNone:
	case d.Home.Value == rig.HomeSlot && m.r.Slot(d.Slot) != nil:
		slot := m.r.Slot(d.Slot)
		do := fmt.Sprintf("Put %s into %s: %s", what, slot.Name, seatWords(slot.Form))
		if d.Adapter != "" {
			do = fmt.Sprintf("Put %s onto %s, and that into %s: %s", what, d.Adapter, slot.Name, seatWords(slot.Form))
		}
		if m.wireless(d.Occupant) {
			do, joined = do+" Press its antenna leads on again, each where it was.", append(joined, antennas(d.Occupant))
		}
		m.add(row{Step: Step{ID: "home-" + slug(d.Occupant), Do: do, Place: m.side(slot.Side), Parts: []string{d.Occupant, slot.Name}, Tools: []string{crossDriver}, Minutes: [2]float64{3, 8}, Screws: seatScrews(slot), where: where,
			RightWhen: "It sits even and no contact shows.", Undo: fmt.Sprintf("Take %s out of %s.", what, slot.Name), joined: joined}, tags: "inside homes", follows: "covers-off bare left-" + slug(slot.Name) + " leave-" + slug(d.Occupant), precedes: "first-start"})
	default:
		m.add(row{Step: Step{ID: "home-" + slug(d.Occupant), Do: m.newPlace(d), Place: Table, Parts: []string{d.Occupant}, Tools: enclosureFor(d), Minutes: [2]float64{2, 10}, where: where,
			RightWhen: "It is plugged in where it was seen to work.", joined: joined}, tags: "homes", follows: "leave-" + slug(d.Occupant), precedes: "first-start"})
	}
	if rig.Is(d.Method, rig.Installed) && m.r.Drive(d.Occupant) != nil && !rig.Is(d.Proven, true) {
		m.add(row{Step: Step{ID: "system-on-" + slug(d.Occupant), Do: "Install the system afresh on the new drive, the old one kept as it is until all works.", Place: System, Parts: []string{d.Occupant}, Tools: []string{"a stick of 16 GB with the installer"}, Minutes: [2]float64{25, 60},
			RightWhen: "It starts from the new drive without the installer."}, tags: "system", follows: "homes first-start", precedes: "driver-in"})
	}
}

// newPlace says how an occupant gets its place outside the slots.
func (m *maker) newPlace(d *rig.Displaced) string {
	drive := m.r.Drive(d.Occupant) != nil
	switch {
	case !drive:
		return fmt.Sprintf("Plug in what does the work of %s from now on: %s.", d.Occupant, rig.Spoken(d.Home.Value))
	case rig.Is(d.Method, rig.CarriedOver):
		return fmt.Sprintf("Give %s itself its new place, all that is on it as it is: %s.", d.Occupant, rig.Spoken(d.Home.Value))
	case twoDrives(d) && (d.Method.Known || rig.Is(d.Proven, true)):
		return fmt.Sprintf("Plug the drive that takes the place of %s into the very port it was seen to start on: %s.", d.Occupant, rig.Spoken(d.Home.Value))
	}
	return fmt.Sprintf("Give %s its new place: %s.", d.Occupant, rig.Spoken(d.Home.Value))
}

// enclosureFor is what a drive outside the host stands in.
func enclosureFor(d *rig.Displaced) []string {
	if d.Home.Value == rig.HomeUSB {
		return []string{"an enclosure for the drive"}
	}
	return nil
}

// seatWords say how a module or a board goes into a slot of a form.
func seatWords(form rig.Fact[rig.Form]) string {
	switch form.Value {
	case rig.M2:
		return "in at a slant, pressed flat, screwed down."
	case rig.MiniPCIe, rig.MSATA:
		return "in at a slant, pressed flat until its clips or screws hold it."
	case rig.CardSlot:
		return "straight down, and its bracket screwed on."
	case rig.OCuLink:
		return "its plug straight in until it clicks."
	}
	return "pushed home, and fastened as it is made for."
}

func seatScrews(slot *rig.Slot) []string {
	if rig.Is(slot.Form, rig.M2) {
		return []string{"M2 × 3, 1"}
	}
	return nil
}

func brackets(m *maker) {
	fitted, takes := m.r.Card.Bracket.Height, m.r.Chamber.Opening.Height
	if !m.r.Chamber.Open && fitted.Known && takes.Known && takes.Value != rig.NoBracket && fitted.Value != takes.Value && rig.Is(m.r.Card.Bracket.Spare, takes.Value) {
		m.add(row{Step: Step{ID: "bracket-card", Do: fmt.Sprintf("Change the card's bracket for the %s one.", rig.Spoken(takes.Value)), Place: Table, Parts: []string{quoted(m.r.Card.Name, "card")}, Tools: []string{crossDriver}, Minutes: [2]float64{5, 30}, where: "/card/bracket",
			RightWhen: "All its screws hold, none of the cooler's was touched.", Undo: "Change the card's bracket back."}, tags: "bracket", precedes: "card"})
	}
}

// adapters are what is seated before a cable is laid: each adapter and riser, and whatever
// begins the route as a module in a slot of the host.
func adapters(m *maker) {
	slot := m.r.Slot(m.r.Route.Slot)
	for i := range m.r.Route.Stages {
		s := &m.r.Route.Stages[i]
		seated := i == 0 && slot != nil && (rig.Is(slot.Form, rig.M2) || rig.Is(slot.Form, rig.MiniPCIe))
		if !seated && !rig.Is(s.Kind, rig.Adapter) && !rig.Is(s.Kind, rig.Riser) && (i > 0 || rig.Is(s.Kind, rig.Cable) || rig.Is(s.Kind, rig.Dock)) {
			continue
		}
		name, place, screws, into, form := s.Name, Dock, []string(nil), "its place", s.Plug.Form
		switch {
		case i > 0:
			into = m.r.Route.Stages[i-1].Name
		case slot != nil:
			place, into, screws, form = m.side(slot.Side), slot.Name, seatScrews(slot), slot.Form
		}
		if seated && !rig.Is(s.Kind, rig.Adapter) {
			name = "the module of " + s.Name
		}
		if rig.Is(s.MayCut, true) && s.Module.Known {
			m.add(row{Step: Step{ID: "shorten-" + slug(s.Name), Do: "Shorten the module of " + s.Name + " at its mark, if the slot is shorter.", Place: Table, Tools: []string{"fine saw", "safety glasses"}, Minutes: [2]float64{5, 15}, Permanent: true, where: rig.StagePath(i),
				RightWhen: "No trace is cut, and its edge is smooth."}, tags: "cut", precedes: "seat-" + slug(s.Name)})
		}
		m.add(row{Step: Step{ID: "seat-" + slug(s.Name), Do: fmt.Sprintf("Put %s into %s: %s", name, into, seatWords(form)), Place: place, Parts: []string{s.Name}, Tools: []string{crossDriver}, Minutes: [2]float64{2, 8}, Screws: screws, Cautions: screenCaution(s), where: rig.StagePath(i),
			RightWhen: "It sits even, no contact shows, and it does not move.", Undo: "Take " + s.Name + " out of " + into + "."}, tags: "inside route link", follows: "off covers-off bare left cleared served", precedes: "cables card dock-" + slug(s.Name)})
	}
}

// screenCaution is for what carries the link through plugs made for screens.
func screenCaution(s *rig.Stage) []string {
	if rig.Is(s.Plug.Form, rig.Video) || rig.Is(s.Socket.Form, rig.Video) {
		return []string{"Its plug looks like a screen's and is not: never into a screen, nor a screen's cable into it."}
	}
	return nil
}

// cables are laid before what would trap them.
func cables(m *maker) {
	for i := range m.r.Route.Stages {
		s := &m.r.Route.Stages[i]
		if !rig.Is(s.Kind, rig.Cable) {
			continue
		}
		out := "to the dock"
		switch s.Exit.Value {
		case "opening", "cut":
			out = "out through its opening"
		case "raised-cover":
			out = "out under the cover that is raised"
		case "cover-off":
			out = "out where the cover stays off"
		}
		m.add(row{Step: Step{ID: "lay-" + slug(s.Name), Do: fmt.Sprintf("Lay %s %s, without a kink, and push both its plugs home.", s.Name, out), Place: m.startSide(), Parts: []string{s.Name}, Minutes: [2]float64{3, 10}, Cautions: screenCaution(s), where: rig.StagePath(i),
			RightWhen: "Both plugs click or sit even all along, and it hangs without a pull.", Undo: "Part " + s.Name + "."}, tags: "route link cables", follows: "off covers-off bare", precedes: "closing"})
	}
}

// startSide is the side of the host that the route starts on.
func (m *maker) startSide() Place {
	if slot := m.r.Slot(m.r.Route.Slot); slot != nil {
		return m.side(slot.Side)
	}
	return m.side(rig.Fact[rig.Side]{})
}

func docks(m *maker) {
	for i := range m.r.Route.Stages {
		s := &m.r.Route.Stages[i]
		if !rig.Is(s.Kind, rig.Dock) {
			continue
		}
		place := Dock
		if i == 0 && !m.tunnelled() {
			place = m.startSide()
		}
		do := "Stand " + s.Name + " where it cannot tip, on something that does not conduct, and join it to the route."
		if m.short() && rig.Is(m.r.Card.BuiltIn, true) {
			do = "Stand " + s.Name + " where it can breathe, plug its own supply in, and join its cable to " + m.r.Route.Slot + "."
		}
		m.add(row{Step: Step{ID: "dock-" + slug(s.Name), Do: do, Place: place, Parts: []string{s.Name}, Minutes: [2]float64{3, 10}, Cautions: screenCaution(s), where: rig.StagePath(i),
			RightWhen: "It stands firm and its plug sits even.", Undo: "Part " + s.Name + " from the route."}, tags: "route link dock", follows: "off covers-off bare left cables", precedes: "card"})
	}
}

func supplies(m *maker) {
	for i := range m.r.Supplies {
		s := &m.r.Supplies[i]
		switch {
		case rig.Is(s.InBay, true):
			m.leaves(hostSupply, s.Name+" stands in its bay")
			m.add(row{Step: Step{ID: "supply-" + slug(s.Name), Do: "Take the host's own supply out and put " + s.Name + " into the bay.", Place: Top, Parts: []string{s.Name}, Tools: []string{crossDriver}, Minutes: [2]float64{10, 30}, Screws: []string{"6-32 × 6.4, 4"}, where: rig.SupplyPath(i),
				Cautions: []string{"Its mains plug out, and a few minutes' wait."}, RightWhen: "All its screws hold and its fan can breathe.", Undo: "Put the host's own supply back.", parted: []string{hostSupply}}, tags: "supplies inside", follows: "covers-off bare cleared", precedes: "leads"})
		case s.Name == m.r.Host.Supply, m.short() && m.ofBox(s.Name):
		default:
			at, right := "its mains plug out", "Nothing covers it."
			if power.WaitsToBeSwitched(s) {
				at, right = "its switch at 0, its mains plug out", "Nothing covers its fan."
			}
			m.add(row{Step: Step{ID: "supply-" + slug(s.Name), Do: "Stand " + s.Name + " where its leads reach without a pull, " + at + ".", Place: Dock, Parts: []string{s.Name}, Minutes: [2]float64{1, 4}, where: rig.SupplyPath(i),
				RightWhen: right}, tags: "supplies", follows: "off", precedes: "leads"})
		}
		m.turnOn(i)
	}
}

// hostSupply is what the host came with.
const hostSupply = "the host's own supply"

// ofBox reports the supply that came with a box of the route.
func (m *maker) ofBox(supply string) bool {
	return slices.ContainsFunc(m.r.Route.Stages, func(s rig.Stage) bool { return s.Supply == supply })
}

// turnOn is what switches a supply on, put in.
func (m *maker) turnOn(i int) {
	s := &m.r.Supplies[i]
	do := map[rig.TurnOn]string{
		rig.TurnOnJumper: "Put the made jumper plug into the main plug of %s.",
		rig.TurnOnSwitch: "Plug the switch-on board that follows the host into %s and into the host.",
		"wire":           "Join the turn-on contact (PS_ON, green) of %s with a ground (black) beside it, insulated; a made plug is better.",
	}[s.TurnOn.Value]
	if do == "" || !power.WaitsToBeSwitched(s) || m.short() && m.ofBox(s.Name) {
		return
	}
	caution := "Only the turn-on contact and a ground: any other pair is a short, or 12 V on a wire that is not made for it. Check by its number and with the meter, mains off."
	if rig.Is(s.TurnOn, rig.TurnOnSwitch) {
		caution = "Mains off. Only the plug that the board was made for: any other bridges pins that are not meant to meet."
	}
	m.add(row{Step: Step{ID: "turn-on-" + slug(s.Name), Do: fmt.Sprintf(do, s.Name), Place: Dock, Parts: []string{s.Name}, Tools: []string{meter}, Minutes: [2]float64{2, 6}, where: rig.SupplyPath(i) + "/turn_on",
		Cautions: []string{caution}, RightWhen: "The plug goes in one way, and nothing bare shows.", Undo: "Take what switches " + s.Name + " on out again."},
		tags: "leads", follows: "off supply-" + slug(s.Name), precedes: "first-start"})
}

// harnesses that one makes are measured line by line before they are plugged in.
func harnesses(m *maker) {
	for i := range m.r.Leads {
		l := &m.r.Leads[i]
		if len(l.Wires) == 0 {
			continue
		}
		m.add(row{Step: Step{ID: "meter-" + slug(l.Name), Do: fmt.Sprintf("Measure %s by its meter list, every line of it, before it touches a supply.", l.Name), Place: Table, Parts: []string{l.Name}, Tools: []string{meter}, Minutes: [2]float64{10, 25}, where: rig.LeadPath(i),
			Cautions: []string{"A wire on the wrong pin burns card or dock at the first switch-on. Hot iron: let it cool in its stand."}, RightWhen: fmt.Sprintf("All %d lines are ticked.", len(m.net.MeterList(i)))}, tags: "metered", precedes: "lead-" + slug(l.Name)})
	}
}

func leads(m *maker) {
	for i := range m.r.Leads {
		l := &m.r.Leads[i]
		var into []string
		toCard, toHost := false, false
		for _, end := range l.To {
			name := end.Part
			switch end.Part {
			case rig.CardPart:
				toCard, name = true, "the card"
			case rig.HostPart:
				toHost, name = true, "the host"
			}
			if name != "" && !slices.Contains(into, name) {
				into = append(into, name)
			}
		}
		to := strings.Join(into, " and ")
		if to == "" || toHost && m.ownLead(l) {
			continue
		}
		place, tags, follows := Dock, "leads under-card", "off supplies"
		if toHost || toCard && !m.hasDock() {
			place, follows = Top, follows+" covers-off bare"
		}
		if toCard {
			tags, follows = "leads card-leads", follows+" card"
		}
		how, right := m.plugWords(i)
		cautions := []string{"Never force a plug."}
		if m.lookalikes(i) {
			cautions = []string{"Two plugs within reach look alike: compare the faces before pushing. Never force a plug."}
		}
		m.add(row{Step: Step{ID: "lead-" + slug(l.Name), Do: fmt.Sprintf("Plug %s into %s, %s.", l.Name, to, how), Place: place, Parts: []string{l.Name}, Minutes: [2]float64{1, 4}, where: rig.LeadPath(i),
			Cautions: cautions, RightWhen: right, Undo: "Take " + l.Name + " off."}, tags: tags, follows: follows, precedes: "first-start"})
	}
}

// plugWords say how the plugs of a lead go in, and when they are home: a latch only where
// its kind has one.
func (m *maker) plugWords(lead int) (how, right string) {
	for j := range m.net.Leads[lead].To {
		switch m.ref.Kind(m.net.Leads[lead].To[j].Plug).Shell {
		case "latch":
			return "latch over latch", "Its latch clicks, and it does not come off at a light pull."
		case "round":
			return "straight in to its collar", "It sits to its collar and does not come off by its own weight."
		}
	}
	return "the right way round and all the way in", "It sits even all along, and does not come off at a light pull."
}

// lookalikes reports a lead whose plugs would go into something within reach that they are
// not made for.
func (m *maker) lookalikes(lead int) bool {
	within := m.sockets()
	for _, ends := range [...][]power.EndLoad{m.net.Leads[lead].From, m.net.Leads[lead].To} {
		for j := range ends {
			for _, socket := range within {
				if mating, enters := m.ref.Enters(ends[j].Plug, socket); enters && mating.Lookalike {
					return true
				}
			}
		}
	}
	return false
}

// sockets are all that a plug could be pushed into.
func (m *maker) sockets() (list []rig.Connector) {
	add := func(c rig.Fact[rig.Connector]) {
		if c.Known && !slices.Contains(list, c.Value) {
			list = append(list, c.Value)
		}
	}
	for i := range m.r.Card.Plugs {
		add(m.r.Card.Plugs[i].Connector)
	}
	for i := range m.r.Host.Inlets {
		add(m.r.Host.Inlets[i].Connector)
	}
	for i := range m.r.Route.Stages {
		for k := range m.r.Route.Stages[i].Inlets {
			add(m.r.Route.Stages[i].Inlets[k].Connector)
		}
	}
	for i := range m.r.Supplies {
		for k := range m.r.Supplies[i].Outlets {
			add(m.r.Supplies[i].Outlets[k].Connector)
		}
	}
	return list
}

// ownLead reports a lead of the host's own supply, which stays where it is.
func (m *maker) ownLead(l *rig.Lead) bool {
	for _, end := range l.From {
		if s := m.r.Supply(end.Part); s == nil || s.Name != m.r.Host.Supply || rig.Is(s.InBay, true) {
			return false
		}
	}
	return true
}

func card(m *maker) {
	if rig.Is(m.r.Card.BuiltIn, true) {
		return
	}
	name, place := quoted(m.r.Card.Name, "the card"), Dock
	if !m.hasDock() {
		place = Top
	}
	cautions := []string{"Hold it by its edges; mind the blades of its fans."}
	if mass := m.r.Card.Mass; mass.Known && mass.Value > 800 {
		cautions = append(cautions, fmt.Sprintf("It weighs %v: one hand under it until its screw and its support hold.", mass.Value))
	}
	if rig.Is(m.r.Build.TestCard, true) || slices.Contains(m.r.Build.AtHand, "a test card") {
		m.add(row{Step: Step{ID: "test-card", Do: "Put the cheap test card in first, start once, and see it in the device list; then off again.", Place: place, Parts: []string{"test card"}, Minutes: [2]float64{10, 25}, where: "/build/test_card",
			RightWhen: "The test card is in the list.", Undo: ""}, tags: "tested", follows: "route under-card supplies homes", precedes: "card"})
	}
	do, right, screws := "Put "+name+" into its slot, straight down, and set its bracket screw.", "The slot's latch clicks, its edge sits even, and the screw holds it.", []string{"6-32 × 6.4, 1"}
	if form := m.r.Card.EdgeForm(); form != rig.CardSlot {
		do, right, screws = "Put "+name+" into its slot: "+seatWords(rig.Of(form)), "It sits even, no contact shows, and it does not move.", nil
	}
	m.add(row{Step: Step{ID: "card", Do: do, Place: place, Parts: []string{name}, Tools: []string{crossDriver}, Minutes: [2]float64{3, 8}, Screws: screws, Cautions: cautions, where: "/card",
		RightWhen: right, Undo: "Take " + name + " out: screw, latch, then straight up."}, tags: "card link", follows: "off covers-off bare cleared cables under-card bracket", precedes: "first-start"})
}

func firstStart(m *maker) {
	follows := "card card-leads leads route homes left supplies test-card off served"
	for i := range m.r.Chamber.Covers {
		if v := &m.r.Chamber.Covers[i]; m.closesFirst(v) {
			follows += " on-" + slug(v.Name)
		}
	}
	says, right := "Start it in the open for the first time", "The card's fans turned once, the host starts."
	cautions := []string{"Hands, metal and loose screws away from the open board. Leave it dark for three minutes before you worry: after mains was off the first start may take that long.", "One change at a time from here on."}
	if m.hasLamp() {
		right = "The dock's lamp is on, the card's fans turned once, the host starts."
	}
	if m.short() {
		says, cautions = "Switch it on for the first time", []string{"Leave it dark for three minutes before you worry.", "One change at a time from here on."}
	}
	if best, found := safest(OrdersOf(m.r, m.ref)); found {
		says += map[bool]string{true: ", ", false: ", switched on in this order: "}[m.short()] + orderWords[best.Order]
	}
	m.add(row{Step: Step{ID: "first-start", Do: says + ".", Place: Table, Minutes: [2]float64{5, 15}, where: "/sizing/switch_on",
		Cautions: cautions, RightWhen: right},
		tags: "first-start on", follows: follows})
}

// hasLamp reports a dock whose lamp tells that it has power.
func (m *maker) hasLamp() bool {
	return slices.ContainsFunc(m.r.Route.Stages, func(s rig.Stage) bool { return rig.Is(s.Kind, rig.Dock) && s.Lamp.Or(true) })
}

// closesFirst reports a cover without which the host is not started: its fan or its switch.
func (m *maker) closesFirst(v *rig.Cover) bool {
	return (rig.Is(v.Cools, true) || rig.Is(v.Switch, true)) && !m.outside() && !m.staysOff(v)
}

func (m *maker) staysOff(v *rig.Cover) bool {
	for _, name := range m.r.Brief.CoversOff {
		if name == v.Name {
			return true
		}
	}
	return false
}

func proofs(m *maker) {
	m.add(row{Step: Step{ID: "install-driver", Do: "Put the card's driver in and restart.", Place: System, Parts: []string{quoted(m.r.Card.Name, "card")}, Minutes: [2]float64{5, 20}, where: "/card/driver",
		Cautions: []string{"The picture may stay dark for minutes and then move over to the card."}, RightWhen: "The device list names the card without a mark.", Undo: "Take the card's driver off the system."}, tags: "driver-in", follows: "first-start"})
	planned := "the width and the speed that are planned"
	if m.plan.WidthKnown && m.plan.Gen > 0 {
		planned = fmt.Sprintf("x%d at Gen %d", m.plan.Width, m.plan.Gen)
	}
	if m.short() {
		m.add(row{Step: Step{ID: "prove-link", Do: "Prove it: read width and speed of the link under the heaviest use, ten minutes, and feel the box and its supply.", Place: System, Minutes: [2]float64{12, 20}, where: "/route/readings",
			Cautions: []string{"At idle a link may rest at a lower speed: only load tells it."}, RightWhen: "It reads " + planned + " under load, nothing trips, and all stays cool enough to hold."}, tags: "proven", follows: "driver-in first-start"})
		return
	}
	m.add(row{Step: Step{ID: "prove-link", Do: "Prove the link: read its width at idle, its speed under load, and its errors over ten minutes.", Place: System, Minutes: [2]float64{15, 25}, where: "/route/readings",
		Cautions: []string{"At idle a link may rest at a lower speed: only load tells it."}, RightWhen: "It reads " + planned + " under load, and no errors are counted."}, tags: "proven", follows: "driver-in first-start"})
	m.add(row{Step: Step{ID: "prove-power", Do: "Prove the power in steps: capped, uncapped, then the heaviest use, ten minutes each; feel every plug and read the watts at the wall.", Place: System, Tools: []string{"wall meter"}, Minutes: [2]float64{30, 45}, where: "/supplies",
		Cautions: []string{"A plug too hot to hold: off at once, at the mains."}, RightWhen: "Nothing trips, and every plug stays cool enough to hold."}, tags: "proven", follows: "prove-link"})
}

// closing puts covers back on, once the link is proven; the one with the host's fan goes
// on before the first start.
func closing(m *maker) {
	if !m.opens() {
		return
	}
	m.add(row{Step: Step{ID: "power-off-again", Do: "Shut down, switch off and pull the mains plugs again.", Place: Table, Minutes: [2]float64{2, 3}, RightWhen: "No lamp is on anywhere."}, tags: "off-again", follows: "proven", precedes: "covers-on"})
	switch {
	case len(m.r.Chamber.Covers) > 0 && !m.outside() || m.bare():
	case m.coverOff():
		m.leaves(hostCover, "the cable leaves the host where it was")
	default:
		m.add(row{Step: Step{ID: "close-host", Do: "Put the host's cover back on, the cable without a pinch.", Place: m.startSide(), Tools: []string{crossDriver}, Minutes: [2]float64{2, 10}, where: "/host", RightWhen: "It closes without force.", joined: []string{hostCover}}, tags: "closing covers-on", follows: "open proven off-again"})
	}
	for i := range m.r.Chamber.Covers {
		v := &m.r.Chamber.Covers[i]
		if m.outside() {
			continue
		}
		tie := tieOf(v)
		if m.staysOff(v) {
			m.leaves(v.Name, "the brief lets it stay off")
			if tie != "" {
				m.leaves(tie+" of "+v.Name, "it belongs to the cover; tied up, with tape over its end")
			}
			continue
		}
		tags, follows := "closing covers-on", "open proven off-again"
		if m.closesFirst(v) {
			tags, follows = "closing", "card card-leads leads cables open"
		}
		do := "Put " + v.Name + " back on."
		if v.Raised.Value > 0 {
			do = fmt.Sprintf("Put %s back on, on its stand-offs of %v, with the longer screws.", v.Name, v.Raised.Value)
		}
		joined := []string{v.Name}
		if tie != "" {
			do, joined = do+" Join "+tie+" first, the way round it was marked.", append(joined, tie+" of "+v.Name)
		}
		over := ""
		for _, name := range v.Under {
			over += " on-" + slug(name)
		}
		m.add(row{Step: Step{ID: "on-" + slug(v.Name), Do: do, Place: m.side(v.Side), Parts: []string{v.Name}, Tools: []string{crossDriver}, Minutes: [2]float64{1, 6}, Screws: longScrews(m.r, i), where: rig.CoverPath(i), RightWhen: "It closes without force and pinches nothing.", joined: joined}, tags: tags, follows: follows + " off-" + slug(v.Name), precedes: over})
	}
	m.add(row{Step: Step{ID: "tie-cables", Do: "Tie the cables down within a hand's breadth of their plugs, and note what it took.", Place: Dock, Tools: []string{"cable ties"}, Minutes: [2]float64{5, 15}, RightWhen: "A tug at a cable moves no plug."}, tags: "tidy", follows: "proven off-again"})
}

// coverOff reports a cable that leaves where a cover was.
func (m *maker) coverOff() bool {
	return slices.ContainsFunc(m.r.Route.Stages, func(s rig.Stage) bool { return rig.Is(s.Exit, "cover-off") })
}

// layAside tells what was parted and stays off, each with why.
func layAside(m *maker) {
	if len(m.left) == 0 {
		return
	}
	list := make([]string, len(m.left))
	for i, l := range m.left {
		list[i] = l.Name + " (" + l.Why + ")"
	}
	m.add(row{Step: Step{ID: "lay-aside", Do: "Lay aside, labelled and with its screws, what stays off: " + strings.Join(list, "; ") + ".", Place: Table, Minutes: [2]float64{2, 6}, left: m.left,
		RightWhen: "All of it lies in one box, for the way back."}, tags: "tidy", follows: "proven off-again"})
}

func longScrews(r *rig.Rig, cover int) []string {
	for _, l := range fit.ScrewsOf(r) {
		if l.Cover == cover && l.Stock > 0 {
			return []string{fmt.Sprintf("%s × %s", quoted(string(r.Chamber.Covers[cover].Screw.Thread.Value), "screw"), units.Trim(float64(l.Stock), 1))}
		}
	}
	return screwsOf(&r.Chamber.Covers[cover])
}
