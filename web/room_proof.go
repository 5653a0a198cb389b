package web

// proofRoom is where what came is held against what was expected.
var proofRoom = Room{
	Key: "proof", OwnForm: "/brief", Home: []string{"/runs", "/load_readings", "/diary"},
	Figure: func(d *Desk) string { return proofFigure(d.Rig) },
	Fill: func(d *Desk) (any, error) {
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
