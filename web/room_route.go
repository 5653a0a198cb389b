package web

// routeRoom is where the route from slot to card is planned, and what passes it read.
var routeRoom = Room{
	Key: "route", Home: []string{"/route", "/card"},
	Figure: func(d *Desk) string { return linkWords(d.Report) },
	Fill:   fillRoute,
}

type routeView struct {
	Drawing, Tall *routeDrawing // as wide, and upright for a telephone
	Loss          *lossDrawing
	Carried       *carriedView
	Places        *placesView // where what the route displaces can go
	Figures       []figure
}

func fillRoute(d *Desk) (_ any, err error) {
	v := &routeView{
		Drawing: drawRoute(d.Rig, d.Report, d.Sel, d.Inches), Tall: drawRouteTall(d.Rig, d.Report, d.Sel, d.Inches),
		Loss: drawLoss(d.Report, d.Sel), Carried: carriedBy(d.Rig, d.Report, d.Ref), Figures: routeFigures(d.Report),
	}
	if d.Sel == "/route" {
		v.Places, err = placesOf(d.Rig, d.Ref)
	}
	return v, err
}
