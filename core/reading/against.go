package reading

import (
	"fmt"

	"kolvan/core/finding"
	"kolvan/core/link"
	"kolvan/core/reference"
	"kolvan/core/rig"
	"kolvan/core/units"
)

// Against holds one element of the route against what was read of it.
type Against struct {
	Element string `json:"element"`
	Where   string `json:"where"` // JSON Pointer into the rig
	Planned Link   `json:"planned"`
	Found   Link   `json:"found"`
	Says    string `json:"says"`
	Differs bool   `json:"differs"`
}

// Says is one finding of the reading.
type Says struct {
	Rule  string        `json:"rule"`
	Level finding.Level `json:"level"`
	Says  string        `json:"says"`
}

// Rate is the error rate of the link over a time under load.
type Rate struct {
	Errors     int          `json:"errors"`
	Seconds    units.Second `json:"seconds"`
	BER        float64      `json:"ber"`
	Interval95 [2]float64   `json:"interval95"`
	Below      float64      `json:"below,omitzero"`         // of none seen: the rate is under this, with 95 %
	ClaimAfter units.Second `json:"clean_seconds_to_claim"` // clean running that would show it to be under 1e-12
}

// OfLink is what the reading says of the link, as the rig file keeps it.
func (r *Reading) OfLink() rig.Reading {
	now := r.Now()
	of := rig.Reading{}
	if now.Width > 0 {
		of.Width = rig.Of(now.Width)
	}
	if now.Gen > 0 {
		of.Gen = rig.Of(now.Gen)
	}
	if most := r.Largest(); most.Width > 0 && most.Gen > 0 {
		of.MostW, of.MostG = rig.Of(most.Width), rig.Of(most.Gen)
	}
	switch r.Load {
	case Idle:
		of.Load = rig.Of(rig.Idle)
	case Loaded:
		of.Load = rig.Of(rig.Loaded)
	}
	return of
}

// Largest is what both ends of the card's link could do, as they say; nothing where one of
// them does not show.
func (r *Reading) Largest() Link {
	chain := r.Chain()
	if len(chain) < 2 {
		return Link{}
	}
	port, card := chain[0].Capable, r.cardEnd(chain).Capable
	return Link{min(port.Width, card.Width), min(port.Gen, card.Gen)}
}

// Count adds the errors that were counted over a time under load.
func (r *Reading) Count(errors int, over units.Second, ref *reference.Tables) {
	now := r.Now()
	row, known := ref.Generation(now.Gen)
	if !known || now.Width == 0 || over <= 0 {
		return
	}
	e := link.Errors(errors, now.Width, row.GTPerS, over)
	r.Rate = &Rate{
		Errors: errors, Seconds: over, BER: e.Estimate, Interval95: [2]float64{e.Low, e.High}, Below: e.Below,
		ClaimAfter: units.Second(units.Round(float64(e.SecondsToClaim), 3)),
	}
}

// Hold holds the reading against the plan of a rig, stage by stage; without a plan
// it says what the text says alone.
func (r *Reading) Hold(plan *rig.Rig, ref *reference.Tables) {
	r.Against, r.Findings = []Against{}, []Says{}
	r.rate(ref)
	if plan == nil {
		r.alone()
		return
	}
	copied := *plan
	of := r.OfLink()
	if r.Rate != nil {
		of.Errors, of.Seconds = rig.Of(r.Rate.Errors), rig.Of(r.Rate.Seconds)
	}
	copied.Route.Readings = []rig.Reading{of}
	if bytes := r.Payload(); bytes == 128 || bytes == 256 || bytes == 512 {
		copied.Route.Payload = rig.Of(bytes)
	}
	p := link.For(&copied, ref)
	r.elements(p)
	out := finding.List{}
	p.Judge(&out)
	for _, f := range out.Findings {
		if f.Rule == link.RuleMeasured || f.Rule == link.RuleErrors {
			r.Findings = append(r.Findings, Says{f.Rule, f.Level, f.Says})
		}
	}
	r.absent()
}

// rate works out what the link carries as it runs, with the payload in force.
func (r *Reading) rate(ref *reference.Tables) {
	now := r.Now()
	if now.Width == 0 || now.Gen == 0 {
		return
	}
	payload := rig.Fact[int]{}
	if bytes := r.Payload(); bytes > 0 {
		payload = rig.Of(bytes)
	}
	net := units.Round(
		link.Raw(ref, link.Legal(now.Width), now.Gen)*units.GigabytePerSecond(link.Efficiency(ref, now.Gen, payload)),
		units.ReportDigits,
	)
	r.Net = &net
}

func (r *Reading) absent() {
	if r.Card == "" {
		r.Findings = append(
			r.Findings,
			Says{
				link.RuleMeasured, finding.Risk,
				"The text shows no graphics card behind a bridge: the host has not found it, or it was not listed.",
			},
		)
	}
}

// alone says what can be said without a plan.
func (r *Reading) alone() {
	r.absent()
	for _, d := range r.Chain() {
		for _, what := range d.Downgraded {
			level, says := finding.Risk, fmt.Sprintf(
				"%s runs %v and could do %v: fewer lanes than both ends may have. Look at the contacts, the cable and the slot.",
				d.Address, d.Now, d.Capable,
			)
			if what == "speed" {
				level, says = finding.Note, fmt.Sprintf(
					"%s runs %v and could do %v. At idle a link rests at a lower speed: read it under load.", d.Address, d.Now, d.Capable,
				)
				if r.Load == Loaded {
					says = fmt.Sprintf(
						"%s runs %v under load and could do %v: the other end may be slower, or the link has fallen back.", d.Address, d.Now,
						d.Capable,
					)
				}
			}
			r.Findings = append(r.Findings, Says{link.RuleMeasured, level, says})
		}
	}
}

// elements says of each element what was read: of the slot what its port can do, of
// the card what it can do, and of the stages between what runs over them.
func (r *Reading) elements(p *link.Plan) {
	chain, now := r.Chain(), r.Now()
	for i, e := range p.Elements {
		a := Against{Element: e.Name, Where: e.Where, Planned: Link{e.Lanes.Value, e.Gen.Value}, Found: now}
		switch {
		case len(chain) == 0:
			a.Found, a.Says = Link{}, "Nothing was read of it."
		case i == 0:
			if len(chain) < 2 {
				a.Found, a.Says = Link{}, "The text does not show the port above the card."
				break
			}
			a.Found = chain[0].Capable
			a.compare("the port can do", "surveyed")
		case i == len(p.Elements)-1:
			a.Found = r.cardEnd(chain).Capable
			a.compare("the card can do", "entered")
		default:
			a.carries()
		}
		r.Against = append(r.Against, a)
	}
	r.Against = append(r.Against, r.whole(p, now))
}

// cardEnd is the card's end of the link: with a switch of its own, the card's
// outermost port.
func (r *Reading) cardEnd(chain []*Device) *Device {
	for i := 1; i < len(chain); i++ {
		if chain[i].port == "upstream" {
			return chain[i]
		}
	}
	return chain[len(chain)-1]
}

func (a *Against) compare(could, told string) {
	a.Says = fmt.Sprintf("%s %s", could, a.Found)
	switch {
	case a.Found == Link{}:
		a.Says = "Its capability is not in the text: list it as root."
	case a.Planned.differs(a.Found):
		a.Differs = true
		a.Says += fmt.Sprintf("; %s was %s", told, a.Planned)
	default:
		a.Says += ", as " + told
	}
	a.Says = finding.Begin(a.Says)
}

// differs compares what both sides tell.
func (l Link) differs(o Link) bool {
	return l.Width > 0 && o.Width > 0 && l.Width != o.Width || l.Gen > 0 && o.Gen > 0 && l.Gen != o.Gen
}

func (l Link) String() string {
	switch {
	case l.Width == 0 && l.Gen == 0:
		return "nothing told"
	case l.Width == 0:
		return fmt.Sprintf("Gen %d", l.Gen)
	case l.Gen == 0:
		return fmt.Sprintf("x%d", l.Width)
	default:
		return fmt.Sprintf("x%d Gen %d", l.Width, l.Gen)
	}
}

// carries says of a stage between the ends whether what runs over it uses it up.
func (a *Against) carries() {
	switch {
	case a.Found.Width > 0 && a.Planned.Width > 0 && a.Found.Width < a.Planned.Width:
		a.Says = fmt.Sprintf(
			"Wired for x%d; x%d runs over it. It may be what limits, or not: look at its contacts.", a.Planned.Width,
			a.Found.Width,
		)
		a.Differs = true
	case a.Found.Gen > 0 && a.Planned.Gen > 0 && a.Found.Gen < a.Planned.Gen:
		a.Says = fmt.Sprintf("Made for Gen %d; Gen %d runs over it.", a.Planned.Gen, a.Found.Gen)
	default:
		a.Says = fmt.Sprintf("Carries %s.", a.Found)
	}
}

func (r *Reading) whole(p *link.Plan, now Link) Against {
	a := Against{Element: "the link", Where: "/route", Planned: Link{p.WidthEnds.Low, p.GenEnds.Low}, Found: now}
	switch {
	case now == Link{}:
		a.Says = "No link to the card is in the text."
		a.Differs = true
	case now.Width > 0 && now.Width < a.Planned.Width:
		a.Says, a.Differs = fmt.Sprintf("%s where %s was planned: lanes are lost on the way, idle or not.", now, a.Planned), true
	case now.Gen > 0 && now.Gen < a.Planned.Gen && r.Load == Loaded:
		a.Says, a.Differs = fmt.Sprintf("%s under load where %s was planned: the link has fallen back.", now, a.Planned), true
	case now.Gen > 0 && now.Gen < a.Planned.Gen && r.Load == Idle:
		a.Says = fmt.Sprintf("%s at idle; %s was planned. A resting link proves its width alone: read it under load.", now, a.Planned)
	case now.Gen > 0 && now.Gen < a.Planned.Gen:
		a.Says, a.Differs = fmt.Sprintf(
			"%s; %s was planned. Was it read under load? At idle a link rests at a lower speed.", now, a.Planned,
		), true
	default:
		a.Says = fmt.Sprintf("%s, as planned.", now)
	}
	return a
}
