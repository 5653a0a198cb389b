package web

import (
	"fmt"
	"slices"

	"kolvan/core/power"
	"kolvan/core/rig"
)

// powerRoom is where supplies, leads and pins are.
var powerRoom = Room{
	Key: "power", OwnForm: "/sizing", Home: []string{"/supplies", "/leads"}, Shows: []string{"/host", "/route", "/card"},
	Card: []string{"/card/power_w", "/card/idle_w", "/card/slot_w", "/card/altered", "/card/built_in", "/card/plugs"},
	Figure: func(d *Desk) string {
		if len(d.Rig.Supplies) == 0 {
			return "no supply"
		}
		return figureOf(d.Report, "power.supply_share", power.Percent)
	},
	Fill: fillPower,
}

type powerView struct {
	Drawing, Tall *powerDrawing // as wide, and upright for a telephone
	Net           string        // the net that is lit
	Sizing        *form         // how the supply is judged
	Feedable      bool          // what is chosen is a load
	Feeds         []feedOption  // leads that could feed it
	Joints        []joint
	Harness       *harness
	Choices       []choiceTable
	Figures       []figure
}

func fillPower(d *Desk) (_ any, err error) {
	r, report := d.Rig, d.Report
	v := &powerView{
		Drawing: drawPower(r, report, d.Sel), Tall: drawPowerTall(r, report, d.Sel), Net: d.Query("net"), Figures: powerFigures(r, report),
		Joints: append(joints(r, report, d.Sel), pinFace(r, report, d.Sel)...),
		Sizing: formFor(r, &r.Sizing, "/sizing", d.Inches, d.Trouble),
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
func (v *powerView) JudgedFor() string {
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
func (v *powerView) NetWords() string {
	for _, n := range v.Drawing.Nets {
		if n.Here {
			return n.Label
		}
	}
	return "none"
}

// JointsBeside are the joints whose faces go in beside the drawing.
func (v *powerView) JointsBeside() []joint {
	return slices.DeleteFunc(slices.Clone(v.Joints), joint.wide)
}

// JointsBelow are those that want the room below it.
func (v *powerView) JointsBelow() []joint {
	return slices.DeleteFunc(slices.Clone(v.Joints), func(j joint) bool { return !j.wide() })
}
