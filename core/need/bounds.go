package need

import (
	"cmp"
	"slices"
	"strings"

	"kolvan/core/rig"
)

// A setting is a lever moved.
type setting struct {
	lever *lever
	at    int    // of a number, its place of the grid
	typed string // as it is written
}

func (l *lever) to(at int) setting { return setting{l, at, l.typed(at)} }

// needOf is what the part of these levers would have to be like; false where none of them
// ends a trouble. Every lever is first moved to where it helps most; then, one after another,
// each is let back as far as the troubles stay away. Which is let back last decides between
// them, so that each gives a corner.
func (s *search) needOf(levers []*lever) (Need, bool) {
	helps, ends := s.together(levers)
	if len(ends) == 0 {
		return Need{}, false
	}
	var corners []Corner
	for last := range helps {
		order := slices.Concat(helps[:last], helps[last+1:], helps[last:last+1])
		corner := s.corner(order, ends)
		if !slices.ContainsFunc(corners, corner.same) {
			corners = append(corners, corner)
		}
	}
	for _, c := range corners {
		ends = append(ends, missing(c.instead, ends)...)
	}
	slices.SortStableFunc(corners, func(a, b Corner) int { return cmp.Compare(len(a.Bounds), len(b.Bounds)) })
	need := Need{Part: partName(s.rig, levers[0]), Where: levers[0].part, For: ends, Bounds: corners[0].Bounds}
	need.does, _ = s.moved(corners[0].left)
	if len(corners) > 1 {
		need.Or = corners[1:min(len(corners), mostCorners)]
	}
	return need, true
}

// mostCorners is how many sets of bounds of one part are told.
const mostCorners = 4

func (c Corner) same(other Corner) bool {
	return len(c.Bounds) == len(other.Bounds) && !slices.ContainsFunc(c.Bounds, func(b Bound) bool {
		return !slices.ContainsFunc(other.Bounds, func(o Bound) bool { return o.At == b.At && o.Says == b.Says })
	})
}

// together moves the levers to where they help most, each beside those that were moved
// before it, as long as nothing comes in and nothing comes back: figures first, and another
// sort only where it ends more than they do. What one alone cannot, as more watts behind a
// weak rail, it may once another was moved: so they are gone through again.
func (s *search) together(levers []*lever) (moved []setting, ends []Trouble) {
	levers = slices.Clone(levers)
	slices.SortStableFunc(levers, func(a, b *lever) int { return cmp.Compare(len(a.words), len(b.words)) })
	for again := true; again; {
		again = false
		for _, l := range levers {
			if slices.ContainsFunc(moved, func(set setting) bool { return set.lever == l }) {
				continue
			}
			set, some := s.best(l, moved, len(ends))
			if !some {
				continue
			}
			with := append(slices.Clone(moved), set)
			o := s.try(with...)
			again = again || len(o.gone) > len(ends)
			moved, ends = with, o.gone
		}
	}
	return moved, ends
}

// A choice gathers where a lever helps most, beside others that were moved: it ends the most
// and brings nothing in; where it ends no more than they do, it makes something better. Of
// places that do the same the first stands, or, of a figure of which more is never too much,
// the last: what is let back has room.
type choice struct {
	beside []setting
	ended  int // by those beside it
	best   setting
	gone   int
	some   bool
}

func (c *choice) consider(set setting, o *outcome) {
	if len(o.comes) > 0 || len(o.gone) < c.ended || len(o.gone) == c.ended && (!o.better || set.lever.words != nil) {
		return
	}
	sold := set.lever.spec.Sold
	if c.some && (len(o.gone) < c.gone || len(o.gone) == c.gone && c.gone > c.ended && !sold.Up && !sold.Down) {
		return
	}
	c.best, c.gone, c.some = set, len(o.gone), true
}

// best is where the lever helps most; false where it helps nowhere.
func (s *search) best(l *lever, moved []setting, ended int) (setting, bool) {
	c := &choice{beside: moved, ended: ended}
	if l.words != nil {
		for i, word := range l.words {
			o := s.beside(c, setting{l, i, word})
			if word != l.isWord && len(o.asks) == 0 && slices.ContainsFunc(o.gone, l.answers) {
				c.consider(setting{l, i, word}, &o)
			}
		}
		return c.best, c.some
	}
	first, last := l.ends()
	below, above := l.beside()
	if !l.spec.Sold.Down {
		s.along(l, above, 1, last, c)
	}
	if !l.spec.Sold.Up {
		s.along(l, below, -1, first, c)
	}
	return c.best, c.some
}

func (s *search) beside(c *choice, set setting) outcome {
	return s.try(append(slices.Clone(c.beside), set)...)
}

// answers reports a trouble that a word of the lever could answer: one of the thing itself
// that it belongs to, or of what is joined to it. Another kind of plug is no answer to how
// much a supply carries.
func (l *lever) answers(t Trouble) bool {
	owner := l.at[:strings.LastIndex(l.at, "/")]
	return l.spec.ByOwner || l.spec.Kind == rig.TextList || rig.Within(t.Where, owner) || rig.Within(t.Where, "/leads") ||
		rig.Within(t.Where, "/route")
}

// along moves a lever one way, in steps that double. Where more is gone than a step before,
// the first place at which it is gone lies between.
func (s *search) along(l *lever, from, step, end int, c *choice) {
	before, gone := from-step, c.ended
	for _, at := range places(from, step, end, len(l.sizes()) > 0) {
		if s.ctx.Err() != nil {
			return
		}
		o := s.beside(c, l.to(at))
		if len(o.gone) > gone {
			first := nearest(before, at, func(i int) bool {
				between := s.beside(c, l.to(i))
				return len(missing(o.gone, between.gone)) == 0
			})
			at := s.beside(c, l.to(first))
			c.consider(l.to(first), &at)
		}
		c.consider(l.to(at), &o)
		before, gone = at, len(o.gone)
	}
}

// places are those of a grid that are tried on one way: each, or ever further apart.
func places(from, step, end int, each bool) (list []int) {
	for far := step; (end-from)*step >= 0; {
		list = append(list, from)
		if from == end {
			break
		}
		if from += far; (end-from)*step < 0 {
			from = end
		}
		if !each {
			far *= 2
		}
	}
	return list
}

// nearest is the place next to no at which it holds; it does at yes and not at no, and
// changes once between them.
func nearest(no, yes int, holds func(int) bool) int {
	for yes-no > 1 || no-yes > 1 {
		if middle := (no + yes) / 2; holds(middle) {
			yes = middle
		} else {
			no = middle
		}
	}
	return yes
}

// missing are those of the troubles that a list does not have.
func missing(of, list []Trouble) (left []Trouble) {
	for _, t := range of {
		if !slices.Contains(list, t) {
			left = append(left, t)
		}
	}
	return left
}

// corner lets the levers back, one after another, and tells what is left of each.
func (s *search) corner(order []setting, ends []Trouble) (c Corner) {
	c.left = slices.Clone(order)
	for _, set := range order {
		i := slices.IndexFunc(c.left, func(l setting) bool { return l.lever == set.lever })
		others := slices.Concat(c.left[:i], c.left[i+1:])
		if o := s.try(others...); o.ends(ends) {
			c.left = others
			continue
		}
		if set.lever.words == nil {
			c.left[i] = set.lever.to(nearest(set.back(), set.at, func(at int) bool {
				o := s.try(append(slices.Clone(others), set.lever.to(at))...)
				return o.ends(ends)
			}))
		}
	}
	for i := range c.left {
		bound, instead := s.bound(c.left, i, ends)
		c.Bounds = append(c.Bounds, bound)
		c.instead = append(c.instead, missing(instead, c.instead)...)
	}
	return c
}

// back is the place of the grid a setting is let back to at the most: that of what it is.
func (set *setting) back() int {
	below, above := set.lever.beside()
	if set.at >= above {
		return above - 1
	}
	return below + 1
}

// up reports a setting above what the lever is.
func (set *setting) up() bool {
	_, above := set.lever.beside()
	return set.at >= above
}

// bound tells one of the levers that are left, and what would come in the place of what it
// ends a step before it.
func (s *search) bound(left []setting, i int, ends []Trouble) (b Bound, instead []Trouble) {
	set := left[i]
	others := slices.Concat(left[:i], left[i+1:])
	b = Bound{At: set.lever.at, Fact: set.lever.spec.Called, Unit: set.lever.spec.Unit}
	if set.lever.words != nil {
		o := s.try(others...)
		b.Because = titles(missing(ends, o.gone))
		for at, word := range set.lever.words {
			if o := s.try(append(slices.Clone(others), setting{set.lever, at, word})...); o.ends(ends) && len(o.asks) == 0 {
				b.OneOf = append(b.OneOf, set.lever.value(word))
			}
		}
		b.Says = set.lever.saysOneOf(s.rig, b.OneOf)
		return b, nil
	}
	short := s.stepBack(others, set)
	for _, t := range short.comes {
		t.Instead = true
		instead = append(instead, t)
	}
	b.Because = titles(append(missing(ends, short.gone), instead...))
	low := set.lever.grid(set.at)
	value, sure := any(low), low
	if surely, goes := s.surely(left, i, ends); surely != set.at {
		value = []any{low, nil}
		if goes {
			sure = set.lever.grid(surely)
			value = []any{low, sure}
		}
	}
	if b.Says = set.lever.saysNumber(s.rig, low, sure, set.up()); set.up() {
		b.AtLeast = value
	} else {
		b.AtMost = value
	}
	return b, instead
}

// stepBack is what becomes of the plan one step before the bound.
func (s *search) stepBack(others []setting, set setting) outcome {
	back := set.at - 1
	if !set.up() {
		back = set.at + 1
	}
	if back == set.back() {
		return s.try(others...)
	}
	return s.try(append(slices.Clone(others), set.lever.to(back))...)
}

// surely is the place from where on no fact that is missing could bring the trouble back;
// false where there is none.
func (s *search) surely(left []setting, i int, ends []Trouble) (int, bool) {
	set := left[i]
	sure := func(at int) bool {
		moved := slices.Clone(left)
		moved[i] = set.lever.to(at)
		o := s.try(moved...)
		return o.ends(ends) && !slices.ContainsFunc(ends, func(t Trouble) bool { return slices.Contains(o.asks, t.Rule) })
	}
	if sure(set.at) {
		return set.at, true
	}
	first, last := set.lever.ends()
	step, end := 1, last
	if !set.up() {
		step, end = -1, first
	}
	before := set.at
	for _, at := range places(set.at+step, step, end, len(set.lever.sizes()) > 0) {
		if s.ctx.Err() != nil {
			break
		}
		if sure(at) {
			return nearest(before, at, sure), true
		}
		before = at
	}
	return end + step, false
}
