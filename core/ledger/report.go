package ledger

import (
	"kolvan/core/proof"
	"kolvan/core/rig"
)

// Format is the format word of a ledger's report.
const Format = "kolvan-ledger/1"

// A Report is all that is told of a rig's money. Ranges are [low, high] in units of the
// currency, an open end null.
type Report struct {
	Format   string     `json:"format"`
	Rig      string     `json:"rig"`
	Currency string     `json:"currency"`
	Lines    []Line     `json:"lines"`
	Totals   Totals     `json:"totals"`
	Gain     *Amount    `json:"gain"` // times as fast as today, all uses together; null while nothing tells
	Gains    []Gain     `json:"gains"`
	Against  []Against  `json:"against"`
	Sale     *Sale      `json:"sale"`
	Order    []Purchase `json:"order"`
}

// ReportOf works all of it out over what the link of the rig carries.
func ReportOf(r *rig.Rig, link proof.Link) *Report {
	lines := Lines(r)
	t := TotalsOf(r, lines)
	gain := RigGain(r, link)
	return &Report{Format: Format, Rig: r.Name, Currency: r.Brief.Currency, Lines: append([]Line{}, lines...), Totals: t, Gain: gain,
		Gains: append(
			[]Gain{},
			GainsOf(r, t.WithoutOwned, link)...), Against: append([]Against{}, AgainstOthers(r, &t, gain)...), Sale: SaleOf(r, &t), Order: Order(r)}
}
