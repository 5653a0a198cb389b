package bringup

import (
	"embed"
	"fmt"
	"slices"
	"strings"
	"sync"

	"github.com/go-json-experiment/json"
)

//go:embed data/faults.json data/tests.json
var data0 embed.FS

// A Fault is one thing that may be broken. All its figures are planning values (P).
type Fault struct {
	Name    string           `json:"name"`
	Says    string           `json:"says"`
	Part    string           `json:"part"` // what another one of cures it
	Does    map[string][]any `json:"does"` // what it changes in the model, by what; one of the list each time
	When    []string         `json:"when"` // what a rig has that can have it, all of them
	Weight  float64          `json:"weight"`
	Mend    string           `json:"mend"`
	Minutes float64          `json:"minutes"`
	Reseats bool             `json:"reseats,omitzero"` // plugging in anew may cure it
	Again   string           `json:"again,omitzero"`   // what else mends it, where that was tried
}

// A Test is something a person can do or look at. What it shows under each fault comes
// from the model; its slip is how often a person reads one of the other outcomes (P).
type Test struct {
	Name     string   `json:"name"`
	Do       string   `json:"do"`
	Reads    string   `json:"reads"` // what of the model is looked at
	Outcomes []string `json:"outcomes"`
	Minutes  float64  `json:"minutes"`
	Slip     float64  `json:"slip"`
	Needs    string   `json:"needs,omitzero"` // what must be at hand
	Price    float64  `json:"price,omitzero"` // of that, bought
	When     []string `json:"when"`
	Changes  []string `json:"changes,omitzero"`  // what it changes in the model
	Replaces []string `json:"replaces,omitzero"` // parts, or faults by name, that are gone with it
	Also     []string `json:"also,omitzero"`     // more faults that are gone with it
	Moves    string   `json:"moves,omitzero"`    // what is looked at in another place: card, chain, slot
	Harmless bool     `json:"harmless,omitzero"`
	First    bool     `json:"first,omitzero"`   // what is asked before all else
	Picture  bool     `json:"picture,omitzero"` // it cannot be done with a dark screen
	Harm     float64  `json:"harm,omitzero"`    // minutes that the chance to harm something is worth (P)
	Caution  string   `json:"caution,omitzero"`
}

// A Catalogue is the faults and the tests there are.
type Catalogue struct {
	Faults []Fault
	Tests  []Test
}

var theCatalogue = sync.OnceValues(func() (*Catalogue, error) {
	c := new(Catalogue)
	for name, into := range map[string]any{"data/faults.json": &c.Faults, "data/tests.json": &c.Tests} {
		raw, err := data0.ReadFile(name)
		if err == nil {
			err = json.Unmarshal(raw, into, json.RejectUnknownMembers(true))
		}
		if err != nil {
			return nil, fmt.Errorf("%s: %w", name, err)
		}
	}
	for i := range c.Tests {
		if reads[c.Tests[i].Reads] == nil && c.Tests[i].Reads != "works" && c.Tests[i].Reads != "slot" {
			return nil, fmt.Errorf("test %s reads %q, which the model does not show", c.Tests[i].Name, c.Tests[i].Reads)
		}
	}
	for i := range c.Faults {
		for what, ways := range c.Faults[i].Does {
			if breaks[what] == nil || len(ways) == 0 {
				return nil, fmt.Errorf("fault %s does %q, which the model does not know", c.Faults[i].Name, what)
			}
		}
	}
	return c, nil
})

// Load is the catalogue that ships with Kolvan.
func Load() (*Catalogue, error) { return theCatalogue() }

// Fault is the place of a fault by its name; −1 for none.
func (c *Catalogue) Fault(name string) int {
	return slices.IndexFunc(c.Faults, func(f Fault) bool { return f.Name == name })
}

// Test is the place of a test by its name; −1 for none.
func (c *Catalogue) Test(name string) int {
	return slices.IndexFunc(c.Tests, func(t Test) bool { return t.Name == name })
}

// Check says what is wrong with a test and an outcome by name; nil for what the catalogue
// has.
func (c *Catalogue) Check(test, outcome string) error {
	i := c.Test(test)
	if i < 0 {
		names := make([]string, len(c.Tests))
		for k := range c.Tests {
			names[k] = c.Tests[k].Name
		}
		return fmt.Errorf("test %q is not accepted; accepted: %s", test, strings.Join(names, ", "))
	}
	if !slices.Contains(c.Tests[i].Outcomes, outcome) {
		return fmt.Errorf("%s=%s is not accepted; %s shows: %s", test, outcome, test, strings.Join(c.Tests[i].Outcomes, ", "))
	}
	return nil
}
