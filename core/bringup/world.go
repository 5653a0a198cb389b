package bringup

import (
	"slices"
	"strings"

	"kolvan/core/finding"
	"kolvan/core/link"
	"kolvan/core/odds"
	"kolvan/core/power"
	"kolvan/core/reference"
	"kolvan/core/rig"
)

// A World is what the model knows of one rig: what it has, what is planned, and what
// already speaks against it.
type World struct {
	Rig    *rig.Rig
	ref    *reference.Tables
	plan   *link.Plan
	net    *power.Network
	has    map[string]bool // what faults and tests ask for
	width  int
	gen    int
	margin [7]float64 // dB at each generation; meaningless without a budget
	budget bool
	sigma  float64
	orders []Order
	found  map[string]finding.Finding // the worst of each rule

	certain []finding.Finding // all that is not a question
	open    []finding.Finding // what is
}

// Of makes the world of a rig from what was found of it.
func Of(r *rig.Rig, ref *reference.Tables, findings []finding.Finding) *World {
	w := &World{Rig: r, ref: ref, plan: link.For(r, ref), net: power.For(r, ref), orders: OrdersOf(r, ref), sigma: float64(ref.MarginSigma), found: map[string]finding.Finding{}}
	for i := range findings {
		f := &findings[i]
		if f.Level == finding.Unknown {
			w.open = append(w.open, *f)
			continue
		}
		w.certain = append(w.certain, *f)
		if was, said := w.found[f.Rule]; !said || f.Level > was.Level {
			w.found[f.Rule] = *f
		}
	}
	w.width, w.gen = max(1, w.plan.WidthEnds.High), max(1, w.plan.GenEnds.High)
	if w.plan.WidthKnown && w.plan.Width > 0 {
		w.width = w.plan.Width
	}
	if w.plan.Gen > 0 {
		w.gen = w.plan.Gen
	}
	for g := 1; g < len(w.margin); g++ {
		if m := w.plan.Margin(g); m != nil {
			w.margin[g], w.budget = (float64(m.Ends.Low)+float64(m.Ends.High))/2, true
		}
	}
	w.describe()
	return w
}

// trains is the chance that the link is stable at a generation after so much more loss.
func (w *World) trains(gen int, loss float64) float64 {
	if !w.budget {
		return odds.Below((12 - loss) / w.sigma) // no stages: a slot of the board's own
	}
	return odds.Below((w.margin[gen] - loss) / w.sigma)
}

// is reports a rule that fired at that level or worse.
func (w *World) is(rule string, level finding.Level) bool {
	f, said := w.found[rule]
	return said && f.Level >= level
}

func (w *World) describe() {
	r := w.Rig
	slot := r.Slot(r.Route.Slot)
	has := map[string]bool{"any": true}
	for i := range r.Route.Stages {
		s := &r.Route.Stages[i]
		has["stages"] = true
		has["cable"] = has["cable"] || rig.Is(s.Kind, rig.Cable)
		has["dock"] = has["dock"] || rig.Is(s.Kind, rig.Dock)
		has["lamp"] = has["lamp"] || rig.Is(s.Kind, rig.Dock) && s.Lamp.Or(true)
		has["module"] = has["module"] || i == 0 && (rig.Is(s.Kind, rig.Adapter) || rig.Is(s.Plug.Form, rig.M2))
	}
	has["wide"], has["fast"] = w.width > 1, w.gen > 1
	has["plugs"] = len(r.Card.Plugs) > 0
	feeds := 0
	for i := range r.Supplies {
		if by, feedsCard := w.net.SwitchedBy(i); feedsCard {
			has["supply"] = true
			feeds++
			has["waits"] = has["waits"] || by != power.WithHost && power.WaitsToBeSwitched(&r.Supplies[i])
		}
	}
	has["two-supplies"] = feeds > 0 && len(r.Supplies) > 1
	if slot != nil {
		carries, known := slot.Carries.Get()
		has["slot-unsure"] = !known || len(carries) > 1
		has["slot-shares"] = slot.Shares.Value != "" && slot.Shares.Value != rig.NoOccupant
		has["may-share"] = has["slot-shares"] || !slot.Shares.Known && w.width > 1
		has["m2"] = rig.Is(slot.Form, rig.M2)
		has["radio-slot"] = (rig.Is(slot.Form, rig.MiniPCIe) || rig.Is(slot.Form, rig.M2) && (strings.ContainsAny(string(slot.Key.Value), "EA"))) && !rig.Is(r.Host.Firmware.AllowList, false)
	}
	has["own-graphics"] = r.Host.Graphics.Known && r.Host.Graphics.Value != "none"
	has["screen"] = !rig.Is(r.Brief.Screen.Kind, "own-panel")
	for i := range r.Route.Displaced {
		d := &r.Route.Displaced[i]
		has["displaced-drive"] = has["displaced-drive"] || r.Drive(d.Occupant) != nil
		has["usb-home"] = has["usb-home"] || r.Drive(d.Occupant) != nil && rig.Is(d.Home, rig.HomeUSB)
	}
	// Many small hosts cannot force a generation, and not every system shows error counts.
	has["forces"] = r.Route.ForcedGen.Known || rig.Is(r.Host.Kind, "desktop")
	has["counts-errors"] = !rig.Is(r.Host.Kind, "single-board") || len(r.Route.Readings) > 0
	w.has = has
}

// may reports a rig that has all that a fault or a test asks for.
func (w *World) may(when []string) bool {
	for _, what := range when {
		if !w.has[what] {
			return false
		}
	}
	return true
}

// Prior is the weight of a fault for this rig: the catalogue's, by what was found of it.
func (w *World) Prior(f *Fault) float64 {
	if !w.may(f.When) {
		return 0
	}
	weight := f.Weight
	for _, lean := range leanings[f.Name] {
		if lean.when(w) {
			weight *= lean.by
		}
	}
	if f.Name == "cable-too-long" {
		weight *= 0.3 + 10*(1-w.trains(w.gen, 0))
	}
	return weight * w.trust(f.Part)
}

// leaning is what makes a fault so many times as likely (P).
type leaning struct {
	by   float64
	when func(*World) bool
}

func found(rule string, level finding.Level) func(*World) bool {
	return func(w *World) bool { return w.is(rule, level) }
}

func driver(state rig.DriverState) func(*World) bool {
	return func(w *World) bool { return rig.Is(w.Rig.Card.Driver, state) }
}

func disks(mode rig.DiskMode) func(*World) bool {
	return func(w *World) bool { return rig.Is(w.Rig.Host.Firmware.DiskMode, mode) }
}

// lanesBy reports a slot whose lanes are known from one of these alone.
func lanesBy(sources ...rig.Source) func(*World) bool {
	return func(w *World) bool {
		slot := w.Rig.Slot(w.Rig.Route.Slot)
		return slot != nil && slot.Lanes.Known && slices.Contains(sources, slot.Lanes.Source)
	}
}

// oldSupply reports that the card hangs on a supply of an older design.
func (w *World) oldSupply() bool {
	for i := range w.Rig.Supplies {
		if w.net.Supplies[i].FeedsCard && rig.Is(w.Rig.Supplies[i].Class, rig.ClassOlder) {
			return true
		}
	}
	return false
}

var weakFeed = []leaning{{2, found("power.spike", finding.Risk)}, {2, found("power.drop", finding.Risk)}, {2, found("power.wire", finding.Risk)}, {2, found("power.connector", finding.Risk)},
	{2, found("power.lead", finding.Risk)}, {2, found("power.headroom", finding.Risk)}, {2, found("power.total", finding.Risk)}}

var leanings = map[string][]leaning{
	"weak-12v":       weakFeed,
	"trips-on-spike": weakFeed,
	"firmware-refuses": {{3, func(w *World) bool { return !w.Rig.Host.Firmware.AllowList.Known }},
		{8, func(w *World) bool { return rig.Is(w.Rig.Host.Firmware.AllowList, true) }}},
	"driver-missing": {{6, driver("none")}, {0.4, driver("fine")}},
	"driver-too-old": {{6, driver("too-old")}, {0.4, driver("fine")}},
	"driver-too-new": {{6, driver("too-new")}, {0.4, driver("fine")}},
	"driver-clash":   {{6, driver("conflict")}},
	"window-too-small": {{0.2, func(w *World) bool {
		return rig.Is(w.Rig.Host.Firmware.LargeWindow, true) || rig.Is(w.Rig.Card.Window, 0.25)
	}}, {4, found("gate.address-space", finding.Risk)}},
	"disk-mode-hides":        {{0, disks("plain")}, {5, disks("bundled")}},
	"legacy-only":            {{5, found("gate.legacy-start", finding.Risk)}},
	"port-closed":            {{4, found("power.order", finding.Risk)}},
	"supply-not-on":          {{6, found("power.turn-on", finding.Risk)}},
	"dock-no-12v":            {{6, found("power.unfed", finding.Blocked)}},
	"plug-not-fed":           {{6, found("power.unfed", finding.Blocked)}},
	"clock-or-reset-missing": {{6, found("link.sideband", finding.Blocked)}},
	"clkreq-open":            {{6, found("link.sideband", finding.Blocked)}},
	"slot-shared":            {{0.6, func(w *World) bool { return !w.has["slot-shares"] }}},
	"slot-fewer-lanes":       {{4, lanesBy(rig.Listing, rig.Hearsay)}, {0.3, lanesBy(rig.Measured)}},
	"supply-tired":           append([]leaning{{2, (*World).oldSupply}}, weakFeed...),
	"too-hot":                {{3, found("fit.intake", finding.Risk)}, {3, found("fit.fan", finding.Risk)}},
	"trips-at-start":         {{4, found("power.pins", finding.Risk)}},
	"slot-without-pcie":      {{8, found("link.no-pcie", finding.Blocked)}},
}

// workedBefore lowers the suspicion of a part that worked in another rig (P).
const workedBefore = 0.3

// trust is less than one for what worked elsewhere.
func (w *World) trust(part string) float64 {
	r := w.Rig
	worked := false
	switch part {
	case "card":
		worked = rig.Is(r.Card.Worked, true)
	case "cable", "dock", "adapter":
		for i := range r.Route.Stages {
			worked = worked || string(r.Route.Stages[i].Kind.Value) == part && rig.Is(r.Route.Stages[i].Worked, true)
		}
	case "supply":
		for i := range r.Supplies {
			worked = worked || w.net.Supplies[i].FeedsCard && rig.Is(r.Supplies[i].Worked, true)
		}
	}
	if worked {
		return workedBefore
	}
	return 1
}
