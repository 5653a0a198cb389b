package web

import (
	"bytes"
	"errors"
	"fmt"
	"html/template"
	"io/fs"
	"path"
	"regexp"
	"strings"

	"github.com/gofiber/fiber/v3"
	"github.com/yuin/goldmark"

	"kolvan/docs"
)

// guidePages are the pages of the guide in the order of the work.
var guidePages = []string{"bench", "start", "brief", "survey", "route", "power", "fit", "assembly", "proof", "ledger", "sheet"}

type guideLink struct {
	Address, Label string
	Here           bool
}

// guide answers with a page of the user guide, the very one of the documents.
func (a *App) guide(c fiber.Ctx) error {
	name := c.Params("page", guidePages[0])
	text, err := fs.ReadFile(docs.Guide, path.Join("guide", name+".md"))
	if errors.Is(err, fs.ErrNotExist) || errors.Is(err, fs.ErrInvalid) {
		return fiber.NewError(fiber.StatusNotFound, "The guide has no such page.")
	}
	if err != nil {
		return err
	}
	text = documentLinks.ReplaceAll(text, []byte("$1"))
	text = bytes.ReplaceAll(text, []byte("../screenshots/"), []byte("/guide-pictures/"))
	var page bytes.Buffer
	if err := goldmark.Convert(text, &page); err != nil {
		return fmt.Errorf("guide page %s: %w", name, err)
	}
	var links []guideLink
	for _, p := range guidePages {
		links = append(links, guideLink{"/guide/" + p, strings.ToUpper(p[:1]) + p[1:], p == name})
	}
	return a.page(c, "guide", fiber.Map{"Title": "Guide: " + name, "Page": template.HTML(page.String()), "Links": links})
}

// documentLinks lead to other documents, which do not ship with the pages: their words stay.
var documentLinks = regexp.MustCompile(`\[([^\]]+)\]\(\.\./[a-z-]+\.md[^)]*\)`)

// guidePicture answers with a picture of the guide.
func (a *App) guidePicture(c fiber.Ctx) error {
	picture, err := fs.ReadFile(docs.Guide, path.Join("screenshots", path.Base(c.Params("picture"))))
	if err != nil {
		return fiber.NewError(fiber.StatusNotFound, "The guide has no such picture.")
	}
	c.Set(fiber.HeaderContentType, "image/png")
	return c.Send(picture)
}
