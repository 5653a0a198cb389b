package web

import (
	"context"
	"fmt"
	"net/url"
	"path"
	"reflect"
	"slices"
	"strconv"
	"strings"

	"github.com/gofiber/fiber/v3"

	"kolvan/core/assess"
	"kolvan/core/finding"
	"kolvan/core/link"
	"kolvan/core/reference"
	"kolvan/core/rig"
)

// region is all that is swapped when a rig changes.
type region struct {
	ID      int64
	Name    string
	Rev     string // the data file and the revision shown
	Number  int
	Label   string
	CanUndo bool
	CanRedo bool
	Deleted bool
	Inches  bool

	Station  string
	Sel      string
	Stations []station
	Later    bool // the verdict with its changes is asked for once more, by itself
	Alone    bool // the verdict is asked for by itself
	Starting bool // host, card and way are asked for first, and nothing else
	Answer   *answer
	By       verdictView
	About    []subject // what is said of the thing that is chosen
	Ask      []questionView
	AskMore  int // questions not shown yet
	PutAside int // questions that nobody knows the answer to
	Figures  []figure
	Start    *start
	Ways     *waysView
	Plans    *plansView
	Bare     bool // nothing is there yet to be drawn or edited
	Form     *form
	Feedable bool         // what is chosen is a load
	Feeds    []feedOption // leads that could feed it
	Joints   []joint
	Harness  *harness
	Trouble  *trouble
	Choices  []choiceTable
	Net      string // the net that is lit in the power drawing
	Held     string // the pin that a wire is to begin at
	Load     string // the spike the power drawing is shown at
	More     string // where more changes are tried than were; empty when all were

	Route *routeDrawing
	// RouteTall, PowerTall and FitTall are the same drawings upright, for a telephone.
	FitTall   *fitDrawing
	RouteTall *routeDrawing
	PowerTall *powerDrawing
	Loss      *lossDrawing
	Carried   *carriedView
	Places    *placesView
	Made      []madeView
	Screws    []screwRow
	Power     *powerDrawing
	Fit       *fitDrawing
	Slots     []slotRow
	Survey    *survey
	Brief     []briefQuestion
	Sizing    *form // how the supply is judged, in the power drawing
	Sheet     *sheet

	Assembly *assemblyView
	Proof    *proofView
	Ledger   *ledgerView
}

func (a *App) station(c fiber.Ctx) error {
	if !isStation(c.Params("station")) {
		return fiber.NewError(fiber.StatusNotFound, "There is no such station.")
	}
	return a.region(c, "", nil)
}

// PageTitle names the station and the rig.
func (v *region) PageTitle() string {
	return labelOf(v.Station) + ": " + v.Name
}

// Answers reports a page that has its answer: one that leads through its first steps asks
// instead, save where something may do harm.
func (v *region) Answers() bool {
	return v.Answer != nil && (v.Start == nil || v.Answer.Level == finding.Danger.String())
}

func isStation(key string) bool {
	for _, k := range stationKeys {
		if k.key == key && !k.later {
			return true
		}
	}
	return false
}

// region answers with the rig's region, in a whole page when the browser asks for
// one. choose is what should be chosen now; "" keeps the choice.
func (a *App) region(c fiber.Ctx, choose string, t *trouble) error {
	l, err := a.load(c)
	if err != nil {
		return err
	}
	return a.regionOf(c, l, choose, t)
}

// regionOf is region for a rig that is loaded.
func (a *App) regionOf(c fiber.Ctx, l *loaded, choose string, t *trouble) error {
	station, sel := c.FormValue("station", c.Params("station")), c.FormValue("sel", c.Query("sel"))
	if !isStation(station) {
		station = "route"
	}
	if choose != "" {
		sel = strings.TrimSuffix(choose, "/")
		station = homeOf(sel, station)
		c.Set("HX-Push-Url", fmt.Sprintf("/rigs/%d/%s?sel=%s", l.ID, station, sel))
	}
	v, err := a.view(c, l, station, sel, t)
	if err != nil {
		return err
	}
	c.Vary("HX-Request")
	c.Set(fiber.HeaderCacheControl, "no-store")
	if c.Get("HX-Request") != "" {
		return c.Render("region", v)
	}
	return a.page(c, "rig", fiber.Map{"Title": v.PageTitle(), "Rig": v})
}

// homeOf is the station where a newly chosen thing is worked on: the one that is
// shown when the thing stands in its drawing, else the thing's own.
func homeOf(sel, shown string) string {
	for _, place := range []struct {
		path     string
		stations []string // the first is the thing's own
	}{
		{"/host", []string{"survey", "power"}}, {"/route", []string{"route", "power"}}, {"/card", []string{"route", "power", "fit"}},
		{"/runs", []string{"proof"}}, {"/load_readings", []string{"proof"}}, {"/diary", []string{"proof"}}, {"/ledger", []string{"ledger"}},
		{"/supplies", []string{"power"}}, {"/leads", []string{"power"}}, {"/chamber", []string{"fit"}},
	} {
		if rig.Within(sel, place.path) && !slices.Contains(place.stations, shown) {
			return place.stations[0]
		}
	}
	return shown
}

// view is all that the region of a station shows.
func (a *App) view(c fiber.Ctx, l *loaded, station, sel string, t *trouble) (*region, error) {
	bins, err := a.anyBins(c)
	if err != nil {
		return nil, err
	}
	ctx, done := whileThere(c.Context(), c.RequestCtx().Conn())
	defer done()
	v := &region{ID: l.ID, Name: l.rig.Name, Rev: a.revisionOf(l.Revision), Number: l.Number, Label: l.Label, CanUndo: l.CanUndo, CanRedo: l.CanRedo,
		Deleted: l.Deleted, Inches: inches(c), Station: station, Sel: sel, Trouble: t}
	v.Later = t == nil && c.Method() == fiber.MethodPost && c.Get(verdictHeader) == "later"
	report, err := a.judged(ctx, c, v, l.rig, bins)
	if err != nil {
		return nil, err
	}
	v.Load, v.Held, v.Net = c.Query("load"), c.Query("held"), c.Query("net")
	if err := v.lead(a, c, l.rig, report); err != nil {
		return nil, err
	}
	if v.wantsWays() {
		if v.Ways, err = a.waysOf(ctx, c, l, l.rig, bins); err != nil {
			return nil, err
		}
		v.Ways.Step = v.Sel != waysSel
	}
	if v.Station == "route" && v.Sel == waysSel {
		v.Start = nil
		return v, nil
	}
	if v.Station == "brief" && v.Sel == plansSel {
		v.Start = nil
		v.Plans, err = a.plansOf(l, bins, picks(c))
		return v, err
	}
	if v.Station == "assembly" {
		v.Start = nil
		return v, a.assembly(c, v, l.rig, report)
	}
	return v, v.work(ctx, c, a, l.rig, report, bins)
}

// verdictHeader is what a page sends that asks for the verdict by itself: an edit is then
// answered before the changes that would clear something were tried.
const verdictHeader = "Kolvan-Verdict"

// judged is the report, with its verdict filled into the region: its questions, and the
// changes it offers where they are not asked for later.
func (a *App) judged(ctx context.Context, c fiber.Ctx, v *region, r *rig.Rig, bins *assess.Bins) (*assess.Report, error) {
	report := assess.Rig(r, a.ref)
	if v.Later {
		v.judge(r, &report, nil)
		return &report, nil
	}
	if err := assess.Ask(ctx, &report, r, a.ref); err != nil {
		return nil, err
	}
	effort := assess.UsualEffort
	if c.Query("effort") == "more" {
		effort *= 20
	}
	if err := assess.Clear(ctx, &report, r, a.ref, bins, effort); err != nil {
		return nil, err
	}
	if report.Untried && effort == assess.UsualEffort {
		v.More = fmt.Sprintf("/rigs/%d/%s?effort=more&sel=%s", v.ID, v.Station, url.QueryEscape(v.Sel))
	}
	v.judge(r, &report, a.ref)
	v.Ask = questionViews(r, &report, v, v.Trouble)
	return &report, nil
}

// judge fills in the answer and the verdict by subject; what a smaller card would do only
// with the tables to work it out by.
func (v *region) judge(r *rig.Rig, report *assess.Report, ref *reference.Tables) {
	subjects := subjectsOf(report, r, v.Inches)
	if ref != nil {
		boundCard(subjects, report, r, ref, v.Inches)
	}
	v.Answer = answerOf(report, r, subjects, v.Station)
	step := stepOf(r, report)
	v.Starting = step >= 0 && step < feedStep
	shown := step < 0 || v.Answer.Level == finding.Danger.String() // see Answers
	for i := range subjects {
		s := &subjects[i]
		s.Led = shown && strings.EqualFold(s.Line+".", v.Answer.Says)
		s.Pressed = shown && v.Answer.Press != nil && len(s.Changes) > 0 && s.Changes[0].ID == v.Answer.Press.ID
	}
	v.About, v.By = v.parted(r, subjects)
	v.Stations = stations(r, report, subjects, v.Station, v.Inches)
}

// parted are the subjects about the thing that is chosen, and the rest by station: none of it
// stands open beside an editor.
func (v *region) parted(r *rig.Rig, subjects []subject) (about []subject, by verdictView) {
	if v.Sel == "" || v.Sel == waysSel || v.Sel == plansSel {
		return nil, verdictOf(subjects, v.Station)
	}
	chosen, _ := r.Subject(v.Sel)
	rest := slices.Clone(subjects)
	rest = slices.DeleteFunc(rest, func(s subject) bool {
		is := slices.ContainsFunc(s.All(), func(f findingView) bool {
			thing, _ := r.Subject(f.Where)
			return rig.Within(thing, chosen)
		})
		if is {
			about = append(about, s)
		}
		return is
	})
	return about, verdictOf(rest, "")
}

// verdict answers with the verdict alone, its changes with it.
func (a *App) verdict(c fiber.Ctx) error {
	l, err := a.load(c)
	if err != nil {
		return err
	}
	bins, err := a.anyBins(c)
	if err != nil {
		return err
	}
	ctx, done := whileThere(c.Context(), c.RequestCtx().Conn())
	defer done()
	defer a.read.Add(l.Revision, l.rig) // as it was: for the edit that comes next
	v := &region{ID: l.ID, Inches: inches(c), Station: c.Params("station"), Sel: c.Query("sel")}
	if _, err := a.judged(ctx, c, v, l.rig, bins); err != nil {
		return err
	}
	v.Alone = true
	c.Set(fiber.HeaderCacheControl, "no-store")
	return c.Render("verdict", v)
}

// work fills in what is worked on at the station: its drawing, what may be chosen
// there, and the editor.
func (v *region) work(ctx context.Context, c fiber.Ctx, a *App, r *rig.Rig, report *assess.Report, bins *assess.Bins) (err error) {
	v.draw(a, r, report, bins)
	if v.Station == "proof" {
		if v.Proof, err = a.proofOf(c, r, report); err != nil {
			return err
		}
		if err := a.files(c, v.ID, r, v.Proof.Runs); err != nil {
			return err
		}
		if v.Proof.Shown, err = a.runShown(c, v.ID, r, v.Sel); err != nil {
			return err
		}
	}
	if v.Sheet != nil {
		if err := v.Sheet.choose(c, r, a.ref); err != nil {
			return err
		}
	}
	if v.Station == "power" && v.Sel == standard["power"] {
		if v.Choices, err = a.choices(ctx, r, report, bins); err != nil {
			return err
		}
	}
	if v.Station != "sheet" {
		v.edit(a, r, report)
	}
	if v.Station == "route" && v.Sel == standard["route"] {
		if v.Places, err = placesOf(r, a.ref); err != nil {
			return err
		}
	}
	if v.Station == "fit" {
		v.Screws = longerScrews(r)
		if v.Made, err = madeParts(v.ID, r, a.ref); err != nil {
			return err
		}
	}
	v.forms(r, report)
	return nil
}

// lead fills in what leads on: the steps of a rig that is not whole yet, or a line
// that says what is next.
func (v *region) lead(a *App, c fiber.Ctx, r *rig.Rig, report *assess.Report) error {
	step := stepOf(r, report)
	// One load of a rig that is whole otherwise wants no more than a line.
	if step < 0 || v.Station == "sheet" || step == feedStep && v.Station != "power" && len(r.Leads) > 0 {
		return nil
	}
	list, err := a.allParts(c)
	if err != nil {
		return err
	}
	v.Start = starting(step, r, report, list)
	v.Bare = v.Start.Host && v.Sel == ""
	return nil
}

// wantsWays: whole ways stand on a page of their own, and where a rig waits for one.
func (v *region) wantsWays() bool {
	return v.Station == "route" && v.Sel == waysSel || v.Start != nil && v.Start.At == wayStep && v.Station == "route"
}

// forms puts in the forms that stand in the station itself, in the place of the
// editor's: the questions of the brief, how the supply is judged.
func (v *region) forms(r *rig.Rig, report *assess.Report) {
	switch v.Station {
	case "brief":
		v.Brief = briefQuestions(r, report, v)
	case "power":
		v.Sizing = formFor(r, &r.Sizing, "/sizing", v.Inches, v.Trouble)
		v.Sizing.Post = fmt.Sprintf("/rigs/%d", v.ID)
		for i := range v.Sizing.Fields {
			v.Sizing.Fields[i].ID = "in-drawing-" + v.Sizing.Fields[i].ID
		}
	case "proof":
	default:
		return
	}
	if v.Sel == standard[v.Station] {
		v.Form = nil
	}
}

// thingOf is the thing a finding's place belongs to: the last entry of a list on
// the way, or the part of the rig.
func thingOf(where string) string {
	tokens := strings.Split(where, "/")
	for i := len(tokens) - 1; i > 1; i-- {
		if tokens[i] != "" && tokens[i][0] >= '0' && tokens[i][0] <= '9' {
			return strings.Join(tokens[:i+1], "/")
		}
	}
	if len(tokens) > 1 && tokens[1] != "" {
		return "/" + tokens[1]
	}
	return where
}

// draw fills in what the station shows.
func (v *region) draw(a *App, r *rig.Rig, report *assess.Report, bins *assess.Bins) {
	switch v.Station {
	case "brief":
		v.Figures = briefFigures(r, report)
	case "survey":
		v.Slots, v.Survey = slotRows(r), surveyOf(r, report, v.Sel)
	case "route":
		v.Route = drawRoute(r, report, v.Sel, v.Inches)
		v.RouteTall = drawRouteTall(r, report, v.Sel, v.Inches)
		v.Loss = drawLoss(report, v.Sel)
		v.Carried = carriedBy(r, report, a.ref)
		v.Figures = routeFigures(report)
	case "power":
		v.Power, v.PowerTall = drawPower(r, report, v.Sel), drawPowerTall(r, report, v.Sel)
		if v.Load != "" {
			v.Power.load(r, report, v.Load)
		}
		v.Power.nets(r, report.Power, v.Net)
		v.Figures = powerFigures(r, report)
	case "fit":
		v.Fit = drawFit(r, report, bins.Cards, a.ref, v.Sel, v.Inches)
		if v.Fit.Empty == "" {
			v.FitTall = drawFitTall(r, report, a.ref, v.Sel, v.Inches)
		}
		v.Figures = fitFigures(r, report, v.Inches)
	case "ledger":
		v.Ledger = ledgerOf(r, report, a.ref)
	case "sheet":
		v.Sheet = makeSheet(r, report, a.ref, v.Inches)
	}
}

// standard is what is chosen where nothing was.
var standard = map[string]string{
	"brief": "/brief", "survey": "/host", "route": "/route", "power": "/sizing", "fit": "/chamber", "proof": "/brief",
	"ledger": "/ledger",
}

// edit fills in the editor of what is chosen.
func (v *region) edit(a *App, r *rig.Rig, report *assess.Report) {
	if v.Sel == "" {
		return
	}
	thing, spec, err := rig.At(r, v.Sel)
	if err != nil || spec.Type != nil || thing.Kind() != reflect.Struct {
		v.Sel = ""
		return
	}
	v.Form = formFor(r, thing.Addr().Interface(), v.Sel, v.Inches, v.Trouble)
	v.Form.Post = fmt.Sprintf("/rigs/%d", v.ID)
	v.Form.Title, v.Form.Folding = titleOf(thing, v.Sel), true
	if only, some := cardHere[v.Station]; some && v.Sel == "/card" {
		v.Form.keep(only)
		v.Form.Whole = fmt.Sprintf("/rigs/%d/route?sel=/card", v.ID)
	}
	if at, number := path.Split(v.Sel); path.Base(at) == "pins" {
		if k, err := strconv.Atoi(number); err == nil {
			v.Form.Title = fmt.Sprintf("Pin %d", k+1)
		}
	}
	parent := v.Sel[:strings.LastIndex(v.Sel, "/")]
	v.Form.InList = parent != ""
	if list, _, err := rig.At(r, parent); err == nil && v.Form.InList {
		v.Form.InList = list.Kind() == reflect.Slice
	}
	v.Form.Ordered = parent == "/route/stages"
	v.Form.Kind = map[string]string{"/route/stages": "stage", "/supplies": "supply", "/leads": "lead"}[parent]
	if v.Sel == "/card" || v.Sel == "/host" {
		v.Form.Kind = v.Sel[1:]
	}
	if v.Station == "power" {
		v.feedOptions(r, a.ref)
		v.Joints = append(joints(r, report, v.Sel), pinFace(r, report, v.Sel)...)
		if i := rig.EntryAt(v.Sel, "/leads"); i >= 0 && i < len(r.Leads) {
			v.Harness = drawHarness(r, report.Power, i, v.Held)
		}
	}
}

// StartsHere is the slot that is chosen, where the route may start from it and does not yet.
func (v *region) StartsHere() string {
	for _, s := range v.Slots {
		if s.Path == v.Sel && !s.Used {
			return s.Name
		}
	}
	return ""
}

// cardHere are the fields of the card that mean something at a station; the rest
// stands at Route.
var cardHere = map[string][]string{
	"fit":   {"/card/length_mm", "/card/height_mm", "/card/thickness_mm", "/card/mass_g", "/card/built_in", "/card/bracket/"},
	"power": {"/card/power_w", "/card/idle_w", "/card/slot_w", "/card/altered", "/card/built_in", "/card/plugs"},
}

// titleOf names a thing by what it is and, when it has one, its name.
func titleOf(thing reflect.Value, sel string) string {
	kind, name := kindOf(sel), nameOf(thing)
	if name == "" {
		return kind
	}
	return kind + ": " + name
}

// kindOf says what stands at a place of a rig.
func kindOf(path string) string { return rig.Called(&rig.Rig{}, path) }

// nameOf is the name of a thing that has one.
func nameOf(thing reflect.Value) string { return textOf(thing, "Name") }

// nextStep is the next thing to do on a rig that is not whole yet.
type nextStep struct {
	Says    string
	Station string
	Sel     string
	Kind    string // opens the parts dialog for that kind
	Add     string // adds to that list
}

func next(r *rig.Rig, report *assess.Report) *nextStep {
	switch {
	case len(r.Host.Slots) == 0:
		return &nextStep{Says: "Add the slots the host has, seen with the cover off.", Station: "survey", Sel: "/host", Add: "/host/slots"}
	case !report.Chamber.Open() && !r.Chamber.Box.X.Known && !r.Chamber.Takes.Length.Known:
		return &nextStep{Says: "Measure the room the card stands in, or say that it stands in the open.", Station: "fit", Sel: "/chamber"}
	default:
		return nil
	}
}

// endForm is the form of the route's last socket.
func endForm(r *rig.Rig) rig.Form {
	if n := len(r.Route.Stages); n > 0 {
		return r.Route.Stages[n-1].Socket.Form.Or("")
	}
	return r.Slot(r.Route.Slot).Form.Or("")
}

type slotRow struct {
	Path, Name, Form, Lanes, Gen, Carries, Behind, Occupant string
	Used                                                    bool
}

func slotRows(r *rig.Rig) []slotRow {
	rows := make([]slotRow, len(r.Host.Slots))
	for i := range r.Host.Slots {
		s := &r.Host.Slots[i]
		rows[i] = slotRow{Path: fmt.Sprintf("/host/slots/%d", i), Name: s.Name, Form: formWords(s), Lanes: words(s.Lanes), Gen: words(s.Gen),
			Behind: words(s.Behind), Occupant: words(s.Occupant), Used: s.Name == r.Route.Slot, Carries: unknown}
		if s.Carries.Known {
			rows[i].Carries = orText(rig.SpokenList(s.Carries.Value, ", "), "nothing")
		}
	}
	return rows
}

// marginFigure is the margin at the planned speed, and how it stands.
func marginFigure(p *link.Plan) string {
	if m, known := p.Planned(); known {
		return m.Words()
	}
	if len(p.Elements) > 0 && p.Elements[0].Tunnel {
		return "its tunnel's own"
	}
	return unknown
}
