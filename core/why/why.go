// Package why opens figures into their sums: what a figure is made of, as a person would
// write it beside it on paper, each term with where it comes from, down to the facts of the
// rig and the rows of the reference. It is made when asked for, from the same models that
// made the figure.
//
// The law of a tree: its terms, worked out unrounded in their order by the operation, give
// the figure that the report prints.
package why

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strings"

	"kolvan/core/assess"
	"kolvan/core/reference"
	"kolvan/core/rig"
	"kolvan/core/units"
)

// Format is the format word of a tree.
const Format = "kolvan-why/1"

// An Op is what joins terms.
type Op string

// The operations. The last three are no sums: a share of one thing divided, a row of a
// table, a formula in words, a fact of the rig.
const (
	Sum        Op = "sum"
	Difference Op = "difference"
	Product    Op = "product"
	Quotient   Op = "quotient"
	Min        Op = "min"
	Max        Op = "max"
	Share      Op = "share"
	Table      Op = "table"
	Formula    Op = "formula"
	Fact       Op = "fact"
)

// A Term is one part of a figure.
type Term struct {
	Name    string  `json:"name"`
	Value   float64 `json:"value"`
	Unit    string  `json:"unit,omitzero"`
	Trust   string  `json:"trust,omitzero"` // measured, papers …; S, T or P of a table; taken as
	Source  string  `json:"source,omitzero"`
	At      string  `json:"at,omitzero"` // JSON Pointer of the fact
	Op      Op      `json:"op,omitzero"`
	Formula string  `json:"formula,omitzero"`
	Terms   []Term  `json:"terms,omitzero"`
}

// A Tree is a figure with its sum; of a range, one sum for each of its ends.
type Tree struct {
	Format    string     `json:"format"`
	Figure    string     `json:"figure"`
	Name      string     `json:"name"`
	Value     *float64   `json:"value,omitzero"`
	Range     []*float64 `json:"range,omitzero"`
	Unit      string     `json:"unit,omitzero"`
	Trust     string     `json:"trust,omitzero"`
	Source    string     `json:"source,omitzero"`
	At        string     `json:"at,omitzero"`
	Op        Op         `json:"op"`
	Formula   string     `json:"formula"`
	Threshold *Threshold `json:"threshold,omitzero"`
	Terms     []Term     `json:"terms,omitzero"`
	Low       *Term      `json:"low,omitzero"`
	High      *Term      `json:"high,omitzero"`
	Weighs    []Weight   `json:"weighs"`
}

// A Threshold is from where on a rule speaks, and why it is there.
type Threshold struct {
	Rule  string   `json:"rule"`
	Level string   `json:"level"`
	Value *float64 `json:"value,omitzero"`
	Unit  string   `json:"unit,omitzero"`
	Why   string   `json:"why"`
}

// A Weight is how much of a figure, or of its range, hangs on one fact.
type Weight struct {
	At    string  `json:"at"`
	Name  string  `json:"name"`
	Share float64 `json:"share"`
	Open  bool    `json:"open,omitzero"` // the fact is not told: so much of the range hangs on it
}

// Worked is a term worked out of its own terms; what has none is its value.
func (t *Term) Worked() float64 {
	if len(t.Terms) == 0 || t.Op == Formula || t.Op == Table || t.Op == Fact {
		return t.Value
	}
	v := t.Terms[0].Worked()
	for i := range t.Terms[1:] {
		next := t.Terms[i+1].Worked()
		switch t.Op {
		case Sum, Share:
			v += next
		case Difference:
			v -= next
		case Product:
			v *= next
		case Quotient:
			v /= next
		case Min:
			v = math.Min(v, next)
		case Max:
			v = math.Max(v, next)
		}
	}
	return v
}

// desk is one rig with all that was worked out of it.
type desk struct {
	r      *rig.Rig
	ref    *reference.Tables
	report assess.Report
}

// maker makes the tree of one figure in one state: false where it cannot be known.
type maker struct {
	name, unit string
	of         func(d *desk, high bool) (Term, bool)
	long       bool // it takes too long to be made for each fact moved
}

// A NoFigure is asked for something that is no figure of this rig.
type NoFigure struct {
	Asked string
	Some  []string // what there is
}

func (e *NoFigure) Error() string {
	return fmt.Sprintf("%q is no figure, rule or fact that is known of this rig; accepted: %s", e.Asked, strings.Join(e.Some, ", "))
}

// Keys are the figures of a rig that can be opened: those of the report, by their names in
// it, and the rules that speak, with their places where they speak more than once.
func Keys(r *rig.Rig, ref *reference.Tables) []string {
	d := &desk{r, ref, assess.Rig(r, ref)}
	return append(d.known(), d.rules()...)
}

// A Figure is one that can be opened, by its key and as a person calls it.
type Figure struct{ Key, Name string }

// Figures are those behind Keys.
func Figures(r *rig.Rig, ref *reference.Tables) (list []Figure) {
	d := &desk{r, ref, assess.Rig(r, ref)}
	all := d.figures()
	for _, key := range d.known() {
		list = append(list, Figure{key, all[key].name})
	}
	for _, key := range d.rules() {
		list = append(list, Figure{key, d.finding(key).Title})
	}
	return list
}

// Of opens a figure: a name of the report's figures, power.supplies/NAME/share, a rule, or
// RULE@PATH, or the JSON Pointer of a fact. The error is a *NoFigure.
func Of(r *rig.Rig, ref *reference.Tables, asked string) (*Tree, error) {
	d := &desk{r, ref, assess.Rig(r, ref)}
	t, weigh, err := d.open(asked)
	if err == nil {
		t.Weighs = weigh()
	}
	return t, err
}

// open opens a figure; on what it hangs is told when asked for.
func (d *desk) open(asked string) (t *Tree, weigh func() []Weight, err error) {
	none := func() []Weight { return []Weight{} }
	if strings.HasPrefix(asked, "/") {
		t, err = d.fact(asked)
		return t, none, err
	}
	if figure, is := d.figures()[asked]; is {
		low, known := figure.of(d, false)
		high, _ := figure.of(d, true)
		if !known {
			return nil, none, &NoFigure{asked, d.known()}
		}
		return treeOf(asked, figure, low, high), func() []Weight { return d.weights(figure) }, nil
	}
	if f := d.finding(asked); f != nil {
		return d.opened(asked, f), func() []Weight { return d.facts(f) }, nil
	}
	return nil, none, &NoFigure{asked, append(d.known(), d.rules()...)}
}

func (d *desk) known() (keys []string) {
	for key, figure := range d.figures() {
		if _, known := figure.of(d, false); known {
			keys = append(keys, key)
		}
	}
	slices.Sort(keys)
	return keys
}

// treeOf joins the two states of a figure; one tree where they are the same.
func treeOf(key string, m maker, low, high Term) *Tree {
	t := &Tree{
		Format:  Format,
		Figure:  key,
		Name:    m.name,
		Unit:    m.unit,
		Op:      high.Op,
		Formula: high.Formula,
		Source:  high.Source,
		At:      high.At,
		Trust:   high.Trust,
	}
	if math.Abs(low.Value-high.Value) <= 1e-9*math.Max(1, math.Abs(high.Value)) {
		t.Value, t.Terms = rounded(high.Value), high.Terms
		return t
	}
	if low.Value > high.Value {
		low, high = high, low
	}
	t.Range, t.Low, t.High = []*float64{rounded(low.Value), rounded(high.Value)}, &low, &high
	return t
}

func rounded(v float64) *float64 {
	v = units.Round(v, units.ReportDigits)
	return &v
}

// fact is the tree of a fact of the rig, which is its own.
func (d *desk) fact(at string) (*Tree, error) {
	n, there := rig.NodeAt(d.r, at)
	if !there {
		return nil, &NoFigure{at, d.known()}
	}
	t := d.told(at)
	tree := &Tree{
		Format:  Format,
		Figure:  at,
		Name:    t.Name,
		Unit:    t.Unit,
		Op:      Fact,
		At:      at,
		Trust:   t.Trust,
		Source:  t.Source,
		Formula: n.Spec.Doc,
	}
	if v := n.Number(); n.Known() && !math.IsNaN(v) {
		tree.Value = &v
	}
	return tree, nil
}

// told is the term of a fact: what is told of it, from where, or as what it is taken.
func (d *desk) told(at string) (t Term) {
	t = Term{At: at, Op: Fact, Trust: "not told"}
	n, there := rig.NodeAt(d.r, at)
	if !there {
		return t
	}
	t.Name, t.Unit = n.Spec.Called, n.Spec.Unit
	source, remark := n.Origin()
	switch {
	case n.Known():
		t.Trust = cmp.Or(string(source), "told")
		t.Source = remark
		if v := n.Number(); !math.IsNaN(v) {
			t.Value = v
		}
	case n.Spec.Else != "":
		t.Trust, t.Source = "taken as", n.Spec.Else
	}
	return t
}

// of is the term of a fact that stands for a value in this state.
func (d *desk) of(at, name string, value float64) Term {
	t := d.told(at)
	if t.Trust == "not told" {
		t.Trust = "taken as"
	}
	t.Value, t.Name = value, name
	return t
}

// join makes a term of others; its value is what they come to.
func join(op Op, name, unit, formula string, terms ...Term) Term {
	t := Term{Name: name, Unit: unit, Op: op, Formula: formula, Terms: terms}
	t.Value = t.Worked()
	return t
}

// row is a term of the reference.
func row(name, unit string, value float64, trust reference.Trust, source string) Term {
	return Term{Name: name, Unit: unit, Value: value, Op: Table, Trust: string(trust), Source: source}
}
