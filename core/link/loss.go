package link

import (
	"math"
	"slices"

	"kolvan/core/odds"
	"kolvan/core/reference"
	"kolvan/core/rig"
	"kolvan/core/units"
)

// Sort is what a piece of the loss belongs to.
type Sort int

// The sorts of loss, from the processor to the card.
const (
	Package Sort = iota
	HostBoard
	Joints
	Boards
	Cables
	CardSide
	Penalties
	Sorts
)

var sortNames = [Sorts]string{"package", "host board", "joints", "adapter, dock", "cable", "card", "penalties"}

func (s Sort) String() string { return sortNames[s] }

// decibels is a loss between its two ends.
type decibels = units.Range[units.Decibel]

// Margin is the loss budget at one speed: what the route loses of what the speed
// allows, as far as that is certain (reference, section 1).
type Margin struct {
	Gen    int
	Allows units.Decibel
	Loss   decibels      // of the section between repeaters that has the least margin
	Ends   decibels      // the margin, corrected by what was tried
	Sigma  units.Decibel // its deviation
	Tried  bool          // a result of one's own corrects it
}

// Budgeted reports a route whose loss can be worked out: not through a tunnel, and not
// while nobody chose a slot.
func (p *Plan) Budgeted() bool {
	return !p.None && len(p.Elements) >= 2 && !p.Elements[0].Tunnel && p.Top() >= 1
}

// Top is the fastest speed that a budget is worked out for: the planned one.
func (p *Plan) Top() int { return min(p.GenEnds.High, len(p.margins)-1) }

// Margin is the margin at a speed up to the planned one, nil for another. It is worked
// out when it is first asked for: a search asks for two of them.
func (p *Plan) Margin(gen int) *Margin {
	if !p.Budgeted() || gen < 1 || gen > p.Top() {
		return nil
	}
	if p.margins[gen].Gen == 0 {
		p.margins[gen] = p.marginAt(gen)
	}
	return &p.margins[gen]
}

// Likely is the fastest speed that is likely, 0 for none.
func (p *Plan) Likely() units.Range[int] { return p.fastest(p.ref.MarginLikely) }

// Comfortable is the fastest speed that is comfortable, 0 for none.
func (p *Plan) Comfortable() units.Range[int] { return p.fastest(p.ref.MarginComfortable) }

// fastest is the fastest speed up to the planned one whose margin reaches so much; 0
// for none.
func (p *Plan) fastest(least units.Decibel) (ends units.Range[int]) {
	for gen := 1; ; gen++ {
		m := p.Margin(gen)
		if m == nil {
			return ends
		}
		if m.Ends.High >= least {
			ends.High = gen
		}
		if m.Ends.Low >= least && gen <= p.GenEnds.Low {
			ends.Low = gen
		}
	}
}

func (p *Plan) marginAt(gen int) Margin {
	row, _ := p.ref.Generation(gen)
	m := Margin{Gen: gen, Allows: row.Budget, Sigma: p.ref.MarginSigma}
	sum := section{row: row, ref: p.ref}
	first := true
	p.eachPiece(row, func(piece Piece) {
		if piece.Retimer {
			m.take(&sum, first)
			sum, first = section{row: row, ref: p.ref}, false
			return
		}
		sum.add(piece)
	})
	m.take(&sum, first)
	p.correct(&m)
	return m
}

// Chance is how surely the link is stable at the margin's speed.
func (m *Margin) Chance() units.Range[units.Share] {
	at := func(end units.Decibel) units.Share { return units.Share(odds.Below(float64(end / m.Sigma))) }
	return units.Between(at(m.Ends.Low), at(m.Ends.High))
}

// take holds the margin to that of one more section.
func (m *Margin) take(s *section, first bool) {
	ends := units.Between(m.Allows-s.loss.High, m.Allows-s.loss.Low)
	if first || ends.Low < m.Ends.Low {
		m.Loss = s.loss
	}
	if !first {
		ends = ends.AtMost(m.Ends)
	}
	m.Ends = ends
}

// section adds up what is lost between two ends of which each begins anew.
type section struct {
	row    *reference.Generation
	ref    *reference.Tables
	loss   decibels
	joints int
	gained bool
}

// freeJoints is how many connector joints a route has before each more is counted.
const freeJoints = 2

func (s *section) add(piece Piece) {
	s.loss = s.loss.Plus(piece.Ends)
	if piece.Sort == Joints {
		if s.joints++; s.joints > freeJoints {
			s.loss = s.loss.Plus(units.Exactly(s.ref.Penalty("joint-beyond-two").At(s.row.Generation)))
		}
	}
	if piece.Redriver && !s.gained {
		s.gained = true
		gain := func(lost units.Decibel) units.Decibel { return min(s.ref.RedriverGain, lost) - s.ref.RedriverNoise }
		s.loss = decibels{Low: s.loss.Low - gain(s.loss.Low), High: s.loss.High - gain(s.loss.High)}
	}
}

// A Piece is one part of the loss, in the order of the lanes.
type Piece struct {
	Sort     Sort
	Name     string
	Where    string // JSON Pointer of the part
	Ends     decibels
	Redriver bool // the signal is given back here
	Retimer  bool // the route begins anew here; it loses nothing itself
}

// A Bar is a piece in the stack of what is lost, at its least; a joint brings what is
// taken off for being one too many.
type Bar struct {
	Piece
	Start, Length units.Decibel
}

// A Section is the stack between two ends of which each begins anew, with its loss
// between its two ends.
type Section struct {
	Bars []Bar
	Loss decibels
}

// Sections stack up the loss at a speed, for a drawing. A retimer begins the next one
// at nothing, a redriver at what it has not given back.
func (p *Plan) Sections(gen int) (all []Section) {
	row, known := p.ref.Generation(gen)
	if !known || !p.Budgeted() {
		return nil
	}
	all = make([]Section, 1)
	sum := section{row: row, ref: p.ref}
	p.eachPiece(row, func(piece Piece) {
		last := &all[len(all)-1]
		if piece.Retimer {
			sum = section{row: row, ref: p.ref}
			all = append(all, Section{})
			return
		}
		before, given := sum.loss, sum.gained
		sum.add(piece)
		if sum.gained != given {
			last.Bars = append(last.Bars, Bar{piece, before.Low, piece.Ends.Low})
			last.Loss = before.Plus(piece.Ends)
			all = append(all, Section{Loss: sum.loss})
			return
		}
		last.Bars = append(last.Bars, Bar{piece, before.Low, sum.loss.Low - before.Low})
		last.Loss = sum.loss
	})
	return all
}

// eachPiece visits the parts of the loss at a speed, from the processor to the card.
func (p *Plan) eachPiece(row *reference.Generation, visit func(Piece)) {
	slot := p.rig.Slot(p.rig.Route.Slot)
	gen, at := row.Generation, p.Elements[0].Where
	visit(Piece{Sort: Package, Name: "package", Where: at, Ends: units.Exactly(p.ref.Ends.Package.Loss(gen))})
	board := p.ref.Line(boardLine(slot))
	trace := lengthOf(slot.Trace, p.ref.TraceLeast, p.ref.TraceMost)
	visit(Piece{
		Sort: HostBoard, Name: "host board", Where: at,
		Ends: units.Between(board.Loss(gen, trace.Low), board.Loss(gen, trace.High)),
	})
	form := &slot.Form
	for i := range p.rig.Route.Stages {
		s := &p.rig.Route.Stages[i]
		at := p.Elements[i+1].Where
		p.joint(gen, either(&s.Plug.Form, form), at, visit)
		p.stage(row, s, at, visit)
		form = &s.Socket.Form
	}
	at = p.Elements[len(p.Elements)-1].Where
	edge := rig.Of(p.rig.Card.EdgeForm())
	p.joint(gen, either(form, &edge), at, visit)
	visit(Piece{Sort: CardSide, Name: "card", Where: at, Ends: units.Exactly(p.ref.Ends.Graphics.Loss(gen))})
}

func boardLine(slot *rig.Slot) rig.Line {
	if slot.Laminate.Value == "mid-loss" {
		return rig.LineMidLoss
	}
	return rig.LineBoard
}

func either(form, other *rig.Fact[rig.Form]) *rig.Fact[rig.Form] {
	if form.Known {
		return form
	}
	return other
}

// end is the joint of a form; a maker's own module joins as a card slot does. It is
// nil where a tunnel ends the lanes.
func (p *Plan) end(form rig.Form) *reference.Joint {
	switch form {
	case rig.M2, rig.MiniPCIe, rig.MSATA:
		return p.ref.Ends.M2
	case rig.CardSlot, rig.Module:
		return p.ref.Ends.Card
	case rig.OCuLink:
		return p.ref.Ends.OCuLink
	case rig.Video:
		return p.ref.Ends.Video
	default:
		if row := p.ref.Form(form, ""); row != nil && row.Joint != "" {
			return p.ref.JointNamed(row.Joint)
		}
		return nil
	}
}

func (p *Plan) joint(gen int, form *rig.Fact[rig.Form], at string, visit func(Piece)) {
	piece := Piece{Sort: Joints, Name: "joint", Where: at}
	joint := p.end(form.Value)
	switch {
	case joint != nil:
		piece.Ends = units.Exactly(joint.Loss(gen))
	case form.Known:
		return
	default:
		piece.Ends = units.Between(p.ref.Ends.M2.Loss(gen), p.ref.Ends.Video.Loss(gen))
	}
	visit(piece)
}

// stage visits what a stage loses. One that repeats the signal does so half way.
func (p *Plan) stage(row *reference.Generation, s *rig.Stage, at string, visit func(Piece)) {
	sort := Boards
	if rig.Is(s.Kind, rig.Cable) {
		sort = Cables
	}
	piece := Piece{Sort: sort, Name: s.Name, Where: at, Ends: p.runs(row, s)}
	ends, gen := 0, row.Generation
	switch s.Soldered.Value {
	case rig.SolderedBoth:
		ends = 2
	case rig.SolderedPlug, rig.SolderedSocket:
		ends = 1
	}
	if ends > 0 {
		visit(Piece{
			Sort: Penalties, Name: "soldered ends", Where: at,
			Ends: units.Exactly(units.Decibel(ends) * p.ref.Penalty("soldered-end").At(gen)),
		})
	}
	repeats := s.Repeats.Value
	if rig.Is(s.Switches, true) {
		repeats = rig.Retimer // a packet switch ends one link and begins another
	}
	switch repeats {
	case rig.Redriver:
		piece.Ends = piece.Ends.Times(0.5)
		piece.Redriver = true
		visit(piece)
		piece.Redriver = false
		visit(piece)
	case rig.Retimer:
		piece.Ends = piece.Ends.Times(0.5)
		visit(piece)
		visit(Piece{Retimer: true, Name: s.Name, Where: at})
		visit(piece)
	default:
		visit(piece)
	}
}

// runs is what the line of a stage loses, with what is taken off for its sort,
// over all that it may be made of.
func (p *Plan) runs(row *reference.Generation, s *rig.Stage) (ends decibels) {
	length := p.lengthOf(s)
	for i, name := range p.LinesOf(s) {
		line := p.ref.Line(name)
		one := units.Between(p.run(row, s, line, length.Low), p.run(row, s, line, length.High))
		if i == 0 {
			ends = one
		} else {
			ends = ends.Hull(one)
		}
	}
	return ends
}

func (p *Plan) run(row *reference.Generation, s *rig.Stage, line *reference.Line, length units.Millimetre) units.Decibel {
	loss := line.Loss(row.Generation, length)
	switch line.Line {
	case rig.LineVideo:
		loss += p.ref.Penalty("video-cable").At(row.Generation)
	case rig.LineTwinax:
		if s.Ohm.Value == 100 {
			loss += p.ref.Penalty("impedance").At(row.Generation)
		}
	}
	return loss
}

// longestBoard is the longest a stiff board of a stage is: what is longer hangs on
// a ribbon.
const longestBoard units.Millimetre = 110

var (
	boards  = []rig.Line{rig.LineBoard}
	ribbons = []rig.Line{rig.LineTwinax, rig.LineCoax, rig.LineFlat}
	twinax  = []rig.Line{rig.LineTwinax}
	video   = []rig.Line{rig.LineVideo}
	anyLine = []rig.Line{rig.LineBoard, rig.LineTwinax, rig.LineCoax, rig.LineFlat, rig.LineVideo}
	oneLine = map[rig.Line][]rig.Line{}
)

func init() {
	for _, word := range rig.Line("").Words().All() {
		oneLine[rig.Line(word)] = []rig.Line{rig.Line(word)}
	}
}

// LinesOf lists what the lanes of a stage may run in: as told, else by its kind,
// its ends and its length.
func (p *Plan) LinesOf(s *rig.Stage) []rig.Line {
	has := func(form rig.Form) bool { return rig.Is(s.Plug.Form, form) || rig.Is(s.Socket.Form, form) }
	switch {
	case s.Line.Known:
		return oneLine[s.Line.Value]
	case !s.Kind.Known:
		return anyLine
	case !rig.Is(s.Kind, rig.Cable) && s.Length.Value <= longestBoard:
		return boards
	case has(rig.Video), has(rig.USB3Lane):
		return video
	case has(rig.OCuLink), has(rig.SFF8654), has(rig.SFFTA1016):
		return twinax
	default:
		return ribbons
	}
}

// SameLines reports two stages whose lanes may run in the same.
func SameLines(a, b *rig.Stage) bool {
	p := Plan{}
	return slices.Equal(p.LinesOf(a), p.LinesOf(b))
}

func (p *Plan) lengthOf(s *rig.Stage) units.Range[units.Millimetre] {
	switch s.Kind.Value {
	case rig.Cable:
		return lengthOf(s.Length, p.ref.CableLeast, p.ref.CableMost)
	case rig.Adapter:
		return lengthOf(s.Length, p.ref.AdapterLeast, p.ref.AdapterMost)
	default:
		return lengthOf(s.Length, p.ref.DockLeast, p.ref.DockMost)
	}
}

func lengthOf(f rig.Fact[units.Millimetre], least, most units.Millimetre) units.Range[units.Millimetre] {
	if f.Known {
		return units.Exactly(f.Value)
	}
	return units.Between(least, most)
}

// correct turns the margin by what one saw of this very route at this speed. Of a
// normal margin m, σ with z = m/σ: stable, m + σλ and σ√(1 − zλ − λ²) with
// λ = φ(z)/Φ(z); unstable, m − σκ and σ√(1 + zκ − κ²) with κ = φ(z)/Φ(−z).
func (p *Plan) correct(m *Margin) {
	for i := range p.rig.Route.Tried {
		t := &p.rig.Route.Tried[i]
		if !rig.Is(t.Gen, m.Gen) || !t.Stable.Known {
			continue
		}
		low, sigma := corrected(m.Ends.Low, m.Sigma, t.Stable.Value)
		high, _ := corrected(m.Ends.High, m.Sigma, t.Stable.Value)
		m.Ends, m.Sigma, m.Tried = units.Between(low, high), sigma, true
	}
}

// farOut keeps the ratios of the normal tail within what a float can tell.
const farOut = 8

func corrected(m, sigma units.Decibel, stable bool) (units.Decibel, units.Decibel) {
	z := max(-farOut, min(farOut, float64(m/sigma)))
	if stable {
		l := odds.Density(z) / odds.Below(z)
		return m + sigma*units.Decibel(l), sigma * units.Decibel(math.Sqrt(max(1e-6, 1-z*l-l*l)))
	}
	k := odds.Density(z) / odds.Below(-z)
	return m - sigma*units.Decibel(k), sigma * units.Decibel(math.Sqrt(max(1e-6, 1+z*k-k*k)))
}
