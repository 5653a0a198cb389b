package gate

import (
	"strconv"

	"kolvan/core/finding"
	"kolvan/core/reference"
	"kolvan/core/rig"
	"kolvan/core/units"
)

// moved is what starts the system once a drive that did has left its place: the same drive
// in its new one, or another that stays.
type moved struct {
	drive  *rig.Drive     // which held the system before
	to     *rig.Displaced // its new place; nil where another takes over
	stands *rig.Drive     // that other, or the drive itself
	at     string         // JSON Pointer of the displaced entry, or of the other drive
}

// moved returns it for the first drive that leaves; false where none leaves, or nothing
// starts the system.
func (g *Gate) moved() (moved, bool) {
	var gone *rig.Drive
	for i := range g.Host.Drives {
		drive := &g.Host.Drives[i]
		if !rig.Is(drive.Boots, true) || !leaves(g.Rig, drive) {
			continue
		}
		if to := g.NewHome(drive.Name); to != nil && to.Home.Known && to.Home.Value != rig.HomeNone {
			return moved{drive, to, drive, displacedAt(g.Rig, drive.Name)}, true
		}
		if gone == nil {
			gone = drive
		}
	}
	if i := stays(g.Rig); gone != nil && i >= 0 {
		return moved{gone, nil, &g.Host.Drives[i], driveAt(i)}, true
	}
	return moved{}, false
}

// has reports a new place of that kind.
func (m *moved) has(home rig.Home) bool { return m.to != nil && rig.Is(m.to.Home, home) }

// usbReads is what can be read through a USB port of a class, in sequence (T).
var usbReads = map[units.GigabitPerSecond]units.GigabytePerSecond{0.48: 0.035, 5: 0.42, 10: 1, 20: 2, 40: 2.8}

const (
	usb2      units.GigabitPerSecond  = 0.48
	slowRead  units.GigabytePerSecond = 0.2  // under it a system is a trial
	sataReads units.GigabytePerSecond = 0.55 // what a SATA port passes (S)
	cardReads units.GigabytePerSecond = 0.1  // what a memory card reads at best (T)
)

// BootReads is what can be read of the boot drive at the most once it has moved to its new
// place; false where it does not move, or nobody knows.
func BootReads(r *rig.Rig, ref *reference.Tables) (most units.GigabytePerSecond, known bool) {
	g := &Gate{r, ref}
	m, some := g.moved()
	if !some {
		return 0, false
	}
	return g.reads(m)
}

// reads is what can be read in the new place: as told, else at most what its port
// passes of what the drive reads.
func (g *Gate) reads(m moved) (most units.GigabytePerSecond, known bool) {
	if m.to == nil {
		return m.stands.Reads.Get()
	}
	if m.to.Reads.Known {
		return m.to.Reads.Value, true
	}
	port, known := g.port(m.to)
	if !known || !m.drive.Reads.Known {
		return port, known && m.to.Home.Value == rig.MemCard
	}
	return min(port, m.drive.Reads.Value), true
}

func (g *Gate) port(d *rig.Displaced) (units.GigabytePerSecond, bool) {
	switch d.Home.Value {
	case rig.HomeUSB:
		rate, known := usbReads[d.USB.Value]
		return rate, known && d.USB.Known
	case "sata-bay":
		return sataReads, true
	case rig.MemCard:
		return cardReads, true
	case rig.HomeSlot:
		slot := g.Slot(d.Slot)
		if slot == nil || !slot.Lanes.Known || !slot.Gen.Known {
			return 0, false
		}
		row, _ := g.ref.Generation(slot.Gen.Value)
		return units.GigabytePerSecond(row.MBPerLane * float64(min(4, slot.Lanes.Value)) / 1000), true
	}
	return 0, false
}

func judgeSlow(r *finding.Rule, g *Gate, out *finding.List) {
	m, some := g.moved()
	if !some {
		return
	}
	now, known := g.reads(m)
	before := m.drive.Reads
	usb := m.has(rig.HomeUSB)
	switch {
	case m.has(rig.MemCard):
		g.slower(r, m, finding.Risk, now, "A memory card is slow in small pieces and wears out.", out)
	case usb && rig.Is(m.to.USB, usb2):
		g.slower(r, m, finding.Risk, now, "USB 2 is a trial for a system.", out)
	case usb && !known && !m.to.USB.Known:
		out.Need(
			r, m.at+"/usb_gbit_s", "the class of the USB port "+m.drive.Name+" goes to",
			"Read the mark beside the port and the host's papers.", "how slow the system becomes",
		)
	case !known:
	case now < slowRead:
		g.slower(r, m, finding.Risk, now, "Under 200 MB/s the system is felt to be slow.", out)
	case before.Known && now < before.Value:
		g.slower(r, m, finding.Note, now, "", out)
	}
}

func (g *Gate) slower(r *finding.Rule, m moved, level finding.Level, now units.GigabytePerSecond, why string, out *finding.List) {
	numbers := finding.Numbers{{Name: "reads_gb_s", Value: float64(now)}}
	says := m.drive.Name + " in its new place reads " + now.String() + " at the most"
	if m.to == nil {
		says = m.stands.Name + ", which takes over from " + m.drive.Name + ", reads " + now.String()
	}
	if before, known := m.drive.Reads.Get(); known && now > 0 {
		numbers = append(
			numbers, finding.Number{Name: "before_gb_s", Value: float64(before)},
			finding.Number{Name: "ratio", Value: float64(before / now)},
		)
		says += "; before it was " + before.String() + ", " + units.Trim(float64(before/now), 1) + " times as much"
	}
	if why != "" {
		why = " " + why
	}
	out.Add(r, level, m.at, numbers, "%s.%s", says, why)
}

func judgeCapacity(r *finding.Rule, g *Gate, out *finding.List) {
	m, some := g.moved()
	if !some {
		return
	}
	need := g.Host.Needs.Or(0)
	for i := range g.Brief.Works {
		if w := &g.Brief.Works[i]; w.On == "" || w.On == m.drive.Name {
			need += w.Storage.Or(0)
		}
	}
	holds, what := m.stands.Capacity, m.stands.Name
	if m.to != nil {
		what = "the new place of " + m.drive.Name
		if m.to.Capacity.Known || m.has(rig.MemCard) {
			holds = m.to.Capacity // else the drive itself moves
		}
	}
	switch {
	case need == 0:
	case !holds.Known:
		out.Need(r, m.at+"/capacity_gb", "what "+what+" holds", "Read its label.", "whether "+need.String()+" of system and data go on it")
	case holds.Value < need:
		out.Add(r, finding.Risk, m.at, finding.Numbers{
			{Name: "holds_gb", Value: float64(holds.Value)}, {Name: "needs_gb", Value: float64(need)},
		},
			"%s holds %v; the system and what is kept beside it need %v.", what, holds.Value, need)
	}
}

func judgeProven(r *finding.Rule, g *Gate, out *finding.List) {
	m, some := g.moved()
	if !some || m.to == nil || m.to.Proven.Known || rig.Is(m.to.Bootable, false) || m.to.Bootable.Source == rig.Measured ||
		homeOf(g.Rig, m.drive.Name) != settled ||
		stays(g.Rig) >= 0 {
		return
	}
	if _, known := bootableAt(g.Rig, m.to); !known {
		return // boot.displaced asks
	}
	out.Need(
		r, m.at+"/proven", "whether the host was seen to start from "+m.drive.Name+" in its new place",
		"Start from it on the very port it will use, before the old drive is pulled.",
		"whether the host still starts on the day",
	)
}

func judgeShared(r *finding.Rule, g *Gate, out *finding.List) {
	m, some := g.moved()
	if !some || !m.has(rig.HomeUSB) {
		return
	}
	for i := range g.Brief.Works {
		w := &g.Brief.Works[i]
		if w.On == m.drive.Name || w.On == "" && w.Storage.Value > 0 && len(g.Host.Drives) == 1 {
			out.Add(
				r, finding.Risk, "/brief/works/"+strconv.Itoa(i), nil,
				"The system and %s would share one USB device: both stall whenever one of them writes. Keep one of them elsewhere.",
				w.Name,
			)
		}
	}
}
