package bringup

import (
	"fmt"
	"slices"
	"strings"

	"kolvan/core/fit"
	"kolvan/core/rig"
	"kolvan/core/units"
)

func firstStart(m *maker) {
	follows := "card card-leads leads route homes left supplies test-card off served"
	for i := range m.r.Chamber.Covers {
		if v := &m.r.Chamber.Covers[i]; m.closesFirst(v) {
			follows += " on-" + slug(v.Name)
		}
	}
	says, right := "Start it in the open for the first time", "The card's fans turned once, the host starts."
	cautions := []string{
		"Hands, metal and loose screws away from the open board. Leave it dark for three minutes before you worry: after mains was off the " +
			"first start may take that long.",
		"One change at a time from here on.",
	}
	if m.hasLamp() {
		right = "The dock's lamp is on, the card's fans turned once, the host starts."
	}
	if m.short() {
		says, cautions = "Switch it on for the first time", []string{
			"Leave it dark for three minutes before you worry.", "One change at a time from here on.",
		}
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
	return slices.ContainsFunc(m.r.Route.Stages, func(s rig.Stage) bool { return s.HasLamp() })
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
	m.add(row{
		Step: Step{
			ID: "install-driver", Do: "Put the card's driver in and restart.", Place: System,
			Parts: []string{quoted(m.r.Card.Name, "card")}, Minutes: [2]float64{5, 20}, where: "/card/driver",
			Cautions:  []string{"The picture may stay dark for minutes and then move over to the card."},
			RightWhen: "The device list names the card without a mark.", Undo: "Take the card's driver off the system.",
		},
		tags: "driver-in", follows: "first-start",
	})
	if limit, capped := m.r.Card.Cap.Get(); capped {
		m.add(row{
			Step: Step{
				ID: "set-cap", Do: fmt.Sprintf("Cap the card's power at %v in the driver's own tool, and let it be set at every start.", limit),
				Place:   System,
				Minutes: [2]float64{3, 10}, where: "/card/cap_w",
				Cautions:  []string{"Before it is set nothing heavy runs: the card takes all it can."},
				RightWhen: "The tool shows the cap, also after a restart.", Undo: "Set the card's power back to its own.",
			},
			tags: "capped", follows: "driver-in", precedes: "proven",
		})
	}
	planned := "the width and the speed that are planned"
	if m.plan.WidthKnown && m.plan.Gen > 0 {
		planned = fmt.Sprintf("x%d at Gen %d", m.plan.Width, m.plan.Gen)
	}
	if m.short() {
		m.add(row{
			Step: Step{
				ID:    "prove-link",
				Do:    "Prove it: read width and speed of the link under the heaviest use, ten minutes, and feel the box and its supply.",
				Place: System, Minutes: [2]float64{12, 20}, where: "/route/readings",
				Cautions:  []string{"At idle a link may rest at a lower speed: only load tells it."},
				RightWhen: "It reads " + planned + " under load, nothing trips, and all stays cool enough to hold.",
			},
			tags: "proven", follows: "driver-in first-start",
		})
		return
	}
	m.add(row{
		Step: Step{
			ID: "prove-link", Do: "Prove the link: read its width at idle, its speed under load, and its errors over ten minutes.",
			Place: System, Minutes: [2]float64{15, 25}, where: "/route/readings",
			Cautions:  []string{"At idle a link may rest at a lower speed: only load tells it."},
			RightWhen: "It reads " + planned + " under load, and no errors are counted.",
		},
		tags: "proven", follows: "driver-in first-start",
	})
	m.add(row{
		Step: Step{
			ID: "prove-power",
			Do: "Prove the power in steps: capped, uncapped, then the heaviest use, ten minutes each; feel every plug and read the watts at " +
				"the wall.",
			Place: System, Tools: []string{"wall meter"}, Minutes: [2]float64{30, 45}, where: "/supplies",
			Cautions:  []string{"A plug too hot to hold: off at once, at the mains."},
			RightWhen: "Nothing trips, and every plug stays cool enough to hold.",
		},
		tags: "proven", follows: "prove-link",
	})
}

// closing puts covers back on, once the link is proven; the one with the host's fan goes
// on before the first start.
func closing(m *maker) {
	if !m.opens() {
		return
	}
	m.add(row{
		Step: Step{
			ID: "power-off-again", Do: "Shut down, switch off and pull the mains plugs again.", Place: Table,
			Minutes: [2]float64{2, 3}, RightWhen: "No lamp is on anywhere.",
		},
		tags: "off-again", follows: "proven", precedes: "covers-on",
	})
	switch {
	case len(m.r.Chamber.Covers) > 0 && !m.outside() || m.bare():
	case m.coverOff():
		m.leaves(hostCover, "the cable leaves the host where it was")
	case len(m.r.Chamber.Covers) == 0 && len(m.r.Brief.CoversOff) > 0:
		m.leaves(hostCover, "the brief lets it stay off")
	default:
		m.add(row{
			Step: Step{
				ID: "close-host", Do: "Put the host's cover back on, the cable without a pinch.", Place: m.startSide(),
				Tools: []string{crossDriver}, Minutes: [2]float64{2, 10}, where: "/host", RightWhen: "It closes without force.",
				joined: []string{hostCover},
			},
			tags: "closing covers-on", follows: "open proven off-again",
		})
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
		m.add(row{
			Step: Step{
				ID: "on-" + slug(v.Name), Do: do, Place: m.side(v.Side), Parts: []string{v.Name}, Tools: []string{crossDriver},
				Minutes: [2]float64{1, 6}, Screws: longScrews(m.r, i), where: rig.CoverPath(i),
				RightWhen: "It closes without force and pinches nothing.", joined: joined,
			},
			tags: tags, follows: follows + " off-" + slug(v.Name), precedes: over,
		})
	}
	m.add(row{
		Step: Step{
			ID: "tie-cables", Do: "Tie the cables down within a hand's breadth of their plugs, and note what it took.",
			Place: Dock, Tools: []string{"cable ties"}, Minutes: [2]float64{5, 15}, RightWhen: "A tug at a cable moves no plug.",
		},
		tags: "tidy", follows: "proven off-again",
	})
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
	m.add(row{
		Step: Step{
			ID: "lay-aside", Do: "Lay aside, labelled and with its screws, what stays off: " + strings.Join(list, "; ") + ".",
			Place: Table, Minutes: [2]float64{2, 6}, left: m.left, RightWhen: "All of it lies in one box, for the way back.",
		},
		tags: "tidy", follows: "proven off-again",
	})
}

func longScrews(r *rig.Rig, cover int) []string {
	for _, l := range fit.ScrewsOf(r) {
		if l.Cover == cover && l.Stock > 0 {
			return []string{fmt.Sprintf(
				"%s × %s", quoted(string(r.Chamber.Covers[cover].Screw.Thread.Value), "screw"), units.Trim(float64(l.Stock), 1),
			)}
		}
	}
	return screwsOf(&r.Chamber.Covers[cover])
}
