// Package route is the station where the route from slot to card is planned, and what passes it read.
package route

import (
	"embed"

	"kolvan/web/phrase"
	"kolvan/web/room"
)

//go:embed *.html
var pages embed.FS

// Room is where the route from slot to card is planned, and what passes it read.
var Room = room.Room{
	Key: "route", Pages: pages, Home: []string{"/route", "/card"},
	Figure: func(d *room.Desk) string { return phrase.Link(d.Report) },
	Fill:   fill,
}

// View is the route as it is drawn, and what passes it.
type View struct {
	Drawing, Tall *Drawing // as wide, and upright for a telephone
	Loss          *lossDrawing
	Carried       *carriedView
	Places        *placesView // where what the route displaces can go
	Figures       []room.Figure
}

func fill(d *room.Desk) (_ any, err error) {
	v := &View{
		Drawing: Draw(d.Rig, d.Report, d.Sel, d.Inches), Tall: DrawTall(d.Rig, d.Report, d.Sel, d.Inches),
		Loss: drawLoss(d.Report, d.Sel), Carried: CarriedBy(d.Rig, d.Report, d.Ref), Figures: Figures(d.Report),
	}
	if d.Sel == "/route" {
		v.Places, err = placesOf(d.Rig, d.Ref)
	}
	return v, err
}
