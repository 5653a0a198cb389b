package web

import (
	"fmt"
	"math"
	"strconv"
	"strings"

	"github.com/gofiber/fiber/v3"

	"kolvan/core/assess"
	"kolvan/core/finding"
	"kolvan/core/ledger"
	"kolvan/core/power"
	"kolvan/core/proof"
	"kolvan/core/rig"
	"kolvan/core/units"
	"kolvan/store"
	"kolvan/web/draw"
	"kolvan/web/fit"
	ledgerroom "kolvan/web/ledger"
	"kolvan/web/phrase"
	"kolvan/web/route"
	"kolvan/web/verdict"
)

// Rigs stand side by side from two to six.
const (
	leastCompared = 2
	mostCompared  = 6
)

// comparison is rigs as columns.
type comparison struct {
	Beside []string // what was measured in them, held against each other
	Rigs   []comparedRig
	Rows   []comparedRow
	Differ string // what differs, in words
}

type comparedRig struct {
	ID      int64
	Name    string
	Picture *draw.MiniRoute
	Level   string
	Verdict string
}

type comparedRow struct {
	Label  string
	Cells  []comparedCell
	Differ bool
}

// comparedCell is one value of a rig; where its row has a better end, what it counts by.
type comparedCell struct {
	Text   string
	Better bool
	counts float64
	upTo   float64 // the other end, where it is a range
	ranges bool
	told   bool
}

func (a *App) compare(c fiber.Ctx) error {
	var ids []int64
	for _, value := range every(c, "rig") {
		id, err := strconv.ParseInt(value, 10, 64)
		if err != nil {
			return fiber.NewError(
				fiber.StatusUnprocessableEntity, fmt.Sprintf("rig: %q is not accepted; accepted: the number of a rig.", value),
			)
		}
		ids = append(ids, id)
	}
	if len(ids) < leastCompared || len(ids) > mostCompared {
		return fiber.NewError(
			fiber.StatusUnprocessableEntity,
			fmt.Sprintf("Tick %d to %d rigs to see them side by side; %d are ticked.", leastCompared, mostCompared, len(ids)),
		)
	}
	v, built := &comparison{}, []proof.Built{}
	columns := make([][]comparedCell, len(ids))
	for i, id := range ids {
		h, err := a.store.Load(c.Context(), store.RigKind, id)
		if err != nil {
			return err
		}
		r, err := rig.Decode(h.Doc)
		if err != nil {
			return err
		}
		a.teach(c, id, r)
		report := assess.Rig(r, a.ref)
		if err := assess.Ask(c.Context(), &report, r, a.ref); err != nil {
			return err
		}
		one := comparedRig{ID: id, Name: r.Name, Picture: draw.Mini(&report)}
		one.Verdict, one.Level = verdict.VerdictWords(&report)
		v.Rigs = append(v.Rigs, one)
		columns[i] = a.comparedCells(r, &report)
		built = append(built, a.builtOf(r, &report))
	}
	v.fill(columns)
	for _, other := range built[1:] {
		v.Beside = append(v.Beside, proof.Beside(built[0], other)...)
	}
	return a.page(c, "compare", fiber.Map{"Title": "Side by side", "Compare": v})
}

// comparedRows are the rows in their order, each with the end that is the better one.
var comparedRows = []struct {
	label string
	says  string // in a sentence
	end   int    // 1 where more is better, −1 where less is, 0 where neither
}{
	{"Host", "the host", 0},
	{"Slot", "the slot", 0},
	{"Card", "the card", 0},
	{"Link", "the link", 1},
	{"Net, each way", "its net rate", 1},
	{"Margin, and how surely it is stable", "its margin", 1},
	{"To fill the card's memory", "how long the card's memory takes to fill", -1},
	{"Lasting load of its supply", "the load of the supply", -1},
	{"Spikes", "spikes", 0},
	{"Smallest gap", "the smallest gap", 1},
	{"Cost, without what was owned", "the cost", -1},
	{"Still to buy", "what is still to buy", -1},
	{"Expected of its first use", "what is expected of its first use", 1},
	{"Measured with the card", "what was measured", 0},
	{"Can be put back as it was", "what can be put back", 1},
	{"Worst", "the worst finding", 1},
	{"Also", "other findings", 0},
	{"To find out", "what is to be found out", -1},
}

// comparedCells are the values of a rig, a row each.
func (a *App) comparedCells(r *rig.Rig, report *assess.Report) []comparedCell {
	f := &report.Figures
	worst, also := worstWords(report)
	money := func(v float64) string { return strings.TrimSpace(units.Money(v).String() + " " + r.Brief.Currency) }
	plain := func(text string) comparedCell { return comparedCell{Text: text} }
	by := func(text string, by *float64) comparedCell {
		if by == nil {
			return comparedCell{Text: text}
		}
		return comparedCell{Text: text, counts: *by, told: true}
	}
	certain := route.MarginFigure(report.Link)
	if m, known := report.Link.Planned(); known {
		certain += ", " + m.ChanceWords()
	}
	spent, open := ledger.Spent(r)
	cost := comparedCell{
		Text: ledgerroom.Line(r), counts: float64(spent.Low), upTo: float64(spent.High), ranges: true, told: !open && spent.High > 0,
	}
	level, _ := report.Worst()
	return []comparedCell{
		plain(phrase.Or(r.Host.Name, "none yet")), plain(phrase.Or(r.Route.Slot, "none yet")), plain(phrase.Or(r.Card.Name, "none yet")),
		by(
			phrase.Link(report),
			f.Raw,
		), by(phrase.Figure(report, "link.net_gb_s", phrase.Rate), f.Net), by(certain, f.Margin),
		by(phrase.Figure(report, "link.fill_s", phrase.Time), f.Fill),
		by(
			phrase.Figure(report, "power.supply_share", power.Percent), f.SupplyShare,
		), plain(spikeWords(report)), by(fit.GapWords(r, f, false), f.Gap),
		cost, by(phrase.Figure(report, "brief.to_buy", money), f.ToBuy), a.expectedCell(r, report), a.measuredCell(r, report), reversible(r),
		{Text: worst, counts: -float64(level), told: true}, plain(phrase.Or(also, "nothing more")), {
			Text: phrase.Plural(len(report.Questions), "question"), counts: float64(len(report.Questions)), told: true,
		},
	}
}

// worstWords are the worst finding, and the few after it.
func worstWords(report *assess.Report) (worst, also string) {
	var titles []string
	for i := range report.Findings {
		if f := &report.Findings[i]; f.Level != finding.Note && f.Level != finding.Unknown {
			titles = append(titles, f.Level.String()+": "+f.Title)
		}
	}
	if len(titles) == 0 {
		return "nothing against it", ""
	}
	return titles[0], strings.Join(titles[1:min(len(titles), 4)], "; ")
}

func spikeWords(report *assess.Report) string {
	for i := range report.Findings {
		switch report.Findings[i].Rule {
		case power.RuleTotal, power.RuleRail:
			return "overloaded without them"
		case power.RuleSpike:
			return "not all ridden out"
		}
	}
	if report.Figures.SupplyShare == nil {
		return phrase.Unknown
	}
	return "ridden out"
}

// expectedCell is what is expected of the first use: its rate where it is known, else the
// share of the card's own speed.
func (a *App) expectedCell(r *rig.Rig, report *assess.Report) comparedCell {
	l := proof.LinkCarrying(r, a.ref, report.Link.NetEnds)
	if l.Net.High <= 0 || r.Card.Name == "" || len(r.Brief.Works) == 0 {
		return comparedCell{Text: phrase.Unknown}
	}
	u := proof.Make(r, l, nil, l.Net, proof.Same).Uses[0]
	if !u.Tells() {
		return comparedCell{Text: u.Use + ": a figure of the card in another machine would tell"}
	}
	c := comparedCell{
		Text:   fmt.Sprintf("%s: %.0f to %.0f %% of the card", u.Use, 100*u.Now.Likely.Share[0], 100*u.Now.Likely.Share[1]),
		counts: math.Round(100 * u.Now.Share[0]), upTo: math.Round(100 * u.Now.Share[1]), ranges: true, told: true,
	}
	if u.Now.Gain != nil {
		c.Text += fmt.Sprintf(", ×%.1f to ×%.1f", u.Now.Gain[0], u.Now.Gain[1])
	}
	return c
}

// measuredCell is what each use was measured to run at with the card.
func (a *App) measuredCell(r *rig.Rig, report *assess.Report) comparedCell {
	built := a.builtOf(r, report)
	var list []string
	for i := range r.Brief.Works {
		if says, _ := built.Measured(r.Brief.Works[i].Name); says != "" {
			list = append(list, r.Brief.Works[i].Name+": "+says)
		}
	}
	return comparedCell{Text: phrase.Or(strings.Join(list, "; "), "not run yet")}
}

func (a *App) builtOf(r *rig.Rig, report *assess.Report) proof.Built {
	return proof.Built{Rig: r, Link: proof.LinkCarrying(r, a.ref, report.Link.NetEnds)}
}

// reversible counts what the plan does for good.
func reversible(r *rig.Rig) comparedCell {
	forGood := 0
	for i := range r.Alterations {
		if r.Alterations[i].Permanent.Or(true) {
			forGood++
		}
	}
	if forGood == 0 {
		return comparedCell{Text: "yes", counts: 0, told: true}
	}
	return comparedCell{Text: "no: " + phrase.Counted(forGood, "thing is", "things are") + " for good", counts: -float64(forGood), told: true}
}

// fill turns columns into rows, marks the better value of each, and says which differ.
func (v *comparison) fill(columns [][]comparedCell) {
	var differ []string
	for i, of := range comparedRows {
		row := comparedRow{Label: of.label}
		for _, column := range columns {
			row.Cells = append(row.Cells, column[i])
			row.Differ = row.Differ || column[i].Text != columns[0][i].Text
		}
		row.mark(of.end)
		if row.Differ {
			differ = append(differ, of.says)
		}
		v.Rows = append(v.Rows, row)
	}
	switch len(differ) {
	case 0:
		v.Differ = "They come to the same in all of this."
	case len(comparedRows):
		v.Differ = "They differ in all of this."
	default:
		v.Differ = "They differ in " + phrase.List(differ, "and") + "; the rest is the same."
	}
}

// mark names the better of a row, where all of it is told: what beats every other that is not
// the same, over the whole of both ranges.
func (r *comparedRow) mark(end int) {
	for _, c := range r.Cells {
		if !c.told || end == 0 {
			return
		}
	}
	for i := range r.Cells {
		beats, stands := false, true
		for j := range r.Cells {
			a, b := r.Cells[i].ends(end), r.Cells[j].ends(end)
			beats = beats || a[0] > b[1]
			stands = stands && (a == b || a[0] > b[1])
		}
		r.Cells[i].Better = beats && stands
	}
}

// ends are a cell's figure between its worse and its better end, more being better.
func (c *comparedCell) ends(end int) [2]float64 {
	a, b := float64(end)*c.counts, float64(end)*c.counts
	if c.ranges {
		b = float64(end) * c.upTo
	}
	return [2]float64{min(a, b), max(a, b)}
}
