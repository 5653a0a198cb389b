package bringup

import (
	"fmt"
	"slices"
	"strings"

	"kolvan/core/power"
	"kolvan/core/rig"
)

func supplies(m *maker) {
	for i := range m.r.Supplies {
		s := &m.r.Supplies[i]
		switch {
		case rig.Is(s.InBay, true):
			m.leaves(hostSupply, s.Name+" stands in its bay")
			m.add(row{
				Step: Step{
					ID: "supply-" + slug(s.Name), Do: "Take the host's own supply out and put " + s.Name + " into the bay.", Place: Top,
					Parts: []string{s.Name}, Tools: []string{crossDriver}, Minutes: [2]float64{10, 30}, Screws: []string{"6-32 × 6.4, 4"},
					where: rig.SupplyPath(i), Cautions: []string{"Its mains plug out, and a few minutes' wait."},
					RightWhen: "All its screws hold and its fan can breathe.", Undo: "Put the host's own supply back.",
					parted: []string{hostSupply},
				},
				tags: "supplies inside", follows: "covers-off bare cleared", precedes: "leads",
			})
		case s.Name == m.r.Host.Supply, m.short() && m.ofBox(s.Name):
		default:
			at, right := "its mains plug out", "Nothing covers it."
			if power.WaitsToBeSwitched(s) {
				at, right = "its switch at 0, its mains plug out", "Nothing covers its fan."
			}
			m.add(row{
				Step: Step{
					ID: "supply-" + slug(s.Name), Do: "Stand " + s.Name + " where its leads reach without a pull, " + at + ".",
					Place: Dock, Parts: []string{s.Name}, Minutes: [2]float64{1, 4}, where: rig.SupplyPath(i), RightWhen: right,
				},
				tags: "supplies", follows: "off", precedes: "leads",
			})
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
		rig.TurnOnSplitter: "Plug the splitter into the main plug of the host's supply and of %s: it joins their turn-on contacts and " +
			"grounds, and nothing else.",
		"wire": "Join the turn-on contact (PS_ON, green) of %s with a ground (black) beside it, insulated; a made plug is better.",
	}[s.TurnOn.Value]
	if do == "" || !power.WaitsToBeSwitched(s) || m.short() && m.ofBox(s.Name) {
		return
	}
	caution := "Only the turn-on contact and a ground: any other pair is a short, or 12 V on a wire that is not made for it. Check by its " +
		"number and with the meter, mains off."
	if rig.Is(s.TurnOn, rig.TurnOnSwitch) {
		caution = "Mains off. Only the plug that the board was made for: any other bridges pins that are not meant to meet."
	}
	m.add(row{
		Step: Step{
			ID: "turn-on-" + slug(s.Name), Do: fmt.Sprintf(do, s.Name), Place: Dock, Parts: []string{s.Name},
			Tools: []string{meter}, Minutes: [2]float64{2, 6}, where: rig.SupplyPath(i) + "/turn_on", Cautions: []string{caution},
			RightWhen: "The plug goes in one way, and nothing bare shows.",
			Undo:      "Take what switches " + s.Name + " on out again.",
		},
		tags: "leads", follows: "off supply-" + slug(s.Name), precedes: "first-start",
	})
}

// harnesses that one makes are measured line by line before they are plugged in.
func harnesses(m *maker) {
	for i := range m.r.Leads {
		l := &m.r.Leads[i]
		if len(l.Wires) == 0 {
			continue
		}
		m.add(row{
			Step: Step{
				ID: "meter-" + slug(l.Name),
				Do: fmt.Sprintf("Measure %s by its meter list, every line of it, before it touches a supply.", l.Name), Place: Table,
				Parts: []string{l.Name}, Tools: []string{meter}, Minutes: [2]float64{10, 25}, where: rig.LeadPath(i),
				Cautions:  []string{"A wire on the wrong pin burns card or dock at the first switch-on. Hot iron: let it cool in its stand."},
				RightWhen: fmt.Sprintf("All %d lines are ticked.", len(m.net.MeterList(i))),
			},
			tags: "metered", precedes: "lead-" + slug(l.Name),
		})
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
		m.add(row{
			Step: Step{
				ID: "lead-" + slug(l.Name), Do: fmt.Sprintf("Plug %s into %s, %s.", l.Name, to, how), Place: place,
				Parts: []string{l.Name}, Minutes: [2]float64{1, 4}, where: rig.LeadPath(i), Cautions: cautions, RightWhen: right,
				Undo: "Take " + l.Name + " off.",
			},
			tags: tags, follows: follows, precedes: "first-start",
		})
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
