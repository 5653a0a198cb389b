package main

import (
	"bytes"
	"crypto/sha256"
	"encoding/hex"
	"errors"
	"fmt"
	"io"
	"os"
	"text/tabwriter"

	"kolvan/core/meter"
	"kolvan/core/units"
)

const statsFormat = "kolvan-stats/1"

type statsCommand struct {
	Files  []string `arg:"" name:"file" help:"Tables of a wall meter, as CSV; - for standard input."`
	Column string   `help:"The column with the power, where there are several."`
	JSON   bool     `name:"json" help:"Print kolvan-stats/1; an array where several files are given."`
}

// stats is kolvan-stats/1.
type stats struct {
	Format string       `json:"format"`
	File   string       `json:"file"`
	SHA256 string       `json:"sha256"`
	Column meter.Column `json:"column"`
	Series []series     `json:"series"`
}

type series struct {
	Name string `json:"name"`
	meter.Figures
}

// Run prints the figures of every table it can read.
func (c *statsCommand) Run() error {
	var wrong []error
	var all []*stats
	for _, name := range c.Files {
		s, err := statsOf(name, c.Column)
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

func statsOf(name, column string) (*stats, error) {
	raw, err := readAll(name, meter.MaxFile)
	if err != nil {
		return nil, err
	}
	record, err := meter.Read(bytes.NewReader(raw), column)
	if err != nil {
		return nil, err
	}
	sum := sha256.Sum256(raw)
	f := record.Figures()
	for _, figure := range []*units.Watt{&f.Mean, &f.Peak, &f.Least} {
		*figure = units.Round(*figure, units.ReportDigits)
	}
	f.Energy, f.Seconds, f.Missing = units.Round(f.Energy, units.ReportDigits), units.Round(f.Seconds, 9), units.Round(f.Missing, 9)
	return &stats{statsFormat, name, hex.EncodeToString(sum[:]), record.Column, []series{{"meter", f}}}, nil
}

// readAll reads a file, or standard input, of at most so many bytes and one more.
func readAll(name string, most int64) ([]byte, error) {
	if name == "-" {
		return io.ReadAll(io.LimitReader(os.Stdin, most+1))
	}
	file, err := os.Open(name)
	if err != nil {
		return nil, errors.New("it cannot be read: it is not there, or not for you")
	}
	defer file.Close()
	return io.ReadAll(io.LimitReader(file, most+1))
}

func (c *statsCommand) print(to io.Writer, all []*stats) error {
	if c.JSON {
		return printJSON(to, all, len(c.Files))
	}
	table := tabwriter.NewWriter(to, 0, 0, 2, ' ', tabwriter.AlignRight)
	for _, s := range all {
		f := &s.Series[0].Figures
		fmt.Fprintf(table, "%s\tmean %v\tpeak %v\t%v\tin %v\t%d gaps\t\n", s.File, f.Mean, f.Peak, f.Energy, f.Seconds, f.Gaps)
	}
	return table.Flush()
}
