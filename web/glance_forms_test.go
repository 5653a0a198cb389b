package web

import (
	"strings"
	"testing"

	jsonpatch "github.com/evanphx/json-patch/v5"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"kolvan/core/finding"
	"kolvan/core/reference"
	"kolvan/core/rig"
)

// TestNothingOnTheBoardCoversAnother: wherever slots were put, while there is room on their
// side; processor and chipset are not covered either.
func TestNothingOnTheBoardCoversAnother(t *testing.T) {
	rapid.Check(t, func(rt *rapid.T) {
		r := rig.New("board")
		forms := []rig.Form{rig.M2, rig.MiniPCIe, rig.CardSlot, rig.OCuLink, rig.Tunnel}
		for range rapid.IntRange(1, 7).Draw(rt, "slots") {
			s := rig.Slot{
				Name: "s",
				Form: rig.Of(rapid.SampledFrom(forms).Draw(rt, "form")),
				Side: rig.Of(rapid.SampledFrom([]rig.Side{"top", "underside"}).Draw(rt, "side")),
			}
			if rapid.Bool().Draw(rt, "placed") {
				s.BoardX, s.BoardY = rig.Of(rapid.Float64Range(0, 100).Draw(rt, "x")), rig.Of(rapid.Float64Range(0, 100).Draw(rt, "y"))
			}
			if rapid.Bool().Draw(rt, "behind") {
				s.Behind = rig.Of(rig.Chipset)
			}
			r.Host.Slots = append(r.Host.Slots, s)
		}
		d := drawBoard(r, rapid.SampledFrom([]*boardPlan{boardWide, boardTall}).Draw(rt, "plan"), "")
		sides := map[rig.Side]int{}
		for i := range d.Slots {
			a := &d.Slots[i]
			if sides[sideOf(&r.Host.Slots[i])]++; sides[sideOf(&r.Host.Slots[i])] > 2 {
				continue // the side may be full
			}
			for _, fixed := range d.Fixed {
				assert.False(rt, meets(a.X, a.Y, &a.box, &fixed, nameOver), "%v covers %v", a.box, fixed)
			}
			for j := range d.Slots[:i] {
				assert.False(rt, meets(a.X, a.Y, &a.box, &d.Slots[j].box, 0), "%d covers %d", i, j)
			}
		}
	})
}

// TestSlotsAreDrawnAsTheyAre: by form, by what is in them, by their key and their room.
func TestSlotsAreDrawnAsTheyAre(t *testing.T) {
	classes := func(s rig.Slot) (list string) {
		for _, shape := range slotShapes(&s, 0, 0) {
			list += shape.Class + " "
		}
		return list
	}
	m2 := rig.Slot{Form: rig.Of(rig.M2), Occupant: rig.Of("drive")}
	assert.NotContains(t, classes(m2), "board-notch", "its key is not told")
	m2.Key = rig.Of[rig.Key]("M")
	assert.Contains(t, classes(m2), "board-module board-chip board-metal board-dark board-teeth board-notch")
	m2.Occupant = rig.Of(rig.NoOccupant)
	assert.Contains(t, classes(m2), "board-open")
	card := rig.Slot{Form: rig.Of(rig.CardSlot), Mechanical: rig.Of(4)}
	assert.Contains(t, classes(card), "board-metal", "closed at its end")
	card.OpenEnd = rig.Of(true)
	assert.NotContains(t, classes(card), "board-metal")
	assert.Equal(t, "board-open ", classes(rig.Slot{}), "nobody said what it is")
	for _, kind := range []rig.HostKind{rig.Notebook, rig.Desktop, rig.AllInOne, rig.SingleBoard} {
		r := rig.New("host")
		r.Host.Kind = rig.Of(kind)
		without := rig.New("host")
		assert.NotEqual(t, drawBoard(without, boardWide, "").Lines, drawBoard(r, boardWide, "").Lines, kind)
	}
}

// TestKeysAreSeenByTheirNotches: one key more, one notch more.
func TestKeysAreSeenByTheirNotches(t *testing.T) {
	pictures := keyPictures([]string{"M", "B+M"}, "M")
	require.Len(t, pictures, 2)
	assert.True(t, pictures[0].On)
	assert.Equal(t, "key B and M", pictures[1].Label)
	assert.Greater(t, strings.Count(pictures[0].Teeth, "M"), strings.Count(pictures[1].Teeth, "M"))
	assert.Greater(t, notchOf("M"), notchOf("E"))
	assert.Negative(t, notchOf(""))
}

// TestLongFormsFold: what is not told is folded where a form is long, named by what it is; a
// form of which nothing is told yet, or a field that was refused, stands open.
func TestLongFormsFold(t *testing.T) {
	r, _, _ := demoRig(t, "Dome-shed stacker")
	f := formFor(r, &r.Card, "/card", false, nil)
	assert.Nil(t, f.Folds(), "only an editor folds")
	f.Folding = true
	folds := f.Folds()
	require.NotNil(t, folds)
	assert.False(t, folds.Open)
	assert.Regexp(t, `^\w.*, .* and \d+ more$`, folds.Words)
	fresh := formFor(r, &rig.Slot{Name: "new"}, "/host/slots/0", false, nil)
	fresh.Folding = true
	assert.True(t, fresh.Folds().Open, "nothing is told yet")
	few := formFor(r, &r.Supplies[0].Rails[0], "/supplies/0/rails/0", false, nil)
	few.Folding = true
	assert.Nil(t, few.Folds())
	bad := field{Fact: true, Fault: "no"}
	assert.False(t, bad.Untold())
}

// TestBriefIsReadThenAnswered: what is told stands in a line with its units; usual screens are a
// press; a refused field opens its question.
func TestBriefIsReadThenAnswered(t *testing.T) {
	r, report, ref := demoRig(t, "Ticket-desk all-in-one")
	by := map[string]briefQuestion{}
	for _, q := range briefQuestions(&Desk{ID: 2, Rig: r, Report: report, Ref: ref}) {
		by[q.ID] = q
	}
	assert.Equal(t, "external, 1920 px, 1080 px, 60 Hz, port 1", by["screen"].Answer())
	assert.Equal(t, "150, kr", by["budget"].Answer())
	assert.False(t, by["budget"].Bad())
	for _, press := range by["screen"].Quick {
		doc, err := rig.Encode(r)
		require.NoError(t, err)
		patch, err := jsonpatch.DecodePatch(press.Patch)
		require.NoError(t, err)
		doc, err = patch.Apply(doc)
		require.NoError(t, err, press.Change)
		_, err = rig.Decode(doc)
		require.NoError(t, err, press.Change)
	}
	for _, q := range briefQuestions(&Desk{ID: 2, Rig: r, Report: report, Ref: ref, Trouble: &trouble{Path: "/brief/budget", Typed: "much", Says: "no"}}) {
		assert.Equal(t, q.ID == "budget", q.Bad(), q.ID)
	}
}

// TestWhatRecursIsSaidOnce: nine leads in one socket are one line.
func TestWhatRecursIsSaidOnce(t *testing.T) {
	also := findingView{Line: "two leads want one socket"}
	s := subject{Line: "two supplies feed into each other", Also: []findingView{also, {Line: "the slot is asked for 66 W"}, also, also}}
	assert.Equal(t, []string{"two leads want one socket, 3 times", "the slot is asked for 66 W"}, s.AlsoLines())
	s.Head.Says = "Two supplies feed into each other."
	assert.Equal(t, s.Head.Says, s.Says())
	s.Led = true
	assert.Empty(t, s.Says(), "the answer says it")
	s.Changes = []changeView{{Change: finding.Change{Change: "a"}}, {Change: finding.Change{Change: "b"}}}
	assert.Len(t, s.First(), 1)
	s.Pressed = true
	assert.Empty(t, s.First(), "the answer has it")
}

// TestAChangeInAFewWords: without its plug's kind, its figures behind it.
func TestAChangeInAFewWords(t *testing.T) {
	for change, want := range map[string][2]string{
		"Feed dock from outlet p1 of main, a peripheral 4-pin: the lead, 76.3 of 132 W": {"Feed dock from outlet p1 of main",
			"The lead, 76.3 of 132 W; clears 2 findings"},
		"Use card Tern 8G, giving up 8 GiB of memory: smallest gap 18 mm": {"Use card Tern 8G",
			"Giving up 8 GiB of memory: smallest gap 18 mm; clears 2 findings"},
		"Let drive cage stay out: smallest gap 4.5 mm": {"Let drive cage stay out", "Smallest gap 4.5 mm; clears 2 findings"},
	} {
		v := changeView{Change: finding.Change{Change: change}, Clears: 2}
		assert.Equal(t, want, [2]string{v.Heads(), v.Rest()})
	}
}

// TestEveryFormHasItsPicture, and what looks like something else says so beside it.
func TestEveryFormHasItsPicture(t *testing.T) {
	pictures, err := templates.ReadFile("templates/pictures.html")
	require.NoError(t, err)
	ref, err := reference.Load()
	require.NoError(t, err)
	for _, word := range rig.Form("").Words().All() {
		face := formFaceOf(rig.Form(word))
		assert.Contains(t, string(pictures), `<symbol id="`+face.Symbol+`"`)
		if row := ref.Form(rig.Form(word), ""); row != nil && row.Looks != "" {
			assert.Contains(t, face.Mind, "never", word)
		}
	}
	r := rig.New("x")
	r.Host.Slots = []rig.Slot{{Name: "a", Form: rig.Of(rig.Form("usb3-lane"))}, {Name: "b"}}
	faces := map[string]*formFace{}
	for i := range r.Host.Slots {
		for _, f := range formFor(r, &r.Host.Slots[i], rig.SlotPath(i), false, nil).Fields {
			if f.Label == "form" || f.Label == "Form" {
				faces[r.Host.Slots[i].Name] = f.Face
			}
		}
	}
	require.NotNil(t, faces["a"])
	assert.Contains(t, faces["a"].Mind, "never into a USB port")
	assert.Nil(t, faces["b"], "not told yet")
}
