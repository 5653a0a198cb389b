package web

import "strings"

// Room is a station of the work: its page of a rig.
type Room struct {
	Key      string   // as findings name the station, and its template
	OwnForm  string   // the place whose form stands in the page itself, not in the editor
	NoEditor bool     // nothing is edited there
	Home     []string // places of a rig that are worked on there
	Shows    []string // places that stand in its drawing too
	Card     []string // fields of the card that mean something there, where not all do

	Figure func(*Desk) string       // the line under its name
	Fill   func(*Desk) (any, error) // what its template is given as .Room
}

// figure is a figure under a drawing, and the name of the sum it is made of.
type figure struct{ Value, Label, Of string }

// option is one of several to choose from.
type option struct {
	Value, Label string
	On           bool
}

// pictureView is a picture on a page: its address, and whether it is what was kept.
type pictureView struct {
	Address string
	Broken  bool
}

// thingOf is the thing a finding's place belongs to: the last entry of a list on
// the way, or the part of the rig.
func thingOf(where string) string {
	tokens := strings.Split(where, "/")
	for i := len(tokens) - 1; i > 1; i-- {
		if tokens[i] != "" && tokens[i][0] >= '0' && tokens[i][0] <= '9' {
			return strings.Join(tokens[:i+1], "/")
		}
	}
	if len(tokens) > 1 && tokens[1] != "" {
		return "/" + tokens[1]
	}
	return where
}
