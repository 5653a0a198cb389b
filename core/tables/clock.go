package tables

import "time"

// layouts are the ways tables write a time. Fractions of a second need no layout
// of their own.
var layouts = []string{
	time.RFC3339, "2006-01-02 15:04:05", "2006-01-02T15:04:05", "2006-01-02 15:04:05Z07:00", "2006/01/02 15:04:05", "2006-01-02 15:04",
	"2.1.2006 15:04:05", "2.1.2006 15:04",
	"1/2/2006 15:04:05", "1/2/2006 3:04:05 PM", "2/1/2006 15:04:05", "1/2/2006 15:04", "15:04:05", "3:04:05 PM", "15:04",
}

// A Clock reads times of day and dates; the layout of one is tried first for the next.
type Clock struct{ layout string }

// Seconds is a moment in seconds from a fixed one, fractions kept; daily for a time without a
// date. False for what is no time.
func (c *Clock) Seconds(s string) (seconds float64, daily, ok bool) {
	if c.layout != "" {
		if t, err := time.Parse(c.layout, s); err == nil {
			return sinceStart(t), t.Year() == 0, true
		}
	}
	for _, layout := range layouts {
		if t, err := time.Parse(layout, s); err == nil {
			c.layout = layout
			return sinceStart(t), t.Year() == 0, true
		}
	}
	return 0, false, false
}

// sinceStart is a time in seconds, fractions kept.
func sinceStart(t time.Time) float64 { return float64(t.Unix()) + float64(t.Nanosecond())/1e9 }
