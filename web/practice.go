package web

import (
	"fmt"
	"strconv"
	"strings"

	"github.com/gofiber/fiber/v3"

	"kolvan/core/assess"
	"kolvan/core/bringup"
	"kolvan/core/carry"
	"kolvan/web/assembly"
	"kolvan/web/phrase"
	"kolvan/web/sheet"
)

// askOthers writes the page: names and prices stay out of it.
func (a *App) askOthers(c fiber.Ctx) error {
	l, text, err := a.asking(c)
	if err != nil {
		return err
	}
	at := fmt.Sprintf("/rigs/%d/", l.ID)
	return a.page(c, "ask", fiber.Map{"Title": "Ask others", "Ask": assembly.AskView{Title: "Ask others", Text: text, Back: at +
		"assembly?sel=" + assembly.FaultSel, Page: at + "ask.html"}})
}

// askPage is the same as a page of its own, with the rig in it: without prices and names.
func (a *App) askPage(c fiber.Ctx) error {
	l, text, err := a.asking(c)
	if err != nil {
		return err
	}
	plain, err := carry.Unnamed(l.rig)
	if err != nil {
		return err
	}
	inside, err := sheet.Within(plain, []string{carry.Costs, carry.Names, "diary"})
	if err != nil {
		return err
	}
	c.Attachment(phrase.FileName(l.rig.Name) + " asks.html")
	return c.Render("ask_alone", fiber.Map{"Title": "Asked of others", "Text": text, "Within": inside})
}

// asking is the rig of the address, and the text that asks others about its fault.
func (a *App) asking(c fiber.Ctx) (*loaded, string, error) {
	l, err := a.load(c)
	if err != nil {
		return nil, "", err
	}
	cat, err := bringup.Load()
	if err != nil {
		return nil, "", err
	}
	report := assess.Rig(l.rig, a.ref)
	told, _, err := assembly.ToldElsewhere(c.Context(), a.store, l.rig, l.ID, cat)
	if err != nil {
		return nil, "", err
	}
	finder := bringup.NewFinder(bringup.Of(told, a.ref, report.Findings), cat, 1)
	finder.Leave("see") // others can't see it
	return l, assembly.AskText(l.rig, &report, cat, finder.Search(bringup.SeenOf(l.rig, cat))), nil
}

// practice plays a fault drawn by seed and weight: the person chooses tests, and at the end
// sees what the finder would have done.
func (a *App) practice(c fiber.Ctx) error {
	l, err := a.load(c)
	if err != nil {
		return err
	}
	cat, err := bringup.Load()
	if err != nil {
		return err
	}
	report := assess.Rig(l.rig, a.ref)
	seed, err := strconv.ParseUint(c.Query("seed", "1"), 10, 32)
	if err != nil {
		return fiber.NewError(
			fiber.StatusUnprocessableEntity, fmt.Sprintf("seed: %q is not accepted; accepted: a whole number.", c.Query("seed")),
		)
	}
	p, some := bringup.NewFinder(bringup.Of(l.rig, a.ref, report.Findings), cat, 1).Practice(seed)
	if !some {
		return fiber.NewError(fiber.StatusNotFound, "This rig can have no fault yet: describe its route first.")
	}
	v := &assembly.PracticeView{Rig: l.rig.Name, ID: l.ID, Seed: seed, Another: fmt.Sprintf("/rigs/%d/practice?seed=%d", l.ID, seed+1)}
	done := v.Play(p, cat, strings.Fields(c.Query("do")))
	if guess := c.Query("guess"); guess != "" {
		v.End(p, cat, guess)
	}
	return a.page(c, "practice", fiber.Map{"Title": "Practice", "Practice": v, "Do": strings.Join(done, " ")})
}
