package proof

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strconv"
	"strings"

	"kolvan/core/finding"
	"kolvan/core/link"
	"kolvan/core/proof"
	"kolvan/core/rig"
	"kolvan/core/units"
	"kolvan/web/brief"
	"kolvan/web/phrase"
	"kolvan/web/room"
)

// View is what a rig really does: its runs drawn, before and after, what holds it
// back, and what is expected of each use.
type View struct {
	Teaching     string // what a press does with what other rigs taught
	Title, Aside string
	Height       float64
	Traces       []runLine
	Curves       []runLine
	Marks        []timeMark // of the ms axis
	Legend       []runLine  // the sides that are drawn, in words
	Empty        string
	Gains        []gainView
	Combined     string     // of several uses
	Chosen       []gainView // runs that were chosen, held against the first of them
	Held         []heldView
	Coming       []comingRow
	Thought      *thoughtView
	Expected     []brief.Effect
	Promised     *promisedView
	Stages       []foundStage
	Found        []foundRow
	Protocol     *protocolView
	Runs         []runRow
	Log          *logView
	Shown        *shownRun
	Uses         []room.Option
	Sides        []room.Option
	Felt         []room.Option
	Minima       []room.Option
}

// shownRun is the run that is chosen, with the pictures of its settings.
type shownRun struct {
	Name, Step string
	Pictures   []room.Picture
}

// files gives runs the addresses of the captures that are kept.
func files(d *room.Desk, rows []runRow) error {
	names, err := d.Store.CapturesOf(d.Context, d.ID)
	for i := range rows {
		if sum := d.Rig.Runs[i].Sum; names[sum] != "" {
			rows[i].File = fmt.Sprintf("/rigs/%d/capture/%s", d.ID, sum)
		}
	}
	return err
}

// runShown finds the run that is chosen; nil for none.
func runShown(d *room.Desk) (*shownRun, error) {
	r, i := d.Rig, rig.EntryAt(d.Sel, "/runs")
	if i < 0 || i >= len(r.Runs) {
		return nil, nil
	}
	s := &shownRun{Name: r.Runs[i].Name, Step: room.RunStep + r.Runs[i].FirstName()}
	var err error
	s.Pictures, err = d.Pictures(s.Step)
	return s, err
}

// heldView is what holds a use back, with what speaks for it.
type heldView struct {
	Use, Says, Knob, Parts string
	Terms                  []termBar
	Evidence               []proof.Evidence
}

// comingRow is what a change would bring to a use.
type comingRow struct {
	Use, Change, Brings, From string
	Low, High                 float64 // of the bar of its range at the utmost, in its units
	OftenLow, OftenHigh       float64 // and most often
}

// The bar of a range: from all that is lost to three times as much.
const (
	barWide       = 150.0
	barLow, barUp = -100.0, 200.0
)

func barAt(percent float64) float64 {
	return (min(max(percent, barLow), barUp) - barLow) / (barUp - barLow) * barWide
}

// Zero is where no change stands on the bar.
func (comingRow) Zero() float64 { return barAt(0) }

// Wide is how wide the bar is drawn.
func (c comingRow) Wide() float64 { return max(2, c.OftenHigh-c.OftenLow) }

// Whole is so many minutes, rounded up.
func (protocolView) Whole(minutes float64) int { return int(math.Ceil(minutes)) }

// protocolView is the runs that are worth making.
type protocolView struct {
	*proof.Protocol
	Asked string
	Ready int // done
}

// Whys are the reasons for the runs, each once with the runs it is for.
func (p *protocolView) Whys() (list []string) {
	var order []string
	runs := map[string][]string{}
	for i := range p.Runs {
		run := &p.Runs[i]
		if run.Left || run.Why == "" {
			continue
		}
		if runs[run.Why] == nil {
			order = append(order, run.Why)
		}
		runs[run.Why] = append(runs[run.Why], strconv.Itoa(i+1))
	}
	for _, why := range order {
		list = append(list, fmt.Sprintf("Run %s: %s", strings.Join(runs[why], ", "), why))
	}
	return list
}

// runLine is one run as a line of the drawing.
type runLine struct {
	Name, Class, Path string
	X, Y              float64
}

type timeMark struct {
	Y    float64
	Text string
}

type gainView struct {
	Use, Says string
	Differs   []string
	Warned    []string
	Seen      []string    // by eye, and felt
	Rows      [][5]string // figure, before, after, change, ratio
	Enough    string
}

type termBar struct {
	Name, Range string
	X, W, From  float64 // the bar to its middle, and its range
	To          float64
	First       bool
}

const (
	traceLeft, traceWide = 60.0, 500.0
	curveLeft, curveWide = 610.0, 240.0
	runsTop, runsHigh    = 44.0, 190.0
)

// usualMinutes there are for runs, unless told.
const usualMinutes = 20

// proofOf makes the view of the station.
func proofOf(d *room.Desk) (*View, error) {
	r, report := d.Rig, d.Report
	v := &View{Height: runsTop + runsHigh + 40}
	v.Draw(r)
	gains := proof.GainsOf(r)
	for _, g := range gains {
		v.Gains = append(v.Gains, GainOf(r, &g))
	}
	if ratio, uses := proof.Combined(gains); uses > 1 {
		v.Combined = fmt.Sprintf("Over its %d uses together ×%s, as the geometric mean of their ratios.", uses, units.Trim(ratio, 2))
	}
	at := link.HeldTo(r, d.Ref)
	for _, use := range usesOf(r) {
		if len(proof.WithCard(r, use)) > 0 {
			v.Held = append(v.Held, heldOf(proof.PinchOf(r, use, at), use))
		}
	}
	l := proof.LinkCarrying(r, d.Ref, report.Link.NetEnds).Keeping()
	v.Teaching = teaching(d)
	v.Coming, v.Expected, v.Promised = coming(r, l), brief.ExpectedEffects(r, l), promisedOf(r, l)
	v.FindAll(r, report)
	minutes := usualMinutes
	if n, err := strconv.Atoi(d.Form("minutes")); err == nil && n > 0 && n <= 10000 {
		minutes = n
	}
	v.Protocol = &protocolView{Protocol: proof.ProtocolFor(r, float64(minutes), at), Asked: strconv.Itoa(minutes)}
	for i := range v.Protocol.Runs {
		if v.Protocol.Runs[i].Done {
			v.Protocol.Ready++
		}
	}
	v.Runs = RunRows(r)
	v.hold(r, d.Every("run"))
	var err error
	if v.Thought, err = thoughtOf(d, l); err != nil {
		return nil, err
	}
	v.Log, err = logOf(r, d.Query("log"))
	v.choices(r)
	return v, err
}

// choices are what the form of a new run is filled in from.
func (v *View) choices(r *rig.Rig) {
	for _, w := range r.Brief.Works {
		v.Uses = append(v.Uses, room.Option{Value: w.Name, Label: w.Name})
	}
	for _, side := range rig.RunSide("").Words().All() {
		v.Sides = append(v.Sides, room.Option{Value: side, Label: sideNames[rig.RunSide(side)]})
	}
	for _, felt := range rig.Felt("").Words().All() {
		v.Felt = append(v.Felt, room.Option{Value: felt, Label: felt})
	}
	for _, is := range rig.Minimum("").Words().All() {
		v.Minima = append(v.Minima, room.Option{Value: is, Label: rig.Spoken(rig.Minimum(is))})
	}
}

// usesOf are the uses that runs were made of, in their order.
func usesOf(r *rig.Rig) (list []string) {
	for i := range r.Runs {
		if !slices.Contains(list, r.Runs[i].Use) {
			list = append(list, r.Runs[i].Use)
		}
	}
	return list
}

// proofTitle is what was shown, in a sentence: of the first use that was run on both sides,
// with whether that is enough.
func proofTitle(r *rig.Rig) string {
	for _, g := range proof.GainsOf(r) {
		for _, f := range g.Figures {
			if !f.Main() || f.Ratio == nil {
				continue
			}
			says := fmt.Sprintf("%s: %.2g times as fast", finding.Sentence(phrase.Or(g.Use, "The runs")), *f.Ratio)
			switch enough := GainOf(r, &g).Enough; {
			case strings.Contains(enough, "yes"):
				says += "; enough"
			case strings.Contains(enough, "no"):
				says += "; not enough"
			}
			return says
		}
	}
	return "What it really does"
}

// Draw draws the traces and the sorted curves of all runs on one scale.
func (v *View) Draw(r *rig.Rig) {
	most := 0.0
	for i := range r.Runs {
		if curve := proof.Values(r.Runs[i].Curve); len(curve) > 2 {
			most = max(most, 1.15*curve[len(curve)-2])
		}
	}
	v.Title, v.Aside = proofTitle(r), "ms a frame"
	if most == 0 {
		v.Empty, v.Height = "No capture is here yet. Drop one below: a table of frame times from any tool; or type what was read.", 150
		return
	}
	most = 2 * roundUp(most/2)
	y := func(ms float64) float64 { return runsTop + runsHigh*(1-min(1, ms/most)) }
	for _, share := range []float64{0, 0.5, 1} {
		v.Marks = append(v.Marks, timeMark{runsTop + runsHigh*(1-share), units.Trim(share*most, 1)})
	}
	for _, side := range []rig.RunSide{"before", "after", "elsewhere"} {
		if slices.ContainsFunc(r.Runs, func(run rig.Run) bool { return sideDrawn(&run) == side && len(proof.Values(run.Curve)) > 1 }) {
			v.Legend = append(v.Legend, runLine{Name: sideNames[side], Class: string(side), X: traceLeft + 150*float64(len(v.Legend))})
		}
	}
	for i := range r.Runs {
		run := &r.Runs[i]
		class := string(sideDrawn(run))
		for _, line := range []struct {
			text       string
			left, wide float64
			into       *[]runLine
		}{{run.Trace, traceLeft, traceWide, &v.Traces}, {run.Curve, curveLeft, curveWide, &v.Curves}} {
			values := proof.Values(line.text)
			if len(values) < 2 {
				continue
			}
			path := ""
			for k, ms := range values {
				path += fmt.Sprintf("%c%.1f %.1f", "ML"[min(1, k)], line.left+line.wide*float64(k)/float64(len(values)-1), y(ms))
			}
			*line.into = append(
				*line.into,
				runLine{
					Name: run.Name + ", " + phrase.Or(sideNames[run.Side.Value], "side not told"), Class: class, Path: path,
					Y: y(values[len(values)-1]),
				},
			)
		}
	}
}

// sideDrawn is the side a run is drawn as; one of no side is drawn as from elsewhere.
func sideDrawn(run *rig.Run) rig.RunSide { return cmp.Or(run.Side.Value, "elsewhere") }

// roundUp is the next round number: 1, 2, 3, 4, 5, 6, 8 or 10 times a power of ten.
func roundUp(v float64) float64 {
	unit := math.Pow(10, math.Floor(math.Log10(v)))
	for _, n := range []float64{1, 2, 3, 4, 5, 6, 8} {
		if n*unit >= v {
			return n * unit
		}
	}
	return 10 * unit
}

// GainOf puts what changed into words.
func GainOf(r *rig.Rig, g *proof.Gain) gainView {
	v := gainView{Use: phrase.Or(g.Use, "a use that is not named"), Differs: g.Differs, Warned: g.Warned, Seen: g.Seen}
	if g.How != "" {
		v.Use += ", " + g.How
	}
	switch {
	case g.Possible:
		v.Says = "It did not start before, and does now: made possible, which has no ratio."
	case len(g.Before) == 0:
		v.Says = "No run from before the card: nothing to hold it against."
	case len(g.After) == 0:
		v.Says = "No run with the card yet."
	}
	for _, f := range g.Figures {
		v.Rows = append(v.Rows, gainRow(&f))
	}
	v.Enough = enoughWords(r, g)
	return v
}

// figureNames are the figures of a run as a person calls them, with their units.
var figureNames = map[string][2]string{
	"average_hz": {"average", " Hz"}, "low1_p99_hz": {"worst 1 %, 99th percentile", " Hz"}, "low1_mean_hz": {"worst 1 %, mean of slowest",
		" Hz"},
	"low01_p99_hz": {"worst 0.1 %, 99.9th percentile", " Hz"}, "low01_mean_hz": {"worst 0.1 %, mean of slowest", " Hz"},
	"duration_s": {"time it took; change is what is saved", " s"}, "score": {"score", ""}, "wall_w": {"watts at the wall", " W"},
}

func gainRow(f *proof.Compared) [5]string {
	name := figureNames[f.Name]
	row := [5]string{name[0], units.Trim(f.Before, 1) + name[1], units.Trim(f.After, 1) + name[1], f.Says, ""}
	if f.Change == nil {
		return row
	}
	row[3] = units.Signed(*f.Change) + " %"
	if f.Interval != nil {
		row[3] += fmt.Sprintf(" (%.0f to %.0f)", 100*f.Interval[0], 100*f.Interval[1])
	}
	if f.Says == "no difference seen" {
		row[3] = f.Says
	}
	row[4] = strings.TrimSpace(f.Bound + " ×" + units.Trim(*f.Ratio, 2))
	return row
}

// enoughWords hold the runs with the card against what the use says is enough.
func enoughWords(r *rig.Rig, g *proof.Gain) string {
	i := slices.IndexFunc(r.Brief.Works, func(w rig.Work) bool { return w.Name == g.Use })
	if i < 0 || len(g.After) == 0 {
		return ""
	}
	met, wants := proof.EnoughOf(&r.Brief.Works[i], g.After)
	if met == "" {
		return ""
	}
	return "Enough: " + met + "; " + wants + " are wanted."
}

// heldOf puts into words and bars what holds a use back.
func heldOf(p proof.Pinch, use string) heldView {
	v := heldView{Use: phrase.Or(use, "a use that is not named"), Evidence: p.Evidence, Knob: p.Knob}
	switch {
	case p.Name != "":
		v.Says = "The " + p.Name + " holds it back."
	case p.Likely != "":
		v.Says = fmt.Sprintf("Perhaps the %s, %d in 10: not sure yet.", p.Likely, p.InTen)
	default:
		v.Says = "It cannot be told yet."
	}
	if p.Name == "" {
		v.Parts = phrase.Or(p.PartedBy, "a run that tells its resolution, over a link that is known, without a cap")
	}
	most := max(p.C[1], p.G[1], p.L[1])
	if most == 0 {
		return v
	}
	for _, t := range []struct {
		name string
		ends [2]float64
	}{{"card", p.G}, {"processor", p.C}, {"link", p.L}} {
		x := func(ms float64) float64 { return 92 + 230*ms/most }
		v.Terms = append(
			v.Terms,
			termBar{
				Name: t.name, Range: units.Trim(t.ends[0], 1) + " to " + units.Trim(t.ends[1], 1) + " ms", X: 92,
				W: max(1, x((t.ends[0]+t.ends[1])/2)-92), From: x(t.ends[0]), To: x(t.ends[1]), First: t.name == p.Name,
			},
		)
	}
	return v
}

// changes are what one may think of next.
var changes = []struct {
	says   string
	link   float64 // times the net rate
	ratios proof.Ratios
}{
	{"a link twice as fast", 2, proof.Same},
	{"a card half again as fast", 1, proof.Ratios{Card: [2]float64{1.5, 1.5}, Processor: [2]float64{1, 1}, Pixels: [2]float64{1, 1}}},
	{"a processor half again as fast", 1, proof.Ratios{Card: [2]float64{1, 1}, Processor: [2]float64{1.5, 1.5}, Pixels: [2]float64{1, 1}}},
	{"twice the pixels", 1, proof.Ratios{Card: [2]float64{1, 1}, Processor: [2]float64{1, 1}, Pixels: [2]float64{2, 2}}},
}

// usualCap is the share of a card's power at which a cap is shown.
const usualCap = 0.8

// mostComing uses are forecast beside each other.
const mostComing = 8

// coming forecasts what the usual changes would bring to each use.
func coming(r *rig.Rig, l proof.Link) (list []comingRow) {
	if l.Net.High <= 0 || r.Card.Name == "" {
		return nil
	}
	for _, change := range changes {
		list = append(list, comingOf(r, r, l, l.Net.Times(change.link), change.ratios, change.says)...)
	}
	if power, known := r.Card.Power.Get(); known && !r.Card.Cap.Known && power > 0 {
		capped := *r
		capped.Card.Cap = rig.Of(units.Watt(math.Round(usualCap * float64(power))))
		list = append(list, comingOf(r, &capped, l, l.Net, proof.Same, "the card capped at "+capped.Card.Cap.Value.String())...)
	}
	slices.SortStableFunc(list, func(a, b comingRow) int { return strings.Compare(a.Use, b.Use) })
	return list
}

// comingOf forecasts what one change would bring to each use.
func comingOf(r, then *rig.Rig, l proof.Link, net units.Range[units.GigabytePerSecond], ratios proof.Ratios,
	says string) (list []comingRow) {
	few := *r
	few.Brief.Works = few.Brief.Works[:min(len(few.Brief.Works), mostComing)]
	for _, u := range proof.Make(&few, l, then, net, ratios).Uses {
		if u.Change == nil || !u.Tells() {
			continue
		}
		row := comingRow{
			Use: u.Use, Change: says, Brings: units.Signed(u.ChangeLikely[0]) + " to " + units.Signed(u.ChangeLikely[1]) + " %",
			Low: barAt(100 * u.Change[0]), High: barAt(100 * u.Change[1]),
			OftenLow: barAt(100 * u.ChangeLikely[0]), OftenHigh: barAt(100 * u.ChangeLikely[1]),
			From: map[string]string{"runs": "by its runs", "planning": "as planned"}[u.From],
		}
		if rate := u.Then.Likely.Rate; rate != nil {
			row.Brings += fmt.Sprintf(": %.0f to %.0f Hz", rate[0], rate[1])
		}
		if u.Enough != "" {
			row.From += "; enough: " + u.Enough
		}
		list = append(list, row)
	}
	return list
}

// proofFigure is what the line of stations says of the proof.
func proofFigure(r *rig.Rig) string {
	if ratio, shown := phrase.Gained(r); shown {
		return "×" + units.Trim(ratio, 2)
	}
	switch {
	case len(r.Runs) > 0:
		return phrase.Counted(len(r.Runs), "run", "runs")
	case len(r.Route.Readings) > 0:
		return "link read"
	default:
		return "not proven"
	}
}
