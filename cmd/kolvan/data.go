package main

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"io"
	"log/slog"
	"os"
	"path"
	"strconv"

	"github.com/go-json-experiment/json/jsontext"

	"kolvan/core/carry"
	"kolvan/core/parts"
	"kolvan/core/rig"
	"kolvan/store"
	"kolvan/web"
)

// exportCommand writes a rig to standard output, or all that the data file holds.
type exportCommand struct {
	data
	Rig  string `arg:"" optional:"" help:"The rig's name or number."`
	All  bool   `help:"Everything with its history, pictures, captures and recordings: one archive, kolvan-bench/2, which restore takes."`
	AsIs bool   `help:"Hand a damaged document out too, as it lies; of everything, leave what is damaged out."`
}

func (c *exportCommand) Run() error {
	if (c.Rig == "") != c.All {
		return errors.New("name one rig, or give --all")
	}
	if c.All {
		if isTerminal(os.Stdout) {
			return errors.New("an archive is no text for a terminal: kolvan export --all > bench.zip")
		}
		return c.with(store.Existing, func(ctx context.Context, s *store.Store) error {
			return s.WriteArchive(ctx, os.Stdout, func(what string, why error) bool {
				if c.AsIs {
					slog.Warn("left out", "what", shown(what), "err", shown(why.Error()))
				}
				return c.AsIs
			})
		})
	}
	return c.with(store.Existing, func(ctx context.Context, s *store.Store) error {
		rigs, all, err := s.List(ctx, store.Query{Kind: store.RigKind})
		if err != nil {
			return err
		}
		for _, e := range rigs {
			if e.Name == c.Rig || strconv.FormatInt(e.ID, 10) == c.Rig {
				if e.Fault != nil && !c.AsIs {
					return fmt.Errorf("rig %q: %w; --as-is hands it out as it lies", c.Rig, e.Fault)
				}
				_, err := stdout.Write(e.Doc)
				return err
			}
		}
		return fmt.Errorf("rig %q: %w; there are %d rigs on the bench", c.Rig, store.ErrNotFound, all)
	})
}

// benchFormat is the format word of an export of all as it was before archives.
const benchFormat = "kolvan-bench/1"

// benchFile is such an export: every rig, and every part of the bins, as they were shown.
type benchFile struct {
	Format string           `json:"format"`
	Rigs   []jsontext.Value `json:"rigs"`
	Parts  []benchPart      `json:"parts"`
}

type benchPart struct {
	Kind parts.Kind     `json:"kind"`
	Part jsontext.Value `json:"part"`
}

// importCommand puts rig files into the data file.
type importCommand struct {
	data
	Files []string `arg:"" name:"file" help:"Rig files, or pages that carry one, such as a sheet saved as html; - for standard input."`
}

// readCarried reads a rig file, or the rig that a page carries and what it lacks.
func readCarried(name string) (*rig.Rig, []string, error) {
	file, err := open(name)
	if err != nil {
		return nil, nil, err
	}
	defer file.Close()
	return carry.ReadAny(file)
}

// Run keeps every file that is right and names those that are not.
func (c *importCommand) Run() error {
	return c.with(0, func(ctx context.Context, s *store.Store) error {
		var wrong []error
		for _, name := range c.Files {
			r, lacks, err := readCarried(name)
			if err == nil {
				err = keep(ctx, s, r, "imported from "+path.Base(shown(name))+carry.LacksWords(lacks))
			}
			if err == nil && len(lacks) > 0 {
				fmt.Fprintf(stdout, "%s: imported%s\n", name, carry.LacksWords(lacks))
			}
			if err != nil {
				wrong = append(wrong, fmt.Errorf("%s: %w", name, err))
			}
		}
		return errors.Join(wrong...)
	})
}

// backupCommand copies the data file.
type backupCommand struct {
	data
	To string `arg:"" help:"Path of the copy; it must not exist."`
}

func (c *backupCommand) Run() error {
	return c.with(store.Existing, func(ctx context.Context, s *store.Store) error { return s.Backup(ctx, c.To) })
}

// checkCommand looks through the data file.
type checkCommand struct{ data }

func (c *checkCommand) Run() error {
	return c.with(store.Existing, func(ctx context.Context, s *store.Store) error {
		faults, err := s.Check(ctx, web.Readable)
		if err != nil {
			return err
		}
		for _, fault := range faults {
			fmt.Fprintln(stdout, fault)
		}
		if len(faults) > 0 {
			return &exitError{code: exitStops}
		}
		_, err = fmt.Fprintln(stdout, "The data file is whole.")
		return err
	})
}

// restoreCommand puts a backup in the place of the data file.
type restoreCommand struct {
	data
	From string `arg:"" help:"A backup made by kolvan backup, or an archive made by kolvan export --all."`
}

func (c *restoreCommand) Run() error {
	path, err := c.path()
	if err != nil {
		return err
	}
	fill, err := filling(c.From)
	if err != nil {
		return err
	}
	kept, err := store.Restore(context.Background(), path, fill)
	if err != nil {
		return err
	}
	if kept != "" {
		fmt.Fprintf(stdout, "What was there is kept as %s.\n", kept)
	}
	_, err = fmt.Fprintf(stdout, "%s now holds what %s held.\n", path, c.From)
	return err
}

// filling is what fills the restored file: an archive, an export of all of before, or a
// backup, by how it begins.
func filling(from string) (func(context.Context, string) error, error) {
	file, err := os.Open(from)
	if err != nil {
		return nil, fmt.Errorf("%s cannot be read: it is not there, or not for you", shown(from))
	}
	defer file.Close()
	start := make([]byte, 4)
	n, _ := io.ReadFull(file, start) // what is shorter is neither
	switch first := bytes.TrimLeft(start[:n], " \t\r\n\ufeff"); {
	case string(start[:n]) == "PK\x03\x04":
		return store.FromArchive(from, web.Readable), nil
	case len(first) > 0 && first[0] == '{':
		bench, err := readBench(from)
		if err != nil {
			return nil, err
		}
		return bench.fill, nil
	}
	return store.FromBackup(from, web.Readable), nil
}

// fill writes an export of all into a new data file.
func (f *benchFile) fill(ctx context.Context, to string) error {
	var things []store.New
	for i, doc := range f.Rigs {
		r, err := rig.Decode(doc)
		if err != nil {
			return fmt.Errorf("/rigs/%d: %w", i, err)
		}
		things = append(things, store.New{Kind: store.RigKind, Name: r.Name, Doc: doc, Label: "restored"})
	}
	for i, p := range f.Parts {
		part, err := parts.Decode(p.Kind, p.Part)
		if err != nil {
			return fmt.Errorf("/parts/%d/part: %w", i, err)
		}
		things = append(things, store.New{Kind: string(p.Kind), Name: parts.Name(part), Doc: p.Part, Label: "restored"})
	}
	s, err := store.Open(ctx, to)
	if err != nil {
		return err
	}
	_, err = s.CreateAll(ctx, things)
	return errors.Join(err, s.Close())
}

// with opens the data file for the work.
func (d *data) with(mode store.Mode, work func(context.Context, *store.Store) error) error {
	path, err := d.path()
	if err != nil {
		return err
	}
	ctx := context.Background()
	s, err := store.Open(ctx, path, mode)
	if err != nil {
		return err
	}
	return errors.Join(work(ctx, s), s.Close())
}
