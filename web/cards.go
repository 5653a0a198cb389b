package web

import (
	"github.com/gofiber/fiber/v3"

	"kolvan/core/fit"
	"kolvan/core/parts"
	"kolvan/core/rig"
	fitroom "kolvan/web/fit"
	"kolvan/web/phrase"
)

// cardsBySlack answers which card goes into the room: those of the bins and of the list.
func (a *App) cardsBySlack(c fiber.Ctx) error {
	l, err := a.load(c)
	if err != nil {
		return err
	}
	all, err := a.allParts(c)
	if err != nil {
		return err
	}
	var cards []rig.Card
	var from []found
	for _, f := range all {
		if card, is := f.part.(*rig.Card); is && f.Kind == string(parts.Card) {
			cards, from = append(cards, *card), append(from, f)
		}
	}
	in := inches(c)
	slacks := fit.Slacks(l.rig, cards, a.ref)
	rows := make([]fitroom.CardRow, len(slacks))
	for i := range slacks {
		s := &slacks[i]
		card, f := &cards[s.Card], &from[s.Card]
		rows[i] = fitroom.CardRow{ID: f.ID, Name: card.Name, Mine: f.Mine, Now: card.Name == l.rig.Card.Name, Goes: s.Goes,
			Size: phrase.Length(card.Length.Value, in) + " × " + phrase.Length(card.Height.Value, in) + " × " +
				phrase.Length(card.Thickness.Value, in),
			Slack: phrase.Length(s.Gap.Ends.Low.Ruled(), in), Meets: s.Gap.Name, Takes: fitroom.TakesOut(l.rig, s)}
	}
	largest := ""
	if i := fit.LargestOf(slacks, cards); i >= 0 {
		largest = cards[slacks[i].Card].Name
	}
	return c.Render("cards", fiber.Map{"Rows": rows, "Largest": largest, "RigID": c.Params("rig"), "Untold": len(cards) - len(rows)})
}
