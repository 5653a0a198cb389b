// Package proof is what a rig really does: captures of frame times read from tables of any
// style, their figures with intervals, runs held side by side, and what the next change
// would bring.
package proof

import (
	"bufio"
	"bytes"
	"encoding/csv"
	"errors"
	"fmt"
	"io"
	"slices"
	"strconv"
	"strings"

	"kolvan/core/tables"
)

// MaxTable bounds a table, after inflating, where nobody says otherwise.
const MaxTable = 2 << 30

// An Error is what is wrong with a table: what stands there, and what would be accepted.
type Error struct {
	Line        int // 0 for the whole table
	What, Value string
	Accepts     string
	// Head and Asks belong to a question about a column or its unit: the names of the columns,
	// and what each looks like.
	Head []string
	Asks []string
}

func (e *Error) Error() string {
	at := ""
	if e.Line > 0 {
		at = fmt.Sprintf("line %d, ", e.Line)
	}
	says := fmt.Sprintf("%s%s: accepted: %s", at, e.What, e.Accepts)
	if e.Value != "" {
		says = fmt.Sprintf("%s%s: %q is not accepted; accepted: %s", at, e.What, e.Value, e.Accepts)
	}
	if len(e.Asks) > 0 {
		says += ". The columns look like this: " + strings.Join(e.Asks, "; ")
	}
	return says
}

// plainText is a table as UTF-8 without a mark.
func plainText(from io.Reader) (io.Reader, error) {
	text, err := tables.Open(from)
	if err != nil {
		return nil, &Error{What: "file", Accepts: err.Error() + "; a table as text, gzip or not"}
	}
	return text, nil
}

// rows are the lines of a table as fields. A line without quotes is parted where its sign
// stands; one with quotes is read as CSV is.
type rows struct {
	lines *bufio.Reader
	sign  byte
	line  int
	read  int64
	most  int64 // that is read of it
	long  []byte
	need  int // so many fields of a row are wanted; 0 for all
}

// The bounds of a table: a line's bytes, and its columns.
const (
	longestLine = 64 << 10
	mostColumns = 512
)

// next is the next row that holds anything, without its end: one line, or more where a quoted
// field has a line end in it; nil at the end.
func (r *rows) next() ([]byte, error) {
	line, err := r.nextLine()
	if err != nil || line == nil || !r.opens(line) {
		return line, err
	}
	whole := slices.Clone(line)
	for r.opens(whole) {
		more, err := r.nextLine()
		if err != nil {
			return nil, err
		}
		if more == nil {
			return line, nil // it never closes: a sign of its own
		}
		if whole = append(append(whole, '\n'), more...); len(whole) > longestLine {
			return nil, &Error{
				Line: r.line, What: "line", Value: fmt.Sprintf("more than %d KiB in quotes", longestLine>>10),
				Accepts: fmt.Sprintf("lines of %d KiB at most", longestLine>>10),
			}
		}
	}
	return whole, nil
}

// opens reports a row whose last field begins with a quote and has no end yet.
func (r *rows) opens(line []byte) bool {
	if bytes.IndexByte(line, '"') < 0 || bytes.Count(line, []byte{'"'})%2 == 0 {
		return false
	}
	last := bytes.LastIndexByte(line, '"')
	return last == 0 || line[last-1] == r.sign || r.sign == 0 && strings.IndexByte("\t;|,", line[last-1]) >= 0 ||
		bytes.IndexByte(line, '\n') >= 0
}

// nextLine is the next line that holds anything, without its end; nil at the end.
func (r *rows) nextLine() ([]byte, error) {
	for {
		text, err := r.lines.ReadSlice('\n')
		r.long = r.long[:0]
		for errors.Is(err, bufio.ErrBufferFull) && len(r.long) <= longestLine {
			r.long = append(r.long, text...)
			text, err = r.lines.ReadSlice('\n')
		}
		if len(r.long) > 0 {
			r.long = append(r.long, text...)
			text = r.long
		}
		r.line++
		r.read += int64(len(text))
		switch {
		case len(text) > longestLine:
			return nil, &Error{
				Line: r.line, What: "line", Value: fmt.Sprintf("more than %d KiB", longestLine>>10),
				Accepts: fmt.Sprintf("lines of %d KiB at most", longestLine>>10),
			}
		case r.read > r.most:
			return nil, &Error{
				Line: r.line, What: "file", Value: fmt.Sprintf("more than %d MiB", r.most>>20),
				Accepts: fmt.Sprintf("%d MiB at most, after inflating", r.most>>20),
			}
		case err != nil && !errors.Is(err, io.EOF):
			return nil, &Error{Line: r.line, What: "file", Value: "it ends here", Accepts: "a file that can be read whole: " + err.Error()}
		}
		text = bytes.TrimRight(text, "\r\n")
		if len(bytes.TrimSpace(text)) > 0 && text[0] != '#' {
			return text, nil
		}
		if err != nil {
			return nil, nil
		}
	}
}

// fields parts a line into what it holds, in the room of the ones before.
func (r *rows) fields(line []byte, into [][]byte) [][]byte {
	into = into[:0]
	if r.sign == 0 {
		return append(into, line)
	}
	quotes := bytes.IndexByte(line, '"') >= 0
	for rest := line; ; {
		end, field := bytes.IndexByte(rest, r.sign), rest
		if quotes && len(rest) > 0 && rest[0] == '"' {
			closes := bytes.IndexByte(rest[1:], '"') + 1
			end = closes + 1
			switch {
			case closes == 0 || end < len(rest) && rest[end] != r.sign:
				return r.quoted(line, into) // quotes in quotes, or signs of their own
			case end == len(rest):
				return append(into, rest[1:closes])
			}
			field = rest[1:closes]
		} else if end < 0 {
			return append(into, rest)
		} else {
			field = rest[:end]
		}
		if into = append(into, field); len(into) == r.need {
			return into
		}
		rest = rest[end+1:]
	}
}

// quoted parts a line with quotes in quotes.
func (r *rows) quoted(line []byte, into [][]byte) [][]byte {
	into = into[:0]
	one := csv.NewReader(bytes.NewReader(line))
	one.Comma, one.LazyQuotes, one.FieldsPerRecord = rune(r.sign), true, -1
	row, err := one.Read()
	if err != nil {
		return append(into, bytes.Split(line, []byte{r.sign})...)
	}
	for _, field := range row {
		into = append(into, []byte(field))
	}
	return into
}

// signOf is the sign that parts the columns of a line; a comma counts last, since numbers
// may have one. Zero for none.
func signOf(line []byte) byte {
	for _, sign := range []byte("\t;|,") {
		if bytes.IndexByte(line, sign) >= 0 {
			return sign
		}
	}
	return 0
}

// number reads a number with a point or a comma; of spaces and quotes around it nothing is
// said. False for what is none, or is beyond all bounds.
func number(field []byte, comma bool) (float64, bool) {
	if v, plain := decimal(field, comma); plain && len(field) > 0 {
		return v, true
	}
	field = bytes.Trim(field, " \t\"'\u00a0")
	if len(field) == 0 || len(field) > 40 {
		return 0, false
	}
	if v, plain := decimal(field, comma); plain {
		return v, true
	}
	text := string(field)
	if comma {
		text = strings.Replace(text, ",", ".", 1)
	}
	v, err := strconv.ParseFloat(text, 64)
	return v, err == nil && v == v && v < 1e300 && v > -1e300
}

// tens are the powers of ten that a float has exactly.
var tens = [...]float64{1, 1e1, 1e2, 1e3, 1e4, 1e5, 1e6, 1e7, 1e8, 1e9, 1e10, 1e11, 1e12, 1e13, 1e14, 1e15}

// decimal reads digits with one point, exactly: what fits in 53 bits over a power of ten
// that a float has is rounded once, as it should be.
func decimal(field []byte, comma bool) (float64, bool) {
	point := byte('.')
	if comma {
		point = ','
	}
	digits, after, seen := uint64(0), 0, false
	for _, c := range field {
		switch {
		case c >= '0' && c <= '9':
			digits = digits*10 + uint64(c-'0')
			if seen {
				after++
			}
			if digits >= 1<<53 || after >= len(tens) {
				return 0, false
			}
		case c == point && !seen:
			seen = true
		default:
			return 0, false
		}
	}
	return float64(digits) / tens[after], len(field) > 1 || !seen
}

// named are a table's columns by their names, in small letters and without signs.
func named(head [][]byte) []string {
	names := make([]string, len(head))
	for i, field := range head {
		names[i] = strings.TrimSpace(strings.Trim(string(field), "\" \t\ufeff"))
	}
	return names
}

// toMillis turns units of time into milliseconds.
var toMillis = map[string]float64{"ms": 1, "s": 1000, "us": 1e-3, "ns": 1e-6, "min": 60e3, "h": 3600e3}
