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
	"strings"

	"kolvan/core/parts"
	"kolvan/core/pasted"
	"kolvan/core/rig"
	"kolvan/internal/whole"
	"kolvan/store"
	"kolvan/web"
)

type partsCommand struct {
	List   partsListCommand   `cmd:"" help:"List the parts of the bins, then those of the built-in list."`
	Show   partsShowCommand   `cmd:"" help:"Print what is known of a part."`
	Export partsExportCommand `cmd:"" help:"Write a part to a file of its own, kolvan-part/1, or several into one archive, without their prices."`
	Import partsImportCommand `cmd:"" help:"Put parts from files of their own, or from archives, into the bins."`
	Sign   partsSignCommand   `cmd:"" help:"Sign an archive of parts with the key that lies beside the data file."`
	Verify partsVerifyCommand `cmd:"" one:"An archive is damaged, or its signature does not match." help:"Say whether an archive of parts is whole, and who signed it."`
	Merge  partsMergeCommand  `cmd:"" help:"Take into one part what another part of its kind tells."`
	Read   partsReadCommand   `cmd:"" help:"Read what the page of a part, a listing or a label says, into facts."`
}

// listed is a part of the bins, of the shelf, or of the built-in list.
type listed struct {
	parts.Part
	from string // mine, shelf, list
}

// onShelf is a folder of parts that others wrote down.
type onShelf struct {
	Shelf string `help:"A folder of parts in files of their own, or archives of them: searched after one's own, before the built-in list."`
}

// parts are those of the shelf. What cannot be read, or is signed with a key that is not known
// here, is told and left out.
func (s *onShelf) parts(d *data) (all []parts.Part, err error) {
	if s.Shelf == "" {
		return nil, nil
	}
	files, faults := parts.Shelf(os.DirFS(s.Shelf))
	for _, f := range files {
		words, known, err := d.standing(f.Signed)
		if err != nil {
			return nil, err
		}
		if !known {
			faults = append(faults, fmt.Errorf("%s is %s: kolvan parts verify --trust takes the key", f.File, words))
			continue
		}
		all = append(all, f.Parts...)
	}
	for _, fault := range faults {
		slog.Warn("not taken from the shelf", "why", shown(fault.Error()))
	}
	return all, nil
}

// partsOf are the parts of the bins, where there is a data file, of the shelf, and of the
// built-in list.
func (d *data) partsOf(kind string, shelf *onShelf) (all []listed, err error) {
	file, err := d.path()
	if err != nil {
		return nil, err
	}
	if _, err := os.Stat(file); err == nil || d.Data != "" {
		if all, err = d.mine(); err != nil {
			return nil, err
		}
	}
	others, err := shelf.parts(d)
	if err != nil {
		return nil, err
	}
	for _, p := range others {
		all = append(all, listed{p, "shelf"})
	}
	builtin, err := parts.Builtin()
	if err != nil {
		return nil, err
	}
	for _, p := range builtin {
		all = append(all, listed{p, "list"})
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
				all = append(all, listed{parts.Part{Kind: parts.Kind(e.Kind), Name: e.Name, Doc: e.Doc}, "mine"})
			}
		}
		return err
	})
	return all, err
}

// named is the part of a name, one's own before the list's.
func (d *data) named(name string, shelf *onShelf) (*listed, error) {
	all, err := d.partsOf("", shelf)
	if err != nil {
		return nil, err
	}
	for i := range all {
		if strings.EqualFold(all[i].Name, name) {
			return &all[i], nil
		}
	}
	return nil, fmt.Errorf("part %q is neither in the bins, nor on the shelf, nor in the list; kolvan parts list has them all", name)
}

type partsListCommand struct {
	data
	onShelf
	Kind string `help:"Only those of a kind: host, stage, card, supply or lead." enum:",host,stage,card,supply,lead" default:""`
	Own  bool   `help:"Only those of the bins."`
}

func (c *partsListCommand) Run() error {
	all, err := c.partsOf(c.Kind, &c.onShelf)
	if err != nil {
		return err
	}
	p := &printer{w: stdout}
	var others []parts.Part
	for _, part := range all {
		if part.from == "shelf" {
			others = append(others, part.Part)
		}
	}
	for _, part := range all {
		if c.Own && part.from != "mine" {
			continue
		}
		says := ""
		if part.from == "mine" {
			differs, err := parts.Differs(part.Part, others)
			if err != nil {
				return err
			}
			for _, d := range differs {
				says += fmt.Sprintf("\tthe shelf has %s %s", d.At, d.Theirs)
			}
		}
		p.line("%s\t%s\t%s%s", part.from, part.Kind, part.Name, says)
	}
	return p.err
}

type partsShowCommand struct {
	data
	onShelf
	Name string `arg:"" help:"The part's name."`
}

func (c *partsShowCommand) Run() error {
	part, err := c.named(c.Name, &c.onShelf)
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
	onShelf
	Names  []string `arg:"" name:"name" help:"The parts' names."`
	Prices bool     `help:"With their prices, and whether they are owned."`
	Output string   `short:"o" help:"The archive to write; a single part goes to standard output without it."`
}

func (c *partsExportCommand) Run() error {
	var files []parts.File
	for _, name := range c.Names {
		part, err := c.named(name, &c.onShelf)
		if err != nil {
			return err
		}
		file, err := parts.FileOf(part.Part, c.Prices)
		if err != nil {
			return err
		}
		files = append(files, *file)
	}
	switch {
	case c.Output != "":
		archive, err := parts.ArchiveOf(files)
		if err != nil {
			return err
		}
		return writeArchive(archive, c.Output)
	case len(files) > 1:
		return errors.New("several parts go into an archive: --output FILE.zip")
	}
	return printJSON(stdout, []*parts.File{&files[0]}, 1)
}

func writeArchive(a *parts.Archive, file string) error {
	var raw bytes.Buffer
	if err := a.Write(&raw); err != nil {
		return err
	}
	return whole.Write(file, raw.Bytes(), 0o644)
}

// mostArchive bounds an archive as it lies, in bytes.
const mostArchive = 32 << 20

func readArchive(name string) (*parts.Archive, error) {
	raw, err := readAll(name, mostArchive)
	if err != nil {
		return nil, err
	}
	return parts.ReadArchive(raw)
}

type partsSignCommand struct {
	data
	Archive string `arg:"" help:"The archive; it is signed in its place."`
	As      string `required:"" help:"The name to sign by: of one's own choice, the key tells who it is."`
}

func (c *partsSignCommand) Run() error {
	archive, err := readArchive(c.Archive)
	if err != nil {
		return fmt.Errorf("%s: %w", shown(c.Archive), err)
	}
	key, err := c.ownKey()
	if err != nil {
		return err
	}
	if err := archive.Sign(key, c.As); err != nil {
		return err
	}
	return writeArchive(archive, c.Archive)
}

type partsVerifyCommand struct {
	data
	Archive string `arg:"" help:"The archive; - for standard input."`
	Trust   bool   `help:"Keep the key that signed it: what it signs is taken from now on."`
}

func (c *partsVerifyCommand) Run() error {
	raw, err := readAll(c.Archive, mostArchive)
	if err != nil {
		return err
	}
	archive, err := parts.ReadArchive(raw)
	if err != nil {
		return &exitError{exitStops, fmt.Errorf("%s: %w", shown(c.Archive), err)}
	}
	words, known, err := c.standing(archive.Signed)
	if err != nil {
		return err
	}
	p := &printer{w: stdout}
	p.line("%s, whole, %s", countedParts(len(archive.Files)), words)
	for i := range archive.Files {
		f := &archive.Files[i]
		p.line("  %s\t%s", f.Kind, partName(f))
	}
	if c.Trust && !known {
		p.line("its key is kept")
		return errors.Join(p.err, c.take(archive.Signed))
	}
	return p.err
}

func countedParts(n int) string {
	if n == 1 {
		return "1 part"
	}
	return fmt.Sprintf("%d parts", n)
}

func partName(f *parts.File) string {
	part, err := parts.Decode(f.Kind, f.Part)
	if err != nil {
		return ""
	}
	return parts.Name(part)
}

type partsImportCommand struct {
	data
	Files []string `arg:"" name:"file" help:"Files of kolvan-part/1, or archives of them; - for standard input."`
	Trust bool     `help:"Take what is signed with a key that is not known here, and keep the key."`
}

// Run keeps every part that is right and names those that are not. One of a name that is in the
// bins is not put beside it: the two are to be merged.
func (c *partsImportCommand) Run() error {
	return c.with(0, func(ctx context.Context, s *store.Store) error {
		var wrong []error
		for _, name := range c.Files {
			files, err := c.filesIn(name)
			if err != nil {
				wrong = append(wrong, fmt.Errorf("%s: %w", shown(name), err))
			}
			for i := range files {
				if err := importPart(ctx, s, &files[i], name); err != nil {
					wrong = append(wrong, fmt.Errorf("%s: %w", shown(name), err))
				}
			}
		}
		return errors.Join(wrong...)
	})
}

// filesIn are the parts of a file, or of an archive whose sender is known.
func (c *partsImportCommand) filesIn(name string) ([]parts.File, error) {
	raw, err := readAll(name, mostArchive)
	if err != nil {
		return nil, err
	}
	if !parts.IsArchive(raw) {
		file, err := parts.ReadFile(raw)
		if err != nil {
			return nil, err
		}
		return []parts.File{*file}, nil
	}
	archive, err := parts.ReadArchive(raw)
	if err != nil {
		return nil, err
	}
	words, known, err := c.standing(archive.Signed)
	switch {
	case err != nil:
		return nil, err
	case !known && !c.Trust:
		return nil, fmt.Errorf("it is %s; --trust takes it and keeps the key", words)
	case !known:
		err = c.take(archive.Signed)
	}
	return archive.Files, err
}

func importPart(ctx context.Context, s *store.Store, file *parts.File, from string) error {
	part, err := parts.Decode(file.Kind, file.Part)
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
	_, err = s.Create(ctx, string(file.Kind), parts.Name(part), file.Part, "imported from "+path.Base(shown(from)))
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
