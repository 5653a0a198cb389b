package web

// ledgerRoom is what it costs.
var ledgerRoom = Room{
	Key: "ledger", Home: []string{"/ledger"},
	Figure: func(d *Desk) string { return ledgerFigure(d.Rig) },
	Fill:   func(d *Desk) (any, error) { return ledgerOf(d.Rig, d.Report, d.Ref), nil },
}
