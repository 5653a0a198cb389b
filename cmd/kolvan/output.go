package main

import (
	"bytes"
	"fmt"
	"io"
	"log/slog"
	"os"
	"unicode"
	"unicode/utf8"

	"github.com/go-json-experiment/json"

	"kolvan/store"
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

func slogWarn(what string, e store.Entry, why error) {
	slog.Warn(what, "kind", e.Kind, "name", shown(e.Name), "err", shown(why.Error()))
}

// mostExport bounds an export of all that is read back.
const mostExport = 256 << 20

// readBench reads an export of all; a file that starts as an SQLite file does is
// none.
func readBench(name string) (*benchFile, bool, error) {
	file, err := os.Open(name)
	if err != nil {
		return nil, false, fmt.Errorf("%s cannot be read: it is not there, or not for you", shown(name))
	}
	defer file.Close()
	first := make([]byte, 1)
	if _, err := file.Read(first); err != nil || first[0] != '{' && first[0] != ' ' && first[0] != '\n' {
		return nil, false, nil
	}
	rest, err := io.ReadAll(io.LimitReader(file, mostExport))
	if err != nil {
		return nil, false, fmt.Errorf("reading %s: %w", shown(name), err)
	}
	bench := new(benchFile)
	if err := json.Unmarshal(append(first, rest...), bench, json.RejectUnknownMembers(true)); err != nil {
		return nil, false, fmt.Errorf("%s is no export of all: %w", shown(name), err)
	}
	if bench.Format != benchFormat {
		return nil, false, fmt.Errorf("%s: /format: %q is not accepted; accepted: %q", shown(name), bench.Format, benchFormat)
	}
	return bench, true, nil
}
