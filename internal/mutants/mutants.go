// Package mutants makes odd rig files that are legal: what nobody would write, and a program
// must stand. It is for tests.
package mutants

import (
	"encoding/json"
	"maps"
	"math"
	"math/rand/v2"
	"slices"

	"kolvan/core/rig"
	"kolvan/demo"
)

// A Maker makes mutants of some rig files, the same for the same seed.
type Maker struct {
	dice  *rand.Rand
	files [][]byte
	words map[string][]any // what stands anywhere under a name
}

// New is a maker of mutants of rig files.
func New(seed uint64, files ...[]byte) (*Maker, error) {
	m := &Maker{dice: rand.New(rand.NewPCG(seed, 1)), files: files, words: map[string][]any{}}
	for _, file := range files {
		var doc any
		if err := json.Unmarshal(file, &doc); err != nil {
			return nil, err
		}
		walk(doc, func(in map[string]any, name string) { m.words[name] = append(m.words[name], in[name]) })
	}
	return m, nil
}

// OfDemo is a maker of mutants of the demo's rigs.
func OfDemo(seed uint64) (*Maker, error) {
	rigs, err := demo.Rigs()
	if err != nil {
		return nil, err
	}
	files := make([][]byte, len(rigs))
	for i, r := range rigs {
		if files[i], err = rig.Encode(r); err != nil {
			return nil, err
		}
	}
	return New(seed, files...)
}

// Next is another mutant that is legal.
func (m *Maker) Next() *rig.Rig {
	for {
		var doc any
		if json.Unmarshal(m.files[m.dice.IntN(len(m.files))], &doc) != nil {
			continue // New has read them
		}
		for range 1 + m.dice.IntN(6) {
			m.change(doc)
		}
		text, err := json.Marshal(doc)
		if err != nil {
			continue
		}
		if r, err := rig.Decode(text); err == nil {
			return r
		}
	}
}

// walk visits every member of every object, in an order that is always the same.
func walk(doc any, visit func(in map[string]any, name string)) {
	switch at := doc.(type) {
	case map[string]any:
		for _, name := range slices.Sorted(maps.Keys(at)) {
			visit(at, name)
			walk(at[name], visit)
		}
	case []any:
		for _, each := range at {
			walk(each, visit)
		}
	}
}

// change changes one member of the document.
func (m *Maker) change(doc any) {
	var places []func()
	walk(doc, func(in map[string]any, name string) {
		if name != "format" {
			places = append(places, func() { m.changeAt(in, name) })
		}
	})
	if len(places) > 0 {
		places[m.dice.IntN(len(places))]()
	}
}

func (m *Maker) changeAt(in map[string]any, name string) {
	if m.dice.IntN(4) == 0 {
		delete(in, name)
		return
	}
	switch was := in[name].(type) {
	case float64:
		in[name] = m.number(was)
	case []any:
		in[name] = m.list(was)
	case string:
		if m.dice.IntN(5) == 0 {
			in[name] = []string{"", "x", "=1", "no such thing"}[m.dice.IntN(4)]
			return
		}
		in[name] = m.other(name)
	case bool:
		in[name] = !was
	default:
		in[name] = m.other(name)
	}
}

func (m *Maker) number(was float64) any {
	edges := []float64{
		0, 1, 2, 1e-9, 0.5, 16, 100, 1000, 1e5, 1e9, -1, -40, was * 2, was / 2, was + 1, was - 1, math.Round(was), was * 1000,
	}
	return edges[m.dice.IntN(len(edges))]
}

func (m *Maker) list(was []any) any {
	switch {
	case len(was) == 0 || m.dice.IntN(3) == 0:
		return []any{}
	case m.dice.IntN(2) == 0:
		return was[:m.dice.IntN(len(was))]
	default:
		return append(slices.Clone(was), was[m.dice.IntN(len(was))])
	}
}

// other is what stands elsewhere under the same name.
func (m *Maker) other(name string) any {
	all := m.words[name]
	return all[m.dice.IntN(len(all))]
}
