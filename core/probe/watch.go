package probe

import (
	"encoding/csv"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"math"
	"path"
	"strconv"
	"strings"

	"kolvan/core/reading"
	"kolvan/core/units"
)

// A Watch reads what a graphics card's link, errors, heat and power do, again and again.
type Watch struct {
	Card    string   `json:"card"` // its address on the bus
	Samples []Sample `json:"-"`

	p  *prober
	at string // its folder
}

// A Sample is one look; a figure that the system does not tell is NaN, a count −1.
type Sample struct {
	At     units.Second
	Width  int
	Speed  float64 // GT/s, as the kernel says it
	Errors int     // corrected, since the host was started
	CardC  float64 // °C
	MemC   float64
	CardW  float64
	ProcC  float64
}

// NewWatch finds the card: the display controller furthest from the processor.
func NewWatch(tree fs.FS) (*Watch, error) {
	if _, err := fs.Stat(tree, "proc/cpuinfo"); err != nil {
		return nil, &NotLinux{"/proc/cpuinfo"}
	}
	p := &prober{tree: tree}
	const dir = "sys/bus/pci/devices"
	w := &Watch{p: p}
	for _, name := range p.names(dir) {
		class := strings.TrimPrefix(p.text(path.Join(dir, name, "class")), "0x")
		if strings.HasPrefix(class, "03") && (w.Card == "" || strings.HasSuffix(busOf(w.Card), ":00")) {
			w.Card, w.at = name, path.Join(dir, name)
		}
	}
	if w.Card == "" {
		return nil, errors.New("no graphics card is on the bus: it is not found, or its driver has taken it away")
	}
	return w, nil
}

func busOf(address string) string { return address[:max(0, strings.LastIndex(address, ":"))] }

// Look takes a sample.
func (w *Watch) Look(at units.Second) {
	s := Sample{At: at, Width: w.whole("current_link_width"), Speed: w.figure(w.at+"/current_link_speed", 1), Errors: -1}
	for line := range strings.Lines(w.p.text(w.at + "/aer_dev_correctable")) {
		if name, count, is := strings.Cut(strings.TrimSpace(line), " "); is && name == "TOTAL_ERR_COR" {
			s.Errors, _ = strconv.Atoi(count)
		}
	}
	s.CardC, s.MemC, s.CardW, s.ProcC = math.NaN(), math.NaN(), math.NaN(), math.NaN()
	for _, name := range w.p.names(w.at + "/hwmon") {
		w.sensors(path.Join(w.at, "hwmon", name), &s)
	}
	for _, name := range w.p.names("sys/class/hwmon") {
		dir := path.Join("sys/class/hwmon", name)
		switch w.p.text(dir + "/name") {
		case "coretemp", "k10temp", "zenpower", "cpu_thermal":
			s.ProcC = larger(s.ProcC, w.figure(dir+"/temp1_input", 1000))
		}
	}
	w.Samples = append(w.Samples, s)
}

// sensors reads those of the card's own driver.
func (w *Watch) sensors(dir string, s *Sample) {
	for i := 1; i <= 8; i++ {
		at := fmt.Sprintf("%s/temp%d_", dir, i)
		celsius := w.figure(at+"input", 1000)
		if strings.Contains(strings.ToLower(w.p.text(at+"label")), "mem") {
			s.MemC = larger(s.MemC, celsius)
		} else {
			s.CardC = larger(s.CardC, celsius)
		}
	}
	for _, name := range []string{"power1_average", "power1_input"} {
		if watts := w.figure(dir+"/"+name, 1e6); !math.IsNaN(watts) {
			s.CardW = watts
			return
		}
	}
}

// larger is the larger of two, of which either may not be told.
func larger(a, b float64) float64 {
	if math.IsNaN(a) || b > a {
		return b
	}
	return a
}

// figure is the first number of a file, by what it is counted in.
func (w *Watch) figure(name string, per float64) float64 {
	first, _, _ := strings.Cut(w.p.text(name), " ")
	v, err := strconv.ParseFloat(first, 64)
	if err != nil {
		return math.NaN()
	}
	return v / per
}

func (w *Watch) whole(name string) int {
	v := w.figure(w.at+"/"+name, 1)
	if math.IsNaN(v) {
		return -1
	}
	return int(v)
}

// columns are what a log has, in its order.
var columns = []struct {
	name, what, unit string
	of               func(*Sample) float64
}{
	{"width", "width", "lanes", func(s *Sample) float64 { return counted(s.Width) }},
	{"speed_gts", "speed", "GT/s", func(s *Sample) float64 { return s.Speed }},
	{"errors", "errors", "", func(s *Sample) float64 { return counted(s.Errors) }},
	{"card_c", "card", "°C", func(s *Sample) float64 { return s.CardC }},
	{"card_memory_c", "its memory", "°C", func(s *Sample) float64 { return s.MemC }},
	{"card_w", "card", "W", func(s *Sample) float64 { return s.CardW }},
	{"processor_c", "processor", "°C", func(s *Sample) float64 { return s.ProcC }},
}

func counted(n int) float64 {
	if n < 0 {
		return math.NaN()
	}
	return float64(n)
}

// WriteCSV writes the log, a row a sample; what is not told stays empty.
func (w *Watch) WriteCSV(to io.Writer) error {
	out := csv.NewWriter(to)
	head := []string{"time_s"}
	for _, c := range columns {
		head = append(head, c.name)
	}
	faults := []error{out.Write(head)}
	for i := range w.Samples {
		row := []string{units.Trim(float64(w.Samples[i].At), 1)}
		for _, c := range columns {
			text := ""
			if v := c.of(&w.Samples[i]); !math.IsNaN(v) {
				text = units.Trim(v, 3)
			}
			row = append(row, text)
		}
		faults = append(faults, out.Write(row))
	}
	out.Flush()
	return errors.Join(append(faults, out.Error())...)
}

// A Range is what a figure did while it was watched.
type Range struct {
	Name  string  `json:"name"`
	What  string  `json:"what"`
	Unit  string  `json:"unit"`
	First float64 `json:"first"`
	Least float64 `json:"least"`
	Most  float64 `json:"most"`
	Drawn string  `json:"drawn"` // small, from its least to its most, in time
}

// drawnWide is how many signs a small drawing has.
const drawnWide = 40

// Ranges are those of the figures the system tells.
func (w *Watch) Ranges() (list []Range) {
	for _, c := range columns {
		r := Range{Name: c.name, What: c.what, Unit: c.unit, Least: math.Inf(1), Most: math.Inf(-1)}
		var values []float64
		for i := range w.Samples {
			if v := c.of(&w.Samples[i]); !math.IsNaN(v) {
				values, r.Least, r.Most = append(values, v), min(r.Least, v), max(r.Most, v)
			}
		}
		if len(values) > 0 {
			r.First, r.Drawn = values[0], drawn(values, r.Least, r.Most)
			list = append(list, r)
		}
	}
	return list
}

// drawn is a row of signs as high as the values; of several under one sign the highest.
func drawn(values []float64, least, most float64) string {
	signs := []rune("▁▂▃▄▅▆▇█")
	wide := min(drawnWide, len(values))
	var out strings.Builder
	for i := range wide {
		high := least
		for _, v := range values[i*len(values)/wide : max(i*len(values)/wide+1, (i+1)*len(values)/wide)] {
			high = max(high, v)
		}
		share := 0.0
		if most > least {
			share = (high - least) / (most - least)
		}
		out.WriteRune(signs[int(math.Round(share*float64(len(signs)-1)))])
	}
	return out.String()
}

// A Found is what the watch comes to, as the kernel's own files say it: a reading of the link at
// the fastest it ran, at the narrowest it was then.
type Found struct {
	Width  int     `json:"width"`
	Gen    int     `json:"generation"`
	Loaded bool    `json:"loaded"` // its speed rose while it was watched: a link at rest runs slower
	Errors int     `json:"errors"` // corrected ones meanwhile; −1 where they are not told
	Over   float64 `json:"over_s"`
	Fell   int     `json:"width_fell"` // how often it was found narrower than before
	Read   string  `json:"-"`          // what kolvan read takes
}

// Found sums up a watch with at least one sample.
func (w *Watch) Found() (f Found) {
	f.Errors = -1
	fastest, slowest := 0.0, math.Inf(1)
	for _, s := range w.Samples {
		if !math.IsNaN(s.Speed) {
			fastest, slowest = max(fastest, s.Speed), min(slowest, s.Speed)
		}
	}
	before := 0
	for _, s := range w.Samples {
		if s.Speed == fastest && s.Width > 0 && (f.Width == 0 || s.Width < f.Width) {
			f.Width = s.Width
		}
		if before > 0 && s.Width > 0 && s.Width < before {
			f.Fell++
		}
		before = max(s.Width, 0)
	}
	first, last := w.Samples[0], w.Samples[len(w.Samples)-1]
	f.Over, f.Gen, f.Loaded = float64(last.At-first.At), reading.GenOf(units.Trim(fastest, 1)+" GT/s"), fastest > slowest
	if first.Errors >= 0 && last.Errors >= first.Errors {
		f.Errors = last.Errors - first.Errors
	}
	f.Read = w.asFiles(f, fastest)
	return f
}

// asFiles writes what was found as the kernel's files would be printed.
func (w *Watch) asFiles(f Found, fastest float64) string {
	var out strings.Builder
	if f.Loaded {
		out.WriteString("# load: loaded\n")
	}
	at := "/" + w.at + "/"
	if f.Width > 0 {
		fmt.Fprintf(&out, "%scurrent_link_width:%d\n", at, f.Width)
	}
	if fastest > 0 {
		fmt.Fprintf(&out, "%scurrent_link_speed:%.1f GT/s PCIe\n", at, fastest)
	}
	for _, name := range []string{"class", "max_link_width", "max_link_speed"} {
		if text := w.p.text(w.at + "/" + name); text != "" {
			fmt.Fprintf(&out, "%s%s:%s\n", at, name, text)
		}
	}
	if f.Errors >= 0 {
		fmt.Fprintf(&out, "%saer_dev_correctable:TOTAL_ERR_COR %d\n", at, f.Errors)
	}
	return out.String()
}
