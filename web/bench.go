package web

import (
	"errors"
	"fmt"
	"io"
	"mime/multipart"
	"strconv"
	"strings"

	"github.com/gofiber/fiber/v3"

	"kolvan/core/assess"
	"kolvan/core/rig"
	"kolvan/store"
)

// benchRig is one line of the bench.
type benchRig struct {
	ID       int64
	Name     string
	Host     string
	Card     string
	Number   int
	Verdict  string
	Level    string
	Stations []station
}

func (a *App) bench(c fiber.Ctx) error { return a.showBench(c, nil) }

// showBench renders the bench, with what went wrong in an import.
func (a *App) showBench(c fiber.Ctx, faults []string) error {
	entries, err := a.store.Rigs(c.Context(), false)
	if err != nil {
		return err
	}
	deleted, err := a.store.Rigs(c.Context(), true)
	if err != nil {
		return err
	}
	rigs := make([]benchRig, len(entries))
	for i, e := range entries {
		if rigs[i], err = a.benchRig(e); err != nil {
			return err
		}
	}
	if len(faults) > 0 {
		c.Status(fiber.StatusUnprocessableEntity)
	}
	return a.page(c, "bench", fiber.Map{"Title": "Bench", "Rigs": rigs, "Deleted": lastOf(deleted, 5), "Faults": faults})
}

func lastOf(entries []store.Entry, n int) []store.Entry {
	if len(entries) > n {
		return entries[len(entries)-n:]
	}
	return entries
}

func (a *App) benchRig(e store.Entry) (benchRig, error) {
	r, err := rig.Decode(e.Doc)
	if err != nil {
		return benchRig{}, fmt.Errorf("rig %d as kept: %w", e.ID, err)
	}
	report := assess.Rig(r, a.ref)
	b := benchRig{ID: e.ID, Name: r.Name, Host: r.Host.Name, Card: r.Card.Name, Number: e.Number}
	b.Verdict, b.Level = verdictWords(&report)
	for _, s := range stations(r, &report, "", false) {
		if !s.Later && s.Key != "sheet" {
			b.Stations = append(b.Stations, s)
		}
	}
	return b, nil
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
			return a.showBench(c, []string{err.Error()})
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
	return a.store.Create(c.Context(), r.Name, doc, label)
}

// importFiles puts every dropped or chosen rig file on the bench. Files that are
// wrong are named with their faults; the others are kept.
func (a *App) importFiles(c fiber.Ctx) error {
	form, err := c.MultipartForm()
	if err != nil {
		return fiber.NewError(fiber.StatusBadRequest, "choose or drop rig files, kolvan-rig/1")
	}
	var faults []string
	last := int64(0)
	for _, header := range form.File["files"] {
		id, err := a.importFile(c, header)
		if err != nil {
			faults = append(faults, header.Filename+": "+err.Error())
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
	r, err := rig.Read(io.Reader(file))
	if err != nil {
		return 0, err
	}
	return a.keepNew(c, r, "imported from "+header.Filename)
}

// loaded is a rig of the bench as its page needs it.
type loaded struct {
	store.Head
	rig *rig.Rig
}

func (a *App) load(c fiber.Ctx) (*loaded, error) {
	id, err := strconv.ParseInt(c.Params("rig"), 10, 64)
	if err != nil {
		return nil, store.ErrNotFound
	}
	head, err := a.store.Load(c.Context(), id)
	if err != nil {
		return nil, err
	}
	r := new(rig.Rig) // what is kept was checked when it was kept
	if err := rig.DecodePart(head.Doc, r); err != nil {
		return nil, fmt.Errorf("rig %d as kept: %w", id, err)
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
	c.Attachment(fileName(l.rig.Name) + ".kolvan.json")
	c.Type("json")
	return c.Send(l.Doc)
}

// fileName keeps letters and digits of a name, and joins the rest by dashes.
func fileName(name string) string {
	words := strings.FieldsFunc(strings.ToLower(name), func(r rune) bool {
		return (r < 'a' || r > 'z') && (r < '0' || r > '9')
	})
	if len(words) == 0 {
		return "rig"
	}
	return strings.Join(words, "-")
}

func (a *App) delete(c fiber.Ctx) error { return a.setDeleted(c, true) }

func (a *App) restore(c fiber.Ctx) error { return a.setDeleted(c, false) }

func (a *App) setDeleted(c fiber.Ctx, deleted bool) error {
	l, err := a.load(c)
	if err != nil {
		return err
	}
	if err := a.store.SetDeleted(c.Context(), l.RigID, deleted); err != nil {
		return err
	}
	return c.Redirect().Status(fiber.StatusSeeOther).To("/")
}
