package main

import (
	"bufio"
	"crypto/sha256"
	"encoding/hex"
	"errors"
	"fmt"
	"io"
	"os"
	"text/tabwriter"
	"time"

	"github.com/dustin/go-humanize"

	"kolvan/core/meter"
	"kolvan/core/proof"
	measured "kolvan/core/tables"
	"kolvan/core/units"
)

const statsFormat = "kolvan-stats/1"

type statsCommand struct {
	Files  []string `arg:"" name:"file" help:"Captures of frame times, or tables of a wall meter; - for standard input."`
	Column string   `help:"The column with the frame times, the time stamps or the power, where it is not found."`
	Unit   string   `help:"The unit of the column, where nothing declares it: Hz for rates, W for a meter." enum:",ms,s,us,ns,Hz,W" default:""`
	Most   size     `help:"How much of a table is read, after inflating: 500MiB, 8GiB." default:"2GiB"`
	Seed   uint64   `help:"Of what is drawn for the intervals." default:"1"`
	JSON   bool     `name:"json" help:"Print kolvan-stats/1; an array where several files are given."`
}

// size is a number of bytes, as a person writes it.
type size int64

func (s *size) UnmarshalText(text []byte) error {
	n, err := humanize.ParseBytes(string(text))
	if err != nil || n == 0 || n > 1<<50 {
		return fmt.Errorf("%q is not accepted; accepted: a size such as 500MiB or 8GiB", text)
	}
	*s = size(n)
	return nil
}

// stats is kolvan-stats/1; a series is one of frames, or of a meter.
type stats struct {
	Format string `json:"format"`
	File   string `json:"file"`
	SHA256 string `json:"sha256"`
	Column any    `json:"column"`
	Taken  any    `json:"taken"` // what each column was taken for
	Series []any  `json:"series"`

	capture *proof.Capture
}

// meterSeries is the figures of a meter.
type meterSeries struct {
	Name string `json:"name"`
	meter.Figures
}

// Run prints the figures of every table it can read.
func (c *statsCommand) Run() error {
	var wrong []error
	var all []*stats
	for _, name := range c.Files {
		s, err := statsOf(name, proof.Options{Column: c.Column, Unit: c.Unit, Most: int64(c.Most), Progress: bytesRead()}, c.Seed)
		if err != nil {
			wrong = append(wrong, fmt.Errorf("%s: %w", shown(name), err))
			continue
		}
		all = append(all, s)
	}
	if err := c.print(stdout, all); err != nil {
		return fmt.Errorf("printing the figures: %w", err)
	}
	return errors.Join(wrong...)
}

// bytesRead writes over one line of the terminal once reading takes longer than a second.
func bytesRead() func(int64) {
	began := time.Now()
	terminal := isTerminal(os.Stderr)
	return func(read int64) {
		if terminal && time.Since(began) > time.Second {
			fmt.Fprintf(os.Stderr, "\r%d MB", read>>20)
		}
	}
}

// peeked is how much of a table tells whose it is.
const peeked = 1 << 14

// statsOf works out the figures of one table, in one pass over it.
func statsOf(name string, o proof.Options, seed uint64) (*stats, error) {
	from, err := open(name)
	if err != nil {
		return nil, err
	}
	defer from.Close()
	sum := sha256.New()
	raw := io.TeeReader(from, sum)
	plain, err := measured.Open(raw)
	if err != nil {
		return nil, err
	}
	text := bufio.NewReaderSize(plain, peeked)
	start, _ := text.Peek(peeked)
	s := &stats{Format: statsFormat, File: name}
	if o.Unit == "W" || o.Unit == "" && meter.Meters(start, o.Column) {
		err = s.meter(text, o.Column)
	} else {
		err = s.frames(text, o, seed)
	}
	if err != nil {
		return nil, err
	}
	if _, err := io.Copy(io.Discard, raw); err != nil { // what stands behind the last row
		return nil, fmt.Errorf("reading the table: %w", err)
	}
	s.SHA256 = hex.EncodeToString(sum.Sum(nil))
	return s, nil
}

func open(name string) (io.ReadCloser, error) {
	if name == "-" {
		return io.NopCloser(os.Stdin), nil
	}
	file, err := os.Open(name)
	if err != nil {
		return nil, errors.New("it cannot be read: it is not there, or not for you")
	}
	return file, nil
}

func (s *stats) meter(from io.Reader, column string) error {
	record, err := meter.Read(from, column)
	if err != nil {
		return err
	}
	f := record.Figures()
	for _, figure := range []*units.Watt{&f.Mean, &f.Peak, &f.Least} {
		*figure = units.Round(*figure, units.ReportDigits)
	}
	f.Energy, f.Seconds, f.Missing = units.Round(f.Energy, units.ReportDigits), units.Round(f.Seconds, 9), units.Round(f.Missing, 9)
	s.Column, s.Taken, s.Series = record.Column, record.Taken, []any{meterSeries{"meter", f}}
	return nil
}

func (s *stats) frames(from io.Reader, o proof.Options, seed uint64) error {
	capture, err := proof.Read(from, o)
	if wrong, is := errors.AsType[*proof.Error](err); is && wrong.Line == 0 && (wrong.What == "column" || wrong.What == "unit") {
		return fmt.Errorf("%w: --%s", err, map[string]string{"column": "column NAME", "unit": "unit UNIT"}[wrong.What])
	}
	if err != nil {
		return err
	}
	s.Column, s.Taken, s.capture = capture.Column, capture.Taken, capture
	for _, one := range capture.Series {
		s.Series = append(s.Series, one.Stats(seed))
	}
	return nil
}

func (c *statsCommand) print(to io.Writer, all []*stats) error {
	if c.JSON {
		return printJSON(to, all, len(c.Files))
	}
	table := tabwriter.NewWriter(to, 0, 0, 2, ' ', 0)
	for _, s := range all {
		for _, one := range s.Series {
			switch f := one.(type) {
			case meterSeries:
				fmt.Fprintf(table, "%s\tmean %v\tpeak %v\t%v\tin %v\t%d gaps\n", s.File, f.Mean, f.Peak, f.Energy, f.Seconds, f.Gaps)
			case *proof.Stats:
				fmt.Fprintf(table, "%s %s\t%d frames in %s s\t%s\tworst 1 %%: %s (99th percentile), %s (mean of slowest)\tworst 0.1 %%: %s, %s\t%d "+
					"stalls\t%d dropped\n", s.File, f.Name, f.Frames, units.Trim(f.Seconds, 1),
					hertz(&f.Average)+between(f, "average_hz"), hertz(f.Low1P99), hertz(f.Low1Mean), hertz(f.Low01P99), hertz(f.Low01Mean), f.Stalls,
					f.Dropped)
				if f.Pauses > 0 {
					fmt.Fprintf(table, "\tpauses in the time stamps that count as frames: %d, the longest %s s. Was the capture stopped meanwhile?\n",
						f.Pauses, units.Trim(f.Longest/1000, 1))
				}
			}
		}
	}
	return table.Flush()
}

func hertz(v *float64) string {
	if v == nil {
		return "too few frames"
	}
	return units.Trim(*v, 1) + " Hz"
}

// between is the interval of a figure, in words.
func between(f *proof.Stats, name string) string {
	ends, some := f.Interval[name]
	if !some {
		return ""
	}
	return fmt.Sprintf(" (%s to %s)", units.Trim(ends[0], 1), units.Trim(ends[1], 1))
}
