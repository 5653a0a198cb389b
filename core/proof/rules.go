package proof

import (
	"slices"
	"strconv"
	"strings"

	"kolvan/core/finding"
	"kolvan/core/rig"
)

// Subject is what the rules judge: a rig, what its link carries, and what its runs show.
type Subject struct {
	Rig   *rig.Rig
	Link  Link
	runs  []*rig.Run // of this card, over this link
	gains []Gain
}

// The shares of the card under which a rig is badly matched.
const (
	halfMatched = 0.6
	badlySo     = 0.4
)

// The names of the rules, as reports and files have them.
const (
	RuleMatched  = "brief.matched"
	RuleGain     = "work.gain"
	RuleUnlike   = "proof.unlike"
	RuleTail     = "proof.tail"
	RuleShort    = "proof.short"
	RuleUnproven = "proof.unproven"
)

var rules = finding.Table[*Subject]{
	{Rule: finding.Rule{
		Name: RuleMatched, Station: finding.Brief, Title: "The card is held back", Levels: finding.Levels{finding.Note, finding.Risk},
		Line: "the link holds the card back", Tag: "held back",
		Would:   "a wider link, or a card that suits this one",
		Evening: finding.Evening{finding.Risk: finding.Weakens()},
		Figures: finding.Figures{"share_low": finding.LessIsWorse},
		Fires:   "of the card's own speed a use gets less than 60 % at the most through this link; a risk when it is less than 40 %",
		Example: "Stacking gets 11 to 40 % of the card's own speed through this link.",
	}, Judge: judgeMatched},
	{Rule: finding.Rule{
		Name: RuleGain, Station: finding.Brief, Title: "What a use gains", Levels: finding.Levels{finding.Note, finding.Risk},
		Line: "{thing} gains little", Tag: "little gain",
		Would:   "a wider link, or another use",
		Evening: finding.Evening{finding.Risk: finding.Weakens()},
		Figures: finding.Figures{"gain_low": finding.LessIsWorse},
		Fires:   "what a use is expected to gain over what the host does today, where both are told; a risk when that may be nothing",
		Example: "Stacking is expected to run 2.55 to 4.18 times as fast as before the card.",
	}, Judge: judgeGain},
}

// proofRules judge what was measured; they are asked only where something was.
var proofRules = finding.Table[*Subject]{
	{Rule: finding.Rule{
		Name: RuleUnlike, Station: finding.Proof, Title: "Runs that differ", Levels: finding.Levels{finding.Note}, Notes: true,
		Fires:   "runs from before the card and with it were not made alike: they are held side by side, without a per cent",
		Example: "Runs of a use that is not named, before and with the card, differ in resolution: 1920 by 1080 against 2560 by 1440.",
	}, Judge: judgeUnlike},
	{Rule: finding.Rule{
		Name: RuleTail, Station: finding.Proof, Title: "The slowest frames fell behind", Levels: finding.Levels{finding.Risk},
		Line: "single frames fell behind", Tag: "slow frames",
		Would:   "more memory, a faster drive, or a faster processor",
		Evening: finding.Evening{finding.Risk: finding.Unseen()},
		Figures: finding.Figures{"average_ratio": finding.MoreIsWorse},
		Fires: "with the card the average rose, and the slowest thousandth got slower than before: the drive, the memory or the link " +
			"holds single frames up",
		Example: "A use that is not named: the average is 3.00 times as fast, the slowest thousandth only 0.50 times. Single frames wait for " +
			"a drive, for memory or for the link: run it with its data on another drive.",
	}, Judge: judgeTail},
	{Rule: finding.Rule{
		Name: RuleShort, Station: finding.Proof, Title: "Too few frames", Levels: finding.Levels{finding.Note}, Notes: true,
		Figures: finding.Figures{"frames": finding.LessIsWorse},
		Fires:   "a run has under 1,000 frames: its slowest hundredth is not told",
		Example: "Run a has 999 frames: too few for its slowest hundredth.",
	}, Judge: judgeShort},
	{Rule: finding.Rule{
		Name: RuleUnproven, Station: finding.Proof, Title: "The plan says more than was shown", Levels: finding.Levels{finding.Note}, Notes: true,
		Fires:   "the link was read, or runs were made with the card, and no reading under load tells both lanes and generation",
		Example: "No reading under load shows the link as planned: at idle it proves its lanes alone.",
	}, Judge: judgeUnproven},
}

// Rules lists the rules of this package.
func Rules() []finding.Rule { return slices.Concat(rules.Rules(), proofRules.Rules()) }

// Judge adds what the rules say of a rig over a link.
func Judge(r *rig.Rig, link Link, out *finding.List) {
	net, subject := link.Net, Subject{Rig: r, Link: link}
	if len(r.Runs) > 0 {
		subject.runs = overThisLink(ofThisCard(r), net)
		subject.gains = gainsOf(subject.runs)
	}
	if len(r.Brief.Works) > 0 && net.High > 0 {
		rules.Judge(&subject, out)
	}
	if len(r.Runs) > 0 || len(r.Route.Readings) > 0 || len(r.LoadReadings) > 0 {
		proofRules.Judge(&subject, out)
	}
}

// Has reports a rule of this package.
func Has(name string) bool { return rules.Of(name) != nil || proofRules.Of(name) != nil }

func judgeMatched(r *finding.Rule, s *Subject, out *finding.List) {
	for i := range s.Rig.Brief.Works {
		w := &s.Rig.Brief.Works[i]
		// Most uses are matched at the most: the other end is worked out where one is not.
		if most(s.Rig, w, s.Link) >= halfMatched {
			continue
		}
		share := measuredShare(s.runs, w, utmostOf(s.Rig, w, s.Link).Share)
		if share[1] >= halfMatched {
			continue
		}
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
		if gain := measuredGain(s.gains, w.Name); gain != nil {
			sayGain(r, i, w.Name+" was measured to run", *gain, out)
			continue
		}
		if !w.TodayHz.Known || !w.CardHz.Known {
			continue // stated: nothing is expected of it
		}
		if gain := utmostOf(s.Rig, w, s.Link).Gain; gain != nil {
			sayGain(r, i, w.Name+" is expected to run", *gain, out)
		}
	}
}

// sayGain tells a gain, a risk where it may be none.
func sayGain(r *finding.Rule, i int, runs string, gain [2]float64, out *finding.List) {
	numbers := finding.Numbers{{Name: "gain_low", Value: gain[0]}, {Name: "gain_high", Value: gain[1]}}
	if gain[0] <= 1 {
		out.Add(
			r, finding.Risk, usePath(i), numbers,
			"%s %.2f to %.2f times as fast as before the card: it may gain nothing over the host's own graphics.", runs, gain[0],
			gain[1],
		)
		return
	}
	out.Add(r, finding.Note, usePath(i), numbers, "%s %.2f to %.2f times as fast as before the card.", runs, gain[0], gain[1])
}

// unsure is what a ratio of single runs may be off by (P).
const unsure = 0.1

// measuredGain is what runs of a use, made alike, show over before the card.
func measuredGain(gains []Gain, use string) *[2]float64 {
	for _, g := range gains {
		for _, f := range g.Figures {
			if g.Use != use || !f.Main() || f.Ratio == nil {
				continue
			}
			if f.Interval == nil || f.Name == "duration_s" {
				return &[2]float64{*f.Ratio * (1 - unsure), *f.Ratio * (1 + unsure)}
			}
			return &[2]float64{1 + f.Interval[0], 1 + f.Interval[1]}
		}
	}
	return nil
}

// measuredShare narrows the share of the card's own speed by a rate that was measured with
// it, where its own rate is told; where the two have nothing in common, what was planned
// stands.
func measuredShare(runs []*rig.Run, w *rig.Work, planned [2]float64) [2]float64 {
	own, told := w.CardHz.Get()
	if !told || own <= 0 || len(runs) == 0 {
		return planned
	}
	tolerance, _ := w.CardHz.Spread()
	mean, off, known := meanOf(withCard(runs, w.Name), measures[0].of)
	if !known {
		return planned
	}
	off = max(off, unsure*mean)
	low, high := max(planned[0], (mean-off)/(own+tolerance)), min(planned[1], (mean+off)/max(own-tolerance, 1e-9))
	if low > high {
		return planned
	}
	return [2]float64{low, high}
}

func usePath(i int) string { return "/brief/works/" + strconv.Itoa(i) }

func judgeUnlike(r *finding.Rule, s *Subject, out *finding.List) {
	for _, g := range s.gains {
		if len(g.Differs) > 0 {
			out.Add(
				r, finding.Note, "/runs", nil, "Runs of %s, before and with the card, differ in %s.", useName(g.Use),
				strings.Join(g.Differs, "; "),
			)
		}
	}
}

// judgeTail looks for an average that rose while the slowest frames got slower.
func judgeTail(r *finding.Rule, s *Subject, out *finding.List) {
	for _, g := range s.gains {
		rose, fell := 0.0, 0.0
		for _, f := range g.Figures {
			switch {
			case f.Ratio == nil || f.Says == "no difference seen":
			case f.Name == "average_hz" && *f.Ratio > 1:
				rose = *f.Ratio
			case (f.Name == "low01_p99_hz" || f.Name == "low01_mean_hz") && *f.Ratio < 1:
				fell = *f.Ratio
			}
		}
		if rose > 0 && fell > 0 {
			out.Add(
				r,
				finding.Risk,
				"/runs",
				finding.Numbers{{Name: "average_ratio", Value: rose}, {Name: "low01_ratio", Value: fell}},
				"%s: the average is %.2f times as fast, the slowest thousandth only %.2f times. Single frames wait for a drive, for memory or for "+
					"the link: run it with its data on another drive.",
				useName(g.Use),
				rose,
				fell,
			)
		}
	}
}

// fewFrames: below this many a slowest hundredth is under ten frames.
const fewFrames = 1000

func judgeShort(r *finding.Rule, s *Subject, out *finding.List) {
	for i := range s.Rig.Runs {
		if frames, told := s.Rig.Runs[i].Frames.Get(); told && frames < fewFrames {
			out.Add(
				r, finding.Note, "/runs/"+strconv.Itoa(i), finding.Numbers{{Name: "frames", Value: float64(frames)}},
				"Run %s has %d frames: too few for its slowest hundredth.", s.Rig.Runs[i].Name, frames,
			)
		}
	}
}

func judgeUnproven(r *finding.Rule, s *Subject, out *finding.List) {
	shown := func(reading rig.Reading) bool {
		return rig.Is(reading.Load, "loaded") && reading.Width.Known && reading.Gen.Known
	}
	with := func(run rig.Run) bool { return rig.Is(run.Side, "after") }
	if slices.ContainsFunc(s.Rig.Route.Readings, shown) || len(s.Rig.Route.Readings) == 0 && !slices.ContainsFunc(s.Rig.Runs, with) {
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
