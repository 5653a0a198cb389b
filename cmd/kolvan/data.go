package main

import (
	"context"
	"errors"
	"fmt"
	"os"
	"strconv"

	"kolvan/store"
)

type exportCommand struct {
	data
	Rig string `arg:"" help:"The rig's name or number."`
}

func (c *exportCommand) Run() error {
	return c.with(func(ctx context.Context, s *store.Store) error {
		entries, err := s.Rigs(ctx, false)
		if err != nil {
			return err
		}
		for _, e := range entries {
			if e.Name == c.Rig || strconv.FormatInt(e.ID, 10) == c.Rig {
				_, err := os.Stdout.Write(e.Doc)
				return err
			}
		}
		return fmt.Errorf("rig %q: %w; there are %d rigs on the bench", c.Rig, store.ErrNotFound, len(entries))
	})
}

type importCommand struct {
	data
	Files []string `arg:"" name:"file" help:"Rig files; - for standard input."`
}

// Run keeps every file that is right and names those that are not.
func (c *importCommand) Run() error {
	return c.with(func(ctx context.Context, s *store.Store) error {
		var wrong []error
		for _, name := range c.Files {
			r, err := readRig(name)
			if err == nil {
				err = keep(ctx, s, r, "imported from "+name)
			}
			if err != nil {
				wrong = append(wrong, fmt.Errorf("%s: %w", name, err))
			}
		}
		return errors.Join(wrong...)
	})
}

type backupCommand struct {
	data
	To string `arg:"" help:"Path of the copy; it must not exist."`
}

func (c *backupCommand) Run() error {
	return c.with(func(ctx context.Context, s *store.Store) error { return s.Backup(ctx, c.To) })
}

// with opens the data file for one piece of work.
func (d *data) with(work func(context.Context, *store.Store) error) error {
	path, err := d.path()
	if err != nil {
		return err
	}
	ctx := context.Background()
	s, err := store.Open(ctx, path)
	if err != nil {
		return err
	}
	return errors.Join(work(ctx, s), s.Close())
}
