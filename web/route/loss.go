package route

import (
	"fmt"

	"kolvan/core/assess"
	"kolvan/core/link"
	"kolvan/core/units"
)

// lossDrawing stacks what every element loses against what each speed allows.
type lossDrawing struct {
	Title, Aside string
	Height       float64
	Rows         []lossRow
	Legend       []lossKey
	Comfortable  bool   // at the planned speed
	Planned      string // the loss there, against what is allowed
}

type lossRow struct {
	Y, H      float64
	Label     string
	Planned   bool
	Bars      []lossBar
	Open      []lossBar // what is not known of it
	Room      float64   // how wide the budget is
	Budget    float64   // where it ends
	Allows    string
	Words     string
	Level     string // of the words: good, fair, poor
	Beyond    bool   // the loss ends behind the budget
	AllowsEnd bool   // the budget's figure stands before its line
}

type lossBar struct {
	X, Y, W, H   float64
	Class, Title string
	Sel          string
	Chosen       bool
}

type lossKey struct {
	X            float64
	Class, Label string
}

// The stack, in the units of its view box.
const (
	lossLeft   = 62.0
	lossRight  = 610.0
	lossTop    = 8.0
	lossPitch  = 46.0
	lossHeight = 24.0
)

// lossClasses are the inks of the sorts of loss.
var lossClasses = [link.Sorts]string{"package", "board", "joint", "part", "cable", "card", "penalty"}

// drawLoss is nil where no loss can be worked out: through a tunnel, without a slot.
func drawLoss(report *assess.Report, sel string) *lossDrawing {
	p := report.Link
	if !p.Budgeted() {
		return nil
	}
	d := &lossDrawing{Title: "Loss, and what each speed allows"}
	most := units.Decibel(0)
	last := p.Top()
	for gen := 1; gen <= last; gen++ {
		m := p.Margin(gen)
		most = max(most, m.Allows)
		for _, s := range p.Sections(gen) {
			most = max(most, s.Loss.High)
		}
	}
	scale := (lossRight - lossLeft) / float64(most)
	for gen := last; gen >= 1; gen-- {
		d.Rows = append(d.Rows, lossRowOf(p, gen, lossTop+float64(len(d.Rows))*lossPitch, scale, sel))
	}
	if gen := p.GenEnds.High; p.GenEnds.Known() && gen <= last {
		m := p.Margin(gen)
		d.Comfortable = p.Word(m) == "comfortable"
		d.Planned = fmt.Sprintf("%s of %s at Gen %d", units.Trim(float64(m.Loss.High), 1), m.Allows, gen)
	}
	for i := range d.Rows {
		if len(d.Rows[i].Open) > 0 {
			d.Aside = "hatched: may be lost too"
		}
	}
	d.Height = lossTop + float64(len(d.Rows))*lossPitch + 26
	x := lossLeft
	for sort, class := range lossClasses {
		label := link.Sort(sort).String()
		d.Legend = append(d.Legend, lossKey{x, class, label})
		x += 30 + 7.2*float64(len(label))
	}
	return d
}

func lossRowOf(p *link.Plan, gen int, y, scale float64, sel string) lossRow {
	m := p.Margin(gen)
	row := lossRow{
		Y:       y,
		H:       lossHeight,
		Label:   fmt.Sprintf("Gen %d", gen),
		Planned: gen == p.GenEnds.High && p.GenEnds.Known(),
		Room:    float64(m.Allows) * scale,
		Budget:  lossLeft + float64(m.Allows)*scale,
		Allows:  m.Allows.String(),
		Words:   m.Words() + " " + p.Word(m) + ", " + m.ChanceWords(),
		Level:   lossLevel(p.Word(m)),
		Beyond:  m.Ends.Low < 0,
	}
	if m.Tried {
		row.Words += ", by own results"
	}
	sections := p.Sections(gen)
	h := lossHeight / float64(len(sections))
	for i, s := range sections {
		at := y + float64(i)*h
		for _, b := range s.Bars {
			bar := lossBar{
				X:      lossLeft + float64(b.Start)*scale,
				Y:      at,
				W:      float64(b.Length) * scale,
				H:      h - 1,
				Class:  lossClasses[b.Sort],
				Sel:    b.Where,
				Chosen: b.Where == sel,
				Title:  b.Name + ": " + lossSpan(b),
			}
			row.Bars = append(row.Bars, bar)
		}
		if open := s.Loss.High - s.Loss.Low; open > 0.05 {
			row.Open = append(
				row.Open,
				lossBar{
					X: lossLeft + float64(s.Loss.Low)*scale, Y: at, W: float64(open) * scale, H: h - 1,
					Title: "not known: " + open.String(),
				},
			)
		}
	}
	row.AllowsEnd = row.Budget > lossRight-40
	return row
}

func lossSpan(b link.Bar) string {
	low, high := b.Length, b.Length+b.Ends.High-b.Ends.Low
	if high-low < 0.05 {
		return low.String()
	}
	return fmt.Sprintf("%.1f to %s", float64(low), high)
}

func lossLevel(word string) string {
	switch word {
	case "comfortable":
		return "good"
	case "likely":
		return "fair"
	default:
		return "poor"
	}
}
