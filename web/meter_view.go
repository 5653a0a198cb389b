package web

import (
	"fmt"
	"math"
	"strconv"
	"strings"

	"github.com/go-json-experiment/json"

	"kolvan/core/meter"
	"kolvan/core/power"
	"kolvan/core/rig"
	"kolvan/core/units"
	"kolvan/instruments"
	"kolvan/web/fields"
	"kolvan/web/room"
)

// meterView is the page of the wall meter.
type meterView struct {
	ID       int64
	Name     string
	Stations []station
	Supplies []fields.Choice
	Supply   int
	Expected []room.Figure
	Facts    []room.Figure
	Plot     plotData
	There    bool // a meter can be called
	State    instruments.State
	Loads    []fields.Choice
	Fault    string
	Reading  string // what would be taken as the reading, W
	Behind   string
	Empty    string
	Broken   bool // what was recorded is not what was kept
}

// plotData is what the trace is drawn from.
type plotData struct {
	Live    string       `json:"live,omitzero"`
	Samples [][2]float64 `json:"samples"`
	Next    int          `json:"next"` // the sample to go on from
	Idle    [2]float64   `json:"idle"`
	Loaded  [2]float64   `json:"loaded"`
	Running bool         `json:"running"`
}

// JSON is the data as the page carries it.
func (p plotData) JSON() (string, error) {
	text, err := json.Marshal(p)
	return string(text), err
}

func (a *App) fillMeter(v *meterView, r *rig.Rig, n *power.Network, rec *instruments.Recorder) {
	for i := range r.Supplies {
		v.Supplies = append(v.Supplies, fields.Choice{Value: strconv.Itoa(i), Label: r.Supplies[i].Name, On: i == v.Supply})
	}
	idle, _ := n.WallIdle(v.Supply)
	loaded, known := n.Wall(v.Supply)
	if known {
		v.Expected = wallFigures(r, n, v.Supply, idle, loaded)
		v.Plot.Idle, v.Plot.Loaded = [2]float64{float64(idle.Low), float64(idle.High)}, [2]float64{float64(loaded.Low), float64(loaded.High)}
	} else {
		v.Empty = "What to expect cannot be said before the rating of " + r.Supplies[v.Supply].Name + " is told."
	}
	if rec == nil {
		return
	}
	v.State = rec.State()
	for _, load := range instruments.Loads {
		v.Loads = append(v.Loads, fields.Choice{Value: load, Label: load, On: load == v.State.Load})
	}
	record := rec.Record()
	v.Plot.Samples, v.Plot.Next, v.Plot.Running = thinned(record.Samples, record.Gap()), len(record.Samples), v.State.Running
	v.Plot.Live = fmt.Sprintf("/rigs/%d/meter/live", v.ID)
	f := rec.Figures()
	v.Facts = meterFigures(f)
	if f.Samples > 0 {
		reading := record.Highest()
		if v.State.Running {
			reading = rec.Lately(10)
		}
		v.Reading = units.Trim(float64(reading), 1)
		if behind, ok := n.BehindSupply(v.Supply, reading); ok {
			v.Behind = rangeWords(behind)
		}
	}
}

// meterFigures are the figures of a recording.
func meterFigures(f meter.Figures) []room.Figure {
	list := []room.Figure{
		{Value: f.Mean.String(), Label: "mean"}, {Value: f.Peak.String(), Label: "peak"}, {Value: f.Energy.String(), Label: "energy"},
		{Value: span(f.Seconds), Label: "measured"},
	}
	if f.Gaps > 0 {
		list = append(list, room.Figure{Value: fmt.Sprintf("%d of %s", f.Gaps, span(f.Missing)), Label: "gaps, counted for nothing"})
	}
	return list
}

// wallFigures are what to expect at the wall, and what it comes to.
func wallFigures(r *rig.Rig, n *power.Network, supply int, idle, loaded power.Watts) []room.Figure {
	list := []room.Figure{
		{Value: rangeWords(idle), Label: "expected with nothing to do"}, {Value: rangeWords(loaded), Label: "expected under load, at the most"},
		{Value: rangeWords(loaded), Label: "heat in the room: all of it, in the end"},
	}
	if price, told := r.Brief.Energy.Get(); told {
		cost := func(w units.Watt) string { return units.Trim(float64(w)/1000*float64(price), 3) }
		list = append(
			list,
			room.Figure{Value: strings.TrimSpace(cost(loaded.Low) + " to " + cost(loaded.High) + " " + r.Brief.Currency),
				Label: "an hour under load"},
		)
	}
	return list
}

func rangeWords(w power.Watts) string {
	if w.Low.String() == w.High.String() {
		return w.High.String()
	}
	return units.Trim(float64(w.Low), 0) + " to " + units.Trim(float64(w.High), 0) + " W"
}

// span is a time in the units a person counts it by.
func span(s units.Second) string {
	whole := int(math.Round(float64(s)))
	switch {
	case s < 100:
		return s.String()
	case whole < 3600:
		return fmt.Sprintf("%d min %d s", whole/60, whole%60)
	}
	return fmt.Sprintf("%d h %d min", whole/3600, whole%3600/60)
}

// thinned keeps the highest and the lowest of every stretch, so that no spike is
// lost, and breaks the trace at gaps.
func thinned(samples []meter.Sample, gap units.Second) [][2]float64 {
	list := make([][2]float64, 0, min(len(samples), mostPlotted+2))
	stretch := max(1, 2*len(samples)/mostPlotted)
	for i := 0; i < len(samples); i += stretch {
		part := samples[i:min(i+stretch, len(samples))]
		low, high := 0, 0
		for j := range part {
			if part[j].Power < part[low].Power {
				low = j
			}
			if part[j].Power > part[high].Power {
				high = j
			}
		}
		first, second := min(low, high), max(low, high)
		if i > 0 && part[0].At-samples[i-1].At > gap {
			list = append(list, [2]float64{float64(part[0].At), aGap})
		}
		list = append(list, plotted(part[first]))
		if second != first {
			list = append(list, plotted(part[second]))
		}
	}
	return list
}

func plotted(s meter.Sample) [2]float64 {
	return [2]float64{float64(s.At), float64(units.Round(s.Power, 5))}
}
