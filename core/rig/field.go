package rig

import (
	"fmt"
	"math"
	"reflect"
	"slices"
	"strconv"
	"strings"
	"sync"

	"kolvan/core/units"
)

// A Kind is the sort of value a leaf field holds.
type Kind int

// The kinds of leaf fields.
const (
	Text Kind = iota
	Flag
	Whole
	Number
	Choice
	TextList
	ChoiceList
)

// A Spec describes one leaf field of the format, as its struct tags tell it.
type Spec struct {
	Name    string // in the file
	Called  string // what a person calls it
	Unit    string // of its number, as a person writes it
	When    When   // when it means something
	Measure string // the picture that says from where to where a length is measured
	Doc     string
	Else    string // what counts while it is not told; empty where it is then unknown
	Kind    Kind
	Fact    bool         // may be unknown
	Needed  bool         // a text that must not be empty
	Fixed   bool         // not for a person to change
	Setting bool         // how a run was made
	Sold    Sold         // how a part is bought by it
	ByOwner bool         // no part is bought by it: whoever has the part sets it
	Choices []string     // accepted words
	Words   *Words       // and how a person writes them; nil without any
	Among   []float64    // accepted numbers, where only some are
	Min     float64      // least accepted number
	Max     float64      // greatest accepted number
	Most    int          // entries that a list may have
	Type    reflect.Type // the Go type of the value itself
}

// Sold says that a part is bought by a field: a label, papers or a listing tell it.
type Sold struct {
	By   bool
	Up   bool    // more of it is never too much
	Down bool    // less of it is never too little
	Min  float64 // what is sold, about (P); both 0 for all the field takes
	Max  float64
}

// soldOf reads the tag sold:"by", sold:"up", sold:"down 10..24", sold:"100..400".
func soldOf(tag string) (s Sold) {
	for word := range strings.FieldsSeq(tag) {
		s.By = true
		s.Up, s.Down = s.Up || word == "up", s.Down || word == "down"
		if low, high, ok := strings.Cut(word, ".."); ok {
			s.Min, s.Max = mustFloat(low), mustFloat(high)
		}
	}
	return s
}

// When says that a field means something only with some words in a field beside it;
// always, for an empty one.
type When struct {
	Beside string
	Words  []string
}

// unitSuffixes are the endings of field names that tell the unit.
var unitSuffixes = []struct{ suffix, unit string }{
	{
		"_gbit_s",
		"Gb/s",
	}, {"_gb_s", "GB/s"}, {"_gib", "GiB"}, {"_gb", "GB"}, {"_mm", "mm"}, {"_awg", "AWG"}, {"_ms", "ms"}, {"_deg", "°"}, {"_m3_h", "m³/h"},
	{"_k", "K"}, {"_n", "N"},
	{"_bytes", "bytes"}, {"_px", "px"}, {"_hz", "Hz"}, {"_w", "W"}, {"_v", "V"}, {"_a", "A"}, {"_g", "g"},
}

func unitOf(name string) string {
	for _, s := range unitSuffixes {
		if strings.HasSuffix(name, s.suffix) {
			return s.unit
		}
	}
	return ""
}

func whenOf(tag string) (w When) {
	beside, words, limited := strings.Cut(tag, "=")
	if limited {
		w = When{beside, strings.Split(words, "|")}
	}
	return w
}

// maxNumber bounds numbers that have no bounds of their own.
const maxNumber = 1e7

// Accepts says in words what the field takes.
func (s Spec) Accepts() string {
	switch s.Kind {
	case Choice:
		return "one of " + strings.Join(s.Choices, ", ")
	case ChoiceList:
		return "a list of " + strings.Join(s.Choices, ", ")
	case TextList:
		return "a list of texts"
	case Flag:
		return "true or false"
	case Whole, Number:
		return s.acceptsNumber()
	default:
		return "a text"
	}
}

func (s Spec) acceptsNumber() string {
	word := "a number"
	if s.Kind == Whole {
		word = "a whole number"
	}
	if len(s.Among) > 0 {
		parts := make([]string, len(s.Among))
		for i, v := range s.Among {
			parts[i] = units.Trim(v, 3)
		}
		return "one of " + strings.Join(parts, ", ")
	}
	return fmt.Sprintf("%s from %s to %s", word, units.Trim(s.Min, 3), units.Trim(s.Max, 3))
}

// Holds reports whether the number is accepted.
func (s Spec) Holds(v float64) bool {
	if len(s.Among) > 0 {
		return slices.Contains(s.Among, v)
	}
	return v >= s.Min && v <= s.Max // false for NaN
}

// factual is any Fact.
type factual interface {
	known() bool
	boxed() any
	elem() reflect.Type
	finely() (tolerance float64, told bool)
	told() (source Source, remark string)
	typed() string
}

func (f Fact[T]) told() (Source, string)  { return f.Source, f.Remark }
func (f Fact[T]) typed() string           { return f.As }
func (f Fact[T]) known() bool             { return f.Known }
func (f Fact[T]) boxed() any              { return f.Value }
func (f Fact[T]) elem() reflect.Type      { return reflect.TypeFor[T]() }
func (f Fact[T]) finely() (float64, bool) { return f.Spread() }

var factualType = reflect.TypeFor[factual]()

// leaf returns the description of a struct field that holds a value, and false
// for one that holds further fields.
func leaf(field reflect.StructField) (Spec, bool) {
	spec := Spec{
		Name: jsonName(field), Called: field.Tag.Get("name"), When: whenOf(field.Tag.Get("when")), Doc: field.Tag.Get("doc"),
		Else: field.Tag.Get("else"), Measure: field.Tag.Get("measure"), Max: maxNumber,
	}
	spec.Unit, spec.Most = unitOf(spec.Name), maxItems
	if most, err := strconv.Atoi(field.Tag.Get("most")); err == nil {
		spec.Most = most
	}
	if spec.Else != "" {
		spec.Doc += " Unless told: " + spec.Else + "."
	}
	t := field.Type
	if t.Implements(factualType) {
		spec.Fact = true
		t = reflect.Zero(t).Interface().(factual).elem()
	}
	spec.Type = t
	spec.Fixed, spec.Setting = field.Tag.Get("set") == "never", field.Tag.Get("setting") != ""
	spec.Sold, spec.ByOwner = soldOf(field.Tag.Get("sold")), field.Tag.Get("set") == "by owner"
	spec.Needed = !strings.Contains(field.Tag.Get("json"), ",omitzero")
	if !spec.readKind(t) {
		return spec, false
	}
	spec.readBounds(field.Tag.Get("is"))
	return spec, true
}

func (s *Spec) readKind(t reflect.Type) bool {
	if w, ok := reflect.Zero(t).Interface().(Worded); ok {
		s.Kind, s.Words, s.Choices = Choice, w.Words(), w.Words().All()
		return true
	}
	switch t.Kind() {
	case reflect.String:
		s.Kind = Text
	case reflect.Bool:
		s.Kind = Flag
	case reflect.Int:
		s.Kind = Whole
	case reflect.Float64:
		s.Kind = Number
	case reflect.Slice:
		element := Spec{}
		if t.Elem().Kind() != reflect.String || !element.readKind(t.Elem()) {
			return false
		}
		s.Kind, s.Words, s.Choices = TextList, element.Words, element.Choices
		if element.Kind == Choice {
			s.Kind = ChoiceList
		}
	default:
		return false
	}
	return true
}

// readBounds reads the tag is:"0..16" or is:"1|2|4".
func (s *Spec) readBounds(tag string) {
	if low, high, ok := strings.Cut(tag, ".."); ok {
		s.Min, s.Max = mustFloat(low), mustFloat(high)
		return
	}
	if tag == "" {
		return
	}
	for word := range strings.SplitSeq(tag, "|") {
		s.Among = append(s.Among, mustFloat(word))
	}
}

func mustFloat(s string) float64 {
	v, err := strconv.ParseFloat(s, 64)
	if err != nil {
		panic(fmt.Sprintf("rig: bad bound %q in a struct tag", s))
	}
	return v
}

func jsonName(field reflect.StructField) string {
	name, _, _ := strings.Cut(field.Tag.Get("json"), ",")
	return name
}

// A Node is one place in a rig or a part: a leaf with its value, or a list.
type Node struct {
	Spec  *Spec
	Value reflect.Value
	List  bool // a list of further structs

	Group *Spec // the struct within the same thing that it belongs to; nil for the thing itself

	owner string  // pointer of the struct it belongs to
	fact  factual // nil for a plain value
}

// NodeAt is the leaf at a JSON Pointer of v, a pointer to a struct of this package; false where
// no leaf stands there.
func NodeAt(v any, pointer string) (Node, bool) {
	value, spec, err := At(v, pointer)
	if err != nil || spec.Type == nil || !value.CanAddr() {
		return Node{}, false
	}
	n := Node{Spec: &spec, Value: value, owner: pointer[:strings.LastIndex(pointer, "/")]}
	if spec.Fact {
		n.fact = value.Addr().Interface().(factual)
	}
	return n, true
}

// SpecAt describes the leaf that a JSON Pointer would name in v: the entries of lists on the
// way need not be there. False where no leaf stands there.
func SpecAt(v any, pointer string) (spec Spec, found bool) {
	t := reflect.Indirect(reflect.ValueOf(v)).Type()
	for token := range strings.SplitSeq(strings.Trim(pointer, "/"), "/") {
		if t.Kind() == reflect.Slice {
			if _, err := strconv.Atoi(token); err != nil {
				return Spec{}, false
			}
			t = t.Elem()
			continue
		}
		if t.Kind() != reflect.Struct || t.Implements(factualType) {
			return Spec{}, false
		}
		field, there := namedOf(t)[token]
		if !there {
			return Spec{}, false
		}
		spec, t = field.Spec, t.FieldByIndex(field.index).Type
	}
	return spec, spec.Type != nil
}

// Path is the node's JSON Pointer.
func (n Node) Path() string { return n.owner + "/" + n.Spec.Name }

// Known reports whether the leaf has a value.
func (n Node) Known() bool {
	if n.fact != nil {
		return n.fact.known()
	}
	return !n.Value.IsZero()
}

// Plain returns the leaf's value without the Fact around it.
func (n Node) Plain() any {
	if n.fact != nil {
		return n.fact.boxed()
	}
	return n.Value.Interface()
}

// Shown is the leaf's value as a person reads it, with its unit.
func (n Node) Shown() string {
	switch v := n.Plain().(type) {
	case []string:
		return strings.Join(v, ", ")
	case fmt.Stringer:
		return v.String()
	default:
		return strings.TrimSpace(n.Spec.Words.Spoken(fmt.Sprint(v)) + " " + n.Spec.Unit)
	}
}

// Number is the value of a leaf that is a number, NaN for any other.
func (n Node) Number() float64 {
	if v, ok := numberOf(n.told()); ok {
		return v
	}
	return math.NaN()
}

// told is the leaf's value as it stands in its struct, without the Fact around it.
func (n Node) told() reflect.Value {
	if n.Spec.Fact {
		return n.Value.Field(factValue)
	}
	return n.Value
}

// factValue is where a Fact holds its value.
var factValue = func() int {
	field, _ := reflect.TypeFor[Fact[bool]]().FieldByName("Value")
	return field.Index[0]
}()

// Tolerance returns the tolerance of a fact, in its own unit, and whether one was
// told.
func (n Node) Tolerance() (tolerance float64, told bool) {
	if n.fact == nil {
		return 0, false
	}
	return n.fact.finely()
}

// Origin returns where a fact comes from, and the remark beside it.
func (n Node) Origin() (source Source, remark string) {
	if n.fact != nil {
		return n.fact.told()
	}
	return "", ""
}

// As returns the value as a person typed it, "9 1/8 in", where that was more than a number and
// still is the value; "" else.
func (n Node) As() string {
	if n.fact == nil || n.fact.typed() == "" {
		return ""
	}
	value := reflect.New(n.Spec.Type)
	if err := parse(value, n.fact.typed()); err != nil || !value.Elem().Equal(n.told()) {
		return ""
	}
	return n.fact.typed()
}

// typedAs is what is typed for a quantity, as the fact keeps it: nothing for a plain number,
// which its field shows anyway.
func typedAs(spec Spec, typed string) string {
	if _, err := strconv.ParseFloat(typed, 64); err == nil || spec.Kind != Number {
		return ""
	}
	return typed
}

// Walk visits every leaf and every list below v, a pointer to a struct of this
// package, in the order of the file.
func Walk(v any, visit func(Node)) { walk(reflect.ValueOf(v).Elem(), "", nil, true, visit) }

// WalkShallow is Walk without going into the elements of lists.
func WalkShallow(v any, visit func(Node)) {
	walk(reflect.ValueOf(v).Elem(), "", nil, false, visit)
}

// member is a field of a struct of the format, read from its tags once.
type member struct {
	Spec
	hidden   bool // no file holds it
	embedded bool
	leaf     bool
	list     bool
}

var members sync.Map // reflect.Type of a struct → []member

func membersOf(t reflect.Type) []member {
	if known, ok := members.Load(t); ok {
		return known.([]member)
	}
	list := make([]member, t.NumField())
	for i := range list {
		field := t.Field(i)
		if list[i].hidden = !field.IsExported(); list[i].hidden {
			continue
		}
		list[i].embedded = field.Anonymous
		list[i].Spec, list[i].leaf = leaf(field)
		list[i].list = field.Type.Kind() == reflect.Slice && !list[i].leaf
	}
	members.Store(t, list)
	return list
}

func walk(v reflect.Value, path string, group *Spec, deep bool, visit func(Node)) {
	list := membersOf(v.Type())
	for i := range list {
		m, field := &list[i], v.Field(i)
		switch {
		case m.hidden:
		case m.embedded:
			walk(field, path, group, deep, visit)
		case m.leaf:
			visit(Node{Spec: &m.Spec, Value: field, Group: group, owner: path, fact: factOf(m, field)})
		case !m.list:
			walk(field, path+"/"+m.Name, &m.Spec, deep, visit)
		default:
			visit(Node{Spec: &m.Spec, Value: field, Group: group, owner: path, List: true})
			for j := 0; deep && j < field.Len(); j++ {
				walk(field.Index(j), path+"/"+m.Name+"/"+strconv.Itoa(j), nil, deep, visit)
			}
		}
	}
}

// factOf takes a fact by its address, which copies nothing.
func factOf(m *member, field reflect.Value) factual {
	if !m.Fact {
		return nil
	}
	return field.Addr().Interface().(factual)
}

// At finds the struct, list or leaf that a JSON Pointer names in v; only a leaf's
// Spec has a Type. A pointer
// past the end of a list, or to an unknown name, is an error that says what is
// there instead.
func At(v any, pointer string) (reflect.Value, Spec, error) {
	at := reflect.Indirect(reflect.ValueOf(v))
	var spec Spec
	if pointer == "" {
		return at, spec, nil
	}
	for token := range strings.SplitSeq(strings.TrimPrefix(pointer, "/"), "/") {
		next, s, err := step(at, token)
		if err != nil {
			return at, spec, &FieldError{Path: pointer, Accepts: err.Error()}
		}
		at, spec = next, s
	}
	return at, spec, nil
}

func step(v reflect.Value, token string) (reflect.Value, Spec, error) {
	if v.Kind() == reflect.Slice {
		i, err := strconv.Atoi(token)
		if err != nil || i < 0 || i >= v.Len() {
			return v, Spec{}, fmt.Errorf("a place in a list of %d", v.Len())
		}
		return v.Index(i), Spec{}, nil
	}
	if v.Kind() != reflect.Struct || v.Type().Implements(factualType) {
		return v, Spec{}, fmt.Errorf("nothing below a plain value")
	}
	if field, there := namedOf(v.Type())[token]; there {
		return v.FieldByIndex(field.index), field.Spec, nil
	}
	return v, Spec{}, fmt.Errorf("one of the fields %s", strings.Join(fieldNames(v.Type()), ", "))
}

// named is a field of a struct of the format by its name in the file; its Spec is
// empty where it is no leaf.
type named struct {
	Spec
	index []int
}

var namedFields sync.Map // reflect.Type of a struct → map[string]named

// namedOf reads the fields of a struct from their tags once.
func namedOf(t reflect.Type) map[string]named {
	if known, ok := namedFields.Load(t); ok {
		return known.(map[string]named)
	}
	fields := map[string]named{}
	for _, field := range fileFields(t) {
		f := named{index: field.Index}
		if spec, isLeaf := leaf(field); isLeaf {
			f.Spec = spec
		}
		fields[jsonName(field)] = f
	}
	namedFields.Store(t, fields)
	return fields
}

func fieldNames(t reflect.Type) []string {
	var names []string
	for _, field := range fileFields(t) {
		names = append(names, jsonName(field))
	}
	return names
}

// fileFields are the fields of a struct that a file holds, those of embedded structs among them.
func fileFields(t reflect.Type) []reflect.StructField {
	return slices.DeleteFunc(reflect.VisibleFields(t), func(f reflect.StructField) bool { return f.Anonymous || !f.IsExported() })
}
