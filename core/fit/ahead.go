package fit

import (
	"math"
	"slices"

	"kolvan/core/finding"
	"kolvan/core/rig"
	"kolvan/core/units"
)

// mouth is where a cable comes out of one of its plugs.
type mouth struct {
	*rig.Mouth
	at, called string
	way        []Vec // from this end on; none while it is not laid out
}

func mouthsOf(s cable) [2]mouth {
	way, _ := pointsOf(s.Path)
	back := slices.Clone(way)
	slices.Reverse(back)
	return [...]mouth{{&s.AtPlug, s.at + "/at_plug", "its plug", way}, {&s.AtSocket, s.at + "/at_socket", "its far end", back}}
}

// facing is the axis a plug points along, and which way; by what is told, else by how the
// way of its cable begins.
func (m *mouth) facing() (axis int, sign units.Millimetre, known bool) {
	if faces, told := m.Faces.Get(); told {
		axis, sign = faces.Along()
		return axis, sign, true
	}
	if len(m.way) < 2 {
		return 0, 0, false
	}
	axis, sign = mostly(m.way[0], m.way[1])
	return axis, sign, m.way[0] != m.way[1]
}

// mostly is the axis along which two points are furthest apart, and which way.
func mostly(from, to Vec) (axis int, sign units.Millimetre) {
	for i := range from {
		if math.Abs(float64(to[i]-from[i])) > math.Abs(float64(to[axis]-from[axis])) {
			axis = i
		}
	}
	return axis, units.Millimetre(math.Copysign(1, float64(to[axis]-from[axis])))
}

// wallAhead is how far a point in the case is from the wall, or the cover that is closed,
// which lies that way of it; false where none is known.
func (c *Chamber) wallAhead(p Vec, axis int, sign units.Millimetre) (room units.Millimetre, name string, known bool) {
	walls := extent3(&c.rig.Chamber.Box)
	for i := range p {
		if c.Open() || p[i] < -touch || walls[i].Known && p[i] > walls[i].Value+touch {
			return 0, "", false // it is outside, where nobody measured
		}
	}
	room, name = p[axis], "the wall"
	if sign > 0 {
		room = walls[axis].Or(longest) - p[axis]
	}
	known = sign < 0 || walls[axis].Known
	for i := range c.rig.Chamber.Covers {
		v := &c.rig.Chamber.Covers[i]
		box, told := BoxOf(&v.At, &v.Size)
		if !told || v.Raised.Value > 0 || c.mayStayOff(v.Name) || !overPoint(box, p, axis) {
			continue
		}
		face := box.Min[axis] - p[axis]
		if sign < 0 {
			face = p[axis] - box.Max[axis]
		}
		if face >= -touch && (face < room || !known) {
			room, name, known = max(0, face), v.Name, true
		}
	}
	return room, name, known
}

// overPoint reports a body that a straight along an axis through a point meets.
func overPoint(body Box, p Vec, axis int) bool {
	for i := range p {
		if i != axis && (p[i] < body.Min[i]-touch || p[i] > body.Max[i]+touch) {
			return false
		}
	}
	return true
}

// judgeAhead: before a wall a stiff cable has to turn, with a straight behind its plug,
// its bend and its own thickness; where that takes more than there is, the wall pushes
// it back onto the plug. A cable that goes on through the wall does not turn there.
func (c *Chamber) judgeAhead(r *finding.Rule, s cable, m *mouth, out *finding.List) {
	room, told := m.Wall.Get()
	where, name, turn := m.at+"/wall_mm", "the wall", math.Pi/2
	if !told {
		axis, sign, faced := m.facing()
		if !faced || len(m.way) < 3 {
			return
		}
		where, turn = s.at+"/path", turnAt(m.way[0], m.way[1], m.way[2])
		room, name, told = c.wallAhead(m.way[0], axis, sign)
		deepest := max(sign*(m.way[1][axis]-m.way[0][axis]), sign*(m.way[2][axis]-m.way[0][axis]))
		if through := deepest > room+touch; !told || through {
			return
		}
	}
	thick := lengthOf(&s.Diameter, c.ref.CableThinnest, c.ref.CableThickest).ends
	half := thick.Times(0.5)
	bend := bendOf(s.Stage, c.ref, thick).Plus(half).Times(math.Sin(min(turn, math.Pi/2)))
	wants := units.Exactly(c.ref.StrainStraight).Plus(bend).Plus(half)
	switch wants.Over(units.Exactly(room + touch)) {
	case units.Always:
		out.Add(
			r,
			finding.Risk,
			where,
			finding.Numbers{
				{Name: "room_mm", Value: float64(room)}, {Name: "wanted_mm", Value: float64(wants.Low)},
			},
			"From %s %s has %v to %s; to turn before it takes %v, or the wall presses it back and it levers on its connector.",
			m.called,
			s.Name,
			room,
			name,
			wants.Low,
		)
	case units.Sometimes:
		where, fact, find := s.opens()
		out.Need(r, where, fact, find, "whether it can turn before "+name+" ahead of "+m.called)
	}
}

// judgeAside: a way that does not begin where the plug faces pulls it sideways.
func (c *Chamber) judgeAside(r *finding.Rule, s cable, m *mouth, out *finding.List) {
	if !m.Faces.Known || len(m.way) < 2 {
		return
	}
	axis, sign, _ := m.facing()
	straight := m.way[0]
	straight[axis] += sign
	off := units.Degree(turnAt(m.way[0], straight, plus(straight, m.way[0], m.way[1])) * 180 / math.Pi)
	if off <= c.ref.StrainAside {
		return
	}
	aside := m.way[1]
	aside[axis] = m.way[0][axis]
	toward := "back on itself"
	if aside != m.way[0] {
		toward = "sideways"
		side, way := mostly(m.way[0], aside)
		if room, name, known := c.wallAhead(m.way[0], side, way); known {
			toward += ", toward " + name + " at " + room.String()
		}
	}
	out.Add(
		r,
		finding.Risk,
		s.at+"/path",
		finding.Numbers{
			{Name: "off_deg", Value: float64(off)}, {Name: "most_deg", Value: float64(c.ref.StrainAside)},
		},
		"%s leaves %s %v off the way that faces and pulls it %s: let it run straight for %v, and hold it there.",
		s.Name,
		m.called,
		off,
		toward,
		c.ref.StrainStraight,
	)
}

// plus is a point moved by the way from one to another.
func plus(p, from, to Vec) Vec {
	for i := range p {
		p[i] += to[i] - from[i]
	}
	return p
}
