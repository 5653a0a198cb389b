package power

import (
	"strings"

	"kolvan/core/finding"
	"kolvan/core/reference"
	"kolvan/core/rig"
	"kolvan/core/units"
)

// Without a stated current a barrel is quiet to 5 A, unknown and a risk to 10 A,
// dangerous above (T).
const (
	barrelQuiet units.Amp = 5
	barrelMost  units.Amp = 10
)

func judgeConnector(r *finding.Rule, n *Network, out *finding.List) {
	for i := range n.Leads {
		load := &n.Leads[i]
		n.judgeEnds(r, i, load.From, out)
		if !load.Plain() || load.To[0].Socket != load.From[0].Socket {
			n.judgeEnds(r, i, load.To, out)
		}
	}
}

func (n *Network) judgeEnds(r *finding.Rule, lead int, ends []EndLoad, out *finding.List) {
	for j := range ends {
		e := &ends[j]
		switch e.Fit {
		case Mates:
			n.judgeCapacity(r, lead, e, out)
		case Unstated:
			n.judgeUnstated(r, lead, e, out)
		case Unknown:
			out.Need(r, e.Needs, "the connector of "+n.rig.Leads[lead].Name, "Look at the lead.", "what it carries")
		}
	}
}

func (n *Network) judgeCapacity(r *finding.Rule, lead int, e *EndLoad, out *finding.List) {
	if !e.Load.Known {
		n.needLoad(r, lead, out)
		return
	}
	volts := n.Leads[lead].Volts
	if volts == 0 && e.Load.Watt > 0 {
		n.needVolts(r, lead, out)
		return
	}
	amps := e.Load.Over(volts)
	if !over(amps, e.Cap.Plan) {
		n.needConversion(r, lead, e, amps, out)
		return
	}
	level, limit, word := finding.Risk, e.Cap.Plan, "planned for"
	if over(amps, e.Cap.Rating) {
		level, limit, word = finding.Danger, e.Cap.Rating, "rated for"
	}
	out.Add(r, level, e.Where, finding.Numbers{
		{Name: "load_w", Value: float64(e.Load.Watt)}, {Name: "limit_w", Value: float64(limit.At(volts))},
		{Name: "load_a", Value: float64(amps)}, {Name: "limit_a", Value: float64(limit)}, {Name: "contacts", Value: float64(e.Cap.Contacts)},
	}, "%s: %v asked of a %s %s %v (%v of %v).", n.rig.Leads[lead].Name, e.Load.Watt, rig.Spoken(e.Cap.By), word, limit.At(volts), amps, limit)
}

// needVolts asks for the tension of the supply a lead comes from: without it its
// watts say nothing of its amps.
func (n *Network) needVolts(r *finding.Rule, lead int, out *finding.List) {
	name := n.rig.Leads[lead].Name
	for i := range n.rig.Supplies {
		s := &n.rig.Supplies[i]
		if n.comesFrom(lead, s.Name, 0) {
			out.Need(r, "/supplies/"+itoa(i)+"/rails", "the tension "+s.Name+" gives at "+name, "Read its label.", "how many amps "+name+" carries")
			return
		}
	}
}

// comesFrom follows the first source end of a lead to its supply.
func (n *Network) comesFrom(lead int, supply string, depth int) bool {
	from := n.rig.Leads[lead].From
	if len(from) == 0 || depth > len(n.rig.Leads) {
		return false
	}
	if from[0].Part == supply {
		return true
	}
	for i := range n.rig.Leads {
		up := &n.rig.Leads[i]
		feeds := up.Name == from[0].Part || n.rig.Stage(from[0].Part) != nil && up.EndsAt(from[0].Part)
		if feeds && n.comesFrom(i, supply, depth+1) {
			return true
		}
	}
	return false
}

// needConversion asks how a dock makes its 3.3 V where that decides: made from
// 12 V it would ask the connector for more than it is planned for.
func (n *Network) needConversion(r *finding.Rule, lead int, e *EndLoad, amps units.Amp, out *finding.List) {
	if n.Slot.Stage < 0 || n.rig.Route.Stages[n.Slot.Stage].Makes3V3.Known {
		return
	}
	more := n.Slot.At3V3.times(1 / n.ref.ConversionShare).Watt
	if n.most.Known { // the card takes no more in all, the loss aside
		loss := n.Slot.At3V3.times(1/n.ref.ConversionShare - 1).Watt
		more = min(more, max(0, n.most.Watt+loss-n.Leads[lead].flow.card.Watt))
	}
	for _, end := range n.rig.Leads[lead].To {
		if end.Part == n.Slot.Name && over(amps+more.Over(n.Leads[lead].Volts), e.Cap.Plan) {
			out.Need(r, n.Slot.Where+"/makes_3v3_from_12v", "whether "+n.Slot.Name+" makes its 3.3 V from 12 V", "Look for a converter beside the slot, or ask its papers.",
				"whether "+n.rig.Leads[lead].Name+" carries the slot")
		}
	}
}

// needLoad names the fact without which the lead's load is open.
func (n *Network) needLoad(r *finding.Rule, lead int, out *finding.List) {
	where, fact, find := n.missingLoad(lead)
	out.Need(r, where, fact, find, "how much "+n.rig.Leads[lead].Name+" carries")
}

func (n *Network) missingLoad(lead int) (where, fact, find string) {
	for _, end := range n.rig.Leads[lead].To {
		if end.Part == rig.HostPart && !n.Host.Known {
			return "/host/power_w", "what the host draws under load", "Read a wall meter while it works, or its brick's label as the most it can be."
		}
	}
	return n.missingCardLoad()
}

func (n *Network) missingCardLoad() (where, fact, find string) {
	card := &n.rig.Card
	if !card.Power.Known {
		return "/card/power_w", "the card's board power", "Read its papers, or measure it."
	}
	for i := range card.Plugs {
		if plug := &card.Plugs[i]; !plug.Power.Known && !n.plugRating(plug).Known {
			at := "/card/plugs/" + itoa(i)
			if rig.Is(plug.Connector, "card-16") {
				return at + "/sense_w", "what the sense pins of card plug " + plug.Name + " announce", "Read the label of the lead or of the card."
			}
			return at + "/connector", "the connector of card plug " + plug.Name, "Count its pins."
		}
	}
	return "/card/plugs", "the power plugs of the card", "Look at its upper edge, or read its papers."
}

func (n *Network) judgeUnstated(r *finding.Rule, lead int, e *EndLoad, out *finding.List) {
	volts := n.Leads[lead].Volts
	amps := e.Load.Over(volts)
	if e.Socket != "barrel" {
		if !e.Load.Known || e.Load.Watt > 0 {
			out.Need(r, e.Needs, "what the "+rig.Spoken(e.Socket)+" of "+n.rig.Leads[lead].Name+" carries", "Read the part's label or papers.", "whether it carries its load")
		}
		return
	}
	switch {
	case !e.Load.Known:
		n.needLoad(r, lead, out)
	case volts == 0 && e.Load.Watt > 0:
		n.needVolts(r, lead, out)
	case amps > barrelMost:
		out.Add(r, finding.Danger, e.Where, finding.Numbers{{Name: "load_a", Value: float64(amps)}, {Name: "limit_a", Value: float64(barrelMost)}},
			"%s: %v through a barrel plug that states no current.", n.rig.Leads[lead].Name, amps)
	case amps > barrelQuiet:
		out.Add(r, finding.Risk, e.Where, finding.Numbers{{Name: "load_a", Value: float64(amps)}, {Name: "limit_a", Value: float64(barrelQuiet)}},
			"%s: %v through a barrel plug that states no current.", n.rig.Leads[lead].Name, amps)
		out.Need(r, e.Needs, "what current the barrel plug of "+n.rig.Leads[lead].Name+" is made for", "Read the part's papers.", "whether it carries "+amps.String())
	}
}

func judgeLead(r *finding.Rule, n *Network, out *finding.List) {
	for i := range n.Leads {
		load := &n.Leads[i]
		if load.Plain() && n.rig.Lead(n.rig.Leads[i].From[0].Part) == nil {
			continue // power.connector says it all
		}
		if !load.Certain || len(load.To) == 0 {
			continue // the open connector is asked for by power.connector
		}
		if !load.Load.Known {
			n.needLoad(r, i, out)
			continue
		}
		n.judgeCarries(r, i, out)
	}
}

func (n *Network) judgeCarries(r *finding.Rule, i int, out *finding.List) {
	load, name := &n.Leads[i], n.rig.Leads[i].Name
	carries := load.Carries.At(load.Volts)
	promised := n.promised(i).At(load.Volts)
	numbers := finding.Numbers{{Name: "load_w", Value: float64(load.Load.Watt)}, {Name: "carries_w", Value: float64(carries)}, {Name: "promised_w", Value: float64(promised)}}
	where := "/leads/" + itoa(i)
	if over(load.Amps(), load.Carries) {
		out.Add(r, finding.Danger, where, numbers, "%s: %v asked, its source ends together carry %v.", name, load.Load.Watt, carries)
		return
	}
	if over(promised, carries) {
		out.Add(r, finding.Risk, where, numbers, "%s ends in plugs rated %v; its source ends together carry %v.", name, promised, carries)
	}
}

// promised is the rating of the lead's own load ends, as anybody reading the
// plugs would take it.
func (n *Network) promised(i int) (sum units.Amp) {
	for j := range n.Leads[i].To {
		e := &n.Leads[i].To[j]
		if cap, ok := n.ref.Mate(e.Plug, e.Plug); ok {
			rating := cap.Rating
			if row := n.ref.Connector(e.Plug); row.Sensed && e.Fit == Mates {
				rating = e.Cap.Rating
			}
			sum += rating
		}
	}
	return sum
}

// judgePins holds the pin maps of the two sides of every end together.
func judgePins(r *finding.Rule, n *Network, out *finding.List) {
	for i := range n.rig.Leads {
		if where, may := n.mayClash(i); may {
			out.Need(r, where, "the connector on "+n.rig.Leads[i].Name, "Compare the faces, pin by pin: the two look alike.", "whether it puts supply on ground")
		}
	}
	n.eachEnd(func(lead int, e *EndLoad) {
		if e.Fit != Mates && e.Fit != Clashes || e.Plug == e.Socket {
			return
		}
		m, _ := n.ref.Enters(e.Plug, e.Socket)
		plug, socket := n.ref.Connector(e.Plug), n.ref.Connector(e.Socket)
		name := n.rig.Leads[lead].Name
		if pin, on := badContact(plug, socket, m); on != "" {
			out.Add(r, finding.Danger, e.Where, nil, "%s: a %s plug goes into this %s socket, but puts %s on %s (pin %d). Never join them.",
				name, rig.Spoken(plug.Connector), rig.Spoken(socket.Connector), plug.Pins[pin], on, pin+1)
			return
		}
		if open := openPin(plug, socket, m, isNeeded); open != "" {
			out.Add(r, finding.Blocked, e.Where, nil, "%s leaves %s of the %s socket open.", name, open, rig.Spoken(socket.Connector))
			return
		}
		if open := openPin(plug, socket, m, isSense); open != "" {
			out.Add(r, finding.Risk, e.Where, finding.Numbers{{Name: "limit_w", Value: float64(e.Cap.Rating.At(12))}},
				"%s leaves %s of the %s socket open: it then announces %v.", name, open, rig.Spoken(socket.Connector), e.Cap.Rating.At(12))
		}
	})
}

// mayClash reports a straight lead whose end nobody has described, and which
// would clash there if both its ends were the same.
func (n *Network) mayClash(i int) (where string, may bool) {
	lead, load := &n.rig.Leads[i], &n.Leads[i]
	if !straight(lead) {
		return "", false
	}
	from, to := &load.From[0], &load.To[0]
	untold, same := to, from.Plug
	switch {
	case !lead.To[0].Connector.Known:
	case !lead.From[0].Connector.Known:
		untold, same = from, to.Plug
	default:
		return "", false
	}
	m, _ := n.ref.Enters(same, untold.Socket)
	return untold.Where + "/connector", m.Lookalike
}

func isSupply(pin string) bool { return strings.HasPrefix(pin, "+") || pin == "-12" }
func isSense(pin string) bool  { return strings.HasPrefix(pin, "sense") }

// isNeeded: −12, activity, power-good and a missing pin do not matter when open.
func isNeeded(pin string) bool {
	return strings.HasPrefix(pin, "+") || pin == "GND" || pin == "turn-on"
}

// badContact returns the first pin of the plug that brings supply where it must
// not be, or brings ground to a supply pin, and what it meets there.
func badContact(plug, socket *reference.Connector, m reference.Mating) (pin int, on string) {
	for i, to := range m.Pins {
		if to == 0 {
			continue
		}
		a, b := plug.Pins[i], socket.Pins[to-1]
		clash := isSupply(a) && a != b && b != "none" || isSupply(b) && a == "GND"
		if clash {
			return i, b
		}
	}
	return 0, ""
}

// openPin returns a kind of pin of the socket, of those that count, that no pin
// of the plug reaches: a sense pin one by one, others when all of the kind stay
// open.
func openPin(plug, socket *reference.Connector, m reference.Mating, counts func(string) bool) string {
	reached := make([]bool, len(socket.Pins))
	kinds := map[string]bool{}
	for _, to := range m.Pins {
		if to > 0 {
			reached[to-1] = true
			kinds[socket.Pins[to-1]] = true
		}
	}
	for i, pin := range socket.Pins {
		if !reached[i] && counts(pin) && !kinds[pin] {
			return pin
		}
	}
	return ""
}
