package main

import (
	"bytes"
	"fmt"

	"kolvan/core/reference"
	"kolvan/web"
)

type sheetCommand struct {
	File    string   `arg:"" name:"file" help:"A rig file; - for standard input."`
	As      string   `help:"markdown, or html: one page without scripts." enum:"markdown,html" default:"markdown"`
	With    []string `help:"Parts that stand on it only where asked for: costs, diary, shopping, and the names in the rig that an html page carries."`
	Without []string `help:"Parts to leave out: found, power, fit, steps, tries, runs, open, settings, plugs, back, sums, and the rig that an html page carries."`
}

// Run prints the sheet for the workshop wall.
func (c *sheetCommand) Run() error {
	ref, err := reference.Load()
	if err != nil {
		return err
	}
	r, err := readRig(c.File)
	if err != nil {
		return fmt.Errorf("%s: %w", c.File, err)
	}
	var page bytes.Buffer
	if err := web.WriteSheet(&page, r, ref, c.As, c.With, c.Without); err != nil {
		return fmt.Errorf("the sheet: %w", err)
	}
	_, err = page.WriteTo(stdout)
	return err
}
