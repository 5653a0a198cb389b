package gate

import (
	"slices"

	"kolvan/core/finding"
	"kolvan/core/rig"
)

// judgeSplit looks at a riser that parts a slot's lanes: it needs the firmware's setting, and
// without it shows its first part only (reference, section 2a).
func judgeSplit(r *finding.Rule, g *Gate, out *finding.List) {
	slot, at := g.wanted()
	if slot == nil {
		return
	}
	for i := range g.Route.Stages {
		s := &g.Route.Stages[i]
		needs, told := s.Needs.Get()
		if !told || needs == rig.SplitNone || rig.Is(s.Switches, true) {
			continue
		}
		offered, known := slot.Splits.Get()
		set, isSet := slot.SplitSet.Get()
		switch {
		case known && !slices.Contains(offered, needs):
			out.Add(
				r,
				finding.Blocked,
				rig.StagePath(i),
				nil,
				"%s needs %s split into %s, which its firmware does not offer.",
				s.Name,
				slot.Name,
				rig.Spoken(needs),
			)
		case !known && !isSet:
			out.Need(
				r,
				at+"/can_split",
				"what the firmware splits "+slot.Name+" into",
				"Look for bifurcation in the firmware's pages for its slots.",
				"whether more than the first part of "+s.Name+" is seen",
			)
		case !isSet || set != needs:
			level, says := finding.Risk, "%s needs %s split into %s in the firmware; until it is set only its first part is seen."
			if s.Takes.Or(1) > 1 {
				level = finding.Blocked
			}
			out.Add(r, level, rig.StagePath(i), finding.Numbers{{Name: "part", Value: float64(s.Takes.Or(1))}}, says, s.Name, slot.Name,
				rig.Spoken(needs))
		}
	}
}
