package rig

import (
	"bytes"
	"encoding/json"
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/santhosh-tekuri/jsonschema/v6"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"kolvan/core/units"
	_ "kolvan/internal/oneseed"
)

// samples are rig files of every kind the program ships.
func samples(t testing.TB) [][]byte {
	names, err := filepath.Glob("../../demo/rigs/*.json")
	require.NoError(t, err)
	names = append(names, "../assess/testdata/whole.json")
	var docs [][]byte
	for _, name := range names {
		doc, err := os.ReadFile(name)
		require.NoError(t, err)
		docs = append(docs, doc)
	}
	require.Greater(t, len(docs), 4)
	return docs
}

func file(fields string) []byte { return []byte(`{"format":"kolvan-rig/1","name":"a"` + fields + `}`) }

func TestFactKeepsKnownAndUnknownApart(t *testing.T) {
	r, err := Decode(
		file(`,"card":{"lanes":"unknown","power_w":0,"length_mm":{"value":240,"tolerance":1.5,"source":"measured","remark":"twice"},"encoders":[]}`),
	)
	require.NoError(t, err)
	assert.False(t, r.Card.Lanes.Known, "said to be unknown")
	assert.False(t, r.Card.Gen.Known, "left out")
	assert.Equal(t, Of(units.Watt(0)), r.Card.Power, "zero is known")
	assert.Equal(t, Fact[units.Millimetre]{true, false, 240, 1.5, Measured, "twice", ""}, r.Card.Length)
	assert.True(t, r.Card.Encoders.Known, "an empty list says there are none")
	assert.Nil(t, r.Card.Plugs, "left out: not known")

	again, err := Encode(r)
	require.NoError(t, err)
	back, err := Decode(again)
	require.NoError(t, err)
	assert.Equal(t, r, back)
}

func TestDecodeNamesFieldValueAndWhatIsAccepted(t *testing.T) {
	deep := strings.Repeat(`[`, 500) + strings.Repeat(`]`, 500)
	for _, c := range []struct{ name, doc, path, says string }{
		{"unknown field", `,"host":{"slots":[{"name":"s","lanez":4}]}`, "/host/slots/0/lanez", "lanes_mechanical"},
		{"unknown field of a fact", `,"card":{"lanes":{"value":4,"sauce":1}}`, "/card/lanes/sauce", "tolerance"},
		{"wrong type", `,"card":{"lanes":"four"}`, "/card/lanes", `"four" is not accepted; accepted: one of 1, 2, 4, 8, 16`},
		{"not a choice", `,"host":{"kind":"toaster"}`, "/host/kind", `mini-pc, desktop`},
		{"not a lane count", `,"card":{"lanes":3}`, "/card/lanes", "3 is not accepted"},
		{"negative length", `,"card":{"length_mm":-4}`, "/card/length_mm", "-4 is not accepted; accepted: a number from 0 to 1000"},
		{"negative tolerance", `,"card":{"length_mm":{"value":4,"tolerance":-1}}`, "/card/length_mm/tolerance", "-1"},
		{"tolerance of a word", `,"host":{"kind":{"value":"desktop","tolerance":1}}`, "/host/kind/tolerance", "number only"},
		{"object without value", `,"card":{"lanes":{"source":"papers"}}`, "/card/lanes", "value"},
		{"not a number", `,"card":{"length_mm":NaN}`, "/card/length_mm", "invalid character 'N'"},
		{"too large for a number", `,"card":{"length_mm":1e999}`, "/card/length_mm", "1e999"},
		{"null", `,"card":{"lanes":null}`, "/card/lanes", `null is not accepted; accepted: a value, or "unknown"`},
		{"no name", `,"host":{"slots":[{"lanes":4}]}`, "/host/slots/0/name", "not empty"},
		{"name twice", `,"host":{"slots":[{"name":"s"},{"name":"s"}]}`, "/host/slots/1/name", `"s"`},
		{"name across the network", `,"supplies":[{"name":"x"}],"leads":[{"name":"x"}]`, "/leads/0/name", "/supplies/0/name has it"},
		{"the same field twice", `,"card":{"lanes":4,"lanes":8}`, "/card/lanes", "twice"},
		{
			"dangling slot", `,"host":{"slots":[{"name":"s"}]},"route":{"slot":"t"}`, "/route/slot",
			`"t" is not accepted; accepted: one of "s"`,
		},
		{"dangling occupant", `,"host":{"slots":[{"name":"s","occupant":"ghost"}]}`, "/host/slots/0/occupant", "ghost"},
		{
			"dangling outlet",
			`,"supplies":[{"name":"p","outlets":[{"name":"o"}]}],"leads":[{"name":"l","from":[{"part":"p","at":"q"}]}]`,
			"/leads/0/from/0/at", `one of "o"`,
		},
		{"dangling load", `,"leads":[{"name":"l","to":[{"part":"nowhere"}]}]`, "/leads/0/to/0/part", `"card"`},
		{
			"lead that feeds itself",
			`,"leads":[{"name":"l","from":[{"part":"m","at":"x"}],"to":[{"at":"y"}]},{"name":"m","from":[{"part":"l","at":"y"}],"to":[{"at":"x"}]}]`,
			"/leads/0/from", "come back to itself",
		},
		{"nested without end", `,"host":` + deep, "/host", "at most 16 levels"},
		{"too many", `,"host":{"drives":[` + strings.Repeat(`{"name":"d"},`, 80) + `{"name":"d"}]}`, "/host/drives", "at most 64 entries"},
	} {
		t.Run(c.name, func(t *testing.T) {
			r, err := Decode(file(c.doc))
			assert.Nil(t, r)
			var fault *FieldError
			require.ErrorAs(t, err, &fault)
			assert.Contains(t, err.Error(), c.path)
			assert.Contains(t, err.Error(), c.says)
		})
	}
	for name, doc := range map[string]string{
		"newer version": `{"format":"kolvan-rig/2","name":"a"}`, "another format": `{"format":"drawing","name":"a"}`, "no object": `[1]`,
		"no format": `{"name":"a"}`, "empty": ``, "cut off": `{"format":"kolvan-rig/1","na`,
		"text behind": `{"format":"kolvan-rig/1","name":"a"} x`, "no text": "\xff\xfe",
	} {
		_, err := Decode([]byte(doc))
		var fault *FieldError
		assert.ErrorAs(t, err, &fault, name)
	}
	_, err := Decode([]byte(`{"format":"kolvan-rig/2","name":"a"}`))
	assert.ErrorContains(t, err, "another version")
}

func TestReadRefusesALargeFile(t *testing.T) {
	_, err := Read(bytes.NewReader(append(file(""), bytes.Repeat([]byte(" "), 20<<20)...)))
	assert.ErrorContains(t, err, "at most 2097152 bytes")
}

func compiled(t testing.TB) *jsonschema.Schema {
	text, err := Schema()
	require.NoError(t, err)
	doc, err := jsonschema.UnmarshalJSON(bytes.NewReader(text))
	require.NoError(t, err)
	c := jsonschema.NewCompiler()
	require.NoError(t, c.AddResource("rig.json", doc))
	return c.MustCompile("rig.json")
}

// TestSchemaAndTypesAgree changes one place of a real file at random and holds
// the published schema against the Go types: both accept it, or neither does.
func TestSchemaAndTypesAgree(t *testing.T) {
	schema, docs := compiled(t), samples(t)
	pool := []any{
		"unknown",
		"x",
		"",
		"m2",
		-1.0,
		0.0,
		1.0,
		3.0,
		4.0,
		2.5,
		1e9,
		true,
		[]any{},
		[]any{"pcie"},
		[]any{"x"},
		[]any{map[string]any{"name": "n"}},
		map[string]any{},
		map[string]any{"value": 4.0},
		map[string]any{"value": "unknown"},
		map[string]any{
			"value": 1.0, "tolerance": 0.5, "source": "measured", "remark": "r",
		},
		map[string]any{
			"value":  "x",
			"source": "dream",
		},
		map[string]any{"value": true, "more": 1.0},
		nil,
		strings.Repeat("é", maxText),
		strings.Repeat("e", maxText+1),
	}
	accepted := 0
	rapid.Check(t, func(t *rapid.T) {
		var doc any
		require.NoError(t, json.Unmarshal(docs[rapid.IntRange(0, len(docs)-1).Draw(t, "file")], &doc))
		mutate(t, doc, rapid.SampledFrom(pool).Draw(t, "value"))
		text, err := json.Marshal(doc)
		require.NoError(t, err)
		bySchema, byTypes := schema.Validate(doc), fieldsOnly(text)
		if (bySchema == nil) != (byTypes == nil) {
			t.Fatalf("schema: %v\ntypes: %v", bySchema, byTypes)
		}
		if byTypes == nil {
			accepted++
		}
	})
	assert.Positive(t, accepted)
}

// mutate walks to a random place of the document and puts the value there, or
// adds a field that is not in the format.
func mutate(t *rapid.T, at, value any) {
	for {
		switch v := at.(type) {
		case map[string]any:
			keys := append(sortedKeys(v), "surprise")
			key := rapid.SampledFrom(keys).Draw(t, "key")
			if next, ok := v[key]; ok && isContainer(next) && rapid.IntRange(0, 3).Draw(t, "deeper") > 0 {
				at = next
				continue
			}
			v[key] = value
			return
		case []any:
			if len(v) == 0 {
				return
			}
			i := rapid.IntRange(0, len(v)-1).Draw(t, "place")
			if isContainer(v[i]) {
				at = v[i]
				continue
			}
			v[i] = value
			return
		default:
			return
		}
	}
}

func isContainer(v any) bool {
	_, object := v.(map[string]any)
	_, list := v.([]any)
	return object || list
}

func sortedKeys(m map[string]any) []string {
	text, _ := json.Marshal(m) // in order
	dec := json.NewDecoder(bytes.NewReader(text))
	var keys []string
	_, _ = dec.Token()
	for dec.More() {
		key, _ := dec.Token()
		keys = append(keys, key.(string))
		var skip any
		_ = dec.Decode(&skip)
	}
	return keys
}

// fieldsOnly is Decode without names and references, which no schema states.
func fieldsOnly(text []byte) error {
	if err := checkText(text); err != nil {
		return err
	}
	if err := checkFormat(text); err != nil {
		return err
	}
	r := new(Rig)
	if err := DecodePart(text, r); err != nil {
		return err
	}
	return ValidatePart(r)
}

func FuzzDecode(f *testing.F) {
	for _, doc := range samples(f) {
		f.Add(doc)
	}
	f.Fuzz(func(t *testing.T, doc []byte) {
		r, err := Decode(doc)
		if err != nil {
			return
		}
		again, err := Encode(r)
		require.NoError(t, err)
		back, err := Decode(again)
		require.NoError(t, err)
		require.Equal(t, r, back)
	})
}

// TestBoundsOfWhatAFileMayHave: up to the bound it is taken, beyond it refused
// with the bound.
func TestBoundsOfWhatAFileMayHave(t *testing.T) {
	many := func(leads, ends int) *Rig {
		r := New("many")
		for i := range leads {
			l := Lead{Name: fmt.Sprint("lead ", i)}
			for j := range ends {
				l.To = append(l.To, LeadEnd{At: fmt.Sprint("end ", j)})
			}
			r.Leads = append(r.Leads, l)
		}
		return r
	}
	assert.NoError(t, Validate(many(64, 4)))
	assert.ErrorContains(t, Validate(many(64, 5)), "at most 256 ends of leads in all")
	sockets := New("sockets")
	for i := range 9 {
		s := Supply{Name: fmt.Sprint("supply ", i)}
		for j := range 64 {
			s.Outlets = append(s.Outlets, Outlet{Name: fmt.Sprint("outlet ", j)})
		}
		sockets.Supplies = append(sockets.Supplies, s)
	}
	assert.ErrorContains(t, Validate(sockets), "at most 512 inlets and outlets")
	sockets.Supplies = sockets.Supplies[:8]
	assert.NoError(t, Validate(sockets))

	wrong := many(64, 4)
	for i := range wrong.Leads {
		for j := range wrong.Leads[i].To {
			wrong.Leads[i].To[j].At = "bell\a"
		}
	}
	err := Validate(wrong)
	assert.ErrorContains(t, err, "and 216 faults more", "nobody reads them all")
	assert.ErrorContains(t, err, "without control characters")
	remark := New("remark")
	remark.Card.Power = Fact[units.Watt]{Known: true, Value: 1, Remark: "two\nlines"}
	assert.NoError(t, Validate(remark))
}
