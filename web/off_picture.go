package web

import (
	"fmt"
	"strconv"

	"github.com/gofiber/fiber/v3"

	"kolvan/core/rig"
	"kolvan/core/sight"
	"kolvan/core/units"
	"kolvan/web/phrase"
)

// offPicture is the page that measures off a picture, which never leaves the browser.
func (a *App) offPicture(c fiber.Ctx) error {
	return a.page(c, "off_picture", fiber.Map{"Title": "Measure off a picture", "Back": backTo(c.Query("rig"))})
}

// backTo is the Fit of a rig, or the bench.
func backTo(rig string) string {
	if id, err := strconv.ParseInt(rig, 10, 64); err == nil {
		return fmt.Sprintf("/rigs/%d/fit", id)
	}
	return "/"
}

// measureOff answers with the length between the last two of four points, by that between the
// first two.
func (a *App) measureOff(c fiber.Ctx) error {
	var at [8]float64
	for i, name := range []string{"ax", "ay", "bx", "by", "cx", "cy", "dx", "dy"} {
		v, err := strconv.ParseFloat(c.Query(name), 64)
		if err != nil {
			return fiber.NewError(fiber.StatusUnprocessableEntity, "Press both ends of each length.")
		}
		at[i] = v
	}
	pressed, err := strconv.ParseFloat(c.Query("pressed"), 64)
	if err != nil {
		return fiber.NewError(fiber.StatusUnprocessableEntity, "Press both ends of each length.")
	}
	cable := new(rig.Stage) // any length: it takes what a person types, in any unit
	if err := rig.Set(cable, "/length_mm", c.Query("known")); err != nil {
		return fiber.NewError(fiber.StatusUnprocessableEntity, "How long is what you know? Such as 85 mm, or 3 3/8 in.")
	}
	known := cable.Length
	if known.Known && known.Tolerance == 0 && !known.Exact {
		known.Tolerance, _ = known.Spread()
	}
	span := func(i int) sight.Span {
		return sight.Span{From: sight.Point{X: at[i], Y: at[i+1]}, To: sight.Point{X: at[i+2], Y: at[i+3]}}
	}
	m, err := sight.Measure(known, span(0), span(4), pressed)
	if err != nil {
		return fiber.NewError(fiber.StatusUnprocessableEntity, plainly(err.Error()))
	}
	return c.SendString(phrase.Length(m.Value, inches(c)) + " ± " + phrase.Length(units.Millimetre(m.Tolerance), inches(c)))
}
