// Package fit sets the card into its chamber: the card, the chamber's walls and
// what stands in it as boxes along the same three axes, the gaps between them,
// and the bracket against its opening.
package fit

import (
	"math"
	"slices"

	"kolvan/core/odds"
	"kolvan/core/reference"
	"kolvan/core/rig"
	"kolvan/core/units"
)

// Vec is a point or a size along x, y and z.
type Vec [3]units.Millimetre

// Box is a box along the axes of the chamber, by two corners.
type Box struct{ Min, Max Vec }

// Size is the box's extent.
func (b Box) Size() Vec {
	return Vec{b.Max[0] - b.Min[0], b.Max[1] - b.Min[1], b.Max[2] - b.Min[2]}
}

// Gap is the distance between two boxes; below zero it is how far they would
// have to be moved apart along one axis. Within a thousandth of a millimetre they
// touch.
func (b Box) Gap(o Box) units.Millimetre {
	var d [3]units.Millimetre
	for i := range b.Min {
		d[i] = max(o.Min[i]-b.Max[i], b.Min[i]-o.Max[i])
	}
	return distance(d)
}

// A Gap is the room between the card and one thing; negative where they meet.
type Gap struct {
	Name      string
	Where     string                        // JSON Pointer of the thing
	Ends      units.Range[units.Millimetre] // what is certain of it in spite of what is missing
	Tolerance units.Millimetre              // of what it is made of: root of the sum of squares
	Worst     units.Millimetre              // and all of it one way
	Told      bool                          // every tolerance was told; else the usual one stands in
	Off       bool                          // a cover that the brief lets stay off
	lacks     []missingFact
}

// Distance is the gap, or the least it may be.
func (g *Gap) Distance() units.Millimetre { return g.Ends.Low }

// Meets tells how surely the card meets the thing.
func (g *Gap) Meets() units.Certainty {
	switch {
	case g.Ends.High < 0:
		return units.Always
	case g.Ends.Low < 0:
		return units.Sometimes
	default:
		return units.Never
	}
}

// Chance is how surely a known gap is there in the making: a told tolerance is two
// sigma (reference, section 8).
func (g *Gap) Chance() units.Share {
	if g.Tolerance == 0 {
		if g.Ends.Low < 0 {
			return 0
		}
		return 1
	}
	return units.Share(odds.Below(2 * float64(g.Ends.Low) / float64(g.Tolerance)))
}

// undecided reports a gap of which nobody can say that it is wide enough, nor that
// it is not.
func (g *Gap) undecided() bool {
	return !g.Off && !g.Ends.Known() && g.Ends.High >= 0 && g.Ends.Low < g.Tolerance
}

// Chamber is a rig's chamber with the card in it, as far as it is known.
type Chamber struct {
	Card   Box
	Placed bool // the card's box is known
	Gaps   []Gap
	// Least is the place in Gaps of the smallest, covers that stay off left
	// aside; −1 when there is none.
	Least int

	rig   *rig.Rig
	ref   *reference.Tables
	axes  [3]int    // chamber axis of the card's length, height, thickness
	at    [3]length // the card's corner, by chamber axis
	sizes [3]length // the card's size, by chamber axis
}

// For sets the card of a rig into its chamber.
func For(r *rig.Rig, ref *reference.Tables) *Chamber {
	c := new(Chamber)
	c.Work(r, ref)
	return c
}

// Work sets the card of a rig into its chamber in the room of the one before, which
// is lost.
func (c *Chamber) Work(r *rig.Rig, ref *reference.Tables) {
	*c = Chamber{rig: r, ref: ref, Least: -1, axes: axesOf(r.Chamber.Axes.Or("xyz")), Gaps: c.Gaps[:0]}
	if c.Open() || c.undescribed() {
		return
	}
	c.place()
	c.Gaps = slices.Grow(c.Gaps, 6+len(r.Chamber.Things)+len(r.Chamber.Covers))
	c.walls()
	c.things()
	for i := range c.Gaps {
		if !c.Gaps[i].Off && (c.Least < 0 || c.Gaps[i].Ends.Low < c.Gaps[c.Least].Ends.Low) {
			c.Least = i
		}
	}
}

// Open reports a card that stands in the open, where there is nothing to meet, in a box
// whose maker has fitted it, or as a module in the bay that was made for it.
func (c *Chamber) Open() bool {
	return c.rig.Chamber.Open || rig.Is(c.rig.Card.BuiltIn, true) || c.rig.Card.EdgeForm() != rig.CardSlot && c.undescribed()
}

// axesOf reads "xzy": length along x, height along z, thickness along y.
func axesOf(axes rig.Axes) (of [3]int) {
	for i := range of {
		of[i] = int(axes[i] - 'x')
	}
	return of
}

// Fact is a length that may be unknown.
type Fact = rig.Fact[units.Millimetre]

// CardSizes are the card's length, height and thickness.
func CardSizes(card *rig.Card) [3]*Fact {
	return [3]*Fact{&card.Length, &card.Height, &card.Thickness}
}

func place3(p *rig.Place) [3]*Fact   { return [3]*Fact{&p.X, &p.Y, &p.Z} }
func takes3(t *rig.Takes) [3]*Fact   { return [3]*Fact{&t.Length, &t.Height, &t.Thickness} }
func extent3(e *rig.Extent) [3]*Fact { return [3]*Fact{&e.X, &e.Y, &e.Z} }

// place puts the card where it is told to stand. Where that is not told, it stands
// somewhere within the walls: beyond them it meets one anyway.
func (c *Chamber) place() {
	at, sizes, box := place3(&c.rig.Chamber.CardAt), CardSizes(&c.rig.Card), extent3(&c.rig.Chamber.Box)
	c.Placed = true
	for i, axis := range c.axes {
		c.at[axis], c.sizes[axis] = lengthOf(at[axis], 0, box[axis].Or(longest)), lengthOf(sizes[i], 0, mostCard[i])
		if i == 2 {
			c.back(axis)
		}
		c.Placed = c.Placed && at[axis].Known && sizes[i].Known
		c.Card.Min[axis] = at[axis].Value
		c.Card.Max[axis] = at[axis].Value + sizes[i].Value
	}
	c.Card.Min[c.axes[2]] -= c.rig.Card.Back.Value
}

// back adds the backplate to the card's body: it stands out behind the board.
func (c *Chamber) back(axis int) {
	if !c.rig.Card.Back.Known {
		return
	}
	plate := lengthOf(&c.rig.Card.Back, 0, 0)
	c.at[axis].ends = units.Between(c.at[axis].ends.Low-plate.ends.High, c.at[axis].ends.High-plate.ends.Low)
	c.sizes[axis].ends = c.sizes[axis].ends.Plus(plate.ends)
	c.at[axis].made = c.at[axis].made.plus(plate.made)
}

// wallNames are the walls at the start and at the end of the card's length,
// height and thickness.
var wallNames = [3][2]string{
	{"the bracket's wall", "the far wall"},
	{"the slot's wall", "the wall above the slot's mouth"},
	{"the wall at the board's side", "the wall at the end of the slots"},
}

// What a limit of the papers is called, and where it is told, by the card's length,
// height and thickness.
var (
	limitNames = [3]string{"the longest card the case takes", "the highest card the case takes", "the thickest card the case takes"}
	limitPaths = [3]string{"/chamber/takes/length_mm", "/chamber/takes/height_mm", "/chamber/takes/thickness_mm"}
)

// walls measures the way to each wall. The card is held at the start of its
// length (bracket) and of its height (slot): touching there is meant, so only
// what goes beyond counts.
func (c *Chamber) walls() {
	box, lacks := extent3(&c.rig.Chamber.Box), c.cardLacks()
	takes := takes3(&c.rig.Chamber.Takes)
	for i, axis := range c.axes {
		if takes[i].Known {
			limit := lengthOf(takes[i], 0, longest)
			c.add(
				Gap{Name: limitNames[i], Where: limitPaths[i], lacks: lacks.of(cardSize, axis)},
				far(limit, length{}, lengthOf(CardSizes(&c.rig.Card)[i], 0, mostCard[i])),
			)
			if !box[axis].Known {
				continue // the limit decides by itself
			}
		}
		start := apart{ends: c.at[axis].ends, made: c.at[axis].made}
		if held := i < 2; !held || start.ends.Low < 0 {
			c.add(Gap{Name: wallNames[i][0], Where: "/chamber/box", lacks: lacks.of(cardPlace, axis)}, start)
		}
		wall := lengthOf(box[axis], 0, longest)
		c.add(
			Gap{Name: wallNames[i][1], Where: wallPaths[axis], lacks: c.wallLacks(lacks, axis, box[axis].Known)},
			far(wall, c.at[axis], c.sizes[axis]).within(box[axis].Known),
		)
	}
}

// add takes in a gap that lies along one axis.
func (c *Chamber) add(g Gap, a apart) {
	g.Ends = units.Between(touching(a.ends.Low), touching(a.ends.High))
	g.Tolerance, g.Worst, g.Told = a.made.tolerance(c.ref.GapTolerance)
	c.Gaps = append(c.Gaps, g)
}

func axisName(axis int) string { return axisNames[axis] }

var (
	axisNames = [3]string{"x_mm", "y_mm", "z_mm"}
	wallPaths = [3]string{"/chamber/box/x_mm", "/chamber/box/y_mm", "/chamber/box/z_mm"}
)

// edgeInSlot is how deep the card's edge sits in what holds it, along the card's
// height (reference, section 8).
const edgeInSlot units.Millimetre = 8.5

func (c *Chamber) things() {
	for i := range c.rig.Chamber.Things {
		t := &c.rig.Chamber.Things[i]
		if t.Out {
			continue
		}
		c.box(&obstacle{t.Name, rig.ThingPath(i), &t.At, &t.Size, false, t.Holds, t})
	}
	for i := range c.rig.Chamber.Covers {
		v := &c.rig.Chamber.Covers[i]
		c.box(&obstacle{v.Name, rig.CoverPath(i), &v.At, &v.Size, c.mayStayOff(v.Name), false, nil})
	}
}

func (c *Chamber) mayStayOff(cover string) bool { return slices.Contains(c.rig.Brief.CoversOff, cover) }

// obstacle is a thing or a cover that the card may meet.
type obstacle struct {
	name, where string
	at          *rig.Place
	size        *rig.Extent
	off, holds  bool
	thing       *rig.Thing // nil for a cover
}

// box measures the way to an obstacle along each axis, and across the corner. What
// lies wholly beyond the bracket's wall is left aside, and what holds the card may
// be entered along its height as deep as an edge goes into its slot.
func (c *Chamber) box(o *obstacle) {
	at, size := place3(o.at), extent3(o.size)
	if x := c.axes[0]; at[x].Known && size[x].Known && at[x].Value+size[x].Value <= touch {
		return
	}
	var low, high [3]units.Millimetre
	var parts [3]apart
	for i := range parts {
		a, s := lengthOf(at[i], -longest, longest), lengthOf(size[i], 0, longest)
		ahead, behind := far(a, c.at[i], c.sizes[i]), far(c.at[i], a, s)
		parts[i] = ahead.either(behind)
		if o.holds && i == c.axes[1] {
			parts[i].ends = parts[i].ends.Plus(units.Exactly(edgeInSlot))
		}
		low[i], high[i] = parts[i].ends.Low, parts[i].ends.High
	}
	g := Gap{Name: o.name, Where: o.where, Ends: units.Between(distance(low), distance(high)), Off: o.off}
	if g.Ends.Known() && c.Placed && !o.holds && o.thing != nil {
		if axis, hull, is := ProfileOf(o.thing); is {
			g.Ends = units.Exactly(prismGap(axis, hull, parts[axis].ends.Low, c.Card))
		}
	}
	if o.holds && g.Ends.High >= 0 && (g.Ends.Low >= 0 || !g.Ends.Known()) {
		return // touching is meant
	}
	g.Tolerance, g.Worst, g.Told = across(parts, c.ref.GapTolerance)
	if !g.Ends.Known() {
		g.lacks = c.boxLacks(o, at, size)
	}
	c.Gaps = append(c.Gaps, g)
}

// BoxOf makes a box of a place and a size; false while a part is unknown.
func BoxOf(at *rig.Place, size *rig.Extent) (Box, bool) {
	a, s := place3(at), extent3(size)
	var b Box
	for i := range a {
		if !a[i].Known || !s[i].Known {
			return Box{}, false
		}
		b.Min[i], b.Max[i] = a[i].Value, a[i].Value+s[i].Value
	}
	return b, true
}

// Gap returns the smallest gap; false while it cannot be known: nothing placed,
// no chamber, or another that may be smaller.
func (c *Chamber) Gap() (*Gap, bool) {
	ends, some := c.GapEnds()
	if !some || !ends.Known() {
		return nil, false
	}
	return &c.Gaps[c.Least], true
}

// GapEnds is what is certain of the smallest gap; false where there is none.
func (c *Chamber) GapEnds() (ends units.Range[units.Millimetre], some bool) {
	for i := range c.Gaps {
		switch g := &c.Gaps[i]; {
		case g.Off:
		case !some:
			ends, some = g.Ends, true
		default:
			ends = ends.AtMost(g.Ends)
		}
	}
	return ends, some
}

// Largest is how long (0), high (1) or thick (2) a card may be that goes in where this
// one stands and is as large otherwise; false while that is open.
func (c *Chamber) Largest(way int) (units.Millimetre, bool) {
	axis := c.axes[way]
	wall := extent3(&c.rig.Chamber.Box)[axis]
	if _, known := c.Gap(); !c.Placed || !wall.Known || !known {
		return 0, false
	}
	ends := wall.Value
	c.eachBox(func(box Box) {
		if box.Max[axis] > c.Card.Min[axis] && c.overlapsAcross(box, axis) {
			ends = min(ends, box.Min[axis])
		}
	})
	return max(0, ends-c.Card.Min[axis]), true
}

// eachBox visits all the card could meet inside the chamber.
func (c *Chamber) eachBox(visit func(Box)) {
	for i := range c.rig.Chamber.Things {
		t := &c.rig.Chamber.Things[i]
		if box, known := BoxOf(&t.At, &t.Size); known && !t.Holds && !t.Out {
			visit(box)
		}
	}
	for i := range c.rig.Chamber.Covers {
		v := &c.rig.Chamber.Covers[i]
		if box, known := BoxOf(&v.At, &v.Size); known && !c.mayStayOff(v.Name) {
			visit(box)
		}
	}
}

// Span tells where a gap lies: the chamber axis, and the two faces along it, the
// card's first.
func (c *Chamber) Span(g *Gap) (axis int, from, to units.Millimetre) {
	best := units.Millimetre(math.Inf(1))
	consider := func(i int, a, b units.Millimetre, d units.Millimetre) {
		if miss := units.Millimetre(math.Abs(float64(d - g.Ends.Low))); miss < best {
			best, axis, from, to = miss, i, a, b
		}
	}
	box := extent3(&c.rig.Chamber.Box)
	for i := range c.Card.Min {
		if g.Where == "/chamber/box" {
			consider(i, c.Card.Min[i], 0, c.Card.Min[i])
		}
		if g.Where == wallPaths[i] {
			consider(i, c.Card.Max[i], box[i].Value, box[i].Value-c.Card.Max[i])
		}
	}
	if b, known := c.boxAt(g.Where); known {
		for i := range c.Card.Min {
			consider(i, c.Card.Max[i], b.Min[i], b.Min[i]-c.Card.Max[i])
			consider(i, c.Card.Min[i], b.Max[i], c.Card.Min[i]-b.Max[i])
		}
	}
	return axis, from, to
}

func (c *Chamber) boxAt(where string) (Box, bool) {
	if i := c.thingAt(where); i >= 0 {
		return BoxOf(&c.rig.Chamber.Things[i].At, &c.rig.Chamber.Things[i].Size)
	}
	if i := c.coverAt(where); i >= 0 {
		return BoxOf(&c.rig.Chamber.Covers[i].At, &c.rig.Chamber.Covers[i].Size)
	}
	return Box{}, false
}

// thingAt and coverAt are the places of what a pointer points at; −1 for none.
func (c *Chamber) thingAt(where string) int {
	for i := range c.rig.Chamber.Things {
		if where == rig.ThingPath(i) {
			return i
		}
	}
	return -1
}

func (c *Chamber) coverAt(where string) int {
	for i := range c.rig.Chamber.Covers {
		if where == rig.CoverPath(i) {
			return i
		}
	}
	return -1
}
