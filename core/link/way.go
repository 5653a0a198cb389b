package link

import (
	"fmt"
	"slices"
	"strconv"

	"kolvan/core/finding"
	"kolvan/core/rig"
	"kolvan/core/units"
)

// judgeModuleLength holds the first stage's M.2 module against the slot's stand-offs.
func judgeModuleLength(r *finding.Rule, p *Plan, out *finding.List) {
	slot := p.rig.Slot(p.rig.Route.Slot)
	if slot == nil || len(p.rig.Route.Stages) == 0 || !rig.Is(slot.Form, rig.M2) {
		return
	}
	s := &p.rig.Route.Stages[0]
	module, told := s.Module.Get()
	if !told {
		return
	}
	at := p.Elements[1].Where + "/module_mm"
	numbers := finding.Numbers{{Name: "module_mm", Value: float64(module)}, {Name: "slot_mm", Value: float64(slot.Length.Value)}}
	switch {
	case !slot.Length.Known && !slot.StandOffs.Known:
		out.Need(
			r, p.Elements[0].Where+"/length_mm", "how long a module "+slot.Name+" takes",
			"Measure from the contacts to the last stand-off: 30, 42, 60, 80 or 110 mm.", "whether "+s.Name+" lies flat",
		)
	case module > longestModule(slot):
		numbers[1].Value = float64(longestModule(slot))
		level, why := finding.Blocked, "It cannot be fastened there."
		if rig.Is(s.MayCut, true) {
			level, why = finding.Risk, "Its maker lets it be cut at a mark: wear glasses, cut away from the traces, and file the edge."
		} else if !s.MayCut.Known {
			why += " Ask its maker whether it may be shortened."
		}
		out.Add(
			r, level, at, numbers, "The module of %s is %v long; the last stand-off of %s is at %v. %s", s.Name, module, slot.Name,
			longestModule(slot), why,
		)
	case module < longestModule(slot) && slot.StandOffs.Known && !holds(slot, module):
		out.Add(r, finding.Blocked, at, numbers, "The module of %s is %v long, and %s has no stand-off there.", s.Name, module, slot.Name)
	case module < longestModule(slot) && !slot.StandOffs.Known:
		out.Need(
			r, p.Elements[0].Where+"/stand_offs", "where stand-offs are, or can be put, at "+slot.Name,
			"Look for the holes beside the slot.", fmt.Sprintf("whether a module of %v can be fastened", module),
		)
	}
}

func longestModule(slot *rig.Slot) (most units.Millimetre) {
	most = slot.Length.Value
	for _, at := range slot.StandOffs.Value {
		if mm, err := strconv.Atoi(string(at)); err == nil {
			most = max(most, units.Millimetre(mm))
		}
	}
	return most
}

func holds(slot *rig.Slot, module units.Millimetre) bool {
	return slices.Contains(
		slot.StandOffs.Value, rig.StandOff(strconv.Itoa(int(module))),
	) || slot.Length.Known && slot.Length.Value == module
}

// judgeSideband: lanes alone make no link; every stage carries the reference clock
// and reset, and something straps clock-request.
func judgeSideband(r *finding.Rule, p *Plan, out *finding.List) {
	if p.None || len(p.Elements) == 0 || p.Elements[0].Tunnel {
		return
	}
	stages := p.rig.Route.Stages
	open, strapped := -1, len(stages) == 0
	for i := range stages {
		s := &stages[i]
		lacks := func(line rig.Fact[bool], field, what string) {
			if rig.Is(line, false) {
				out.Add(
					r, finding.Blocked, p.Elements[i+1].Where+field, nil, "%s does not carry %s: there is no link over it at any speed.",
					s.Name, what,
				)
			}
		}
		lacks(s.Clock, "/carries_clock", "the reference clock")
		lacks(s.Reset, "/carries_reset", "reset")
		strapped = strapped || rig.Is(s.Clkreq, true)
		if !s.Clkreq.Known {
			open = i
		}
	}
	if strapped || !slices.ContainsFunc(stages, func(s rig.Stage) bool { return rig.Is(s.Clkreq, false) }) {
		return
	}
	if open >= 0 {
		out.Need(
			r, p.Elements[open+1].Where+"/straps_clkreq", "whether "+stages[open].Name+" straps clock-request",
			"Read its papers, or measure: the contact is held to ground.", "whether the host gives the card a clock",
		)
		return
	}
	out.Add(
		r, finding.Blocked, p.Elements[len(p.Elements)-2].Where+"/straps_clkreq", nil,
		"Nothing on the route straps clock-request: the host gives no clock, and the card is not found.",
	)
}

func judgeColdPlug(r *finding.Rule, p *Plan, out *finding.List) {
	if p.None || len(p.rig.Route.Stages) == 0 || len(p.Elements) == 0 || p.Elements[0].Tunnel {
		return
	}
	out.Add(
		r, finding.Note, "/route", nil,
		"This route is not made for plugging while running: connect and disconnect only with both sides off, and the mains plug drawn.",
	)
}

// judgeLookAlike names the stages whose plugs enter what they must never.
func judgeLookAlike(r *finding.Rule, p *Plan, out *finding.List) {
	for i := range p.rig.Route.Stages {
		s := &p.rig.Route.Stages[i]
		for _, form := range [...]rig.Fact[rig.Form]{s.Plug.Form, s.Socket.Form} {
			row := p.ref.Form(form.Value, "")
			if !form.Known || row == nil || row.Looks == "" {
				continue
			}
			out.Add(
				r, finding.Note, rig.StagePath(i), nil, "The plug of %s enters the socket of %s, and is not for one: never into %s, nor a cable "+
					"of %s's into it.",
				s.Name, row.Looks, row.Looks, row.Looks,
			)
			break
		}
	}
}

// judgeSwitch says what hangs on a packet switch's own plug (reference, section 2a).
func (p *Plan) judgeSwitch(r *finding.Rule, out *finding.List) {
	for i := range p.rig.Route.Stages {
		s := &p.rig.Route.Stages[i]
		if !rig.Is(s.Switches, true) {
			continue
		}
		draw := p.ref.StageDraw(s)
		draws := draw.High.String()
		if !draw.Known() {
			draws = fmt.Sprintf("%.0f to %v", draw.Low, draw.High)
		}
		out.Add(
			r, finding.Note, rig.StagePath(i), nil,
			"%s has a packet switch: all on it share the rate of its own plug, behind it the card may show more lanes than reach the host, and "+
				"its %s want air.",
			s.Name, draws,
		)
	}
}

// judgeUplink weighs what shares the chipset's way to the processor: the card, and
// the drive that had to move behind the chipset.
func judgeUplink(r *finding.Rule, p *Plan, out *finding.List) {
	p.judgeSwitch(r, out)
	slot := p.rig.Slot(p.rig.Route.Slot)
	if slot == nil || p.None || !rig.Is(slot.Behind, rig.Chipset) {
		return
	}
	up := &p.rig.Host.Uplink
	ends := units.Between(p.ref.UplinkLeast, p.ref.UplinkMost)
	if up.Lanes.Known && up.Gen.Known {
		ends = units.Exactly(Raw(p.ref, up.Lanes.Value, up.Gen.Value) * units.GigabytePerSecond(Efficiency(p.ref, up.Gen.Value,
			p.rig.Route.Payload)))
	}
	drive, name := p.displacedDrive()
	asked := p.NetEnds.Plus(drive)
	at := p.Elements[0].Where
	numbers := finding.Numbers{{Name: "asked_gb_s", Value: float64(asked.High)}, {Name: "uplink_gb_s", Value: float64(ends.Low)}}
	with := ""
	if name != "" {
		with = " with " + name + " beside it"
	}
	switch asked.Over(ends) {
	case units.Always:
		out.Add(
			r, finding.Risk, at, numbers, "%s is behind the chipset, whose uplink carries at most %v; the card%s asks for %s.",
			slot.Name, ends.High, with, atLeast(asked),
		)
	case units.Sometimes:
		if !up.Lanes.Known || !up.Gen.Known {
			where, what := "/host/uplink/lanes", "how many lanes the chipset's uplink has"
			if up.Lanes.Known {
				where, what = "/host/uplink/generation", "the generation of the chipset's uplink"
			}
			out.Need(r, where, what, "Read the papers of the chipset.", "whether all behind the chipset has room for the card"+with)
			return
		}
		fallthrough
	default:
		out.Add(
			r, finding.Note, at, numbers, "%s is behind the chipset: the card shares its uplink%s with all else there.", slot.Name,
			with,
		)
	}
}

// judgeSharedLanes: a slot may take its lanes from another slot or port when it is
// used, as the host's papers say.
func judgeSharedLanes(r *finding.Rule, p *Plan, out *finding.List) {
	slot := p.rig.Slot(p.rig.Route.Slot)
	if slot == nil || p.None {
		return
	}
	for i := range p.rig.Host.Slots {
		other := &p.rig.Host.Slots[i]
		if other == slot || !sharesLanes(slot, other) {
			continue
		}
		p.judgeSharedWith(r, slot, other, rig.SlotPath(i), out)
	}
	if with, told := slot.Shares.Get(); told && with != rig.NoOccupant && p.rig.Slot(with) == nil {
		out.Add(
			r, finding.Note, p.Elements[0].Where+"/shares_lanes_with", nil, "%s takes its lanes from %s: what hangs there stops.",
			slot.Name, with,
		)
	}
}

func sharesLanes(a, b *rig.Slot) bool { return rig.Is(a.Shares, b.Name) || rig.Is(b.Shares, a.Name) }

func (p *Plan) judgeSharedWith(r *finding.Rule, slot, other *rig.Slot, at string, out *finding.List) {
	sits, known := other.Occupant.Get()
	if d := p.rig.NewHome(sits); known && d != nil && d.Home.Known {
		sits = rig.NoOccupant // it leaves
	}
	for i := range p.rig.Route.Displaced {
		if d := &p.rig.Route.Displaced[i]; d.Slot == other.Name && rig.Is(d.Home, rig.HomeSlot) {
			sits, known = d.Occupant, true
		}
	}
	switch {
	case !known:
		out.Need(
			r, at+"/occupant", "what sits in "+other.Name+", which shares its lanes with "+slot.Name,
			"Take the cover off and look.", "whether one of them loses lanes",
		)
	case sits == rig.NoOccupant:
		out.Add(r, finding.Note, at, nil, "%s shares its lanes with %s: leave that one empty.", slot.Name, other.Name)
	default:
		out.Add(
			r, finding.Risk, at, nil,
			"%s shares its lanes with %s, which holds %s: with both in use one loses lanes or is switched off. The host's papers say which.",
			slot.Name, other.Name, sits,
		)
	}
}

type atLeast units.Range[units.GigabytePerSecond]

func (rate atLeast) String() string {
	if rate.Low == rate.High {
		return rate.High.String()
	}
	return "at least " + rate.Low.String()
}

// displacedDrive is what the drive that had to leave the route's slot may ask of the
// chipset in its new place.
func (p *Plan) displacedDrive() (ends units.Range[units.GigabytePerSecond], name string) {
	slot := p.rig.Slot(p.rig.Route.Slot)
	for i := range p.rig.Route.Displaced {
		d := &p.rig.Route.Displaced[i]
		drive, to := p.rig.Drive(d.Occupant), p.rig.Slot(d.Slot)
		if drive == nil || !rig.Is(slot.Occupant, d.Occupant) || to != nil && !rig.Is(to.Behind, rig.Chipset) || !d.Home.Known ||
			d.Home.Value == rig.HomeNone {
			continue
		}
		rate := d.Reads
		if !rate.Known {
			rate = drive.Reads
		}
		return units.Exactly(rate.Or(0)), drive.Name
	}
	return ends, ""
}

// bytesOfPixel is what a frame on its way back takes for each pixel.
const bytesOfPixel = 4

// shareOfReturn is the share of the link above which frames on their way back are
// felt.
const shareOfReturn = 0.4

// judgeLoopback works out what the host's own panel costs: every frame comes back
// over the link.
func judgeLoopback(r *finding.Rule, p *Plan, out *finding.List) {
	screen := &p.rig.Brief.Screen
	if p.None || len(p.Elements) == 0 || !rig.Is(screen.Kind, rig.OwnPanel) {
		return
	}
	for _, open := range []struct {
		known             bool
		field, fact, find string
	}{
		{screen.Width.Known, "/width_px", "how many pixels the host's own panel is across", "Read the system's screen settings."},
		{screen.Height.Known, "/height_px", "how many pixels the host's own panel is down", "Read the system's screen settings."},
		{screen.Rate.Known, "/rate_hz", "the refresh rate of the host's own panel", "Read the system's screen settings."},
	} {
		if !open.known {
			out.Need(r, "/brief/screen"+open.field, open.fact, open.find, "how much of the link the frames take on their way back")
			return
		}
	}
	frame := float64(screen.Width.Value) * float64(screen.Height.Value) * bytesOfPixel / giga
	back := units.GigabytePerSecond(frame * screen.Rate.Value)
	numbers := finding.Numbers{{Name: "return_gb_s", Value: float64(back)}, {Name: "ceiling_hz", Value: float64(p.NetEnds.High) / frame}}
	says := "Every frame of the host's own panel comes back over the link: %v of %s. It carries %s frames a second at the most."
	ceiling := out.Part("%.0f", float64(p.NetEnds.High)/frame)
	level := finding.Note
	if units.Exactly(back).Over(p.NetEnds.Times(shareOfReturn)) == units.Always {
		level, says = finding.Risk, says+" An external screen on the card's own output costs nothing of it."
	}
	out.Add(r, level, "/brief/screen/kind", numbers, says, back, atMost(p.NetEnds), ceiling)
}
