package power

import (
	"fmt"
	"slices"
	"strconv"

	"kolvan/core/power"
	"kolvan/core/rig"
	"kolvan/web/draw"
)

// netChip lights one net of the drawing.
type netChip struct {
	Key, Label string
	Here       bool
}

// nets lists the nets there are, and lights the one asked for: the rest is dimmed.
func (d *Drawing) nets(r *rig.Rig, n *power.Network, chosen string) {
	offer := func(line power.Line, supply int, label string) {
		leads, stages := n.Lit(line, supply)
		if !slices.Contains(leads, true) {
			return
		}
		chip := netChip{Key: fmt.Sprintf("%s/%d", line, supply), Label: label}
		if chip.Here = chip.Key == chosen; chip.Here {
			d.light(r, line, supply, leads, stages)
		}
		d.Nets = append(d.Nets, chip)
	}
	for i := range r.Supplies {
		name := draw.Clip(r.Supplies[i].Name, 18)
		offer(power.LiveLine, i, "supply of "+name)
		offer(power.V33Line, i, "3.3 V of "+name)
		offer(power.TurnOnLine, i, "turn-on contact of "+name)
	}
	if len(d.Nets) > 0 {
		offer(power.GroundLine, 0, "ground, one for all")
	}
}

func (d *Drawing) light(r *rig.Rig, line power.Line, supply int, leads, stages []bool) {
	lit := map[string]bool{}
	for i, on := range leads {
		lit["/leads/"+strconv.Itoa(i)] = on
		for _, end := range r.Leads[i].To {
			lit["/host"] = lit["/host"] || on && end.Part == rig.HostPart
			for p := range r.Card.Plugs {
				at := "/card/plugs/" + strconv.Itoa(p)
				lit[at] = lit[at] || on && end.Part == rig.CardPart && (end.At == r.Card.Plugs[p].Name || end.At == "")
			}
		}
	}
	for i, on := range stages {
		lit["/route/stages/"+strconv.Itoa(i)] = on
		lit["/card"] = lit["/card"] || on && line != power.TurnOnLine
	}
	for i := range r.Supplies {
		lit["/supplies/"+strconv.Itoa(i)] = line == power.GroundLine || i == supply
		lit["/host"] = lit["/host"] || r.Supplies[i].Name == r.Host.Supply && (line == power.GroundLine || line == power.LiveLine && i == supply)
	}
	class := func(sel string) string {
		if lit[sel] {
			return " lit"
		}
		return " dim"
	}
	for i := range d.Bands {
		d.Bands[i].Class += class(d.Bands[i].Sel)
	}
	for i := range d.Boxes {
		d.Boxes[i].Class += class(d.Boxes[i].Sel)
	}
	for i := range d.Labels {
		d.Labels[i].Class += class(d.Labels[i].Sel)
	}
}
