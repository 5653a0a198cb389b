package parts

import (
	"fmt"
	"math"
	"reflect"
	"strconv"

	"kolvan/core/rig"
	"kolvan/core/units"
)

// A Difference is one fact of two parts that do not agree, and what became of it.
type Difference struct {
	At     string `json:"at"`
	Mine   string `json:"mine"`
	Theirs string `json:"theirs"`
	Taken  string `json:"taken"` // theirs, mine, both as a range
}

// What becomes of a fact that two parts tell.
const (
	Theirs = "theirs"
	Mine   = "mine"
	Both   = "both, as a range"
)

// Merge takes into mine what another part of its kind tells: a fact that mine does not have is
// taken; one that was measured here is never overwritten; two figures that disagree make a range
// with both named; words that disagree stay mine. What it costs and whose it is are not looked
// at. Lists are taken whole where mine has none, and entry by entry where both are as long.
func Merge(mine, theirs any) (list []Difference, err error) {
	list = []Difference{}
	if reflect.TypeOf(mine) != reflect.TypeOf(theirs) {
		return nil, fmt.Errorf("two parts of different kinds do not go together")
	}
	rig.Walk(theirs, func(n rig.Node) {
		if err != nil || n.Spec.Name == "price" || n.Spec.Name == "owned" || n.Path() == "/name" {
			return
		}
		var d *Difference
		if n.List {
			d, err = mergeList(mine, n)
		} else if n.Known() {
			d, err = mergeFact(mine, n)
		}
		if d != nil {
			list = append(list, *d)
		}
	})
	if err == nil {
		err = rig.ValidatePart(mine)
	}
	return list, err
}

// mergeList takes a list whole where mine has none of it.
func mergeList(mine any, n rig.Node) (*Difference, error) {
	own, _, err := rig.At(mine, n.Path())
	if err != nil || own.Len() == n.Value.Len() {
		return nil, nil // what it stands in was taken whole, or its entries are gone through
	}
	d := &Difference{At: n.Path(), Mine: strconv.Itoa(own.Len()), Theirs: strconv.Itoa(n.Value.Len()), Taken: Mine}
	if own.Len() == 0 {
		own.Set(n.Value)
		d.Taken = Theirs
	}
	return d, nil
}

func mergeFact(mine any, n rig.Node) (*Difference, error) {
	own, there := rig.NodeAt(mine, n.Path())
	if !there {
		return nil, nil // an entry that mine does not have
	}
	d := &Difference{At: n.Path(), Mine: own.Shown(), Theirs: n.Shown()}
	source, _ := own.Origin()
	switch {
	case !own.Known():
		d.Mine, d.Taken = "", Theirs
		own.Value.Set(n.Value)
	case d.Mine == d.Theirs:
		return nil, nil
	case source == rig.Measured || math.IsNaN(own.Number()) || !n.Spec.Fact || len(n.Spec.Among) > 0 || n.Spec.Kind != rig.Number:
		d.Taken = Mine
	default:
		d.Taken = Both
		return d, span(mine, own, n)
	}
	return d, nil
}

// span makes of two figures one that holds both, with who told which.
func span(mine any, own, other rig.Node) error {
	a, b := own.Number(), other.Number()
	fact := func(n rig.Node) string {
		source, _ := n.Origin()
		if source == "" {
			return "told"
		}
		return rig.Spoken(source)
	}
	at := own.Path()
	remark := fmt.Sprintf("%s (%s) here, %s (%s) elsewhere", own.Shown(), fact(own), other.Shown(), fact(other))
	for _, set := range [][2]string{{at, units.Trim((a+b)/2, 3)}, {at + "/tolerance", units.Trim(math.Abs(a-b)/2, 3)}} {
		if err := rig.Set(mine, set[0], set[1]); err != nil {
			return err
		}
	}
	return rig.Set(mine, at+"/remark", remark)
}
