package fit

import (
	"math"

	"kolvan/core/units"
)

// The ends of lengths that nobody told, by what the format takes.
const longest units.Millimetre = 3000

var mostCard = [3]units.Millimetre{1000, 500, 300} // length, height, thickness

// touch is the breadth within which two faces touch and do not meet.
const touch units.Millimetre = 0.001

// A length is what is known of one: the ends it lies between, and what its measure
// adds to the tolerance of a gap.
type length struct {
	ends units.Range[units.Millimetre]
	made made
}

func lengthOf(f *Fact, least, most units.Millimetre) length {
	if !f.Known {
		return length{ends: units.Between(least, max(least, most))}
	}
	tolerance, told := f.Spread()
	return length{units.Exactly(f.Value), made{tolerance * tolerance, tolerance, !told}}
}

// made is what a gap is made of: the tolerances of its lengths.
type made struct {
	squares, sum float64
	untold       bool
}

func (m made) plus(o made) made {
	return made{m.squares + o.squares, m.sum + o.sum, m.untold || o.untold}
}

// tolerance adds up as root of the sum of squares and as the worst case; while any
// is not told neither is under the usual one.
func (m made) tolerance(usual units.Millimetre) (rss, worst units.Millimetre, told bool) {
	rss, worst = units.Millimetre(math.Sqrt(m.squares)), units.Millimetre(m.sum)
	if m.untold {
		return max(rss, usual), max(worst, usual), false
	}
	return rss, worst, true
}

// apart is the way between two faces along one axis; negative where one is past
// the other.
type apart struct {
	ends units.Range[units.Millimetre]
	made made
}

// far is the way from the end of a body to a face ahead of it.
func far(face, at, size length) apart {
	return apart{
		units.Between(face.ends.Low-at.ends.High-size.ends.High, face.ends.High-at.ends.Low-size.ends.Low),
		face.made.plus(at.made).plus(size.made),
	}
}

// within: behind a wall that nobody measured there may be any room.
func (a apart) within(known bool) apart {
	a.made.untold = a.made.untold || !known
	return a
}

// either is the way between two bodies, of which one lies ahead of the other.
func (a apart) either(b apart) apart {
	if b.ends.Low > a.ends.Low {
		a.made = b.made
	}
	a.ends = a.ends.AtLeast(b.ends)
	return a
}

// distance is how far two bodies are apart that are so far apart along each axis;
// below zero, the least way to move them apart.
func distance(d [3]units.Millimetre) units.Millimetre {
	deepest := max(d[0], d[1], d[2])
	if deepest <= touch {
		return touching(deepest)
	}
	sum := 0.0
	for _, along := range d {
		sum += float64(max(0, along)) * float64(max(0, along))
	}
	return units.Millimetre(math.Sqrt(sum))
}

func touching(d units.Millimetre) units.Millimetre {
	if math.Abs(float64(d)) <= float64(touch) {
		return 0
	}
	return d
}

// across is the tolerance of a gap across a corner: each axis counts by how much
// it is of the way, to first order.
func across(parts [3]apart, usual units.Millimetre) (rss, worst units.Millimetre, told bool) {
	var d [3]units.Millimetre
	deepest := 0
	for i := range parts {
		if d[i] = parts[i].ends.Low; d[i] > d[deepest] {
			deepest = i
		}
	}
	way := distance(d)
	if way <= 0 {
		return parts[deepest].made.tolerance(usual)
	}
	squares, told := 0.0, true
	for i := range parts {
		if d[i] <= 0 {
			continue
		}
		r, w, t := parts[i].made.tolerance(usual)
		share := float64(d[i] / way)
		squares += share * share * float64(r) * float64(r)
		worst += units.Millimetre(share) * w
		told = told && t
	}
	return units.Millimetre(math.Sqrt(squares)), worst, told
}
