package assess

import (
	"fmt"
	"slices"

	"kolvan/core/reference"
	"kolvan/core/rig"
	"kolvan/core/units"
)

// FreeName returns name, with a number behind it where a part of the feed
// network has the name already.
func FreeName(r *rig.Rig, name string) string {
	free := name
	for n := 2; r.Supply(free) != nil || r.Stage(free) != nil || r.Lead(free) != nil || free == rig.CardPart || free == rig.HostPart; n++ {
		free = fmt.Sprintf("%s %d", name, n)
	}
	return free
}

// WithCard exchanges the card. Leads go to plugs of the same connector; those
// without one are taken out.
func WithCard(r *rig.Rig, card rig.Card) *rig.Rig { return withCard(new(rig.Rig), r, card) }

// withCard is WithCard in the room of a rig that is not needed any more.
func withCard(c, r *rig.Rig, card rig.Card) *rig.Rig {
	*c = *r
	c.Leads = rig.CloneLeads(c.Leads)
	c.Card = card
	used := map[string]bool{}
	for i := range c.Leads {
		c.Leads[i].DropEnds(false, func(j int) bool {
			end := &c.Leads[i].To[j]
			if end.Part != rig.CardPart {
				return false
			}
			end.At = like(plugPorts(&r.Card), plugPorts(&card), end.At, used)
			if end.At == "" {
				return true
			}
			used[end.At] = true
			return false
		})
	}
	c.Leads = slices.DeleteFunc(c.Leads, func(l rig.Lead) bool { return len(l.To) == 0 })
	return c
}

// WithHost exchanges the host. It brings its own supply, one of the supplies given,
// in place of the one before; a slot it does not have is let go.
func WithHost(r *rig.Rig, host rig.Host, supplies []rig.Supply) *rig.Rig {
	before := r.Host.Supply
	c := copyOf(r)
	c.Host = host
	if c.Host.Supply = bring(c, host.Supply, supplies, "comes with the host"); c.Host.Supply == "" {
		c.Host.Supply = before
	}
	if c.Host.Supply != before && !c.Draws(before, "") {
		c.Supplies = slices.DeleteFunc(slices.Clone(c.Supplies), func(s rig.Supply) bool { return s.Name == before })
	}
	if c.Slot(c.Route.Slot) == nil {
		c.Route.Slot = ""
	}
	c.Route.Displaced = slices.DeleteFunc(slices.Clone(c.Route.Displaced), func(d rig.Displaced) bool {
		return c.Drive(d.Occupant) == nil && c.Network(d.Occupant) == nil || d.Slot != "" && c.Slot(d.Slot) == nil
	})
	return c
}

// WithStage puts a stage behind the last, with the supply built into it, one of the
// supplies given.
func WithStage(r *rig.Rig, s rig.Stage, supplies []rig.Supply) *rig.Rig {
	c := copyOf(r)
	s.Name = FreeName(c, s.Name)
	s.Supply = bring(c, s.Supply, supplies, "comes in "+s.Name)
	c.Route.Stages = append(slices.Clone(c.Route.Stages), s)
	return c
}

// bring adds the supply that comes with a host or a box to the rig, and returns its
// name there; none where there is no such supply.
func bring(r *rig.Rig, name string, supplies []rig.Supply, remark string) string {
	if r.Supply(name) != nil {
		return name
	}
	i := slices.IndexFunc(supplies, func(s rig.Supply) bool { return s.Name == name })
	if i < 0 {
		return ""
	}
	own := supplies[i]
	own.Name = FreeName(r, name)
	own.Price = rig.Price{Amount: rig.Fact[units.Money]{Known: true, Remark: remark}}
	r.Supplies = append(slices.Clone(r.Supplies), own)
	return own.Name
}

// withBoard has supply i of a rig of its own switched on by a board that follows the
// host, which has to be bought where none was planned.
func withBoard(r *rig.Rig, ref *reference.Tables, i int) {
	s := &r.Supplies[i]
	if !rig.Is(s.TurnOn, rig.TurnOnSwitch) && !s.Board.Amount.Known {
		s.Board.Amount = rig.Fact[units.Money]{
			Known: true, Value: ref.SwitchBoard, Tolerance: float64(ref.SwitchBoardBy), Remark: "as such boards cost",
		}
	}
	s.TurnOn = rig.Of(rig.TurnOnSwitch)
}
