package proof

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"kolvan/core/rig"
	"kolvan/core/units"
)

// Evidence is one thing that was seen, and what it speaks for.
type Evidence struct {
	Says   string
	For    string  // card, processor, link, cap, drive; empty for what proves nothing
	Weight float64 // how many times as likely that makes it
	Not    string  // what it speaks against, by the same weight
}

// Counts is what it speaks for and by what weight; empty for what proves nothing.
func (e Evidence) Counts() string {
	switch {
	case e.For != "":
		return fmt.Sprintf("%s, ×%.2g", e.For, e.Weight)
	case e.Not != "":
		return fmt.Sprintf("against the %s, ×%.2g", e.Not, e.Weight)
	default:
		return ""
	}
}

// Pinch is what holds a use back, as far as its runs tell.
type Pinch struct {
	Fitted
	Name     string // card, processor, link or cap; empty where it cannot be told
	Likely   string // what it most likely is, where it cannot be told
	InTen    int    // and in how many of ten
	Evidence []Evidence
	Knob     string // which settings buy speed, and what is free
}

// What the evidence weighs (P).
const (
	atCap      = 0.01 // within so much of a cap the cap holds
	nearLimit  = 0.95 // of its board power: the card works as hard as it may
	nearPlan   = 0.8  // of the link's planned rate, moved while frames are drawn
	sameElse   = 0.05 // a rate elsewhere that is the same
	weighsMuch = 4.0
	weighsSome = 2.5
)

// PinchOf weighs all that the runs of a use tell of what holds it back: the terms that
// explain them, and what was read beside them.
func PinchOf(r *rig.Rig, use string, netAt func(gen int) units.Range[units.GigabytePerSecond]) Pinch {
	runs := WithCard(r, use)
	p := Pinch{Fitted: TermsOf(runs, netAt)}
	p.Name = p.Fitted.Pinch
	p.see(
		atTheCap(runs, r.Brief.Screen.Rate), ofTheLink(runs, netAt(0)), ofTheCard(runs, r.Card.Power), ofTheProcessor(runs),
		elsewhere(r, use, runs), anotherCard(r, use, runs), swept(runs), proveNothing(r, use, runs),
	)
	if slices.ContainsFunc(p.Evidence, func(e Evidence) bool { return e.For == "cap" }) {
		p.Name = "cap"
	}
	if p.Name == "" && len(runs) > 0 {
		p.weigh()
	}
	p.Knob = knobs[p.Name]
	return p
}

func (p *Pinch) see(lists ...[]Evidence) {
	for _, list := range lists {
		p.Evidence = append(p.Evidence, list...)
	}
}

// weigh says what it most likely is: each set of terms that explains the runs counts for
// its greatest, what was read beside them multiplies.
func (p *Pinch) weigh() {
	weight := map[string]float64{"card": 1, "processor": 1, "link": 1}
	for name, share := range p.shares {
		weight[name] += 3 * share
	}
	told := len(p.fits) > 0
	for _, e := range p.Evidence {
		if weight[e.For] > 0 {
			weight[e.For] *= e.Weight
			told = true
		}
		if weight[e.Not] > 0 {
			weight[e.Not] /= e.Weight
		}
	}
	if !told {
		return
	}
	sum := 0.0
	for _, name := range []string{"card", "processor", "link"} {
		sum += weight[name]
		if p.Likely == "" || weight[name] > weight[p.Likely] {
			p.Likely = name
		}
	}
	p.InTen = int(math.Round(10 * weight[p.Likely] / sum))
	if p.InTen < 5 {
		p.Likely, p.InTen = "", 0
	}
}

// PinchTold is what holds a use back, as a forecast tells it.
type PinchTold struct {
	Name     string     `json:"name"`      // card, processor, link or cap; empty where it cannot be told
	Likely   string     `json:"likely"`    // what it most likely is, where it cannot be told
	InTen    int        `json:"in_ten"`    // and in how many of ten
	PartedBy string     `json:"parted_by"` // the run that would tell more
	Terms    *TermsTold `json:"terms_ms"`  // null where no run tells them
	Evidence []string   `json:"evidence"`
	Knob     string     `json:"knob"`
}

// TermsTold are the terms of a frame, ms, as ranges.
type TermsTold struct {
	Processor [2]float64 `json:"processor"`
	Card      [2]float64 `json:"card"`
	Link      [2]float64 `json:"link"`
}

func rounded(ends [2]float64) [2]float64 {
	return [2]float64{units.Round(ends[0], units.ReportDigits), units.Round(ends[1], units.ReportDigits)}
}

func pinchTold(r *rig.Rig, w *rig.Work, link Link) *PinchTold {
	if link.At == nil || len(WithCard(r, w.Name)) == 0 {
		return nil
	}
	p := PinchOf(r, w.Name, link.At)
	told := &PinchTold{Name: p.Name, Likely: p.Likely, InTen: p.InTen, PartedBy: p.PartedBy, Evidence: []string{}, Knob: p.Knob}
	if len(p.fits) > 0 {
		told.Terms = &TermsTold{rounded(p.C), rounded(p.G), rounded(p.L)}
	}
	for _, e := range p.Evidence {
		told.Evidence = append(told.Evidence, strings.TrimSuffix(e.Says+": "+e.Counts(), ": "))
	}
	return told
}

// knobs say which settings buy speed, and what is free, by what holds it back.
var knobs = map[string]string{
	"card": "Resolution, upscaling, shadows and effects buy speed; textures are free as long as they fit the card's memory.",
	"processor": "View distance, crowds and simulation buy speed; resolution, textures and most effects are free up to what the card " +
		"still has.",
	"link": "Less that moves for each frame buys speed: textures that fit the card's memory, a screen on the card itself, a cap on the " +
		"rate; effects drawn on the card are free.",
	"cap": "Raise the cap, or let it be: up to it all quality is free.",
}

// atTheCap sees runs within a hundredth of a cap, or of the screen's rate with sync on.
func atTheCap(runs []*rig.Run, screen rig.Fact[float64]) (list []Evidence) {
	for _, run := range runs {
		near := func(rate rig.Fact[float64]) bool {
			return rate.Known && run.Average.Known && math.Abs(run.Average.Value/rate.Value-1) <= atCap
		}
		switch {
		case near(run.Cap):
			list = append(
				list,
				Evidence{fmt.Sprintf("%s runs within 1 %% of its cap of %.4g Hz", run.Name, run.Cap.Value), "cap", weighsMuch, ""},
			)
		case rig.Is(run.Sync, true) && near(screen):
			list = append(
				list, Evidence{fmt.Sprintf("%s runs within 1 %% of the screen's rate, held to it", run.Name), "cap", weighsMuch, ""},
			)
		default:
			return nil // one run is faster than what would hold them
		}
	}
	return list
}

// ofTheLink sees what moved over the link while frames were drawn.
func ofTheLink(runs []*rig.Run, net units.Range[units.GigabytePerSecond]) []Evidence {
	for i := range runs {
		if moved := runs[i].Copies; moved.Known && net.High > 0 && moved.Value >= nearPlan*float64(net.High) {
			return []Evidence{{
				fmt.Sprintf("%.2g GB/s moved over the link during %s, near the %.2g planned", moved.Value, runs[i].Name, float64(net.High)),
				"link", weighsMuch, "",
			}}
		}
	}
	return nil
}

// ofTheCard sees its board power near its limit.
func ofTheCard(runs []*rig.Run, limit rig.Fact[units.Watt]) []Evidence {
	for i := range runs {
		if w := runs[i].Board; w.Known && limit.Known && w.Value >= nearLimit*limit.Value {
			return []Evidence{{
				fmt.Sprintf("board power at %.0f %% of its limit during %s", 100*float64(w.Value/limit.Value), runs[i].Name), "card",
				weighsMuch, "",
			}}
		}
	}
	return nil
}

// The use of the card under which it waits, and that of the processor from which it does not (P).
const (
	cardWaits     = 0.6
	processorFull = 0.95
)

// ofTheProcessor sees it full while the card waits, or one core of it.
func ofTheProcessor(runs []*rig.Run) []Evidence {
	for i := range runs {
		run := runs[i]
		if busy := run.Busy; busy.Known && busy.Value < cardWaits && run.ProcUse.Known && run.ProcUse.Value >= processorFull {
			return []Evidence{{
				fmt.Sprintf("the processor is %v busy and the card %v during %s", run.ProcUse.Value, busy.Value, run.Name), "processor", weighsMuch, "",
			}}
		}
		if rig.Is(run.Core, true) {
			return []Evidence{{"one processor core was full during " + run.Name, "processor", weighsSome, ""}}
		}
	}
	return nil
}

// elsewhere holds the same card on another machine, made alike, against it here.
func elsewhere(r *rig.Rig, use string, here []*rig.Run) (list []Evidence) {
	for i := range r.Runs {
		there := &r.Runs[i]
		if there.Use != use || !rig.Is(there.Side, "elsewhere") || len(here) == 0 {
			continue
		}
		alike := slices.IndexFunc(here, func(run *rig.Run) bool { return len(settingsDiffer([]*rig.Run{there}, []*rig.Run{run})) == 0 })
		if alike < 0 {
			continue
		}
		run := here[alike]
		switch {
		case there.Average.Known && run.Average.Value >= (1-sameElse)*there.Average.Value:
			list = append(list, Evidence{"the same rate as on " + machine(there), "card", weighsSome, ""})
		case there.Average.Known && run.Average.Known:
			list = append(
				list,
				Evidence{
					fmt.Sprintf(
						"%.0f %% of its rate on %s: it is not the card; which of slot and processor it is a change of host does not tell, since both changed",
						100*run.Average.Value/there.Average.Value, machine(there),
					),
					"", weighsSome, "card",
				},
			)
		}
		if a, b := there.ProcSub, run.ProcSub; a.Known && b.Known && b.Value < 0.8*a.Value {
			list = append(
				list, Evidence{"the processor's part of the score is lower than on " + machine(there), "processor", weighsSome, ""},
			)
		}
		if a, b := there.CardSub, run.CardSub; a.Known && b.Known && b.Value < 0.8*a.Value {
			list = append(
				list,
				Evidence{
					"the card's part of the score is lower than on " + machine(there) + ", with the same card", "link", weighsSome, "",
				},
			)
		}
	}
	return list
}

// anotherCard holds this card against another that the same host had, made alike: where both
// run as fast it is neither of them.
func anotherCard(r *rig.Rig, use string, here []*rig.Run) []Evidence {
	for i := range r.Runs {
		other := &r.Runs[i]
		if other.Use != use || !rig.Is(other.Side, "after") || r.OfCard(other.Card) || other.Average.Value <= 0 {
			continue
		}
		alike := slices.IndexFunc(here, func(run *rig.Run) bool {
			return run.Average.Value > 0 && setupOf(run) == setupOf(other)
		})
		if alike < 0 {
			continue
		}
		if ratio := here[alike].Average.Value / other.Average.Value; math.Abs(ratio-1) <= sameElse {
			return []Evidence{{"as fast as with " + other.Card + " in this host: it is not the card", "", weighsSome, "card"}}
		}
		return []Evidence{{
			fmt.Sprintf("%.2g times as fast as with %s in this host", here[alike].Average.Value/other.Average.Value, other.Card),
			"card", weighsSome, "",
		}}
	}
	return nil
}

func machine(r *rig.Run) string {
	if r.Machine != "" {
		return r.Machine
	}
	return "another machine"
}

// stallsDiffer reports slowest thousandths apart by more than a fifth, in either school.
func stallsDiffer(a, b *rig.Run) bool {
	for _, low := range [...][2]rig.Fact[float64]{{a.Low01, b.Low01}, {a.Low01M, b.Low01M}} {
		if low[0].Known && low[1].Known && low[0].Value > 0 && math.Abs(low[1].Value/low[0].Value-1) > 0.2 {
			return true
		}
	}
	return false
}

// swept sees what a second resolution, and a second generation, did to the rate.
func swept(runs []*rig.Run) (list []Evidence) {
	for i := range runs {
		for j := range runs[:i] {
			a, b := runs[j], runs[i]
			if !a.Average.Known || !b.Average.Known || a.Average.Value <= 0 || !a.Width.Known || !b.Width.Known || !a.Height.Known ||
				!b.Height.Known {
				continue
			}
			pixels, rate := float64(b.Width.Value*b.Height.Value)/float64(a.Width.Value*a.Height.Value), b.Average.Value/a.Average.Value
			if pixels < 1 {
				pixels, rate = 1/pixels, 1/rate
			}
			switch {
			case pixels > 1.2 && a.Gen == b.Gen && rate > 0.97:
				list = append(list, Evidence{"the rate is unmoved by the resolution: processor, link or cap, one of them", "", 1, ""})
			case pixels > 1.2 && a.Gen == b.Gen && rate < math.Pow(pixels, -0.5):
				list = append(
					list,
					Evidence{fmt.Sprintf("with %.2g times the pixels the rate falls to %.0f %%", pixels, 100*rate), "card", weighsSome, ""},
				)
			case pixels == 1 && a.Gen != b.Gen && math.Abs(rate-1) > 0.1:
				list = append(list, Evidence{"the rate follows the generation of the link", "link", weighsSome, ""})
			case pixels == 1 && a.Drive != b.Drive && a.Drive != "" && b.Drive != "" && stallsDiffer(a, b):
				list = append(list, Evidence{"its stalls follow the drive the work lies on", "drive", weighsSome, ""})
			}
		}
	}
	slices.SortStableFunc(list, func(a, b Evidence) int { return int(b.Weight*10) - int(a.Weight*10) })
	return slices.CompactFunc(list[:min(len(list), 4)], func(a, b Evidence) bool { return a.Says == b.Says })
}

// proveNothing are readings that are often taken for a proof, and are none.
func proveNothing(r *rig.Rig, use string, runs []*rig.Run) (list []Evidence) {
	for i := range runs {
		if runs[i].Busy.Known && runs[i].Busy.Value >= 0.9 {
			list = append(
				list,
				Evidence{fmt.Sprintf("the card is %v busy: so is a starved one, it proves nothing", runs[i].Busy.Value), "", 1, ""},
			)
			break
		}
	}
	if slices.ContainsFunc(runs, func(run *rig.Run) bool { return run.Clock.Known }) {
		list = append(list, Evidence{"the card's clock is as high on a starved card: it proves nothing", "", 1, ""})
	}
	if slices.ContainsFunc(runs, func(run *rig.Run) bool {
		return run.Score.Known && !run.CardSub.Known && !run.ProcSub.Known && !run.Average.Known
	}) {
		list = append(list, Evidence{"an overall score does not tell its parts apart", "", 1, ""})
	}
	for _, g := range GainsOf(r) {
		for _, f := range g.Figures {
			if g.Use == use && f.Main() && f.Ratio != nil && math.Abs(*f.Ratio-1) < 0.03 {
				list = append(
					list,
					Evidence{
						"no change at all: perhaps the host's own graphics did the work. Look which graphics the work names in its settings or its log, " +
							"and watch the card's board power during a run",
						"", 1, "",
					},
				)
			}
		}
	}
	return list
}
