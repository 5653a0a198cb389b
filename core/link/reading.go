package link

import (
	"fmt"
	"strconv"

	"kolvan/core/finding"
	"kolvan/core/odds"
	"kolvan/core/rig"
	"kolvan/core/units"
)

// ErrorClaim is the error rate a sound link stays under.
const ErrorClaim = 1e-12

// gigabits of one lane, in bits.
const giga = 1e9

// ErrorRate is what a count of errors says of the rate behind it: errors for each
// bit, with its 95 % interval (reference, section 1). Correctable error status is a
// sticky bit, so a count is a lower bound.
type ErrorRate struct {
	Bits           float64
	Estimate       float64
	Low, High      float64
	Below          float64      // of none seen, what the rate is under with 95 %, one-sided; else 0
	SecondsToClaim units.Second // clean running that would show the rate to be under ErrorClaim
}

// Errors works out the rate of a link of that width at that speed in GT/s.
func Errors(count, width int, gtPerS float64, over units.Second) ErrorRate {
	perSecond := float64(width) * gtPerS * giga
	e := ErrorRate{Bits: perSecond * float64(over), SecondsToClaim: units.Second(odds.NoneSeen / ErrorClaim / perSecond)}
	low, high := odds.CountInterval(count)
	e.Estimate, e.Low, e.High = float64(count)/e.Bits, low/e.Bits, high/e.Bits
	if count == 0 {
		e.Below = odds.NoneSeen / e.Bits
	}
	return e
}

func readingPath(i int) string { return "/route/readings/" + strconv.Itoa(i) }

// judgeMeasured holds what the system read of the link against the plan. At idle a
// link may rest at a lower speed, so that proves its width alone.
func judgeMeasured(r *finding.Rule, p *Plan, out *finding.List) {
	for i := range p.rig.Route.Readings {
		reading := &p.rig.Route.Readings[i]
		at := readingPath(i)
		if reading.Width.Known && reading.Width.Value < p.WidthEnds.Low {
			out.Add(
				r,
				finding.Risk,
				at,
				finding.Numbers{
					{Name: "width", Value: float64(reading.Width.Value)}, {Name: "planned", Value: float64(p.WidthEnds.Low)},
				},
				"The link was read at x%d; x%d is planned. Load does not change the width: look at the contacts, the cable and what shares the lanes.",
				reading.Width.Value,
				p.WidthEnds.Low,
			)
		}
		if !reading.Gen.Known || reading.Gen.Value >= p.GenEnds.Low || p.GenEnds.Low == 0 {
			continue
		}
		numbers := finding.Numbers{
			{Name: "generation", Value: float64(reading.Gen.Value)}, {Name: "planned", Value: float64(p.GenEnds.Low)},
		}
		switch {
		case rig.Is(reading.Load, rig.Loaded):
			out.Add(r, finding.Risk, at, numbers, "Under load the link ran at Gen %d; Gen %d is planned.", reading.Gen.Value, p.GenEnds.Low)
		case rig.Is(reading.Load, rig.Idle):
			out.Add(
				r, finding.Note, at, numbers,
				"Gen %d was read at idle, where a link rests: it says only that it was idle. Read it again under load.",
				reading.Gen.Value,
			)
		default:
			out.Need(
				r, at+"/load", "whether the link was read under load",
				"Read it again while the card works: at idle it rests at a lower speed.",
				fmt.Sprintf("whether Gen %d where Gen %d is planned is a fault", reading.Gen.Value, p.GenEnds.Low),
			)
		}
	}
}

// noErrorClaim is the generation with an error scheme of its own.
const noErrorClaim = 6

func judgeErrors(r *finding.Rule, p *Plan, out *finding.List) {
	for i := range p.rig.Route.Readings {
		reading := &p.rig.Route.Readings[i]
		count, counted := reading.Errors.Get()
		if !counted {
			continue
		}
		width, gen := known(reading.Width, p.WidthEnds), known(reading.Gen, p.GenEnds)
		row, listed := p.ref.Generation(gen.Value)
		at := readingPath(i)
		switch {
		case !reading.Seconds.Known || reading.Seconds.Value == 0:
			if count > 0 {
				out.Need(
					r, at+"/seconds", "over how long the errors were counted",
					"Clear the counters, run under load, and read them again after a known time.", "the rate of errors",
				)
			}
			continue
		case !width.Known || !gen.Known || width.Value == 0 || !listed || gen.Value == noErrorClaim:
			continue
		}
		p.judgeRate(r, at, count, Errors(count, width.Value, row.GTPerS, reading.Seconds.Value), out)
	}
}

// judgeRate: a rate that is certainly too high is a risk, one that only seems so a
// note.
func (p *Plan) judgeRate(r *finding.Rule, at string, count int, e ErrorRate, out *finding.List) {
	if e.Estimate <= ErrorClaim {
		return
	}
	level, sure := finding.Note, "more time under load would tell"
	if e.Low > ErrorClaim {
		level, sure = finding.Risk, "more than a sound link has, for certain"
	}
	out.Add(
		r,
		level,
		at,
		finding.Numbers{
			{Name: "ber", Value: e.Estimate}, {Name: "ber_low", Value: e.Low}, {Name: "ber_high", Value: e.High},
			{Name: "errors", Value: float64(count)},
		},
		"%d errors in %.3g bits: %.1e of a bit, between %.1e and %.1e with 95 %%; %s. Counters are sticky, so the truth is no less. Force a "+
			"lower generation, or mend the path.",
		count,
		e.Bits,
		e.Estimate,
		e.Low,
		e.High,
		sure,
	)
}

// known is what was read, else what is planned for certain.
func known(read rig.Fact[int], planned units.Range[int]) rig.Fact[int] {
	if read.Known || !planned.Known() {
		return read
	}
	return rig.Of(planned.High)
}
