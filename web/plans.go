package web

import (
	"context"
	"fmt"
	"math"
	"slices"
	"strconv"
	"strings"
	"sync"
	"time"

	"github.com/gofiber/fiber/v3"

	"kolvan/core/assess"
	"kolvan/core/plan"
	"kolvan/core/rig"
	"kolvan/core/units"
	"kolvan/web/draw"
	"kolvan/web/phrase"
)

// plansSel is what is chosen of the brief where its whole plans are shown.
const plansSel = "/plans"

// A planJob looks for the plans of one revision of a rig while somebody looks on.
type planJob struct {
	mu       sync.Mutex
	sofar    []plan.Plan
	answer   *plan.Answer // when it is done
	done, of int
	err      error
	seen     time.Time // when its page last asked
	end      context.CancelFunc
}

// planJobs are those at work or done, by rig and revision. A search that nobody looks at ends.
type planJobs struct {
	mu   sync.Mutex
	jobs map[string]*planJob
}

// So long a search goes on without being asked after, and so many are kept: with one more the
// one that was asked after longest ago ends.
const (
	unseen   = 5 * time.Second
	mostJobs = 2
)

func newPlanJobs() *planJobs { return &planJobs{jobs: map[string]*planJob{}} }

// of is the job of a rig as it stands, begun where there is none.
func (j *planJobs) of(key string, begin func(ctx context.Context, job *planJob)) *planJob {
	j.mu.Lock()
	defer j.mu.Unlock()
	job := j.jobs[key]
	if job == nil || job.stale() {
		delete(j.jobs, key)
		if len(j.jobs) >= mostJobs {
			j.forgetOldest()
		}
		ctx, end := context.WithCancel(context.Background())
		job = &planJob{seen: time.Now(), end: end}
		j.jobs[key] = job
		go begin(ctx, job)
	}
	job.mu.Lock()
	job.seen = time.Now()
	job.mu.Unlock()
	return job
}

// stale reports a search that ended early because nobody looked.
func (job *planJob) stale() bool {
	job.mu.Lock()
	defer job.mu.Unlock()
	return job.err != nil || job.answer != nil && !job.answer.Complete && job.done < job.of
}

func (j *planJobs) forgetOldest() {
	oldest, at := "", time.Now()
	for key, job := range j.jobs {
		job.mu.Lock()
		if job.seen.Before(at) {
			oldest, at = key, job.seen
		}
		job.mu.Unlock()
	}
	if job := j.jobs[oldest]; job != nil {
		job.end()
		delete(j.jobs, oldest)
	}
}

// planJobOf is the search for a rig's plans.
func (a *App) planJobOf(l *loaded, bins *assess.Bins) *planJob {
	key := fmt.Sprintf("%d@%s", l.ID, a.revisionOf(l.Revision))
	return a.plans.of(key, func(ctx context.Context, job *planJob) {
		defer job.end()
		answer, err := plan.Search(ctx, plan.Question{Rig: l.rig, Parts: bins, Found: job.found, Told: job.told}, a.ref)
		job.mu.Lock()
		job.answer, job.err = answer, err
		job.mu.Unlock()
	})
}

func (job *planJob) found(sofar []plan.Plan) {
	job.mu.Lock()
	job.sofar = slices.Clone(sofar)
	job.mu.Unlock()
}

func (job *planJob) told(done, of int) bool {
	job.mu.Lock()
	defer job.mu.Unlock()
	job.done, job.of = done, of
	return time.Since(job.seen) < unseen
}

// plansView is the frontier as far as it is known.
type plansView struct {
	ID       int64
	Title    string
	Running  bool
	Progress string
	Chart    *plansChart
	Rows     []planRow
	Beaten   int
	FindOut  []findOutRow
	Mending  []mendRow
	Stages   []stageRow
	Opens    []string // what buying one part opens, or selling it closes
	Picked   *pickedPlans
}

// pickedPlans are two plans that were pressed in the picture, and what differs between them.
type pickedPlans struct {
	Names [2]string
	Rows  [][3]string // what, of the one, of the other
}

// mostPicked is how many plans are held against each other.
const mostPicked = 2

// picks are the plans that were pressed, by their places.
func picks(c fiber.Ctx) (list []int) {
	for text := range strings.SplitSeq(c.Query("pick"), ",") {
		if n, err := strconv.Atoi(text); err == nil && n >= 0 && !slices.Contains(list, n) && len(list) < mostPicked {
			list = append(list, n)
		}
	}
	return list
}

// pressed is the address of the page once a plan is pressed, or pressed again.
func pressed(id int64, picked []int, n int) string {
	next := slices.DeleteFunc(slices.Clone(picked), func(p int) bool { return p == n })
	if len(next) == len(picked) {
		next = append(next, n)
	}
	var words []string
	for _, p := range next[max(0, len(next)-mostPicked):] {
		words = append(words, strconv.Itoa(p))
	}
	return fmt.Sprintf("/rigs/%d/brief?sel=%s&pick=%s", id, plansSel, strings.Join(words, ","))
}

// pick marks the rows that were pressed, and of two says what differs.
func (v *plansView) pick(picked []int) {
	var rows []*planRow
	for _, n := range picked {
		for i := range v.Rows {
			if v.Rows[i].N == n {
				v.Rows[i].Picked = true
				rows = append(rows, &v.Rows[i])
			}
		}
	}
	if len(rows) < mostPicked {
		return
	}
	a, b := rows[0], rows[1]
	v.Picked = &pickedPlans{Names: [2]string{a.Name, b.Name}}
	for _, row := range [][3]string{
		{"by", a.By, b.By}, {"still to buy", a.Cost, b.Cost}, {"may be expected", a.Gets, b.Gets}, {"certain", a.Sure, b.Sure},
		{"noise", a.Noise, b.Noise}, {"work", a.Minutes, b.Minutes}, {"worst", phrase.Or(a.Says, "nothing against it"),
			phrase.Or(b.Says, "nothing against it")},
	} {
		if row[1] != row[2] {
			v.Picked.Rows = append(v.Picked.Rows, row)
		}
	}
}

type planRow struct {
	N                           int
	Name, By, Cost, Gets, Sure  string
	Noise, Minutes, Says, Level string
	Exchange                    string
	Here, Picked                bool
	Patch, Change               string
	Mini                        *draw.MiniRoute
}

type findOutRow struct{ Asks, Takes, Worth, Between, Href string }

type stageRow struct{ Says, Patch, Change string }

// mostOpens is how many parts are told with what they open.
const mostOpens = 6

type mendRow struct {
	Title string
	Steps []string
	Patch string
}

// plansFragment answers with the plans so far; the page asks again until they are whole.
func (a *App) plansFragment(c fiber.Ctx) error {
	l, err := a.load(c)
	if err != nil {
		return err
	}
	bins, err := a.anyBins(c)
	if err != nil {
		return err
	}
	v, err := a.plansOf(l, bins, picks(c))
	if err != nil {
		return err
	}
	return c.Render("plans", v)
}

func (a *App) plansOf(l *loaded, bins *assess.Bins, picked []int) (*plansView, error) {
	job := a.planJobOf(l, bins)
	job.mu.Lock()
	defer job.mu.Unlock()
	if job.err != nil {
		return nil, job.err
	}
	v := &plansView{ID: l.ID, Title: "Whole plans, from what it is for", Running: job.answer == nil}
	list, use, unit := job.sofar, "", ""
	v.Progress = "looking …"
	if job.of > 0 {
		v.Progress = fmt.Sprintf("%d of %d cards and hosts looked at", job.done, job.of)
	}
	if answer := job.answer; answer != nil {
		list, use, unit = answer.Plans, answer.Use, answer.Unit
		v.Progress = fmt.Sprintf("%d combinations in %v", answer.Tried, units.Second(answer.Seconds))
		v.findOut(l.rig, answer)
		v.mending(l.rig, answer)
		v.Chart = drawPlans(answer, l.rig.Brief.Currency, func(n int) string { return pressed(l.ID, picked, n) }, picked)
		for i := range answer.Stages {
			s := &answer.Stages[i]
			v.Stages = append(v.Stages, stageRow{s.Says, string(s.Patch), "begin with " + s.Card})
		}
		for _, p := range answer.Purchases[:min(len(answer.Purchases), mostOpens)] {
			v.Opens = append(v.Opens, p.Says)
		}
	}
	for i := range list {
		if p := &list[i]; p.BeatenBy == nil || p.Here {
			v.Rows = append(v.Rows, planRowOf(p, l.rig, use, unit, i))
		} else {
			v.Beaten++
		}
	}
	v.pick(picked)
	return v, nil
}

func planRowOf(p *plan.Plan, r *rig.Rig, use, unit string, n int) planRow {
	row := planRow{
		N:    n,
		Name: p.Card,
		By:   p.From + " by " + phrase.Or(strings.Join(p.Stages, ", "), "nothing between"),
		Cost: phrase.Cost(p.Cost, r.Brief.Currency),
		Sure: fmt.Sprintf(
			"%.0f %%",
			p.Certainty*100,
		),
		Noise:    fmt.Sprintf("%.0f to %.0f dB", p.Noise[0], p.Noise[1]),
		Exchange: p.Exchange,
		Here:     p.Here,
		Patch:    string(p.Patch),
		Change:   "take the plan with " + p.Card + " from " + p.From,
		Mini:     draw.Mini(p.Report),
	}
	if p.Host != r.Host.Name {
		row.By = p.Host + ", " + row.By
	}
	if p.Supply != "" {
		row.By += "; fed by " + p.Supply
	}
	if e, told := p.Expected[use]; told {
		digits := 0
		if e.Likely[1] < 10 {
			digits = 2
		}
		row.Gets = units.Trim(e.Likely[0], digits) + " to " + units.Trim(e.Likely[1], digits) + " " + unit
	}
	if p.Minutes[1] > 0 {
		row.Minutes = fmt.Sprintf("%.0f to %.0f min of work", p.Minutes[0], p.Minutes[1])
	}
	if p.Worst != nil {
		row.Level, row.Says = p.Worst.Level.String(), p.Report.Findings[0].Title
	}
	return row
}

func (v *plansView) findOut(r *rig.Rig, a *plan.Answer) {
	for _, f := range a.FindOut {
		v.FindOut = append(v.FindOut, findOutRow{
			f.Asks, units.Trim(f.Minutes, 0) + " min", strings.TrimSpace(units.Trim(f.Worth, 0) + " " + r.Brief.Currency), f.Between,
			fmt.Sprintf("/rigs/%d/%s?sel=%s", v.ID, homeOf(f.Fact, "survey"), f.Fact[:strings.LastIndex(f.Fact, "/")]),
		})
	}
}

func (v *plansView) mending(r *rig.Rig, a *plan.Answer) {
	for i := range a.Mending {
		m := &a.Mending[i]
		title := strings.TrimSpace(fmt.Sprintf("%+.0f %s", m.Costs, r.Brief.Currency))
		row := mendRow{Title: fmt.Sprintf("%s, %s", phrase.Plural(len(m.Steps), "step"), phrase.MinusSigns(title)), Patch: string(m.Patch)}
		for _, s := range m.Steps {
			row.Steps = append(row.Steps, s.Change+". It clears: "+strings.ToLower(strings.Join(s.Clears, "; "))+".")
		}
		v.Mending = append(v.Mending, row)
	}
}

// plansChart draws what plans cost against what is expected of them, each with how certain it is.
type plansChart struct {
	Unit, Use, Currency  string
	Across, Up           []tick
	Dots                 []planDot
	Folded               []point
	Budget, Enough       draw.Px
	HasBudget, HasEnough bool
	Front                string
}

type tick struct {
	At   draw.Px
	Text string
}

type point struct{ X, Y draw.Px }

type planDot struct {
	X, Low, High, Middle, UtmostLow, UtmostHigh draw.Px
	Fill                                        string // path of what of the disc is certain
	Name, Below                                 string
	LabelY                                      draw.Px
	Href                                        string
	Here, Picked                                bool
}

// The chart, in the units of its view box.
const (
	chartWide, chartHigh  = 860.0, 400.0
	chartLeft, chartRight = 64.0, 830.0
	chartTop, chartBottom = 40.0, 352.0
	dotRadius             = 8.0
	chartIn               = 50.0 // from the axis to what costs nothing
	labelPitch            = 96.0
)

func drawPlans(a *plan.Answer, currency string, press func(n int) string, picked []int) *plansChart {
	most, dearest := a.Enough, 0.0
	for i := range a.Plans {
		p := &a.Plans[i]
		most, dearest = max(most, p.Expected[a.Use].Likely[1]*1.1), max(dearest, *p.Cost[0])
	}
	if len(a.Plans) == 0 || most <= 0 {
		return nil
	}
	if a.Budget != nil && *a.Budget < 3*dearest {
		dearest = max(dearest, *a.Budget)
	}
	dearest = max(dearest*1.04, 1)
	x := func(cost float64) draw.Px {
		return draw.Px(chartLeft + chartIn + cost/dearest*(chartRight-chartLeft-chartIn))
	}
	y := func(v float64) draw.Px { return draw.Px(chartBottom - math.Min(v/most, 1.02)*(chartBottom-chartTop)) }
	c := &plansChart{Unit: a.Unit, Use: a.Use, Currency: currency}
	for _, v := range ticksTo(most) {
		c.Up = append(c.Up, tick{y(v), units.Trim(v, 2)})
	}
	for _, v := range ticksTo(dearest) {
		c.Across = append(c.Across, tick{x(v), units.Trim(v, 0)})
	}
	if a.Budget != nil && *a.Budget <= dearest {
		c.Budget, c.HasBudget = x(*a.Budget), true
	}
	if a.Enough > 0 && a.Unit == "Hz" {
		c.Enough, c.HasEnough = y(a.Enough), true
	}
	var labelled []draw.Px
	for i := range a.Plans {
		p := &a.Plans[i]
		e := p.Expected[a.Use]
		middle := (e.Likely[0] + e.Likely[1]) / 2
		if p.BeatenBy != nil && !p.Here {
			c.Folded = append(c.Folded, point{x(*p.Cost[0]), y(middle)})
			continue
		}
		d := planDot{
			X: x(*p.Cost[0]), Low: y(e.Likely[0]), High: y(e.Likely[1]), Middle: y(middle), UtmostLow: y(e.Utmost[0]), UtmostHigh: y(e.Utmost[1]),
			Here: p.Here, Picked: slices.Contains(picked, i), Href: press(i), Fill: discTo(float64(x(*p.Cost[0])), float64(y(middle)), p.Certainty),
		}
		free := !slices.ContainsFunc(labelled, func(at draw.Px) bool { return math.Abs(float64(at-d.X)) < labelPitch })
		if p.Here || d.Picked || free && len(picked) == 0 {
			d.Name, d.Below, d.LabelY = draw.Clip(p.Card, 18), "from "+p.From, max(d.UtmostHigh-21, chartTop-14)
			labelled = append(labelled, d.X)
		}
		c.Dots = append(c.Dots, d)
	}
	return c
}

// ticksTo are four to eight round numbers up to one.
func ticksTo(most float64) (list []float64) {
	step := math.Pow10(int(math.Floor(math.Log10(most))))
	for _, by := range []float64{0.2, 0.25, 0.5, 1} {
		if most/(step*by) <= 7 {
			step *= by
			break
		}
	}
	for v := step; v <= most; v += step {
		list = append(list, v)
	}
	return list
}

// discTo fills a disc from below as far as a share of its height.
func discTo(x, y, share float64) string {
	share = min(max(share, 0), 1)
	if share >= 0.995 {
		return fmt.Sprintf(
			"M%.1f %.1fa%g %g 0 1 0 %g 0a%g %g 0 1 0 -%g 0",
			x-dotRadius,
			y,
			dotRadius,
			dotRadius,
			2*dotRadius,
			dotRadius,
			dotRadius,
			2*dotRadius,
		)
	}
	h := dotRadius - 2*dotRadius*share // above the middle, where it ends
	half := math.Sqrt(max(0, dotRadius*dotRadius-h*h))
	large := 0
	if share > 0.5 {
		large = 1
	}
	return fmt.Sprintf("M%.1f %.1fA%g %g 0 %d 0 %.1f %.1fZ", x-half, y+h, dotRadius, dotRadius, large, x+half, y+h)
}
