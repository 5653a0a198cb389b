package assess

import (
	"cmp"
	"context"
	"slices"
	"strings"

	"kolvan/core/finding"
	"kolvan/core/reference"
	"kolvan/core/rig"
	"kolvan/core/units"
)

// A SupplyChoice is a supply that could stand in the place of the one that feeds
// the card, tried as a change is.
type SupplyChoice struct {
	Supply rig.Supply
	Share  float64        // of its rating, sustained at the most
	Change finding.Change // puts it there
	Level  finding.Level  // the worst that then speaks against the feeds
	Says   string         // that finding; empty where nothing at risk or worse does
	Bands  [4]units.Watt  // what its loads may take for each length of spike
	Rides  [4]units.Watt  // what it then rides out at the least
	Free   bool           // nothing speaks against it
}

// SupplyChoices tries every supply of the bins, those that carry the plan first and
// of them the smallest; at most that many. It is nil while no supply with a load
// that is known feeds the card.
func SupplyChoices(ctx context.Context, report *Report, r *rig.Rig, ref *reference.Tables, bins *Bins, most int) ([]SupplyChoice, error) {
	i := report.Power.CardSupply()
	if i < 0 || !report.Power.Supplies[i].Load.Known() {
		return nil, nil
	}
	var list []SupplyChoice
	for _, s := range bins.Supplies {
		if err := ctx.Err(); err != nil {
			return nil, err
		}
		c, goes := exchanged(r, i, s)
		if !goes || !s.Rating.Known {
			continue
		}
		choice, err := choiceOf(r, c, i, ref)
		if err != nil {
			return nil, err
		}
		list = append(list, choice)
	}
	slices.SortStableFunc(list, func(a, b SupplyChoice) int {
		return cmp.Or(cmp.Compare(a.Level, b.Level), cmp.Compare(a.Supply.Rating.Value, b.Supply.Rating.Value))
	})
	return list[:min(len(list), most)], nil
}

func choiceOf(r, c *rig.Rig, i int, ref *reference.Tables) (SupplyChoice, error) {
	out := finding.List{}
	after := judge(c, ref, &out)
	choice := SupplyChoice{Supply: c.Supplies[i], Level: finding.Note, Free: true}
	choice.Share, _ = after.Power.Supplies[i].Share()
	for f := range out.Findings {
		at := &out.Findings[f]
		if strings.HasPrefix(at.Rule, "power.") && at.Level != finding.Note && (choice.Free || at.Level > choice.Level) {
			choice.Level, choice.Says, choice.Free = at.Level, at.Says, false
		}
	}
	for b, band := range after.Power.Bands(i) {
		choice.Bands[b], choice.Rides[b] = band.Takes.High, band.Rides.Low
	}
	patch, err := patchOf(r, c)
	choice.Change = finding.Change{Change: "Use supply " + c.Supplies[i].Name + " for " + r.Supplies[i].Name, Patch: patch}
	return choice, err
}
