// Package brief holds the plan to what was asked for: the works, the money and
// the damage allowed.
package brief

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"kolvan/core/finding"
	"kolvan/core/ledger"
	"kolvan/core/rig"
	"kolvan/core/units"
)

// The names of the rules, as reports and files have them.
const (
	RuleMemory   = "work.memory"
	RuleEncoder  = "work.encoder"
	RuleRefused  = "work.refused"
	RuleStance   = "brief.stance"
	RuleWarranty = "brief.warranty"
	RuleBudget   = "brief.budget"
	RulePlace    = "live.place"
	RuleNoise    = "live.noise"
	RulePlugs    = "live.plugs"
	RuleCarry    = "live.carry"
)

var rules = finding.Table[*rig.Rig]{
	{Rule: finding.Rule{
		Name: RuleMemory, Station: finding.Brief, Title: "Too little card memory", Levels: finding.Levels{finding.Risk},
		Line: "{thing} needs {needs_gib} of card memory; the card has {has_gib}", Tag: "memory {has_gib}",
		Would:   "a card of {needs_gib} or more, or a smaller model",
		Evening: finding.Evening{finding.Risk: finding.Weakens()},
		Figures: finding.Figures{"needs_gib": finding.MoreIsWorse},
		Cures:   []finding.Cure{finding.AnotherCard},
		Fires:   "a use needs more card memory than there is",
		Example: "Stacking needs 8.1 GiB of card memory; the card has 8 GiB.",
	}, Judge: judgeMemory},
	{Rule: finding.Rule{
		Name: RuleEncoder, Station: finding.Brief, Title: "Encoder missing", Levels: finding.Levels{finding.Risk},
		Line: "the card lacks an encoder that {thing} needs", Tag: "encoder",
		Would:   "a card with that encoder, or another format",
		Evening: finding.Evening{finding.Risk: finding.Weakens()},
		Cures:   []finding.Cure{finding.AnotherCard},
		Fires:   "a use needs a hardware encoder the card lacks",
		Example: "Stacking needs the encoder av1; the card has h264, hevc.",
	}, Judge: judgeEncoder},
	{Rule: finding.Rule{
		Name: RuleRefused, Station: finding.Brief, Title: "It will not run this way", Levels: finding.Levels{finding.Risk},
		Line: "{thing} will not run this way", Tag: "will not run",
		Would:   "asking its maker, or another way to start",
		Evening: finding.Evening{finding.Risk: finding.Weakens()},
		Fires:   "a use or its protection rejects this system, a system on USB, or this way of joining a card",
		Example: "Stacking rejects a system that starts from USB, as planned here.",
	}, Judge: judgeRefused},
	{Rule: finding.Rule{
		Name: RuleStance, Station: finding.Brief, Title: "The plan alters what should stay whole", Levels: finding.Levels{finding.Blocked},
		Line: "the plan alters what should stay whole", Tag: "may not be altered",
		Would:   "another way, or leave to alter it",
		Evening: finding.Evening{finding.Blocked: finding.Unseen()},
		Fires:   "the plan alters something the brief protects",
		Example: "The plan says: cut. The brief allows: a spare cover may be cut, nothing else.",
	}, Judge: judgeStance},
	{Rule: finding.Rule{
		Name: RuleWarranty, Station: finding.Brief, Title: "A seal is broken", Levels: finding.Levels{finding.Note}, Notes: true,
		Fires:   "something the plan does breaks a maker's seal, the swap of a bracket that holds the cooler too",
		Example: "The plan breaks a seal (open the case): ask what is left of the warranty before, not after.",
	}, Judge: judgeWarranty},
	{Rule: finding.Rule{
		Name: RuleBudget, Station: finding.Brief, Title: "Over the budget", Levels: finding.Levels{finding.Risk},
		Line: "the parts come to {to_buy} of {budget}", Tag: "over budget",
		Would:   "parts that are owned, used ones, or a larger budget",
		Evening: finding.Evening{finding.Risk: finding.Unseen()},
		Figures: finding.Figures{"to_buy": finding.MoreIsWorse},
		Cures:   []finding.Cure{finding.AnotherCard},
		Fires:   "the parts to buy, and what else the ledger has still to pay, exceed the budget",
		Example: "The parts to buy come to 400; the budget is 399.",
	}, Judge: judgeBudget},
	{Rule: finding.Rule{
		Name: RulePlace, Station: finding.Brief, Title: "It does not belong there", Levels: finding.Levels{finding.Risk, finding.Note},
		Line: "it does not belong where it will stand", Tag: "its place",
		Would:   "a case, or another place",
		Evening: finding.Evening{finding.Risk: finding.Unseen()},
		Fires: "an open card stands among dust, damp or small hands, a plan for open air stands in a cupboard or under a desk, or somebody " +
			"who must agree does not; a note where that is not known yet",
		Example: "The card stands in the open, and where it will stand there is dust, damp, or small hands: give it a case, or another place.",
	}, Judge: judgePlace},
	{Rule: finding.Rule{
		Name: RuleNoise, Station: finding.Brief, Title: "Too loud for where it stands", Levels: finding.Levels{finding.Risk, finding.Note},
		Line: "it makes {noise_low_db}; {allowed_db} are allowed", Tag: "{noise_low_db}",
		Would:   "a cap on the card's power, slower fans, or another place",
		Evening: finding.Evening{finding.Risk: finding.Unseen()},
		Figures: finding.Figures{"noise_low_db": finding.MoreIsWorse},
		Fires:   "what makes noise comes to more than is allowed at the seat; a note where it may",
		Example: "Under load it makes 38 dB or more at the seat; 37 dB are allowed there.",
	}, Judge: judgeNoise},
	{Rule: finding.Rule{
		Name: RulePlugs, Station: finding.Brief, Title: "Too few mains plugs", Levels: finding.Levels{finding.Risk, finding.Note},
		Line: "it takes {plugs} mains plugs; {free} are free", Tag: "{plugs} mains plugs",
		Would:   "one strip made for the load",
		Evening: finding.Evening{finding.Risk: finding.Unseen()},
		Figures: finding.Figures{"plugs": finding.MoreIsWorse},
		Fires:   "its supplies want more mains plugs than are free there; a note where a screen may want one more",
		Example: "It takes 2 mains plugs; 1 are free where it will stand. Use one strip that is made for the load, never one behind another.",
	}, Judge: judgePlugs},
	{Rule: finding.Rule{
		Name: RuleCarry, Station: finding.Brief, Title: "It does not like to be carried", Levels: finding.Levels{finding.Risk, finding.Note},
		Line: "it takes {takes_min} to set up; {most_min} are meant", Tag: "{takes_min} to set up",
		Would:   "parts that stay plugged together on one board",
		Evening: finding.Evening{finding.Risk: finding.Unseen()},
		Figures: finding.Figures{"takes_min": finding.MoreIsWorse},
		Fires: "a rig that is carried about takes longer to set up than somebody is ready for; a note where nobody timed it, or a heavy " +
			"card travels in its slot",
		Example: "It takes 12 minutes to set up; 10 are what somebody is ready for.",
	}, Judge: judgeCarry},
}

// Rules lists the rules of this package.
func Rules() []finding.Rule { return rules.Rules() }

// Judge adds what the rules say about the rig.
func Judge(r *rig.Rig, out *finding.List) { rules.Judge(r, out) }

func workAt(i int) string { return "/brief/works/" + strconv.Itoa(i) }

func judgeMemory(r *finding.Rule, rg *rig.Rig, out *finding.List) {
	for i := range rg.Brief.Works {
		work := &rg.Brief.Works[i]
		need, has := work.Memory, rg.Card.Memory
		switch {
		case !need.Known && ranHere(rg, work.Name): // it was measured on this very card
		case !need.Known:
			out.Need(
				r, workAt(i)+"/memory_gib", "the card memory that "+work.Name+" needs",
				"Read its papers, or watch it work on another card.", "which cards are large enough",
			)
		case need.Value > 0 && !has.Known:
			out.Need(r, "/card/memory_gib", "the card's memory", "Read its papers.", "whether "+work.Name+" fits")
		case need.Value > has.Value:
			out.Add(r, finding.Risk, workAt(i), finding.Numbers{
				{Name: "needs_gib", Value: float64(need.Value)}, {Name: "has_gib", Value: float64(has.Value)},
			},
				"%s needs %v of card memory; the card has %v.", work.Name, need.Value, has.Value)
		}
	}
}

// ranHere reports a use that was run with the rig's own card, and did not end as it should not.
func ranHere(r *rig.Rig, use string) bool {
	return slices.ContainsFunc(r.Runs, func(run rig.Run) bool {
		return run.Use == use && rig.Is(run.Side, "after") && r.OfCard(run.Card) && run.Outcome == "" &&
			(run.Average.Known || run.Took.Known || run.Score.Known)
	})
}

// No encoder, and any encoder, as a work may ask for them.
const (
	noEncoder  = "none"
	anyEncoder = "any"
)

func judgeEncoder(r *finding.Rule, rg *rig.Rig, out *finding.List) {
	for i := range rg.Brief.Works {
		work := &rg.Brief.Works[i]
		need, known := work.Encoder.Get()
		if !known || strings.EqualFold(need, noEncoder) {
			continue // most works encode nothing, and say nothing of it
		}
		has, known := rg.Card.Encoders.Get()
		if !known {
			out.Need(r, "/card/encoders", "the card's hardware encoders", "Read its papers.", "whether "+work.Name+" can encode")
			continue
		}
		if !offers(has, need) {
			out.Add(r, finding.Risk, workAt(i), nil, "%s needs the encoder %s; the card has %s.", work.Name, need, list(has))
		}
	}
}

func offers(has []string, need string) bool {
	for _, e := range has {
		if strings.EqualFold(e, need) || strings.EqualFold(need, anyEncoder) {
			return true
		}
	}
	return false
}

func list(encoders []string) string {
	if len(encoders) == 0 {
		return "none"
	}
	return strings.Join(encoders, ", ")
}

// judgeRefused asks nothing of a use that was not told to reject anything: most
// reject nothing.
func judgeRefused(r *finding.Rule, rg *rig.Rig, out *finding.List) {
	for i := range rg.Brief.Works {
		w := &rg.Brief.Works[i]
		for _, refuses := range w.Refuses.Value {
			switch {
			case refuses == rig.RefusesSystem:
				out.Add(r, finding.Risk, workAt(i)+"/refuses", nil, "%s rejects this release of the system.", w.Name)
			case refuses == rig.RefusesUSB && systemOnUSB(rg):
				out.Add(r, finding.Risk, workAt(i)+"/refuses", nil, "%s rejects a system that starts from USB, as planned here.", w.Name)
			case refuses == rig.RefusesWay && len(rg.Route.Stages) > 0:
				out.Add(r, finding.Risk, workAt(i)+"/refuses", nil, "%s, or its protection, rejects a card joined this way.", w.Name)
			}
		}
	}
}

// systemOnUSB reports a boot drive that moves to a USB device.
func systemOnUSB(r *rig.Rig) bool {
	for i := range r.Route.Displaced {
		d := &r.Route.Displaced[i]
		if drive := r.Drive(d.Occupant); drive != nil && rig.Is(drive.Boots, true) && rig.Is(d.Home, rig.HomeUSB) {
			return true
		}
	}
	return false
}

// judgeWarranty says what breaks a maker's seal.
func judgeWarranty(r *finding.Rule, rg *rig.Rig, out *finding.List) {
	for i := range rg.Alterations {
		if a := &rg.Alterations[i]; rig.Is(a.Seal, true) {
			out.Add(
				r, finding.Note, "/alterations/"+strconv.Itoa(i), nil,
				"The plan breaks a seal (%s): ask what is left of the warranty before, not after.", a.Name,
			)
		}
	}
	if b := &rg.Card.Bracket; rig.Is(b.Swap, rig.SwapDismantles) && b.Spare.Known && rig.Is(rg.Chamber.Opening.Height, b.Spare.Value) &&
		b.Height.Known &&
		b.Height.Value != b.Spare.Value {
		out.Add(
			r, finding.Note, "/card/bracket/swap", nil,
			"Changing the card's bracket takes its cooler off, and breaks the seal on its screws: ask what is left of the warranty before, not "+
				"after.",
		)
	}
}

func judgeStance(r *finding.Rule, rg *rig.Rig, out *finding.List) {
	for i := range rg.Alterations {
		a, at := &rg.Alterations[i], "/alterations/"+strconv.Itoa(i)
		switch rg.Brief.Protects(a) {
		case rig.AsksStance:
			out.Need(r, "/brief/stance", "what may be altered", "Ask whose host it is.", "whether the plan may: "+a.Name)
		case rig.AsksTouches:
			out.Need(r, at+"/touches", "what is altered by: "+a.Name, "Say which part it is done to.", "whether the brief allows it")
		case rig.Protected:
			out.Add(r, finding.Blocked, at, nil, "The plan says: %s. The brief allows: %s.", a.Name, stanceWords[rg.Brief.Stance.Value])
		}
	}
}

var stanceWords = map[rig.Stance]string{
	rig.NothingPermanent: "nothing permanent", rig.SpareCover: "a spare cover may be cut, nothing else", rig.CutFreely: "cut freely",
}

func judgeBudget(r *finding.Rule, rg *rig.Rig, out *finding.List) {
	budget, known := rg.Brief.Budget.Get()
	if !known {
		return // without a budget no price is asked for
	}
	sum, open := ledger.ToBuy(rg)
	paid, ordered := ledger.Committed(rg)
	open = append(open, ordered...)
	switch sum.Plus(paid).Over(units.Exactly(budget)) {
	case units.Always:
		out.Add(r, finding.Risk, "/brief/budget", finding.Numbers{
			{Name: "to_buy", Value: float64(sum.Low)}, {Name: "budget", Value: float64(budget)},
		},
			"The parts to buy come to %s%s; the budget is %s.", moneyEnds(sum, rg), beside(paid, rg), money(budget, rg))
		return
	case units.Sometimes:
		if at := widestPrice(rg); len(open) == 0 {
			out.Need(
				r, at+"/price", "what the parts cost: "+moneyEnds(sum, rg), "Ask for the price of the dearest.",
				"whether the budget of "+money(budget, rg)+" holds",
			)
			return
		}
	}
	if len(open) > 0 {
		out.Need(
			r, open[0], pricesOf(len(open)), "Look them up, or mark the parts as owned.",
			"whether the budget of "+money(budget, rg)+" holds",
		)
	}
}

// widestPrice is the place of what has the price that is known least.
func widestPrice(r *rig.Rig) (at string) {
	most := 0.0
	ledger.EachPart(r, func(p ledger.Part) {
		if p.Name != "" && !rig.Is(p.Price.Owned, true) && p.Amount().Tolerance > most {
			most, at = p.Amount().Tolerance, p.Where()
		}
	})
	for i := range r.Ledger.Lines {
		if t := r.Ledger.Lines[i].Price.Tolerance; t > most {
			most, at = t, "/ledger/lines/"+strconv.Itoa(i)
		}
	}
	return at
}

// beside tells what was paid already.
func beside(paid units.Range[units.Money], r *rig.Rig) string {
	if paid.High <= 0 {
		return ""
	}
	return ", beside " + moneyEnds(paid, r) + " that are paid or ordered"
}

func moneyEnds(ends units.Range[units.Money], r *rig.Rig) string {
	if ends.Known() {
		return money(ends.High, r)
	}
	return ends.Low.String() + " to " + money(ends.High, r)
}

func money(m units.Money, r *rig.Rig) string {
	if r.Brief.Currency == "" {
		return m.String()
	}
	return m.String() + " " + r.Brief.Currency
}

// pricesOf names what has to be looked up.
func pricesOf(parts int) string {
	if parts == 1 {
		return "the price of one part"
	}
	return fmt.Sprintf("the prices of %d parts", parts)
}
