package rig

import (
	"bytes"
	"errors"
	"fmt"
	"io"
	"reflect"
	"strconv"
	"strings"

	"github.com/go-json-experiment/json"
	"github.com/go-json-experiment/json/jsontext"
)

// MaxFile is the largest rig file that is read, in bytes.
const MaxFile = 2 << 20

// maxDepth is deeper than any rig file nests.
const maxDepth = 16

// A FieldError names the field, the value found there and what is accepted.
type FieldError struct {
	Path    string // JSON Pointer
	Value   string // as written; empty when there is none to show
	Accepts string
}

func (e *FieldError) Error() string {
	path := e.Path
	if path == "" {
		path = "the file"
	}
	if e.Value == "" {
		return fmt.Sprintf("%s: accepted: %s", path, e.Accepts)
	}
	return fmt.Sprintf("%s: %s is not accepted; accepted: %s", path, shorten(e.Value), e.Accepts)
}

func shorten(s string) string {
	const most = 60
	if r := []rune(s); len(r) > most {
		return string(r[:most]) + "…"
	}
	return s
}

var errNoValue = errors.New("an object for a fact needs a value")

// Decode reads and checks a rig file. Every error it returns is a *FieldError,
// or several joined: the first fault of the text, or all faults of the content.
func Decode(data []byte) (*Rig, error) {
	data = bytes.TrimPrefix(data, []byte("\xef\xbb\xbf"))
	if err := checkText(data); err != nil {
		return nil, err
	}
	if err := checkFormat(data); err != nil {
		return nil, err
	}
	return Reread(data)
}

// Reread is Decode of what Encode has just written: its text is sound, its content, and
// what the file has room for, are checked as any other's.
func Reread(data []byte) (*Rig, error) {
	if len(data) > MaxFile {
		return nil, tooLarge()
	}
	r := new(Rig)
	if err := DecodePart(data, r); err != nil {
		return nil, err
	}
	if err := Validate(r); err != nil {
		return nil, err
	}
	return r, nil
}

// Read decodes what the reader holds, refusing more than MaxFile.
func Read(from io.Reader) (*Rig, error) {
	data, err := io.ReadAll(io.LimitReader(from, MaxFile+1))
	if err != nil {
		return nil, fmt.Errorf("reading the rig file: %w", err)
	}
	return Decode(data)
}

// DecodePart reads one value of the format (a card, a lead) into v without
// checking references.
func DecodePart(data []byte, v any) error {
	if err := json.Unmarshal(data, v, json.RejectUnknownMembers(true)); err != nil {
		return explain(err, data, reflect.TypeOf(v).Elem())
	}
	return nil
}

// Encode writes a rig or a part as indented JSON, unknown facts left out.
func Encode(v any) ([]byte, error) {
	data, err := json.Marshal(v, jsontext.WithIndent("  "), json.Deterministic(true))
	if err != nil {
		return nil, fmt.Errorf("encoding: %w", err)
	}
	return append(data, '\n'), nil
}

func tooLarge() error {
	return &FieldError{Accepts: fmt.Sprintf("a rig file of at most %d bytes; this one is larger", MaxFile)}
}

// checkText refuses what is too large, nests too deep or is no JSON.
func checkText(data []byte) error {
	if len(data) > MaxFile {
		return tooLarge()
	}
	dec := jsontext.NewDecoder(bytes.NewReader(data))
	for {
		token, err := dec.ReadToken()
		if errors.Is(err, io.EOF) {
			return nil
		}
		if err != nil {
			return explain(err, data, nil)
		}
		if dec.StackDepth() > maxDepth {
			return &FieldError{Path: string(dec.StackPointer()), Value: "nesting " + token.Kind().String(),
				Accepts: fmt.Sprintf("at most %d levels", maxDepth)}
		}
		if token.Kind() == 'n' {
			return &FieldError{Path: string(dec.StackPointer()), Value: "null", Accepts: `a value, or "unknown", or the field left out`}
		}
	}
}

// checkFormat tells a file of another kind or a newer version by its word.
func checkFormat(data []byte) error {
	var head struct {
		Format *string `json:"format"`
	}
	err := json.Unmarshal(data, &head)
	if err != nil || head.Format == nil {
		return &FieldError{Path: "/format", Value: jsontextKind(data), Accepts: `the word "` + Format + `" at the head of an object`}
	}
	if *head.Format == Format {
		return nil
	}
	accepts := `"` + Format + `"`
	if strings.HasPrefix(*head.Format, "kolvan-rig/") {
		accepts += "; a file of another version needs the Kolvan that wrote it"
	}
	return &FieldError{Path: "/format", Value: quote(*head.Format), Accepts: accepts}
}

func jsontextKind(data []byte) string {
	kind := jsontext.NewDecoder(bytes.NewReader(data)).PeekKind()
	if kind == '{' {
		return "an object without it"
	}
	return kind.String()
}

func quote(s string) string { return fmt.Sprintf("%q", s) }

// explain turns the decoder's error into a FieldError for the type t.
func explain(err error, data []byte, t reflect.Type) error {
	var syntax *jsontext.SyntacticError
	if errors.As(err, &syntax) {
		return explainSyntax(syntax, data)
	}
	var semantic *json.SemanticError
	if !errors.As(err, &semantic) {
		return &FieldError{Accepts: err.Error()}
	}
	path := string(semantic.JSONPointer)
	value := string(semantic.JSONValue)
	if errors.Is(err, json.ErrUnknownName) {
		parent, name := path[:strings.LastIndex(path, "/")], path[strings.LastIndex(path, "/")+1:]
		return &FieldError{Path: path, Value: "the field " + quote(name), Accepts: acceptedNames(t, parent)}
	}
	if value == "" {
		value = valueAt(data, semantic.JSONPointer)
	}
	return &FieldError{Path: path, Value: value, Accepts: acceptedAt(t, path)}
}

func explainSyntax(e *jsontext.SyntacticError, data []byte) error {
	if errors.Is(e, jsontext.ErrDuplicateName) {
		return &FieldError{Path: string(e.JSONPointer), Value: "the same name twice", Accepts: "each name once"}
	}
	at := min(int(e.ByteOffset), len(data))
	line := 1 + bytes.Count(data[:at], []byte("\n"))
	return &FieldError{Path: string(e.JSONPointer), Value: fmt.Sprintf("line %d", line), Accepts: fmt.Sprintf("JSON (%v)", e.Err)}
}

// valueAt returns the text of the value a pointer names, or nothing.
func valueAt(data []byte, pointer jsontext.Pointer) string {
	var at any
	if json.Unmarshal(data, &at) != nil {
		return ""
	}
	for token := range pointer.Tokens() {
		switch v := at.(type) {
		case map[string]any:
			at = v[token]
		case []any:
			i, err := strconv.Atoi(token)
			if err != nil || i >= len(v) {
				return ""
			}
			at = v[i]
		}
	}
	value, err := json.Marshal(at)
	if err != nil {
		return ""
	}
	return string(value)
}

// typeAt follows a pointer through the types; list places do not matter.
func typeAt(t reflect.Type, pointer string) (reflect.Type, *Spec) {
	var spec *Spec
	for token := range strings.SplitSeq(strings.TrimPrefix(pointer, "/"), "/") {
		if token == "" {
			continue
		}
		if t.Kind() == reflect.Slice {
			t = t.Elem()
			continue
		}
		if spec != nil || t.Kind() != reflect.Struct {
			return t, spec // inside a fact's object or list
		}
		for _, field := range fileFields(t) {
			if jsonName(field) != token {
				continue
			}
			t = field.Type
			if s, ok := leaf(field); ok {
				spec = &s
			}
			break
		}
	}
	return t, spec
}

func acceptedNames(t reflect.Type, pointer string) string {
	at, spec := typeAt(t, pointer)
	if spec != nil && spec.Fact {
		return "value, tolerance, source, remark, as"
	}
	if at.Kind() != reflect.Struct {
		return "no such field"
	}
	return strings.Join(fieldNames(at), ", ")
}

func acceptedAt(t reflect.Type, pointer string) string {
	at, spec := typeAt(t, pointer)
	switch {
	case spec != nil && spec.Fact:
		return spec.Accepts() + `, or "unknown", or an object with the value, its tolerance, source and remark`
	case spec != nil:
		return spec.Accepts()
	case at.Kind() == reflect.Slice:
		return "a list"
	default:
		return "an object"
	}
}
