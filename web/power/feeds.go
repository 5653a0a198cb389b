package power

import (
	"path"
	"strconv"
	"strings"

	"github.com/gofiber/fiber/v3"

	"kolvan/core/assess"
	"kolvan/core/reference"
	"kolvan/core/rig"
	"kolvan/web/phrase"
	"kolvan/web/room"
)

// feedOption is a lead that could be added: from an outlet to a load.
type feedOption struct{ Value, Label string }

// port is a place where a lead can end: an outlet, or a load.
type port struct {
	part, at  string
	connector rig.Fact[rig.Connector]
}

// feedOptions offers leads for what is chosen, when it is a load: from every
// free outlet whose plug goes in. One that only looks alike is never offered.
func feedOptions(d *room.Desk) (list []feedOption, feedable bool) {
	r, loads := d.Rig, loadPorts(d.Rig, d.Sel)
	for _, load := range loads {
		for _, from := range freeOutlets(r, load.part) {
			if !goesIn(d.Ref, from, load) {
				continue
			}
			label := from.part + ", " + from.at + ", a " + phrase.Of(from.connector)
			if len(loads) > 1 {
				label += ", into " + load.at
			}
			list = append(list, feedOption{strings.Join([]string{from.part, from.at, load.part, load.at}, "\n"), label})
		}
	}
	return list, len(loads) > 0
}

func goesIn(ref *reference.Tables, from, load port) bool {
	if load.part == rig.HostPart && !load.connector.Known {
		kind := ref.Kind(from.connector.Value)
		return kind.Host && !kind.Processor
	}
	if !from.connector.Known || !load.connector.Known {
		return true
	}
	m, enters := ref.Enters(from.connector.Value, load.connector.Value)
	return enters && !m.Lookalike
}

// loadPorts are the loads that what is chosen stands for: a plug of the card,
// the inlets of a stage, one of them, the host.
func loadPorts(r *rig.Rig, sel string) []port {
	thing, _, err := rig.At(r, sel)
	if err != nil || !thing.CanAddr() {
		return nil
	}
	switch t := thing.Addr().Interface().(type) {
	case *rig.CardPlug:
		return []port{{rig.CardPart, t.Name, t.Connector}}
	case *rig.Host:
		if t.Inlets == nil {
			return []port{{part: rig.HostPart}}
		}
		return inletPorts(rig.HostPart, t.Inlets)
	case *rig.Stage:
		if len(t.Inlets) == 0 && rig.Is(t.Kind, rig.Dock) {
			return []port{{part: t.Name}}
		}
		return inletPorts(t.Name, t.Inlets)
	case *rig.Supply:
		return inletPorts(t.Name, t.Inlets)
	case *rig.Inlet:
		list, at := path.Split(sel) // /host/inlets/, 0
		if i, err := strconv.Atoi(at); err == nil {
			return loadPorts(r, path.Dir(path.Clean(list)))[i : i+1]
		}
	}
	return nil
}

func inletPorts(part string, inlets []rig.Inlet) (list []port) {
	for _, in := range inlets {
		list = append(list, port{part, in.Name, in.Connector})
	}
	return list
}

// freeOutlets lists the outlets of supplies and of the host's board that no lead uses, and those
// of the stages, but not the load's own.
func freeOutlets(r *rig.Rig, load string) []port {
	var list []port
	for i := range r.Supplies {
		s := &r.Supplies[i]
		for _, o := range s.Outlets {
			if s.Name != load && !r.Draws(s.Name, o.Name) {
				list = append(list, port{s.Name, o.Name, o.Connector})
			}
		}
	}
	for _, o := range r.Host.Outlets {
		if load != rig.HostPart && !r.Draws(rig.HostPart, o.Name) {
			list = append(list, port{rig.HostPart, o.Name, o.Connector})
		}
	}
	for _, s := range r.Route.Stages {
		for _, o := range s.Outlets {
			if s.Name != load {
				list = append(list, port{s.Name, o.Name, o.Connector})
			}
		}
	}
	return list
}

// joinLead adds the plain lead that was chosen among the options.
func joinLead(c fiber.Ctx, r *rig.Rig, _ *reference.Tables) (string, string, error) {
	ends := strings.Split(c.FormValue("ends"), "\n")
	if len(ends) != 4 {
		return "", "", &rig.FieldError{Path: "ends", Value: c.FormValue("ends"), Accepts: "one of the leads in the list"}
	}
	name := assess.FreeName(r, "lead to "+strings.TrimSpace(ends[2]+" "+ends[3]))
	r.Leads = append(r.Leads, rig.Lead{Name: name, Price: rig.Price{Owned: rig.Of(true)}, // it comes with what it hangs on
		From: []rig.LeadEnd{{Part: ends[0], At: ends[1]}}, To: []rig.LeadEnd{{Part: ends[2], At: ends[3]}}})
	return "feed " + ends[2] + " from " + ends[0], phrase.Last("/leads", len(r.Leads)), nil
}
