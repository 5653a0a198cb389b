package web

import (
	"fmt"
	"strconv"
	"strings"

	"github.com/gofiber/fiber/v3"

	"kolvan/core/assess"
	"kolvan/core/finding"
	"kolvan/core/power"
	"kolvan/core/rig"
	"kolvan/core/units"
	"kolvan/store"
)

// Rigs stand side by side from two to six.
const (
	leastCompared = 2
	mostCompared  = 6
)

// comparison is rigs as columns.
type comparison struct {
	Rigs   []comparedRig
	Rows   []comparedRow
	Differ string // what differs, in words
}

type comparedRig struct {
	ID      int64
	Name    string
	Picture *miniRoute
	Level   string
	Verdict string
}

type comparedRow struct {
	Label  string
	Cells  []string
	Differ bool
}

func (a *App) compare(c fiber.Ctx) error {
	var ids []int64
	for _, value := range c.RequestCtx().QueryArgs().PeekMulti("rig") {
		id, err := strconv.ParseInt(string(value), 10, 64)
		if err != nil {
			return fiber.NewError(fiber.StatusUnprocessableEntity, fmt.Sprintf("rig: %q is not accepted; accepted: the number of a rig.", value))
		}
		ids = append(ids, id)
	}
	if len(ids) < leastCompared || len(ids) > mostCompared {
		return fiber.NewError(fiber.StatusUnprocessableEntity, fmt.Sprintf("Tick %d to %d rigs to see them side by side; %d are ticked.", leastCompared, mostCompared, len(ids)))
	}
	v := &comparison{}
	columns := make([][]string, len(ids))
	for i, id := range ids {
		h, err := a.store.Load(c.Context(), store.RigKind, id)
		if err != nil {
			return err
		}
		r, err := rig.Decode(h.Doc)
		if err != nil {
			return err
		}
		report := assess.Rig(r, a.ref)
		if err := assess.Ask(c.Context(), &report, r, a.ref); err != nil {
			return err
		}
		one := comparedRig{ID: id, Name: r.Name, Picture: drawMini(&report)}
		one.Verdict, one.Level = verdictWords(&report)
		v.Rigs = append(v.Rigs, one)
		columns[i] = comparedCells(r, &report)
	}
	v.fill(columns)
	return a.page(c, "compare", fiber.Map{"Title": "Side by side", "Compare": v})
}

// comparedLabels name the rows, in the order of comparedCells.
var comparedLabels = []string{"Host", "Slot", "Card", "Link", "Net, each way", "To fill the card's memory", "Lasting load of its supply", "Smallest gap", "Still to buy", "Worst", "Also", "To find out"}

func comparedCells(r *rig.Rig, report *assess.Report) []string {
	worst, also := "nothing against it", ""
	var titles []string
	for i := range report.Findings {
		if f := &report.Findings[i]; f.Level != finding.Note && f.Level != finding.Unknown {
			titles = append(titles, f.Level.String()+": "+f.Title)
		}
	}
	if len(titles) > 0 {
		worst, also = titles[0], strings.Join(titles[1:min(len(titles), 4)], "; ")
	}
	money := func(v float64) string { return strings.TrimSpace(units.Money(v).String() + " " + r.Brief.Currency) }
	return []string{
		orText(r.Host.Name, "none yet"), orText(r.Route.Slot, "none yet"), orText(r.Card.Name, "none yet"),
		linkWords(report), figureOf(report, "link.net_gb_s", printRate), figureOf(report, "link.fill_s", printTime),
		figureOf(report, "power.supply_share", power.Percent), gapWords(r, &report.Figures, false),
		figureOf(report, "brief.to_buy", money), worst, orText(also, "nothing more"), plural(len(report.Questions), "question"),
	}
}

// fill turns columns into rows and says which differ.
func (v *comparison) fill(columns [][]string) {
	var differ []string
	for i, label := range comparedLabels {
		row := comparedRow{Label: label}
		for _, column := range columns {
			row.Cells = append(row.Cells, column[i])
			row.Differ = row.Differ || column[i] != columns[0][i]
		}
		if row.Differ {
			differ = append(differ, strings.ToLower(label[:1])+label[1:])
		}
		v.Rows = append(v.Rows, row)
	}
	switch len(differ) {
	case 0:
		v.Differ = "They come to the same in all of this."
	case len(comparedLabels):
		v.Differ = "They differ in all of this."
	default:
		v.Differ = "They differ in " + strings.Join(differ, ", ") + "; the rest is the same."
	}
}
