package main

import (
	"bufio"
	"fmt"
	"strings"

	"github.com/alecthomas/kong"
)

type manCommand struct{}

// Run prints the manual page, made from the commands themselves.
func (manCommand) Run() error {
	parser, err := kong.New(new(commands), kong.Name("kolvan"), kong.DefaultEnvars("KOLVAN"))
	if err != nil {
		return err
	}
	out := bufio.NewWriter(stdout)
	fmt.Fprint(
		out,
		".TH KOLVAN 1\n.SH NAME\nkolvan \\- plan a discrete graphics card on a small host\n.SH SYNOPSIS\n.B kolvan\n.I command\n[flags] "+
			"[files]\n.SH DESCRIPTION\n",
	)
	fmt.Fprintln(
		out,
		roff(
			"Works out the lanes a card really gets and why, sizes the supply down to each pin and wire, checks that everything fits and the "+
				"cables reach, plans assembly and power-on, and proves, prices and documents the result. Every flag can be given in the "+
				"environment too, as KOLVAN_ and its name. A file named - is standard input.",
		),
	)
	fmt.Fprintln(out, ".SH COMMANDS")
	for _, node := range parser.Model.Children {
		if node.Hidden {
			continue
		}
		fmt.Fprintf(out, ".SS %s\n%s\n", roff("kolvan "+node.Name), roff(node.Help))
		for _, arg := range node.Positional {
			term(out, arg.Summary(), arg.Help)
		}
		for _, flag := range node.Flags {
			if flag.Hidden || flag.Name == "help" {
				continue
			}
			help := flag.Help
			if flag.HasDefault && flag.Default != "" {
				help += " Default: " + flag.Default + "."
			}
			term(out, "--"+flag.Name, help)
		}
	}
	fmt.Fprintln(out, ".SH EXIT STATUS")
	term(out, "0", "Done, and nothing found against it.")
	for _, node := range parser.Model.Children {
		if one := node.Tag.Get("one"); one != "" {
			term(out, "1, kolvan "+node.Name, "Done, and "+one+".")
		}
	}
	term(out, "2", "The call or a file is wrong: that file was left alone, and the error says what would be accepted.")
	return out.Flush()
}

func term(out *bufio.Writer, name, help string) {
	fmt.Fprintf(out, ".TP\n.B %s\n%s\n", roff(name), roff(help))
}

// roff keeps a text from being read as a request, and its dashes as they are.
func roff(text string) string {
	text = strings.NewReplacer(`\`, `\\`, "-", `\-`).Replace(text)
	if strings.HasPrefix(text, ".") || strings.HasPrefix(text, "'") {
		return `\&` + text
	}
	return text
}
