// Package tables is what tables of measurements have in common, whoever wrote them: how they
// are packed and encoded, and what the heads of their columns say.
package tables

import (
	"bufio"
	"bytes"
	"compress/gzip"
	"errors"
	"fmt"
	"io"

	"golang.org/x/text/encoding/unicode"
	"golang.org/x/text/transform"
)

// Open is a table as UTF-8 without a mark: inflated, and turned from UTF-16. Nothing of it is
// looked at before. An error says what cannot be unpacked or read.
func Open(from io.Reader) (io.Reader, error) {
	r := bufio.NewReaderSize(from, 1<<16)
	if magic, _ := r.Peek(2); len(magic) == 2 && magic[0] == 0x1f && magic[1] == 0x8b {
		unpack, err := gzip.NewReader(r)
		if err != nil {
			return nil, fmt.Errorf("a gzip file that is not whole: %w", err)
		}
		r = bufio.NewReaderSize(unpack, 1<<16)
	}
	start, err := r.Peek(4)
	if err != nil && !errors.Is(err, io.EOF) {
		return nil, fmt.Errorf("a file that cannot be read whole: %w", err)
	}
	utf16 := func(order unicode.Endianness, mark unicode.BOMPolicy) io.Reader {
		return transform.NewReader(r, unicode.UTF16(order, mark).NewDecoder())
	}
	switch {
	case bytes.HasPrefix(start, []byte("\xff\xfe")), bytes.HasPrefix(start, []byte("\xfe\xff")):
		return utf16(unicode.LittleEndian, unicode.UseBOM), nil
	case len(start) == 4 && start[1] == 0 && start[3] == 0:
		return utf16(unicode.LittleEndian, unicode.IgnoreBOM), nil
	case len(start) == 4 && start[0] == 0 && start[2] == 0:
		return utf16(unicode.BigEndian, unicode.IgnoreBOM), nil
	case bytes.HasPrefix(start, []byte("\xef\xbb\xbf")):
		_, _ = r.Discard(3)
	}
	return r, nil
}
