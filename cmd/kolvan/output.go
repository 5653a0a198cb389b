package main

import (
	"bytes"
	"fmt"
	"io"
	"os"
	"unicode"
	"unicode/utf8"

	"github.com/go-json-experiment/json"
	"github.com/mattn/go-isatty"
)

// stdout and stderr write what a name or a file may hold so that it acts on no
// terminal: control characters are written as \u001b. In JSON that is what they
// are written as anyway.
var (
	stdout io.Writer = plain{os.Stdout}
	stderr io.Writer = plain{os.Stderr}
)

type plain struct{ to io.Writer }

func (p plain) Write(text []byte) (int, error) {
	if _, err := io.WriteString(p.to, shown(string(text))); err != nil {
		return 0, err
	}
	return len(text), nil
}

// shown is a text with its control characters written out.
func shown(text string) string {
	clean := true
	for _, r := range text {
		clean = clean && !acts(r)
	}
	if clean && utf8.ValidString(text) {
		return text
	}
	var b bytes.Buffer
	for _, r := range text {
		if acts(r) || r == utf8.RuneError {
			fmt.Fprintf(&b, `\u%04x`, r)
			continue
		}
		b.WriteRune(r)
	}
	return b.String()
}

// acts reports a character that moves a terminal's cursor, or turns its text.
func acts(r rune) bool {
	return r != '\n' && r != '\t' && (unicode.IsControl(r) || unicode.Is(unicode.Cf, r))
}

// mostExport bounds an export of all that is read back.
const mostExport = 256 << 20

// readBench reads an export of all as it was before archives.
func readBench(name string) (*benchFile, error) {
	file, err := os.Open(name)
	if err != nil {
		return nil, err
	}
	defer file.Close()
	bench := new(benchFile)
	if err := json.UnmarshalRead(io.LimitReader(file, mostExport), bench, json.RejectUnknownMembers(true)); err != nil {
		return nil, fmt.Errorf("%s is no export of all: %w", shown(name), err)
	}
	if bench.Format != benchFormat {
		return nil, fmt.Errorf("%s: /format: %q is not accepted; accepted: %q", shown(name), bench.Format, benchFormat)
	}
	return bench, nil
}

// isTerminal reports a file that a person sees.
func isTerminal(file *os.File) bool { return isatty.IsTerminal(file.Fd()) }
