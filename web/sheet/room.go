// Package sheet is the station the result on paper.
package sheet

import (
	"embed"

	"kolvan/web/room"
)

//go:embed *.html
var pages embed.FS

// Room is the result on paper.
var Room = room.Room{
	Key: "sheet", Pages: pages, NoEditor: true,
	Figure: func(*room.Desk) string { return "draft" },
	Fill: func(d *room.Desk) (any, error) {
		s := Make(d.Rig, d.Report, d.Ref, d.Inches)
		return s, s.choose(d)
	},
}
