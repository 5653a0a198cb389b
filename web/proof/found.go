package proof

import (
	"fmt"

	"kolvan/core/assess"
	"kolvan/core/rig"
	"kolvan/core/units"
	"kolvan/web/phrase"
)

// foundRow is something planned, and what was found of it.
type foundRow struct{ Planned, Found, Says string }

// foundStage is one element of the route, as planned and as the link was seen to run
// through it.
type foundStage struct{ Name, Planned, Found, Says string }

// FindAll holds readings of the link against the plan.
func (v *View) FindAll(r *rig.Rig, report *assess.Report) {
	planned := phrase.Link(report)
	for i := range r.Route.Readings {
		reading := &r.Route.Readings[i]
		row := foundRow{Planned: planned, Found: "x" + phrase.Of(reading.Width) + " Gen " + phrase.Of(reading.Gen), Says: "under load"}
		if !rig.Is(reading.Load, "loaded") {
			row.Says = "not under load: it proves the width alone"
		}
		if reading.MostW.Known && reading.MostG.Known {
			row.Says += fmt.Sprintf("; both ends could do x%d Gen %d", reading.MostW.Value, reading.MostG.Value)
		}
		row.Says += readBy(reading.Tool, reading.When, reading.By)
		v.Found = append(v.Found, row)
	}
	v.Stages = stagesFound(r, report)
	v.loaded(r, report)
}

// readBy says with what, when and by whom something was read.
func readBy(tool, when, by string) (says string) {
	if tool != "" {
		says += "; read with " + tool
	}
	if when != "" {
		says += "; " + phrase.When(when)
	}
	if by != "" {
		says += "; by " + by
	}
	return says
}

// stagesFound holds what each element of the route is planned to do against the latest
// reading of the link, which runs through all of them alike; nothing while none is kept.
func stagesFound(r *rig.Rig, report *assess.Report) (list []foundStage) {
	latest := -1
	for i := range r.Route.Readings {
		if rig.Is(r.Route.Readings[i].Load, "loaded") || latest < 0 {
			latest = i
		}
	}
	if latest < 0 {
		return nil
	}
	reading := &r.Route.Readings[latest]
	loaded := rig.Is(reading.Load, "loaded")
	for i := range report.Link.Elements {
		e := &report.Link.Elements[i]
		row := foundStage{Name: e.Name, Planned: "x" + phrase.Of(e.Lanes) + " Gen " + phrase.Of(e.Gen), Found: "x" + phrase.Of(reading.Width)}
		if loaded {
			row.Found += " Gen " + phrase.Of(reading.Gen)
		}
		below := reading.Width.Value < e.Lanes.Value || loaded && reading.Gen.Value < e.Gen.Value
		switch {
		case i == report.Link.Narrowest || i == report.Link.Slowest:
			row.Says = "what the plan lets the link run at"
		case !e.Lanes.Known || !e.Gen.Known:
			row.Says = "not known what it could do"
		case below:
			row.Says = "could do more"
		default:
			row.Says = "runs at what it can do"
		}
		list = append(list, row)
	}
	return list
}

// loaded holds what was read beside the link against the plan.
func (v *View) loaded(r *rig.Rig, report *assess.Report) {
	for i := range r.LoadReadings {
		l := &r.LoadReadings[i]
		net := report.Link.NetEnds
		for _, copied := range []struct {
			rate rig.Fact[units.GigabytePerSecond]
			way  string
		}{{l.To, "copied to the card"}, {l.From, "copied from the card"}} {
			if !copied.rate.Known {
				continue
			}
			row := foundRow{Planned: netWords(report), Found: copied.rate.Value.String(), Says: copied.way + readBy(l.Tool, l.When, l.By)}
			if net.Low > 0 && float64(copied.rate.Value) < copiedLeast*float64(net.Low) {
				row.Says += ": well below what the link should carry; read its lanes and its speed under load"
			}
			v.Found = append(v.Found, row)
		}
		if l.Board.Known {
			v.Found = append(
				v.Found,
				foundRow{phrase.Of(r.Card.Power), l.Board.Value.String(), "board power of the card" + readBy(l.Tool, l.When, l.By)},
			)
		}
		if l.Heat.Known {
			v.Found = append(
				v.Found,
				foundRow{
					"55 °C at the most", units.Trim(l.Heat.Value, 0) + " °C",
					phrase.Or(l.Plug, "a plug") + ", after ten minutes" + readBy(l.Tool, l.When, l.By),
				},
			)
		}
		if l.Noise.Known {
			v.Found = append(
				v.Found,
				foundRow{noiseWords(r), units.Trim(l.Noise.Value, 0) + " dB", "noise at the seat" + readBy(l.Tool, l.When, l.By)},
			)
		}
	}
}

// copiedLeast is the share of the planned rate that a copy in large pieces reaches (P).
const copiedLeast = 0.75

// netWords is what the plan lets the link carry.
func netWords(report *assess.Report) string {
	net := report.Link.NetEnds
	if net.High <= 0 {
		return phrase.Unknown
	}
	if net.Known() {
		return net.High.String()
	}
	return units.Trim(float64(net.Low), 2) + " to " + net.High.String()
}

func noiseWords(r *rig.Rig) string {
	if allowed, told := r.Brief.Living.Noise.Get(); told {
		return units.Trim(allowed, 0) + " dB at the most"
	}
	return "none is told"
}
