package need_test

import (
	"fmt"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"github.com/go-json-experiment/json"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kolvan/core/assess"
	"kolvan/core/coretest"
	"kolvan/core/finding"
	"kolvan/core/need"
	"kolvan/core/rig"
)

func of(t testing.TB, r *rig.Rig) *need.List {
	list, err := need.Of(t.Context(), r, coretest.Tables(t))
	require.NoError(t, err)
	return list
}

// set puts a value at a pointer as a person would with the file in an editor.
func set(t *testing.T, r *rig.Rig, at string, value any) *rig.Rig {
	var doc any
	text, err := rig.Encode(r)
	require.NoError(t, err)
	require.NoError(t, json.Unmarshal(text, &doc))
	put(doc, at, value)
	text, err = json.Marshal(doc)
	require.NoError(t, err)
	changed, err := rig.Decode(text)
	require.NoError(t, err, at)
	return changed
}

func put(doc any, at string, value any) {
	var token string
	for {
		token, at = cut(at)
		switch here := doc.(type) {
		case map[string]any:
			if at == "" {
				here[token] = value
				return
			}
			if list, is := here[token].([]any); is {
				if i, rest := cut(at); rest == "" && i == fmt.Sprint(len(list)) {
					here[token] = append(list, value)
					return
				}
			}
			doc = here[token]
		case []any:
			var i int
			fmt.Sscan(token, &i)
			doc = here[i]
		}
	}
}

func cut(at string) (first, rest string) {
	at = at[1:]
	for i := range at {
		if at[i] == '/' {
			return at[:i], at[i:]
		}
	}
	return at, ""
}

// certain are the certain troubles of a rig.
func certain(t *testing.T, r *rig.Rig) map[string]bool {
	all := map[string]bool{}
	report := assess.Rig(r, coretest.Tables(t))
	for _, f := range report.Findings {
		if f.Level != finding.Note && f.Level != finding.Unknown {
			all[f.Rule+" "+f.Where] = true
		}
	}
	return all
}

func value(b need.Bound) (v any, step float64) {
	v, step = b.AtLeast, -1
	if b.AtMost != nil {
		v, step = b.AtMost, 1
	}
	if ends, is := v.([]any); is {
		v = ends[0]
	}
	if b.OneOf != nil {
		return b.OneOf[0], 0
	}
	if b.Unit == "A" {
		step /= 10
	}
	return v, step
}

// The law of a bound: with all bounds of a need the troubles it is for are gone and nothing
// certain is new; one step less of any of them, one of those troubles is there.
func TestAtTheBoundItIsGoneAndAStepBelowItIsThere(t *testing.T) {
	files, err := filepath.Glob("../../demo/rigs/*.json")
	require.NoError(t, err)
	checked := 0
	for _, file := range files {
		name := filepath.Base(file[:len(file)-len(".json")])
		plan := coretest.Demo(t, name)
		before := certain(t, plan)
		for _, n := range of(t, plan).Needs {
			said := map[string]bool{}
			for _, bounds := range append([][]need.Bound{n.Bounds}, corners(n)...) {
				words := saidIn(bounds)
				assert.False(t, said[words], "%s: %s is told twice: %s", name, n.Part, words)
				said[words] = true
			}
			for _, bounds := range append([][]need.Bound{n.Bounds}, corners(n)...) {
				does := plan
				for _, b := range bounds {
					v, _ := value(b)
					does = set(t, does, b.At, v)
				}
				after := certain(t, does)
				for _, trouble := range n.For {
					assert.NotContains(t, after, trouble.Rule+" "+trouble.Where, "%s: %s", name, n.Part)
				}
				for at := range after {
					assert.Contains(t, before, at, "%s: %s brings it in", name, n.Part)
				}
				for _, b := range bounds {
					v, step := value(b)
					if step == 0 {
						continue
					}
					checked++
					less := certain(t, set(t, does, b.At, v.(float64)+step))
					assert.True(
						t,
						slices.ContainsFunc(n.For, func(f need.Trouble) bool { return less[f.Rule+" "+f.Where] }),
						"%s: %s: %s",
						name,
						n.Part,
						b.Says,
					)
				}
			}
		}
	}
	assert.Greater(t, checked, 10)
}

// saidIn is what bounds ask, in no order.
func saidIn(bounds []need.Bound) string {
	var list []string
	for _, b := range bounds {
		list = append(list, b.At+" "+b.Says)
	}
	slices.Sort(list)
	return strings.Join(list, "; ")
}

// TestAFigureIsTheOneBehindItsWord: of several of one unit on a page.
func TestAFigureIsTheOneBehindItsWord(t *testing.T) {
	asked := need.Item{Conditions: []need.Bound{
		{Fact: "length", AtMost: 100.0, Unit: "mm"}, {Fact: "height", AtMost: 50.0, Unit: "mm"}, {Fact: "width", AtLeast: 120.0, Unit: "mm"},
		{Fact: "rating", AtLeast: 300.0, Unit: "W"},
	}}
	var holds []any
	for _, tick := range asked.Against("Length 120 mm, height 40 mm") {
		if tick.Holds == nil {
			holds = append(holds, nil)
			continue
		}
		holds = append(holds, *tick.Holds)
	}
	assert.Equal(t, []any{false, true, true, nil}, holds, "what stands behind no word is the first of its unit; of another unit nothing")
}

func corners(n need.Need) (list [][]need.Bound) {
	for _, or := range n.Or {
		list = append(list, or.Bounds)
	}
	return list
}

// The sums of the field kit by hand: 130.35 W behind its brick are 10.9 A at 12 V, and 80 % of
// 163 W or of 13.6 A.
func TestABrickThatCarriesTheFieldKit(t *testing.T) {
	var says []string
	for _, n := range of(t, coretest.Demo(t, "field_kit")).Needs {
		if n.Where == "/supplies/0" {
			for _, b := range n.Bounds {
				says = append(says, b.Says)
			}
		}
	}
	assert.Equal(t, []string{"rail out: may deliver 13.6 A or more", "outlet plug: states 10.9 A or more", "rating 163 W or more"}, says)
}

// A plug that nothing feeds needs an outlet more, and the supply what then hangs on it.
func TestASecondPlugNeedsAnOutletAndALargerSupply(t *testing.T) {
	for _, n := range of(t, coretest.Demo(t, "projector_tower")).Needs {
		if n.For[0].Rule != "power.unfed" {
			continue
		}
		require.Len(t, n.Bounds, 4)
		assert.Equal(t, "one more outlet, card 8-pin", n.Bounds[0].Says)
		assert.Equal(t, "rating 475 W or more", n.Bounds[2].Says, "380 W are 80 % of 475")
		return
	}
	t.Fatal("nothing is said of the plug without a feed")
}

// A supply's size that is not known leaves its host's load open: the bound is a range.
func TestWhatIsNotKnownMakesABoundARange(t *testing.T) {
	r := coretest.Demo(t, "projector_tower")
	r.Card.Power.Tolerance = 20
	for _, n := range of(t, r).Needs {
		for _, b := range n.Bounds {
			ends, is := b.AtLeast.([]any)
			if is && b.Unit == "A" {
				if sure, told := ends[1].(float64); told {
					assert.Less(t, ends[0].(float64), sure)
				}
				return
			}
		}
	}
	t.Fatal("no bound is a range")
}

func TestTheShoppingListAsksWhatThePlanAsks(t *testing.T) {
	list := of(t, coretest.Demo(t, "stacker_built"))
	i := slices.IndexFunc(list.Shopping, func(i need.Item) bool { return i.Kind == "supply" })
	require.GreaterOrEqual(t, i, 0)
	supply := list.Shopping[i]
	assert.Contains(t, supply.Line, "rating 215 W or more; rail 12V: may deliver 17.9 A or more")
	assert.Contains(t, supply.Line, "1 × card 8-pin")
	for name, c := range map[string]struct {
		text  string
		holds []string // of each condition and socket: yes, no, or not told
	}{
		"enough":           {"SFX 300 W, 12 V 24 A, one card 8-pin, 3 disk 15-pin", []string{"yes", "yes", "no", "yes"}},
		"exactly":          {"215 W; 12 V 17.9 A; two card 8-pins and a peripheral 4-pin", []string{"yes", "yes", "yes", "yes"}},
		"too little":       {"214 W, 17,8 A", []string{"no", "no", "", ""}},
		"nothing is said":  {"a good one", []string{"", "", "", ""}},
		"no socket at all": {"no 8-pin", []string{"", "", "no", "no"}},
	} {
		var holds []string
		for _, tick := range supply.Against(c.text) {
			switch {
			case tick.Holds == nil:
				holds = append(holds, "")
			case *tick.Holds:
				holds = append(holds, "yes")
			default:
				holds = append(holds, "no")
			}
		}
		assert.Equal(t, c.holds, holds, name)
	}
	for _, item := range list.Shopping {
		part, _, err := rig.At(coretest.Demo(t, "stacker_built"), item.Where)
		require.NoError(t, err)
		assert.False(t, rig.Is(part.FieldByName("Price").Interface().(rig.Price).Owned, true), item.Part)
	}
}

func BenchmarkNeeds(b *testing.B) {
	r, ref := coretest.Demo(b, "projector_tower"), coretest.Tables(b)
	for b.Loop() {
		if _, err := need.Of(b.Context(), r, ref); err != nil {
			b.Fatal(err)
		}
	}
}
