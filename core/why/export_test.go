package why

import (
	"kolvan/core/assess"
	"kolvan/core/reference"
	"kolvan/core/rig"
)

// Opener opens the figures of one rig without what they hang on, which takes long.
func Opener(r *rig.Rig, ref *reference.Tables) func(asked string) (*Tree, error) {
	d := &desk{r, ref, assess.Rig(r, ref)}
	return func(asked string) (*Tree, error) {
		t, _, err := d.open(asked)
		return t, err
	}
}
