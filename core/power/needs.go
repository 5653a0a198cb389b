package power

import (
	"kolvan/core/finding"
	"kolvan/core/rig"
	"kolvan/core/units"
)

// needCard names the facts without which the card's load is open.
func (n *Network) needCard(r *finding.Rule, decides string, out *finding.List) {
	card := &n.rig.Card
	if card.Plugs == nil {
		out.Need(r, "/card/plugs", "the power plugs of the card", "Look at its upper edge, or read its papers.", decides)
	}
	needWatts(r, card.Power, "/card/power_w", "the card's board power", "Read its papers, or measure it.", decides, out)
	for i := range n.Plugs {
		if n.Plugs[i].Announced.Known() || card.Plugs[i].Power.Known {
			continue
		}
		at := "/card/plugs/" + itoa(i)
		if n.ref.Kind(card.Plugs[i].Connector.Value).Sensed {
			out.Need(
				r, at+"/sense_w", "what the sense pins of card plug "+card.Plugs[i].Name+" announce",
				"Read the label of the lead or of the card.", decides,
			)
		} else if !card.Plugs[i].Connector.Known {
			out.Need(r, at+"/connector", "the connector of card plug "+card.Plugs[i].Name, "Count its pins.", decides)
		} else {
			n.eachLoad(func(_ int, e *EndLoad) {
				if e.port.kind == theCard && e.port.at == i && e.open() {
					n.needHalf(r, e, decides, out)
				}
			})
		}
	}
}

// needHalf asks for the half of an end that is taken to be the like of the other.
func (n *Network) needHalf(r *finding.Rule, e *EndLoad, decides string, out *finding.List) {
	if !e.told {
		out.Need(
			r, e.Where()+"/connector", "the connector of "+n.rig.Leads[e.lead].Name+" at "+n.loadWords(e),
			"Count its pins: six, or eight with the two that may stand apart.", decides,
		)
		return
	}
	if e.port.at >= 0 {
		out.Need(r, n.pathOf(e.port, "plugs")+"/connector", "the connector of "+n.loadWords(e), "Count its pins.", decides)
	}
}

// needHost names what the host draws.
func (n *Network) needHost(r *finding.Rule, decides string, out *finding.List) {
	needWatts(
		r, n.rig.Host.Power, "/host/power_w", "what the host draws under load",
		"Read a wall meter while it works, or its brick's label as the most it can be.", decides, out,
	)
}

// needWatts asks for a power that is not told, or not as closely as it decides.
func needWatts(r *finding.Rule, told rig.Fact[units.Watt], where, what, how, decides string, out *finding.List) {
	switch ends := rig.Span(told); {
	case !told.Known:
		out.Need(r, where, what, how, decides)
	case told.Tolerance > 0:
		out.Need(
			r, where, what+" more closely than "+told.Value.String()+" ± "+units.Watt(told.Tolerance).String(), how, decides,
			float64(ends.Low), float64(ends.High),
		)
	}
}

// needLoads names the facts without which what passes a lead is open.
func (n *Network) needLoads(r *finding.Rule, lead int, out *finding.List) {
	f, decides := &n.Leads[lead].flow, "how much "+n.rig.Leads[lead].Name+" carries"
	if !n.card(f).Known() {
		n.needCard(r, decides, out)
		n.needMaking(r, decides, out)
	}
	if !f.host.Known() {
		n.needHost(r, decides, out)
	}
	for j := range n.Leads[lead].To {
		if e := &n.Leads[lead].To[j]; e.port.kind == theCard && e.port.at < 0 && len(n.Plugs) > 1 {
			out.Need(
				r, e.Where()+"/at", "which plug of the card "+n.rig.Leads[lead].Name+" goes to", "Look at the card's upper edge.",
				decides,
			)
		}
	}
	n.needVolts(r, lead, out)
}

func (n *Network) needMaking(r *finding.Rule, decides string, out *finding.List) {
	if n.Slot.Stage >= 0 && !n.rig.Route.Stages[n.Slot.Stage].Makes3V3.Known {
		out.Need(
			r, n.Slot.where+"/makes_3v3_from_12v", "whether "+n.Slot.Name+" makes its 3.3 V from 12 V",
			"Look for a converter beside the slot, or ask its papers.", decides,
		)
	}
}

// needVolts asks for the voltage of the supply a lead comes from: without it its
// watts say nothing of its amps.
func (n *Network) needVolts(r *finding.Rule, lead int, out *finding.List) {
	if l := &n.Leads[lead]; (l.Volts == 0 || l.off > 0) && l.net.fed {
		n.needVoltage(r, lead, "how many amps "+n.rig.Leads[lead].Name+" carries", out)
	}
}

// needVoltage asks for the voltage of a lead's source, or for it more closely.
func (n *Network) needVoltage(r *finding.Rule, lead int, decides string, out *finding.List) {
	where, of := n.voltsFact(lead)
	l := &n.Leads[lead]
	if l.Volts == 0 {
		out.Need(r, where, "the voltage that "+of+" gives", "Read its label.", decides)
		return
	}
	span := voltage{l.Volts, l.off}.span()
	out.Need(
		r, where, "the voltage that "+of+" gives more closely than "+l.Volts.String()+" ± "+l.off.String(),
		"Read its label, or measure it.", decides, float64(span.Low), float64(span.High),
	)
}

// needCapacity asks for the ends on the way to the dock that state nothing.
func (n *Network) needCapacity(r *finding.Rule, out *finding.List) {
	n.eachEnd(func(lead int, e *EndLoad) {
		onTheWay := e.source && n.reaches(lead, aStage) || e.port.kind == aStage
		if (e.Fit == Unknown || e.Fit == Unstated) && onTheWay {
			n.needEnd(r, lead, e, out)
		}
	})
}

// needEnd asks what a pair carries: for its connector, or for what it states.
func (n *Network) needEnd(r *finding.Rule, lead int, e *EndLoad, out *finding.List) {
	name := n.rig.Leads[lead].Name
	if e.Fit == Unknown && e.plugRow != nil {
		n.needSocket(r, e, out)
		return
	}
	if e.Fit == Unknown {
		out.Need(r, e.Where()+"/connector", "the connector of "+name, "Look at the lead.", "what it carries")
		return
	}
	list, field := "inlets", "/current_a"
	if e.source {
		list = "outlets"
	}
	if e.sensed() {
		field = "/sense_w"
	}
	if e.port.at < 0 {
		field, list = "", ""
	}
	where := n.pathOf(e.port, list) + field
	if e.into.current.Known && !e.sensed() {
		where = e.Where() + "/current_a" // the other half is told
	}
	out.Need(
		r, where, "what the "+rig.Spoken(e.Socket)+" of "+name+" carries", "Read the part's label or papers.",
		"whether it carries its load", n.around(lead, e)...,
	)
}

// around are the figures at which what a pair states changes something: amps, or the watts
// that sense pins announce.
func (n *Network) around(lead int, e *EndLoad) []float64 {
	if e.sensed() {
		return nil // they announce one of four
	}
	amps := n.ampsOf(lead, e.Load)
	return []float64{float64(amps.Low), float64(amps.High)}
}

// needSocket asks what a plug that is told goes into.
func (n *Network) needSocket(r *finding.Rule, e *EndLoad, out *finding.List) {
	out.Need(
		r, n.pathOf(e.port, "inlets")+"/connector", "the connector of "+n.loadWords(e),
		"Count its pins, and compare its face with the plug's.",
		"whether "+n.rig.Leads[e.lead].Name+" puts supply on ground there",
	)
}
