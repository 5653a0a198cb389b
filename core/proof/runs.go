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
	r := rig.Run{
		Name: cmp.Or(s.Name, "run"), When: when.UTC().Format(time.RFC3339), Average: hertz(stats.Average),
		Frames: rig.Of(stats.Frames), Dropped: rig.Of(stats.Dropped), Sum: sum,
	}
	if stats.Low1P99 != nil {
		r.Low1, r.Low1M = hertz(*stats.Low1P99), hertz(*stats.Low1Mean)
	}
	if stats.Low01P99 != nil && stats.Frames >= fewFor01 {
		r.Low01, r.Low01M = hertz(*stats.Low01P99), hertz(*stats.Low01Mean)
	}
	if ends, some := stats.Interval["average_hz"]; some {
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
	Before, After []*rig.Run
	Differs       []string
	Warned        []string // versions that differ
	Possible      bool     // it did not start before, and does now: no ratio is given
	Bound         string   // at least, at most: a cap or the screen held one side up
	Figures       []Compared
	Seen          []string // what was read by eye, and felt, held against each other
}

// sides are the runs of a use, or those of it that were made alike.
type sides struct {
	before, after []*rig.Run
	failed        bool // a run from before gave nothing but an outcome
}

// GainsOf holds the runs of each use before the card against those with it.
func GainsOf(r *rig.Rig) []Gain { return gainsOf(ofThisCard(r)) }

// ofThisCard are the runs of a rig without those that were made with another card, each as it
// was held up.
func ofThisCard(r *rig.Rig) []*rig.Run {
	list := slices.DeleteFunc(pointersTo(r.Runs), func(run *rig.Run) bool { return rig.Is(run.Side, "after") && !r.OfCard(run.Card) })
	for i := range list {
		list[i] = freed(list[i], r.Brief.Screen.Rate)
	}
	return list
}

// freed is a run as it was held up: a cap, or a screen, that its rate stayed under held nothing,
// and it is as if there were none.
func freed(run *rig.Run, screen rig.Fact[float64]) *rig.Run {
	average, told := run.Average.Get()
	if !run.Cap.Known && !rig.Is(run.Sync, true) || !told || heldUp(run, average, screen) {
		return run
	}
	free := *run
	free.Cap, free.Sync = rig.Fact[float64]{}, rig.Fact[bool]{}
	return &free
}

// mostParts of a screen's rate are those at which it may hold frames: all of it, a half, a third,
// a quarter.
const mostParts = 4

// heldUp reports a run whose rate stands at its cap, or held to the screen at a whole part of its
// rate; at any rate where nobody told the screen's.
func heldUp(run *rig.Run, average float64, screen rig.Fact[float64]) bool {
	if limit, told := run.Cap.Get(); told && average >= (1-atCap)*limit {
		return true
	}
	if !rig.Is(run.Sync, true) {
		return false
	}
	for part := 1.0; part <= mostParts; part++ {
		if !screen.Known || math.Abs(average*part/screen.Value-1) <= atCap {
			return true
		}
	}
	return false
}

// overThisLink are those of runs with the card that were made over a link as fast as this
// one, to a fifth, as far as they tell; the others say nothing of it.
func overThisLink(runs []*rig.Run, net units.Range[units.GigabytePerSecond]) []*rig.Run {
	return slices.DeleteFunc(runs, func(run *rig.Run) bool {
		was, told := run.Net.Get()
		return told && rig.Is(run.Side, "after") && (was < 0.8*net.Low || was > 1.25*net.High)
	})
}

func gainsOf(runs []*rig.Run) (gains []Gain) {
	uses, order := groups(runs, useOf)
	for _, use := range order {
		whole, first := uses[use].warm(), len(gains)
		alike, ways := groups(slices.Concat(whole.before, whole.after), setupOf)
		for _, way := range ways {
			if made := alike[way]; len(made.before) > 0 && len(made.after) > 0 {
				gains = append(gains, Gain{Use: use, How: toldSettings(made.before[0]), Before: made.before, After: made.after})
			}
		}
		if len(gains) == first {
			gains = append(gains, boundsOf(&whole)...)
		}
		if len(gains) == first {
			gains = append(
				gains,
				Gain{
					Use: use, Before: whole.before, After: whole.after,
					Possible: whole.failed && len(whole.before) == 0 && len(whole.after) > 0,
				},
			)
		}
		for i := range gains[first:] {
			gains[first+i].figures()
		}
	}
	return gains
}

// boundsOf are the runs of a use made alike but for what held one side up: of them a bound is told.
func boundsOf(whole *sides) (gains []Gain) {
	alike, ways := groups(slices.Concat(whole.before, whole.after), func(run *rig.Run) setup {
		key := setupOf(run)
		key.cap, key.sync = 0, false
		return key
	})
	up := func(run *rig.Run) bool { return run.Cap.Known || rig.Is(run.Sync, true) }
	for _, way := range ways {
		made := alike[way]
		if len(made.before) == 0 || len(made.after) == 0 {
			continue
		}
		before, after := slices.ContainsFunc(made.before, up), slices.ContainsFunc(made.after, up)
		if before == after {
			continue
		}
		bound := atLeast
		if before {
			bound = atMost
		}
		gains = append(gains, Gain{Use: made.before[0].Use, How: toldSettings(made.before[0]), Before: made.before, After: made.after,
			Bound: bound})
	}
	return gains
}

// What a side that was held up leaves of a comparison.
const (
	atLeast = "at least"
	atMost  = "at most"
)

func pointersTo(runs []rig.Run) []*rig.Run {
	list := make([]*rig.Run, len(runs))
	for i := range runs {
		list[i] = &runs[i]
	}
	return list
}

func useOf(run *rig.Run) string { return run.Use }

// groups parts runs by a key, keys in the order in which they come.
func groups[K comparable](runs []*rig.Run, key func(*rig.Run) K) (by map[K]*sides, order []K) {
	by = map[K]*sides{}
	for _, run := range runs {
		name := key(run)
		if by[name] == nil {
			by[name], order = &sides{}, append(order, name)
		}
		by[name].add(run)
	}
	return by, order
}

func (s *sides) add(run *rig.Run) {
	switch {
	case !run.Average.Known && !run.Took.Known && !run.Score.Known && run.Eye == "" && !run.Felt.Known:
		s.failed = s.failed || run.Outcome != "" && rig.Is(run.Side, "before")
	case rig.Is(run.Side, "before"):
		s.before = append(s.before, run)
	case rig.Is(run.Side, "after"):
		s.after = append(s.after, run)
	}
}

// warm leaves out first runs after a start, where there are others.
func (s *sides) warm() sides {
	warm := func(runs []*rig.Run) []*rig.Run {
		list := slices.DeleteFunc(slices.Clone(runs), func(run *rig.Run) bool { return rig.Is(run.First, true) })
		if len(list) == 0 {
			return runs
		}
		return list
	}
	return sides{warm(s.before), warm(s.after), s.failed}
}

// WithCard are the runs of a use with the card, without first ones where there are others.
func WithCard(r *rig.Rig, use string) []*rig.Run {
	return withCard(ofThisCard(r), use)
}

func withCard(runs []*rig.Run, use string) []*rig.Run {
	uses, _ := groups(runs, useOf)
	if uses[use] == nil {
		return nil
	}
	return uses[use].warm().after
}

// setup is how a run was made, as far as it must agree with others: what is not told agrees
// with what is not told.
type setup struct {
	width, height, gen                         int
	cap                                        float64
	rays, made, sync                           bool
	preset, scene, scaled, window, api, scores string
	program                                    string
	screen                                     rig.ScreenKind
}

func setupOf(r *rig.Run) setup {
	return setup{
		r.Width.Or(-1), r.Height.Or(-1), r.Gen.Or(-1), r.Cap.Or(-1), r.Rays.Value, r.Made.Value, r.Sync.Value, r.Preset,
		r.Scene, r.Scaled, r.Window, r.API, r.ScoreOf, r.Program, r.Screen.Value,
	}
}

// mostDiffers: more differences than this tell nobody anything.
const mostDiffers = 6

// settingsDiffer names the settings in which runs are unlike the first; those of one side
// among each other too. What one run tells and another does not, differs.
func settingsDiffer(before, after []*rig.Run) (list []string) {
	first := before[0]
	runs := slices.Concat(before, after)
	for _, run := range runs {
		if setupOf(run) == setupOf(first) {
			continue
		}
		for _, s := range settings {
			a, b := s.of(first), s.of(run)
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
	{"program", func(r *rig.Run) string { return cmp.Or(r.Program, "none told") }},
	{"settings", func(r *rig.Run) string { return cmp.Or(r.Preset, "none told") }},
	{"scene or mode", func(r *rig.Run) string { return cmp.Or(r.Scene, "none told") }},
	{"ray tracing", func(r *rig.Run) string { return yesNo(r.Rays) }},
	{"upscaling", func(r *rig.Run) string { return cmp.Or(r.Scaled, "none") }},
	{"frames made up in between", func(r *rig.Run) string { return yesNo(r.Made) }},
	{"cap", func(r *rig.Run) string { return toldOr(r.Cap, "none") }},
	{"held to the screen", func(r *rig.Run) string { return yesNo(r.Sync) }},
	{"window mode", func(r *rig.Run) string { return cmp.Or(r.Window, "none told") }},
	{"graphics interface", func(r *rig.Run) string { return cmp.Or(r.API, "none told") }},
	{"screen", func(r *rig.Run) string { return toldOr(r.Screen, "not told") }},
	{"unit of the score", func(r *rig.Run) string { return cmp.Or(r.ScoreOf, "none told") }},
	{"link held to generation", func(r *rig.Run) string { return toldOr(r.Gen, "as planned") }},
}

func yesNo(f rig.Fact[bool]) string { return map[bool]string{true: "yes", false: "no"}[f.Value] }

// toldSettings are program, resolution and settings of a run, as far as they are told.
func toldSettings(r *rig.Run) string {
	size := ""
	if r.Width.Known && r.Height.Known {
		size = settings[0].of(r)
	}
	return strings.Join(slices.DeleteFunc([]string{r.Program, size, r.Preset}, func(part string) bool { return part == "" }), ", ")
}

func toldOr[T any](f rig.Fact[T], otherwise string) string {
	if v, told := f.Get(); told {
		return fmt.Sprint(v)
	}
	return otherwise
}

// measure is one figure of a run that both sides are held together by.
type measure struct {
	name string
	of   func(*rig.Run) rig.Fact[float64]
	less bool // less is better: change is what is saved, ratio how many times as fast
}

var measures = []measure{
	{"average_hz", func(r *rig.Run) rig.Fact[float64] { return r.Average }, false},
	{"low1_p99_hz", func(r *rig.Run) rig.Fact[float64] { return r.Low(rig.MinimumLow1) }, false},
	{"low1_mean_hz", func(r *rig.Run) rig.Fact[float64] { return r.Low(rig.MinimumLow1Mean) }, false},
	{"low01_p99_hz", func(r *rig.Run) rig.Fact[float64] { return r.Low(rig.MinimumLow01) }, false},
	{"low01_mean_hz", func(r *rig.Run) rig.Fact[float64] { return r.Low(rig.MinimumLow01Mean) }, false},
	{"duration_s", func(r *rig.Run) rig.Fact[float64] { return r.Took }, true},
	{"score", func(r *rig.Run) rig.Fact[float64] { return r.Score }, false},
	{wallFigure, func(r *rig.Run) rig.Fact[float64] {
		return rig.Fact[float64]{Known: r.Wall.Known, Value: float64(r.Wall.Value)}
	}, true},
}

// wallFigure is what a run took at the wall: told beside the others, neither better nor
// worse by itself.
const wallFigure = "wall_w"

// Main reports a figure that says how fast a use runs.
func (c *Compared) Main() bool {
	return c.Name == "average_hz" || c.Name == "duration_s" || c.Name == "score"
}

// figures compares the means of both sides; the interval of the change comes from those of
// the runs and from how far the runs of a side lie apart.
func (g *Gain) figures() {
	if len(g.Before) == 0 || len(g.After) == 0 {
		return
	}
	if g.Bound == "" {
		g.Differs = settingsDiffer(g.Before, g.After)
	}
	g.seen()
	if a, b := g.Before[0].Version, g.After[0].Version; a != b {
		g.Warned = append(g.Warned, "versions: "+cmp.Or(a, "none told")+" against "+cmp.Or(b, "none told"))
	}
	for _, m := range measures {
		a, aRuns, aOff := sideMean(g.Before, m.of, m.name == "average_hz")
		b, bRuns, bOff := sideMean(g.After, m.of, m.name == "average_hz")
		if len(aRuns) == 0 || len(bRuns) == 0 || a <= 0 || b <= 0 {
			continue
		}
		c := Compared{Name: m.name, Before: a, After: b, Says: "the runs are unlike"}
		switch {
		case m.name == wallFigure:
			c.Says = ""
		case len(g.Differs) == 0:
			less := m.less || m.name == "score" && rig.Is(g.After[0].Fewer, true)
			half, apart := between(aRuns, bRuns)
			if own := math.Hypot(aOff/a, bOff/b); !apart && own > 0 {
				half = max(evenings, own)
				g.warn(oneEach)
			}
			c.weigh(less, half)
			if g.Bound != "" {
				c.Bound, c.Interval, c.Says = g.Bound, nil, g.Bound+": a cap or the screen held one side up"
			}
		}
		g.Figures = append(g.Figures, c)
	}
}

// Held holds one run against another, whatever they were made of: what must agree and does
// not is told, and then no per cent is given; how else they differ warns.
func Held(a, b *rig.Run) Gain {
	g := Gain{Use: a.Use, Before: []*rig.Run{a}, After: []*rig.Run{b}}
	g.figures()
	if a.Use != b.Use {
		g.Differs = append([]string{"use: " + cmp.Or(a.Use, "none told") + " against " + cmp.Or(b.Use, "none told")}, g.Differs...)
		for i := range g.Figures {
			g.Figures[i] = Compared{
				Name: g.Figures[i].Name, Before: g.Figures[i].Before, After: g.Figures[i].After, Says: "the runs are unlike",
			}
		}
	}
	for _, s := range circumstances {
		if a, b := s.of(a), s.of(b); a != b {
			g.Warned = append(g.Warned, s.name+": "+a+" against "+b)
		}
	}
	return g
}

// circumstances are what may differ between runs that compare, each as words.
var circumstances = []struct {
	name string
	of   func(*rig.Run) string
}{
	{"made", func(r *rig.Run) string { return toldOr(r.Side, "not told") }},
	{"machine", func(r *rig.Run) string { return cmp.Or(r.Machine, "this one") }},
	{"card", func(r *rig.Run) string { return cmp.Or(r.Card, "the rig's own") }},
	{"first run after a start", func(r *rig.Run) string { return yesNo(r.First) }},
	{"its data lay on", func(r *rig.Run) string { return cmp.Or(r.Drive, "not told") }},
	{"cover off", func(r *rig.Run) string { return yesNo(r.Cover) }},
	{"on battery", func(r *rig.Run) string { return yesNo(r.Battery) }},
	{"room, °C", func(r *rig.Run) string { return toldOr(r.Room, "not told") }},
}

// weigh fills in what changed, half being half the interval of the logarithm of the ratio; 0
// where there is none.
func (c *Compared) weigh(less bool, half float64) {
	ratio := c.After / c.Before
	if less {
		ratio = Speedup(c.Before, c.After)
	}
	change := ratio - 1
	if c.Name == "duration_s" {
		change = Saved(c.Before, c.After)
	}
	c.Ratio, c.Change, c.Says = &ratio, &change, "too few runs for an interval"
	if half <= 0 {
		return
	}
	ends := changes(ratio, half)
	if c.Name == "duration_s" { // what is saved: one less what is left of it
		ends = [2]float64{1 - math.Exp(half)/ratio, 1 - math.Exp(-half)/ratio}
	}
	c.Interval = &ends
	c.judge()
}

// Combined is the geometric mean of the ratios of all uses, each by its own figure, and how
// many there are; what did not start before has no ratio.
func Combined(gains []Gain) (ratio float64, uses int) {
	sum, seen := 0.0, map[string]bool{}
	for i := range gains {
		for _, f := range gains[i].Figures {
			if f.Main() && f.Ratio != nil && !seen[gains[i].Use] {
				seen[gains[i].Use] = true
				sum += math.Log(*f.Ratio)
			}
		}
	}
	if len(seen) == 0 {
		return 0, 0
	}
	return math.Exp(sum / float64(len(seen))), len(seen)
}

// warn says something once.
func (g *Gain) warn(says string) {
	if !slices.Contains(g.Warned, says) {
		g.Warned = append(g.Warned, says)
	}
}

// sideMean is the mean of a figure over runs, each of them, and half the largest 95 % interval
// that a run has of its own.
func sideMean(runs []*rig.Run, of func(*rig.Run) rig.Fact[float64], averages bool) (mean float64, each []float64, own float64) {
	for _, run := range runs {
		if v, told := of(run).Get(); told {
			each = append(each, v)
			if averages && run.Least.Known && run.Most.Known {
				own = max(own, (run.Most.Value-run.Least.Value)/2)
			}
		}
	}
	for _, v := range each {
		mean += v / float64(len(each))
	}
	return mean, each, own
}

// TermsOf fits the runs of a use with the card: their pixels, and the net rate of the link at
// the generation they were held to. A run that does not tell its resolution, that a cap or
// the screen held up, or whose link is not known to a fifth, says nothing here; of runs
// whose other settings differ only those of which there are most. Runs made alike are one
// point, as far off as they lie apart.
func TermsOf(runs []*rig.Run, netAt func(gen int) units.Range[units.GigabytePerSecond]) Fitted {
	return Fit(pointsOf(runs, netAt))
}

func pointsOf(runs []*rig.Run, netAt func(gen int) units.Range[units.GigabytePerSecond]) (points []Point) {
	usable := slices.DeleteFunc(slices.Clone(runs), func(run *rig.Run) bool {
		net := linkOf(run, netAt)
		return run.Average.Value <= 0 || net.Low <= 0 || net.Low < 0.8*net.High || run.Cap.Known || rig.Is(run.Sync, true) || !run.Width.Known ||
			!run.Height.Known
	})
	for _, run := range mostAlike(usable) {
		ms := 1000 / run.Average.Value
		point := Point{Pixels: float64(run.Width.Value * run.Height.Value), Net: linkOf(run, netAt).High, Frame: ms, Sigma: 0.01 * ms}
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
	return points
}

// linkOf is what the link carried in a run: as it tells, else at the generation it was held
// to.
func linkOf(run *rig.Run, netAt func(gen int) units.Range[units.GigabytePerSecond]) units.Range[units.GigabytePerSecond] {
	if was, told := run.Net.Get(); told && !run.Gen.Known {
		return units.Exactly(was)
	}
	return netAt(run.Gen.Or(0))
}

// mostAlike are the runs that agree in all but resolution and generation, of which there
// are most; the first of as many.
func mostAlike(runs []*rig.Run) (most []*rig.Run) {
	by := map[setup][]*rig.Run{}
	for _, run := range runs {
		key := setupOf(run)
		key.width, key.height, key.gen = 0, 0, 0
		by[key] = append(by[key], run)
		if len(by[key]) > len(most) {
			most = by[key]
		}
	}
	return most
}
