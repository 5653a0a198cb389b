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
	"kolvan/core/reference"
	"kolvan/core/rig"
	"kolvan/web/brief"
	"kolvan/web/fields"
	"kolvan/web/phrase"
	"kolvan/web/room"
	"kolvan/web/route"
	"kolvan/web/survey"
	"kolvan/web/verdict"
)

// region is all that is swapped when a rig changes.
type region struct {
	*room.Desk
	Name    string
	Rev     string // the data file and the revision shown
	Number  int
	Label   string
	CanUndo bool
	CanRedo bool
	Deleted bool
	Beyond  bool // it is looked at on a device of the network

	Stations []station
	Later    bool // the verdict with its changes is asked for once more, by itself
	Alone    bool // the verdict is asked for by itself
	Starting bool // host, card and way are asked for first, and nothing else
	Answer   *verdict.Answer
	By       verdict.View
	About    []verdict.Subject // what is said of the thing that is chosen
	Ask      []questionView
	AskMore  int    // questions not shown yet
	PutAside int    // questions that nobody knows the answer to
	More     string // where more changes are tried than were; empty when all were
	Start    *start
	Ways     *route.Ways
	Plans    *plansView
	Bare     bool         // nothing is there yet to be drawn or edited
	Form     *fields.Form // the editor of what is chosen
	Room     any          // what the station shows, as its template takes it
}

func (a *App) station(c fiber.Ctx) error {
	if roomAt(c.Params("station")) == nil {
		return fiber.NewError(fiber.StatusNotFound, "There is no such station.")
	}
	return a.region(c, "", nil)
}

// PageTitle names the station and the rig.
func (v *region) PageTitle() string {
	return phrase.Station(v.Station) + ": " + v.Name
}

// Answers reports a page that has its answer: one that leads through its first steps asks
// instead, save where something may do harm.
func (v *region) Answers() bool {
	return v.Answer != nil && (v.Start == nil || v.Answer.Level == finding.Danger.String())
}

// region answers with the rig's region, in a whole page when the browser asks for
// one. choose is what should be chosen now; "" keeps the choice.
func (a *App) region(c fiber.Ctx, choose string, t *room.Trouble) error {
	l, err := a.load(c)
	if err != nil {
		return err
	}
	return a.regionOf(c, l, choose, t)
}

// regionOf is region for a rig that is loaded.
func (a *App) regionOf(c fiber.Ctx, l *loaded, choose string, t *room.Trouble) error {
	station, sel := c.FormValue("station", c.Params("station")), c.FormValue("sel", c.Query("sel"))
	if roomAt(station) == nil {
		station = route.Room.Key
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
	a.tellFollowers(c, v)
	c.Vary("HX-Request")
	c.Set(fiber.HeaderCacheControl, "no-store")
	if c.Get("HX-Request") != "" {
		return c.Render("region", v)
	}
	seen, err := a.events.state()
	if err != nil {
		return err
	}
	return a.page(c, "rig", fiber.Map{"Title": v.PageTitle(), "Rig": v, "Seen": seen})
}

// heard answers a page that has heard of a change: with its region made anew where it was this
// rig that was changed, and else with nothing.
func (a *App) heard(c fiber.Ctx) error {
	l, err := a.load(c)
	if err != nil {
		return err
	}
	if a.current(c, l.Revision) {
		return c.SendStatus(fiber.StatusNoContent)
	}
	c.Set("HX-Retarget", "#rig")
	c.Set("HX-Reswap", "morph:outerHTML")
	return a.regionOf(c, l, "", nil)
}

// followHeader is sent by a page that follows the bench's own screen, and so leads nobody.
const followHeader = "Kolvan-Follows"

// tellFollowers tells the devices that follow which page is looked at, where it is on this machine's own
// screen.
func (a *App) tellFollowers(c fiber.Ctx, v *region) {
	v.Beyond = !visitorOf(c).here
	if v.Beyond || c.Get(followHeader) != "" || strings.HasSuffix(c.Path(), "/heard") {
		return
	}
	a.events.show(fmt.Sprintf("/rigs/%d/%s?sel=%s", v.ID, v.Station, url.QueryEscape(v.Sel)))
}

// view is all that the region of a station shows.
func (a *App) view(c fiber.Ctx, l *loaded, station, sel string, t *room.Trouble) (*region, error) {
	bins, err := a.anyBins(c)
	if err != nil {
		return nil, err
	}
	ctx, done := whileThere(c.Context(), c.RequestCtx().Conn())
	defer done()
	v := &region{
		Desk: a.desk(ctx, c, l, bins), Name: l.rig.Name, Rev: a.revisionOf(l.Revision), Number: l.Number, Label: l.Label, CanUndo: l.CanUndo,
		CanRedo: l.CanRedo, Deleted: l.Deleted,
	}
	v.Station, v.Sel, v.Trouble = station, sel, t
	v.Later = t == nil && c.Method() == fiber.MethodPost && c.Get(verdictHeader) == "later"
	if err := v.judged(c); err != nil {
		return nil, err
	}
	if err := v.lead(a, c); err != nil {
		return nil, err
	}
	if v.wantsWays() {
		if v.Ways, err = route.WaysOf(v.Desk); err != nil {
			return nil, err
		}
		v.Ways.Step = v.Sel != route.WaysSel
	}
	if v.Station == route.Room.Key && v.Sel == route.WaysSel {
		v.Start = nil
		return v, nil
	}
	if v.Station == brief.Room.Key && v.Sel == plansSel {
		v.Start = nil
		v.Plans, err = a.plansOf(l, bins, picks(c))
		return v, err
	}
	return v, v.work()
}

// desk is what the pages of a rig are made of, as a request asks for them.
func (a *App) desk(ctx context.Context, c fiber.Ctx, l *loaded, bins *assess.Bins) *room.Desk {
	return &room.Desk{
		Context: ctx, ID: l.ID, Rig: l.rig, Ref: a.ref, Bins: bins, Store: a.store, Inches: inches(c), Station: c.Params("station"),
		Sel:      c.Query("sel"),
		Untaught: lessonsAway(c),
		Query:    func(name string) string { return c.Query(name) },
		Every:    func(name string) []string { return every(c, name) },
		Form:     func(name string) string { return c.FormValue(name) },
		Pictures: func(step string) ([]room.Picture, error) { return a.picturesOf(c, l.ID, step) },
	}
}

// file makes a handler of a station's file.
func (a *App) file(made room.File) fiber.Handler {
	return func(c fiber.Ctx) error {
		l, err := a.load(c)
		if err != nil {
			return err
		}
		d := a.desk(c.Context(), c, l, nil)
		report := assess.Rig(l.rig, a.ref)
		d.Report = &report
		return made(c, d)
	}
}

// every is all that an address says under a name.
func every(c fiber.Ctx, name string) (list []string) {
	for _, value := range c.RequestCtx().QueryArgs().PeekMulti(name) {
		list = append(list, string(value))
	}
	return list
}

// verdictHeader is what a page sends that asks for the verdict by itself: an edit is then
// answered before the changes that would clear something were tried.
const verdictHeader = "Kolvan-Verdict"

// judged fills in the report and the verdict: its questions, and the changes it offers where
// they are not asked for later.
func (v *region) judged(c fiber.Ctx) error {
	report := assess.Rig(v.Rig, v.Ref)
	v.Report = &report
	if v.Later {
		v.judge(nil)
		return nil
	}
	if err := assess.Ask(v.Context, &report, v.Rig, v.Ref); err != nil {
		return err
	}
	effort := assess.UsualEffort
	if c.Query("effort") == "more" {
		effort *= 20
	}
	if err := assess.Clear(v.Context, &report, v.Rig, v.Ref, v.Bins, effort); err != nil {
		return err
	}
	if report.Untried && effort == assess.UsualEffort {
		v.More = fmt.Sprintf("/rigs/%d/%s?effort=more&sel=%s", v.ID, v.Station, url.QueryEscape(v.Sel))
	}
	v.judge(v.Ref)
	v.Ask = questionViews(v)
	return nil
}

// judge fills in the answer and the verdict by subject; what a smaller card would do only
// with the tables to work it out by.
func (v *region) judge(ref *reference.Tables) {
	r, report := v.Rig, v.Report
	subjects := verdict.SubjectsOf(report, r, v.Inches)
	if ref != nil {
		verdict.BoundCard(subjects, report, r, ref, v.Inches)
	}
	v.Answer = verdict.AnswerOf(report, r, subjects, v.Station)
	step := stepOf(r, report)
	v.Starting = step >= 0 && step < feedStep
	shown := step < 0 || v.Answer.Level == finding.Danger.String() // see Answers
	for i := range subjects {
		s := &subjects[i]
		s.Led = shown && strings.EqualFold(s.Line+".", v.Answer.Says)
		s.Pressed = shown && v.Answer.Press != nil && len(s.Changes) > 0 && s.Changes[0].ID == v.Answer.Press.ID
	}
	v.About, v.By = v.parted(r, subjects)
	v.Stations = stations(v.Desk, subjects)
}

// parted are the subjects about the thing that is chosen, and the rest by station: none of it
// stands open beside an editor.
func (v *region) parted(r *rig.Rig, subjects []verdict.Subject) (about []verdict.Subject, by verdict.View) {
	if v.Sel == "" || v.Sel == route.WaysSel || v.Sel == plansSel {
		return nil, verdict.Of(subjects, v.Station, Stations())
	}
	chosen, _ := r.Subject(v.Sel)
	rest := slices.Clone(subjects)
	rest = slices.DeleteFunc(rest, func(s verdict.Subject) bool {
		is := slices.ContainsFunc(s.All(), func(f verdict.FindingView) bool {
			thing, _ := r.Subject(f.Where)
			return rig.Within(thing, chosen)
		})
		if is {
			about = append(about, s)
		}
		return is
	})
	return about, verdict.Of(rest, "", Stations())
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
	v := &region{Desk: a.desk(ctx, c, l, bins)}
	if err := v.judged(c); err != nil {
		return err
	}
	v.Alone = true
	c.Set(fiber.HeaderCacheControl, "no-store")
	return c.Render("verdict", v)
}

// work fills in what is worked on at the station: its editor, and what the room itself shows.
func (v *region) work() (err error) {
	here := roomAt(v.Station)
	if here.NoEditor {
		v.Start = nil
	} else {
		v.edit(here)
	}
	v.Room, err = here.Fill(v.Desk)
	return err
}

// lead fills in what leads on: the steps of a rig that is not whole yet, or a line
// that says what is next.
func (v *region) lead(a *App, c fiber.Ctx) error {
	r, report := v.Rig, v.Report
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
	return v.Station == "route" && v.Sel == route.WaysSel || v.Start != nil && v.Start.At == wayStep && v.Station == "route"
}

// edit fills in the editor of what is chosen.
func (v *region) edit(here *room.Room) {
	if v.Sel == "" {
		return
	}
	r := v.Rig
	thing, spec, err := rig.At(r, v.Sel)
	if err != nil || spec.Type != nil || thing.Kind() != reflect.Struct {
		v.Sel = ""
		return
	}
	v.Form = fields.For(r, thing.Addr().Interface(), v.Sel, v.Inches, v.Trouble)
	v.Form.Post = fmt.Sprintf("/rigs/%d", v.ID)
	v.Form.Title, v.Form.Folding = titleOf(thing, v.Sel), true
	if len(here.Card) > 0 && v.Sel == "/card" {
		v.Form.Keep(here.Card)
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
	if v.Sel == here.OwnForm {
		v.Form = nil
	}
}

// StartsHere is the slot that is looked at, where the route may start from it and does not yet.
func (v *region) StartsHere() string {
	i := rig.EntryAt(v.Sel, "/host/slots")
	if v.Station != survey.Room.Key || i < 0 || i >= len(v.Rig.Host.Slots) || v.Rig.Host.Slots[i].Name == v.Rig.Route.Slot {
		return ""
	}
	return v.Rig.Host.Slots[i].Name
}

// titleOf names a thing by what it is and, when it has one, its name.
func titleOf(thing reflect.Value, sel string) string {
	kind, name := verdict.KindOf(sel), nameOf(thing)
	if name == "" {
		return kind
	}
	return kind + ": " + name
}

// nameOf is the name of a thing that has one.
func nameOf(thing reflect.Value) string { return fields.TextOf(thing, "Name") }

// endForm is the form of the route's last socket.
func endForm(r *rig.Rig) rig.Form {
	if n := len(r.Route.Stages); n > 0 {
		return r.Route.Stages[n-1].Socket.Form.Or("")
	}
	return r.Slot(r.Route.Slot).Form.Or("")
}
