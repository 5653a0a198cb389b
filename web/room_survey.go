package web

import (
	"fmt"

	"kolvan/core/finding"
)

// surveyRoom is where the host is looked at with its cover off.
var surveyRoom = Room{
	Key: "survey", Home: []string{"/host"},
	Figure: func(d *Desk) string {
		if d.Rig.Host.Name == "" && len(d.Rig.Host.Slots) == 0 {
			return "no host"
		}
		open := 0
		for i := range d.Report.Findings {
			if f := &d.Report.Findings[i]; f.Level == finding.Unknown && stationOf(f) == string(finding.Survey) {
				open++
			}
		}
		if open == 0 {
			return "all found"
		}
		return fmt.Sprintf("%d to find", open)
	},
	Fill: func(d *Desk) (any, error) { return surveyOf(d.Rig, d.Report, d.Sel), nil },
}
