package main

import (
	_ "embed"
	"fmt"
	"os"

	"kolvan/core/probe"
)

//go:embed collect.sh
var collector string

type probeCommand struct {
	Root   string `help:"A folder with copies of a host's files, in place of this machine." default:"/"`
	Script bool   `help:"Print a small script of shell that collects those files, for a host where nothing may be installed."`
}

// Run prints what the host tells of itself, kolvan-part/1. Links are followed only inside the
// folder.
func (c *probeCommand) Run() error {
	if c.Script {
		_, err := fmt.Fprint(stdout, collector)
		return err
	}
	root, err := os.OpenRoot(c.Root)
	if err != nil {
		return fmt.Errorf("--root %s: accepted: a folder: %w", c.Root, err)
	}
	defer root.Close()
	part, err := probe.Read(root.FS())
	if err != nil {
		return fmt.Errorf("--root %s: %w", c.Root, err)
	}
	return printJSON(stdout, []*probe.Part{part}, 1)
}
