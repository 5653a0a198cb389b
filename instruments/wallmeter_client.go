package instruments

import (
	"bufio"
	"context"
	"fmt"
	"net"
	"strings"
	"time"

	"kolvan/core/meter"
	"kolvan/core/units"
)

// A WallMeter is a meter that was called.
type WallMeter struct {
	conn  net.Conn
	lines *bufio.Scanner
}

// silence is how long a meter may say nothing before it is taken to be gone.
const silence = 10 * time.Second

// CallWallMeter calls the meter at an address.
func CallWallMeter(ctx context.Context, addr string) (*WallMeter, error) {
	dialer := net.Dialer{Timeout: 3 * time.Second}
	conn, err := dialer.DialContext(ctx, "tcp", addr)
	if err != nil {
		return nil, fmt.Errorf("calling the wall meter at %s: %w", addr, err)
	}
	m := &WallMeter{conn, bufio.NewScanner(conn)}
	m.lines.Buffer(make([]byte, mostLine), mostLine)
	first, err := m.line()
	if err == nil && first != WallMeterProtocol {
		err = fmt.Errorf("it said %q where %q is accepted", first, WallMeterProtocol)
	}
	if err != nil {
		_ = conn.Close()
		return nil, fmt.Errorf("calling the wall meter at %s: %w", addr, err)
	}
	return m, nil
}

// Close ends the call.
func (m *WallMeter) Close() error { return m.conn.Close() }

// Play tells a stand-in what to play; a real meter measures instead.
func (m *WallMeter) Play(d Draw) error { return m.Tell(d.line()) }

// Tell sends a command.
func (m *WallMeter) Tell(command string) error {
	_, err := fmt.Fprintln(m.conn, command)
	return err
}

// Next waits for the next sample. What the meter answers to a command is passed
// over, unless it is an error.
func (m *WallMeter) Next() (meter.Sample, error) {
	for {
		line, err := m.line()
		if err != nil {
			return meter.Sample{}, err
		}
		if says, failed := strings.CutPrefix(line, "error "); failed {
			return meter.Sample{}, fmt.Errorf("the wall meter said: %s", says)
		}
		if line == "ok" {
			continue
		}
		var at, watts float64
		if n, err := fmt.Sscanf(line, "%f %f", &at, &watts); n != 2 || err != nil {
			return meter.Sample{}, fmt.Errorf("the wall meter sent %q where seconds and watts are accepted", line)
		}
		return meter.Sample{At: units.Second(at), Power: units.Watt(watts)}, nil
	}
}

func (m *WallMeter) line() (string, error) {
	if err := m.conn.SetReadDeadline(time.Now().Add(silence)); err != nil {
		return "", err
	}
	if !m.lines.Scan() {
		if err := m.lines.Err(); err != nil {
			return "", err
		}
		return "", fmt.Errorf("it hung up")
	}
	return m.lines.Text(), nil
}
