package meter

import (
	"strings"

	"kolvan/core/tables"
	"kolvan/core/units"
)

const day units.Second = 24 * 3600

// clock turns the times of a table into seconds from its first.
type clock struct {
	begun bool
	first float64
	last  units.Second
	days  units.Second // midnights that a time without a date has passed

	written tables.Clock
}

// parse reads one time; times is what a bare number is to be taken by. back
// reports a time before the one above.
func (c *clock) parse(s string, times float64) (at units.Second, back, ok bool) {
	seconds, daily, ok := c.seconds(strings.TrimSpace(s), times)
	if !ok {
		return 0, false, false
	}
	if !c.begun {
		c.begun, c.first = true, seconds
	}
	at = units.Second(seconds-c.first) + c.days
	if daily && at < c.last-day/2 { // past midnight
		c.days += day
		at += day
	}
	if at < c.last {
		return at, true, true
	}
	c.last = at
	return at, false, true
}

// Beyond these a bare number is no count from the start but the seconds, or the
// milliseconds, since 1970.
const (
	unixSeconds      = 1e9
	unixMilliseconds = 1e11
)

func (c *clock) seconds(s string, times float64) (seconds float64, daily, ok bool) {
	if v, isNumber := number(s); isNumber {
		switch {
		case v > unixMilliseconds:
			return v / 1000, false, true
		case v > unixSeconds:
			return v, false, true
		}
		return v * times, false, true
	}
	return c.written.Seconds(s)
}
