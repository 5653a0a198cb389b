// Package web is Kolvan's interface: pages made on the server, swapped in parts
// by htmx. A rig page is one region, made of the stations, a drawing, the editor
// of what is chosen in it, and the verdict; every change answers with the region
// made anew.
package web

import (
	"embed"
	"errors"
	"fmt"
	"io/fs"
	"log/slog"
	"net/http"
	"slices"
	"strings"
	"time"

	"github.com/gofiber/fiber/v3"
	"github.com/gofiber/fiber/v3/extractors"
	"github.com/gofiber/fiber/v3/middleware/csrf"
	"github.com/gofiber/fiber/v3/middleware/helmet"
	"github.com/gofiber/fiber/v3/middleware/recover"
	"github.com/gofiber/fiber/v3/middleware/static"
	"github.com/gofiber/template/html/v2"

	"kolvan/core/assess"
	"kolvan/core/parts"
	"kolvan/core/reference"
	"kolvan/core/rig"
	"kolvan/store"
)

//go:embed templates
var templates embed.FS

//go:embed static
var assets embed.FS

// maxBody bounds a request: a rig file and the form around it.
const maxBody = rig.MaxFile + 64<<10

// contentPolicy allows nothing that does not ship with the program, and no
// inline script or style.
const contentPolicy = "default-src 'none'; script-src 'self'; style-src 'self'; font-src 'self'; img-src 'self' data:; connect-src 'self'; form-action 'self'; base-uri 'none'; frame-ancestors 'none'"

// App is Kolvan's interface over one data file.
type App struct {
	*fiber.App
	store   *store.Store
	ref     *reference.Tables
	builtin []parts.Part
	stock   *assess.Bins // the built-in list, decoded
	listed  []found      // the built-in list, described
}

// New makes the interface. hosts are the values of the Host header that are
// answered; every other one is refused, so that no foreign name can be pointed
// at this address.
func New(s *store.Store, hosts []string) (*App, error) {
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
	a := &App{store: s, ref: ref, builtin: builtin, stock: stock, listed: listed}
	a.App = fiber.New(fiber.Config{
		AppName: "Kolvan", Views: views, BodyLimit: maxBody, ErrorHandler: a.failed,
		ReadTimeout: 15 * time.Second, WriteTimeout: 15 * time.Second, IdleTimeout: time.Minute,
	})
	a.guard(hosts)
	return a, a.routes()
}

func engine() (*html.Engine, error) {
	sub, err := fs.Sub(templates, "templates")
	if err != nil {
		return nil, err
	}
	views := html.NewFileSystem(http.FS(sub), ".html")
	views.AddFuncMap(functions)
	if err := views.Load(); err != nil {
		return nil, fmt.Errorf("loading templates: %w", err)
	}
	return views, nil
}

func (a *App) guard(hosts []string) {
	a.Use(timing)
	a.Use(recover.New())
	a.Use(func(c fiber.Ctx) error {
		if !slices.Contains(hosts, c.Host()) {
			return fiber.NewError(fiber.StatusMisdirectedRequest, "this address answers to "+strings.Join(hosts, ", ")+" only")
		}
		return c.Next()
	})
	a.Use(helmet.New(helmet.Config{
		ContentSecurityPolicy: contentPolicy, XFrameOptions: "DENY", ReferrerPolicy: "same-origin",
		CrossOriginResourcePolicy: "same-origin", CrossOriginOpenerPolicy: "same-origin",
	}))
	a.Use(csrf.New(csrf.Config{
		CookieName: "kolvan_csrf", CookieSameSite: "Strict", CookieHTTPOnly: true, IdleTimeout: 24 * time.Hour,
		Extractor: extractors.Chain(extractors.FromHeader(csrf.HeaderName), extractors.FromForm("_csrf")),
	}))
}

// timing tells the browser how long the answer took to make.
func timing(c fiber.Ctx) error {
	start := time.Now()
	err := c.Next()
	c.Set("Server-Timing", fmt.Sprintf("app;dur=%.2f", float64(time.Since(start).Microseconds())/1000))
	return err
}

func (a *App) routes() error {
	sub, err := fs.Sub(assets, "static")
	if err != nil {
		return err
	}
	a.Get("/static/*", static.New("", static.Config{FS: sub, MaxAge: 3600}))
	a.Get("/token", a.token)

	a.Get("/", a.bench)
	a.Post("/rigs", a.create)
	a.Post("/import", a.importFiles)
	a.Post("/units", a.setUnits)

	a.Get("/bins", a.bins)
	a.Post("/bins", a.addToBins)
	a.Get("/bins/:part", a.binPart)
	a.Post("/bins/:part/set", a.changingPart(setPartField))
	a.Post("/bins/:part/add", a.changingPart(addPartEntry))
	a.Post("/bins/:part/remove", a.changingPart(removePartEntry))
	a.Post("/bins/:part/delete", a.deleteBinPart)
	a.Post("/bins/:part/restore", a.restoreBinPart)

	a.Get("/rigs/:rig", a.first)
	a.Get("/rigs/:rig/export", a.export)
	a.Get("/rigs/:rig/sheet.md", a.sheetMarkdown)
	a.Get("/rigs/:rig/parts", a.findParts)
	a.Post("/rigs/:rig/copy", a.copy)
	a.Post("/rigs/:rig/delete", a.delete)
	a.Post("/rigs/:rig/restore", a.restore)
	for name, edit := range a.edits() {
		a.Post("/rigs/:rig/"+name, a.changing(edit))
	}
	a.Post("/rigs/:rig/undo", a.moving(a.store.Undo))
	a.Post("/rigs/:rig/redo", a.moving(a.store.Redo))
	a.Get("/rigs/:rig/:station", a.station)
	return nil
}

// token hands out a fresh token after a restart has forgotten the old ones.
func (a *App) token(c fiber.Ctx) error { return c.SendString(csrf.TokenFromContext(c)) }

// failed answers what went wrong, in a page for a person and in a line for htmx.
func (a *App) failed(c fiber.Ctx, err error) error {
	status, text := fiber.StatusInternalServerError, "Something went wrong here. What was kept is safe; the log says more."
	var known *fiber.Error
	switch {
	case errors.As(err, &known):
		status, text = known.Code, known.Message
	case errors.Is(err, store.ErrNotFound):
		status, text = fiber.StatusNotFound, "That is not here, or not any more."
	}
	if status >= fiber.StatusInternalServerError {
		slog.Error("request failed", "method", c.Method(), "path", c.Path(), "err", err)
	}
	c.Status(status)
	if c.Get("HX-Request") != "" {
		return c.SendString(text)
	}
	return a.page(c, "failed", fiber.Map{"Title": "Not here", "Text": text})
}

// page renders a whole page. Pages take their head and foot as templates: the
// engine's own layouts share one function among all requests.
func (a *App) page(c fiber.Ctx, name string, data fiber.Map) error {
	data["Token"] = csrf.TokenFromContext(c)
	data["Inches"] = inches(c)
	c.Set(fiber.HeaderCacheControl, "no-store")
	return c.Render(name, data)
}

const unitsCookie = "kolvan_units"

func inches(c fiber.Ctx) bool { return c.Cookies(unitsCookie) == "in" }

// setUnits turns the display of lengths over.
func (a *App) setUnits(c fiber.Ctx) error {
	value := "in"
	if inches(c) {
		value = "mm"
	}
	c.Cookie(&fiber.Cookie{Name: unitsCookie, Value: value, Path: "/", MaxAge: 10 * 365 * 24 * 3600, SameSite: "Strict", HTTPOnly: true})
	c.Set("HX-Refresh", "true")
	return c.SendStatus(fiber.StatusNoContent)
}
