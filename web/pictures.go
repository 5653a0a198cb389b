package web

import (
	"bytes"
	"fmt"
	"image"
	"image/jpeg"
	_ "image/png" // read
	"io"
	"slices"
	"strconv"
	"strings"

	"github.com/gofiber/fiber/v3"
	_ "golang.org/x/image/webp" // read

	"kolvan/core/rig"
)

// The limits of a picture: in bytes as it comes, and in pixels.
const (
	mostPicture  = 8 << 20
	mostPixels   = 50_000_000
	pictureTaste = 82 // JPEG quality
)

// addPicture attaches a picture to a step. It is made anew, so that nothing of the camera
// stays in it.
func (a *App) addPicture(c fiber.Ctx) error {
	l, err := a.load(c)
	if err != nil {
		return err
	}
	file, err := c.FormFile("picture")
	if err != nil {
		return fiber.NewError(fiber.StatusUnprocessableEntity, "Choose a picture: PNG, JPEG or WebP, up to 8 MiB.")
	}
	if file.Size > mostPicture {
		return fiber.NewError(fiber.StatusUnprocessableEntity, fmt.Sprintf("The picture has %d MiB; accepted: PNG, JPEG or WebP, up to 8 MiB.", file.Size>>20))
	}
	from, err := file.Open()
	if err != nil {
		return fmt.Errorf("reading the picture: %w", err)
	}
	defer from.Close()
	raw, err := io.ReadAll(io.LimitReader(from, mostPicture))
	if err != nil {
		return fmt.Errorf("reading the picture: %w", err)
	}
	made, err := madeAnew(raw)
	if err != nil {
		return fiber.NewError(fiber.StatusUnprocessableEntity, "The picture cannot be read ("+err.Error()+"); accepted: PNG, JPEG or WebP, up to 8 MiB.")
	}
	step := c.FormValue("step")
	if err := a.store.KeepPicture(c.Context(), l.ID, step, made); err != nil {
		return err
	}
	return c.Redirect().Status(fiber.StatusSeeOther).To(pictured(l, step))
}

// runStep is before the name of a run that a picture is of, in the place of a step.
const runStep = "run "

// pictured is the page where a picture of a step, or of a run's settings, stands.
func pictured(l *loaded, step string) string {
	name, ofRun := strings.CutPrefix(step, runStep)
	if !ofRun {
		return fmt.Sprintf("/rigs/%d/assembly?sel=%s%s", l.ID, stepSel, step)
	}
	i := slices.IndexFunc(l.rig.Runs, func(run rig.Run) bool { return run.FirstName() == name })
	return fmt.Sprintf("/rigs/%d/proof?sel=/runs/%d", l.ID, max(i, 0))
}

// madeAnew is a picture as a JPEG with nothing but its pixels.
func madeAnew(raw []byte) ([]byte, error) {
	size, _, err := image.DecodeConfig(bytes.NewReader(raw))
	if err != nil {
		return nil, err
	}
	if size.Width <= 0 || size.Height <= 0 || size.Width > mostPixels/size.Height {
		return nil, fmt.Errorf("%d by %d pixels are too many", size.Width, size.Height)
	}
	picture, _, err := image.Decode(bytes.NewReader(raw))
	if err != nil {
		return nil, err
	}
	var made bytes.Buffer
	if err := jpeg.Encode(&made, picture, &jpeg.Options{Quality: pictureTaste}); err != nil {
		return nil, err
	}
	return made.Bytes(), nil
}

// picturesOf lists the addresses of a step's pictures.
func (a *App) picturesOf(c fiber.Ctx, rig int64, step string) ([]string, error) {
	ids, err := a.store.PicturesOf(c.Context(), rig, step)
	list := make([]string, len(ids))
	for i, id := range ids {
		list[i] = fmt.Sprintf("/rigs/%d/picture/%d", rig, id)
	}
	return list, err
}

func pictureNumber(c fiber.Ctx) (int64, error) {
	id, err := strconv.ParseInt(c.Params("picture"), 10, 64)
	if err != nil {
		return 0, fiber.NewError(fiber.StatusNotFound, "There is no such picture.")
	}
	return id, nil
}

func (a *App) picture(c fiber.Ctx) error {
	l, err := a.load(c)
	if err != nil {
		return err
	}
	id, err := pictureNumber(c)
	if err != nil {
		return err
	}
	made, err := a.store.Picture(c.Context(), l.ID, id)
	if err != nil {
		return err
	}
	c.Set(fiber.HeaderContentType, "image/jpeg")
	return c.Send(made)
}

func (a *App) dropPicture(c fiber.Ctx) error {
	l, err := a.load(c)
	if err != nil {
		return err
	}
	id, err := pictureNumber(c)
	if err != nil {
		return err
	}
	if err := a.store.DropPicture(c.Context(), l.ID, id); err != nil {
		return err
	}
	return c.Redirect().Status(fiber.StatusSeeOther).To(pictured(l, c.FormValue("step")))
}
