package web

import (
	"context"
	"errors"
	"fmt"
	"mime/multipart"
	"net/url"
	"strconv"
	"strings"

	"github.com/gofiber/fiber/v3"
	"github.com/gofiber/fiber/v3/middleware/csrf"

	"kolvan/core/assess"
	"kolvan/core/carry"
	"kolvan/core/finding"
	"kolvan/core/parts"
	"kolvan/core/proof"
	"kolvan/core/rig"
	"kolvan/demo"
	"kolvan/store"
	"kolvan/web/draw"
	"kolvan/web/phrase"
	"kolvan/web/room"
	"kolvan/web/verdict"
)

// benchRig is one line of the bench.
type benchRig struct {
	ID         int64
	Name       string
	Host       string
	Card       string
	Number     int
	Level      string
	Answer     *verdict.Answer
	More       string // what else is found, in a line
	Stations   []station
	Tags       []string
	Picture    *draw.MiniRoute
	Unreadable *unreadable
	promises   [2]int // what was found as most often expected, of all that was found
}

// unreadable is a thing whose document cannot be read, with what can be done.
type unreadable struct {
	Name, Why, Path, AsItLies, Token string
}

// aPage is how many rigs the bench shows at a time.
const aPage = 24

func (a *App) bench(c fiber.Ctx) error { return a.showBench(c, nil) }

// showBench renders the bench, with what went wrong in an import.
func (a *App) showBench(c fiber.Ctx, faults []string) error {
	page := max(1, fiber.Query(c, "page", 1))
	query := store.Query{
		Kind: store.RigKind, Text: strings.ToValidUTF8(c.Query("q"), ""), Sort: store.Sort(c.Query("sort")), Most: aPage,
		Skip: (page - 1) * aPage,
	}
	seen, err := a.events.state()
	if err != nil {
		return err
	}
	entries, all, err := a.store.List(c.Context(), query)
	if err != nil {
		return err
	}
	deleted, _, err := a.store.List(c.Context(), store.Query{Kind: store.RigKind, Deleted: true, Most: 5})
	if err != nil {
		return err
	}
	rigs := make([]benchRig, len(entries))
	for i, e := range entries {
		rigs[i] = a.benchRig(c, e)
	}
	if len(faults) > 0 {
		c.Status(fiber.StatusUnprocessableEntity)
	}
	return a.page(
		c, "bench",
		fiber.Map{
			"Title": "Bench", "Rigs": rigs, "Deleted": deleted, "Faults": faults, "Pages": pagesOf(query, page, all),
			"Query": query, "All": all, "Here": benchAt(query, page), "Seen": seen, "Says": benchSays(rigs, all), "Expected": benchExpected(rigs),
		},
	)
}

// benchSays is the bench in a sentence: how many rigs, and how those on this page stand, the
// gravest first.
func benchSays(rigs []benchRig, all int) (says [2]string) {
	if all == 0 {
		return [2]string{"The bench is empty."}
	}
	says[0] = finding.Begin(phrase.Many(all)) + " " + strings.TrimPrefix(phrase.Counted(all, "rig", "rigs"), strconv.Itoa(all)+" ") + "."
	counts := map[string]int{}
	for i := range rigs {
		if a := rigs[i].Answer; a != nil && a.Answered == "" {
			counts[rigs[i].Level]++
		} else {
			counts[""]++
		}
	}
	var parts []string
	for _, is := range []struct{ level, one, more string }{
		{"danger", "must not be switched on yet", "must not be switched on yet"},
		{"blocked", "does not go together", "do not go together"},
		{"risk", "may disappoint", "may disappoint"},
		{"unknown", "waits for facts", "wait for facts"},
		{"", "has nothing against it", "have nothing against them"},
	} {
		if n := counts[is.level]; n > 0 {
			words := is.more
			if n == 1 {
				words = is.one
			}
			parts = append(parts, phrase.Many(n)+" "+words)
		}
	}
	if len(parts) > 0 {
		says[1] = finding.Begin(strings.Join(parts, ", ")) + "."
	}
	return says
}

// pageLink is a page of the bench one can go to.
type pageLink struct {
	Label, Address string
	Here           bool
}

func pagesOf(q store.Query, here, all int) (list []pageLink) {
	if last := (all + aPage - 1) / aPage; last > 1 {
		for n := 1; n <= last; n++ {
			list = append(list, pageLink{strconv.Itoa(n), benchAt(q, n), n == here})
		}
	}
	return list
}

// benchAt is the address of a page of the bench.
func benchAt(q store.Query, page int) string {
	return "/?" + url.Values{"q": {q.Text}, "sort": {string(q.Sort)}, "page": {strconv.Itoa(page)}}.Encode()
}

func (a *App) benchRig(c fiber.Ctx, e store.Entry) benchRig {
	b := benchRig{ID: e.ID, Name: e.Name, Number: e.Number}
	r, err := rig.Decode(e.Doc)
	if e.Fault != nil {
		err = e.Fault
	}
	if err != nil {
		path := "/rigs/" + strconv.FormatInt(e.ID, 10)
		b.Unreadable = &unreadable{e.Name, whyUnreadable(err), path, path + "/as-it-lies", csrf.TokenFromContext(c)}
		return b
	}
	a.teach(c, e.ID, r)
	report := assess.Rig(r, a.ref)
	b.Tags = r.Tags
	b.Name, b.Host, b.Card = r.Name, r.Host.Name, r.Card.Name
	subjects := verdict.SubjectsOf(&report, r, false)
	b.Picture, b.Answer = draw.Mini(&report), verdict.AnswerOf(&report, r, subjects, "")
	if link, _, more := strings.Cut(b.Answer.Gets, ","); more {
		b.Answer.Gets = link + "."
	}
	if worst := verdict.WorstOf(subjects, ""); worst != nil && b.Picture != nil {
		b.Picture.Tag, b.Picture.Level = worst.Tag, worst.Level.String()
	}
	b.Stations = stations(&room.Desk{Rig: r, Report: &report}, subjects)
	b.Level, b.More = b.Answer.Level, moreWords(subjects)
	b.promises = promisesOf(r, proof.LinkCarrying(r, a.ref, report.Link.NetEnds))
	if step := stepOf(r, &report); step >= 0 && b.Level == "" {
		b.Answer.Says = starting(step, r, &report, nil).Title
	}
	return b
}

// promisesOf counts what was found as most often expected, of all that was found.
func promisesOf(r *rig.Rig, l proof.Link) (counts [2]int) {
	for _, p := range proof.PromisedOf(r, l) {
		if p.Lies == "likely" {
			counts[0]++
		}
		if p.Found != nil {
			counts[1]++
		}
	}
	return counts
}

// benchExpected says how often what was expected came, over the rigs on a page.
func benchExpected(rigs []benchRig) string {
	var all [2]int
	for i := range rigs {
		all[0], all[1] = all[0]+rigs[i].promises[0], all[1]+rigs[i].promises[1]
	}
	if all[1] == 0 {
		return ""
	}
	return fmt.Sprintf("Of what was expected of these rigs and run since, %d of %d came as most often expected.", all[0], all[1])
}

// moreWords are what is found besides the worst, in two or three words each.
func moreWords(subjects []verdict.Subject) string {
	worst := verdict.WorstOf(subjects, "")
	var tags []string
	for i := range subjects {
		if s := &subjects[i]; s != worst && s.Level >= finding.Risk {
			tags = append(tags, s.Tag)
		}
	}
	if len(tags) == 0 {
		return ""
	}
	shown := tags[:min(3, len(tags))]
	words := fmt.Sprintf("%d more: %s", len(tags), strings.Join(shown, ", "))
	if len(tags) > len(shown) {
		words += " …"
	}
	return words
}

// whyUnreadable says what is wrong with a kept document, without its numbers.
func whyUnreadable(err error) string {
	var damage *store.Damaged
	if errors.As(err, &damage) {
		return finding.Begin(damage.Why) + "."
	}
	return finding.Begin(plainly(err.Error())) + "."
}

// unreadableAt is the thing of the address, for the page that says it cannot be
// read.
func (a *App) unreadableAt(c fiber.Ctx) *unreadable {
	words := strings.Split(strings.Trim(c.Path(), "/"), "/")
	if len(words) < 2 {
		return nil
	}
	path := "/" + words[0] + "/" + words[1]
	aside := path + "/export"
	if words[0] == "rigs" {
		aside = path + "/as-it-lies"
	}
	return &unreadable{Why: "It is kept as it lies until you decide.", Path: path, AsItLies: aside, Token: csrf.TokenFromContext(c)}
}

func (a *App) create(c fiber.Ctx) error {
	name := strings.TrimSpace(c.FormValue("name"))
	if name == "" {
		name = "New rig"
	}
	return a.putOnBench(c, rig.New(name), "started", "survey")
}

// putOnBench keeps a new rig and goes to it.
func (a *App) putOnBench(c fiber.Ctx, r *rig.Rig, label, station string) error {
	id, err := a.keepNew(c, r, label)
	if err != nil {
		var fault *rig.FieldError
		if errors.As(err, &fault) {
			return a.showBench(c, []string{plainly(err.Error())})
		}
		return err
	}
	return c.Redirect().Status(fiber.StatusSeeOther).To("/rigs/" + strconv.FormatInt(id, 10) + "/" + station)
}

func (a *App) keepNew(c fiber.Ctx, r *rig.Rig, label string) (int64, error) {
	if err := rig.Validate(r); err != nil {
		return 0, err
	}
	doc, err := rig.Encode(r)
	if err != nil {
		return 0, err
	}
	return a.store.Create(c.Context(), store.RigKind, r.Name, doc, labelled(label))
}

// lookAtFernhill puts the demo rigs on the bench.
func (a *App) lookAtFernhill(c fiber.Ctx) error {
	rigs, err := demo.Rigs()
	if err != nil {
		return err
	}
	for _, r := range rigs {
		if _, err := a.keepNew(c, r, "the Fernhill society's rig"); err != nil {
			return err
		}
	}
	return c.Redirect().Status(fiber.StatusSeeOther).To("/")
}

// mostFiles are taken in one import.
const mostFiles = 200

// importFiles puts every dropped or chosen rig file on the bench. Files that are
// wrong are named with their faults; the others are kept.
func (a *App) importFiles(c fiber.Ctx) error {
	form, err := c.MultipartForm()
	if err != nil {
		return fiber.NewError(fiber.StatusBadRequest, "choose or drop rig files, kolvan-rig/1")
	}
	if n := len(form.File["files"]); n > mostFiles {
		return a.showBench(
			c, []string{fmt.Sprintf("%d files are too many at a time: at most %d are taken. None was imported.", n, mostFiles)},
		)
	}
	var faults []string
	last := int64(0)
	for _, header := range form.File["files"] {
		id, err := a.importFile(c, header)
		if err != nil {
			var away *store.Unavailable
			if errors.As(err, &away) {
				return err
			}
			faults = append(faults, labelled(header.Filename)+": "+plainly(err.Error()))
			continue
		}
		last = id
	}
	switch {
	case len(faults) > 0:
		return a.showBench(c, faults)
	case last == 0:
		return a.showBench(c, []string{"No file was chosen. Choose or drop rig files, kolvan-rig/1."})
	case len(form.File["files"]) > 1:
		return c.Redirect().Status(fiber.StatusSeeOther).To("/")
	}
	return c.Redirect().Status(fiber.StatusSeeOther).To("/rigs/" + strconv.FormatInt(last, 10) + "/route")
}

func (a *App) importFile(c fiber.Ctx, header *multipart.FileHeader) (int64, error) {
	file, err := header.Open()
	if err != nil {
		return 0, err
	}
	defer file.Close()
	r, lacks, err := carry.ReadAny(file)
	if err != nil {
		return 0, err
	}
	return a.keepNew(c, r, "imported from "+header.Filename+carry.LacksWords(lacks))
}

// loaded is a rig of the bench as its page needs it.
type loaded struct {
	store.Head
	rig *rig.Rig
}

// idAt reads an id of the address; what is no id is nothing that is there.
func idAt(c fiber.Ctx) (int64, error) {
	id, err := strconv.ParseInt(c.Params("rig", c.Params("part")), 10, 64)
	if err != nil {
		return 0, store.ErrNotFound
	}
	return id, nil
}

// load loads the rig of the address; the error is a *store.Damaged where it
// cannot be read.
func (a *App) load(c fiber.Ctx) (*loaded, error) {
	id, err := idAt(c)
	if err != nil {
		return nil, err
	}
	l, err := a.loadRig(c.Context(), id)
	if err != nil {
		return nil, err
	}
	a.teach(c, id, l.rig)
	return l, nil
}

// loadRig is load for a rig that stands elsewhere than in the address.
func (a *App) loadRig(ctx context.Context, id int64) (*loaded, error) {
	head, err := a.store.Load(ctx, store.RigKind, id)
	if err != nil {
		return nil, err
	}
	if r, some := a.read.Get(head.Revision); some && a.read.Remove(head.Revision) {
		return &loaded{head, r}, nil // whoever takes it out has it alone
	}
	r := new(rig.Rig) // what is kept was checked when it was kept
	if err := rig.DecodePart(head.Doc, r); err != nil {
		return nil, &store.Damaged{Thing: id, Revision: head.Revision, Why: err.Error()}
	}
	return &loaded{head, r}, nil
}

func (a *App) first(c fiber.Ctx) error {
	return c.Redirect().To("/rigs/" + c.Params("rig") + "/route")
}

func (a *App) copy(c fiber.Ctx) error {
	l, err := a.load(c)
	if err != nil {
		return err
	}
	l.rig.Name = "Copy of " + l.rig.Name
	return a.putOnBench(c, l.rig, "copied", "route")
}

func (a *App) export(c fiber.Ctx) error {
	l, err := a.load(c)
	if err != nil {
		return err
	}
	c.Attachment(phrase.FileName(l.rig.Name) + ".kolvan.json")
	c.Type("json")
	return c.Send(l.Doc)
}

// exportAsItLies hands out the document as it is kept, readable or not.
func (a *App) exportAsItLies(kind string) fiber.Handler {
	return func(c fiber.Ctx) error {
		id, err := idAt(c)
		if err != nil {
			return err
		}
		head, err := a.store.Load(c.Context(), kind, id)
		var damage *store.Damaged
		if err != nil && !(errors.As(err, &damage) && len(head.Doc) > 0) {
			return err
		}
		c.Attachment("as-it-lies-" + strconv.FormatInt(id, 10) + ".json")
		c.Type("json")
		return c.Send(head.Doc)
	}
}

// recover goes back to the last change that can be read.
func (a *App) recover(to string) fiber.Handler {
	return func(c fiber.Ctx) error {
		id, err := idAt(c)
		if err != nil {
			return err
		}
		kind := store.RigKind
		if to == "/bins" {
			head, err := a.store.Load(c.Context(), "", id)
			if kind = head.Kind; kind == "" {
				return err
			}
		}
		err = a.store.Recover(c.Context(), id, func(doc []byte) bool { return Readable(kind, doc) == nil })
		if errors.Is(err, store.ErrNothing) {
			return fiber.NewError(fiber.StatusConflict, "No change before this one can be read. Export it as it lies, or restore a backup.")
		}
		if err != nil {
			return err
		}
		return c.Redirect().Status(fiber.StatusSeeOther).To(to)
	}
}

// Readable tells what is wrong with a document of the data file: of a rig, or a
// part of that kind.
func Readable(kind string, doc []byte) error {
	if kind == store.RigKind {
		return rig.DecodePart(doc, new(rig.Rig))
	}
	_, err := parts.Decode(parts.Kind(kind), doc)
	return err
}

// setDeleted makes a handler that takes a thing away, or puts it back.
func (a *App) setDeleted(to string, deleted bool) fiber.Handler {
	return func(c fiber.Ctx) error {
		id, err := idAt(c)
		if err != nil {
			return err
		}
		if err := a.store.SetDeleted(c.Context(), id, deleted); err != nil {
			return err
		}
		if c.FormValue("back") == "here" {
			return c.Redirect().Status(fiber.StatusSeeOther).To("/rigs/" + strconv.FormatInt(id, 10) + "/route")
		}
		return c.Redirect().Status(fiber.StatusSeeOther).To(to)
	}
}
