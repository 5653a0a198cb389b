package main

import (
	"context"
	"errors"
	"fmt"
	"io"
	"os"
	"path"
	"strings"

	"kolvan/core/parts"
	"kolvan/core/pasted"
	"kolvan/core/rig"
	"kolvan/store"
	"kolvan/web"
)

type partsCommand struct {
	List   partsListCommand   `cmd:"" help:"List the parts of the bins, then those of the built-in list."`
	Show   partsShowCommand   `cmd:"" help:"Print what is known of a part."`
	Export partsExportCommand `cmd:"" help:"Write a part to a file of its own, kolvan-part/1, without its price."`
	Import partsImportCommand `cmd:"" help:"Put parts from files of their own into the bins."`
	Merge  partsMergeCommand  `cmd:"" help:"Take into one part what another part of its kind tells."`
	Read   partsReadCommand   `cmd:"" help:"Read what the page of a part, a listing or a label says, into facts."`
}

// listed is a part of the bins, or of the built-in list.
type listed struct {
	parts.Part
	own bool
}

// partsOf are the parts of the bins, where there is a data file, and of the built-in list.
func (d *data) partsOf(kind string) (all []listed, err error) {
	file, err := d.path()
	if err != nil {
		return nil, err
	}
	if _, err := os.Stat(file); err == nil || d.Data != "" {
		if all, err = d.mine(); err != nil {
			return nil, err
		}
	}
	builtin, err := parts.Builtin()
	if err != nil {
		return nil, err
	}
	for _, p := range builtin {
		all = append(all, listed{p, false})
	}
	kept := all[:0]
	for _, p := range all {
		if kind == "" || string(p.Kind) == kind {
			kept = append(kept, p)
		}
	}
	return kept, nil
}

// mine are the parts of the bins.
func (d *data) mine() (all []listed, err error) {
	err = d.with(store.Existing, func(ctx context.Context, s *store.Store) error {
		list, _, err := s.List(ctx, store.Query{})
		for _, e := range list {
			if e.Kind != store.RigKind && e.Fault == nil && web.Readable(e.Kind, e.Doc) == nil {
				all = append(all, listed{parts.Part{Kind: parts.Kind(e.Kind), Name: e.Name, Doc: e.Doc}, true})
			}
		}
		return err
	})
	return all, err
}

// named is the part of a name, one's own before the list's.
func (d *data) named(name string) (*listed, error) {
	all, err := d.partsOf("")
	if err != nil {
		return nil, err
	}
	for i := range all {
		if strings.EqualFold(all[i].Name, name) {
			return &all[i], nil
		}
	}
	return nil, fmt.Errorf("part %q is neither in the bins nor in the list; kolvan parts list has them all", name)
}

type partsListCommand struct {
	data
	Kind string `help:"Only those of a kind: host, stage, card, supply or lead." enum:",host,stage,card,supply,lead" default:""`
	Own  bool   `help:"Only those of the bins."`
}

func (c *partsListCommand) Run() error {
	all, err := c.partsOf(c.Kind)
	if err != nil {
		return err
	}
	p := &printer{w: stdout}
	for _, part := range all {
		from := "list"
		if part.own {
			from = "mine"
		} else if c.Own {
			continue
		}
		p.line("%s\t%s\t%s", from, part.Kind, part.Name)
	}
	return p.err
}

type partsShowCommand struct {
	data
	Name string `arg:"" help:"The part's name."`
}

func (c *partsShowCommand) Run() error {
	part, err := c.named(c.Name)
	if err != nil {
		return err
	}
	doc, err := parts.Decode(part.Kind, part.Doc)
	if err != nil {
		return err
	}
	p := &printer{w: stdout}
	p.line("%s, a %s", part.Name, part.Kind)
	rig.Walk(doc, func(n rig.Node) {
		if n.List || !n.Known() || n.Path() == "/name" {
			return
		}
		source, remark := n.Origin()
		from := strings.TrimPrefix(strings.TrimRight(rig.Spoken(source)+"; "+remark, "; "), "; ")
		if from != "" {
			from = "  [" + from + "]"
		}
		p.line("  %s: %s%s", n.Spec.Called, n.Shown(), from)
	})
	return p.err
}

type partsExportCommand struct {
	data
	Name   string `arg:"" help:"The part's name."`
	Prices bool   `help:"With its price, and whether it is owned."`
}

func (c *partsExportCommand) Run() error {
	part, err := c.named(c.Name)
	if err != nil {
		return err
	}
	file, err := parts.FileOf(part.Part, c.Prices)
	if err != nil {
		return err
	}
	return printJSON(stdout, []*parts.File{file}, 1)
}

type partsImportCommand struct {
	data
	Files []string `arg:"" name:"file" help:"Files of kolvan-part/1; - for standard input."`
}

// Run keeps every file that is right and names those that are not. One of a name that is in the
// bins is not put beside it: the two are to be merged.
func (c *partsImportCommand) Run() error {
	return c.with(0, func(ctx context.Context, s *store.Store) error {
		var wrong []error
		for _, name := range c.Files {
			if err := importPart(ctx, s, name); err != nil {
				wrong = append(wrong, fmt.Errorf("%s: %w", shown(name), err))
			}
		}
		return errors.Join(wrong...)
	})
}

func importPart(ctx context.Context, s *store.Store, name string) error {
	file, part, err := readPart(name)
	if err != nil {
		return err
	}
	there, _, err := s.List(ctx, store.Query{Kind: string(file.Kind)})
	if err != nil {
		return err
	}
	for _, e := range there {
		if e.Name == parts.Name(part) {
			return fmt.Errorf("a %s called %q is in the bins; kolvan parts merge takes into it what the file tells", file.Kind, e.Name)
		}
	}
	_, err = s.Create(ctx, string(file.Kind), parts.Name(part), file.Part, "imported from "+path.Base(shown(name)))
	return err
}

func readPart(name string) (*parts.File, any, error) {
	text, err := readAll(name, rig.MaxFile)
	if err != nil {
		return nil, nil, err
	}
	file, err := parts.ReadFile(text)
	if err != nil {
		return nil, nil, err
	}
	part, err := parts.Decode(file.Kind, file.Part)
	return file, part, err
}

type partsMergeCommand struct {
	Mine   string `arg:"" help:"A file of kolvan-part/1: one's own."`
	Theirs string `arg:"" help:"A file of kolvan-part/1: what another learned."`
}

// Run prints the merged part, and on standard error what became of each fact that differed.
func (c *partsMergeCommand) Run() error {
	file, mine, err := readPart(c.Mine)
	if err != nil {
		return fmt.Errorf("%s: %w", shown(c.Mine), err)
	}
	_, theirs, err := readPart(c.Theirs)
	if err != nil {
		return fmt.Errorf("%s: %w", shown(c.Theirs), err)
	}
	differ, err := parts.Merge(mine, theirs)
	if err != nil {
		return err
	}
	for _, d := range differ {
		fmt.Fprintf(stderr, "%s: %s here, %s there: %s\n", d.At, orNothing(d.Mine), d.Theirs, d.Taken)
	}
	if file.Part, err = rig.Encode(mine); err != nil {
		return err
	}
	return printJSON(stdout, []*parts.File{file}, 1)
}

func orNothing(text string) string {
	if text == "" {
		return "nothing"
	}
	return text
}

type partsReadCommand struct {
	File string `arg:"" name:"text" help:"The text; - for standard input."`
	Kind string `help:"What it is a part of: host, stage, card, supply or lead; guessed from its words unless told." enum:",host,stage,card,supply,lead" default:""`
	JSON bool   `name:"json" help:"Print kolvan-facts/1."`
}

// mostPasted bounds a text of a part, in bytes.
const mostPasted = 1 << 20

// Run prints the facts that a text tells, each beside the words it came from.
func (c *partsReadCommand) Run() error {
	text, err := readAll(c.File, mostPasted)
	if err != nil {
		return fmt.Errorf("%s: %w", shown(c.File), err)
	}
	reading := pasted.Read(string(text), parts.Kind(c.Kind))
	if c.JSON {
		return printJSON(stdout, []*pasted.Reading{reading}, 1)
	}
	return writePasted(stdout, reading)
}

func writePasted(w io.Writer, r *pasted.Reading) error {
	p := &printer{w: w}
	p.line("a %s", r.Kind)
	for _, f := range r.Facts {
		sure := "[x]"
		if !f.Sure {
			sure = "[?]"
		}
		p.line("%s %s: %v   (%s)", sure, f.At, f.Value, f.Words)
	}
	if len(r.Rest) > 0 {
		p.line("not understood: %s", strings.Join(r.Rest, " | "))
	}
	return p.err
}
