package web

import (
	"bufio"
	"bytes"
	"context"
	"errors"
	"fmt"
	"io"
	"log/slog"
	"math"
	"net"
	"slices"
	"strconv"
	"strings"
	"time"

	"github.com/go-json-experiment/json"
	"github.com/gofiber/fiber/v3"

	"kolvan/core/assess"
	"kolvan/core/meter"
	"kolvan/core/power"
	"kolvan/core/rig"
	"kolvan/core/units"
	"kolvan/instruments"
	"kolvan/store"
	"kolvan/web/draw"
	powerroom "kolvan/web/power"
)

// mostHeld bounds the memory of all recordings that are held, in bytes.
const mostHeld = 64 << 20

// keepEvery is how often a recording is kept while it goes on: what a fault of the
// machine may cost.
const keepEvery = time.Minute

func (a *App) meterPage(c fiber.Ctx) error { return a.meterPageWith(c, "") }

func (a *App) meterPageWith(c fiber.Ctx, fault string) error {
	l, err := a.load(c)
	if err != nil {
		return err
	}
	report := assess.Rig(l.rig, a.ref)
	v := &meterView{
		ID: l.ID, Name: l.rig.Name, Stations: a.stationsBeside(c, l, powerroom.Room.Key), There: a.meters.addr != "",
		Fault: fault,
	}
	if v.Supply = supplyShown(c, report.Power); v.Supply < 0 {
		v.Empty = "Add the supply whose plug the meter stands at: there is none in this rig yet."
	} else {
		rec, err := a.meters.recorder(c.Context(), l.ID)
		if broken := (*store.Broken)(nil); errors.As(err, &broken) {
			v.Broken = true
		} else if err != nil {
			return err
		}
		a.fillMeter(v, l.rig, report.Power, rec)
	}
	if c.Get("HX-Request") != "" {
		return c.Render("meter_region", v)
	}
	return a.page(c, "meter", fiber.Map{"Title": "Wall meter, " + l.rig.Name, "Meter": v})
}

// supplyShown is the supply the page is about: the one asked for, else the card's,
// else the first; −1 without any.
func supplyShown(c fiber.Ctx, n *power.Network) int {
	if i, err := strconv.Atoi(c.FormValue("supply", c.Query("supply"))); err == nil && i >= 0 && i < len(n.Supplies) {
		return i
	}
	if i := n.CardSupply(); i >= 0 {
		return i
	}
	return min(0, len(n.Supplies)-1)
}

// mostPlotted are the samples a trace is drawn from: more than it has pixels.
const mostPlotted = 2000

// aGap stands for the watts of a moment in a gap, where the trace is broken.
const aGap = -1

// startMeter calls the meter and begins to record.
func (a *App) startMeter(c fiber.Ctx) error {
	l, err := a.load(c)
	if err != nil {
		return err
	}
	if a.meters.addr == "" {
		return fiber.NewError(
			fiber.StatusConflict, "No wall meter is set up. Start Kolvan with --instruments and an address at which one answers.",
		)
	}
	n := assess.Rig(l.rig, a.ref).Power
	supply := supplyShown(c, n)
	draw, ok := drawOf(n, supply)
	if !ok {
		return a.meterPageWith(
			c,
			"The stand-in plays what the plan expects, and that is not known yet: tell the supply's rating and the card's board power first.",
		)
	}
	m, err := instruments.CallWallMeter(c.Context(), a.meters.addr)
	if err == nil {
		err = m.Play(draw)
	}
	if err != nil {
		slog.Warn("no wall meter", "err", err)
		return a.meterPageWith(c, "The wall meter does not answer at "+a.meters.addr+". Is it on, and reached by this address?")
	}
	if err := a.meters.record(l.ID, m); err != nil {
		return errors.Join(err, m.Close())
	}
	return a.meterPage(c)
}

// drawOf is what the plan expects of a supply at the wall, for the stand-in to
// play: in the middle of what is open, its spikes at their worst.
func drawOf(n *power.Network, i int) (d instruments.Draw, ok bool) {
	if i < 0 {
		return d, false
	}
	loaded, known := n.Wall(i)
	idle, _ := n.WallIdle(i)
	if !known || !n.Supplies[i].Planned.Known() {
		return d, false
	}
	middle := func(w power.Watts) units.Watt { return (w.Low + w.High) / 2 }
	d = instruments.Draw{Idle: min(middle(idle), middle(loaded)), Loaded: middle(loaded), Seed: 1}
	d.Spike = d.Loaded
	if bands := n.Bands(i); n.Supplies[i].Planned.High > 0 {
		longest := bands[len(bands)-1]
		times := d.Loaded / n.Supplies[i].Planned.High // from behind the supply to the wall
		d.Spike, d.Trips = max(d.Loaded, longest.Takes.High*times), longest.Rides.High*times
	}
	return d, true
}

// tellMeter passes a command on to the stand-in: a load, a trip, or on again.
func (a *App) tellMeter(c fiber.Ctx) error {
	l, err := a.load(c)
	if err != nil {
		return err
	}
	rec, err := a.meters.recorder(c.Context(), l.ID)
	if err != nil {
		return err
	}
	if rec == nil || !rec.State().Running {
		return a.meterPageWith(c, "Nothing is being recorded.")
	}
	switch what := c.FormValue("what"); what {
	case "trip":
		err = rec.Tell("trip")
	case "reset":
		if err = rec.Tell("reset"); err == nil {
			err = rec.SetLoad("idle")
		}
	case "stop":
		rec.Stop()
	default:
		if !slices.Contains(instruments.Loads, what) {
			return fiber.NewError(
				fiber.StatusUnprocessableEntity,
				"what: "+strconv.Quote(what)+" is not accepted; accepted: trip, reset, stop, "+strings.Join(instruments.Loads, ", "),
			)
		}
		err = rec.SetLoad(what)
	}
	if err != nil {
		return a.meterPageWith(c, "The wall meter does not listen any more.")
	}
	return a.meterPage(c)
}

func (a *App) dropMeter(c fiber.Ctx) error {
	l, err := a.load(c)
	if err != nil {
		return err
	}
	if err := a.meters.drop(c.Context(), l.ID); err != nil {
		return err
	}
	return a.meterPage(c)
}

// importMeter takes the table of a real meter.
func (a *App) importMeter(c fiber.Ctx) error {
	l, err := a.load(c)
	if err != nil {
		return err
	}
	file, err := c.FormFile("table")
	if err != nil {
		return a.meterPageWith(c, "Choose the table that the meter wrote, as CSV.")
	}
	from, err := file.Open()
	if err != nil {
		return fmt.Errorf("opening the table: %w", err)
	}
	defer from.Close()
	ctx, done := whileThere(c.Context(), c.RequestCtx().Conn())
	defer done()
	open := func() (io.Reader, error) {
		_, err := from.Seek(0, io.SeekStart)
		return leaving{ctx, from}, err
	}
	err = a.meters.hold(ctx, l.ID, open, c.FormValue("column"))
	if wrong := (*meter.Error)(nil); errors.As(err, &wrong) {
		return a.meterPageWith(c, draw.Clip(file.Filename, 80)+": "+err.Error()+".")
	}
	if err != nil {
		return err
	}
	return a.meterPage(c)
}

// meterTable is the recording as CSV.
func (a *App) meterTable(c fiber.Ctx) error {
	l, err := a.load(c)
	if err != nil {
		return err
	}
	rec, err := a.meters.recorder(c.Context(), l.ID)
	if err != nil {
		return err
	}
	if rec == nil {
		return fiber.NewError(fiber.StatusNotFound, "Nothing was recorded for this rig.")
	}
	c.Attachment(l.rig.Name + " wall.csv")
	c.Set(fiber.HeaderContentType, "text/csv; charset=utf-8")
	if record := rec.Record(); record.Whole() {
		var table bytes.Buffer
		if err := record.WriteCSV(&table); err != nil {
			return err
		}
		return c.Send(table.Bytes())
	}
	open, err := a.store.Recording(c.Context(), l.ID)
	if err != nil {
		return err
	}
	whole, err := open()
	if err != nil {
		return err
	}
	return c.SendStream(whole)
}

// takeReading keeps a reading as what the meter showed for a supply under load.
func (a *App) takeReading(c fiber.Ctx) error {
	l, err := a.load(c)
	if err != nil {
		return err
	}
	at := "/supplies/" + c.FormValue("supply") + "/wall_w"
	if err := rig.Set(l.rig, at, c.FormValue("reading")); err != nil {
		return a.meterPageWith(c, err.Error())
	}
	if err := rig.Set(l.rig, at+"/source", string(rig.Measured)); err != nil {
		return err
	}
	doc, _, err := strictly(l.rig, rig.Reread)
	if err != nil {
		return a.meterPageWith(c, err.Error())
	}
	if _, err := a.store.Write(c.Context(), l.ID, l.Revision, l.rig.Name, doc, "a reading at the wall"); err != nil {
		return err
	}
	return c.Redirect().Status(fiber.StatusSeeOther).To(fmt.Sprintf("/rigs/%d/power?sel=/supplies/%s", l.ID, c.FormValue("supply")))
}

// liveMeter sends what comes in as server-sent events, each with the samples since
// the one before; its number is the sample to go on from.
func (a *App) liveMeter(c fiber.Ctx) error {
	l, err := a.load(c)
	if err != nil {
		return err
	}
	rec, err := a.meters.recorder(c.Context(), l.ID)
	if err != nil {
		return err
	}
	if rec == nil {
		return fiber.NewError(fiber.StatusNotFound, "Nothing is being recorded for this rig.")
	}
	next, err := strconv.Atoi(c.Get("Last-Event-ID", c.Query("from", "0")))
	if err != nil || next < 0 {
		return fiber.NewError(fiber.StatusUnprocessableEntity, "from: a number of 0 or more is accepted.")
	}
	c.Set(fiber.HeaderContentType, "text/event-stream")
	c.Set(fiber.HeaderCacheControl, "no-store")
	conn := c.RequestCtx().Conn()
	return c.SendStreamWriter(func(w *bufio.Writer) {
		if err := follow(a.meters.running, rec, next, w, conn); err != nil {
			slog.Debug("a reader of the wall meter left", "err", err)
		}
	})
}

// event is what a reader is sent: the new samples and the figures so far.
type event struct {
	Samples [][2]float64 `json:"samples"`
	Lately  float64      `json:"lately"`
	Figures []string     `json:"figures"`
	Ended   string       `json:"ended,omitzero"`
	Running bool         `json:"running"`
}

func follow(ctx context.Context, rec *instruments.Recorder, next int, w *bufio.Writer, conn net.Conn) error {
	for {
		samples, running, more := rec.From(next)
		next += len(samples)
		e := event{
			Samples: thinned(samples, units.Second(math.Inf(1))), Lately: float64(units.Round(rec.Lately(10), 4)),
			Running: running, Ended: rec.State().Ended,
		}
		for _, f := range meterFigures(rec.Figures()) {
			e.Figures = append(e.Figures, f.Value)
		}
		data, err := json.Marshal(e)
		if err != nil {
			return err
		}
		if err := conn.SetWriteDeadline(time.Now().Add(10 * time.Second)); err != nil {
			return err
		}
		if _, err := fmt.Fprintf(w, "id: %d\ndata: %s\n\n", next, data); err != nil {
			return err
		}
		if err := w.Flush(); err != nil || !running {
			return err
		}
		select {
		case <-more:
		case <-ctx.Done():
			return nil
		}
	}
}
