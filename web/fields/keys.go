package fields

import (
	"fmt"
	"strings"

	"kolvan/core/rig"
)

// KeyNotches are where the notches of a key are, along the connector from pin 1: of 75 pins
// key A leaves out 8 to 15, B 12 to 19, E 24 to 31, M 59 to 66 (M.2 standard).
var KeyNotches = map[rig.Key][]float64{
	"A": {11.5 / 75}, "B": {15.5 / 75}, "E": {27.5 / 75}, "M": {62.5 / 75}, "B+M": {15.5 / 75, 62.5 / 75}, "A+E": {11.5 / 75, 27.5 / 75},
}

// KeyPicture is the edge of a module with the notches of a key, to be held beside what came
// out of the slot.
type KeyPicture struct {
	Value, Label, Teeth string
	On                  bool
}

// KeyPictures are the edges of the keys, the chosen one marked.
func KeyPictures(words []string, chosen string) (list []KeyPicture) {
	for _, key := range words {
		p := KeyPicture{Value: key, Label: "key " + strings.ReplaceAll(key, "+", " and "), On: key == chosen}
		for x := 4.0; x <= 92; x += 4 {
			gap := false
			for _, at := range KeyNotches[rig.Key(key)] {
				gap = gap || x > 4+at*88-6 && x < 4+at*88+6
			}
			if !gap {
				p.Teeth += fmt.Sprintf("M%.0f 18v10", x)
			}
		}
		list = append(list, p)
	}
	return list
}
