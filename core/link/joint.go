package link

import (
	"fmt"
	"slices"
	"strings"

	"kolvan/core/finding"
	"kolvan/core/rig"
	"kolvan/core/units"
)

// keysTaken lists the slots an M.2 module of each key enters.
var keysTaken = map[rig.Key][]rig.Key{
	"M": {"M"}, "B": {"B"}, "B+M": {"B", "M", "B+M"}, "E": {"E"}, "A": {"A"}, "A+E": {"A", "E", "A+E"},
}

// end is one side of a joint of the route.
type end struct {
	rig.Joint
	name  string
	at    string // JSON Pointer of its part
	side  string // of the part, behind that
	lanes string // name of the field that tells its body's lanes
	least int    // lanes that its edge has room for at least
}

func (e *end) where() string { return e.at + e.side }

func slotEnd(slot *rig.Slot, where string) end {
	return end{
		rig.Joint{Form: slot.Form, Key: slot.Key, Lanes: slot.Body(), OpenEnd: slot.OpenEnd}, slot.Name, where, "",
		"/lanes_mechanical", 1,
	}
}

// Continues reports that the stage's plug is known to go into the end of the
// route as it stands.
func Continues(r *rig.Rig, s *rig.Stage) bool {
	if n := len(r.Route.Stages); n > 0 {
		return Follows(&r.Route.Stages[n-1], s)
	}
	slot := r.Slot(r.Route.Slot)
	return slot != nil && Begins(slot, s)
}

// Begins reports a stage whose plug is known to go into the slot.
func Begins(slot *rig.Slot, s *rig.Stage) bool {
	socket := slotEnd(slot, "").Joint
	return enters(&socket, &s.Plug) && (!cabled(s.Plug.Form) || s.Kind.Or(rig.Cable) == rig.Cable)
}

// Follows reports a stage whose plug is known to go into the socket of the one before.
func Follows(before, s *rig.Stage) bool {
	if !enters(&before.Socket, &s.Plug) {
		return false
	}
	return !cabled(s.Plug.Form) || !before.Kind.Known || !s.Kind.Known || (before.Kind.Value == rig.Cable) != (s.Kind.Value == rig.Cable)
}

// cabled reports a form whose sockets are alike on all parts: a cable goes between
// two of them, and one cable does not go into another.
func cabled(form rig.Fact[rig.Form]) bool {
	return slices.ContainsFunc(
		[]rig.Form{rig.OCuLink, rig.Video, rig.Tunnel, rig.SFF8654, rig.SFFTA1016, rig.USB3Lane},
		func(f rig.Form) bool { return rig.Is(form, f) },
	)
}

func enters(socket, plug *rig.Joint) bool {
	faults := finding.List{Silent: true}
	joint(&finding.Rule{}, &end{Joint: *socket}, &end{Joint: *plug}, &faults)
	return len(faults.Findings) == 0
}

// judgeForm looks at every joint from the slot to the card.
func judgeForm(r *finding.Rule, p *Plan, out *finding.List) {
	slot := p.rig.Slot(p.rig.Route.Slot)
	if slot == nil {
		return
	}
	socket := slotEnd(slot, p.Elements[0].Where)
	for i := range p.rig.Route.Stages {
		s := &p.rig.Route.Stages[i]
		at := p.Elements[i+1].Where
		joint(r, &socket, &end{s.Plug, s.Name, at, "/plug", "/lanes", 1}, out)
		judgeMadeFor(r, p.rig, s, at, out)
		socket = end{s.Socket, s.Name, at, "/socket", "/lanes", 1}
	}
	if p.rig.Card.Name != "" || p.rig.Card.Edge.Known || p.rig.Card.Lanes.Known {
		card := end{
			rig.Joint{Form: rig.Of(p.rig.Card.EdgeForm()), Key: p.rig.Card.Key, Lanes: p.rig.Card.EdgeLength()},
			p.Elements[len(p.Elements)-1].Name, "/card", "", "/edge_lanes", max(1, p.rig.Card.Lanes.Value),
		}
		joint(r, &socket, &card, out)
	}
}

// judgeMadeFor: a riser or a module that was made for a series of hosts has its own
// screws, ends and wiring, and goes into no other.
func judgeMadeFor(r *finding.Rule, rg *rig.Rig, s *rig.Stage, at string, out *finding.List) {
	made, told := s.MadeFor.Get()
	if !told || rg.Host.Name == "" || slices.ContainsFunc(made, func(host string) bool { return strings.EqualFold(host, rg.Host.Name) }) {
		return
	}
	out.Add(
		r, finding.Blocked, at+"/made_for", nil, "%s was made for %s alone; this host is %s.", s.Name,
		strings.Join(made, ", "), rg.Host.Name,
	)
}

func joint(r *finding.Rule, socket, plug *end, out *finding.List) {
	for _, e := range [...]*end{socket, plug} {
		if !e.Form.Known {
			out.Need(r, e.where()+"/form", "the form of "+e.name+" where "+plug.name+" meets "+socket.name,
				"Look at the part.", "whether the two go together")
		}
	}
	if !socket.Form.Known || !plug.Form.Known {
		return
	}
	if !sameForm(socket.Form.Value, plug.Form.Value) {
		out.Add(r, finding.Blocked, plug.where(), nil, "%s has a plug of the form %s; %s takes %s.",
			plug.name, rig.Spoken(plug.Form.Value), socket.name, rig.Spoken(socket.Form.Value))
		return
	}
	switch plug.Form.Value {
	case rig.M2:
		judgeKey(r, socket, plug, out)
	case rig.CardSlot:
		judgeEdge(r, socket, plug, out)
	case rig.OCuLink, rig.SFF8654, rig.SFFTA1016:
		judgeOCuLink(r, socket, plug, out)
	}
}

// sameForm: mSATA is the mini PCIe connector; that it carries nothing is for
// another rule.
func sameForm(socket, plug rig.Form) bool {
	return socket == plug || socket == rig.MSATA && plug == rig.MiniPCIe
}

func judgeKey(r *finding.Rule, socket, plug *end, out *finding.List) {
	for _, e := range [...]*end{socket, plug} {
		if !e.Key.Known {
			out.Need(r, e.where()+"/key", "the key of "+e.name, "Look where the notch in the contacts is.", "whether the module goes in")
		}
	}
	if !socket.Key.Known || !plug.Key.Known {
		return
	}
	for _, taken := range keysTaken[plug.Key.Value] {
		if taken == socket.Key.Value {
			return
		}
	}
	out.Add(r, finding.Blocked, plug.where(), nil, "%s has key %s; %s has key %s.",
		plug.name, plug.Key.Value, socket.name, socket.Key.Value)
}

// judgeEdge compares a card slot's length with the edge that should enter it.
// A slot of sixteen lanes takes any edge; an open end too.
func judgeEdge(r *finding.Rule, socket, plug *end, out *finding.List) {
	const longest = 16
	if rig.Is(socket.Lanes, longest) || rig.Is(plug.Lanes, 1) || rig.Is(socket.OpenEnd, true) {
		return
	}
	edge, room := plug.body(), socket.body()
	if !socket.Lanes.Known || !plug.Lanes.Known && edge.Low <= room.High {
		for _, e := range [...]*end{socket, plug} {
			if !e.Lanes.Known {
				out.Need(
					r, e.where()+e.lanes, "how many lanes "+e.name+" has room for", "Hold it beside a slot of known length.",
					"whether the edge goes in",
				)
			}
		}
		return
	}
	if edge.Low <= room.High {
		return
	}
	if !socket.OpenEnd.Known {
		out.Need(r, socket.where()+"/open_end", "whether the end of "+socket.name+" is open", "Look at the end of the slot.",
			fmt.Sprintf("whether an edge of %d lanes goes into a slot of %d", edge.Low, room.High))
		return
	}
	out.Add(r, finding.Blocked, plug.where(), finding.Numbers{
		{Name: "edge_lanes", Value: float64(edge.Low)}, {Name: "slot_lanes", Value: float64(room.High)},
	}, "The edge of %s is %s%d lanes long; %s is closed behind %d.", plug.name, map[bool]string{true: "at least "}[!plug.Lanes.Known],
		edge.Low, socket.name, room.High)
}

// body is how many lanes an edge has, or a slot has room for.
func (e *end) body() units.Range[int] {
	if e.Lanes.Known {
		return units.Exactly(e.Lanes.Value)
	}
	return units.Between(e.least, 16)
}

func judgeOCuLink(r *finding.Rule, socket, plug *end, out *finding.List) {
	if socket.Lanes.Known && plug.Lanes.Known && socket.Lanes.Value != plug.Lanes.Value {
		out.Add(r, finding.Blocked, plug.where(), nil, "%s is the %d-lane size; %s takes the %d-lane size.",
			plug.name, plug.Lanes.Value, socket.name, socket.Lanes.Value)
	}
	for _, pair := range [...][2]*end{{socket, plug}, {plug, socket}} {
		if untold, other := pair[0], pair[1]; !untold.Lanes.Known && other.Lanes.Known {
			out.Need(
				r, untold.where()+untold.lanes, "whether "+untold.name+" has the 4-lane or the 8-lane size there",
				"Measure its shell: the two do not go together.", "whether it goes into "+other.name,
			)
		}
	}
}
