package power

import (
	"slices"
	"strings"

	"kolvan/core/finding"
	"kolvan/core/reference"
	"kolvan/core/rig"
)

// judgePins holds the pin maps of the two sides of every end together.
func judgePins(r *finding.Rule, n *Network, out *finding.List) {
	for i := range n.Leads {
		if where, may := n.mayClash(i); may {
			out.Need(
				r, where, "the connector on "+n.rig.Leads[i].Name, "Compare the faces, pin by pin: the two look alike.",
				"whether it puts supply on ground",
			)
		}
		if n.rig.Leads[i].Wires != nil {
			n.judgeWires(r, i, out)
			continue
		}
		n.judgeForeignMap(r, i, out)
	}
	n.eachEnd(func(lead int, e *EndLoad) {
		if e.Fit == Unknown && e.plugRow != nil && e.port.at >= 0 {
			n.needSocket(r, e, out)
			return
		}
		n.judgeOwnMaps(r, lead, e, out)
		if e.Fit != Mates && e.Fit != Clashes || e.Plug == e.Socket {
			return
		}
		n.judgeMap(r, lead, e, n.pair(e).Mating, out)
	})
}

// judgeOwnMaps holds the map of a plug of which a half says itself what its pins carry
// against what it goes into, as far as both were read.
func (n *Network) judgeOwnMaps(r *finding.Rule, lead int, e *EndLoad, out *finding.List) {
	if !n.OwnMap(e) || e.port.kind == nothing || e.Fit == NoEntry {
		return
	}
	plug, socket := n.plugPins(e), n.socketPins(e)
	for i := range plug {
		to := i
		if e.shape != nil && e.shape.Pins != nil && i < len(e.shape.Pins) {
			to = e.shape.Pins[i] - 1
		}
		if to < 0 || to >= len(socket) || plug[i] == "" || socket[to] == "" || !clashes(plug[i], socket[to]) {
			continue
		}
		out.Add(
			r, finding.Danger, e.Where(), nil, "%s: pin %d of the %s is %s, and of its socket %s. Never join them.",
			n.rig.Leads[lead].Name, i+1, rig.Spoken(e.Plug), plug[i], socket[to],
		)
		return
	}
}

func (n *Network) judgeMap(r *finding.Rule, lead int, e *EndLoad, m reference.Mating, out *finding.List) {
	plug, socket := e.plugRow, e.socketRow
	name := n.rig.Leads[lead].Name
	if pin, on := badContact(plug, socket, m); on != "" {
		out.Add(r, finding.Danger, e.Where(), nil, "%s: a %s plug goes into this %s socket, but puts %s on %s (pin %d). Never join them.",
			name, rig.Spoken(plug.Connector), rig.Spoken(socket.Connector), plug.Pins[pin], on, pin+1)
		return
	}
	if open := openPin(plug, socket, m, isNeeded); open != "" {
		out.Add(r, finding.Blocked, e.Where(), nil, "%s leaves %s of the %s socket open.", name, open, rig.Spoken(socket.Connector))
		return
	}
	if open := openPin(plug, socket, m, isSense); open != "" {
		out.Add(r, finding.Risk, e.Where(), finding.Numbers{{Name: "limit_w", Value: float64(e.Cap.Plan.At(twelve))}},
			"%s leaves %s of the %s socket open: it then announces %v.", name, open, rig.Spoken(socket.Connector), e.Cap.Plan.At(twelve))
	}
}

// judgeForeignMap: a lead that joins a proprietary plug with another kind does
// what its maker, or whoever made it, had in mind; nobody can tell by its look.
func (n *Network) judgeForeignMap(r *finding.Rule, i int, out *finding.List) {
	load := &n.Leads[i]
	if !load.net.fed {
		return
	}
	for j := range load.From {
		for k := range load.To {
			from, to := &load.From[j], &load.To[k]
			if n.OwnMap(from) == n.OwnMap(to) || from.Fit == NoEntry || to.Fit == NoEntry || to.port.kind == nothing {
				continue
			}
			where := from
			if n.OwnMap(to) {
				where = to
			}
			if where.plugMap != nil && !slices.Contains(where.plugMap, "") {
				continue // somebody read it
			}
			out.Need(
				r, n.MapOf(where), "which pin of the proprietary plug of "+n.rig.Leads[i].Name+" carries what",
				"Read its label, or measure it with the supply on and nothing else plugged in.",
				"whether "+n.loadWords(to)+" gets supply where it wants ground",
			)
		}
	}
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
	case from.told && to.told:
		return "", false
	case to.told:
		untold, same = from, to.Plug
	}
	m, _ := n.ref.Enters(same, untold.Socket)
	return untold.Where() + "/connector", m.Lookalike
}

func isSupply(pin string) bool { return strings.HasPrefix(pin, "+") || pin == "-12" }
func isSense(pin string) bool  { return strings.HasPrefix(pin, "sense") }

// isNeeded: −12, activity, power-good and a missing pin do not matter when open.
func isNeeded(pin string) bool {
	return strings.HasPrefix(pin, "+") || pin == "GND" || pin == "turn-on"
}

// Contact is one pin of a plug on one of its socket, from 1; Bad marks supply on
// what it must not meet.
type Contact struct {
	Plug, Socket int
	Bad          bool
}

// Contacts lists what touches what at a mated end; none where the plug does not
// enter or a map is not known.
func (n *Network) Contacts(e *EndLoad) (list []Contact) {
	m := n.pair(e)
	plug, socket := e.plugRow, e.socketRow
	if !m.Enters || plug == nil || socket == nil {
		return nil
	}
	for i := range plug.Pins {
		to := i + 1
		if m.Pins != nil {
			to = m.Pins[i]
		}
		if to > 0 {
			list = append(list, Contact{i + 1, to, clashes(plug.Pins[i], socket.Pins[to-1])})
		}
	}
	return list
}

// Rows are the pins in each row of a connector's face, the latch beside the last.
func (n *Network) Rows(c rig.Connector) []int {
	row := n.row(c)
	switch {
	case row == nil || len(row.Pins) == 0:
		return nil
	case row.Rows == nil:
		return []int{len(row.Pins)}
	default:
		return row.Rows
	}
}

// Shell is the outline of a connector's face: latch, bevelled, l-key, round; "" for a
// plain box, or one that nobody knows.
func (n *Network) Shell(c rig.Connector) string {
	if row := n.row(c); row != nil {
		return row.Shell
	}
	return ""
}

// clashes reports a pin that brings supply where it must not be, or ground to a
// supply pin.
func clashes(plug, socket string) bool {
	return isSupply(plug) && plug != socket && socket != "none" || isSupply(socket) && plug == "GND"
}

// badContact returns the first pin of the plug that brings supply where it must
// not be, or brings ground to a supply pin, and what it meets there.
func badContact(plug, socket *reference.Connector, m reference.Mating) (pin int, on string) {
	for i, to := range m.Pins {
		if to == 0 {
			continue
		}
		if b := socket.Pins[to-1]; clashes(plug.Pins[i], b) {
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
