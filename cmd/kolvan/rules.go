package main

import (
	"fmt"
	"io"
	"runtime/debug"
	"strings"

	root "kolvan"
	"kolvan/core/assess"
	"kolvan/core/bringup"
	"kolvan/core/finding"
	"kolvan/core/rig"
)

type rulesCommand struct {
	Markdown bool `help:"Print docs/rules.md."`
}

func (c *rulesCommand) Run() error {
	if c.Markdown {
		_, err := io.WriteString(stdout, rulesMarkdown())
		return err
	}
	for _, r := range allRules() {
		if _, err := fmt.Fprintf(stdout, "%-20s %-7s %-24s %s\n", r.Name, r.Station, r.Levels, r.Fires); err != nil {
			return err
		}
		if r.Example != "" {
			fmt.Fprintf(stdout, "%-20s e.g. %s\n", "", r.Example)
		}
	}
	return nil
}

// allRules are those of the verdict, and those of the build.
func allRules() []finding.Rule { return append(assess.Rules(), bringup.Rules()...) }

// rulesMarkdown is docs/rules.md, made from the table of rules.
func rulesMarkdown() string {
	var b strings.Builder
	b.WriteString("# Rules\n\nMade by `kolvan rules --markdown`; do not edit. Every rule may also be `unknown` when a fact it needs is " +
		"missing.\n\n")
	b.WriteString("| rule | station | level | fires when | says, for example |\n|---|---|---|---|---|\n")
	for _, r := range allRules() {
		fmt.Fprintf(&b, "| %s | %s | %s | %s | %s |\n", r.Name, r.Station, r.Levels, r.Fires, strings.ReplaceAll(r.Example, "|", "\\|"))
	}
	return b.String()
}

type schemaCommand struct{}

func (schemaCommand) Run() error {
	schema, err := rig.Schema()
	if err != nil {
		return err
	}
	_, err = stdout.Write(schema)
	return err
}

type versionCommand struct {
	Notices bool `help:"Print the licences of all that ships with it."`
}

// Run prints the version, or the licences of what ships.
func (c versionCommand) Run() error {
	if c.Notices {
		_, err := fmt.Fprint(stdout, root.Notices)
		return err
	}
	_, err := fmt.Fprintln(stdout, "kolvan", version())
	return err
}

// stamped is the version that a build is given (make build).
var stamped string

// version is what the build was stamped with, else what Go knows of it: the module's
// version, or the revision it was built from.
func version() string {
	if stamped != "" {
		return stamped
	}
	info, ok := debug.ReadBuildInfo()
	if !ok {
		return "unknown"
	}
	text := info.Main.Version
	for _, s := range info.Settings {
		if s.Key == "vcs.revision" && text == "(devel)" {
			text = s.Value[:min(len(s.Value), 12)]
		}
	}
	return text
}
