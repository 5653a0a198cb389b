package web

import (
	"fmt"
	"html/template"
	"regexp"
	"strings"

	"github.com/go-json-experiment/json"

	"kolvan/core/finding"
	"kolvan/core/rig"
	"kolvan/web/draw"
	"kolvan/web/sheet"
)

// functions are what the templates can call.
var functions = template.FuncMap{
	"vals":      vals,
	"valsOf":    valsOf,
	"px":        func(v float64) draw.Px { return draw.Px(v) },
	"sources":   func(chosen string) template.HTML { return sourceOptions[rig.Source(chosen)] },
	"patchVals": patchVals,
	"valuesOf":  valuesOf,
	"glue":      glue,
	"table":     sheet.TableOf,
	"dict":      dict,
	"ink":       ink,
	"lower":     finding.Phrase,
	"keypad":    func() []string { return strings.Split("7 8 9 4 5 6 1 2 3 . 0", " ") },
	"begin":     finding.Begin,
	"add":       func(a, b int) int { return a + b },
	"times":     func(a, n int) float64 { return float64(a * n) },
}

// ink is the colour of a wire on paper.
func ink(class string) string {
	colours := map[string]string{
		"yellow": "#e2b714", "red": "#c22f24", "orange": "#e8872a", "black": "#191919", "green": "#2c8a45", "grey": "#9a9a9a",
		"purple": "#6d3c96", "blue": "#2b5aa8",
	}
	if colour, known := colours[class]; known {
		return colour
	}
	return "#ffffff"
}

var unitAfter = regexp.MustCompile(`(\d) (%|(?:W|V|A|Hz|mm|in|s|GB/s|GiB)\b)`)

// glue keeps the figures of a text and their units on one line, below zero with a minus sign.
func glue(text string) string {
	return belowZero.ReplaceAllString(unitAfter.ReplaceAllString(text, "$1\u00a0$2"), "$1\u2212$2")
}

// belowZero is a figure below zero, which print writes with a minus sign and not a hyphen.
var belowZero = regexp.MustCompile(`(^|[\s(])-(\d)`)

// sourceOptions are the options of a fact's source, by the one chosen: written
// out once, since a form has many. They hold words of the format only.
var sourceOptions = func() map[rig.Source]template.HTML {
	all := map[rig.Source]template.HTML{}
	words := rig.Source("").Words().All()
	for _, chosen := range append(words, "") {
		options := `<option value="">no source</option>`
		for _, word := range words {
			selected := ""
			if word == chosen {
				selected = " selected"
			}
			options += "<option" + selected + ">" + word + "</option>"
		}
		all[rig.Source(chosen)] = template.HTML(options)
	}
	return all
}()

// dict makes a map of names and values, for templates that take several.
func dict(pairs ...any) (map[string]any, error) {
	if len(pairs)%2 != 0 {
		return nil, fmt.Errorf("dict: %d words, wanted pairs", len(pairs))
	}
	m := make(map[string]any, len(pairs)/2)
	for i := 0; i < len(pairs); i += 2 {
		name, ok := pairs[i].(string)
		if !ok {
			return nil, fmt.Errorf("dict: %v is no name", pairs[i])
		}
		m[name] = pairs[i+1]
	}
	return m, nil
}

// vals makes the JSON of an hx-vals attribute.
func vals(pairs ...any) (string, error) {
	m, err := dict(pairs...)
	if err != nil {
		return "", err
	}
	data, err := json.Marshal(m, json.Deterministic(true))
	return string(data), err
}

// patchVals are the values a button sends to make a change that clears a finding.
func patchVals(change finding.Change) (string, error) {
	return vals("patch", string(change.Patch), "says", change.Change)
}

// valuesOf are the values of an edit to be sent again.
func valuesOf(values map[string]string) (string, error) {
	data, err := json.Marshal(values, json.Deterministic(true))
	return string(data), err
}

// valsOf are values that htmx sends along, made elsewhere.
func valsOf(values map[string]any) (string, error) {
	text, err := json.Marshal(values, json.Deterministic(true))
	return string(text), err
}
