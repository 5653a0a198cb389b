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
	"sync"
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
)

// meters are the recordings at the wall, one for each rig. They are kept in the data
// file when they end, and while they go on from time to time.
type meters struct {
	addr    string // of the meter; "" without one
	store   *store.Store
	mu      sync.Mutex
	of      map[int64]*instruments.Recorder
	running context.Context
	end     context.CancelFunc
	keeping sync.WaitGroup
}

func newMeters(addr string, s *store.Store) *meters {
	ctx, end := context.WithCancel(context.Background())
	return &meters{addr: addr, store: s, of: map[int64]*instruments.Recorder{}, running: ctx, end: end}
}

// close ends all recordings and waits until they are kept.
func (m *meters) close() {
	m.end()
	m.keeping.Wait()
}

// recorder is what records a rig, or holds what was kept of it; nil without one.
func (m *meters) recorder(ctx context.Context, id int64) (*instruments.Recorder, error) {
	m.mu.Lock()
	defer m.mu.Unlock()
	if rec := m.of[id]; rec != nil {
		return rec, nil
	}
	table, err := m.store.Recording(ctx, id)
	if errors.Is(err, store.ErrNotFound) {
		return nil, nil
	}
	if err != nil {
		return nil, err
	}
	record, err := meter.ReadAgain(table, "", io.Discard)
	if err != nil {
		slog.Warn("a recording cannot be read", "rig", id, "err", err)
		return nil, &store.Broken{What: fmt.Sprintf("the recording of rig %d", id)}
	}
	m.put(id, instruments.Hold(record))
	return m.of[id], nil
}

// mostHeld bounds the memory of all recordings that are held, in bytes.
const mostHeld = 64 << 20

// put holds a recording, in the place of others that have ended and are kept.
func (m *meters) put(id int64, r *instruments.Recorder) {
	m.of[id] = r
	for other, rec := range m.of {
		if m.held() > mostHeld && other != id && !rec.State().Running {
			delete(m.of, other)
		}
	}
}

// held is the memory that all recordings take, in bytes.
func (m *meters) held() (all int) {
	for _, rec := range m.of {
		all += rec.Held()
	}
	return all
}

// record begins to record a rig.
func (m *meters) record(id int64, from *instruments.WallMeter) error {
	m.mu.Lock()
	defer m.mu.Unlock()
	running := 0
	for other, rec := range m.of {
		if other != id && rec.State().Running {
			running++
		}
	}
	if (running+1)*instruments.Bytes > mostHeld {
		return fiber.NewError(fiber.StatusConflict, fmt.Sprintf("%d rigs are being recorded; stop one first.", running))
	}
	m.stop(id)
	rec := instruments.Record(m.running, from)
	m.put(id, rec)
	m.keeping.Go(func() { m.keepOn(id, rec) })
	return nil
}

// keepEvery is how often a recording is kept while it goes on: what a fault of the
// machine may cost.
const keepEvery = time.Minute

func (m *meters) keepOn(id int64, rec *instruments.Recorder) {
	again := time.NewTicker(keepEvery)
	defer again.Stop()
	for going := true; going; {
		select {
		case <-rec.Done():
			going = false
		case <-again.C:
		}
		if err := m.keepSoFar(id, rec); err != nil {
			slog.Error("a recording at the wall is not kept", "rig", id, "err", err)
		}
	}
}

// keepSoFar keeps what a recording has, unless it was thrown away or made anew.
func (m *meters) keepSoFar(id int64, rec *instruments.Recorder) error {
	record := rec.Record()
	m.mu.Lock()
	defer m.mu.Unlock()
	if m.of[id] != rec {
		return nil
	}
	return m.keep(context.Background(), id, &record)
}

func (m *meters) keep(ctx context.Context, id int64, record *meter.Record) error {
	if len(record.Samples) == 0 {
		return nil
	}
	return m.store.KeepRecording(ctx, id, record.WriteCSV)
}

// hold reads a table that a meter wrote and keeps it.
func (m *meters) hold(ctx context.Context, id int64, open func() (io.Reader, error), column string) error {
	var record *meter.Record
	err := m.store.KeepRecording(ctx, id, func(to io.Writer) (err error) {
		record, err = meter.ReadAgain(open, column, to)
		return err
	})
	if err != nil {
		return err
	}
	m.mu.Lock()
	defer m.mu.Unlock()
	m.stop(id)
	m.put(id, instruments.Hold(record))
	return nil
}

// drop throws a recording away.
func (m *meters) drop(ctx context.Context, id int64) error {
	m.mu.Lock()
	defer m.mu.Unlock()
	m.stop(id)
	return m.store.DropRecording(ctx, id)
}

func (m *meters) stop(id int64) {
	if old := m.of[id]; old != nil {
		old.Stop()
	}
	delete(m.of, id)
}

// meterView is the page of the wall meter.
type meterView struct {
	ID       int64
	Name     string
	Stations []station
	Supplies []choice
	Supply   int
	Expected []figure
	Facts    []figure
	Plot     plotData
	There    bool // a meter can be called
	State    instruments.State
	Loads    []choice
	Fault    string
	Reading  string // what would be taken as the reading, W
	Behind   string
	Empty    string
	Broken   bool // what was recorded is not what was kept
}

// plotData is what the trace is drawn from.
type plotData struct {
	Live    string       `json:"live,omitzero"`
	Samples [][2]float64 `json:"samples"`
	Next    int          `json:"next"` // the sample to go on from
	Idle    [2]float64   `json:"idle"`
	Loaded  [2]float64   `json:"loaded"`
	Running bool         `json:"running"`
}

// JSON is the data as the page carries it.
func (p plotData) JSON() (string, error) {
	text, err := json.Marshal(p)
	return string(text), err
}

func (a *App) meterPage(c fiber.Ctx) error { return a.meterPageWith(c, "") }

func (a *App) meterPageWith(c fiber.Ctx, fault string) error {
	l, err := a.load(c)
	if err != nil {
		return err
	}
	report := assess.Rig(l.rig, a.ref)
	v := &meterView{ID: l.ID, Name: l.rig.Name, Stations: stations(l.rig, &report, "power", inches(c)), There: a.meters.addr != "", Fault: fault}
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

func (a *App) fillMeter(v *meterView, r *rig.Rig, n *power.Network, rec *instruments.Recorder) {
	for i := range r.Supplies {
		v.Supplies = append(v.Supplies, choice{strconv.Itoa(i), r.Supplies[i].Name, i == v.Supply})
	}
	idle, _ := n.WallIdle(v.Supply)
	loaded, known := n.Wall(v.Supply)
	if known {
		v.Expected = wallFigures(r, n, v.Supply, idle, loaded)
		v.Plot.Idle, v.Plot.Loaded = [2]float64{float64(idle.Low), float64(idle.High)}, [2]float64{float64(loaded.Low), float64(loaded.High)}
	} else {
		v.Empty = "What to expect cannot be said before the rating of " + r.Supplies[v.Supply].Name + " is told."
	}
	if rec == nil {
		return
	}
	v.State = rec.State()
	for _, load := range instruments.Loads {
		v.Loads = append(v.Loads, choice{load, load, load == v.State.Load})
	}
	record := rec.Record()
	v.Plot.Samples, v.Plot.Next, v.Plot.Running = thinned(record.Samples, record.Gap()), len(record.Samples), v.State.Running
	v.Plot.Live = fmt.Sprintf("/rigs/%d/meter/live", v.ID)
	f := rec.Figures()
	v.Facts = meterFigures(f)
	if f.Samples > 0 {
		reading := record.Highest()
		if v.State.Running {
			reading = rec.Lately(10)
		}
		v.Reading = units.Trim(float64(reading), 1)
		if behind, ok := n.BehindSupply(v.Supply, reading); ok {
			v.Behind = rangeWords(behind)
		}
	}
}

// meterFigures are the figures of a recording.
func meterFigures(f meter.Figures) []figure {
	list := []figure{{f.Mean.String(), "mean"}, {f.Peak.String(), "peak"}, {f.Energy.String(), "energy"}, {span(f.Seconds), "measured"}}
	if f.Gaps > 0 {
		list = append(list, figure{fmt.Sprintf("%d of %s", f.Gaps, span(f.Missing)), "gaps, counted for nothing"})
	}
	return list
}

// wallFigures are what to expect at the wall, and what it comes to.
func wallFigures(r *rig.Rig, n *power.Network, supply int, idle, loaded power.Watts) []figure {
	list := []figure{
		{rangeWords(idle), "expected with nothing to do"}, {rangeWords(loaded), "expected under load, at the most"},
		{rangeWords(loaded), "heat in the room: all of it, in the end"},
	}
	if price, told := r.Brief.Energy.Get(); told {
		cost := func(w units.Watt) string { return units.Trim(float64(w)/1000*float64(price), 3) }
		list = append(list, figure{strings.TrimSpace(cost(loaded.Low) + " to " + cost(loaded.High) + " " + r.Brief.Currency), "an hour under load"})
	}
	return list
}

func rangeWords(w power.Watts) string {
	if w.Low.String() == w.High.String() {
		return w.High.String()
	}
	return units.Trim(float64(w.Low), 0) + " to " + units.Trim(float64(w.High), 0) + " W"
}

// span is a time in the units a person counts it by.
func span(s units.Second) string {
	whole := int(math.Round(float64(s)))
	switch {
	case s < 100:
		return s.String()
	case whole < 3600:
		return fmt.Sprintf("%d min %d s", whole/60, whole%60)
	}
	return fmt.Sprintf("%d h %d min", whole/3600, whole%3600/60)
}

// mostPlotted are the samples a trace is drawn from: more than it has pixels.
const mostPlotted = 2000

// aGap stands for the watts of a moment in a gap, where the trace is broken.
const aGap = -1

// thinned keeps the highest and the lowest of every stretch, so that no spike is
// lost, and breaks the trace at gaps.
func thinned(samples []meter.Sample, gap units.Second) [][2]float64 {
	list := make([][2]float64, 0, min(len(samples), mostPlotted+2))
	stretch := max(1, 2*len(samples)/mostPlotted)
	for i := 0; i < len(samples); i += stretch {
		part := samples[i:min(i+stretch, len(samples))]
		low, high := 0, 0
		for j := range part {
			if part[j].Power < part[low].Power {
				low = j
			}
			if part[j].Power > part[high].Power {
				high = j
			}
		}
		first, second := min(low, high), max(low, high)
		if i > 0 && part[0].At-samples[i-1].At > gap {
			list = append(list, [2]float64{float64(part[0].At), aGap})
		}
		list = append(list, plotted(part[first]))
		if second != first {
			list = append(list, plotted(part[second]))
		}
	}
	return list
}

func plotted(s meter.Sample) [2]float64 {
	return [2]float64{float64(s.At), float64(units.Round(s.Power, 5))}
}

// startMeter calls the meter and begins to record.
func (a *App) startMeter(c fiber.Ctx) error {
	l, err := a.load(c)
	if err != nil {
		return err
	}
	if a.meters.addr == "" {
		return fiber.NewError(fiber.StatusConflict, "No wall meter is set up. Start Kolvan with --instruments and an address at which one answers.")
	}
	n := assess.Rig(l.rig, a.ref).Power
	supply := supplyShown(c, n)
	draw, ok := drawOf(n, supply)
	if !ok {
		return a.meterPageWith(c, "The stand-in plays what the plan expects, and that is not known yet: tell the supply's rating and the card's board power first.")
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
			return fiber.NewError(fiber.StatusUnprocessableEntity, "what: "+strconv.Quote(what)+" is not accepted; accepted: trip, reset, stop, "+strings.Join(instruments.Loads, ", "))
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
		return a.meterPageWith(c, clip(file.Filename, 80)+": "+err.Error()+".")
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
		e := event{Samples: thinned(samples, units.Second(math.Inf(1))), Lately: float64(units.Round(rec.Lately(10), 4)), Running: running, Ended: rec.State().Ended}
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
