package bringup

import (
	"fmt"
	"slices"
	"strings"

	"kolvan/core/finding"
	"kolvan/core/rig"
	"kolvan/core/units"
)

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
		m.add(row{
			Step: Step{
				ID: "open-host", Do: "Take the host's cover off.", Place: place, Tools: []string{crossDriver, cloth},
				Minutes: [2]float64{2, 10}, where: "/host",
				Cautions: []string{"Lift it a little first: a ribbon or a lead may hold it."}, RightWhen: "The slot lies bare.",
				Undo: "Put the host's cover back on.", parted: []string{hostCover},
			},
			tags: "covers-off open", follows: "off",
		})
		return
	}
	for i := range m.r.Chamber.Covers {
		v := &m.r.Chamber.Covers[i]
		cautions, parted := []string{"Lift it a little first: a ribbon or a lead may hold it."}, []string{v.Name}
		if tie := tieOf(v); tie != "" {
			cautions, parted = []string{finding.Begin(tie) + " ties it: part that first, and mark which way round it goes."},
				append(parted, tie+" of "+v.Name)
		}
		m.add(row{
			Step: Step{
				ID: "off-" + slug(v.Name), Do: "Take " + v.Name + " off.", Place: m.side(v.Side), Parts: []string{v.Name},
				Tools: []string{crossDriver, cloth}, Minutes: [2]float64{1, 5}, Screws: screwsOf(v), Cautions: cautions,
				where: rig.CoverPath(i), RightWhen: "It lies beside the host, with its screws in a cup.",
				Undo: "Put " + v.Name + " back on.", parted: parted,
			},
			tags: "covers-off open lifted-" + slug(v.Name), follows: "off " + lifted(v.Under),
		})
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

// battery: it is parted first of all inside, and joined last before any cover goes on.
func battery(m *maker) {
	if !m.opens() {
		return
	}
	switch m.battery() {
	case rig.BatteryFixed:
		m.add(row{
			Step: Step{
				ID: "live-battery",
				Do: "Run the battery down to a few percent, then switch it off in the firmware or hold the power button until all is dark: it " +
					"cannot be parted from the board.",
				Place: m.side(rig.Fact[rig.Side]{}), Tools: []string{"plastic pick", "insulating tape"}, Minutes: [2]float64{2, 120},
				where: "/host/battery",
				Cautions: []string{
					"The board keeps power all the while: tools of plastic, tape over what is bare, nothing metal on it, and one hand where one will do.",
					"A battery that is bent or pierced burns.",
				},
				RightWhen: "No lamp lights when the power button is pressed.",
			},
			tags: "bare", follows: "covers-off", precedes: inside,
		})
	case rig.BatteryUnplugs:
		m.add(row{
			Step: Step{
				ID: "unplug-battery", Do: "Part the battery's plug from the board, the first thing once the cover is off.",
				Place: m.side(rig.Fact[rig.Side]{}), Tools: []string{"plastic pick"}, Minutes: [2]float64{1, 3},
				where:     "/host/battery",
				Cautions:  []string{"Pull at the plug and never at its wires; a battery that is bent or pierced burns."},
				RightWhen: "The plug is free and cannot touch the board.",
				Undo:      "Plug the battery in, the last thing before the cover.", parted: []string{"the battery"},
			},
			tags: "bare", follows: "covers-off", precedes: inside,
		})
		follows := "bare homes " + inside
		if !slices.ContainsFunc(m.r.Chamber.Covers, func(v rig.Cover) bool { return m.closesFirst(&v) }) {
			follows += " proven off-again"
		}
		m.add(row{
			Step: Step{
				ID: "plug-battery", Do: "Plug the battery in again, the last thing before the cover goes on.",
				Place: m.side(rig.Fact[rig.Side]{}), Minutes: [2]float64{1, 2}, where: "/host/battery",
				Cautions:  []string{"The mains brick is out, and nothing metal lies on the board: from here on it has power."},
				RightWhen: "The plug is home, and no wire lies under a screw.",
				Undo:      "Part the battery's plug, the first thing once the cover is off.", joined: []string{"the battery"},
			},
			tags: "battery-in", follows: follows, precedes: "closing",
		})
	}
}

// inside is all that the battery is parted before.
const inside = "inside cut supplies leads cables route card served"

func served(m *maker) {
	if !m.usedHost() || !m.opens() {
		return
	}
	do := "Serve the used host: dust out, new paste, the cooler's screws crosswise, bent panels straight, the intrusion switch and the " +
		"caddies there."
	for i := range m.r.Host.Checks {
		if state := m.r.Host.Checks[i].State; rig.Is(state, "missing") || rig.Is(state, "broken") {
			do += fmt.Sprintf(" %s is %s: replace it.", finding.Begin(m.r.Host.Checks[i].Name), state.Value)
		}
	}
	m.add(row{
		Step: Step{
			ID: "serve-host", Do: do, Place: Top, Tools: []string{"brush", "thermal paste", crossDriver},
			Minutes: [2]float64{15, 45}, where: "/host/condition", RightWhen: "Its fan turns freely and nothing is loose.",
		},
		tags: "served", follows: "covers-off bare", precedes: "inside",
	})
}

func obstacles(m *maker) {
	for i := range m.r.Chamber.Things {
		t := &m.r.Chamber.Things[i]
		if !t.Out {
			continue
		}
		m.leaves(t.Name, "the card stands in its place")
		m.add(row{
			Step: Step{
				ID: "out-" + slug(t.Name), Do: "Take " + t.Name + " out.", Place: Top, Parts: []string{t.Name},
				Tools: []string{crossDriver}, Minutes: [2]float64{2, 10}, where: rig.ThingPath(i),
				RightWhen: "Its place is free, and its leads cannot touch anything.", Undo: "Put " + t.Name + " back.",
				parted: []string{t.Name},
			},
			tags: "inside cleared lifted-" + slug(t.Name), follows: "covers-off bare" + lifted(t.Under), precedes: "card",
		})
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
		m.add(row{
			Step: Step{
				ID: "leave-" + slug(name), Do: fmt.Sprintf("Take %s out of %s.", name, s.Name), Place: m.side(s.Side),
				Parts: []string{name, s.Name}, Tools: tools, Minutes: [2]float64{2, 6}, Screws: screws, Cautions: cautions,
				where: rig.SlotPath(rig.IndexOf(m.r.Host.Slots, s)), RightWhen: "The slot is empty and its screw lies in the cup.",
				Undo: undo, parted: parted,
			},
			tags: "inside left left-" + slug(s.Name), follows: "covers-off bare cleared",
		})
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
		m.add(row{
			Step: Step{
				ID: "home-" + slug(d.Occupant), Do: do, Place: m.side(slot.Side), Parts: []string{d.Occupant, slot.Name},
				Tools: []string{crossDriver}, Minutes: [2]float64{3, 8}, Screws: seatScrews(slot), where: where,
				RightWhen: "It sits even and no contact shows.", Undo: fmt.Sprintf("Take %s out of %s.", what, slot.Name),
				joined: joined,
			},
			tags: "inside homes", follows: "covers-off bare left-" + slug(slot.Name) + " leave-" + slug(d.Occupant),
			precedes: "first-start",
		})
	default:
		m.add(row{
			Step: Step{
				ID: "home-" + slug(d.Occupant), Do: m.newPlace(d), Place: Table, Parts: []string{d.Occupant}, Tools: enclosureFor(d),
				Minutes: [2]float64{2, 10}, where: where, RightWhen: "It is plugged in where it was seen to work.", joined: joined,
			},
			tags: "homes", follows: "leave-" + slug(d.Occupant), precedes: "first-start",
		})
	}
	if rig.Is(d.Method, rig.Installed) && m.r.Drive(d.Occupant) != nil && !rig.Is(d.Proven, true) {
		m.add(row{
			Step: Step{
				ID: "system-on-" + slug(d.Occupant),
				Do: "Install the system afresh on the new drive, the old one kept as it is until all works.", Place: System,
				Parts: []string{d.Occupant}, Tools: []string{"a stick of 16 GB with the installer"}, Minutes: [2]float64{25, 60},
				RightWhen: "It starts from the new drive without the installer.",
			},
			tags: "system", follows: "homes first-start", precedes: "driver-in",
		})
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
		return fmt.Sprintf(
			"Plug the drive that takes the place of %s into the very port it was seen to start on: %s.", d.Occupant,
			rig.Spoken(d.Home.Value),
		)
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
	if !m.r.Chamber.Open && fitted.Known && takes.Known && takes.Value != rig.NoBracket && fitted.Value != takes.Value &&
		rig.Is(m.r.Card.Bracket.Spare, takes.Value) {
		m.add(row{
			Step: Step{
				ID: "bracket-card", Do: fmt.Sprintf("Change the card's bracket for the %s one.", rig.Spoken(takes.Value)),
				Place: Table, Parts: []string{quoted(m.r.Card.Name, "card")}, Tools: []string{crossDriver}, Minutes: [2]float64{5, 30},
				where: "/card/bracket", RightWhen: "All its screws hold, none of the cooler's was touched.",
				Undo: "Change the card's bracket back.",
			},
			tags: "bracket", precedes: "card",
		})
	}
}

// adapters are what is seated before a cable is laid: each adapter and riser, and whatever
// begins the route as a module in a slot of the host.
func adapters(m *maker) {
	slot := m.r.Slot(m.r.Route.Slot)
	for i := range m.r.Route.Stages {
		s := &m.r.Route.Stages[i]
		seated := i == 0 && slot != nil && (rig.Is(slot.Form, rig.M2) || rig.Is(slot.Form, rig.MiniPCIe))
		if !seated && !rig.Is(s.Kind, rig.Adapter) && !rig.Is(s.Kind, rig.Riser) && (i > 0 || rig.Is(s.Kind, rig.Cable) ||
			rig.Is(s.Kind, rig.Dock)) {
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
			m.add(row{
				Step: Step{
					ID: "shorten-" + slug(s.Name), Do: "Shorten the module of " + s.Name + " at its mark, if the slot is shorter.",
					Place: Table, Tools: []string{"fine saw", "safety glasses"}, Minutes: [2]float64{5, 15}, Permanent: true,
					where: rig.StagePath(i), RightWhen: "No trace is cut, and its edge is smooth.",
				},
				tags: "cut", precedes: "seat-" + slug(s.Name),
			})
		}
		m.add(row{
			Step: Step{
				ID: "seat-" + slug(s.Name), Do: fmt.Sprintf("Put %s into %s: %s", name, into, seatWords(form)), Place: place,
				Parts: []string{s.Name}, Tools: []string{crossDriver}, Minutes: [2]float64{2, 8}, Screws: screws,
				Cautions: screenCaution(s), where: rig.StagePath(i),
				RightWhen: "It sits even, no contact shows, and it does not move.", Undo: "Take " + s.Name + " out of " + into + ".",
			},
			tags: "inside route link", follows: "off covers-off bare left cleared served",
			precedes: "cables card dock-" + slug(s.Name),
		})
	}
}

// screenCaution is for what carries the link through plugs made for screens.
func screenCaution(s *rig.Stage) []string {
	switch {
	case rig.Is(s.Plug.Form, rig.Video) || rig.Is(s.Socket.Form, rig.Video):
		return []string{"Its plug looks like a screen's and is not: never into a screen, nor a screen's cable into it."}
	case rig.Is(s.Plug.Form, rig.USB3Lane) || rig.Is(s.Socket.Form, rig.USB3Lane):
		return []string{"Its plug looks like USB and is not: never into a USB port, nor a USB cable's other end into a gadget."}
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
		m.add(row{
			Step: Step{
				ID: "lay-" + slug(s.Name), Do: fmt.Sprintf("Lay %s %s, without a kink, and push both its plugs home.", s.Name, out),
				Place: m.startSide(), Parts: []string{s.Name}, Minutes: [2]float64{3, 10}, Cautions: screenCaution(s),
				where: rig.StagePath(i), RightWhen: "Both plugs click or sit even all along, and it hangs without a pull.",
				Undo: "Part " + s.Name + ".",
			},
			tags: "route link cables", follows: "off covers-off bare", precedes: "closing",
		})
	}
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
		m.add(row{
			Step: Step{
				ID: "dock-" + slug(s.Name), Do: do, Place: place, Parts: []string{s.Name}, Minutes: [2]float64{3, 10},
				Cautions: screenCaution(s), where: rig.StagePath(i), RightWhen: "It stands firm and its plug sits even.",
				Undo: "Part " + s.Name + " from the route.",
			},
			tags: "route link dock", follows: "off covers-off bare left cables", precedes: "card",
		})
	}
}

// unboxed is the taking of a card out of the box it came in.
func unboxed(name string) row {
	return row{
		Step: Step{
			ID: "unbox", Do: "Take " + name + " out of its box: cover, its bracket screw, its plugs, then the card.", Place: Table,
			Tools: []string{crossDriver}, Minutes: [2]float64{10, 25}, where: "/card/box_opens",
			Cautions: []string{
				"The box's mains plug out for minutes first. Its supply stays closed, and nothing behind its cover is touched.",
				"Photograph every plug: the box's maker may have turned one.",
			},
			RightWhen: "The card lies on something that does not conduct, and every screw is in a tray.",
			Undo:      "Put " + name + " back into its box as on the photographs.",
		},
		tags: "prepare-card", follows: "off", precedes: "card",
	}
}

func card(m *maker) {
	if rig.Is(m.r.Card.BuiltIn, true) {
		return
	}
	name, place := quoted(m.r.Card.Name, "the card"), Dock
	if rig.Is(m.r.Card.Opens, true) {
		m.add(unboxed(name))
	}
	if !m.hasDock() {
		place = Top
	}
	cautions := []string{"Hold it by its edges; mind the blades of its fans."}
	if mass := m.r.Card.Mass; mass.Known && mass.Value > 800 {
		cautions = append(cautions, fmt.Sprintf("It weighs %v: one hand under it until its screw and its support hold.", mass.Value))
	}
	if rig.Is(m.r.Build.TestCard, true) || slices.Contains(m.r.Build.AtHand, "a test card") {
		m.add(row{
			Step: Step{
				ID: "test-card", Do: "Put the cheap test card in first, start once, and see it in the device list; then off again.",
				Place: place, Parts: []string{"test card"}, Minutes: [2]float64{10, 25}, where: "/build/test_card",
				RightWhen: "The test card is in the list.", Undo: "",
			},
			tags: "tested", follows: "route under-card supplies homes", precedes: "card",
		})
	}
	do, right, screws := "Put "+name+" into its slot, straight down, and set its bracket screw.",
		"The slot's latch clicks, its edge sits even, and the screw holds it.", []string{
			"6-32 × 6.4, 1",
		}
	if form := m.r.Card.EdgeForm(); form != rig.CardSlot {
		do, right, screws = "Put "+name+" into its slot: "+seatWords(rig.Of(form)), "It sits even, no contact shows, and it does not move.", nil
	}
	m.add(row{
		Step: Step{
			ID: "card", Do: do, Place: place, Parts: []string{name}, Tools: []string{crossDriver}, Minutes: [2]float64{3, 8},
			Screws: screws, Cautions: cautions, where: "/card", RightWhen: right,
			Undo: "Take " + name + " out: screw, latch, then straight up.",
		},
		tags: "card link", follows: "off covers-off bare cleared cables under-card bracket", precedes: "first-start",
	})
}
