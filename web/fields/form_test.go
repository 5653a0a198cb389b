package fields

import (
	"os"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kolvan/core/rig"
	"kolvan/web/room"
	"kolvan/web/roomtest"
)

// TestLongFormsFold: what is not told is folded where a form is long, named by what it is; a
// form of which nothing is told yet, or a field that was refused, stands open.
func TestLongFormsFold(t *testing.T) {
	r, _, _ := roomtest.Demo(t, "Dome-shed stacker")
	f := For(r, &r.Card, "/card", false, nil)
	assert.Nil(t, f.Folds(), "only an editor folds")
	f.Folding = true
	folds := f.Folds()
	require.NotNil(t, folds)
	assert.False(t, folds.Open)
	assert.Regexp(t, `^\w.*, .* and \d+ more$`, folds.Words)
	fresh := For(r, &rig.Slot{Name: "new"}, "/host/slots/0", false, nil)
	fresh.Folding = true
	assert.True(t, fresh.Folds().Open, "nothing is told yet")
	few := For(r, &r.Supplies[0].Rails[0], "/supplies/0/rails/0", false, nil)
	few.Folding = true
	assert.Nil(t, few.Folds())
	bad := Field{Fact: true, Fault: "no"}
	assert.False(t, bad.Untold())
}

// TestEveryLengthHasItsPicture: of what to measure, from where to where; in a rig and in the
// bins, and each picture is there.
func TestEveryLengthHasItsPicture(t *testing.T) {
	drawn, err := os.ReadFile("../templates/pictures.html")
	require.NoError(t, err)
	r := rig.New("r")
	r.Host.Slots, r.Card.Plugs = []rig.Slot{{}}, []rig.CardPlug{{}}
	r.Route.Stages = []rig.Stage{{Path: []rig.Corner{{}}, Openings: []rig.Layer{{}}}}
	r.Leads = []rig.Lead{{Path: []rig.Corner{{}}}}
	r.Chamber = rig.Chamber{Things: []rig.Thing{{Profile: []rig.ProfilePoint{{}}}}, Covers: []rig.Cover{{}}, Fans: []rig.Fan{{}}}
	r.Brief.Travel.Pieces = []rig.Piece{{}}
	lengths := 0
	rig.Walk(r, func(n rig.Node) {
		if n.Spec.Unit == "mm" {
			lengths++
			assert.Contains(t, string(drawn), `id="measure-`+n.Spec.Measure+`"`, n.Path())
		}
	})
	assert.Greater(t, lengths, 60)
	for _, part := range []any{&rig.Stage{Kind: rig.Of(rig.Cable)}, &rig.Card{}, &rig.Lead{}} {
		for _, f := range For(nil, part, "", false, nil).Fields {
			if f.Unit == "mm" {
				assert.NotEmpty(t, f.Picture, f.Path)
			}
		}
	}
}

func fieldAt(t *testing.T, f *Form, path string) Field {
	for _, field := range f.Fields {
		if field.Path == path {
			return field
		}
	}
	require.Fail(t, "no such field", path)
	return Field{}
}

func TestFormOfASlot(t *testing.T) {
	r, _, _ := roomtest.Demo(t, "Dome-shed stacker")
	f := For(r, &r.Host.Slots[0], "/host/slots/0", false, nil)
	gen := fieldAt(t, f, "/host/slots/0/generation")
	assert.Equal(t, "papers", gen.Source)
	assert.True(t, gen.Numeric && gen.Known && gen.Fact)
	occupant := fieldAt(t, f, "/host/slots/0/occupant")
	assert.Equal(t, "select", occupant.Input)
	assert.Equal(t, Choice{"boot drive", "boot drive", true}, occupant.Choices[2])
	carries := fieldAt(t, f, "/host/slots/0/carries")
	assert.Equal(
		t,
		[]Choice{
			{"pcie", "PCIe", true}, {"sata", "SATA", true}, {"usb", "USB", false}, {"video", "video", false},
			{"radio", "radio", false},
		},
		carries.Choices,
	)
	for _, field := range f.Fields {
		assert.NotContains(t, field.Path, "tunnel", "an M.2 slot has no tunnel")
	}
}

func TestFieldsSayWhatCountsUnlessTold(t *testing.T) {
	r := rig.New("settings")
	form := For(r, &r.Sizing, "/sizing", false, nil)
	assert.Equal(t, "spikes, unless told", form.Fields[0].Choices[0].Label)
	assert.False(t, form.Fields[1].Open())
	assert.True(t, For(r, &r.Brief, "/brief", false, nil).Fields[0].Open(), "a budget that is not told is unknown")
}

// TestFieldsStandWhereTheyMeanSomething: what a key, a length in lanes or sense
// pins would say of this form, nobody is asked.
func TestFieldsStandWhereTheyMeanSomething(t *testing.T) {
	r, _, _ := roomtest.Demo(t, "Dome-shed stacker")
	shown := func(form rig.Form) (paths []string) {
		r.Host.Slots[0].Form = rig.Of(form)
		r.Host.Slots[0].Key = rig.Fact[rig.Key]{}
		for _, f := range For(r, &r.Host.Slots[0], "/s", false, nil).Fields {
			paths = append(paths, strings.TrimPrefix(f.Path, "/s/"))
		}
		return paths
	}
	assert.Contains(t, shown(rig.M2), "key")
	assert.NotContains(t, shown(rig.M2), "lanes_mechanical")
	assert.Subset(t, shown(rig.CardSlot), []string{"lanes_mechanical", "open_end", "power_limit_w"})
	assert.NotContains(t, shown(rig.CardSlot), "key")
	assert.Contains(t, shown(rig.Tunnel), "tunnel_gbit_s")
}

// TestNamesAreEscapedInOptions: a slot may be called anything.
func TestNamesAreEscapedInOptions(t *testing.T) {
	f := Field{Choices: []Choice{{`"><script>`, "<b>", true}, {"x", "x", false}}}
	assert.Equal(t, `<option value="&#34;&gt;&lt;script&gt;" selected>&lt;b&gt;</option><option value="x">x</option>`, string(f.Options()))
}

func TestFormShowsInchesAndTakesThemBack(t *testing.T) {
	r, _, _ := roomtest.Demo(t, "Projector tower")
	shown := fieldAt(t, For(r, &r.Card, "/card", true, nil), "/card/length_mm")
	assert.Equal(t, "11.102 in", shown.Value)
	assert.Equal(t, "0.039 in", shown.Tolerance)
	require.NoError(t, rig.Set(r, "/card/length_mm", shown.Value))
	assert.InDelta(t, 282, float64(r.Card.Length.Value), 0.02)
}

func TestFormKeepsWhatWasRefused(t *testing.T) {
	r, _, _ := roomtest.Demo(t, "Field kit")
	f := For(r, &r.Card, "/card", false, &room.Trouble{Path: "/card/mass_g", Typed: "heavy", Says: "no"})
	mass := fieldAt(t, f, "/card/mass_g")
	assert.Equal(t, "heavy", mass.Value)
	assert.Equal(t, "no", mass.Fault)
	assert.Empty(t, fieldAt(t, f, "/card/lanes").Fault)
}
