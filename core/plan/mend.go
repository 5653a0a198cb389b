package plan

import (
	"context"

	"github.com/go-json-experiment/json/jsontext"

	"kolvan/core/assess"
	"kolvan/core/reference"
	"kolvan/core/rig"
)

// A Mending clears in several steps what no single change does.
type Mending struct {
	Steps []Step         `json:"steps"`
	Patch jsontext.Value `json:"patch"` // all of them
	Costs float64        `json:"costs"` // more to buy than before

	rig *rig.Rig
}

// A Step is one of them.
type Step struct {
	Change string         `json:"change"`
	Patch  jsontext.Value `json:"patch"` // after the steps before it
	Clears []string       `json:"clears"`
	Brings []string       `json:"brings"` // what a later step clears again
	Costs  float64        `json:"costs"`
}

// Mend looks for up to four changes that together leave nothing dangerous and nothing blocked,
// and bring nothing certain in. It is empty where nothing stops the plan.
func Mend(ctx context.Context, r *rig.Rig, ref *reference.Tables, parts *assess.Bins) ([]Mending, error) {
	rows, err := assess.Mend(ctx, r, ref, parts)
	if err != nil {
		return nil, err
	}
	list := []Mending{}
	for _, row := range rows {
		m := Mending{Costs: row.Costs}
		before := r
		for _, s := range row.Steps {
			patch, err := rig.PatchOf("", before, s.Rig)
			if err != nil {
				return nil, err
			}
			m.Steps = append(m.Steps, Step{s.Says, patch, orEmpty(s.Clears), orEmpty(s.Brings), s.Costs})
			before = s.Rig
		}
		if m.Patch, err = rig.PatchOf("", r, before); err != nil {
			return nil, err
		}
		m.rig = before
		list = append(list, m)
	}
	return list, nil
}

func orEmpty(list []string) []string {
	if list == nil {
		return []string{}
	}
	return list
}
