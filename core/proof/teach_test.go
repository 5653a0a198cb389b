package proof

import (
	"math"
	"math/rand/v2"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kolvan/core/reference"
	"kolvan/core/rig"
	"kolvan/core/units"
)

// An owner uses one sort of use in one way: what moves and what the processor takes differ little
// from rig to rig.
type owner struct {
	kind  rig.UseKind
	mb, c float64
	draw  *rand.Rand
}

func ownerOf(row *reference.Use, draw *rand.Rand) owner {
	some := func(r [2]float64) float64 { // eight in ten within what is likely
		middle, half := math.Log(r[0]*r[1])/2, math.Log(r[1]/r[0])/2
		return math.Exp(middle + half/1.2816*draw.NormFloat64())
	}
	return owner{row.Kind, some(row.MB), some(row.ProcessorMS), draw}
}

// rig is one of theirs, as it ran: over that link, with a card of its own.
func (o owner) rig(name string, net, cardMS float64) (*rig.Rig, float64) {
	vary := func() float64 { return math.Exp(0.12 * o.draw.NormFloat64()) }
	t := Terms{C: o.c * vary(), G: cardMS, L: (0.7 + 0.25*o.draw.Float64()) * o.mb * vary() / net}
	rate := 1000 / t.Added(3+2*o.draw.Float64())
	r := rig.New(name)
	r.Card.Name = "Skua 16G"
	r.Brief.Works = []rig.Work{{Name: "play", Kind: rig.Of(o.kind), CardHz: rig.Of(1000 / cardMS)}}
	run := rated("after", rate)
	run.Use = "play"
	r.Runs = []rig.Run{run}
	return r, rate
}

// TestRunsTeach: of simulated owners the next rig runs within what is likely in eight of ten, and
// after five rigs that is at most half as wide as before; what is possible at the utmost stays.
func TestRunsTeach(t *testing.T) {
	ref, err := reference.Load()
	require.NoError(t, err)
	draw := rand.New(rand.NewPCG(5, 5))
	nets := []float64{0.35, 0.8, 1.6, 3.2}
	for _, kind := range []rig.UseKind{"game-stream", "game-rate", "compute"} {
		const owners = 150
		held, narrower := 0, []float64(nil)
		for range owners {
			o := ownerOf(ref.Use(kind), draw)
			some := func() (float64, float64) { return nets[draw.IntN(len(nets))], 4 + 16*draw.Float64() }
			var lessons []Lesson
			for len(lessons) < 5 {
				net, card := some()
				r, _ := o.rig("r", net, card)
				lessons = append(lessons, LessonsOf(r, Link{Net: units.Exactly(units.GigabytePerSecond(net)), Ref: ref})...)
			}
			net, card := some()
			next, rate := o.rig("next", net, card)
			l := Link{Net: units.Exactly(units.GigabytePerSecond(net)), Ref: ref}
			before := ExpectOf(next, &next.Brief.Works[0], l, Same)
			Teach(next, lessons)
			after := ExpectOf(next, &next.Brief.Works[0], l, Same)
			assert.Equal(t, before.Ends, after.Ends)
			if len(lessons) < 5 {
				t.Fatal(lessons)
			}
			if after.Likely.Rate[0] <= rate && rate <= after.Likely.Rate[1] {
				held++
			}
			if wide := before.Likely.Share[1] - before.Likely.Share[0]; wide > 0.2 {
				narrower = append(narrower, (after.Likely.Share[1]-after.Likely.Share[0])/wide)
			}
		}
		slices.Sort(narrower)
		t.Logf("%s: held %d of %d; of those with a wide range half are at most %.2f times as wide", kind, held, owners, narrower[len(narrower)/2])
		assert.GreaterOrEqual(t, float64(held), 0.8*owners-8, kind)
		assert.Less(t, narrower[len(narrower)/2], 0.5, kind)
	}
}

// TestWhatTeaches, and what does not: a use whose sort or own rate is not told, that ran without the
// card, or hardly waits for its link; what is told of the use itself says what its sort does.
func TestWhatTeaches(t *testing.T) {
	ref, err := reference.Load()
	require.NoError(t, err)
	l := Link{Net: units.Exactly(units.GigabytePerSecond(0.8)), Ref: ref}
	o := owner{"game-stream", 6, 6, rand.New(rand.NewPCG(1, 1))}
	for name, change := range map[string]func(r *rig.Rig){
		"no sort":     func(r *rig.Rig) { r.Brief.Works[0].Kind = rig.Fact[rig.UseKind]{} },
		"no own rate": func(r *rig.Rig) { r.Brief.Works[0].CardHz = rig.Fact[float64]{} },
		"before":      func(r *rig.Rig) { r.Runs[0].Side = rig.Of(rig.RunSide("before")) },
		"fills once":  func(r *rig.Rig) { r.Brief.Works[0].Kind = rig.Of(rig.UseRender) },
		"no link":     func(r *rig.Rig) { r.Runs = nil },
	} {
		r, _ := o.rig("r", 0.8, 8)
		assert.Len(t, LessonsOf(r, l), 1)
		change(r)
		assert.Empty(t, LessonsOf(r, l), name)
	}
	none, _ := o.rig("r", 0.8, 8)
	assert.Empty(t, LessonsOf(none, Link{Ref: ref}))

	next, _ := o.rig("next", 0.8, 8)
	next.Runs = nil
	w := &next.Brief.Works[0]
	plain := ExpectOf(next, w, l, Same)
	heavy, _ := o.rig("heavy", 0.8, 8)
	heavy.Brief.Works[0].FrameMB = rig.Of(20.0)
	heavy.Runs[0].Average = rig.Of(1000 / (8 + 0.8*20/0.8))
	Teach(next, LessonsOf(heavy, l))
	slow := ExpectOf(next, w, l, Same)
	assert.Less(t, slow.Likely.Share[1], plain.Likely.Share[0]+0.05, "what moves there moves here")
	f := Make(next, l, nil, l.Net, Same)
	require.NotNil(t, f.Uses[0].Taught)
	assert.Equal(t, []string{"heavy"}, f.Uses[0].Taught.Rigs)
	assert.Equal(t, plain.Likely.Share, f.Uses[0].Taught.Without)
	assert.Contains(t, f.Uses[0].Taught.Words(), "by what heavy ran at; ")
	twice := Make(next, l, next, units.Exactly(units.GigabytePerSecond(1.6)), Same).Uses[0]
	Teach(next, nil)
	untaught := Make(next, l, next, units.Exactly(units.GigabytePerSecond(1.6)), Same).Uses[0]
	assert.Greater(t, twice.ChangeLikely[0], untaught.ChangeLikely[0], "much moves: twice the link tells more")
	assert.LessOrEqual(t, twice.Change[0], twice.ChangeLikely[0])
	assert.GreaterOrEqual(t, twice.Change[1], twice.ChangeLikely[1])
	assert.InDelta(t, twice.Then.Likely.Share[0]/twice.Now.Likely.Share[0]-1, twice.ChangeLikely[1], 0.3, "rate, share and change agree")
	w.Kind = rig.Of(rig.UseKind("desktop"))
	Teach(next, LessonsOf(heavy, l))
	assert.Empty(t, w.Taught().Rigs, "another sort")
	w.Kind = rig.Of(rig.UseKind("game-stream"))
	w.FrameMB = rig.Of(1.0)
	Teach(next, LessonsOf(heavy, l))
	assert.Greater(t, ExpectOf(next, w, l, Same).Likely.Share[1], slow.Likely.Share[1], "what is told of the use holds against its sort")
	Teach(next, nil)
	assert.Nil(t, Make(next, l, nil, l.Net, Same).Uses[0].Taught)
}
