package web

import (
	"errors"
	"fmt"
	"reflect"
	"slices"
	"strconv"
	"strings"

	"github.com/gofiber/fiber/v3"
	"github.com/gofiber/fiber/v3/middleware/csrf"

	"kolvan/core/assess"
	"kolvan/core/bringup"
	"kolvan/core/finding"
	"kolvan/core/link"
	"kolvan/core/parts"
	"kolvan/core/rig"
	"kolvan/store"
	"kolvan/web/fields"
	"kolvan/web/phrase"
	"kolvan/web/room"
	"kolvan/web/verdict"
)

// found is one part of the list or a bin, as it is shown.
type found struct {
	ID    string // "list:3" or "bin:7"
	Kind  string
	Name  string
	About string
	Mine  bool
	Shelf bool   // it lies on the shelf
	Says  string // what the shelf says otherwise of one's own
	Next  bool   // a stage that goes into the end of the route as it stands

	Unreadable *unreadable // a part of the bins that cannot be read

	part any
}

func foundOf(id string, p parts.Part, mine bool) (found, error) {
	part, err := parts.Decode(p.Kind, p.Doc)
	if err != nil {
		return found{}, err
	}
	return found{ID: id, Kind: string(p.Kind), Name: p.Name, About: aboutPart(part), Mine: mine, part: part}, nil
}

// Number is the id within its source.
func (f found) Number() string {
	_, number, _ := strings.Cut(f.ID, ":")
	return number
}

// part finds a part by the id that found gives it.
func (a *App) part(c fiber.Ctx, id string) (parts.Part, error) {
	source, number, _ := strings.Cut(id, ":")
	n, err := strconv.ParseInt(number, 10, 64)
	switch {
	case err != nil:
	case source == "list" && n >= 0 && n < int64(len(a.builtin)):
		return a.builtin[n], nil
	case source == "shelf" && n >= 0 && n < int64(len(a.shelf.parts)):
		return a.shelf.parts[n], nil
	case source == "bin":
		h, err := a.store.Load(c.Context(), "", n)
		return parts.Part{Kind: parts.Kind(h.Kind), Doc: h.Doc}, err
	}
	return parts.Part{}, &rig.FieldError{Path: "part", Value: id, Accepts: "a part of the list or the bins"}
}

// shelf is parts that others wrote down: searched after one's own, before the built-in list.
type shelf struct {
	parts  []parts.Part
	listed []found
	stock  *assess.Bins
}

// UseShelf lays out a shelf.
func (a *App) UseShelf(list []parts.Part) error {
	stock, err := parts.Bins(list)
	if err != nil {
		return err
	}
	s := shelf{parts: list, stock: stock}
	for i, p := range list {
		f, err := foundOf("shelf:"+strconv.Itoa(i), p, false)
		if err != nil {
			return err
		}
		f.Shelf = true
		s.listed = append(s.listed, f)
	}
	a.shelf = s
	return nil
}

// otherwise says what the shelf says otherwise of a part of one's own; it is told, not applied.
func (s *shelf) otherwise(own parts.Part) (string, error) {
	list, err := parts.Differs(own, s.parts)
	if err != nil || len(list) == 0 {
		return "", err
	}
	part, err := parts.Decode(own.Kind, own.Doc)
	if err != nil {
		return "", err
	}
	var words []string
	for _, d := range list {
		called := d.At
		if n, there := rig.NodeAt(part, d.At); there {
			called = n.Spec.Called
		}
		words = append(words, called+" "+d.Theirs)
	}
	return "the shelf says: " + strings.Join(words, ", "), nil
}

// allParts lists what is in the bins, then the shelf, then the built-in list where that is not
// put away.
func (a *App) allParts(c fiber.Ctx) ([]found, error) {
	mine, _, err := a.store.List(c.Context(), store.Query{})
	if err != nil {
		return nil, err
	}
	list := make([]found, 0, len(mine)+len(a.shelf.listed)+len(a.builtin))
	for _, e := range mine {
		id, own := strconv.FormatInt(e.ID, 10), parts.Part{Kind: parts.Kind(e.Kind), Name: e.Name, Doc: e.Doc}
		f, err := foundOf("bin:"+id, own, true)
		if err == nil && len(a.shelf.parts) > 0 {
			f.Says, err = a.shelf.otherwise(own)
		}
		if e.Fault != nil {
			err = e.Fault
		}
		if err != nil {
			path := "/bins/" + id
			f = found{
				ID: "bin:" + id, Kind: e.Kind, Name: e.Name, Mine: true,
				Unreadable: &unreadable{e.Name, whyUnreadable(err), path, path + "/export", csrf.TokenFromContext(c)},
			}
		}
		list = append(list, f)
	}
	list = append(list, a.shelf.listed...)
	if listAway(c) {
		return list, nil
	}
	return append(list, a.listed...), nil
}

// listParts describes the built-in list, once.
func listParts(builtin []parts.Part) ([]found, error) {
	list := make([]found, len(builtin))
	for i, p := range builtin {
		f, err := foundOf("list:"+strconv.Itoa(i), p, false)
		if err != nil {
			return nil, err
		}
		list[i] = f
	}
	return list, nil
}

// aboutPart says in a line what a part is.
func aboutPart(part any) string {
	switch v := part.(type) {
	case *rig.Host:
		return strings.Join([]string{phrase.Of(v.Kind), phrase.Plural(len(v.Slots), "slot"), phrase.Of(v.Power)}, ", ")
	case *rig.Card:
		return "x" + phrase.Of(v.Lanes) + " Gen " + phrase.Of(v.Gen) + ", " + phrase.Of(v.Memory) + ", " + phrase.Of(v.Power) + ", " +
			phrase.Of(v.Length) + ", " + phrase.Plugs(v.Plugs)
	case *rig.Stage:
		return phrase.Of(v.Kind) + ", x" + phrase.Of(v.Lanes) + " Gen " + phrase.Of(v.Gen) + ", " + phrase.Of(v.Length)
	case *rig.Supply:
		return phrase.Of(v.Kind) + ", " + phrase.Of(v.Rating) + ", " + phrase.Plural(len(v.Outlets), "outlet")
	case *rig.Lead:
		return phrase.Lead(v)
	}
	return ""
}

// findParts answers the search of the parts dialog. Stages that go in next stand
// first. What is found keeps its id from answer to answer, within the list that asks,
// so that a later answer does not take the focus from it.
func (a *App) findParts(c fiber.Ctx) error {
	list, err := a.allParts(c)
	if err != nil {
		return err
	}
	query, kind := strings.ToLower(c.Query("q")), c.Query("kind")
	list = slices.DeleteFunc(list, func(f found) bool {
		text := strings.ToLower(f.Kind + " " + f.Name + " " + f.About)
		return f.Unreadable != nil || kind != "" && f.Kind != kind || !containsAll(text, strings.Fields(query))
	})
	if kind == string(parts.Stage) {
		l, err := a.load(c)
		if err != nil {
			return err
		}
		for i := range list {
			list[i].Next = link.Continues(l.rig, list[i].part.(*rig.Stage))
		}
		slices.SortStableFunc(list, nextFirst)
	}
	others, err := a.findOthers(c, query, kind)
	if err != nil {
		return err
	}
	return c.Render(
		"parts_found",
		fiber.Map{"Parts": list, "Others": others, "RigID": c.Params("rig"), "Query": c.Query("q"), "List": c.Get("HX-Target", "found")},
	)
}

// hit is something found that is no part: a finding, a rig, or a rule.
type hit struct{ Kind, Name, About, Address string }

// mostOthers of each kind are shown beside the parts.
const mostOthers = 6

// findOthers looks among the findings of the rig, the rigs on the bench and the
// rules, where no kind of part is asked for.
func (a *App) findOthers(c fiber.Ctx, query, kind string) (hits []hit, err error) {
	words := strings.Fields(query)
	if kind != "" || len(words) == 0 {
		return nil, nil
	}
	l, err := a.load(c)
	if err != nil {
		return nil, err
	}
	report := assess.Rig(l.rig, a.ref)
	for i := range report.Findings {
		f := &report.Findings[i]
		if len(hits) < mostOthers && containsAll(strings.ToLower(f.Rule+" "+f.Title+" "+f.Says), words) {
			hits = append(
				hits, hit{f.Level.String(), f.Title, f.Says, fmt.Sprintf("/rigs/%d/%s?sel=%s", l.ID, verdict.StationOf(f), room.ThingOf(f.Where))},
			)
		}
	}
	rigs, _, err := a.store.List(c.Context(), store.Query{Kind: store.RigKind, Text: query, Most: mostOthers})
	if err != nil {
		return nil, err
	}
	for _, e := range rigs {
		hits = append(hits, hit{"rig", e.Name, "on the bench", fmt.Sprintf("/rigs/%d", e.ID)})
	}
	shown := 0
	for _, rule := range append(assess.Rules(), bringup.Rules()...) {
		if shown < mostOthers && containsAll(strings.ToLower(rule.Name+" "+rule.Title+" "+rule.Fires), words) {
			shown++
			hits = append(hits, hit{"rule", rule.Name, rule.Title + ": " + rule.Fires, ""})
		}
	}
	return hits, nil
}

func nextFirst(a, b found) int {
	switch {
	case a.Next == b.Next:
		return 0
	case a.Next:
		return -1
	default:
		return 1
	}
}

func containsAll(text string, words []string) bool {
	return !slices.ContainsFunc(words, func(w string) bool { return !strings.Contains(text, w) })
}

// anyBins are the parts clearing tries its changes with: the bins and the list.
func (a *App) anyBins(c fiber.Ctx) (*assess.Bins, error) {
	mine, _, err := a.store.List(c.Context(), store.Query{})
	if err != nil || len(mine) == 0 && len(a.shelf.parts) == 0 && !listAway(c) {
		return a.stock, err
	}
	list := make([]parts.Part, 0, len(mine))
	for _, e := range mine {
		if e.Fault == nil && Readable(e.Kind, e.Doc) == nil {
			list = append(list, parts.Part{Kind: parts.Kind(e.Kind), Name: e.Name, Doc: e.Doc})
		}
	}
	bins, err := parts.Bins(list)
	if err != nil {
		return nil, err
	}
	if len(a.shelf.parts) > 0 {
		withAll(bins, a.shelf.stock)
	}
	if !listAway(c) {
		withAll(bins, a.stock)
	}
	return bins, nil
}

// withAll adds parts behind those that are there.
func withAll(bins, more *assess.Bins) {
	bins.Hosts = append(bins.Hosts, more.Hosts...)
	bins.Stages = append(bins.Stages, more.Stages...)
	bins.Cards = append(bins.Cards, more.Cards...)
	bins.Supplies = append(bins.Supplies, more.Supplies...)
	bins.Leads = append(bins.Leads, more.Leads...)
}

func (a *App) bins(c fiber.Ctx) error {
	list, err := a.allParts(c)
	if err != nil {
		return err
	}
	deleted, _, err := a.store.List(c.Context(), store.Query{Deleted: true, Most: 5})
	if err != nil {
		return err
	}
	words := strings.ToLower(strings.ToValidUTF8(c.Query("q"), ""))
	groups := make([]partGroup, 0, len(parts.Kinds()))
	for _, kind := range parts.Kinds() {
		group := partGroup{Kind: string(kind), Label: finding.Begin(kindsWords[kind])}
		for _, f := range list {
			switch {
			case f.Kind != string(kind) || !strings.Contains(strings.ToLower(f.Name+" "+f.About), words):
			case f.Mine:
				group.Own = append(group.Own, f)
			case f.Shelf:
				group.Shelf = append(group.Shelf, f)
			default:
				group.Listed = append(group.Listed, f)
			}
		}
		groups = append(groups, group)
	}
	return a.page(c, "bins", fiber.Map{"Title": "Bins", "Groups": groups, "Deleted": deleted, "Query": words, "Away": listAway(c)})
}

// partGroup is the parts of one kind: one's own, those of the shelf, and those of the list.
type partGroup struct {
	Kind, Label        string
	Own, Shelf, Listed []found
}

// kindsWords are the kinds of parts as several.
var kindsWords = map[parts.Kind]string{
	"host": "hosts", "card": "cards", "stage": "adapters, cables, docks", "supply": "supplies", "lead": "leads",
}

// addToBins puts a copy of a listed part, a part of a rig, or an empty part into
// the bins.
func (a *App) addToBins(c fiber.Ctx) error {
	kind, doc, err := a.partToAdd(c)
	if err != nil {
		return badRequest(err)
	}
	part, err := parts.Decode(kind, doc)
	if err != nil {
		return badRequest(err)
	}
	if err := rig.ValidatePart(part); err != nil {
		return badRequest(err)
	}
	if thing, ok := part.(interface{ Own() }); ok { // what lies in one's bins is one's own
		thing.Own()
	}
	if doc, err = rig.Encode(part); err != nil {
		return err
	}
	id, err := a.store.Create(c.Context(), string(kind), parts.Name(part), doc, "put into the bins")
	if err != nil {
		return err
	}
	return c.Redirect().Status(fiber.StatusSeeOther).To("/bins/" + strconv.FormatInt(id, 10))
}

func badRequest(err error) error {
	var fault *rig.FieldError
	if errors.As(err, &fault) {
		return fiber.NewError(fiber.StatusUnprocessableEntity, plainly(err.Error()))
	}
	return err
}

func (a *App) partToAdd(c fiber.Ctx) (parts.Kind, []byte, error) {
	if id := c.FormValue("part"); id != "" {
		p, err := a.part(c, id)
		return p.Kind, p.Doc, err
	}
	if c.FormValue("pasted") != "" {
		return pastedPart(c)
	}
	kind := parts.Kind(c.FormValue("kind"))
	if c.FormValue("rig") == "" {
		return kind, []byte(`{"name":"my ` + string(kind) + `"}`), nil
	}
	return a.partOfRig(c, kind)
}

func (a *App) partOfRig(c fiber.Ctx, kind parts.Kind) (parts.Kind, []byte, error) {
	id, err := strconv.ParseInt(c.FormValue("rig"), 10, 64)
	if err != nil {
		return kind, nil, store.ErrNotFound
	}
	head, err := a.store.Load(c.Context(), store.RigKind, id)
	if err != nil {
		return kind, nil, err
	}
	r, err := rig.Decode(head.Doc)
	if err != nil {
		return kind, nil, err
	}
	value, _, err := rig.At(r, c.FormValue("path"))
	if err != nil {
		return kind, nil, err
	}
	if lead, ok := value.Addr().Interface().(*rig.Lead); ok {
		unplug(lead)
	}
	if host, ok := value.Addr().Interface().(*rig.Host); ok {
		host.Supply = ""
	}
	doc, err := rig.Encode(value.Addr().Interface())
	return kind, doc, err
}

// unplug forgets what a lead was plugged into; a bin holds the lead alone.
func unplug(l *rig.Lead) {
	for _, ends := range [][]rig.LeadEnd{l.From, l.To} {
		for i := range ends {
			ends[i].Part, ends[i].At = "", ""
		}
	}
}

// binned is a part of the bins as its page needs it.
type binned struct {
	store.Head
	part any
}

// binPart shows one part of the bins with its facts.
func (a *App) binPart(c fiber.Ctx) error {
	b, err := a.loadBinned(c)
	if err != nil {
		return err
	}
	return a.showBinned(c, b, c.FormValue("sel", c.Query("sel")), nil)
}

// showBinned shows the part, or the thing of it that is chosen: one of its
// slots, plugs, outlets.
func (a *App) showBinned(c fiber.Ctx, b *binned, sel string, t *room.Trouble) error {
	thing, _, err := rig.At(b.part, sel)
	if err != nil || thing.Kind() != reflect.Struct {
		sel, thing = "", reflect.ValueOf(b.part).Elem()
	}
	f := fields.For(nil, thing.Addr().Interface(), sel, inches(c), t)
	f.Post = "/bins/" + strconv.FormatInt(b.ID, 10)
	f.Title, f.InList = b.Kind, sel != ""
	if sel != "" {
		f.Title = titleOf(thing, sel)
	}
	name := parts.Name(b.part)
	data := fiber.Map{"Title": name, "Name": name, "Part": b.Head, "Rev": a.revisionOf(b.Revision), "Form": f, "Trouble": t}
	if c.Get("HX-Request") != "" {
		return c.Render("bin_region", data)
	}
	return a.page(c, "bin", data)
}

func (a *App) loadBinned(c fiber.Ctx) (*binned, error) {
	id, err := idAt(c)
	if err != nil {
		return nil, err
	}
	h, err := a.store.Load(c.Context(), "", id)
	if err != nil {
		return nil, err
	}
	part, err := parts.Decode(parts.Kind(h.Kind), h.Doc)
	if err != nil {
		return nil, &store.Damaged{Thing: id, Revision: h.Revision, Why: err.Error()}
	}
	return &binned{h, part}, nil
}

// changingPart makes a handler of an edit of a part of the bins, under the same
// check as an edit of a rig; edit returns the change in words and what should be
// chosen afterwards.
func (a *App) changingPart(edit func(c fiber.Ctx, part any) (label, choose string, err error)) fiber.Handler {
	return func(c fiber.Ctx) error {
		b, err := a.loadBinned(c)
		if err != nil {
			return err
		}
		if b.Deleted {
			c.Status(fiber.StatusConflict)
			return a.showBinned(
				c, b, "", &room.Trouble{Says: "This part was taken out of the bins. Put it back to change it; your change is not kept."},
			)
		}
		if !a.current(c, b.Revision) {
			return a.conflictedPart(c)
		}
		label, choose, err := edit(c, b.part)
		var doc []byte
		if err == nil {
			doc, _, err = strictly(b.part, func(doc []byte) (any, error) { return parts.Decode(parts.Kind(b.Kind), doc) })
		}
		var fault *rig.FieldError
		if errors.As(err, &fault) {
			return a.refusedPart(c, err)
		}
		if err != nil {
			return err
		}
		b.Head, err = a.store.Write(c.Context(), b.ID, b.Revision, parts.Name(b.part), doc, labelled(label))
		var conflict *store.Conflict
		if errors.As(err, &conflict) {
			return a.conflictedPart(c)
		}
		if err != nil {
			return err
		}
		return a.showBinned(c, b, choose, nil)
	}
}

func (a *App) refusedPart(c fiber.Ctx, err error) error {
	b, again := a.loadBinned(c)
	if again != nil {
		return again
	}
	c.Status(fiber.StatusUnprocessableEntity)
	return a.showBinned(
		c, b, c.FormValue("sel"),
		&room.Trouble{Path: c.FormValue("path"), Typed: strings.ToValidUTF8(c.FormValue("value"), "�"), Says: plainly(err.Error())},
	)
}

func (a *App) conflictedPart(c fiber.Ctx) error {
	b, err := a.loadBinned(c)
	if err != nil {
		return err
	}
	t, err := a.conflictOf(c, b.Head)
	if err != nil {
		return err
	}
	t.Leave = "/bins/" + strconv.FormatInt(b.ID, 10)
	c.Status(fiber.StatusConflict)
	return a.showBinned(c, b, c.FormValue("sel"), t)
}

// movingPart makes a handler of undo or redo of a part.
func (a *App) movingPart(do move) fiber.Handler {
	return func(c fiber.Ctx) error {
		b, err := a.loadBinned(c)
		if err != nil {
			return err
		}
		if !a.current(c, b.Revision) {
			return a.conflictedPart(c)
		}
		var t *room.Trouble
		err = do(c.Context(), b.ID, b.Revision)
		var conflict *store.Conflict
		switch {
		case errors.As(err, &conflict):
			return a.conflictedPart(c)
		case errors.Is(err, store.ErrNothing):
			t = &room.Trouble{Says: "There is nothing to undo or redo here."}
		case err != nil:
			return err
		}
		if b, err = a.loadBinned(c); err != nil {
			return err
		}
		return a.showBinned(c, b, c.FormValue("sel"), t)
	}
}

func setPartField(c fiber.Ctx, part any) (label, choose string, err error) {
	path, value := c.FormValue("path"), typedValue(c)
	return "set " + rig.Called(part, path) + " to " + phrase.Or(value, "unknown"), c.FormValue("sel"),
		rig.Set(part, path, asTyped(c, path, value))
}

func addPartEntry(c fiber.Ctx, part any) (label, choose string, err error) {
	choose, err = rig.Append(part, c.FormValue("path"))
	return "add " + rig.Called(part, choose), choose, err
}

func removePartEntry(c fiber.Ctx, part any) (label, choose string, err error) {
	path := c.FormValue("path")
	choose = strings.TrimSuffix(ownerOf(path[:max(0, strings.LastIndex(path, "/"))]), "/")
	return "remove " + rig.Called(part, path), choose, rig.Remove(part, path)
}
