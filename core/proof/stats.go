package proof

import "sync"

// The frames under which a figure is withheld, or given with a warning.
const (
	fewFor1  = 1000
	fewFor01 = 10000
)

// Stats are the figures of a series, as kolvan-stats/1 has them. A figure that is withheld
// is null.
type Stats struct {
	Name      string                `json:"name"`
	Frames    int                   `json:"frames"`
	Dropped   int                   `json:"dropped"`
	Seconds   float64               `json:"seconds"`
	Average   float64               `json:"average_hz"`
	Median    float64               `json:"median_ms"`
	P99       float64               `json:"p99_ms"`
	P999      float64               `json:"p999_ms"`
	Low1P99   *float64              `json:"low1_p99_hz"`
	Low1Mean  *float64              `json:"low1_mean_hz"`
	Low01P99  *float64              `json:"low01_p99_hz"`
	Low01Mean *float64              `json:"low01_mean_hz"`
	Jitter    float64               `json:"jitter_ms"`
	Stalls    int                   `json:"stalls"`
	Pauses    int                   `json:"pauses"`     // frames of stamps that look like a stop of the capture
	Longest   float64               `json:"longest_ms"` // the longest frame
	Interval  map[string][2]float64 `json:"interval95"`
	Withheld  []string              `json:"withheld"`
	Warned    []string              `json:"warned"`
	Digest    string                `json:"digest"` // exact, or within 0.05 %
}

// stallTimes is how many times the median a frame takes to be a stall.
const stallTimes = 4

// A step between time stamps is taken for a pause of the capture from so many milliseconds, and
// so many times the median frame, up (P). It counts as a frame, and is said.
const (
	pauseLeast = 1000
	pauseTimes = 30
)

// pauses counts the steps between stamps that look like a stop of the capture.
func (s *Series) pauses(r *ranked) int {
	if !s.stamps {
		return 0
	}
	return r.above(max(pauseLeast, pauseTimes*r.percentile(0.5)))
}

// Pauses is how many pauses its time stamps have, and how long the longest frame is, ms.
func (s *Series) Pauses() (count int, longest float64) {
	r := s.times.rank()
	return s.pauses(&r), r.percentile(1)
}

// Stats works the figures out. Intervals are 95 %, by drawing one-second blocks anew, two
// thousand times, by the seed; below two seconds there are none.
func (s *Series) Stats(seed uint64) *Stats {
	var r, moves ranked
	var sorted sync.WaitGroup
	sorted.Go(func() { moves = s.moves.rank() })
	r = s.times.rank()
	sorted.Wait()
	out := &Stats{
		Name: s.Name, Frames: s.frames, Dropped: s.Dropped, Seconds: s.Seconds(), Interval: map[string][2]float64{},
		Withheld: []string{}, Warned: []string{}, Digest: "exact",
	}
	if s.times.steps != nil {
		out.Digest = "within 0.05 %"
	}
	if s.frames == 0 {
		return out
	}
	figures := figuresOf(&r, float64(s.frames)/s.Seconds())
	out.Average, out.Median, out.P99, out.P999 = figures["average_hz"], figures["median_ms"], figures["p99_ms"], figures["p999_ms"]
	if moves.n > 0 {
		out.Jitter = moves.percentile(0.5)
	}
	out.Stalls = r.above(stallTimes * out.Median)
	out.Longest, out.Pauses = r.percentile(1), s.pauses(&r)
	for _, low := range []struct {
		name  string
		few   int
		value **float64
	}{
		{"low1_p99_hz", fewFor1, &out.Low1P99}, {"low1_mean_hz", fewFor1, &out.Low1Mean},
		{"low01_p99_hz", fewFor1, &out.Low01P99}, {"low01_mean_hz", fewFor1, &out.Low01Mean},
	} {
		if s.frames < low.few {
			out.Withheld = append(out.Withheld, low.name)
			continue
		}
		v := figures[low.name]
		*low.value = &v
		if s.frames < fewFor01 && (low.name == "low01_p99_hz" || low.name == "low01_mean_hz") {
			out.Warned = append(out.Warned, low.name)
		}
	}
	withheld := map[string]bool{}
	for _, name := range out.Withheld {
		withheld[name] = true
	}
	for name, values := range s.bootstrap(seed) {
		if !withheld[name] {
			out.Interval[name] = middle95(values)
		}
	}
	return out
}
