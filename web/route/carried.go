package route

import (
	"fmt"
	"strings"

	"kolvan/core/assess"
	"kolvan/core/finding"
	"kolvan/core/reference"
	"kolvan/core/rig"
	"kolvan/web/phrase"
)

// carriedView is the table of what each form carries at most, beside what this route
// says of it.
type carriedView struct {
	Open bool // something is claimed beyond it
	Rows []carriedRow
}

type carriedRow struct {
	Form, Most, Source string
	Here               []claimView
}

// claimView is one part of the route where the form is met.
type claimView struct {
	Says, Sel string
	Beyond    bool
}

// trusts are what the marks of the reference mean.
var trusts = map[reference.Trust]string{"S": "fixed by a standard", "T": "typical of data sheets", "P": "a planning value"}

// CarriedBy is nil for a route without a slot.
func CarriedBy(r *rig.Rig, report *assess.Report, ref *reference.Tables) *carriedView {
	if len(report.Link.Elements) == 0 {
		return nil
	}
	v := &carriedView{}
	for i := range ref.Forms {
		f := &ref.Forms[i]
		row := carriedRow{Form: finding.Begin(f.Name), Most: lanesAndGen(f), Source: finding.Begin(f.Source) + " (" + trusts[f.Trust] + ")"}
		for j := range report.Link.Elements {
			e := &report.Link.Elements[j]
			if !metAt(r, ref, f, j, len(report.Link.Elements)) {
				continue
			}
			says, beyond := e.Name+": "+"x"+phrase.Of(e.Lanes)+" Gen "+phrase.Of(e.Gen), false
			if c := e.Claimed; c.Lanes > 0 && c.MostLanes <= f.Lanes || c.Gen > 0 && c.MostGen == f.Gen {
				says, beyond = e.Name+": said to be "+claimWords(c.Lanes, c.Gen), true
			}
			row.Here = append(row.Here, claimView{says, e.Where, beyond})
			v.Open = v.Open || beyond
		}
		v.Rows = append(v.Rows, row)
	}
	return v
}

func lanesAndGen(f *reference.FormRow) string {
	lanes := fmt.Sprintf("x%d", f.Lanes)
	if f.Body {
		lanes = fmt.Sprintf("its own lanes, up to x%d", f.Lanes)
	}
	return fmt.Sprintf("%s, Gen %d", lanes, f.Gen)
}

func claimWords(lanes, gen int) string {
	var list []string
	if lanes > 0 {
		list = append(list, fmt.Sprintf("x%d", lanes))
	}
	if gen > 0 {
		list = append(list, fmt.Sprintf("Gen %d", gen))
	}
	return strings.Join(list, " ")
}

// metAt reports a form that element i of the route is made of: of the slot, of
// either end of a stage, of the card's edge.
func metAt(r *rig.Rig, ref *reference.Tables, f *reference.FormRow, i, count int) bool {
	is := func(form rig.Fact[rig.Form], key rig.Fact[rig.Key]) bool {
		return form.Known && ref.Form(form.Value, key.Value) == f
	}
	switch i {
	case 0:
		slot := r.Slot(r.Route.Slot)
		return is(slot.Form, slot.Key)
	case count - 1:
		return f.Form == rig.CardSlot
	default:
		s := &r.Route.Stages[i-1]
		return is(s.Plug.Form, s.Plug.Key) || is(s.Socket.Form, s.Socket.Key)
	}
}
