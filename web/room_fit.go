package web

// fitRoom is where the card stands in its case, and what is made for it.
var fitRoom = Room{
	Key: "fit", Home: []string{"/chamber"}, Shows: []string{"/card"},
	Card: []string{
		"/card/length_mm", "/card/height_mm", "/card/thickness_mm", "/card/mass_g", "/card/built_in", "/card/bracket/",
	},
	Figure: func(d *Desk) string { return gapWords(d.Rig, &d.Report.Figures, d.Inches) },
	Fill:   fillFit,
}

type fitPage struct {
	Drawing, Tall *fitDrawing // as wide, and upright for a telephone
	Made          []madeView
	Screws        []screwRow
	Figures       []figure
}

func fillFit(d *Desk) (_ any, err error) {
	v := &fitPage{
		Drawing: drawFit(d.Rig, d.Report, d.Bins.Cards, d.Ref, d.Sel, d.Inches), Screws: longerScrews(d.Rig),
		Figures: fitFigures(d.Rig, d.Report, d.Inches),
	}
	if v.Drawing.Empty == "" {
		v.Tall = drawFitTall(d.Rig, d.Report, d.Ref, d.Sel, d.Inches)
	}
	v.Made, err = madeParts(d.ID, d.Rig, d.Ref)
	return v, err
}
