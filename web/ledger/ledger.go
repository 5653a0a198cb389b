package ledger

import (
	"bytes"
	"fmt"
	"io"
	"math/big"
	"slices"
	"strconv"
	"strings"
	"time"

	"github.com/gofiber/fiber/v3"

	"kolvan/core/assess"
	"kolvan/core/finding"
	"kolvan/core/ledger"
	"kolvan/core/proof"
	"kolvan/core/reference"
	"kolvan/core/rig"
	"kolvan/core/units"
	"kolvan/web/phrase"
	"kolvan/web/room"
)

// View is where the money went, against what else could be had for it.
type View struct {
	Title, Aside string
	Height       float64
	Bars         []moneyBar
	Turn         float64 // where the rig's bar ends at the most; 0 for nowhere
	Rows         []ledgerRow
	Needs        []room.Option
	States       []room.Option
	Totals       [][2]string
	Order        []purchaseView
	Gains        []string
	Against      []againstView
	Sale         []string
	Currency     string
}

// moneyBar is the rig, or something in its place, as a bar of what it costs.
type moneyBar struct {
	Name, Says string
	Y          float64
	Parts      []moneyPart
}

type moneyPart struct {
	Class, Text string
	X, W        float64
	In          bool // its words stand in it
}

// ledgerRow is one line, with what is edited in place.
type ledgerRow struct {
	Index                         int
	Part, Name, Sel               string
	Price, Cost, From, By         string
	Need, State                   string
	Hours, Owned, Plain, Unpriced bool
	Class                         string
}

type purchaseView struct{ Name, Cost, Variant, Not, Stop, Back string }

type againstView struct{ Name, Says, Turns string }

const (
	barsLeft, barsWide = 210.0, 640.0
	barsTop            = 10.0
	barStep            = 40.0
	nameMost           = 28 // letters before a bar
)

// StateWords is a state as a person calls it.
func (v *View) StateWords(state string) string {
	for _, c := range v.States {
		if c.Value == state {
			return c.Label
		}
	}
	return state
}

// Of makes the view of the station.
func Of(r *rig.Rig, report *assess.Report, ref *reference.Tables) *View {
	told := ledger.ReportOf(r, proof.LinkCarrying(r, ref, report.Link.NetEnds))
	money := func(of fmt.Stringer) string { return ledger.Money(of, r) }
	t := &told.Totals
	v := &View{
		Title: money(t.WithoutOwned) + " without what was owned", Aside: money(t.Forced) + " forced by the route",
		Currency: r.Brief.Currency,
	}
	if !zero(t.ToPay) {
		v.Title = money(t.ToPay) + " to pay, " + money(t.WithoutOwned) + " in all without what was owned"
	}
	v.bars(told)
	for i := range told.Lines {
		v.Rows = append(v.Rows, ledgerRowOf(r, &told.Lines[i]))
	}
	v.Needs, v.States = spokenOptions(rig.LineNeed("").Words()), spokenOptions(rig.LineState("").Words())
	v.totals(r, told, money)
	for i := range told.Order {
		p := &told.Order[i]
		v.Order = append(v.Order, purchaseView{p.Name, money(p.Cost), p.Variant, p.Not, p.Stop, p.ReturnBy})
	}
	for i := range told.Gains {
		v.Gains = append(v.Gains, gainWords(&told.Gains[i], money))
	}
	for i := range told.Against {
		v.Against = append(v.Against, againstOf(&told.Against[i], told.Gain, money))
	}
	v.Sale = saleWords(told.Sale, money)
	return v
}

func zero(a ledger.Amount) bool {
	return a.Known() && a.Low.Sign() == 0 && a.High.Sign() == 0
}

func spokenOptions(words *rig.Words) (list []room.Option) {
	for _, w := range words.All() {
		list = append(list, room.Option{Value: w, Label: words.Spoken(w)})
	}
	return list
}

// totals are the sums a person asks for.
func (v *View) totals(r *rig.Rig, told *ledger.Report, money func(fmt.Stringer) string) {
	t := &told.Totals
	for _, row := range []struct {
		name string
		of   ledger.Amount
		show bool
	}{
		{"still to pay", t.ToPay, true}, {"all of it", t.All, true}, {"without what was owned", t.WithoutOwned, true},
		{"forced by the route", t.Forced, true},
		{"spared: sold or used again", t.Spared, !zero(t.Spared)}, {"with hours", t.WithHours, r.Ledger.Rate.Known},
		{"energy a year", t.Energy, len(r.Ledger.Day) > 0}, {
			"the first year, with energy", t.FirstYear, len(r.Ledger.Day) > 0,
		},
	} {
		if row.show {
			v.Totals = append(v.Totals, [2]string{row.name, money(row.of)})
		}
	}
	if !zero(t.Hours) {
		v.Totals = append(v.Totals, [2]string{"hours of work", t.Hours.String() + " h"})
	}
}

// bars draws the rig's money, and each alternative's below it, on one scale.
func (v *View) bars(told *ledger.Report) {
	t := &told.Totals
	high := func(a ledger.Amount) float64 { return float64(a.Money().High) }
	most := high(t.Chosen) + high(t.Forced) + high(t.Owned)
	for i := range told.Against {
		if c := told.Against[i].Cost; c.Known() {
			most = max(most, high(c))
		}
	}
	if most <= 0 {
		v.Height = 0
		return
	}
	scale := barsWide / most
	rigBar := moneyBar{
		Name: "this rig", Y: barsTop,
		Says: "chosen " + t.Chosen.String() + ", forced " + t.Forced.String() + ", owned before " + t.Owned.String(),
	}
	x := barsLeft
	for _, part := range []struct {
		class, word string
		of          ledger.Amount
	}{{"chosen", "chosen", t.Chosen}, {"forced", "forced", t.Forced}, {"owned", "owned", t.Owned}} {
		if w := scale * high(part.of); w > 0 {
			text := part.word + " " + part.of.String()
			rigBar.Parts = append(rigBar.Parts, moneyPart{part.class, text, x, w, w > 7.6*float64(len(text))+12})
			x += w
		}
	}
	v.Turn = barsLeft + scale*(high(t.Chosen)+high(t.Forced))
	v.Bars = append(v.Bars, rigBar)
	for i := range told.Against {
		a := &told.Against[i]
		bar := moneyBar{Name: shortened(a.Name, nameMost), Y: barsTop + barStep*float64(len(v.Bars)), Says: a.Name + ", " + a.Cost.String()}
		if a.Cost.Known() {
			low, w := scale*float64(a.Cost.Money().Low), scale*high(a.Cost)
			bar.Parts = append(
				bar.Parts, moneyPart{"other", a.Cost.String(), barsLeft, max(1, w), w > 90},
				moneyPart{"spread", "", barsLeft + low, max(0, w-low), true},
			)
		}
		v.Bars = append(v.Bars, bar)
	}
	v.Height = barsTop + barStep*float64(len(v.Bars)) + 4
}

// shortened is a name that fits before its bar; the whole stands in its title.
func shortened(name string, most int) string {
	letters := []rune(name)
	if len(letters) <= most {
		return name
	}
	return strings.TrimSpace(string(letters[:most-1])) + "…"
}

func ledgerRowOf(r *rig.Rig, l *ledger.Line) ledgerRow {
	t := l.Entry()
	row := ledgerRow{
		Index: l.Index, Part: l.Part, Name: l.Name, Price: priceText(t.Price), Cost: l.Cost.String(), Need: string(l.Need),
		State: string(l.State), By: t.ReturnBy, From: t.From, Hours: l.Kind == rig.LineHours, Owned: l.State == rig.LineOwned,
		Class: string(l.Need),
	}
	switch {
	case row.Hours:
		row.Price, row.Cost, row.Class = hoursText(t.Hours), l.Worth.String()+" h", "hours"
	case row.Owned:
		row.Class = "owned"
	}
	row.Plain = zero(l.Cost) && !t.Price.Known
	row.Unpriced = l.Open != ""
	if l.Index >= 0 {
		row.Sel = fmt.Sprintf("/ledger/lines/%d", l.Index)
	}
	return row
}

// priceText is a price as one types it: 420-450 for a range.
func priceText(f rig.Fact[units.Money]) string {
	if !f.Known {
		return ""
	}
	if f.Tolerance > 0 {
		return (f.Value - units.Money(f.Tolerance)).String() + "-" + (f.Value + units.Money(f.Tolerance)).String()
	}
	return f.Value.String()
}

func hoursText(f rig.Fact[float64]) string {
	if !f.Known {
		return ""
	}
	return priceText(rig.Fact[units.Money]{Known: true, Value: units.Money(f.Value), Tolerance: f.Tolerance})
}

func gainWords(g *ledger.Gain, money func(fmt.Stringer) string) string {
	how := "expected"
	if g.Measured {
		how = "measured"
	}
	if g.Each == nil {
		return g.Use + ": no gain that could have a price, " + how + "."
	}
	return finding.Sentence(fmt.Sprintf("%s: %s for each %s, %s.", g.Use, money(g.Each), g.Unit, how))
}

func againstOf(a *ledger.Against, gain *ledger.Amount, money func(fmt.Stringer) string) againstView {
	v := againstView{Name: a.Name}
	nought := new(big.Rat)
	switch {
	case a.Cheaper.Low != nil && a.Cheaper.Low.Cmp(nought) >= 0:
		v.Says = "The rig is cheaper by " + money(a.Cheaper) + "."
	case a.Cheaper.High != nil && a.Cheaper.High.Cmp(nought) <= 0:
		v.Says = "The rig is dearer by " + money(ledger.None().Minus(a.Cheaper)) + "."
	default:
		v.Says = "Which is cheaper is open: " + money(a.Cheaper) + " in the rig's favour."
	}
	if a.Gain != nil && gain != nil {
		v.Says += fmt.Sprintf(" It gives %s times today's speed, the rig %s times.", a.Gain, gain)
	}
	if a.Better {
		v.Says += " It gives more for less."
	}
	switch {
	case a.TurnHours != nil:
		v.Turns = a.TurnHours.String() + " hours"
	case a.TurnPrice != nil && a.TurnPrice.High != nil && a.TurnPrice.High.Sign() > 0 && !zero(a.Cost):
		v.Turns = money(a.TurnPrice)
	}
	return v
}

func saleWords(s *ledger.Sale, money func(fmt.Stringer) string) (list []string) {
	if s == nil {
		return nil
	}
	share := func(a *ledger.Amount) string {
		low, _ := a.Low.Float64()
		high, _ := a.High.Float64()
		return fmt.Sprintf("%.0f to %.0f %%", 100*low, 100*high)
	}
	if s.Profit == nil {
		list = append(list, "What would be left is open: the own cost is not known.")
	} else {
		list = append(list, "At "+money(s.Price)+" there is left "+money(s.Profit)+".")
	}
	if s.OfPrice != nil && s.OfCost != nil {
		list = append(list, share(s.OfPrice)+" of the selling price, "+share(s.OfCost)+" of the own cost.")
	}
	if s.BreakEven != nil {
		return append(list, "Even at "+money(s.BreakEven)+".")
	}
	return append(list, "No price is high enough to be even.")
}

// Line is what the line of stations says of the money.
func Line(r *rig.Rig) string {
	ends, open := ledger.Spent(r)
	switch {
	case ends.High == 0 && open:
		return "no prices"
	case ends.High == 0 && r.Host.Name == "" && r.Card.Name == "":
		return "nothing yet"
	}
	text := ends.Low.String()
	if ends.High > ends.Low {
		text += "–" + ends.High.String()
	}
	if open {
		text += " +"
	}
	return strings.TrimSpace(text + " " + r.Brief.Currency)
}

// setLedger sets a field of a line; of a part nothing was told of, the line is made.
func setLedger(c fiber.Ctx, r *rig.Rig, _ *reference.Tables) (string, string, error) {
	at, err := strconv.Atoi(c.FormValue("index", "-1"))
	field, value := c.FormValue("field"), strings.TrimSpace(c.FormValue("value"))
	if err != nil || at >= len(r.Ledger.Lines) || !slices.Contains(
		[]string{"name", "price", "hours", "need", "state", "return_by", "from"}, field,
	) {
		return "", "", fiber.NewError(fiber.StatusBadRequest, "There is no such line, or no such field of it.")
	}
	if _, err := time.Parse(time.DateOnly, value); field == "return_by" && value != "" && err != nil {
		return "", "", &rig.FieldError{Path: "can go back until", Value: value, Accepts: "a date such as 2026-06-09, or nothing"}
	}
	r.Ledger.Lines = slices.Clone(r.Ledger.Lines)
	if at < 0 {
		part := c.FormValue("part")
		r.Ledger.Lines = append(r.Ledger.Lines, rig.LedgerLine{Name: part, Part: part})
		at = len(r.Ledger.Lines) - 1
	}
	where := fmt.Sprintf("/ledger/lines/%d/%s", at, field)
	if err := setMoney(r, where, value); err != nil {
		return "", "", err
	}
	if field == "state" {
		ownAsPaid(r, &r.Ledger.Lines[at])
	}
	return field + " of " + r.Ledger.Lines[at].Name, "", nil
}

// setMoney sets a field that may be typed as a range: 420-450.
func setMoney(r *rig.Rig, where, value string) error {
	low, high, is := strings.Cut(strings.NewReplacer("–", "-", " to ", "-").Replace(value), "-")
	if !is || !strings.HasSuffix(where, "/price") && !strings.HasSuffix(where, "/hours") {
		return rig.Set(r, where, value)
	}
	var ends [2]units.Money
	for i, text := range []string{low, high} {
		if err := ends[i].Parse(strings.TrimSpace(text)); err != nil {
			return rig.Set(r, where, value)
		}
	}
	if ends[0] > ends[1] {
		return &rig.FieldError{Path: where, Value: value, Accepts: "a range with its lower end first, such as 420-450"}
	}
	if err := rig.Set(r, where, ((ends[0] + ends[1]) / 2).String()); err != nil {
		return err
	}
	return rig.Set(r, where+"/tolerance", ((ends[1] - ends[0]) / 2).String())
}

// ownAsPaid lets the part itself say what the ledger says of it: what is paid for is here.
func ownAsPaid(r *rig.Rig, line *rig.LedgerLine) {
	state := line.State.Value
	ledger.EachPart(r, func(p ledger.Part) {
		if p.Called == line.Part && line.Part != "" {
			p.Price.Owned = rig.Of(state == rig.LineOwned || state == rig.LinePaid)
		}
	})
}

// addLedgerLine adds a line of its own.
func addLedgerLine(c fiber.Ctx, r *rig.Rig, _ *reference.Tables) (string, string, error) {
	name := strings.TrimSpace(c.FormValue("name"))
	if name == "" {
		return "", "", &rig.FieldError{Path: "/ledger/lines", Accepts: "what the line is: postage, paste, a tool"}
	}
	r.Ledger.Lines = append(slices.Clone(r.Ledger.Lines), rig.LedgerLine{Name: name})
	at := fmt.Sprintf("/ledger/lines/%d/", len(r.Ledger.Lines)-1)
	for _, field := range []string{"kind", "price", "need", "state"} {
		text := strings.TrimSpace(c.FormValue(field))
		to := at + field
		if field == "price" && c.FormValue("kind") == string(rig.LineHours) {
			to = at + "hours"
		}
		if text == "" {
			continue
		}
		if err := setMoney(r, to, text); err != nil {
			return "", "", err
		}
	}
	return "line " + name, "", nil
}

// importLedger puts the lines of a table in the place of the ledger's.
func importLedger(c fiber.Ctx, r *rig.Rig, _ *reference.Tables) (string, string, error) {
	file, err := c.FormFile("table")
	if err != nil {
		return "", "", &rig.FieldError{Path: "/ledger/lines", Accepts: "a table, as the ledger writes it"}
	}
	from, err := file.Open()
	if err != nil {
		return "", "", fmt.Errorf("reading the table: %w", err)
	}
	defer from.Close()
	if err := ledger.ReadCSV(io.LimitReader(from, rig.MaxFile), r); err != nil {
		return "", "", err
	}
	return "the ledger of " + file.Filename, "", nil
}

// ledgerCSV answers with the ledger as a table.
func ledgerCSV(c fiber.Ctx, d *room.Desk) error {
	var out bytes.Buffer
	if err := ledger.WriteCSV(&out, d.Rig); err != nil {
		return err
	}
	c.Attachment(phrase.FileName(d.Rig.Name) + "-ledger.csv")
	c.Set(fiber.HeaderContentType, "text/csv; charset=utf-8")
	return c.Send(out.Bytes())
}
