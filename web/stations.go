package web

import (
	"slices"

	"github.com/gofiber/fiber/v3"

	"kolvan/core/assess"
	"kolvan/core/finding"
	"kolvan/core/rig"
	"kolvan/web/assembly"
	"kolvan/web/brief"
	"kolvan/web/fit"
	ledgerroom "kolvan/web/ledger"
	"kolvan/web/phrase"
	"kolvan/web/power"
	"kolvan/web/proof"
	"kolvan/web/room"
	"kolvan/web/route"
	"kolvan/web/sheet"
	"kolvan/web/survey"
	"kolvan/web/verdict"
)

// rooms are the stations in the order of the work. A new one is its folder and a line here.
var rooms = []*room.Room{
	&brief.Room, &survey.Room, &route.Room, &power.Room, &fit.Room, &assembly.Room, &proof.Room, &ledgerroom.Room, &sheet.Room,
}

// Stations are the stations' keys in the order of the work.
func Stations() []string {
	keys := make([]string, len(rooms))
	for i, at := range rooms {
		keys[i] = at.Key
	}
	return keys
}

// roomAt is the station of that key; nil where there is none.
func roomAt(key string) *room.Room {
	for _, at := range rooms {
		if at.Key == key {
			return at
		}
	}
	return nil
}

// homeOf is the station where a newly chosen thing is worked on: the one that is
// shown when the thing stands in its drawing, else the thing's own.
func homeOf(sel, shown string) string {
	within := func(place string) bool { return rig.Within(sel, place) }
	if at := roomAt(shown); at != nil && slices.ContainsFunc(slices.Concat(at.Home, at.Shows), within) {
		return shown
	}
	for _, at := range rooms {
		if slices.ContainsFunc(at.Home, within) {
			return at.Key
		}
	}
	return shown
}

// station is one step of the work in the line under the rig's name.
type station struct {
	Key    string
	Label  string
	Figure string
	Level  string // worst level there; empty when nothing was found
	Here   bool
}

// stations are the steps with their worst level, each with its worst figure: what it is, or
// how much.
func stations(d *room.Desk, subjects []verdict.Subject) []station {
	worst := map[string]finding.Level{}
	for i := range d.Report.Findings {
		f := &d.Report.Findings[i]
		at := verdict.StationOf(f)
		if level, some := worst[at]; !some || f.Level > level {
			worst[at] = f.Level
		}
	}
	list := make([]station, len(rooms))
	for i, at := range rooms {
		list[i] = station{Key: at.Key, Label: phrase.Station(at.Key), Here: at.Key == d.Station, Figure: at.Figure(d)}
		if level, some := worst[at.Key]; some {
			list[i].Level = level.String()
		}
		if s := verdict.WorstOf(subjects, at.Key); s != nil && s.Level >= worst[at.Key] {
			list[i].Figure = s.Tag
		}
	}
	return list
}

// stationsBeside are the steps above a page that belongs to a station.
func (a *App) stationsBeside(c fiber.Ctx, l *loaded, of string) []station {
	report := assess.Rig(l.rig, a.ref)
	d := &room.Desk{ID: l.ID, Rig: l.rig, Report: &report, Inches: inches(c), Station: of}
	return stations(d, verdict.SubjectsOf(&report, l.rig, d.Inches))
}
