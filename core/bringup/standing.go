package bringup

import (
	"slices"

	"kolvan/core/rig"
)

// A Standing is a caution that holds over a stretch of steps, from one to another.
type Standing struct {
	Says string `json:"says"`
	From string `json:"from"`
	To   string `json:"to"`
}

// standings are the cautions that hold for more than a step: what they say, where their
// stretch may lie, and which rigs they are for.
var standings = []struct {
	says   string
	begins string // a tag; the stretch begins at the first step that has it
	ends   string // a tag; it ends before the first step after that which has it
	holds  func(*Evening) bool
}{
	{
		"Whatever is wired to the mains is for licensed hands, by local rules. Never open a supply.", "", "",
		func(*Evening) bool { return true },
	},
	{
		"Both sides stay off, standby too: the mains plugs out, the lamp on the board dark.", "off", "on",
		func(*Evening) bool { return true },
	},
	{
		"Touch bare, earthed metal before you touch a module, a card or a board, each time you come back to it.", "off", "on",
		(*Evening).handles,
	},
	{"Sheet metal inside a case cuts: slow hands, and none where you cannot see.", "open", "on", (*Evening).sheetMetal},
	{"What has just run is hot: let card, cooler and plugs cool before you touch them.", "on", "", func(*Evening) bool { return true }},
	{"Do not leave it alone while it is being proved.", "proven", "off-again", func(*Evening) bool { return true }},
	{"Both sides stay off once more, standby too, until all is closed.", "off-again", "", func(*Evening) bool { return true }},
	{"Touch bare, earthed metal again before you reach inside to close it.", "off-again", "", (*Evening).handles},
}

// handles reports an evening at which something bare is touched.
func (e *Evening) handles() bool {
	return slices.ContainsFunc(e.Steps, func(s Step) bool {
		return s.tagged("inside") || s.tagged("card") || s.tagged("open") || s.tagged("link") && s.Place != Dock
	})
}

// sheetMetal reports a host with a case of it.
func (e *Evening) sheetMetal() bool {
	return !slices.Contains([]rig.HostKind{rig.Notebook, rig.SingleBoard}, e.rig.Host.Kind.Value)
}

// standing places the cautions on an order of steps.
func (e *Evening) standing() []Standing {
	list := []Standing{}
	for _, s := range standings {
		from := 0
		if s.begins != "" {
			from = e.at(s.begins)
		}
		if from < 0 || len(e.Steps) == 0 || !s.holds(e) {
			continue
		}
		to := len(e.Steps)
		if s.ends != "" {
			if n := slices.IndexFunc(e.Steps[from:], func(s2 Step) bool { return s2.tagged(s.ends) }); n > 0 {
				to = from + n
			}
		}
		list = append(list, Standing{s.says, e.Steps[from].ID, e.Steps[to-1].ID})
	}
	return list
}

// Holding are the standing cautions that hold at a step.
func (r *Report) Holding(step string) (list []string) {
	at := func(id string) int { return slices.IndexFunc(r.Steps, func(s Step) bool { return s.ID == id }) }
	i := at(step)
	for _, s := range r.Standing {
		if at(s.From) <= i && i <= at(s.To) {
			list = append(list, s.Says)
		}
	}
	return list
}
