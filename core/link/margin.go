package link

import (
	"fmt"

	"kolvan/core/finding"
	"kolvan/core/rig"
	"kolvan/core/units"
)

// forcedFails is the margin under which a forced speed cannot work.
const forcedFails units.Decibel = -6

// marginLevel is how bad a margin at the planned speed is; false for one that is
// comfortable.
func (p *Plan) marginLevel(margin units.Decibel) (finding.Level, bool) {
	_, forced := p.rig.Route.ForcedGen.Get()
	switch {
	case forced && margin < forcedFails:
		return finding.Blocked, true
	case margin < p.ref.MarginLikely:
		return finding.Risk, true
	case margin < p.ref.MarginComfortable:
		return finding.Note, true
	default:
		return 0, false
	}
}

// Planned is the margin at the planned speed; false while that is not known or
// there is no budget.
func (p *Plan) Planned() (*Margin, bool) {
	m := p.Margin(p.Gen)
	return m, m != nil
}

func judgeMargin(r *finding.Rule, p *Plan, out *finding.List) {
	if !p.Budgeted() {
		return
	}
	if p.dead() {
		m := p.Margin(1)
		out.Add(
			r,
			finding.Blocked,
			"/route",
			p.marginNumbers(m),
			"No speed reaches the card over this route: at Gen 1 it loses %s of %v, %s short. Shorten it, or put a retimer in.",
			m.LossWords(),
			m.Allows,
			-m.Ends.High,
		)
		return
	}
	m, known := p.Planned()
	if !known {
		return // link.speed asks
	}
	mild, mildly := p.marginLevel(m.Ends.High)
	harsh, harshly := p.marginLevel(m.Ends.Low)
	if mildly {
		out.Add(r, mild, "/route", p.marginNumbers(m), "%s", marginSays{p, m})
	}
	if harshly && harsh > finding.Note && (!mildly || harsh > mild) {
		where, fact, find := p.widest()
		out.Need(
			r, where, fact, find,
			fmt.Sprintf("whether the margin at Gen %d is %s or %s", m.Gen, m.Ends.Low.Signed(), m.Ends.High.Signed()),
		)
	}
}

// marginSays is the sentence on a margin, made where it is written.
type marginSays struct {
	p *Plan
	m *Margin
}

func (s marginSays) String() string {
	return fmt.Sprintf("At Gen %d the route loses %s of %v: a margin of %s, %s. A stable link has a chance of %s.%s",
		s.m.Gen, s.m.LossWords(), s.m.Allows, s.m.Words(), Word(s.m.Ends.High, s.p), s.m.ChanceWords(), s.p.betterSpeeds(s.m.Gen))
}

// dead reports a route that carries no speed at all, for certain.
func (p *Plan) dead() bool {
	for gen := 1; ; gen++ {
		m := p.Margin(gen)
		if m == nil || m.Ends.High >= 0 {
			return m == nil
		}
	}
}

func (p *Plan) marginNumbers(m *Margin) finding.Numbers {
	return finding.Numbers{
		{Name: "margin_db", Value: float64(m.Ends.High)},
		{Name: "margin_least_db", Value: float64(m.Ends.Low)},
		{Name: "loss_db", Value: float64(m.Loss.Low)},
		{Name: "budget_db", Value: float64(m.Allows)},
		{Name: "chance", Value: float64(m.Chance().High)},
		{Name: "likely_gen", Value: float64(p.Likely().High)},
		{
			Name: "comfortable_gen", Value: float64(p.Comfortable().High),
		},
	}
}

// Word says how a margin stands.
func Word(margin units.Decibel, p *Plan) string {
	switch {
	case margin >= p.ref.MarginComfortable:
		return "comfortable"
	case margin >= p.ref.MarginLikely:
		return "likely"
	case margin >= 0:
		return "marginal"
	default:
		return "unlikely"
	}
}

// Word says how the margin stands, at its worst.
func (p *Plan) Word(m *Margin) string { return Word(m.Ends.Low, p) }

// LossWords are the loss between its two ends.
func (m *Margin) LossWords() string {
	if m.Loss.High-m.Loss.Low < 0.05 {
		return m.Loss.Low.String()
	}
	return fmt.Sprintf("%.1f to %.1f dB", float64(m.Loss.Low), float64(m.Loss.High))
}

// Words are the margin between its two ends.
func (m *Margin) Words() string {
	if m.Ends.High-m.Ends.Low < 0.05 {
		return m.Ends.High.Signed()
	}
	return fmt.Sprintf("%+.1f to %+.1f dB", float64(m.Ends.Low), float64(m.Ends.High))
}

// ChanceWords are the chance of a stable link.
func (m *Margin) ChanceWords() string {
	chance := m.Chance()
	low, high := percent(chance.Low), percent(chance.High)
	if low == high {
		return high
	}
	return low + " to " + high
}

// percent never rounds a chance to certainty.
func percent(s units.Share) string {
	switch {
	case s > 0.995:
		return "over 99 %"
	case s < 0.005:
		return "under 1 %"
	default:
		return fmt.Sprintf("%.0f %%", float64(s)*100)
	}
}

// betterSpeeds names the fastest likely and the fastest comfortable speed where they
// are below the planned one.
func (p *Plan) betterSpeeds(planned int) string {
	likely, comfortable := p.Likely().High, p.Comfortable().High
	switch {
	case likely == 0:
		return " No speed is likely."
	case likely == planned && comfortable == 0:
		return ""
	case likely == planned:
		return fmt.Sprintf(" Comfortable up to Gen %d.", comfortable)
	case comfortable == likely || comfortable == 0:
		return fmt.Sprintf(" Likely up to Gen %d: a marginal link trains and then throws errors, so force it there.", likely)
	default:
		return fmt.Sprintf(
			" Likely up to Gen %d, comfortable up to Gen %d: a marginal link trains and then throws errors, so force it there.",
			likely, comfortable,
		)
	}
}

// widest is the fact that leaves the most of the margin open.
func (p *Plan) widest() (where, fact, find string) {
	row, _ := p.ref.Generation(p.Gen)
	most := units.Decibel(-1)
	p.eachPiece(row, func(piece Piece) {
		open := piece.Ends.High - piece.Ends.Low
		if open <= most || piece.Retimer || piece.Sort == Joints {
			return
		}
		most = open
		where, fact, find = p.lossFact(piece)
	})
	return where, fact, find
}

func (p *Plan) lossFact(piece Piece) (where, fact, find string) {
	if piece.Sort == HostBoard {
		return piece.Where + "/trace_mm", "how far " + p.Elements[0].Name + " is from the " + p.from() + ", along the board",
			"Measure along the board with a ruler: the traces run a little longer."
	}
	for i := range p.rig.Route.Stages {
		s := &p.rig.Route.Stages[i]
		if p.Elements[i+1].Where != piece.Where {
			continue
		}
		if s.Length.Known {
			return piece.Where + "/line", "what the lanes of " + s.Name + " run in",
				"Read its papers: twinax is round and stiff, a flat ribbon may be shielded or not."
		}
		return piece.Where + "/length_mm", "the length of " + s.Name + " along the lanes", "Measure it with a ruler, from contact to contact."
	}
	return piece.Where, piece.Name, "Read its papers."
}

func (p *Plan) from() string {
	if rig.Is(p.rig.Slot(p.rig.Route.Slot).Behind, rig.Chipset) {
		return "chipset"
	}
	return "processor"
}
