package route

import (
	"kolvan/core/assess"
	"kolvan/core/finding"
	"kolvan/core/reference"
	"kolvan/core/rig"
)

// placesView is where what sits in the route's slot could go.
type placesView struct {
	Occupant, Slot string
	List           []placeRow
}

type placeRow struct {
	finding.Change
	Name  string
	Now   bool
	Traps []placeTrap
}

type placeTrap struct{ Level, Says string }

// placesOf is nil where nothing has to leave.
func placesOf(r *rig.Rig, ref *reference.Tables) (*placesView, error) {
	places, err := assess.Places(r, ref)
	if err != nil || len(places) == 0 {
		return nil, err
	}
	v := &placesView{Occupant: places[0].Home.Occupant, Slot: r.Route.Slot}
	for i := range places {
		p := &places[i]
		row := placeRow{Change: p.Change, Name: rig.Spoken(p.Home.Home.Value), Now: p.Now}
		if p.Home.Slot != "" {
			row.Name = "slot " + p.Home.Slot
		}
		row.Change.Change = "move " + v.Occupant + " to " + row.Name
		for _, f := range p.Traps {
			row.Traps = append(row.Traps, placeTrap{f.Level.String(), f.Says})
		}
		v.List = append(v.List, row)
	}
	return v, nil
}
