package gate

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"kolvan/core/finding"
	"kolvan/core/rig"
	"kolvan/core/units"
)

// wanted is the slot of the route and its pointer; nil while none is chosen.
func (g *Gate) wanted() (*rig.Slot, string) {
	slot := g.Slot(g.Route.Slot)
	if slot == nil {
		return nil, ""
	}
	return slot, rig.SlotPath(rig.IndexOf(g.Host.Slots, slot))
}

func judgeSoldered(r *finding.Rule, g *Gate, out *finding.List) {
	slot, at := g.wanted()
	if slot == nil || rig.Is(slot.Occupant, rig.NoOccupant) {
		return
	}
	// What sits in a wireless slot is the part that may be soldered; of a drive one
	// sees the screw.
	if !slot.Fixed.Known && slot.Occupant.Known && radioSlot(slot) {
		out.Need(
			r, at+"/occupant_fixed", "how "+slot.Occupant.Value+" is held in "+slot.Name,
			"Take the cover off and look: a screw at its end, or solder at its edges.", "whether the slot can be had at all",
		)
	}
	if rig.Is(slot.Fixed, rig.SolderedIn) {
		out.Add(
			r, finding.Blocked, at+"/occupant_fixed", nil,
			"What sits in %s is soldered to the board: nothing can be put in its place.", slot.Name,
		)
	}
}

// radioSlot reports a slot made for wireless cards.
func radioSlot(slot *rig.Slot) bool {
	key := slot.Key.Value
	return rig.Is(slot.Form, rig.MiniPCIe) || rig.Is(slot.Form, rig.M2) && (key == "E" || key == "A" || key == "A+E")
}

func judgeAllowList(r *finding.Rule, g *Gate, out *finding.List) {
	slot, _ := g.wanted()
	if slot == nil || !radioSlot(slot) {
		return
	}
	const at = "/host/firmware/allow_list"
	switch list := g.Host.Firmware.AllowList; {
	case !list.Known:
		out.Need(
			r, at, "whether the firmware takes only its own cards in "+slot.Name,
			"Ask those who have the host, or start it with another wireless card in the slot.",
			"whether the host starts at all with an adapter there",
		)
	case list.Value:
		out.Add(r, finding.Blocked, at, nil, "The firmware refuses to start with anything but its own cards in %s.", slot.Name)
	}
}

func judgeDiscrete(r *finding.Rule, g *Gate, out *finding.List) {
	if !rig.Is(g.Host.Graphics, rig.Discrete) {
		return
	}
	const at = "/host/firmware/discrete_off"
	switch off := g.Host.Firmware.DiscreteOff; {
	case !off.Known:
		out.Need(
			r, at, "whether the host's own card can be switched off", "Look through the firmware's graphics page.",
			"whether the two cards get in each other's way",
		)
	case !off.Value:
		out.Add(
			r, finding.Risk, at, nil,
			"The host's own graphics card stays on beside the new one: drivers and addresses may collide. Switch it off in the firmware.",
		)
	}
}

// smallWindow is the largest memory window that fits below 4 GiB beside all else.
const smallWindow units.Gibibyte = 1

// judgeAddresses: a window nobody told may be as large as the card's memory, and a host
// nobody looked at may place none above 4 GiB. Where both are open, both are asked.
func judgeAddresses(r *finding.Rule, g *Gate, out *finding.List) {
	window, told := g.Card.Window.Get()
	large := g.Host.Firmware.LargeWindow
	memory, sized := g.Card.Memory.Get()
	switch {
	case rig.Is(large, true), told && window <= smallWindow, !told && sized && memory <= smallWindow, !told && g.Card.Name == "":
		return
	}
	const at = "/host/firmware/large_addresses"
	if !told {
		out.Need(
			r, "/card/window_gib", "how large a memory window the card wants",
			"Read its papers, or the system's list of devices with the card in another host: a quarter of a GiB, or all of its memory.",
			"whether it finds room below 4 GiB",
		)
	}
	switch {
	case !large.Known:
		wanted := "one as large as the card's memory"
		if told {
			wanted = "one of " + window.String()
		}
		out.Need(
			r, at, "whether the host decodes large addresses", "Look in the firmware for decoding above 4 G.",
			"whether the card's memory window, "+wanted+", finds room",
		)
	case told:
		out.Add(
			r,
			finding.Risk,
			at,
			finding.Numbers{{Name: "window_gib", Value: float64(window)}},
			"The card wants a memory window of %v, and the host places none above 4 GiB. Make the window smaller in the card's settings, where "+
				"it has any.",
			window,
		)
	}
}

func judgeDiskMode(r *finding.Rule, g *Gate, out *finding.List) {
	slot, _ := g.wanted()
	if slot == nil || !rig.Is(g.Host.Firmware.DiskMode, rig.Bundled) || radioSlot(slot) || !rig.Is(slot.Form, rig.M2) {
		return
	}
	out.Add(
		r, finding.Risk, "/host/firmware/disk_mode", nil,
		"The firmware bundles disks, which may hide %s from plain PCIe. Set disks to plain; a system installed under the other mode may "+
			"then not start.",
		slot.Name,
	)
}

func judgeStartModes(r *finding.Rule, g *Gate, out *finding.List) {
	host, card := g.Host.Firmware.Starts, g.Card.Starts
	all := len(rig.StartMode("").Words().All())
	switch {
	case host.Known && len(host.Value) == all, card.Known && len(card.Value) == all, !card.Known && g.Card.Name == "":
	case !host.Known || !card.Known:
		needStartModes(r, host, card, out)
	case !slices.ContainsFunc(host.Value, func(m rig.StartMode) bool { return slices.Contains(card.Value, m) }):
		out.Add(
			r, finding.Risk, "/card/start_modes", nil,
			"The host starts in %s, the card's firmware in %s: there is no picture from it before the system's driver runs.",
			rig.SpokenList(host.Value, " and "), rig.SpokenList(card.Value, " and "),
		)
	}
}

// needStartModes asks for the modes that are not told; both where neither is.
func needStartModes(r *finding.Rule, host, card rig.Fact[[]rig.StartMode], out *finding.List) {
	if !host.Known {
		ofCard := "the card's firmware"
		if card.Known {
			ofCard += ", " + rig.SpokenList(card.Value, " and ") + ","
		}
		out.Need(
			r, "/host/firmware/start_modes", "which modes the host's firmware starts in", "Look at its start page.",
			"whether "+ofCard+" is run",
		)
	}
	if !card.Known {
		onHost := "the host"
		if host.Known {
			onHost += ", " + rig.SpokenList(host.Value, " and ") + ","
		}
		out.Need(
			r, "/card/start_modes", "which modes the card's own firmware has",
			"Read its papers: cards from before the change have the legacy one alone.", "whether "+onHost+" runs it",
		)
	}
}

// driverTrouble says what each state of a driver brings.
var driverTrouble = map[rig.DriverState]string{
	"none":           "There is no driver for this card on this system.",
	"too-old":        "The driver is too old for the system: a newer one is needed.",
	"too-new":        "The system's drivers have dropped this family of cards: an older one has to be kept.",
	"fails-this-way": "The driver is known to fail with a card joined this way.",
	"conflict":       "Another driver of the same maker is still installed: take it out first, then install this one.",
}

func judgeDriver(r *finding.Rule, g *Gate, out *finding.List) {
	state, told := g.Card.Driver.Get()
	if says := driverTrouble[state]; says != "" {
		out.Add(r, finding.Risk, "/card/driver", nil, "%s", says)
	}
	g.judgeDrivers(r, out)
	if !told && len(g.Card.Drivers) == 0 && rig.Is(g.Host.Kind, "single-board") && g.Card.Name != "" {
		out.Need(
			r, "/card/driver", "whether there is a driver for this card on a single-board host",
			"Look at the system's list of hardware.", "whether the card can be used at all",
		)
	}
}

// judgeDrivers looks at the drivers by their versions: the one that is installed, and two of one
// maker that are installed together.
func (g *Gate) judgeDrivers(r *finding.Rule, out *finding.List) {
	var installed []string
	for i := range g.Card.Drivers {
		d := &g.Card.Drivers[i]
		if !rig.Is(d.Installed, true) {
			continue
		}
		installed = append(installed, d.Version)
		if says := driverTrouble[d.State.Value]; says != "" {
			out.Add(r, finding.Risk, fmt.Sprintf("/card/drivers/%d", i), nil, "Driver %s: %s", d.Version, finding.Phrase(says))
		}
	}
	if len(installed) > 1 {
		out.Add(
			r,
			finding.Risk,
			"/card/drivers",
			nil,
			"%d drivers of one maker are installed (%s): the newer may drop the older card, and they clash. Keep the one that knows both "+
				"cards, or take one off.",
			len(installed),
			strings.Join(installed, ", "),
		)
	}
}

func judgeFirmware(r *finding.Rule, g *Gate, out *finding.List) {
	if !rig.Is(g.Route.Modified, true) {
		return
	}
	level, why := finding.Risk, "Keep a copy of the old one and a way to write it back."
	if rig.Is(g.Brief.Stance, rig.NothingPermanent) {
		level, why = finding.Blocked, "The brief allows nothing permanent."
	}
	out.Add(
		r, level, "/route/modified_firmware", nil,
		"The route needs a host firmware that somebody has changed. %s A host that does not start any more may be the price.",
		why,
	)
}

// judgeListing holds what was found against what the seller said, and asks after
// what is only believed of the slot in use.
func judgeListing(r *finding.Rule, g *Gate, out *finding.List) {
	for i := range g.Host.Slots {
		s := &g.Host.Slots[i]
		if differs(s.SaidLanes, s.Lanes) {
			listing(r, rig.SlotPath(i)+"/lanes", s.Name+" has %v lanes", float64(s.SaidLanes.Value), float64(s.Lanes.Value), out)
		}
		if differs(s.SaidGen, s.Gen) {
			listing(r, rig.SlotPath(i)+"/generation", s.Name+" runs at Gen %v", float64(s.SaidGen.Value), float64(s.Gen.Value), out)
		}
	}
	if said := g.Host.Listed.Memory; differs(said, g.Host.Memory) {
		listing(r, "/host/memory_gib", "the host has %v GiB of memory", float64(said.Value), float64(g.Host.Memory.Value), out)
	}
	if said, found := g.Host.Listed.Processor, g.Host.Proc.Name; said.Known && found != "" && !strings.EqualFold(said.Value, found) {
		out.Add(r, finding.Risk, "/host/processor", nil, "The listing said the processor is %s; found: %s.", said.Value, found)
	}
	judgeBox(r, g, out)
	slot, at := g.wanted()
	if slot == nil {
		return
	}
	if what, only := doubtful(slot.Lanes); only {
		doubt(r, at+"/lanes", "how many lanes "+slot.Name+" has", what, out)
	}
	if what, only := doubtful(slot.Gen); only {
		doubt(r, at+"/generation", "the generation of "+slot.Name, what, out)
	}
	if what, only := doubtful(slot.Carries); only {
		doubt(r, at+"/carries", "what the contacts of "+slot.Name+" carry", what, out)
	}
}

// judgeBox holds what came against what was said to come: drives, condition, supply, parts.
func judgeBox(r *finding.Rule, g *Gate, out *finding.List) {
	said := &g.Host.Listed
	if found := len(g.Host.Drives); said.Drives.Known && g.Host.Drives != nil && found != said.Drives.Value {
		listing(r, "/host/drives", "drives found in the host: %v", float64(said.Drives.Value), float64(found), out)
	}
	if found := len(g.Host.Screens); said.Screens.Known && g.Host.Screens != nil && found != said.Screens.Value {
		listing(r, "/host/screens", "video outputs found on the host: %v", float64(said.Screens.Value), float64(found), out)
	}
	if differs(said.Panel, g.Host.Panel) {
		level := finding.Note
		if rig.Is(said.Panel, rig.PanelWorks) || rig.Is(g.Host.Panel, rig.PanelNone) {
			level = finding.Risk
		}
		out.Add(
			r, level, "/host/panel", nil, "The listing said of its panel: %s; found: %s.", rig.Spoken(said.Panel.Value),
			rig.Spoken(g.Host.Panel.Value),
		)
	}
	if rig.Is(said.Supply, true) && g.Host.Supply == "" && g.Supplies != nil {
		out.Add(r, finding.Risk, "/host/supply", nil, "The listing said its supply comes with it; none was found.")
	}
	for i := range g.Host.Checks {
		c, at := &g.Host.Checks[i], "/host/condition/"+strconv.Itoa(i)
		inBox := slices.ContainsFunc(said.Parts, func(part string) bool { return strings.EqualFold(part, c.Name) })
		switch {
		case rig.Is(c.State, rig.FoundMissing) && inBox:
			out.Add(r, finding.Risk, at, nil, "The listing said %s comes with it; it is missing.", c.Name)
		case rig.Is(c.State, rig.FoundBroken) && rig.Is(said.Works, true):
			out.Add(r, finding.Risk, at, nil, "The listing said it works; found broken: %s.", c.Name)
		}
	}
}

// differs reports that what was found is not what a listing said.
func differs[T comparable](said, found rig.Fact[T]) bool {
	return said.Known && found.Known && said.Value != found.Value && found.Source != rig.Listing
}

// listing holds what was found, in a sentence with its figure, against what a listing promised.
func listing(r *finding.Rule, at, has string, said, found float64, out *finding.List) {
	level := finding.Note
	if found < said {
		level = finding.Risk
	}
	promised := "the listing promised %v."
	if strings.Contains(has, "Gen ") {
		promised = "the listing promised Gen %v."
	}
	out.Add(r, level, at, finding.Numbers{{Name: "found", Value: found}, {Name: "listed", Value: said}}, has+"; "+promised, found, said)
}

// doubtful reports a fact that stands on hearsay or a listing alone, and on which.
func doubtful[T any](f rig.Fact[T]) (stands string, only bool) {
	return believed[f.Source], f.Known && (f.Source == rig.Hearsay || f.Source == rig.Listing)
}

// doubt asks after a fact that is only believed. Whether it decides anything is found
// by putting in what else it may be.
func doubt(r *finding.Rule, at, what, stands string, out *finding.List) {
	how := "Read the host's papers, or look with the cover off."
	if strings.HasSuffix(at, "/generation") {
		how = "Read the host's papers, and those of its processor: it cannot be seen. Or read it from the system, under load, with a card " +
			"known to do more."
	}
	out.Need(r, at, what+": so far only "+stands, how, "what the plan rests on")
}

var believed = map[rig.Source]string{rig.Hearsay: "hearsay", rig.Listing: "a listing says so"}
