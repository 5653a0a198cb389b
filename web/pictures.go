package web

import (
	"bufio"
	"bytes"
	"errors"
	"fmt"
	"image"
	"image/color"
	"image/jpeg"
	_ "image/png"
	"io"
	"slices"
	"strconv"
	"strings"

	"github.com/gofiber/fiber/v3"
	_ "golang.org/x/image/webp"

	"kolvan/core/rig"
	"kolvan/store"
	"kolvan/web/assembly"
	"kolvan/web/room"
)

// The limits of a picture: in bytes as it comes, in pixels, of the memory that reading it
// takes, of how many a rig has, and of the name of what it is of.
const (
	mostPicture  = 16 << 20
	mostPixels   = 50_000_000 // telephones make as many
	mostDecoding = 200 << 20
	mostPictures = 400
	mostStepName = 160
	pictureTaste = 82 // JPEG quality
)

const picturesTaken = "accepted: PNG, JPEG or WebP, up to 16 MiB and 50 million pixels"

func refusedPicture(format string, args ...any) error {
	return fiber.NewError(fiber.StatusUnprocessableEntity, fmt.Sprintf(format, args...))
}

// addPicture attaches a picture to a step. It is made anew, so that nothing of the camera
// stays in it.
func (a *App) addPicture(c fiber.Ctx) error {
	l, err := a.load(c)
	if err != nil {
		return err
	}
	file, err := c.FormFile("picture")
	if err != nil {
		return refusedPicture("Choose a picture; %s.", picturesTaken)
	}
	step := c.FormValue("step")
	if n := len([]rune(step)); n > mostStepName || n == 0 {
		return refusedPicture("The picture is of a step whose name has %d characters; accepted: 1 to %d.", n, mostStepName)
	}
	if file.Size > mostPicture {
		return refusedPicture("The picture has %d MiB; %s.", file.Size>>20, picturesTaken)
	}
	there, err := a.store.PicturesOfRig(c.Context(), l.ID)
	if err != nil {
		return err
	}
	if len(there) >= mostPictures {
		return refusedPicture("The rig has %d pictures, and no more are kept with one; throw some away.", len(there))
	}
	from, err := file.Open()
	if err != nil {
		return fmt.Errorf("reading the picture: %w", err)
	}
	defer from.Close()
	made, err := a.madeAnew(c, from)
	if err != nil {
		return err
	}
	if err := a.store.KeepPicture(c.Context(), l.ID, step, made); err != nil {
		return err
	}
	return c.Redirect().Status(fiber.StatusSeeOther).To(pictured(l, step))
}

// pictured is the page where a picture of a step, or of a run's settings, stands.
func pictured(l *loaded, step string) string {
	name, ofRun := strings.CutPrefix(step, room.RunStep)
	if !ofRun {
		return fmt.Sprintf("/rigs/%d/assembly?sel=%s%s", l.ID, assembly.StepSel, step)
	}
	i := slices.IndexFunc(l.rig.Runs, func(run rig.Run) bool { return run.FirstName() == name })
	return fmt.Sprintf("/rigs/%d/proof?sel=/runs/%d", l.ID, max(i, 0))
}

// madeAnew is a picture as a JPEG with nothing but its pixels. One is read at a time, by its
// head first; who waits and leaves is not waited for.
func (a *App) madeAnew(c fiber.Ctx, from io.ReadSeeker) ([]byte, error) {
	if err := readable(from); err != nil {
		return nil, refusedPicture("The picture cannot be read: %v; %s.", err, picturesTaken)
	}
	ctx, done := whileThere(c.Context(), c.RequestCtx().Conn())
	defer done()
	select {
	case a.decoding <- struct{}{}:
	case <-ctx.Done():
		return nil, ctx.Err()
	}
	defer func() { <-a.decoding; a.bodies.tidyUp() }() // a small file can have many pixels
	picture, _, err := image.Decode(leaving{ctx, from})
	if err != nil {
		return nil, refusedPicture("The picture cannot be read (%v); %s.", err, picturesTaken)
	}
	var made bytes.Buffer
	if err := jpeg.Encode(&made, picture, &jpeg.Options{Quality: pictureTaste}); err != nil {
		return nil, err
	}
	return made.Bytes(), nil
}

// readable judges a picture by its head, and leaves it to be read from its start.
func readable(from io.ReadSeeker) error {
	size, kind, err := image.DecodeConfig(from)
	if err != nil {
		return err
	}
	if size.Width <= 0 || size.Height <= 0 || size.Width > mostPixels/size.Height {
		return fmt.Errorf("%d by %d pixels are too many", size.Width, size.Height)
	}
	each := bytesOf(size.ColorModel)
	if kind == "jpeg" {
		if _, err := from.Seek(0, io.SeekStart); err != nil {
			return err
		}
		if samples, progressive := frameOf(bufio.NewReader(from)); progressive {
			each = 5 * samples // what is known of each sample is kept until the last pass
		}
	}
	if needs := each * float64(size.Width) * float64(size.Height); needs > mostDecoding {
		return fmt.Errorf(
			"%d by %d pixels of its kind take %.0f MiB to read, and %d are given; save it smaller, or as a plain JPEG", size.Width,
			size.Height, needs/(1<<20), mostDecoding>>20,
		)
	}
	_, err = from.Seek(0, io.SeekStart)
	return err
}

// bytesOf is how many bytes a pixel of a color model takes once it is read.
func bytesOf(m color.Model) float64 {
	switch m {
	case color.RGBA64Model, color.NRGBA64Model:
		return 8
	case color.Gray16Model, color.Alpha16Model:
		return 2
	case color.GrayModel, color.AlphaModel:
		return 1
	}
	if _, indexed := m.(color.Palette); indexed {
		return 1
	}
	return 4
}

// The markers of a JPEG that tell how its frame is built.
const (
	markerSOI  = 0xd8
	markerSOF0 = 0xc0 // to SOF15, some of them others
	markerSOF2 = 0xc2 // progressive
	markerSOS  = 0xda
)

// frameOf tells how many samples a pixel of a JPEG has, and whether it comes in passes.
// What is not as it should be is left for the reader to refuse.
func frameOf(r *bufio.Reader) (samples float64, progressive bool) {
	for {
		b, err := r.ReadByte()
		if err != nil {
			return 0, false
		}
		if b != 0xff {
			continue
		}
		marker, err := r.ReadByte()
		if err != nil || marker == markerSOS {
			return 0, false
		}
		if marker == 0xff || marker == 0 || marker == markerSOI {
			continue
		}
		var long [2]byte
		if _, err := io.ReadFull(r, long[:]); err != nil {
			return 0, false
		}
		rest := int(long[0])<<8 + int(long[1]) - len(long)
		if marker != markerSOF2 {
			if _, err := r.Discard(max(0, rest)); err != nil || marker == markerSOF0 {
				return 0, false
			}
			continue
		}
		frame := make([]byte, max(0, rest))
		if _, err := io.ReadFull(r, frame); err != nil {
			return 0, false
		}
		return samplesOf(frame), true
	}
}

// samplesOf is how many samples a pixel has, by the head of a frame: precision, height,
// width, and of each component its number, how often it is sampled each way, and a table.
func samplesOf(frame []byte) float64 {
	all, most := 0, 1
	for at := 6; at+2 < len(frame); at += 3 {
		times := int(frame[at+1]>>4) * int(frame[at+1]&15)
		all, most = all+times, max(most, times)
	}
	return float64(all) / float64(most)
}

// picturesOf lists a step's pictures.
func (a *App) picturesOf(c fiber.Ctx, rig int64, step string) ([]room.Picture, error) {
	ids, err := a.store.PicturesOf(c.Context(), rig, step)
	list := make([]room.Picture, len(ids))
	for i, id := range ids {
		list[i].Address = fmt.Sprintf("/rigs/%d/picture/%d", rig, id)
		if a.whole.Contains(id) {
			continue
		}
		_, err := a.store.Picture(c.Context(), rig, id)
		if list[i].Broken = isBroken(err); err == nil {
			a.whole.Add(id, true)
		}
	}
	return list, err
}

func isBroken(err error) bool {
	var broken *store.Broken
	return errors.As(err, &broken)
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
