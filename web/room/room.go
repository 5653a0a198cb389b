// Package room is what a station of the work is, and what it is given to make its page of.
package room

import (
	_ "image/png"
	"io/fs"
	"strings"

	"kolvan/core/reference"
	"kolvan/core/rig"

	"github.com/gofiber/fiber/v3"
	_ "golang.org/x/image/webp"
)

// RunStep is before the name of a run that a picture is of, in the place of a step.
const RunStep = "run "

// Room is a station of the work: its page of a rig.
type Room struct {
	Key      string   // as findings name the station, and its template
	OwnForm  string   // the place whose form stands in the page itself, not in the editor
	NoEditor bool     // nothing is edited there
	Home     []string // places of a rig that are worked on there
	Shows    []string // places that stand in its drawing too
	Card     []string // fields of the card that mean something there, where not all do

	Pages  fs.FS                    // its templates; what it shows is the one that is named as the station is
	Edits  map[string]Edit          // ways to change the rig there, by the last word of their address
	Files  map[string]File          // what is answered below the rig's address, by what stands there
	Figure func(*Desk) string       // the line under its name
	Fill   func(*Desk) (any, error) // what its template is given as .Room
}

// Edit changes the rig by what a form sent. label says what was changed, for the history;
// choose is what should be chosen in the drawing afterwards ("" leaves the choice).
type Edit func(c fiber.Ctx, r *rig.Rig, ref *reference.Tables) (label, choose string, err error)

// File answers with a file, or a page of its own, made of the rig.
type File func(c fiber.Ctx, d *Desk) error

// Figure is a figure under a drawing, and the name of the sum it is made of.
type Figure struct{ Value, Label, Of string }

// Option is one of several to choose from.
type Option struct {
	Value, Label string
	On           bool
}

// Picture is a picture on a page: its address, and whether it is what was kept.
type Picture struct {
	Address string
	Broken  bool
}

// ThingOf is the thing a finding's place belongs to: the last entry of a list on
// the way, or the part of the rig.
func ThingOf(where string) string {
	tokens := strings.Split(where, "/")
	for i := len(tokens) - 1; i > 1; i-- {
		if tokens[i] != "" && tokens[i][0] >= '0' && tokens[i][0] <= '9' {
			return strings.Join(tokens[:i+1], "/")
		}
	}
	if len(tokens) > 1 && tokens[1] != "" {
		return "/" + tokens[1]
	}
	return where
}
