package finding

import (
	"slices"
	"strings"
)

// A Rule is one thing Kolvan can say, and all that is known of it: documents, drawings, the
// search for changes, and tests read its row. The name is fixed.
type Rule struct {
	Name    string
	Station Station // where what it speaks of is worked on
	Title   string  // what it says, in a few words
	// Line is a finding of it in a sentence, Tag in two or three words, Would what would do
	// about it; a Speaker fills in what stands in braces. Without a line its own sentence
	// serves, without a tag its title.
	Line, Tag, Would string
	Levels           Levels // it may take, besides unknown
	// Figures are the numbers it is judged by; the first of a finding is one of them.
	Figures Figures
	Evening Evening
	Cures   []Cure // the kinds of change that may clear it; none where nothing is tried
	Fires   string // when it fires
	Example string // what it says in one of its cases
	// Flows says that it is about what flows: findings along one feed have one cause.
	Flows bool
	// Notes says that it only ever notes something, and asks for nothing.
	Notes bool
	// Step says that what it asks for is a step to take in its time: a change may
	// bring it in.
	Step bool
}

// A Station is a step of the work.
type Station string

// The stations that rules speak at.
const (
	Brief    Station = "brief"
	Survey   Station = "survey"
	Route    Station = "route"
	Power    Station = "power"
	Fit      Station = "fit"
	Assembly Station = "assembly"
	Proof    Station = "proof"
	Ledger   Station = "ledger"
)

// Levels are those a rule may take; one without any only asks.
type Levels []Level

// String lists them as a document does.
func (l Levels) String() string {
	words := make([]string, len(l))
	for i, level := range l {
		words[i] = level.String()
	}
	return strings.Join(words, "; ")
}

// Has reports a level a rule may take. Any rule may ask.
func (l Levels) Has(level Level) bool { return level == Unknown || slices.Contains(l, level) }

// Worse says which way a figure gets worse.
type Worse int

// The ways.
const (
	MoreIsWorse Worse = iota
	LessIsWorse
)

// Figures are numbers of a finding, by their names, which carry the unit.
type Figures map[string]Worse

// Bad is how bad a finding is by the figure behind it, the first that is told: of two of one
// rule the larger is the worse.
func (f *Finding) Bad() float64 {
	switch {
	case len(f.Numbers) == 0:
		return 0
	case f.row.Figures[f.Numbers[0].Name] == LessIsWorse:
		return -f.Numbers[0].Value
	default:
		return f.Numbers[0].Value
	}
}

// A Cure is a kind of change to a plan.
type Cure int

// The kinds.
const (
	Slot Cure = iota
	Home
	Stage
	Force
	Outlet
	AnotherCard
	Supply
	TurnOn
	Order
	StandOff
	Exit
	Extension
	CardCap
	AllCures // how many there are
)
