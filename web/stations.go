package web

import (
	"slices"
	"strings"

	"github.com/gofiber/fiber/v3"

	"kolvan/core/assess"
	"kolvan/core/finding"
	"kolvan/core/ledger"
	"kolvan/core/rig"
	"kolvan/core/units"
)

// rooms are the stations in the order of the work. A new one is its folder and a line here.
var rooms = []*Room{
	&briefRoom, &surveyRoom, &routeRoom, &powerRoom, &fitRoom, &assemblyRoom, &proofRoom, &ledgerRoom, &sheetRoom,
}

// stationKeys are the stations' keys in the order of the work.
func stationKeys() []string {
	keys := make([]string, len(rooms))
	for i, room := range rooms {
		keys[i] = room.Key
	}
	return keys
}

// roomAt is the station of that key; nil where there is none.
func roomAt(key string) *Room {
	for _, room := range rooms {
		if room.Key == key {
			return room
		}
	}
	return nil
}

// homeOf is the station where a newly chosen thing is worked on: the one that is
// shown when the thing stands in its drawing, else the thing's own.
func homeOf(sel, shown string) string {
	within := func(place string) bool { return rig.Within(sel, place) }
	if room := roomAt(shown); room != nil && slices.ContainsFunc(slices.Concat(room.Home, room.Shows), within) {
		return shown
	}
	for _, room := range rooms {
		if slices.ContainsFunc(room.Home, within) {
			return room.Key
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
func stations(d *Desk, subjects []subject) []station {
	worst := map[string]finding.Level{}
	for i := range d.Report.Findings {
		f := &d.Report.Findings[i]
		at := stationOf(f)
		if level, some := worst[at]; !some || f.Level > level {
			worst[at] = f.Level
		}
	}
	list := make([]station, len(rooms))
	for i, room := range rooms {
		list[i] = station{Key: room.Key, Label: labelOf(room.Key), Here: room.Key == d.Station, Figure: room.Figure(d)}
		if level, some := worst[room.Key]; some {
			list[i].Level = level.String()
		}
		if s := worstOf(subjects, room.Key); s != nil && s.Level >= worst[room.Key] {
			list[i].Figure = s.Tag
		}
	}
	return list
}

// stationsBeside are the steps above a page that belongs to a station.
func (a *App) stationsBeside(c fiber.Ctx, l *loaded, of string) []station {
	report := assess.Rig(l.rig, a.ref)
	d := &Desk{ID: l.ID, Rig: l.rig, Report: &report, Inches: inches(c), Station: of}
	return stations(d, subjectsOf(&report, l.rig, d.Inches))
}

// stationOf is the station a finding belongs to: facts of the host are asked for
// at the survey, the rest where the rule's family is worked on.
func stationOf(f *finding.Finding) string {
	if f.Level == finding.Unknown && rig.Within(f.Where, "/host") {
		return string(finding.Survey)
	}
	return string(f.Row().Station)
}

func budgetWords(r *rig.Rig) string {
	budget, known := r.Brief.Budget.Get()
	if !known {
		return "no budget"
	}
	paid, _ := ledger.Committed(r)
	sum := ledger.Expected(r) + (paid.Low+paid.High)/2
	if sum > budget {
		return strings.TrimSpace((sum-budget).String()+" "+r.Brief.Currency) + " over"
	}
	return strings.TrimSpace((budget-sum).String()+" "+r.Brief.Currency) + " left"
}

func gapWords(r *rig.Rig, f *assess.Figures, inches bool) string {
	switch {
	case rig.Is(r.Card.BuiltIn, true):
		return "in its box"
	case r.Chamber.Open:
		return "open air"
	case f.Gap == nil:
		return unknown
	default:
		return length(units.Millimetre(*f.Gap).Ruled(), inches)
	}
}

// length prints a length as the setting wants it.
func length(l units.Millimetre, inches bool) string {
	words := l.String()
	if inches {
		words = l.Inches()
	}
	return minusSigns(words)
}

// minusSigns writes what is below zero as print does.
func minusSigns(figure string) string {
	if rest, below := strings.CutPrefix(figure, "-"); below {
		return "\u2212" + rest
	}
	return figure
}

// verdictWords is the verdict in a few words, and its level.
func verdictWords(report *assess.Report) (text, level string) {
	worst, some := report.Worst()
	if !some {
		return "nothing against it", ""
	}
	return map[finding.Level]string{
		finding.Danger: "stop before power-on", finding.Blocked: "does not work as planned", finding.Unknown: "facts are missing",
		finding.Risk: "may disappoint", finding.Note: "goes as planned",
	}[worst], worst.String()
}
