// Package demo holds the rigs of the Fernhill Observatory Society, an invented
// club whose members put graphics cards on small hosts.
package demo

import (
	"embed"
	"fmt"

	"kolvan/core/rig"
)

//go:embed rigs/*.json
var rigs embed.FS

// names lists the rigs in the order they stand on the bench.
var names = []string{"dome_shed_stacker", "ticket_desk", "projector_tower", "field_kit", "stacker_built", "archive_desk"}

// Rigs returns the demo rigs. An error is a fault of the program's own data.
func Rigs() ([]*rig.Rig, error) {
	all := make([]*rig.Rig, 0, len(names))
	for _, name := range names {
		raw, err := rigs.ReadFile("rigs/" + name + ".json")
		if err != nil {
			return nil, fmt.Errorf("demo rig %s: %w", name, err)
		}
		r, err := rig.Decode(raw)
		if err != nil {
			return nil, fmt.Errorf("demo rig %s: %w", name, err)
		}
		all = append(all, r)
	}
	return all, nil
}
