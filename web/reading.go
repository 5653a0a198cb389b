package web

import (
	"cmp"
	"fmt"
	"io"
	"path"
	"strconv"
	"strings"

	"github.com/gofiber/fiber/v3"

	"kolvan/core/finding"
	"kolvan/core/link"
	"kolvan/core/reading"
	"kolvan/core/rig"
	"kolvan/core/units"
	"kolvan/instruments"
	"kolvan/web/fields"
	"kolvan/web/phrase"
	"kolvan/web/room"
	"kolvan/web/route"
)

// readingView is the page where a listing of the bus is held against the plan.
type readingView struct {
	ID       int64
	Name     string
	Stations []station
	Fault    string
	Text     string
	Loads    []fields.Choice
	Errors   string
	Over     string
	There    bool // a probe can be called
	Faults   []fields.Choice
	Reading  *reading.Reading
	Chain    []*reading.Device
	Figures  []room.Figure
	Keep     []keptFact // what would be kept with the route; empty where nothing was read
}

// Shown are the links that a window with a picture may show, by lanes and generation.
func (readingView) Shown() (list []string) {
	for _, lanes := range []int{1, 2, 4, 8, 16} {
		for gen := 1; gen <= 5; gen++ {
			list = append(list, fmt.Sprintf("x%d Gen %d", lanes, gen))
		}
	}
	return list
}

// keptFact is one fact of a reading, as the rig file has it.
type keptFact struct{ Name, Value, Says string }

// mostPasted is how much of a text is shown again.
const mostPasted = 200_000

func (a *App) readingPage(c fiber.Ctx) error {
	v, _, err := a.newReadingView(c)
	if err != nil {
		return err
	}
	return a.showReading(c, v)
}

func (a *App) newReadingView(c fiber.Ctx) (*readingView, *loaded, error) {
	l, err := a.load(c)
	if err != nil {
		return nil, nil, err
	}
	v := &readingView{
		ID:       l.ID,
		Name:     l.rig.Name,
		Stations: a.stationsBeside(c, l, route.Room.Key),
		There:    a.probe != "",
		Errors:   c.FormValue("errors"),
		Over:     c.FormValue("over"),
	}
	for _, load := range []struct{ value, label string }{{"unknown", "as the text says"}, {"idle", "at idle"}, {"loaded", "under load"}} {
		v.Loads = append(v.Loads, fields.Choice{Value: load.value, Label: load.label, On: load.value == c.FormValue("load", "unknown")})
	}
	for _, fault := range instruments.Faults {
		v.Faults = append(v.Faults, fields.Choice{Value: fault, Label: strings.ReplaceAll(fault, "-", " "), On: fault == c.FormValue("fault")})
	}
	return v, l, nil
}

func (a *App) showReading(c fiber.Ctx, v *readingView) error {
	c.Vary("HX-Request")
	if c.Get("HX-Request") != "" {
		return c.Render("reading_region", v)
	}
	return a.page(c, "reading", fiber.Map{"Title": "Reading of the link, " + v.Name, "Reading": v})
}

// readText holds what was pasted or dropped against the plan.
func (a *App) readText(c fiber.Ctx) error {
	v, l, err := a.newReadingView(c)
	if err != nil {
		return err
	}
	text, name, err := textOfForm(c)
	if err != nil {
		return err
	}
	a.hold(v, l.rig, text, name, reading.Load(c.FormValue("load", "unknown")))
	return a.showReading(c, v)
}

// textOfForm is what was pasted; else the files that were dropped, of several each
// with its name, as the kernel's files say by it what they hold.
func textOfForm(c fiber.Ctx) (text, name string, err error) {
	if text = c.FormValue("text"); strings.TrimSpace(text) != "" {
		return text, "", nil
	}
	form, err := c.MultipartForm()
	if err != nil || len(form.File["files"]) == 0 {
		return "", "", nil
	}
	var all strings.Builder
	for _, head := range form.File["files"] {
		file, err := head.Open()
		if err != nil {
			return "", "", fmt.Errorf("opening what was dropped: %w", err)
		}
		data, err := io.ReadAll(file)
		_ = file.Close() // it was only read
		if err != nil {
			return "", "", fmt.Errorf("reading what was dropped: %w", err)
		}
		name = path.Base(head.Filename)
		if len(form.File["files"]) > 1 && strings.Count(strings.TrimSpace(string(data)), "\n") == 0 {
			all.WriteString(name + ":")
		}
		all.Write(data)
		all.WriteString("\n")
	}
	return all.String(), name, nil
}

// hold reads a text and fills in what it says; a text that says nothing stays to be
// looked at.
func (a *App) hold(v *readingView, r *rig.Rig, text, name string, load reading.Load) {
	if len(text) <= mostPasted {
		v.Text = text
	}
	got, err := reading.Read(strings.NewReader(text), name)
	if err != nil {
		v.Fault = finding.Begin(plainly(err.Error())) + "."
		return
	}
	if load == reading.Idle || load == reading.Loaded {
		got.Load = load
	}
	var over units.Second
	if v.Over != "" {
		if err := over.Parse(v.Over); err != nil {
			v.Fault = "Over how long errors were counted: " + err.Error()
			return
		}
		counted := got.Correctable()
		if v.Errors != "" {
			if counted, err = strconv.Atoi(strings.TrimSpace(v.Errors)); err != nil || counted < 0 {
				v.Fault = fmt.Sprintf("Errors counted: %q is not accepted; accepted: a whole number.", v.Errors)
				return
			}
		}
		got.Count(counted, over, a.ref)
	}
	got.Hold(r, a.ref)
	v.Reading, v.Chain, v.Figures, v.Keep = got, got.Chain(), readingFigures(got), keptOf(got)
}

func readingFigures(r *reading.Reading) (list []room.Figure) {
	if now := r.Now(); now.Width > 0 || now.Gen > 0 {
		list = append(
			list,
			room.Figure{Value: now.String(), Label: "runs, " + map[reading.Load]string{
				reading.Idle: "at idle", reading.Loaded: "under load", reading.Unknown: "idle or loaded is not told",
			}[r.Load]},
		)
	}
	if r.Net != nil {
		list = append(list, room.Figure{Value: r.Net.String(), Label: "net, each way"})
	}
	if bytes := r.Payload(); bytes > 0 {
		list = append(list, room.Figure{Value: strconv.Itoa(bytes) + " bytes", Label: "of payload in force"})
	}
	if rate := r.Rate; rate != nil {
		if rate.Errors == 0 {
			list = append(list, room.Figure{Value: fmt.Sprintf("under %.1e", rate.Below), Label: "of the bits wrong, with 95 %, as none was"})
		}
		list = append(list, room.Figure{Value: fmt.Sprintf("%.1e", rate.BER), Label: fmt.Sprintf("of the bits wrong, %.1e to %.1e with 95 %%",
			rate.Interval95[0], rate.Interval95[1])},

			room.Figure{Value: rate.ClaimAfter.String(), Label: "to run clean, to show that it is under 1e-12"})
	}
	return list
}

// keptOf are the facts of a reading that the route keeps.
func keptOf(r *reading.Reading) (facts []keptFact) {
	of := r.OfLink()
	add := func(name string, known bool, value any, says string) {
		if known {
			facts = append(facts, keptFact{name, fmt.Sprint(value), says})
		}
	}
	add("width", of.Width.Known, of.Width.Value, fmt.Sprintf("x%d", of.Width.Value))
	add("generation", of.Gen.Known, of.Gen.Value, fmt.Sprintf("Gen %d", of.Gen.Value))
	add("largest_width", of.MostW.Known, of.MostW.Value, fmt.Sprintf("x%d", of.MostW.Value))
	add("largest_generation", of.MostG.Known, of.MostG.Value, fmt.Sprintf("Gen %d at the largest", of.MostG.Value))
	add("load", of.Load.Known, of.Load.Value, "taken "+rig.Spoken(of.Load.Value))
	if r.Rate != nil {
		add("errors", true, r.Rate.Errors, phrase.Plural(r.Rate.Errors, "error"))
		add("seconds", true, float64(r.Rate.Seconds), "over "+r.Rate.Seconds.String())
	}
	if bytes := r.Payload(); bytes == 128 || bytes == 256 || bytes == 512 {
		add("payload", true, bytes, fmt.Sprintf("%d bytes of payload", bytes))
	}
	return facts
}

// askProbe has the link probe list the bus.
func (a *App) askProbe(c fiber.Ctx) error {
	v, l, err := a.newReadingView(c)
	if err != nil {
		return err
	}
	if a.probe == "" {
		return fiber.NewError(
			fiber.StatusConflict, "No link probe is set up: start Kolvan with --instruments and an address at which one answers.",
		)
	}
	load := c.FormValue("load", "unknown")
	if load != string(reading.Idle) {
		load = string(reading.Loaded)
	}
	text, err := instruments.ReadLinkProbe(c.Context(), a.probe, busOf(l.rig, a), load, c.FormValue("fault", "none"))
	if err != nil {
		v.Fault = finding.Begin(plainly(err.Error())) + "."
		return a.showReading(c, v)
	}
	a.hold(v, l.rig, text, "", reading.Unknown)
	return a.showReading(c, v)
}

// busOf is the bus as the plan has it, for the simulated probe to list; what is not
// known of it is taken to be one lane of Gen 1.
func busOf(r *rig.Rig, a *App) instruments.Bus {
	p := link.For(r, a.ref)
	b := instruments.Bus{PortLanes: 1, PortGen: 1, CardLanes: max(1, r.Card.Lanes.Value), CardGen: max(1, r.Card.Gen.Value),
		Lanes: max(1, p.WidthEnds.Low), Gen: max(1, p.GenEnds.Low), Payload: r.Route.Payload.Or(128)}
	if slot := r.Slot(r.Route.Slot); slot != nil {
		b.PortLanes, b.PortGen = max(1, slot.Lanes.Value), max(1, slot.Gen.Value)
	}
	return b
}

// keepReading puts what was read into the route, as measured.
func (a *App) keepReading(c fiber.Ctx) error {
	l, err := a.load(c)
	if err != nil {
		return err
	}
	at := "/route/readings/" + strconv.Itoa(len(l.rig.Route.Readings))
	l.rig.Route.Readings = append(l.rig.Route.Readings, rig.Reading{})
	for _, name := range []string{"width", "generation", "largest_width", "largest_generation", "load", "errors", "seconds", "payload"} {
		typed := c.FormValue(name)
		if typed == "" {
			continue
		}
		to := at + "/" + name
		if name == "payload" {
			to = "/route/payload_bytes"
		}
		if err := cmp.Or(rig.Set(l.rig, to, typed), rig.Set(l.rig, to+"/source", string(rig.Measured))); err != nil {
			return fiber.NewError(fiber.StatusUnprocessableEntity, plainly(err.Error()))
		}
	}
	l.rig.Route.Readings[len(l.rig.Route.Readings)-1].When = room.When(c)
	doc, _, err := strictly(l.rig, rig.Reread)
	if err != nil {
		return fiber.NewError(fiber.StatusUnprocessableEntity, plainly(err.Error()))
	}
	if _, err := a.store.Write(c.Context(), l.ID, l.Revision, l.rig.Name, doc, "a reading of the link"); err != nil {
		return err
	}
	return c.Redirect().Status(fiber.StatusSeeOther).To(fmt.Sprintf("/rigs/%d/route?sel=%s", l.ID, at))
}
