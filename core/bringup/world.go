package bringup

import (
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
}

// Of makes the world of a rig from what was found of it.
func Of(r *rig.Rig, ref *reference.Tables, findings []finding.Finding) *World {
	w := &World{Rig: r, ref: ref, plan: link.For(r, ref), net: power.For(r, ref), orders: OrdersOf(r, ref), sigma: float64(ref.MarginSigma), found: map[string]finding.Finding{}}
	for i := range findings {
		f := &findings[i]
		if was, said := w.found[f.Rule]; f.Level != finding.Unknown && (!said || f.Level > was.Level) {
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
		has["module"] = has["module"] || i == 0 && (rig.Is(s.Kind, rig.Adapter) || rig.Is(s.Plug.Form, rig.M2))
	}
	has["wide"] = w.width > 1
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
		has["m2"] = rig.Is(slot.Form, rig.M2)
		has["radio-slot"] = (rig.Is(slot.Form, rig.MiniPCIe) || rig.Is(slot.Form, rig.M2) && (strings.ContainsAny(string(slot.Key.Value), "EA"))) && !rig.Is(r.Host.Firmware.AllowList, false)
	}
	has["own-graphics"] = r.Host.Graphics.Known && r.Host.Graphics.Value != "none"
	has["screen"] = !rig.Is(r.Brief.Screen.Kind, "own-panel")
	for i := range r.Route.Displaced {
		has["displaced-drive"] = has["displaced-drive"] || r.Drive(r.Route.Displaced[i].Occupant) != nil
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
	times := func(by float64, when bool) {
		if when {
			weight *= by
		}
	}
	fw := &w.Rig.Host.Firmware
	switch f.Name {
	case "cable-too-long":
		weight *= 0.3 + 10*(1-w.trains(w.gen, 0))
	case "weak-12v", "trips-on-spike":
		for _, rule := range []string{"power.spike", "power.drop", "power.wire", "power.connector", "power.lead", "power.headroom", "power.total"} {
			times(2, w.is(rule, finding.Risk))
		}
	case "firmware-refuses":
		times(3, !fw.AllowList.Known)
		times(8, rig.Is(fw.AllowList, true))
	case "driver-missing":
		times(6, rig.Is(w.Rig.Card.Driver, "none"))
		times(0.4, rig.Is(w.Rig.Card.Driver, "fine"))
	case "driver-too-old":
		times(6, rig.Is(w.Rig.Card.Driver, "too-old"))
		times(0.4, rig.Is(w.Rig.Card.Driver, "fine"))
	case "driver-too-new":
		times(6, rig.Is(w.Rig.Card.Driver, "too-new"))
		times(0.4, rig.Is(w.Rig.Card.Driver, "fine"))
	case "driver-clash":
		times(6, rig.Is(w.Rig.Card.Driver, "conflict"))
	case "window-too-small":
		times(0.2, rig.Is(fw.LargeWindow, true) || rig.Is(w.Rig.Card.Window, 0.25))
		times(4, w.is("gate.address-space", finding.Risk))
	case "disk-mode-hides":
		times(0, rig.Is(fw.DiskMode, "plain"))
		times(5, rig.Is(fw.DiskMode, "bundled"))
	case "legacy-only":
		times(5, w.is("gate.legacy-start", finding.Risk))
	case "port-closed":
		times(4, w.is("power.order", finding.Risk))
	case "supply-not-on":
		times(6, w.is("power.turn-on", finding.Risk))
	case "dock-no-12v", "plug-not-fed":
		times(6, w.is("power.unfed", finding.Blocked))
	case "clock-or-reset-missing", "clkreq-open":
		times(6, w.is("link.sideband", finding.Blocked))
	case "slot-without-pcie":
		times(8, w.is("link.no-pcie", finding.Blocked))
	}
	return weight * w.trust(f.Part)
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
