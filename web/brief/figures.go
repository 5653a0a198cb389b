package brief

import (
	"strings"

	"kolvan/core/assess"
	"kolvan/core/ledger"
	"kolvan/core/rig"
	"kolvan/core/units"
	"kolvan/web/phrase"
	"kolvan/web/room"
)

// figures are what stands below the questions.
func figures(r *rig.Rig, report *assess.Report) []room.Figure {
	return []room.Figure{
		{
			Value: phrase.Figure(
				report, "brief.to_buy",
				func(v float64) string { return strings.TrimSpace(units.Money(v).String() + " " + r.Brief.Currency) },
			),
			Label: "still to buy", Of: "brief.to_buy",
		},
		{Value: budgetWords(r), Label: "of the budget", Of: ""},
		{Value: phrase.Plural(len(r.Brief.Works), "use"), Label: "it is for", Of: ""},
	}
}

func budgetWords(r *rig.Rig) string {
	budget, known := r.Brief.Budget.Get()
	if !known {
		return "no budget"
	}
	paid, _ := ledger.Committed(r)
	sum := ledger.Expected(r) + (paid.Low+paid.High)/2
	if sum > budget {
		return strings.TrimSpace((sum-budget).String()+" "+r.Brief.Currency) + " over"
	}
	return strings.TrimSpace((budget-sum).String()+" "+r.Brief.Currency) + " left"
}
