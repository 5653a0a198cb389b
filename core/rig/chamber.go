package rig

import "kolvan/core/units"

// Chamber is the room the card stands in. Its x runs from the bracket's wall
// into the case, y from the slot's mouth upward, z along the row of slots.
type Chamber struct {
	Name    string                        `json:"name,omitzero" name:"name" doc:"What the case, or the room for the card, is called."`
	Open    bool                          `json:"open,omitzero" name:"in the open" doc:"The card stands in the open: there is nothing to meet."`
	Box     Extent                        `json:"box,omitzero" name:"inner size" when:"open=no" doc:"Inner size."`
	Takes   Takes                         `json:"takes,omitzero" name:"card it takes, by its papers" when:"open=no" doc:"A limit from the papers decides by itself, without a measure of the case."`
	CardAt  Place                         `json:"card_at,omitzero" name:"where the card stands" when:"open=no" doc:"The corner of the card nearest the origin: its bracket, slot and board side."`
	Axes    Fact[Axes]                    `json:"card_axes,omitzero" else:"xyz" name:"how the card lies" when:"open=no" doc:"The axes along which its length, height and thickness lie."`
	Opening Opening                       `json:"opening,omitzero" name:"opening for the bracket" when:"open=no" doc:"The opening for the bracket."`
	Things  []Thing                       `json:"things,omitzero" name:"obstacles" when:"open=no" doc:"What is in the way, as boxes."`
	Down    Fact[Axis]                    `json:"down_axis,omitzero" else:"along the card's thickness, as in a tower" name:"up and down is" when:"open=no" doc:"The axis that stands upright as the case stands."`
	Support Fact[bool]                    `json:"card_supported,omitzero" else:"no" name:"card held at its far end" when:"open=no" doc:"A holder, a stand or a strap carries it."`
	Air     Fact[units.CubicMetrePerHour] `json:"airflow_m3_h,omitzero" is:"0..5000" else:"not judged" name:"air its fans move" when:"open=no" doc:"What fans and vents of the case move together. Where every fan tells its own, two thirds of theirs."`
	Inlet   Fact[units.Millimetre]        `json:"inlet_gap_mm,omitzero" is:"0..3000" else:"not judged" name:"room before its inlet" when:"open=no" measure:"inlet-gap" doc:"From where the case draws air in to what stands before it: a wall, a desk, a carpet."`
	Rise    Fact[units.Kelvin]            `json:"air_rise_k,omitzero" is:"1..60" else:"12 K" name:"air may warm by" when:"open=no" doc:"How much warmer the air may leave than it comes."`
	Around  Fact[Surroundings]            `json:"stands_in,omitzero" else:"the open" name:"it stands" when:"open=no" doc:"Where the case stands: what warm air it takes in again."`
	Fans    []Fan                         `json:"fans,omitzero" name:"fans" when:"open=no" doc:"Fans that are put into the case."`
	Stand   Stand                         `json:"stand,omitzero" name:"how it stands" doc:"For a rig that could fall over."`
	Covers  []Cover                       `json:"covers,omitzero" name:"covers" when:"open=no" doc:"Lids and swing-out parts, as boxes where they are when closed."`
}

// Fan is a fan that is put into the case.
type Fan struct {
	Name  string                        `json:"name" name:"name" doc:"The fan's name."`
	Size  Fact[units.Millimetre]        `json:"size_mm,omitzero" is:"40|50|60|70|80|92|120|140|200" sold:"by" name:"size" measure:"fan-size" doc:"Its frame, edge to edge."`
	Air   Fact[units.CubicMetrePerHour] `json:"airflow_m3_h,omitzero" is:"0..1000" else:"not told" sold:"up 5..300" name:"air it moves" doc:"By its papers, blowing freely; a third is lost in grilles."`
	Fed   Fact[PartFeed]                `json:"fed_by,omitzero" name:"fed by" doc:"What gives it its power."`
	At    string                        `json:"header,omitzero" name:"on header" when:"fed_by=header" doc:"The header of the board it hangs on, by its name."`
	Held  Held                          `json:"held,omitzero" name:"how it is held" doc:"Where not all its screws hold it."`
	Holes Fact[units.Millimetre]        `json:"holes_apart_mm,omitzero" is:"20..200" name:"holes in the case, apart" measure:"fan-holes" doc:"From middle to middle along one edge, in the case."`
	Price
}

// Held is how a part is held that is not screwed down as it was made to be.
type Held struct {
	By   Fact[HeldBy] `json:"by,omitzero" else:"its screws" name:"held by" doc:"What holds it."`
	In   Fact[int]    `json:"screws_in,omitzero" is:"0..20" name:"screws that are in" when:"by=screws" doc:"How many hold it."`
	Of   Fact[int]    `json:"screws_of,omitzero" is:"0..20" name:"of so many" when:"by=screws" doc:"How many it has holes for."`
	Does Fact[bool]   `json:"will_do,omitzero" name:"it will do" doc:"Somebody looked, pulled at it, and says so."`
	Why  string       `json:"why,omitzero" name:"since" doc:"Why it will do, or will not, and what is risked, in plain words."`
}

// Takes is the largest card that a case is said to take.
type Takes struct {
	Length    Fact[units.Millimetre] `json:"length_mm,omitzero" is:"0..1000" name:"length at most" measure:"card-length" doc:"From the bracket's inner face."`
	Height    Fact[units.Millimetre] `json:"height_mm,omitzero" is:"0..500" name:"height at most" measure:"card-height" doc:"From the slot's mouth."`
	Thickness Fact[units.Millimetre] `json:"thickness_mm,omitzero" is:"0..300" name:"thickness at most" measure:"card-thickness" doc:"Over board and cooler."`
}

// Stand is how a rig stands on its base.
type Stand struct {
	Base   Fact[units.Millimetre] `json:"base_mm,omitzero" is:"0..2000" name:"base, the narrow way" measure:"stand-base" doc:"Across, over the edges it would tip about."`
	Height Fact[units.Millimetre] `json:"centre_mm,omitzero" is:"0..2000" name:"height of its centre of mass" measure:"stand-centre" doc:"Balance it on its side on an edge, and measure from the base."`
	Mass   Fact[units.Gram]       `json:"mass_g,omitzero" is:"0..100000" name:"mass of all that stands" doc:"Dock, card and supply, as far as they stand together."`
	Pull   Fact[units.Newton]     `json:"pull_n,omitzero" is:"0..200" else:"none" name:"pull of its cables" doc:"Sideways, toward the edge it would tip about."`
	PullAt Fact[units.Millimetre] `json:"pull_at_mm,omitzero" is:"0..2000" name:"height of that pull" measure:"stand-pull" doc:"Above the base."`
	Edge   Fact[units.Millimetre] `json:"on_edge_mm,omitzero" is:"10..400" else:"it lies" name:"run on its side, thickness" measure:"stand-edge" doc:"Of a host that stands on its narrow side: for a cradle that is made."`
	Holder Holder                 `json:"holder,omitzero" name:"holder for all of it" doc:"One holder for dock, supply and card, made at home."`
	Lifted Fact[units.Millimetre] `json:"lifted_mm,omitzero" is:"0..200" else:"none" name:"room wanted beneath" measure:"stand-lifted" doc:"For a cable that leaves there, or for a fan: a cradle or props hold it up."`
}

// Holder is one holder for dock, supply and card. Its price counts where it is told.
type Holder struct {
	Wanted Fact[bool] `json:"wanted,omitzero" else:"no" name:"one holder for dock, supply and card" doc:"It is made at home, and carried as one piece."`
	Price
}

// Place is a point of the chamber.
type Place struct {
	X Fact[units.Millimetre] `json:"x_mm,omitzero" is:"-2000..2000" name:"along the length" measure:"from-x" doc:"Along x, from the bracket's wall."`
	Y Fact[units.Millimetre] `json:"y_mm,omitzero" is:"-2000..2000" name:"up from the slot" measure:"from-y" doc:"Along y, from the mouth of the slot."`
	Z Fact[units.Millimetre] `json:"z_mm,omitzero" is:"-2000..2000" name:"along the row of slots" measure:"from-z" doc:"Along z, from the wall at the board's side."`
}

// Extent is the size of a box along the chamber's axes.
type Extent struct {
	X Fact[units.Millimetre] `json:"x_mm,omitzero" is:"0..3000" name:"along the length" measure:"along-x" doc:"Along x."`
	Y Fact[units.Millimetre] `json:"y_mm,omitzero" is:"0..3000" name:"up from the slot" measure:"along-y" doc:"Along y."`
	Z Fact[units.Millimetre] `json:"z_mm,omitzero" is:"0..3000" name:"along the row of slots" measure:"along-z" doc:"Along z."`
}

// Opening is the opening of the chamber for a card's bracket.
type Opening struct {
	Height Fact[Height] `json:"height,omitzero" name:"bracket it takes" doc:"The bracket it takes; none for no opening."`
	Slots  Fact[int]    `json:"slots,omitzero" is:"0..8" name:"slots free for it" doc:"Slots in the row that are free for it."`
	// Measured, where no stock bracket matches: for one that is made.
	Hole
}

// Hole is a hole in a case, as measured: its width and height, and its outline where it is no
// rectangle.
type Hole struct {
	Wide    Fact[units.Millimetre] `json:"width_mm,omitzero" is:"5..300" else:"as its bracket" name:"opening, width" measure:"opening-width" doc:"Of the hole itself, at its widest, for a bracket or plate that is made."`
	High    Fact[units.Millimetre] `json:"height_mm,omitzero" is:"5..300" else:"as its bracket" name:"opening, height" measure:"opening-height" doc:"Of the hole itself, at its highest, for a bracket or plate that is made."`
	Outline []OutlinePoint         `json:"outline,omitzero" else:"a rectangle" name:"corners of its outline" doc:"For a hole of its maker's own shape: its corners in order round it, seen from outside."`
}

// OutlinePoint is a corner of a hole, seen from outside.
type OutlinePoint struct {
	Across Fact[units.Millimetre] `json:"across_mm,omitzero" is:"0..300" name:"across" measure:"opening-width" doc:"From the hole's left edge."`
	Up     Fact[units.Millimetre] `json:"up_mm,omitzero" is:"0..300" name:"up" measure:"opening-height" doc:"From the hole's lower edge."`
}

// CaseOpening is an opening of the host's case that a socket could be set in.
type CaseOpening struct {
	Name string `json:"name" name:"name" doc:"A blind plate, a knock-out, an unused cut-out: as one would point at it."`
	Hole
	Holes Fact[units.Millimetre] `json:"holes_apart_mm,omitzero" is:"5..300" else:"it has none" name:"its screw holes, apart" measure:"opening-holes" doc:"Of the screws that held what was in it: from middle to middle, across."`
}

// Thing is a box in the chamber.
type Thing struct {
	Name string `json:"name" name:"name" doc:"The thing's name."`
	At   Place  `json:"at,omitzero" name:"nearest corner" doc:"Its corner nearest the origin."`
	Size Extent `json:"size,omitzero" name:"size" doc:"Its size."`
	// What is no box: a prism within it.
	Under   []string       `json:"under,omitzero" name:"lies under" doc:"The covers and obstacles that must be off before it."`
	Along   Fact[Axis]     `json:"profile_axis,omitzero" else:"a box" name:"outline, seen along" doc:"For a thing that is no box: the axis it looks the same along."`
	Profile []ProfilePoint `json:"profile,omitzero" else:"a box" name:"corners of its outline" doc:"In order round it, from the nearest corner; where its sides cross, the hull around them."`
	Out     bool           `json:"comes_out,omitzero" name:"comes out" doc:"A bay or a module that is taken out for the card."`
	Loses   string         `json:"loses,omitzero" name:"what is lost with it" when:"comes_out=yes" doc:"The port, the drive, the fan that goes with it."`
	Holds   bool           `json:"holds_card,omitzero" name:"holds the card" doc:"The card is plugged into it or screwed to it: touching is meant."`
}

// ProfilePoint is a corner of a prism's outline, along the two axes after the one it is
// seen along: y and z along x, z and x along y, x and y along z.
type ProfilePoint struct {
	U Fact[units.Millimetre] `json:"u_mm,omitzero" is:"0..3000" name:"along the next axis" measure:"profile-u" doc:"From the thing's nearest corner."`
	V Fact[units.Millimetre] `json:"v_mm,omitzero" is:"0..3000" name:"along the one after it" measure:"profile-v" doc:"From the thing's nearest corner."`
}

// Cover is a lid or a part that swings out.
type Cover struct {
	Name   string                 `json:"name" name:"name" doc:"The cover's name."`
	Kind   Fact[CoverKind]        `json:"kind,omitzero" name:"moves as" doc:"How it opens."`
	At     Place                  `json:"at,omitzero" name:"nearest corner" doc:"Its corner nearest the origin when closed."`
	Size   Extent                 `json:"size,omitzero" name:"size" doc:"Its size."`
	Screw  Screw                  `json:"screw,omitzero" name:"its screws" doc:"What holds it."`
	Side   Fact[Side]             `json:"side,omitzero" else:"the underside of a notebook, else the top" name:"where it is" doc:"On which side of the host."`
	Under  []string               `json:"under,omitzero" name:"lies under" doc:"The covers and obstacles that must be off before it."`
	Tether Fact[bool]             `json:"tethered,omitzero" else:"no" name:"tied by a ribbon or lead" doc:"It does not lift away before that is parted."`
	Cools  Fact[bool]             `json:"cools,omitzero" else:"no" name:"carries a fan" doc:"The host is not started without it."`
	Switch Fact[bool]             `json:"intrusion_switch,omitzero" else:"no" name:"presses an intrusion switch" doc:"The host notices when it is off."`
	Raised Fact[units.Millimetre] `json:"raised_mm,omitzero" is:"0..100" else:"not raised" name:"raised by" measure:"raised" doc:"On stand-offs, so that a cable passes under it; its screws grow by as much."`
	// What it does on its way, checked along all of it.
	Hinge Hinge `json:"hinge,omitzero" name:"hinge" when:"kind=lid|swing" doc:"The line it turns about."`
	Slide Slide `json:"slide,omitzero" name:"rail" when:"kind=slide" doc:"The rail it slides on."`
}

// Screw is what holds a cover: so many of one size.
type Screw struct {
	Thread Fact[Thread]           `json:"thread,omitzero" name:"thread" doc:"As on its papers, or held against a gauge."`
	Length Fact[units.Millimetre] `json:"length_mm,omitzero" is:"1..100" name:"length" measure:"screw-length" doc:"Under its head."`
	Count  Fact[int]              `json:"count,omitzero" is:"1..40" name:"how many" doc:"How many there are."`
	Used   Fact[units.Millimetre] `json:"used_mm,omitzero" is:"1..100" else:"the same" name:"length put in its place" measure:"screw-length" doc:"Where the cover stands on stand-offs."`
}

// Hinge is the line a cover turns about: through a point, along an axis.
type Hinge struct {
	Axis  Fact[Axis]         `json:"axis,omitzero" name:"hinge lies" doc:"The axis the hinge lies along."`
	At    Place              `json:"at,omitzero" name:"a point of the hinge" doc:"Any point on the hinge; along the hinge it may be left out."`
	Opens Fact[units.Degree] `json:"opens_deg,omitzero" is:"-360..360" name:"opens by" doc:"How far it turns from closed to open: from x to y, y to z or z to x above zero, the other way below."`
}

// Slide is the rail a cover or a tray moves along.
type Slide struct {
	Axis Fact[Axis]             `json:"axis,omitzero" name:"rail lies" doc:"The axis it slides along."`
	By   Fact[units.Millimetre] `json:"by_mm,omitzero" is:"-2000..2000" name:"slides by" measure:"slide-by" doc:"How far it slides from closed to open; below zero toward the origin."`
}

// Along is the axis, counted from 0, and plus or minus one.
func (f Facing) Along() (axis int, sign units.Millimetre) {
	axis, sign = int(f[1]-'x'), 1
	if f[0] == '-' {
		sign = -1
	}
	return axis, sign
}
