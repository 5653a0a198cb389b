package instruments

import (
	"bufio"
	"context"
	"fmt"
	"net"
	"slices"
	"strings"
	"time"
)

// caller is a call to one instrument, by its name.
type caller struct {
	name  string
	conn  net.Conn
	lines *bufio.Scanner
}

// silence is how long an instrument may say nothing before it is taken to be gone.
const silence = 10 * time.Second

// dial calls the instrument of a name at an address; what calls it what a person does.
func dial(ctx context.Context, addr, name, what string) (*caller, error) {
	dialer := net.Dialer{Timeout: 3 * time.Second}
	conn, err := dialer.DialContext(ctx, "tcp", addr)
	if err != nil {
		return nil, fmt.Errorf("calling the %s at %s: %w", what, addr, err)
	}
	c := &caller{name, conn, bufio.NewScanner(conn)}
	first, err := c.line()
	if says := strings.Fields(first); err == nil && (len(says) == 0 || says[0] != Protocol || !slices.Contains(says[1:], name)) {
		err = fmt.Errorf("it said %q where %q with %s after it is accepted", first, Protocol, name)
	}
	if err != nil {
		_ = conn.Close()
		return nil, fmt.Errorf("calling the %s at %s: %w", what, addr, err)
	}
	return c, nil
}

// ask sends a request.
func (c *caller) ask(request string) error {
	_, err := fmt.Fprintln(c.conn, c.name, request)
	return err
}

// next is the next line the instrument says; ended reports the end of a request instead,
// and a request that was not understood is an error.
func (c *caller) next() (text string, ended bool, err error) {
	line, err := c.line()
	if err != nil {
		return "", false, err
	}
	if why, failed := strings.CutPrefix(line, "error "); failed {
		return "", true, fmt.Errorf("it said: %s", why)
	}
	if line == "ok" {
		return "", true, nil
	}
	if text, said := strings.CutPrefix(line, c.name+" "); said {
		return text, false, nil
	}
	return "", false, fmt.Errorf("it sent %q where %s and what it shows, ok or error is accepted", line, c.name)
}

func (c *caller) line() (string, error) {
	if err := c.conn.SetReadDeadline(time.Now().Add(silence)); err != nil {
		return "", err
	}
	if !c.lines.Scan() {
		if err := c.lines.Err(); err != nil {
			return "", err
		}
		return "", fmt.Errorf("it hung up")
	}
	return c.lines.Text(), nil
}

// Close ends the call.
func (c *caller) Close() error { return c.conn.Close() }
