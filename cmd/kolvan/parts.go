package main

import (
	"fmt"
	"io"
	"strings"

	"kolvan/core/parts"
	"kolvan/core/pasted"
)

type partsCommand struct {
	Read partsReadCommand `cmd:"" help:"Read what the page of a part, a listing or a label says, into facts."`
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
