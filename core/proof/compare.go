package proof

import (
	"fmt"
	"math"
	"slices"
	"strings"
)

// ComparisonFormat is the format word of a comparison.
const ComparisonFormat = "kolvan-comparison/1"

// A Comparison holds runs against others: the first are what was, the second what is.
type Comparison struct {
	Format  string     `json:"format"`
	Before  Side       `json:"before"`
	After   Side       `json:"after"`
	Figures []Compared `json:"figures"`
	Differs []string   `json:"differs"` // in what the runs are unlike; then no per cent is given
	Warned  []string   `json:"warned"`
}

// Side is the runs of one side.
type Side struct {
	Files   []string `json:"files"`
	Runs    int      `json:"runs"`
	Frames  int      `json:"frames"`
	Seconds float64  `json:"seconds"`
}

// Compared is one figure on both sides. Change and ratio are null where the runs are
// unlike.
type Compared struct {
	Name     string      `json:"name"`
	Before   float64     `json:"before"`
	After    float64     `json:"after"`
	Change   *float64    `json:"change"`
	Ratio    *float64    `json:"ratio"`
	Interval *[2]float64 `json:"interval95"`      // of the change
	Bound    string      `json:"bound,omitempty"` // at least, at most: a cap or the screen held one side up
	Says     string      `json:"says"`
}

// A Run is one series, with what is told of how it was made.
type Run struct {
	File string
	*Series
}

// names of the figures that are compared, in their order; those in ms are better when
// smaller.
var compared = []string{"average_hz", "low1_p99_hz", "low1_mean_hz", "low01_p99_hz", "low01_mean_hz", "median_ms"}

// Compare holds runs against others. A side of several runs gives the mean of their
// figures, and of its average rate all its frames over all their seconds. Intervals are by
// Student's t between runs; of a single run each by drawing its seconds anew, which holds
// nothing of what differs from run to run.
func Compare(before, after []Run, seed uint64) *Comparison {
	c := &Comparison{
		Format: ComparisonFormat, Before: sideOf(before), After: sideOf(after), Figures: []Compared{},
		Differs: unlike(before, after), Warned: []string{},
	}
	a, b := figuresOfSide(before), figuresOfSide(after)
	var drawnA, drawnB resampled
	if single := len(before) == 1 && len(after) == 1; single {
		c.Warned = append(c.Warned, oneEach)
		drawnA, drawnB = before[0].bootstrap(seed), after[0].bootstrap(seed+1)
	}
	eachA, eachB := figuresOfEach(before), figuresOfEach(after)
	fewest := min(least(before), least(after))
	for _, name := range compared {
		if strings.HasPrefix(name, "low") && fewest < fewFor1 {
			c.Warned = append(c.Warned, fmt.Sprintf("%s: withheld, a run has %d frames; it takes %d", name, fewest, fewFor1))
			continue
		}
		if strings.HasPrefix(name, "low01") && fewest < fewFor01 {
			c.Warned = append(c.Warned, fmt.Sprintf("%s: a run has %d frames; below %d it is not to be trusted", name, fewest, fewFor01))
		}
		f := Compared{Name: name, Before: a[name], After: b[name]}
		if len(c.Differs) == 0 {
			f.compare(eachA[name], eachB[name], drawnA[name], drawnB[name])
		} else {
			f.Says = "the runs are unlike"
		}
		c.Figures = append(c.Figures, f)
	}
	return c
}

func least(runs []Run) int {
	few := runs[0].Frames()
	for _, r := range runs[1:] {
		few = min(few, r.Frames())
	}
	return few
}

func sideOf(runs []Run) Side {
	s := Side{Files: []string{}, Runs: len(runs)}
	for _, r := range runs {
		if !slices.Contains(s.Files, r.File) {
			s.Files = append(s.Files, r.File)
		}
		s.Frames += r.Frames()
		s.Seconds += r.Seconds()
	}
	return s
}

// unlike names what differs between runs that only compare when it agrees; of a bare
// capture that is what ran.
func unlike(before, after []Run) (list []string) {
	name := func(runs []Run) string {
		var names []string
		for _, r := range runs {
			base, _, _ := strings.Cut(r.Name, " pass ")
			if base != "" && !slices.Contains(names, base) {
				names = append(names, base)
			}
		}
		return strings.Join(names, ", ")
	}
	if a, b := name(before), name(after); a != b && a != "" && b != "" {
		list = append(list, fmt.Sprintf("process: %s against %s", a, b))
	}
	if list == nil {
		list = []string{}
	}
	return list
}

// figuresOfSide are the means of the runs' figures, and the average rate of all frames.
func figuresOfSide(runs []Run) map[string]float64 {
	out := map[string]float64{}
	frames, seconds := 0, 0.0
	for _, r := range runs {
		ranked := r.times.rank()
		for name, v := range figuresOf(&ranked, 0) {
			out[name] += v / float64(len(runs))
		}
		frames, seconds = frames+r.Frames(), seconds+r.Seconds()
	}
	out["average_hz"] = float64(frames) / seconds
	return out
}

// figuresOfEach are the figures of each run.
func figuresOfEach(runs []Run) map[string][]float64 {
	out := map[string][]float64{}
	for _, r := range runs {
		ranked := r.times.rank()
		for name, v := range figuresOf(&ranked, float64(r.Frames())/r.Seconds()) {
			out[name] = append(out[name], v)
		}
	}
	return out
}

// compare fills in change and ratio, with the interval between the runs of both sides, else of
// what was drawn of a single run each.
func (f *Compared) compare(before, after, drawnBefore, drawnAfter []float64) {
	ratio := f.After / f.Before
	change := ratio - 1
	f.Ratio, f.Change = &ratio, &change
	half, between := between(before, after)
	switch {
	case between:
	case drawnBefore == nil || drawnAfter == nil:
		f.Says = "too short for an interval"
		return
	default:
		half = drawnHalf(ratio, drawnBefore, drawnAfter)
	}
	ends := changes(ratio, half)
	f.Interval = &ends
	f.judge()
}

// drawnHalf is half the interval of the logarithm of a ratio by what was drawn of both sides.
func drawnHalf(ratio float64, before, after []float64) float64 {
	ratios := make([]float64, min(len(before), len(after)))
	for i := range ratios {
		ratios[i] = after[i] / before[i]
	}
	ends := middle95(ratios)
	return max(evenings, math.Log(ratio/ends[0]), math.Log(ends[1]/ratio))
}

// judge says whether the interval of the change holds nothing, and which way it goes.
func (f *Compared) judge() {
	ends, better := *f.Interval, *f.Change > 0
	if strings.HasSuffix(f.Name, "_ms") {
		better = !better
	}
	switch {
	case ends[0] <= 0 && ends[1] >= 0:
		f.Says = "no difference seen"
	case better:
		f.Says = "better"
	default:
		f.Says = "worse"
	}
}

// Saved is the time saved when something takes so much less, and Speedup how many times as
// fast it is: two figures that are never one.
func Saved(before, after float64) float64 { return 1 - after/before }

// Speedup is the old time over the new.
func Speedup(before, after float64) float64 { return before / after }
