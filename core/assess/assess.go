// Package assess runs every computation over a rig and gathers one report:
// figures and findings, worst first. Rig is a pure function and cheap, because
// the search for what clears a finding calls it for every change it tries.
package assess

import (
	"sync"

	"github.com/go-json-experiment/json"
	"github.com/go-json-experiment/json/jsontext"

	"kolvan/core/brief"
	"kolvan/core/finding"
	"kolvan/core/fit"
	"kolvan/core/gate"
	"kolvan/core/ledger"
	"kolvan/core/link"
	"kolvan/core/power"
	"kolvan/core/proof"
	"kolvan/core/reference"
	"kolvan/core/rig"
	"kolvan/core/units"
)

// ReportFormat is the format word of a report.
const ReportFormat = "kolvan-report/1"

// A Report is the verdict on a rig.
type Report struct {
	Format  string  `json:"format"`
	Rig     string  `json:"rig"`
	Figures Figures `json:"figures"`
	// Bounds holds every figure that can be told between two ends in spite of what
	// is missing, by its name; the far end is nil where it is open.
	Bounds    Bounds            `json:"bounds"`
	Findings  []finding.Finding `json:"findings"`
	Questions []Question        `json:"questions"`            // made by Ask
	Untried   bool              `json:"more_to_try,omitzero"` // more changes could be tried than the search had effort for

	// What the figures were taken from, for drawings and tables.
	Link    *link.Plan     `json:"-"`
	Power   *power.Network `json:"-"`
	Chamber *fit.Chamber   `json:"-"`
}

// Figures are the key figures; nil is a figure that cannot be known.
type Figures struct {
	Width          *int            `json:"link.width"`
	Gen            *int            `json:"link.gen"`
	LikelyGen      *int            `json:"link.likely_gen"`      // 0 for none
	ComfortableGen *int            `json:"link.comfortable_gen"` // 0 for none
	Margin         *float64        `json:"link.margin_db"`       // at the planned speed
	Chance         *float64        `json:"link.chance"`          // of a stable link there
	Raw            *float64        `json:"link.raw_gb_s"`
	Net            *float64        `json:"link.net_gb_s"`
	Pinch          *string         `json:"link.pinch"`
	Fill           *float64        `json:"link.fill_s"`
	Sustained      *float64        `json:"power.sustained_w"`
	SupplyShare    *float64        `json:"power.supply_share"`
	Supplies       []SupplyFigures `json:"power.supplies"`
	Gap            *float64        `json:"fit.gap_mm"`
	ToBuy          *float64        `json:"brief.to_buy"`
}

// SupplyFigures are the figures of one supply.
type SupplyFigures struct {
	Name      string   `json:"name"`
	Sustained *float64 `json:"sustained_w"`
	Rating    *float64 `json:"rating_w"`
	Share     *float64 `json:"share"`
}

// Rules lists every rule of Kolvan, in the order of the work.
func Rules() []finding.Rule {
	var all []finding.Rule
	for _, rules := range [][]finding.Rule{
		link.Rules(), gate.Rules(), power.Rules(), fit.Rules(), brief.Rules(), proof.Rules(), ledger.Rules(),
	} {
		all = append(all, rules...)
	}
	return all
}

// lists are kept from one rig to the next: a finding is large, and how many there
// will be nobody knows.
var lists = sync.Pool{New: func() any { return new(finding.List) }}

// Rig assesses a rig that has passed rig.Validate.
func Rig(r *rig.Rig, ref *reference.Tables) Report {
	out := lists.Get().(*finding.List)
	report := new(desk).judge(r, ref, out)
	report.Findings = out.Sorted()
	out.Empty()
	lists.Put(out)
	acknowledge(&report, r)
	report.Figures = figures(r, &report)
	report.Bounds = bounds(r, &report)
	return report
}

// A Bound is one figure between its two ends; Open leaves the far one open, Below
// the near one.
type Bound struct {
	Name        string
	Low, High   float64
	Open, Below bool
}

// Bounds are figures by their names in Figures.
type Bounds []Bound

// Of returns the bound of a figure.
func (b Bounds) Of(name string) (Bound, bool) {
	for i := range b {
		if b[i].Name == name {
			return b[i], true
		}
	}
	return Bound{}, false
}

// MarshalJSONTo writes {"name": [low, high], …}, null for an open end.
func (b Bounds) MarshalJSONTo(enc *jsontext.Encoder) error {
	if err := enc.WriteToken(jsontext.BeginObject); err != nil {
		return err
	}
	for _, of := range b {
		ends, n := make([]*float64, 2), numbers{}
		if !of.Below {
			ends[0] = n.of(of.Low)
		}
		if !of.Open {
			ends[1] = n.of(of.High)
		}
		if err := enc.WriteToken(jsontext.String(of.Name)); err != nil {
			return err
		}
		if err := json.MarshalEncode(enc, ends); err != nil {
			return err
		}
	}
	return enc.WriteToken(jsontext.EndObject)
}

func bounds(r *rig.Rig, report *Report) Bounds {
	b := make(Bounds, 0, 13)
	p := report.Link
	if len(p.Elements) > 0 && !p.None {
		b = append(
			b, boundOf("link.width", p.WidthEnds), boundOf("link.gen", p.GenEnds), boundOf("link.raw_gb_s", p.RawEnds),
			boundOf("link.net_gb_s", p.NetEnds),
		)
		if memory, known := r.Card.Memory.Get(); known && p.NetEnds.High > 0 {
			size := float64(memory) * units.BytesPerGibibyte / 1e9
			b = append(b, Bound{"link.fill_s", size / float64(p.NetEnds.High), size / float64(p.NetEnds.Low), p.NetEnds.Low == 0, false})
		}
	}
	if p.Budgeted() {
		b = append(b, boundOf("link.likely_gen", p.Likely()), boundOf("link.comfortable_gen", p.Comfortable()))
		if m, known := p.Planned(); known {
			b = append(b, boundOf("link.margin_db", m.Ends), boundOf("link.chance", m.Chance()))
		}
	}
	if i := report.Power.CardSupply(); i >= 0 {
		load := &report.Power.Supplies[i]
		b = append(b, boundOf("power.sustained_w", load.Load))
		if shares, known := load.Shares(); known {
			b = append(b, boundOf("power.supply_share", shares))
		}
	}
	if gap, some := report.Chamber.GapEnds(); some {
		b = append(b, gapBound(gap))
	}
	sum, open := ledger.ToBuy(r)
	return append(b, Bound{"brief.to_buy", float64(sum.Low), float64(sum.High), len(open) > 0, false})
}

// gapBound leaves open what is further than any case is large.
func gapBound(gap units.Range[units.Millimetre]) Bound {
	const far = 1000
	return Bound{"fit.gap_mm", float64(gap.Low), float64(gap.High), gap.High > far, gap.Low < -far}
}

func boundOf[T ~float64 | ~int](name string, ends units.Range[T]) Bound {
	return Bound{Name: name, Low: float64(ends.Low), High: float64(ends.High)}
}

// A desk is where rigs are judged one after another: each takes the room of the one
// before, whose report is then lost.
type desk struct {
	link    link.Plan
	power   power.Network
	chamber fit.Chamber
}

// judge runs the computations and the rules; out gathers the findings, in the
// order of the rules.
func (d *desk) judge(r *rig.Rig, ref *reference.Tables, out *finding.List) Report {
	d.link.Work(r, ref)
	d.power.Work(r, ref)
	d.chamber.Work(r, ref)
	report := Report{Format: ReportFormat, Rig: r.Name, Link: &d.link, Power: &d.power, Chamber: &d.chamber}
	report.Link.Judge(out)
	gate.Judge(r, ref, out)
	report.Power.Judge(out)
	report.Chamber.Judge(out)
	brief.Judge(r, out)
	carries := proof.Link{Net: report.Link.NetEnds, Ref: ref}
	proof.Judge(r, carries, out)
	ledger.Judge(r, carries, out)
	report.Findings = out.Findings
	return report
}

// moves are the findings that a move of what sits in a slot bears on, worst first:
// neither power nor room is looked at.
func (d *desk) moves(r *rig.Rig, ref *reference.Tables) []finding.Finding {
	out := finding.List{}
	d.link.Work(r, ref)
	d.link.Judge(&out)
	gate.Judge(r, ref, &out)
	brief.Judge(r, &out)
	return out.Sorted()
}

func acknowledge(report *Report, r *rig.Rig) {
	for i := range report.Findings {
		f := &report.Findings[i]
		for _, a := range r.Acknowledged {
			if a.Rule == f.Rule && a.Where == f.Where {
				f.Acknowledged = a.Reason
			}
		}
	}
}

// Worst is the worst level found; false for a rig without findings.
func (r *Report) Worst() (finding.Level, bool) {
	if len(r.Findings) == 0 {
		return finding.Note, false
	}
	return r.Findings[0].Level, true
}

// Stops reports a finding that forbids going on as planned.
func (r *Report) Stops() bool {
	worst, some := r.Worst()
	return some && worst >= finding.Blocked
}

func figures(r *rig.Rig, report *Report) Figures {
	var f Figures
	n := make(numbers, 0, 9+3*len(r.Supplies))
	linkFigures(&f, report.Link, &n)
	powerFigures(&f, r, report.Power, &n)
	if gap, known := report.Chamber.Gap(); known {
		f.Gap = n.of(float64(gap.Ends.Low))
	}
	if sum, open := ledger.ToBuy(r); len(open) == 0 && sum.Known() {
		f.ToBuy = n.of(float64(sum.High))
	}
	return f
}

// numbers are the figures of a report as they are written, in one piece.
type numbers []float64

func (n *numbers) of(v float64) *float64 {
	*n = append(*n, units.Round(v, units.ReportDigits))
	return &(*n)[len(*n)-1]
}

func linkFigures(f *Figures, p *link.Plan, n *numbers) {
	if p.None {
		f.Width, f.Raw, f.Net = new(int), new(float64), new(float64)
		return
	}
	if p.WidthKnown {
		f.Width = &p.Width
	}
	if p.Gen > 0 {
		f.Gen = &p.Gen
	}
	if p.Known() {
		f.Raw, f.Net = n.of(float64(p.Raw)), n.of(float64(p.Net))
	}
	if p.Fill > 0 {
		f.Fill = n.of(float64(p.Fill))
	}
	marginFigures(f, p, n)
	if pinch, known := p.Pinch(); known {
		f.Pinch = &pinch.Name
	}
}

func marginFigures(f *Figures, p *link.Plan, n *numbers) {
	if !p.Budgeted() {
		return
	}
	if likely := p.Likely(); likely.Known() {
		f.LikelyGen = &likely.High
	}
	if comfortable := p.Comfortable(); comfortable.Known() {
		f.ComfortableGen = &comfortable.High
	}
	if m, known := p.Planned(); known && m.Ends.Known() {
		f.Margin, f.Chance = n.of(float64(m.Ends.High)), n.of(float64(m.Chance().High))
	}
}

func powerFigures(f *Figures, r *rig.Rig, net *power.Network, n *numbers) {
	f.Supplies = make([]SupplyFigures, len(net.Supplies))
	for i := range net.Supplies {
		s := &net.Supplies[i]
		f.Supplies[i].Name = r.Supplies[i].Name
		if s.Load.Known() {
			f.Supplies[i].Sustained = n.of(float64(s.Load.High))
		}
		if s.Rating.Known {
			f.Supplies[i].Rating = n.of(float64(s.Rating.Value))
		}
		if share, known := s.Share(); known {
			f.Supplies[i].Share = n.of(float64(share))
		}
	}
	if i := net.CardSupply(); i >= 0 {
		f.Sustained, f.SupplyShare = f.Supplies[i].Sustained, f.Supplies[i].Share
	}
}
