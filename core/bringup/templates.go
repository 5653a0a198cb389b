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
}

const (
	crossDriver = "small cross driver"
	cloth       = "soft cloth"
	meter       = "meter"
)

const cautionOff = "Both sides off, standby too: the mains plug out, the lamp on the board dark."

func data(m *maker) {
	m.add(row{Step: Step{ID: "save-data", Do: "Copy what is on the host's drives to somewhere else, and open one file of the copy.", Place: System, Tools: []string{"a drive for the copy"}, Minutes: [2]float64{15, 60},
		RightWhen: "A file opens from the copy."}, tags: "prepare"})
	if !rig.Is(m.r.Host.Locked, false) {
		m.add(row{Step: Step{ID: "suspend-encryption", Do: "Suspend the disk's encryption, and write its recovery key down on paper.", Place: System, Minutes: [2]float64{3, 10}, where: "/host/disk_encrypted",
			Cautions: []string{"A changed firmware setting or a new card can make the system ask for the key."}, RightWhen: "The system says that protection is suspended, and the key lies on the table.", Undo: "Resume the disk's encryption."}, tags: "prepare", follows: "save-data"})
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
		if rig.Is(d.Method, "cloned") {
			m.add(row{Step: Step{ID: "clone-" + slug(drive.Name), Do: "Clone the system of " + drive.Name + " onto the drive that takes its place.", Place: System, Parts: []string{drive.Name}, Tools: []string{"an enclosure for the new drive"}, Minutes: [2]float64{20, 90},
				RightWhen: "The clone ends without an error."}, tags: "prepare clone", follows: "save-data suspend-encryption"})
		}
		if d.Home.Value == rig.HomeSlot || rig.Is(d.Proven, true) || rig.Is(drive.Boots, false) {
			continue
		}
		m.add(row{Step: Step{ID: "prove-" + slug(drive.Name), Do: "See the system start from the new drive at the " + rig.Spoken(d.Home.Value) + " it will use, with the old one still in.", Place: System, Parts: []string{drive.Name}, Minutes: [2]float64{5, 15}, where: fmt.Sprintf("/route/displaced/%d/proven", i),
			Cautions: []string{"On the very port it will use: another port may not start."}, RightWhen: "The system is up, and says that it started from the new drive."}, tags: "prepare", follows: "save-data clone"})
	}
}

func photographs(m *maker) {
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
	if m.battery() {
		m.add(row{Step: Step{ID: "battery-off", Do: "Switch the battery off in the firmware, where it has a page for that.", Place: Firmware, Minutes: [2]float64{1, 3}, where: "/host/kind",
			RightWhen: "The host goes dark and starts only with the mains brick.", Undo: "Plug the mains brick in: that wakes the battery."}, tags: "prepare battery-off", follows: "save-data suspend-encryption photographs fetch-drivers setting clone compare-listing"})
	}
}

func (m *maker) battery() bool { return rig.Is(m.r.Host.Kind, "notebook") }

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
			Cautions: []string{"Take out what is behind first; no filings near a board. Glasses on, cut away from the hand."}, RightWhen: "The connector passes, and no edge is sharp."}, tags: "cut", follows: "covers-off served", precedes: "route closing"})
	}
}

func prints(m *maker) {
	for i := range m.r.Chamber.Covers {
		if v := &m.r.Chamber.Covers[i]; v.Raised.Value > 0 {
			m.add(row{Step: Step{ID: "print-stand-offs-" + slug(v.Name), Do: fmt.Sprintf("Print the stand-offs of %s, %v high, and try one on.", v.Name, v.Raised.Value), Place: Table, Tools: []string{"printer"}, Parts: []string{v.Name}, Minutes: [2]float64{40, 150}, where: rig.CoverPath(i) + "/raised_mm",
				RightWhen: "A screw runs through it, and it stands even. There is time to print it once more."}, tags: "print", precedes: "closing"})
		}
	}
}

func mains(m *maker) {
	m.add(row{Step: Step{ID: "power-off", Do: "Switch off and pull the mains plug of host and dock; hold the power button for ten seconds; touch bare metal that is earthed.", Place: Table, Minutes: [2]float64{2, 4},
		Cautions: []string{"A lamp on the board glows while standby is there. Never open a supply."}, RightWhen: "No lamp is on anywhere."}, tags: "off", follows: "prepare"})
}

func side(f rig.Fact[rig.Side]) Place {
	if rig.Is(f, rig.SideUnder) {
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
		place := Top
		if slot := m.r.Slot(m.r.Route.Slot); slot != nil {
			place = side(slot.Side)
		}
		m.add(row{Step: Step{ID: "open-host", Do: "Take the host's cover off.", Place: place, Tools: []string{crossDriver, cloth}, Minutes: [2]float64{2, 10}, where: "/host",
			Cautions: []string{"Lift it a little first: a ribbon or a lead may hold it."}, RightWhen: "The slot lies bare.", Undo: "Put the host's cover back on."}, tags: "covers-off open", follows: "off"})
		return
	}
	for i := range m.r.Chamber.Covers {
		v := &m.r.Chamber.Covers[i]
		cautions := []string{"Lift it a little first: a ribbon or a lead may hold it."}
		if rig.Is(v.Tether, true) {
			cautions = []string{"A ribbon or a lead ties it: part that first, and mark which way round it goes."}
		}
		m.add(row{Step: Step{ID: "off-" + slug(v.Name), Do: "Take " + v.Name + " off.", Place: side(v.Side), Parts: []string{v.Name}, Tools: []string{crossDriver, cloth}, Minutes: [2]float64{1, 5}, Screws: screwsOf(v), Cautions: cautions, where: rig.CoverPath(i),
			RightWhen: "It lies beside the host, with its screws in a cup.", Undo: "Put " + v.Name + " back on."}, tags: "covers-off open lifted-" + slug(v.Name), follows: "off " + lifted(v.Under)})
	}
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

func battery(m *maker) {
	if m.battery() && m.opens() {
		m.add(row{Step: Step{ID: "unplug-battery", Do: "Part the battery's plug from the board, the first thing once the cover is off.", Place: Underside, Tools: []string{"plastic pick"}, Minutes: [2]float64{1, 3}, where: "/host/kind",
			Cautions: []string{"Pull at the plug and never at its wires; a battery that is bent or pierced burns."}, RightWhen: "The plug is free and cannot touch the board.", Undo: "Plug the battery in, the last thing before the cover."}, tags: "bare", follows: "covers-off", precedes: "inside"})
		// What is parted is joined again: last of all inside, before any cover goes on.
		follows := "bare proven off-again"
		if slices.ContainsFunc(m.r.Chamber.Covers, func(v rig.Cover) bool { return m.closesFirst(&v) }) {
			follows = "bare card card-leads leads cables"
		}
		m.add(row{Step: Step{ID: "plug-battery", Do: "Plug the battery in again, the last thing before the cover goes on.", Place: Underside, Minutes: [2]float64{1, 2}, where: "/host/kind",
			Cautions: []string{"The mains brick is out, and nothing metal lies on the board: from here on it has power."}, RightWhen: "The plug is home, and no wire lies under a screw.", Undo: "Part the battery's plug, the first thing once the cover is off."}, tags: "battery-in", follows: follows, precedes: "closing"})
	}
}

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
		m.add(row{Step: Step{ID: "out-" + slug(t.Name), Do: "Take " + t.Name + " out.", Place: Top, Parts: []string{t.Name}, Tools: []string{crossDriver}, Minutes: [2]float64{2, 10}, where: rig.ThingPath(i),
			RightWhen: "Its place is free, and its leads cannot touch anything.", Undo: "Put " + t.Name + " back."}, tags: "inside cleared lifted-" + slug(t.Name), follows: "covers-off bare" + lifted(t.Under), precedes: "card"})
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
		caution, tools, screws := cautionOff, []string{crossDriver}, []string(nil)
		if rig.Is(s.Form, rig.M2) {
			screws = []string{"M2 × 3, 1"}
		}
		if m.r.Network(name) != nil {
			caution = "Park its antenna leads and tape their ends: bare, they short what they touch."
			tools = append(tools, "insulating tape")
		}
		m.add(row{Step: Step{ID: "leave-" + slug(name), Do: fmt.Sprintf("Take %s out of %s.", name, s.Name), Place: side(s.Side), Parts: []string{name, s.Name}, Tools: tools, Minutes: [2]float64{2, 6}, Screws: screws, Cautions: []string{caution}, where: rig.SlotPath(rig.IndexOf(m.r.Host.Slots, s)),
			RightWhen: "The slot is empty and its screw lies in the cup.", Undo: fmt.Sprintf("Put %s back into %s.", name, s.Name)}, tags: "inside left left-" + slug(s.Name), follows: "covers-off bare cleared"})
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

// home puts what was displaced into its new place.
func (m *maker) home(i int) {
	d := &m.r.Route.Displaced[i]
	switch {
	case !d.Home.Known || d.Home.Value == rig.HomeNone:
	case d.Home.Value == rig.HomeSlot && m.r.Slot(d.Slot) != nil:
		slot := m.r.Slot(d.Slot)
		m.add(row{Step: Step{ID: "home-" + slug(d.Occupant), Do: fmt.Sprintf("Put %s into %s: in at a slant, pressed flat, screwed down.", d.Occupant, slot.Name), Place: side(slot.Side), Parts: []string{d.Occupant, slot.Name}, Tools: []string{crossDriver}, Minutes: [2]float64{3, 8}, Screws: []string{"M2 × 3, 1"}, Cautions: []string{cautionOff}, where: fmt.Sprintf("/route/displaced/%d", i),
			RightWhen: "It lies flat and no contact shows.", Undo: fmt.Sprintf("Take %s out of %s.", d.Occupant, slot.Name)}, tags: "inside homes", follows: "covers-off bare left-" + slug(slot.Name) + " leave-" + slug(d.Occupant), precedes: "first-start"})
	default:
		m.add(row{Step: Step{ID: "home-" + slug(d.Occupant), Do: fmt.Sprintf("Give %s its new place: %s.", d.Occupant, rig.Spoken(d.Home.Value)), Place: Table, Parts: []string{d.Occupant}, Minutes: [2]float64{2, 10}, where: fmt.Sprintf("/route/displaced/%d", i),
			RightWhen: "It is plugged in where it was seen to work."}, tags: "homes", follows: "leave-" + slug(d.Occupant), precedes: "first-start"})
	}
	if rig.Is(d.Method, "installed") && m.r.Drive(d.Occupant) != nil {
		m.add(row{Step: Step{ID: "system-on-" + slug(d.Occupant), Do: "Install the system afresh on the new drive, the old one kept as it is until all works.", Place: System, Parts: []string{d.Occupant}, Tools: []string{"installer on USB"}, Minutes: [2]float64{25, 60},
			RightWhen: "It starts from the new drive without the installer."}, tags: "system", follows: "homes first-start", precedes: "driver-in"})
	}
}

func brackets(m *maker) {
	fitted, takes := m.r.Card.Bracket.Height, m.r.Chamber.Opening.Height
	if !m.r.Chamber.Open && fitted.Known && takes.Known && takes.Value != rig.NoBracket && fitted.Value != takes.Value && rig.Is(m.r.Card.Bracket.Spare, takes.Value) {
		m.add(row{Step: Step{ID: "bracket-card", Do: fmt.Sprintf("Change the card's bracket for the %s one.", rig.Spoken(takes.Value)), Place: Table, Parts: []string{quoted(m.r.Card.Name, "card")}, Tools: []string{crossDriver}, Minutes: [2]float64{5, 30}, where: "/card/bracket",
			RightWhen: "All its screws hold, none of the cooler's was touched.", Undo: "Change the card's bracket back."}, tags: "bracket", precedes: "card"})
	}
}

func adapters(m *maker) {
	for i := range m.r.Route.Stages {
		s := &m.r.Route.Stages[i]
		if i > 0 && !rig.Is(s.Kind, rig.Adapter) && !rig.Is(s.Kind, rig.Riser) || i == 0 && rig.Is(s.Kind, rig.Cable) || rig.Is(s.Kind, rig.Dock) {
			continue
		}
		place, screws, into := Dock, []string(nil), "its place"
		if slot := m.r.Slot(m.r.Route.Slot); i == 0 && slot != nil {
			place, into = side(slot.Side), slot.Name
			if rig.Is(slot.Form, rig.M2) {
				screws = []string{"M2 × 3, 1"}
			}
		}
		if rig.Is(s.MayCut, true) && s.Module.Known {
			m.add(row{Step: Step{ID: "shorten-" + slug(s.Name), Do: "Shorten the module of " + s.Name + " at its mark, if the slot is shorter.", Place: Table, Tools: []string{"fine saw", "safety glasses"}, Minutes: [2]float64{5, 15}, Permanent: true, where: rig.StagePath(i),
				RightWhen: "No trace is cut, and its edge is smooth."}, tags: "cut", precedes: "seat-" + slug(s.Name)})
		}
		m.add(row{Step: Step{ID: "seat-" + slug(s.Name), Do: fmt.Sprintf("Put %s into %s, and screw it down.", s.Name, into), Place: place, Parts: []string{s.Name}, Tools: []string{crossDriver}, Minutes: [2]float64{2, 8}, Screws: screws, Cautions: []string{cautionOff}, where: rig.StagePath(i),
			RightWhen: "It lies flat, no contact shows, and it does not move.", Undo: "Take " + s.Name + " out of " + into + "."}, tags: "inside route link", follows: "off covers-off bare left cleared served", precedes: "cables card"})
	}
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
		m.add(row{Step: Step{ID: "lay-" + slug(s.Name), Do: fmt.Sprintf("Lay %s %s, without a kink, and push both its plugs home.", s.Name, out), Place: m.startSide(), Parts: []string{s.Name}, Minutes: [2]float64{3, 10}, Cautions: []string{cautionOff}, where: rig.StagePath(i),
			RightWhen: "Both plugs click or sit even all along, and it hangs without a pull.", Undo: "Part " + s.Name + "."}, tags: "route link cables", follows: "off covers-off bare", precedes: "closing"})
	}
}

// startSide is the side of the host that the route starts on.
func (m *maker) startSide() Place {
	if slot := m.r.Slot(m.r.Route.Slot); slot != nil {
		return side(slot.Side)
	}
	return Top
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
		cautions := []string{cautionOff}
		if m.tunnelled() {
			cautions = nil // the port is made for it
		}
		m.add(row{Step: Step{ID: "dock-" + slug(s.Name), Do: "Stand " + s.Name + " where it cannot tip, on something that does not conduct, and join it to the route.", Place: place, Parts: []string{s.Name}, Minutes: [2]float64{3, 10}, Cautions: cautions, where: rig.StagePath(i),
			RightWhen: "It stands firm and its plug sits even.", Undo: "Part " + s.Name + " from the route."}, tags: "route link dock", follows: "off covers-off bare left cables", precedes: "card"})
	}
}

func supplies(m *maker) {
	for i := range m.r.Supplies {
		s := &m.r.Supplies[i]
		switch {
		case rig.Is(s.InBay, true):
			m.add(row{Step: Step{ID: "supply-" + slug(s.Name), Do: "Take the host's own supply out and put " + s.Name + " into the bay.", Place: Top, Parts: []string{s.Name}, Tools: []string{crossDriver}, Minutes: [2]float64{10, 30}, Screws: []string{"6-32 × 6.4, 4"}, where: rig.SupplyPath(i),
				Cautions: []string{"Mains plug out, and wait a few minutes. Never open a supply."}, RightWhen: "All its screws hold and its fan can breathe.", Undo: "Put the host's own supply back."}, tags: "supplies inside", follows: "covers-off bare cleared", precedes: "leads"})
		case s.Name == m.r.Host.Supply:
		default:
			m.add(row{Step: Step{ID: "supply-" + slug(s.Name), Do: "Stand " + s.Name + " where its leads reach without a pull, its switch at 0, its mains plug out.", Place: Dock, Parts: []string{s.Name}, Minutes: [2]float64{1, 4}, where: rig.SupplyPath(i),
				Cautions: []string{"Never open a supply."}, RightWhen: "Nothing covers its fan."}, tags: "supplies", follows: "off", precedes: "leads"})
		}
		m.turnOn(i)
	}
}

// turnOn is what switches a supply on, put in.
func (m *maker) turnOn(i int) {
	s := &m.r.Supplies[i]
	do := map[rig.TurnOn]string{
		rig.TurnOnJumper: "Put the made jumper plug into the main plug of %s.",
		rig.TurnOnSwitch: "Plug the switch-on board that follows the host into %s and into the host.",
		"wire":           "Join the turn-on contact (PS_ON, green) of %s with a ground (black) beside it, insulated; a made plug is better.",
	}[s.TurnOn.Value]
	if do == "" || !power.WaitsToBeSwitched(s) {
		return
	}
	m.add(row{Step: Step{ID: "turn-on-" + slug(s.Name), Do: fmt.Sprintf(do, s.Name), Place: Dock, Parts: []string{s.Name}, Tools: []string{meter}, Minutes: [2]float64{2, 6}, where: rig.SupplyPath(i) + "/turn_on",
		Cautions: []string{"Only the turn-on contact and a ground: any other pair is a short, or 12 V on a wire that is not made for it. Check by its number and with the meter, mains off."}, RightWhen: "The plug goes in one way, and nothing bare shows.", Undo: "Take what switches " + s.Name + " on out again."},
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
		to, toCard, toHost := "", false, false
		for _, end := range l.To {
			switch end.Part {
			case "":
				continue
			case rig.CardPart:
				toCard, to = true, "the card"
			case rig.HostPart:
				toHost, to = true, "the host"
			default:
				if to == "" {
					to = end.Part
				}
			}
		}
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
		m.add(row{Step: Step{ID: "lead-" + slug(l.Name), Do: fmt.Sprintf("Plug %s into %s, latch over latch.", l.Name, to), Place: place, Parts: []string{l.Name}, Minutes: [2]float64{1, 4}, where: rig.LeadPath(i),
			Cautions: []string{"Two eight-pins look alike: compare the faces before pushing. Never force a plug."}, RightWhen: "Its latch clicks, and it does not come off at a light pull.", Undo: "Take " + l.Name + " off."}, tags: tags, follows: follows, precedes: "first-start"})
	}
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
	cautions := []string{cautionOff, "Hold it by its edges; mind the blades of its fans."}
	if mass := m.r.Card.Mass; mass.Known && mass.Value > 800 {
		cautions = append(cautions, fmt.Sprintf("It weighs %v: one hand under it until its screw and its support hold.", mass.Value))
	}
	if rig.Is(m.r.Build.TestCard, true) || slices.Contains(m.r.Build.AtHand, "a test card") {
		m.add(row{Step: Step{ID: "test-card", Do: "Put the cheap test card in first, start once, and see it in the device list; then off again.", Place: place, Parts: []string{"test card"}, Minutes: [2]float64{10, 25}, where: "/build/test_card", Cautions: []string{cautionOff},
			RightWhen: "The test card is in the list.", Undo: ""}, tags: "tested", follows: "route under-card supplies homes", precedes: "card"})
	}
	m.add(row{Step: Step{ID: "card", Do: "Put " + name + " into its slot, straight down, and set its bracket screw.", Place: place, Parts: []string{name}, Tools: []string{crossDriver}, Minutes: [2]float64{3, 8}, Screws: []string{"6-32 × 6.4, 1"}, Cautions: cautions, where: "/card",
		RightWhen: "The slot's latch clicks, its edge sits even, and the screw holds it.", Undo: "Take " + name + " out: screw, latch, then straight up."}, tags: "card link", follows: "off covers-off bare cleared cables under-card bracket", precedes: "first-start"})
}

func firstStart(m *maker) {
	follows := "card card-leads leads route homes supplies test-card off served"
	for i := range m.r.Chamber.Covers {
		if v := &m.r.Chamber.Covers[i]; m.closesFirst(v) {
			follows += " on-" + slug(v.Name)
		}
	}
	says := "Start it in the open for the first time"
	if best, found := safest(OrdersOf(m.r, m.ref)); found {
		says += ", switched on in this order: " + orderWords[best.Order]
	}
	m.add(row{Step: Step{ID: "first-start", Do: says + ".", Place: Table, Minutes: [2]float64{5, 15}, where: "/sizing/switch_on",
		Cautions: []string{"Hands, metal and loose screws away from the open board. Leave it dark for three minutes before you worry: after mains was off the first start may take that long.", "One change at a time from here on."}, RightWhen: "The dock's lamp is on, the card's fans turned once, the host starts."},
		tags: "first-start on", follows: follows})
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
	if len(m.r.Chamber.Covers) == 0 || m.outside() {
		m.add(row{Step: Step{ID: "close-host", Do: "Put the host's cover back on, the cable without a pinch.", Place: m.startSide(), Tools: []string{crossDriver}, Minutes: [2]float64{2, 10}, where: "/host", RightWhen: "It closes without force."}, tags: "closing covers-on", follows: "open proven off-again"})
	}
	for i := range m.r.Chamber.Covers {
		v := &m.r.Chamber.Covers[i]
		if m.staysOff(v) || m.outside() {
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
		over := ""
		for _, name := range v.Under {
			over += " on-" + slug(name)
		}
		m.add(row{Step: Step{ID: "on-" + slug(v.Name), Do: do, Place: side(v.Side), Parts: []string{v.Name}, Tools: []string{crossDriver}, Minutes: [2]float64{1, 6}, Screws: longScrews(m.r, i), where: rig.CoverPath(i), RightWhen: "It closes without force and pinches nothing."}, tags: tags, follows: follows + " off-" + slug(v.Name), precedes: over})
	}
	m.add(row{Step: Step{ID: "tie-cables", Do: "Tie the cables down within a hand's breadth of their plugs, and note what it took.", Place: Dock, Tools: []string{"cable ties"}, Minutes: [2]float64{5, 15}, RightWhen: "A tug at a cable moves no plug."}, tags: "tidy", follows: "proven off-again"})
}

func longScrews(r *rig.Rig, cover int) []string {
	for _, l := range fit.ScrewsOf(r) {
		if l.Cover == cover && l.Stock > 0 {
			return []string{fmt.Sprintf("%s × %s", quoted(string(r.Chamber.Covers[cover].Screw.Thread.Value), "screw"), units.Trim(float64(l.Stock), 1))}
		}
	}
	return screwsOf(&r.Chamber.Covers[cover])
}
