// Package brief is the station where it is asked what all of it is for.
package brief

import (
	"embed"

	"kolvan/web/room"
)

//go:embed *.html
var pages embed.FS

// Room is where it is asked what all of it is for.
var Room = room.Room{
	Key: "brief", Pages: pages, OwnForm: "/brief",
	Figure: func(d *room.Desk) string { return budgetWords(d.Rig) },
	Fill: func(d *room.Desk) (any, error) {
		return &View{Asked: briefQuestions(d), Figures: figures(d.Rig, d.Report)}, nil
	},
}

// View is the page of questions.
type View struct {
	Asked   []briefQuestion
	Figures []room.Figure
}
