package ways

import (
	"slices"

	"kolvan/core/assess"
	"kolvan/core/rig"
)

// owned keeps of the parts those that are owned.
func owned(parts *assess.Bins) *assess.Bins {
	return &assess.Bins{
		Hosts:    ownedOf(parts.Hosts, func(p *rig.Host) *rig.Price { return &p.Price }),
		Stages:   ownedOf(parts.Stages, func(p *rig.Stage) *rig.Price { return &p.Price }),
		Cards:    ownedOf(parts.Cards, func(p *rig.Card) *rig.Price { return &p.Price }),
		Supplies: ownedOf(parts.Supplies, func(p *rig.Supply) *rig.Price { return &p.Price }),
		Leads:    ownedOf(parts.Leads, func(p *rig.Lead) *rig.Price { return &p.Price }),
	}
}

func ownedOf[T any](list []T, price func(*T) *rig.Price) []T {
	return slices.DeleteFunc(slices.Clone(list), func(p T) bool { return !rig.Is(price(&p).Owned, true) })
}
