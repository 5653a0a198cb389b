// Package assembly is the station of the evening of the build, its power-on and the hunt for a fault.
package assembly

import (
	"embed"

	"kolvan/web/room"
)

//go:embed *.html
var pages embed.FS

// Room is the evening of the build, its power-on and the hunt for a fault.
var Room = room.Room{
	Key: "assembly", Pages: pages, NoEditor: true,
	Edits: map[string]room.Edit{
		"done": tickStep, "hand": tickTool, "step": moveStep, "need": needStep, "try": addTry, "untry": dropTry,
	},
	Figure: func(d *room.Desk) string { return assemblyFigure(d.Rig) },
	Fill:   func(d *room.Desk) (any, error) { return assemblyOf(d) },
}
