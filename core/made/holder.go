package made

import (
	"fmt"

	"kolvan/core/reference"
	"kolvan/core/rig"
	"kolvan/core/units"
)

// The measures of a holder for dock, supply and card, mm (P).
const (
	rim       units.Millimetre = 10  // beyond what stands on it
	between   units.Millimetre = 15  // from dock to supply: for leads, and for air
	strapWide units.Millimetre = 22  // of the slots a strap of 20 runs through
	strapDeep units.Millimetre = 4   //
	insert    units.Millimetre = 4.0 // bore for a brass insert of M3
	postWide  units.Millimetre = 25
	dockUp    units.Millimetre = 8  // of the stand-offs under the dock, and its board
	tabUnder  units.Millimetre = 14 // from a bracket's whole height down to its tab, with the slot above the board
)

// holderOf is one plate that dock and supply stand on, so that they are carried as one; nil
// where none is wanted.
func holderOf(r *rig.Rig, ref *reference.Tables) (*Part, error) {
	if !rig.Is(r.Chamber.Stand.Holder.Wanted, true) {
		return nil, nil
	}
	dock, supply := dockOf(r), besideDock(r)
	if missing := untold(dock, supply, ref); missing != "" {
		return &Part{Key: "holder", Name: "holder", Says: "Its plate hangs on " + missing + ": measure it, and tell it.", Planned: true}, nil
	}
	f := &dock.Foot
	long, wide := f.Length.Value, f.Width.Value
	var holes [][]Point
	for _, x := range []units.Millimetre{-f.Along.Value / 2, f.Along.Value / 2} {
		for _, y := range []units.Millimetre{-f.Across.Value / 2, f.Across.Value / 2} {
			holes = append(holes, circle(Point{x, y}, insert))
		}
	}
	on := dock.Name
	right := wide/2 + rim // of the plate, seen from the dock's middle
	if supply != nil {
		deep, body := supply.Depth.Value, widthOf(supply, ref)
		near := wide/2 + between
		for _, y := range []units.Millimetre{near - strapDeep, near + body + strapDeep} {
			for _, x := range []units.Millimetre{-deep / 4, deep / 4} {
				holes = append(holes, moved(Rectangle(strapWide, strapDeep), Point{x, y}))
			}
		}
		long, right, on = max(long, deep), near+body+strapDeep+rim, on+" and "+supply.Name
	}
	left := -wide/2 - rim
	post := Point{-f.Length.Value/2 - postWide/2, 0}
	holes = append(holes, circle(post, boreM3))
	plate := []Point{{post.X - postWide/2 - 2, left}, {long/2 + rim, left}, {long/2 + rim, right}, {post.X - postWide/2 - 2, right}}
	if reach := -long/2 - rim; reach < plate[0].X {
		plate[0].X, plate[3].X = reach, reach
	}
	solid, err := ExtrudeRound("holder", plate, holes, footThick)
	if err != nil {
		return nil, err
	}
	return &Part{
		Key: "holder", Name: "holder", Solid: solid, Outline: &Outline{Name: "holder, from above", Loops: append([][]Point{plate}, holes...)},
		Planned: true, Inserts: 4,
		Says: fmt.Sprintf(
			"For %s: four inserts of M3 under the dock's holes, two straps of 20 mm round the supply, its vents free, and a bore for the upright "+
				"that holds the card's bracket. It is lifted with two hands; the card is heavy on one side.", on,
		),
	}, nil
}

// uprightOf holds the card's bracket over the holder.
func uprightOf(r *rig.Rig, ref *reference.Tables) (*Part, error) {
	tall := ref.BracketHeight(r.Card.Bracket.Height.Or(rig.NoBracket))
	if !rig.Is(r.Chamber.Stand.Holder.Wanted, true) || tall == 0 {
		return nil, nil
	}
	up := tall - tabUnder + dockUp
	bore := circle(Point{}, insert)
	solid, err := ExtrudeRound("upright", Rectangle(postWide, postWide), [][]Point{bore}, up)
	if err != nil {
		return nil, err
	}
	return &Part{
		Key: "upright", Name: "upright of the holder", Solid: solid, Planned: true, Inserts: 2,
		Says: fmt.Sprintf(
			"%v high, with an insert of M3 in each end: one takes the screw from under the plate, one the card's bracket screw. Try it against the "+
				"card in its dock before it is screwed down: washers take up what it is short, a file what it is long.", up,
		),
	}, nil
}

// dockOf is the stage that the card stands in.
func dockOf(r *rig.Rig) *rig.Stage {
	if n := len(r.Route.Stages); n > 0 {
		return &r.Route.Stages[n-1]
	}
	return nil
}

// besideDock is the supply that stands beside the dock: neither the host's own nor in its bay.
func besideDock(r *rig.Rig) *rig.Supply {
	for i := range r.Supplies {
		s := &r.Supplies[i]
		if s.Name != r.Host.Supply && !rig.Is(s.InBay, true) && len(s.Inlets) == 0 {
			return s
		}
	}
	return nil
}

// untold is what a holder's plate still hangs on; "" where all is told.
func untold(dock *rig.Stage, supply *rig.Supply, ref *reference.Tables) string {
	switch {
	case dock == nil:
		return "what the card stands in"
	case !dock.Foot.Length.Known || !dock.Foot.Width.Known:
		return "the length and width of the board of " + dock.Name
	case !dock.Foot.Along.Known || !dock.Foot.Across.Known:
		return "how far apart the holes of " + dock.Name + " are"
	case dock.Foot.Along.Value >= dock.Foot.Length.Value || dock.Foot.Across.Value >= dock.Foot.Width.Value:
		return "the holes of " + dock.Name + ", which cannot lie beyond its board"
	case supply != nil && !supply.Depth.Known:
		return "the depth of " + supply.Name
	case supply != nil && widthOf(supply, ref) == 0:
		return "the width of " + supply.Name
	}
	return ""
}

// widthOf is the width of a supply, lying: as told, else by its form; 0 for not known.
func widthOf(s *rig.Supply, ref *reference.Tables) units.Millimetre {
	return s.Wide.Or(ref.SupplyWidth(s.Kind.Or("")))
}
