package proof

import (
	"slices"

	"kolvan/core/rig"
	"kolvan/web/room"
)

// teaching is what a press does with what other rigs taught; empty where nothing was taught.
func teaching(d *room.Desk) string {
	switch {
	case d.Untaught:
		return "take in what your other rigs taught"
	case slices.ContainsFunc(d.Rig.Brief.Works, func(w rig.Work) bool { return len(w.Taught().Rigs) > 0 }):
		return "leave out what your other rigs taught"
	default:
		return ""
	}
}
