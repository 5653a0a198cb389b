// Package ledger is the station where it is counted what it costs.
package ledger

import (
	"embed"

	"kolvan/web/room"
)

//go:embed *.html
var pages embed.FS

// Room is where it is counted what it costs.
var Room = room.Room{
	Key: "ledger", Pages: pages, Home: []string{"/ledger"},
	Edits:  map[string]room.Edit{"ledger": setLedger, "ledger-line": addLedgerLine, "ledger-table": importLedger},
	Files:  map[string]room.File{"ledger.csv": ledgerCSV},
	Figure: func(d *room.Desk) string { return Line(d.Rig) },
	Fill:   func(d *room.Desk) (any, error) { return Of(d.Rig, d.Report, d.Ref), nil },
}
