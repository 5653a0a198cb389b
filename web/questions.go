package web

import (
	"fmt"
	"reflect"
	"slices"
	"strings"

	"kolvan/core/assess"
	"kolvan/core/finding"
	"kolvan/core/rig"
)

// questionView is a missing fact with its field to answer right there, where it
// is one field, and where it belongs.
type questionView struct {
	assess.Question
	Form    *form
	Station string
	Sel     string
}

// mostQuestions are shown at a time; the others come up as these are answered.
const mostQuestions = 24

func questionViews(r *rig.Rig, report *assess.Report, v *region, t *trouble) []questionView {
	rules := map[string]*finding.Finding{}
	for i := range report.Findings {
		if f := &report.Findings[i]; f.Level == finding.Unknown && rules[f.Where] == nil {
			rules[f.Where] = f
		}
	}
	shown := report.Questions[:min(len(report.Questions), mostQuestions)]
	v.AskMore = len(report.Questions) - len(shown)
	list := make([]questionView, 0, len(shown))
	for _, q := range shown {
		view := questionView{Question: q, Sel: thingOf(q.Fact)}
		if f := rules[q.Fact]; f != nil {
			view.Station = stationOf(f)
		}
		view.Form = questionForm(r, q.Fact, v, t)
		list = append(list, view)
	}
	return list
}

// questionForm is the one field that answers a question; nil where the answer is
// more than a field.
func questionForm(r *rig.Rig, fact string, v *region, t *trouble) *form {
	owner := fact[:strings.LastIndex(fact, "/")]
	thing, _, err := rig.At(r, owner)
	if err != nil || thing.Kind() != reflect.Struct || !thing.CanAddr() {
		return nil
	}
	f := formFor(r, thing.Addr().Interface(), owner, v.Inches, t)
	i := slices.IndexFunc(f.Fields, func(f field) bool { return f.Path == fact })
	if i < 0 {
		return nil
	}
	only := f.Fields[i]
	only.ID, only.Fault = "ask-"+only.ID, ""
	if t != nil && t.from == only.ID {
		only.Fault, t.Placed = t.Says, true
	}
	return &form{Path: owner, Post: fmt.Sprintf("/rigs/%d", v.ID), Fields: []field{only}}
}
