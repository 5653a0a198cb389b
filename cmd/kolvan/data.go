package main

import (
	"context"
	"errors"
	"fmt"
	"strconv"

	"github.com/go-json-experiment/json"
	"github.com/go-json-experiment/json/jsontext"

	"kolvan/core/parts"
	"kolvan/core/rig"
	"kolvan/store"
	"kolvan/web"
)

// exportCommand writes a rig to standard output, or all that the data file holds.
type exportCommand struct {
	data
	Rig  string `arg:"" optional:"" help:"The rig's name or number."`
	All  bool   `help:"Everything: rigs and parts of the bins, as kolvan-bench/1, which restore takes."`
	AsIs bool   `help:"Hand a damaged document out too, as it lies."`
}

func (c *exportCommand) Run() error {
	if (c.Rig == "") != c.All {
		return errors.New("name one rig, or give --all")
	}
	return c.with(store.Existing, func(ctx context.Context, s *store.Store) error {
		rigs, all, err := s.List(ctx, store.Query{Kind: store.RigKind})
		if err != nil {
			return err
		}
		if c.All {
			return c.exportAll(ctx, s, rigs)
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

// benchFormat is the format word of an export of all.
const benchFormat = "kolvan-bench/1"

// benchFile is an export of all: every rig, and every part of the bins.
type benchFile struct {
	Format string           `json:"format"`
	Rigs   []jsontext.Value `json:"rigs"`
	Parts  []benchPart      `json:"parts"`
}

type benchPart struct {
	Kind parts.Kind     `json:"kind"`
	Part jsontext.Value `json:"part"`
}

func (c *exportCommand) exportAll(ctx context.Context, s *store.Store, rigs []store.Entry) error {
	own, _, err := s.List(ctx, store.Query{})
	if err != nil {
		return err
	}
	file := benchFile{Format: benchFormat, Rigs: []jsontext.Value{}, Parts: []benchPart{}}
	for _, e := range append(rigs, own...) {
		fault := e.Fault
		if fault == nil {
			fault = web.Readable(e.Kind, e.Doc)
		}
		switch {
		case fault != nil && !c.AsIs:
			return fmt.Errorf("%s %q: %w; --as-is leaves it out", e.Kind, e.Name, fault)
		case fault != nil:
			slogWarn("left out", e, fault)
		case e.Kind == store.RigKind:
			file.Rigs = append(file.Rigs, e.Doc)
		default:
			file.Parts = append(file.Parts, benchPart{parts.Kind(e.Kind), e.Doc})
		}
	}
	text, err := json.Marshal(file, jsontext.WithIndent("  "))
	if err != nil {
		return err
	}
	_, err = fmt.Fprintf(stdout, "%s\n", text)
	return err
}

// importCommand puts rig files into the data file.
type importCommand struct {
	data
	Files []string `arg:"" name:"file" help:"Rig files; - for standard input."`
}

// Run keeps every file that is right and names those that are not.
func (c *importCommand) Run() error {
	return c.with(0, func(ctx context.Context, s *store.Store) error {
		var wrong []error
		for _, name := range c.Files {
			r, err := readRig(name)
			if err == nil {
				err = keep(ctx, s, r, "imported from "+shown(name))
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
	From string `arg:"" help:"A backup made by kolvan backup, or an export made by kolvan export --all."`
}

func (c *restoreCommand) Run() error {
	path, err := c.path()
	if err != nil {
		return err
	}
	fill := store.FromBackup(c.From, web.Readable)
	if file, isExport, err := readBench(c.From); err != nil {
		return err
	} else if isExport {
		fill = file.fill
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
