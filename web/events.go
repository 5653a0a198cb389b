package web

import (
	"bufio"
	"context"
	"fmt"
	"log/slog"
	"net"
	"sync"
	"time"

	"github.com/gofiber/fiber/v3"

	"kolvan/store"
)

// events are one stream for all that an open page wants to hear of. It tells that the data
// file was changed, by this process or by another one of ours.
type events struct {
	store     *store.Store
	mu        sync.Mutex
	listeners map[chan news]bool
	asking    bool
	closed    chan struct{}
	poked     chan struct{} // something was kept here: no need to wait
	shown     string        // the page that the bench's own screen shows
	began     int64         // tells the states of this process from those of one before
}

// news is what has happened, and the state it led to.
type news struct{ what, state string }

// mostListeners bounds the pages that listen at a time.
const mostListeners = 512

const (
	askEvery   = 300 * time.Millisecond // while anybody listens
	aliveEvery = 10 * time.Second       // a page that is gone is found by the next sign of life
	listenFor  = 20 * time.Second       // how long a sign may take on its way
)

func newEvents(s *store.Store) *events {
	return &events{store: s, listeners: map[chan news]bool{}, closed: make(chan struct{}), poked: make(chan struct{}, 1), began: time.Now().UnixNano()}
}

// state is the data file as it is now: a page that shows another is to be made anew.
func (e *events) state() (string, error) {
	version, err := e.store.Version(context.Background())
	return fmt.Sprintf("%x-%d", e.began, version), err
}

func (e *events) close() { close(e.closed) }

// listen adds a listener; the first one begins the asking.
func (e *events) listen() (chan news, error) {
	e.mu.Lock()
	defer e.mu.Unlock()
	if len(e.listeners) >= mostListeners {
		return nil, fiber.NewError(fiber.StatusServiceUnavailable, fmt.Sprintf("%d pages listen already.", mostListeners))
	}
	heard := make(chan news, 4)
	if e.shown != "" {
		heard <- news{"shown", e.shown}
	}
	e.listeners[heard] = true
	if !e.asking {
		e.asking = true
		go e.ask()
	}
	return heard, nil
}

// leave takes a listener away; without any the asking ends.
func (e *events) leave(heard chan news) {
	e.mu.Lock()
	defer e.mu.Unlock()
	delete(e.listeners, heard)
}

// ask asks the data file whether it was changed, while anybody wants to know.
func (e *events) ask() {
	last, _ := e.state() // a page that asks says why it cannot be told
	for again := time.NewTicker(askEvery); ; {
		select {
		case <-e.closed:
			return
		case <-again.C:
		case <-e.poked:
		}
		now, err := e.state()
		if err != nil {
			slog.Debug("the data file cannot be asked", "err", err)
			continue
		}
		if !e.tell(news{"changed", now}, now != last) {
			again.Stop()
			return
		}
		last = now
	}
}

// poke has the data file asked at once: something was kept by this process.
func (e *events) poke() {
	select {
	case e.poked <- struct{}{}:
	default:
	}
}

// show tells which page the bench's own screen shows, for those that follow it.
func (e *events) show(page string) {
	e.mu.Lock()
	defer e.mu.Unlock()
	if page != e.shown {
		e.shown = page
		e.pass(news{"shown", page})
	}
}

// pass hands news to all listeners, whose lock is held.
func (e *events) pass(n news) {
	for heard := range e.listeners {
		select {
		case heard <- n:
		default: // it has not heard of those before yet, and will look anyway
		}
	}
}

// tell tells all listeners of what has happened, if it has; false when there are none.
func (e *events) tell(n news, happened bool) bool {
	e.mu.Lock()
	defer e.mu.Unlock()
	if happened {
		e.pass(n)
	}
	e.asking = len(e.listeners) > 0
	return e.asking
}

// listen answers with the stream.
func (a *App) listen(c fiber.Ctx) error {
	heard, err := a.events.listen()
	if err != nil {
		return err
	}
	c.Set(fiber.HeaderContentType, "text/event-stream")
	c.Set(fiber.HeaderCacheControl, "no-store")
	if now, err := a.events.state(); err == nil && now != c.Query("seen", now) {
		heard <- news{"changed", now} // since the page was made
	}
	conn := c.RequestCtx().Conn()
	return c.SendStreamWriter(func(w *bufio.Writer) {
		defer a.events.leave(heard)
		a.events.send(w, conn, heard)
	})
}

// send writes what is heard until the page is gone.
func (e *events) send(w *bufio.Writer, conn net.Conn, heard chan news) {
	alive := time.NewTicker(aliveEvery)
	defer alive.Stop()
	text := "retry: 1000\n\n"
	for {
		_ = conn.SetWriteDeadline(time.Now().Add(listenFor)) // else writing fails, and says so
		if _, err := w.WriteString(text); err != nil || w.Flush() != nil {
			return
		}
		select {
		case <-e.closed:
			return
		case n := <-heard:
			text = fmt.Sprintf("event: %s\ndata: %s\n\n", n.what, n.state)
		case <-alive.C:
			text = ": here\n\n"
		}
	}
}
