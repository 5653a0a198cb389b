// Package sheet is the station where the result stands on paper.
package sheet

import (
	"embed"

	"kolvan/web/room"
)

//go:embed *.html
var pages embed.FS

// Room is where the result stands on paper.
var Room = room.Room{
	Key: "sheet", Pages: pages, NoEditor: true,
	Figure: func(*room.Desk) string { return "draft" },
	Fill: func(d *room.Desk) (any, error) {
		s := Make(d.Rig, d.Report, d.Ref, d.Inches)
		return s, s.choose(d)
	},
}
