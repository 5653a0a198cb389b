// Package fit sets the card into its chamber: the card, the chamber's walls and
// what stands in it as boxes along the same three axes, the gaps between them,
// and the bracket against its opening.
package fit

import (
	"math"
	"strconv"

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
// have to be moved apart along one axis.
func (b Box) Gap(o Box) units.Millimetre {
	deepest, apart := math.Inf(-1), 0.0
	for i := range b.Min {
		d := float64(max(o.Min[i]-b.Max[i], b.Min[i]-o.Max[i]))
		deepest = max(deepest, d)
		apart += max(0, d) * max(0, d)
	}
	if deepest < 0 {
		return units.Millimetre(deepest)
	}
	return units.Millimetre(math.Sqrt(apart))
}

// A Gap is the room between the card and one thing; negative where they meet.
type Gap struct {
	Name      string
	Where     string // JSON Pointer of the thing
	Distance  units.Millimetre
	Tolerance units.Millimetre
	Off       bool // a cover that the brief lets stay off
}

// Chamber is a rig's chamber with the card in it, as far as it is known.
type Chamber struct {
	Card   Box
	Placed bool // the card's box is known
	Gaps   []Gap
	// Least is the place in Gaps of the smallest, covers that stay off left
	// aside; −1 when there is none.
	Least int

	rig  *rig.Rig
	ref  *reference.Tables
	axes [3]int // chamber axis of the card's length, height, thickness
}

// For sets the card of a rig into its chamber.
func For(r *rig.Rig, ref *reference.Tables) *Chamber {
	c := &Chamber{rig: r, ref: ref, Least: -1, axes: axesOf(r.Chamber.Axes.Or("xyz"))}
	if c.Open() {
		return c
	}
	c.place()
	if !c.Placed {
		return c
	}
	c.Gaps = make([]Gap, 0, 6+len(r.Chamber.Things)+len(r.Chamber.Covers))
	c.walls()
	c.things()
	for i, g := range c.Gaps {
		if !g.Off && (c.Least < 0 || g.Distance < c.Gaps[c.Least].Distance) {
			c.Least = i
		}
	}
	return c
}

// Open reports a card that stands in the open, where there is nothing to meet, or
// in a box whose maker has fitted it.
func (c *Chamber) Open() bool { return c.rig.Chamber.Open || rig.Is(c.rig.Card.BuiltIn, true) }

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
func CardSizes(card *rig.Card) [3]Fact {
	return [3]Fact{card.Length, card.Height, card.Thickness}
}

func place3(p rig.Place) [3]Fact   { return [3]Fact{p.X, p.Y, p.Z} }
func extent3(e rig.Extent) [3]Fact { return [3]Fact{e.X, e.Y, e.Z} }

func (c *Chamber) place() {
	at, sizes := place3(c.rig.Chamber.CardAt), CardSizes(&c.rig.Card)
	c.Placed = true
	for i, axis := range c.axes {
		if !at[axis].Known || !sizes[i].Known {
			c.Placed = false
			return
		}
		c.Card.Min[axis] = at[axis].Value
		c.Card.Max[axis] = at[axis].Value + sizes[i].Value
	}
}

// wallNames are the walls at the start and at the end of the card's length,
// height and thickness.
var wallNames = [3][2]string{
	{"the bracket's wall", "the far wall"},
	{"the slot's wall", "the wall above the slot's mouth"},
	{"the wall at the board's side", "the wall at the end of the slots"},
}

// walls measures the way to each wall. The card is held at the start of its
// length (bracket) and of its height (slot): touching there is meant, so only
// what goes beyond counts.
func (c *Chamber) walls() {
	box := extent3(c.rig.Chamber.Box)
	for i, axis := range c.axes {
		start := Gap{Name: wallNames[i][0], Where: "/chamber/box", Distance: c.Card.Min[axis], Tolerance: c.tolerance(i, c.at(axis))}
		if held := i < 2; !held || start.Distance < 0 {
			c.Gaps = append(c.Gaps, start)
		}
		if box[axis].Known {
			c.Gaps = append(c.Gaps, Gap{Name: wallNames[i][1], Where: "/chamber/box/" + axisName(axis), Distance: box[axis].Value - c.Card.Max[axis],
				Tolerance: c.tolerance(i, c.at(axis), box[axis])})
		}
	}
}

func axisName(axis int) string { return string(rune('x'+axis)) + "_mm" }

func (c *Chamber) at(axis int) Fact { return place3(c.rig.Chamber.CardAt)[axis] }

// tolerance of a gap along the card's side i: the stated tolerances of what
// makes it, root of the sum of squares, and no less than the default while any
// is unstated.
func (c *Chamber) tolerance(i int, facts ...Fact) units.Millimetre {
	size := CardSizes(&c.rig.Card)[i]
	sum, all := size.Tolerance*size.Tolerance, size.Tolerance > 0
	for _, f := range facts {
		sum += f.Tolerance * f.Tolerance
		all = all && f.Tolerance > 0
	}
	stated := units.Millimetre(math.Sqrt(sum))
	if all {
		return stated
	}
	return max(stated, c.ref.GapTolerance)
}

// Measured says whether somebody told how finely a gap was measured, or whether
// that is taken for it.
func (c *Chamber) Measured(g Gap) string {
	if g.Tolerance == c.ref.GapTolerance {
		return "taken as"
	}
	return "measured to"
}

func (c *Chamber) things() {
	for i := range c.rig.Chamber.Things {
		t := &c.rig.Chamber.Things[i]
		if t.Holds {
			continue
		}
		c.box(t.Name, "/chamber/things/"+strconv.Itoa(i), t.At, t.Size, false)
	}
	for i := range c.rig.Chamber.Covers {
		v := &c.rig.Chamber.Covers[i]
		c.box(v.Name, "/chamber/covers/"+strconv.Itoa(i), v.At, v.Size, c.mayStayOff(v.Name))
	}
}

func (c *Chamber) mayStayOff(cover string) bool {
	for _, name := range c.rig.Brief.CoversOff {
		if name == cover {
			return true
		}
	}
	return false
}

func (c *Chamber) box(name, where string, at rig.Place, size rig.Extent, off bool) {
	box, known := BoxOf(at, size)
	if !known {
		return
	}
	c.Gaps = append(c.Gaps, Gap{Name: name, Where: where, Distance: c.Card.Gap(box), Tolerance: c.boxTolerance(box, at, size), Off: off})
}

// boxTolerance takes the axis along which the two are furthest apart: that is
// where the gap was measured.
func (c *Chamber) boxTolerance(box Box, at rig.Place, size rig.Extent) units.Millimetre {
	side, widest := 0, units.Millimetre(math.Inf(-1))
	for i, axis := range c.axes {
		if d := max(box.Min[axis]-c.Card.Max[axis], c.Card.Min[axis]-box.Max[axis]); d > widest {
			side, widest = i, d
		}
	}
	axis := c.axes[side]
	facts := []Fact{c.at(axis), place3(at)[axis]}
	if box.Min[axis] < c.Card.Min[axis] {
		facts = append(facts, extent3(size)[axis])
	}
	return c.tolerance(side, facts...)
}

// BoxOf makes a box of a place and a size; false while a part is unknown.
func BoxOf(at rig.Place, size rig.Extent) (Box, bool) {
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
// no chamber, or a thing in it without place or size.
func (c *Chamber) Gap() (Gap, bool) {
	if !c.Placed || c.Least < 0 || len(c.missing()) > 0 {
		return Gap{}, false
	}
	return c.Gaps[c.Least], true
}

// missingFact is a fact without which the smallest gap is open.
type missingFact struct{ where, fact, find string }

const ruler = "Take the cover off and measure it with a ruler."

func (c *Chamber) missing() []missingFact {
	if c.Open() {
		return nil
	}
	var all []missingFact
	// What is measured together is asked for once.
	lack := func(at, of string, facts [3]Fact, names [3]string) {
		if i := firstOpen(facts); i >= 0 {
			all = append(all, missingFact{at + "/" + names[i], of, ruler})
		}
	}
	axes := [3]string{"x_mm", "y_mm", "z_mm"}
	lack("/card", "the card's size", CardSizes(&c.rig.Card), [3]string{"length_mm", "height_mm", "thickness_mm"})
	lack("/chamber/box", "the size of the case inside", extent3(c.rig.Chamber.Box), axes)
	lack("/chamber/card_at", "where the card stands in the case", place3(c.rig.Chamber.CardAt), axes)
	for i := range c.rig.Chamber.Things {
		t := &c.rig.Chamber.Things[i]
		if !t.Holds {
			c.lackBox(lack, "things", i, t.Name, t.At, t.Size)
		}
	}
	for i := range c.rig.Chamber.Covers {
		v := &c.rig.Chamber.Covers[i]
		if !c.mayStayOff(v.Name) {
			c.lackBox(lack, "covers", i, v.Name, v.At, v.Size)
		}
	}
	return all
}

// firstOpen is the place of the first of three facts that is not known, or −1.
func firstOpen(facts [3]Fact) int {
	for i := range facts {
		if !facts[i].Known {
			return i
		}
	}
	return -1
}

func (c *Chamber) lackBox(lack func(at, of string, facts [3]Fact, names [3]string), list string, i int, name string, at rig.Place, size rig.Extent) {
	where, extent := place3(at), extent3(size)
	if firstOpen(where) < 0 && firstOpen(extent) < 0 {
		return
	}
	axes := [3]string{"x_mm", "y_mm", "z_mm"}
	path := "/chamber/" + list + "/" + strconv.Itoa(i)
	lack(path+"/at", "where "+name+" is", where, axes)
	lack(path+"/size", "the size of "+name, extent, axes)
}

// Longest is the length of the longest card of the same height and thickness
// that goes in where this one stands; false while that is open.
func (c *Chamber) Longest() (units.Millimetre, bool) {
	axis := c.axes[0]
	wall := extent3(c.rig.Chamber.Box)[axis]
	if !c.Placed || !wall.Known || len(c.missing()) > 0 {
		return 0, false
	}
	ends := wall.Value
	c.eachBox(func(box Box) {
		if box.Max[axis] > c.Card.Min[axis] && c.inTheWay(box) {
			ends = min(ends, box.Min[axis])
		}
	})
	return max(0, ends-c.Card.Min[axis]), true
}

// inTheWay reports a box that a longer card would meet.
func (c *Chamber) inTheWay(box Box) bool {
	for _, axis := range c.axes[1:] {
		if box.Min[axis] >= c.Card.Max[axis] || box.Max[axis] <= c.Card.Min[axis] {
			return false
		}
	}
	return true
}

// eachBox visits all the card could meet inside the chamber.
func (c *Chamber) eachBox(visit func(Box)) {
	for i := range c.rig.Chamber.Things {
		t := &c.rig.Chamber.Things[i]
		if box, known := BoxOf(t.At, t.Size); known && !t.Holds {
			visit(box)
		}
	}
	for i := range c.rig.Chamber.Covers {
		v := &c.rig.Chamber.Covers[i]
		if box, known := BoxOf(v.At, v.Size); known && !c.mayStayOff(v.Name) {
			visit(box)
		}
	}
}

// Span tells where a gap lies: the chamber axis, and the two faces along it, the
// card's first.
func (c *Chamber) Span(g Gap) (axis int, from, to units.Millimetre) {
	best := units.Millimetre(math.Inf(1))
	consider := func(i int, a, b units.Millimetre, d units.Millimetre) {
		if miss := units.Millimetre(math.Abs(float64(d - g.Distance))); miss < best {
			best, axis, from, to = miss, i, a, b
		}
	}
	box := extent3(c.rig.Chamber.Box)
	for i := range c.Card.Min {
		if g.Where == "/chamber/box" {
			consider(i, c.Card.Min[i], 0, c.Card.Min[i])
		}
		if g.Where == "/chamber/box/"+axisName(i) {
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
	for i := range c.rig.Chamber.Things {
		if t := &c.rig.Chamber.Things[i]; where == "/chamber/things/"+strconv.Itoa(i) {
			return BoxOf(t.At, t.Size)
		}
	}
	for i := range c.rig.Chamber.Covers {
		if v := &c.rig.Chamber.Covers[i]; where == "/chamber/covers/"+strconv.Itoa(i) {
			return BoxOf(v.At, v.Size)
		}
	}
	return Box{}, false
}
