package assess_test

import (
	"strings"
	"testing"

	"pgregory.net/rapid"

	"kolvan/core/assess"
	"kolvan/core/coretest"
	"kolvan/core/finding"
	"kolvan/core/rig"
	"kolvan/core/units"
)

// more makes a told number larger by a factor; false where nobody told it.
func more[T ~float64](f *rig.Fact[T], by float64) bool {
	if !f.Known {
		return false
	}
	f.Value *= T(by)
	return true
}

// worsened are the ways a plan gets worse, each of one fact: what is drawn grows, what
// gives it shrinks, what carries it gets thinner or longer, what is to go in grows.
var worsened = []struct {
	name string
	make func(r *rig.Rig, by float64) bool
}{
	{"the card draws more", func(r *rig.Rig, by float64) bool { return more(&r.Card.Power, by) }},
	{"the host draws more", func(r *rig.Rig, by float64) bool { return more(&r.Host.Power, by) }},
	{"the supplies give less", func(r *rig.Rig, by float64) bool {
		some := false
		for i := range r.Supplies {
			some = more(&r.Supplies[i].Rating, 1/by) || some
		}
		return some
	}},
	{"their rails give less", func(r *rig.Rig, by float64) bool {
		some := false
		for i := range r.Supplies {
			for j := range r.Supplies[i].Rails {
				some = more(&r.Supplies[i].Rails[j].Current, 1/by) || some
			}
		}
		return some
	}},
	{"the leads are longer", func(r *rig.Rig, by float64) bool {
		some := false
		for i := range r.Leads {
			some = more(&r.Leads[i].Length, by) || some
		}
		return some
	}},
	{"the stages are longer", func(r *rig.Rig, by float64) bool {
		some := false
		for i := range r.Route.Stages {
			repeats := r.Route.Stages[i].Repeats.Known
			some = !repeats && more(&r.Route.Stages[i].Length, by) || some
		}
		return some
	}},
	{"the card is longer", func(r *rig.Rig, by float64) bool { return more(&r.Card.Length, by) }},
	{"the card is thicker", func(r *rig.Rig, by float64) bool { return more(&r.Card.Thickness, by) }},
	{"the uses want more", func(r *rig.Rig, by float64) bool {
		some := false
		for i := range r.Brief.Works {
			some = more(&r.Brief.Works[i].Memory, by) || some
		}
		return some
	}},
	{"the cables hang further", func(r *rig.Rig, by float64) bool {
		return eachStage(r, func(s *rig.Stage) bool { return more(&s.Free, by) })
	}},
	{"the cables are twisted more", func(r *rig.Rig, by float64) bool {
		return eachStage(r, func(s *rig.Stage) bool { return more(&s.Twist, by) })
	}},
	{"the walls before their plugs are nearer", func(r *rig.Rig, by float64) bool {
		return eachStage(r, func(s *rig.Stage) bool {
			plug, socket := more(&s.AtPlug.Wall, 1/by), more(&s.AtSocket.Wall, 1/by)
			return plug || socket
		})
	}},
	{"their openings are smaller", func(r *rig.Rig, by float64) bool {
		return eachStage(r, func(s *rig.Stage) (some bool) {
			for i := range s.Openings {
				some = more(&s.Openings[i].Width, 1/by) || some
			}
			return some
		})
	}},
	{"the card is heavier", func(r *rig.Rig, by float64) bool { return more(&r.Card.Mass, by) }},
	{"its backplate stands out more", func(r *rig.Rig, by float64) bool { return more(&r.Card.Back, by) }},
	{"less air moves", func(r *rig.Rig, by float64) bool {
		some := more(&r.Chamber.Air, 1/by)
		for i := range r.Chamber.Fans {
			some = more(&r.Chamber.Fans[i].Air, 1/by) || some
		}
		return some
	}},
	{"the inlet has less room", func(r *rig.Rig, by float64) bool { return more(&r.Chamber.Inlet, 1/by) }},
	{"it stands on less", func(r *rig.Rig, by float64) bool { return more(&r.Chamber.Stand.Base, 1/by) }},
	{"it stands higher", func(r *rig.Rig, by float64) bool { return more(&r.Chamber.Stand.Height, by) }},
	{"its cables pull more", func(r *rig.Rig, by float64) bool { return more(&r.Chamber.Stand.Pull, by) }},
	{"the covers are raised less", func(r *rig.Rig, by float64) bool {
		some := false
		for i := range r.Chamber.Covers {
			some = more(&r.Chamber.Covers[i].Raised, 1/by) || some
		}
		return some
	}},
	{"its bag is smaller", func(r *rig.Rig, by float64) bool { return more(&r.Brief.Travel.Length, 1/by) }},
	{"there is less money", func(r *rig.Rig, by float64) bool { return more(&r.Brief.Budget, 1/by) }},
}

// eachStage worsens every stage that tells the fact.
func eachStage(r *rig.Rig, worsen func(*rig.Stage) bool) (some bool) {
	for i := range r.Route.Stages {
		some = worsen(&r.Route.Stages[i]) || some
	}
	return some
}

// still reports that what a finding says is said at its level at least, that a worse one of
// its family has taken its place, as a supply's rating takes that of its share, or that as
// many of its family are as bad: a card that grows out of its case leaves open what it met.
func still(before, after *assess.Report, f *finding.Finding) bool {
	family, _, _ := strings.Cut(f.Rule, ".")
	asBad := 0
	for i, report := range []*assess.Report{before, after} {
		for _, one := range report.Findings {
			if one.Level == finding.Unknown || one.Level < f.Level || !strings.HasPrefix(one.Rule, family+".") {
				continue
			}
			if asBad += 2*i - 1; i == 1 && (one.Rule == f.Rule || one.Level > f.Level) {
				return true
			}
		}
	}
	return asBad >= 0
}

// TestWorseNeverHelps: a plan that gets worse in one fact says nothing milder of what
// was said before.
func TestWorseNeverHelps(t *testing.T) {
	ref := coretest.Tables(t)
	tried := map[string]int{}
	rapid.Check(t, func(rt *rapid.T) {
		r := anyCase(rt, t)
		before := assess.Rig(r, ref)
		w := rapid.SampledFrom(worsened).Draw(rt, "worse")
		by := rapid.Float64Range(1.01, 3).Draw(rt, "by")
		if !w.make(r, by) || rig.Validate(r) != nil {
			return
		}
		tried[w.name]++
		after := assess.Rig(r, ref)
		for _, f := range before.Findings {
			if f.Level == finding.Note || f.Level == finding.Unknown {
				continue
			}
			if longer := strings.HasSuffix(w.name, "are longer"); longer && (f.Rule == "fit.cable" || f.Rule == "fit.strain") {
				continue // it reaches further, and a twist is spread over more of it
			}
			if !still(&before, &after, &f) {
				rt.Fatalf("%s, %.2f times: %s was %v: %s\nnow: %v", w.name, by, f.Rule, f.Level, f.Says, after.Findings)
			}
		}
	})
	if len(tried) < 3 {
		t.Errorf("hardly anything was tried: %v", tried)
	}
}

// TestAFeedHasNoFreeWatts: what supplies give, losses of converters aside, is what the
// host, the card and the stages draw.
func TestAFeedHasNoFreeWatts(t *testing.T) {
	ref := coretest.Tables(t)
	rapid.Check(t, func(rt *rapid.T) {
		r := anyCase(rt, t)
		report := assess.Rig(r, ref)
		if report.Stops() || !r.Card.Power.Known || !r.Host.Power.Known || strings.Contains(r.Name, "box") {
			return
		}
		sum := units.Watt(0)
		for i := range report.Power.Supplies {
			if load := report.Power.Supplies[i].Load; load.Known() {
				sum += load.High
			} else {
				return // not all is told
			}
		}
		least := min(r.Card.Power.Value, r.Host.Power.Value)
		if sum > 0 && sum < least {
			rt.Fatalf("supplies give %v; the lesser of card and host draws %v", sum, least)
		}
	})
}
