// Package power is the station where supplies, leads and pins are.
package power

import (
	"embed"
	"fmt"
	"slices"

	"kolvan/core/power"
	"kolvan/core/rig"
	"kolvan/web/fields"
	"kolvan/web/phrase"
	"kolvan/web/room"
)

//go:embed *.html
var pages embed.FS

// Room is where supplies, leads and pins are.
var Room = room.Room{
	Key: "power", Pages: pages, OwnForm: "/sizing", Home: []string{"/supplies", "/leads"}, Shows: []string{"/host", "/route", "/card"},
	Card:  []string{"/card/power_w", "/card/idle_w", "/card/slot_w", "/card/altered", "/card/built_in", "/card/plugs"},
	Edits: map[string]room.Edit{"lead": joinLead, "wire": joinWire, "alike": joinAlike, "tick": tickLine},
	Files: map[string]room.File{"harness/:lead.svg": harnessSVG, "harness/:lead.csv": harnessCSV},
	Figure: func(d *room.Desk) string {
		if len(d.Rig.Supplies) == 0 {
			return "no supply"
		}
		return phrase.Figure(d.Report, "power.supply_share", power.Percent)
	},
	Fill: fill,
}

// View is the power drawing with what belongs to what is chosen in it.
type View struct {
	Drawing, Tall *Drawing     // as wide, and upright for a telephone
	Net           string       // the net that is lit
	Sizing        *fields.Form // how the supply is judged
	Feedable      bool         // what is chosen is a load
	Feeds         []feedOption // leads that could feed it
	Joints        []Joint
	Harness       *Harness
	Choices       []choiceTable
	Figures       []room.Figure
}

func fill(d *room.Desk) (_ any, err error) {
	r, report := d.Rig, d.Report
	v := &View{
		Drawing: Draw(r, report, d.Sel), Tall: DrawTall(r, report, d.Sel), Net: d.Query("net"), Figures: Figures(r, report),
		Joints: append(joints(r, report, d.Sel), pinFace(r, report, d.Sel)...),
		Sizing: fields.For(r, &r.Sizing, "/sizing", d.Inches, d.Trouble),
	}
	if load := d.Query("load"); load != "" {
		v.Drawing.load(r, report, load)
	}
	v.Drawing.nets(r, report.Power, v.Net)
	v.Feeds, v.Feedable = feedOptions(d)
	v.Sizing.Post = fmt.Sprintf("/rigs/%d", d.ID)
	for i := range v.Sizing.Fields {
		v.Sizing.Fields[i].ID = "in-drawing-" + v.Sizing.Fields[i].ID
	}
	if i := rig.EntryAt(d.Sel, "/leads"); i >= 0 && i < len(r.Leads) {
		v.Harness = drawHarness(r, report.Power, i, d.Query("held"))
	}
	if d.Sel == "/sizing" {
		v.Choices, err = choicesOf(d)
	}
	return v, err
}

// JudgedFor is how the supply is judged, in a few words.
func (v *View) JudgedFor() string {
	for i := range v.Sizing.Fields {
		if f := &v.Sizing.Fields[i]; f.Path == "/sizing/policy" {
			for _, c := range f.Choices {
				if c.On {
					return c.Label
				}
			}
		}
	}
	return "share and spikes"
}

// NetWords is the net that is lit.
func (v *View) NetWords() string {
	for _, n := range v.Drawing.Nets {
		if n.Here {
			return n.Label
		}
	}
	return "none"
}

// JointsBeside are the joints whose faces go in beside the drawing.
func (v *View) JointsBeside() []Joint {
	return slices.DeleteFunc(slices.Clone(v.Joints), Joint.wide)
}

// JointsBelow are those that want the room below it.
func (v *View) JointsBelow() []Joint {
	return slices.DeleteFunc(slices.Clone(v.Joints), func(j Joint) bool { return !j.wide() })
}
