package web

// briefRoom is where it is asked what all of it is for.
var briefRoom = Room{
	Key: "brief", OwnForm: "/brief",
	Figure: func(d *Desk) string { return budgetWords(d.Rig) },
	Fill: func(d *Desk) (any, error) {
		return &briefView{Asked: briefQuestions(d), Figures: briefFigures(d.Rig, d.Report)}, nil
	},
}

type briefView struct {
	Asked   []briefQuestion
	Figures []figure
}
