package power

import (
	"bytes"
	"encoding/csv"
	"fmt"
	"slices"
	"strconv"
	"strings"

	"github.com/gofiber/fiber/v3"

	"kolvan/core/cells"
	"kolvan/core/power"
	"kolvan/core/reference"
	"kolvan/core/rig"
	"kolvan/core/units"
	"kolvan/web/draw"
	"kolvan/web/phrase"
	"kolvan/web/room"
)

// Harness is the bench for a lead made by oneself: the plugs as columns of pins,
// the wires between them, what flows in each, and what to measure.
type Harness struct {
	Lead    int
	Path    string // of the lead
	Height  float64
	Ends    []plugColumn
	Wires   []wireView
	Rows    []wireRow
	Made    bool // it has wires of its own
	Gauge   string
	GaugeIs int
	Fuse    string
	FuseIs  string
	Drop    string
	Says    []string
	Meter   []meterLine
	Held    string // the source pin that a wire begins at
	Title   string
}

// plugColumn is a plug of the lead, its pins from the top down.
type plugColumn struct {
	Title, Under string
	X, Y         float64
	Source       bool
	Pins         []pinView
	Map          string // where its own pin map is kept; "" for one of the table
	Count        int
}

type pinView struct {
	X, Y, TextX draw.Px
	Number      int
	Name        string
	Class       string
	Key         string // "end/pin", both from 1
	Held        bool
	Path        string // of its own pin, where the map is a person's
	Anchor      string
}

type wireView struct {
	Path, Class, Title string
	Index              int
	Bad                bool
}

type wireRow struct {
	Number               int
	From, To, Gives      string
	Amps, Gauge, Carries string
	Bad, Hot             bool
	Path                 string
}

type meterLine struct {
	power.MeterLine
	Done bool
}

// The places of the drawing, in the units of its view box.
const (
	pinPitch   = 21.0
	plugHead   = 34.0
	leftPins   = 250.0
	rightPins  = draw.Width - 250.0
	plugGap    = 18.0
	harnessTop = 14.0
)

// drawHarness lays a lead out wire by wire.
func drawHarness(r *rig.Rig, n *power.Network, i int, held string) *Harness {
	lead, load := &r.Leads[i], &n.Leads[i]
	h := &Harness{Lead: i, Path: fmt.Sprintf("/leads/%d", i), Held: held, Made: len(lead.Wires) > 0, Title: lead.Name}
	left, right := harnessTop, harnessTop
	places := map[string][2]float64{}
	for j := range load.From {
		left = h.column(r, n, &load.From[j], lead.From[j], j, true, leftPins, left, places)
	}
	for j := range load.To {
		right = h.column(r, n, &load.To[j], lead.To[j], j, false, rightPins, right, places)
	}
	h.Height = max(left, right)
	plan := n.Harness(i)
	for k := range plan.Wires {
		h.wire(lead, &plan.Wires[k], k, places)
	}
	h.choose(lead, &plan)
	for _, line := range n.MeterList(i) {
		h.Meter = append(h.Meter, meterLine{line, slices.Contains(lead.Ticked, line.ID)})
	}
	return h
}

// column adds a plug and returns where the next one begins.
func (h *Harness) column(
	r *rig.Rig,
	n *power.Network,
	e *power.EndLoad,
	end rig.LeadEnd,
	j int,
	source bool,
	x, y float64,
	places map[string][2]float64,
) float64 {
	names := n.PlugPins(e)
	c := plugColumn{
		Title: phrase.Or(rig.Spoken(e.Plug), "a plug not told yet"),
		Under: "for " + strings.TrimSpace(phrase.Or(end.Part, "nothing yet")+" "+end.At), X: x, Y: y, Source: source,
		Count: len(names),
	}
	if source {
		c.Under = "from " + strings.TrimSpace(phrase.Or(end.Part, "nothing yet")+" "+end.At)
	}
	if n.OwnPlug(e) {
		c.Map = n.MapOf(e)
	}
	side, anchor, textX := "to", "start", x+16
	if source {
		side, anchor, textX = "from", "end", x-16
	}
	for k, name := range names {
		key := fmt.Sprintf("%d/%d", j+1, k+1)
		at := y + plugHead + float64(k)*pinPitch + pinPitch/2
		places[side+key] = [2]float64{x, at}
		p := pinView{
			X: draw.Px(x), Y: draw.Px(at), TextX: draw.Px(textX), Number: k + 1, Name: phrase.Or(name, "not known"), Class: wireClasses[name],
			Key: key, Held: source && h.Held == key, Anchor: anchor,
		}
		if c.Map != "" {
			p.Path = fmt.Sprintf("%s/%d", c.Map, k)
		}
		c.Pins = append(c.Pins, p)
	}
	h.Ends = append(h.Ends, c)
	return y + plugHead + float64(max(1, len(names)))*pinPitch + plugGap
}

func (h *Harness) wire(lead *rig.Lead, w *power.WirePlan, k int, places map[string][2]float64) {
	from, to := fmt.Sprintf("%d/%d", w.FromEnd, w.FromPin), fmt.Sprintf("%d/%d", w.ToEnd, w.ToPin)
	a, b := places["from"+from], places["to"+to]
	if a != [2]float64{} && b != [2]float64{} {
		h.Wires = append(h.Wires, wireView{Path: draw.Curve(a[0], a[1], b[0], b[1]), Class: phrase.Or(wireClasses[w.Gives], "plain"), Index: k,
			Bad:   w.Bad,
			Title: fmt.Sprintf("wire %d, %s, from pin %d to pin %d", k+1, phrase.Or(w.Gives, "not known"), w.FromPin, w.ToPin)})
	}
	row := wireRow{
		Number: k + 1, From: from, To: to, Gives: phrase.Or(w.Gives, "not known"), Bad: w.Bad, Amps: "a signal",
		Gauge: "AWG unknown", Path: fmt.Sprintf("%s/wires/%d", h.Path, k),
	}
	if w.Bad {
		row.Gives += " on " + w.Wants
	}
	if w.Flows {
		row.Amps = w.Amps.High.String()
		row.Hot = w.Limit > 0 && w.Amps.High > w.Limit
	}
	if gauge := w.Gauge; gauge.Known {
		row.Gauge = fmt.Sprintf("AWG %d", gauge.Value)
	} else if lead.Gauge.Known {
		row.Gauge = fmt.Sprintf("AWG %d", lead.Gauge.Value)
	}
	if w.Limit > 0 {
		row.Carries = w.Limit.String()
	}
	h.Rows = append(h.Rows, row)
}

// choose says which gauge and fuse the lead wants, and why.
func (h *Harness) choose(lead *rig.Lead, p *power.HarnessPlan) {
	if len(p.Wires) == 0 {
		return
	}
	if p.Gauge > 0 {
		h.Gauge, h.GaugeIs = fmt.Sprintf("AWG %d", p.Gauge), p.Gauge
	} else {
		h.Says = append(h.Says, "No gauge of the table carries this: join more pins side by side, or shorten the lead.")
	}
	if p.Fuse > 0 {
		h.Fuse, h.FuseIs = p.Fuse.String(), units.Trim(float64(p.Fuse), 1)
	} else {
		h.Says = append(h.Says, "No fuse goes between what flows and what the wires carry: take thicker wires, or more of them.")
	}
	if p.Dropped {
		h.Drop = fmt.Sprintf("%s of %v", units.Trim(float64(p.Drop), 2)+" V", p.Volts)
	}
	if !lead.Length.Known {
		h.Says = append(h.Says, "The length is not told: half a metre is counted with.")
	}
}

// joinWire adds a wire of the chosen lead, or takes one off.
func joinWire(c fiber.Ctx, r *rig.Rig, _ *reference.Tables) (string, string, error) {
	i, err := chosenLead(c, r)
	if err != nil {
		return "", "", err
	}
	lead := &r.Leads[i]
	if off := c.FormValue("off"); off != "" {
		k, err := strconv.Atoi(off)
		if err != nil || k < 0 || k >= len(lead.Wires) {
			return "", "", &rig.FieldError{Path: "off", Value: strconv.Quote(off), Accepts: "a wire of the lead"}
		}
		if lead.Wires = slices.Delete(lead.Wires, k, k+1); len(lead.Wires) == 0 {
			lead.Wires = nil // it counts as its maker wired it again
		}
		return fmt.Sprintf("take wire %d off %s", k+1, lead.Name), "", nil
	}
	var w rig.Conductor
	if _, err := fmt.Sscanf(
		c.FormValue("from")+" "+c.FormValue("to"), "%d/%d %d/%d", &w.FromEnd, &w.FromPin, &w.ToEnd, &w.ToPin,
	); err != nil {
		return "", "", &rig.FieldError{Path: "from", Value: strconv.Quote(c.FormValue("from")), Accepts: "an end and a pin, like 1/3"}
	}
	if slices.ContainsFunc(lead.Wires, func(o rig.Conductor) bool {
		return o.FromEnd == w.FromEnd && o.FromPin == w.FromPin && o.ToEnd == w.ToEnd && o.ToPin == w.ToPin
	}) {
		return "", "", &rig.FieldError{Path: "to", Value: strconv.Quote(c.FormValue("to")), Accepts: "two pins that no wire joins yet"}
	}
	lead.Wires = append(lead.Wires, w)
	return fmt.Sprintf("a wire of %s", lead.Name), "", nil
}

func chosenLead(c fiber.Ctx, r *rig.Rig) (int, error) {
	sel := c.FormValue("sel")
	if i := rig.EntryAt(sel, "/leads"); i >= 0 && i < len(r.Leads) {
		return i, nil
	}
	return 0, &rig.FieldError{Path: "sel", Value: strconv.Quote(sel), Accepts: "a lead of the rig"}
}

// tickLine ticks a line of the chosen lead's meter list, or takes the tick back.
func tickLine(c fiber.Ctx, r *rig.Rig, _ *reference.Tables) (string, string, error) {
	i, err := chosenLead(c, r)
	if err != nil {
		return "", "", err
	}
	lead, line := &r.Leads[i], c.FormValue("line")
	if k := slices.Index(lead.Ticked, line); k >= 0 {
		lead.Ticked = slices.Delete(lead.Ticked, k, k+1)
		return "not measured after all: " + line, "", nil
	}
	lead.Ticked = append(lead.Ticked, line)
	return "measured and right: " + line, "", nil
}

// joinAlike joins all that carries the same.
func joinAlike(c fiber.Ctx, r *rig.Rig, ref *reference.Tables) (string, string, error) {
	i, err := chosenLead(c, r)
	if err != nil {
		return "", "", err
	}
	wires := power.For(r, ref).Alike(i)
	if len(wires) == 0 {
		return "", "", &rig.FieldError{
			Path: "sel", Value: strconv.Quote(r.Leads[i].Name), Accepts: "a lead with pins at both ends that carry the same",
		}
	}
	r.Leads[i].Wires = wires
	return "join what carries the same on " + r.Leads[i].Name, "", nil
}

// harnessOf is the drawing of the lead that an address names.
func harnessOf(c fiber.Ctx, d *room.Desk) (*Harness, error) {
	i, err := strconv.Atoi(c.Params("lead"))
	if err != nil || i < 0 || i >= len(d.Rig.Leads) {
		return nil, fiber.NewError(fiber.StatusNotFound, "There is no such lead.")
	}
	return drawHarness(d.Rig, d.Report.Power, i, ""), nil
}

// harnessSVG is the wiring drawing as a file of its own.
func harnessSVG(c fiber.Ctx, d *room.Desk) error {
	h, err := harnessOf(c, d)
	if err != nil {
		return err
	}
	c.Attachment(d.Rig.Leads[h.Lead].Name + " wiring.svg")
	c.Set(fiber.HeaderContentType, "image/svg+xml")
	return c.Render("harness_svg", h)
}

// harnessCSV is the list of wires as a table.
func harnessCSV(c fiber.Ctx, d *room.Desk) error {
	h, err := harnessOf(c, d)
	if err != nil {
		return err
	}
	var table bytes.Buffer
	rows := csv.NewWriter(&table)
	_ = rows.Write(
		[]string{"wire", "from_end", "from_pin", "carries", "to_end", "to_pin", "gauge", "current", "wire_carries", "length_mm"},
	) // a buffer takes all
	length := ""
	if l, told := d.Rig.Leads[h.Lead].Length.Get(); told {
		length = units.Trim(float64(l), 1)
	}
	for _, w := range h.Rows {
		fromEnd, fromPin, _ := strings.Cut(w.From, "/")
		toEnd, toPin, _ := strings.Cut(w.To, "/")
		_ = rows.Write(cells.Row([]string{
			strconv.Itoa(w.Number), fromEnd, fromPin, w.Gives, toEnd, toPin, w.Gauge, w.Amps, w.Carries, length,
		}))
	}
	rows.Flush()
	c.Attachment(d.Rig.Leads[h.Lead].Name + " wires.csv")
	c.Set(fiber.HeaderContentType, "text/csv; charset=utf-8")
	return c.Send(table.Bytes())
}
