package fit

// missingFact is a fact without which a gap is open.
type missingFact struct{ where, fact, find string }

const ruler = "Take the cover off and measure it with a ruler."

// lackedSizes are the facts of the card and the case that are not told, by chamber
// axis.
type lackedSizes [2][3]*missingFact

const (
	cardSize = iota
	cardPlace
)

// of lists the first that is missing of what is measured together.
func (l *lackedSizes) of(what int, axes ...int) []missingFact {
	for _, axis := range axes {
		if l[what][axis] != nil {
			return []missingFact{*l[what][axis]}
		}
	}
	return nil
}

func (c *Chamber) cardLacks() (l lackedSizes) {
	names := [3]string{"length_mm", "height_mm", "thickness_mm"}
	for i, axis := range c.axes {
		if !c.sizes[axis].ends.Known() {
			l[cardSize][axis] = &missingFact{"/card/" + names[i], "the card's size", ruler}
		}
		if !c.at[axis].ends.Known() {
			l[cardPlace][axis] = &missingFact{"/chamber/card_at/" + axisName(axis), "where the card stands in the case", ruler}
		}
	}
	return l
}

func (c *Chamber) wallLacks(l lackedSizes, axis int, told bool) []missingFact {
	all := l.of(cardSize, axis)
	if !told {
		all = append(all, missingFact{"/chamber/box/" + axisName(axis), "the size of the case inside", ruler})
	}
	return append(all, l.of(cardPlace, axis)...)
}

func (c *Chamber) boxLacks(o *obstacle, at, size [3]*Fact) []missingFact {
	l := c.cardLacks()
	all := append(l.of(cardSize, c.axes[0], c.axes[1], c.axes[2]), l.of(cardPlace, 0, 1, 2)...)
	if i := firstOpen(at); i >= 0 {
		all = append(all, missingFact{o.where + "/at/" + axisName(i), "where " + o.name + " is", ruler})
	}
	if i := firstOpen(size); i >= 0 {
		all = append(all, missingFact{o.where + "/size/" + axisName(i), "the size of " + o.name, ruler})
	}
	return all
}

// firstOpen is the place of the first of three facts that is not known, or −1.
func firstOpen(facts [3]*Fact) int {
	for i := range facts {
		if !facts[i].Known {
			return i
		}
	}
	return -1
}

// missing lists what has to be measured for every gap to be decided. What is
// measured together is asked for once.
func (c *Chamber) missing() (all []missingFact) {
	for i := range c.Gaps {
		if g := &c.Gaps[i]; g.undecided() {
			for _, m := range g.lacks {
				if !asked(all, m) {
					all = append(all, m)
				}
			}
		}
	}
	return all
}

// asked reports that the fact, or another that is measured with it, is in the list.
func asked(all []missingFact, m missingFact) bool {
	for _, have := range all {
		if have.fact == m.fact {
			return true
		}
	}
	return false
}
