// Package fit is the station where the card stands in its case, and what is made for it.
package fit

import (
	"embed"

	"kolvan/web/room"
)

//go:embed *.html
var pages embed.FS

// Room is where the card stands in its case, and what is made for it.
var Room = room.Room{
	Key: "fit", Pages: pages, Home: []string{"/chamber"}, Shows: []string{"/card"},
	Card: []string{
		"/card/length_mm", "/card/height_mm", "/card/thickness_mm", "/card/mass_g", "/card/built_in", "/card/bracket/",
	},
	Files:  map[string]room.File{"made/:part.:ending": madePart},
	Figure: func(d *room.Desk) string { return GapWords(d.Rig, &d.Report.Figures, d.Inches) },
	Fill:   fill,
}

// View is the chamber with the card in it, and what is made for it.
type View struct {
	Drawing, Tall *Drawing // as wide, and upright for a telephone
	Made          []madeView
	Screws        []screwRow
	Figures       []room.Figure
}

func fill(d *room.Desk) (_ any, err error) {
	v := &View{
		Drawing: Draw(d.Rig, d.Report, d.Bins.Cards, d.Ref, d.Sel, d.Inches), Screws: longerScrews(d.Rig),
		Figures: Figures(d.Rig, d.Report, d.Inches),
	}
	if v.Drawing.Empty == "" {
		v.Tall = DrawTall(d.Rig, d.Report, d.Ref, d.Sel, d.Inches)
	}
	v.Made, err = madeParts(d.ID, d.Rig, d.Ref)
	return v, err
}
