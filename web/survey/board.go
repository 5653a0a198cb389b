package survey

import (
	"fmt"
	"math"
	"slices"
	"strconv"
	"strings"

	"github.com/gofiber/fiber/v3"

	"kolvan/core/reference"
	"kolvan/core/rig"
	"kolvan/core/units"
	"kolvan/web/draw"
	"kolvan/web/fields"
	"kolvan/web/phrase"
)

// boardDrawing is the board as it lies on the bench, from both sides and its edge, with what
// one sees on it.
type boardDrawing struct {
	Title         string
	Aside         string
	ID            string // parts the slots of one drawing from those of the other
	Width, Height float64
	plan          *boardPlan
	Sides         []boardSide
	Slots         []boardSlot
	Fixed         []draw.Box // processor and chipset
	Lines         []draw.Line
	Marks         []draw.Mark
}

type boardSide struct {
	X, Y, W, H float64
	Label      string
}

// boardSlot is a slot as the thing it is, with its name beside it.
type boardSlot struct {
	draw.Box
	Index  int
	Placed bool
	Route  bool
	Shapes []draw.Line // of the thing itself, from the corner of its box
	Ear    string      // what it is, for who does not see it
}

// Sizes on the board, in the units of its view box.
const (
	slotWide  = 150.0
	slotHigh  = 76.0
	slotHead  = 34.0 // its name and its lanes, over the thing
	mmOnBoard = 1.35 // of a module
)

// A boardPlan is where the sides of a board are drawn.
type boardPlan struct {
	Width, Height float64
	sides         map[rig.Side]boardSide
}

// The board side by side; and for a telephone one below the other, its ports in two rows.
var (
	boardWide = &boardPlan{draw.Width, 410, map[rig.Side]boardSide{
		"top":       {24, 34, 398, 262, "top, cover off"},
		"underside": {450, 34, 398, 262, "underside, turned over its left edge"},
		"outside":   {24, 332, 824, 66, "edge and outside"},
	}}
	boardTall = &boardPlan{draw.TallWidth, 806, map[rig.Side]boardSide{
		"top":       {10, 24, 346, 262, "top, cover off"},
		"underside": {10, 330, 346, 262, "underside, turned over its left edge"},
		"outside":   {10, 626, 346, 2 * 84, "edge and outside"},
	}}
)

// of is where a side is drawn; the edge is seen with what is outside.
func (p *boardPlan) of(side rig.Side) boardSide {
	if area, on := p.sides[side]; on {
		return area
	}
	return p.sides["outside"]
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

func drawBoard(r *rig.Rig, plan *boardPlan, sel string) *boardDrawing {
	d := &boardDrawing{
		Title: phrase.Or(r.Host.Name, "The host") + ", as it lies open on the bench", Aside: "drag what you see to where it is",
		Width: plan.Width, Height: plan.Height, plan: plan,
	}
	if plan == boardTall {
		d.ID = "tall-"
	}
	for _, side := range []rig.Side{"top", "underside", "outside"} {
		d.Sides = append(d.Sides, plan.of(side))
	}
	d.outline(r)
	d.fixed(r, sel)
	for i := range r.Host.Slots {
		d.slot(r, i, sel)
	}
	d.holes(plan.of("top"))
	if !rig.Is(r.Host.Kind, rig.SingleBoard) {
		d.holes(plan.of("underside"))
	}
	d.outlets(r)
	return d
}

// outline is the shape of the sort of host it is: the board in its case, with what takes up
// room beside it.
func (d *boardDrawing) outline(r *rig.Rig) {
	top := d.plan.of("top")
	kind := r.Host.Kind.Or("")
	rect := func(class string, x, y, w, h, round float64) {
		d.Lines = append(d.Lines, draw.Line{Path: roundRect(x, y, w, h, round), Class: class})
	}
	switch kind {
	case rig.Notebook:
		rect("board-part", top.X+60, top.Y+top.H-62, top.W-120, 52, 6)
		d.Marks = append(d.Marks, draw.Mark{X: top.X + top.W/2, Y: top.Y + top.H - 32, Text: "battery", Anchor: "middle"})
	case rig.Desktop:
		wide := min(82, top.W/2-10-fixedWide-6) // beside the processor
		rect("board-part", top.X+top.W-10-wide, top.Y+30, wide, 70, 3)
		d.Marks = append(d.Marks, draw.Mark{X: top.X + top.W - 10 - wide/2, Y: top.Y + 70, Text: "supply", Anchor: "middle"})
	case rig.AllInOne:
		rect("board-screen", top.X-10, top.Y-6, top.W+20, top.H+12, 14)
	}
}

// fixedWide is how wide the processor is drawn.
const fixedWide = 96.0

// holes are the screws of the board, where no slot stands.
func (d *boardDrawing) holes(side boardSide) {
	for _, at := range [][2]float64{{14, 14}, {side.W - 14, 14}, {14, side.H - 14}, {side.W - 14, side.H - 14}} {
		hole := draw.Box{X: side.X + at[0] - 5, Y: side.Y + at[1] - 5, W: 10, H: 10}
		if !slices.ContainsFunc(d.Slots, func(s boardSlot) bool { return meets(hole.X, hole.Y, &hole, &s.Box, 0) }) {
			d.Lines = append(d.Lines, draw.Line{Path: circle(hole.X+5, hole.Y+5, 5), Class: "board-hole"})
		}
	}
}

// fixed draws the processor under its cooler, and the chipset where something hangs on it.
func (d *boardDrawing) fixed(r *rig.Rig, sel string) {
	top := d.plan.of("top")
	proc := draw.Box{X: top.X + top.W*0.5, Y: top.Y + 40, W: fixedWide, H: 96, Sel: "/host", Class: "source", Chosen: sel == "/host"}
	proc.Write("name", proc.X+proc.W/2, proc.Y-8, 16, draw.Clip(phrase.Or(r.Host.Proc.Name, "processor"), 14))
	d.Fixed = append(d.Fixed, proc)
	d.Lines = append(d.Lines, draw.Line{Path: fan(proc.X+proc.W/2, proc.Y+proc.H/2, 40), Class: "board-fan"})
	for i := range r.Host.Slots {
		if !rig.Is(r.Host.Slots[i].Behind, rig.Chipset) {
			continue
		}
		chip := draw.Box{
			X: top.X + top.W*0.5 + 2, Y: top.Y + 178, W: 92, H: 58, Sel: "/host/uplink", Class: "source",
			Chosen: sel == "/host/uplink",
		}
		chip.Write("name", chip.X+chip.W/2, chip.Y+22, 16, "chipset")
		chip.Write("sub", chip.X+chip.W/2, chip.Y+42, 16, uplinkWords(&r.Host.Uplink))
		d.Fixed = append(d.Fixed, chip)
		d.Lines = append(d.Lines, draw.Line{Path: fmt.Sprintf("M%.1f %.1fV%.1f", chip.X+chip.W/2, proc.Y+proc.H, chip.Y), Class: "trace"})
		return
	}
}

// slot draws one slot where it was put, or in the tray of its side; nothing covers anything.
func (d *boardDrawing) slot(r *rig.Rig, i int, sel string) {
	s := &r.Host.Slots[i]
	area := d.plan.of(sideOf(s))
	b := boardSlot{Index: i, Placed: s.BoardX.Known && s.BoardY.Known, Route: s.Name == r.Route.Slot}
	b.Box = draw.Box{W: slotWide, H: min(slotHigh, area.H), Sel: rig.SlotPath(i), Class: "element"}
	b.Chosen = b.Sel == sel
	b.X, b.Y = area.X+10, area.Y+10
	if b.Placed {
		b.X, b.Y = area.X+s.BoardX.Value/100*area.W-slotWide/2, area.Y+s.BoardY.Value/100*area.H-b.H/2
	}
	d.clear(&b.Box, area)
	held := phrase.Of(s.Occupant)
	if held == rig.NoOccupant {
		held = "free"
	}
	lanes := phrase.SlotLanes(s)
	b.Write("name left", b.X+4, b.Y+14, 16, draw.Clip(s.Name, 10))
	b.Write("sub left", b.X+10+8*float64(len([]rune(draw.Clip(s.Name, 10)))), b.Y+14, 16, draw.Clip(lanes, 12))
	b.Write("under left", b.X+4, b.Y+29, 16, draw.Clip(held, 23))
	b.Shapes = slotShapes(s, b.X+4, b.Y+slotHead)
	b.Ear = fmt.Sprintf("%s %s %s, a slot, %s", draw.Clip(s.Name, 10), draw.Clip(lanes, 12), draw.Clip(held, 23), phrase.Form(s))
	d.Slots = append(d.Slots, b)
	if b.Route {
		d.trace(s, &b)
	}
}

// clear moves a box to where it covers nothing that is drawn already, as near as may be.
func (d *boardDrawing) clear(b *draw.Box, area boardSide) {
	fits := func(x, y float64) bool {
		if x < area.X || y < area.Y || x+b.W > area.X+area.W || y+b.H > area.Y+area.H {
			return false
		}
		for i := range d.Fixed {
			if meets(x, y, b, &d.Fixed[i], nameOver) {
				return false
			}
		}
		for i := range d.Slots {
			if meets(x, y, b, &d.Slots[i].Box, 0) {
				return false
			}
		}
		return true
	}
	x, y := min(max(b.X, area.X+8), area.X+area.W-b.W), min(max(b.Y, area.Y), area.Y+area.H-b.H)
	const step = 14.0
	for ring := 0.0; ring < d.Width; ring += step {
		for _, at := range [][2]float64{{0, 1}, {0, -1}, {1, 0}, {-1, 0}, {1, 1}, {-1, 1}, {1, -1}, {-1, -1}} {
			if nx, ny := x+at[0]*ring, y+at[1]*ring; fits(nx, ny) {
				b.X, b.Y = nx, ny
				return
			}
		}
	}
	for ny := area.Y; ny+b.H <= area.Y+area.H; ny += step / 2 {
		for nx := area.X; nx+b.W <= area.X+area.W; nx += step / 2 {
			if fits(nx, ny) {
				b.X, b.Y = nx, ny
				return
			}
		}
	}
	b.X, b.Y = x, y // the side is full
}

// nameOver is the room that a name takes over its box.
const nameOver = 18.0

// meets reports that a box at a place would cover another, with what stands over that.
func meets(x, y float64, b, other *draw.Box, over float64) bool {
	return x < other.X+other.W && other.X < x+b.W && y < other.Y+other.H && other.Y-over < y+b.H
}

// slotShapes draw a slot as the thing it is, with what sits in it.
func slotShapes(s *rig.Slot, x, y float64) []draw.Line {
	held := s.Occupant.Known && s.Occupant.Value != rig.NoOccupant
	switch s.Form.Or("") {
	case rig.M2:
		return moduleShapes(x, y, float64(s.Length.Or(80))*mmOnBoard, 30, held, NotchOf(s.Key.Or("")), "screw")
	case rig.MiniPCIe:
		return moduleShapes(x, y, 51*mmOnBoard, 38, held, 0.35, "clips")
	case rig.CardSlot:
		return cardSlotShapes(x, y+8, s.Mechanical.Or(max(1, s.Lanes.Or(16))), rig.Is(s.OpenEnd, true))
	case rig.OCuLink:
		return []draw.Line{{Path: roundRect(x, y+8, 58, 18, 3), Class: "board-metal"}, {Path: roundRect(x+7, y+14, 44, 5, 1),
			Class: "board-dark"}}
	case rig.Tunnel:
		return []draw.Line{{Path: roundRect(x, y+8, 46, 18, 9), Class: "board-metal"}, {Path: roundRect(x+9, y+14, 28, 5, 2),
			Class: "board-dark"}}
	default:
		return []draw.Line{{Path: roundRect(x, y, 120, 30, 3), Class: "board-open"}}
	}
}

// NotchOf is where the first notch of a key is; below zero while the key is not told.
func NotchOf(key rig.Key) float64 {
	if at := fields.KeyNotches[key]; len(at) > 0 {
		return at[len(at)-1]
	}
	return -1
}

// moduleShapes draw a module from its fastening to its connector, whose notch tells the key.
func moduleShapes(x, y, long, high float64, held bool, notch float64, fastened string) []draw.Line {
	body := "board-open"
	if held {
		body = "board-module"
	}
	end := x + min(long, slotWide-22)
	list := []draw.Line{{Path: fmt.Sprintf("M%.1f %.1fH%.1fV%.1fH%.1fz", x, y, end, y+high, x), Class: body}}
	if held {
		list = append(list, draw.Line{Path: roundRect(x+18, y+5, (end-x)*0.3, high-10, 1) + roundRect(x+24+(end-x)*0.3, y+5, (end-x)*0.26,
			high-10, 1), Class: "board-chip"})
	}
	if fastened == "screw" {
		list = append(list, draw.Line{Path: circle(x+2, y+high/2, 5), Class: "board-metal"})
	} else {
		list = append(list, draw.Line{Path: roundRect(x-3, y+3, 7, 9, 1) + roundRect(x-3, y+high-12, 7, 9, 1), Class: "board-metal"})
	}
	list = append(list, draw.Line{Path: roundRect(end, y-3, 11, high+6, 1.5), Class: "board-dark"}, draw.Line{Path: teeth(end+3, y, high),
		Class: "board-teeth"})
	if notch >= 0 {
		list = append(list, draw.Line{Path: roundRect(end-1, y+notch*high-1.5, 7, 4, 0), Class: "board-notch"})
	}
	return list
}

// cardSlotShapes draw a slot for cards as long as its room for lanes, with an end or without.
func cardSlotShapes(x, y float64, lanes int, open bool) []draw.Line {
	long := map[int]float64{1: 36, 2: 42, 4: 54, 8: 78, 16: 122}[lanes]
	if long == 0 {
		long = 122
	}
	list := []draw.Line{
		{Path: roundRect(x, y, long, 13, 2), Class: "board-dark"}, {Path: fmt.Sprintf("M%.1f %.1fH%.1f", x+5, y+6.5, x+long-5),
			Class: "board-teeth wide"},
		{Path: roundRect(x+16, y+1, 4, 11, 0), Class: "board-notch"},
	}
	if !open {
		list = append(list, draw.Line{Path: roundRect(x+long-3, y-2, 6, 17, 1), Class: "board-metal"})
	}
	return list
}

func roundRect(x, y, w, h, r float64) string {
	return fmt.Sprintf(
		"M%.1f %.1fh%.1fa%.1f %.1f 0 0 1 %.1f %.1fv%.1fa%.1f %.1f 0 0 1 %.1f %.1fh%.1fa%.1f %.1f 0 0 1 %.1f %.1fv%.1fa%.1f %.1f 0 0 1 %.1f %.1fz",
		x+r,
		y,
		w-2*r,
		r,
		r,
		r,
		r,
		h-2*r,
		r,
		r,
		-r,
		r,
		-(w - 2*r),
		r,
		r,
		-r,
		-r,
		-(h - 2*r),
		r,
		r,
		r,
		-r,
	)
}

func circle(x, y, r float64) string {
	return fmt.Sprintf("M%.1f %.1fa%.1f %.1f 0 1 0 %.1f 0a%.1f %.1f 0 1 0 %.1f 0", x-r, y, r, r, 2*r, r, r, -2*r)
}

// teeth are the contacts of a connector seen from above.
func teeth(x, y, high float64) string {
	var b strings.Builder
	for at := 2.0; at < high; at += 3 {
		fmt.Fprintf(&b, "M%.1f %.1fh5", x, y+at)
	}
	return b.String()
}

// fan is a cooler from above.
func fan(x, y, r float64) string {
	return circle(x, y, r) + circle(x, y, r*0.3) + fmt.Sprintf(
		"M%.1f %.1fq%.1f %.1f %.1f %.1fM%.1f %.1fq%.1f %.1f %.1f %.1fM%.1f %.1fq%.1f %.1f %.1f %.1fM%.1f %.1fq%.1f %.1f %.1f %.1f",
		x, y-r*0.3, r*0.4, -r*0.2, r*0.45, -r*0.5, x+r*0.3, y, r*0.2, r*0.4, r*0.5, r*0.45,
		x, y+r*0.3, -r*0.4, r*0.2, -r*0.45, r*0.5, x-r*0.3, y, -r*0.2, -r*0.4, -r*0.5, -r*0.45,
	)
}

// trace is the way along the board to the slot the route starts from.
func (d *boardDrawing) trace(s *rig.Slot, b *boardSlot) {
	from := d.Fixed[0]
	if rig.Is(s.Behind, rig.Chipset) && len(d.Fixed) > 1 {
		from = d.Fixed[1]
	}
	x, y := from.X, from.Y+from.H-14
	d.Lines = append(d.Lines, draw.Line{Path: draw.Curve(b.X+b.W-6, b.Y+slotHead+14, x, y), Class: "trace live"})
	says := "trace not measured"
	if s.Trace.Known {
		says = s.Trace.Value.String() + " of trace"
	}
	if s.Leaves.Known {
		says += "; a cable may leave: " + s.Leaves.Value
	}
	top := d.plan.of("top")
	d.Marks = append(d.Marks, draw.Mark{X: d.Width - top.X, Y: top.Y + top.H + 20, Text: draw.Clip(s.Name+": "+says, int(d.Width/9)),
		Anchor: "end"})
}

// outlets are the ports outside that no card joins, as they look from there.
func (d *boardDrawing) outlets(r *rig.Rig) {
	area := d.plan.of("outside")
	x, y := area.X+area.W-14, area.Y+area.H-42
	beside := len(d.Slots) // slots that stand in the row of the ports
	for i := range d.Slots {
		if d.Slots[i].Y+d.Slots[i].H < y {
			beside--
		}
	}
	add := func(shape func(x float64) []draw.Line, wide float64, name string) {
		name = draw.Clip(name, 15)
		wide = max(wide, 7*float64(len([]rune(name))))
		x -= wide + 14
		if x < area.X+float64(beside)*(slotWide+8) {
			return
		}
		d.Lines = append(d.Lines, shape(x+wide/2)...)
		d.Marks = append(d.Marks, draw.Mark{X: x + wide/2, Y: area.Y + area.H - 9, Text: name, Anchor: "middle"})
	}
	for i := range r.Host.Screens {
		add(func(x float64) []draw.Line {
			return []draw.Line{
				{Path: fmt.Sprintf("M%.1f %.1fh36v8l-6 8h-24l-6 -8z", x-18, y-8), Class: "board-metal"},
				{Path: fmt.Sprintf("M%.1f %.1fh22", x-11, y), Class: "board-teeth wide"},
			}
		}, 36, r.Host.Screens[i].Name)
	}
	for i := range r.Host.Networks {
		if rig.Is(r.Host.Networks[i].Kind, rig.Wire) {
			add(func(x float64) []draw.Line {
				return []draw.Line{
					{Path: fmt.Sprintf("M%.1f %.1fh28v22h-8v4h-12v-4h-8z", x-14, y-14), Class: "board-metal"},
					{Path: fmt.Sprintf("M%.1f %.1fh16", x-8, y-8), Class: "board-teeth wide"},
				}
			}, 30, "network")
		}
	}
	for i := range r.Host.Inlets {
		add(func(x float64) []draw.Line {
			return []draw.Line{{Path: circle(x, y, 12), Class: "board-metal"}, {Path: circle(x, y, 4), Class: "board-dark"}}
		}, 26, r.Host.Inlets[i].Name)
	}
}

// placeSlot puts a slot where its box was dragged to: its middle in the drawing.
func placeSlot(c fiber.Ctx, r *rig.Rig, _ *reference.Tables) (string, string, error) {
	i, err := strconv.Atoi(c.FormValue("slot"))
	if err != nil || i < 0 || i >= len(r.Host.Slots) {
		return "", "", &rig.FieldError{Path: "slot", Value: strconv.Quote(c.FormValue("slot")), Accepts: "the number of a slot of the host"}
	}
	at := [2]float64{}
	for k, name := range []string{"x", "y"} {
		if at[k], err = strconv.ParseFloat(c.FormValue(name), 64); err != nil || !(at[k] >= -draw.Width && at[k] <= 2*draw.Width) {
			return "", "", &rig.FieldError{Path: name, Value: strconv.Quote(c.FormValue(name)), Accepts: "a place in the drawing"}
		}
	}
	s, plan := &r.Host.Slots[i], boardWide
	if c.FormValue("plan") == "tall-" {
		plan = boardTall
	}
	side := plan.sideAt(at[0], at[1], sideOf(s))
	area := plan.of(side)
	if sideOf(s) != side || !s.Side.Known {
		s.Side = rig.Of(side)
	}
	s.BoardX, s.BoardY = hundredth(at[0], area.X, area.W), hundredth(at[1], area.Y, area.H)
	drawn := &drawBoard(r, plan, "").Slots[i] // beside what it would cover
	s.BoardX, s.BoardY = hundredth(drawn.X+drawn.W/2, area.X, area.W), hundredth(drawn.Y+drawn.H/2, area.Y, area.H)
	return "place " + s.Name + " on the board", rig.SlotPath(i), nil
}

// sideAt is the side that a place in the drawing is nearest to; one at the edge stays there
// when it is moved along it.
func (p *boardPlan) sideAt(x, y float64, was rig.Side) rig.Side {
	nearest, least := rig.Side("top"), math.Inf(1)
	for _, side := range []rig.Side{"top", "underside", "outside"} {
		area := p.of(side)
		off := math.Hypot(max(area.X-x, 0, x-area.X-area.W), max(area.Y-y, 0, y-area.Y-area.H))
		if off < least {
			nearest, least = side, off
		}
	}
	if nearest == "outside" && was == "edge" {
		return "edge"
	}
	return nearest
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
