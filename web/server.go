// Package web is Kolvan's interface: pages made on the server, swapped in parts
// by htmx. A rig page is one region, made of the stations, a drawing, the editor
// of what is chosen in it, and the verdict; every change answers with the region
// made anew.
package web

import (
	"context"
	"embed"
	"errors"
	"fmt"
	"html/template"
	"io/fs"
	"log/slog"
	"net/http"
	"slices"
	"strings"
	"time"

	"github.com/gofiber/fiber/v3"
	"github.com/gofiber/fiber/v3/middleware/csrf"
	"github.com/gofiber/fiber/v3/middleware/static"
	"github.com/gofiber/template/html/v2"
	lru "github.com/hashicorp/golang-lru/v2"

	"kolvan"
	"kolvan/core/assess"
	"kolvan/core/finding"
	"kolvan/core/parts"
	"kolvan/core/reference"
	"kolvan/core/rig"
	"kolvan/store"
	"kolvan/web/room"
)

//go:embed templates
var templates embed.FS

//go:embed static
var assets embed.FS

// App is Kolvan's interface over one data file.
type App struct {
	*fiber.App
	store   *store.Store
	ref     *reference.Tables
	builtin []parts.Part
	shelf   shelf
	stock   *assess.Bins // the built-in list, decoded
	listed  []found      // the built-in list, described
	faults  []string     // what the check at the start found
	meters  *meters
	events  *events
	bodies  bodies
	tokens  tokenStore
	read    *lru.Cache[int64, *rig.Rig] // rigs as they were read back when they were kept, each for one edit
	whole   *lru.Cache[int64, bool]     // pictures that were found to be what was kept
	plans   *planJobs
	lessons *lessons
	probe   string // address of a link probe; "" without one
	hosts   *hostList
	network Network
	metrics *metrics // nil unless asked for

	decoding chan struct{} // has room for one picture at a time
}

// mostRead are kept for the edits that come next.
const mostRead = 128

// Instruments are the addresses of instruments, "" for one that is not there.
type Instruments struct{ Meter, Probe string }

// Tell makes every page say what a check of the data file found.
func (a *App) Tell(faults []string) { a.faults = faults }

// notices are what every page says of the data file.
func (a *App) notices() (list []string) {
	if a.store.ReadOnly() {
		list = append(list, a.store.Path()+" is read-only: everything can be looked at and exported, nothing can be changed.")
	}
	if len(a.faults) > 0 {
		list = append(
			list,
			"The data file is damaged ("+a.faults[0]+"). What can be read is shown. Run kolvan check for all that is wrong, and kolvan restore "+
				"with a backup.",
		)
	}
	return list
}

// New makes the interface. hosts are the values of the Host header that are
// answered; every other one is refused, so that no foreign name can be pointed
// at this address.
func New(s *store.Store, hosts []string, at Instruments) (*App, error) {
	ref, err := reference.Load()
	if err != nil {
		return nil, err
	}
	builtin, err := parts.Builtin()
	if err != nil {
		return nil, err
	}
	stock, err := parts.Bins(builtin)
	if err != nil {
		return nil, err
	}
	listed, err := listParts(builtin)
	if err != nil {
		return nil, err
	}
	views, err := engine()
	if err != nil {
		return nil, err
	}
	a := &App{
		store: s, ref: ref, builtin: builtin, stock: stock, listed: listed, meters: newMeters(at.Meter, s), plans: newPlanJobs(),
		lessons: newLessons(s, ref),
		events:  newEvents(s), tokens: newTokenStore(), probe: at.Probe, hosts: &hostList{names: slices.Clone(hosts)},
		decoding: make(chan struct{}, 1),
	}
	if a.whole, err = lru.New[int64, bool](mostPictures * 8); err != nil {
		return nil, err
	}
	if a.read, err = lru.New[int64, *rig.Rig](mostRead); err != nil {
		return nil, err
	}
	a.App = fiber.New(fiber.Config{
		AppName: "Kolvan", Views: views, ErrorHandler: a.failed,
		BodyLimit: maxBody, StreamRequestBody: true, DisablePreParseMultipartForm: true,
		ReadTimeout: 15 * time.Second, WriteTimeout: 15 * time.Second, IdleTimeout: time.Minute,
	})
	a.Hooks().OnPreShutdown(func() error { a.events.close(); a.meters.close(); return nil })
	a.Get("/healthz", a.health)
	a.guard()
	return a, a.routes(hosts)
}

func engine() (*html.Engine, error) {
	sub, err := fs.Sub(templates, "templates")
	if err != nil {
		return nil, err
	}
	views := html.NewFileSystem(http.FS(sub), ".html")
	kept, err := newFragments(views)
	if err != nil {
		return nil, err
	}
	views.AddFuncMap(functions)
	views.AddFunc("fragment", kept.of)
	views.AddFunc("room", kept.room)
	if err := views.Load(); err != nil {
		return nil, fmt.Errorf("loading templates: %w", err)
	}
	for _, at := range rooms {
		if err := parse(views.Templates, at); err != nil {
			return nil, err
		}
	}
	return views, nil
}

// parse takes in a room's templates, each by the name of its file.
func parse(into *template.Template, at *room.Room) error {
	files, err := fs.ReadDir(at.Pages, ".")
	if err != nil {
		return fmt.Errorf("templates of %s: %w", at.Key, err)
	}
	for _, f := range files {
		text, err := fs.ReadFile(at.Pages, f.Name())
		if err != nil {
			return fmt.Errorf("templates of %s: %w", at.Key, err)
		}
		if _, err := into.New(strings.TrimSuffix(f.Name(), ".html")).Parse(string(text)); err != nil {
			return fmt.Errorf("template %s/%s: %w", at.Key, f.Name(), err)
		}
	}
	return nil
}

func (a *App) routes(hosts []string) error {
	sub, err := fs.Sub(assets, "static")
	if err != nil {
		return err
	}
	a.Get("/static/*", static.New("", static.Config{FS: sub, MaxAge: 3600}))
	a.Get("/offline.js", a.offlineScript)
	a.Get("/events", a.listen)
	a.Use(a.checkTokens(hosts))
	a.Get("/token", a.token)

	a.Get("/", a.bench)
	a.Get("/guide", a.guide)
	a.Get("/guide/:page", a.guide)
	a.Get("/guide-pictures/:picture", a.guidePicture)
	a.Post("/rigs", a.create)
	a.Post("/import", a.importFiles)
	a.Post("/fernhill", a.lookAtFernhill)
	a.Post("/units", a.setUnits)
	a.Post("/list", a.setList)
	a.Post("/lessons", a.setLessons)

	a.Get("/ca.crt", a.authority)
	a.Get("/pair", a.paired(a.pair))
	a.Post("/pair", a.paired(a.pairDevice))
	a.Get("/devices", a.here(a.devices))
	a.Post("/devices/open", a.here(a.openNetwork))
	a.Post("/devices/invite", a.here(a.invite))
	a.Post("/devices/share", a.here(a.share))
	a.Get("/shared/:token", a.paired(a.shared))
	a.Post("/devices/:device/end", a.here(a.endDevice))

	a.Get("/metrics", a.showMetrics)
	a.Get("/compare", a.compare)
	a.Get("/off-picture", a.offPicture)
	a.Get("/off-picture/measure", a.measureOff)
	a.Get("/notices", a.notes)

	a.Get("/bins", a.bins)
	a.Post("/bins", a.addToBins)
	a.Get("/paste", a.pastePage)
	a.Post("/paste", a.pastePage)
	a.Get("/bins/:part", a.binPart)
	a.Post("/bins/:part/set", a.changingPart(setPartField))
	a.Post("/bins/:part/add", a.changingPart(addPartEntry))
	a.Post("/bins/:part/remove", a.changingPart(removePartEntry))
	a.Post("/bins/:part/undo", a.movingPart(a.store.Undo))
	a.Post("/bins/:part/redo", a.movingPart(a.store.Redo))
	a.Get("/bins/:part/export", a.exportAsItLies(""))
	a.Post("/bins/:part/recover", a.recover("/bins"))
	a.Post("/bins/:part/delete", a.setDeleted("/bins", true))
	a.Post("/bins/:part/restore", a.setDeleted("/bins", false))

	a.Get("/rigs/:rig", a.first)
	a.Get("/rigs/:rig/export", a.export)
	a.Get("/rigs/:rig/heard", a.heard)
	a.Get("/rigs/:rig/capture/:sum", a.capture)
	a.Get("/rigs/:rig/everything.zip", a.everything)
	a.Post("/rigs/:rig/look", a.lookAtCapture)
	a.Get("/rigs/:rig/sheet.:ending", a.sheetFile)
	a.Get("/rigs/:rig/parts", a.findParts)
	a.Get("/rigs/:rig/cards", a.cardsBySlack)
	a.Get("/rigs/:rig/ask", a.askOthers)
	a.Get("/rigs/:rig/ask.html", a.askPage)
	a.Get("/rigs/:rig/practice", a.practice)
	a.Get("/rigs/:rig/why", a.why)
	a.Get("/rigs/:rig/need", a.whatWouldDo)
	a.Get("/rigs/:rig/plans", a.plansFragment)
	a.Get("/rigs/:rig/need.csv", a.needCSV)
	a.Post("/rigs/:rig/picture", a.addPicture)
	a.Get("/rigs/:rig/picture/:picture", a.picture)
	a.Post("/rigs/:rig/picture/:picture/drop", a.dropPicture)
	a.Post("/rigs/:rig/copy", a.copy)
	a.Get("/rigs/:rig/as-it-lies", a.exportAsItLies(store.RigKind))
	a.Post("/rigs/:rig/recover", a.recover("/"))
	a.Post("/rigs/:rig/delete", a.setDeleted("/", true))
	a.Post("/rigs/:rig/restore", a.setDeleted("/", false))
	for name, edit := range a.edits() {
		a.Post("/rigs/:rig/"+name, a.changing(edit))
	}
	for _, at := range rooms {
		for name, edit := range at.Edits {
			a.Post("/rigs/:rig/"+name, a.changing(edit))
		}
		for name, file := range at.Files {
			a.Get("/rigs/:rig/"+name, a.file(file))
		}
	}
	a.Post("/rigs/:rig/undo", a.moving(a.store.Undo))
	a.Post("/rigs/:rig/redo", a.moving(a.store.Redo))
	a.Get("/rigs/:rig/meter", a.meterPage)
	a.Get("/rigs/:rig/meter.csv", a.meterTable)
	a.Get("/rigs/:rig/meter/live", a.liveMeter)
	a.Post("/rigs/:rig/meter/start", a.startMeter)
	a.Post("/rigs/:rig/meter/tell", a.tellMeter)
	a.Post("/rigs/:rig/meter/import", a.importMeter)
	a.Post("/rigs/:rig/meter/drop", a.dropMeter)
	a.Post("/rigs/:rig/meter/take", a.takeReading)
	a.Get("/rigs/:rig/reading", a.readingPage)
	a.Post("/rigs/:rig/reading", a.readText)
	a.Post("/rigs/:rig/reading/probe", a.askProbe)
	a.Post("/rigs/:rig/reading/keep", a.keepReading)
	a.Get("/rigs/:rig/:station/verdict", a.verdict)
	a.Get("/rigs/:rig/:station", a.station)
	return nil
}

// health answers, by whatever name it is asked, whether the data file can be read: nothing else.
func (a *App) health(c fiber.Ctx) error {
	if _, err := a.store.Version(c.Context()); err != nil {
		slog.Error("the data file cannot be read", "err", err)
		return c.Status(fiber.StatusServiceUnavailable).SendString("the data file cannot be read\n")
	}
	return c.SendString("ok\n")
}

// token hands out a fresh token after a restart has forgotten the old ones.
func (a *App) token(c fiber.Ctx) error { return c.SendString(csrf.TokenFromContext(c)) }

// failed answers what went wrong, in a page for a person and in a line for htmx.
func (a *App) failed(c fiber.Ctx, err error) error {
	protect(c)
	status, text := statusOf(err)
	if status == fiber.StatusInternalServerError {
		slog.Error("request failed", "method", c.Method(), "path", c.Path(), "err", err)
	}
	c.Status(status)
	if c.Get("HX-Request") != "" {
		return c.SendString(text)
	}
	data := fiber.Map{"Title": "Not done", "Text": text}
	var damage *store.Damaged
	switch {
	case errors.As(err, &damage):
		data["Unreadable"] = a.unreadableAt(c)
	case status == fiber.StatusForbidden || status == fiber.StatusServiceUnavailable:
		data["Again"] = againOf(c)
	}
	return a.page(c, "failed", data)
}

// statusOf is the answer to an error and what a person reads of it.
func statusOf(err error) (status int, text string) {
	var known *fiber.Error
	var stale *staleToken
	var away *store.Unavailable
	var damage *store.Damaged
	var fault *rig.FieldError
	var broken *store.Broken
	switch {
	case errors.As(err, &away):
		return fiber.StatusServiceUnavailable, finding.Begin(away.Says) + "."
	case errors.As(err, &stale):
		return fiber.StatusForbidden, "Kolvan was started again since this page was made, so the page has to show once more that it is " +
			"Kolvan's own."
	case errors.As(err, &damage):
		return fiber.StatusUnprocessableEntity, "What is kept here cannot be read: " + damage.Why + "."
	case errors.As(err, &fault):
		return fiber.StatusUnprocessableEntity, plainly(err.Error())
	case errors.Is(err, store.ErrNotFound):
		return fiber.StatusNotFound, "That is not here, or not any more."
	case errors.As(err, &broken):
		return fiber.StatusUnprocessableEntity, finding.Begin(plainly(err.Error())) + "."
	case errors.Is(err, context.Canceled):
		return statusClientGone, "Nobody waits for the answer any more."
	case errors.As(err, &known):
		return known.Code, known.Message
	}
	return fiber.StatusInternalServerError, "Something went wrong here. What was kept is safe; the log says more."
}

// statusClientGone is answered to nobody.
const statusClientGone = 499

// again is a form that was not taken, to be sent once more as it was typed.
type again struct {
	Path   string
	Values [][2]string
	Files  bool // files cannot be kept: they are to be chosen again
}

// againOf takes what a form of a page has sent; nothing for what was no form.
func againOf(c fiber.Ctx) *again {
	if c.Method() != fiber.MethodPost {
		return nil
	}
	form := &again{Path: c.Path(), Files: strings.HasPrefix(c.Get(fiber.HeaderContentType), fiber.MIMEMultipartForm)}
	for key, value := range c.Request().PostArgs().All() {
		if string(key) != "_csrf" {
			form.Values = append(form.Values, [2]string{string(key), string(value)})
		}
	}
	return form
}

// page renders a whole page. Pages take their head and foot as templates: the
// engine's own layouts share one function among all requests.
func (a *App) page(c fiber.Ctx, name string, data fiber.Map) error {
	data["Token"] = csrf.TokenFromContext(c)
	data["Inches"] = inches(c)
	data["Notices"] = a.notices()
	data["Pairs"] = a.network.Devices != nil && visitorOf(c).here
	c.Set(fiber.HeaderCacheControl, "no-store")
	return c.Render(name, data)
}

// notes shows the licences of all that ships.
func (a *App) notes(c fiber.Ctx) error {
	return a.page(c, "notices", fiber.Map{"Title": "Third-party notices", "Text": kolvan.Notices})
}

// What a person chose for this browser, kept in cookies.
const (
	unitsCookie = "kolvan_units"
	listCookie  = "kolvan_list"

	lessonsCookie = "kolvan_lessons"
)

func inches(c fiber.Ctx) bool { return c.Cookies(unitsCookie) == "in" }

// listAway reports that the built-in list is put away: its parts are invented, and whoever
// plans with real ones wants none of them offered.
func listAway(c fiber.Ctx) bool { return c.Cookies(listCookie) == "away" }

// choose keeps a choice for this browser and draws its page anew.
func choose(c fiber.Ctx, cookie, value string) error {
	c.Cookie(&fiber.Cookie{Name: cookie, Value: value, Path: "/", MaxAge: 10 * 365 * 24 * 3600, SameSite: "Strict", HTTPOnly: true})
	c.Set("HX-Refresh", "true")
	return c.SendStatus(fiber.StatusNoContent)
}

// setUnits turns the display of lengths over.
func (a *App) setUnits(c fiber.Ctx) error {
	value := "in"
	if inches(c) {
		value = "mm"
	}
	return choose(c, unitsCookie, value)
}

// setList puts the built-in list away, or lays it out again.
func (a *App) setList(c fiber.Ctx) error {
	if listAway(c) {
		return choose(c, listCookie, "out")
	}
	return choose(c, listCookie, "away")
}
