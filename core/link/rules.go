package link

import (
	"fmt"
	"strings"

	"kolvan/core/finding"
	"kolvan/core/rig"
	"kolvan/core/units"
)

var rules = finding.Table[*Plan]{
	{Rule: finding.Rule{Name: "link.no-pcie", Title: "The slot carries no PCIe", Levels: "blocked",
		Fires: "the slot, or the module form in it, carries no PCIe (SATA-only, video-only look-alike, USB-only, radio-only), or no lane is wired to it"}, Judge: judgeNoPCIe},
	{Rule: finding.Rule{Name: "link.form-mismatch", Title: "It does not plug in", Levels: "blocked",
		Fires: "a plug does not enter its slot: another form or key, or a closed card slot shorter than the edge that should go in"}, Judge: judgeForm},
	{Rule: finding.Rule{Name: "link.width", Title: "Link narrower than the card", Levels: "note; risk",
		Fires: "the link is narrower than the card; a risk when the route loses lanes the slot wires, or a card of eight or more lanes gets under 1.6 GB/s net"}, Judge: judgeWidth},
	{Rule: finding.Rule{Name: "link.speed", Title: "Link slower than the card", Levels: "note",
		Fires: "the planned generation is below the card's"}, Judge: judgeSpeed},
	{Rule: finding.Rule{Name: "link.narrow-card", Title: "Narrow card on an older link", Levels: "note; risk",
		Fires: "the card has fewer lanes than are wired along the route and the route is of an older generation than the card; a risk under 2 GB/s net"}, Judge: judgeNarrowCard},
	{Rule: finding.Rule{Name: "link.two-lanes", Title: "Two lanes, or one", Levels: "note",
		Fires: "the link is two lanes wide and it is not known that the card trains on two, which the standard leaves optional"}, Judge: judgeTwoLanes},
	{Rule: finding.Rule{Name: "link.tunnel", Title: "Through a tunnelled port", Levels: "note",
		Fires: "the route runs through a tunnelled port; says what that leaves for payload"}, Judge: judgeTunnel},
}

// Rules lists the rules of this package.
func Rules() []finding.Rule { return rules.Rules() }

// Judge adds what the rules say about the plan.
func (p *Plan) Judge(out *finding.List) { rules.Judge(p, out) }

func judgeNoPCIe(r *finding.Rule, p *Plan, out *finding.List) {
	slot := p.rig.Slot(p.rig.Route.Slot)
	if slot == nil {
		out.Need(r, "/route/slot", "the slot the route starts from", "Choose one of the host's slots.", "whether there is a link at all")
		return
	}
	at := p.Elements[0].Where
	switch {
	case rig.Is(slot.Form, rig.MSATA):
		out.Add(r, finding.Blocked, at, nil, "%s is an mSATA slot. It looks like mini PCIe and carries no PCIe.", slot.Name)
	case rig.Is(slot.Lanes, 0):
		out.Add(r, finding.Blocked, at, nil, "No lane is wired to %s.", slot.Name)
	case p.None:
		out.Add(r, finding.Blocked, at, nil, "%s carries %s, no PCIe.", slot.Name, words(slot.Carries.Value))
	case !slot.Carries.Known && mayLackPCIe(slot):
		out.Need(r, at+"/carries", "what the contacts of "+slot.Name+" carry",
			"Read the host's service papers or the label beside the slot.", "between a link and none")
	case !slot.Form.Known:
		out.Need(r, at+"/form", "the form of "+slot.Name, "Look at the slot with the cover off.", "between a link and none")
	}
}

func words(carried []rig.Carried) string {
	if len(carried) == 0 {
		return "nothing"
	}
	return rig.SpokenList(carried, " and ") + " only"
}

// mayLackPCIe: card slots and OCuLink ports are there for PCIe; the others have
// look-alikes without it. A tunnelled port whose class is told has been looked
// at, save in the 10 Gb/s class, where a plain port has the same mark.
func mayLackPCIe(slot *rig.Slot) bool {
	if rig.Is(slot.Form, rig.Tunnel) && slot.TunnelRate.Value > plainPort {
		return false
	}
	return !rig.Is(slot.Form, rig.CardSlot) && !rig.Is(slot.Form, rig.OCuLink)
}

// plainPort is the rate of a port that may tunnel nothing.
const plainPort units.GigabitPerSecond = 10

func judgeWidth(r *finding.Rule, p *Plan, out *finding.List) {
	if p.None {
		return
	}
	for _, e := range p.Elements {
		if e.Open(e.Lanes) {
			out.Need(r, e.Where+"/lanes", "the lanes of "+e.Name, howLanes(e), "the width of the link")
		}
	}
	card := p.rig.Card.Lanes
	if !p.WidthKnown || !card.Known || p.Width >= card.Value {
		return
	}
	pinch := p.Elements[p.Narrowest]
	slot := Legal(p.Elements[0].Lanes.Value)
	wired, _ := p.onRoute()
	level, why := finding.Note, ""
	if wired < slot {
		level, why = finding.Risk, fmt.Sprintf(" The slot wires %d: the route loses %d.", slot, slot-wired)
	}
	if card.Value >= 8 && p.Known() && p.Net < p.ref.WideCardNet {
		level, why = finding.Risk, why+fmt.Sprintf(" A card this wide disappoints under %v.", p.ref.WideCardNet)
	}
	numbers := finding.Numbers{{Name: "width", Value: float64(p.Width)}, {Name: "card_lanes", Value: float64(card.Value)}}
	if p.Known() {
		numbers = append(numbers, finding.Number{Name: "net_gb_s", Value: float64(p.Net)})
	}
	out.Add(r, level, pinch.Where, numbers, "%d of the card's %d lanes, set by %s.%s", p.Width, card.Value, pinch.Name, why)
}

func howLanes(e Element) string {
	switch {
	case e.Where == "/card":
		return "Read the card's papers: the edge may be longer than its lanes."
	case strings.HasPrefix(e.Where, "/host"):
		return "Read the board's papers, or the width of a card known to use more, under load."
	default:
		return "Count the pairs on the part, or read its papers."
	}
}

func judgeSpeed(r *finding.Rule, p *Plan, out *finding.List) {
	if p.None {
		return
	}
	for _, e := range p.Elements {
		if e.Open(e.Gen) {
			out.Need(r, e.Where+"/generation", "the generation of "+e.Name,
				"Read its papers; a slot's depends on the processor fitted too.", "the speed of the link")
		}
	}
	card := p.rig.Card.Gen
	if p.Gen == 0 || p.Gen >= card.Value {
		return
	}
	where, by := p.Elements[p.Slowest].Where, p.Elements[p.Slowest].Name
	if p.Forced {
		where, by = "/route/forced_generation", "the forced generation"
	}
	out.Add(r, finding.Note, where, finding.Numbers{
		{Name: "generation", Value: float64(p.Gen)}, {Name: "card_generation", Value: float64(card.Value)},
	}, "Gen %d where the card could do Gen %d, set by %s.", p.Gen, card.Value, by)
}

func judgeNarrowCard(r *finding.Rule, p *Plan, out *finding.List) {
	card := p.rig.Card
	if p.None || !p.Known() {
		return // link.width, link.speed and link.tunnel ask
	}
	wired, gen := p.onRoute()
	if gen == 0 || wired <= card.Lanes.Value || gen >= card.Gen.Value {
		return
	}
	level := finding.Note
	if p.Net < p.ref.NarrowCardNet {
		level = finding.Risk
	}
	out.Add(r, level, "/card/lanes", finding.Numbers{
		{Name: "card_lanes", Value: float64(card.Lanes.Value)}, {Name: "wired", Value: float64(wired)}, {Name: "net_gb_s", Value: float64(p.Net)},
	}, "The card uses %d of %d wired lanes, and they run at Gen %d where the card was made for Gen %d: %v net.",
		card.Lanes.Value, wired, gen, card.Gen.Value, p.Net)
}

func judgeTwoLanes(r *finding.Rule, p *Plan, out *finding.List) {
	if p.Width != 2 || p.rig.Card.TrainsX2.Known || rig.Is(p.rig.Card.Lanes, 2) {
		return
	}
	out.Add(r, finding.Note, "/card/trains_x2", nil, "2 lanes, or 1 if the card does not do two.")
}

func judgeTunnel(r *finding.Rule, p *Plan, out *finding.List) {
	slot := p.rig.Slot(p.rig.Route.Slot)
	if slot == nil || p.None || !rig.Is(slot.Form, rig.Tunnel) {
		return
	}
	at := p.Elements[0].Where
	leaves, known := p.tunnelled(slot)
	if !known {
		out.Need(r, at+"/tunnel_gbit_s", "the class of "+slot.Name, "Read the mark beside the port and the host's papers; one for pictures alone looks the same.", "how much the tunnel leaves for the card")
		return
	}
	out.Add(r, finding.Note, at, finding.Numbers{{Name: "class_gbit_s", Value: float64(slot.TunnelRate.Value)}, {Name: "leaves_gb_s", Value: float64(leaves)}},
		"%s tunnels PCIe among other traffic: of its %v, %v are left for the card.", slot.Name, slot.TunnelRate.Value, leaves)
	if newer, _ := p.ref.TunnelPayload(slot.TunnelRate.Value, true); !slot.TunnelNew.Known && newer/8 > units.GigabitPerSecond(leaves) {
		out.Need(r, at+"/tunnel_newer", "whether "+slot.Name+" is on a newer controller", "Read the host's papers.", "whether the tunnel leaves up to "+units.GigabytePerSecond(newer/8).String()+" instead of "+leaves.String())
	}
}
