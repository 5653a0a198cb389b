// Package fields makes forms of the things of a rig: their fields by the tags of the format, with
// pictures, choices and faults.
package fields

import (
	"cmp"
	"fmt"
	"html"
	"html/template"
	"path"
	"reflect"
	"slices"
	"strconv"
	"strings"
	"sync"

	"kolvan/core/finding"
	"kolvan/core/reference"
	"kolvan/core/rig"
	"kolvan/core/units"
	"kolvan/web/phrase"
	"kolvan/web/room"
)

// Form is the editor of one thing: its leaves as fields, its lists as rows of
// things to choose. It is made from the struct tags of the format.
type Form struct {
	Title   string
	Path    string // JSON Pointer of the thing
	Post    string // address of the thing's page
	Fields  []Field
	Lists   []ListView
	InList  bool   // it can be removed
	Ordered bool   // its place in the list matters
	Kind    string // kind of part, when it can go into a bin
	Whole   string // where all of its fields stand, when some are left out
	Folding bool   // what is not told is folded away where it is long
}

// Field is one field of a form: what it asks, what stands in it, and how it is answered.
type Field struct {
	ID        string
	Path      string
	Label     string
	Doc       string
	Unit      string
	Input     string // text, select, boxes
	Value     string
	Known     bool
	Else      string // what counts while it is not known, if anything
	Fact      bool
	Numeric   bool
	Choices   []Choice
	Source    string
	Tolerance string
	Fault     string
	Picture   string   // of what to measure, from where to where
	With      []Choice // what a length was measured with
	Heading   string   // what the fields from here on are of
	Was       string   // what it was before it was corrected
	Keys      []KeyPicture
	Face      *FormFace // of a form: what it looks like, and what to mind

	when  rig.When
	group *rig.Spec
}

// Open reports a fact that nobody knows and for which nothing else counts.
func (f Field) Open() bool { return f.Fact && !f.Known && f.Else == "" }

// Untold reports a fact without a value, which a long form folds away.
func (f Field) Untold() bool { return f.Fact && !f.Known && f.Fault == "" }

// fold is what a long form folds away.
type fold struct {
	ID, Words string
	Open      bool // nothing of the form is told yet
}

// Folds is nil for a form that is short, or of which nothing is told yet or nothing untold.
func (f *Form) Folds() *fold {
	told, facts := 0, 0
	var untold []string
	for i := range f.Fields {
		if !f.Fields[i].Fact {
			continue
		}
		if facts++; f.Fields[i].Untold() {
			untold = append(untold, f.Fields[i].Label)
		} else {
			told++
		}
	}
	if !f.Folding || facts <= shortForm || len(untold) == 0 {
		return nil
	}
	words := strings.Join(untold[:min(4, len(untold))], ", ")
	if more := len(untold) - 4; more > 0 {
		words += fmt.Sprintf(" and %d more", more)
	}
	return &fold{ID: "fold" + strings.ReplaceAll(f.Path, "/", "-"), Words: words, Open: told == 0}
}

// shortForm is how many facts a form may show without folding any away.
const shortForm = 6

// Empty is what a fact's field says while nothing is entered.
func (f Field) Empty() string {
	return phrase.Or(f.Else, "unknown")
}

// Helps reports a line of help that says more than the label does.
func (f Field) Helps() bool {
	label := " " + strings.ToLower(f.Label) + " "
	for word := range strings.FieldsSeq(strings.ToLower(strings.Trim(f.Doc, "."))) {
		word = strings.TrimSuffix(strings.Trim(word, ",;:"), "'s")
		if len(word) > 3 && !strings.Contains(label, word) && word != f.Unit {
			return true
		}
	}
	return false
}

// Vals are the values that a change of the field sends along.
func (f Field) Vals() string { return pathVals(f.Path) }

// Options are the choices written out, since a form has very many: every word is
// escaped here.
func (f Field) Options() template.HTML {
	var b strings.Builder
	for _, c := range f.Choices {
		b.WriteString(`<option value="`)
		b.WriteString(html.EscapeString(c.Value))
		if c.On {
			b.WriteString(`" selected>`)
		} else {
			b.WriteString(`">`)
		}
		b.WriteString(html.EscapeString(c.Label))
		b.WriteString("</option>")
	}
	return template.HTML(b.String())
}

// Part are those of what stands beside the field's value.
func (f Field) Part(name string) string { return pathVals(f.Path + "/" + name) }

func pathVals(path string) string { return `{"path":` + strconv.Quote(path) + `}` }

// Choice is one of the values a field may take.
type Choice struct {
	Value, Label string
	On           bool
}

// ListView is a list of a thing, its entries each a thing of their own.
type ListView struct {
	Path  string
	Label string
	Doc   string
	Items []listItem
	Open  bool // nobody told whether there are any
	None  bool // there are none

	when rig.When
}

type listItem struct{ Path, Name, About string }

// For makes the form of v, the thing at path of the rig (nil for a part of
// the bins). Trouble puts back what was typed where it was refused.
func For(r *rig.Rig, v any, path string, inches bool, t *room.Trouble) *Form {
	f := &Form{Path: path}
	rig.WalkShallow(v, func(n rig.Node) {
		at := path + n.Path()
		if n.Path() == "/format" || n.Path() == "/acknowledged" {
			return
		}
		if elsewhere[n.Path()] {
			return
		}
		if n.Spec.Fixed {
			return
		}
		if n.List {
			f.Lists = append(f.Lists, listOf(n, at))
			return
		}
		if r == nil && isReference(n.Path()) {
			return
		}
		made := fieldOf(r, n, at, inches, t)
		if run, is := v.(*rig.Run); is {
			made.Was = FormerWords(run, n.Spec)
		}
		f.Fields = append(f.Fields, made)
	})
	f.Fields = slices.DeleteFunc(f.Fields, func(field Field) bool { return !f.applies(field) })
	f.Lists = slices.DeleteFunc(f.Lists, func(l ListView) bool { return len(l.Items) == 0 && !f.means(l.when, path+"/") })
	f.group()
	return f
}

// group heads the first field of each struct within the thing with its name.
func (f *Form) group() {
	var last *rig.Spec
	for i := range f.Fields {
		if g := f.Fields[i].group; g != last {
			last = g
			if g != nil {
				f.Fields[i].Heading = g.Called
			} else {
				f.Fields[i].Heading = "more"
			}
		}
	}
}

// elsewhere are the fields that have a drawing of their own to be changed in.
var elsewhere = map[string]bool{"/wires": true, "/meter_ticked": true}

// Keep leaves out the fields and lists whose paths begin with none of these.
func (f *Form) Keep(only []string) {
	other := func(path string) bool {
		return !slices.ContainsFunc(only, func(o string) bool { return strings.HasPrefix(path, o) })
	}
	f.Fields = slices.DeleteFunc(f.Fields, func(of Field) bool { return other(of.Path) && of.Fault == "" })
	f.Lists = slices.DeleteFunc(f.Lists, func(l ListView) bool { return other(l.Path) })
}

// ListAt returns the list at that place of the form.
func (f *Form) ListAt(path string) ListView {
	return f.Lists[slices.IndexFunc(f.Lists, func(l ListView) bool { return l.Path == path })]
}

// applies leaves out an empty field that means nothing beside what stands there.
func (f *Form) applies(of Field) bool {
	if of.Known || of.Fault != "" {
		return true
	}
	owner := of.Path[:strings.LastIndex(of.Path, "/")+1]
	return f.means(of.when, owner) && (of.group == nil || f.means(of.group.When, path.Dir(strings.TrimSuffix(owner, "/"))+"/"))
}

// means reports that the field beside, if there must be one, has a word with which
// something means something, or none yet.
func (f *Form) means(when rig.When, owner string) bool {
	if when.Beside == "" {
		return true
	}
	beside := f.valueOf(owner + when.Beside)
	return beside == "" || slices.Contains(when.Words, beside)
}

// valueOf is what a field of the form shows, empty while it is unknown.
func (f *Form) valueOf(path string) string {
	for _, other := range f.Fields {
		if other.Path == path {
			return other.Value
		}
	}
	return ""
}

// isReference names the fields of a part that refer to other things of a rig.
func isReference(path string) bool {
	return path == "/supply" || path == "/rail" || path == "/occupant"
}

func fieldOf(r *rig.Rig, n rig.Node, at string, inches bool, t *room.Trouble) Field {
	f := Field{
		ID:      "f" + strings.ReplaceAll(at, "/", "-"),
		Path:    at,
		Label:   n.Spec.Called,
		Doc:     n.Spec.Doc,
		Unit:    n.Spec.Unit,
		Input:   "text",
		when:    n.Spec.When,
		group:   n.Group,
		Fact:    n.Spec.Fact,
		Known:   n.Known(),
		Else:    n.Spec.Else,
		Numeric: n.Spec.Kind == rig.Number || n.Spec.Kind == rig.Whole,
	}
	if f.Known {
		f.Value = cmp.Or(n.As(), typed(n.Plain(), inches))
	}
	f.Picture = n.Spec.Measure
	if f.Picture != "" && f.Known {
		tolerance, _ := n.Tolerance()
		f.With = instrumentsOf(tolerance)
	}
	if n.Spec.Fact && f.Known {
		source, _ := n.Origin()
		f.Source = string(source)
		if tolerance, told := n.Tolerance(); told {
			f.Tolerance = typedNumber(tolerance, n.Plain(), inches)
		}
	}
	f.choose(r, n, at)
	if strings.HasPrefix(at, "/host/slots/") && strings.HasSuffix(at, "/key") {
		f.Keys = KeyPictures(n.Spec.Choices, f.Value)
	}
	if value, is := n.Value.Interface().(rig.Fact[rig.Form]); is && value.Known {
		f.Face = FormFaceOf(value.Value)
	}
	if t != nil && t.Path == at && t.Again == "" {
		f.Value = t.Typed
		if !strings.HasPrefix(t.From, "ask-") {
			f.Fault, t.Placed = t.Says, true
		}
	}
	return f
}

// choose makes a field with a closed list of values a select or boxes.
func (f *Field) choose(r *rig.Rig, n rig.Node, at string) {
	options := n.Spec.Choices
	if r != nil {
		if names := rig.Options(r, at); names != nil {
			options = names
		}
	}
	switch n.Spec.Kind {
	case rig.Flag:
		options = []string{"yes", "no"}
		if f.Known || !n.Spec.Fact {
			f.Value = map[bool]string{true: "yes", false: "no"}[n.Plain().(bool)]
		}
	case rig.ChoiceList:
		f.Input = "boxes"
		chosen := strings.Split(f.Value, ",")
		for _, o := range options {
			f.Choices = append(f.Choices, Choice{o, n.Spec.Words.Spoken(o), slices.Contains(chosen, o)})
		}
		return
	case rig.TextList, rig.Number:
		return
	case rig.Whole:
		if len(n.Spec.Among) == 0 {
			return
		}
		for _, v := range n.Spec.Among {
			options = append(options, units.Trim(v, 0))
		}
	}
	if options != nil {
		f.offer(n, options)
	}
}

// offer makes the field a list to choose one of.
func (f *Field) offer(n rig.Node, options []string) {
	f.Input = "select"
	if n.Spec.Kind != rig.Flag || n.Spec.Fact {
		empty := f.Empty()
		switch {
		case !n.Spec.Fact:
			empty = "none chosen"
		case f.Else != "":
			empty += ", unless told" // the same word stands among the choices
		}
		f.Choices = append(f.Choices, Choice{"", empty, !f.Known})
	}
	for _, o := range options {
		f.Choices = append(f.Choices, Choice{o, n.Spec.Words.Spoken(o), f.Value == o && (f.Known || n.Spec.Kind == rig.Flag)})
	}
}

// typed is a value as a person would type it again.
func typed(v any, inches bool) string {
	value := reflect.ValueOf(v)
	switch {
	case value.CanFloat():
		return typedNumber(value.Float(), v, inches)
	case value.Kind() == reflect.Slice:
		words := make([]string, value.Len())
		for i := range words {
			words[i] = value.Index(i).String()
		}
		if len(words) == 0 {
			return "none"
		}
		return strings.Join(words, ",")
	default:
		return fmt.Sprint(v)
	}
}

func typedNumber(number float64, like any, inches bool) string {
	if _, share := like.(units.Share); share {
		return units.Share(number).String()
	}
	if _, length := like.(units.Millimetre); length && inches {
		return units.Trim(number/units.MillimetrePerInch, 3) + " in"
	}
	return units.Trim(number, 3)
}

func listOf(n rig.Node, at string) ListView {
	l := ListView{Path: at, Label: n.Spec.Called, Doc: n.Spec.Doc, when: n.Spec.When}
	l.Open, l.None = n.Value.IsNil(), !n.Value.IsNil() && n.Value.Len() == 0
	for i := range n.Value.Len() {
		entry := n.Value.Index(i)
		item := listItem{Path: at + "/" + strconv.Itoa(i), Name: entryName(entry, i)}
		item.About = aboutEntry(entry)
		l.Items = append(l.Items, item)
	}
	return l
}

func entryName(entry reflect.Value, i int) string {
	for _, field := range []string{"Name", "Occupant", "At"} {
		if name := TextOf(entry, field); name != "" {
			return name
		}
	}
	return strconv.Itoa(i + 1)
}

// TextOf is a text field of a thing; empty where it has none of that name.
func TextOf(thing reflect.Value, field string) string {
	if thing.Kind() != reflect.Struct {
		return ""
	}
	if f := thing.FieldByName(field); f.IsValid() && f.Kind() == reflect.String {
		return f.String()
	}
	return ""
}

// aboutEntry says in a few words what an entry of a list is.
func aboutEntry(entry reflect.Value) string {
	switch v := entry.Addr().Interface().(type) {
	case *rig.Slot:
		return phrase.Form(v) + ", x" + phrase.Of(v.Lanes) + " Gen " + phrase.Of(v.Gen)
	case *rig.Stage:
		return phrase.Of(v.Kind) + ", x" + phrase.Of(v.Lanes) + " Gen " + phrase.Of(v.Gen)
	case *rig.Outlet:
		return phrase.Of(v.Connector)
	case *rig.Inlet:
		return phrase.Of(v.Connector)
	case *rig.CardPlug:
		return phrase.Of(v.Connector)
	case *rig.Pin:
		return phrase.Of(v.Carries)
	case *rig.Rail:
		return phrase.Of(v.Voltage) + ", " + phrase.Of(v.Current)
	case *rig.LeadEnd:
		return v.Part
	case *rig.Lead:
		return phrase.Lead(v)
	case *rig.Supply:
		return phrase.Of(v.Kind) + ", " + phrase.Of(v.Rating)
	default:
		return ""
	}
}

// FormFace is what a form looks like, by its symbol, and what is to be minded of it.
type FormFace struct{ Symbol, Mind string }

// forms are those of the reference, read once.
var forms = sync.OnceValues(reference.Load)

// FormFaceOf is the picture of a slot's or socket's form.
func FormFaceOf(form rig.Form) *FormFace {
	face := &FormFace{Symbol: "form-" + string(form)}
	if ref, err := forms(); err == nil {
		if row := ref.Form(form, ""); row != nil && row.Mind != "" {
			face.Mind = finding.Begin(row.Mind) + "."
		}
	}
	return face
}

// FormerWords are what a setting of a run was before it was corrected, the latest first.
func FormerWords(run *rig.Run, setting *rig.Spec) string {
	var said []string
	for _, f := range slices.Backward(run.Former) {
		if f.Field == setting.Name {
			said = append(said, setting.Words.Spoken(f.Was)+" until "+phrase.When(f.When))
		}
	}
	return strings.Join(said, "; ")
}
