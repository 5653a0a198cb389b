package proof

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strconv"
	"strings"
	"time"

	"kolvan/core/rig"
	"kolvan/core/units"
)

// Places of a sorted curve, and points of a trace, that a run keeps.
const (
	curvePlaces = 40
	tracePoints = 80
)

// RunOf is a run of a capture's series, with what is kept of it.
func RunOf(s *Series, sum string, when time.Time, seed uint64) rig.Run {
	stats := s.Stats(seed)
	r := rig.Run{Name: cmp.Or(s.Name, "run"), When: when.UTC().Format(time.RFC3339), Average: hertz(stats.Average), Frames: rig.Of(stats.Frames), Dropped: rig.Of(stats.Dropped), Sum: sum}
	if stats.Low1P99 != nil {
		r.Low1, r.Low1M = hertz(*stats.Low1P99), hertz(*stats.Low1Mean)
	}
	if ends, any := stats.Interval["average_hz"]; any {
		r.Least, r.Most = hertz(ends[0]), hertz(ends[1])
	}
	r.Curve, r.Trace = s.curve(), s.trace()
	return r
}

// hertz keeps a rate to a thousandth.
func hertz(v float64) rig.Fact[float64] { return rig.Of(math.Round(1000*v) / 1000) }

// curve is the frame times in order of size, the slowest close together.
func (s *Series) curve() string {
	ranked := s.times.rank()
	list := make([]float64, curvePlaces)
	for i := range list {
		share := float64(i) / (curvePlaces - 1)
		list[i] = ranked.percentile(1 - (1-share)*(1-share)) // half of the places lie in the slowest quarter
	}
	return written(list)
}

// trace is the frame times thinned to what keeps their shape: of each part of the run the
// one that spans the largest triangle with its neighbours.
func (s *Series) trace() string {
	times := s.times.exact
	if len(times) <= tracePoints {
		return written(times)
	}
	list := []float64{times[0]}
	last, part := 0, float64(len(times)-2)/float64(tracePoints-2)
	for k := range tracePoints - 2 {
		from, to := 1+int(float64(k)*part), 1+int(float64(k+1)*part)
		until := min(len(times), 1+int(float64(k+2)*part))
		mean := 0.0
		for _, v := range times[to:max(to+1, until)] {
			mean += v / float64(max(1, until-to))
		}
		best, most := from, -1.0
		for i := from; i < to; i++ {
			area := math.Abs(float64(last-to)*(times[i]-times[last]) - float64(last-i)*(mean-times[last]))
			if area > most {
				best, most = i, area
			}
		}
		list = append(list, times[best])
		last = best
	}
	return written(append(list, times[len(times)-1]))
}

func written(list []float64) string {
	text := make([]string, len(list))
	for i, v := range list {
		text[i] = strconv.FormatFloat(v, 'g', 3, 64)
	}
	return strings.Join(text, " ")
}

// Values reads a curve or a trace back.
func Values(text string) (list []float64) {
	for _, word := range strings.Fields(text) {
		if v, err := strconv.ParseFloat(word, 64); err == nil && v > 0 {
			list = append(list, v)
		}
	}
	return list
}

// A Gain is what changed between the runs before and those with the card, of one use, made
// alike; where none of a use are alike, all of it side by side.
type Gain struct {
	Use, How      string // how: the settings that are told
	Before, After []rig.Run
	Differs       []string
	Figures       []Compared
}

// sides are the runs of a use, or those of it that were made alike.
type sides struct{ before, after []rig.Run }

// GainsOf holds the runs of each use before the card against those with it.
func GainsOf(r *rig.Rig) (gains []Gain) {
	uses, order := groups(r.Runs, func(run *rig.Run) string { return run.Use })
	for _, use := range order {
		whole, first := uses[use].warm(), len(gains)
		alike, ways := groups(slices.Concat(whole.before, whole.after), settingsOf)
		for _, way := range ways {
			if made := alike[way]; len(made.before) > 0 && len(made.after) > 0 {
				gains = append(gains, Gain{Use: use, How: toldSettings(&made.before[0]), Before: made.before, After: made.after})
			}
		}
		if len(gains) == first {
			gains = append(gains, Gain{Use: use, Before: whole.before, After: whole.after})
		}
		for i := range gains[first:] {
			gains[first+i].figures()
		}
	}
	return gains
}

// groups parts runs by a key, keys in the order in which they come.
func groups(runs []rig.Run, key func(*rig.Run) string) (by map[string]*sides, order []string) {
	by = map[string]*sides{}
	for i := range runs {
		name := key(&runs[i])
		if by[name] == nil {
			by[name], order = &sides{}, append(order, name)
		}
		by[name].add(runs[i])
	}
	return by, order
}

func (s *sides) add(run rig.Run) {
	switch {
	case !run.Average.Known:
	case rig.Is(run.Side, "before"):
		s.before = append(s.before, run)
	case rig.Is(run.Side, "after"):
		s.after = append(s.after, run)
	}
}

// warm leaves out first runs after a start, where there are others.
func (s *sides) warm() sides {
	warm := func(runs []rig.Run) []rig.Run {
		list := slices.DeleteFunc(slices.Clone(runs), func(run rig.Run) bool { return rig.Is(run.First, true) })
		if len(list) == 0 {
			return runs
		}
		return list
	}
	return sides{warm(s.before), warm(s.after)}
}

// WithCard are the runs of a use with the card, without first ones where there are others.
func WithCard(r *rig.Rig, use string) []rig.Run {
	uses, _ := groups(r.Runs, func(run *rig.Run) string { return run.Use })
	if uses[use] == nil {
		return nil
	}
	return uses[use].warm().after
}

// settingsOf are the settings of a run as one text.
func settingsOf(r *rig.Run) string {
	var all strings.Builder
	for _, s := range settings {
		all.WriteString(s.of(r) + "\x00")
	}
	return all.String()
}

// mostDiffers: more differences than this tell nobody anything.
const mostDiffers = 6

// settingsDiffer names the settings in which runs are unlike the first; those of one side
// among each other too. What one run tells and another does not, differs.
func settingsDiffer(before, after []rig.Run) (list []string) {
	first := &before[0]
	runs := slices.Concat(before, after)
	for i := range runs {
		for _, s := range settings {
			a, b := s.of(first), s.of(&runs[i])
			if says := s.name + ": " + a + " against " + b; a != b && len(list) < mostDiffers && !slices.Contains(list, says) {
				list = append(list, says)
			}
		}
	}
	return list
}

// settings are what must agree for runs to compare, each as words.
var settings = []struct {
	name string
	of   func(*rig.Run) string
}{
	{"resolution", func(r *rig.Run) string { return toldOr(r.Width, "not told") + " by " + toldOr(r.Height, "not told") }},
	{"settings", func(r *rig.Run) string { return cmp.Or(r.Preset, "none told") }},
	{"frames made up in between", func(r *rig.Run) string { return map[bool]string{true: "yes", false: "no"}[r.Made.Value] }},
	{"cap", func(r *rig.Run) string { return toldOr(r.Cap, "none") }},
	{"link held to generation", func(r *rig.Run) string { return toldOr(r.Gen, "as planned") }},
}

// toldSettings are the resolution and the settings of a run, as far as they are told.
func toldSettings(r *rig.Run) string {
	told := r.Preset
	if r.Width.Known && r.Height.Known {
		told = strings.TrimSuffix(settings[0].of(r)+", "+told, ", ")
	}
	return told
}

func toldOr[T any](f rig.Fact[T], otherwise string) string {
	if v, told := f.Get(); told {
		return fmt.Sprint(v)
	}
	return otherwise
}

// figures compares the means of both sides; the interval of the change comes from those of
// the runs and from how far the runs of a side lie apart.
func (g *Gain) figures() {
	if len(g.Before) == 0 || len(g.After) == 0 {
		return
	}
	g.Differs = settingsDiffer(g.Before, g.After)
	for _, f := range []struct {
		name string
		of   func(*rig.Run) rig.Fact[float64]
	}{{"average_hz", func(r *rig.Run) rig.Fact[float64] { return r.Average }}, {"low1_p99_hz", func(r *rig.Run) rig.Fact[float64] { return r.Low1 }}, {"low1_mean_hz", func(r *rig.Run) rig.Fact[float64] { return r.Low1M }}} {
		a, aOff, aKnown := sideMean(g.Before, f.of, f.name == "average_hz")
		b, bOff, bKnown := sideMean(g.After, f.of, f.name == "average_hz")
		if !aKnown || !bKnown || a <= 0 {
			continue
		}
		c := Compared{Name: f.name, Before: a, After: b, Says: "the runs are unlike"}
		if len(g.Differs) == 0 {
			ratio := b / a
			change := ratio - 1
			c.Ratio, c.Change, c.Says = &ratio, &change, "too few runs for an interval"
			if aOff > 0 || bOff > 0 {
				off := ratio * math.Hypot(aOff/a, bOff/b)
				c.Interval = &[2]float64{change - off, change + off}
				c.judge()
			}
		}
		g.Figures = append(g.Figures, c)
	}
}

// sideMean is the mean of a figure over runs, and half its 95 % interval: from the spread
// of three runs or more, else from the runs' own intervals.
func sideMean(runs []rig.Run, of func(*rig.Run) rig.Fact[float64], averages bool) (mean, off float64, known bool) {
	var values []float64
	own := 0.0
	for i := range runs {
		if v, told := of(&runs[i]).Get(); told {
			values = append(values, v)
			if averages && runs[i].Least.Known && runs[i].Most.Known {
				own = max(own, (runs[i].Most.Value-runs[i].Least.Value)/2)
			}
		}
	}
	for _, v := range values {
		mean += v / float64(len(values))
	}
	if len(values) >= 3 {
		squares := 0.0
		for _, v := range values {
			squares += (v - mean) * (v - mean)
		}
		off = 1.96 * math.Sqrt(squares/float64(len(values)-1)/float64(len(values)))
	}
	return mean, max(off, own), len(values) > 0
}

// TermsOf fits the runs of a use with the card: their pixels, and the net rate of the link at
// the generation they were held to. A run that does not tell its resolution, that a cap held
// up, or whose link is not known to a fifth, says nothing here. Runs made alike are one
// point, as far off as they lie apart.
func TermsOf(runs []rig.Run, netAt func(gen int) units.Range[units.GigabytePerSecond]) Fitted {
	var points []Point
	for i := range runs {
		run := &runs[i]
		net := netAt(run.Gen.Or(0))
		if run.Average.Value <= 0 || net.Low <= 0 || net.Low < 0.8*net.High || run.Cap.Known || !run.Width.Known || !run.Height.Known {
			continue
		}
		ms := 1000 / run.Average.Value
		point := Point{Pixels: float64(run.Width.Value * run.Height.Value), Net: net.High, Frame: ms, Sigma: 0.01 * ms}
		if run.Least.Known && run.Most.Known {
			point.Sigma = max(point.Sigma, ms*(run.Most.Value-run.Least.Value)/(4*run.Average.Value))
		}
		alike := slices.IndexFunc(points, func(p Point) bool { return p.Pixels == point.Pixels && p.Net == point.Net })
		if alike < 0 {
			points = append(points, point)
			continue
		}
		one := &points[alike]
		one.Sigma = max(one.Sigma, point.Sigma, math.Abs(one.Frame-point.Frame)/2)
		one.Frame = (one.Frame + point.Frame) / 2
	}
	return Fit(points)
}
