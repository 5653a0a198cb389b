package room

import (
	"strconv"
	"time"

	"github.com/gofiber/fiber/v3"
)

// Waited is how long what a request tells lay on a device that was not connected; false for what
// comes at once. What says that it comes from the future, or waited longer than anybody leaves a
// device lying, waited no time at all.
func Waited(c fiber.Ctx) (time.Duration, bool) {
	text := c.Get("Kolvan-Waited")
	if text == "" {
		return 0, false
	}
	seconds, err := strconv.Atoi(text)
	if waited := time.Duration(seconds) * time.Second; err == nil && waited >= 0 && waited <= longestWait {
		return waited, true
	}
	return 0, true
}

const longestWait = 90 * 24 * time.Hour

// When is the moment at which what a request tells was done, as a file has it.
func When(c fiber.Ctx) string {
	waited, _ := Waited(c)
	return time.Now().Add(-waited).UTC().Format(time.RFC3339)
}
