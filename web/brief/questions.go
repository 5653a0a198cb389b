package brief

import (
	"fmt"
	"slices"
	"strings"

	"github.com/go-json-experiment/json/jsontext"

	"kolvan/core/assess"
	"kolvan/core/brief"
	"kolvan/core/finding"
	"kolvan/core/ledger"
	"kolvan/core/proof"
	"kolvan/core/rig"
	"kolvan/core/units"
	"kolvan/web/fields"
	"kolvan/web/fit"
	"kolvan/web/phrase"
	"kolvan/web/room"
)

// briefQuestion is one question of the brief, its fields, and what the answer does
// to the plan as it stands.
type briefQuestion struct {
	ID, Asks, Help string
	Form           *fields.Form
	List           *fields.ListView
	Effects        []Effect
	Quick          []finding.Change // answers given by one press
	Rates          []askedRate      // what the card does for each use elsewhere, as long as nobody told
}

// An askedRate is asked for where a card is chosen: it narrows what is expected most.
type askedRate struct{ Use, Card, Path string }

// mostAskedRates are asked for at once.
const mostAskedRates = 3

// askedRates are of the uses of which a rate says something, and that were not run with the card.
func askedRates(r *rig.Rig, l proof.Link) (list []askedRate) {
	if r.Card.Name == "" {
		return nil
	}
	for i := range r.Brief.Works {
		w := &r.Brief.Works[i]
		if w.Name != "" && !w.CardHz.Known && !w.FillsOnce() && len(proof.WithCard(r, w.Name)) == 0 && len(list) < mostAskedRates &&
			l.Net.High > 0 {
			list = append(list, askedRate{w.Name, r.Card.Name, fmt.Sprintf("/brief/works/%d/card_hz", i)})
		}
	}
	return list
}

// Answer is what is told, in a line.
func (q briefQuestion) Answer() string {
	var told []string
	for _, f := range q.Form.Fields {
		if f.Fact && !f.Known {
			continue
		}
		words := f.Value
		if f.Unit != "" && f.Numeric {
			words += " " + f.Unit
		}
		for _, c := range f.Choices {
			if c.On {
				words = c.Label
			}
		}
		if words != "" {
			told = append(told, words)
		}
	}
	if q.List != nil {
		for _, item := range q.List.Items {
			told = append(told, item.Name)
		}
	}
	return strings.Join(told, ", ")
}

// Bad reports a field that was refused: its question stands open.
func (q briefQuestion) Bad() bool {
	return slices.ContainsFunc(q.Form.Fields, func(f fields.Field) bool { return f.Fault != "" })
}

// screenChoices are the usual screens.
func screenChoices() (list []finding.Change) {
	for _, s := range []struct {
		name         string
		across, down int
		rate         float64
	}{{"1080p, 60 Hz", 1920, 1080, 60}, {"1440p, 60 Hz", 2560, 1440, 60}, {"2160p, 60 Hz", 3840, 2160, 60}} {
		list = append(list, finding.Change{
			Change: s.name, Patch: jsontext.Value(fmt.Sprintf(
				`[{"op":"add","path":"/brief/screen","value":{"kind":"external","width_px":%d,"height_px":%d,"rate_hz":%g}}]`, s.across, s.down, s.rate,
			)),
		})
	}
	return append(list,
		finding.Change{Change: "the host's own panel",
			Patch: jsontext.Value(`[{"op":"add","path":"/brief/screen","value":{"kind":"own-panel"}}]`)},
		finding.Change{Change: "no screen", Patch: jsontext.Value(`[{"op":"add","path":"/brief/screen","value":{"kind":"none"}}]`)},
	)
}

// Effect is what an answer does, at a level where it does harm.
type Effect struct{ Says, Level string }

// briefQuestions lays the brief out as a page of questions.
func briefQuestions(d *room.Desk) []briefQuestion {
	r, report := d.Rig, d.Report
	whole := fields.For(r, &r.Brief, "/brief", d.Inches, d.Trouble)
	whole.Lists = append(whole.Lists, fields.For(r, r, "", d.Inches, nil).ListAt("/alterations"))
	ask := func(id, asks, help string, effects []Effect, names ...string) briefQuestion {
		q := briefQuestion{
			ID: id, Asks: asks, Help: help, Effects: effects, Form: &fields.Form{Path: "/brief", Post: fmt.Sprintf("/rigs/%d", d.ID)},
		}
		for _, f := range whole.Fields {
			if slices.Contains(names, strings.TrimPrefix(f.Path, "/brief/")) {
				f.Heading = ""
				q.Form.Fields = append(q.Form.Fields, f)
			}
		}
		return q
	}
	uses := ask("uses", "What is it for?", "Each use with the card memory and the encoder it needs.", useEffects(r, report))
	uses.List = listIn(whole, "/brief/works")
	uses.Rates = askedRates(r, proof.Link{Net: report.Link.NetEnds})
	altered := ask(
		"altered", "What may be altered?", "How far the plan may cut, drill or break; and what it means to.",
		alteredEffects(r, report), "stance",
	)
	altered.List = listIn(whole, "/alterations")
	carried := ask(
		"travel", "Is it carried?",
		"The bag it travels in, the pieces as they are packed, and what somebody is ready to carry.", travelEffects(r),
		"travel/bag_length_mm", "travel/bag_width_mm", "travel/bag_depth_mm", "travel/carries_g", "travel/set_up_min",
	)
	carried.List = listIn(whole, "/brief/travel/pieces")
	living := ask(
		"living", "Where will it stand, and with whom?",
		"Asked before anything is ordered: its air, its noise, the mains plugs there, whether it is carried about, and who must agree.",
		livingEffects(report), "living/place", "living/air", "living/harsh", "living/somebody_sleeps", "living/noise_db", "living/mains_plugs",
		"living/carried", "living/set_up_most_min",
	)
	living.List = listIn(whole, "/brief/living/agree")
	wall := ask(
		"wall", "What do the mains plugs go into?",
		"Each strip and wall socket, with what it carries: a supply says on which it hangs.", nil,
	)
	wall.List = listIn(whole, "/brief/living/strips")
	tags := ask(
		"tags", "What is it to be found by?",
		"Tags, with commas between them; the bench finds a rig by its name and its tags.", nil,
	)
	for _, f := range fields.For(r, r, "", d.Inches, d.Trouble).Fields {
		if f.Path == "/tags" {
			tags.Form.Fields = append(tags.Form.Fields, f)
		}
	}
	screen := ask(
		"screen", "Where is the picture wanted?",
		"On the host's own panel every frame comes back over the link; on an external screen none does.", screenEffects(r),
		"screen/kind", "screen/fed_by", "screen/width_px", "screen/height_px", "screen/rate_hz",
	)
	screen.Quick = screenChoices()
	return []briefQuestion{
		uses,
		screen,
		ask(
			"budget", "What may it cost?", "Counted against it: what is to buy, ordered and paid; not what was owned before.",
			budgetEffects(r, report), "budget", "currency",
		),
		altered,
		ask("covers", "Which covers may stay off?", "A cover that may stay off stands in nobody's way.", coverEffects(r), "covers_off"),
		ask(
			"energy", "What does a kilowatt-hour cost?", "For what an hour of work comes to at the wall.",
			energyEffects(r, report), "energy_price_kwh",
		),
		carried,
		living,
		wall,
		tags,
	}
}

func listIn(f *fields.Form, path string) *fields.ListView {
	for i := range f.Lists {
		if f.Lists[i].Path == path {
			return &f.Lists[i]
		}
	}
	return nil
}

// useEffects hold each use against the card.
func useEffects(r *rig.Rig, report *assess.Report) (list []Effect) {
	said := map[string]finding.Level{}
	for i := range report.Findings {
		if f := &report.Findings[i]; strings.HasPrefix(f.Rule, "work.") {
			list = append(list, Effect{f.Says, f.Level.String()})
			said[room.ThingOf(f.Where)] = f.Level
		}
	}
	for i := range r.Brief.Works {
		use := &r.Brief.Works[i]
		if _, speaks := said[fmt.Sprintf("/brief/works/%d", i)]; !speaks && use.Memory.Known && r.Card.Memory.Known {
			list = append(
				list,
				Effect{Says: finding.Sentence(fmt.Sprintf(
					"%s has the %v it needs: the card has %v.", use.Name, use.Memory.Value, r.Card.Memory.Value,
				))},
			)
		}
	}
	list = append(list, ExpectedEffects(r, proof.Link{Net: report.Link.NetEnds, Ref: report.Link.Tables()})...)
	if fill := phrase.Figure(report, "link.fill_s", phrase.Time); fill != phrase.Unknown {
		list = append(list, Effect{Says: "Filling the card's memory takes " + fill + " over this link."})
	}
	return list
}

// ExpectedEffects say how much of the card each use gets through the link: a range, narrowed
// by its runs where they explain something.
func ExpectedEffects(r *rig.Rig, l proof.Link) (list []Effect) {
	if l.Net.High <= 0 || r.Card.Name == "" {
		return nil
	}
	var silent []string
	for _, u := range proof.Make(r, l, nil, l.Net, proof.Same).Uses {
		if !u.Tells() {
			silent = append(silent, u.Use)
			continue
		}
		says := u.Use + ": " + u.Now.Words()
		if u.From == "runs" {
			says += ", by its runs"
		}
		if u.Taught != nil {
			says += ", " + u.Taught.Words()
		}
		if u.Enough != "" {
			says += "; enough: " + u.Enough
		}
		list = append(list, Effect{Says: finding.Sentence(says + ".")})
	}
	if len(silent) > 0 {
		list = append(
			list,
			Effect{
				Says: finding.Sentence(strings.Join(silent, ", ") + ": nothing to go by yet. What sort of use it is, or " +
					"what the card does in another machine, would tell."),
			},
		)
	}
	return list
}

// livingEffects are what speaks against it where it will stand.
func livingEffects(report *assess.Report) (list []Effect) {
	for i := range report.Findings {
		if f := &report.Findings[i]; strings.HasPrefix(f.Rule, "live.") {
			list = append(list, Effect{f.Says, f.Level.String()})
		}
	}
	return list
}

// travelEffects: how full the bag is, and what is to be carried.
func travelEffects(r *rig.Rig) (list []Effect) {
	for _, f := range fit.PackedFigures(r) {
		list = append(list, Effect{Says: finding.Begin(f.Value + " " + f.Label + ".")})
	}
	return list
}

// screenEffects: what the host's own panel costs the link.
func screenEffects(r *rig.Rig) []Effect {
	s := &r.Brief.Screen
	kind, told := s.Kind.Get()
	switch {
	case !told:
		return nil
	case kind != "own-panel":
		return []Effect{{Says: "No frame comes back over the link."}}
	case !s.Width.Known || !s.Height.Known || !s.Rate.Known:
		return []Effect{{Says: "Every frame comes back over the link; its size and rate say how much that is."}}
	}
	back := units.GigabytePerSecond(float64(s.Width.Value) * float64(s.Height.Value) * 4 * s.Rate.Value / 1e9)
	return []Effect{{Says: fmt.Sprintf("Every frame comes back over the link: %v.", back)}}
}

func budgetEffects(r *rig.Rig, report *assess.Report) []Effect {
	money := func(v float64) string { return strings.TrimSpace(units.Money(v).String() + " " + r.Brief.Currency) }
	e := Effect{Says: "Still to buy: " + phrase.Figure(report, "brief.to_buy", money) + "."}
	if budget, told := r.Brief.Budget.Get(); told {
		e.Says = strings.TrimSuffix(e.Says, ".") + ", " + budgetWords(r) + "."
		if paid, _ := ledger.Committed(r); ledger.Expected(r)+(paid.Low+paid.High)/2 > budget {
			e.Level = finding.Risk.String()
		}
	}
	return []Effect{e}
}

func alteredEffects(r *rig.Rig, report *assess.Report) (list []Effect) {
	for i := range report.Findings {
		if f := &report.Findings[i]; f.Rule == brief.RuleStance && f.Level != finding.Unknown {
			list = append(list, Effect{f.Says, f.Level.String()})
		}
	}
	if len(list) == 0 && len(r.Alterations) > 0 && r.Brief.Stance.Known {
		list = append(list, Effect{Says: "All that the plan alters may be altered."})
	}
	if len(r.Alterations) == 0 {
		list = append(list, Effect{Says: "The plan alters nothing so far."})
	}
	return list
}

func coverEffects(r *rig.Rig) []Effect {
	if len(r.Chamber.Covers) == 0 {
		return []Effect{{Says: "No cover is told at Fit yet."}}
	}
	return nil
}

func energyEffects(r *rig.Rig, report *assess.Report) []Effect {
	i := report.Power.CardSupply()
	price, told := r.Brief.Energy.Get()
	if i < 0 || !told {
		return nil
	}
	wall, known := report.Power.Wall(i)
	if !known {
		return nil
	}
	cost := func(w units.Watt) string { return units.Trim(float64(w)/1000*float64(price), 3) }
	return []Effect{{Says: fmt.Sprintf(
		"An hour under load comes to %s to %s at the wall.", cost(wall.Low),
		strings.TrimSpace(cost(wall.High)+" "+r.Brief.Currency),
	)}}
}
