package web

import (
	"context"
	"errors"
	"fmt"
	"io"
	"log/slog"
	"sync"
	"time"

	"github.com/gofiber/fiber/v3"

	"kolvan/core/meter"
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
