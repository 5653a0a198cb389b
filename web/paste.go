package web

import (
	"slices"
	"strconv"
	"strings"

	"github.com/gofiber/fiber/v3"

	"kolvan/core/parts"
	"kolvan/core/pasted"
	"kolvan/core/rig"
)

// pasteView is a text beside the facts that were read in it.
type pasteView struct {
	Text, Kind, Name string
	Kinds            []string
	Facts            []pastedFact
	Rest             []string
	Read             bool
	File             bool // it is a part in a file of its own
	Refused          string
}

type pastedFact struct {
	ID, At, Called, Value, Words string
	Sure                         bool
}

// pastePage asks for a text, and shows what was read in one.
func (a *App) pastePage(c fiber.Ctx) error {
	v := &pasteView{Text: c.FormValue("text"), Kind: c.FormValue("kind")}
	for _, kind := range parts.Kinds() {
		v.Kinds = append(v.Kinds, string(kind))
	}
	if v.Read = strings.TrimSpace(v.Text) != ""; v.Read {
		v.read()
	}
	return a.page(c, "paste", fiber.Map{"Title": "A part by a paste", "Paste": v})
}

func (v *pasteView) read() {
	if isPartFile(v.Text) {
		v.readFile()
		return
	}
	if !slices.Contains(v.Kinds, v.Kind) {
		v.Kind = ""
	}
	reading := pasted.Read(v.Text, parts.Kind(v.Kind))
	v.Kind, v.Rest = string(reading.Kind), reading.Rest
	part := parts.New(reading.Kind)
	for i := range reading.Facts {
		f := &reading.Facts[i]
		if f.At == "/name" {
			v.Name = f.Shown()
			continue
		}
		row := pastedFact{
			ID:     "fact-" + strings.ReplaceAll(f.At[1:], "/", "-"),
			At:     f.At,
			Called: calledIn(part, f.At),
			Value:  f.Shown(),
			Words:  f.Words,
			Sure:   f.Sure,
		}
		if spec, known := rig.SpecAt(part, f.At); known {
			row.Value = strings.TrimSpace(spec.Words.Spoken(row.Value) + " " + spec.Unit)
		}
		v.Facts = append(v.Facts, row)
	}
}

// isPartFile reports what is written as a file, and not as a page.
func isPartFile(text string) bool { return strings.HasPrefix(strings.TrimSpace(text), "{") }

// readFile shows a part in a file of its own, fact by fact; all of it is taken.
func (v *pasteView) readFile() {
	file, err := parts.ReadFile([]byte(v.Text))
	if err != nil {
		v.Refused = plainly(err.Error())
		return
	}
	part, err := parts.Decode(file.Kind, file.Part)
	if err != nil {
		v.Refused = plainly(err.Error())
		return
	}
	v.File, v.Kind, v.Name, v.Rest = true, string(file.Kind), parts.Name(part), file.Notes
	rig.Walk(part, func(n rig.Node) {
		if n.List || !n.Known() || n.Spec.Name == "name" {
			return
		}
		source, _ := n.Origin()
		v.Facts = append(
			v.Facts,
			pastedFact{
				ID:     "fact-" + strings.ReplaceAll(n.Path()[1:], "/", "-"),
				At:     n.Path(),
				Called: calledIn(part, n.Path()),
				Value:  n.Shown(),
				Words:  rig.Spoken(source),
				Sure:   true,
			},
		)
	})
}

// calledIn is what a person calls a fact of a part, with the number of the entry it stands in.
func calledIn(part any, at string) string {
	tokens := strings.Split(at[1:], "/")
	name := rig.Called(part, at)
	if len(tokens) < 2 {
		return name
	}
	of := rig.Called(part, at[:strings.LastIndex(at, "/")])
	if i, err := strconv.Atoi(tokens[len(tokens)-2]); err == nil {
		of += " " + strconv.Itoa(i+1) // from one, where the file counts from nothing
	}
	return of + ": " + name
}

// pastedPart is the part that a person made of a text by ticking facts.
func pastedPart(c fiber.Ctx) (parts.Kind, []byte, error) {
	if text := c.FormValue("pasted"); isPartFile(text) {
		file, err := parts.ReadFile([]byte(text))
		if err != nil {
			return "", nil, err
		}
		return file.Kind, file.Part, nil
	}
	reading := pasted.Read(c.FormValue("pasted"), parts.Kind(c.FormValue("kind")))
	ticked := map[string]bool{}
	for _, at := range c.RequestCtx().PostArgs().PeekMulti("fact") {
		ticked[string(at)] = true
	}
	part, err := reading.Part(strings.TrimSpace(c.FormValue("name")), func(at string) bool { return ticked[at] })
	if err != nil {
		return reading.Kind, nil, err
	}
	doc, err := rig.Encode(part)
	return reading.Kind, doc, err
}
