package fit

import (
	"kolvan/core/finding"
	"kolvan/core/rig"
	"kolvan/core/units"
)

var rules = finding.Table[*Chamber]{
	{Rule: finding.Rule{Name: "fit.card", Title: "The card meets something", Levels: "blocked",
		Fires: "the card meets something in the case or a wall; names it and by how much"}, Judge: judgeCard},
	{Rule: finding.Rule{Name: "fit.lid", Title: "Cover must stay off", Levels: "note",
		Fires: "the card meets a closed cover that the brief lets stay off (what a cover meets along its travel comes later)"}, Judge: judgeLid},
	{Rule: finding.Rule{Name: "fit.tight", Title: "Gap within the measuring tolerance", Levels: "risk",
		Fires: "a gap is below the measuring tolerance, 1.5 mm unless the facts state theirs"}, Judge: judgeTight},
	{Rule: finding.Rule{Name: "fit.bracket", Title: "Bracket does not match", Levels: "blocked; risk",
		Fires: "bracket height or width does not match the opening; a risk when the bracket that would match means dismantling the cooler"}, Judge: judgeBracket},
}

// Rules lists the rules of this package.
func Rules() []finding.Rule { return rules.Rules() }

// Judge adds what the rules say about the chamber.
func (c *Chamber) Judge(out *finding.List) {
	if c.Open() {
		return
	}
	rules.Judge(c, out)
}

func judgeCard(r *finding.Rule, c *Chamber, out *finding.List) {
	if c.undescribed() {
		out.Need(r, "/chamber", "the room the card stands in", "Measure it, or say that the card stands in the open.", "whether the card goes in")
		return
	}
	for _, m := range c.missing() {
		out.Need(r, m.where, m.fact, m.find, "whether the card goes in")
	}
	if !c.Placed {
		c.judgeSizes(r, out)
		return
	}
	for _, g := range c.Gaps {
		if g.Distance < 0 && !g.Off {
			out.Add(r, finding.Blocked, g.Where, finding.Numbers{{Name: "gap_mm", Value: float64(g.Distance)}},
				"The card meets %s by %v.", g.Name, -g.Distance)
		}
	}
}

func (c *Chamber) undescribed() bool {
	ch := &c.rig.Chamber
	return ch.Name == "" && ch.Box == (rig.Extent{}) && ch.CardAt == (rig.Place{}) && ch.Things == nil && ch.Covers == nil
}

// judgeSizes: without a place, a card larger than the chamber is still certain.
func (c *Chamber) judgeSizes(r *finding.Rule, out *finding.List) {
	box, sizes := extent3(c.rig.Chamber.Box), CardSizes(&c.rig.Card)
	for i, axis := range c.axes {
		if box[axis].Known && sizes[i].Known && sizes[i].Value > box[axis].Value {
			excess := sizes[i].Value - box[axis].Value
			out.Add(r, finding.Blocked, "/chamber/box/"+axisName(axis), finding.Numbers{{Name: "gap_mm", Value: float64(-excess)}},
				"The card meets %s by %v wherever it stands.", wallNames[i][1], excess)
		}
	}
}

func judgeLid(r *finding.Rule, c *Chamber, out *finding.List) {
	for _, g := range c.Gaps {
		if g.Off && g.Distance < 0 {
			out.Add(r, finding.Note, g.Where, finding.Numbers{{Name: "gap_mm", Value: float64(g.Distance)}},
				"The card reaches %v into %s, which the brief lets stay off. Keep fingers and metal away from the open case.", -g.Distance, g.Name)
		}
	}
}

func judgeTight(r *finding.Rule, c *Chamber, out *finding.List) {
	for _, g := range c.Gaps {
		if g.Off || g.Distance < 0 || g.Distance >= g.Tolerance {
			continue
		}
		out.Add(r, finding.Risk, g.Where, finding.Numbers{{Name: "gap_mm", Value: float64(g.Distance)}, {Name: "tolerance_mm", Value: float64(g.Tolerance)}},
			"%v to %s, %s ±%v.", g.Distance, g.Name, c.Measured(g), g.Tolerance)
	}
}

func judgeBracket(r *finding.Rule, c *Chamber, out *finding.List) {
	if c.undescribed() {
		return // fit.card asks for the chamber
	}
	bracket, opening := &c.rig.Card.Bracket, &c.rig.Chamber.Opening
	if !bracket.Height.Known {
		out.Need(r, "/card/bracket/height", "the height of the card's bracket", "Hold a ruler beside it: 120 mm is full height, 79 mm low-profile (half-height).", "whether it matches the opening")
	}
	if !opening.Height.Known {
		c.judgeBracketRoom(r, out)
	}
	if bracket.Height.Known && opening.Height.Known {
		c.judgeHeights(r, out)
	}
	c.judgeWidth(r, out)
}

// judgeBracketRoom: with the opening unknown, a bracket taller than the chamber
// is still certain.
func (c *Chamber) judgeBracketRoom(r *finding.Rule, out *finding.List) {
	room := extent3(c.rig.Chamber.Box)[c.axes[1]]
	tall := c.ref.BracketHeight(c.rig.Card.Bracket.Height.Or(rig.NoBracket))
	if room.Known && tall > room.Value {
		out.Add(r, finding.Blocked, "/card/bracket", finding.Numbers{{Name: "bracket_mm", Value: float64(tall)}, {Name: "room_mm", Value: float64(room.Value)}},
			"The bracket is %v tall, the case %v.", tall, room.Value)
		return
	}
	out.Need(r, "/chamber/opening/height", "the opening for the bracket", "Measure it: 120 mm is full height, 79 mm low-profile (half-height).", "whether the card's bracket matches")
}

func (c *Chamber) judgeHeights(r *finding.Rule, out *finding.List) {
	bracket, wanted := &c.rig.Card.Bracket, c.rig.Chamber.Opening.Height.Value
	fitted := bracket.Height.Value
	if fitted == wanted || fitted == rig.NoBracket {
		return
	}
	numbers := finding.Numbers{{Name: "bracket_mm", Value: float64(c.ref.BracketHeight(fitted))}, {Name: "opening_mm", Value: float64(c.ref.BracketHeight(wanted))}}
	says := "The card has a " + bracketWords(fitted, c.ref.BracketHeight(fitted)) + ", the opening takes " + bracketWords(wanted, c.ref.BracketHeight(wanted)) + "."
	switch {
	case wanted != rig.NoBracket && !bracket.Spare.Known:
		out.Need(r, "/card/bracket/spare", "whether a second bracket came with the card", "Look in its box.", "between a swap and a card that does not go in")
	case bracket.Spare.Or("") != wanted && wanted != rig.NoBracket:
		out.Add(r, finding.Blocked, "/card/bracket", numbers, "%s No other bracket is there.", says)
	case !bracket.Swap.Known:
		out.Need(r, "/card/bracket/swap", "what changing the bracket takes", "Look which screws hold it: some hold the cooler too.", "whether the swap is safe")
	case bracket.Swap.Value == rig.SwapDismantles:
		out.Add(r, finding.Risk, "/card/bracket", numbers, "%s The swap dismantles the cooler and may break its seal.", says)
	case bracket.Swap.Value == rig.SwapImpossible:
		out.Add(r, finding.Blocked, "/card/bracket", numbers, "%s It cannot be changed.", says)
	}
}

func bracketWords(h rig.Height, tall units.Millimetre) string {
	if h == rig.NoBracket {
		return "no bracket"
	}
	if h == rig.HalfHeight {
		return "low-profile (half-height) bracket (" + tall.String() + ")"
	}
	return "full-height bracket (" + tall.String() + ")"
}

func (c *Chamber) judgeWidth(r *finding.Rule, out *finding.List) {
	wide, free := c.rig.Card.Bracket.Slots, c.rig.Chamber.Opening.Slots
	if wide.Known && free.Known && wide.Value > free.Value && c.rig.Card.Bracket.Height.Value != rig.NoBracket {
		out.Add(r, finding.Blocked, "/card/bracket/slots", finding.Numbers{{Name: "bracket_slots", Value: float64(wide.Value)}, {Name: "opening_slots", Value: float64(free.Value)}},
			"The bracket is %d slots wide, the opening %d.", wide.Value, free.Value)
		return
	}
	if !wide.Known {
		out.Need(r, "/card/bracket/slots", "how many slots wide the card's bracket is", "Count them.", "whether the bracket goes in")
	}
	if !free.Known {
		out.Need(r, "/chamber/opening/slots", "how many slots are free at the opening", "Count them.", "whether the bracket goes in")
	}
}
