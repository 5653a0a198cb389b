// Package instruments holds simulated stand-ins for outside devices, and what
// speaks with them. They are reached over loopback, line by line, as a device on a
// wire would be, all by one protocol: docs/instruments.md has it.
package instruments

import (
	"bufio"
	"bytes"
	"context"
	"errors"
	"fmt"
	"log/slog"
	"net"
	"strings"
	"sync"
	"time"
)

// Protocol is what the first line begins with that is sent to a caller; the names of the
// instruments that answer there follow it.
const Protocol = "kolvan-instruments/1"

// The names by which instruments are asked.
const (
	MeterName  = "meter"
	ProbeName  = "probe"
	FramesName = "frames"
)

// mostLine bounds a request, in bytes.
const mostLine = 400

// An instrument obeys the requests of one caller. What it has to say it writes as whole
// lines, during a request or after; its error ends the request, and not the call.
type instrument interface {
	obey(ctx context.Context, request string, out *says) error
}

// The bounds of a service: how many call at a time, how long one may neither ask nor be
// told anything, and how long no call is taken when the system has no handle for it.
const (
	mostCallers = 64
	quiet       = 2 * time.Minute
	noHandle    = 200 * time.Millisecond
)

// Serve plays a wall meter, a link probe and a frame source to each who calls, until the
// listener is closed or the context is done.
func Serve(ctx context.Context, on net.Listener) error {
	stop := context.AfterFunc(ctx, func() { _ = on.Close() })
	defer stop()
	callers := make(chan struct{}, mostCallers)
	for {
		conn, err := on.Accept()
		switch {
		case errors.Is(err, net.ErrClosed):
			return nil
		case err != nil:
			slog.Warn("a call of the instruments could not be taken", "err", err)
			select {
			case <-ctx.Done():
			case <-time.After(noHandle):
			}
			continue
		}
		select {
		case callers <- struct{}{}:
		default:
			go refuse(conn)
			continue
		}
		go func() {
			defer func() { <-callers }()
			if err := answer(ctx, conn); err != nil && ctx.Err() == nil {
				slog.Debug("a caller of the instruments left", "err", err)
			}
		}()
	}
}

// refuse tells a caller that there are too many.
func refuse(conn net.Conn) {
	defer conn.Close()
	to := &call{conn: conn, out: bufio.NewWriter(conn)}
	if err := to.line(fmt.Sprintf("error %d callers are here already; call later", mostCallers)); err != nil {
		slog.Debug("a caller of the instruments left", "err", err)
	}
}

// answer takes the requests of one caller in their order and ends each with ok, or with
// error and why.
func answer(ctx context.Context, conn net.Conn) error {
	ctx, done := context.WithCancel(ctx)
	context.AfterFunc(ctx, func() { _ = conn.Close() })
	defer done()
	to := &call{conn: conn, out: bufio.NewWriter(conn)}
	names := []string{MeterName, ProbeName, FramesName}
	all := map[string]instrument{MeterName: &wallMeter{}, ProbeName: linkProbe{}, FramesName: frameSource{}}
	if err := to.line(Protocol + " " + strings.Join(names, " ")); err != nil {
		return err
	}
	lines := bufio.NewScanner(conn)
	lines.Buffer(make([]byte, mostLine), mostLine)
	for lines.Scan() {
		name, request, _ := strings.Cut(strings.TrimSpace(lines.Text()), " ")
		err := fmt.Errorf("%q is no instrument; there are %s", name, strings.Join(names, ", "))
		if asked, there := all[name]; there {
			err = asked.obey(ctx, request, &says{to, name})
		}
		ends := "ok"
		if err != nil {
			ends = "error " + err.Error()
		}
		if err := to.line(ends); err != nil {
			return err
		}
	}
	return lines.Err()
}

// call is the line to one caller, for all that answer on it.
type call struct {
	mu   sync.Mutex
	conn net.Conn
	out  *bufio.Writer
}

func (c *call) line(text string) error {
	c.mu.Lock()
	defer c.mu.Unlock()
	c.out.WriteString(text)
	c.out.WriteByte('\n')
	return c.send()
}

// patience is how long a caller may take nothing before he is taken to be gone.
const patience = 5 * time.Second

// send sends what was written. Who is told something is not silent.
func (c *call) send() error {
	now := time.Now()
	if err := errors.Join(c.conn.SetWriteDeadline(now.Add(patience)), c.conn.SetReadDeadline(now.Add(quiet))); err != nil {
		return err
	}
	return c.out.Flush()
}

// says is how one instrument speaks to a caller: each line with its name before it.
type says struct {
	*call
	name string
}

// Write takes whole lines; they are sent with the next Flush, or when there are many.
func (s *says) Write(lines []byte) (int, error) {
	s.mu.Lock()
	defer s.mu.Unlock()
	for line := range bytes.Lines(lines) {
		s.out.WriteString(s.name)
		s.out.WriteByte(' ')
		if _, err := s.out.Write(line); err != nil {
			return 0, err
		}
	}
	return len(lines), nil
}

// Flush sends what was written.
func (s *says) Flush() error {
	s.mu.Lock()
	defer s.mu.Unlock()
	return s.send()
}
