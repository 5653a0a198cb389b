// Package bringup lives the evening of the build through beforehand: the steps of
// assembly in an order that works, the moments after the switch is thrown, what a person
// sees when all is well and when something is broken, and which test tells most about
// what is. It knows no clock and draws nothing but by a seed.
package bringup

import (
	"slices"
	"strconv"
	"strings"
	"unicode"

	"kolvan/core/link"
	"kolvan/core/power"
	"kolvan/core/reference"
	"kolvan/core/rig"
)

// Place is where a step is done.
type Place string

// The places; of these the host's two sides count as turning it over.
const (
	Table     Place = "table"
	Top       Place = "host-top"
	Underside Place = "host-underside"
	Dock      Place = "dock"
	Firmware  Place = "firmware"
	System    Place = "system"
)

// A Step is one thing to do.
type Step struct {
	ID        string     `json:"id"`
	Do        string     `json:"do"`
	Parts     []string   `json:"parts"`
	Tools     []string   `json:"tools"`
	Place     Place      `json:"place"`
	After     []string   `json:"after"` // by name, those that others do not imply
	Minutes   [2]float64 `json:"minutes"`
	Permanent bool       `json:"permanent"`
	Stake     string     `json:"stake"` // what a slip costs: you, hardware, data; empty where it costs time
	Screws    []string   `json:"screws"`
	Cautions  []string   `json:"cautions"`
	RightWhen string     `json:"right_when"`
	Undo      string     `json:"undo"` // what takes it back; empty where nothing is to be taken back

	parted, joined []string // what it takes apart, and what it joins again
	left           []Left   // what was parted and stays off

	tags  []string // what others follow and precede it by
	needs []int    // places of all that must be done before
	where string   // the part of the rig it is about
}

// Left is something that was parted for the build and stays off.
type Left struct {
	Name string `json:"name"`
	Why  string `json:"why"`
}

// tagged reports a step that others know by that word.
func (s *Step) tagged(tag string) bool {
	for _, t := range s.tags {
		if t == tag {
			return true
		}
	}
	return false
}

// stakes are what a slip at a step costs, by its tags; the first that holds.
var stakes = []struct {
	of   string
	tags []string
}{
	{"you", []string{"off", "cut", "shortens", "bare", "metered", "battery-in"}},
	{
		"hardware",
		[]string{
			"open", "inside", "cleared", "left", "homes", "link", "card", "leads", "supplies", "first-start", "proven", "tested",
			"closing", "served", "bracket",
		},
	},
	{"data", []string{"data", "clone", "system", "setting", "battery-off"}},
}

// stake is what a slip at a step costs.
func (s *Step) stake() string {
	for _, stake := range stakes {
		if slices.ContainsFunc(stake.tags, s.tagged) {
			return stake.of
		}
	}
	return ""
}

// A row is one step of a template, with what it follows and precedes, by tags.
type row struct {
	Step
	tags, follows, precedes string
}

// maker makes the steps of a rig, row by row.
type maker struct {
	r    *rig.Rig
	ref  *reference.Tables
	net  *power.Network
	plan *link.Plan
	rows []row
	ids  map[string]int
	left []Left
}

// leaves tells that something is not put on again, once.
func (m *maker) leaves(name, why string) {
	if !slices.ContainsFunc(m.left, func(l Left) bool { return l.Name == name }) {
		m.left = append(m.left, Left{name, why})
	}
}

// add takes in a row; a second one of the same name gets a number.
func (m *maker) add(r row) {
	m.ids[r.ID]++
	if n := m.ids[r.ID]; n > 1 {
		r.ID += "-" + strconv.Itoa(n)
	}
	m.rows = append(m.rows, r)
}

// StepsOf makes the steps of a rig, in the order of the templates.
func StepsOf(r *rig.Rig, ref *reference.Tables) []Step {
	m := &maker{r: r, ref: ref, net: power.For(r, ref), plan: link.For(r, ref), ids: map[string]int{}}
	for _, t := range templates {
		t.make(m)
	}
	return m.joined()
}

// joined resolves tags into places.
func (m *maker) joined() []Step {
	steps := make([]Step, len(m.rows))
	known := map[string][]int{}
	for i := range m.rows {
		s := m.rows[i].Step
		s.tags = append(strings.Fields(m.rows[i].tags), s.ID)
		for _, tag := range s.tags {
			known[tag] = append(known[tag], i)
		}
		s.Stake = s.stake()
		steps[i] = s
	}
	for i := range m.rows {
		for _, tag := range strings.Fields(m.rows[i].follows) {
			for _, j := range known[tag] {
				steps[i].require(j, i)
			}
		}
		for _, tag := range strings.Fields(m.rows[i].precedes) {
			for _, j := range known[tag] {
				steps[j].require(i, j)
			}
		}
	}
	for _, need := range m.r.Build.Needs {
		for _, i := range known[need.Step] {
			for _, j := range known[need.After] {
				steps[i].require(j, i)
			}
		}
	}
	for i := range steps {
		steps[i].After = direct(steps, i)
	}
	return steps
}

func (s *Step) require(before, self int) {
	if before == self {
		return
	}
	for _, have := range s.needs {
		if have == before {
			return
		}
	}
	s.needs = append(s.needs, before)
}

// direct lists what a step follows but for what another of these already follows.
func direct(steps []Step, i int) []string {
	implied := map[int]bool{}
	for _, j := range steps[i].needs {
		for _, k := range steps[j].needs {
			implied[k] = true
		}
	}
	after := []string{}
	for _, j := range steps[i].needs {
		if !implied[j] {
			after = append(after, steps[j].ID)
		}
	}
	return after
}

// slug is a name as part of a step's: letters and figures of ASCII, and dashes.
func slug(name string) string {
	var b strings.Builder
	for _, c := range strings.ToLower(name) {
		switch {
		case c < unicode.MaxASCII && (unicode.IsLetter(c) || unicode.IsDigit(c)):
			b.WriteRune(c)
		case b.Len() > 0 && !strings.HasSuffix(b.String(), "-"):
			b.WriteByte('-')
		}
	}
	return strings.TrimSuffix(b.String(), "-")
}

func quoted(name, unnamed string) string {
	if name == "" {
		return unnamed
	}
	return name
}
