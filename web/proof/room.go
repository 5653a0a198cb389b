// Package proof is the station where what came is held against what was expected.
package proof

import (
	"embed"

	"kolvan/web/room"
)

//go:embed *.html
var pages embed.FS

// Room is where what came is held against what was expected.
var Room = room.Room{
	Key: "proof", Pages: pages, OwnForm: "/brief", Home: []string{"/runs", "/load_readings", "/diary"},
	Edits:  map[string]room.Edit{"line": addLine},
	Files:  map[string]room.File{"log.json": logJSON, "runs.csv": runsCSV, "runs.svg": runsSVG, "runs.json": runsJSON},
	Figure: func(d *room.Desk) string { return proofFigure(d.Rig) },
	Fill: func(d *room.Desk) (any, error) {
		v, err := proofOf(d)
		if err != nil {
			return nil, err
		}
		if err := files(d, v.Runs); err != nil {
			return nil, err
		}
		v.Shown, err = runShown(d)
		return v, err
	},
}
