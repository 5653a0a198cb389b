package why

import (
	"fmt"
	"math"

	"kolvan/core/link"
	"kolvan/core/units"
)

func pick(low, high float64, of bool) float64 {
	if of {
		return high
	}
	return low
}

// each is a term for every part of the route that the lanes pass; false without any.
func (d *desk) each(word, field string, high bool, ends func(*link.Element) units.Range[int]) (terms []Term, some bool) {
	p := d.report.Link
	if p.None {
		return nil, false
	}
	for i := range p.Elements {
		e := &p.Elements[i]
		of := ends(e)
		terms = append(terms, d.of(e.Where+field, word+" of "+e.Name, pick(float64(of.Low), float64(of.High), high)))
	}
	return terms, len(terms) > 0
}

// width is the least of what each part of the route has, and of what is a legal width.
func width(d *desk, high bool) (Term, bool) {
	terms, some := d.each("lanes", "/lanes", high, func(e *link.Element) units.Range[int] { return e.LaneEnds })
	if !some {
		return Term{}, false
	}
	ends := d.report.Link.WidthEnds
	legal := pick(float64(ends.Low), float64(ends.High), high)
	if least := join(Min, "the least of them", "", "", terms...); least.Value != legal {
		terms = append(terms, row("the widest a link trains on within that", "", legal, "S", "the card standard"))
	}
	text := "The least of what slot, stages and card have; a link trains on 16, 8, 4, 2 or 1 lanes."
	return join(Min, "lanes", "", text, terms...), true
}

func generation(d *desk, high bool) (Term, bool) {
	terms, some := d.each("generation", "/generation", high, func(e *link.Element) units.Range[int] { return e.GenEnds })
	if !some {
		return Term{}, false
	}
	if forced, told := d.r.Route.ForcedGen.Get(); told {
		terms = append(terms, d.of("/route/forced_generation", "what it is forced to", float64(forced)))
	}
	return join(Min, "generation", "", "Both ends agree on the fastest that all parts of the route have.", terms...), true
}

// lane is the rate of one lane.
func lane(d *desk, gen int) Term {
	row, known := d.ref.Generation(gen)
	if !known {
		return Term{Name: "one lane", Unit: "GB/s", Op: Table}
	}
	t := Term{
		Name:   fmt.Sprintf("one lane of Gen %d", gen),
		Unit:   "GB/s",
		Value:  row.MBPerLane / 1000,
		Op:     Table,
		Trust:  string(row.Trust),
		Source: row.Source,
	}
	t.Formula = fmt.Sprintf("%s GT/s, less what the line code takes", units.Trim(row.GTPerS, 1))
	return t
}

func raw(d *desk, high bool) (Term, bool) {
	p := d.report.Link
	lanes, known := width(d, high)
	if !known {
		return Term{}, false
	}
	gen := int(pick(float64(p.GenEnds.Low), float64(p.GenEnds.High), high))
	t := join(Product, "raw rate", "GB/s", "Lanes times the rate of one lane, one direction.", lanes, lane(d, gen))
	return d.tunnelled(t, pick(float64(p.RawEnds.Low), float64(p.RawEnds.High), high)), true
}

// tunnelled is the rate as the slot's tunnel leaves it.
func (d *desk) tunnelled(t Term, is float64) Term {
	if t.Value <= is+1e-9 {
		return t
	}
	slot := d.r.Slot(d.r.Route.Slot)
	at := ""
	if slot != nil {
		at = d.report.Link.Elements[0].Where + "/tunnel_gbit_s"
	}
	leaves := Term{
		Name:   "what the tunnel leaves for the card",
		Unit:   "GB/s",
		Value:  is,
		Op:     Table,
		At:     at,
		Trust:  "T",
		Source: "by the class of the port and its controller",
	}
	return join(Min, t.Name, t.Unit, t.Formula+" No more than the tunnel leaves.", t, leaves)
}

func net(d *desk, high bool) (Term, bool) {
	p := d.report.Link
	lanes, known := width(d, high)
	if !known {
		return Term{}, false
	}
	gen := int(pick(float64(p.GenEnds.Low), float64(p.GenEnds.High), high))
	wires := join(Product, "raw rate", "GB/s", "Lanes times the rate of one lane, one direction.", lanes, lane(d, gen))
	terms := []Term{wires}
	traffic := row("what acknowledgements leave", "", d.ref.PacketTraffic, "P", "")
	if generation, known := d.ref.Generation(gen); known && generation.Flits {
		terms = append(terms, traffic)
	} else {
		payload := d.of("/route/payload_bytes", "payload of a packet", float64(d.r.Route.Payload.Or(int(d.ref.PacketPayload))))
		head := row("its head, with 64-bit addresses", "bytes", d.ref.PacketOverhead, "S", "the card standard")
		terms = append(
			terms,
			join(
				Quotient,
				"share of a packet that is payload",
				"",
				"payload ÷ (payload + head)",
				payload,
				join(Sum, "a whole packet", "bytes", "", payload, head),
			),
			traffic,
		)
	}
	t := join(Product, "net rate", "GB/s", "The raw rate, times what of a packet is payload, times what acknowledgements leave.", terms...)
	return d.tunnelled(t, pick(float64(p.NetEnds.Low), float64(p.NetEnds.High), high)), true
}

func fill(d *desk, high bool) (Term, bool) {
	rate, known := net(d, !high)
	memory, told := d.r.Card.Memory.Get()
	if !known || !told || rate.Value == 0 {
		return Term{}, false
	}
	bytes := join(Product, "the card's memory", "GB", "GiB in 10⁹ bytes", d.of("/card/memory_gib", "memory", float64(memory)),
		row("a GiB", "GB", units.BytesPerGibibyte/1e9, "S", "2³⁰ bytes, exact"))
	return join(Quotient, "time to fill the card's memory", "s", "Its memory over the net rate.", bytes, rate), true
}

// margin is what the speed allows, less every piece of the route, in the order of the lanes.
func margin(d *desk, high bool) (Term, bool) {
	p := d.report.Link
	if !p.Budgeted() {
		return Term{}, false
	}
	m, known := p.Planned()
	if !known {
		return Term{}, false
	}
	allows := row(
		fmt.Sprintf("what Gen %d allows from end to end", m.Gen),
		"dB",
		float64(m.Allows),
		"S",
		"the card standard, at half its bit rate",
	)
	if gen, told := d.ref.Generation(m.Gen); told {
		allows.Trust = string(gen.BudgetTrust)
	}
	is := pick(float64(m.Ends.Low), float64(m.Ends.High), high)
	terms := append([]Term{allows}, d.losses(p, m, high)...)
	return settle(
		join(Difference, "margin", "dB", "What the speed allows, less what every piece of the route loses, at half the bit rate.", terms...),
		is,
		"what was tried here, or how pieces make up for one another",
	), true
}

func (d *desk) losses(p *link.Plan, m *link.Margin, high bool) (terms []Term) {
	sections := p.Sections(m.Gen)
	if len(sections) == 0 {
		return nil
	}
	worst := sections[0]
	for _, s := range sections {
		if s.Loss.High > worst.Loss.High {
			worst = s
		}
	}
	for _, bar := range worst.Bars {
		loss := pick(float64(bar.Ends.High), float64(bar.Length), high)
		if bar.Redriver {
			loss = -math.Abs(loss)
		}
		terms = append(
			terms,
			Term{
				Name:   bar.Sort.String() + ": " + bar.Name,
				Unit:   "dB",
				Value:  loss,
				At:     bar.Where,
				Op:     Formula,
				Trust:  "P",
				Source: "length times the loss of its line, joints by their kind (reference, section 1)",
			},
		)
	}
	return terms
}

// settle adds what is between the terms and the figure, where there is anything.
func settle(t Term, is float64, name string) Term {
	rest := is - t.Value
	if math.Abs(rest) < 1e-6 {
		return t
	}
	if t.Op == Difference {
		rest = -rest
	}
	t.Terms = append(t.Terms, Term{Name: name, Unit: t.Unit, Value: rest, Op: Formula, Trust: "P", Source: "worked out"})
	t.Value = is
	return t
}

func chance(d *desk, high bool) (Term, bool) {
	m, known := margin(d, high)
	planned, _ := d.report.Link.Planned()
	if !known {
		return Term{}, false
	}
	c := planned.Chance()
	return Term{Name: "chance of a stable link", Value: pick(float64(c.Low), float64(c.High), high), Op: Formula,
		Formula: "The chance that a margin, spread by its deviation as a bell curve, lies above zero.",
		Terms:   []Term{m, row("its deviation", "dB", float64(planned.Sigma), "P", "")}}, true
}

// reached is the fastest speed whose margin reaches so much.
func reached(name string, ends func(p *link.Plan) units.Range[int], least func(d *desk) units.Decibel) func(d *desk, high bool) (Term,
	bool) {
	return func(d *desk, high bool) (Term, bool) {
		p := d.report.Link
		if !p.Budgeted() {
			return Term{}, false
		}
		of := ends(p)
		t := Term{Name: name, Value: pick(float64(of.Low), float64(of.High), high), Op: Formula,
			Formula: fmt.Sprintf("The fastest generation with a margin of %v or more; 0 for none.", least(d))}
		for gen := 1; ; gen++ {
			m := p.Margin(gen)
			if m == nil {
				return t, true
			}
			t.Terms = append(
				t.Terms,
				Term{
					Name:  fmt.Sprintf("margin at Gen %d", gen),
					Unit:  "dB",
					Value: pick(float64(m.Ends.Low), float64(m.Ends.High), high),
					Op:    Formula,
					Trust: "P",
				},
			)
		}
	}
}
