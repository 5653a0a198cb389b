package web

import (
	"fmt"
	"reflect"
	"slices"
	"strings"

	"github.com/gofiber/fiber/v3"

	"kolvan/core/assess"
	"kolvan/core/finding"
	"kolvan/core/reference"
	"kolvan/core/rig"
	"kolvan/web/fields"
	"kolvan/web/room"
	"kolvan/web/verdict"
)

// questionView is a missing fact with its field to answer right there, where it
// is one field, and where it belongs.
type questionView struct {
	assess.Question
	Form    *fields.Form
	Station string
	Sel     string
}

// mostQuestions are shown at a time; the others come up as these are answered.
const mostQuestions = 24

func questionViews(v *region) []questionView {
	r, report := v.Rig, v.Report
	rules := map[string]*finding.Finding{}
	for i := range report.Findings {
		if f := &report.Findings[i]; f.Level == finding.Unknown && rules[f.Where] == nil {
			rules[f.Where] = f
		}
	}
	open := slices.DeleteFunc(slices.Clone(report.Questions), func(q assess.Question) bool { return slices.Contains(r.PutAside, q.Fact) })
	v.PutAside = len(report.Questions) - len(open)
	shown := open[:min(len(open), mostQuestions)]
	v.AskMore = len(open) - len(shown)
	list := make([]questionView, 0, len(shown))
	for _, q := range shown {
		view := questionView{Question: q, Sel: room.ThingOf(q.Fact)}
		if f := rules[q.Fact]; f != nil {
			view.Station = verdict.StationOf(f)
		}
		view.Form = questionForm(v.Desk, q.Fact)
		list = append(list, view)
	}
	return list
}

// putAside keeps a missing fact from being asked for again: nobody knows it. It stays missing.
func putAside(c fiber.Ctx, r *rig.Rig, _ *reference.Tables) (string, string, error) {
	fact := c.FormValue("fact")
	if fact == "" {
		r.PutAside = nil
		return "ask again for what nobody knew", "", nil
	}
	if _, _, err := rig.At(r, fact); err != nil || len(r.PutAside) >= mostPutAside {
		return "", "", &rig.FieldError{
			Path:    "fact",
			Value:   fmt.Sprintf("%q", fact),
			Accepts: fmt.Sprintf("a fact of this rig that is asked for, %d at most", mostPutAside),
		}
	}
	if !slices.Contains(r.PutAside, fact) {
		r.PutAside = append(r.PutAside, fact)
	}
	return "nobody knows " + placeWords(r, fact), "", nil
}

// mostPutAside bounds what a rig keeps of it.
const mostPutAside = 200

// questionForm is the one field that answers a question; nil where the answer is
// more than a field.
func questionForm(d *room.Desk, fact string) *fields.Form {
	r, t := d.Rig, d.Trouble
	owner := fact[:strings.LastIndex(fact, "/")]
	thing, _, err := rig.At(r, owner)
	if err != nil || thing.Kind() != reflect.Struct || !thing.CanAddr() {
		return nil
	}
	f := fields.For(r, thing.Addr().Interface(), owner, d.Inches, t)
	i := slices.IndexFunc(f.Fields, func(f fields.Field) bool { return f.Path == fact })
	if i < 0 {
		return nil
	}
	only := f.Fields[i]
	only.ID, only.Fault = "ask-"+only.ID, ""
	if t != nil && t.From == only.ID {
		only.Fault, t.Placed = t.Says, true
	}
	return &fields.Form{Path: owner, Post: fmt.Sprintf("/rigs/%d", d.ID), Fields: []fields.Field{only}}
}
