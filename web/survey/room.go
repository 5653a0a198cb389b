// Package survey is the station where the host is looked at with its cover off.
package survey

import (
	"embed"
	"fmt"

	"kolvan/core/finding"
	"kolvan/web/room"
	"kolvan/web/verdict"
)

//go:embed *.html
var pages embed.FS

// Room is where the host is looked at with its cover off.
var Room = room.Room{
	Key: "survey", Pages: pages, Home: []string{"/host"},
	Edits: map[string]room.Edit{"host-aside": setHostAside, "host-plan": planHost, "board": placeSlot, "checks": addChecks},
	Files: map[string]room.File{"claim.md": claimPage},
	Figure: func(d *room.Desk) string {
		if d.Rig.Host.Name == "" && len(d.Rig.Host.Slots) == 0 {
			return "no host"
		}
		open := 0
		for i := range d.Report.Findings {
			if f := &d.Report.Findings[i]; f.Level == finding.Unknown && verdict.StationOf(f) == string(finding.Survey) {
				open++
			}
		}
		if open == 0 {
			return "all found"
		}
		return fmt.Sprintf("%d to find", open)
	},
	Fill: func(d *room.Desk) (any, error) { return surveyOf(d.Rig, d.Report, d.Sel), nil },
}
