package bringup

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"strings"

	"kolvan/core/finding"
	"kolvan/core/rig"
	"kolvan/core/units"
)

// state is how things stand: what faults and the plan's own troubles make of them, and the
// throws of one evening.
type state struct {
	w *World

	lanes                               string // "", half, one, none
	loss                                float64
	noDock12, noDock33, noPlug, noOn    bool
	noHost                              bool
	blame                               map[string]*Fault // of the plan's own troubles, by what they change
	noSideband, hidden, dead, rests     bool
	late, ownWork, manyErrors, lowVolts bool
	slower, trips, hot, capFewer        bool
	unlistedDrive                       bool
	starts, picture, driver, load       string // "" for well
	gen1, capped                        bool
	throws                              throws
}

// throws are the dice of one evening: the same before and after a change.
type throws struct {
	train              [7]float64
	errors, idle, some float64
	late, reseat       float64
	pick               []float64 // one a fault
}

func throwAll(rng *rand.Rand, faults int) (t throws) {
	for i := range t.train {
		t.train[i] = rng.Float64()
	}
	t.errors, t.idle, t.some, t.late, t.reseat = rng.Float64(), rng.Float64(), rng.Float64(), rng.Float64(), rng.Float64()
	t.pick = make([]float64, faults)
	for i := range t.pick {
		t.pick[i] = rng.Float64()
	}
	return t
}

// stand sets things up under faults, of which some are gone.
func (w *World) stand(faults []*Fault, gone func(*Fault) bool, t throws) state {
	s := state{w: w, throws: t, blame: map[string]*Fault{}}
	for k, f := range faults {
		if gone == nil || !gone(f) {
			s.suffer(f, t.pick[k])
		}
	}
	return s
}

// suffer lets a fault do what it does this time.
func (s *state) suffer(f *Fault, pick float64) {
	for what, ways := range f.Does {
		way := ways[min(len(ways)-1, int(pick*float64(len(ways))))]
		word, _ := way.(string)
		if word == "ok" || word == "holds" {
			continue
		}
		breaks[what](s, way)
		if f.Part == ofPlan {
			s.blame[what] = f
		}
	}
}

// breaks are what a fault can change, by the words of the catalogue.
var breaks = map[string]func(*state, any){
	"lanes":    func(s *state, way any) { s.lanes = fewer(s.lanes, way.(string)) },
	"loss_db":  func(s *state, way any) { s.loss += way.(float64) },
	"dock_12v": func(s *state, _ any) { s.noDock12 = true },
	"dock_3v3": func(s *state, _ any) { s.noDock33 = true },
	"plug":     func(s *state, _ any) { s.noPlug = true },
	"host":     func(s *state, _ any) { s.noHost = true },
	"supply":   func(s *state, _ any) { s.noOn = true },
	"sideband": func(s *state, _ any) { s.noSideband = true },
	"seen":     func(s *state, _ any) { s.hidden = true },
	"card":     func(s *state, _ any) { s.dead = true },
	"idle":     func(s *state, _ any) { s.rests = true },
	"order":    func(s *state, _ any) { s.late = true },
	"work":     func(s *state, _ any) { s.ownWork = true },
	"errors":   func(s *state, _ any) { s.manyErrors = true },
	"volts":    func(s *state, _ any) { s.lowVolts = true },
	"speed":    func(s *state, _ any) { s.slower = true },
	"trip":     func(s *state, _ any) { s.trips = true },
	"heat":     func(s *state, _ any) { s.hot = true },
	"cap":      func(s *state, _ any) { s.capFewer = true },
	"list":     func(s *state, _ any) { s.unlistedDrive = true },
	"starts":   func(s *state, way any) { s.starts = way.(string) },
	"picture":  func(s *state, way any) { s.picture = way.(string) },
	"driver":   func(s *state, way any) { s.driver = way.(string) },
	"load":     func(s *state, way any) { s.load = way.(string) },
}

var laneOrder = []string{"none", "one", "half", ""}

func fewer(a, b string) string {
	return laneOrder[min(slices.Index(laneOrder, a), slices.Index(laneOrder, b))]
}

func (s *state) powered() bool { return !s.noOn && !s.noDock12 && !s.trips }

// trained is the width and the generation the link comes up with; zero for no link.
func (s *state) trained() (width, gen int) {
	if !s.powered() || s.noDock33 || s.noPlug || s.noSideband || s.dead || s.late || s.lanes == "none" {
		return 0, 0
	}
	width = s.w.width
	switch s.lanes {
	case "half":
		width = max(1, width/2)
	case "one":
		width = 1
	}
	top := s.w.gen
	if s.slower {
		top = max(1, top-1)
	}
	for g := top; g >= 1; g-- {
		if s.gen1 {
			g = 1
		}
		if s.throws.train[g] < s.w.trains(g, s.loss) {
			return width, g
		}
	}
	return 0, 0
}

func (s *state) running() bool { return !s.noHost && (s.starts == "" || s.starts == "ok") }

// seen reports a card that the system knows of; works, that its driver runs.
func (s *state) seen() bool {
	width, _ := s.trained()
	return s.running() && width > 0 && !s.hidden
}

func (s *state) works() bool { return s.seen() && s.driver == "" }

func (s *state) errors() bool {
	_, gen := s.trained()
	return s.manyErrors || gen > 0 && s.throws.errors > s.w.trains(gen, s.loss)+0.05
}

func (s *state) loaded() string {
	switch {
	case !s.works():
		return "absent"
	case s.capped && s.load == "trips", s.capped && s.load == "drops" && s.throws.some < 0.5:
		return "holds"
	case s.load != "":
		return s.load
	case s.errors() && s.throws.some < 0.3:
		return "crashes"
	default:
		return "holds"
	}
}

// asPlanned reports that all is as it was meant to be.
func (s *state) asPlanned() bool {
	width, gen := s.trained()
	return s.works() && width == s.w.width && gen == s.w.gen && !s.errors() && s.loaded() == "holds" && s.picture == "" && !s.ownWork && !s.hot
}

// sight is what a person says first of what is wrong.
func (s *state) sight() string {
	width, gen := s.trained()
	own := s.w.has["own-graphics"]
	switch {
	case s.trips:
		return "twitch"
	case s.noHost:
		return "nothing"
	case !s.powered():
		return choose(s.throws.some < 0.5 || !own, "nothing", "no-device")
	case !s.running():
		return "no-picture"
	case width == 0 || s.hidden:
		return choose(own, "no-device", "no-picture")
	case s.driver != "":
		return "marked"
	case s.picture != "":
		return "no-picture"
	case s.hot:
		return "hot"
	case s.loaded() != "holds":
		return "goes-away"
	default: // fewer lanes, a lower speed, errors, work elsewhere, or what rests
		return choose(width < s.w.width || gen < s.w.gen || s.throws.some < 0.9, "slow", "hot")
	}
}

// reads are what of the model can be looked at, and what it shows.
var reads = map[string]func(*state) string{
	"lamp": func(s *state) string { return choose(s.powered(), "on", "off") },
	"fans": func(s *state) string {
		switch {
		case s.trips:
			return "twitch"
		case !s.powered() || s.noDock33:
			return "none"
		case s.noPlug || s.noSideband:
			return "full"
		default:
			return "twitch"
		}
	},
	"start": func(s *state) string {
		switch s.starts {
		case "refuses":
			return "stops"
		case "no-drive", "hangs":
			return s.starts
		default:
			return "starts"
		}
	},
	"device": func(s *state) string {
		switch {
		case !s.seen():
			return "absent"
		case s.driver != "":
			return "marked"
		default:
			return "there"
		}
	},
	"width": func(s *state) string {
		width, _ := s.trained()
		switch {
		case !s.seen():
			return "absent"
		case width == s.w.width:
			return "full"
		case width > 1:
			return "half"
		default:
			return "x1"
		}
	},
	"idle-speed": func(s *state) string {
		_, gen := s.trained()
		switch {
		case !s.seen():
			return "absent"
		case s.rests || gen < s.w.gen || s.throws.idle < 0.4:
			return "lower"
		default:
			return "planned"
		}
	},
	"speed": func(s *state) string {
		_, gen := s.trained()
		switch {
		case !s.works():
			return "absent"
		case gen < s.w.gen:
			return "lower"
		default:
			return "planned"
		}
	},
	"errors": func(s *state) string {
		if !s.works() {
			return "absent"
		}
		return choose(s.errors(), "many", "none")
	},
	"screens": func(s *state) string {
		own := s.w.has["own-graphics"]
		switch {
		case !s.running():
			return "none"
		case s.picture == "none":
			return choose(own, "host-only", "none")
		case !s.works() || s.picture == "own" || s.picture == "system-only" && s.throws.some < 0.5:
			return choose(own, "host-only", "none")
		default:
			return "card"
		}
	},
	"load":  (*state).loaded,
	"sight": (*state).sight,
	"list":  func(s *state) string { return choose(s.unlistedDrive, "missing", "listed") },
	"most": func(s *state) string {
		if !s.seen() {
			return "absent"
		}
		return choose(s.capFewer, "fewer", "full")
	},
	"heat": func(s *state) string { return choose(s.hot || s.lowVolts && s.works(), "hot", "cool") },
	"volts": func(s *state) string {
		switch {
		case !s.powered():
			return "none"
		case s.lowVolts:
			return "low"
		default:
			return "good"
		}
	},
	"use": func(s *state) string {
		if !s.works() {
			return "absent"
		}
		return choose(s.ownWork, "own", "card")
	},
	"pinned": func(s *state) string {
		if !s.works() {
			return "absent"
		}
		width, _ := s.trained()
		return choose(width < s.w.width && s.throws.some < 0.5, "same", "faster")
	},
	"copy": func(s *state) string {
		width, gen := s.trained()
		if !s.works() {
			return "absent"
		}
		return choose(width < s.w.width || gen < s.w.gen || s.errors(), "low", "planned")
	},
}

func choose(when bool, yes, no string) string {
	if when {
		return yes
	}
	return no
}

// reseatCures is how often plugging in anew cures what it can (P).
const reseatCures = 0.8

// ofHost are the parts that stay behind when the chain goes to another host.
var ofHost = []string{"slot", "host", "settings", "driver", "drive", "port", "screen"}

// shows is what a test shows under faults, on one evening.
func (w *World) shows(t *Test, faults []*Fault, dice throws) string {
	switch t.Moves {
	case "card":
		return choose(slices.ContainsFunc(faults, func(f *Fault) bool { return f.Part == "card" }), "fails", "works")
	case "chain":
		stays := func(f *Fault) bool { return slices.Contains(ofHost, f.Part) }
		s := w.stand(faults, stays, dice)
		return choose(s.asPlanned(), "works", "fails")
	case "slot":
		elsewhere := func(f *Fault) bool { return f.Part != "slot" }
		s := w.stand(faults, elsewhere, dice)
		return reads["width"](&s)
	}
	before := w.stand(faults, nil, dice)
	gone := func(f *Fault) bool {
		return slices.Contains(t.Replaces, f.Part) || slices.Contains(t.Replaces, f.Name) || slices.Contains(t.Also, f.Name) ||
			f.Reseats && slices.Contains(t.Changes, "reseat") && dice.reseat < reseatCures
	}
	after := w.stand(faults, gone, dice)
	after.gen1, after.capped = slices.Contains(t.Changes, "gen1"), slices.Contains(t.Changes, "capped")
	if t.Reads == "works" {
		return choose(!before.asPlanned() && after.asPlanned(), "cured", "same")
	}
	return reads[t.Reads](&after)
}

// plansOwn are the troubles of the plan itself, as faults of its own making: what a
// finding does to the evening stands in its rule's row.
func (w *World) plansOwn() (faults []*Fault) {
	for i := range w.certain {
		f := &w.certain[i]
		bite := f.Bite()
		if bite.Plays == "" {
			continue
		}
		faults = append(faults, &Fault{Name: f.Rule, Says: f.Says, Part: ofPlan, Does: doesOf(bite.Plays, feedOf(f.Where))})
	}
	return faults
}

// doesOf reads what a rule's row says it plays; feed is the feed that it speaks of.
func doesOf(plays, feed string) map[string][]any {
	does := map[string][]any{}
	for play := range strings.FieldsSeq(plays) {
		what, ways, _ := strings.Cut(play, "=")
		if what == "feed" {
			what = feed
		}
		for way := range strings.SplitSeq(ways, "|") {
			does[what] = append(does[what], way)
		}
	}
	return does
}

// Known returns an error for what a rule's row plays and the model does not know.
func Known(plays string) error {
	for what := range doesOf(plays, "dock_12v") {
		if breaks[what] == nil {
			return fmt.Errorf("%q plays %s, which the model does not know", plays, what)
		}
	}
	return nil
}

// ofPlan is the part of the faults that are the plan's own.
const ofPlan = "plan"

// feedOf is what stays dark where the part at a pointer is not fed.
func feedOf(where string) string {
	switch {
	case rig.Within(where, "/host"):
		return "host"
	case rig.Within(where, "/card/plugs"):
		return "plug"
	default:
		return "dock_12v"
	}
}

// worst is the first certain finding with that effect, or nil.
func (w *World) worst(effect finding.Effect) *finding.Finding {
	for i := range w.certain {
		if w.certain[i].Bite().Effect == effect {
			return &w.certain[i]
		}
	}
	return nil
}

// harmsAtOnce is the chance that what meets another voltage, another supply or ground is
// harmed within the hour (P).
const harmsAtOnce units.Share = 0.5

// burnsPerHour is the chance that a feed beyond what it may carry burns in an hour of use
// (P): weak feeds often run for months first.
const burnsPerHour units.Share = 0.001
