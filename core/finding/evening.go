package finding

import "strings"

// An Effect is what a finding that holds does to the evening on which the card is switched
// on, the mildest first.
type Effect int

// The effects.
const (
	Nothing   Effect = iota // the evening does not show it
	Weaken                  // it runs less well than planned, or may not run
	Stop                    // it never starts, finds no link, shows no picture, or trips
	StayApart               // it does not go together: nothing can be switched on
	Burn                    // it carries more than it may: it burns in time
	Harm                    // it may burn as soon as there is power
)

// A Bite is an effect, and what it changes in the model of the evening: words of the
// catalogue of faults, "load=trips|holds" for one of two each evening.
type Bite struct {
	Effect Effect
	Plays  string
}

// An Evening is what a rule does to the evening at each level that it takes: a note, and
// what is only asked, do nothing.
type Evening map[Level]Bite

// Unseen does nothing that evening.
func Unseen() Bite { return Bite{} }

// Weakens lets it run less well than planned.
func Weakens(plays ...string) Bite { return Bite{Weaken, strings.Join(plays, " ")} }

// Stops keeps it from running as a card should, in the way that is told.
func Stops(plays ...string) Bite { return Bite{Stop, strings.Join(plays, " ")} }

// Apart is what cannot be put together.
func Apart() Bite { return Bite{Effect: StayApart} }

// Burns harms in time, at the worst draw.
func Burns() Bite { return Bite{Effect: Burn} }

// Harms does harm as soon as there is power.
func Harms() Bite { return Bite{Effect: Harm} }

// Bite is what a finding does to the evening.
func (f *Finding) Bite() Bite {
	if f.row == nil {
		return Bite{}
	}
	return f.row.Evening[f.Level]
}
