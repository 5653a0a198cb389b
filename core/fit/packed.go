package fit

import (
	"fmt"
	"slices"

	"kolvan/core/finding"
	"kolvan/core/rig"
	"kolvan/core/units"
)

// packs is the share of a bag that stiff pieces fill at most (P).
const packs = 0.8

// Packed is a rig in its bag.
type Packed struct {
	Share  float64    // of the bag's room that its pieces take
	Mass   units.Gram // of all of them
	Large  int        // the first piece that goes in no way round; −1 for none
	asks   string     // the first fact that is open
	asking string
}

// Pack puts a rig's pieces into its bag: every one on its own, any way round, and all of
// them by their room together. False for a rig that does not travel.
func Pack(r *rig.Rig) (p Packed, travels bool) {
	t := &r.Brief.Travel
	p.Large = -1
	if len(t.Pieces) == 0 {
		return p, false
	}
	bag := [3]*Fact{&t.Length, &t.Width, &t.Depth}
	for i, name := range [3]string{"length", "width", "depth"} {
		if !bag[i].Known {
			p.ask("/brief/travel/bag_"+name+"_mm", "the bag's "+name+" inside")
		}
	}
	volume, room := 0.0, volumeOf(bag)
	for i := range t.Pieces {
		piece := &t.Pieces[i]
		size := [3]*Fact{&piece.Length, &piece.Width, &piece.Depth}
		for k, name := range [3]string{"length", "width", "depth"} {
			if !size[k].Known {
				p.ask(fmt.Sprintf("/brief/travel/pieces/%d/%s_mm", i, name), "the "+name+" of "+piece.Name)
			}
		}
		if t.Carries.Known && !piece.Mass.Known {
			p.ask(fmt.Sprintf("/brief/travel/pieces/%d/mass_g", i), "what "+piece.Name+" weighs")
		}
		if p.asks == "" && p.Large < 0 && !goesInto(sorted(size), sorted(bag)) {
			p.Large = i
		}
		volume += volumeOf(size)
		p.Mass += piece.Mass.Value
	}
	if room > 0 {
		p.Share = volume / room
	}
	return p, true
}

func (p *Packed) ask(where, fact string) {
	if p.asks == "" {
		p.asks, p.asking = where, fact
	}
}

func volumeOf(size [3]*Fact) float64 {
	return float64(size[0].Value) * float64(size[1].Value) * float64(size[2].Value)
}

func sorted(size [3]*Fact) []units.Millimetre {
	list := []units.Millimetre{size[0].Value, size[1].Value, size[2].Value}
	slices.Sort(list)
	return list
}

func goesInto(piece, bag []units.Millimetre) bool {
	return piece[0] <= bag[0]+touch && piece[1] <= bag[1]+touch && piece[2] <= bag[2]+touch
}

func judgePacked(r *finding.Rule, c *Chamber, out *finding.List) {
	t := &c.rig.Brief.Travel
	p, travels := Pack(c.rig)
	switch {
	case !travels:
	case p.asks != "":
		out.Need(r, p.asks, p.asking, "Measure it as it is packed.", "whether it travels as meant")
	case p.Large >= 0:
		out.Add(
			r, finding.Risk, fmt.Sprintf("/brief/travel/pieces/%d", p.Large), nil, "%s does not go into the bag, any way round.",
			t.Pieces[p.Large].Name,
		)
	case p.Share > packs:
		out.Add(
			r, finding.Risk, "/brief/travel", finding.Numbers{{Name: "share", Value: p.Share}},
			"Its pieces take %.0f %% of the bag; stiff pieces fill %.0f %% of one at most.", p.Share*100, packs*100,
		)
	case t.Carries.Known && p.Mass > t.Carries.Value:
		out.Add(
			r, finding.Risk, "/brief/travel",
			finding.Numbers{{Name: "mass_g", Value: float64(p.Mass)}, {Name: "most_g", Value: float64(t.Carries.Value)}},
			"It weighs %v together; %v is what somebody is ready to carry.", p.Mass, t.Carries.Value,
		)
	}
}
