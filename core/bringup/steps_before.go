package bringup

import (
	"fmt"

	"kolvan/core/finding"
	"kolvan/core/made"
	"kolvan/core/rig"
)

func data(m *maker) {
	if m.short() {
		return
	}
	m.add(row{
		Step: Step{
			ID: "save-data", Do: "Copy what is on the host's drives to somewhere else, and open one file of the copy.",
			Place: System, Tools: []string{"a drive for the copy"}, Minutes: [2]float64{15, 60},
			RightWhen: "A file opens from the copy.",
		},
		tags: "prepare data",
	})
	if !rig.Is(m.r.Host.Locked, false) {
		m.add(row{
			Step: Step{
				ID: "suspend-encryption", Do: "Suspend the disk's encryption, and write its recovery key down on paper.",
				Place: System, Minutes: [2]float64{3, 10}, where: "/host/disk_encrypted",
				Cautions:  []string{"A changed firmware setting or a new card can make the system ask for the key."},
				RightWhen: "The system says that protection is suspended, and the key lies on the table.",
				Undo:      "Resume the disk's encryption.",
			},
			tags: "prepare data", follows: "save-data",
		})
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
			m.add(row{
				Step: Step{
					ID: "clone-" + slug(drive.Name),
					Do: "Clone the system of " + drive.Name + ", bit for bit, onto the drive that takes its place.", Place: System,
					Parts: []string{drive.Name}, Tools: []string{newDriveIn}, Minutes: [2]float64{20, 90},
					RightWhen: "The clone ends without an error.",
				},
				tags: "prepare clone", follows: "save-data suspend-encryption",
			})
		case rig.Copied:
			m.add(row{
				Step: Step{
					ID:    "copy-" + slug(drive.Name),
					Do:    "Copy all that is on " + drive.Name + " onto the drive that takes its place, and make that one able to start.",
					Place: System, Parts: []string{drive.Name}, Tools: []string{newDriveIn}, Minutes: [2]float64{20, 120},
					RightWhen: "A file opens from the copy, and the firmware lists the new drive among those to start from.",
				},
				tags: "prepare clone", follows: "save-data suspend-encryption",
			})
		}
		if !twoDrives(d) || rig.Is(d.Proven, true) || rig.Is(drive.Boots, false) {
			continue
		}
		m.add(row{
			Step: Step{
				ID:    "prove-" + slug(drive.Name),
				Do:    "See the system start from the new drive at the " + rig.Spoken(d.Home.Value) + " it will use, with the old one still in.",
				Place: System, Parts: []string{drive.Name}, Minutes: [2]float64{5, 15},
				where:     fmt.Sprintf("/route/displaced/%d/proven", i),
				Cautions:  []string{"On the very port it will use: another port may not start."},
				RightWhen: "The system is up, and says that it started from the new drive.",
			},
			tags: "prepare", follows: "save-data clone",
		})
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
	m.add(row{
		Step: Step{
			ID: "photograph-firmware", Do: "Photograph every page of the firmware.", Place: Firmware, Tools: []string{"a camera"},
			Minutes:   [2]float64{5, 10},
			Cautions:  []string{"Setting defaults later may flip the disk mode, and the system no longer starts."},
			RightWhen: "Every page can be read in the pictures.",
		},
		tags: "prepare photographs",
	})
}

func drivers(m *maker) {
	m.add(row{
		Step: Step{
			ID: "fetch-drivers", Do: "Fetch the card's driver and what reads the link, and lay them on the host's drive.",
			Place: System, Parts: []string{quoted(m.r.Card.Name, "card")}, Minutes: [2]float64{5, 20}, where: "/card/driver",
			RightWhen: "Both are there without a network.",
		},
		tags: "prepare",
	})
	if rig.Is(m.r.Card.Driver, "conflict") {
		m.add(row{
			Step: Step{
				ID: "remove-old-driver", Do: "Take the other driver of the same maker off the system.", Place: System,
				Minutes: [2]float64{5, 15}, where: "/card/driver", RightWhen: "The system starts without it.",
			},
			tags: "prepare", follows: "fetch-drivers",
		})
	}
}

// settings are those that need a picture, made while there is one.
func settings(m *maker) {
	set := func(id, do, undo, where string, place Place) {
		m.add(row{
			Step: Step{
				ID: id, Do: do, Undo: undo, Place: place, Minutes: [2]float64{1, 5}, where: where,
				RightWhen: "It is still set after a restart.",
			},
			tags: "prepare setting", follows: "photographs suspend-encryption",
		})
	}
	if m.short() {
		return
	}
	set(
		"fast-start-off", "Switch the system's fast start off, so that a start looks for what is new.",
		"Switch fast start on again.", "/host/system", System,
	)
	if window, known := m.r.Card.Window.Get(); known && window > 0.25 && !rig.Is(m.r.Host.Firmware.LargeWindow, false) {
		set(
			"large-addresses", "Switch large address decoding on in the firmware.", "Switch large address decoding off again.",
			"/host/firmware/large_addresses", Firmware,
		)
	}
	if rig.Is(m.r.Host.Firmware.DiskMode, "bundled") {
		set(
			"disk-mode", "Set the disk mode to plain in the firmware, once the system is ready for it.",
			"Set the disk mode to bundled again.", "/host/firmware/disk_mode", Firmware,
		)
	}
	if rig.Is(m.r.Host.Graphics, rig.Discrete) && !rig.Is(m.r.Host.Firmware.DiscreteOff, true) {
		set(
			"own-card-off", "Switch the host's own card off in the firmware.", "Switch the host's own card on again.",
			"/host/firmware/discrete_off", Firmware,
		)
	}
	if gen, forced := m.r.Route.ForcedGen.Get(); forced {
		set(
			"force-generation", fmt.Sprintf("Force the slot to Gen %d in the firmware.", gen),
			"Let the slot choose its generation again.", "/route/forced_generation", Firmware,
		)
	}
	if m.battery() != rig.NoBattery && m.opens() {
		m.add(row{
			Step: Step{
				ID: "battery-off", Do: "Switch the battery off in the firmware, where it has a page for that.", Place: Firmware,
				Minutes: [2]float64{1, 3}, where: "/host/kind", RightWhen: "The host goes dark and starts only with the mains brick.",
				Undo: "Plug the mains brick in: that wakes the battery.",
			},
			tags:    "prepare battery-off",
			follows: "save-data suspend-encryption photographs fetch-drivers setting clone compare-listing",
		})
	}
}

func listing(m *maker) {
	if m.usedHost() {
		m.add(row{
			Step: Step{
				ID: "compare-listing", Do: "Hold the host against the seller's listing: processor, memory, slots, caddies and screws.",
				Place: Table, Parts: []string{quoted(m.r.Host.Name, "host")}, Minutes: [2]float64{5, 15}, where: "/host/listed",
				RightWhen: "What differs is written down, and asked about while it can be sent back.",
			},
			tags: "prepare",
		})
	}
}

// cuts and prints are made on the table before the host is open.
func cuts(m *maker) {
	for i := range m.r.Alterations {
		a := &m.r.Alterations[i]
		permanent := !rig.Is(a.Permanent, false)
		if do := wireWork(a); do != "" {
			m.add(row{
				Step: Step{
					ID: "cut-" + slug(a.Name), Do: finding.Begin(a.Name) + ": " + do, Place: Table, Tools: []string{"side cutter", "crimping tool", meter},
					Minutes: [2]float64{20, 60}, Permanent: permanent, where: fmt.Sprintf("/alterations/%d", i),
					Cautions: []string{
						"Never open a supply. Its mains plug out for minutes first; a wire outside it is changed by who knows how, each cut end " +
							"insulated at once.",
						"Meter every pin against the plan before anything is plugged in.",
					},
					RightWhen: "A pull moves no contact, nothing bare shows, and the meter shows what the plan says.",
				},
				tags: "cut", follows: "off", precedes: "leads",
			})
			continue
		}
		m.add(row{
			Step: Step{
				ID: "cut-" + slug(a.Name), Do: finding.Begin(a.Name) + ": mark it by its template, cut it, and file its edges.",
				Place: Table, Tools: []string{"saw or rotary tool", "file", "safety glasses", "template, printed at full size"},
				Minutes: [2]float64{20, 60}, Permanent: permanent, where: fmt.Sprintf("/alterations/%d", i),
				Cautions:  []string{"Take out what is behind first; no filings near a board. Glasses on, cut away from the hand."},
				RightWhen: "The connector passes, and no edge is sharp.",
			},
			tags: "cut", follows: "covers-off served bare", precedes: "route closing",
		})
	}
}

// wireWork is what an alteration of leads and plugs comes to; "" for one of sheet metal.
func wireWork(a *rig.Alteration) string {
	switch a.Touches.Value {
	case rig.TouchesSupply:
		return "on the lead outside the supply, one wire after another."
	case rig.TouchesLead:
		return "on the lead, one wire after another."
	case rig.TouchesPlug:
		return "on the plug, out of every socket."
	}
	return ""
}

func prints(m *maker) {
	for i := range m.r.Chamber.Covers {
		if v := &m.r.Chamber.Covers[i]; v.Raised.Value > 0 {
			m.add(row{
				Step: Step{
					ID: "print-stand-offs-" + slug(v.Name),
					Do: fmt.Sprintf("Print the stand-offs of %s, %v high, and try one on.", v.Name, v.Raised.Value), Place: Table,
					Tools: []string{"printer"}, Parts: []string{v.Name}, Minutes: [2]float64{40, 150},
					where:     rig.CoverPath(i) + "/raised_mm",
					Cautions:  []string{made.HotInserts},
					RightWhen: "A screw runs through it, and it stands even. There is time to print it once more.",
				},
				tags: "print", precedes: "closing",
			})
		}
	}
	planned, _ := made.For(m.r, m.ref) // what cannot be drawn is said where its files are: at Fit
	for i := range planned {
		if p := &planned[i]; p.Planned && p.Solid != nil {
			m.add(toMake(p))
		}
	}
}

// toMake is the making of a part of the plan: printed, or cut by its outline.
func toMake(p *made.Part) row {
	s := Step{
		ID: "make-" + p.Key, Do: finding.Begin(p.Name) + ": print it, or cut it by its outline, and try it on.", Place: Table,
		Tools: []string{"printer"}, Minutes: [2]float64{60, 240}, Permanent: p.Permanent,
		Cautions:  []string{"Glasses on where it is cut or drilled, and no filings near a board."},
		RightWhen: "It lies flat, its bores meet, and nothing has to be bent. There is time to make it once more.",
	}
	if p.Inserts > 0 {
		s.Tools = append(s.Tools, "soldering iron", fmt.Sprintf("%d brass inserts for M3", p.Inserts))
		s.Cautions = append(s.Cautions, made.HotInserts)
	}
	return row{Step: s, tags: "print", precedes: "route closing"}
}

func mains(m *maker) {
	if m.short() && m.tunnelled() && rig.Is(m.r.Card.BuiltIn, true) {
		return // the port is made for it, and nothing is opened
	}
	m.add(row{
		Step: Step{
			ID:    "power-off",
			Do:    "Switch off and pull the mains plug of host and dock; hold the power button for ten seconds; touch bare metal that is earthed.",
			Place: Table, Minutes: [2]float64{2, 4}, Cautions: []string{"A lamp on the board glows while standby is there."},
			RightWhen: "No lamp is on anywhere.",
		},
		tags: "off", follows: "prepare",
	})
}
