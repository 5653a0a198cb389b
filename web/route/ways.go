package route

import (
	"fmt"
	"net/url"
	"slices"
	"strconv"
	"strings"

	"kolvan/core/assess"
	"kolvan/core/power"
	"kolvan/core/rig"
	"kolvan/core/units"
	"kolvan/core/ways"
	"kolvan/web/draw"
	"kolvan/web/phrase"
	"kolvan/web/room"
)

// WaysSel is what is chosen of the route where its whole ways are shown.
const WaysSel = "/ways"

// Ways is every whole way from the host to the card, to be taken at once.
type Ways struct {
	Title, Lead string
	Weights     []weightButton
	Choices     []waysChoice
	Ways        []wayRow
	More        []wayRow // works too, further down
	Beaten      []wayRow
	Failed      []failRow
	Step        bool // they are a step of a rig that is not whole yet
}

// waysChoice is what else is looked at, turned on and off by a press.
type waysChoice struct {
	ID, Label, URL string
	On             bool
}

// weightButton is one thing a person weighs, and where pressing it leads.
type weightButton struct {
	Label, URL string
	Level      int
	Bars       [mostBars]bool
}

// mostBars is the weight that a further press turns to nothing.
const mostBars = 3

type wayRow struct {
	Mini               *draw.MiniRoute
	Name, By           string
	Level, Says        string
	Net, Link          string
	Moves, Power, Cost string
	Beaten             string // by what
	Here               bool   // the plan as it stands
	Patch, Change      string
}

type failRow struct {
	Name, Supply, Level, Says string
	Patch, Change             string
}

// So many ways stand open, and the search of a page takes no more than that.
const (
	waysOpen   = 6
	waysEffort = ways.UsualEffort / 3
)

// WaysOf looks for the ways of a rig as a page asks for them.
func WaysOf(d *room.Desk) (*Ways, error) {
	r := d.Rig
	weights := ways.Usual
	if err := weights.Parse(d.Query("weigh")); err != nil {
		return nil, err
	}
	also := waysAlso{d.Query("own") != "", d.Query("hosts") != "", d.Query("cards") != ""}
	answer, err := ways.Search(
		d.Context,
		ways.Question{Rig: r, Parts: d.Bins, Weights: weights, Own: also.own, AnyHost: also.hosts, AnyCard: also.cards, Effort: waysEffort},
		d.Ref,
	)
	if err != nil {
		return nil, err
	}
	v := &Ways{Title: waysTitle(r)}
	v.Weights = weightButtons(weights, func(w ways.Weights) string { return waysURL(d.ID, w, also) })
	v.Choices = waysChoices(d.ID, weights, also)
	unbeaten := 0
	for i := range answer.Ways {
		w := &answer.Ways[i]
		row := rowOf(w, r)
		switch {
		case w.BeatenBy != nil:
			row.Beaten = answer.Ways[*w.BeatenBy].Says
			v.Beaten = append(v.Beaten, row)
			continue
		case unbeaten < waysOpen:
			v.Ways = append(v.Ways, row)
		default:
			v.More = append(v.More, row)
		}
		unbeaten++
	}
	for i := range answer.Failed {
		f := &answer.Failed[i]
		name := f.Way
		if f.Rig.Host.Name != r.Host.Name {
			name = f.Rig.Host.Name + ", " + name
		}
		v.Failed = append(
			v.Failed,
			failRow{Name: name, Supply: f.Supply, Level: f.Level.String(), Says: f.Says, Patch: string(f.Patch), Change: "take " + f.Way},
		)
	}
	v.Lead = waysLead(answer, unbeaten, also.own)
	return v, nil
}

// waysAlso is what a page of ways looks at beside the rig's own host and card.
type waysAlso struct{ own, hosts, cards bool }

func waysURL(id int64, w ways.Weights, also waysAlso) string {
	var parts []string
	w.Each(func(name string, weight *float64) {
		parts = append(parts, name+"="+strconv.FormatFloat(*weight, 'g', -1, 64))
	})
	address := fmt.Sprintf("/rigs/%d/route?sel=%s&weigh=%s", id, WaysSel, url.QueryEscape(strings.Join(parts, ",")))
	for _, on := range []struct {
		is   bool
		name string
	}{{also.own, "own"}, {also.hosts, "hosts"}, {also.cards, "cards"}} {
		if on.is {
			address += "&" + on.name + "=yes"
		}
	}
	return address
}

func waysChoices(id int64, w ways.Weights, also waysAlso) []waysChoice {
	own, hosts, cards := also, also, also
	own.own, hosts.hosts, cards.cards = !also.own, !also.hosts, !also.cards
	return []waysChoice{
		{"weigh-own", "only what I own", waysURL(id, w, own), also.own},
		{"weigh-hosts", "other hosts too", waysURL(id, w, hosts), also.hosts},
		{"weigh-cards", "other cards too", waysURL(id, w, cards), also.cards},
	}
}

// weightButtons make each weight one more with a press, and nothing after the most.
func weightButtons(weights ways.Weights, at func(ways.Weights) string) (list []weightButton) {
	weights.Each(func(name string, weight *float64) {
		was := *weight
		b := weightButton{Label: name, Level: int(was)}
		*weight = float64((b.Level + 1) % (mostBars + 1))
		b.URL = at(weights)
		*weight = was
		for i := range b.Bars {
			b.Bars[i] = i < b.Level
		}
		list = append(list, b)
	})
	return list
}

func waysTitle(r *rig.Rig) string {
	from, to := phrase.Or(r.Host.Name, "any host of the bins and the list"), phrase.Or(r.Card.Name, "any card of them")
	return "Ways from " + from + " to " + to
}

func waysLead(a *ways.Answer, unbeaten int, own bool) string {
	from := "your bins and the list"
	if own {
		from = "what you own"
	}
	text := fmt.Sprintf("%s combinations of %s, judged in %s: ", grouped(a.Tried), from, milliseconds(a.Seconds))
	switch {
	case len(a.Ways) == 0:
		text += "none works. What stops the best of them stands below."
	case unbeaten == len(a.Ways):
		text += fmt.Sprintf("%d to choose from.", len(a.Ways))
	default:
		text += fmt.Sprintf("%d to choose from, %d of them not beaten by another.", len(a.Ways), unbeaten)
	}
	if a.Untried {
		text += " There are more combinations than a page takes on: choose the host and the card first, or call kolvan ways."
	}
	return text
}

func milliseconds(s float64) string {
	if s < 1 {
		return fmt.Sprintf("%.0f ms", s*1000)
	}
	return units.Second(s).String()
}

// grouped writes a whole number in groups of three.
func grouped(n int) string {
	text := strconv.Itoa(n)
	for i := len(text) - 3; i > 0; i -= 3 {
		text = text[:i] + "," + text[i:]
	}
	return text
}

func rowOf(w *ways.Way, r *rig.Rig) wayRow {
	row := wayRow{Mini: draw.Mini(w.Report), Net: phrase.Figure(w.Report, "link.net_gb_s", bareRate), Link: wayLink(w.Report),
		Moves: ways.MovesWords(
			w.Displaced,
		), Power: "nothing of its own feeds it", Patch: string(w.Patch), Change: "take " + w.Says, Here: samePlan(w.Rig, r)}
	row.Name = w.From
	if w.Host != r.Host.Name {
		row.Name = w.Host + ", " + w.From
	}
	if w.Card != r.Card.Name {
		row.Name += " to " + w.Card
	}
	row.By = phrase.Or(strings.Join(w.Stages, ", "), "straight into the slot")
	if w.Rig.Route.ForcedGen.Known {
		row.By += fmt.Sprintf(", held to Gen %d", w.Rig.Route.ForcedGen.Value)
	}
	if w.Supply != "" {
		row.Power = phrase.Figure(w.Report, "power.supply_share", power.Percent) + " of " + w.Supply
	}
	if w.Worst != nil {
		row.Level, row.Says = w.Worst.Level.String(), w.Report.Findings[0].Title
	}
	row.Cost = phrase.Cost(w.ToBuy, r.Brief.Currency)
	return row
}

// samePlan reports a way that is the plan as it stands.
func samePlan(way, r *rig.Rig) bool {
	return way.Route.Slot == r.Route.Slot && way.Card.Name == r.Card.Name &&
		slices.EqualFunc(way.Route.Stages, r.Route.Stages, func(a, b rig.Stage) bool { return a.Name == b.Name })
}

// wayLink is the link in a few words: lanes, speed, and how the margin stands.
func wayLink(report *assess.Report) string {
	text := phrase.Link(report)
	if m, known := report.Link.Planned(); known {
		text += ", " + report.Link.Word(m) + " " + m.Ends.Low.Signed()
	}
	return text
}

func bareRate(v float64) string { return units.Trim(v, 2) }
