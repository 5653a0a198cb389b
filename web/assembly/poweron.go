package assembly

import (
	"fmt"
	"math"
	"net/url"
	"slices"
	"strconv"

	"kolvan/core/bringup"
	"kolvan/core/units"
	"kolvan/web/draw"
	"kolvan/web/room"
)

// powerOnView is the power-on: every order of switching, one of them played.
type powerOnView struct {
	Title, Aside string
	Height       float64
	Ticks        []timeTick
	Tracks       []timeTrack
	Orders       []orderView
	Events       []eventView
	End, Says    string
	Forbidden    bool   // it is not to be switched on, or does not go together: there is no clock
	Level        string // danger or blocked, where the evening ends before it works
	Hot          string
	Faults       []room.Option
	Fault        string
	Seed         uint64
	Another      string // the address of another evening
	Span         float64
	Dark         string
}

type timeTick struct {
	X    float64
	Text string
}

// timeTrack is one line of the timeline: low until it goes up.
type timeTrack struct {
	Name     string
	Y        float64
	Path     string
	Band     *draw.Box // the range of its moment
	Bad      bool
	Note     string
	NoteX    float64
	NoteLeft bool
}

type orderView struct {
	Name, Found, Spare, Level, Value string
	Meant                            bool
}

type eventView struct {
	At, Range, What, Seen, Else, Rule string
	Ms                                float64
	Bad                               bool
}

const (
	timeLeft  = 176.0
	timeTop   = 40.0
	timePitch = 27.0
	bend      = 250.0 // ms: below it the axis is even, above it grows by times
)

// timeX is where a moment stands: even at first, then by times.
func timeX(ms, span float64) float64 {
	return timeLeft + (draw.Width-30-timeLeft)*math.Log1p(max(0, ms)/bend)/math.Log1p(span/bend)
}

var orderNames = map[string]string{
	bringup.DockFirst: "dock first, then host", bringup.Together: "both at once",
	bringup.HostFirst: "host first, then dock",
}

// powerOn plays the order that is meant, or the one asked for.
func powerOn(d *room.Desk) (*powerOnView, error) {
	r := d.Rig
	cat, err := bringup.Load()
	if err != nil {
		return nil, err
	}
	w := bringup.Of(r, d.Ref, d.Report.Findings)
	orders := bringup.OrdersOf(r, d.Ref)
	v := &powerOnView{Seed: 1, Fault: d.Query("fault")}
	if seed, err := strconv.ParseUint(d.Query("seed"), 10, 32); err == nil {
		v.Seed = seed
	}
	var fault *bringup.Fault
	v.Faults = append(v.Faults, room.Option{Value: "", Label: "nothing broken", On: v.Fault == ""})
	for i := range cat.Faults {
		f := &cat.Faults[i]
		if w.Prior(f) > 0 {
			v.Faults = append(v.Faults, room.Option{Value: f.Name, Label: f.Says, On: f.Name == v.Fault})
			if f.Name == v.Fault {
				fault = f
			}
		}
	}
	meant := bringup.MeantOrder(r, orders)
	played, err := w.Play(meant, v.Seed, fault)
	if err != nil {
		return nil, err
	}
	v.Another = fmt.Sprintf("?sel=%s&seed=%d&fault=%s", powerOnSel, v.Seed+1, url.QueryEscape(v.Fault))
	for i := range orders {
		v.Orders = append(v.Orders, OrderOf(&orders[i], meant))
	}
	v.draw(played)
	v.Title = "Rehearsal: " + orderNames[meant] + " · " + played.End
	v.Aside = "bars: the range each moment may take"
	v.End, v.Says = played.End, played.Says
	switch {
	case played.End == bringup.DoNot:
		v.Level = "danger"
	case !played.Works():
		v.Level = "blocked"
	}
	if played.Hot != nil {
		v.Hot = fmt.Sprintf(
			"A chance of about %s in an hour of use (a planning value).", units.Trim(100*float64(played.Hot.Chance), 2)+" %",
		)
	}
	if end, _ := w.Forbids(); end != "" {
		v.Forbidden = true
		for i := range v.Orders {
			v.Orders[i].Found, v.Orders[i].Spare, v.Orders[i].Level = end, "in this order or any other", v.Level
		}
	}
	low, high, why := bringup.Dark(r, d.Ref)
	v.Dark = fmt.Sprintf("Dark for %.0f s to %.0f min is no fault: %s.", low, high/60, why)
	return v, nil
}

// OrderOf is an order of switching on in words, with what was found and what is to spare.
func OrderOf(o *bringup.Order, meant string) orderView {
	v := orderView{Name: orderNames[o.Order], Value: o.Order, Found: o.Found + " found", Meant: o.Order == meant}
	if o.Spare[0] == nil {
		v.Spare, v.Level = "nothing switches its supply on", "blocked"
		return v
	}
	low, high := *o.Spare[0]/1000, *o.Spare[1]/1000
	seconds := func(s float64) string { return units.Trim(math.Abs(s), 1) + " s" }
	switch {
	case low >= 0:
		v.Spare = seconds(low) + " to " + seconds(high) + " to spare"
	case high < 0:
		v.Spare = seconds(high) + " to " + seconds(low) + " too late"
		v.Level = "blocked"
	default:
		v.Spare = seconds(low) + " late to " + seconds(high) + " to spare"
		v.Level = "risk"
	}
	return v
}

// tracks of the timeline from above.
var tracks = []string{
	"parts", "host", "host power", "host reset", "supply", "12 V", "power-good", "card reset", "firmware looks", "link",
	"system", "card", "driver", "picture", "load",
}

func (v *powerOnView) draw(played *bringup.Rehearsal) {
	for i := range played.Events {
		v.Span = max(v.Span, played.Events[i].Range[1], played.Events[i].At)
	}
	v.Span = max(1000, v.Span)
	for _, ms := range []float64{0, 500, 1000, 2000, 5000, 20_000, 60_000, 180_000, 600_000} {
		if ms <= v.Span {
			v.Ticks = append(v.Ticks, timeTick{timeX(ms, v.Span), timeWords(ms)})
		}
	}
	for _, name := range tracks {
		var t *timeTrack
		for i := range played.Events {
			e := &played.Events[i]
			if e.Track != name {
				continue
			}
			if t == nil {
				v.Tracks = append(v.Tracks, timeTrack{Name: name, Y: timeTop + timePitch*float64(len(v.Tracks))})
				t = &v.Tracks[len(v.Tracks)-1]
			}
			t.take(e, v.Span)
		}
	}
	v.Height = timeTop + timePitch*float64(len(v.Tracks)) + 18
	for i := range played.Events {
		e := &played.Events[i]
		row := eventView{At: timeWords(e.At), What: e.What, Seen: e.Seen, Else: e.Else, Rule: e.Rule, Ms: e.At, Bad: !e.On || e.Rule != ""}
		if e.Range[1] > e.Range[0] {
			row.Range = timeWords(e.Range[0]) + " to " + timeWords(e.Range[1])
		}
		v.Events = append(v.Events, row)
	}
	slices.SortStableFunc(v.Events, func(a, b eventView) int { return int(a.Ms - b.Ms) })
}

// take draws an event on its line: it goes up, or it never does.
func (t *timeTrack) take(e *bringup.Event, span float64) {
	x, low, high := timeX(e.At, span), t.Y+17, t.Y+2
	t.Path = fmt.Sprintf("M%.1f %.1fH%.1fV%.1fH%.1f", timeLeft, low, x, high, draw.Width-30.0)
	if !e.On {
		t.Bad = true
		t.Path = fmt.Sprintf("M%.1f %.1fH%.1f", timeLeft, low, draw.Width-30.0)
		t.Note, t.NoteX = e.What, min(x, draw.Width-40)
		t.NoteLeft = x > draw.Width*0.55
	}
	if from, to := timeX(e.Range[0], span), timeX(e.Range[1], span); to > from+1 {
		t.Band = &draw.Box{X: from, Y: high, W: to - from, H: low - high}
	}
}

func timeWords(ms float64) string {
	switch {
	case ms < 1000:
		return units.Trim(ms/1000, 2) + " s"
	case ms < 60_000:
		return units.Trim(ms/1000, 1) + " s"
	default:
		return units.Trim(ms/60_000, 1) + " min"
	}
}
