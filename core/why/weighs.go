package why

import (
	"cmp"
	"math"
	"regexp"
	"slices"
	"strconv"

	"kolvan/core/assess"
	"kolvan/core/rig"
	"kolvan/core/units"
)

// nudge is how far a told figure is moved to see what hangs on it, as a share.
const nudge = 0.01

// So many facts are named, of which so much hangs at least.
const (
	mostWeights = 6
	leastShare  = 0.005
)

// moved is a rig in which one fact is another.
type moved struct {
	rig  *rig.Rig
	open bool // the fact is not told
}

// weights tells on which facts a figure hangs: of a range, how much narrower it would be with
// a fact told that is not; of a single figure, how much of its change each would bring.
func (d *desk) weights(m maker) []Weight {
	low, known := m.of(d, false)
	high, _ := m.of(d, true)
	if !known || m.long {
		return []Weight{}
	}
	width := high.Value - low.Value
	ends := func(c *moved) (a, b Term, known bool) {
		now := &desk{c.rig, d.ref, assess.Rig(c.rig, d.ref)}
		a, known = m.of(now, false)
		b, _ = m.of(now, true)
		return a, b, known
	}
	if width > 1e-9*math.Max(1, math.Abs(high.Value)) {
		list := d.moved(func(c *moved) float64 {
			a, b, known := ends(c)
			if !c.open || !known {
				return 0
			}
			return math.Max(0, width-(b.Value-a.Value))
		})
		return heaviest(list, width)
	}
	list := d.moved(func(c *moved) float64 {
		_, b, known := ends(c)
		if c.open || !known {
			return 0
		}
		return math.Abs(b.Value - high.Value)
	})
	return heaviest(list, 0)
}

// moved moves each number of the rig in its turn and keeps those that change something.
func (d *desk) moved(measure func(*moved) float64) (list []Weight) {
	rig.Walk(d.r, func(n rig.Node) {
		if n.List || !weighable(n) {
			return
		}
		typed, open := another(n)
		if typed == "" {
			return
		}
		c, err := rig.With(d.r, n.Path(), typed)
		if err != nil {
			return
		}
		if by := measure(&moved{c, open}); by > 0 {
			list = append(list, Weight{At: n.Path(), Name: d.called(n), Share: by, Open: open})
		}
	})
	return list
}

// weighable reports a number that the rig is judged by: what was found, tried and paid is not.
func weighable(n rig.Node) bool {
	switch n.Spec.Kind {
	case rig.Number, rig.Whole:
	default:
		return false
	}
	return slices.ContainsFunc(
		[]string{"/host", "/route", "/card", "/supplies", "/leads", "/chamber", "/sizing", "/brief", "/ledger"},
		func(part string) bool {
			return rig.Within(n.Path(), part)
		},
	)
}

// numbersIn finds the numbers of a text, as of "30 to 150 mm".
var numbersIn = regexp.MustCompile(`\d+(?:\.\d+)?`)

// another is the number a fact is moved to, as it is typed, and whether it is told: a little
// more than what is told, the next size, or the middle of what it is taken as.
func another(n rig.Node) (typed string, open bool) {
	spec := n.Spec
	if !n.Known() {
		ends := numbersIn.FindAllString(spec.Else, -1)
		if len(ends) < 2 {
			return "", true
		}
		low, _ := strconv.ParseFloat(ends[0], 64)
		high, _ := strconv.ParseFloat(ends[1], 64)
		return fits(spec, (low+high)/2), true
	}
	v := n.Number()
	if sizes := spec.Among; len(sizes) > 0 {
		i := slices.Index(sizes, v)
		if i > 0 {
			return fits(spec, sizes[i-1]), false
		}
		return fits(spec, sizes[min(1, len(sizes)-1)]), false
	}
	if spec.Kind == rig.Whole {
		return fits(spec, v-1), false
	}
	return fits(spec, v*(1+nudge)), false
}

// fits is a number as it is typed, where the field takes it.
func fits(spec *rig.Spec, v float64) string {
	if !spec.Holds(v) {
		return ""
	}
	return strconv.FormatFloat(v, 'f', -1, 64)
}

// called names a fact with the part it belongs to.
func (d *desk) called(n rig.Node) string {
	_, name := d.r.Subject(n.Path())
	return n.Spec.Called + " of " + name
}

// heaviest are those on which most hangs, as shares of a whole; 0 for of all of them.
func heaviest(list []Weight, whole float64) []Weight {
	if whole == 0 {
		for _, w := range list {
			whole += w.Share
		}
	}
	kept := []Weight{}
	for _, w := range list {
		if w.Share = units.Round(w.Share/whole, 3); w.Share >= leastShare {
			kept = append(kept, w)
		}
	}
	slices.SortStableFunc(kept, func(a, b Weight) int { return cmp.Compare(b.Share, a.Share) })
	return kept[:min(len(kept), mostWeights)]
}
