package fit

import (
	"cmp"
	"slices"
	"strings"

	"kolvan/core/finding"
	"kolvan/core/rig"
	"kolvan/core/units"
)

// judgeCooler holds a cooler that is put in against the board's mount, the room above it, and
// the card.
func judgeCooler(r *finding.Rule, c *Chamber, out *finding.List) {
	c.judgeModuleCooled(r, out)
	cooler := &c.rig.Host.Cooler
	if !rig.Is(cooler.New, true) {
		return
	}
	name := cmp.Or(cooler.Name, "the new cooler")
	numbers := finding.Numbers{{Name: "height_mm", Value: float64(cooler.Height.Value)}, {Name: "room_mm", Value: float64(cooler.Room.Value)}}
	mount, known := c.rig.Host.Proc.Mount.Get()
	mounts, told := cooler.Mounts.Get()
	switch {
	case known && told && !slices.ContainsFunc(mounts, func(m string) bool { return strings.EqualFold(m, mount) }):
		out.Add(r, finding.Blocked, "/host/cooler", nil, "%s goes on %s; the board has %s.", name, strings.Join(mounts, ", "), mount)
	case !known:
		out.Need(r, "/host/processor/mount", "which mount the board has", "Read it on the board, or measure from hole to hole.", "whether "+
			name+" goes on")
	case !told:
		out.Need(r, "/host/cooler/mounts", "which mounts "+name+" goes on", "Read its papers.", "whether it goes on")
	}
	height, tall := cooler.Height.Get()
	room, measured := cooler.Room.Get()
	switch {
	case tall && measured && height > room:
		out.Add(r, finding.Blocked, "/host/cooler/height_mm", numbers, "%s is %v high; there are %v above the board.", name, height, room)
	case tall && !measured:
		out.Need(r, "/host/cooler/room_mm", "how much room there is above the board", "Measure from the board to the cover.", "whether "+name+
			" goes in")
	case !tall && measured:
		out.Need(r, "/host/cooler/height_mm", "how high "+name+" is", "Read its papers.", "whether it goes in")
	}
	if over, told := cooler.Over.Get(); told && over > 0 && !c.Open() {
		out.Add(r, finding.Blocked, "/host/cooler/over_slot_mm", nil, "%s stands over the card's slot by %v.", name, over)
	}
	if rig.Is(cooler.BoardOut, true) {
		out.Add(
			r,
			finding.Risk,
			"/host/cooler/board_out",
			nil,
			"The board must come out for %s: photographs first, battery and mains parted, and every plug noted.",
			name,
		)
	} else if rig.Is(cooler.BackPlate, true) && !cooler.BoardOut.Known {
		out.Need(r, "/host/cooler/board_out", "whether the board must come out for its back plate", "Look for an opening behind the board.",
			"how long it takes")
	}
}

// judgeModuleCooled: a card that is a module comes without a cooler more often than not.
func (c *Chamber) judgeModuleCooled(r *finding.Rule, out *finding.List) {
	card := &c.rig.Card
	if !card.Form.Known || card.EdgeForm() == rig.CardSlot {
		return
	}
	name := cmp.Or(card.Name, "the card")
	switch {
	case rig.Is(card.Cooled, rig.CooledByNothing):
		out.Add(r, finding.Blocked, "/card/cooled_by", nil, "Nothing cools %s yet: without a cooler it stops within a minute, or breaks.", name)
	case !card.Cooled.Known && card.Power.Or(leastCooled) >= leastCooled:
		out.Need(r, "/card/cooled_by", "what cools "+name, "Look at it: a bare module shows its chips.", "whether it may be started")
	}
}

// leastCooled is the power from which on a module wants a cooler, W (P).
const leastCooled units.Watt = 8
