package bringup

import (
	"slices"
	"strings"

	"kolvan/core/finding"
	"kolvan/core/fit"
	"kolvan/core/gate"
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
	w := &World{
		Rig: r, ref: ref, plan: link.For(r, ref), net: power.For(r, ref), orders: OrdersOf(r, ref),
		sigma: float64(ref.MarginSigma), found: map[string]finding.Finding{},
	}
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
		has["lamp"] = has["lamp"] || s.HasLamp()
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
		has["radio-slot"] = (rig.Is(slot.Form, rig.MiniPCIe) || rig.Is(slot.Form, rig.M2) &&
			(strings.ContainsAny(string(slot.Key.Value), "EA"))) &&
			!rig.Is(r.Host.Firmware.AllowList, false)
	}
	has["own-graphics"] = r.Host.Graphics.Known && r.Host.Graphics.Value != "none"
	has["screen"] = !rig.Is(r.Brief.Screen.Kind, rig.OwnPanel) && !rig.Is(r.Brief.Screen.Kind, rig.NoScreen)
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

// leaning is what the file says that makes a fault so many times as likely (P).
type leaning struct {
	by      float64
	because string
	when    func(*World) bool
	rule    string // whose title says why, in place of because
}

// found leans on a rule that fired at that level or worse.
func found(by float64, rule string, level finding.Level) leaning {
	return leaning{by, "", func(w *World) bool { return w.is(rule, level) }, rule}
}

func driver(by float64, state rig.DriverState) leaning {
	return leaning{by, "the driver is told as " + rig.Spoken(state), func(w *World) bool { return rig.Is(w.Rig.Card.Driver, state) }, ""}
}

func disks(by float64, mode rig.DiskMode) leaning {
	return leaning{
		by, "the disk mode is told as " + rig.Spoken(mode),
		func(w *World) bool { return rig.Is(w.Rig.Host.Firmware.DiskMode, mode) }, "",
	}
}

// lanesBy leans on a slot whose lanes are known from one of these alone.
func lanesBy(by float64, because string, sources ...rig.Source) leaning {
	return leaning{by, because, func(w *World) bool {
		slot := w.Rig.Slot(w.Rig.Route.Slot)
		return slot != nil && slot.Lanes.Known && slices.Contains(sources, slot.Lanes.Source)
	}, ""}
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

var weakFeed = []leaning{
	found(2, power.RuleSpike, finding.Risk),
	found(2, power.RuleDrop, finding.Risk),
	found(2, power.RuleWire, finding.Risk),
	found(2, power.RuleConnector, finding.Risk),
	found(2, power.RuleLead, finding.Risk),
	found(2, power.RuleHeadroom, finding.Risk),
	found(2, power.RuleTotal, finding.Risk),
}

var leanings = map[string][]leaning{
	"weak-12v":       weakFeed,
	"trips-on-spike": weakFeed,
	"firmware-refuses": {{
		3, "nobody tried whether the firmware takes others than its own cards",
		func(w *World) bool { return !w.Rig.Host.Firmware.AllowList.Known }, "",
	},
		{8, "the firmware takes only its own cards there", func(w *World) bool { return rig.Is(w.Rig.Host.Firmware.AllowList, true) }, ""}},
	"driver-missing": {driver(6, "none"), driver(0.4, "fine")},
	"driver-too-old": {driver(6, "too-old"), driver(0.4, "fine")},
	"driver-too-new": {driver(6, "too-new"), driver(0.4, "fine")},
	"driver-clash":   {driver(6, "conflict")},
	"window-too-small": {{0.2, "the window finds room", func(w *World) bool {
		return rig.Is(w.Rig.Host.Firmware.LargeWindow, true) || rig.Is(w.Rig.Card.Window, 0.25)
	}, ""}, found(4, gate.RuleAddressSpace, finding.Risk)},
	"disk-mode-hides":        {disks(0, "plain"), disks(5, "bundled")},
	"legacy-only":            {found(5, gate.RuleLegacyStart, finding.Risk)},
	"port-closed":            {found(4, power.RuleOrder, finding.Risk)},
	"supply-not-on":          {found(6, power.RuleTurnOn, finding.Risk)},
	"dock-no-12v":            {found(6, power.RuleUnfed, finding.Blocked)},
	"plug-not-fed":           {found(6, power.RuleUnfed, finding.Blocked)},
	"clock-or-reset-missing": {found(6, link.RuleSideband, finding.Blocked)},
	"clkreq-open":            {found(6, link.RuleSideband, finding.Blocked)},
	"slot-shared":            {{0.6, "nothing is told to share its lanes", func(w *World) bool { return !w.has["slot-shares"] }, ""}},
	"slot-fewer-lanes": {
		lanesBy(4, "its lanes are only said by others", rig.Listing, rig.Hearsay),
		lanesBy(0.3, "its lanes were measured", rig.Measured),
	},
	"supply-tired":      append([]leaning{{2, "it is of an older design", (*World).oldSupply, ""}}, weakFeed...),
	"too-hot":           {found(3, fit.RuleIntake, finding.Risk), found(3, fit.RuleFan, finding.Risk)},
	"trips-at-start":    {found(4, power.RulePins, finding.Risk)},
	"slot-without-pcie": {found(8, link.RuleNoPCIe, finding.Blocked)},
}

// leans lists what the file says for a fault, and against it, before any test.
func (w *World) leans(f *Fault) (in, against []string) {
	for _, lean := range leanings[f.Name] {
		if !lean.when(w) {
			continue
		}
		because := lean.because
		if lean.rule != "" {
			of := w.found[lean.rule]
			because = "the verdict: " + titled(&of)
		}
		if lean.by > 1 {
			in = append(in, because)
		} else {
			against = append(against, because)
		}
	}
	switch here := w.seenHere(f.Part); {
	case here > 0:
		against = append(against, "it was seen to work on this host")
	case here < 0:
		in = append(in, "it was seen to fail on this host")
	case w.trust(f.Part) < 1:
		against = append(against, "it worked in another rig")
	}
	return in, against
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
	switch here := w.seenHere(part); {
	case here < 0:
		return failedBefore
	case worked || here > 0:
		return workedBefore
	}
	return 1
}

// failedBefore raises the suspicion of a part that was seen to fail on this host (P).
const failedBefore = 2.5

// seenHere is above zero for a part that was seen to work on this host and never to fail,
// below for one that was seen to fail and never to work.
func (w *World) seenHere(part string) (sum int) {
	worked, failed := false, false
	for i := range w.Rig.Known {
		k := &w.Rig.Known[i]
		if !k.Works.Known || !w.isPart(part, k.Of) {
			continue
		}
		worked, failed = worked || k.Works.Value, failed || !k.Works.Value
	}
	switch {
	case worked == failed:
		return 0
	case worked:
		return 1
	default:
		return -1
	}
}

// isPart reports that a name is that of a part of the catalogue's.
func (w *World) isPart(part, name string) bool {
	if part == "card" {
		return name != "" && name == w.Rig.Card.Name
	}
	return slices.ContainsFunc(w.Rig.Route.Stages, func(s rig.Stage) bool { return s.Name == name && string(s.Kind.Value) == part })
}
