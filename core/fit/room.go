package fit

import (
	"fmt"
	"strconv"
	"strings"

	"kolvan/core/finding"
	"kolvan/core/rig"
	"kolvan/core/units"
)

// plugWide is how wide a plug of the card and the loom behind it are, mm.
const plugWide units.Millimetre = 25

// judgePlug holds the room where a plug's lead leaves the card against what its bend
// takes.
func judgePlug(r *finding.Rule, c *Chamber, out *finding.List) {
	if c.Open() || !c.Placed {
		return // fit.card asks for what is missing
	}
	for i := range c.rig.Card.Plugs {
		p := &c.rig.Card.Plugs[i]
		if !p.Side.Known {
			continue // stated: not judged
		}
		at := "/card/plugs/" + strconv.Itoa(i)
		wants := units.Exactly(c.ref.BendOf(p.Connector.Value)).Plus(lengthOf(&p.Out, 0, c.ref.PlugOut).ends)
		room, name := c.roomFor(p)
		switch wants.Over(room) {
		case units.Always:
			out.Add(r, finding.Blocked, at, finding.Numbers{
				{Name: "room_mm", Value: float64(room.High)}, {Name: "wanted_mm", Value: float64(wants.Low)},
			},
				"Plug %s has %v to %s; the plug and the bend of its lead want %v.", p.Name, room.High, name, wants.Low)
		case units.Sometimes:
			if !room.Known() {
				out.Need(r, at+"/at_mm", "where plug "+p.Name+" is along the card", ruler, "whether what is above it is in its way")
			} else {
				out.Need(
					r, at+"/stands_out_mm", "how far the back of plug "+p.Name+" stands out of the card", "Plug it in and measure.",
					"whether its lead has room to bend",
				)
			}
		}
	}
}

// roomFor is the room from the card to what is nearest where a plug's lead leaves it:
// at least, to all that may be over it, at most, to what is for certain.
func (c *Chamber) roomFor(p *rig.CardPlug) (room units.Range[units.Millimetre], name string) {
	axis := c.axes[1]
	if rig.Is(p.Side, "end") {
		axis = c.axes[0]
	}
	wall := extent3(&c.rig.Chamber.Box)[axis]
	room = units.Between(0, longest)
	if wall.Known {
		room, name = units.Exactly(wall.Value-c.Card.Max[axis]), "the wall"
	}
	low, high := c.Card.Min[c.axes[0]], c.Card.Max[c.axes[0]]
	if p.At.Known {
		low, high = low+p.At.Value-plugWide/2, low+p.At.Value+plugWide/2
	}
	c.before(axis, func(o ahead) {
		along := c.axes[0]
		if axis != along && (o.box.Min[along] >= high || o.box.Max[along] <= low) {
			return // not over the plug
		}
		sure := axis == along || p.At.Known || o.box.Min[along] <= low && o.box.Max[along] >= high
		if o.distance < room.High && sure {
			room.High, name = o.distance, o.name
		}
		room.Low = min(room.Low, o.distance)
	})
	return room, name
}

// ahead is what stands before the card along an axis.
type ahead struct {
	name, where string
	box         Box
	distance    units.Millimetre
}

// before visits the things and covers that stand before the card along an axis, in its
// shadow.
func (c *Chamber) before(axis int, visit func(ahead)) {
	see := func(name, where string, at *rig.Place, size *rig.Extent) {
		box, known := BoxOf(at, size)
		if known && box.Min[axis] >= c.Card.Max[axis]-touch && c.overlapsAcross(box, axis) {
			visit(ahead{name, where, box, box.Min[axis] - c.Card.Max[axis]})
		}
	}
	for i := range c.rig.Chamber.Things {
		if t := &c.rig.Chamber.Things[i]; !t.Holds && !t.Out {
			see(t.Name, rig.ThingPath(i), &t.At, &t.Size)
		}
	}
	for i := range c.rig.Chamber.Covers {
		if v := &c.rig.Chamber.Covers[i]; !c.mayStayOff(v.Name) {
			see(v.Name, rig.CoverPath(i), &v.At, &v.Size)
		}
	}
}

// judgeDisplaced says what comes out for the card.
func judgeDisplaced(r *finding.Rule, c *Chamber, out *finding.List) {
	for i := range c.rig.Chamber.Things {
		t := &c.rig.Chamber.Things[i]
		switch {
		case c.Open() || !t.Out:
		case t.Loses == "":
			out.Add(r, finding.Note, rig.ThingPath(i), nil, "%s comes out for the card.", t.Name)
		default:
			out.Add(r, finding.Note, rig.ThingPath(i), nil, "%s comes out for the card, and with it %s.", t.Name, t.Loses)
		}
	}
}

// judgeCaddy asks of a drive that moves into a bay what holds it there: what is told of
// it counts, else how the host's caddy was found.
func judgeCaddy(r *finding.Rule, c *Chamber, out *finding.List) {
	for i := range c.rig.Route.Displaced {
		d := &c.rig.Route.Displaced[i]
		if !rig.Is(d.Home, rig.HomeBay) {
			continue
		}
		at := "/route/displaced/" + strconv.Itoa(i) + "/caddy"
		there, told := d.Caddy.Get()
		if !told {
			at, there = caddyFound(&c.rig.Host)
		}
		if !there {
			out.Add(
				r, finding.Risk, at, nil,
				"Nothing holds %s in its bay: its caddy, with the screws, is missing. Get one for this very host, or a holder that is made for it; "+
					"a loose drive tears at its connector.",
				d.Occupant,
			)
		}
	}
}

// caddyFound is where the host's condition tells of its caddy, and whether it would hold.
func caddyFound(h *rig.Host) (at string, holds bool) {
	for i := range h.Checks {
		state := h.Checks[i].State
		if strings.Contains(strings.ToLower(h.Checks[i].Name), "caddy") && (rig.Is(state, "missing") || rig.Is(state, "broken")) {
			return fmt.Sprintf("/host/condition/%d", i), false
		}
	}
	return "", true
}

// EntersBay reports a supply's form that a bay of another takes: its own, or a
// smaller one of the ATX family, on a plate.
func EntersBay(form, bay rig.SupplyKind) bool {
	return form == bay || bay == "atx" && (form == "sfx" || form == "sfx-l") || bay == "sfx-l" && form == "sfx"
}

// judgeBayDepth holds the depth of a supply of the right form against that of the bay, where
// one of the two is told.
func (c *Chamber) judgeBayDepth(r *finding.Rule, i int, out *finding.List) {
	s, at := &c.rig.Supplies[i], rig.SupplyPath(i)+"/depth_mm"
	bay, own := c.rig.Host.BayDepth, s.Depth
	switch {
	case !bay.Known && !own.Known:
	case !bay.Known:
		out.Need(
			r, "/host/supply_bay_depth_mm", "how deep the host's supply bay is", "Measure it, with the room its plugs want.",
			"whether "+s.Name+" goes in", float64(own.Value),
		)
	case !own.Known:
		out.Need(r, at, "how deep "+s.Name+" is", "Read its papers, or measure it.", "whether it goes into the bay", float64(bay.Value))
	case rig.Span(own).Over(rig.Span(bay)) == units.Always:
		out.Add(r, finding.Blocked, at, finding.Numbers{
			{Name: "depth_mm", Value: float64(own.Value)}, {Name: "bay_mm", Value: float64(bay.Value)},
		},
			"%s is %v deep; the host's bay has %v.", s.Name, own.Value, bay.Value)
	}
}

// judgeSupply holds a supply that is to stand in the host's bay against the bay.
func judgeSupply(r *finding.Rule, c *Chamber, out *finding.List) {
	for i := range c.rig.Supplies {
		s := &c.rig.Supplies[i]
		c.judgeWayUp(r, i, out)
		if !rig.Is(s.InBay, true) {
			continue
		}
		form, told := s.Kind.Get()
		bay, known := c.rig.Host.Bay.Get()
		switch {
		case !known:
			out.Need(
				r, "/host/supply_bay", "the form of supply the host's bay takes", "Measure the old one and its screws.",
				"whether "+s.Name+" goes in",
			)
		case !told:
			out.Need(r, rig.SupplyPath(i)+"/kind", "the form of "+s.Name, "Read its label, or measure it.", "whether it goes into the bay")
		case !EntersBay(form, bay):
			out.Add(
				r, finding.Blocked, rig.SupplyPath(i)+"/kind", nil, "%s is %s; the host's bay takes %s.", s.Name, rig.Spoken(form),
				rig.Spoken(bay),
			)
		default:
			c.judgeBayDepth(r, i, out)
		}
	}
}
