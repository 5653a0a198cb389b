package web

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"github.com/gofiber/fiber/v3"

	"kolvan/core/assess"
	"kolvan/core/finding"
	"kolvan/core/gate"
	"kolvan/core/rig"
	"kolvan/core/units"
)

// survey is the host as found: where to look in turn, the board with its slots, what
// was listed beside what was found, and the condition.
type survey struct {
	Walk      []lookAt
	Board     *boardDrawing
	Listed    []listedRow
	Condition []conditionRow
}

// lookAt is one place to look at, in the order in which an opened host shows them.
type lookAt struct {
	Label, Help, Sel string
	State            string // what is open there
	Here             bool
}

type listedRow struct {
	What, Listed, Found, Source string
	Level, Says, Sel            string
}

type conditionRow struct {
	Name, State, Sel string
	Bad              bool
}

func surveyOf(r *rig.Rig, report *assess.Report, sel string) *survey {
	s := &survey{Board: drawBoard(r, sel), Listed: listedRows(r, report)}
	for i := range r.Host.Checks {
		check := &r.Host.Checks[i]
		s.Condition = append(
			s.Condition,
			conditionRow{
				check.Name, words(check.State), fmt.Sprintf("/host/condition/%d", i), check.State.Known && check.State.Value != "fine",
			},
		)
	}
	s.Walk = walkOf(r, sel)
	return s
}

// walkOf lists where to look, with the facts that are open there.
func walkOf(r *rig.Rig, sel string) []lookAt {
	slots := func(sides ...rig.Side) (state, first string) {
		open := 0
		for i := range r.Host.Slots {
			if !slices.Contains(sides, sideOf(&r.Host.Slots[i])) {
				continue
			}
			open += openOf(&r.Host.Slots[i])
			if first == "" {
				first = rig.SlotPath(i)
			}
		}
		if first == "" {
			return "no slot yet", ""
		}
		return stateOf(open), first
	}
	outside, port := slots("outside", "edge")
	top, onTop := slots("top")
	under, below := slots("underside")
	firmware := &r.Host.Firmware
	list := []lookAt{
		{
			"Outside", "Power off and unplugged. Which ports are there, what is printed beside them, what does the brick say?",
			orText(port, "/host"), outside, false,
		},
		{
			"Board, top", "Battery off, cover off. Which slots, where is the notch, what sits in them, where are stand-offs?",
			orText(onTop, "/host"), top, false,
		},
		{"Board, underside", "Turn it over: a second slot, a bay, a memory cover?", orText(below, "/host"), under, false},
		{
			"Firmware screens", "What starts, which disk mode, which graphics are on, large addresses?", "/host/firmware",
			stateOf(untold(firmware.LargeWindow.Known, firmware.DiskMode.Known, firmware.Starts.Known)), false,
		},
		{
			"System", "What the system says of the processor, the memory and the links.", "/host",
			stateOf(untold(r.Host.Proc.Name != "", r.Host.Memory.Known, r.Host.System.Known)), false,
		},
	}
	for i := range list {
		list[i].Here = list[i].Sel == sel
	}
	return list
}

func stateOf(open int) string {
	if open == 0 {
		return "seen"
	}
	return fmt.Sprintf("%d to find", open)
}

// openOf counts what nobody told of a slot, of that on which a plan may hang.
func openOf(s *rig.Slot) int {
	return untold(
		s.Form.Known, s.Lanes.Known, s.Gen.Known, s.Carries.Known, s.Behind.Known, s.Occupant.Known,
		s.Key.Known || !rig.Is(s.Form, rig.M2),
	)
}

func untold(known ...bool) (n int) {
	for _, k := range known {
		n += ofBool(!k)
	}
	return n
}

// listedRows sets what a seller listed beside what was found.
func listedRows(r *rig.Rig, report *assess.Report) (rows []listedRow) {
	verdicts := map[string]*finding.Finding{}
	for i := range report.Findings {
		if f := &report.Findings[i]; f.Rule == gate.RuleListing {
			verdicts[f.Where] = f
		}
	}
	add := func(known bool, row listedRow, where string) {
		if !known {
			return
		}
		if f := verdicts[where]; f != nil {
			row.Level, row.Says = f.Level.String(), f.Says
		}
		rows = append(rows, row)
	}
	for i := range r.Host.Slots {
		s, at := &r.Host.Slots[i], rig.SlotPath(i)
		add(
			s.SaidLanes.Known,
			listedRow{
				What: s.Name + ", lanes", Listed: "x" + words(s.SaidLanes), Found: "x" + words(s.Lanes),
				Source: sourceWords(s.Lanes.Source), Sel: at,
			},
			at+"/lanes",
		)
		add(
			s.SaidGen.Known,
			listedRow{
				What: s.Name + ", generation", Listed: "Gen " + words(s.SaidGen), Found: "Gen " + words(s.Gen),
				Source: sourceWords(s.Gen.Source), Sel: at,
			},
			at+"/generation",
		)
	}
	l := &r.Host.Listed
	add(
		l.Memory.Known,
		listedRow{
			What: "main memory", Listed: words(l.Memory), Found: words(r.Host.Memory), Source: sourceWords(r.Host.Memory.Source),
			Sel: "/host",
		},
		"/host/memory_gib",
	)
	add(
		l.Processor.Known,
		listedRow{What: "processor", Listed: l.Processor.Value, Found: orText(r.Host.Proc.Name, unknown), Sel: "/host"},
		"/host/processor",
	)
	return rows
}

func sourceWords(s rig.Source) string { return rig.Spoken(s) }

// usualChecks are what is worth a look on a used machine.
var usualChecks = []string{
	"battery flat, not swollen", "mains lead and brick whole", "cover screws and clips", "fans turn freely",
	"drive caddy and screws", "no water marks, no smell", "ports hold a plug", "firmware without a password",
}

// addChecks puts the usual list of what to look at on a used machine into the host.
func addChecks(_ fiber.Ctx, r *rig.Rig) (string, string, error) {
	for _, name := range usualChecks {
		there := false
		for i := range r.Host.Checks {
			there = there || r.Host.Checks[i].Name == name
		}
		if !there {
			r.Host.Checks = append(r.Host.Checks, rig.Check{Name: name})
		}
	}
	return "list what to look at on a used machine", "/host", nil
}

// boardDrawing is the board from both sides and its edge, with what is on it.
type boardDrawing struct {
	Title  string
	Aside  string
	Height float64
	Sides  []boardSide
	Slots  []boardSlot
	Fixed  []box // processor and chipset
	Lines  []line
	Marks  []mark
}

type boardSide struct {
	X, Y, W, H float64
	Label      string
}

type boardSlot struct {
	box
	Index  int
	Placed bool
	Route  bool
}

// The board, in the units of its view box.
const (
	boardTop    = 30.0
	boardHigh   = 250.0
	boardWide   = 398.0
	boardGap    = 28.0
	boardLeft   = 24.0
	edgeTop     = boardTop + boardHigh + 30
	edgeHigh    = 62.0
	boardHeight = edgeTop + edgeHigh + 12
	slotWide    = 132.0
	slotHigh    = 58.0
	trayPitch   = 64.0
)

var boardSides = map[rig.Side]boardSide{
	"top":       {boardLeft, boardTop, boardWide, boardHigh, "top, cover off"},
	"underside": {boardLeft + boardWide + boardGap, boardTop, boardWide, boardHigh, "underside"},
	"outside":   {boardLeft, edgeTop, 2*boardWide + boardGap, edgeHigh, "edge and outside"},
}

// sideOf is the side a slot is on: as told, else by its form.
func sideOf(s *rig.Slot) rig.Side {
	switch {
	case s.Side.Known:
		return s.Side.Value
	case rig.Is(s.Form, rig.Tunnel) || rig.Is(s.Form, rig.OCuLink):
		return "outside"
	default:
		return "top"
	}
}

func drawBoard(r *rig.Rig, sel string) *boardDrawing {
	d := &boardDrawing{
		Title: orText(r.Host.Name, "The host") + ", as opened on the bench", Aside: "drag what you see to where it is",
		Height: boardHeight,
	}
	for _, side := range []rig.Side{"top", "underside", "outside"} {
		d.Sides = append(d.Sides, boardSides[side])
	}
	d.fixed(r, sel)
	unplaced := map[rig.Side]int{}
	for i := range r.Host.Slots {
		d.slot(r, i, sel, unplaced)
	}
	d.outlets(r)
	return d
}

// fixed draws the processor, and the chipset where something hangs on it.
func (d *boardDrawing) fixed(r *rig.Rig, sel string) {
	top := boardSides["top"]
	proc := box{X: top.X + top.W*0.52, Y: top.Y + 26, W: 92, H: 84, Sel: "/host", Class: "source", Chosen: sel == "/host"}
	proc.write("name", proc.X+proc.W/2, proc.Y+24, 16, wrap(orText(r.Host.Proc.Name, "processor"), 12, 2)...)
	d.Fixed = append(d.Fixed, proc)
	for i := range r.Host.Slots {
		if !rig.Is(r.Host.Slots[i].Behind, rig.Chipset) {
			continue
		}
		chip := box{
			X: top.X + top.W*0.52, Y: top.Y + 158, W: 92, H: 58, Sel: "/host/uplink", Class: "source",
			Chosen: sel == "/host/uplink",
		}
		chip.write("name", chip.X+chip.W/2, chip.Y+22, 16, "chipset")
		chip.write("sub", chip.X+chip.W/2, chip.Y+42, 16, uplinkWords(&r.Host.Uplink))
		d.Fixed = append(d.Fixed, chip)
		d.Lines = append(d.Lines, line{fmt.Sprintf("M%.1f %.1fV%.1f", chip.X+chip.W/2, proc.Y+proc.H, chip.Y), "trace"})
		return
	}
}

func (d *boardDrawing) slot(r *rig.Rig, i int, sel string, unplaced map[rig.Side]int) {
	s := &r.Host.Slots[i]
	side := sideOf(s)
	area, on := boardSides[side]
	if !on {
		area = boardSides["outside"]
	}
	b := boardSlot{Index: i, Placed: s.BoardX.Known && s.BoardY.Known, Route: s.Name == r.Route.Slot}
	b.box = box{W: slotWide, H: slotHigh, Sel: rig.SlotPath(i), Class: "element"}
	b.Chosen = b.Sel == sel
	b.X, b.Y = area.X+s.BoardX.Value/100*area.W-slotWide/2, area.Y+s.BoardY.Value/100*area.H-slotHigh/2
	if !b.Placed {
		n := float64(unplaced[side])
		unplaced[side]++
		b.X, b.Y = area.X+10, area.Y+10+n*trayPitch
		if area.H < boardHigh {
			b.X, b.Y = area.X+10+n*(slotWide+10), area.Y
		}
	}
	b.X = min(max(b.X, area.X), area.X+area.W-slotWide)
	b.Y = min(max(b.Y, area.Y), area.Y+area.H-slotHigh)
	b.write("name left", b.X+8, b.Y+18, 16, clip(s.Name, 17))
	b.write("sub left", b.X+8, b.Y+35, 16, clip(lanesWords(s), 16))
	held := words(s.Occupant)
	if held == rig.NoOccupant {
		held = "free"
	}
	b.write("under left", b.X+8, b.Y+51, 16, clip(held, 19))
	d.Slots = append(d.Slots, b)
	if b.Route {
		d.trace(s, &b)
	}
}

// trace is the way along the board to the slot the route starts from.
func (d *boardDrawing) trace(s *rig.Slot, b *boardSlot) {
	from := d.Fixed[0]
	if rig.Is(s.Behind, rig.Chipset) && len(d.Fixed) > 1 {
		from = d.Fixed[1]
	}
	x, y := from.X, from.Y+from.H-14
	d.Lines = append(d.Lines, line{curve(b.X+b.W, b.Y+b.H/2, x, y), "trace live"})
	says := "trace not measured"
	if s.Trace.Known {
		says = s.Trace.Value.String() + " of trace"
	}
	if s.Leaves.Known {
		says += "; a cable may leave: " + s.Leaves.Value
	}
	d.Marks = append(
		d.Marks,
		mark{X: boardLeft + 2*boardWide + boardGap, Y: boardTop + boardHigh + 20, Text: clip(s.Name+": "+says, 96), Anchor: "end"},
	)
}

// outlets are the ports outside that no card joins.
func (d *boardDrawing) outlets(r *rig.Rig) {
	var names []string
	for i := range r.Host.Screens {
		names = append(names, r.Host.Screens[i].Name)
	}
	for i := range r.Host.Networks {
		if rig.Is(r.Host.Networks[i].Kind, rig.Wire) {
			names = append(names, "network ("+r.Host.Networks[i].Name+")")
		}
	}
	for i := range r.Host.Inlets {
		names = append(names, "power ("+r.Host.Inlets[i].Name+")")
	}
	if len(names) > 0 {
		d.Marks = append(
			d.Marks,
			mark{X: boardLeft + 2*boardWide + boardGap - 8, Y: edgeTop + 36, Text: clip(strings.Join(names, " · "), 70), Anchor: "end"},
		)
	}
}

// placeSlot puts a slot where its box was dragged to: its middle in the drawing.
func placeSlot(c fiber.Ctx, r *rig.Rig) (string, string, error) {
	i, err := strconv.Atoi(c.FormValue("slot"))
	if err != nil || i < 0 || i >= len(r.Host.Slots) {
		return "", "", &rig.FieldError{Path: "slot", Value: strconv.Quote(c.FormValue("slot")), Accepts: "the number of a slot of the host"}
	}
	at := [2]float64{}
	for k, name := range []string{"x", "y"} {
		if at[k], err = strconv.ParseFloat(c.FormValue(name), 64); err != nil || !(at[k] >= -drawingWidth && at[k] <= 2*drawingWidth) {
			return "", "", &rig.FieldError{Path: name, Value: strconv.Quote(c.FormValue(name)), Accepts: "a place in the drawing"}
		}
	}
	s := &r.Host.Slots[i]
	side := sideAt(at[0], at[1], sideOf(s))
	area, on := boardSides[side]
	if !on {
		area = boardSides["outside"]
	}
	if sideOf(s) != side || !s.Side.Known {
		s.Side = rig.Of(side)
	}
	s.BoardX, s.BoardY = hundredth(at[0], area.X, area.W), hundredth(at[1], area.Y, area.H)
	return "place " + s.Name + " on the board", rig.SlotPath(i), nil
}

// sideAt is the side that a place in the drawing belongs to; one at the edge stays
// there when it is moved along it.
func sideAt(x, y float64, was rig.Side) rig.Side {
	switch {
	case y > edgeTop-10 && was == "edge":
		return "edge"
	case y > edgeTop-10:
		return "outside"
	case x > boardLeft+boardWide+boardGap/2:
		return "underside"
	default:
		return "top"
	}
}

func hundredth(at, from, size float64) rig.Fact[float64] {
	return rig.Of(units.Round(min(100, max(0, (at-from)/size*100)), 3))
}

// uplinkWords is what the chipset hangs on, as short as it goes.
func uplinkWords(u *rig.Uplink) string {
	if !u.Lanes.Known || !u.Gen.Known {
		return "not known"
	}
	return fmt.Sprintf("x%d Gen %d", u.Lanes.Value, u.Gen.Value)
}
