package room

import (
	"context"
	"strings"

	"kolvan/core/assess"
	"kolvan/core/reference"
	"kolvan/core/rig"
	"kolvan/store"
	"kolvan/web/phrase"
)

// Desk is what a station's page is made of, whichever it is: the rig with what is said of it,
// how it is looked at, and what the page asks for.
type Desk struct {
	Context context.Context // ends when nobody waits for the page any more
	ID      int64
	Rig     *rig.Rig
	Report  *assess.Report
	Ref     *reference.Tables
	Bins    *assess.Bins
	Store   *store.Store

	Inches   bool
	Untaught bool // forecasts leave out what other rigs taught
	Station  string
	Sel      string // JSON Pointer of what is chosen
	Trouble  *Trouble

	Query    func(name string) string   // what the address of the page says
	Every    func(name string) []string // all that it says under a name
	Form     func(name string) string   // the same, or what a form sent
	Pictures func(step string) ([]Picture, error)
}

// Trouble is what a page says of an edit that was not kept.
type Trouble struct {
	Path    string // the field it is about
	Typed   string
	Says    string
	Changed []string // what was changed elsewhere meanwhile
	Again   string   // where to send the same edit again
	Leave   string   // the page as it is now
	Values  map[string]string

	From   string // the id of the field that sent it
	Placed bool   // it stands at its field, and not once more above the page
}

// Fault is what is wrong with a field of a form of its own.
func (d *Desk) Fault(name string) string {
	if d.Trouble == nil || d.Trouble.Path != name {
		return ""
	}
	return d.Trouble.Says
}

// Kept is what was typed into a field of a form that was refused.
func (d *Desk) Kept(name string) string {
	if d.Trouble == nil {
		return ""
	}
	return d.Trouble.Values[name]
}

// Place is the field that the change was about, as a person calls it.
func (t *Trouble) Place() string { return strings.TrimSpace(phrase.Place(t.Path)) }
