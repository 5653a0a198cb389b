package parts

import (
	"fmt"
	"strconv"

	"github.com/go-json-experiment/json"
	"github.com/go-json-experiment/json/jsontext"

	"kolvan/core/rig"
)

// FileFormat is the format word of a part in a file of its own.
const FileFormat = "kolvan-part/1"

// A File is a part in a file of its own, with who wrote it.
type File struct {
	Format string         `json:"format"`
	Kind   Kind           `json:"kind"`
	Part   jsontext.Value `json:"part"` // as in a rig file
	By     string         `json:"by,omitzero"`
	Notes  []string       `json:"notes,omitzero"`
}

// ReadFile reads a part from a file of its own, and checks it. The error is a *rig.FieldError,
// or that of what is no JSON.
func ReadFile(text []byte) (*File, error) {
	var head struct {
		Format string `json:"format"`
	}
	if err := json.Unmarshal(text, &head); err != nil {
		return nil, fmt.Errorf("a part in a file of its own, %s, is accepted: %w", FileFormat, err)
	}
	if head.Format != FileFormat {
		return nil, &rig.FieldError{Path: "/format", Value: strconv.Quote(head.Format), Accepts: FileFormat}
	}
	f := &File{}
	if err := json.Unmarshal(text, f, json.RejectUnknownMembers(true)); err != nil {
		return nil, fmt.Errorf("a part in a file of its own: %w", err)
	}
	if _, err := Decode(f.Kind, f.Part); err != nil {
		return nil, err
	}
	return f, nil
}

// FileOf puts a part in a file of its own, without what it cost and whose it is unless that is
// asked for.
func FileOf(p Part, prices bool) (*File, error) {
	part, err := Decode(p.Kind, p.Doc)
	if err != nil {
		return nil, err
	}
	if priced, is := part.(interface{ Free() }); is && !prices {
		priced.Free()
	}
	doc, err := rig.Encode(part)
	return &File{Format: FileFormat, Kind: p.Kind, Part: doc, By: "kolvan parts export"}, err
}
