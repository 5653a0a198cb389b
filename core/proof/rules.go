package proof

import (
	"slices"
	"strconv"
	"strings"

	"kolvan/core/finding"
	"kolvan/core/rig"
	"kolvan/core/units"
)

// Subject is what the rules of the forecast judge: a rig, and what its link carries.
type Subject struct {
	Rig *rig.Rig
	Net units.Range[units.GigabytePerSecond]
}

// The shares of the card under which a rig is badly matched.
const (
	halfMatched = 0.6
	badlySo     = 0.4
)

var rules = finding.Table[*Subject]{
	{Rule: finding.Rule{Name: "brief.matched", Title: "The card is held back", Levels: "note; risk",
		Fires: "of the card's own speed a use gets less than 60 % at the most through this link; a risk when it is less than 40 %"}, Judge: judgeMatched},
	{Rule: finding.Rule{Name: "work.gain", Title: "What a use gains", Levels: "note; risk",
		Fires: "what a use is expected to gain over what the host does today, where both are told; a risk when that may be nothing"}, Judge: judgeGain},
}

// proofRules judge what was measured; they are asked only where something was.
var proofRules = finding.Table[*rig.Rig]{
	{Rule: finding.Rule{Name: "proof.unlike", Title: "Runs that differ", Levels: "note",
		Fires: "runs from before the card and with it were not made alike: they are held side by side, without a per cent"}, Judge: judgeUnlike},
	{Rule: finding.Rule{Name: "proof.short", Title: "Too few frames", Levels: "note",
		Fires: "a run has under 1,000 frames: its slowest hundredth is not told"}, Judge: judgeShort},
	{Rule: finding.Rule{Name: "proof.unproven", Title: "The plan says more than was shown", Levels: "note",
		Fires: "the link was read, or runs were made with the card, and no reading under load tells both lanes and generation"}, Judge: judgeUnproven},
}

// Rules lists the rules of this package.
func Rules() []finding.Rule { return slices.Concat(rules.Rules(), proofRules.Rules()) }

// Judge adds what the rules say of a rig over a link of that net rate.
func Judge(r *rig.Rig, net units.Range[units.GigabytePerSecond], out *finding.List) {
	if len(r.Brief.Works) > 0 && net.High > 0 {
		rules.Judge(&Subject{r, net}, out)
	}
	if len(r.Runs) > 0 || len(r.Route.Readings) > 0 {
		proofRules.Judge(r, out)
	}
}

func judgeMatched(r *finding.Rule, s *Subject, out *finding.List) {
	for i := range s.Rig.Brief.Works {
		w := &s.Rig.Brief.Works[i]
		if rig.Is(w.Fills, true) || streams(w) && float64(s.Net.Low) >= encodes {
			continue
		}
		// Most uses are matched at the most: the other end is worked out where one is not.
		if most(spanOf(w, Same), s.Net, ownMB(s.Rig)) >= halfMatched {
			continue
		}
		share := ExpectOf(s.Rig, w, s.Net, Same).Share
		level := finding.Note
		if share[1] < badlySo {
			level = finding.Risk
		}
		out.Add(r, level, usePath(i), finding.Numbers{{Name: "share_low", Value: share[0]}, {Name: "share_high", Value: share[1]}},
			"%s gets %.0f to %.0f %% of the card's own speed through this link.", w.Name, 100*share[0], 100*share[1])
	}
}

func judgeGain(r *finding.Rule, s *Subject, out *finding.List) {
	for i := range s.Rig.Brief.Works {
		w := &s.Rig.Brief.Works[i]
		if !w.TodayHz.Known || !w.CardHz.Known {
			continue // stated: nothing is expected of it
		}
		gain := ExpectOf(s.Rig, w, s.Net, Same).Gain
		if gain == nil {
			continue
		}
		numbers := finding.Numbers{{Name: "gain_low", Value: gain[0]}, {Name: "gain_high", Value: gain[1]}}
		if gain[0] <= 1 {
			out.Add(r, finding.Risk, usePath(i), numbers, "%s is expected to run %.2f to %.2f times as fast as today: it may gain nothing over the host's own graphics.", w.Name, gain[0], gain[1])
			continue
		}
		out.Add(r, finding.Note, usePath(i), numbers, "%s is expected to run %.2f to %.2f times as fast as today.", w.Name, gain[0], gain[1])
	}
}

func usePath(i int) string { return "/brief/works/" + strconv.Itoa(i) }

func judgeUnlike(r *finding.Rule, s *rig.Rig, out *finding.List) {
	for _, g := range GainsOf(s) {
		if len(g.Differs) > 0 {
			out.Add(r, finding.Note, "/runs", nil, "Runs of %s, before and with the card, differ in %s.", useName(g.Use), strings.Join(g.Differs, "; "))
		}
	}
}

// fewFrames: below this many a slowest hundredth is under ten frames.
const fewFrames = 1000

func judgeShort(r *finding.Rule, s *rig.Rig, out *finding.List) {
	for i := range s.Runs {
		if frames, told := s.Runs[i].Frames.Get(); told && frames < fewFrames {
			out.Add(r, finding.Note, "/runs/"+strconv.Itoa(i), finding.Numbers{{Name: "frames", Value: float64(frames)}}, "Run %s has %d frames: too few for its slowest hundredth.", s.Runs[i].Name, frames)
		}
	}
}

func judgeUnproven(r *finding.Rule, s *rig.Rig, out *finding.List) {
	shown := func(reading rig.Reading) bool {
		return rig.Is(reading.Load, "loaded") && reading.Width.Known && reading.Gen.Known
	}
	with := func(run rig.Run) bool { return rig.Is(run.Side, "after") }
	if slices.ContainsFunc(s.Route.Readings, shown) || len(s.Route.Readings) == 0 && !slices.ContainsFunc(s.Runs, with) {
		return
	}
	out.Add(r, finding.Note, "/route", nil, "No reading under load shows the link as planned: at idle it proves its lanes alone.")
}

// useName is how a use is spoken of.
func useName(use string) string {
	if use == "" {
		return "a use that is not named"
	}
	return use
}
