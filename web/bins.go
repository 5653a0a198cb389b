package web

import (
	"errors"
	"reflect"
	"slices"
	"strconv"
	"strings"

	"github.com/gofiber/fiber/v3"

	"kolvan/core/assess"
	"kolvan/core/link"
	"kolvan/core/parts"
	"kolvan/core/rig"
	"kolvan/store"
)

// found is one part of the list or a bin, as it is shown.
type found struct {
	ID    string // "list:3" or "bin:7"
	Kind  string
	Name  string
	About string
	Mine  bool
	Next  bool // a stage that goes into the end of the route as it stands

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
	case source == "bin":
		p, err := a.store.BinPart(c.Context(), n)
		return parts.Part{Kind: parts.Kind(p.Kind), Name: p.Name, Doc: p.Doc}, err
	}
	return parts.Part{}, &rig.FieldError{Path: "part", Value: id, Accepts: "a part of the list or the bins"}
}

// allParts lists what is in the bins, then the built-in list.
func (a *App) allParts(c fiber.Ctx) ([]found, error) {
	mine, err := a.store.Bins(c.Context(), false)
	if err != nil {
		return nil, err
	}
	list := make([]found, 0, len(mine)+len(a.builtin))
	for _, p := range mine {
		f, err := foundOf("bin:"+strconv.FormatInt(p.ID, 10), parts.Part{Kind: parts.Kind(p.Kind), Name: p.Name, Doc: p.Doc}, true)
		if err != nil {
			return nil, err
		}
		list = append(list, f)
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
		return strings.Join([]string{words(v.Kind), plural(len(v.Slots), "slot"), words(v.Power)}, ", ")
	case *rig.Card:
		return "x" + words(v.Lanes) + " Gen " + words(v.Gen) + ", " + words(v.Memory) + ", " + words(v.Power) + ", " + words(v.Length) + ", " + plugWords(v.Plugs)
	case *rig.Stage:
		return words(v.Kind) + ", x" + words(v.Lanes) + " Gen " + words(v.Gen) + ", " + words(v.Length)
	case *rig.Supply:
		return words(v.Kind) + ", " + words(v.Rating) + ", " + plural(len(v.Outlets), "outlet")
	case *rig.Lead:
		return leadWords(v)
	}
	return ""
}

// findParts answers the search of the parts dialog. Stages that go in next stand
// first.
func (a *App) findParts(c fiber.Ctx) error {
	list, err := a.allParts(c)
	if err != nil {
		return err
	}
	query, kind := strings.ToLower(c.Query("q")), c.Query("kind")
	list = slices.DeleteFunc(list, func(f found) bool {
		text := strings.ToLower(f.Kind + " " + f.Name + " " + f.About)
		return kind != "" && f.Kind != kind || !containsAll(text, strings.Fields(query))
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
	return c.Render("parts_found", fiber.Map{"Parts": list, "RigID": c.Params("rig"), "Query": c.Query("q")})
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
	mine, err := a.store.Bins(c.Context(), false)
	if err != nil || len(mine) == 0 {
		return a.stock, err
	}
	list := make([]parts.Part, 0, len(mine))
	for _, p := range mine {
		list = append(list, parts.Part{Kind: parts.Kind(p.Kind), Name: p.Name, Doc: p.Doc})
	}
	bins, err := parts.Bins(list)
	if err != nil {
		return nil, err
	}
	bins.Cards = append(bins.Cards, a.stock.Cards...)
	bins.Supplies = append(bins.Supplies, a.stock.Supplies...)
	bins.Leads = append(bins.Leads, a.stock.Leads...)
	return bins, nil
}

func (a *App) bins(c fiber.Ctx) error {
	list, err := a.allParts(c)
	if err != nil {
		return err
	}
	deleted, err := a.store.Bins(c.Context(), true)
	if err != nil {
		return err
	}
	groups := make([]partGroup, 0, len(parts.Kinds()))
	for _, kind := range parts.Kinds() {
		groups = append(groups, partGroup{Kind: string(kind), Parts: slices.DeleteFunc(slices.Clone(list), func(f found) bool { return f.Kind != string(kind) })})
	}
	if n := len(deleted); n > 5 {
		deleted = deleted[n-5:]
	}
	return a.page(c, "bins", fiber.Map{"Title": "Bins", "Groups": groups, "Deleted": deleted})
}

type partGroup struct {
	Kind  string
	Parts []found
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
	id, err := a.store.AddPart(c.Context(), store.BinPart{Kind: string(kind), Name: parts.Name(part), Doc: doc})
	if err != nil {
		return err
	}
	return c.Redirect().Status(fiber.StatusSeeOther).To("/bins/" + strconv.FormatInt(id, 10))
}

func badRequest(err error) error {
	var fault *rig.FieldError
	if errors.As(err, &fault) {
		return fiber.NewError(fiber.StatusUnprocessableEntity, err.Error())
	}
	return err
}

func (a *App) partToAdd(c fiber.Ctx) (parts.Kind, []byte, error) {
	if id := c.FormValue("part"); id != "" {
		p, err := a.part(c, id)
		return p.Kind, p.Doc, err
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
	head, err := a.store.Load(c.Context(), id)
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

// binPage shows one part of the bins with its facts.
func (a *App) binPart(c fiber.Ctx) error { return a.showBinPart(c, nil) }

// showBinPart shows the part, or the thing of it that is chosen: one of its
// slots, plugs, outlets.
func (a *App) showBinPart(c fiber.Ctx, t *trouble) error {
	p, part, err := a.loadBinPart(c)
	if err != nil {
		return err
	}
	sel := c.FormValue("sel", c.Query("sel"))
	thing, _, err := rig.At(part, sel)
	if err != nil || thing.Kind() != reflect.Struct {
		sel, thing = "", reflect.ValueOf(part).Elem()
	}
	f := formFor(nil, thing.Addr().Interface(), sel, inches(c), t)
	f.Post = "/bins/" + strconv.FormatInt(p.ID, 10)
	f.Title, f.InList = p.Kind, sel != ""
	if sel != "" {
		f.Title = titleOf(thing, sel)
	}
	data := fiber.Map{"Title": p.Name, "Part": p, "Form": f, "Trouble": t}
	if c.Get("HX-Request") != "" {
		return c.Render("bin_region", data)
	}
	return a.page(c, "bin", data)
}

func (a *App) loadBinPart(c fiber.Ctx) (store.BinPart, any, error) {
	id, err := strconv.ParseInt(c.Params("part"), 10, 64)
	if err != nil {
		return store.BinPart{}, nil, store.ErrNotFound
	}
	p, err := a.store.BinPart(c.Context(), id)
	if err != nil {
		return p, nil, err
	}
	part, err := parts.Decode(parts.Kind(p.Kind), p.Doc)
	return p, part, err
}

// changingPart makes a handler of an edit of a part of the bins; edit returns
// what should be chosen afterwards.
func (a *App) changingPart(edit func(c fiber.Ctx, part any) (choose string, err error)) fiber.Handler {
	return func(c fiber.Ctx) error {
		p, part, err := a.loadBinPart(c)
		if err != nil {
			return err
		}
		choose, err := edit(c, part)
		if err == nil {
			err = rig.ValidatePart(part)
		}
		var fault *rig.FieldError
		if errors.As(err, &fault) {
			c.Status(fiber.StatusUnprocessableEntity)
			return a.showBinPart(c, &trouble{Path: c.FormValue("path"), Typed: c.FormValue("value"), Says: err.Error()})
		}
		if err != nil {
			return err
		}
		if p.Doc, err = rig.Encode(part); err != nil {
			return err
		}
		p.Name = parts.Name(part)
		if err := a.store.WritePart(c.Context(), p); err != nil {
			return err
		}
		c.Request().PostArgs().Set("sel", choose)
		return a.showBinPart(c, nil)
	}
}

func setPartField(c fiber.Ctx, part any) (string, error) {
	path, value := c.FormValue("path"), typedValue(c)
	return c.FormValue("sel"), rig.Set(part, path, asTyped(c, path, value))
}

func addPartEntry(c fiber.Ctx, part any) (string, error) {
	return rig.Append(part, c.FormValue("path"))
}

func removePartEntry(c fiber.Ctx, part any) (string, error) {
	path := c.FormValue("path")
	return strings.TrimSuffix(ownerOf(path[:max(0, strings.LastIndex(path, "/"))]), "/"), rig.Remove(part, path)
}

func (a *App) deleteBinPart(c fiber.Ctx) error { return a.setBinPartDeleted(c, true) }

func (a *App) restoreBinPart(c fiber.Ctx) error { return a.setBinPartDeleted(c, false) }

func (a *App) setBinPartDeleted(c fiber.Ctx, deleted bool) error {
	p, _, err := a.loadBinPart(c)
	if err != nil {
		return err
	}
	if err := a.store.SetPartDeleted(c.Context(), p.ID, deleted); err != nil {
		return err
	}
	return c.Redirect().Status(fiber.StatusSeeOther).To("/bins")
}
