package web

// assemblyRoom is the evening of the build, its power-on and the hunt for a fault.
var assemblyRoom = Room{
	Key: "assembly", NoEditor: true,
	Figure: func(d *Desk) string { return assemblyFigure(d.Rig) },
	Fill:   func(d *Desk) (any, error) { return assemblyOf(d) },
}
