package web

import (
	"fmt"
	"io"
	"runtime"
	"runtime/debug"
	"strings"
	"sync"
	"time"

	"github.com/gofiber/fiber/v3"
)

// A request is judged by its head; only what one of our own pages sends is read, and only so
// much of all that is sent at a time. Files of a form go to the disk as they come.
const (
	maxBody      = 48 << 20 // a capture of an hour of frames, a picture, or a day of a meter's table
	maxTyped     = 4 << 20  // a form without files
	smallBody    = 64 << 10 // not counted
	mostInFlight = 96 << 20 // of all bodies that are being dealt with
	tidyAfter    = 3 * time.Second
)

// bodies are the bodies of requests on their way in.
type bodies struct {
	mu       sync.Mutex
	inFlight int
	tidy     *time.Timer
}

// tooMany is said when more is sent than is taken at a time.
var tooMany = fiber.NewError(fiber.StatusServiceUnavailable, "Kolvan is busy with what others send. Send it again in a second.")

// take lets a body in, by its head, and counts it while it is dealt with.
func (b *bodies) take(c fiber.Ctx) error {
	long := c.Request().Header.ContentLength()
	if long <= 0 && !c.Request().IsBodyStream() {
		return c.Next()
	}
	most := maxTyped
	if strings.HasPrefix(c.Get(fiber.HeaderContentType), fiber.MIMEMultipartForm) {
		most = maxBody
	}
	switch {
	case long < 0:
		return fiber.NewError(fiber.StatusLengthRequired, "A form says how long it is.")
	case long > most:
		pass(c, long)
		return fiber.NewError(
			fiber.StatusRequestEntityTooLarge, fmt.Sprintf("That is too large: at most %d MiB are taken at a time.", most>>20),
		)
	case long <= smallBody:
		defer finish(c)
		return c.Next()
	}
	if !b.add(long) {
		pass(c, long)
		c.Set(fiber.HeaderRetryAfter, "1")
		return tooMany
	}
	defer b.done(long)
	defer finish(c)
	return c.Next()
}

func (b *bodies) add(long int) bool {
	b.mu.Lock()
	defer b.mu.Unlock()
	if b.inFlight+long > mostInFlight {
		return false
	}
	b.inFlight += long
	return true
}

// done counts a body out.
func (b *bodies) done(long int) {
	b.mu.Lock()
	b.inFlight -= long
	b.mu.Unlock()
	b.tidyUp()
}

// tidyUp gives back, once it is quiet, the memory that something large took.
func (b *bodies) tidyUp() {
	b.mu.Lock()
	defer b.mu.Unlock()
	if b.tidy != nil {
		b.tidy.Stop()
	}
	b.tidy = time.AfterFunc(tidyAfter, func() {
		runtime.GC() // what is pooled goes with the second collection
		debug.FreeOSMemory()
	})
}

// mostPassed is read of a refused body of a page of ours, so that it hears why.
const mostPassed = 4 * maxBody

// pass reads a body to nowhere.
func pass(c fiber.Ctx, long int) {
	if long <= mostPassed {
		readOn(c, int64(long))
	}
}

// finish reads what a form ends with.
func finish(c fiber.Ctx) { readOn(c, smallBody) }

// readOn reads so much of the rest of a body at the most; read to its end the connection can
// serve on.
func readOn(c fiber.Ctx, most int64) {
	from := c.Request().BodyStream()
	if from == nil {
		return
	}
	if _, err := io.CopyN(io.Discard, from, most+1); err == io.EOF {
		c.Locals(readWhole{}, true)
	}
}

// readWhole marks a request whose body was read to its end.
type readWhole struct{}

// ending ends the connection of a body that was refused unread.
func ending(c fiber.Ctx) error {
	err := c.Next()
	if c.Request().IsBodyStream() && c.Locals(readWhole{}) == nil {
		c.RequestCtx().SetConnectionClose()
	}
	return err
}
