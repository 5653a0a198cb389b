package web

import (
	"fmt"

	"github.com/gofiber/fiber/v3"

	"kolvan/core/finding"
	"kolvan/core/need"
	"kolvan/web/phrase"
)

// needView is what would do: of each part what it would have to be like for troubles to end, and
// the shopping list by specification.
type needView struct {
	ID    int64
	Rig   string
	Needs []partNeed
	None  []need.Trouble
	Items []itemView
	Empty bool
}

// partNeed is one part, with the troubles that end with it.
type partNeed struct {
	Name, Href string
	Ends       []endView
	Bounds     []need.Bound
	Or         []need.Corner
}

type endView struct {
	need.Trouble
	ID, WhyURL string // ID where it stands first on the page
}

type itemView struct {
	need.Item
	N     int
	Text  string // the candidate, as it was pasted
	Ticks []tickView
	Does  string
}

// Example is what a page or a label of such a part says.
func (v itemView) Example() string {
	switch v.Kind {
	case "card":
		return "160 W, 242 mm long, 16 GiB, one 8-pin"
	case "supply":
		return "SFX 300 W, 12 V 24 A, one card 8-pin"
	case "lead":
		return "AWG 18, 300 mm, 10 A"
	}
	return "4 lanes, generation 4, 500 mm"
}

type tickView struct {
	Says, Because, Found string
	State                string // holds, fails, open
}

// whatWouldDo shows the page, with a candidate held against an item where one was pasted.
func (a *App) whatWouldDo(c fiber.Ctx) error {
	l, err := a.load(c)
	if err != nil {
		return err
	}
	ctx, done := whileThere(c.Context(), c.RequestCtx().Conn())
	defer done()
	list, err := need.Of(ctx, l.rig, a.ref)
	if err != nil {
		return err
	}
	v := &needView{ID: l.ID, Rig: l.rig.Name, None: list.Unanswered, Needs: needsOf(l.ID, list)}
	v.Empty = len(v.Needs)+len(v.None) == 0
	for i, item := range list.Shopping {
		v.Items = append(v.Items, itemOf(item, i, c.Query(fmt.Sprintf("is%d", i))))
	}
	return a.page(c, "need", fiber.Map{"Title": "What would do", "Need": v})
}

// needsOf are the needs as the page has them.
func needsOf(id int64, list *need.List) (all []partNeed) {
	seen := map[string]bool{}
	for i := range list.Needs {
		n := &list.Needs[i]
		part := partNeed{
			Name:   finding.Begin(n.Part),
			Href:   fmt.Sprintf("/rigs/%d/%s?sel=%s", id, homeOf(n.Where, "power"), n.Where),
			Bounds: n.Bounds,
			Or:     n.Or,
		}
		for _, t := range n.For {
			at := t.Rule + t.Where
			end := endView{Trouble: t, WhyURL: whyURL(id, t.Rule+"@"+t.Where)}
			if !seen[at] {
				seen[at], end.ID = true, at
			}
			part.Ends = append(part.Ends, end)
		}
		all = append(all, part)
	}
	return all
}

// itemOf is one thing to shop for, each condition with what a candidate makes of it.
func itemOf(item need.Item, n int, text string) itemView {
	v := itemView{Item: item, N: n, Text: text}
	ticks := item.Against(text)
	fails, open := 0, 0
	for i, tick := range ticks {
		row := tickView{Says: tick.Says, Found: tick.Found, State: "open"}
		if i < len(item.Conditions) {
			row.Because = item.Conditions[i].Because
		}
		switch {
		case tick.Holds == nil:
			open++
		case *tick.Holds:
			row.State = "holds"
		default:
			row.State, fails = "fails", fails+1
		}
		v.Ticks = append(v.Ticks, row)
	}
	switch {
	case text == "":
	case fails > 0:
		v.Does = "This one does not do: " + phrase.Plural(fails, "condition") + " not met."
	case open > 0:
		v.Does = "As far as it tells, it does; " + phrase.Plural(open, "condition") + " to ask about."
	default:
		v.Does = "This one does."
	}
	return v
}

// needCSV is the shopping list as a table.
func (a *App) needCSV(c fiber.Ctx) error {
	l, err := a.load(c)
	if err != nil {
		return err
	}
	list, err := need.Of(c.Context(), l.rig, a.ref)
	if err != nil {
		return err
	}
	c.Set(fiber.HeaderContentType, "text/csv; charset=utf-8")
	c.Set(fiber.HeaderContentDisposition, `attachment; filename="shopping.csv"`)
	return list.WriteCSV(c.Response().BodyWriter())
}
