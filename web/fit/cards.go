package fit

import (
	"strings"

	"kolvan/core/fit"
	"kolvan/core/rig"
)

// CardRow is one card in the place of the rig's own.
type CardRow struct {
	ID, Name, Size string
	Mine           bool
	Slack, Meets   string
	Takes          string // what must come out or stay off for it, and what is lost
	Goes, Now      bool
}

// TakesOut says what has to come out or stay off for a card, and what is lost with it.
func TakesOut(r *rig.Rig, s *fit.Slack) string {
	var all []string
	for _, i := range s.Out {
		t := &r.Chamber.Things[i]
		says := t.Name + " comes out"
		if t.Loses != "" {
			says += ", and with it " + t.Loses
		}
		all = append(all, says)
	}
	for _, name := range s.Off {
		all = append(all, name+" stays off")
	}
	switch {
	case !s.Goes:
		return "does not go in"
	case len(all) == 0:
		return "nothing"
	default:
		return strings.Join(all, "; ")
	}
}
