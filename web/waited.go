package web

import (
	"errors"
	"fmt"
	"slices"
	"strings"

	"github.com/gofiber/fiber/v3"

	"kolvan/core/rig"
	"kolvan/store"
	"kolvan/web/phrase"
	"kolvan/web/room"
)

// offlineScript is what a browser keeps pages with while it is not connected, and what is entered
// at the bench meanwhile. It belongs to the whole address, and so does not lie among the files.
func (a *App) offlineScript(c fiber.Ctx) error {
	script, err := assets.ReadFile("static/offline.js")
	if err != nil {
		return fmt.Errorf("reading the script for while nothing is connected: %w", err)
	}
	c.Set(fiber.HeaderContentType, fiber.MIMETextJavaScriptCharsetUTF8)
	c.Set(fiber.HeaderCacheControl, "no-cache")
	return c.SendString(fmt.Sprintf("self.atBench = /%s/;\n%s", strings.ReplaceAll(atBench.String(), "/", `\/`), script))
}

// merged makes an edit that waited on a device on the revision that was shown there, and puts
// what it changed on the one kept now. Where both changed one thing nothing is kept.
func (a *App) merged(c fiber.Ctx, l *loaded, e room.Edit) error {
	base, err := a.store.Revision(c.Context(), l.ID, a.shown(c))
	if errors.Is(err, store.ErrNotFound) {
		return a.conflicted(c, l)
	}
	if err != nil {
		return err
	}
	was, err := rig.Reread(base)
	if err != nil {
		return err
	}
	label, _, err := edited(c, was, e, a.ref)
	if err != nil {
		return a.refused(c, err)
	}
	mine, err := rig.Encode(was)
	if err != nil {
		return err
	}
	doc, clashes, err := rig.Merge(base, mine, l.Doc)
	if err != nil {
		return err
	}
	if clashes != nil {
		slices.Sort(clashes)
		return fiber.NewError(fiber.StatusConflict, "This was changed in another place meanwhile: "+phrase.Place(clashes[0])+".")
	}
	together, err := rig.Reread(doc)
	if err != nil {
		return fiber.NewError(fiber.StatusConflict, "It does not go with what was changed meanwhile. "+plainly(err.Error()))
	}
	l.rig = together
	doc, read, err := strictly(l.rig, rig.Reread)
	if err != nil {
		return a.refused(c, err)
	}
	return a.keep(c, l, doc, read, label, "")
}
