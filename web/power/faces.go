package power

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"kolvan/core/assess"
	"kolvan/core/finding"
	"kolvan/core/power"
	"kolvan/core/rig"
	"kolvan/core/units"
	"kolvan/web/phrase"
)

// Joint is a mated end of a lead: the socket as one looks into it, and the plug in
// the hand as one looks at its face, mirrored.
type Joint struct {
	Title string
	Faces []face
	Drawn *facesDrawing // of a connector of the table
	Says  string        // what touches what it must not
	Flows string        // what each contact carries, and gives back
	Rules string        // of which findings contacts are marked
}

// face is one side of a joint: rows of pins, the one beside the latch first.
type face struct {
	Title string
	Rows  [][]pin
	Shell string // its outline: latch, bevelled, l-key, round; "" for a plain box
	Many  bool   // pins in a row
	Plug  bool   // seen mirrored
	Own   string // where the map of a proprietary plug is kept
}

type pin struct {
	Number  int
	Name    string
	Path    string // where a person enters what it carries; "" for a pin of the table
	Class   string // the wire's colour in the trade
	Chosen  bool
	Touches int  // the pin on the other side; 0 for none
	Bad     bool // it meets what it must not
	Open    bool // it meets nothing
	Decides bool // a finding at this end hangs on it
}

// wireClasses are the colours of the trade by what a pin carries.
var wireClasses = map[string]string{
	"+12": "yellow", "+5": "red", "+3.3": "orange", "GND": "black", "turn-on": "green", "power-good": "grey", "+5 standby": "purple",
	"-12": "blue",
}

// joints opens both ends of the chosen lead.
func joints(r *rig.Rig, report *assess.Report, sel string) []Joint {
	i := rig.EntryAt(sel, "/leads")
	if i < 0 || i >= len(r.Leads) {
		return nil
	}
	load, lead := &report.Power.Leads[i], &r.Leads[i]
	list := make([]Joint, 0, len(lead.From)+len(lead.To))
	for j := range load.From {
		list = append(list, JointOf(r, report, load, &load.From[j], lead.From[j]))
	}
	for j := range load.To {
		list = append(list, JointOf(r, report, load, &load.To[j], lead.To[j]))
	}
	return list
}

// pinFace is the face of the proprietary plug whose pin is chosen.
func pinFace(r *rig.Rig, report *assess.Report, sel string) []Joint {
	owner, _, onPin := strings.Cut(sel, "/pins/")
	if !onPin {
		return nil
	}
	for i := range report.Power.Leads {
		load := &report.Power.Leads[i]
		for _, ends := range [][]power.EndLoad{load.From, load.To} {
			for j := range ends {
				if report.Power.MapOf(&ends[j]) != owner+"/pins" {
					continue
				}
				f := ownFace(r, report.Power, &ends[j])
				for _, row := range f.Rows {
					for k := range row {
						row[k].Chosen = row[k].Path == sel
					}
				}
				return []Joint{{Title: "Of " + r.Leads[i].Name, Faces: []face{f}}}
			}
		}
	}
	return nil
}

// JointOf is a lead's joint, pin on pin.
func JointOf(r *rig.Rig, report *assess.Report, load *power.LeadLoad, e *power.EndLoad, end rig.LeadEnd) Joint {
	at := strings.TrimSpace(phrase.Or(end.Part, "a free end") + " " + end.At)
	j := Joint{Title: "At " + at, Flows: flowWords(report.Power, e)}
	if report.Power.OwnMap(e) {
		j.Faces = []face{ownFace(r, report.Power, e)}
		return j
	}
	contacts := report.Power.Contacts(e)
	meets, bad := map[int]power.Contact{}, 0
	touched := map[int]power.Contact{}
	for _, c := range contacts {
		meets[c.Plug], touched[c.Socket] = c, c
		if c.Bad {
			bad++
		}
	}
	if end.Part != "" {
		j.Faces = append(j.Faces, faceOf(report, "the socket, "+connectorWords(e.Socket), e.Socket, touched, false))
	}
	j.Faces = append(j.Faces, faceOf(report, "the plug in the hand, "+connectorWords(e.Plug), e.Plug, meets, true))
	j.Rules = decide(j.Faces, report, e, cmp.Or(load.Volts, 12))
	j.Drawn = drawFaces(j.Faces)
	if bad > 0 {
		j.Says = phrase.Plural(
			bad,
			"contact",
		) + " would put supply on what must not have it. The shells are alike and the wiring is not: hold the colours beside each other, " +
			"and never join them."
	}
	return j
}

// decide marks the contacts that findings at this end hang on, and tells which findings.
func decide(faces []face, report *assess.Report, e *power.EndLoad, volts units.Volt) string {
	live := "+" + units.Trim(float64(volts), 1)
	var titles []string
	for i := range report.Findings {
		f := &report.Findings[i]
		if f.Where != e.Where() || f.Level < finding.Risk {
			continue
		}
		marked := false
		for _, face := range faces {
			for _, row := range face.Rows {
				for k := range row {
					if hangsOn(f.Rule, &row[k], live) {
						row[k].Decides, marked = true, true
					}
				}
			}
		}
		if marked && !slices.Contains(titles, f.Title) {
			titles = append(titles, f.Title)
		}
	}
	return strings.Join(titles, "; ")
}

// hangsOn reports a contact that a finding of this rule at its end is about: those that
// carry the load, or those that meet the wrong thing or nothing.
func hangsOn(rule string, p *pin, live string) bool {
	switch rule {
	case power.RuleConnector, power.RuleWire, power.RuleDrop, power.RuleVoltage:
		return p.Name == live && !p.Open
	case power.RulePins:
		return p.Bad || p.Open && (strings.HasPrefix(p.Name, "+") || strings.HasPrefix(p.Name, "sense") || p.Name == "GND")
	}
	return false
}

// flowWords is what goes through each contact of a mated end.
func flowWords(n *power.Network, e *power.EndLoad) string {
	c, known := n.Contact(e)
	if !known {
		return ""
	}
	return fmt.Sprintf(
		"%s of supply carry %s each, sustained, %s with nothing to do, and for 0.1 ms up to %s; %s of ground give the same back, %s each.",
		phrase.Plural(c.Live, "contact"),
		ampRange(c.Lasting),
		ampRange(c.Idle),
		c.Spike.High,
		phrase.Plural(c.Grounds, "contact"),
		ampRange(c.Return),
	)
}

func ampRange(a power.Amps) string {
	if a.Low.String() == a.High.String() {
		return a.High.String()
	}
	return units.Trim(float64(a.Low), 2) + " to " + a.High.String()
}

// ownFace is the face of a proprietary plug, each of its pins to be told.
func ownFace(r *rig.Rig, n *power.Network, e *power.EndLoad) face {
	f := face{Title: "the proprietary plug, seen from the front", Own: n.MapOf(e)}
	names := n.PlugPins(e)
	rows := 1
	if owner, _, err := rig.At(r, strings.TrimSuffix(f.Own, "/pins")); err == nil {
		switch v := owner.Addr().Interface().(type) {
		case *rig.Outlet:
			rows = v.PinRows.Or(1)
		case *rig.Inlet:
			rows = v.PinRows.Or(1)
		}
	}
	each := (len(names) + rows - 1) / rows
	for first := 0; first < len(names); first += each {
		var row []pin
		for k := first; k < min(first+each, len(names)); k++ {
			row = append(
				row,
				pin{Number: k + 1, Name: phrase.Or(names[k], "…"), Class: wireClasses[names[k]], Path: fmt.Sprintf("%s/%d", f.Own, k)},
			)
		}
		f.Rows = append([][]pin{row}, f.Rows...)
		f.Many = f.Many || len(row) > manyPins
	}
	return f
}

func connectorWords(c rig.Connector) string { return phrase.Or(rig.Spoken(c), "not known") }

func (j Joint) wide() bool { return j.Drawn != nil && j.Drawn.Wide() }

// manyPins in a row are written smaller.
const manyPins = 9

// faceOf lays the pins of a connector out in its rows, the last one on top beside
// the latch; a plug is the mirror of its socket.
func faceOf(report *assess.Report, title string, c rig.Connector, meets map[int]power.Contact, mirrored bool) face {
	f := face{Title: title, Plug: mirrored}
	names, first := report.Power.Pins(c), 0
	rows := report.Power.Rows(c)
	f.Shell = report.Power.Shell(c)
	for _, n := range rows {
		f.Many = f.Many || n > manyPins
		row := make([]pin, n)
		for k := range row {
			number := first + k + 1
			contact, there := meets[number]
			row[k] = pin{
				Number: number, Name: names[number-1], Class: wireClasses[names[number-1]], Bad: contact.Bad, Touches: contact.Plug,
				Open: !there && len(meets) > 0,
			}
			if mirrored {
				row[k].Touches = contact.Socket
			}
		}
		if mirrored {
			slices.Reverse(row)
		}
		f.Rows = append([][]pin{row}, f.Rows...)
		first += n
	}
	return f
}
