package assembly

import (
	"context"
	"slices"
	"strings"

	"kolvan/core/bringup"
	"kolvan/core/rig"
	"kolvan/store"
)

// elsewhereRow is a try of another rig of the bench that holds a part of this one.
type elsewhereRow struct {
	Rig, Parts string
	ID         int64
	Try        tryRow
}

// mostElsewhere bounds the rigs that are asked for tries with the same parts.
const mostElsewhere = 100

// ownedParts are a rig's parts that are somebody's own, which are one thing wherever their
// name stands, each with whether it was seen to work elsewhere.
func ownedParts(r *rig.Rig) map[string]*rig.Fact[bool] {
	parts := map[string]*rig.Fact[bool]{}
	add := func(kind, name string, owned rig.Fact[bool], worked *rig.Fact[bool]) {
		if name != "" && rig.Is(owned, true) {
			parts[kind+name] = worked
		}
	}
	add("card ", r.Card.Name, r.Card.Owned, &r.Card.Worked)
	for i := range r.Route.Stages {
		add("", r.Route.Stages[i].Name, r.Route.Stages[i].Owned, &r.Route.Stages[i].Worked)
	}
	for i := range r.Supplies {
		add("supply ", r.Supplies[i].Name, r.Supplies[i].Owned, &r.Supplies[i].Worked)
	}
	return parts
}

// works: the link was read under load, or a use ran on the card, or a mend cured it.
func works(r *rig.Rig) bool {
	return slices.ContainsFunc(
		r.Route.Readings, func(x rig.Reading) bool { return rig.Is(x.Load, "loaded") && x.Width.Known && x.Gen.Known },
	) ||
		slices.ContainsFunc(r.Runs, func(run rig.Run) bool { return rig.Is(run.Side, "after") && run.Average.Value > 0 }) ||
		slices.ContainsFunc(r.Build.Tries, func(t rig.Try) bool { return t.Outcome == "cured" })
}

// ToldElsewhere is the rig with what other rigs of the bench tell of its own parts: what was
// tried with them there, and that they worked, where they did and nothing else is told.
func ToldElsewhere(ctx context.Context, s *store.Store, r *rig.Rig, id int64, cat *bringup.Catalogue) (*rig.Rig, []elsewhereRow, error) {
	others, _, err := s.List(ctx, store.Query{Kind: store.RigKind, Sort: store.ByChange, Most: mostElsewhere})
	if err != nil {
		return nil, nil, err
	}
	told := *r
	told.Route.Stages, told.Supplies = slices.Clone(r.Route.Stages), slices.Clone(r.Supplies)
	own := ownedParts(&told)
	var rows []elsewhereRow
	for _, e := range others {
		if e.ID == id || e.Fault != nil || len(own) == 0 {
			continue
		}
		other, err := rig.Decode(e.Doc)
		if err != nil {
			continue // the bench shows it as one that cannot be read
		}
		var shared []string
		for part := range ownedParts(other) {
			if worked := own[part]; worked != nil {
				shared = append(shared, part)
				if works(other) && !worked.Known {
					*worked = rig.Of(true)
				}
			}
		}
		if len(shared) == 0 {
			continue
		}
		slices.Sort(shared)
		var v FaultView
		v.ListTries(other, cat)
		if works(other) {
			v.Tries = append(v.Tries, tryRow{Did: "The link was read under load, a use ran, or a mend cured it.", Saw: "it works there"})
		}
		for _, try := range v.Tries {
			rows = append(rows, elsewhereRow{Rig: e.Name, Parts: strings.Join(shared, ", "), ID: e.ID, Try: try})
		}
	}
	return &told, rows, nil
}
