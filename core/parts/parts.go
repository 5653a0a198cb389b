// Package parts is the built-in list of invented hosts, cards, stages, supplies
// and leads to build rigs from, and the kinds of parts a bin can hold. A part is
// copied into a rig when used, so that a later change of the list or a bin does
// not change the rig.
package parts

import (
	"embed"
	"fmt"
	"reflect"

	"github.com/go-json-experiment/json"
	"github.com/go-json-experiment/json/jsontext"

	"kolvan/core/assess"
	"kolvan/core/rig"
)

//go:embed data/*.json
var data embed.FS

// Kind is the kind of a part: host, card, stage, supply or lead.
type Kind string

// The kinds of parts.
const (
	Host   Kind = "host"
	Card   Kind = "card"
	Stage  Kind = "stage"
	Supply Kind = "supply"
	Lead   Kind = "lead"
)

// Kinds lists the kinds in the order of the work.
func Kinds() []Kind { return []Kind{Host, Stage, Card, Supply, Lead} }

var files = map[Kind]string{Host: "hosts", Card: "cards", Stage: "stages", Supply: "supplies", Lead: "leads"}

// New returns a pointer to an empty part of the kind, or nil for no such kind.
func New(kind Kind) any {
	switch kind {
	case Host:
		return new(rig.Host)
	case Card:
		return new(rig.Card)
	case Stage:
		return new(rig.Stage)
	case Supply:
		return new(rig.Supply)
	case Lead:
		return new(rig.Lead)
	default:
		return nil
	}
}

// Name is the name of a part made by New.
func Name(part any) string { return reflect.ValueOf(part).Elem().FieldByName("Name").String() }

// A Part is one entry of the list or of a bin.
type Part struct {
	Kind Kind
	Name string
	Doc  jsontext.Value // as in a rig file
}

// Decode reads a part of a kind, checks it, and returns it with what New gives.
func Decode(kind Kind, doc []byte) (any, error) {
	part := New(kind)
	if part == nil {
		return nil, &rig.FieldError{Path: "/kind", Value: string(kind), Accepts: "host, card, stage, supply or lead"}
	}
	if err := rig.DecodePart(doc, part); err != nil {
		return nil, err
	}
	if err := rig.ValidatePart(part); err != nil {
		return nil, err
	}
	return part, nil
}

// Builtin returns the built-in list. An error is a fault of the program's own
// data.
func Builtin() ([]Part, error) {
	var all []Part
	for _, kind := range Kinds() {
		raw, err := data.ReadFile("data/" + files[kind] + ".json")
		if err != nil {
			return nil, fmt.Errorf("built-in %s: %w", files[kind], err)
		}
		var docs []jsontext.Value
		if err := json.Unmarshal(raw, &docs); err != nil {
			return nil, fmt.Errorf("built-in %s: %w", files[kind], err)
		}
		for i, doc := range docs {
			part, err := Decode(kind, doc)
			if err != nil {
				return nil, fmt.Errorf("built-in %s, entry %d: %w", files[kind], i, err)
			}
			all = append(all, Part{Kind: kind, Name: Name(part), Doc: doc})
		}
	}
	return all, nil
}

// Bins makes of a list of parts what clearing tries its changes with.
func Bins(list []Part) (*assess.Bins, error) {
	bins := &assess.Bins{}
	for _, p := range list {
		part, err := Decode(p.Kind, p.Doc)
		if err != nil {
			return nil, fmt.Errorf("part %q: %w", p.Name, err)
		}
		switch v := part.(type) {
		case *rig.Host:
			bins.Hosts = append(bins.Hosts, *v)
		case *rig.Stage:
			bins.Stages = append(bins.Stages, *v)
		case *rig.Card:
			if rig.Is(v.BuiltIn, true) {
				continue // a card in its box goes into no other place
			}
			bins.Cards = append(bins.Cards, *v)
		case *rig.Supply:
			if len(v.Inlets) > 0 {
				continue // a converter board stands in for no supply
			}
			bins.Supplies = append(bins.Supplies, *v)
		case *rig.Lead:
			bins.Leads = append(bins.Leads, *v)
		}
	}
	return bins, nil
}
