package web

import (
	"strings"

	"github.com/gofiber/fiber/v3"

	"kolvan/core/fit"
	"kolvan/core/parts"
	"kolvan/core/rig"
)

// cardRow is one card in the place of the rig's own.
type cardRow struct {
	ID, Name, Size string
	Mine           bool
	Slack, Meets   string
	Takes          string // what must come out or stay off for it, and what is lost
	Goes, Now      bool
}

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
	rows := make([]cardRow, len(slacks))
	for i := range slacks {
		s := &slacks[i]
		card, f := &cards[s.Card], &from[s.Card]
		rows[i] = cardRow{ID: f.ID, Name: card.Name, Mine: f.Mine, Now: card.Name == l.rig.Card.Name, Goes: s.Goes,
			Size:  length(card.Length.Value, in) + " × " + length(card.Height.Value, in) + " × " + length(card.Thickness.Value, in),
			Slack: length(s.Gap.Ends.Low.Ruled(), in), Meets: s.Gap.Name, Takes: takesOut(l.rig, s)}
	}
	largest := ""
	if i := fit.LargestOf(slacks, cards); i >= 0 {
		largest = cards[slacks[i].Card].Name
	}
	return c.Render("cards", fiber.Map{"Rows": rows, "Largest": largest, "RigID": c.Params("rig"), "Untold": len(cards) - len(rows)})
}

// takesOut says what has to come out or stay off for a card, and what is lost with it.
func takesOut(r *rig.Rig, s *fit.Slack) string {
	var all []string
	for _, i := range s.Out {
		t := &r.Chamber.Things[i]
		says := t.Name + " comes out"
		if t.Loses != "" {
			says += ", and with it " + t.Loses
		}
		all = append(all, says)
	}
	for _, name := range s.Off {
		all = append(all, name+" stays off")
	}
	switch {
	case !s.Goes:
		return "does not go in"
	case len(all) == 0:
		return "nothing"
	default:
		return strings.Join(all, "; ")
	}
}
