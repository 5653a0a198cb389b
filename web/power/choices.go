package power

import (
	"kolvan/core/assess"
	"kolvan/core/finding"
	"kolvan/core/power"
	"kolvan/web/room"
)

// choiceTable are the supplies, or the cards, that could be taken.
type choiceTable struct {
	ID, Title, Lead, Of string
	List                []choiceView
}

type choiceView struct {
	finding.Change
	Name, Size, Share, Spike string
	By                       [3]bool // nameplate, share, spikes
	Level, Says              string
}

// mostChoices of supplies or cards are shown.
const mostChoices = 6

func choicesOf(d *room.Desk) (list []choiceTable, err error) {
	supplies, err := assess.SupplyChoices(d.Context, d.Report, d.Rig, d.Ref, d.Bins, mostChoices)
	if err != nil {
		return nil, err
	}
	cards, err := assess.CardChoices(d.Context, d.Report, d.Rig, d.Ref, d.Bins, mostChoices)
	if err != nil {
		return nil, err
	}
	if len(supplies) > 0 {
		list = append(list, choiceTable{"supplies", "What supply would do",
			"In place of the one that feeds the card, its leads moved over. Of those that carry this plan your own stand first, then the smallest.",
			"supply", choiceViews(supplies)})
	}
	if len(cards) > 0 {
		list = append(list, choiceTable{"cards", "What card this supply carries",
			"In place of this one, with the leads its plugs want where outlets are free. Of those that the plan carries your own stand first, then " +
				"the largest.", "card", choiceViews(cards)})
	}
	return list, nil
}

func choiceViews(choices []assess.Choice) []choiceView {
	list := make([]choiceView, len(choices))
	for i, c := range choices {
		list[i] = choiceView{
			Change: c.Change, Name: c.Name, Size: c.Size.String(), Share: "unknown", Spike: "unknown",
			By: [3]bool{c.By.Nameplate, c.By.Share, c.By.Spikes},
		}
		if c.Owned {
			list[i].Size += ", owned"
		}
		if c.Share > 0 {
			list[i].Share, list[i].Spike = power.Percent(c.Share), c.Band.Takes.High.String()+" of "+c.Band.Rides.Low.String()
		}
		if !c.Free() {
			list[i].Level, list[i].Says = c.Level.String(), c.Says
		}
	}
	return list
}
