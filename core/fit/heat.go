package fit

import (
	"fmt"

	"kolvan/core/finding"
	"kolvan/core/rig"
	"kolvan/core/units"
)

// Temperatures are °C. Where a part tells no limit, the usual ones are a range (reference,
// section 8a).
type celsius = units.Range[float64]

// judgeHeatOfCard holds what the card's sensors showed against what it slows and stops at.
func judgeHeatOfCard(r *finding.Rule, c *Chamber, out *finding.List) {
	card := &c.rig.Card
	core := heat{
		part: "The card's core", slows: limitOf(card.Slows, c.ref.CardSlows), stops: limitOf(card.Stops, c.ref.CardStops),
		ask: "/card/slows_at_c", find: "Look in its papers, or in what its driver shows.",
		do: "Give it air, clean its fans, let them run faster, or cap its power",
	}
	memory := core
	memory.part, memory.slows, memory.stops, memory.ask = "The card's memory", limitOf(card.MemoryC, c.ref.MemoryMost), celsius{},
		"/card/memory_most_c"
	c.judgeReadings(r, out, "card_c", &core, func(l *rig.LoadReading) rig.Fact[float64] { return ofCard(c.rig, l, l.CardC) })
	c.judgeReadings(r, out, "card_memory_c", &memory, func(l *rig.LoadReading) rig.Fact[float64] { return ofCard(c.rig, l, l.MemC) })
}

// judgeHeatOfHost holds what the processor's sensor showed against what it slows at.
func judgeHeatOfHost(r *finding.Rule, c *Chamber, out *finding.List) {
	proc := heat{
		part: "The processor", slows: limitOf(c.rig.Host.Proc.Slows, c.ref.ProcessorSlows), ask: "/host/processor/slows_at_c",
		find: "Look in its papers.", do: "Renew the paste, clean the cooler, and keep the card's warm air from it",
	}
	c.judgeReadings(r, out, "processor_c", &proc, func(l *rig.LoadReading) rig.Fact[float64] { return l.ProcC })
}

// ofCard is a reading of the rig's own card; not told of another.
func ofCard(r *rig.Rig, l *rig.LoadReading, f rig.Fact[float64]) rig.Fact[float64] {
	if !r.OfCard(l.Card) {
		return rig.Fact[float64]{}
	}
	return f
}

// limitOf is a limit as told, else as usual.
func limitOf(told rig.Fact[float64], usual celsius) celsius {
	if v, known := told.Get(); known {
		return units.Exactly(v)
	}
	return usual
}

// heat is a part with what it slows and stops at; no end for a part that only slows.
type heat struct {
	part         string
	slows, stops celsius
	ask, find    string // the fact that would settle it
	do           string
}

// judgeReadings judges the latest reading that tells a part's temperature.
func (c *Chamber) judgeReadings(r *finding.Rule, out *finding.List, field string, h *heat, of func(*rig.LoadReading) rig.Fact[float64]) {
	for i := len(c.rig.LoadReadings) - 1; i >= 0; i-- {
		read, told := of(&c.rig.LoadReadings[i]).Get()
		if !told {
			continue
		}
		at := fmt.Sprintf("/load_readings/%d/%s", i, field)
		numbers := finding.Numbers{{Name: "read_c", Value: read}, {Name: "slows_c", Value: h.slows.High}}
		switch {
		case h.stops.High > 0 && read >= h.stops.High:
			out.Add(r, finding.Blocked, at, numbers, "%s reached %.0f °C, at which it stops. %s, before anything is run again.", h.part, read, h.do)
		case read >= h.slows.High:
			out.Add(r, finding.Risk, at, numbers, "%s reached %.0f °C: from %.0f °C on it slows down. %s.", h.part, read, h.slows.High, h.do)
		case read >= h.slows.Low:
			out.Need(r, h.ask, "from which temperature on it slows down", h.find, fmt.Sprintf("whether %.0f °C are too many", read))
		}
		return
	}
}
