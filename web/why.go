package web

import (
	"errors"
	"fmt"
	"net/url"
	"slices"
	"strings"

	"github.com/gofiber/fiber/v3"

	"kolvan/core/finding"
	"kolvan/core/units"
	"kolvan/core/why"
	"kolvan/web/phrase"
)

// whyView is a figure opened into its sum.
type whyView struct {
	ID          int64
	Rig, Back   string
	Name, Value string
	InOneLine   string
	Formula     string
	Level, Says string // of the rule that speaks of it
	Held        string // what it is held against
	States      []whyState
	Weighs      []whyWeight
	Others      []whyLink
}

// whyState is the sum in one state of the rig; a figure that is certain has one.
type whyState struct {
	Title string
	Strip []whyPart
	Terms []whyTerm
}

// whyPart is a term in the strip that is as long as the whole.
type whyPart struct {
	X, Width float64
	Label    string
	Odd      bool
}

type whyTerm struct {
	Value, Name string
	Mark        string // how far it can be trusted, as the class of its knob
	From        string
	Href        string
	Joined      string // how its own terms come to it
	Strip       []whyPart
	Terms       []whyTerm
	Open        bool // its own terms are shown at once
}

type whyWeight struct {
	Share, Name, Href string
	Open              bool
	Wide              float64
}

type whyLink struct {
	Name, Href string
	Here       bool
}

// whyURL is where a figure is opened.
func whyURL(id int64, key string) string {
	return fmt.Sprintf("/rigs/%d/why?of=%s", id, url.QueryEscape(key))
}

// why shows what a figure is made of.
func (a *App) why(c fiber.Ctx) error {
	l, err := a.load(c)
	if err != nil {
		return err
	}
	asked := c.Query("of", "power.sustained_w")
	v := &whyView{ID: l.ID, Rig: l.rig.Name, Back: fmt.Sprintf("/rigs/%d", l.ID)}
	for _, f := range why.Figures(l.rig, a.ref) {
		v.Others = append(v.Others, whyLink{finding.Begin(f.Name), whyURL(l.ID, f.Key), f.Key == asked})
	}
	tree, err := why.Of(l.rig, a.ref, asked)
	if none := (*why.NoFigure)(nil); errors.As(err, &none) {
		v.Name, v.Formula = "Nothing is known of "+asked, "What it is made of can be told once it can be worked out. Pick another figure."
	} else if err != nil {
		return err
	} else {
		v.fill(tree)
	}
	return a.page(c, "opened", fiber.Map{"Title": "What it is made of", "Why": v})
}

func (v *whyView) fill(t *why.Tree) {
	v.Name, v.Formula = t.Name, t.Formula
	if th := t.Threshold; th != nil {
		v.Level, v.Says = th.Level, th.Why
		if th.Value != nil {
			v.Held = printed(*th.Value, th.Unit)
		}
	}
	switch {
	case t.Low != nil:
		v.Value = units.Trim(*t.Range[0], 2) + " to " + printed(*t.Range[1], t.Unit)
		v.States = []whyState{
			v.state("at its least: "+printed(t.Low.Value, t.Unit), t.Low),
			v.state("at its most: "+printed(t.High.Value, t.Unit), t.High),
		}
	default:
		whole := why.Term{Op: t.Op, Terms: t.Terms, Unit: t.Unit, At: t.At, Trust: t.Trust, Source: t.Source}
		if t.Value != nil {
			v.Value, whole.Value = printed(*t.Value, t.Unit), *t.Value
		}
		v.States = []whyState{v.state("", &whole)}
		if line := whole.Line(); t.Value != nil && strings.Contains(line, " ") {
			v.InOneLine = line + " = " + printed(*t.Value, t.Unit)
		}
	}
	for _, w := range t.Weighs {
		v.Weighs = append(v.Weighs, whyWeight{units.Trim(w.Share*100, 0) + " %", w.Name, v.field(w.At), w.Open, w.Share * 100})
	}
}

func printed(v float64, unit string) string {
	return phrase.MinusSigns(strings.TrimSpace(units.Trim(v, 2) + " " + unit))
}

// field is where a fact is told.
func (v *whyView) field(at string) string {
	if at == "" {
		return ""
	}
	thing := at
	if slices.ContainsFunc(
		[]string{"/card/", "/host/", "/chamber/", "/brief/"},
		func(part string) bool { return strings.HasPrefix(at, part) },
	) &&
		strings.Count(at, "/") == 2 {
		thing = at[:strings.LastIndex(at, "/")]
	} else if tokens := strings.Split(
		at,
		"/",
	); len(
		tokens,
	) > 3 {
		thing = strings.Join(tokens[:len(tokens)-1], "/")
	}
	return fmt.Sprintf("/rigs/%d/%s?sel=%s", v.ID, homeOf(at, "route"), thing)
}

func (v *whyView) state(title string, t *why.Term) whyState {
	s := whyState{Title: title, Strip: strip(t)}
	for i := range t.Terms {
		row := v.term(&t.Terms[i])
		row.Open = true
		s.Terms = append(s.Terms, row)
	}
	return s
}

// joins says how terms come to what they are part of.
var joins = map[why.Op]string{
	why.Sum: "the sum of", why.Difference: "the first, less the others", why.Product: "multiplied", why.Quotient: "the first over the second",
	why.Min: "the least of", why.Max: "the most of", why.Share: "shared, in one state", why.Formula: "worked out from",
}

// marks are the trust marks of tables, as words.
var marks = map[string]string{"S": "a public standard", "T": "typical of data sheets", "P": "a planning figure"}

func (v *whyView) term(t *why.Term) whyTerm {
	row := whyTerm{Value: printed(t.Value, t.Unit), Name: t.Name, Href: v.field(t.At), Strip: strip(t), Mark: markOf(t.Trust)}
	var from []string
	for _, word := range []string{marks[t.Trust], t.Source, t.Formula} {
		if word != "" {
			from = append(from, word)
		}
	}
	if marks[t.Trust] == "" && t.Trust != "" {
		from = append([]string{t.Trust}, from...)
	}
	row.From = strings.Join(from, "; ")
	if len(t.Terms) > 0 {
		row.Joined = joins[t.Op]
	}
	for i := range t.Terms {
		row.Terms = append(row.Terms, v.term(&t.Terms[i]))
	}
	return row
}

// markOf is the class of a term's knob: measured, standard, told, taken.
func markOf(trust string) string {
	switch trust {
	case "measured":
		return "measured"
	case "S":
		return "standard"
	case "taken as", "P", "not told":
		return "taken"
	case "":
		return "made"
	}
	return "told"
}

// stripWide is how wide a strip is drawn.
const stripWide = 800

// strip draws terms that add up as parts of a length.
func strip(t *why.Term) (parts []whyPart) {
	if t.Op != why.Sum && t.Op != why.Share || t.Value <= 0 {
		return nil
	}
	x := 0.0
	for i := range t.Terms {
		part := &t.Terms[i]
		if part.Value < 0 {
			return nil
		}
		wide := part.Value / t.Value * stripWide
		p := whyPart{X: x, Width: wide, Odd: i%2 == 1}
		if label := printed(part.Value, part.Unit); wide > 12*float64(len([]rune(label))) {
			p.Label = label
		}
		parts = append(parts, p)
		x += wide
	}
	return parts
}
