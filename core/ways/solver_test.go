package ways

import (
	"fmt"
	"math"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"kolvan/core/coretest"
	"kolvan/core/link"
	"kolvan/core/rig"
	"kolvan/core/units"
	"kolvan/demo"
)

// model is the question of the best way as constraints: which slot, which stages, which
// new places, which feed. What a solver cannot work out, the netlist and what the
// firmware starts from, it gets as tables judged beforehand; loss is a sum to it.
const model = `
int: slots; int: stages; int: most; int: moves; int: feeds;
array[1..slots, 1..stages] of bool: begins;
array[1..stages, 1..stages] of bool: follows;
array[0..stages] of bool: ends;
array[0..stages] of int: lanes; array[0..stages] of int: gen; array[0..stages] of int: cost;
array[0..stages, 1..6] of int: loss;
array[1..slots] of int: slotLanes; array[1..slots] of int: slotGen;
array[1..slots, 1..6] of int: slotLoss; array[1..6] of int: budget;
array[1..6] of int: rate;
array[1..moves] of int: moveSlot; array[1..moves] of int: moved; array[1..moves] of int: moveDoubt;
array[0..stages] of int: class;
array[1..feeds] of int: feedClass; array[1..feeds] of int: feedCost; array[1..feeds] of int: fans; array[1..feeds] of int: feedDoubt;
var 1..slots: slot; array[1..most] of var 0..stages: s; var 1..moves: move; var 1..feeds: feed;
constraint s[1] > 0 /\ begins[slot, s[1]];
constraint forall(i in 2..most)(s[i] = 0 \/ (s[i-1] > 0 /\ follows[s[i-1], s[i]]));
constraint forall(i in 1..most, j in i+1..most)(s[i] = 0 \/ s[i] != s[j]);
var 1..most: last = max(i in 1..most)(if s[i] > 0 then i else 1 endif);
constraint ends[s[last]];
var 1..16: width = min([slotLanes[slot]] ++ [lanes[s[i]] | i in 1..most]);
var 1..6: speed = min([slotGen[slot]] ++ [gen[s[i]] | i in 1..most]);
constraint slotLoss[slot, speed] + sum(i in 1..most)(loss[s[i], speed]) <= budget[speed];
constraint moveSlot[move] = slot;
constraint feedClass[feed] = max(i in 1..most)(class[s[i]]);
var int: toBuy = sum(i in 1..most)(cost[s[i]]) + feedCost[feed];
solve maximize 3 * width * rate[speed] - 10 * toBuy - 2000 * moved[move] - 1000 * fans[feed] - 20 * (moveDoubt[move] + feedDoubt[feed]);
`

// doubt is the certainty of a part as a sum: hundredths of its logarithm.
func doubt(sure float64) int { return int(math.Round(-100 * math.Log(sure))) }

type dzn struct{ strings.Builder }

func (d *dzn) list(name string, from int, values []int) {
	fmt.Fprintf(d, "%s = array1d(%d..%d, %s);\n", name, from, from+len(values)-1, strings.ReplaceAll(fmt.Sprint(values), " ", ", "))
}

func (d *dzn) table(name, dims string, values any) {
	fmt.Fprintf(d, "%s = array2d(%s, %s);\n", name, dims, strings.ReplaceAll(fmt.Sprint(values), " ", ", "))
}

// question writes a search as the data of the model.
func question(s *search) string {
	d := &dzn{}
	places, n := s.places(), len(s.parts.Stages)
	var begins, follows, ends []bool
	var slotLanes, slotGen, slotLoss, moveSlot, moved, moveDoubt, feedClass, feedCost, fans, feedDoubt []int
	ends = append(ends, false)
	stage := [4][]int{{16}, {6}, {0}, {-1}} // lanes, generation, cost, class of no stage
	loss := make([]int, 6, 6*(n+1))
	seen := map[int]bool{}
	for p, at := range places {
		own := slotSearch{search: s, place: at, moves: moves(at.base, at.from, s.Rig.Route.Displaced), classes: map[string]*class{}}
		slotLanes, slotGen = append(slotLanes, at.from.Lanes.Or(1)), append(slotGen, at.from.Gen.Or(1))
		slotLoss = append(slotLoss, lossOf(s, at.base)...)
		for i := range s.parts.Stages {
			begins = append(begins, link.Begins(at.from, &s.parts.Stages[i]))
		}
		for _, to := range own.moves {
			m := own.moved(&class{}, to)
			if m.stops == 0 {
				moveSlot, moved, moveDoubt = append(moveSlot, p+1), append(moved, m.moved), append(moveDoubt, doubt(m.sure))
			}
		}
	}
	for i := range s.parts.Stages {
		st := &s.parts.Stages[i]
		for j := range s.parts.Stages {
			follows = append(follows, i != j && link.Follows(st, &s.parts.Stages[j]))
		}
		ends = append(ends, rig.Is(st.Socket.Form, rig.CardSlot))
		fed := -1
		if len(st.Inlets) > 0 {
			fed = s.electric[i]
		}
		cost, _, _ := s.costOf(st)
		for k, v := range []int{st.Lanes.Or(16), st.Gen.Or(6), int(cost), fed} {
			stage[k] = append(stage[k], v)
		}
		one := *places[0].base
		one.Route.Stages = s.parts.Stages[i : i+1]
		for g, whole := range lossOf(s, &one) {
			loss = append(loss, max(0, whole-slotLoss[g]))
		}
		if fed < 0 || seen[fed] {
			continue
		}
		seen[fed] = true
		own := slotSearch{search: s, place: places[0]}
		list, _ := own.feeds(&class{stages: []int{i}})
		for _, f := range list {
			if f.merit.stops == 0 {
				feedClass, feedCost, fans, feedDoubt = append(
					feedClass,
					fed,
				), append(
					feedCost,
					int(f.merit.cost),
				), append(
					fans,
					f.merit.fans,
				), append(
					feedDoubt,
					doubt(f.merit.sure),
				)
			}
		}
	}
	budget, rate := make([]int, 6), make([]int, 6)
	for g := range 6 {
		row, _ := s.ref.Generation(g + 1)
		budget[g], rate[g] = int(10*row.Budget), int(row.MBPerLane)/10
	}
	fmt.Fprintf(d, "slots = %d; stages = %d; most = %d; moves = %d; feeds = %d;\n", len(places), n, mostStages, len(moved), len(fans))
	d.table("begins", "1..slots, 1..stages", begins)
	d.table("follows", "1..stages, 1..stages", follows)
	d.table("loss", "0..stages, 1..6", loss)
	d.table("slotLoss", "1..slots, 1..6", slotLoss)
	fmt.Fprintf(d, "ends = array1d(0..stages, %s);\n", strings.ReplaceAll(fmt.Sprint(ends), " ", ", "))
	for k, name := range []string{"lanes", "gen", "cost", "class"} {
		d.list(name, 0, stage[k])
	}
	for name, values := range map[string][]int{"slotLanes": slotLanes, "slotGen": slotGen, "budget": budget, "rate": rate,
		"moveSlot": moveSlot, "moved": moved,
		"moveDoubt": moveDoubt, "feedClass": feedClass, "feedCost": feedCost, "fans": fans, "feedDoubt": feedDoubt} {
		d.list(name, 1, values)
	}
	return d.String()
}

// lossOf is the least loss of a rig's link in tenths of a decibel, by generation.
func lossOf(s *search, r *rig.Rig) []int {
	p, list := link.For(r, s.ref), make([]int, 6)
	for g := range list {
		row, _ := s.ref.Generation(g + 1)
		list[g] = int(10 * (row.Budget - units.Decibel(p.Margin(g+1).Ends.High)))
	}
	return list
}

// BenchmarkSolver puts the question of BenchmarkWays to minizinc with gecode, where they
// are installed.
func BenchmarkSolver(b *testing.B) {
	if _, err := exec.LookPath("minizinc"); err != nil {
		b.Skip("minizinc is not installed")
	}
	rigs, err := demo.Rigs()
	require.NoError(b, err)
	for _, c := range []struct {
		name   string
		copies int
	}{{"the list", 1}, {"five copies", 5}} {
		b.Run(c.name, func(b *testing.B) {
			bins := stock(b)
			if c.copies > 1 {
				bins = manyParts(b, c.copies)
			}
			s := newSearch(Question{Rig: rigs[0], Parts: bins, Weights: Usual}, coretest.Tables(b))
			dir := b.TempDir()
			m, data := filepath.Join(dir, "ways.mzn"), filepath.Join(dir, "ways.dzn")
			require.NoError(b, os.WriteFile(m, []byte(model), 0o600))
			require.NoError(b, os.WriteFile(data, []byte(question(s)), 0o600))
			for b.Loop() {
				out, err := exec.Command("minizinc", "--solver", "gecode", m, data).CombinedOutput()
				require.NoError(b, err, string(out))
				require.Contains(b, string(out), "==========", "it proves the best")
				b.Log(string(out))
			}
		})
	}
}
