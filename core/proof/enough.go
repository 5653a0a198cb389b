package proof

import (
	"fmt"
	"math"
	"strings"

	"kolvan/core/rig"
	"kolvan/core/units"
)

// How what is enough is met; empty where nothing says what is enough.
const (
	enoughYes  = "yes"
	enoughSome = "perhaps"
	enoughNo   = "no"
)

// meets holds a range, of which more is better, against what is wanted.
func meets(low, high, wanted float64) string {
	switch {
	case low >= wanted:
		return enoughYes
	case high < wanted:
		return enoughNo
	default:
		return enoughSome
	}
}

// allOf is how several wants are met together.
func allOf(each []string) string {
	all := ""
	for _, one := range each {
		switch {
		case one == enoughNo || all == enoughNo:
			all = enoughNo
		case one == enoughSome || all == enoughSome:
			all = enoughSome
		default:
			all = enoughYes
		}
	}
	return all
}

// enoughPixels is the resolution at which a use is to be enough; zero where none is told.
func enoughPixels(w *rig.Work) float64 {
	return float64(w.EnoughWide.Value) * float64(w.EnoughHigh.Value)
}

// enough says whether what is expected is what the use wants. The worst frames, and how
// long work takes, are not forecast: a rate below them is not enough, one above may be.
func enough(w *rig.Work, e *Expected) string {
	var each []string
	if wanted, told := w.EnoughHz.Get(); told && e.Rate != nil {
		each = append(each, meets(e.Rate[0], e.Rate[1], wanted))
	}
	if wanted, told := w.EnoughLow.Get(); told && e.Rate != nil {
		each = append(each, meets(0, e.Rate[1], wanted))
	}
	if w.EnoughS.Known {
		each = append(each, enoughSome)
	}
	return allOf(each)
}

// EnoughOf holds the runs of a use against what it wants, at the resolution it wants it at:
// yes, perhaps or no, with what is wanted in words; empty where nothing says what is enough.
func EnoughOf(w *rig.Work, runs []*rig.Run) (met, wants string) {
	there := runs
	if pixels := enoughPixels(w); pixels > 0 {
		there = nil
		for _, run := range runs {
			if float64(run.Width.Value)*float64(run.Height.Value) == pixels {
				there = append(there, run)
			}
		}
	}
	var each []string
	hold := func(wanted rig.Fact[float64], sign float64, of func(*rig.Run) rig.Fact[float64]) {
		if !wanted.Known {
			return
		}
		low, high := math.Inf(1), math.Inf(-1)
		for _, run := range there {
			if told := of(run); told.Known {
				low, high = min(low, sign*told.Value), max(high, sign*told.Value)
			}
		}
		if high < low { // none tells it
			low, high = math.Inf(-1), math.Inf(1)
		}
		each = append(each, meets(low, high, sign*wanted.Value))
	}
	hold(w.EnoughHz, 1, func(run *rig.Run) rig.Fact[float64] { return run.Average })
	hold(w.EnoughLow, 1, func(run *rig.Run) rig.Fact[float64] { return run.Low(rig.MinimumLow1) })
	hold(w.EnoughS, -1, func(run *rig.Run) rig.Fact[float64] { return run.Took })
	return allOf(each), wantsOf(w)
}

// wantsOf is what a use says is enough, in words.
func wantsOf(w *rig.Work) string {
	var says []string
	add := func(f rig.Fact[float64], before, after string) {
		if f.Known {
			says = append(says, before+units.Trim(f.Value, 1)+after)
		}
	}
	add(w.EnoughHz, "", " Hz")
	add(w.EnoughLow, "a worst 1 % of ", " Hz")
	add(w.EnoughS, "", " s at the most")
	all := strings.Join(says, " and ")
	if all != "" && enoughPixels(w) > 0 {
		all += fmt.Sprintf(" at %d × %d", w.EnoughWide.Value, w.EnoughHigh.Value)
	}
	return all
}
