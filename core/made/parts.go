package made

import (
	"errors"
	"fmt"
	"slices"

	"kolvan/core/fit"
	"kolvan/core/reference"
	"kolvan/core/rig"
	"kolvan/core/units"
)

// A Part is something to make for a rig: an outline to cut by, or a solid to print.
type Part struct {
	Key       string // in addresses: letters, figures and dashes
	Name      string
	Says      string
	Permanent bool
	Outline   *Outline
	Solid     *Solid
	Planned   bool // the plan has it, rather than that it could be made
	Inserts   int  // of brass, pressed in hot, for M3
}

// HotInserts are the words on pressing in inserts.
const HotInserts = "Inserts are pressed in with an iron at 220 to 250 °C (P): iron, insert and plastic burn, and stay hot for a " +
	"minute. Into a vise or " +
	"flat on the table, never in the hand; air the room; let it cool before the iron is taken away."

// What parts are made with, mm (P).
const (
	standOff  units.Millimetre = 7 // outer diameter
	boreM3    units.Millimetre = 3.4
	footThick units.Millimetre = 6
	footWall  units.Millimetre = 30
	footLong  units.Millimetre = 120
	footSlack units.Millimetre = 1
	propDeep  units.Millimetre = 25
	propLip   units.Millimetre = 8
	propLong  units.Millimetre = 40
)

// steady is the tip angle a foot is made for, five degrees over what is warned of.
const steady = 5

// For lists what could be made for a rig, as far as its facts tell. An error joins those of
// parts that could not be drawn; the others are there all the same.
func For(r *rig.Rig, ref *reference.Tables) ([]Part, error) {
	parts := append(templates(r), standOffs(r)...)
	parts = append(parts, panelPlates(r)...)
	var faults []error
	for _, build := range []func(*rig.Rig, *reference.Tables) (*Part, error){bracketOf, footOf, cradleOf, propOf, holderOf, uprightOf} {
		part, err := build(r, ref)
		faults = append(faults, err)
		if part != nil {
			parts = append(parts, *part)
		}
	}
	return parts, errors.Join(faults...)
}

// templates are the openings that the shells of cables have to pass and do not yet.
func templates(r *rig.Rig) (parts []Part) {
	for i := range r.Route.Stages {
		s := &r.Route.Stages[i]
		width, height := s.Shell.Width, s.Shell.Height
		if !width.Known || !height.Known {
			continue
		}
		for j := range s.Openings {
			o := &s.Openings[j]
			if o.Width.Known && o.Height.Known && fit.Passes(width.Value, height.Value, o.Width.Value, o.Height.Value) {
				continue // it is large enough as it is
			}
			name := fmt.Sprintf("%s, opening in %s", s.Name, o.Name)
			w, h := width.Value+2*fit.AroundShell, height.Value+2*fit.AroundShell
			part := Part{
				Key: fmt.Sprintf("opening-%d-%d", i+1, j+1), Name: name, Permanent: true,
				Says: fmt.Sprintf(
					"%v by %v: the shell and %v around it. Take out what is behind first, wear glasses, cut away from the traces, and file the edges.",
					w, h, units.Millimetre(fit.AroundShell),
				),
				Outline: &Outline{Name: name, Loops: [][]Point{Rectangle(w, h)}},
			}
			part.placeIn(r, s, o.Name)
			parts = append(parts, part)
		}
	}
	return parts
}

// placeIn draws the opening into the cover it is cut in, where that is described, clear
// of what stands behind.
func (p *Part) placeIn(r *rig.Rig, s *rig.Stage, layer string) {
	i := slices.IndexFunc(r.Chamber.Covers, func(v rig.Cover) bool { return v.Name == layer })
	if i < 0 {
		return
	}
	cut, found := fit.CutIn(r, i, s)
	if cut.Size[0] == 0 {
		return
	}
	if !found {
		p.Says = fmt.Sprintf("No place in %s is clear of its rim and of what stands behind it. ", layer) + p.Says
		return
	}
	p.Outline.Loops = [][]Point{moved(Rectangle(cut.Wide, cut.High), Point{cut.X, cut.Y})}
	p.Outline.Edge = []Point{{0, 0}, {cut.Size[0], 0}, {cut.Size[0], cut.Size[1]}, {0, cut.Size[1]}}
	p.Says = fmt.Sprintf(
		"Its middle is %v along %s and %v along %s from the cover's corner nearest the origin: clear of the rim and of what stands behind. ",
		cut.X, cut.Face[0], cut.Y, cut.Face[1],
	) + p.Says
}

// standOffs are what raised covers stand on.
func standOffs(r *rig.Rig) (parts []Part) {
	for i := range r.Chamber.Covers {
		v := &r.Chamber.Covers[i]
		if by := v.Raised.Value; by > 0 {
			name := v.Name + ", stand-off"
			parts = append(parts, Part{
				Key: fmt.Sprintf("stand-off-%d", i+1), Name: name,
				Says:  fmt.Sprintf("One for each screw, %v high, for M3. The screws grow by %v.", by, by),
				Solid: Ring(name, standOff, boreM3, by),
			})
		}
	}
	return parts
}

// footOf is a foot that a rig stands in, wide enough for it not to tip; none while its
// base and centre of mass are not told.
func footOf(r *rig.Rig, ref *reference.Tables) (*Part, error) {
	s := &r.Chamber.Stand
	if !s.Base.Known || !s.Height.Known || s.Base.Value <= 0 {
		return nil, nil
	}
	return channel("foot", s, ref, s.Base.Value, 0)
}

// cradleOf holds a host that runs on its side, with the room beneath it that a cable or
// a fan wants.
func cradleOf(r *rig.Rig, ref *reference.Tables) (*Part, error) {
	s := &r.Chamber.Stand
	if !s.Edge.Known || !s.Height.Known {
		return nil, nil
	}
	return channel("cradle", s, ref, s.Edge.Value, s.Lifted.Value)
}

// channel is what a thing of some thickness stands in, lifted by as much: a floor, two
// walls, and feet as wide as keep it from tipping, a told pull of its cables counted.
func channel(name string, s *rig.Stand, ref *reference.Tables, thick, lifted units.Millimetre) (*Part, error) {
	if s.Pull.Value > 0 && (!s.Mass.Known || !s.PullAt.Known) {
		return &Part{
			Key: name, Name: name,
			Says: "How wide it must be hangs on what stands in it weighs, and on how high its cables pull: tell both.",
		}, nil
	}
	floor := footThick + lifted
	angle := float64(ref.TipLeast) + steady
	wide, stands := fit.BaseFor(units.Degree(angle), s.Height.Value+floor, s.Mass.Value, s.Pull.Value, s.PullAt.Value+floor)
	if !stands {
		return &Part{Key: name, Name: name, Says: "No base is wide enough against that pull: tie the cables down first."}, nil
	}
	slot := thick + footSlack
	wide = max(wide, slot+2*footThick+2)
	left, right, up := -slot/2, slot/2, floor+footWall
	loop := []Point{{-wide / 2, 0}, {wide / 2, 0}, {wide / 2, footThick}, {right + footThick, footThick}, {right + footThick, up}, {right, up},
		{right, floor}, {left, floor}, {left, up}, {left - footThick, up}, {left - footThick, footThick}, {-wide / 2, footThick}}
	long := footLong
	pull := "without cables that pull"
	if s.Pull.Value > 0 {
		pull = fmt.Sprintf("against a pull of %v", s.Pull.Value)
	}
	says := fmt.Sprintf("%.0f mm wide, for a tip angle of %.0f° %s; %v long, print two for a long rig.", float64(wide), angle, pull, long)
	if lifted > 0 {
		long = propLong
		says = fmt.Sprintf(
			"%.0f mm wide, for a tip angle of %.0f° %s; print two, and set them apart: they leave %v of room between them, under the host. Keep "+
				"its vents off the walls.",
			float64(wide), angle, pull, lifted,
		)
	}
	solid, err := Extrude(name, loop, long)
	if err != nil {
		return nil, err
	}
	return &Part{
		Key: name, Name: name, Solid: solid, Outline: &Outline{Name: name + ", from the end", Loops: [][]Point{loop}},
		Says: says,
	}, nil
}

// propOf is one of the four props under a host that lies with room beneath it: a step it
// rests on, and a lip it cannot slide over.
func propOf(r *rig.Rig, _ *reference.Tables) (*Part, error) {
	s := &r.Chamber.Stand
	if s.Edge.Known || s.Lifted.Value <= 0 {
		return nil, nil
	}
	up := s.Lifted.Value
	loop := []Point{
		{0, 0}, {propDeep + footThick, 0}, {propDeep + footThick, up + propLip}, {propDeep, up + propLip}, {propDeep, up},
		{0, up},
	}
	solid, err := Extrude("prop", loop, propLong)
	if err != nil {
		return nil, err
	}
	return &Part{Key: "prop", Name: "prop", Solid: solid, Outline: &Outline{Name: "prop, from the end", Loops: [][]Point{loop}},
		Says: fmt.Sprintf(
			"Print four, one for every corner: the host rests on the step, %v up, and the lip keeps it from sliding. Keep its vents clear.",
			up,
		)}, nil
}
