package ledger

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"kolvan/core/rig"
	"kolvan/core/units"
)

// A Purchase is one step of the buying order: what to buy, exactly, what is taken for it by
// mistake, and what must be seen before the next is ordered.
type Purchase struct {
	Name     string `json:"name"`
	Part     string `json:"part,omitzero"`
	Cost     Amount `json:"cost"`
	Variant  string `json:"variant"`
	Not      string `json:"not_to_buy"`
	Stop     string `json:"stop"` // what must be seen before the next order
	ReturnBy string `json:"return_by"`
	State    string `json:"state"`

	kills int
}

// What a purchase could end the plan by, the soonest first: the host itself, what is put
// between it and the card, what feeds that, the card, and all else.
const (
	killsHost = iota
	killsWay
	killsFeed
	killsCard
	killsNothing
)

// Order is what is still to buy or on its way, in the order to buy it in: what could end the
// plan comes first, the cheapest before the dearer; the card last of what could.
func Order(r *rig.Rig) []Purchase {
	lines := Lines(r)
	list := []Purchase{}
	for i := range lines {
		l := &lines[i]
		if !l.pays() || l.told.With != "" {
			continue
		}
		p := Purchase{Name: l.Name, Part: l.Part, Cost: l.Cost, State: string(l.State), ReturnBy: l.told.ReturnBy, kills: killsNothing}
		p.describe(r, l.Where)
		p.Variant, p.Not = cmp.Or(l.told.Variant, p.Variant), cmp.Or(l.told.Not, p.Not)
		list = append(list, p)
	}
	slices.SortStableFunc(list, func(a, b Purchase) int {
		if a.kills != b.kills {
			return a.kills - b.kills
		}
		return a.Cost.Low.Cmp(b.Cost.Low)
	})
	return list
}

// describe says of a part what variant it must be, what is taken for it, and when to stop.
func (p *Purchase) describe(r *rig.Rig, where string) {
	thing, _, err := rig.At(r, where)
	if err != nil || !thing.CanAddr() {
		return
	}
	switch v := thing.Addr().Interface().(type) {
	case *rig.Host:
		p.kills, p.Stop = killsHost, "stop unless it starts, and its slots carry what the listing says"
	case *rig.Stage:
		p.stage(r, v)
	case *rig.Supply:
		p.kills = killsFeed
		p.Variant = said(rig.Spoken(v.Kind.Or("")), fact(v.Rating), told(v.TurnOn))
		switchedBy := "the dock"
		if rig.Is(v.TurnOn, rig.TurnOnHost) {
			switchedBy = "the host's board"
		}
		p.Stop = "stop unless it switches on with " + switchedBy + " alone, and a meter shows its voltage at the plug, card and host apart"
		if v.Kind.Value == rig.Brick {
			p.Not = "the brick of the same plug and another voltage: read the label of the very one"
		}
	case *rig.SwitchBoard:
		p.kills, p.Variant = killsFeed, "for the main plug of the very supply, switched by the dock's or the host's 5 V"
		p.Stop = "stop unless the supply follows the host, on and off"
	case *rig.Extra:
		p.extra(where)
	case *rig.Lead:
		p.lead(v)
	case *rig.Card:
		p.kills = killsCard
		p.Variant = said(fact(v.Memory), plugsOf(v), bracketOf(v), sizeOf(v))
		p.Stop = "stop unless it is found at the width planned, and holds ten minutes of load"
	}
}

// extra says what an enclosure or a stick has to be.
func (p *Purchase) extra(where string) {
	p.kills = killsWay
	p.Variant, p.Not = "16 GB or more, for the installer alone", "the stick that holds the copy of the data"
	if strings.HasSuffix(where, "/enclosure") {
		p.Variant, p.Not = "for the form of the very drive, its bridge known to start a system",
			"one for the other kind of module: they look alike, and only one of the two is read"
		p.Stop = "stop unless the host starts from the drive in it, on the very port it will use"
	}
}

func (p *Purchase) stage(r *rig.Rig, s *rig.Stage) {
	p.kills = killsWay
	var parts []string
	if s.Plug.Form.Known {
		parts = append(parts, endOf(&s.Plug)+" into the host's side")
	}
	if s.Socket.Form.Known {
		parts = append(parts, endOf(&s.Socket)+" toward the card")
	}
	if s.Module.Known {
		parts = append(parts, "module "+fact(s.Module)+" long")
	}
	if rig.Is(s.Kind, "cable") && s.Length.Known {
		parts = append(parts, fact(s.Length)+" long")
	}
	p.Variant = said(append(parts, lanesOf(s))...)
	switch {
	case rig.Is(s.Plug.Form, "m2"):
		p.Not = "one keyed otherwise: it looks alike and does not go in"
		p.Stop = fmt.Sprintf("stop unless it sits flat in %s with its screw, and the cable gets out", cmp.Or(r.Route.Slot, "its slot"))
	case rig.Is(s.Kind, "dock"):
		p.Not = "the one of the same body for another plug, or with another power inlet"
		p.Stop = "stop unless any card, the cheapest there is, is found through it"
	default:
		p.Not = "the same one with fewer lanes, or in another length"
		p.Stop = "stop unless it reaches, its bends are wide enough, and both ends latch"
	}
}

func (p *Purchase) lead(l *rig.Lead) {
	p.kills = killsFeed
	ends := func(list []rig.LeadEnd) string {
		var names []string
		for i := range list {
			if c, told := list[i].Connector.Get(); told {
				names = append(names, rig.Spoken(c))
			}
		}
		return strings.Join(names, " and ")
	}
	from, to := ends(l.From), ends(l.To)
	gauge := ""
	if l.Gauge.Known {
		gauge = fmt.Sprintf("AWG %d or thicker", l.Gauge.Value)
	}
	p.Variant = said(strings.Trim(from+" to "+to, " to"), fact(l.Length), gauge)
	if strings.Contains(from+to, "card 8") || strings.Contains(from+to, "processor 8") {
		p.Not = "a processor lead (EPS) for a card's, or the other way: they look alike and are wired the other way round"
	} else {
		p.Not = "a lead of another supply's series: the plugs go in and the wires are elsewhere"
	}
	p.Stop = "stop unless every pin was measured against its list"
}

func endOf(e *rig.Joint) string {
	text := rig.Spoken(e.Form.Value)
	if e.Key.Known {
		text += " key " + string(e.Key.Value)
	}
	if e.Lanes.Known {
		text += fmt.Sprintf(" x%d", e.Lanes.Value)
	}
	return text
}

func lanesOf(s *rig.Stage) string {
	if !s.Lanes.Known || !s.Gen.Known {
		return ""
	}
	return fmt.Sprintf("%d lanes, made for Gen %d", s.Lanes.Value, s.Gen.Value)
}

func plugsOf(c *rig.Card) string {
	if c.Plugs == nil {
		return ""
	}
	if len(c.Plugs) == 0 {
		return "without power plugs"
	}
	var names []string
	for i := range c.Plugs {
		if k, told := c.Plugs[i].Connector.Get(); told {
			names = append(names, rig.Spoken(k))
		}
	}
	return "power by " + strings.Join(names, " and ")
}

func bracketOf(c *rig.Card) string {
	if !c.Bracket.Height.Known {
		return ""
	}
	return rig.Spoken(c.Bracket.Height.Value) + " bracket"
}

func sizeOf(c *rig.Card) string {
	if !c.Length.Known {
		return ""
	}
	return "no longer than " + fact(c.Length)
}

func said(parts ...string) string {
	return strings.Join(slices.DeleteFunc(parts, func(s string) bool { return s == "" }), ", ")
}

func told[W interface {
	~string
	rig.Worded
}](f rig.Fact[W]) string {
	if !f.Known {
		return ""
	}
	return "switched on by " + rig.Spoken(f.Value)
}

func fact[T units.Watt | units.Millimetre | units.Gibibyte](f rig.Fact[T]) string {
	if !f.Known {
		return ""
	}
	return fmt.Sprint(f.Value)
}
