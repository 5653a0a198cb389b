package made

import (
	"fmt"

	"kolvan/core/fit"
	"kolvan/core/rig"
	"kolvan/core/units"
)

// aroundSocket is left between a socket's body and the plate it looks through, each side, mm (P).
const aroundSocket units.Millimetre = 0.3

// bores are what a screw of a thread passes through, mm (ISO 273, medium; 6-32 by its own).
var bores = map[rig.Thread]units.Millimetre{"M2": 2.4, "M2.5": 2.9, "M3": boreM3, "M3.5": 3.9, "M4": 4.5, "6-32": 3.9}

// panelPlates are the plates that hold sockets in openings of the host's case.
func panelPlates(r *rig.Rig) (parts []Part) {
	for i := range r.Route.Stages {
		s := &r.Route.Stages[i]
		o := r.CaseOpening(s.Panel.In)
		if o == nil || !s.Panel.Wide.Known || !s.Panel.High.Known {
			continue
		}
		hole := fit.OutlineOf(&o.Hole)
		if hole == nil {
			continue
		}
		seat, found := fit.SeatIn(hole, s.Panel.Wide.Value, s.Panel.High.Value)
		if !found {
			continue // fit.opening says so
		}
		parts = append(parts, plateOf(fmt.Sprintf("plate-%d", i+1), s, o, hole, seat))
	}
	return parts
}

// plateOf covers an opening and holds a socket in it by its own screws. It is screwed where
// what it takes the place of was, else in its corners.
func plateOf(key string, s *rig.Stage, o *rig.CaseOpening, hole [][2]units.Millimetre, seat fit.Seat) Part {
	low, top := fit.Bounds(hole)
	middle := Point{(low[0] + top[0]) / 2, (low[1] + top[1]) / 2}
	at := Point{seat.At[0] - middle.X, seat.At[1] - middle.Y}
	wide, high := seat.Size[0]+2*aroundSocket, seat.Size[1]+2*aroundSocket
	body := moved(Rectangle(wide, high), at)
	w, h := (top[0]-low[0])/2+flange, (top[1]-low[1])/2+flange
	loops := [][]Point{nil, body}
	bore, clamped := bores[s.Panel.Thread.Or("M3")], !s.Panel.Holes.Known
	if apart := s.Panel.Holes.Value / 2; !clamped {
		away := Point{apart, 0}
		if seat.Size[0] != s.Panel.Wide.Value { // turned by a quarter
			away = Point{0, apart}
		}
		for _, p := range []Point{{at.X - away.X, at.Y - away.Y}, {at.X + away.X, at.Y + away.Y}} {
			loops = append(loops, circle(p, bore))
			w, h = max(w, p.X+bore, bore-p.X), max(h, p.Y+bore, bore-p.Y)
		}
	}
	fixed := "through four holes to be drilled in the case at its corners"
	if holes, told := o.Holes.Get(); told {
		fixed = "by the two screws of what was there"
		w = max(w, holes/2+boreM3)
		loops = append(loops, circle(Point{-holes / 2, 0}, boreM3), circle(Point{holes / 2, 0}, boreM3))
	} else {
		loops = append(loops, corners(w, h)...)
	}
	loops[0] = Rectangle(2*w, 2*h)
	name := s.Name + ", plate for " + o.Name
	held := "its own two screws hold it"
	if clamped {
		held = "clamp or glue it from behind"
	}
	part := Part{
		Key: key, Name: name, Permanent: !o.Holes.Known, Planned: true, Outline: &Outline{Name: name, Loops: loops},
		Says: fmt.Sprintf(
			"%v by %v, %v thick, with a cut-out of %v by %v for the socket: %s. It is fixed %s. No filings near a board: take out what is "+
				"behind first.",
			2*w, 2*h, bracketDeep, wide, high, held, fixed,
		),
	}
	solid, err := ExtrudeRound(name, loops[0], loops[1:], bracketDeep)
	if err != nil {
		part.Outline = nil
		part.Says = "The screws of " + s.Name + " and those of " + o.Name + " would meet the cut-out or each other: choose another opening."
		return part
	}
	part.Solid = solid
	return part
}

func moved(loop []Point, by Point) []Point {
	for i := range loop {
		loop[i] = Point{loop[i].X + by.X, loop[i].Y + by.Y}
	}
	return loop
}
