package need

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"kolvan/core/power"
	"kolvan/core/reference"
	"kolvan/core/rig"
	"kolvan/core/units"
)

// A lever is one fact of a part by which another part may be chosen, or that its owner sets.
type lever struct {
	at     string // JSON Pointer
	part   string // the pointer of the part it belongs to
	spec   rig.Spec
	now    float64  // of a number: what it is
	words  []string // of anything else: what it may be
	volts  bool     // a voltage, which comes in steps of its own
	step   float64  // of a number that is not sold in sizes: the least difference
	isWord string   // of anything else: what it is
}

// Voltages that supplies and plugs are made for, V (P).
var voltages = []string{"3.3", "5", "9", "12", "15", "19", "19.5", "20", "24", "48"}

// finest are the steps in which a figure of a unit is sold: a bound is told no finer.
var finest = map[string]float64{"A": 0.1, "GB/s": 0.1, "": 0.1}

// leversOf are the levers of a rig, those of one part together, in the order of the file.
func leversOf(r *rig.Rig, ref *reference.Tables) (list []*lever) {
	rig.Walk(r, func(n rig.Node) {
		if n.List || !n.Spec.Sold.By && !n.Spec.ByOwner || rig.Within(n.Path(), "/tried_hosts") {
			return
		}
		l := &lever{at: n.Path(), spec: *n.Spec}
		l.part = partOf(r, l)
		if l.read(r, n) && l.among(r, ref) {
			list = append(list, l)
		}
	})
	slices.SortStableFunc(list, func(a, b *lever) int { return strings.Compare(a.part, b.part) })
	return list
}

// partOf is the pointer of what is bought whole: plugs and inlets go with their card or dock.
// What an owner sets is no part of anything bought.
func partOf(r *rig.Rig, l *lever) string {
	if l.spec.ByOwner {
		return l.at
	}
	if rig.Within(l.at, "/card") {
		return "/card"
	}
	thing, _ := r.Subject(l.at)
	return thing
}

// read takes over what the lever is now; false for one that cannot be moved, since nothing is
// told of it.
func (l *lever) read(r *rig.Rig, n rig.Node) bool {
	l.volts = l.spec.Unit == "V"
	switch {
	case l.spec.ByOwner && l.spec.Unit == "W":
		power, told := r.Card.Lasting().Get()
		l.now = float64(power)
		l.step = 1
		return told
	case l.spec.ByOwner && l.spec.Kind == rig.Whole:
		for _, size := range l.sizes() {
			l.words = append(l.words, units.Trim(size, 0))
		}
		return true
	case !n.Known() && !l.spec.ByOwner:
		return false
	case l.volts:
		l.words = voltages
	case l.spec.Kind == rig.Choice:
		l.words = l.spec.Choices
	case l.spec.Kind == rig.Flag:
		l.words = []string{"true", "false"}
	case l.spec.Kind == rig.TextList:
		l.words = encodersWanted(r)
	default:
		return l.readNumber(n)
	}
	l.isWord = worded(n.Plain())
	return l.words != nil
}

func (l *lever) readNumber(n rig.Node) bool {
	l.now, l.step = n.Number(), 1
	if step, told := finest[l.spec.Unit]; told && l.spec.Kind == rig.Number {
		l.step = step
	}
	return !math.IsNaN(l.now)
}

// among keeps of the words those that go with the part: a plug that cards have, a supply that
// is switched on as this one is.
func (l *lever) among(r *rig.Rig, ref *reference.Tables) bool {
	if l.words == nil {
		return true
	}
	i := rig.EntryAt(l.part, "/supplies")
	l.words = slices.DeleteFunc(slices.Clone(l.words), func(word string) bool {
		switch {
		case rig.Within(l.at, "/card/plugs"):
			return !ref.Kind(rig.Connector(word)).Card
		case i >= 0 && l.at == l.part+"/kind":
			other := r.Supplies[i]
			other.Kind = rig.Of(rig.SupplyKind(word))
			return power.WaitsToBeSwitched(&other) != power.WaitsToBeSwitched(&r.Supplies[i])
		}
		return false
	})
	return len(l.words) > 1
}

// encodersWanted are the card's encoders with one more that a use wants.
func encodersWanted(r *rig.Rig) (lists []string) {
	have := r.Card.Encoders.Value
	for i := range r.Brief.Works {
		if wants := r.Brief.Works[i].Encoder.Value; wants != "" && !slices.Contains(have, wants) {
			have = append(slices.Clone(have), wants)
			lists = append(lists, strings.Join(have, ", "))
		}
	}
	return lists
}

// sizes are the numbers it may be, where only some are sold.
func (l *lever) sizes() []float64 {
	if len(l.spec.Among) == 0 && l.spec.Kind == rig.Whole && l.spec.Max-l.spec.Min <= fewSizes {
		list := []float64{}
		for v := l.spec.Min; v <= l.spec.Max; v++ {
			list = append(list, v)
		}
		return list
	}
	return l.spec.Among
}

// fewSizes is how many sizes are tried one by one.
const fewSizes = 32

// grid is the number at place i of the steps, or of the sizes.
func (l *lever) grid(i int) float64 {
	if sizes := l.sizes(); len(sizes) > 0 {
		return sizes[i]
	}
	return units.Round(float64(i)*l.step, units.ReportDigits)
}

// ends are the first and the last place of the grid.
func (l *lever) ends() (first, last int) {
	if sizes := l.sizes(); len(sizes) > 0 {
		return 0, len(sizes) - 1
	}
	low, high := l.spec.Min, l.spec.Max
	if l.spec.Sold.Max > 0 {
		low, high = l.spec.Sold.Min, l.spec.Sold.Max
	}
	return max(int(math.Ceil(low/l.step-1e-9)), 1), int(math.Floor(high/l.step + 1e-9))
}

// beside are the places of the grid next to what the lever is now: the last below it and the
// first above it.
func (l *lever) beside() (below, above int) {
	first, last := l.ends()
	if sizes := l.sizes(); len(sizes) > 0 {
		below, above = first-1, last+1
		for i, v := range sizes {
			if v < l.now {
				below = i
			} else if v > l.now && above > i {
				above = i
			}
		}
		return below, above
	}
	at := l.now / l.step
	return int(math.Ceil(at-1e-6)) - 1, int(math.Floor(at+1e-6)) + 1
}

// with is a copy of the rig with a value in the place of the lever's: of another part, which
// has neither the tolerance nor the source of this one.
func (l *lever) with(r *rig.Rig, typed string) (*rig.Rig, bool) {
	c, err := rig.With(r, l.at, "")
	if err != nil {
		return nil, false
	}
	return c, typed == "" || rig.Set(c, l.at, typed) == nil
}

// typed is a number of the grid as it is written.
func (l *lever) typed(i int) string { return units.Trim(l.grid(i), 3) }

// worded is a value that is no number, as it is typed.
func worded(v any) string {
	if list, ok := v.([]string); ok {
		return strings.Join(list, ", ")
	}
	return fmt.Sprint(v)
}
