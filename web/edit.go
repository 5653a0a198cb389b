package web

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"unicode"

	jsonpatch "github.com/evanphx/json-patch/v5"
	"github.com/gofiber/fiber/v3"
	"github.com/wI2L/jsondiff"

	"kolvan/core/assess"
	"kolvan/core/finding"
	"kolvan/core/fit"
	"kolvan/core/parts"
	"kolvan/core/reference"
	"kolvan/core/rig"
	"kolvan/core/units"
	"kolvan/store"
	"kolvan/web/phrase"
	"kolvan/web/room"
	"kolvan/web/verdict"
)

// edits are the ways to change a rig that no station has for itself, by the last word of
// their address.
func (a *App) edits() map[string]room.Edit {
	return map[string]room.Edit{
		"set": setField, "add": addEntry, "none": emptyList, "remove": removeEntry, "move": moveEntry,
		"patch": applyPatch, "use": a.usePart, "place": placeCard, "acknowledge": acknowledge,
		"describe": describeHost, "purpose": setPurpose, "put-aside": putAside, "held": setHeld,
		"run": a.addRun, "keep-expected": keepExpected, "results": a.addResults,
	}
}

// changing makes a handler of an edit: it holds the form's revision against the
// one kept, and answers with the region made anew. What is kept is what a rig
// file of it reads as.
func (a *App) changing(e room.Edit) fiber.Handler {
	return func(c fiber.Ctx) error {
		l, err := a.load(c)
		if err != nil {
			return err
		}
		if l.Deleted {
			c.Status(fiber.StatusConflict)
			return a.regionOf(
				c, l, "", &room.Trouble{Says: "This rig was taken off the bench. Put it back to change it; your change is not kept."},
			)
		}
		if _, late := room.Waited(c); late && !a.current(c, l.Revision) {
			return a.merged(c, l, e)
		}
		if !a.current(c, l.Revision) {
			return a.conflicted(c, l)
		}
		label, choose, err := edited(c, l.rig, e, a.ref)
		if err != nil {
			return a.refused(c, err)
		}
		doc, read, err := strictly(l.rig, rig.Reread)
		if err != nil {
			return a.refused(c, err)
		}
		return a.keep(c, l, doc, read, label, choose)
	}
}

// edited makes an edit; a run that it changes keeps what it was.
func edited(c fiber.Ctx, r *rig.Rig, e room.Edit, ref *reference.Tables) (label, choose string, err error) {
	runs := slices.Clone(r.Runs)
	if label, choose, err = e(c, r, ref); err == nil {
		rig.KeepFormer(runs, r, room.When(c))
	}
	return label, choose, err
}

// strictly is the document of a rig or a part, read back as a file would be: what a
// file may not hold is refused there.
func strictly[T any](thing any, decode func([]byte) (T, error)) (doc []byte, read T, err error) {
	if doc, err = rig.Encode(thing); err != nil { // what cannot be written is no text, and the field is to be named
		return nil, read, cmp.Or(rig.ValidatePart(thing), err)
	}
	read, err = decode(doc)
	return doc, read, err
}

// revisionOf is what a page carries: which data file, and which revision of the
// thing it shows.
func (a *App) revisionOf(revision int64) string {
	return a.store.Identity().String() + "-" + strconv.FormatInt(revision, 10)
}

// current reports a page made of the revision that is kept now, in this data file.
func (a *App) current(c fiber.Ctx, revision int64) bool {
	return c.FormValue("rev") == a.revisionOf(revision)
}

// shown is the revision a page was made of, 0 for another data file's.
func (a *App) shown(c fiber.Ctx) int64 {
	file, number, _ := strings.Cut(c.FormValue("rev"), "-")
	revision, err := strconv.ParseInt(number, 10, 64)
	if err != nil || file != a.store.Identity().String() {
		return 0
	}
	return revision
}

// mostLabel bounds the line that says what was changed, in characters.
const mostLabel = 200

// labelled makes a line of history of what a page says of a change.
func labelled(text string) string {
	plain := strings.Map(func(r rune) rune {
		if !unicode.IsPrint(r) {
			return ' '
		}
		return r
	}, strings.ToValidUTF8(text, "?"))
	if runes := []rune(plain); len(runes) > mostLabel {
		return string(runes[:mostLabel-1]) + "…"
	}
	return plain
}

func (a *App) keep(c fiber.Ctx, l *loaded, doc []byte, read *rig.Rig, label, choose string) error {
	head, err := a.store.Write(c.Context(), l.ID, l.Revision, l.rig.Name, doc, labelled(label))
	var conflict *store.Conflict
	if errors.As(err, &conflict) {
		return a.conflicted(c, l)
	}
	if err != nil {
		return err
	}
	l.Head = head
	a.read.Add(head.Revision, read) // for the edit that comes next
	a.teach(c, l.ID, l.rig)         // there may be another use
	return a.regionOf(c, l, choose, nil)
}

// refused answers a fault of what was typed; nothing is kept, and the field
// still shows what was typed.
func (a *App) refused(c fiber.Ctx, err error) error {
	var fault *rig.FieldError
	if _, late := room.Waited(c); late || !errors.As(err, &fault) {
		return err
	}
	c.Status(fiber.StatusUnprocessableEntity)
	t := &room.Trouble{
		Path: c.FormValue("path"), Typed: strings.ToValidUTF8(c.FormValue("value"), "�"), Says: sentenceOf(err, fault),
		Values: formValues(c), From: c.Get("HX-Trigger"),
	}
	if strings.HasSuffix(c.Path(), "/describe") { // a form of its own, with its fields by their names
		t.Path, t.Placed = fault.Path, true
	}
	return a.region(c, "", t)
}

// sentenceOf says what is wrong with what was typed as a person would: the field by its
// name, what was written, and what to write.
func sentenceOf(err error, fault *rig.FieldError) string {
	if err.Error() != fault.Error() {
		return plainly(err.Error()) // several at once, or with more said of it
	}
	name := fault.Path
	if strings.HasPrefix(name, "/") {
		name = rig.Called(&rig.Rig{}, name)
	}
	accepts := likeWords.ReplaceAllStringFunc(fault.Accepts, func(examples string) string {
		list := strings.Split(strings.ReplaceAll(strings.Trim(examples, ` ()`), `"`, ""), ", ")
		return ", such as " + phrase.List(list, "or")
	})
	accepts = strings.Replace(accepts, ", a number from ", ", from ", 1)
	if fault.Value == "" {
		return finding.Begin(name) + ": write " + accepts + "."
	}
	return fmt.Sprintf("%s: %s is not accepted. Write %s.", finding.Begin(name), fault.Value, accepts)
}

// plainly says what the program says of a file as a person would: places by their names, not
// by their pointers.
func plainly(says string) string {
	says = phrase.Pointers.ReplaceAllStringFunc(says, phrase.Place)
	says = strings.ReplaceAll(says, " is not accepted; accepted: ", " is not accepted. Write ")
	return strings.ReplaceAll(says, ": accepted: ", ": write ")
}

// likeWords are examples in brackets: ("60 mm", "6 cm").
var likeWords = regexp.MustCompile(` \(("[^"]*"(, )?)+\)`)

// formValues is what a form sent by the names of its fields, without what every form sends;
// a file is not among them.
func formValues(c fiber.Ctx) map[string]string {
	values := map[string]string{}
	keep := func(name, value string) {
		if name != "rev" && name != "station" && name != "sel" && name != "_csrf" {
			values[name] = strings.ToValidUTF8(value, "�")
		}
	}
	for name, value := range c.Request().PostArgs().All() {
		keep(string(name), string(value))
	}
	if form, err := c.MultipartForm(); err == nil {
		for name, list := range form.Value {
			keep(name, list[0])
		}
	}
	return values
}

// conflicted shows what was changed elsewhere, and lets the person choose.
func (a *App) conflicted(c fiber.Ctx, l *loaded) error {
	t, err := a.conflictOf(c, l.Head)
	if err != nil {
		return err
	}
	if _, late := room.Waited(c); late { // nobody looks at its page
		return fiber.NewError(fiber.StatusConflict, strings.Join(append([]string{t.Says}, t.Changed...), " "))
	}
	t.Leave = "/rigs/" + strconv.FormatInt(l.ID, 10) + "/" + c.FormValue("station", "route")
	c.Status(fiber.StatusConflict)
	return a.region(c, "", t)
}

// conflictOf says what was changed between the page's revision and the one kept.
func (a *App) conflictOf(c fiber.Ctx, h store.Head) (*room.Trouble, error) {
	t := &room.Trouble{Path: c.FormValue("path"), Typed: c.FormValue("value"), Again: c.Path(), Values: formValues(c),
		Says: "This was changed in another place meanwhile. Your change is not kept yet."}
	was, err := a.store.Revision(c.Context(), h.ID, a.shown(c))
	if errors.Is(err, store.ErrNotFound) {
		t.Says = "This page was made from another data file, before a backup was restored. Your change is not kept yet."
		return t, nil
	}
	if err != nil {
		return nil, err
	}
	head, err := a.store.Load(c.Context(), h.Kind, h.ID)
	if err != nil {
		return nil, err
	}
	patch, err := jsondiff.CompareJSON(was, head.Doc)
	if err != nil {
		return nil, fmt.Errorf("comparing revisions: %w", err)
	}
	for _, op := range patch[:min(len(patch), mostChangesShown)] {
		t.Changed = append(t.Changed, changedWords(op.Type, op.Path, orEmpty(op.Value)))
	}
	return t, nil
}

// changedWords says what another changed: the field by its name, and what is there now.
func changedWords(op, pointer string, now any) string {
	place := finding.Begin(strings.TrimSpace(phrase.Place(pointer)))
	switch v := now.(type) {
	case map[string]any:
		if value, fact := v["value"]; fact {
			return changedWords(op, pointer, value)
		}
		return place + " was changed"
	case []any:
		return place + " was changed"
	default:
		if op == "remove" {
			return place + " was taken out"
		}
		return fmt.Sprintf("%s is now %v", place, v)
	}
}

// mostChangesShown bounds what a person is shown of another's changes.
const mostChangesShown = 20

func orEmpty(v any) any {
	if v == nil {
		return ""
	}
	return v
}

// move is undo or redo of a thing from the base revision.
type move func(ctx context.Context, id, base int64) error

// moving makes a handler of undo or redo.
func (a *App) moving(do move) fiber.Handler {
	return func(c fiber.Ctx) error {
		l, err := a.load(c)
		if err != nil {
			return err
		}
		if !a.current(c, l.Revision) {
			return a.conflicted(c, l)
		}
		err = do(c.Context(), l.ID, l.Revision)
		var conflict *store.Conflict
		var damage *store.Damaged
		switch {
		case errors.As(err, &conflict):
			return a.conflicted(c, l)
		case errors.Is(err, store.ErrNothing):
			return a.region(c, "", &room.Trouble{Says: "There is nothing to undo or redo here."})
		case errors.As(err, &damage):
			return a.region(
				c, "", &room.Trouble{Says: "The change that would come back cannot be read: " + damage.Why + ". What is shown stays."},
			)
		case err != nil:
			return err
		}
		return a.region(c, "", nil)
	}
}

func setField(c fiber.Ctx, r *rig.Rig, _ *reference.Tables) (string, string, error) {
	path, value := c.FormValue("path"), typedValue(c)
	label := "set " + placeWords(r, path) + " to " + valueWords(r, path, value)
	return label, "", rig.Set(r, path, asTyped(c, path, value))
}

// placeWords names a place of the rig for the line that says what was changed:
// "lanes of slot m2-a".
func placeWords(r *rig.Rig, path string) string {
	if thing, _, err := rig.At(r, path); err == nil && nameOf(thing) != "" {
		return thingWords(verdict.KindOf(path), nameOf(thing))
	}
	owner := path[:max(0, strings.LastIndex(path, "/"))]
	thing, _, err := rig.At(r, owner)
	if err != nil || owner == "" {
		return verdict.KindOf(path)
	}
	return verdict.KindOf(path) + " of " + thingWords(verdict.KindOf(owner), nameOf(thing))
}

// thingWords is a thing by kind and name, the kind once: "slot 2", not "slot
// slot 2".
func thingWords(kind, name string) string {
	if strings.HasPrefix(name, kind) {
		return name
	}
	return strings.TrimSpace(kind + " " + name)
}

// valueWords is an entered value as it is spoken of.
func valueWords(r *rig.Rig, path, value string) string {
	if _, spec, err := rig.At(r, path); err == nil && spec.Kind == rig.Choice {
		value = spec.Words.Spoken(value)
	}
	return phrase.Or(value, "unknown")
}

// typedValue is what was typed, or the boxes of a list that were ticked.
func typedValue(c fiber.Ctx) string {
	all := c.Request().PostArgs().PeekMulti("value")
	if len(all) < 2 {
		return c.FormValue("value")
	}
	words := make([]string, 0, len(all))
	for _, v := range all {
		if len(v) > 0 {
			words = append(words, string(v))
		}
	}
	return strings.Join(words, ",")
}

// asTyped takes a bare number for inches where lengths are shown in inches.
func asTyped(c fiber.Ctx, path, value string) string {
	path = strings.TrimSuffix(path, "/tolerance")
	if _, err := strconv.ParseFloat(value, 64); err == nil && inches(c) && strings.HasSuffix(path, "_mm") {
		return value + " in"
	}
	return value
}

func addEntry(c fiber.Ctx, r *rig.Rig, _ *reference.Tables) (string, string, error) {
	path := c.FormValue("path")
	at, err := rig.Append(r, path)
	if err != nil {
		return "", "", err
	}
	return "add " + verdict.KindOf(at), at, nil
}

// emptyList tells that there are none.
func emptyList(c fiber.Ctx, r *rig.Rig, _ *reference.Tables) (string, string, error) {
	path := c.FormValue("path")
	return "no " + verdict.KindOf(path), "", rig.Empty(r, path)
}

func removeEntry(c fiber.Ctx, r *rig.Rig, _ *reference.Tables) (string, string, error) {
	path := c.FormValue("path")
	parent := path[:max(0, strings.LastIndex(path, "/"))]
	label := "remove " + placeWords(r, path)
	return label, ownerOf(parent), rig.Remove(r, path)
}

// ownerOf is what stays chosen when an entry of a list is gone: the thing the
// list belongs to.
func ownerOf(list string) string {
	owner := list[:max(0, strings.LastIndex(list, "/"))]
	if owner == "" {
		return "/"
	}
	return owner
}

func moveEntry(c fiber.Ctx, r *rig.Rig, _ *reference.Tables) (string, string, error) {
	by, err := strconv.Atoi(c.FormValue("by"))
	if err != nil {
		return "", "", &rig.FieldError{Path: "by", Value: c.FormValue("by"), Accepts: "how many places, as a whole number"}
	}
	label := "move " + placeWords(r, c.FormValue("path"))
	at, err := rig.Move(r, c.FormValue("path"), by)
	return label, at, err
}

// A patch is bounded: a few copies of copies would else fill any memory.
const (
	mostOperations = 400
	mostCopied     = 1 << 18 // bytes, over all its copies
)

// applyPatch applies a JSON Patch, as a change that clears a finding carries it.
func applyPatch(c fiber.Ctx, r *rig.Rig, _ *reference.Tables) (string, string, error) {
	fault := func(err error) error {
		return &rig.FieldError{Path: "patch", Accepts: "a JSON Patch of this rig (" + err.Error() + ")"}
	}
	patch, err := jsonpatch.DecodePatch([]byte(c.FormValue("patch")))
	if err != nil {
		return "", "", fault(err)
	}
	if len(patch) > mostOperations {
		return "", "", fault(fmt.Errorf("of at most %d operations; this one has %d", mostOperations, len(patch)))
	}
	doc, err := rig.Encode(r)
	if err != nil {
		return "", "", err
	}
	options := jsonpatch.NewApplyOptions()
	options.AccumulatedCopySizeLimit = mostCopied
	changed, err := patch.ApplyWithOptions(doc, options)
	if err != nil {
		return "", "", fault(err)
	}
	next, err := rig.Decode(changed)
	if err != nil {
		return "", "", err
	}
	*r = *next
	if c.FormValue("take") != "" {
		return c.FormValue("says"), "/route", nil // a whole way: the route is where it shows
	}
	return c.FormValue("says"), "", nil
}

// usePart copies a part of the list or a bin into the rig.
func (a *App) usePart(c fiber.Ctx, r *rig.Rig, _ *reference.Tables) (string, string, error) {
	p, err := a.part(c, c.FormValue("part"))
	if err != nil {
		return "", "", err
	}
	part, err := parts.Decode(p.Kind, p.Doc)
	if err != nil {
		return "", "", err
	}
	choose := ""
	switch v := part.(type) {
	case *rig.Host:
		*r, choose = *assess.WithHost(r, *v, a.stock.Supplies), "/host"
	case *rig.Card:
		*r, choose = *assess.WithCard(r, *v), "/card"
	case *rig.Stage:
		*r = *assess.WithStage(r, *v, a.stock.Supplies)
		choose = phrase.Last("/route/stages", len(r.Route.Stages))
	case *rig.Supply:
		v.Name = assess.FreeName(r, v.Name)
		r.Supplies = append(r.Supplies, *v)
		choose = phrase.Last("/supplies", len(r.Supplies))
	case *rig.Lead:
		v.Name = assess.FreeName(r, v.Name)
		r.Leads = append(r.Leads, *v)
		choose = phrase.Last("/leads", len(r.Leads))
	}
	return "use " + p.Name, choose, nil
}

// placeCard moves the card in its chamber by millimetres, as dragging it does.
func placeCard(c fiber.Ctx, r *rig.Rig, _ *reference.Tables) (string, string, error) {
	at := []*fit.Fact{&r.Chamber.CardAt.X, &r.Chamber.CardAt.Y, &r.Chamber.CardAt.Z}
	for i, axis := range []string{"x", "y", "z"} {
		typed := c.FormValue(axis)
		if typed == "" {
			continue
		}
		by, err := strconv.ParseFloat(typed, 64)
		if err != nil || !at[i].Known {
			return "", "", &rig.FieldError{Path: axis, Value: typed, Accepts: "millimetres, for a card whose place is known"}
		}
		at[i].Value += units.Millimetre(by)
	}
	return "move the card", "/card", nil
}

// acknowledge keeps why somebody goes on all the same: one reason for all that is found of one
// subject, its rules and their places each with spaces between.
func acknowledge(c fiber.Ctx, r *rig.Rig, _ *reference.Tables) (string, string, error) {
	rules, places, reason := strings.Fields(c.FormValue("rule")), strings.Fields(c.FormValue("where")),
		strings.TrimSpace(c.FormValue("reason"))
	if reason == "" {
		return "", "", &rig.FieldError{Path: "reason", Value: `""`, Accepts: "why you go on all the same"}
	}
	if len(rules) == 0 || len(rules) != len(places) {
		return "", "", &rig.FieldError{Path: "rule", Value: strconv.Quote(c.FormValue("rule")), Accepts: "as many rules as places"}
	}
	for i, rule := range rules {
		r.Acknowledged = slices.DeleteFunc(r.Acknowledged, func(a rig.Acknowledgement) bool { return a.Rule == rule && a.Where == places[i] })
		r.Acknowledged = append(r.Acknowledged, rig.Acknowledgement{Rule: rule, Where: places[i], Reason: reason})
	}
	return "note why " + rules[0] + " may stay", "", nil
}
