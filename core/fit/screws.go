package fit

import (
	"kolvan/core/rig"
	"kolvan/core/units"
)

// stock are the lengths that screws of a thread are sold in, mm (T).
var stock = map[rig.Thread][]units.Millimetre{
	"M2":   {3, 4, 5, 6, 8, 10, 12, 16, 20},
	"M2.5": {4, 5, 6, 8, 10, 12, 16, 20, 25},
	"M3":   {4, 5, 6, 8, 10, 12, 14, 16, 18, 20, 25, 30, 35, 40},
	"M3.5": {6, 8, 10, 12, 16, 20, 25, 30, 35, 40},
	"M4":   {6, 8, 10, 12, 14, 16, 18, 20, 25, 30, 35, 40, 50},
	"6-32": {4.8, 6.4, 7.9, 9.5, 12.7, 15.9, 19.1, 25.4, 31.8, 38.1},
}

// A Longer is a cover's screw on stand-offs: it grows by their height.
type Longer struct {
	Cover       int
	Was, Needed units.Millimetre
	Stock       units.Millimetre // the next that is sold, as long or a little longer; zero for none
}

// ScrewsOf lists the screws of covers that are raised, as far as they are told.
func ScrewsOf(r *rig.Rig) (list []Longer) {
	for i := range r.Chamber.Covers {
		v := &r.Chamber.Covers[i]
		if v.Raised.Value <= 0 || !v.Screw.Length.Known {
			continue
		}
		l := Longer{Cover: i, Was: v.Screw.Length.Value, Needed: v.Screw.Length.Value + v.Raised.Value}
		for _, long := range stock[v.Screw.Thread.Value] {
			if long >= l.Needed-touch {
				l.Stock = long
				break
			}
		}
		list = append(list, l)
	}
	return list
}
