package rig

import (
	"fmt"
	"reflect"
	"slices"
	"strconv"
	"strings"

	"kolvan/core/units"
)

func splitTokens(pointer string) []string {
	return strings.Split(strings.TrimPrefix(pointer, "/"), "/")
}

func joinTokens(tokens []string) string {
	if len(tokens) == 0 {
		return ""
	}
	return "/" + strings.Join(tokens, "/")
}

// Within reports a pointer to a part, or to something of it.
func Within(pointer, part string) bool {
	rest, within := strings.CutPrefix(pointer, part)
	return within && (rest == "" || rest[0] == '/')
}

// EntryAt is the place of the entry of a list that a pointer stands at; −1 for a pointer to
// anything else.
func EntryAt(pointer, list string) int {
	number, of := strings.CutPrefix(pointer, list+"/")
	i, err := strconv.Atoi(number)
	if !of || err != nil || i < 0 {
		return -1
	}
	return i
}

// Names of the parts of a fact that Set takes behind a fact's pointer.
const (
	tolerancePart = "tolerance"
	sourcePart    = "source"
	remarkPart    = "remark"
)

// Set writes what a person typed into the leaf at pointer of v: a number in any
// unit its quantity takes, a word, a list with commas; nothing typed is unknown.
// Behind a fact's pointer come its /tolerance, /source and /remark. When the
// name of a thing changes, references in a *Rig follow.
func Set(v any, pointer, typed string) error {
	typed = strings.TrimSpace(typed)
	if err := printable(typed, true); err != nil {
		return &FieldError{Path: pointer, Value: quote(typed), Accepts: err.Error()}
	}
	tokens := splitTokens(pointer)
	last := tokens[len(tokens)-1]
	if field, spec, err := At(v, joinTokens(tokens[:len(tokens)-1])); err == nil && spec.Fact {
		return setPart(field, spec, pointer, last, typed)
	}
	field, spec, err := At(v, pointer)
	if err != nil {
		return err
	}
	if spec.Type == nil || spec.Fixed {
		return &FieldError{Path: pointer, Value: quote(typed), Accepts: "a field that holds a value a person may change"}
	}
	follow := func() {}
	if r, ok := v.(*Rig); ok {
		follow = renamer(r, pointer, typed)
	}
	if err := setLeaf(field, spec, pointer, typed); err != nil {
		return err
	}
	follow()
	return nil
}

// With is a copy of the rig with what a person would type in the leaf at pointer.
// It shares with the rig all that is not on the way there.
func With(r *Rig, pointer, typed string) (*Rig, error) {
	c := *r
	at := reflect.ValueOf(&c).Elem()
	for _, token := range splitTokens(pointer) {
		if at.Kind() == reflect.Slice && at.CanSet() {
			own := reflect.MakeSlice(at.Type(), at.Len(), at.Len())
			reflect.Copy(own, at)
			at.Set(own)
		}
		next, _, err := step(at, token)
		if err != nil {
			return nil, &FieldError{Path: pointer, Accepts: err.Error()}
		}
		at = next
	}
	return &c, Set(&c, pointer, typed)
}

// renamer prepares that references follow when pointer is a thing's name.
func renamer(r *Rig, pointer, name string) func() {
	tokens := splitTokens(pointer)
	if last := tokens[len(tokens)-1]; last != "name" && last != "at" {
		return func() {}
	}
	in, old, named := spaceOf(r, joinTokens(tokens[:len(tokens)-1]))
	return func() {
		if named && name != "" {
			rename(r, in, old, name)
		}
	}
}

func setPart(fact reflect.Value, spec Spec, pointer, part, typed string) error {
	if !fact.FieldByName("Known").Bool() {
		return &FieldError{Path: pointer, Value: quote(typed), Accepts: "nothing while the value itself is unknown"}
	}
	switch part {
	case tolerancePart:
		return setTolerance(fact, spec, pointer, typed)
	case sourcePart:
		if typed != "" && !slices.Contains(Source("").Words().All(), typed) {
			return &FieldError{Path: pointer, Value: quote(typed), Accepts: "one of " + strings.Join(Source("").Words().All(), ", ")}
		}
		fact.FieldByName("Source").SetString(typed)
	case remarkPart:
		fact.FieldByName("Remark").SetString(typed)
	default:
		return &FieldError{Path: pointer, Accepts: "tolerance, source or remark"}
	}
	return nil
}

func setTolerance(fact reflect.Value, spec Spec, pointer, typed string) error {
	if typed == "" {
		fact.FieldByName("Tolerance").SetFloat(0)
		fact.FieldByName("Exact").SetBool(false)
		return nil
	}
	value := reflect.New(spec.Type)
	err := parse(value, typed)
	tolerance := 0.0
	if err == nil && value.Elem().CanFloat() {
		tolerance = value.Elem().Float()
	}
	if err != nil || tolerance < 0 || !value.Elem().CanFloat() {
		return &FieldError{Path: pointer, Value: quote(typed), Accepts: "a tolerance of 0 or more, in the field's unit"}
	}
	fact.FieldByName("Tolerance").SetFloat(tolerance)
	fact.FieldByName("Exact").SetBool(tolerance == 0)
	return nil
}

func setLeaf(field reflect.Value, spec Spec, pointer, typed string) error {
	if typed == "" || spec.Fact && typed == unknownWord {
		if spec.Needed {
			return &FieldError{Path: pointer, Value: `""`, Accepts: "a text that is not empty"}
		}
		field.SetZero()
		return nil
	}
	value := reflect.New(spec.Type)
	if err := parseLeaf(value, spec, typed); err != nil {
		return &FieldError{Path: pointer, Value: quote(typed), Accepts: acceptsTyped(spec, err)}
	}
	if !spec.Fact {
		field.Set(value.Elem())
		return nil
	}
	field.FieldByName("Known").SetBool(true)
	field.FieldByName("Value").Set(value.Elem())
	field.FieldByName("As").SetString(typedAs(spec, typed))
	return nil
}

func acceptsTyped(spec Spec, err error) string {
	if parse, ok := err.(*units.ParseError); ok {
		return parse.Accepts + ", " + spec.Accepts()
	}
	return spec.Accepts()
}

func parseLeaf(value reflect.Value, spec Spec, typed string) error {
	switch spec.Kind {
	case TextList, ChoiceList:
		return parseList(value.Elem(), spec, typed)
	case Choice:
		if !slices.Contains(spec.Choices, typed) {
			return fmt.Errorf("not a choice")
		}
	}
	if err := parse(value, typed); err != nil {
		return err
	}
	if number, ok := numberOf(value.Elem()); ok && !spec.Holds(number) {
		return fmt.Errorf("out of bounds")
	}
	return nil
}

func numberOf(v reflect.Value) (float64, bool) {
	switch {
	case v.CanInt():
		return float64(v.Int()), true
	case v.CanFloat():
		return v.Float(), true
	default:
		return 0, false
	}
}

// emptyList is what a person types for a list known to be empty.
const emptyList = "none"

func parseList(into reflect.Value, spec Spec, typed string) error {
	into.Set(reflect.MakeSlice(into.Type(), 0, 4))
	if typed == emptyList {
		return nil
	}
	for word := range strings.SplitSeq(typed, ",") {
		word = strings.TrimSpace(word)
		if word == "" {
			continue
		}
		if spec.Choices != nil && !slices.Contains(spec.Choices, word) {
			return fmt.Errorf("not a choice")
		}
		into.Set(reflect.Append(into, reflect.ValueOf(word).Convert(into.Type().Elem())))
	}
	return nil
}

// parse reads one value into the pointer that value holds.
func parse(value reflect.Value, typed string) error {
	if value.Elem().Kind() != reflect.String {
		typed = strings.ReplaceAll(typed, "\u2212", "-") // the minus sign of print
	}
	if q, ok := value.Interface().(interface{ Parse(string) error }); ok {
		return q.Parse(typed)
	}
	v := value.Elem()
	switch v.Kind() {
	case reflect.String:
		v.SetString(typed)
	case reflect.Bool:
		return parseFlag(v, typed)
	case reflect.Int:
		n, err := strconv.Atoi(typed)
		v.SetInt(int64(n))
		return err
	default:
		f, err := strconv.ParseFloat(typed, 64)
		v.SetFloat(f)
		return err
	}
	return nil
}

func parseFlag(v reflect.Value, typed string) error {
	switch strings.ToLower(typed) {
	case "true", "yes":
		v.SetBool(true)
	case "false", "no":
		v.SetBool(false)
	default:
		return fmt.Errorf("neither yes nor no")
	}
	return nil
}

// Append adds an empty entry to the list at pointer of v, a rig or a part, and
// returns the entry's own pointer. A name is made for it, since every thing
// needs one.
func Append(v any, pointer string) (string, error) {
	list, _, err := At(v, pointer)
	if err != nil {
		return "", err
	}
	if list.Kind() != reflect.Slice || list.Type().Elem().Kind() != reflect.Struct {
		return "", &FieldError{Path: pointer, Accepts: "a list"}
	}
	entry := reflect.New(list.Type().Elem()).Elem()
	if name := entry.FieldByName("Name"); name.IsValid() {
		name.SetString(freeName(v, list, Called(v, pointer+"/0")))
	}
	list.Set(reflect.Append(list, entry))
	return pointer + "/" + strconv.Itoa(list.Len()-1), nil
}

// Empty tells that there is nothing to list: the list at pointer, which has no entry, is
// known to have none.
func Empty(v any, pointer string) error {
	list, _, err := At(v, pointer)
	if err != nil {
		return err
	}
	if list.Kind() != reflect.Slice || list.Type().Elem().Kind() != reflect.Struct || list.Len() > 0 {
		return &FieldError{Path: pointer, Accepts: "a list without an entry"}
	}
	list.Set(reflect.MakeSlice(list.Type(), 0, 0))
	return nil
}

// Singular makes "supply" of "supplies", "slot" of "slots".
func Singular(list string) string {
	if stem, ok := strings.CutSuffix(list, "ies"); ok {
		return stem + "y"
	}
	return strings.TrimSuffix(list, "s")
}

// freeName numbers a word until neither the list nor, in a rig, the names that
// are referred to have it.
func freeName(v any, list reflect.Value, word string) string {
	var used []place
	if r, ok := v.(*Rig); ok {
		used = append(powerPlaces(r), occupantPlaces(r)...)
	}
	for i := range list.Len() {
		used = append(used, place{name: list.Index(i).FieldByName("Name").String()})
	}
	for n := list.Len() + 1; ; n++ {
		if name := fmt.Sprintf("%s %d", word, n); !has(used, name) {
			return name
		}
	}
}

// Remove takes the entry at pointer out of its list in v, a rig or a part. What
// referred to it in a rig becomes open, and leads lose the ends that were plugged
// into it.
func Remove(v any, pointer string) error {
	tokens := splitTokens(pointer)
	list, _, err := At(v, joinTokens(tokens[:len(tokens)-1]))
	if err != nil {
		return err
	}
	i, err := strconv.Atoi(tokens[len(tokens)-1])
	if err != nil || list.Kind() != reflect.Slice || i < 0 || i >= list.Len() {
		return &FieldError{Path: pointer, Accepts: "an entry of a list"}
	}
	forgetting := func() {}
	if r, ok := v.(*Rig); ok {
		if in, name, referred := spaceOf(r, pointer); referred {
			forgetting = func() { forget(r, in, name) }
		}
	}
	if lead := leadOf(v, tokens); lead != nil {
		lead.DropEnds(tokens[len(tokens)-2] == "from", func(j int) bool { return j == i })
	} else {
		rest := reflect.MakeSlice(list.Type(), 0, list.Len())
		rest = reflect.AppendSlice(rest, list.Slice(0, i))
		list.Set(reflect.AppendSlice(rest, list.Slice(i+1, list.Len())))
	}
	forgetting()
	return nil
}

// leadOf is the lead whose end stands at the pointer; nil for anything else.
func leadOf(v any, tokens []string) *Lead {
	if list := tokens[len(tokens)-2]; list != "from" && list != "to" {
		return nil
	}
	owner, _, err := At(v, joinTokens(tokens[:len(tokens)-2]))
	if err != nil || !owner.CanAddr() {
		return nil
	}
	lead, _ := owner.Addr().Interface().(*Lead)
	return lead
}

// Move shifts the entry at pointer by that many places in its list, as far as
// the list goes, and returns where it then is.
func Move(r *Rig, pointer string, by int) (string, error) {
	tokens := splitTokens(pointer)
	at := joinTokens(tokens[:len(tokens)-1])
	list, _, err := At(r, at)
	if err != nil {
		return "", err
	}
	i, err := strconv.Atoi(tokens[len(tokens)-1])
	if err != nil || list.Kind() != reflect.Slice || i < 0 || i >= list.Len() {
		return "", &FieldError{Path: pointer, Accepts: "an entry of a list"}
	}
	to := min(max(i+by, 0), list.Len()-1)
	entry := reflect.New(list.Type().Elem()).Elem()
	entry.Set(list.Index(i))
	step := 1
	if to < i {
		step = -1
	}
	for ; i != to; i += step {
		list.Index(i).Set(list.Index(i + step))
	}
	list.Index(to).Set(entry)
	return at + "/" + strconv.Itoa(to), nil
}
