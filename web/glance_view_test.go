package web

import (
	"os"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kolvan/core/assess"
	"kolvan/core/parts"
	"kolvan/core/rig"
	"kolvan/core/units"
)

// TestFiguresSayWhatIsKnownOfThem: a figure, its two ends, the one that is certain,
// or that nothing is.
func TestFiguresSayWhatIsKnownOfThem(t *testing.T) {
	report := &assess.Report{Bounds: assess.Bounds{
		{Name: "a", Low: 5, High: 5}, {Name: "b", Low: 2, High: 4}, {Name: "c", Low: 0, High: 4},
		{Name: "d", Low: 3, Open: true}, {Name: "e", Open: true},
	}}
	for name, want := range map[string]string{
		"a": "5 W", "b": "2–4 W", "c": "at most 4 W", "d": "at least 3 W", "e": "not known", "f": "not known",
	} {
		assert.Equal(t, want, figureOf(report, name, printWatts), name)
	}
	r, known, ref := demoRig(t, "Dome-shed stacker")
	assert.Equal(t, "x4 Gen 3", linkWords(known))
	without, err := rig.With(r, "/host/slots/0/generation", "")
	require.NoError(t, err)
	open := assess.Rig(without, ref)
	assert.Equal(t, "x4 Gen 1–4", linkWords(&open))
	assert.Equal(t, "80 % sustained, and the card's millisecond spikes", judgedFor(r, known.Power))
	r.Sizing = rig.Sizing{Policy: rig.Of(rig.Share), Share: rig.Of(units.Share(0.7))}
	again := assess.Rig(r, ref)
	assert.Equal(t, "70 % sustained", judgedFor(r, again.Power))
}

func TestNetsAreLitOneAtATime(t *testing.T) {
	r, report, _ := demoRig(t, "Dome-shed stacker")
	d := drawPower(r, report, "")
	d.nets(r, report.Power, "live/1")
	labels := map[string]bool{}
	for _, chip := range d.Nets {
		labels[chip.Label] = chip.Here
	}
	assert.Equal(t, map[string]bool{"supply of Lantern 550": true, "3.3 V of Lantern 550": false, "ground, one for all": false}, labels)
	for _, b := range d.Boxes {
		lit := b.Sel != "/supplies/0" && b.Sel != "/host"
		assert.Equal(t, lit, strings.HasSuffix(b.Class, " lit"), "%s is %s", b.Sel, b.Class)
	}
	for _, b := range d.Bands {
		assert.Equal(t, b.Sel != "/host", strings.HasSuffix(b.Class, " lit"), b.Name)
	}
}

// TestChainsAreDrawnJoined: a lead that goes on in another is no loose end.
func TestChainsAreDrawnJoined(t *testing.T) {
	r, _, ref := demoRig(t, "Dome-shed stacker")
	r.Leads[1].To = []rig.LeadEnd{{At: "x", Connector: rig.Of[rig.Connector]("card-8")}}
	report := assess.Rig(r, ref)
	assert.Len(t, drawPower(r, &report, "").Loose, 1)
	r.Leads = append(
		r.Leads,
		rig.Lead{
			Name: "on", From: []rig.LeadEnd{{Part: r.Leads[1].Name, At: "x", Connector: rig.Of[rig.Connector]("card-8")}},
			To: []rig.LeadEnd{{Part: rig.CardPart, At: "A", Connector: rig.Of[rig.Connector]("card-8")}},
		},
	)
	report = assess.Rig(r, ref)
	d := drawPower(r, &report, "")
	assert.Empty(t, d.Loose)
	for i, a := range d.Labels {
		for _, b := range d.Labels[:i] {
			assert.False(t, a.X-b.X < 90 && b.X-a.X < 90 && a.Y-b.Y < 20 && b.Y-a.Y < 20, "%q stands on %q", a.Text, b.Text)
		}
	}
}

// TestStepsOfferTheBestFirst: slots by what they give, cards by what the uses need,
// stages by how soon they end in a card slot.
func TestStepsOfferTheBestFirst(t *testing.T) {
	r, report, _ := demoRig(t, "Dome-shed stacker")
	builtin, err := parts.Builtin()
	require.NoError(t, err)
	list, err := listParts(builtin)
	require.NoError(t, err)
	r.Route = rig.Route{}
	slots := starting(wayStep, r, report, list).Choices
	assert.Equal(t, "m2-a", slots[0].Name)
	assert.Contains(t, slots[0].About, "x4 Gen 3, holds boot drive, which would have to move")

	r.Brief.Works = []rig.Work{{Name: "large", Memory: rig.Of[units.Gibibyte](14)}}
	mine := list[0]
	for _, f := range list {
		if f.Kind == "card" {
			mine = f
		}
	}
	mine.Mine, mine.Name = true, "my own"
	cards := starting(cardStep, r, report, append([]found{mine}, list...)).Choices
	assert.Equal(t, "my own", cards[0].Name)
	assert.Contains(t, cards[1].About, "16 GiB", "the cheapest that is large enough")

	r.Route.Slot = "m2-a"
	for _, choice := range starting(wayStep, r, report, list).Choices[:2] {
		assert.Contains(t, choice.About, "dock", "%s ends in a card slot", choice.Name)
	}
	r.Chamber = rig.Chamber{}
	assert.Len(t, starting(roomStep, r, report, nil).Choices, 2)
}

// TestBriefSaysWhatAnAnswerDoes beside each question.
func TestBriefSaysWhatAnAnswerDoes(t *testing.T) {
	r, report, ref := demoRig(t, "Ticket-desk all-in-one")
	effects := func(id string) (all string) {
		for _, q := range briefQuestions(&Desk{ID: 1, Rig: r, Report: report, Ref: ref}) {
			for _, e := range q.Effects {
				if q.ID == id {
					all += e.Level + " " + e.Says + "\n"
				}
			}
		}
		return all
	}
	assert.Contains(t, effects("uses"), "risk Denoising model, after hours needs 10 GiB of card memory; the card has 8 GiB.")
	assert.Contains(t, effects("uses"), "Ticket films on the hall screen has the 2 GiB it needs: the card has 8 GiB.")
	assert.Contains(t, effects("budget"), "Still to buy: 107 kr, 43 kr left.")
	assert.Contains(t, effects("screen"), "No frame comes back")
	assert.Contains(t, effects("altered"), "alters nothing so far")
	r.Brief.Budget, r.Brief.Energy = rig.Of[units.Money](50), rig.Of[units.Money](2)
	r.Brief.Screen.Kind = rig.Of[rig.ScreenKind]("own-panel")
	r.Alterations = []rig.Alteration{{Name: "cut the back", Touches: rig.Of[rig.Touches]("cover")}}
	again := assess.Rig(r, ref)
	report = &again
	assert.Contains(t, effects("budget"), "risk Still to buy: 107 kr, 57 kr over.")
	assert.Contains(t, effects("screen"), "comes back over the link: 0.50 GB/s.")
	assert.Contains(t, effects("altered"), "The plan says: cut the back.")
	assert.Regexp(t, `An hour under load comes to 0\.\d+ to 0\.\d+ kr`, effects("energy"))
}

// TestEveryLengthHasItsPicture: of what to measure, from where to where; in a rig and in the
// bins, and each picture is there.
func TestEveryLengthHasItsPicture(t *testing.T) {
	drawn, err := os.ReadFile("templates/pictures.html")
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
		for _, f := range formFor(nil, part, "", false, nil).Fields {
			if f.Unit == "mm" {
				assert.NotEmpty(t, f.Picture, f.Path)
			}
		}
	}
}

// TestFieldsMeanSomethingWhereTheyStand: what means nothing beside what is told is
// not shown, nor what means nothing at the station.
func TestFieldsMeanSomethingWhereTheyStand(t *testing.T) {
	r := rig.New("r")
	shown := func(v any, at string) (paths string) {
		f := formFor(r, v, at, false, nil)
		for _, field := range f.Fields {
			paths += field.Path + " "
		}
		for _, list := range f.Lists {
			paths += list.Path + " "
		}
		return paths
	}
	slot := &rig.Slot{Name: "s", Form: rig.Of(rig.CardSlot)}
	assert.NotContains(t, shown(slot, "/s"), "/s/key")
	slot.Form = rig.Of(rig.M2)
	assert.Contains(t, shown(slot, "/s"), "/s/key")
	slot.Form, slot.Key = rig.Of(rig.CardSlot), rig.Of[rig.Key]("M")
	assert.Contains(t, shown(slot, "/s"), "/s/key", "what was entered is shown, whatever it means")
	assert.NotContains(t, shown(&rig.Chamber{Open: true}, "/chamber"), "box")
	assert.Contains(t, shown(&rig.Chamber{}, "/chamber"), "/chamber/box/x_mm")
	assert.Contains(t, shown(&rig.Chamber{}, "/chamber"), "/chamber/things")
	assert.NotContains(t, shown(&rig.Outlet{Connector: rig.Of[rig.Connector]("card-8")}, "/o"), "/o/pins")
	assert.Contains(t, shown(&rig.Outlet{Connector: rig.Of[rig.Connector]("proprietary")}, "/o"), "/o/pins")

	tower, report, ref := demoRig(t, "Projector tower")
	v := &region{Desk: &Desk{ID: 1, Station: "fit", Sel: "/card", Rig: tower, Report: report, Ref: ref}}
	v.edit(&fitRoom)
	for _, f := range v.Form.Fields {
		assert.NotContains(t, f.Path, "encoders")
	}
	length := fieldAt(t, v.Form, "/card/length_mm")
	assert.Equal(t, "card-length", length.Picture)
	assert.Len(t, length.With, 4)
}
