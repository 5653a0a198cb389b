package web

import (
	"context"
	"fmt"
	"log/slog"
	"net/url"
	"runtime/debug"
	"strings"
	"time"

	"github.com/gofiber/fiber/v3"
	"github.com/gofiber/fiber/v3/extractors"
	"github.com/gofiber/fiber/v3/middleware/csrf"
	"github.com/gofiber/fiber/v3/middleware/recover"
	"github.com/hashicorp/golang-lru/v2/expirable"
)

// contentPolicy allows nothing that does not ship with the program, and no
// inline script or style.
const contentPolicy = "default-src 'none'; script-src 'self'; style-src 'self'; font-src 'self'; img-src 'self' data:; connect-src 'self'; " +
	"form-action 'self'; base-uri 'none'; frame-ancestors 'none'"

// protect sets the headers that every answer carries, a refusal too.
func protect(c fiber.Ctx) {
	for name, value := range map[string]string{
		fiber.HeaderContentSecurityPolicy: contentPolicy, fiber.HeaderXFrameOptions: "DENY", fiber.HeaderXContentTypeOptions: "nosniff",
		fiber.HeaderReferrerPolicy: "same-origin", "Cross-Origin-Resource-Policy": "same-origin", "Cross-Origin-Opener-Policy": "same-origin",
		"X-Permitted-Cross-Domain-Policies": "none",
	} {
		c.Set(name, value)
	}
}

// guard lets in only what a page of ours, at an address of ours, has sent.
func (a *App) guard() {
	a.Use(func(c fiber.Ctx) error {
		protect(c)
		return c.Next()
	})
	a.Use(a.timing)
	a.Use(ending)
	a.Use(recover.New(recover.Config{EnableStackTrace: true, StackTraceHandler: func(_ fiber.Ctx, fault any) {
		slog.Error("a page broke off", "fault", fault, "at", string(debug.Stack()))
	}}))
	a.Use(func(c fiber.Ctx) error {
		if !a.hosts.has(c.Host()) {
			return fiber.NewError(fiber.StatusMisdirectedRequest, "This address answers to "+strings.Join(a.hosts.all(), ", ")+" only.")
		}
		return c.Next()
	})
	a.Use(sameOrigin(a.hosts))
	a.Use(func(c fiber.Ctx) error {
		err := c.Next()
		if err == nil && c.Method() == fiber.MethodPost {
			a.events.poke()
		}
		return err
	})
	a.Use(a.admit)
	a.Use(a.knownPage(a.hosts.all()))
	a.Use(a.bodies.take)
}

// knownPage refuses by its head a long body that comes without the cookie of a page of ours.
func (a *App) knownPage(hosts []string) fiber.Handler {
	cookie := tokenCookie(hosts)
	return func(c fiber.Ctx) error {
		if c.Request().Header.ContentLength() > smallBody {
			if token, err := a.tokens.Get(c.Cookies(cookie)); err != nil || token == nil {
				return &staleToken{csrf.ErrTokenNotFound}
			}
		}
		return c.Next()
	}
}

// tokenCookie is named by the port: browsers keep cookies by machine, and two Kolvans are
// not to put each other's pages out.
func tokenCookie(hosts []string) string {
	return "kolvan_csrf_" + hosts[0][strings.LastIndex(hosts[0], ":")+1:]
}

// sameOrigin refuses changes asked for by other pages: of another site, of
// another port of this machine, or of no origin that can be told.
func sameOrigin(hosts *hostList) fiber.Handler {
	refused := fiber.NewError(fiber.StatusForbidden, "Changes are taken from Kolvan's own pages only.")
	return func(c fiber.Ctx) error {
		if c.Method() == fiber.MethodGet || c.Method() == fiber.MethodHead {
			return c.Next()
		}
		if site := c.Get("Sec-Fetch-Site"); site != "" && site != "same-origin" {
			return refused
		}
		if origin := c.Get(fiber.HeaderOrigin); origin != "" {
			from, err := url.Parse(origin)
			if err != nil || !hosts.has(from.Host) {
				return refused
			}
		}
		return c.Next()
	}
}

// tokensKept bounds how many pages can be open at once; the token of the one
// that was longest quiet goes first, and its page fetches another.
const tokensKept = 4096

const tokenLife = 24 * time.Hour

// checkTokens asks of every change the token of a page.
func (a *App) checkTokens(hosts []string) fiber.Handler {
	return csrf.New(csrf.Config{
		CookieName: tokenCookie(hosts), CookieSameSite: "Strict", CookieHTTPOnly: true, IdleTimeout: tokenLife,
		Storage:      a.tokens,
		Extractor:    extractors.Chain(extractors.FromHeader(csrf.HeaderName), fromBody("_csrf")),
		ErrorHandler: func(c fiber.Ctx, err error) error { return &staleToken{err} },
	})
}

// staleToken is returned for a change from a page whose token is not known, as
// after a restart.
type staleToken struct{ err error }

func (s *staleToken) Error() string { return "the token of the page: " + s.err.Error() }

// fromBody takes a token from the form alone: in an address it would be seen by
// others.
func fromBody(name string) extractors.Extractor {
	return extractors.Extractor{Key: name, Source: extractors.SourceForm, Extract: func(c fiber.Ctx) (string, error) {
		if value := c.Request().PostArgs().Peek(name); len(value) > 0 {
			return string(value), nil
		}
		if form, err := c.MultipartForm(); err == nil && len(form.Value[name]) > 0 {
			return form.Value[name][0], nil
		}
		return "", extractors.ErrNotFound
	}}
}

// tokenStore keeps tokens in memory, so many of them and no more.
type tokenStore struct {
	lru *expirable.LRU[string, []byte]
}

func newTokenStore() tokenStore {
	return tokenStore{expirable.NewLRU[string, []byte](tokensKept, nil, tokenLife)}
}

func (t tokenStore) Get(key string) ([]byte, error) {
	value, _ := t.lru.Get(key)
	return value, nil
}

func (t tokenStore) Set(key string, value []byte, _ time.Duration) error {
	t.lru.Add(key, value)
	return nil
}

func (t tokenStore) Delete(key string) error {
	t.lru.Remove(key)
	return nil
}

func (t tokenStore) Reset() error {
	t.lru.Purge()
	return nil
}

func (t tokenStore) Close() error { return nil }

func (t tokenStore) GetWithContext(_ context.Context, key string) ([]byte, error) { return t.Get(key) }

func (t tokenStore) SetWithContext(_ context.Context, key string, value []byte, life time.Duration) error {
	return t.Set(key, value, life)
}

func (t tokenStore) DeleteWithContext(_ context.Context, key string) error { return t.Delete(key) }

func (t tokenStore) ResetWithContext(context.Context) error { return t.Reset() }

// timing tells the browser how long the answer took to make.
func (a *App) timing(c fiber.Ctx) error {
	start := time.Now()
	err := c.Next()
	a.took(c, err, start)
	c.Set("Server-Timing", fmt.Sprintf("app;dur=%.2f", float64(time.Since(start).Microseconds())/1000))
	return err
}
