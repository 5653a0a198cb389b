// Package carry lets a rig travel inside a page: as JSON in a <template>, which a browser neither
// shows nor runs, filtered as the page itself is.
package carry

import (
	"bufio"
	"errors"
	"fmt"
	"io"
	"slices"
	"strconv"
	"strings"

	"golang.org/x/net/html"

	"kolvan/core/rig"
	"kolvan/core/units"
)

// ID is the id of the template a rig stands in.
const ID = "kolvan-rig"

// What may be left out of a rig that travels.
const (
	Names = "names" // of people
	Costs = "costs"
)

// parts says what goes of a rig where a part of its sheet is left out. What is not named here is
// of the page alone.
var parts = map[string]func(*rig.Rig){
	Costs: withoutMoney,
	Names: func(r *rig.Rig) {
		r.Brief.Living.Agree = nil
		for i := range r.Route.Readings {
			r.Route.Readings[i].By = ""
		}
		for i := range r.LoadReadings {
			r.LoadReadings[i].By = ""
		}
	},
	"diary": func(r *rig.Rig) { r.Diary = nil },
	"tries": func(r *rig.Rig) { r.Build.Tries = nil },
	"runs":  func(r *rig.Rig) { r.Runs, r.LoadReadings = nil, nil },
	"found": func(r *rig.Rig) { r.Route.Readings, r.Route.Tried, r.Known = nil, nil, nil },
	"steps": func(r *rig.Rig) { r.Build = rig.Build{Tries: r.Build.Tries} },
	"open":  func(r *rig.Rig) { r.Acknowledged, r.PutAside = nil, nil },
	"fit":   func(r *rig.Rig) { r.Chamber = rig.Chamber{Open: r.Chamber.Open}; r.Brief.CoversOff = nil },
	"power": func(r *rig.Rig) {
		r.Supplies, r.Leads, r.Host.Supply = nil, nil, ""
		for i := range r.Route.Stages {
			r.Route.Stages[i].Supply = ""
		}
	},
}

// withoutMoney takes out what things cost, whose they are, and what they are held against.
func withoutMoney(r *rig.Rig) {
	r.Ledger, r.Brief.Budget, r.Brief.Energy = rig.Ledger{}, rig.Fact[units.Money]{}, rig.Fact[units.Money]{}
	rig.Walk(r, func(n rig.Node) {
		if n.Spec.Name == "price" || n.Spec.Name == "owned" {
			n.Value.SetZero()
		}
	})
}

// Of is a rig as it travels with a page from which those parts are left out, as JSON, and the
// parts that it therefore lacks.
func Of(r *rig.Rig, without []string) (doc []byte, lacks []string, err error) {
	own, err := copyOf(r)
	if err != nil {
		return nil, nil, err
	}
	for _, name := range without {
		if take, some := parts[name]; some && !slices.Contains(lacks, name) {
			take(own)
			lacks = append(lacks, name)
		}
	}
	slices.Sort(lacks)
	doc, err = rig.Encode(own)
	return doc, lacks, err
}

func copyOf(r *rig.Rig) (*rig.Rig, error) {
	raw, err := rig.Encode(r)
	if err != nil {
		return nil, err
	}
	return rig.Decode(raw)
}

// Unnamed is a copy of a rig whose parts go by what they are: for a page that asks strangers.
func Unnamed(r *rig.Rig) (*rig.Rig, error) {
	own, err := copyOf(r)
	if err != nil {
		return nil, err
	}
	own.Name, own.Tags, own.Chamber.Name, own.Acknowledged, own.Tried = "A rig", nil, "", nil, nil
	forHost := func(made *rig.Fact[[]string]) {
		for i := range made.Value {
			if strings.EqualFold(made.Value[i], r.Host.Name) {
				made.Value[i] = "host 1"
			}
		}
	}
	name := func(path, called string, i int) {
		if err != nil {
			return
		}
		now := called + " " + strconv.Itoa(i+1)
		field, _, _ := rig.At(own, path+"/name") // each of these is there
		was := field.String()
		err = rig.Set(own, path+"/name", now)
		for k := range own.Known { // what was seen names its part, and refers to none
			if own.Known[k].Of == was {
				own.Known[k].Of = now
			}
		}
	}
	if own.Host.Name != "" {
		name("/host", "host", 0)
	}
	if own.Card.Name != "" {
		name("/card", "card", 0)
	}
	for i := range own.Route.Stages {
		name(rig.StagePath(i), "stage", i)
		forHost(&own.Route.Stages[i].MadeFor)
	}
	for i := range own.Supplies {
		name(rig.SupplyPath(i), "supply", i)
	}
	for i := range own.Leads {
		name(rig.LeadPath(i), "lead", i)
		forHost(&own.Leads[i].MadeFor)
	}
	return own, err
}

// ReadAny reads a rig file, or a page that carries a rig, by how it begins.
func ReadAny(from io.Reader) (r *rig.Rig, lacks []string, err error) {
	start := bufio.NewReader(from)
	begins, _ := start.Peek(64) // what is shorter is shorter
	if strings.HasPrefix(strings.TrimLeft(string(begins), " \t\r\n\ufeff"), "<") {
		return Read(start)
	}
	r, err = rig.Read(start)
	return r, nil, err
}

// LacksWords says what a rig lacks that came in a page; "" for one that is whole.
func LacksWords(lacks []string) string {
	if len(lacks) == 0 {
		return ""
	}
	return ", without " + strings.Join(lacks, ", ")
}

// mostPage bounds a page that a rig is read from, in bytes.
const mostPage = 16 << 20

// Read reads the rig that a page carries, and what it says was left out of it.
func Read(from io.Reader) (r *rig.Rig, lacks []string, err error) {
	limited := &io.LimitedReader{R: from, N: mostPage}
	page := html.NewTokenizer(limited)
	var doc strings.Builder
	inside := false
	for {
		switch page.Next() {
		case html.ErrorToken:
			if !errors.Is(page.Err(), io.EOF) {
				return nil, nil, fmt.Errorf("the page: %w", page.Err())
			}
			return nil, nil, errors.New("this page carries no rig; a sheet saved as html does, and rig files are taken as they are")
		case html.StartTagToken:
			token := page.Token()
			if token.Data == "template" && attribute(&token, "id") == ID {
				inside, lacks = true, strings.Fields(attribute(&token, "data-without"))
			}
		case html.TextToken:
			if inside {
				doc.WriteString(page.Token().Data)
			}
		case html.EndTagToken:
			if inside {
				r, err = rig.Decode([]byte(doc.String()))
				return r, known(lacks), err
			}
		}
	}
}

// known are the parts of a list that a rig may lack: what else a page claims is not repeated.
func known(list []string) []string {
	return slices.DeleteFunc(list, func(name string) bool { return parts[name] == nil })
}

func attribute(t *html.Token, name string) string {
	for _, a := range t.Attr {
		if a.Key == name {
			return a.Val
		}
	}
	return ""
}
