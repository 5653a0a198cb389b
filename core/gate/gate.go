// Package gate asks, before money is spent, what taking a slot costs: the
// occupants that must leave and what becomes of them.
package gate

import (
	"slices"
	"strconv"

	"kolvan/core/finding"
	"kolvan/core/rig"
)

var rules = finding.Table[*rig.Rig]{
	{Rule: finding.Rule{Name: "boot.displaced", Title: "Nothing left to start from", Levels: "blocked",
		Fires: "the boot drive leaves and nothing bootable replaces it"}, Judge: judgeBoot},
	{Rule: finding.Rule{Name: "net.displaced", Title: "The wireless card leaves", Levels: "risk",
		Fires: "the wireless card leaves and nothing replaces it; quiet when a wire or another radio is used"}, Judge: judgeNet},
}

// Rules lists the rules of this package.
func Rules() []finding.Rule { return rules.Rules() }

// Judge adds what the rules say about the rig.
func Judge(r *rig.Rig, out *finding.List) { rules.Judge(r, out) }

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

// homesOf lists where drives and radios can go, besides slots.
var (
	driveHomes = []rig.Home{rig.HomeSlot, rig.HomeUSB, "sata-bay", "memory-card", "network"}
	radioHomes = []rig.Home{rig.HomeSlot, rig.HomeUSB, "ethernet", "network"}
)

// fits tells whether an occupant goes to its new place: a drive into an M.2 slot
// of key M (or a card slot, through an adapter), a radio into a wireless slot.
func fits(r *rig.Rig, d *rig.Displaced) home {
	drive := r.Drive(d.Occupant) != nil
	homes := radioHomes
	if drive {
		homes = driveHomes
	}
	slot := r.Slot(d.Slot)
	switch {
	case !slices.Contains(homes, d.Home.Value):
		return unfit
	case d.Home.Value != rig.HomeSlot:
		return settled
	case !slot.Form.Known || slot.Form.Value == rig.M2 && !slot.Key.Known:
		return open
	case drive && (slot.Form.Value == rig.CardSlot || slot.Form.Value == rig.M2 && (slot.Key.Value == "M" || slot.Key.Value == "B+M")) && carriesData(slot):
		return settled
	case !drive && (slot.Form.Value == rig.MiniPCIe || slot.Form.Value == rig.M2 && slot.Key.Value != "M" && slot.Key.Value != "B" && slot.Key.Value != "B+M"):
		return settled
	default:
		return unfit
	}
}

// carriesData reports a slot whose contacts may carry what a drive speaks.
func carriesData(slot *rig.Slot) bool {
	carries, known := slot.Carries.Get()
	return !known || slices.Contains(carries, rig.PCIe) || slices.Contains(carries, "sata")
}

// free tells whether a slot can take the occupant: it is empty, or left by what
// is in it.
func free(r *rig.Rig, slot *rig.Slot, occupant string) home {
	switch now, known := slot.Occupant.Get(); {
	case !known:
		return unseen
	case now == rig.NoOccupant || now == occupant || homeOfOther(r, now):
		return settled
	default:
		return taken
	}
}

// homeOfOther reports an occupant that leaves its slot for a home of its own.
func homeOfOther(r *rig.Rig, occupant string) bool {
	d := r.NewHome(occupant)
	return d != nil && d.Home.Known && d.Home.Value != rig.HomeNone
}

func judgeBoot(r *finding.Rule, rg *rig.Rig, out *finding.List) {
	slot, at := occupied(rg)
	if slot == nil {
		return
	}
	if !slot.Occupant.Known {
		if holdsDrives(slot) {
			out.Need(r, at+"/occupant", "what sits in "+slot.Name+" now", "Take the cover off and look.", "whether the host can still start")
		}
		return
	}
	drive := rg.Drive(slot.Occupant.Value)
	if drive == nil || otherBoots(rg, drive) {
		return
	}
	place := "/host/drives/" + strconv.Itoa(rig.IndexOf(rg.Host.Drives, drive))
	if !drive.Boots.Known {
		out.Need(r, place+"/boots", "whether the host starts from "+drive.Name, "Look at the firmware's boot list.", "whether taking "+slot.Name+" leaves it without a system")
		return
	}
	if drive.Boots.Value {
		judgeBootHome(r, rg, slot, at, drive, out)
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

func otherBoots(r *rig.Rig, leaving *rig.Drive) bool {
	for i := range r.Host.Drives {
		if d := &r.Host.Drives[i]; d != leaving && rig.Is(d.Boots, true) {
			return true
		}
	}
	return false
}

// unsureBoots is the place of another drive of which nobody knows whether the
// host could start from it, −1 where there is none.
func unsureBoots(r *rig.Rig, leaving *rig.Drive) int {
	return slices.IndexFunc(r.Host.Drives, func(d rig.Drive) bool { return d.Name != leaving.Name && !d.Boots.Known })
}

func judgeBootHome(r *finding.Rule, rg *rig.Rig, slot *rig.Slot, at string, drive *rig.Drive, out *finding.List) {
	add := func(why string) {
		if i := unsureBoots(rg, drive); i >= 0 {
			out.Need(r, "/host/drives/"+strconv.Itoa(i)+"/boots", "whether the host could start from "+rg.Host.Drives[i].Name, "Look at the firmware's boot list.", "whether it can still start without "+drive.Name)
			return
		}
		out.Add(r, finding.Blocked, at+"/occupant", nil, "%s leaves %s and %s.", drive.Name, slot.Name, why)
	}
	switch homeOf(rg, drive.Name) {
	case nowhere:
		add("nothing bootable replaces it")
	case taken:
		add("the slot it should go to is in use")
	case unfit:
		add("it does not go where it should")
	case unseen:
		needSeen(r, rg, drive.Name, "whether the host can still start", out)
	case open:
		at := displacedAt(rg, drive.Name)
		out.Need(r, at+"/home", "where "+drive.Name+" goes", "Choose a slot, a bay or an enclosure.", "whether the host can still start")
	case settled:
		bootable, known := bootableAt(rg, rg.NewHome(drive.Name))
		if !known {
			out.Need(r, displacedAt(rg, drive.Name)+"/bootable", "whether the host starts from "+drive.Name+" in its new place", "Try it there before anything is pulled.", "whether the host can still start")
		} else if !bootable {
			add("the host cannot start from its new place")
		}
	}
}

// needSeen asks what sits in the slot an occupant is to move to.
func needSeen(r *finding.Rule, rg *rig.Rig, occupant, decides string, out *finding.List) {
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
	if d.Bootable.Known {
		return d.Bootable.Value, true
	}
	if slot := r.Slot(d.Slot); slot != nil {
		return slot.Bootable.Get()
	}
	return false, false
}

func judgeNet(r *finding.Rule, rg *rig.Rig, out *finding.List) {
	slot, at := occupied(rg)
	if slot == nil {
		return
	}
	if !slot.Occupant.Known {
		if !holdsDrives(slot) && rig.Is(slot.Form, rig.M2) || rig.Is(slot.Form, rig.MiniPCIe) {
			out.Need(r, at+"/occupant", "what sits in "+slot.Name+" now", "Take the cover off and look.", "whether the host loses its network")
		}
		return
	}
	network := rg.Network(slot.Occupant.Value)
	if network == nil || rig.Is(network.Kind, rig.Wire) || homeOf(rg, network.Name) == settled {
		return
	}
	used, unsure := otherNetwork(rg, network)
	if used {
		return
	}
	if homeOf(rg, network.Name) == unseen {
		needSeen(r, rg, network.Name, "whether the host keeps its network", out)
		return
	}
	if unsure >= 0 {
		other := &rg.Host.Networks[unsure]
		out.Need(r, "/host/networks/"+strconv.Itoa(unsure)+"/used", "whether the rig can rely on "+other.Name, "Ask where it will stand.", "whether losing "+network.Name+" leaves it without a network")
		return
	}
	why := "nothing replaces it"
	if homeOf(rg, network.Name) == unfit {
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
